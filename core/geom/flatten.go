package geom

import (
	"math"
	"math/bits"
)

// Polyline is one flattened subpath.
type Polyline struct {
	Points []Point
	Closed bool
}

// Flatten turns the path under m into polylines that stray from it by at most tol pixels (of the space after m).
func (p *Path) Flatten(m Matrix, tol float64) []Polyline {
	return p.polylines(m, func(out []Point, s *Segment) []Point {
		n := s.steps(tol)
		for k := 1; k < n; k++ {
			out = append(out, s.At(float64(k)/float64(n)))
		}
		return append(out, s.End())
	})
}

// FlattenForPaint turns the path under m (element to device) into the polylines that browsers fill: curves are cut
// where they turn around vertically, each piece becomes as few chords as keep it within about an eighth of a pixel,
// and corners fall on quarters of a row. Fewer chords are also faster; following the same rules keeps small shapes
// like theirs to the last shade.
func (p *Path) FlattenForPaint(m Matrix) []Polyline {
	lines := p.polylines(m, func(out []Point, s *Segment) []Point {
		switch s.Verb {
		case Quad:
			return s.quadChords(out)
		case Conic:
			return s.conicChords(out)
		case Cubic:
			return s.cubicChords(out)
		}
		return append(out, s.End())
	})
	for _, l := range lines {
		for i := range l.Points {
			l.Points[i].Y = snap(l.Points[i].Y)
		}
	}
	return lines
}

// snap moves a height to the nearest quarter of a row.
func snap(y float64) float64 { return math.Floor(y*4+0.5) / 4 }

func (p *Path) polylines(m Matrix, add func([]Point, *Segment) []Point) []Polyline {
	var out []Polyline
	var cur Polyline
	p.Each(func(s Segment, first bool) {
		for i := range s.P {
			s.P[i] = m.Apply(s.P[i])
		}
		if first {
			if len(cur.Points) > 1 {
				out = append(out, cur)
			}
			cur = Polyline{Points: append(make([]Point, 0, 8), s.P[0])}
		}
		if s.Verb == Close {
			cur.Closed = true
			out = append(out, cur)
			cur = Polyline{}
			return
		}
		cur.Points = add(cur.Points, &s)
	})
	if len(cur.Points) > 1 {
		out = append(out, cur)
	}
	return out
}

// steps bounds the number of chords by the second differences of the control points.
func (s *Segment) steps(tol float64) int {
	d := s.P[0].Sub(s.P[1].Mul(2)).Add(s.P[2]).Len()
	k := 0.25
	switch s.Verb {
	case Line:
		return 1
	case Cubic:
		d = math.Max(d, s.P[1].Sub(s.P[2].Mul(2)).Add(s.P[3]).Len())
		k = 0.75
	}
	n := math.Ceil(math.Sqrt(k * d / tol))
	if !(n > 1) {
		return 1
	}
	return int(math.Min(n, 500))
}

// halvings is how often to halve a curve that strays by dx, dy px from its chord: each halving leaves a quarter.
func halvings(dx, dy float64) int {
	dx, dy = math.Abs(dx), math.Abs(dy)
	dist := math.Max(dx, dy) + math.Min(dx, dy)/2
	return bits.Len(uint(math.Min(dist*8+0.5, 1<<20))) / 2
}

const maxHalvings = 6

// monotone cuts a segment where it turns around vertically, and visits the pieces.
func (s *Segment) monotone(visit func(*Segment)) {
	from := 0.0
	rest := *s
	ts, n := s.extremesY()
	for _, t := range ts[:n] {
		a, b := rest.split((t - from) / (1 - from))
		visit(&a)
		rest, from = b, t
	}
	visit(&rest)
}

// split cuts a quadratic or cubic curve in two.
func (s *Segment) split(t float64) (a, b Segment) {
	a, b = Segment{Verb: s.Verb}, Segment{Verb: s.Verb}
	p01, p12 := s.P[0].Lerp(s.P[1], t), s.P[1].Lerp(s.P[2], t)
	if s.Verb == Quad {
		mid := p01.Lerp(p12, t)
		a.P, b.P = [4]Point{s.P[0], p01, mid}, [4]Point{mid, p12, s.P[2]}
		return a, b
	}
	p23 := s.P[2].Lerp(s.P[3], t)
	p012, p123 := p01.Lerp(p12, t), p12.Lerp(p23, t)
	mid := p012.Lerp(p123, t)
	a.P, b.P = [4]Point{s.P[0], p01, p012, mid}, [4]Point{mid, p123, p23, s.P[3]}
	return a, b
}

