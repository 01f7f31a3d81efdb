package layout

import (
	"math"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// Neighbour is the nearest element on one side of another.
type Neighbour struct {
	Side    design.Edge
	Element *design.Element
	Gap     float64 // clear px between them
}

// Neighbours finds the nearest visible siblings of an element above, right of, below and left of it, among those that
// face it: whose extents along that side overlap its own. box picks the box that is measured.
func Neighbours(e *design.Element, box func(*design.Element) geom.Rect) []Neighbour {
	holder := e.Parent
	if holder == nil {
		return nil
	}
	own := box(e)
	best := map[design.Edge]Neighbour{}
	try := func(side design.Edge, gap float64, c *design.Element) {
		if gap < -near {
			return
		}
		if b, ok := best[side]; !ok || gap < b.Gap {
			best[side] = Neighbour{side, c, gap}
		}
	}
	for _, c := range holder.Children {
		if c == e || c.Hidden || !c.Geometry.Set {
			continue
		}
		b := box(c)
		if math.Min(b.Bottom(), own.Bottom()) > math.Max(b.Y, own.Y) { // beside it
			try(design.Left, own.X-b.Right(), c)
			try(design.Right, b.X-own.Right(), c)
		}
		if math.Min(b.Right(), own.Right()) > math.Max(b.X, own.X) { // above or below
			try(design.Top, own.Y-b.Bottom(), c)
			try(design.Bottom, b.Y-own.Bottom(), c)
		}
	}
	var out []Neighbour
	for _, side := range []design.Edge{design.Top, design.Right, design.Bottom, design.Left} {
		if n, ok := best[side]; ok {
			n.Gap = tidy(n.Gap)
			out = append(out, n)
		}
	}
	return out
}

// Among says how elements from anywhere stand to each other: in a row, a column or a grid.
func Among(items []*design.Element) (Layout, bool) {
	if len(items) < 2 || len(items) > 4096 {
		return Layout{}, false
	}
	for _, try := range []func([]*design.Element) (Layout, bool){row, column, grid} {
		if l, ok := try(items); ok {
			return l, true
		}
	}
	return Layout{}, false
}
