package computed

import (
	"strings"

	"archetyp/core/css"
	"archetyp/core/css/grammar"
)

// vars are custom properties of an element; those of its parent where it has none of its own.
// https://www.w3.org/TR/css-variables-1/
type vars struct {
	own   map[string]*custom
	above *vars
}

// custom is a custom property: its text, and what that comes to.
type custom struct {
	text  string
	in    *Style
	state uint8 // of value
	value string
	valid bool
}

const (
	notYet uint8 = iota
	underWay
	known
)

// mostText is how long a value may get by what is put into it.
const mostText = 1 << 20

func (s *Style) customs(list map[string]win, order []applied) *vars {
	var above *vars
	if s.parent != nil {
		above = s.parent.vars
	}
	if len(list) == 0 {
		return above
	}
	own := make(map[string]*custom, len(list))
	for name, w := range list {
		d := w.decl
		for d != nil && (d.wide == wideRevert || d.wide == wideRevertLayer) {
			d = s.lowerCustom(name, &w, order, d.wide)
		}
		switch {
		case d == nil || d.wide == wideInherit || d.wide == wideUnset:
			if r := s.page.registered[name]; r == nil || r.Inherits || d != nil && d.wide == wideInherit {
				if c := above.get(name); c != nil {
					own[name] = c
					continue
				}
			}
			own[name] = &custom{state: known}
		case d.wide == wideInitial:
			own[name] = &custom{state: known}
		default:
			own[name] = &custom{text: d.text, in: s}
		}
	}
	return &vars{own, above}
}

// lowerCustom is Style.lower for a custom property.
func (s *Style) lowerCustom(name string, w *win, order []applied, keyword wide) *decl {
	m := &s.matches[order[w.from].match]
	for k := w.from; k >= 0; k-- {
		o := &s.matches[order[k].match]
		if keyword == wideRevert && o.origin != fromBrowser || keyword == wideRevertLayer && o.origin == m.origin && o.layer == m.layer {
			continue
		}
		for n := len(order[k].decls) - 1; n >= 0; n-- {
			if d := &order[k].decls[n]; d.custom == name {
				w.from = k
				return d
			}
		}
	}
	return nil
}

func (v *vars) get(name string) *custom {
	for ; v != nil; v = v.above {
		if c := v.own[name]; c != nil {
			return c
		}
	}
	return nil
}

// Custom is the computed value of a custom property; ok is false where it has none.
func (s *Style) Custom(name string) (value string, ok bool) { return s.custom(name) }

func (s *Style) custom(name string) (string, bool) {
	r := s.page.registered[name]
	v := s.vars
	if r != nil && !r.Inherits {
		if own := s.vars; own == nil || s.parent != nil && own == s.parent.vars {
			v = nil
		} else if c := own.own[name]; c != nil {
			return c.get(name, r)
		} else {
			v = nil
		}
	}
	if c := v.get(name); c != nil && (c.in != nil || c.valid) {
		if value, ok := c.get(name, r); ok {
			return value, true
		}
	}
	if r != nil && r.HasInitial {
		if value, ok := s.typed(r, r.Initial); ok {
			return value, true
		}
	}
	return "", false
}

// get is the value of a custom property: what it refers to put in, once. One that refers to itself has none.
func (c *custom) get(name string, r *registered) (string, bool) {
	switch c.state {
	case known:
		return c.value, c.valid
	case underWay:
		c.valid = false
		return "", false
	}
	c.state = underWay
	value, ok := c.in.filled(c.text, 0)
	if ok && r != nil {
		value, ok = c.in.typed(r, value)
	}
	c.state, c.value, c.valid = known, value, ok
	return value, ok
}

// typed computes the value of a registered property by its syntax.
func (s *Style) typed(r *registered, text string) (string, bool) {
	if r.Syntax == "*" {
		return text, true
	}
	if r.grammar == nil {
		return text, false
	}
	parts, ok := r.grammar.Text(text)
	if !ok {
		return "", false
	}
	v := s.settled(&Value{Parts: parts, depends: depends(parts)}, s.units(s.size))
	return Text(s.painted(v.Parts)), true
}

// registered is a custom property with a type of its own. https://www.w3.org/TR/css-properties-values-api-1/
type registered struct {
	*css.Property
	grammar *grammar.Grammar // of its syntax; nil for any text, and for a syntax that cannot be read
}

func register(p *css.Property) *registered {
	g, err := grammar.Compile(strings.ReplaceAll(p.Syntax, "<transform-list>", "<transform-function>+"))
	if err != nil {
		g = nil
	}
	return &registered{p, g}
}

