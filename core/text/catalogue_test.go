package text_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"archetyp/core/text"
)

func files(c *text.Catalogue) map[string][]byte {
	out := map[string][]byte{c.Locale + ".json": c.LocaleJSON(c.Locale), text.KeysFile: c.KeysJSON()}
	for _, l := range c.Locales {
		out[l+".json"] = c.LocaleJSON(l)
	}
	return out
}

func TestFilesReadBack(t *testing.T) {
	c := collect(t, `<g><rect width="200" height="50" fill="#fff"/><text x="16" y="30" letter-spacing="1">Say "hi" &lt;b&gt; \ ü</text></g><text y="90" data-text="k">Two <tspan font-weight="700">bold</tspan> ones</text>`, nil).Catalogue
	e := c.Entries[0]
	e.Note, e.Meaning = "greeting\nof two lines", "verb"
	e.Tag([]string{"b", "a"}, nil)
	c.Set(e, "de", "Sag „hallo“", text.Reviewed)
	c.Set(e, "fi", "Terve", text.Initial)
	e.In["fi"].Score, e.In["fi"].Of = 87, "Say"
	e.Formerly = []string{"old.key"}
	again, err := text.ReadCatalogue("en", []string{"de", "fi"}, files(c))
	if err != nil {
		t.Fatal(err)
	}
	for name, data := range files(c) {
		if got := files(again)[name]; string(got) != string(data) {
			t.Errorf("%s\n%s\nbecame\n%s", name, data, got)
		}
		if !json.Valid(data) {
			t.Errorf("%s is no JSON", name)
		}
	}
	g := again.Get("old.key")
	if g == nil || g.Note != e.Note || fmt.Sprint(g.Tags) != "[a b]" || g.In["de"].State != text.Reviewed ||
		g.In["fi"].Score != 87 || math.Abs(g.Places[0].Box.W-e.Places[0].Box.W) > 0.01 || g.Places[0].Font.Spacing != 1 {
		t.Errorf("%+v", g)
	}
	if empty, err := text.ReadCatalogue("en", nil, nil); err != nil || string(empty.LocaleJSON("en")) != "{}\n" {
		t.Errorf("%v %s", err, empty.LocaleJSON("en"))
	}
}

// What is imported into a reading without places, and taken over by a whole one, is what an import into the whole
// gives.
func TestImportWithoutPlaces(t *testing.T) {
	c := three(t)
	c.Set(c.Get("booking.adults"), "de", "Große", text.Reviewed)
	c.Get("booking.adults").Formerly = []string{"old.adults"}
	units := []text.Unit{{Key: "booking.tab.book", Target: "Buchen", State: text.Final},
		{Key: "old.adults", Target: "Alte", State: text.Translated}, {Key: "by.mark", Target: "Mit Zeichen"}}
	whole, err := text.ReadCatalogue("en", []string{"de"}, files(c))
	if err != nil {
		t.Fatal(err)
	}
	light, err := text.ReadTranslations("en", []string{"de"}, files(c))
	if err != nil || !light.Placeless || light.Entries[0].Places != nil {
		t.Fatalf("%v %+v", err, light.Entries[0])
	}
	again, _ := text.ReadCatalogue("en", []string{"de"}, files(c))
	a, b := whole.Import(units, text.ImportOptions{Locale: "de"}), light.Import(units, text.ImportOptions{Locale: "de"})
	again.Take(light)
	if fmt.Sprint(a) != fmt.Sprint(b) || !light.StatesChanged {
		t.Errorf("%v\nand\n%v", a, b)
	}
	for name, data := range files(whole) {
		if got := files(again)[name]; string(got) != string(data) {
			t.Errorf("%s: %s\nwant %s", name, got, data)
		}
	}
}

