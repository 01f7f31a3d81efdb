package harvest_test

import (
	"fmt"
	"sort"
	"strings"
	"testing"

	"archetyp/core/design"
	"archetyp/core/read/svg"
	"archetyp/core/token"
	"archetyp/core/token/harvest"
)

func drawing(t testing.TB, content string) []*design.Document {
	t.Helper()
	d, err := svg.Read("t.svg",
		[]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400">`+content+`</svg>`), svg.Options{})
	if err != nil {
		t.Fatal(err)
	}
	return []*design.Document{d}
}

// found describes what was collected of a kind: value×uses and what is made of it.
func found(h *harvest.Harvest, kind string) string {
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
		{"black, white, grey",
			`<rect width="9" height="9"/><rect width="9" height="9" fill="#fff"/><rect width="9" height="9" fill="#888"/>`, "color", "#000000×1 +color.black.base, #ffffff×1 +color.white.base, #888888×1 +color.grey.350"},
		{"translucent", `<rect width="9" height="9" fill="#fff" fill-opacity=".2"/>`, "color",
			"rgb(255 255 255 / 0.2)×1 +color.white.alpha-20"},
		{"hidden ones do not count", `<rect width="9" height="9" fill="red" display="none"/>`, "color", ""},
		{"clear ones do not count", `<rect width="9" height="9" fill="red" fill-opacity="0"/>`, "color", ""},
		{"radii", `<rect width="90" height="50" rx="8"/><rect width="90" height="50" rx="8"/><rect width="90" height="50" rx="16"/>`, "radius", "8px×2 +radius.8, 16px×1 +radius.16"},
		{"a pill has no radius of its own", `<rect width="90" height="32" rx="16"/>`, "radius", "9999px×1"},
		{"pills", `<rect width="90" height="32" rx="16"/><rect width="120" height="40" rx="20"/><circle r="9"/><rect width="30" height="2" rx="1"/>`, "radius", "9999px×2 +radius.full"},
		{"a whole number is meant",
			`<rect width="90" height="50" rx="10.5"/><rect width="90" height="50" rx="10.5"/><rect width="90" height="50" rx="10"/>`, "radius", "10px×1 +radius.10, 10.5px×2 ~10px"},
		{"radii inside of pictures", `<g data-asset="x"><rect width="90" height="50" rx="8"/></g>`, "radius", ""},
		{"shades close to each other",
			`<rect width="9" height="9" fill="#f1f5f9"/><rect width="9" height="9" fill="#dbe2ea"/><rect width="9" height="9" fill="#e6ebf1"/><rect width="9" height="9" fill="#334155"/>`, "color", "#f1f5f9×1 +color.grey.30, #dbe2ea×1 +color.grey.100, #e6ebf1×1 +color.grey.60, #334155×1 +color.blue.650"},
		{"the same opacity written twice",
			`<rect width="9" height="9" fill="#fff" fill-opacity=".41"/><rect width="9" height="9" fill="#fff" fill-opacity=".41"/><rect width="9" height="9" fill="rgba(255,255,255,.4118)"/>`, "color", "rgb(255 255 255 / 0.41)×2 +color.white.alpha-41, rgb(255 255 255 / 0.4118)×1 ~rgb(255 255 255 / 0.41)"},
		{"a copy that only casts a shadow",
			`<filter id="f" x="-1" y="-1" width="3" height="3"><feGaussianBlur in="SourceAlpha" stdDeviation="4"/></filter><g><use href="#b" filter="url(#f)"/><rect id="b" width="90" height="50" rx="8" fill="#fff"/></g>`, "color", "#ffffff×1 +color.white.base"},
		{"radius of the outer edge", `<rect width="90" height="50" rx="7" stroke="red" stroke-width="2"/>`, "radius",
			"8px×1 +radius.8"},
		{"nearly the same radius",
			`<rect width="90" height="50" rx="8"/><rect width="90" height="50" rx="8"/><rect width="90" height="50" rx="9"/>`, "radius", "8px×2 +radius.8, 9px×1 ~8px"},
		{"shadows", `<filter id="f"><feDropShadow dx="0" dy="2" stdDeviation="3"/></filter><rect width="90" height="50" filter="url(#f)"/>`, "shadow", "0 2px 6px #000000×1 +shadow.m"},
		{"gradients", `<linearGradient id="g"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient><g id="Sky"><rect width="90" height="50" fill="url(#g)"/><rect y="60" width="90" height="50" fill="url(#g)"/></g>`, "gradient", "linear-gradient(90deg, #ff0000 0%, #0000ff 100%)×2 +gradient.sky"},
		{"gaps", `<g>` + box(0, 0, 40, 20) + box(50, 0, 40, 20) + box(100, 0, 40, 20) + `</g>`, "space", "10px×2 off 12px"},
		{"gaps on the scale", `<g>` + box(0, 0, 40, 20) + box(48, 0, 40, 20) + box(96, 0, 40, 20) + `</g>`, "space",
			"8px×2 +space.8"},
		{"gaps down", `<g>` + box(0, 0, 40, 20) + box(0, 36, 40, 20) + box(0, 72, 40, 20) + `</g>`, "space",
			"16px×2 +space.16"},
		{"insets", `<g><rect width="200" height="100" fill="#fff"/>` + box(16, 16, 168, 68) + `</g>`, "space",
			"16px×4 +space.16"},
		{"used once", `<g>` + box(0, 0, 40, 20) + box(48, 0, 40, 20) + `</g>`, "space", "8px×1"},
		{"overlapping boxes have no gap", `<g>` + box(0, 0, 40, 20) + box(20, 0, 40, 20) + `</g>`, "space", ""},
	} {
		h := harvest.Collect(drawing(t, c.content), nil, token.Scales{Space: 4}, nil)
		if got := found(h, c.kind); got != c.want {
			t.Errorf("%s: %s\nwant %s", c.name, got, c.want)
		}
	}
}

