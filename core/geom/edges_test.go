package geom

import (
	"math"
	"math/rand"
	"testing"
)

func p32(x, y float64) Point { return Point{float(x), float(y)} }

func TestEdgesOfLines(t *testing.T) {
	const px = 65536
	for _, c := range []struct {
		from, to Point
		want     []Edge
	}{
		{p32(1, 2), p32(3, 5), []Edge{{1 * px, 2 * px, 3 * px, 5 * px}}},
		{p32(3, 5), p32(1, 2), []Edge{{1 * px, 2 * px, 3 * px, 5 * px}}}, // walked downwards
		// ends on quarters of a row
		{p32(1, 2.1), p32(3, 5.13), []Edge{{1 * px, 2 * px, 3 * px, 5*px + px/4}}},
		{p32(1, 2), p32(90, 2.1), nil}, // no height
		// cut off at a 256th
		{p32(1.0039, 0), p32(1.0040, 1), []Edge{{px + 0, 0, px + 0x100, px}}},
		{p32(-9e9, 0), p32(9e9, 1), []Edge{{math.MinInt32 / 8 >> 0, 0, math.MaxInt32/8 + 1>>0, 1 * px}}}, // in range
	} {
		got := (&Segment{Verb: Line, P: [4]Point{c.from, c.to}}).Edges(nil)
		if len(got) != len(c.want) || len(got) == 1 && got[0] != c.want[0] {
			t.Errorf("%v to %v: %v, not %v", c.from, c.to, got, c.want)
		}
	}
}

// TestEdgesFollowCurves: the edges of a curve lead from its start to its end, one after the other, and keep near it.
func TestEdgesFollowCurves(t *testing.T) {
	r := rand.New(rand.NewSource(9))
	at := func() Point { return p32(r.Float64()*200, r.Float64()*200) }
	for range 2000 {
		s := Segment{Verb: []Verb{Quad, Cubic, Conic}[r.Intn(3)], Weight: float(0.3 + r.Float64()*0.7),
			P: [4]Point{at(), at(), at(), at()}}
		edges := s.Edges(nil)
		up, down := 0.0, 0.0 // heights walked, by the number of the side of the curve
		for _, e := range edges {
			if e.Y1 <= e.Y0 || e.Y0&(1<<14-1) != 0 || e.Y1&(1<<14-1) != 0 {
				t.Fatalf("%v: an edge from %d to %d", s, e.Y0, e.Y1)
			}
			up += float64(e.Y1-e.Y0) / 65536
			x, y := float64(e.X0+e.X1)/2/65536, float64(e.Y0+e.Y1)/2/65536
			near := math.Inf(1)
			for k := 0.0; k <= 1; k += 1.0 / 512 {
				near = min(near, s.At(k).Sub(Point{x, y}).Len())
			}
			if near > 1.5 {
				t.Fatalf("%v: an edge %g px from the curve", s, near)
			}
		}
		last := s.P[0].Y
		for k := 1.0 / 4096; k <= 1; k += 1.0 / 4096 {
			y := s.At(k).Y
			down += math.Abs(y - last)
			last = y
		}
		if math.Abs(up-down) > 2 {
			t.Fatalf("%v: edges of %g px for a curve that goes %g px up and down", s, up, down)
		}
	}
}

// TestEdgesTellNearCurvesApart: a curve in a shade of other numbers has the same edges, one a tenth of a pixel off has
// not.
func TestEdgesTellNearCurvesApart(t *testing.T) {
	a := Segment{Verb: Cubic, P: [4]Point{p32(10.03, 10.03), p32(14.7, 30.2), p32(40.4, 50.6), p32(80.1, 90.7)}}
	b, c := a, a
	b.P[1] = p32(14.70001, 30.20001)
	c.P[1] = p32(14.8, 30.3)
	first, second, third := a.Edges(nil), b.Edges(nil), c.Edges(nil)
	same := func(a, b []Edge) bool {
		if len(a) != len(b) {
			return false
		}
		for i := range a {
			if a[i] != b[i] {
				return false
			}
		}
		return true
	}
	if !same(first, second) || same(first, third) {
		t.Errorf("%v\n%v\n%v", first, second, third)
	}
	if x, y := Cell(p32(1.5, -0.001)); x != 384 || y != -1 {
		t.Errorf("cell %d, %d", x, y)
	}
}

func TestTurning(t *testing.T) {
	walk := func(list ...Point) *Turning {
		w := &Turning{}
		w.Move(list[0])
		for _, p := range list[1:] {
			w.To(p)
		}
		w.Close()
		return w
	}
	square := []Point{{0, 0}, {9, 0}, {9, 9}, {0, 9}}
	two := walk(square...)
	two.Move(Point{20, 20})
	moved := *two // a move alone begins nothing
	two.To(Point{29, 20})
	for name, c := range map[string]struct {
		w    *Turning
		want bool
	}{
		"a square":               {walk(square...), true},
		"a square the other way": {walk(square[3], square[2], square[1], square[0]), true},
		"a corner on a side":     {walk(Point{0, 0}, Point{5, 0}, Point{9, 0}, Point{9, 9}), true},
		"the same point again":   {walk(Point{0, 0}, Point{9, 0}, Point{9, 0}, Point{9, 9}), true},
		"a dent":                 {walk(Point{0, 0}, Point{9, 0}, Point{5, 4}, Point{9, 9}, Point{0, 9}), false},
		"a star":                 {walk(Point{5, 0}, Point{8, 9}, Point{0, 3}, Point{10, 3}, Point{2, 9}), false},
		"there and back":         {walk(Point{0, 0}, Point{9, 9}), true},
		"a spiral": {walk(Point{0, 0}, Point{9, 0}, Point{9, 9}, Point{1, 9}, Point{1, 2}, Point{7, 2},
			Point{7, 7}), false},
		"two squares":         {two, false},
		"a square and a move": {&moved, true},
		"a dent of one bit":   {walk(Point{0, 0}, p32(5, 1e-6), p32(10, 0), p32(10, 10)), false},
	} {
		if got := c.w.Convex(); got != c.want {
			t.Errorf("%s: %v", name, got)
		}
	}
}
