package font

import (
	"unicode"

	"github.com/go-text/typesetting/di"
	"github.com/go-text/typesetting/shaping"
)

// based puts a mark before words that hold letters from right to left: the bidirectional algorithm of the library takes
// the direction of the whole from the first strong letter, where it should be what the style says. skip counts the
// letters added.
func based(runes []rune, rtl bool) (out []rune, skip int) {
	mixed := rtl
	for _, r := range runes {
		if r >= 0x590 && (r < 0x900 || r == 0x200f || r >= 0x202a && r <= 0x202e || r >= 0x2066 && r <= 0x2069 ||
			r >= 0xfb1d && r < 0xff00 || r >= 0x10800 && r < 0x11000 || r >= 0x1e800 && r < 0x1f000) {
			mixed = true
			break
		}
	}
	if !mixed {
		return runes, 0
	}
	mark := rune(0x200e)
	if rtl {
		mark = 0x200f
	}
	return append([]rune{mark}, runes...), 1
}

// visual puts runs that stand in the order they are read into the order they are seen, from the left. Numbers after
// words that run from right to left belong to those. https://www.unicode.org/reports/tr9/#Reordering_Resolved_Levels
func visual(in []shaping.Input, runes []rune, rtl bool) []shaping.Input {
	turned := rtl
	for i := range in {
		turned = turned || in[i].Direction == di.DirectionRTL
	}
	if !turned {
		return append([]shaping.Input(nil), in...)
	}
	var out []shaping.Input
	var levels []int
	after := false // a run from right to left, or its numbers, came just before
	for _, r := range in {
		switch {
		case r.Direction == di.DirectionRTL:
			out, levels, after = append(out, r), append(levels, 1), true
			continue
		case rtl:
			out, levels = append(out, r), append(levels, 2)
			continue
		}
		k := r.RunStart
		if after {
			k = numberEnd(runes, r.RunStart, r.RunEnd)
		}
		if k > r.RunStart {
			n := r
			n.RunEnd = k
			out, levels = append(out, n), append(levels, 2)
		}
		if k < r.RunEnd {
			r.RunStart = k
			out, levels, after = append(out, r), append(levels, 0), false
		}
	}
	for level := 2; level >= 1; level-- {
		for i := 0; i < len(out); {
			if levels[i] < level {
				i++
				continue
			}
			j := i
			for j < len(out) && levels[j] >= level {
				j++
			}
			for a, b := i, j-1; a < b; a, b = a+1, b-1 {
				out[a], out[b] = out[b], out[a]
				levels[a], levels[b] = levels[b], levels[a]
			}
			i = j
		}
	}
	return out
}

// numberEnd is where the number that runes begin with ends: digits, and what stands between and before them.
func numberEnd(runes []rune, from, to int) int {
	end := from
	for i := from; i < to; i++ {
		switch r := runes[i]; {
		case unicode.IsDigit(r):
			end = i + 1
		case r == '.' || r == ',' || r == ':' || r == '/' || r == '+' || r == '-' || r == '\u00a0' || r == '%' || r == '#' ||
			r == '$' || r == '\u20ac':
		default:
			return end
		}
	}
	return end
}
