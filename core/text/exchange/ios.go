package exchange

import (
	"fmt"
	"strconv"
	"strings"
	"unicode/utf8"

	"archetyp/core/escape"
	"archetyp/core/markup"
	"archetyp/core/quoting"
	"archetyp/core/text"
	"archetyp/core/text/message"
)

// Tables of iOS: .strings for plain messages, .stringsdict (a property list) for those with a plural.

var iosSpelling = spelling{words: func(s string, formatted bool) string {
	if formatted {
		s = strings.ReplaceAll(s, "%", "%%")
	}
	return s
}, text: "@", num: "ld", tag: func(name string, end bool) string {
	if end {
		return "</" + name + ">"
	}
	return "<" + name + ">"
}}

func writeStrings(d *Document, _ Options) ([]byte, []string) {
	var b strings.Builder
	var warnings []string
	for i := range d.Units {
		u := &d.Units[i]
		words := d.words(u)
		if words == "" {
			continue
		}
		if _, _, ok := onePlural(words); ok {
			warnings = append(warnings, u.Key+": has a plural; it belongs into .stringsdict")
			continue
		}
		m, err := message.Parse(words)
		if err != nil {
			m = message.Message{{Kind: message.Literal, Text: words}}
		}
		said, lost := iosSpelling.spell(m, placesOf(u, words))
		if lost {
			warnings = append(warnings, u.Key+": a .strings file has no choices; only the form other is written")
		}
		if u.Note != "" {
			fmt.Fprintf(&b, "/* %s */\n", escape.In("css", escape.BlockComment, u.Note))
		}
		fmt.Fprintf(&b, "%s = %s;\n", stringsQuote(u.Key), stringsQuote(said))
	}
	return []byte(b.String()), warnings
}

func placesOf(u *text.Unit, words string) []string {
	if u.Source == "" {
		return arguments(words)
	}
	return arguments(u.Source)
}

func stringsQuote(s string) string {
	return quoting.Quote(s, func(rest string) (string, int) {
		c := rest[0]
		if sign := quoting.Signs[c]; sign != "" {
			return sign, 1
		}
		if c < 0x20 {
			return fmt.Sprintf(`\U%04X`, c), 1
		}
		return "", 0
	})
}

func readStrings(data []byte, o Options) (*Document, error) {
	data, err := utf8Text(data)
	if err != nil {
		return nil, err
	}
	r := &stringsReader{s: string(data), d: &Document{Target: o.Locale}, lines: markup.Lines(data)}
	seen := map[string]int{}
	for {
		note, err := r.blank()
		if err != nil {
			return nil, err
		}
		if r.i >= len(r.s) {
			return r.d, nil
		}
		at := r.lines.Position(r.i)
		key, err := r.value()
		if err != nil {
			return nil, err
		}
		said := key // a key alone stands for itself
		if _, err := r.blank(); err != nil {
			return nil, err
		}
		if r.accept('=') {
			if _, err := r.blank(); err != nil {
				return nil, err
			}
			if said, err = r.value(); err != nil {
				return nil, err
			}
			if _, err := r.blank(); err != nil {
				return nil, err
			}
		}
		if !r.accept(';') {
			return nil, r.fail("a ; was expected at the end of the text")
		}
		u := text.Unit{Key: key, Target: taggedMessage(said), Note: note, Line: at.Line, Column: at.Column}
		if err := twice(seen, key, at.Line, at.Column); err != nil {
			return nil, err
		}
		if err := valid(&u); err != nil {
			return nil, err
		}
		r.d.Units = append(r.d.Units, u)
	}
}

