// Package svg reads SVG files into the document model: markup and CSS in, screens of elements with their facts and
// the paint tree out. Start with Read; each construct has a file of its own.
// https://www.w3.org/TR/SVG2/
package svg

import (
	"bytes"
	"compress/gzip"
	"errors"
	"fmt"
	"io"
	"path"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/geom"
	"archetyp/core/limit"
	"archetyp/core/markup"

	"github.com/cespare/xxhash/v2"
)

// Options are what a reading depends on beside the bytes.
type Options struct {
	Fonts *font.Set                         // nil: the embedded fallback alone
	Load  func(href string) ([]byte, error) // linked pictures, fonts and style sheets; nil: none
	Marks []design.SelectedMarks
	Root  float64 // px of 1rem; 0 means 16
	Facts bool    // only facts are wanted: words are measured, and not painted

	Budget *limit.Budget // what the drawing may unfold into; nil: the default limits

	around   []uint64  // hashes of the drawings that this one is a picture in
	pictures *pictures // of these
}

// maxUnzipped is how many bytes a compressed file may unfold into.
const maxUnzipped = 256 << 20

// Read reads one SVG file (plain or gzip-compressed). name is kept as the document's name. An error is a
// *markup.Error with its place in the file.
func Read(name string, src []byte, o Options) (*design.Document, error) {
	if o.Budget == nil {
		o.Budget = limit.New(limit.Limits{})
	}
	src, err := unzip(src)
	if err != nil {
		return nil, err
	}
	if len(o.around) == 0 {
		o.around = []uint64{xxhash.Sum64(src)}
	}
	m, err := markup.ParseXMLWithin(src, o.Budget)
	if err != nil {
		return nil, err
	}
	if m.Root.Local != "svg" || (m.Root.Space != markup.SVG && m.Root.Space != "") {
		return nil, &markup.Error{Position: m.Position(m.Root.Offset),
			Msg: fmt.Sprintf("the root element is <%s>, not <svg>: this is not an SVG file", m.Root.Name)}
	}
	if m.Root.Space == "" { // the namespace was forgotten: meant all the same
		m.Root.Walk(func(n *markup.Node) bool {
			if n.Space == "" {
				n.Space = markup.SVG
			}
			return true
		})
	}
	b := newBuilder(name, m, o)
	if len(o.around) > 1 { // reading it costs again
		m.Root.Walk(func(n *markup.Node) bool { return b.spend(n, limit.Elements, 1) })
	}
	if m.Root.Attrs != nil && !hasXMLNS(m.Root) {
		b.warn(m.Root, `the xmlns="http://www.w3.org/2000/svg" is missing; browsers will not show this file`)
	}
	if b.failed == nil {
		b.whole()
	}
	for _, err := range []error{b.cascade.Err(), b.match.Err()} {
		b.over(b.root, err)
	}
	if b.failed != nil {
		return nil, b.failed
	}
	return b.doc, nil
}

func hasXMLNS(n *markup.Node) bool {
	if strings.Contains(n.Name, ":") {
		return true
	}
	_, ok := n.Attr("xmlns")
	return ok
}

func unzip(src []byte) ([]byte, error) {
	if !bytes.HasPrefix(src, []byte("\x1f\x8b")) {
		return src, nil
	}
	fail := func(msg string) error {
		return &markup.Error{Position: markup.Position{Line: 1, Column: 1}, Msg: msg}
	}
	zr, err := gzip.NewReader(bytes.NewReader(src))
	if err != nil {
		return nil, fail("a compressed file that cannot be unpacked")
	}
	out, err := io.ReadAll(io.LimitReader(zr, maxUnzipped+1))
	if len(out) > maxUnzipped {
		return nil, fail(fmt.Sprintf("the compressed file unfolds into more than %d MB", maxUnzipped>>20))
	}
	if err != nil {
		return nil, fail("a compressed file that is cut off or damaged")
	}
	return out, nil
}

type builder struct {
	doc      *design.Document
	opts     Options
	root     *markup.Node
	ids      map[string]*markup.Node
	cascade  *css.Cascade
	match    *css.Matcher
	offsets  map[*css.Rule]int // of each rule in the file
	styles   map[*markup.Node]*style
	shaper   *font.Shaper
	using    []*markup.Node // referenced elements being expanded, against cycles
	failed   *markup.Error
	warned   map[string]bool
	grads    map[*markup.Node]*gradientDef
	pictures *pictures // read so far, by all workers
	fonts    map[design.FontUse]bool
	casts    map[*design.Element][]design.Shadow // of elements that paint only a shadow
}

