package code_test

import (
	"strconv"
	"strings"
	"testing"

	"archetyp/core/code"
	"archetyp/core/design"
)

func rulesOf(t *testing.T, content, component string) string {
	t.Helper()
	d := drawing(t, content)
	var found []*design.Element
	for _, e := range d.All() {
		if component != "" && e.Marks.Component == component || component == "" && e.ID == "x" {
			found = append(found, e)
		}
	}
	return strings.Join(strings.Fields(code.Print(code.Rules(found, code.Options{}))), " ")
}

func button(x int, marks, fill, ring string) string {
	text := `<g data-component="button" ` + marks + `>` + ring + `<rect x="X0" y="20" width="100" height="40" rx="6" fill="` + fill +
		`"/><text x="XM" y="45" text-anchor="middle" font-size="16" font-family="Go" fill="#fff">Pay</text></g>`
	return strings.NewReplacer("X0", strconv.Itoa(x), "XM", strconv.Itoa(x+50), "XR", strconv.Itoa(x-5)).Replace(text)
}

// TestStatesSayOnlyWhatDiffers holds that a component is one rule, and that variants and states add what they change.
func TestStatesSayOnlyWhatDiffers(t *testing.T) {
	got := rulesOf(t, button(20, `data-variant="tone=main" data-state="default"`, "#0b6e8f", "")+
		button(140, `data-variant="tone=main" data-state="hover"`, "#085570", "")+
		button(260, `data-variant="tone=main" data-state="focus-visible"`, "#0b6e8f", `<rect x="XR" y="15" width="110" height="50" rx="11" fill="none" stroke="#fc0" stroke-width="4"/>`)+
		button(380, `data-variant="tone=main" data-state="loading"`, "#0b6e8f", "")+
		button(500, `data-variant="tone=quiet"`, "#123456", ""), "button")
	want := ".button { min-height: 40px; display: grid; place-items: center; border-radius: 6px; font-family: Go; " +
		"font-size: 16px; font-weight: 400; color: #ffffff; } " +
		".button.main { background: #0b6e8f; } .button.quiet { background: #123456; } " +
		".button.main:hover { background: #085570; } " +
		".button.main:focus-visible { outline: 4px solid #ffcc00; outline-offset: 3px; }"
	if got != want {
		t.Errorf("%s\nwant %s", got, want)
	}
}

func TestStatesTakeBack(t *testing.T) {
	got := rulesOf(t, `<g data-component="card"><rect width="90" height="40" fill="#fff" stroke="#000"/><rect x="10" y="10" width="20" height="20" fill="red"/><rect x="50" y="10" width="30" height="20" fill="red"/></g>
<g data-component="card" data-state="selected"><rect x="100" width="90" height="40" fill="#fff"/><rect x="110" y="10" width="20" height="20" fill="red"/><rect x="150" y="10" width="30" height="20" fill="red"/></g>`, "card")
	if !strings.Contains(got, ".card[aria-selected=true] {") || !strings.Contains(got, "border: none;") {
		t.Error(got)
	}
}

