package site

import (
	"bytes"
	"compress/gzip"
	"context"
	"fmt"
	"net"
	"net/http"
	"net/http/httptest"
	"net/netip"
	"net/url"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/andybalholm/brotli"
)

// small are limits that a test reaches quickly.
var small = Limits{Body: 64 << 10, Total: 256 << 10, Time: 2 * time.Second, Redirects: 4}

// serveOn serves a handler and gives a client for it.
func serveOn(t *testing.T, h http.HandlerFunc) (*Client, string) {
	t.Helper()
	s := httptest.NewServer(h)
	t.Cleanup(s.Close)
	c, err := New(s.URL, Options{Limits: small})
	if err != nil {
		t.Fatal(err)
	}
	return c, s.URL
}

// TestHostileServers holds that each ends in one clear error, in bounded time.
func TestHostileServers(t *testing.T) {
	endless := func(w http.ResponseWriter, _ *http.Request) {
		block := bytes.Repeat([]byte("a"), 32<<10)
		for {
			if _, err := w.Write(block); err != nil {
				return
			}
		}
	}
	var bomb bytes.Buffer
	z := gzip.NewWriter(&bomb)
	_, _ = z.Write(make([]byte, 16<<20))
	z.Close()
	for _, c := range []struct {
		name, want string
		handler    http.HandlerFunc
	}{
		{"an endless body", "longer than 0 MB", endless},
		{"a slow drip", "longer than 2s", func(w http.ResponseWriter, r *http.Request) {
			for range 100 {
				fmt.Fprint(w, "x")
				w.(http.Flusher).Flush()
				select {
				case <-time.After(50 * time.Millisecond):
				case <-r.Context().Done():
					return
				}
			}
		}},
		{"no answer at all", "longer than 2s", func(_ http.ResponseWriter, r *http.Request) { <-r.Context().Done() }},
		{"a redirect loop", "more than 4 redirects", func(w http.ResponseWriter, r *http.Request) { http.Redirect(w, r, r.URL.Path+"x", http.StatusFound) }},
		{"a redirect to a file", "not followed", func(w http.ResponseWriter, r *http.Request) {
			w.Header().Set("Location", "file:///etc/hostname")
			w.WriteHeader(http.StatusFound)
		}},
		{"a gzip bomb", "longer than 0 MB", func(w http.ResponseWriter, _ *http.Request) {
			w.Header().Set("Content-Encoding", "gzip")
			_, _ = w.Write(bomb.Bytes())
		}},
		{"no gzip at all", "not the gzip", func(w http.ResponseWriter, _ *http.Request) {
			w.Header().Set("Content-Encoding", "gzip")
			fmt.Fprint(w, "plain words, and many of them")
		}},
		{"an unknown packing", "not asked for", func(w http.ResponseWriter, _ *http.Request) {
			w.Header().Set("Content-Encoding", "zstd")
			fmt.Fprint(w, "x")
		}},
		{"a body that is cut off", "cut off", func(w http.ResponseWriter, _ *http.Request) {
			w.Header().Set("Content-Length", "1000")
			fmt.Fprint(w, "short")
		}},
		{"an error", "404 Not Found", http.NotFound},
	} {
		client, address := serveOn(t, c.handler)
		start := time.Now()
		_, err := client.Get(t.Context(), address, nil)
		if err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%s: %v, not %q", c.name, err, c.want)
		}
		if took := time.Since(start); took > time.Minute {
			t.Errorf("%s: it took %s", c.name, took)
		}
	}
}

