package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"math"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/chromedp/cdproto/log"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
)

// complaints collects what a page writes to the console as errors, and what the browser logs.
func complaints(t testing.TB, ctx context.Context) func() []string {
	t.Helper()
	var mu sync.Mutex
	var out []string
	note := func(s string) {
		mu.Lock()
		defer mu.Unlock()
		out = append(out, s)
	}
	exceptions := chromedp.Events(ctx, runtime.ExceptionThrown)
	calls := chromedp.Events(ctx, runtime.ConsoleAPICalled)
	entries := chromedp.Events(ctx, log.EntryAdded)
	go func() {
		for e, err := range exceptions {
			if err != nil {
				return
			}
			note(e.ExceptionDetails.Text)
			if x := e.ExceptionDetails.Exception; x != nil {
				note(x.Description)
			}
		}
	}()
	go func() {
		for e, err := range calls {
			if err != nil {
				return
			}
			note(fmt.Sprint(e.Type, e.Args))
		}
	}()
	go func() {
		for e, err := range entries {
			if err != nil {
				return
			}
			note(e.Entry.Text + " " + e.Entry.URL)
		}
	}()
	return func() []string {
		time.Sleep(200 * time.Millisecond)
		mu.Lock()
		defer mu.Unlock()
		return out
	}
}

// TestTokensInChromium loads the demo's CSS and holds that every custom property resolves, and to the value that the
// program lists.
func TestTokensInChromium(t *testing.T) {
	ctx := chromium(t)
	dir := demo(t)
	css := read(t, dir, "dist", "tokens.css")
	var list struct {
		Tokens []struct{ Path, Type, Value string }
	}
	mustJSON(t, dir, &list, "tokens", "list")
	page := write(t, t.TempDir(), "page.html", "<!doctype html><style>"+css+"</style><body>")
	open(t, ctx, page, 400, 400, 1)
	names := regexp.MustCompile(`(?m)^  (--[^:]+):`).FindAllStringSubmatch(css, -1)
	if len(names) < 60 {
		t.Fatalf("only %d custom properties", len(names))
	}
	for _, n := range names {
		got, err := chromedp.Run(ctx,
			chromedp.Evaluate[string](fmt.Sprintf(`getComputedStyle(document.documentElement).getPropertyValue(%q).trim()`,
				n[1])))
		if err != nil || got == "" || strings.Contains(got, "var(") {
			t.Errorf("%s is %q (%v)", n[1], got, err)
		}
	}
	for _, tok := range list.Tokens {
		name := "--" + strings.ReplaceAll(tok.Path, ".", "-")
		prop := map[string]string{"color": "color", "typography": "font", "shadow": "boxShadow",
			"gradient": "backgroundImage", "dimension": "width", "fontFamily": "fontFamily"}[tok.Type]
		same, err := chromedp.Run(ctx, chromedp.Evaluate[bool](fmt.Sprintf(`(() => {
			const a = document.createElement('div'), b = document.createElement('div');
			document.body.append(a, b);
			a.style[%[1]q] = 'var(%[2]s)'; b.style[%[1]q] = %[3]q;
			const x = getComputedStyle(a)[%[1]q], y = getComputedStyle(b)[%[1]q], plain = getComputedStyle(document.body)[%[1]q];
			return x === y && b.style[%[1]q] !== '';
		})()`, prop, name, tok.Value)))
		if err != nil || !same {
			t.Errorf("%s does not compute to %s (%v)", name, tok.Value, err)
		}
	}
}

// TestExportedSVGLooksTheSame holds each exported SVG of the demo against the element it was made of, alone in its
// source, as Chromium paints both at 1x to 4x.
func TestExportedSVGLooksTheSame(t *testing.T) {
	t.Parallel()
	ctx := chromium(t)
	dir := demo(t)
	var manifest struct {
		Assets []struct {
			Source, Element string
			Width, Height   float64
			Files           []struct{ Path, Format string }
		}
	}
	if err := json.Unmarshal([]byte(read(t, filepath.Join(dir, "dist/assets.json"))), &manifest); err != nil {
		t.Fatal(err)
	}
	root, placed := regexp.MustCompile(`<svg[^>]*>`), regexp.MustCompile(`<use [^>]*href="(#[^"]*)"[^>]* x="(\d+)" y="(\d+)"`)
	n := 0
	for _, a := range manifest.Assets {
		var spec struct {
			Elements []struct {
				Line  int
				Boxes struct {
					Painted struct{ X, Y, Width, Height float64 }
				}
			}
		}
		mustJSON(t, dir, &spec, "spec", a.Source, a.Element)
		e, source := spec.Elements[0], read(t, filepath.Join(dir, a.Source))
		x, y, shown := math.Floor(e.Boxes.Painted.X), math.Floor(e.Boxes.Painted.Y), a.Element
		// a symbol has a frame of its own
		if m := placed.FindStringSubmatch(strings.Split(source, "\n")[e.Line-1]); m != nil {
			fmt.Sscan(m[2]+" "+m[3], &x, &y)
			shown += "," + m[1] + "," + m[1] + " *"
		}
		alone := root.ReplaceAllStringFunc(source, func(tag string) string {
			tag = regexp.MustCompile(` (width|height|viewBox)="[^"]*"`).ReplaceAllString(tag, "")
			return strings.TrimSuffix(tag, ">") +
				fmt.Sprintf(` width="%g" height="%g" viewBox="%g %g %g %g"><style>svg *{visibility:hidden !important} svg clipPath *,%s, %s *{visibility:visible !important}</style>`,
					a.Width, a.Height, x, y, a.Width, a.Height, shown, a.Element)
		})
		for _, f := range a.Files {
			if f.Format != "svg" || !strings.HasPrefix(f.Path, "assets/") {
				continue
			}
			n++
			for density := 1; density <= 4; density++ {
				var shots [2]*image.RGBA
				for k, file := range []string{write(t, dir, "alone.svg", alone), filepath.Join(dir, "dist", f.Path)} {
					page := write(t, dir, "page.html",
						`<!doctype html><body style="margin:0;background:#8ab"><img style="position:absolute;left:0;top:0" src="file://`+file+`">`)
					open(t, ctx, page, 128, 128, float64(density))
					shots[k] = onWhite(shoot(t, ctx))
				}
				plain := image.NewRGBA(shots[0].Rect)
				draw.Draw(plain, plain.Rect, image.NewUniform(color.RGBA{0x88, 0xaa, 0xbb, 255}), image.Point{}, draw.Src)
				if painted, _, _ := differ(shots[0], plain, plain.Rect, 32); painted < 20 {
					t.Fatalf("%s: the source is not seen", f.Path)
				}
				if pixels, _, most := differ(shots[0], shots[1], shots[0].Rect, 2); pixels > 0 {
					t.Errorf("%s at %dx: %d pixels differ, by %d/255 at most", f.Path, density, pixels, most)
				}
			}
		}
	}
	if n != 13 {
		t.Errorf("%d SVG files", n)
	}
}
