package token

import (
	"errors"
	"fmt"
	"strings"
	"testing"

	"archetyp/core/color"
)

// parse reads one file as a set.
func parse(src string) ([]*Token, []Error, error) {
	s := Resolve(Parse([]byte(src), "t.json"))
	return s.Tokens, s.Warnings, s.Err()
}

// TestWrittenValuesReadBack holds that a value written anew says the same; the cases are those of the conformance
// table.
func TestWrittenValuesReadBack(t *testing.T) {
	n := 0
	for _, r := range readRules(t, "testdata/format.txt") {
		for _, c := range r.cases {
			s := Resolve(Parse([]byte(c.json), "t.json"))
			for _, tok := range s.Tokens {
				if !c.valid || tok.Value.Alias != "" || strings.Contains(tok.Value.JSON(), "{a}") ||
					strings.Contains(tok.Value.JSON(), `"{`) {
					continue
				}
				again, warnings, err := parse(`{"x": {"$type": "` + string(tok.Type) + `", "$value": ` + tok.Value.JSON() + `}}`)
				if err != nil || len(warnings) > 0 || again[0].Value.JSON() != tok.Value.JSON() {
					t.Errorf("%s reads back as %v %v", tok.Value.JSON(), err, warnings)
				}
				n++
			}
		}
	}
	if n < 70 {
		t.Errorf("only %d values were tried", n)
	}
}

func TestFaultsHavePlaces(t *testing.T) {
	for _, c := range []struct {
		name, in     string
		line, column int
		path, msg    string
	}{
		{"no JSON", `{`, 1, 2, "", "not valid JSON"},
		{"words", `hello`, 1, 1, "", "not valid JSON"},
		{"not UTF-8", "{\"\xff\":1}", 1, 3, "", "UTF-8"},
		{"unknown type", "{\n  \"a\": {\"$type\": \"colour\", \"$value\": 1}}", 2, 18, "a", "the type"},
		{"no type", `{"a": {"$value": 1}}`, 1, 18, "a", "no $type"},
		{"a component", "{\"a\": {\"$type\": \"color\", \"$value\": {\"colorSpace\": \"srgb\",\n\"components\": [0, 2, 0]}}}",
			2, 19, "a", "0 to 1"},
		{"a part", "{\"a\": {\"$type\": \"typography\", \"$value\": {\n  \"fontFace\": 1}}}", 2, 3, "a", "no part"},
		{"an alias", "{\"a\": {\"$type\": \"color\",\n\"$value\": \"{b}\"}}", 2, 11, "a", "no token {b}"},
		{"too deep", strings.Repeat(`{"a":`, 100) + "{}" + strings.Repeat("}", 100), 1, 1, "", "deep"},
	} {
		_, _, err := parse(c.in)
		var e *Error
		if !errors.As(err, &e) || !strings.Contains(e.Msg, c.msg) || e.Path != c.path || e.Line != c.line ||
			e.Column != c.column || e.File != "t.json" {
			t.Errorf("%s: %v, want %d:%d %s …%s…", c.name, err, c.line, c.column, c.path, c.msg)
		}
	}
}

// TestEveryFaultIsTold holds that one broken token hides neither the others nor their faults.
func TestEveryFaultIsTold(t *testing.T) {
	s := Resolve(Parse([]byte(`{"a": {"$type": "number", "$value": "x"}, "b": {"$type": "number", "$value": 1}, "c": {"$value": "{b}"}, "d": {"$value": "{a}"}, "e": {"$type": "color", "$value": 1}}`), "t.json"))
	if len(s.Faults) != 3 || len(s.Tokens) != 2 || s.Get("c").Type != Number {
		t.Errorf("%v, %d tokens", s.Faults, len(s.Tokens))
	}
}

