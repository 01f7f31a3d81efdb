package picture_test

import (
	"bytes"
	"image"
	"image/color"
	"image/draw"
	"image/png"
	"math/rand/v2"
	"testing"

	"archetyp/core/paint/picture"
)

// TestQuickPNGHoldsEveryPixel reads pictures back: plain and noisy ones, opaque and not, whole and parts of others.
func TestQuickPNGHoldsEveryPixel(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	for _, size := range []image.Point{{1, 1}, {3, 2}, {17, 40}, {390, 844}, {1200, 900}} {
		for _, kind := range []string{"plain", "see-through", "noise"} {
			whole := image.NewRGBA(image.Rect(0, 0, size.X+6, size.Y+4))
			draw.Draw(whole, whole.Rect, image.NewUniform(color.RGBA{245, 248, 250, 255}), image.Point{}, draw.Src)
			draw.Draw(whole, image.Rect(2, 2, size.X/2+2, size.Y/2+2), image.NewUniform(color.RGBA{11, 110, 143, 255}), image.Point{}, draw.Src)
			if kind == "see-through" {
				draw.Draw(whole, image.Rect(0, 1, size.X, size.Y), image.NewUniform(color.RGBA{20, 10, 0, 40}), image.Point{}, draw.Src)
			}
			if kind == "noise" {
				for i := range whole.Pix {
					if i%4 != 3 {
						whole.Pix[i] = uint8(r.Uint32())
					}
				}
			}
			for _, img := range []*image.RGBA{whole, whole.SubImage(image.Rect(3, 1, size.X+3, size.Y+1)).(*image.RGBA)} {
				back, err := png.Decode(bytes.NewReader(picture.QuickPNG(img)))
				if err != nil {
					t.Fatal(size, kind, err)
				}
				want, err := png.Decode(bytes.NewReader(picture.PNG(img)))
				if err != nil {
					t.Fatal(err)
				}
				for y := range img.Rect.Dy() {
					for x := range img.Rect.Dx() {
						if a, b := color.NRGBAModel.Convert(back.At(x, y)), color.NRGBAModel.Convert(want.At(x, y)); a != b {
							t.Fatalf("%v %s: %d,%d is %v, want %v", size, kind, x, y, a, b)
						}
					}
				}
			}
		}
	}
}
