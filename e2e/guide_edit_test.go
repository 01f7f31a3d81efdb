package e2e

import (
	"io"
	"net/http"
	"path/filepath"
	"strings"
	"testing"
)

// TestGuideEdits changes a token, marks elements and sets the focused element from the pages of a served guide, and sees
// what git would.
func TestGuideEdits(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	address, r := serveGuide(t, dir, "--edit")
	defer r.stop()
	g := &guideTab{t, chromium(t), address}
	g.visit("colours.html")
	asked[bool](g, `document.querySelector('[id="color.coral.500"] .edit-token').click(), true`)
	g.want(`document.querySelector('dialog.edit').open`)
	tokens := filepath.Join(dir, "tokens/tern-and-tide.tokens.json")
	before := read(t, tokens)
	asked[bool](g, `(() => { const i = document.querySelector('dialog.edit [name=value]'); i.value = '#d0451f'; i.dispatchEvent(new Event('input')); return true })()`)
	g.want(`getComputedStyle(document.documentElement).getPropertyValue('--color-coral-500').trim() === '#d0451f' && /4\.\d on white/.test(document.querySelector('dialog.edit').innerText)`)
	if read(t, tokens) != before {
		t.Error("it is written already")
	}
	asked[bool](g, `(() => { const i = document.querySelector('dialog.edit [name=value]'); i.value = 'nonsense'; i.dispatchEvent(new Event('input')); return true })()`)
	g.want(`document.querySelector('dialog.edit [role=alert]').textContent !== ''`)
	asked[bool](g, `(() => { const i = document.querySelector('dialog.edit [name=value]'); i.value = '#d0451f'; i.dispatchEvent(new Event('input')); return true })()`)
	asked[bool](g, `document.getElementById('write').click(), true`)
	g.want(`document.querySelector('[id="color.coral.500"]').innerText.includes('#d0451f')`) // the page reloaded
	if now := read(t, tokens); !strings.Contains(now, "#d0451f") || strings.Count(now, "\n") != strings.Count(before, "\n") {
		t.Error("it is not written as \"tokens set\" does")
	}
	g.visit("screens/booking.html")
	g.want(`document.getElementById('marking')`)
	asked[bool](g, `(async () => { for (const id of ['#bike', '#breakfast']) { guide.screen.select(guide.screen.all.findIndex(e => e.s === id)); document.getElementById('take').click() } const m = document.getElementById('marking'); m.querySelector('select').value = 'component'; m.querySelector('input').value = 'extra'; m.querySelector('input').dispatchEvent(new Event('input')); return true })()`)
	config := read(t, filepath.Join(dir, "archetyp.yaml"))
	asked[bool](g, `[...document.querySelectorAll('#marking button')].find(b => b.textContent === 'Show what is written').click(), true`)
	g.want(`/#bike  component: extra/.test(document.querySelector('#marking pre').textContent)`)
	if read(t, filepath.Join(dir, "archetyp.yaml")) != config {
		t.Error("marks are written already")
	}
	asked[bool](g, `[...document.querySelectorAll('#marking button')].find(b => b.textContent === 'Write').click(), true`)
	g.want(`guide.screen.all.some(e => e.m === 'extra')`)
	if now := read(t, filepath.Join(dir, "archetyp.yaml")); !strings.Contains(now, "extra") {
		t.Error(now)
	}
	g.visit("screens/booking.html#booking%2Fpay")
	asked[bool](g, `document.getElementById('focus').click(), true`)
	g.want(`/is the focused element/.test(document.getElementById('toast').textContent)`)

	// nothing but the guide's own pages may ask for a change
	for name, h := range map[string]map[string]string{
		"no origin": {"Content-Type": "application/json"}, "another port of this machine": {"Content-Type": "application/json", "Origin": "http://127.0.0.1:1"},
		"another site": {"Content-Type": "application/json", "Origin": "https://elsewhere.example"}, "a form": {"Content-Type": "text/plain", "Origin": strings.TrimSuffix(address, "/")},
	} {
		q, err := http.NewRequest(http.MethodPost, address+"-/edit/token", strings.NewReader(`{"token":"color.coral.500","value":"#000","write":true}`))
		if err != nil {
			t.Fatal(err)
		}
		for k, v := range h {
			q.Header.Set(k, v)
		}
		res, err := http.DefaultClient.Do(q)
		if err != nil {
			t.Fatal(err)
		}
		res.Body.Close()
		if res.StatusCode != http.StatusForbidden {
			t.Errorf("%s: %d", name, res.StatusCode)
		}
	}
	for request, want := range map[string]string{`{"token":"no.such","value":"#000"}`: "there is no token", `{"token":`: "cannot be read", `{"other":1}`: "unknown field",
		`{"token":"color.coral.500","value":"#000","context":"moon"}`: "there is no context", strings.Repeat("x", 1<<17): "too large"} {
		q, _ := http.NewRequest(http.MethodPost, address+"-/edit/token", strings.NewReader(request))
		q.Header.Set("Content-Type", "application/json")
		q.Header.Set("Origin", strings.TrimSuffix(address, "/"))
		res, err := http.DefaultClient.Do(q)
		if err != nil {
			t.Fatal(err)
		}
		body, _ := io.ReadAll(res.Body)
		res.Body.Close()
		if res.StatusCode != http.StatusUnprocessableEntity || !strings.Contains(string(body), want) {
			t.Errorf("%.40s: %d %s", request, res.StatusCode, body)
		}
	}
}

