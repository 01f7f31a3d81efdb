package code

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/infer/layout"
	"archetyp/core/infer/role"
)

// filled reports whether what a cell holds makes it as wide as it is.
func filled(c *layout.Cell) bool {
	if c.Kind == layout.Row {
		return c.Justify == layout.Packed && !slices.ContainsFunc(c.Cells, func(k *layout.Cell) bool { return !k.Wide || k.Pushed })
	}
	if c.Kind == layout.Grid {
		return c.Cells[0].Face == nil && c.Justify != layout.Middle
	}
	return slices.ContainsFunc(c.Cells, func(k *layout.Cell) bool {
		return k.Box.W == c.Box.W && (k.Wide || k.Face == nil && k.Kind != "" && filled(k))
	})
}

// bold writes the weight of a heading with a size of its own, unless browsers make it that bold anyway.
func bold(b *Block, weight int) {
	at := slices.IndexFunc(b.Declarations, func(d design.Declaration) bool { return d.Prop == "font-weight" })
	sized := slices.ContainsFunc(b.Declarations, func(d design.Declaration) bool { return d.Prop == "font-size" })
	switch {
	case !sized:
	case weight == 700 && at >= 0:
		b.Declarations = slices.Delete(b.Declarations, at, at+1)
	case weight != 700 && at < 0:
		b.Declarations = append(b.Declarations, design.Declaration{Prop: "font-weight", Value: strconv.Itoa(weight)})
	}
}

// flow writes how what a node holds follows each other.
func (s *styles) flow(b *Block, n, holder *Node, tag string) {
	c := n.Cell
	if len(n.Over) > 0 {
		s.w.put(b, "position", "relative", "")
		if slices.ContainsFunc(n.Over, func(k *Node) bool { return k.Cell.Under }) {
			s.w.put(b, "isolation", "isolate", "")
		}
	}
	if n.Alone {
		s.alone(b, n, tag)
		return
	}
	if tag == "button" && n.words() != nil {
		s.w.put(b, "text-align", "start", "")
	}
	if n.Table != nil && !s.part {
		s.w.put(b, "table-layout", "fixed", "")
		s.w.put(b, "border-spacing", "0", "")
		if !n.Cell.Wide && !s.stretches(holder) {
			s.w.put(b, "width", "100%", "")
		}
		return
	}
	if len(n.Nodes) > 0 {
		switch c.Kind {
		case layout.Row:
			s.w.put(b, "display", "flex", "")
			if c.Align != layout.Stretch {
				s.w.put(b, "align-items", string(c.Align), "")
			}
			if c.Justify != layout.Packed {
				s.w.put(b, "justify-content", string(c.Justify), "")
			}
			if c.EvenMiddles() {
				b.comment("flex", "the middles of the items are evenly apart: give each the same width, flex: 1")
			}
		case layout.Grid:
			s.w.put(b, "display", "grid", "")
			s.w.put(b, "grid-template-columns", columns(n), "")
			if c.Justify == layout.Middle {
				s.w.put(b, "justify-items", "center", "")
				if c.Align != layout.Stretch {
					s.w.put(b, "align-items", string(c.Align), "")
				}
			}
		default:
			s.columnOf(b, n)
		}
	}
	s.gap(b, c)
	s.padding(b, c)
}

// columns are those of a grid: as many as drawn where they fit the narrowest window, else as many as find room.
func columns(n *Node) string {
	c := n.Cell
	need := 0.0
	if c.Cells[0].Face == nil && c.Justify != layout.Middle {
		return "repeat(" + strconv.Itoa(c.Columns) + ", " + css.Px(c.Cells[0].Box.W) + ")"
	}
	for _, k := range n.Nodes {
		need = max(need, least(k))
	}
	if k := float64(c.Columns); c.Justify == layout.Middle || need*k+c.Gap*(k-1) <= narrowest-40 {
		return "repeat(" + strconv.Itoa(c.Columns) + ", minmax(0, 1fr))"
	}
	return "repeat(auto-fill, minmax(min(100%, " + css.Px(c.Cells[0].Box.W) + "), 1fr))"
}