func newBuilder(name string, m *markup.Document, o Options) *builder {
	if o.Fonts == nil {
		o.Fonts = font.NewSet(nil)
	}
	if o.Root == 0 {
		o.Root = 16
	}
	b := &builder{doc: &design.Document{Name: name, Format: "svg", Markup: m}, opts: o, root: m.Root,
		ids: map[string]*markup.Node{}, offsets: map[*css.Rule]int{}, styles: map[*markup.Node]*style{},
		match: css.NewMatcher(nil,
			o.Budget), pictures: newPictures(o), warned: map[string]bool{}, grads: map[*markup.Node]*gradientDef{}, fonts: map[design.FontUse]bool{}}
	var sheets []*css.Sheet
	fonts := o.Fonts
	w, h, _ := b.size()
	medium := css.Medium{Width: w, Height: h}
	m.Root.Walk(func(n *markup.Node) bool {
		if id := n.ID(); id != "" && b.ids[id] == nil {
			b.ids[id] = n
		}
		if n.Kind == markup.Element && n.Space == markup.SVG {
			b.checkNumbers(n)
		}
		if n.Is("style") {
			if t := n.AttrOr("type", "text/css"); t != "text/css" && t != "" {
				return false
			}
			sheets = append(sheets, b.readSheet(n, n.TextContent(), medium, 0)...)
			return false
		}
		if n.Kind == markup.Text && shownText(n.Parent) {
			b.spend(n, limit.Letters, int64(len(n.Data)))
		}
		return b.failed == nil
	})
	for _, s := range sheets {
		for _, f := range s.FontFaces {
			if fonts == o.Fonts {
				fonts = o.Fonts.Clone()
			}
			b.loadFont(fonts, f)
		}
	}
	b.cascade = css.NewCascade(m.Root, sheets, b.hints, o.Budget)
	b.shaper = font.NewShaper(fonts)
	return b
}

// readSheet parses one style element and the sheets it imports.
func (b *builder) readSheet(n *markup.Node, text string, medium css.Medium, depth int) []*css.Sheet {
	if !b.spend(n, limit.Style, int64(len(text))) {
		return nil
	}
	b.checkStyle(n, text, 0)
	s := css.ParseSheet(text, medium)
	base := n.Offset
	if len(n.Children) > 0 {
		base = n.Children[0].Offset
	}
	for _, e := range s.Skipped {
		b.warnAt(base+e.Offset, "CSS: "+e.Msg+"; left out, as a browser does")
	}
	for i := range s.Rules {
		b.offsets[&s.Rules[i]] = base + s.Rules[i].Offset
	}
	var out []*css.Sheet
	for _, im := range s.Imports {
		data, err := b.load(im.URL)
		if err != nil || depth > 4 {
			b.warn(n, fmt.Sprintf("the style sheet %s was not read", im.URL))
			continue
		}
		out = append(out, b.readSheet(n, string(data), medium, depth+1)...)
	}
	return append(out, s)
}

func (b *builder) loadFont(set *font.Set, f css.FontFace) {
	if f.URL == "" || f.Family == "" {
		return
	}
	if face, found := set.Match([]string{f.Family}, parseWeight(f.Weight, 400, 400),
		strings.Contains(f.Style, "italic")); found && face.Weight == parseWeight(f.Weight, 400, 400) {
		return // the workspace has this very face
	}
	data, err := b.imageBytes(f.URL)
	if err == nil {
		weight := 0
		if f.Weight != "" && !strings.Contains(f.Weight, " ") {
			weight = parseWeight(f.Weight, 400, 400)
		}
		err = set.AddAs(data, path.Base(f.URL), f.Family, weight)
	}
	if err != nil {
		b.warn(b.root, fmt.Sprintf("the font file %s of %q was not read: %v", markup.Clip(f.URL), f.Family, err))
	}
}

var errNoFiles = errors.New("linked files are not read here")

func (b *builder) load(href string) ([]byte, error) {
	if b.opts.Load == nil {
		return nil, errNoFiles
	}
	return b.opts.Load(href)
}

// warn notes something once for each message.
func (b *builder) warn(n *markup.Node, msg string) { b.warnAt(n.Offset, msg) }

