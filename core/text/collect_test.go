package text_test

import (
	"fmt"
	"strings"
	"testing"

	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/read/svg"
	"archetyp/core/text"
	"archetyp/demo/edits"
)

func drawing(t testing.TB, name, content string) *design.Document {
	t.Helper()
	if !strings.HasPrefix(content, "<svg") {
		content = `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400" data-screen="Booking">` + content +
			`</svg>`
	}
	d, err := svg.Read(name, []byte(content), svg.Options{Fonts: fallback.Clone()})
	if err != nil {
		t.Fatal(err)
	}
	return d
}

var fallback = font.NewSet(nil)

var options = text.Options{Locale: "en", Pattern: "{screen}.{component}.{words}"}

func collect(t testing.TB, content string, old *text.Catalogue) *text.Collection {
	t.Helper()
	return collectWith(t, options, old, drawing(t, "t.svg", content))
}

func collectWith(t testing.TB, o text.Options, old *text.Catalogue, docs ...*design.Document) *text.Collection {
	t.Helper()
	c, err := text.Collect(docs, old, o)
	if err != nil {
		t.Fatal(err)
	}
	return c
}

func keys(c *text.Catalogue) string {
	var out []string
	for _, e := range c.Entries {
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
		{"a number with a key is not", `<text y="9" data-text="price">€ 24.50</text>`, "price=€ 24.50"},
		{"filler copy is left out", `<text y="9">Lorem ipsum dolor</text>`, ""},
		{"hidden ones are left out", `<text y="9" display="none">Old</text>`, ""},
		{"repeats fold", `<text y="9">Adults</text><text y="40">Adults</text>`, "booking.adults=Adults"},
		{"other meanings do not fold",
			`<text y="9" data-meaning="verb">Book</text><text y="40" data-meaning="noun">Book</text>`, "booking.book=Book|booking.book-2=Book"},
		{"the same start", `<text y="9">one two three four five</text><text y="40">one two three four six</text>`,
			"booking.one-two-three-four=one two three four five|booking.one-two-three-four-2=one two three four six"},
		{"lines that wrap", `<text><tspan x="0" y="9">one and</tspan><tspan x="0" y="30">two</tspan></text>`,
			"booking.one-and-two=one and two"},
		{"lines that do not", `<text><tspan x="0" y="9">One.</tspan><tspan x="0" y="30">Two.</tspan></text>`,
			"booking.one-two=One.\nTwo."},
		{"a hyphen at the end", `<text><tspan x="0" y="9">the long check-</tspan><tspan x="0" y="30">in</tspan></text>`,
			"booking.the-long-check-in=the long check-in"},
		{"lines that are texts of their own",
			`<g><text x="10" y="20" font-size="16">Free to change until one hour</text><text x="10" y="40" font-size="16">before you sail with us.</text></g>`, "booking.free-to-change-until=Free to change until one hour before you sail with us."},
		{"labels under each other are none",
			`<g><text x="10" y="20" font-size="16">boats, cars</text><text x="10" y="40" font-size="16">and bikes</text></g>`, "booking.and-bikes=and bikes|booking.boats-cars=boats, cars"},
		{"nor are sentences",
			`<g><text x="10" y="20" font-size="16">Free to change until then.</text><text x="10" y="40" font-size="16">Taxes are included here.</text></g>`, "booking.free-to-change-until=Free to change until then.|booking.taxes-are-included-here=Taxes are included here."},
		{"letters of other scripts", `<text y="9">Über Öl</text>`, "booking.über-öl=Über Öl"},
		{"no usable words", `<text y="9">a!</text><text y="40">…ß?</text>`, "booking.a=a!|booking.ß=…ß?"},
		{"a mark folds with the same words", `<text y="9" data-text="k">Pay</text><text y="40">Pay</text>`, "k=Pay"},
		{"a bold word", `<text y="9">Sail <tspan font-weight="700">free</tspan> today</text>`,
			"booking.sail-free-today=Sail <b>free</b> today"},
		{"a link and an italic word",
			`<text y="9">Read <a href="#x">our rules</a>, <tspan font-style="italic">please</tspan> do</text>`, "booking.read-our-rules-please=Read <a>our rules</a>, <i>please</i> do"},
		{"what has a look of its own stands apart", `<text y="9">Kitchen <tspan fill="#e4572e">favourites</tspan></text>`,
			"booking.kitchen-favourites=Kitchen <s>favourites</s>"},
		{"two tspans, one in a colour",
			`<text y="9"><tspan fill="#10243a">Kitchen </tspan><tspan fill="#e4572e">favourites</tspan></text>`, "booking.kitchen-favourites=Kitchen <s>favourites</s>"},
		{"two tspans, one bold",
			`<text y="9"><tspan font-weight="700">Kitchen </tspan><tspan font-weight="400">news</tspan></text>`, "booking.kitchen-news=<b>Kitchen</b> news"},
		{"lines are no looks", `<text font-size="9"><tspan x="0" y="9">Sail <tspan fill="red">in</tspan></tspan></text>`,
			"booking.sail-in=Sail <s>in</s>"},
		{"two colours", `<text y="9">Now <tspan fill="red">one</tspan> and <tspan fill="blue">two</tspan> and more</text>`,
			"booking.now-one-and-two=Now <s>one</s> and <s2>two</s2> and more"},
		{"a bold word over a line's end",
			`<text font-size="9"><tspan x="0" y="9">Sail in the <tspan font-weight="700">very</tspan></tspan><tspan x="0" y="30"><tspan font-weight="700">first</tspan> boat of the day</tspan></text>`, "booking.sail-in-the-very=Sail in the <b>very first</b> boat of the day"},
		{"what looks like a message is quoted", `<text y="9">a {b &lt;c> it's</text>`, "booking.a-b-c-it=a '{'b '<'c> it's"},
		{"a message by mark", `<text y="9" data-message="{n} of {all}">3 of 12</text>`, "booking.3-of-12={n} of {all}"},
		{"an alternative text", `<image width="9" height="9" aria-label="A ferry" href="x.png"/>`, "booking.a-ferry=A ferry"},
		{"a placeholder", `<foreignObject width="90" height="20"><input xmlns="http://www.w3.org/1999/xhtml" placeholder="Your name"/></foreignObject>`, "booking.your-name=Your name"},
	} {
		if got := keys(collect(t, c.content, nil).Catalogue); got != c.want {
			t.Errorf("%s: %s\nwant %s", c.name, got, c.want)
		}
	}
}

