package e2e

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"image"
	"image/color"
	"io"
	"math"
	"math/rand/v2"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"archetyp/core/diff"

	"github.com/chromedp/cdproto/accessibility"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
)

// guideTab is a tab of a browser that shows a guide.
type guideTab struct {
	t    *testing.T
	ctx  context.Context
	base string // address of the guide, with a slash at its end
}

// openGuides gives the test a tab on the demo's guide from disk, and one on the served guide.
func openGuides(t *testing.T, test func(t *testing.T, g *guideTab, dir string)) {
	t.Helper()
	dir := demo(t)
	t.Run("file", func(t *testing.T) {
		t.Parallel()
		test(t, &guideTab{t, chromium(t), "file://" + filepath.ToSlash(dir) + "/guide/"}, dir)
	})
	t.Run("served", func(t *testing.T) {
		t.Parallel()
		address, r := serveGuide(t, dir)
		defer r.stop()
		test(t, &guideTab{t, chromium(t), address}, dir)
	})
}

// visit shows a page in a window of 1280 × 800, with its elements loaded.
func (g *guideTab) visit(page string) {
	g.t.Helper()
	err := chromedp.Do(g.ctx, chromedp.EmulateViewport(1280, 800), chromedp.Navigate("about:blank"), chromedp.Navigate(g.base+page))
	if err != nil {
		g.t.Fatal(page, err)
	}
	asked[bool](g, `document.fonts.ready.then(async () => {
		for (let i = 0; i < 200 && document.readyState !== 'complete'; i++) await new Promise(r => setTimeout(r, 10))
		const bench = document.getElementById('bench')
		for (let i = 0; i < 200 && (bench && !guide.screen.all.length || document.getElementById('variant') && !document.getElementById('code').textContent); i++) await new Promise(r => setTimeout(r, 10))
		return true
	})`)
}

// asked evaluates an expression in the page, and waits for what it promises.
func asked[T any](g *guideTab, expression string) T {
	g.t.Helper()
	v, err := chromedp.Run(g.ctx, chromedp.Evaluate[T](expression, chromedp.EvalAwaitPromise))
	if err != nil {
		g.t.Fatalf("%v in %s", err, expression)
	}
	return v
}

// want holds that an expression becomes true within a while.
func (g *guideTab) want(expression string) {
	g.t.Helper()
	for range 600 {
		ok, err := chromedp.Run(g.ctx, chromedp.Evaluate[bool](`(() => { try { return !!(`+expression+`) } catch (e) { return false } })()`))
		if err == nil && ok { // an error is one of a page that just loads again
			return
		}
		time.Sleep(20 * time.Millisecond)
	}
	state := asked[string](g, `document.getElementById('panel')?.innerText || document.body.innerText`)
	g.t.Errorf("never: %s\n%.700s", expression, state)
}

func (g *guideTab) mouse(kind input.DispatchMouseEventType, x, y float64, modifiers int64) {
	g.t.Helper()
	p := input.DispatchMouseEventParams{Type: kind, X: x, Y: y, Modifiers: modifiers}
	if kind != "mouseMoved" {
		p.Button, p.Buttons, p.ClickCount = "left", 1, 1
	}
	if _, err := chromedp.Call(g.ctx, input.DispatchMouseEvent, p); err != nil {
		g.t.Fatal(err)
	}
}

func (g *guideTab) click(x, y float64, modifiers int64) {
	g.t.Helper()
	g.mouse("mouseMoved", x, y, modifiers)
	g.mouse("mousePressed", x, y, modifiers)
	g.mouse("mouseReleased", x, y, modifiers)
}

// on is where a point of the screen is shown in the window.
func (g *guideTab) on(x, y float64) (float64, float64) {
	g.t.Helper()
	r := asked[[]float64](g, fmt.Sprintf(`(() => { const r = guide.screen.canvas.getBoundingClientRect(); return [r.left + %g / guide.screen.W * r.width, r.top + %g / guide.screen.H * r.height] })()`, x, y))
	return r[0], r[1]
}

// codes are the key codes of keys that are no letters.
var codes = map[string]int64{"Enter": 13, "Escape": 27, " ": 32, "ArrowLeft": 37, "ArrowUp": 38, "ArrowRight": 39, "ArrowDown": 40, "Tab": 9,
	"/": 191, "+": 187, "-": 189, "Home": 36}

