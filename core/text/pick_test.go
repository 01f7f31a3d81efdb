package text_test

import (
	"fmt"
	"strings"
	"testing"

	"archetyp/core/text"
)

func TestPick(t *testing.T) {
	c := three(t)
	c.AddLocale("fi")
	c.Set(c.Get("booking.adults"), "de", "Erwachsene", text.Reviewed)
	c.Set(c.Get("booking.adults"), "fi", "Aikuiset", "")
	c.Get("booking.adults").In["fi"].Of = "Grown-ups"
	c.Get("by.mark").Tag([]string{"june"}, nil)
	c.Entries = append(c.Entries, &text.Entry{Key: "old", Words: "Old", Unused: true})
	for _, k := range []struct {
		f    text.Filter
		want string
	}{
		{text.Filter{}, "booking.adults booking.tab.book by.mark"},
		{text.Filter{All: true}, "booking.adults booking.tab.book by.mark old"},
		{text.Filter{Unused: true}, "old"},
		{text.Filter{Screen: "bOOKing"}, "booking.adults booking.tab.book by.mark"},
		{text.Filter{Screen: "Nowhere"}, ""},
		{text.Filter{Tag: "june"}, "by.mark"},
		{text.Filter{Key: "booking"}, "booking.adults booking.tab.book"},
		{text.Filter{Key: "booking.a"}, ""},
		{text.Filter{Key: "booking.adults"}, "booking.adults"},
		{text.Filter{Locale: "de", States: []text.State{text.Initial}}, "booking.tab.book by.mark"},
		{text.Filter{Locale: "de", States: []text.State{text.Reviewed, text.Final}}, "booking.adults"},
		{text.Filter{States: []text.State{text.Outdated}}, "booking.adults"},
		{text.Filter{Locale: "de", States: []text.State{text.Outdated}}, ""},
	} {
		var got []string
		for _, e := range c.Pick(k.f) {
			got = append(got, e.Key)
		}
		if s := strings.Join(got, " "); s != k.want {
			t.Errorf("%+v picks %q, want %q", k.f, s, k.want)
		}
	}
	if locales := fmt.Sprint(c.Locales); locales != "[de fi]" {
		t.Error(locales)
	}
}

func TestSetAndStates(t *testing.T) {
	c := three(t)
	e := c.Get("booking.adults")
	for _, bad := range []error{c.Set(e, "de", "{", ""), c.SetState(e, "de", text.Final), c.Set(e, "en", "Children", "")} {
		if bad == nil {
			t.Error("a bad edit is taken")
		}
	}
	if err := c.Set(e, "de", "Erwachsene", ""); err != nil {
		t.Fatal(err)
	}
	if _, s := c.Of(e, "de"); s != text.Translated {
		t.Errorf("new words are %s", s)
	}
	if err := c.SetState(e, "de", text.Outdated); err == nil {
		t.Error("outdated is said by hand")
	}
	if err := c.SetState(e, "de", text.Final); err != nil {
		t.Fatal(err)
	}
	if err := c.Set(e, "de", "Große", ""); err != nil {
		t.Fatal(err)
	}
	if _, s := c.Of(e, "de"); s != text.Translated {
		t.Errorf("other words are still %s", s)
	}
	if err := c.Set(e, "de", "", ""); err != nil {
		t.Fatal(err)
	}
	if w, s := c.Of(e, "de"); w != "" || s != text.Initial {
		t.Errorf("taken away: %q %s", w, s)
	}
	if w, s := c.Of(e, text.PseudoLong); !strings.HasPrefix(w, "[Åđûļţš") || s != text.Translated {
		t.Errorf("%q %s", w, s)
	}
	if w, s := c.Of(e, "en"); w != "Adults" || s != text.Final {
		t.Errorf("%q %s", w, s)
	}
	for key, near := range map[string]string{"tab.book": "booking.tab.book", "booking.adult": "booking.adults",
		"nothing like it at all": ""} {
		_, err := c.Need(key)
		ee, ok := err.(*text.EditError)
		if !ok || near != "" && !strings.Contains(ee.Hint, near) {
			t.Errorf("%s: %v", key, err)
		}
	}
}

