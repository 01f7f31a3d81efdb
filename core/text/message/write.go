package message

import (
	"fmt"
	"strings"
)

// String writes the message back: parsed again, it gives the same parts.
func (m Message) String() string {
	var b strings.Builder
	m.write(&b, false, false)
	return b.String()
}

// write writes the parts; inside says that the } of a case follows.
func (m Message) write(b *strings.Builder, plural, inside bool) {
	m = m.Merged()
	for i, p := range m {
		switch p.Kind {
		case Literal:
			b.WriteString(escape(p.Text, plural, i+1 < len(m) || inside))
		case Argument:
			b.WriteString("{" + p.Name)
			if p.Type != "" {
				b.WriteString(", " + p.Type)
			}
			if p.Style != "" {
				b.WriteString(", " + p.Style)
			}
			b.WriteString("}")
		case Choice:
			b.WriteString("{" + p.Name + ", " + p.Type + ",")
			if p.Offset != 0 {
				fmt.Fprintf(b, " offset:%d", p.Offset)
			}
			for _, c := range p.Cases {
				b.WriteString(" " + c.Selector + " {")
				c.Message.write(b, p.Type != "select", true)
				b.WriteString("}")
			}
			b.WriteString("}")
		case Hash:
			b.WriteString("#")
		case Open:
			b.WriteString("<" + p.Name + ">")
		case Close:
			b.WriteString("</" + p.Name + ">")
		case Empty:
			b.WriteString("<" + p.Name + "/>")
		}
	}
}

// Escape makes words a message that says just them.
func Escape(words string) string { return escape(words, false, false) }

// escape quotes what would be taken for a part; more says that another part follows, which a last apostrophe would
// quote.
func escape(s string, plural, more bool) string {
	if !strings.ContainsAny(s, "{}<'#") {
		return s
	}
	var b strings.Builder
	special := func(i int) bool {
		switch s[i] {
		case '{', '}':
			return true
		case '<':
			return tagBegins(s[i:])
		case '#':
			return plural
		}
		return false
	}
	// an apostrophe before any of these begins a quotation, be the sign special by itself or not
	quotes := func(i int) bool {
		return i < len(s) && (s[i] == '{' || s[i] == '}' || s[i] == '<' || s[i] == '\'' || s[i] == '#' && plural)
	}
	for i := 0; i < len(s); {
		switch {
		case s[i] == '\'':
			b.WriteByte('\'')
			if quotes(i+1) || i+1 == len(s) && more {
				b.WriteByte('\'')
			}
			i++
		case special(i):
			b.WriteByte('\'')
			for i < len(s) && (special(i) || s[i] == '\'') {
				if s[i] == '\'' {
					b.WriteByte('\'')
				}
				b.WriteByte(s[i])
				i++
			}
			b.WriteByte('\'')
		default:
			b.WriteByte(s[i])
			i++
		}
	}
	return b.String()
}

// EscapeIn is Escape for words that other parts may follow, inside a form of a plural or outside.
func EscapeIn(words string, plural bool) string { return escape(words, plural, true) }

// Merged joins words that follow each other.
func (m Message) Merged() Message {
	apart := false
	for i := 1; i < len(m); i++ {
		apart = apart || m[i].Kind == Literal && m[i-1].Kind == Literal
	}
	if !apart {
		return m
	}
	var out Message
	for _, p := range m {
		if k := len(out); k > 0 && p.Kind == Literal && out[k-1].Kind == Literal {
			out[k-1].Text += p.Text
			continue
		}
		out = append(out, p)
	}
	return out
}