// key presses and releases a key.
func (g *guideTab) key(name string, modifiers int64) {
	g.t.Helper()
	g.down(name, modifiers)
	g.up(name, modifiers)
}

func (g *guideTab) down(name string, modifiers int64) {
	g.t.Helper()
	p := input.DispatchKeyEventParams{Type: "keyDown", Key: name, Modifiers: modifiers, WindowsVirtualKeyCode: codes[name]}
	if len(name) == 1 && modifiers == 0 {
		p.Text = name
		if p.WindowsVirtualKeyCode == 0 {
			p.WindowsVirtualKeyCode = int64(strings.ToUpper(name)[0])
		}
	}
	if name == "Enter" {
		p.Text = "\r"
	}
	if _, err := chromedp.Call(g.ctx, input.DispatchKeyEvent, p); err != nil {
		g.t.Fatal(err)
	}
}

func (g *guideTab) up(name string, modifiers int64) {
	g.t.Helper()
	if _, err := chromedp.Call(g.ctx, input.DispatchKeyEvent, input.DispatchKeyEventParams{Type: "keyUp", Key: name, Modifiers: modifiers, WindowsVirtualKeyCode: codes[name]}); err != nil {
		g.t.Fatal(err)
	}
}

// write types words.
func (g *guideTab) write(words string) {
	g.t.Helper()
	if _, err := chromedp.Call(g.ctx, input.InsertText, input.InsertTextParams{Text: words}); err != nil {
		g.t.Fatal(err)
	}
}

const selectedName = `guide.screen.all[guide.screen.selected]?.s`

// TestMeasuringAScreen points, selects, walks, drags, zooms, hides and picks on the page of a screen.
func TestMeasuringAScreen(t *testing.T) {
	openGuides(t, func(t *testing.T, g *guideTab, dir string) {
		g.visit("screens/booking.html")
		// a pointer shows the box, a click selects the group, another goes deeper
		x, y := g.on(60, 390)
		g.mouse("mouseMoved", x, y, 0)
		g.want(`document.querySelector('.mark b').textContent === '358px × 171px'`)
		g.click(x, y, 0)
		g.want(selectedName + ` === '#passengers'`)
		g.click(x, y, 0)
		g.want(selectedName + ` === '#adults'`)
		g.key("Escape", 0)
		g.want(selectedName + ` === '#passengers'`)
		g.key("Enter", 0)
		g.key("ArrowRight", 0)
		g.want(selectedName + ` === '#adults'`)
		g.click(x, y, 2)
		g.want(`guide.screen.all[guide.screen.selected].t === 'Adults'`)
		// facts with their tokens and how they are known; the words and the code
		g.want(`/Hanken Grotesk/.test(about.innerText) && /derived/.test(about.innerText) && /stated/.test(about.innerText) && /font: var\(--type/.test(about.querySelector('pre').textContent)`)
		g.visit("screens/booking.html#booking%2Fpay")
		g.want(selectedName + ` === '#pay' && /radius\.l|12px/.test(about.innerText)`)
		// the distance to what is pointed at, in px, in the unit and per cent
		asked[bool](g, `guide.screen.select(guide.screen.all.findIndex(e => e.s === '#trip-card')), true`)
		x, y = g.on(60, 390)
		g.mouse("mouseMoved", x, y, 0)
		g.want(`/gap down\s+25px\s+2.96 %/.test(distance.innerText) && [...document.querySelectorAll('.gap b')].some(b => b.textContent === '25px')`)
		asked[bool](g, `(unit.value = 'rem', unit.dispatchEvent(new Event('change')), true)`)
		g.want(`/gap down\s+1.5625rem/.test(distance.innerText)`)
		asked[bool](g, `(unit.value = 'px', unit.dispatchEvent(new Event('change')), true)`)
		// a click copies a number with its unit
		asked[bool](g, `[...distance.querySelectorAll('button')].find(b => b.textContent === '25px').click(), true`)
		g.want(`guide.copied === '25px' && document.getElementById('toast').textContent === 'Copied 25px'`)
		// an area
		x, y = g.on(20, 130)
		to, down := g.on(120, 180)
		g.mouse("mouseMoved", x, y, 0)
		g.mouse("mousePressed", x, y, 0)
		if _, err := chromedp.Call(g.ctx, input.DispatchMouseEvent, input.DispatchMouseEventParams{Type: "mouseMoved", X: to, Y: down, Buttons: 1, Button: "left"}); err != nil {
			t.Fatal(err)
		}
		g.want(`document.querySelector('.mark.area b').textContent === '100px × 50px'`)
		g.mouse("mouseReleased", to, down, 0)
		// gaps of the container while G is held
		asked[bool](g, `guide.screen.select(guide.screen.all.findIndex(e => e.s === '#passengers')), guide.screen.canvas.focus(), true`)
		g.down("g", 0)
		g.want(`[...document.querySelectorAll('.gap b')].some(b => b.textContent === '8px')`)
		g.up("g", 0)
		g.want(`!document.querySelector('.gap')`)
		// zoom
		g.key("1", 0)
		g.want(`zoom.textContent === '100 %'`)
		g.key("+", 0)
		g.want(`zoom.textContent === '125 %' && Math.abs(guide.screen.canvas.getBoundingClientRect().width - 487.5) < 1`)
		g.key("0", 0)
		g.want(`zoom.textContent === '100 %'`)
		// layers, switched off and on
		asked[bool](g, `document.getElementById('tab-layers').click(), true`)
		g.want(`document.querySelectorAll('#tree [role=treeitem]').length > 3 && document.querySelector('#tree [aria-selected=true]').innerText.includes('passengers')`)
		asked[bool](g, `(document.querySelector('#tree [aria-selected=true] .eye').dispatchEvent(new MouseEvent('click', { bubbles: true })), true)`)
		g.want(`guide.screen.canvas.querySelector('svg').style.display === '' && guide.screen.canvas.querySelector('[data-e="' + guide.screen.selected + '"], [style*=none]').style.display === 'none'`)
		asked[bool](g, `document.getElementById('all-on').click(), true`)
		g.want(`guide.screen.canvas.querySelector('svg').style.display === 'none'`)
		// a colour picked from a pixel
		asked[bool](g, `guide.screen.select(guide.screen.all.findIndex(e => e.s === '#pay')), guide.screen.canvas.focus(), true`)
		g.key("c", 0)
		g.want(`/^#/.test(document.getElementById('picked').textContent)`)
		x, y = g.on(30, 776)
		g.click(x, y, 0)
		g.want(`guide.copied === '#0b6e8f'`)
		g.key("Escape", 0)
		// what it uses, and where
		asked[bool](g, `document.getElementById('tab-uses').click(), document.querySelector('.spot').click(), true`)
		g.want(`document.querySelectorAll('.mark.also').length === JSON.parse(document.querySelector('.spot').dataset.at).length`)
		// the words in another language
		asked[bool](g, `(document.getElementById('tab-texts').click(), language.value = 'de', language.dispatchEvent(new Event('change')), true)`)
		g.want(`[...document.querySelectorAll('.keys-of .copy:not([hidden])')].every(b => b.lang === 'de') && document.querySelector('.keys-of').innerText.includes('Fahrrad')`)
	})
}

