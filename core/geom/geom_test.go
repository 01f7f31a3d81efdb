package geom

import (
	"math"
	"testing"
)

func near(a, b, tol float64) bool { return math.Abs(a-b) <= tol }

func TestMatrix(t *testing.T) {
	p := Point{3, 4}
	for _, c := range []struct {
		name string
		m    Matrix
		want Point
	}{
		{"identity", Identity, Point{3, 4}},
		{"translate", Translate(10, -1), Point{13, 3}},
		{"scale", Scale(2, 3), Point{6, 12}},
		{"quarter turn", Rotate(90), Point{-4, 3}},
		{"half turn", Rotate(180), Point{-3, -4}},
		{"turn back", Rotate(-90), Point{4, -3}},
		{"scale then move", Translate(1, 1).Mul(Scale(2, 2)), Point{7, 9}},
		{"move then scale", Scale(2, 2).Mul(Translate(1, 1)), Point{8, 10}},
	} {
		if got := c.m.Apply(p); !near(got.X, c.want.X, 1e-12) || !near(got.Y, c.want.Y, 1e-12) {
			t.Errorf("%s: %v, want %v", c.name, got, c.want)
		}
		inv, ok := c.m.Inverse()
		if !ok {
			t.Errorf("%s has no inverse", c.name)
			continue
		}
		if got := inv.Apply(c.m.Apply(p)); !near(got.X, p.X, 1e-9) || !near(got.Y, p.Y, 1e-9) {
			t.Errorf("%s: there and back is %v", c.name, got)
		}
	}
	if _, ok := Scale(0, 1).Inverse(); ok {
		t.Error("a flat transform has an inverse")
	}
	if !Rotate(90).Mul(Rotate(-90)).Upright() || Rotate(45).Upright() {
		t.Error("upright")
	}
	if got := Rotate(30).Rotation(); !near(got, 30, 1e-9) {
		t.Errorf("rotation is %g", got)
	}
	if got := Scale(2, 8).MeanScale(); got != 4 {
		t.Errorf("mean scale is %g", got)
	}
}

func TestRect(t *testing.T) {
	a, b := Rect{0, 0, 10, 10}, Rect{5, 5, 10, 10}
	if got := a.Union(b); got != (Rect{0, 0, 15, 15}) {
		t.Errorf("union %v", got)
	}
	if got := a.Intersect(b); got != (Rect{5, 5, 5, 5}) {
		t.Errorf("intersection %v", got)
	}
	if got := a.Intersect(Rect{20, 20, 1, 1}); !got.Empty() {
		t.Errorf("apart, they share %v", got)
	}
	if got := a.Union(Rect{}); got != a {
		t.Errorf("with nothing: %v", got)
	}
	if !a.Contains(Rect{1, 1, 5, 5}, 0) || a.Contains(b, 0) || !a.Contains(Rect{-0.4, 0, 5, 5}, 0.5) {
		t.Error("contains")
	}
	if got := Rotate(90).Rect(Rect{0, 0, 2, 1}); !near(got.X, -1, 1e-9) || !near(got.W, 1, 1e-9) || !near(got.H, 2, 1e-9) {
		t.Errorf("turned: %v", got)
	}
	if (Rect{W: 5}).Empty() {
		t.Error("a line has an extent")
	}
}

func arcPath(rx, ry, turn float64, large, sweep bool, to Point) *Path {
	p := &Path{}
	p.MoveTo(0, 0)
	p.ArcTo(rx, ry, turn, large, sweep, to.X, to.Y)
	return p
}

