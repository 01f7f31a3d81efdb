package css

import (
	"strconv"
	"strings"

	lexer "github.com/tdewolff/parse/v2/css"
)

// Decl is one declaration: a property in lower case (custom properties as written) and its value as written.
type Decl struct {
	Prop      string
	Value     string
	Important bool
	Offset    int // of the property, in the sheet's text
}

// Rule is a style rule. Offset is that of its selector in the sheet's text.
type Rule struct {
	Selector *Selector
	Decls    []Decl
	Offset   int
}

// FontFace is an @font-face rule.
type FontFace struct {
	Family string
	URL    string // the first url() of src
	Weight string
	Style  string
}

// Sheet is a parsed style sheet: the rules that hold for the medium it was read for, in order.
type Sheet struct {
	Rules     []Rule
	FontFaces []FontFace
	Imports   []string
	Skipped   []Error // what was no CSS and was left out, as CSS says it must be
}

// Medium is what media queries are asked about.
type Medium struct {
	Width, Height float64 // viewport in px
	Dark          bool    // prefers-color-scheme: dark
}

// ParseSheet reads a style sheet. Faulty rules are skipped as CSS Syntax says and listed in Skipped.
func ParseSheet(text string, m Medium) *Sheet {
	p := &sheetParser{toks: Tokenize(text), medium: m, sheet: &Sheet{}}
	p.rules(0)
	return p.sheet
}

// ParseDecls reads a declaration list, such as a style attribute.
func ParseDecls(text string) []Decl {
	p := &sheetParser{toks: Tokenize(text), sheet: &Sheet{}}
	return p.decls(len(p.toks))
}

type sheetParser struct {
	toks   []Token
	i      int
	medium Medium
	sheet  *Sheet
}

func (p *sheetParser) skip(offset int, msg string) {
	p.sheet.Skipped = append(p.sheet.Skipped, Error{offset, msg})
}

// block finds the end of the block whose { is at p.i: the index of its }, or the end of the sheet.
func (p *sheetParser) block() int {
	depth := 0
	for k := p.i; k < len(p.toks); k++ {
		switch p.toks[k].Type {
		case lexer.LeftBraceToken:
			depth++
		case lexer.RightBraceToken:
			if depth--; depth == 0 {
				return k
			}
		}
	}
	return len(p.toks)
}

func (p *sheetParser) rules(depth int) {
	end := len(p.toks)
	if depth > 0 {
		end = p.block()
		p.i++
	}
	for p.i < end {
		t := p.toks[p.i]
		switch t.Type {
		case lexer.WhitespaceToken, lexer.CDOToken, lexer.CDCToken, lexer.SemicolonToken:
			p.i++
		case lexer.AtKeywordToken:
			p.atRule(depth, end)
		default:
			p.styleRule(end)
		}
	}
	if depth > 0 && p.i < len(p.toks) {
		p.i++
	}
}

// prelude collects text up to { or ; (not eaten).
func (p *sheetParser) prelude(end int) string {
	var b strings.Builder
	for ; p.i < end; p.i++ {
		t := p.toks[p.i]
		if t.Type == lexer.LeftBraceToken || t.Type == lexer.SemicolonToken {
			break
		}
		b.WriteString(t.Data)
	}
	return b.String()
}

func (p *sheetParser) styleRule(end int) {
	offset := p.toks[p.i].Offset
	var b strings.Builder
	for ; p.i < end && p.toks[p.i].Type != lexer.LeftBraceToken; p.i++ {
		b.WriteString(p.toks[p.i].Data)
	}
	if p.i >= end {
		p.skip(offset, "a rule without a block")
		return
	}
	close := min(p.block(), end)
	p.i++
	decls := p.decls(close)
	p.i = close + 1
	sel, err := ParseSelector(b.String())
	if err != nil {
		p.skip(offset+err.(*Error).Offset, err.Error())
		return
	}
	p.sheet.Rules = append(p.sheet.Rules, Rule{sel, decls, offset})
}

func (p *sheetParser) atRule(depth, end int) {
	name, offset := p.toks[p.i].Text(), p.toks[p.i].Offset
	p.i++
	pre := strings.TrimSpace(p.prelude(end))
	if p.i >= end || p.toks[p.i].Type == lexer.SemicolonToken {
		if name == "import" {
			if toks := Tokenize(pre); len(toks) > 0 {
				p.sheet.Imports = append(p.sheet.Imports, toks[0].Text())
			}
		}
		p.i++
		return
	}
	close := min(p.block(), end)
	switch name {
	case "media":
		if depth < maxNesting && MatchMedia(pre, p.medium) {
			p.rules(depth + 1)
			return
		}
	case "supports", "layer", "container", "scope":
		if depth < maxNesting {
			p.rules(depth + 1)
			return
		}
	case "font-face":
		p.i++
		p.sheet.FontFaces = append(p.sheet.FontFaces, fontFace(p.decls(close)))
	case "keyframes", "-webkit-keyframes", "property", "page", "counter-style", "font-feature-values":
	default:
		p.skip(offset, "@"+name+" is not known")
	}
	p.i = close + 1
}

