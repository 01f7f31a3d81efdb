package exchange

import (
	"fmt"
	"strconv"
	"strings"

	"archetyp/core/markup"
	"archetyp/core/text"
)

// XLIFF 2.1: a unit a key with its notes; places and the rest as metadata; room by the size and length restriction
// module under a profile of our own; arguments and elements as inline codes.
// https://docs.oasis-open.org/xliff/xliff-core/v2.1/xliff-core-v2.1.html

// SizeProfile names how room is written: the width in px and the number of lines, "143x2" (see docs/texts.md).
const SizeProfile = "urn:archetyp:size:px-lines:1"

const (
	nsXLIFF2 = "urn:oasis:names:tc:xliff:document:2.0"
	nsMeta   = "urn:oasis:names:tc:xliff:metadata:2.0"
	nsSize   = "urn:oasis:names:tc:xliff:sizerestriction:2.0"
)

func writeXLIFF2(d *Document, o Options) ([]byte, []string) {
	var b strings.Builder
	b.WriteString(xmlHead)
	fmt.Fprintf(&b, `<xliff xmlns="%s" xmlns:mda="%s" xmlns:slr="%s" version="2.1" srcLang="%s"`, nsXLIFF2, nsMeta, nsSize,
		xmlAttr(d.Source))
	if d.Target != "" {
		fmt.Fprintf(&b, ` trgLang="%s"`, xmlAttr(d.Target))
	}
	fmt.Fprintf(&b, ">\n <file id=\"texts\" original=\"%s\">\n  <slr:profiles generalProfile=\"%s\"/>\n", xmlAttr(d.Name),
		SizeProfile)
	for i := range d.Units {
		u := &d.Units[i]
		var forms []pluralForm
		if o.PluralUnits {
			forms = splitPlural(u, d.Target)
		}
		for j := range forms {
			writeUnit2(&b, d, &forms[j].Unit, &forms[j])
		}
		if forms == nil {
			writeUnit2(&b, d, u, nil)
		}
	}
	b.WriteString(" </file>\n</xliff>\n")
	return []byte(b.String()), nil
}

func writeUnit2(b *strings.Builder, d *Document, u *text.Unit, form *pluralForm) {
	id, name := nmtoken(u.Key), u.Key
	if form != nil {
		id += ".plural." + nmtoken(form.form)
		name += " (" + form.form + ")"
	}
	fmt.Fprintf(b, "  <unit id=\"%s\" name=\"%s\"", id, xmlAttr(name))
	if u.Room != nil {
		fmt.Fprintf(b, " slr:sizeRestriction=\"%sx%d\"", num(u.Room.Width), u.Room.Lines)
	}
	b.WriteString(">\n")
	writeMeta2(b, u, form)
	writeNotes2(b, u)
	c := &codes2{}
	source, target := c.write(u.Source), ""
	if u.Target != "" && d.Target != "" {
		target = c.write(u.Target)
	}
	if len(c.data) > 0 {
		b.WriteString("   <originalData>")
		for i, data := range c.data {
			fmt.Fprintf(b, "<data id=\"d%d\">%s</data>", i+1, data2(data))
		}
		b.WriteString("</originalData>\n")
	}
	state, sub := state2(u)
	fmt.Fprintf(b, "   <segment state=\"%s\"%s>\n    <source xml:space=\"preserve\">%s</source>\n", state, sub, source)
	if u.Target != "" && d.Target != "" {
		fmt.Fprintf(b, "    <target xml:space=\"preserve\">%s</target>\n", target)
	}
	b.WriteString("   </segment>\n  </unit>\n")
}

func num(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }

func state2(u *text.Unit) (state, sub string) {
	switch {
	case u.State == "" || u.Target == "":
		return "initial", ""
	case u.State == text.Outdated:
		return "translated", ` subState="archetyp:outdated"`
	}
	return string(u.State), ""
}