// TestDistancesAreMeasures holds the distances on the pages against those of the command, in random pairs: 80, or 200
// with -long.
func TestDistancesAreMeasures(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	g := &guideTab{t, chromium(t), "file://" + filepath.ToSlash(dir) + "/guide/"}
	r := rand.New(rand.NewPCG(19, 1))
	pairs := 20
	if *long {
		pairs = 50
	}
	type shown struct {
		A, B string
		Rows map[string]float64
	}
	for page, source := range map[string]string{"booking": "booking", "timetable": "timetable", "components": "components", "boarding-pass": "boarding-pass"} {
		g.visit("screens/" + page + ".html")
		n := asked[int](g, `guide.screen.all.length`)
		for range pairs {
			a, b := r.IntN(n), r.IntN(n)
			got := asked[shown](g, fmt.Sprintf(`(() => {
				const s = guide.screen, press = k => s.canvas.dispatchEvent(new KeyboardEvent('keydown', { key: k }))
				s.select(%d); press('m'); s.select(%d)
				const rows = {}
				document.querySelectorAll('#distance tr').forEach(r => { rows[r.cells[0].textContent] = +r.querySelector('button').dataset.px })
				press('m')
				return { A: s.all[%[1]d].s, B: s.all[%[2]d].s, Rows: rows }
			})()`, a, b))
			if a == b {
				continue
			}
			var want struct {
				Gaps    map[string]struct{ Px float64 }
				Offsets map[string]struct{ Px float64 }
			}
			out := run(t, dir, "measure", source, got.A, got.B, "--json")
			if out.status != 0 || json.Unmarshal([]byte(out.out), &want) != nil {
				t.Fatal(out.err)
			}
			compared := 0
			for name, px := range got.Rows {
				kind, which, _ := strings.Cut(name, " ")
				w, ok := want.Offsets[which]
				if kind == "gap" {
					w, ok = want.Gaps[which]
				}
				if kind == "inset" {
					continue
				}
				compared++
				if !ok || math.Abs(px-w.Px) > 1e-3 {
					t.Errorf("%s: %s to %s: %s is %g, measure says %g", page, got.A, got.B, name, px, w.Px)
				}
			}
			if compared != 8 {
				t.Errorf("%s to %s: %d distances", got.A, got.B, compared)
			}
		}
	}
}

