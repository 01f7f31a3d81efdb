// Package picture makes files of painted pictures: PNG in its smallest lossless form, JPEG, WebP and ICO; and says
// what a picture file holds without unpacking it. Premultiplied sRGB pixels go in, bytes come out.
package picture

import (
	"image"
	"image/draw"
)

// RGBA is a picture of any kind as premultiplied sRGB, from 0, 0 on.
func RGBA(img image.Image) *image.RGBA {
	b := img.Bounds()
	out := image.NewRGBA(image.Rect(0, 0, b.Dx(), b.Dy()))
	draw.Draw(out, out.Rect, img, b.Min, draw.Src)
	return out
}

// Pixels are what the encoders work on: straight (not premultiplied) sRGB, 4 bytes a pixel, rows without gaps. Where
// alpha is 0 so are the colours.
type Pixels struct {
	Pix           []uint8
	Width, Height int
}

// Straight undoes the premultiplication of a painted picture. Each channel is off by at most half a level of what
// was painted.
func Straight(img *image.RGBA) Pixels {
	b := img.Bounds()
	p := Pixels{Width: b.Dx(), Height: b.Dy()}
	p.Pix = make([]uint8, 4*p.Width*p.Height)
	Rows(p.Width, p.Height, func(from, to int) {
		for y := from; y < to; y++ {
			row := img.Pix[y*img.Stride : y*img.Stride+4*p.Width]
			out := p.Pix[4*y*p.Width:]
			for i := 0; i < len(row); i += 4 {
				in, q := row[i:i+4:i+4], out[i:i+4:i+4]
				switch a := in[3]; a {
				case 0:
				case 255:
					q[0], q[1], q[2], q[3] = in[0], in[1], in[2], 255
				default:
					k := &unmul[a]
					q[0], q[1], q[2], q[3] = k.of(in[0]), k.of(in[1]), k.of(in[2]), a
				}
			}
		}
	})
	return p
}

// share divides by an alpha in fixed point.
type share uint32

func (k share) of(v uint8) uint8 { return uint8(min(255, (uint32(v)*uint32(k)+1<<15)>>16)) }

var unmul = func() (t [256]share) {
	for a := 1; a < 256; a++ {
		t[a] = share((255<<16 + a/2) / a)
	}
	return
}()

// Bleed gives the clear pixels next to others their colours, n pixels far, for readers that smooth colours and alpha
// apart: black would show at the edges.
func (p *Pixels) Bleed(n int) {
	known := make([]bool, p.Width*p.Height)
	for i := range known {
		known[i] = p.Pix[4*i+3] != 0
	}
	for range n {
		next := append([]bool(nil), known...)
		for i := range known {
			if known[i] {
				continue
			}
			x := i % p.Width
			for _, d := range [4]int{-1, 1, -p.Width, p.Width} {
				k := i + d
				if k < 0 || k >= len(known) || !known[k] || d == -1 && x == 0 || d == 1 && x == p.Width-1 {
					continue
				}
				copy(p.Pix[4*i:4*i+3], p.Pix[4*k:4*k+3])
				next[i] = true
				break
			}
		}
		known = next
	}
}

// Opaque reports whether no pixel lets anything through.
func (p *Pixels) Opaque() bool {
	for i := 3; i < len(p.Pix); i += 4 {
		if p.Pix[i] != 255 {
			return false
		}
	}
	return true
}

// NRGBA is the same picture for the standard library; the pixels are shared.
func (p *Pixels) NRGBA() *image.NRGBA {
	return &image.NRGBA{Pix: p.Pix, Stride: 4 * p.Width, Rect: image.Rect(0, 0, p.Width, p.Height)}
}
