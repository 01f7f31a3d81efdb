package picture

import (
	"bytes"
	"encoding/binary"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"math/rand"
	"testing"

	"golang.org/x/image/webp"
)

// paint makes a picture of a function of place.
func paint(w, h int, at func(x, y int) color.NRGBA) *image.RGBA {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			img.Set(x, y, at(x, y))
		}
	}
	return img
}

var kinds = map[string]func(x, y int) color.NRGBA{
	"clear":              func(x, y int) color.NRGBA { return color.NRGBA{} },
	"black and white":    func(x, y int) color.NRGBA { v := uint8((x + y) % 2 * 255); return color.NRGBA{v, v, v, 255} },
	"four greys":         func(x, y int) color.NRGBA { v := uint8(x % 4 * 85); return color.NRGBA{v, v, v, 255} },
	"uneven greys":       func(x, y int) color.NRGBA { v := uint8(x % 5 * 37); return color.NRGBA{v, v, v, 255} },
	"many greys":         func(x, y int) color.NRGBA { v := uint8(x*3 + y); return color.NRGBA{v, v, v, 255} },
	"greys, see-through": func(x, y int) color.NRGBA { return color.NRGBA{0, 0, 0, uint8(x * y)} },
	"grey and alpha": func(x, y int) color.NRGBA {
		v := uint8(255 * (x % 2))
		return color.NRGBA{v, v, v,
			uint8(y*7 + x)}
	},
	"few colours": func(x, y int) color.NRGBA { return color.NRGBA{uint8(x / 8 * 40), 10, uint8(y / 8 * 40), 255} },
	"see-through": func(x, y int) color.NRGBA { return color.NRGBA{200, 30, 10, uint8(x * 5)} },
	"photograph":  func(x, y int) color.NRGBA { return color.NRGBA{uint8(x * 5), uint8(y * 5), uint8(x * y), 255} },
	"everything": func(x, y int) color.NRGBA {
		return color.NRGBA{uint8(x * 5), uint8(y * 5), uint8(x * y), uint8(255 - x)}
	},
}

// same reports whether a picture that was read holds the very pixels that were written.
func same(t *testing.T, name string, read image.Image, p Pixels) {
	t.Helper()
	if read.Bounds().Dx() != p.Width || read.Bounds().Dy() != p.Height {
		t.Errorf("%s: %v", name, read.Bounds())
		return
	}
	for y := range p.Height {
		for x := range p.Width {
			got := color.NRGBAModel.Convert(read.At(x, y)).(color.NRGBA)
			i := 4 * (y*p.Width + x)
			want := color.NRGBA{p.Pix[i], p.Pix[i+1], p.Pix[i+2], p.Pix[i+3]}
			if got != want && !(got.A == 0 && want.A == 0) {
				t.Errorf("%s: %v at %d, %d; want %v", name, got, x, y, want)
				return
			}
		}
	}
}

// readsBack reports whether another reader finds a picture's very pixels in a PNG.
func readsBack(t *testing.T, name string, data []byte, img *image.RGBA) {
	t.Helper()
	read, err := png.Decode(bytes.NewReader(data))
	if err != nil {
		t.Errorf("%s: %v", name, err)
		return
	}
	same(t, name, read, Straight(img))
}

func TestPNGKeepsEveryPixel(t *testing.T) {
	for name, at := range kinds {
		for _, size := range [][2]int{{40, 30}, {1, 1}, {7, 3}, {1, 50}} {
			img := paint(size[0], size[1], at)
			readsBack(t, name, PNG(img), img)
		}
	}
}

