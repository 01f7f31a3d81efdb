package token

import (
	"errors"
	"flag"
	"fmt"
	"os"
	"strings"
	"testing"
)

var update = flag.Bool("update", false, "write docs/conformance.md anew")

// rule is one rule of a module, with its cases.
type rule struct {
	section, words string
	cases          []conformanceCase
}

type conformanceCase struct {
	line  int
	valid bool
	json  string
	files map[string]string // beside it
	asks  []ask
}

// ask is what is expected for one input.
type ask struct {
	input    Input
	chosen   bool // an input is given at all
	want     []string
	faults   []string
	warnings []string
}

// readRules reads a file of cases: "#" a section, "##" a rule, "+" valid and "-" invalid JSON, "@" a file beside it,
// "?" an input, "=" a token expected, "!" a fault, "~" a warning.
func readRules(t testing.TB, name string) []rule {
	t.Helper()
	data, err := os.ReadFile(name)
	if err != nil {
		t.Fatal(err)
	}
	var rules []rule
	section := ""
	var files map[string]string
	for i, line := range strings.Split(string(data), "\n") {
		mark, rest, _ := strings.Cut(line, " ")
		if mark == "" {
			continue
		}
		if mark == "#" {
			section = rest
			continue
		}
		if mark == "##" {
			rules = append(rules, rule{section: section, words: rest})
			files = nil
			continue
		}
		r := &rules[len(rules)-1]
		if mark == "@" {
			if files == nil {
				files = map[string]string{}
			}
			file, json, _ := strings.Cut(rest, " ")
			files[file] = json
			continue
		}
		if mark == "+" || mark == "-" {
			r.cases = append(r.cases, conformanceCase{line: i + 1, valid: mark == "+", json: rest, files: files,
				asks: []ask{{}}})
			continue
		}
		c := &r.cases[len(r.cases)-1]
		a := &c.asks[len(c.asks)-1]
		switch mark {
		case "?":
			in := Input{}
			for _, pair := range strings.Fields(rest) {
				k, v, _ := strings.Cut(pair, "=")
				in[k] = v
			}
			if len(a.want)+len(a.faults)+len(a.warnings) == 0 {
				c.asks = c.asks[:len(c.asks)-1]
			}
			c.asks = append(c.asks, ask{input: in, chosen: true})
		case "=":
			a.want = append(a.want, rest)
		case "!":
			a.faults = append(a.faults, rest)
		case "~":
			a.warnings = append(a.warnings, rest)
		default:
			t.Fatalf("%s:%d: %q is no mark", name, i+1, mark)
		}
	}
	return rules
}

func describe(t *Token) string {
	s := fmt.Sprintf("%s %s %s", t.Path, t.Type, t.Value.JSON())
	if t.Deprecated != "" {
		s += " " + t.Deprecated
	}
	return s
}

// holds checks one case.
func holds(t *testing.T, where string, c conformanceCase, a ask, s *Set) {
	t.Helper()
	var all []string
	for _, f := range s.Faults {
		if f.Line < 1 || f.Column < 1 || f.File == "" {
			t.Errorf("%s: the fault %q has no place", where, f.Error())
		}
		all = append(all, f.Error())
	}
	if c.valid == (len(all) > 0) {
		t.Errorf("%s: faults %q, valid is %t\n%s", where, all, c.valid, c.json)
	}
	for _, want := range a.faults {
		if !strings.Contains(strings.Join(all, "\n"), want) {
			t.Errorf("%s: the faults are %q, want …%s…", where, all, want)
		}
	}
	for _, want := range a.want {
		path, _, _ := strings.Cut(want, " ")
		if c.valid && strings.Count(want, " ") > 0 && s.Get(path) == nil { // names may hold spaces, but not in these cases
			t.Errorf("%s: there is no %s", where, path)
		} else if tok := s.Get(path); tok != nil && describe(tok) != want {
			t.Errorf("%s: %s\nwant %s", where, describe(tok), want)
		}
	}
	warned := fmt.Sprint(s.Warnings)
	for _, want := range a.warnings {
		if !strings.Contains(warned, want) {
			t.Errorf("%s: the warnings are %s, want …%s…", where, warned, want)
		}
	}
	if c.valid && len(a.warnings) == 0 && len(s.Warnings) > 0 {
		t.Errorf("%s: warned of %s", where, warned)
	}
}