func TestFilesRefused(t *testing.T) {
	for _, c := range []struct{ file, data, want string }{
		{"en.json", "{", "en.json:1:2: the file is cut off"},
		{"en.json", "[]", "en.json:1:1: not one flat"},
		{"en.json", "{\n  \"a\": 1}", "en.json:2:8: a text was expected"},
		{"en.json", "{\"a\": \"x\",\n \"a\": \"y\"}", "en.json:2:2: the key stands twice"},
		{"de.json", "{\"a\": {\"b\": \"x\"}}", "de.json:1:7: a text was expected"},
		{"de.json", "{\"a\": \"\xff\"}", "de.json:1:"},
		{"en.json", "{\"\": \"x\"}", "a key without a name"},
		{"en.json", "{\"a\": \"x\"} {}", "behind the end"},
		{"keys.json", "{\"a\": {\"places\": 3}}", "keys.json:1:"},
		{"keys.json", "nonsense", "keys.json:1:"},
	} {
		_, err := text.ReadCatalogue("en", []string{"de"}, map[string][]byte{c.file: []byte(c.data)})
		var fe *text.FileError
		if !errors.As(err, &fe) || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%s: %v, want %s", c.data, err, c.want)
		}
	}
}

func FuzzReadCatalogue(f *testing.F) {
	f.Add([]byte(`{"a":"b"}`), []byte(`{"a":{"tags":["x"],"in":{"de":{"state":"final"}},"places":[{"box":[1,2,3,4]}]}}`))
	f.Fuzz(func(t *testing.T, words, keys []byte) {
		c, err := text.ReadCatalogue("en", []string{"de"}, map[string][]byte{"en.json": words, "de.json": words,
			"keys.json": keys})
		if err != nil {
			return
		}
		again, err := text.ReadCatalogue("en", []string{"de"}, files(c))
		if err != nil {
			t.Fatal(err)
		}
		if string(again.KeysJSON()) != string(c.KeysJSON()) || string(again.LocaleJSON("en")) != string(c.LocaleJSON("en")) {
			t.Fatalf("%s became %s", c.KeysJSON(), again.KeysJSON())
		}
	})
}

// three is a catalogue of three keys, one with two places.
func three(t testing.TB) *text.Catalogue {
	c := collect(t, `<g data-component="tab"><text id="a" y="9">Book</text></g><g data-component="button"><text id="b" y="60">Book</text></g><text id="c" y="90">Adults</text><text id="d" y="120" data-text="by.mark">Marked</text>`, nil).Catalogue
	c.AddLocale("de")
	return c
}

const threeContent = `<g data-component="tab"><text id="a" y="9">Book</text></g><g data-component="button"><text id="b" y="60">Book</text></g><text id="c" y="90">Adults</text><text id="d" y="120" data-text="by.mark">Marked</text>`

func TestRename(t *testing.T) {
	c := three(t)
	c.Set(c.Get("booking.adults"), "de", "Erwachsene", "")
	if err := c.Rename("booking.adults", "people.grown"); err != nil {
		t.Fatal(err)
	}
	for _, r := range [][2]string{{"nowhere", "x"}, {"booking.tab.book", "people.grown"}, {"by.mark", "x"},
		{"booking.tab.book", "a b"}, {"booking.tab.book", ""}} {
		if err := c.Rename(r[0], r[1]); err == nil {
			t.Errorf("%s is renamed to %q", r[0], r[1])
		}
	}
	c = collect(t, threeContent, c).Catalogue
	e := c.Get("booking.adults")
	if e == nil || e.Key != "people.grown" || e.Unused || e.In["de"].Words != "Erwachsene" {
		t.Errorf("%s", keys(c))
	}
	if err := c.Rename("people.grown", "booking.adults"); err != nil || len(c.Get("people.grown").Formerly) != 1 {
		t.Errorf("back again: %v", err)
	}
}

