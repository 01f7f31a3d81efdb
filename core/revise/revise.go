// Package revise writes changed values, words, names and marks back into drawings, and changes no other byte. In go a
// drawing's bytes, its document and what is to be changed; out come edits, each tried and read back before it is
// offered: what should change has, and nothing else.
package revise

import (
	"fmt"
	"iter"
	"slices"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/markup"
)

// Drawing is a drawing that may be changed.
type Drawing struct {
	Name string
	Data []byte
	Doc  *design.Document
	Read func(data []byte) (*design.Document, error) // reads it again, as Doc was read
}

// Kind is a kind of value that can be written back.
type Kind string

// The kinds.
const (
	Colour  Kind = "color"
	Radius  Kind = "border-radius"
	Size    Kind = "font-size"
	Family  Kind = "font-family"
	Weight  Kind = "font-weight"
	Spacing Kind = "letter-spacing"
)

// Value is a value that some elements show and should show otherwise.
type Value struct {
	Kind     Kind
	Old, New string       // as the facts of elements print them: "#0b6e8f", "12px"
	Elements map[int]bool // by their place among all elements of the document

	shifted bool // lengths grow by the difference, not in proportion: beside an outline that has one of its own
}

// Done is a change that can be made.
type Done struct {
	Edits    []markup.Edit
	Elements int // that show the new value then
}

// Unwritable says why a change cannot be made.
type Unwritable struct{ Reason string }

func (e *Unwritable) Error() string { return e.Reason }

func unwritable(format string, args ...any) error { return &Unwritable{fmt.Sprintf(format, args...)} }

// text checks that a drawing is text whose bytes are what was parsed.
func (d *Drawing) text() error {
	switch {
	case d.Doc.Markup == nil || d.Doc.Format == "ora":
		return unwritable("its layers are pixels")
	case d.Doc.Format == "capture":
		return unwritable("a capture says what a site was like")
	case len(d.Data) > 2 && d.Data[0] == 0x1f && d.Data[1] == 0x8b:
		return unwritable("it is compressed, and cannot be kept byte for byte")
	case markup.Recoded(d.Data):
		return unwritable("it is not written in UTF-8")
	}
	return nil
}

// SetValue finds the edits that give elements another value. The error is an *Unwritable where the drawing does not
// allow it: where the value is shared with elements that keep theirs, or is not written anywhere.
func (d *Drawing) SetValue(v Value) (*Done, error) {
	if err := d.text(); err != nil {
		return nil, err
	}
	if v.Old == v.New {
		return &Done{}, nil
	}
	own := map[*markup.Node]bool{}
	for i, e := range d.Doc.All() {
		if v.Elements[i] {
			own[e.Node] = true
		}
	}
	if len(own) == 0 {
		return nil, unwritable("no element of it has the value any more")
	}
	var last error = unwritable("the value %s is written nowhere: it follows from a form or from an effect", v.Old)
	tried := map[string]bool{}
	for edits := range attempts(sitesOf(d.Data, d.Doc.Markup), v, own) {
		key := fmt.Sprint(edits)
		if len(edits) == 0 || tried[key] {
			continue
		}
		tried[key] = true
		n, err := d.verify(edits, v)
		if err == nil {
			return &Done{edits, n}, nil
		}
		last = err
	}
	return nil, last
}

// attempts are the edits that may give elements a value, from those that change every place with the old one to those
// that change the elements' own attributes alone.
func attempts(sites []site, v Value, own map[*markup.Node]bool) iter.Seq[[]markup.Edit] {
	refers := referredTo(own)
	areas := []func(*markup.Node) bool{
		func(*markup.Node) bool { return true },
		func(n *markup.Node) bool { return within(n, own) },
		func(n *markup.Node) bool { return within(n, own) || serves(n, refers) },
		func(n *markup.Node) bool { return own[n] },
	}
	return func(yield func([]markup.Edit) bool) {
		for _, way := range lengthWays(v.Kind) {
			for i, area := range areas {
				var edits []markup.Edit
				for j := range sites {
					s := &sites[j]
					if i > 0 && (s.node == nil || !area(s.node)) {
						continue
					}
					v.shifted = way == byDifference || way == mixed && !s.says(v.Old)
					edits = append(edits, s.replace(v)...)
				}
				if !yield(edits) {
					return
				}
			}
		}
	}
}

// lengthWay is how a length that is written in other units than the fact is changed.
type lengthWay int

const (
	inProportion lengthWay = iota // the drawing is scaled
	byDifference                  // it stands beside an outline that has one of its own
	mixed                         // some do, and some do not
)

