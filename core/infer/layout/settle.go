package layout

import (
	"math"
	"slices"

	"archetyp/core/geom"
)

// Settle works out how everything on a cell stands.
func (c *Cell) Settle() { c.settle(c.Box) }

// settle works out how the cells of a cell stand, and those of these. room is what the cell may fill: its own box, or
// the width its holder has where it is as wide as that.
func (c *Cell) settle(room geom.Rect) {
	c.Room, c.height = room, c.Box.H
	if c.Words() {
		c.Narrow = c.Narrow || !c.wraps(room.W) && c.wraps(c.Box.W)
		return
	}
	for _, k := range c.Over {
		k.settle(k.Box)
	}
	if len(c.Cells) == 0 {
		return
	}
	inner := room
	if c.Face != nil { // alike boxes are alike inside, wherever they stand
		inner = c.Box.Grow(-c.border())
		c.drift = 0
	}
	switch c.Kind {
	case Row:
		c.row(inner)
	case Grid:
		c.gridOf(inner)
	default:
		c.column(inner)
	}
}

// border is how wide the border of the cell's face is, in px.
func (c *Cell) border() float64 {
	if c.Face != nil && len(c.Face.Strokes) > 0 {
		return c.Face.Strokes[0].Value.Shown
	}
	if c.Element != nil && c.Element != c.Face {
		return c.Element.BorderWidth()
	}
	return 0
}

// union is the box around cells.
func union(cells []*Cell) (box geom.Rect) {
	for _, k := range cells {
		box = box.Union(k.Box)
	}
	return box
}

// overhang is how far, in px, the ends of a picture's strokes may reach out of the column it stands in.
const overhang = 2

// edges are the left and right edge of cells one below the other. Pictures may hang over by as much as their strokes do.
func edges(cells []*Cell) (left, right float64) {
	left, right = math.Inf(1), math.Inf(-1)
	for _, k := range cells {
		if !k.Picture() {
			left, right = min(left, k.Box.X), max(right, k.Box.Right())
		}
	}
	for _, k := range cells {
		if k.Picture() {
			if k.Box.X < left-overhang {
				left = k.Box.X
			}
			if k.Box.Right() > right+overhang {
				right = k.Box.Right()
			}
		}
	}
	return left, right
}

// sides are the insets of a column's cells from its face: a side that nothing stands firmly at has that of the other, as
// long as there is room for it.
func (c *Cell) sides(inner geom.Rect) (left, right float64) {
	left, right = math.Inf(1), math.Inf(1)
	from, to := edges(c.Cells)
	roomL, roomR := from-inner.X, inner.Right()-to
	for _, k := range c.Cells {
		l, r := k.firm()
		if k.Face == nil && k.evenIn(inner) {
			return 0, 0
		}
		if k.Picture() && k.Box.X >= from-overhang && k.Box.Right() <= to+overhang {
			l, r = l && k.Box.X >= from, r && k.Box.Right() <= to
		}
		if l {
			left = min(left, k.Box.X-inner.X)
		}
		if r {
			right = min(right, inner.Right()-k.Box.Right())
		}
	}
	switch {
	case math.IsInf(left, 1) && math.IsInf(right, 1):
		return 0, 0
	case math.IsInf(right, 1):
		right = min(left, roomR)
	case math.IsInf(left, 1):
		left = min(right, roomL)
	}
	if c.Pads && right > 2*left { // nothing reaches to the end: as much air there as at the start
		right = left
	} else if c.Pads && left > 2*right {
		left = right
	}
	return tidy(max(0, left)), tidy(max(0, right))
}

// column settles cells one below the other.
func (c *Cell) column(inner geom.Rect) {
	first := c.Cells[0].Box
	content := inner
	framed := c.Face != nil || c.Pads
	if framed {
		left, right := c.sides(inner)
		if c.Least = c.middled(inner); c.Least && c.Cells[0].Leaf() && !c.Cells[0].Words() {
			left, right = 0, 0
		}
		c.Padding[1], c.Padding[3] = right, left
		content = geom.Rect{X: inner.X + left, W: inner.W - left - right, Y: inner.Y, H: inner.H}
	}
	y := inner.Y + c.drift
	if !framed {
		y = first.Y + c.drift
	}
	var gaps []float64
	for i, k := range c.Cells {
		step := whole(k.Box.Y - y)
		switch {
		case k.boxed(): // its edges show where it is
			step = nearly(k.Box.Y - y)
		case c.repeats(i): // what is even in the drawing stays even
			step = nearly(k.Box.Y - c.Cells[i-1].Box.Bottom())
		}
		switch {
		case c.Least:
			step = k.Box.Y - y
			if off := whole((first.Y + first.Bottom() - inner.Y - inner.Bottom()) / 2); math.Abs(off) >= near {
				k.Before = off
			}
		case i > 0:
			gaps = append(gaps, step)
		case step < -near: // it hangs over the edge
			k.Before = step
		case !framed:
			step = 0
		default:
			step = max(0, step)
			c.Padding[0] = step
		}
		y += step
		k.drift = y - k.Box.Y
		if k.Face == nil && k.evenIn(content) {
			k.Box.X, k.Box.W = content.X, content.W
		}
		k.across(content)
		k.settle(k.within(content))
		y += k.height
	}
	c.Gap = usual(gaps)
	for i, k := range c.Cells[1:] {
		k.Before = tidy(gaps[i] - c.Gap)
	}
	switch {
	case c.Least:
		c.height = c.Box.H
	case framed:
		c.Padding[2] = max(0, c.rest(inner.Bottom()-y))
		c.height = y + c.Padding[2] - inner.Y - c.drift + 2*c.border()
		if c.Face != nil && c.Padding[2] > noAir && c.Padding[2] > 3*max(c.Padding[0], slices.Max(append(gaps, 0))) {
			c.High, c.Padding[2], c.height = true, 0, c.Box.H
		}
	default:
		c.height = y - first.Y - c.drift
	}
}

