package color

import (
	"math"
	"strings"
	"testing"
)

func TestParse(t *testing.T) {
	for _, c := range []struct {
		in   string
		want string // as CSS
	}{
		{"#fff", "#ffffff"},
		{"#FFF", "#ffffff"},
		{"#0b6e8f", "#0b6e8f"},
		{"#0b6e8f80", "#0b6e8f80"},
		{"#1238", "#11223388"},
		{"red", "#ff0000"},
		{" RebeccaPurple ", "#663399"},
		{"transparent", "rgb(0 0 0 / 0)"},
		{"rgb(255, 0, 0)", "#ff0000"},
		{"rgb(255 0 0)", "#ff0000"},
		{"rgb(100% 0% 0%)", "#ff0000"},
		{"rgba(255, 0, 0, .5)", "rgb(255 0 0 / 0.5)"},
		{"rgb(255 0 0 / 50%)", "rgb(255 0 0 / 0.5)"},
		{"rgb(300 -20 0)", "#ff0000"},
		{"rgb(127.5 0 0)", "color(srgb 0.5 0 0)"},
		{"hsl(120, 100%, 50%)", "hsl(120 100% 50%)"},
		{"hsl(120deg 100% 25%)", "hsl(120 100% 25%)"},
		{"hsl(0.5turn 50% 50%)", "hsl(180 50% 50%)"},
		{"hsla(0, 0%, 0%, 0.25)", "hsl(0 0% 0% / 0.25)"},
		{"hwb(200 20% 10%)", "hwb(200 20% 10%)"},
		{"lab(50 20 -30)", "lab(50 20 -30)"},
		{"lab(50% 0 0 / .5)", "lab(50 0 0 / 0.5)"},
		{"lch(50% 40 270)", "lch(50 40 270)"},
		{"oklab(0.6 0.1 -0.1)", "oklab(0.6 0.1 -0.1)"},
		{"oklch(60% 0.15 240)", "oklch(0.6 0.15 240)"},
		{"oklch(60% 50% 0.5turn)", "oklch(0.6 0.2 180)"},
		{"oklch(none 0.1 20)", "oklch(none 0.1 20)"},
		{"oklch(0.5 0.1 20 / none)", "oklch(0.5 0.1 20 / none)"},
		{"color(display-p3 1 0.5 0)", "color(display-p3 1 0.5 0)"},
		{"color(srgb 1 0 0)", "#ff0000"},
		{"color(srgb 1.2 0 0)", "color(srgb 1.2 0 0)"},
		{"color(xyz 0.5 0.5 0.5)", "color(xyz-d65 0.5 0.5 0.5)"},
		{"color(rec2020 50% 50% 50% / 0.2)", "color(rec2020 0.5 0.5 0.5 / 0.2)"},
	} {
		got, err := Parse(c.in)
		if err != nil {
			t.Errorf("Parse(%q): %v", c.in, err)
			continue
		}
		if got.CSS() != c.want {
			t.Errorf("Parse(%q) = %s, want %s", c.in, got.CSS(), c.want)
		}
	}
}

func TestParseRefuses(t *testing.T) {
	for _, in := range []string{"", "#", "#12", "#12345", "#xyzxyz", "bluish", "rgb(", "rgb()", "rgb(1 2)",
		"rgb(1 2 3 4 5)",
		"rgb(a b c)", "rgb(1, 2, 3 / 4)", "rgb(1 2 3 / 4 / 5)", "hsl(one 2% 3%)", "color(1 2 3)", "color(nowhere 1 2 3)", "url(#a)",
		"rgb(NaN 0 0)", "rgb(Inf 0 0)", "rgb(0x1 0 0)", "lab(50 20)", "currentColor"} {
		if got, err := Parse(in); err == nil {
			t.Errorf("Parse(%q) = %s, want an error", in, got)
		}
	}
}