func TestSplitAndJoin(t *testing.T) {
	c := three(t)
	c.Set(c.Get("booking.tab.book"), "de", "Buchen", text.Final)
	if _, err := c.Split("booking.adults", "", options.Pattern, ""); err == nil {
		t.Error("one place is split")
	}
	if _, err := c.Split("booking.tab.book", "Nowhere", options.Pattern, ""); err == nil {
		t.Error("split at a place that is none")
	}
	parts, err := c.Split("booking.tab.book", "", options.Pattern, "")
	if err != nil || len(parts) != 1 || parts[0].Key != "booking.button.book" || parts[0].In["de"].Words != "Buchen" {
		t.Fatalf("%v %+v", err, parts)
	}
	c.Set(c.Get("booking.button.book"), "de", "Jetzt buchen", "")
	for range 2 { // remembered
		c = collect(t, threeContent, c).Catalogue
		if k := keys(c); !strings.Contains(k, "booking.button.book=Book|") || !strings.Contains(k, "booking.tab.book=Book") {
			t.Fatal(k)
		}
	}
	if c.Get("booking.button.book").In["de"].Words != "Jetzt buchen" {
		t.Error("a translation is lost")
	}
	if _, err := c.Join("booking.tab.book", "booking.adults"); err == nil {
		t.Error("other words are joined")
	}
	if _, err := c.Join("booking.tab.book", "by.mark"); err == nil {
		t.Error("a marked key is joined away")
	}
	lost, err := c.Join("booking.tab.book", "booking.button.book")
	if err != nil || fmt.Sprint(lost) != "[de: Jetzt buchen]" {
		t.Fatalf("%v %v", err, lost)
	}
	c = collect(t, threeContent, c).Catalogue
	if e := c.Get("booking.button.book"); e == nil || e.Key != "booking.tab.book" || len(e.Places) != 2 {
		t.Errorf("%s", keys(c))
	}
}

func TestCheck(t *testing.T) {
	c := collect(t, `<text id="a" y="9">Pay now</text><text id="b" y="30" data-message="{n} of {all}">3 of 12</text><text id="c" y="60" data-text="booking.free">Free!</text><text id="d" y="90">Sail <tspan font-weight="700">now</tspan> or never</text>
<text id="e" y="120" data-text="x.free">Free!</text><text id="f" y="150" data-message="{n, plural, one {# boat} other {# boats}}">2 boats</text>`, nil).Catalogue
	set := func(key, words string) {
		t.Helper()
		if err := c.Set(c.Get(key), "pl", words, ""); err != nil {
			t.Fatal(key, err)
		}
	}
	set("booking.pay-now", " Zapłać  teraz.")
	set("booking.3-of-12", "{n} z {wszystko}")
	set("booking.free", "Za darmo!")
	set("x.free", "Gratis!")
	set("booking.sail-now-or-never", "Płyń teraz albo nigdy")
	set("booking.2-boats", "{n, plural, one {# łódź} other {# łodzi}}")
	c.Get("booking.free").In["pl"].Of = "Free?"
	c.Entries = append(c.Entries, &text.Entry{Key: "zz.gone", Words: "Gone", Unused: true}, &text.Entry{Key: "zz.none",
		Unused: true, In: map[string]*text.Translation{"pl": {Words: "Nic"}}}, &text.Entry{Key: "Odd Key", Words: "Odd", In: map[string]*text.Translation{"pl": {Words: "{"}}})
	got := map[string]int{}
	for _, f := range c.Check(text.CheckOptions{Pattern: options.Pattern}) {
		got[f.Rule+" "+f.Key]++
	}
	for _, want := range []string{"spaces booking.pay-now", "end booking.pay-now", "lost booking.3-of-12",
		"outdated booking.free", "lost booking.sail-now-or-never",
		"forms booking.2-boats", "unused zz.gone", "unknown zz.none", "pattern Odd Key", "invalid Odd Key"} {
		if got[want] != 1 {
			t.Errorf("%s is not found: %v", want, got)
		}
		delete(got, want)
	}
	if len(got) != 0 {
		t.Errorf("found without cause: %v", got)
	}
	c.Get("booking.free").In["pl"].Of = ""
	if f := c.Check(text.CheckOptions{Only: []string{"differs"}}); len(f) != 1 || f[0].Key != "x.free" {
		t.Errorf("%+v", f)
	}
	if f := c.Check(text.CheckOptions{Locales: []string{"fi"}, Only: []string{"missing"}}); len(f) != 7 {
		t.Errorf("%+v", f)
	}
}

