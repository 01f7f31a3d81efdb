package serve

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"testing/fstest"
	"time"
)

// answers answers what pages ask.
type answers struct{ asked []LiveQuestion }

func (a *answers) Element(_ context.Context, q LiveQuestion) (any, error) {
	a.asked = append(a.asked, q)
	if q.Selector == "" {
		return nil, errors.New("no such element")
	}
	return map[string]string{"element": q.Selector}, nil
}

func (a *answers) Picture(_ context.Context, page string, width float64) ([]byte, error) {
	if page != "/index.html" || width != 390 {
		return nil, errors.New("no such page")
	}
	return []byte("PNG"), nil
}

// liveGet asks a server for a path, as a page of its own does.
func liveGet(t *testing.T, s *httptest.Server, path string) (string, *http.Response) {
	t.Helper()
	res, err := s.Client().Get(s.URL + path)
	if err != nil {
		t.Fatal(err)
	}
	defer res.Body.Close()
	data, err := io.ReadAll(res.Body)
	if err != nil {
		t.Fatal(err)
	}
	return string(data), res
}

func livePost(t *testing.T, s *httptest.Server, path, body string, headers ...string) (string, int) {
	t.Helper()
	r, err := http.NewRequest(http.MethodPost, s.URL+path, strings.NewReader(body))
	if err != nil {
		t.Fatal(err)
	}
	r.Header.Set("Content-Type", "application/json")
	for i := 0; i+1 < len(headers); i += 2 {
		r.Header.Set(headers[i], headers[i+1])
	}
	res, err := s.Client().Do(r)
	if err != nil {
		t.Fatal(err)
	}
	defer res.Body.Close()
	data, _ := io.ReadAll(res.Body)
	return string(data), res.StatusCode
}

func TestLiveFolder(t *testing.T) {
	files := fstest.MapFS{"index.html": {Data: []byte("<!doctype html><html><head><title>x</title></head>")}, "css/site.css": {Data: []byte("p{}")},
		"vendor/site.css": {Data: []byte("q{}")}, "plain.txt": {Data: []byte("<head>")}}
	l := NewLiveFolder(files, fstest.MapFS{"fonts/a.ttf": {Data: []byte("font")}, "secret.txt": {Data: []byte("no")}}, "/work/site", &answers{})
	s := httptest.NewServer(l)
	defer s.Close()
	for path, want := range map[string]string{
		"/":                     `<!doctype html><html><head><script src="/-archetyp/live.js"></script><title>x</title></head>`,
		"/css/site.css":         "p{}",
		"/plain.txt":            "<head>",
		"/fonts/a.ttf":          "font",
		"/secret.txt":           "404 page not found\n",
		"/fonts/../secret.txt":  "invalid URL path\n",
		"/nothing.html":         "404 page not found\n",
		"/-archetyp/nothing.js": "404 page not found\n",
	} {
		if got, _ := liveGet(t, s, path); got != want {
			t.Errorf("%s: %q", path, got)
		}
	}
	l.Typed("/work/site/css/site.css", []byte("p{color:red}"))
	if got, _ := liveGet(t, s, "/css/site.css"); got != "p{color:red}" {
		t.Errorf("typed: %q", got)
	}
	if got, _ := liveGet(t, s, "/vendor/site.css"); got != "q{}" {
		t.Errorf("another sheet of that name: %q", got)
	}
	l.Forget("/work/site/css/site.css")
	if got, _ := liveGet(t, s, "/css/site.css"); got != "p{}" {
		t.Errorf("forgotten: %q", got)
	}
	if _, status := livePost(t, s, "/index.html", ""); status != http.StatusMethodNotAllowed {
		t.Errorf("a folder is only read: %d", status)
	}
	for path, want := range map[string]string{"/-archetyp/picture?page=/index.html&width=390": "PNG", "/-archetyp/picture?page=/other.html&width=390": "no such page\n"} {
		if got, _ := liveGet(t, s, path); got != want {
			t.Errorf("%s: %q", path, got)
		}
	}
}

