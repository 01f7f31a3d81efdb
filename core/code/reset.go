package code

import (
	"slices"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/infer/layout"
)

// defaults are what browsers add to elements by themselves and a drawing does not have, and how it is taken back.
// https://html.spec.whatwg.org/multipage/rendering.html
var defaults = []struct {
	tags        string
	prop, value string
}{
	{"h1 h2 h3 h4 h5 h6 p ul hr button input select textarea", "margin", "0"},
	{"ul button input textarea th td", "padding", "0"},
	{"h1 h2 h3 h4 h5 h6 button input select textarea th", "font", "inherit"},
	{"a button input select textarea", "color", "inherit"},
	{"button input select textarea", "letter-spacing", "inherit"},
	{"button input select textarea", "background", "none"},
	{"button input select textarea hr", "border", "0"},
	{"input select textarea", "appearance", "none"},
	{"input select textarea", "min-width", "0"},
	{"th", "text-align", "inherit"},
	{"ul", "list-style", "none"},
	{"a", "text-decoration", "none"},
	{"img", "display", "block"},
	{"img", "max-width", "100%"},
	{"img", "height", "auto"},
}

// reset writes the rules that undo browser defaults, for elements whose own rules do not.
func (p *pager) reset() (out []Block) {
	need := map[[2]string]bool{} // by element and property
	p.page.Body.walk(func(t *Tag) {
		for _, d := range defaults {
			if slices.Contains(strings.Fields(d.tags), t.Name) && !need[[2]string{t.Name, d.prop}] && p.needs(t, d.prop) {
				need[[2]string{t.Name, d.prop}] = true
			}
		}
	})
	for _, d := range defaults {
		var tags []string
		for _, t := range strings.Fields(d.tags) {
			if need[[2]string{t, d.prop}] {
				tags = append(tags, t)
			}
		}
		if len(tags) > 0 {
			out = append(out, Block{Selector: strings.Join(tags, ",\n"),
				Declarations: []design.Declaration{{Prop: d.prop, Value: d.value}}})
		}
	}
	return joinSelectors(out)
}

// needs reports whether a browser default shows on an element, because its own rule does not override it.
func (p *pager) needs(t *Tag, prop string) bool {
	says := func(prop string) bool {
		if len(t.Classes) == 0 {
			return false
		}
		r := p.rules[t.Classes[0]]
		return r != nil && slices.ContainsFunc(r.block.Declarations, func(d design.Declaration) bool { return d.Prop == prop })
	}
	switch prop {
	case "padding":
		return !says(prop) && (t.node == nil || !isChoice(t.node))
	case "font":
		switch {
		case says("font"):
			return false
		case t.Name == "th": // only bold
			return !says("font-weight")
		case t.Name[0] == 'h': // only bold and large; see bold
			return !says("font-size")
		}
		return !says("font-weight") || !says("font-size") || !says("font-family")
	case "letter-spacing": // that of most words is the font's own
		return !slices.Contains(p.s.base, inherited{"letter-spacing", "normal"}) && !says(prop)
	case "display": // things in a row, column or grid are blocks
		return t.node == nil || !t.flexed
	case "max-width":
		return t.node == nil || t.node.Picture == nil || t.node.Picture.Box.W > narrowest/4
	case "height":
		return t.node == nil || t.node.Picture == nil || t.node.Picture.Box.W > narrowest/4
	}
	return !says(prop)
}

// joinSelectors merges rules with the same selector.
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

// selector is what the rule of an element is for: its class, else its name.
func (t *Tag) selector() string {
	if len(t.Classes) > 0 { // its own comes first
		return "." + t.Classes[0]
	}
	return t.Name
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
		if tag.node == nil || tag.node.Cell.Kind != layout.Row || len(tag.node.Nodes) < 2 {
			return
		}
		c, s := tag.node.Cell, tag.selector()
		if least(tag.node) <= narrowest-40 && union(c.Cells).W <= 2*narrowest || slices.Contains(wrap, s) {
			return
		}
		wrap = append(wrap, s)
		if c.Gap < c.Nearest {
			gaps = append(gaps, Block{Within: within, Selector: s, Declarations: []design.Declaration{{Prop: "gap",
				Value: p.s.w.Unit.Lengths(css.Px(c.Nearest))}}})
		}
	})
	if len(wrap) > 0 {
		p.page.Rules = append(p.page.Rules, Block{Within: within, Selector: strings.Join(wrap, ",\n"),
			Declarations: []design.Declaration{{Prop: "flex-wrap", Value: "wrap"}}})
	}
	gaps = append(gaps, p.shares(within, wrap)...)
	p.page.Rules = append(p.page.Rules, joinRules(gaps)...)
}

// wideInset is the inset from which, in px, one is a share of its holder in windows narrower than the drawing.
const wideInset = 20

// shares writes wide insets as shares of what they stand in, so that narrow windows have narrow ones.
func (p *pager) shares(within string, wrapped []string) (out []Block) {
	seen := map[string]bool{}
	var walk func(t *Tag, room float64)
	walk = func(t *Tag, room float64) {
		n := t.node
		if n == nil {
			for _, k := range t.Kids {
				walk(k, room)
			}
			return
		}
		c := n.Cell
		share := func(px float64) string { return css.Num(100*px/room, 2) + "%" }
		var ds []design.Declaration
		if l, r := c.Padding[3], c.Padding[1]; max(l, r) >= wideInset && n.Table == nil {
			text := share(l)
			if l != r {
				text += " " + share(r)
			}
			ds = append(ds, design.Declaration{Prop: "padding-inline", Value: text})
		}
		if c.High && t.Name != "body" { // what is below it would be far away
			ds = append(ds, design.Declaration{Prop: "min-height", Value: "0"}, design.Declaration{Prop: "padding-bottom",
				Value: p.s.w.Unit.Lengths(css.Px(c.Padding[0]))})
		}
		selector := t.selector()
		switch {
		case c.Across >= wideInset && c.Inset:
			ds = append(ds, design.Declaration{Prop: "margin-inline", Value: share(c.Across)})
		case c.Across >= wideInset && c.Self == "":
			ds = append(ds, design.Declaration{Prop: "margin-left", Value: share(c.Across)})
		}
		if len(ds) > 0 && !seen[selector] {
			seen[selector] = true
			out = append(out, Block{Within: within, Selector: selector, Declarations: ds})
		}
		own := c.Box.W
		if c.Room.W > 0 && c.Face == nil {
			own = c.Room.W
		}
		own = max(1, own-c.Padding[1]-c.Padding[3])
		for _, k := range t.Kids {
			walk(k, own)
		}
	}
	walk(p.page.Body, p.page.Tree.Root.Cell.Box.W)
	return out
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
			sum += least(k) + max(0, k.Cell.Before)
		} else {
			sum = max(sum, least(k))
		}
	}
	if c.Kind == layout.Row {
		sum += c.Gap * float64(len(n.Nodes)-1)
	}
	return sum + c.Padding[1] + c.Padding[3]
}
