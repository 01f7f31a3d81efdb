package svg

import (
	"math"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/limit"
	"archetyp/core/markup"
)

// context is what holds at a place in the tree while it is walked.
type context struct {
	style  *style
	ctm    geom.Matrix // user space → screen
	port   geom.Point  // size of the nearest viewport in user units: what percentages are of
	parent *design.Element
	paint  *design.PaintNode // what to paint into
	screen *design.Screen
	hidden bool
	clip   geom.Rect // what can be seen, in screen pixels
}

// noElement are the SVG elements that paint nothing where they stand.
var noElement = func() map[string]bool {
	m := map[string]bool{}
	for _, n := range strings.Fields(`defs symbol clipPath mask pattern linearGradient radialGradient marker filter style
		script title desc metadata animate animateTransform animateMotion set view font font-face cursor
		color-profile discard mpath meshgradient hatch`) {
		m[n] = true
	}
	return m
}()

// natives are what elements are beside what they show.
var natives = map[string]design.Native{"use": design.Instance, "svg": design.Viewport, "foreignObject": design.Embedded,
	"path": design.Outline}

func (b *builder) element(n *markup.Node, c context) {
	if n.Space != markup.SVG || noElement[n.Local] || b.failed != nil {
		return
	}
	if !b.over(n, b.opts.Budget.Time()) || len(b.using) > 0 && !b.spend(n, limit.Copies, 1) {
		return
	}
	st := b.style(n, c.style)
	e := &design.Element{Shape: n.Local, Native: natives[n.Local], Node: n, ID: n.ID(), Parent: c.parent, Screen: c.screen,
		Position: b.doc.Markup.Position(n.Offset)}
	e.Marks = design.ReadMarks(n, b.opts.Marks, b.match)
	e.Name = design.ElementName(n, e.Marks.Label)
	b.noteStated(e, st)
	if st.str("display", "inline") == "none" {
		c.hidden = true
	}
	local := b.transform(n, st, c)
	c.style, c.ctm = st, c.ctm.Mul(local)
	e.Matrix = c.ctm
	e.Hidden = c.hidden
	e.Paint = &design.PaintNode{Matrix: b.counted(n, st, local), Opacity: 1, Element: e}
	if c.hidden {
		c.paint = &design.PaintNode{} // read, but painted nowhere
	}
	c.paint.Children = append(c.paint.Children, e.Paint)
	c.parent.Children = append(c.parent.Children, e)
	c.parent, c.paint = e, e.Paint
	switch n.Local {
	case "g", "a":
		b.group(e, n, c, func(c context) { b.children(n, c) })
	case "switch":
		b.group(e, n, c, func(c context) { b.switchChild(n, c) })
	case "svg":
		b.group(e, n, c, func(c context) { b.nested(e, n, c) })
	case "use":
		b.group(e, n, c, func(c context) { b.use(e, n, c) })
	case "text":
		b.text(e, n, c)
	case "image":
		b.image(e, n, c)
	case "rect", "circle", "ellipse", "line", "polyline", "polygon", "path":
		b.shape(e, n, c)
	case "foreignObject":
		b.foreign(e, n, c)
	default:
		e.Kind = design.Group
		b.warn(n, "<"+n.Local+"> is not known in SVG; left out")
		p := c.paint
		e.Geometry = design.State(c.ctm.Rect(b.xywh(n, c)), "x, y, width, height")
		e.Layout, e.Painted = e.Geometry, e.Geometry
		p.Children = nil
	}
	b.checkReach(n, c.ctm, e.Geometry.Value)
	b.checkReach(n, e.Matrix, e.Painted.Value)
}

// transform is the element's own transform: the CSS property, else the attribute; with transform-origin.
func (b *builder) transform(n *markup.Node, st *style, c context) geom.Matrix {
	value, _, ok := st.Get("transform")
	if !ok {
		value, ok = n.Attr("transform")
	}
	if !ok {
		return geom.Identity
	}
	m, err := ParseTransform(value, st.units(0))
	if err != nil {
		b.warn(n, "transform left out: "+err.Error())
		return geom.Identity
	}
	origin, _, ok := st.Get("transform-origin")
	if !ok {
		return m
	}
	words := strings.Fields(origin)
	var o geom.Point
	if len(words) > 0 {
		o.X = originPart(words[0], st, c.port.X)
		o.Y = o.X
	}
	if len(words) > 1 {
		o.Y = originPart(words[1], st, c.port.Y)
	}
	return geom.Translate(o.X, o.Y).Mul(m).Mul(geom.Translate(-o.X, -o.Y))
}

