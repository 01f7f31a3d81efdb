// Package audit checks whether a design is ready to be built: values that stand alone, parts that should be one, states
// nobody drew, names that say nothing, words that are missing. Documents and what is known of their tokens go in,
// findings come out. A rule is a file; rules.go lists them all.
package audit

import (
	"cmp"
	"fmt"
	"hash/fnv"
	"math"
	"slices"
	"strings"
	"sync"

	"archetyp/core/asset"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/infer/alike"
	"archetyp/core/infer/role"
	"archetyp/core/token/harvest"
)

// Level says how much a finding weighs.
type Level string

// The levels. A rule that is off is not run.
const (
	Error   Level = "error"   // it must be mended before anybody builds it
	Warning Level = "warning" // it is probably a mistake
	Note    Level = "note"    // somebody should have a look
	Off     Level = "off"
)

// Levels are the levels, the gravest first.
var Levels = []Level{Error, Warning, Note, Off}

// Weighs reports whether a level is as grave as another, or graver.
func (l Level) Weighs(as Level) bool { return slices.Index(Levels, l) <= slices.Index(Levels, as) }

// Rule is one thing that is looked for.
type Rule struct {
	Name  string
	Group string // names, values, components, screens, words, access, assets, layout
	Level Level  // where the configuration gives none
	What  string // what is found, for lists of the rules
	Why   string // why it matters, in half a sentence
	check func(*checker)
}

// Place is an element that a finding is about.
type Place struct {
	Source   string          `json:"source"`
	Screen   string          `json:"screen"`
	Element  string          `json:"element,omitempty"` // its name, else its words, else what it is
	Path     string          `json:"path,omitempty"`    // names from the screen down
	Selector string          `json:"selector,omitempty"`
	Line     int             `json:"line"`
	Column   int             `json:"column"`
	Box      geom.Rect       `json:"-"` // px of the screen
	HasBox   bool            `json:"-"`
	At       *design.Element `json:"-"`
}

// Finding is what a rule has found. One cause is one finding, however many elements it touches.
type Finding struct {
	Rule    string  `json:"rule"`
	Group   string  `json:"group"`
	Level   Level   `json:"level"`
	Message string  `json:"message"`
	Why     string  `json:"why"`
	Do      string  `json:"do"` // what to do
	Places  []Place `json:"places"`
	ID      string  `json:"id"` // the same as long as the cause is; a baseline names it

	about string // the property it is about, so that no second rule reports the same
}

// Setting is what a configuration says of a rule.
type Setting struct {
	Level  Level
	In     func(source string) bool // nil for all sources
	Except []Exception
}

// Exception is a set of elements that a rule leaves alone, and why.
type Exception struct {
	Select *css.Selector
	Reason string
}

// In is what is audited.
type In struct {
	Docs     []*design.Document
	Harvest  *harvest.Harvest
	Settings map[string]Setting // by rule
	Raw      []Raw              // what is known of style sheets of pages
	Sets     []asset.Set        // of assets
	Linked   []string           // components that the team has in code
	Together bool               // the documents are all there is, so that what none of them has is missing
	Smallest float64            // of text, px; 0 for 11
	Target   float64            // least side of what is touched, px; 0 for 24
}

// Report is the outcome of an audit.
type Report struct {
	Findings []Finding `json:"findings"` // by weight, rule and place
	Accepted int       `json:"accepted"` // left out by exceptions
	Screens  []Share   `json:"screens"`
}

// Share says how much of a screen is built from components, as shares 0–1 of its visible elements.
type Share struct {
	Source     string   `json:"source"`
	Screen     string   `json:"screen"`
	Elements   int      `json:"elements"`
	Components int      `json:"components"` // elements that are, or stand in, a component
	Others     []string `json:"others"`     // the largest parts that are in none
}

// Run audits.
func Run(in In) *Report {
	if in.Smallest == 0 {
		in.Smallest = 11
	}
	if in.Target == 0 {
		in.Target = 24
	}
	shared := newShared(&in)
	lists := make([]*checker, len(Rules))
	var wait sync.WaitGroup
	for i := range Rules {
		r := &Rules[i]
		level := r.Level
		if s, ok := in.Settings[r.Name]; ok && s.Level != "" {
			level = s.Level
		}
		if level == Off {
			continue
		}
		c := &checker{In: &in, shared: shared, rule: r, level: level}
		lists[i] = c
		wait.Go(func() { r.check(c) })
	}
	wait.Wait()
	out := &Report{Screens: shared.shares()}
	seen := map[string]bool{}
	for _, c := range lists {
		if c == nil {
			continue
		}
		for _, f := range c.out {
			if !once(seen, &f) {
				continue
			}
			if c.excepted(&f) {
				out.Accepted++
				continue
			}
			f.ID = identify(&f)
			out.Findings = append(out.Findings, f)
		}
	}
	order := map[string]int{}
	for i := range Rules {
		order[Rules[i].Name] = i
	}
	slices.SortStableFunc(out.Findings, func(a, b Finding) int {
		return cmp.Or(cmp.Compare(slices.Index(Levels, a.Level), slices.Index(Levels, b.Level)), cmp.Compare(order[a.Rule], order[b.Rule]))
	})
	return out
}

