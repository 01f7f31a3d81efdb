package raster

import (
	"image"
	"math"
	"sync"

	"archetyp/core/geom"
)

// maskBuf is the coverage (0–255) of a shape over a part of the device.
type maskBuf struct {
	r image.Rectangle
	a []uint8
}

func (m *maskBuf) row(y int) []uint8 {
	w := m.r.Dx()
	return m.a[(y-m.r.Min.Y)*w : (y-m.r.Min.Y+1)*w]
}

func (m *maskBuf) get(x, y int) uint8 {
	if m == nil || !image.Pt(x, y).In(m.r) {
		return 0
	}
	return m.a[(y-m.r.Min.Y)*m.r.Dx()+x-m.r.Min.X]
}

// harden drops anti-aliasing.
func (m *maskBuf) harden() {
	for i, v := range m.a {
		if v >= 128 {
			m.a[i] = 255
		} else {
			m.a[i] = 0
		}
	}
}

// coverages are kept for the next picture: they hold as much as it has pixels.
var coverages = sync.Pool{New: func() any { return &coverage{} }}

// coverage computes exact area coverage with a signed-area accumulation buffer: every edge adds, to the cells it
// crosses, the area to its right; a running sum along each row is then the winding number weighted by area.
type coverage struct {
	acc  []float32
	mask maskBuf
}

// path is the coverage of a path under m, cut to clip; nil where it covers nothing there. The result is good until
// the next call.
func (c *coverage) path(p *geom.Path, m geom.Matrix, clip image.Rectangle, evenOdd bool) *maskBuf {
	if p.Empty() {
		return nil
	}
	var lines []geom.Polyline
	if m.Upright() && p.IsRect() { // rectangles along the axes are painted exactly
		lines = p.Flatten(m, 1)
	} else {
		lines = p.FlattenForPaint(m)
	}
	var b geom.Rect
	first := true
	for _, l := range lines {
		for _, pt := range l.Points {
			if math.IsNaN(pt.X) || math.IsNaN(pt.Y) {
				return nil
			}
			if first {
				b, first = geom.Rect{X: pt.X, Y: pt.Y}, false
				continue
			}
			x, y := math.Min(b.X, pt.X), math.Min(b.Y, pt.Y)
			b = geom.Rect{X: x, Y: y, W: math.Max(b.Right(), pt.X) - x, H: math.Max(b.Bottom(), pt.Y) - y}
		}
	}
	r := toPixels(b).Intersect(clip)
	if r.Empty() || first {
		return nil
	}
	w, h := r.Dx(), r.Dy()
	c.mask.r = r
	if cap(c.mask.a) < w*h {
		c.mask.a = make([]uint8, w*h)
	}
	c.mask.a = c.mask.a[:w*h]
	if wholePixels(lines, r) {
		repeat(c.mask.a, 255)
		return &c.mask
	}
	c.accumulate(lines, r)
	c.resolve(evenOdd, w, h)
	return &c.mask
}

// wholePixels reports whether an outline is one rectangle around all of some pixels.
func wholePixels(lines []geom.Polyline, r image.Rectangle) bool {
	if len(lines) != 1 || len(lines[0].Points) < 4 || len(lines[0].Points) > 5 {
		return false
	}
	pts := lines[0].Points
	if len(pts) == 5 && pts[4] != pts[0] {
		return false
	}
	onEdge := func(v float64, from, to int) bool { // clipped, it may lie further out
		return v == math.Trunc(v) && (v <= float64(from) || v >= float64(to))
	}
	for i, p := range pts[:4] {
		next := pts[(i+1)%4]
		if (p.X == next.X) == (p.Y == next.Y) || !onEdge(p.X, r.Min.X, r.Max.X) || !onEdge(p.Y, r.Min.Y, r.Max.Y) {
			return false
		}
	}
	return pts[0] != pts[2] && pts[1] != pts[3]
}

func (c *coverage) accumulate(lines []geom.Polyline, r image.Rectangle) {
	w, h := r.Dx(), r.Dy()
	n := (w + 2) * h
	if cap(c.acc) < n {
		c.acc = make([]float32, n)
	} else {
		c.acc = c.acc[:n]
		clear(c.acc)
	}
	ox, oy := float64(r.Min.X), float64(r.Min.Y)
	for _, l := range lines {
		k := len(l.Points)
		if k < 2 {
			continue
		}
		prev := l.Points[k-1] // every subpath is closed for filling
		for _, pt := range l.Points {
			c.edge(prev.X-ox, prev.Y-oy, pt.X-ox, pt.Y-oy, w, h)
			prev = pt
		}
	}
}

