package font

import (
	"bytes"
	"fmt"
	"math"
	"os"
	"strings"
	"testing"

	"golang.org/x/image/font/gofont/goregular"
)

func demoFont(t testing.TB, name string) []byte {
	t.Helper()
	data, err := os.ReadFile("../../demo/files/fonts/" + name + ".ttf")
	if err != nil {
		t.Fatal(err)
	}
	return data
}

func demoSet(t testing.TB) *Set {
	t.Helper()
	s := NewSet(nil)
	for _, n := range []string{"HankenGrotesk-Regular", "HankenGrotesk-SemiBold", "HankenGrotesk-Bold",
		"Fraunces-SemiBold"} {
		if _, err := s.Add(demoFont(t, n), n); err != nil {
			t.Fatal(err)
		}
	}
	return s
}

func TestMatch(t *testing.T) {
	s := demoSet(t)
	for _, c := range []struct {
		families string
		weight   int
		file     string
		found    bool
	}{
		{"Hanken Grotesk", 400, "HankenGrotesk-Regular", true},
		{"hanken grotesk", 600, "HankenGrotesk-SemiBold", true},
		{"'Hanken Grotesk', sans-serif", 700, "HankenGrotesk-Bold", true},
		{"Hanken Grotesk", 500, "HankenGrotesk-Regular", true},
		{"Hanken Grotesk", 900, "HankenGrotesk-Bold", true},
		{"Hanken Grotesk", 100, "HankenGrotesk-Regular", true},
		{"Nowhere, Fraunces", 400, "Fraunces-SemiBold", true},
		{"Nowhere", 400, "", false},
		{"sans-serif, Fraunces", 400, "", false},
		{"", 400, "", false},
	} {
		face, found := s.Match(Families(c.families), c.weight, false)
		if face.File != c.file || found != c.found {
			t.Errorf("%s %d: %q %v, want %q %v", c.families, c.weight, face.File, found, c.file, c.found)
		}
	}
	bold, _ := s.Match([]string{"Nowhere"}, 700, false)
	mono, _ := s.Match([]string{"DejaVu Sans Mono"}, 400, false)
	if bold.Weight != 700 || !strings.Contains(mono.Family, "Mono") {
		t.Errorf("the fallback for bold is %d, for mono %s", bold.Weight, mono.Family)
	}
}

// Advances as HarfBuzz's own hb-shape gives them, in thousandths of an em: kerning by class pairs counts.
func TestShapeKerns(t *testing.T) {
	sh := NewShaper(demoSet(t))
	for _, c := range []struct {
		words  string
		weight int
		family string
		want   []float64
	}{
		{"Saturday", 400, "Hanken Grotesk", []float64{564, 540, 346, 547, 379, 587, 527, 521}},
		{"Boarding", 600, "Hanken Grotesk", []float64{608, 574, 544, 393, 579, 239, 559, 520}},
		{"AVATo", 600, "Fraunces", []float64{694, 676.5, 694, 647.5, 595.5}},
	} {
		glyphs, width, _, found := sh.Shape(c.words, Style{Families: []string{c.family}, Size: 1000, Weight: c.weight})
		if !found || len(glyphs) != len(c.want) {
			t.Fatalf("%s: %d glyphs, found %v", c.words, len(glyphs), found)
		}
		sum := 0.0
		for i, g := range glyphs {
			sum += c.want[i]
			if math.Abs(g.Advance-c.want[i]) > 0.01 {
				t.Errorf("%s: glyph %d advances by %g, want %g", c.words, i, g.Advance, c.want[i])
			}
		}
		if math.Abs(width-sum) > 0.01 {
			t.Errorf("%s is %g wide, want %g", c.words, width, sum)
		}
	}
}

func TestShapeScalesAndSpaces(t *testing.T) {
	sh := NewShaper(demoSet(t))
	st := Style{Families: []string{"Hanken Grotesk"}, Size: 16, Weight: 400}
	_, plain, _, _ := sh.Shape("Pay now", st)
	st.Size = 32
	_, twice, _, _ := sh.Shape("Pay now", st)
	if math.Abs(twice-2*plain) > 1e-6 {
		t.Errorf("at twice the size %g, want %g", twice, 2*plain)
	}
	st.Size, st.Spacing = 16, 2
	_, spaced, _, _ := sh.Shape("Pay now", st)
	if math.Abs(spaced-plain-7*2) > 0.5 {
		t.Errorf("with 2 px between 7 letters %g, want %g", spaced, plain+14)
	}
	st.Spacing, st.Word = 0, 10
	_, worded, _, _ := sh.Shape("Pay now", st)
	if math.Abs(worded-plain-10) > 1e-6 {
		t.Errorf("with 10 px between words %g, want %g", worded, plain+10)
	}
	st.Word, st.NoKern = 0, true
	_, unkerned, _, _ := sh.Shape("Pay now", st)
	if unkerned <= plain {
		t.Errorf("without kerning %g, which is not more than %g", unkerned, plain)
	}
}

