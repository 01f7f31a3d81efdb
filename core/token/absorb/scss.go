package absorb

import (
	"fmt"
	"regexp"
	"strings"

	"archetyp/core/css"
	"archetyp/core/markup"
	"archetyp/core/token"
	"archetyp/core/token/emit"
)

// scssFile reads variables at the top of the file, and the map $contexts.
var scssFile = Language{
	Read: func(data []byte, file string) ([]Declaration, error) {
		lines := markup.Lines(data)
		var out []Declaration
		src := string(data)
		for at := 0; at < len(src); {
			end := statement(src, at)
			text := src[at:end]
			offset := at + len(text) - len(strings.TrimLeft(text, " \t\r\n"))
			at = end + 1
			text = strings.TrimSpace(stripComments(text))
			name, value, ok := strings.Cut(text, ":")
			if !ok || !strings.HasPrefix(name, "$") {
				continue
			}
			name, value = strings.TrimSpace(name), strings.TrimSpace(value)
			switch name {
			case "$tokens":
			case "$contexts":
				out = append(out, contexts(value, lines.Position(offset))...)
			default:
				value, _ = strings.CutSuffix(value, "!default")
				out = append(out, Declaration{"", name, plainSCSS(value), lines.Position(offset)})
			}
		}
		if len(out) == 0 && strings.TrimSpace(src) != "" {
			return nil, fmt.Errorf("%s: no SCSS variables in it", file)
		}
		return out, nil
	},
	name: func(path string, o emit.Options) string { return "$" + emit.Property(path, o.Prefix)[2:] },
	refs: func(text string) (string, bool) {
		text = strings.TrimSpace(text)
		return text, strings.HasPrefix(text, "$") && !strings.ContainsAny(text, " ,()/")
	},
	where: func(_ *token.Library, c token.Context, _ emit.Options) []string { return []string{c.Key()} },
}

// statement is the end of the statement that begins at at: its semicolon, outside of brackets, quotes and comments.
func statement(s string, at int) int {
	depth := 0
	for i := at; i < len(s); i++ {
		switch c := s[i]; {
		case strings.HasPrefix(s[i:], "#{"):
			if k := strings.IndexByte(s[i:], '}'); k >= 0 {
				i += k
			}
		case c == '(' || c == '{' || c == '[':
			depth++
		case c == ')' || c == '}' || c == ']':
			depth--
			if c == '}' && depth == 0 {
				return i
			}
		case c == ';' && depth <= 0:
			return i
		case c == '"' || c == '\'':
			for i++; i < len(s) && s[i] != c; i++ {
				if s[i] == '\\' {
					i++
				}
			}
		case strings.HasPrefix(s[i:], "//"):
			for i < len(s) && s[i] != '\n' {
				i++
			}
		case strings.HasPrefix(s[i:], "/*"):
			if k := strings.Index(s[i:], "*/"); k >= 0 {
				i += k + 1
			}
		}
	}
	return len(s)
}

var comment = regexp.MustCompile(`(?s:/\*.*?\*/)|(?m:^\s*//.*$)`)

func stripComments(s string) string { return comment.ReplaceAllString(s, "") }

var interpolated = regexp.MustCompile(`#\{([^{}]*)\}`)

// plainSCSS is a value without what only keeps Sass from computing.
func plainSCSS(s string) string {
	s = interpolated.ReplaceAllString(strings.TrimSpace(s), "$1")
	return strings.TrimSpace(strings.ReplaceAll(s, `"/"`, "/"))
}

// contexts reads the map of maps.
func contexts(s string, at markup.Position) []Declaration {
	var out []Declaration
	for _, c := range entries(s) {
		for _, d := range entries(c[1]) {
			v := d[1]
			if strings.HasPrefix(v, "(") && strings.HasSuffix(v, ")") {
				v = v[1 : len(v)-1]
			}
			out = append(out, Declaration{c[0], "$" + d[0], plainSCSS(v), at})
		}
	}
	return out
}

// entries are the keys and values of a map.
func entries(s string) [][2]string {
	s = strings.TrimSpace(s)
	if !strings.HasPrefix(s, "(") || !strings.HasSuffix(s, ")") {
		return nil
	}
	var out [][2]string
	for _, e := range css.SplitTop(s[1:len(s)-1], ',') {
		if k, v, ok := strings.Cut(e, ":"); ok {
			out = append(out, [2]string{css.Unquote(strings.TrimSpace(k)), strings.TrimSpace(v)})
		}
	}
	return out
}
