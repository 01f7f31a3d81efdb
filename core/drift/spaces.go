package drift

import (
	"math"
	"slices"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/markup"
	"archetyp/core/match"
)

// What a drawing says of room, and a style sheet without a layout: lengths that are declared in px, stripes along an
// edge, the height of a box of one line, the inset of what stands at the left edge, gaps between boxes in a row.

// near reports whether two lengths are the same.
func (d *drawn) near(a, b float64) bool { return math.Abs(a-b) <= max(d.in.Tolerances.Length, 0.5) }

// length notes a length of the page that is another than the drawing's.
func (d *drawn) length(x *match.Across, n *markup.Node, kind Kind, property string, was, is float64) {
	if d.near(was, is) {
		d.counted(n, property, true)
		return
	}
	d.counted(n, property, false)
	c := claim{property: property, value: css.Px(design.Tidy(was)), written: property + ": " + css.Px(design.Tidy(was)) + ";"}
	d.differs(x, n, c, css.Px(design.Tidy(is)), math.Abs(was-is), "px")
	d.out[len(d.out)-1].kind = kind
}

// sum adds computed lengths; ok is false where one is not in px.
func (a asking) sum(properties ...string) (total float64, ok bool) {
	for _, p := range properties {
		v, is := pixels(a.get(p))
		if !is {
			return 0, false
		}
		total += v
	}
	return total, true
}

var (
	across = []string{"padding-left", "padding-right", "border-left-width", "border-right-width"}
	down   = []string{"padding-top", "padding-bottom", "border-top-width", "border-bottom-width"}
)

// sizes compares widths and heights that the page declares in px.
func (d *drawn) sizes(x *match.Across) {
	n := d.node(x)
	if n.Kind != markup.Element || x.Part != "" {
		return
	}
	ask := asking{d.page.Styles, n}
	box := x.Drawn.Face().BorderBox()
	if g := x.Drawn; g.Kind == design.Group {
		box = g.BorderBox()
		if bg := g.Background(); bg != nil {
			box = bg.BorderBox()
		}
	}
	if ask.get("display") == "inline" && !replaced(n) {
		return
	}
	set := d.page.Styles.Set(n)
	one := func(property string, was float64, around []string) bool {
		if !slices.Contains(set, property) {
			return false
		}
		is, ok := pixels(ask.get(property))
		if !ok {
			return false
		}
		if ask.get("box-sizing") == "content-box" {
			more, _ := ask.sum(around...)
			is += more
		}
		d.length(x, n, Size, property, was, is)
		return true
	}
	one("width", box.W, across)
	if !one("height", box.H, down) {
		d.line(x, n, ask, box)
	}
}

// line compares the height of a box that holds one line of words and nothing else.
func (d *drawn) line(x *match.Across, n *markup.Node, ask asking, box geom.Rect) {
	if !d.texts[x.Page] || len(n.Elements()) > 0 || ask.oneOf("min-height", "100%") {
		return
	}
	var text *design.Element
	lines := 0
	x.Drawn.Walk(func(e *design.Element) {
		if e.Words != nil && !e.Hidden {
			lines += max(1, len(e.Words.Lines))
			text = e
		}
	})
	if lines != 1 || text == nil {
		return
	}
	height, ok := ask.sum(append([]string{"line-height"}, down...)...)
	if !ok {
		return
	}
	if least, ok := pixels(ask.get("min-height")); ok && least > height {
		height = least
	}
	if d.near(box.H, height) {
		return
	}
	padding, _ := ask.sum("padding-top", "padding-bottom")
	d.length(x, n, Size, "padding-top", math.Max(0, (padding+box.H-height)/2), padding/2)
	d.out[len(d.out)-1].property = "padding-block"
	d.out[len(d.out)-1].claimed = "padding-block: " + css.Px(design.Tidy(math.Max(0, (padding+box.H-height)/2))) + ";"
}

// sides of a box, with where a stripe along one lies.
var sides = []string{"top", "right", "bottom", "left"}