func TestTightAndLimit(t *testing.T) {
	e := &text.Entry{Key: "k", Words: "Adults", Places: []text.Place{
		{Room: &text.Room{Width: 200, Lines: 1, Taken: 50}}, {}, {Room: &text.Room{Width: 100, Lines: 1,
			Taken: 50}}, {Room: &text.Room{Width: 90, Lines: 3, Taken: 50}}}}
	if p := e.Tight(); p.Room.Width != 100 {
		t.Errorf("%+v", p.Room)
	}
	if n := e.Limit("en"); n != 12 {
		t.Errorf("%d letters fit, want 12", n)
	}
	if n := (&text.Entry{Words: "Adults"}).Limit("en"); n != 0 {
		t.Errorf("without room: %d", n)
	}
	if s := e.Tight().Room.String(); s != "100 px wide, 1 line" {
		t.Error(s)
	}
}

func TestLost(t *testing.T) {
	for _, c := range []struct{ source, target, want string }{
		{"Pay", "Zahlen", ""}, {"{n} of {all}", "{all}: {n}", ""}, {"{n} of {all}", "{n}", "lacks {all}"}, {"{n}", "{n} {m}",
			"has {m}, which the source lacks"},
		{"<b>x</b>", "x", "lacks <b>"}, {"<b>x</b> {a}", "<i>x</i> {a}", "lacks <b>"}, {"{n, plural, one {#} other {#}}",
			"{n} Boote", ""},
		{"{n, plural, one {one {x}} other {#}}", "{n, plural, one {#} other {# {x}}}", ""}, {"a", "{",
			"not a valid message: a { without the name of an argument; write '{' for the sign itself (at character 1)"},
	} {
		if got := text.Lost(c.source, c.target, "de"); got != c.want {
			t.Errorf("%s as %s: %q, want %q", c.source, c.target, got, c.want)
		}
	}
}

func TestLikeness(t *testing.T) {
	for _, c := range []struct {
		a, b     string
		from, to int
	}{
		{"Pay now", "Pay now", 100, 100}, {"Pay now", "Pay now.", 80, 99}, {"Children under six", "Children under seven", 70,
			90}, {"Pay", "Completely different", 0, 0}, {"", "", 100, 100}, {"a", "b", 0, 0},
	} {
		if got := text.Likeness(c.a, c.b); got < c.from || got > c.to || got != text.Likeness(c.b, c.a) {
			t.Errorf("%q and %q: %d, want %d to %d", c.a, c.b, got, c.from, c.to)
		}
	}
	if text.Likeness(strings.Repeat("a", 3000), strings.Repeat("a", 2999)+"b") != 0 {
		t.Error("very long texts are compared letter by letter")
	}
}

// A memory of many messages is asked about many texts in time that grows with them, not with their product.
func TestFillFromALargeMemory(t *testing.T) {
	c := &text.Catalogue{Locale: "en"}
	var memory []text.Remembered
	for i := range 3000 {
		c.Entries = append(c.Entries, &text.Entry{Key: fmt.Sprintf("k%04d", i),
			Words: fmt.Sprintf("Boat number %d leaves on time", i)})
		memory = append(memory, text.Remembered{Source: fmt.Sprintf("Boat number %d leaves on time", i+1500),
			Target: fmt.Sprintf("Schiff %d fährt pünktlich", i+1500)})
	}
	exact, near := 0, 0
	for _, f := range c.Fill(memory, "de", 100, text.Filter{}) {
		if f.Score == 100 && f.Done && strings.Contains(f.Target, strings.Fields(f.Source)[2]) {
			exact++
		} else if !f.Done && f.Score >= 90 {
			near++
		}
	}
	if exact != 1500 || near < 1400 {
		t.Errorf("%d the same, %d alike", exact, near)
	}
}
