package job

import (
	"context"
	"net/url"
	"path/filepath"
	"strings"

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

// ReadAddress reads a live page without a browser; nothing is saved.
func ReadAddress(ctx context.Context, address string, v View, d workspace.Drawing, headers map[string]string) (*design.Document, error) {
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
	d.Shown, d.Context = address, ctx
	d.View = reading.View{Medium: v.medium(), URL: got.URL, ContentType: got.ContentType, Fetch: func(address string) (page.Loaded, error) {
		a, err := client.Get(ctx, address, nil)
		if err != nil {
			return page.Loaded{}, err
		}
		return page.Loaded{Data: a.Data, ContentType: a.ContentType, URL: a.URL}, nil
	}}
	d.Load = nil
	return workspace.ParseDrawing(got.Data, d)
}

// FileView is how a page on disk is looked at: it may link to any file that the machine lets it read, as in a browser.
func FileView(path string, v View) reading.View {
	abs, err := filepath.Abs(path)
	if err != nil {
		abs = path
	}
	base := (&url.URL{Scheme: "file", Path: filepath.ToSlash(abs)}).String()
	return reading.View{Medium: v.medium(), URL: base, Fetch: func(address string) (page.Loaded, error) {
		u, err := url.Parse(address)
		if err != nil || u.Scheme != "file" {
			return page.Loaded{}, hint.New("it is not on this machine", "Give the page's address instead of the file.")
		}
		data, err := workspace.ReadFile(filepath.FromSlash(u.Path), u.Path)
		return page.Loaded{Data: data}, err
	}}
}
