package drift

import (
	"slices"
	"strings"

	"archetyp/core/css/computed"
	"archetyp/core/design"
	"archetyp/core/markup"
	"archetyp/core/match"
)

// seen is a difference at one pair of elements.
type seen struct {
	kind     Kind
	spot     Spot
	cause    Cause
	old      *design.StyleDeclaration // what the design's page declares; nil for none
	token    string                   // of the design's value
	far      float64
	unit     string
	message  string                    // of what is no value of a property
	claimed  string                    // what the line of CSS that mends it declares; "" for the design's own declaration
	property string                    // as CSS writes it together, for values of a drawing
	idle     bool                      // it shows nowhere
	vars     []design.StyleDeclaration // custom properties that a value of the page comes from, outermost first
}

// comparing holds one page against an earlier state of it, in one view.
type comparing struct {
	in     *In
	pair   *PagePair
	view   ViewPair
	plain  bool                          // the first view, where words and markup are compared, too
	old    map[*markup.Node]*markup.Node // partner of a node of the site
	new    map[*markup.Node]*markup.Node // partner of a node of the design
	why    map[*markup.Node]match.Reason // by node of the site
	moving map[*markup.Node]bool         // containers of the site in which elements came, went or moved
	hidden [2]map[*markup.Node]bool
	causes map[causeKey]causeOf
	out    []seen
	names  [2]map[*markup.Node]*design.Element
}

// comparePages holds a page against its earlier state in all views.
func comparePages(in *In, p *PagePair) (out []seen, pair Pair) {
	for i := range p.Views {
		c := &comparing{in: in, pair: p, view: p.Views[i], plain: i == 0, old: map[*markup.Node]*markup.Node{}, new: map[*markup.Node]*markup.Node{},
			why: map[*markup.Node]match.Reason{}, causes: map[causeKey]causeOf{}}
		d, s := c.view.Design, c.view.Site
		pairs := match.Trees(d.Markup.Root, s.Markup.Root)
		for _, x := range pairs {
			c.old[x.New], c.new[x.Old], c.why[x.New] = x.Old, x.New, x.Why
		}
		c.run(pairs)
		out = append(out, c.out...)
		if i == 0 {
			pair = Pair{Screen: p.Screen, Design: d.Name, Site: s.Name, Elements: count(d.Markup.Root), Paired: len(pairs)}
		}
		pair.Views = append(pair.Views, c.view.View)
		if i == 0 && in.Reasons {
			for _, x := range pairs {
				pair.Matched = append(pair.Matched, Matched{c.ref(0, x.Old), c.ref(1, x.New), x.Old, x.New, x.Why})
			}
		}
	}
	return out, pair
}

func count(root *markup.Node) (n int) {
	root.Walk(func(k *markup.Node) bool {
		if k.Kind == markup.Element {
			n++
		}
		return true
	})
	return n
}

func (c *comparing) design(n *markup.Node) asking { return asking{c.view.Design.Styles, n} }
func (c *comparing) site(n *markup.Node) asking   { return asking{c.view.Site.Styles, n} }

func (c *comparing) run(pairs []match.NodePair) {
	c.hidden[0] = hiddenIn(c.view.Design)
	c.hidden[1] = hiddenIn(c.view.Site)
	c.moving = map[*markup.Node]bool{}
	c.order(pairs)
	c.lists()
	if !c.plain { // reported in the first view; here it only keeps back what follows from it
		c.out = nil
	}
	for _, p := range pairs {
		if c.hidden[0][p.Old] && c.hidden[1][p.New] || silent(p.New) {
			continue
		}
		c.styles(p.Old, p.New)
		c.parts(p)
		if c.plain && !c.hidden[1][p.New] {
			c.words(p.Old, p.New)
			c.attributes(p.Old, p.New)
		}
	}
	if c.plain && len(pairs) > 0 {
		c.pictures()
		c.idleVariables(pairs[0].Old, pairs[0].New)
		c.idleRules()
	}
}

// hiddenIn are the elements of which nothing is shown.
func hiddenIn(d *design.Document) map[*markup.Node]bool {
	out := map[*markup.Node]bool{}
	var visit func(n *markup.Node, hidden bool)
	visit = func(n *markup.Node, hidden bool) {
		if n.Kind == markup.Element {
			hidden = hidden || n.HTML && n.Local != "title" && (silent(n) && n.Local != "head" || asking{d.Styles, n}.hides() && n.Local != "head")
			if hidden {
				out[n] = true
			}
		}
		for _, k := range match.Inside(n) {
			visit(k, hidden)
		}
	}
	visit(d.Markup.Root, false)
	return out
}

