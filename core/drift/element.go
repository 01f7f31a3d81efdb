package drift

import (
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/markup"
	"archetyp/core/match"
)

// Partner is the element of a drawing that an element of a page is, with what both say.
type Partner struct {
	Drawn *design.Element
	Why   match.Reason
	Facts []Fact
}

// Fact is a property of an element on both sides.
type Fact struct {
	Property string `json:"property"`
	Design   string `json:"design"`
	Site     string `json:"site"`
	Differs  bool   `json:"differs,omitempty"`
}

// PartnerOf finds the element of a drawing that an element of a page is, or that the nearest one around it is; nil for
// none.
func PartnerOf(in *In, p *DrawingPair, n *markup.Node) *Partner {
	d := &drawn{in: in, view: p.View, screen: p.Screen.Name, page: p.Page}
	d.match(p.Screen.Root, p.Page.Screens[0].Root, match.AcrossOptions{Hand: p.Hand, Whole: true})
	for at := n; at != nil && at.Kind == markup.Element && at.Local != "body"; at = parent(at) {
		var out *Partner
		for i := range d.pairs {
			x := &d.pairs[i]
			if d.node(x) != at {
				continue
			}
			a := asked{element: x.Drawn, text: x.Drawn.Words != nil}
			a.box = !a.text && (x.Drawn.Kind == design.Box || x.Drawn.Background() != nil)
			if out == nil {
				out = &Partner{Drawn: x.Drawn, Why: x.Why}
			}
			for _, c := range claims([]asked{a})[0] {
				if c.silent {
					continue
				}
				is := asking{d.page.Styles, at}.get(c.property)
				_, _, same := in.Tolerances.apart(c.property, c.value, is)
				same = same || d.round(x, c.value, is) || c.property == "font-family" && first(is) == first(c.value)
				f := Fact{c.property, plainColours(c.value), plainColours(is), !same}
				if c.value == "none" && is == "none" {
					continue
				}
				if strings.HasPrefix(f.Property, "border-") {
					f.Property = shorthandOf(f.Property)
				}
				if !slices.Contains(out.Facts, f) { // the four sides of a box are one
					out.Facts = append(out.Facts, f)
				}
			}
		}
		if out != nil {
			return out
		}
	}
	return nil
}
