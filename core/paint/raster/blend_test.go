package raster

import (
	"image"
	"math"
	"testing"
)

func pixel(r, g, b, a uint8) *layer {
	l := newLayer(image.Rect(0, 0, 1, 1))
	l.fill([4]uint8{r, g, b, a})
	return l
}

// Formulas of https://www.w3.org/TR/compositing-1/#blending for two opaque greys.
func TestBlendModes(t *testing.T) {
	b, s := 0.25, 0.6
	for mode, want := range map[string]float64{
		"normal": s, "multiply": b * s, "screen": b + s - b*s, "overlay": 2 * b * s, "darken": b, "lighten": s,
		"color-dodge": b / (1 - s), "color-burn": 0, "hard-light": b + (2*s - 1) - b*(2*s-1),
		"soft-light": b + (2*s-1)*(((16*b-12)*b+4)*b-b), "difference": s - b, "exclusion": b + s - 2*b*s, "plus-lighter": b +
			s, "unknown": s,
	} {
		dst, src := pixel(64, 64, 64, 255), pixel(153, 153, 153, 255)
		compose(dst, src, mode, 1)
		if got := float64(dst.pix[0]) / 255; math.Abs(got-math.Min(1, want)) > 0.006 || dst.pix[3] != 255 {
			t.Errorf("%s of %g on %g is %.3f, want %.3f", mode, s, b, got, want)
		}
	}
}

func TestBlendOfColours(t *testing.T) {
	for mode, want := range map[string][3]uint8{ // red on a grey of the same weight
		"hue": {128, 128, 128}, "saturation": {128, 128, 128}, "color": {255, 74, 74}, "luminosity": {77, 77, 77},
	} {
		dst, src := pixel(128, 128, 128, 255), pixel(255, 0, 0, 255)
		compose(dst, src, mode, 1)
		for k, w := range want {
			if d := int(dst.pix[k]) - int(w); d > 3 || d < -3 {
				t.Errorf("%s: %v, want %v", mode, dst.pix[:3], want)
				break
			}
		}
	}
}

func TestBlendOnNothing(t *testing.T) {
	for _, mode := range []string{"", "multiply", "difference", "luminosity"} {
		dst := pixel(0, 0, 0, 0)
		compose(dst, pixel(100, 50, 0, 200), mode, 1)
		if [4]uint8(dst.pix) != [4]uint8{100, 50, 0, 200} {
			t.Errorf("%q on nothing is %v", mode, dst.pix)
		}
	}
	dst := pixel(255, 255, 255, 255)
	compose(dst, pixel(0, 0, 0, 255), "", 0.5)
	if d := int(dst.pix[0]) - 127; d > 1 || d < -1 || dst.pix[3] != 255 {
		t.Errorf("half black on white is %v", dst.pix)
	}
}

func TestBlurSpreadsByItsDeviation(t *testing.T) {
	for _, sigma := range []float64{0.5, 1, 1.9, 2, 3.5, 8} {
		l := newLayer(image.Rect(0, 0, 101, 101))
		l.pix[l.at(50, 50)+3] = 255
		for x := 40; x <= 60; x++ { // a bar, so that 8 bits hold something
			for y := 0; y < 101; y++ {
				l.pix[l.at(x, y)+3] = 255
			}
		}
		out := blur(l, sigma, 0)
		sum, second := 0.0, 0.0
		for x := 0; x < 101; x++ {
			v := float64(out.pix[out.at(x, 50)+3])
			sum += v
			second += v * float64(x-50) * float64(x-50)
		}
		if math.Abs(sum-21*255) > 30 {
			t.Errorf("sigma %g: the weight is %g, want %d", sigma, sum, 21*255)
		}
		plain := (21.0*21 - 1) / 12 // variance of the bar itself
		if got := math.Sqrt(second/sum - plain); math.Abs(got-sigma) > 0.15*sigma+0.1 {
			t.Errorf("sigma %g spreads by %.2f", sigma, got)
		}
	}
}

func TestOffsetByPartsOfAPixel(t *testing.T) {
	l := newLayer(image.Rect(0, 0, 4, 1))
	l.fill([4]uint8{})
	copy(l.pix[4:], []uint8{0, 0, 0, 200})
	for dx, want := range map[float64][4]uint8{0: {0, 200, 0, 0}, 1: {0, 0, 200, 0}, 0.5: {0, 100, 100, 0},
		-1: {200, 0, 0, 0}, 9: {}} {
		out := offset(l, dx, 0)
		for x, w := range want {
			if out.pix[4*x+3] != w {
				t.Errorf("by %g: %v, want %v", dx, out.pix, want)
				break
			}
		}
	}
}

func TestTextContrast(t *testing.T) {
	black, white := textContrast[0], textContrast[7]
	if black[0] != 0 || black[255] != 255 || white[0] != 0 || white[255] != 255 {
		t.Error("none and full coverage stay")
	}
	if white[128] <= 128 || black[128] > 128 {
		t.Errorf("half coverage of white is %d, of black %d", white[128], black[128])
	}
	for level := range textContrast {
		for i := 1; i < 256; i++ {
			if textContrast[level][i] < textContrast[level][i-1] {
				t.Fatalf("level %d falls at %d", level, i)
			}
		}
	}
}

func BenchmarkBlur(b *testing.B) {
	for name, sigma := range map[string]float64{"small": 1, "large": 12} {
		b.Run(name, func(b *testing.B) {
			l := newLayer(image.Rect(0, 0, 400, 400))
			l.fill([4]uint8{10, 20, 30, 255})
			b.SetBytes(int64(len(l.pix)))
			for b.Loop() {
				blur(l, sigma, sigma)
			}
		})
	}
}
