package code_test

import (
	"strings"
	"testing"

	"archetyp/core/code"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/read/svg"
)

func drawing(t testing.TB, content string) *design.Document {
	t.Helper()
	d, err := svg.Read("t.svg",
		[]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="800" height="400">`+content+`</svg>`), svg.Options{})
	if err != nil {
		t.Fatal(err)
	}
	return d
}

func element(t testing.TB, content string) *design.Element {
	t.Helper()
	d := drawing(t, content)
	sel, err := css.ParseSelector("#x")
	if err != nil {
		t.Fatal(err)
	}
	found := d.Query(sel)
	if len(found) != 1 {
		t.Fatalf("%d elements", len(found))
	}
	return found[0]
}

func one(blocks []code.Block) string {
	return strings.Join(strings.Fields(code.Print(blocks[:1])), " ")
}

func TestCSS(t *testing.T) {
	for _, c := range []struct{ name, content, want string }{
		{"box", `<rect id="x" data-label="Card" width="100" height="50" rx="8" fill="#fff"/>`,
			".card { width: 100px; height: 50px; border-radius: 8px; background: #ffffff; }"},
		{"border", `<rect id="x" data-label="Card" x="1" y="1" width="98" height="48" rx="7" fill="#fff" stroke="#d5dfe6" stroke-width="2"/>`,
			".card { box-sizing: border-box; width: 100px; height: 50px; border-radius: 8px; background: #ffffff; border: " +
				"2px solid #d5dfe6; }"},
		{"dashed border", `<rect id="x" data-label="Card" x="1" y="1" width="98" height="48" fill="none" stroke="#d5dfe6" stroke-width="2" stroke-dasharray="3"/>`,
			".card { box-sizing: border-box; width: 100px; height: 50px; border: 2px dashed #d5dfe6; }"},
		{"words cut off", `<g data-component="bar"><rect width="100" height="40" fill="#eee"/><text id="x" data-label="Pier" x="10" y="25">Skerry…</text></g><g data-component="bar"><rect y="60" width="160" height="40" fill="#eee"/><text x="10" y="85">Skerry Point</text></g>`,
			".pier { overflow: hidden; font-size: 16px; font-weight: 400; color: #000000; text-overflow: ellipsis; white-space: nowrap; }"},
		{"circle", `<circle id="x" data-label="Dot" r="5" fill="red"/>`,
			".dot { width: 10px; height: 10px; border-radius: 50%; background: #ff0000; }"},
		{"gradient", `<linearGradient id="g" x2="0" y2="1"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient><rect id="x" data-label="Sky" width="100" height="50" fill="url(#g)"/>`,
			".sky { width: 100px; height: 50px; background: linear-gradient(180deg, #ff0000 0%, " +
				"#0000ff 100%); }"},
		{"shadow", `<filter id="f"><feDropShadow dx="0" dy="4" stdDeviation="6" flood-opacity=".2"/></filter><rect id="x" data-label="Card" width="100" height="50" filter="url(#f)"/>`,
			".card { width: 100px; height: 50px; background: #000000; box-shadow: 0 4px 12px rgb(0 0 " +
				"0 / 0.2); }"},
		{"opacity", `<rect id="x" data-label="Veil" width="100" height="50" opacity=".4"/>`,
			".veil { width: 100px; height: 50px; background: #000000; opacity: 0.4; }"},
		{"text", `<text id="x" data-label="Title" y="30" font-family="Hanken Grotesk, serif" font-size="20" font-weight="700" letter-spacing="-.5" text-anchor="middle" fill="#10243a">Words</text>`,
			`.title { font-family: "Hanken Grotesk", serif; font-size: 20px; font-weight: 700; letter-spacing: -0.5px; color: #10243a; }`},
		{"text with a line height",
			`<text id="x" data-label="Note"><tspan x="0" y="20">a</tspan><tspan x="0" y="44">b</tspan></text>`,
			".note { font-size: 16px; font-weight: 400; line-height: 24px; color: #000000; }"},
		{"button", `<g id="x" data-component="button" data-variant="tone=main" data-state="hover"><rect width="100" height="40" rx="6" fill="#0b6e8f"/><text x="50" y="26" text-anchor="middle" fill="#fff">Pay</text></g>`,
			".button.main:hover { width: 100px; height: 40px; display: grid; place-items: center; border-radius: 6px; " +
				"background: #0b6e8f; font-size: 16px; font-weight: 400; color: #ffffff; }"},
		{"padding", `<g id="x" data-label="Card"><rect width="200" height="100" fill="#fff"/><rect x="16" y="8" width="100" height="84"/></g>`,
			".card { box-sizing: border-box; width: 200px; height: 100px; padding: 8px 84px 8px 16px; background: #ffffff; }"},
		{"even padding", `<g id="x" data-label="Card"><rect width="200" height="100" fill="#fff"/><rect x="16" y="16" width="80" height="68"/><rect x="104" y="16" width="80" height="68"/></g>`,
			".card { box-sizing: border-box; width: 200px; height: 100px; padding: 16px; display: flex; gap: 8px; " +
				"background: #ffffff; }"},
		{"stated layout", `<g id="x" data-label="Row" style="display:flex;gap:8px;--c:red;fill:var(--c)"><rect width="10" height="10"/><rect x="20" width="10" height="10"/></g>`,
			".row { display: flex; gap: 8px; }"},
		{"path", `<path id="x" data-label="Wave" d="M0 0C9 9 18 9 27 0" fill="red"/>`,
			".wave { /* an outline: export it as an asset, or use it as inline SVG */ width: 27px; height: 6.75px; }"},
		{"focal gradient", `<radialGradient id="g" fx=".2"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></radialGradient><rect id="x" data-label="Sun" width="50" height="50" fill="url(#g)"/>`,
			".sun { /* background: a gradient with a focal point off its centre, which CSS cannot say */ width: 50px; " +
				"height: 50px; }"},
		{"blur and blend", `<rect id="x" data-label="Fog" width="50" height="50" style="filter:blur(3px);mix-blend-mode:screen"/>`,
			".fog { width: 50px; height: 50px; background: #000000; filter: blur(3px); " +
				"mix-blend-mode: screen; }"},
	} {
		if got := one(code.CSS(element(t, c.content), code.Options{Sizes: true})); got != c.want {
			t.Errorf("%s:\n     %s\nwant %s", c.name, got, c.want)
		}
	}
}

func TestCSSWithTokens(t *testing.T) {
	tokens := func(_ *design.Element, kind, value string) code.Name {
		return code.Name{Property: map[string]string{"color:surface #0b6e8f": "--action", "radius 6px": "--r",
			"color:text #ffffff": "--on", "type Go|16px|400|0": "--body", "color:border #10243a": "--line"}[kind+" "+value]}
	}
	e := element(t, `<g id="x" data-component="button"><rect x=".5" y=".5" width="99" height="39" rx="5.5" fill="#0b6e8f" stroke="#10243a"/><text x="50" y="26" text-anchor="middle" font-family="Go, serif" fill="#fff">Pay</text></g>`)
	blocks := code.CSS(e, code.Options{Tokens: tokens, Sizes: true})
	got := strings.Join(strings.Fields(code.Print(blocks)), " ")
	want := ".button { box-sizing: border-box; width: 100px; height: 40px; display: grid; place-items: center; " +
		"border-radius: var(--r); background: var(--action); border: 1px solid var(--line); font: var(--body); color: " +
		"var(--on); }"
	if got != want {
		t.Errorf("%s\nwant %s", got, want)
	}
}

func TestPadding(t *testing.T) {
	for _, c := range []struct{ name, content, want string }{
		{"one in the middle", `<rect x="40" y="40" width="20" height="20"/>`, "place-items: center"},
		{"two", `<rect x="10" y="20" width="20" height="20"/><rect x="70" y="60" width="10" height="20"/>`,
			"padding: 20px 20px 20px 10px"},
		{"the same all around", `<rect x="10" y="10" width="20" height="20"/><rect x="70" y="70" width="20" height="20"/>`,
			"padding: 10px"},
		{"a frame over the background",
			`<rect x="1" y="1" width="98" height="98" fill="none" stroke="red" stroke-width="2"/><rect x="10" y="10" width="20" height="20"/><rect x="70" y="70" width="20" height="20"/>`, "padding: 8px"},
	} {
		e := element(t, `<g id="x"><rect width="100" height="100" fill="#fff"/>`+c.content+`</g>`)
		if got := code.Print(code.CSS(e, code.Options{Sizes: true})[:1]); !strings.Contains(got, c.want+";") {
			t.Errorf("%s: want %s in\n%s", c.name, c.want, got)
		}
	}
}

// TestInsides holds that each look inside a group is one rule, and that no two rules have the same selector.
func TestInsides(t *testing.T) {
	for _, c := range []struct{ name, content, want string }{
		{"the same look twice", `<text y="26">One</text><text x="100" y="26">Two</text>`, ".row|.row .text"},
		{"another look", `<text y="26">One</text><text x="100" y="26" fill="red">Two</text>`, ".row|.row .text|.row .text-2"},
		{"looks in turn", `<text x="10" y="26">One</text><text x="60" y="26" fill="red">One</text><text x="110" y="26">One</text><text x="160" y="26" fill="red">One</text>`, ".row|.row .text|.row .text-2"},
		{"names with one look", `<text y="26" data-label="From">One</text><text x="100" y="26" data-label="To">Two</text>`,
			".row|.row .from,.row .to"},
		{"one name with two looks",
			`<text y="26" data-label="Stop">One</text><text y="26" fill="red" data-label="Stop">Two</text>`, ".row|.row .stop|.row .stop-2"},
		{"a name that a number would give",
			`<text x="10" y="26">One</text><text x="60" y="26" fill="blue" data-label="text 2">Two</text><text x="110" y="26" fill="red">Three</text>`, ".row|.row .text|.row .text-2|.row .text-3"},
	} {
		e := element(t, `<g id="x" data-label="Row"><rect width="300" height="40" fill="#fff"/>`+c.content+`</g>`)
		var got []string
		for _, b := range code.CSS(e, code.Options{Sizes: true}) {
			got = append(got, strings.ReplaceAll(b.Selector, "\n", ""))
		}
		if strings.Join(got, "|") != c.want {
			t.Errorf("%s: %s, want %s", c.name, strings.Join(got, "|"), c.want)
		}
	}
}

func TestRulesAreWrittenOnce(t *testing.T) {
	e := element(t, `<g id="x" data-label="Row"><rect width="300" height="40" fill="#fff"/><text y="26">One</text></g>`)
	if got, want := len(code.Rules([]*design.Element{e, e}, code.Options{})), len(code.CSS(e, code.Options{})); got != want {
		t.Errorf("%d rules for an element named twice, %d for it once", got, want)
	}
}

func TestClassName(t *testing.T) {
	for marks, want := range map[string]string{
		`data-component="button"`:                                      ".button",
		`data-component="Date picker" data-state="default"`:            ".date-picker",
		`data-component="button" data-variant="size=large tone=quiet"`: ".button.large.quiet",
		`data-component="button" data-state="focus-visible"`:           ".button:focus-visible",
		`data-component="list" data-state="empty"`:                     ".list.empty",
		`data-label="3 steps"`:                                         ".e3-steps",
		``:                                                             ".box",
	} {
		e := element(t, `<rect id="x" width="9" height="9" `+marks+`/>`)
		if marks == "" {
			e.Name = ""
		}
		if got := code.ClassName(e); got != want {
			t.Errorf("%s is %s, want %s", marks, got, want)
		}
		if _, err := css.ParseSelector(code.ClassName(e)); err != nil {
			t.Errorf("%s is no selector: %v", code.ClassName(e), err)
		}
	}
}

func TestFlow(t *testing.T) {
	for _, c := range []struct{ name, content, want, not string }{
		{"a row", `<rect x="8" y="8" width="20" height="20"/><rect x="36" y="13" width="20" height="10"/><rect x="64" y="8" width="28" height="20"/>`, "display: flex; align-items: center; gap: 8px;", "direction"},
		{"a column", `<rect x="8" y="8" width="84" height="20"/><rect x="8" y="40" width="84" height="20"/>`,
			"display: flex; flex-direction: column; gap: 12px;", "align"},
		{"two at the ends", `<rect x="8" y="8" width="10" height="20"/><rect x="82" y="8" width="10" height="20"/>`,
			"display: flex; justify-content: space-between;", "gap"},
		{"uneven gaps", `<rect x="8" y="8" width="10" height="10"/><rect x="8" y="22" width="10" height="10"/><rect x="8" y="40" width="10" height="10"/>`, "display: flex; flex-direction: column;", "gap: "},
		{"the last is pushed to the end", `<rect x="8" y="8" width="10" height="10"/><rect x="22" y="8" width="6" height="10"/><rect x="82" y="8" width="10" height="10"/>`, "padding: 8px 8px 82px; display: flex; gap: 4px;", "between"},
		{"a grid", `<rect x="8" y="8" width="20" height="20"/><rect x="36" y="8" width="20" height="20"/><rect x="8" y="40" width="20" height="20"/><rect x="36" y="40" width="20" height="20"/>`, "display: grid; grid-template-columns: repeat(2, 20px); gap: 12px 8px;", "flex"},
		{"here and there", `<rect x="8" y="8" width="20" height="20"/><rect x="50" y="50" width="20" height="20"/>`,
			"padding: 8px 30px 30px 8px; display: flex; flex-direction: column; gap: 22px;", "absolute"},
	} {
		e := element(t, `<g id="x"><rect width="100" height="100" fill="#fff"/>`+c.content+`</g>`)
		got := strings.Join(strings.Fields(code.Print(code.CSS(e, code.Options{Sizes: true})[:1])), " ")
		if !strings.Contains(got, c.want) || strings.Contains(got, c.not) {
			t.Errorf("%s: want %s, and no %s, in\n%s", c.name, c.want, c.not, got)
		}
	}
	e := element(t, `<g id="x" style="display:flex;gap:10px"><rect width="100" height="40" fill="#fff"/><rect x="8" y="8" width="20" height="20"/><rect x="36" y="8" width="20" height="20"/></g>`)
	if got := code.Print(code.CSS(e, code.Options{Sizes: true})[:1]); !strings.Contains(got, "gap: 10px;") || strings.Contains(got, "gap: 8px") {
		t.Errorf("what the drawing states goes before what is derived:\n%s", got)
	}
}