// TestGuideForOthers serves a guide to other machines, to those who have the secret.
func TestGuideForOthers(t *testing.T) {
	dir := demo(t)
	if r := run(t, dir, "guide", "serve", "--listen", "0.0.0.0"); r.status != 2 || !strings.Contains(r.err, "--secret") {
		t.Errorf("without a secret: %d %s", r.status, r.err)
	}
	if r := run(t, dir, "guide", "serve", "--listen", "0.0.0.0", "--secret", "short"); r.status != 2 {
		t.Errorf("with a short one: %d %s", r.status, r.err)
	}
	r := begin(t, dir, "guide", "serve", "--port", "0", "--listen", "0.0.0.0", "--secret", "harbour seal & 42")
	defer r.stop()
	if warned := line(t, r.err); !strings.Contains(warned, "other machines are served") {
		t.Errorf("no warning but %q", warned)
	}
	_, link, _ := strings.Cut(line(t, r.err), "http://")
	link, _, _ = strings.Cut(link, " ")
	at, query, ok := strings.Cut("http://"+link, "?")
	if !ok {
		t.Fatalf("the link is %s", link)
	}
	at = strings.Replace(strings.Replace(at, "[::]", "127.0.0.1", 1), "0.0.0.0", "127.0.0.1", 1)
	get := func(url, host string, cookies []*http.Cookie) *http.Response {
		q, err := http.NewRequest(http.MethodGet, url, nil)
		if err != nil {
			t.Fatal(err)
		}
		q.Host = host
		for _, c := range cookies {
			q.AddCookie(c)
		}
		res, err := http.DefaultClient.Do(q)
		if err != nil {
			t.Fatal(err)
		}
		res.Body.Close()
		return res
	}
	if res := get(at, "guide.lan:8086", nil); res.StatusCode != http.StatusForbidden {
		t.Errorf("without the secret: %d", res.StatusCode)
	}
	if res := get(at+"?secret=harbour", "guide.lan:8086", nil); res.StatusCode != http.StatusForbidden {
		t.Errorf("with another: %d", res.StatusCode)
	}
	first := get(at+"?"+query, "guide.lan:8086", nil)
	if first.StatusCode != http.StatusOK || len(first.Cookies()) != 1 || !first.Cookies()[0].HttpOnly || strings.Contains(first.Cookies()[0].Value, "seal") {
		t.Fatalf("%d %v", first.StatusCode, first.Cookies())
	}
	if res := get(at+"screens/booking.html", "guide.lan:8086", first.Cookies()); res.StatusCode != http.StatusOK {
		t.Errorf("the next page: %d", res.StatusCode)
	}
	if res := get(at+"tokens.css?"+query, "guide.lan:8086", nil); res.StatusCode != http.StatusOK {
		t.Errorf("an output by its link: %d", res.StatusCode)
	}
}
