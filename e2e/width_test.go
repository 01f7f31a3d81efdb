package e2e

import (
	"fmt"
	"html"
	"math"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
)

// TestTextWidthsAgreeWithChromium sets words with kerning pairs in the demo's fonts from 12 to 48 px, with and without
// letter spacing, and holds their widths against Chromium's.
func TestTextWidthsAgreeWithChromium(t *testing.T) {
	t.Parallel()
	ctx := chromium(t)
	dir := t.TempDir()
	fonts := filepath.Join(demoFiles(t), "fonts")
	var svg strings.Builder
	svg.WriteString(`<svg xmlns="http://www.w3.org/2000/svg" width="1280" height="6000"><style>`)
	faces := []struct {
		family, file string
		weight       int
	}{{"Hanken Grotesk", "HankenGrotesk-Regular.ttf", 400}, {"Hanken Grotesk", "HankenGrotesk-SemiBold.ttf",
		600}, {"Hanken Grotesk", "HankenGrotesk-Bold.ttf", 700}, {"Fraunces", "Fraunces-SemiBold.ttf", 600}}
	for _, f := range faces {
		write(t, dir, f.file, read(t, fonts, f.file))
		fmt.Fprintf(&svg, `@font-face{font-family:"%s";font-weight:%d;src:url(%s)}`, f.family, f.weight, f.file)
	}
	svg.WriteString(`</style>`)
	words := []string{"AVATAR Towyn Yell To. P, LT", "Every hour between the islands", "Waffle office first flight",
		"08:15 – 09:35, £47.60", "Fähre nach Übersee", "Matkustajasatama"}
	n := 0
	for _, f := range faces {
		for _, size := range []float64{12, 13, 14, 16, 17, 20, 24.5, 31, 40, 48} {
			for _, spacing := range []string{"0", "0.5px", "-0.02em", "2"} {
				fmt.Fprintf(&svg, `<text id="t%d" x="10" y="%d" font-family="%s" font-weight="%d" font-size="%g" letter-spacing="%s" text-rendering="geometricPrecision">%s</text>`,
					n, 40+n*30, f.family, f.weight, size, spacing, html.EscapeString(words[n%len(words)]))
				n++
			}
		}
	}
	svg.WriteString(`</svg>`)
	file := write(t, dir, "words.svg", svg.String())
	open(t, ctx, file, 1280, 800, 1)
	theirs, err := chromedp.Run(ctx,
		chromedp.Evaluate[[]float64](`[...document.querySelectorAll('text')].map(e => e.getComputedTextLength())`))
	if err != nil {
		t.Fatal(err)
	}
	ours := elements(t, dir, "words.svg")
	if len(ours) != n || len(theirs) != n {
		t.Fatalf("%d texts, ours %d, theirs %d", n, len(ours), len(theirs))
	}
	worst, worstShare := 0.0, 0.0
	for i, e := range ours {
		_, after, _ := strings.Cut(e.fact("baseline"), ", ")
		_, after, _ = strings.Cut(after, ", ")
		w := pxOf(strings.TrimSuffix(after, " wide"))
		d := math.Abs(w - theirs[i])
		worst, worstShare = max(worst, d), max(worstShare, d/theirs[i])
		if !(d <= 0.5 || d <= 0.005*theirs[i]) {
			t.Errorf("%s %s, spacing %s: %.3f px, Chromium has %.3f", e.fact("font-family"), e.fact("font-size"),
				e.fact("letter-spacing"), w, theirs[i])
		}
	}
	t.Logf("%d widths, largest difference %.3f px, %.3f %%", n, worst, worstShare*100)
}
