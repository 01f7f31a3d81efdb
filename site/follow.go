package site

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/xml"
	"fmt"
	"net/url"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/temoto/robotstxt"
)

// Failure is an address that gave nothing, and why.
type Failure struct {
	URL    string `json:"url"`
	Reason string `json:"reason"`
}

// Links is what a page leads to: its own address as it says it, and pages.
type Links struct {
	Canonical string
	Pages     []string
}

// Following says how pages are followed.
type Following struct {
	Most     int                      // pages, the first among them
	LinksOf  func(page *Answer) Links // of a page
	Progress func(done, known int)    // called after each page; may be nil
	Before   func(url string) *Answer // an earlier answer; nil for none
}

// atOnce is how many requests are under way at a time.
const atOnce = 4

// gap is how long a server that is not this machine's own is left alone between requests.
const gap = 200 * time.Millisecond

// Follow fetches a page and those it leads to on the same origin, breadth first, then those of the site map: each once,
// as robots.txt allows, a few at a time.
func (c *Client) Follow(ctx context.Context, start string, f Following) (pages []*Answer, failed []Failure, err error) {
	first, err := c.Get(ctx, start, f.before(start))
	if err != nil {
		return nil, nil, fmt.Errorf("%s: %w", start, err)
	}
	w := &walk{c: c, f: f, seen: map[string]bool{}, robots: map[string]*robotstxt.RobotsData{}}
	w.origin(first.URL)
	w.take(first)
	if f.Most > 1 {
		w.siteMap(ctx)
	}
	for len(w.pages) < f.Most && len(w.queue) > 0 && ctx.Err() == nil {
		batch := w.batch(ctx)
		answers, errs := make([]*Answer, len(batch)), make([]error, len(batch))
		var wg sync.WaitGroup
		for i, address := range batch {
			wg.Add(1)
			go func() {
				defer wg.Done()
				answers[i], errs[i] = c.Get(ctx, address, f.before(address))
			}()
		}
		wg.Wait()
		for i, a := range answers {
			switch {
			case errs[i] != nil:
				w.failed = append(w.failed, Failure{batch[i], errs[i].Error()})
			case !strings.Contains(a.ContentType, "html"):
			case !w.follows(a.URL):
				w.failed = append(w.failed, Failure{batch[i], "it leads to another host: " + a.URL})
			default:
				w.take(a)
			}
		}
		w.rest(ctx)
	}
	return w.pages, w.failed, ctx.Err()
}

// batch takes the next addresses from the queue that may be fetched.
func (w *walk) batch(ctx context.Context) (out []string) {
	for len(out) < min(atOnce, w.f.Most-len(w.pages)) && len(w.queue) > 0 {
		next := w.queue[0]
		w.queue = w.queue[1:]
		if w.allowed(ctx, next) {
			out = append(out, next)
		}
	}
	return out
}

func (f *Following) before(address string) *Answer {
	if f.Before == nil {
		return nil
	}
	return f.Before(address)
}

// walk is a walk through a site.
type walk struct {
	c      *Client
	f      Following
	host   string
	scheme string
	robots map[string]*robotstxt.RobotsData // by host; nil where there is none
	delay  time.Duration
	seen   map[string]bool // addresses, canonical ones among them
	queue  []string
	pages  []*Answer
	failed []Failure
}

func (w *walk) origin(address string) {
	if u, err := url.Parse(address); err == nil {
		w.host, w.scheme = u.Host, u.Scheme
	}
}

// follows reports whether an address is of the site, or of a host that is listed.
func (w *walk) follows(address string) bool {
	u, err := url.Parse(address)
	return err == nil && (u.Host == w.host && u.Scheme == w.scheme || slices.Contains(w.c.o.Hosts, u.Host))
}

// take keeps a page that has not been there under another address, and notes where it leads.
func (w *walk) take(a *Answer) {
	links := w.f.LinksOf(a)
	own := a.URL
	if links.Canonical != "" && w.follows(links.Canonical) {
		own = links.Canonical
	}
	same := "#" + string(hash(a.Data)) // "/" and "/index.html" are often one page
	if w.seen["="+own] || w.seen[same] {
		return
	}
	w.seen[same] = true
	w.seen["="+own], w.seen[own], w.seen[a.URL] = true, true, true
	w.pages = append(w.pages, a)
	for _, l := range links.Pages {
		w.note(l)
	}
	if w.f.Progress != nil {
		w.f.Progress(len(w.pages), min(w.f.Most, len(w.pages)+len(w.queue)))
	}
}

func hash(data []byte) []byte {
	sum := sha256.Sum256(data)
	return sum[:]
}

// mostQueued are as many addresses as wait to be fetched.
const mostQueued = 20000

func (w *walk) note(address string) {
	if w.seen[address] || !w.follows(address) || len(w.queue) >= mostQueued {
		return
	}
	w.seen[address] = true
	w.queue = append(w.queue, address)
}

// allowed reports whether the robots.txt of an address's host lets us fetch it. It is fetched once for each host; one
// that cannot be read forbids nothing.
func (w *walk) allowed(ctx context.Context, address string) bool {
	u, err := url.Parse(address)
	if err != nil {
		return false
	}
	r, known := w.robots[u.Host]
	if !known {
		r = w.fetchRobots(ctx, &url.URL{Scheme: u.Scheme, Host: u.Host, Path: "/robots.txt"})
		w.robots[u.Host] = r
	}
	return r == nil || r.FindGroup(robotName).Test(u.RequestURI())
}

// robotName is what robots.txt calls us.
const robotName = "Archetyp"

func (w *walk) fetchRobots(ctx context.Context, at *url.URL) *robotstxt.RobotsData {
	a, err := w.c.Get(ctx, at.String(), nil)
	if err != nil || len(a.Data) > 512<<10 {
		return nil
	}
	r, err := robotstxt.FromBytes(a.Data)
	if err != nil {
		return nil
	}
	w.delay = max(w.delay, min(r.FindGroup(robotName).CrawlDelay, 5*time.Second))
	return r
}

// siteMap notes the pages of the site map, and of those it lists.
func (w *walk) siteMap(ctx context.Context) {
	base := &url.URL{Scheme: w.scheme, Host: w.host, Path: "/"}
	list := []string{"/sitemap.xml"}
	if w.allowed(ctx, base.String()); w.robots[w.host] != nil && len(w.robots[w.host].Sitemaps) > 0 {
		list = w.robots[w.host].Sitemaps
	}
	for i := 0; i < len(list) && i < 20; i++ {
		u, err := base.Parse(list[i])
		if err != nil || !w.follows(u.String()) {
			continue
		}
		a, err := w.c.Get(ctx, u.String(), nil)
		if err != nil {
			continue
		}
		var doc struct {
			URLs []struct {
				Loc string `xml:"loc"`
			} `xml:"url"`
			Maps []struct {
				Loc string `xml:"loc"`
			} `xml:"sitemap"`
		}
		if xml.NewDecoder(bytes.NewReader(a.Data)).Decode(&doc) != nil {
			continue
		}
		for _, l := range doc.URLs {
			if to, err := u.Parse(strings.TrimSpace(l.Loc)); err == nil {
				w.note(to.String())
			}
		}
		for _, m := range doc.Maps {
			list = append(list, strings.TrimSpace(m.Loc))
		}
	}
}

// rest waits between requests, unless the site is this machine's own.
func (w *walk) rest(ctx context.Context) {
	wait := max(gap, w.delay)
	if w.c.guard.isPrivate() && w.delay == 0 {
		return
	}
	select {
	case <-time.After(wait):
	case <-ctx.Done():
	}
}