func (b *builder) warnAt(offset int, msg string) {
	b.note(design.Warning{Position: b.doc.Markup.Position(offset), Msg: msg})
}

func (b *builder) note(w design.Warning) {
	if b.warned[w.Msg] || len(b.warned) >= 200 {
		return
	}
	b.warned[w.Msg] = true
	b.doc.Warnings = append(b.doc.Warnings, w)
}

func (b *builder) fail(n *markup.Node, format string, args ...any) {
	if b.failed == nil {
		b.failed = &markup.Error{Position: b.doc.Markup.Position(n.Offset), Msg: fmt.Sprintf(format, args...)}
	}
}

// spend takes from the budget of the drawing; where that is not enough, reading fails at a node.
func (b *builder) spend(n *markup.Node, kind limit.Kind, amount int64) bool {
	return b.over(n, b.opts.Budget.Spend(kind, amount))
}

// over ends reading at a node where a limit was reached.
func (b *builder) over(n *markup.Node, err error) bool {
	if err != nil && b.failed == nil {
		b.failed = &markup.Error{Position: b.doc.Markup.Position(n.Offset), Msg: err.Error()}
		var le *limit.Error
		if errors.As(err, &le) {
			b.failed.Hint = le.Hint()
		}
	}
	return err == nil
}

// shownText reports whether words below a node may be shown.
func shownText(n *markup.Node) bool {
	for ; n != nil; n = n.Parent {
		switch n.Local {
		case "text", "foreignObject":
			return true
		}
	}
	return false
}

// size is the drawing's size in px and its view box.
func (b *builder) size() (w, h float64, vb geom.Rect) {
	vb, has := viewBox(b.root)
	dim := func(name string, share, or float64) float64 {
		s, ok := b.root.Attr(name)
		if !ok {
			return or
		}
		l, err := css.ParseLength(s)
		if err != nil || l.Unit == "%" || l.Px(css.Units{Em: 16, Rem: 16}) <= 0 {
			return or
		}
		return l.Px(css.Units{Em: 16, Rem: 16, Percent: share})
	}
	if !has {
		w, h = dim("width", 300, 300), dim("height", 150, 150)
		return w, h, geom.Rect{W: w, H: h}
	}
	w, h = dim("width", 0, 0), dim("height", 0, 0)
	switch {
	case w == 0 && h == 0:
		w, h = vb.W, vb.H
	case w == 0:
		w = h * vb.W / vb.H
	case h == 0:
		h = w * vb.H / vb.W
	}
	return w, h, vb
}

// whole reads the drawing as one screen, then cuts it into the screens that are marked.
func (b *builder) whole() {
	w, h, vb := b.size()
	const most = 1 << 20
	if w > most || h > most {
		b.fail(b.root, "the drawing is %g × %g px; more than %d is not read", w, h, most)
		return
	}
	port := geom.Rect{W: w, H: h}
	m := fit(vb, port, b.root.AttrOr("preserveAspectRatio", ""))
	screen := &design.Screen{Box: port, Document: b.doc}
	root := &design.Element{Kind: design.Group, Shape: "svg", Native: design.Viewport, Node: b.root, Matrix: m,
		Screen: screen,
		ID:     b.root.ID(), Position: b.doc.Markup.Position(b.root.Offset)}
	root.Marks = design.ReadMarks(b.root, b.opts.Marks, b.match)
	root.Name = design.ElementName(b.root, root.Marks.Label)
	root.Paint = &design.PaintNode{Matrix: m, Opacity: 1, Element: root}
	screen.Root, screen.Paint = root, &design.PaintNode{Matrix: geom.Identity, Opacity: 1,
		Children: []*design.PaintNode{root.Paint}}
	st := b.style(b.root, nil)
	b.styles[b.root] = st
	c := context{style: st, ctm: m, port: geom.Point{X: vb.W, Y: vb.H}, parent: root, paint: root.Paint, screen: screen,
		clip: geom.Rect{W: w, H: h}}
	b.noteStated(root, st)
	c = b.effects(root, b.root, c)
	b.children(b.root, c)
	b.finishGroup(root, b.root, c)
	if root.Hidden = st.hidden(); root.Hidden {
		screen.Paint.Children = nil
	}
	root.Geometry = design.Derive(port, "the drawing's size")
	root.Layout, root.Painted = root.Geometry, root.Geometry
	b.screens(screen)
}
