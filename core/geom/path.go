package geom

import "math"

// Verb is the kind of one path segment.
type Verb uint8

// The segments a path is made of. Quadratic curves and arcs are turned into cubics when they are added.
const (
	Move  Verb = iota // one point
	Line              // one point
	Cubic             // two control points and the end
	Close             // none
)

// Path is an outline: subpaths of lines and cubic Bézier curves.
type Path struct {
	Verbs  []Verb
	Points []Point
}

// Empty says that nothing was added.
func (p *Path) Empty() bool { return p == nil || len(p.Verbs) == 0 }

// Last is the current point.
func (p *Path) Last() Point {
	if len(p.Points) == 0 {
		return Point{}
	}
	if n := len(p.Verbs); p.Verbs[n-1] == Close { // back at the start of the subpath
		i := len(p.Points)
		for k := n - 2; k >= 0; k-- {
			switch p.Verbs[k] {
			case Move:
				return p.Points[i-1]
			case Line:
				i--
			case Cubic:
				i -= 3
			}
		}
	}
	return p.Points[len(p.Points)-1]
}

// MoveTo begins a subpath.
func (p *Path) MoveTo(x, y float64) {
	p.Verbs = append(p.Verbs, Move)
	p.Points = append(p.Points, Point{x, y})
}

// LineTo adds a straight line.
func (p *Path) LineTo(x, y float64) {
	p.Verbs = append(p.Verbs, Line)
	p.Points = append(p.Points, Point{x, y})
}

// CubicTo adds a cubic Bézier curve.
func (p *Path) CubicTo(x1, y1, x2, y2, x, y float64) {
	p.Verbs = append(p.Verbs, Cubic)
	p.Points = append(p.Points, Point{x1, y1}, Point{x2, y2}, Point{x, y})
}

// QuadTo adds a quadratic Bézier curve, raised to a cubic exactly.
func (p *Path) QuadTo(x1, y1, x, y float64) {
	s, c, e := p.Last(), Point{x1, y1}, Point{x, y}
	a, b := s.Lerp(c, 2.0/3), e.Lerp(c, 2.0/3)
	p.CubicTo(a.X, a.Y, b.X, b.Y, x, y)
}

// Close ends the subpath with a line to its start.
func (p *Path) Close() {
	if n := len(p.Verbs); n > 0 && p.Verbs[n-1] != Close {
		p.Verbs = append(p.Verbs, Close)
	}
}

// ArcTo adds an elliptical arc in SVG's endpoint form: radii, turn of the x axis in degrees, flags, end point.
// https://www.w3.org/TR/SVG2/implnote.html#ArcImplementationNotes
func (p *Path) ArcTo(rx, ry, turn float64, large, sweep bool, x, y float64) {
	s, e := p.Last(), Point{x, y}
	rx, ry = math.Abs(rx), math.Abs(ry)
	if s == e {
		return
	}
	if rx == 0 || ry == 0 {
		p.LineTo(x, y)
		return
	}
	sin, cos := math.Sincos(turn * math.Pi / 180)
	dx, dy := (s.X-e.X)/2, (s.Y-e.Y)/2
	x1, y1 := cos*dx+sin*dy, -sin*dx+cos*dy
	if l := x1*x1/(rx*rx) + y1*y1/(ry*ry); l > 1 {
		rx, ry = rx*math.Sqrt(l), ry*math.Sqrt(l)
	}
	num := rx*rx*ry*ry - rx*rx*y1*y1 - ry*ry*x1*x1
	k := math.Sqrt(math.Max(0, num/(rx*rx*y1*y1+ry*ry*x1*x1)))
	if large == sweep {
		k = -k
	}
	cx1, cy1 := k*rx*y1/ry, -k*ry*x1/rx
	cx, cy := cos*cx1-sin*cy1+(s.X+e.X)/2, sin*cx1+cos*cy1+(s.Y+e.Y)/2
	a0 := math.Atan2((y1-cy1)/ry, (x1-cx1)/rx)
	a1 := math.Atan2((-y1-cy1)/ry, (-x1-cx1)/rx)
	d := a1 - a0
	if sweep && d < 0 {
		d += 2 * math.Pi
	} else if !sweep && d > 0 {
		d -= 2 * math.Pi
	}
	p.arc(Matrix{cos * rx, sin * rx, -sin * ry, cos * ry, cx, cy}, a0, d)
	p.Points[len(p.Points)-1] = e // no rounding at the seam
}

