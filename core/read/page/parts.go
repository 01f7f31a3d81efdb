package page

import (
	"slices"
	"strings"
	"unicode"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/css/computed"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/markup"

	lexer "github.com/tdewolff/parse/v2/css"
)

// ::before and ::after that show something are elements of their own, first and last in the element they belong to.
// They stand on a node that is in no list of children, so that no selector of the page counts it.

// partOf is the name of the pseudo-element that a node stands for; "" for an element.
func partOf(n *markup.Node) string {
	if name, ok := strings.CutPrefix(n.Local, "::"); ok {
		return name
	}
	return ""
}

// withParts puts the pseudo-elements of an element around its children.
func (b *documenter) withParts(e *design.Element, n *markup.Node) {
	if k := b.part("before", n, e); k != nil {
		e.Children = append([]*design.Element{k}, e.Children...)
	}
	if k := b.part("after", n, e); k != nil {
		e.Children = append(e.Children, k)
	}
}

// part is a pseudo-element as an element; nil for one that shows nothing.
func (b *documenter) part(name string, n *markup.Node, parent *design.Element) *design.Element {
	p := b.page
	if !p.treeOf(n).HasPart(n, name) {
		return nil
	}
	s := p.Part(n, name)
	content, _ := s.Get("content")
	display, _ := s.Get("display")
	if content == "none" || content == "normal" || display == "none" {
		return nil
	}
	node := partNode(n, name)
	p.styles[node] = s
	words, picture := shownContent(content, n)
	visible := words != "" || picture != "" || paints(s)
	e := &design.Element{Kind: design.Box, Shape: node.Local, Node: node, Position: p.Markup.Position(n.Offset), Screen: b.screen, Parent: parent,
		Hidden: parent.Hidden, Matrix: geom.Identity, Paint: &design.PaintNode{Matrix: geom.Identity, Opacity: 1}}
	if p.shot != nil {
		box, ok := p.partBox(n, name)
		visible = visible && ok && box.W > 0 && box.H > 0
		b.at(e, box)
	}
	if !visible {
		return nil
	}
	p.parts = append(p.parts, node)
	b.paint(e, node, words != "")
	switch {
	case picture != "":
		e.Kind, e.Native = design.Image, design.Embedded
		e.Bitmap = design.State(design.Bitmap{Href: shortened(picture)}, "content")
	case words != "":
		e.Kind = design.Text
		r := b.run(node)
		r.Words = words
		e.Words = b.textFacts(node, []design.Run{r})
		if !strings.ContainsFunc(words, isLetter) { // a sign is nothing to translate
			e.Marks.Text = "none"
		}
	}
	e.Styled = func() []design.FactLine { return p.facts(node, words != "") }
	return e
}

// partNames are the pseudo-elements that rules can style.
var partNames = []string{"before", "after", "placeholder", "marker", "first-line", "first-letter", "selection", "file-selector-button", "backdrop"}

// Parts are the pseudo-elements of an element that rules of the page mean, whether they show anything or not.
func (p *Page) Parts(n *markup.Node) (out []*markup.Node) {
	if p = p.Of(n); p == nil || p.styles[n] == nil || partOf(n) != "" {
		return nil
	}
	if p.styled == nil {
		p.styled = []string{}
		for _, name := range partNames {
			if slices.ContainsFunc(p.sheets, func(s *css.Sheet) bool { return strings.Contains(s.Text, ":"+name) }) {
				p.styled = append(p.styled, name)
			}
		}
	}
	for _, name := range p.styled {
		if !p.treeOf(n).MeansPart(n, name) {
			continue
		}
		key := partKey{n, name}
		if p.partNodes[key] == nil {
			if p.partNodes == nil {
				p.partNodes = map[partKey]*markup.Node{}
			}
			node := partNode(n, name)
			p.styles[node] = p.Part(n, name)
			p.partNodes[key] = node
		}
		out = append(out, p.partNodes[key])
	}
	return out
}

// partKey is a pseudo-element of an element.
type partKey struct {
	of   *markup.Node
	name string
}

// partNode stands for a pseudo-element.
func partNode(n *markup.Node, name string) *markup.Node {
	return &markup.Node{Kind: markup.Element, Local: "::" + name, Name: "::" + name, HTML: n.HTML, Parent: n, Offset: n.Offset, End: n.End}
}

// isLetter reports whether a character belongs to words; those of icon fonts do not.
func isLetter(r rune) bool { return unicode.IsLetter(r) }

// shownContent is what a computed content shows: words, or the address of a picture.
func shownContent(content string, n *markup.Node) (words, picture string) {
	if list := css.URLs(content); len(list) > 0 {
		return "", list[0]
	}
	toks := css.Tokenize(content)
	for i, t := range toks {
		switch {
		case t.Type == lexer.StringToken:
			words += t.Text()
		case t.Type == lexer.FunctionToken && strings.EqualFold(t.Text(), "attr") && i+1 < len(toks):
			words += n.AttrOr(toks[i+1].Text(), "")
		case t.Type == lexer.DelimToken && t.Text() == "/": // what follows is for those who do not see it
			return strings.TrimSpace(words), ""
		}
	}
	return strings.TrimSpace(words), ""
}

// paints reports whether a style paints anything beside words.
func paints(s *computed.Style) bool {
	if c, ok := s.ColorOf("background-color"); ok {
		if v, err := color.Parse(c); err == nil && v.Alpha > 0 {
			return true
		}
	}
	for _, name := range []string{"background-image", "box-shadow", "mask-image", "border-image-source"} {
		if v, _ := s.Get(name); v != "none" {
			return true
		}
	}
	for _, side := range []string{"border-top", "border-right", "border-bottom", "border-left", "outline"} {
		width, _ := s.Get(side + "-width")
		style, _ := s.Get(side + "-style")
		if width != "0px" && style != "none" && style != "hidden" {
			return true
		}
	}
	return false
}
