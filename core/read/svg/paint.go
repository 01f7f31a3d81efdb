package svg

import (
	"math"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/geom/pathdata"
	"archetyp/core/markup"
)

func strokeFirst(s *style) bool {
	order := s.str("paint-order", "normal")
	stroke, fill := strings.Index(order, "stroke"), strings.Index(order, "fill")
	return stroke >= 0 && (fill < 0 || stroke < fill)
}

// fillAndStroke sets both on the element and its paint. box is the shape's box in user space.
func (b *builder) fillAndStroke(e *design.Element, n *markup.Node, c context, box geom.Rect) {
	if p, ok := b.paint(n, c, "fill", box); ok && n.Local != "line" {
		e.Paint.Fill = &p
		e.Fills = append(e.Fills, fact(c.style, n, "fill", p))
	}
	if s, ok := b.stroke(n, c, box); ok {
		e.Paint.Stroke = &s
		scale := c.ctm.MeanScale()
		if s.Fixed {
			scale = 1
		}
		f := design.Stroke{Paint: s.Paint, Width: s.Width * scale, Offset: s.Offset * scale, Cap: s.Cap, Join: s.Join,
			Miter: c.style.num("stroke-miterlimit", 4)}
		for _, d := range s.Dashes {
			f.Dashes = append(f.Dashes, d*scale)
		}
		e.Strokes = append(e.Strokes, fact(c.style, n, "stroke", f))
	}
}

// paint reads the fill or stroke property. ok is false for none and for what paints nothing.
func (b *builder) paint(n *markup.Node, c context, prop string, box geom.Rect) (design.Paint, bool) {
	value, _, ok := c.style.Get(prop)
	if !ok {
		if prop == "stroke" {
			return design.Paint{}, false
		}
		value = "#000000"
	}
	opacity := c.style.share(prop+"-opacity", 1)
	if id, rest, isURL := css.URLFragment(value); isURL {
		if p, ok := b.server(id, c, box, opacity); ok {
			return p, true
		}
		if target := b.ids[id]; target != nil && (rest == "" || rest == "none") {
			return design.Paint{}, false // it is there but has nothing to paint with
		}
		if rest == "" {
			b.warn(n, prop+" points to #"+markup.Clip(id)+", which is not in the file; nothing is painted with it")
		}
		value = rest
	}
	v := strings.ToLower(strings.TrimSpace(value))
	if v == "" || v == "none" || v == "context-fill" || v == "context-stroke" {
		return design.Paint{}, false
	}
	col, err := c.style.color(value)
	if err != nil { // an invalid value falls back to what is inherited: for the picture, the initial one
		b.warn(n, prop+": "+err.Error())
		if prop == "stroke" {
			return design.Paint{}, false
		}
		col = color.Black
	}
	col.Alpha *= opacity
	return design.Paint{Kind: design.Solid, Color: col, Opacity: 1}, true
}

func (b *builder) stroke(n *markup.Node, c context, box geom.Rect) (design.PaintStroke, bool) {
	p, ok := b.paint(n, c, "stroke", box)
	s := design.PaintStroke{Paint: p}
	st := c.style
	s.Width = st.px("stroke-width", 1, c.percent(0))
	if !ok || s.Width <= 0 {
		return s, false
	}
	s.Cap = st.str("stroke-linecap", "butt")
	s.Join = st.str("stroke-linejoin", "miter")
	s.Miter = math.Max(1, st.num("stroke-miterlimit", 4))
	s.Offset = st.px("stroke-dashoffset", 0, c.percent(0))
	s.Fixed = st.str("vector-effect", "none") == "non-scaling-stroke"
	if v := st.str("stroke-dasharray", "none"); v != "none" {
		var sum float64
		for _, w := range strings.FieldsFunc(v, func(r rune) bool { return r == ',' || r == ' ' || r == '\t' || r == '\n' }) {
			l, err := css.ParseLength(w)
			if err != nil || l.Value < 0 {
				sum = 0
				break
			}
			s.Dashes = append(s.Dashes, l.Px(st.units(c.percent(0))))
			sum += s.Dashes[len(s.Dashes)-1]
		}
		if sum == 0 {
			s.Dashes = nil
		}
	}
	return s, true
}

// gradientDef is a gradient element with what it inherits by href; attributes are still as written.
type gradientDef struct {
	node  *markup.Node
	attrs map[string]string
	stops []design.Stop
}