func (s *Segment) chords(out []Point, shift int) []Point {
	n := 1 << min(shift, maxHalvings)
	for k := 1; k < n; k++ {
		out = append(out, s.At(float64(k)/float64(n)))
	}
	return append(out, s.End())
}

func (s *Segment) quadChords(out []Point) []Point {
	s.monotone(func(q *Segment) {
		d := q.P[1].Mul(2).Sub(q.P[0]).Sub(q.P[2]).Mul(0.25)
		from := len(out)
		up := q.P[2].Y < q.P[0].Y
		if up { // edges are walked downwards
			q = &Segment{Verb: Quad, P: [4]Point{q.P[2], q.P[1], q.P[0]}}
		}
		out = wholeRows(q, q.chords(append(out, q.P[0]), max(1, halvings(d.X, d.Y))), from)
		if up {
			for i, j := from, len(out)-1; i < j; i, j = i+1, j-1 {
				out[i], out[j] = out[j], out[i]
			}
		}
		out = append(out[:from], out[from+1:]...) // the start is there already
	})
	return out
}

// wholeRows moves the inner corners of steep chords along them to whole rows. out[from] is where the chords begin.
func wholeRows(q *Segment, out []Point, from int) []Point {
	last := Point{q.P[0].X, snap(q.P[0].Y)}
	raw := q.P[0].Y
	for i := from + 1; i < len(out)-1; i++ {
		p := out[i]
		next := Point{p.X, snap(p.Y)}
		if p.Y-raw >= 2 && p.Y != last.Y {
			slope := (p.X - last.X) / (p.Y - last.Y)
			y := math.Floor(p.Y + 0.5)
			next = Point{p.X - slope*(p.Y-y), y}
		}
		raw = p.Y
		out[i], last = next, next
	}
	return out
}

func (s *Segment) cubicChords(out []Point) []Point {
	s.monotone(func(c *Segment) {
		off := func(a, b, d, e float64) float64 { // from the chord, at a third and two thirds
			return math.Max(math.Abs(a*8-b*15+6*d+e), math.Abs(a+6*b-d*15+e*8)) * 19 / 512
		}
		out = c.chords(out, halvings(off(c.P[0].X, c.P[1].X, c.P[2].X, c.P[3].X), off(c.P[0].Y, c.P[1].Y, c.P[2].Y,
			c.P[3].Y))+1)
	})
	return out
}

// conicChords makes quadratic curves of a conic, as few as keep within a quarter of a pixel, and chords of those.
func (s *Segment) conicChords(out []Point) []Point {
	a := s.Weight - 1
	k := a / (4 * (2 + a))
	err := s.P[0].Sub(s.P[1].Mul(2)).Add(s.P[2]).Mul(k).Len()
	level := 0
	for ; level < 5 && err > 0.25; level++ {
		err *= 0.25
	}
	return conicQuads(out, s, level)
}

func conicQuads(out []Point, s *Segment, level int) []Point {
	if level == 0 {
		q := Segment{Verb: Quad, P: s.P}
		return q.quadChords(out)
	}
	w := s.Weight
	k := 1 / (1 + w)
	a, b := Segment{Verb: Conic, Weight: math.Sqrt(0.5 + w/2)}, Segment{Verb: Conic, Weight: math.Sqrt(0.5 + w/2)}
	mid := s.P[0].Add(s.P[1].Mul(2 * w)).Add(s.P[2]).Mul(k / 2)
	a.P = [4]Point{s.P[0], s.P[0].Add(s.P[1].Mul(w)).Mul(k), mid}
	b.P = [4]Point{mid, s.P[1].Mul(w).Add(s.P[2]).Mul(k), s.P[2]}
	return conicQuads(conicQuads(out, &a, level-1), &b, level-1)
}
