// Package raster paints a paint tree into pixels: exact area coverage for edges, gradients and patterns, clips,
// masks, blending and filters. In goes a design.PaintNode and the part of the plane wanted, out comes a picture.
package raster

import (
	"fmt"
	"image"
	"math"
	"slices"

	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/geom"
)

// MaxPixels is the largest picture that is painted.
const MaxPixels = 256 << 20

// Options say which part of the plane is painted and how large.
type Options struct {
	View       geom.Rect    // the part wanted, in the paint tree's outer space (screen pixels)
	Density    float64      // output pixels for each of those
	Background *color.Color // nil: transparent
}

// Render paints a tree. The picture is as large as the view times the density, rounded up to whole pixels; its
// pixels are premultiplied sRGB.
func Render(root *design.PaintNode, o Options) (*image.RGBA, error) {
	if o.Density <= 0 {
		o.Density = 1
	}
	w, h := int(math.Ceil(o.View.W*o.Density-1e-6)), int(math.Ceil(o.View.H*o.Density-1e-6))
	w, h = max(w, 1), max(h, 1)
	if w > MaxPixels/h {
		return nil, fmt.Errorf("a picture of %d × %d pixels is larger than is painted (%d million pixels); choose a "+
			"smaller density", w, h, MaxPixels>>20)
	}
	l := newLayer(image.Rect(0, 0, w, h))
	under := o.Background != nil && blends(root) // the background is no part of the picture that blends
	if o.Background != nil && !under {
		l.fill(premul(*o.Background))
	}
	m := geom.Scale(o.Density, o.Density).Mul(geom.Translate(-o.View.X, -o.View.Y))
	p := &painter{unit: o.Density, cover: coverages.Get().(*coverage), effort: newEffort(w * h)}
	p.node(l, root, m, 1)
	coverages.Put(p.cover)
	if err := p.effort.err(); err != nil {
		return nil, err
	}
	if under {
		ground := newLayer(l.r)
		ground.fill(premul(*o.Background))
		compose(ground, l, "", 1)
		l = ground
	}
	return &image.RGBA{Pix: l.pix, Stride: 4 * w, Rect: image.Rect(0, 0, w, h)}, nil
}

// blends reports whether anything in a picture blends with what lies below it.
func blends(n *design.PaintNode) bool {
	return n.Blend != "" || slices.ContainsFunc(n.Children, blends)
}

// layer is a canvas of premultiplied 8-bit sRGB over a part of the device plane.
type layer struct {
	r   image.Rectangle
	pix []uint8
}

func newLayer(r image.Rectangle) *layer {
	return &layer{r: r, pix: make([]uint8, 4*r.Dx()*r.Dy())}
}

func (l *layer) fill(c [4]uint8) {
	for i := 0; i < len(l.pix); i += 4 {
		copy(l.pix[i:], c[:])
	}
}

func (l *layer) at(x, y int) int { return ((y-l.r.Min.Y)*l.r.Dx() + x - l.r.Min.X) * 4 }

func premul(c color.Color) [4]uint8 {
	r, g, b, _ := c.RGBA8()
	a := math.Min(1, math.Max(0, c.Alpha))
	mul := func(v uint8) uint8 { return uint8(math.Round(float64(v) * a)) }
	return [4]uint8{mul(r), mul(g), mul(b), uint8(math.Round(a * 255))}
}

type painter struct {
	cover  *coverage
	depth  int
	ramps  map[rampKey][][4]float32
	effort *effort // nil: no end of it
	unit   float64 // device pixels for each px of the screen: the lengths of strokes that do not scale
}

// node paints a node onto a layer; m leads from the parent's space to the device.
func (p *painter) node(dst *layer, n *design.PaintNode, m geom.Matrix, opacity float64) {
	if n.Opacity <= 0 || p.depth > 2000 || !p.spend(image.Rectangle{}, 0) {
		return
	}
	p.depth++
	defer func() { p.depth-- }()
	m = m.Mul(n.Matrix)
	opacity *= n.Opacity
	if !needsLayer(n, opacity) {
		p.content(dst, n, m, opacity)
		return
	}
	r := dst.r.Intersect(p.bounds(n, m))
	if r.Empty() {
		return
	}
	inner := r
	if n.Filter != nil { // what is outside may be moved or blurred into view
		inner = p.sourceBounds(n, m, dst.r)
	}
	if !p.spend(inner, 1) {
		return
	}
	l := newLayer(inner)
	p.content(l, n, m, 1)
	if n.Filter != nil {
		l = p.filter(l, n.Filter, m, r)
	}
	for c := n.Clip; c != nil; c = c.Clip {
		p.clip(l, c, m)
	}
	for k := n.Mask; k != nil; k = k.Mask {
		p.mask(l, k, m)
	}
	compose(dst, l, n.Blend, opacity)
}

