package emit_test

import (
	"strings"
	"testing"

	"archetyp/core/token"
	"archetyp/core/token/emit"
)

func set(t testing.TB, src string) *token.Set {
	t.Helper()
	s := token.Resolve(token.Parse([]byte(src), "t.json"))
	if err := s.Err(); err != nil {
		t.Fatal(err)
	}
	return s
}

func lib(t testing.TB, src string) *token.Library { return token.Plain(set(t, src)) }

// declaration is the value of a custom property in CSS text.
func declaration(css, name string) string {
	for _, line := range strings.Split(css, "\n") {
		if v, ok := strings.CutPrefix(strings.TrimSpace(line), name+": "); ok {
			return strings.TrimSuffix(v, ";")
		}
	}
	return ""
}

const palette = `"blue": {"$type": "color", "$value": {"colorSpace": "srgb", "components": [0, 0, 1]}}, `

func TestCSS(t *testing.T) {
	for _, c := range []struct{ name, tokens, property, want string }{
		{"colour", `"a": {"$type": "color", "$value": {"colorSpace": "srgb", "components": [0.043137, 0.431373, 0.560784]}}`,
			"--a", "#0b6e8f"},
		{"wide colour", `"a": {"$type": "color", "$value": {"colorSpace": "display-p3", "components": [1, 0, 0]}}`, "--a",
			"#ff0000"},
		{"wide colour with its own fallback",
			`"a": {"$type": "color", "$value": {"colorSpace": "display-p3", "components": [1, 0, 0], "hex": "#fa1111", "alpha": 0.5}}`, "--a", "rgb(250 17 17 / 0.5)"},
		{"not of 8 bits", `"a": {"$type": "color", "$value": {"colorSpace": "srgb", "components": [0.5, 0.1, 1], "alpha": 0.5}}`, "--a", "rgb(50% 10% 100% / 0.5)"},
		{"none", `"a": {"$type": "color", "$value": {"colorSpace": "oklch", "components": [0.5, 0.1, "none"]}}`, "--a",
			"#904961"},
		{"alias", palette + `"a": {"$value": "{blue}"}`, "--a", "var(--blue)"},
		{"alias into groups", `"g": {` + palette + `"h": {"a": {"$value": "{g.blue}"}}}`, "--g-h-a", "var(--g-blue)"},
		{"length", `"a": {"$type": "dimension", "$value": {"value": 24, "unit": "px"}}`, "--a", "1.5rem"},
		{"rem", `"a": {"$type": "dimension", "$value": {"value": 2, "unit": "rem"}}`, "--a", "2rem"},
		{"zero", `"a": {"$type": "dimension", "$value": {"value": 0, "unit": "px"}}`, "--a", "0"},
		{"duration", `"a": {"$type": "duration", "$value": {"value": 0, "unit": "ms"}}`, "--a", "0ms"},
		{"number", `"a": {"$type": "number", "$value": 1.25}`, "--a", "1.25"},
		{"weight", `"a": {"$type": "fontWeight", "$value": "semi-bold"}`, "--a", "600"},
		{"family", `"a": {"$type": "fontFamily", "$value": ["Hanken Grotesk", "serif"]}`, "--a", `"Hanken Grotesk", serif`},
		{"curve", `"a": {"$type": "cubicBezier", "$value": [0.2, 0, 0, 1]}`, "--a", "cubic-bezier(0.2, 0, 0, 1)"},
		{"shadow", palette + `"a": {"$type": "shadow", "$value": [{"color": "{blue}", "offsetX": {"value": 0, "unit": "px"}, "offsetY": {"value": 16, "unit": "px"}, "blur": {"value": 8, "unit": "px"}, "spread": {"value": 0, "unit": "px"}, "inset": true},
			{"color": "{blue}", "offsetX": {"value": 1, "unit": "rem"}, "offsetY": {"value": 0, "unit": "px"}, "blur": {"value": 0, "unit": "px"}, "spread": {"value": 2, "unit": "rem"}}]}`, "--a", "inset 0 1rem 0.5rem var(--blue), 1rem 0 0 2rem var(--blue)"},
		{"gradient", palette +
			`"a": {"$type": "gradient", "$value": [{"color": "{blue}", "position": 0}, {"color": "{blue}", "position": 0.333333}]}`, "--a", "linear-gradient(var(--blue) 0%, var(--blue) 33.3333%)"},
		{"gradient with an angle",
			palette + `"a": {"$type": "gradient", "$value": [{"color": "{blue}", "position": 0}], "$extensions": {"archetyp": {"angle": 90}}}`, "--a", "linear-gradient(90deg, var(--blue) 0%)"},
		{"radial", palette +
			`"a": {"$type": "gradient", "$value": [{"color": "{blue}", "position": 0}], "$extensions": {"archetyp": {"kind": "radial"}}}`, "--a", "radial-gradient(var(--blue) 0%)"},
		{"typography", `"f": {"$type": "fontFamily", "$value": "Go"}, "a": {"$type": "typography", "$value": {"fontFamily": "{f}", "fontSize": {"value": 16, "unit": "px"}, "fontWeight": 600, "letterSpacing": {"value": -0.8, "unit": "px"}, "lineHeight": 1.5}}`, "--a", "600 1rem/1.5 var(--f)"},
		{"its letter spacing",
			`"f": {"$type": "fontFamily", "$value": "Go"}, "a": {"$type": "typography", "$value": {"fontFamily": "{f}", "fontSize": {"value": 16, "unit": "px"}, "fontWeight": 600, "letterSpacing": {"value": -0.8, "unit": "px"}, "lineHeight": 1.5}}`, "--a-letter-spacing", "-0.05rem"},
		{"typography alias",
			`"t": {"$type": "typography", "$value": {"fontFamily": "Go", "fontSize": {"value": 16, "unit": "px"}, "fontWeight": 600, "letterSpacing": {"value": 0, "unit": "px"}, "lineHeight": 1.5}}, "a": {"$value": "{t}"}`, "--a-letter-spacing", "var(--t-letter-spacing)"},
		{"border", palette +
			`"a": {"$type": "border", "$value": {"color": "{blue}", "width": {"value": 1, "unit": "px"}, "style": "solid"}}`, "--a", "0.0625rem solid var(--blue)"},
		{"transition", `"a": {"$type": "transition", "$value": {"duration": {"value": 200, "unit": "ms"}, "delay": {"value": 0, "unit": "s"}, "timingFunction": [0, 0, 1, 1]}}`, "--a", "200ms cubic-bezier(0, 0, 1, 1) 0s"},
		{"root of a group", `"g": {"$root": {"$type": "number", "$value": 1}, "b": {"$type": "number", "$value": 2}}`, "--g",
			"1"},
		{"names with spaces", `"my group": {"a b": {"$type": "number", "$value": 1}}`, "--my-group-a-b", "1"},
		{"names that are numbers", `"600": {"$type": "number", "$value": 1}`, "--600", "1"},
	} {
		text, warnings, err := emit.CSS(lib(t, "{"+c.tokens+"}"), emit.Options{Unit: "rem", Name: "Test"})
		if err != nil || len(warnings) != 0 {
			t.Errorf("%s: %v %v", c.name, err, warnings)
			continue
		}
		if got := declaration(text, c.property); got != c.want {
			t.Errorf("%s: %s is %q, want %q\n%s", c.name, c.property, got, c.want, text)
		}
	}
}