// TestAKeyThatWaitsForItsWords holds that a key with translations and no words yet gets the text whose place makes it,
// though a screen read earlier says the same.
func TestAKeyThatWaitsForItsWords(t *testing.T) {
	old := &text.Catalogue{Locale: "en", Entries: []*text.Entry{{Key: "booking.passengers"}}}
	const pass = `<svg xmlns="http://www.w3.org/2000/svg" data-screen="Boarding pass"><text y="9">Passengers</text></svg>`
	c := collectWith(t, options, old, drawing(t, "a.svg", pass), drawing(t, "b.svg", `<text y="9">Passengers</text>`))
	if got := keys(c.Catalogue); got != "booking.passengers=Passengers" {
		t.Error(got)
	}
}

func TestPatternsAndCases(t *testing.T) {
	d := drawing(t, "t.svg", `<g id="Pay_x20_button"><text y="9">Pay it now</text></g>`)
	for _, c := range []struct{ pattern, style, want string }{
		{"{screen}.{name}", "", "booking.pay-button"}, {"{words}", "", "pay-it-now"}, {"t.{n}", "",
			"t.1"}, {"{screen}_{words}", "snake", "booking_pay_it_now"},
		{"{screen}.{words}", "camel", "booking.payItNow"}, {"{screen}.{component}.{words}", "dots", "booking.pay.it.now"},
		{"x-{component}-{words}", "", "x-pay-it-now"}, {"{component}", "", "text"},
	} {
		o := text.Options{Locale: "en", Pattern: c.pattern, Case: c.style}
		got := collectWith(t, o, nil, d).Catalogue
		if got.Entries[0].Key != c.want {
			t.Errorf("%s %s gives %s, want %s", c.pattern, c.style, keys(got), c.want)
		}
		if f := got.Check(text.CheckOptions{Pattern: c.pattern, Case: c.style}); len(f) != 0 && c.want != "text" &&
			c.pattern[0] != 'x' {
			t.Errorf("%s %s: %+v", c.pattern, c.style, f)
		}
	}
	for _, p := range []string{"", "fixed", "{nonsense}", "{screen", "{}"} {
		if _, err := text.Collect(nil, nil, text.Options{Locale: "en", Pattern: p}); err == nil {
			t.Errorf("the pattern %q is taken", p)
		}
	}
	none := collectWith(t, text.Options{Locale: "en", Pattern: text.NoKeys}, nil,
		drawing(t, "t.svg", `<text y="9" data-text="k">One</text><text y="30">Two</text>`))
	if keys(none.Catalogue) != "k=One" || none.Count(text.Skipped) != 1 {
		t.Errorf("without a pattern: %s %+v", keys(none.Catalogue), none.Events)
	}
}

