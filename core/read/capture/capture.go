// Package capture reads what was captured of a live site: a folder whose capture.json says which file is what. In go its
// bytes and a way to read the files beside it, out comes a document with a screen for each page.
package capture

import (
	"bytes"
	"encoding/json"
	"fmt"
	"path"
	"sort"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/limit"
	"archetyp/core/markup"
	"archetyp/core/read/page"
)

// Name is the file that makes a folder a capture.
const Name = "capture.json"

// Capture is capture.json. Paths are from its folder, addresses absolute.
type Capture struct {
	Version   int             `json:"capture"` // 1
	Site      string          `json:"site"`
	Address   string          `json:"address"`
	Browser   bool            `json:"browser,omitempty"`
	Viewports []string        `json:"viewports"`
	Schemes   []string        `json:"schemes"`
	Pages     []Page          `json:"pages"`
	Files     map[string]File `json:"files"` // by address
	Failed    []Failure       `json:"failed,omitempty"`
}

// Page is a page as it came.
type Page struct {
	Address string `json:"address"`
	File    string `json:"file"`
	Type    string `json:"type"`
	Title   string `json:"title"`
	Views   []View `json:"views,omitempty"` // as a browser saw it
}

// View is a page in a window, as a browser saw it.
type View struct {
	Width   float64 `json:"width"`
	Height  float64 `json:"height"`
	Dark    bool    `json:"dark,omitempty"`
	File    string  `json:"file"`              // the page after its scripts, its elements numbered
	Boxes   string  `json:"boxes"`             // page.Boxes as JSON
	Picture string  `json:"picture,omitempty"` // PNG
}

// File is what an address gave.
type File struct {
	File string `json:"file"`
	Type string `json:"type,omitempty"`
	URL  string `json:"url,omitempty"` // where it came from in the end, where that is another address
	ETag string `json:"etag,omitempty"`
	Date string `json:"lastModified,omitempty"`
}

// Failure is an address that gave nothing.
type Failure struct {
	URL    string `json:"url"`
	Reason string `json:"reason"`
}

// Is reports whether a file is a capture.json.
func Is(data []byte) bool {
	head := bytes.TrimLeft(data[:min(len(data), 256)], " \t\r\n")
	return bytes.HasPrefix(head, []byte("{")) && bytes.Contains(head, []byte(`"capture"`))
}

// Options say how a capture is read.
type Options struct {
	Medium css.Medium // its size is 0 for the first that was captured
	Marks  []design.SelectedMarks
	Load   func(path string) ([]byte, error)
	States map[string]bool // pseudo-classes in force
	Budget *limit.Budget
}

// Parse reads capture.json. The error is a *markup.Error.
func Parse(data []byte) (*Capture, error) {
	fail := func(offset int64, msg string) error {
		return &markup.Error{Position: markup.Lines(data).Position(int(offset)), Msg: msg, Hint: "archetyp capture writes it anew."}
	}
	var c Capture
	if err := json.Unmarshal(data, &c); err != nil {
		var at int64
		switch e := err.(type) {
		case *json.SyntaxError:
			at = e.Offset
		case *json.UnmarshalTypeError:
			at = e.Offset
		}
		return nil, fail(at, "this is no capture: "+err.Error())
	}
	if c.Version != 1 {
		return nil, fail(0, fmt.Sprintf("this capture has version %d; 1 is known", c.Version))
	}
	if len(c.Pages) == 0 {
		return nil, fail(0, "this capture has no page")
	}
	return &c, nil
}

// Read reads a capture into one document.
func Read(name string, data []byte, o Options) (*design.Document, error) {
	c, err := Parse(data)
	if err != nil {
		return nil, err
	}
	if o.Load == nil {
		return nil, &markup.Error{Position: markup.Position{Line: 1, Column: 1}, Msg: "the files of the capture cannot be read from here"}
	}
	if o.Medium.Width == 0 {
		o.Medium.Width, o.Medium.Height = 1280, 800
	}
	out := &design.Document{Name: name, Format: "capture"}
	all := &styles{}
	names := map[string]int{}
	for i := range c.Pages {
		doc, p, err := c.page(&c.Pages[i], name, o)
		if err != nil {
			return nil, err
		}
		all.pages = append(all.pages, p)
		if out.Markup == nil {
			out.Markup = doc.Markup
		}
		out.Boxless = out.Boxless || doc.Boxless
		for _, s := range doc.Screens {
			if names[s.Name]++; names[s.Name] > 1 {
				s.Name = fmt.Sprintf("%s (%d)", s.Name, names[s.Name])
			}
			out.Screens = append(out.Screens, s)
		}
		for _, w := range doc.Warnings {
			out.Warnings = append(out.Warnings, design.Warning{Position: markup.Position{Line: 1, Column: 1}, Msg: c.Pages[i].File + ": " + w.Msg})
		}
	}
	out.Styles = all
	return out, nil
}

// ReadPage reads one page of a capture as a document of its own, called by the file of the page. name is that of
// capture.json.
func (c *Capture) ReadPage(i int, name string, o Options) (*design.Document, error) {
	doc, _, err := c.page(&c.Pages[i], name, o)
	if err == nil {
		doc.Name = doc.Screens[0].In
	}
	return doc, err
}

