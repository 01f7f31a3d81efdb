package asset

import (
	"slices"
	"strings"
	"testing"
)

// advice is what is said about a drawing, by the verdict and the first words.
func advice(t testing.TB, content string) []Advice {
	t.Helper()
	var out []Advice
	for _, a := range Advise(drawing(t, content), BuiltIn(), 1) {
		if a.Element.Node != nil && a.CSS == "background: #eeeeee" {
			continue // the page
		}
		out = append(out, a)
	}
	return out
}

func TestAdvise(t *testing.T) {
	strip, _ := photograph(t, 8, 8, "png")
	for _, c := range []struct {
		content string
		verdict Verdict
		why     string
		css     string
		act     string
	}{
		{`<rect x="9" y="9" width="40" height="20" rx="4" fill="#0b6e8f"/>`, AsCSS, "a rounded box", "border-radius: 4px",
			""},
		{`<circle cx="40" cy="40" r="9" fill="red"/>`, AsCSS, "a round box", "border-radius: 50%", ""},
		{`<rect data-asset="a" x="9" y="9" width="40" height="20" fill="#0b6e8f"/>`, AsCSS, "marked, but CSS can draw it",
			"background: #0b6e8f", "take the mark away"},
		{`<clipPath id="c"><rect x="9" y="9" width="40" height="30" rx="6"/></clipPath><rect x="9" y="9" width="40" height="20" fill="#0b6e8f" clip-path="url(#c)"/>`, AsCSS, "a rounded box", "border-radius: 6px 6px 0 0", ""},
		{`<clipPath id="c"><rect x="9" y="9" width="40" height="30" rx="6"/></clipPath><rect x="10" y="9" width="38" height="20" fill="#0b6e8f" clip-path="url(#c)"/>`, AsPicture, "a free form", "", "mark it"},
		{`<clipPath id="c"><path d="M9 9h40l-9 30z"/></clipPath><rect x="9" y="9" width="40" height="20" fill="#0b6e8f" clip-path="url(#c)"/>`, AsPicture, "a free form", "", "mark it"},
		{`<path d="M9 9H60" stroke="#123456" stroke-width="2"/>`, AsCSS, "a line", "border-top: 2px solid #123456", ""},
		{`<text y="40">Pier</text>`, AsText, "words can be words", "", ""},
		{`<text data-asset="a" y="40">Pier</text>`, AsText, "nothing but words", "", "take the mark away"},
		{`<path d="M9 9C60 9 20 60 60 50z"/>`, AsPicture, "nobody marked it", "", `data-asset="icons/t"`},
		{`<g id="Gull"><path d="M9 9C60 9 20 60 60 50z"/><path d="M29 9C60 9 20 60 60 50"/></g>`, AsPicture,
			"a drawing of 2 shapes", "", `data-asset="icons/gull"`},
		{`<path data-asset="a" d="M9 9C60 9 20 60 60 50z"/>`, AsPicture, "a drawing that no style sheet can draw", "", ""},
		{`<image width="30" height="30" href="` + strip + `"/>`, AsPicture, "a bitmap", "", "mark it"},
		{`<image data-asset="a" width="30" height="30" href="` + strip + `"/>`, AsPicture, "pixels for 0.27x alone", "",
			"put a larger picture"},
	} {
		list := advice(t, c.content)
		if len(list) != 1 {
			t.Errorf("%s: %+v", c.content, list)
			continue
		}
		if a := list[0]; a.Verdict != c.verdict || !strings.Contains(a.Why, c.why) || !strings.Contains(a.CSS, c.css) ||
			!strings.Contains(a.Act, c.act) || c.act == "" && a.Act != "" {
			t.Errorf("%s: %s, %q, %q, %q", c.content, a.Verdict, a.Why, a.CSS, a.Act)
		}
	}
}

