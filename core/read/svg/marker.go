package svg

import (
	"math"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

// markers paints the symbols at the vertices of a line, arrowheads for the most part, over its stroke.
// https://www.w3.org/TR/SVG2/painting.html#Markers
func (b *builder) markers(e *design.Element, n *markup.Node, c context, path *geom.Path) {
	if n.Local != "path" && n.Local != "line" && n.Local != "polyline" && n.Local != "polygon" {
		return
	}
	start, mid, end := b.marker(n, c, "marker-start"), b.marker(n, c, "marker-mid"), b.marker(n, c, "marker-end")
	if start == nil && mid == nil && end == nil {
		return
	}
	width := c.style.px("stroke-width", 1, c.percent(0))
	all := vertices(path)
	const most = 2000 // vertices with a symbol each
	for i, v := range all[:min(len(all), most)] {
		m, angle := mid, v.angle
		switch i {
		case 0:
			if m = start; m != nil && m.AttrOr("orient", "") == "auto-start-reverse" {
				angle += 180
			}
		case len(all) - 1:
			m = end
		}
		if m != nil {
			b.placeMarker(e, m, c, v.at, angle, width)
		}
	}
}

// marker is the marker element a property points to.
func (b *builder) marker(n *markup.Node, c context, prop string) *markup.Node {
	v, _, ok := c.style.Get(prop)
	if !ok || v == "none" {
		return nil
	}
	id, _, ok := css.URLFragment(v)
	if m := b.ids[id]; ok && m != nil && m.Is("marker") {
		return m
	}
	b.warn(n, prop+" points to "+markup.Clip(v)+", which is no marker in the file; left out")
	return nil
}

func (b *builder) placeMarker(e *design.Element, m *markup.Node, c context, at geom.Point, angle, width float64) {
	if !b.enter(m) {
		b.warn(m, "the marker holds itself; left out")
		b.leave()
		return
	}
	defer b.leave()
	st := b.nodeStyle(m)
	dim := func(name string, or, percent float64) float64 {
		l, err := css.ParseLength(m.AttrOr(name, ""))
		if err != nil {
			return or
		}
		return l.Px(st.units(percent))
	}
	port := geom.Rect{W: dim("markerWidth", 3, c.port.X), H: dim("markerHeight", 3, c.port.Y)}
	if port.W <= 0 || port.H <= 0 {
		return
	}
	inner := geom.Identity
	vb, has := viewBox(m)
	if has {
		inner = fit(vb, port, m.AttrOr("preserveAspectRatio", ""))
	} else {
		vb = port
	}
	refer := func(name string, from, size float64) float64 {
		switch v := strings.TrimSpace(m.AttrOr(name, "0")); v {
		case "left", "top":
			return from
		case "center":
			return from + size/2
		case "right", "bottom":
			return from + size
		}
		return dim(name, 0, size)
	}
	ref := inner.Apply(geom.Point{X: refer("refX", vb.X, vb.W), Y: refer("refY", vb.Y, vb.H)})
	place := geom.Translate(at.X, at.Y)
	switch o := strings.TrimSpace(m.AttrOr("orient", "0")); o {
	case "auto", "auto-start-reverse":
		place = place.Mul(geom.Rotate(angle))
	default:
		if turn, err := ParseTransform("rotate("+strings.TrimSuffix(o, "deg")+")", css.Units{}); err == nil {
			place = place.Mul(turn)
		}
	}
	if m.AttrOr("markerUnits", "strokeWidth") == "strokeWidth" {
		place = place.Mul(geom.Scale(width, width))
	}
	place = place.Mul(geom.Translate(-ref.X, -ref.Y))
	holder := &design.PaintNode{Matrix: place, Opacity: 1, Element: e}
	if o := st.str("overflow", "hidden"); o != "visible" && o != "auto" {
		holder.Clip = &design.Clip{Shapes: []*design.PaintNode{{Matrix: geom.Identity, Opacity: 1, Path: port.Path()}}}
	}
	holder.Children = []*design.PaintNode{b.loose(m, c, inner)}
	e.Paint.Children = append(e.Paint.Children, holder)
	if r, ok := paintBounds(holder, c.ctm); ok {
		e.Painted.Value = unionAll(e.Painted.Value, r).Intersect(c.clip)
	}
}

// paintBounds is the box of all outlines under a node with their strokes; m leads to the screen.
func paintBounds(n *design.PaintNode, m geom.Matrix) (geom.Rect, bool) {
	var out geom.Rect
	any := false
	n.Walk(m, func(p *design.PaintNode, m geom.Matrix) {
		path := p.Path
		if path == nil || p.Fill == nil && p.Stroke == nil {
			return
		}
		r, ok := path.Transform(m).Bounds()
		if !ok {
			return
		}
		if p.Stroke != nil {
			r = r.Grow(p.Stroke.Width / 2 * m.MeanScale())
		}
		if any {
			r = unionAll(out, r)
		}
		out, any = r, true
	})
	return out, any
}

// vertex is a place where a path's commands meet, and the direction through it in degrees.
type vertex struct {
	at    geom.Point
	angle float64
}

// vertices are the ends of a path's commands, subpath after subpath. The pieces an arc was cut into meet at none.
func vertices(path *geom.Path) []vertex {
	type arrival struct {
		at      geom.Point
		in, out geom.Point // directions; zero where there is none
		curve   bool       // between two conics
	}
	var all []arrival
	var first int // of the subpath
	var wasConic bool
	path.Each(func(s geom.Segment, begins bool) {
		if begins {
			first = len(all)
			all = append(all, arrival{at: s.P[0]})
			wasConic = false
		}
		from, to := s.Direction(0), s.Direction(1)
		last := &all[len(all)-1]
		last.out = from
		last.curve = wasConic && s.Verb == geom.Conic && math.Abs(degrees(last.in)-degrees(from)) < 0.01
		all = append(all, arrival{at: s.End(), in: to})
		if s.Verb == geom.Close { // goes on into its beginning
			all[len(all)-1].out, all[first].in = all[first].out, to
		}
		wasConic = s.Verb == geom.Conic
	})
	var out []vertex
	for _, a := range all {
		if a.curve {
			continue
		}
		dir := a.in.Mul(1 / math.Max(1e-12, a.in.Len())).Add(a.out.Mul(1 / math.Max(1e-12, a.out.Len())))
		if dir.Len() < 1e-9 {
			dir = a.out
		}
		out = append(out, vertex{a.at, degrees(dir)})
	}
	return out
}

func degrees(d geom.Point) float64 { return math.Atan2(d.Y, d.X) * 180 / math.Pi }
