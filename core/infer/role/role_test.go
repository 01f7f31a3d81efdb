package role_test

import (
	"testing"

	"archetyp/core/css"
	"archetyp/core/infer/role"
	"archetyp/core/read/svg"
)

func one(t *testing.T, content string) role.Found {
	t.Helper()
	d, err := svg.Read("t.svg",
		[]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400">`+content+
			`<text x="10" y="300" font-size="14">Most words of the screen are set like this, so that others stand out.</text></svg>`),
		svg.Options{})
	if err != nil {
		t.Fatal(err)
	}
	sel, err := css.ParseSelector("#x")
	if err != nil {
		t.Fatal(err)
	}
	found := d.Query(sel)
	if len(found) != 1 {
		t.Fatalf("%d elements", len(found))
	}
	return role.On(d.Screens[0]).Of(found[0])
}

func TestRoles(t *testing.T) {
	const box = `<rect x="10" y="10" width="120" height="40" rx="8" fill="#0b6e8f"/>`
	const middle = `<text x="70" y="35" text-anchor="middle" font-size="14">Pay now</text>`
	for _, c := range []struct {
		name, content string
		role          role.Role
		rank          int
	}{
		{"a mark", `<g id="x" data-role="switch">` + box + `</g>`, role.Switch, 0},
		{"a mark in words of HTML", `<g id="x" data-role="input">` + box + `</g>`, role.Field, 0},
		{"a mark that is not known", `<g id="x" data-role="meter">` + box + `</g>`, "meter", 0},
		{"a component", `<g id="x" data-component="tab-bar">` + box + middle + `</g>`, role.Navigation, 0},
		{"a name", `<g id="x" data-label="Main button">` + box + middle + `</g>`, role.Button, 0},
		{"a box with words in the middle", `<g id="x">` + box + middle + `</g>`, role.Button, 0},
		{"a box with words at the start", `<g id="x">` + box + `<text x="20" y="35" font-size="14">Pay</text></g>`,
			role.Group, 0},
		{"a card", `<g id="x"><rect x="10" y="10" width="300" height="200" fill="#fff"/>` + middle + `</g>`, role.Group, 0},
		{"where it leads", `<g id="x" data-leads-to="Booking">` + box + `<text x="20" y="35">Pay</text></g>`, role.Button, 0},
		{"words that lead somewhere", `<text id="x" y="40" data-leads-to="Booking">See times</text>`, role.Link, 0},
		{"a field", `<g id="x"><text x="10" y="20" font-size="13">Travellers</text><rect x="10" y="30" width="200" height="44" fill="#fff" stroke="#abc"/><text x="24" y="58" font-size="14">2 adults</text></g>`, role.Field, 0},
		{"a title", `<text id="x" y="40" font-size="30">Island timetable</text>`, role.Heading, 1},
		{"a smaller heading",
			`<text y="40" font-size="30">Island timetable</text><text id="x" y="80" font-size="20">Sailings</text>`, role.Heading, 2},
		{"a large number", `<text id="x" y="40" font-size="30">72.75</text>`, role.Text, 0},
		{"a title that is called one", `<text id="x" data-label="title" y="40" font-size="14">Your trip</text>`, role.Heading,
			1},
		{"several lines", `<text id="x" font-size="14"><tspan x="0" y="20">Windy on Saturday.</tspan><tspan x="0" y="44">Some crossings are late.</tspan></text>`, role.Paragraph, 0},
		{"a line", `<rect id="x" y="50" width="300" height="1"/>`, role.Separator, 0},
		{"an outline", `<path id="x" d="M0 0C9 9 18 9 27 0L3 30z"/>`, role.Picture, 0},
		{"a drawing", `<g id="x"><path d="M0 0C9 9 18 9 27 0z"/><circle r="4"/></g>`, role.Picture, 0},
		{"a list", `<g id="x"><g><rect y="0" width="200" height="40"/><text y="20">One</text></g><g><rect y="48" width="200" height="40"/><text y="70">Two</text></g><g><rect y="96" width="200" height="40"/><text y="120">Three</text></g></g>`, role.List, 0},
	} {
		if got := one(t, c.content); got.Role != c.role || got.Rank != c.rank || got.Why == "" {
			t.Errorf("%s: %+v, want %s %d", c.name, got, c.role, c.rank)
		}
	}
}

func TestNamed(t *testing.T) {
	for name, want := range map[string]role.Role{"Main button": role.Button, "pay-button": role.Button, "btn": role.Button,
		"Text area": role.Area, "Button group": role.Group, "": role.None, "quay": role.None, "trip list item": role.Item} {
		if got := role.Named(name); got != want {
			t.Errorf("%q: %q, want %q", name, got, want)
		}
	}
}
