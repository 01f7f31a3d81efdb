package styletext

import "strings"

// scan finds the rules and declarations of a region.
func (c *Code) scan(region int) {
	r := c.Regions[region]
	s := &sheetScanner{c: c, text: c.Text[:r.To], region: region, rule: -1, base: -1, slashes: r.Slashes}
	if r.Kind != Sheet {
		s.open(Rule{Open: r.From, Close: r.To})
		s.base = s.rule
	}
	if r.Kind == Object {
		s.object(r.From)
		return
	}
	for i := r.From; i < r.To; {
		i = s.item(i)
	}
	for s.rule >= 0 {
		s.close(r.To)
	}
}

// sheetScanner reads rules and declarations. Rules that are not closed end with the region.
type sheetScanner struct {
	c       *Code
	text    string // up to the end of the region
	region  int
	rule    int  // the innermost open one; -1 for none
	base    int  // the one that is the whole region; -1 for none
	slashes bool // comments of one line
}

func (s *sheetScanner) open(r Rule) {
	r.Parent, r.Region = s.rule, s.region
	if s.rule >= 0 && r.Close == 0 {
		r.Close = len(s.text)
	}
	s.c.Rules = append(s.c.Rules, r)
	s.rule = len(s.c.Rules) - 1
}

func (s *sheetScanner) close(at int) {
	s.c.Rules[s.rule].Close = at
	s.rule = s.c.Rules[s.rule].Parent
}

// item reads one thing from i on, and returns what is behind it: space, a comment, a rule's head or end, a declaration.
func (s *sheetScanner) item(i int) int {
	switch ch := s.text[i]; {
	case space(ch) || ch == ';':
		return i + 1
	case ch == '}':
		if s.rule != s.base {
			s.close(i)
		}
		return i + 1
	}
	if end := s.comment(i); end > i {
		return end
	}
	end, colon := s.extent(i)
	if end < len(s.text) && s.text[end] == '{' && !s.holdsBraces(i, colon) {
		to := trimmed(s.text, i, end)
		s.open(Rule{Selector: s.text[i:to], From: i, To: to, Open: end + 1, Close: len(s.text)})
		return end + 1
	}
	if s.text[i] == '@' {
		return end
	}
	s.declare(i, colon, end)
	return end
}

// holdsBraces reports whether what begins at i is a custom property, whose value may stand in braces.
func (s *sheetScanner) holdsBraces(i, colon int) bool {
	return colon > 0 && strings.HasPrefix(s.text[i:], "--")
}

// extent finds where an item ends, and its first colon; -1 for none. An item that is not finished ends with its line
// where the next one begins as a declaration or a rule does.
func (s *sheetScanner) extent(i int) (end, colon int) {
	start := i
	colon = -1
	depth, braces := 0, 0
	for i < len(s.text) {
		if to := s.comment(i); to > i {
			i = to
			continue
		}
		switch ch := s.text[i]; ch {
		case '"', '\'':
			i = stringEnd(s.text, i)
			continue
		case '\\':
			i++
		case '(', '[':
			depth++
		case ')', ']':
			depth = max(0, depth-1)
		case ':':
			if colon < 0 {
				colon = i
			}
		case '#', '$':
			if i+1 < len(s.text) && s.text[i+1] == '{' { // put in by a preprocessor or a template
				i = s.braced(i + 1)
				continue
			}
		case '{':
			if !s.holdsBraces(start, colon) {
				return i, colon
			}
			braces++
		case '}':
			if braces == 0 {
				return i, colon
			}
			braces--
		case ';':
			if depth == 0 || s.begins(i+1) {
				return i, colon
			}
		case '\n':
			if s.unfinished(start, colon, i) {
				return trimmed(s.text, start, i), colon
			}
			for i+1 < len(s.text) && space(s.text[i+1]) { // judged once
				i++
			}
		}
		i++
	}
	return len(s.text), colon
}

