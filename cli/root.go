// Package cli is the command line: flags in, text or JSON out. It computes nothing itself.
package cli

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"strings"
	"time"

	"archetyp/core/guard"
	"archetyp/core/hint"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

// Exit statuses.
const (
	exitOK      = 0
	exitFound   = 1 // a check found something
	exitUsage   = 2 // wrong usage, configuration or input
	exitMissing = 3 // git or a browser is missing
)

// Version of the program.
const Version = "0.1.0"

// app is what every command shares.
type app struct {
	ctx      context.Context // ends with the command
	numbered bool            // changes are numbered, as the frames of a picture are
	in       io.Reader
	out      io.Writer
	err      io.Writer
	dir      string
	json     bool
	quiet    bool
	verbose  bool
	color    string
	wait     time.Duration // for other processes
	term     *term
	view     viewFlags // how pages are looked at

	later   []remarks                       // warnings and notes for the end
	how     workspace.How                   // how the workspace is opened
	command string                          // as it was called, without its arguments
	opened  map[string]*workspace.Workspace // by folder from which they were found; nil where there is none
}

// writes reports whether the command is going to change the workspace, before it is opened.
func (a *app) writes(really bool) {
	if really {
		a.how = workspace.Writing
	}
}

// foundError ends a command with status 1: nothing went wrong, a check found something, and said so already.
type foundError struct{}

func (foundError) Error() string { return "a check found something" }

// Run runs the program and returns its exit status.
func Run(args []string, in io.Reader, out, errw io.Writer) int {
	a := &app{ctx: context.Background(), in: in, out: out, err: errw}
	root := a.root()
	defer a.close()
	root.SetArgs(args)
	root.SetIn(in)
	root.SetOut(out)
	root.SetErr(errw)
	err := a.execute(root)
	a.printRemarks()
	if err == nil {
		return exitOK
	}
	if errors.As(err, new(foundError)) {
		return exitFound
	}
	a.setTerm()
	a.printError(err)
	if errors.As(err, new(*hint.MissingError)) {
		return exitMissing
	}
	return exitUsage
}

// execute runs the command; a panic in it becomes an error.
func (a *app) execute(root *cobra.Command) (err error) {
	defer guard.Catch(&err, "")
	return root.ExecuteContext(a.ctx)
}

func (a *app) printError(err error) {
	t := newTerm(a.err, a.color)
	for _, e := range flatten(err) {
		fmt.Fprintln(a.err, visible(t.bad("error")+" "+e.Error(), true))
		var fe *workspace.FileError
		if errors.As(e, &fe) && fe.Hint != "" {
			fmt.Fprintln(a.err, "      "+visible(fe.Hint, true))
		}
		var fault *guard.Error
		if errors.As(e, &fault) {
			fmt.Fprintln(a.err, "      Nothing was written. Please report it, with the file if you may and what --verbose shows.")
			if a.verbose {
				fmt.Fprintf(a.err, "%s\n", fault.Stack)
			}
		}
		var me *hint.MissingError
		if errors.As(e, &me) {
			fmt.Fprintln(a.err, "      "+visible(me.Hint, true))
		}
		var busy *workspace.BusyError
		if errors.As(e, &busy) {
			fmt.Fprintln(a.err, "      "+busy.Hint())
		}
		var he *hint.Error
		if errors.As(e, &he) {
			fmt.Fprintln(a.err, "      "+visible(he.Hint, true))
		}
	}
}

// flatten takes joined errors apart, so that each gets a line.
func flatten(err error) []error {
	if j, ok := err.(interface{ Unwrap() []error }); ok {
		return j.Unwrap()
	}
	return []error{err}
}

func (a *app) setTerm() {
	if a.term == nil {
		a.term = newTerm(a.out, a.color)
	}
}

const exits = `
Exit status: 0 fine; 1 a check found something; 2 wrong usage, configuration or input; 3 git or a browser is missing.`

