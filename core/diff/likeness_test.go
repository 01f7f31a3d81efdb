package diff

import (
	"image"
	"image/color"
	"testing"
)

func filled(c color.RGBA, box image.Rectangle) *image.RGBA {
	img := image.NewRGBA(image.Rect(0, 0, 10, 10))
	for y := range 10 {
		for x := range 10 {
			img.SetRGBA(x, y, color.RGBA{255, 255, 255, 255})
			if image.Pt(x, y).In(box) {
				img.SetRGBA(x, y, c)
			}
		}
	}
	return img
}

func TestLikeness(t *testing.T) {
	red, rose := color.RGBA{200, 0, 0, 255}, color.RGBA{210, 0, 0, 255}
	whole := image.Rect(0, 0, 10, 10)
	for _, c := range []struct {
		name string
		a, b *image.RGBA
		want float64
	}{
		{"the same", filled(red, image.Rect(2, 2, 6, 6)), filled(red, image.Rect(2, 2, 6, 6)), 1},
		{"nearly the same colour", filled(red, image.Rect(2, 2, 6, 6)), filled(rose, image.Rect(2, 2, 6, 6)), 1},
		{"moved by half", filled(red, image.Rect(2, 2, 6, 6)), filled(red, image.Rect(4, 2, 8, 6)), 1. / 3},
		{"missing", filled(red, image.Rect(2, 2, 6, 6)), filled(red, image.Rectangle{}), 0},
	} {
		got, ok := Likeness(c.a, c.b, whole, Plain(c.a), 16)
		if !ok || got != c.want {
			t.Errorf("%s: %v, want %v", c.name, got, c.want)
		}
	}
	if _, ok := Likeness(filled(red, image.Rectangle{}), filled(red, image.Rectangle{}), whole, color.RGBA{255, 255, 255, 255}, 16); ok {
		t.Error("two empty pages prove something")
	}
	p := Picture(filled(red, image.Rect(2, 2, 6, 6)), filled(red, image.Rect(4, 2, 8, 6)), 16)
	if got := p.RGBAAt(2, 2); got != (color.RGBA{214, 40, 40, 255}) {
		t.Errorf("what differs is shown in %v", got)
	}
	if got := p.RGBAAt(5, 3); got == (color.RGBA{214, 40, 40, 255}) {
		t.Error("what is alike is shown as differing")
	}
}
