package design

import (
	"encoding/binary"
	"image"
	"math"

	"archetyp/core/color"
	"archetyp/core/geom"
	"archetyp/core/paint/picture"

	"github.com/cespare/xxhash/v2"
)

// Digest is a hash of all that a paint tree says: two trees with the same one paint the same.
func (p *PaintNode) Digest() uint64 {
	d := &digest{Digest: xxhash.New()}
	d.node(p)
	return d.Sum64()
}

type digest struct {
	*xxhash.Digest
	buf [8]byte
}

func (d *digest) num(v ...float64) {
	for _, x := range v {
		binary.LittleEndian.PutUint64(d.buf[:], math.Float64bits(x))
		_, _ = d.Write(d.buf[:])
	}
}

func (d *digest) text(list ...string) {
	for _, s := range list {
		d.num(float64(len(s)))
		_, _ = d.WriteString(s)
	}
}

func (d *digest) flag(list ...bool) {
	for _, b := range list {
		if b {
			_, _ = d.WriteString("1")
		} else {
			_, _ = d.WriteString("0")
		}
	}
}

func (d *digest) matrix(m geom.Matrix) { d.num(m.A, m.B, m.C, m.D, m.E, m.F) }

func (d *digest) rect(r geom.Rect) { d.num(r.X, r.Y, r.W, r.H) }

func (d *digest) color(c color.Color) {
	s := c.SRGB()
	d.num(s[0], s[1], s[2], c.Alpha)
}

func (d *digest) path(p *geom.Path) {
	d.flag(p != nil)
	if p == nil {
		return
	}
	d.num(float64(len(p.Verbs)))
	for _, v := range p.Verbs {
		_, _ = d.Write([]byte{byte(v)})
	}
	for _, pt := range p.Points {
		d.num(pt.X, pt.Y)
	}
	d.num(p.Weights...)
}

func (d *digest) bitmap(img image.Image, file []byte) {
	d.flag(img != nil)
	if img == nil {
		return
	}
	if file != nil {
		_, _ = d.Write(file)
		return
	}
	rgba := picture.RGBA(img)
	d.num(float64(rgba.Rect.Dx()), float64(rgba.Rect.Dy()))
	_, _ = d.Write(rgba.Pix)
}

func (d *digest) node(p *PaintNode) {
	d.matrix(p.Matrix)
	d.num(p.Opacity)
	d.text(p.Blend)
	d.flag(p.Isolate, p.EvenOdd, p.StrokeFirst, p.Crisp, p.Pixelated, p.Fill != nil, p.Stroke != nil, p.Filter != nil, p.Mask != nil)
	d.clip(p.Clip)
	for m := p.Mask; m != nil; m = m.Mask {
		d.flag(m.Alpha)
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
		d.num(s.Width, s.Offset, s.Miter)
		d.num(s.Dashes...)
		d.text(s.Cap, s.Join)
		d.flag(s.Fixed)
	}
	for _, g := range p.Glyphs {
		d.path(g.Outline)
		d.num(g.Origin.X, g.Origin.Y, g.Size)
		d.text(g.Letters)
	}
	d.bitmap(p.Bitmap, p.File)
	d.rect(p.BitmapBox)
	d.num(float64(len(p.Children)))
	for _, c := range p.Children {
		d.node(c)
	}
}

func (d *digest) clip(c *Clip) {
	for ; c != nil; c = c.Clip {
		d.num(float64(len(c.Shapes)))
		for _, s := range c.Shapes {
			d.node(s)
		}
	}
}

func (d *digest) paint(p *Paint) {
	d.text(string(p.Kind))
	d.num(p.Opacity)
	d.color(p.Color)
	if g := p.Gradient; g != nil {
		d.num(g.P0.X, g.P0.Y, g.P1.X, g.P1.Y, g.R0, g.R1)
		d.matrix(g.Matrix)
		d.text(g.Spread)
		for _, s := range g.Stops {
			d.num(s.Offset)
			d.color(s.Color)
		}
	}
	if t := p.Tile; t != nil {
		d.rect(t.Box)
		d.matrix(t.Matrix)
		d.node(t.Content)
	}
}

func (d *digest) filter(f *Filter) {
	if f == nil {
		return
	}
	d.rect(f.Region)
	for i := range f.Primitives {
		p := &f.Primitives[i]
		d.text(p.Kind, p.In, p.In2, p.Result, p.Mode)
		d.text(p.Inputs...)
		d.flag(p.Linear, p.Region != nil)
		if p.Region != nil {
			d.rect(*p.Region)
		}
		d.num(p.DX, p.DY, p.SX, p.SY)
		d.color(p.Color)
		d.num(p.K[:]...)
		d.num(p.Matrix[:]...)
		for _, t := range p.Transfer {
			d.text(t.Type)
			d.num(t.Table...)
			d.num(t.Slope, t.Intercept, t.Amplitude, t.Exp, t.Of)
		}
		d.num(float64(p.Channels[0]), float64(p.Channels[1]))
		if n := p.Noise; n != nil {
			d.num(n.FX, n.FY, float64(n.Octaves), n.Seed)
			d.flag(n.Stitch, n.Fractal)
		}
		if l := p.Light; l != nil {
			d.flag(l.Specular)
			d.num(l.Surface, l.Constant, l.Exponent, l.Azimuth, l.Elevation, l.Focus, l.Cone)
			d.num(l.At[:]...)
			d.num(l.To[:]...)
			d.text(l.Source)
			d.color(l.Color)
		}
		if k := p.Kernel; k != nil {
			d.num(float64(k.W), float64(k.H), k.Divisor, k.Bias, float64(k.X), float64(k.Y))
			d.num(k.Values...)
			d.text(k.Edge)
			d.flag(k.KeepAlpha)
		}
		if p.Image != nil {
			d.node(p.Image)
		}
	}
}