// stripe is the side of a container that a thin box lies along, inside or just outside; "" for none.
func stripe(e *design.Element, of geom.Rect) (side string, width float64) {
	if e.Kind != design.Box || len(e.Fills) == 0 {
		return "", 0
	}
	const thickest = 12
	b := e.BorderBox()
	switch {
	case b.H <= thickest && b.W >= 0.9*of.W && b.H < b.W:
		if math.Abs(b.Y-of.Y) <= b.H+0.5 {
			return "top", b.H
		} else if math.Abs(b.Bottom()-of.Bottom()) <= b.H+0.5 {
			return "bottom", b.H
		}
	case b.W <= thickest && b.H >= 0.9*of.H && b.W < b.H:
		if math.Abs(b.X-of.X) <= b.W+0.5 {
			return "left", b.W
		} else if math.Abs(b.Right()-of.Right()) <= b.W+0.5 {
			return "right", b.W
		}
	}
	return "", 0
}

// ground is the box that a container lies on.
func ground(g *design.Element) (geom.Rect, *design.Element) {
	if g.Kind == design.Group {
		if bg := g.Background(); bg != nil {
			return bg.BorderBox(), bg
		}
	}
	return g.BorderBox(), nil
}

// edge is the pair whose border an element of the drawing is: a stripe along a side of its container, or of a box beside
// it, where the page has a border; nil for none.
func (d *drawn) edge(e *design.Element) *match.Across {
	if e.Parent == nil || d.of[e] != nil {
		return nil
	}
	bordered := func(x *match.Across, box geom.Rect) bool {
		side, _ := stripe(e, box)
		if side == "" {
			return false
		}
		v, _ := pixels(asking{d.page.Styles, d.node(x)}.get("border-" + side + "-width"))
		return v > 0
	}
	if x := d.of[e.Parent]; x != nil {
		if box, bg := ground(e.Parent); bg != nil && bg != e && bordered(x, box) {
			return x
		}
	}
	for _, k := range e.Parent.Children {
		if x := d.of[k]; x != nil && k != e && k.Kind == design.Box && bordered(x, k.BorderBox()) {
			return x
		}
	}
	return nil
}

// stripes are the stripes along the sides of a box, or of what a container lies on.
func (d *drawn) stripes(x *match.Across) map[string]*design.Element {
	out := map[string]*design.Element{}
	g := x.Drawn
	box, _ := ground(g)
	near := g.Children
	if g.Kind != design.Group && g.Parent != nil {
		near = g.Parent.Children
	}
	for _, k := range near {
		if k.Hidden || d.edge(k) != x {
			continue
		}
		if side, _ := stripe(k, box); side != "" {
			out[side] = k
		}
	}
	return out
}

// borders compares stripes along the sides of a container with the borders of the page, and takes back what claims reported
// of sides without any.
func (d *drawn) borders(x *match.Across) {
	n := d.node(x)
	ask := asking{d.page.Styles, n}
	stripes := d.stripes(x)
	for _, side := range sides {
		e := stripes[side]
		if e == nil {
			continue
		}
		d.out = slices.DeleteFunc(d.out, func(s seen) bool {
			return s.spot.Design == drawnRef(x.Drawn) && strings.HasPrefix(s.spot.Prop, "border-"+side+"-") && !strings.Contains(s.spot.Prop, "radius")
		})
		box, _ := ground(x.Drawn)
		_, width := stripe(e, box)
		if is, ok := pixels(ask.get("border-" + side + "-width")); ok {
			d.length(x, n, Border, "border-"+side+"-width", width, is)
		}
		for _, c := range claims([]asked{{element: e, box: true}})[0] {
			if c.property == "background-color" {
				c.property = "border-" + side + "-color"
				c.written = c.property + ": " + c.value + ";"
				d.claim(x, c)
			}
		}
	}
}

