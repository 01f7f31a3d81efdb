package exchange

import (
	"fmt"
	"strconv"
	"strings"
	"unicode"

	"archetyp/core/escape"
	"archetyp/core/markup"
	"archetyp/core/text"
	"archetyp/core/text/message"
)

// Android string resources. https://developer.android.com/guide/topics/resources/string-resource

var androidSpelling = spelling{words: androidWords, text: "s", num: "d", tag: func(name string, end bool) string {
	if end {
		return "</" + name + ">"
	}
	return "<" + name + ">"
}}

// androidWords escapes what resources treat specially: quotes, line ends, spaces that would be folded.
func androidWords(s string, formatted bool) string {
	var b strings.Builder
	for _, r := range xmlChars(s) {
		switch r {
		case '\\':
			b.WriteString(`\\`)
		case '\'':
			b.WriteString(`\'`)
		case '"':
			b.WriteString(`\"`)
		case '\n':
			b.WriteString(`\n`)
		case '\t':
			b.WriteString(`\t`)
		case ' ':
			b.WriteByte(' ')
		case '%':
			b.WriteByte('%')
			if formatted {
				b.WriteByte('%')
			}
		default:
			if unicode.IsSpace(r) || unicode.Is(unicode.Cf, r) && r < 0x10000 {
				fmt.Fprintf(&b, `\u%04X`, r)
			} else {
				b.WriteString(markup.EscapeText(string(r)))
			}
		}
	}
	return b.String()
}

