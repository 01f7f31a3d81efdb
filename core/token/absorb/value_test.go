package absorb_test

import (
	"fmt"
	"sort"
	"strings"
	"testing"

	"archetyp/core/token"
	"archetyp/core/token/absorb"
)

// said describes a value that was read: its type, its JSON and what is kept beside it.
func said(typ token.Type, v token.Value, own token.Own, err error) string {
	if err != nil {
		return "error " + err.Error()
	}
	s := fmt.Sprintf("%s %s", typ, v.JSON())
	var keys []string
	for k := range own.Written {
		keys = append(keys, k)
	}
	sort.Strings(keys)
	for _, k := range keys {
		s += fmt.Sprintf(" written %q as %s", k, own.Written[k])
	}
	if own.Kind != "" {
		s += " " + own.Kind
	}
	if own.Shape != "" {
		s += " " + own.Shape
	}
	if own.Angle != nil {
		s += fmt.Sprintf(" at %g", *own.Angle)
	}
	return s
}

const (
	red  = `{"colorSpace": "srgb", "components": [1, 0, 0], "hex": "#ff0000"}`
	blue = `{"colorSpace": "srgb", "components": [0, 0, 1], "hex": "#0000ff"}`
)

func px(v string) string { return `{"value": ` + v + `, "unit": "px"}` }

// TestTextsAsPeopleTypeThem holds how values are read when nothing says of which type they are.
func TestTextsAsPeopleTypeThem(t *testing.T) {
	set := library(t, palette, "").Base
	for _, c := range []struct{ path, text, want string }{
		{"a", "#f00", "color " + red},
		{"a", "RED", "color " + red},
		{"a", "rgb(255 0 0 / 50%)", `color {"colorSpace": "srgb", "components": [1, 0, 0], "alpha": 0.5, "hex": "#ff0000"}`},
		{"a", "oklch(0.7 0.1 none)", `color {"colorSpace": "oklch", "components": [0.7, 0.1, "none"], "hex": "#d2849c"}`},
		{"a", "{color.sea.600}", `color "{color.sea.600}"`},
		{"a", "{color.see}", "error there is no token {color.see}"},
		{"a", "4px", "dimension " + px("4")},
		{"a", "-.5rem", `dimension {"value": -0.5, "unit": "rem"}`},
		{"a", "150ms", `duration {"value": 150, "unit": "ms"}`},
		{"a", ".2s", `duration {"value": 0.2, "unit": "s"}`},
		{"a", "1.5", "number 1.5"},
		{"font.weight.strong", "700", "fontWeight 700"},
		{"font.weight.strong", "bold", "fontWeight 700"},
		{"a", "50%", `number 0.5 written "" as 50%`},
		{"a", "2em", `number 2 written "" as 2em`},
		{"a", "ease-out", "cubicBezier [0, 0, 0.58, 1]"},
		{"a", "cubic-bezier(.2, 0, 0, 1)", "cubicBezier [0.2, 0, 0, 1]"},
		{"a", "dotted", `strokeStyle "dotted"`},
		{"font.family.text", "Georgia, serif", `fontFamily ["Georgia", "serif"]`},
		{"a", `"Hanken Grotesk", sans-serif`, `fontFamily ["Hanken Grotesk", "sans-serif"]`},
		{"a", "1px solid red", `border {"color": ` + red + `, "width": ` + px("1") + `, "style": "solid"}`},
		{"a", "dashed red 2px", `border {"color": ` + red + `, "width": ` + px("2") + `, "style": "dashed"}`},
		{"a", "200ms ease-in",
			`transition {"duration": {"value": 200, "unit": "ms"}, "delay": {"value": 0, "unit": "ms"}, "timingFunction": [0.42, 0, 1, 1]}`},
		{"a", "0 2px 4px red", `shadow {"color": ` + red + `, "offsetX": ` + px("0") + `, "offsetY": ` + px("2") +
			`, "blur": ` + px("4") + `, "spread": ` + px("0") + `}`},
		{"a", "inset 0 0 0 2px red", `shadow {"color": ` + red + `, "offsetX": ` + px("0") + `, "offsetY": ` + px("0") +
			`, "blur": ` + px("0") + `, "spread": ` + px("2") + `, "inset": true}`},
		{"a", "linear-gradient(red, blue)", `gradient [{"color": ` + red + `, "position": 0}, {"color": ` + blue +
			`, "position": 1}]`},
		{"a", "linear-gradient(to right, red 10%, blue)", `gradient [{"color": ` + red + `, "position": 0.1}, {"color": ` +
			blue + `, "position": 1}] at 90`},
		{"a", "linear-gradient(.25turn, red, blue, red)", `gradient [{"color": ` + red + `, "position": 0}, {"color": ` +
			blue + `, "position": 0.5}, {"color": ` + red + `, "position": 1}] at 90`},
		{"a", "linear-gradient(red 0% 50%, blue 50%)", `gradient [{"color": ` + red + `, "position": 0}, {"color": ` + red +
			`, "position": 0.5}, {"color": ` + blue + `, "position": 0.5}]`},
		{"a", "radial-gradient(circle at 20% 30%, red, blue)", `gradient [{"color": ` + red + `, "position": 0}, {"color": ` +
			blue + `, "position": 1}] radial circle at 20% 30%`},
		{"a", "conic-gradient(from 45deg, red, blue)", `gradient [{"color": ` + red + `, "position": 0}, {"color": ` + blue +
			`, "position": 1}] conic at 45`},
		{"a", `500 14px/20px "Hanken Grotesk", serif`, `typography {"fontFamily": ["Hanken Grotesk", "serif"], "fontSize": ` +
			px("14") + `, "fontWeight": 500, "letterSpacing": ` + px("0") +
			`, "lineHeight": 1.4286} written "lineHeight" as 20px`},
		{"a", `bold 1rem/1.5 Go`,
			`typography {"fontFamily": "Go", "fontSize": {"value": 1, "unit": "rem"}, "fontWeight": 700, "letterSpacing": ` +
				px("0") + `, "lineHeight": 1.5}`},
		{"a", `{"value": 4, "unit": "px"}`, "error the token has no $type, and no group around it gives one"},
		{"a", "", `error the type of the value "" is not clear`},
		{"a", "some((thing", `error the type of the value "some((thing" is not clear`},
	} {
		typ, v, own, err := absorb.Text(set, c.path, c.text, "", token.Value{})
		if got := said(typ, v, own, err); got != c.want {
			t.Errorf("%s: %s\nwant %s", c.text, got, c.want)
		}
	}
}

