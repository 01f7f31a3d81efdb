package job

import (
	"context"
	"errors"
	"fmt"
	"math"
	"net/url"
	"path"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/drift"
	"archetyp/core/paint/picture"
	"archetyp/core/paint/raster"
	"archetyp/workspace"
)

// LiveSite answers what is asked of a site while it is edited: what rules say of an element, what the design does, and
// what its screen looks like.
type LiveSite struct {
	Reader *SiteReader
	Site   string // a folder or an address
	Dir    string // of the workspace; "" for none
}

// LiveElement is an element of a page: the rules that mean it, and what the design says of it.
type LiveElement struct {
	Element string       `json:"element"`
	Design  string       `json:"design,omitempty"` // the element of the design that it is
	Why     string       `json:"why,omitempty"`
	Facts   []drift.Fact `json:"facts"`
	Rules   []LiveRule   `json:"rules"`
}

// LiveRule is a rule as it is written.
type LiveRule struct {
	Place string `json:"place"`
	Text  string `json:"text"`
}

// page reads a page of the site by the path of its address.
func (l *LiveSite) page(ctx context.Context, at string, width float64) (*design.Document, error) {
	v := drift.View{Width: width, Height: 800}
	if v.Width < 1 || v.Width > 20000 {
		v.Width = 1280
	}
	if IsAddress(l.Site) {
		base, err := url.Parse(l.Site)
		if err != nil {
			return nil, err
		}
		u := url.URL{Scheme: base.Scheme, Host: base.Host, Path: at}
		return ReadAddress(ctx, u.String(), View{Width: v.Width, Height: v.Height}, l.Reader.drawing(u.String()), nil)
	}
	name := strings.TrimPrefix(path.Clean("/"+at), "/")
	if name == "" || strings.HasSuffix(at, "/") {
		name = path.Join(name, "index.html")
	}
	pages, err := l.Reader.Pages(l.Site)
	if err != nil {
		return nil, err
	}
	for i := range pages {
		if pages[i].Name == name {
			return pages[i].read(v)
		}
	}
	return nil, errors.New("the folder has no page " + name)
}

// design reads the drawings as they are now.
func (l *LiveSite) design(ctx context.Context) ([]*design.Document, *workspace.Workspace, error) {
	if l.Dir == "" {
		return nil, nil, nil
	}
	ws, ok, err := workspace.Find(l.Dir)
	if err != nil || !ok {
		return nil, nil, err
	}
	snap, err := Read(ctx, ws)
	if err != nil {
		return nil, nil, err
	}
	docs, err := snap.Docs()
	return docs, ws, err
}

// builtFrom is the screen that a page was built from, the nearest in width; nil for none.
func builtFrom(doc *design.Document, name string, drawings []*design.Document, width float64, pairs []workspace.DriftPair) *design.Screen {
	page := []SitePage{{Name: name, File: doc.Name}}
	var best *design.Screen
	for _, d := range drawings {
		for _, s := range d.Screens {
			if i, _, err := pageOf(s, page, []*design.Document{doc}, pairs); err != nil || i < 0 {
				continue
			}
			if best == nil || math.Abs(s.Box.W-width) < math.Abs(best.Box.W-width) {
				best = s
			}
		}
	}
	return best
}

// Element answers for an element of a page; where the design has it, it becomes the focused one.
func (l *LiveSite) Element(ctx context.Context, at, selector string, width float64) (*LiveElement, error) {
	doc, err := l.page(ctx, at, width)
	if err != nil {
		return nil, err
	}
	sel, err := css.ParseSelector(selector)
	if err != nil {
		return nil, err
	}
	nodes := doc.Styles.Nodes(sel)
	if len(nodes) == 0 {
		return nil, errors.New("the page as it is sent has no such element: a script made it")
	}
	n := nodes[0]
	out := &LiveElement{Element: n.Local, Facts: []drift.Fact{}, Rules: []LiveRule{}}
	if id := n.ID(); id != "" {
		out.Element += "#" + id
	} else if c := n.AttrOr("class", ""); c != "" {
		out.Element += "." + strings.Join(strings.Fields(c), ".")
	}
	for _, r := range doc.Styles.Rules(n) {
		if r.Place.Line == 0 { // of the browser
			continue
		}
		var b strings.Builder
		for _, w := range r.Within {
			b.WriteString(w + " ")
		}
		b.WriteString(r.Selector + " {\n")
		for _, d := range r.Declarations {
			fmt.Fprintf(&b, "  %s: %s;\n", d.Prop, d.Value)
		}
		b.WriteString("}")
		out.Rules = append(out.Rules, LiveRule{fmt.Sprintf("%s:%d", r.Place.File, r.Place.Line), b.String()})
	}
	drawings, ws, err := l.design(ctx)
	if err != nil || ws == nil {
		return out, err
	}
	s := builtFrom(doc, at, drawings, width, ws.Config.Drift.Pairs)
	if s == nil {
		return out, nil
	}
	in := &drift.In{Tolerances: ws.Config.DriftTolerances()}
	p := drift.PartnerOf(in, &drift.DrawingPair{Screen: s, Page: doc}, n)
	if p == nil {
		return out, nil
	}
	out.Design, out.Why = p.Drawn.Title()+" in "+s.Name, string(p.Why)
	if p.Facts != nil {
		out.Facts = p.Facts
	}
	_, err = FocusOn(ws, s.Document.Name, []*design.Element{p.Drawn})
	return out, err
}

// Picture is the screen that a page was built from, as a PNG with two pixels a px.
func (l *LiveSite) Picture(ctx context.Context, at string, width float64) ([]byte, error) {
	doc, err := l.page(ctx, at, width)
	if err != nil {
		return nil, err
	}
	drawings, ws, err := l.design(ctx)
	if err != nil {
		return nil, err
	}
	if ws == nil {
		return nil, errors.New("there is no design here")
	}
	s := builtFrom(doc, at, drawings, width, ws.Config.Drift.Pairs)
	if s == nil {
		return nil, errors.New("no screen of the design is this page")
	}
	img, err := raster.Render(s.Root.Paint, raster.Options{View: s.Box, Density: 2, Background: &color.White})
	if err != nil {
		return nil, err
	}
	return picture.PNG(img), nil
}
