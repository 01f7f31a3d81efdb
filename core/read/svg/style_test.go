package svg

import (
	"strings"
	"testing"

	"archetyp/core/geom"
)

// TestFontSizes and TestFontWeights hold what https://www.w3.org/TR/css-fonts-4/ says of words relative to the parent.
func TestFontSizes(t *testing.T) {
	for v, want := range map[string]string{
		"24": "24px", "1.5em": "30px", "150%": "30px", "2rem": "32px", "12pt": "16px", "small": "13px", "XX-LARGE": "32px",
		"larger": "24px", "smaller": "16.667px", "initial": "16px", "inherit": "20px", "-3px": "20px", "nonsense": "20px",
	} {
		e := byID(t, draw(t,
			`<g font-family="Hanken Grotesk" style="font-size:20px"><text id="x" style="font-size:`+v+`" y="30">Trips</text></g>`), "x")
		if got := factText(e, "font-size"); got != want {
			t.Errorf("font-size: %s inside 20px is %s, want %s", v, got, want)
		}
	}
}

func TestFontWeights(t *testing.T) {
	for v, want := range map[string]string{
		"300 bolder": "400", "400 bolder": "700", "500 bolder": "700", "600 bolder": "900", "900 bolder": "900",
		"300 lighter": "100", "400 lighter": "100", "600 lighter": "400", "800 lighter": "700",
		"400 bold": "700", "700 normal": "400", "700 initial": "400", "600 inherit": "600", "600 5000": "600", "400 650": "650",
	} {
		parent, own, _ := strings.Cut(v, " ")
		e := byID(t, draw(t,
			`<g font-family="Hanken Grotesk" font-weight="`+parent+`"><text id="x" style="font-weight:`+own+`" y="30">Trips</text></g>`), "x")
		if got := factText(e, "font-weight"); got != want {
			t.Errorf("font-weight: %s inside %s is %s, want %s", own, parent, got, want)
		}
	}
}

func TestTransformOrigins(t *testing.T) {
	for origin, want := range map[string]geom.Rect{
		"0 0": {W: 20, H: 20}, "10px": {X: -10, Y: -10, W: 20, H: 20}, "left top": {W: 20, H: 20}, "center center": {X: -200,
			Y: -150, W: 20, H: 20},
		"right bottom": {X: -400, Y: -300, W: 20, H: 20}, "50% 0": {X: -200, W: 20, H: 20}, "what 0": {W: 20, H: 20},
	} {
		e := byID(t, draw(t, `<rect id="x" width="10" height="10" style="transform:scale(2);transform-origin:`+origin+`"/>`),
			"x")
		if got := e.Geometry.Value; got != want {
			t.Errorf("transform-origin: %s gives %v, want %v", origin, got, want)
		}
	}
}

func TestPathProperty(t *testing.T) {
	for _, c := range []struct{ name, path, want string }{
		{"the attribute", `d="M0 0h10v10z"`, "0, 0  10 × 10 px"},
		{"the property wins", `d="M0 0h10v10z" style="d:path('M5 5h20v30z')"`, "5, 5  20 × 30 px"},
		{"with double quotes", `style='d:path("M5 5h20v30z")'`, "5, 5  20 × 30 px"},
		{"not a path", `d="M0 0h10v10z" style="d:circle(3px)"`, "0, 0  10 × 10 px"},
		{"not closed", `d="M0 0h10v10z" style="d:path('"`, "0, 0  10 × 10 px"},
	} {
		if got := factText(byID(t, draw(t, `<path id="x" `+c.path+`/>`), "x"), "geometry box"); got != c.want {
			t.Errorf("%s: %q, want %q", c.name, got, c.want)
		}
	}
}

// TestScreenEdges holds where a screen ends that no viewport and no background bound.
func TestScreenEdges(t *testing.T) {
	for _, c := range []struct {
		name, content string
		want          geom.Rect
	}{
		{"a background around all", `<rect x="5" y="5" width="90" height="80"/><circle cx="20" cy="20" r="9"/>`,
			geom.Rect{X: 5, Y: 5, W: 90, H: 80}},
		{"what hangs over a large first box is cut", `<rect width="90" height="80"/><circle cx="90" cy="40" r="10"/>`,
			geom.Rect{W: 90, H: 80}},
		{"a small first box bounds nothing", `<rect width="10" height="10"/><circle cx="80" cy="80" r="20"/>`,
			geom.Rect{W: 100, H: 100}},
		{"no box at all", `<circle cx="50" cy="50" r="10"/><circle cx="80" cy="80" r="20"/>`, geom.Rect{X: 40, Y: 40, W: 60,
			H: 60}},
	} {
		d := draw(t, `<g data-screen="One">`+c.content+`</g>`)
		if got := d.Screens[0].Box; got != c.want {
			t.Errorf("%s: %v, want %v", c.name, got, c.want)
		}
	}
}
