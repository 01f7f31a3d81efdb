package ora

import (
	"math"
	"os"
	"strings"
	"testing"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
)

func readFile(t testing.TB, name string) *design.Document {
	t.Helper()
	dir := "testdata/"
	if name == "poster.ora" {
		dir = "../../../demo/files/design/"
	}
	data, err := os.ReadFile(dir + name)
	if err != nil {
		t.Fatal(err)
	}
	doc, err := Read(name, data, Options{})
	if err != nil {
		t.Fatal(err)
	}
	return doc
}

func named(t testing.TB, doc *design.Document, name string) *design.Element {
	t.Helper()
	for _, e := range doc.All() {
		if e.Name == name {
			return e
		}
	}
	t.Fatalf("there is no layer %q", name)
	return nil
}

// truth is what a layer was drawn as. The files were written by another program; the layers drawn by another renderer.
type truth struct {
	file, layer string
	box         geom.Rect
	form        geom.FormKind
	radius      float64
	fill        []string // colours of the stops
	stops       []float64
	angle       float64
	shadow      string
	picture     bool
}

var truths = []truth{
	{file: "layers.ora", layer: "Paper", box: geom.Rect{W: 400, H: 300}, fill: []string{"#f5f8fa"}},
	{file: "layers.ora", layer: "Sea band", box: geom.Rect{X: 160, Y: 20, W: 220, H: 60},
		fill: []string{"#0b6e8f", "#10243a"}, stops: []float64{0, 1}, angle: 90},
	{file: "layers.ora", layer: "Ticket button", box: geom.Rect{X: 24, Y: 20, W: 120, H: 48}, form: geom.FormRound,
		radius: 12, fill: []string{"#0b6e8f"}},
	{file: "layers.ora", layer: "Poster", box: geom.Rect{X: 160, Y: 100, W: 160, H: 120}, form: geom.FormRound, radius: 16,
		fill: []string{"#ffd9a0", "#e4572e", "#10243a"}, stops: []float64{0, 0.4, 1}, angle: 126.8699},
	{file: "layers.ora", layer: "Card", box: geom.Rect{X: 30, Y: 102, W: 100, H: 80}, form: geom.FormRound, radius: 10,
		fill: []string{"#ffffff"}, shadow: "0 6px 16px rgb(16 36 58 / 0.3)"},
	{file: "layers.ora", layer: "Sun", box: geom.Rect{X: 36, Y: 221, W: 48, H: 48}, form: geom.FormCircle, radius: 24,
		fill: []string{"#ffc857"}},
	{file: "layers.ora", layer: "Waves", picture: true},
	{file: "poster.ora", layer: "Sky", box: geom.Rect{W: 420, H: 594}, fill: []string{"#0c6f91", "#bfe0ea", "#f5f8fa"},
		stops: []float64{0, 0.55, 1}, angle: 180},
	{file: "poster.ora", layer: "Sun", box: geom.Rect{X: 290, Y: 86, W: 92, H: 92}, form: geom.FormCircle, radius: 46,
		fill: []string{"#ffc857"}},
	{file: "poster.ora", layer: "Sea", box: geom.Rect{Y: 330, W: 420, H: 264}, fill: []string{"#0b6e8f"}},
	{file: "poster.ora", layer: "Card", box: geom.Rect{X: 40, Y: 418, W: 340, H: 120}, form: geom.FormRound, radius: 16,
		fill: []string{"#ffffff"}, shadow: "0 6px 16px rgb(16 36 58 / 0.3)"},
	{file: "poster.ora", layer: "Badge", box: geom.Rect{X: 264, Y: 442, W: 92, H: 36}, form: geom.FormRound, radius: 18,
		fill: []string{"#e4572e", "#b93a16"}, stops: []float64{0, 1}, angle: 111.37},
	{file: "poster.ora", layer: "Stripe", box: geom.Rect{X: 64, Y: 512, W: 292, H: 6}, form: geom.FormRound, radius: 3,
		fill: []string{"#ffc857"}},
	{file: "shapes.ora", layer: "spread", box: geom.Rect{X: 60, Y: 50, W: 160, H: 90}, form: geom.FormRound, radius: 14,
		fill: []string{"#ffffff"}, shadow: "0 8px 24px 4px rgb(16 36 58 / 0.25)"},
	{file: "shapes.ora", layer: "sideways", box: geom.Rect{X: 70, Y: 60, W: 120, H: 80}, fill: []string{"#e4572e"},
		shadow: "-6px 3px 10px rgb(0 0 0 / 0.4)"},
	{file: "shapes.ora", layer: "pill", box: geom.Rect{X: 50, Y: 80, W: 180, H: 44}, form: geom.FormRound, radius: 22,
		fill: []string{"#0b6e8f", "#bfe0ea"}, stops: []float64{0, 1}, angle: 90, shadow: "0 4px 12px rgb(16 36 58 / 0.35)"},
	{file: "shapes.ora", layer: "slanted", box: geom.Rect{X: 20, Y: 20, W: 280, H: 200},
		fill: []string{"#10243a", "#0b6e8f", "#bfe0ea", "#ffffff"}, stops: []float64{0, 0.3, 0.7, 1}, angle: 60},
	{file: "shapes.ora", layer: "veil", box: geom.Rect{X: 30, Y: 30, W: 200, H: 120}, form: geom.FormRound, radius: 8,
		fill: []string{"rgb(16 36 58 / 0.5)"}},
	{file: "shapes.ora", layer: "glow", picture: true},
	{file: "shapes.ora", layer: "radial", picture: true},
	{file: "shapes.ora", layer: "turned", picture: true},
	{file: "shapes.ora", layer: "haze", picture: true},
	{file: "shapes.ora", layer: "conic", picture: true},
	{file: "shapes.ora", layer: "notch", picture: true},
	{file: "poster.ora", layer: "Waves", picture: true},
	{file: "poster.ora", layer: "Ferry", picture: true},
	{file: "poster.ora", layer: "Words", picture: true},
	{file: "poster.ora", layer: "Title", picture: true},
}

