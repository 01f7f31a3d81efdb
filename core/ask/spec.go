package ask

import (
	"fmt"
	"strings"

	"archetyp/core/design"
	"archetyp/core/infer/layout"
	"archetyp/core/infer/role"
	"archetyp/core/token/emit"
)

// Speller tells all facts of elements, with the tokens they are. It may be used by one goroutine at a time.
type Speller struct {
	Tokens *emit.Finder
	Unit   design.Unit
	finder layout.Finder
	roles  map[*design.Screen]*role.Screen
}

// Boxes are the boxes of an element.
type Boxes struct {
	Geometry Rect `json:"geometry"`
	Painted  Rect `json:"painted"`
	Layout   Rect `json:"layout"`
}

// Spec is all that is known of an element. Lengths of facts are in the unit asked for.
type Spec struct {
	Name      string            `json:"name"`
	Kind      design.Kind       `json:"kind"`
	Shape     string            `json:"shape"`
	Selector  string            `json:"selector"`
	Screen    string            `json:"screen"`
	Path      string            `json:"path"`
	Line      int               `json:"line"`
	Column    int               `json:"column"`
	Hidden    bool              `json:"hidden,omitempty"`
	Marks     design.Marks      `json:"marks"`
	Boxes     Boxes             `json:"boxes"`
	Container Rect              `json:"container"`
	Words     string            `json:"words,omitempty"`
	Facts     []design.FactLine `json:"facts"`
	Tokens    map[string]string `json:"tokens,omitempty"` // path, by fact
	Behind    []string          `json:"behind,omitempty"` // facts that the drawing shows otherwise than their token says

	Found []emit.Found `json:"-"` // the token of each fact; without a path for none
}

// facts are all facts of an element: what it is for, then what its document and its place say.
func (s *Speller) facts(e *design.Element) []design.FactLine {
	if s.roles == nil {
		s.roles = map[*design.Screen]*role.Screen{}
	}
	on := s.roles[e.Screen]
	if on == nil {
		on = role.On(e.Screen)
		s.roles[e.Screen] = on
	}
	facts := s.finder.Facts(e)
	found := on.Of(e)
	if found.Role == role.None {
		return facts
	}
	line := design.FactLine{Section: "identity", Name: "role", Value: string(found.Role), Origin: design.Derived,
		From: found.Why}
	if found.Rank > 0 {
		line.Note = fmt.Sprintf("rank %d", found.Rank)
	}
	if e.Marks.Role != "" {
		line.Origin = design.Stated
	}
	return append([]design.FactLine{line}, facts...)
}

// Spec tells all of an element.
func (s *Speller) Spec(e *design.Element) *Spec {
	facts := s.facts(e)
	out := &Spec{Name: e.Name, Kind: e.Kind, Shape: e.Shape, Selector: e.Selector(), Screen: e.Screen.Name, Path: e.Path,
		Line: e.Position.Line, Column: e.Position.Column, Hidden: e.Hidden, Marks: e.Marks,
		Boxes:     Boxes{rect(e.Geometry.Value), rect(e.Painted.Value), rect(e.Layout.Value)},
		Container: rect(e.Container()), Facts: s.Unit.For(e).Facts(facts), Found: make([]emit.Found, len(facts))}
	if e.Words != nil {
		out.Words = e.Words.Words
	}
	for i, f := range facts {
		found := TokenOf(s.Tokens, e, f)
		if out.Found[i] = found; found.Path == "" {
			continue
		}
		if out.Tokens == nil {
			out.Tokens = map[string]string{}
		}
		out.Tokens[f.Name] = found.Path
		if found.Behind {
			out.Behind = append(out.Behind, f.Name)
		}
	}
	return out
}

// Value is a fact by itself.
type Value struct{ Name, Text string }

// Values are the facts of an element, its size and place first, in the unit asked for.
func (s *Speller) Values(e *design.Element) []Value {
	b, u := e.BorderBox(), s.Unit.For(e)
	list := []Value{{"width", u.Text(b.W, false)}, {"height", u.Text(b.H, true)}, {"x", u.Text(b.X, false)},
		{"y", u.Text(b.Y, true)}}
	for _, f := range u.Facts(s.facts(e)) {
		list = append(list, Value{f.Name, f.Value})
	}
	return list
}

// Compared is what elements have in common, and what not.
type Compared struct {
	Shared    []design.FactLine
	Differing []design.Differing
}

// mostCompared is how many elements are held against each other; more have little in common but their number.
const mostCompared = 5000

// Compare holds the facts of elements against each other, but for their places. ok is false for one element, and for
// too many.
func (s *Speller) Compare(found []*design.Element) (c Compared, ok bool) {
	if len(found) < 2 || len(found) > mostCompared {
		return c, false
	}
	lists := make([][]design.FactLine, len(found))
	for i, e := range found {
		lists[i] = s.Unit.For(e).Facts(design.Placeless(s.facts(e)))
	}
	c.Shared, c.Differing = design.CompareFacts(lists)
	return c, true
}

// kinds are the kinds of value that facts have, as a Finder knows them.
var kinds = map[string]string{"fill": "color:surface", "stroke": "color:border", "border-radius": "radius",
	"shadow": "shadow", "font-family": "fontFamily",
	"gap": "space", "row-gap": "space", "column-gap": "space", "padding": "space"}

// TokenOf is the token that the value of an element's fact is.
func TokenOf(tokens *emit.Finder, e *design.Element, f design.FactLine) emit.Found {
	kind := kinds[f.Name]
	if kind == "" {
		return emit.Found{}
	}
	switch {
	case strings.Contains(f.Value, "gradient("):
		kind = "gradient"
	case f.Name == "fill" && e.Words != nil:
		kind = "color:text"
	case f.Name == "fill" && e.Kind == design.Path:
		kind = "color:icon"
	}
	if kind == "radius" && e.Pill() {
		if full := tokens.Find(e, kind, emit.Full); full.Path != "" {
			return full
		}
	}
	if found := tokens.Find(e, kind, f.Value); found.Path != "" || f.Name != "shadow" {
		return found
	}
	return tokens.Find(e, kind, e.ShadowCSS()) // a shadow of several layers is one value
}
