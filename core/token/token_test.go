package token

import (
	"errors"
	"strings"
	"testing"

	"archetyp/core/color"
)

func TestParseValues(t *testing.T) {
	for _, c := range []struct{ typ, value, want string }{
		{"color", `{"colorSpace": "srgb", "components": [1, 0, 0]}`, `{"colorSpace": "srgb", "components": [1, 0, 0], "hex": "#ff0000"}`},
		{"color", `{"colorSpace": "srgb", "components": [1, 0, 0], "alpha": 0.5, "hex": "#ff0000"}`, `{"colorSpace": "srgb", "components": [1, 0, 0], "alpha": 0.5, "hex": "#ff0000"}`},
		{"color", `{"colorSpace": "oklch", "components": [0.7, 0.1, "none"]}`, `{"colorSpace": "oklch", "components": [0.7, 0.1, "none"], "hex": "#d2849c"}`},
		{"color", `{"colorSpace": "display-p3", "components": [1, 0, 0]}`, `{"colorSpace": "display-p3", "components": [1, 0, 0]}`},
		{"dimension", `{"value": 16, "unit": "px"}`, `{"value": 16, "unit": "px"}`},
		{"dimension", `{"value": 0.5, "unit": "rem"}`, `{"value": 0.5, "unit": "rem"}`},
		{"dimension", `{"value": -4, "unit": "px"}`, `{"value": -4, "unit": "px"}`},
		{"duration", `{"value": 120, "unit": "ms"}`, `{"value": 120, "unit": "ms"}`},
		{"number", `1.5`, `1.5`},
		{"fontFamily", `"Hanken Grotesk"`, `"Hanken Grotesk"`},
		{"fontFamily", `["Hanken Grotesk", "sans-serif"]`, `["Hanken Grotesk", "sans-serif"]`},
		{"fontWeight", `600`, `600`},
		{"fontWeight", `"bold"`, `700`},
		{"cubicBezier", `[0.2, 0, 0, 1]`, `[0.2, 0, 0, 1]`},
		{"strokeStyle", `"dashed"`, `"dashed"`},
		{"strokeStyle", `{"dashArray": [{"value": 2, "unit": "px"}], "lineCap": "round"}`, `{"dashArray": [{"value": 2, "unit": "px"}], "lineCap": "round"}`},
		{"shadow", `{"color": {"colorSpace": "srgb", "components": [0, 0, 0]}, "offsetX": {"value": 0, "unit": "px"}, "offsetY": {"value": 4, "unit": "px"}, "blur": {"value": 8, "unit": "px"}, "spread": {"value": 0, "unit": "px"}, "inset": true}`,
			`{"color": {"colorSpace": "srgb", "components": [0, 0, 0], "hex": "#000000"}, "offsetX": {"value": 0, "unit": "px"}, "offsetY": {"value": 4, "unit": "px"}, "blur": {"value": 8, "unit": "px"}, "spread": {"value": 0, "unit": "px"}, "inset": true}`},
		{"gradient", `[{"color": "{a}", "position": 0}, {"color": "{b}", "position": 1}]`, `[{"color": "{a}", "position": 0}, {"color": "{b}", "position": 1}]`},
		{"typography", `{"fontFamily": "{f}", "fontSize": {"value": 16, "unit": "px"}, "fontWeight": 400, "letterSpacing": {"value": 0, "unit": "px"}, "lineHeight": 1.5}`,
			`{"fontFamily": "{f}", "fontSize": {"value": 16, "unit": "px"}, "fontWeight": 400, "letterSpacing": {"value": 0, "unit": "px"}, "lineHeight": 1.5}`},
		{"border", `{"color": "{c}", "width": {"value": 1, "unit": "px"}, "style": "solid"}`, `{"color": "{c}", "width": {"value": 1, "unit": "px"}, "style": "solid"}`},
		{"transition", `{"duration": {"value": 200, "unit": "ms"}, "delay": {"value": 0, "unit": "ms"}, "timingFunction": [0, 0, 1, 1]}`,
			`{"duration": {"value": 200, "unit": "ms"}, "delay": {"value": 0, "unit": "ms"}, "timingFunction": [0, 0, 1, 1]}`},
		{"color", `"{other.token}"`, `"{other.token}"`},
	} {
		tokens, warnings, err := Parse([]byte(`{"x": {"$type": "`+c.typ+`", "$value": `+c.value+`}}`), "t.json")
		if err != nil || len(tokens) != 1 || len(warnings) != 0 {
			t.Errorf("%s %s: %v %v", c.typ, c.value, err, warnings)
			continue
		}
		if got := tokens[0].Value.JSON(); got != c.want {
			t.Errorf("%s %s\n  is %s\nwant %s", c.typ, c.value, got, c.want)
		}
		again, _, err := Parse([]byte(`{"x": {"$type": "`+c.typ+`", "$value": `+c.want+`}}`), "t.json")
		if err != nil || again[0].Value.JSON() != c.want {
			t.Errorf("%s: what is written reads back as %v, %v", c.want, again, err)
		}
	}
}