func TestApart(t *testing.T) {
	content := `<g data-component="button"><text y="9">Book</text></g><g data-component="title"><text y="60">Book</text></g><g data-component="button"><text y="120">Book</text></g>`
	for by, want := range map[string]int{"": 1, "component": 2, "screen": 1, "room": 1} {
		o := options
		if by != "" {
			o.Apart = []string{by}
		}
		first := collectWith(t, o, nil, drawing(t, "t.svg", content))
		if n := len(first.Catalogue.Entries); n != want {
			t.Errorf("apart by %q: %s", by, keys(first.Catalogue))
		}
		again := collectWith(t, o, first.Catalogue, drawing(t, "t.svg", content))
		if keys(again.Catalogue) != keys(first.Catalogue) || again.Count(text.ByKey) != 3 {
			t.Errorf("apart by %q, again: %s %+v", by, keys(again.Catalogue), again.Events)
		}
	}
}

// A key stays with its text through what designers do to a drawing.
func TestKeysAreStable(t *testing.T) {
	before, cases := edits.Texts()
	const all = "booking.adults-over-fifteen booking.children-under-six booking.pay-for-the-trip booking.free-to-change"
	wants := map[string]string{
		"a new one before": all + " booking.something-new",
		"one gone":         "booking.adults-over-fifteen booking.children-under-six booking.pay-for-the-trip (booking.free-to-change)",
		"one gone, a new one in its place": "booking.adults-over-fifteen (booking.children-under-six) " +
			"booking.pay-for-the-trip booking.free-to-change booking.bicycles-and-dogs",
	}
	for i, c := range cases {
		want, ok := wants[c.Name]
		if !ok {
			want = all
		}
		old := collect(t, before, nil).Catalogue
		for _, e := range old.Entries {
			if err := old.Set(e, "de", "de: "+e.Key, ""); err != nil {
				t.Fatal(err)
			}
		}
		got := collect(t, c.Drawing, old).Catalogue
		have := map[string]bool{}
		for _, e := range got.Entries {
			if e.Unused {
				have["("+e.Key+")"] = true
			} else {
				have[e.Key] = true
			}
			if tr := e.In["de"]; strings.Contains(all, e.Key) && (tr == nil || tr.Words != "de: "+e.Key) {
				t.Errorf("%d %s: %s lost its translation", i, c.Name, e.Key)
			}
		}
		wanted := strings.Fields(want)
		for _, k := range wanted {
			if !have[k] {
				t.Errorf("%d %s: %s is not there: %s", i, c.Name, k, keys(got))
			}
		}
		if len(have) != len(wanted) {
			t.Errorf("%d %s: %s", i, c.Name, keys(got))
		}
	}
}

// A meaning that is given later belongs to the key there is, unless other texts have its words without one.
func TestMeaningsGivenLater(t *testing.T) {
	const plain = `<text id="a" y="9">Book</text><text id="b" y="40">Book</text>`
	for name, c := range map[string]struct{ content, want string }{
		"both": {`<text id="a" y="9" data-meaning="verb">Book</text><text id="b" y="40" data-meaning="verb">Book</text>`,
			"booking.book=Book"},
		"one": {`<text id="a" y="9" data-meaning="verb">Book</text><text id="b" y="40">Book</text>`,
			"booking.book=Book|booking.book-2=Book"},
		"two": {`<text id="a" y="9" data-meaning="verb">Book</text><text id="b" y="40" data-meaning="noun">Book</text>`,
			"booking.book=Book|booking.book-2=Book"},
		"moved": {`<text id="c" y="300" data-meaning="verb">Book</text>`, "booking.book=Book"},
	} {
		old := collect(t, plain, nil).Catalogue
		old.Set(old.Entries[0], "de", "Buchen", "")
		for _, places := range []bool{true, false} {
			if !places {
				old.Entries[0].Places = nil // as when the file with the places is lost
			}
			got := collect(t, c.content, old).Catalogue
			if keys(got) != c.want || got.Get("booking.book").In["de"] == nil {
				t.Errorf("%s, with places %t: %s", name, places, keys(got))
			}
			if again := collect(t, c.content, got).Catalogue; keys(again) != c.want {
				t.Errorf("%s, again: %s", name, keys(again))
			}
		}
	}
}

