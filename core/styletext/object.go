package styletext

import "strings"

// object reads the properties of a style object of JavaScript: `paddingInline: "8px", color: red`. Only strings and
// numbers are values.
func (s *sheetScanner) object(i int) {
	for i < len(s.text) {
		switch ch := s.text[i]; {
		case space(ch) || ch == ',':
			i++
			continue
		case ch == '/' && s.jsComment(i) > i:
			i = s.jsComment(i)
			continue
		}
		from, name := i, ""
		if q := s.text[i]; q == '"' || q == '\'' {
			i = stringEnd(s.text, i)
			name = strings.Trim(s.text[from:i], string(q))
		} else {
			for i < len(s.text) && nameByte(s.text[i]) {
				i++
			}
			name = s.text[from:i]
		}
		d := Decl{Property: Kebab(name), From: from, To: i, Colon: -1, End: i, Rule: s.rule, Region: s.region}
		for i < len(s.text) && space(s.text[i]) {
			i++
		}
		if i < len(s.text) && s.text[i] == ':' && name != "" {
			d.Colon = i
			i = s.objectValue(&d, i+1)
		} else {
			i = s.expression(max(i, from+1))
		}
		if name != "" {
			s.c.Decls = append(s.c.Decls, d)
		}
	}
}

// objectValue reads a value from i on, and returns what is behind it.
func (s *sheetScanner) objectValue(d *Decl, i int) int {
	for i < len(s.text) && (s.text[i] == ' ' || s.text[i] == '\t') {
		i++
	}
	d.ValueAt = i
	end := s.expression(i)
	d.End = trimmed(s.text, i, end)
	if i < len(s.text) && (s.text[i] == '"' || s.text[i] == '\'' || s.text[i] == '`') {
		if close := quoted(s.text, i); close >= trimmed(s.text, i, end) { // the string is all of it
			d.ValueAt = i + 1
			if d.End = close; close > i+1 && s.text[close-1] == s.text[i] {
				d.End = close - 1
			}
			d.Value = s.text[d.ValueAt:d.End]
		}
	}
	return end
}

// expression is where the expression that begins at i ends: at the comma, or with the object.
func (s *sheetScanner) expression(i int) int {
	depth := 0
	for i < len(s.text) {
		switch s.text[i] {
		case '"', '\'', '`':
			i = quoted(s.text, i)
			continue
		case '(', '[', '{':
			depth++
		case ')', ']', '}':
			depth--
		case ',':
			if depth <= 0 {
				return i
			}
		case '\n':
			if depth <= 0 && s.begins(i+1) {
				return i
			}
		case '/':
			if to := s.jsComment(i); to > i {
				i = to
				continue
			}
		}
		i++
	}
	return i
}

func (s *sheetScanner) jsComment(i int) int {
	was := s.slashes
	s.slashes = true
	defer func() { s.slashes = was }()
	return s.comment(i)
}

// quoted is what is behind a string or template of JavaScript.
func quoted(text string, i int) int {
	if text[i] != '`' {
		return stringEnd(text, i)
	}
	for i++; i < len(text); i++ {
		switch text[i] {
		case '\\':
			i++
		case '`':
			return i + 1
		}
	}
	return len(text)
}

// Kebab is a property as CSS writes it: paddingInline is padding-inline.
func Kebab(name string) string {
	if strings.HasPrefix(name, "--") || strings.ToLower(name) == name {
		return name
	}
	var b strings.Builder
	for i, r := range name {
		if r >= 'A' && r <= 'Z' {
			if i > 0 || strings.HasPrefix(name, "Webkit") || strings.HasPrefix(name, "Moz") {
				b.WriteByte('-')
			}
			r += 'a' - 'A'
		}
		b.WriteRune(r)
	}
	return b.String()
}

// Camel is a property as JavaScript writes it: padding-inline is paddingInline.
func Camel(name string) string {
	if strings.HasPrefix(name, "--") {
		return name
	}
	parts := strings.Split(name, "-")
	for i, p := range parts {
		if i > 0 && p != "" {
			parts[i] = strings.ToUpper(p[:1]) + p[1:]
		}
	}
	return strings.Join(parts, "")
}