func TestParseRefuses(t *testing.T) {
	tok := func(typ, value string) string {
		return `{"a": {"b": {"$type": "` + typ + `", "$value": ` + value + `}}}`
	}
	for _, c := range []struct {
		name, in     string
		line, column int
		path, msg    string
	}{
		{"no JSON", `{`, 1, 2, "", "not valid JSON"},
		{"words", `hello`, 1, 1, "", "not valid JSON"},
		{"a list", `[]`, 1, 1, "", "JSON object"},
		{"comment", "{\n// x\n}", 1, 1, "", "comments"},
		{"not UTF-8", "{\"\xff\":1}", 1, 1, "", "UTF-8"},
		{"unknown type", tok("colour", `1`), 1, 23, "a.b", `the type`},
		{"type twice", `{"a": {"$value": 1}, "a": {"$value": 2}}`, 0, 0, "", ""},
		{"no type", `{"a": {"$value": 1}}`, 1, 18, "a", "no $type"},
		{"bad colour", tok("color", `{"colorSpace": "srgb", "components": [1, 0]}`), 0, 0, "a.b", "three components"},
		{"unknown space", tok("color", `{"colorSpace": "cmyk", "components": [1, 0, 0]}`), 0, 0, "a.b", "colorSpace"},
		{"alpha too large", tok("color", `{"colorSpace": "srgb", "components": [1, 0, 0], "alpha": 2}`), 0, 0, "a.b", "alpha"},
		{"bad string colour", tok("color", `"bluish"`), 0, 0, "a.b", "is wanted"},
		{"unit", tok("dimension", `{"value": 1, "unit": "em"}`), 0, 0, "a.b", "px or rem"},
		{"no unit", tok("dimension", `16`), 0, 0, "a.b", "px or rem"},
		{"number as text", tok("number", `"1"`), 0, 0, "a.b", "a number"},
		{"weight", tok("fontWeight", `2000`), 0, 0, "a.b", "1 to 1000"},
		{"weight name", tok("fontWeight", `"fat"`), 0, 0, "a.b", "1 to 1000"},
		{"bezier", tok("cubicBezier", `[2, 0, 0, 1]`), 0, 0, "a.b", "four numbers"},
		{"family", tok("fontFamily", `[1]`), 0, 0, "a.b", "names"},
		{"typography part", tok("typography", `{"fontFace": "x"}`), 0, 0, "a.b", "no part"},
		{"typography lacks", tok("typography", `{"fontFamily": "x"}`), 0, 0, "a.b", "is wanted"},
		{"inset", tok("shadow", `{"inset": 1}`), 0, 0, "a.b", "true or false"},
		{"empty shadow", tok("shadow", `[]`), 0, 0, "a.b", "something in it"},
		{"gradient", tok("gradient", `{}`), 0, 0, "a.b", "list of stops"},
		{"name with a dot", `{"a.b": {"$value": 1}}`, 1, 2, "", "no dots"},
		{"name with braces", `{"a{": {"$value": 1}}`, 1, 2, "", "braces"},
		{"unknown key", `{"$thing": 1}`, 1, 2, "", "not known"},
		{"unknown key in a token", `{"a": {"$value": 1, "$type": "number", "x": 1}}`, 0, 0, "a", "cannot stand"},
		{"no object", `{"a": 1}`, 1, 7, "a", "JSON object"},
		{"reference", tok("color", `{"$ref": "#/a"}`), 0, 0, "a.b", "$ref"},
		{"too deep", strings.Repeat(`{"a":`, 100) + "{}" + strings.Repeat("}", 100), 1, 1, "", "deep"},
	} {
		_, _, err := Parse([]byte(c.in), "t.json")
		var e *Error
		if c.msg == "" {
			if err == nil {
				t.Errorf("%s is read", c.name)
			}
			continue
		}
		if !errors.As(err, &e) {
			t.Errorf("%s: %v, want an error with a place", c.name, err)
			continue
		}
		if !strings.Contains(e.Msg, c.msg) || e.Path != c.path || c.line != 0 && (e.Line != c.line || e.Column != c.column) || e.File != "t.json" || e.Line < 1 {
			t.Errorf("%s: %v, want %d:%d %s …%s…", c.name, e, c.line, c.column, c.path, c.msg)
		}
	}
}

