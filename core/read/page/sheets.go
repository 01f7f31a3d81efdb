package page

import (
	_ "embed"
	"fmt"
	"net/url"
	"slices"
	"strings"
	"sync"

	"archetyp/core/css"
	"archetyp/core/markup"
)

//go:embed browser.css
var browserCSS string

//go:embed quirks.css
var quirksCSS string

// browserSheets are what a browser declares, read once.
var browserSheets = sync.OnceValue(func() [2]*css.Sheet {
	var out [2]*css.Sheet
	for i, text := range []string{browserCSS, quirksCSS} {
		out[i] = css.ParseSheet(text, css.Medium{Page: true})
		out[i].Origin, out[i].Name = css.OfBrowser, "the browser"
	}
	return out
})

// Loaded is what an address gave.
type Loaded struct {
	Data        []byte
	ContentType string // as the server said; "" for a file
	URL         string // after redirects
}

// maxImports is how many sheets may be imported inside one another.
const maxImports = 16

// gatherer collects the style sheets of a tree in their order.
type gatherer struct {
	o      *Options
	base   string // address against which those in the page are
	sheets []*css.Sheet
	warn   func(n *markup.Node, msg string)
	texts  map[string]string // by address
	total  int               // bytes so far
}

// collect reads the sheets of a tree, without those of shadow roots in it.
func (g *gatherer) collect(root *markup.Node) {
	root.Walk(func(n *markup.Node) bool {
		if n.Kind != markup.Element {
			return n.Kind == markup.Fragment
		}
		switch {
		case n.Local == "style" && (n.HTML || n.Space == markup.SVG):
			if g.holds(n) {
				text := n.TextContent()
				g.add(n, text, g.base, g.o.Name, n.End, nil, nil)
			}
			return false
		case n.Local == "link" && n.HTML && isSheet(n) && g.holds(n):
			if href := strings.TrimSpace(n.AttrOr("href", "")); href != "" {
				g.load(n, g.resolve(g.base, href), nil, nil)
			}
		}
		return true
	})
}

// holds reports whether the type and the medium of a style element or link fit.
func (g *gatherer) holds(n *markup.Node) bool {
	typ, _, _ := strings.Cut(strings.ToLower(strings.TrimSpace(n.AttrOr("type", ""))), ";")
	if typ != "" && typ != "text/css" {
		return false
	}
	return css.MatchMedia(n.AttrOr("media", ""), g.o.Medium)
}

// isSheet reports whether a link is to a style sheet in use.
func isSheet(n *markup.Node) bool {
	sheet := false
	for _, r := range strings.Fields(strings.ToLower(n.AttrOr("rel", ""))) {
		switch r {
		case "stylesheet":
			sheet = true
		case "alternate":
			if title, _ := n.Attr("title"); title != "" {
				return false
			}
		}
	}
	_, disabled := n.Attr("disabled")
	return sheet && !disabled
}

func (g *gatherer) resolve(base, ref string) string {
	b, err := url.Parse(base)
	if err != nil {
		return ref
	}
	u, err := b.Parse(ref)
	if err != nil {
		return ref
	}
	return u.String()
}

// load reads a sheet that stands elsewhere.
func (g *gatherer) load(n *markup.Node, address string, layers, within []string) {
	if g.o.Load == nil {
		g.warn(n, fmt.Sprintf("the style sheet %s was not read", address))
		return
	}
	text, known := g.texts[address]
	at := address
	if !known {
		got, err := g.o.Load(address)
		if err != nil {
			g.warn(n, fmt.Sprintf("the style sheet %s was not read: %v", address, err))
			return
		}
		if got.ContentType != "" && !strings.Contains(strings.ToLower(got.ContentType), "css") {
			g.warn(n, fmt.Sprintf("%s is no style sheet but %s", address, got.ContentType))
			return
		}
		if got.URL != "" {
			at = got.URL
		}
		text = css.Decode(got.Data, got.ContentType)
		g.texts[address] = text
	}
	g.add(n, text, at, at, 0, layers, within)
}

// maxSheet is how long a style sheet may be, in bytes; all of a page together may be four times as long.
const maxSheet = 16 << 20

// add reads a sheet, those that it imports first.
func (g *gatherer) add(n *markup.Node, text, base, name string, offset int, layers, within []string) {
	if g.total += len(text); len(text) > maxSheet || g.total > 4*maxSheet {
		g.warn(n, fmt.Sprintf("the style sheet %s is too long and was left out: one may have %d MB, all together %d", name, maxSheet>>20, 4*maxSheet>>20))
		return
	}
	s := css.ParseSheetIn(text, g.o.Medium, layers)
	s.Name, s.Base, s.Offset = name, base, offset
	s.Text = text
	s.Lines = func() *markup.LineIndex { return markup.Lines([]byte(text)) }
	named := 0
	for _, im := range s.Imports {
		if len(im.Before) > named { // layers that are named before it
			b := css.ParseSheetIn("@layer "+strings.Join(im.Before[named:], ",")+";", g.o.Medium, layers)
			b.Name = name
			g.sheets = append(g.sheets, b)
			named = len(im.Before)
		}
		at := g.resolve(base, im.URL)
		if slices.Contains(within, at) || len(within) > maxImports {
			g.warn(n, fmt.Sprintf("the style sheet %s imports itself", at))
			continue
		}
		in := layers
		if im.In {
			in = append(layers[:len(layers):len(layers)], im.Layer)
		}
		g.load(n, at, in, append(within[:len(within):len(within)], at))
	}
	for _, u := range s.Unknown {
		g.warn(n, fmt.Sprintf("%s: %s depends on the layout and was skipped", name, u.Head))
	}
	g.sheets = append(g.sheets, s)
}
