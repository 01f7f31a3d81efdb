package exchange

import (
	"fmt"
	"sort"
	"strings"

	"archetyp/core/text"
	"archetyp/core/text/message"
)

// TMX 1.4b: a translation memory. https://www.gala-global.org/tmx-14b

func writeTMX(d *Document, _ Options) ([]byte, []string) {
	m := &Memory{Source: d.Source}
	for _, u := range d.Units {
		if u.Target != "" || d.Target == "" {
			e := MemoryEntry{Key: u.Key, Note: u.Note, Words: map[string]string{d.Source: u.Source}}
			if d.Target != "" {
				e.Words[d.Target] = u.Target
			}
			m.Entries = append(m.Entries, e)
		}
	}
	return WriteMemory(m), nil
}

// Memory is a translation memory: the same words in several languages.
type Memory struct {
	Source  string // locale
	Entries []MemoryEntry
}

// MemoryEntry is one message in several languages.
type MemoryEntry struct {
	Key   string            // it was made under; "" for none
	Note  string            // about it
	Words map[string]string // messages by locale
}

// MemoryOf is what entries of a catalogue say in several languages. Translations of older words are left out.
func MemoryOf(c *text.Catalogue, entries []*text.Entry, locales []string) *Memory {
	m := &Memory{Source: c.Locale}
	for _, e := range entries {
		one := MemoryEntry{Key: e.Key, Note: e.Note, Words: map[string]string{c.Locale: e.Words}}
		for _, l := range locales {
			if t := e.In[l]; t != nil && t.Words != "" && t.Of == "" {
				one.Words[l] = t.Words
			}
		}
		if len(one.Words) > 1 {
			m.Entries = append(m.Entries, one)
		}
	}
	return m
}

// WriteMemory writes a memory as TMX 1.4b.
func WriteMemory(m *Memory) []byte {
	var b strings.Builder
	b.WriteString(xmlHead)
	fmt.Fprintf(&b, "<tmx version=\"1.4\">\n <header creationtool=\"archetyp\" creationtoolversion=\"1\" "+
		"segtype=\"block\" o-tmf=\"archetyp\" adminlang=\"en\" srclang=\"%s\" datatype=\"plaintext\"/>\n <body>\n", xmlAttr(m.Source))
	for _, e := range m.Entries {
		b.WriteString("  <tu")
		if e.Key != "" {
			fmt.Fprintf(&b, " tuid=\"%s\"", xmlAttr(e.Key))
		}
		b.WriteString(">\n")
		if e.Note != "" {
			fmt.Fprintf(&b, "   <note>%s</note>\n", xmlText(e.Note))
		}
		var locales []string
		for l := range e.Words {
			if l != "" {
				locales = append(locales, l)
			}
		}
		sort.Slice(locales, func(i, j int) bool { // the source first
			if (locales[i] == m.Source) != (locales[j] == m.Source) {
				return locales[i] == m.Source
			}
			return locales[i] < locales[j]
		})
		for _, l := range locales {
			fmt.Fprintf(&b, "   <tuv xml:lang=\"%s\"><seg>%s</seg></tuv>\n", xmlAttr(l), segment(e.Words[l]))
		}
		b.WriteString("  </tu>\n")
	}
	b.WriteString(" </body>\n</tmx>\n")
	return []byte(b.String())
}

func segment(msg string) string {
	var b strings.Builder
	i, x := 0, 0
	var open []int
	for _, p := range pieces(msg) {
		switch p.kind {
		case wordsPiece:
			b.WriteString(xmlText(p.text))
		case openPiece:
			i++
			x++
			open = append(open, i)
			fmt.Fprintf(&b, `<bpt i="%d" x="%d">%s</bpt>`, i, x, xmlText(p.text))
		case closePiece:
			n := 0
			if k := len(open); k > 0 {
				n, open = open[k-1], open[:k-1]
			}
			fmt.Fprintf(&b, `<ept i="%d">%s</ept>`, n, xmlText(p.text))
		default:
			x++
			fmt.Fprintf(&b, `<ph x="%d">%s</ph>`, x, xmlText(p.text))
		}
	}
	return b.String()
}