// TestEndlessWorkIsRefused holds that no small file can ask for endless work or memory.
func TestEndlessWorkIsRefused(t *testing.T) {
	var groups, refs strings.Builder
	groups.WriteString(`{"g40": {"$type": "number", "a": {"$value": 1}}`)
	for i := 39; i >= 0; i-- {
		fmt.Fprintf(&groups, `, "g%d": {"l": {"$extends": "{g%d}"}, "r": {"$extends": "{g%d}"}}`, i, i+1, i+1)
	}
	refs.WriteString(`{"s40": {"$type": "shadow", "$value": 1}`)
	for i := 39; i >= 0; i-- {
		fmt.Fprintf(&refs, `, "s%d": {"$type": "color", "$value": {"colorSpace": "srgb", "components": [{"$ref": "#/s%d/$value/components"}, {"$ref": "#/s%d/$value/components"}, {"$ref": "#/s%d/$value/components"}]}}`, i, i+1, i+1, i+1)
	}
	for name, src := range map[string]string{"$extends": groups.String() + "}", "$ref": refs.String() + "}"} {
		if _, _, err := parse(src); err == nil {
			t.Errorf("%s: nothing is said", name)
		}
	}
}

func TestOlderFormsAreReadWithOneWarning(t *testing.T) {
	tokens, warnings, err := parse(`{"a": {"$type": "color", "$value": "#0b6e8f"}, "b": {"$type": "dimension", "$value": "1.5rem"}, "c": {"$type": "dimension", "$value": "4px"}}`)
	if err != nil || len(warnings) != 1 || len(tokens) != 3 {
		t.Fatalf("%v, %v", err, warnings)
	}
	if tokens[0].Value.Color.Hex() != "#0b6e8f" || *tokens[1].Value.Length != (Length{1.5, "rem"}) {
		t.Errorf("%v %v", tokens[0].Value, tokens[1].Value)
	}
}

func TestGroups(t *testing.T) {
	tokens, _, err := parse(`{
  "$description": "all",
  "color": {
    "$type": "color",
    "sea": {"600": {"$value": {"colorSpace": "srgb", "components": [0, 0, 1]}, "$description": "The sea", "$deprecated": true}},
    "$root": {"$value": "{color.sea.600}"}
  },
  "grad": {"$type": "gradient", "$value": [{"color": "{color.sea.600}", "position": 0}], "$extensions": {"archetyp": {"angle": 45, "kind": "radial"}, "other": [1]}}
}`)
	if err != nil {
		t.Fatal(err)
	}
	if len(tokens) != 3 || tokens[0].Path != "color.sea.600" || tokens[0].Type != Color ||
		tokens[0].Description != "The sea" || tokens[0].Deprecated != "deprecated" || tokens[0].Position().Line != 5 {
		t.Errorf("%+v", tokens[0])
	}
	if tokens[1].Path != "color.$root" || *tokens[2].Own.Angle != 45 || tokens[2].Own.Kind != "radial" {
		t.Errorf("%+v %+v", tokens[1], tokens[2])
	}
}

func set(files ...string) (*Set, error) {
	var all []*File
	for i, f := range files {
		all = append(all, Parse([]byte(f), string(rune('a'+i))+".json"))
	}
	s := Resolve(all...)
	return s, s.Err()
}

