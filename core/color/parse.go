package color

import (
	"fmt"
	"math"
	"strconv"
	"strings"
)

// Parse reads a CSS Color 4 colour: a name, hex, or a colour function, in the comma or the space form. It does not
// know `currentColor`, system colours or relative colours.
func Parse(s string) (Color, error) {
	t := strings.ToLower(strings.TrimSpace(s))
	if t == "" {
		return Color{}, fmt.Errorf("no colour given")
	}
	if t[0] == '#' {
		return parseHex(t)
	}
	if t == "transparent" {
		return Transparent, nil
	}
	if v, ok := named[t]; ok {
		return RGB8(uint8(v>>16), uint8(v>>8), uint8(v)), nil
	}
	open := strings.IndexByte(t, '(')
	if open < 0 || !strings.HasSuffix(t, ")") {
		return Color{}, fmt.Errorf("%q is not a CSS colour", s)
	}
	c, err := parseFunction(strings.TrimSpace(t[:open]), t[open+1:len(t)-1])
	if err != nil {
		return Color{}, fmt.Errorf("%q is not a CSS colour: %w", s, err)
	}
	return c, nil
}

func parseHex(t string) (Color, error) {
	h := t[1:]
	if len(h) == 3 || len(h) == 4 {
		d := make([]byte, 0, 8)
		for i := 0; i < len(h); i++ {
			d = append(d, h[i], h[i])
		}
		h = string(d)
	}
	v, err := strconv.ParseUint(h, 16, 32)
	if err != nil || (len(h) != 6 && len(h) != 8) {
		return Color{}, fmt.Errorf("%q is not a hex colour: 3, 4, 6 or 8 hex digits follow the #", t)
	}
	if len(h) == 6 {
		return RGB8(uint8(v>>16), uint8(v>>8), uint8(v)), nil
	}
	c := RGB8(uint8(v>>24), uint8(v>>16), uint8(v>>8))
	c.Alpha = float64(uint8(v)) / 255
	return c, nil
}

// ranges gives, for each component, what 100 % stands for; a hue is marked by 0.
var ranges = map[Space][3]float64{
	SRGB: {255, 255, 255}, HSL: {0, 100, 100}, HWB: {0, 100, 100},
	Lab: {100, 125, 125}, LCH: {100, 150, 0}, OKLab: {1, 0.4, 0.4}, OKLCH: {1, 0.4, 0},
}

func parseFunction(name, args string) (Color, error) {
	space := Space(strings.TrimSuffix(name, "a"))
	switch name {
	case "rgb", "rgba":
		space = SRGB
	case "lab", "oklab", "color":
		space = Space(name)
	}
	parts, err := splitArgs(args)
	if err != nil {
		return Color{}, err
	}
	full, known := ranges[space]
	if name == "color" {
		if len(parts) == 0 {
			return Color{}, fmt.Errorf("color() names no space")
		}
		space, known = colorSpace(parts[0])
		parts, full = parts[1:], [3]float64{1, 1, 1}
	}
	if !known {
		return Color{}, fmt.Errorf("unknown colour function or space %q", space)
	}
	if len(parts) != 3 && len(parts) != 4 {
		return Color{}, fmt.Errorf("%d components, want 3 and an optional alpha", len(parts))
	}
	c := Color{Space: space, Alpha: 1}
	for i, p := range parts {
		if p == "none" {
			c.None |= 1 << i
			if i == 3 {
				c.Alpha = 0
			}
			continue
		}
		scale := 1.0
		if i < 3 {
			scale = full[i]
		}
		v, err := component(p, scale)
		if err != nil {
			return Color{}, err
		}
		if i == 3 {
			c.Alpha = math.Min(1, math.Max(0, v))
		} else {
			c.C[i] = v
		}
	}
	clampParsed(&c, name)
	return c, nil
}

// clampParsed applies the clamping the functions themselves define.
func clampParsed(c *Color, name string) {
	clamp := func(i int, lo, hi float64) { c.C[i] = math.Min(hi, math.Max(lo, c.C[i])) }
	switch c.Space {
	case SRGB:
		if name == "color" {
			return
		}
		for i := range c.C {
			c.C[i] /= 255
			if r := math.Round(c.C[i]*1e9) / 1e9; math.Abs(r-c.C[i]) < 1e-15 { // 50% is 0.5, whatever way it went
				c.C[i] = r
			}
			clamp(i, 0, 1)
		}
	case Lab, LCH:
		clamp(0, 0, 100)
	case OKLab, OKLCH:
		clamp(0, 0, 1)
	case HSL, HWB:
		clamp(1, 0, 100)
		clamp(2, 0, 100)
	}
	if c.Space == LCH || c.Space == OKLCH {
		clamp(1, 0, math.Inf(1))
	}
}

func colorSpace(s string) (Space, bool) {
	switch sp := Space(s); sp {
	case SRGB, SRGBLinear, DisplayP3, A98RGB, ProPhoto, Rec2020, XYZD65, XYZD50:
		return sp, true
	}
	return XYZD65, s == "xyz"
}

// splitArgs takes "1 2 3 / 50%" or "1, 2, 3, .5" apart.
func splitArgs(s string) ([]string, error) {
	slash := strings.Count(s, "/")
	if slash > 1 {
		return nil, fmt.Errorf("more than one /")
	}
	if strings.Contains(s, ",") {
		if slash > 0 {
			return nil, fmt.Errorf("commas and / do not mix")
		}
		parts := strings.Split(s, ",")
		for i := range parts {
			parts[i] = strings.TrimSpace(parts[i])
		}
		return parts, nil
	}
	before, after, has := strings.Cut(s, "/")
	parts := strings.Fields(before)
	if has {
		parts = append(parts, strings.TrimSpace(after))
	}
	return parts, nil
}

// component reads a number, a percentage of full, or (where full is 0) an angle in degrees.
func component(s string, full float64) (float64, error) {
	unit := 1.0
	switch {
	case strings.HasSuffix(s, "%"):
		s, unit = s[:len(s)-1], full/100
	case full == 0:
		for suffix, deg := range map[string]float64{"deg": 1, "grad": 0.9, "turn": 360} {
			if strings.HasSuffix(s, suffix) {
				s, unit = strings.TrimSuffix(s, suffix), deg
				break
			}
		}
		if strings.HasSuffix(s, "rad") {
			s, unit = strings.TrimSuffix(s, "rad"), 180/math.Pi
		}
	}
	v, err := strconv.ParseFloat(s, 64)
	if err != nil || math.IsNaN(v) || math.IsInf(v, 0) || strings.ContainsAny(s, "xpn_") {
		return 0, fmt.Errorf("%q is not a number", s)
	}
	return v * unit, nil
}
