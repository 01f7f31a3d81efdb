package e2e

import (
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
)

// guidePages are the pages of a guide.
func guidePages(t testing.TB, dir string) (pages []string) {
	t.Helper()
	err := filepath.WalkDir(filepath.Join(dir, "guide"), func(p string, e fs.DirEntry, err error) error {
		if err == nil && strings.HasSuffix(p, ".html") {
			pages = append(pages, p)
		}
		return err
	})
	if err != nil || len(pages) < 20 {
		t.Fatal(len(pages), err)
	}
	return pages
}

// guideText is all that the pages of a guide and their data say.
func guideText(t testing.TB, dir string) string {
	t.Helper()
	var b strings.Builder
	for p, data := range tree(t, filepath.Join(dir, "guide")) {
		if ext := filepath.Ext(p); ext == ".html" || ext == ".js" {
			b.WriteString(data)
		}
	}
	return b.String()
}

// TestEveryPageOfTheGuide opens every page of the demo's guide from disk, on a phone and on a desk: no error, every
// picture loads, nothing hangs over the edge; and where it is there, axe-core finds nothing in light and dark.
func TestEveryPageOfTheGuide(t *testing.T) {
	var axe []byte
	if node := os.Getenv("ARCHETYP_NODE"); node != "" {
		var err error
		if axe, err = os.ReadFile(filepath.Join(node, "node_modules/axe-core/axe.min.js")); err != nil {
			t.Fatal(err)
		}
	}
	dir := demo(t)
	for _, width := range []int64{390, 1280} {
		t.Run(fmt.Sprint(width), func(t *testing.T) {
			t.Parallel()
			lookOver(t, string(axe), guidePages(t, dir), width)
		})
	}
}

// lookOver opens pages in a window of a width.
func lookOver(t *testing.T, axe string, pages []string, width int64) {
	t.Helper()
	ctx := chromium(t)
	if _, err := chromedp.Run(ctx, chromedp.Evaluate[int]("1")); err != nil {
		t.Fatal(err)
	}
	logged := complaints(t, ctx)
	defer func() {
		if list := logged(); len(list) > 0 {
			t.Errorf("the console says %q", list)
		}
	}()
	type violation struct{ ID, Help, Where string }
	for _, p := range pages {
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
		if axe == "" {
			continue
		}
		for _, scheme := range []string{"light", "dark"} {
			if scheme == "dark" && width < 1000 && !*long { // colours are the same in every width
				continue
			}
			found, err := chromedp.Run(ctx, chromedp.Evaluate[[]violation](fmt.Sprintf(`(async () => {
				document.documentElement.dataset.scheme = %q
				for (let i = 0; i < 100 && document.getElementById('bench') && !guide.data[document.getElementById('bench').dataset.data]; i++) await new Promise(r => setTimeout(r, 20))
				if (guide.screen) guide.screen.select(guide.screen.all.length - 1)
				if (!window.axe) { %s }
				const only = document.documentElement.dataset.scheme === 'dark' ? { runOnly: ['color-contrast', 'link-in-text-block'] } : {}
				const r = await axe.run(document, { resultTypes: ['violations'], ...only })
				return r.violations.flatMap(v => v.nodes.slice(0, 3).map(n => ({ ID: v.id, Help: v.help, Where: n.html.slice(0, 160) + ' ' + (n.any[0]?.message || '') })))
			})()`, scheme, axe), chromedp.EvalAwaitPromise))
			if err != nil {
				t.Fatal(err)
			}
			for _, v := range found {
				t.Errorf("%s at %d px, %s: %s: %s: %s", filepath.Base(p), width, scheme, v.ID, v.Help, v.Where)
			}
		}
	}
}
