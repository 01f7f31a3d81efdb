package token_test

import (
	"fmt"
	"sort"
	"strings"
	"testing"

	"archetyp/core/design"
	"archetyp/core/svg"
	"archetyp/core/token"
)

func drawing(t testing.TB, content string) []*design.Document {
	t.Helper()
	d, err := svg.Read("t.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400">`+content+`</svg>`), svg.Options{})
	if err != nil {
		t.Fatal(err)
	}
	return []*design.Document{d}
}

// found describes what was collected of a kind: value×uses and what is made of it.
func found(h *token.Harvest, kind string) string {
	var out []string
	for _, f := range h.Found {
		if f.Kind != kind {
			continue
		}
		s := fmt.Sprintf("%s×%d", f.Text, len(f.Uses))
		switch {
		case f.Token != "":
			s += " =" + f.Token
		case f.Near != "":
			s += " ~" + f.Near
		case f.Off != "":
			s += " off " + f.Off
		case f.Proposed != "":
			s += " +" + f.Proposed
		}
		out = append(out, s)
	}
	return strings.Join(out, ", ")
}

func TestCollect(t *testing.T) {
	box := func(x, y, w, h int) string {
		return fmt.Sprintf(`<rect x="%d" y="%d" width="%d" height="%d" fill="#fff"/>`, x, y, w, h)
	}
	for _, c := range []struct{ name, content, kind, want string }{
		{"colours by use", `<rect width="9" height="9" fill="#0b6e8f"/><rect width="9" height="9" fill="#0B6E8F"/><rect width="9" height="9" fill="red"/>`, "color", "#0b6e8f×2 +color.blue.500, #ff0000×1 +color.red.350"},
		{"near-duplicates", `<rect width="9" height="9" fill="#0b6e8f"/><rect width="9" height="9" fill="#0b6e8f"/><rect width="9" height="9" fill="#0c6f91"/>`, "color", "#0b6e8f×2 +color.blue.500, #0c6f91×1 ~#0b6e8f"},
		{"black, white, grey", `<rect width="9" height="9"/><rect width="9" height="9" fill="#fff"/><rect width="9" height="9" fill="#888"/>`, "color", "#000000×1 +color.black.base, #ffffff×1 +color.white.base, #888888×1 +color.grey.350"},
		{"translucent", `<rect width="9" height="9" fill="#fff" fill-opacity=".2"/>`, "color", "rgb(255 255 255 / 0.2)×1 +color.white.alpha-20"},
		{"hidden ones do not count", `<rect width="9" height="9" fill="red" display="none"/>`, "color", ""},
		{"clear ones do not count", `<rect width="9" height="9" fill="red" fill-opacity="0"/>`, "color", ""},
		{"radii", `<rect width="90" height="50" rx="8"/><rect width="90" height="50" rx="8"/><rect width="90" height="50" rx="16"/>`, "radius", "8px×2 +radius.m, 16px×1 +radius.l"},
		{"pills have no radius of their own", `<rect width="90" height="32" rx="16"/>`, "radius", ""},
		{"radius of the outer edge", `<rect width="90" height="50" rx="7" stroke="red" stroke-width="2"/>`, "radius", "8px×1 +radius.m"},
		{"nearly the same radius", `<rect width="90" height="50" rx="8"/><rect width="90" height="50" rx="8"/><rect width="90" height="50" rx="9"/>`, "radius", "8px×2 +radius.m, 9px×1 ~8px"},
		{"shadows", `<filter id="f"><feDropShadow dx="0" dy="2" stdDeviation="3"/></filter><rect width="90" height="50" filter="url(#f)"/>`, "shadow", "0 2px 6px #000000×1 +shadow.m"},
		{"gradients", `<linearGradient id="g"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient><g id="Sky"><rect width="90" height="50" fill="url(#g)"/><rect y="60" width="90" height="50" fill="url(#g)"/></g>`, "gradient", "linear-gradient(90deg, #ff0000 0%, #0000ff 100%)×2 +gradient.sky"},
		{"gaps", `<g>` + box(0, 0, 40, 20) + box(50, 0, 40, 20) + box(100, 0, 40, 20) + `</g>`, "space", "10px×2 off 12px"},
		{"gaps on the scale", `<g>` + box(0, 0, 40, 20) + box(48, 0, 40, 20) + box(96, 0, 40, 20) + `</g>`, "space", "8px×2 +space.8"},
		{"gaps down", `<g>` + box(0, 0, 40, 20) + box(0, 36, 40, 20) + box(0, 72, 40, 20) + `</g>`, "space", "16px×2 +space.16"},
		{"insets", `<g><rect width="200" height="100" fill="#fff"/>` + box(16, 16, 168, 68) + `</g>`, "space", "16px×4 +space.16"},
		{"used once", `<g>` + box(0, 0, 40, 20) + box(48, 0, 40, 20) + `</g>`, "space", "8px×1"},
		{"overlapping boxes have no gap", `<g>` + box(0, 0, 40, 20) + box(20, 0, 40, 20) + `</g>`, "space", ""},
	} {
		h := token.Collect(drawing(t, c.content), nil, token.Scales{Space: 4}, nil)
		if got := found(h, c.kind); got != c.want {
			t.Errorf("%s: %s\nwant %s", c.name, got, c.want)
		}
	}
}

func TestTypeStyles(t *testing.T) {
	line := func(size, weight int, family, words string) string {
		return fmt.Sprintf(`<text y="40" font-family="%s" font-size="%d" font-weight="%d">%s</text>`, family, size, weight, words)
	}
	content := line(16, 400, "Go", "a long text that is read most of all") + line(16, 600, "Go", "strong") + line(14, 400, "Go", "small") +
		line(20, 700, "Go", "a heading") + line(17, 400, "Go", "odd") + line(32, 400, "Other", "Title")
	h := token.Collect(drawing(t, content), nil, token.Scales{Type: []float64{14, 16, 20, 32}}, nil)
	want := "400 14px Go×1 +type.small, 400 16px Go×1 +type.body, 600 16px Go×1 +type.body-strong, 400 17px Go×1 off 16px, 700 20px Go×1 +type.heading, 400 32px Other×1 +type.title"
	if got := found(h, "type"); got != want {
		t.Errorf("%s\nwant %s", got, want)
	}
}

func TestNamesByUse(t *testing.T) {
	content := `<rect width="400" height="400" fill="#f5f8fa"/><rect x="10" y="10" width="300" height="100" fill="#fff" stroke="#d5dfe6"/>
		<text y="40" fill="#10243a">one two three</text><text y="60" fill="#10243a">four</text><text y="80" fill="#5a6f83">five</text>
		<rect x="10" y="200" width="100" height="40" fill="#0b6e8f"/><text x="20" y="220" fill="#fff">Pay</text>`
	h := token.Collect(drawing(t, content), nil, token.Scales{}, nil)
	var got []string
	for _, a := range h.Aliases {
		got = append(got, a.Path+"→"+a.Value.Alias)
	}
	sort.Strings(got)
	want := "color.action.default→color.blue.500 color.border.default→color.grey.100 color.surface.page→color.grey.50 color.surface.raised→color.white.base color.text.default→color.blue.750 color.text.inverse→color.white.base color.text.muted→color.blue.450"
	if strings.Join(got, " ") != want {
		t.Errorf("%s\nwant %s", strings.Join(got, " "), want)
	}
}

// TestAcceptedTokensAreFoundAgain holds that what was accepted is known the next time, and proposed no more.
func TestAcceptedTokensAreFoundAgain(t *testing.T) {
	docs := drawing(t, `<linearGradient id="g"><stop stop-color="red" stop-opacity=".4"/><stop offset="1" stop-color="blue"/></linearGradient>
		<radialGradient id="r"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></radialGradient>
		<filter id="f"><feDropShadow dx="0" dy="2" stdDeviation="3" flood-color="#10243a" flood-opacity=".12"/></filter>
		<g><rect width="200" height="100" rx="8" fill="url(#g)" filter="url(#f)"/><rect x="16" y="16" width="168" height="68" rx="4" fill="#0b6e8f"/></g>
		<circle cx="300" cy="300" r="50" fill="url(#r)"/><text x="9" y="300" font-family="Go" font-size="16" letter-spacing=".5">words</text>`)
	h := token.Collect(docs, nil, token.Scales{Space: 4}, nil)
	add := h.Tokens(func(string) bool { return true }, nil)
	data, err := token.Add(nil, "t.json", add)
	if err != nil {
		t.Fatal(err)
	}
	have := token.Resolve(token.Parse(data, "t.json"))
	if err := have.Err(); err != nil {
		t.Fatalf("%v\n%s", err, data)
	}
	again := token.Collect(docs, have, token.Scales{Space: 4}, nil)
	if n := again.Proposals(); n != 0 {
		t.Errorf("%d values are proposed again", n)
	}
	for _, f := range again.Found {
		if f.Token == "" && !f.Flagged() {
			t.Errorf("%s is no token now", f.Text)
		}
	}
	if more := again.Tokens(func(string) bool { return true }, have); len(more) != 0 {
		t.Errorf("%d tokens would be written again", len(more))
	}
	if some := h.Tokens(func(p string) bool { return strings.HasPrefix(p, "radius.") }, nil); len(some) != 2 {
		t.Errorf("%d radii are accepted by a pattern, want 2", len(some))
	}
}
