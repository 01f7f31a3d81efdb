package ora

import (
	"image"
	"math"

	"archetyp/core/color"
	"archetyp/core/design"
)

// shadeColor is the colour of the soft pixels around a shape, in 255ths. Programs keep colours multiplied by alpha, in
// whole steps, rounded or cut off: the slope of those over alpha tells the colour without what rounding took. ok is
// false where there are several colours.
func shadeColor(px *image.NRGBA, tight, shape image.Rectangle) (c [3]float64, ok bool) {
	each := func(visit func(a float64, premultiplied [3]float64)) {
		for y := tight.Min.Y; y < tight.Max.Y; y++ {
			for x := tight.Min.X; x < tight.Max.X; x++ {
				if (image.Point{X: x, Y: y}).In(shape) {
					continue
				}
				p := px.Pix[px.PixOffset(x, y):][:4]
				if a := float64(p[3]); a > 0 {
					visit(a, [3]float64{math.Round(float64(p[0]) * a / 255), math.Round(float64(p[1]) * a / 255),
						math.Round(float64(p[2]) * a / 255)})
				}
			}
		}
	}
	var n, sa, saa float64
	var sp, sap [3]float64
	each(func(a float64, p [3]float64) {
		n, sa, saa = n+1, sa+a, saa+a*a
		for i := range p {
			sp[i], sap[i] = sp[i]+p[i], sap[i]+a*p[i]
		}
	})
	det := n*saa - sa*sa
	if n < 8 || det <= 0 {
		return c, false
	}
	var slope, base [3]float64
	for i := range c {
		slope[i] = (n*sap[i] - sa*sp[i]) / det
		base[i] = (sp[i] - slope[i]*sa) / n
		c[i] = math.Min(255, math.Max(0, math.Round(slope[i]*255)))
	}
	strays := 0.0
	each(func(a float64, p [3]float64) {
		for i := range p {
			if math.Abs(p[i]-base[i]-slope[i]*a) > 1.5 {
				strays++
				return
			}
		}
	})
	return c, strays*50 <= n
}

// soft is a shadow in the making.
type soft struct{ dx, dy, sigma, alpha, spread float64 }

// sample is a point beyond the shape and the alpha there, 0–1.
type sample struct{ x, y, alpha float64 }

// shadowOf finds the shadow that the soft pixels around the shape are: its offset, blur, spread and colour, by least
// squares over lines out of the middle of each side and over the corners.
func (c *cover) shadowOf(s *seen, tight image.Rectangle) bool {
	shape := s.shape()
	samples := c.samples(s, tight)
	if len(samples) < 12 {
		return false
	}
	b := s.box
	t := rectOf(tight)
	start := soft{
		dx: ((t.X - b.X) + (t.Right() - b.Right())) / 2, dy: ((t.Y - b.Y) + (t.Bottom() - b.Bottom())) / 2,
		sigma: math.Max(0.5, math.Max(t.W-b.W, t.H-b.H)/2/2.6),
	}
	for _, p := range samples {
		start.alpha = math.Max(start.alpha, p.alpha)
	}
	start.alpha = math.Min(0.9, start.alpha*1.5)
	best, rms := refine(shape, samples, start, 4)
	if spread, r := refine(shape, samples, best, 5); math.Abs(spread.spread) > 0.5 && r < rms*0.8 {
		best, rms = spread, r
	}
	if rms > 2.5/255 || best.sigma > 200 || best.alpha <= 0 || best.alpha > 1.02 {
		return false
	}
	alpha := math.Round(math.Min(1, best.alpha)*255) / 255
	s.shadow = &design.Shadow{X: tenth(best.dx), Y: tenth(best.dy), Blur: tenth(2 * best.sigma),
		Spread: tenth(best.spread),
		Color: color.Color{Space: color.SRGB, C: [3]float64{c.shade[0] / 255, c.shade[1] / 255, c.shade[2] / 255},
			Alpha: alpha}}
	s.shadowError = math.Max(0.5, math.Round(rms*255*10)/10)
	return true
}

// tenth is a length to what its error lets one say: a whole number where it is all but that, else tenths.
func tenth(v float64) float64 {
	if r := math.Round(v); math.Abs(v-r) < 0.15 {
		v = r
	} else {
		v = math.Round(v*10) / 10
	}
	if v == 0 {
		return 0 // not the negative one
	}
	return v
}

