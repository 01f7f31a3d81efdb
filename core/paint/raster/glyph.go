package raster

import (
	"math"

	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/geom"
)

// maxGlyph is the size in device pixels per em from which letters are painted like any other shape.
const maxGlyph = 256

// glyphs paints a run of text the way text painters in browsers do: where it stands upright its baseline falls on
// whole device pixels and its glyphs on quarters of one, so that equal letters look equal; and the coverage of its
// edges is corrected for its colour, so that light text looks no thinner than dark.
func (p *painter) glyphs(dst *layer, n *design.PaintNode, m geom.Matrix, opacity float64) {
	if n.StrokeFirst {
		p.strokePath(dst, n, n.Outlines(), m, opacity)
	}
	if n.Fill != nil {
		var table *[256]uint8
		if n.Fill.Kind == design.Solid {
			table = &textContrast[luminanceLevel(n.Fill.Color)]
		}
		for _, g := range n.Glyphs {
			gm := m.Mul(geom.Translate(g.Origin.X, g.Origin.Y)).Mul(geom.Scale(g.Size, g.Size))
			outline := g.Outline
			small := g.Size*m.MeanScale() < maxGlyph
			if small && m.Upright() {
				outline = sixtyFourths(outline, gm.A, gm.D)
				gm = geom.Translate(math.Floor(gm.E*4+0.5)/4, math.Round(gm.F))
			}
			mask := p.cover.path(outline, gm, dst.r, false)
			if mask == nil {
				continue
			}
			if small && table != nil {
				for i, v := range mask.a {
					mask.a[i] = table[v]
				}
			}
			p.shade(dst, mask, n.Fill, m, opacity)
		}
	}
	if !n.StrokeFirst {
		p.strokePath(dst, n, n.Outlines(), m, opacity)
	}
}

// sixtyFourths scales an outline to its size in device pixels, in the whole 64ths of a pixel that fonts are scaled to.
func sixtyFourths(o *geom.Path, sx, sy float64) *geom.Path {
	out := &geom.Path{Verbs: o.Verbs, Points: make([]geom.Point, len(o.Points)), Weights: o.Weights}
	for i, p := range o.Points {
		out.Points[i] = geom.Point{X: math.Round(p.X*sx*64) / 64, Y: math.Round(p.Y*sy*64) / 64}
	}
	return out
}

// textContrast corrects coverage for eight levels of text luminance, black to white: contrast is raised a little for
// dark text, and blending happens as if on a display with a gamma of 1.2, against the opposite colour.
var textContrast = func() (tables [8][256]uint8) {
	const gamma, contrast = 1.2, 0.2
	for level := range tables {
		src := float64(level<<5|level<<2|level>>1) / 255
		dst := 1 - src
		linSrc, linDst := math.Pow(src, gamma), math.Pow(dst, gamma)
		for i := range tables[level] {
			a := float64(i) / 255
			a += (1 - a) * contrast * linDst * a
			out := a
			if math.Abs(dst-src) >= 1.0/256 {
				out = (math.Pow(linSrc*a+linDst*(1-a), 1/gamma) - dst) / (src - dst)
			}
			tables[level][i] = uint8(math.Round(255 * math.Min(1, math.Max(0, out))))
		}
	}
	return
}()

// luminanceLevel sorts a text colour into the eight levels, pulled towards the dark so that greens count as such.
func luminanceLevel(c color.Color) int {
	r, g, b, _ := c.RGBA8()
	l := (int(r)*54 + int(g)*183 + int(b)*19) >> 8
	l -= (255 - l) * l / 255
	return l >> 5
}
