package absorb_test

import (
	"fmt"
	"strings"
	"testing"

	"archetyp/core/token"
	"archetyp/core/token/absorb"
	"archetyp/core/token/emit"
)

const palette = `"color": {"$type": "color", "sea": {"600": {"$value": {"colorSpace": "srgb", "components": [0, 0, 1]}}, "700": {"$value": {"colorSpace": "srgb", "components": [0, 0, 0.8]}}},
	"action": {"$value": "{color.sea.600}"}}, "space": {"m": {"$type": "dimension", "$value": {"value": 16, "unit": "px"}}},
	"shadow": {"card": {"$type": "shadow", "$value": {"color": "{color.sea.600}", "offsetX": {"value": 0, "unit": "px"}, "offsetY": {"value": 4, "unit": "px"}, "blur": {"value": 8, "unit": "px"}, "spread": {"value": 0, "unit": "px"}}}},
	"type": {"body": {"$type": "typography", "$value": {"fontFamily": ["Go", "serif"], "fontSize": {"value": 16, "unit": "px"}, "fontWeight": 400, "letterSpacing": {"value": 0, "unit": "px"}, "lineHeight": 1.5}}}`

func library(t testing.TB, base, dark string) *token.Library {
	t.Helper()
	l := token.ParseResolver([]byte(`{"version": "2025.10", "modifiers": {"scheme": {"contexts": {"light": [], "dark": [{`+dark+`}]}, "default": "light"}},
		"resolutionOrder": [{"type": "set", "name": "base", "sources": [{`+base+`}]}, {"$ref": "#/modifiers/scheme"}]}`), "r.json", nil).Library()
	if err := l.Err(); err != nil {
		t.Fatal(err)
	}
	return l
}

// plan edits an output by replacing old with new, and plans what to take back. since is what the tokens became since.
func plan(t testing.TB, as string, base, dark, since, old, now string) *absorb.Plan {
	t.Helper()
	lang, _ := emit.Of(as)
	o := emit.Options{Unit: "rem", Name: "Test"}
	write := func(l *token.Library) []absorb.Declaration {
		files, _, err := lang.Write(l, o)
		if err != nil {
			t.Fatal(err)
		}
		decls, err := absorb.Languages[as].Read([]byte(files[0].Text), "f")
		if err != nil {
			t.Fatal(err)
		}
		return decls
	}
	was := library(t, base, dark)
	files, _, err := lang.Write(was, o)
	if err != nil {
		t.Fatal(err)
	}
	if !strings.Contains(files[0].Text, old) {
		t.Fatalf("%q does not stand in\n%s", old, files[0].Text)
	}
	read, err := absorb.Languages[as].Read([]byte(strings.Replace(files[0].Text, old, now, 1)), "f")
	if err != nil {
		t.Fatal(err)
	}
	if since == "" {
		since = base
	}
	lib := library(t, since, dark)
	return absorb.Make(&absorb.Input{Language: absorb.Languages[as], Options: o, Written: write(was), Now: read,
		Fresh: write(lib), Library: lib, File: "f"})
}

func describe(p *absorb.Plan) string {
	var out []string
	for _, e := range p.Edits {
		s := e.Kind + " " + e.Path
		if e.Context != "" {
			s += " in " + e.Context
		}
		if e.Kind != "removed" {
			s += " " + e.Value.JSON()
		}
		for part, text := range e.Own.Written {
			s += " written " + part + " " + text
		}
		if e.Conflict() {
			s += " against " + e.Tokens
		}
		out = append(out, s)
	}
	for _, l := range p.Left {
		out = append(out, "left "+l.Name+": "+l.Why)
	}
	return strings.Join(out, "; ")
}