// TestFindingAndSwitching searches with a typing mistake, follows deep links, switches contexts, units and notations, and
// plays the flows.
func TestFindingAndSwitching(t *testing.T) {
	openGuides(t, func(t *testing.T, g *guideTab, dir string) {
		g.visit("index.html")
		g.key("/", 0)
		g.want(`document.getElementById('search').open`)
		g.write("corla")
		g.want(`document.querySelector('[role=option] .name').textContent === 'color.coral.500'`)
		g.key("Enter", 0)
		g.want(`location.href.endsWith('colours.html#color.coral.500') && document.querySelector(':target').innerText.includes('--color-coral-500')`)
		for words, want := range map[string]string{"pasengers": "Passengers", "buton quiet hover": "button tone=quiet hover", "anchr": "icons/anchor",
			"timetable wide": "Timetable wide"} {
			g.visit("screens/booking.html")
			g.key("k", 2)
			g.want(`document.getElementById('search')?.open`)
			g.write(words)
			g.want(fmt.Sprintf(`[...document.querySelectorAll('[role=option] .name')].slice(0, 5).some(n => n.textContent === %q)`, want))
		}
		g.visit("colours.html")
		colour := `getComputedStyle(document.querySelector('[id="color.text.default"] .copy')).getPropertyValue('--color-text-default').trim()`
		light := asked[string](g, colour)
		asked[bool](g, `(() => { const s = document.querySelector('select.context'); s.value = 'dark'; s.dispatchEvent(new Event('change')); return true })()`)
		if dark := asked[string](g, colour); dark == light {
			t.Errorf("text is %s in light and dark", light)
		}
		asked[bool](g, `(notation.value = '2', notation.dispatchEvent(new Event('change')), true)`)
		g.want(`[...document.querySelectorAll('[data-notations]')].every(b => b.textContent.startsWith('oklch('))`)
		g.visit("components/button.html#tone-quiet-hover") // and what was chosen is remembered
		g.want(`document.documentElement.getAttribute('data-in-scheme') === 'dark' && state.value === 'tone-quiet-hover' && variant.value === 'tone=quiet'`)
		g.visit("flows.html")
		asked[bool](g, `document.getElementById('play').click(), true`)
		g.want(`document.getElementById('player').open && document.querySelectorAll('.playing button').length > 0`)
		first := asked[string](g, `document.getElementById('playing-name').textContent`)
		asked[bool](g, `document.querySelector('.playing button').click(), true`)
		g.want(`document.getElementById('playing-name').textContent !== ` + fmt.Sprintf("%q", first))
		asked[bool](g, `document.getElementById('back').click(), true`)
		g.want(`document.getElementById('playing-name').textContent === ` + fmt.Sprintf("%q", first))
		g.visit("type.html")
		asked[bool](g, `(sample.value = 'Ahoy', sample.dispatchEvent(new Event('input')), true)`)
		g.want(`[...document.querySelectorAll('.samples .sample')].every(s => s.textContent === 'Ahoy')`)
		g.visit("screens.html")
		asked[bool](g, `document.querySelector('[data-filter="width=desktop"]').click(), true`)
		g.want(`[...document.querySelectorAll('.thumbs li:not([hidden])')].length === 2`)
	})
}