func TestImport(t *testing.T) {
	base := func(s string) *string { return &s }
	for _, c := range []struct {
		name  string
		have  *text.Translation
		unit  text.Unit
		over  bool
		what  text.Arrival
		words string
		state text.State
	}{
		{"new words", nil, text.Unit{Key: "booking.adults", Source: "Adults", Target: "Erwachsene", State: text.Translated},
			false, text.Taken, "Erwachsene", text.Translated},
		{"nothing", nil, text.Unit{Key: "booking.adults", Source: "Adults"}, false, text.Nothing, "", text.Initial},
		{"the same", &text.Translation{Words: "Erwachsene"}, text.Unit{Key: "booking.adults", Source: "Adults",
			Target: "Erwachsene", State: text.Translated}, false, text.Same, "Erwachsene", text.Translated},
		{"a state further", &text.Translation{Words: "Erwachsene"}, text.Unit{Key: "booking.adults", Source: "Adults",
			Target: "Erwachsene", State: text.Final}, false, text.Taken, "Erwachsene", text.Final},
		{"other words", &text.Translation{Words: "Große"}, text.Unit{Key: "booking.adults", Source: "Adults",
			Target: "Erwachsene"}, false, text.Taken, "Erwachsene", text.Translated},
		{"reviewed here", &text.Translation{Words: "Große", State: text.Reviewed}, text.Unit{Key: "booking.adults",
			Source: "Adults", Target: "Erwachsene"}, false, text.Protected, "Große", text.Reviewed},
		{"reviewed here, told to", &text.Translation{Words: "Große", State: text.Final}, text.Unit{Key: "booking.adults",
			Source: "Adults", Target: "Erwachsene", State: text.Reviewed}, true, text.Taken, "Erwachsene", text.Reviewed},
		{"words changed since", nil, text.Unit{Key: "booking.adults", Source: "Grown-ups", Target: "Erwachsene"}, false,
			text.Late, "Erwachsene", text.Outdated},
		{"changed on both sides", &text.Translation{Words: "Große"}, text.Unit{Key: "booking.adults", Source: "Adults",
			Target: "Erwachsene", Base: base("Alte")}, false, text.Conflict, "Große", text.Translated},
		{"changed here only", &text.Translation{Words: "Große"}, text.Unit{Key: "booking.adults", Source: "Adults",
			Target: "Alte", Base: base("Alte")}, false, text.Same, "Große", text.Translated},
		{"changed there only", &text.Translation{Words: "Große"}, text.Unit{Key: "booking.adults", Source: "Adults",
			Target: "Erwachsene", Base: base("Große")}, false, text.Taken, "Erwachsene", text.Translated},
		{"by its words", nil, text.Unit{Key: "elsewhere", Source: "Adults", Target: "Erwachsene"}, false, text.Taken,
			"Erwachsene", text.Translated},
		{"unknown", nil, text.Unit{Key: "elsewhere", Source: "Nothing here", Target: "Nichts"}, false, text.Unknown, "",
			text.Initial},
		{"an argument too many", nil, text.Unit{Key: "booking.adults", Source: "Adults", Target: "{n} Erwachsene"}, false,
			text.Broken, "", text.Initial},
		{"no message", nil, text.Unit{Key: "booking.adults", Source: "Adults", Target: "{"}, false, text.Broken, "",
			text.Initial},
		{"by the key it had", nil, text.Unit{Key: "old.adults", Target: "Erwachsene"}, false, text.Taken, "Erwachsene",
			text.Translated},
	} {
		cat := three(t)
		e := cat.Get("booking.adults")
		e.Formerly = []string{"old.adults"}
		if c.have != nil {
			e.In = map[string]*text.Translation{"de": c.have}
		}
		cat = cat.Clone()
		e = cat.Get("booking.adults")
		got := cat.Import([]text.Unit{c.unit}, text.ImportOptions{Locale: "de", Over: c.over})
		if words, state := cat.Of(e, "de"); got[0].What != c.what || words != c.words || state != c.state {
			t.Errorf("%s: %+v, %q %s", c.name, got[0], words, state)
		}
	}
}

