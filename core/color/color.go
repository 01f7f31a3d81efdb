// Package color holds colours as typed values in the spaces of CSS Color 4: parsed from and printed as CSS,
// converted, compared (difference in OKLab) and judged (WCAG contrast).
// https://www.w3.org/TR/css-color-4/
package color

import "math"

// Space is a colour space of CSS Color 4, by its CSS name.
type Space string

// The spaces read and written. RGB components are 0–1; lightness of Lab and LCH is 0–100, of OKLab and OKLCH 0–1;
// hues are degrees; HSL and HWB shares are 0–100.
const (
	SRGB       Space = "srgb"
	SRGBLinear Space = "srgb-linear"
	DisplayP3  Space = "display-p3"
	A98RGB     Space = "a98-rgb"
	ProPhoto   Space = "prophoto-rgb"
	Rec2020    Space = "rec2020"
	XYZD65     Space = "xyz-d65"
	XYZD50     Space = "xyz-d50"
	Lab        Space = "lab"
	LCH        Space = "lch"
	OKLab      Space = "oklab"
	OKLCH      Space = "oklch"
	HSL        Space = "hsl"
	HWB        Space = "hwb"
)

// Color is a colour: three components in a space, and alpha (0–1). A component that CSS calls `none` has its bit
// (1<<index; alpha is index 3) in None and the value 0.
type Color struct {
	Space Space
	C     [3]float64
	Alpha float64
	None  uint8
}

// Black and White are the opaque sRGB colours; Transparent is `transparent`.
var (
	Black       = RGB8(0, 0, 0)
	White       = RGB8(255, 255, 255)
	Transparent = Color{Space: SRGB}
)

// RGB8 is an opaque sRGB colour from 8-bit components.
func RGB8(r, g, b uint8) Color {
	return Color{Space: SRGB, C: [3]float64{float64(r) / 255, float64(g) / 255, float64(b) / 255}, Alpha: 1}
}

// WithAlpha is c with its alpha multiplied by a (0–1).
func (c Color) WithAlpha(a float64) Color {
	c.Alpha *= a
	return c
}

// SRGB are the gamma-encoded sRGB components, unclipped: outside 0–1 where sRGB cannot show the colour.
func (c Color) SRGB() [3]float64 { return c.To(SRGB).C }

// RGBA8 is the colour as 8-bit sRGB, clipped to the gamut, alpha not multiplied in.
func (c Color) RGBA8() (r, g, b, a uint8) {
	v := c.SRGB()
	return to8(v[0]), to8(v[1]), to8(v[2]), to8(c.Alpha)
}

func to8(v float64) uint8 {
	return uint8(math.Round(math.Min(1, math.Max(0, v)) * 255))
}

// InSRGB reports whether sRGB can show the colour.
func (c Color) InSRGB() bool {
	for _, v := range c.SRGB() {
		if v < -1e-4 || v > 1+1e-4 {
			return false
		}
	}
	return true
}

// Same reports whether both are shown the same on an 8-bit sRGB screen (and both are inside or outside its gamut).
func (c Color) Same(o Color) bool {
	r, g, b, a := c.RGBA8()
	R, G, B, A := o.RGBA8()
	return r == R && g == G && b == B && a == A && c.InSRGB() == o.InSRGB()
}

// Difference is the distance in OKLab (ΔEOK): 0 the same, about 0.02 just noticeable, 1 black to white. Alpha
// counts as the difference over the background it would be least visible on.
// https://www.w3.org/TR/css-color-4/#color-difference-OK
func Difference(a, b Color) float64 {
	p, q := a.To(OKLab).C, b.To(OKLab).C
	d := math.Sqrt(sq(p[0]-q[0]) + sq(p[1]-q[1]) + sq(p[2]-q[2]))
	return math.Max(d, math.Abs(a.Alpha-b.Alpha))
}

func sq(v float64) float64 { return v * v }

// Luminance is the relative luminance of WCAG 2, 0 to 1; alpha is ignored.
func (c Color) Luminance() float64 {
	l := c.To(SRGBLinear).C
	return 0.2126*l[0] + 0.7152*l[1] + 0.0722*l[2]
}

// Contrast is the WCAG 2 contrast ratio of text on a background, 1 to 21; translucent text is laid over it first.
// https://www.w3.org/TR/WCAG21/#dfn-contrast-ratio
func Contrast(text, back Color) float64 {
	a, b := text.Over(back).Luminance(), back.Luminance()
	if a < b {
		a, b = b, a
	}
	return (a + 0.05) / (b + 0.05)
}

// Over is the colour seen when c lies on an opaque background (source-over, in gamma-encoded sRGB).
func (c Color) Over(back Color) Color {
	f, b := c.SRGB(), back.SRGB()
	out := Color{Space: SRGB, Alpha: 1}
	for i := range out.C {
		out.C[i] = f[i]*c.Alpha + b[i]*(1-c.Alpha)
	}
	return out
}
