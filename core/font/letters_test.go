package font

import (
	"slices"
	"testing"
)

func TestLetters(t *testing.T) {
	glyphs := func(clusters ...int) []Glyph {
		var out []Glyph
		for _, c := range clusters {
			out = append(out, Glyph{Cluster: c})
		}
		return out
	}
	for _, c := range []struct {
		words string
		g     []Glyph
		want  []string
	}{
		{"pier", glyphs(0, 1, 2, 3), []string{"p", "i", "e", "r"}},
		{"ffi", glyphs(0), []string{"ffi"}},                        // a ligature
		{"affe", glyphs(0, 1, 3), []string{"a", "ff", "e"}},        // one inside
		{"é", glyphs(0, 0), []string{"é", ""}},                     // letter and accent
		{"שלום", glyphs(3, 2, 1, 0), []string{"ם", "ו", "ל", "ש"}}, // from right to left
		{"", nil, []string{}},
		{"a", glyphs(7, -1), []string{"", ""}}, // a font that lies
	} {
		if got := Letters(c.words, c.g); !slices.Equal(got, c.want) {
			t.Errorf("%q: %q, want %q", c.words, got, c.want)
		}
	}
}
