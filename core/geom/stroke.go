package geom

import "math"

// StrokeStyle is how a line along a path is drawn. Lengths are in the space of the path.
type StrokeStyle struct {
	Width  float64
	Cap    string // butt (also for ""), round, square
	Join   string // miter (also for ""), round, bevel
	Miter  float64
	Dashes []float64
	Offset float64
}

// Stroke is the outline of the stroke of a path: fill it with the non-zero rule. scale is how much larger than in
// the path's own space the outline will be painted: offset curves are approximated to a quarter of a painted pixel,
// as browsers do.
func Stroke(p *Path, st StrokeStyle, scale float64) *Path {
	s := &stroker{out: &Path{}, st: st, r: st.Width / 2, near: 0.25 / scale}
	if st.Width <= 0 {
		return s.out
	}
	if s.st.Miter < 1 {
		s.st.Miter = 4
	}
	if len(st.Dashes) > 0 {
		for _, pl := range p.Flatten(Identity, 0.05/scale) {
			for _, d := range dash(pl.Points, pl.Closed, st.Dashes, st.Offset) {
				var segs []Segment
				for i := 1; i < len(d); i++ {
					segs = appendSegment(segs, Segment{Verb: Line, P: [4]Point{d[i-1], d[i]}})
				}
				s.subpath(segs, d[0], false)
			}
		}
		return s.out
	}
	var segs []Segment
	var start Point
	drawn := false // something, even if it has no length
	flush := func(closed bool) {
		if drawn {
			s.subpath(segs, start, closed)
		}
		segs, drawn = nil, false
	}
	p.Each(func(g Segment, first bool) {
		if first {
			flush(false)
			start = g.P[0]
		}
		drawn = true
		if g.Verb == Close {
			g.Verb = Line
			segs = appendSegment(segs, g)
			flush(true)
			return
		}
		segs = appendSegment(segs, g)
	})
	flush(false)
	return s.out
}

// appendSegment leaves out segments without length.
func appendSegment(segs []Segment, g Segment) []Segment {
	if g.Verb == Line && g.P[1].Sub(g.P[0]).Len() < 1e-9 || g.Direction(0).Len() < 1e-12 {
		return segs
	}
	return append(segs, g)
}

type stroker struct {
	out  *Path
	st   StrokeStyle
	r    float64
	near float64 // how far an approximation may stray
}

func (s *stroker) subpath(segs []Segment, at Point, closed bool) {
	if len(segs) == 0 { // a dot shows with round and square caps only
		switch s.st.Cap {
		case "round":
			s.out.Append(Ellipse(at.X, at.Y, s.r, s.r))
		case "square":
			s.out.Append(Rect{at.X - s.r, at.Y - s.r, 2 * s.r, 2 * s.r}.Path())
		}
		return
	}
	back := make([]Segment, len(segs))
	for i := range segs {
		back[len(segs)-1-i] = segs[i].reversed()
	}
	if closed {
		s.side(segs, true, true)
		s.out.Close()
		s.side(back, true, true)
		s.out.Close()
		return
	}
	s.side(segs, false, true)
	s.cap(&segs[len(segs)-1])
	s.side(back, false, false)
	s.cap(&back[len(back)-1])
	s.out.Close()
}

func (s *Segment) reversed() Segment {
	r := *s
	n := s.Verb.Size()
	for i := 0; i <= n; i++ {
		r.P[i] = s.P[n-i]
	}
	return r
}

// side offsets a run of segments to its left.
func (s *stroker) side(segs []Segment, closed, move bool) {
	for i := range segs {
		g := &segs[i]
		start := g.P[0].Add(s.normal(g.Direction(0)))
		switch {
		case i > 0:
			s.join(segs[i-1].Direction(1), g.P[0], g.Direction(0))
		case closed:
			prev := segs[len(segs)-1].Direction(1)
			end := g.P[0].Add(s.normal(prev))
			s.out.MoveTo(end.X, end.Y)
			s.join(prev, g.P[0], g.Direction(0))
		case move:
			s.out.MoveTo(start.X, start.Y)
		default:
			s.line(start)
		}
		s.offset(g)
	}
}

func (s *stroker) line(p Point) { s.out.LineTo(p.X, p.Y) }

// normal is the offset to the left of a direction.
func (s *stroker) normal(d Point) Point {
	l := d.Len()
	return Point{d.Y / l * s.r, -d.X / l * s.r}
}

