package color

import "math"

// Fit brings a colour into sRGB by lowering its OKLCH chroma, keeping lightness and hue; alpha stays.
func (c Color) Fit() Color {
	if c.InSRGB() {
		return c
	}
	lch := c.To(OKLCH)
	lo, hi := 0.0, lch.C[1]
	for i := 0; i < 40; i++ {
		lch.C[1] = (lo + hi) / 2
		if lch.InSRGB() {
			lo = lch.C[1]
		} else {
			hi = lch.C[1]
		}
	}
	lch.C[1] = lo
	return lch
}

// Eight is the nearest sRGB colour of 8 bits a component, as screens and CSS hex have it.
func (c Color) Eight() Color {
	r, g, b, _ := c.RGBA8()
	out := RGB8(r, g, b)
	out.Alpha = c.Alpha
	return out
}

// Step is where a colour stands between white, 0, and black, 1000, by its OKLCH lightness.
func (c Color) Step() float64 { return (1 - c.To(OKLCH).C[0]) * 1000 }

// Ramp makes tints and shades around a colour, one for each step from 0 (white) to 1000 (black). The step nearest to the
// colour's own is the colour itself; lightness runs evenly from there to white and to black, chroma fades towards both
// ends, the hue stays, and all of them lie in sRGB. base is the index of the colour itself.
func (c Color) Ramp(steps []int) (ramp []Color, base int) {
	own := c.To(OKLCH)
	for i, s := range steps {
		if math.Abs(float64(s)-c.Step()) < math.Abs(float64(steps[base])-c.Step()) {
			base = i
		}
	}
	for i, s := range steps {
		if i == base {
			ramp = append(ramp, c)
			continue
		}
		at, from := float64(s)/1000, float64(steps[base])/1000
		out := own
		if at < from {
			t := at / from // 0 at white, 1 at the colour
			out.C[0] = 1 - t*(1-own.C[0])
			out.C[1] = own.C[1] * math.Pow(t, 0.8)
		} else {
			t := (1 - at) / (1 - from)
			out.C[0] = t * own.C[0]
			out.C[1] = own.C[1] * math.Pow(t, 0.6)
		}
		ramp = append(ramp, out.Fit().Eight())
	}
	return ramp, base
}