func TestMissingRunesComeFromTheFallback(t *testing.T) {
	sh := NewShaper(demoSet(t))
	glyphs, _, face, _ := sh.Shape("aЖ", Style{Families: []string{"Fraunces"}, Size: 10, Weight: 600})
	if len(glyphs) != 2 || glyphs[0].Face != face || glyphs[1].Face == face {
		t.Errorf("%d glyphs; the second comes from %v", len(glyphs), glyphs[1].Face.Family)
	}
	if glyphs, width, _, _ := sh.Shape("", Style{Size: 10}); len(glyphs) != 0 || width != 0 {
		t.Error("no words have no width")
	}
}

func TestOutline(t *testing.T) {
	sh := NewShaper(demoSet(t))
	glyphs, _, face, _ := sh.Shape("H", Style{Families: []string{"Hanken Grotesk"}, Size: 10, Weight: 400})
	_, box := sh.Outline(glyphs[0], 400)
	if box.Bottom() > 0.01 || box.Y > -0.6 || box.Y < -0.8 || box.W < 0.4 {
		t.Errorf("an H lies in %v", box)
	}
	if face.Ascent < 0.9 || face.Descent < 0.2 || face.XHeight < 0.4 {
		t.Errorf("metrics: %g up, %g down, x-height %g", face.Ascent, face.Descent, face.XHeight)
	}
	a, _ := sh.Outline(glyphs[0], 400)
	if b, _ := sh.Outline(glyphs[0], 400); a != b {
		t.Error("an outline is read once")
	}
}

func TestAddRefusesWhatIsNoFont(t *testing.T) {
	whole := demoFont(t, "Fraunces-SemiBold")
	for name, data := range map[string][]byte{"empty": nil, "words": []byte("hello"), "cut off": whole[:200],
		"half":  whole[:len(whole)/2],
		"zeros": make([]byte, 5000), "a picture": []byte("\x89PNG\r\n\x1a\n")} {
		if _, err := NewSet(nil).Add(data, name); err == nil {
			t.Errorf("%s is taken for a font", name)
		}
	}
}

func TestAddAs(t *testing.T) {
	s := NewSet(nil)
	data := demoFont(t, "Fraunces-SemiBold")
	if err := s.AddAs(data, "x.ttf", "Ferry", 400); err != nil {
		t.Fatal(err)
	}
	if f, found := s.Match([]string{"Ferry"}, 400, false); !found || f.Weight != 400 {
		t.Error("a font answers to the name it was given")
	}
	if err := s.AddAs(data, "y.ttf", "Ferry", 400); err != nil || len(s.faces) != 1 {
		t.Errorf("the same face again: %v, %d faces", err, len(s.faces))
	}
	if c := s.Clone(); c.AddAs(data, "z.ttf", "Other", 0) != nil || len(s.faces) != 1 || len(c.faces) != 2 {
		t.Error("a clone is apart")
	}
}

func FuzzAdd(f *testing.F) {
	data := demoFont(f, "Fraunces-SemiBold")
	f.Add(data[:2000], 100, byte(7))
	f.Fuzz(func(t *testing.T, head []byte, at int, v byte) {
		damaged := bytes.Clone(data)
		copy(damaged, head)
		if at >= 0 && at < len(damaged) {
			damaged[at] = v
		}
		s := NewSet(nil)
		face, err := s.Add(damaged, "x")
		if err != nil {
			return
		}
		sh := NewShaper(s)
		glyphs, _, _, _ := sh.Shape("Tide", Style{Families: []string{face.Family}, Size: 10, Weight: 400})
		for _, g := range glyphs {
			sh.Outline(g, 400)
		}
	})
}

// shelf is a Finder that counts what it is asked.
type shelf struct {
	asked []string
	data  []byte
}

func (s *shelf) Find(family string, weight int, italic bool) ([]byte, string, bool) {
	s.asked = append(s.asked, fmt.Sprintf("%s %d", family, weight))
	return s.data, fmt.Sprintf("%s-%d.ttf", family, weight), family == "Sail"
}

func TestTheFinderIsAskedOnceForEachStyle(t *testing.T) {
	s := &shelf{data: goregular.TTF}
	set := NewSet(s)
	for range 3 {
		for _, weight := range []int{400, 700} {
			if f, found := set.Clone().Match([]string{"Sail"}, weight, false); !found || f.File != fmt.Sprintf("Sail-%d.ttf",
				weight) {
				t.Errorf("%d: %v %t", weight, f, found)
			}
			if f, found := set.Match([]string{"Oar"}, weight, false); found || f.File != "" {
				t.Errorf("a family that is nowhere: %v", f)
			}
		}
	}
	if got := strings.Join(s.asked, ", "); got != "Sail 400, Oar 400, Sail 700, Oar 700" {
		t.Errorf("asked for %s", got)
	}
}

func TestShapesAreRemembered(t *testing.T) {
	s := NewShaper(NewSet(nil))
	a, w, _, _ := s.Shape("pier", Style{Size: 10, Weight: 400})
	b, v, _, _ := s.Shape("pier", Style{Size: 10, Weight: 400})
	if &a[0] != &b[0] || w != v {
		t.Error("the same words were shaped twice")
	}
	if _, v, _, _ := s.Shape("pier", Style{Size: 10, Weight: 400, Spacing: 1}); v != w+4 {
		t.Errorf("with letter spacing %g, without %g", v, w)
	}
	if _, v, _, _ := s.Fork().Shape("pier", Style{Size: 10, Weight: 400}); v != w {
		t.Errorf("another worker measures %g", v)
	}
}
