package computed

import (
	"slices"
	"strings"

	"archetyp/core/css"
	"archetyp/core/limit"
	"archetyp/core/markup"
)

// Page computes the styles of one tree in one medium. It is not safe to use side by side.
type Page struct {
	Medium css.Medium
	Quirks bool // the page has no doctype
	// Schemes are those that a <meta name="color-scheme"> says the page has, for elements that say nothing themselves.
	Schemes []string
	// URL makes an address absolute that stands in a sheet; nil leaves it as it is.
	URL func(s *css.Sheet, ref string) string

	cascade    *css.Cascade
	hints      func(*markup.Node) []css.Decl
	blocks     map[*css.Rule]*block
	longs      map[longKey]*Value
	shorts     map[shortKey][]longhand
	registered map[string]*registered
	shared     map[*Style]map[string]*Style
	root       *Style
	plain      *Style // of an element that nothing is declared for
	wins       []win  // by property, while an element is computed
	round      uint32
	spent      *limit.Budget
}

type longKey struct {
	id   ID
	text string
}

type shortKey struct{ name, text string }

// NewPage prepares style sheets, those of the browser first. states are pseudo-classes in force. hints are what
// attributes of an element declare; they give way to every rule of the page.
func NewPage(root *markup.Node, sheets []*css.Sheet, m css.Medium, states map[string]bool, hints func(*markup.Node) []css.Decl,
	budget *limit.Budget) *Page {
	p := &Page{Medium: m, hints: hints, blocks: map[*css.Rule]*block{}, longs: map[longKey]*Value{}, shorts: map[shortKey][]longhand{},
		registered: map[string]*registered{}, shared: map[*Style]map[string]*Style{}, wins: make([]win, len(table().all)), spent: budget}
	p.cascade = css.NewCascadeIn(root, sheets, nil, states, budget)
	for _, s := range sheets {
		for i := range s.Registered {
			p.registered[s.Registered[i].Name] = register(&s.Registered[i])
		}
	}
	return p
}

// Err is the limit that was reached, as a *limit.Error.
func (p *Page) Err() error { return p.cascade.Err() }

// block is what a rule declares, longhand by longhand.
type block struct{ normal, important []decl }

// decl is one declaration of a longhand, a logical property or a custom property.
type decl struct {
	id      ID
	logical string
	custom  string
	value   *Value
	wide    wide   // a keyword that every property takes
	text    string // with var() in it, to be read where it is used
	short   string // the shorthand that text is of
	from    *css.Decl
}

// wide is one of the keywords that every property takes.
type wide uint8

const (
	notWide wide = iota
	wideInitial
	wideInherit
	wideUnset
	wideRevert
	wideRevertLayer
)

func wideOf(text string) wide {
	if len(text) < 5 || len(text) > 12 {
		return notWide
	}
	switch strings.ToLower(text) {
	case "initial":
		return wideInitial
	case "inherit":
		return wideInherit
	case "unset":
		return wideUnset
	case "revert":
		return wideRevert
	case "revert-layer":
		return wideRevertLayer
	}
	return notWide
}

// block prepares a rule, once.
func (p *Page) block(r *css.Rule) *block {
	b := p.blocks[r]
	if b == nil {
		b = p.prepare(r.Decls)
		p.blocks[r] = b
	}
	return b
}

func (p *Page) prepare(decls []css.Decl) *block {
	b := &block{}
	for i := range decls {
		list := &b.normal
		if decls[i].Important {
			list = &b.important
		}
		*list = append(*list, p.expand(&decls[i])...)
	}
	return b
}