// server makes a paint of a gradient or pattern for a box in user space.
func (b *builder) server(id string, c context, box geom.Rect, opacity float64) (design.Paint, bool) {
	n := b.ids[id]
	switch {
	case n == nil:
		return design.Paint{}, false
	case n.Is("linearGradient"), n.Is("radialGradient"):
		return b.gradient(b.gradientDef(n), c, box, opacity)
	case n.Is("pattern"):
		return b.pattern(n, c, box, opacity)
	}
	return design.Paint{}, false
}

func (b *builder) gradientDef(n *markup.Node) *gradientDef {
	if d, ok := b.grads[n]; ok {
		return d
	}
	d := &gradientDef{node: n, attrs: map[string]string{}}
	seen := map[*markup.Node]bool{}
	for m := n; m != nil && !seen[m]; m = b.ids[strings.TrimPrefix(m.Href(), "#")] {
		seen[m] = true
		if !m.Is("linearGradient") && !m.Is("radialGradient") {
			break
		}
		for _, a := range m.Attrs {
			if _, has := d.attrs[a.Local]; !has && a.Space == "" {
				d.attrs[a.Local] = a.Value
			}
		}
		if len(d.stops) == 0 {
			d.stops = b.stops(m)
		}
		if m.Href() == "" {
			break
		}
	}
	b.grads[n] = d
	return d
}

func (b *builder) stops(n *markup.Node) []design.Stop {
	var out []design.Stop
	last := 0.0
	for _, k := range n.Elements() {
		if !k.Is("stop") {
			continue
		}
		st := b.nodeStyle(k)
		s := design.Stop{Color: color.Black}
		if l, err := css.ParseLength(k.AttrOr("offset", "0")); err == nil {
			s.Offset = math.Min(1, math.Max(0, l.Px(css.Units{Percent: 1})))
		}
		s.Offset = math.Max(last, s.Offset)
		last = s.Offset
		if v, _, ok := st.Get("stop-color"); ok {
			col, err := st.color(v)
			if err != nil {
				b.warn(k, "stop-color: "+err.Error())
			} else {
				s.Color = col
			}
		}
		s.Color.Alpha *= st.share("stop-opacity", 1)
		out = append(out, s)
	}
	return out
}

func (b *builder) gradient(d *gradientDef, c context, box geom.Rect, opacity float64) (design.Paint, bool) {
	if len(d.stops) == 0 {
		return design.Paint{}, false
	}
	if len(d.stops) == 1 {
		return solidOf(d.stops[0].Color, opacity), true
	}
	boxUnits := d.attrs["gradientUnits"] != "userSpaceOnUse"
	if boxUnits && (box.W <= 0 || box.H <= 0) { // a box without area has no such gradient
		return design.Paint{}, false
	}
	m, err := ParseTransform(d.attrs["gradientTransform"], css.Units{Em: 16, Rem: 16})
	if err != nil {
		b.warn(d.node, "gradientTransform left out: "+err.Error())
		m = geom.Identity
	}
	st := b.nodeStyle(d.node)
	coord := func(name string, axis byte, or float64) float64 {
		v, ok := d.attrs[name]
		if !ok {
			v, ok = "", false
			if boxUnits {
				return or
			}
			return or * c.percent(axis)
		}
		l, err := css.ParseLength(v)
		if err != nil {
			return or
		}
		if boxUnits {
			return l.Px(css.Units{Percent: 1, Em: st.fontSize, Rem: 16})
		}
		return l.Px(st.units(c.percent(axis)))
	}
	g := &design.Gradient{Stops: d.stops, Matrix: m, Spread: d.attrs["spreadMethod"], ID: d.node.ID()}
	if g.Spread == "" {
		g.Spread = "pad"
	}
	if boxUnits {
		g.Matrix, g.Shares = geom.Matrix{A: box.W, D: box.H, E: box.X, F: box.Y}.Mul(m), true
	}
	last := d.stops[len(d.stops)-1].Color
	if d.node.Is("linearGradient") {
		g.P0 = geom.Point{X: coord("x1", 'x', 0), Y: coord("y1", 'y', 0)}
		g.P1 = geom.Point{X: coord("x2", 'x', 1), Y: coord("y2", 'y', 0)}
		if g.P0 == g.P1 {
			return solidOf(last, opacity), true
		}
		return design.Paint{Kind: design.Linear, Gradient: g, Opacity: opacity}, true
	}
	cx, cy := coord("cx", 'x', 0.5), coord("cy", 'y', 0.5)
	g.P1, g.R1 = geom.Point{X: cx, Y: cy}, coord("r", 0, 0.5)
	g.P0, g.R0 = geom.Point{X: coord("fx", 'x', math.NaN()), Y: coord("fy", 'y', math.NaN())}, coord("fr", 0, 0)
	if math.IsNaN(g.P0.X) {
		g.P0.X = cx
	}
	if math.IsNaN(g.P0.Y) {
		g.P0.Y = cy
	}
	if g.R1 <= 0 {
		return solidOf(last, opacity), true
	}
	return design.Paint{Kind: design.Radial, Gradient: g, Opacity: opacity}, true
}

