package e2e

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"archetyp/browser"
	"archetyp/core/code"
	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/diff"
	"archetyp/core/geom"
	"archetyp/core/paint/raster"
	"archetyp/core/read/svg"
)

// TestCSSLooksLikeTheDrawing builds elements as one element with the rules written for them, and compares what a browser
// shows with the drawing: drawn cases of every property, and every box of the demo.
func TestCSSLooksLikeTheDrawing(t *testing.T) {
	t.Parallel()
	b := openBrowser(t)
	sel, err := css.ParseSelector("#x")
	if err != nil {
		t.Fatal(err)
	}
	sum, n := 0.0, 0
	check := func(name string, e *design.Element) {
		like, noted := cssLikeness(t, b, e)
		if noted {
			return // CSS has no such thing, and a comment says so
		}
		if sum, n = sum+like, n+1; like < 0.98 {
			t.Errorf("%s: %.1f %%\n%s", name, 100*like, code.Print(code.CSS(e, code.Options{Sizes: true})))
		}
	}
	for _, c := range strings.Split(read(t, "testdata/css-cases.txt"), "\n\n")[1:] {
		name, content, _ := strings.Cut(strings.TrimSpace(c), "\n")
		d, err := svg.Read("case.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="240" height="200">`+content+`</svg>`), svg.Options{})
		if err != nil {
			t.Fatal(name, err)
		}
		check(name, d.Query(sel)[0])
	}
	if n < 60 {
		t.Errorf("%d cases", n)
	}
	for _, s := range []string{"booking", "timetable", "components"} {
		d, err := svg.Read(s, []byte(read(t, demoFiles(t), "design", s+".svg")), svg.Options{})
		if err != nil {
			t.Fatal(err)
		}
		for _, e := range d.All() {
			if e.Kind == design.Box && !e.Hidden && !e.Casts && e.Matrix.Upright() && e.Painted.Value.W < 1000 && onPixels(e) {
				check(s+" "+e.Selector(), e)
			}
		}
	}
	t.Logf("%d elements, mean %.2f %%", n, 100*sum/float64(n))
}

// onPixels reports whether an element's box lies on whole px: browsers move others there.
func onPixels(e *design.Element) bool {
	b := e.Layout.Value
	return b == geom.Rect{X: math.Round(b.X), Y: math.Round(b.Y), W: math.Round(b.W), H: math.Round(b.H)}
}

// cssLikeness is how like its drawing an element is that has the rules written for it; noted is true where they have
// comments about what CSS cannot do.
func cssLikeness(t testing.TB, b *browser.Browser, e *design.Element) (like float64, noted bool) {
	t.Helper()
	blocks := code.CSS(e, code.Options{Sizes: true})
	if len(blocks[0].Comments) > 0 {
		return 0, true
	}
	face := e.Face()
	box, _ := face.UnturnedBorder()
	if e.Line() {
		box = e.Painted.Value
	}
	if frame, stroke := e.Border(); frame != nil {
		box = box.Grow(stroke.Value.Out())
	}
	at := face.Geometry.Value.Centre()
	if e.Line() || face.Matrix.Upright() {
		at = box.Centre()
	}
	view := design.WholePixels(e.Painted.Value).Grow(24)
	blocks[0].Selector = "#x"
	page := fmt.Sprintf(`data:text/html;charset=utf-8,<!doctype html><style>%s
body { margin: 0 } #x { position: absolute; left: %gpx; top: %gpx }</style><div id=x></div>`, code.Print(blocks[:1]),
		at.X-box.W/2-view.X, at.Y-box.H/2-view.Y)
	page = strings.NewReplacer("#", "%23", "%;", "%25;", "% ", "%25 ", "%)", "%25)", "%,", "%25,", "\n", " ").Replace(page)
	if err := b.Show(page, int(view.W), int(view.H), 1); err != nil {
		t.Fatal(err)
	}
	shown, err := b.Picture()
	if err != nil {
		t.Fatal(err)
	}
	drawn, err := raster.Render(design.Alone(e), raster.Options{View: geom.Rect{X: view.X, Y: view.Y, W: view.W, H: view.H},
		Density: 1, Background: &color.White})
	if err != nil {
		t.Fatal(err)
	}
	like, ok := diff.Likeness(drawn, shown, drawn.Rect, white, 16)
	if !ok {
		like = 1
	}
	return like, false
}
