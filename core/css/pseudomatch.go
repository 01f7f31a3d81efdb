package css

import (
	"strings"

	"archetyp/core/markup"
)

func (ps *pseudo) matches(n *markup.Node, m *matching) bool {
	switch ps.name {
	case "is", "where":
		return m.selector(ps.sel, n)
	case "not":
		return !m.selector(ps.sel, n)
	case "has":
		return hasRelative(n, ps.sel, m)
	case "root":
		return n.Parent == nil
	case "scope":
		return n == m.scope || m.scope == nil && n.Parent == nil
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
		return place(n, -1, true, nil, m) == 1
	case "last-of-type":
		return place(n, 1, true, nil, m) == 1
	case "only-of-type":
		return place(n, -1, true, nil, m) == 1 && place(n, 1, true, nil, m) == 1
	case "nth-child", "nth-last-child", "nth-of-type", "nth-last-of-type":
		if ps.sel != nil && !m.selector(ps.sel, n) {
			return false
		}
		dir := -1
		if strings.Contains(ps.name, "last") {
			dir = 1
		}
		k := place(n, dir, strings.HasSuffix(ps.name, "type"), ps.sel, m) - ps.b
		if ps.a == 0 {
			return k == 0
		}
		return k%ps.a == 0 && k/ps.a >= 0
	case "link", "any-link", "-webkit-any-link":
		return isLink(n)
	case "disabled":
		return m.states[ps.name] || isControl(n) && isDisabled(n)
	case "enabled":
		return isControl(n) && !isDisabled(n) && !m.states["disabled"]
	case "checked":
		return m.states[ps.name] || m.isChecked(n)
	case "indeterminate":
		return m.states[ps.name] || m.isIndeterminate(n)
	case "default":
		return isDefault(n)
	case "required":
		return canBeRequired(n) && has(n, "required")
	case "optional":
		return isOptional(n)
	case "read-write":
		return isEditable(n)
	case "read-only":
		return n.HTML && !isEditable(n)
	case "placeholder-shown":
		return m.states[ps.name] || isField(n) && has(n, "placeholder") && fieldValue(n) == ""
	case "valid", "invalid":
		if m.states[ps.name] {
			return true
		}
		ok, judged := m.isValid(n)
		return judged && ok == (ps.name == "valid")
	case "in-range", "out-of-range":
		ok, judged := isInRange(n)
		return judged && ok == (ps.name == "in-range")
	case "open":
		return m.states[ps.name] || n.HTML && (n.Local == "details" || n.Local == "dialog") && has(n, "open")
	case "dir":
		return len(ps.words) == 1 && direction(n) == ps.words[0]
	case "host":
		return n.Kind == markup.Element && m.host == n
	case "lang":
		return inLanguage(n, ps.words)
	case "defined":
		return !n.HTML || !strings.Contains(n.Local, "-") || reservedNames[n.Local]
	}
	return m.states[ps.name]
}

// isLink reports whether an element is a link, whatever it leads to.
func isLink(n *markup.Node) bool {
	if n.HTML {
		return (n.Local == "a" || n.Local == "area") && has(n, "href")
	}
	return n.Local == "a" && (has(n, "href") || n.Href() != "")
}

func has(n *markup.Node, attribute string) bool {
	_, ok := n.Attr(attribute)
	return ok
}

// inLanguage answers :lang(), with ranges in lower case. https://www.w3.org/TR/selectors-4/#the-lang-pseudo
func inLanguage(n *markup.Node, ranges []string) bool {
	for ; n != nil; n = n.Parent {
		lang, ok := n.Attr("xml:lang")
		if !ok {
			lang, ok = n.Attr("lang")
		}
		if !ok {
			continue
		}
		lang = strings.ToLower(lang)
		for _, r := range ranges {
			if r = strings.TrimPrefix(r, "*-"); lang == r || strings.HasPrefix(lang, r+"-") || r == "*" && lang != "" {
				return true
			}
		}
		return false
	}
	return false
}

// placing is a way to count the children of a node.
type placing struct {
	parent   *markup.Node
	dir      int
	sameType bool
	of       *Selector
}

// fewSiblings are counted each time; the places of more are kept.
const fewSiblings = 16

// place is the position among siblings counted from one end, from 1.
func place(n *markup.Node, dir int, sameType bool, of *Selector, m *matching) int {
	if n.Parent != nil && len(n.Parent.Children) > fewSiblings {
		return m.placesOf(placing{n.Parent, dir, sameType, of})[n]
	}
	k := 1
	for s := sibling(n, dir); s != nil; s = sibling(s, dir) {
		if sameType && (s.Local != n.Local || s.Space != n.Space) {
			continue
		}
		if of == nil || m.selector(of, s) {
			k++
		}
	}
	return k
}

// placesOf counts all children of a node at once.
func (m *matching) placesOf(p placing) map[*markup.Node]int {
	if known, ok := m.places.Load(p); ok {
		return known.(map[*markup.Node]int)
	}
	type kind struct{ space, local string }
	out, counts := map[*markup.Node]int{}, map[kind]int{}
	all := p.parent.Children
	for i := range all {
		c := all[i]
		if p.dir > 0 {
			c = all[len(all)-1-i]
		}
		if c.Kind != markup.Element || p.of != nil && !m.selector(p.of, c) {
			continue
		}
		k := kind{}
		if p.sameType {
			k = kind{c.Space, c.Local}
		}
		counts[k]++
		out[c] = counts[k]
	}
	known, _ := m.places.LoadOrStore(p, out)
	return known.(map[*markup.Node]int)
}

// hasRelative answers :has(): a relative selector is matched from every candidate back to n.
func hasRelative(n *markup.Node, sel *Selector, m *matching) bool {
	for i := range sel.Complex {
		parts := sel.Complex[i].Parts
		first := parts[len(parts)-1].Comb
		if first == '+' && onlyDown(parts[:len(parts)-1]) {
			if nextOnly(n, parts, m) {
				return true
			}
			continue
		}
		from := n
		if first == '+' || first == '~' {
			if from = n.Parent; from == nil {
				continue
			}
		}
		found := false
		from.Walk(func(c *markup.Node) bool {
			if !found && c != from && c.Kind == markup.Element {
				found = matchBackTo(parts, c, n, m)
			}
			return !found
		})
		if found {
			return true
		}
	}
	return false
}

// onlyDown reports whether compounds lead only to what lies inside.
func onlyDown(parts []Compound) bool {
	for i := range parts {
		if parts[i].Comb == '+' || parts[i].Comb == '~' {
			return false
		}
	}
	return true
}

// nextOnly answers a relative selector that begins with +: only the next sibling and what lies in it can be meant.
func nextOnly(n *markup.Node, parts []Compound, m *matching) bool {
	next := sibling(n, 1)
	if next == nil {
		return false
	}
	found := false
	next.Walk(func(c *markup.Node) bool {
		found = found || c.Kind == markup.Element && matchBackTo(parts, c, n, m)
		return !found && len(parts) > 1
	})
	return found
}

func matchBackTo(parts []Compound, c, anchor *markup.Node, m *matching) bool {
	if !parts[0].matches(c, m) {
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
		return matchBackTo(parts[1:], next, anchor, m)
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
