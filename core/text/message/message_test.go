package message

import (
	"errors"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
)

func TestParseMessages(t *testing.T) {
	for _, c := range []struct{ in, out, said string }{
		{"", "", ""},
		{"Pay now", "", "Pay now"},
		{"Don't", "", "Don't"},
		{"It''s", "It's", "It's"},
		{"a '{' b", "", "a { b"},
		{"'{''}'", "", "{'}"},
		{"x < y", "", "x < y"},
		{"'<'b> is no element", "", "<b> is no element"},
		{"Hello, {name}!", "", "Hello, Ada!"},
		{"{ name }", "{name}", "Ada"},
		{"{n, number}", "", "3"},
		{"{when, date, short}", "", "{when}"},
		{"Sail <b>free</b>, {name}", "", "Sail free, Ada"},
		{"one<br/>two", "", "onetwo"},
		{"{n, plural, one {# boat} other {# boats}}", "", "3 boats"},
		{"{n,plural,=3{three}one{# boat}other{# boats}}", "{n, plural, =3 {three} one {# boat} other {# boats}}", "three"},
		{"{n, plural, offset:1 one {# more} other {# more '#'}}", "", "2 more #"},
		{"{kind, select, car {a car} other {a thing}}", "", "a car"},
		{"{n, selectordinal, one {#st} two {#nd} few {#rd} other {#th}}", "", "3rd"},
		{"{n, plural, one {<b>#</b> day} other {{kind, select, car {# cars} other {# '{'}}}}", "", "# cars"},
		{"l''<b>eau</b>", "", "l'eau"},
		{"# is no number here", "", "# is no number here"},
	} {
		m, err := Parse(c.in)
		if err != nil {
			t.Errorf("%s: %v", c.in, err)
			continue
		}
		if c.out == "" {
			c.out = c.in
		}
		if got := m.String(); got != c.out {
			t.Errorf("%q is written back as %q", c.in, got)
		}
		if got := m.Said("en", map[string]string{"name": "Ada", "n": "3", "kind": "car"}); got != c.said {
			t.Errorf("%q says %q, want %q", c.in, got, c.said)
		}
	}
}

func TestMessagesRefused(t *testing.T) {
	for _, c := range []struct {
		in string
		at int
	}{
		{"a } b", 2}, {"{", 0}, {"{name", 0}, {"{}", 0}, {"{n, plural}", 10}, {"{n, plural, one {x}}",
			0}, {"{n, plural, one {x} one {y} other {z}}", 20},
		{"{n, plural, lots {x} other {y}}", 12}, {"<b>bold", 0}, {"bold</b>", 4}, {"<b>x</i>", 4}, {"<b class='x'>y</b>",
			0}, {"{n, plural, other {<b>}}", 19},
		{"{n, select, a}", 12}, {"ü{", 1}, {"{n, plural, offset:x other {y}}", 12}, {strings.Repeat("{n, select, other {",
			40), 0},
	} {
		_, err := Parse(c.in)
		var me *MessageError
		if !errors.As(err, &me) {
			t.Errorf("%q is taken", c.in)
		} else if me.Offset != c.at && len(c.in) < 100 {
			t.Errorf("%q: at %d, want %d: %v", c.in, me.Offset, c.at, err)
		}
	}
}

func TestEscape(t *testing.T) {
	signs := []rune("ab'{}<>/#b ü\n")
	r := rand.New(rand.NewPCG(1, 2))
	for range 5000 {
		var b strings.Builder
		for range r.IntN(10) {
			b.WriteRune(signs[r.IntN(len(signs))])
		}
		s := b.String()
		if m, err := Parse(Escape(s)); err != nil {
			t.Fatalf("%q as %q: %v", s, Escape(s), err)
		} else if got, ok := m.Plain(); !ok || got != s {
			t.Fatalf("%q as %q says %q", s, Escape(s), got)
		}
		in := "{n, plural, one {" + EscapeIn(s, true) + "} other {" + EscapeIn(s, true) + "{x}" + EscapeIn(s, true) + "}}" +
			EscapeIn(s, false) + "<b>" + EscapeIn(s, false) + "</b>"
		m, err := Parse(in)
		if err != nil {
			t.Fatalf("%q: %v", in, err)
		}
		if got, want := m.Said("en", map[string]string{"n": "2", "x": "X"}), s+"X"+s+s+s; got != want {
			t.Fatalf("%q says %q, want %q", in, got, want)
		}
		if again, err := Parse(m.String()); err != nil || again.String() != m.String() {
			t.Fatalf("%q is written as %q, then %q: %v", in, m, again, err)
		}
	}
}

