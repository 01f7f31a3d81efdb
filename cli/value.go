package cli

import (
	"bytes"
	"encoding/base64"
	"fmt"
	"io"
	"os"
	"regexp"
	"strings"

	"archetyp/core/hint"

	"github.com/spf13/cobra"
	xterm "golang.org/x/term"
)

// valueFlags ask for a bare fact, for a script or the clipboard.
type valueFlags struct {
	name string
	copy bool
}

func (f *valueFlags) add(c *cobra.Command, names string) {
	c.Flags().StringVar(&f.name, "value", "",
		"print nothing but the value called `NAME`, one line for each element: "+names)
	c.Flags().BoolVar(&f.copy, "copy", false, "copy the answer to the clipboard, through the terminal")
}

// valueOf is a value and what it is called.
type valueOf struct{ name, value string }

// value finds a value by its name.
func (f *valueFlags) value(of string, list []valueOf) (string, error) {
	var names []string
	for _, n := range list {
		if n.name == f.name {
			return n.value, nil
		}
		names = append(names, n.name)
	}
	return "", hint.New(fmt.Sprintf("%s has no value called %q", of, f.name), "It has "+strings.Join(names, ", ")+".")
}

// answer runs what answers. With --copy what it prints goes to the clipboard, too.
func (a *app) answer(f *valueFlags, run func() error) error {
	if !f.copy {
		return run()
	}
	tty, err := a.terminal()
	if err != nil {
		return err
	}
	out := a.out
	var said bytes.Buffer
	a.out = io.MultiWriter(out, &said)
	err = run()
	a.out = out
	if err != nil {
		return err
	}
	return a.copyTo(tty, strings.TrimRight(colours.ReplaceAllString(said.String(), ""), "\n"))
}

var colours = regexp.MustCompile("\x1b\\[[0-9;]*m")

// terminal is where control sequences reach a terminal.
func (a *app) terminal() (io.Writer, error) {
	for _, w := range []io.Writer{a.err, a.out} {
		if f, ok := w.(*os.File); ok && xterm.IsTerminal(int(f.Fd())) {
			return w, nil
		}
	}
	return nil, hint.New("--copy: there is no terminal here whose clipboard could take it",
		"--value prints a bare value, which a program for the clipboard can read.")
}

// mostCopied is how many bytes terminals take at once.
const mostCopied = 74994

// copyTo asks a terminal to put text on the clipboard, as xterm's control sequence OSC 52 says.
func (a *app) copyTo(tty io.Writer, text string) error {
	if len(text) > mostCopied {
		return hint.New(fmt.Sprintf("--copy: %d bytes are more than terminals take (%d)", len(text), mostCopied),
			"--value copies one value.")
	}
	_, err := fmt.Fprintf(tty, "\x1b]52;c;%s\x07", base64.StdEncoding.EncodeToString([]byte(text)))
	if err == nil {
		a.say("copied\n")
	}
	return err
}