func TestLiveQuestions(t *testing.T) {
	a := &answers{}
	l := NewLiveFolder(fstest.MapFS{}, nil, "/", a)
	s := httptest.NewServer(l)
	defer s.Close()
	if got, status := livePost(t, s, "/-archetyp/element", `{"page":"/","selector":"p","width":390}`); status != 200 || got != `{"element":"p"}`+"\n" {
		t.Errorf("%d %q", status, got)
	}
	if got, _ := livePost(t, s, "/-archetyp/element", `{"page":"/"}`); got != `{"error":"no such element"}`+"\n" {
		t.Errorf("%q", got)
	}
	if len(a.asked) != 2 || a.asked[0] != (LiveQuestion{"/", "p", 390}) {
		t.Errorf("%+v", a.asked)
	}
	if _, status := livePost(t, s, "/-archetyp/element", "{"); status != http.StatusBadRequest {
		t.Errorf("%d", status)
	}
	if _, status := livePost(t, s, "/-archetyp/element", "{}", "Origin", "http://other.example"); status != http.StatusForbidden {
		t.Errorf("another site asks: %d", status)
	}
	for _, name := range []string{"buffer", "caret"} {
		if _, status := livePost(t, s, "/-archetyp/"+name, "{}"); status != http.StatusForbidden {
			t.Errorf("%s without the secret: %d", name, status)
		}
		if _, status := livePost(t, s, "/-archetyp/"+name, "{", "X-Archetyp-Secret", l.Secret); status != http.StatusBadRequest {
			t.Errorf("%s: %d", name, status)
		}
	}
}

// TestLiveEvents holds that open pages hear of sheets and of the caret, and of nothing twice.
func TestLiveEvents(t *testing.T) {
	l := NewLiveFolder(fstest.MapFS{}, nil, "/", &answers{})
	s := httptest.NewServer(l)
	defer s.Close()
	ctx, stop := context.WithTimeout(context.Background(), 20*time.Second)
	defer stop()
	r, err := http.NewRequestWithContext(ctx, http.MethodGet, s.URL+"/-archetyp/events", nil)
	if err != nil {
		t.Fatal(err)
	}
	res, err := s.Client().Do(r)
	if err != nil {
		t.Fatal(err)
	}
	defer res.Body.Close()
	lines := bufio.NewScanner(res.Body)
	lines.Scan() // it listens
	next := func() map[string]any {
		t.Helper()
		for lines.Scan() {
			if data, ok := strings.CutPrefix(lines.Text(), "data: "); ok {
				var e map[string]any
				if err := json.Unmarshal([]byte(data), &e); err != nil {
					t.Fatal(err)
				}
				return e
			}
		}
		t.Fatal("the stream ended")
		return nil
	}
	post := func(name, body string) {
		t.Helper()
		if _, status := livePost(t, s, "/-archetyp/"+name, body, "X-Archetyp-Secret", l.Secret); status != http.StatusNoContent {
			t.Fatalf("%s: %d", name, status)
		}
	}
	post("buffer", `{"path":"/a.css","text":"p{}"}`)
	post("buffer", `{"path":"/a.css","text":"p{}"}`) // the same again
	post("caret", `{"selector":".a"}`)
	post("buffer", `{"path":"/a.css","closed":true}`)
	post("buffer", `{"path":"/a.css","closed":true}`)
	l.Saved("/b.css", []byte("q{}"))
	var got []string
	for range 4 {
		e := next()
		got = append(got, fmt.Sprint(e["sheet"], e["outline"]))
	}
	if want := "[/a.css<nil> <nil>.a /a.css<nil> /b.css<nil>]"; fmt.Sprint(got) != want {
		t.Errorf("%v", got)
	}
}

