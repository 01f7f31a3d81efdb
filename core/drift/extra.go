package drift

import (
	"strings"

	"archetyp/core/design"
	"archetyp/core/markup"
	"archetyp/core/match"
)

// extra finds what the page has and the drawing lacks: the outermost elements that show something.
func (d *drawn) extra(e *design.Element) {
	on := map[*design.Element]bool{}
	for i := range d.pairs {
		on[d.pairs[i].Page] = true
	}
	var visit func(e *design.Element)
	visit = func(e *design.Element) {
		if e.Hidden || e.Node == nil || e.Node.Local == "title" || e.Node.Local == "meta" || e.Node.Kind == markup.Element && silent(element(e.Node)) {
			return
		}
		if !on[e] && e != d.page.Screens[0].Root {
			holds, shows := false, false
			e.Walk(func(k *design.Element) {
				holds = holds || on[k]
				if k.Hidden || k.Node == nil {
					return
				}
				shows = shows || k.Words != nil && k.Words.Words != "" || k.Node.Kind == markup.Element && !strings.HasPrefix(k.Node.Local, "::") && (asking{d.page.Styles, k.Node}).shown(false) && k.Kind != design.Group
			})
			paints := e.Node.Kind == markup.Element && match.PaintsItself(e)
			if !holds && !shows && !paints || d.inText(e, on) {
				return
			}
			if !holds || paints {
				d.adds(e, holds)
			}
			if !holds {
				return
			}
		}
		for _, k := range e.Children {
			visit(k)
		}
	}
	visit(e)
}

// inText reports whether an element stands in a line of words that has a partner.
func (d *drawn) inText(e *design.Element, on map[*design.Element]bool) bool {
	for up := e.Parent; up != nil; up = up.Parent {
		if on[up] && up.Words != nil {
			return true
		}
	}
	return false
}

func (d *drawn) adds(e *design.Element, only bool) {
	n := e.Node
	if n.Kind == markup.Text {
		n = n.Parent
	}
	s := seen{kind: Extra, spot: d.spot(nil, "", "", "")}
	s.spot.Site = d.ref(n)
	s.cause.Place = d.place(n)
	what := called(n)
	if e.Words != nil {
		what = "the words " + quoted(e.Words.Words)
	} else if w := allWords(n); w != "" && !only {
		what += " " + quoted(w)
	}
	if only {
		what = "what " + what + " paints"
		if r := d.page.Styles.Rules(n); len(r) > 0 && r[0].Place.Line > 0 {
			s.cause.Selector, s.cause.Place = r[0].Selector, r[0].Place
		}
	}
	s.message = "the design lacks " + what
	d.out = append(d.out, s)
}