// arc adds the piece of the unit circle under m from angle a (radians) over d.
func (p *Path) arc(m Matrix, a, d float64) {
	n := int(math.Ceil(math.Abs(d)/(math.Pi/2) - 1e-9))
	if n < 1 {
		n = 1
	}
	step := d / float64(n)
	k := 4.0 / 3 * math.Tan(step/4)
	for i := 0; i < n; i++ {
		s0, c0 := math.Sincos(a + step*float64(i))
		s1, c1 := math.Sincos(a + step*float64(i+1))
		q1 := m.Apply(Point{c0 - k*s0, s0 + k*c0})
		q2 := m.Apply(Point{c1 + k*s1, s1 - k*c1})
		q3 := m.Apply(Point{c1, s1})
		p.CubicTo(q1.X, q1.Y, q2.X, q2.Y, q3.X, q3.Y)
	}
}

// Ellipse is a closed ellipse around c.
func Ellipse(cx, cy, rx, ry float64) *Path {
	p := &Path{}
	p.MoveTo(cx+rx, cy)
	p.arc(Matrix{rx, 0, 0, ry, cx, cy}, 0, 2*math.Pi)
	p.Points[len(p.Points)-1] = Point{cx + rx, cy}
	p.Close()
	return p
}

// RoundedRect is a rectangle whose corners are quarter ellipses of rx by ry.
func RoundedRect(r Rect, rx, ry float64) *Path {
	rx, ry = math.Min(rx, r.W/2), math.Min(ry, r.H/2)
	if rx <= 0 || ry <= 0 {
		return r.Path()
	}
	p := &Path{}
	p.MoveTo(r.X+rx, r.Y)
	p.LineTo(r.Right()-rx, r.Y)
	p.ArcTo(rx, ry, 0, false, true, r.Right(), r.Y+ry)
	p.LineTo(r.Right(), r.Bottom()-ry)
	p.ArcTo(rx, ry, 0, false, true, r.Right()-rx, r.Bottom())
	p.LineTo(r.X+rx, r.Bottom())
	p.ArcTo(rx, ry, 0, false, true, r.X, r.Bottom()-ry)
	p.LineTo(r.X, r.Y+ry)
	p.ArcTo(rx, ry, 0, false, true, r.X+rx, r.Y)
	p.Close()
	return p
}

// Transform is the path under m.
func (p *Path) Transform(m Matrix) *Path {
	q := &Path{Verbs: p.Verbs, Points: make([]Point, len(p.Points))}
	for i, pt := range p.Points {
		q.Points[i] = m.Apply(pt)
	}
	return q
}

// Append adds the segments of q.
func (p *Path) Append(q *Path) {
	p.Verbs = append(p.Verbs, q.Verbs...)
	p.Points = append(p.Points, q.Points...)
}

// Bounds is the tight box: curves count by their extremes, not their control points. ok is false for no points.
func (p *Path) Bounds() (r Rect, ok bool) {
	var b bounds
	if p == nil {
		return Rect{}, false
	}
	i := 0
	var cur Point
	for n, v := range p.Verbs {
		switch v {
		case Move:
			cur = p.Points[i]
			// a lone move at the end paints nothing and has no extent
			if n+1 < len(p.Verbs) && p.Verbs[n+1] != Move {
				b.add(cur)
			}
			i++
		case Line:
			cur = p.Points[i]
			b.add(cur)
			i++
		case Cubic:
			cubicBounds(&b, cur, p.Points[i], p.Points[i+1], p.Points[i+2])
			cur = p.Points[i+2]
			i += 3
		}
	}
	return b.rect(), b.set
}

