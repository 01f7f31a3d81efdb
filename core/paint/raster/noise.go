package raster

import (
	"math"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// noise is the table of pseudo-random numbers and gradients that feTurbulence is made of.
// https://www.w3.org/TR/filter-effects-1/#feTurbulenceElement
type noise struct {
	lattice  [2*noiseSize + 2]int
	gradient [4][2*noiseSize + 2][2]float64
}

const noiseSize = 256

func newNoise(seed float64) *noise {
	const m, a, q, r = 2147483647, 16807, 127773, 2836
	s := int64(math.Trunc(math.Max(-m, math.Min(m, seed))))
	if s <= 0 {
		s = -(s % (m - 1)) + 1
	}
	if s > m-1 {
		s = m - 1
	}
	random := func() int64 {
		v := a*(s%q) - r*(s/q)
		if v <= 0 {
			v += m
		}
		s = v
		return s
	}
	n := &noise{}
	for k := range 4 {
		for i := 0; i < noiseSize; i++ {
			n.lattice[i] = i
			for j := range 2 {
				n.gradient[k][i][j] = float64(random()%(2*noiseSize)-noiseSize) / noiseSize
			}
			g := &n.gradient[k][i]
			l := math.Hypot(g[0], g[1])
			g[0], g[1] = g[0]/l, g[1]/l
		}
	}
	for i := noiseSize - 1; i > 0; i-- {
		j := random() % noiseSize
		n.lattice[i], n.lattice[j] = n.lattice[j], n.lattice[i]
	}
	for i := 0; i < noiseSize+2; i++ {
		n.lattice[noiseSize+i] = n.lattice[i]
		for k := range 4 {
			n.gradient[k][noiseSize+i] = n.gradient[k][i]
		}
	}
	return n
}

// stitch is where noise wraps around, in steps of the lattice.
type stitch struct{ w, h, x, y int }

const noiseOffset = 4096

func (n *noise) at(channel int, x, y float64, st *stitch) float64 {
	tx, ty := x+noiseOffset, y+noiseOffset
	bx, by := int(tx), int(ty)
	rx, ry := tx-math.Floor(tx), ty-math.Floor(ty)
	bx1, by1 := bx+1, by+1
	if st != nil {
		wrap := func(v *int, end, size int) {
			if *v >= end {
				*v -= size
			}
		}
		wrap(&bx, st.x, st.w)
		wrap(&bx1, st.x, st.w)
		wrap(&by, st.y, st.h)
		wrap(&by1, st.y, st.h)
	}
	bx, bx1, by, by1 = bx&255, bx1&255, by&255, by1&255
	i, j := n.lattice[bx], n.lattice[bx1]
	b00, b10, b01, b11 := n.lattice[i+by], n.lattice[j+by], n.lattice[i+by1], n.lattice[j+by1]
	sx, sy := rx*rx*(3-2*rx), ry*ry*(3-2*ry)
	g := &n.gradient[channel]
	mix := func(t, a, b float64) float64 { return a + t*(b-a) }
	a := mix(sx, rx*g[b00][0]+ry*g[b00][1], (rx-1)*g[b10][0]+ry*g[b10][1])
	b := mix(sx, rx*g[b01][0]+(ry-1)*g[b01][1], (rx-1)*g[b11][0]+(ry-1)*g[b11][1])
	return mix(sy, a, b)
}

// turbulence paints noise; m leads from the node's space to the device, tile is the region in the node's space.
func turbulence(dst *layer, t *design.Noise, m geom.Matrix, tile geom.Rect) {
	inv, ok := m.Inverse()
	if !ok {
		return
	}
	n := newNoise(t.Seed)
	fx, fy := t.FX, t.FY
	var first *stitch
	if t.Stitch && tile.W > 0 && tile.H > 0 {
		fit := func(f, size float64) float64 {
			if f == 0 {
				return f
			}
			lo, hi := math.Floor(size*f)/size, math.Ceil(size*f)/size
			if lo > 0 && f/lo < hi/f {
				return lo
			}
			return hi
		}
		fx, fy = fit(fx, tile.W), fit(fy, tile.H)
		first = &stitch{w: int(tile.W*fx + 0.5), h: int(tile.H*fy + 0.5)}
		first.x, first.y = int(tile.X*fx)+noiseOffset+first.w, int(tile.Y*fy)+noiseOffset+first.h
	}
	w := dst.r.Dx()
	eachRow(dst.r, func(y int) {
		for x := dst.r.Min.X; x < dst.r.Max.X; x++ {
			p := inv.Apply(geom.Point{X: float64(x) + 0.5, Y: float64(y) + 0.5})
			var c [4]float64
			for k := range c {
				vx, vy, ratio := p.X*fx, p.Y*fy, 1.0
				st := first
				for o := 0; o < t.Octaves; o++ {
					v := n.at(k, vx, vy, st)
					if !t.Fractal {
						v = math.Abs(v)
					}
					c[k] += v / ratio
					vx, vy, ratio = vx*2, vy*2, ratio*2
					if st != nil {
						st = &stitch{w: st.w * 2, h: st.h * 2, x: 2*st.x - noiseOffset, y: 2*st.y - noiseOffset}
					}
				}
				if t.Fractal {
					c[k] = (c[k] + 1) / 2
				}
				c[k] = math.Min(1, math.Max(0, c[k]))
			}
			px := dst.pix[((y-dst.r.Min.Y)*w+x-dst.r.Min.X)*4:]
			for k := range 3 {
				px[k] = uint8(c[k]*c[3]*255 + 0.5)
			}
			px[3] = uint8(c[3]*255 + 0.5)
		}
	})
}
