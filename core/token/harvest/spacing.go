package harvest

import (
	"math"
	"sort"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/token"
)

// spacing collects distances: between neighbours in a group, and from a container's edge to what lies in it. The
// edges of text are those of its glyph cells, which depend on the font; they count where they are exact: at the left,
// and at the right of text that is set to the right.
func (c *collector) spacing(s *design.Screen) {
	visit := func(g *design.Element) {
		bg := g.Background()
		var kids []*design.Element
		for _, k := range g.Contents() {
			if k.Kind != design.Path && k.Geometry.Value.W > 0 && k.Geometry.Value.H > 0 {
				kids = append(kids, k)
			}
		}
		if bg != nil {
			c.insets(bg.Layout.Value, kids)
		}
		c.gaps(kids, true)
		c.gaps(kids, false)
	}
	var walk func(e *design.Element)
	walk = func(e *design.Element) {
		if e.Kind != design.Group || e.Hidden || picture(e) {
			return // the inside of a picture is no layout
		}
		if len(e.Children) != 1 || e.Children[0].Kind != design.Group { // one around another has its distances
			visit(e)
		}
		for _, k := range e.Children {
			walk(k)
		}
	}
	walk(s.Root)
}

func (c *collector) space(e *design.Element, prop string, v float64) {
	v = math.Round(v*100) / 100
	if v < 1 || v > 256 {
		return
	}
	c.add(&Found{Kind: "space", Type: token.Dimension, Value: token.PxValue(v), Text: css.Px(v), size: v}, css.Px(v),
		c.use(e, prop, 1))
}

// insets are the distances from a container to what is nearest to each edge.
func (c *collector) insets(box geom.Rect, kids []*design.Element) {
	type edge struct {
		dist float64
		e    *design.Element
	}
	best := map[string]edge{}
	for _, k := range kids {
		r := k.Layout.Value
		text := k.Words != nil
		put := func(side string, v float64, exact bool) {
			if v < -0.01 {
				return
			}
			if b, ok := best[side]; !ok || v < b.dist {
				if !exact {
					v = math.Inf(-1) // something inexact is nearer: nothing can be said
				}
				best[side] = edge{v, k}
			}
		}
		put("left", r.X-box.X, exact(k, design.Left))
		put("right", box.Right()-r.Right(), exact(k, design.Right))
		put("top", r.Y-box.Y, !text && exact(k, design.Top))
		put("bottom", box.Bottom()-r.Bottom(), !text && exact(k, design.Bottom))
	}
	for _, side := range []string{"top", "right", "bottom", "left"} {
		if b, ok := best[side]; ok && b.dist > 0 {
			c.space(b.e, "padding-"+side, b.dist)
		}
	}
}

// exact reports whether an edge of an element is where the drawing has it, whatever font a text is measured with: a
// text stands at the side it is aligned to; a group ends where what reaches furthest does. Heights of texts count where
// their font is there.
func exact(e *design.Element, side design.Edge) bool {
	if w := e.Words; w != nil {
		switch side {
		case design.Left:
			return w.Align.Value == "left"
		case design.Right:
			return w.Align.Value == "right"
		}
		return !w.Missing
	}
	if e.Kind != design.Group || e.Background() != nil {
		return true
	}
	at := side.Of(e.BorderBox())
	for _, c := range e.Contents() {
		if math.Abs(side.Of(c.BorderBox())-at) < 0.01 && exactOrThere(c, side) {
			return true
		}
	}
	return len(e.Contents()) == 0
}

// exactOrThere is exact, and for a text in a font that is there always.
func exactOrThere(e *design.Element, side design.Edge) bool {
	if e.Words != nil && !e.Words.Missing {
		return true
	}
	return exact(e, side)
}

// gaps are the distances between neighbours along one axis, where they stand side by side.
func (c *collector) gaps(kids []*design.Element, horizontal bool) {
	if len(kids) < 2 || len(kids) > 2000 {
		return
	}
	at := func(r geom.Rect) (from, to, crossFrom, crossTo float64) {
		if horizontal {
			return r.X, r.Right(), r.Y, r.Bottom()
		}
		return r.Y, r.Bottom(), r.X, r.Right()
	}
	order := append([]*design.Element(nil), kids...)
	sort.SliceStable(order, func(i, j int) bool {
		a, _, _, _ := at(order[i].Layout.Value)
		b, _, _, _ := at(order[j].Layout.Value)
		return a < b
	})
	for i, k := range order {
		if k.Words != nil {
			continue
		}
		_, end, c0, c1 := at(k.Layout.Value)
		for _, next := range order[i+1:] {
			from, _, d0, d1 := at(next.Layout.Value)
			if from < end-0.01 || math.Min(c1, d1)-math.Max(c0, d0) < 0.5*math.Min(c1-c0, d1-d0) {
				continue
			}
			before, behind := design.Bottom, design.Top
			if horizontal {
				before, behind = design.Right, design.Left
			}
			if exact(k, before) && exact(next, behind) && (next.Words == nil || horizontal) {
				c.space(next, "gap", from-end)
			}
			break
		}
	}
}
