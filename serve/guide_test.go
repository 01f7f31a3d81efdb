package serve_test

import (
	"bufio"
	"context"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync"
	"testing"
	"testing/fstest"

	"archetyp/serve"
)

var guideFiles = fstest.MapFS{
	"guide/index.html": {Data: []byte("<body>home</body>")}, "guide/screens/a.html": {Data: []byte("<body>a</body>")},
	"guide/screens/index.html": {Data: []byte("<body>screens</body>")},
	"guide/img/a.svg":          {Data: []byte("<svg/>")}, "dist/tokens.css": {Data: []byte(":root{}")}, "dist/Tokens.kt": {Data: []byte("val a = 1")},
	"dist/page.html": {Data: []byte("<body>mine</body>")}, "archetyp.yaml": {Data: []byte("name: secret")},
}

func newGuide(live bool) *serve.Guide {
	g := serve.NewGuide(guideFiles, "guide", live)
	g.Outputs(map[string]string{"tokens.css": "dist/tokens.css", "dist/tokens.css": "dist/tokens.css", "dist/Tokens.kt": "dist/Tokens.kt", "dist/page.html": "dist/page.html"})
	return g
}

// TestGuideIsServed asks for pages and outputs, and for what is neither, by hosts and origins of every kind.
func TestGuideIsServed(t *testing.T) {
	const live = `<script src="/-/changes.js" defer></script>` + "\n</body>"
	g := newGuide(true)
	for _, c := range []struct{ method, path, host, origin, want string }{
		{"GET", "/", "localhost:8086", "", "200 text/html; charset=utf-8 <body>home" + live},
		{"GET", "/screens/a.html", "127.0.0.1:1", "", "200 text/html; charset=utf-8 <body>a" + live},
		{"GET", "/screens/", "[::1]:1", "", "200 text/html; charset=utf-8 <body>screens" + live},
		{"GET", "/screens", "[::1]:1", "", "301"},
		{"GET", "/img/a.svg", "LOCALHOST", "", "200 image/svg+xml <svg/>"},
		{"GET", "/tokens.css", "localhost", "http://localhost:3000", "200 text/css; charset=utf-8 :root{}"},
		{"GET", "/dist/tokens.css", "localhost", "http://127.0.0.1:5173", "200 text/css; charset=utf-8 :root{}"},
		{"GET", "/dist/Tokens.kt", "localhost", "", "200 text/plain; charset=utf-8 val a = 1"},
		{"GET", "/dist/page.html", "localhost", "", "200 text/html; charset=utf-8 <body>mine</body>"},
		{"HEAD", "/tokens.css", "localhost", "", "200 text/css; charset=utf-8 "},
		{"GET", "/-/changes.js", "localhost", "", "200 text/javascript"},
		{"GET", "/favicon.ico", "localhost", "", "204"},
		{"GET", "/archetyp.yaml", "localhost", "", "404"},
		{"GET", "/../archetyp.yaml", "localhost", "", "404"},
		{"GET", "/%2e%2e/archetyp.yaml", "localhost", "", "404"},
		{"GET", "/dist/none.css", "localhost", "", "404"},
		{"GET", "/guide/index.html", "localhost", "", "404"},
		{"POST", "/", "localhost", "", "405"},
		{"GET", "/", "ferry.example", "", "403"},
		{"GET", "/", "127.0.0.1.ferry.example", "", "403"},
		{"GET", "/", "localhost.ferry.example:8086", "", "403"},
		{"GET", "/", "192.0.2.7", "", "403"},
		{"GET", "/", "", "", "403"},
		{"GET", "/tokens.css", "localhost", "https://ferry.example", "403"},
		{"GET", "/tokens.css", "localhost", "null", "403"},
		{"GET", "/tokens.css", "localhost", "http://localhost.ferry.example", "403"},
		{"GET", "/-/changes", "localhost", "https://ferry.example", "403"},
	} {
		r := httptest.NewRequest(c.method, c.path, nil)
		if r.Host = c.host; c.origin != "" {
			r.Header.Set("Origin", c.origin)
		}
		w := httptest.NewRecorder()
		g.ServeHTTP(w, r)
		h := w.Result().Header
		if got := fmt.Sprint(w.Code, " ", h.Get("Content-Type"), " ", w.Body); !strings.HasPrefix(got, c.want) || strings.Contains(got, "secret") {
			t.Errorf("%+v: %s", c, got)
		}
		if !strings.Contains(h.Get("Content-Security-Policy"), "default-src 'none'; script-src 'self';") {
			t.Errorf("%s: %s", c.path, h.Get("Content-Security-Policy"))
		}
		allowed := h.Get("Access-Control-Allow-Origin")
		if want := c.origin; w.Code != 200 && allowed != "" || w.Code == 200 && allowed != want {
			t.Errorf("%+v: allowed to %q", c, allowed)
		}
		if tag := h.Get("ETag"); w.Code == 200 {
			r.Header.Set("If-None-Match", tag)
			again := httptest.NewRecorder()
			if g.ServeHTTP(again, r); tag == "" || again.Code != 304 || again.Body.Len() > 0 {
				t.Errorf("%s, asked for again: %d", c.path, again.Code)
			}
		}
	}
	w := httptest.NewRecorder()
	r := httptest.NewRequest("GET", "/", nil)
	r.Host = "localhost"
	if newGuide(false).ServeHTTP(w, r); w.Body.String() != "<body>home</body>" {
		t.Errorf("without watching: %s", w.Body)
	}
}