// inherited are the properties that pass from parent to child by themselves.
var inherited = func() (out []string) {
	for _, p := range computed.Properties() {
		if computed.Inherited(p) {
			out = append(out, p)
		}
	}
	return out
}()

// styles compares the values of what either side declares for an element; of one whose surroundings are others, also what
// it inherits.
func (c *comparing) styles(o, n *markup.Node) {
	a, b := c.design(o), c.site(n)
	if c.plain || c.view.State == "" {
		if h := c.hidden[0][o]; h != c.hidden[1][n] && h != c.hidden[0][parent(o)] { // shown on one side only: display says so
			c.value(o, n, "display")
			return
		}
	}
	props := append(a.styles.Set(o), b.styles.Set(n)...)
	if c.old[parent(n)] != parent(o) && !strings.HasPrefix(n.Local, "::") {
		props = append(props, inherited...)
	}
	slices.Sort(props)
	for i, p := range props {
		if i == 0 || props[i-1] != p {
			c.value(o, n, p)
		}
	}
}

// value compares one property.
func (c *comparing) value(o, n *markup.Node, property string) {
	a, b := c.design(o), c.site(n)
	was, is := a.get(property), b.get(property)
	if was == is {
		return
	}
	was, is = relative(was, c.pair.Bases[0]), relative(is, c.pair.Bases[1])
	far, unit, same := c.in.Tolerances.apart(property, was, is)
	if same || !a.takes(property) && !b.takes(property) {
		return
	}
	cause := c.cause(o, n, property)
	if !n.HTML && cause.Selector == "" && slices.Contains(geometry, property) { // compared as an attribute
		return
	}
	if cause.same || c.moving[parent(n)] && (positional(cause.Selector) || cause.old != nil && positional(cause.old.Selector)) { // declared alike, with a value that follows from others that are compared themselves
		return
	}
	kind := kindOf(property)
	if kind == Colour && (strings.Contains(was, "url(") || strings.Contains(is, "url(")) {
		kind = Picture
	}
	c.out = append(c.out, seen{kind: kind, cause: cause.Cause, old: cause.old, far: far, unit: unit,
		spot: c.spot(o, n, property, was, is)})
}

// positional reports whether a selector asks for the place among siblings.
func positional(selector string) bool {
	if strings.ContainsAny(selector, "+~") {
		return true
	}
	for _, p := range []string{":first-", ":last-", ":nth-", ":only-", ":empty"} {
		if strings.Contains(selector, p) {
			return true
		}
	}
	return false
}

// relative takes what addresses begin with out of a value.
func relative(v, base string) string {
	if base == "" || !strings.Contains(v, base) {
		return v
	}
	return strings.ReplaceAll(v, base, "")
}

// parts compares the pseudo-elements of a pair.
func (c *comparing) parts(p match.NodePair) {
	was, is := c.view.Design.Styles.Parts(p.Old), c.view.Site.Styles.Parts(p.New)
	named := func(list []*markup.Node, name string) *markup.Node {
		if i := slices.IndexFunc(list, func(n *markup.Node) bool { return n.Local == name }); i >= 0 {
			return list[i]
		}
		return nil
	}
	for _, k := range is {
		if o := named(was, k.Local); o != nil {
			c.styles(o, k)
		} else if c.plain && c.site(k).partShows() {
			s := seen{kind: Extra, spot: c.spot(p.Old, k, "", "", ""), message: called(k) + " is styled, which the design does not do"}
			s.spot.Why = p.Why
			if rules := c.view.Site.Styles.Rules(k); len(rules) > 0 {
				s.cause.Selector, s.cause.Place = rules[0].Selector, rules[0].Place
			}
			c.out = append(c.out, s)
		}
	}
	for _, k := range was {
		if named(is, k.Local) == nil && c.plain && c.design(k).partShows() {
			s := seen{kind: Missing, spot: c.spot(k, p.New, "", "", ""), message: called(k) + " is not styled"}
			s.cause.Place, s.cause.Lacking = c.markupPlace(p.New), true
			c.out = append(c.out, s)
		}
	}
}

// partShows reports whether a pseudo-element shows something: one before or after an element needs content.
func (c asking) partShows() bool {
	if c.node.Local != "::before" && c.node.Local != "::after" {
		return true
	}
	return !c.oneOf("content", "none", "normal") && !c.hides()
}
