package raster

import (
	"math"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// glyphs paints a run of text. Where the text stands upright its baseline falls on whole device pixels and its
// glyphs on quarters of one, as text painters in browsers do, so that equal letters look equal.
func (p *painter) glyphs(dst *layer, n *design.PaintNode, m geom.Matrix, opacity float64) {
	if n.StrokeFirst {
		p.strokePath(dst, n, glyphPath(n), m, opacity)
	}
	if n.Fill != nil {
		for _, g := range n.Glyphs {
			gm := m.Mul(geom.Translate(g.Origin.X, g.Origin.Y)).Mul(geom.Scale(g.Size, g.Size))
			if m.Upright() && g.Size*m.MeanScale() < 256 {
				gm.E = math.Floor(gm.E*4+0.5) / 4
				gm.F = math.Round(gm.F)
			}
			if mask := p.cover.path(g.Outline, gm, dst.r, false); mask != nil {
				p.shade(dst, mask, n.Fill, m, opacity)
			}
		}
	}
	if !n.StrokeFirst {
		p.strokePath(dst, n, glyphPath(n), m, opacity)
	}
}

// glyphPath is the outline of a run as one path in node space.
func glyphPath(n *design.PaintNode) *geom.Path {
	out := &geom.Path{}
	for _, g := range n.Glyphs {
		out.Append(g.Outline.Transform(geom.Matrix{A: g.Size, D: g.Size, E: g.Origin.X, F: g.Origin.Y}))
	}
	return out
}
