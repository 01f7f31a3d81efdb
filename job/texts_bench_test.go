package job

import (
	"fmt"
	"math/rand/v2"
	"os"
	"strings"
	"testing"

	"archetyp/core/font"
	"archetyp/core/text"
	"archetyp/core/text/exchange"
	"archetyp/core/text/fit"
	"archetyp/workspace"
)

var benchWords = strings.Fields("boat ferry pier ticket adult child bicycle harbour island crossing morning evening " +
	"weather message account trip return seat cabin breakfast window price change free time wind sail tide lamp rope")

// wordy makes a workspace of screens with so many texts each, in the demo's font.
func wordy(t testing.TB, screens, texts int) *workspace.Workspace {
	t.Helper()
	dir := t.TempDir()
	r := rand.New(rand.NewPCG(5, 5))
	n := 0
	for s := range screens {
		var b strings.Builder
		fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" width="390" height="%d" data-screen="Screen %d">`, texts*60,
			s)
		for i := range texts {
			var words []string
			for range 2 + r.IntN(5) {
				words = append(words, benchWords[r.IntN(len(benchWords))])
			}
			n++
			fmt.Fprintf(&b, "<g id=\"row%d\"><rect x=\"16\" y=\"%d\" width=\"358\" height=\"50\" rx=\"8\" "+
				"fill=\"#fff\"/><text x=\"32\" y=\"%d\" font-family=\"Hanken Grotesk\" font-size=\"16\">%s %d</text></g>\n", i, i*60+4, i*60+34, strings.Join(words, " "), n)
		}
		b.WriteString("</svg>")
		put(t, dir, fmt.Sprintf("design/s%03d.svg", s), b.String())
	}
	for _, f := range []string{"HankenGrotesk-Regular.ttf"} {
		data, err := os.ReadFile("../demo/files/fonts/" + f)
		if err != nil {
			t.Fatal(err)
		}
		put(t, dir, "fonts/"+f, string(data))
	}
	put(t, dir, "archetyp.yaml",
		"name: Many\nsources: [design/*.svg]\nfonts: [fonts]\ntext: {source: en, locales: [de, fi, pl, fr, sv], keys: "+
			"\"{screen}.{words}\"}\n")
	return open(t, dir)
}

// translated collects a workspace and puts words into all its locales.
func translated(t testing.TB, ws *workspace.Workspace) *text.Catalogue {
	t.Helper()
	if _, err := Collect(t.Context(), ws, Options{}); err != nil {
		t.Fatal(err)
	}
	c, _, err := ReadTexts(ws)
	if err != nil {
		t.Fatal(err)
	}
	for _, l := range c.Locales {
		for _, e := range c.Entries {
			if err := c.Set(e, l, "Ü"+e.Words+" "+l, ""); err != nil {
				t.Fatal(err)
			}
		}
	}
	if _, err := WriteTexts(ws, c); err != nil {
		t.Fatal(err)
	}
	return c
}

func BenchmarkCollect(b *testing.B) {
	for _, screens := range []int{20, 200} {
		b.Run(fmt.Sprint(screens*50), func(b *testing.B) {
			ws := wordy(b, screens, 50)
			b.ReportAllocs()
			for b.Loop() {
				os.RemoveAll(ws.Path("text"))
				if _, err := Collect(b.Context(), ws, Options{}); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

func BenchmarkReview(b *testing.B) {
	for _, screens := range []int{20, 200} {
		b.Run(fmt.Sprint(screens*50), func(b *testing.B) {
			ws := wordy(b, screens, 50)
			translated(b, ws)
			b.ReportAllocs()
			for b.Loop() {
				c, err := Texts(b.Context(), ws)
				if err != nil {
					b.Fatal(err)
				}
				set := font.NewSet(nil)
				if err := ws.AddFonts(set); err != nil {
					b.Fatal(err)
				}
				if n := len(fit.Review(c, c.Locales, Measurer(ws, set))); n != screens*50*5 {
					b.Fatal(n)
				}
			}
		})
	}
}

func BenchmarkImport(b *testing.B) {
	for _, n := range []int{5000, 50000} {
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			c := &text.Catalogue{Locale: "en", Locales: []string{"de"}}
			for i := range n {
				c.Entries = append(c.Entries, &text.Entry{Key: fmt.Sprintf("screen%d.part.key-%d", i/50, i),
					Words: fmt.Sprintf("The boat number %d is late", i), Places: []text.Place{{
						Source: fmt.Sprintf("design/s%d.svg", i/50), Screen: fmt.Sprintf("Screen %d",
							i/50), Element: fmt.Sprintf("row%d/text 1", i%50), Selector: fmt.Sprintf("#row%d > text:nth-child(2)", i%50),
						Font: &text.Font{Family: "Hanken Grotesk", Size: 16, Weight: 400}, Room: &text.Room{X: 32, Width: 326, Lines: 1,
							Height: 21, Taken: 120, Align: "left", By: "container"}}}})
			}
			files := map[string][]byte{"en.json": c.LocaleJSON("en"), text.KeysFile: c.KeysJSON()}
			d := &exchange.Document{Source: "en", Target: "de", Units: c.Units(text.Filter{}, "de")}
			for i := range d.Units {
				d.Units[i].Target, d.Units[i].State = fmt.Sprintf("Das Schiff Nummer %d ist verspätet", i), text.Translated
			}
			f, _ := exchange.Of("xliff")
			data, _ := f.Write(d, exchange.Options{})
			b.ReportAllocs()
			b.SetBytes(int64(len(data)))
			for b.Loop() {
				c, err := text.ReadCatalogue("en", []string{"de"}, files)
				if err != nil {
					b.Fatal(err)
				}
				d, err := f.Read(data, exchange.Options{})
				if err != nil {
					b.Fatal(err)
				}
				c.Import(d.Units, text.ImportOptions{Locale: "de"})
				if out := c.LocaleJSON("de"); len(out) < n*20 {
					b.Fatal(len(out))
				}
				c.LocaleJSON("en")
				c.KeysJSON()
			}
		})
	}
}

func BenchmarkCheck(b *testing.B) {
	ws := wordy(b, 200, 50)
	c := translated(b, ws)
	b.ReportAllocs()
	for b.Loop() {
		c.Check(text.CheckOptions{Pattern: ws.Config.Text.Keys})
	}
}
