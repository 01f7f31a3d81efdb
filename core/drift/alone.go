package drift

import (
	"archetyp/core/markup"
	"archetyp/core/match"
)

// lists finds what only one side has: the outermost elements that show something.
func (c *comparing) lists() {
	var visit func(side int, n *markup.Node)
	visit = func(side int, n *markup.Node) {
		if n.Kind == markup.Element {
			if silent(n) && n.Local != "head" || c.hidden[side][n] {
				return
			}
			if side == 0 && c.new[n] == nil || side == 1 && c.old[n] == nil {
				if c.alone(side, n) {
					return
				}
			}
		}
		for _, k := range match.Inside(n) {
			visit(side, k)
		}
	}
	visit(0, c.view.Design.Markup.Root)
	visit(1, c.view.Site.Markup.Root)
}

// alone reports an element that has no partner, where it shows something; whole says that all in it is with it.
func (c *comparing) alone(side int, n *markup.Node) (whole bool) {
	holds, shows := false, false // partners; something to see
	a := c.design(n)
	if side == 1 {
		a = c.site(n)
	}
	n.Walk(func(k *markup.Node) bool {
		if k.Kind != markup.Element {
			return true
		}
		if c.hidden[side][k] {
			return false
		}
		holds = holds || c.new[k] != nil || c.old[k] != nil
		shows = shows || (asking{a.styles, k}).shown(false)
		return true
	})
	if holds { // a wrapper: it matters only where it shows something itself
		if !a.shown(true) {
			return false
		}
	} else if !shows {
		return true
	}
	if up := parent(n); side == 0 {
		c.moving[c.new[up]] = true
	} else {
		c.moving[up] = true
	}
	what := short(allWords(n))
	if what != "" {
		what = " “" + what + "”"
	}
	s := seen{kind: Extra}
	if side == 0 {
		s.kind, s.spot, s.message = Missing, c.spot(n, nil, "", "", ""), "the site lacks "+called(n)+what
		if at := c.nearest(0, parent(n)); at != nil {
			s.cause.Place, s.spot.Site = c.markupPlace(c.new[at]), c.ref(1, c.new[at])
		}
		s.cause.Lacking = true
	} else {
		s.spot, s.message = c.spot(nil, n, "", "", ""), "the design lacks "+called(n)+what
		s.cause.Place = c.markupPlace(n)
	}
	c.out = append(c.out, s)
	return !holds
}
