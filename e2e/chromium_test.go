package e2e

import (
	"archetyp/core/diff"
	"bytes"
	"context"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"image/png"
	"math"
	"os"
	"path/filepath"
	"sort"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
)

// chromium starts a headless Chromium for a test.
func chromium(t testing.TB) context.Context {
	t.Helper()
	path := need(t, "chromium", "chromium-browser", "google-chrome")
	opts := append(chromedp.DefaultExecAllocatorOptions[:], chromedp.ExecPath(path), chromedp.NoSandbox,
		chromedp.DisableGPU,
		chromedp.Flag("force-color-profile", "srgb"), chromedp.Flag("allow-file-access-from-files", true),
		chromedp.Flag("disable-background-networking", true), chromedp.Flag("disable-component-update", true))
	ctx, cancel := chromedp.NewExecAllocator(context.Background(), opts...)
	t.Cleanup(cancel)
	ctx, cancel = chromedp.NewContext(ctx)
	t.Cleanup(cancel)
	return ctx
}

// open loads a file at a size and density and waits for its fonts.
func open(t testing.TB, ctx context.Context, file string, w, h int64, density float64) {
	t.Helper()
	err := chromedp.Do(ctx, chromedp.EmulateViewport(int64(w), int64(h), chromedp.EmulateScale(density)),
		chromedp.Navigate("file://"+file))
	if err == nil {
		_, err = chromedp.Run(ctx, chromedp.Evaluate[bool](`document.fonts.ready.then(() => true)`,
			chromedp.EvalAwaitPromise))
	}
	if err != nil {
		t.Fatal(err)
	}
}

func shoot(t testing.TB, ctx context.Context) image.Image {
	t.Helper()
	return decode(t, shootPNG(t, ctx))
}

// shootPNG takes a picture as the browser packs it: the same bytes for the same pixels.
func shootPNG(t testing.TB, ctx context.Context) []byte {
	t.Helper()
	fast := true // in packing, not in painting
	shot, err := chromedp.Run(ctx, func(ctx context.Context, target *chromedp.Target) (page.CaptureScreenshotResult,
		error) {
		return cdp.Call(ctx, target, page.CaptureScreenshot, page.CaptureScreenshotParams{OptimizeForSpeed: &fast})
	})
	if err != nil {
		t.Fatal(err)
	}
	return shot.Data
}

func decode(t testing.TB, data []byte) image.Image {
	t.Helper()
	img, err := png.Decode(bytes.NewReader(data))
	if err != nil {
		t.Fatal(err)
	}
	return img
}

// onWhite is a picture laid on white, as bytes.
func onWhite(img image.Image) *image.RGBA {
	out := image.NewRGBA(image.Rect(0, 0, img.Bounds().Dx(), img.Bounds().Dy()))
	draw.Draw(out, out.Rect, image.White, image.Point{}, draw.Src)
	draw.Draw(out, out.Rect, img, img.Bounds().Min, draw.Over)
	return out
}

// white is the plain background that pictures are laid on.
var white = color.RGBA{255, 255, 255, 255}

type box struct {
	X, Y, Width, Height float64
}

type element struct {
	Name, Kind, Shape, Selector, Path string
	Hidden                            bool
	Boxes                             struct{ Geometry, Painted, Layout box }
	Facts                             []struct{ Section, Name, Value, Origin, From string }
}

func (e *element) fact(name string) string {
	for _, f := range e.Facts {
		if f.Name == name {
			return f.Value
		}
	}
	return ""
}

// elements asks the program for the facts of all that is drawn in a file.
func elements(t testing.TB, dir, file string) []element {
	t.Helper()
	var spec struct{ Elements []element }
	mustJSON(t, dir, &spec, "spec", file, ":not(svg)")
	var out []element
	for _, e := range spec.Elements {
		if !e.Hidden {
			out = append(out, e)
		}
	}
	return out
}

var demoScreens = []struct {
	file string
	w, h int64
}{{"design/timetable.svg", 390, 844}, {"design/booking.svg", 390, 844}, {"design/components.svg", 1280, 860}}

