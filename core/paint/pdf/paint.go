package pdf

import (
	"fmt"
	"math"
	"slices"
	"strconv"

	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/geom"
)

var opaqueBlack = color.Black

// paint paints what a node holds, in its own space.
func (c *content) paint(n *design.PaintNode, m geom.Matrix, opacity float64) {
	switch {
	case len(n.Glyphs) > 0:
		if n.StrokeFirst {
			c.stroke(n, n.Outlines(), m, opacity)
		}
		c.words(n, m, opacity)
		if !n.StrokeFirst {
			c.stroke(n, n.Outlines(), m, opacity)
		}
	case n.Path != nil:
		if n.StrokeFirst {
			c.stroke(n, n.Path, m, opacity)
		}
		c.fill(n.Path, n.EvenOdd, n.Fill, m, opacity)
		if !n.StrokeFirst {
			c.stroke(n, n.Path, m, opacity)
		}
	}
	if n.Bitmap != nil {
		c.bitmap(n, opacity)
	}
	for _, k := range n.Children {
		c.node(k, m)
	}
}

func rgb(col color.Color) string {
	s := col.SRGB()
	lim := func(v float64) float64 { return math.Min(1, math.Max(0, v)) }
	return numbers(lim(s[0]), lim(s[1]), lim(s[2]))
}

// fill paints the inside of a path.
func (c *content) fill(p *geom.Path, evenOdd bool, paint *design.Paint, m geom.Matrix, opacity float64) {
	if paint == nil || p.Empty() {
		return
	}
	rule := ""
	if evenOdd {
		rule = "*"
	}
	c.op("", "q")
	defer c.op("", "Q")
	switch paint.Kind {
	case design.Solid:
		c.alpha(paint.Color.Alpha * opacity)
		c.op(rgb(paint.Color), "rg")
		c.path(p)
		c.op("", "f"+rule)
	case design.Pattern:
		c.alpha(paint.Opacity * opacity)
		c.op("/Pattern", "cs")
		c.op("/"+c.tile(paint.Tile, m), "scn")
		c.path(p)
		c.op("", "f"+rule)
	default:
		c.alpha(paint.Opacity * opacity)
		box, _ := p.Bounds()
		c.path(p)
		c.op("", "W"+rule+" n")
		c.gradient(paint.Gradient, box)
	}
}

// stroke paints the line along a path: as a line where the format has it, else as its outline.
func (c *content) stroke(n *design.PaintNode, p *geom.Path, m geom.Matrix, opacity float64) {
	s := n.Stroke
	if s == nil || p.Empty() {
		return
	}
	if s.Paint.Kind != design.Solid || s.Fixed {
		style := s.Style(1)
		outline := &geom.Path{}
		if inv, ok := m.Inverse(); ok && s.Fixed { // the width counts where the shape ends up
			outline = geom.Stroke(p.Transform(m), style, 4).Transform(inv)
		} else {
			outline = geom.Stroke(p, style, math.Max(m.MeanScale(), 1e-6)*4)
		}
		c.fill(outline, false, &s.Paint, m, opacity)
		return
	}
	c.op("", "q")
	defer c.op("", "Q")
	c.alpha(s.Paint.Color.Alpha * opacity)
	c.op(rgb(s.Paint.Color), "RG")
	c.op(num(s.Width), "w")
	c.op(place(s.Cap, "butt", "round", "square"), "J")
	c.op(place(s.Join, "miter", "round", "bevel"), "j")
	if s.Miter > 0 {
		c.op(num(s.Miter), "M")
	}
	if len(s.Dashes) > 0 {
		d := s.Dashes
		if len(d)%2 == 1 {
			d = append(append([]float64(nil), d...), d...)
		}
		offset, sum := s.Offset, 0.0
		for _, v := range d {
			sum += v
		}
		if offset < 0 && sum > 0 {
			offset += sum * math.Ceil(-offset/sum)
		}
		c.op("["+numbers(d...)+"] "+num(offset), "d")
	}
	c.path(p)
	c.op("", "S")
}

// place is where a word stands in a list, as the format numbers it; the first for an unknown one.
func place(word string, list ...string) string { return strconv.Itoa(max(0, slices.Index(list, word))) }

// tile is a pattern whose cells are painted by a stream of their own. Its matrix counts from the stream that uses it.
func (c *content) tile(t *design.Tile, m geom.Matrix) string {
	f := c.w.newContent(geom.Identity)
	f.node(t.Content, geom.Identity)
	x := c.base.Mul(m).Mul(t.Matrix)
	b := t.Box
	o := c.w.stream(fmt.Sprintf("/Type/Pattern/PatternType 1/PaintType 1/TilingType 1/BBox[%s]/XStep %s/YStep "+
		"%s/Matrix[%s]/Resources%s",
		numbers(b.X, b.Y, b.Right(), b.Bottom()), num(b.W), num(b.H), numbers(x.A, x.B, x.C, x.D, x.E,
			x.F), f.resources()), f.b.Bytes())
	return c.use("Pattern", "P", o)
}

// gradient fills what is clipped, of which box is the extent.
func (c *content) gradient(g *design.Gradient, box geom.Rect) {
	inv, ok := g.Matrix.Inverse()
	if !ok || len(g.Stops) == 0 {
		return
	}
	x := g.Matrix
	c.op(numbers(x.A, x.B, x.C, x.D, x.E, x.F), "cm")
	from, to := turns(g, inv.Rect(box))
	if translucent(g) {
		f := c.w.newContent(geom.Identity)
		f.op("/"+f.use("Shading", "S", c.w.shading(g, from, to, true)), "sh")
		c.softMask(f, "Luminosity")
	}
	c.op("/"+c.use("Shading", "S", c.w.shading(g, from, to, false)), "sh")
}
