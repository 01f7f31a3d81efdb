package svg

import (
	"math"

	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/geom/pathdata"
	"archetyp/core/markup"
)

// shape reads one of the basic shapes or a path.
func (b *builder) shape(e *design.Element, n *markup.Node, c context) {
	path := b.outline(e, n, c)
	local, ok := path.Bounds()
	if !ok {
		at := c.ctm.Apply(local.Path().Points[0])
		e.Geometry = design.Derive(geom.Rect{X: at.X, Y: at.Y}, "nothing to paint")
		e.Painted, e.Layout = e.Geometry, e.Geometry
		return
	}
	screenBox := c.ctm.Rect(local)
	if !c.ctm.Upright() {
		screenBox, _ = path.Transform(c.ctm).Bounds()
	}
	if c.ctm == geom.Identity && (n.Local == "rect" || n.Local == "circle" || n.Local == "ellipse") {
		e.Geometry = design.State(screenBox, n.Local+" attributes")
	} else {
		e.Geometry = design.Derive(screenBox, "tight box of the outline")
	}
	c = b.effects(e, n, c)
	c = b.boxEffects(e, n, c, local)
	p := e.Paint
	p.Path, p.Native = path, n
	p.EvenOdd = c.style.str("fill-rule", "nonzero") == "evenodd"
	p.Crisp = c.style.str("shape-rendering", "auto") == "crispedges"
	p.StrokeFirst = strokeFirst(c.style)
	b.fillAndStroke(e, n, c, local)
	recogniseForm(e, path, c.ctm)
	alignStroke(e, path)
	e.Hidden = c.hidden || c.style.invisible() || p.Opacity == 0
	if c.style.invisible() {
		p.Fill, p.Stroke = nil, nil
	}
	b.shapeBoxes(e, path, c)
	if !c.style.invisible() {
		b.markers(e, n, c, path)
	}
	b.recogniseFilter(e, c)
}

// shapeBoxes works out what the shape paints and the CSS box that would make it.
func (b *builder) shapeBoxes(e *design.Element, path *geom.Path, c context) {
	painted := e.Geometry.Value
	e.Layout = design.Derive(painted, "the shape's box")
	if s := e.Paint.Stroke; s != nil {
		scale := math.Max(c.ctm.MeanScale(), 1e-6)
		width := s.Width // in user units
		if s.Fixed {
			width /= scale
		}
		painted = painted.Union(strokedBox(e, path, s, width, c.ctm))
		if e.Kind == design.Box {
			e.Layout = design.Derive(e.Geometry.Value.Grow(e.Strokes[0].Value.Out()), "the shape with its stroke as a border")
		}
	}
	e.Painted = design.Derive(b.paintedBox(e, painted, c), "outline, stroke and effects")
}

// strokedBox is the box of a shape's stroke on the screen; width is in user units.
func strokedBox(e *design.Element, path *geom.Path, s *design.PaintStroke, width float64, ctm geom.Matrix) geom.Rect {
	if ctm.Upright() && (e.Shape == "rect" || e.Shape == "circle" || e.Shape == "ellipse") {
		box, _ := path.Bounds()
		return ctm.Rect(box.Grow(width / 2)) // its corners are round or right angles: no miter reaches further
	}
	outline := geom.Stroke(path, geom.StrokeStyle{Width: width, Cap: s.Cap, Join: s.Join, Miter: s.Miter},
		math.Max(ctm.MeanScale(), 1e-6))
	box, _ := outline.Transform(ctm).Bounds()
	return box
}

// outline makes the path of a shape in user space, and the facts that its form gives.
func (b *builder) outline(e *design.Element, n *markup.Node, c context) *geom.Path {
	e.Kind = design.Path
	scale := c.ctm.MeanScale()
	switch n.Local {
	case "rect":
		e.Kind = design.Box
		r := b.xywh(n, c)
		if r.W <= 0 || r.H <= 0 {
			return &geom.Path{}
		}
		rx, ry := b.attrPx(n, c, "rx", 'x', -1), b.attrPx(n, c, "ry", 'y', -1)
		if rx < 0 {
			rx = ry
		}
		if ry < 0 {
			ry = rx
		}
		rx, ry = math.Min(math.Max(rx, 0), r.W/2), math.Min(math.Max(ry, 0), r.H/2)
		if rx > 0 && ry > 0 {
			e.Radii = design.State(sameRadii(rx*scale, ry*scale), "rx, ry")
		}
		return geom.RoundedRect(r, rx, ry)
	case "circle", "ellipse":
		e.Kind = design.Box
		cx, cy := b.attrPx(n, c, "cx", 'x', 0), b.attrPx(n, c, "cy", 'y', 0)
		var rx, ry float64
		if n.Local == "circle" {
			rx = b.attrPx(n, c, "r", 0, 0)
			ry = rx
		} else {
			rx, ry = b.attrPx(n, c, "rx", 'x', -1), b.attrPx(n, c, "ry", 'y', -1)
			if rx < 0 {
				rx = ry
			}
			if ry < 0 {
				ry = rx
			}
		}
		if rx <= 0 || ry <= 0 {
			return &geom.Path{}
		}
		e.Radii = design.Derive(sameRadii(rx*scale, ry*scale), "half of width and height")
		return geom.Ellipse(cx, cy, rx, ry)
	case "line":
		p := &geom.Path{}
		p.MoveTo(b.attrPx(n, c, "x1", 'x', 0), b.attrPx(n, c, "y1", 'y', 0))
		p.LineTo(b.attrPx(n, c, "x2", 'x', 0), b.attrPx(n, c, "y2", 'y', 0))
		return p
	case "polyline", "polygon":
		return b.poly(n)
	}
	d, _ := n.Attr("d")
	if v, _, ok := c.style.Get("d"); ok { // the CSS property: path("…")
		if s := pathFunction(v); s != "" {
			d = s
		}
	}
	p, err := pathdata.Parse(d)
	if err != nil {
		b.warn(n, err.Error()+"; painted up to there, as a browser does")
	}
	return p
}

func sameRadii(rx, ry float64) design.Radii {
	return design.Radii{X: [4]float64{rx, rx, rx, rx}, Y: [4]float64{ry, ry, ry, ry}}
}

func pathFunction(v string) string {
	const open, end = `path(`, `)`
	if len(v) < len(open)+3 || v[:len(open)] != open || v[len(v)-1:] != end {
		return ""
	}
	in := v[len(open) : len(v)-1]
	if q := in[0]; (q == '"' || q == '\'') && len(in) > 1 {
		return in[1 : len(in)-1]
	}
	return ""
}

func (b *builder) poly(n *markup.Node) *geom.Path {
	p := &geom.Path{}
	v, err := pathdata.Numbers(n.AttrOr("points", ""))
	if err != nil {
		b.warn(n, "points: "+err.Error())
	}
	for i := 0; i+1 < len(v); i += 2 {
		if i == 0 {
			p.MoveTo(v[0], v[1])
		} else {
			p.LineTo(v[i], v[i+1])
		}
	}
	if n.Local == "polygon" && len(v) >= 2 {
		p.Close()
	}
	return p
}
