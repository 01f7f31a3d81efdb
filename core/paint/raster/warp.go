package raster

import (
	"image"
	"math"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// displace moves each pixel by what a channel of another picture says. sx and sy are how far a whole channel moves it,
// in device pixels. https://www.w3.org/TR/filter-effects-1/#feDisplacementMapElement
func displace(in, by *layer, channels [2]int, sx, sy float64) *layer {
	out := newLayer(in.r)
	w, h := in.r.Dx(), in.r.Dy()
	eachRow(image.Rect(0, 0, w, h), func(y int) {
		for x := 0; x < w; x++ {
			i := (y*w + x) * 4
			value := func(channel int) float64 {
				a := float64(by.pix[i+3])
				if channel == 3 {
					return a / 255
				}
				if a == 0 {
					return 0
				}
				return math.Min(1, float64(by.pix[i+channel])/a)
			}
			fx, fy := float64(x)+sx*(value(channels[0])-0.5), float64(y)+sy*(value(channels[1])-0.5)
			u, v := int(math.Floor(fx+0.5)), int(math.Floor(fy+0.5))
			if u >= 0 && v >= 0 && u < w && v < h {
				copy(out.pix[i:i+4], in.pix[(v*w+u)*4:])
			}
		}
	})
	return out
}

// convolveMatrix makes each pixel of those around it. https://www.w3.org/TR/filter-effects-1/#feConvolveMatrixElement
func convolveMatrix(in *layer, k *design.Kernel) *layer {
	out := newLayer(in.r)
	w, h := in.r.Dx(), in.r.Dy()
	edge := func(v, n int) (int, bool) {
		if v >= 0 && v < n {
			return v, true
		}
		switch k.Edge {
		case "wrap":
			return ((v % n) + n) % n, true
		case "none":
			return 0, false
		}
		return min(max(v, 0), n-1), true
	}
	eachRow(image.Rect(0, 0, w, h), func(y int) {
		for x := 0; x < w; x++ {
			var sum [4]float64
			for j := 0; j < k.H; j++ {
				py, ok := edge(y-k.Y+j, h)
				if !ok {
					continue
				}
				for i := 0; i < k.W; i++ {
					px, ok := edge(x-k.X+i, w)
					if !ok {
						continue
					}
					v := k.Values[(k.H-1-j)*k.W+k.W-1-i]
					p := in.pix[(py*w+px)*4:]
					a := 1.0
					if k.KeepAlpha {
						if p[3] == 0 {
							continue
						}
						a = 255 / float64(p[3])
					}
					for c := range 3 {
						sum[c] += v * float64(p[c]) * a
					}
					sum[3] += v * float64(p[3])
				}
			}
			o := (y*w + x) * 4
			alpha := float64(in.pix[o+3])
			if !k.KeepAlpha {
				alpha = math.Min(255, math.Max(0, sum[3]/k.Divisor+k.Bias*255))
			}
			out.pix[o+3] = uint8(alpha + 0.5)
			for c := range 3 {
				v := sum[c]/k.Divisor + k.Bias*255
				if k.KeepAlpha {
					v = math.Min(255, math.Max(0, v)) * alpha / 255
				}
				out.pix[o+c] = uint8(math.Min(alpha, math.Max(0, v)) + 0.5)
			}
		}
	})
	return out
}

// tiled repeats a part of a layer over the whole of it.
func tiled(in *layer, part image.Rectangle) *layer {
	out := newLayer(in.r)
	if part.Empty() {
		return out
	}
	eachRow(out.r, func(y int) {
		sy := part.Min.Y + mod(y-part.Min.Y, part.Dy())
		for x := out.r.Min.X; x < out.r.Max.X; x++ {
			sx := part.Min.X + mod(x-part.Min.X, part.Dx())
			if image.Pt(sx, sy).In(in.r) {
				copy(out.pix[out.at(x, y):][:4], in.pix[in.at(sx, sy):])
			}
		}
	})
	return out
}

// tiny is what may be over of a pixel without counting.
const tiny = 1e-4

// wholeWithin is the whole pixels of a rectangle, as browsers count what they repeat.
func wholeWithin(r geom.Rect) image.Rectangle {
	return image.Rect(int(math.Ceil(r.X-tiny)), int(math.Ceil(r.Y-tiny)), int(math.Floor(r.Right()+tiny)),
		int(math.Floor(r.Bottom()+tiny)))
}

// wholeAround is the whole pixels that a rectangle touches.
func wholeAround(r geom.Rect) geom.Rect {
	x, y := math.Floor(r.X+tiny), math.Floor(r.Y+tiny)
	return geom.Rect{X: x, Y: y, W: math.Ceil(r.Right()-tiny) - x, H: math.Ceil(r.Bottom()-tiny) - y}
}

func mod(a, n int) int { return ((a % n) + n) % n }
