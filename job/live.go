package job

import (
	"context"
	"net/url"
	"path/filepath"
	"strings"

	"archetyp/browser"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/hint"
	reading "archetyp/core/read"
	"archetyp/core/read/page"
	"archetyp/site"
	"archetyp/workspace"
)

// View is how a page is looked at.
type View struct {
	Width, Height float64 // of the window, in px
	Dark          bool
	Browser       bool // in a real browser
}

func (v View) medium() css.Medium { return css.Medium{Width: v.Width, Height: v.Height, Dark: v.Dark} }

// IsAddress reports whether a SOURCE is the address of a live page.
func IsAddress(source string) bool {
	return strings.HasPrefix(source, "http://") || strings.HasPrefix(source, "https://")
}

// SiteOf is an address as a site without settings; name is that of its folder, "" for the host.
func SiteOf(address, name string) workspace.Site {
	s := workspace.Site{Name: name, URL: address}
	if u, err := url.Parse(address); err == nil && name == "" {
		s.Name = strings.ReplaceAll(u.Host, ":", "-")
	}
	return s
}

// ReadAddress reads a live page; nothing is saved.
func ReadAddress(ctx context.Context, address string, v View, d workspace.Drawing, headers map[string]string) (*design.Document, error) {
	d.Shown, d.Context = address, ctx
	if v.Browser {
		return rendered(address, v, d, headers)
	}
	client, err := site.New(address, site.Options{Headers: headers})
	if err != nil {
		return nil, err
	}
	got, err := client.Get(ctx, address, nil)
	if err != nil {
		return nil, hint.New(address+": "+err.Error(), "Check the address, and whether the site is running.")
	}
	if !strings.Contains(got.ContentType, "html") && !page.Is(got.Data) && !strings.Contains(got.ContentType, "svg") {
		return nil, hint.New(address+" is no page but "+got.ContentType, "Pages are HTML.")
	}
	d.View = reading.View{Medium: v.medium(), URL: got.URL, ContentType: got.ContentType, Fetch: fetch(ctx, client)}
	d.Load = nil
	return workspace.ParseDrawing(got.Data, d)
}

// fetch loads what a page of a site links to.
func fetch(ctx context.Context, client *site.Client) func(string) (page.Loaded, error) {
	return func(address string) (page.Loaded, error) {
		a, err := client.Get(ctx, address, nil)
		if err != nil {
			return page.Loaded{}, err
		}
		return page.Loaded{Data: a.Data, ContentType: a.ContentType, URL: a.URL}, nil
	}
}

// FileView is how a page on disk is looked at: it may link to any file that the machine lets it read, as in a browser.
func FileView(path string, v View) reading.View {
	return reading.View{Medium: v.medium(), URL: fileAddress(path), Fetch: fetchFile}
}

func fileAddress(path string) string {
	abs, err := filepath.Abs(path)
	if err != nil {
		abs = path
	}
	return (&url.URL{Scheme: "file", Path: filepath.ToSlash(abs)}).String()
}

func fetchFile(address string) (page.Loaded, error) {
	u, err := url.Parse(address)
	if err != nil || u.Scheme != "file" {
		return page.Loaded{}, hint.New("it is not on this machine", "Give the page's address instead of the file.")
	}
	data, err := workspace.ReadFile(filepath.FromSlash(u.Path), u.Path)
	return page.Loaded{Data: data}, err
}

// ReadSource reads a file; a page in a browser, where that is asked for.
func ReadSource(ctx context.Context, path string, data []byte, v View, d workspace.Drawing) (*design.Document, error) {
	if v.Browser && page.Is(data) {
		d.Context = ctx
		return rendered(fileAddress(path), v, d, nil)
	}
	return workspace.ParseDrawing(data, d)
}

// rendered reads a page in a browser: as it is after its scripts, with boxes and its picture. Its style sheets are
// fetched again, for where rules stand.
func rendered(address string, v View, d workspace.Drawing, headers map[string]string) (*design.Document, error) {
	b, err := browser.Open(d.Context)
	if err != nil {
		return nil, err
	}
	defer b.Close()
	s, err := b.Snapshot(address, browser.Visit{Width: int(v.Width), Height: int(v.Height), Dark: v.Dark, Picture: true, Headers: headers})
	if err != nil {
		return nil, err
	}
	return ofSnapshot(s, address, v, d, headers)
}

// ofSnapshot reads a page as a browser saw it.
func ofSnapshot(s *browser.Snapshot, address string, v View, d workspace.Drawing, headers map[string]string) (*design.Document, error) {
	d.View = reading.View{Medium: v.medium(), URL: s.URL, ContentType: "text/html; charset=utf-8", Fetch: fetchFile, States: d.View.States,
		Shot: &page.Shot{Boxes: boxesOf(s), Picture: s.Picture}}
	if IsAddress(address) {
		client, err := site.New(s.URL, site.Options{Headers: headers})
		if err != nil {
			return nil, err
		}
		d.View.Fetch = fetch(d.Context, client)
	}
	d.Load = nil
	return workspace.ParseDrawing([]byte(s.HTML), d)
}

// boxesOf are the boxes that a browser saw, as pages are read with them.
func boxesOf(s *browser.Snapshot) page.Boxes {
	out := page.Boxes{Width: s.Width, Height: s.Height, Elements: s.Boxes, Cut: s.Cut}
	for _, t := range s.Texts {
		out.Texts = append(out.Texts, page.TextBoxes(t))
	}
	for _, p := range s.Parts {
		out.Parts = append(out.Parts, page.PartBox(p))
	}
	for _, f := range s.Frames {
		out.Frames = append(out.Frames, page.Frame{Of: f.Of, HTML: f.Page.HTML, URL: f.Page.URL, Window: f.Page.Window, Boxes: boxesOf(&f.Page)})
	}
	return out
}
