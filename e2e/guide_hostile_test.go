package e2e

import (
	"encoding/json"
	"fmt"
	"html"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
)

// attacks are words that would run, or change the page, where they are taken for more than words.
var attacks = []string{
	`<script>hacked=1</script>`, `<img src=x onerror=hacked=1>`, `"><svg onload=hacked=1>`, `' onmouseover=hacked=1 x='`, `javascript:hacked=1`,
	`</style><script>hacked=1</script>`, `</script><script>hacked=1</script>`, `</title><script>hacked=1</script>`, `${hacked=1}`,
	`red;position:fixed;inset:0;z-index:9999`, `--><script>hacked=1</script>`, `*/ body{display:none} /*`, `\"]);hacked=1;//`, "`+(hacked=1)+`",
}

// hostileWorkspace says each of the attacks in every place where people write words: names, words, descriptions, marks,
// token names, values and styles.
func hostileWorkspace(t *testing.T) (dir string, cases int) {
	t.Helper()
	dir = t.TempDir()
	text := func(s string) string { return html.EscapeString(s) }
	tokens := map[string]any{}
	colors, types := map[string]any{}, map[string]any{}
	for i, a := range attacks {
		drawing := fmt.Sprintf(`<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="200" height="160" data-screen="Screen %d %s" data-group="%[2]s" onload="hacked=1">
<title>%[2]s</title><desc>%[2]s</desc><script>hacked=1</script><style>.a{fill:red} /* %[2]s */ @import "x.css";</style>
<a xlink:href="javascript:hacked=1"><rect width="200" height="160" fill="#fff" onclick="hacked=1"/></a>
<g data-label="%[2]s" data-component="part %[2]s" data-variant="%[2]s" data-state="%[2]s" data-behaviour="%[2]s" data-code="%[2]s" data-leads-to="%[2]s; on=%[2]s">
<rect width="80" height="30" rx="4" fill="#0b6e8f"/><text x="10" y="20" font-family="%[2]s" style="transition: %[2]s">%[2]s</text></g>
<g data-component="plain %[1]d" data-variant="%[2]s"><rect y="60" width="80" height="30" fill="#e4572e"/></g>
<circle data-asset="icons/dot-%[1]d" data-label="%[2]s" cx="150" cy="100" r="9"/><foreignObject width="9" height="9"><img xmlns="http://www.w3.org/1999/xhtml" src="x" onerror="hacked=1"/></foreignObject></svg>`, i, text(a))
		write(t, dir, fmt.Sprintf("design/d%d.svg", i), drawing)
		name := strings.NewReplacer(".", "", "{", "", "}", "", "$", "").Replace(a)
		colors[name] = map[string]any{"$type": "color", "$value": "#e4572e", "$description": a, "$deprecated": a}
		types[name] = map[string]any{"$type": "typography", "$description": a, "$value": map[string]any{"fontFamily": a, "fontSize": "16px", "fontWeight": 400, "letterSpacing": "0px", "lineHeight": 1.5}}
		cases += 16
	}
	tokens["color"], tokens["type"] = colors, types
	data, err := json.Marshal(tokens)
	if err != nil {
		t.Fatal(err)
	}
	write(t, dir, "tokens/all.tokens.json", string(data))
	quoted, _ := json.Marshal(attacks[5])
	write(t, dir, "archetyp.yaml", "name: "+string(quoted)+"\nsources: ['design/*.svg']\n")
	return dir, cases
}

// someOfEach are the pages at the top, and of every folder the first ones: all of them with -long.
func someOfEach(pages []string) (out []string) {
	count := map[string]int{}
	for _, p := range pages {
		folder := filepath.Base(filepath.Dir(p))
		if count[folder]++; *long || folder == "guide" || count[folder] <= 3 {
			out = append(out, p)
		}
	}
	return out
}

