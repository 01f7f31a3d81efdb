package exchange

import (
	"fmt"
	"strconv"
	"strings"

	"archetyp/core/markup"
	"archetyp/core/text"
)

// XLIFF 1.2, for older systems. https://docs.oasis-open.org/xliff/v1.2/os/xliff-core.html

const nsXLIFF1 = "urn:oasis:names:tc:xliff:document:1.2"

// states1 are the states of 1.2 that stand for ours.
var states1 = map[text.State]string{text.Initial: "new", text.Outdated: "needs-adaptation",
	text.Translated: "translated", text.Reviewed: "signed-off", text.Final: "final"}

func writeXLIFF1(d *Document, _ Options) ([]byte, []string) {
	var b strings.Builder
	b.WriteString(xmlHead)
	fmt.Fprintf(&b, "<xliff xmlns=\"%s\" version=\"1.2\">\n <file original=\"%s\" datatype=\"plaintext\" "+
		"source-language=\"%s\"", nsXLIFF1, xmlAttr(d.Name), xmlAttr(d.Source))
	if d.Target != "" {
		fmt.Fprintf(&b, " target-language=\"%s\"", xmlAttr(d.Target))
	}
	b.WriteString(">\n  <body>\n")
	for i := range d.Units {
		u := &d.Units[i]
		fmt.Fprintf(&b, "   <trans-unit id=\"%s\" resname=\"%s\"", nmtoken(u.Key), xmlAttr(u.Key))
		if u.Room != nil {
			fmt.Fprintf(&b, " maxwidth=\"%s\" size-unit=\"pixel\"", num(u.Room.Width))
		}
		if u.State == text.Final || u.State == text.Reviewed {
			b.WriteString(" approved=\"yes\"")
		}
		fmt.Fprintf(&b, " xml:space=\"preserve\">\n    <source>%s</source>\n", inline1(u.Source))
		if u.Target != "" && d.Target != "" {
			state := states1[u.State]
			if state == "" {
				state = "new"
			}
			fmt.Fprintf(&b, "    <target state=\"%s\">%s</target>\n", state, inline1(u.Target))
		}
		for n, p := range u.Places {
			fmt.Fprintf(&b, "    <context-group name=\"place-%d\" purpose=\"location\">", n+1)
			for _, c := range [][2]string{{"sourcefile", p.Source}, {"x-screen", p.Screen}, {"element", p.Element},
				{"x-selector", p.Selector}, {"x-attribute", p.Attribute}, {"x-component", p.Component}} {
				if c[1] != "" {
					fmt.Fprintf(&b, "<context context-type=\"%s\">%s</context>", c[0], xmlText(c[1]))
				}
			}
			b.WriteString("</context-group>\n")
		}
		note := func(from, words string) {
			if words != "" {
				fmt.Fprintf(&b, "    <note from=\"%s\">%s</note>\n", from, xmlText(words))
			}
		}
		note("developer", u.Note)
		note("meaning", u.Given)
		if u.Room != nil {
			note("room", u.Room.String())
		}
		if u.Limit > 0 {
			note("limit", strconv.Itoa(u.Limit))
		}
		for _, t := range u.Tags {
			note("tag", t)
		}
		note("made-from", u.Of)
		if u.Base != nil && d.Target != "" {
			fmt.Fprintf(&b, "    <note from=\"exported\">%s</note>\n", xmlText(*u.Base))
		}
		b.WriteString("   </trans-unit>\n")
	}
	b.WriteString("  </body>\n </file>\n</xliff>\n")
	return []byte(b.String()), nil
}

func inline1(message string) string {
	var b strings.Builder
	id := 0
	for _, p := range pieces(message) {
		switch p.kind {
		case wordsPiece:
			b.WriteString(xmlText(p.text))
		case openPiece:
			id++
			fmt.Fprintf(&b, `<g id="%d" ctype="x-%s">`, id, xmlAttr(p.name))
		case closePiece:
			b.WriteString("</g>")
		default:
			id++
			fmt.Fprintf(&b, `<ph id="%d" ctype="x-code">%s</ph>`, id, xmlText(p.text))
		}
	}
	return b.String()
}

func readXLIFF1(data []byte, o Options) (*Document, error) {
	var docs []*Document
	var seen []map[string]int
	err := inSections(data, "xliff", "trans-unit", o, func(n int) {
		docs, seen = make([]*Document, n),
			make([]map[string]int, n)
	}, func(i int, s section) (err error) {
		docs[i], seen[i] = &Document{}, map[string]int{}
		for k, f := range local(s.root, "file") {
			if k == 0 {
				docs[i].Name, docs[i].Source, docs[i].Target = f.AttrOr("original", ""), f.AttrOr("source-language",
					""), f.AttrOr("target-language", "")
			}
			r := &reader1{docs[i], seen[i], f.AttrOr("original", ""), k}
			f.Walk(func(n *markup.Node) bool {
				if n.Kind == markup.Element && n.Local == "trans-unit" && err == nil {
					err = r.unit(n, s.pos(n.Offset))
					return false
				}
				return err == nil
			})
		}
		return err
	})
	if err != nil {
		return nil, err
	}
	return join(docs, seen)
}

// reader1 reads the units of one <file>.
type reader1 struct {
	d    *Document
	seen map[string]int // lines of ids and names
	file string
	nth  int // of the files in the document
}

