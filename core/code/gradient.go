package code

import (
	"math"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// gradientEnds are where a linear gradient of an element begins and ends, in shares of its box.
func gradientEnds(e *design.Element, p design.Paint) (from, to geom.Point) {
	box, toBox, _ := e.Unturned()
	m := toBox.Mul(p.Gradient.Matrix)
	share := func(q geom.Point) geom.Point {
		q = m.Apply(q)
		return geom.Point{X: (q.X - box.X) / math.Max(1e-9, box.W), Y: (q.Y - box.Y) / math.Max(1e-9, box.H)}
	}
	return share(p.Gradient.P0), share(p.Gradient.P1)
}
