// Package geom holds the plane geometry everything else is built on: points, rectangles, affine transforms and
// paths. Lengths are in pixels of whatever space the caller is in (element, screen or device); the y axis points
// down; angles are in degrees, clockwise, as in SVG.
package geom

import "math"

// Point is a place, or a vector between two places.
type Point struct{ X, Y float64 }

// Add returns p+q.
func (p Point) Add(q Point) Point { return Point{p.X + q.X, p.Y + q.Y} }

// Sub returns p−q.
func (p Point) Sub(q Point) Point { return Point{p.X - q.X, p.Y - q.Y} }

// Mul returns p scaled by k.
func (p Point) Mul(k float64) Point { return Point{p.X * k, p.Y * k} }

// Len is the distance of p from the origin.
func (p Point) Len() float64 { return math.Hypot(p.X, p.Y) }

// Lerp is the point a share t (0–1) of the way from p to q.
func (p Point) Lerp(q Point, t float64) Point {
	return Point{p.X + (q.X-p.X)*t, p.Y + (q.Y-p.Y)*t}
}

// Rect is an axis-aligned rectangle by its top left corner and size. A rectangle of no size at all is empty; one
// that is flat in one direction (a line) is not.
type Rect struct{ X, Y, W, H float64 }

// Empty reports whether the rectangle covers nothing and has no extent.
func (r Rect) Empty() bool { return r.W <= 0 && r.H <= 0 }

// Left is the left edge.
func (r Rect) Left() float64 { return r.X }

// Right is the x of the right edge.
func (r Rect) Right() float64 { return r.X + r.W }

// Bottom is the y of the lower edge.
func (r Rect) Bottom() float64 { return r.Y + r.H }

// Centre is the middle of the rectangle.
func (r Rect) Centre() Point { return Point{r.X + r.W/2, r.Y + r.H/2} }

// Union is the smallest rectangle around both; an empty one does not count.
func (r Rect) Union(o Rect) Rect {
	if r.Empty() {
		return o
	}
	if o.Empty() {
		return r
	}
	x, y := math.Min(r.X, o.X), math.Min(r.Y, o.Y)
	return Rect{x, y, math.Max(r.Right(), o.Right()) - x, math.Max(r.Bottom(), o.Bottom()) - y}
}

// Intersect is what both cover; empty where they do not meet.
func (r Rect) Intersect(o Rect) Rect {
	x, y := math.Max(r.X, o.X), math.Max(r.Y, o.Y)
	w, h := math.Min(r.Right(), o.Right())-x, math.Min(r.Bottom(), o.Bottom())-y
	if w < 0 || h < 0 {
		return Rect{}
	}
	return Rect{x, y, w, h}
}

// Grow moves every edge outwards by d pixels.
func (r Rect) Grow(d float64) Rect { return r.GrowXY(d, d) }

// GrowXY moves the left and right edges outwards by dx and the others by dy.
func (r Rect) GrowXY(dx, dy float64) Rect {
	return Rect{r.X - dx, r.Y - dy, r.W + 2*dx, r.H + 2*dy}
}

// Move shifts the rectangle.
func (r Rect) Move(dx, dy float64) Rect { return Rect{r.X + dx, r.Y + dy, r.W, r.H} }

// Contains reports whether o lies inside r, with tol pixels of grace.
func (r Rect) Contains(o Rect, tol float64) bool {
	return o.X >= r.X-tol && o.Y >= r.Y-tol && o.Right() <= r.Right()+tol && o.Bottom() <= r.Bottom()+tol
}

// Path is the outline of the rectangle.
func (r Rect) Path() *Path {
	p := &Path{}
	p.MoveTo(r.X, r.Y)
	p.LineTo(r.Right(), r.Y)
	p.LineTo(r.Right(), r.Bottom())
	p.LineTo(r.X, r.Bottom())
	p.Close()
	return p
}

// Matrix is the affine transform (a b c d e f) of SVG: x' = a·x + c·y + e, y' = b·x + d·y + f.
type Matrix struct{ A, B, C, D, E, F float64 }

// Identity leaves everything where it is.
var Identity = Matrix{A: 1, D: 1}

// Translate moves by x, y.
func Translate(x, y float64) Matrix { return Matrix{1, 0, 0, 1, x, y} }