func (s *stroker) join(u, b, v Point) {
	n0, n1 := s.normal(u), s.normal(v)
	cross := u.X*v.Y - u.Y*v.X
	dot := n0.X*n1.X + n0.Y*n1.Y
	rr := s.r * s.r
	if dot > rr*0.9999 { // goes straight on
		s.line(b.Add(n1))
		return
	}
	if cross < 0 { // inner side: through the corner, so that the outline winds one way only
		s.line(b)
		s.line(b.Add(n1))
		return
	}
	switch s.st.Join {
	case "round":
		s.arc(b, n0, n1)
		return
	case "bevel":
	default:
		m := n0.Add(n1)
		if l := m.X*m.X + m.Y*m.Y; l > 0 {
			k := 2 * rr / l // the tip is b + m·k
			if math.Sqrt(l)*k <= s.st.Miter*s.r*(1+1e-9) {
				s.line(b.Add(m.Mul(k)))
			}
		}
	}
	s.line(b.Add(n1))
}

// arc adds a round corner about c from c+n0 to c+n1, turning clockwise on the page, in conics of a quarter at most.
func (s *stroker) arc(c, n0, n1 Point) {
	a0, a1 := math.Atan2(n0.Y, n0.X), math.Atan2(n1.Y, n1.X)
	if a1 <= a0+1e-9 {
		a1 += 2 * math.Pi
	}
	for a := a0; a < a1-1e-9; a += math.Pi / 2 {
		e := math.Min(a+math.Pi/2, a1)
		sin, cos := math.Sincos((a + e) / 2)
		w := math.Cos((e - a) / 2)
		se, ce := math.Sincos(e)
		s.out.ConicTo(c.Add(Point{cos, sin}.Mul(s.r/w)), c.Add(Point{ce, se}.Mul(s.r)), w)
	}
}

// cap goes round the end of a segment.
func (s *stroker) cap(g *Segment) {
	p := g.End()
	n := s.normal(g.Direction(1))
	d := Point{-n.Y, n.X} // onwards, r long
	switch s.st.Cap {
	case "round":
		s.arc(p, n, Point{-n.X, -n.Y})
	case "square":
		s.line(p.Add(n).Add(d))
		s.line(p.Sub(n).Add(d))
	}
}

// offset adds a segment moved to its left: a line as a line, a curve as quadratic curves.
func (s *stroker) offset(g *Segment) {
	if g.Verb == Line {
		s.line(g.P[1].Add(s.normal(g.Direction(0))))
		return
	}
	from := 0.0
	for _, t := range append(g.inflections(), 1) {
		s.offsetPart(g, from, t, 0)
		from = t
	}
}

// inflections are the t at which a cubic changes the side it bends to.
func (s *Segment) inflections() []float64 {
	if s.Verb != Cubic {
		return nil
	}
	a, b, c := s.P[1].Sub(s.P[0]), s.P[2].Sub(s.P[1].Mul(2)).Add(s.P[0]), s.P[3].Add(s.P[1].Sub(s.P[2]).Mul(3)).Sub(s.P[0])
	var out []float64
	ts, n := roots(b.X*c.Y-b.Y*c.X, a.X*c.Y-a.Y*c.X, a.X*b.Y-a.Y*b.X)
	for _, t := range ts[:n] {
		if t > 1e-6 && t < 1-1e-6 {
			out = append(out, t)
		}
	}
	if len(out) == 2 && out[0] > out[1] {
		out[0], out[1] = out[1], out[0]
	}
	return out
}

// offsetPart approximates the offset of a part of a curve by the quadratic curve with the same ends and tangents,
// and halves the part where that strays too far.
func (s *stroker) offsetPart(g *Segment, t0, t1 float64, depth int) {
	d0, d1 := g.Direction(t0), g.Direction(t1)
	p, q := g.At(t0).Add(s.normal(d0)), g.At(t1).Add(s.normal(d1))
	mid := (t0 + t1) / 2
	want := g.At(mid).Add(s.normal(g.Direction(mid)))
	c, straight, ok := meet(p, d0, q, d1, s.near)
	switch {
	case straight && want.Sub(p.Lerp(q, 0.5)).Len() <= s.near || depth > 12:
		s.line(q)
		return
	case ok && s.follows(Segment{Verb: Quad, P: [4]Point{p, c, q}}, want, g.Direction(mid)):
		s.out.QuadTo(c.X, c.Y, q.X, q.Y)
		return
	}
	s.offsetPart(g, t0, mid, depth+1)
	s.offsetPart(g, mid, t1, depth+1)
}

