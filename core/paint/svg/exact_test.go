package svg

import (
	"math/rand"
	"strings"
	"testing"

	"archetyp/core/geom"
	"archetyp/core/geom/pathdata"
	reader "archetyp/core/read/svg"
)

// counts are the points of path data as browsers count them, with the letters of its commands.
func counts(t testing.TB, d string) (letters string, points []geom.Point) {
	t.Helper()
	if err := pathdata.Visit(d, func(c *pathdata.Command) {
		letters += string(c.Letter)
		points = append(points, c.Points[0].Counted, c.Points[1].Counted, c.End().Counted,
			geom.Point{X: c.Seen.RX, Y: c.Seen.RY})
	}); err != nil {
		t.Fatalf("%v: %s", err, d)
	}
	return letters, points
}

// TestShortDataIsTheSame writes random paths: to the last bit the same points, in fewer letters.
func TestShortDataIsTheSame(t *testing.T) {
	r := rand.New(rand.NewSource(9))
	before, after := 0, 0
	for range 400 {
		d := randomData(r)
		got, ok := pathdata.Shorten(d)
		if !ok {
			t.Fatal(d)
		}
		letters, points := counts(t, d)
		letters2, points2 := counts(t, got)
		if letters != letters2 {
			t.Fatalf("%s\nis written %s", d, got)
		}
		for i := range points {
			if points[i] != points2[i] {
				t.Fatalf("%s\nis written %s: %v became %v", d, got, points[i], points2[i])
			}
		}
		before, after = before+len(d), after+len(got)
	}
	if after*100 > before*95 {
		t.Errorf("%d bytes became %d", before, after)
	}
}

// TestBits32 prints numbers so that browsers read them to the last bit, which goes for nearly all.
func TestBits32(t *testing.T) {
	r := rand.New(rand.NewSource(10))
	off := 0
	for range 5000 {
		v := (r.Float64() - 0.5) * []float64{1, 2, 50, 2000}[r.Intn(4)]
		s := bits32(v)
		if pathdata.Float32(s) != float32(v) {
			off++
		}
		if len(s) > 14 {
			t.Errorf("%v is written %s", v, s)
		}
	}
	if off > 25 {
		t.Errorf("%d of 5000 are read otherwise", off)
	}
	for v, want := range map[float64]string{0: "0", -1: "-1", 0.5: ".5", -1036.3622: "-1036.3622", 30: "30"} {
		if got := bits32(v); got != want {
			t.Errorf("%v is written %s", v, got)
		}
	}
}

// TestWhatBrowsersChooseBy: what decides how a shape is painted is kept, even where that takes more letters.
func TestWhatBrowsersChooseBy(t *testing.T) {
	teeth := "M2 2l1 .5 1-.5 1 .5v2.5H2V2z" // more points than twice the rows, but not without the line back
	for content, want := range map[string]string{
		`<path d="` + teeth + `"/>`:          "V2z",
		`<path d="M2 2l20 0 0 40-20 0V2z"/>`: `d="M2 2h20v40H2z"`,
		// the start is a last bit off
		`<path d="m5 4c-2.2091 0-4 1.7909-4 4s1.7909 4 4 4c2.3116 0 3.6695-2 3.7051-3h2.2949v2h2v-2h2v-2h-6.294c0.0123-1-1.2619-3-3.706-3z"/>`: "4.99999",
		// a rectangle stays one
		`<g transform="translate(-953 131)"><path d="M956.898-123.947v2H965.028v-2h-8.13z"/></g>`:         `d="M3.898 7.053v2h8.13V7.053z"`,
		`<g opacity=".2" transform="translate(-1-.25)"><path transform="scale(1.25)" d="M9 9h9v9z"/></g>`: `<g opacity=".2" transform="translate(-1-.25)"><path d="M9 9h9v9z" transform="scale(1.25)"/></g>`,
		`<g opacity=".2" transform="translate(-1-.25)"><path d="M9 9h9v9z"/></g>`:                         `<path d="M8 8.75h9v9z" opacity=".2"/>`,
		`<g opacity=".2" transform="translate(-1-.25)"><path d="M9 9h9v9z"/><path d="M9 30h9v9z"/></g>`:   `<g transform="translate(-1-.25)" opacity=".2">`,
		`<g opacity=".2" transform="translate(-1-3)"><path d="M9 9h9v9z"/><path d="M9 30h9v9z"/></g>`:     `<g opacity=".2"><path d="M8 6h9v9z"/>`,
		`<path d="M9 9v4h2v0" fill="none" stroke="red" stroke-linecap="round"/>`:                          `d="M9 9v4h2 0"`,
		`<path d="M9 9h9v9z" stroke="red" stroke-width="0.99999994"/>`:                                    `stroke-width=".99999994"`,
		`<rect x="4.4971843" y="3.5" width="7" height="9" rx=".50281549" stroke="red"/>`:                  `x="4.4971843" y="3.5" width="7" height="9" rx=".50281549"`,
		`<circle cx="24.042" cy="33.941" r="3" transform="rotate(-45)"/>`:                                 `transform="rotate(-45)"`,
	} {
		if got := written(t, content, Options{}); !strings.Contains(got, want) {
			t.Errorf("%s\nis written %s\nwithout    %s", content, got, want)
		}
	}
}

// TestMany writes more circles than are tried in different numbers of decimals, some of which are none any more.
func TestMany(t *testing.T) {
	got := written(t, strings.Repeat(`<circle cx="9.00004" cy="9" r="3"/>`,
		mostJudged/9+2)+`<circle cx="3" cy="3" r="1" transform="scale(2 3)"/>`, Options{})
	if strings.Contains(got, "<>") || !strings.HasSuffix(got,
		`<circle cx="9" cy="9" r="3"/><circle cx="3" cy="3" r="1" transform="scale(2 3)"/>`) {
		t.Error(got[len(got)-200:])
	}
}

// TestRough tells drawings apart by what can be seen of them.
func TestRough(t *testing.T) {
	form := func(content string) string { return written(t, content, Options{Rough: true}) }
	one := form(`<path d="M9.0001 9c3 0 6 3.004 6 6z" fill="red"/>`)
	if other := form(`<g transform="translate(-700.3 20)"><path d="M709.3-11c3 0 6 3 6 6z" fill="#f00"/></g>`); other != one {
		t.Errorf("%s is told from %s", other, one)
	}
	if other := form(`<path d="M9.1 9c3 0 6 3 6 6z" fill="red"/>`); other == one {
		t.Error("what is elsewhere is not told from it")
	}
}

// TestViewBoxesAsBrowsersCount: sizes in a view box are read in 32 bits, and multiplied in 64.
func TestViewBoxesAsBrowsersCount(t *testing.T) {
	d, err := reader.Read("t.svg",
		[]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="16" height="16" viewBox="0 0 4.2333332 4.2333335"><path transform="scale(0.26458333)" d="M6.0019531 2.5019531L3.0001 8v3z"/></svg>`), reader.Options{})
	if err != nil {
		t.Fatal(err)
	}
	m := d.Screens[0].Paint.Children[0].Matrix.Mul(d.Screens[0].Paint.Children[0].Children[0].Matrix).Round32()
	if float32(m.A) != 0.9999999 || float32(m.D) != 0.9999999 {
		t.Errorf("%.10f %.10f", m.A, m.D)
	}
}