// repeats reports whether the gap before a cell of a column is there again before or after.
func (c *Cell) repeats(i int) bool {
	gap := func(i int) float64 { return c.Cells[i].Box.Y - c.Cells[i-1].Box.Bottom() }
	return i > 0 && (i > 1 && math.Abs(gap(i)-gap(i-1)) <= 0.02 || i+1 < len(c.Cells) && math.Abs(gap(i)-gap(i+1)) <= 0.02)
}

// noAir is from how many px on the room below a column is no inset.
const noAir = 96

// rest is the air at the end: exact in a face, so that what follows it is where it is drawn.
func (c *Cell) rest(v float64) float64 {
	if c.Face != nil {
		return nearly(v)
	}
	return whole(v)
}

// nearly is a length in whole px where that is next to nothing off, else in hundredths.
func nearly(v float64) float64 {
	if r := math.Round(v); math.Abs(v-r) <= 0.1 {
		return r + 0
	}
	return math.Round(100*v)/100 + 0
}

// boxed reports whether a cell is, or holds, a shape that others stand on.
func (c *Cell) boxed() bool {
	return c.Face != nil || slices.ContainsFunc(c.Cells, (*Cell).boxed)
}

// within is what a cell of a column may fill of it.
func (c *Cell) within(content geom.Rect) geom.Rect {
	room := c.Box
	if c.Self == "" && !c.Wide {
		room.X, room.W = content.X+c.Across, content.W-c.Across
		if c.Inset {
			room.W -= c.Across
		}
	}
	return room
}

// whole is a length in whole px, or in halves where that would be off by more than 0.3 px: browsers put letters and the
// edges of boxes on whole px, so that nothing is seen of what is left over.
func whole(v float64) float64 {
	if r := math.Round(v); math.Abs(v-r) <= 0.3 {
		return r + 0
	}
	return math.Round(2*v)/2 + 0
}

// middled reports whether the only thing on a face stands in its middle, words or a row of them.
func (c *Cell) middled(inner geom.Rect) bool {
	if len(c.Cells) != 1 || c.Face == nil {
		return false
	}
	k := c.Cells[0]
	slack := 1.5
	if k.Words() {
		slack = max(1.5, k.Box.H/4)
	}
	if k.Leaf() && !k.Words() { // a small thing in the middle of a larger one
		return k.Box.W <= 0.6*inner.W && k.Box.H <= 0.6*inner.H &&
			math.Abs(k.Box.X+k.Box.Right()-inner.X-inner.Right()) <= 2 &&
			math.Abs(k.Box.Y+k.Box.Bottom()-inner.Y-inner.Bottom()) <= 2
	}
	return !k.tall() && math.Abs(k.Box.Y+k.Box.Bottom()-inner.Y-inner.Bottom())/2 <= slack/2+0.25
}

// tall reports whether a cell's height is one that the drawing has, and not that of its words.
func (c *Cell) tall() bool {
	if c.Words() {
		return c.Lines != nil || len(c.Element.Words.Lines) > 1
	}
	return c.Leaf() || c.Face != nil || slices.ContainsFunc(c.Cells, (*Cell).tall)
}

// usual is the gap that most of them are, where any is more often than once and none is smaller; the one there is; else
// 0.
func usual(gaps []float64) float64 {
	if len(gaps) == 1 {
		return max(0, gaps[0])
	}
	best, most := 0.0, 1
	for _, g := range gaps {
		n := 0
		for _, o := range gaps {
			if math.Abs(g-o) <= 0.01 {
				n++
			}
		}
		if n > most && g >= 0 && g <= slices.Min(gaps)+0.01 {
			best, most = g, n
		}
	}
	return best
}

// across finds the horizontal alignment of a cell in a column whose content box is given.
func (k *Cell) across(content geom.Rect) {
	left, right := k.Box.X-content.X, content.Right()-k.Box.Right()
	firmLeft, firmRight := k.firm()
	words, hugs := k.Words(), !firmLeft || !firmRight
	centred := math.Abs(left-right) <= 1 && left > near
	switch {
	case math.Abs(left) <= near && (math.Abs(right) <= near || hugs && firmLeft):
	case words && k.align() == Center && math.Abs(left-right) <= 2:
		k.Text = Center
	case math.Abs(right) <= near && hugs && firmRight:
		if words {
			k.Text = End
		} else {
			k.Self = End
		}
	case words && k.align() == Start && left >= -near && left <= near:
	case centred && !words && (left > 0.15*content.W || k.Picture() || k.Leaf() || hugs):
		k.Self, k.Wide = Center, !hugs
	case centred && !words:
		k.Across, k.Inset = tidy(left), true
	case math.Abs(right) <= near && !words:
		k.Self, k.Wide = End, !hugs
	case words && k.align() == Center: // in the middle of something else
		k.Self, k.Across = Start, tidy(left)
	case words:
		k.Across, k.Inset = tidy(left), left > 0 && left <= right && left <= 0.15*content.W
	default:
		k.Across, k.Wide = tidy(left), !hugs
	}
	if k.Wide && k.Self == "" {
		k.Self = Start
	}
}
