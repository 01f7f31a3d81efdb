package e2e

import (
	"bytes"
	"image"
	"image/draw"
	"image/png"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// TestOverlayOfAScreenshot holds a screen against pictures of itself: as it is, moved, and with a part changed.
func TestOverlayOfAScreenshot(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	must(t, dir, "render", "booking", "-o", "twice.png", "--at", "2", "--background", "white")
	if got := must(t, dir, "overlay", "booking", "twice.png", "--within", "99.9").out; !strings.Contains(got, "100.0 % alike") {
		t.Errorf("with itself: %s", got)
	}
	must(t, dir, "render", "booking", "-o", "seen.png", "--background", "white")
	img, err := png.Decode(bytes.NewReader([]byte(read(t, dir, "seen.png"))))
	if err != nil {
		t.Fatal(err)
	}
	moved := image.NewRGBA(img.Bounds())
	draw.Draw(moved, moved.Rect, image.NewUniform(img.At(2, 800)), image.Point{}, draw.Src)
	draw.Draw(moved, moved.Rect.Add(image.Pt(5, 7)), img, image.Point{}, draw.Src)
	var b bytes.Buffer
	if err := png.Encode(&b, moved); err != nil {
		t.Fatal(err)
	}
	write(t, dir, "moved.png", b.String())
	if r := run(t, dir, "overlay", "booking", "moved.png", "--within", "95"); r.status != 1 {
		t.Errorf("moved: %d %s", r.status, r.out)
	}
	if got := must(t, dir, "overlay", "booking", "moved.png", "--best").out; !strings.Contains(got, "100.0 % alike: booking and moved.png, moved 5 px left, 7 px up") {
		t.Errorf("--best: %s", got)
	}
	if got := must(t, dir, "overlay", "booking", "moved.png", "--move=-5,-7").out; !strings.Contains(got, "100.0 %") {
		t.Errorf("--move: %s", got)
	}
	if got := must(t, dir, "overlay", "booking", "moved.png", "--align", "#trip-card > rect").out; !strings.Contains(got, "moved 5 px left, 7 px up") {
		t.Errorf("--align: %s", got)
	}
	edit(t, filepath.Join(dir, "design/booking.svg"), "Passengers", "Travellers")
	var o struct {
		Likeness float64
		Elements []struct{ Selector string }
	}
	out := must(t, dir, "overlay", "booking", "seen.png", "--json").out
	holds(t, "overlay", out)
	mustJSON(t, dir, &o, "overlay", "booking", "seen.png")
	if len(o.Elements) == 0 || o.Elements[0].Selector != "#passengers-heading" || o.Likeness > 0.995 || o.Likeness < 0.9 {
		t.Errorf("a word changed: %+v", o.Elements[:min(2, len(o.Elements))])
	}
	for _, how := range []string{"difference", "overlay", "split", "blink"} {
		must(t, dir, "overlay", "booking", "seen.png", "--show", how, "-o", how+".png")
		if _, err := png.DecodeConfig(strings.NewReader(read(t, dir, how+".png"))); err != nil {
			t.Errorf("%s: %v", how, err)
		}
	}
	if got := must(t, dir, "overlay", "seen.png", "seen.png").out; !strings.Contains(got, "100.0 %") {
		t.Errorf("two pictures: %s", got)
	}
	write(t, dir, "bad.png", "no picture")
	for args, want := range map[string]string{"booking bad.png": "no picture", "booking none.png": "none.png", "seen.png seen.png --align #x": "no elements", "booking seen.png --show x -o y.png": "is not known",
		"booking seen.png --show blink": "belong together", "booking seen.png --screen Nowhere": "has no screen", "booking seen.png --move 1": "is no point"} {
		if r := run(t, dir, append([]string{"overlay"}, strings.Fields(args)...)...); r.status != 2 || !strings.Contains(r.err, want) {
			t.Errorf("%s: %d %s", args, r.status, r.err)
		}
	}
}

// TestOverlayOfAPage holds a screen against a page in a browser, and against an earlier edition.
func TestOverlayOfAPage(t *testing.T) {
	t.Parallel()
	chromium(t)
	dir := repository(t)
	must(t, dir, "code", "booking", "--as", "html", "-o", "page")
	if got := must(t, dir, "overlay", "booking", "page/index.html", "--within", "95", "--show", "split", "-o", "split.png").out; !strings.Contains(got, "alike: booking and page/index.html") {
		t.Errorf("%s", got)
	}
	if r := run(t, dir, "overlay", "booking", "site/booking.html", "--within", "95"); r.status != 1 {
		t.Errorf("the site: %d %s", r.status, r.out)
	}
	if got := must(t, dir, "overlay", "booking", "main:booking", "--within", "100").out; !strings.Contains(got, "100.0 %") {
		t.Errorf("an earlier state: %s", got)
	}
	_ = os.Remove(filepath.Join(dir, "split.png"))
}
