package exchange

import (
	"bytes"
	"fmt"
	"strconv"
	"strings"
	"unicode/utf8"

	"archetyp/core/quoting"
)

// POFile is a gettext file as it stands: every entry with its comments, in its order.
// https://www.gnu.org/software/gettext/manual/html_node/PO-Files.html
type POFile struct{ Entries []POEntry }

// POEntry is one message. The entry with the empty ID and no context is the header.
type POEntry struct {
	Comments []string // lines beginning with #, but for obsolete ones
	Context  string
	InCtxt   bool // there is a context, be it empty
	ID       string
	Plural   string
	IsPlural bool
	Str      []string // one, or one a plural form
	Obsolete bool

	PrevContext, PrevID, PrevPlural       string // what it was translated from: lines with #|
	HasPrevCtxt, HasPrevID, HasPrevPlural bool
	Line                                  int
}

// Header is a field of the file's header; "" where there is none.
func (f *POFile) Header(name string) string {
	for _, e := range f.Entries {
		if e.ID == "" && !e.InCtxt && len(e.Str) > 0 {
			for _, l := range strings.Split(e.Str[0], "\n") {
				if k, v, ok := strings.Cut(l, ":"); ok && strings.EqualFold(strings.TrimSpace(k), name) {
					return strings.TrimSpace(v)
				}
			}
		}
	}
	return ""
}

// Has reports whether the entry has a flag, such as fuzzy.
func (e *POEntry) Has(flag string) bool {
	for _, c := range e.Comments {
		if rest, ok := strings.CutPrefix(c, "#,"); ok {
			for _, f := range strings.Split(rest, ",") {
				if strings.TrimSpace(f) == flag {
					return true
				}
			}
		}
	}
	return false
}

// ParsePO reads a gettext file, in the character set its header names. The error is a *markup.Error.
func ParsePO(data []byte) (*POFile, error) {
	data = bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))
	set := ""
	if i := bytes.Index(data, []byte("charset=")); i >= 0 {
		set = string(data[i+8 : min(i+60, len(data))])
		set = set[:max(0, strings.IndexAny(set+"\n", "\\\"\n; \r"))]
	}
	out, ok := charset(data, set)
	if !ok {
		if at := notUTF8(data); at >= 0 && (set == "" || strings.EqualFold(set, "utf-8")) {
			return nil, fault(bytes.Count(data[:at], []byte("\n"))+1, at-bytes.LastIndexByte(data[:at], '\n'),
				"not valid UTF-8; save the file as UTF-8, or name its character set in the header")
		}
		return nil, fault(1, 1, "the file is not in the character set %q that its header names", set)
	}
	p := &poParser{rest: string(out)}
	if err := p.run(); err != nil {
		return nil, err
	}
	return &p.file, nil
}

type poParser struct {
	rest string
	line int
	file POFile
	e    POEntry
	last *string  // the text that further lines continue
	more []string // these lines, until it is whole
	seen bool     // the entry has a msgid
}

func (p *poParser) run() error {
	for p.rest != "" {
		var l string
		l, p.rest, _ = strings.Cut(p.rest, "\n")
		p.line++
		if err := p.one(strings.TrimRight(l, "\r")); err != nil {
			return err
		}
	}
	if err := p.flush(); err != nil {
		return err
	}
	if p.e.ID != "" || p.e.InCtxt {
		return fault(p.line, 1, "the file is cut off: a message without msgstr")
	}
	if len(p.e.Comments) > 0 { // at the end of the file
		p.e.Line = p.line
		p.file.Entries = append(p.file.Entries, p.e)
	}
	return nil
}

// flush ends the entry under way.
func (p *poParser) flush() error {
	p.whole()
	if len(p.e.Str) == 0 {
		if p.seen {
			return fault(p.e.Line, 1, "the message has no msgstr")
		}
		return nil
	}
	p.file.Entries = append(p.file.Entries, p.e)
	p.e, p.last, p.seen = POEntry{}, nil, false
	return nil
}

func (p *poParser) one(l string) error {
	t := strings.TrimLeft(l, " \t")
	switch {
	case t == "":
		p.whole()
		p.last = nil
		return p.flush()
	case strings.HasPrefix(t, "#~"):
		t = strings.TrimLeft(t[2:], " \t")
		if strings.HasPrefix(t, "|") {
			return p.previous(t[1:], l)
		}
		if t == "" {
			return nil
		}
		if !p.e.Obsolete && len(p.e.Str) > 0 || (strings.HasPrefix(t, "msgid ") || strings.HasPrefix(t, "msgctxt ")) &&
			len(p.e.Str) > 0 {
			if err := p.flush(); err != nil {
				return err
			}
		}
		p.e.Obsolete = true
		return p.statement(t, l)
	case strings.HasPrefix(t, "#|"):
		if len(p.e.Str) > 0 {
			if err := p.flush(); err != nil {
				return err
			}
		}
		return p.previous(t[2:], l)
	case t[0] == '#':
		p.whole()
		if p.seen || len(p.e.Str) > 0 {
			if err := p.flush(); err != nil {
				return err
			}
		}
		p.e.Comments = append(p.e.Comments, t)
		p.last = nil
		return nil
	}
	return p.statement(t, l)
}

