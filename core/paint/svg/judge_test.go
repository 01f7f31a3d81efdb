package svg

import (
	"fmt"
	"math"
	"math/rand"
	"slices"
	"strconv"
	"strings"
	"testing"

	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/geom/pathdata"
)

func TestRead32(t *testing.T) {
	for _, s := range []string{"0", "-1", "+2.5", ".5", "-.25", "1036.3622", "0.000001", "12345.678", "1e3", "-2.5e-3",
		"7.9999957"} {
		want, _ := strconv.ParseFloat(s, 64)
		if got := float64(pathdata.Float32(s)); math.Abs(got-want) > math.Abs(want)*3e-7 {
			t.Errorf("%s is read as %g", s, got)
		}
	}
	if pathdata.Float32("0.1") == 0.1 && float64(pathdata.Float32("0.1")) == 0.1 {
		t.Error("read in more than 32 bits")
	}
}

// randomData is path data as editors write it: long numbers, relative and absolute.
func randomData(r *rand.Rand) string {
	num := func(size float64) string {
		return strings.TrimPrefix(strconv.FormatFloat((r.Float64()-0.5)*size, 'f', 1+r.Intn(7), 64), "+")
	}
	var b strings.Builder
	for range 1 + r.Intn(2) {
		fmt.Fprintf(&b, "M %d,%s ", 20+r.Intn(20), num(9)+"0")
		for range 2 + r.Intn(6) {
			switch r.Intn(9) {
			case 0:
				b.WriteString("l " + num(20) + "," + num(20) + " ")
			case 1:
				b.WriteString("h " + num(20) + " v " + num(20) + " ")
			case 2:
				fmt.Fprintf(&b, "L %d %d ", 10+r.Intn(40), 10+r.Intn(40))
			case 3, 4:
				b.WriteString("c " + num(20) + "," + num(20) + " " + num(20) + "," + num(20) + " " + num(20) + "," + num(20) + " ")
			case 5:
				b.WriteString("s " + num(20) + "," + num(20) + " " + num(20) + "," + num(20) + " ")
			case 6:
				b.WriteString("q " + num(20) + "," + num(20) + " " + num(20) + "," + num(20) + " t " + num(9) + " " + num(9) + " ")
			case 7:
				radius := 2 + r.Float64()*20
				fmt.Fprintf(&b, "a %.4f %.4f 0 %d %d %s %s ", radius, radius, r.Intn(2), r.Intn(2), num(30), num(30))
			case 8:
				fmt.Fprintf(&b, "a %.3f %.3f %d 0 1 %s %s ", 3+r.Float64()*9, 3+r.Float64()*9, r.Intn(90), num(20), num(20))
			}
		}
		b.WriteString("z ")
	}
	return b.String()
}

// edgesOfData are the edges that browsers fill path data by, in a density, and whether they see it as turning one way.
func edgesOfData(t *testing.T, d string, m geom.Matrix) ([]geom.Edge, form) {
	t.Helper()
	on := deviceOf(m)
	var f form
	var out []geom.Edge
	var at, start geom.Point
	if err := pathdata.Visit(d, func(c *pathdata.Command) {
		f.command(counted(c, at), &on)
		counted(c, at).segments(&on, func(s *geom.Segment) { out = s.Edges(out) })
		switch at = c.End().Counted; c.Letter {
		case 'M':
			start = at
		case 'Z':
			at = start
		}
	}); err != nil {
		t.Fatalf("%v: %s", err, d)
	}
	return out, f
}

