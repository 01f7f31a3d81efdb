package code

import (
	"slices"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/infer/layout"
)

// styles writes what the nodes of a tree look like and how they stand, as CSS.
type styles struct {
	w     *writer
	plain *writer     // without tokens: values that can be compared
	base  []inherited // what everything inherits
	ratio float64     // the line height that everything inherits, in font sizes; 0 for the font's own
	part  bool        // of rules to be used elsewhere: nothing is taken for granted
	flex  *layout.Finder
}

// of is how a node looks and stands in its holder.
func (s *styles) of(n, holder *Node, tag string) Block {
	var b Block
	s.flow(&b, n, holder, tag)
	s.stand(&b, n, holder)
	s.giveWay(&b, n, holder)
	s.paint(&b, n)
	switch {
	case n.Cell.Words():
		s.text(&b, n, s.base)
	case n.Alone:
		s.text(&b, n.Nodes[0], s.base)
	case n.Value != "" && n.words() != nil: // a control, which shows its words itself
		s.text(&b, n.words(), s.base)
	}
	if n.faint() {
		b.Declarations = slices.DeleteFunc(b.Declarations, func(d design.Declaration) bool { return d.Prop == "color" })
	}
	if n.Cell.Words() && len(tag) == 2 && tag[0] == 'h' && tag != "hr" {
		bold(&b, n.Cell.Element.Words.Weight.Value)
	}
	s.stated(&b, n)
	if s.part && slices.ContainsFunc(b.Declarations, sizes) && slices.ContainsFunc(b.Declarations, thickens) {
		s.w.put(&b, "box-sizing", "border-box", "")
	}
	inOrder(b.Declarations)
	return b
}

// sizes reports whether a declaration is a size that padding and borders would add to.
func sizes(d design.Declaration) bool {
	switch d.Prop {
	case "width", "height", "min-height":
		return strings.HasSuffix(d.Value, "px") || strings.HasSuffix(d.Value, "rem") || strings.HasSuffix(d.Value, "pt")
	}
	return false
}

// thickens reports whether a declaration adds to a box's size.
func thickens(d design.Declaration) bool {
	return d.Prop == "border" || strings.HasPrefix(d.Prop, "padding")
}

// stated copies the CSS that the drawing states. In a page, layout comes from the picture alone.
func (s *styles) stated(b *Block, n *Node) {
	e := n.Element()
	if e == nil {
		return
	}
	list := e.Stated
	if n.Alone {
		list = slices.Concat(list, n.Nodes[0].Cell.Element.Stated)
	}
	for _, d := range list {
		switch {
		case strings.HasPrefix(d.Prop, "--") || strings.Contains(d.Value, "var("):
		case !s.part && GroupOf(d.Prop) == "layout" && !flexible(d.Prop):
		default:
			s.w.put(b, d.Prop, d.Value, "")
		}
	}
}

// giveWay writes how a part of a component gives way where it has more or less room.
func (s *styles) giveWay(b *Block, n, holder *Node) {
	if n.Element() == nil || slices.ContainsFunc(n.Element().Stated,
		func(d design.Declaration) bool { return flexible(d.Prop) }) {
		return
	}
	switch way, _ := s.flex.Flexible(n.Element()); {
	case way == layout.Grows && holder != nil && holder.Cell.Kind == layout.Row:
		b.Declarations = slices.DeleteFunc(b.Declarations, func(d design.Declaration) bool {
			return d.Prop == "width" || d.Prop == "max-width"
		})
		s.w.put(b, "flex", "1", "")
	case way == layout.Cuts:
		s.w.put(b, "overflow", "hidden", "")
		s.w.put(b, "text-overflow", "ellipsis", "")
		s.w.put(b, "white-space", "nowrap", "")
	}
}

// flexible reports whether a property makes things grow, shrink or be cut off.
func flexible(prop string) bool {
	return prop == "flex" || strings.HasPrefix(prop, "flex-grow") || strings.HasPrefix(prop, "flex-shrink") ||
		strings.HasPrefix(prop, "overflow")
}

