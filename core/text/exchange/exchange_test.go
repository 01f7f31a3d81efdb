package exchange

import (
	"errors"
	"fmt"
	"math/rand/v2"
	"os"
	"reflect"
	"strings"
	"testing"

	"archetyp/core/markup"
	"archetyp/core/text"
	"archetyp/core/text/message"
)

// scraps are what random texts are made of: many scripts, signs that formats escape, marks of direction, emoji.
var scraps = []string{"a", "Pay", "für", "Łódź", "жук", "λέξη", "שלום", "مرحبا", "नमस्ते", "船", "ไทย", "é", "👍🏽", "👩‍👧",
	" ", "  ", "\n", "\t", "'", "''", `"`, `\`, `\n`,
	"%", "%%", "&", "&amp;", "<", ">", "</", "]]>", "{", "}", "#", "@", "?", "=", "+", "-", ";", ",", "/*", "*/", "//", "\u200f", "\u202e", "\u202c", "\u00a0", "\u2028", "0", "12", "|", "$", "~", "«", "”", "\u00ad"}

type maker struct{ r *rand.Rand }

func (m *maker) words() string {
	var b strings.Builder
	for range 1 + m.r.IntN(5) {
		b.WriteString(scraps[m.r.IntN(len(scraps))])
	}
	return b.String()
}

// message is a random message with arguments a and b, elements, and a plural of n where one is wanted.
func (m *maker) message(names []string, plural bool, locale string) string {
	literal := func() message.Part { return message.Part{Kind: message.Literal, Text: m.words()} }
	var out message.Message
	part := func() {
		switch k := m.r.IntN(6); {
		case k == 0 && len(names) > 0:
			out = append(out, message.Part{Kind: message.Argument, Name: names[0]})
		case k == 1 && len(names) > 1:
			out = append(out, message.Part{Kind: message.Argument, Name: names[1], Type: "number"})
		case k == 2:
			out = append(out, message.Part{Kind: message.Open, Name: "b"}, literal(), message.Part{Kind: message.Close,
				Name: "b"})
		default:
			out = append(out, literal())
		}
	}
	for range 1 + m.r.IntN(3) {
		part()
	}
	if plural {
		forms, _ := message.PluralForms(locale)
		if forms[len(forms)-1] != "other" {
			forms = append(forms, "other")
		}
		choice := message.Part{Kind: message.Choice, Name: "n", Type: "plural"}
		for i, f := range forms {
			body := message.Message{literal(), {Kind: message.Hash}, literal()}
			if f == "other" && i > 0 && i == len(forms)-1 && locale == "pl" {
				body = choice.Cases[i-1].Message // gettext has no form for fractions
			}
			choice.Cases = append(choice.Cases, message.Case{Selector: f, Message: body})
		}
		return message.Message{choice}.String()
	}
	s := out.String()
	parsed, err := message.Parse(s)
	if err != nil {
		panic(err)
	}
	return parsed.String()
}

func (m *maker) document(plurals bool) *Document {
	d := &Document{Name: "Tern & Tide", Source: "en", Target: "pl"}
	for i := range 12 {
		names := []string{"a", "b"}[:m.r.IntN(3)]
		plural := plurals && i%4 == 0
		u := text.Unit{Key: fmt.Sprintf("screen%d.part-%d.words_%d", i%3, i, i), Source: m.message(names, plural, "en")}
		if len(names) > 0 { // the source names all arguments, so that places of them are known
			u.Source = whole([]piece{{codePiece, "{a}", "a"}, {wordsPiece, " ", ""}, {codePiece, "{b, number}", "b"}})
			if plural {
				u.Source = m.message(nil, true, "en")
				names = nil
			}
		}
		if i%5 != 4 {
			u.Target = m.message(names, plural, "pl")
			u.State = []text.State{text.Translated, text.Reviewed, text.Final, text.Initial}[m.r.IntN(4)]
			if m.r.IntN(4) == 0 {
				u.State, u.Of = text.Outdated, m.message(names, plural, "en")
			}
		} else {
			u.State = text.Initial
		}
		if m.r.IntN(2) == 0 {
			u.Note = strings.TrimSpace(m.words() + "x" + m.words())
		}
		if m.r.IntN(3) == 0 {
			u.Given = "meaning " + strings.ReplaceAll(m.words(), "\n", "") + "x"
		}
		if m.r.IntN(2) == 0 {
			u.Room = &text.Room{Width: float64(m.r.IntN(40000)) / 100, Lines: 1 + m.r.IntN(3)}
			u.Limit = 1 + m.r.IntN(200)
		}
		for range m.r.IntN(3) {
			u.Places = append(u.Places, text.Place{Source: "design/a b.svg", Screen: "Screen: " + "ü%#",
				Element: "Card/Pay “now” " + fmt.Sprint(m.r.IntN(9))})
		}
		if m.r.IntN(3) == 0 {
			u.Tags = []string{"june", "new texts"}
		}
		base := u.Target
		u.Base = &base
		d.Units = append(d.Units, u)
	}
	return d
}

// holds says what a format keeps of a unit.
type holds struct{ source, state, outdated, note, meaning, places, room, tags, base bool }

var held = map[string]holds{
	"xliff":       {true, true, true, true, true, true, true, true, true},
	"xliff-1.2":   {true, true, true, true, true, true, true, true, true},
	"po":          {true, true, true, true, true, true, true, true, true},
	"csv":         {true, true, true, true, true, true, true, true, true},
	"tmx":         {source: true, note: true},
	"json":        {},
	"json-nested": {},
	"android":     {},
	"strings":     {},
	"stringsdict": {},
}

// Every format brings back what it can hold, of random texts in many scripts.
func TestRoundTrip(t *testing.T) {
	for _, f := range Formats {
		h, ok := held[f.Name]
		if !ok {
			continue // the template of po holds no translations
		}
		t.Run(f.Name, func(t *testing.T) {
			for seed := range uint64(60) {
				m := &maker{r: rand.New(rand.NewPCG(seed, 3))}
				d := m.document(f.Name != "strings")
				for _, o := range []Options{{}, {PluralUnits: true}} {
					if o.PluralUnits && f.Name != "xliff" {
						continue
					}
					data, _ := f.Write(d, o)
					if rf, ok := Recognise("x"+f.Ext, data); !ok || rf.Name != f.Name && f.Name != "json-nested" {
						t.Fatalf("taken for %q", rf.Name)
					}
					back, err := f.Read(data, Options{Locale: "pl"})
					if err != nil {
						t.Fatalf("seed %d: %v\n%s", seed, err, data)
					}
					compare(t, f, h, d, back, seed, o)
				}
			}
		})
	}
}

func compare(t *testing.T, f Format, h holds, d, back *Document, seed uint64, o Options) {
	t.Helper()
	found := map[string]text.Unit{}
	for _, u := range back.Units {
		found[u.Key] = u
	}
	names := CodeNames(keysOf(d))
	for _, u := range d.Units {
		key := u.Key
		if f.Name == "android" {
			key = names[u.Key]
		}
		_, _, plural := onePlural(u.Target)
		if f.Name == "stringsdict" && !plural || f.Name == "strings" && plural || f.Code && u.Target == "" ||
			f.Name == "tmx" && u.Target == "" {
			continue
		}
		if !h.source && strings.ContainsAny(u.Target, "%") && len(arguments(u.Target)) == 0 && f.Name != "json" &&
			f.Name != "json-nested" && f.Name != "android" {
			continue // a sign for an argument in words without any is one to these formats
		}
		g, ok := found[key]
		if !ok {
			t.Fatalf("seed %d: %s is gone", seed, u.Key)
		}
		check := func(what string, on bool, want, got any) {
			t.Helper()
			if on && !reflect.DeepEqual(want, got) {
				t.Fatalf("seed %d %+v: the %s of %s\n%#v\nbecame\n%#v", seed, o, what, u.Key, want, got)
			}
		}
		check("target", true, u.Target, text.Adopt(u.Source, g.Target))
		check("source", h.source, u.Source, g.Source)
		state := u.State
		if u.State == text.Outdated && !h.outdated {
			state = g.State
		}
		if u.Target == "" {
			state = g.State
		}
		check("state", h.state, state, g.State)
		check("origin", h.outdated, u.Of, g.Of)
		check("note", h.note, u.Note, g.Note)
		check("meaning", h.meaning, u.Given, g.Given)
		check("places", h.places, u.Places, g.Places)
		check("tags", h.tags, u.Tags, g.Tags)
		if u.Room != nil && h.room {
			check("room", true, *u.Room, *g.Room)
			check("limit", true, u.Limit, g.Limit)
		}
		if h.base {
			check("base", true, *u.Base, *g.Base)
		}
	}
}

func keysOf(d *Document) []string {
	var out []string
	for _, u := range d.Units {
		out = append(out, u.Key)
	}
	return out
}

func TestReadingFaults(t *testing.T) {
	bomb := `<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa">` + func() string {
		s := ""
		for i := 1; i < 12; i++ {
			prev := string(rune('a' + i - 1))
			s += fmt.Sprintf(`<!ENTITY %c "%s">`, 'a'+i, strings.Repeat("&"+prev+";", 20))
		}
		return s
	}() + `]>`
	x2 := func(body string) string {
		return `<xliff xmlns="urn:oasis:names:tc:xliff:document:2.0" version="2.1" srcLang="en" trgLang="de"><file id="f">` +
			body + `</file></xliff>`
	}
	x1 := func(body string) string {
		return `<xliff version="1.2"><file source-language="en" target-language="de"><body>` + body + `</body></file></xliff>`
	}
	for _, c := range []struct{ format, data, want string }{
		{"xliff", bomb + `<xliff><file><unit id="a"><segment><source>&l;</source></segment></unit></file></xliff>`, "entit"},
		{"xliff-1.2", bomb + `<xliff version="1.2"><file><body>&l;</body></file></xliff>`, "entit"},
		{"tmx", bomb + `<tmx version="1.4"><body>&l;</body></tmx>`, "entit"},
		{"android", bomb + `<resources><string name="a">&l;</string></resources>`, "entit"},
		{"xliff", "", "1:1"},
		{"xliff", x2(`<unit id="a"><segment><source>A`), "1:"},
		{"xliff", x2("\n" + `<unit id="a"><segment><source>A</source></segment></unit>` + "\n" +
			`<unit id="a"><segment><source>B</source></segment></unit>`), `3:1: the id "a" stands twice: in line 2 too`},
		{"xliff", x2("\n" + `<unit id="a"><segment><source>A</source><target>{n</target></segment></unit>`), "<ok>"},
		{"xliff", x2("\n" + `<unit id="a"><originalData><data id="d">{n</data></originalData><segment><source>A</source><target><ph id="1" dataRef="d"/></target></segment></unit>`), "2:1: a: not a valid message"},
		{"xliff", "<html/>", "begins with <html>"},
		{"xliff", "<?xml version=\"1.0\" encoding=\"nonsense\"?><xliff/>", "encoding"},
		{"xliff", "<xliff>\xff\xfe</xliff>", "UTF-8"},
		{"xliff-1.2", x1("\n" +
			`<trans-unit id="a"><source>A</source></trans-unit><trans-unit id="a"><source>B</source></trans-unit>`), "2:51: the id"},
		{"xliff-1.2", x1(`<trans-unit id="a"><source><ph id="1">{n, plural, one {</ph></source></trans-unit>`),
			"not a valid message"},
		{"tmx", `<tmx version="1.4"></tmx>`, "no <body>"},
		{"tmx", `<tmx version="1.4"><body><tu><tuv><seg>a</seg></tuv></tu></body></tmx>`, "needs xml:lang"},
		{"po", "msgid \"a\"\n", "no msgstr"},
		{"po", "msgid \"a\nmsgstr \"b\"\n", "1:7: a text in quotation marks"},
		{"po", "msgid \"a\"\nmsgstr \"b\\q\"\n", "2:11: \\q is no escape"},
		{"po", "msgid \"a\"\nmsgstr \"b\"c\"\n", "2:10: a quotation mark inside"},
		{"po", "msgid \"a\"\nmsgstr[1] \"b\"\n", "msgstr[0] was expected"},
		{"po", "msgstr \"b\"\n", "without a msgid"},
		{"po", "\"b\"\n", "without msgid"},
		{"po", "nonsense \"b\"\n", "nonsense"},
		{"po", "msgid \"\"\nmsgstr \"Content-Type: text/plain; charset=UTF-8\\n\"\n\nmsgid \"a\"\nmsgstr \"\xff\"\n",
			"5:9: not valid UTF-8"},
		{"po", "msgid \"a\"\nmsgstr \"\"\n\nmsgid \"b\"\nmsgstr \"\\331\"\n", "4:1: the escapes of"},
		{"po", "msgctxt \"a\"\nmsgid \"{n, plural, one {x} other {\\xd8}}\"\nmsgstr \"\"\n", "1:1: the escapes of"},
		{"po", "msgid \"\"\nmsgstr \"Content-Type: text/plain; charset=klingon\\n\"\n", "klingon"},
		{"po", "msgid \"a\"\nmsgstr \"\"\n\nmsgid \"a\"\nmsgstr \"\"\n", "4:1: \"a\" stands twice: in line 1"},
		{"po", "msgid \"a\"\nmsgstr \"{n\"\n", "1:1: a: not a valid message"},
		{"csv", "", "empty"},
		{"csv", "a,b\n1,2\n", "no column key"},
		{"csv", "key,target\na,\"b\n", "2:"},
		{"csv", "key,target\na,b\na,c\n", "3:1: the id"},
		{"csv", "key,target,state\na,b,perfect\n", "perfect"},
		{"csv", "key,target\na,{\n", "2:1: a: not a valid message"},
		{"csv", "key,target\na,\x00\n", "UTF-8"},
		{"json", "", "1:1"},
		{"json", "[]", "not a JSON object"},
		{"json", "{\"a\": 1}", "a text or a group"},
		{"json", "{\n\"a\": \"x\",\n\"a\": \"y\"}", "3:1: the key stands twice"},
		{"json", "{\"a.b\": \"x\", \"a\": {\"b\": \"y\"}}", "stands twice"},
		{"json", "{\"a\": \"x\"", "cut off"},
		{"json", "{\"a\": \"{\"}", "1:5: a: not a valid message"},
		{"json", strings.Repeat(`{"a":`, 100) + `"x"` + strings.Repeat("}", 100), "64 deep"},
		{"android", "<resources><string>x</string></resources>", "no name"},
		{"android", "<resources><string name='a'>x</string><string name='a'>y</string></resources>", "stands twice"},
		{"strings", `"a" = "b"`, "a ; was expected"},
		{"strings", `"a" = "b;`, "1:8: the text is not closed"},
		{"strings", "/* x", "not closed"},
		{"strings", `"a" = "b"; "a" = "c";`, "1:12: the id"},
		{"strings", "\"a\" = ;", "quotation marks"},
		{"strings", "\"a\" = \"\xff\";", "1:8: not valid UTF-8"},
		{"stringsdict", "<plist/>", "no <dict>"},
	} {
		f, ok := Of(c.format)
		if !ok {
			t.Fatal(c.format)
		}
		d, err := f.Read([]byte(c.data), Options{Locale: "de"})
		if c.want == "<ok>" {
			if err != nil || d.Units[0].Target != "'{'n" {
				t.Errorf("%s: %v %+v", c.format, err, d)
			}
			continue
		}
		var me *markup.Error
		if !errors.As(err, &me) || !strings.Contains(me.Error(), c.want) &&
			!strings.Contains(fmt.Sprintf("%d:%d: %s", me.Line, me.Column, me.Msg), c.want) {
			t.Errorf("%s, %.60q: %v, want %s", c.format, c.data, err, c.want)
		}
	}
}