func TestAdopt(t *testing.T) {
	for _, c := range []struct{ source, target, want string }{
		{"{name} has {n, number}", "{2, number}: {1}", "{n, number}: {name}"},
		{"{n, plural, one {# boat} other {# boats}}", "{1, plural, one {# Boot} other {# Boote}}",
			"{n, plural, one {# Boot} other {# Boote}}"},
		{"{n, plural, one {# boat to {place}} other {# boats to {place}}}",
			"{1, plural, one {# Boot nach {2}} other {# Boote nach {2}}}", "{n, plural, one {# Boot nach {place}} other {# " +
				"Boote nach {place}}}"},
		{"{name}", "{name}", "{name}"}, {"plain", "{1}", "{1}"}, {"{", "{1}", "{1}"},
	} {
		if got := text.Adopt(c.source, c.target); got != c.want {
			t.Errorf("%s of %s: %s, want %s", c.target, c.source, got, c.want)
		}
	}
}

// A form for fractions, which gettext has no place for, survives the way through it.
func TestFormsForFractionsStay(t *testing.T) {
	c := collect(t, `<text id="a" y="9" data-message="{n, plural, one {# boat} other {# boats}}">2 boats</text>`,
		nil).Catalogue
	e := c.Entries[0]
	c.Set(e, "pl", "{n, plural, one {# łódź} few {# łodzie} many {# łodzi} other {# łodzi.}}", "")
	for _, back := range []string{"{n, plural, one {# łódź} few {# łodzie} many {# łodzi} other {# łodzi}}",
		"{n, plural, one {jedna} few {# łodzie} many {# łodzi} other {# łodzi}}"} {
		c.Import([]text.Unit{{Key: e.Key, Source: e.Words, Target: back, State: text.Translated}},
			text.ImportOptions{Locale: "pl"})
		if got := e.In["pl"].Words; !strings.HasSuffix(got, "other {# łodzi.}}") || !strings.HasPrefix(got, back[:20]) {
			t.Errorf("%s became %s", back, got)
		}
	}
}

func TestSpread(t *testing.T) {
	for _, c := range []struct{ in, want string }{
		{"{n, plural, one {# boat} other {# boats}} to {place}",
			"{n, plural, one {# boat to {place}} other {# boats to {place}}}"},
		{"All {n, number}: {n, plural, one {x} other {y}}", "{n, plural, one {All #: x} other {All #: y}}"},
		{"{n, plural, one {{n, number} boat} other {#}}", "{n, plural, one {# boat} other {#}}"},
		{"plain", "plain"}, {"{", "{"}, {"{k, select, other {x}} y", "{k, select, other {x}} y"},
	} {
		if got := text.Spread(c.in); got != c.want {
			t.Errorf("%s: %s, want %s", c.in, got, c.want)
		}
	}
}

func TestFill(t *testing.T) {
	c := collect(t, `<text id="a" y="9">Pay now</text><text id="b" y="30">Children under six sail free</text><text id="c" y="60" data-message="Pier {n}">Pier 4</text><text id="d" y="90">Nothing like it</text><text id="e" y="120">Book</text>`, nil).Catalogue
	memory := []text.Remembered{{"", "Pay now", "Jetzt zahlen"}, {"", "Children under seven sail free",
		"Kinder unter sieben fahren frei"}, {"", "Pier {x}", "Anleger {x}"},
		{"other.book", "Book", "Buch"}, {"booking.book", "Book", "Buchen"}, {"", "Far away", "Weit weg"}}
	got := map[string]string{}
	for _, f := range c.Fill(memory, "de", 100, text.Filter{}) {
		got[f.Key] = fmt.Sprintf("%s %d %t", f.Target, f.Score, f.Done)
	}
	for k, want := range map[string]string{"booking.pay-now": "Jetzt zahlen 100 true",
		"booking.children-under-six-sail": "Kinder unter sieben fahren frei 86 false",
		"booking.pier-4":                  "Anleger {n} 87 false", "booking.book": "Buchen 100 true", "booking.nothing-like-it": ""} {
		if got[k] != want {
			t.Errorf("%s: %q, want %q", k, got[k], want)
		}
	}
	c.Fill(memory, "de", 80, text.Filter{})
	if tr := c.Get("booking.children-under-six-sail").In["de"]; tr == nil || tr.State != text.Initial || tr.Score != 86 {
		t.Errorf("%+v", tr)
	}
	if again := c.Fill(memory, "de", 80, text.Filter{}); len(again) != 0 {
		t.Errorf("filled again: %+v", again)
	}
	c.Set(c.Get("booking.pay-now"), "de", "Zahlen", text.Final)
	if again := c.Fill(memory, "de", 60, text.Filter{}); len(again) != 0 {
		t.Errorf("overwritten: %+v", again)
	}
}