func (a *app) root() *cobra.Command {
	root := &cobra.Command{
		Use:   "archetyp",
		Short: "Extract specifications, design tokens, texts and assets from design files, and keep them in step",
		Long: `Archetyp reads design files, answers what is in them, and keeps tokens, texts, assets, CSS and a style guide in step.

Begin with "archetyp demo", or with "archetyp init --harvest" and "archetyp sync" beside drawings of your own.
` + exits,
		Version:       Version,
		SilenceErrors: true,
		SilenceUsage:  true,
		Args:          cobra.NoArgs,
		RunE:          func(c *cobra.Command, _ []string) error { return c.Help() },
		PersistentPreRunE: func(c *cobra.Command, _ []string) error {
			a.command = c.CommandPath()
			if a.wait < 0 || a.wait > mostWait {
				return hint.New(fmt.Sprintf("--wait %s is no time to wait", a.wait), "Such as 5s or 2m; 0 for not at all.")
			}
			switch a.color {
			case "auto", "always", "never":
			default:
				return hint.New(fmt.Sprintf("--color %q is not known", a.color), "Choose auto, always or never.")
			}
			if a.dir != "" {
				info, err := os.Stat(a.dir)
				if err != nil || !info.IsDir() {
					return fmt.Errorf("-C %s: there is no such folder", a.dir)
				}
			} else {
				a.dir = "."
			}
			a.setTerm()
			return nil
		},
	}
	f := root.PersistentFlags()
	f.StringVarP(&a.dir, "directory", "C", "", "work as if started in this `DIR`")
	f.BoolVar(&a.json, "json", false, "print the result as JSON")
	f.BoolVar(&a.quiet, "quiet", false, "print no progress and no warnings")
	f.DurationVar(&a.wait, "wait", workspace.DefaultWait,
		"how long to wait while another command writes; 0 for not at all")
	f.BoolVar(&a.verbose, "verbose", false, "print more of what happens")
	f.StringVar(&a.color, "color", "auto", "`WHEN` to use colour: auto, always, never")
	root.SetFlagErrorFunc(func(c *cobra.Command, err error) error {
		what := fmt.Sprintf("%q lists the flags.", c.CommandPath()+" --help")
		if near := nearestFlag(c, err); near != "" {
			what = fmt.Sprintf("Did you mean --%s? ", near) + what
		}
		return hint.New(err.Error(), what)
	})
	root.AddCommand(a.initCmd(), a.demoCmd(), a.captureCmd(), a.syncCmd(), a.watchCmd(), a.statusCmd(), a.outlineCmd(), a.specCmd(), a.measureCmd(),
		a.sampleCmd(), a.codeCmd(), a.renderCmd(),
		a.tokensCmd(), a.textCmd(), a.assetsCmd(), a.markCmd(), a.applyCmd(), a.auditCmd(), a.guideCmd(), a.editionCmd(), a.phaseCmd(), a.remarkCmd(), a.inboxCmd(), a.driftCmd(), a.overlayCmd(), a.liveCmd(), a.editorCmd(), a.focusCmd())
	root.SetHelpCommand(&cobra.Command{Hidden: true, Use: "no-help"})
	nameCommands(root)
	return root
}

// long builds a command's help: one sentence, an example on the demo, the exit statuses.
func long(sentence string) string { return sentence + "\n" + exits }

func example(lines ...string) string { return "  " + strings.Join(lines, "\n  ") }

// exactly wants a number of arguments, and says which.
func exactly(names ...string) cobra.PositionalArgs {
	return func(c *cobra.Command, args []string) error {
		if len(args) == len(names) {
			return nil
		}
		msg := fmt.Sprintf("%s needs %s", c.CommandPath(), strings.Join(names, " and "))
		if len(args) > len(names) {
			msg += fmt.Sprintf("; %q is one argument too many", args[len(names)])
		}
		return hint.New(msg, "For example: "+strings.TrimSpace(strings.SplitN(c.Example, "\n", 2)[0]))
	}
}

// between wants from min to max arguments.
func between(min, max int, what string) cobra.PositionalArgs {
	return func(c *cobra.Command, args []string) error {
		if len(args) >= min && len(args) <= max {
			return nil
		}
		return hint.New(fmt.Sprintf("%s needs %s", c.CommandPath(), what),
			"For example: "+strings.TrimSpace(strings.SplitN(c.Example, "\n", 2)[0]))
	}
}
