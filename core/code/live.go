package code

import (
	"slices"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/markup"
)

// Live are the rules of elements of a page: what its style sheets declare for them and what wins, as it is written, with
// custom properties kept and nothing that is only inherited; then what differs in each state.
func Live(styles design.Styles, found []*design.Element, o Options) (out []Block) {
	seen := map[string]bool{}
	add := func(b Block) {
		if key := Print([]Block{b}); len(b.Declarations) > 0 && !seen[key] {
			seen[key] = true
			out = append(out, b)
		}
	}
	for _, e := range found {
		name := liveSelector(e.Node)
		add(Block{Selector: name, Declarations: styles.Declared(e.Node)})
		for _, r := range styles.States(e.Node) {
			b := Block{Selector: name + r.Selector, Declarations: slices.Clone(r.Declarations)}
			if len(r.Within) > 0 {
				b.Within = r.Within[len(r.Within)-1]
			}
			add(b)
		}
		for _, c := range e.Children {
			if strings.HasPrefix(c.Shape, "::") {
				add(Block{Selector: name + c.Shape, Declarations: styles.Declared(c.Node)})
			}
		}
	}
	return o.Groups.of(out)
}

// liveSelector is what an element of a page is called in code: its class, its id, or its name in HTML.
func liveSelector(n *markup.Node) string {
	if strings.HasPrefix(n.Local, "::") {
		return liveSelector(n.Parent) + n.Local
	}
	if words := strings.Fields(n.AttrOr("class", "")); len(words) > 0 {
		s := ""
		for _, w := range words {
			s += "." + css.Ident(w)
		}
		return s
	}
	if id := n.ID(); id != "" {
		return "#" + css.Ident(id)
	}
	return css.Ident(n.Local)
}