func TestValues(t *testing.T) {
	for _, c := range []struct{ message, words, want string }{
		{"{n} of {all}", "3 of 12", "all=12 n=3"},
		{"{n, plural, one {One passenger} other {# passengers}}", "4 passengers", "n=4"},
		{"{n, plural, one {One passenger} other {Three passengers}}, one way", "Three passengers, one way", "n=0"},
		{"{n, plural, one {One passenger} =3 {Three passengers} other {many}}", "Three passengers", "n=3"},
		{"{who} and {who}", "Ada and Ada", "who=Ada"},
		{"{who} and {who}", "Ada and Bo", "-"},
		{"{n} of {all}", "3 from 12", "-"},
		{"<b>{n}</b> left", "3 left", "n=3"},
		{"{kind, select, car {a car} other {a thing}}", "a car", "kind=car"},
	} {
		m, err := Parse(c.message)
		if err != nil {
			t.Fatal(err)
		}
		got := "-"
		if v, ok := m.Values("en", c.words); ok {
			var parts []string
			for _, k := range []string{"all", "kind", "n", "who"} {
				if x, ok := v[k]; ok {
					parts = append(parts, k+"="+x)
				}
			}
			got = strings.Join(parts, " ")
			if back := m.Said("en", v); back != c.words && got != "n=0" {
				t.Errorf("%s with %v says %q", c.message, v, back)
			}
		}
		if got != c.want {
			t.Errorf("%s in %q: %s, want %s", c.message, c.words, got, c.want)
		}
	}
}

func TestPlurals(t *testing.T) {
	for _, c := range []struct{ locale, want string }{
		{"en", "one other"}, {"de", "one other"}, {"fi", "one other"}, {"pl", "one few many"}, {"ar",
			"zero one two few many other"}, {"ja", "other"},
		{"cy", "zero one two few many other"}, {"he", "one two other"}, {"pt-BR", "one other"}, {"iw", "one two other"},
	} {
		forms, examples := PluralForms(c.locale)
		got := strings.Join(forms, " ")
		if got != c.want {
			t.Errorf("%s has %s, want %s", c.locale, got, c.want)
		}
		for i, f := range forms {
			if PluralForm(c.locale, examples[i], false) != f {
				t.Errorf("%s: %d is no example of %s", c.locale, examples[i], f)
			}
		}
	}
	for rule, r := range pluralRules { // gettext's rules name forms the language has
		have, _ := PluralForms(rule)
		for _, f := range strings.Fields(r.forms) {
			if !slices.Contains(have, f) && f != "other" {
				t.Errorf("%s: gettext's rule has the form %s, the language has %v", rule, f, have)
			}
		}
	}
	for locale, want := range map[string]bool{"he": true, "ar-x-pseudo": true, "de": false, "az-Arab": true,
		"uz-Latn": false, "ur-PK": true} {
		if RightToLeft(locale) != want {
			t.Errorf("%s from right to left: %t", locale, !want)
		}
	}
	for locale, want := range map[string]bool{"de": true, "pt-BR": true, "en-x-pseudo": true, "sr-Latn": true, "": false,
		"../x": false, "notes": false, "keys": false, "gsw": true, "not a locale": false} {
		if CheckLocale(locale) != want {
			t.Errorf("%q is a locale: %t", locale, !want)
		}
	}
}

func FuzzParse(f *testing.F) {
	for _, s := range []string{"a", "{n, plural, one {# boat} other {# boats}}", "<b>x</b> '{' {a, date, short}",
		"{a, select, x {y} other {'}'}}", "'''", "{n, plural, offset:1 other {#'#'}}"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		m, err := Parse(s)
		if err != nil {
			return
		}
		again, err := Parse(m.String())
		if err != nil {
			t.Fatalf("%q is written as %q, which is not read: %v", s, m, err)
		}
		if again.String() != m.String() {
			t.Fatalf("%q becomes %q, then %q", s, m, again)
		}
		m.Format("en", map[string]string{"n": "3"})
		m.Values("en", "3 boats")
	})
}
