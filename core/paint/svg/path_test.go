package svg

import (
	"testing"

	"archetyp/core/geom"
	"archetyp/core/geom/pathdata"
)

// TestPathDataReadsBack writes outlines as path data and reads them again: the same places within 0.01 px.
func TestPathDataReadsBack(t *testing.T) {
	for _, src := range []string{
		"M1 2L30 2L30 40Z", "M0 0Q10 20 30 0", "M0 0C0 20 40 20 40 0Z", "M0 0A20 10 0 0 1 20 10", "M0 0A20 10 0 0 0 20 -10",
		"M0 0A20 20 0 1 1 5 30", "M10 0A20 10 30 0 1 20 10", "M0 0H10V10H0ZM20 20H30V30Z",
	} {
		p, err := pathdata.Parse(src)
		if err != nil {
			t.Fatal(err)
		}
		again, err := pathdata.Parse(PathData(p, 4))
		if err != nil {
			t.Fatalf("%s is written %s: %v", src, PathData(p, 4), err)
		}
		a, b := p.Flatten(geom.Identity, 0.001), again.Flatten(geom.Identity, 0.001)
		if len(a) != len(b) {
			t.Fatalf("%s is written %s", src, PathData(p, 4))
		}
		want, _ := p.Bounds()
		got, _ := again.Bounds()
		for _, d := range []float64{want.X - got.X, want.Y - got.Y, want.W - got.W, want.H - got.H} {
			if d > 0.01 || d < -0.01 {
				t.Errorf("%s is written %s: %v became %v", src, PathData(p, 4), want, got)
				break
			}
		}
	}
}
