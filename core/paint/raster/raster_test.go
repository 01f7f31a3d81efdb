package raster_test

import (
	"fmt"
	"image"
	"math"
	"os"
	"strings"
	"testing"

	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/geom"
	"archetyp/core/paint/raster"
	writer "archetyp/core/paint/svg"
	"archetyp/core/read/svg"
)

func read(t testing.TB, content string) *design.Screen {
	t.Helper()
	d, err := svg.Read("t.svg",
		[]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100">`+content+`</svg>`), svg.Options{})
	if err != nil {
		t.Fatal(err)
	}
	return d.Screens[0]
}

func paint(t testing.TB, content string, density float64) *image.RGBA {
	t.Helper()
	s := read(t, content)
	img, err := raster.Render(s.Paint, raster.Options{View: geom.Rect{W: s.Box.W, H: s.Box.H}, Density: density})
	if err != nil {
		t.Fatal(err)
	}
	return img
}

// at is a pixel as r,g,b,a, premultiplied.
func at(img *image.RGBA, x, y int) [4]uint8 {
	i := img.PixOffset(x, y)
	return [4]uint8(img.Pix[i : i+4])
}

func alike(a, b [4]uint8, tol int) bool {
	for i := range a {
		if d := int(a[i]) - int(b[i]); d > tol || d < -tol {
			return false
		}
	}
	return true
}

// TestPixels asks single pixels of small drawings.
func TestPixels(t *testing.T) {
	red, half, none := [4]uint8{255, 0, 0, 255}, [4]uint8{128, 0, 0, 128}, [4]uint8{}
	blue := [4]uint8{0, 0, 255, 255}
	for _, c := range []struct {
		name, content string
		x, y          int
		want          [4]uint8
		tol           int
	}{
		{"inside", `<rect x="10" y="10" width="20" height="20" fill="red"/>`, 15, 15, red, 0},
		{"outside", `<rect x="10" y="10" width="20" height="20" fill="red"/>`, 9, 15, none, 0},
		{"first pixel", `<rect x="10" y="10" width="20" height="20" fill="red"/>`, 10, 10, red, 0},
		{"half a pixel across", `<rect x="10.5" y="10" width="20" height="20" fill="red"/>`, 10, 15, half, 1},
		{"half a pixel down", `<rect x="10" y="10.5" width="20" height="20" fill="red"/>`, 15, 10, half, 1},
		{"a quarter at the corner", `<rect x="10.5" y="10.5" width="20" height="20" fill="red"/>`, 10, 10,
			[4]uint8{64, 0, 0, 64}, 1},
		{"crisp", `<rect x="10.6" y="10" width="20" height="20" fill="red" shape-rendering="crispEdges"/>`, 10, 15, none, 0},
		{"fill-opacity", `<rect width="50" height="50" fill="red" fill-opacity=".5"/>`, 5, 5, half, 1},
		{"group opacity", `<g opacity=".5"><rect width="50" height="50" fill="red"/><rect width="50" height="50" fill="red"/></g>`, 5, 5, half, 1},
		{"non-zero", `<path fill="red" d="M0 0h60v60h-60zM20 20h20v20h-20z"/>`, 30, 30, red, 0},
		{"even-odd", `<path fill="red" fill-rule="evenodd" d="M0 0h60v60h-60zM20 20h20v20h-20z"/>`, 30, 30, none, 0},
		{"non-zero the other way round", `<path fill="red" d="M0 0h60v60h-60zM20 20v20h20v-20z"/>`, 30, 30, none, 0},
		{"stroke", `<path d="M10 20h50" stroke="red" stroke-width="4"/>`, 30, 21, red, 0},
		{"stroke ends butt", `<path d="M10 20h50" stroke="red" stroke-width="4"/>`, 61, 20, none, 0},
		{"stroke ends square", `<path d="M10 20h50" stroke="red" stroke-width="4" stroke-linecap="square"/>`, 61, 20, red, 0},
		{"dash", `<path d="M0 20h50" stroke="red" stroke-width="4" stroke-dasharray="10"/>`, 15, 20, none, 0},
		{"stroke over fill", `<rect x="10" y="10" width="20" height="20" fill="red" stroke="blue" stroke-width="4"/>`, 11, 15,
			blue, 0},
		{"fill over stroke",
			`<rect x="10" y="10" width="20" height="20" fill="red" stroke="blue" stroke-width="4" paint-order="stroke"/>`, 11, 15, red, 0},
		{"non-scaling stroke",
			`<g transform="scale(10)"><path d="M1 2h5" stroke="red" stroke-width="2" vector-effect="non-scaling-stroke"/></g>`, 30, 22, none, 0},
		{"gradient at its start",
			`<linearGradient id="g"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient><rect width="100" height="50" fill="url(#g)"/>`, 0, 5, red, 3},
		{"gradient at its end",
			`<linearGradient id="g"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient><rect width="100" height="50" fill="url(#g)"/>`, 99, 5, blue, 3},
		{"gradient in the middle",
			`<linearGradient id="g"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient><rect width="100" height="50" fill="url(#g)"/>`, 50, 5, [4]uint8{127, 0, 128, 255}, 3},
		{"gradient padded", `<linearGradient id="g" x1=".4" x2=".6"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient><rect width="100" height="50" fill="url(#g)"/>`, 20, 5, red, 0},
		{"gradient repeated",
			`<linearGradient id="g" x2=".5" spreadMethod="repeat"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient><rect width="100" height="50" fill="url(#g)"/>`, 50, 5, red, 5},
		{"gradient reflected",
			`<linearGradient id="g" x2=".5" spreadMethod="reflect"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient><rect width="100" height="50" fill="url(#g)"/>`, 99, 5, red, 5},
		{"hard stop", `<linearGradient id="g"><stop offset=".5" stop-color="red"/><stop offset=".5" stop-color="blue"/></linearGradient><rect width="100" height="50" fill="url(#g)"/>`, 50, 5, blue, 0},
		{"radial centre", `<radialGradient id="g"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></radialGradient><rect width="100" height="100" fill="url(#g)"/>`, 50, 50, red, 4},
		{"radial edge", `<radialGradient id="g"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></radialGradient><rect width="100" height="100" fill="url(#g)"/>`, 0, 50, blue, 4},
		{"radial focus", `<radialGradient id="g" fx=".25" fy=".5"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></radialGradient><rect width="100" height="100" fill="url(#g)"/>`, 25, 50, red, 6},
		{"pattern", `<pattern id="p" width="10" height="10" patternUnits="userSpaceOnUse"><rect width="5" height="10" fill="red"/></pattern><rect width="100" height="100" fill="url(#p)"/>`, 42, 42, red, 0},
		{"pattern's gap", `<pattern id="p" width="10" height="10" patternUnits="userSpaceOnUse"><rect width="5" height="10" fill="red"/></pattern><rect width="100" height="100" fill="url(#p)"/>`, 47, 42, none, 0},
		{"clipped away", `<clipPath id="c"><rect width="20" height="20"/></clipPath><rect width="50" height="50" fill="red" clip-path="url(#c)"/>`, 30, 5, none, 0},
		{"clipped in", `<clipPath id="c"><rect width="20" height="20"/></clipPath><rect width="50" height="50" fill="red" clip-path="url(#c)"/>`, 5, 5, red, 0},
		{"clip of two", `<clipPath id="c"><rect width="20" height="20"/><rect x="30" width="20" height="20"/></clipPath><rect width="50" height="50" fill="red" clip-path="url(#c)"/>`, 35, 5, red, 0},
		{"clip by even-odd",
			`<clipPath id="c"><path clip-rule="evenodd" d="M0 0h60v60h-60zM20 20h20v20h-20z"/></clipPath><rect width="50" height="50" fill="red" clip-path="url(#c)"/>`, 30, 30, none, 0},
		{"clip on a clip", `<clipPath id="d"><rect x="10" width="50" height="50"/></clipPath><clipPath id="c" clip-path="url(#d)"><rect width="20" height="20"/></clipPath><rect width="50" height="50" fill="red" clip-path="url(#c)"/>`, 5, 5, none, 0},
		{"mask by luminance",
			`<mask id="m"><rect width="50" height="50" fill="#808080"/></mask><rect width="50" height="50" fill="red" mask="url(#m)"/>`, 5, 5, half, 1},
		{"mask by alpha", `<mask id="m" style="mask-type:alpha"><rect width="50" height="50" fill="#000" fill-opacity=".5"/></mask><rect width="50" height="50" fill="red" mask="url(#m)"/>`, 5, 5, half, 1},
		{"masked away", `<mask id="m"><rect width="20" height="50" fill="#fff"/></mask><rect width="50" height="50" fill="red" mask="url(#m)"/>`, 30, 5, none, 0},
		{"multiply", `<rect width="50" height="50" fill="#808080"/><rect width="50" height="50" fill="red" style="mix-blend-mode:multiply"/>`, 5, 5, [4]uint8{128, 0, 0, 255}, 1},
		{"screen", `<rect width="50" height="50" fill="#008000"/><rect width="50" height="50" fill="red" style="mix-blend-mode:screen"/>`, 5, 5, [4]uint8{255, 128, 0, 255}, 1},
		{"difference", `<rect width="50" height="50" fill="#ff0"/><rect width="50" height="50" fill="red" style="mix-blend-mode:difference"/>`, 5, 5, [4]uint8{0, 255, 0, 255}, 1},
		{"flood", `<filter id="f" x="0" y="0" width="1" height="1"><feFlood flood-color="red"/></filter><rect width="50" height="50" filter="url(#f)"/>`, 5, 5, red, 0},
		{"offset", `<filter id="f" width="3" height="3"><feOffset dx="30"/></filter><rect width="20" height="20" fill="red" filter="url(#f)"/>`, 35, 5, red, 0},
		{"offset leaves", `<filter id="f" width="3" height="3"><feOffset dx="30"/></filter><rect width="20" height="20" fill="red" filter="url(#f)"/>`, 5, 5, none, 0},
		{"blur's edge", `<filter id="f" x="-1" y="-1" width="3" height="3" color-interpolation-filters="sRGB"><feGaussianBlur stdDeviation="4"/></filter><rect x="30" y="30" width="40" height="40" fill="red" filter="url(#f)"/>`, 30, 50, [4]uint8{140, 0, 0, 140}, 12},
		{"shadow under", `<filter id="f" x="-1" y="-1" width="3" height="3"><feDropShadow dx="0" dy="20" stdDeviation="1" flood-color="#00f"/></filter><rect x="30" y="30" width="40" height="20" fill="red" filter="url(#f)"/>`, 50, 60, blue, 2},
		{"colour matrix", `<filter id="f" color-interpolation-filters="sRGB"><feColorMatrix values="0 0 0 0 0 0 0 0 0 0 1 0 0 0 0 0 0 0 1 0"/></filter><rect width="50" height="50" fill="red" filter="url(#f)"/>`, 5, 5, blue, 1},
		{"grey", `<rect width="50" height="50" fill="red" style="filter:grayscale(1)"/>`, 5, 5, [4]uint8{54, 54, 54, 255}, 2},
		{"hue turned by 120 degrees",
			`<filter id="f" color-interpolation-filters="sRGB"><feColorMatrix type="hueRotate" values="120"/></filter><rect width="50" height="50" fill="red" filter="url(#f)"/>`, 5, 5, [4]uint8{0, 113, 0, 255}, 2},
		{"hue turned back", `<filter id="f" color-interpolation-filters="sRGB"><feColorMatrix type="hueRotate" values="360"/></filter><rect width="50" height="50" fill="red" filter="url(#f)"/>`, 5, 5, red, 1},
		{"saturation taken",
			`<filter id="f" color-interpolation-filters="sRGB"><feColorMatrix type="saturate" values="0"/></filter><rect width="50" height="50" fill="red" filter="url(#f)"/>`, 5, 5, [4]uint8{54, 54, 54, 255}, 2},
		{"saturation kept", `<filter id="f" color-interpolation-filters="sRGB"><feColorMatrix type="saturate"/></filter><rect width="50" height="50" fill="red" filter="url(#f)"/>`, 5, 5, red, 1},
		{"luminance as alpha",
			`<filter id="f" color-interpolation-filters="sRGB"><feColorMatrix type="luminanceToAlpha"/></filter><rect width="50" height="50" fill="red" filter="url(#f)"/>`, 5, 5, [4]uint8{0, 0, 0, 54}, 2},
		{"a short matrix changes nothing",
			`<filter id="f" color-interpolation-filters="sRGB"><feColorMatrix values="1 2 3"/></filter><rect width="50" height="50" fill="red" filter="url(#f)"/>`, 5, 5, red, 0},
		{"a step's own region",
			`<filter id="f" width="1" height="1" x="0" y="0"><feFlood x="20" width="10" y="0" height="50" flood-color="red"/></filter><rect width="50" height="50" filter="url(#f)"/>`, 5, 5, none, 0},
		{"a blur at the edge of its region",
			`<filter id="f" x="0" y="0" width="1" height="1" color-interpolation-filters="sRGB"><feGaussianBlur stdDeviation="6"/></filter><rect x="20" y="20" width="60" height="60" fill="red" filter="url(#f)"/>`, 20, 50, [4]uint8{136, 0, 0, 136}, 4},
		{"a list of filters",
			`<filter id="a" width="3"><feOffset dx="20"/></filter><filter id="b" x="-1" width="3" height="3"><feOffset dy="30"/></filter><rect width="20" height="20" fill="red" filter="url(#a) url(#b)"/>`, 25, 35, red, 0},
		{"names are each filter's own",
			`<filter id="a" width="3"><feOffset dx="20" result="o"/></filter><filter id="b" x="-1" width="4" height="3"><feOffset dy="30" result="p"/><feMerge><feMergeNode in="p"/><feMergeNode in="SourceGraphic"/></feMerge></filter><rect width="20" height="20" fill="red" filter="url(#a) url(#b)"/>`, 25, 5, red, 0},
		{"a filter, then a function",
			`<filter id="a" width="3"><feOffset dx="20"/></filter><rect width="20" height="20" fill="red" style="filter:url(#a) drop-shadow(0 30px 0 #00f)"/>`, 25, 35, blue, 0},
		{"a function, then a filter's region",
			`<filter id="a" x="0" y="0" width="1" height="1"><feOffset/></filter><rect width="20" height="20" fill="red" style="filter:drop-shadow(0 30px 0 #00f) url(#a)"/>`, 5, 35, none, 0},
		{"alpha of the filter before",
			`<filter id="a" width="3"><feOffset dx="20"/></filter><filter id="b" x="-1" width="4" height="3" color-interpolation-filters="sRGB"><feFlood flood-color="#00f"/><feComposite in2="SourceAlpha" operator="in"/></filter><rect width="20" height="20" fill="red" filter="url(#a) url(#b)"/>`, 25, 5, blue, 0},
		{"a step fills what it takes fills",
			`<filter id="f" x="0" y="0" width="1" height="1" color-interpolation-filters="sRGB"><feOffset width="10"/><feComponentTransfer><feFuncA type="linear" intercept="1"/></feComponentTransfer></filter><rect width="50" height="50" fill="red" filter="url(#f)"/>`, 30, 5, none, 0},
		{"a tile repeats whole pixels",
			`<filter id="f" x="0" y="0" width="1" height="1" color-interpolation-filters="sRGB"><feFlood flood-color="red" x="0" y="0" width="5" height="9.5" result="a"/><feOffset in="a" x="0" y="0" width="9.5" height="9.5"/><feTile/></filter><rect width="50" height="50" filter="url(#f)"/>`, 27, 5, red, 0},
		{"a tile with its own region",
			`<filter id="f" x="0" y="0" width="1" height="1"><feFlood flood-color="red" x="0" y="0" width="5" height="5"/><feTile x="10.5" y="10.5" width="20" height="20"/></filter><rect width="50" height="50" filter="url(#f)"/>`, 10, 10, red, 0},
		{"outside a tile's own region",
			`<filter id="f" x="0" y="0" width="1" height="1"><feFlood flood-color="red" x="0" y="0" width="5" height="5"/><feTile x="10.5" y="10.5" width="20" height="20"/></filter><rect width="50" height="50" filter="url(#f)"/>`, 32, 20, none, 0},
		{"a square dot", `<path d="M20 20h0" stroke="red" stroke-width="10" stroke-linecap="square"/>`, 16, 16, red, 0},
		{"a round dot", `<line x1="20" y1="20" x2="20" y2="20" stroke="red" stroke-width="10" stroke-linecap="round"/>`, 20,
			16, red, 0},
		{"a curve without length", `<path d="M20 20c0 0 0 0 0 0" stroke="red" stroke-width="10" stroke-linecap="square"/>`,
			16, 16, red, 0},
		{"a dot with butt caps is none", `<path d="M20 20h0" stroke="red" stroke-width="10"/>`, 20, 20, none, 0},
		{"a move draws no dot", `<path d="M20 20M40 40h9" stroke="red" stroke-width="10" stroke-linecap="square"/>`, 20, 20,
			none, 0},
		{"inside a step's own region",
			`<filter id="f" width="1" height="1" x="0" y="0"><feFlood x="20" width="10" y="0" height="50" flood-color="red"/></filter><rect width="50" height="50" filter="url(#f)"/>`, 25, 5, red, 0},
		{"dilated", `<filter id="f" x="-1" y="-1" width="3" height="3"><feMorphology operator="dilate" radius="5"/></filter><rect x="30" y="30" width="20" height="20" fill="red" filter="url(#f)"/>`, 26, 40, red, 0},
		{"eroded", `<filter id="f"><feMorphology radius="5"/></filter><rect x="30" y="30" width="20" height="20" fill="red" filter="url(#f)"/>`, 32, 40, none, 0},
		{"transfer", `<filter id="f" color-interpolation-filters="sRGB"><feComponentTransfer><feFuncR type="table" tableValues="1 0"/></feComponentTransfer></filter><rect width="50" height="50" fill="red" filter="url(#f)"/>`, 5, 5, [4]uint8{0, 0, 0, 255}, 1},
		{"composite in", `<filter id="f" color-interpolation-filters="sRGB"><feFlood flood-color="#00f"/><feComposite in2="SourceGraphic" operator="in"/></filter><rect width="50" height="50" fill="red" filter="url(#f)"/>`, 5, 5, blue, 1},
		{"hidden", `<rect width="50" height="50" fill="red" visibility="hidden"/>`, 5, 5, none, 0},
		{"use", `<defs><rect id="r" width="10" height="10" fill="red"/></defs><use href="#r" x="50"/>`, 55, 5, red, 0},
		{"nested viewport cuts off", `<svg width="20" height="20"><rect width="50" height="50" fill="red"/></svg>`, 30, 5,
			none, 0},
		{"overflow shown", `<svg width="20" height="20" overflow="visible"><rect width="50" height="50" fill="red"/></svg>`,
			30, 5, red, 0},
		{"embedded picture",
			`<image width="50" height="50" preserveAspectRatio="none" href="data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg=="/>`, 25, 25, [4]uint8{127, 0, 0, 127}, 1},
	} {
		img := paint(t, c.content, 1)
		if got := at(img, c.x, c.y); !alike(got, c.want, c.tol) {
			t.Errorf("%s: %v at %d,%d, want %v", c.name, got, c.x, c.y, c.want)
		}
	}
}

func TestDensity(t *testing.T) {
	img := paint(t, `<rect x="10" y="10" width="20" height="20" fill="red"/>`, 3)
	if img.Rect.Dx() != 300 || img.Rect.Dy() != 300 {
		t.Fatalf("%v", img.Rect)
	}
	if at(img, 30, 30) != [4]uint8{255, 0, 0, 255} || at(img, 29, 30) != [4]uint8{} {
		t.Error("edges are not where they belong at 3x")
	}
}

func TestBackgroundAndView(t *testing.T) {
	s := read(t, `<rect x="10" y="10" width="20" height="20" fill="red"/>`)
	white := color.White
	img, err := raster.Render(s.Paint, raster.Options{View: geom.Rect{X: 5, Y: 5, W: 10, H: 10}, Density: 1,
		Background: &white})
	if err != nil {
		t.Fatal(err)
	}
	if at(img, 0, 0) != [4]uint8{255, 255, 255, 255} || at(img, 5, 5) != [4]uint8{255, 0, 0, 255} {
		t.Errorf("%v %v", at(img, 0, 0), at(img, 5, 5))
	}
}

func TestTooLargeIsRefused(t *testing.T) {
	s := read(t, ``)
	if _, err := raster.Render(s.Paint, raster.Options{View: geom.Rect{W: 1e6, H: 1e6}, Density: 1}); err == nil {
		t.Error("a million by a million pixels are painted")
	}
}

func TestCoverageSumsToTheArea(t *testing.T) {
	for _, c := range []struct {
		content string
		want    float64
	}{
		{`<circle cx="50.3" cy="49.7" r="30"/>`, math.Pi * 900},
		{`<ellipse cx="50" cy="50" rx="40" ry="10" transform="rotate(30 50 50)"/>`, math.Pi * 400},
		{`<polygon points="10.2,10.3 80.5,20.7 40.1,90.9"/>`,
			0.5 * math.Abs((80.5-10.2)*(90.9-10.3)-(40.1-10.2)*(20.7-10.3))},
		{`<path d="M10 50C10 10 90 10 90 50" fill="none" stroke="#000" stroke-width="1"/>`, 111.0},
	} {
		img := paint(t, c.content, 1)
		sum := 0.0
		for i := 3; i < len(img.Pix); i += 4 {
			sum += float64(img.Pix[i]) / 255
		}
		if math.Abs(sum-c.want) > c.want*0.02+1 {
			t.Errorf("%s covers %.1f pixels, want %.1f", c.content, sum, c.want)
		}
	}
}

func TestAbuttingShapesLeaveNoGap(t *testing.T) {
	img := paint(t, `<rect width="100" height="100" fill="#fff"/><path fill="red" d="M0 0h33.3v100h-33.3zM33.3 0h66.7v100h-66.7z"/>`, 1)
	if got := at(img, 33, 50); got != [4]uint8{255, 0, 0, 255} {
		t.Errorf("the seam inside one path is %v", got)
	}
}

// TestWriteKeepsThePicture holds that what the SVG writer makes of a drawing is painted the same.
func TestWriteKeepsThePicture(t *testing.T) {
	contents := []string{
		`<rect x="10" y="10" width="50" height="30" rx="8" fill="#0b6e8f" stroke="#10243a" stroke-width="3"/>`,
		`<g transform="rotate(10) translate(20 5)" opacity=".7"><circle cx="40" cy="40" r="20"/><line x1="0" y1="0" x2="50" y2="50" stroke="red" stroke-linecap="round" stroke-width="4"/></g>`,
		`<linearGradient id="g" gradientTransform="rotate(30)"><stop stop-color="red" stop-opacity=".5"/><stop offset="1" stop-color="blue"/></linearGradient><ellipse cx="50" cy="50" rx="40" ry="20" fill="url(#g)"/>`,
		`<radialGradient id="g" fx=".3" spreadMethod="reflect" r=".3"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></radialGradient><rect width="100" height="100" fill="url(#g)"/>`,
		`<style>.a{fill:green;stroke:var(--s);--s:red}</style><path class="a" fill-rule="evenodd" d="M5 5h60v60h-60zM20 20h20v20h-20z"/>`,
		`<clipPath id="c"><circle cx="50" cy="50" r="30"/></clipPath><g clip-path="url(#c)"><rect width="100" height="100" fill="teal"/></g>`,
		`<clipPath id="d"><rect x="20" width="80" height="80"/></clipPath><clipPath id="c" clip-path="url(#d)"><rect width="60" height="60" transform="rotate(5)"/></clipPath><rect width="100" height="100" fill="teal" clip-path="url(#c)"/>`,
		`<mask id="m"><rect width="100" height="50" fill="#fff"/><circle cx="50" cy="60" r="30" fill="#888"/></mask><rect width="100" height="100" fill="teal" mask="url(#m)"/>`,
		`<pattern id="p" width="12" height="12" patternUnits="userSpaceOnUse" patternTransform="rotate(20)"><circle cx="6" cy="6" r="4" fill="red"/></pattern><rect width="100" height="100" fill="url(#p)"/>`,
		`<filter id="f"><feDropShadow dx="2" dy="4" stdDeviation="3" flood-color="#10243a" flood-opacity=".4"/></filter><rect x="20" y="20" width="50" height="40" rx="6" fill="#fff" filter="url(#f)"/>`,
		`<filter id="f" color-interpolation-filters="sRGB"><feFlood flood-opacity="0" result="e"/><feColorMatrix in="SourceAlpha" values="0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 127 0" result="h"/><feOffset dy="3"/><feGaussianBlur stdDeviation="2"/><feComposite in2="h" operator="arithmetic" k2="-1" k3="1"/><feColorMatrix values="0 0 0 0 1 0 0 0 0 0 0 0 0 0 0 0 0 0 .5 0"/><feMerge><feMergeNode in="SourceGraphic"/><feMergeNode/></feMerge></filter><rect x="20" y="20" width="50" height="40" fill="#fff" filter="url(#f)"/>`,
		`<filter id="f"><feComponentTransfer><feFuncR type="linear" slope=".5"/><feFuncG type="gamma" exponent="2"/><feFuncB type="discrete" tableValues="0 .5 1"/></feComponentTransfer><feMorphology operator="dilate" radius="2"/></filter><rect x="20" y="20" width="50" height="40" fill="#8af" filter="url(#f)"/>`,
		`<text x="5" y="40" font-size="20" fill="#10243a">Tide</text>`,
		`<rect width="60" height="60" fill="#888"/><rect x="20" y="20" width="60" height="60" fill="red" style="mix-blend-mode:multiply"/>`,
		`<svg x="10" y="10" width="50" height="30" viewBox="0 0 10 10"><circle cx="5" cy="5" r="6" fill="red"/></svg>`,
		`<defs><g id="u"><rect width="10" height="10"/></g></defs><use href="#u" x="3" fill="red"/><use href="#u" x="30" fill="blue" transform="scale(2)"/>`,
		`<path d="M10 10Q50 90 90 10T90 90" fill="none" stroke="#000" stroke-width="5" stroke-dasharray="8 3" stroke-dashoffset="2" stroke-linejoin="bevel"/>`,
		`<path d="M10 80a30 20 15 1 1 50 5z" fill="coral" stroke="navy" stroke-miterlimit="2" paint-order="stroke"/>`,
		`<rect width="50%" height="2em" fill="red" x="10%"/>`,
		`<image x="5" y="5" width="40" height="20" href="data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg=="/>`,
	}
	view := geom.Rect{W: 100, H: 100}
	for i, content := range contents {
		s := read(t, content)
		first, err := raster.Render(s.Paint, raster.Options{View: view, Density: 2})
		if err != nil {
			t.Fatal(err)
		}
		written := writer.Write(s.Paint, view, writer.Options{})
		d, err := svg.Read("again.svg", written, svg.Options{})
		if err != nil {
			t.Errorf("%d: what was written does not read: %v\n%s", i, err, written)
			continue
		}
		again, err := raster.Render(d.Screens[0].Paint, raster.Options{View: view, Density: 2})
		if err != nil {
			t.Fatal(err)
		}
		bad := 0
		for k := range first.Pix {
			if d := int(first.Pix[k]) - int(again.Pix[k]); d > 12 || d < -12 {
				bad++
			}
		}
		if bad > len(first.Pix)/1000 {
			t.Errorf("%d: %d of %d values differ\n%s\n%s", i, bad, len(first.Pix), content, written)
		}
		if strings.Contains(string(written), "class=") || strings.Contains(string(written), "var(") {
			t.Errorf("%d: styles are not resolved: %s", i, written)
		}
	}
}

func TestSamePictureTwice(t *testing.T) {
	src, err := os.ReadFile("../../../demo/files/design/timetable.svg")
	if err != nil {
		t.Fatal(err)
	}
	var first []byte
	for i := 0; i < 2; i++ {
		d, err := svg.Read("t.svg", src, svg.Options{Fonts: font.NewSet(nil)})
		if err != nil {
			t.Fatal(err)
		}
		s := d.Screens[0]
		img, err := raster.Render(s.Paint, raster.Options{View: geom.Rect{W: s.Box.W, H: s.Box.H}, Density: 1})
		if err != nil {
			t.Fatal(err)
		}
		if first == nil {
			first = img.Pix
		} else if string(first) != string(img.Pix) {
			t.Error("the same drawing is painted differently")
		}
	}
}

func FuzzRender(f *testing.F) {
	f.Add(`<rect width="9" height="9" filter="url(#f)"/><filter id="f"><feGaussianBlur stdDeviation="1e9"/></filter>`)
	f.Add(`<path d="M0 0L1e9 1e9L-1e9 5z" stroke="red" stroke-width="1e8"/>`)
	f.Add(`<g transform="scale(1e9)"><circle r="5" stroke="red" stroke-dasharray="1e-9"/></g>`)
	f.Add(`<text font-size="1e7">a</text>`)
	f.Fuzz(func(t *testing.T, content string) {
		d, err := svg.Read("t.svg",
			[]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="40" height="40">`+content+`</svg>`), svg.Options{})
		if err != nil {
			return
		}
		if _, err := raster.Render(d.Screens[0].Paint, raster.Options{View: geom.Rect{W: 40, H: 40},
			Density: 1}); err != nil {
			t.Fatal(err)
		}
	})
}

func BenchmarkRenderDemo(b *testing.B) {
	src, err := os.ReadFile("../../../demo/files/design/timetable.svg")
	if err != nil {
		b.Fatal(err)
	}
	d, err := svg.Read("t.svg", src, svg.Options{})
	if err != nil {
		b.Fatal(err)
	}
	s := d.Screens[0]
	for _, density := range []float64{1, 2, 3} {
		b.Run(fmt.Sprintf("%gx", density), func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				if _, err := raster.Render(s.Paint, raster.Options{View: geom.Rect{W: s.Box.W, H: s.Box.H},
					Density: density}); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

// What a picture is painted on is not part of what blends in it.
func TestTheBackgroundDoesNotBlend(t *testing.T) {
	doc, err := svg.Read("x.svg",
		[]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="60" height="20"><rect width="20" height="20" fill="#f0a" style="mix-blend-mode:difference"/><g style="mix-blend-mode:darken;opacity:.5"><rect x="20" width="20" height="20" fill="#000"/></g></svg>`), svg.Options{})
	if err != nil {
		t.Fatal(err)
	}
	img, err := raster.Render(doc.Screens[0].Paint, raster.Options{View: geom.Rect{W: 60, H: 20},
		Background: &color.White})
	if err != nil {
		t.Fatal(err)
	}
	for x, want := range map[int][4]uint8{5: {255, 0, 170, 255}, 25: {127, 127, 127, 255}, 45: {255, 255, 255, 255}} {
		c := img.RGBAAt(x, 5)
		if got := [4]uint8{c.R, c.G, c.B, c.A}; got != want {
			t.Errorf("at %d: %v, want %v", x, got, want)
		}
	}
}
