package e2e

import (
	"context"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"archetyp/browser"
)

// verified is the output of code --verify --json.
type verified struct {
	Likeness float64
	Width    int
	Elements int
	Worst    struct {
		Element  string
		Likeness float64
	}
	Free []struct{ Selector, Why string }
}

// demoPages are the demo's screens.
var demoPages = []string{"booking", "timetable", "components", "poster"}

// pageSources is a copy of the demo with more drawings beside its own, and the screens that pages are written of: the
// demo's, and those drawn in other ways.
func pageSources(t testing.TB) (dir string, sources []string) {
	t.Helper()
	dir = filepath.Join(t.TempDir(), "demo")
	if err := os.CopyFS(dir, os.DirFS(demoFiles(t))); err != nil {
		t.Fatal(err)
	}
	sources = slices.Clone(demoPages)
	for _, pattern := range []string{"testdata/pages/*.svg", "testdata/screens/*.svg"} {
		files, err := filepath.Glob(pattern)
		if err != nil || len(files) == 0 {
			t.Fatal(err, files)
		}
		for _, f := range files {
			name := "page-" + strings.TrimSuffix(filepath.Base(f), ".svg")
			write(t, dir, filepath.Join("design", name+".svg"), read(t, f))
			sources = append(sources, name)
		}
	}
	return dir, sources
}

// openBrowser starts a browser for a test, and skips the test where there is none.
func openBrowser(t testing.TB) *browser.Browser {
	t.Helper()
	need(t, "chromium", "chromium-browser", "google-chrome")
	b, err := browser.Open(context.Background())
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { b.Close() })
	return b
}

// TestPages draws screens as pages in a browser and holds them against the drawings, in the window they were drawn for
// and in a narrow and a wide one: the demo's, and others with no groups, groups in groups, grounds apart from what
// stands on them, text line by line, parts by reference, tables, forms.
func TestPages(t *testing.T) {
	t.Parallel()
	b := openBrowser(t)
	dir, sources := pageSources(t)
	for _, s := range sources {
		like, worst := 0.92, 0.6
		if slices.Contains(demoPages, s) {
			like, worst = 0.95, 0.85
		}
		t.Run(s, func(t *testing.T) { checkPage(t, b, dir, s, like, worst) })
	}
	if node := os.Getenv("ARCHETYP_NODE"); node != "" {
		command(t, dir, "node", filepath.Join(node, "node_modules/html-validate/bin/html-validate.mjs"), "pages/*/index.html")
	}
}

// checkPage holds a page against its drawing, and looks at it in other windows, without pictures, and as an assistive
// technology does.
func checkPage(t *testing.T, b *browser.Browser, dir, source string, like, worst float64) {
	t.Helper()
	var v verified
	mustJSON(t, dir, &v, "code", source, "--as", "html", "--verify", "--within", "0")
	t.Logf("%.1f %% of %d elements, worst %.1f %% %s, %d free", 100*v.Likeness, v.Elements, 100*v.Worst.Likeness,
		v.Worst.Element, len(v.Free))
	if v.Likeness < like || v.Worst.Likeness < worst {
		t.Errorf("%.1f %%, worst %s with %.1f %%", 100*v.Likeness, v.Worst.Element, 100*v.Worst.Likeness)
	}
	out := filepath.Join(dir, "pages", source)
	must(t, dir, "code", source, "--as", "html", "-o", out, "--quiet")
	var idle []string // declarations that do nothing in any window so far
	var err error
	for i, w := range []int{v.Width, 320, 1920} {
		if err := b.Show("file://"+filepath.Join(out, "index.html"), w, 800, 1); err != nil {
			t.Fatal(err)
		}
		if i == 0 || len(idle) > 0 {
			if idle, err = browser.Ask[[]string](b, "("+wasted+")("+jsonText(t, idle)+")"); err != nil {
				t.Fatal(err)
			}
		}
		if i == 0 {
			continue // that it fits its own window is seen in the picture
		}
		faults, err := browser.Ask[[]string](b, cutOff)
		if err != nil {
			t.Fatal(err)
		}
		for _, f := range faults {
			t.Errorf("in a window of %d px: %s", w, f)
		}
	}
	for _, d := range idle {
		t.Errorf("%s does nothing", d)
	}
	unnamed, err := browser.Ask[[]string](b, withoutPictures)
	if err != nil {
		t.Fatal(err)
	}
	for _, u := range unnamed {
		t.Errorf("with its pictures blocked: %s", u)
	}
	if node := os.Getenv("ARCHETYP_NODE"); node != "" {
		axe, err := os.ReadFile(filepath.Join(node, "node_modules/axe-core/axe.min.js"))
		if err != nil {
			t.Fatal(err)
		}
		if _, err := browser.Ask[bool](b, string(axe)+"; true"); err != nil {
			t.Fatal(err)
		}
		list, err := browser.Ask[[]string](b, `axe.run({runOnly: ['wcag2a','wcag2aa','wcag21a','wcag21aa','best-practice'],
			rules: {'color-contrast': {enabled: false}}}).then(r =>
			r.violations.filter(v => v.id != 'page-has-heading-one' || document.body.innerText.trim()).flatMap(v => v.nodes.map(n => v.id + ': ' + n.html.slice(0, 120))))`)
		if err != nil {
			t.Fatal(err)
		}
		if len(list) > 0 {
			t.Errorf("axe: %s", strings.Join(list, "\n"))
		}
	}
}