// TestHostileWordsStayWords opens every page of a guide in which all that people can write is an attack.
func TestHostileWordsStayWords(t *testing.T) {
	t.Parallel()
	dir, cases := hostileWorkspace(t)
	if r := run(t, dir, "sync"); r.status != 0 || cases < 60 {
		t.Fatalf("%d cases, status %d\n%s", cases, r.status, r.err)
	}
	ctx := chromium(t)
	if _, err := chromedp.Run(ctx, chromedp.Evaluate[int]("1")); err != nil {
		t.Fatal(err)
	}
	logged := complaints(t, ctx)
	for _, p := range someOfEach(guidePages(t, dir)) {
		open(t, ctx, p, 1280, 800, 1)
		bad, err := chromedp.Run(ctx, chromedp.Evaluate[[]string](`(async () => {
			const out = [], bench = document.getElementById('bench')
			for (let i = 0; i < 100 && bench && !guide.screen.all.length; i++) await new Promise(r => setTimeout(r, 10))
			if (bench) {
				for (let i = 0; i < guide.screen.all.length; i++) guide.screen.select(i)
				document.getElementById('tab-layers').click(); await guide.screen.toggle(0)
			}
			document.querySelectorAll('select').forEach(s => { for (const o of s.options) { s.value = o.value; s.dispatchEvent(new Event('change')) } })
			document.getElementById('find').click()
			await new Promise(r => setTimeout(r, 60))
			const input = document.querySelector('#search input'); input.value = 'script'; input.dispatchEvent(new Event('input'))
			document.querySelectorAll('main *').forEach(e => e.dispatchEvent(new MouseEvent('mouseover')))
			if (window.hacked) out.push('something ran')
			for (const s of document.scripts) if (!s.src || s.textContent) out.push('a script of its own: ' + s.outerHTML.slice(0, 80))
			for (const e of document.querySelectorAll('*')) for (const a of e.attributes) {
				if (/^on/i.test(a.name)) out.push('a handler: ' + e.outerHTML.slice(0, 80))
				if (/^(href|src|xlink:href)$/.test(a.name) && /^\s*javascript:/i.test(a.value)) out.push('an address: ' + a.value)
			}
			for (const e of document.querySelectorAll('main *, header *, nav *')) if (getComputedStyle(e).position === 'fixed') out.push('it lies over the page: ' + e.outerHTML.slice(0, 80))
			if (getComputedStyle(document.body).display !== 'grid') out.push('the body is ' + getComputedStyle(document.body).display)
			if (document.querySelectorAll('style').length > document.querySelectorAll('.canvas style').length) out.push('a style of its own')
			return out.slice(0, 5)
		})()`, chromedp.EvalAwaitPromise))
		if err != nil {
			t.Fatal(p, err)
		}
		for _, b := range bad {
			t.Errorf("%s: %s", filepath.Base(p), b)
		}
	}
	for _, c := range logged() {
		if !strings.Contains(c, "favicon") {
			t.Errorf("the console says %.200s", c)
		}
	}
}

// TestPolicyAloneStopsScripts puts the attacks into pages as they are, as if nothing were escaped: the policy of the page
// has none of them run. Without the policy they do.
func TestPolicyAloneStopsScripts(t *testing.T) {
	t.Parallel()
	dir, _ := hostileWorkspace(t)
	must(t, dir, "sync")
	ctx := chromium(t)
	ran := func(page string) bool {
		open(t, ctx, page, 1280, 800, 1)
		ok, err := chromedp.Run(ctx, chromedp.Evaluate[bool](`new Promise(r => setTimeout(() => r('hacked' in window), 150))`, chromedp.EvalAwaitPromise))
		if err != nil {
			t.Fatal(err)
		}
		return ok
	}
	unescaped := strings.NewReplacer("&lt;", "<", "&gt;", ">", "&#34;", `"`, "&#39;", "'", "&amp;", "&")
	n := 0
	for _, p := range someOfEach(guidePages(t, dir)) {
		data, err := os.ReadFile(p)
		if err != nil {
			t.Fatal(err)
		}
		head, body, _ := strings.Cut(string(data), "</head>")
		raw := head + "</head>" + unescaped.Replace(body)
		at := p[:len(p)-5] + ".raw.html"
		if err := os.WriteFile(at, []byte(raw), 0o644); err != nil {
			t.Fatal(err)
		}
		if ran(at) {
			t.Errorf("%s: an attack ran in spite of the policy", filepath.Base(p))
		}
		if n++; n > 6 {
			continue
		}
		without := strings.Replace(raw, `http-equiv="Content-Security-Policy"`, `name="no-policy"`, 1)
		if err := os.WriteFile(at, []byte(without), 0o644); err != nil {
			t.Fatal(err)
		}
		if strings.Contains(raw, "<script>hacked=1") && !ran(at) {
			t.Errorf("%s: the attack does not run without the policy either, so this proves nothing", filepath.Base(p))
		}
	}
}
