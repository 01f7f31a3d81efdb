package svg

import (
	"fmt"
	"math"
	"testing"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// lines describes the lines of a text: words, place of the baseline, width rounded.
func lines(e *design.Element) string {
	s := ""
	for _, l := range e.Words.Lines {
		s += fmt.Sprintf("[%s %g,%g]", l.Words, math.Round(l.Baseline.X*10)/10, math.Round(l.Baseline.Y*10)/10)
	}
	return s
}

func TestTextLayout(t *testing.T) {
	for _, c := range []struct{ name, content, want string }{
		{"x and y", `<text id="x" x="10" y="20">one</text>`, "[one 10,20]"},
		{"on the tspan", `<text id="x"><tspan x="10" y="20">one</tspan></text>`, "[one 10,20]"},
		{"the tspan's win", `<text id="x" x="1" y="2"><tspan x="10" y="20">one</tspan></text>`, "[one 10,20]"},
		{"dx and dy", `<text id="x" x="10" y="20" dx="5" dy="6">one</text>`, "[one 15,26]"},
		{"in em", `<text id="x" x="1em" y="2em" font-size="10">one</text>`, "[one 10,20]"},
		{"in per cent", `<text id="x" x="50%" y="50%">one</text>`, "[one 200,150]"},
		{"two lines", `<text id="x" y="20"><tspan x="10">one</tspan><tspan x="10" dy="24">two</tspan></text>`,
			"[one 10,20][two 10,44]"},
		{"runs on one line", `<text id="x" x="10" y="20"><tspan>one</tspan> <tspan fill="red">two</tspan></text>`,
			"[one two 10,20]"},
		{"far apart on one line", `<text id="x" y="20"><tspan x="10">one</tspan><tspan x="200">two</tspan></text>`,
			"[one two 10,20]"},
		{"moved by its group", `<g transform="translate(100 50)"><text id="x" x="10" y="20">one</text></g>`, "[one 110,70]"},
		{"scaled", `<g transform="scale(2)"><text id="x" x="10" y="20">one</text></g>`, "[one 20,40]"},
		{"empty", `<text id="x" x="10" y="20"></text>`, ""},
		{"only spaces", `<text id="x" x="10" y="20">   </text>`, ""},
		{"inner display none", `<text id="x" x="10" y="20">one<tspan display="none"> two</tspan></text>`, "[one 10,20]"},
		{"inner link", `<text id="x" x="10" y="20">one <a href="#"><tspan>two</tspan></a></text>`, "[one two 10,20]"},
		{"each letter placed", `<text id="x" x="10 30 50" y="20">abc</text>`, "[a b c 10,20]"},
	} {
		if got := lines(byID(t, draw(t, c.content), "x")); got != c.want {
			t.Errorf("%s: %s, want %s", c.name, got, c.want)
		}
	}
}

func TestTextRuns(t *testing.T) {
	e := byID(t, draw(t,
		`<text id="x" y="20" font-family="Hanken Grotesk" font-size="16" fill="#10243a">Some <tspan font-weight="700" fill="red">bold</tspan> words</text>`), "x")
	if len(e.Words.Runs) != 3 {
		t.Fatalf("%d runs", len(e.Words.Runs))
	}
	r := e.Words.Runs[1]
	if r.Words != "bold" || r.Weight != 700 || r.Fill.Color.CSS() != "#ff0000" || r.Size != 16 {
		t.Errorf("%+v", r)
	}
	if e.Words.Weight.Value != 400 || e.Fills[0].Value.Color.CSS() != "#10243a" {
		t.Errorf("the first run does not stand for the whole: %+v", e.Words)
	}
}

func TestTextBoxes(t *testing.T) {
	d := draw(t, `<text id="a" x="10" y="50" font-family="Hanken Grotesk" font-size="20">Ag</text>
		<text id="b" x="10" y="50" font-family="Hanken Grotesk" font-size="20" text-rendering="geometricPrecision">Ag</text>
		<text id="c" x="10" y="50" font-family="Hanken Grotesk" font-size="20" dominant-baseline="hanging">Ag</text>
		<text id="d" x="10" y="50" font-family="Hanken Grotesk" font-size="20" textLength="100">Ag</text>
		<text id="e" x="10" y="50" font-family="Hanken Grotesk" font-size="20" stroke="red" stroke-width="4">Ag</text>`)
	a := byID(t, d, "a").Geometry.Value
	if a.Y != 30 || a.H != 26 {
		t.Errorf("cells from %g, %g high; want 30, 26: ascent 20, descent 6", a.Y, a.H)
	}
	if b := byID(t, d, "b").Geometry.Value; b.Y != 31 || b.H != 26 {
		t.Errorf("set by its outlines: %v", b)
	}
	if c := byID(t, d, "c").Geometry.Value; c.Y <= 40 {
		t.Errorf("hanging from its baseline: %v", c)
	}
	if dd := byID(t, d, "d").Geometry.Value; math.Abs(dd.W-100) > 0.1 {
		t.Errorf("stretched to 100: %v", dd)
	}
	painted := byID(t, d, "a").Painted.Value
	if painted.Y < 33 || painted.Bottom() < 53 || painted.Bottom() > 57 {
		t.Errorf("the ink lies in %v", painted)
	}
	if e := byID(t, d, "e").Painted.Value; math.Abs(painted.X-e.X-2) > 0.01 {
		t.Errorf("a stroke of 4 px makes the ink begin at %g, not 2 px before %g", e.X, painted.X)
	}
}

// Where letters stand for text-anchor, with textLength, dx and chunks: as SVG 2 adds them up.
func TestAnchorsAddUp(t *testing.T) {
	begin := func(text string) (x []float64) {
		e := byID(t, draw(t,
			`<g font-family="Hanken Grotesk" font-size="20" letter-spacing="5" text-rendering="geometricPrecision">`+text+`</g>`), "x")
		e.Paint.Walk(geom.Identity, func(p *design.PaintNode, m geom.Matrix) {
			for _, g := range p.Glyphs {
				x = append(x, m.Apply(g.Origin).X)
			}
		})
		return x
	}
	plain := begin(`<text id="x" y="20">Pier</text>`)
	// all of it, the spacing after the last letter too
	end := begin(`<text id="x" y="20" text-anchor="end">Pier</text>`)[0]
	for _, c := range []struct {
		name, text string
		letter     int
		want       float64
	}{
		{"middle", `<text id="x" x="200" y="20" text-anchor="middle">Pier</text>`, 0, 200 + end/2},
		{"textLength in the middle", `<text id="x" x="200" y="20" text-anchor="middle" textLength="180">Pier</text>`, 0, 110},
		{"textLength at the end", `<text id="x" x="200" y="20" text-anchor="end" textLength="180">Pier</text>`, 0, 20},
		{"squeezed at the end",
			`<text id="x" x="200" y="20" text-anchor="end" textLength="20" lengthAdjust="spacingAndGlyphs">Pier</text>`, 0, 180},
		{"textLength begins anew at an x", `<text id="x" y="20" textLength="180">Pi<tspan x="90">er</tspan></text>`, 2, 90},
		{"the first dx is no part of the width", `<text id="x" x="200" y="20" dx="30" text-anchor="end">Pier</text>`, 0,
			230 + end},
		{"a later dx is", `<text id="x" x="200" y="20" text-anchor="end">Pi<tspan dx="30">er</tspan></text>`, 0, 170 + end},
		{"a chunk goes on where the pen was",
			`<text id="x" x="200" y="20" text-anchor="end">Pi<tspan y="40">er</tspan></text>`, 2, 200 + plain[2] +
				(end + plain[2])},
	} {
		if got := begin(c.text)[c.letter]; math.Abs(got-c.want) > 0.05 {
			t.Errorf("%s: letter %d at %.2f, want %.2f", c.name, c.letter, got, c.want)
		}
	}
}

func TestFontsAreTold(t *testing.T) {
	d := draw(t, `<text y="9" font-family="Hanken Grotesk">a</text><text y="9" font-family="Hanken Grotesk" font-weight="600">a</text><text y="9" font-family="Hanken Grotesk">b</text>
		<text y="9" font-family="Nowhere Sans, Fraunces" font-weight="600">a</text><text y="9" font-family="serif">a</text>`)
	got := ""
	for _, f := range d.Fonts {
		got += fmt.Sprintf("%s %d %v %s|", f.Family, f.Weight, f.Found, f.File)
	}
	want := "Hanken Grotesk 400 true HankenGrotesk-Regular.ttf|Hanken Grotesk 600 true " +
		"HankenGrotesk-SemiBold.ttf|Nowhere Sans 600 true Fraunces-SemiBold.ttf|serif 400 true |"
	if got != want {
		t.Errorf("%s\nwant %s", got, want)
	}
	if len(d.Warnings) != 1 {
		t.Errorf("warnings %v", d.Warnings)
	}
}

func TestImages(t *testing.T) {
	const png = `data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==`
	for _, c := range []struct{ name, attrs, want string }{
		{"given", `x="5" y="6" width="40" height="20"`, "5, 6  40 × 20 px"},
		{"its own size", ``, "0, 0  1 × 1 px"},
		{"by its width", `width="30"`, "0, 0  30 × 30 px"},
		{"by its height", `height="30"`, "0, 0  30 × 30 px"},
		{"turned", `width="10" height="10" transform="rotate(45)"`, "-7.07, 0  14.14 × 14.14 px"},
	} {
		e := byID(t, draw(t, `<image id="x" href="`+png+`" `+c.attrs+`/>`), "x")
		if got := factText(e, "geometry box"); got != c.want {
			t.Errorf("%s: %s, want %s", c.name, got, c.want)
		}
		if e.Kind != design.Image || e.Bitmap.Value.Width != 1 {
			t.Errorf("%s: %s %+v", c.name, e.Kind, e.Bitmap.Value)
		}
	}
	for _, href := range []string{"", "data:", "data:,x", "data:image/png;base64,!!!", "data:image/svg+xml,<page/>",
		"http://127.0.0.1/x.png", "/etc/passwd"} {
		d := draw(t, `<image id="x" width="9" height="9" href="`+escaped(href)+`"/>`)
		if len(d.Warnings) != 1 || byID(t, d, "x").Geometry.Value.W != 9 {
			t.Errorf("%q: warnings %v", href, d.Warnings)
		}
	}
}

func escaped(s string) string {
	out := ""
	for _, r := range s {
		if r == '<' {
			out += "&lt;"
		} else {
			out += string(r)
		}
	}
	return out
}

func TestSwitch(t *testing.T) {
	d := draw(t, `<switch><rect id="de" systemLanguage="de" width="1" height="1"/><rect id="en" systemLanguage="en-GB, fr" width="1" height="1"/><rect id="other" width="1" height="1"/></switch>
		<switch><foreignObject requiredExtensions="x"/><g id="fallback"/></switch>`)
	got := ""
	for _, e := range d.All() {
		got += e.ID + " "
	}
	if got != " en  fallback " {
		t.Errorf("%q", got)
	}
}

func TestStatedIntentIsKept(t *testing.T) {
	e := byID(t, draw(t,
		`<g id="x" style="display:flex; gap:8px; --c:red; fill:var(--c); transition:all 1s; opacity:1; stroke:red"/>`), "x")
	got := ""
	for _, d := range e.Stated {
		got += d.Prop + ":" + d.Value + ";"
	}
	if got != "display:flex;gap:8px;--c:red;fill:var(--c);transition:all 1s;" {
		t.Error(got)
	}
}

func TestUseTakesItsStyleFromWhereItStands(t *testing.T) {
	d := draw(t, `<defs><rect id="r" width="9" height="9"/></defs><use id="a" href="#r" fill="red"/><g fill="blue"><use id="b" href="#r"/></g>`)
	for id, want := range map[string]string{"a": "#ff0000", "b": "#0000ff"} {
		if got := factText(byID(t, d, id).Children[0], "fill"); got != want {
			t.Errorf("#%s is filled with %s, want %s", id, got, want)
		}
	}
	if n := len(d.All()); n != 5 {
		t.Errorf("%d elements, want two uses with their contents and a group", n)
	}
}

func TestMarkedBySelector(t *testing.T) {
	d := readAll(t, `<svg xmlns="http://www.w3.org/2000/svg"><g id="a" data-component="card"><rect id="b" width="1" height="1"/></g></svg>`)
	b := byID(t, d, "b")
	if b.Component() != "card" || b.Ancestor(func(e *design.Element) bool { return e.Marks.Component != "" }).ID != "a" {
		t.Errorf("%q", b.Component())
	}
	if c := b.Container(); c != (geom.Rect{W: 300, H: 150}) {
		t.Errorf("lies in %v, want the screen", c)
	}
}

// TestCaseIsChangedByLanguage holds letters against what CSS says of them.
func TestCaseIsChangedByLanguage(t *testing.T) {
	for _, c := range []struct{ attrs, in, want string }{
		{`style="text-transform:uppercase"`, "Straße", "STRASSE"},
		{`style="text-transform:uppercase"`, "ﬁsh", "FISH"},
		{`style="text-transform:uppercase" xml:lang="tr"`, "istanbul", "İSTANBUL"},
		{`style="text-transform:lowercase"`, "ΟΔΟΣ", "οδος"},
		{`style="text-transform:lowercase" lang="tr"`, "IĞDIR", "ığdır"},
		{`style="text-transform:capitalize"`, "sail to éire", "Sail To Éire"},
		{`style="text-transform:capitalize"`, "ǆep", "ǅep"},
	} {
		d, err := Read("a.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg"><text `+c.attrs+">"+c.in+"</text></svg>"),
			Options{})
		if err != nil {
			t.Fatal(err)
		}
		if got := d.All()[len(d.All())-1].Words.Words; got != c.want {
			t.Errorf("%s of %q is %q, want %q", c.attrs, c.in, got, c.want)
		}
	}
}