// TestFormatConformance holds every rule of the Format and Color modules.
func TestFormatConformance(t *testing.T) {
	for _, r := range readRules(t, "testdata/format.txt") {
		for _, c := range r.cases {
			where := fmt.Sprintf("format.txt:%d: %s", c.line, r.words)
			holds(t, where, c, c.asks[0], Resolve(Parse([]byte(c.json), "t.json")))
		}
	}
}

// TestResolverConformance holds every rule of the Resolver module.
func TestResolverConformance(t *testing.T) {
	for _, r := range readRules(t, "testdata/resolver.txt") {
		for _, c := range r.cases {
			where := fmt.Sprintf("resolver.txt:%d: %s", c.line, r.words)
			res := ParseResolver([]byte(c.json), "r.json", func(p string) ([]byte, error) {
				if s, ok := c.files[p]; ok {
					return []byte(s), nil
				}
				return nil, errors.New("no such file")
			})
			for _, a := range c.asks {
				s := res.Library().Base
				if a.chosen {
					var err error
					if s, err = res.Resolve(a.input); err != nil {
						s = &Set{Faults: []Error{{File: "r.json", Msg: err.Error()}}}
						s.Faults[0].Line, s.Faults[0].Column = 1, 1
					}
				}
				holds(t, where, c, a, s)
			}
		}
	}
}

// TestConformanceTable holds docs/conformance.md against the cases it is made from.
func TestConformanceTable(t *testing.T) {
	var b strings.Builder
	b.WriteString("# Conformance\n\nEvery rule of the Design Tokens Format, Color and Resolver modules 2025.10, with " +
		"the number of its cases in\n" +
		"`core/token/testdata/format.txt` and `resolver.txt`: what has to be read as stated there, and what has to be " +
		"refused with a\n" +
		"message that names its place. All pass: `go test -run Conformance ./core/token`.\n")
	valid, invalid, rules := 0, 0, 0
	section := ""
	for _, name := range []string{"testdata/format.txt", "testdata/resolver.txt"} {
		for _, r := range readRules(t, name) {
			if r.section != section {
				section = r.section
				fmt.Fprintf(&b, "\n## %s\n\n| rule | read | refused |\n|---|---:|---:|\n", section)
			}
			good := 0
			for _, c := range r.cases {
				if c.valid {
					good++
				}
			}
			if len(r.cases) == 0 {
				t.Errorf("the rule %q has no case", r.words)
			}
			rules, valid, invalid = rules+1, valid+good, invalid+len(r.cases)-good
			fmt.Fprintf(&b, "| %s | %d | %d |\n", strings.ReplaceAll(r.words, "|", "\\|"), good, len(r.cases)-good)
		}
	}
	fmt.Fprintf(&b, "\nTogether %d rules, %d cases read, %d refused.\n", rules, valid, invalid)
	const doc = "../../docs/conformance.md"
	if *update {
		if err := os.WriteFile(doc, []byte(b.String()), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	if have, _ := os.ReadFile(doc); string(have) != b.String() {
		t.Error("docs/conformance.md is not what the cases say; run go test ./core/token -update")
	}
}

func FuzzResolver(f *testing.F) {
	for _, r := range readRules(f, "testdata/resolver.txt") {
		for _, c := range r.cases {
			f.Add(c.json)
		}
	}
	f.Fuzz(func(t *testing.T, src string) {
		lib := ParseResolver([]byte(src), "r.json",
			func(string) ([]byte, error) { return []byte(`{"x": {"$type": "number", "$value": 1}}`), nil }).Library()
		for _, e := range lib.Faults() {
			if e.Line < 1 || e.Column < 1 {
				t.Fatalf("a fault without a place: %v", e)
			}
		}
	})
}
