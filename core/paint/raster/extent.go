package raster

import (
	"archetyp/core/design"
	"archetyp/core/geom"
)

// Extent is a box, in whole px of the space above a node, that holds all it can paint: what filters carry further is
// counted, what they and clips cut off is not.
func Extent(n *design.PaintNode) geom.Rect {
	p := &painter{cover: &coverage{}}
	m := n.Matrix
	r := p.bounds(n, m)
	if f := n.Filter; f != nil && f.Region.W > 1e5 { // CSS filter functions have no region of their own
		r = p.contentBounds(n, m).Inset(-reach(f, m))
	}
	return geom.Rect{X: float64(r.Min.X), Y: float64(r.Min.Y), W: float64(r.Dx()), H: float64(r.Dy())}
}
