package geom

import "math"

// Segment is one piece of a path with its points, the start included.
type Segment struct {
	Verb   Verb
	P      [4]Point // start, control points, end
	Weight float64  // of a conic
}

// Each visits the segments of a path that have an extent. first is true for the first of a subpath. A close comes as
// the line back to the start, with Verb Close, also where that has no length.
func (p *Path) Each(visit func(s Segment, first bool)) {
	i, w := 0, 0
	var start, cur Point
	first := true
	for _, v := range p.Verbs {
		switch v {
		case Move:
			start, cur, first = p.Points[i], p.Points[i], true
			i++
			continue
		case Close:
			visit(Segment{Verb: Close, P: [4]Point{cur, start}}, first)
			cur, first = start, true
			continue
		}
		s := Segment{Verb: v}
		s.P[0] = cur
		copy(s.P[1:], p.Points[i:i+v.Size()])
		if v == Conic {
			s.Weight = p.Weights[w]
			w++
		}
		i += v.Size()
		cur = s.End()
		visit(s, first)
		first = false
	}
}

// End is where the segment ends.
func (s *Segment) End() Point {
	if s.Verb == Close {
		return s.P[1]
	}
	return s.P[s.Verb.Size()]
}

// At is the point of the segment at t (0–1).
func (s *Segment) At(t float64) Point {
	u := 1 - t
	switch s.Verb {
	case Quad:
		return s.P[0].Mul(u * u).Add(s.P[1].Mul(2 * u * t)).Add(s.P[2].Mul(t * t))
	case Conic:
		k := 2 * s.Weight * u * t
		return s.P[0].Mul(u * u).Add(s.P[1].Mul(k)).Add(s.P[2].Mul(t * t)).Mul(1 / (u*u + k + t*t))
	case Cubic:
		return s.P[0].Mul(u * u * u).Add(s.P[1].Mul(3 * u * u * t)).Add(s.P[2].Mul(3 * u * t * t)).Add(s.P[3].Mul(t * t * t))
	}
	return s.P[0].Lerp(s.P[1], t)
}

// Direction is the direction of travel at t, of any length; zero only for a segment that is one point.
func (s *Segment) Direction(t float64) Point {
	var d Point
	u := 1 - t
	switch s.Verb {
	case Quad:
		d = s.P[1].Sub(s.P[0]).Mul(u).Add(s.P[2].Sub(s.P[1]).Mul(t))
	case Conic:
		p20, p10 := s.P[2].Sub(s.P[0]), s.P[1].Sub(s.P[0]).Mul(s.Weight)
		d = p20.Mul(s.Weight - 1).Mul(t * t).Add(p20.Sub(p10.Mul(2)).Mul(t)).Add(p10)
	case Cubic:
		d = s.P[1].Sub(s.P[0]).Mul(u * u).Add(s.P[2].Sub(s.P[1]).Mul(2 * u * t)).Add(s.P[3].Sub(s.P[2]).Mul(t * t))
		if d.Len() < 1e-12 {
			if t < 0.5 {
				d = s.P[2].Sub(s.P[0])
			} else {
				d = s.P[3].Sub(s.P[1])
			}
		}
	}
	if d.Len() < 1e-12 {
		d = s.End().Sub(s.P[0])
	}
	return d
}

// extremes are the t inside 0–1 at which the segment turns around along an axis, smaller ones first.
func (s *Segment) extremes(p0, p1, p2, p3 float64) (ts [2]float64, n int) {
	switch s.Verb {
	case Quad:
		ts, n = roots(0, p0-2*p1+p2, p1-p0)
	case Conic:
		p20, p10 := p2-p0, s.Weight*(p1-p0)
		ts, n = roots(s.Weight*p20-p20, p20-2*p10, p10)
	case Cubic:
		ts, n = roots(-p0+3*p1-3*p2+p3, 2*(p0-2*p1+p2), p1-p0)
	}
	k := 0
	for _, t := range ts[:n] {
		if t > 0 && t < 1 {
			ts[k] = t
			k++
		}
	}
	if k == 2 && ts[0] > ts[1] {
		ts[0], ts[1] = ts[1], ts[0]
	}
	return ts, k
}

func (s *Segment) extremesX() ([2]float64, int) {
	return s.extremes(s.P[0].X, s.P[1].X, s.P[2].X, s.P[3].X)
}

func (s *Segment) extremesY() ([2]float64, int) {
	return s.extremes(s.P[0].Y, s.P[1].Y, s.P[2].Y, s.P[3].Y)
}

// roots solves a·t² + b·t + c = 0; n is how many there are.
func roots(a, b, c float64) (ts [2]float64, n int) {
	if math.Abs(a) < 1e-12 {
		if b == 0 {
			return ts, 0
		}
		return [2]float64{-c / b}, 1
	}
	d := b*b - 4*a*c
	if d < 0 {
		return ts, 0
	}
	s := math.Sqrt(d)
	return [2]float64{(-b + s) / (2 * a), (-b - s) / (2 * a)}, 2
}

// Bounds is the tight box: curves count by their extremes, not their control points. ok is false for no extent at
// all; a lone move has none.
func (p *Path) Bounds() (r Rect, ok bool) {
	if p == nil {
		return Rect{}, false
	}
	var b bounds
	p.Each(func(s Segment, _ bool) {
		b.add(s.P[0])
		b.add(s.End())
		if s.Verb == Line || s.Verb == Close {
			return
		}
		ts, n := s.extremesX()
		for _, t := range ts[:n] {
			b.add(s.At(t))
		}
		ts, n = s.extremesY()
		for _, t := range ts[:n] {
			b.add(s.At(t))
		}
	})
	return b.rect(), b.set
}

// Cubic is a segment as a cubic curve. For a conic it strays from it by less than a thousandth of its size where the
// conic turns by no more than a quarter.
func (s *Segment) Cubic() [4]Point {
	k := 2.0 / 3
	switch s.Verb {
	case Cubic:
		return s.P
	case Quad:
		return [4]Point{s.P[0], s.P[0].Lerp(s.P[1], k), s.P[2].Lerp(s.P[1], k), s.P[2]}
	case Conic:
		k = 4 * s.Weight / (3 * (1 + s.Weight))
		return [4]Point{s.P[0], s.P[0].Lerp(s.P[1], k), s.P[2].Lerp(s.P[1], k), s.P[2]}
	}
	return [4]Point{s.P[0], s.P[0].Lerp(s.P[1], 1.0/3), s.P[0].Lerp(s.P[1], 2.0/3), s.P[1]}
}
