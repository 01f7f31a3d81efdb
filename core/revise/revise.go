// Package revise writes changed values, words, names and marks back into drawings, and changes no other byte. In go a
// drawing's bytes, its document and what is to be changed; out come edits, each tried and read back before it is
// offered: what should change has, and nothing else.
package revise

import (
	"fmt"
	"slices"
	"strings"

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
	all := d.Doc.All()
	var own []*markup.Node
	for i, e := range all {
		if v.Elements[i] {
			own = append(own, e.Node)
		}
	}
	if len(own) == 0 {
		return nil, unwritable("no element of it has the value any more")
	}
	sites := sitesOf(d.Data, d.Doc.Markup)
	var last error = unwritable("the value %s is written nowhere: it follows from a form or from an effect", v.Old)
	tried := map[string]bool{}
	areas := []func(*site) bool{
		func(*site) bool { return true },
		func(s *site) bool { return s.node != nil && within(s.node, own) },
		func(s *site) bool { return s.node != nil && (within(s.node, own) || serves(s.node, own)) },
		func(s *site) bool { return s.node != nil && slices.Contains(own, s.node) },
	}
	ways := []Value{v}
	if v.Kind == Radius {
		shifted := v
		shifted.shifted = true
		mixed := v // of several elements, some have a line around them and some have none
		ways = append(ways, shifted, mixed)
	}
	for k, way := range ways {
		for _, near := range areas {
			var edits []markup.Edit
			for i := range sites {
				if !near(&sites[i]) {
					continue
				}
				if k == 2 {
					way.shifted = !sites[i].says(v.Old)
				}
				edits = append(edits, sites[i].replace(way)...)
			}
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
	}
	return nil, last
}

// within reports whether a node is one of several, or stands in one.
func within(n *markup.Node, list []*markup.Node) bool {
	for ; n != nil; n = n.Parent {
		if slices.Contains(list, n) {
			return true
		}
	}
	return false
}

// serves reports whether a node stands in a gradient, filter or symbol that elements refer to.
func serves(n *markup.Node, list []*markup.Node) bool {
	for a := n; a != nil; a = a.Parent {
		id := a.ID()
		if id == "" {
			continue
		}
		for _, e := range list {
			refers := false
			e.Walk(func(k *markup.Node) bool {
				for _, at := range k.Attrs {
					refers = refers || strings.Contains(at.Value, "#"+id)
				}
				return !refers
			})
			if refers {
				return true
			}
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
