package token

import (
	"fmt"
	"math"
	"regexp"
	"sort"
	"strings"

	"archetyp/core/color"
)

// Finding is what a check of the tokens has found.
type Finding struct {
	Rule    string // valid, conflict, naming, contrast, scale, duplicate, unused, older-form
	Grave   bool   // else it is only worth knowing
	Path    string
	Context string // "scheme.dark"; "" where nothing is chosen
	Msg     string
	Error   // the place
}

// Rules are what is checked, with what each wants.
var Rules = [][2]string{
	{"valid", "the files follow the modules of the format"},
	{"conflict", "no merge has left two values to choose from"},
	{"naming", "names of tokens and groups follow the pattern of the configuration"},
	{"contrast", "text is readable on its surfaces: 4.5 to 1 in every scheme (WCAG 2, level AA)"},
	{"scale", "spaces and sizes of type stand on their scales"},
	{"duplicate", "no two tokens of a group hold the same value"},
	{"unused", "every token is used by another, by a drawing, or by code"},
	{"older-form", "values are written as the format has them now"},
}

// CheckOptions say what is wanted.
type CheckOptions struct {
	Scales Scales
	Names  string          // a pattern for each name of a path; "" for any
	Used   map[string]bool // paths that drawings or code use; nil where nobody knows
	Root   float64         // px of 1rem
}

// Check looks all tokens over.
func Check(lib *Library, o CheckOptions) ([]Finding, error) {
	var names *regexp.Regexp
	if o.Names != "" {
		var err error
		if names, err = regexp.Compile("^(?:" + o.Names + ")$"); err != nil {
			return nil, fmt.Errorf("the pattern of names %q: %w", o.Names, err)
		}
	}
	c := &checker{lib: lib, o: o}
	for _, e := range lib.Faults() {
		c.out = append(c.out, Finding{Rule: "valid", Grave: true, Path: e.Path, Msg: e.Msg, Error: e})
	}
	for _, e := range lib.Warnings() {
		c.out = append(c.out, Finding{Rule: "older-form", Path: e.Path, Msg: e.Msg, Error: e})
	}
	c.sets(func(s *Set, context string) {
		own := s.Tokens
		if s.base != nil {
			own = s.fresh
		}
		if context == "" {
			for _, x := range s.Conflicts() {
				t := s.Get(x.Path)
				c.add(t, Finding{Rule: "conflict", Grave: true, Context: context}, "a merge left this to settle: %s. Set the value",
					x)
			}
			c.duplicates(s)
		}
		fits := map[string]bool{} // names that were seen already
		for _, t := range own {
			if names != nil {
				c.naming(t, context, names, fits)
			}
			c.scale(s, t, context)
		}
		c.contrast(s, context)
	})
	c.unused()
	sort.SliceStable(c.out, func(i, j int) bool {
		if a, b := ruleOrder(c.out[i].Rule), ruleOrder(c.out[j].Rule); a != b {
			return a < b
		}
		return false
	})
	return c.out, nil
}

func ruleOrder(rule string) int {
	for i, r := range Rules {
		if r[0] == rule {
			return i
		}
	}
	return len(Rules)
}

type checker struct {
	lib    *Library
	o      CheckOptions
	out    []Finding
	colors []*Token // of the default contexts that may be texts and surfaces
}

// sets calls f for the default contexts, and for every other.
func (c *checker) sets(f func(s *Set, context string)) {
	f(c.lib.Base, "")
	for _, x := range c.lib.Contexts {
		if !x.Default {
			f(x.Set, x.Key())
		}
	}
}

func (c *checker) add(t *Token, f Finding, format string, args ...any) {
	f.Path, f.Msg = t.Path, fmt.Sprintf(format, args...)
	f.Error = Error{t.File, t.Position(), t.Path, f.Msg}
	c.out = append(c.out, f)
}

func (c *checker) naming(t *Token, context string, pattern *regexp.Regexp, fits map[string]bool) {
	for _, name := range strings.Split(t.Path, ".") {
		fit, seen := fits[name]
		if !seen {
			fit = name == "$root" || pattern.MatchString(name)
			fits[name] = fit
		}
		if !fit {
			c.add(t, Finding{Rule: "naming", Grave: true, Context: context}, "the name %q does not follow the pattern %s", name,
				c.o.Names)
			return
		}
	}
}

// scale holds spaces and sizes of type against their scales.
func (c *checker) scale(s *Set, t *Token, context string) {
	size := Value{}
	switch group, _, _ := strings.Cut(t.Path, "."); {
	case t.Type == Typography:
		size = s.ResolvePart(t.Value.Parts["fontSize"])
	case t.Type == Dimension && group == "space" && c.o.Scales.Space > 0 && t.Value.Length != nil:
		px := t.Value.Length.Px(c.o.Root)
		if step := math.Round(px/c.o.Scales.Space) * c.o.Scales.Space; math.Abs(step-px) > 1e-6 {
			c.add(t, Finding{Rule: "scale", Context: context}, "%spx is off the scale; the nearest step is %spx", num(px),
				num(step))
		}
	}
	if size.Length != nil && len(c.o.Scales.Type) > 0 {
		px := size.Length.Px(c.o.Root)
		if step := c.o.Scales.NearestType(px); math.Abs(step-px) > 1e-6 {
			c.add(t, Finding{Rule: "scale", Context: context}, "%spx is off the scale of type; the nearest step is %spx",
				num(px), num(step))
		}
	}
}