// follows reports whether a quadratic curve passes near enough by the point wanted of it, where the direction is d:
// near in its own middle, or, less generously the further from there, where it crosses the normal.
func (s *stroker) follows(q Segment, want, d Point) bool {
	if want.Sub(q.At(0.5)).Len() <= s.near {
		return true
	}
	along := func(p Point) float64 { return p.Sub(want).X*d.X + p.Sub(want).Y*d.Y }
	a, b, c := along(q.P[0]), along(q.P[1]), along(q.P[2])
	at, crossings := 0.0, 0
	ts, n := roots(a-2*b+c, 2*(b-a), a)
	for _, t := range ts[:n] {
		if t >= 0 && t <= 1 {
			at, crossings = t, crossings+1
		}
	}
	return crossings == 1 && want.Sub(q.At(at)).Len() <= s.near*(1-2*math.Abs(at-0.5))
}

// meet is where the tangents at two ends cross. straight says that the ends lie on one line for all that is seen.
func meet(p, d0, q, d1 Point, near float64) (c Point, straight, ok bool) {
	denom := d0.X*d1.Y - d0.Y*d1.X
	if math.Abs(denom) < 1e-12*d0.Len()*d1.Len() {
		return p, true, false
	}
	ab := p.Sub(q)
	a, b := d1.X*ab.Y-d1.Y*ab.X, d0.X*ab.Y-d0.Y*ab.X
	if (a >= 0) == (b >= 0) {
		return p, math.Max(math.Abs(a)/d1.Len(), math.Abs(b)/d0.Len()) <= near, false
	}
	return p.Add(d0.Mul(a / denom)), false, true
}

// dash cuts a polyline into the pieces a dash pattern leaves.
func dash(pts []Point, closed bool, pattern []float64, offset float64) [][]Point {
	var total float64
	for _, d := range pattern {
		if d < 0 {
			return [][]Point{pts}
		}
		total += d
	}
	if len(pattern)%2 == 1 {
		pattern = append(append([]float64(nil), pattern...), pattern...)
		total *= 2
	}
	if closed && len(pts) > 0 {
		pts = append(append([]Point(nil), pts...), pts[0])
	}
	var length float64
	for i := 1; i < len(pts); i++ {
		length += pts[i].Sub(pts[i-1]).Len()
	}
	const most = 100000 // dashes; beyond that they are too fine to be seen
	if total <= 0 || math.IsInf(total, 0) || length/total*float64(len(pattern)) > most {
		return [][]Point{pts}
	}
	offset = math.Mod(offset, total)
	if offset < 0 {
		offset += total
	}
	i := 0
	for offset >= pattern[i] && (pattern[i] > 0 || offset > 0) { // a dash of no length at the start is a dot
		offset -= pattern[i]
		i = (i + 1) % len(pattern)
	}
	left, on := pattern[i]-offset, i%2 == 0
	var out [][]Point
	var cur []Point
	if on && len(pts) > 0 {
		cur = append(cur, pts[0])
	}
	for k := 1; k < len(pts); k++ {
		a, b := pts[k-1], pts[k]
		seg := b.Sub(a).Len()
		pos := 0.0
		for seg-pos > left {
			pos += left
			p := a.Lerp(b, pos/seg)
			if on {
				out = append(out, append(cur, p))
				cur = nil
			} else {
				cur = []Point{p}
			}
			on = !on
			i = (i + 1) % len(pattern)
			left = pattern[i]
		}
		left -= seg - pos
		if on {
			cur = append(cur, b)
		}
	}
	if on && len(cur) > 1 {
		out = append(out, cur)
	}
	return out
}

// Scaled is a style with lengths k times as long.
func (st StrokeStyle) Scaled(k float64) StrokeStyle {
	if k == 1 {
		return st
	}
	st.Width, st.Offset = st.Width*k, st.Offset*k
	dashes := make([]float64, len(st.Dashes))
	for i, d := range st.Dashes {
		dashes[i] = d * k
	}
	st.Dashes = dashes
	return st
}