// TestLiveSheetsOfASite holds when a sheet of another server is taken from the file that is edited.
func TestLiveSheetsOfASite(t *testing.T) {
	sent := map[string]string{"/assets/css/site.css": "p{}\r\n", "/built.css": "p{}/* and more */", "/vendor/site.css": "v{}", "/gone.css": "404"}
	site := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("Content-Type", "text/css")
		if r.URL.Path == "/gone.css" {
			w.WriteHeader(http.StatusNotFound)
		}
		fmt.Fprint(w, sent[r.URL.Path])
	}))
	defer site.Close()
	l, err := NewLiveSite(site.URL, &answers{})
	if err != nil {
		t.Fatal(err)
	}
	s := httptest.NewServer(l)
	defer s.Close()
	want := func(path, text string) {
		t.Helper()
		if got, res := liveGet(t, s, path); got != text || res.Header.Get("Cache-Control") != "no-store" && path != "/gone.css" {
			t.Errorf("%s: %q", path, got)
		}
	}
	l.Known("/src/css/site.css", []byte("p{}"))
	l.Known("/src/built.css", []byte("p{}"))
	l.Known("/src/vendor/site.css", []byte("v{}"))
	l.Known("/src/gone.css", []byte("404"))
	want("/assets/css/site.css", "p{}\r\n")
	l.Typed("/src/css/site.css", []byte("p{color:red}"))
	want("/assets/css/site.css", "p{color:red}")
	want("/vendor/site.css", "v{}")
	l.Typed("/src/built.css", []byte("p{color:red}"))
	want("/built.css", "p{}/* and more */") // a tool made it of the file
	l.Saved("/src/css/site.css", []byte("p{color:blue}"))
	want("/assets/css/site.css", "p{color:blue}") // the server still sends what it read before
	sent["/assets/css/site.css"] = "p{color:blue}"
	want("/assets/css/site.css", "p{color:blue}")
	l.Typed("/src/css/site.css", []byte("p{color:green}"))
	want("/assets/css/site.css", "p{color:green}")
	l.Forget("/src/css/site.css")
	want("/assets/css/site.css", "p{color:blue}")
	l.Typed("/src/gone.css", []byte("x{}"))
	want("/gone.css", "404")
	site.Close()
	if got, res := liveGet(t, s, "/"); res.StatusCode != http.StatusBadGateway || !strings.Contains(got, "does not answer") {
		t.Errorf("%d %s", res.StatusCode, got)
	}
	for _, bad := range []string{"", "x", "ftp://x/", "http://", "http://[::1"} {
		if _, err := NewLiveSite(bad, nil); err == nil {
			t.Errorf("%q is taken for an address", bad)
		}
	}
}

func TestPageWithTheScript(t *testing.T) {
	const tag = `<script src="/-archetyp/live.js"></script>`
	for page, want := range map[string]string{
		"<html><head><title>x":          "<html><head>" + tag + "<title>x",
		"<HTML><HEAD lang=en><title>x":  "<HTML><HEAD lang=en>" + tag + "<title>x",
		"<!doctype html><header>x":      "<!doctype html>" + tag + "<header>x",
		"<!doctype html><html><body>x":  "<!doctype html><html>" + tag + "<body>x",
		"x":                             tag + "x",
		"<head":                         tag + "<head",
		"":                              tag,
		"<!DOCTYPE html>\n<title>a>b</": "<!DOCTYPE html>" + tag + "\n<title>a>b</",
	} {
		if got := withLive([]byte(page)); string(got) != want {
			t.Errorf("%q: %q", page, got)
		}
	}
}

func TestPolicyThatAdmits(t *testing.T) {
	for policy, want := range map[string]string{
		"default-src 'none'": "default-src 'self'",
		"script-src 'nonce-x' 'strict-dynamic'; object-src 'none'": "script-src 'nonce-x' 'self'; object-src 'none'",
		"upgrade-insecure-requests; img-src https:":                "img-src https: 'self'",
		";;": "",
	} {
		if got := admitting(policy); got != want {
			t.Errorf("%q: %q", policy, got)
		}
	}
}

func TestCookiesHere(t *testing.T) {
	for c, want := range map[string]string{"a=1": "a=1", "a=1; Path=/; Domain=x.example; Secure": "a=1; Path=/", "a=1; SameSite=None; Secure; HttpOnly": "a=1; HttpOnly", "a=1; samesite=lax": "a=1; samesite=lax"} {
		if got := hereCookie(c); got != want {
			t.Errorf("%q: %q", c, got)
		}
	}
}

func TestSameEnd(t *testing.T) {
	for _, c := range []struct {
		a, b string
		n    int
	}{{"/src/css/a.css", "/css/a.css", 2}, {"/src/css/a.css", "/a.css", 1}, {"/a.css", "/b.css", 0}, {"", "/", 1}, {"/x/a.css", "/x/a.css", 2}} {
		if n := sameEnd(c.a, c.b); n != c.n {
			t.Errorf("%q and %q: %d", c.a, c.b, n)
		}
	}
}

func TestTextSum(t *testing.T) {
	if textSum([]byte("\xef\xbb\xbfa{\r\n}\r\n")) != textSum([]byte("a{\n}")) {
		t.Error("line endings and a byte order mark count")
	}
	if bytes.Equal([]byte(textSum([]byte("a{}"))), []byte(textSum([]byte("b{}")))) {
		t.Error("texts do not count")
	}
}
