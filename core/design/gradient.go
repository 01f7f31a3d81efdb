package design

import (
	"math"

	"archetyp/core/color"
	"archetyp/core/geom"
)

// Position gives where on its line (0–1 between its ends) a gradient is at a point of gradient space; ok is false
// where it paints nothing. https://www.w3.org/TR/SVG2/pservers.html
func (g *Gradient) Position() func(geom.Point) (t float64, ok bool) {
	if g.R1 > 0 {
		return g.radialPosition()
	}
	return g.linearPosition()
}

func (g *Gradient) linearPosition() func(geom.Point) (float64, bool) {
	d := g.P1.Sub(g.P0)
	k := 1 / (d.X*d.X + d.Y*d.Y)
	return func(p geom.Point) (float64, bool) {
		p = p.Sub(g.P0)
		return (p.X*d.X + p.Y*d.Y) * k, true
	}
}

// radialPosition solves for the circle between the focal and the outer one that passes through a point.
func (g *Gradient) radialPosition() func(geom.Point) (float64, bool) {
	f, c, r0, r1 := g.P0, g.P1, g.R0, g.R1
	if d := f.Sub(c); d.Len() > r1*0.9999 { // a focal point outside goes to the edge
		f = c.Add(d.Mul(r1 * 0.9999 / d.Len()))
	}
	cd, dr := c.Sub(f), r1-r0
	a := cd.X*cd.X + cd.Y*cd.Y - dr*dr
	return func(p geom.Point) (float64, bool) {
		pd := p.Sub(f)
		b := pd.X*cd.X + pd.Y*cd.Y + r0*dr
		k := pd.X*pd.X + pd.Y*pd.Y - r0*r0
		if math.Abs(a) < 1e-12 {
			if b == 0 {
				return 0, false
			}
			return k / (2 * b), true
		}
		disc := b*b - a*k
		if disc < 0 {
			return 0, false
		}
		s := math.Sqrt(disc)
		t0, t1 := (b+s)/a, (b-s)/a
		if t0 < t1 {
			t0, t1 = t1, t0
		}
		if r0+t0*dr >= 0 {
			return t0, true
		}
		return t1, r0+t1*dr >= 0
	}
}

// Within brings a share of the gradient's line beyond its ends back between 0 and 1, as its spread method says.
func (g *Gradient) Within(t float64) float64 {
	switch g.Spread {
	case "repeat":
		return t - math.Floor(t)
	case "reflect":
		t = math.Abs(math.Mod(t, 2))
		if t > 1 {
			t = 2 - t
		}
		return t
	}
	return math.Min(1, math.Max(0, t))
}

// At is the gradient's colour at a point of element space: between its stops in sRGB, not premultiplied, as SVG says.
func (g *Gradient) At(p geom.Point) (color.Color, bool) {
	inv, ok := g.Matrix.Inverse()
	if !ok || len(g.Stops) == 0 {
		return color.Color{}, false
	}
	t, ok := g.Position()(inv.Apply(p))
	if !ok {
		return color.Color{}, false
	}
	t = g.Within(t)
	before := g.Stops[0]
	for _, s := range g.Stops {
		if s.Offset > t {
			if s.Offset <= before.Offset {
				return s.Color, true
			}
			return mix(before.Color, s.Color, (t-before.Offset)/(s.Offset-before.Offset)), true
		}
		before = s
	}
	return before.Color, true
}

// mix is a colour a share k of the way from a to b in sRGB.
func mix(a, b color.Color, k float64) color.Color {
	k = math.Min(1, math.Max(0, k))
	x, y := a.SRGB(), b.SRGB()
	out := color.Color{Space: color.SRGB, Alpha: a.Alpha + (b.Alpha-a.Alpha)*k}
	for i := range x {
		out.C[i] = x[i] + (y[i]-x[i])*k
	}
	return out
}

// Straight is a linear gradient's line in the space that m leads to from gradient space: a gradient that is squeezed
// or slanted there is the same as one along another line, across which its colours stand at right angles again.
func (g *Gradient) Straight(m geom.Matrix) (from, to geom.Point, ok bool) {
	inv, ok := m.Inverse()
	if !ok {
		return from, to, false
	}
	d := g.P1.Sub(g.P0)
	l := d.X*d.X + d.Y*d.Y
	if l == 0 {
		return from, to, false
	}
	// t grows along the gradient of t in the new space: the line's direction under the inverse transpose
	n := geom.Point{X: (d.X*inv.A + d.Y*inv.B) / l, Y: (d.X*inv.C + d.Y*inv.D) / l}
	k := n.X*n.X + n.Y*n.Y
	if k == 0 {
		return from, to, false
	}
	from = m.Apply(g.P0)
	return from, from.Add(n.Mul(1 / k)), true
}