// paint writes what a node is painted with.
func (s *styles) paint(b *Block, n *Node) {
	c := n.Cell
	e := c.Element
	if e == nil {
		return
	}
	w := s.w
	w.of = e
	if n.Picture != nil && !s.drawn(n) {
		if s.part {
			s.pictured(b, n)
		}
		return
	}
	switch {
	case c.Words():
		if e.Words != nil && c.Lines == nil {
			w.effects(b, e, e.Shadows)
			w.rotate(b, e, n.turned)
		}
		return
	case n.Ground != nil:
		w.put(b, "background", "url("+n.Ground.File()+") 50% / "+css.Px(n.Ground.Box.W)+" "+css.Px(n.Ground.Box.H)+
			" no-repeat", "")
		if !isChoice(n) {
			return
		}
		back := Block{}
		w.paint(&back, faceOf(c))
		for _, d := range back.Declarations {
			if d.Prop == "background" {
				b.Declarations[len(b.Declarations)-1].Value += " " + d.Value
			} else {
				b.Declarations = append(b.Declarations, d)
			}
		}
	case e.Line():
		s.line(b, e)
		return
	case c.Fade > 0 && len(c.Cells) > 0:
		s.faded(b, n)
		return
	case c.Face != nil || c.Leaf():
		w.paint(b, faceOf(c))
	}
	if face := faceOf(c); c.Face != nil || c.Leaf() {
		if e.Kind == design.Group {
			if frame, stroke := e.Border(); frame != nil {
				w.border(b, face, stroke)
			}
			w.ring(b, e)
		}
		w.corners(b, e, face)
		w.rotate(b, face, n.turned)
		if face != e {
			w.effects(b, face, nil)
		}
		w.shadows(b, e, e.AllShadows())
	} else {
		w.shadows(b, e, e.Shadows)
	}
	s.cut(b, c)
	w.blends(b, e)
}

// drawn reports whether what is exported as a picture is a box that CSS draws as well.
func (s *styles) drawn(n *Node) bool {
	return s.part && n.Element() != nil && n.Element().Kind == design.Box
}

// pictured writes the size of a picture, and what CSS can do to it.
func (s *styles) pictured(b *Block, n *Node) {
	e := n.Element()
	if e.Line() {
		s.w.line(b, e)
		return
	}
	box := e.BorderBox()
	s.w.put(b, "width", css.Px(box.W), "")
	s.w.put(b, "height", css.Px(box.H), "")
	if e.Kind == design.Image {
		s.w.effects(b, e, e.Shadows)
		s.w.rotate(b, e, n.turned)
		return
	}
	b.comment("", outline)
}

// faded writes a face that is less than opaque, under contents that are opaque: its colours are that much paler.
func (s *styles) faded(b *Block, n *Node) {
	face, e := faceOf(n.Cell), n.Element()
	pale := func(c color.Color) string { return c.WithAlpha(n.Cell.Fade).CSS() }
	for _, f := range face.Fills {
		s.w.put(b, "background", pale(f.Value.Color), "color:surface")
	}
	for _, st := range face.Strokes {
		if st.Value.Paint.Kind == design.Solid {
			st.Value.Paint.Color = st.Value.Paint.Color.WithAlpha(n.Cell.Fade)
			s.w.border(b, face, st)
		}
	}
	s.w.corners(b, face, face)
	var shadows []string
	for _, sh := range slices.Concat(e.Shadows, face.Shadows) {
		sh.Value.Color = sh.Value.Color.WithAlpha(n.Cell.Fade)
		shadows = append(shadows, sh.Value.CSS())
	}
	if shadows != nil {
		s.w.put(b, "box-shadow", strings.Join(shadows, ", "), "shadow")
	}
}

// cut writes how a cell is cut off. A group that is as large as its clip hides what reaches out of it.
func (s *styles) cut(b *Block, c *layout.Cell) {
	cuts := c.Element.Cuts()
	if len(cuts) != 1 || c.Element.Kind != design.Group || !cuts[0].Value.Basic || cuts[0].Value.Area != c.Box {
		s.w.cut(b, c.Element)
		return
	}
	hangs := false
	for _, k := range slices.Concat(c.Cells, c.Over) {
		hangs = hangs || !c.Box.Contains(k.Box, 0.5)
	}
	radii := cuts[0].Value.Radii
	if hangs || !radii.Zero() {
		s.w.put(b, "overflow", "hidden", "")
	}
	if !radii.Zero() {
		s.w.put(b, "border-radius", radii.CSS(), "radius")
	}
}

// faceOf is the shape a cell is drawn as.
func faceOf(c *layout.Cell) *design.Element {
	if c.Face != nil {
		return c.Face
	}
	return c.Element
}

// line is a straight line as the border of a box that has no more.
func (s *styles) line(b *Block, e *design.Element) {
	var l Block
	s.w.line(&l, e)
	for _, d := range l.Declarations {
		if d.Prop != "width" && d.Prop != "height" {
			b.Declarations = append(b.Declarations, d)
		}
	}
	b.Comments = append(b.Comments, l.Comments...)
}

// upright reports whether a line runs down.
func upright(r geom.Rect) bool { return r.H > r.W }