// ReadMemory reads a TMX file. The error is a *markup.Error.
func ReadMemory(data []byte) (*Memory, error) {
	var parts []*Memory
	err := inSections(data, "tmx", "tu", Options{}, func(n int) { parts = make([]*Memory, n) },
		func(i int, s section) (err error) {
			parts[i], err = readMemory(s)
			return err
		})
	if err != nil {
		return nil, err
	}
	for _, p := range parts[1:] {
		parts[0].Entries = append(parts[0].Entries, p.Entries...)
	}
	return parts[0], nil
}

func readMemory(s section) (*Memory, error) {
	m := &Memory{}
	if h := child(s.root, "header"); h != nil {
		m.Source = h.AttrOr("srclang", "")
	}
	body := child(s.root, "body")
	if body == nil {
		p := s.pos(s.root.Offset)
		return nil, fault(p.Line, p.Column, "the file has no <body>")
	}
	for _, tu := range local(body, "tu") {
		e := MemoryEntry{Key: tu.AttrOr("tuid", ""), Words: map[string]string{}}
		if n := child(tu, "note"); n != nil {
			e.Note = n.TextContent()
		}
		for _, tuv := range local(tu, "tuv") {
			l := lang(tuv)
			seg := child(tuv, "seg")
			if seg == nil || l == "" {
				p := s.pos(tuv.Offset)
				return nil, fault(p.Line, p.Column, "a <tuv> needs xml:lang and a <seg>")
			}
			if m.Source == "" || m.Source == "*all*" {
				m.Source = l // the file does not say: the first language there is
			}
			e.Words[l] = safe(codes1(seg))
		}
		m.Entries = append(m.Entries, e)
	}
	return m, nil
}

// safe puts pieces together; where another system's codes make no message of it, all is words.
func safe(list []piece) string {
	list = joinWords(list)
	out := whole(list)
	if _, err := message.Parse(out); err == nil {
		return tidy(out)
	}
	var b strings.Builder
	for _, p := range list {
		b.WriteString(p.text)
	}
	return message.Escape(b.String())
}

func readTMX(data []byte, o Options) (*Document, error) {
	m, err := ReadMemory(data)
	if err != nil {
		return nil, err
	}
	d := &Document{Source: m.Source, Target: o.Locale}
	if d.Target == "" {
		for _, e := range m.Entries {
			for _, l := range sortedLocales(e.Words) {
				if l != m.Source && d.Target == "" {
					d.Target = l
				}
			}
		}
	}
	for _, e := range m.Entries {
		u := text.Unit{Key: e.Key, Note: e.Note, Source: Pick(e.Words, m.Source)}
		if d.Target != "" {
			u.Target = Pick(e.Words, d.Target)
		}
		d.Units = append(d.Units, u)
	}
	return d, nil
}

func sortedLocales(m map[string]string) []string {
	var out []string
	for l := range m {
		out = append(out, l)
	}
	sort.Strings(out)
	return out
}

// Pick is the message of a locale: of just that one, else in any case of letters, else of the same language.
func Pick(words map[string]string, locale string) string {
	if w, ok := words[locale]; ok {
		return w
	}
	for _, l := range sortedLocales(words) {
		if strings.EqualFold(strings.ReplaceAll(l, "_", "-"), locale) {
			return words[l]
		}
	}
	for _, l := range sortedLocales(words) {
		if message.Language(l) == message.Language(locale) && !text.Pseudo(l) {
			return words[l]
		}
	}
	return ""
}

// Remembered are the entries of a memory that have words in both languages.
func (m *Memory) Remembered(source, target string) []text.Remembered {
	var out []text.Remembered
	for _, e := range m.Entries {
		s, t := Pick(e.Words, source), Pick(e.Words, target)
		if s != "" && t != "" {
			out = append(out, text.Remembered{Key: e.Key, Source: s, Target: t})
		}
	}
	return out
}
