package design

import (
	stdcolor "image/color"

	"archetyp/core/color"
	"archetyp/core/geom"
)

// Hit is paint of an element under a point.
type Hit struct {
	Element *Element
	Node    *PaintNode
	Paint   Paint      // what the point is painted with
	Stroke  bool       // by the stroke, not the fill
	At      geom.Point // in the node's space
}

// Hits lists what is painted under a point of the screen, topmost first: fills and strokes of shapes, ink of text,
// bitmaps. Clips cut off; masks and filters do not count.
func (s *Screen) Hits(at geom.Point) []Hit {
	var out []Hit
	var walk func(p *PaintNode, m geom.Matrix)
	walk = func(p *PaintNode, m geom.Matrix) {
		m = m.Mul(p.Matrix)
		if e := p.Element; e != nil && e.Paint == p && e.Painted.Set && !contains(e.Painted.Value.Grow(0.5), at) ||
			p.Opacity == 0 {
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

// contains reports whether a point of the node's space lies in the glyph's ink.
func (g *Glyph) contains(p geom.Point) bool {
	return contains(g.Box(), p) && g.Outline.Contains(p.Sub(g.Origin).Mul(1/g.Size), false)
}

func contains(r geom.Rect, p geom.Point) bool {
	return p.X >= r.X && p.X <= r.Right() && p.Y >= r.Y && p.Y <= r.Bottom()
}

// contains reports whether a point of the clipped node's space is left by the clip.
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
				inside = inside || s.Glyphs[i].contains(p)
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
	hit := func(paint Paint, stroke bool) { out = append(out, Hit{p.Element, p, paint, stroke, at}) }
	inside := p.Path != nil && p.Fill != nil && p.Path.Contains(at, p.EvenOdd)
	for i := range p.Glyphs {
		inside = inside || p.Fill != nil && p.Glyphs[i].contains(at)
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
		h := Hit{p.Element, p, Paint{Kind: Picture, Opacity: 1}, false, at}
		if c, _, _ := h.Color(); c.Alpha > 0 {
			out = append(out, h)
		}
	}
	return out
}

func (s *PaintStroke) outline(path *geom.Path) *geom.Path {
	return geom.Stroke(path, geom.StrokeStyle{Width: s.Width, Cap: s.Cap, Join: s.Join, Miter: s.Miter}, 1)
}

// Color is the colour an element itself has at the point: of its fill or stroke, its gradient there, or the pixel of
// its bitmap. by says which. ok is false for a pattern.
func (h *Hit) Color() (c color.Color, by string, ok bool) {
	by = "fill"
	if h.Stroke {
		by = "stroke"
	}
	switch h.Paint.Kind {
	case Solid:
		return h.Paint.Color, by, true
	case Linear, Radial:
		c, ok = h.Paint.Gradient.At(h.At)
		return c.WithAlpha(h.Paint.Opacity), by + " gradient", ok
	case Picture:
		b := h.Node.Bitmap.Bounds()
		x := b.Min.X + int((h.At.X-h.Node.BitmapBox.X)/h.Node.BitmapBox.W*float64(b.Dx()))
		y := b.Min.Y + int((h.At.Y-h.Node.BitmapBox.Y)/h.Node.BitmapBox.H*float64(b.Dy()))
		n, _ := stdcolor.NRGBAModel.Convert(h.Node.Bitmap.At(min(x, b.Max.X-1), min(y, b.Max.Y-1))).(stdcolor.NRGBA)
		c = color.RGB8(n.R, n.G, n.B)
		c.Alpha = float64(n.A) / 255
		return c, "pixel", true
	}
	return color.Color{}, by, false
}

// Gradient is the gradient at the point: the one it is painted with, or the one that the pixels of a bitmap were found
// to be; nil for none.
func (h *Hit) Gradient() *Paint {
	switch {
	case h == nil:
		return nil
	case h.Paint.Gradient != nil:
		return &h.Paint
	case h.Paint.Kind == Picture && len(h.Element.Fills) == 1 && h.Element.Fills[0].Value.Gradient != nil:
		return &h.Element.Fills[0].Value
	}
	return nil
}
