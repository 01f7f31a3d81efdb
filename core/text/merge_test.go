package text_test

import (
	"fmt"
	"strings"
	"testing"

	"archetyp/core/text"
)

// written is a catalogue from lines "key = words | de = words".
func written(t *testing.T, lines string) *text.Catalogue {
	t.Helper()
	files := map[string][]byte{}
	var en, de []string
	for l := range strings.SplitSeq(strings.TrimSpace(lines), "\n") {
		key, rest, _ := strings.Cut(strings.TrimSpace(l), " = ")
		source, german, _ := strings.Cut(rest, " | ")
		en = append(en, fmt.Sprintf("%q: %q", key, source))
		if german != "" {
			de = append(de, fmt.Sprintf("%q: %q", key, german))
		}
	}
	files["en.json"], files["de.json"] = []byte("{"+strings.Join(en, ",")+"}"), []byte("{"+strings.Join(de, ",")+"}")
	c, err := text.ReadCatalogue("en", []string{"de"}, files)
	if err != nil {
		t.Fatal(err)
	}
	return c
}

func TestMergeCatalogues(t *testing.T) {
	const base = "pay = Pay | Zahlen\nback = Back | Zurück\nold = Old | Alt"
	set := func(key, words string) func(*text.Catalogue) {
		return func(c *text.Catalogue) {
			if err := c.Set(c.Get(key), "de", words, ""); err != nil {
				t.Fatal(err)
			}
		}
	}
	drop := func(key string) func(*text.Catalogue) {
		return func(c *text.Catalogue) {
			var kept []*text.Entry
			for _, e := range c.Entries {
				if e.Key != key {
					kept = append(kept, e)
				}
			}
			c.Entries = kept
		}
	}
	rename := func(from, to string) func(*text.Catalogue) {
		return func(c *text.Catalogue) {
			if err := c.Rename(from, to); err != nil {
				t.Fatal(err)
			}
		}
	}
	nothing := func(*text.Catalogue) {}
	for name, x := range map[string]struct {
		ours, theirs func(*text.Catalogue)
		want         string
		clashes      int
	}{
		"nothing":                        {nothing, nothing, "back=Zurück old=Alt pay=Zahlen", 0},
		"each another":                   {set("pay", "Bezahlen"), set("back", "Rückwärts"), "back=Rückwärts old=Alt pay=Bezahlen", 0},
		"both the same":                  {set("pay", "Bezahlen"), set("pay", "Bezahlen"), "back=Zurück old=Alt pay=Bezahlen", 0},
		"both another":                   {set("pay", "Bezahlen"), set("pay", "Jetzt zahlen"), "back=Zurück old=Alt pay=Bezahlen(or Jetzt zahlen)", 1},
		"removed and changed":            {drop("old"), set("old", "Ganz alt"), "back=Zurück old=Ganz alt pay=Zahlen", 0},
		"changed and removed":            {set("old", "Ganz alt"), drop("old"), "back=Zurück old=Ganz alt pay=Zahlen", 0},
		"removed there":                  {nothing, drop("old"), "back=Zurück pay=Zahlen", 0},
		"renamed here, changed there":    {rename("pay", "pay.now"), set("pay", "Bezahlen"), "back=Zurück old=Alt pay.now=Bezahlen", 0},
		"renamed there, changed here":    {set("pay", "Bezahlen"), rename("pay", "pay.now"), "back=Zurück old=Alt pay.now=Bezahlen", 0},
		"translation removed, unchanged": {nothing, set("pay", ""), "back=Zurück old=Alt pay=", 0},
		"translation removed, changed":   {set("pay", "Bezahlen"), set("pay", ""), "back=Zurück old=Alt pay=Bezahlen", 0},
	} {
		b, o, th := written(t, base), written(t, base), written(t, base)
		x.ours(o)
		x.theirs(th)
		got, clashes := text.Merge(b, o, th)
		var out []string
		for _, e := range got.Entries {
			s := e.Key + "="
			if tr := e.In["de"]; tr != nil {
				s += tr.Words
				if tr.Or != "" {
					s += "(or " + tr.Or + ")"
				}
			}
			out = append(out, s)
		}
		if strings.Join(out, " ") != x.want || len(clashes) != x.clashes {
			t.Errorf("%s: %s, %d clashes; want %s", name, strings.Join(out, " "), len(clashes), x.want)
		}
		if x.clashes > 0 {
			again, err := text.ReadCatalogue("en", []string{"de"}, map[string][]byte{"en.json": got.LocaleJSON("en"), "de.json": got.LocaleJSON("de"), text.KeysFile: got.KeysJSON()})
			if err != nil || len(again.Check(text.CheckOptions{Only: []string{"conflict"}})) != 1 {
				t.Errorf("%s: the conflict is not in the files: %v", name, err)
			}
			set("pay", "Bezahlen")(again)
			if len(again.Check(text.CheckOptions{Only: []string{"conflict"}})) != 0 {
				t.Errorf("%s: setting the words does not settle it", name)
			}
		}
	}
}
