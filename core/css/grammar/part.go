package grammar

import (
	"fmt"
	"strconv"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"

	lexer "github.com/tdewolff/parse/v2/css"
)

// Kind is what a part of a value is.
type Kind uint8

// The kinds of part.
const (
	Word       Kind = iota // an identifier; Text as written
	Number                 // Num
	Percentage             // Num, in per cent
	Dimension              // Num and Text, its unit in lower case
	String                 // Text, quotes gone
	URL                    // Text, as written
	Hash                   // Text, without #
	Mark                   // Text: a comma, a slash or any other sign
	Call                   // a function: Text its name in lower case, Args what stands in it
	Block                  // (…) or […]: Text the opening bracket
	Colour                 // Color, as computed
	Calc                   // Math
)

// Part is a component value. https://www.w3.org/TR/css-syntax-3/#component-value
type Part struct {
	Kind  Kind
	Text  string
	Num   float64
	Int   bool // of a Number: written without a fraction
	Late  bool // a colour that depends on something, and is computed where it is used
	Args  []Part
	Color color.Color
	Math  *Math
}

// Is reports whether a part is a keyword, whatever its case.
func (p *Part) Is(word string) bool { return p.Kind == Word && strings.EqualFold(p.Text, word) }

// Keyword is the keyword a part is, in lower case; "" for none.
func (p *Part) Keyword() string {
	if p.Kind != Word {
		return ""
	}
	return strings.ToLower(p.Text)
}

// mark reports whether a part is a sign.
func (p *Part) mark(sign string) bool { return p.Kind == Mark && p.Text == sign }

// What a value may hold at most: parts in all, and brackets inside one another.
const (
	maxParts = 1 << 16
	maxDepth = 64
)

// Parts reads the text of a value.
func Parts(text string) ([]Part, error) {
	r := &reader{toks: css.Tokenize(text)}
	out, err := r.until("", 0)
	if err != nil {
		return nil, err
	}
	return out, nil
}

type reader struct {
	toks []css.Token
	i    int
	n    int
}

// until reads up to a closing bracket, which is eaten; "" for the end of the text, where brackets may be left open.
func (r *reader) until(closing string, depth int) ([]Part, error) {
	if depth > maxDepth {
		return nil, fmt.Errorf("brackets more than %d deep", maxDepth)
	}
	var out []Part
	for r.i < len(r.toks) {
		t := r.toks[r.i]
		r.i++
		if r.n++; r.n > maxParts {
			return nil, fmt.Errorf("a value of more than %d parts", maxParts)
		}
		p := Part{Text: t.Data}
		switch t.Type {
		case lexer.WhitespaceToken:
			continue
		case lexer.IdentToken, lexer.CustomPropertyNameToken:
			p.Kind, p.Text = Word, t.Text()
		case lexer.NumberToken:
			p.Kind = Number
			p.Num, p.Int = number(t.Data)
		case lexer.PercentageToken:
			p.Kind = Percentage
			p.Num, _ = number(strings.TrimSuffix(t.Data, "%"))
		case lexer.DimensionToken:
			n := css.NumberPrefix(t.Data)
			p.Kind, p.Text = Dimension, strings.ToLower(t.Data[n:])
			p.Num, _ = number(t.Data[:n])
		case lexer.StringToken:
			p.Kind, p.Text = String, t.Text()
		case lexer.URLToken:
			p.Kind, p.Text = URL, t.Text()
		case lexer.HashToken:
			p.Kind, p.Text = Hash, t.Text()
		case lexer.FunctionToken:
			args, err := r.until(")", depth+1)
			if err != nil {
				return nil, err
			}
			p.Kind, p.Text, p.Args = Call, strings.ToLower(t.Text()), args
			if p.Text == "url" && len(args) == 1 && args[0].Kind == String {
				p = Part{Kind: URL, Text: args[0].Text}
			}
		case lexer.LeftParenthesisToken, lexer.LeftBracketToken:
			args, err := r.until(map[string]string{"(": ")", "[": "]"}[t.Data], depth+1)
			if err != nil {
				return nil, err
			}
			p.Kind, p.Args = Block, args
		case lexer.RightParenthesisToken, lexer.RightBracketToken:
			if t.Data == closing {
				return out, nil
			}
			return nil, fmt.Errorf("%s is not expected", t.Data)
		case lexer.BadStringToken, lexer.BadURLToken, lexer.LeftBraceToken, lexer.RightBraceToken, lexer.SemicolonToken:
			return nil, fmt.Errorf("%q cannot stand in a value", t.Data)
		default:
			p.Kind = Mark
		}
		out = append(out, p)
	}
	return out, nil
}

func number(s string) (v float64, whole bool) {
	v, _ = strconv.ParseFloat(s, 64) // what is too large is infinite
	const most = 3.4e38
	v = max(-most, min(most, v))
	return v, !strings.ContainsAny(s, ".eE")
}
