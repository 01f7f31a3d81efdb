package css

import (
	"slices"
	"strings"

	lexer "github.com/tdewolff/parse/v2/css"
)

// importRule reads `"a.css" layer(base) supports(display: grid) screen`. One whose conditions do not hold is left out.
func (p *sheetParser) importRule(pre string, offset int) {
	toks := Tokenize(pre)
	if len(toks) == 0 {
		return
	}
	im := Import{URL: toks[0].Text(), Offset: offset, Before: slices.Clone(p.statements)}
	rest := pre[len(toks[0].Data):]
	if toks[0].Type == lexer.FunctionToken { // url( "a.css" )
		end := closing(pre, len(toks[0].Data)-1)
		if end < 0 {
			return
		}
		im.URL = Unquote(pre[len(toks[0].Data):end])
		rest = pre[end+1:]
	}
	rest = strings.TrimSpace(rest)
	if name, after, ok := cutFunction(rest, "layer"); ok {
		im.In, im.Layer, rest = true, name, after
	} else if after, ok := strings.CutPrefix(rest, "layer"); ok && (after == "" || after[0] == ' ') {
		im.In, rest = true, strings.TrimSpace(after)
	}
	if cond, after, ok := cutFunction(rest, "supports"); ok {
		if !Supports("("+cond+")", p.medium.Supports) && !Supports(cond, p.medium.Supports) {
			return
		}
		rest = after
	}
	if im.Media = rest; im.URL != "" && MatchMedia(im.Media, p.medium) {
		p.sheet.Imports = append(p.sheet.Imports, im)
	}
}

// namespace reads `svg url(http://www.w3.org/2000/svg)`.
func (p *sheetParser) namespace(toks []Token) {
	prefix, space, has := "", "", false
	for _, t := range toks {
		switch t.Type {
		case lexer.IdentToken:
			prefix = t.Text()
		case lexer.StringToken, lexer.URLToken:
			space, has = t.Text(), true
		}
	}
	if !has {
		return
	}
	if p.prefixes == nil {
		p.prefixes = map[string]string{}
	}
	p.prefixes[prefix] = space
}

// cutFunction cuts name(args) from the beginning of a text.
func cutFunction(s, name string) (args, rest string, ok bool) {
	if len(s) <= len(name) || !strings.EqualFold(s[:len(name)], name) || s[len(name)] != '(' {
		return "", s, false
	}
	end := closing(s, len(name))
	if end < 0 {
		return "", s, false
	}
	return strings.TrimSpace(s[len(name)+1 : end]), strings.TrimSpace(s[end+1:]), true
}

// property reads an @property rule; one that lacks what it must have is left out.
func (p *sheetParser) property(name string, decls []Decl) {
	out := Property{Name: name}
	syntax, inherits := false, false
	for _, d := range decls {
		switch d.Prop {
		case "syntax":
			out.Syntax, syntax = Unquote(d.Value), true
		case "inherits":
			out.Inherits, inherits = d.Value == "true", true
		case "initial-value":
			out.Initial, out.HasInitial = d.Value, true
		}
	}
	if strings.HasPrefix(name, "--") && syntax && inherits && (out.HasInitial || out.Syntax == "*") {
		p.sheet.Registered = append(p.sheet.Registered, out)
	}
}

// scopeOf reads the head of @scope: `(.card) to (.content)`; ok is false where it is none.
func (p *sheetParser) scopeOf(pre string, offset int, in around) (*scope, bool) {
	out := &scope{within: in.scope}
	read := func(s string) (*Selector, string, bool) {
		end := closing(s, 0)
		if end < 0 {
			return nil, s, false
		}
		sel, err := parseSelector(s[1:end], p.prefixes)
		return sel, strings.TrimSpace(s[end+1:]), err == nil
	}
	ok := true
	rest := pre
	if strings.HasPrefix(rest, "(") {
		if out.root, rest, ok = read(rest); !ok {
			p.skip(offset, "@scope "+pre+" is not understood")
			return nil, false
		}
	}
	if after, to := strings.CutPrefix(rest, "to"); to {
		if rest = strings.TrimSpace(after); !strings.HasPrefix(rest, "(") {
			return nil, false
		}
		if out.limit, rest, ok = read(rest); !ok {
			p.skip(offset, "@scope "+pre+" is not understood")
			return nil, false
		}
	}
	return out, rest == ""
}