func (r *reader1) unit(n *markup.Node, at markup.Position) error {
	d, seen, file, nth := r.d, r.seen, r.file, r.nth
	u := text.Unit{Key: n.AttrOr("resname", n.AttrOr("id", "")), Line: at.Line, Column: at.Column}
	id := n.AttrOr("id", u.Key)
	if nth > 0 { // ids count in their file
		id = fmt.Sprint(file, " ", nth, " ", id)
	}
	if err := twice(seen, id, at.Line, at.Column); err != nil {
		return err
	}
	if name, ok := n.Attr("resname"); ok {
		if err := twice(seen, "name "+name, at.Line, at.Column); err != nil {
			return fault(at.Line, at.Column, "the name %q stands twice: in line %d too; every text needs one of its own", name,
				seen["name "+name])
		}
	}
	if s := child(n, "source"); s != nil {
		u.Source = tidy(whole(joinWords(codes1(s))))
	}
	if d.Target != "" {
		u.State = text.Initial
	}
	if t := child(n, "target"); t != nil {
		u.Target, u.State = tidy(whole(joinWords(codes1(t)))), text.Translated
		if n.AttrOr("approved", "") == "yes" {
			u.State = text.Reviewed
		}
		if s := t.AttrOr("state", ""); s != "" {
			u.State = readStates1[s]
			if u.State == "" {
				u.State = text.Translated
			}
		}
	}
	if w, err := strconv.ParseFloat(n.AttrOr("maxwidth", ""), 64); err == nil &&
		n.AttrOr("size-unit", "pixel") == "pixel" {
		u.Room = &text.Room{Width: w, Lines: 1}
	}
	readPlaces1(n, &u)
	readNotes1(n, &u)
	if err := valid(&u); err != nil {
		return err
	}
	d.Units = append(d.Units, u)
	return nil
}

// readStates1 are the states of XLIFF 1.2, but for translated ones.
// https://docs.oasis-open.org/xliff/v1.2/os/xliff-core.html#state
var readStates1 = map[string]text.State{"new": text.Initial, "needs-translation": text.Initial,
	"needs-l10n":       text.Initial,
	"needs-adaptation": text.Outdated, "needs-review-adaptation": text.Outdated,
	"signed-off": text.Reviewed, "final": text.Final}

func readPlaces1(n *markup.Node, u *text.Unit) {
	for _, g := range local(n, "context-group") {
		var p text.Place
		into := map[string]*string{"sourcefile": &p.Source, "x-screen": &p.Screen, "element": &p.Element,
			"x-selector": &p.Selector, "x-attribute": &p.Attribute, "x-component": &p.Component}
		for _, c := range local(g, "context") {
			if s := into[c.AttrOr("context-type", "")]; s != nil {
				*s = c.TextContent()
			}
		}
		if p.Source != "" || p.Screen != "" || p.Element != "" {
			u.Places = append(u.Places, p)
		}
	}
}

func readNotes1(n *markup.Node, u *text.Unit) {
	for _, note := range local(n, "note") {
		v := note.TextContent()
		switch note.AttrOr("from", "") {
		case "meaning":
			u.Given = v
		case "room":
			if r := u.Room; r != nil {
				fmt.Sscanf(v[strings.LastIndexByte(v, ',')+1:], "%d", &r.Lines)
			}
		case "limit":
			u.Limit, _ = strconv.Atoi(v)
		case "tag":
			u.Tags = append(u.Tags, v)
		case "made-from":
			u.Of = v
		case "exported":
			u.Base = &v
		default:
			u.Note = v
		}
	}
}

// codes1 reads the content of a source or target, of XLIFF 1.2 or TMX.
func codes1(n *markup.Node) []piece {
	var out []piece
	for _, c := range n.Children {
		if c.Kind == markup.Text {
			out = append(out, piece{wordsPiece, c.Data, ""})
			continue
		}
		body := c.TextContent()
		switch c.Local {
		case "g":
			name := strings.TrimPrefix(c.AttrOr("ctype", ""), "x-")
			if name == "" || strings.ContainsAny(name, " <>/") {
				name = "x" + nmtoken(c.AttrOr("id", ""))
			}
			out = append(out, piece{openPiece, "<" + name + ">", name})
			out = append(out, codes1(c)...)
			out = append(out, piece{closePiece, "</" + name + ">", name})
		case "x":
			out = append(out, piece{codePiece, "{x" + nmtoken(c.AttrOr("id", "")) + "}", ""})
		case "bpt", "ept", "ph", "it":
			switch {
			case strings.HasPrefix(body, "</"):
				out = append(out, piece{closePiece, body, codeName(body)})
			case strings.HasPrefix(body, "<") && !strings.HasSuffix(body, "/>"):
				out = append(out, piece{openPiece, body, codeName(body)})
			case isCode(body):
				out = append(out, piece{codePiece, body, ""})
			default: // code of another system: words to us
				out = append(out, piece{wordsPiece, body, ""})
			}
		default: // mrk, hi, sub
			out = append(out, codes1(c)...)
		}
	}
	return out
}

// isCode reports whether a native code is a part of a message: an argument, #, <br/>, or what stands around the words
// of a choice.
func isCode(s string) bool {
	if s == "#" || s == "}}" || strings.HasPrefix(s, "<") && strings.HasSuffix(s, "/>") {
		return true
	}
	return strings.HasPrefix(s, "{") && (strings.HasSuffix(s, "}") || strings.HasSuffix(s, "{")) ||
		strings.HasPrefix(s, "} ") && strings.HasSuffix(s, " {")
}
