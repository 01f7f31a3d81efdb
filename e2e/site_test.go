package e2e

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/png"
	"io/fs"
	"math"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"archetyp/browser"

	"github.com/chromedp/chromedp"
)

// serveSite serves the demo's site and gives its address.
func serveSite(t testing.TB) string {
	t.Helper()
	files := os.DirFS(demoFiles(t))
	s := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		name := strings.TrimPrefix(r.URL.Path, "/")
		if !strings.HasPrefix(name, "fonts/") {
			name = "site/" + name
		}
		if strings.HasSuffix(name, "/") {
			name += "index.html"
		}
		if _, err := fs.Stat(files, name); err != nil {
			http.NotFound(w, r)
			return
		}
		data, _ := fs.ReadFile(files, name)
		w.Header().Set("ETag", fmt.Sprintf(`"%x"`, len(data)))
		http.ServeContent(w, r, name, time.Time{}, strings.NewReader(string(data)))
	}))
	t.Cleanup(s.Close)
	return s.URL + "/"
}

// siteWorkspace is a demo whose site is served.
func siteWorkspace(t testing.TB) (dir, address string) {
	t.Helper()
	dir, address = demo(t), serveSite(t)
	change(t, dir, "archetyp.yaml", "http://127.0.0.1:8085/", address)
	return dir, address
}

// TestPagesAnswer asks a page on disk and a live one what drawings are asked.
func TestPagesAnswer(t *testing.T) {
	dir, address := siteWorkspace(t)
	for _, source := range []string{"site/index.html", address} {
		says(t, dir, "outline "+source, "Timetable", "sailing", "“On time”")
		says(t, dir, "spec "+source+" .badge-warn", "background-color #fdeed3", "var(--color-warn-quiet)", "stated rule .badge-warn, site.css:")
		if r := must(t, dir, "spec", source, ".sailing", "--value", "border-radius"); r.out != "14px\n14px\n14px\n" {
			t.Errorf("%q", r.out)
		}
		if r := run(t, dir, "measure", source, ".sailing"); r.status != 2 || !strings.Contains(r.err, "--browser") {
			t.Errorf("%d %s", r.status, r.err)
		}
	}
	says(t, dir, "code site/booking.html .button", ".button.button-wide.button-pay {", "background: #0c6f91;")
	says(t, dir, "text collect site/booking.html", "Travellers", "How many?", "booking.pay")
	if r := must(t, dir, "spec", "site/index.html", "h1", "--value", "font-size", "--viewport", "390x844"); r.out != "31px\n" {
		t.Error(r.out)
	}
	if r := must(t, dir, "spec", "site/index.html", "body", "--computed", "--only", "background-color", "--scheme", "dark", "--json"); !strings.Contains(r.out, "rgb(11, 26, 38)") {
		t.Error(r.out)
	}
	for args, want := range map[string]string{
		"spec site/index.html h1 --viewport wide":              "a width and a height",
		"spec site/index.html h1 --scheme sepia":               "light or dark",
		"spec site/index.html h1 --computed --only colour":     "there is no such property",
		"spec site/index.html --why color":                     "need a SELECTOR",
		"spec booking #pay --computed":                         "is a drawing",
		"outline http://127.0.0.1:1/":                          "nobody answers there",
		"outline https://":                                     "is no address",
		"spec site/index.html h1 --why colr":                   "Did you mean color?",
		"tokens harvest site/index.html --as less":             "css is known",
		"capture no-such":                                      "there is no site of that name",
		"init x --site http://127.0.0.1:1/":                    "no such folder",
		"spec site/index.html .nothing-here --computed --json": "nothing matches",
	} {
		if r := run(t, dir, strings.Fields(args)...); r.status != 2 || !strings.Contains(r.err, want) {
			t.Errorf("%s: %d %s", args, r.status, r.err)
		}
	}
}

