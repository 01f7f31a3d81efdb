// Package diff compares two states of the same thing: two readings of a drawing, element by element, and two pictures,
// pixel by pixel. Documents or pictures go in; changes, or how alike they are and where they differ, come out.
package diff

import (
	"image"
	"image/color"
)

// Plain is the plain background of a picture: the colour most of its pixels have.
func Plain(img *image.RGBA) color.RGBA {
	count := map[[4]uint8]int{}
	var best [4]uint8
	for i := 0; i+3 < len(img.Pix); i += 4 {
		c := [4]uint8(img.Pix[i : i+4])
		if count[c]++; count[c] > count[best] {
			best = c
		}
	}
	return color.RGBA{best[0], best[1], best[2], best[3]}
}

// Likeness is the share (0–1) of the pixels in a box that are alike within a tolerance (0–255) on each channel, of those
// that differ from the plain background in at least one of the pictures. ok is false where there are none.
func Likeness(a, b *image.RGBA, box image.Rectangle, plain color.RGBA, tolerance int) (share float64, ok bool) {
	box = box.Intersect(a.Rect).Intersect(b.Rect)
	count, same := 0, 0
	p0 := [4]uint8{plain.R, plain.G, plain.B, plain.A}
	for y := box.Min.Y; y < box.Max.Y; y++ {
		for x := box.Min.X; x < box.Max.X; x++ {
			p, q := [4]uint8(a.Pix[a.PixOffset(x, y):]), [4]uint8(b.Pix[b.PixOffset(x, y):])
			if p == p0 && q == p0 {
				continue
			}
			count++
			if distance(p, q) <= tolerance {
				same++
			}
		}
	}
	if count == 0 {
		return 0, false
	}
	return float64(same) / float64(count), true
}

// distance is the largest difference of two pixels on any channel.
func distance(p, q [4]uint8) int {
	most := 0
	for k := range p {
		most = max(most, int(p[k])-int(q[k]), int(q[k])-int(p[k]))
	}
	return most
}

// Picture shows where two pictures of one size differ by more than a tolerance (0–255): the first one, pale, and what
// differs in red.
func Picture(a, b *image.RGBA, tolerance int) *image.RGBA {
	out := image.NewRGBA(a.Rect.Union(b.Rect))
	for y := out.Rect.Min.Y; y < out.Rect.Max.Y; y++ {
		for x := out.Rect.Min.X; x < out.Rect.Max.X; x++ {
			p, q := a.RGBAAt(x, y), b.RGBAAt(x, y)
			c := color.RGBA{pale(p.R), pale(p.G), pale(p.B), 255}
			if distance([4]uint8{p.R, p.G, p.B, p.A}, [4]uint8{q.R, q.G, q.B, q.A}) > tolerance {
				c = color.RGBA{214, 40, 40, 255}
			}
			out.SetRGBA(x, y, c)
		}
	}
	return out
}

func pale(v uint8) uint8 { return uint8(255 - (255-int(v))/4) }
