package e2e

import (
	"context"
	"fmt"
	"os"
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

// TestGuideInChromium opens every page of the demo's guide from disk: no error, every picture loads, nothing hangs over
// the edge of a phone.
func TestGuideInChromium(t *testing.T) {
	ctx := browser(t)
	dir := demo(t)
	if _, err := chromedp.Run(ctx, chromedp.Evaluate[int]("1")); err != nil {
		t.Fatal(err)
	}
	told := complaints(t, ctx)
	pages, err := filepath.Glob(filepath.Join(dir, "guide", "*.html"))
	if err != nil {
		t.Fatal(err)
	}
	more, _ := filepath.Glob(filepath.Join(dir, "guide", "screens", "*.html"))
	for _, p := range append(pages, more...) {
		for _, width := range []int64{390, 1280} {
			open(t, ctx, p, width, 800, 1)
			bad, err := chromedp.Run(ctx, chromedp.Evaluate[[]string](`(async () => {
				document.querySelectorAll('img').forEach(i => { i.loading = 'eager'; });
				const out = [];
				for (const i of document.images) { try { await i.decode(); } catch (e) { out.push('picture ' + i.src); } }
				const over = document.documentElement.scrollWidth - innerWidth;
				if (over > 1) out.push('wider than the window by ' + over);
				return out;
			})()`, chromedp.EvalAwaitPromise))
			if err != nil {
				t.Fatal(err)
			}
			for _, b := range bad {
				t.Errorf("%s at %d px: %s", filepath.Base(p), width, b)
			}
		}
	}
	// a click on an element shows its facts
	open(t, ctx, filepath.Join(dir, "guide", "screens", "booking.html"), 1280, 800, 1)
	facts, err := chromedp.Run(ctx, chromedp.Evaluate[string](`document.querySelector('.spot[aria-label^="Pay button"]').click(), document.getElementById('facts').textContent`))
	if err != nil || !strings.Contains(facts, "border-radius") {
		t.Errorf("%v: %s", err, facts)
	}
	// and the address it leaves opens them again
	facts, err = chromedp.Run(ctx, chromedp.Evaluate[string](`(function () {
		var address = location.hash, panel = document.getElementById('facts')
		document.querySelector('.spot').click()
		location.hash = address
		window.dispatchEvent(new HashChangeEvent('hashchange'))
		return decodeURIComponent(address) + ' ' + panel.textContent
	})()`))
	if err != nil || !strings.HasPrefix(facts, "#Booking/Pay button") || !strings.Contains(facts, "border-radius") {
		t.Errorf("%v: %s", err, facts)
	}
	if list := told(); len(list) > 0 {
		t.Errorf("the console says %q", list)
	}
}

// TestTokensInChromium loads the demo's CSS and holds that every custom property resolves, and to the value that the
// program lists.
func TestTokensInChromium(t *testing.T) {
	ctx := browser(t)
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
		got, err := chromedp.Run(ctx, chromedp.Evaluate[string](fmt.Sprintf(`getComputedStyle(document.documentElement).getPropertyValue(%q).trim()`, n[1])))
		if err != nil || got == "" || strings.Contains(got, "var(") {
			t.Errorf("%s is %q (%v)", n[1], got, err)
		}
	}
	for _, tok := range list.Tokens {
		name := "--" + strings.ReplaceAll(tok.Path, ".", "-")
		prop := map[string]string{"color": "color", "typography": "font", "shadow": "boxShadow", "gradient": "backgroundImage", "dimension": "width", "fontFamily": "fontFamily"}[tok.Type]
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

// TestExportedSVGLooksTheSame holds each exported SVG of the demo against the PNG beside it, both in Chromium's eyes.
func TestExportedSVGLooksTheSame(t *testing.T) {
	ctx := browser(t)
	dir := filepath.Join(demo(t), "dist", "assets")
	n := 0
	for name := range tree(t, dir) {
		base, ok := strings.CutSuffix(name, ".svg")
		if !ok {
			continue
		}
		n++
		data, err := os.ReadFile(filepath.Join(dir, base+"@2x.png"))
		if err != nil {
			t.Fatal(err)
		}
		ours := onWhite(decode(t, data))
		open(t, ctx, filepath.Join(dir, name), int64(ours.Rect.Dx()/2), int64(ours.Rect.Dy()/2), 2)
		theirs := onWhite(shoot(t, ctx))
		l, ok := likeness(ours, theirs, ours.Rect, [3]uint8{255, 255, 255}, 32)
		if !ok && base == "icons/back" {
			continue // white, and so is the page
		}
		if l < 0.97 {
			t.Errorf("%s: likeness %.3f", name, l)
		}
	}
	if n != 12 {
		t.Errorf("%d SVG files", n)
	}
}