func TestCSSInPixelsWithPrefix(t *testing.T) {
	s := lib(t, `{`+palette+`"a": {"$value": "{blue}"}, "w": {"$type": "dimension", "$value": {"value": 1.5, "unit": "rem"}}}`)
	text, _, err := emit.CSS(s, emit.Options{Unit: "px", Prefix: "tt", Root: 20, Name: "A */ B"})
	if err != nil {
		t.Fatal(err)
	}
	if declaration(text, "--tt-a") != "var(--tt-blue)" || declaration(text, "--tt-w") != "30px" ||
		strings.Count(text, "*/") != 1 {
		t.Error(text)
	}
}

func TestCSSNamesThatClash(t *testing.T) {
	_, _, err := emit.CSS(lib(t,
		`{"a-b": {"$type": "number", "$value": 1}, "a": {"b": {"$type": "number", "$value": 2}}}`), emit.Options{})
	if err == nil || !strings.Contains(err.Error(), "t.json:1:") || !strings.Contains(err.Error(), "--a-b") {
		t.Errorf("%v", err)
	}
}

func TestCSSSaysWhatItCannot(t *testing.T) {
	text, warnings, err := emit.CSS(lib(t,
		`{"a": {"$type": "strokeStyle", "$value": {"dashArray": [{"value": 2, "unit": "px"}], "lineCap": "round"}}}`), emit.Options{})
	if err != nil || len(warnings) != 1 || warnings[0].Token != "a" || declaration(text, "--a") != "" {
		t.Errorf("%v %v\n%s", err, warnings, text)
	}
}

func TestLiteral(t *testing.T) {
	s := set(t, `{`+palette+`"a": {"$value": "{blue}"}, "b": {"$value": "{a}"}, "f": {"$type": "fontFamily", "$value": "Go"},
		"t": {"$type": "typography", "$value": {"fontFamily": "{f}", "fontSize": {"value": 16, "unit": "px"}, "fontWeight": 600, "letterSpacing": {"value": 0, "unit": "px"}, "lineHeight": 1.5}}}`)
	for path, want := range map[string]string{"blue": "#0000ff", "t": "600 16px/1.5 Go"} {
		if got := emit.Literal(s, s.Get(path)); got != want {
			t.Errorf("%s is %s, want %s", path, got, want)
		}
	}
}

func BenchmarkCSS(b *testing.B) {
	var src strings.Builder
	src.WriteString("{" + palette)
	for i := 0; i < 2000; i++ {
		src.WriteString(`"t` + strings.Repeat("a", i%5) + string(rune('a'+i%26)) + string(rune('a'+i/26%26)) +
			string(rune('a'+i/676)) + `": {"$value": "{blue}"},`)
	}
	s := lib(b, strings.TrimSuffix(src.String(), ",")+"}")
	b.ReportAllocs()
	for b.Loop() {
		if _, _, err := emit.CSS(s, emit.Options{}); err != nil {
			b.Fatal(err)
		}
	}
}

// TestPlainProperties writes custom properties that a file carries as text, and leaves out what would end the block.
func TestPlainProperties(t *testing.T) {
	text, warnings, err := emit.CSS(lib(t, `{`+strings.TrimSuffix(palette, ", ")+`, "$extensions": {"archetyp": {"properties": {"--ring": "0 0 0 var(--w) red", "--bad": "1px } body { color: red", "--w": "2px"}}}}`), emit.Options{})
	if err != nil {
		t.Fatal(err)
	}
	if declaration(text, "--ring") != "0 0 0 var(--w) red" || declaration(text, "--w") != "2px" || strings.Contains(text, "body") {
		t.Error(text)
	}
	if len(warnings) != 1 || warnings[0].Token != "--bad" {
		t.Errorf("%v", warnings)
	}
}
