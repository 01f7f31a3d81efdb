package svg

import (
	"slices"

	"archetyp/core/geom"
)

// judge finds whether path data is painted as an original is, at one to four pixels for each unit: browsers fill shapes
// by edges of whole numbers, and where those are the same the picture is. It counts as browsers do, in 32 bits, with the
// picture some way from the corner of what it is painted on.
type judge struct {
	from, to       [densities]device // from the original's space, and from that of what is written
	original, mine []geom.Edge
}

const (
	densities = 4
	offset    = 0 // px that a picture lies from the corner; it takes away the noise of sums in front of it
)

// device leads to the pixels of a device.
type device struct {
	m       geom.Matrix
	upright bool
}

// newJudge holds data in the space that to leads from against data in the space that from leads from; scale is the size
// of the picture.
func newJudge(from, to geom.Matrix, scale float64) *judge {
	j := &judge{}
	for k := range densities {
		zoom := geom.Translate(offset, offset).Mul(geom.Scale(scale*float64(k+1), scale*float64(k+1)))
		j.from[k], j.to[k] = deviceOf(zoom.Mul(from)), deviceOf(zoom.Mul(to))
	}
	return j
}

func deviceOf(m geom.Matrix) device {
	f := func(v float64) float64 { return float64(float32(v)) }
	return device{geom.Matrix{A: f(m.A), B: f(m.B), C: f(m.C), D: f(m.D), E: f(m.E), F: f(m.F)}, m.B == 0 && m.C == 0}
}

func (d *device) apply(p geom.Point) geom.Point {
	f := func(v float64) float64 { return float64(float32(v)) }
	if d.upright {
		return geom.Point{X: f(f(p.X*d.m.A) + d.m.E), Y: f(f(p.Y*d.m.D) + d.m.F)}
	}
	return geom.Point{X: f(f(p.X*d.m.A) + f(f(p.Y*d.m.C)+d.m.E)), Y: f(f(p.Y*d.m.D) + f(f(p.X*d.m.B)+d.m.F))}
}

// same says that a draft of a command comes out as the command does.
func (j *judge) same(w *pathWriter, c *command, d *draft) bool {
	end := c.end().counted
	for k := range densities {
		x, y := geom.Cell(j.from[k].apply(end))
		x2, y2 := geom.Cell(j.to[k].apply(d.end.seen))
		if x != x2 || y != y2 {
			return false
		}
	}
	if c.letter == 'M' || c.letter == 'L' { // a line is no more than its ends
		return true
	}
	for k := range densities {
		j.original = j.edges(j.original[:0], &j.from[k], c, w.from.counted, [3]geom.Point{c.points[0].counted, c.points[1].counted, c.points[2].counted})
		mine := c
		if d.arc != nil {
			mine = d.arc
		}
		var points [3]geom.Point
		copy(points[:], d.points)
		j.mine = j.edges(j.mine[:0], &j.to[k], mine, w.pen.seen, points)
		if !slices.Equal(j.original, j.mine) {
			return false
		}
	}
	return true
}

func (j *judge) edges(out []geom.Edge, d *device, c *command, from geom.Point, points [3]geom.Point) []geom.Edge {
	add := func(s *geom.Segment) {
		for i := range s.P {
			s.P[i] = d.apply(s.P[i])
		}
		out = s.Edges(out)
	}
	switch c.letter {
	case 'Q':
		add(&geom.Segment{Verb: geom.Quad, P: [4]geom.Point{from, points[0], points[1]}})
	case 'C':
		add(&geom.Segment{Verb: geom.Cubic, P: [4]geom.Point{from, points[0], points[1], points[2]}})
	case 'A':
		c.conics(from, points[0], add)
	}
	return out
}