func writeMeta2(b *strings.Builder, u *text.Unit, form *pluralForm) {
	var groups strings.Builder
	group := func(category string, pairs ...string) {
		fmt.Fprintf(&groups, "<mda:metaGroup category=\"%s\">", category)
		for i := 0; i < len(pairs); i += 2 {
			if pairs[i+1] != "" {
				fmt.Fprintf(&groups, "<mda:meta type=\"%s\">%s</mda:meta>", xmlAttr(pairs[i]), xmlText(pairs[i+1]))
			}
		}
		groups.WriteString("</mda:metaGroup>")
	}
	for _, p := range u.Places {
		group("place", "source", p.Source, "screen", p.Screen, "element", p.Element, "attribute", p.Attribute)
	}
	if u.Limit > 0 {
		group("limit", "letters", strconv.Itoa(u.Limit))
	}
	if len(u.Tags) > 0 {
		var pairs []string
		for _, t := range u.Tags {
			pairs = append(pairs, "tag", t)
		}
		group("tags", pairs...)
	}
	if u.Of != "" {
		group("made-from", "source", u.Of)
	}
	if u.Base != nil {
		fmt.Fprintf(&groups, "<mda:metaGroup category=\"exported\"><mda:meta type=\"target\">%s</mda:meta></mda:metaGroup>",
			xmlText(*u.Base))
	}
	if form != nil {
		group("plural", "key", u.Key, "form", form.form, "source", form.source)
	}
	if groups.Len() > 0 {
		b.WriteString("   <mda:metadata>" + groups.String() + "</mda:metadata>\n")
	}
}

func writeNotes2(b *strings.Builder, u *text.Unit) {
	var notes strings.Builder
	note := func(category, words string) {
		if words != "" {
			fmt.Fprintf(&notes, "<note category=\"%s\">%s</note>", category, xmlText(words))
		}
	}
	note("description", u.Note)
	note("meaning", u.Given)
	for _, p := range u.Places {
		note("place", p.Screen+": "+p.Element)
	}
	if u.Room != nil {
		note("room", u.Room.String())
	}
	if notes.Len() > 0 {
		b.WriteString("   <notes>" + notes.String() + "</notes>\n")
	}
}

// codes2 turns the codes of a unit's messages into inline elements with original data.
type codes2 struct {
	data []string
	ids  int
}

func (c *codes2) ref(code string) string {
	for i, d := range c.data {
		if d == code {
			return fmt.Sprintf("d%d", i+1)
		}
	}
	c.data = append(c.data, code)
	return fmt.Sprintf("d%d", len(c.data))
}

func (c *codes2) write(message string) string {
	var b strings.Builder
	c.ids = 0 // the same codes have the same ids in source and target
	for _, p := range pieces(message) {
		switch p.kind {
		case wordsPiece:
			b.WriteString(data2(p.text))
		case openPiece:
			c.ids++
			fmt.Fprintf(&b, `<pc id="%d" type="fmt" dataRefStart="%s" dataRefEnd="%s">`, c.ids, c.ref(p.text),
				c.ref("</"+p.name+">"))
		case closePiece:
			b.WriteString("</pc>")
		default:
			c.ids++
			fmt.Fprintf(&b, `<ph id="%d" dataRef="%s" equiv="%s" disp="%s"/>`, c.ids, c.ref(p.text), xmlAttr(p.name),
				xmlAttr(p.text))
		}
	}
	return b.String()
}

// data2 escapes words; what XML cannot hold becomes <cp>.
func data2(s string) string {
	if strings.IndexFunc(s, notXML) < 0 {
		return markup.EscapeText(s)
	}
	var b strings.Builder
	for _, r := range s {
		if notXML(r) {
			fmt.Fprintf(&b, `<cp hex="%04X"/>`, r)
		} else {
			b.WriteString(markup.EscapeText(string(r)))
		}
	}
	return b.String()
}

