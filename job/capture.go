package job

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"mime"
	"net/url"
	"path"
	"sort"
	"strings"
	"sync"

	"archetyp/browser"
	"archetyp/core/css"
	"archetyp/core/hint"
	"archetyp/core/read/capture"
	"archetyp/core/read/page"
	"archetyp/site"
	"archetyp/workspace"

	"golang.org/x/sync/errgroup"
)

// Captured says what a capture read and wrote.
type Captured struct {
	Site    string            `json:"site"`
	Folder  string            `json:"folder"`
	Pages   int               `json:"pages"`
	Files   int               `json:"files"` // sheets, pictures and fonts
	Views   int               `json:"views"` // of pages in a browser
	Bytes   int64             `json:"bytes"`
	Changed []string          `json:"changed"` // files that are new or other than they were
	Gone    []string          `json:"gone"`
	Failed  []capture.Failure `json:"failed"`
}

// CaptureOptions say how a site is captured.
type CaptureOptions struct {
	Browser  bool
	Progress func(what string, done, all int)
}

// CaptureFolder is the folder of a site's capture in the workspace.
func CaptureFolder(name string) string { return workspace.CaptureDir + "/" + name }

// Capture reads a live site into its folder: all it means to or nothing.
func Capture(ctx context.Context, ws *workspace.Workspace, s workspace.Site, o CaptureOptions) (*Captured, error) {
	headers, err := s.Secrets()
	if err != nil {
		return nil, err
	}
	client, err := site.New(s.URL, site.Options{Headers: headers, Hosts: s.Hosts})
	if err != nil {
		return nil, err
	}
	if o.Progress == nil {
		o.Progress = func(string, int, int) {}
	}
	c := &capturing{ws: ws, site: s, client: client, folder: CaptureFolder(s.Name), o: o, files: map[string][]byte{}, taken: map[string]string{},
		out: &capture.Capture{Version: 1, Site: s.Name, Address: s.URL, Browser: o.Browser || s.Browser, Files: map[string]capture.File{}}}
	c.before()
	for _, v := range s.Windows() {
		c.out.Viewports = append(c.out.Viewports, v.String())
	}
	for _, dark := range s.Dark() {
		c.out.Schemes = append(c.out.Schemes, map[bool]string{false: "light", true: "dark"}[dark])
	}
	if err := c.pages(ctx); err != nil {
		return nil, err
	}
	if err := c.needs(ctx); err != nil {
		return nil, err
	}
	if c.out.Browser {
		if err := c.look(ctx, headers); err != nil {
			return nil, err
		}
	}
	return c.write()
}

// capturing is a capture under way.
type capturing struct {
	ws     *workspace.Workspace
	site   workspace.Site
	client *site.Client
	folder string
	o      CaptureOptions
	out    *capture.Capture
	files  map[string][]byte // by path in the folder
	taken  map[string]string // path → address
	old    *capture.Capture  // what was there
	seen   int               // views in the browser
}

// before reads the capture that is there, for its validators.
func (c *capturing) before() {
	data, err := c.ws.ReadFile(c.folder + "/" + capture.Name)
	if err == nil {
		c.old, _ = capture.Parse(data)
	}
}

// earlier is what an address gave last time.
func (c *capturing) earlier(address string) *site.Answer {
	if c.old == nil {
		return nil
	}
	f, ok := c.old.Files[address]
	if !ok || f.ETag == "" && f.Date == "" {
		return nil
	}
	data, err := c.ws.ReadFile(c.folder + "/" + f.File)
	if err != nil {
		return nil
	}
	return &site.Answer{Data: data, ContentType: f.Type, ETag: f.ETag, Date: f.Date, URL: address}
}

func (c *capturing) pages(ctx context.Context) error {
	pages, failed, err := c.client.Follow(ctx, c.site.URL, site.Following{Most: max(1, c.site.Follow), LinksOf: func(a *site.Answer) site.Links {
		l := page.LinksOf(a.Data, a.ContentType, a.URL)
		return site.Links{Canonical: l.Canonical, Pages: l.Pages}
	}, Before: c.earlier, Progress: func(done, known int) { c.o.Progress("pages", done, known) }})
	if err != nil {
		return hint.New(err.Error(), "Check the address, and whether the site is running.")
	}
	for _, a := range pages {
		p := capture.Page{Address: a.URL, Type: a.ContentType}
		p.File = c.name("pages", slugOf(a.URL, "index"), ".html", a.URL)
		p.Title = page.Title(a.Data, a.ContentType)
		c.files[p.File] = a.Data
		c.out.Pages = append(c.out.Pages, p)
		c.out.Files[a.URL] = capture.File{File: p.File, Type: a.ContentType, ETag: a.ETag, Date: a.Date}
	}
	for _, f := range failed {
		c.out.Failed = append(c.out.Failed, capture.Failure{URL: f.URL, Reason: f.Reason})
	}
	return nil
}