func solidOf(c color.Color, opacity float64) design.Paint {
	return design.Paint{Kind: design.Solid, Color: c.WithAlpha(opacity), Opacity: 1}
}

// pattern makes a tile. https://www.w3.org/TR/SVG2/pservers.html#Patterns
func (b *builder) pattern(n *markup.Node, c context, box geom.Rect, opacity float64) (design.Paint, bool) {
	attrs := map[string]string{}
	content := n
	seen := map[*markup.Node]bool{}
	for m := n; m != nil && !seen[m] && m.Is("pattern"); m = b.ids[strings.TrimPrefix(m.Href(), "#")] {
		seen[m] = true
		for _, a := range m.Attrs {
			if _, has := attrs[a.Local]; !has && a.Space == "" {
				attrs[a.Local] = a.Value
			}
		}
		if len(content.Elements()) == 0 {
			content = m
		}
		if m.Href() == "" {
			break
		}
	}
	if !b.enter(n) {
		b.warn(n, "the pattern holds itself; left out")
		b.leave()
		return design.Paint{}, false
	}
	defer b.leave()
	boxUnits := attrs["patternUnits"] != "userSpaceOnUse"
	coord := func(name string, axis byte) float64 {
		l, err := css.ParseLength(attrs[name])
		if err != nil {
			return 0
		}
		if boxUnits {
			return l.Px(css.Units{Percent: 1})
		}
		return l.Px(c.style.units(c.percent(axis)))
	}
	r := geom.Rect{X: coord("x", 'x'), Y: coord("y", 'y'), W: coord("width", 'x'), H: coord("height", 'y')}
	if boxUnits {
		r = geom.Rect{X: box.X + r.X*box.W, Y: box.Y + r.Y*box.H, W: r.W * box.W, H: r.H * box.H}
	}
	if r.W <= 0 || r.H <= 0 {
		return design.Paint{}, false
	}
	m, err := ParseTransform(attrs["patternTransform"], css.Units{Em: 16, Rem: 16})
	if err != nil {
		b.warn(n, "patternTransform left out: "+err.Error())
		m = geom.Identity
	}
	inner := geom.Translate(r.X, r.Y) // browsers count what a tile holds from its own corner
	if v, err := pathdata.Numbers(attrs["viewBox"]); err == nil && len(v) == 4 && v[2] > 0 && v[3] > 0 {
		inner = fit(geom.Rect{X: v[0], Y: v[1], W: v[2], H: v[3]}, r, attrs["preserveAspectRatio"])
	} else if attrs["patternContentUnits"] == "objectBoundingBox" {
		inner = inner.Mul(geom.Scale(box.W, box.H))
	}
	group := b.loose(content, c, inner)
	return design.Paint{Kind: design.Pattern, Tile: &design.Tile{Box: r, Matrix: m, Content: group},
		Opacity: opacity}, true
}

// loose reads the children of a node (of a pattern, mask or clip) into a paint group that belongs to no element.
func (b *builder) loose(n *markup.Node, c context, m geom.Matrix) *design.PaintNode {
	group := &design.PaintNode{Matrix: m, Opacity: 1}
	scratch := &design.Element{Kind: design.Group, Screen: c.screen}
	inner := context{style: b.nodeStyle(n), ctm: c.ctm.Mul(m), port: c.port, parent: scratch, paint: group,
		screen: c.screen,
		clip:   geom.Rect{X: -1e9, Y: -1e9, W: 2e9, H: 2e9}}
	b.children(n, inner)
	group.Walk(geom.Identity, func(p *design.PaintNode, _ geom.Matrix) { p.Element = nil })
	return group
}
