// Package message reads, writes and fills in messages: words in ICU MessageFormat, with inline elements, and the plural
// forms of languages.
package message

import (
	"fmt"
	"strings"
	"unicode/utf8"
)

// A message is what stands under a key: words, in ICU MessageFormat, with inline elements for words that are set
// apart ("Sail <b>free</b>, {name}"). https://unicode-org.github.io/icu/userguide/format_parse/messages/

// PartKind tells the parts of a message apart.
type PartKind uint8

// The parts of a message.
const (
	Literal  PartKind = iota // words
	Argument                 // {name} or {name, number, …}
	Choice                   // {count, plural, …}, selectordinal, select
	Hash                     // # inside a plural: the number
	Open                     // <b>
	Close                    // </b>
	Empty                    // <br/>
)

// Part is one part of a message.
type Part struct {
	Kind   PartKind
	Text   string // of Literal, quotes undone
	Name   string // of an argument, a choice or an element
	Type   string // of an argument: number, date …; of a choice: plural, selectordinal, select
	Style  string // of an argument, as written
	Offset int    // of a plural
	Cases  []Case
	At     int // byte offset in what was parsed
}

// Case is one form of a choice.
type Case struct {
	Selector string // one, other, =0, or a word of a select
	Message  Message
}

// Message is a parsed message.
type Message []Part

// MessageError is a fault in a message, at a byte offset.
type MessageError struct {
	Offset int
	Msg    string
}

func (e *MessageError) Error() string { return fmt.Sprintf("%s (at character %d)", e.Msg, e.Offset+1) }

const (
	maxNesting = 32      // choices inside one another
	maxMessage = 1 << 20 // bytes of a message
)

// Parse reads a message. The error is a *MessageError.
func Parse(s string) (Message, error) {
	if len(s) > maxMessage {
		return nil, &MessageError{0, "a message of more than 1 MB is not read"}
	}
	if !strings.ContainsAny(s, "{}<'") { // most are plain
		if s == "" {
			return nil, nil
		}
		return Message{{Kind: Literal, Text: s}}, nil
	}
	p := &messageParser{s: s}
	m, err := p.message(0, false)
	if err != nil {
		return nil, err
	}
	if p.i < len(s) {
		return nil, &MessageError{p.i, "a } without a {; write '}' for the sign itself"}
	}
	return m, nil
}

type messageParser struct {
	s string
	i int
}

func (p *messageParser) fail(at int, format string, args ...any) error {
	return &MessageError{utf8.RuneCountInString(p.s[:min(at, len(p.s))]), fmt.Sprintf(format, args...)}
}

// message reads to the end, or to the } that ends a case.
func (p *messageParser) message(depth int, plural bool) (Message, error) {
	if depth > maxNesting {
		return nil, p.fail(p.i, "more than %d choices inside one another", maxNesting)
	}
	var out Message
	var words strings.Builder
	begin := p.i
	flush := func() {
		if words.Len() > 0 {
			out = append(out, Part{Kind: Literal, Text: words.String(), At: begin})
			words.Reset()
		}
	}
	var open []Part
	add := func(part Part) { flush(); out = append(out, part); begin = p.i }
	for p.i < len(p.s) {
		switch c := p.s[p.i]; {
		case c == '\'':
			p.quote(&words, plural)
		case c == '{':
			at := p.i
			part, err := p.argument(depth)
			if err != nil {
				return nil, err
			}
			part.At = at
			add(part)
		case c == '}':
			if depth == 0 {
				return nil, p.fail(p.i, "a } without a {; write '}' for the sign itself")
			}
			flush()
			if len(open) > 0 {
				return nil, p.fail(open[len(open)-1].At, "<%s> is not closed", open[len(open)-1].Name)
			}
			return out, nil
		case c == '#' && plural:
			at := p.i
			p.i++
			add(Part{Kind: Hash, At: at})
		case c == '<' && tagBegins(p.s[p.i:]):
			part, err := p.element()
			if err != nil {
				return nil, err
			}
			switch part.Kind {
			case Open:
				open = append(open, part)
			case Close:
				if len(open) == 0 || open[len(open)-1].Name != part.Name {
					return nil, p.fail(part.At, "</%s> closes nothing that is open here; write '<' for the sign itself", part.Name)
				}
				open = open[:len(open)-1]
			}
			add(part)
		default:
			words.WriteByte(c)
			p.i++
		}
	}
	flush()
	if len(open) > 0 {
		return nil, p.fail(open[len(open)-1].At, "<%s> is not closed; write '<' for the sign itself", open[len(open)-1].Name)
	}
	if depth > 0 {
		return nil, p.fail(p.i, "the message ends before its }")
	}
	return out, nil
}

// quote reads an apostrophe: two are one, one before a special sign quotes up to the next.
func (p *messageParser) quote(words *strings.Builder, plural bool) {
	rest := p.s[p.i+1:]
	switch {
	case strings.HasPrefix(rest, "'"):
		words.WriteByte('\'')
		p.i += 2
	case rest != "" && (rest[0] == '{' || rest[0] == '}' || rest[0] == '<' || rest[0] == '#' && plural):
		p.i++
		for p.i < len(p.s) {
			if p.s[p.i] == '\'' {
				if !strings.HasPrefix(p.s[p.i+1:], "'") {
					p.i++
					return
				}
				p.i++
			}
			words.WriteByte(p.s[p.i])
			p.i++
		}
	default:
		words.WriteByte('\'')
		p.i++
	}
}

// tagBegins reports whether a < begins an element: a letter follows, or a slash and a letter.
func tagBegins(s string) bool {
	s = strings.TrimPrefix(s[1:], "/")
	return s != "" && letter(s[0])
}

