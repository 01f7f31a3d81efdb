package svg

import (
	"math"
	"math/rand"
	"strings"
	"testing"

	"archetyp/core/color"
	"archetyp/core/geom"
	"archetyp/core/geom/pathdata"
	reader "archetyp/core/read/svg"
)

func written(t testing.TB, content string, o Options) string {
	t.Helper()
	d, err := reader.Read("t.svg",
		[]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="64" height="64">`+content+`</svg>`), reader.Options{})
	if err != nil {
		t.Fatal(err)
	}
	out := string(Write(d.Screens[0].Paint, geom.Rect{W: 64, H: 64}, o))
	_, body, _ := strings.Cut(out, `viewBox="0 0 64 64"`)
	return strings.TrimSuffix(strings.TrimPrefix(strings.TrimSpace(body), ">"), "</svg>")
}

func TestWriteSaysNothingTwice(t *testing.T) {
	sea := color.Color{Space: color.SRGB, C: [3]float64{0, 0, 1}, Alpha: 1}
	for content, want := range map[string]string{
		`<g id="Layer 1" data-name="x"><g><path d="M 10.000 20 L 30 20 L 30 40 Z" style="fill:#ff0000;stroke:none"/></g></g>`: `<path d="M10 20h20v20z" fill="red"/>`,
		`<rect x="1" y="2" width="3" height="4" rx="0" fill="#112233"/>`:                                                      `<rect x="1" y="2" width="3" height="4" fill="#123"/>`,
		`<g transform="translate(4 5)"><circle cx="1" cy="1" r="2"/></g>`:                                                     `<circle cx="5" cy="6" r="2"/>`,
		`<g transform="scale(2)"><path d="M1 1L4 5" stroke="#00f"/></g>`:                                                      `<path d="M2 2l6 8" stroke="#00f" stroke-width="2"/>`,
		`<path d="M1 1h9v9z" fill="none"/><rect width="0" height="3"/><g opacity="0"><rect width="9" height="9"/></g>`:        `/>`,
		`<clipPath id="c"><rect width="64" height="64"/></clipPath><g clip-path="url(#c)"><path d="M1 1h9v9z"/></g>`:          `<path d="M1 1h9v9z"/>`,
		`<path d="M1 1h9v9z" fill="red"/><path d="M5 1h9v9z" fill="red"/>`:                                                    `fill="red"><path d="M1 1h9v9z"/><path d="M5 1h9v9z"/>`,
		`<g opacity=".5"><path d="M1 1h9v9z"/></g>`:                                                                           `<path d="M1 1h9v9z" opacity=".5"/>`,
	} {
		got := written(t, content, Options{})
		if got != want {
			t.Errorf("%s\nis written %s\nnot        %s", content, got, want)
		}
	}
	if got := written(t, `<path d="M1 1h9v9z" fill="#00f"/><path d="M5 1h9v9z" fill="red"/>`,
		Options{Current: &sea}); !strings.Contains(got, `fill="currentColor"`) {
		t.Error(got)
	}
	if got := written(t,
		`<linearGradient id="long-name"><stop stop-color="red"/><stop offset="1"/></linearGradient><rect width="9" height="9" fill="url(#long-name)"/>`, Options{Prefix: "p-"}); !strings.Contains(got, `url(#p-a)`) || strings.Contains(got, "long-name") {
		t.Error(got)
	}
}

// TestRootSaysNothingForDefinitions: what masks and patterns hold would take over what the root element says.
func TestRootSaysNothingForDefinitions(t *testing.T) {
	got := written(t, `<mask id="m"><rect width="30" height="30" fill="#fff"/><path d="M2 2h9v9z"/></mask><g fill="red"><path d="M1 1h9v9z" mask="url(#m)"/><path d="M5 1h9v9z" opacity=".9"/></g>`, Options{})
	if strings.HasPrefix(got, " fill") {
		t.Error(got)
	}
}

// TestPathDataComesBack writes random paths and reads them again.
func TestPathDataComesBack(t *testing.T) {
	r := rand.New(rand.NewSource(6))
	v := func() float64 { return math.Round(r.Float64()*2e4)/100 - 100 }
	for range 400 {
		p := &geom.Path{}
		p.MoveTo(v(), v())
		for range r.Intn(12) + 1 {
			switch r.Intn(7) {
			case 0:
				p.LineTo(v(), v())
			case 1:
				p.LineTo(p.Last().X, v())
			case 2:
				p.QuadTo(v(), v(), v(), v())
			case 3:
				p.CubicTo(v(), v(), v(), v(), v(), v())
			case 4:
				p.ArcTo(math.Abs(v())+5, math.Abs(v())+5, v(), r.Intn(2) == 0, r.Intn(2) == 0, v(), v())
			case 5:
				p.Close()
				p.MoveTo(v(), v())
			case 6:
				l := p.Last()
				p.CubicTo(l.X, l.Y, v(), v(), v(), v())
			}
		}
		d := PathData(p, 4)
		back, err := pathdata.Parse(d)
		if err != nil {
			t.Fatalf("%v: %s", err, d)
		}
		a, _ := p.Bounds()
		b, _ := back.Bounds()
		for _, off := range []float64{a.X - b.X, a.Y - b.Y, a.Right() - b.Right(), a.Bottom() - b.Bottom()} {
			if math.Abs(off) > 0.02 {
				t.Fatalf("off by %g: %s", off, d)
			}
		}
		if again := PathData(back, 4); len(again) > len(d)+8 {
			t.Errorf("%s\nbecame %s", d, again)
		}
	}
}

func FuzzWrite(f *testing.F) {
	f.Add(`<g opacity=".5"><rect width="9" height="9" rx="2"/><path d="M1 1a3 3 0 1 1 2 0z" stroke="red"/></g>`)
	f.Add(`<pattern id="p" width="4" height="4"><rect width="2" height="2"/></pattern><mask id="m"><rect fill="url(#p)" width="9" height="9"/></mask><rect mask="url(#m)" width="9" height="9"/>`)
	f.Fuzz(func(t *testing.T, content string) {
		d, err := reader.Read("t.svg",
			[]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="20" height="20">`+content+`</svg>`), reader.Options{})
		if err != nil {
			return
		}
		out := Write(d.Screens[0].Paint, geom.Rect{W: 20, H: 20}, Options{})
		if _, err := reader.Read("again.svg", out, reader.Options{}); err != nil {
			t.Fatalf("%v\n%s", err, out)
		}
	})
}