func TestBounds(t *testing.T) {
	cubic := &Path{}
	cubic.MoveTo(0, 0)
	cubic.CubicTo(0, 100, 100, 100, 100, 0)
	quad := &Path{}
	quad.MoveTo(0, 0)
	quad.QuadTo(50, 100, 100, 0)
	lone := &Path{}
	lone.MoveTo(500, 500)
	lone.MoveTo(1, 2)
	lone.LineTo(3, 4)
	for _, c := range []struct {
		name string
		p    *Path
		want Rect
	}{
		{"rectangle", Rect{1, 2, 3, 4}.Path(), Rect{1, 2, 3, 4}},
		{"circle", Ellipse(10, 10, 5, 5), Rect{5, 5, 10, 10}},
		{"ellipse", Ellipse(0, 0, 20, 3), Rect{-20, -3, 40, 6}},
		{"rounded", RoundedRect(Rect{0, 0, 100, 50}, 10, 20), Rect{0, 0, 100, 50}},
		{"cubic by its extremes", cubic, Rect{0, 0, 100, 75}},
		{"quadratic by its extremes", quad, Rect{0, 0, 100, 50}},
		{"half circle", arcPath(50, 50, 0, false, true, Point{100, 0}), Rect{0, -50, 100, 50}},
		{"half circle the other way", arcPath(50, 50, 0, false, false, Point{100, 0}), Rect{0, 0, 100, 50}},
		{"radius too small", arcPath(10, 10, 0, false, true, Point{100, 0}), Rect{0, -50, 100, 50}},
		{"arc of no radius", arcPath(0, 10, 0, false, true, Point{100, 0}), Rect{0, 0, 100, 0}},
		{"a lone move has no extent", lone, Rect{1, 2, 2, 2}},
	} {
		got, ok := c.p.Bounds()
		if !ok || !near(got.X, c.want.X, 1e-6) || !near(got.Y, c.want.Y, 1e-6) || !near(got.W, c.want.W, 1e-6) ||
			!near(got.H, c.want.H, 1e-6) {
			t.Errorf("%s: %v, want %v", c.name, got, c.want)
		}
	}
	if _, ok := (&Path{}).Bounds(); ok {
		t.Error("an empty path has bounds")
	}
	turned, _ := Ellipse(0, 0, 10, 10).Transform(Rotate(30)).Bounds()
	if !near(turned.W, 20, 1e-6) || !near(turned.H, 20, 1e-6) {
		t.Errorf("a turned circle is %v", turned)
	}
}

func TestArcLiesOnItsCircle(t *testing.T) {
	p := arcPath(50, 50, 0, true, true, Point{50, 50}) // three quarters about 0,50 or 50,0
	for _, pl := range p.Flatten(Identity, 0.01) {
		for _, q := range pl.Points {
			if r := q.Sub(Point{50, 0}).Len(); !near(r, 50, 0.02) {
				t.Fatalf("%v is %g from the centre, want 50", q, r)
			}
		}
	}
}

// area is the signed area of polylines.
func area(lines []Polyline) float64 {
	sum := 0.0
	for _, l := range lines {
		for i, p := range l.Points {
			q := l.Points[(i+1)%len(l.Points)]
			sum += p.X*q.Y - q.X*p.Y
		}
	}
	return math.Abs(sum / 2)
}

func TestFlattenIsAsCloseAsAsked(t *testing.T) {
	circle := Ellipse(0, 0, 100, 100)
	want := math.Pi * 100 * 100
	for tol, share := range map[float64]float64{1: 0.02, 0.1: 0.002, 0.01: 0.0002} {
		if got := area(circle.Flatten(Identity, tol)); math.Abs(got-want) > want*share {
			t.Errorf("at %g px the circle's area is %g, want %g within %g", tol, got, want, want*share)
		}
	}
	if fine, coarse := len(circle.Flatten(Identity,
		0.01)[0].Points), len(circle.FlattenForPaint(Identity)[0].Points); coarse >= fine {
		t.Errorf("for painting there are %d chords, not fewer than %d", coarse, fine)
	}
}

func TestFlattenForPaintStaysNear(t *testing.T) {
	for _, r := range []float64{2, 5, 12, 40, 300} {
		for _, l := range Ellipse(r+1, r+1, r, r).FlattenForPaint(Identity) {
			for _, p := range l.Points {
				if d := math.Abs(p.Sub(Point{r + 1, r + 1}).Len() - r); d > 0.3 {
					t.Errorf("radius %g: a corner is %g px off", r, d)
				}
				if q := p.Y * 4; math.Abs(q-math.Round(q)) > 1e-9 {
					t.Errorf("radius %g: a corner lies at y %g, not on a quarter of a row", r, p.Y)
				}
			}
		}
	}
}

