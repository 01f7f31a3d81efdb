package pathdata

import (
	"testing"

	"archetyp/core/geom"
)

// counts are the points of path data as browsers count them, with the letters of its commands.
func counts(t testing.TB, d string) (letters string, points []geom.Point) {
	t.Helper()
	if err := Visit(d, func(c *Command) {
		letters += string(c.Letter)
		points = append(points, c.Points[0].Counted, c.Points[1].Counted, c.End().Counted,
			geom.Point{X: c.Seen.RX, Y: c.Seen.RY})
	}); err != nil {
		t.Fatalf("%v: %s", err, d)
	}
	return letters, points
}

func TestShorten(t *testing.T) {
	for d, want := range map[string]string{
		"M 10.500,0.50 L +3e1 -0.250 z":              "M10.5.5 30-.25z",
		"m 1 1 l 2 2 l 3 3 m 1 1 m 2 2 l 1 1":        "m1 1 2 2 3 3m1 1m2 2 1 1",
		"M1 1H 2 H3 h 4\nV 5 z Z m 2 2 h 1":          "M1 1H2 3h4V5zZm2 2h1",
		"M0 0 A 5.0 5 0.0 0,1 10 , 10 a5 5 0 1010 0": "M0 0A5 5 0 0110 10a5 5 0 1010 0",
		"M0 0 C 1 -1 2 .5 .5 .25 S 1 1 1 1":          "M0 0C1-1 2 .5.5.25S1 1 1 1",
		"M 0.30000001 7.0000000000":                  "M.3 7",
		"M0 0l10e-7-12":                              "M0 0l10e-7-12",
		"":                                           "",
	} {
		if got, ok := Shorten(d); got != want || !ok {
			t.Errorf("%q is written %q, not %q", d, got, want)
		}
	}
	for _, d := range []string{"L1 1", "M1 1 Lx", "M1 1 A1 1 0 2 0 3 3", "M1"} {
		if got, ok := Shorten(d); ok {
			t.Errorf("%q is written %q", d, got)
		}
	}
}