func TestOlderFormsAreReadWithOneWarning(t *testing.T) {
	tokens, warnings, err := Parse([]byte(`{"a": {"$type": "color", "$value": "#0b6e8f"}, "b": {"$type": "dimension", "$value": "1.5rem"}, "c": {"$type": "dimension", "$value": "4px"}}`), "t.json")
	if err != nil || len(warnings) != 1 || len(tokens) != 3 {
		t.Fatalf("%v, %v", err, warnings)
	}
	if tokens[0].Value.Color.Hex() != "#0b6e8f" || *tokens[1].Value.Length != (Length{1.5, "rem"}) {
		t.Errorf("%v %v", tokens[0].Value, tokens[1].Value)
	}
}

func TestGroups(t *testing.T) {
	tokens, _, err := Parse([]byte(`{
  "$description": "all",
  "color": {
    "$type": "color",
    "sea": {"600": {"$value": {"colorSpace": "srgb", "components": [0, 0, 1]}, "$description": "The sea", "$deprecated": true}},
    "$root": {"$value": "{color.sea.600}"}
  },
  "grad": {"$type": "gradient", "$value": [{"color": "{color.sea.600}", "position": 0}], "$extensions": {"archetyp": {"angle": 45, "kind": "radial"}, "other": [1]}}
}`), "t.json")
	if err != nil {
		t.Fatal(err)
	}
	if len(tokens) != 3 || tokens[0].Path != "color.sea.600" || tokens[0].Type != Color || tokens[0].Description != "The sea" || !tokens[0].Deprecated || tokens[0].Position.Line != 5 {
		t.Errorf("%+v", tokens[0])
	}
	if tokens[1].Path != "color.$root" || *tokens[2].Angle != 45 || !tokens[2].Radial {
		t.Errorf("%+v %+v", tokens[1], tokens[2])
	}
}

func set(t testing.TB, files ...string) (*Set, error) {
	t.Helper()
	var all [][]*Token
	for i, f := range files {
		tokens, _, err := Parse([]byte(f), string(rune('a'+i))+".json")
		if err != nil {
			t.Fatal(err)
		}
		all = append(all, tokens)
	}
	return Merge(all...)
}

func TestMerge(t *testing.T) {
	const blue = `{"blue": {"$type": "color", "$value": {"colorSpace": "srgb", "components": [0, 0, 1]}}}`
	s, err := set(t, blue, `{"link": {"$value": "{blue}"}, "link2": {"$value": "{link}"}}`)
	if err != nil {
		t.Fatal(err)
	}
	link := s.Get("link2")
	end, err := s.Resolve(link)
	if err != nil || end.Path != "blue" || link.Type != Color {
		t.Errorf("%v %v, type %s", end, err, link.Type)
	}
	for name, files := range map[string][]string{
		"there is no token":    {`{"a": {"$type": "color", "$value": "{none}"}}`},
		"leads back":           {`{"a": {"$type": "color", "$value": "{b}"}, "b": {"$type": "color", "$value": "{a}"}}`},
		"leads back to itself": {`{"a": {"$value": "{a}"}}`},
		"is a color":           {blue, `{"a": {"$type": "number", "$value": "{blue}"}}`},
		"stands in a.json":     {blue, blue},
		"no token {gone}":      {`{"a": {"$type": "gradient", "$value": [{"color": "{gone}", "position": 0}]}}`},
	} {
		if _, err := set(t, files...); err == nil || !strings.Contains(err.Error(), name) {
			t.Errorf("%v, want …%s…", err, name)
		}
	}
}

