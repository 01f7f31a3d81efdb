package css

import (
	"fmt"
	"strings"

	"archetyp/core/markup"

	lexer "github.com/tdewolff/parse/v2/css"
)

// Decl is one declaration: a property in lower case (custom properties as written) and its value as written.
type Decl struct {
	Prop      string
	Value     string
	Important bool
	Offset    int // of the property, in the sheet's text
}

// Rule is a style rule, or a part of one that stands before or after nested rules. Offset is that of its selector in
// the sheet's text.
type Rule struct {
	Selector *Selector
	Decls    []Decl
	Offset   int
	Around   []string // the at-rules it stands in, outermost first: "@media (min-width: 48rem)"
	Sheet    *Sheet
	layer    int    // into the sheet's layers
	scope    *scope // nil for none
}

// scope is what @scope says of the rules in it. https://www.w3.org/TR/css-cascade-6/#scoped-styles
type scope struct {
	root, limit *Selector // nil for none
	within      *scope    // the scope around it
}

// Origin is where a style sheet comes from. https://www.w3.org/TR/css-cascade-5/#cascade-origin
type Origin uint8

// The origins, the one that wins first: of the page, or of the browser.
const (
	OfAuthor Origin = iota
	OfBrowser
)

// Import is an @import rule.
type Import struct {
	URL    string
	Media  string
	Layer  string   // its name; "" for one without a name, or for none
	In     bool     // it is in a layer
	Before []string // layers named before it
	Offset int
}

// Property is an @property rule. https://www.w3.org/TR/css-properties-values-api-1/
type Property struct {
	Name, Syntax, Initial string
	Inherits, HasInitial  bool
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
	Rules      []Rule
	FontFaces  []FontFace
	Imports    []Import
	Registered []Property
	Origin     Origin
	Base       string                   // the address against which those in it are
	Text       string                   // as it came, where whoever reads it keeps it
	Offset     int                      // where it begins in the file, for one that stands in a page
	Lines      func() *markup.LineIndex // finds lines in its text; nil where nobody may ask
	Name       string                   // the file or address, for those who ask where a rule stands
	Unknown    []Unknown                // rules whose condition depends on the layout, and which are left out where Pages are read
	Skipped    []Error                  // what was no CSS and was left out, as CSS says it must be
	layers     []layer                  // in the order they are named; the first is no layer at all
}

// layer is a cascade layer. https://www.w3.org/TR/css-cascade-5/#layering
type layer struct {
	name   string // "" for one without a name, which is never named again
	within int    // the layer around it
}

// Unknown is a block of rules left out because its condition asks for the layout.
type Unknown struct {
	Head   string
	Offset int
}

// Medium is what media queries are asked about.
type Medium struct {
	Width, Height float64 // viewport in px
	Dark          bool    // prefers-color-scheme: dark
	Page          bool    // of a page: rules that depend on the layout are skipped, @scope and @supports are judged; drawings take all rules
	// Supports answers @supports for a declaration; nil takes every one that has no prefix of another browser.
	Supports func(property, value string) bool
}

// ParseSheet reads a style sheet. Faulty rules are skipped as CSS Syntax says and listed in Skipped.
func ParseSheet(text string, m Medium) *Sheet {
	return ParseSheetIn(text, m, nil)
}

// ParseSheetIn is ParseSheet for a sheet that is imported into layers, outermost first; "" is one without a name.
func ParseSheetIn(text string, m Medium, layers []string) *Sheet {
	p := &sheetParser{text: text, toks: Tokenize(text), medium: m, sheet: &Sheet{layers: make([]layer, 1)}}
	var in around
	for _, l := range layers {
		in.layer = p.layer(l, in.layer)
	}
	p.rules(len(p.toks), in)
	return p.sheet
}

// ParseDecls reads a declaration list, such as a style attribute.
func ParseDecls(text string) []Decl {
	p := &sheetParser{text: text, toks: Tokenize(text), sheet: &Sheet{}}
	return p.decls(len(p.toks))
}

type sheetParser struct {
	text   string
	toks   []Token
	i      int
	medium Medium
	sheet  *Sheet

	prefixes map[string]string // of @namespace
	grown    int               // bytes of selectors that are nested
	named    map[layer]int     // the places of layers that have a name

	statements []string // the layers that @layer statements named so far
}

func (p *sheetParser) skip(offset int, msg string) {
	p.sheet.Skipped = append(p.sheet.Skipped, Error{offset, msg})
}