func readXLIFF2(data []byte, o Options) (*Document, error) {
	var parts []*reader2
	err := inSections(data, "xliff", "unit", o, func(n int) { parts = make([]*reader2, n) }, func(i int, s section) error {
		r := &reader2{pos: s.pos, d: &Document{Source: s.root.AttrOr("srcLang", ""), Target: s.root.AttrOr("trgLang", "")},
			seen: map[string]int{}}
		parts[i] = r
		for _, f := range local(s.root, "file") {
			if r.d.Name == "" {
				r.d.Name = f.AttrOr("original", "")
			}
			if err := r.group(f); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	docs, seen := make([]*Document, len(parts)), make([]map[string]int, len(parts))
	whole := &reader2{}
	for i, r := range parts {
		docs[i], seen[i] = r.d, r.seen
		whole.forms = append(whole.forms, r.forms...)
	}
	if whole.d, err = join(docs, seen); err != nil {
		return nil, err
	}
	whole.plurals()
	return whole.d, nil
}

type reader2 struct {
	pos   func(int) markup.Position
	d     *Document
	seen  map[string]int
	forms []pluralForm
}

func (r *reader2) group(n *markup.Node) error {
	for _, c := range n.Children {
		var err error
		switch {
		case c.Kind != markup.Element:
		case c.Local == "group":
			err = r.group(c)
		case c.Local == "unit":
			err = r.unit(c)
		}
		if err != nil {
			return err
		}
	}
	return nil
}

func (r *reader2) unit(n *markup.Node) error {
	at := r.pos(n.Offset)
	u := text.Unit{Key: n.AttrOr("name", n.AttrOr("id", "")), Line: at.Line, Column: at.Column}
	if err := twice(r.seen, n.AttrOr("id", u.Key), at.Line, at.Column); err != nil {
		return err
	}
	form := r.meta(n, &u)
	if form == nil {
		if err := twice(r.seen, "name "+u.Key, at.Line, at.Column); err != nil {
			return fault(at.Line, at.Column, "the name %q stands twice: in line %d too; every text needs one of its own", u.Key,
				r.seen["name "+u.Key])
		}
	}
	if notes := child(n, "notes"); notes != nil {
		for _, note := range local(notes, "note") {
			switch note.AttrOr("category", "") {
			case "description", "":
				u.Note = note.TextContent()
			case "meaning":
				u.Given = note.TextContent()
			}
		}
	}
	if v, ok := n.AttrNS(nsSize, "sizeRestriction"); ok {
		u.Room = &text.Room{}
		fmt.Sscanf(strings.Replace(v, "x", " ", 1), "%g %d", &u.Room.Width, &u.Room.Lines)
	}
	orig := map[string]string{}
	if od := child(n, "originalData"); od != nil {
		for _, d := range local(od, "data") {
			orig[d.AttrOr("id", "")] = content2(d)
		}
	}
	r.segments(n, &u, orig)
	if err := valid(&u); err != nil {
		return err
	}
	if form != nil {
		form.Unit = u
		r.forms = append(r.forms, *form)
		if k := len(r.d.Units); k == 0 || r.d.Units[k-1].Key != form.key { // keeps its place
			r.d.Units = append(r.d.Units, text.Unit{Key: form.key, Line: u.Line, Column: u.Column})
		}
		return nil
	}
	r.d.Units = append(r.d.Units, u)
	return nil
}

// segments reads the words of a unit: those of all its segments, and what stands between them.
func (r *reader2) segments(n *markup.Node, u *text.Unit, orig map[string]string) {
	var source, target []piece
	outdated, translated := false, false
	state := text.State("")
	for _, seg := range n.Children {
		if seg.Kind != markup.Element || seg.Local != "segment" && seg.Local != "ignorable" {
			continue
		}
		s, t := child(seg, "source"), child(seg, "target")
		if s != nil {
			source = append(source, inline2(s, orig)...)
		}
		switch {
		case t != nil:
			target, translated = append(target, inline2(t, orig)...), true
		case s != nil && seg.Local == "ignorable":
			target = append(target, inline2(s, orig)...)
		}
		if seg.Local == "segment" {
			s := text.State(seg.AttrOr("state", "initial"))
			if stateOrder(s) == 0 {
				s = text.Initial // or one that the standard does not know
			}
			if state == "" || stateOrder(s) < stateOrder(state) {
				state = s // the least of all segments holds
			}
			outdated = outdated || seg.AttrOr("subState", "") == "archetyp:outdated"
		}
	}
	u.Source = tidy(whole(joinWords(source)))
	switch {
	case translated:
		u.Target, u.State = tidy(whole(joinWords(target))), state
		if outdated {
			u.State = text.Outdated
		}
	case r.d.Target != "":
		u.State = text.Initial
	}
}

func stateOrder(s text.State) int {
	for i, v := range []text.State{text.Initial, text.Translated, text.Reviewed, text.Final} {
		if s == v {
			return i
		}
	}
	return 0
}

// meta reads places and the rest; the form is that of a plural, nil for none.
func (r *reader2) meta(n *markup.Node, u *text.Unit) *pluralForm {
	m := child(n, "metadata")
	if m == nil {
		return nil
	}
	var form *pluralForm
	for _, g := range local(m, "metaGroup") {
		values := map[string]string{}
		for _, v := range local(g, "meta") {
			values[v.AttrOr("type", "")] = v.TextContent()
			if g.AttrOr("category", "") == "tags" {
				u.Tags = append(u.Tags, v.TextContent())
			}
		}
		switch g.AttrOr("category", "") {
		case "place":
			u.Places = append(u.Places, text.Place{Source: values["source"], Screen: values["screen"],
				Element: values["element"], Attribute: values["attribute"]})
		case "limit":
			u.Limit, _ = strconv.Atoi(values["letters"])
		case "made-from":
			u.Of = values["source"]
		case "exported":
			base := values["target"]
			u.Base = &base
		case "plural":
			form = &pluralForm{key: values["key"], form: values["form"], source: values["source"]}
		}
	}
	return form
}

// content2 is the text of a node with <cp> as the characters they stand for.
func content2(n *markup.Node) string {
	var b strings.Builder
	for _, c := range n.Children {
		if c.Kind == markup.Text {
			b.WriteString(c.Data)
		} else if c.Local == "cp" {
			b.WriteString(codePoint(c))
		}
	}
	return b.String()
}

func codePoint(n *markup.Node) string {
	v, err := strconv.ParseUint(n.AttrOr("hex", ""), 16, 32)
	if err != nil || v > 0x10FFFF {
		return ""
	}
	return string(rune(v))
}

// inline2 reads the content of a source or target.
func inline2(n *markup.Node, orig map[string]string) []piece {
	var out []piece
	code := func(kind pieceKind, data, or string) {
		if data == "" {
			data = or
		}
		out = append(out, piece{kind, data, codeName(data)})
	}
	for _, c := range n.Children {
		if c.Kind == markup.Text {
			out = append(out, piece{wordsPiece, c.Data, ""})
			continue
		}
		id := c.AttrOr("id", c.AttrOr("startRef", "x"))
		switch c.Local {
		case "cp":
			out = append(out, piece{wordsPiece, codePoint(c), ""})
		case "ph":
			code(codePiece, orig[c.AttrOr("dataRef", "")], "{"+c.AttrOr("equiv", "x"+id)+"}")
		case "pc":
			begin := orig[c.AttrOr("dataRefStart", "")]
			code(openPiece, begin, "<x"+id+">")
			out = append(out, inline2(c, orig)...)
			if begin == "" {
				begin = "<x" + id + ">"
			}
			code(closePiece, "</"+codeName(begin)+">", "")
		case "sc":
			code(openPiece, orig[c.AttrOr("dataRef", "")], "<x"+id+">")
		case "ec":
			code(closePiece, orig[c.AttrOr("dataRef", "")], "</x"+id+">")
		default: // mrk and what modules add
			out = append(out, inline2(c, orig)...)
		}
	}
	return out
}
