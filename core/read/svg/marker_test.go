package svg

import (
	"math"
	"strings"
	"testing"

	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/geom/pathdata"
)

func TestVertices(t *testing.T) {
	p, err := pathdata.Parse("M0 0L10 0L10 10M20 0A10 10 0 0 1 40 0L50 10Z")
	if err != nil {
		t.Fatal(err)
	}
	want := []vertex{{geom.Point{}, 0}, {geom.Point{X: 10}, 45}, {geom.Point{X: 10, Y: 10}, 90}}
	all := vertices(p)
	for i, w := range want {
		if v := all[i]; v.at != w.at || math.Abs(v.angle-w.angle) > 1e-9 {
			t.Errorf("vertex %d: %v, wanted %v", i, v, w)
		}
	}
	if len(all) != 7 { // of the arc only its ends, and the closing line ends where the subpath begins
		t.Errorf("%d vertices: %v", len(all), all)
	}
}

func TestMarkersArePainted(t *testing.T) {
	d := draw(t, `<defs><marker id="m" viewBox="0 0 10 10" refX="10" refY="5" markerWidth="4" markerHeight="4" orient="auto"><path d="M0 0L10 5L0 10z" fill="#e4572e"/></marker></defs>
		<path id="x" d="M10 10H50V40" fill="none" stroke="#000" stroke-width="2" marker-end="url(#m)" marker-mid="url(#m)"/>
		<line id="y" x1="0" y1="0" x2="9" y2="9" stroke="#000" marker-start="url(#gone)"/>`)
	e := byID(t, d, "x")
	if len(e.Paint.Children) != 2 {
		t.Fatalf("%d markers", len(e.Paint.Children))
	}
	end := e.Paint.Children[1]
	tip := end.Matrix.Apply(end.Children[0].Matrix.Apply(geom.Point{X: 10, Y: 5}))
	if tip.Sub(geom.Point{X: 50, Y: 40}).Len() > 1e-9 {
		t.Errorf("the tip of the arrow is at %v", tip)
	}
	if p := e.Painted.Value; math.Abs(p.Right()-54) > 1e-6 || math.Abs(p.X-10) > 1e-6 || math.Abs(p.Y-1.5147) > 1e-3 ||
		math.Abs(p.Bottom()-40) > 1e-6 {
		t.Errorf("painted box %v is not that of line and arrows", p)
	}
	if len(d.Warnings) != 1 || !strings.Contains(d.Warnings[0].Msg, "no marker") {
		t.Errorf("warnings %v", d.Warnings)
	}
}

func TestTextOnAPath(t *testing.T) {
	d := draw(t, `<path id="p" d="M100 100V20"/><text id="x" font-size="10"><textPath href="#p" startOffset="20">Up</textPath></text><text id="gone"><textPath href="#q">Lost</textPath></text>`)
	e := byID(t, d, "x")
	b := e.Geometry.Value
	if e.Words.Words != "Up" || b.Bottom() > 80.01 || b.Bottom() < 79 || b.Right() > 104 || b.H < b.W {
		t.Errorf("%q in %v, wanted to stand upwards from 100, 80", e.Words.Words, b)
	}
	if len(e.Paint.Children) != 2 {
		t.Errorf("%d painted letters", len(e.Paint.Children))
	}
	if w := byID(t, d, "gone").Words.Words; w != "" || len(d.Warnings) != 1 {
		t.Errorf("%q, warnings %v", w, d.Warnings)
	}
}

func TestForeignObjectIsReadAsText(t *testing.T) {
	d := draw(t, `<style>.note b{color:#e4572e}</style><switch><foreignObject id="x" x="10" y="20" width="120" height="60"><div xmlns="http://www.w3.org/1999/xhtml" class="note" style="font:16px/20px Go;color:#10243a;text-align:right">Seats are <b>free</b> for
		children.<br/>Bring a coat<p>now</p><script>no()</script></div></foreignObject><text>instead</text></switch>`)
	e := byID(t, d, "x")
	if e.Kind != design.Text || e.Words.Words != "Seats are free for children.\nBring a coat\nnow" {
		t.Fatalf("%s %q", e.Kind, e.Words.Words)
	}
	if n := len(e.Words.Lines); n != 4 || e.Words.Lines[1].Baseline.Y-e.Words.Lines[0].Baseline.Y != 20 {
		t.Errorf("lines %+v", e.Words.Lines)
	}
	if w := e.Words; w.Size.Value != 16 || w.LineHeight.Value != 20 || w.Align.Value != "right" ||
		e.Fills[0].Value.Color.CSS() != "#10243a" {
		t.Errorf("%+v", w)
	}
	if len(e.Parent.Children) != 1 {
		t.Error("of a switch only what is shown is read")
	}
}

func TestSqueezedText(t *testing.T) {
	d := draw(t, `<text id="x" x="10" y="50" font-size="20" textLength="40" lengthAdjust="spacingAndGlyphs">Squeezed</text><text id="y" x="10" y="90" font-size="20" textLength="140">Spread</text>`)
	for id, want := range map[string]float64{"x": 40, "y": 140} {
		if b := byID(t, d, id).Geometry.Value; math.Abs(b.W-want) > 0.02 || b.X != 10 {
			t.Errorf("%s: %v", id, b)
		}
	}
}

func TestDrawingInsideADrawing(t *testing.T) {
	const inner = `data:image/svg+xml,%3Csvg xmlns='http://www.w3.org/2000/svg' width='60' height='40'%3E%3Crect width='60' height='40'/%3E%3C/svg%3E`
	d := draw(t, `<image id="x" x="5" y="5" width="30" href="`+inner+`"/>`)
	e := byID(t, d, "x")
	if e.Kind != design.Image || e.Geometry.Value != (geom.Rect{X: 5, Y: 5, W: 30, H: 20}) || e.Bitmap.Value.Width != 60 ||
		len(d.Warnings) > 0 {
		t.Errorf("%v %+v %v", e.Geometry.Value, e.Bitmap.Value, d.Warnings)
	}
	if len(d.All()) != 1 || len(e.Paint.Children) != 1 {
		t.Error("its parts are paint, not elements")
	}
	load := func(string) ([]byte, error) { // holds itself
		return []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><image width="9" height="9" href="x.svg"/></svg>`), nil
	}
	src, _ := load("")
	if _, err := Read("x.svg", src, Options{Load: load}); err != nil {
		t.Error(err)
	}
}
