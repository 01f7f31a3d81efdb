// Package page reads pages: HTML with the style sheets it asks for, without a browser. In go the bytes of a page and a
// way to load what it links to, out come its tree, the computed style of every element, and a design.Document.
package page

import (
	"bytes"
	"net/url"
	"strings"

	"archetyp/core/css"
	"archetyp/core/css/computed"
	"archetyp/core/limit"
	"archetyp/core/markup"
)

// Options say how a page is read.
type Options struct {
	Name        string // of the file or address, for those who ask where a rule stands
	URL         string // its address, against which those in it are; "" for a file without one
	ContentType string
	Medium      css.Medium
	Load        func(address string) (Loaded, error) // nil loads nothing
	States      map[string]bool                      // pseudo-classes in force
	Budget      *limit.Budget
	Shot        *Shot // what a browser saw of it; nil for none
}

// Is reports whether a file is a page, by what it begins with.
func Is(data []byte) bool {
	rest := bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))
	rest = rest[:min(len(rest), 4096)]
	for {
		rest = bytes.TrimLeft(rest, " \t\r\n\f")
		switch {
		case bytes.HasPrefix(rest, []byte("<!--")):
			end := bytes.Index(rest, []byte("-->"))
			if end < 0 {
				return false
			}
			rest = rest[end+3:]
		case bytes.HasPrefix(rest, []byte("<?xml")):
			end := bytes.Index(rest, []byte("?>"))
			if end < 0 {
				return false
			}
			rest = rest[end+2:]
		default:
			head := bytes.ToLower(rest[:min(len(rest), 64)])
			for _, tag := range []string{"<!doctype html", "<html", "<head", "<body", "<title", "<meta", "<main", "<div", "<p>", "<h1"} {
				if bytes.HasPrefix(head, []byte(tag)) {
					return true
				}
			}
			return false
		}
	}
}

// Page is a page with its styles.
type Page struct {
	Markup   *markup.Document
	Base     string // the address against which those in the page are
	sheets   []*css.Sheet
	Warnings []Warning

	Medium css.Medium

	shot                 *Shot
	numbers              map[*markup.Node]int // of elements, for their boxes
	partBoxes, textBoxes map[placed]int       // among those of the shot
	name                 string               // as it is shown
	address              string
	load                 func(string) (Loaded, error)
	lines                map[*css.Sheet]*markup.LineIndex
	styles               map[*markup.Node]*computed.Style
	main                 *computed.Page
	trees                map[*markup.Node]*computed.Page // by shadow root
	frames               map[*markup.Node]*Page          // pages in frames, as a browser saw them
	parts                []*markup.Node                  // pseudo-elements that show something
	partNodes            map[partKey]*markup.Node        // those that were asked for
	styled               []string                        // pseudo-elements that the sheets name; nil before they are asked for
	ids                  map[string]*markup.Node         // the first element of each id; nil before it is asked for
}

// Warning is something to know about a page that did not stop the reading.
type Warning struct {
	Position markup.Position
	Msg      string
}

// Read reads a page and computes the style of every element. Faults have the place in the file: *markup.Error.
func Read(data []byte, o Options) (*Page, error) {
	doc, err := markup.ParseHTML(data, o.ContentType, o.Budget)
	if err != nil {
		return nil, err
	}
	o.Medium.Page, o.Medium.Supports = true, computed.Supports
	p := &Page{Markup: doc, Medium: o.Medium, name: o.Name, address: o.URL, load: o.Load, lines: map[*css.Sheet]*markup.LineIndex{}, styles: map[*markup.Node]*computed.Style{}, trees: map[*markup.Node]*computed.Page{}}
	p.Base = p.base(o.URL)
	if o.Shot != nil {
		p.takeShot(&o)
	}
	p.main, p.sheets = p.cascade(doc.Root, &o)
	p.style(doc.Root, nil, p.main, &o)
	if err := p.main.Err(); err != nil {
		return nil, &markup.Error{Position: doc.Position(doc.Root.Offset), Msg: err.Error()}
	}
	return p, nil
}

