package css

import (
	"strings"

	"archetyp/core/markup"
)

// Matches says whether the selector means the element, with none of the states (hover, focus …) in force.
func (s *Selector) Matches(n *markup.Node) bool { return s.MatchesIn(n, nil) }

// MatchesIn is Matches with some states in force, by pseudo-class name.
func (s *Selector) MatchesIn(n *markup.Node, states map[string]bool) bool {
	for i := range s.Complex {
		if s.Complex[i].matches(n, states) {
			return true
		}
	}
	return false
}

func (c *Complex) matches(n *markup.Node, states map[string]bool) bool {
	return matchFrom(c.Parts, n, states)
}

func matchFrom(parts []Compound, n *markup.Node, st map[string]bool) bool {
	if !parts[0].matches(n, st) {
		return false
	}
	if len(parts) == 1 {
		return true
	}
	rest := parts[1:]
	switch parts[0].Comb {
	case '>':
		return n.Parent != nil && matchFrom(rest, n.Parent, st)
	case '+':
		s := sibling(n, -1)
		return s != nil && matchFrom(rest, s, st)
	case '~':
		for s := sibling(n, -1); s != nil; s = sibling(s, -1) {
			if matchFrom(rest, s, st) {
				return true
			}
		}
	default:
		for a := n.Parent; a != nil; a = a.Parent {
			if matchFrom(rest, a, st) {
				return true
			}
		}
	}
	return false
}

// sibling is the next element in a direction.
func sibling(n *markup.Node, step int) *markup.Node {
	if n.Parent == nil {
		return nil
	}
	all := n.Parent.Children
	for i := n.Index + step; i >= 0 && i < len(all); i += step {
		if all[i].Kind == markup.Element {
			return all[i]
		}
	}
	return nil
}

func (c *Compound) matches(n *markup.Node, st map[string]bool) bool {
	if c.Never || n.Kind != markup.Element {
		return false
	}
	if c.Tag != "" && c.Tag != "*" && c.Tag != n.Local && !(n.HTML && strings.EqualFold(c.Tag, n.Local)) {
		return false
	}
	for _, id := range c.ID {
		if n.ID() != id {
			return false
		}
	}
	if len(c.Class) > 0 {
		classes, _ := n.Attr("class")
		for _, k := range c.Class {
			if !hasWord(classes, k) {
				return false
			}
		}
	}
	for i := range c.Attrs {
		if !c.Attrs[i].matches(n) {
			return false
		}
	}
	for i := range c.Pseudo {
		if !c.Pseudo[i].matches(n, st) {
			return false
		}
	}
	return true
}

func hasWord(list, word string) bool {
	for list != "" {
		list = strings.TrimLeft(list, " \t\r\n\f")
		end := strings.IndexAny(list, " \t\r\n\f")
		if end < 0 {
			return list == word
		}
		if list[:end] == word {
			return true
		}
		list = list[end:]
	}
	return false
}

func (a *attrTest) matches(n *markup.Node) bool {
	v, ok := "", false
	for i := range n.Attrs {
		at := &n.Attrs[i]
		if at.Name == a.name || (n.HTML && strings.EqualFold(at.Name, a.name)) {
			v, ok = at.Value, true
			break
		}
	}
	if !ok {
		return false
	}
	w := a.value
	if a.nocase {
		v, w = strings.ToLower(v), strings.ToLower(w)
	}
	switch a.op {
	case '=':
		return v == w
	case '~':
		return w != "" && hasWord(v, w)
	case '|':
		return v == w || strings.HasPrefix(v, w+"-")
	case '^':
		return w != "" && strings.HasPrefix(v, w)
	case '$':
		return w != "" && strings.HasSuffix(v, w)
	case '*':
		return w != "" && strings.Contains(v, w)
	}
	return true
}

func (ps *pseudo) matches(n *markup.Node, st map[string]bool) bool {
	switch ps.name {
	case "is", "where":
		return ps.sel.MatchesIn(n, st)
	case "not":
		return !ps.sel.MatchesIn(n, st)
	case "has":
		return hasRelative(n, ps.sel, st)
	case "root", "scope":
		return n.Parent == nil
	case "empty":
		for _, c := range n.Children {
			if c.Kind == markup.Element || c.Data != "" {
				return false
			}
		}
		return true
	case "first-child":
		return sibling(n, -1) == nil
	case "last-child":
		return sibling(n, 1) == nil
	case "only-child":
		return sibling(n, -1) == nil && sibling(n, 1) == nil
	case "first-of-type":
		return place(n, -1, true, nil, st) == 1
	case "last-of-type":
		return place(n, 1, true, nil, st) == 1
	case "only-of-type":
		return place(n, -1, true, nil, st) == 1 && place(n, 1, true, nil, st) == 1
	case "nth-child", "nth-last-child", "nth-of-type", "nth-last-of-type":
		if ps.sel != nil && !ps.sel.MatchesIn(n, st) {
			return false
		}
		dir := -1
		if strings.Contains(ps.name, "last") {
			dir = 1
		}
		k := place(n, dir, strings.HasSuffix(ps.name, "type"), ps.sel, st) - ps.b
		if ps.a == 0 {
			return k == 0
		}
		return k%ps.a == 0 && k/ps.a >= 0
	case "link", "any-link":
		return n.Local == "a" && n.Href() != ""
	case "disabled", "checked":
		_, has := n.Attr(ps.name)
		return st[ps.name] || has
	case "enabled":
		_, has := n.Attr("disabled")
		return !has && !st["disabled"]
	case "defined":
		return true
	}
	return st[ps.name]
}

// place is the position among siblings counted from one end, from 1.
func place(n *markup.Node, dir int, sameType bool, of *Selector, st map[string]bool) int {
	k := 1
	for s := sibling(n, dir); s != nil; s = sibling(s, dir) {
		if sameType && (s.Local != n.Local || s.Space != n.Space) {
			continue
		}
		if of == nil || of.MatchesIn(s, st) {
			k++
		}
	}
	return k
}

// hasRelative answers :has(): a relative selector is matched from every candidate back to n.
func hasRelative(n *markup.Node, sel *Selector, st map[string]bool) bool {
	for i := range sel.Complex {
		parts := sel.Complex[i].Parts
		first := parts[len(parts)-1].Comb
		from := n
		if first == '+' || first == '~' {
			if from = n.Parent; from == nil {
				continue
			}
		}
		found := false
		from.Walk(func(c *markup.Node) bool {
			if !found && c != from && c.Kind == markup.Element {
				found = matchBackTo(parts, c, n, st)
			}
			return !found
		})
		if found {
			return true
		}
	}
	return false
}

func matchBackTo(parts []Compound, c, anchor *markup.Node, st map[string]bool) bool {
	if !parts[0].matches(c, st) {
		return false
	}
	last := len(parts) == 1
	step := func(next *markup.Node) bool {
		if next == nil {
			return false
		}
		if last {
			return next == anchor
		}
		return matchBackTo(parts[1:], next, anchor, st)
	}
	switch parts[0].Comb {
	case '>':
		return step(c.Parent)
	case '+':
		return step(sibling(c, -1))
	case '~':
		for s := sibling(c, -1); s != nil; s = sibling(s, -1) {
			if step(s) {
				return true
			}
		}
	default:
		for a := c.Parent; a != nil; a = a.Parent {
			if step(a) {
				return true
			}
		}
	}
	return false
}