// expand takes a declaration apart into longhands; what is no value of its property is left out.
func (p *Page) expand(d *css.Decl) []decl {
	if strings.HasPrefix(d.Prop, "--") {
		return []decl{{id: none, custom: d.Prop, text: d.Value, wide: wideOf(d.Value), from: d}}
	}
	name := d.Prop
	if a, ok := aliases[name]; ok {
		name = a
	}
	short, isShort := shorthands[name]
	names := []string{name}
	if isShort {
		names = short.names
	} else if _, ok := table().byName[name]; !ok {
		if _, ok := logicals[name]; !ok {
			return nil
		}
	}
	out := make([]decl, 0, len(names))
	add := func(name string, x decl) {
		x.from = d
		if _, is := logicals[name]; is {
			x.id, x.logical = none, name
		} else {
			x.id = id(name)
		}
		out = append(out, x)
	}
	switch w := wideOf(d.Value); {
	case w != notWide:
		for _, n := range names {
			add(n, decl{wide: w})
		}
	case substitutes(d.Value):
		for _, n := range names {
			x := decl{text: d.Value}
			if isShort {
				x.short = name
			}
			add(n, x)
		}
	case isShort:
		for _, l := range p.short(name, d.Value) {
			add(l.name, decl{value: l.value})
		}
	default:
		if v := p.long(name, d.Value); v != nil {
			add(name, decl{value: v})
		}
	}
	return out
}

// substitutes reports whether a value holds something that is put in where it is used.
func substitutes(v string) bool {
	return strings.Contains(v, "(") && (containsFold(v, "var(") || containsFold(v, "env(") || containsFold(v, "attr("))
}

func containsFold(s, lower string) bool {
	return strings.Contains(s, lower) || strings.Contains(strings.ToLower(s), lower)
}

// long reads the value of a longhand or a logical property, and remembers it.
func (p *Page) long(name, text string) *Value {
	if l, ok := logicals[name]; ok {
		name = l.like()
	}
	key := longKey{id(name), text}
	v, known := p.longs[key]
	if !known {
		v = table().read(key.id, text)
		if v == nil && p.Quirks {
			v = quirky(name, text)
		}
		p.longs[key] = v
	}
	return v
}

// short reads the value of a shorthand, and remembers it.
func (p *Page) short(name, text string) []longhand {
	key := shortKey{name, text}
	out, known := p.shorts[key]
	if !known {
		out = readShort(name, text)
		p.shorts[key] = out
	}
	return out
}

// match is a prepared rule that means an element, with where it comes from.
type match struct {
	block  *block
	rule   *css.Match // nil for the style attribute and hints
	origin level
	layer  int
}

// level is an origin as the cascade sorts them.
type level uint8

const (
	fromBrowser level = iota
	fromHints
	fromPage
	fromStyle
)

// Style is the computed style of an element below a parent's; nil for the root.
func (p *Page) Style(n *markup.Node, parent *Style) *Style { return p.style(n, parent, "") }

// HasPart reports whether a rule gives a pseudo-element ("before") of an element content.
func (p *Page) HasPart(n *markup.Node, part string) bool {
	for _, m := range p.cascade.Matched(n, part) {
		for i := range m.Rule.Decls {
			if m.Rule.Decls[i].Prop == "content" {
				return true
			}
		}
	}
	return false
}

// MeansPart reports whether a rule of the page means a pseudo-element ("placeholder") of an element.
func (p *Page) MeansPart(n *markup.Node, part string) bool {
	for _, m := range p.cascade.Matched(n, part) {
		if m.Rule.Sheet.Origin != css.OfBrowser {
			return true
		}
	}
	return false
}

// Part is the computed style of a pseudo-element ("before") of an element.
func (p *Page) Part(n *markup.Node, own *Style, part string) *Style { return p.style(n, own, part) }