// androidText protects what counts at the ends and between words: spaces that would be folded, a first @ or ?.
func androidText(s string) string {
	if s != "" && (s[0] == '@' || s[0] == '?') {
		s = `\` + s
	}
	if !strings.HasPrefix(s, " ") && !strings.HasSuffix(s, " ") && !strings.Contains(s, "  ") &&
		!strings.Contains(s, "> ") && !strings.Contains(s, " <") {
		return s
	}
	var b strings.Builder
	space, tag := true, false
	for i := 0; i < len(s); i++ {
		c := s[i]
		switch {
		case c == '<' || tag:
			tag = c != '>'
			b.WriteByte(c)
		case c == ' ' && (space || strings.Trim(s[i:], " ") == "" || strings.HasPrefix(strings.TrimLeft(s[i:], " "), "<") &&
			onlyTags(s[i:])):
			b.WriteString(`\u0020`)
			space = true
		default:
			space = c == ' '
			b.WriteByte(c)
		}
	}
	return b.String()
}

// onlyTags reports whether nothing but spaces and end tags follow.
func onlyTags(s string) bool {
	for s = strings.TrimLeft(s, " "); strings.HasPrefix(s, "</"); s = strings.TrimLeft(s, " ") {
		s = s[strings.IndexByte(s, '>')+1:]
	}
	return s == ""
}

func writeAndroid(d *Document, _ Options) ([]byte, []string) {
	var b strings.Builder
	var warnings []string
	b.WriteString(xmlHead + "<resources>\n")
	names := codeNames(d)
	for i := range d.Units {
		u := &d.Units[i]
		words := d.words(u)
		if words == "" {
			continue
		}
		if u.Note != "" {
			fmt.Fprintf(&b, "    <!-- %s -->\n", escape.In("xml", escape.BlockComment, u.Note))
		}
		name, places := names[u.Key], arguments(u.Source)
		if u.Source == "" {
			places = arguments(words)
		}
		if m, at, ok := onePlural(words); ok {
			fmt.Fprintf(&b, "    <plurals name=\"%s\">\n", name)
			for _, c := range m[at].Cases {
				if strings.HasPrefix(c.Selector, "=") {
					warnings = append(warnings, u.Key+": Android has no place for the form "+c.Selector)
					continue
				}
				form, _ := androidSpelling.spell(formOf(m, at, c.Selector, numberOf(m[at].Name)), places)
				fmt.Fprintf(&b, "        <item quantity=\"%s\">%s</item>\n", c.Selector, androidText(form))
			}
			b.WriteString("    </plurals>\n")
			continue
		}
		m, err := message.Parse(words)
		if err != nil {
			m = message.Message{{Kind: message.Literal, Text: words}}
		}
		said, lost := androidSpelling.spell(m, places)
		if lost {
			warnings = append(warnings, u.Key+": Android has no choices but plurals; only the form other is written")
		}
		formatted := ""
		if len(arguments(words)) == 0 && strings.Contains(said, "%") {
			formatted = ` formatted="false"`
		}
		fmt.Fprintf(&b, "    <string name=\"%s\"%s>%s</string>\n", name, formatted, androidText(said))
	}
	b.WriteString("</resources>\n")
	return []byte(b.String()), warnings
}

func readAndroid(data []byte, o Options) (*Document, error) {
	x, err := rooted(data, "resources")
	if err != nil {
		return nil, err
	}
	d := &Document{Target: o.Locale}
	seen := map[string]int{}
	for _, n := range x.Root.Children {
		if n.Kind != markup.Element {
			continue
		}
		at := x.Position(n.Offset)
		u := text.Unit{Key: n.AttrOr("name", ""), Line: at.Line, Column: at.Column}
		switch n.Local {
		case "string":
			u.Target = androidMessage(n, n.AttrOr("formatted", "") != "false")
		case "plurals":
			var forms []string
			var list []message.Message
			for _, item := range local(n, "item") {
				m, err := message.Parse(androidMessage(item, true))
				if err != nil {
					return nil, fault(at.Line, at.Column, "%s: not a valid message: %v", u.Key, err)
				}
				forms, list = append(forms, item.AttrOr("quantity", "other")), append(list, m)
			}
			if len(forms) == 0 {
				continue
			}
			u.Target = choiceOf("1", forms, list).String()
		default:
			continue
		}
		if u.Key == "" {
			return nil, fault(at.Line, at.Column, "<%s> has no name", n.Local)
		}
		if err := twice(seen, u.Key, at.Line, at.Column); err != nil {
			return nil, err
		}
		if err := valid(&u); err != nil {
			return nil, err
		}
		d.Units = append(d.Units, u)
	}
	return d, nil
}

// androidMessage reads the words of a resource.
func androidMessage(n *markup.Node, mayConvert bool) string {
	r := &androidReader{space: true}
	r.node(n)
	if k := len(r.out); k > 0 && r.out[k-1].kind == wordsPiece && r.loose {
		r.out[k-1].text = strings.TrimSuffix(r.out[k-1].text, " ")
	}
	converting := false
	for _, p := range joinWords(r.out) {
		converting = converting || mayConvert && p.kind == wordsPiece && converts(p.text)
	}
	var list []piece
	for _, p := range joinWords(r.out) {
		if p.kind != wordsPiece || !converting {
			list = append(list, p)
			continue
		}
		list = append(list, pieces(formatted(p.text))...)
	}
	return tidy(whole(joinWords(list)))
}

type androidReader struct {
	out    []piece
	quoted bool
	space  bool // what came last was white space that folds
	loose  bool // what came last folds at the end
}

func (r *androidReader) node(n *markup.Node) {
	for _, c := range n.Children {
		if c.Kind == markup.Text {
			r.words(c.Data)
			continue
		}
		if c.Space != "" { // what tools add around arguments
			r.node(c)
			continue
		}
		r.out = append(r.out, piece{openPiece, "<" + c.Local + ">", c.Local})
		r.node(c)
		r.out = append(r.out, piece{closePiece, "</" + c.Local + ">", c.Local})
	}
}

func (r *androidReader) words(s string) {
	var b strings.Builder
	runes := []rune(s)
	for i := 0; i < len(runes); i++ {
		c := runes[i]
		fold := false
		switch {
		case c == '\\' && i+1 < len(runes):
			i++
			switch runes[i] {
			case 'n':
				b.WriteByte('\n')
			case 't':
				b.WriteByte('\t')
			case 'u':
				if i+4 < len(runes) {
					if v, err := strconv.ParseUint(string(runes[i+1:i+5]), 16, 32); err == nil {
						b.WriteRune(rune(v))
						i += 4
					}
				}
			default:
				b.WriteRune(runes[i])
			}
		case c == '"':
			r.quoted = !r.quoted
		case !r.quoted && (c == ' ' || c == '\n' || c == '\t' || c == '\r'):
			fold = true
			if !r.space {
				b.WriteByte(' ')
			}
		default:
			b.WriteRune(c)
		}
		r.space, r.loose = fold, fold
	}
	r.out = append(r.out, piece{wordsPiece, b.String(), ""})
}

// AndroidFolder is the resource folder of a locale: values, values-de, values-pt-rBR, values-b+sr+Latn.
// https://developer.android.com/guide/topics/resources/providing-resources#LocaleQualifier
func AndroidFolder(locale, source string) string {
	switch {
	case locale == "" || locale == source:
		return "values"
	case locale == text.PseudoLong:
		return "values-en-rXA"
	case locale == text.PseudoRTL:
		return "values-ar-rXB"
	}
	parts := strings.Split(locale, "-")
	switch {
	case len(parts) == 1 && len(parts[0]) <= 3:
		return "values-" + strings.ToLower(parts[0])
	case len(parts) == 2 && len(parts[1]) == 2:
		return "values-" + strings.ToLower(parts[0]) + "-r" + strings.ToUpper(parts[1])
	}
	return "values-b+" + strings.Join(parts, "+")
}