// TestPackings reads what servers may send.
func TestPackings(t *testing.T) {
	const want = "body{color:teal}"
	client, address := serveOn(t, func(w http.ResponseWriter, r *http.Request) {
		if len(r.Cookies()) > 0 {
			t.Error("a cookie was sent back")
		}
		w.Header().Set("Set-Cookie", "a=b")
		switch r.URL.Path {
		case "/gzip":
			w.Header().Set("Content-Encoding", "gzip")
			z := gzip.NewWriter(w)
			fmt.Fprint(z, want)
			z.Close()
		case "/br":
			w.Header().Set("Content-Encoding", "br")
			z := brotli.NewWriter(w)
			fmt.Fprint(z, want)
			z.Close()
		default:
			fmt.Fprint(w, want)
		}
	})
	for _, p := range []string{"/", "/gzip", "/br"} {
		a, err := client.Get(t.Context(), address+p, nil)
		if err != nil || string(a.Data) != want {
			t.Errorf("%s: %v %v", p, a, err)
		}
	}
}

// TestPublicSitesLeadNowherePrivate holds that the address that is dialled decides, whatever a name resolved to before.
func TestPublicSitesLeadNowherePrivate(t *testing.T) {
	c, err := New("http://ferry.example/", Options{})
	if err != nil {
		t.Fatal(err)
	}
	if err := c.guard.allow(true, "93.184.215.14:80"); err != nil {
		t.Fatal(err)
	}
	for _, to := range []string{"127.0.0.1:80", "10.0.0.8:80", "192.168.1.1:80", "169.254.169.254:80", "[::1]:80", "[fd00::1]:80", "[::ffff:10.0.0.1]:80", "0.0.0.0:80",
		"100.64.0.1:80", "[64:ff9b::a00:1]:80"} {
		if err := c.guard.allow(false, to); err != errPrivate {
			t.Errorf("%s: %v", to, err)
		}
	}
	if err := c.guard.allow(false, "93.184.215.15:443"); err != nil {
		t.Error(err)
	}
	for _, s := range []string{"8.8.8.8", "2606:2800:220:1::1"} {
		if isPrivate(netip.MustParseAddr(s)) {
			t.Errorf("%s counts as private", s)
		}
	}
}

// TestARedirectToAPrivateAddress goes through a real server that plays a public one.
func TestARedirectToAPrivateAddress(t *testing.T) {
	secret := httptest.NewServer(http.HandlerFunc(func(http.ResponseWriter, *http.Request) { t.Error("the private server was asked") }))
	defer secret.Close()
	client, address := serveOn(t, func(w http.ResponseWriter, r *http.Request) { http.Redirect(w, r, secret.URL, http.StatusFound) })
	client.guard.kind = public // as if the site itself had a public address
	host := strings.TrimPrefix(address, "http://")
	transport := client.http.Transport.(*http.Transport)
	guarded := transport.DialContext
	transport.DialContext = func(ctx context.Context, network, to string) (net.Conn, error) {
		if to == host {
			return (&net.Dialer{}).DialContext(ctx, network, to)
		}
		return guarded(ctx, network, to)
	}
	if _, err := client.Get(t.Context(), address, nil); err != errPrivate {
		t.Errorf("%v", err)
	}
}

// TestTheFirstAddressMayBeAnothers holds that a public site is known as one before it was dialled itself: its page came
// from a browser, and what is fetched first is a sheet on a private host.
func TestTheFirstAddressMayBeAnothers(t *testing.T) {
	secret := httptest.NewServer(http.HandlerFunc(func(http.ResponseWriter, *http.Request) { t.Error("the private server was asked") }))
	defer secret.Close()
	for _, site := range []string{"http://93.184.215.14/", "http://no-such-host.invalid/"} {
		c, err := New(site, Options{})
		if err != nil {
			t.Fatal(err)
		}
		if _, err := c.Get(t.Context(), secret.URL, nil); err != errPrivate {
			t.Errorf("%s: %v", site, err)
		}
	}
	c, err := New("http://127.0.0.1:1/", Options{}) // a site of this machine may ask another
	if err != nil {
		t.Fatal(err)
	}
	open := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) { fmt.Fprint(w, "x") }))
	defer open.Close()
	if _, err := c.Get(t.Context(), open.URL, nil); err != nil {
		t.Error(err)
	}
}