// filled is a text with var(), env() and attr() put in.
func (s *Style) filled(text string, depth int) (string, bool) {
	if depth > 64 || len(text) > mostText {
		return "", false
	}
	var b strings.Builder
	for {
		i, name := nextFunction(text)
		if i < 0 {
			b.WriteString(text)
			return strings.TrimSpace(b.String()), b.Len() <= mostText
		}
		open := i + len(name)
		end := closing(text, open)
		if end < 0 {
			end = len(text)
		}
		b.WriteString(text[:i])
		value, ok := s.function(name, text[open+1:end], depth)
		if !ok || b.Len()+len(value) > mostText {
			return "", false
		}
		if b.Len() > 0 && value != "" && joins(b.String()[b.Len()-1], value[0]) {
			b.WriteString("/**/") // they stay two
		}
		b.WriteString(value)
		text = text[min(end+1, len(text)):]
		if value != "" && text != "" && joins(value[len(value)-1], text[0]) {
			b.WriteString("/**/")
		}
	}
}

// joins reports whether two bytes side by side would become one token.
func joins(a, b byte) bool {
	name := func(c byte) bool {
		return c == '-' || c == '_' || c == '%' || c >= '0' && c <= '9' || c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= 0x80
	}
	return name(a) && name(b) || a == '#' && name(b)
}

// nextFunction finds the next function that is put in, outside of strings.
func nextFunction(text string) (at int, name string) {
	for i := 0; i < len(text); i++ {
		switch c := text[i]; {
		case c == '"' || c == '\'':
			i = css.StringEnd(text, i)
		case c == '(':
			for _, f := range []string{"var", "env", "attr"} {
				if k := i - len(f); k >= 0 && strings.EqualFold(text[k:i], f) && (k == 0 || !joins(text[k-1], 'a')) {
					return k, f
				}
			}
		}
	}
	return -1, ""
}

// closing is where the bracket that opens at a place is closed, or -1.
func closing(text string, open int) int {
	depth := 0
	for i := open; i < len(text); i++ {
		switch c := text[i]; {
		case c == '"' || c == '\'':
			i = css.StringEnd(text, i)
		case c == '(':
			depth++
		case c == ')':
			if depth--; depth == 0 {
				return i
			}
		}
	}
	return -1
}

func (s *Style) function(name, args string, depth int) (string, bool) {
	head, fallback, has := args, "", false
	if i := topComma(args); i >= 0 {
		head, fallback, has = args[:i], args[i+1:], true
	}
	head = strings.TrimSpace(head)
	value, ok := "", false
	switch name {
	case "var":
		if !strings.HasPrefix(head, "--") {
			return "", false
		}
		value, ok = s.custom(head)
	case "env":
		if strings.HasPrefix(head, "safe-area-inset-") {
			value, ok = "0px", true
		}
	case "attr":
		return s.attribute(head, fallback, has, depth)
	}
	if !ok && has {
		value, ok = s.filled(fallback, depth+1)
	}
	return value, ok
}

// attribute is what attr() gives: `attr(data-n)` a string, `attr(data-n type(<length>))` a value.
func (s *Style) attribute(head, fallback string, has bool, depth int) (string, bool) {
	name, typ, _ := strings.Cut(head, " ")
	v, ok := s.node.Attr(strings.ToLower(name))
	typ = strings.TrimSpace(typ)
	switch {
	case ok && (typ == "" || typ == "string" || typ == "raw-string"):
		return css.String(v), true
	case ok && typ == "number":
		return v, true
	case ok && strings.HasPrefix(typ, "type("):
		if g, err := grammar.Compile(strings.TrimSuffix(strings.TrimPrefix(typ, "type("), ")")); err == nil {
			if _, fits := g.Text(v); fits {
				return v, true
			}
		}
	case ok && typ != "":
		return v + typ, true
	}
	if has {
		return s.filled(fallback, depth+1)
	}
	if typ == "" {
		return `""`, true
	}
	return "", false
}

// topComma is the first comma outside of brackets and strings; -1 for none.
func topComma(text string) int {
	depth := 0
	for i := 0; i < len(text); i++ {
		switch c := text[i]; {
		case c == '"' || c == '\'':
			i = css.StringEnd(text, i)
		case c == '(' || c == '[' || c == '{':
			depth++
		case c == ')' || c == ']' || c == '}':
			depth--
		case c == ',' && depth == 0:
			return i
		}
	}
	return -1
}

// substituted is the value of a declaration with var() in it; where that comes to nothing, it is as if unset.
func (s *Style) substituted(i ID, d *decl) (*Value, wide) {
	text, ok := s.filled(d.text, 0)
	if !ok {
		return nil, wideUnset
	}
	if w := wideOf(text); w != notWide {
		return nil, w
	}
	var v *Value
	if d.short == "" {
		v = s.page.long(table().all[i].name, text)
	} else {
		for _, l := range s.page.short(d.short, text) {
			name := l.name
			if x, is := logicals[name]; is {
				name = x.physical(s.word("writing-mode"), s.word("direction"))
			}
			if id(name) == i {
				v = l.value
			}
		}
	}
	if v == nil {
		return nil, wideUnset
	}
	return v, notWide
}

// readShort reads the value of a shorthand; nil where it takes none such.
func readShort(name, text string) []longhand {
	parts, err := grammar.Parts(text)
	if err != nil || len(parts) == 0 {
		return nil
	}
	s := shorthands[name]
	out, ok := s.take(s.names, parts)
	if !ok {
		return nil
	}
	return out
}