func TestStroke(t *testing.T) {
	line := &Path{}
	line.MoveTo(0, 0)
	line.LineTo(100, 0)
	corner := &Path{}
	corner.MoveTo(0, 0)
	corner.LineTo(50, 0)
	corner.LineTo(50, 50)
	square := Rect{0, 0, 100, 100}.Path()
	dot := &Path{}
	dot.MoveTo(5, 5)
	dot.LineTo(5, 5)
	dot.Close()
	for _, c := range []struct {
		name string
		p    *Path
		st   StrokeStyle
		box  Rect
		area float64
	}{
		{"butt", line, StrokeStyle{Width: 10}, Rect{0, -5, 100, 10}, 1000},
		{"square cap", line, StrokeStyle{Width: 10, Cap: "square"}, Rect{-5, -5, 110, 10}, 1100},
		{"round cap", line, StrokeStyle{Width: 10, Cap: "round"}, Rect{-5, -5, 110, 10}, 1000 + math.Pi*25},
		{"miter join", corner, StrokeStyle{Width: 10}, Rect{0, -5, 55, 55}, 1000},
		{"bevel join", corner, StrokeStyle{Width: 10, Join: "bevel"}, Rect{0, -5, 55, 55}, 987.5},
		{"miter limit", corner, StrokeStyle{Width: 10, Miter: 1}, Rect{0, -5, 55, 55}, 987.5},
		{"closed", square, StrokeStyle{Width: 10}, Rect{-5, -5, 110, 110}, 110*110 - 90*90},
		{"dashes", line, StrokeStyle{Width: 10, Dashes: []float64{10, 10}}, Rect{0, -5, 90, 10}, 500},
		{"dashes moved", line, StrokeStyle{Width: 10, Dashes: []float64{10, 10}, Offset: 10}, Rect{10, -5, 90, 10}, 500},
		{"odd dashes count twice", line, StrokeStyle{Width: 10, Dashes: []float64{20}}, Rect{0, -5, 100, 10}, 600},
		{"dot with round caps", dot, StrokeStyle{Width: 10, Cap: "round"}, Rect{0, 0, 10, 10}, math.Pi * 25},
	} {
		out := Stroke(c.p, c.st, 1)
		box, ok := out.Bounds()
		if !ok || !near(box.X, c.box.X, 0.01) || !near(box.Y, c.box.Y, 0.01) || !near(box.W, c.box.W, 0.01) ||
			!near(box.H, c.box.H, 0.01) {
			t.Errorf("%s: box %v, want %v", c.name, box, c.box)
		}
		if got := area(out.Flatten(Identity, 0.01)); !near(got, c.area, c.area*0.05) {
			t.Errorf("%s: area %g, want about %g", c.name, got, c.area)
		}
	}
	if !Stroke(line, StrokeStyle{}, 1).Empty() || !Stroke(dot, StrokeStyle{Width: 10}, 1).Empty() {
		t.Error("no width, or a dot with butt caps, paints nothing")
	}
}

func TestCurvedStrokeFollowsTheCurve(t *testing.T) {
	for _, scale := range []float64{1, 4} {
		out := Stroke(Ellipse(0, 0, 50, 50), StrokeStyle{Width: 4}, scale)
		for _, l := range out.Flatten(Identity, 0.01) {
			for _, p := range l.Points {
				r := p.Len()
				if d := math.Min(math.Abs(r-48), math.Abs(r-52)); d > 0.3/scale {
					t.Fatalf("at scale %g a point lies %g px from both edges", scale, d)
				}
			}
		}
	}
}

func TestFineDashesAreBounded(t *testing.T) {
	line := &Path{}
	line.MoveTo(0, 0)
	line.LineTo(1e9, 0)
	if n := len(Stroke(line, StrokeStyle{Width: 1, Dashes: []float64{1e-6}}, 1).Verbs); n > 100 {
		t.Errorf("%d segments", n)
	}
}

func TestLastAfterClose(t *testing.T) {
	p := Ellipse(10, 10, 5, 5)
	if got := p.Last(); got != (Point{15, 10}) {
		t.Errorf("after a close the pen is at %v", got)
	}
}
