package exchange

import (
	"fmt"
	"strconv"
	"strings"
	"unicode/utf8"

	"archetyp/core/text"
	"archetyp/core/text/message"
)

// gettext PO for translators: the key as context, a message with one plural as msgid_plural, what the format has no
// place for in comments for the translator.

func writePOT(d *Document, o Options) ([]byte, []string) {
	t := *d
	t.Target = ""
	return writePO(&t, o)
}

func writePO(d *Document, _ Options) ([]byte, []string) {
	rule, forms := message.PluralRule(d.Target)
	// gettext asks who and when; the same catalogue must give the same bytes
	head := "Project-Id-Version: " + d.Name +
		"\nPO-Revision-Date: unknown\nLast-Translator: unknown\nLanguage-Team: unknown\n"
	if d.Target != "" {
		head += "Language: " + strings.ReplaceAll(d.Target, "-", "_") + "\n"
	}
	head += "MIME-Version: 1.0\nContent-Type: text/plain; charset=UTF-8\nContent-Transfer-Encoding: 8bit\n"
	if d.Target != "" {
		head += "Plural-Forms: " + rule + "\n"
	}
	head += "X-Source-Language: " + d.Source + "\n"
	f := &POFile{Entries: []POEntry{{Str: []string{head}}}}
	var warnings []string
	for i := range d.Units {
		e, lost := poEntry(d, &d.Units[i], forms)
		if lost != "" {
			warnings = append(warnings, d.Units[i].Key+": "+lost)
		}
		f.Entries = append(f.Entries, e)
	}
	return f.Bytes(), warnings
}

func poEntry(d *Document, u *text.Unit, forms []string) (e POEntry, lost string) {
	e = POEntry{Context: u.Key, InCtxt: true, ID: u.Source, Str: []string{""}}
	target := u.Target
	if d.Target == "" {
		target = ""
	}
	comment := func(name, words string) {
		if words == "" {
			return
		}
		for _, l := range strings.Split(words, "\n") {
			e.Comments = append(e.Comments, "#. "+name+": "+l)
		}
	}
	comment("note", u.Note)
	comment("meaning", u.Given)
	if u.Room != nil {
		comment("room", u.Room.String())
	}
	if u.Limit > 0 {
		comment("limit", strconv.Itoa(u.Limit)+" letters")
	}
	comment("tags", strings.Join(u.Tags, ", "))
	if target != "" && (u.State == text.Reviewed || u.State == text.Final) {
		comment("state", string(u.State))
	}
	m, at, plural := onePlural(u.Source)
	var t message.Message
	tat := 0
	if plural && target != "" {
		var ok bool
		t, tat, ok = onePlural(target)
		plural = ok && t[tat].Name == m[at].Name
	}
	if plural {
		comment("message", oneLine(u.Source))
	}
	if u.Base != nil && d.Target != "" {
		e.Comments = append(e.Comments, "#. exported: "+oneLine(*u.Base))
	}
	for _, p := range u.Places {
		e.Comments = append(e.Comments, "#: "+reference(p))
	}
	if target != "" && (u.State == text.Initial || u.State == text.Outdated) {
		e.Comments = append(e.Comments, "#, fuzzy")
		if u.Of != "" {
			e.PrevID, e.HasPrevID = u.Of, true
		}
	}
	if !plural {
		e.Str[0] = target
		return e, ""
	}
	return e, e.forms(d, u.Source, target, forms)
}

// forms writes a message with a plural as one form for each of the language; lost says what there is no place for.
func (e *POEntry) forms(d *Document, source, target string, forms []string) (lost string) {
	m, at, _ := onePlural(source)
	t, tat, _ := onePlural(target)
	number := numberOf(m[at].Name)
	e.ID, e.Plural, e.IsPlural = formOf(m, at, "one", number).String(), formOf(m, at, "other", number).String(), true
	e.Str = make([]string, max(1, len(forms)))
	if d.Target == "" {
		e.Str = make([]string, 2)
	}
	if target == "" {
		return ""
	}
	for i, f := range forms {
		e.Str[i] = formOf(t, tat, f, number).String()
	}
	for _, c := range t[tat].Cases {
		if strings.HasPrefix(c.Selector, "=") {
			lost = "PO has no place for the form " + c.Selector
		}
	}
	return lost
}

