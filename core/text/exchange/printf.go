package exchange

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"archetyp/core/text"
	"archetyp/core/text/message"
)

// Android and iOS know arguments by their place: %1$s. The place of an argument is where it comes first in the source
// message, so that all languages agree.

// arguments are the names of a message's arguments in the order of their places.
func arguments(source string) []string {
	m, err := message.Parse(source)
	if err != nil {
		return nil
	}
	var out []string
	m.Walk(func(p message.Part) {
		if p.Kind != message.Argument && p.Kind != message.Choice {
			return
		}
		for _, n := range out {
			if n == p.Name {
				return
			}
		}
		out = append(out, p.Name)
	})
	return out
}

// spelling is how a language of code writes words and arguments.
type spelling struct {
	words     func(s string, formatted bool) string // escapes words; formatted: the text has arguments
	text, num string                                // the kinds of an argument: s and d
	tag       func(name string, end bool) string
}

// spell writes a message for code. Choices are said in the form other, and lost is then true.
func (sp spelling) spell(m message.Message, places []string) (out string, lost bool) {
	formatted := false
	m.Walk(func(p message.Part) {
		formatted = formatted || p.Kind == message.Argument || p.Kind == message.Hash || p.Kind == message.Choice
	})
	var b strings.Builder
	var write func(m message.Message, number string)
	write = func(m message.Message, number string) {
		for _, p := range m {
			switch p.Kind {
			case message.Literal:
				b.WriteString(sp.words(p.Text, formatted))
			case message.Argument:
				b.WriteString(sp.argument(p.Name, p.Type == "number", places))
			case message.Hash:
				b.WriteString(sp.argument(number, true, places))
			case message.Choice:
				lost = true
				if c := p.Case("other"); c != nil {
					write(c.Message, p.Name)
				}
			case message.Open:
				b.WriteString(sp.tag(p.Name, false))
			case message.Close:
				b.WriteString(sp.tag(p.Name, true))
			case message.Empty:
				b.WriteString(sp.tag(p.Name, false) + sp.tag(p.Name, true))
			}
		}
	}
	write(m, "")
	return b.String(), lost
}

func (sp spelling) argument(name string, number bool, places []string) string {
	kind := sp.text
	if number {
		kind = sp.num
	}
	for i, p := range places {
		if p == name {
			return fmt.Sprintf("%%%d$%s", i+1, kind)
		}
	}
	return fmt.Sprintf("%%%d$%s", len(places)+1, kind)
}

var conversion = regexp.MustCompile(`%(?:(\d+)\$)?(l?[ldiuf]|lld|s|@|[.0-9]*f)|%%`)

// parsed makes a message of words with conversions: %1$s is {1}, %1$d is {1, number}. Names come later, from the source
// message (text.Adopt). Elements are taken from what reads as one where tags is true.
func parsed(s string) string {
	if !converts(s) {
		return message.Escape(s)
	}
	return formatted(s)
}

// converts reports whether words hold a conversion; where none does, %% is two signs.
func converts(s string) bool {
	for _, f := range conversion.FindAllString(s, -1) {
		if f != "%%" {
			return true
		}
	}
	return false
}

// formatted is parsed for words that are known to be formatted.
func formatted(s string) string {
	found := conversion.FindAllStringSubmatchIndex(s, -1)
	var list []piece
	at, next := 0, 1
	for _, f := range found {
		list = append(list, piece{wordsPiece, s[at:f[0]], ""})
		at = f[1]
		if s[f[0]:f[1]] == "%%" {
			list = append(list, piece{wordsPiece, "%", ""})
			continue
		}
		n := next
		if f[2] >= 0 {
			n, _ = strconv.Atoi(s[f[2]:f[3]])
		} else {
			next++
		}
		code := fmt.Sprintf("{%d}", n)
		if kind := s[f[4]:f[5]]; kind != "s" && kind != "@" {
			code = fmt.Sprintf("{%d, number}", n)
		}
		list = append(list, piece{codePiece, code, ""})
	}
	list = append(list, piece{wordsPiece, s[at:], ""})
	return tidy(whole(joinWords(list)))
}

// CodeName is a key as code knows it: letters, digits and underscores.
func CodeName(key string) string {
	var b strings.Builder
	for i, r := range key {
		switch {
		case r >= 'a' && r <= 'z', r >= 'A' && r <= 'Z', r == '_', r >= '0' && r <= '9' && i > 0:
			b.WriteRune(r)
		case r >= '0' && r <= '9':
			b.WriteString("t_" + string(r))
		case r < 0x80:
			b.WriteByte('_')
		default:
			fmt.Fprintf(&b, "u%x", r)
		}
	}
	if b.Len() == 0 {
		return "text"
	}
	return b.String()
}

// CodeNames are the names of keys in code, each its own: later ones of the same name are numbered.
func CodeNames(keys []string) map[string]string {
	out, taken := map[string]string{}, map[string]bool{}
	for _, k := range keys {
		name := CodeName(k)
		for i := 2; taken[name]; i++ {
			name = CodeName(k) + "_" + strconv.Itoa(i)
		}
		taken[name], out[k] = true, name
	}
	return out
}

func codeNames(d *Document) map[string]string {
	keys := make([]string, len(d.Units))
	for i := range d.Units {
		keys[i] = d.Units[i].Key
	}
	return CodeNames(keys)
}

// Finder finds entries by the name they have in a format that cannot spell every key, or by key; nil where it spells
// all.
func (f Format) Finder(c *text.Catalogue) func(name string) *text.Entry {
	if f.Name != "android" {
		return nil
	}
	var keys []string
	for _, e := range c.Used() {
		keys = append(keys, e.Key)
	}
	byName := map[string]*text.Entry{}
	for k, name := range CodeNames(keys) {
		byName[name] = c.Get(k)
	}
	return func(name string) *text.Entry {
		if e := byName[name]; e != nil {
			return e
		}
		return c.Get(name)
	}
}