// Whatever is done in whatever order, nothing that a person made is lost.
func TestNothingByHandIsLost(t *testing.T) {
	words := []string{"Adults", "Children", "Pay now", "Book a seat", "Free to change", "Cancel", "Long Sound",
		"Skerry Point"}
	for seed := range uint64(500) {
		r := rand.New(rand.NewPCG(seed, 7))
		var content []string
		for i := range 5 {
			content = append(content, fmt.Sprintf(`<text id="t%d" x="10" y="%d">%s</text>`, i, 20+40*i,
				words[r.IntN(len(words))]))
		}
		draw := func() string { return strings.Join(content, "") }
		c := collect(t, draw(), nil).Catalogue
		made := map[string]string{} // what a person said, by an id that stays
		notes := map[string]string{}
		n := 0
		pick := func() *text.Entry { return c.Entries[r.IntN(len(c.Entries))] }
		var exported []text.Unit
		for range 12 {
			switch r.IntN(9) {
			case 0: // the designer
				i := r.IntN(len(content))
				content[i] = fmt.Sprintf(`<text id="t%d" x="10" y="%d">%s</text>`, r.IntN(9), 20+r.IntN(300),
					words[r.IntN(len(words))])
				c = collect(t, draw(), c).Catalogue
			case 1:
				r.Shuffle(len(content), func(i, j int) { content[i], content[j] = content[j], content[i] })
				c = collect(t, draw(), c).Catalogue
			case 2: // a translation
				n++
				e := pick()
				if tr := e.In["de"]; tr != nil {
					delete(made, tr.Words) // overwritten on purpose
				}
				w := fmt.Sprintf("Wort %d.", n)
				if err := c.Set(e, "de", w, text.Reviewed); err != nil {
					t.Fatal(err)
				}
				made[w] = e.Words
			case 3: // a note
				n++
				e := pick()
				delete(notes, e.Note)
				e.Note = fmt.Sprintf("note %d.", n)
				notes[e.Note] = e.Key
			case 4:
				if e := pick(); c.Get(fmt.Sprintf("hand.k%d", n+1)) == nil {
					n++
					if err := c.Rename(e.Key, fmt.Sprintf("hand.k%d", n)); err != nil {
						t.Fatal(err)
					}
				}
			case 5:
				if e := pick(); len(e.Places) > 1 {
					if _, err := c.Split(e.Key, "", options.Pattern, ""); err != nil {
						t.Fatal(err)
					}
				}
			case 6:
				exported = c.Units(text.Filter{All: true}, "de")
			case 7: // the translator, with an old file
				for i := range exported {
					exported[i].Target, exported[i].State = "vom Übersetzer", text.Translated
				}
				c.Import(exported, text.ImportOptions{Locale: "de"})
			case 8: // through the files
				again, err := text.ReadCatalogue("en", []string{"de"}, files(c))
				if err != nil {
					t.Fatal(err)
				}
				c = again
			}
			have, noted := map[string]bool{}, ""
			for _, e := range c.Entries {
				if tr := e.In["de"]; tr != nil {
					have[tr.Words] = true
				}
				noted += e.Note + "\n"
			}
			for w := range made {
				if !have[w] {
					t.Fatalf("seed %d: the translation %q is lost: %s", seed, w, keys(c))
				}
			}
			for w := range notes {
				if !strings.Contains(noted, w) {
					t.Fatalf("seed %d: %q is lost", seed, w)
				}
			}
		}
	}
}
