package css

import (
	"fmt"
	"strings"

	lexer "github.com/tdewolff/parse/v2/css"
)

// CheckCondition refuses what is neither a selector nor the head of a conditional at-rule: it goes into style sheets as
// it is written.
func CheckCondition(s string) error {
	if !strings.HasPrefix(s, "@") {
		if _, err := ParseSelector(s); err != nil {
			return fmt.Errorf("%q is no selector: %w", s, err)
		}
		return nil
	}
	name, _, _ := strings.Cut(s[1:], " ")
	switch name {
	case "media", "supports", "container", "layer", "scope":
	default:
		return fmt.Errorf("%q: @media, @supports, @container, @layer and @scope hold conditions", s)
	}
	if strings.Contains(s, "/*") {
		return fmt.Errorf("%q: a comment cannot stand in a condition", s)
	}
	depth := 0
	for _, t := range Tokenize(s) {
		switch t.Type {
		case lexer.LeftParenthesisToken, lexer.FunctionToken:
			depth++
		case lexer.RightParenthesisToken:
			depth--
		case lexer.LeftBraceToken, lexer.RightBraceToken, lexer.SemicolonToken, lexer.BadStringToken, lexer.BadURLToken,
			lexer.CDOToken, lexer.CDCToken, lexer.ErrorToken:
			return fmt.Errorf("%q: %q cannot stand in a condition", s, t.Data)
		}
		if depth < 0 {
			break
		}
	}
	if depth != 0 {
		return fmt.Errorf("%q: the brackets do not match", s)
	}
	return nil
}
