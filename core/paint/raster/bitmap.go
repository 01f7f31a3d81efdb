package raster

import (
	"image"
	"math"

	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/paint/picture"
)

func imageRect(w, h int) image.Rectangle { return image.Rect(0, 0, w, h) }

// bitmap paints a picture into its box: averaged where it shrinks, bilinear where it grows.
func (p *painter) bitmap(dst *layer, n *design.PaintNode, m geom.Matrix, opacity float64) {
	img, err := design.Pixels(n.Bitmap)
	if err != nil {
		p.effort.fail(err)
		return
	}
	src := toLayer(img)
	w, h := float64(src.r.Dx()), float64(src.r.Dy())
	box := n.BitmapBox
	toDevice := m.Mul(geom.Translate(box.X, box.Y)).Mul(geom.Scale(box.W/w, box.H/h))
	inv, ok := toDevice.Inverse()
	if !ok {
		return
	}
	for !n.Pixelated { // halve until a device pixel covers less than two of the picture
		k := math.Min(math.Hypot(inv.A, inv.B), math.Hypot(inv.C, inv.D))
		if k < 2 || src.r.Dx() < 2 || src.r.Dy() < 2 {
			break
		}
		src = halve(src)
		toDevice = m.Mul(geom.Translate(box.X, box.Y)).Mul(geom.Scale(box.W/float64(src.r.Dx()), box.H/float64(src.r.Dy())))
		if inv, ok = toDevice.Inverse(); !ok {
			return
		}
	}
	mask := p.cover.path(box.Path(), m, dst.r, false)
	if mask == nil {
		return
	}
	eachRow(mask.r, func(y int) {
		i := dst.at(mask.r.Min.X, y)
		for x, cov := range mask.row(y) {
			if cov == 0 {
				continue
			}
			q := inv.Apply(geom.Point{X: float64(mask.r.Min.X+x) + 0.5, Y: float64(y) + 0.5})
			if n.Pixelated {
				q = geom.Point{X: math.Floor(q.X) + 0.5, Y: math.Floor(q.Y) + 0.5}
			}
			r, g, b, a := bilinear(src, q.X-0.5, q.Y-0.5, false)
			k := float32(cov) / 255 * float32(opacity)
			over(dst.pix[i+4*x:i+4*x+4], r*k, g*k, b*k, a*k)
		}
	})
}

func toLayer(img image.Image) *layer {
	rgba := picture.RGBA(img)
	return &layer{r: rgba.Rect, pix: rgba.Pix}
}

// halve averages blocks of two by two.
func halve(l *layer) *layer {
	w, h := l.r.Dx(), l.r.Dy()
	out := newLayer(imageRect((w+1)/2, (h+1)/2))
	eachRow(out.r, func(y int) {
		for x := 0; x < out.r.Dx(); x++ {
			x1, y1 := min(2*x+1, w-1), min(2*y+1, h-1)
			for k := 0; k < 4; k++ {
				s := int(l.pix[(2*y*w+2*x)*4+k]) + int(l.pix[(2*y*w+x1)*4+k]) + int(l.pix[(y1*w+2*x)*4+k]) +
					int(l.pix[(y1*w+x1)*4+k])
				out.pix[(y*out.r.Dx()+x)*4+k] = uint8((s + 2) / 4)
			}
		}
	})
	return out
}

// Mean is the mean colour of an area of a picture, in sRGB; each pixel counts by its alpha.
func Mean(img *image.RGBA, area image.Rectangle) color.Color {
	var sum [4]float64
	area = area.Intersect(img.Rect)
	for y := area.Min.Y; y < area.Max.Y; y++ {
		row := img.Pix[img.PixOffset(area.Min.X, y):img.PixOffset(area.Max.X, y)]
		for i, v := range row {
			sum[i%4] += float64(v)
		}
	}
	c := color.Color{Space: color.SRGB}
	if sum[3] == 0 {
		return c
	}
	for i := range c.C { // premultiplied
		c.C[i] = math.Round(255*sum[i]/sum[3]) / 255
	}
	c.Alpha = sum[3] / 255 / float64(area.Dx()*area.Dy())
	return c
}