// duplicates are tokens of one group with a value of their own that another has, too.
func (c *checker) duplicates(s *Set) {
	first := map[string]*Token{}
	for _, t := range s.Tokens {
		if t.Value.Alias != "" {
			continue
		}
		group := t.Path[:max(0, strings.LastIndexByte(t.Path, '.'))]
		key := group + "\x00" + string(t.Type) + "\x00" + s.flatWhole(t.Value) + t.Own.json()
		if o := first[key]; o != nil {
			c.add(t, Finding{Rule: "duplicate"}, "holds the same value as %s; let one point to the other: {%s}", o.Path, o.Path)
			continue
		}
		first[key] = t
	}
}

// flatWhole is a value's JSON with all aliases followed.
func (s *Set) flatWhole(v Value) string {
	v = s.ResolvePart(v)
	if v.Parts == nil && v.List == nil {
		return v.JSON()
	}
	var b strings.Builder
	for _, k := range partOrder {
		if p, ok := v.Parts[k]; ok {
			b.WriteString(k + ":" + s.flatWhole(p) + ";")
		}
	}
	for _, e := range v.List {
		b.WriteString(s.flatWhole(e) + "|")
	}
	return b.String()
}

// minContrast is what WCAG 2 asks of text at level AA.
const minContrast = 4.5

// contrast holds texts against the surfaces they may stand on. Names say which: color.text.… on color.surface.…,
// inverse text on actions and inverse surfaces, on-x on x. Disabled things are exempt.
func (c *checker) contrast(s *Set, context string) {
	var texts, surfaces []*Token
	colors := map[*Token]color.Color{}
	for _, t := range c.readable(s) {
		names := strings.Split(t.Path, ".")
		if exempt(names) {
			continue
		}
		end := s.Resolve(t)
		if end.Value.Color == nil || end.Value.Color.Alpha < 1 && has(names, "surface") {
			continue
		}
		switch {
		case has(names, "text"):
			texts = append(texts, t)
		case has(names, "surface") || has(names, "action"):
			surfaces = append(surfaces, t)
		default:
			continue
		}
		colors[t] = *end.Value.Color
	}
	for _, text := range texts {
		for _, on := range surfaces {
			if !together(strings.Split(text.Path, "."), strings.Split(on.Path, ".")) {
				continue
			}
			if ratio := color.Contrast(colors[text], colors[on]); ratio < minContrast-0.005 {
				if context != "" && c.said(s, text, on) {
					continue
				}
				c.add(text, Finding{Rule: "contrast", Grave: true, Context: context}, "%.2f to 1 on %s; text needs %.1f to 1",
					ratio, on.Path, minContrast)
			}
		}
	}
}

// readable are the colours of a set that may be texts and surfaces, by their names. A context has those of its base.
func (c *checker) readable(s *Set) []*Token {
	pick := func(list []*Token) (out []*Token) {
		for _, t := range list {
			if t.Type == Color && (strings.Contains(t.Path, "text") || strings.Contains(t.Path, "surface") ||
				strings.Contains(t.Path, "action")) {
				out = append(out, t)
			}
		}
		return out
	}
	if s.base == nil || s.base != c.lib.Base {
		list := pick(s.Tokens)
		if s == c.lib.Base {
			c.colors = list
		}
		return list
	}
	var out []*Token
	for _, t := range c.colors {
		out = append(out, s.Get(t.Path))
	}
	for _, t := range pick(s.fresh) {
		if s.base.Get(t.Path) == nil {
			out = append(out, t)
		}
	}
	return out
}

// said reports whether two colours are what they are where nothing is chosen, so that it was said there.
func (c *checker) said(s *Set, a, b *Token) bool {
	for _, t := range []*Token{a, b} {
		o := c.lib.Base.Get(t.Path)
		if o == nil || s.Resolve(t).Value.JSON() != c.lib.Base.Resolve(o).Value.JSON() {
			return false
		}
	}
	return true
}

func has(names []string, word string) bool {
	for _, n := range names {
		if n == word {
			return true
		}
	}
	return false
}

func exempt(names []string) bool {
	for _, n := range names {
		if strings.Contains(n, "disabled") {
			return true
		}
	}
	return false
}

// together reports whether a text may stand on a surface, by their names.
func together(text, on []string) bool {
	last, onLast := text[len(text)-1], on[len(on)-1]
	if rest, ok := strings.CutPrefix(last, "on-"); ok {
		return has(on, rest) || onLast == rest
	}
	inverse := strings.Contains(last, "inverse")
	if has(on, "action") {
		return inverse
	}
	return inverse == strings.Contains(onLast, "inverse")
}

// unused are tokens that nothing points to and nobody uses, where that is known.
func (c *checker) unused() {
	if c.o.Used == nil {
		return
	}
	used := map[string]bool{}
	c.sets(func(s *Set, _ string) {
		var reach func(path string)
		reach = func(path string) {
			if used[path] {
				return
			}
			used[path] = true
			if t := s.Get(path); t != nil {
				t.Value.Aliases(reach)
			}
		}
		for p := range c.o.Used {
			reach(p)
		}
		list := s.Tokens
		if s.base != nil {
			list = s.fresh
		}
		for _, t := range list {
			if used[t.Path] { // what it points to in this context
				t.Value.Aliases(reach)
			} else if t.Value.Alias != "" && c.o.Used[s.Resolve(t).Path] { // a name for a value that is used counts with it
				reach(t.Path)
			}
		}
	})
	for _, t := range c.lib.Base.Tokens {
		if !used[t.Path] {
			c.add(t, Finding{Rule: "unused"}, "no drawing, no code and no other token in use refers to it")
		}
	}
}