func TestTypeStyles(t *testing.T) {
	line := func(size, weight int, family, words string) string {
		return fmt.Sprintf(`<text y="40" font-family="%s" font-size="%d" font-weight="%d">%s</text>`, family, size, weight,
			words)
	}
	content := line(16, 400, "Go", "a long text that is read most of all") + line(16, 600, "Go", "strong") + line(14, 400,
		"Go", "small") +
		line(20, 700, "Go", "a heading") + line(17, 400, "Go", "odd") + line(32, 400, "Other", "Title")
	h := harvest.Collect(drawing(t, content), nil, token.Scales{Type: []float64{14, 16, 20, 32}}, nil)
	want := "400 14px Go×1 +type.small, 400 16px Go×1 +type.body, 600 16px Go×1 +type.body-semibold, 400 17px Go×1 off " +
		"16px, 700 20px Go×1 +type.heading, 400 32px Other×1 +type.title"
	if got := found(h, "type"); got != want {
		t.Errorf("%s\nwant %s", got, want)
	}
}

// names lists what is proposed by use.
func names(h *harvest.Harvest) string {
	var got []string
	for _, a := range h.Aliases {
		got = append(got, a.Path+"→"+a.Value.Alias)
	}
	sort.Strings(got)
	return strings.Join(got, " ")
}

// A name by use wants several elements that agree.
func TestNamesByUse(t *testing.T) {
	card := func(y int) string {
		return fmt.Sprintf(`<rect x="10" y="%d" width="380" height="80" fill="#fff" stroke="#d5dfe6"/><text x="20" y="%d" fill="#10243a">one two three</text><text x="20" y="%d" fill="#5a6f83">four</text>
		<rect x="290" y="%d" width="90" height="40" fill="#0b6e8f"/><text x="335" y="%d" text-anchor="middle" fill="#fff">Pay</text>`, y, y+30, y+60, y+20, y+45)
	}
	const page = `<rect width="400" height="400" fill="#f5f8fa"/>`
	for _, c := range []struct{ name, content, want string }{
		{"several of each", page + card(10) + card(100) + card(190),
			"color.action.default→color.blue.500 color.border.default→color.grey.100 color.surface.page→color.grey.50 " +
				"color.surface.raised→color.white.base color.text.default→color.blue.750 color.text.inverse→color.white.base " +
				"color.text.muted→color.blue.450"},
		{"one of each", page + card(10), "color.surface.page→color.grey.50"},
		{"icons", strings.Repeat(`<path d="M0 0h9l9 9z" fill="#f2a541" stroke="#fff"/><rect width="9" height="9" fill="#e4572e" stroke="#fff"/>`, 5), ""},
		{"cards are no page",
			strings.Repeat(`<rect x="20" width="300" height="90" fill="#fff"/><text y="40" x="40" fill="#10243a">one two</text>`,
				3), "color.surface.raised→color.white.base color.text.default→color.blue.750"},
		{"in the dark", strings.NewReplacer("#f5f8fa", "#10243a", "#10243a", "#f5f8fa", "#fff", "#1b3450", "#5a6f83",
			"#9db0bf", "#d5dfe6", "#2c4560").Replace(page + card(10) + card(100) +
			card(190)), "color.action.default→color.blue.500 color.border.default→color.blue.600 " +
			"color.surface.page→color.blue.750 color.surface.raised→color.blue.700 color.text.default→color.grey.50 " +
			"color.text.muted→color.blue.250"},
	} {
		if got := names(harvest.Collect(drawing(t, c.content), nil, token.Scales{}, nil)); got != c.want {
			t.Errorf("%s: %s\nwant %s", c.name, got, c.want)
		}
	}
}