func TestAddKeepsEveryOtherByte(t *testing.T) {
	blue := color.RGB8(0, 0, 255)
	add := func(path string) *Token { return &Token{Path: path, Type: Color, Value: Value{Color: &blue}} }
	const value = `{"$type": "color", "$value": {"colorSpace": "srgb", "components": [0, 0, 1], "hex": "#0000ff"}}`
	for _, c := range []struct{ name, before, path, after string }{
		{"empty", "", "a.b", "{\n  \"a\": {\n    \"b\": " + value + "\n  }\n}\n"},
		{"an empty object", "{}", "a", "{\n  \"a\": " + value + "\n}"},
		{"beside", "{\n  \"x\": {\"$type\":\"number\",   \"$value\":1}\n}\n", "a", "{\n  \"x\": {\"$type\":\"number\",   \"$value\":1},\n  \"a\": " + value + "\n}\n"},
		{"into a group", "{\n\t\"g\": {\n\t\t\"x\": {\"$type\": \"number\", \"$value\": 1}\n\t},\n\t\"h\": {}\n}", "g.a", "{\n\t\"g\": {\n\t\t\"x\": {\"$type\": \"number\", \"$value\": 1},\n\t\t\"a\": " + value + "\n\t},\n\t\"h\": {}\n}"},
		{"into an empty group", "{\n  \"g\": {}\n}", "g.a", "{\n  \"g\": {\n    \"a\": " + value + "\n  }\n}"},
		{"four spaces", "{\n    \"x\": {\"$type\": \"number\", \"$value\": 1}\n}", "n.a", "{\n    \"x\": {\"$type\": \"number\", \"$value\": 1},\n    \"n\": {\n        \"a\": " + value + "\n    }\n}"},
	} {
		got, err := Add([]byte(c.before), "t.json", []*Token{add(c.path)})
		if err != nil || string(got) != c.after {
			t.Errorf("%s: %v\n%s\nwant\n%s", c.name, err, got, c.after)
		}
		if _, _, err := Parse(got, "t.json"); err != nil {
			t.Errorf("%s: what was written does not read: %v", c.name, err)
		}
	}
	if _, err := Add([]byte(`{"a": `+value+`}`), "t.json", []*Token{add("a")}); err == nil {
		t.Error("a token is written over")
	}
	if _, err := Add([]byte(`{`), "t.json", []*Token{add("a")}); err == nil {
		t.Error("a broken file is written into")
	}
}

func FuzzParse(f *testing.F) {
	for _, s := range []string{`{"a": {"$type": "color", "$value": "#fff"}}`, `{"a": {"$value": "{b}"}, "b": {"$type": "number", "$value": 1}}`,
		`{"s": {"$type": "shadow", "$value": [{"color": "{c}", "offsetX": "1px"}]}}`, `{"$extends": "x", "g": {"$type": "dimension", "x": {"$value": {"value": 1, "unit": "px"}}}}`} {
		f.Add([]byte(s))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		tokens, _, err := Parse(data, "t.json")
		if err != nil {
			var e *Error
			if !errors.As(err, &e) || e.Line < 1 || e.Column < 1 {
				t.Fatalf("an error without a place: %v", err)
			}
			return
		}
		if _, err := Merge(tokens); err != nil {
			return
		}
		var fresh []byte
		for _, tok := range tokens {
			next, err := Add(fresh, "t.json", []*Token{tok})
			if err != nil {
				return // a name that is a group elsewhere
			}
			fresh = next
		}
		if len(tokens) == 0 {
			return
		}
		if _, _, err := Parse(fresh, "t.json"); err != nil {
			t.Fatalf("what is written does not read: %v\n%s", err, fresh)
		}
	})
}

func BenchmarkParse(b *testing.B) {
	var s strings.Builder
	s.WriteString("{")
	for i := 0; i < 1000; i++ {
		if i > 0 {
			s.WriteString(",")
		}
		s.WriteString("\n  \"t" + strings.Repeat("x", i%7) + string(rune('a'+i%26)) + string(rune('a'+i/26%26)) + string(rune('a'+i/676)) + `": {"$type": "color", "$value": {"colorSpace": "srgb", "components": [0, 0.5, 1]}}`)
	}
	s.WriteString("\n}")
	data := []byte(s.String())
	b.SetBytes(int64(len(data)))
	b.ReportAllocs()
	for b.Loop() {
		if _, _, err := Parse(data, "t.json"); err != nil {
			b.Fatal(err)
		}
	}
}
