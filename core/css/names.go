package css

import (
	"strings"

	"archetyp/core/markup"
)

// nameSet is every tag, id and class of a document: a selector that wants another means nothing in it, and most rules
// of a large style sheet are ruled out by that alone.
type nameSet struct{ tags, ids, classes map[string]bool }

func namesIn(root *markup.Node) *nameSet {
	s := &nameSet{map[string]bool{}, map[string]bool{}, map[string]bool{}}
	root.Walk(func(n *markup.Node) bool {
		if n.Kind != markup.Element {
			return true
		}
		s.tags[n.Local] = true
		if n.Lax {
			s.tags[strings.ToLower(n.Local)] = true
		}
		if id := n.ID(); id != "" {
			s.ids[id] = true
		}
		if list, ok := n.Attr("class"); ok {
			for _, w := range strings.Fields(list) {
				s.classes[w] = true
			}
		}
		return true
	})
	return s
}

// allow reports whether all names that a selector wants are there.
func (s *nameSet) allow(cx *Complex) bool {
	for i := range cx.Parts {
		c := &cx.Parts[i]
		if c.Tag != "" && c.Tag != "*" && !s.tags[c.Tag] && !s.tags[strings.ToLower(c.Tag)] {
			return false
		}
		for _, id := range c.ID {
			if !s.ids[id] {
				return false
			}
		}
		for _, k := range c.Class {
			if !s.classes[k] {
				return false
			}
		}
		for k := range c.Pseudo {
			if !s.allowArgument(&c.Pseudo[k]) {
				return false
			}
		}
	}
	return true
}

// allowArgument is allow for :is(), :where() and :has(), one of whose selectors must mean something.
func (s *nameSet) allowArgument(p *pseudo) bool {
	if p.sel == nil || p.name != "is" && p.name != "where" && p.name != "has" {
		return true
	}
	for i := range p.sel.Complex {
		if s.allow(&p.sel.Complex[i]) {
			return true
		}
	}
	return false
}
