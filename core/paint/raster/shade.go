package raster

import (
	"encoding/binary"
	"math"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// shade lays a paint through a mask onto a layer. m leads from element space to the device.
func (p *painter) shade(dst *layer, mask *maskBuf, paint *design.Paint, m geom.Matrix, opacity float64) {
	switch paint.Kind {
	case design.Solid:
		c := paint.Color
		c.Alpha *= opacity
		solid(dst, mask, premul(c))
	case design.Linear, design.Radial:
		p.gradient(dst, mask, paint.Gradient, m, opacity*paint.Opacity)
	case design.Pattern:
		color := p.tileShader(paint.Tile, m)
		if color == nil || !p.spend(mask.r, 6) {
			return
		}
		opacity := float32(opacity * paint.Opacity)
		eachRow(mask.r, func(y int) {
			i := dst.at(mask.r.Min.X, y)
			for x, cov := range mask.row(y) {
				if cov != 0 {
					r, g, b, a := color(float64(mask.r.Min.X+x)+0.5, float64(y)+0.5)
					k := float32(cov) / 255 * opacity
					over(dst.pix[i+4*x:i+4*x+4], r*k, g*k, b*k, a*k)
				}
			}
		})
	}
}

// gradient lays a gradient through a mask. Its colours are looked up in a table made for it.
func (p *painter) gradient(dst *layer, mask *maskBuf, g *design.Gradient, m geom.Matrix, opacity float64) {
	inv, ok := m.Mul(g.Matrix).Inverse()
	if !ok || len(g.Stops) == 0 {
		return
	}
	table := p.ramp(g, math.Hypot(float64(mask.r.Dx()), float64(mask.r.Dy())))
	position := g.Position()
	var step float64 // of a linear gradient, which grows evenly along a row
	linear := g.R1 <= 0
	if linear {
		at := func(x float64) float64 { t, _ := position(inv.Apply(geom.Point{X: x})); return t }
		step = at(1) - at(0)
	}
	o, last := float32(opacity), float64(len(table)-1)
	eachRow(mask.r, func(y int) {
		i := dst.at(mask.r.Min.X, y)
		row := mask.row(y)
		start := geom.Point{X: float64(mask.r.Min.X) + 0.5, Y: float64(y) + 0.5}
		var t float64
		if linear {
			t, _ = position(inv.Apply(start))
		}
		for x, cov := range row {
			if cov == 0 {
				continue
			}
			at, ok := t+float64(x)*step, true
			if !linear {
				at, ok = position(inv.Apply(geom.Point{X: start.X + float64(x), Y: start.Y}))
			}
			if !ok {
				continue
			}
			if at = g.Within(at); !(at >= 0) {
				continue
			}
			c := &table[int(at*last+0.5)]
			px := dst.pix[i+4*x : i+4*x+4]
			if k := float32(cov) * (1.0 / 255) * o; k != 1 || c[3] != 255 {
				inv := 1 - c[3]*k*(1.0/255)
				px[0] = uint8(c[0]*k + float32(px[0])*inv + 0.5)
				px[1] = uint8(c[1]*k + float32(px[1])*inv + 0.5)
				px[2] = uint8(c[2]*k + float32(px[2])*inv + 0.5)
				px[3] = uint8(c[3]*k + float32(px[3])*inv + 0.5)
			} else {
				px[0], px[1], px[2], px[3] = uint8(c[0]+0.5), uint8(c[1]+0.5), uint8(c[2]+0.5), 255
			}
		}
	})
}

// ramp is a gradient's colours (0–255, premultiplied) from its begin to its end: sRGB is interpolated before it is
// premultiplied, as SVG says. There are several for each pixel that the gradient can be seen along.
func (p *painter) ramp(g *design.Gradient, length float64) [][4]float32 {
	n := 256
	for float64(n) < 2*length && n < 1<<14 {
		n *= 2
	}
	if p.ramps == nil {
		p.ramps = map[rampKey][][4]float32{}
	}
	k := rampKey{&g.Stops[0], n}
	if table, ok := p.ramps[k]; ok {
		return table
	}
	var stops []shaderStop
	for _, s := range g.Stops {
		c := s.Color.SRGB()
		lim := func(v float64) float32 { return float32(math.Min(1, math.Max(0, v))) }
		stops = append(stops, shaderStop{float32(s.Offset), lim(c[0]), lim(c[1]), lim(c[2]), lim(s.Color.Alpha)})
	}
	table := make([][4]float32, n+1)
	for i := range table {
		r, g, b, a := stopColor(stops, float32(i)/float32(n))
		table[i] = [4]float32{r * 255, g * 255, b * 255, a * 255}
	}
	p.ramps[k] = table
	return table
}

// rampKey tells tables apart: gradients with the same stops share them.
type rampKey struct {
	stops *design.Stop
	n     int
}

func solid(dst *layer, mask *maskBuf, c [4]uint8) {
	if c[3] == 0 {
		return
	}
	whole := binary.LittleEndian.Uint32(c[:])
	cr, cg, cb, ca := uint32(c[0]), uint32(c[1]), uint32(c[2]), uint32(c[3])
	eachRow(mask.r, func(y int) {
		row := mask.row(y)
		i := dst.at(mask.r.Min.X, y)
		px := dst.pix[i : i+4*len(row)]
		for x := 0; x < len(row); x++ {
			cov := row[x]
			if cov == 0 || cov == 255 && ca == 255 { // a stretch of it
				end := x + 1
				for end+8 <= len(row) && binary.LittleEndian.Uint64(row[end:]) == uint64(cov)*0x0101010101010101 {
					end += 8
				}
				for end < len(row) && row[end] == cov {
					end++
				}
				if cov != 0 {
					stretch(px[4*x:4*end], whole)
				}
				x = end - 1
				continue
			}
			q := px[4*x : 4*x+4 : 4*x+4]
			v := uint32(cov)
			inv := 255 - div255(ca*v)
			q[0] = uint8(div255(cr*v) + div255(uint32(q[0])*inv))
			q[1] = uint8(div255(cg*v) + div255(uint32(q[1])*inv))
			q[2] = uint8(div255(cb*v) + div255(uint32(q[2])*inv))
			q[3] = uint8(255 - inv + div255(uint32(q[3])*inv))
		}
	})
}

// stretch sets pixels to one colour.
func stretch(px []uint8, c uint32) {
	binary.LittleEndian.PutUint32(px, c)
	for n := 4; n < len(px); n *= 2 {
		copy(px[n:], px[:n])
	}
}

// div255 divides by 255, rounded, for values up to 255².
func div255(v uint32) uint32 {
	v += 128
	return (v + v>>8) >> 8
}

// over lays a premultiplied colour (0–1) on a pixel.
func over(px []uint8, r, g, b, a float32) {
	k := 1 - a
	px[0] = clamp8(r*255 + float32(px[0])*k)
	px[1] = clamp8(g*255 + float32(px[1])*k)
	px[2] = clamp8(b*255 + float32(px[2])*k)
	px[3] = clamp8(a*255 + float32(px[3])*k)
}

func clamp8(v float32) uint8 {
	if v <= 0 {
		return 0
	}
	if v >= 254.5 {
		return 255
	}
	return uint8(v + 0.5)
}

type shaderStop struct {
	at, r, g, b, a float32 // not premultiplied
}

func stopColor(stops []shaderStop, t float32) (r, g, b, a float32) {
	last := len(stops) - 1
	s := stops[last]
	switch {
	case t < stops[0].at:
		s = stops[0]
	case t < stops[last].at:
		i := 1
		for stops[i].at <= t {
			i++
		}
		p, q := stops[i-1], stops[i]
		k := float32(0)
		if q.at > p.at {
			k = (t - p.at) / (q.at - p.at)
		}
		s = shaderStop{t, p.r + (q.r-p.r)*k, p.g + (q.g-p.g)*k, p.b + (q.b-p.b)*k, p.a + (q.a-p.a)*k}
	}
	return s.r * s.a, s.g * s.a, s.b * s.a, s.a
}

const maxTile = 4096 // device pixels a pattern's tile may measure

// tileShader paints a pattern's tile once, at device size, and repeats it.
func (p *painter) tileShader(t *design.Tile, m geom.Matrix) func(x, y float64) (r, g, b, a float32) {
	tm := m.Mul(t.Matrix)
	inv, ok := tm.Inverse()
	if !ok || p.depth > 200 {
		return nil
	}
	sx, sy := math.Hypot(tm.A, tm.B), math.Hypot(tm.C, tm.D)
	w := int(math.Min(maxTile, math.Max(1, math.Round(t.Box.W*sx))))
	h := int(math.Min(maxTile, math.Max(1, math.Round(t.Box.H*sy))))
	if !p.spend(imageRect(w, h), 1) {
		return nil
	}
	l := newLayer(imageRect(w, h))
	kx, ky := float64(w)/t.Box.W, float64(h)/t.Box.H
	sub := &painter{depth: p.depth + 1, unit: p.unit, cover: &coverage{}, effort: p.effort}
	sub.node(l, t.Content, geom.Scale(kx, ky).Mul(geom.Translate(-t.Box.X, -t.Box.Y)), 1)
	fw, fh := float64(w), float64(h)
	return func(x, y float64) (float32, float32, float32, float32) {
		q := inv.Apply(geom.Point{X: x, Y: y})
		u, v := (q.X-t.Box.X)*kx, (q.Y-t.Box.Y)*ky
		u, v = u-math.Floor(u/fw)*fw, v-math.Floor(v/fh)*fh
		return bilinear(l, u-0.5, v-0.5, true)
	}
}

// bilinear samples a layer between pixel centres; outside it wraps around or is clear.
func bilinear(l *layer, u, v float64, wrap bool) (r, g, b, a float32) {
	w, h := l.r.Dx(), l.r.Dy()
	x0, y0 := int(math.Floor(u)), int(math.Floor(v))
	fx, fy := float32(u-float64(x0)), float32(v-float64(y0))
	var out [4]float32
	for dy := 0; dy < 2; dy++ {
		for dx := 0; dx < 2; dx++ {
			x, y := x0+dx, y0+dy
			if wrap {
				x, y = ((x%w)+w)%w, ((y%h)+h)%h
			} else {
				x, y = min(max(x, 0), w-1), min(max(y, 0), h-1)
			}
			kx, ky := fx, fy
			if dx == 0 {
				kx = 1 - fx
			}
			if dy == 0 {
				ky = 1 - fy
			}
			px := l.pix[(y*w+x)*4:]
			for i := range out {
				out[i] += float32(px[i]) * kx * ky / 255
			}
		}
	}
	return out[0], out[1], out[2], out[3]
}