// taggedMessage makes a message of words with conversions, in which <b> and </b> are elements where they pair.
func taggedMessage(said string) string {
	m := parsed(said)
	if !strings.Contains(said, "</") {
		return m
	}
	var list []piece
	for _, p := range pieces(m) {
		if p.kind != wordsPiece {
			list = append(list, p)
			continue
		}
		rest := p.text
		for rest != "" {
			i := strings.IndexByte(rest, '<')
			j := strings.IndexByte(rest[max(i, 0):], '>') + max(i, 0)
			name := ""
			if i >= 0 && j > i {
				name = strings.TrimPrefix(rest[i+1:j], "/")
			}
			if name == "" || strings.Trim(name, "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-_") != "" {
				k := len(rest)
				if i >= 0 {
					k = i + 1
				}
				list = append(list, piece{wordsPiece, rest[:k], ""})
				rest = rest[k:]
				continue
			}
			kind := openPiece
			if rest[i+1] == '/' {
				kind = closePiece
			}
			list = append(list, piece{wordsPiece, rest[:i], ""}, piece{kind, rest[i : j+1], name})
			rest = rest[j+1:]
		}
	}
	out := whole(joinWords(list))
	if _, err := message.Parse(out); err != nil {
		return m
	}
	return tidy(out)
}

type stringsReader struct {
	s     string
	i     int
	d     *Document
	lines *markup.LineIndex
}

func (r *stringsReader) fail(format string, args ...any) error {
	p := r.lines.Position(min(r.i, len(r.s)))
	return fault(p.Line, p.Column, format, args...)
}

func (r *stringsReader) accept(c byte) bool {
	if r.i < len(r.s) && r.s[r.i] == c {
		r.i++
		return true
	}
	return false
}

// blank passes over white space and comments; the last comment is the note of what follows.
func (r *stringsReader) blank() (note string, err error) {
	for r.i < len(r.s) {
		switch {
		case strings.IndexByte(" \t\r\n", r.s[r.i]) >= 0:
			r.i++
		case strings.HasPrefix(r.s[r.i:], "//"):
			end := strings.IndexByte(r.s[r.i:], '\n')
			if end < 0 {
				end = len(r.s) - r.i
			}
			note = strings.TrimSpace(r.s[r.i+2 : r.i+end])
			r.i += end
		case strings.HasPrefix(r.s[r.i:], "/*"):
			end := strings.Index(r.s[r.i+2:], "*/")
			if end < 0 {
				return "", r.fail("the comment is not closed")
			}
			note = strings.TrimPrefix(strings.TrimSuffix(r.s[r.i+2:r.i+2+end], " "), " ")
			r.i += end + 4
		default:
			return note, nil
		}
	}
	return note, nil
}

func (r *stringsReader) value() (string, error) {
	if !r.accept('"') {
		from := r.i
		for r.i < len(r.s) && strings.IndexByte(" \t\r\n=;\"", r.s[r.i]) < 0 {
			r.i++
		}
		if r.i == from {
			return "", r.fail("a text in quotation marks was expected")
		}
		return r.s[from:r.i], nil
	}
	var b strings.Builder
	from := r.i
	for r.i < len(r.s) {
		c, n := utf8.DecodeRuneInString(r.s[r.i:])
		r.i += n
		switch c {
		case '"':
			return b.String(), nil
		case '\\':
			if r.i >= len(r.s) {
				continue
			}
			e, n := utf8.DecodeRuneInString(r.s[r.i:])
			r.i += n
			switch e {
			case 'n':
				b.WriteByte('\n')
			case 't':
				b.WriteByte('\t')
			case 'r':
				b.WriteByte('\r')
			case 'U', 'u':
				if r.i+4 <= len(r.s) {
					if v, err := strconv.ParseUint(r.s[r.i:r.i+4], 16, 32); err == nil {
						b.WriteRune(rune(v))
						r.i += 4
					}
				}
			default:
				b.WriteRune(e)
			}
		default:
			b.WriteRune(c)
		}
	}
	r.i = from
	return "", r.fail("the text is not closed")
}

