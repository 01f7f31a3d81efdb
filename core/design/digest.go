package design

import (
	"image"

	"archetyp/core/color"
	"archetyp/core/digest"
	"archetyp/core/geom"
	"archetyp/core/paint/picture"
)

// Digest is a hash of all that a paint tree says: two trees with the same one paint the same.
func (p *PaintNode) Digest() uint64 {
	d := &summer{digest.New()}
	d.node(p)
	return d.Sum64()
}

type summer struct{ *digest.Digest }

func (d *summer) matrix(m geom.Matrix) { d.Num(m.A, m.B, m.C, m.D, m.E, m.F) }

func (d *summer) rect(r geom.Rect) { d.Num(r.X, r.Y, r.W, r.H) }

func (d *summer) color(c color.Color) {
	s := c.SRGB()
	d.Num(s[0], s[1], s[2], c.Alpha)
}

func (d *summer) path(p *geom.Path) {
	d.Flag(p != nil)
	if p == nil {
		return
	}
	d.Num(float64(len(p.Verbs)))
	for _, v := range p.Verbs {
		_, _ = d.Write([]byte{byte(v)})
	}
	for _, pt := range p.Points {
		d.Num(pt.X, pt.Y)
	}
	d.Num(p.Weights...)
}

func (d *summer) bitmap(img image.Image, file []byte) {
	d.Flag(img != nil)
	if img == nil {
		return
	}
	if file != nil {
		_, _ = d.Write(file)
		return
	}
	rgba := picture.RGBA(img)
	d.Num(float64(rgba.Rect.Dx()), float64(rgba.Rect.Dy()))
	_, _ = d.Write(rgba.Pix)
}

func (d *summer) node(p *PaintNode) {
	d.matrix(p.Matrix)
	d.Num(p.Opacity)
	d.Text(p.Blend)
	d.Flag(p.Isolate, p.EvenOdd, p.StrokeFirst, p.Crisp, p.Pixelated, p.Fill != nil, p.Stroke != nil, p.Filter != nil,
		p.Mask != nil)
	d.clip(p.Clip)
	for m := p.Mask; m != nil; m = m.Mask {
		d.Flag(m.Alpha)
		d.rect(m.Region)
		d.node(m.Content)
	}
	d.filter(p.Filter)
	d.path(p.Path)
	if p.Fill != nil {
		d.paint(p.Fill)
	}
	if s := p.Stroke; s != nil {
		d.paint(&s.Paint)
		d.Num(s.Width, s.Offset, s.Miter)
		d.Num(s.Dashes...)
		d.Text(s.Cap, s.Join)
		d.Flag(s.Fixed)
	}
	for _, g := range p.Glyphs {
		d.path(g.Outline)
		d.Num(g.Origin.X, g.Origin.Y, g.Size)
		d.Text(g.Letters)
	}
	d.bitmap(p.Bitmap, p.File)
	d.rect(p.BitmapBox)
	d.Num(float64(len(p.Children)))
	for _, c := range p.Children {
		d.node(c)
	}
}

func (d *summer) clip(c *Clip) {
	for ; c != nil; c = c.Clip {
		d.Num(float64(len(c.Shapes)))
		for _, s := range c.Shapes {
			d.node(s)
		}
	}
}

func (d *summer) paint(p *Paint) {
	d.Text(string(p.Kind))
	d.Num(p.Opacity)
	d.color(p.Color)
	if g := p.Gradient; g != nil {
		d.Num(g.P0.X, g.P0.Y, g.P1.X, g.P1.Y, g.R0, g.R1)
		d.matrix(g.Matrix)
		d.Text(g.Spread)
		for _, s := range g.Stops {
			d.Num(s.Offset)
			d.color(s.Color)
		}
	}
	if t := p.Tile; t != nil {
		d.rect(t.Box)
		d.matrix(t.Matrix)
		d.node(t.Content)
	}
}

func (d *summer) filter(f *Filter) {
	if f == nil {
		return
	}
	d.rect(f.Region)
	for i := range f.Primitives {
		p := &f.Primitives[i]
		d.Text(p.Kind, p.In, p.In2, p.Result, p.Mode)
		d.Text(p.Inputs...)
		d.Flag(p.Linear, p.Region != nil)
		if p.Region != nil {
			d.rect(*p.Region)
		}
		d.Num(p.DX, p.DY, p.SX, p.SY)
		d.color(p.Color)
		d.Num(p.K[:]...)
		d.Num(p.Matrix[:]...)
		for _, t := range p.Transfer {
			d.Text(t.Type)
			d.Num(t.Table...)
			d.Num(t.Slope, t.Intercept, t.Amplitude, t.Exp, t.Of)
		}
		d.Num(float64(p.Channels[0]), float64(p.Channels[1]))
		if n := p.Noise; n != nil {
			d.Num(n.FX, n.FY, float64(n.Octaves), n.Seed)
			d.Flag(n.Stitch, n.Fractal)
		}
		if l := p.Light; l != nil {
			d.Flag(l.Specular)
			d.Num(l.Surface, l.Constant, l.Exponent, l.Azimuth, l.Elevation, l.Focus, l.Cone)
			d.Num(l.At[:]...)
			d.Num(l.To[:]...)
			d.Text(l.Source)
			d.color(l.Color)
		}
		if k := p.Kernel; k != nil {
			d.Num(float64(k.W), float64(k.H), k.Divisor, k.Bias, float64(k.X), float64(k.Y))
			d.Num(k.Values...)
			d.Text(k.Edge)
			d.Flag(k.KeepAlpha)
		}
		if p.Image != nil {
			d.node(p.Image)
		}
	}
}