// TestANameThatChangesItsMind holds that the site's own name may not come to mean a private address later.
func TestANameThatChangesItsMind(t *testing.T) {
	var g guard
	if err := g.allow(true, "93.184.215.14:80"); err != nil {
		t.Fatal(err)
	}
	if err := g.allow(true, "127.0.0.1:80"); err != errPrivate {
		t.Errorf("%v", err)
	}
}

// TestHeadersAreNotSentInTheOpen holds that a site over TLS gets its headers over TLS alone.
func TestHeadersAreNotSentInTheOpen(t *testing.T) {
	for _, c := range []struct {
		site, to string
		want     bool
	}{
		{"https://ferry.example/", "https://ferry.example/a", true},
		{"https://ferry.example/", "http://ferry.example/a", false},
		{"http://ferry.example/", "http://ferry.example/a", true},
		{"http://ferry.example/", "https://ferry.example/a", true},
		{"https://ferry.example/", "https://ferry.example:8443/a", false},
		{"https://ferry.example/", "https://cdn.ferry.example/a", false},
	} {
		client, err := New(c.site, Options{})
		if err != nil {
			t.Fatal(err)
		}
		u, err := url.Parse(c.to)
		if err != nil {
			t.Fatal(err)
		}
		if client.own(u) != c.want {
			t.Errorf("%s to %s: %v", c.site, c.to, !c.want)
		}
	}
}

// TestHeadersStayWithTheSite holds that what is for the site is sent to no other host.
func TestHeadersStayWithTheSite(t *testing.T) {
	other := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if v := r.Header.Get("X-Ferry"); v != "" {
			t.Errorf("another host got %q", v)
		}
		fmt.Fprint(w, "x")
	}))
	defer other.Close()
	s := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Header.Get("X-Ferry") != "secret" || !strings.HasPrefix(r.Header.Get("User-Agent"), "Archetyp/") {
			t.Errorf("headers %v", r.Header)
		}
		http.Redirect(w, r, other.URL, http.StatusFound)
	}))
	defer s.Close()
	c, err := New(s.URL, Options{Headers: map[string]string{"X-Ferry": "secret"}})
	if err != nil {
		t.Fatal(err)
	}
	if _, err := c.Get(t.Context(), s.URL, nil); err != nil {
		t.Error(err)
	}
	if _, err := c.Get(t.Context(), other.URL, nil); err != nil {
		t.Error(err)
	}
}

// TestUnchangedIsNotFetchedAgain asks with the validators of before.
func TestUnchangedIsNotFetchedAgain(t *testing.T) {
	client, address := serveOn(t, func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("ETag", `"1"`)
		if r.Header.Get("If-None-Match") == `"1"` {
			w.WriteHeader(http.StatusNotModified)
			return
		}
		fmt.Fprint(w, "first")
	})
	a, err := client.Get(t.Context(), address, nil)
	if err != nil {
		t.Fatal(err)
	}
	b, err := client.Get(t.Context(), address, a)
	if err != nil || !b.Unchanged || string(b.Data) != "first" {
		t.Errorf("%+v %v", b, err)
	}
}

// linksIn are the links of the simple pages of these tests.
func linksIn(a *Answer) (out Links) {
	base, _ := url.Parse(a.URL)
	for _, f := range strings.Fields(string(a.Data)) {
		if rest, ok := strings.CutPrefix(f, "canonical="); ok {
			out.Canonical = rest
		} else if u, err := base.Parse(f); err == nil {
			out.Pages = append(out.Pages, u.String())
		}
	}
	return out
}