// TestPagesReload connects three pages, sends them changes, and shuts down while they are connected.
func TestPagesReload(t *testing.T) {
	g := newGuide(true)
	ctx, stop := context.WithCancel(t.Context())
	at, ended := make(chan string, 1), make(chan error, 1)
	go func() { ended <- g.Serve(ctx, "127.0.0.1:0", func(a string) { at <- a }) }()
	base := <-at
	var pages []*bufio.Scanner
	line := func(page *bufio.Scanner) string {
		for page.Scan() {
			if page.Text() != "" {
				return page.Text()
			}
		}
		return "end"
	}
	for range 3 {
		r, err := http.Get(base + "-/changes")
		if err != nil {
			t.Fatal(err)
		}
		defer r.Body.Close()
		page := bufio.NewScanner(r.Body)
		if retry, event, boot := line(page), line(page), line(page); retry != "retry: 500" || event != "event: server" || len(boot) < 20 {
			t.Fatal(retry, event, boot)
		}
		pages = append(pages, page)
	}
	g.Changed([]string{"guide/screens/a.html", "dist/tokens.css"})
	for _, page := range pages {
		if event, data := line(page), line(page); event != "event: written" || data != `data: ["/screens/a.html","/dist/tokens.css"]` {
			t.Error(event, data)
		}
	}
	stop()
	if err := <-ended; err != nil {
		t.Error(err)
	}
	for _, page := range pages {
		if l := line(page); l != "end" {
			t.Error(l)
		}
	}
}

// TestManyRead has many clients read while the outputs change: nothing is torn, and nothing waits for a page that does
// not listen.
func TestManyRead(t *testing.T) {
	g := newGuide(true)
	s := httptest.NewServer(g)
	defer s.Close()
	deaf, err := http.Get(s.URL + "/-/changes")
	if err != nil {
		t.Fatal(err)
	}
	defer deaf.Body.Close()
	var all sync.WaitGroup
	for range 50 {
		all.Go(func() {
			for range 20 {
				r, err := http.Get(s.URL + "/tokens.css")
				if err != nil {
					t.Error(err)
					return
				}
				data, _ := io.ReadAll(r.Body)
				r.Body.Close()
				if string(data) != ":root{}" {
					t.Errorf("%q", data)
				}
			}
		})
	}
	for range 500 {
		g.Outputs(map[string]string{"tokens.css": "dist/tokens.css"})
		g.Changed([]string{"guide/index.html"})
	}
	all.Wait()
}