// unfinished reports whether the line that ends at i is a declaration without a semicolon: the next one begins another,
// or a rule.
func (s *sheetScanner) unfinished(start, colon, i int) bool {
	last := trimmed(s.text, start, i)
	if s.text[last-1] == ',' || s.text[last-1] == '(' {
		return false
	}
	name := colon
	if colon < 0 { // a lone word: what was begun to be typed
		name = last
	}
	return name-start < longestName && plainName(s.text[start:name]) && (colon >= 0 || s.rule >= 0) && s.begins(i+1)
}

// longestName is how long a name may be that is looked at more than once.
const longestName = 100

// begins reports whether a line begins with a property and a colon behind which there is a space or nothing, or with a
// brace that closes.
func (s *sheetScanner) begins(i int) bool {
	for i < len(s.text) && space(s.text[i]) {
		i++
	}
	if i == len(s.text) || s.text[i] == '}' {
		return true
	}
	from := i
	if s.text[i] == '&' || s.text[i] == '.' && i+1 < len(s.text) && letter(s.text[i+1]) { // a rule in the rule
		return true
	}
	for i < len(s.text) && i-from < longestName && nameByte(s.text[i]) {
		i++
	}
	if i == from {
		return false
	}
	for i < len(s.text) && (s.text[i] == ' ' || s.text[i] == '\t') {
		i++
	}
	return i < len(s.text) && s.text[i] == ':' && (i+1 == len(s.text) || space(s.text[i+1]))
}

// declare notes a declaration.
func (s *sheetScanner) declare(from, colon, end int) {
	d := Decl{From: from, Colon: colon, End: end, Rule: s.rule, Region: s.region}
	d.To = trimmed(s.text, from, end)
	if colon >= 0 {
		d.To = trimmed(s.text, from, colon)
		d.ValueAt = colon + 1
		for d.ValueAt < end && (s.text[d.ValueAt] == ' ' || s.text[d.ValueAt] == '\t') {
			d.ValueAt++
		}
		d.Value = s.text[d.ValueAt:trimmed(s.text, d.ValueAt, end)]
	}
	d.Property = s.text[from:d.To]
	if !strings.HasPrefix(d.Property, "--") {
		d.Property = strings.ToLower(d.Property)
	}
	s.c.Decls = append(s.c.Decls, d)
}

// comment is the end of a comment that begins at i; i for none.
func (s *sheetScanner) comment(i int) int {
	if s.text[i] != '/' || i+1 == len(s.text) {
		return i
	}
	switch {
	case s.text[i+1] == '*':
		if n := strings.Index(s.text[i+2:], "*/"); n >= 0 {
			return i + 2 + n + 2
		}
		return len(s.text)
	case s.text[i+1] == '/' && s.slashes && (i == 0 || s.text[i-1] != ':'):
		if n := strings.IndexByte(s.text[i:], '\n'); n >= 0 {
			return i + n
		}
		return len(s.text)
	}
	return i
}

// braced is what is behind the brace that closes the one at i.
func (s *sheetScanner) braced(i int) int {
	depth := 0
	for ; i < len(s.text); i++ {
		switch s.text[i] {
		case '{':
			depth++
		case '}':
			if depth--; depth == 0 {
				return i + 1
			}
		}
	}
	return len(s.text)
}

// stringEnd is what is behind the string that begins at i. One that is not closed ends with its line.
func stringEnd(text string, i int) int {
	q := text[i]
	for i++; i < len(text); i++ {
		switch text[i] {
		case '\\':
			i++
		case q:
			return i + 1
		case '\n':
			return i
		}
	}
	return len(text)
}

func space(c byte) bool { return c == ' ' || c == '\t' || c == '\n' || c == '\r' || c == '\f' }

func nameByte(c byte) bool {
	return c == '-' || c == '_' || c == '$' || c >= '0' && c <= '9' || c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= 0x80
}

func plainName(s string) bool {
	s = strings.TrimSpace(s)
	for i := 0; i < len(s); i++ {
		if !nameByte(s[i]) {
			return false
		}
	}
	return s != ""
}

// trimmed is to without the space before it, not before from.
func trimmed(text string, from, to int) int {
	for to > from && space(text[to-1]) {
		to--
	}
	return to
}