// slugOf is the last part of an address as the beginning of a file name.
func slugOf(address, or string) string {
	u, err := url.Parse(address)
	if err != nil {
		return or
	}
	name := strings.TrimSuffix(path.Base(u.Path), path.Ext(u.Path))
	if strings.HasSuffix(u.Path, "/") || u.Path == "" {
		if name = strings.Trim(u.Path, "/"); name == "" {
			name = or
		}
	}
	var b strings.Builder
	for _, r := range strings.ToLower(name) {
		if r >= 'a' && r <= 'z' || r >= '0' && r <= '9' || r == '.' || r == '_' {
			b.WriteRune(r)
		} else if b.Len() > 0 && !strings.HasSuffix(b.String(), "-") {
			b.WriteByte('-')
		}
	}
	if out := strings.Trim(b.String(), "-."); out != "" {
		return out[:min(len(out), 60)]
	}
	return or
}

// name is a free file name.
func (c *capturing) name(folder, slug, ext, address string) string {
	for i := 1; ; i++ {
		p := folder + "/" + slug + ext
		if i > 1 {
			p = fmt.Sprintf("%s/%s-%d%s", folder, slug, i, ext)
		}
		if at, used := c.taken[p]; !used || at == address {
			c.taken[p] = address
			return p
		}
	}
}

// fetch gets what a page needs, once.
func (c *capturing) fetch(ctx context.Context, address, folder string) (page.Loaded, error) {
	if f, ok := c.out.Files[address]; ok {
		return page.Loaded{Data: c.files[f.File], ContentType: f.Type, URL: f.URL}, nil
	}
	for _, f := range c.out.Failed {
		if f.URL == address {
			return page.Loaded{}, errors.New(f.Reason)
		}
	}
	a, err := c.client.Get(ctx, address, c.earlier(address))
	if err != nil {
		c.out.Failed = append(c.out.Failed, capture.Failure{URL: address, Reason: err.Error()})
		return page.Loaded{}, err
	}
	f := capture.File{Type: a.ContentType, ETag: a.ETag, Date: a.Date}
	if a.URL != address {
		f.URL = a.URL
	}
	if folder == "sheets" {
		f.File = c.name("sheets", slugOf(address, "style"), ".css", address)
	} else {
		sum := sha256.Sum256(a.Data)
		f.File = "files/" + hex.EncodeToString(sum[:8]) + extension(address, a.ContentType)
	}
	c.files[f.File] = a.Data
	c.out.Files[address] = f
	return page.Loaded{Data: a.Data, ContentType: a.ContentType, URL: f.URL}, nil
}

// extension is the extension for what an address gave.
func extension(address, contentType string) string {
	kind, _, _ := mime.ParseMediaType(contentType)
	if ext, ok := map[string]string{"image/svg+xml": ".svg", "image/png": ".png", "image/jpeg": ".jpg", "image/webp": ".webp", "image/gif": ".gif", "image/avif": ".avif",
		"font/woff2": ".woff2", "font/woff": ".woff", "font/ttf": ".ttf", "font/otf": ".otf", "image/x-icon": ".ico", "image/vnd.microsoft.icon": ".ico"}[kind]; ok {
		return ext
	}
	u, err := url.Parse(address)
	if err != nil {
		return ""
	}
	if ext := strings.ToLower(path.Ext(u.Path)); len(ext) > 1 && len(ext) <= 6 {
		return ext
	}
	return ".bin"
}

// needs fetches the sheets, pictures and fonts of all pages.
func (c *capturing) needs(ctx context.Context) error {
	for i := range c.out.Pages {
		p := &c.out.Pages[i]
		c.o.Progress("what pages need", i, len(c.out.Pages))
		windows, schemes := c.site.Windows(), c.site.Dark()
		var needs []string
		for _, v := range windows {
			for _, dark := range schemes {
				read, err := page.Read(c.files[p.File], page.Options{Name: p.Address, URL: p.Address, ContentType: p.Type,
					Medium: css.Medium{Width: v.Width, Height: v.Height, Dark: dark}, Load: func(address string) (page.Loaded, error) {
						return c.fetch(ctx, address, "sheets")
					}})
				if err != nil {
					return fmt.Errorf("%s: %w", p.Address, err)
				}
				needs = append(needs, read.Needs()...)
			}
		}
		for _, address := range needs {
			if ctx.Err() != nil {
				return ctx.Err()
			}
			_, _ = c.fetch(ctx, address, "files") // what fails is listed
		}
	}
	return nil
}

