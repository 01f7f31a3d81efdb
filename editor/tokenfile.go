package editor

import (
	"slices"
	"strings"

	"archetyp/core/color"
	"archetyp/core/offer"
	"archetyp/core/token"
)

// isTokenFile reports whether a document is a token file of its workspace.
func (o *openFile) isTokenFile() bool {
	files, err := o.a.WS.TokenFiles()
	return err == nil && slices.Contains(files, o.rel())
}

// tokenFile offers aliases in a token file: within a string that begins with a brace, or that is empty.
func (l *list) tokenFile() {
	if !l.o.isTokenFile() {
		return
	}
	text := l.o.text.string
	from := l.offset
	for from > 0 && text[from-1] != '"' && text[from-1] != '\n' {
		from--
	}
	if from == 0 || text[from-1] != '"' || !valueBefore(text[:from-1]) {
		return
	}
	to := l.offset
	for to < len(text) && text[to] != '"' && text[to] != '\n' {
		to++
	}
	typed := text[from:l.offset]
	if typed != "" && typed[0] != '{' {
		return
	}
	words := strings.FieldsFunc(strings.ToLower(typed), func(r rune) bool { return r == '{' || r == '.' || r == '}' })
	typ := l.o.typeAt(l.offset)
	for _, e := range l.o.a.Desk.Entries() {
		if typ != "" && e.Type != typ || !containsAll(strings.ToLower(e.Path), words) {
			continue
		}
		it := completionItem{Label: "{" + e.Path + "}", Kind: kindConstant, Detail: l.o.a.Desk.Line(e)}
		if e.Color != nil {
			it.Kind = kindColor
		}
		l.documented(&it, e.Path)
		l.add(it, from, to, "{"+e.Path+"}")
		if len(l.items) == offer.Most {
			l.more = true
			return
		}
	}
}

// valueBefore reports whether a value of a token can follow: behind "$value":, or within one.
func valueBefore(before string) bool {
	before = strings.TrimRight(before, " \t\r\n")
	return strings.HasSuffix(before, ":") && !strings.HasSuffix(before, `"$type":`) && !strings.HasSuffix(before, `"$description":`) ||
		strings.HasSuffix(before, "[") || strings.HasSuffix(before, ",")
}

func containsAll(s string, words []string) bool {
	for _, w := range words {
		if !strings.Contains(s, w) {
			return false
		}
	}
	return true
}

// typeAt is the type of the token around a byte, where its whole value stands there; "" where it is not known.
func (o *openFile) typeAt(offset int) token.Type {
	for _, s := range token.Spans([]byte(o.text.string)) {
		if s.Token && offset >= s.From && offset <= s.To && (s.Text != "" || s.To-s.From <= 2) {
			if t := o.a.Desk.Library.Base.Get(s.Path); t != nil {
				return t.Type
			}
		}
	}
	return ""
}

// spanAt is the token or group whose name or value stands at a byte, and the alias there; "" for none.
func spanAt(text string, offset int) (s *token.Span, alias *token.AliasSpan) {
	spans := token.Spans([]byte(text))
	for i := range spans {
		s := &spans[i]
		if offset >= s.NameFrom && offset <= s.NameTo {
			return s, nil
		}
		if !s.Token || offset < s.From || offset > s.To {
			continue
		}
		for k := range s.Aliases {
			if a := &s.Aliases[k]; offset >= a.From && offset <= a.To {
				return s, a
			}
		}
		return s, nil
	}
	return nil, nil
}

// tokenColors are the colours of a token file that stand in it, and not behind an alias.
func (o *openFile) tokenColors(e encoding) (out []colorInformation) {
	for _, s := range token.Spans([]byte(o.text.string)) {
		if c, ok := o.colorOf(&s); ok {
			out = append(out, colorInformation{o.text.span(s.From, s.To, e), toLSP(c)})
		}
	}
	return out
}

// colorOf is the colour that a token states.
func (o *openFile) colorOf(s *token.Span) (color.Color, bool) {
	if !s.Token || s.To == 0 || len(s.Aliases) > 0 {
		return color.Color{}, false
	}
	if s.Text != "" {
		c, err := color.Parse(s.Text)
		return c, err == nil
	}
	if !strings.HasPrefix(o.text.string[s.From:], "{") {
		return color.Color{}, false
	}
	v, err := token.ParseValue(o.text.string[s.From:s.To], token.Color)
	if err != nil || v.Color == nil {
		return color.Color{}, false
	}
	return *v.Color, true
}

// tokenPresentation is how a token file writes another colour in the place of one: in the space and the form it has.
func (o *openFile) tokenPresentation(from, to int, c color.Color) (label, write string) {
	old := o.text.string[from:to]
	if strings.HasPrefix(old, `"`) {
		return c.Hex(), `"` + c.Hex() + `"`
	}
	v, err := token.ParseValue(old, token.Color)
	if err != nil || v.Color == nil {
		return c.CSS(), ""
	}
	now := c.To(v.Color.Space)
	v.Color = &now
	if v.Hex != "" {
		v.Hex = c.WithAlpha(1).Hex()
	}
	ed, err := token.Edit([]byte(`{"c":{"$type":"color","$value":`+old+`}}`), o.rel())
	if err != nil || ed.Set("c", v) != nil {
		return c.CSS(), v.JSON()
	}
	data, err := ed.Bytes()
	if err != nil {
		return c.CSS(), v.JSON()
	}
	for _, s := range token.Spans(data) {
		return now.CSS(), string(data[s.From:s.To])
	}
	return now.CSS(), v.JSON()
}
