package token

import (
	"fmt"
	"strings"
	"testing"
)

func TestCheck(t *testing.T) {
	grey := func(v float64) string {
		return fmt.Sprintf(`{"$type": "color", "$value": {"colorSpace": "srgb", "components": [%g, %[1]g, %[1]g]}}`, v)
	}
	px := func(v float64) string {
		return fmt.Sprintf(`{"$type": "dimension", "$value": {"value": %g, "unit": "px"}}`, v)
	}
	for _, c := range []struct {
		name, tokens string
		o            CheckOptions
		want         string
	}{
		{"all well", `"color": {"text": {"default": ` + grey(0) + `}, "surface": {"page": ` + grey(1) + `}}`, CheckOptions{},
			""},
		{"broken", `"a": {"$type": "number", "$value": "x"}`, CheckOptions{}, "valid! a"},
		{"too faint", `"color": {"text": {"hint": ` + grey(0.6) + `}, "surface": {"page": ` + grey(1) + `, "raised": ` +
			grey(0) + `}}`, CheckOptions{}, "contrast! color.text.hint"},
		{"disabled is exempt", `"color": {"text": {"disabled": ` + grey(0.6) + `}, "surface": {"page": ` + grey(1) + `}}`,
			CheckOptions{}, ""},
		{"inverse on actions only", `"color": {"text": {"inverse": ` + grey(1) + `}, "surface": {"page": ` + grey(1) +
			`}, "action": {"default": ` + grey(0.9) + `}}`, CheckOptions{}, "contrast! color.text.inverse"},
		{"on-x on x", `"color": {"text": {"on-brand": ` + grey(1) + `}, "surface": {"page": ` + grey(1) + `, "brand": ` +
			grey(0.1) + `}}`, CheckOptions{}, ""},
		{"duplicates", `"g": {"a": ` + px(4) + `, "b": ` + px(4) + `, "c": {"$value": "{g.a}"}}, "h": {"a": ` + px(4) + `}`,
			CheckOptions{}, "duplicate g.b"},
		{"off the scale", `"space": {"a": ` + px(4) + `, "b": ` + px(5) + `}`, CheckOptions{Scales: Scales{Space: 4}},
			"scale space.b"},
		{"names", `"space": {"a": ` + px(4) + `, "Big One": ` + px(8) + `}`, CheckOptions{Names: "[a-z0-9-]+"},
			"naming! space.Big One"},
		{"unused", `"a": ` + px(1) + `, "b": ` + px(2) + `, "c": {"$value": "{a}"}, "d": {"$value": "{b}"}`,
			CheckOptions{Used: map[string]bool{"c": true}}, "unused b, unused d"},
		{"names for what is used", `"a": ` + px(1) + `, "b": {"$value": "{a}"}`,
			CheckOptions{Used: map[string]bool{"a": true}}, ""},
		{"an older form", `"a": {"$type": "dimension", "$value": "4px"}`, CheckOptions{}, "older-form a"},
		{"a merge to settle",
			`"a": {"$type": "number", "$value": 1, "$extensions": {"archetyp": {"conflict": {"$value": {"base": 0, "theirs": 2}}}}}`, CheckOptions{}, "conflict! a"},
	} {
		list, err := Check(Plain(Resolve(Parse([]byte("{"+c.tokens+"}"), "t.json"))), c.o)
		if err != nil {
			t.Fatal(err)
		}
		var got []string
		for _, f := range list {
			s := f.Rule
			if f.Grave {
				s += "!"
			}
			got = append(got, s+" "+f.Path)
			if f.Line < 1 || f.File == "" || f.Msg == "" {
				t.Errorf("%s: %+v lacks a place or words", c.name, f)
			}
		}
		if strings.Join(got, ", ") != c.want {
			t.Errorf("%s: %s, want %s", c.name, strings.Join(got, ", "), c.want)
		}
	}
	if _, err := Check(Plain(Resolve()), CheckOptions{Names: "("}); err == nil {
		t.Error("a broken pattern is taken")
	}
}

// TestCheckInEverySheme holds that contrast is checked in the dark as well, and said once for what does not change.
func TestCheckInEveryScheme(t *testing.T) {
	grey := func(v float64) string {
		return fmt.Sprintf(`{"$type": "color", "$value": {"colorSpace": "srgb", "components": [%g, %[1]g, %[1]g]}}`, v)
	}
	lib := ParseResolver([]byte(`{"version": "2025.10", "modifiers": {"scheme": {"contexts": {"light": [], "dark": [{"color": {"surface": {"page": `+grey(0.1)+`}}}]}, "default": "light"}},
		"resolutionOrder": [{"type": "set", "name": "s", "sources": [{"color": {"text": {"default": `+grey(0)+`, "hint": `+grey(0.7)+`}, "surface": {"page": `+grey(1)+`, "raised": `+grey(1)+`}}}]}, {"$ref": "#/modifiers/scheme"}]}`), "r.json", nil).Library()
	list, err := Check(lib, CheckOptions{})
	if err != nil {
		t.Fatal(err)
	}
	var got []string
	for _, f := range list {
		got = append(got, f.Path+" "+f.Context+" "+f.Msg[:4])
	}
	if want := "color.text.hint  2.11|color.text.hint  2.11|color.text.default scheme.dark 1.20|color.surface.raised  hold"; strings.Join(got, "|") != want {
		t.Errorf("%s", strings.Join(got, "|"))
	}
}