// TestPrintReadsBack holds that what is printed means the colour it was printed from.
func TestPrintReadsBack(t *testing.T) {
	for _, c := range []Color{White, Black, Transparent, RGB8(11, 110, 143), RGB8(16, 36, 58).WithAlpha(0.12),
		{Space: OKLCH, C: [3]float64{0.6, 0.15, 240}, Alpha: 1}, {Space: DisplayP3, C: [3]float64{1, 0.2, 0.1}, Alpha: 0.5},
		{Space: SRGB, C: [3]float64{0.123456, 0.5, 0.9}, Alpha: 1}, {Space: Lab, C: [3]float64{40, -20, 30}, Alpha: 1}} {
		got, err := Parse(c.CSS())
		if err != nil {
			t.Errorf("%s: %v", c.CSS(), err)
			continue
		}
		if d := Difference(got, c); d > 1e-4 {
			t.Errorf("%s reads back as %s, %g apart", c.CSS(), got.CSS(), d)
		}
	}
}

// Values of the sample code and examples of CSS Color 4.
func TestConvert(t *testing.T) {
	red := RGB8(255, 0, 0)
	for _, c := range []struct {
		from Color
		to   Space
		want [3]float64
		tol  float64
	}{
		{red, OKLab, [3]float64{0.62796, 0.22486, 0.12585}, 1e-4},
		{red, OKLCH, [3]float64{0.62796, 0.25768, 29.234}, 1e-3},
		{red, Lab, [3]float64{54.29, 80.80, 69.89}, 0.02},
		{red, LCH, [3]float64{54.29, 106.84, 40.85}, 0.02},
		{red, XYZD65, [3]float64{0.41239, 0.21264, 0.01933}, 1e-4},
		{red, XYZD50, [3]float64{0.43607, 0.22249, 0.01392}, 1e-4},
		{red, DisplayP3, [3]float64{0.91749, 0.20029, 0.13856}, 1e-4},
		{red, A98RGB, [3]float64{0.85859, 0, 0}, 1e-3},
		{red, Rec2020, [3]float64{0.79198, 0.23098, 0.07376}, 1e-3},
		{red, ProPhoto, [3]float64{0.70225, 0.27572, 0.10355}, 1e-3},
		{red, SRGBLinear, [3]float64{1, 0, 0}, 1e-9},
		{red, HSL, [3]float64{0, 100, 50}, 1e-6},
		{red, HWB, [3]float64{0, 0, 0}, 1e-6},
		{White, OKLab, [3]float64{1, 0, 0}, 1e-4},
		{White, OKLCH, [3]float64{1, 0, 0}, 1e-4},
		{Color{Space: HSL, C: [3]float64{240, 100, 50}, Alpha: 1}, SRGB, [3]float64{0, 0, 1}, 1e-9},
		{Color{Space: HWB, C: [3]float64{90, 60, 60}, Alpha: 1}, SRGB, [3]float64{0.5, 0.5, 0.5}, 1e-9},
		{Color{Space: DisplayP3, C: [3]float64{1, 1, 1}, Alpha: 1}, SRGB, [3]float64{1, 1, 1}, 1e-4},
	} {
		got := c.from.To(c.to)
		for i := range c.want {
			if math.Abs(got.C[i]-c.want[i]) > c.tol {
				t.Errorf("%s to %s = %v, want %v", c.from, c.to, got.C, c.want)
				break
			}
		}
	}
}

func TestConvertThereAndBack(t *testing.T) {
	spaces := []Space{SRGBLinear, DisplayP3, A98RGB, ProPhoto, Rec2020, XYZD65, XYZD50, Lab, LCH, OKLab, OKLCH, HSL, HWB}
	for r := 0; r < 256; r += 51 {
		for g := 0; g < 256; g += 85 {
			for b := 0; b < 256; b += 51 {
				c := RGB8(uint8(r), uint8(g), uint8(b))
				for _, s := range spaces {
					if back := c.To(s).To(SRGB); !back.Same(c) {
						t.Fatalf("%s through %s comes back as %s", c, s, back)
					}
				}
			}
		}
	}
}

