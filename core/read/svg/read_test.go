package svg

import (
	"bytes"
	"compress/gzip"
	"errors"
	"fmt"
	"math"
	"os"
	"strings"
	"testing"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

func demoFonts(t testing.TB) *font.Set {
	t.Helper()
	s := font.NewSet(nil)
	for _, n := range []string{"HankenGrotesk-Regular", "HankenGrotesk-SemiBold", "HankenGrotesk-Bold",
		"Fraunces-SemiBold"} {
		data, err := os.ReadFile("../../../demo/files/fonts/" + n + ".ttf")
		if err != nil {
			t.Fatal(err)
		}
		if _, err := s.Add(data, n+".ttf"); err != nil {
			t.Fatal(err)
		}
	}
	return s
}

// draw reads a drawing of 400 by 300 px with this content.
func draw(t testing.TB, content string) *design.Document {
	t.Helper()
	return readAll(t, `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="400" height="300">`+content+`</svg>`)
}

func readAll(t testing.TB, src string) *design.Document {
	t.Helper()
	d, err := Read("test.svg", []byte(src), Options{Fonts: demoFonts(t)})
	if err != nil {
		t.Fatalf("%v\n%s", err, src)
	}
	return d
}

func byID(t testing.TB, d *design.Document, id string) *design.Element {
	t.Helper()
	for _, e := range d.All() {
		if e.ID == id {
			return e
		}
	}
	t.Fatalf("no element #%s", id)
	return nil
}

func factText(e *design.Element, name string) string {
	for _, f := range e.Facts() {
		if f.Name == name {
			if f.Note != "" {
				return f.Value + " (" + f.Note + ")"
			}
			return f.Value
		}
	}
	return ""
}

// TestFacts asks one fact of the element x of each drawing.
func TestFacts(t *testing.T) {
	for _, c := range []struct{ name, content, fact, want string }{
		{"rect", `<rect id="x" x="10" y="20" width="30" height="40"/>`, "geometry box", "10, 20  30 × 40 px"},
		{"rect in percent", `<rect id="x" x="10%" y="10%" width="50%" height="50%"/>`, "geometry box",
			"40, 30  200 × 150 px"},
		{"rect by CSS", `<style>rect{x:5px;width:50px;height:10px}</style><rect id="x" width="1"/>`, "geometry box",
			"5, 0  50 × 10 px"},
		{"circle", `<circle id="x" cx="50" cy="60" r="10"/>`, "geometry box", "40, 50  20 × 20 px"},
		{"ellipse", `<ellipse id="x" cx="50" cy="60" rx="10" ry="5"/>`, "geometry box", "40, 55  20 × 10 px"},
		{"line", `<line id="x" x1="1" y1="2" x2="11" y2="2" stroke="red"/>`, "geometry box", "1, 2  10 × 0 px"},
		{"line painted", `<line id="x" x1="1" y1="2" x2="11" y2="2" stroke="red" stroke-width="2"/>`, "painted box",
			"1, 1  10 × 2 px"},
		{"polygon", `<polygon id="x" points="0,0 10,0 10,10"/>`, "geometry box", "0, 0  10 × 10 px"},
		{"path", `<path id="x" d="M0 0C0 100 100 100 100 0"/>`, "geometry box", "0, 0  100 × 75 px"},
		{"moved", `<g transform="translate(5 6)"><rect id="x" width="10" height="10"/></g>`, "geometry box",
			"5, 6  10 × 10 px"},
		{"scaled", `<g transform="scale(2)"><rect id="x" x="1" width="10" height="10"/></g>`, "geometry box",
			"2, 0  20 × 20 px"},
		{"turned", `<rect id="x" width="10" height="10" transform="rotate(45)"/>`, "geometry box",
			"-7.07, 0  14.14 × 14.14 px"},
		{"turn told", `<rect id="x" width="10" height="10" transform="rotate(45)"/>`, "rotate", "45deg"},
		{"CSS transform", `<rect id="x" width="10" height="10" style="transform:translate(3px,4px)"/>`, "geometry box",
			"3, 4  10 × 10 px"},
		{"transform-origin", `<rect id="x" width="10" height="10" style="transform:scale(2);transform-origin:10px 10px"/>`,
			"geometry box", "-10, -10  20 × 20 px"},
		{"group", `<g id="x"><rect width="10" height="10"/><rect x="20" y="5" width="10" height="10"/></g>`, "geometry box",
			"0, 0  30 × 15 px"},
		{"nested svg", `<svg x="10" y="10" width="100" height="100" viewBox="0 0 10 10"><rect id="x" width="5" height="5"/></svg>`, "geometry box", "10, 10  50 × 50 px"},
		{"use", `<defs><rect id="r" width="10" height="10"/></defs><use id="x" href="#r" x="7" y="8"/>`, "geometry box",
			"7, 8  10 × 10 px"},
		{"use xlink", `<defs><rect id="r" width="10" height="10"/></defs><use id="x" xlink:href="#r" x="7" y="8"/>`,
			"geometry box", "7, 8  10 × 10 px"},
		{"use of a symbol", `<symbol id="s" viewBox="0 0 10 10"><rect width="5" height="5"/></symbol><use id="x" href="#s" x="10" width="20" height="20"/>`, "geometry box", "10, 0  10 × 10 px"},
		{"radius", `<rect id="x" width="100" height="50" rx="8"/>`, "border-radius", "8px"},
		{"radius of both", `<rect id="x" width="100" height="50" rx="20" ry="10"/>`, "border-radius", "20px / 10px"},
		{"radius at most half", `<rect id="x" width="100" height="20" rx="50"/>`, "border-radius", "50px / 10px"},
		{"fill by attribute", `<rect id="x" width="1" height="1" fill="#0b6e8f"/>`, "fill", "#0b6e8f"},
		{"fill by default", `<rect id="x" width="1" height="1"/>`, "fill", "#000000"},
		{"fill none", `<rect id="x" width="1" height="1" fill="none"/>`, "fill", ""},
		{"fill by class", `<style>.a{fill:red}</style><rect id="x" class="a" width="1" height="1" fill="blue"/>`, "fill",
			"#ff0000"},
		{"fill inherited", `<g fill="red"><rect id="x" width="1" height="1"/></g>`, "fill", "#ff0000"},
		{"fill by variable", `<g style="--sea:#0b6e8f"><rect id="x" width="1" height="1" style="fill:var(--sea)"/></g>`,
			"fill", "#0b6e8f"},
		{"currentColor", `<g color="red"><rect id="x" width="1" height="1" fill="currentColor"/></g>`, "fill", "#ff0000"},
		{"fill-opacity", `<rect id="x" width="1" height="1" fill="red" fill-opacity=".5"/>`, "fill", "rgb(255 0 0 / 0.5)"},
		{"fill of a missing server", `<rect id="x" width="1" height="1" fill="url(#none) blue"/>`, "fill", "#0000ff"},
		{"stroke", `<rect id="x" width="9" height="9" stroke="red" stroke-width="3"/>`, "stroke", "#ff0000"},
		{"stroke-width", `<rect id="x" width="9" height="9" stroke="red" stroke-width="3"/>`, "stroke-width", "3px"},
		{"stroke-width scaled",
			`<g transform="scale(2)"><rect id="x" width="9" height="9" stroke="red" stroke-width="3"/></g>`, "stroke-width", "6px"},
		{"stroke-width fixed",
			`<g transform="scale(2)"><rect id="x" width="9" height="9" stroke="red" stroke-width="3" vector-effect="non-scaling-stroke"/></g>`, "stroke-width", "3px"},
		{"dashes", `<path id="x" d="M0 0h9" stroke="red" stroke-dasharray="2, 3"/>`, "stroke-dasharray", "2 3"},
		{"layout box of a border",
			`<rect id="x" x="1" y="1" width="8" height="8" fill="none" stroke="red" stroke-width="2"/>`, "layout box", "0, 0  10 × 10 px"},
		{"opacity", `<rect id="x" width="9" height="9" opacity=".4"/>`, "opacity", "0.4"},
		{"blend", `<rect id="x" width="9" height="9" style="mix-blend-mode:multiply"/>`, "mix-blend-mode", "multiply"},
		{"gradient", `<linearGradient id="g"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient><rect id="x" width="9" height="9" fill="url(#g)"/>`, "fill", "linear-gradient(90deg, #ff0000 0%, #0000ff 100%)"},
		{"gradient by href",
			`<linearGradient id="a"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient><linearGradient id="g" href="#a" x2="0" y2="1"/><rect id="x" width="9" height="9" fill="url(#g)"/>`, "fill", "linear-gradient(180deg, #ff0000 0%, #0000ff 100%)"},
		{"gradient turned", `<linearGradient id="g" gradientTransform="rotate(90)"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient><rect id="x" width="9" height="9" fill="url(#g)"/>`, "fill", "linear-gradient(180deg, #ff0000 0%, #0000ff 100%)"},
		{"gradient in user space",
			`<linearGradient id="g" gradientUnits="userSpaceOnUse" x1="100" x2="200"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient><rect id="x" x="100" width="200" height="9" fill="url(#g)"/>`, "fill", "linear-gradient(90deg, #ff0000 0%, #0000ff 50%)"},
		{"one stop is a colour",
			`<linearGradient id="g"><stop stop-color="red" stop-opacity=".5"/></linearGradient><rect id="x" width="9" height="9" fill="url(#g)"/>`, "fill", "rgb(255 0 0 / 0.5)"},
		{"gradient without stops", `<linearGradient id="g"/><rect id="x" width="9" height="9" fill="url(#g)"/>`, "fill", ""},
		{"stops in order", `<linearGradient id="g"><stop offset=".5" stop-color="red"/><stop offset=".2" stop-color="blue"/></linearGradient><rect id="x" width="9" height="9" fill="url(#g)"/>`, "fill", "linear-gradient(90deg, #ff0000 50%, #0000ff 50%)"},
		{"cyclic gradient", `<linearGradient id="g" href="#h"/><linearGradient id="h" href="#g"><stop stop-color="red"/></linearGradient><rect id="x" width="9" height="9" fill="url(#g)"/>`, "fill", "#ff0000"},
		{"radial", `<radialGradient id="g"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></radialGradient><rect id="x" width="20" height="20" fill="url(#g)"/>`, "fill", "radial-gradient(closest-side, #ff0000 0%, #0000ff 100%)"},
		{"focal", `<radialGradient id="g" fx=".2"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></radialGradient><rect id="x" width="20" height="20" fill="url(#g)"/>`, "fill", "radial (a gradient with a focal point off its centre, which CSS cannot say)"},
		{"font size", `<text id="x" y="20" font-size="16">a</text>`, "font-size", "16px"},
		{"font size in em", `<g font-size="10"><text id="x" y="20" font-size="2em">a</text></g>`, "font-size", "20px"},
		{"font size in per cent", `<g font-size="10"><text id="x" y="20" font-size="150%">a</text></g>`, "font-size", "15px"},
		{"font size keyword", `<text id="x" y="20" font-size="large">a</text>`, "font-size", "18px"},
		{"font weight", `<text id="x" y="20" font-weight="bold">a</text>`, "font-weight", "700"},
		{"bolder", `<g font-weight="600"><text id="x" y="20" font-weight="bolder">a</text></g>`, "font-weight", "900"},
		{"font by shorthand", `<text id="x" y="20" style="font:italic 600 15px/20px 'Hanken Grotesk'">a</text>`,
			"line-height", "20px"},
		{"family", `<text id="x" y="20" font-family="'Hanken Grotesk', sans-serif">a</text>`, "font-family",
			`"Hanken Grotesk", sans-serif`},
		{"alignment", `<text id="x" y="20" text-anchor="middle">a</text>`, "text-align", "center"},
		{"letter spacing", `<text id="x" y="20" letter-spacing=".5">a</text>`, "letter-spacing", "0.5px"},
		{"letter spacing in em", `<text id="x" y="20" font-size="20" letter-spacing=".1em">a</text>`, "letter-spacing",
			"2px"},
		{"decoration", `<text id="x" y="20" text-decoration="underline">a</text>`, "text-decoration", "underline"},
		{"case", `<text id="x" y="20" style="text-transform:uppercase">abc</text>`, "words", `"ABC"`},
		{"spaces fold", "<text id=\"x\" y=\"20\">  one \n   two </text>", "words", `"one two"`},
		{"spaces kept", `<text id="x" y="20" xml:space="preserve">one  two</text>`, "words", `"one  two"`},
		{"runs", `<text id="x" y="20">one <tspan font-weight="700">two</tspan> three</text>`, "words", `"one two three"`},
		{"lines", `<text id="x"><tspan x="0" y="20">one</tspan><tspan x="0" y="44">two</tspan></text>`, "words",
			`"one\ntwo"`},
		{"line height of lines", `<text id="x"><tspan x="0" y="20">one</tspan><tspan x="0" y="44">two</tspan></text>`,
			"line-height", "24px"},
		{"line height by dy", `<text id="x" y="20"><tspan x="0">one</tspan><tspan x="0" dy="18">two</tspan></text>`,
			"line-height", "18px"},
		{"uneven lines have none",
			`<text id="x"><tspan x="0" y="20">a</tspan><tspan x="0" y="44">b</tspan><tspan x="0" y="60">c</tspan></text>`, "line-height", ""},
		{"corners under a stroke", `<rect id="x" x=".5" y=".5" width="49" height="19" rx="7.5" stroke="red"/>`,
			"border-radius", "8px"},
		{"square corners under a stroke", `<rect id="x" x=".5" y=".5" width="49" height="19" stroke="red"/>`, "border-radius",
			""},
		{"corners of a group",
			`<g id="x"><rect x=".5" y=".5" width="49" height="19" rx="7.5" fill="#fff" stroke="red"/><rect x="9" y="9" width="5" height="5"/></g>`, "border-radius", "8px"},
		{"one round corner", `<path id="x" d="M1 1h48v18h-40a8 8 0 0 1-8-8z" stroke="red" stroke-width="2"/>`,
			"border-radius", "0 0 0 9px"},
		{"layout of a group",
			`<g id="x"><rect x="1" y="1" width="8" height="8" fill="none" stroke="red" stroke-width="2"/><rect x="20" width="9" height="9"/></g>`, "layout box", "0, 0  29 × 10 px"},
		{"clip to a box", `<clipPath id="c"><rect x="10" width="90" height="30"/></clipPath><rect id="x" width="100" height="40" clip-path="url(#c)"/>`, "clip-path", "inset(0 0 10px 10px)"},
		{"clip to a round box",
			`<clipPath id="c"><rect width="100" height="40" rx="8"/></clipPath><rect id="x" width="100" height="40" clip-path="url(#c)"/>`, "clip-path", "inset(0 round 8px)"},
		{"clip to a circle",
			`<clipPath id="c"><circle cx="50" cy="20" r="20"/></clipPath><rect id="x" width="100" height="40" clip-path="url(#c)"/>`, "clip-path", "circle(20px at 50px 20px)"},
		{"clip to an oval", `<clipPath id="c" clipPathUnits="objectBoundingBox"><circle cx=".5" cy=".5" r=".5"/></clipPath><rect id="x" x="9" width="100" height="40" clip-path="url(#c)"/>`, "clip-path", "ellipse(50px 20px at 50px 20px)"},
		{"clip to a path", `<clipPath id="c"><path d="M0 0h50l-20 30z"/></clipPath><rect id="x" width="100" height="40" clip-path="url(#c)"/>`, "clip-path", "a path, 50 × 30 px at 0, 0"},
		{"clip of a group", `<clipPath id="c"><rect width="50" height="40"/></clipPath><g id="x" clip-path="url(#c)"><rect width="100" height="40"/></g>`, "clip-path", "inset(0 50px 0 0)"},
		{"clip to a viewport", `<svg id="x" width="50" height="20"><rect width="100" height="40"/></svg>`, "clip-path",
			"inset(0)"},
		{"a viewport that cuts nothing", `<svg id="x" width="50" height="20"><rect width="10" height="10"/></svg>`,
			"clip-path", ""},
		{"mask", `<mask id="m"><rect width="9" height="9" fill="#fff"/></mask><rect id="x" width="9" height="9" mask="url(#m)"/>`, "mask", "#m, by luminance"},
		{"skewed", `<rect id="x" width="40" height="20" transform="skewX(20)"/>`, "transform", "skewX(20deg)"},
		{"skewed and turned", `<rect id="x" width="40" height="20" transform="rotate(30) skewX(-10)"/>`, "transform",
			"rotate(30deg) skewX(-10deg)"},
		{"skewed is not turned", `<rect id="x" width="40" height="20" transform="skewX(20)"/>`, "rotate", ""},
		{"own size of a skewed box", `<rect id="x" width="40" height="20" transform="skewX(20)"/>`, "own size",
			"40px × 20px"},
		{"filter functions", `<rect id="x" width="9" height="9" style="filter:sepia(1) contrast(.5)"/>`, "filter",
			"sepia(1) contrast(.5)"},
		{"radial by shares",
			`<radialGradient id="g" cx=".25" cy="0"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></radialGradient><rect id="x" width="200" height="50" fill="url(#g)"/>`, "fill", "radial-gradient(50% 50% at 25% 0%, #ff0000 0%, #0000ff 100%)"},
		{"radial in user space",
			`<radialGradient id="g" gradientUnits="userSpaceOnUse" cx="0" cy="0" r="1" gradientTransform="translate(50 0) scale(100 40)"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></radialGradient><rect id="x" width="200" height="50" fill="url(#g)"/>`, "fill", "radial-gradient(100px 40px at 50px 0, #ff0000 0%, #0000ff 100%)"},
		{"insets", `<g><rect width="100" height="40" fill="red"/><rect id="x" x="10" y="5" width="50" height="20"/></g>`,
			"insets", "5px 40px 15px 10px"},
	} {
		if got := factText(byID(t, draw(t, c.content), "x"), c.fact); got != c.want {
			t.Errorf("%s: %s is %s, want %s", c.name, c.fact, got, c.want)
		}
	}
}

func TestOrigins(t *testing.T) {
	d := draw(t, `<style>.a{fill:red}</style>
<g id="g" fill="blue"><rect id="x" class="a" width="9" height="9"/><rect id="y" width="9" height="9"/><rect id="z" style="fill:green" width="9" height="9"/></g>
<rect id="w" width="9" height="9"/>`)
	for id, want := range map[string]string{"x": "stated rule .a, line 1", "y": "stated fill attribute of g#g",
		"z": "stated style attribute", "w": "derived initial value"} {
		for _, f := range byID(t, d, id).Facts() {
			if f.Name == "fill" {
				if got := string(f.Origin) + " " + f.From; got != want {
					t.Errorf("#%s: %s, want %s", id, got, want)
				}
			}
		}
	}
}

func TestHiddenElementsAreKept(t *testing.T) {
	d := draw(t, `<rect id="a" display="none" width="9" height="9"/><g display="none"><rect id="b" width="9" height="9"/></g>
		<rect id="c" visibility="hidden" width="9" height="9"/><rect id="d" opacity="0" width="9" height="9"/><rect id="e" width="9" height="9"/>
		<g visibility="hidden"><rect id="f" visibility="visible" width="9" height="9"/></g>`)
	for id, want := range map[string]bool{"a": true, "b": true, "c": true, "d": true, "e": false, "f": false} {
		if e := byID(t, d, id); e.Hidden != want {
			t.Errorf("#%s hidden: %v, want %v", id, e.Hidden, want)
		}
	}
	n := 0
	d.Screens[0].Paint.Walk(geom.Identity, func(p *design.PaintNode, _ geom.Matrix) {
		if p.Path != nil && p.Fill != nil && p.Opacity > 0 {
			n++
		}
	})
	if n != 2 {
		t.Errorf("%d shapes are painted, want 2", n)
	}
}

func TestScreens(t *testing.T) {
	d := readAll(t, `<svg xmlns="http://www.w3.org/2000/svg" width="1000" height="500">
		<g data-screen="One" transform="translate(20 30)"><rect width="390" height="400"/><rect id="x" x="10" y="10" width="5" height="5"/></g>
		<svg data-screen="Two" x="500" y="50" width="300" height="200" viewBox="0 0 30 20"><rect id="y" width="3" height="2"/></svg>
		<rect id="outside" width="1" height="1"/></svg>`)
	if len(d.Screens) != 2 {
		t.Fatalf("%d screens", len(d.Screens))
	}
	one, two := d.Screens[0], d.Screens[1]
	if one.Name != "One" || one.Box != (geom.Rect{X: 20, Y: 30, W: 390, H: 400}) {
		t.Errorf("%s %v", one.Name, one.Box)
	}
	if two.Name != "Two" || two.Box != (geom.Rect{X: 500, Y: 50, W: 300, H: 200}) {
		t.Errorf("%s %v", two.Name, two.Box)
	}
	if g := byID(t, d, "x").Geometry.Value; g != (geom.Rect{X: 10, Y: 10, W: 5, H: 5}) {
		t.Errorf("x stands at %v of its screen", g)
	}
	if g := byID(t, d, "y").Geometry.Value; g != (geom.Rect{W: 30, H: 20}) {
		t.Errorf("y stands at %v of its screen", g)
	}
}

func TestScreenNames(t *testing.T) {
	for src, want := range map[string]string{
		`<svg xmlns="http://www.w3.org/2000/svg" data-screen="Pay"/>`:          "Pay",
		`<svg xmlns="http://www.w3.org/2000/svg"><title>Times</title></svg>`:   "Times",
		`<svg xmlns="http://www.w3.org/2000/svg"><g id="Booking"/></svg>`:      "Booking",
		`<svg xmlns="http://www.w3.org/2000/svg"><g id="a"/><g id="b"/></svg>`: "test",
		`<svg xmlns="http://www.w3.org/2000/svg"><g id="Group_1"/></svg>`:      "test",
	} {
		if got := readAll(t, src).Screens[0].Name; got != want {
			t.Errorf("%s is called %q, want %q", src, got, want)
		}
	}
}

func TestSize(t *testing.T) {
	for attrs, want := range map[string]geom.Rect{
		`width="10" height="20"`:                         {W: 10, H: 20},
		`width="1in" height="2in"`:                       {W: 96, H: 192},
		`viewBox="0 0 30 40"`:                            {W: 30, H: 40},
		`width="60" viewBox="0 0 30 40"`:                 {W: 60, H: 80},
		`height="80" viewBox="0 0 30 40"`:                {W: 60, H: 80},
		`width="100%" height="100%" viewBox="0 0 30 40"`: {W: 30, H: 40},
		``:                             {W: 300, H: 150},
		`width="nonsense" height="10"`: {W: 300, H: 10},
	} {
		if got := readAll(t, `<svg xmlns="http://www.w3.org/2000/svg" `+attrs+`/>`).Screens[0].Box; got != want {
			t.Errorf("%s is %v, want %v", attrs, got, want)
		}
	}
}

func TestWarnings(t *testing.T) {
	for content, want := range map[string]string{
		`<use href="#none"/>`:                                      "not in the file",
		`<g id="a"><use href="#a"/></g>`:                           "holds itself",
		`<symbol id="s"><use href="#s"/></symbol><use href="#s"/>`: "holds itself",
		`<symbol id="s"><use href="#r"/></symbol><symbol id="r"><use href="#s"/></symbol><use href="#s"/>`: "holds itself",
		`<rect width="1" height="1" fill="nonsense"/>`:                                                     "not a CSS colour",
		`<rect width="1" height="1" fill="url(#none)"/>`:                                                   "not in the file",
		`<rect width="1" height="1" filter="url(#none)"/>`:                                                 "no filter",
		`<rect width="1" height="1" clip-path="url(#none)"/>`:                                              "no clipPath",
		`<rect width="1" height="1" mask="url(#none)"/>`:                                                   "no mask",
		`<path d="M0 0L1"/>`: "path data",
		`<rect width="1" height="1" transform="spin(1)"/>`:                                  "transform left out",
		`<text y="9" font-family="Nowhere Sans">a</text>`:                                   `"Nowhere Sans" is missing`,
		`<image href="none.png" width="1" height="1"/>`:                                     "was not read",
		`<image href="data:image/png;base64,AAAA" width="1" height="1"/>`:                   "not a PNG",
		`<style>a:nope{fill:red}</style>`:                                                   "CSS: ",
		`<blink/>`:                                                                          "not known in SVG",
		`<rect width="1q1" height="1"/>`:                                                    "unit",
		`<rect width="9" height="9" filter="url(#f)"/><filter id="f"><feUnheard/></filter>`: "not known as a filter step",
		`<style>@font-face{font-family:X;src:url(x.ttf)}</style>`:                           "font file x.ttf",
		`<style>@import url(x.css);</style>`:                                                "x.css was not read",
	} {
		d := draw(t, content)
		found := false
		for _, w := range d.Warnings {
			found = found || strings.Contains(w.Msg, want) && w.Position.Line == 1 && w.Position.Column > 0
		}
		if !found {
			t.Errorf("%s: no warning of %q among %v", content, want, d.Warnings)
		}
	}
}

func TestRefuses(t *testing.T) {
	bomb := `<svg xmlns="http://www.w3.org/2000/svg"><defs><g id="a0"><rect width="1" height="1"/></g>`
	for i := 1; i < 20; i++ {
		bomb += fmt.Sprintf(`<g id="a%d">%s</g>`, i, strings.Repeat(fmt.Sprintf(`<use href="#a%d"/>`, i-1), 10))
	}
	bomb += `</defs><use href="#a19"/></svg>`
	var cut bytes.Buffer
	z := gzip.NewWriter(&cut)
	_, _ = z.Write(bytes.Repeat([]byte("<svg>"), 10000))
	z.Close()
	for name, c := range map[string]struct {
		src []byte
		msg string
	}{
		"HTML":             {[]byte("<html><body/></html>"), "not an SVG file"},
		"other XML":        {[]byte(`<svg xmlns="urn:other"/>`), "not an SVG file"},
		"a picture":        {[]byte("\x89PNG\r\n\x1a\n"), ""},
		"use bomb":         {[]byte(bomb), "more than 100,000 elements shown again"},
		"cut gzip":         {cut.Bytes()[:20], "cut off"},
		"enormous drawing": {[]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="99999999" height="1"/>`), "px"},
	} {
		_, err := Read("x.svg", c.src, Options{})
		var me *markup.Error
		if !errors.As(err, &me) || !strings.Contains(me.Msg, c.msg) {
			t.Errorf("%s: %v, want an error about %q", name, err, c.msg)
		}
	}
}

func TestCompressedAndUnprefixed(t *testing.T) {
	var b bytes.Buffer
	z := gzip.NewWriter(&b)
	_, _ = z.Write([]byte(`<svg width="5" height="6"><rect id="x" width="2" height="2"/></svg>`))
	z.Close()
	d, err := Read("x.svgz", b.Bytes(), Options{})
	if err != nil {
		t.Fatal(err)
	}
	if d.Screens[0].Name != "x" || len(d.All()) != 1 || len(d.Warnings) != 1 {
		t.Errorf("%q, %d elements, warnings %v", d.Screens[0].Name, len(d.All()), d.Warnings)
	}
	p := readAll(t, `<s:svg xmlns:s="http://www.w3.org/2000/svg" width="5" height="6"><s:rect id="x" width="2" height="2"/></s:svg>`)
	if len(p.All()) != 1 || len(p.Warnings) != 0 {
		t.Errorf("prefixed: %d elements, warnings %v", len(p.All()), p.Warnings)
	}
}

func TestLinkedFiles(t *testing.T) {
	files := map[string]string{"a.css": "rect{fill:red}",
		"f.ttf": mustRead(t, "../../../demo/files/fonts/Fraunces-SemiBold.ttf")}
	d, err := Read("x.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg"><style>@import "a.css";@font-face{font-family:Ferry;font-weight:600;src:url(f.ttf)}</style>
		<rect id="x" width="9" height="9"/><text id="t" y="9" font-family="Ferry" font-weight="600">a</text></svg>`), Options{Load: func(href string) ([]byte, error) {
		if f, ok := files[href]; ok {
			return []byte(f), nil
		}
		return nil, errors.New("none")
	}})
	if err != nil {
		t.Fatal(err)
	}
	if got := factText(byID(t, d, "x"), "fill"); got != "#ff0000" {
		t.Errorf("fill %s", got)
	}
	if len(d.Warnings) != 0 || len(d.Fonts) != 1 || !d.Fonts[0].Found || d.Fonts[0].File != "f.ttf" {
		t.Errorf("fonts %+v, warnings %v", d.Fonts, d.Warnings)
	}
}

func mustRead(t testing.TB, path string) string {
	t.Helper()
	data, err := os.ReadFile(path)
	if err != nil {
		t.Fatal(err)
	}
	return string(data)
}

func TestQuery(t *testing.T) {
	d := draw(t, `<g id="a"><rect id="b" width="1" height="1"/><text id="c" y="9">one<tspan id="d" class="k">two</tspan></text></g>`)
	for sel, want := range map[string]string{"#b": "b", ".k": "c", "g > *": "b c", "tspan": "c", "defs": ""} {
		s, err := css.ParseSelector(sel)
		if err != nil {
			t.Fatal(err)
		}
		var ids []string
		for _, e := range d.Query(s) {
			ids = append(ids, e.ID)
		}
		if got := strings.Join(ids, " "); got != want {
			t.Errorf("%s means %q, want %q", sel, got, want)
		}
	}
}

func TestTextWidthIsTheFonts(t *testing.T) {
	d := draw(t, `<text id="x" x="100" y="50" font-family="Hanken Grotesk" font-size="14">Saturday, 08:15, pier 1</text>
		<text id="m" x="200" y="50" text-anchor="middle" font-family="Hanken Grotesk" font-size="14">Saturday, 08:15, pier 1</text>
		<text id="e" x="300" y="50" text-anchor="end" font-family="Hanken Grotesk" font-size="14">Saturday, 08:15, pier 1</text>`)
	const want = 140.4375 // as a browser measures it
	for id, x := range map[string]float64{"x": 100, "m": 200 - want/2, "e": 300 - want} {
		g := byID(t, d, id).Geometry.Value
		if math.Abs(g.W-want) > 0.01 || math.Abs(g.X-x) > 0.01 {
			t.Errorf("#%s stands at %g, %g wide; want %g, %g", id, g.X, g.W, x, want)
		}
	}
}

func FuzzRead(f *testing.F) {
	for _, name := range []string{"booking", "components", "timetable"} {
		f.Add([]byte(mustRead(f, "../../../demo/files/design/"+name+".svg")))
	}
	f.Add([]byte(`<svg xmlns="http://www.w3.org/2000/svg"><defs><pattern id="p" width="1" height="1"><rect width="1" height="1" fill="url(#p)"/></pattern><mask id="m"><rect mask="url(#m)" width="9" height="9"/></mask><clipPath id="c" clip-path="url(#c)"><use href="#u"/></clipPath></defs><rect id="u" width="9" height="9" fill="url(#p)" mask="url(#m)" clip-path="url(#c)"/></svg>`))
	set := font.NewSet(nil)
	f.Fuzz(func(t *testing.T, data []byte) {
		d, err := Read("x.svg", data, Options{Fonts: set})
		if err != nil {
			var me *markup.Error
			if !errors.As(err, &me) || me.Line < 1 {
				t.Fatalf("an error without a place: %v", err)
			}
			return
		}
		for _, e := range d.All() {
			e.Facts()
		}
	})
}

func BenchmarkReadDemo(b *testing.B) {
	src := []byte(mustRead(b, "../../../demo/files/design/components.svg"))
	fonts := demoFonts(b)
	b.SetBytes(int64(len(src)))
	b.ReportAllocs()
	for b.Loop() {
		if _, err := Read("components.svg", src, Options{Fonts: fonts}); err != nil {
			b.Fatal(err)
		}
	}
}
