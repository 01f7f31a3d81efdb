package fit

import (
	"fmt"
	"image"
	"image/color"
	"math"
	"os"
	"strings"
	"testing"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/geom"
	"archetyp/core/read/svg"
	"archetyp/core/text"
	"archetyp/core/text/message"
)

var demoFonts = func() *font.Set {
	s := font.NewSet(nil)
	for _, n := range []string{"HankenGrotesk-Regular", "HankenGrotesk-Bold", "NotoSansHebrew-Regular"} {
		data, err := os.ReadFile("../../../demo/files/fonts/" + n + ".ttf")
		if err != nil {
			panic(err)
		}
		if _, err := s.Add(data, n); err != nil {
			panic(err)
		}
	}
	return s
}()

func hanken(size float64) font.Style {
	return font.Style{Families: []string{"Hanken Grotesk"}, Size: size, Weight: 400}
}

func said(lines []Line) string {
	var out []string
	for _, l := range lines {
		out = append(out, wordsOf(l))
	}
	return strings.Join(out, "|")
}

func TestWrap(t *testing.T) {
	sh := font.NewShaper(demoFonts)
	_, boat, _, _ := sh.Shape("boat", hanken(16))
	_, two, _, _ := sh.Shape("boat boat", hanken(16))
	_, ships, _, _ := sh.Shape("船船", hanken(16))
	for _, c := range []struct {
		words string
		width float64
		want  string
	}{
		{"", 100, ""},
		{"boat", 0, "boat"},
		{"boat boat boat", 0, "boat boat boat"},
		{"boat boat boat", two + 0.1, "boat boat|boat"},
		{"boat boat boat", two - 0.1, "boat|boat|boat"},
		{"boat boat ", two + 0.1, "boat boat"},
		{"boat   boat", boat + 0.1, "boat|boat"},
		{"boat\nboat boat", two + 0.1, "boat|boat boat"},
		{"boat\n\nboat", two + 0.1, "boat||boat"},
		{"boat\nboat", 0, "boat|boat"},
		{"boatboatboat boat", two, "boatboatboat|boat"},
		{"boat\u00a0boat boat", boat, "boat\u00a0boat|boat"},
		{"boat-boat", boat + 6, "boat-|boat"},
		{"boat/boat.", boat, "boat/|boat."},
		{"船船船船", ships + 0.1, "船船|船船"},
	} {
		lines := Wrap(sh, []Run{{Words: c.words, Style: hanken(16)}}, c.width)
		if got := said(lines); got != c.want {
			t.Errorf("%q in %.1f px: %q, want %q", c.words, c.width, got, c.want)
		}
		for _, l := range lines {
			if c.width > 0 && l.Width > c.width+tolerance && strings.ContainsAny(wordsOf(l), " ") {
				t.Errorf("%q is %.2f px wide, in %.2f", wordsOf(l), l.Width, c.width)
			}
		}
	}
}

func TestWrapKeepsRuns(t *testing.T) {
	sh := font.NewShaper(demoFonts)
	bold := hanken(16)
	bold.Weight = 700
	runs := []Run{{Words: "Windy ", Style: hanken(16)}, {Words: "on Saturday", Style: bold, Name: "b"},
		{Words: " and late", Style: hanken(16)}}
	lines := Wrap(sh, runs, 75)
	var got []string
	for _, l := range lines {
		for _, r := range l.Runs {
			got = append(got, fmt.Sprintf("%s<%s>", r.Words, r.Name))
		}
		got = append(got, "|")
	}
	if s := strings.Join(got, ""); s != "Windy <>on<b>|Saturday<b>|and late<>|" {
		t.Error(s)
	}
	one := Wrap(sh, runs, 0)
	_, plain, _, _ := sh.Shape("Windy on Saturday and late", hanken(16))
	if len(one) != 1 || one[0].Width <= plain {
		t.Errorf("a bold word is no wider: %v of %g", one, plain)
	}
}