func (p *Page) style(n *markup.Node, parent *Style, part string) *Style {
	rules := p.cascade.Matched(n, part)
	var hints, inline []css.Decl
	if part == "" {
		if p.hints != nil {
			hints = p.hints(n)
		}
		if st, ok := n.Attr("style"); ok {
			inline = css.ParseDecls(st)
		}
	}
	// Elements of one parent that the same rules mean have the same style.
	key := ""
	if len(hints) == 0 && len(inline) == 0 {
		key = shareKey(rules, part, n)
		if s := p.shared[parent][key]; key != "" && s != nil {
			return s
		}
	}
	list := make([]match, 0, len(rules)+2)
	hinted := false
	for i := range rules {
		m := match{p.block(rules[i].Rule), &rules[i], fromPage, rules[i].Layer}
		if rules[i].Rule.Sheet.Origin == css.OfBrowser {
			m.origin = fromBrowser
		} else if !hinted && len(hints) > 0 {
			list = append(list, match{p.prepare(hints), nil, fromHints, -1})
			hinted = true
		}
		list = append(list, m)
	}
	if !hinted && len(hints) > 0 {
		list = append(list, match{p.prepare(hints), nil, fromHints, -1})
	}
	if len(inline) > 0 {
		list = append(list, match{p.prepare(inline), nil, fromStyle, 1 << 30})
	}
	s := p.compute(n, parent, list, part)
	if key != "" {
		if p.shared[parent] == nil {
			p.shared[parent] = map[string]*Style{}
		}
		p.shared[parent][key] = s
	}
	if p.root == nil && part == "" {
		p.root = s
	}
	return s
}

// shareKey tells styles apart; "" where an element's own attributes are asked for.
func shareKey(rules []css.Match, part string, n *markup.Node) string {
	b := make([]byte, 0, 4*len(rules)+16)
	for i := range rules {
		for _, d := range rules[i].Rule.Decls {
			if strings.Contains(d.Value, "attr(") {
				return ""
			}
		}
		o := rules[i].Order
		b = append(b, byte(o), byte(o>>8), byte(o>>16), byte(o>>24))
	}
	b = append(b, part...)
	if n.Parent == nil {
		b = append(b, '^')
	}
	if n.Space == markup.SVG { // where browsers take back what they do not draw
		b = append(b, '*')
	}
	return string(b)
}

// applied is a list of declarations in the order in which they win, and where they come from.
type applied struct {
	decls []decl
	match int // into the list of matches
}

// order puts what matches in the order of the cascade: https://www.w3.org/TR/css-cascade-5/#cascade-sort
func order(list []match) []applied {
	out := make([]applied, 0, len(list)+4)
	important := false
	for i := range list {
		if len(list[i].block.normal) > 0 {
			out = append(out, applied{list[i].block.normal, i})
		}
		important = important || len(list[i].block.important) > 0
	}
	if !important {
		return out
	}
	var at []int
	for i := range list {
		if len(list[i].block.important) > 0 {
			at = append(at, i)
		}
	}
	slices.SortStableFunc(at, func(a, b int) int {
		x, y := &list[a], &list[b]
		switch {
		case x.origin == fromBrowser || y.origin == fromBrowser:
			return b2i(x.origin == fromBrowser) - b2i(y.origin == fromBrowser)
		case x.origin != y.origin:
			return int(x.origin) - int(y.origin)
		}
		return y.layer - x.layer // what is important is so the other way round
	})
	for _, i := range at {
		out = append(out, applied{list[i].block.important, i})
	}
	return out
}

// win is the declaration of a property that wins so far.
type win struct {
	round uint32
	decl  *decl
	seq   int // place in the order
	from  int // the applied it stands in
}

// Within makes the page one of a shadow tree: its root font is that of the whole page.
func (p *Page) Within(outer *Page) { p.root = outer.root }

// Slot is the style of a slot within a control of the browser: what is inherited passes through, all else is initial.
func (p *Page) Slot(host *Style, ofList bool) *Style {
	s := &Style{page: p, node: host.node, parent: host, part: "slot", passed: host.passed, shares: true, vars: host.vars,
		size: host.size, keyword: host.keyword, absolute: host.absolute, dark: host.dark, colour: host.colour}
	s.set(id("display"), &Value{Parts: word("block")})
	if ofList {
		s.set(id("line-height"), &Value{Parts: word("normal")})
	}
	return s
}