func letter(c byte) bool { return c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' }

func (p *messageParser) element() (Part, error) {
	at := p.i
	part := Part{Kind: Open, At: at}
	p.i++
	if p.s[p.i] == '/' {
		part.Kind = Close
		p.i++
	}
	from := p.i
	for p.i < len(p.s) && (letter(p.s[p.i]) || p.s[p.i] >= '0' && p.s[p.i] <= '9' || p.s[p.i] == '-' || p.s[p.i] == '_') {
		p.i++
	}
	part.Name = p.s[from:p.i]
	if part.Kind == Open && strings.HasPrefix(p.s[p.i:], "/>") {
		part.Kind = Empty
		p.i += 2
		return part, nil
	}
	if p.i >= len(p.s) || p.s[p.i] != '>' {
		return part, p.fail(at,
			"<%s is no inline element (they have a name and no attributes); write '<' for the sign itself", part.Name)
	}
	p.i++
	return part, nil
}

func (p *messageParser) space() {
	for p.i < len(p.s) && strings.IndexByte(" \t\r\n", p.s[p.i]) >= 0 {
		p.i++
	}
}

// word reads up to white space or a sign that ends it.
func (p *messageParser) word() string {
	from := p.i
	for p.i < len(p.s) && strings.IndexByte(" \t\r\n{},<>'#", p.s[p.i]) < 0 {
		p.i++
	}
	return p.s[from:p.i]
}

func (p *messageParser) argument(depth int) (Part, error) {
	at := p.i
	p.i++
	p.space()
	part := Part{Kind: Argument, Name: p.word()}
	if part.Name == "" {
		return part, p.fail(at, "a { without the name of an argument; write '{' for the sign itself")
	}
	p.space()
	if p.accept('}') {
		return part, nil
	}
	if !p.accept(',') {
		return part, p.fail(at, "{%s is not closed", part.Name)
	}
	p.space()
	part.Type = p.word()
	p.space()
	switch part.Type {
	case "":
		return part, p.fail(p.i, "{%s, …} has no kind", part.Name)
	case "plural", "selectordinal", "select":
		return p.choice(part, at, depth)
	}
	if p.accept('}') {
		return part, nil
	}
	if !p.accept(',') {
		return part, p.fail(at, "{%s is not closed", part.Name)
	}
	from := p.i
	for p.i < len(p.s) && p.s[p.i] != '}' && p.s[p.i] != '{' {
		p.i++
	}
	if p.i >= len(p.s) || p.s[p.i] != '}' {
		return part, p.fail(at, "{%s is not closed", part.Name)
	}
	part.Style = strings.TrimSpace(p.s[from:p.i])
	p.i++
	return part, nil
}

func (p *messageParser) accept(c byte) bool {
	if p.i < len(p.s) && p.s[p.i] == c {
		p.i++
		return true
	}
	return false
}

// choice reads the cases of a plural or select.
func (p *messageParser) choice(part Part, at, depth int) (Part, error) {
	part.Kind = Choice
	if !p.accept(',') {
		return part, p.fail(p.i, "{%s, %s} has no cases", part.Name, part.Type)
	}
	seen := map[string]bool{}
	for {
		p.space()
		if p.accept('}') {
			break
		}
		where := p.i
		sel := p.word()
		if n, ok := strings.CutPrefix(sel, "offset:"); ok && part.Type != "select" && len(part.Cases) == 0 {
			if n == "" {
				p.space()
				n = p.word()
			}
			if _, err := fmt.Sscanf(n, "%d", &part.Offset); err != nil {
				return part, p.fail(where, "the offset %q is no whole number", n)
			}
			continue
		}
		p.space()
		switch {
		case sel == "":
			return part, p.fail(where, "{%s, %s, …} is not closed", part.Name, part.Type)
		case seen[sel]:
			return part, p.fail(where, "the case %s stands twice in {%s, %s, …}", sel, part.Name, part.Type)
		case !p.accept('{'):
			return part, p.fail(where, "the case %s has no {words}", sel)
		case part.Type != "select" && !validForm(sel):
			return part, p.fail(where, "%s is no form of a plural: zero, one, two, few, many, other, or =N", sel)
		}
		seen[sel] = true
		m, err := p.message(depth+1, part.Type != "select")
		if err != nil {
			return part, err
		}
		p.i++ // the }
		part.Cases = append(part.Cases, Case{sel, m})
	}
	if !seen["other"] {
		return part, p.fail(at, "{%s, %s, …} has no case other", part.Name, part.Type)
	}
	return part, nil
}

func validForm(s string) bool {
	for _, f := range Forms {
		if s == f {
			return true
		}
	}
	return len(s) > 1 && s[0] == '=' && strings.Trim(s[1:], "0123456789") == ""
}

// Plain reports whether the message is words only, and gives them.
func (m Message) Plain() (string, bool) {
	switch {
	case len(m) == 0:
		return "", true
	case len(m) == 1 && m[0].Kind == Literal:
		return m[0].Text, true
	}
	return "", false
}

// Walk visits every part, those of cases after the choice they belong to.
func (m Message) Walk(visit func(Part)) {
	for _, p := range m {
		visit(p)
		for _, c := range p.Cases {
			c.Message.Walk(visit)
		}
	}
}

// Words are the literal words of a message, all cases one after the other, without arguments and elements.
func (m Message) Words() string {
	var b strings.Builder
	m.Walk(func(p Part) {
		switch p.Kind {
		case Literal:
			b.WriteString(p.Text)
		case Choice:
			b.WriteByte(' ')
		}
	})
	return b.String()
}

// Plural is the message's one plural at its top level, and its place; −1 for none or several.
func (m Message) Plural() int {
	at := -1
	for i, p := range m {
		if p.Kind == Choice {
			if p.Type != "plural" || at >= 0 {
				return -1
			}
			at = i
		}
	}
	return at
}
