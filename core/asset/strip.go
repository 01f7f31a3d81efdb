package asset

import (
	"fmt"
	"image"
	"math"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/paint/picture"
	"archetyp/core/paint/raster"
)

func quote(file string) string { return css.String(file) }

// stripTolerance is by how many 255ths pixels of a strip may differ: those of a photograph's file are never quite
// alike.
const stripTolerance = 2

// stripOfPixels says how a bitmap that repeats one of its columns, or rows, can do with less.
func stripOfPixels(img image.Image) (strip, bool) {
	b := img.Bounds()
	if b.Dx() < 3 && b.Dy() < 3 || b.Dx()*b.Dy() > 1<<24 {
		return strip{}, false
	}
	rgba := picture.RGBA(img)
	at := func(x, y int) []uint8 { return rgba.Pix[rgba.PixOffset(x, y):][:4] }
	flip := func(x, y int) []uint8 { return at(y, x) }
	if alikeAlong(b.Dx(), b.Dy(), at) {
		return stripCSS(b.Dy(), func(i int) []uint8 { return at(0, i) }, "to bottom", "wide", "repeat-x"), true
	}
	if alikeAlong(b.Dy(), b.Dx(), flip) {
		return stripCSS(b.Dx(), func(i int) []uint8 { return at(i, 0) }, "to right", "high", "repeat-y"), true
	}
	return strip{}, false
}

// Strip narrows a cut whose columns, or rows, are all alike to one px of them, and gives the CSS that repeats a file of
// it. What lies within a px of the ends may be softer. ok is false where it is no strip.
func (c *Cut) Strip() (css func(file string) string, ok bool, err error) {
	img, err := raster.Render(c.Paint, raster.Options{View: c.Box, Density: 1 / c.Density, Background: c.Ground})
	if err != nil {
		return nil, false, err
	}
	b := img.Bounds()
	w, h := b.Dx(), b.Dy()
	if w < 3 && h < 3 {
		return nil, false, nil
	}
	at := func(x, y int) []uint8 { return img.Pix[img.PixOffset(x, y):][:4] }
	inner := func(n int) int { return max(1, n-2) }
	skip := func(n int) int { return min(1, n-inner(n)) }
	k, soft := c.Density, *c
	soft.Bitmap = nil
	switch {
	case w >= 3 && alikeAlong(inner(w), h, func(along, line int) []uint8 { return at(along+skip(w), line) }):
		soft.Box.X, soft.Box.W = c.Box.X+math.Floor(c.Box.W/k/2)*k, k
		css = func(file string) string {
			return fmt.Sprintf("background: url(%s) repeat-x; background-size: 1px %dpx", quote(file), h)
		}
	case h >= 3 && alikeAlong(inner(h), w, func(along, line int) []uint8 { return at(line, along+skip(h)) }):
		soft.Box.Y, soft.Box.H = c.Box.Y+math.Floor(c.Box.H/k/2)*k, k
		css = func(file string) string {
			return fmt.Sprintf("background: url(%s) repeat-y; background-size: %dpx 1px", quote(file), w)
		}
	default:
		return nil, false, nil
	}
	*c = soft
	return css, true, nil
}

// alikeAlong reports whether all pixels of each of n lines are alike.
func alikeAlong(length, n int, at func(along, line int) []uint8) bool {
	for line := 0; line < n; line++ {
		first := at(0, line)
		for i := 1; i < length; i++ {
			if !near8(first, at(i, line), stripTolerance) {
				return false
			}
		}
	}
	return true
}

func near8(a, b []uint8, tol int) bool {
	for k := range 4 {
		if d := int(a[k]) - int(b[k]); d > tol || d < -tol {
			return false
		}
	}
	return true
}

// stripCSS is what draws the pixels along a strip: one colour, or a gradient where they run evenly from one end to
// the other.
func stripCSS(n int, at func(int) []uint8, direction, way, repeat string) strip {
	first, last := at(0), at(n-1)
	even := true
	for i := range n {
		want := make([]uint8, 4)
		for k := range want {
			want[k] = uint8(math.Round(float64(first[k]) + (float64(last[k])-float64(first[k]))*float64(i)/float64(max(n-1, 1))))
		}
		even = even && near8(want, at(i), stripTolerance)
	}
	colour := func(p []uint8) string {
		c := color.Color{Space: color.SRGB, Alpha: float64(p[3]) / 255}
		for k := range 3 {
			if p[3] > 0 {
				c.C[k] = math.Round(255*float64(p[k])/float64(p[3])) / 255
			}
		}
		return c.CSS()
	}
	switch {
	case even && near8(first, last, stripTolerance):
		return strip{"background: " + colour(first), "a bitmap in one colour"}
	case even: // a gradient begins and ends half a pixel beyond the middles of the outer ones
		first, last = beyond(first, last, n), beyond(last, first, n)
		return strip{fmt.Sprintf("background: linear-gradient(%s, %s, %s)", direction, colour(first), colour(last)),
			"a strip that repeats one line of pixels, which run evenly: CSS can draw it as a gradient"}
	}
	return strip{"background-repeat: " + repeat,
		fmt.Sprintf("a strip that repeats one line of pixels: one pixel %s will do, repeated", way)}
}

// beyond is the colour half a pixel before the first of n that run evenly to the last.
func beyond(first, last []uint8, n int) []uint8 {
	out := make([]uint8, 4)
	for k := range out {
		v := float64(first[k]) - (float64(last[k])-float64(first[k]))/float64(n-1)/2
		out[k] = uint8(math.Round(math.Min(255, math.Max(0, v))))
	}
	return out
}