func fontFace(decls []Decl) FontFace {
	var f FontFace
	for _, d := range decls {
		switch d.Prop {
		case "font-family":
			if l := SplitTop(d.Value, ','); len(l) > 0 {
				f.Family = Unquote(l[0])
			}
		case "font-weight":
			f.Weight = d.Value
		case "font-style":
			f.Style = d.Value
		case "src":
			for _, t := range Tokenize(d.Value) {
				if t.Type == lexer.URLToken && f.URL == "" {
					f.URL = t.Text()
				}
			}
		}
	}
	return f
}

// decls reads declarations up to token end (not eaten).
func (p *sheetParser) decls(end int) []Decl {
	var out []Decl
	for p.i < end {
		t := p.toks[p.i]
		if t.Type == lexer.WhitespaceToken || t.Type == lexer.SemicolonToken {
			p.i++
			continue
		}
		if d, ok := p.decl(end); ok {
			out = append(out, d)
		}
	}
	return out
}

func (p *sheetParser) decl(end int) (Decl, bool) {
	t := p.toks[p.i]
	d := Decl{Offset: t.Offset}
	isName := t.Type == lexer.IdentToken || t.Type == lexer.CustomPropertyNameToken
	if isName {
		d.Prop = t.Text()
		if !strings.HasPrefix(d.Prop, "--") {
			d.Prop = strings.ToLower(d.Prop)
		}
		p.i++
	}
	for p.i < end && p.toks[p.i].Type == lexer.WhitespaceToken {
		p.i++
	}
	ok := isName && p.i < end && p.toks[p.i].Type == lexer.ColonToken
	if ok {
		p.i++
	}
	from := p.i
	for depth := 0; p.i < end; p.i++ {
		switch p.toks[p.i].Type {
		case lexer.LeftBraceToken, lexer.LeftParenthesisToken, lexer.FunctionToken, lexer.LeftBracketToken:
			depth++
		case lexer.RightBraceToken, lexer.RightParenthesisToken, lexer.RightBracketToken:
			depth--
		}
		if depth <= 0 && p.toks[p.i].Type == lexer.SemicolonToken {
			break
		}
	}
	if !ok {
		p.skip(d.Offset, "a declaration without a colon")
		return d, false
	}
	var b strings.Builder
	for _, t := range p.toks[from:p.i] {
		b.WriteString(t.Data)
	}
	d.Value = strings.TrimSpace(b.String())
	if head, ok := cutImportant(d.Value); ok {
		d.Value, d.Important = head, true
	}
	return d, d.Value != "" || strings.HasPrefix(d.Prop, "--")
}

func cutImportant(v string) (string, bool) {
	i := strings.LastIndexByte(v, '!')
	if i < 0 || !strings.EqualFold(strings.TrimSpace(v[i+1:]), "important") {
		return v, false
	}
	return strings.TrimSpace(v[:i]), true
}

// MatchMedia answers a media query list for a screen of this size and scheme. Features we do not know do not match.
// https://www.w3.org/TR/mediaqueries-4/
func MatchMedia(query string, m Medium) bool {
	if strings.TrimSpace(query) == "" {
		return true
	}
	for _, q := range SplitTop(strings.ToLower(query), ',') {
		if matchQuery(q, m) {
			return true
		}
	}
	return false
}

func matchQuery(q string, m Medium) bool {
	negate := false
	if rest, ok := strings.CutPrefix(q, "not "); ok {
		q, negate = rest, true
	}
	q = strings.TrimPrefix(q, "only ")
	result := true
	for _, part := range strings.Split(q, " and ") {
		part = strings.TrimSpace(part)
		switch {
		case part == "all" || part == "screen":
		case strings.HasPrefix(part, "(") && strings.HasSuffix(part, ")"):
			result = result && matchFeature(part[1:len(part)-1], m)
		default:
			result = false
		}
	}
	return result != negate
}

func matchFeature(f string, m Medium) bool {
	name, value, has := strings.Cut(f, ":")
	name, value = strings.TrimSpace(name), strings.TrimSpace(value)
	if !has {
		return name == "color" || name == "hover" || name == "width"
	}
	px := func() float64 {
		l, err := ParseLength(value)
		if err != nil {
			return -1
		}
		return l.Px(Units{Em: 16, Rem: 16})
	}
	switch name {
	case "min-width":
		return m.Width >= px()
	case "max-width":
		return m.Width <= px()
	case "min-height":
		return m.Height >= px()
	case "max-height":
		return m.Height <= px()
	case "prefers-color-scheme":
		return value == "light" != m.Dark
	case "prefers-reduced-motion", "prefers-contrast":
		return value == "no-preference"
	case "orientation":
		return value == "portrait" == (m.Height >= m.Width)
	case "hover", "any-hover":
		return value == "hover"
	case "min-resolution":
		v, err := strconv.ParseFloat(strings.TrimSuffix(strings.TrimSuffix(value, "dppx"), "x"), 64)
		return err == nil && v <= 1
	}
	return false
}
