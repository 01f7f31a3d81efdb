package match

import (
	"fmt"
	"strings"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// Why elements without a name of their own are the same.
const (
	ByLook  Reason = "same look"
	ByPlace Reason = "same place"
	ByOrder Reason = "same kind, in the same order"
)

// Elements pairs the elements of two readings of a drawing, each by its place among All. What has a mark, an id, a name
// or words is paired as by Match; what has none by how it looks and where it stands, in the same container before any
// other.
func Elements(old, new *design.Document) []Pair {
	m := &byLook{old: newSide(old), new: newSide(new)}
	for _, p := range Match(m.old.identities(), m.new.identities()) {
		m.pair(p.Old, p.New, p.Why)
	}
	m.containers()
	m.anywhere()
	return m.pairs
}

// side is one of two readings.
type side struct {
	all   []*design.Element
	index map[*design.Element]int
	looks map[*design.Element]string
	other []int // the element's pair on the other side; −1 for none
	doc   *design.Document
}

func newSide(d *design.Document) *side {
	s := &side{all: d.All(), index: map[*design.Element]int{}, looks: map[*design.Element]string{}, doc: d}
	s.other = make([]int, len(s.all))
	for i, e := range s.all {
		s.index[e], s.other[i] = i, -1
	}
	return s
}

// identities are those of the elements. The path of one without a name says only its number, which changes when another
// comes or goes: it is left out.
func (s *side) identities() []Identity {
	out := make([]Identity, len(s.all))
	for i, e := range s.all {
		out[i] = Of(e)
		if e.Name == "" {
			out[i].Path = ""
		}
		if e.Words != nil {
			out[i].Words, out[i].Box = e.Words.Words, e.BorderBox()
		}
	}
	return out
}

// look is all that shows of an element but its place; of a group, of all that is in it.
func (s *side) look(e *design.Element) string {
	if l, ok := s.looks[e]; ok {
		return l
	}
	var b strings.Builder
	b.WriteString(string(e.Kind))
	for _, f := range design.Placeless(e.Facts()) {
		b.WriteString("\x00" + f.Name + "=" + f.Value)
	}
	for _, c := range e.Children {
		b.WriteString("\x01" + s.look(c))
	}
	s.looks[e] = b.String()
	return s.looks[e]
}

// byLook pairs what Match leaves.
type byLook struct {
	old, new *side
	pairs    []Pair
}

func (m *byLook) pair(o, n int, why Reason) {
	if m.old.other[o] < 0 && m.new.other[n] < 0 {
		m.old.other[o], m.new.other[n] = n, o
		m.pairs = append(m.pairs, Pair{o, n, why})
	}
}

// containers pairs what stands in containers that are the same, from the screens down.
func (m *byLook) containers() {
	type both struct{ old, new *design.Element }
	var queue []both
	byName := map[string]*design.Screen{}
	for _, s := range m.old.doc.Screens {
		byName[s.Name] = s
	}
	for i, s := range m.new.doc.Screens {
		was := byName[s.Name]
		if was == nil && i < len(m.old.doc.Screens) && len(m.old.doc.Screens) == len(m.new.doc.Screens) {
			was = m.old.doc.Screens[i]
		}
		if was != nil {
			queue = append(queue, both{was.Root, s.Root})
		}
	}
	for len(queue) > 0 {
		c := queue[0]
		queue = queue[1:]
		m.children(c.old.Children, c.new.Children)
		for _, k := range c.new.Children {
			if i, ok := m.new.index[k]; ok && m.new.other[i] >= 0 && len(k.Children) > 0 {
				queue = append(queue, both{m.old.all[m.new.other[i]], k})
			}
		}
	}
}

// children pairs the elements of one container: those that look the same and stand where they did, those that look the
// same, those that stand where they did, and at last those of a kind in their order.
func (m *byLook) children(old, new []*design.Element) {
	place := func(e *design.Element) string {
		b := e.BorderBox()
		return fmt.Sprintf("%s %.2f %.2f %.2f %.2f", e.Kind, b.X, b.Y, b.W, b.H)
	}
	m.by(old, new, ByLook, func(s *side, e *design.Element) string { return s.look(e) + "\x02" + place(e) })
	m.by(old, new, ByLook, func(s *side, e *design.Element) string { return s.look(e) })
	m.by(old, new, ByPlace, func(_ *side, e *design.Element) string { return place(e) })
	for _, at := range []func(geom.Rect) float64{design.Left.Of, design.Right.Of, design.CentreX.Of} { // other words are as wide as they are
		m.by(old, new, ByPlace, func(s *side, e *design.Element) string {
			if e.Words == nil {
				return ""
			}
			b := e.BorderBox()
			return fmt.Sprintf("%.2f %.2f", at(b), b.Y)
		})
	}
	m.by(old, new, ByOrder, func(_ *side, e *design.Element) string { return string(e.Kind) })
}

// anywhere pairs what looks the same wherever it stands: it went into another container.
func (m *byLook) anywhere() {
	m.by(m.old.all, m.new.all, ByLook, func(s *side, e *design.Element) string { return e.Screen.Name + "\x02" + s.look(e) })
}

// by pairs elements with the same key, in their order; "" is none. Words that differ are no one's same kind: Match has weighed them.
func (m *byLook) by(old, new []*design.Element, why Reason, key func(*side, *design.Element) string) {
	waiting := map[string][]int{}
	for _, e := range old {
		if i, ok := m.old.index[e]; ok && m.old.other[i] < 0 && m.free(e, why) {
			if k := key(m.old, e); k != "" {
				waiting[k] = append(waiting[k], i)
			}
		}
	}
	for _, e := range new {
		n, ok := m.new.index[e]
		if !ok || m.new.other[n] >= 0 || !m.free(e, why) {
			continue
		}
		k := key(m.new, e)
		if list := waiting[k]; len(list) > 0 {
			m.pair(list[0], n, why)
			waiting[k] = list[1:]
		}
	}
}

// free reports whether an element may be paired for a reason: one with a name, an id or words is never paired by its kind
// alone.
func (m *byLook) free(e *design.Element, why Reason) bool {
	return why != ByOrder || e.Name == "" && e.ID == "" && e.Words == nil
}