// needsLayer reports whether the node must be painted apart and laid down as one.
func needsLayer(n *design.PaintNode, opacity float64) bool {
	if n.Clip != nil || n.Mask != nil || n.Filter != nil || n.Blend != "" || n.Isolate {
		return true
	}
	if opacity >= 1 {
		return false
	}
	parts := len(n.Children)
	if n.Bitmap != nil {
		parts++
	}
	if n.Fill != nil && (n.Path != nil || len(n.Glyphs) > 0) {
		parts++
	}
	if n.Stroke != nil {
		parts++
	}
	return parts > 1
}

func (p *painter) content(dst *layer, n *design.PaintNode, m geom.Matrix, opacity float64) {
	switch {
	case len(n.Glyphs) > 0:
		p.glyphs(dst, n, m, opacity)
	case n.Path != nil:
		if n.StrokeFirst {
			p.strokePath(dst, n, n.Path, m, opacity)
			p.fillPath(dst, n, m, opacity)
		} else {
			p.fillPath(dst, n, m, opacity)
			p.strokePath(dst, n, n.Path, m, opacity)
		}
	}
	if n.Bitmap != nil {
		p.bitmap(dst, n, m, opacity)
	}
	for _, c := range n.Children {
		p.node(dst, c, m, opacity)
	}
}

func (p *painter) fillPath(dst *layer, n *design.PaintNode, m geom.Matrix, opacity float64) {
	if n.Fill == nil {
		return
	}
	if mask := p.cover.path(n.Path, m, dst.r, n.EvenOdd); mask != nil {
		if n.Crisp {
			mask.harden()
		}
		p.shade(dst, mask, n.Fill, m, opacity)
	}
}

func (p *painter) strokePath(dst *layer, n *design.PaintNode, path *geom.Path, m geom.Matrix, opacity float64) {
	s := n.Stroke
	if s == nil {
		return
	}
	style := s.Style(1)
	sm := m
	scale := maxScale(m)
	if s.Fixed { // the width counts in px of the screen, however the shape is zoomed
		path, sm, scale = path.Transform(m), geom.Identity, 1
		style = style.Scaled(p.fixed())
	}
	if scale == 0 {
		return
	}
	outline := geom.Stroke(path, style, scale)
	if mask := p.cover.path(outline, sm, dst.r, false); mask != nil {
		if n.Crisp {
			mask.harden()
		}
		p.shade(dst, mask, &s.Paint, m, opacity)
	}
}

// fixed is the length of a px of the screen.
func (p *painter) fixed() float64 {
	if p.unit == 0 {
		return 1
	}
	return p.unit
}

func maxScale(m geom.Matrix) float64 {
	return math.Max(math.Hypot(m.A, m.B), math.Hypot(m.C, m.D))
}

// clip multiplies a layer by the coverage of a clip's shapes.
func (p *painter) clip(l *layer, c *design.Clip, m geom.Matrix) {
	if !p.spend(l.r, 1) {
		return
	}
	all := make([]uint8, l.r.Dx()*l.r.Dy())
	for _, s := range c.Shapes {
		sm := m.Mul(s.Matrix)
		if len(s.Glyphs) > 0 {
			path := s.Outlines()
			p.mergeClip(all, l, p.cover.path(path, sm, l.r, false))
			continue
		}
		p.mergeClip(all, l, p.cover.path(s.Path, sm, l.r, s.EvenOdd))
	}
	l.eachPixels(func(from, to int) {
		for i := from; i < to; i += 4 {
			scalePixel(l.pix[i:i+4], all[i/4])
		}
	})
}

func (p *painter) mergeClip(all []uint8, l *layer, m *maskBuf) {
	if m == nil {
		return
	}
	w := l.r.Dx()
	eachRow(m.r, func(y int) {
		row := m.row(y)
		out := all[(y-l.r.Min.Y)*w+m.r.Min.X-l.r.Min.X:]
		for x, v := range row {
			out[x] = uint8(int(out[x]) + int(v) - int(out[x])*int(v)/255)
		}
	})
}

