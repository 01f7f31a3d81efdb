package e2e

import (
	"bufio"
	"compress/gzip"
	"context"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"os/exec"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
)

// startLive shows a site and gives the address.
func startLive(t testing.TB, dir string, args ...string) string {
	t.Helper()
	cmd := exec.Command(program, append([]string{"live", "--port", "0"}, args...)...)
	cmd.Dir = dir
	out, err := cmd.StderrPipe()
	if err != nil {
		t.Fatal(err)
	}
	if err := cmd.Start(); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() {
		_ = cmd.Process.Kill()
		_ = cmd.Wait()
	})
	line, err := bufio.NewReader(out).ReadString('\n')
	m := regexp.MustCompile(`http://[^ ]+/`).FindString(line)
	if err != nil || m == "" {
		t.Fatalf("%q, %v", line, err)
	}
	go io.Copy(io.Discard, out)
	return m
}

// evaluated runs a script in the page.
func evaluated[T any](t testing.TB, ctx context.Context, script string) T {
	t.Helper()
	v, err := chromedp.Run(ctx, chromedp.Evaluate[T](script, chromedp.EvalAwaitPromise))
	if err != nil {
		t.Fatal(err)
	}
	return v
}

// soon runs a script until it gives a value, and says how long that took.
func soon(t testing.TB, ctx context.Context, script, want string) time.Duration {
	t.Helper()
	began := time.Now()
	for {
		got := evaluated[string](t, ctx, script)
		if got == want {
			return time.Since(began)
		}
		if time.Since(began) > time.Minute {
			t.Fatalf("%s is %q, not %q", script, got, want)
		}
		time.Sleep(2 * time.Millisecond)
	}
}

// TestLivePage edits a style sheet on disk and in an unsaved text: the open page follows without being loaded again.
func TestLivePage(t *testing.T) {
	t.Parallel()
	tab := chromium(t)
	dir := demo(t)
	at := startLive(t, dir, "site")
	if err := chromedp.Do(tab, chromedp.EmulateViewport(390, 844), chromedp.Navigate(at+"index.html")); err != nil {
		t.Fatal(err)
	}
	evaluated[bool](t, tab, `window.mine = true`)
	radius := `getComputedStyle(document.querySelector('.sailing')).borderTopLeftRadius`
	time.Sleep(300 * time.Millisecond) // the page listens
	change(t, dir, "site/css/site.css", "border-radius: 14px", "border-radius: 21px")
	t.Logf("a saved sheet took effect after %v", soon(t, tab, radius, "21px"))
	change(t, dir, "site/css/tokens.css", "--color-raised: var(--color-white)", "--color-raised: #fffff0")
	t.Logf("an imported one after %v", soon(t, tab, `getComputedStyle(document.querySelector('.sailing')).backgroundColor`, "rgb(255, 255, 240)"))

	c := startEditor(t, dir, obj{})
	css := read(t, dir, "site/css/site.css")
	c.show("site/css/site.css", css+"|")
	c.show("site/css/site.css", strings.Replace(css, "border-radius: 21px", "border-radius: 33px", 1)+"|")
	t.Logf("an unsaved one after %v", soon(t, tab, radius, "33px"))
	if !strings.Contains(read(t, dir, "site/css/site.css"), "21px") {
		t.Error("something was written")
	}
	if !evaluated[bool](t, tab, `window.mine === true && document.querySelectorAll('link[rel=stylesheet]').length === 1`) {
		t.Error("the page was loaded again, or a link is left over")
	}

	// a click asks about an element, and makes what it is in the design the focused one
	evaluated[bool](t, tab, `document.querySelector('.badge-good').dispatchEvent(new MouseEvent('click', {altKey: true, bubbles: true, composed: true, cancelable: true}))`)
	for i := 0; ; i++ {
		if r := run(t, dir, "focus"); strings.Contains(r.out, "#sailing-1 > g") {
			break
		} else if i > 100 {
			t.Fatalf("%s%s", r.out, r.err)
		}
		time.Sleep(50 * time.Millisecond)
	}
	if n := evaluated[int](t, tab, `document.querySelectorAll('archetyp-live').length`); n != 1 {
		t.Errorf("%d panels", n)
	}
}