// TestRulesAndReasons asks which rules mean an element, and why one wins.
func TestRulesAndReasons(t *testing.T) {
	dir := demo(t)
	var why struct {
		Elements []struct {
			Selector, Value string
			Declarations    []struct {
				Value, Selector, Lost, Kind string
				Place                       struct {
					File string
					Line int
				}
				Variables []struct{ Property, Value string }
			}
		}
	}
	mustJSON(t, dir, &why, "spec", "site/booking.html", "form .button", "--why", "background-color")
	d := why.Elements[0].Declarations
	if why.Elements[0].Value != "rgb(12, 111, 145)" || d[0].Selector != ".button" || d[0].Place.File != "site/css/site.css" || d[0].Place.Line != 119 ||
		d[len(d)-1].Kind != "browser" || d[len(d)-1].Lost == "" {
		t.Errorf("%+v", why)
	}
	if v := why.Elements[1].Declarations[0]; v.Selector != ".button-quiet" || len(v.Variables) != 1 || v.Variables[0].Property != "--color-raised" || v.Variables[0].Value != "var(--color-white)" {
		t.Errorf("%+v", v)
	}
	says(t, dir, "spec site/booking.html .button-quiet --rules", ".button-quiet", "site.css:", ".button", "background: #0c6f91", "the browser")
}

// TestCapture reads a site into its folder: the same site gives the same bytes, and what is there answers offline.
func TestCapture(t *testing.T) {
	dir, address := siteWorkspace(t)
	says(t, dir, "capture ferry-site", "pages 3", "11 files written")
	before := tree(t, filepath.Join(dir, "captures"))
	says(t, dir, "capture ferry-site", "nothing had changed")
	validJSON(t, "capture", must(t, dir, "capture", "ferry-site", "--json").out)
	validJSON(t, "capture-file", read(t, dir, "captures/ferry-site/capture.json"))
	if after := tree(t, filepath.Join(dir, "captures")); fmt.Sprint(after) != fmt.Sprint(before) {
		t.Error("the same site gave other bytes")
	}
	if before["ferry-site/sheets/site.css"] != read(t, demoFiles(t), "site/css/site.css") {
		t.Error("a sheet is not as it came")
	}
	change(t, dir, "archetyp.yaml", address, "http://127.0.0.1:1/") // nobody is there any more
	says(t, dir, "outline ferry-site", "Timetable", "Your trip", "Boarding pass")
	says(t, dir, "assets list ferry-site", "icon icon.svg svg 64 × 64 px", "inline in the page", "font HankenGrotesk-Regular.ttf")
	says(t, dir, "outline ferry-site --alike", "3 alike", "class sailing")
	says(t, dir, "tokens harvest ferry-site", "#0c6f91 1 near color.sea.600", "7px 1 near space.8", "4 of them near one", "color.coral.500")
	says(t, dir, "spec captures/ferry-site .badge-good", "background-color #dff2e6")
	change(t, dir, "archetyp.yaml", "design/*.ora", "design/*.ora\n  - captures/*/capture.json")
	must(t, dir, "sync")
	if r := run(t, dir, "sync", "--check"); r.status != 0 {
		t.Errorf("%d %s%s", r.status, r.out, r.err)
	}
	for name, content := range map[string]string{"a broken capture": "{\"capture\": 1,", "another version": `{"capture": 7}`, "without pages": `{"capture": 1, "pages": []}`, "with a page that is gone": `{"capture": 1, "pages": [{"file": "pages/none.html"}]}`} {
		write(t, dir, "captures/other/capture.json", content)
		if r := run(t, dir, "outline", "captures/other/capture.json"); r.status != 2 || !strings.Contains(r.err, "captures/other/capture.json:1:") {
			t.Errorf("%s: %d %s", name, r.status, r.err)
		}
	}
}

