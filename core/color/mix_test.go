package color_test

import (
	"math"
	"testing"

	"archetyp/core/color"
)

// TestMix holds mixtures against the examples of https://www.w3.org/TR/css-color-5/#color-mix and what browsers give.
func TestMix(t *testing.T) {
	for _, c := range []struct {
		a, b  string
		share float64 // of b
		in    color.Space
		way   color.HueWay
		want  [3]float64
		alpha float64
	}{
		{"red", "blue", 0.5, color.SRGB, "", [3]float64{0.5, 0, 0.5}, 1},
		{"white", "black", 0.25, color.SRGB, "", [3]float64{0.75, 0.75, 0.75}, 1},
		{"red", "lime", 0.5, color.HSL, color.Shorter, [3]float64{60, 100, 50}, 1},
		{"red", "lime", 0.5, color.HSL, color.Longer, [3]float64{240, 100, 50}, 1},
		{"red", "lime", 0.5, color.HSL, color.Decreasing, [3]float64{240, 100, 50}, 1},
		{"red", "lime", 0.5, color.HSL, color.Increasing, [3]float64{60, 100, 50}, 1},
		{"rgb(255 0 0 / 0)", "blue", 0.5, color.SRGB, "", [3]float64{0, 0, 1}, 0.5},
		{"rgb(255 0 0 / 50%)", "rgb(0 0 255 / 50%)", 0.5, color.SRGB, "", [3]float64{0.5, 0, 0.5}, 0.5},
		{"white", "black", 0.5, color.OKLab, "", [3]float64{0.5, 0, 0}, 1},
		{"white", "blue", 0, color.SRGB, "", [3]float64{1, 1, 1}, 1},
		{"white", "blue", 1, color.SRGB, "", [3]float64{0, 0, 1}, 1},
	} {
		a, errA := color.Parse(c.a)
		b, errB := color.Parse(c.b)
		if errA != nil || errB != nil {
			t.Fatal(errA, errB)
		}
		way := c.way
		if way == "" {
			way = color.Shorter
		}
		got := color.Mix(a, b, c.share, c.in, way)
		for i, want := range c.want {
			d := math.Abs(got.C[i] - want)
			if c.in == color.HSL && i == 0 {
				d = math.Min(math.Mod(d, 360), 360-math.Mod(d, 360))
			}
			if d > 1e-6 || math.Abs(got.Alpha-c.alpha) > 1e-9 {
				t.Errorf("%s and %s, %v in %s: %v / %v, not %v / %v", c.a, c.b, c.share, c.in, got.C, got.Alpha, c.want, c.alpha)
				break
			}
		}
	}
}

// TestMissingComponents holds that what one colour lacks comes from the other.
// https://www.w3.org/TR/css-color-4/#interpolation-missing
func TestMissingComponents(t *testing.T) {
	grey, err := color.Parse("oklch(0.5 0.2 none)")
	if err != nil {
		t.Fatal(err)
	}
	blue, err := color.Parse("oklch(0.7 0.1 200)")
	if err != nil {
		t.Fatal(err)
	}
	got := color.Mix(grey, blue, 0.5, color.OKLCH, color.Shorter)
	if math.Abs(got.C[2]-200) > 1e-9 || math.Abs(got.C[0]-0.6) > 1e-9 {
		t.Errorf("%v", got)
	}
}