func TestJudge(t *testing.T) {
	sh := font.NewShaper(demoFonts)
	run := func(words string) []Run { return []Run{{Words: words, Style: hanken(16)}} }
	_, w, _, _ := sh.Shape("Book now", hanken(16))
	for _, c := range []struct {
		words string
		width float64
		lines int
		want  Verdict
		msg   string
	}{
		{"Book now", w * 2, 1, Fits, "fits ("},
		{"Book now", w * 1.02, 1, Tight, "tight ("},
		{"Book now", w - 1, 1, Overflows, "overflows by 1.0 px"},
		{"Book now", w - 1, 2, Fits, "fits"},
		{"Book now Book now Book now", w + 1, 2, Lines, "needs 1 more line (3 of 2)"},
		{"Book now Book now Book now Book now", w + 1, 2, Lines, "needs 2 more lines (4 of 2)"},
		{"Unbreakable", 20, 3, Overflows, "overflows"},
	} {
		j := Judge(sh, run(c.words), &text.Room{Width: c.width, Lines: c.lines})
		j.Place.Room = &text.Room{Width: c.width, Lines: c.lines}
		if j.Fit != c.want || !strings.HasPrefix(j.Msg(), c.msg) {
			t.Errorf("%q in %.1f px, %d lines: %s, want %s %q", c.words, c.width, c.lines, j.Msg(), c.want, c.msg)
		}
	}
}

