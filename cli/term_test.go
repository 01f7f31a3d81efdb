package cli

import (
	"bytes"
	"errors"
	"strings"
	"testing"

	"archetyp/core/ask"
	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/hint"
	"archetyp/core/markup"
	"archetyp/workspace"
)

func TestTable(t *testing.T) {
	plain := newTerm(&bytes.Buffer{}, "never")
	got := plain.table([]string{"name", "n"}, [][]string{{"a", "1"}, {"longer", "100", "x"}, {"ü", ""}}, 1)
	want := "name      n\na         1\nlonger  100  x\nü\n"
	if string(got) != want {
		t.Errorf("%q\nwant %q", got, want)
	}
	if plain.table(nil, nil) != "" {
		t.Error("an empty table prints something")
	}
	plain.columns = 24
	if got := string(plain.table(nil, [][]string{{"a", strings.Repeat("x", 50)}})); len([]rune(got)) > 25 ||
		!strings.Contains(got, "…") {
		t.Errorf("%q is wider than the terminal", got)
	}
}

func TestColoursAlign(t *testing.T) {
	colour := newTerm(&bytes.Buffer{}, "always")
	got := string(colour.table(nil, [][]string{{colour.bold("a"), "1"}, {"bb", "2"}}))
	if !strings.Contains(got, "\x1b[") || !strings.HasSuffix(strings.Split(got, "\n")[1], "bb  2") {
		t.Errorf("%q", got)
	}
	if colour.swatch(color.Black) == "" || newTerm(&bytes.Buffer{}, "never").swatch(color.Black) != "" {
		t.Error("swatches only where there is colour")
	}
	if colour.swatchOf("linear-gradient(red, blue)") != "" || colour.swatchOf("#fff") == "" {
		t.Error("a swatch for what is a colour, and only for that")
	}
}

func TestNoColourIsRespected(t *testing.T) {
	t.Setenv("NO_COLOR", "1")
	if newTerm(&bytes.Buffer{}, "auto").colour {
		t.Error("NO_COLOR is set")
	}
}

func TestErrorsArePrintedWithHints(t *testing.T) {
	var out bytes.Buffer
	a := &app{err: &out, color: "never"}
	a.printError(errors.Join(&workspace.FileError{File: "a.svg", Position: markup.Position{Line: 2, Column: 3},
		Msg: "broken", Hint: "Mend it."}, hint.New("odd", "Do this.")))
	if want := "error a.svg:2:3: broken\n      Mend it.\nerror odd\n      Do this.\n"; out.String() != want {
		t.Errorf("%q\nwant %q", out.String(), want)
	}
}

func TestWords(t *testing.T) {
	for n, want := range map[int]string{0: "0 keys", 1: "1 key", 2: "2 keys"} {
		if got := plural(n, "key", "keys"); got != want {
			t.Errorf("%s, want %s", got, want)
		}
	}
	for n, want := range map[int]string{12: "12 bytes", 999: "999 bytes", 1000: "1.0 kB", 54321: "54.3 kB"} {
		if got := size(n); got != want {
			t.Errorf("%s, want %s", got, want)
		}
	}
	if got := quoteShort("one\ntwo three four", 9); got != "“one two…”" {
		t.Error(got)
	}
	if num(1.005) != "1" && num(1.005) != "1.01" || num(2.50) != "2.5" {
		t.Error(num(1.005), num(2.5))
	}
}

func TestSelectorErrorsPoint(t *testing.T) {
	_, _, err := ask.Elements(&design.Document{}, "rect >")
	err = selectorError(err)
	var he *hint.Error
	if !errors.As(err, &he) || !strings.HasPrefix(he.Msg, "selector:1:7: ") || !strings.HasSuffix(he.Hint,
		"rect >\n            ^") {
		t.Errorf("%v %q", err, he)
	}
}

func TestRunStatuses(t *testing.T) {
	for args, want := range map[string]int{"--help": 0, "--version": 0, "nonsense": 2, "outline": 2, "outline a b": 2,
		"--color pink status": 2} {
		var out, errw bytes.Buffer
		if got := Run(strings.Fields(args), strings.NewReader(""), &out, &errw); got != want {
			t.Errorf("%s: status %d, want %d\n%s", args, got, want, errw.String())
		}
	}
}
