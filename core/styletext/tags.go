package styletext

import (
	"regexp"
	"strings"
)

// tagScanner finds tags, the words between them, and the styles in them.
type tagScanner struct {
	c    *Code
	open []string // names of the tags that are open
	deep int      // expressions in one another
}

// html reads a text of HTML.
func (s *tagScanner) html() {
	text := s.c.Text
	for i := 0; i < len(text); {
		if text[i] != '<' {
			i = s.words(i, false)
			continue
		}
		switch {
		case strings.HasPrefix(text[i:], "<!--"):
			i = after(text, i+4, "-->")
		case i+1 < len(text) && (text[i+1] == '!' || text[i+1] == '?'):
			i = after(text, i, ">")
		case i+1 < len(text) && (letter(text[i+1]) || text[i+1] == '/'):
			i = s.raw(s.tag(i, false))
		default:
			i++
		}
	}
}

// raw passes over what follows an opening tag that holds no markup. A style sheet is one.
func (s *tagScanner) raw(i int) int {
	t := &s.c.Tags[len(s.c.Tags)-1]
	name := strings.ToLower(t.Name)
	if t.Closing || name != "style" && name != "script" && name != "textarea" && name != "title" {
		return i
	}
	end := len(s.c.Text)
	if n := indexFold(s.c.Text[i:], "</"+name); n >= 0 {
		end = i + n
	}
	if name == "style" {
		lang := ""
		for _, a := range t.Attrs {
			if a.Name == "lang" && a.From >= 0 {
				lang = s.c.Text[a.From:a.To]
			}
		}
		if lang == "" || languages[lang] == CSS || languages[lang] == SCSS {
			s.c.Regions = append(s.c.Regions, Region{Sheet, i, end, languages[lang] == SCSS})
		}
	}
	return end
}

// indexFold is strings.Index without regard to the case of ASCII letters; part is in lower case.
func indexFold(text, part string) int {
	for i := 0; i+len(part) <= len(text); i++ {
		if text[i] == part[0] && strings.EqualFold(text[i:i+len(part)], part) {
			return i
		}
	}
	return -1
}

// words notes the words from i on, up to the next tag, or in JSX expression.
func (s *tagScanner) words(i int, jsx bool) int {
	text := s.c.Text
	end := i
	for end < len(text) && text[end] != '<' && !(jsx && (text[end] == '{' || text[end] == '}')) {
		end++
	}
	from, to := i, trimmed(text, i, end)
	for from < to && space(text[from]) {
		from++
	}
	in := ""
	if n := len(s.open); n > 0 {
		in = s.open[n-1]
	}
	if from < to {
		s.c.Words = append(s.c.Words, Words{from, to, in})
	}
	return end
}

// tag reads a tag at i, and returns what is behind it.
func (s *tagScanner) tag(i int, jsx bool) int {
	text := s.c.Text
	t := Tag{From: i}
	i++
	if i < len(text) && text[i] == '/' {
		t.Closing = true
		i++
	}
	name := i
	for i < len(text) && (nameByte(text[i]) || text[i] == '.' || text[i] == ':') {
		i++
	}
	t.Name = text[name:i]
	closed := false
	for i < len(text) {
		switch ch := text[i]; {
		case ch == '>':
			i++
			closed = true
		case ch == '<' && !jsx: // the tag was not finished
			closed = true
		case space(ch) || ch == '/':
			i++
			continue
		case jsx && ch == '{':
			i = s.expression(i)
			continue
		default:
			i = s.attr(&t, i, jsx)
			continue
		}
		if closed {
			break
		}
	}
	t.To = i
	s.c.Tags = append(s.c.Tags, t)
	self := i >= 2 && text[i-1] == '>' && text[i-2] == '/'
	switch {
	case t.Closing:
		for n := len(s.open) - 1; n >= 0; n-- {
			if s.open[n] == t.Name {
				s.open = s.open[:n]
				break
			}
		}
	case !self && !empty[strings.ToLower(t.Name)]:
		s.open = append(s.open, t.Name)
	}
	return i
}

// empty are the elements of HTML that have no end. https://html.spec.whatwg.org/multipage/syntax.html#void-elements
var empty = map[string]bool{"area": true, "base": true, "br": true, "col": true, "embed": true, "hr": true, "img": true,
	"input": true, "link": true, "meta": true, "source": true, "track": true, "wbr": true}

// attr reads an attribute.
func (s *tagScanner) attr(t *Tag, i int, jsx bool) int {
	text := s.c.Text
	a := Attr{At: i, From: -1, To: -1}
	for i < len(text) && !space(text[i]) && text[i] != '=' && text[i] != '>' && text[i] != '/' && text[i] != '<' {
		i++
	}
	a.Name = text[a.At:i]
	if i == a.At {
		return i + 1
	}
	j := i
	for j < len(text) && space(text[j]) {
		j++
	}
	if j < len(text) && text[j] == '=' {
		i = s.value(&a, j+1, jsx)
	}
	t.Attrs = append(t.Attrs, a)
	return i
}

