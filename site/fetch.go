// Package site fetches live sites: pages and what they link to, over HTTP, politely and within bounds. Addresses go in,
// bytes come out. Nothing leads from a public address to a private one, whatever names and redirects say.
package site

import (
	"compress/flate"
	"compress/gzip"
	"compress/zlib"
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/url"
	"strings"
	"sync/atomic"
	"time"

	"archetyp/core/hint"

	"github.com/andybalholm/brotli"
)

// Agent is what the program calls itself.
const Agent = "Archetyp/0.1 (reads styles of pages; obeys robots.txt)"

// Limits bound what a site may cost.
type Limits struct {
	Body      int64         // bytes of one answer, unpacked
	Total     int64         // bytes of all answers
	Time      time.Duration // of one request, to its last byte
	Redirects int
}

// Usual are the default limits.
var Usual = Limits{Body: 32 << 20, Total: 512 << 20, Time: 20 * time.Second, Redirects: 8}

// Options say how a site is fetched.
type Options struct {
	Limits  Limits
	Headers map[string]string // for the site's own host only
	Hosts   []string          // other hosts that pages may be followed to
}

// Client fetches one site.
type Client struct {
	start *url.URL
	o     Options
	http  *http.Client
	guard guard
	total atomic.Int64
}

// Answer is what an address gave.
type Answer struct {
	URL         string // after redirects
	Status      int
	Data        []byte
	ContentType string
	ETag, Date  string // validators: ETag and Last-Modified
	Unchanged   bool   // the server said that it is as it was
}

// New makes a client for the site of an address.
func New(address string, o Options) (*Client, error) {
	u, err := url.Parse(address)
	if err != nil || u.Host == "" || u.Scheme != "http" && u.Scheme != "https" {
		return nil, hint.New(fmt.Sprintf("%q is no address of a page", address), "It begins with http:// or https://.")
	}
	if o.Limits == (Limits{}) {
		o.Limits = Usual
	}
	c := &Client{start: u, o: o, guard: guard{host: hostPort(u)}}
	c.http = &http.Client{
		Transport: &http.Transport{Proxy: nil, DialContext: c.guard.dial, MaxIdleConnsPerHost: 4, MaxResponseHeaderBytes: 1 << 20,
			ResponseHeaderTimeout: o.Limits.Time, TLSHandshakeTimeout: 10 * time.Second, DisableCompression: true, ForceAttemptHTTP2: true},
		CheckRedirect: func(r *http.Request, via []*http.Request) error {
			if len(via) > o.Limits.Redirects {
				return fmt.Errorf("more than %d redirects", o.Limits.Redirects)
			}
			if r.URL.Scheme != "http" && r.URL.Scheme != "https" {
				return fmt.Errorf("a redirect to %s:, which is not followed", r.URL.Scheme)
			}
			if !c.own(r.URL) { // the headers of the site are for no other
				for k := range c.o.Headers {
					r.Header.Del(k)
				}
			}
			return nil
		},
	}
	return c, nil
}

// Get fetches an address; validators are those of an earlier answer.
func (c *Client) Get(ctx context.Context, address string, before *Answer) (*Answer, error) {
	u, err := url.Parse(address)
	if err != nil {
		return nil, fmt.Errorf("%q is no address", address)
	}
	if u.Scheme != "http" && u.Scheme != "https" {
		return nil, fmt.Errorf("%s: is not followed from a site", u.Scheme)
	}
	u.Fragment = ""
	ctx, stop := context.WithTimeout(ctx, c.o.Limits.Time)
	defer stop()
	r, err := http.NewRequestWithContext(ctx, http.MethodGet, u.String(), nil)
	if err != nil {
		return nil, err
	}
	r.Header.Set("User-Agent", Agent)
	r.Header.Set("Accept-Encoding", "gzip, br, deflate")
	r.Header.Set("Accept", "text/html,application/xhtml+xml,text/css,image/*,*/*;q=0.8")
	if before != nil && before.ETag != "" {
		r.Header.Set("If-None-Match", before.ETag)
	}
	if before != nil && before.Date != "" {
		r.Header.Set("If-Modified-Since", before.Date)
	}
	if c.own(u) {
		for k, v := range c.o.Headers {
			r.Header.Set(k, v)
		}
	}
	resp, err := c.http.Do(r)
	if err != nil {
		return nil, c.reason(err)
	}
	defer resp.Body.Close()
	out := &Answer{URL: resp.Request.URL.String(), Status: resp.StatusCode, ContentType: resp.Header.Get("Content-Type"),
		ETag: resp.Header.Get("ETag"), Date: resp.Header.Get("Last-Modified")}
	if resp.StatusCode == http.StatusNotModified && before != nil {
		out.Data, out.ContentType, out.Unchanged = before.Data, before.ContentType, true
		return out, nil
	}
	if resp.StatusCode != http.StatusOK {
		return out, fmt.Errorf("the server answered %s", resp.Status)
	}
	out.Data, err = c.read(resp)
	if err != nil {
		return nil, c.reason(err)
	}
	return out, nil
}

// own reports whether an address gets the headers of the site: it has the site's host, and is not less secure.
func (c *Client) own(u *url.URL) bool {
	return u.Host == c.start.Host && (u.Scheme == c.start.Scheme || u.Scheme == "https")
}

// reason is an error without the address, which whoever asked names.
func (c *Client) reason(err error) error {
	var ue *url.Error
	if errors.As(err, &ue) {
		err = ue.Err
	}
	switch {
	case errors.Is(err, errPrivate):
		return errPrivate
	case errors.Is(err, context.DeadlineExceeded):
		return fmt.Errorf("it took longer than %s", c.o.Limits.Time)
	}
	var op *net.OpError
	if errors.As(err, &op) {
		var dns *net.DNSError
		if errors.As(err, &dns) {
			return fmt.Errorf("there is no host %s", dns.Name)
		}
		if op.Op == "dial" {
			return errors.New("nobody answers there")
		}
	}
	return err
}

// read unpacks a body, up to the limits.
func (c *Client) read(resp *http.Response) ([]byte, error) {
	body := io.Reader(resp.Body)
	for _, enc := range strings.Split(resp.Header.Get("Content-Encoding"), ",") {
		switch strings.ToLower(strings.TrimSpace(enc)) {
		case "", "identity":
		case "gzip", "x-gzip":
			z, err := gzip.NewReader(body)
			if err != nil {
				return nil, errors.New("the answer is not the gzip it says it is")
			}
			body = z
		case "br":
			body = brotli.NewReader(body)
		case "deflate":
			if z, err := zlib.NewReader(body); err == nil {
				body = z
			} else {
				body = flate.NewReader(body)
			}
		default:
			return nil, fmt.Errorf("the answer is packed as %q, which was not asked for", enc)
		}
	}
	most := c.o.Limits.Body
	data, err := io.ReadAll(io.LimitReader(body, most+1))
	switch {
	case int64(len(data)) > most:
		return nil, fmt.Errorf("the answer is longer than %d MB", most>>20)
	case errors.Is(err, io.ErrUnexpectedEOF):
		return nil, errors.New("the answer is cut off")
	case err != nil:
		return nil, err
	case c.total.Add(int64(len(data))) > c.o.Limits.Total:
		return nil, fmt.Errorf("the site is larger than %d MB in all", c.o.Limits.Total>>20)
	}
	return data, nil
}