func TestEditsOfCSS(t *testing.T) {
	const dark = `"color": {"$type": "color", "sea": {"600": {"$value": {"colorSpace": "srgb", "components": [1, 1, 0]}}}}`
	const red = `{"colorSpace": "srgb", "components": [1, 0, 0], "hex": "#ff0000"}`
	for _, c := range []struct{ name, since, old, now, want string }{
		{"nothing", "", "#0000ff;", "#0000FF;", ""},
		{"a value", "", "--color-sea-700: #0000cc", "--color-sea-700: red", "changed color.sea.700 " + red},
		{"an alias to another", "", "--color-action: var(--color-sea-600)", "--color-action: var(--color-sea-700)",
			`changed color.action "{color.sea.700}"`},
		{"an alias to a value", "", "--color-action: var(--color-sea-600)", "--color-action: red", "changed color.action " +
			red},
		{"a value to an alias", "", "--color-sea-700: #0000cc", "--color-sea-700: var(--color-sea-600)",
			`changed color.sea.700 "{color.sea.600}"`},
		{"rem of a px token", "", "--space-m: 1rem", "--space-m: 1.25rem", `changed space.m {"value": 20, "unit": "px"}`},
		{"px", "", "--space-m: 1rem", "--space-m: 18px", `changed space.m {"value": 18, "unit": "px"}`},
		{"a unit the format lacks", "", "--space-m: 1rem", "--space-m: 5vw",
			`left --space-m: "5vw" is no length in px or rem, the units the token format has`},
		{"no value at all", "", "--space-m: 1rem", "--space-m: lots",
			`left --space-m: "lots" is no length in px or rem, the units the token format has`},
		{"a shadow", "", "0 0.25rem 0.5rem var(--color-sea-600)", "0 0.25rem 0.75rem var(--color-sea-700)",
			`changed shadow.card {"color": "{color.sea.700}", "offsetX": {"value": 0, "unit": "px"}, "offsetY": {"value": 4, "unit": "px"}, "blur": {"value": 12, "unit": "px"}, "spread": {"value": 0, "unit": "px"}}`},
		{"a reference to the same value", "", "0.5rem var(--color-sea-600)", "0.5rem #0000ff",
			`changed shadow.card {"color": {"colorSpace": "srgb", "components": [0, 0, 1], "hex": "#0000ff"}, "offsetX": {"value": 0, "unit": "px"}, "offsetY": {"value": 4, "unit": "px"}, "blur": {"value": 8, "unit": "px"}, "spread": {"value": 0, "unit": "px"}}`},
		{"a font", "", "400 1rem/1.5 Go, serif", "600 1.25rem/1.4 Go, serif",
			`changed type.body {"fontFamily": ["Go", "serif"], "fontSize": {"value": 20, "unit": "px"}, "fontWeight": 600, "letterSpacing": {"value": 0, "unit": "px"}, "lineHeight": 1.4}`},
		{"a line height in px", "", "400 1rem/1.5 Go", "400 1rem/22px Go",
			`changed type.body {"fontFamily": ["Go", "serif"], "fontSize": {"value": 16, "unit": "px"}, "fontWeight": 400, "letterSpacing": {"value": 0, "unit": "px"}, "lineHeight": 1.375}`},
		{"one that is not exact", "", "400 1rem/1.5 Go", "400 1rem/23.3px Go",
			`changed type.body {"fontFamily": ["Go", "serif"], "fontSize": {"value": 16, "unit": "px"}, "fontWeight": 400, "letterSpacing": {"value": 0, "unit": "px"}, "lineHeight": 1.4563} written lineHeight 23.3px`},
		{"letter spacing in em", "", "--type-body-letter-spacing: 0", "--type-body-letter-spacing: 0.02em",
			`changed type.body {"fontFamily": ["Go", "serif"], "fontSize": {"value": 16, "unit": "px"}, "fontWeight": 400, "letterSpacing": {"value": 0.32, "unit": "px"}, "lineHeight": 1.5}`},
		{"in the dark", "", "--color-sea-600: #ffff00", "--color-sea-600: red", "changed color.sea.600 in scheme.dark " +
			red},
		{"an alias in the dark", "", "}\n\n[data-scheme=\"light\"]",
			"  :root { --color-action: red } }\n\n[data-scheme=\"light\"]", "changed color.action in scheme.dark " + red},
		{"a new name in a group", "", "  --color-sea-700", "  --color-sea-650: red;\n  --color-sea-700",
			"added color.sea.650 " + red},
		{"a new name that points on", "", "  --color-sea-700",
			"  --glow: var(--halo);\n  --halo: 0 0 4px red;\n  --color-sea-700",
			`added halo {"color": ` + red +
				`, "offsetX": {"value": 0, "unit": "px"}, "offsetY": {"value": 0, "unit": "px"}, "blur": {"value": 4, "unit": "px"}, "spread": {"value": 0, "unit": "px"}}; added glow "{halo}"`},
		{"a per cent width", "", "  --color-sea-700", "  --width-half: 50%;\n  --color-sea-700",
			"added width.half 0.5 written  50%"},
		{"gone", "", "  --color-sea-700: #0000cc;\n", "", "removed color.sea.700"},
		{"the tokens changed, too", strings.Replace(palette, "0, 0, 0.8", "0, 1, 0", 1), "--color-sea-700: #0000cc",
			"--color-sea-700: red", "changed color.sea.700 " + red + " against #00ff00"},
		{"the tokens changed to the same", strings.Replace(palette, "0, 0, 0.8", "1, 0, 0", 1), "--color-sea-700: #0000cc",
			"--color-sea-700: #f00", ""},
		{"the tokens changed elsewhere", strings.Replace(palette, `"value": 16, "unit": "px"}}}`,
			`"value": 20, "unit": "px"}}}`, 1), "--color-sea-700: #0000cc", "--color-sea-700: red", "changed color.sea.700 " +
			red},
		{"where no context holds", "", "\n@media", "\n@media print { :root { --color-sea-700: red } }\n@media",
			"left --color-sea-700: it stands where no single context holds; make the edit in the token file"},
	} {
		if got := describe(plan(t, "css", palette, dark, c.since, c.old, c.now)); got != c.want {
			t.Errorf("%s: %s\nwant %s", c.name, got, c.want)
		}
	}
}