func TestSeveralFiles(t *testing.T) {
	const blue = `{"blue": {"$type": "color", "$value": {"colorSpace": "srgb", "components": [0, 0, 1]}}}`
	s, err := set(blue, `{"link": {"$value": "{blue}"}, "link2": {"$value": "{link}"}}`)
	if err != nil {
		t.Fatal(err)
	}
	link := s.Get("link2")
	end := s.Resolve(link)
	if end.Path != "blue" || link.Type != Color {
		t.Errorf("%v, type %s", end, link.Type)
	}
	for name, files := range map[string][]string{
		"there is no token":    {`{"a": {"$type": "color", "$value": "{none}"}}`},
		"leads back":           {`{"a": {"$type": "color", "$value": "{b}"}, "b": {"$type": "color", "$value": "{a}"}}`},
		"leads back to itself": {`{"a": {"$value": "{a}"}}`},
		"is a color":           {blue, `{"a": {"$type": "number", "$value": "{blue}"}}`},
		"stands in a.json":     {blue, blue},
		"no token {gone}":      {`{"a": {"$type": "gradient", "$value": [{"color": "{gone}", "position": 0}]}}`},
	} {
		if _, err := set(files...); err == nil || !strings.Contains(err.Error(), name) {
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
		{"beside", "{\n  \"x\": {\"$type\":\"number\",   \"$value\":1}\n}\n", "a",
			"{\n  \"x\": {\"$type\":\"number\",   \"$value\":1},\n  \"a\": " + value + "\n}\n"},
		{"into a group", "{\n\t\"g\": {\n\t\t\"x\": {\"$type\": \"number\", \"$value\": 1}\n\t},\n\t\"h\": {}\n}", "g.a",
			"{\n\t\"g\": {\n\t\t\"x\": {\"$type\": \"number\", \"$value\": 1},\n\t\t\"a\": " + value + "\n\t},\n\t\"h\": {}\n}"},
		{"into an empty group", "{\n  \"g\": {}\n}", "g.a", "{\n  \"g\": {\n    \"a\": " + value + "\n  }\n}"},
		{"four spaces", "{\n    \"x\": {\"$type\": \"number\", \"$value\": 1}\n}", "n.a",
			"{\n    \"x\": {\"$type\": \"number\", \"$value\": 1},\n    \"n\": {\n        \"a\": " + value + "\n    }\n}"},
	} {
		got, err := added([]byte(c.before), "t.json", []*Token{add(c.path)})
		if err != nil || string(got) != c.after {
			t.Errorf("%s: %v\n%s\nwant\n%s", c.name, err, got, c.after)
		}
		if _, _, err := parse(string(got)); err != nil {
			t.Errorf("%s: what was written does not read: %v", c.name, err)
		}
	}
	if _, err := added([]byte(`{"a": `+value+`}`), "t.json", []*Token{add("a")}); err == nil {
		t.Error("a token is written over")
	}
	if _, err := added([]byte(`{`), "t.json", []*Token{add("a")}); err == nil {
		t.Error("a broken file is written into")
	}
}

func FuzzParse(f *testing.F) {
	for _, s := range []string{`{"a": {"$type": "color", "$value": "#fff"}}`,
		`{"a": {"$value": "{b}"}, "b": {"$type": "number", "$value": 1}}`,
		`{"s": {"$type": "shadow", "$value": [{"color": "{c}", "offsetX": "1px"}]}}`, `{"$extends": "x", "g": {"$type": "dimension", "x": {"$value": {"value": 1, "unit": "px"}}}}`} {
		f.Add([]byte(s))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		s := Resolve(Parse(data, "t.json"))
		for _, e := range s.Faults {
			if e.Line < 1 || e.Column < 1 {
				t.Fatalf("a fault without a place: %v", e)
			}
		}
		e, err := Edit(nil, "t.json")
		if err != nil {
			t.Fatal(err)
		}
		n := 0
		for _, tok := range s.Tokens[:min(len(s.Tokens), 50)] {
			if e.Add([]*Token{tok}) == nil { // else a name that is a group elsewhere
				n++
			}
		}
		fresh, err := e.Bytes()
		if err != nil {
			t.Fatal(err)
		}
		again := Resolve(Parse(fresh, "t.json"))
		for _, f := range again.Faults {
			if !strings.Contains(f.Msg, "{") { // aliases to what was left out
				t.Fatalf("what is written does not read: %v\n%s", f, fresh)
			}
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
		s.WriteString("\n  \"t" + strings.Repeat("x", i%7) + string(rune('a'+i%26)) + string(rune('a'+i/26%26)) +
			string(rune('a'+i/676)) + `": {"$type": "color", "$value": {"colorSpace": "srgb", "components": [0, 0.5, 1]}}`)
	}
	s.WriteString("\n}")
	data := []byte(s.String())
	b.SetBytes(int64(len(data)))
	b.ReportAllocs()
	for b.Loop() {
		if err := Resolve(Parse(data, "t.json")).Err(); err != nil {
			b.Fatal(err)
		}
	}
}

// added is what a file holds once tokens are added; empty for a new file.
func added(data []byte, file string, tokens []*Token) ([]byte, error) {
	e, err := Edit(data, file)
	if err != nil {
		return nil, err
	}
	if err := e.Add(tokens); err != nil {
		return nil, err
	}
	return e.Bytes()
}
