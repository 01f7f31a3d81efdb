package geom

import (
	"testing"
)

func TestCubicFollowsTheSegment(t *testing.T) {
	p := &Path{}
	p.MoveTo(0, 0)
	p.LineTo(10, 4)
	p.QuadTo(20, 4, 25, 14)
	p.CubicTo(30, 20, 40, 0, 44, 9)
	p.ArcTo(20, 12, 30, false, true, 60, 30)
	p.Each(func(s Segment, _ bool) {
		c := Segment{Verb: Cubic, P: s.Cubic()}
		for k := 0.0; k <= 1; k += 0.5 { // at the ends and in the middle
			a, b := s.At(k), c.At(k)
			if d := a.Sub(b).Len(); d > 0.06 {
				t.Errorf("%v at %g: %g off", s.Verb, k, d)
			}
		}
	})
}

func TestDotsOfDashes(t *testing.T) {
	pts := []Point{{0, 0}, {10, 0}}
	for name, c := range map[string]struct {
		pattern []float64
		offset  float64
		want    int
	}{"dots": {[]float64{0, 4}, 0, 3}, "moved": {[]float64{0, 4}, 1, 2}, "dashes": {[]float64{2, 2}, 0,
		3}, "none": {[]float64{0, 0}, 0, 1}} {
		if got := dash(pts, false, c.pattern, c.offset); len(got) != c.want {
			t.Errorf("%s: %v", name, got)
		}
	}
	st := StrokeStyle{Width: 2, Offset: 1, Dashes: []float64{3, 4}}
	if s := st.Scaled(2); s.Width != 4 || s.Offset != 2 || s.Dashes[1] != 8 || st.Dashes[1] != 4 {
		t.Errorf("%+v", s)
	}
}

func TestIsRect(t *testing.T) {
	if !(Rect{W: 3, H: 4}).Path().IsRect() || Ellipse(0, 0, 1, 1).IsRect() {
		t.Error("what is a rectangle is mistaken")
	}
}