func TestADrawingRenamed(t *testing.T) {
	const content = `<text id="a" y="20">Adults</text><text y="60">Children under six</text>`
	old := collectWith(t, options, nil, drawing(t, "one.svg", content),
		drawing(t, "two.svg", `<text y="9">Else</text>`)).Catalogue
	got := collectWith(t, options, old, drawing(t, "renamed.svg", strings.Replace(content, "six", "seven", 1)),
		drawing(t, "two.svg", `<text y="9">Else</text>`))
	if keys(got.Catalogue) != "booking.adults=Adults|booking.children-under-six=Children under seven|booking.else=Else" {
		t.Error(keys(got.Catalogue))
	}
}

func TestWhatHappened(t *testing.T) {
	old := collect(t, `<text y="9">Pay now</text><text y="40">Adults</text><text y="80">Gone</text>`, nil).Catalogue
	got := collect(t, `<text y="9">Pay today</text><text y="40">Adults</text><text y="70">Adults</text><text id="other" y="120">New one</text><text y="160">12</text>`, old)
	if want := "booking.adults=Adults|booking.gone=Gone(unused)|booking.new-one=New one|booking.pay-now=Pay today"; keys(got.Catalogue) != want {
		t.Errorf("%s\nwant %s", keys(got.Catalogue), want)
	}
	for what, n := range map[text.Happening]int{text.Changed: 1, text.ByKey: 1, text.New: 1, text.Gone: 1, text.Folded: 1,
		text.Skipped: 1} {
		if got.Count(what) != n {
			t.Errorf("%d %s, want %d: %+v", got.Count(what), what, n, got.Events)
		}
	}
	back := collect(t, `<text y="9">Pay today</text><text y="40">Adults</text><text y="80">Gone</text>`, got.Catalogue)
	if !strings.Contains(keys(back.Catalogue), "booking.gone=Gone|") || back.Count(text.ByWords) != 1 {
		t.Errorf("words that come back have another key: %s %+v", keys(back.Catalogue), back.Events)
	}
}

func TestChangedWordsMakeTranslationsOutdated(t *testing.T) {
	c := collect(t, `<text id="a" y="9">Pay now</text>`, nil).Catalogue
	e := c.Entries[0]
	c.Set(e, "de", "Jetzt zahlen", text.Final)
	c = collect(t, `<text id="a" y="9">Pay today</text>`, c).Catalogue
	e = c.Entries[0]
	if words, state := c.Of(e, "de"); words != "Jetzt zahlen" || state != text.Outdated || e.In["de"].Of != "Pay now" {
		t.Errorf("%q %s of %q", words, state, e.In["de"].Of)
	}
	c = collect(t, `<text id="a" y="9">Pay now</text>`, c).Catalogue
	if _, state := c.Of(c.Entries[0], "de"); state != text.Final {
		t.Errorf("with the old words again it is %s", state)
	}
}

func TestMessagesByHandStay(t *testing.T) {
	c := collect(t, `<text id="a" y="9">3 of 12 seats</text>`, nil).Catalogue
	e := c.Entries[0]
	if err := c.Set(e, "en", "{n} of {all} places", ""); err == nil {
		t.Error("a message that cannot say the design's words is taken")
	}
	if err := c.Set(e, "en", "{n} of {all} seats", ""); err != nil {
		t.Fatal(err)
	}
	if v := e.Values("en", nil); v["n"] != "3" || v["all"] != "12" {
		t.Errorf("%v", v)
	}
	c = collect(t, `<text id="a" y="9">5 of 9 seats</text>`, c).Catalogue
	if e = c.Entries[0]; e.Words != "{n} of {all} seats" || e.Said != "5 of 9 seats" || e.Key != "booking.3-of-12-seats" {
		t.Errorf("%+v", e)
	}
	c = collect(t, `<text id="a" y="9">5 from 9 seats</text>`, c).Catalogue
	if e = c.Entries[0]; e.Words != "{n} of {all} seats" || e.Said != "5 from 9 seats" {
		t.Errorf("the message made by hand is gone: %+v", e)
	}
	if f := c.Check(text.CheckOptions{}); len(f) != 1 || f[0].Rule != "sample" {
		t.Errorf("%+v", f)
	}
}