func writeStringsdict(d *Document, _ Options) ([]byte, []string) {
	var b strings.Builder
	var warnings []string
	b.WriteString(xmlHead +
		"<!DOCTYPE plist PUBLIC \"-//Apple//DTD PLIST 1.0//EN\" " +
		"\"http://www.apple.com/DTDs/PropertyList-1.0.dtd\">\n<plist version=\"1.0\">\n<dict>\n")
	for i := range d.Units {
		u := &d.Units[i]
		words := d.words(u)
		m, at, ok := onePlural(words)
		if !ok {
			continue
		}
		places := placesOf(u, words)
		arg := iosSpelling.argument(m[at].Name, false, places)
		if u.Note != "" {
			fmt.Fprintf(&b, "\t<!-- %s -->\n", strings.ReplaceAll(xmlChars(u.Note), "--", "- -"))
		}
		name := CodeName(m[at].Name)
		fmt.Fprintf(&b, "\t<key>%s</key>\n\t<dict>\n\t\t<key>NSStringLocalizedFormatKey</key>\n\t\t<string>%s#@%s@</string>\n\t\t<key>%s</key>\n\t\t<dict>\n", xmlText(u.Key), strings.TrimSuffix(arg, "@"), name, name)
		b.WriteString("\t\t\t<key>NSStringFormatSpecTypeKey</key>\n\t\t\t<string>NSStringPluralRuleType</string>\n\t\t\t<key>NSStringFormatValueTypeKey</key>\n\t\t\t<string>ld</string>\n")
		for _, c := range m[at].Cases {
			form := c.Selector
			if form == "=0" {
				form = "zero"
			}
			if strings.HasPrefix(form, "=") || form == "zero" && m[at].Case("zero") != nil && c.Selector == "=0" {
				warnings = append(warnings, u.Key+": a .stringsdict file has no place for the form "+c.Selector)
				continue
			}
			said, _ := iosSpelling.spell(formOf(m, at, c.Selector, numberOf(m[at].Name)), places)
			fmt.Fprintf(&b, "\t\t\t<key>%s</key>\n\t\t\t<string>%s</string>\n", form, xmlText(said))
		}
		b.WriteString("\t\t</dict>\n\t</dict>\n")
	}
	b.WriteString("</dict>\n</plist>\n")
	return []byte(b.String()), warnings
}

func readStringsdict(data []byte, o Options) (*Document, error) {
	x, err := rooted(data, "plist")
	if err != nil {
		return nil, err
	}
	d := &Document{Target: o.Locale}
	top := child(x.Root, "dict")
	if top == nil {
		p := x.Position(x.Root.Offset)
		return nil, fault(p.Line, p.Column, "the property list holds no <dict>")
	}
	seen := map[string]int{}
	err = eachKey(top, func(key string, v *markup.Node) error {
		at := x.Position(v.Offset)
		u := text.Unit{Key: key, Line: at.Line, Column: at.Column}
		if err := twice(seen, key, at.Line, at.Column); err != nil {
			return err
		}
		var bad error
		err := eachKey(v, func(name string, inner *markup.Node) error {
			if inner.Local != "dict" || u.Target != "" {
				return nil
			}
			var forms []string
			var list []message.Message
			eachKey(inner, func(form string, words *markup.Node) error {
				if strings.HasPrefix(form, "NSString") {
					return nil
				}
				m, err := message.Parse(taggedMessage(words.TextContent()))
				if err != nil {
					bad = fault(at.Line, at.Column, "%s: not a valid message: %v", key, err)
				}
				forms, list = append(forms, form), append(list, m)
				return nil
			})
			if len(forms) > 0 {
				u.Target = choiceOf("1", forms, list).String()
			}
			return bad
		})
		if err != nil {
			return err
		}
		if u.Target != "" {
			if err := valid(&u); err != nil {
				return err
			}
			d.Units = append(d.Units, u)
		}
		return nil
	})
	return d, err
}

// eachKey visits the pairs of a property list's dictionary.
func eachKey(dict *markup.Node, visit func(key string, value *markup.Node) error) error {
	key, has := "", false
	for _, c := range dict.Children {
		if c.Kind != markup.Element {
			continue
		}
		if c.Local == "key" {
			key, has = c.TextContent(), true
			continue
		}
		if has {
			has = false
			if err := visit(key, c); err != nil {
				return err
			}
		}
	}
	return nil
}