// counted is the element's own transform to the bit that browsers paint it by.
func (b *builder) counted(n *markup.Node, st *style, meant geom.Matrix) geom.Matrix {
	if _, _, ok := st.Get("transform"); ok || meant == geom.Identity {
		return meant
	}
	if _, _, ok := st.Get("transform-origin"); ok {
		return meant
	}
	value, _ := n.Attr("transform")
	return countedTransform(value, meant)
}

func originPart(s string, st *style, percent float64) float64 {
	switch s {
	case "left", "top":
		return 0
	case "center":
		return percent / 2
	case "right", "bottom":
		return percent
	}
	l, err := css.ParseLength(s)
	if err != nil {
		return 0
	}
	return l.Px(st.units(percent))
}

// attrPx reads a length attribute that CSS may override; axis picks what percentages are of.
func (b *builder) attrPx(n *markup.Node, c context, name string, axis byte, or float64) float64 {
	v, ok := n.Attr(name)
	if strings.Contains(geometryProps[name], n.Local) {
		if s, _, has := c.style.Get(name); has {
			v, ok = s, true
		}
	}
	if !ok || strings.TrimSpace(v) == "auto" {
		return or
	}
	l, err := css.ParseLength(v)
	if err != nil {
		b.warn(n, name+": "+err.Error())
		return or
	}
	return l.Px(c.style.units(c.percent(axis)))
}

// percent is what 100 % is of, for a length along x, y or neither. https://www.w3.org/TR/SVG2/coords.html#Units
func (c context) percent(axis byte) float64 {
	switch axis {
	case 'x':
		return c.port.X
	case 'y':
		return c.port.Y
	}
	return math.Sqrt((c.port.X*c.port.X + c.port.Y*c.port.Y) / 2)
}

func (b *builder) xywh(n *markup.Node, c context) geom.Rect {
	return geom.Rect{X: b.attrPx(n, c, "x", 'x', 0), Y: b.attrPx(n, c, "y", 'y', 0),
		W: b.attrPx(n, c, "width", 'x', 0), H: b.attrPx(n, c, "height", 'y', 0)}
}

// group reads a container: what it does to all below, then what fill puts into it.
func (b *builder) group(e *design.Element, n *markup.Node, c context, fill func(context)) {
	e.Kind = design.Group
	c = b.effects(e, n, c)
	fill(c)
	b.finishGroup(e, n, c)
}

// finishGroup gives a container the boxes of what it holds.
func (b *builder) finishGroup(e *design.Element, n *markup.Node, c context) {
	b.takeShadows(e)
	var g, p, l geom.Rect
	set := false
	for _, k := range e.Children {
		if !k.Geometry.Set || (k.Hidden && !e.Hidden) {
			continue
		}
		if !set {
			g, p, l, set = k.Geometry.Value, k.Painted.Value, k.BorderBox(), true
			continue
		}
		g, p, l = unionAll(g, k.Geometry.Value), unionAll(p, k.Painted.Value), unionAll(l, k.BorderBox())
	}
	if !set {
		at := c.ctm.Apply(geom.Point{})
		e.Geometry = design.Derive(geom.Rect{X: at.X, Y: at.Y}, "empty")
		e.Painted, e.Layout = e.Geometry, e.Geometry
		return
	}
	e.Geometry = design.Derive(g, "union of its elements")
	if inv, ok := c.ctm.Inverse(); ok {
		c = b.boxEffects(e, n, c, inv.Rect(g))
	}
	e.Painted = design.Derive(b.paintedBox(e, p, c), "union of what its elements paint")
	if !e.Layout.Set { // a viewport has its own
		e.Layout = design.Derive(l, "union of its elements' layout boxes")
	}
	if bg := e.Background(); bg != nil {
		e.Layout = design.Derive(bg.Layout.Value, "its background")
	}
	b.recogniseFilter(e, c)
	if e.Paint.Opacity == 0 {
		e.Walk(func(x *design.Element) { x.Hidden = true })
	}
}

// unionAll is Union that counts flat and even dimensionless boxes by their place.
func unionAll(a, b geom.Rect) geom.Rect {
	x, y := math.Min(a.X, b.X), math.Min(a.Y, b.Y)
	return geom.Rect{X: x, Y: y, W: math.Max(a.Right(), b.Right()) - x, H: math.Max(a.Bottom(), b.Bottom()) - y}
}

// switchChild reads the first child whose conditions hold; English is the language asked for.
func (b *builder) switchChild(n *markup.Node, c context) {
	for _, k := range n.Elements() {
		if k.Space != markup.SVG || noElement[k.Local] {
			continue
		}
		if lang, ok := k.Attr("systemLanguage"); ok {
			english := false
			for _, l := range strings.Split(lang, ",") {
				l = strings.TrimSpace(l)
				english = english || l == "en" || strings.HasPrefix(l, "en-")
			}
			if !english {
				continue
			}
		}
		if ext, ok := k.Attr("requiredExtensions"); ok && strings.TrimSpace(ext) != "" &&
			strings.TrimSpace(ext) != markup.XHTML || k.Local == "foreignObject" && strings.TrimSpace(k.TextContent()) == "" {
			continue
		}
		b.element(k, c)
		return
	}
}