// Scale multiplies by x and y about the origin.
func Scale(x, y float64) Matrix { return Matrix{x, 0, 0, y, 0, 0} }

// Rotate turns by deg degrees clockwise about the origin.
func Rotate(deg float64) Matrix {
	s, c := math.Sincos(deg * math.Pi / 180)
	switch math.Mod(deg, 360) { // right angles stay exact
	case 0:
		s, c = 0, 1
	case 90, -270:
		s, c = 1, 0
	case 180, -180:
		s, c = 0, -1
	case 270, -90:
		s, c = -1, 0
	}
	return Matrix{c, s, -s, c, 0, 0}
}

// Mul is the transform that does n first and m afterwards (m·n).
func (m Matrix) Mul(n Matrix) Matrix {
	return Matrix{
		m.A*n.A + m.C*n.B, m.B*n.A + m.D*n.B,
		m.A*n.C + m.C*n.D, m.B*n.C + m.D*n.D,
		m.A*n.E + m.C*n.F + m.E, m.B*n.E + m.D*n.F + m.F,
	}
}

// Round32 is the transform in 32 bits, as painters get it.
func (m Matrix) Round32() Matrix {
	return Matrix{A: float(m.A), B: float(m.B), C: float(m.C), D: float(m.D), E: float(m.E), F: float(m.F)}
}

// Apply transforms a point.
func (m Matrix) Apply(p Point) Point {
	return Point{m.A*p.X + m.C*p.Y + m.E, m.B*p.X + m.D*p.Y + m.F}
}

// ApplyVec transforms a vector: no translation.
func (m Matrix) ApplyVec(p Point) Point { return Point{m.A*p.X + m.C*p.Y, m.B*p.X + m.D*p.Y} }

// Rect is the axis-aligned rectangle around the transformed r.
func (m Matrix) Rect(r Rect) Rect {
	if m.B == 0 && m.C == 0 {
		x0, x1 := m.A*r.X+m.E, m.A*r.Right()+m.E
		y0, y1 := m.D*r.Y+m.F, m.D*r.Bottom()+m.F
		return Rect{math.Min(x0, x1), math.Min(y0, y1), math.Abs(x1 - x0), math.Abs(y1 - y0)}
	}
	var b bounds
	for _, p := range [4]Point{{r.X, r.Y}, {r.Right(), r.Y}, {r.Right(), r.Bottom()}, {r.X, r.Bottom()}} {
		b.add(m.Apply(p))
	}
	return b.rect()
}

// Det is the determinant: the factor by which areas grow, negative when the plane is flipped.
func (m Matrix) Det() float64 { return m.A*m.D - m.B*m.C }

// MeanScale is the factor by which lengths grow on the whole: √|det|.
func (m Matrix) MeanScale() float64 { return math.Sqrt(math.Abs(m.Det())) }

// Inverse undoes m; ok is false where m flattens the plane.
func (m Matrix) Inverse() (inv Matrix, ok bool) {
	d := m.Det()
	if d == 0 || math.IsNaN(d) || math.IsInf(d, 0) {
		return Identity, false
	}
	return Matrix{
		m.D / d, -m.B / d, -m.C / d, m.A / d,
		(m.C*m.F - m.D*m.E) / d, (m.B*m.E - m.A*m.F) / d,
	}, true
}

// Upright reports whether the transform only moves, scales and flips: rectangles stay rectangles.
func (m Matrix) Upright() bool {
	const eps = 1e-9
	return math.Abs(m.B) < eps && math.Abs(m.C) < eps
}

// Rotation is the turn of the x axis in degrees, clockwise, −180 to 180.
func (m Matrix) Rotation() float64 { return math.Atan2(m.B, m.A) * 180 / math.Pi }

type bounds struct {
	min, max Point
	set      bool
}

func (b *bounds) add(p Point) {
	if !b.set {
		b.min, b.max, b.set = p, p, true
		return
	}
	b.min.X, b.min.Y = math.Min(b.min.X, p.X), math.Min(b.min.Y, p.Y)
	b.max.X, b.max.Y = math.Max(b.max.X, p.X), math.Max(b.max.Y, p.Y)
}

func (b *bounds) rect() Rect {
	return Rect{b.min.X, b.min.Y, b.max.X - b.min.X, b.max.Y - b.min.Y}
}
