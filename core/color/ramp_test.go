package color

import (
	"math"
	"slices"
	"testing"
)

func TestRamp(t *testing.T) {
	steps := []int{50, 100, 200, 300, 400, 500, 600, 700, 800, 900, 950}
	for _, hex := range []string{"#0b6e8f", "#e4572e", "#f2a541", "#10243a", "#ff0000", "#00ff00", "#0000ff", "#808080",
		"#fefefe", "#010101"} {
		c, err := Parse(hex)
		if err != nil {
			t.Fatal(err)
		}
		step := c.Nearest(steps)
		base := slices.Index(steps, step)
		ramp := Ramp(map[int]Color{step: c}, steps)
		if len(ramp) != len(steps) || ramp[base].Hex() != hex {
			t.Fatalf("%s: %d colours, the base is %v", hex, len(ramp), ramp[base])
		}
		if d := math.Abs(float64(steps[base]) - c.Step()); d > 60 && steps[base] != 50 && steps[base] != 950 {
			t.Errorf("%s stands at %g, and is put at %d", hex, c.Step(), steps[base])
		}
		for i, r := range ramp {
			if !r.InSRGB() || r.Space != SRGB {
				t.Errorf("%s: step %d is %v, outside sRGB", hex, steps[i], r)
			}
			l := r.To(OKLCH).C
			if i > 0 && l[0] >= ramp[i-1].To(OKLCH).C[0] {
				t.Errorf("%s: step %d is not darker than the one before", hex, steps[i])
			}
			if own := c.To(OKLCH).C; i != base && own[1] > 0.03 && l[1] > 0.03 &&
				math.Abs(math.Remainder(l[2]-own[2], 360)) > 2.5 {
				t.Errorf("%s: step %d has the hue %.1f, want %.1f", hex, steps[i], l[2], own[2])
			}
		}
		for i, r := range ramp { // even: lightness runs straight from white to the base, and from there to black
			l, own := r.To(OKLCH).C[0], c.To(OKLCH).C[0]
			at, from := float64(steps[i])/1000, float64(steps[base])/1000
			want := 1 - at/from*(1-own)
			if at > from {
				want = (1 - at) / (1 - from) * own
			}
			if d := math.Abs(l - want); d > 0.006 && !(l < 0.2 && d < 0.06) { // 8 bits are coarse near black
				t.Errorf("%s: step %d has the lightness %.4f, want %.4f", hex, steps[i], l, want)
			}
		}
	}
}

func TestFit(t *testing.T) {
	c := Color{Space: OKLCH, C: [3]float64{0.7, 0.4, 150}, Alpha: 0.5}
	f := c.Fit()
	if !f.InSRGB() || math.Abs(f.C[0]-0.7) > 1e-9 || f.C[2] != 150 || f.Alpha != 0.5 || f.C[1] < 0.15 {
		t.Errorf("%v", f)
	}
	if in := RGB8(1, 2, 3); in.Fit() != in {
		t.Error("a colour inside is changed")
	}
}

// Steps that have a colour keep it, and what is new lies between its neighbours.
func TestRampBetweenColours(t *testing.T) {
	light, dark := RGB8(0xe3, 0xf1, 0xf6), RGB8(0x06, 0x44, 0x5a)
	steps := []int{50, 100, 300, 500, 800, 900}
	ramp := Ramp(map[int]Color{100: light, 800: dark}, steps)
	if ramp[1] != light || ramp[4] != dark {
		t.Errorf("%v", ramp)
	}
	for i := 1; i < len(ramp); i++ {
		if ramp[i].To(OKLCH).C[0] >= ramp[i-1].To(OKLCH).C[0] {
			t.Errorf("step %d is no darker than the one before", steps[i])
		}
	}
	if l := ramp[2].To(OKLCH).C[0]; math.Abs(l-(light.To(OKLCH).C[0]*5+dark.To(OKLCH).C[0]*2)/7) > 0.005 {
		t.Errorf("step 300 has the lightness %.3f", l)
	}
}