// value reads the value of an attribute.
func (s *tagScanner) value(a *Attr, i int, jsx bool) int {
	text := s.c.Text
	for i < len(text) && space(text[i]) {
		i++
	}
	if i == len(text) {
		a.From, a.To = i, i
		return i
	}
	switch q := text[i]; {
	case q == '"' || q == '\'':
		end := strings.IndexByte(text[i+1:], q)
		if end < 0 {
			end = len(text) - i - 1
		}
		a.Quote, a.From, a.To = q, i+1, i+1+end
		if a.Name == "style" {
			s.c.Regions = append(s.c.Regions, Region{Kind: List, From: a.From, To: a.To})
		}
		return min(a.To+1, len(text))
	case q == '{' && jsx:
		end := s.expression(i)
		a.Quote, a.From, a.To = '{', i+1, max(i+1, end-1)
		if inner := strings.TrimSpace(text[a.From:a.To]); a.Name == "style" && strings.HasPrefix(inner, "{") {
			from := a.From + strings.IndexByte(text[a.From:a.To], '{') + 1
			to := max(from, a.From+strings.LastIndexByte(text[a.From:a.To], '}'))
			s.c.Regions = append(s.c.Regions, Region{Kind: Object, From: from, To: to})
		}
		return end
	}
	a.From = i
	for i < len(text) && !space(text[i]) && text[i] != '>' {
		i++
	}
	a.To = i
	return i
}

// after is what is behind the next occurrence of a mark.
func after(text string, i int, mark string) int {
	if n := strings.Index(text[min(i, len(text)):], mark); n >= 0 {
		return i + n + len(mark)
	}
	return len(text)
}

func letter(c byte) bool { return c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' }

// styling are the tags of templates that hold CSS.
var styling = regexp.MustCompile("(?i)(css|style|keyframes)[\\w.$]*(<[^<>`]*>)?(\\([^()`]*(\\([^()`]*\\)[^()`]*)*\\))?[\\w.$]*$")

// code reads code of JavaScript from i on; a nested one ends with the brace that closes it.
func (s *tagScanner) code(i int, nested bool) int {
	text := s.c.Text
	depth := 0
	before := byte(0) // the last byte that was no space
	for i < len(text) {
		switch ch := text[i]; {
		case ch == '"' || ch == '\'':
			i = stringEnd(text, i)
			before = ch
			continue
		case ch == '`':
			i = s.template(i)
			before = ch
			continue
		case ch == '/' && strings.HasPrefix(text[i:], "//"):
			i = after(text, i, "\n")
			continue
		case ch == '/' && strings.HasPrefix(text[i:], "/*"):
			i = after(text, i+2, "*/")
			continue
		case ch == '<' && i+1 < len(text) && (letter(text[i+1]) || text[i+1] == '>') && s.tagMayStand(i, before):
			i = s.element(i)
			before = '>'
			continue
		case ch == '{':
			depth++
		case ch == '}':
			if depth--; depth < 0 && nested {
				return i
			}
		}
		if !space(text[i]) {
			before = text[i]
		}
		i++
	}
	return i
}

// tagMayStand reports whether a tag can begin at i: not behind what could be compared, or given a type.
func (s *tagScanner) tagMayStand(i int, before byte) bool {
	if s.c.Language == Script || s.deep > deepest || generic.MatchString(s.c.Text[i:min(len(s.c.Text), i+longestName)]) {
		return false
	}
	if before == 0 || strings.IndexByte("(,=>?:&|;{}[!", before) >= 0 {
		return true
	}
	return strings.HasSuffix(strings.TrimRight(s.c.Text[:i], " \t\r\n"), "return")
}

// element reads an element of JSX with all in it, and returns what is behind it.
func (s *tagScanner) element(i int) int {
	text := s.c.Text
	base := len(s.open)
	i = s.tag(i, true)
	for i < len(text) && len(s.open) > base {
		switch ch := text[i]; {
		case ch == '<' && i+1 < len(text) && (letter(text[i+1]) || text[i+1] == '/' || text[i+1] == '>'):
			i = s.tag(i, true)
		case ch == '{':
			i = s.expression(i)
		case ch == '<' || ch == '}':
			i++
		default:
			i = s.words(i, true)
		}
	}
	return i
}

// deepest is how deep expressions may lie in one another; tags in deeper ones are passed over.
const deepest = 200

// generic is a list of types that looks like a tag.
var generic = regexp.MustCompile(`^<\s*\w+\s*(,|extends\b)`)

// expression reads `{…}` at i.
func (s *tagScanner) expression(i int) int {
	s.deep++
	defer func() { s.deep-- }()
	open := s.open
	s.open = append([]string(nil), open...)
	if n := len(open); n > 0 && open[n-1] == "style" { // <style>{`…`}</style>
		for j := i + 1; j < len(s.c.Text); j++ {
			if s.c.Text[j] == '`' {
				s.sheet(j, Sheet)
			}
			if !space(s.c.Text[j]) {
				break
			}
		}
	}
	end := s.code(i+1, true)
	s.open = open
	return min(end+1, len(s.c.Text))
}

// template reads a template; one with a tag for styles is a sheet.
func (s *tagScanner) template(i int) int {
	head := s.c.Text[max(0, i-200):i]
	if n := strings.LastIndexByte(head, '\n'); n >= 0 && !strings.Contains(head[n:], ")") {
		head = head[n:]
	}
	if styling.MatchString(head) {
		s.sheet(i, List)
	}
	return quoted(s.c.Text, i)
}

// sheet notes that the template at i holds styles.
func (s *tagScanner) sheet(i int, kind RegionKind) {
	end := quoted(s.c.Text, i)
	if end > i+1 && s.c.Text[end-1] == '`' {
		end--
	}
	if n := len(s.c.Regions); n > 0 && s.c.Regions[n-1].From == i+1 { // the sheet of a style tag
		return
	}
	s.c.Regions = append(s.c.Regions, Region{kind, i + 1, max(end, i+1), true})
}
