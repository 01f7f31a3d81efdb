package token

import (
	"strings"
	"testing"
)

const ledger = `{
  "$description": "All of it",
  "color": {
    "$type": "color",
    "sea": {
      "$value": {
        "colorSpace": "srgb",
        "components": [0, 0.40, 0.6],
        "hex": "#006699"
      },
      "$extensions": {"org.example": {"keep": [1, 2]}}
    },
    "link": {"$value": "{color.sea}"},
    "bare": {"$value": {"colorSpace": "srgb", "components": [1, 1, 1]}}
  },
  "line": {"tight": {"$type": "number", "$value": 1.50}},
  "weight": {"strong": {"$type": "fontWeight", "$value": "bold"}},
  "old": {"$type": "dimension", "$value": "4px"},
  "edge": {
    "field": {"$type": "border", "$value": {"color": {"$ref": "#/color/sea/$value"}, "width": {"value": 1, "unit": "px"}, "style": "solid"}}
  }
}
`

// changes are the lines that differ, as "- old" and "+ new".
func changes(before, after string) string {
	a, b := strings.Split(before, "\n"), strings.Split(after, "\n")
	head := 0
	for head < len(a) && head < len(b) && a[head] == b[head] {
		head++
	}
	tail := 0
	for tail < len(a)-head && tail < len(b)-head && a[len(a)-1-tail] == b[len(b)-1-tail] {
		tail++
	}
	var out []string
	for _, l := range a[head : len(a)-tail] {
		out = append(out, "- "+strings.TrimSpace(l))
	}
	for _, l := range b[head : len(b)-tail] {
		out = append(out, "+ "+strings.TrimSpace(l))
	}
	return strings.Join(out, "\n")
}

func edited(t *testing.T, do func(e *Editor) error) string {
	t.Helper()
	e, err := Edit([]byte(ledger), "t.json")
	if err != nil {
		t.Fatal(err)
	}
	if err := do(e); err != nil {
		return "error " + err.Error()
	}
	data, err := e.Bytes()
	if err != nil {
		t.Fatal(err)
	}
	if faults := Resolve(Parse(data, "t.json")).Faults; len(faults) > 0 {
		t.Errorf("the file has faults now: %v\n%s", faults, data)
	}
	return changes(ledger, string(data))
}

func TestSetWritesOnlyWhatDiffers(t *testing.T) {
	value := func(typ Type, json string) Value {
		v, err := ParseValue(json, typ)
		if err != nil {
			t.Fatal(err)
		}
		return v
	}
	for _, c := range []struct {
		path string
		v    Value
		want string
	}{
		{"color.sea", value(Color, `{"colorSpace": "srgb", "components": [0, 0.4, 0.6]}`), ""},
		{"color.sea", value(Color, `{"colorSpace": "srgb", "components": [0, 0.4, 0.8]}`), `- "components": [0, 0.40, 0.6],
- "hex": "#006699"
+ "components": [0, 0.40, 0.8],
+ "hex": "#0066cc"`},
		{"color.sea", value(Color, `"{color.bare}"`), `- "$value": {
- "colorSpace": "srgb",
- "components": [0, 0.40, 0.6],
- "hex": "#006699"
- },
+ "$value": "{color.bare}",`},
		{"color.bare", value(Color, `{"colorSpace": "srgb", "components": [1, 0, 1]}`), `- "bare": {"$value": {"colorSpace": "srgb", "components": [1, 1, 1]}}
+ "bare": {"$value": {"colorSpace": "srgb", "components": [1, 0, 1]}}`},
		{"color.bare", value(Color, `{"colorSpace": "srgb", "components": [1, 1, 1], "alpha": 0.5}`), `- "bare": {"$value": {"colorSpace": "srgb", "components": [1, 1, 1]}}
+ "bare": {"$value": {"colorSpace": "srgb", "components": [1, 1, 1], "alpha": 0.5, "hex": "#ffffff"}}`},
		{"line.tight", value(Number, `1.5`), ""},
		{"line.tight", value(Number, `1.6`), `- "line": {"tight": {"$type": "number", "$value": 1.50}},
+ "line": {"tight": {"$type": "number", "$value": 1.6}},`},
		{"weight.strong", value(FontWeight, `700`), ""},
		{"weight.strong", value(FontWeight, `600`), `- "weight": {"strong": {"$type": "fontWeight", "$value": "bold"}},
+ "weight": {"strong": {"$type": "fontWeight", "$value": 600}},`},
		{"old", value(Dimension, `{"value": 4, "unit": "px"}`), ""},
		{"old", value(Dimension, `{"value": 5, "unit": "px"}`), `- "old": {"$type": "dimension", "$value": "4px"},
+ "old": {"$type": "dimension", "$value": {"value": 5, "unit": "px"}},`},
		{"edge.field", value(Border, `{"color": "{color.sea}", "width": {"value": 2, "unit": "px"}, "style": "solid"}`),
			`- "field": {"$type": "border", "$value": {"color": {"$ref": "#/color/sea/$value"}, "width": {"value": 1, "unit": "px"}, "style": "solid"}}
+ "field": {"$type": "border", "$value": {"color": {"$ref": "#/color/sea/$value"}, "width": {"value": 2, "unit": "px"}, "style": "solid"}}`},
		{"color.sand", value(Color, `"{color.sea}"`), "error t.json:1:1: color.sand: there is no such token in this file"},
	} {
		if got := edited(t, func(e *Editor) error { return e.Set(c.path, c.v) }); got != c.want {
			t.Errorf("%s = %s:\n%s\nwant\n%s", c.path, c.v.JSON(), got, c.want)
		}
	}
}

