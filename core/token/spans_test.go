package token

import (
	"fmt"
	"testing"
)

func TestPlacesInATokenFile(t *testing.T) {
	const file = `{"color": {"a": {"$type": "color", "$value": "#fff"}, "b": {"$value": "{color.a}"}},
 "shadow": {"$type": "shadow", "$value": {"color": "{color.b}", "blur": {"value": 1, "unit": "px"}}}}`
	var got []string
	for _, s := range Spans([]byte(file)) {
		line := fmt.Sprint(s.Path, " ", s.Token, " ", file[s.NameFrom:s.NameTo], " ", file[s.From:s.To])
		for _, a := range s.Aliases {
			line += " → " + a.Path + " " + file[a.From:a.To]
		}
		got = append(got, line)
	}
	want := []string{`color false "color" `, `color.a true "a" "#fff"`, `color.b true "b" "{color.a}" → color.a {color.a}`,
		`shadow true "shadow" {"color": "{color.b}", "blur": {"value": 1, "unit": "px"}} → color.b {color.b}`}
	if fmt.Sprintf("%q", got) != fmt.Sprintf("%q", want) {
		t.Errorf("got\n%q\nwant\n%q", got, want)
	}
	if s := Spans([]byte(`{"color": `)); s != nil {
		t.Errorf("of no JSON: %v", s)
	}
}

func TestWhatALengthIsFor(t *testing.T) {
	for path, want := range map[string]string{"space.4": "space", "spacing.4": "space", "borderRadius.m": "radius", "border.radius.m": "radius", "radius": "radius", "font-size.m": "size",
		"fontSize.m": "size", "border-width.thin": "width", "size.icon": "size", "layout.gap": "space", "sidebar": "", "card.height": ""} {
		if got := LengthUse(path); got != want {
			t.Errorf("%s: %q, want %q", path, got, want)
		}
	}
}