// TestFollow follows links and the site map, as robots.txt allows, each page once.
func TestFollow(t *testing.T) {
	var asked atomic.Int32
	client, address := serveOn(t, func(w http.ResponseWriter, r *http.Request) {
		asked.Add(1)
		w.Header().Set("Content-Type", "text/html")
		switch r.URL.Path {
		case "/robots.txt":
			w.Header().Set("Content-Type", "text/plain")
			fmt.Fprint(w, "User-agent: *\nDisallow: /drafts/\nSitemap: /map.xml\n")
		case "/map.xml":
			fmt.Fprint(w, `<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"><url><loc>/hidden</loc></url></urlset>`)
		case "/":
			fmt.Fprint(w, "/a /b /drafts/x /missing http://elsewhere.example/ mailto:x@y.example /a /twin")
		case "/twin":
			fmt.Fprintf(w, "canonical=http://%s/a", r.Host)
		case "/missing":
			http.NotFound(w, r)
		default:
			fmt.Fprint(w, "/ /a "+r.URL.Path)
		}
	})
	pages, failed, err := client.Follow(t.Context(), address+"/", Following{Most: 10, LinksOf: linksIn})
	if err != nil {
		t.Fatal(err)
	}
	var got []string
	for _, p := range pages {
		u, _ := url.Parse(p.URL)
		got = append(got, u.Path)
	}
	if s := strings.Join(got, " "); s != "/ /a /b /hidden" {
		t.Error(s)
	}
	if len(failed) != 1 || !strings.HasSuffix(failed[0].URL, "/missing") || !strings.Contains(failed[0].Reason, "404") {
		t.Errorf("%+v", failed)
	}
	if n := asked.Load(); n != 8 { // robots, map, and each page once
		t.Errorf("%d requests", n)
	}
	pages, _, err = client.Follow(t.Context(), address+"/", Following{Most: 2, LinksOf: linksIn})
	if err != nil || len(pages) != 2 {
		t.Errorf("%d pages, %v", len(pages), err)
	}
}

// TestRobotsOfOtherHosts holds that a listed host is asked for its own robots.txt.
func TestRobotsOfOtherHosts(t *testing.T) {
	other := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("Content-Type", "text/html")
		switch r.URL.Path {
		case "/robots.txt":
			fmt.Fprint(w, "User-agent: Archetyp\nDisallow: /closed\n")
		case "/closed":
			t.Error("what robots.txt closes was fetched")
		}
		fmt.Fprint(w, r.URL.Path)
	}))
	defer other.Close()
	s := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("Content-Type", "text/html")
		if r.URL.Path == "/" {
			fmt.Fprint(w, other.URL+"/open "+other.URL+"/closed")
			return
		}
		http.NotFound(w, r)
	}))
	defer s.Close()
	c, err := New(s.URL, Options{Hosts: []string{strings.TrimPrefix(other.URL, "http://")}})
	if err != nil {
		t.Fatal(err)
	}
	pages, failed, err := c.Follow(t.Context(), s.URL+"/", Following{Most: 9, LinksOf: linksIn})
	if err != nil || len(pages) != 2 || pages[1].URL != other.URL+"/open" || len(failed) > 0 {
		t.Errorf("%d pages, %v, %v", len(pages), failed, err)
	}
}

// TestManyLinks holds that a page with very many links costs no more than those that are followed.
func TestManyLinks(t *testing.T) {
	var b strings.Builder
	for i := range 100000 {
		fmt.Fprintf(&b, "/p%d ", i)
	}
	var asked atomic.Int32
	s := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		asked.Add(1)
		w.Header().Set("Content-Type", "text/html")
		fmt.Fprint(w, b.String()+r.URL.Path)
	}))
	defer s.Close()
	c, err := New(s.URL, Options{})
	if err != nil {
		t.Fatal(err)
	}
	pages, _, err := c.Follow(t.Context(), s.URL, Following{Most: 5, LinksOf: linksIn})
	if err != nil || len(pages) != 5 || asked.Load() > 12 {
		t.Errorf("%d pages, %d requests, %v", len(pages), asked.Load(), err)
	}
}

func TestNoAddress(t *testing.T) {
	for _, a := range []string{"", "ferry.example", "ftp://ferry.example/", "http://", "file:///etc/passwd", "::"} {
		if _, err := New(a, Options{}); err == nil || !strings.Contains(err.Error(), "is no address") {
			t.Errorf("%q: %v", a, err)
		}
	}
}
