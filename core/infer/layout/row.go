package layout

import (
	"math"
	"slices"

	"archetyp/core/geom"
)

// evenIn reports whether a cell is a row of things each in the middle of an equal share of a width.
func (c *Cell) evenIn(room geom.Rect) bool {
	n := len(c.Cells)
	if c.Kind != Row || n < 2 || alikeCells(c.Cells) {
		return false
	}
	share := room.W / float64(n)
	for i, k := range c.Cells {
		if math.Abs(k.Box.Centre().X-room.X-share*(float64(i)+0.5)) > 0.25 || k.Box.W > share {
			return false
		}
	}
	return true
}

// row settles cells one beside the other.
func (c *Cell) row(inner geom.Rect) {
	box := union(c.Cells)
	if c.evenIn(inner) {
		c.Kind, c.Columns, c.Justify = Grid, len(c.Cells), Middle
		c.alignRow(geom.Rect{X: inner.X, Y: box.Y, W: inner.W, H: box.H})
		c.beside(inner, box.Y)
		return
	}
	content := inner
	first, last := c.Cells[0], c.Cells[len(c.Cells)-1]
	lead, tail := tidy(first.Box.X-inner.X), tidy(inner.Right()-last.Box.Right())
	top, bottom := box.Y-inner.Y, inner.Bottom()-box.Bottom()
	c.Least = (c.Face != nil || c.Pads) && !slices.ContainsFunc(c.Cells, (*Cell).tall) && math.Abs(top-bottom) <= 0.3*box.H
	if !c.Least {
		content.Y, content.H = box.Y, box.H
	}
	gaps := make([]float64, 0, len(c.Cells))
	for i, k := range c.Cells[1:] {
		gaps = append(gaps, math.Round(100*(k.Box.X-c.Cells[i].Box.Right()))/100)
	}
	c.Gap, c.Nearest = usual(gaps), max(0, slices.Min(gaps))
	c.along(gaps, lead, tail)
	if c.Kind == Grid {
		c.beside(inner, box.Y)
		return
	}
	c.alignRow(content)
	for i, k := range c.Cells {
		if i > 0 && !k.Pushed && c.Justify != Apart {
			k.Before = tidy(gaps[i-1] - c.Gap)
		}
		l, r := k.firm()
		k.Wide = !k.Words() && (l && r || k.paragraphs())
		k.Narrow = k.Words() && len(k.TextLines()) > 1
	}
	c.beside(inner, box.Y)
}

// beside settles the cells of a row that begins at a height, and finds the padding above and below them.
func (c *Cell) beside(inner geom.Rect, from float64) {
	framed := (c.Face != nil || c.Pads) && !c.Least
	y := from + c.drift
	if framed {
		c.Padding[0] = max(0, whole(from-inner.Y-c.drift))
		y = inner.Y + c.drift + c.Padding[0]
	}
	tallest := 0.0
	for _, k := range c.Cells {
		k.drift = y - from
		k.settle(k.Box)
		tallest = max(tallest, k.height+max(0, k.Across))
	}
	switch {
	case c.Least:
		c.height = c.Box.H
	case framed:
		c.Padding[2] = max(0, c.rest(inner.Bottom()-y-tallest))
		c.height = c.Padding[0] + tallest + c.Padding[2] + 2*c.border()
	default:
		c.height = tallest
	}
}

// paragraphs reports whether a cell holds words of several lines: these break only where there is a width.
func (c *Cell) paragraphs() bool {
	if c.Words() {
		return len(c.TextLines()) > 1
	}
	return slices.ContainsFunc(c.Cells, (*Cell).paragraphs)
}