func TestEditsOfSCSSAndJSON(t *testing.T) {
	const dark = `"color": {"$type": "color", "sea": {"600": {"$value": {"colorSpace": "srgb", "components": [1, 1, 0]}}}}`
	const red = `{"colorSpace": "srgb", "components": [1, 0, 0], "hex": "#ff0000"}`
	for _, c := range []struct{ as, old, now, want string }{
		{"scss", "$color-sea-700: #0000cc", "$color-sea-700: red", "changed color.sea.700 " + red},
		{"scss", "$color-action: $color-sea-600", "$color-action: $color-sea-700", `changed color.action "{color.sea.700}"`},
		{"scss", `#{1rem}#{"/"}#{1.5}`, `#{1rem}#{"/"}#{1.4}`,
			`changed type.body {"fontFamily": ["Go", "serif"], "fontSize": {"value": 16, "unit": "px"}, "fontWeight": 400, "letterSpacing": {"value": 0, "unit": "px"}, "lineHeight": 1.4}`},
		{"scss", `"color-sea-600": #ffff00`, `"color-sea-600": red`, "changed color.sea.600 in scheme.dark " + red},
		{"json", `"700": "#0000cc"`, `"700": "red"`, "changed color.sea.700 " + red},
		{"json", `"lineHeight": 1.5`, `"lineHeight": 1.4`,
			`changed type.body {"fontFamily": ["Go", "serif"], "fontSize": {"value": 16, "unit": "px"}, "fontWeight": 400, "letterSpacing": {"value": 0, "unit": "px"}, "lineHeight": 1.4}`},
		{"json", "0 0.25rem 0.5rem #0000ff", "0 0.25rem 0.75rem #0000ff",
			`changed shadow.card {"color": "{color.sea.600}", "offsetX": {"value": 0, "unit": "px"}, "offsetY": {"value": 4, "unit": "px"}, "blur": {"value": 12, "unit": "px"}, "spread": {"value": 0, "unit": "px"}}`},
		{"json", `"Go, serif"`, `"go, serif"`,
			`changed type.body {"fontFamily": ["go", "serif"], "fontSize": {"value": 16, "unit": "px"}, "fontWeight": 400, "letterSpacing": {"value": 0, "unit": "px"}, "lineHeight": 1.5}`},
		{"json", `"600": "#ffff00"`, `"600": "red"`, "changed color.sea.600 in scheme.dark " + red},
	} {
		if got := describe(plan(t, c.as, palette, dark, "", c.old, c.now)); got != c.want {
			t.Errorf("%s: %s: %s\nwant %s", c.as, c.now, got, c.want)
		}
	}
}

