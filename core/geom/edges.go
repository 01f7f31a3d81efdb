package geom

import (
	"math"
	"math/bits"
)

// Edge is a straight line that browsers fill a shape by, walked downwards: heights on quarters of a row, all in 1/65536
// pixels.
type Edge struct{ X0, Y0, X1, Y1 int32 }

// Cell is the place of a point that browsers tell from others, in 256ths of a pixel.
func Cell(p Point) (x, y int32) { return whole256(p.X), whole256(p.Y) }

// Edges appends the straight lines that browsers fill a segment by, whose points are in device pixels and exact in 32
// bits. Where two shapes have the same edges they are painted the same, whatever their numbers.
func (s *Segment) Edges(out []Edge) []Edge {
	switch s.Verb {
	case Line, Close:
		return lineEdge(out, whole256(s.P[0].X)<<8, snapFixed(whole256(s.P[0].Y)<<8), whole256(s.P[1].X)<<8,
			snapFixed(whole256(s.P[1].Y)<<8))
	case Quad, Cubic:
		pieces, n := s.chop()
		for i := 0; i <= n; i++ {
			out = pieces[i].monotoneEdges(out)
		}
	case Conic:
		a := float(s.Weight - 1)
		k := float(a / float(4*float(2+a)))
		d := Point{float(k * float(float(s.P[0].X-float(2*s.P[1].X))+s.P[2].X)),
			float(k * float(float(s.P[0].Y-float(2*s.P[1].Y))+s.P[2].Y))}
		halves := 0
		for off := float(math.Sqrt(float(float(d.X*d.X) + float(d.Y*d.Y)))); off > 0.25 && halves < 5; off *= 0.25 {
			halves++
		}
		out = s.conicEdges(out, halves)
	}
	return out
}

// chop cuts a curve where it turns around vertically; n is the number of cuts.
func (s *Segment) chop() (pieces [3]Segment, n int) {
	if s.Verb == Cubic {
		return s.chopCubic()
	}
	pieces[0], pieces[1], n = s.chopQuad()
	return pieces, n
}

func (s *Segment) monotoneEdges(out []Edge) []Edge {
	if s.Verb == Cubic {
		return s.cubicEdges(out)
	}
	return s.quadEdges(out)
}

// conicEdges fills a conic by quadratic curves, halved so often.
func (s *Segment) conicEdges(out []Edge, halves int) []Edge {
	if halves == 0 {
		q := Segment{Verb: Quad, P: s.P}
		return q.Edges(out)
	}
	k, w := float(1/float(1+s.Weight)), float(math.Sqrt(float(0.5+float(s.Weight*0.5))))
	wp := Point{float(s.Weight * s.P[1].X), float(s.Weight * s.P[1].Y)}
	mid := Point{float(float(float(float(s.P[0].X+float(2*wp.X))+s.P[2].X)*k) * 0.5),
		float(float(float(float(s.P[0].Y+float(2*wp.Y))+s.P[2].Y)*k) * 0.5)}
	p, q := Point{float(float(s.P[0].X+wp.X) * k), float(float(s.P[0].Y+wp.Y) * k)}, Point{float(float(wp.X+s.P[2].X) * k),
		float(float(wp.Y+s.P[2].Y) * k)}
	if top, bottom := s.P[0].Y, s.P[2].Y; between(top, s.P[1].Y, bottom) { // what does not turn around must not begin to
		if !between(top, mid.Y, bottom) {
			near := bottom
			if math.Abs(mid.Y-top) < math.Abs(mid.Y-bottom) {
				near = top
			}
			mid.Y = near
		}
		if !between(top, p.Y, mid.Y) {
			p.Y = top
		}
		if !between(mid.Y, q.Y, bottom) {
			q.Y = bottom
		}
	}
	a, b := Segment{Verb: Conic, Weight: w, P: [4]Point{s.P[0], p, mid}}, Segment{Verb: Conic, Weight: w,
		P: [4]Point{mid, q, s.P[2]}}
	return b.conicEdges(a.conicEdges(out, halves-1), halves-1)
}

func between(a, b, c float64) bool { return (a-b)*(c-b) <= 0 }

// float is a value in 32 bits.
func float(v float64) float64 { return float64(float32(v)) }

func lerp32(a, b Point, t float64) Point {
	return Point{float(a.X + float(float(b.X-a.X)*t)), float(a.Y + float(float(b.Y-a.Y)*t))}
}

// whole256 cuts a coordinate off at the 256th of a pixel. What is too far out to be seen stays in range.
func whole256(v float64) int32 {
	return int32(math.Floor(math.Max(-1<<20, math.Min(v*256, 1<<20))))
}

// snapFixed moves a height to the nearest quarter of a row.
func snapFixed(y int32) int32 { return (y + 1<<13) >> 14 << 14 }