func TestWhatIsPrinted(t *testing.T) {
	for _, c := range []struct{ name, content, want, not string }{
		{"sizes only where nothing else gives them", `<g id="x" data-label="Card"><rect width="200" height="100" fill="#fff"/><rect x="16" y="16" width="80" height="68"/><rect x="104" y="16" width="80" height="68"/></g>`, ".card { padding: 16px; display: flex; gap: 8px; background: #ffffff; }", "200px"},
		{"words at the right end say nothing", `<g id="x" data-label="Card"><rect width="200" height="100" fill="#fff"/><text x="16" y="40">From</text><text x="16" y="80">To the island</text></g>`, "16px", "padding: 27px 8"},
		{"a line is a border", `<path id="x" data-label="Rule" d="M0 10H80" stroke="#123456" stroke-width="2"/>`, ".rule { width: 80px; border-top: 2px solid #123456; }", "stroke"},
		{"an upright line", `<path id="x" data-label="Rule" d="M10 0V80" stroke="#123456" stroke-dasharray="3"/>`, ".rule { height: 80px; border-left: 1px dashed #123456; }", "stroke"},
		{"an outlined shape is a picture", `<g id="x" data-label="Card"><rect width="200" height="100" fill="#fff"/><path d="M10 10C20 40 60 40 70 10z" fill="red"/><text x="100" y="40">a</text></g>`, ".card .text {", "path"},
		{"a group that only holds", `<g id="x" data-label="Row"><text y="20">One</text></g>`, ".row { font-size", ".text"},
		{"a nested group's shadow and opacity", `<filter id="f"><feDropShadow dx="0" dy="4" stdDeviation="6" flood-opacity=".2"/></filter><g id="x" data-label="Card"><g filter="url(#f)" opacity=".8"><rect width="200" height="100" rx="8" fill="#fff"/></g><text x="16" y="40">Words</text></g>`, ".card { padding: 25px 16px 57px; border-radius: 8px; background: rgb(255 255 255 / 0.8); box-shadow: 0 4px 12px rgb(0 0 0 / 0.16); font-size: 16px;", "opacity"},
		{"a wrapped background's shadow", `<filter id="f"><feDropShadow dx="0" dy="4" stdDeviation="6" flood-opacity=".2"/></filter><g id="x" data-label="Card"><g filter="url(#f)"><rect width="200" height="100" rx="8" fill="#fff"/></g><text x="16" y="40">Words</text></g>`, "box-shadow: 0 4px 12px rgb(0 0 0 / 0.2);", ".group"},
		{"a row without a background", `<g id="x" data-label="Row"><rect width="40" height="40" fill="red"/><rect x="48" width="40" height="40" fill="red"/></g>`, ".row { display: flex; gap: 8px; }", "padding"},
		{"a grid without a background", `<g id="x" data-label="Grid"><rect width="40" height="40"/><rect x="48" width="40" height="40"/><rect y="48" width="40" height="40"/><rect x="48" y="48" width="40" height="40"/></g>`, ".grid { display: grid; grid-template-columns: repeat(2, 40px); gap: 8px; }", "padding"},
		{"a picture's outlines are no layout", `<g id="x" data-label="Icon"><path d="M0 0C9 9 18 9 27 0" fill="red"/><path d="M0 20C9 29 18 29 27 20" fill="red"/></g>`, "", "flex"},
		{"a turned button", `<g id="x" data-label="Pay" transform="translate(200 300) rotate(15)"><rect width="120" height="48" rx="8" fill="#0b6e8f"/><text x="60" y="30" text-anchor="middle" fill="#fff">Pay</text></g>`, ".pay { min-height: 48px; display: grid; place-items: center; rotate: 15deg; border-radius: 8px; background: #0b6e8f; font-size: 16px; font-weight: 400; color: #ffffff; }", "73."},
		{"a turned box with a stroke", `<rect id="x" data-label="Box" x="101" y="101" width="88" height="68" fill="#abc" stroke="#000" stroke-width="2" transform="rotate(10 145 135)"/>`, ".box { box-sizing: border-box; width: 90px; height: 70px; rotate: 10deg;", "100."},
		{"several runs", `<text id="x" data-label="Price" y="20" font-family="Go">From <tspan font-weight="700" fill="#c00">12 €</tspan> a day, <tspan font-size="12" font-style="italic">or more</tspan></text>`, ".price { font-family: Go; font-size: 16px; font-weight: 400; color: #000000; } .price .run { font-weight: 700; color: #cc0000; } .price .run-2 { font-size: 12px; font-style: italic; }", "run-3"},
		{"an outlined button", `<g id="x" data-label="Pay"><rect x="1" y="1" width="118" height="46" rx="7" fill="none" stroke="#0b6e8f" stroke-width="2"/><text x="60" y="30" text-anchor="middle">Pay</text></g>`, ".pay { box-sizing: border-box; min-height: 48px; display: grid; place-items: center; border-radius: 8px; border: 2px solid #0b6e8f; font-size: 16px; font-weight: 400; color: #000000; }", ".box"},
		{"an outlined icon is a picture", `<g id="x" data-label="Clock"><circle cx="20" cy="20" r="18" fill="none" stroke="#000"/><path d="M20 8V20L28 28" fill="none" stroke="#000"/></g>`, ".clock { /* an outline: export it as an asset, or use it as inline SVG */", "padding"},
		{"an icon with a circle is a picture", `<g id="x" data-label="Person"><circle cx="20" cy="8" r="8"/><path d="M4 40C4 20 36 20 36 40"/></g>`, ".person { /* an outline: export it as an asset, or use it as inline SVG */", "flex"},
		{"a picture with cut corners", `<clipPath id="c"><rect width="100" height="80" rx="12"/></clipPath><g id="x" data-label="Photo" clip-path="url(#c)"><image width="100" height="80" href="data:,"/></g>`, ".photo { overflow: hidden; border-radius: 12px; }", "clip-path"},
		{"a picture cut to a circle", `<clipPath id="c"><circle cx="50" cy="40" r="40"/></clipPath><image id="x" data-label="Face" clip-path="url(#c)" width="100" height="80" href="data:,"/>`, "clip-path: circle(40px at 50px 40px);", "radius"},
		{"a picture cut to a path", `<clipPath id="c"><path d="M0 0L50 80L100 0z"/></clipPath><image id="x" data-label="Face" clip-path="url(#c)" width="100" height="80" href="data:,"/>`, "/* cut off by a path, 100 × 80 px at 0, 0: export it as an asset, or use it as inline SVG */", "clip-path"},
		{"unlike instances", `<g data-component="tag"><rect width="80" height="24" fill="#fff"/><text x="8" y="18">a</text></g><g data-component="tag"><rect y="40" width="80" height="24" fill="#eee"/><text x="8" y="58">a</text></g>`, "/* another instance differs, and nothing marks it: background:#eeeeee */", ".tag-2"},
	} {
		component := ""
		if strings.Contains(c.content, "data-component") {
			component = "tag"
		}
		got := rulesOf(t, c.content, component)
		if !strings.Contains(got, c.want) || strings.Contains(got, c.not) {
			t.Errorf("%s: want %s, and no %s, in\n%s", c.name, c.want, c.not, got)
		}
	}
}
