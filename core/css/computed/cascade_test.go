package computed_test

import (
	"strings"
	"testing"

	"archetyp/core/css"
	"archetyp/core/css/computed"
	"archetyp/core/markup"
)

// TestCascade holds which of several declarations wins, by one property of the last paragraph of a page.
// https://www.w3.org/TR/css-cascade-5/#cascading
func TestCascade(t *testing.T) {
	const body = `<div class=out><p></p><p class="a b" id=i style="top: 9px"></p></div>`
	for _, c := range []struct{ sheet, property, want string }{
		{"p { left: 1px } p { left: 2px }", "left", "2px"},
		{".a { left: 1px } p { left: 2px }", "left", "1px"},
		{"#i { left: 1px } .a.b { left: 2px }", "left", "1px"},
		{"p { left: 1px !important } #i { left: 2px }", "left", "1px"},
		{":where(#i) { left: 1px } p { left: 2px }", "left", "2px"},
		{":is(#i, p) { left: 1px } .a { left: 2px }", "left", "1px"},
		{":not(#j) { left: 1px } .a { left: 2px }", "left", "1px"},
		{"p { top: 1px }", "top", "9px"},
		{"p { top: 1px !important }", "top", "1px"},
		{"@layer x { #i { left: 1px } } p { left: 2px }", "left", "2px"},
		{"@layer x, y; @layer y { p { left: 1px } } @layer x { p { left: 2px } }", "left", "1px"},
		{"@layer x { p { left: 1px !important } } @layer y { p { left: 2px !important } }", "left", "1px"},
		{"@layer x { p { left: 1px !important } } p { left: 2px !important }", "left", "1px"},
		{"@layer x { @layer y { p { left: 1px } } p { left: 2px } }", "left", "2px"},
		{"@layer x { p { left: 1px } } p { left: revert-layer }", "left", "1px"},
		{"p { left: 3px; left: revert }", "left", "auto"},
		{"p { left: 1px } .a { left: initial }", "left", "auto"},
		{".out { left: 4px } p { left: inherit }", "left", "4px"},
		{".out { color: rgb(4, 4, 4); left: 3px } p { color: unset; left: unset }", "left", "auto"},
		{".out { color: rgb(4, 4, 4) } p { color: unset }", "color", "rgb(4, 4, 4)"},
		{".out { color: rgb(4, 4, 4) } p { all: initial }", "color", "rgb(0, 0, 0)"},
		{"p { left: 1px; left: nonsense }", "left", "1px"},
		{"p { inset-inline-start: 1px; left: 2px }", "left", "2px"},
		{"p { left: 2px; inset-inline-start: 1px }", "left", "1px"},
		{"p { direction: rtl; inset-inline-start: 1px; left: 2px }", "right", "1px"},
		{"@media (min-width: 700px) { p { left: 1px } }", "left", "1px"},
		{"@media (min-width: 900px) { p { left: 1px } }", "left", "auto"},
		{"@media (width < 900px) and (orientation: landscape) { p { left: 1px } }", "left", "1px"},
		{"@supports (display: grid) { p { left: 1px } }", "left", "1px"},
		{"@supports not (display: grid) { p { left: 1px } }", "left", "auto"},
		{"@supports selector(:has(a)) { p { left: 1px } }", "left", "1px"},
		{".out { & p { left: 1px } }", "left", "1px"},
		{".out { p { left: 1px; &.a { left: 2px } } }", "left", "2px"},
		{"p { left: 1px; &:where(*) { left: 2px } }", "left", "2px"},
		{"@scope (.out) { p { left: 1px } }", "left", "1px"},
		{"@scope (.out) to (p) { p { left: 1px } }", "left", "auto"},
		{":root { --x: 3px } p { left: var(--x) }", "left", "3px"},
		{":root { --x: 3px } .out { --x: 4px } p { left: var(--x) }", "left", "4px"},
		{"p { --x: var(--y); --y: 5px; left: var(--x) }", "left", "5px"},
		{"p { --x: var(--x); left: var(--x, 1px) }", "left", "1px"},
		{"p { left: 7px; left: var(--none) }", "left", "auto"},
		{"p { --x: red; left: var(--x) }", "left", "auto"},
		{"p { left: var(--none, var(--nor, 6px)) }", "left", "6px"},
		{"@property --x { syntax: '<length>'; inherits: false; initial-value: 2px } .out { --x: 9px } p { left: var(--x) }", "left", "2px"},
		{"@property --x { syntax: '<length>'; inherits: true; initial-value: 2px } .out { font-size: 20px; --x: 2em } p { left: var(--x) }", "left", "40px"},
		{"@property --x { syntax: '<length>'; inherits: true; initial-value: 2px } p { --x: red; left: var(--x) }", "left", "2px"},
		{"@property --x { syntax: 'a |'; inherits: true; initial-value: 2px } p { left: var(--x, 8px) }", "left", "8px"},
		{"p { font-size: 20px; left: 2em; top: 1px }", "left", "40px"},
		{"html { font-size: 10px } p { left: 2rem }", "left", "20px"},
		{"p { left: 10vw }", "left", "80px"},
		{"p { left: 10vh }", "left", "60px"},
		{"P.A { left: 1px }", "left", "auto"},
		{"[CLASS~=a] { LEFT: 1PX }", "left", "1px"},
		{"p:hover { left: 1px }", "left", "auto"},
		{"p:nth-child(2 of .a, :first-child) { left: 1px }", "left", "1px"},
		{".out:has(> #i) p { left: 1px }", "left", "1px"},
	} {
		styles, _ := styled(t, body, c.sheet)
		if got, _ := styles[len(styles)-1].Get(c.property); got != c.want {
			t.Errorf("%s: %s is %s, not %s", c.sheet, c.property, got, c.want)
		}
	}
}

