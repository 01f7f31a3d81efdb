package exchange

import (
	"errors"
	"math/rand/v2"
	"testing"

	"archetyp/core/markup"
)

func fuzz(f *testing.F, names ...string) {
	m := &maker{r: rand.New(rand.NewPCG(5, 5))}
	d := m.document(true)
	for i := range d.Units { // small beginnings are worked on faster
		form, _ := Of(names[i%len(names)])
		data, _ := form.Write(&Document{Source: "en", Target: "pl", Units: d.Units[i : i+1]}, Options{PluralUnits: true})
		f.Add(data)
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		for _, n := range names {
			form, _ := Of(n)
			d, err := form.Read(data, Options{Locale: "pl"})
			if err != nil {
				var me *markup.Error
				if !errors.As(err, &me) || me.Line < 1 {
					t.Fatalf("%s: an error without a place: %v", n, err)
				}
				continue
			}
			again, _ := form.Write(d, Options{})
			if _, err := form.Read(again, Options{Locale: "pl"}); err != nil {
				t.Fatalf("%s: what was read and written is not read: %v\n%s", n, err, again)
			}
		}
	})
}

func FuzzXLIFF(f *testing.F) { fuzz(f, "xliff", "xliff-1.2", "tmx") }

func FuzzPO(f *testing.F) { fuzz(f, "po") }

func FuzzCode(f *testing.F) { fuzz(f, "json", "android", "strings", "stringsdict") }

func FuzzCSV(f *testing.F) { fuzz(f, "csv") }

func FuzzParsePO(f *testing.F) {
	f.Add([]byte("# c\nmsgctxt \"x\"\n#| msgid \"o\"\nmsgid \"a\"\nmsgid_plural \"b\"\nmsgstr[0] \"c\"\nmsgstr[1] " +
		"\"d\\n\"\n#~ msgid \"e\"\n#~ msgstr \"\"\n"))
	f.Fuzz(func(t *testing.T, data []byte) {
		p, err := ParsePO(data)
		if err != nil {
			return
		}
		out := p.Bytes()
		again, err := ParsePO(out)
		if err != nil {
			t.Fatalf("%v\n%s", err, out)
		}
		if string(again.Bytes()) != string(out) {
			t.Fatalf("%s\nbecame\n%s", out, again.Bytes())
		}
	})
}
