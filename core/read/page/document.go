package page

import (
	"path"
	"strconv"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

// DocumentOptions say how a document is made of a page.
type DocumentOptions struct {
	Marks []design.SelectedMarks
}

// Document is the page as a document of one screen: its elements with what style sheets declare of them, and without
// boxes, which need a browser.
func (p *Page) Document(name string, o DocumentOptions) *design.Document {
	d := &design.Document{Name: name, Format: "html", Markup: p.Markup, Styles: p, Boxless: p.shot == nil}
	for _, w := range p.Warnings {
		d.Warnings = append(d.Warnings, design.Warning{Position: w.Position, Msg: w.Msg})
	}
	b := &documenter{page: p, doc: d, marks: o.Marks, match: css.NewMatcher(nil, nil)}
	root := p.Markup.Root
	screen := &design.Screen{Box: geom.Rect{W: p.Medium.Width, H: p.Medium.Height}, Document: d}
	d.Screens = []*design.Screen{screen}
	b.screen = screen
	screen.Paint = &design.PaintNode{Matrix: geom.Identity, Opacity: 1}
	if p.shot != nil {
		screen.Box.W, screen.Box.H = p.shot.Width, p.shot.Height
		if b.picture = p.shot.picture(); b.picture != nil {
			screen.Merged, screen.Paint.Children = b.picture, []*design.PaintNode{b.picture}
		}
		if p.shot.Cut && b.picture != nil {
			d.Warnings = append(d.Warnings, design.Warning{Position: markup.Position{Line: 1, Column: 1},
				Msg: "the page is " + strconv.Itoa(int(p.shot.Height)) + " px high; its picture ends after " + strconv.Itoa(int(b.picture.BitmapBox.H))})
		}
	}
	screen.Root = b.element(bodyIn(root), nil, false)
	screen.Name = b.title(root, screen.Root, name)
	screen.Root.Children = append(b.head(root, screen.Root), screen.Root.Children...)
	for _, c := range screen.Root.Children {
		c.Walk(func(e *design.Element) { screen.Elements = append(screen.Elements, e) })
	}
	screen.SetPaths()
	return d
}

type documenter struct {
	page   *Page
	doc    *design.Document
	screen *design.Screen
	marks  []design.SelectedMarks
	match  *css.Matcher

	picture *design.PaintNode // the browser's, of the whole page; nil for none
}

// title is the name of the page as a screen: a mark, its title, or its file.
func (b *documenter) title(root *markup.Node, e *design.Element, name string) string {
	if e.Marks.Screen != "" {
		return e.Marks.Screen
	}
	if m := design.ReadMarks(root, b.marks, b.match); m.Screen != "" {
		return m.Screen
	}
	if title := titleOf(root); title != "" {
		return title
	}
	return strings.TrimSuffix(path.Base(name), path.Ext(name))
}

// head are the words that stand in no place of the page: its title and description.
func (b *documenter) head(root *markup.Node, parent *design.Element) (out []*design.Element) {
	root.Walk(func(n *markup.Node) bool {
		words := ""
		switch {
		case !n.HTML:
		case n.Local == "body":
			return false
		case n.Local == "title":
			words = n.TextContent()
		case n.Local == "meta" && strings.EqualFold(n.AttrOr("name", ""), "description"):
			words = n.AttrOr("content", "")
		}
		if words = oneLine(words); words != "" {
			e := &design.Element{Kind: design.Text, Shape: n.Local, Node: n, Position: b.page.Markup.Position(n.Offset), Screen: b.screen, Parent: parent,
				Matrix: geom.Identity, Paint: &design.PaintNode{Matrix: geom.Identity, Opacity: 1}, Styled: func() []design.FactLine { return nil }}
			e.Name = map[string]string{"title": "page title", "meta": "page description"}[n.Local]
			e.Marks = b.readMarks(n)
			r := b.run(n)
			r.Words = words
			e.Words = b.textFacts(n, []design.Run{r})
			out = append(out, e)
		}
		return true
	})
	return out
}

// readMarks are the marks of an element; what HTML says is not to be translated is marked so.
// https://html.spec.whatwg.org/multipage/dom.html#attr-translate
func (b *documenter) readMarks(n *markup.Node) design.Marks {
	m := design.ReadMarks(n, b.marks, b.match)
	if v, ok := n.Attr("translate"); ok && strings.EqualFold(strings.TrimSpace(v), "no") && m.Text == "" {
		m.Text = "none"
	}
	return m
}

// pictures are elements that show a picture.
var pictures = map[string]bool{"img": true, "svg": true, "canvas": true, "video": true, "picture": true, "object": true, "embed": true, "iframe": true}

func (b *documenter) element(n *markup.Node, parent *design.Element, hidden bool) *design.Element {
	s := b.page.styles[n]
	e := &design.Element{Kind: design.Group, Shape: n.Local, Node: n, Position: b.page.Markup.Position(n.Offset), Screen: b.screen, Parent: parent,
		ID: n.ID(), Matrix: geom.Identity, Paint: &design.PaintNode{Matrix: geom.Identity, Opacity: 1}}
	e.Marks = b.readMarks(n)
	e.Name = design.ElementName(n, e.Marks.Label)
	display, _ := s.Get("display")
	visibility, _ := s.Get("visibility")
	opacity, _ := s.Get("opacity")
	e.Hidden = hidden || display == "none" || visibility == "hidden" || visibility == "collapse" || opacity == "0"
	if e.Name == "" { // what a developer calls it
		if words := strings.Fields(n.AttrOr("class", "")); len(words) > 0 && n.HTML {
			e.Name = words[0]
		}
	}
	b.place(e, n)
	text := b.isText(n)
	b.paint(e, n, text)
	switch {
	case pictures[n.Local] || n.Local == "input" && strings.EqualFold(n.AttrOr("type", ""), "image"):
		e.Kind, e.Native = design.Image, design.Embedded
		if n.Local == "svg" { // one picture, not its parts
			e.Native = ""
		}
		e.Bitmap = design.State(design.Bitmap{Href: shortened(n.AttrOr("src", n.Local))}, "the file")
	case text:
		e.Kind = design.Text
		e.Words = b.words(n)
	}
	inText := e.Kind == design.Text
	e.Styled = func() []design.FactLine { return b.page.facts(n, inText) }
	if f := b.page.frames[n]; f != nil {
		b.frame(e, f)
		return e
	}
	if e.Kind == design.Image {
		return e
	}
	runs := 0
	for _, c := range b.children(n) {
		switch c.Kind {
		case markup.Element:
			if !skipped(c) && b.page.styles[c] != nil {
				k := b.element(c, e, e.Hidden)
				if inText && k.Kind == design.Text { // its words are among those of the whole
					k.Kind, k.Words = design.Group, nil
				}
				e.Children = append(e.Children, k)
			}
		case markup.Text:
			if strings.TrimSpace(c.Data) == "" {
				continue
			}
			if !inText {
				e.Children = append(e.Children, b.stretch(c, n, e, runs))
			}
			runs++
		}
	}
	b.withParts(e, n)
	if len(e.Children) == 0 && e.Kind == design.Group {
		e.Kind = design.Box
	}
	return e
}

// frame gives a frame the elements of the page in it.
func (b *documenter) frame(e *design.Element, f *Page) {
	e.Kind, e.Native, e.Bitmap = design.Group, "", design.Fact[design.Bitmap]{}
	inner := &documenter{page: f, doc: b.doc, screen: b.screen, marks: b.marks, match: b.match, picture: b.picture}
	e.Children = []*design.Element{inner.element(bodyIn(f.Markup.Root), e, e.Hidden)}
}

// bodyIn is the body of a page, or its root where it has none.
func bodyIn(root *markup.Node) *markup.Node {
	for _, c := range root.Children {
		if c.Kind == markup.Element && c.HTML && (c.Local == "body" || c.Local == "frameset") {
			return c
		}
	}
	return root
}

// children are those of the shadow root where there is one, with what is slotted at its end.
func (b *documenter) children(n *markup.Node) []*markup.Node {
	if n.Shadow == nil {
		return n.Children
	}
	return append(append([]*markup.Node(nil), n.Shadow.Children...), n.Children...)
}

// skipped reports whether an element is never shown, whatever its style says.
func skipped(n *markup.Node) bool {
	switch n.Local {
	case "script", "style", "template", "link", "meta", "title", "head", "base", "noframes", "source", "track", "param":
		return n.HTML
	}
	return false
}

// stretch is a text that stands between blocks of an element (or of its shadow root), as an element of its own.
func (b *documenter) stretch(n, in *markup.Node, parent *design.Element, run int) *design.Element {
	e := &design.Element{Kind: design.Text, Shape: "#text", Node: n, Position: b.page.Markup.Position(n.Offset), Screen: b.screen, Parent: parent,
		Hidden: parent.Hidden, Matrix: geom.Identity, Paint: &design.PaintNode{Matrix: geom.Identity, Opacity: 1}, Styled: func() []design.FactLine { return nil }}
	r := b.run(in)
	r.Words = oneLine(n.Data)
	e.Words = b.textFacts(in, []design.Run{r})
	b.around(e, parent, run)
	e.Fills = []design.Fact[design.Paint]{design.Derive(r.Fill, "the element around it")}
	return e
}

// isText reports whether an element holds words, and beside them only what stands in their line.
func (b *documenter) isText(n *markup.Node) bool {
	direct := false
	for _, c := range b.children(n) {
		switch c.Kind {
		case markup.Text:
			direct = direct || strings.TrimSpace(c.Data) != ""
		case markup.Element:
			if !skipped(c) && !b.inline(c) {
				return false
			}
		}
	}
	return direct
}

// inline reports whether an element and all in it stand in a line of words.
func (b *documenter) inline(n *markup.Node) bool {
	s := b.page.styles[n]
	if s == nil || n.Shadow != nil {
		return false
	}
	switch n.Local {
	case "br", "wbr":
		return true
	case "input", "select", "textarea", "button", "img", "svg", "video", "canvas", "iframe", "object":
		return false
	}
	switch d, _ := s.Get("display"); d {
	case "inline", "contents", "none", "ruby", "ruby-text", "inline-block":
	default:
		return false
	}
	for _, c := range n.Children {
		if c.Kind == markup.Element && !skipped(c) && !b.inline(c) {
			return false
		}
	}
	return true
}

// words are the words of an element, run by run, white space as it shows.
func (b *documenter) words(n *markup.Node) *design.TextFacts {
	var runs []design.Run
	line := 0
	keep := strings.HasPrefix(b.value(n, "white-space-collapse"), "preserve") || b.value(n, "white-space-collapse") == "break-spaces"
	var walk func(n *markup.Node)
	walk = func(n *markup.Node) {
		for _, c := range n.Children {
			switch {
			case c.Kind == markup.Text:
				text := c.Data
				if !keep {
					text = collapse(text)
				}
				if text == "" {
					continue
				}
				if last := len(runs) - 1; !keep && text[0] == ' ' && (last < 0 || strings.HasSuffix(runs[last].Words, " ") || runs[last].Line != line) {
					text = text[1:]
				}
				if text == "" {
					continue
				}
				r := b.run(n)
				r.Words, r.Line = text, line
				runs = append(runs, r)
			case c.Kind == markup.Element && c.Local == "br":
				line++
			case c.Kind == markup.Element && !skipped(c) && b.value(c, "display") != "none":
				walk(c)
			}
		}
	}
	walk(n)
	if last := len(runs) - 1; last >= 0 && !keep {
		runs[last].Words = strings.TrimRight(runs[last].Words, " ")
	}
	return b.textFacts(n, runs)
}

// collapse makes white space single blanks.
func collapse(s string) string {
	var b strings.Builder
	space := false
	for _, r := range s {
		if r == ' ' || r == '\n' || r == '\t' || r == '\r' || r == '\f' {
			space = true
			continue
		}
		if space {
			b.WriteByte(' ')
			space = false
		}
		b.WriteRune(r)
	}
	if space {
		b.WriteByte(' ')
	}
	return b.String()
}

func (b *documenter) value(n *markup.Node, prop string) string {
	v, _ := b.page.styles[n].Get(prop)
	return v
}

// run is how a stretch of words is set.
func (b *documenter) run(n *markup.Node) design.Run {
	s := b.page.styles[n]
	weight, _ := strconv.Atoi(b.value(n, "font-weight"))
	return design.Run{Family: firstFamily(b.value(n, "font-family")), Size: s.Size(), Weight: weight, Italic: strings.HasPrefix(b.value(n, "font-style"), "italic"),
		Fill: design.Paint{Kind: design.Solid, Color: s.Color(), Opacity: 1}, Node: n}
}

// plainFamilies is a list of families without quotes.
func plainFamilies(list string) string {
	var out []string
	for _, f := range css.SplitTop(list, ',') {
		out = append(out, css.Unquote(f))
	}
	return strings.Join(out, ", ")
}

func firstFamily(list string) string {
	if l := css.SplitTop(list, ','); len(l) > 0 {
		return css.Unquote(l[0])
	}
	return list
}

func (b *documenter) textFacts(n *markup.Node, runs []design.Run) *design.TextFacts {
	w := &design.TextFacts{Runs: runs}
	var lines []string
	for i, r := range runs {
		if i == 0 || r.Line != runs[i-1].Line {
			lines = append(lines, "")
		}
		lines[len(lines)-1] += r.Words
	}
	for _, l := range lines {
		w.Lines = append(w.Lines, design.Line{Words: l})
	}
	w.Words = strings.Join(lines, "\n")
	s := b.page.styles[n]
	weight, _ := strconv.Atoi(b.value(n, "font-weight"))
	w.Family = design.State(plainFamilies(b.value(n, "font-family")), "computed")
	w.Size, w.Weight = design.State(s.Size(), "computed"), design.State(weight, "computed")
	w.Italic = design.State(strings.HasPrefix(b.value(n, "font-style"), "italic"), "computed")
	if l, err := css.ParseLength(b.value(n, "line-height")); err == nil {
		w.LineHeight = design.State(l.Value, "computed")
	}
	if l, err := css.ParseLength(b.value(n, "letter-spacing")); err == nil {
		w.Spacing = design.State(l.Value, "computed")
	}
	w.Align = design.State(b.value(n, "text-align"), "computed")
	w.Case = design.State(b.value(n, "text-transform"), "computed")
	w.Decoration = design.State(b.value(n, "text-decoration-line"), "computed")
	return w
}

// paint notes what an element is painted with: its background, or the colour of its words.
func (b *documenter) paint(e *design.Element, n *markup.Node, text bool) {
	s := b.page.styles[n]
	if text {
		e.Fills = []design.Fact[design.Paint]{design.State(design.Paint{Kind: design.Solid, Color: s.Color(), Opacity: 1}, "color")}
		return
	}
	if text, ok := s.ColorOf("background-color"); ok {
		if c, err := color.Parse(text); err == nil && c.Alpha > 0 {
			e.Fills = []design.Fact[design.Paint]{design.State(design.Paint{Kind: design.Solid, Color: c, Opacity: 1}, "background-color")}
		}
	}
}

// shortened is an address, data in it left out.
func shortened(href string) string {
	if strings.HasPrefix(href, "data:") && len(href) > 40 {
		return href[:40] + "…"
	}
	return href
}
