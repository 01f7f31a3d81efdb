package e2e

import (
	"archetyp/core/diff"
	"fmt"
	"html"
	"image"
	"image/draw"
	"io/fs"
	"math/rand"
	"os"
	"path/filepath"
	"sort"
	"strings"
	"testing"
)

// iconFiles lists SVG icons of the themes installed here: drawings nobody of this project drew. A fixed seed picks
// them, so that every run sees the same ones.
func iconFiles(t testing.TB, n int) []string {
	t.Helper()
	var all []string
	_ = filepath.WalkDir("/usr/share/icons", func(p string, d fs.DirEntry, err error) error {
		if err == nil && d.Type().IsRegular() && strings.HasSuffix(p, ".svg") {
			all = append(all, p)
		}
		return nil
	})
	if len(all) < n {
		lacking(t, "only %d icons are installed", len(all))
	}
	sort.Strings(all)
	rand.New(rand.NewSource(20)).Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })
	return all[:n]
}

// TestIconsOfATheme reads and paints 300 icons and holds each picture against Chromium's.
func TestIconsOfATheme(t *testing.T) {
	t.Parallel()
	icons := iconFiles(t, 300)
	ctx := chromium(t)
	dir := t.TempDir()
	const side, columns = 64, 20
	rows := (len(icons) + columns - 1) / columns
	ours := image.NewRGBA(image.Rect(0, 0, side*columns, side*rows))
	draw.Draw(ours, ours.Rect, image.White, image.Point{}, draw.Src)
	var page strings.Builder
	page.WriteString(`<!doctype html><body style="margin:0;background:#fff;line-height:0;font-size:0">`)
	for i, icon := range icons {
		fmt.Fprintf(&page, `<img src="file://%s" style="width:%dpx;height:%dpx;object-fit:contain">`, html.EscapeString(icon),
			side, side)
		if i%columns == columns-1 {
			page.WriteString("<br>")
		}
		var o struct {
			Screens []struct{ Width, Height float64 }
		}
		mustJSON(t, dir, &o, "outline", icon)
		out := filepath.Join(dir, "o.png")
		at := side / max(o.Screens[0].Width, o.Screens[0].Height)
		must(t, dir, "render", icon, "-o", out, "--at", fmt.Sprint(at), "--quiet")
		img := decode(t, []byte(read(t, out)))
		if b := img.Bounds(); b.Dx() == 0 || b.Dx() > side+1 || b.Dy() > side+1 {
			t.Errorf("%s: a picture of %d × %d", icon, b.Dx(), b.Dy())
		}
		x, y := i%columns*side+(side-img.Bounds().Dx())/2, i/columns*side+(side-img.Bounds().Dy())/2
		draw.Draw(ours, image.Rect(x, y, x+side, y+side), img, image.Point{}, draw.Over)
	}
	file := write(t, dir, "page.html", page.String())
	open(t, ctx, file, int64(side*columns), int64(side*rows), 1)
	theirs := onWhite(shoot(t, ctx))
	if keep := os.Getenv("ARCHETYP_KEEP"); keep != "" {
		savePair(t, keep, "icons", ours, theirs)
	}
	good := 0
	for i, icon := range icons {
		x, y := i%columns*side, i/columns*side
		l, ok := diff.Likeness(ours, theirs, image.Rect(x, y, x+side, y+side), white, 32)
		if !ok || l >= 0.97 {
			good++
		} else {
			t.Logf("%.1f %% %s", l*100, icon)
		}
	}
	t.Logf("%d of %d icons are alike in at least 97 %% of their pixels within 32/255", good, len(icons))
	if good < len(icons)*95/100 {
		t.Errorf("only %d of %d icons look like Chromium's", good, len(icons))
	}
}
