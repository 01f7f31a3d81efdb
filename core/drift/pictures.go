package drift

import (
	"fmt"
	"math"

	"archetyp/core/design"
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
