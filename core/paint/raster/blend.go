package raster

import "math"

// compose lays a layer on another with an opacity and a blend mode. https://www.w3.org/TR/compositing-1/
func compose(dst, src *layer, mode string, opacity float64) {
	r := dst.r.Intersect(src.r)
	o := uint8(math.Round(math.Min(1, opacity) * 255))
	eachRow(r, func(y int) {
		d, s := dst.at(r.Min.X, y), src.at(r.Min.X, y)
		for x := 0; x < r.Dx(); x++ {
			sp, dp := src.pix[s+4*x:s+4*x+4], dst.pix[d+4*x:d+4*x+4]
			if sp[3] == 0 {
				continue
			}
			if mode == "" || mode == "normal" {
				inv := 255 - mul255(sp[3], o)
				for k := range dp {
					dp[k] = mul255(sp[k], o) + mul255(dp[k], inv)
				}
				continue
			}
			blendPixel(dp, sp, mode, float32(o)/255)
		}
	})
}

// blendPixel blends one premultiplied pixel onto another.
func blendPixel(dp, sp []uint8, mode string, opacity float32) {
	sa, da := float32(sp[3])/255*opacity, float32(dp[3])/255
	var s, d [3]float32
	for k := 0; k < 3; k++ {
		if sp[3] > 0 {
			s[k] = float32(sp[k]) / float32(sp[3])
		}
		if dp[3] > 0 {
			d[k] = float32(dp[k]) / float32(dp[3])
		}
	}
	m := blendColor(mode, d, s)
	for k := 0; k < 3; k++ {
		v := sa*(1-da)*s[k] + sa*da*m[k] + (1-sa)*da*d[k]
		dp[k] = clamp8(v * 255)
	}
	dp[3] = clamp8((sa + da - sa*da) * 255)
}

func blendColor(mode string, b, s [3]float32) [3]float32 {
	switch mode {
	case "hue":
		return setLum(setSat(s, sat(b)), lum(b))
	case "saturation":
		return setLum(setSat(b, sat(s)), lum(b))
	case "color":
		return setLum(s, lum(b))
	case "luminosity":
		return setLum(b, lum(s))
	}
	var out [3]float32
	for k := range out {
		out[k] = blendChannel(mode, b[k], s[k])
	}
	return out
}

func blendChannel(mode string, b, s float32) float32 {
	switch mode {
	case "multiply":
		return b * s
	case "screen":
		return b + s - b*s
	case "overlay":
		return blendChannel("hard-light", s, b)
	case "darken":
		return min(b, s)
	case "lighten":
		return max(b, s)
	case "color-dodge":
		if b == 0 {
			return 0
		}
		if s >= 1 {
			return 1
		}
		return min(1, b/(1-s))
	case "color-burn":
		if b >= 1 {
			return 1
		}
		if s <= 0 {
			return 0
		}
		return 1 - min(1, (1-b)/s)
	case "hard-light":
		if s <= 0.5 {
			return b * 2 * s
		}
		return blendChannel("screen", b, 2*s-1)
	case "soft-light":
		if s <= 0.5 {
			return b - (1-2*s)*b*(1-b)
		}
		d := ((16*b-12)*b + 4) * b
		if b > 0.25 {
			d = float32(math.Sqrt(float64(b)))
		}
		return b + (2*s-1)*(d-b)
	case "difference":
		return float32(math.Abs(float64(b - s)))
	case "exclusion":
		return b + s - 2*b*s
	case "plus-lighter":
		return min(1, b+s)
	}
	return s
}

func lum(c [3]float32) float32 { return 0.3*c[0] + 0.59*c[1] + 0.11*c[2] }

func sat(c [3]float32) float32 { return max(c[0], c[1], c[2]) - min(c[0], c[1], c[2]) }

func setLum(c [3]float32, l float32) [3]float32 {
	d := l - lum(c)
	for k := range c {
		c[k] += d
	}
	lo, hi := min(c[0], c[1], c[2]), max(c[0], c[1], c[2])
	for k := range c {
		if lo < 0 {
			c[k] = l + (c[k]-l)*l/(l-lo)
		}
		if hi > 1 {
			c[k] = l + (c[k]-l)*(1-l)/(hi-l)
		}
	}
	return c
}

func setSat(c [3]float32, s float32) [3]float32 {
	lo, hi := min(c[0], c[1], c[2]), max(c[0], c[1], c[2])
	if hi == lo {
		return [3]float32{}
	}
	for k := range c {
		c[k] = (c[k] - lo) * s / (hi - lo)
	}
	return c
}
