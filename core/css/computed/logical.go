package computed

import "strings"

// logical is a property that stands for a physical one, which depends on the direction of writing.
// https://www.w3.org/TR/css-logical-1/
type logical struct {
	pattern string // the physical name with * for the side
	block   bool   // along the block axis, or the inline one
	end     bool
	corner  bool // of a corner: block, and inline for the other axis
	inlined bool // of a corner: at the inline end
	size    bool // a width or height
}

var logicals = func() map[string]logical {
	m := map[string]logical{}
	for _, axis := range []string{"block", "inline"} {
		for _, end := range []string{"start", "end"} {
			l := logical{block: axis == "block", end: end == "end"}
			for _, p := range []string{"margin-*", "padding-*", "inset-*", "scroll-margin-*", "scroll-padding-*", "border-*-width", "border-*-style", "border-*-color"} {
				l.pattern = strings.TrimPrefix(p, "inset-")
				m[strings.Replace(p, "*", axis+"-"+end, 1)] = l
			}
		}
		for _, p := range []string{"*-size", "min-*-size", "max-*-size"} {
			m[strings.Replace(p, "*", axis, 1)] = logical{pattern: strings.Replace(p, "*-size", "*", 1), block: axis == "block", size: true}
		}
		for _, p := range []string{"overflow-*", "overscroll-behavior-*"} {
			m[strings.Replace(p, "*", axis, 1)] = logical{pattern: p, block: axis == "block", size: true}
		}
	}
	for _, b := range []string{"start", "end"} {
		for _, i := range []string{"start", "end"} {
			m["border-"+b+"-"+i+"-radius"] = logical{pattern: "border-*-radius", corner: true, end: b == "end", inlined: i == "end"}
		}
	}
	return m
}()

// like is a physical property that takes the same values.
func (l logical) like() string { return l.physical("horizontal-tb", "ltr") }

// physical is the property that a logical one stands for.
func (l logical) physical(mode, direction string) string {
	vertical := strings.HasPrefix(mode, "vertical") || strings.HasPrefix(mode, "sideways") || mode == "tb" || mode == "tb-rl"
	if l.size {
		across := l.block == vertical
		if strings.HasPrefix(l.pattern, "over") {
			return strings.Replace(l.pattern, "*", map[bool]string{true: "x", false: "y"}[across], 1)
		}
		return strings.Replace(l.pattern, "*", map[bool]string{true: "width", false: "height"}[across], 1)
	}
	rtl := direction == "rtl"
	side := func(block, end bool) string {
		switch {
		case block && !vertical:
			return pick(end, "bottom", "top")
		case block:
			return pick(end == (mode == "vertical-lr" || mode == "sideways-lr"), "right", "left")
		case !vertical:
			return pick(end != rtl, "right", "left")
		}
		return pick(end != rtl != (mode == "sideways-lr"), "bottom", "top")
	}
	if l.corner {
		a, b := side(true, l.end), side(false, l.inlined)
		if vertical {
			a, b = b, a
		}
		return strings.Replace(l.pattern, "*", a+"-"+b, 1)
	}
	return strings.Replace(l.pattern, "*", side(l.block, l.end), 1)
}

func pick(first bool, a, b string) string {
	if first {
		return a
	}
	return b
}
