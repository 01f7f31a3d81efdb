package raster

import (
	"image"

	"archetyp/core/paint/picture"
)

// eachRow has paint done for each row of an area, on all processors where it is large: one row must not rest on what
// becomes of another.
func eachRow(r image.Rectangle, paint func(y int)) {
	picture.Rows(r.Dx(), r.Dy(), func(from, to int) {
		for y := from; y < to; y++ {
			paint(r.Min.Y + y)
		}
	})
}

// eachPixels does work for stretches of a layer's pixels: from and to count bytes.
func (l *layer) eachPixels(work func(from, to int)) {
	stride := 4 * l.r.Dx()
	picture.Rows(l.r.Dx(), l.r.Dy(), func(from, to int) { work(from*stride, to*stride) })
}