// TestScreensLookLikeChromiums holds our picture of each demo screen against Chromium's of the same file.
func TestScreensLookLikeChromiums(t *testing.T) {
	t.Parallel()
	ctx := chromium(t)
	dir := demoFiles(t)
	tmp := t.TempDir()
	for _, s := range demoScreens {
		for _, density := range []float64{1, 2} {
			out := filepath.Join(tmp, "ours.png")
			must(t, dir, "render", s.file, "-o", out, "--at", fmt.Sprint(density), "--quiet")
			data, err := os.ReadFile(out)
			if err != nil {
				t.Fatal(err)
			}
			ours := onWhite(decode(t, data))
			open(t, ctx, filepath.Join(dir, s.file), s.w, s.h, density)
			theirs := onWhite(shoot(t, ctx))
			if keep := os.Getenv("ARCHETYP_KEEP"); keep != "" {
				savePair(t, keep, fmt.Sprintf("%s@%g", filepath.Base(s.file), density), ours, theirs)
			}
			plain := diff.Plain(theirs)
			var sum float64
			n, worst, worstName := 0, 1.0, ""
			for _, e := range elements(t, dir, s.file) {
				b := e.Boxes.Painted
				r := image.Rect(int(math.Floor(b.X*density)), int(math.Floor(b.Y*density)), int(math.Ceil((b.X+b.Width)*density)),
					int(math.Ceil((b.Y+b.Height)*density)))
				l, ok := diff.Likeness(ours, theirs, r, plain, 16)
				if !ok {
					continue
				}
				if testing.Verbose() && l < 0.95 {
					t.Logf("  %.2f %% %s", l*100, e.Path)
				}
				sum += l
				n++
				if l < worst {
					worst, worstName = l, e.Path
				}
			}
			mean := sum / float64(max(n, 1))
			t.Logf("%s at %g: likeness %.2f %% over %d elements, worst %.2f %% (%s)", s.file, density, mean*100, n, worst*100,
				worstName)
			if n == 0 || mean < 0.97 || worst < 0.90 {
				t.Errorf("%s at %g: likeness %.4f (wanted 0.97), worst %.4f of %s (wanted 0.90)", s.file, density, mean, worst,
					worstName)
			}
		}
	}
}

func savePair(t testing.TB, dir, name string, ours, theirs image.Image) {
	for suffix, img := range map[string]image.Image{"ours": ours, "theirs": theirs} {
		f, err := os.Create(filepath.Join(dir, name+"-"+suffix+".png"))
		if err != nil {
			t.Fatal(err)
		}
		if err := png.Encode(f, img); err != nil {
			t.Fatal(err)
		}
		f.Close()
	}
}

// factsJS asks the browser for the box, fill and font size of each selector.
const factsJS = `(selectors => selectors.map(s => {
	const all = document.querySelectorAll(s);
	if (all.length !== 1) return null;
	if (all[0].closest('symbol, defs')) return null;
	const e = all[0], st = getComputedStyle(e), r = e.getBoundingClientRect();
	const b = e.getBBox ? e.getBBox() : null, m = e.getScreenCTM();
	let box = {X: r.x, Y: r.y, Width: r.width, Height: r.height};
	if (b && m && m.b === 0 && m.c === 0) box = {X: b.x*m.a + m.e, Y: b.y*m.d + m.f, Width: b.width*m.a, Height: b.height*m.d};
	const inner = e.querySelector ? (e.tagName === 'text' ? (e.querySelector('tspan') || e) : e) : e;
	return {Box: box, Fill: getComputedStyle(inner).fill, FontSize: getComputedStyle(inner).fontSize};
}))(%s)`

type computed struct {
	Box            box
	Fill, FontSize string
}

// TestSpecAgreesWithChromium holds the geometry box, fill and font size of every element of the demo's screens
// against what Chromium computes.
func TestSpecAgreesWithChromium(t *testing.T) {
	t.Parallel()
	ctx := chromium(t)
	dir := demoFiles(t)
	for _, s := range demoScreens {
		all := elements(t, dir, s.file)
		var selectors []string
		for _, e := range all {
			selectors = append(selectors, e.Selector)
		}
		open(t, ctx, filepath.Join(dir, s.file), s.w, s.h, 1)
		theirs, err := chromedp.Run(ctx, chromedp.Evaluate[[]*computed](fmt.Sprintf(factsJS, jsonText(t, selectors))))
		if err != nil {
			t.Fatal(err)
		}
		compared, boxes, fills, sizes := 0, 0, 0, 0
		var worst []float64
		for i, e := range all {
			th := theirs[i]
			if th == nil || count(selectors, e.Selector) > 1 { // inside a <use>: the browser has no element of its own for it
				continue
			}
			compared++
			b := e.Boxes.Geometry
			d := max(math.Abs(b.X-th.Box.X), math.Abs(b.Y-th.Box.Y), math.Abs(b.X+b.Width-th.Box.X-th.Box.Width),
				math.Abs(b.Y+b.Height-th.Box.Y-th.Box.Height))
			worst = append(worst, d)
			if d > 0.5 && e.Shape != "g" && e.Shape != "use" || d > 1 {
				boxes++
				t.Errorf("%s %s: box %v, Chromium has %v", s.file, e.Path, b, th.Box)
			}
			if e.Kind == "group" {
				continue
			}
			if want := th.Fill; !sameFill(e.fact("fill"), want) {
				fills++
				t.Errorf("%s %s: fill %q, Chromium has %q", s.file, e.Path, e.fact("fill"), want)
			}
			if e.Kind == "text" && e.fact("font-size") != th.FontSize {
				sizes++
				t.Errorf("%s %s: font size %q, Chromium has %q", s.file, e.Path, e.fact("font-size"), th.FontSize)
			}
		}
		sort.Float64s(worst)
		t.Logf("%s: %d of %d elements compared, largest difference of a box %.3f px; %d boxes, %d fills, %d font sizes differ",
			s.file, compared, len(all), worst[len(worst)-1], boxes, fills, sizes)
		if compared < len(all)*2/3 {
			t.Errorf("%s: only %d of %d elements could be compared", s.file, compared, len(all))
		}
	}
}