// TestTextsOfAType holds what is refused, and how, where the type is known.
func TestTextsOfAType(t *testing.T) {
	set := library(t, palette, "").Base
	for _, c := range []struct {
		typ        token.Type
		text, want string
	}{
		{token.Color, "reddish", `error "reddish" is no colour`},
		{token.Dimension, "4", `error "4" is no length in px or rem, the units the token format has`},
		{token.Dimension, "4vw", `error "4vw" is no length in px or rem, the units the token format has`},
		{token.Dimension, "0", "dimension " + px("0")},
		{token.Dimension, `{"value": 4, "unit": "px"}`, "dimension " + px("4")},
		{token.Dimension, `{"value": 4, "unit": "em"}`,
			`error {"value": 4, "unit": "em"} is no dimension: an object with value and unit (px or rem) is wanted`},
		{token.Duration, "4", `error "4" is no duration in ms or s`},
		{token.FontWeight, "1001", `error "1001" is no number`},
		{token.Number, "four", `error "four" is no number`},
		{token.CubicBezier, "steps(4)", `error "steps(4)" is no curve`},
		{token.CubicBezier, "cubic-bezier(2, 0, 0, 1)", `error "cubic-bezier(2, 0, 0, 1)" is no curve`},
		{token.StrokeStyle, "wavy", `error "wavy" is no stroke style`},
		{token.Border, "1px red", `error "1px red" is no border with width, style and colour`},
		{token.Border, "1px solid red 2px", `error "1px solid red 2px" is no border`},
		{token.Transition, "ease", `error "ease" is no transition`},
		{token.Shadow, "0 red", `error "0 red" is no shadow with a colour`},
		{token.Shadow, "0 0 4px", `error "0 0 4px" is no shadow with a colour`},
		{token.Gradient, "repeating-linear-gradient(red, blue)",
			`error "repeating-linear-gradient(red, blue)" is no gradient that the token format has a place for`},
		{token.Gradient, "linear-gradient(red 4px, blue)", `error "red 4px": the position of a stop is given in %`},
		{token.Gradient, "linear-gradient(red -10%, blue)",
			`error "linear-gradient(red -10%, blue)" has stops outside of 0% to 100%, which the token format has no place for`},
		{token.Gradient, "linear-gradient()", `error "linear-gradient()" is no gradient with stops`},
		{token.Typography, "16px Go", `error "16px Go" is no font shorthand`},
		{token.Typography, "400 16px/1.5", `error "400 16px/1.5" is no font shorthand`},
		{token.FontFamily, "a(b)", `error "a(b)" is no list of font families`},
	} {
		typ, v, own, err := absorb.Text(set, "a", c.text, c.typ, token.Value{})
		if got := said(typ, v, own, err); got != c.want {
			t.Errorf("%s %s: %s\nwant %s", c.typ, c.text, got, c.want)
		}
	}
}

