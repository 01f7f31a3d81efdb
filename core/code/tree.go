package code

import (
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/infer/layout"
	"archetyp/core/infer/role"
)

// Tree is an element, or a whole screen, as what it is: the one thing that every language is printed from.
type Tree struct {
	Title    string
	Root     *Node
	Pictures []*Picture      // what no language can say, each once
	Whole    bool            // it is a whole screen
	Typical  *design.Element // the text that stands for how most words are set; nil for none

	taken classes // names of pictures
	line  float64 // the line height of Typical, in font sizes, where its type token has one
}

// Node is one thing in a tree.
type Node struct {
	Role  role.Role
	Rank  int // of a heading, from 1, none left out
	Name  string
	Cell  *layout.Cell // what it is drawn as, and how it and its children stand
	Nodes []*Node
	Over  []*Node // lie across the others

	Words          []Span
	Picture        *Picture
	Ground         *Picture // what it lies on, where that can only be a picture
	Label          *Node    // of a control: the words that say what it is for
	Hint           *Node    // of a control: the words that help
	Control        *Node    // of a label or hint
	Value          string   // of a control
	On             bool     // of a checkbox, radio or tab: chosen
	AccessibleName string   // what it is called where no words say so: an alternative text, or a control's name
	Alone          bool     // holds nothing but its own words
	Table          *Table   // of rows of the same columns

	phrasing bool    // it may hold nothing but words and spans
	tabbed   bool    // a tab in a list of tabs, or such a list
	id       string  // in a page
	turned   float64 // by how many degrees what holds it is turned
}

// Span is a run of text in one style. Break is a line break after it, at any width.
type Span struct {
	Words string
	Run   *design.Run // how it is set; nil for as the text itself
	Break bool
}

// Picture is a part of the drawing that only a picture can show.
type Picture struct {
	Name   string // of its file, without ending
	Bitmap bool   // it is or holds pixels
	Box    geom.Rect
	Of     []*design.Element
}

// Element is what a node shows; nil for a row or column that only places show.
func (n *Node) Element() *design.Element { return n.Cell.Element }

// NewTree reads an element as what it is. That of a screen is its root.
func NewTree(e *design.Element, o Options) *Tree { return newTree(e, o, nil) }

// Again reads the same screen as it is drawn at another width: words inherit what they do in the first.
func (t *Tree) Again(e *design.Element, o Options) *Tree { return newTree(e, o, t) }

func newTree(e *design.Element, o Options, like *Tree) *Tree {
	b := &builder{on: o.on(e.Screen), tree: &Tree{Title: e.Screen.Name, Whole: e.Parent == nil}, taken: classes{},
		pictures: map[*design.Element]*Picture{}}
	if like != nil {
		b.tree.Typical, b.tree.line = like.Typical, like.line
		b.taken = like.taken
	} else if b.tree.Typical = o.commonest(e); b.tree.Typical != nil {
		b.tree.line = o.lineRatio(b.tree.Typical)
	}
	b.tree.taken = b.taken
	cell := layout.Arrange(e, func(e *design.Element) float64 {
		if px := o.lineHeight(e); px > 0 {
			return px
		}
		return b.tree.line * e.Words.Size.Value
	})
	b.tree.Root = b.node(cell)
	if b.tree.Whole {
		b.regions()
	}
	cell.Settle()
	b.finish(b.tree.Root)
	turned(b.tree.Root, 0)
	b.tree.ranks()
	return b.tree
}

// on knows what a screen's type is like.
func (o Options) on(s *design.Screen) *role.Screen {
	if known := o.roles[s]; known != nil {
		return known
	}
	found := role.On(s)
	if o.roles != nil {
		o.roles[s] = found
	}
	return found
}

// builder makes a tree.
type builder struct {
	on       *role.Screen
	tree     *Tree
	taken    classes
	pictures map[*design.Element]*Picture
}

// node is the node of a cell, with all below it.
func (b *builder) node(c *layout.Cell) *Node {
	n := &Node{Cell: c, Name: c.Name}
	if e := c.Element; e != nil {
		found := b.on.Of(grouped(c))
		n.Role, n.Rank = found.Role, found.Rank
		if c.Lines != nil && n.Role != role.Heading {
			n.Role = role.Paragraph
		}
	}
	for _, k := range c.Cells {
		n.Nodes = append(n.Nodes, b.node(k))
	}
	for _, k := range c.Over {
		n.Over = append(n.Over, b.node(k))
	}
	switch {
	case c.Words():
		return n
	case c.Picture():
		n.Role, n.Picture = role.Picture, b.picture(n, b.parts(c))
		n.AccessibleName = altText(n)
	case c.Face != nil && layout.Picture(c.Face):
		n.Ground = b.picture(n, []*design.Element{c.Face})
	}
	b.controls(n)
	b.table(n)
	switch n.Role {
	case role.Button, role.Link, role.Tab, role.Status, role.Field, role.Select:
		plainWords(n)
	}
	return n
}

func (b *builder) parts(c *layout.Cell) []*design.Element {
	if c.Parts != nil {
		return c.Parts
	}
	return []*design.Element{c.Element}
}

// grouped is the element of a cell as a group of all that stands on it, whether the drawing has one or not.
func grouped(c *layout.Cell) *design.Element {
	e := c.Element
	if c.Face != e || c.Leaf() {
		return e
	}
	g := &design.Element{Kind: design.Group, Name: e.Name, ID: e.ID, Path: e.Path, Node: e.Node, Position: e.Position,
		Screen: e.Screen, Parent: e.Parent, Marks: e.Marks, Matrix: e.Matrix, Geometry: e.Geometry, Painted: e.Painted,
		Layout: e.Layout, Children: []*design.Element{e}}
	var add func(c *layout.Cell)
	add = func(c *layout.Cell) {
		if c.Element != nil {
			g.Children = append(g.Children, c.Element)
			return
		}
		for _, k := range c.Cells {
			add(k)
		}
	}
	for _, k := range slices.Concat(c.Cells, c.Over) {
		add(k)
	}
	return g
}