// insets compares how far what stands at the left of a container is from its edge.
func (d *drawn) insets(x *match.Across) {
	g := x.Drawn
	if g.Kind != design.Group || g.Background() == nil {
		return
	}
	box, bg := ground(g)
	stripes := d.stripes(x)
	left, most := math.Inf(1), (*design.Element)(nil)
	g.Walk(func(e *design.Element) {
		if e == g || e == bg || e.Hidden || e.Kind == design.Group || stripes["left"] == e || stripes["top"] == e || stripes["bottom"] == e || stripes["right"] == e {
			return
		}
		b := e.BorderBox()
		if b.X < left-0.5 || math.Abs(b.X-left) <= 0.5 && most != nil && most.Words == nil && e.Words != nil {
			left, most = b.X, e
		}
	})
	if most == nil || most.Words == nil || d.of[most] == nil || d.of[most].Part != "" {
		return
	}
	if strings.Contains(design.InTheMiddle(most.BorderBox(), box), "across") { // it is centred, not inset
		return
	}
	if b := most.BorderBox(); math.Abs((b.X-box.X)-(box.Right()-b.Right())) < 1 {
		return
	}
	n, on := d.node(x), d.node(d.of[most])
	if on != n && on.Local == "option" || d.leads(on) != "" && on != n {
		return
	}
	total := 0.0
	for at := on; ; at = parent(at) {
		ask := asking{d.page.Styles, at}
		if at != n && !d.leading(at) || ask.oneOf("text-align", "center", "right", "end") && ask.get("display") != "flex" {
			return
		}
		v, ok := ask.sum("padding-left", "border-left-width")
		if !ok {
			return
		}
		total += v
		if at == n {
			if ask.displays("flex", "grid") && !ask.oneOf("justify-content", "normal", "start", "flex-start", "stretch", "space-between") {
				return
			}
			break
		}
		if v, ok = ask.sum("margin-left"); !ok {
			return
		}
		total += v
		if parent(at) == nil || parent(at).Kind != markup.Element {
			return
		}
	}
	was := left - box.X
	if d.near(was, total) {
		d.counted(n, "padding-left", true)
		return
	}
	ask := asking{d.page.Styles, n}
	padding, _ := pixels(ask.get("padding-left"))
	d.length(x, n, Space, "padding-left", math.Max(0, padding+was-total), padding)
}

// leads says why the place of an element across does not follow from what stands before it; "" for that it does.
func (d *drawn) leads(n *markup.Node) string {
	ask := asking{d.page.Styles, n}
	if ask.oneOf("position", "absolute", "fixed") || !ask.oneOf("float", "none") || ask.get("margin-left") == "auto" {
		return "it stands free"
	}
	return ""
}

// leading reports whether an element begins where the content of the one around it does.
func (d *drawn) leading(n *markup.Node) bool {
	if d.leads(n) != "" {
		return false
	}
	up := parent(n)
	if up == nil {
		return false
	}
	ask := asking{d.page.Styles, up}
	self := asking{d.page.Styles, n}
	switch {
	case ask.displays("grid", "flex") && !ask.oneOf("flex-direction", "column"):
		for _, k := range up.Children {
			if k.Kind == markup.Text && strings.TrimSpace(k.Data) != "" {
				return false
			}
			if k.Kind == markup.Element && !silent(k) && !(asking{d.page.Styles, k}).hides() {
				if k == n {
					return true
				}
				return ask.displays("grid") && !strings.Contains(ask.get("grid-template-columns"), " ") // one column
			}
		}
		return false
	case self.oneOf("display", "inline", "inline-block", "inline-flex"):
		for _, k := range up.Children {
			if k == n {
				return true
			}
			if k.Kind == markup.Element && k.Local == "br" || k.Kind == markup.Text && strings.TrimSpace(k.Data) == "" {
				continue
			}
			break
		}
		return false
	}
	return true
}