// TestDownloads follows every link to a file of an asset, and opens the one with all of them.
func TestDownloads(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	address, r := serveGuide(t, dir)
	defer r.stop()
	g := &guideTab{t, chromium(t), address}
	g.visit("assets.html")
	links := asked[[]string](g, `[...document.querySelectorAll('a[download]')].map(a => a.getAttribute('href'))`)
	if len(links) < 80 {
		t.Fatal(len(links))
	}
	for _, l := range links {
		res, err := http.Get(address + l)
		if err != nil {
			t.Fatal(err)
		}
		served, err := io.ReadAll(res.Body)
		res.Body.Close()
		onDisk, err2 := os.ReadFile(filepath.Join(dir, "guide", filepath.FromSlash(l)))
		if err != nil || err2 != nil || res.StatusCode != 200 || !bytes.Equal(served, onDisk) {
			t.Errorf("%s: %d, %v, %v", l, res.StatusCode, err, err2)
		}
		if strings.HasSuffix(l, ".zip") {
			z, err := zip.NewReader(bytes.NewReader(onDisk), int64(len(onDisk)))
			if err != nil || len(z.File) < 80 {
				t.Errorf("%s: %v", l, err)
			}
		}
	}
}

// TestLiveComponents holds each component as it lives on its page against its picture there.
func TestLiveComponents(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	g := &guideTab{t, chromium(t), "file://" + filepath.ToSlash(dir) + "/guide/"}
	pages, err := filepath.Glob(filepath.Join(dir, "guide/components/*.html"))
	if err != nil || len(pages) < 10 {
		t.Fatal(len(pages), err)
	}
	n, sum := 0, 0.0
	ground := color.RGBA{251, 251, 249, 255} // that both lie on
	for _, p := range pages {
		g.visit("components/" + filepath.Base(p))
		if err := chromedp.Do(g.ctx, chromedp.EmulateViewport(3400, 1200, chromedp.EmulateScale(2))); err != nil {
			t.Fatal(err)
		}
		for _, id := range asked[[]string](g, `[...variant.options].flatMap(v => { variant.value = v.value; variant.dispatchEvent(new Event('change')); return [...state.options].map(o => o.value) })`) {
			type boxes struct{ Drawn, Live [4]float64 }
			b := asked[boxes](g, fmt.Sprintf(`(async () => {
				location.hash = %q
				for (let i = 0; i < 100 && state.value !== %[1]q; i++) await new Promise(r => setTimeout(r, 10))
				document.querySelector('.pair-of').style = 'position: fixed; inset: 0; z-index: 99; background: #fbfbf9; grid-template-columns: 1700px 1700px'
				await document.querySelector('#drawn img').decode()
				scrollTo(0, 0)
				await new Promise(r => requestAnimationFrame(() => requestAnimationFrame(r)))
				const box = e => { const r = e.getBoundingClientRect(); return [r.x, r.y, r.width, r.height] }
				return { Drawn: box(document.getElementById('drawn')), Live: box(document.getElementById('live')) }
			})()`, id))
			part := func(b [4]float64) *image.RGBA {
				fast := true
				shot, err := chromedp.Call(g.ctx, page.CaptureScreenshot, page.CaptureScreenshotParams{OptimizeForSpeed: &fast,
					Clip: &page.Viewport{X: math.Round(b[0]), Y: math.Round(b[1]), Width: math.Round(b[2]), Height: math.Round(b[3]), Scale: 1}})
				if err != nil {
					t.Fatal(err)
				}
				return onWhite(decode(t, shot.Data))
			}
			drawn, live := part(b.Drawn), part(b.Live)
			if math.Abs(b.Drawn[2]-b.Live[2]) > 1.01 || math.Abs(b.Drawn[3]-b.Live[3]) > 1.01 {
				t.Errorf("%s: %v drawn, %v live", id, b.Drawn, b.Live)
			}
			like, ok := diff.Likeness(drawn, live, drawn.Rect.Intersect(live.Rect), ground, 32)
			if !ok {
				continue
			}
			n++
			sum += like
			if like < 0.9 {
				t.Errorf("%s %s: likeness %.4f", filepath.Base(p), id, like)
			}
			t.Logf("%s %s %.4f", filepath.Base(p), id, like)
		}
	}
	if n < 30 || sum/float64(n) < 0.98 {
		t.Errorf("the mean of %d is %.4f, want 0.98", n, sum/float64(n))
	}
	t.Logf("%d live components: %.4f", n, sum/float64(n))
}

