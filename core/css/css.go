// Package css reads CSS as designs use it: tokens, values, selectors, style sheets and the cascade over the markup
// tree, down to the value each element ends up with and the place that stated it.
// https://www.w3.org/TR/css-syntax-3/ https://www.w3.org/TR/css-cascade-4/
package css

import (
	"fmt"
	"strings"

	"archetyp/core/quoting"

	"github.com/tdewolff/parse/v2"
	lexer "github.com/tdewolff/parse/v2/css"
)

// Token is one token of CSS Syntax 3. Data is the text as written; for identifiers, functions and strings Text is
// what it means, escapes undone and quotes gone.
type Token struct {
	Type   lexer.TokenType
	Data   string
	Offset int // bytes from the start of the text given to Tokenize
}

// Tokenize splits CSS text; comments are dropped. It never fails: what is no CSS comes out as delimiters.
func Tokenize(s string) []Token {
	work := make([]byte, len(s), len(s)+1)
	copy(work, s)
	lex := lexer.NewLexer(parse.NewInputBytes(work))
	out := make([]Token, 0, len(s)/3+4)
	offset := 0
	for {
		tt, data := lex.Next()
		if tt == lexer.ErrorToken {
			return out // at the end, or at a NUL byte, behind which nothing is CSS
		}
		if tt != lexer.CommentToken {
			out = append(out, Token{tt, s[offset : offset+len(data)], offset})
		}
		offset += len(data)
	}
}

// Closing is the index of the token that closes the function or parenthesis at another; the number of tokens where none
// does.
func Closing(toks []Token, open int) int {
	depth := 0
	for i := open; i < len(toks); i++ {
		switch toks[i].Type {
		case lexer.FunctionToken, lexer.LeftParenthesisToken:
			depth++
		case lexer.RightParenthesisToken:
			if depth--; depth == 0 {
				return i
			}
		}
	}
	return len(toks)
}

// joined is the text of tokens: that of the sheet itself, where no comment stands between them.
func joined(text string, toks []Token) string {
	if len(toks) == 0 {
		return ""
	}
	first, last := &toks[0], &toks[len(toks)-1]
	end := last.Offset + len(last.Data)
	n := 0
	for i := range toks {
		n += len(toks[i].Data)
	}
	if n == end-first.Offset && end <= len(text) {
		return text[first.Offset:end]
	}
	var b strings.Builder
	b.Grow(n)
	for i := range toks {
		b.WriteString(toks[i].Data)
	}
	return b.String()
}

// Text is what an identifier, function name, hash, string or url() token means.
func (t Token) Text() string {
	switch t.Type {
	case lexer.StringToken:
		if len(t.Data) >= 2 {
			return unescape(t.Data[1 : len(t.Data)-1])
		}
		return ""
	case lexer.FunctionToken:
		return unescape(strings.TrimSuffix(t.Data, "("))
	case lexer.HashToken:
		return unescape(t.Data[1:])
	case lexer.AtKeywordToken:
		return strings.ToLower(t.Data[1:])
	case lexer.URLToken:
		// at the end of a sheet the ) may be missing
		in := strings.TrimSpace(strings.TrimSuffix(t.Data[min(4, len(t.Data)):], ")"))
		if len(in) >= 2 && (in[0] == '"' || in[0] == '\'') && in[len(in)-1] == in[0] {
			in = in[1 : len(in)-1]
		}
		return unescape(in)
	}
	return unescape(t.Data)
}

// unescape resolves CSS escapes: \31 and \:.
func unescape(s string) string {
	if !strings.Contains(s, `\`) {
		return s
	}
	var b strings.Builder
	for i := 0; i < len(s); i++ {
		if s[i] != '\\' {
			b.WriteByte(s[i])
			continue
		}
		if i++; i >= len(s) {
			break
		}
		v, n := 0, 0
		for n < 6 && i+n < len(s) && isHex(s[i+n]) {
			v = v*16 + hexVal(s[i+n])
			n++
		}
		if n == 0 {
			if s[i] != '\n' { // an escaped line end in a string continues it
				b.WriteByte(s[i])
			}
			continue
		}
		if v == 0 || v > 0x10FFFF || (v >= 0xD800 && v < 0xE000) {
			v = 0xFFFD
		}
		b.WriteRune(rune(v))
		i += n - 1
		if i+1 < len(s) && (s[i+1] == ' ' || s[i+1] == '\n' || s[i+1] == '\t') {
			i++
		}
	}
	return b.String()
}

func isHex(c byte) bool {
	return c >= '0' && c <= '9' || c >= 'a' && c <= 'f' || c >= 'A' && c <= 'F'
}

func hexVal(c byte) int {
	switch {
	case c <= '9':
		return int(c - '0')
	case c >= 'a':
		return int(c-'a') + 10
	}
	return int(c-'A') + 10
}

// Ident writes s as a CSS identifier, escaping what must be.
// https://www.w3.org/TR/cssom-1/#serialize-an-identifier
func Ident(s string) string {
	var b strings.Builder
	for i, r := range s {
		digit := r >= '0' && r <= '9'
		switch {
		case r == 0:
			b.WriteRune(0xFFFD)
		case r < 0x20 || r == 0x7F, digit && (i == 0 || i == 1 && s[0] == '-'):
			fmt.Fprintf(&b, `\%x `, r)
		case i == 0 && r == '-' && len(s) == 1:
			b.WriteString(`\-`)
		case r >= 0x80 || r == '-' || r == '_' || digit || r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z':
			b.WriteRune(r)
		default:
			b.WriteByte('\\')
			b.WriteRune(r)
		}
	}
	return b.String()
}

// String writes s as a CSS string in double quotes.
func String(s string) string {
	return quoting.Quote(s, func(rest string) (string, int) {
		if c := rest[0]; c < 0x20 || c == 0x7F {
			return fmt.Sprintf(`\%x `, c), 1
		}
		return "", 0
	})
}

// Error is a fault in CSS text at a byte offset of it.
type Error struct {
	Offset int
	Msg    string
}

func (e *Error) Error() string { return e.Msg }