// A large file is read in sections, with the same result and the same faults as in one piece.
func TestLargeFilesAreReadInSections(t *testing.T) {
	names := []string{"xliff", "xliff-1.2", "tmx"}
	if testing.Short() {
		names = names[:1]
	}
	for _, name := range names {
		f, _ := Of(name)
		d := &Document{Source: "en", Target: "pl"}
		m := &maker{r: rand.New(rand.NewPCG(8, 8))}
		for i := range 200 {
			for _, u := range m.document(true).Units {
				u.Key = fmt.Sprintf("%s-%d", u.Key, i)
				d.Units = append(d.Units, u)
			}
		}
		o := Options{PluralUnits: true}
		data, _ := f.Write(d, o)
		if _, cuts, _ := cut(data, map[string]string{"xliff": "unit", "xliff-1.2": "trans-unit",
			"tmx": "tu"}[name]); len(cuts) < 3 {
			t.Fatalf("%s: %d bytes are not cut", name, len(data))
		}
		whole := strings.Replace(string(data), "?>", "?><!-- in one piece -->", 1)
		a, errA := f.Read(data, o)
		b, errB := f.Read([]byte(whole), o)
		if errA != nil || errB != nil || !reflect.DeepEqual(a, b) {
			t.Errorf("%s: %v %v, %d and %d units", name, errA, errB, len(a.Units), len(b.Units))
		}
		o.Words = true // words, states and lines are the same without notes and places
		light, err := f.Read(data, o)
		if err != nil || len(light.Units) != len(a.Units) {
			t.Fatalf("%s, words alone: %v", name, err)
		}
		for i, u := range light.Units {
			w := a.Units[i]
			w.Note, w.Given, w.Places, w.Tags, w.Limit = u.Note, u.Given, u.Places, u.Tags, u.Limit
			if !reflect.DeepEqual(w, u) {
				t.Fatalf("%s, words alone: %+v\nwant %+v", name, u, w)
			}
		}
		if name == "tmx" {
			continue
		}
		twice := strings.Replace(string(data), "words_7-199", "words_7-3", -1)
		broken := strings.Replace(string(data), "</source>", "</sauce>", 800)
		for _, bad := range []string{twice, broken[:len(broken)-1]} {
			_, errA = f.Read([]byte(bad), o)
			if errA == nil || !strings.Contains(errA.Error(), "stands twice") && !strings.Contains(errA.Error(), "sauce") {
				t.Errorf("%s: %v", name, errA)
			}
		}
	}
}

