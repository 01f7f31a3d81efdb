package geom

import (
	"math"
	"testing"
)

func TestFormsOfWhatIsKnown(t *testing.T) {
	box := Rect{10, 20, 80, 40}
	for name, c := range map[string]struct {
		p      *Path
		kind   FormKind
		radius Point
	}{
		"rectangle":         {box.Path(), FormRect, Point{}},
		"rounded rectangle": {RoundedRect(box, 8, 8), FormRound, Point{8, 8}},
		"stretched corners": {RoundedRect(box, 16, 8), FormRound, Point{16, 8}},
		"ellipse":           {Ellipse(50, 40, 40, 20), FormOval, Point{40, 20}},
		"circle":            {Ellipse(50, 40, 20, 20), FormCircle, Point{20, 20}},
	} {
		f, ok := c.p.Form(0.01)
		if !ok || f.Kind != c.kind {
			t.Errorf("%s: %+v, %t", name, f, ok)
			continue
		}
		for _, r := range f.Radii {
			if r.Sub(c.radius).Len() > 1e-9 {
				t.Errorf("%s: radii %v", name, f.Radii)
			}
		}
		if _, ok := c.p.Transform(Rotate(7)).Form(0.01); ok != (c.kind == FormCircle) { // a circle stays one
			t.Errorf("%s, turned: %t", name, ok)
		}
	}
}

// TestFormsWithinTheirTolerance moves one point of a rounded rectangle further and further away.
func TestFormsWithinTheirTolerance(t *testing.T) {
	for _, off := range []float64{0, 0.02, 0.2, 1, 5} {
		p := RoundedRect(Rect{0, 0, 80, 40}, 8, 8)
		p.Points[1].Y += off
		if _, ok := p.Form(0.06); ok != (off < 0.06) {
			t.Errorf("%g px off: %t", off, ok)
		}
	}
	var empty Path
	if _, ok := empty.Form(1); ok {
		t.Error("nothing has no form")
	}
	empty.MoveTo(1, 1)
	if _, ok := empty.Form(1); ok {
		t.Error("a lone point has no form")
	}
}

func TestPathContains(t *testing.T) {
	ring := Ellipse(50, 50, 40, 40)
	ring.Append(Ellipse(50, 50, 20, 20))
	open := &Path{} // closed by the fill
	open.MoveTo(0, 0)
	open.LineTo(10, 0)
	open.LineTo(10, 10)
	for _, c := range []struct {
		p       *Path
		at      Point
		evenOdd bool
		want    bool
	}{
		{ring, Point{50, 50}, true, false}, {ring, Point{50, 50}, false, true}, {ring, Point{50, 20}, true, true}, {ring,
			Point{50, 5}, true, false},
		{ring, Point{50 + 39.9, 50}, true, true}, {ring, Point{50 + 40.1, 50}, true, false}, {open, Point{8, 4}, false,
			true}, {open, Point{4, 8}, false, false},
		{&Path{}, Point{}, false, false},
	} {
		if got := c.p.Contains(c.at, c.evenOdd); got != c.want {
			t.Errorf("%v, even-odd %t: %t", c.at, c.evenOdd, got)
		}
	}
}

func FuzzForm(f *testing.F) {
	f.Add(8.0, 8.0, 80.0, 40.0, 0.1)
	f.Add(0.0, math.Inf(1), 1.0, math.NaN(), 0.0)
	f.Fuzz(func(t *testing.T, rx, ry, w, h, move float64) {
		p := RoundedRect(Rect{0, 0, w, h}, rx, ry)
		p.Points[len(p.Points)/2].X += move
		if form, ok := p.Form(0.05); ok && !(math.Abs(form.Box.W-math.Abs(w)) <= math.Abs(move)+1 || move != move) {
			t.Errorf("%+v of %g × %g", form, w, h)
		}
		p.Contains(Point{w / 2, h / 2}, true)
	})
}
