package cli

import (
	"bytes"
	"encoding/json"
	"errors"
	"strings"
	"testing"
)

func TestVisible(t *testing.T) {
	for in, want := range map[string]string{
		"plain":                          "plain",
		"Süd – Ufer ✓":                   "Süd – Ufer ✓",
		"a\x1b[31mred\x1b[0m":            `a\x1b[31mred\x1b[0m`,
		"line\nnext\ttab\r":              `line\nnext\ttab\r`,
		"\x07\x00\x7f":                   `\x07\x00\x7f`,
		"c1 \u009b31m":                   `c1 \u009b31m`,
		"\u202egnp.exe":                  `\u202egnp.exe`,
		"\u2066\u2069\u200e\u200f":       `\u2066\u2069\u200e\u200f`,
		"zero\u200bwidth\ufeff":          `zero\u200bwidth\ufeff`,
		"sep\u2028\u2029\u2063":          `sep\u2028\u2029\u2063`,
		"tag\U000e0041":                  `tag\U000e0041`,
		"half \xff\xfe":                  `half \xff\xfe`,
		"Persian \u0645\u200c\u06cc 👩‍💻": "Persian \u0645\u200c\u06cc 👩‍💻",
	} {
		if got := visible(in, false); got != want {
			t.Errorf("%q is shown as %q, want %q", in, got, want)
		}
	}
	if got := visible("a\n\tb\x1b", true); got != "a\n\tb\\x1b" {
		t.Errorf("of several lines: %q", got)
	}
}

func TestOnlyOurColoursReachTheTerminal(t *testing.T) {
	var out, errs bytes.Buffer
	a := &app{out: &out, err: &errs}
	tm := newTerm(&out, "always")
	a.print("%s %s\n", tm.bold("a\x1b]0;title\x07b"), "c\x1b[2Jd")
	a.print("%s", tm.table(nil, [][]string{{tm.dim("x\ny"), "\x1b[8mz"}}))
	a.say("%v %d\n", errors.New("broken\x1b[1m"), 7)
	text := out.String() + errs.String()
	for _, bad := range []string{"\x1b]", "\x07", "\x1b[2J", "\x1b[8m", "broken\x1b", colourMark} {
		if strings.Contains(text, bad) {
			t.Errorf("%q went through: %q", bad, text)
		}
	}
	if !strings.Contains(text, "\x1b[1m") || !strings.Contains(text, `x\ny`) || !strings.Contains(text, `c\x1b[2Jd`) ||
		!strings.Contains(text, "7\n") {
		t.Errorf("%q", text)
	}
	if strings.Count(out.String(), "\n") != 2 {
		t.Errorf("a name made lines of its own: %q", out.String())
	}
}

func TestJSONKeepsWhatItHides(t *testing.T) {
	var out bytes.Buffer
	a := &app{out: &out}
	in := "a\u202e\u009b\U000e0041\x1b\u200b ü"
	if err := a.printJSON(map[string]string{"name": in}); err != nil {
		t.Fatal(err)
	}
	var back map[string]string
	if err := json.Unmarshal(out.Bytes(), &back); err != nil || back["name"] != in {
		t.Errorf("%v %q", err, back["name"])
	}
	if got := out.String(); strings.ContainsAny(got, "\u202e\u009b\u200b\x1b\U000e0041") || !strings.Contains(got, "ü") {
		t.Errorf("%q", got)
	}
}