// samples are read off lines from the shape outwards: through the middle of its sides, and along its diagonals.
func (c *cover) samples(s *seen, tight image.Rectangle) []sample {
	b := s.box
	m := b.Centre()
	var out []sample
	ray := func(x, y, dx, dy float64) {
		steps := 0
		for at := image.Pt(int(x), int(y)); at.In(tight.Inset(-2)); steps++ {
			at = image.Pt(int(math.Floor(x+dx*float64(steps))), int(math.Floor(y+dy*float64(steps))))
		}
		for i := 0; i < steps; i += max(1, steps/32) {
			at := image.Pt(int(math.Floor(x+dx*float64(i))), int(math.Floor(y+dy*float64(i))))
			if !at.In(c.px.Rect) || !at.In(tight.Inset(-2)) {
				return
			}
			px, py := float64(at.X)+0.5, float64(at.Y)+0.5
			if s.shape().grown(1).coverage(px, py) > 0 {
				continue
			}
			out = append(out, sample{px, py, float64(c.px.Pix[c.px.PixOffset(at.X, at.Y)+3]) / 255})
		}
	}
	for _, share := range []float64{-0.25, 0, 0.25} {
		x, y := m.X+share*b.W, m.Y+share*b.H
		ray(b.X-1, y, -1, 0)
		ray(b.Right()+1, y, 1, 0)
		ray(x, b.Y-1, 0, -1)
		ray(x, b.Bottom()+1, 0, 1)
	}
	ray(b.X, b.Y, -0.7, -0.7)
	ray(b.Right(), b.Y, 0.7, -0.7)
	ray(b.X, b.Bottom(), -0.7, 0.7)
	ray(b.Right(), b.Bottom(), 0.7, 0.7)
	return out
}

// alphaAt is the alpha of a shadow at a point: the shape's outline moved, grown and blurred. The blur along x is exact
// on each line of the outline; lines are summed by their distance.
func (k soft) alphaAt(o outline, x, y float64) float64 {
	o = o.grown(k.spread)
	x, y = x-k.dx, y-k.dy
	from, to := math.Max(o.box.Y, y-4*k.sigma), math.Min(o.box.Bottom(), y+4*k.sigma)
	if from >= to {
		return 0
	}
	n := int(math.Min(48, math.Max(8, math.Ceil((to-from)/math.Max(0.5, k.sigma/4)))))
	step := (to - from) / float64(n)
	sum, above := 0.0, below((from-y)/k.sigma)
	var l, r, across float64 // of the line before: most are alike
	for i := range n {
		a := from + step*float64(i)
		under := below((a + step - y) / k.sigma)
		if x0, x1, ok := o.span(a + step/2); ok {
			if i == 0 || x0 != l || x1 != r {
				l, r, across = x0, x1, below((x-x0)/k.sigma)-below((x-x1)/k.sigma)
			}
			sum += (under - above) * across
		}
		above = under
	}
	return k.alpha * sum
}

// below is the share of a normal distribution below t.
func below(t float64) float64 { return 0.5 * math.Erfc(-t/math.Sqrt2) }

// refine is the Levenberg–Marquardt method over the first n numbers of a shadow. It returns the root mean square of
// what is left.
func refine(o outline, samples []sample, k soft, n int) (soft, float64) {
	residual := func(k soft) ([]float64, float64) {
		r, sum := make([]float64, len(samples)), 0.0
		for i, p := range samples {
			r[i] = k.alphaAt(o, p.x, p.y) - p.alpha
			sum += r[i] * r[i]
		}
		return r, sum
	}
	field := func(k *soft, i int) *float64 {
		return []*float64{&k.dx, &k.dy, &k.sigma, &k.alpha, &k.spread}[i]
	}
	r, sum := residual(k)
	damp := 1e-3
	for range 40 {
		jac := make([][]float64, n)
		for j := range n {
			h := 0.05
			if j == 3 {
				h = 0.005
			}
			q := k
			*field(&q, j) += h
			rq, _ := residual(q)
			for i := range rq {
				rq[i] = (rq[i] - r[i]) / h
			}
			jac[j] = rq
		}
		a := make([][]float64, n)
		for i := range n {
			a[i] = make([]float64, n+1)
			for j := range n {
				a[i][j] = dot(jac[i], jac[j])
			}
			a[i][i] = a[i][i]*(1+damp) + 1e-12
			a[i][n] = -dot(jac[i], r)
		}
		step, ok := solve(a)
		if !ok {
			break
		}
		q := k
		for j, v := range step {
			*field(&q, j) += v
		}
		q.sigma, q.alpha = math.Max(0.2, q.sigma), math.Min(1.5, math.Max(0.001, q.alpha))
		rq, sq := residual(q)
		if sq < sum {
			done := sum-sq < 1e-9*sum
			k, r, sum, damp = q, rq, sq, damp/4
			if done {
				break
			}
		} else if damp *= 6; damp > 1e8 {
			break
		}
	}
	return k, math.Sqrt(sum / float64(len(samples)))
}

func dot(a, b []float64) (s float64) {
	for i := range a {
		s += a[i] * b[i]
	}
	return s
}

// solve is Gauss's elimination of a small system; the last column is the right side.
func solve(a [][]float64) ([]float64, bool) {
	n := len(a)
	for i := range n {
		p := i
		for j := i + 1; j < n; j++ {
			if math.Abs(a[j][i]) > math.Abs(a[p][i]) {
				p = j
			}
		}
		if a[i], a[p] = a[p], a[i]; math.Abs(a[i][i]) < 1e-15 {
			return nil, false
		}
		for j := i + 1; j < n; j++ {
			f := a[j][i] / a[i][i]
			for k := i; k <= n; k++ {
				a[j][k] -= f * a[i][k]
			}
		}
	}
	x := make([]float64, n)
	for i := n - 1; i >= 0; i-- {
		x[i] = a[i][n]
		for j := i + 1; j < n; j++ {
			x[i] -= a[i][j] * x[j]
		}
		x[i] /= a[i][i]
	}
	return x, true
}
