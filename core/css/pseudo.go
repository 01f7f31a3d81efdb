package css

import (
	"regexp"
	"strconv"
	"strings"

	lexer "github.com/tdewolff/parse/v2/css"
)

// forgiving reads the argument of :is() and :where(): what cannot be read is left out.
// https://www.w3.org/TR/selectors-4/#forgiving-selector
func (p *selParser) forgiving(depth int) (*Selector, error) {
	if depth > maxNesting {
		return nil, p.fail("selectors more than %d deep", maxNesting)
	}
	sel := &Selector{}
	for {
		c, err := p.complex(depth, false)
		t, ok := p.peek()
		if err == nil && ok && (t.Type == lexer.CommaToken || t.Type == lexer.RightParenthesisToken) {
			sel.Complex = append(sel.Complex, c)
		} else if p.skipItem(); p.i == len(p.toks) {
			return sel, nil
		}
		if p.toks[p.i].Type == lexer.RightParenthesisToken {
			return sel, nil
		}
		p.i++
	}
}

// skipItem goes on to the next comma or closing bracket.
func (p *selParser) skipItem() {
	for depth := 0; p.i < len(p.toks); p.i++ {
		switch p.toks[p.i].Type {
		case lexer.FunctionToken, lexer.LeftParenthesisToken, lexer.LeftBracketToken:
			depth++
		case lexer.RightBracketToken:
			depth--
		case lexer.RightParenthesisToken:
			if depth--; depth < 0 {
				return
			}
		case lexer.CommaToken:
			if depth <= 0 {
				return
			}
		}
	}
}

// plainPseudos are the pseudo-classes without an argument that we know; the user-action and form ones are the
// states a design may show.
var plainPseudos = map[string]bool{
	"root": true, "empty": true, "first-child": true, "last-child": true, "only-child": true, "first-of-type": true,
	"last-of-type": true, "only-of-type": true, "scope": true, "any-link": true, "link": true, "visited": true,
	"hover": true, "active": true, "focus": true, "focus-visible": true, "focus-within": true, "disabled": true,
	"enabled": true, "checked": true, "target": true, "placeholder-shown": true, "required": true, "optional": true,
	"invalid": true, "valid": true, "read-only": true, "read-write": true, "indeterminate": true, "default": true,
	"autofill": true, "open": true, "modal": true, "user-invalid": true, "user-valid": true, "defined": true,
	"in-range": true, "out-of-range": true, "fullscreen": true, "host": true, "-webkit-any-link": true, "-webkit-autofill": true, "-webkit-full-screen": true,
	"target-current": true, "popover-open": true, "picture-in-picture": true, "future": true, "past": true, "current": true, "active-view-transition": true,
}

// follows reports whether a pseudo-class or pseudo-element may stand behind a pseudo-element.
func follows(part, name string, element bool) bool {
	switch {
	case element || name == "before" || name == "after":
		return part == "slotted" || part == "part" || part == "details-content" || name == "marker" && (part == "before" || part == "after") || strings.HasPrefix(part, "-webkit-")
	case part == "part" || part == "slotted" || strings.HasPrefix(part, "-webkit-") || strings.HasPrefix(part, "view-transition") || part == "cue":
		return true
	}
	switch name {
	case "hover", "active", "focus", "focus-visible", "focus-within", "disabled", "enabled", "not", "is", "where":
		return part == "file-selector-button" || part == "picker-icon" || part == "checkmark" || part == "scroll-button" || part == "scroll-marker" || name == "not" || name == "is" || name == "where"
	}
	return name == "window-inactive"
}

// pseudoElements are those without a prefix that browsers know; what bears the prefix -webkit- is taken for one.
var pseudoElements = map[string]bool{"before": true, "after": true, "first-line": true, "first-letter": true, "marker": true, "placeholder": true,
	"selection": true, "backdrop": true, "file-selector-button": true, "cue": true, "slotted": true, "part": true, "highlight": true, "target-text": true,
	"spelling-error": true, "grammar-error": true, "view-transition": true, "view-transition-group": true, "view-transition-image-pair": true,
	"view-transition-old": true, "view-transition-new": true, "details-content": true, "scroll-marker": true, "scroll-marker-group": true, "scroll-button": true,
	"checkmark": true, "picker": true, "picker-icon": true, "column": true, "search-text": true}