// all holds one token of every type that CSS can say, and the forms they come in.
const all = `"color": {"$type": "color", "a": {"$value": {"colorSpace": "srgb", "components": [0.043137, 0.431373, 0.560784]}}, "b": {"$value": {"colorSpace": "srgb", "components": [1, 1, 1], "alpha": 0.2}},
	"odd": {"$value": {"colorSpace": "srgb", "components": [0.123, 0.5, 0.77]}}, "wide": {"$value": {"colorSpace": "display-p3", "components": [1, 0.2, 0]}}, "lch": {"$value": {"colorSpace": "oklch", "components": [0.7, 0.1, "none"]}},
	"hsl": {"$value": {"colorSpace": "hsl", "components": [210, 50, 40]}}, "lab": {"$value": {"colorSpace": "lab", "components": [50, 20, -30]}}, "xyz": {"$value": {"colorSpace": "xyz-d65", "components": [0.2, 0.3, 0.4]}}, "link": {"$value": "{color.a}"}},
	"size": {"a": {"$type": "dimension", "$value": {"value": 16, "unit": "px"}}, "b": {"$type": "dimension", "$value": {"value": 1.5, "unit": "rem"}}, "c": {"$type": "dimension", "$value": {"value": -0.5, "unit": "px"}}},
	"family": {"a": {"$type": "fontFamily", "$value": ["Hanken Grotesk", "sans-serif"]}, "b": {"$type": "fontFamily", "$value": "Go"}}, "weight": {"a": {"$type": "fontWeight", "$value": 650}},
	"time": {"a": {"$type": "duration", "$value": {"value": 120, "unit": "ms"}}, "b": {"$type": "duration", "$value": {"value": 1.5, "unit": "s"}}}, "curve": {"a": {"$type": "cubicBezier", "$value": [0.2, -1, 0, 2]}},
	"n": {"a": {"$type": "number", "$value": 1.25}, "b": {"$type": "number", "$value": -3}}, "stroke": {"a": {"$type": "strokeStyle", "$value": "dashed"}},
	"edge": {"a": {"$type": "border", "$value": {"color": "{color.a}", "width": {"value": 1, "unit": "px"}, "style": "solid"}}, "b": {"$type": "border", "$value": {"color": {"colorSpace": "srgb", "components": [1, 0, 0]}, "width": "{size.a}", "style": "{stroke.a}"}}},
	"move": {"a": {"$type": "transition", "$value": {"duration": {"value": 200, "unit": "ms"}, "delay": {"value": 0, "unit": "ms"}, "timingFunction": [0, 0, 1, 1]}}, "b": {"$type": "transition", "$value": {"duration": "{time.a}", "delay": {"value": 1, "unit": "s"}, "timingFunction": "{curve.a}"}}},
	"shadow": {"a": {"$type": "shadow", "$value": [{"color": "{color.a}", "offsetX": {"value": 0, "unit": "px"}, "offsetY": {"value": 4, "unit": "px"}, "blur": {"value": 8, "unit": "px"}, "spread": {"value": 2, "unit": "px"}},
		{"color": {"colorSpace": "srgb", "components": [0, 0, 0], "alpha": 0.5}, "offsetX": "{size.a}", "offsetY": {"value": -4, "unit": "px"}, "blur": {"value": 0, "unit": "px"}, "spread": {"value": 0, "unit": "px"}, "inset": true}]}, "b": {"$type": "shadow", "$value": ["{shadow.a}"]}},
	"glow": {"a": {"$type": "gradient", "$value": [{"color": "{color.a}", "position": 0}, {"color": {"colorSpace": "srgb", "components": [1, 0, 0]}, "position": 0.3333}, {"color": "{color.b}", "position": 1}]},
		"b": {"$type": "gradient", "$value": [{"color": "{color.a}", "position": 0.1}, {"color": "{color.b}", "position": 1}], "$extensions": {"archetyp": {"angle": 105.5}}},
		"c": {"$type": "gradient", "$value": [{"color": "{color.a}", "position": 0}, {"color": "{color.b}", "position": 1}], "$extensions": {"archetyp": {"kind": "radial", "shape": "circle at 20% 30%"}}},
		"d": {"$type": "gradient", "$value": [{"color": "{color.a}", "position": 0}, {"color": "{color.b}", "position": 1}], "$extensions": {"archetyp": {"kind": "conic", "angle": 45}}}},
	"type": {"a": {"$type": "typography", "$value": {"fontFamily": "{family.a}", "fontSize": {"value": 16, "unit": "px"}, "fontWeight": 600, "letterSpacing": {"value": -0.4, "unit": "px"}, "lineHeight": 1.3333}},
		"b": {"$type": "typography", "$value": {"fontFamily": ["Go", "serif"], "fontSize": "{size.b}", "fontWeight": "{weight.a}", "letterSpacing": {"value": 0, "unit": "px"}, "lineHeight": "{n.a}"}}, "link": {"$type": "typography", "$value": "{type.a}"}}`

