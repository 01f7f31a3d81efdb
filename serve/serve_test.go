package serve_test

import (
	"context"
	"io"
	"net/http"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"archetyp/serve"
)

// TestFolder serves the files of a site and the fonts beside it, and nothing else, until it is stopped.
func TestFolder(t *testing.T) {
	files := fstest.MapFS{"site/index.html": {Data: []byte("<p>home")}, "site/a.css": {Data: []byte("p{}")}, "fonts/f.woff2": {Data: []byte("font")}, "archetyp.yaml": {Data: []byte("name: secret")}}
	ctx, stop := context.WithCancel(t.Context())
	at, ended := make(chan string, 1), make(chan error, 1)
	go func() { ended <- serve.Folder(ctx, files, "127.0.0.1:0", func(a string) { at <- a }) }()
	base := <-at
	for path, want := range map[string]string{"": "200 <p>home", "a.css": "200 p{}", "fonts/f.woff2": "200 font", "archetyp.yaml": "404", "../archetyp.yaml": "400", "no": "404", "%2e%2e/archetyp.yaml": "400"} {
		r, err := http.Get(base + path)
		if err != nil {
			t.Fatal(err)
		}
		body, _ := io.ReadAll(r.Body)
		r.Body.Close()
		if got := r.Status[:3] + " " + string(body); !strings.HasPrefix(got, want) || strings.Contains(got, "secret") {
			t.Errorf("%s: %s", path, got)
		}
	}
	if r, err := http.Post(base, "text/plain", strings.NewReader("x")); err != nil || r.StatusCode != http.StatusMethodNotAllowed {
		t.Errorf("%v %v", r, err)
	}
	if err := serve.Folder(t.Context(), files, strings.TrimSuffix(strings.TrimPrefix(base, "http://"), "/"), func(string) {}); err == nil || !strings.Contains(err.Error(), "taken") {
		t.Errorf("a second one: %v", err)
	}
	stop()
	select {
	case err := <-ended:
		if err != nil {
			t.Error(err)
		}
	case <-time.After(20 * time.Second):
		t.Error("it does not end")
	}
}

// TestOnlyHere refuses addresses that others could reach.
func TestOnlyHere(t *testing.T) {
	for _, a := range []string{"0.0.0.0:8085", ":8085", "192.0.2.1:80", "ferry.example:80", "8085", ""} {
		if err := serve.Folder(t.Context(), fstest.MapFS{}, a, func(string) { t.Errorf("%s is served", a) }); err == nil {
			t.Errorf("%s: no error", a)
		}
	}
}