func oneLine(s string) string {
	return strings.ReplaceAll(strings.ReplaceAll(s, `\`, `\\`), "\n", `\n`)
}

func manyLines(s string) string {
	return strings.NewReplacer(`\\`, `\`, `\n`, "\n").Replace(s)
}

// reference is a place as a reference without spaces: source#screen:element.
func reference(p text.Place) string {
	esc := func(s, more string) string {
		var b strings.Builder
		for i := 0; i < len(s); i++ {
			if c := s[i]; c <= ' ' || c == '%' || strings.IndexByte(more, c) >= 0 {
				fmt.Fprintf(&b, "%%%02X", c)
			} else {
				b.WriteByte(c)
			}
		}
		return b.String()
	}
	return esc(p.Source, "#:") + "#" + esc(p.Screen, ":") + ":" + esc(p.Element, "")
}

func place(ref string) text.Place {
	var p text.Place
	source, rest, ok := strings.Cut(ref, "#")
	if !ok {
		return text.Place{Source: unescaped(ref)}
	}
	screen, element, _ := strings.Cut(rest, ":")
	p.Source, p.Screen, p.Element = unescaped(source), unescaped(screen), unescaped(element)
	return p
}

func unescaped(s string) string {
	var b strings.Builder
	for i := 0; i < len(s); i++ {
		if s[i] == '%' && i+2 < len(s) {
			if v, err := strconv.ParseUint(s[i+1:i+3], 16, 8); err == nil {
				b.WriteByte(byte(v))
				i += 2
				continue
			}
		}
		b.WriteByte(s[i])
	}
	return strings.ToValidUTF8(b.String(), "\uFFFD")
}

func readPO(data []byte, o Options) (*Document, error) {
	f, err := ParsePO(data)
	if err != nil {
		return nil, err
	}
	d := &Document{Name: f.Header("Project-Id-Version"), Source: f.Header("X-Source-Language"),
		Target: strings.ReplaceAll(f.Header("Language"), "_", "-")}
	if o.Locale != "" {
		d.Target = o.Locale
	}
	_, forms := message.PluralRule(d.Target)
	seen := map[string]int{}
	for i := range f.Entries {
		e := &f.Entries[i]
		if e.Obsolete || len(e.Str) == 0 || e.ID == "" && !e.InCtxt {
			continue
		}
		if err := twice(seen, e.Context+"\x04"+e.ID, e.Line, 1); err != nil {
			return nil, fault(e.Line, 1, "%q stands twice: in line %d too; every message needs a context of its own", e.ID,
				seen[e.Context+"\x04"+e.ID])
		}
		for _, t := range append([]string{e.Context, e.ID, e.Plural, e.PrevID}, e.Str...) {
			if !utf8.ValidString(t) { // escapes can make any bytes
				return nil, fault(e.Line, 1, "the escapes of %q are not UTF-8; write the letters themselves",
					short(strings.ToValidUTF8(t, "\uFFFD")))
			}
		}
		u := poUnit(e, forms)
		if err := valid(&u); err != nil {
			return nil, err
		}
		d.Units = append(d.Units, u)
	}
	return d, nil
}

func poUnit(e *POEntry, forms []string) text.Unit {
	u := text.Unit{Key: e.Context, Source: e.ID, Line: e.Line, Column: 1}
	if !e.InCtxt {
		u.Key = e.ID
	}
	state, msg := text.State(""), ""
	var notes []string
	for _, c := range e.Comments {
		if refs, ok := strings.CutPrefix(c, "#:"); ok {
			for _, r := range strings.Fields(refs) {
				u.Places = append(u.Places, place(r))
			}
		}
		rest, ok := strings.CutPrefix(c, "#.")
		if !ok {
			continue
		}
		rest = strings.TrimPrefix(rest, " ")
		name, words, _ := strings.Cut(rest, ": ")
		switch name {
		case "note":
			notes = append(notes, words)
		case "note:": // an empty line of a note
			notes = append(notes, "")
		case "meaning":
			u.Given = words
		case "room":
			u.Room = &text.Room{}
			fmt.Sscanf(words, "%g px wide, %d", &u.Room.Width, &u.Room.Lines)
		case "limit":
			fmt.Sscanf(words, "%d", &u.Limit)
		case "tags":
			u.Tags = strings.Split(words, ", ")
		case "state":
			state = text.State(words)
		case "message":
			msg = manyLines(words)
		case "exported", "exported:":
			base := manyLines(words)
			u.Base = &base
		default:
			notes = append(notes, rest)
		}
	}
	u.Note = strings.Join(notes, "\n")
	switch {
	case !e.IsPlural:
		u.Target = e.Str[0]
	default:
		u.Source, u.Target = pluralOf(e, msg, forms)
	}
	switch {
	case u.Target == "":
		u.State = text.Initial
	case e.Has("fuzzy") && e.HasPrevID:
		u.State, u.Of = text.Outdated, e.PrevID
	case e.Has("fuzzy"):
		u.State = text.Initial
	case state == text.Reviewed || state == text.Final:
		u.State = state
	default:
		u.State = text.Translated
	}
	return u
}

// pluralOf makes messages of the forms of an entry.
func pluralOf(e *POEntry, msg string, forms []string) (source, target string) {
	name := "count"
	if m, at, ok := onePlural(msg); ok {
		name = m[at].Name
	}
	parse := func(s string) message.Message {
		m, err := message.Parse(s)
		if err != nil {
			return message.Message{{Kind: message.Literal, Text: s}}
		}
		return m
	}
	source = msg
	if source == "" {
		source = choiceOf(name, []string{"one", "other"}, []message.Message{parse(e.ID), parse(e.Plural)}).String()
	}
	var names []string
	var list []message.Message
	for i, s := range e.Str {
		if s != "" && i < len(forms) {
			names, list = append(names, forms[i]), append(list, parse(s))
		}
	}
	if len(names) > 0 {
		target = choiceOf(name, names, list).String()
	}
	return source, target
}