// block finds the end of the block whose { is at p.i: the index of its }, or the end of the sheet.
func (p *sheetParser) block() int {
	depth := 0
	for k := p.i; k < len(p.toks); k++ {
		switch p.toks[k].Type { // every brace is looked at once for each block around it
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

// around is what a run of rules stands in.
type around struct {
	rule   *Selector // of the rule around it; nil for none
	offset int       // of that rule
	layer  int       // into the sheet's layers
	depth  int
	heads  []string
	scope  *scope
}

// rules reads rules up to token end (not eaten); within a rule also its declarations. Where rules stand between them,
// those behind count as written there. https://www.w3.org/TR/css-nesting-1/
func (p *sheetParser) rules(end int, in around) {
	var decls []Decl
	flush := func() {
		if len(decls) > 0 {
			p.sheet.Rules = append(p.sheet.Rules, Rule{in.rule, decls, in.offset, in.heads, p.sheet, in.layer, in.scope})
			decls = nil
		}
	}
	for p.i < end {
		switch t := p.toks[p.i]; t.Type {
		case lexer.WhitespaceToken, lexer.CDOToken, lexer.CDCToken, lexer.SemicolonToken, lexer.CommentToken:
			p.i++
		case lexer.AtKeywordToken:
			flush()
			p.atRule(in, end)
		default:
			if in.rule != nil && !p.beginsRule(end) {
				if d, ok := p.decl(end); ok {
					decls = append(decls, d)
				}
				continue
			}
			flush()
			p.styleRule(in, end)
		}
	}
	flush()
}

// beginsRule reports whether what stands next within a rule is a rule: its { comes before any ; does.
func (p *sheetParser) beginsRule(end int) bool {
	if p.toks[p.i].Type == lexer.CustomPropertyNameToken {
		return false
	}
	depth := 0
	for _, t := range p.toks[p.i:end] {
		switch t.Type {
		case lexer.LeftParenthesisToken, lexer.FunctionToken, lexer.LeftBracketToken:
			depth++
		case lexer.RightParenthesisToken, lexer.RightBracketToken:
			depth--
		case lexer.SemicolonToken, lexer.RightBraceToken:
			if depth <= 0 {
				return false
			}
		case lexer.LeftBraceToken:
			return true
		}
	}
	return false
}

// prelude collects text up to { or ; (not eaten).
func (p *sheetParser) prelude(end int) string {
	from := p.i
	for ; p.i < end; p.i++ {
		if t := &p.toks[p.i]; t.Type == lexer.LeftBraceToken || t.Type == lexer.SemicolonToken {
			break
		}
	}
	return joined(p.text, p.toks[from:p.i])
}

func (p *sheetParser) styleRule(in around, end int) {
	from := p.i
	for p.i < end && p.toks[p.i].Type != lexer.LeftBraceToken {
		p.i++
	}
	head, offset := p.toks[from:p.i], p.toks[from].Offset
	if p.i >= end {
		p.skip(offset, "a rule without a block")
		return
	}
	close := min(p.block(), end)
	p.i++
	if sel := p.selector(head, offset, in); sel != nil {
		in.rule, in.offset, in.depth = sel, offset, in.depth+1
		p.rules(close, in)
	}
	p.i = close + 1
}

// selector reads the selector of a rule, nested or not; nil where the rule is left out.
func (p *sheetParser) selector(head []Token, offset int, in around) *Selector {
	if in.depth >= maxNesting {
		p.skip(offset, fmt.Sprintf("rules more than %d deep", maxNesting))
		return nil
	}
	self, within := ":scope", in.rule != nil
	if in.rule != nil {
		self = ":is(" + in.rule.Text + ")"
		grown := nestedLength(head, self)
		if p.grown += grown; grown > maxSelector || p.grown > maxGrown {
			p.skip(offset, "a selector that grows beyond measure through nesting")
			return nil
		}
	}
	if in.scope != nil && in.rule == nil {
		self, within = ":where(:scope)", true
	}
	sel, err := parseSelector(nested(head, self, within), p.prefixes)
	if err != nil {
		p.skip(offset+err.(*Error).Offset, err.Error())
		return nil
	}
	return sel
}

// How long a selector may get through nesting, and all of a sheet together, in bytes.
const (
	maxSelector = 1 << 14
	maxGrown    = 1 << 21
)

// nestedLength is how long a selector list becomes at most by what is put into it.
func nestedLength(head []Token, self string) int {
	n := len(self) + 1
	for _, t := range head {
		if n += len(t.Data); t.Type == lexer.CommaToken || t.Data == "&" {
			n += len(self) + 1
		}
	}
	return n
}

// nested is a selector list with self put where & stands, and, within a rule, before each selector without one.
func nested(head []Token, self string, within bool) string {
	var b, one strings.Builder
	nests, depth := false, 0
	flush := func() {
		if within && !nests {
			b.WriteString(self + " " + strings.TrimSpace(one.String()))
		} else {
			b.WriteString(one.String()) // unchanged, so that errors keep their position
		}
		one.Reset()
		nests = false
	}
	for i, t := range head {
		switch t.Type {
		case lexer.IdentToken: // :scope says itself what it starts from
			nests = nests || i > 0 && head[i-1].Type == lexer.ColonToken && strings.EqualFold(t.Data, "scope")
		case lexer.LeftParenthesisToken, lexer.FunctionToken, lexer.LeftBracketToken:
			depth++
		case lexer.RightParenthesisToken, lexer.RightBracketToken:
			depth--
		case lexer.CommaToken:
			if depth <= 0 {
				flush()
				b.WriteByte(',')
				continue
			}
		case lexer.DelimToken:
			if t.Data == "&" {
				one.WriteString(self)
				nests = true
				continue
			}
		}
		one.WriteString(t.Data)
	}
	flush()
	return b.String()
}

func (p *sheetParser) atRule(in around, end int) {
	name, offset := p.toks[p.i].Text(), p.toks[p.i].Offset
	p.i++
	pre := strings.TrimSpace(p.prelude(end))
	if p.i >= end || p.toks[p.i].Type == lexer.SemicolonToken {
		switch name {
		case "import":
			p.importRule(pre, offset)
		case "namespace":
			p.namespace(Tokenize(pre))
		case "layer":
			for _, l := range SplitTop(pre, ',') {
				p.layer(strings.TrimSpace(l), in.layer)
				p.statements = append(p.statements, strings.TrimSpace(l))
			}
		}
		p.i++
		return
	}
	close := min(p.block(), end)
	p.i++
	inner, holds := in, true
	inner.depth++
	switch name {
	case "media":
		holds = MatchMedia(pre, p.medium)
	case "supports":
		holds = Supports(pre, p.medium.Supports)
	case "layer":
		inner.layer = p.layer(pre, in.layer)
	case "container":
		if p.medium.Page {
			p.sheet.Unknown = append(p.sheet.Unknown, Unknown{"@container " + pre, offset})
			holds = false
		}
	case "scope":
		if p.medium.Page {
			inner.scope, holds = p.scopeOf(pre, offset, in)
			inner.rule = nil
		}
	case "property":
		p.property(pre, p.decls(close))
		holds = false
	case "font-face":
		p.sheet.FontFaces = append(p.sheet.FontFaces, fontFace(p.decls(close)))
		holds = false
	case "keyframes", "-webkit-keyframes", "page", "counter-style", "font-feature-values", "starting-style",
		"view-transition",
		"font-palette-values", "position-try", "charset", "namespace", "-moz-document", "-ms-viewport", "viewport":
		holds = false
	default:
		p.skip(offset, "@"+name+" is not known")
		holds = false
	}
	if holds && inner.depth <= maxNesting {
		inner.heads = append(in.heads[:len(in.heads):len(in.heads)], strings.TrimSpace("@"+name+" "+pre))
		p.rules(close, inner)
	}
	p.i = close + 1
}

// layer is the place of a layer in the sheet's list, by its name ("base.reset" is one within another).
func (p *sheetParser) layer(name string, within int) int {
	for i, part := range strings.Split(name, ".") {
		l := layer{part, within}
		at, known := p.named[l]
		if !known {
			if i == maxNesting {
				break
			}
			at = len(p.sheet.layers)
			p.sheet.layers = append(p.sheet.layers, l)
			if part != "" {
				if p.named == nil {
					p.named = map[layer]int{}
				}
				p.named[l] = at
			}
		}
		within = at
	}
	return within
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
	p.each(end, func(d Decl) { out = append(out, d) })
	return out
}

// each reads declarations one by one.
func (p *sheetParser) each(end int, take func(Decl)) {
	for p.i < end {
		t := p.toks[p.i]
		if t.Type == lexer.WhitespaceToken || t.Type == lexer.SemicolonToken {
			p.i++
			continue
		}
		if d, ok := p.decl(end); ok {
			take(d)
		}
	}
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
	d.Value = strings.TrimSpace(joined(p.text, p.toks[from:p.i]))
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