func read(t testing.TB, content string) ([]byte, *design.Document) {
	t.Helper()
	src := []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="400" height="300" data-screen="Booking" font-family="Hanken Grotesk">` + content + `</svg>`)
	d, err := svg.Read("t.svg", src, svg.Options{Fonts: demoFonts.Clone()})
	if err != nil {
		t.Fatal(err)
	}
	return src, d
}

func catalogue(t testing.TB, d *design.Document, locale string, words ...string) *text.Catalogue {
	t.Helper()
	got, err := text.Collect([]*design.Document{d}, nil, text.Options{Locale: "en", Locales: []string{locale},
		Pattern: "{words}"})
	if err != nil {
		t.Fatal(err)
	}
	c := got.Catalogue
	for i := 0; i < len(words); i += 2 {
		e := c.Get(words[i])
		if e == nil {
			t.Fatalf("no key %s in %v", words[i], c.Entries)
		}
		if err := c.Set(e, locale, words[i+1], ""); err != nil {
			t.Fatal(err)
		}
	}
	return c
}

var measurer = &Measurer{Fonts: demoFonts, More: map[string][]string{"he": {"Noto Sans Hebrew"}}, Jobs: 2}

func TestReview(t *testing.T) {
	_, d := read(t, `<g><rect x="20" y="20" width="100" height="40" fill="#fff"/><text id="a" x="30" y="45" font-size="16">Pay</text></g>
<g><rect x="20" y="100" width="100" height="40" fill="#fff"/><text id="b" x="30" y="125" font-size="16" style="text-transform:uppercase">Go</text></g>
<text id="c" x="30" y="200" font-size="16">Sail <tspan font-weight="700">now</tspan></text><text id="d" x="20" y="250" font-size="16">Times</text>`)
	c := catalogue(t, d, "he", "pay", "שלם עכשיו בבקשה מיד", "go", "Weiter hier", "sail-now", "להפליג <b>Ж</b>", "times",
		"זמנים")
	got := map[string]Judged{}
	for _, j := range Review(c, []string{"he"}, measurer) {
		got[j.Key] = j
	}
	for key, want := range map[string]Verdict{"pay": Overflows, "go": Overflows, "sail-now": Glyphs, "times": Fits} {
		if got[key].Fit != want {
			t.Errorf("%s: %+v, want %s", key, got[key], want)
		}
	}
	if got["go"].Words != "WEITER HIER" {
		t.Errorf("not in capitals: %q", got["go"].Words)
	}
	if m := got["sail-now"].Missing; len(m) != 1 || m[0] != "Ж" {
		t.Errorf("%v", m)
	}
	if list := Review(c, []string{"he"}, measurer); list[0].Fit != Overflows || list[len(list)-1].Fit != Fits {
		t.Error("the worst do not come first")
	}
	if n := len(Review(c, []string{"fi"}, measurer)); n != 0 {
		t.Errorf("%d texts judged that are not translated", n)
	}
	if n := len(Review(c, []string{text.PseudoLong}, measurer)); n != 4 {
		t.Errorf("%d texts judged in the made-up locale", n)
	}
}

// texts lists what stands where in a drawing.
func texts(t testing.TB, src []byte) []*design.Element {
	t.Helper()
	d, err := svg.Read("t.svg", src, svg.Options{Fonts: demoFonts.Clone()})
	if err != nil {
		t.Fatalf("%v\n%s", err, src)
	}
	var out []*design.Element
	for _, e := range d.All() {
		if e.Words != nil {
			out = append(out, e)
		}
	}
	return out
}

func TestPlace(t *testing.T) {
	for _, c := range []struct {
		name, content, locale, words, want string // want: parts of the result
	}{
		{"one line", `<!-- kept --><text id="a" x="30" y="45" fill="#123456">Pay</text>`, "de", "Zahlen & gehen",
			`<!-- kept --><text id="a" x="30" y="45" fill="#123456">Zahlen &amp; gehen</text>`},
		{"the place is on a tspan", `<text id="a"><tspan id="q" x="30" y="45">Pay</tspan></text>`, "de", "Zahlen",
			`<text id="a"><tspan id="q" x="30" y="45">Zahlen</tspan></text>`},
		{"its look is on a tspan", `<text id="a"><tspan x="30" y="45" fill="red" style="font-weight:700">Pay</tspan></text>`,
			"de", "Zahlen", `<text id="a"><tspan x="30" y="45" fill="red" style="font-weight:700">Zahlen</tspan></text>`},
		{"held in the middle", `<text id="a" x="100" y="45" text-anchor="middle">Pay</text>`, "de", "Jetzt zahlen",
			`<text id="a" x="100" y="45" text-anchor="middle">Jetzt zahlen</text>`},
		{"held at the end", `<text id="a" x="300" y="45" text-anchor="end">Pay</text>`, "de", "Jetzt zahlen",
			`<text id="a" x="300" y="45" text-anchor="end">Jetzt zahlen</text>`},
		{"in a moved group", `<g transform="translate(10 20) scale(2)"><text id="a" x="5" y="15">Pay</text></g>`, "de",
			"Zahlen", `<g transform="translate(10 20) scale(2)"><text id="a" x="5" y="15">Zahlen</text></g>`},
		{"turned", `<text id="a" x="50" y="15" transform="rotate(30)">Pay</text>`, "de", "Zahlen",
			`<text id="a" x="50" y="15" transform="rotate(30)">Zahlen</text>`},
		{"turned and held in the middle",
			`<text id="a" x="50" y="15" text-anchor="middle" transform="rotate(-90 20 20)">Pay</text>`, "de", "Zahlen", `<text id="a" x="50" y="15" text-anchor="middle" transform="rotate(-90 20 20)">Zahlen</text>`},
		{"drawn wider than high", `<text id="a" x="5" y="15" text-anchor="end" transform="scale(2 2) rotate(10)">Pay</text>`,
			"de", "Zahlen", `<text id="a" x="5" y="15" text-anchor="end" transform="scale(2 2) rotate(10)">Zahlen</text>`},
		{"stretched letters go", `<text id="a" x="5 15 25" y="15" textLength="90" rotate="3">Pay</text>`, "de", "Zahlen",
			`<text id="a"><tspan x="5" y="15">Zahlen</tspan></text>`},
		{"a bold word", `<text id="a" x="5" y="15">Pay <tspan font-weight="700" fill="red">now</tspan> please</text>`, "de",
			"Bitte <b>jetzt</b> zahlen", `<tspan x="5" y="15">Bitte <tspan font-weight="700" fill="red">jetzt</tspan> zahlen</tspan>`},
		{"an element that the drawing lacks", `<text id="a" x="5" y="15">Pay</text>`, "de", "<i>Zahlen</i>",
			`<text id="a" x="5" y="15">Zahlen</text>`},
		{"from the right", `<g><rect x="20" y="20" width="200" height="40" fill="#fff"/><text id="a" x="30" y="45">Pay</text></g>`, "he", "שלם", `style="direction: rtl; font-family: 'Hanken Grotesk', 'Noto Sans Hebrew'; text-anchor: start"><tspan x="210" y="45">שלם</tspan>`},
		{"from the right, beside another", `<text id="a" x="30" y="45">Pay</text><circle cx="200" cy="40" r="9" fill="red"/>`,
			"he", "שלם", `text-anchor: end"><tspan x="30" y="45">`},
		{"from the right, in the middle", `<text id="a" x="100" y="45" style="text-anchor:middle;fill:red">Pay</text>`, "he",
			"שלם", `style="text-anchor:middle; fill:red; direction: rtl; font-family: 'Hanken Grotesk', 'Noto Sans Hebrew'"><tspan x="100" y="45">`},
		{"arguments", `<text id="a" x="5" y="15" data-message="Pay {price}">Pay € 5</text>`, "de", "{price} zahlen",
			`data-message="Pay {price}">€ 5 zahlen</text>`},
		{"an alternative text", `<image id="a" width="9" height="9" aria-label='A "ferry"' href="x.png"/>`, "de",
			"Eine „Fähre“ <&>", `aria-label="Eine „Fähre“ &lt;&amp;>" href="x.png"/>`},
		{"a title", `<g role="img" id="a"><title>A ferry</title><rect width="9" height="9"/></g>`, "de", "Fähre",
			`<title>Fähre</title>`},
	} {
		src, d := read(t, c.content)
		cat := catalogue(t, d, c.locale)
		words := c.words
		if strings.Contains(words, "<&>") {
			words = message.Escape(words)
		}
		if err := cat.Set(cat.Entries[0], c.locale, words, ""); err != nil {
			t.Fatal(err)
		}
		got, err := Place(src, d, cat, c.locale, measurer)
		if err != nil {
			t.Errorf("%s: %v", c.name, err)
			continue
		}
		if !strings.Contains(string(got.SVG), c.want) || got.Count != 1 {
			t.Errorf("%s: %s\nwant %s", c.name, got.SVG, c.want)
		}
		texts(t, got.SVG)
	}
}