// lineEdge appends a line that has a height.
func lineEdge(out []Edge, x0, y0, x1, y1 int32) []Edge {
	if y0 > y1 {
		x0, y0, x1, y1 = x1, y1, x0, y0
	}
	if (y1-y0)>>10 == 0 {
		return out
	}
	return append(out, Edge{x0, y0, x1, y1})
}

// unit is a/b where that is inside 0 to 1.
func unit(a, b float64) (float64, bool) {
	if a < 0 {
		a, b = -a, -b
	}
	if b == 0 || a == 0 || a >= b {
		return 0, false
	}
	t := float(a / b)
	return t, t > 0
}

// chopQuad cuts a quadratic curve where it turns around vertically; n is the number of cuts.
func (s *Segment) chopQuad() (first, second Segment, n int) {
	a, b, c := s.P[0].Y, s.P[1].Y, s.P[2].Y
	first = *s
	if ab, bc := float(a-b), float(b-c); ab == 0 || (ab < 0) == (bc < 0) && bc != 0 {
		return first, second, 0
	}
	t, ok := unit(float(a-b), float(float(float(a-b)-b)+c))
	if !ok {
		if first.P[1].Y = c; math.Abs(a-b) < math.Abs(b-c) {
			first.P[1].Y = a
		}
		return first, second, 0
	}
	p01, p12 := lerp32(s.P[0], s.P[1], t), lerp32(s.P[1], s.P[2], t)
	mid := lerp32(p01, p12, t)
	p01.Y, p12.Y = mid.Y, mid.Y
	first.P, second = [4]Point{s.P[0], p01, mid}, Segment{Verb: Quad, P: [4]Point{mid, p12, s.P[2]}}
	return first, second, 1
}

// chopCubic cuts a cubic curve where it turns around vertically; n is the number of cuts.
func (s *Segment) chopCubic() (pieces [3]Segment, n int) {
	a, b, c, d := s.P[0].Y, s.P[1].Y, s.P[2].Y, s.P[3].Y
	ts, n := roots32(float(float(d-a)+float(3*float(b-c))), float(2*float(float(float(a-b)-b)+c)), float(b-a))
	cut := func(t float64) (p01, p012, mid, p123, p23 Point) {
		p01, p12, p23 := lerp32(s.P[0], s.P[1], t), lerp32(s.P[1], s.P[2], t), lerp32(s.P[2], s.P[3], t)
		p012, p123 = lerp32(p01, p12, t), lerp32(p12, p23, t)
		return p01, p012, lerp32(p012, p123, t), p123, p23
	}
	switch n {
	case 0:
		pieces[0] = *s
	case 1:
		p01, p012, mid, p123, p23 := cut(ts[0])
		p012.Y, p123.Y = mid.Y, mid.Y
		pieces[0] = Segment{Verb: Cubic, P: [4]Point{s.P[0], p01, p012, mid}}
		pieces[1] = Segment{Verb: Cubic, P: [4]Point{mid, p123, p23, s.P[3]}}
	default:
		p01, p012, first, p123, _ := cut(ts[0])
		_, q012, second, q123, q23 := cut(ts[1])
		a, b := lerp32(p012, p123, ts[1]), lerp32(q012, q123, ts[0])
		p012.Y, a.Y = first.Y, first.Y
		b.Y, q123.Y = second.Y, second.Y
		pieces[0] = Segment{Verb: Cubic, P: [4]Point{s.P[0], p01, p012, first}}
		pieces[1] = Segment{Verb: Cubic, P: [4]Point{first, a, b, second}}
		pieces[2] = Segment{Verb: Cubic, P: [4]Point{second, q123, q23, s.P[3]}}
	}
	return pieces, n
}

// roots32 are the roots of ax² + bx + c inside 0 to 1, in order.
func roots32(a, b, c float64) (ts [2]float64, n int) {
	add := func(t float64, ok bool) {
		if ok {
			ts[n] = t
			n++
		}
	}
	if a == 0 {
		add(unit(-c, b))
		return ts, n
	}
	d := b*b - 4*a*c
	if d < 0 {
		return ts, 0
	}
	r := float(math.Sqrt(d))
	q := -float(b+r) / 2
	if b < 0 {
		q = -float(b-r) / 2
	}
	add(unit(q, a))
	add(unit(c, q))
	if n == 2 && ts[0] > ts[1] {
		ts[0], ts[1] = ts[1], ts[0]
	} else if n == 2 && ts[0] == ts[1] {
		n = 1
	}
	return ts, n
}

// stray is the longer side of the way from a chord to its curve, and half the other.
func stray(dx, dy int32) int32 {
	dx, dy = max(dx, -dx), max(dy, -dy)
	return max(dx, dy) + min(dx, dy)/2
}

