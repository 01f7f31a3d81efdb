package raster

import (
	"math"

	"archetyp/core/paint/picture"
)

// blur is a Gaussian blur with standard deviations in device pixels: a true kernel where it is small, three box
// blurs in a row where it is large, as Filter Effects allows.
func blur(l *layer, sx, sy float64) *layer {
	const most = 1 << 16 // beyond that nothing is left to be seen
	sx, sy = math.Min(sx, most), math.Min(sy, most)
	if sx <= 0 && sy <= 0 {
		return clone(l)
	}
	w, h := l.r.Dx(), l.r.Dy()
	out := clone(l)
	if sx > 0 {
		blurLines(out.pix, w, h, 4, 4*w, sx)
	}
	if sy > 0 {
		blurLines(out.pix, h, w, 4*w, 4, sy)
	}
	return out
}

// blurLines blurs count lines of n pixels; step leads along a line, next to the next one.
func blurLines(pix []uint8, n, count, step, next int, sigma float64) {
	kernel := gaussian(sigma)
	air := 0 // beyond the ends: what one box carries out there, the next may carry back
	if kernel == nil {
		air = boxSize(sigma) * 3 / 2
	}
	picture.Rows(n+2*air, count, func(from, to int) {
		line := make([]float32, n+2*air)
		tmp := make([]float32, n+2*air)
		for i := from; i < to; i++ {
			for k := 0; k < 4; k++ {
				o := i*next + k
				first, last := n, 0
				clear(line[:air])
				clear(line[air+n:])
				for x := 0; x < n; x++ {
					v := pix[o+x*step]
					line[air+x] = float32(v)
					if v != 0 {
						first, last = min(first, x), x
					}
				}
				if first == n {
					continue
				}
				a, b := line, tmp
				cut := 0
				if first >= air && last < n-air { // nothing gets that far
					a, b = line[air:air+n], tmp[air:air+n]
					cut = air
				}
				if kernel != nil {
					convolve(b, a, kernel)
					a = b
				} else {
					a, _ = threeBoxes(a, b, sigma)
				}
				for x := 0; x < n; x++ {
					pix[o+x*step] = clamp8(a[air-cut+x])
				}
			}
		}
	})
}

// gaussian is the kernel for a small sigma; nil where boxes do.
func gaussian(sigma float64) []float32 {
	if sigma >= 2 {
		return nil
	}
	r := int(math.Ceil(3 * sigma))
	k := make([]float32, 2*r+1)
	var sum float32
	for i := range k {
		d := float64(i - r)
		k[i] = float32(math.Exp(-d * d / (2 * sigma * sigma)))
		sum += k[i]
	}
	for i := range k {
		k[i] /= sum
	}
	return k
}

func convolve(dst, src, kernel []float32) {
	r := len(kernel) / 2
	for x := range dst {
		var v float32
		for i, k := range kernel {
			if s := x + i - r; s >= 0 && s < len(src) {
				v += k * src[s]
			}
		}
		dst[x] = v
	}
}

func boxSize(sigma float64) int { return int(math.Floor(sigma*3*math.Sqrt(2*math.Pi)/4 + 0.5)) }

// threeBoxes follows the recipe of the specification for odd and even box sizes.
func threeBoxes(a, b []float32, sigma float64) (out, spare []float32) {
	d := boxSize(sigma)
	if d%2 == 1 {
		box(b, a, d, d/2)
		box(a, b, d, d/2)
		box(b, a, d, d/2)
	} else {
		box(b, a, d, d/2)
		box(a, b, d, d/2-1)
		box(b, a, d+1, d/2)
	}
	return b, a
}

// box averages windows of d values, the first of which lies left before the value in question.
func box(dst, src []float32, d, left int) {
	n := len(src)
	var sum float64
	inv := 1 / float64(d)
	for i := 0; i < min(d-left, n); i++ {
		sum += float64(src[i])
	}
	for x := 0; x < n; x++ {
		dst[x] = float32(sum * inv)
		if i := x - left; i >= 0 {
			sum -= float64(src[i])
		}
		if i := x - left + d; i >= 0 && i < n {
			sum += float64(src[i])
		}
	}
}
