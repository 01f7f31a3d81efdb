package code

import (
	"fmt"
	"slices"
	"sort"
	"strconv"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/hint"
	"archetyp/core/match"
)

// Wider is a screen drawn at another width.
type Wider struct {
	Tree *Tree
	From string // the condition it holds under; "" for a window at least as wide as the drawing
}

// FromWidth is the condition of windows at least as wide as a length of CSS; "" for none.
func FromWidth(length string) (string, error) {
	if length == "" {
		return "", nil
	}
	within := "@media (min-width: " + length + ")"
	if err := css.CheckCondition(within); err != nil || strings.ContainsAny(length, "(){};") {
		return "", hint.New(fmt.Sprintf("--from %q is no width", length), "For example: --from 48rem")
	}
	return within, nil
}

// Width is a wider drawing of a page, and which of its nodes those of the first drawing are.
type Width struct {
	Tree *Tree
	Node map[*Node]*Node
}

// NewPages writes trees of one screen as one page: the first, and what differs in each wider one under a media query.
// Their elements are paired as between two readings of a drawing; Missing lists those without a counterpart.
func NewPages(t *Tree, wider []Wider, o Options) *Page {
	p := newPager(t, o, false)
	p.page.Body = p.tag(t.Root, nil, "")
	var later []Block
	for _, w := range wider {
		pairs := pairNodes(t, w.Tree)
		p.page.Widths = append(p.page.Widths, Width{w.Tree, pairs.node})
		later = append(later, p.widen(w, pairs)...)
	}
	p.sheet(t)
	p.page.Rules = append(p.page.Rules, later...)
	return p.page
}

// counterparts pairs the nodes of two trees: by their elements, and rows and columns that only places show by what they
// hold.
type counterparts struct {
	node   map[*Node]*Node // of the first tree
	holder map[*Node]*Node // in both
}

func pairNodes(a, b *Tree) counterparts {
	c := counterparts{map[*Node]*Node{}, map[*Node]*Node{}}
	var from, to []*Node
	of := func(t *Tree, list *[]*Node) (ids []match.Identity) {
		t.Root.Walk(func(n *Node) {
			for _, k := range slices.Concat(n.Nodes, n.Over) {
				c.holder[k] = n
			}
			if e := n.Element(); e != nil && e.Parent != nil {
				id := match.Of(e)
				id.Screen = "" // it is the same one
				if e.Words != nil {
					id.Words = e.Words.Words
				}
				id.Box = n.Cell.Box
				*list, ids = append(*list, n), append(ids, id)
			}
		})
		return ids
	}
	for _, p := range match.Match(of(a, &from), of(b, &to)) {
		c.node[from[p.Old]] = to[p.New]
	}
	c.node[a.Root] = b.Root
	c.pairHolders(a.Root)
	return c
}

// pairHolders pairs a row or column that is no element with what holds all it holds.
func (c counterparts) pairHolders(n *Node) {
	for _, k := range slices.Concat(n.Nodes, n.Over) {
		c.pairHolders(k)
	}
	if c.node[n] != nil || n.Element() != nil && n.Cell.Leaf() {
		return
	}
	count := map[*Node]int{}
	for _, k := range n.Nodes {
		if m := c.node[k]; m != nil && c.holder[m] != nil {
			count[c.holder[m]]++
		}
	}
	taken := map[*Node]bool{}
	for _, m := range c.node {
		taken[m] = true
	}
	for m, k := range count {
		if k*2 > len(n.Nodes) && !taken[m] {
			c.node[n] = m
		}
	}
}

// widen gives the rules for what differs in a wider drawing.
func (p *pager) widen(w Wider, pairs counterparts) (out []Block) {
	width := w.Tree.Root.Cell.Box.W
	within := w.From
	if within == "" {
		within = "@media (min-width: " + css.Px(width) + ")"
	}
	said := map[string]string{} // by selector
	add := func(t *Tag, ds []design.Declaration) {
		if len(ds) == 0 {
			return
		}
		text := declText(ds)
		selector := t.selector()
		if known, ok := said[selector]; len(t.Classes) == 0 && t.Name != "body" || ok && known != text {
			t.Classes = append([]string{p.unused(t)}, t.Classes...)
			selector = t.selector()
		}
		if said[selector] == "" {
			said[selector] = text
			out = append(out, Block{Within: within, Selector: selector, Declarations: ds})
		}
	}
	var walk func(t *Tag)
	walk = func(t *Tag) {
		if t.Raw != "" {
			return
		}
		if n := t.node; n != nil {
			m := pairs.node[n]
			switch {
			case m != nil:
				if up := pairs.holder[n]; up != nil && pairs.node[up] != pairs.holder[m] && n.Element() != nil {
					p.page.Missing = append(p.page.Missing, fmt.Sprintf("%s is in another row or column in the drawing %s wide: "+
						"give it a group of its own in both", n.Element().Selector(), css.Px(width)))
				}
				p.lengths(t, n, m, pairs.holder[n], pairs.holder[m])
				add(t, p.differs(t, n, m, pairs.holder[m], w.Tree))
			case n.Element() != nil:
				p.page.Missing = append(p.page.Missing, fmt.Sprintf("%s is not in the drawing %s wide", n.Element().Selector(),
					css.Px(width)))
				add(t, []design.Declaration{{Prop: "display", Value: "none"}})
				return
			}
		}
		for _, k := range t.Kids {
			walk(k)
		}
	}
	walk(p.page.Body)
	found := map[*Node]bool{}
	for _, m := range pairs.node {
		found[m] = true
	}
	w.Tree.Root.Walk(func(m *Node) {
		if e := m.Element(); e != nil && m.Cell.Leaf() && !found[m] {
			p.page.Missing = append(p.page.Missing, fmt.Sprintf("%s is only in the drawing %s wide", e.Selector(), css.Px(width)))
		}
	})
	sort.Strings(p.page.Missing)
	p.page.Missing = slices.Compact(p.page.Missing)
	return joinRules(out)
}

