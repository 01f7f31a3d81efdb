package svg

import (
	"strings"
	"testing"
)

const (
	hardAlpha = `<feColorMatrix in="SourceAlpha" values="0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 127 0" result="hard"/>`
	ink12     = `<feColorMatrix values="0 0 0 0 0.0627451 0 0 0 0 0.1411765 0 0 0 0 0.2274510 0 0 0 0.12 0"/>`
)

// TestShadowsAreRecognised holds that a filter which is only a way to write shadows gives them in CSS terms, and that
// nothing is claimed of one that is not.
func TestShadowsAreRecognised(t *testing.T) {
	for _, c := range []struct{ name, filter, want, blur string }{
		{"drop shadow", `<feDropShadow dx="1" dy="2" stdDeviation="3" flood-color="#10243a" flood-opacity=".12"/>`,
			"1px 2px 6px rgb(16 36 58 / 0.12)", ""},
		{"drop shadow by default", `<feDropShadow/>`, "2px 2px 4px #000000", ""},
		{"merge", `<feGaussianBlur in="SourceAlpha" stdDeviation="4"/><feOffset dy="3" result="o"/><feFlood flood-color="red" flood-opacity=".5"/><feComposite in2="o" operator="in"/><feMerge><feMergeNode/><feMergeNode in="SourceGraphic"/></feMerge>`, "0 3px 8px rgb(255 0 0 / 0.5)", ""},
		{"offset before blur",
			`<feOffset in="SourceAlpha" dy="3"/><feGaussianBlur stdDeviation="4" result="o"/><feMerge><feMergeNode in="o"/><feMergeNode in="SourceGraphic"/></feMerge>`, "0 3px 8px #000000", ""},
		{"chain with knock-out", `<feFlood flood-opacity="0" result="e"/>` + hardAlpha +
			`<feOffset dy="8"/><feGaussianBlur stdDeviation="12"/><feComposite in2="hard" operator="out"/>` + ink12 +
			`<feBlend in2="e" result="s"/><feBlend in="SourceGraphic" in2="s"/>`, "0 8px 24px rgb(16 36 58 / 0.12)", ""},
		{"chain without knock-out", `<feFlood flood-opacity="0" result="e"/>` + hardAlpha +
			`<feOffset dy="8"/><feGaussianBlur stdDeviation="12"/>` + ink12 +
			`<feBlend in2="e" result="s"/><feBlend in="SourceGraphic" in2="s"/>`, "0 8px 24px rgb(16 36 58 / 0.12)", ""},
		{"spread", `<feMorphology in="SourceAlpha" radius="2" operator="dilate"/><feOffset dy="1"/><feGaussianBlur stdDeviation="1" result="o"/><feMerge><feMergeNode in="o"/><feMergeNode in="SourceGraphic"/></feMerge>`, "0 1px 2px 2px #000000", ""},
		{"negative spread", `<feMorphology in="SourceAlpha" radius="2" operator="erode"/><feOffset dy="6"/><feGaussianBlur stdDeviation="3" result="o"/><feMerge><feMergeNode in="o"/><feMergeNode in="SourceGraphic"/></feMerge>`, "0 6px 6px -2px #000000", ""},
		{"inner by arithmetic",
			`<feFlood flood-opacity="0" result="e"/><feBlend in="SourceGraphic" in2="e" result="shape"/>` + hardAlpha +
				`<feOffset dy="2"/><feGaussianBlur stdDeviation="2"/><feComposite in2="hard" operator="arithmetic" k2="-1" k3="1"/>` + ink12 + `<feBlend in2="shape"/>`, "inset 0 2px 4px rgb(16 36 58 / 0.12)", ""},
		{"inner by out", `<feOffset in="SourceAlpha" dy="2"/><feGaussianBlur stdDeviation="2" result="o"/><feFlood flood-color="#10243a" flood-opacity=".12"/><feComposite in2="o" operator="out"/><feComposite in2="SourceAlpha" operator="in" result="i"/><feMerge><feMergeNode in="SourceGraphic"/><feMergeNode in="i"/></feMerge>`, "inset 0 2px 4px rgb(16 36 58 / 0.12)", ""},
		{"faint by transfer",
			`<feGaussianBlur in="SourceAlpha" stdDeviation="4"/><feOffset dy="3"/><feComponentTransfer><feFuncA type="linear" slope=".3"/></feComponentTransfer><feMerge><feMergeNode/><feMergeNode in="SourceGraphic"/></feMerge>`, "0 3px 8px rgb(0 0 0 / 0.3)", ""},
		{"composite over", `<feGaussianBlur in="SourceAlpha" stdDeviation="4" result="b"/><feComposite in="SourceGraphic" in2="b" operator="over"/>`, "0 0 8px #000000", ""},
		{"two shadows", `<feGaussianBlur in="SourceAlpha" stdDeviation="1" result="a"/><feGaussianBlur in="SourceAlpha" stdDeviation="4" result="b"/><feMerge><feMergeNode in="b"/><feMergeNode in="a"/><feMergeNode in="SourceGraphic"/></feMerge>`, "0 0 2px #000000|0 0 8px #000000", ""},
		{"blur", `<feGaussianBlur stdDeviation="5"/>`, "", "5px"},
		{"uneven blur", `<feGaussianBlur stdDeviation="5 1"/>`, "", ""},
		{"uneven shadow", `<feDropShadow stdDeviation="5 1"/>`, "", ""},
		{"moved picture", `<feOffset dx="5"/>`, "", ""},
		{"shadow without the picture", `<feGaussianBlur in="SourceAlpha" stdDeviation="5"/>`, "", ""},
		{"shadow in front", `<feGaussianBlur in="SourceAlpha" stdDeviation="4" result="b"/><feMerge><feMergeNode in="SourceGraphic"/><feMergeNode in="b"/></feMerge>`, "", ""},
		{"colour depends on the picture",
			`<feGaussianBlur in="SourceGraphic" stdDeviation="4" result="b"/><feColorMatrix values="1 0 0 0 0 0 1 0 0 0 0 0 1 0 0 0 0 0 .5 0" result="c"/><feMerge><feMergeNode in="c"/><feMergeNode in="SourceGraphic"/></feMerge>`, "", ""},
		{"turbulence", `<feTurbulence/>`, "", ""},
		{"a region of its own",
			`<feGaussianBlur in="SourceAlpha" stdDeviation="4" width="5" result="b"/><feMerge><feMergeNode in="b"/><feMergeNode in="SourceGraphic"/></feMerge>`, "", ""},
		{"multiplied", `<feGaussianBlur in="SourceAlpha" stdDeviation="4" result="b"/><feBlend in="SourceGraphic" in2="b" mode="multiply"/>`, "", ""},
		{"clear shadow", `<feDropShadow flood-opacity="0"/>`, "", ""},
		{"nothing", ``, "", ""},
	} {
		d := draw(t, `<filter id="f">`+c.filter+`</filter><rect id="x" x="50" y="50" width="100" height="60" filter="url(#f)"/>`)
		e := byID(t, d, "x")
		var got []string
		for _, s := range e.Shadows {
			got = append(got, s.Value.CSS())
		}
		if strings.Join(got, "|") != c.want || factText(e, "blur") != c.blur {
			t.Errorf("%s: shadows %q blur %q, want %q %q", c.name, strings.Join(got, "|"), factText(e, "blur"), c.want, c.blur)
		}
	}
}

