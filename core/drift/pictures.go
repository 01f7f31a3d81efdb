package drift

import (
	"fmt"
	"math"

	"archetyp/core/design"
	"archetyp/core/digest"
	"archetyp/core/markup"
	"archetyp/core/match"
)

// leastLike is how like a picture of the site has to be to the drawing's, 0–1.
const leastLike = 0.95

// pictures compares pictures of the page with what is drawn there.
func (d *drawn) pictures() {
	if d.in.Likeness == nil {
		return
	}
	var byNode map[*markup.Node]*design.PagePicture
	for i := range d.pairs {
		x := &d.pairs[i]
		if x.Page.Kind != design.Image || x.Part != "" || !match.Drawing(x.Drawn) {
			continue
		}
		if byNode == nil {
			byNode = map[*markup.Node]*design.PagePicture{}
			list := d.page.Styles.Pictures()
			for k := range list {
				if n := list[k].Node; n != nil && byNode[n] == nil {
					byNode[n] = &list[k]
				}
			}
		}
		p := byNode[x.Page.Node]
		if p == nil || len(p.Data) == 0 {
			continue
		}
		share, ok := d.in.Likeness(x.Drawn, p)
		if !ok || share >= leastLike {
			continue
		}
		s := seen{kind: Picture, far: math.Round((1-share)*1000) / 10, unit: "%", spot: d.spot(x, "picture", "", "")}
		s.message = fmt.Sprintf("%s is %.0f %% like %s in the design", called(d.node(x)), 100*share, part(x.Drawn))
		s.cause.Place = d.place(d.node(x))
		d.out = append(d.out, s)
	}
}

// pictures compares the files of pictures and fonts that have the same address on both sides.
func (c *comparing) pictures() {
	sums := map[string]string{}
	for _, p := range c.view.Design.Styles.Pictures() {
		if len(p.Data) > 0 && p.Address != "" {
			sums[p.Kind+"\x00"+relative(p.Address, c.pair.Bases[0])] = digest.Of(string(p.Data))
		}
	}
	for _, p := range c.view.Site.Styles.Pictures() {
		address := relative(p.Address, c.pair.Bases[1])
		was, ok := sums[p.Kind+"\x00"+address]
		if !ok || len(p.Data) == 0 || was == digest.Of(string(p.Data)) {
			continue
		}
		s := seen{kind: Picture, message: fmt.Sprintf("%s is another %s than in the design", address, map[bool]string{true: "font", false: "picture"}[p.Kind == "font"])}
		s.spot = Spot{Screen: c.pair.Screen, View: c.view.View, Site: Ref{Source: p.Place.File, Element: p.By, Line: p.Place.Line, Column: p.Place.Column}, Prop: "file", Was: was, Is: digest.Of(string(p.Data))}
		if p.Node != nil {
			s.spot.Site = c.ref(1, p.Node)
		}
		s.cause.Place = p.Place
		c.out = append(c.out, s)
	}
}