// picture is the picture of elements: equal ones that are used again are one.
func (b *builder) picture(n *Node, of []*design.Element) *Picture {
	if p := b.pictures[of[0]]; p != nil {
		return p
	}
	p := &Picture{Of: of, Box: n.Cell.Box}
	for _, e := range of {
		e.Walk(func(x *design.Element) { p.Bitmap = p.Bitmap || x.Kind == design.Image })
	}
	name := of[0].Marks.Asset
	if name == "" {
		name = n.Name
	}
	if name == "" {
		name = nearestName(of[0])
	}
	if name = pathSlug(name); name == "" {
		name = "picture"
	}
	p.Name = b.taken.next(name)
	b.pictures[of[0]] = p
	b.tree.Pictures = append(b.tree.Pictures, p)
	return p
}

// pathSlug is a name as a path of slugs.
func pathSlug(name string) string {
	var parts []string
	for _, p := range strings.Split(name, "/") {
		if s := design.Slug(p); s != "" {
			parts = append(parts, s)
		}
	}
	return strings.Join(parts, "/")
}

func nearestName(e *design.Element) string {
	if e.Parent != nil && e.Parent.Parent != nil && e.Parent.Name != "" {
		return e.Parent.Name
	}
	return ""
}

// altText is the alternative text of a picture: the name of a bitmap, marked or outlined one; "" for decoration.
func altText(n *Node) string {
	e := n.Cell.Element
	if n.Picture.Bitmap || e != nil && e.Marks.Asset == "" && e.Marks.Role != "" {
		return title(n.Name)
	}
	if e != nil {
		if _, ok := layout.Outlined(e); ok {
			return title(n.Name)
		}
	}
	return ""
}

// title is a name as words, with a capital.
func title(name string) string {
	name = strings.TrimSpace(strings.NewReplacer("-", " ", "_", " ").Replace(name[strings.LastIndex(name, "/")+1:]))
	if name == "" {
		return ""
	}
	r := []rune(name)
	return strings.ToUpper(string(r[0])) + string(r[1:])
}

// finish works out what needs places: words and where they break.
func (b *builder) finish(n *Node) {
	n.Walk(func(n *Node) {
		if n.Cell.Words() {
			n.Words = spans(n.Cell)
		}
		n.Alone = n.Cell.Face != nil && len(n.Nodes) == 1 && len(n.Over) == 0 && n.Nodes[0].Cell.Words() &&
			n.Nodes[0].Role != role.Heading && n.Nodes[0].Control == nil && n.Control == nil
	})
}

// turned notes how far what holds a node is turned.
func turned(n *Node, by float64) {
	n.turned = by
	if face := faceOf(n.Cell); face != nil {
		by = face.Turn()
	}
	for _, k := range n.Nodes {
		turned(k, by)
	}
	for _, k := range n.Over {
		turned(k, by)
	}
}

// Walk visits a node and all below it, in the order they are written.
func (n *Node) Walk(visit func(*Node)) {
	visit(n)
	for _, k := range n.Nodes {
		k.Walk(visit)
	}
	for _, k := range n.Over {
		k.Walk(visit)
	}
}

// ranks gives headings ranks of which none is left out, the first being 1.
func (t *Tree) ranks() {
	t.entitle()
	var open []int // drawn ranks of the headings one is below
	t.Root.Walk(func(n *Node) {
		if n.Role != role.Heading {
			return
		}
		for len(open) > 1 && open[len(open)-1] >= n.Rank {
			open = open[:len(open)-1]
		}
		if len(open) < 6 {
			open = append(open, n.Rank)
		}
		n.Rank = len(open)
	})
}

// entitle makes the largest words of a screen that has no heading its title.
func (t *Tree) entitle() {
	var largest *Node
	t.Root.Walk(func(n *Node) {
		switch {
		case n.Role == role.Heading:
			largest = n
		case largest != nil && largest.Role == role.Heading:
		case n.Cell.Words() && n.Role == role.Text && n.Control == nil &&
			(largest == nil || size(n) > size(largest)):
			largest = n
		}
	})
	if t.Whole && largest != nil {
		largest.Role, largest.Rank = role.Heading, max(1, largest.Rank)
	}
}

// size is the size of a node's words, in px.
func size(n *Node) float64 { return n.Cell.Element.Words.Size.Value }

// spans are the words of a cell. Where lines end by themselves at the width they have, nothing is broken.
func spans(c *layout.Cell) []Span {
	lines := c.TextLines()
	width := c.Room.W
	if c.Narrow {
		width = c.Box.W
	}
	breaks := func(i int) bool {
		return i < len(lines)-1 && !layout.Breaks(lines[i], lines[i+1].Words, width)
	}
	var out []Span
	if c.Lines == nil && len(c.Element.Words.Looks()) > 1 {
		runs := c.Element.Words.Runs
		for i := range runs {
			r := &runs[i]
			s := Span{Words: r.Words, Run: r}
			if i+1 < len(runs) && runs[i+1].Line != r.Line {
				if s.Break = breaks(r.Line); !s.Break {
					s.Words += " "
				}
			}
			out = append(out, s)
		}
		return out
	}
	for i, l := range lines {
		if k := len(out) - 1; k >= 0 && !out[k].Break {
			out[k].Words += " " + l.Words
			out[k].Break = breaks(i)
			continue
		}
		out = append(out, Span{Words: l.Words, Break: breaks(i)})
	}
	return out
}