// withoutPictures lists controls that nothing names once all pictures are gone.
const withoutPictures = `(() => {
  const named = e => e.getAttribute('aria-label') || e.textContent.trim() || e.labels && [...e.labels].some(l => l.textContent.trim());
  for (const i of document.querySelectorAll('img')) i.src = 'data:,';
  return [...document.querySelectorAll('button, a, input, select, textarea')].filter(e => !named(e)).map(e => e.outerHTML.slice(0, 100));
})()`

// cutOff lists what does not fit a window: words that reach out of it, lie over each other, or are cut off.
const cutOff = `(() => {
  const out = [], texts = [];
  const wide = document.documentElement.clientWidth;
  const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let n; n = walk.nextNode();) {
    if (!n.data.trim()) continue;
    const range = document.createRange(); range.selectNodeContents(n);
    for (const r of range.getClientRects()) texts.push([n.data.trim().slice(0, 30), r, n]);
  }
  for (const e of document.querySelectorAll('img, input, button, select, textarea'))
    if (getComputedStyle(e).position != 'absolute' && !e.closest('[style]')) {
      const r = e.getBoundingClientRect();
      if (r.right > wide + 1 || r.left < -1) out.push('<' + e.tagName.toLowerCase() + ' class="' + e.className + '"> reaches to ' + r.right);
    }
  for (const [s, r] of texts) if (r.right > wide + 1 || r.left < -1) out.push('“' + s + '” reaches to ' + Math.round(r.right));
  const ink = r => [r.left, r.top + r.height * .25, r.right, r.bottom - r.height * .25];
  for (let i = 0; i < texts.length; i++) for (let k = i + 1; k < texts.length; k++) {
    const a = ink(texts[i][1]), b = ink(texts[k][1]);
    if (texts[i][2] != texts[k][2] && Math.min(a[2], b[2]) - Math.max(a[0], b[0]) > 1 && Math.min(a[3], b[3]) - Math.max(a[1], b[1]) > 1)
      out.push('“' + texts[i][0] + '” lies over “' + texts[k][0] + '”');
  }
  return out.slice(0, 12);
})()`

// wasted lists declarations that could go: without them the computed style stays the same, and nothing moves.
//
// Only those of a list are looked at, where there is one.
const wasted = `only => {
  const out = [], all = [...document.querySelectorAll('body, body *')];
  const places = () => all.map(e => { const r = e.getBoundingClientRect(); return [r.x, r.y, r.width, r.height].map(v => v.toFixed(1)).join(); }).join(';');
  const look = e => { const s = getComputedStyle(e); let t = ''; for (const p of s) t += p + ':' + s.getPropertyValue(p) + ';'; return t; };
  // what browsers do by chance, or only in some windows: the ground of fields, the size of headings, offsets of 0
  const usual = (name, hit) => name == 'background' && hit.every(e => e.matches('input, select, textarea')) ||
    name == 'font-size' && hit.every(e => /^H/.test(e.tagName)) || hit.every(e => e.tagName == 'IMG') ||
    ['top', 'left', 'right'].includes(name) && hit.every(e => getComputedStyle(e).position == 'absolute');
  const walk = rules => { for (const rule of rules) {
    if (rule.cssRules && !rule.selectorText) { continue; }
    if (!rule.selectorText || rule.selectorText == ':root' || rule.selectorText.includes('[data-') || /::(before|placeholder)/.test(rule.selectorText)) continue;
    const hit = [...document.querySelectorAll(rule.selectorText)];
    if (!hit.length) { out.push(rule.selectorText + ' is for nothing'); continue; }
    const text = rule.style.cssText;
    const names = new Set(text.split(/;(?![^(]*\))/).map(d => d.split(':')[0].trim()).filter(Boolean));
    if (names.has('font-variant-caps')) for (const n of [...names]) if (n.startsWith('font-') || n == 'line-height') names.delete(n);
    if (!rule.style.length) out.push(rule.selectorText + ' is empty');
    for (const name of names) {
      const label = rule.selectorText + ' { ' + name + ' }';
      if (usual(name, hit) || only && !only.includes(label)) continue;
      const before = hit.map(look).join(), at = places();
      rule.style.removeProperty(name);
      const same = hit.map(look).join() == before;
      const still = places() == at;
      rule.style.cssText = text;
      if (same && still) out.push(label);
    }
  } };
  for (const sheet of document.styleSheets) walk(sheet.cssRules);
  return out;
}`
