package color

import (
	"maps"
	"math"
	"slices"
)

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

// Nearest is the step of a list that is nearest to a colour's own.
func (c Color) Nearest(steps []int) int {
	best := steps[0]
	for _, s := range steps {
		if math.Abs(float64(s)-c.Step()) < math.Abs(float64(best)-c.Step()) {
			best = s
		}
	}
	return best
}

// Ramp makes tints and shades around colours that stand at steps already (one at least), one for each step from 0
// (white) to 1000 (black). A step that has a colour keeps it; between two, lightness, chroma and hue run evenly; beyond
// the outermost, lightness runs evenly to white and to black, chroma fades, and the hue stays. All that is made lies in
// sRGB.
func Ramp(fixed map[int]Color, steps []int) []Color {
	at := slices.Sorted(maps.Keys(fixed))
	out := make([]Color, 0, len(steps))
	for _, s := range steps {
		i, known := slices.BinarySearch(at, s)
		switch {
		case known:
			out = append(out, fixed[s])
		case i == 0:
			out = append(out, fixed[at[0]].tint(float64(s)/float64(at[0])))
		case i == len(at):
			last := at[len(at)-1]
			out = append(out, fixed[last].shade(float64(1000-s)/float64(1000-last)))
		default:
			out = append(out, between(fixed[at[i-1]], fixed[at[i]], float64(s-at[i-1])/float64(at[i]-at[i-1])))
		}
	}
	return out
}

// tint is a share t of the way from white to the colour.
func (c Color) tint(t float64) Color {
	lch := c.To(OKLCH)
	lch.C[0] = 1 - t*(1-lch.C[0])
	lch.C[1] *= math.Pow(t, 0.8)
	return lch.Fit().Eight()
}

// shade is a share t of the way from black to the colour.
func (c Color) shade(t float64) Color {
	lch := c.To(OKLCH)
	lch.C[0] *= t
	lch.C[1] *= math.Pow(t, 0.6)
	return lch.Fit().Eight()
}

// between is a share t of the way from a to b in OKLCH, the shorter way around.
func between(a, b Color, t float64) Color {
	p, q := a.To(OKLCH), b.To(OKLCH)
	turn := math.Mod(q.C[2]-p.C[2]+540, 360) - 180
	if p.C[1] < 0.005 { // a grey has no hue of its own
		p.C[2], turn = q.C[2], 0
	} else if q.C[1] < 0.005 {
		turn = 0
	}
	p.C[0] += t * (q.C[0] - p.C[0])
	p.C[1] += t * (q.C[1] - p.C[1])
	p.C[2] = math.Mod(p.C[2]+t*turn+360, 360)
	return p.Fit().Eight()
}
