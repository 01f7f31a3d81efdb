package drift

import (
	"math"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/markup"
	"archetyp/core/match"
)

// seenSizes compares the sizes of boxes as a browser laid them out, where it did: of those whose size no declared length
// explains already. A box that holds others is only as large as they make it: the innermost is reported.
func (d *drawn) seenSizes() {
	if d.page.Boxless {
		return
	}
	listed := map[string]bool{} // elements of the page with another size or space, by selector and axis
	for _, s := range d.out {
		if s.kind == Size || s.kind == Space || s.kind == Type || s.kind == Words || s.kind == Border {
			listed[s.spot.Site.Selector+axis(s.spot.Prop)] = true
			if s.kind == Type || s.kind == Words {
				listed[s.spot.Site.Selector+"x"], listed[s.spot.Site.Selector+"y"] = true, true
			}
		}
	}
	explained := map[*design.Element][2]bool{} // containers of what differs
	for i := len(d.pairs) - 1; i >= 0; i-- {
		x := &d.pairs[i]
		if x.Part != "" || x.Why == match.ByGround || x.Drawn.Words != nil || x.Page.Node.Kind != markup.Element || !x.Page.Geometry.Set {
			continue
		}
		if x.Drawn.Kind != design.Box && (x.Drawn.Kind != design.Group || x.Drawn.Background() == nil) {
			continue
		}
		n := d.node(x)
		was, _ := ground(x.Drawn)
		is := x.Page.BorderBox()
		ref := d.ref(n)
		for k, a := range []struct {
			property, axis string
			was, is        float64
		}{{"width", "x", was.W, is.W}, {"height", "y", was.H, is.H}} {
			if math.Abs(a.was-a.is) <= max(1, d.in.Tolerances.Length) {
				continue
			}
			fits := k == 0 && (d.texts[x.Page] || d.part) // as wide as its words, or as what a component stands in
			skip := fits || explained[x.Drawn][k] || listed[ref.Selector+a.axis] || a.is < a.was && d.missingIn(x.Drawn)
			for up := x.Drawn; up != nil; up = up.Parent {
				e := explained[up]
				e[k] = true
				explained[up] = e
			}
			if skip {
				continue
			}
			c := claim{property: a.property, value: css.Px(design.Tidy(a.was)), written: a.property + ": " + css.Px(design.Tidy(a.was)) + ";"}
			d.differs(x, n, c, css.Px(design.Tidy(math.Round(a.is*100)/100)), math.Abs(a.was-a.is), "px")
		}
	}
}

// axis is the direction that a property counts in.
func axis(property string) string {
	for _, w := range []string{"top", "bottom", "height", "row", "block"} {
		if strings.Contains(property, w) {
			return "y"
		}
	}
	return "x"
}

// missingIn reports whether the page lacks something that a container holds, which makes it smaller.
func (d *drawn) missingIn(g *design.Element) bool {
	box, _ := ground(g)
	for _, e := range d.lacking {
		if e.Ancestor(func(x *design.Element) bool { return x == g }) != nil {
			return true
		}
		if b := e.BorderBox(); e.Parent == g.Parent && b.X >= box.X && b.Right() <= box.Right() && b.Y >= box.Y && b.Bottom() <= box.Bottom() { // it lies on the box
			return true
		}
	}
	return false
}
