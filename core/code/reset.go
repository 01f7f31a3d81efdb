package code

import (
	"slices"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/infer/layout"
)

// defaults are what browsers add to elements by themselves and a drawing does not have.
// https://html.spec.whatwg.org/multipage/rendering.html
var defaults = []struct {
	tags []string
	with []design.Declaration
}{
	{[]string{"h1", "h2", "h3", "h4", "h5", "h6", "p", "ul", "hr", "button", "input", "select", "textarea"},
		[]design.Declaration{{Prop: "margin", Value: "0"}}},
	{[]string{"ul", "button", "input", "select", "textarea"}, []design.Declaration{{Prop: "padding", Value: "0"}}},
	{[]string{"h1", "h2", "h3", "h4", "h5", "h6", "button", "input", "select", "textarea"},
		[]design.Declaration{{Prop: "font", Value: "inherit"}}},
	{[]string{"button", "input", "select", "textarea"}, []design.Declaration{{Prop: "color", Value: "inherit"},
		{Prop: "letter-spacing", Value: "inherit"}, {Prop: "background", Value: "none"}, {Prop: "border", Value: "0"},
		{Prop: "border-radius", Value: "0"}}},
	{[]string{"hr"}, []design.Declaration{{Prop: "border", Value: "0"}}},
	{[]string{"button"}, []design.Declaration{{Prop: "text-align", Value: "inherit"}}},
	{[]string{"input", "select", "textarea"}, []design.Declaration{{Prop: "appearance", Value: "none"}, {Prop: "min-width", Value: "0"}}},
	{[]string{"ul"}, []design.Declaration{{Prop: "list-style", Value: "none"}}},
	{[]string{"a"}, []design.Declaration{{Prop: "color", Value: "inherit"}, {Prop: "text-decoration", Value: "none"}}},
	{[]string{"img"}, []design.Declaration{{Prop: "display", Value: "block"}, {Prop: "max-width", Value: "100%"}, {Prop: "height", Value: "auto"}}},
}

// reset is the rules that take back what browsers add, for the elements there are.
func (p *pager) reset() (out []Block) {
	used := map[string]bool{}
	p.page.Body.walk(func(t *Tag) { used[t.Name] = true })
	for _, d := range defaults {
		var tags []string
		for _, t := range d.tags {
			if used[t] {
				tags = append(tags, t)
			}
		}
		if len(tags) > 0 {
			out = append(out, Block{Selector: strings.Join(tags, ",\n"), Declarations: slices.Clone(d.with)})
		}
	}
	return joinSelectors(out)
}

// joinSelectors puts what is said of the same elements together.
func joinSelectors(list []Block) (out []Block) {
	for _, b := range list {
		if i := slices.IndexFunc(out, func(o Block) bool { return o.Selector == b.Selector }); i >= 0 {
			out[i].Declarations = append(out[i].Declarations, b.Declarations...)
			continue
		}
		out = append(out, b)
	}
	return out
}

func (t *Tag) walk(visit func(*Tag)) {
	visit(t)
	for _, k := range t.Kids {
		k.walk(visit)
	}
}

// narrowest is the width of a window, in px, that a page is still to be read at.
const narrowest = 320

// narrow lets rows wrap in windows narrower than the drawing, where they need more than the narrowest.
func (p *pager) narrow(t *Tree) {
	within := "@media (width < " + css.Px(t.Root.Cell.Box.W) + ")"
	var wrap []string
	var gaps []Block
	p.page.Body.walk(func(tag *Tag) {
		if tag.node == nil || tag.node.Cell.Kind != layout.Row || len(tag.node.Nodes) < 2 || len(tag.Classes) == 0 {
			return
		}
		c, s := tag.node.Cell, "."+tag.Classes[0]
		if least(tag.node) <= narrowest-40 && union(c.Cells).W <= 2*narrowest || slices.Contains(wrap, s) {
			return
		}
		wrap = append(wrap, s)
		if c.Gap < c.Nearest {
			gaps = append(gaps, Block{Within: within, Selector: s, Declarations: []design.Declaration{{Prop: "gap",
				Value: p.s.w.Unit.Lengths(css.Px(c.Nearest))}}})
		}
	})
	if len(wrap) == 0 {
		return
	}
	p.page.Rules = append(p.page.Rules, Block{Within: within, Selector: strings.Join(wrap, ",\n"),
		Declarations: []design.Declaration{{Prop: "flex-wrap", Value: "wrap"}}})
	p.page.Rules = append(p.page.Rules, joinRules(gaps)...)
}

// union is the box around cells.
func union(cells []*layout.Cell) (box geom.Rect) {
	for _, c := range cells {
		box = box.Union(c.Box)
	}
	return box
}

// least is about the least width of a node, in px.
func least(n *Node) float64 {
	c := n.Cell
	if c.Words() {
		most := 0.0
		for _, l := range c.TextLines() {
			each := l.Width / float64(max(1, len([]rune(l.Words))))
			for _, w := range strings.Fields(l.Words) {
				most = max(most, each*float64(len([]rune(w))))
			}
		}
		return most
	}
	if len(n.Nodes) == 0 {
		return min(c.Box.W, narrowest)
	}
	sum := 0.0
	for _, k := range n.Nodes {
		if c.Kind == layout.Row {
			sum += least(k)
		} else {
			sum = max(sum, least(k))
		}
	}
	if c.Kind == layout.Row {
		sum += c.Gap * float64(len(n.Nodes)-1)
	}
	return sum + c.Padding[1] + c.Padding[3]
}