// gaps compares the room between boxes that follow each other in a container.
func (d *drawn) gaps() {
	type item struct {
		x     *match.Across
		box   geom.Rect
		solid map[string]bool
	}
	byParent := map[*markup.Node][]item{}
	var order []*markup.Node
	for i := range d.pairs {
		x := &d.pairs[i]
		if x.Part != "" || x.Drawn.Kind != design.Group || x.Page.Words != nil && !d.boxes[d.node(x)] {
			continue
		}
		n := d.node(x)
		up := parent(n)
		if up == nil || up.Kind != markup.Element || n == d.page.Screens[0].Root.Node {
			continue
		}
		if byParent[up] == nil {
			order = append(order, up)
		}
		box, _ := ground(x.Drawn)
		byParent[up] = append(byParent[up], item{x, box, solid(x.Drawn, box)})
	}
	for _, up := range order {
		list := byParent[up]
		slices.SortStableFunc(list, func(a, b item) int { return d.node(a.x).Offset - d.node(b.x).Offset })
		ask := asking{d.page.Styles, up}
		for i := 1; i < len(list); i++ {
			a, b := list[i-1], list[i]
			if a.x.Drawn.Parent != b.x.Drawn.Parent || next(d.node(a.x)) != d.node(b.x) {
				continue
			}
			stacked := b.box.Y >= a.box.Bottom() && math.Abs(a.box.X-b.box.X) < 1 && a.solid["bottom"] && b.solid["top"]
			beside := b.box.X >= a.box.Right() && math.Abs(a.box.Y-b.box.Y) < 1 && a.solid["right"] && b.solid["left"]
			na, nb := asking{d.page.Styles, d.node(a.x)}, asking{d.page.Styles, d.node(b.x)}
			switch {
			case stacked && ask.displays("grid", "flex") && (ask.displays("grid") || strings.HasPrefix(ask.get("flex-direction"), "column")):
				gap, ok := pixels(ask.get("row-gap"))
				margins, also := asking.sum(na, "margin-bottom")
				more, too := nb.sum("margin-top")
				if ok && also && too && margins+more == 0 {
					d.length(b.x, up, Space, "row-gap", b.box.Y-a.box.Bottom(), gap)
				}
			case beside && ask.displays("grid", "flex"):
				gap, ok := pixels(ask.get("column-gap"))
				if ok && !ask.oneOf("justify-content", "space-between", "space-around", "space-evenly") && nb.get("margin-left") == "0px" && na.get("margin-right") == "0px" {
					d.length(b.x, up, Space, "column-gap", b.box.X-a.box.Right(), gap)
				}
			case stacked && ask.oneOf("display", "block", "list-item", "flow-root"):
				top, ok := pixels(nb.get("margin-top"))
				bottom, also := pixels(na.get("margin-bottom"))
				if ok && also {
					if top >= bottom {
						d.length(b.x, d.node(b.x), Space, "margin-top", b.box.Y-a.box.Bottom(), top)
					} else {
						d.length(a.x, d.node(a.x), Space, "margin-bottom", b.box.Y-a.box.Bottom(), bottom)
					}
				}
			}
		}
	}
}

// solid are the sides of a container on which a box with a background ends: where words do, a line has more room.
func solid(g *design.Element, box geom.Rect) map[string]bool {
	out := map[string]bool{}
	g.Walk(func(e *design.Element) {
		if e.Kind != design.Box || e.Hidden || len(e.Fills) == 0 {
			return
		}
		b := e.BorderBox()
		for side, at := range map[string][2]float64{"top": {b.Y, box.Y}, "bottom": {b.Bottom(), box.Bottom()}, "left": {b.X, box.X}, "right": {b.Right(), box.Right()}} {
			if math.Abs(at[0]-at[1]) < 0.5 {
				out[side] = true
			}
		}
	})
	return out
}

// next is the element that follows an element.
func next(n *markup.Node) *markup.Node {
	up := n.Parent
	if up == nil {
		return nil
	}
	for _, k := range up.Children[n.Index+1:] {
		if k.Kind == markup.Element && !silent(k) {
			return k
		}
	}
	return nil
}