// along finds the padding, gaps and distribution along a row.
func (c *Cell) along(gaps []float64, lead, tail float64) {
	faced := c.Face != nil || c.Pads
	widest := 0
	for i, g := range gaps {
		if g > gaps[widest] {
			widest = i
		}
	}
	rest := 0.0
	for i, g := range gaps {
		if i != widest {
			rest = max(rest, g)
		}
	}
	pad := func(left, right float64) {
		if faced {
			c.Padding[3], c.Padding[1] = max(0, left), max(0, right)
		} else if left > near {
			c.Cells[0].Before = left
		}
	}
	full := tail <= 1 && lead <= near || faced
	even, isEven := Even(gaps)
	firmLeft, _ := c.Cells[0].firm()
	_, firmRight := c.Cells[len(c.Cells)-1].firm()
	spread := !isEven && firmLeft && firmRight && math.Abs(lead-tail) <= 2 && gaps[widest] >= lead
	switch apart := spread || gaps[widest] >= 24 && gaps[widest] > 1.5*rest; {
	case full && apart && (len(gaps) > 1 || spread || gaps[0] > lead+tail && gaps[0] > 32 || !faced):
		pad(lead, tail)
		if len(gaps) == 1 {
			c.Justify, c.Gap = Apart, 0
			return
		}
		c.Cells[widest+1].Pushed = true
		c.Gap = usual(slices.Delete(slices.Clone(gaps), widest, widest+1))
	case full && isEven && alikeCells(c.Cells) && c.Cells[0].Face != nil && (lead <= 2*even || !faced):
		pad(lead, tail)
		c.Kind, c.Columns = Grid, len(c.Cells)
	case full && isEven && len(gaps) > 1 && even >= 24 && !faced:
		c.Justify, c.Gap = Apart, 0
	case math.Abs(lead-tail) <= 1 && lead > near && (lead > 2*slices.Max(gaps) || !firmLeft || !firmRight):
		c.Justify = Middle
	case tail <= near && lead > near && !faced:
		c.Justify = Ended
	default:
		pad(lead, min(lead, tail))
	}
}

// alignRow finds the vertical alignment of the cells of a row. Where none is as high as the row, only what stands at its top
// stays there.
func (c *Cell) alignRow(content geom.Rect) {
	count := map[Align]int{}
	full := c.Least
	for _, k := range c.Cells {
		list := k.stands(content)
		full = full || slices.Contains(list, Start) && slices.Contains(list, End)
		for _, a := range list {
			count[a]++
		}
	}
	c.Align = Start
	for _, a := range []Align{Stretch, Center, End} {
		if n := count[a]; full && (n == len(c.Cells) || n > 1 && n > count[c.Align]) {
			c.Align = a
			if n == len(c.Cells) {
				break
			}
		}
	}
	for _, k := range c.Cells {
		list := k.stands(content)
		switch {
		case slices.Contains(list, c.Align):
		case len(list) > 0 && full && list[0] != Stretch:
			k.Self = list[0]
		case c.Align == Center:
			k.Across = k.tidied(k.Box.Centre().Y - content.Centre().Y)
		default:
			k.Across = k.tidied(k.Box.Y - content.Y)
			if c.Align != Start {
				k.Self = Start
			}
		}
	}
}

// tidied is a length down to a cell, in whole px where nothing but words has a place there.
func (c *Cell) tidied(v float64) float64 {
	if c.Words() || c.Face == nil && !c.Leaf() {
		return whole(v)
	}
	return tidy(v)
}

// stands lists the alignments that describe a cell's place in a row.
func (c *Cell) stands(content geom.Rect) (list []Align) {
	top, bottom := c.Box.Y-content.Y, content.Bottom()-c.Box.Bottom()
	if off := math.Abs(top - bottom); off <= 0.9 || c.Face == nil && !c.Leaf() && off <= 1.05 { // by halves

		list = append(list, Center)
	}
	if math.Abs(top) < near {
		list = append(list, Start)
		if math.Abs(bottom) < near {
			list = append(list, Stretch)
		}
	}
	if math.Abs(bottom) < near {
		list = append(list, End)
	}
	return list
}

// gridOf settles cells in rows of the same columns.
func (c *Cell) gridOf(inner geom.Rect) {
	box := union(c.Cells)
	framed := c.Face != nil || c.Pads
	y := box.Y + c.drift
	if framed {
		top := max(0, whole(box.Y-inner.Y-c.drift))
		c.Padding = [4]float64{top, tidy(max(0, inner.Right()-box.Right())), 0, tidy(max(0, box.X-inner.X))}
		y = inner.Y + c.drift + top
	}
	c.Gap = tidy(c.Cells[1].Box.X - c.Cells[0].Box.Right())
	for at := 0; at < len(c.Cells); at += c.Columns {
		row := c.Cells[at:min(at+c.Columns, len(c.Cells))]
		if at > 0 {
			c.RowGap = whole(row[0].Box.Y - union(c.Cells[at-c.Columns:at]).Bottom())
			y += c.RowGap
		}
		tallest := 0.0
		for _, k := range row {
			k.drift = y - row[0].Box.Y
			k.settle(k.Box)
			tallest = max(tallest, k.height)
		}
		y += tallest
	}
	c.height = y - box.Y - c.drift
	if framed {
		c.Padding[2] = max(0, c.rest(inner.Bottom()-y))
		c.height = y + c.Padding[2] - inner.Y - c.drift + 2*c.border()
	}
}
