package text_test

import (
	"encoding/json"
	"encoding/xml"
	"strings"
	"testing"

	"archetyp/core/design"
	"archetyp/core/svg"
	"archetyp/core/text"
)

func drawing(t testing.TB, name, content string) *design.Document {
	t.Helper()
	d, err := svg.Read(name, []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400" data-screen="Booking">`+content+`</svg>`), svg.Options{})
	if err != nil {
		t.Fatal(err)
	}
	return d
}

const pattern = "{screen}.{component}.{words}"

func collect(t testing.TB, content string, old *text.Catalogue) *text.Collection {
	t.Helper()
	c, err := text.Collect([]*design.Document{drawing(t, "t.svg", content)}, old, "en", pattern)
	if err != nil {
		t.Fatal(err)
	}
	return c
}

func keys(c *text.Collection) string {
	var out []string
	for _, e := range c.Catalogue.Entries {
		s := e.Key + "=" + e.Words
		if e.Unused {
			s += "(unused)"
		}
		out = append(out, s)
	}
	return strings.Join(out, "|")
}

func TestKeys(t *testing.T) {
	for _, c := range []struct{ name, content, want string }{
		{"by pattern", `<g data-component="button"><text y="9">Pay now</text></g>`, "booking.button.pay-now=Pay now"},
		{"an empty part goes", `<text y="9">Pay now</text>`, "booking.pay-now=Pay now"},
		{"by mark", `<text y="9" data-text="pay.label">Pay now</text>`, "pay.label=Pay now"},
		{"not to be translated", `<text y="9" data-text="none">Tern &amp; Tide</text>`, ""},
		{"not to be translated, all inside", `<g data-text="none"><text y="9">one</text><text y="20">two</text></g>`, ""},
		{"numbers are left out", `<text y="9">€ 24.50</text><text y="20">08:15</text>`, ""},
		{"hidden ones are left out", `<text y="9" display="none">Old</text>`, ""},
		{"repeats fold", `<text y="9">Adults</text><text y="40">Adults</text>`, "booking.adults=Adults"},
		{"the same start", `<text y="9">one two three four five</text><text y="40">one two three four six</text>`, "booking.one-two-three-four=one two three four five|booking.one-two-three-four-2=one two three four six"},
		{"lines", `<text><tspan x="0" y="9">one</tspan><tspan x="0" y="30">two</tspan></text>`, "booking.one-two=one\ntwo"},
		{"letters of other scripts", `<text y="9">Über Öl</text>`, "booking.über-öl=Über Öl"},
		{"no usable words", `<text y="9">a!</text><text y="40">…ß?</text>`, "booking.a=a!|booking.ß=…ß?"},
		{"a mark folds with the same words", `<text y="9" data-text="k">Pay</text><text y="40">Pay</text>`, "k=Pay"},
	} {
		if got := keys(collect(t, c.content, nil)); got != c.want {
			t.Errorf("%s: %s\nwant %s", c.name, got, c.want)
		}
	}
}

func TestOtherPatterns(t *testing.T) {
	d := drawing(t, "t.svg", `<g id="Pay_x20_button"><text y="9">Pay</text></g>`)
	for p, want := range map[string]string{"{screen}.{name}": "booking.pay-button", "{words}": "pay", "t.{n}": "t.1", "{screen}_{words}": "booking_pay"} {
		c, err := text.Collect([]*design.Document{d}, nil, "en", p)
		if err != nil || c.Catalogue.Entries[0].Key != want {
			t.Errorf("%s gives %v (%v), want %s", p, c, err, want)
		}
	}
	for _, p := range []string{"", "fixed", "{nonsense}", "{screen", "{}"} {
		if _, err := text.Collect(nil, nil, "en", p); err == nil {
			t.Errorf("the pattern %q is taken", p)
		}
	}
}

func TestKeysStayWhenDrawingsChange(t *testing.T) {
	old := collect(t, `<text y="9">Pay now</text><text y="40">Adults</text><text y="80">Gone</text>`, nil).Catalogue
	got := collect(t, `<text y="9">Pay today</text><text y="40">Adults</text><text id="other" y="120">New one</text>`, old)
	want := "booking.adults=Adults|booking.gone=Gone(unused)|booking.new-one=New one|booking.pay-now=Pay today"
	if keys(got) != want {
		t.Errorf("%s\nwant %s", keys(got), want)
	}
	for what, n := range map[string]int{"changed": 1, "same": 1, "new": 1, "unused": 1, "folded": 0} {
		if got.Count(what) != n {
			t.Errorf("%d %s, want %d: %+v", got.Count(what), what, n, got.Events)
		}
	}
	back := collect(t, `<text y="9">Pay today</text><text y="40">Adults</text><text y="80">Gone</text>`, got.Catalogue)
	if !strings.Contains(keys(back), "booking.gone=Gone|") {
		t.Errorf("words that come back have another key: %s", keys(back))
	}
}

func TestSwappedWordsKeepTheirKeys(t *testing.T) {
	old := collect(t, `<text y="9">One</text><text y="40">Two</text>`, nil).Catalogue
	if got := keys(collect(t, `<text y="9">Two</text><text y="40">One</text>`, old)); got != "booking.one=One|booking.two=Two" {
		t.Error(got)
	}
}

func TestAMarkWithTwoWordings(t *testing.T) {
	c := collect(t, `<text y="9" data-text="k">Pay</text><text y="40" data-text="k">Buy</text>`, nil)
	if keys(c) != "k=Pay" || c.Count("skipped") != 1 {
		t.Errorf("%s %+v", keys(c), c.Events)
	}
}

func TestFilesReadBack(t *testing.T) {
	c := collect(t, `<g><rect width="200" height="50" fill="#fff"/><text x="16" y="30">Say "hi" &lt;b&gt; \ ü</text></g><text y="90" data-text="k">Two</text>`, nil).Catalogue
	c.Entries[0].Note = "greeting"
	again, err := text.ReadCatalogue("en", c.LocaleJSON(), c.KeysJSON())
	if err != nil {
		t.Fatal(err)
	}
	if string(again.LocaleJSON()) != string(c.LocaleJSON()) || string(again.KeysJSON()) != string(c.KeysJSON()) {
		t.Errorf("%s%s\nbecame\n%s%s", c.LocaleJSON(), c.KeysJSON(), again.LocaleJSON(), again.KeysJSON())
	}
	if !json.Valid(c.LocaleJSON()) || !json.Valid(c.KeysJSON()) {
		t.Error("not JSON")
	}
	if r := c.Entries[0].Places[0].Room; r == nil || r.Width != 168 || r.Lines != 1 {
		t.Errorf("room %+v, want 168 px", r)
	}
	for _, bad := range []string{"{", "[]", `{"a": 1}`} {
		if _, err := text.ReadCatalogue("en", []byte(bad), nil); err == nil {
			t.Errorf("%s is read", bad)
		}
	}
	if empty, err := text.ReadCatalogue("en", nil, nil); err != nil || string(empty.LocaleJSON()) != "{}\n" {
		t.Errorf("%v %s", err, empty.LocaleJSON())
	}
}

func TestXLIFF(t *testing.T) {
	c := collect(t, `<text y="9">Fish &amp; chips &lt;now&gt;</text><text y="40">Fish &amp; chips &lt;now&gt;</text><text y="80" data-text="odd key/ü">Two</text>`, nil).Catalogue
	c.Entries[0].Note = `say "please"`
	c.Entries = append(c.Entries, &text.Entry{Key: "old", Words: "Old", Unused: true})
	out := c.XLIFF(`A & "B"`, "de")
	var x struct {
		Version string `xml:"version,attr"`
		Src     string `xml:"srcLang,attr"`
		Trg     string `xml:"trgLang,attr"`
		File    struct {
			Original string `xml:"original,attr"`
			Units    []struct {
				ID    string `xml:"id,attr"`
				Name  string `xml:"name,attr"`
				Notes []struct {
					Category string `xml:"category,attr"`
					Text     string `xml:",chardata"`
				} `xml:"notes>note"`
				Source string `xml:"segment>source"`
			} `xml:"unit"`
		} `xml:"file"`
	}
	if err := xml.Unmarshal([]byte(out), &x); err != nil {
		t.Fatalf("%v\n%s", err, out)
	}
	if x.Version != "2.1" || x.Src != "en" || x.Trg != "de" || x.File.Original != `A & "B"` || len(x.File.Units) != 2 {
		t.Errorf("%+v", x)
	}
	u := x.File.Units[0]
	if u.Source != "Fish & chips <now>" || u.Name != "booking.fish-chips-now" || u.ID != u.Name || len(u.Notes) != 4 || u.Notes[0].Text != `say "please"` {
		t.Errorf("%+v", u)
	}
	if u := x.File.Units[1]; u.Name != "odd key/ü" || strings.ContainsAny(u.ID, " /") {
		t.Errorf("%+v", u)
	}
	if strings.Contains(c.XLIFF("x", ""), "trgLang") {
		t.Error("a target language nobody asked for")
	}
}