func TestAdviseFindsTwins(t *testing.T) {
	shape := `d="M9 9C60 9 20 60 60 50z"`
	for want, content := range map[string]string{
		"the same picture under several names": `<path data-asset="a" ` + shape + `/><path data-asset="b" ` + shape +
			` transform="translate(80 0)"/>`,
		"one drawing in several colours: #000000,": `<path data-asset="a" ` + shape + `/><path data-asset="b" ` + shape +
			` fill="#0b6e8f"/>`,
	} {
		found := false
		for _, a := range advice(t, content) {
			found = found || strings.HasPrefix(a.Why, want) && len(a.Others) == 1 && a.Act != ""
		}
		if !found {
			t.Errorf("%s: %+v", want, advice(t, content))
		}
	}
	for content, want := range map[string][]string{
		`<path ` + shape + `/><path ` + shape + ` transform="translate(80 0)"/>`:          {`"icons/t"`},
		`<path ` + shape + `/><path d="M89.3 89.7C140.3 89.7 100.3 140.7 140.3 130.7z"/>`: {`"icons/t"`},
		`<path ` + shape + `/><path d="M9 99C60 99 20 150 60 143z"/>`: {`"icons/t"`,
			`"icons/t-2"`},
		`<path id="gull" ` + shape + `/><path data-asset="icons/gull" d="M9 9C60 9 2 60 9 40z"/>`: {`"icons/gull-2"`},
	} {
		var acts []string
		for _, a := range advice(t, content) {
			if a.Act != "" {
				acts = append(acts, strings.TrimPrefix(a.Act, "mark it: data-asset="))
			}
		}
		if !slices.Equal(acts, want) {
			t.Errorf("%s: %q, not %q", content, acts, want)
		}
	}
}

func TestAdviseJoinsFormsThatTouch(t *testing.T) {
	const wave, other, near, far = `<path d="M0 40C20 20 40 60 90 40V80H0z"/>`, `<path d="M0 50C20 70 40 30 90 50V80H0z"/>`, `<path d="M90 40L95 30 100 80z"/>`, `<path d="M200 40L205 30 240 80z"/>`
	const words, box = `<text x="9" y="60">Pier</text>`, `<rect x="9" y="50" width="20" height="20"/>`
	for content, want := range map[string]string{
		wave + other + words: "group it with path 2 and mark the group: " +
			"data-asset=\"pictures/t\" | ",
		wave + other + near +
			box: "group it with path 2 and the one form after it and mark the group: " +
			"data-asset=\"pictures/t\" |  | ",
		`<g id="Sea">` + wave + other + words +
			`</g>`: "group it with path 2 and mark the group: data-asset=\"pictures/sea\" | ",
		wave + words + other: "mark it: data-asset=\"pictures/t\" | mark it: " +
			"data-asset=\"pictures/t-2\"",
		wave + far + words: "mark it: data-asset=\"pictures/t\" | mark it: " +
			"data-asset=\"icons/t\"",
		`<g id="Sea">` + wave + other + near + `</g>` +
			far: "mark it: data-asset=\"pictures/sea\" | mark it: data-asset=\"icons/t\"",
		`<path data-asset="sea" d="M0 0L9 9V2z"/>` + wave: " | mark it: data-asset=\"pictures/t\"",
		wave + other + words + `<g transform="translate(150 150)">` + wave + other +
			`</g>`: "group it with path 2 and mark the group: data-asset=\"pictures/t\" |  | ",
	} {
		var acts []string
		for _, a := range advice(t, content) {
			if a.Verdict == AsPicture {
				acts = append(acts, a.Act)
			}
		}
		if got := strings.Join(acts, " | "); got != want {
			t.Errorf("%s:\n%s\nnot %s", content, got, want)
		}
	}
}

func TestStrips(t *testing.T) {
	strip := func(at func(x, y int) uint8) string {
		img := imageOf(12, 10, at)
		s, ok := stripOfPixels(img)
		if !ok {
			return ""
		}
		return s.css
	}
	for name, c := range map[string]struct {
		at   func(x, y int) uint8
		want string
	}{
		"plain":    {func(x, y int) uint8 { return 40 }, "background: #282828"},
		"down":     {func(x, y int) uint8 { return uint8(y * 20) }, "linear-gradient(to bottom, #000000, #bebebe)"},
		"across":   {func(x, y int) uint8 { return uint8(x * 20) }, "linear-gradient(to right,"},
		"stripes":  {func(x, y int) uint8 { return uint8(x * x * 2) }, "background-repeat: repeat-y"},
		"a scene":  {func(x, y int) uint8 { return uint8(x * y * 2) }, ""},
		"one spot": {func(x, y int) uint8 { return uint8(x / 11 * (y / 9) * 90) }, ""},
	} {
		if got := strip(c.at); !strings.Contains(got, c.want) || c.want == "" && got != "" {
			t.Errorf("%s: %q", name, got)
		}
	}
}