func TestAMarkWithTwoWordings(t *testing.T) {
	c := collect(t, `<text y="9" data-text="k">Pay</text><text y="40" data-text="k">Buy</text>`, nil)
	if keys(c.Catalogue) != "k=Pay" || c.Count(text.Skipped) != 1 || !strings.Contains(c.Events[1].Why, "other words") {
		t.Errorf("%s %+v", keys(c.Catalogue), c.Events)
	}
}

func TestTagsAndHidden(t *testing.T) {
	o := options
	o.Tags, o.Hidden = []string{"june"}, true
	d := drawing(t, "t.svg", `<text y="9">One</text><text y="40" display="none">Two</text>`)
	c := collectWith(t, o, nil, d).Catalogue
	if keys(c) != "booking.one=One|booking.two=Two" || fmt.Sprint(c.Entries[0].Tags) != "[june]" {
		t.Errorf("%s %v", keys(c), c.Entries[0].Tags)
	}
	c = collectWith(t, options, c, d).Catalogue
	if keys(c) != "booking.one=One|booking.two=Two(unused)" || fmt.Sprint(c.Entries[0].Tags) != "[june]" {
		t.Errorf("%s %v", keys(c), c.Entries[0].Tags)
	}
}

func TestRoom(t *testing.T) {
	for _, c := range []struct {
		name, content, by, align string
		x, width                 float64
		lines                    int
	}{
		{"in a card, by its inset",
			`<g><rect x="20" y="20" width="200" height="60" fill="#fff"/><text x="36" y="50" font-size="10">Pay</text></g>`, "container", "left", 36, 168, 1},
		{"in a button, by its upper inset",
			`<g><rect x="20" y="20" width="200" height="30" fill="#fff"/><text x="120" y="38" font-size="10" text-anchor="middle">Pay</text></g>`, "container", "center", 29, 182, 1},
		{"in the middle of a button, by its x alone",
			`<g><rect x="20" y="20" width="279" height="48" fill="#fff"/><text x="147.4" y="48" font-size="14">Pay</text></g>`, "container", "center", 0, 0, 1},
		{"up to a sibling", `<g><rect x="20" y="20" width="200" height="60" fill="#fff"/><text x="36" y="50" font-size="10">Pay</text><circle cx="190" cy="45" r="10" fill="red"/></g>`, "sibling", "left", 36, 136, 1},
		{"at the right, down to a sibling",
			`<text x="10" y="50" font-size="10">ab</text><text x="390" y="50" font-size="10" text-anchor="end">Pay</text>`, "sibling", "right", 0, 0, 1},
		{"to the screen's edge", `<text x="16" y="50" font-size="10">Pay</text>`, "screen", "left", 16, 368, 1},
		{"lines, as many as there is place for",
			`<g><rect x="20" y="20" width="200" height="100" fill="#fff"/><text font-size="10"><tspan x="30" y="38">Sail with us and</tspan><tspan x="30" y="50">be there</tspan></text></g>`, "container", "left", 30, 0, 6},
		{"turned", `<text x="16" y="50" font-size="10" transform="rotate(30)">Pay</text>`, "own", "left", 0, 0, 1},
		{"lines that end by themselves",
			`<g><rect x="20" y="20" width="200" height="100" fill="#fff"/><text font-size="10"><tspan x="30" y="38">One.</tspan><tspan x="30" y="50">Two.</tspan></text></g>`, "container", "left", 30, 180, 6},
	} {
		e := collect(t, c.content, nil).Catalogue
		var r *text.Room
		for _, one := range e.Entries {
			if one.Words == "Pay" || len(e.Entries) == 1 {
				r = one.Places[0].Room
			}
		}
		if r == nil || r.By != c.by || r.Align != c.align || c.width > 0 && (r.X != c.x || r.Width != c.width) ||
			r.Lines != c.lines {
			t.Errorf("%s: %+v", c.name, r)
		}
		if c.name == "in the middle of a button, by its x alone" && r.Width < 240 {
			t.Errorf("%s: %+v", c.name, r)
		}
		// not the whole card: as wide as its lines tell
		if c.name == "lines, as many as there is place for" && (r.Width < r.Taken/2 || r.Width > 100) {
			t.Errorf("%s: %+v", c.name, r)
		}
	}
}
