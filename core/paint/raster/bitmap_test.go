package raster_test

import (
	"bytes"
	"encoding/base64"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"testing"
)

// checker is a PNG of side by side px, black and white in turn, as a data URL.
func checker(t *testing.T, side int) string {
	t.Helper()
	img := image.NewGray(image.Rect(0, 0, side, side))
	for y := range side {
		for x := range side {
			img.SetGray(x, y, color.Gray{Y: uint8((x + y) % 2 * 255)})
		}
	}
	var b bytes.Buffer
	if err := png.Encode(&b, img); err != nil {
		t.Fatal(err)
	}
	return "data:image/png;base64," + base64.StdEncoding.EncodeToString(b.Bytes())
}

// TestPicturesAreResampled holds that a shrunk picture is the average of what it shows, whatever its size, that a grown
// one runs from pixel to pixel, and that a pixelated one keeps its pixels.
func TestPicturesAreResampled(t *testing.T) {
	grey := [4]uint8{128, 128, 128, 255}
	for _, c := range []struct {
		name       string
		side, size int
		style      string
		x, y       int
		want       [4]uint8
		tol        int
	}{
		{"shrunk by two", 80, 40, "", 20, 20, grey, 2},
		{"shrunk by eight", 320, 40, "", 20, 20, grey, 2},
		{"shrunk from an odd size", 161, 40, "", 20, 20, grey, 24},
		{"grown, in a pixel's middle", 2, 80, "", 20, 20, [4]uint8{0, 0, 0, 255}, 8},
		{"grown, between two", 2, 80, "", 40, 20, grey, 8},
		{"grown, in the next", 2, 80, "", 60, 20, [4]uint8{255, 255, 255, 255}, 8},
		{"pixelated, before the edge", 2, 80, "image-rendering:pixelated", 39, 20, [4]uint8{0, 0, 0, 255}, 0},
		{"pixelated, after the edge", 2, 80, "image-rendering:pixelated", 40, 20, [4]uint8{255, 255, 255, 255}, 0},
	} {
		img := paint(t, fmt.Sprintf(`<image width="%d" height="%d" style="%s" href="%s"/>`, c.size, c.size, c.style,
			checker(t, c.side)), 1)
		if got := at(img, c.x, c.y); !alike(got, c.want, c.tol) {
			t.Errorf("%s: %v at %d,%d, want %v", c.name, got, c.x, c.y, c.want)
		}
	}
}