func TestPropertiesOfTokens(t *testing.T) {
	angle := 45.0
	for _, c := range []struct {
		name string
		do   func(e *Editor) error
		want string
	}{
		{"describe", func(e *Editor) error { return e.Describe("color.link", `Where "it" leads`) }, `- "link": {"$value": "{color.sea}"},
+ "link": {"$value": "{color.sea}", "$description": "Where \"it\" leads"},`},
		{"describe, over several lines", func(e *Editor) error { return e.Describe("color.sea", "Deep") }, `- "$extensions": {"org.example": {"keep": [1, 2]}}
+ "$extensions": {"org.example": {"keep": [1, 2]}},
+ "$description": "Deep"`},
		{"our own beside another's", func(e *Editor) error { return e.SetOwn("color.sea", Own{Angle: &angle}) }, `- "$extensions": {"org.example": {"keep": [1, 2]}}
+ "$extensions": {"org.example": {"keep": [1, 2]}, "archetyp": {"angle": 45}}`},
		{"our own alone", func(e *Editor) error { return e.SetOwn("color.link", Own{Kind: "radial", Shape: "circle"}) }, `- "link": {"$value": "{color.sea}"},
+ "link": {"$value": "{color.sea}", "$extensions": {"archetyp": {"kind": "radial", "shape": "circle"}}},`},
		{"nothing of our own", func(e *Editor) error { return e.SetOwn("color.sea", Own{}) }, ""},
		{"our own, and gone again", func(e *Editor) error {
			if err := e.SetOwn("color.link", Own{Angle: &angle}); err != nil {
				return err
			}
			return e.SetOwn("color.link", Own{})
		}, ""},
	} {
		if got := edited(t, c.do); got != c.want {
			t.Errorf("%s:\n%s\nwant\n%s", c.name, got, c.want)
		}
	}
}

func TestRemoveAndRename(t *testing.T) {
	redirected := func(from, to string, typ Type) func(e *Editor) error {
		return func(e *Editor) error {
			if err := e.Rename(from, to, typ); err != nil {
				return err
			}
			_, err := e.Redirect(from, to)
			return err
		}
	}
	for _, c := range []struct {
		name string
		do   func(e *Editor) error
		want string
	}{
		{"remove one of several", func(e *Editor) error { return e.Remove("color.link") },
			`- "link": {"$value": "{color.sea}"},`},
		{"remove the last", func(e *Editor) error { return e.Remove("color.bare") }, `- "link": {"$value": "{color.sea}"},
- "bare": {"$value": {"colorSpace": "srgb", "components": [1, 1, 1]}}
+ "link": {"$value": "{color.sea}"}`},
		{"remove the only one, and its group", func(e *Editor) error { return e.Remove("line.tight") },
			`- "line": {"tight": {"$type": "number", "$value": 1.50}},`},
		{"remove nothing", func(e *Editor) error { return e.Remove("line.loose") },
			"error t.json:1:1: line.loose: there is no such token in this file"},
		{"rename within a group", redirected("color.link", "color.anchor", Color), `- "link": {"$value": "{color.sea}"},
+ "anchor": {"$value": "{color.sea}"},`},
		{"rename what others point to", redirected("color.sea", "color.water", Color), `- "sea": {
+ "water": {
- "$value": {`},
		{"move out of a group that gives the type", redirected("color.bare", "paint.bare", Color),
			`- "link": {"$value": "{color.sea}"},`},
		{"onto another", redirected("color.link", "color.sea", Color),
			"error t.json:5:5: color.sea: there is a token or group of this name already"},
		{"into a token", redirected("color.link", "line.tight.link", Color),
			"error t.json:16:12: line.tight.link: would lie inside a token"},
	} {
		got := edited(t, c.do)
		if first, _, _ := strings.Cut(c.want, "\n"); got != c.want && !(strings.HasPrefix(c.name, "rename what") ||
			strings.HasPrefix(c.name, "move")) || !strings.HasPrefix(got, first) {
			t.Errorf("%s:\n%s\nwant\n%s", c.name, got, c.want)
		}
	}
	whole := func(do func(e *Editor) error) string {
		e, err := Edit([]byte(ledger), "t.json")
		if err == nil {
			err = do(e)
		}
		data, berr := e.Bytes()
		if err != nil || berr != nil {
			t.Fatal(err, berr)
		}
		return string(data)
	}
	if got := whole(redirected("color.sea", "color.water", Color)); !strings.Contains(got, `"{color.water}"`) ||
		!strings.Contains(got, `"#/color/water/$value"`) || strings.Contains(got, "sea") {
		t.Errorf("%s", got)
	}
	if got := whole(redirected("color", "paint", "")); !strings.Contains(got,
		"\n  \"paint\": {\n    \"$type\": \"color\",") || !strings.Contains(got, `"{paint.sea}"`) {
		t.Errorf("%s", got)
	}
	if got := whole(redirected("color.bare", "paint.bare", Color)); !strings.Contains(got,
		`"bare": {"$type": "color", "$value": {"colorSpace"`) {
		t.Errorf("the type is lost: %s", got)
	}
}

func TestEditRefusesWhatIsNoTokenFile(t *testing.T) {
	for _, src := range []string{"[]", "{", `{"a": 1,}`, "{ /* x */ }", "\xff"} {
		if _, err := Edit([]byte(src), "t.json"); err == nil || !strings.HasPrefix(err.Error(), "t.json:1:") {
			t.Errorf("%q: %v", src, err)
		}
	}
}
