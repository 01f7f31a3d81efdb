package geom

import "math"

// FormKind is what an outline turns out to be.
type FormKind string

// The forms that are recognised.
const (
	FormRect   FormKind = "rectangle"
	FormRound  FormKind = "rounded rectangle"
	FormCircle FormKind = "circle"
	FormOval   FormKind = "ellipse"
	FormLine   FormKind = "line"
)

// Form is an outline by its few numbers: its box, and of a rounded rectangle the radii of each corner (x and y), top
// left first, clockwise.
type Form struct {
	Kind  FormKind
	Box   Rect
	Radii [4]Point
}

// samples is how many points of each curve are held against a form.
const samples = 12

// Form recognises a path that is one upright rectangle, rounded or not, ellipse, circle or straight line, drawn in
// whatever way. Every point of the path must lie within tol of that form's outline, and enclose what it encloses.
func (p *Path) Form(tol float64) (Form, bool) {
	one, closed := p.single(tol)
	if len(one) == 0 {
		return Form{}, false
	}
	box, _ := p.Bounds()
	if len(one) == 1 && one[0].Verb == Line {
		return Form{Kind: FormLine, Box: box}, true
	}
	if !closed || box.W <= 4*tol || box.H <= 4*tol {
		return Form{}, false
	}
	f := Form{Kind: FormOval, Box: box}
	if math.Abs(box.W-box.H) <= tol {
		f.Kind = FormCircle
	}
	for i := range f.Radii {
		f.Radii[i] = Point{box.W / 2, box.H / 2}
	}
	if f.fits(one, tol) {
		return f, true
	}
	f.Kind, f.Radii = FormRound, corners(one, box, tol)
	if f.Radii == [4]Point{} {
		f.Kind = FormRect
	}
	r := f.Radii
	if r[0].X+r[1].X > box.W+tol || r[3].X+r[2].X > box.W+tol || r[0].Y+r[3].Y > box.H+tol || r[1].Y+r[2].Y > box.H+tol {
		return Form{}, false // corners that lie over each other
	}
	return f, f.fits(one, tol)
}

// single lists the segments of a path of one subpath, without those of no length. closed says that it ends where it
// begins.
func (p *Path) single(tol float64) (out []Segment, closed bool) {
	if p.Empty() || len(p.Verbs) > 64 {
		return nil, false
	}
	subpaths := 0
	p.Each(func(s Segment, first bool) {
		if s.End() == s.P[0] && (s.Verb == Line || s.Verb == Close) {
			closed = closed || s.Verb == Close
			return
		}
		if first {
			subpaths++
		}
		if s.Verb == Close {
			closed, s.Verb = true, Line
		}
		out = append(out, s)
	})
	if subpaths != 1 {
		return nil, false
	}
	return out, closed || out[len(out)-1].End().Sub(out[0].P[0]).Len() <= tol
}

// corners reads the radii of a rounded rectangle off the ends of the segments that lie on its edges.
func corners(all []Segment, box Rect, tol float64) (r [4]Point) {
	l, t, rt, b := box.X, box.Y, box.Right(), box.Bottom()
	near := math.Max(0.75*tol, 1e-6*(box.W+box.H))
	top, bottom := [2]float64{rt, l}, [2]float64{rt, l} // from, to in x
	left, right := [2]float64{b, t}, [2]float64{b, t}   // from, to in y
	reach := func(span *[2]float64, at, edge, v float64) {
		if math.Abs(at-edge) <= near {
			span[0], span[1] = math.Min(span[0], v), math.Max(span[1], v)
		}
	}
	for i := range all {
		for _, p := range []Point{all[i].P[0], all[i].End()} {
			reach(&top, p.Y, t, p.X)
			reach(&bottom, p.Y, b, p.X)
			reach(&left, p.X, l, p.Y)
			reach(&right, p.X, rt, p.Y)
		}
	}
	r = [4]Point{{top[0] - l, left[0] - t}, {rt - top[1], right[0] - t}, {rt - bottom[1], b - right[1]},
		{bottom[0] - l, b - left[1]}}
	for i := range r {
		if r[i].X <= near || r[i].Y <= near { // a corner is round both ways or not at all
			r[i] = Point{}
		}
	}
	return r
}

// fits reports whether every point of the segments lies on the form's outline, and what they enclose is its area.
func (f *Form) fits(all []Segment, tol float64) bool {
	area := 0.0
	for i := range all {
		s := &all[i]
		n := samples
		if s.Verb == Line {
			n = 4
		}
		last := s.P[0]
		for k := 1; k <= n; k++ {
			p := s.At(float64(k) / float64(n))
			if f.off(p) > tol {
				return false
			}
			a, b := last.Sub(f.Box.Centre()), p.Sub(f.Box.Centre())
			area += (a.X*b.Y - a.Y*b.X) / 2
			last = p
		}
	}
	want := f.Box.W * f.Box.H
	for _, r := range f.Radii {
		want -= (1 - math.Pi/4) * r.X * r.Y
	}
	// chords cut a little off the curves: one in two hundred for the coarsest
	return math.Abs(math.Abs(area)-want) <= tol*(f.Box.W+f.Box.H)+0.01*want
}

// off is how far a point is from the form's outline.
func (f *Form) off(p Point) float64 {
	b := f.Box
	for i, r := range f.Radii {
		if r.X <= 0 {
			continue
		}
		c := Point{b.X + r.X, b.Y + r.Y}
		dx, dy := c.X-p.X, c.Y-p.Y // positive where the point is in the corner
		if i == 1 || i == 2 {
			c.X = b.Right() - r.X
			dx = p.X - c.X
		}
		if i >= 2 {
			c.Y = b.Bottom() - r.Y
			dy = p.Y - c.Y
		}
		if dx > 0 && dy > 0 {
			return math.Abs(math.Hypot(dx/r.X, dy/r.Y)-1) * math.Min(r.X, r.Y)
		}
	}
	d := math.Min(math.Min(math.Abs(p.X-b.X), math.Abs(p.X-b.Right())), math.Min(math.Abs(p.Y-b.Y),
		math.Abs(p.Y-b.Bottom())))
	return d
}

// Contains reports whether a point lies inside the outline, by the non-zero or the even-odd rule. Curves count by
// chords that stray from them by less than a tenth of a unit.
func (p *Path) Contains(at Point, evenOdd bool) bool {
	winding := 0
	cross := func(a, b Point) {
		if (a.Y <= at.Y) == (b.Y <= at.Y) {
			return
		}
		if x := a.X + (at.Y-a.Y)/(b.Y-a.Y)*(b.X-a.X); x > at.X {
			if b.Y > a.Y {
				winding++
			} else {
				winding--
			}
		}
	}
	var start, last Point
	begun := false
	p.Each(func(s Segment, first bool) {
		if first {
			if begun {
				cross(last, start)
			}
			start, begun = s.P[0], true
		}
		last = s.P[0]
		n := 1
		if s.Verb != Line && s.Verb != Close {
			long := 0.0
			for i := 1; i <= s.Verb.Size(); i++ {
				long += s.P[i].Sub(s.P[i-1]).Len()
			}
			n = int(math.Min(64, 4+math.Sqrt(long)*2))
		}
		for k := 1; k <= n; k++ {
			next := s.At(float64(k) / float64(n))
			cross(last, next)
			last = next
		}
	})
	cross(last, start)
	if evenOdd {
		return winding%2 != 0
	}
	return winding != 0
}