// once reports whether nothing that was reported before is about the same property of the same elements.
func once(seen map[string]bool, f *Finding) bool {
	if f.about == "" {
		return true
	}
	fresh := false
	for _, p := range f.Places {
		key := f.about + "\x00" + p.Source + "\x00" + p.Path
		fresh = fresh || !seen[key]
	}
	for _, p := range f.Places {
		seen[f.about+"\x00"+p.Source+"\x00"+p.Path] = true
	}
	return fresh
}

// identify names a finding by its rule, and where it is by names, not by lines: it stays while the file around changes.
func identify(f *Finding) string {
	h := fnv.New64a()
	fmt.Fprintf(h, "%s\x00%s", f.Rule, f.Message)
	for _, p := range f.Places[:min(len(f.Places), 1)] {
		fmt.Fprintf(h, "\x00%s\x00%s\x00%s", p.Source, p.Screen, p.Path)
	}
	return fmt.Sprintf("%016x", h.Sum64())
}

// checker is one rule at work.
type checker struct {
	*In
	*shared
	rule  *Rule
	level Level
	out   []Finding
}

// find reports something about elements; without any, nothing.
func (c *checker) find(places []*design.Element, do, format string, args ...any) *Finding {
	list := make([]Place, 0, len(places))
	for _, e := range places {
		list = append(list, placeOf(e))
	}
	return c.at(list, do, format, args...)
}

func (c *checker) at(places []Place, do, format string, args ...any) *Finding {
	if in := c.Settings[c.rule.Name].In; in != nil {
		places = slices.DeleteFunc(places, func(p Place) bool { return !in(p.Source) })
	}
	if len(places) == 0 {
		return &Finding{}
	}
	c.out = append(c.out, Finding{Rule: c.rule.Name, Group: c.rule.Group, Level: c.level, Why: c.rule.Why, Do: do,
		Message: fmt.Sprintf(format, args...), Places: places})
	return &c.out[len(c.out)-1]
}

// excepted takes the elements out that the configuration leaves alone, and reports whether none is left.
func (c *checker) excepted(f *Finding) bool {
	list := c.Settings[c.rule.Name].Except
	if len(list) == 0 {
		return false
	}
	match := css.NewMatcher(nil, nil)
	f.Places = slices.DeleteFunc(f.Places, func(p Place) bool {
		return p.At != nil && p.At.Node != nil && slices.ContainsFunc(list, func(x Exception) bool {
			return p.At.Ancestor(func(e *design.Element) bool { return match.Matches(x.Select, e.Node) }) != nil
		})
	})
	return len(f.Places) == 0
}

func placeOf(e *design.Element) Place {
	p := Place{Source: e.Screen.File(), Screen: e.Screen.Name, Element: e.Title(), Path: e.Path, Selector: e.Selector(),
		Line: e.Position.Line, Column: e.Position.Column, At: e}
	if e.Geometry.Set {
		p.Box, p.HasBox = e.Geometry.Value, true
	}
	return p
}

// screenPlace is a screen as a place.
func screenPlace(s *design.Screen) Place {
	p := placeOf(s.Root)
	p.Element, p.Path = s.Name, ""
	p.Box, p.HasBox = geom.Rect{W: s.Box.W, H: s.Box.H}, true
	return p
}

// sites are the places of a value.
func (c *checker) sites(f *harvest.Found) (out []Place) {
	for i := range f.Uses {
		u := &f.Uses[i]
		if e := c.element(u.Site); e != nil {
			out = append(out, placeOf(e))
		}
	}
	return out
}

// shared is what several rules ask for, worked out once.
type shared struct {
	in     *In
	all    map[string][]*design.Element // of each document, by name
	called map[string]bool              // names of screens
	roles  map[*design.Screen]*role.Screen
	alike  func() []alike.Set // in all drawings

	advice func() []asset.Advice // on the pictures of all drawings

	mu    sync.Mutex
	isOne map[*design.Screen]bool // an interface
}

func newShared(in *In) *shared {
	s := &shared{in: in, roles: map[*design.Screen]*role.Screen{}, all: map[string][]*design.Element{}, isOne: map[*design.Screen]bool{}, called: map[string]bool{}}
	for _, d := range in.Docs {
		s.all[d.Name] = d.All()
		for _, sc := range d.Screens {
			s.roles[sc] = role.On(sc)
			s.called[sc.Name] = true
		}
	}
	s.alike = sync.OnceValue(func() []alike.Set {
		var all []*design.Element
		for _, d := range in.Docs {
			if d.Styles == nil {
				all = append(all, s.all[d.Name]...)
			}
		}
		return alike.Find(all)
	})
	s.advice = sync.OnceValue(func() []asset.Advice {
		var drawings []*design.Document
		for _, d := range in.Docs {
			if d.Styles == nil {
				drawings = append(drawings, d)
			}
		}
		return asset.Advise(drawings, in.Sets, 1)
	})
	return s
}