// TestDataIsFilledAsBefore writes the data of random paths under transforms, and finds the same edges in what was
// written as in what was there, at 1x to 4x.
func TestDataIsFilledAsBefore(t *testing.T) {
	r := rand.New(rand.NewSource(3))
	view := geom.Rect{X: -4000, Y: -4000, W: 8000, H: 8000}
	before, after, written, missed := 0, 0, 0, 0
	for i := range 300 {
		d := randomData(r)
		m := []geom.Matrix{geom.Identity, geom.Translate(3, -2.5), geom.Translate(-433.25, 1036.3622),
			geom.Scale(1.0667, 1.0667), geom.Scale(-1, 1), geom.Rotate(30)}[i%6]
		w := &writer{digits: 3, scale: 1, view: view, above: geom.Identity}
		var list []pathdata.Command
		_ = pathdata.Visit(d, func(c *pathdata.Command) { list = append(list, *c) })
		if slices.ContainsFunc(list, func(c pathdata.Command) bool { _, ok := under(&c, m); return c.Letter == 'A' && !ok }) {
			continue
		}
		out, lost := w.data(&design.PaintNode{Fill: &design.Paint{}}, list, m, geom.Identity)
		written += len(list)
		missed += lost
		before, after = before+len(d), after+len(out)
		if lost > 0 {
			continue
		}
		for k := 1.0; k <= densities; k++ {
			want, form1 := edgesOfData(t, d, geom.Scale(k, k).Mul(m.Round32()))
			got, form2 := edgesOfData(t, out, geom.Scale(k, k))
			if !slices.Equal(got, want) || form1.box.whole() != form2.box.whole() {
				t.Fatalf("%s\nunder %v is written\n%s\nat %gx: other edges", d, m, out, k)
			}
		}
	}
	t.Logf("%d commands, %d of them not as before; %d bytes became %d", written, missed, before, after)
	if missed*25 > written || after*10 > before*9 {
		t.Errorf("%d of %d commands are not as before; %d bytes became %d", missed, written, before, after)
	}
}

func TestArcsUnderMatrices(t *testing.T) {
	round := pathdata.Command{Letter: 'A', Ellipse: pathdata.Ellipse{RX: 2, RY: 2, Turn: 30}, Sweep: true}
	oval := pathdata.Command{Letter: 'A', Ellipse: pathdata.Ellipse{RX: 2, RY: 3, Turn: 0}, Sweep: true}
	turned := pathdata.Command{Letter: 'A', Ellipse: pathdata.Ellipse{RX: 2, RY: 3, Turn: 30}}
	for _, c := range []struct {
		arc    pathdata.Command
		m      geom.Matrix
		rx, ry float64
		sweep  bool
		ok     bool
	}{
		{round, geom.Rotate(45), 2, 2, true, true},
		{round, geom.Scale(-1, 1), 2, 2, false, true},
		{oval, geom.Scale(2, -4), 4, 12, false, true},
		{oval, geom.Matrix{B: 1, C: -1}, 3, 2, true, true},
		{oval, geom.Rotate(45), 0, 0, false, false},
		{turned, geom.Scale(2, 2), 4, 6, false, true},
		{turned, geom.Scale(2, 3), 0, 0, false, false},
	} {
		a, ok := under(&c.arc, c.m)
		if ok != c.ok || ok && (math.Abs(a.RX-c.rx)+math.Abs(a.RY-c.ry) > 1e-9 || a.Sweep != c.sweep) {
			t.Errorf("%v under %v: %v %v", c.arc, c.m, a, ok)
		}
	}
}

// TestArcsAsBrowsersCount: the conics of an arc lie on its ellipse, whatever its flags and radii.
func TestArcsAsBrowsersCount(t *testing.T) {
	for _, d := range []string{"M10 10A20 20 0 0 1 30 30", "M10 10A20 20 0 1 0 30 30", "M10 10A3 3 0 0 1 30 30",
		"M10 10A20 8 40 0 1 30 12", "M10 10A0 8 0 0 1 30 12", "M10 10A5 5 0 0 1 10 10"} {
		want, _ := pathdata.Parse(d)
		got := &geom.Path{}
		_ = pathdata.Visit(d, func(c *pathdata.Command) {
			if c.Letter == 'M' {
				got.MoveTo(10, 10)
				return
			}
			conics(c, geom.Point{X: 10, Y: 10}, c.End().Counted, func(s *geom.Segment) {
				if s.Verb == geom.Line {
					got.LineTo(s.P[1].X, s.P[1].Y)
					return
				}
				got.ConicTo(s.P[1], s.P[2], s.Weight)
			})
		})
		if !slices.Equal(got.Verbs, want.Verbs) {
			t.Fatalf("%s: %v, not %v", d, got.Verbs, want.Verbs)
		}
		for i, p := range got.Points {
			if p.Sub(want.Points[i]).Len() > 1e-4 {
				t.Errorf("%s: %v, not %v", d, got.Points, want.Points)
				break
			}
		}
	}
}

