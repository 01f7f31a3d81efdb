// Package read turns the bytes of design files into documents, whatever their format. A new format is a package beside
// svg and ora, and one line in the table.
package read

import (
	"errors"
	"net/url"
	"path"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/limit"
	"archetyp/core/read/capture"
	"archetyp/core/read/ora"
	"archetyp/core/read/page"
	"archetyp/core/read/svg"
)

// Options say how a file is read. Each format takes what it has a use for.
type Options struct {
	Fonts  *font.Set
	Marks  []design.SelectedMarks
	Root   float64                           // 1rem in px
	Load   func(href string) ([]byte, error) // what the file links to; nil for nothing
	Facts  bool                              // only facts are wanted: words are measured, and not painted
	Budget *limit.Budget                     // of work and time
	View   View                              // of a page
}

// View is what a page needs beside its bytes.
type View struct {
	Medium      css.Medium
	URL         string                                    // its address; "" for none
	ContentType string                                    // as the server said
	Shot        *page.Shot                                // what a browser saw of it; nil for none
	States      map[string]bool                           // pseudo-classes in force
	Fetch       func(address string) (page.Loaded, error) // what it links to; nil takes Load, by relative paths
}

// Format is a format of design files.
type Format struct {
	Name string
	Is   func(data []byte) bool // by what the file begins with
	Read func(name string, data []byte, o Options) (*design.Document, error)
}

// Formats are tried in their order; the last takes all that no other knows, and says what is wrong with it.
var Formats = []Format{
	{"OpenRaster", ora.Is, func(name string, data []byte, o Options) (*design.Document, error) {
		return ora.Read(name, data, ora.Options{Marks: o.Marks, Budget: o.Budget})
	}},
	{"capture", capture.Is, func(name string, data []byte, o Options) (*design.Document, error) {
		return capture.Read(name, data, capture.Options{Medium: o.View.Medium, Marks: o.Marks, Load: o.Load, Budget: o.Budget})
	}},
	{"HTML", page.Is, func(name string, data []byte, o Options) (*design.Document, error) {
		fetch := o.View.Fetch
		if fetch == nil && o.Load != nil {
			fetch = beside(o.View.URL, o.Load)
		}
		p, err := page.Read(data, page.Options{Name: name, URL: o.View.URL, ContentType: o.View.ContentType, Medium: o.View.Medium, Load: fetch,
			Budget: o.Budget, Shot: o.View.Shot, States: o.View.States})
		if err != nil {
			return nil, err
		}
		return p.Document(name, page.DocumentOptions{Marks: o.Marks}), nil
	}},
	{"SVG", func([]byte) bool { return true }, func(name string, data []byte, o Options) (*design.Document, error) {
		return svg.Read(name, data, svg.Options{Fonts: o.Fonts, Marks: o.Marks, Root: o.Root, Load: o.Load, Facts: o.Facts,
			Budget: o.Budget})
	}},
}

// beside loads what a page links to from where it lies: by the path from its folder.
func beside(base string, load func(href string) ([]byte, error)) func(string) (page.Loaded, error) {
	dir := base[:strings.LastIndexByte(base, '/')+1]
	return func(address string) (page.Loaded, error) {
		rel, _, _ := strings.Cut(strings.TrimPrefix(address, dir), "?")
		if dir != "" && !strings.HasPrefix(address, dir) {
			return page.Loaded{}, errors.New("only files beside the page are read")
		}
		if plain, err := url.PathUnescape(rel); err == nil {
			rel = plain
		}
		data, err := load(rel)
		return page.Loaded{Data: data}, err
	}
}

// Document reads a file. name is its name in the document. Faults have the place in the file: *markup.Error.
func Document(name string, data []byte, o Options) (*design.Document, error) {
	for _, f := range Formats {
		if f.Name == "HTML" && strings.EqualFold(path.Ext(name), ".svg") {
			continue // what calls itself a drawing is to be one
		}
		if f.Is(data) {
			return f.Read(name, data, o)
		}
	}
	return nil, nil // the last format takes all
}