// unused is a class that no rule has yet, for an element.
func (p *pager) unused(t *Tag) string {
	base := "part"
	if len(t.Classes) > 0 {
		base = t.Classes[0]
	} else if t.node != nil {
		base = p.name(t.node, nil, "")
	}
	for i := 1; ; i++ {
		name := base
		if i > 1 || p.rules[base] != nil {
			name += "-" + strconv.Itoa(i+1)
		}
		if p.rules[name] == nil {
			p.rules[name] = &rule{}
			return name
		}
	}
}

// differs lists the declarations in which an element differs in a wider drawing.
func (p *pager) differs(t *Tag, n, m, holder *Node, wide *Tree) (ds []design.Declaration) {
	var was []design.Declaration
	name := "body"
	if len(t.Classes) > 0 {
		name = t.Classes[0]
	}
	if r := p.rules[name]; r != nil && (len(t.Classes) > 0 || t.Name == "body") {
		was = r.block.Declarations
	}
	if n.Alone != m.Alone || (n.Picture == nil) != (m.Picture == nil) {
		p.page.Missing = append(p.page.Missing, n.Element().Selector()+" is put together in another way in the wider drawing")
		return nil
	}
	is := p.s.of(m, holder, t.Name).Declarations
	if m.Picture != nil && (m.Picture.Box.W != n.Picture.Box.W || m.Picture.Box.H != n.Picture.Box.H) {
		is = append(is, p.otherPicture(m.Picture)...)
	}
	if t.Name == "body" {
		is = slices.DeleteFunc(is, func(d design.Declaration) bool {
			return d.Prop == "min-height" || d.Prop == "height" || d.Prop == "width"
		})
		is = append(is, design.Declaration{Prop: "max-width", Value: p.s.w.Unit.Lengths(css.Px(wide.Root.Cell.Box.W))})
	}
	ds = without(is, was)
	if slices.ContainsFunc(was, func(d design.Declaration) bool { return d.Prop == "width" && strings.HasSuffix(d.Value, "%") }) {
		ds = slices.DeleteFunc(ds, func(d design.Declaration) bool { // it is that share there, too
			return d.Prop == "width" || d.Prop == "max-width"
		})
	}
	for _, d := range was {
		if slices.ContainsFunc(is, func(o design.Declaration) bool { return o.Prop == d.Prop }) {
			continue
		}
		if d.Prop == "flex-direction" && slices.Contains(is, design.Declaration{Prop: "display", Value: "grid"}) {
			continue // it says nothing there
		}
		if none, ok := undone(d.Prop); ok {
			ds = append(ds, design.Declaration{Prop: d.Prop, Value: none})
		}
	}
	inOrder(ds)
	return ds
}

// otherPicture shows another picture in an element.
func (p *pager) otherPicture(pic *Picture) []design.Declaration {
	p.page.Pictures = append(p.page.Pictures, pic)
	px := p.s.w.Unit.Lengths
	return []design.Declaration{{Prop: "content", Value: "url(" + css.String(pic.File()) + ")"},
		{Prop: "width", Value: px(css.Px(pic.Box.W))}, {Prop: "height", Value: px(css.Px(pic.Box.H))}}
}

// undone is the value that takes back a property of how things stand, or of how they look.
func undone(prop string) (string, bool) {
	if v, ok := unset[prop]; ok {
		return v, true
	}
	switch {
	case strings.HasPrefix(prop, "margin"), strings.HasPrefix(prop, "padding"), prop == "min-height", prop == "gap":
		return "0", true
	case prop == "width", prop == "height", prop == "align-self":
		return "auto", true
	case prop == "max-width", prop == "translate", prop == "grid-template-columns", prop == "flex":
		return "none", true
	case prop == "text-align":
		return "start", true
	case prop == "align-items", prop == "justify-content", prop == "justify-items", prop == "place-items":
		return "normal", true
	case prop == "flex-direction":
		return "row", true
	case prop == "display":
		return "block", true
	case prop == "position":
		return "static", true
	}
	return "", false
}
