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

// Stroke is the outline of the stroke of a path: fill it with the non-zero rule. tol is how far, in the path's own
// space, flattened curves may stray.
func Stroke(p *Path, st StrokeStyle, tol float64) *Path {
	out := &Path{}
	if st.Width <= 0 {
		return out
	}
	s := &stroker{out: out, st: st, r: st.Width / 2, tol: tol}
	if s.st.Miter < 1 {
		s.st.Miter = 4
	}
	for _, pl := range p.Flatten(Identity, tol) {
		pts := dedupe(pl)
		if len(st.Dashes) == 0 {
			s.polyline(pts, pl.Closed)
			continue
		}
		for _, d := range dash(pts, pl.Closed, st.Dashes, st.Offset) {
			s.polyline(d, false)
		}
	}
	return out
}

func dedupe(pl Polyline) []Point {
	var out []Point
	for _, p := range pl.Points {
		if len(out) == 0 || p.Sub(out[len(out)-1]).Len() > 1e-9 {
			out = append(out, p)
		}
	}
	if pl.Closed && len(out) > 1 && out[0].Sub(out[len(out)-1]).Len() <= 1e-9 {
		out = out[:len(out)-1]
	}
	return out
}

type stroker struct {
	out *Path
	st  StrokeStyle
	r   float64
	tol float64
}

func (s *stroker) polyline(pts []Point, closed bool) {
	n := len(pts)
	if n == 0 {
		return
	}
	if n == 1 { // a dot shows with round and square caps only
		switch s.st.Cap {
		case "round":
			s.out.Append(Ellipse(pts[0].X, pts[0].Y, s.r, s.r))
		case "square":
			s.out.Append(Rect{pts[0].X - s.r, pts[0].Y - s.r, 2 * s.r, 2 * s.r}.Path())
		}
		return
	}
	if closed && n > 2 {
		s.side(pts)
		s.side(reversed(pts))
		return
	}
	if closed { // there and back
		pts = append(append([]Point(nil), pts...), pts[0])
	}
	// one loop: along the left side, a cap, back along the right side, a cap
	var loop []Point
	loop = s.along(loop, pts)
	loop = s.cap(loop, pts[len(pts)-1], pts[len(pts)-2])
	back := reversed(pts)
	loop = s.along(loop, back)
	loop = s.cap(loop, back[len(back)-1], back[len(back)-2])
	s.emit(loop)
}

func reversed(pts []Point) []Point {
	out := make([]Point, len(pts))
	for i, p := range pts {
		out[len(pts)-1-i] = p
	}
	return out
}

func (s *stroker) emit(loop []Point) {
	for i, p := range loop {
		if i == 0 {
			s.out.MoveTo(p.X, p.Y)
		} else {
			s.out.LineTo(p.X, p.Y)
		}
	}
	s.out.Close()
}

// side offsets a closed polyline to its left.
func (s *stroker) side(pts []Point) {
	n := len(pts)
	var loop []Point
	for i := range pts {
		loop = s.join(loop, pts[(i+n-1)%n], pts[i], pts[(i+1)%n])
	}
	s.emit(loop)
}

// along offsets an open polyline to its left, ends included.
func (s *stroker) along(loop, pts []Point) []Point {
	n := len(pts)
	loop = append(loop, pts[0].Add(s.normal(pts[0], pts[1])))
	for i := 1; i < n-1; i++ {
		loop = s.join(loop, pts[i-1], pts[i], pts[i+1])
	}
	return append(loop, pts[n-1].Add(s.normal(pts[n-2], pts[n-1])))
}

// normal is the offset to the left of the direction a→b.
func (s *stroker) normal(a, b Point) Point {
	d := b.Sub(a)
	l := d.Len()
	return Point{d.Y / l * s.r, -d.X / l * s.r}
}

func (s *stroker) join(loop []Point, a, b, c Point) []Point {
	n0, n1 := s.normal(a, b), s.normal(b, c)
	u, v := b.Sub(a), c.Sub(b)
	cross := u.X*v.Y - u.Y*v.X
	dot := n0.X*n1.X + n0.Y*n1.Y
	rr := s.r * s.r
	if cross >= 0 && dot > rr*0.995 || dot > rr*0.9999 { // nearly straight, as along a flattened curve
		m := n0.Add(n1)
		k := 2 * rr / (m.X*m.X + m.Y*m.Y)
		return append(loop, b.Add(m.Mul(k)))
	}
	if cross < 0 { // inner side: through the corner, so that the outline winds one way only
		return append(loop, b.Add(n0), b, b.Add(n1))
	}
	switch s.st.Join {
	case "round":
		return s.arc(append(loop, b.Add(n0)), b, n0, n1)
	case "bevel":
	default:
		// miter length over width is 1/sin(θ/2); cos θ between the normals gives it
		m := n0.Add(n1)
		if l := m.X*m.X + m.Y*m.Y; l > 0 {
			k := 2 * rr / l // tip = b + m·k, at distance |m|·k
			if math.Sqrt(l)*k <= s.st.Miter*s.r*(1+1e-9) {
				return append(loop, b.Add(m.Mul(k)))
			}
		}
	}
	return append(loop, b.Add(n0), b.Add(n1))
}

// arc adds a round corner about c from c+n0 to c+n1, turning clockwise on the page.
func (s *stroker) arc(loop []Point, c, n0, n1 Point) []Point {
	a0, a1 := math.Atan2(n0.Y, n0.X), math.Atan2(n1.Y, n1.X)
	if a1 <= a0 {
		a1 += 2 * math.Pi
	}
	step := 2 * math.Acos(math.Max(0, 1-s.tol/math.Max(s.r, s.tol)))
	k := int(math.Ceil((a1 - a0) / math.Max(step, 0.02)))
	for i := 1; i <= k; i++ {
		sin, cos := math.Sincos(a0 + (a1-a0)*float64(i)/float64(k))
		loop = append(loop, c.Add(Point{cos * s.r, sin * s.r}))
	}
	return loop
}

// cap goes round the end at p, reached from q.
func (s *stroker) cap(loop []Point, p, q Point) []Point {
	n := s.normal(q, p)
	d := Point{-n.Y, n.X} // onwards, r long
	switch s.st.Cap {
	case "round":
		return s.arc(loop, p, n, Point{-n.X, -n.Y})
	case "square":
		return append(loop, p.Add(n).Add(d), p.Sub(n).Add(d))
	}
	return loop
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
	for offset >= pattern[i] {
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
