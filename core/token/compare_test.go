package token

import (
	"fmt"
	"strings"
	"testing"
)

func TestCompare(t *testing.T) {
	num := func(v int) string { return fmt.Sprintf(`{"$type": "number", "$value": %d}`, v) }
	for _, c := range []struct{ name, old, now, want string }{
		{"nothing", `"a": ` + num(1), `"a": ` + num(1), ""},
		{"other layout", `"a": ` + num(1), `"a" :{"$value":1,"$type":"number"}`, ""},
		{"value", `"a": ` + num(1), `"a": ` + num(2), "changed a"},
		{"added and removed", `"a": ` + num(1), `"b": ` + num(2), "added b, removed a"},
		{"renamed", `"g": {"a": ` + num(1) + `}`, `"g": {"b": ` + num(1) + `}`, "renamed g.b from g.a"},
		{"moved", `"g": {"a": ` + num(1) + `}`, `"h": {"a": ` + num(1) + `}`, "renamed h.a from g.a"},
		{"not renamed: other group and name", `"g": {"a": ` + num(1) + `}`, `"h": {"b": ` + num(1) + `}`,
			"added h.b, removed g.a"},
		{"what points to one renamed", `"a": ` + num(1) + `, "x": {"$value": "{a}"}`, `"b": ` + num(1) +
			`, "x": {"$value": "{b}"}`, "renamed b from a"},
		{"alias to another", `"a": ` + num(1) + `, "b": ` + num(1) + `, "x": {"$value": "{a}"}`, `"a": ` + num(1) +
			`, "b": ` + num(1) + `, "x": {"$value": "{b}"}`, "changed x"},
		{"an extension of ours",
			`"a": {"$type": "gradient", "$value": [{"color": {"colorSpace": "srgb", "components": [0, 0, 0]}, "position": 0}]}`,
			`"a": {"$type": "gradient", "$value": [{"color": {"colorSpace": "srgb", "components": [0, 0, 0]}, "position": 0}], "$extensions": {"archetyp": {"angle": 90}}}`, "changed a"},
	} {
		a, b := Plain(Resolve(Parse([]byte("{"+c.old+"}"), "a.json"))), Plain(Resolve(Parse([]byte("{"+c.now+"}"), "b.json")))
		var got []string
		for _, ch := range Compare(a, b) {
			s := ch.Kind + " " + ch.Path
			if ch.From != "" {
				s += " from " + ch.From
			}
			got = append(got, s)
		}
		if strings.Join(got, ", ") != c.want {
			t.Errorf("%s: %s, want %s", c.name, strings.Join(got, ", "), c.want)
		}
	}
}

func TestCompareContexts(t *testing.T) {
	lib := func(dark string) *Library {
		return ParseResolver([]byte(`{"version": "2025.10", "modifiers": {"scheme": {"contexts": {"light": [], "dark": [{`+dark+`}]}, "default": "light"}},
			"resolutionOrder": [{"type": "set", "name": "s", "sources": [{"c": {"$type": "color", "$value": {"colorSpace": "srgb", "components": [1, 1, 1]}}}]}, {"$ref": "#/modifiers/scheme"}]}`), "r.json", nil).Library()
	}
	black := `"c": {"$type": "color", "$value": {"colorSpace": "srgb", "components": [0, 0, 0]}}`
	list := Compare(lib(""), lib(black))
	if len(list) != 1 || list[0].Kind != "added" || list[0].Context != "scheme.dark" {
		t.Errorf("%+v", list)
	}
	list = Compare(lib(strings.Replace(black, "0, 0, 0", "1, 0, 0", 1)), lib(black))
	if len(list) != 1 || list[0].Kind != "changed" || list[0].Difference < 0.5 {
		t.Errorf("%+v", list)
	}
}
