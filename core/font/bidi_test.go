package font

import (
	"fmt"
	"math"
	"os"
	"strings"
	"testing"
)

// hebrew is a set with a font for Hebrew, which lacks Latin letters.
func hebrew(t testing.TB) *Set {
	t.Helper()
	s := demoSet(t)
	data, err := os.ReadFile("../../demo/files/fonts/NotoSansHebrew-Regular.ttf")
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.Add(data, "NotoSansHebrew"); err != nil {
		t.Fatal(err)
	}
	return s
}

// seen are the letters of words from left to right, as they are painted.
func seen(sh *Shaper, words string, rtl bool) string {
	runes := []rune(words)
	glyphs, _, _, _ := sh.Shape(words, Style{Families: []string{"Hanken Grotesk", "Noto Sans Hebrew"}, Size: 10,
		Weight: 400, RTL: rtl})
	out := make([]rune, 0, len(glyphs))
	last := math.Inf(-1)
	for _, g := range glyphs {
		if g.Origin.X < last-0.01 {
			return "not from left to right"
		}
		last = g.Origin.X
		out = append(out, runes[g.Cluster])
	}
	return string(out)
}

func reverse(s string) string {
	r := []rune(s)
	for i, j := 0, len(r)-1; i < j; i, j = i+1, j-1 {
		r[i], r[j] = r[j], r[i]
	}
	return string(r)
}

// TestDirections holds the order letters are seen in against what the bidirectional algorithm says, for words as they
// stand in interfaces. https://www.unicode.org/reports/tr9/
func TestDirections(t *testing.T) {
	sh := NewShaper(hebrew(t))
	for _, c := range []struct {
		words string
		rtl   bool
		want  string
	}{
		{"Pay", false, "Pay"},
		{"Pay", true, "Pay"},
		{"שלום", false, reverse("שלום")},
		{"שלום", true, reverse("שלום")},
		{"שלום עולם", true, reverse("שלום עולם")},
		{"Pay שלום now", false, "Pay " + reverse("שלום") + " now"},
		{"Pay שלום", true, reverse("שלום") + " Pay"},
		{"רציף 12", true, "12 " + reverse("רציף")},
		{"רציף 12", false, "12 " + reverse("רציף")},
		{"רציף 12 Pay", false, "12 " + reverse("רציף") + " Pay"},
		{"שבת, 08:15, רציף 2", true, "2 " + reverse("רציף") + " ,08:15 ," + reverse("שבת")},
		{"12 דקות", true, reverse("דקות") + " 12"},
		{"Pay now, 12", false, "Pay now, 12"},
		{"Pay now, 12", true, "Pay now, 12"},
	} {
		if got := seen(sh, c.words, c.rtl); got != c.want {
			t.Errorf("%q, from the right %t: seen as %q, want %q", c.words, c.rtl, got, c.want)
		}
	}
}

func TestFamiliesHelpOut(t *testing.T) {
	s := hebrew(t)
	sh := NewShaper(s)
	glyphs, _, face, _ := sh.Shape("aש", Style{Families: []string{"Hanken Grotesk", "Noto Sans Hebrew", "sans-serif"},
		Size: 10, Weight: 400})
	if len(glyphs) != 2 || glyphs[0].Face != face || glyphs[1].Face.Family != "Noto Sans Hebrew" {
		t.Errorf("%d glyphs, the second from %s", len(glyphs), glyphs[1].Face.Family)
	}
	for _, c := range []struct {
		words, families, want string
	}{
		{"Pay", "Hanken Grotesk", ""}, {"Łódź für später", "Hanken Grotesk", ""}, {"שלש", "Hanken Grotesk", "של"}, {"שלש",
			"Hanken Grotesk, Noto Sans Hebrew", ""},
		{"שלש", "Hanken Grotesk, sans-serif, Noto Sans Hebrew", "של"}, {"שלש", "Nowhere", ""}, {"a, 1", "Noto Sans Hebrew",
			"a,1"}, {"\u200fש\u00a0ל\n", "Noto Sans Hebrew", ""},
	} {
		if got := string(s.Lacks(c.words, Families(c.families), 400, false)); got != c.want {
			t.Errorf("%s lacks %q of %q, want %q", c.families, got, c.words, c.want)
		}
	}
}

// Spaces are set in the first font that has one, though the words around stand in another.
func TestSpacesOfTheFirstFont(t *testing.T) {
	sh := NewShaper(hebrew(t))
	st := Style{Families: []string{"Hanken Grotesk", "Noto Sans Hebrew"}, Size: 1000, Weight: 400}
	width := func(s string, st Style) float64 { _, w, _, _ := sh.Shape(s, st); return w }
	space := width("a a", st) - width("aa", st)
	if got := width("ש ש", st) - width("שש", st); math.Abs(got-space) > 20 {
		t.Errorf("a space between Hebrew letters is %.0f wide, want %.0f", got, space)
	}
}

// The short way for Latin words measures as the long one does.
func TestLatinAsAny(t *testing.T) {
	sh := NewShaper(hebrew(t))
	for _, words := range []string{"Pay now", "Fähre nach Łódź", "AVATAR, 12 – 3", "“Quoted” it’s", "1 + 2 = 3",
		"office"} {
		st := Style{Families: []string{"Hanken Grotesk"}, Size: 17, Weight: 400}
		_, short, _, _ := sh.Shape(words, st)
		_, with, _, _ := sh.Shape(words+"\u05d0", Style{Families: []string{"Hanken Grotesk", "Noto Sans Hebrew"}, Size: 17,
			Weight: 400})
		_, alone, _, _ := sh.Shape("\u05d0", Style{Families: []string{"Hanken Grotesk", "Noto Sans Hebrew"}, Size: 17,
			Weight: 400})
		if math.Abs(short-(with-alone)) > 0.05 {
			t.Errorf("%s: %.3f, beside a Hebrew letter %.3f", words, short, with-alone)
		}
	}
}

func BenchmarkShape(b *testing.B) {
	s := hebrew(b)
	for name, words := range map[string]string{"latin": "Every hour between the islands %d",
		"hebrew": "המעבורת יוצאת מהרציף בכל שעה %d"} {
		b.Run(name, func(b *testing.B) {
			sh := NewShaper(s)
			b.ReportAllocs()
			n := 0
			for b.Loop() {
				n++
				sh.Shape(strings.Replace(words, "%d", fmt.Sprint(n), 1),
					Style{Families: []string{"Hanken Grotesk", "Noto Sans Hebrew"}, Size: 16, Weight: 400})
			}
		})
	}
}