func scalePixel(px []uint8, v uint8) {
	switch v {
	case 255:
	case 0:
		px[0], px[1], px[2], px[3] = 0, 0, 0, 0
	default:
		for k := range px {
			px[k] = mul255(px[k], v)
		}
	}
}

func mul255(a, b uint8) uint8 {
	t := uint32(a)*uint32(b) + 128
	return uint8((t + t>>8) >> 8)
}

// mask multiplies a layer by the luminance or alpha of a mask's content.
func (p *painter) mask(l *layer, k *design.Mask, m geom.Matrix) {
	if !p.spend(l.r, 2) {
		return
	}
	ml := newLayer(l.r)
	p.node(ml, k.Content, m, 1)
	region := p.cover.path(k.Region.Path(), m, l.r, false)
	w := l.r.Dx()
	eachRow(l.r, func(y int) {
		for x := 0; x < w; x++ {
			i := ml.at(l.r.Min.X+x, y)
			v := ml.pix[i+3]
			if !k.Alpha {
				v = uint8(math.Round(0.2125*float64(ml.pix[i]) + 0.7154*float64(ml.pix[i+1]) + 0.0721*float64(ml.pix[i+2])))
			}
			v = mul255(v, region.get(l.r.Min.X+x, y))
			scalePixel(l.pix[i:i+4], v)
		}
	})
}

// bounds is the part of the device a node can touch.
func (p *painter) bounds(n *design.PaintNode, m geom.Matrix) image.Rectangle {
	r := p.contentBounds(n, m)
	if n.Filter != nil {
		r = toPixels(m.Rect(n.Filter.Region))
	}
	for c := n.Clip; c != nil; c = c.Clip {
		var u geom.Rect
		for _, s := range c.Shapes {
			path := s.Path
			if len(s.Glyphs) > 0 {
				path = s.Outlines()
			}
			if b, ok := path.Transform(m.Mul(s.Matrix)).Bounds(); ok {
				u = u.Union(b)
			}
		}
		r = r.Intersect(toPixels(u))
	}
	return r
}

// sourceBounds is what must be painted for a filter to see all it needs, within reach of the view.
func (p *painter) sourceBounds(n *design.PaintNode, m geom.Matrix, view image.Rectangle) image.Rectangle {
	return p.contentBounds(n, m).Inset(-2).Intersect(view.Inset(-reach(n.Filter, m)))
}

// reach is how far a filter can carry a pixel, in device pixels.
func reach(f *design.Filter, m geom.Matrix) int {
	far := 2.0
	for _, p := range f.Primitives {
		far += math.Max(math.Abs(p.DX), math.Abs(p.DY)) + 3*math.Max(p.SX, p.SY)
	}
	return int(math.Min(far*maxScale(m), 1<<14)) + 1
}

func (p *painter) contentBounds(n *design.PaintNode, m geom.Matrix) image.Rectangle {
	var u geom.Rect
	if n.Path != nil {
		if b, ok := n.Path.Transform(m).Bounds(); ok {
			u = b.Grow(1e-3)
		}
	}
	for _, g := range n.Glyphs {
		u = u.Union(m.Rect(g.Box()).Grow(1))
	}
	if n.Stroke != nil && !u.Empty() {
		w := n.Stroke.Width / 2
		if n.Stroke.Fixed {
			w *= p.fixed()
		} else {
			w *= maxScale(m)
		}
		if n.Stroke.Join == "miter" || n.Stroke.Join == "" {
			w *= math.Max(1, n.Stroke.Miter)
		}
		u = u.Grow(w*math.Sqrt2 + 1)
	}
	if n.Bitmap != nil {
		u = u.Union(m.Rect(n.BitmapBox))
	}
	r := image.Rectangle{}
	if !u.Empty() {
		r = toPixels(u)
	}
	for _, c := range n.Children {
		cm := m.Mul(c.Matrix)
		cb := p.contentBounds(c, cm)
		if c.Filter != nil {
			cb = toPixels(cm.Rect(c.Filter.Region))
			if c.Filter.Region.W > 1e5 { // CSS filter functions have no region of their own
				cb = p.contentBounds(c, cm).Inset(-reach(c.Filter, cm))
			}
		}
		r = r.Union(cb)
	}
	return r
}

func toPixels(r geom.Rect) image.Rectangle {
	lim := func(v float64) int { return int(math.Min(1<<28, math.Max(-1<<28, v))) }
	return image.Rect(lim(math.Floor(r.X)), lim(math.Floor(r.Y)), lim(math.Ceil(r.Right())), lim(math.Ceil(r.Bottom())))
}