// Type is named by the rank of its size and by weight; what differs in nothing but spacing, by that.
func TestTypeNames(t *testing.T) {
	content := ""
	for _, s := range []string{`font-size="16"`, `font-size="16" font-weight="500"`, `font-size="16" font-weight="700"`,
		`font-size="16" letter-spacing="-.2"`, `font-size="16" letter-spacing=".4"`, `font-size="16" letter-spacing=".8"`,
		`font-size="14"`, `font-size="12" font-weight="300"`, `font-size="12"`, `font-size="10"`, `font-size="9"`, `font-size="20" font-weight="600"`, `font-size="24"`,
		`font-family="Quay Mono" font-size="14"`, `font-family="Sail" font-size="14"`, `font-family="Tide" font-size="28"`, `font-family="Tide" font-size="36"`} {
		content += `<text y="20" font-family="Go" ` + s + `>words</text>`
	}
	content = strings.ReplaceAll(content, `font-family="Go" font-family`, "font-family")
	var got []string
	for _, f := range harvest.Collect(drawing(t, content), nil, token.Scales{Type: []float64{9, 10, 12, 14, 16, 20, 24, 28,
		36}}, nil).Found {
		got = append(got, strings.TrimPrefix(f.Proposed, "type."))
	}
	want := "color.black.base fine-9 fine caption-light caption small mono sail body body-tight body-wide " +
		"body-wide-0-8 body-medium body-bold heading-m heading-l title-m title-l"
	if s := strings.Join(got, " "); s != want {
		t.Errorf("%s\nwant %s", s, want)
	}
}

// What rests on a font that is not there is never written.
func TestMissingFontsGiveNoLineHeight(t *testing.T) {
	h := harvest.Collect(drawing(t, `<text y="40" font-family="Quay" font-size="16">Pier</text><text y="80" font-family="Quay" font-size="20"><tspan x="0" y="80">one</tspan><tspan x="0" y="110">two</tspan></text>
		<g><rect width="300" height="90" fill="#fff"/><g><text x="16" y="40" font-family="Quay">Pier</text></g><rect x="100" y="16" width="20" height="20"/></g>`), nil, token.Scales{}, nil)
	data, err := added(nil, "t.json", h.Tokens(func(p string) bool { return strings.HasPrefix(p, "type.") }, nil))
	if err != nil {
		t.Fatal(err)
	}
	for _, want := range []string{`"lineHeight": 1.2}, "$extensions": {"archetyp": {"written": {"lineHeight": "normal"}}}`,
		`"lineHeight": 1.5}`} {
		if !strings.Contains(string(data), want) {
			t.Errorf("no %s in\n%s", want, data)
		}
	}
	if got := found(h, "space"); strings.Contains(got, "gap") || got != "16px×1" && got != "16px×2 +space.16" {
		t.Errorf("distances that rest on the stand-in: %s", got)
	}
}

// TestAcceptedTokensAreFoundAgain holds that what was accepted is known the next time, and proposed no more.
func TestAcceptedTokensAreFoundAgain(t *testing.T) {
	docs := drawing(t, `<linearGradient id="g"><stop stop-color="red" stop-opacity=".4"/><stop offset="1" stop-color="blue"/></linearGradient>
		<radialGradient id="r"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></radialGradient>
		<filter id="f"><feDropShadow dx="0" dy="2" stdDeviation="3" flood-color="#10243a" flood-opacity=".12"/></filter>
		<g><rect width="200" height="100" rx="8" fill="url(#g)" filter="url(#f)"/><rect x="16" y="16" width="168" height="68" rx="4" fill="#0b6e8f"/></g>
		<circle cx="300" cy="300" r="50" fill="url(#r)"/><text x="9" y="300" font-family="Go" font-size="16" letter-spacing=".5">words</text>`)
	h := harvest.Collect(docs, nil, token.Scales{Space: 4}, nil)
	add := h.Tokens(func(string) bool { return true }, nil)
	data, err := added(nil, "t.json", add)
	if err != nil {
		t.Fatal(err)
	}
	have := token.Resolve(token.Parse(data, "t.json"))
	if err := have.Err(); err != nil {
		t.Fatalf("%v\n%s", err, data)
	}
	again := harvest.Collect(docs, have, token.Scales{Space: 4}, nil)
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