// edge adds one directed edge, in cells of the buffer.
func (c *coverage) edge(x0, y0, x1, y1 float64, w, h int) {
	if y0 == y1 {
		return
	}
	dir := float32(1)
	if y0 > y1 {
		x0, y0, x1, y1, dir = x1, y1, x0, y0, -1
	}
	if y1 <= 0 || y0 >= float64(h) {
		return
	}
	dxdy := (x1 - x0) / (y1 - y0)
	if y0 < 0 {
		x0 -= y0 * dxdy
		y0 = 0
	}
	y1 = math.Min(y1, float64(h))
	x := x0
	stride := w + 2
	fw := float64(w)
	for y := int(y0); y < h && float64(y) < y1; y++ {
		top, bottom := math.Max(float64(y), y0), math.Min(float64(y+1), y1)
		dy := bottom - top
		next := x + dxdy*dy
		row := c.acc[y*stride : (y+1)*stride]
		c.span(row, x, next, dy, dir, fw)
		x = next
	}
}

// span adds the part of an edge within one row: from xa to xb over a height of dy (0–1).
func (c *coverage) span(row []float32, xa, xb, dy float64, dir float32, fw float64) {
	if xa > xb {
		xa, xb = xb, xa
	}
	if xa >= fw { // to the right of all
		return
	}
	if xb <= 0 {
		row[0] += dir * float32(dy)
		return
	}
	if xa < 0 || xb > fw { // cut at the borders
		k := dy / (xb - xa)
		if xa < 0 {
			row[0] += dir * float32(-xa*k)
			dy += xa * k
			xa = 0
		}
		if xb > fw {
			dy -= (xb - fw) * k
			xb = fw
		}
	}
	d := dir * float32(dy)
	i0 := int(xa)
	f0 := float32(xa - float64(i0))
	i1 := int(math.Ceil(xb))
	if i1 <= i0+1 { // within one cell
		mid := (f0 + float32(xb-float64(i0))) / 2
		row[i0] += d * (1 - mid)
		row[i0+1] += d * mid
		return
	}
	s := float32(1 / (xb - xa))
	f1 := float32(xb - float64(i1) + 1)
	a0 := 0.5 * s * (1 - f0) * (1 - f0)
	am := 0.5 * s * f1 * f1
	row[i0] += d * a0
	if i1 == i0+2 {
		row[i0+1] += d * (1 - a0 - am)
	} else {
		a1 := s * (1.5 - f0)
		row[i0+1] += d * (a1 - a0)
		for i := i0 + 2; i < i1-1; i++ {
			row[i] += d * s
		}
		a2 := a1 + float32(i1-i0-3)*s
		row[i1-1] += d * (1 - a2 - am)
	}
	row[i1] += d * am
}

// resolve sums each row and turns winding into coverage. Between edges the sum stays as it is.
func (c *coverage) resolve(evenOdd bool, w, h int) {
	stride := w + 2
	eachRow(image.Rect(0, 0, w, h), func(y int) {
		row := c.acc[y*stride : y*stride+w]
		out := c.mask.a[y*w : (y+1)*w]
		out = out[:len(row)]
		var sum float32
		var last uint8
		for x := 0; x < len(row); x++ {
			from := x
			for x+4 <= len(row) && row[x] == 0 && row[x+1] == 0 && row[x+2] == 0 && row[x+3] == 0 {
				x += 4
			}
			for x < len(row) && row[x] == 0 {
				x++
			}
			repeat(out[from:x], last)
			if x < len(row) {
				sum += row[x]
				last = cover8(sum, evenOdd)
				out[x] = last
			}
		}
	})
}

// repeat sets all of a stretch to one value.
func repeat(to []uint8, v uint8) {
	if v == 0 {
		clear(to)
		return
	}
	if len(to) < 16 {
		for i := range to {
			to[i] = v
		}
		return
	}
	to[0] = v
	for n := 1; n < len(to); n *= 2 {
		copy(to[n:], to[:n])
	}
}

func cover8(a float32, evenOdd bool) uint8 {
	if a < 0 {
		a = -a
	}
	if evenOdd {
		a -= 2 * float32(int(a/2))
		if a > 1 {
			a = 2 - a
		}
	} else if a > 1 {
		a = 1
	}
	return uint8(a*255 + 0.5)
}