// halvingsOf is how often a curve that strays so many 256ths of a pixel is halved: each leaves a quarter of that.
func halvingsOf(stray int32) int { return bits.Len32(uint32((stray+16)>>5)) / 2 }

// quadEdges walks a quadratic curve that does not turn around.
func (s *Segment) quadEdges(out []Edge) []Edge {
	x0, y0, x1, y1, x2, y2 := whole256(s.P[0].X), whole256(s.P[0].Y), whole256(s.P[1].X), whole256(s.P[1].Y), whole256(s.P[2].X), whole256(s.P[2].Y)
	if y0 > y2 {
		x0, y0, x2, y2 = x2, y2, x0, y0
	}
	if (y0+32)>>6 == (y2+32)>>6 { // no height
		return out
	}
	shift := min(max(1, halvingsOf(stray((x1*2-x0-x2)>>2, (y1*2-y0-y2)>>2))), maxHalvings)
	steps := func(a, b, c int32) (d, dd int32) { // the first step and how it grows, both halved
		k := (a - b - b + c) << 9
		return ((b-a)<<10 + k>>shift) >> 2, k >> (shift - 1) >> 2
	}
	dx, ddx := steps(x0, x1, x2)
	dy, ddy := steps(y0, y1, y2)
	x, y := x0<<8, snapFixed(y0<<8)
	lastX, lastY := x2<<8, snapFixed(y2<<8)
	atX, atY := x, y // where the last line ended
	for count := 1<<shift - 1; count > 0; count-- {
		stepX, stepY := dx>>(shift-1), dy>>(shift-1)
		x, y = x+stepX, y+stepY
		toX, toY := x, min(lastY, snapFixed(y))
		if max(stepY, -stepY) >= 2<<16 { // steep and long: to a whole row, along the line
			toY = min(lastY, (y+1<<15)>>16<<16)
			if h := (y - atY) >> 10; h != 0 {
				slope := int64((x-atX)>>10) << 16 / int64(h)
				toX = x - int32(slope*int64(y-toY)>>16)
			}
		}
		n := len(out)
		if out = lineEdge(out, atX, atY, toX, toY); len(out) > n {
			atX, atY = toX, toY
		}
		dx, dy = dx+ddx, dy+ddy
	}
	return lineEdge(out, atX, atY, lastX, lastY)
}

// cubicEdges walks a cubic curve that does not turn around.
func (s *Segment) cubicEdges(out []Edge) []Edge {
	var x, y [4]int32
	for i, p := range s.P {
		x[i], y[i] = whole256(p.X), whole256(p.Y)
	}
	if y[0] > y[3] {
		x, y = [4]int32{x[3], x[2], x[1], x[0]}, [4]int32{y[3], y[2], y[1], y[0]}
	}
	if (y[0]+32)>>6 == (y[3]+32)>>6 { // no height
		return out
	}
	off := func(v [4]int32) int32 { // from the chord, at a third and two thirds
		a, b := ((v[0]*8-v[1]*15+6*v[2]+v[3])*19)>>9, ((v[0]+6*v[1]-v[2]*15+v[3]*8)*19)>>9
		return max(a, -a, b, -b)
	}
	shift := min(halvingsOf(stray(off(x), off(y)))+1, maxHalvings)
	up, down := 6, shift-4
	if down < 0 {
		up, down = 10-shift, 0
	}
	steps := func(v [4]int32) (d, dd, ddd int32) {
		b, c, e := 3*(v[1]-v[0])<<up, 3*(v[0]-v[1]-v[1]+v[2])<<up, (v[3]+3*(v[1]-v[2])-v[0])<<up
		ddd = 3 * e >> (shift - 1)
		return (b + c>>shift + e>>(2*shift)) >> 2, (2*c + ddd) >> 2, ddd >> 2
	}
	dx, ddx, dddx := steps(x)
	dy, ddy, dddy := steps(y)
	atX, atY, snapped := x[0]<<8, snapFixed(y[0]<<8), snapFixed(y[0]<<8)
	lastX, lastY := x[3]<<8, snapFixed(y[3]<<8)
	for count := 1<<shift - 1; count >= 0; count-- {
		toX, toY := lastX, lastY
		if count > 0 {
			toX, toY = atX+dx>>down, max(atY, atY+dy>>down)
			dx, dy = dx+ddx>>shift, dy+ddy>>shift
			ddx, ddy = ddx+dddx, ddy+dddy
		}
		to := snapFixed(toY)
		if lastY < to {
			to, count = lastY, 0
		}
		out = lineEdge(out, atX, snapped, toX, to)
		atX, atY, snapped = toX, toY, to
	}
	return out
}