// TestWhy holds the reasons why declarations lose, in order.
func TestWhy(t *testing.T) {
	const sheet = `@layer base { p { color: red } }
p { color: green }
.a { color: var(--x, blue) }
.a { color: nonsense }
:root { --x: navy }
`
	styles, _ := styled(t, "<p class=a></p>", sheet)
	var lost []string
	for _, d := range styles[0].Why("color") {
		lost = append(lost, d.Value+": "+d.Lost)
	}
	got := strings.Join(lost, "\n")
	for _, want := range []string{"var(--x, blue): \n", "green: ", "specific", "red: ", "layer", "nonsense: "} {
		_, after, ok := strings.Cut(got, want)
		if !ok {
			t.Fatalf("%q is missing, or not in its place:\n%s", want, strings.Join(lost, "\n"))
		}
		got = after
	}
	styles, _ = styled(t, "<div class=a><p></p></div>", ".a { color: red; left: 2px }")
	if list := styles[0].Why("color"); len(list) != 1 || list[0].Up != 1 {
		t.Errorf("%+v", list)
	}
	if list := styles[0].Why("left"); len(list) != 0 {
		t.Errorf("what is not inherited has a reason: %+v", list)
	}
}

// TestDiffers holds which values are an element's own.
func TestDiffers(t *testing.T) {
	styles, _ := styled(t, "<p></p>", "html { color: red; left: 3px } p { left: 2px; color: red; top: auto }")
	for name, want := range map[string]bool{"left": true, "color": false, "top": false, "display": false} {
		if styles[0].Differs(name) != want {
			t.Errorf("%s: %v", name, !want)
		}
	}
	if _, ok := styles[0].Get("no-such"); ok {
		t.Error("an unknown property has a value")
	}
	if v, ok := styles[0].Get("-webkit-box-sizing"); !ok || v != "content-box" {
		t.Errorf("an alias: %q %v", v, ok)
	}
}

// FuzzStyle computes a paragraph under any style sheet: no panic, and every value can be printed.
func FuzzStyle(f *testing.F) {
	for _, c := range values[:60] {
		f.Add("p { " + c.declared + " }")
	}
	f.Add("p { --a: var(--b) var(--b); --b: var(--c) var(--c); --c: x x; left: var(--a) } @property --a { syntax: '*'; inherits: false }")
	f.Add("@layer a.b, c; @scope (p) { :scope { all: revert-layer } } p { & & { font: var(--x) } }")
	f.Fuzz(func(t *testing.T, sheet string) {
		if len(sheet) > 4096 {
			return
		}
		m := css.Medium{Width: 800, Height: 600, Page: true}
		doc, err := markup.ParseHTML([]byte("<!doctype html><p class=a style='left: 1px'>x</p>"), "", nil)
		if err != nil {
			t.Fatal(err)
		}
		page := computed.NewPage(doc.Root, []*css.Sheet{css.ParseSheet(sheet, m)}, m, nil, nil, nil)
		var walk func(n *markup.Node, parent *computed.Style)
		walk = func(n *markup.Node, parent *computed.Style) {
			s := page.Style(n, parent)
			for _, name := range computed.Properties() {
				s.Get(name)
			}
			s.Why("font-size")
			for _, c := range n.Children {
				if c.Kind == markup.Element {
					walk(c, s)
				}
			}
		}
		walk(doc.Root, nil)
	})
}
