package geom

// Turning finds whether the corners of an outline all turn the same way, in the very numbers and order that browsers
// do it: they paint shapes that do by other steps, and a last bit decides for smooth ones. Points are exact in 32 bits.
type Turning struct {
	first, last      Point
	firstVec, vec    Point
	way              float64 // the sign of all turns so far; 0 before the first
	backwards        int
	begun, failed    bool
	changesX, signX  int
	changesY, signY  int
	corners, outline int // points; subpaths with lines
	drawing          bool
}

// Move begins a subpath.
func (t *Turning) Move(p Point) {
	if t.begun && t.drawing {
		t.close()
	}
	if t.outline == 0 {
		t.first, t.last = p, p
		t.corners = 1
	}
	t.begun, t.drawing = true, false
}

// To goes on to a point: a corner, the control point of a curve, or its end.
func (t *Turning) To(p Point) {
	if !t.drawing {
		t.drawing = true
		t.outline++
	}
	if t.outline > 1 {
		return
	}
	t.corners++
	t.add(p)
}

// Close goes back to the start.
func (t *Turning) Close() {
	if t.drawing {
		t.close()
		t.drawing = false
	}
}

// Convex reports whether the outline is one subpath all of whose corners turn the same way.
func (t *Turning) Convex() bool {
	if t.drawing {
		t.close()
		t.drawing = false
	}
	return t.outline <= 1 && !t.failed
}

func (t *Turning) close() {
	if t.outline == 1 {
		t.add(t.first)
		t.turn(t.firstVec)
	}
}

func (t *Turning) add(p Point) {
	if p == t.last {
		return
	}
	v := Point{float(p.X - t.last.X), float(p.Y - t.last.Y)}
	t.sign(v)
	if t.vec == (Point{}) && t.way == 0 && t.first == t.last {
		t.vec, t.firstVec = v, v
	} else {
		t.turn(v)
	}
	t.last = p
}

// sign counts how often the outline changes its direction along an axis.
func (t *Turning) sign(v Point) {
	of := func(v float64) int {
		if v < 0 {
			return 1
		}
		return 2
	}
	if x := of(v.X); x != t.signX {
		t.signX = x
		t.changesX++
	}
	if y := of(v.Y); y != t.signY {
		t.signY = y
		t.changesY++
	}
	if t.changesX > 3 || t.changesY > 3 {
		t.failed = true
	}
}

func (t *Turning) turn(v Point) {
	cross := float(float(t.vec.X*v.Y) - float(t.vec.Y*v.X))
	switch {
	case cross == 0:
		if float(float(t.vec.X*v.X)+float(t.vec.Y*v.Y)) < 0 {
			t.vec = v
			t.backwards++
			t.failed = t.failed || t.backwards >= 3
		}
	case t.way == 0 || (cross > 0) == (t.way > 0):
		t.way, t.vec = cross, v
	default:
		t.failed = true
	}
}