func TestPNGTakesTheSmallestForm(t *testing.T) {
	for name, want := range map[string][2]byte{ // depth and kind in the header
		"black and white": {1, kindGrey}, "four greys": {2, kindGrey}, "uneven greys": {4, kindPalette}, "many greys": {8,
			kindGrey}, "few colours": {8, kindPalette},
		"greys, see-through": {8, kindPalette}, "see-through": {8, kindPalette}, "photograph": {8, kindRGB}, "everything": {8,
			kindRGBA}, "grey and alpha": {8, kindGreyAlpha},
	} {
		data := PNG(paint(48, 48, kinds[name]))
		p := Straight(paint(48, 48, kinds[name]))
		best, _ := p.form()
		if got := [2]byte{byte(best.depth), best.kind}; got != want {
			t.Errorf("%s: depth %d, kind %d; want %d, %d", name, got[0], got[1], want[0], want[1])
		}
		var std bytes.Buffer
		_ = png.Encode(&std, paint(48, 48, kinds[name]))
		if len(data) > std.Len()+std.Len()/20+16 {
			t.Errorf("%s: %d bytes, the standard library makes %d", name, len(data), std.Len())
		}
	}
}

func TestStraightIsNearWhatWasPainted(t *testing.T) {
	r := rand.New(rand.NewSource(1))
	for range 2000 {
		a := uint8(r.Intn(256))
		img := image.NewRGBA(image.Rect(0, 0, 1, 1))
		for k := range 3 {
			img.Pix[k] = uint8(r.Intn(int(a) + 1))
		}
		img.Pix[3] = a
		p := Straight(img)
		for k := range 3 {
			if back := (int(p.Pix[k])*int(a) + 127) / 255; back-int(img.Pix[k]) > 1 || int(img.Pix[k])-back > 1 {
				t.Fatalf("%v became %v", img.Pix, p.Pix)
			}
		}
	}
}

func TestOtherFormats(t *testing.T) {
	img := paint(40, 30, kinds["see-through"])
	data, err := WebP(img)
	if err != nil {
		t.Fatal(err)
	}
	read, err := webp.Decode(bytes.NewReader(data))
	if err != nil {
		t.Fatal(err)
	}
	same(t, "webp", read, Straight(img))
	if data, err = JPEG(img, 90); err != nil {
		t.Fatal(err)
	}
	if read, err = jpeg.Decode(bytes.NewReader(data)); err != nil {
		t.Fatal(err)
	}
	if r, g, b, _ := read.At(0, 5).RGBA(); r>>8 < 240 || g>>8 < 240 || b>>8 < 240 {
		t.Errorf("what is clear became %d, %d, %d on a JPEG, not white", r>>8, g>>8, b>>8)
	}
	if _, err := WebP(image.NewRGBA(image.Rect(0, 0, 20000, 1))); err == nil {
		t.Error("a WebP too wide for its format")
	}
	if _, err := ICO([]*image.RGBA{image.NewRGBA(image.Rect(0, 0, 300, 300))}); err == nil {
		t.Error("an icon too large for its format")
	}
}

func TestICO(t *testing.T) {
	var list []*image.RGBA
	for _, size := range []int{16, 48, 256} {
		list = append(list, paint(size, size, kinds["see-through"]))
	}
	data, err := ICO(list)
	if err != nil {
		t.Fatal(err)
	}
	if data[2] != 1 || data[4] != 3 || data[6] != 16 || data[22] != 48 || data[38] != 0 {
		t.Errorf("% x", data[:54])
	}
	for i, img := range list {
		n, at := binary.LittleEndian.Uint32(data[6+16*i+8:]), binary.LittleEndian.Uint32(data[6+16*i+12:])
		read, err := png.Decode(bytes.NewReader(data[at : at+n]))
		if err != nil {
			t.Fatal(err)
		}
		same(t, "ico", read, Straight(img))
	}
}

func TestBleed(t *testing.T) {
	p := Straight(paint(5, 1, func(x, _ int) color.NRGBA {
		if x == 2 {
			return color.NRGBA{200, 100, 50, 255}
		}
		return color.NRGBA{}
	}))
	p.Bleed(1)
	if p.Pix[4] != 200 || p.Pix[12] != 200 || p.Pix[0] != 0 || p.Pix[7] != 0 {
		t.Errorf("%v", p.Pix)
	}
}

func BenchmarkPNG(b *testing.B) {
	img := paint(128, 128, kinds["everything"])
	for b.Loop() {
		PNG(img)
	}
}