func lengthWays(k Kind) []lengthWay {
	if k == Radius {
		return []lengthWay{inProportion, byDifference, mixed}
	}
	return []lengthWay{inProportion}
}

// within reports whether a node is one of several, or stands in one.
func within(n *markup.Node, own map[*markup.Node]bool) bool {
	for ; n != nil; n = n.Parent {
		if own[n] {
			return true
		}
	}
	return false
}

// referredTo are the ids that nodes, and what stands in them, refer to.
func referredTo(own map[*markup.Node]bool) map[string]bool {
	out := map[string]bool{}
	for n := range own {
		n.Walk(func(k *markup.Node) bool {
			for _, a := range k.Attrs {
				for _, u := range append(css.URLs(a.Value), a.Value) {
					if id, ok := strings.CutPrefix(u, "#"); ok {
						out[id] = true
					}
				}
			}
			return true
		})
	}
	return out
}

// serves reports whether a node stands in a gradient, filter or symbol that is referred to.
func serves(n *markup.Node, ids map[string]bool) bool {
	for ; n != nil; n = n.Parent {
		if id := n.ID(); id != "" && ids[id] {
			return true
		}
	}
	return false
}

// verify makes edits on a copy, reads it, and holds every element against what it was: those that should have the new
// value, and the groups and runs that show it with them. It counts those.
func (d *Drawing) verify(edits []markup.Edit, v Value) (n int, err error) {
	data, err := markup.Rewrite(d.Data, edits)
	if err != nil {
		return 0, unwritable("%v", err)
	}
	doc, err := d.Read(data)
	if err != nil {
		return 0, unwritable("it could not be read any more: %v", err)
	}
	before, after := d.Doc.All(), doc.All()
	if len(before) != len(after) {
		return 0, unwritable("it would have %d elements instead of %d", len(after), len(before))
	}
	may := map[*design.Element]bool{} // elements that show what those asked for show
	for i, e := range before {
		if !v.Elements[i] {
			continue
		}
		for a := e; a != nil; a = a.Parent {
			may[a] = true
		}
		e.Walk(func(k *design.Element) { may[k] = true })
	}
	for i, e := range before {
		changed, err := compare(e, after[i], v, may[e])
		switch {
		case err != nil:
			return 0, err
		case v.Elements[i] && !changed:
			return 0, unwritable("%s would go on showing %s", e.Title(), v.Old)
		case v.Elements[i]:
			n++
		}
	}
	return n, nil
}

// compare holds the facts of an element after a change against those before; changed reports whether it has the new
// value. may allows that.
func compare(before, after *design.Element, v Value, may bool) (changed bool, err error) {
	a, b := v.facts(before), v.facts(after)
	if len(a) != len(b) {
		return false, unwritable("%s would be drawn otherwise", before.Title())
	}
	for i := range a {
		if a[i].Name == b[i].Name && a[i].Value == b[i].Value {
			continue
		}
		if !may && !follows(a[i]) || a[i].Name != b[i].Name || !v.became(a[i].Value, b[i].Value) {
			return false, unwritable("%s would change, too: its %s is written in the same place", before.Title(), a[i].Name)
		}
		changed = true
	}
	return changed, nil
}

// follows reports whether a fact is made of several values: a gradient or a shadow has the colours of the drawing, and
// follows them where all of it does.
func follows(f design.FactLine) bool {
	return f.Name == "shadow" || strings.Contains(f.Value, "gradient(")
}

// facts are the facts of an element that a change of a value may not touch but by that value: all of them, but those
// that follow from the size of words where their font changes.
func (v *Value) facts(e *design.Element) []design.FactLine {
	lines := e.Facts()
	if v.Kind == Colour || v.Kind == Radius {
		return lines
	}
	return slices.DeleteFunc(slices.Clone(lines), func(f design.FactLine) bool {
		return f.Section == "box" || f.Section == "text" && !setting[f.Name]
	})
}

// setting are the facts of words that no other follows from.
var setting = map[string]bool{"words": true, "font-family": true, "font-size": true, "font-weight": true, "font-style": true, "letter-spacing": true,
	"text-transform": true, "text-decoration": true}

// became reports whether a fact is what it was with the new value in place of the old.
func (v *Value) became(before, after string) bool {
	if strings.ReplaceAll(before, v.Old, v.New) == after {
		return true
	}
	switch v.Kind {
	case Colour:
		return v.recoloured(before) == v.recoloured(after)
	case Family:
		return strings.Contains(before, strings.Trim(v.Old, `"'`)) && strings.Contains(after, strings.Trim(v.New, `"'`))
	case Radius, Size, Spacing:
		return sameLengths(strings.ReplaceAll(before, v.Old, v.New), after)
	}
	return false
}
