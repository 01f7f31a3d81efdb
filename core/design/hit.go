package design

import "archetyp/core/geom"

// Hit is paint of an element under a point.
type Hit struct {
	Element *Element
	Paint   Paint // what the point is painted with
	Stroke  bool  // by the stroke, not the fill
	At      geom.Point
}

// Hits lists what is painted under a point of the screen, topmost first: fills and strokes of shapes, cells of text,
// bitmaps. Clips cut off; masks and filters do not count.
func (s *Screen) Hits(at geom.Point) []Hit {
	var out []Hit
	var walk func(p *PaintNode, m geom.Matrix)
	walk = func(p *PaintNode, m geom.Matrix) {
		m = m.Mul(p.Matrix)
		if e := p.Element; e != nil && e.Paint == p && e.Painted.Set && !contains(e.Painted.Value.Grow(0.5), at) || p.Opacity == 0 {
			return
		}
		inv, ok := m.Inverse()
		if !ok || !p.Clip.contains(inv.Apply(at)) {
			return
		}
		for i := len(p.Children) - 1; i >= 0; i-- { // what is painted last lies on top
			walk(p.Children[i], m)
		}
		if p.Element != nil {
			out = append(out, p.hits(inv.Apply(at))...)
		}
	}
	walk(s.Paint, geom.Identity)
	return out
}

func contains(r geom.Rect, p geom.Point) bool {
	return p.X >= r.X && p.X <= r.Right() && p.Y >= r.Y && p.Y <= r.Bottom()
}

// contains says whether a point of the clipped node's space is left by the clip.
func (c *Clip) contains(at geom.Point) bool {
	for ; c != nil; c = c.Clip {
		inside := len(c.Shapes) == 0
		for _, s := range c.Shapes {
			inv, ok := s.Matrix.Inverse()
			if !ok {
				continue
			}
			p := inv.Apply(at)
			inside = inside || s.Path != nil && s.Path.Contains(p, s.EvenOdd)
			for i := range s.Glyphs {
				inside = inside || contains(s.Glyphs[i].Box(), p)
			}
		}
		if !inside {
			return false
		}
	}
	return true
}

// hits are the node's own paints at a point of its space, topmost first.
func (p *PaintNode) hits(at geom.Point) []Hit {
	var out []Hit
	hit := func(paint Paint, stroke bool) { out = append(out, Hit{p.Element, paint, stroke, at}) }
	inside := p.Path != nil && p.Fill != nil && p.Path.Contains(at, p.EvenOdd)
	for i := range p.Glyphs {
		inside = inside || p.Fill != nil && contains(p.Glyphs[i].Box(), at)
	}
	line := p.Path != nil && p.Stroke != nil && p.Stroke.outline(p.Path).Contains(at, false)
	if p.StrokeFirst {
		if inside {
			hit(*p.Fill, false)
		}
		if line {
			hit(p.Stroke.Paint, true)
		}
	} else {
		if line {
			hit(p.Stroke.Paint, true)
		}
		if inside {
			hit(*p.Fill, false)
		}
	}
	if p.Bitmap != nil && contains(p.BitmapBox, at) {
		hit(Paint{Kind: Picture, Opacity: 1}, false)
	}
	return out
}

func (s *PaintStroke) outline(path *geom.Path) *geom.Path {
	return geom.Stroke(path, geom.StrokeStyle{Width: s.Width, Cap: s.Cap, Join: s.Join, Miter: s.Miter}, 1)
}
