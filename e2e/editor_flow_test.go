package e2e

import (
	"image"
	"image/color"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"archetyp/core/diff"
)

// TestAButtonFromCompletionsAlone writes the pay button by accepting what is offered, and holds the page against the
// design.
func TestAButtonFromCompletionsAlone(t *testing.T) {
	t.Parallel()
	ctx := chromium(t)
	dir := demo(t)
	must(t, dir, "focus", "booking", "#pay")
	c := startEditor(t, dir, obj{})
	const sheet = "site/css/pay.css"
	text := ".pay {\n}\n"
	write(t, dir, sheet, text)
	for _, property := range []string{"width", "min-height", "border-radius", "box-shadow", "font", "color"} {
		text = c.choose(sheet, strings.Replace(text, "\n}", "\n  "+property+": |\n}", 1), ".")
		text = strings.Replace(text, "\n}", ";\n}", 1)
	}
	text = c.choose(sheet, strings.Replace(text, "\n}", "\n  background-image: |\n}", 1), `^media/pay\.webp$`)
	text = strings.Replace(text, "\n}", ";\n}", 1)
	for _, want := range []string{"width: 22.375rem;", "border-radius: var(--radius-l);", "box-shadow: var(--shadow-button);", "font: var(--type-body-strong);", "color: var(--color-text-inverse);", "background-image: url(media/pay.webp);"} {
		if !strings.Contains(text, want) {
			t.Errorf("the rule lacks %s:\n%s", want, text)
		}
	}
	write(t, dir, sheet, text)
	page := write(t, dir, "site/pay.html", `<!doctype html><meta charset="utf-8"><link rel="stylesheet" href="../dist/tokens.css"><link rel="stylesheet" href="css/pay.css">
<style>body { margin: 0; background: #f5f8fa } .pay { position: absolute; left: 16px; top: 748px }</style><div class="pay" role="img" aria-label="Pay"></div>`)
	open(t, ctx, page, 390, 844, 1)
	must(t, dir, "render", "booking", "--only", "#pay", "--background", "#f5f8fa", "-o", "drawn.png")
	drawn := onWhite(decode(t, []byte(read(t, dir, "drawn.png"))))
	shot := onWhite(shoot(t, ctx))
	like, ok := diff.Likeness(drawn, shot, image.Rect(4, 740, 386, 824), color.RGBA{0xf5, 0xf8, 0xfa, 255}, 16)
	t.Logf("likeness %.2f %%", 100*like)
	if !ok || like < 0.98 {
		t.Errorf("likeness %.2f %%\n%s", 100*like, text)
	}
	if _, err := os.Stat(filepath.Join(dir, "site/css/media/pay.webp")); err != nil {
		t.Error(err)
	}
}
