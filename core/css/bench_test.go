package css

import (
	"os"
	"testing"
)

// BenchmarkSheet reads the style sheet that ARCHETYP_BENCH_SHEET names.
func BenchmarkSheet(b *testing.B) {
	data, err := os.ReadFile(os.Getenv("ARCHETYP_BENCH_SHEET"))
	if err != nil {
		b.Skip("ARCHETYP_BENCH_SHEET names no style sheet")
	}
	text := string(data)
	b.Run("tokens", func(b *testing.B) {
		b.SetBytes(int64(len(text)))
		for b.Loop() {
			Tokenize(text)
		}
	})
	b.Run("scoped", func(b *testing.B) {
		b.SetBytes(int64(len(text)))
		for b.Loop() {
			ParseScoped(text)
		}
	})
	b.Run("sheet", func(b *testing.B) {
		b.SetBytes(int64(len(text)))
		for b.Loop() {
			ParseSheet(text, Medium{Width: 1280, Height: 800, Page: true})
		}
	})
}
