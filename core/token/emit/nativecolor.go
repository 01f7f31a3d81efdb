package emit

import "archetyp/core/color"

// NativeColor is a colour literal of swift or kotlin.
func NativeColor(language string, c color.Color) string {
	s := c.SRGB()
	if language == "kotlin" {
		return kotlin{}.color("srgb", s, c.Alpha)
	}
	return swift{}.color("srgb", s, c.Alpha)
}