func TestPlaceWrapsParagraphs(t *testing.T) {
	src, d := read(t, `<g><rect x="20" y="20" width="200" height="120" fill="#fff"/><text id="a" font-size="14" fill="#123"><tspan x="30" y="50">Sail with us and be there on</tspan><tspan x="30" y="70">time</tspan></text></g>`)
	cat := catalogue(t, d, "de")
	e := cat.Entries[0]
	if e.Words != "Sail with us and be there on time" {
		t.Fatal(e.Words)
	}
	cat.Set(e, "de", "Fahren Sie mit uns und kommen Sie pünktlich an, zu jeder Zeit und bei jedem Wetter", "")
	got, err := Place(src, d, cat, "de", measurer)
	if err != nil {
		t.Fatal(err)
	}
	w := texts(t, got.SVG)[0].Words
	if len(w.Lines) < 3 {
		t.Fatalf("%d lines", len(w.Lines))
	}
	for i, l := range w.Lines {
		if l.Baseline.X != 30 || l.Baseline.Y != 50+20*float64(i) || l.Width > 180 {
			t.Errorf("line %d: %+v", i, l)
		}
	}
	cat.Set(e, "de", "Kurz", "")
	if got, _ = Place(src, d, cat, "de", measurer); len(texts(t, got.SVG)[0].Words.Lines) != 1 {
		t.Errorf("%s", got.SVG)
	}
}

// Lines that are texts of their own become one text, and the others go.
func TestPlaceLinesApart(t *testing.T) {
	src, d := read(t, `<g id="g"><text id="l1" x="10" y="20" font-size="16" fill="#123456">Free to change until one hour</text><text id="l2" x="10" y="44" font-size="16" fill="#123456">before you sail with us</text><text id="l3" x="10" y="68" font-size="16" fill="#123456">in the morning</text></g><text id="z" x="10" y="140">Else</text>`)
	cat := catalogue(t, d, "de")
	e := cat.Get("free-to-change-until")
	if e == nil || len(e.Places) != 1 || len(e.Places[0].More) != 2 || e.Places[0].Room.Lines < 3 ||
		e.Places[0].Box.H < 60 {
		t.Fatalf("%+v", cat.Entries)
	}
	cat.Set(e, "de", "Kostenlos umbuchbar bis eine Stunde bevor Sie mit uns fahren, morgens und abends, bei jedem Wetter",
		"")
	got, err := Place(src, d, cat, "de", measurer)
	if err != nil || got.Count != 1 || len(got.Skipped) != 0 {
		t.Fatal(err, got)
	}
	list := texts(t, got.SVG)
	if len(list) != 2 || len(list[0].Words.Lines) < 3 || list[1].Words.Words != "Else" {
		t.Fatalf("%s", got.SVG)
	}
	for i, l := range list[0].Words.Lines {
		if l.Baseline.X != 10 || l.Baseline.Y != 20+24*float64(i) {
			t.Errorf("line %d: %+v", i, l)
		}
	}
	again := catalogue(t, d, "de")
	if len(again.Entries) != 2 {
		t.Errorf("%d keys", len(again.Entries))
	}
}