// TestLivePageOfAnotherServer passes a site through: its pages get the script, whatever their policy and coding; cookies and
// redirects hold here; nobody else may ask.
func TestLivePageOfAnotherServer(t *testing.T) {
	t.Parallel()
	var cookies, hosts []string
	site := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		cookies, hosts = append(cookies, r.Header.Get("Cookie")), append(hosts, r.Host)
		switch r.URL.Path {
		case "/away":
			http.Redirect(w, r, "http://"+r.Host+"/", http.StatusFound)
		case "/elsewhere":
			http.Redirect(w, r, "https://other.example/", http.StatusFound)
		case "/s.css":
			w.Header().Set("Content-Type", "text/css")
			fmt.Fprint(w, "p { color: red }")
		case "/data.json":
			w.Header().Set("Content-Type", "application/json")
			fmt.Fprint(w, `{"head": "<head>"}`)
		default:
			w.Header().Set("Content-Type", "text/html; charset=utf-8")
			w.Header().Set("Content-Security-Policy", "default-src 'none'; script-src 'none'; upgrade-insecure-requests")
			w.Header().Set("Set-Cookie", "id=1; Domain=ferry.example; Secure; HttpOnly")
			w.Header().Set("Content-Encoding", "gzip")
			z := gzip.NewWriter(w)
			fmt.Fprint(z, "<!doctype html><title>x</title><link rel=stylesheet href=s.css><p>Words")
			z.Close()
		}
	}))
	t.Cleanup(site.Close)
	dir := t.TempDir()
	at := startLive(t, dir, site.URL+"/")
	client := &http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
	get := func(path, host string) (*http.Response, string) {
		t.Helper()
		r, err := http.NewRequest(http.MethodGet, at+path, nil)
		if err != nil {
			t.Fatal(err)
		}
		r.Header.Set("Cookie", "id=1")
		if host != "" {
			r.Host = host
		}
		res, err := client.Do(r)
		if err != nil {
			t.Fatal(err)
		}
		defer res.Body.Close()
		data, err := io.ReadAll(res.Body)
		if err != nil {
			t.Fatal(err)
		}
		return res, string(data)
	}
	res, page := get("", "")
	if !strings.HasPrefix(page, `<!doctype html><script src="/-archetyp/live.js"></script><title>`) {
		t.Error(page)
	}
	if p := res.Header.Get("Content-Security-Policy"); !strings.Contains(p, "script-src 'self'") || strings.Contains(p, "upgrade") {
		t.Error(p)
	}
	if c := res.Header.Get("Set-Cookie"); c != "id=1; HttpOnly" {
		t.Error(c)
	}
	if res, _ := get("away", ""); res.Header.Get("Location") != "/" {
		t.Error(res.Header.Get("Location"))
	}
	if res, _ := get("elsewhere", ""); res.Header.Get("Location") != "https://other.example/" {
		t.Error(res.Header.Get("Location"))
	}
	if _, text := get("data.json", ""); text != `{"head": "<head>"}` {
		t.Error(text)
	}
	if cookies[0] != "id=1" || "http://"+hosts[0] != site.URL {
		t.Errorf("%v %v", cookies, hosts)
	}
	if res, _ := get("", "evil.example"); res.StatusCode != http.StatusForbidden {
		t.Errorf("another name: %d", res.StatusCode)
	}
	for _, path := range []string{"-archetyp/buffer", "-archetyp/caret", "-archetyp/element"} {
		res, err := http.Post(at+path, "text/plain", strings.NewReader(`{"path": "/s.css", "text": "p{}"}`))
		if err != nil {
			t.Fatal(err)
		}
		res.Body.Close()
		if res.StatusCode/100 != 4 {
			t.Errorf("%s: %d", path, res.StatusCode)
		}
	}
	for _, args := range [][]string{{"nowhere"}, {"ftp://x/"}, {"http://"}, {".", "--port", "70000"}} {
		if r := run(t, dir, append([]string{"live"}, args...)...); r.status != 2 {
			t.Errorf("%v: %d %s", args, r.status, r.err)
		}
	}
}

// TestEditorShowsDrift shows what the site does otherwise than the design at the declarations, with what mends it.
func TestEditorShowsDrift(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	write(t, dir, "archetyp.yaml", read(t, dir, "archetyp.yaml")+"drift: {site: site}\n")
	c := startEditor(t, dir, obj{})
	css := read(t, dir, "site/css/site.css")
	c.show("site/css/site.css", css+"|")
	drifts := func(list []finding) (out []finding) {
		for _, f := range list {
			if strings.HasPrefix(f.Code, "drift-") {
				out = append(out, f)
			}
		}
		return out
	}
	list := drifts(c.published("site/css/site.css", func(l []finding) bool { return len(drifts(l)) > 0 }))
	radius := ""
	for _, f := range list {
		if f.Code == "drift-radius" {
			radius = f.Message
		}
	}
	if len(list) < 6 || !strings.Contains(radius, ".sailing border-radius is 14px, in the design 16px") {
		t.Errorf("%+v", list)
	}
	change(t, dir, "site/css/site.css", "border-radius: 14px", "border-radius: 16px")
	c.show("site/css/site.css", read(t, dir, "site/css/site.css")+"|")
	c.tell("textDocument/didSave", obj{"textDocument": obj{"uri": c.uri("site/css/site.css")}})
	c.published("site/css/site.css", func(l []finding) bool {
		for _, f := range l {
			if f.Code == "drift-radius" {
				return false
			}
		}
		return len(drifts(l)) > 0
	})
}