func near(a, b, tol float64) bool { return math.Abs(a-b) <= tol }

func nearRect(a, b geom.Rect, tol float64) bool {
	return near(a.X, b.X, tol) && near(a.Y, b.Y, tol) && near(a.Right(), b.Right(), tol) && near(a.Bottom(), b.Bottom(),
		tol)
}

// nearColour reports whether two colours are alike within tol 255ths on each channel.
func nearColour(a color.Color, want string, tol float64) bool {
	b, err := color.Parse(want)
	if err != nil {
		return false
	}
	x, y := a.SRGB(), b.SRGB()
	for i := range x {
		if !near(x[i]*255, y[i]*255, tol) {
			return false
		}
	}
	return near(a.Alpha*255, b.Alpha*255, tol)
}

func TestLayersAreRecovered(t *testing.T) {
	docs := map[string]*design.Document{}
	for _, c := range truths {
		if docs[c.file] == nil {
			docs[c.file] = readFile(t, c.file)
		}
		e := named(t, docs[c.file], c.layer)
		if c.picture {
			if e.Kind != design.Image || len(e.Fills) > 0 {
				t.Errorf("%s, %s: claimed to be a %s, %v", c.file, c.layer, e.Kind, e.Fills)
			}
			continue
		}
		if e.Kind != design.Box {
			t.Errorf("%s, %s: not recognised", c.file, c.layer)
			continue
		}
		if !nearRect(e.Geometry.Value, c.box, 1) {
			t.Errorf("%s, %s: box %v, wanted %v", c.file, c.layer, e.Geometry.Value, c.box)
		}
		if !near(e.Radii.Value.X[0], c.radius, 1) || e.Form.Value != c.form &&
			(c.form != "" || e.Form.Value != geom.FormRect) || e.Radii.Set && !e.Radii.Value.Uniform() {
			t.Errorf("%s, %s: %s, radii %v; wanted %q, %g", c.file, c.layer, e.Form.Value, e.Radii.Value, c.form, c.radius)
		}
		checkFill(t, &c, e)
		checkShadow(t, &c, e)
	}
}

func checkFill(t *testing.T, c *truth, e *design.Element) {
	p := e.Fills[0].Value
	if e.Fills[0].Origin != design.Estimated {
		t.Errorf("%s: the fill is %s", c.layer, e.Fills[0].Origin)
	}
	if p.Kind == design.Solid {
		if len(c.fill) != 1 || !nearColour(p.Color, c.fill[0], 2) {
			t.Errorf("%s, %s: fill %s, wanted %v", c.file, c.layer, p.Color, c.fill)
		}
		return
	}
	angle, stops := p.Gradient.Line(e.Geometry.Value, e.Matrix)
	text, _ := p.CSS(e.Geometry.Value, e.Matrix)
	if len(stops) != len(c.stops) || !near(angle, c.angle, 1) {
		t.Errorf("%s, %s: %s, wanted %g° and %d stops", c.file, c.layer, text, c.angle, len(c.stops))
		return
	}
	for i, s := range stops {
		if !near(s.Offset, c.stops[i], 0.01) || !nearColour(s.Color, c.fill[i], 2) {
			t.Errorf("%s, %s: stop %d is %s at %.4f, wanted %s at %g", c.file, c.layer, i, s.Color, s.Offset, c.fill[i],
				c.stops[i])
		}
	}
}

func checkShadow(t *testing.T, c *truth, e *design.Element) {
	if len(e.Shadows) == 0 != (c.shadow == "") {
		t.Errorf("%s, %s: shadows %v, wanted %q", c.file, c.layer, e.Shadows, c.shadow)
		return
	}
	for _, f := range e.Shadows {
		have := f.Value
		want := parseShadow(t, c.shadow)
		if !near(have.X, want.X, 1) || !near(have.Y, want.Y, 1) || !near(have.Blur, want.Blur, 1) ||
			!near(have.Spread, want.Spread, 1) || !nearColour(have.Color, want.Color.CSS(), 2) {
			t.Errorf("%s, %s: shadow %s, wanted %s", c.file, c.layer, have.CSS(), c.shadow)
		}
		if f.Origin != design.Estimated || f.Error <= 0 {
			t.Errorf("%s: a shadow read off pixels is an estimate with its error", c.layer)
		}
	}
}

// parseShadow reads "x y blur [spread] color".
func parseShadow(t *testing.T, s string) (out design.Shadow) {
	head, col, _ := strings.Cut(s, " rgb(")
	var err error
	if out.Color, err = color.Parse("rgb(" + col); err != nil {
		t.Fatal(err)
	}
	for i, w := range strings.Fields(head) {
		l, err := css.ParseLength(w)
		if err != nil {
			t.Fatal(err)
		}
		*[]*float64{&out.X, &out.Y, &out.Blur, &out.Spread}[i] = l.Value
	}
	return out
}
