package color

import "math"

// HueWay is how a hue goes from one to another. https://www.w3.org/TR/css-color-4/#hue-interpolation
type HueWay string

// The ways.
const (
	Shorter    HueWay = "shorter"
	Longer     HueWay = "longer"
	Increasing HueWay = "increasing"
	Decreasing HueWay = "decreasing"
)

// hueAt is the place of the hue among a space's components; -1 for none.
func hueAt(s Space) int {
	switch s {
	case HSL, HWB:
		return 0
	case LCH, OKLCH:
		return 2
	}
	return -1
}

// alike are the components of spaces that stand for the same thing, so that a missing one stays missing when a colour
// is converted. https://www.w3.org/TR/css-color-4/#interpolation-missing
var alike = map[Space][3]byte{SRGB: {'r', 'g', 'b'}, SRGBLinear: {'r', 'g', 'b'}, DisplayP3: {'r', 'g', 'b'},
	A98RGB: {'r', 'g', 'b'}, ProPhoto: {'r', 'g', 'b'}, Rec2020: {'r', 'g', 'b'}, XYZD65: {'r', 'g', 'b'}, XYZD50: {'r', 'g', 'b'},
	Lab: {'L', 'a', 'b'}, OKLab: {'L', 'a', 'b'}, LCH: {'L', 'C', 'h'}, OKLCH: {'L', 'C', 'h'}, HSL: {'h', 'C', 'L'}, HWB: {'h', 0, 0}}

// toMix converts a colour to a space to be mixed there: what is missing stays so, and the hue of a grey is missing.
func (c Color) toMix(s Space) Color {
	out := c.To(s)
	if c.Space == s {
		return out
	}
	from, to := alike[c.Space], alike[s]
	out.None = c.None & 8
	for i, k := range from {
		if c.None&(1<<i) == 0 || k == 0 {
			continue
		}
		for j, l := range to {
			if l == k {
				out.None |= 1 << j
			}
		}
	}
	if h := hueAt(s); h >= 0 {
		chroma := out.C[1]
		if s == HWB {
			chroma = 100 - out.C[1] - out.C[2]
		}
		if eps := map[Space]float64{HSL: 0.001, HWB: 0.001, LCH: 0.0015, OKLCH: 0.000004}[s]; chroma <= eps {
			out.None |= 1 << h
			out.C[h] = 0
		}
	}
	for i := range out.C {
		if out.None&(1<<i) != 0 {
			out.C[i] = 0
		}
	}
	return out
}

// Mix is the colour at a share (0–1) of the way from one colour to another in a space, alphas multiplied in.
// https://www.w3.org/TR/css-color-5/#color-mix-result
func Mix(a, b Color, share float64, in Space, way HueWay) Color {
	a, b = a.toMix(in), b.toMix(in)
	for i := 0; i < 3; i++ { // what one lacks the other gives
		switch bit := uint8(1) << i; {
		case a.None&bit != 0 && b.None&bit == 0:
			a.C[i] = b.C[i]
		case b.None&bit != 0 && a.None&bit == 0:
			b.C[i] = a.C[i]
		}
	}
	if a.None&8 != 0 {
		a.Alpha = b.Alpha
	} else if b.None&8 != 0 {
		b.Alpha = a.Alpha
	}
	hue := hueAt(in)
	if hue >= 0 {
		a.C[hue], b.C[hue] = fixHues(a.C[hue], b.C[hue], way)
	}
	out := Color{Space: in, None: a.None & b.None, Alpha: a.Alpha + (b.Alpha-a.Alpha)*share}
	for i := range out.C {
		x, y := a.C[i], b.C[i]
		if i == hue {
			out.C[i] = math.Mod(x+(y-x)*share+720, 360)
			continue
		}
		if out.Alpha == 0 {
			out.C[i] = x + (y-x)*share
			continue
		}
		x, y = x*a.Alpha, y*b.Alpha
		out.C[i] = (x + (y-x)*share) / out.Alpha
	}
	return out
}

func fixHues(a, b float64, way HueWay) (float64, float64) {
	d := b - a
	switch way {
	case Longer:
		if d > 0 && d < 180 {
			a += 360
		} else if d > -180 && d <= 0 {
			b += 360
		}
	case Increasing:
		if d < 0 {
			b += 360
		}
	case Decreasing:
		if d > 0 {
			a += 360
		}
	default:
		if d > 180 {
			a += 360
		} else if d < -180 {
			b += 360
		}
	}
	return a, b
}

// SpaceNamed is the space of a name in color() or color-mix().
func SpaceNamed(name string) (Space, bool) {
	switch s := Space(name); s {
	case SRGB, SRGBLinear, DisplayP3, A98RGB, ProPhoto, Rec2020, XYZD65, XYZD50, Lab, LCH, OKLab, OKLCH, HSL, HWB:
		return s, true
	}
	return XYZD65, name == "xyz"
}

// Named is the colour of a name of CSS, in lower case, `transparent` among them.
func Named(name string) (Color, bool) {
	if name == "transparent" {
		return Transparent, true
	}
	v, ok := named[name]
	return RGB8(uint8(v>>16), uint8(v>>8), uint8(v)), ok
}
