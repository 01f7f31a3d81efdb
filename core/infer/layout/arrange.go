package layout

import (
	"math"
	"slices"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// Arrange recovers how everything on an element is put together: what stands on what, and in which rows and columns,
// whether the drawing has groups for it or not. The whole of a screen is its root. Settle then finds gaps, padding and alignment.
// lineHeight gives the line height that a text will be set with, in px, where the drawing states none; 0 or nil for the
// font's own.
func Arrange(e *design.Element, lineHeight func(*design.Element) float64) *Cell {
	a := &arranger{lineHeight}
	if lineHeight == nil {
		a.lineHeight = func(*design.Element) float64 { return 0 }
	}
	c := a.cellOf(e)
	if c == nil {
		c = &Cell{Element: e, Name: e.Name, Box: a.boxOf(e)}
	}
	if e.Parent == nil {
		c.Box, c.Pads = geom.Rect{W: e.Screen.Box.W, H: e.Screen.Box.H}, true
		c.ground()
	}
	c.cut()
	return c
}

// solid reports whether a shape is filled with plain colours.
func solid(e *design.Element) bool {
	return !slices.ContainsFunc(e.Fills, func(f design.Fact[design.Paint]) bool { return f.Value.Kind != design.Solid })
}

// box reports whether a cell is a shape that CSS draws, with nothing on it.
func (c *Cell) box() bool {
	return c.Leaf() && c.Parts == nil && c.Element != nil && c.Element.Kind == design.Box && c.Face == nil
}

// unturn puts a cell where it stands before what holds it is turned by some degrees about a point.
func (c *Cell) unturn(by float64, about geom.Point) {
	if c.Face == nil && len(c.Cells) > 0 { // as large as what it holds
		for _, k := range c.Cells {
			k.unturn(by, about)
		}
		c.fit()
		return
	}
	at := c.Box.Centre()
	to := geom.Rotate(-by).Apply(at.Sub(about)).Add(about)
	c.move(to.X-at.X, to.Y-at.Y)
}

// move moves a cell with all that stands on it.
func (c *Cell) move(dx, dy float64) {
	c.Box = c.Box.Move(dx, dy)
	for _, k := range c.Cells {
		k.move(dx, dy)
	}
}

// flat takes the face of the one thing a cell holds, where that is as large as the cell.
func (c *Cell) flat() {
	only := c.Cells[0]
	if len(c.Cells) == 1 && only.Leaf() && only.box() && only.Box.Contains(c.Box, near) && c.Element.Kind == design.Group &&
		!c.Element.Blend.Set && !c.Element.Blur.Set && solid(only.Element) {
		c.Face, c.Cells = only.Element, nil
		if c.Element.Opacity.Set {
			c.Fade = c.Element.Opacity.Value
		}
		return
	}
	if len(c.Cells) == 1 && only.Face != nil && only.Face == only.Element && only.Box.Contains(c.Box, near) {
		c.Face, c.Cells = only.Face, only.Cells
	}
}

// clipped is the area that a group is cut off by, where that is a box.
func clipped(e *design.Element) (geom.Rect, bool) {
	cuts := e.Cuts()
	if e.Kind != design.Group || len(cuts) != 1 || !cuts[0].Value.Basic {
		return geom.Rect{}, false
	}
	return cuts[0].Value.Area, true
}

// within leaves of cells what lies in an area.
func within(cells []*Cell, area geom.Rect) (out []*Cell) {
	for _, c := range cells {
		box := c.Box.Intersect(area)
		if box.W <= 0 && box.H <= 0 && !c.Box.Empty() {
			continue
		}
		if c.Leaf() && !c.Words() {
			c.Box = box
		}
		out = append(out, c)
	}
	return out
}

// arranger makes cells.
type arranger struct {
	lineHeight func(*design.Element) float64
}

// ground takes a shape that is as large as the whole for its face, and what a group around everything holds for what
// the whole holds.
func (c *Cell) ground() {
	for len(c.Cells) == 1 {
		switch only := c.Cells[0]; {
		case c.Face == nil && only.Face != nil && only.Box.Contains(c.Box, 1):
			c.Face, c.Cells = only.Face, only.Cells
		case only.loose():
			c.Cells = only.Cells
		default:
			return
		}
	}
}

// cellOf is the cell of an element with all that stands on it; nil for what shows nothing.
func (a *arranger) cellOf(e *design.Element) *Cell {
	if e.Hidden || e.Casts || !e.Geometry.Set || e.Screen != nil && outside(e) {
		return nil
	}
	c := &Cell{Element: e, Name: e.Name, Box: a.boxOf(e)}
	switch {
	case e.Words != nil:
		if e.Words.Words == "" {
			return nil
		}
		return c
	case e.Kind != design.Group:
		if len(e.Fills)+len(e.Strokes) == 0 && e.Kind != design.Image {
			return nil
		}
		return c
	case e.Parent != nil && Picture(e):
		return c
	}
	bg := ground(e)
	if bg != nil {
		c.Face, c.Box = bg, a.boxOf(bg)
		if frame, s := e.Border(); frame != nil {
			c.Box = c.Box.Grow(s.Value.Out())
		}
	}
	cells := a.contentCells(e, bg)
	if area, ok := clipped(e); ok {
		cells = within(cells, area)
	}
	if c.Face != nil {
		if turn := c.Face.Turn(); turn != 0 {
			for _, k := range cells {
				k.unturn(turn, c.Box.Centre())
			}
		}
	}
	c.Cells = nest(cells)
	if c.Face == nil {
		if len(c.Cells) == 0 {
			return nil
		}
		c.fit()
		if area, ok := clipped(e); ok {
			c.Box = area
		}
		if !plain(e) && e.Parent != nil {
			c.flat()
		}
		if len(c.Cells) == 1 && plain(e) && e.Parent != nil {
			only := c.Cells[0]
			if only.Name == "" || only.Words() {
				only.Name = firstOf(e.Name, only.Name)
			}
			return only
		}
	}
	return c
}

func firstOf(a, b string) string {
	if a != "" {
		return a
	}
	return b
}

// outside reports whether an element lies beside its screen.
func outside(e *design.Element) bool {
	if e.Parent == nil {
		return false
	}
	b := e.Painted.Value.Union(e.Geometry.Value)
	return b.Right() <= 0 || b.Bottom() <= 0 || b.X >= e.Screen.Box.W || b.Y >= e.Screen.Box.H
}

// plain reports whether a group does nothing to what it holds and is nothing by itself.
func plain(e *design.Element) bool {
	m := e.Marks
	return e.Kind == design.Group && m.Component == "" && m.Role == "" && !e.Opacity.Set && !e.Blend.Set && !e.Blur.Set &&
		len(e.Shadows) == 0 && len(e.Cuts()) == 0 && (e.Paint == nil || e.Paint.Filter == nil)
}

// fit makes a cell's box as large as what it holds.
func (c *Cell) fit() {
	c.Box = geom.Rect{}
	for _, k := range c.Cells {
		c.Box = c.Box.Union(k.Box)
	}
	if c.Kind != Row && len(c.Cells) > 0 {
		left, right := edges(c.Cells)
		c.Box.X, c.Box.W = left, right-left
	}
}

// ground is the background of an element; that of a screen is as large as it.
func ground(e *design.Element) *design.Element {
	bg := e.Background()
	if bg == nil || e.Parent != nil || bg.Layout.Value.Contains(geom.Rect{W: e.Screen.Box.W, H: e.Screen.Box.H}, 1) {
		return bg
	}
	return nil
}

// contentCells are the cells of what a group holds, lines of one paragraph as one.
func (a *arranger) contentCells(e, bg *design.Element) []*Cell {
	var frame, ring *design.Element
	if bg != nil {
		frame, _ = e.Border()
		ring = e.FocusRing()
	}
	inner := e
	for inner.Kind == design.Group && len(inner.Children) == 1 && inner.Children[0].Kind == design.Group {
		inner = inner.Children[0]
	}
	first := map[*design.Element]*Cell{}
	later := map[*design.Element]bool{}
	for _, p := range Paragraphs(inner) {
		c := &Cell{Element: p.Lines[0], Lines: p.Lines, Name: p.Lines[0].Name}
		for i, line := range p.Lines {
			c.Box = c.Box.Union(line.Geometry.Value)
			later[line] = i > 0
		}
		words := p.Lines[0].Words
		if up, cell := glyphCell(words); cell > 0 {
			c.Box.Y = words.Lines[0].Baseline.Y - up - math.Floor((p.LineHeight-cell)/2)
		}
		c.Box.H = p.LineHeight * float64(len(p.Lines))
		first[p.Lines[0]] = c
	}
	var out []*Cell
	contents := e.Contents()
	if bg == nil { // also what would be the ground of a group
		contents = inner.Children
	}
	for _, x := range contents {
		switch {
		case x == frame || x == ring || later[x]:
		case first[x] != nil:
			out = append(out, first[x])
		default:
			if c := a.cellOf(x); c != nil {
				out = append(out, c)
			}
		}
	}
	return out
}

// nest puts cells that stand on another into it, in paint order, dissolves groups that lie across others, and joins
// loose shapes to pictures.
func nest(cells []*Cell) []*Cell {
	cells = dissolve(cells)
	var out []*Cell
	held := map[*Cell]bool{}
	grown := map[*Cell]bool{}
	var grounds []*Cell
	for _, c := range cells {
		for _, g := range slices.Backward(grounds) {
			if g.takes(c) {
				g.Cells = append(g.Cells, c)
				held[c], grown[g] = true, true
				break
			}
		}
		if c.carries() {
			grounds = append(grounds, c)
		}
	}
	for _, c := range cells {
		if grown[c] {
			c.stand()
		}
		if !held[c] {
			out = append(out, c)
		}
	}
	return join(out)
}

// carries reports whether others may stand on a cell.
func (c *Cell) carries() bool {
	if c.Words() || c.Parts != nil || c.Element.Kind == design.Group && c.Face == nil {
		return false
	}
	return !c.Element.Line()
}

// takes reports whether another cell, painted later, stands on this one.
func (c *Cell) takes(o *Cell) bool {
	if !c.Box.Contains(o.Box, 1) && !(o.Words() && c.Box.Contains(o.ink(), 1)) || o.Box.W*o.Box.H >= c.Box.W*c.Box.H {
		return false
	}
	if c.Face == nil && Picture(c.Element) { // shapes on an outline are one picture with it, words stand on it
		return !o.Picture() && (o.Words() || o.Face != nil || !o.Leaf())
	}
	return true
}

// stand makes a shape that others stand on their face.
func (c *Cell) stand() {
	if c.Face == nil {
		c.Face = c.Element
	}
}

// ink is where the letters of a cell of words are, as near as their cells tell.
func (c *Cell) ink() geom.Rect {
	b := c.Box
	if c.Words() {
		n := 1.0
		if c.Lines != nil {
			n = float64(len(c.Lines))
		} else if w := c.Element.Words; w != nil && len(w.Lines) > 0 {
			n = float64(len(w.Lines))
		}
		line := b.H / n
		b = b.GrowXY(0, -line/4)
	}
	return b
}

// dissolve replaces groups that lie across other cells by what they hold, as long as there are any.
func dissolve(cells []*Cell) []*Cell {
	for range 8 {
		again := false
		var out []*Cell
		for i, c := range cells {
			if c.loose() && len(cells) <= mostCrossed && crossed(c, i, cells) {
				again = true
				out = append(out, c.Cells...)
				continue
			}
			out = append(out, c)
		}
		if cells = out; !again {
			break
		}
	}
	return cells
}

// mostCrossed is how many cells are held against each other.
const mostCrossed = 4096

// loose reports whether a cell is a group that is nothing by itself.
func (c *Cell) loose() bool {
	return c.Face == nil && len(c.Cells) > 0 && c.Element != nil && plain(c.Element)
}

// crossed reports whether a cell lies across another: they overlap, and it does not stand wholly on it.
func crossed(c *Cell, at int, cells []*Cell) bool {
	for i, o := range cells {
		if i == at || !overlap(c, o) {
			continue
		}
		if i < at && o.carries() && o.Box.Contains(c.Box, 1) {
			continue
		}
		return true
	}
	return false
}

// overlap reports whether two cells cover a common area that shows.
func overlap(a, b *Cell) bool {
	x, y := a.ink(), b.ink()
	return math.Min(x.Right(), y.Right())-math.Max(x.X, y.X) > 1 && math.Min(x.Bottom(), y.Bottom())-math.Max(x.Y, y.Y) > 1
}

// join makes one picture of loose shapes that overlap, outlines among them.
func join(cells []*Cell) []*Cell {
	if len(cells) > mostCrossed {
		return cells
	}
	var out []*Cell
	for _, c := range cells {
		if c.Leaf() && !c.Words() && c.Face == nil {
			if k := slices.IndexFunc(out, func(o *Cell) bool {
				return o.Leaf() && !o.Words() && o.Face == nil && overlap(o, c) && (o.Picture() || c.Picture()) &&
					o.Element.Marks.Asset == "" && c.Element.Marks.Asset == ""
			}); k >= 0 {
				o := out[k]
				o.Parts = append(o.parts(), c.parts()...)
				o.Box = o.Box.Union(c.Box)
				continue
			}
		}
		out = append(out, c)
	}
	return out
}

func (c *Cell) parts() []*design.Element {
	if c.Parts != nil {
		return c.Parts
	}
	return []*design.Element{c.Element}
}