// element is the element that uses a value; nil where its document is not audited.
func (s *shared) element(u *harvest.Site) *design.Element {
	if u.At != nil {
		return u.At
	}
	if all := s.all[u.Source]; u.Index >= 0 && u.Index < len(all) {
		return all[u.Index]
	}
	return nil
}

// role is what an element is for.
func (s *shared) role(e *design.Element) role.Found { return s.roles[e.Screen].Of(e) }

// screens calls f for every screen.
func (s *shared) screens(f func(*design.Screen)) {
	for _, d := range s.in.Docs {
		for _, sc := range d.Screens {
			f(sc)
		}
	}
}

// interfaces calls f for the screens that are drawings of something people use.
func (s *shared) interfaces(f func(*design.Screen)) {
	s.screens(func(sc *design.Screen) {
		if s.isInterface(sc) {
			f(sc)
		}
	})
}

// worded calls f for the screens that hold words in several places, and boxes: interfaces, and diagrams too.
func (s *shared) worded(f func(*design.Screen)) {
	s.screens(func(sc *design.Screen) {
		if isWorded(sc) {
			f(sc)
		}
	})
}

func isWorded(sc *design.Screen) bool {
	texts, boxes := 0, 0
	for _, e := range sc.Elements {
		switch {
		case e.Hidden:
		case e.Words != nil && len(e.Words.Words) > 1:
			texts++
		case e.Kind == design.Box:
			boxes++
		}
	}
	return sc.Document.Styles != nil || texts >= 3 && boxes >= 1 && sc.Box.W >= 120 && sc.Box.H >= 48
}

// isInterface reports whether a screen is a drawing of something people use, and no picture, map or diagram: words in
// several places, boxes beside them, and most edges of boxes on whole or half pixels.
func (s *shared) isInterface(sc *design.Screen) bool {
	s.mu.Lock()
	defer s.mu.Unlock()
	is, known := s.isOne[sc]
	if !known {
		is = looksUsed(sc)
		s.isOne[sc] = is
	}
	return is
}

func looksUsed(sc *design.Screen) bool {
	if sc.Document.Styles != nil {
		return true
	}
	edges, on := 0, 0
	for _, e := range sc.Elements {
		if e.Kind == design.Box && !e.Hidden && e.Geometry.Set && !e.Oval() {
			b := e.Geometry.Value
			for _, v := range [4]float64{b.X, b.Y, b.Right(), b.Bottom()} {
				edges++
				if math.Abs(2*v-math.Round(2*v)) < 0.05 {
					on++
				}
			}
		}
	}
	return isWorded(sc) && edges > 0 && 5*on >= 3*edges
}

// visible are the elements of a screen that show, parts of pictures left out.
func visible(sc *design.Screen) (out []*design.Element) {
	for _, e := range sc.Elements {
		if !e.Hidden && !e.Casts && !inPicture(e) {
			out = append(out, e)
		}
	}
	return out
}

// inPicture reports whether an element is a part of what is exported as a picture, or of a drawing in a drawing.
func inPicture(e *design.Element) bool {
	return e.Parent != nil && e.Parent.Ancestor(func(a *design.Element) bool { return a.Marks.Asset != "" }) != nil
}

// shares says how much of each screen is built from components.
func (s *shared) shares() (out []Share) {
	s.screens(func(sc *design.Screen) {
		x := Share{Source: sc.Document.Name, Screen: sc.Name}
		for _, e := range sc.Elements {
			if e.Hidden || e.Kind == design.Group {
				continue
			}
			x.Elements++
			if e.Component() != "" {
				x.Components++
			}
		}
		for _, e := range sc.Root.Children {
			if e.Kind == design.Group && !e.Hidden && !holdsComponent(e) && len(x.Others) < 6 {
				x.Others = append(x.Others, e.Title())
			}
		}
		out = append(out, x)
	})
	return out
}

func holdsComponent(e *design.Element) (holds bool) {
	e.Walk(func(x *design.Element) { holds = holds || x.Marks.Component != "" })
	return holds
}

// list joins words: "a, b and c"; of many the first few.
func list(words []string) string {
	if len(words) > 5 {
		words = append(slices.Clone(words[:4]), fmt.Sprintf("%d more", len(words)-4))
	}
	if len(words) < 2 {
		return strings.Join(words, "")
	}
	return strings.Join(words[:len(words)-1], ", ") + " and " + words[len(words)-1]
}

// count is a number and a word, "1 group" or "3 groups".
func count(n int, word string) string {
	if n == 1 {
		return "1 " + word
	}
	return fmt.Sprintf("%d %ss", n, word)
}