// page reads one page, with boxes where it was captured so.
func (c *Capture) page(p *Page, name string, o Options) (*design.Document, *page.Page, error) {
	file, kind := p.File, p.Type
	po := page.Options{Name: path.Join(path.Dir(name), p.File), URL: p.Address, Medium: o.Medium, Budget: o.Budget, Load: c.loader(o.Load), States: o.States}
	if v := p.view(o.Medium); v != nil {
		shot, err := v.shot(o.Load)
		if err != nil {
			return nil, nil, err
		}
		po.Shot, file, kind = shot, v.File, "text/html; charset=utf-8"
	}
	data, err := o.Load(file)
	if err != nil {
		return nil, nil, &markup.Error{Position: markup.Position{Line: 1, Column: 1}, Msg: file + ": " + err.Error(), Hint: "archetyp capture writes it anew."}
	}
	po.ContentType = kind
	read, err := page.Read(data, po)
	if err != nil {
		return nil, nil, err
	}
	doc := read.Document(name, page.DocumentOptions{Marks: o.Marks})
	for _, s := range doc.Screens {
		s.In = path.Join(path.Dir(name), file)
	}
	return doc, read, nil
}

// view is how a browser saw a page in a medium; nil where it did not.
func (p *Page) view(m css.Medium) *View {
	for i := range p.Views {
		if v := &p.Views[i]; v.Width == m.Width && v.Dark == m.Dark {
			return v
		}
	}
	return nil
}

func (v *View) shot(load func(string) ([]byte, error)) (*page.Shot, error) {
	data, err := load(v.Boxes)
	shot := &page.Shot{}
	if err == nil {
		err = json.Unmarshal(data, &shot.Boxes)
	}
	if err != nil {
		return nil, &markup.Error{Position: markup.Position{Line: 1, Column: 1}, Msg: v.Boxes + ": " + err.Error(), Hint: "archetyp capture writes it anew."}
	}
	if v.Picture != "" {
		shot.Picture, _ = load(v.Picture) // without it there are boxes still
	}
	return shot, nil
}

// loader gives what was captured of addresses.
func (c *Capture) loader(load func(string) ([]byte, error)) func(string) (page.Loaded, error) {
	return func(address string) (page.Loaded, error) {
		f, ok := c.Files[address]
		if !ok {
			return page.Loaded{}, fmt.Errorf("it was not captured")
		}
		data, err := load(f.File)
		return page.Loaded{Data: data, ContentType: f.Type, URL: f.URL}, err
	}
}

// Paths are all files of the capture, in order.
func (c *Capture) Paths() (out []string) {
	seen := map[string]bool{}
	add := func(p string) {
		if p != "" && !seen[p] {
			seen[p] = true
			out = append(out, p)
		}
	}
	for _, p := range c.Pages {
		add(p.File)
		for _, v := range p.Views {
			add(v.File)
			add(v.Boxes)
			add(v.Picture)
		}
	}
	for _, f := range c.Files {
		add(f.File)
	}
	sort.Strings(out)
	return out
}

// styles answers for the pages of a capture together.
type styles struct{ pages []*page.Page }

func (s *styles) of(n *markup.Node) *page.Page {
	for _, p := range s.pages {
		if found := p.Of(n); found != nil {
			return found
		}
	}
	return s.pages[0]
}

func (s *styles) Nodes(sel *css.Selector) (out []*markup.Node) {
	for _, p := range s.pages {
		out = append(out, p.Nodes(sel)...)
	}
	return out
}

func (s *styles) Computed(n *markup.Node, property string) (string, bool) {
	return s.of(n).Computed(n, property)
}
func (s *styles) Differs(n *markup.Node, property string) bool { return s.of(n).Differs(n, property) }
func (s *styles) Properties(n *markup.Node) []string           { return s.of(n).Properties(n) }
func (s *styles) Rules(n *markup.Node) []design.StyleRule      { return s.of(n).Rules(n) }
func (s *styles) Declared(n *markup.Node) []design.Declaration { return s.of(n).Declared(n) }
func (s *styles) Same(n *markup.Node) any                      { return s.of(n).Same(n) }
func (s *styles) Set(n *markup.Node) []string                  { return s.of(n).Set(n) }
func (s *styles) Parts(n *markup.Node) []*markup.Node          { return s.of(n).Parts(n) }
func (s *styles) States(n *markup.Node) []design.StyleRule     { return s.of(n).States(n) }

// Pictures are those of all pages, each once.
func (s *styles) Pictures() (out []design.PagePicture) {
	seen := map[[2]string]bool{}
	for _, p := range s.pages {
		for _, u := range p.Pictures() {
			if key := [2]string{u.Kind, u.Address}; u.Address == "" || !seen[key] {
				seen[key] = true
				out = append(out, u)
			}
		}
	}
	return out
}

func (s *styles) Sheets() (out []design.StyleSheet) {
	seen := map[string]bool{}
	for _, p := range s.pages {
		for _, x := range p.Sheets() {
			if !seen[x.Name+"\x00"+x.Text] {
				seen[x.Name+"\x00"+x.Text] = true
				out = append(out, x)
			}
		}
	}
	return out
}
func (s *styles) Why(n *markup.Node, property string) []design.StyleDeclaration {
	return s.of(n).Why(n, property)
}