func (p *selParser) pseudo(c *Compound, depth int) error {
	p.i++ // :
	t, ok := p.peek()
	element := false
	if ok && t.Type == lexer.ColonToken {
		element = true
		p.i++
		t, ok = p.peek()
	}
	if !ok || (t.Type != lexer.IdentToken && t.Type != lexer.FunctionToken) {
		return p.fail("the name of a pseudo-class is wanted after the colon")
	}
	name := strings.ToLower(t.Text())
	if c.Never && !follows(c.Part, name, element) {
		return p.fail("nothing may stand behind ::%s", c.Part)
	}
	if element || name == "before" || name == "after" || name == "first-line" || name == "first-letter" {
		if !pseudoElements[name] && !strings.HasPrefix(name, "-webkit-") {
			return p.fail("the pseudo-element ::%s is not known", name)
		}
		c.Never, c.Part = true, name
		p.i++
		if t.Type == lexer.FunctionToken {
			return p.skipArgs()
		}
		return nil
	}
	if t.Type == lexer.IdentToken {
		if !plainPseudos[name] {
			return p.fail("the pseudo-class :%s is not known", name)
		}
		p.i++
		c.Pseudo = append(c.Pseudo, pseudo{name: name})
		return nil
	}
	return p.function(c, name, depth)
}

// function reads the arguments of a pseudo-class that has some.
func (p *selParser) function(c *Compound, name string, depth int) error {
	p.i++
	ps := pseudo{name: name}
	var err error
	switch name {
	case "is", "not", "where", "-webkit-any":
		if name == "-webkit-any" {
			ps.name, ps.old = "is", true
		}
		if name == "not" {
			ps.sel, err = p.list(depth+1, false)
			break
		}
		ps.sel, err = p.forgiving(depth + 1)
	case "has":
		if p.has {
			return p.fail(":has() cannot stand within :has()")
		}
		p.has = true
		ps.sel, err = p.list(depth+1, true)
		p.has = false
	case "nth-child", "nth-last-child", "nth-of-type", "nth-last-of-type":
		err = p.nth(&ps, depth)
	case "lang", "dir", "host", "host-context", "state":
		from := p.i
		if err := p.skipArgs(); err != nil {
			return err
		}
		for _, t := range p.toks[from : p.i-1] {
			if (name == "lang" || name == "dir" || name == "state") && t.Type != lexer.IdentToken && t.Type != lexer.WhitespaceToken {
				p.i = from
				return p.fail("one name is wanted in :%s()", name) // as browsers have it
			}
			if t.Type == lexer.IdentToken || t.Type == lexer.StringToken {
				ps.words = append(ps.words, strings.ToLower(t.Text()))
			}
		}
		c.Pseudo = append(c.Pseudo, ps)
		return nil
	default:
		p.i--
		return p.fail("the pseudo-class :%s() is not known", name)
	}
	if err != nil {
		return err
	}
	p.space()
	if t, ok := p.peek(); !ok || t.Type != lexer.RightParenthesisToken {
		return p.fail(") is missing after :%s(", name)
	}
	p.i++
	c.Pseudo = append(c.Pseudo, ps)
	return nil
}

func (p *selParser) skipArgs() error {
	for depth := 1; p.i < len(p.toks); p.i++ {
		switch p.toks[p.i].Type {
		case lexer.FunctionToken, lexer.LeftParenthesisToken:
			depth++
		case lexer.RightParenthesisToken:
			if depth--; depth == 0 {
				p.i++
				return nil
			}
		}
	}
	return p.fail(") is missing")
}

// nth reads an+b, odd, even and "of S". https://www.w3.org/TR/css-syntax-3/#anb-microsyntax
func (p *selParser) nth(ps *pseudo, depth int) error {
	var b strings.Builder
	at := p.i
	for ; p.i < len(p.toks); p.i++ {
		t := p.toks[p.i]
		if t.Type == lexer.RightParenthesisToken {
			break
		}
		if t.Type == lexer.IdentToken && strings.EqualFold(t.Data, "of") && !strings.HasSuffix(ps.name, "type") {
			p.i++
			sel, err := p.list(depth+1, false)
			if err != nil {
				return err
			}
			ps.sel = sel
			break
		}
		if t.Type == lexer.WhitespaceToken {
			b.WriteByte(' ')
		} else {
			b.WriteString(strings.ToLower(t.Data))
		}
	}
	s := strings.TrimSpace(b.String())
	switch s {
	case "odd":
		ps.a, ps.b = 2, 1
		return nil
	case "even":
		ps.a, ps.b = 2, 0
		return nil
	}
	m := anPlusB.FindStringSubmatch(s)
	if m == nil {
		p.i = at
		return p.fail("%q is not of the form an+b", s)
	}
	if m[3] != "" {
		ps.b, _ = strconv.Atoi(m[3])
		return nil
	}
	switch m[1] {
	case "", "+":
		ps.a = 1
	case "-":
		ps.a = -1
	default:
		ps.a, _ = strconv.Atoi(m[1])
	}
	if m[2] != "" {
		ps.b, _ = strconv.Atoi(strings.ReplaceAll(m[2], " ", ""))
	}
	return nil
}

// anPlusB is `-2n + 1` or `3`; white space may stand around the second sign only.
var anPlusB = regexp.MustCompile(`^(?:([+-]?[0-9]*)n( *[+-] *[0-9]+)?|([+-]?[0-9]+))$`)