func TestContrast(t *testing.T) {
	for _, c := range []struct {
		text, back string
		want       float64
	}{
		{"#000", "#fff", 21},
		{"#fff", "#000", 21},
		{"#fff", "#fff", 1},
		{"#767676", "#fff", 4.54},
		{"#0b6e8f", "#fff", 5.77},
		{"rgb(0 0 0 / 0)", "#fff", 1},
		{"rgb(0 0 0 / 0.5)", "#fff", 3.98},
	} {
		text, _ := Parse(c.text)
		back, _ := Parse(c.back)
		if got := Contrast(text, back); math.Abs(got-c.want) > 0.02 {
			t.Errorf("%s on %s: %.3f, want %.2f", c.text, c.back, got, c.want)
		}
	}
}

func TestDifference(t *testing.T) {
	a, b := RGB8(11, 110, 143), RGB8(12, 111, 145)
	if d := Difference(a, b); d <= 0 || d > 0.01 {
		t.Errorf("two near blues are %g apart", d)
	}
	if d := Difference(Black, White); math.Abs(d-1) > 1e-6 {
		t.Errorf("black and white are %g apart, want 1", d)
	}
	if d := Difference(a, a); d != 0 {
		t.Errorf("a colour differs from itself by %g", d)
	}
	if d := Difference(a, a.WithAlpha(0.5)); d != 0.5 {
		t.Errorf("half transparent differs by %g, want 0.5", d)
	}
}

func TestSameAndGamut(t *testing.T) {
	wide := Color{Space: DisplayP3, C: [3]float64{1, 0, 0}, Alpha: 1}
	if wide.InSRGB() {
		t.Error("the reddest of display-p3 is not in sRGB")
	}
	if wide.Same(RGB8(255, 0, 0)) {
		t.Error("a colour outside sRGB is not the same as its clipped form")
	}
	if !RGB8(1, 2, 3).Same(Color{Space: SRGB, C: [3]float64{1.0 / 255, 2.1 / 255, 2.9 / 255}, Alpha: 1}) {
		t.Error("colours that show the same count as the same")
	}
	if got := wide.Hex(); got != "#ff0000" {
		t.Errorf("clipped to %s", got)
	}
}

func TestOver(t *testing.T) {
	half := Black.WithAlpha(0.5)
	if got := half.Over(White).Hex(); got != "#808080" {
		t.Errorf("half black over white is %s", got)
	}
}

func TestName(t *testing.T) {
	for in, want := range map[string]string{"#ffffff": "white", "#000000": "black", "#808080": "grey", "#ff0000": "red",
		"#0b6e8f": "blue",
		"#17653b": "green", "#f2a541": "orange", "#ffff00": "yellow", "#e4572e": "red", "#7b2cbf": "purple", "#00ffff": "teal", "#10243a": "blue"} {
		c, err := Parse(in)
		if err != nil {
			t.Fatal(err)
		}
		if got := c.Name(); got != want {
			t.Errorf("%s is called %s, want %s", in, got, want)
		}
	}
}

func TestNamedColoursAreAll(t *testing.T) {
	if len(named) != 148 {
		t.Errorf("%d named colours, want the 148 of CSS Color 4", len(named))
	}
	for n := range named {
		if n != strings.ToLower(n) {
			t.Errorf("%q is not in lower case", n)
		}
	}
}

func FuzzParse(f *testing.F) {
	for _, s := range []string{"#fff", "rgb(1 2 3 / 4%)", "oklch(60% 0.1 none)", "color(display-p3 1 0 0)",
		"hsl(1e9turn 1% 2%)", "rgb(1,2,3,4)"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		c, err := Parse(s)
		if err != nil {
			return
		}
		for _, v := range c.C {
			if math.IsNaN(v) || math.IsInf(v, 0) {
				t.Fatalf("%q gives %v", s, c.C)
			}
		}
		if _, err := Parse(c.CSS()); err != nil {
			t.Fatalf("%q is printed as %q, which does not read back: %v", s, c.CSS(), err)
		}
	})
}

func BenchmarkParse(b *testing.B) {
	b.ReportAllocs()
	for b.Loop() {
		if _, err := Parse("rgb(11 110 143 / 0.32)"); err != nil {
			b.Fatal(err)
		}
	}
}