// TestWhatOtherPeoplesStylesheetsSay holds how rules and conditions of a foreign sheet are taken.
func TestWhatOtherPeoplesStylesheetsSay(t *testing.T) {
	for _, c := range []struct {
		name, css string
		base      []string
		want      string
	}{
		{"the root, among others", ":root, :host, .light { --a: 1px }", nil, "added a " + px("1")},
		{"html", "html { --a: 1px }", nil, "added a " + px("1")},
		{"a layer", "@layer base { :root { --a: 1px } }", nil, "added a " + px("1")},
		{"a theme, told to be everywhere", ".theme { --a: 1px }", []string{".theme"}, "added a " + px("1")},
		{"a theme", ".theme { --a: 1px }", nil,
			"left --a: edits within .theme belong to no context; --where treats them as if they stood everywhere"},
		{"the dark", ":root { --a: 1px } [data-scheme=\"dark\"] { --a: 2px }", nil, "added a " + px("1") +
			"; added a in scheme.dark " + px("2")},
		{"said twice", ":root { --a: 1px; --a: 2px }", nil, "added a " + px("2")},
		{"sums", ":root { --a: calc(1px + 2px) }", nil,
			"left --a: calc() is worked out by browsers; the token format has no place for it"},
		{"nowhere to lead", ":root { --a: var(--b) }", nil, "left --a: it refers to --b, which is no token"},
		{"a circle", ":root { --a: var(--b); --b: var(--a) }", nil,
			"left --a: it refers to --b, which is no token; left --b: it refers to --a, which is no token"},
		{"groups by their first word", ":root { --a-b-c: 1px; --a: 2px }", nil, "added a.b-c " + px("1") + "; added a-2 " +
			px("2")},
		{"comments and odd layout", ":root{/* x */--a:1px/* y */;\n\n--b :2px}", nil, "added a " + px("1") + "; added b " +
			px("2")},
		{"no custom properties", ":root { color: red }", nil, ""},
		{"broken", ":root { --a: 1px", nil, "added a " + px("1")},
	} {
		decls, err := absorb.Languages["css"].Read([]byte(c.css), "f.css")
		if err != nil {
			t.Fatal(err)
		}
		p := absorb.Make(&absorb.Input{Language: absorb.Languages["css"], Now: decls, Library: library(t, "", ""),
			Base: c.base, File: "f.css"})
		if got := describe(p); got != c.want {
			t.Errorf("%s: %s\nwant %s", c.name, got, c.want)
		}
	}
}

func TestFilesThatAreNoOutputs(t *testing.T) {
	for as, text := range map[string]string{"scss": "body { color: red }", "json": `{"a": 1}`} {
		if _, err := absorb.Languages[as].Read([]byte(text), "f"); err == nil || !strings.HasPrefix(err.Error(), "f: ") {
			t.Errorf("%s: %v", as, err)
		}
	}
	if _, err := absorb.Languages["json"].Read([]byte("{"), "f"); err == nil || !strings.HasPrefix(err.Error(), "f:1:") {
		t.Errorf("%v", err)
	}
}
