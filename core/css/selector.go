package css

import (
	"fmt"
	"strings"

	lexer "github.com/tdewolff/parse/v2/css"
)

// Selector is a parsed selector list of Selectors Level 4.
// https://www.w3.org/TR/selectors-4/
type Selector struct {
	Text    string
	Complex []Complex
}

// Complex is one selector of the list: compounds from right to left.
type Complex struct {
	Parts []Compound
	Spec  Specificity
}

// Specificity counts ids, classes and types. https://www.w3.org/TR/selectors-4/#specificity-rules
type Specificity [3]int

// Less reports whether s gives way to o.
func (s Specificity) Less(o Specificity) bool {
	for i := range s {
		if s[i] != o[i] {
			return s[i] < o[i]
		}
	}
	return false
}

func (s Specificity) plus(o Specificity) Specificity {
	return Specificity{s[0] + o[0], s[1] + o[1], s[2] + o[2]}
}

// Compound is a run of simple selectors, and how it joins the compound to its left: ' ', '>', '+', '~', or 0 for
// the leftmost.
type Compound struct {
	Comb   byte
	Tag    string // "" or "*" for any
	Spaced bool   // only elements of a namespace
	Space  string // that namespace; "" for none
	ID     []string
	Class  []string
	Attrs  []attrTest
	Pseudo []pseudo
	Never  bool   // a pseudo-element: no element is meant
	Part   string // its name: "before"
}

type attrTest struct {
	name   string
	spaced bool // of a namespace, and not of none
	any    bool // of any namespace or none
	space  string
	op     byte // 0 present, '=', '~', '|', '^', '$', '*'
	value  string
	nocase bool
}

type pseudo struct {
	name  string
	a, b  int       // an+b
	sel   *Selector // argument of :is, :not, :where, :has, "of S"
	words []string  // of :lang
	old   bool      // :-webkit-any(), which counts as a class whatever stands in it
}

// ParseSelector reads a selector list. The error is an *Error with the offset in s.
func ParseSelector(s string) (*Selector, error) { return parseSelector(s, nil) }

// ParseSelectorIn is ParseSelector with prefixes for namespaces, "" for the default one.
func ParseSelectorIn(s string, namespaces map[string]string) (*Selector, error) {
	return parseSelector(s, namespaces)
}

// parseSelector is ParseSelector where a sheet has given prefixes to namespaces.
func parseSelector(s string, prefixes map[string]string) (*Selector, error) {
	p := &selParser{toks: Tokenize(s), text: s, prefixes: prefixes}
	sel, err := p.list(0, false)
	if err != nil {
		return nil, err
	}
	if p.i < len(p.toks) {
		return nil, p.fail("%q is not expected here", p.toks[p.i].Data)
	}
	sel.Text = strings.TrimSpace(s)
	return sel, nil
}

type selParser struct {
	toks     []Token
	i        int
	text     string
	prefixes map[string]string // of namespaces, "" for the default one
	has      bool              // within :has()
}

func (p *selParser) fail(format string, args ...any) error {
	off := len(p.text)
	if p.i < len(p.toks) {
		off = p.toks[p.i].Offset
	}
	return &Error{off, fmt.Sprintf(format, args...)}
}

func (p *selParser) peek() (Token, bool) {
	if p.i < len(p.toks) {
		return p.toks[p.i], true
	}
	return Token{}, false
}

func (p *selParser) space() bool {
	from := p.i
	for p.i < len(p.toks) && p.toks[p.i].Type == lexer.WhitespaceToken {
		p.i++
	}
	return p.i > from
}

const maxNesting = 32

func (p *selParser) list(depth int, relative bool) (*Selector, error) {
	if depth > maxNesting {
		return nil, p.fail("selectors more than %d deep", maxNesting)
	}
	sel := &Selector{}
	for {
		c, err := p.complex(depth, relative)
		if err != nil {
			return nil, err
		}
		sel.Complex = append(sel.Complex, c)
		if t, ok := p.peek(); !ok || t.Type != lexer.CommaToken {
			return sel, nil
		}
		p.i++
	}
}