func TestForeignFiles(t *testing.T) {
	for _, c := range []struct{ name, data, want string }{
		{"two segments", `<xliff xmlns="urn:oasis:names:tc:xliff:document:2.0" version="2.0" srcLang="en" trgLang="de"><file id="f"><group id="g"><unit id="u"><segment state="final"><source>One.</source><target>Eins.</target></segment><ignorable><source> </source></ignorable><segment state="translated"><source>Two</source><target><mrk id="m">Zwei</mrk></target></segment></unit></group></file></xliff>`, "u|One. Two|Eins. Zwei|translated"},
		{"a state nobody knows",
			`<xliff version="2.1" srcLang="en" trgLang="de"><file id="f"><unit id="u"><segment state="final"><source>a</source><target>b</target></segment><segment state="perfect"><source>c</source><target>d</target></segment></unit></file></xliff>`, "u|ac|bd|initial"},
		{"codes without data",
			`<xliff version="2.1" srcLang="en" trgLang="de"><file id="f"><unit id="u"><segment><source>a <pc id="1">b</pc> <ph id="2"/></source></segment></unit></file></xliff>`, "u|a <x1>b</x1> {x2}||initial"},
		{"sc and ec", `<xliff version="2.1" srcLang="en"><file id="f"><unit id="u"><originalData><data id="a">&lt;b></data><data id="z">&lt;/b></data></originalData><segment><source>a <sc id="1" dataRef="a"/>b<ec startRef="1" dataRef="z"/></source></segment></unit></file></xliff>`, "u|a <b>b</b>||"},
		{"1.2 without states",
			`<xliff version="1.2"><file source-language="en" target-language="de"><body><group><trans-unit id="7" approved="yes"><source>A <g id="1" ctype="bold">b</g> <x id="2"/></source><target>C</target><note>say so</note></trans-unit></group></body></file></xliff>`, "7|A <bold>b</bold> {x2}|C|reviewed"},
		{"po by words", "msgid \"Pay\"\nmsgstr \"Zahlen\"\n\n#, fuzzy\nmsgid \"A\"\n\"B\"\nmsgstr \"\"\n\"C\"\n",
			"Pay|Pay|Zahlen|translated AB|AB|C|initial"},
		{"po with plurals", "msgid \"\"\nmsgstr \"Language: pl\\n\"\n\nmsgid \"{count} boat\"\nmsgid_plural \"{count} " +
			"boats\"\nmsgstr[0] \"łódź\"\nmsgstr[1] \"łodzie\"\nmsgstr[2] \"łodzi\"\n", "{count} boat|{count, plural, one " +
			"{{count} boat} other {{count} boats}}|{count, plural, one {łódź} few {łodzie} many {łodzi} other " +
			"{łodzi}}|translated"},
		{"csv with semicolons", "target;KEY\nx;a\n", "a||x|"},
		{"android", `<resources xmlns:x="urn:x"><string name="a"> Hi   <x:g id="n">%1$s</x:g>, it\'s "  two  " \u00e9 <b>b</b>
 </string><string name="p">%s of %d</string><plurals name="q"><item quantity="one">%d boat</item><item quantity="other">%d boats</item></plurals></resources>`, "a||Hi {1}, it's   two   é <b>b</b>| p||{1} of {2, number}| q||{1, plural, one {# boat} other {# boats}}|"},
		{"strings", "// one\nkey = value;\n/* two */ \"a b\" = \"%@ of %2$ld \\\"x\\\" \\U00e9\";",
			"key||value| a b||{1} of {2, number} \"x\" é|"},
		{"strings in UTF-16", "\xff\xfe\"\x00a\x00\"\x00=\x00\"\x00b\x00\"\x00;\x00", "a||b|"},
		{"tmx of another system",
			`<tmx version="1.4"><header srclang="en-GB"/><body><tu><tuv xml:lang="en-GB"><seg>Open <bpt i="1">{\b </bpt>file<ept i="1">}</ept></seg></tuv><tuv lang="de-DE"><seg>Datei <ph>%s</ph></seg></tuv></tu></body></tmx>`, "|Open '{'\\b file'}'|Datei %s|"},
	} {
		f, ok := Recognise("x."+map[bool]string{true: "csv", false: "strings"}[strings.HasPrefix(c.name, "csv")],
			[]byte(c.data))
		if !ok {
			t.Fatal(c.name)
		}
		d, err := f.Read([]byte(c.data), Options{})
		if err != nil {
			t.Errorf("%s: %v", c.name, err)
			continue
		}
		var got []string
		for _, u := range d.Units {
			got = append(got, strings.Join([]string{u.Key, u.Source, u.Target, string(u.State)}, "|"))
		}
		if strings.Join(got, " ") != c.want {
			t.Errorf("%s: %s\nwant %s", c.name, strings.Join(got, " "), c.want)
		}
	}
}

