package svg

import (
	"math"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

// shape writes one shape with its paint. m leads from the shape's space to where it is written; it is worked into the
// numbers unless the stroke, or a pattern, would come out otherwise.
func (w *writer) shape(to *tag, n *design.PaintNode, p *geom.Path, native *markup.Node, m geom.Matrix) {
	if n.Fill == nil && n.Stroke == nil || p.Empty() {
		return
	}
	t := &tag{}
	rest := geom.Identity
	if far(m) && !w.moved {
		m, rest = geom.Identity, m
	}
	if n.Stroke != nil && !n.Stroke.Fixed && !similar(m) {
		m, rest = geom.Identity, m
	}
	if native != nil && roundShapes[native.Local] && !(m.B == 0 && m.C == 0) { // painted more exactly as what they are
		m, rest = rest, m.Mul(rest)
	}
	t.name = w.geometry(t, p, native, m, n.Stroke != nil)
	w.matrix(t, "transform", rest)
	if n.Fill == nil {
		t.set("fill", "none")
	} else {
		w.paint(t, "fill", *n.Fill, m)
	}
	if n.EvenOdd && crosses(p) {
		t.set("fill-rule", "evenodd")
	}
	if s := n.Stroke; s != nil {
		w.stroke(t, s, m)
		if n.StrokeFirst {
			t.set("paint-order", "stroke")
		}
	}
	if n.Crisp {
		t.set("shape-rendering", "crispEdges")
	}
	if t.name == "path" && rest == geom.Identity && n.Fill != nil && n.Fill.Kind == design.Solid && (n.Stroke == nil || n.Stroke.Paint.Kind == design.Solid) {
		if box, ok := (&design.PaintNode{Path: p, Stroke: n.Stroke}).Extent(m); ok {
			t.box, t.joins = box.Grow(1), true
		}
	}
	to.add(t)
}

var roundShapes = map[string]bool{"rect": true, "circle": true, "ellipse": true}

// crosses says whether the winding of a path may matter to how it is filled: one simple loop is the same either way.
func crosses(p *geom.Path) bool {
	moves, curves := 0, 0
	for _, v := range p.Verbs {
		switch v {
		case geom.Move:
			moves++
		case geom.Close:
		default:
			curves++
		}
	}
	return moves > 1 || curves > 3
}

// far says that a transform moves a shape so far that browsers, which count in few digits, would paint it otherwise
// once that is worked in.
func far(m geom.Matrix) bool { return math.Abs(m.E) > 256 || math.Abs(m.F) > 256 }

// similar says that a transform keeps angles: it moves, turns and zooms alone.
func similar(m geom.Matrix) bool {
	const eps = 1e-9
	return math.Abs(m.A-m.D) < eps && math.Abs(m.B+m.C) < eps || math.Abs(m.A+m.D) < eps && math.Abs(m.B-m.C) < eps
}

// geometry writes where a shape is, under m, and says which element it is.
func (w *writer) geometry(t *tag, p *geom.Path, native *markup.Node, m geom.Matrix, stroked bool) string {
	if native != nil && !usesUnits(native) && m.B == 0 && m.C == 0 && m.A > 0 && m.D > 0 {
		if name := w.native(t, native, m); name != "" {
			return name
		}
	}
	p = p.Transform(m)
	digits := max(w.digits, finest-1)
	if !stroked {
		digits = enough(p, w.digits)
	}
	t.set("d", PathData(p, digits))
	return "path"
}

// native writes a basic shape as what it is, where m only moves and zooms it; "" for those that are shorter as paths.
func (w *writer) native(t *tag, native *markup.Node, m geom.Matrix) string {
	var bad bool
	get := func(name string) float64 {
		s, ok := native.Attr(name)
		if !ok || strings.TrimSpace(s) == "" {
			return 0
		}
		l, err := css.ParseLength(s)
		bad = bad || err != nil
		return l.Value
	}
	put := func(name string, v float64) {
		if s := w.num(v); s != "0" {
			t.set(name, s)
		}
	}
	even := m.A == m.D
	switch native.Local {
	case "rect":
		x, y, width, height, rx, ry := get("x"), get("y"), get("width"), get("height"), get("rx"), get("ry")
		if _, has := native.Attr("rx"); !has {
			rx = ry
		}
		if _, has := native.Attr("ry"); !has {
			ry = rx
		}
		if bad {
			return ""
		}
		put("x", x*m.A+m.E)
		put("y", y*m.D+m.F)
		put("width", width*m.A)
		put("height", height*m.D)
		if rx > 0 && ry > 0 {
			put("rx", rx*m.A)
			if w.num(ry*m.D) != w.num(rx*m.A) {
				put("ry", ry*m.D)
			}
		}
		return "rect"
	case "circle":
		cx, cy, r := get("cx"), get("cy"), get("r")
		if bad || !even {
			return ""
		}
		put("cx", cx*m.A+m.E)
		put("cy", cy*m.D+m.F)
		put("r", r*m.A)
		return "circle"
	case "ellipse":
		_, rx := native.Attr("rx")
		_, ry := native.Attr("ry")
		if !rx || !ry {
			return ""
		}
		cx, cy, a, b := get("cx"), get("cy"), get("rx"), get("ry")
		if bad {
			return ""
		}
		put("cx", cx*m.A+m.E)
		put("cy", cy*m.D+m.F)
		put("rx", a*m.A)
		put("ry", b*m.D)
		return "ellipse"
	}
	return ""
}

// usesUnits says whether a shape's attributes depend on something outside it: percentages, ems, CSS properties.
func usesUnits(n *markup.Node) bool {
	style, has := n.Attr("style")
	for _, at := range n.Attrs {
		if geometryProps[at.Local] == "" && !strings.HasPrefix(at.Local, "x") && !strings.HasPrefix(at.Local, "y") || at.Local == "d" {
			continue
		}
		if l, err := css.ParseLength(at.Value); err == nil && l.Unit != "" && l.Unit != "px" {
			return true
		}
	}
	if _, class := n.Attr("class"); class { // a rule may set geometry: be exact
		return true
	}
	if has {
		decls := css.ParseDecls(style)
		for _, d := range decls {
			if geometryProps[d.Prop] != "" {
				return true
			}
		}
	}
	return false
}