func (p *selParser) complex(depth int, relative bool) (Complex, error) {
	var parts []Compound
	p.space()
	comb := byte(0)
	if relative {
		comb = ' '
		if t, ok := p.peek(); ok && t.Type == lexer.DelimToken && strings.Contains(">+~", t.Data) {
			comb = t.Data[0]
			p.i++
			p.space()
		}
	}
	for {
		c, err := p.compound(depth)
		if err != nil {
			return Complex{}, err
		}
		c.Comb = comb
		parts = append(parts, c)
		spaced := p.space()
		t, ok := p.peek()
		if c.Never && ok && t.Type != lexer.CommaToken && t.Type != lexer.RightParenthesisToken {
			return Complex{}, p.fail("nothing may stand behind ::%s", c.Part)
		}
		if !ok || t.Type == lexer.CommaToken || t.Type == lexer.RightParenthesisToken {
			break
		}
		comb = ' '
		if t.Type == lexer.DelimToken && strings.Contains(">+~", t.Data) {
			comb = t.Data[0]
			p.i++
			p.space()
		} else if !spaced {
			return Complex{}, p.fail("%q is not expected here", t.Data)
		}
	}
	out := Complex{}
	for i := len(parts) - 1; i >= 0; i-- {
		out.Parts = append(out.Parts, parts[i])
		out.Spec = out.Spec.plus(parts[i].specificity())
	}
	return out, nil
}

func (c *Compound) specificity() Specificity {
	s := Specificity{len(c.ID), len(c.Class) + len(c.Attrs), 0}
	if c.Tag != "" && c.Tag != "*" {
		s[2]++
	}
	if c.Never {
		s[2]++
	}
	for _, ps := range c.Pseudo {
		switch {
		case ps.old:
			s[1]++
			continue
		}
		switch ps.name {
		case "where":
			continue
		case "is", "not", "has":
		default:
			s[1]++
		}
		if ps.sel != nil {
			var top Specificity
			for _, cx := range ps.sel.Complex {
				if top.Less(cx.Spec) {
					top = cx.Spec
				}
			}
			s = s.plus(top)
		}
	}
	return s
}

func (p *selParser) compound(depth int) (c Compound, err error) {
	start, named := p.i, false // named: its namespace is written
	defer func() {
		if space, ok := p.prefixes[""]; ok && !named && (c.Tag != "" || depth == 0) {
			c.Spaced, c.Space = true, space
		}
	}()
	for {
		t, ok := p.peek()
		if !ok {
			break
		}
		switch {
		case c.Never && t.Type != lexer.ColonToken && t.Type != lexer.WhitespaceToken && t.Type != lexer.CommaToken && t.Type != lexer.RightParenthesisToken:
			return c, p.fail("nothing may stand behind ::%s", c.Part)
		case t.Type == lexer.DelimToken && t.Data == "&": // outside of all rules: where the search begins
			p.i++
			c.Pseudo = append(c.Pseudo, pseudo{name: "where", sel: &Selector{Text: ":scope", Complex: []Complex{{Parts: []Compound{{Pseudo: []pseudo{{name: "scope"}}}}}}}})
		case isName(t) && p.i == start:
			c.Tag = t.Text()
			p.i++
		case t.Type == lexer.DelimToken && t.Data == "*" && p.i == start:
			c.Tag = "*"
			p.i++
		case t.Type == lexer.DelimToken && t.Data == "|" && p.i <= start+1:
			prefix := c.Tag
			switch space, known := p.prefixes[prefix]; {
			case p.i == start:
				c.Spaced, c.Space = true, ""
			case prefix == "*":
				c.Spaced = false
			case !known:
				return c, p.fail("the namespace %s has no @namespace", prefix)
			default:
				c.Spaced, c.Space = true, space
			}
			named = true
			p.i++
			n, ok := p.peek()
			if !ok || (!isName(n) && n.Data != "*") {
				return c, p.fail("a name is wanted after |")
			}
			c.Tag = n.Text()
			p.i++
		case t.Type == lexer.HashToken:
			if d := t.Data[1:]; d == "-" || strings.TrimLeft(d, "0123456789") != d || len(d) > 1 && d[0] == '-' && d[1] >= '0' &&
				d[1] <= '9' {
				return c, p.fail("an id that begins with a digit is written #\\%x %s", t.Text()[0], t.Text()[1:])
			}
			c.ID = append(c.ID, t.Text())
			p.i++
		case t.Type == lexer.DelimToken && t.Data == ".":
			p.i++
			n, ok := p.peek()
			if !ok || !isName(n) {
				return c, p.fail("a class name is wanted after the dot")
			}
			c.Class = append(c.Class, n.Text())
			p.i++
		case t.Type == lexer.LeftBracketToken:
			a, err := p.attr()
			if err != nil {
				return c, err
			}
			c.Attrs = append(c.Attrs, a)
		case t.Type == lexer.ColonToken:
			if err := p.pseudo(&c, depth); err != nil {
				return c, err
			}
		default:
			if p.i == start {
				return c, p.fail("a selector is wanted, not %q", t.Data)
			}
			return c, nil
		}
	}
	if p.i == start {
		return c, p.fail("a selector is wanted here")
	}
	return c, nil
}

