package css

import (
	"strings"

	lexer "github.com/tdewolff/parse/v2/css"
)

// IsCustomProperty reports whether a name and a value can stand as the declaration of a custom property, and end where
// they should: the value has its brackets closed and no sign that ends a declaration or a block.
// https://www.w3.org/TR/css-syntax-3/#typedef-declaration-value
func IsCustomProperty(name, value string) bool {
	toks := Tokenize(name)
	if len(name) < 3 || !strings.HasPrefix(name, "--") || len(toks) != 1 || toks[0].Data != name || strings.ContainsAny(value, "\x00") {
		return false
	}
	if strings.Contains(strings.ToLower(value), "</style") {
		return false
	}
	var open []lexer.TokenType
	end := 0
	for _, t := range Tokenize(value) {
		if !isComments(value[end:t.Offset]) {
			return false
		}
		end = t.Offset + len(t.Data)
		switch t.Type {
		case lexer.FunctionToken, lexer.LeftParenthesisToken:
			open = append(open, lexer.RightParenthesisToken)
		case lexer.LeftBracketToken:
			open = append(open, lexer.RightBracketToken)
		case lexer.LeftBraceToken:
			open = append(open, lexer.RightBraceToken)
		case lexer.RightParenthesisToken, lexer.RightBracketToken, lexer.RightBraceToken:
			if len(open) == 0 || open[len(open)-1] != t.Type {
				return false
			}
			open = open[:len(open)-1]
		case lexer.SemicolonToken:
			if len(open) == 0 {
				return false
			}
		case lexer.StringToken:
			if len(t.Data) < 2 || t.Data[0] != t.Data[len(t.Data)-1] {
				return false
			}
		case lexer.URLToken:
			if !strings.HasSuffix(t.Data, ")") {
				return false
			}
		case lexer.BadStringToken, lexer.BadURLToken, lexer.CDOToken, lexer.CDCToken:
			return false
		}
	}
	return len(open) == 0 && isComments(value[end:])
}

// isComments reports whether a text is nothing but comments that are closed.
func isComments(s string) bool {
	for s != "" {
		rest, ok := strings.CutPrefix(s, "/*")
		if !ok {
			return false
		}
		if _, s, ok = strings.Cut(rest, "*/"); !ok {
			return false
		}
	}
	return true
}
