package raster

import (
	"image"
	"math"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// lighting is the light that a surface throws back whose height is the alpha of a layer. m leads from the node's space
// to the device. https://www.w3.org/TR/filter-effects-1/#feDiffuseLightingElement
func lighting(in *layer, l *design.Light, m geom.Matrix, linear bool) *layer {
	out := newLayer(in.r)
	c := l.Color.SRGB()
	for k := range c {
		c[k] = math.Min(1, math.Max(0, c[k]))
		if linear {
			c[k] = linearOf(c[k])
		}
	}
	at := func(p [3]float64) [3]float64 {
		q := m.Apply(geom.Point{X: p[0], Y: p[1]})
		return [3]float64{q.X, q.Y, p[2] * m.MeanScale()}
	}
	from, to := at(l.At), at(l.To)
	sinA, cosA := math.Sincos(l.Azimuth * math.Pi / 180)
	sinE, cosE := math.Sincos(l.Elevation * math.Pi / 180)
	distant := [3]float64{cosA * cosE, sinA * cosE, sinE}
	axis := unit([3]float64{to[0] - from[0], to[1] - from[1], to[2] - from[2]})
	surface := l.Surface * m.MeanScale()
	w, h := in.r.Dx(), in.r.Dy()
	eachRow(image.Rect(0, 0, w, h), func(y int) {
		for x := 0; x < w; x++ {
			n := normal(in, x, y, surface)
			ray, strength := distant, 1.0
			if l.Source != "distant" {
				z := surface * float64(in.pix[(y*w+x)*4+3]) / 255
				ray = unit([3]float64{from[0] - float64(in.r.Min.X+x), from[1] - float64(in.r.Min.Y+y), from[2] - z})
			}
			if l.Source == "spot" {
				strength = spotOf(l, axis, ray)
			}
			amount := 0.0
			if l.Specular {
				half := unit([3]float64{ray[0], ray[1], ray[2] + 1})
				amount = l.Constant * math.Pow(math.Max(0, dot(n, half)), l.Exponent)
			} else {
				amount = l.Constant * math.Max(0, dot(n, ray))
			}
			px := out.pix[(y*w+x)*4:]
			most := 0.0
			for k := range 3 {
				v := math.Min(1, math.Max(0, amount*strength*c[k]))
				px[k] = uint8(v*255 + 0.5)
				most = math.Max(most, v)
			}
			px[3] = 255
			if l.Specular {
				px[3] = uint8(most*255 + 0.5)
			}
		}
	})
	return out
}

// spotOf is how much of a spot's light goes along a ray, which points to it; its edge is one degree soft.
func spotOf(l *design.Light, axis, ray [3]float64) float64 {
	along := -dot(ray, axis)
	if along <= 0 {
		return 0
	}
	v := math.Pow(along, l.Focus)
	if l.Cone == 0 {
		return v
	}
	edge := math.Cos(l.Cone * math.Pi / 180)
	if along < edge {
		return 0
	}
	if soft := edge + 0.016; along < soft {
		v *= (along - edge) / 0.016
	}
	return v
}

func linearOf(v float64) float64 {
	if v <= 0.04045 {
		return v / 12.92
	}
	return math.Pow((v+0.055)/1.055, 2.4)
}

func unit(v [3]float64) [3]float64 {
	l := math.Sqrt(dot(v, v))
	if l == 0 {
		return v
	}
	return [3]float64{v[0] / l, v[1] / l, v[2] / l}
}

func dot(a, b [3]float64) float64 { return a[0]*b[0] + a[1]*b[1] + a[2]*b[2] }

// normal is the way a surface faces at a pixel: the slopes of the alphas around it, of which those beyond the edge do
// not count. https://www.w3.org/TR/filter-effects-1/#ref-surfacenormal
func normal(l *layer, x, y int, surface float64) [3]float64 {
	w, h := l.r.Dx(), l.r.Dy()
	var sum, weight [2]float64
	for dy := -1; dy <= 1; dy++ {
		for dx := -1; dx <= 1; dx++ {
			px, py := x+dx, y+dy
			if px < 0 || py < 0 || px >= w || py >= h {
				continue
			}
			a := float64(l.pix[(py*w+px)*4+3]) / 255
			kx, ky := float64(dx*(2-dy*dy)), float64(dy*(2-dx*dx))
			sum[0] += kx * a
			sum[1] += ky * a
		}
	}
	weight[0], weight[1] = spanWeight(x, w, y, h), spanWeight(y, h, x, w)
	return unit([3]float64{-surface * sum[0] * weight[0], -surface * sum[1] * weight[1], 1})
}

// spanWeight brings the sum of slopes along one way to that of one pixel: over two pixels in the middle, over one at an
// edge; by four rows' worth of numbers, or three at an edge across.
func spanWeight(at, n, across, m int) float64 {
	rows := 4.0
	if across == 0 || across == m-1 {
		rows = 3
	}
	span := 2.0
	if at == 0 || at == n-1 {
		span = 1
	}
	if n == 1 {
		return 0
	}
	return 2 / (rows * span) // as the numbers of the specification are
}