func (p *poParser) previous(t, l string) error {
	t = strings.TrimLeft(t, " \t")
	if t == "" {
		return nil
	}
	if t[0] == '"' {
		return p.further(t, l)
	}
	p.whole()
	word, rest, _ := strings.Cut(t, " ")
	s, err := p.quoted(rest, l)
	if err != nil {
		return err
	}
	switch word {
	case "msgctxt":
		p.e.PrevContext, p.e.HasPrevCtxt, p.last = s, true, &p.e.PrevContext
	case "msgid":
		p.e.PrevID, p.e.HasPrevID, p.last = s, true, &p.e.PrevID
	case "msgid_plural":
		p.e.PrevPlural, p.e.HasPrevPlural, p.last = s, true, &p.e.PrevPlural
	default:
		return fault(p.line, 1, "%q is no keyword of a PO file", word)
	}
	return nil
}

// further takes a line that continues a text.
func (p *poParser) further(t, l string) error {
	if p.last == nil {
		return fault(p.line, 1, "a text without msgid or msgstr before it")
	}
	s, err := p.quoted(t, l)
	p.more = append(p.more, s)
	return err
}

// whole ends the text that lines continued.
func (p *poParser) whole() {
	if len(p.more) > 0 {
		*p.last += strings.Join(p.more, "")
		p.more = p.more[:0]
	}
}

func (p *poParser) statement(t, l string) error {
	if t[0] == '"' {
		return p.further(t, l)
	}
	p.whole()
	i := strings.IndexAny(t, " \t\"")
	if i < 0 {
		i = len(t)
	}
	word, rest := t[:i], strings.TrimLeft(t[i:], " \t")
	if word == "domain" {
		return nil
	}
	s, err := p.quoted(rest, l)
	if err != nil {
		return err
	}
	switch {
	case word == "msgctxt" || word == "msgid":
		if len(p.e.Str) > 0 {
			old := p.e.Obsolete
			if err := p.flush(); err != nil {
				return err
			}
			p.e.Obsolete = old && strings.HasPrefix(strings.TrimLeft(l, " \t"), "#~")
		}
		if word == "msgctxt" {
			p.e.Context, p.e.InCtxt, p.last = s, true, &p.e.Context
			p.e.Line = p.line
			return nil
		}
		if p.seen {
			return fault(p.line, 1, "a second msgid before the msgstr of the first")
		}
		if !p.e.InCtxt {
			p.e.Line = p.line
		}
		p.e.ID, p.seen, p.last = s, true, &p.e.ID
	case !p.seen:
		return fault(p.line, 1, "%s without a msgid before it", word)
	case word == "msgid_plural":
		p.e.Plural, p.e.IsPlural, p.last = s, true, &p.e.Plural
	case word == "msgstr":
		if len(p.e.Str) > 0 {
			return fault(p.line, 1, "a second msgstr")
		}
		p.e.Str = append(p.e.Str, s)
		p.last = &p.e.Str[0]
	case strings.HasPrefix(word, "msgstr["):
		n, err := strconv.Atoi(strings.TrimSuffix(word[7:], "]"))
		if err != nil || n != len(p.e.Str) || n > 9 {
			return fault(p.line, 1, "%s where msgstr[%d] was expected", word, len(p.e.Str))
		}
		p.e.Str = append(p.e.Str, s)
		p.last = &p.e.Str[n]
	default:
		return fault(p.line, 1, "%q is no keyword of a PO file", short(word))
	}
	return nil
}

func short(s string) string {
	if utf8.RuneCountInString(s) > 40 {
		return string([]rune(s)[:40]) + "…"
	}
	return s
}