// columnOf writes a column: a flex container where blocks one below the other would not do.
func (s *styles) columnOf(b *Block, n *Node) {
	c := n.Cell
	if c.Least {
		s.w.put(b, "display", "grid", "")
		if n.Nodes[0].Cell.Self == layout.Center {
			s.w.put(b, "place-items", "center", "")
		} else {
			s.w.put(b, "align-content", "center", "")
		}
		return
	}
	if s.stretches(n) {
		s.w.put(b, "display", "flex", "")
		s.w.put(b, "flex-direction", "column", "")
	}
}

// stretches reports whether a column is a flex container, because blocks one below the other would not do.
func (s *styles) stretches(n *Node) bool {
	if n == nil {
		return false
	}
	c := n.Cell
	if c.Kind != layout.Column && c.Kind != layout.Single {
		return false
	}
	plain := c.Gap == 0
	for i, k := range n.Nodes {
		plain = plain && k.Cell.Self == "" && (s.part || !inline(k)) && (i == 0 || k.Cell.Before == 0)
	}
	return !plain
}

// inline reports whether a node is inline by default: text flows around it unless its holder is a flex or grid container.
func inline(n *Node) bool {
	switch n.Role {
	case role.Heading, role.Paragraph:
		return false
	case role.Picture, role.Button, role.Link, role.Field, role.Select, role.Checkbox, role.Radio, role.Switch, role.Area,
		role.Search, role.Status, role.Tab:
		return true
	}
	return n.Cell.Words() || n.Control != nil
}

func (s *styles) gap(b *Block, c *layout.Cell) {
	if c.Kind == layout.Grid && c.RowGap != c.Gap {
		s.w.put(b, "gap", css.Px(c.RowGap)+" "+css.Px(c.Gap), "")
	} else if c.Gap > 0 && len(c.Cells) > 1 {
		s.w.put(b, "gap", css.Px(c.Gap), "space")
	}
}

func (s *styles) padding(b *Block, c *layout.Cell) {
	if (c.Least || c.High) && !s.w.Sizes {
		s.w.put(b, "min-height", css.Px(c.Box.H), "")
	}
	if c.Padding != [4]float64{} {
		text := css.Sides(c.Padding)
		kind := ""
		if !strings.Contains(text, " ") {
			kind = "space"
		}
		s.w.put(b, "padding", text, kind)
	}
}

// alone writes a box that holds nothing but words: they stand in it themselves.
func (s *styles) alone(b *Block, n *Node, tag string) {
	c, k := n.Cell, n.Nodes[0].Cell
	pad := c.Padding
	switch {
	case k.Text == layout.Center || k.Self == layout.Center:
		if tag != "button" && (!c.Least || tag == "input" || tag == "select" || len(k.TextLines()) > 1) {
			s.w.put(b, "text-align", "center", "")
		}
	case k.Text == layout.End || k.Self == layout.End:
		s.w.put(b, "text-align", "end", "")
	case tag == "button":
		s.w.put(b, "text-align", "start", "")
	case k.Across > 0:
		pad[3] += k.Across
	}
	if c.Least {
		switch off := k.Before; {
		case s.part: // letters that stand a little off the middle are in it
		case off > 0:
			pad[0] = 2 * off
		default:
			pad[2] = -2 * off
		}
		centred := k.Text == layout.Center || k.Self == layout.Center
		switch {
		case tag == "input" || tag == "select" || tag == "button":
		case centred:
			s.w.put(b, "display", "grid", "")
			s.w.put(b, "place-items", "center", "")
		default:
			s.w.put(b, "display", "grid", "")
			s.w.put(b, "align-content", "center", "")
		}
	}
	least := *c
	least.Padding = pad
	s.padding(b, &least)
}