func TestShadowsByFilterFunctions(t *testing.T) {
	for filter, want := range map[string]string{
		// its length is the deviation, half of what box-shadow counts
		"drop-shadow(0 4px 8px rgb(0 0 0 / 20%))": "0 4px 16px rgb(0 0 0 / 0.2)",
		"drop-shadow(red 1px 2px)":                "1px 2px 0 #ff0000",
		"drop-shadow(1px)":                        "",
		"sepia(1)":                                "",
		"nonsense":                                "",
	} {
		e := byID(t, draw(t, `<rect id="x" width="9" height="9" style="filter:`+filter+`"/>`), "x")
		if got := factText(e, "shadow"); got != want {
			t.Errorf("%s: %q, want %q", filter, got, want)
		}
	}
	const two = "drop-shadow(0 1px 2px #000) drop-shadow(0 4px 6px red)" // the second is cast by the first, too
	if e := byID(t, draw(t, `<rect id="x" width="9" height="9" style="filter:`+two+`"/>`), "x"); factText(e,
		"filter") != two || factText(e, "shadow") != "" {
		t.Errorf("two of them: %q %q", factText(e, "filter"), factText(e, "shadow"))
	}
	if got := factText(byID(t, draw(t, `<rect id="x" width="9" height="9" style="filter:blur(3px)"/>`), "x"),
		"blur"); got != "3px" {
		t.Errorf("blur(3px) is %q", got)
	}
}

func TestShadowIsScaledWithItsElement(t *testing.T) {
	d := draw(t, `<filter id="f"><feDropShadow dx="0" dy="2" stdDeviation="3"/></filter><g transform="scale(2)"><rect id="x" x="50" y="50" width="10" height="10" filter="url(#f)"/></g>`)
	if got := factText(byID(t, d, "x"), "shadow"); got != "0 4px 12px #000000" {
		t.Error(got)
	}
}

func TestPaintedBoxCountsEffects(t *testing.T) {
	for _, c := range []struct{ name, content, want string }{
		{"shadow", `<filter id="f" x="-50%" y="-50%" width="200%" height="200%"><feDropShadow dx="0" dy="10" stdDeviation="4"/></filter><rect id="x" x="100" y="100" width="100" height="100" filter="url(#f)"/>`, "88, 98  124 × 124 px"},
		{"shadow cut by its region",
			`<filter id="f"><feDropShadow dx="0" dy="0" stdDeviation="40"/></filter><rect id="x" x="100" y="100" width="100" height="100" filter="url(#f)"/>`, "90, 90  120 × 120 px"},
		{"clip", `<clipPath id="c"><rect x="110" y="110" width="20" height="20"/></clipPath><rect id="x" x="100" y="100" width="100" height="100" clip-path="url(#c)"/>`, "110, 110  20 × 20 px"},
		{"clip of the group",
			`<clipPath id="c"><rect x="110" y="110" width="20" height="20"/></clipPath><g clip-path="url(#c)"><rect id="x" x="100" y="100" width="100" height="100"/></g>`, "110, 110  20 × 20 px"},
		{"clip in box units",
			`<clipPath id="c" clipPathUnits="objectBoundingBox"><rect width=".5" height=".5"/></clipPath><rect id="x" x="100" y="100" width="100" height="100" clip-path="url(#c)"/>`, "100, 100  50 × 50 px"},
		{"miter", `<path id="x" d="M100 100L150 100L150 150" fill="none" stroke="red" stroke-width="10"/>`,
			"100, 95  55 × 55 px"},
	} {
		if got := factText(byID(t, draw(t, c.content), "x"), "painted box"); got != c.want {
			t.Errorf("%s: %s, want %s", c.name, got, c.want)
		}
	}
}
