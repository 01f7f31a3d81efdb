package diff

import (
	"archetyp/core/design"
	"archetyp/core/match"
	"fmt"
	"strings"
)

// Shared is an element that a library of components has, too.
type Shared struct {
	Component string // its name in the library, with variant and state
	Theirs    *design.Element
	Ours      *design.Element
	Why       match.Reason
	Facts     []FactChange // in which ours differs from the library, by part where there are several
	Parts     bool         // ours has other parts
}

// Difference says in what an element differs from the library; "" for in nothing.
func (s *Shared) Difference() string {
	if s.Parts {
		return "it has other parts"
	}
	var out []string
	for i, f := range s.Facts {
		if i == 4 {
			out = append(out, fmt.Sprintf("and %d more", len(s.Facts)-i))
			break
		}
		out = append(out, f.Name+" "+f.Is+", not "+f.Was)
	}
	return strings.Join(out, "; ")
}

// Reasons why an element is one of a library.
const (
	ByName Reason = "same component, by name"
	BySame Reason = "drawn the same"
)

// Reason is a match.Reason.
type Reason = match.Reason

// Library finds the elements of drawings that a library of components has: by the component that they are marked as, with
// the same variant and state where the library has these, and groups without a mark that are drawn the same. What lies
// in one that was found is not looked at.
func Library(library, ours []*design.Document) []Shared {
	type known struct {
		element *design.Element
		name    string
	}
	f := match.NewField(nil)
	exact, byName, byLook := map[string]known{}, map[string]known{}, map[string]known{}
	for _, d := range library {
		for _, e := range d.All() {
			m := &e.Marks
			if m.Component == "" {
				continue
			}
			k := known{e, componentName(m)}
			if _, twice := exact[k.name]; !twice {
				exact[k.name] = k
			}
			if _, twice := byName[m.Component]; !twice {
				byName[m.Component] = k
			}
			if len(e.Children) > 0 {
				if _, twice := byLook[f.Look(e)]; !twice {
					byLook[f.Look(e)] = k
				}
			}
		}
	}
	var out []Shared
	for _, d := range ours {
		inside := map[*design.Element]bool{}
		for _, e := range d.All() {
			if e.Parent != nil && inside[e.Parent] {
				inside[e] = true
				continue
			}
			s := Shared{Ours: e, Why: ByName}
			var k known
			var ok bool
			if m := &e.Marks; m.Component != "" {
				if k, ok = exact[componentName(m)]; !ok {
					k, ok = byName[m.Component]
				}
			} else if len(e.Children) > 0 {
				k, ok = byLook[f.Look(e)]
				s.Why = BySame
			}
			if !ok {
				continue
			}
			inside[e] = true
			s.Component, s.Theirs = k.name, k.element
			if s.Why == ByName && f.Look(e) != f.Look(k.element) {
				s.Facts, s.Parts = partsDiffer(k.element, e)
			}
			out = append(out, s)
		}
	}
	return out
}

func componentName(m *design.Marks) string {
	name := m.Component
	for _, more := range []string{m.Variant, m.State} {
		if more != "" {
			name += " " + more
		}
	}
	return name
}

// partsDiffer compares two elements part by part, in their order; other says that they have other parts.
func partsDiffer(theirs, ours *design.Element) (facts []FactChange, other bool) {
	a, b := leaves(theirs), leaves(ours)
	if len(a) != len(b) {
		return nil, true
	}
	d := &differ{}
	for i := range a {
		if a[i].Kind != b[i].Kind {
			return nil, true
		}
		for _, c := range d.restyled(a[i], b[i]) {
			if len(a) > 1 {
				c.Name = string(b[i].Kind) + " " + c.Name
			}
			facts = append(facts, c)
		}
	}
	return facts, false
}

// leaves are the parts of an element that hold nothing.
func leaves(e *design.Element) (out []*design.Element) {
	e.Walk(func(x *design.Element) {
		if len(x.Children) == 0 && !x.Hidden {
			out = append(out, x)
		}
	})
	return out
}
