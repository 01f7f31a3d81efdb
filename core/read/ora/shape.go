package ora

import (
	"image"
	"math"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// cover reports how much of each pixel a shape covers, 0–1, whether there is nothing around it or a shadow.
type cover struct {
	px    *image.NRGBA
	r     image.Rectangle // where to look
	fill  design.Paint
	most  float64    // the shape's own alpha, 0–1
	soft  bool       // there is a shadow around
	shade [3]float64 // its colour, in 255ths
}

// at is the share of a pixel that the shape covers. Over a shadow, colour tells it: what is shape has the fill's, what
// is not has the shadow's.
func (c *cover) at(x, y int) float64 {
	p := c.px.Pix[c.px.PixOffset(x, y):][:4]
	a := float64(p[3]) / 255
	if !c.soft || a == 0 {
		return math.Min(1, a/c.most)
	}
	s := c.fillAt(float64(x)+0.5, float64(y)+0.5)
	best, gap := 0, 0.0
	for i := range s {
		if d := math.Abs(s[i] - c.shade[i]); d > gap {
			best, gap = i, d
		}
	}
	v := (float64(p[best])*a - a*c.shade[best]) / (s[best] - c.shade[best])
	switch {
	case v > 0.98:
		return 1
	case v < 0.02:
		return 0
	}
	return v
}

// fillAt is the fill's colour at a point, in 255ths.
func (c *cover) fillAt(x, y float64) [3]float64 {
	col := c.fill.Color
	if c.fill.Gradient != nil {
		col, _ = c.fill.Gradient.At(geom.Point{X: x, Y: y})
	}
	return [3]float64{col.C[0] * 255, col.C[1] * 255, col.C[2] * 255}
}

// fit finds the box and the corners of the shape, and holds every pixel against what they would paint.
func (c *cover) fit(s *seen, solid image.Rectangle) bool {
	if c.soft && c.tooAlike() {
		return false
	}
	s.box = c.edges(solid)
	if s.box.W < 4 || s.box.H < 4 {
		return false
	}
	c.corners(s)
	f := s.shape()
	strays, edge, sum := 0, 0, 0.0
	for y := c.r.Min.Y; y < c.r.Max.Y; y++ {
		for x := c.r.Min.X; x < c.r.Max.X; x++ {
			have, want := c.at(x, y), f.coverage(float64(x)+0.5, float64(y)+0.5)
			d := math.Abs(have - want)
			if d > 0.5 {
				strays++
			}
			if want > 0 && want < 1 || have > 0 && have < 1 {
				edge++
				sum += math.Min(d, 1)
			}
		}
	}
	around := 2 * (s.box.W + s.box.H)
	if float64(strays) > math.Max(3, 0.02*around) || edge > 0 && sum/float64(edge) > 0.2 && sum > 8 {
		return false
	}
	s.radiusError = 0.5
	return true
}

// tooAlike reports whether shape and shadow have colours too alike to be told apart.
func (c *cover) tooAlike() bool {
	m := c.r.Min.Add(c.r.Max).Div(2)
	s := c.fillAt(float64(m.X), float64(m.Y))
	p := point{c: s}
	return p.from(c.shade) < 24
}

// edges measures the sides of the shape across its middle, to parts of a pixel.
func (c *cover) edges(solid image.Rectangle) geom.Rect {
	m := solid.Min.Add(solid.Max).Div(2)
	sum := func(n int, at func(i, k int) float64) float64 { // of one line of pixels, the most of three
		best := 0.0
		for k := -1; k <= 1; k++ {
			t := 0.0
			for i := range n {
				t += at(i, k)
			}
			best = math.Max(best, t)
		}
		return best
	}
	left := float64(m.X) - sum(m.X-c.r.Min.X, func(i, k int) float64 { return c.at(c.r.Min.X+i, m.Y+k) })
	right := float64(m.X) + sum(c.r.Max.X-m.X, func(i, k int) float64 { return c.at(m.X+i, m.Y+k) })
	top := float64(m.Y) - sum(m.Y-c.r.Min.Y, func(i, k int) float64 { return c.at(m.X+k, c.r.Min.Y+i) })
	bottom := float64(m.Y) + sum(c.r.Max.Y-m.Y, func(i, k int) float64 { return c.at(m.X+k, m.Y+i) })
	for _, v := range []*float64{&left, &right, &top, &bottom} {
		if r := math.Round(*v); math.Abs(*v-r) < 0.1 {
			*v = r
		} else {
			*v = math.Round(*v*100) / 100
		}
	}
	return geom.Rect{X: left, Y: top, W: right - left, H: bottom - top}
}

// corners works out each corner's radius from what it lacks of the right angle: (1 − π/4)·r².
func (c *cover) corners(s *seen) {
	b := s.box
	mid := b.Centre()
	var lack [4]float64
	for y := c.r.Min.Y; y < c.r.Max.Y; y++ {
		for x := c.r.Min.X; x < c.r.Max.X; x++ {
			v := 1 - c.at(x, y)
			if v <= 0 {
				continue
			}
			px := geom.Rect{X: float64(x), Y: float64(y), W: 1, H: 1}.Intersect(b)
			if px.W <= 0 || px.H <= 0 {
				continue
			}
			// a pixel on the edge of the box is covered less than wholly by the box itself
			v = math.Max(0, v-(1-px.W*px.H))
			i := 0
			switch right, low := px.X+px.W/2 > mid.X, px.Y+px.H/2 > mid.Y; {
			case right && low:
				i = 2
			case right:
				i = 1
			case low:
				i = 3
			}
			lack[i] += v
		}
	}
	total := lack[0] + lack[1] + lack[2] + lack[3]
	half := math.Min(b.W, b.H) / 2
	if oval := (1 - math.Pi/4) * b.W * b.H; math.Abs(total-oval) < 0.02*oval+2 && math.Abs(b.W-b.H) > 1 {
		s.form = geom.FormOval
		for i := range s.radii.X {
			s.radii.X[i], s.radii.Y[i] = b.W/2, b.H/2
		}
		return
	}
	least, most := math.Inf(1), 0.0
	var r [4]float64
	for i, v := range lack {
		r[i] = math.Min(half, math.Sqrt(v/(1-math.Pi/4)))
		least, most = math.Min(least, r[i]), math.Max(most, r[i])
	}
	if most-least <= 1 {
		mean := math.Min(half, math.Sqrt(total/4/(1-math.Pi/4)))
		r = [4]float64{mean, mean, mean, mean}
	}
	s.form = geom.FormRect
	for i, v := range r {
		switch {
		case v < 0.8:
			v = 0
		case v > half-0.6:
			v = half
		default:
			v = tenth(v)
		}
		if v > 0 {
			s.form = geom.FormRound
		}
		s.radii.X[i], s.radii.Y[i] = v, v
	}
	if s.form == geom.FormRound && b.W == b.H && s.radii.Uniform() && s.radii.X[0] == half {
		s.form = geom.FormCircle
	}
}

// outline is a rounded rectangle: a box and the radii of its corners.
type outline struct {
	box   geom.Rect
	radii design.Radii
}

func (s *seen) shape() outline { return outline{s.box, s.radii} }

// grown is the outline with every side moved out by d; round corners stay round.
func (o outline) grown(d float64) outline {
	o.box = o.box.Grow(d)
	for i := range o.radii.X {
		if o.radii.X[i] > 0 {
			o.radii.X[i], o.radii.Y[i] = math.Max(0, o.radii.X[i]+d), math.Max(0, o.radii.Y[i]+d)
		}
	}
	return o
}

// span is what the outline covers of the horizontal line at y: from x0 to x1.
func (o outline) span(y float64) (x0, x1 float64, ok bool) {
	b := o.box
	if y < b.Y || y > b.Bottom() {
		return 0, 0, false
	}
	x0, x1 = b.X, b.Right()
	inset := func(i int, from float64) float64 {
		rx, ry := o.radii.X[i], o.radii.Y[i]
		if ry <= 0 || from >= ry {
			return 0
		}
		t := 1 - from/ry
		return rx * (1 - math.Sqrt(math.Max(0, 1-t*t)))
	}
	top, low := y-b.Y, b.Bottom()-y
	x0 += math.Max(inset(0, top), inset(3, low))
	x1 -= math.Max(inset(1, top), inset(2, low))
	return x0, x1, x1 > x0
}

// coverage is the share of the pixel around a point that lies inside, summed over lines through it.
func (o outline) coverage(x, y float64) float64 {
	b := o.box
	if x < b.X-1 || x > b.Right()+1 || y < b.Y-1 || y > b.Bottom()+1 {
		return 0
	}
	const lines = 4
	sum := 0.0
	for k := range lines {
		x0, x1, ok := o.span(y + (float64(k)+0.5)/lines - 0.5)
		if ok {
			sum += math.Max(0, math.Min(x1, x+0.5)-math.Max(x0, x-0.5))
		}
	}
	return sum / lines
}