// isName reports whether a token is an identifier, --such among them.
func isName(t Token) bool {
	return t.Type == lexer.IdentToken || t.Type == lexer.CustomPropertyNameToken
}

func (p *selParser) attr() (attrTest, error) {
	p.i++ // [
	p.space()
	var a attrTest
	t, ok := p.peek()
	if ok && t.Type == lexer.DelimToken && (t.Data == "*" || t.Data == "|") { // *|name
		a.any = t.Data == "*"
		p.i++
		if n, ok := p.peek(); ok && n.Data == "|" {
			p.i++
		}
		t, ok = p.peek()
	}
	if !ok || t.Type != lexer.IdentToken {
		return a, p.fail("an attribute name is wanted after [")
	}
	a.name = t.Text()
	p.i++
	if n, ok := p.peek(); ok && n.Type == lexer.DelimToken && n.Data == "|" { // prefix|name
		p.i++
		if t, ok = p.peek(); !ok || t.Type != lexer.IdentToken {
			return a, p.fail("an attribute name is wanted after |")
		}
		if space, known := p.prefixes[a.name]; known {
			a.spaced, a.space, a.name = true, space, t.Text()
		} else if p.prefixes == nil {
			a.name += ":" + t.Text() // the name keeps its prefix, as written
		} else {
			return a, p.fail("the namespace %s has no @namespace", a.name)
		}
		p.i++
	}
	p.space()
	t, ok = p.peek()
	if ok && t.Type == lexer.RightBracketToken {
		p.i++
		return a, nil
	}
	switch {
	case !ok:
	case t.Type == lexer.DelimToken && t.Data == "=":
		a.op = '='
	case len(t.Data) == 2 && t.Data[1] == '=':
		a.op = t.Data[0]
	}
	if a.op == 0 {
		return a, p.fail("= or ] is wanted after [%s", a.name)
	}
	p.i++
	p.space()
	t, ok = p.peek()
	if !ok || (t.Type != lexer.IdentToken && t.Type != lexer.StringToken) {
		return a, p.fail("a name or a quoted value is wanted in [%s…]", a.name)
	}
	a.value = t.Text()
	p.i++
	p.space()
	if t, ok = p.peek(); ok && t.Type == lexer.IdentToken && strings.EqualFold(t.Data, "i") { // browsers know no s yet
		a.nocase = true
		p.i++
		p.space()
	}
	if t, ok = p.peek(); !ok || t.Type != lexer.RightBracketToken {
		return a, p.fail("] is missing")
	}
	p.i++
	return a, nil
}
