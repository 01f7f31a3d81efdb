package svg

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"archetyp/core/font"
)

// Exports place every line by its x: what stands in the middle is set in the middle all the same.
func TestAlignmentByPlace(t *testing.T) {
	text := func(x float64, words string) string {
		return fmt.Sprintf(`<text id="x" font-family="Hanken Grotesk" font-size="16" x="%g" y="37">%s</text>`, x, words)
	}
	const button = `<g><rect x="50" y="8" width="279" height="48" fill="#0b6e8f"/>%s</g>`
	for _, c := range []struct{ name, content, align, from string }{
		{"a label in a button", fmt.Sprintf(button, text(154.2, "Book now")), "center", "as much room left of it as right"},
		{"at the left of it", fmt.Sprintf(button, text(66, "Book now")), "left", ""},
		{"said so", fmt.Sprintf(button, strings.Replace(text(189.5, "Book now"), "<text", `<text text-anchor="middle"`, 1)),
			"center", ""},
		{"said to begin there", fmt.Sprintf(button, strings.Replace(text(154.2, "Book now"), "<text",
			`<text text-anchor="start"`, 1)), "left", ""},
		{"high up, alone", fmt.Sprintf(`<g><rect width="379" height="300" fill="#eee"/>%s</g>`, text(154.2, "Book now")),
			"left", ""},
		{"high up, over others in the middle",
			fmt.Sprintf(`<g><rect x="50" width="279" height="300" fill="#eee"/>%s<rect x="99.5" y="80" width="180" height="80"/></g>`, text(154.2, "Book now")), "center", ""},
		{"lines about one middle",
			`<text id="x" font-family="Hanken Grotesk" font-size="16"><tspan x="20" y="30">A long line of words</tspan><tspan x="77.8" y="54">few</tspan></text>`, "center", "its lines share their middle"},
		{"lines with one end",
			`<text id="x" font-family="Hanken Grotesk" font-size="16"><tspan x="20" y="30">A long line of words</tspan><tspan x="135.6" y="54">few</tspan></text>`, "right", "its lines share their end"},
		{"lines with one beginning",
			`<text id="x" font-family="Hanken Grotesk" font-size="16"><tspan x="20" y="30">A long line of words</tspan><tspan x="20" y="54">few</tspan></text>`, "left", ""},
	} {
		e := byID(t, draw(t, c.content), "x")
		if got := e.Words.Align; got.Value != c.align || c.from != "" && got.From != c.from {
			t.Errorf("%s: %s (%s), want %s; lines %+v in %v", c.name, got.Value, got.From, c.align, e.Words.Lines, e.Container())
		}
	}
}

// fakeMachine has one family, in two weights.
type fakeMachine struct{ regular, bold []byte }

func (m *fakeMachine) Find(family string, weight int, _ bool) ([]byte, string, bool) {
	if strings.ReplaceAll(strings.ToLower(family), " ", "") != "hankengrotesk" && family != "Liberation Sans" {
		return nil, "", false
	}
	if weight >= 600 {
		return m.bold, "bold.ttf", true
	}
	return m.regular, "regular.ttf", true
}

func readFont(t testing.TB, name string) []byte {
	t.Helper()
	data, err := os.ReadFile("../../../demo/files/fonts/" + name)
	if err != nil {
		t.Fatal(err)
	}
	return data
}

// PostScript names mean a family's face; generic families are the machine's where it has some.
func TestFontsByOtherNames(t *testing.T) {
	m := &fakeMachine{readFont(t, "HankenGrotesk-Regular.ttf"), readFont(t, "HankenGrotesk-Bold.ttf")}
	for _, c := range []struct{ attrs, family, weight, used, warning string }{
		{`font-family="HankenGrotesk-Bold"`, `"Hanken Grotesk"`, "700", "Hanken Grotesk", ""},
		{`font-family="HankenGrotesk-SemiBold, sans-serif"`, `"Hanken Grotesk", sans-serif`, "600", "Hanken Grotesk", ""},
		{`font-family="HankenGrotesk-Bold" font-weight="300"`, `"Hanken Grotesk"`, "300", "Hanken Grotesk", ""},
		{`font-family="HankenGrotesk"`, `HankenGrotesk`, "400", "HankenGrotesk", ""},
		{`font-family="HankenGrotesk-Purple"`, `HankenGrotesk-Purple`, "400", "", "missing"},
		{`font-family="Quay-Bold"`, `Quay-Bold`, "400", "", "missing"},
		{`font-family="sans-serif"`, `sans-serif`, "400", "Liberation Sans", ""},
		{`font-family="Arial"`, `Arial`, "400", "Liberation Sans", "Liberation Sans stands in"},
		{`font-family="Quay, sans-serif"`, `Quay, sans-serif`, "400", "Liberation Sans", "Liberation Sans stands in"},
	} {
		d, err := Read("t.svg",
			[]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="300" height="200"><text id="x" y="20" `+c.attrs+`>Pier</text></svg>`), Options{Fonts: font.NewSet(m)})
		if err != nil {
			t.Fatal(err)
		}
		e := byID(t, d, "x")
		if factText(e, "font-family") != c.family || factText(e, "font-weight") != c.weight || c.used != "" &&
			!font.Same(e.Words.Used, c.used) {
			t.Errorf("%s: %s %s, measured with %s", c.attrs, factText(e, "font-family"), factText(e, "font-weight"),
				e.Words.Used)
		}
		if told := fmt.Sprint(d.Warnings); (c.warning == "") != (len(d.Warnings) == 0) || !strings.Contains(told, c.warning) {
			t.Errorf("%s: %s", c.attrs, told)
		}
		if e.Words.Missing != (c.warning != "") {
			t.Errorf("%s: missing is %t", c.attrs, e.Words.Missing)
		}
	}
}

// A line that is set in several ways tells each.
func TestRunsAreTold(t *testing.T) {
	e := byID(t, draw(t,
		`<text id="x" y="20" font-family="Go" font-size="16">Kitchen <tspan fill="#e4572e">favourites</tspan><tspan font-weight="700"> today</tspan></text>`), "x")
	for i, want := range []string{`"Kitchen" 400 16px Go #000000`, `"favourites" 400 16px Go #e4572e`,
		`"today" 700 16px Go #000000`} {
		if got := factText(e, fmt.Sprintf("run %d", i+1)); got != want {
			t.Errorf("run %d: %s, want %s", i+1, got, want)
		}
	}
	if got := factText(byID(t, draw(t, `<text id="x" y="20">one <tspan>two</tspan></text>`), "x"), "run 1"); got != "" {
		t.Errorf("all alike: %s", got)
	}
}