// quoted reads a text in quotation marks, with the escapes of C.
func (p *poParser) quoted(s, l string) (string, error) {
	column := utf8.RuneCountInString(l) - utf8.RuneCountInString(strings.TrimLeft(s, " \t")) + 1
	s = strings.TrimSpace(s)
	if len(s) < 2 || s[0] != '"' || s[len(s)-1] != '"' {
		return "", fault(p.line, column, "a text in quotation marks was expected")
	}
	in := s[1 : len(s)-1]
	if !strings.ContainsAny(in, "\\\"") {
		return in, nil
	}
	var b strings.Builder
	for i := 0; i < len(in); i++ {
		c := in[i]
		if c == '"' {
			return "", fault(p.line, column+1+utf8.RuneCountInString(in[:i]), "a quotation mark inside a text is written \\\"")
		}
		if c != '\\' {
			b.WriteByte(c)
			continue
		}
		if i++; i == len(in) {
			return "", fault(p.line, column, "the text ends in a lone backslash; write \\\\ for the sign itself")
		}
		switch in[i] {
		case 'n':
			b.WriteByte('\n')
		case 't':
			b.WriteByte('\t')
		case 'r':
			b.WriteByte('\r')
		case 'a':
			b.WriteByte('\a')
		case 'b':
			b.WriteByte('\b')
		case 'f':
			b.WriteByte('\f')
		case 'v':
			b.WriteByte('\v')
		case '\\', '"', '\'', '?':
			b.WriteByte(in[i])
		case 'x':
			j := i + 1
			for j < len(in) && j < i+3 && strings.IndexByte("0123456789abcdefABCDEF", in[j]) >= 0 {
				j++
			}
			v, err := strconv.ParseUint(in[i+1:j], 16, 8)
			if err != nil {
				return "", fault(p.line, column, "\\x needs hexadecimal digits")
			}
			b.WriteByte(byte(v))
			i = j - 1
		case '0', '1', '2', '3', '4', '5', '6', '7':
			j := i
			for j < len(in) && j < i+3 && in[j] >= '0' && in[j] <= '7' {
				j++
			}
			v, _ := strconv.ParseUint(in[i:j], 8, 16)
			b.WriteByte(byte(v))
			i = j - 1
		default:
			return "", fault(p.line, column+1+utf8.RuneCountInString(in[:i]),
				"\\%c is no escape; write \\\\ for the sign itself", in[i])
		}
	}
	return b.String(), nil
}

// Bytes writes the file in UTF-8.
func (f *POFile) Bytes() []byte {
	var b bytes.Buffer
	for i, e := range f.Entries {
		if i > 0 {
			b.WriteByte('\n')
		}
		e.write(&b)
	}
	return b.Bytes()
}

func (e *POEntry) write(b *bytes.Buffer) {
	for _, c := range e.Comments {
		b.WriteString(c + "\n")
	}
	if len(e.Str) == 0 {
		return
	}
	prefix, old := "", "#| "
	if e.Obsolete {
		prefix, old = "#~ ", "#~| "
	}
	put := func(prefix, word, s string) {
		b.WriteString(prefix + word + " ")
		if i := strings.IndexByte(s, '\n'); i < 0 || i == len(s)-1 {
			b.WriteString(poQuote(s) + "\n")
			return
		}
		b.WriteString("\"\"\n")
		for s != "" {
			i := strings.IndexByte(s, '\n') + 1
			if i == 0 {
				i = len(s)
			}
			b.WriteString(prefix + poQuote(s[:i]) + "\n")
			s = s[i:]
		}
	}
	if e.HasPrevCtxt {
		put(old, "msgctxt", e.PrevContext)
	}
	if e.HasPrevID {
		put(old, "msgid", e.PrevID)
	}
	if e.HasPrevPlural {
		put(old, "msgid_plural", e.PrevPlural)
	}
	if e.InCtxt {
		put(prefix, "msgctxt", e.Context)
	}
	id := e.ID
	put(prefix, "msgid", id)
	if e.IsPlural {
		put(prefix, "msgid_plural", e.Plural)
		for i, s := range e.Str {
			put(prefix, fmt.Sprintf("msgstr[%d]", i), s)
		}
		return
	}
	str := e.Str[0]
	if e.ID == "" && !e.InCtxt {
		str = utf8Header(str)
	}
	put(prefix, "msgstr", str)
}

// utf8Header makes a header say that the file is UTF-8, as what we write is.
func utf8Header(s string) string {
	lines := strings.Split(s, "\n")
	for i, l := range lines {
		if at := strings.Index(l, "charset="); at >= 0 && strings.HasPrefix(strings.ToLower(l), "content-type") {
			lines[i] = l[:at] + "charset=UTF-8"
		}
	}
	return strings.Join(lines, "\n")
}

func poQuote(s string) string {
	return quoting.Quote(s, func(rest string) (string, int) {
		c := rest[0]
		if sign := quoting.Signs[c]; sign != "" {
			return sign, 1
		}
		r, n := utf8.DecodeRuneInString(rest)
		if c < 0x20 || c == 0x7f || r == utf8.RuneError && n == 1 { // bytes that are no letter stay what they were
			return fmt.Sprintf(`\%03o`, c), 1
		}
		return "", 0
	})
}