func cubicBounds(b *bounds, p0, p1, p2, p3 Point) {
	b.add(p3)
	for _, axis := range [2]func(Point) float64{func(p Point) float64 { return p.X }, func(p Point) float64 { return p.Y }} {
		v0, v1, v2, v3 := axis(p0), axis(p1), axis(p2), axis(p3)
		if v1 >= math.Min(v0, v3) && v1 <= math.Max(v0, v3) && v2 >= math.Min(v0, v3) && v2 <= math.Max(v0, v3) {
			continue // control points inside: no extreme beyond the ends
		}
		qa, qb, qc := -v0+3*v1-3*v2+v3, 2*(v0-2*v1+v2), v1-v0
		for _, t := range roots(qa, qb, qc) {
			if t > 0 && t < 1 {
				b.add(CubicAt(p0, p1, p2, p3, t))
			}
		}
	}
}

// roots solves a·t² + b·t + c = 0.
func roots(a, b, c float64) []float64 {
	if math.Abs(a) < 1e-12 {
		if b == 0 {
			return nil
		}
		return []float64{-c / b}
	}
	d := b*b - 4*a*c
	if d < 0 {
		return nil
	}
	s := math.Sqrt(d)
	return []float64{(-b + s) / (2 * a), (-b - s) / (2 * a)}
}

// CubicAt is the point of a cubic Bézier curve at t (0–1).
func CubicAt(p0, p1, p2, p3 Point, t float64) Point {
	u := 1 - t
	a, b, c, d := u*u*u, 3*u*u*t, 3*u*t*t, t*t*t
	return Point{a*p0.X + b*p1.X + c*p2.X + d*p3.X, a*p0.Y + b*p1.Y + c*p2.Y + d*p3.Y}
}

// Polyline is one flattened subpath.
type Polyline struct {
	Points []Point
	Closed bool
}

// Flatten turns the path under m into polylines that stray from it by at most tol pixels (of the space after m).
func (p *Path) Flatten(m Matrix, tol float64) []Polyline {
	var out []Polyline
	var cur Polyline
	flush := func() {
		if len(cur.Points) > 0 {
			out = append(out, cur)
		}
		cur = Polyline{}
	}
	i := 0
	var start Point
	for _, v := range p.Verbs {
		switch v {
		case Move:
			flush()
			start = m.Apply(p.Points[i])
			cur.Points = append(cur.Points, start)
			i++
		case Line:
			if len(cur.Points) == 0 {
				cur.Points = append(cur.Points, start)
			}
			cur.Points = append(cur.Points, m.Apply(p.Points[i]))
			i++
		case Cubic:
			if len(cur.Points) == 0 {
				cur.Points = append(cur.Points, start)
			}
			p0 := cur.Points[len(cur.Points)-1]
			p1, p2, p3 := m.Apply(p.Points[i]), m.Apply(p.Points[i+1]), m.Apply(p.Points[i+2])
			n := cubicSteps(p0, p1, p2, p3, tol)
			for k := 1; k < n; k++ {
				cur.Points = append(cur.Points, CubicAt(p0, p1, p2, p3, float64(k)/float64(n)))
			}
			cur.Points = append(cur.Points, p3)
			i += 3
		case Close:
			cur.Closed = true
			flush()
		}
	}
	flush()
	return out
}

// cubicSteps bounds the number of straight pieces by the second difference of the control points.
func cubicSteps(p0, p1, p2, p3 Point, tol float64) int {
	d1 := p0.Sub(p1.Mul(2)).Add(p2).Len()
	d2 := p1.Sub(p2.Mul(2)).Add(p3).Len()
	n := math.Ceil(math.Sqrt(0.75 * math.Max(d1, d2) / tol))
	if !(n > 1) {
		return 1
	}
	return int(math.Min(n, 500))
}
