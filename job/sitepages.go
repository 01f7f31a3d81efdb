package job

import (
	"context"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"sync"

	"archetyp/browser"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/drift"
	"archetyp/core/font"
	"archetyp/core/hint"
	"archetyp/core/limit"
	reading "archetyp/core/read"
	"archetyp/core/read/capture"
	"archetyp/core/read/page"
	"archetyp/site"
	"archetyp/workspace"
)

// SitePage is a page of a site that can be looked at in many ways.
type SitePage struct {
	Name string // its path from the root of the site, without a leading slash; "" for the first
	File string // as it is shown: a path, or an address
	Base string // what addresses on it begin with
	read func(v drift.View) (*design.Document, error)
}

// mostSitePages is how many pages of a folder are read.
const mostSitePages = 500

// SiteReader reads sites: folders of pages, pages, captures and addresses.
type SiteReader struct {
	Context context.Context
	WS      *workspace.Workspace // nil for none
	Dir     string               // that paths are from
	Browser bool                 // pages are looked at in a browser
	Live    bool                 // sites of the configuration are read where they are, not from their captures

	mu    sync.Mutex
	seen  map[string]*browser.Snapshot // by address and window
	opens *browser.Browser
}

// Close ends the browser, where one was opened.
func (r *SiteReader) Close() {
	if r.opens != nil {
		r.opens.Close()
	}
}

// rendered is a page as a browser shows it, which looks at each window once.
func (r *SiteReader) rendered(address string, v drift.View, d workspace.Drawing, headers map[string]string) (*design.Document, error) {
	r.mu.Lock()
	defer r.mu.Unlock()
	view := View{Width: v.Width, Height: v.Height, Dark: v.Dark, Browser: true}
	key := fmt.Sprint(address, v.Width, v.Height, v.Dark)
	s := r.seen[key]
	if s == nil {
		var err error
		if r.opens == nil {
			if r.opens, err = browser.Open(r.Context); err != nil {
				return nil, err
			}
			r.seen = map[string]*browser.Snapshot{}
		}
		if s, err = r.opens.Snapshot(address, browser.Visit{Width: int(v.Width), Height: int(v.Height), Dark: v.Dark, Picture: true, Headers: headers}); err != nil {
			return nil, err
		}
		r.seen[key] = s
	}
	return ofSnapshot(s, address, view, d, headers)
}

// Pages are the pages of a site: a name in the configuration, an address, a folder, a page or a capture.
func (r *SiteReader) Pages(arg string) ([]SitePage, error) {
	if IsAddress(arg) {
		return r.live(SiteOf(arg, ""))
	}
	file := arg
	if !filepath.IsAbs(file) {
		file = filepath.Join(r.Dir, arg)
	}
	info, err := os.Stat(file)
	if err != nil && r.WS != nil {
		if s, ok := r.WS.Config.Site(arg); ok {
			folder := filepath.Join(r.WS.Dir, filepath.FromSlash(CaptureFolder(s.Name)))
			if _, err := os.Stat(filepath.Join(folder, capture.Name)); err != nil || r.Live {
				return r.live(s)
			}
			return r.captured(filepath.Join(folder, capture.Name), CaptureFolder(s.Name)+"/"+capture.Name)
		}
	}
	switch {
	case err != nil:
		return nil, hint.New(arg+": there is no such file or folder, and no site of that name", r.known())
	case !info.IsDir():
		return r.file(file, filepath.ToSlash(arg))
	}
	if _, err := os.Stat(filepath.Join(file, capture.Name)); err == nil {
		return r.captured(filepath.Join(file, capture.Name), path.Join(filepath.ToSlash(arg), capture.Name))
	}
	return r.folder(file, filepath.ToSlash(arg))
}

// known says which sites there are.
func (r *SiteReader) known() string {
	if r.WS == nil || len(r.WS.Config.Sites) == 0 {
		return "A folder of pages, a page, a capture or an address is wanted."
	}
	var names []string
	for _, s := range r.WS.Config.Sites {
		names = append(names, s.Name)
	}
	return "Sites here: " + strings.Join(names, ", ") + "."
}

// drawing is how the workspace has pages read.
func (r *SiteReader) drawing(shown string) workspace.Drawing {
	d := workspace.Drawing{Shown: shown, Fonts: &font.Set{}, Context: r.Context}
	if r.WS != nil {
		d.Marks, d.Root, d.Limits = r.WS.Config.SelectedMarks(), r.WS.Config.RootPx(), r.WS.Config.Budget()
	}
	return d
}

func mediumOf(v drift.View) (css.Medium, map[string]bool) {
	var states map[string]bool
	if v.State != "" {
		states = map[string]bool{v.State: true}
		if v.State == "focus" || v.State == "focus-visible" { // by the keyboard, so that both hold
			states["focus"], states["focus-visible"] = true, true
		}
	}
	return css.Medium{Width: v.Width, Height: v.Height, Dark: v.Dark}, states
}