// TestRoundTrip holds that CSS taken into empty files gives the same tokens, of every type, and in every context.
func TestRoundTrip(t *testing.T) {
	const dark = `"color": {"$type": "color", "a": {"$value": {"colorSpace": "srgb", "components": [1, 1, 0]}}}, "shadow": {"a": {"$type": "shadow", "$value": {"color": "{color.a}", "offsetX": {"value": 0, "unit": "px"}, "offsetY": {"value": 1, "unit": "px"}, "blur": {"value": 1, "unit": "px"}, "spread": {"value": 0, "unit": "px"}}}}`
	for _, as := range []string{"css", "scss"} {
		lang, _ := emit.Of(as)
		from := library(t, all, dark)
		files, _, err := lang.Write(from, emit.Options{Name: "Test"})
		if err != nil {
			t.Fatal(err)
		}
		decls, err := absorb.Languages[as].Read([]byte(files[0].Text), "f")
		if err != nil {
			t.Fatal(err)
		}
		empty := library(t, "", "")
		p := absorb.Make(&absorb.Input{Language: absorb.Languages[as], Now: decls, Library: empty, File: "f"})
		for _, l := range p.Left {
			t.Errorf("%s: left %+v", as, l)
		}
		got := map[string]string{}
		for _, e := range p.Edits {
			got[e.Context+" "+e.Path] = fmt.Sprintf("%s %s %v", e.Type, e.Value.JSON(), e.Own)
		}
		for _, tok := range from.Base.Tokens {
			want := strings.Replace(fmt.Sprintf("%s %s", tok.Type, tok.Value.JSON()), `["{shadow.a}"]`, `"{shadow.a}"`, 1)
			if have := got[" "+tok.Path]; !strings.HasPrefix(have, want) {
				t.Errorf("%s: %s is %s\nwant %s", as, tok.Path, have, want)
			}
		}
		for _, path := range []string{"color.a", "shadow.a"} {
			want := from.Contexts[1].Set.Get(path).Value.JSON()
			if as == "scss" && path == "shadow.a" { // its map holds values only
				continue
			}
			if have := got["scheme.dark "+path]; !strings.Contains(have, want) {
				t.Errorf("%s: %s in the dark is %s\nwant %s", as, path, have, want)
			}
		}
	}
}

func FuzzCSS(f *testing.F) {
	f.Add(":root { --a: 1px; --b: var(--a); --c: linear-gradient(red 10%, blue) }")
	f.Add("@media (x) { [y] { --type-body: 400 1rem/1.5 \"A B\", c; --type-body-letter-spacing: .1em } }")
	f.Fuzz(func(t *testing.T, src string) {
		decls, err := absorb.Languages["css"].Read([]byte(src), "f.css")
		if err != nil {
			return
		}
		p := absorb.Make(&absorb.Input{Language: absorb.Languages["css"], Now: decls, Library: library(t, palette, ""),
			File: "f.css"})
		for _, e := range p.Edits {
			data, err := added(nil, "t.json", []*token.Token{{Path: "x", Type: e.Type, Value: e.Value, Own: e.Own}})
			if err != nil {
				t.Fatal(err)
			}
			for _, fault := range token.Resolve(token.Parse(data, "t.json")).Faults {
				if !strings.Contains(fault.Msg, "{") {
					t.Fatalf("%s becomes a token that is none: %v\n%s", e.New, fault, data)
				}
			}
		}
	})
}

// added is what a file holds once tokens are added; empty for a new file.
func added(data []byte, file string, tokens []*token.Token) ([]byte, error) {
	e, err := token.Edit(data, file)
	if err != nil {
		return nil, err
	}
	if err := e.Add(tokens); err != nil {
		return nil, err
	}
	return e.Bytes()
}
