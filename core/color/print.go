package color

import (
	"fmt"
	"math"
	"strings"

	"archetyp/core/css"
)

// Hex is #rrggbb, or #rrggbbaa where the colour is translucent; colours outside sRGB are clipped.
func (c Color) Hex() string {
	const digits = "0123456789abcdef"
	r, g, b, a := c.RGBA8()
	out := []byte{'#', digits[r>>4], digits[r&15], digits[g>>4], digits[g&15], digits[b>>4], digits[b&15], digits[a>>4],
		digits[a&15]}
	if a == 255 {
		out = out[:7]
	}
	return string(out)
}

// CSS is the shortest exact CSS form: hex where 8-bit sRGB says it all, else rgb() with a decimal alpha, else the
// function of the colour's own space.
func (c Color) CSS() string {
	switch c.Space {
	case SRGB:
		if c.None == 0 && c.Is8Bit() {
			if c.Alpha == 1 || exact8(c.Alpha) {
				return c.Hex()
			}
			r, g, b, _ := c.RGBA8()
			return fmt.Sprintf("rgb(%d %d %d / %s)", r, g, b, css.Num(c.Alpha, 4))
		}
		return c.function("color(srgb ", 5)
	case HSL, HWB:
		return c.function(string(c.Space)+"(", 4)
	case Lab, LCH, OKLab, OKLCH:
		return c.function(string(c.Space)+"(", 5)
	}
	return c.function("color("+string(c.Space)+" ", 5)
}

// RGB is rgb() with components of 8 bits; colours outside sRGB are clipped.
func (c Color) RGB() string {
	r, g, b, _ := c.RGBA8()
	if c.Alpha == 1 {
		return fmt.Sprintf("rgb(%d %d %d)", r, g, b)
	}
	return fmt.Sprintf("rgb(%d %d %d / %s)", r, g, b, css.Num(c.Alpha, 4))
}

// Shortest is the shortest CSS form: a name or three hexadecimal digits, where these say the same.
func (c Color) Shortest() string {
	s := c.CSS()
	if len(s) != 7 || s[0] != '#' {
		return s
	}
	if name, ok := shortNames[s]; ok {
		return name
	}
	if s[1] == s[2] && s[3] == s[4] && s[5] == s[6] {
		return string([]byte{'#', s[1], s[3], s[5]})
	}
	return s
}

// shortNames are the named colours that are shorter than their hexadecimal form, by it.
var shortNames = func() map[string]string {
	m := map[string]string{}
	for name, v := range named {
		hex := fmt.Sprintf("#%06x", v)
		limit := len(hex)
		if hex[1] == hex[2] && hex[3] == hex[4] && hex[5] == hex[6] {
			limit = len("#rgb")
		}
		if old, has := m[hex]; len(name) < limit && (!has || name < old) {
			m[hex] = name
		}
	}
	return m
}()

// String is CSS.
func (c Color) String() string { return c.CSS() }

// Is8Bit reports whether the components are whole 255ths, as five decimals tell.
func (c Color) Is8Bit() bool {
	for _, v := range c.C {
		if v < 0 || v > 1 || math.Abs(v*255-math.Round(v*255)) > 0.002 { // five decimals tell 8 bits
			return false
		}
	}
	return true
}

// exact8 reports whether an alpha is a whole 255th and no short decimal, so that hex is how it was written.
func exact8(a float64) bool {
	return math.Abs(a*255-math.Round(a*255)) < 1e-9 && math.Abs(a*100-math.Round(a*100)) > 1e-9
}

func (c Color) function(open string, digits int) string {
	parts := make([]string, 3)
	for i, v := range c.C {
		parts[i] = css.Num(v, digits)
		if c.None&(1<<i) != 0 {
			parts[i] = "none"
		}
		if (c.Space == HSL || c.Space == HWB) && i > 0 {
			parts[i] += "%"
		}
	}
	s := open + strings.Join(parts, " ")
	if c.None&8 != 0 {
		return s + " / none)"
	}
	if c.Alpha != 1 {
		s += " / " + css.Num(c.Alpha, 4)
	}
	return s + ")"
}

// Name is a plain word for the colour's hue ("blue", "grey"), for proposing token names.
func (c Color) Name() string {
	v := c.To(OKLCH).C
	switch {
	case v[0] > 0.995:
		return "white"
	case v[0] < 0.1:
		return "black"
	case v[1] < 0.02:
		return "grey"
	}
	for _, h := range hues {
		if v[2] < h.below {
			return h.name
		}
	}
	return "red"
}

// hues cuts the OKLCH hue circle into plain words; below is in degrees.
var hues = []struct {
	below float64
	name  string
}{{10, "pink"}, {40, "red"}, {70, "orange"}, {112, "yellow"}, {130, "lime"}, {162, "green"}, {195, "teal"},
	{225, "cyan"}, {272, "blue"}, {295, "indigo"}, {320, "purple"}, {348, "magenta"}, {360, "pink"}}