// TestStrokesKeepTheirNumbers: what is stroked is written to the last bit, and under its transform where that reshapes
// it.
func TestStrokesKeepTheirNumbers(t *testing.T) {
	for content, want := range map[string]string{
		`<path d="M 2.0002425,2.0000005 h 2" stroke="red" fill="none"/>`:                               `d="M2.0002425 2.0000005h2"`,
		`<path d="M 2.0002425,2.5 h 2.123456"/>`:                                                       `d="M2 2.5h2.124"`,
		`<g transform="scale(2)"><path d="M1 1 4 5" stroke="red"/></g>`:                                `d="M2 2l6 8" stroke="red" stroke-width="2"`,
		`<g transform="scale(1.1)"><path d="M1 1 4 5" stroke="red"/></g>`:                              `d="M1 1l3 4" transform="scale(1.1)" stroke="red"`,
		`<path d="M1 1 4 5" stroke="red" stroke-width=".666667"/>`:                                     `stroke-width=".666667"`,
		`<g transform="translate(-40 -700)"><path d="M45 705h6l3.5 7z" fill="none" stroke="red"/></g>`: `d="M5 5h6l3.5 7z"`,
		`<rect x="-9" y="3" width="4" height="2" transform="scale(-1 1)"/>`:                            `<rect x="5" y="3" width="4" height="2"/>`,
		`<rect x="1" y="3" width="4" height="2" rx=".5" transform="rotate(30)"/>`:                      `transform="rotate(30)"`,
		`<g opacity=".5"><rect x="1" y="3" width="4" height="2" rx=".5" transform="rotate(30)"/></g>`:  `<rect x="1" y="3" width="4" height="2" rx=".5" transform`,
		// cut off by the edge
		`<path d="M60 10 90.123456 20 60 40z"/>`:                                                         `l30.12346 10L60 40z`,
		`<path d="M10 10a5 5 0 1 1 0 .01l3 3z" transform="rotate(20)"/>`:                                 `d="M10 10a5 5 0 110 .01l3 3z`,
		`<path d="M10 10a5 3 0 1 1 0 2l3 3z" transform="rotate(20)"/>`:                                   `a5 3 0 110 2l3 3z" transform="rotate(20)"`,
		`<path d="M1 1h9v9h-9zM20 20q5 0 5 5t5 5z"/>`:                                                    `d="M1 1h9v9H1zm19 19q5 0 5 5t5 5z"`,
		`<path d="M1 1h9v9L1 1z"/>`:                                                                      `d="M1 1h9v9z"`,
		`<path d="M1 1h9v9L1 1z" fill="none" stroke="red"/>`:                                             `d="M1 1h9v9L1 1z"`,
		`<path d="M1 1h9v9z" fill="red"/><path d="M40 40h9v9z" fill="red"/>`:                             `fill="red"><path d="M1 1h9v9z"/><path d="M40 40h9v9z"/>`,
		`<circle cx="9" cy="9" r="3.3333333"/>`:                                                          `r="3.333333"`,
		`<path d="M3 3l1e-9 0 5 5v3z" stroke="red" fill="none"/>`:                                        `stroke="red"`,
		`<path d="M10 50l4.1-3.9c.1.2.3.4.5.6z" transform="translate(-7.123 3)" stroke="#000"/>`:         `stroke="#000"`,
		`<path d="M50 10c2 2 2 6 0 8s-6 2-8 0-2-6 0-8 6-2 8 0z" transform="matrix(.9 .1 -.1 .9 3 -2)"/>`: `d="M`,
	} {
		if got := written(t, content, Options{}); !strings.Contains(got, want) {
			t.Errorf("%s\nis written %s\nwithout    %s", content, got, want)
		}
	}
}
