package geom

import "math"

// Verb is the kind of one path segment.
type Verb uint8

// The segments a path is made of, and the points each adds.
const (
	Move  Verb = iota // one point
	Line              // one point
	Quad              // a control point and the end
	Conic             // a control point and the end; its weight is in Weights. Arcs of ellipses are conics exactly
	Cubic             // two control points and the end
	Close             // none
)

// Size is the number of points of a verb.
func (v Verb) Size() int { return [...]int{1, 1, 2, 2, 3, 0}[v] }

// Path is an outline: subpaths of lines, quadratic and cubic Bézier curves and conics.
type Path struct {
	Verbs   []Verb
	Points  []Point
	Weights []float64 // of the conics, in order
}

// Empty reports whether nothing was added.
func (p *Path) Empty() bool { return p == nil || len(p.Verbs) == 0 }

// Last is the current point.
func (p *Path) Last() Point {
	if len(p.Points) == 0 {
		return Point{}
	}
	if n := len(p.Verbs); p.Verbs[n-1] == Close { // back at the start of the subpath
		i := len(p.Points)
		for k := n - 2; k >= 0; k-- {
			if p.Verbs[k] == Move {
				return p.Points[i-1]
			}
			i -= p.Verbs[k].Size()
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

// QuadTo adds a quadratic Bézier curve.
func (p *Path) QuadTo(x1, y1, x, y float64) {
	p.Verbs = append(p.Verbs, Quad)
	p.Points = append(p.Points, Point{x1, y1}, Point{x, y})
}

// ConicTo adds a conic: a rational quadratic curve whose control point has a weight.
func (p *Path) ConicTo(c, e Point, weight float64) {
	p.Verbs = append(p.Verbs, Conic)
	p.Points = append(p.Points, c, e)
	p.Weights = append(p.Weights, weight)
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
	m := Matrix{cos * rx, sin * rx, -sin * ry, cos * ry, cx, cy}
	n := math.Max(1, math.Ceil(math.Abs(d)/(2*math.Pi/3)-1e-9)) // a conic spans a third of a turn at most
	step := d / n
	w := math.Cos(step / 2)
	for i := 0.0; i < n; i++ {
		sin, cos := math.Sincos(a0 + step*(i+0.5))
		se, ce := math.Sincos(a0 + step*(i+1))
		p.ConicTo(m.Apply(Point{cos / w, sin / w}), m.Apply(Point{ce, se}), w)
	}
	p.Points[len(p.Points)-1] = e // no rounding at the seam
}

// quarter is the weight of a quarter of an ellipse.
const quarter = math.Sqrt2 / 2

// Ellipse is a closed ellipse around a centre: four conics.
func Ellipse(cx, cy, rx, ry float64) *Path { return Oval(cx-rx, cy-ry, cx+rx, cy+ry, cx, cy) }

// Oval is an ellipse between two corners, around a middle.
func Oval(x0, y0, x1, y1, cx, cy float64) *Path {
	p := &Path{}
	p.MoveTo(x1, cy)
	p.ConicTo(Point{x1, y1}, Point{cx, y1}, quarter)
	p.ConicTo(Point{x0, y1}, Point{x0, cy}, quarter)
	p.ConicTo(Point{x0, y0}, Point{cx, y0}, quarter)
	p.ConicTo(Point{x1, y0}, Point{x1, cy}, quarter)
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
	p.ConicTo(Point{r.Right(), r.Y}, Point{r.Right(), r.Y + ry}, quarter)
	p.LineTo(r.Right(), r.Bottom()-ry)
	p.ConicTo(Point{r.Right(), r.Bottom()}, Point{r.Right() - rx, r.Bottom()}, quarter)
	p.LineTo(r.X+rx, r.Bottom())
	p.ConicTo(Point{r.X, r.Bottom()}, Point{r.X, r.Bottom() - ry}, quarter)
	p.LineTo(r.X, r.Y+ry)
	p.ConicTo(Point{r.X, r.Y}, Point{r.X + rx, r.Y}, quarter)
	p.Close()
	return p
}

// Transform is the path under m.
func (p *Path) Transform(m Matrix) *Path {
	q := &Path{Verbs: p.Verbs, Points: make([]Point, len(p.Points)), Weights: p.Weights}
	for i, pt := range p.Points {
		q.Points[i] = m.Apply(pt)
	}
	return q
}

// Append adds the segments of q.
func (p *Path) Append(q *Path) {
	p.Verbs = append(p.Verbs, q.Verbs...)
	p.Points = append(p.Points, q.Points...)
	p.Weights = append(p.Weights, q.Weights...)
}

// IsRect reports whether a path is one rectangle along the axes.
func (p *Path) IsRect() bool {
	if len(p.Verbs) != 5 || p.Verbs[4] != Close || len(p.Points) != 4 {
		return false
	}
	a, b, c, d := p.Points[0], p.Points[1], p.Points[2], p.Points[3]
	return a.Y == b.Y && b.X == c.X && c.Y == d.Y && d.X == a.X || a.X == b.X && b.Y == c.Y && c.X == d.X && d.Y == a.Y
}