// TestACaptureThatFailsWritesNothing holds that the folder stays as it was.
func TestACaptureThatFailsWritesNothing(t *testing.T) {
	var broken atomic.Bool
	s := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		if broken.Load() {
			http.Error(w, "no", http.StatusInternalServerError)
			return
		}
		w.Header().Set("Content-Type", "text/html")
		fmt.Fprint(w, "<title>x</title><link rel=stylesheet href=a.css><p>x")
	}))
	defer s.Close()
	dir := t.TempDir()
	write(t, dir, "archetyp.yaml", "name: W\nsites: [{name: s, url: \""+s.URL+"\", headers: {X-Secret: \"env:FERRY_SECRET\"}}]\n")
	if r := run(t, dir, "capture"); r.status != 2 || !strings.Contains(r.err, "FERRY_SECRET, which is not set") {
		t.Errorf("%d %s", r.status, r.err)
	}
	t.Setenv("FERRY_SECRET", "tern-and-tide-secret")
	must(t, dir, "capture")
	before := tree(t, dir)
	for name, data := range before {
		if strings.Contains(data, "tern-and-tide-secret") {
			t.Errorf("%s holds the secret", name)
		}
	}
	broken.Store(true)
	if r := run(t, dir, "capture"); r.status != 2 || !strings.Contains(r.err, "500") {
		t.Errorf("%d %s", r.status, r.err)
	}
	if after := tree(t, dir); fmt.Sprint(after) != fmt.Sprint(before) {
		t.Error("something was written")
	}
}

// TestInitFromASite begins a workspace from an address in one command.
func TestInitFromASite(t *testing.T) {
	address, dir := serveSite(t), t.TempDir()
	r := must(t, dir, "init", "--site", address, "--harvest", "--follow", "5", "--name", "ferry")
	if !strings.Contains(r.err, "37 tokens under their own names, 4 kept as CSS text") {
		t.Error(r.err)
	}
	sheet := read(t, dir, "dist/tokens.css")
	for _, want := range []string{"--color-sea-600: #0b6e8f;", "--color-text: var(--color-ink-900);", "--shadow-card: 0 4px 16px rgb(16 36 58 / 0.1);",
		"@media (prefers-color-scheme: dark) {\n  :root {\n    --color-ink-900: #e9eff4;", "--size-title: 40px;"} {
		if !strings.Contains(sheet, want) {
			t.Errorf("no %q in\n%s", want, sheet)
		}
	}
	if r := run(t, dir, "sync", "--check"); r.status != 0 {
		t.Errorf("%s%s", r.out, r.err)
	}
	if read(t, dir, "guide/index.html") == "" || !strings.Contains(read(t, dir, "text/en.json"), "Boarding ends five minutes before.") || strings.Contains(read(t, dir, "text/en.json"), "TT 2041") {
		t.Error("guide or texts are missing, or what is not to be translated is there")
	}
	if r := run(t, dir, "init", "--site", address); r.status != 2 || !strings.Contains(r.err, "is there already") {
		t.Errorf("%d %s", r.status, r.err)
	}
}

