package drift

import (
	"regexp"
	"slices"
	"sort"
	"strconv"
	"strings"

	"archetyp/core/design"
)

// States are the pseudo-classes that a page is looked at in, where its sheets name them.
var States = []string{"hover", "focus", "focus-visible", "focus-within", "active", "disabled", "checked", "invalid", "target"}

// mostWidths is at how many widths a page is looked at that has many breakpoints.
const mostWidths = 8

var breakpoint = regexp.MustCompile(`(?:width\s*(?::|[<>]=?)\s*|[<>]=?\s*)([0-9.]+)(px|r?em)`)

// Views are the ways to look at a page in which its style sheets may say something of their own: the base, a width on
// either side of each breakpoint, the dark scheme, and each state. Breakpoints in em count 16 px.
func Views(base View, sheets []design.StyleSheet) []View {
	out := []View{base}
	var points []float64
	dark := false
	states := map[string]bool{}
	for _, s := range sheets {
		for rest := s.Text; ; {
			at := strings.Index(rest, "@media")
			if at < 0 {
				break
			}
			rest = rest[at+len("@media"):]
			query := rest[:max(strings.IndexByte(rest, '{'), 0)]
			dark = dark || strings.Contains(query, "prefers-color-scheme")
			for _, m := range breakpoint.FindAllStringSubmatch(query, -1) {
				if v, err := strconv.ParseFloat(m[1], 64); err == nil && v > 0 {
					if m[2] != "px" {
						v *= 16
					}
					points = append(points, v)
				}
			}
		}
		dark = dark || strings.Contains(s.Text, "light-dark(")
		for _, st := range States {
			if !states[st] && stated(s.Text, st) {
				states[st] = true
			}
		}
	}
	for _, w := range widths(base.Width, points) {
		out = append(out, View{Width: w, Height: base.Height, Dark: base.Dark})
	}
	if dark {
		out = append(out, View{Width: base.Width, Height: base.Height, Dark: !base.Dark})
	}
	for _, st := range States {
		if states[st] {
			out = append(out, View{Width: base.Width, Height: base.Height, Dark: base.Dark, State: st})
		}
	}
	return out
}

// stated reports whether a sheet names a pseudo-class.
func stated(sheet, state string) bool {
	for rest := sheet; ; {
		i := strings.Index(rest, ":"+state)
		if i < 0 {
			return false
		}
		rest = rest[i+1+len(state):]
		if rest == "" || rest[0] != '-' && (rest[0] < 'a' || rest[0] > 'z') {
			return true
		}
	}
}

// widths are one in each range between breakpoints, but that of the base.
func widths(base float64, points []float64) (out []float64) {
	sort.Float64s(points)
	points = slices.Compact(points)
	at := func(i int) (from, to float64) { // the range before the point i
		from, to = 320, 1e9
		if i > 0 {
			from = points[i-1]
		}
		if i < len(points) {
			to = points[i]
		}
		return from, to
	}
	for i := 0; i <= len(points); i++ {
		from, to := at(i)
		if base > from && base < to || base == from && i > 0 && to > base {
			continue
		}
		w := from + 1
		if i == 0 {
			w = min(from, to-1)
		} else if to < from+2 {
			w = (from + to) / 2
		}
		if w > 0 && w != base {
			out = append(out, w)
		}
	}
	for len(out) > mostWidths {
		out = append(out[:len(out)/2], out[len(out)/2+1:]...)
	}
	return out
}