func TestLostInAFormatIsTold(t *testing.T) {
	d := &Document{Source: "en", Target: "de",
		Units: []text.Unit{{Key: "a", Source: "{n, plural, =0 {none} one {#} other {#}}",
			Target: "{n, plural, =0 {keine} one {#} other {#}}"}, {Key: "b", Source: "{k, select, x {y} other {z}}", Target: "{k, select, x {u} other {v}}"}}}
	for name, want := range map[string]int{"xliff": 0, "xliff-1.2": 0, "tmx": 0, "csv": 0, "json": 0, "po": 1,
		"android": 2, "strings": 2, "stringsdict": 0} {
		f, _ := Of(name)
		if _, warnings := f.Write(d, Options{}); len(warnings) != want {
			t.Errorf("%s: %q", name, warnings)
		}
	}
}

func TestAndroidFolders(t *testing.T) {
	for l, want := range map[string]string{"en": "values", "de": "values-de", "pt-BR": "values-pt-rBR",
		"sr-Latn": "values-b+sr+Latn", "en-x-pseudo": "values-en-rXA", "es-419": "values-b+es+419"} {
		if got := AndroidFolder(l, "en"); got != want {
			t.Errorf("%s: %s", l, got)
		}
	}
}

// TestPOAsItStands holds that every part of a foreign file stays.
func TestPOAsItStands(t *testing.T) {
	data, err := os.ReadFile("testdata/foreign.po")
	if err != nil {
		t.Fatal(err)
	}
	p, err := ParsePO(data)
	if err != nil {
		t.Fatal(err)
	}
	if got := string(p.Bytes()); got != string(data) {
		t.Errorf("became\n%s", got)
	}
}
