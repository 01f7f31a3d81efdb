package css

import (
	"strings"

	lexer "github.com/tdewolff/parse/v2/css"
)

// Scoped is a declaration with the rules it stands in, none of them judged.
type Scoped struct {
	Decl
	Around   []string // at-rules, outermost first: "@media (min-width: 48rem)"
	Selector string   // as written, white space as one blank
}

// ParseScoped reads the declarations of a style sheet whatever the medium, with where they stand. What is no CSS is
// skipped and reported.
func ParseScoped(text string) ([]Scoped, []Error) {
	p := &scopedParser{sheetParser: sheetParser{text: text, toks: Tokenize(text), sheet: &Sheet{}}}
	p.out = make([]Scoped, 0, strings.Count(text, ":"))
	p.rules(len(p.toks), nil, 0)
	return p.out, p.sheet.Skipped
}

type scopedParser struct {
	sheetParser
	out []Scoped
}

// blanks is text without comments and with white space as single blanks.
func blanks(toks []Token) string {
	if len(toks) == 1 && toks[0].Type != lexer.CommentToken && toks[0].Type != lexer.WhitespaceToken {
		return toks[0].Data
	}
	var b strings.Builder
	for _, t := range toks {
		switch t.Type {
		case lexer.CommentToken:
		case lexer.WhitespaceToken:
			b.WriteByte(' ')
		default:
			b.WriteString(t.Data)
		}
	}
	return strings.Join(strings.Fields(b.String()), " ")
}

func (p *scopedParser) rules(end int, around []string, depth int) {
	for p.i < end {
		t := p.toks[p.i]
		switch t.Type {
		case lexer.WhitespaceToken, lexer.CDOToken, lexer.CDCToken, lexer.SemicolonToken, lexer.CommentToken,
			lexer.RightBraceToken:
			p.i++
			continue
		}
		from := p.i
		p.prelude(end)
		head := blanks(p.toks[from:min(p.i, end)])
		if p.i >= end || p.toks[p.i].Type == lexer.SemicolonToken {
			if p.i >= end && t.Type != lexer.AtKeywordToken {
				p.skip(t.Offset, "a rule without a block")
			}
			p.i++
			continue
		}
		close := min(p.block(), end)
		p.i++
		if t.Type != lexer.AtKeywordToken {
			p.each(close, func(d Decl) { p.out = append(p.out, Scoped{d, around, head}) })
		} else if name := t.Text(); depth < maxNesting && (name == "media" || name == "supports" || name == "layer" ||
			name == "container" || name == "scope") {
			p.rules(close, append(around[:len(around):len(around)], head), depth+1)
		}
		p.i = close + 1
	}
}

// WithoutComments is a text of CSS without its comments, white space as single blanks.
func WithoutComments(text string) string { return blanks(Tokenize(text)) }