// folder are the pages in a folder and below, by their names.
func (r *SiteReader) folder(dir, shown string) (out []SitePage, err error) {
	err = filepath.WalkDir(dir, func(p string, e fs.DirEntry, err error) error {
		switch {
		case err != nil:
			return err
		case e.IsDir() && p != dir && (strings.HasPrefix(e.Name(), ".") || e.Name() == "node_modules"):
			return filepath.SkipDir
		case e.IsDir() || !slices.Contains([]string{".html", ".htm", ".xhtml"}, strings.ToLower(filepath.Ext(p))):
			return nil
		}
		if len(out) >= mostSitePages {
			return hint.New(shown+": more than 500 pages", "Give a folder that holds fewer, or single pages.")
		}
		rel, err := filepath.Rel(dir, p)
		if err != nil {
			return err
		}
		rel = filepath.ToSlash(rel)
		s := r.onDisk(p, path.Join(shown, rel), dir)
		s.Name = rel
		out = append(out, s)
		return nil
	})
	if err == nil && len(out) == 0 {
		err = hint.New(shown+" has no pages", "Pages end in .html; a capture has a capture.json.")
	}
	return out, err
}

// file is a page, or the capture.json of a capture.
func (r *SiteReader) file(file, shown string) ([]SitePage, error) {
	data, err := workspace.ReadFile(file, shown)
	if err != nil {
		return nil, err
	}
	if capture.Is(data) {
		return r.captured(file, shown)
	}
	if !page.Is(data) {
		return nil, hint.New(shown+" is no page", "Pages are HTML. A drawing is held against a site with --design.")
	}
	return []SitePage{r.onDisk(file, shown, filepath.Dir(file))}, nil
}

// onDisk is a page in a folder.
func (r *SiteReader) onDisk(file, shown, root string) SitePage {
	return SitePage{Name: filepath.Base(file), File: shown, Base: strings.TrimSuffix(fileAddress(root), "/") + "/", read: func(v drift.View) (*design.Document, error) {
		data, err := workspace.ReadFile(file, shown)
		if err != nil {
			return nil, err
		}
		d := r.drawing(shown)
		medium, states := mediumOf(v)
		d.View = reading.View{Medium: medium, URL: fileAddress(file), Fetch: fetchFile, States: states}
		if r.Browser {
			return r.rendered(fileAddress(file), v, d, nil)
		}
		return workspace.ParseDrawing(data, d)
	}}
}

// captured are the pages of a capture.
func (r *SiteReader) captured(file, shown string) (out []SitePage, err error) {
	data, err := workspace.ReadFile(file, shown)
	if err != nil {
		return nil, err
	}
	c, err := capture.Parse(data)
	if err != nil {
		return nil, workspace.InFile(err, shown)
	}
	load := workspace.LinksBeside(filepath.Dir(file))
	for i := range c.Pages {
		p := &c.Pages[i]
		name := strings.TrimPrefix(strings.TrimPrefix(p.Address, "https://"), "http://")
		base := ""
		if u, err := url.Parse(p.Address); err == nil {
			name, base = strings.TrimPrefix(u.Path, "/"), u.Scheme+"://"+u.Host+"/"
		}
		out = append(out, SitePage{Name: name, File: path.Join(path.Dir(shown), p.File), Base: base, read: func(v drift.View) (*design.Document, error) {
			medium, states := mediumOf(v)
			d := r.drawing(shown)
			doc, err := c.ReadPage(i, shown, capture.Options{Medium: medium, Marks: d.Marks, States: states, Load: func(href string) ([]byte, error) { return load(href) },
				Budget: limit.On(r.Context, d.Limits)})
			return doc, workspace.InFile(err, shown)
		}})
	}
	return out, nil
}

// live are the pages of a site where it is: those that it leads to, as many as the configuration follows.
func (r *SiteReader) live(s workspace.Site) (out []SitePage, err error) {
	headers, err := s.Secrets()
	if err != nil {
		return nil, err
	}
	client, err := site.New(s.URL, site.Options{Headers: headers, Hosts: s.Hosts})
	if err != nil {
		return nil, err
	}
	pages, _, err := client.Follow(r.Context, s.URL, site.Following{Most: max(1, s.Follow), LinksOf: func(a *site.Answer) site.Links {
		l := page.LinksOf(a.Data, a.ContentType, a.URL)
		return site.Links{Canonical: l.Canonical, Pages: l.Pages}
	}})
	if err != nil {
		return nil, hint.New(err.Error(), "Check the address, and whether the site is running.")
	}
	fetched := fetchOnce(fetch(r.Context, client))
	for _, a := range pages {
		u, err := url.Parse(a.URL)
		if err != nil {
			return nil, err
		}
		out = append(out, SitePage{Name: strings.TrimPrefix(u.Path, "/"), File: a.URL, Base: u.Scheme + "://" + u.Host + "/", read: func(v drift.View) (*design.Document, error) {
			d := r.drawing(a.URL)
			medium, states := mediumOf(v)
			d.View = reading.View{Medium: medium, URL: a.URL, ContentType: a.ContentType, States: states, Fetch: fetched}
			if r.Browser {
				return r.rendered(a.URL, v, d, headers)
			}
			return workspace.ParseDrawing(a.Data, d)
		}})
	}
	return out, nil
}

// fetchOnce fetches every address once, however often it is asked for.
func fetchOnce(load func(string) (page.Loaded, error)) func(string) (page.Loaded, error) {
	var got memo[page.Loaded]
	return func(address string) (page.Loaded, error) {
		return got.get(address, func() (page.Loaded, error) { return load(address) })
	}
}