// stand writes how a node stands in its holder.
func (s *styles) stand(b *Block, n, holder *Node) {
	c := n.Cell
	if holder == nil {
		if n.Element() != nil && n.Element().Parent != nil {
			s.size(b, n, s.part && c.Leaf())
		}
		return
	}
	h := holder.Cell
	if slices.Contains(holder.Over, n) {
		s.free(b, c, h)
		s.size(b, n, true)
		return
	}
	row := h.Kind == layout.Row
	first, cross := "margin-top", "margin-left"
	if row {
		first, cross = "margin-left", "margin-top"
	}
	switch {
	case c.Before == 0:
	case h.Least:
		s.w.put(b, "translate", "0 "+css.Px(c.Before), "")
	default:
		s.w.put(b, first, css.Px(c.Before), "")
	}
	switch {
	case c.Across == 0:
	case row && c.Self == "" && h.Align == layout.Center:
		s.w.put(b, "translate", "0 "+css.Px(c.Across), "")
	case c.Inset:
		s.w.put(b, "margin-inline", css.Px(c.Across), "space")
	default:
		s.w.put(b, cross, css.Px(c.Across), "")
	}
	if c.Pushed {
		s.w.put(b, "margin-left", "auto", "")
	}
	if c.Self != "" && !(h.Least && c.Self == layout.Center) {
		s.w.put(b, "align-self", string(c.Self), "")
	}
	if c.Text != "" {
		s.w.put(b, "text-align", string(c.Text), "")
		if c.Narrow {
			s.w.put(b, map[layout.Align]string{layout.Center: "margin-inline", layout.End: "margin-left"}[c.Text], "auto", "")
		}
	}
	s.size(b, n, c.Wide)
}

// free writes where a node stands that lies across others: from the nearer edge of its holder.
func (s *styles) free(b *Block, c, h *layout.Cell) {
	out := h.Box
	if h.Face == nil && h.Room.W > 0 {
		out.X, out.W = h.Room.X, h.Room.W
	}
	if h.Face != nil && len(h.Face.Strokes) > 0 {
		out = out.Grow(-h.Face.Strokes[0].Value.Shown)
	}
	s.w.put(b, "position", "absolute", "")
	s.w.put(b, "top", css.Px(c.Box.Y-out.Y), "")
	if left, right := c.Box.X-out.X, out.Right()-c.Box.Right(); right < left {
		s.w.put(b, "right", css.Px(right), "")
	} else {
		s.w.put(b, "left", css.Px(left), "")
	}
	if c.Under {
		s.w.put(b, "z-index", "-1", "")
	}
}

// size writes the sizes that nothing else gives.
func (s *styles) size(b *Block, n *Node, wide bool) {
	c := n.Cell
	wide = wide || s.w.Sizes && (c.Face != nil || c.Leaf())
	switch {
	case n.Picture != nil && !s.drawn(n):
		return
	case c.Words():
		if c.Narrow {
			s.w.put(b, "max-width", css.Px(math.Ceil(c.Box.W)), "")
		}
		return
	case c.Element != nil && c.Element.Line():
		if up := upright(c.Box); wide && !up {
			s.w.put(b, "width", css.Px(c.Box.W), "")
		} else if up {
			s.w.put(b, "height", css.Px(c.Box.H), "")
		}
		return
	}
	if wide {
		across := func(k *layout.Cell) bool { return k.Picture() && k.Box.W == c.Box.W }
		if natural := c.Face == nil && filled(c) || slices.ContainsFunc(c.Cells, across); !natural {
			s.w.put(b, "width", css.Px(c.Box.W), "")
		}
		if c.Box.W > narrowest-40 && !s.part {
			s.w.put(b, "max-width", "100%", "")
		}
	}
	if c.Leaf() || n.Role == role.Area || s.w.Sizes && c.Face != nil {
		s.w.put(b, "height", css.Px(c.Box.H), "")
	}
}