// base is the address of the first <base href>, or the page's own.
func (p *Page) base(address string) string {
	base, found := address, false
	p.Markup.Root.Walk(func(n *markup.Node) bool {
		if href, ok := n.Attr("href"); ok && !found && n.HTML && n.Local == "base" {
			found = true
			if u, err := url.Parse(address); err == nil {
				if b, err := u.Parse(strings.TrimSpace(href)); err == nil {
					base = b.String()
				}
			}
		}
		return !found
	})
	return base
}

// byID is the first element of an id; nil for none.
func (p *Page) byID(id string) *markup.Node {
	if p.ids == nil {
		p.ids = map[string]*markup.Node{}
		p.Markup.Root.Walk(func(n *markup.Node) bool {
			if own := n.ID(); n.Kind == markup.Element && own != "" && p.ids[own] == nil {
				p.ids[own] = n
			}
			return true
		})
	}
	return p.ids[id]
}

// schemes are the colour schemes that the page says it has.
func (p *Page) schemes() (out []string) {
	p.Markup.Root.Walk(func(n *markup.Node) bool {
		if out == nil && n.HTML && n.Local == "meta" && strings.EqualFold(n.AttrOr("name", ""), "color-scheme") {
			out = strings.Fields(strings.ToLower(n.AttrOr("content", "")))
		}
		return out == nil
	})
	return out
}

// cascade prepares the sheets of a tree.
func (p *Page) cascade(root *markup.Node, o *Options) (*computed.Page, []*css.Sheet) {
	g := &gatherer{o: o, base: p.Base, texts: map[string]string{}, warn: func(n *markup.Node, msg string) {
		p.Warnings = append(p.Warnings, Warning{p.Markup.Position(n.Offset), msg})
	}}
	g.collect(root)
	own := browserSheets()
	sheets := []*css.Sheet{own[0]}
	if p.Markup.Quirks {
		sheets = append(sheets, own[1])
	}
	sheets = append(sheets, g.sheets...)
	c := computed.NewPage(root, sheets, o.Medium, o.States, hints, o.Budget)
	c.Quirks, c.Schemes = p.Markup.Quirks, p.schemes()
	c.URL = func(s *css.Sheet, ref string) string {
		if strings.HasPrefix(ref, "#") {
			return ref
		}
		base := p.Base
		if s != nil {
			base = s.Base
		}
		return g.resolve(base, ref)
	}
	return c, g.sheets
}

// style computes an element and all below it.
func (p *Page) style(n *markup.Node, parent *computed.Style, c *computed.Page, o *Options) {
	s := c.Style(n, parent)
	p.styles[n] = s
	if n.Shadow != nil {
		inner, _ := p.cascade(n.Shadow, o)
		inner.Within(c)
		p.trees[n.Shadow] = inner
		for _, k := range n.Shadow.Children {
			if k.Kind == markup.Element {
				p.style(k, s, inner, o)
			}
		}
	}
	if n.HTML && (n.Local == "details" || n.Local == "select") { // their contents stand in a slot of the browser's
		s = c.Slot(s, n.Local == "select")
	}
	for _, k := range n.Children {
		if k.Kind == markup.Element {
			p.style(k, s, c, o)
		}
	}
}

// Style is the computed style of an element; nil for what stands in a template.
func (p *Page) Style(n *markup.Node) *computed.Style { return p.styles[n] }

// Part is the computed style of a pseudo-element ("before") of an element.
func (p *Page) Part(n *markup.Node, part string) *computed.Style {
	s := p.styles[n]
	if s == nil {
		return nil
	}
	return p.treeOf(n).Part(n, s, part)
}

// treeOf is the tree that an element stands in: the page, or a shadow root.
func (p *Page) treeOf(n *markup.Node) *computed.Page {
	for r := n; r != nil; r = r.Parent {
		if t := p.trees[r]; t != nil {
			return t
		}
	}
	return p.main
}