// TestInABrowser holds boxes, pictures and turned elements against the browser itself.
func TestInABrowser(t *testing.T) {
	need(t, "chromium", "chromium-browser", "google-chrome")
	dir, _ := siteWorkspace(t)
	write(t, dir, "turned.html", `<!doctype html><style>body{margin:0} div{position:absolute;left:50.25px;top:40.5px;width:100.5px;height:40.25px;box-sizing:border-box;padding:3px;border:2px solid;transform:rotate(30deg) scale(1.5)} section{transform:rotate(-10deg)}</style><section><div id=a>x</div></section><p id=p>x<script>document.body.append(Object.assign(document.createElement('b'),{id:'made',textContent:'by a script'}))</script>`)
	if r := must(t, dir, "outline", "turned.html", "--browser"); !strings.Contains(r.out, "by a script") || strings.Contains(must(t, dir, "outline", "turned.html").out, "by a script") {
		t.Error(r.out)
	}
	var spec struct {
		Elements []struct {
			Boxes struct {
				Geometry, Layout struct{ X, Y, Width, Height float64 }
			}
		}
	}
	mustJSON(t, dir, &spec, "spec", "turned.html", "#a", "--browser")
	ctx := chromium(t)
	open(t, ctx, filepath.Join(dir, "turned.html"), 1280, 800, 1)
	b := spec.Elements[0].Boxes
	if math.Abs(b.Layout.Width-100.5) > 0.01 || math.Abs(b.Layout.Height-40.25) > 0.01 {
		t.Errorf("its own box: %+v", b.Layout)
	}
	theirs := evaluate[[]float64](t, ctx, `(() => { const r = document.getElementById('a').getBoundingClientRect(); return [r.x, r.y, r.width, r.height] })()`)
	for i, v := range []float64{b.Geometry.X, b.Geometry.Y, b.Geometry.Width, b.Geometry.Height} {
		if math.Abs(v-theirs[i]) > 0.01 {
			t.Errorf("%v, not %v", b.Geometry, theirs)
		}
	}
	says(t, dir, "capture ferry-site --browser", "views in a browser 12")
	validJSON(t, "capture-file", read(t, dir, "captures/ferry-site/capture.json"))
	says(t, dir, "measure ferry-site .sailing:nth-child(1) .sailing:nth-child(2)", "gap across 24 px")
	must(t, dir, "render", "ferry-site", "-o", "page.png")
	own, err := browser.Open(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	defer own.Close()
	if err := own.Show("file://"+filepath.Join(dir, "site/index.html"), 1280, 800, 1); err != nil {
		t.Fatal(err)
	}
	pic, err := own.Picture()
	if err != nil {
		t.Fatal(err)
	}
	ours, differ := decode(t, []byte(read(t, dir, "page.png"))), 0
	for y := range 800 {
		for x := range 1280 {
			r, g, bl, _ := ours.At(x, y).RGBA()
			R, G, B, _ := pic.At(x, y).RGBA()
			if r>>8 != R>>8 || g>>8 != G>>8 || bl>>8 != B>>8 {
				differ++
			}
		}
	}
	if differ > 0 {
		t.Errorf("%d pixels are others than in the browser", differ)
	}
}

// TestDemoServe serves the site until interrupted.
func TestDemoServe(t *testing.T) {
	cmd := exec.Command(program, "demo", "--serve", "--address", "127.0.0.1:0")
	cmd.Dir = t.TempDir()
	out, err := cmd.StderrPipe()
	if err != nil {
		t.Fatal(err)
	}
	if err := cmd.Start(); err != nil {
		t.Fatal(err)
	}
	buf := make([]byte, 512)
	n, _ := out.Read(buf)
	_, rest, _ := strings.Cut(string(buf[:n]), "http://")
	address, _, _ := strings.Cut(rest, "/")
	for path, want := range map[string]int{"/": 200, "/css/site.css": 200, "/fonts/HankenGrotesk-Bold.ttf": 200, "/none": 404, "/../archetyp.yaml": 400} {
		r, err := http.Get("http://" + address + path)
		if err != nil {
			t.Fatal(err)
		}
		r.Body.Close()
		if r.StatusCode != want {
			t.Errorf("%s: %d", path, r.StatusCode)
		}
	}
	if err := cmd.Process.Signal(os.Interrupt); err != nil {
		t.Fatal(err)
	}
	if err := cmd.Wait(); err != nil {
		t.Errorf("interrupted: %v", err)
	}
	if r := run(t, t.TempDir(), "demo", "--serve", "--address", "0.0.0.0:8085"); r.status != 2 || !strings.Contains(r.err, "own address") {
		t.Errorf("%d %s", r.status, r.err)
	}
}

// TestHarvestOfCode collects from a style sheet and writes its custom properties again.
func TestHarvestOfCode(t *testing.T) {
	dir := demo(t)
	says(t, dir, "tokens harvest site/css/site.css", "Colours", "#0c6f91 1", "14px 1", "Breakpoints", "48rem")
	says(t, dir, "tokens harvest site/index.html", "Custom properties", "--color-page", "prefers-color-scheme: dark", "color.sea.600", "tokens are in no sheet")
	if r := must(t, dir, "tokens", "harvest", "site/css/tokens.css", "--as", "css"); !strings.Contains(r.out, "@media (min-width: 48rem) {\n  :root {\n    --size-title: 40px;\n  }\n}") {
		t.Error(r.out)
	}
	var h struct {
		Contexts   []string
		Properties []struct{ Name string }
		Values     []struct {
			Kind, Value, Token string
			Uses               int
		}
	}
	mustJSON(t, dir, &h, "tokens", "harvest", "site/index.html")
	if len(h.Properties) != 41 || len(h.Contexts) != 3 {
		t.Errorf("%d properties, %q", len(h.Properties), h.Contexts)
	}
}

// TestPropertiesOfFrameworksComputeTheSame writes the custom properties of frameworks again, and has a browser compute
// both.
func TestPropertiesOfFrameworksComputeTheSame(t *testing.T) {
	node := needNode(t)
	ctx := chromium(t)
	dir := t.TempDir()
	const body = `<body><div data-bs-theme=dark id=a><p class="btn btn-primary" id=b>x</p></div><div class="dark theme-dark" data-theme=dark data-color-mode=dark data-dark-theme=dark id=c><button class="button is-primary" id=d>x</button></div></body>`
	const askAll = `(() => { const names = %s, out = []; for (const e of [document.documentElement, ...document.querySelectorAll('[id]')]) { const cs = getComputedStyle(e); for (const n of names) out.push(e.id + ' ' + n + ': ' + cs.getPropertyValue(n)); } return out })()`
	n := 0
	for _, f := range []string{"bootstrap/dist/css/bootstrap.css", "bulma/css/bulma.css", "@picocss/pico/css/pico.css"} {
		path := filepath.Join(node, "node_modules", f)
		if _, err := os.Stat(path); err != nil {
			t.Fatalf("%s is missing", f)
		}
		again := must(t, dir, "tokens", "harvest", path, "--as", "css").out
		var h struct{ Properties []struct{ Name string } }
		mustJSON(t, dir, &h, "tokens", "harvest", path)
		var names []string
		for _, p := range h.Properties {
			names = append(names, p.Name)
		}
		write(t, dir, "again.css", again)
		var got [2][]string
		for i, sheet := range []string{"file://" + path, "again.css"} {
			write(t, dir, "page.html", "<!doctype html><html><link rel=stylesheet href=\""+sheet+"\">"+body)
			open(t, ctx, filepath.Join(dir, "page.html"), 1280, 800, 1)
			got[i] = evaluate[[]string](t, ctx, fmt.Sprintf(askAll, jsonText(t, names)))
		}
		n += len(names)
		differ := 0
		for i := range got[0] {
			if got[0][i] != got[1][i] {
				if differ++; differ < 5 {
					t.Errorf("%s: %s, and written again %s", f, got[0][i], got[1][i])
				}
			}
		}
		t.Logf("%s: %d properties, %d values, %d of them otherwise", f, len(names), len(got[0]), differ)
	}
	if n < 1000 {
		t.Errorf("only %d properties", n)
	}
}

// evaluate has the browser compute an expression.
func evaluate[T any](t testing.TB, ctx context.Context, expression string) T {
	t.Helper()
	v, err := chromedp.Run(ctx, chromedp.Evaluate[T](expression))
	if err != nil {
		t.Fatal(err)
	}
	return v
}

// TestPicturesOfPages exports what a page shows: originals as they came, drawings at densities, bitmaps never larger.
func TestPicturesOfPages(t *testing.T) {
	dir := demo(t)
	write(t, dir, "site/quay.html", `<!doctype html><title>Quay</title><style>.icon { color: #0b4f6c; width: 24px }</style>
		<svg hidden><symbol id="icon-bell" viewBox="0 0 8 8"><path fill="currentColor" d="M0 0h8v8H0z"/></symbol></svg>
		<svg class="icon" viewBox="0 0 24 24"><use href="#icon-bell"/></svg> <img src="quay.png" width="2" alt="Quay"> <img src="gone.png" alt="">`)
	write(t, dir, "site/quay.png", string(pngBytes(t, 4, 2)))
	var out struct {
		Files []struct {
			File          string
			Width, Height int
		}
		Notes []string
	}
	mustJSON(t, dir, &out, "assets", "export", "site/quay.html", "-o", "quay/", "--at", "1,2", "--format", "png")
	sizes := map[string]string{}
	for _, f := range out.Files {
		sizes[f.File] = fmt.Sprint(f.Width, "x", f.Height)
	}
	for file, want := range map[string]string{"quay/quay.png": "4x2", "quay/icon-bell.png": "24x24", "quay/icon-bell@2x.png": "48x48"} {
		if sizes[file] != want {
			t.Errorf("%s is %q, not %s: %v", file, sizes[file], want, sizes)
		}
	}
	if notes := strings.Join(out.Notes, "\n"); !strings.Contains(notes, "quay stays as it is: it has 4 × 2 px, which is 2x") || !strings.Contains(notes, "gone is missing") {
		t.Error(notes)
	}
	if read(t, dir, "quay/quay.png") != read(t, dir, "site/quay.png") {
		t.Error("the bitmap is another")
	}
	must(t, dir, "assets", "export", "site/quay.html", ".icon", "-o", "one/")
	if svg := read(t, dir, "one/icon-bell.svg"); !strings.Contains(svg, `color="#0b4f6c"`) || !strings.Contains(svg, `width="24"`) || !strings.Contains(svg, "<symbol") {
		t.Error(svg)
	}
	if r := run(t, dir, "assets", "export", "site/quay.html", "body > svg:first-child", "-o", "two/", "--dry-run"); r.status != 0 || !strings.Contains(r.out, "nothing was written") {
		t.Errorf("%d %s%s", r.status, r.out, r.err)
	}
	if r := run(t, dir, "assets", "export", "site/index.html", "h1", "-o", "three/"); r.status != 2 || !strings.Contains(r.err, "--browser") {
		t.Errorf("%d %s", r.status, r.err)
	}
}

// pngBytes is a bitmap of one colour.
func pngBytes(t testing.TB, w, h int) []byte {
	t.Helper()
	var b bytes.Buffer
	if err := png.Encode(&b, image.NewGray(image.Rect(0, 0, w, h))); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

// TestPartsOfElements asks for pseudo-elements as for any element; a browser knows their boxes.
func TestPartsOfElements(t *testing.T) {
	dir := demo(t)
	write(t, dir, "parts.html", `<!doctype html><title>Parts</title><style>body { margin: 0 } .clear::after { content: ""; display: table }
		.badge::before { content: ""; display: inline-block; width: 8px; height: 8px; margin-right: 4px; background: #2f9e64 }
		.more::after { content: " \2192"; color: #0c6f91 } .need::after { content: " (required)" } *::before { box-sizing: border-box }
		.rows::before { content: attr(data-n) } p:nth-child(2) b { color: red }</style>
		<p class="badge clear">On time</p><p><b class=more>All sailings</b></p><label class=need>Name</label><div class=rows data-n=7>rows</div>
		<my-pier><template shadowrootmode=open><style>i::before { content: "Pier" }</style><i>East</i></template></my-pier>`)
	says(t, dir, "outline parts.html", "p:nth-child(1)::before", "“→”", "“(required)”", "“7”", "“Pier”")
	if out := must(t, dir, "outline", "parts.html").out; strings.Contains(out, "::after  at") || strings.Count(out, "::") != 2*5 {
		t.Error(out)
	}
	says(t, dir, "spec parts.html .badge::before", "rule .badge::before, parts.html:2", "8px")
	says(t, dir, "spec parts.html .more::after --why color", "wins color: #0c6f91", ".more::after")
	says(t, dir, "spec parts.html .more::after --computed --only color,content", "rgb(12, 111, 145)")
	says(t, dir, "code parts.html .badge", ".badge.clear::before {", "background: #2f9e64;")
	says(t, dir, "text collect parts.html", "“(required)”", "marked as not to be translated")
	need(t, "chromium", "chromium-browser", "google-chrome")
	says(t, dir, "measure parts.html .badge::before .badge --browser", "left to left", "0 px", "8 × 8 px")
	if out := must(t, dir, "outline", "parts.html", "--browser").out; strings.Contains(out, "clear::after") || strings.Count(out, "::") != 5 {
		t.Error(out)
	}
}

// TestFrames reads what stands in a frame of the same origin, and gives runs of words boxes of their own.
func TestFrames(t *testing.T) {
	need(t, "chromium", "chromium-browser", "google-chrome")
	dir := demo(t)
	write(t, dir, "frame.html", `<!doctype html><title>Frames</title><style>body { margin: 0 } iframe { border: 3px solid; padding: 5px; margin: 20px; display: block }
		p { color: red; margin: 0 }</style><div style="font: 20px/24px monospace">Pier <b style="display: block">East</b> and quay</div>
		<iframe id=tides srcdoc="<!doctype html><style>body { margin: 4px } p { color: rgb(11, 79, 108); width: 50vw }</style><p id=low>Low tide</p>" width=200 height=80></iframe>`)
	var spec struct {
		Elements []struct {
			Boxes struct {
				Geometry struct{ X, Y, Width, Height float64 }
			}
		}
	}
	mustJSON(t, dir, &spec, "spec", "frame.html", "#low", "--browser")
	if b := spec.Elements[0].Boxes.Geometry; b.X != 20+3+5+4 || b.Y != 72+20+3+5+16 || b.Width != 100 {
		t.Errorf("%+v", b)
	}
	says(t, dir, "spec frame.html #low --browser --why color", "color: rgb(11, 79, 108)", "frame.html in #tides:1")
	says(t, dir, "outline frame.html --browser", "“Pier”", "48 × 27", "“and quay”", "tides group", "“Low tide”")
	if out := must(t, dir, "text", "collect", "frame.html").out; strings.Contains(out, "Low tide") {
		t.Error(out)
	}
}

// TestHeadersInABrowser has a browser send headers to the site alone.
func TestHeadersInABrowser(t *testing.T) {
	need(t, "chromium", "chromium-browser", "google-chrome")
	var mu sync.Mutex
	got := map[string][]string{}
	note := func(name string) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			mu.Lock()
			got[name+r.URL.Path] = append(got[name+r.URL.Path], r.Header.Get("X-Preview"))
			mu.Unlock()
			switch r.URL.Path {
			case "/":
				fmt.Fprintf(w, `<!doctype html><title>Quay</title><link rel=stylesheet href=a.css><img src="%s/pier.png"><p>Quay</p><script>fetch("/data")</script>`, r.URL.Query().Get("other"))
			case "/a.css":
				w.Header().Set("Content-Type", "text/css")
				fmt.Fprint(w, "p { color: red }")
			}
		})
	}
	other := httptest.NewServer(note("other"))
	own := httptest.NewServer(note("own"))
	t.Cleanup(other.Close)
	t.Cleanup(own.Close)
	dir := t.TempDir()
	write(t, dir, "archetyp.yaml", "name: W\nsites: [{name: quay, url: \""+own.URL+"/?other="+other.URL+"\", browser: true, viewports: [390x844], headers: {X-Preview: \"env:FERRY_PREVIEW\"}}]\n")
	t.Setenv("FERRY_PREVIEW", "tide")
	must(t, dir, "capture", "quay")
	mu.Lock()
	defer mu.Unlock()
	for _, path := range []string{"/", "/a.css", "/data"} {
		if list := got["own"+path]; len(list) == 0 || slices.Contains(list, "") {
			t.Errorf("%s had the headers %q", path, list)
		}
	}
	for path, list := range got {
		if strings.HasPrefix(path, "other") && strings.Join(list, "") != "" {
			t.Errorf("%s had the headers %q", path, list)
		}
	}
	if len(got["other/pier.png"]) == 0 {
		t.Error("the other host was not asked")
	}
}