func TestPlaceSaysWhatItLeaves(t *testing.T) {
	src, d := read(t, `<path id="p" d="M0 50H300"/><text id="a"><textPath href="#p">Around</textPath></text><foreignObject width="90" height="30"><p xmlns="http://www.w3.org/1999/xhtml">Inside</p></foreignObject><text y="99">Plain</text>`)
	cat := catalogue(t, d, "de", "around", "Herum", "inside", "Innen", "plain", "Schlicht")
	cat.Get("plain").Places[0].Element = "moved away"
	got, err := Place(src, d, cat, "de", measurer)
	if err != nil || len(got.Skipped) != 3 || string(got.SVG) != string(src) {
		t.Errorf("%v %q\n%s", err, got.Skipped, got.SVG)
	}
}

// What is placed in a language measures as it was judged.
func TestPlacedIsAsJudged(t *testing.T) {
	src, d := read(t, `<text id="a" x="30" y="45" font-size="17" letter-spacing="0.5">Pay now</text><text id="b" x="30" y="95" font-size="13">Some <tspan font-weight="700">bold</tspan> ones</text>`)
	cat := catalogue(t, d, "pl", "pay-now", "Zapłać teraz", "some-bold-ones", "Kilka <b>grubych</b> słów")
	got, err := Place(src, d, cat, "pl", measurer)
	if err != nil {
		t.Fatal(err)
	}
	judged := map[string]float64{}
	for _, j := range Review(cat, []string{"pl"}, measurer) {
		judged[j.Words] = j.Needs
	}
	for _, e := range texts(t, got.SVG) {
		if want := judged[e.Words.Words]; math.Abs(want-e.Words.Lines[0].Width) > 0.05 || want == 0 {
			t.Errorf("%s: judged %.2f px, placed %.2f", e.Words.Words, want, e.Words.Lines[0].Width)
		}
	}
}

func TestPictures(t *testing.T) {
	_, d := read(t, `<rect width="400" height="300" fill="#0b6e8f"/><text x="30" y="45" fill="#fff">Pay</text>`)
	s := d.Screens[0]
	img, err := Paint(s, 2)
	if err != nil || img.Bounds() != image.Rect(0, 0, 800, 600) {
		t.Fatal(err, img.Bounds())
	}
	box := geom.Rect{X: 100, Y: 100, W: 100, H: 50}
	framed, err := Point(img, geom.Rect{W: 400, H: 300}, []Frame{{Box: box, Label: "12"},
		{Box: geom.Rect{X: 300, Y: 200, W: 20, H: 20}, Bad: true}}, demoFonts)
	if err != nil {
		t.Fatal(err)
	}
	plain := color.RGBA{0x0b, 0x6e, 0x8f, 0xff}
	if c := framed.RGBAAt(300, 250); c != plain {
		t.Errorf("inside a frame %v, want it as it was", c)
	}
	if c := framed.RGBAAt(20, 500); c.G >= plain.G {
		t.Errorf("outside it is not dimmed: %v", c)
	}
	if c := framed.RGBAAt(192, 250); c.R < 200 {
		t.Errorf("no frame: %v", c)
	}
	if c := img.RGBAAt(20, 500); c != plain {
		t.Errorf("the picture itself changed: %v", c)
	}
	sheet, err := Sheet([]*image.RGBA{img, framed}, []string{"en", "de"}, 2, demoFonts)
	if err != nil || sheet.Bounds().Dx() != 2*(400*2+24*3) || sheet.Bounds().Dy() != 2*(300+40+24) {
		t.Fatal(err, sheet.Bounds())
	}
	if c := sheet.RGBAAt(2*24+20, 2*40+500); c != plain {
		t.Errorf("the first picture is not where it should be: %v", c)
	}
}

// TestCaseOfATranslation has translations in the case their place asks for, by their own rules.
func TestCaseOfATranslation(t *testing.T) {
	for _, c := range []struct{ words, transform, locale, want string }{
		{"Straße", "uppercase", "de", "STRASSE"}, {"istanbul", "uppercase", "tr", "İSTANBUL"}, {"istanbul", "uppercase", "de",
			"ISTANBUL"},
		{"wyspa łódź", "capitalize", "pl", "Wyspa Łódź"}, {"As It Is", "none", "en", "As It Is"},
	} {
		if got := css.TextTransform(c.words, c.transform, c.locale); got != c.want {
			t.Errorf("%s, %s in %s: %s, want %s", c.words, c.transform, c.locale, got, c.want)
		}
	}
}

// wordsOf are the words of a line.
func wordsOf(l Line) string {
	var b strings.Builder
	for _, r := range l.Runs {
		b.WriteString(r.Words)
	}
	return b.String()
}
