package raster

import "archetyp/core/paint/picture"

// morphology spreads or thins: each pixel becomes the largest or smallest of those around it, channel by channel.
// https://www.w3.org/TR/filter-effects-1/#feMorphologyElement
func morphology(l *layer, rx, ry int, dilate bool) *layer {
	if rx <= 0 && ry <= 0 {
		return newLayer(l.r)
	}
	out := clone(l)
	w, h := l.r.Dx(), l.r.Dy()
	extremes(out.pix, w, h, 4, 4*w, min(rx, w), dilate)
	extremes(out.pix, h, w, 4*w, 4, min(ry, h), dilate)
	return out
}

// extremes sets each value of count lines of n pixels to the largest or smallest within r of it; step leads along a
// line, next to the next one. In blocks as long as what is looked at, running extremes from both ends give that of any
// stretch, so the work does not rest on r (van Herk 1992, Gil and Werman 1993).
func extremes(pix []uint8, n, count, step, next, r int, largest bool) {
	if r <= 0 {
		return
	}
	window := 2*r + 1
	turn := uint8(255) // smallest values are the largest of what is missing to white
	if largest {
		turn = 0
	}
	picture.Rows(n, count, func(from, to int) {
		line := make([]uint8, n+2*r) // beyond the ends all is clear
		ahead, back := make([]uint8, len(line)), make([]uint8, len(line))
		for i := range line {
			line[i] = turn
		}
		for i := from; i < to; i++ {
			for k := range 4 {
				o := i*next + k
				for x := range n {
					line[r+x] = pix[o+x*step] ^ turn
				}
				for x, v := range line {
					if ahead[x] = v; x%window != 0 {
						ahead[x] = max(v, ahead[x-1])
					}
				}
				for x := len(line) - 1; x >= 0; x-- {
					if back[x] = line[x]; x+1 < len(line) && (x+1)%window != 0 {
						back[x] = max(line[x], back[x+1])
					}
				}
				for x := range n {
					pix[o+x*step] = max(back[x], ahead[x+window-1]) ^ turn
				}
			}
		}
	})
}