// nested reads an inner svg element: a viewport of its own, cut off at its edges unless overflow is visible.
func (b *builder) nested(e *design.Element, n *markup.Node, c context) {
	port := geom.Rect{X: b.attrPx(n, c, "x", 'x', 0), Y: b.attrPx(n, c, "y", 'y', 0),
		W: b.attrPx(n, c, "width", 'x', c.port.X), H: b.attrPx(n, c, "height", 'y', c.port.Y)}
	b.viewport(e, n, n, port, c)
}

// viewport reads the children of an svg or symbol into a viewport; n is the element they belong to.
func (b *builder) viewport(e *design.Element, n, aspect *markup.Node, port geom.Rect, c context) {
	m := geom.Translate(port.X, port.Y)
	c.port = geom.Point{X: port.W, Y: port.H}
	if vb, ok := viewBox(n); ok {
		m = fit(vb, port, aspect.AttrOr("preserveAspectRatio", ""))
		c.port = geom.Point{X: vb.W, Y: vb.H}
	}
	if port.W <= 0 || port.H <= 0 {
		return
	}
	inner := &design.PaintNode{Matrix: m, Opacity: 1}
	screenPort := c.ctm.Rect(port)
	if o := c.style.str("overflow", "hidden"); o != "visible" && o != "auto" {
		c.paint.Clip = &design.Clip{Shapes: []*design.PaintNode{{Matrix: geom.Identity, Opacity: 1, Path: port.Path()}},
			Clip: c.paint.Clip}
		c.clip = c.clip.Intersect(screenPort)
	}
	c.paint.Children = append(c.paint.Children, inner)
	c.paint, c.ctm = inner, c.ctm.Mul(m)
	b.children(n, c)
	e.Layout = design.Derive(screenPort, "its viewport")
}

// use reads a reference: what it points to is read again, here. https://www.w3.org/TR/SVG2/struct.html#UseElement
func (b *builder) use(e *design.Element, n *markup.Node, c context) {
	ref := n.Href()
	target := b.ids[strings.TrimPrefix(ref, "#")]
	if !strings.HasPrefix(ref, "#") || target == nil {
		b.warn(n, "<use> points to "+quoteRef(ref)+", which is not in the file; left out")
		return
	}
	if !b.enter(target) || isAncestor(target, n) {
		b.warn(n, "<use> of "+quoteRef(ref)+" holds itself; left out")
		b.leave()
		return
	}
	defer b.leave()
	if e.Name == "" {
		e.Name = design.ElementName(target, "")
	}
	x, y := b.attrPx(n, c, "x", 'x', 0), b.attrPx(n, c, "y", 'y', 0)
	shift := geom.Translate(x, y)
	inner := &design.PaintNode{Matrix: shift, Opacity: 1}
	c.paint.Children = append(c.paint.Children, inner)
	c.paint, c.ctm = inner, c.ctm.Mul(shift)
	if target.Is("symbol") || target.Is("svg") {
		c.style = b.style(target, c.style)
		if c.style.str("display", "inline") == "none" && !target.Is("symbol") {
			return
		}
		full := context{style: c.style, port: c.port}
		port := geom.Rect{W: c.port.X, H: c.port.Y}
		for _, n := range []*markup.Node{target, n} { // what <use> says goes before
			port.W = full.length(n, "width", 'x', port.W)
			port.H = full.length(n, "height", 'y', port.H)
		}
		b.viewport(e, target, target, port, c)
		e.Layout.Set = false
		return
	}
	b.element(target, c)
}

// length is a length that an attribute states along an axis, or another.
func (c context) length(n *markup.Node, name string, axis byte, or float64) float64 {
	if v, ok := n.Attr(name); ok {
		if l, err := css.ParseLength(v); err == nil {
			return l.Px(c.style.units(c.percent(axis)))
		}
	}
	return or
}

func quoteRef(ref string) string {
	if ref == "" {
		return "nothing"
	}
	return markup.Clip(ref)
}

// enter begins the expansion of a referenced element; false where it is being expanded already.
func (b *builder) enter(n *markup.Node) bool {
	ok := len(b.using) < 64
	for _, u := range b.using {
		ok = ok && u != n
	}
	b.using = append(b.using, n)
	return ok
}

func (b *builder) leave() { b.using = b.using[:len(b.using)-1] }

func isAncestor(a, n *markup.Node) bool {
	for ; n != nil; n = n.Parent {
		if n == a {
			return true
		}
	}
	return false
}