// look visits every page in a browser, at every viewport and scheme.
func (c *capturing) look(ctx context.Context, headers map[string]string) error {
	b, err := browser.Open(ctx)
	if err != nil {
		return err
	}
	defer b.Close()
	all := len(c.out.Pages) * len(c.site.Windows()) * len(c.site.Dark())
	pages := make(chan *capture.Page, len(c.out.Pages))
	for i := range c.out.Pages {
		pages <- &c.out.Pages[i]
	}
	close(pages)
	var mu sync.Mutex
	work, ctx := errgroup.WithContext(ctx)
	for i := range min(mostTabs, len(c.out.Pages)) {
		work.Go(func() (err error) {
			tab := b // opening another takes a while, in which the first is at work
			if i > 0 {
				if tab, err = b.Tab(); err != nil {
					return err
				}
				defer tab.Close()
			}
			for p := range pages {
				if ctx.Err() != nil {
					return ctx.Err()
				}
				if err := c.views(tab, p, headers, func(shot *browser.Snapshot, v capture.View) error {
					mu.Lock()
					defer mu.Unlock()
					c.o.Progress("views", c.seen, all)
					c.seen++
					return c.view(p, v, shot)
				}); err != nil {
					return err
				}
			}
			return nil
		})
	}
	return work.Wait()
}

// mostTabs is how many pages are open in the browser at a time.
const mostTabs = 4

// views visits a page at every viewport and scheme.
func (c *capturing) views(tab *browser.Browser, p *capture.Page, headers map[string]string, take func(*browser.Snapshot, capture.View) error) error {
	look := func(v browser.Visit) (*browser.Snapshot, error) { return tab.Snapshot(p.Address, v) }
	for _, w := range c.site.Windows() {
		for _, dark := range c.site.Dark() {
			v := browser.Visit{Width: int(w.Width), Height: int(w.Height), Dark: dark, Picture: true, Headers: headers}
			for _, s := range c.site.Steps {
				v.Steps = append(v.Steps, browser.Step{Click: s.Click, Wait: s.Wait})
			}
			shot, err := look(v)
			if err != nil {
				return fmt.Errorf("%s: %w", p.Address, err)
			}
			look = tab.Again
			if err := take(shot, capture.View{Width: w.Width, Height: w.Height, Dark: dark}); err != nil {
				return err
			}
		}
	}
	return nil
}

// view keeps what a browser showed.
func (c *capturing) view(p *capture.Page, v capture.View, shot *browser.Snapshot) error {
	base := "views/" + strings.TrimSuffix(path.Base(p.File), ".html") + "." + workspace.Viewport{Width: v.Width, Height: v.Height}.String()
	if v.Dark {
		base += ".dark"
	}
	v.File, v.Boxes, v.Picture = base+".html", base+".json", base+".png"
	data, err := json.Marshal(boxesOf(shot))
	if err != nil {
		return err
	}
	c.files[v.File], c.files[v.Boxes], c.files[v.Picture] = []byte(shot.HTML), append(data, '\n'), shot.Picture
	p.Views = append(p.Views, v)
	return nil
}

// write puts the folder in its place: what it no longer holds is deleted.
func (c *capturing) write() (*Captured, error) {
	sort.Slice(c.out.Failed, func(i, j int) bool { return c.out.Failed[i].URL < c.out.Failed[j].URL })
	var b bytes.Buffer
	enc := json.NewEncoder(&b)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", "  ")
	if err := enc.Encode(c.out); err != nil {
		return nil, err
	}
	c.files[capture.Name] = b.Bytes()
	out := &Captured{Site: c.site.Name, Folder: c.folder, Pages: len(c.out.Pages), Files: len(c.out.Files) - len(c.out.Pages), Views: c.seen, Failed: c.out.Failed}
	change := &workspace.Change{}
	for _, p := range sortedKeys(c.files) {
		full := c.folder + "/" + p
		out.Bytes += int64(len(c.files[p]))
		if old, err := c.ws.ReadFile(full); err != nil || !bytes.Equal(old, c.files[p]) {
			out.Changed = append(out.Changed, p)
			change.Put(c.ws, workspace.Captures, full, c.files[p])
		}
	}
	if c.old != nil {
		for _, p := range c.old.Paths() {
			if _, stays := c.files[p]; !stays {
				out.Gone = append(out.Gone, p)
				change.Remove(workspace.Captures, c.folder+"/"+p)
			}
		}
	}
	if len(out.Changed)+len(out.Gone) == 0 {
		return out, nil
	}
	return out, c.ws.Apply(change)
}