// TestGuideByKeyboard does every act of a screen's page, of search and of the layers with keys alone, and sees the focus
// all the way.
func TestGuideByKeyboard(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	g := &guideTab{t, chromium(t), "file://" + filepath.ToSlash(dir) + "/guide/"}
	g.visit("screens/booking.html")
	visible := `(() => { const e = document.activeElement, s = getComputedStyle(e); return e === document.body || parseFloat(s.outlineWidth) > 0 && s.outlineStyle !== 'none' || e.getAttribute('role') === 'treeitem' && parseFloat(getComputedStyle(e.firstElementChild).outlineWidth) > 0 })()`
	reached := map[string]bool{}
	for i := 0; i < 150 && !reached["canvas"]; i++ {
		g.key("Tab", 0)
		if !asked[bool](g, visible) {
			t.Errorf("no focus to be seen on %s", asked[string](g, `document.activeElement.outerHTML.slice(0, 120)`))
		}
		reached[asked[string](g, `document.activeElement.id || document.activeElement.className`)] = true
	}
	for _, id := range []string{"skip", "find", "unit", "scheme", "zoom-in", "pick", "gaps", "pin", "keys", "canvas"} {
		if !reached[id] {
			t.Errorf("Tab never comes to %s", id)
		}
	}
	g.key("ArrowDown", 0)
	g.want(`guide.screen.selected >= 0`)
	for range 3 {
		g.key("ArrowDown", 0)
	}
	g.key("m", 0)
	g.key("ArrowDown", 0)
	g.want(`/gap down/.test(distance.innerText)`)
	g.key("m", 0)
	g.key("c", 0)
	g.want(`document.getElementById('picked')`)
	g.key("ArrowRight", 8)
	g.key("Enter", 0)
	g.want(`/^#/.test(guide.copied)`)
	g.key("Escape", 0)
	g.key("h", 0)
	g.want(`guide.screen.hidden.size > 0`)
	g.key("h", 0)
	g.want(`guide.screen.hidden.size === 0`)
	asked[bool](g, `document.getElementById('tab-facts').focus(), true`)
	g.key("ArrowRight", 0)
	g.want(`!document.getElementById('layers').hidden && document.activeElement.id === 'tab-layers'`)
	g.key("Tab", 0)
	g.key("Tab", 0)
	g.want(`document.activeElement.getAttribute('role') === 'treeitem'`)
	g.key("Home", 0)
	for i := 0; i < 9 && !asked[bool](g, `document.activeElement.getAttribute('aria-expanded') === 'false'`); i++ {
		g.key("ArrowDown", 0)
	}
	g.key("ArrowRight", 0)
	g.want(`document.activeElement.getAttribute('aria-expanded') === 'true'`)
	if !asked[bool](g, visible) {
		t.Error("the focus in the tree cannot be seen")
	}
	g.key(" ", 0)
	g.want(`guide.screen.hidden.size > 0`)
	g.key("Enter", 0)
	g.want(`guide.screen.selected === +document.activeElement.dataset.i`)
}

// TestNamesInTheAccessibilityTree asks the browser for the names that a screen reader would say.
func TestNamesInTheAccessibilityTree(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	ctx := chromium(t)
	for page, wants := range map[string][]string{
		"screens/booking.html":   {"group Booking: select elements with the arrow keys", "tab Facts", "button pick colour", "navigation Pages", "combobox unit", "image Booking"},
		"components/button.html": {"combobox variant", "slider width", "tablist Language", "region Variants and states", "image tone=main hover"},
		"index.html":             {"button Search /", "heading Tern & Tide", "link Colours", "navigation Previous and next page"},
	} {
		g := &guideTab{t, ctx, "file://" + filepath.ToSlash(dir) + "/guide/"}
		g.visit(page)
		names := accessibleNames(t, ctx)
		for _, want := range wants {
			if !strings.Contains(names, want) {
				t.Errorf("%s: nothing is called %q in\n%.3000s", page, want, names)
			}
		}
	}
}

// accessibleNames are the roles and names of all that a screen reader finds on a page, a line each.
func accessibleNames(t *testing.T, ctx context.Context) string {
	t.Helper()
	tree, err := chromedp.Call(ctx, accessibility.GetFullAXTree, accessibility.GetFullAXTreeParams{})
	if err != nil {
		t.Fatal(err)
	}
	var out strings.Builder
	for _, n := range tree.Nodes {
		if n.Ignored || n.Role == nil || n.Name == nil {
			continue
		}
		var role, name string
		if json.Unmarshal(n.Role.Value, &role) != nil || json.Unmarshal(n.Name.Value, &name) != nil {
			continue
		}
		fmt.Fprintf(&out, "%s %s\n", role, name)
	}
	return out.String()
}
