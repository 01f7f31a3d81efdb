package design

import (
	"math"

	"archetyp/core/geom"
)

// Simplify is a paint tree that paints the same in a part of the plane, and holds less: without what paints nothing
// or lies outside, without clips that cut nothing off, and with chains of groups folded into one. Nothing of the
// original changes.
func Simplify(p *PaintNode, view geom.Rect) *PaintNode {
	out := p.simplify(geom.Identity, view)
	if out == nil {
		return &PaintNode{Matrix: geom.Identity, Opacity: 1}
	}
	return out
}

// simplify gives nil where nothing is painted. m leads from the parent's space to that of view.
func (p *PaintNode) simplify(m geom.Matrix, view geom.Rect) *PaintNode {
	if p.Opacity <= 0 {
		return nil
	}
	m = m.Mul(p.Matrix)
	q := *p
	q.Children = nil
	q.dropPaint()
	inner := view
	if p.Filter != nil { // may carry into view what lies outside
		inner = geom.Rect{X: -1e9, Y: -1e9, W: 2e9, H: 2e9}
	}
	for _, c := range p.Children {
		if k := c.simplify(m, inner); k != nil {
			q.Children = append(q.Children, k)
		}
	}
	own := q.Path != nil && (q.Fill != nil || q.Stroke != nil) || len(q.Glyphs) > 0 || q.Bitmap != nil
	if !own && len(q.Children) == 0 && !(q.Filter != nil && q.Filter.makesPaint()) {
		return nil
	}
	box, known := q.Extent(m)
	if known && q.Filter == nil {
		seen := box.Grow(1).Intersect(view)
		if seen.W <= 0 || seen.H <= 0 {
			return nil
		}
		q.Clip = q.Clip.needed(m, box)
	}
	if own || len(q.Children) != 1 || !q.Plain() {
		return &q
	}
	k := *q.Children[0] // a group of one that only moves it
	k.Matrix = q.Matrix.Mul(k.Matrix)
	return &k
}

// Plain reports whether a node does nothing to what it holds but move it.
func (p *PaintNode) Plain() bool {
	return p.Opacity >= 1 && p.Clip == nil && p.Mask == nil && p.Filter == nil && p.Blend == "" && !p.Isolate
}

// dropPaint takes away fills and strokes that cannot be seen.
func (p *PaintNode) dropPaint() {
	unseen := func(c *Paint) bool {
		return c.Kind == Solid && c.Color.Alpha <= 0 || c.Kind != Solid && c.Opacity <= 0
	}
	if p.Fill != nil && unseen(p.Fill) {
		p.Fill = nil
	}
	if p.Stroke != nil && (unseen(&p.Stroke.Paint) || p.Stroke.Width <= 0) {
		p.Stroke = nil
	}
	if p.Fill == nil && p.Stroke == nil {
		p.Path, p.Glyphs = nil, nil
	}
}

// makesPaint reports whether a filter may paint where its input does not.
func (f *Filter) makesPaint() bool {
	for _, p := range f.Primitives {
		switch p.Kind {
		case "feFlood", "feImage", "feTurbulence", "feDiffuseLighting", "feSpecularLighting", "feColorMatrix",
			"feComponentTransfer", "feConvolveMatrix", "feComposite":
			return true
		}
	}
	return false
}

// Extent is the box of all that a node paints before its filter, clip and mask, in the space that m leads to from
// the node's own. ok is false where it is not known: below a filter.
func (p *PaintNode) Extent(m geom.Matrix) (box geom.Rect, ok bool) {
	any := false
	add := func(r geom.Rect) {
		if !any {
			box, any = r, true
			return
		}
		x, y := math.Min(box.X, r.X), math.Min(box.Y, r.Y)
		box = geom.Rect{X: x, Y: y, W: math.Max(box.Right(), r.Right()) - x, H: math.Max(box.Bottom(), r.Bottom()) - y}
	}
	if p.Path != nil && len(p.Glyphs) == 0 {
		if b, has := p.Path.Transform(m).Bounds(); has {
			if p.Stroke != nil {
				b = b.Grow(p.strokeReach(m))
			}
			add(b)
		}
	}
	for i := range p.Glyphs {
		b := m.Rect(p.Glyphs[i].Box())
		if p.Stroke != nil {
			b = b.Grow(p.strokeReach(m))
		}
		add(b)
	}
	if p.Bitmap != nil {
		add(m.Rect(p.BitmapBox))
	}
	for _, c := range p.Children {
		if c.Filter != nil {
			return box, false
		}
		cm := m.Mul(c.Matrix)
		b, ok := c.Extent(cm)
		if !ok {
			return box, false
		}
		if c.Clip != nil {
			b = b.Intersect(c.Clip.bounds(cm))
		}
		add(b)
	}
	return box, true
}

// strokeReach is how far a stroke may lie from the outline, in the space that m leads to.
func (p *PaintNode) strokeReach(m geom.Matrix) float64 {
	s := p.Stroke
	w := s.Width / 2
	if !s.Fixed {
		w *= math.Max(math.Hypot(m.A, m.B), math.Hypot(m.C, m.D))
	}
	switch {
	case s.Join == "miter" || s.Join == "":
		if p.Path == nil || len(p.Path.Verbs) > 2 { // there are corners
			return w * math.Max(s.Miter, math.Sqrt2)
		}
		return w * math.Sqrt2
	case s.Cap == "square":
		return w * math.Sqrt2
	}
	return w
}

func (c *Clip) bounds(m geom.Matrix) geom.Rect {
	var u geom.Rect
	for _, s := range c.Shapes {
		if len(s.Glyphs) > 0 {
			for i := range s.Glyphs {
				u = u.Union(m.Mul(s.Matrix).Rect(s.Glyphs[i].Box()))
			}
		} else if b, ok := s.Path.Transform(m.Mul(s.Matrix)).Bounds(); ok {
			u = u.Union(b)
		}
	}
	return u
}

// needed is a clip without those rectangles that hold all of a box.
func (c *Clip) needed(m geom.Matrix, box geom.Rect) *Clip {
	if c == nil {
		return nil
	}
	rest := c.Clip.needed(m, box)
	if len(c.Shapes) == 1 && len(c.Shapes[0].Glyphs) == 0 {
		s := c.Shapes[0]
		if sm := m.Mul(s.Matrix); sm.Upright() && s.Path.IsRect() {
			if b, ok := s.Path.Transform(sm).Bounds(); ok && b.Contains(box, 1e-6) {
				return rest
			}
		}
	}
	return &Clip{Shapes: c.Shapes, Clip: rest}
}
