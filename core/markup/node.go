// Package markup is one small tree for XML and HTML with their case rules: what selectors match against and readers
// walk. In go bytes, out comes a Document of Nodes that know where they stand in the file.
package markup

import (
	"bytes"
	"fmt"
	"sort"
	"strings"
	"sync"
)

// The namespaces that mean something to us.
const (
	SVG   = "http://www.w3.org/2000/svg"
	XHTML = "http://www.w3.org/1999/xhtml"
	XLink = "http://www.w3.org/1999/xlink"
	XML   = "http://www.w3.org/XML/1998/namespace"
)

// Kind tells elements from text.
type Kind uint8

// The kinds of node. Comments and processing instructions are not kept; the bytes of the file still hold them.
const (
	Element Kind = iota
	Text
	Fragment // what a template holds, or a shadow root
)

// Attr is one attribute.
type Attr struct {
	Space string // namespace address; empty for most
	Local string // name without prefix
	Name  string // name as written, prefix included
	Value string // entities resolved
}

// Node is an element or a run of text.
type Node struct {
	Kind     Kind
	Space    string // namespace address
	Local    string // name without prefix
	Name     string // name as written
	Attrs    []Attr
	Data     string // of a text node
	Parent   *Node
	Children []*Node
	Index    int   // place among the parent's children
	Nth      int   // place among those that are elements, from 1; 0 for text
	elements int   // children that are elements
	Offset   int   // first byte in the file
	End      int   // byte after the last
	HTML     bool  // an element of HTML
	Lax      bool  // in a page, where names of elements know no case
	Content  *Node // of a template: what stands in it, which is not part of the page
	Shadow   *Node // the shadow root that markup declares
	Host     *Node // of a shadow root
}

// Document is a parsed file.
type Document struct {
	Root     *Node
	Quirks   bool // HTML without a doctype of today
	lines    *LineIndex
	once     sync.Once
	repeated map[string]bool // ids that stand more than once
}

// Repeated reports whether an id stands more than once in the file, which it should not.
func (d *Document) Repeated(id string) bool {
	d.once.Do(func() {
		seen := map[string]bool{}
		d.repeated = map[string]bool{}
		d.Root.Walk(func(n *Node) bool {
			if id := n.ID(); id != "" {
				if seen[id] {
					d.repeated[id] = true
				}
				seen[id] = true
			}
			return true
		})
	})
	return d.repeated[id]
}

// Position is a place in a file, counted from 1; Column counts characters.
type Position struct {
	Line   int `json:"line"`
	Column int `json:"column"`
}

// Position turns a byte offset into line and column.
func (d *Document) Position(offset int) Position { return d.lines.Position(offset) }

// LineIndex finds lines and columns in a text.
type LineIndex struct {
	src    []byte
	starts []int // offset of each line's first byte
	chars  []int // characters before each stride, so that a file of one long line costs no more than others
}

const stride = 1 << 10

// Lines indexes a text.
func Lines(src []byte) *LineIndex {
	x := &LineIndex{src: src, starts: []int{0}}
	for i := 0; ; {
		k := bytes.IndexByte(src[i:], '\n')
		if k < 0 {
			break
		}
		i += k + 1
		x.starts = append(x.starts, i)
	}
	n := 0
	for i := 0; i <= len(src); i += stride {
		x.chars = append(x.chars, n)
		n += characters(src[i:min(i+stride, len(src))])
	}
	return x
}

// characters counts those that begin in UTF-8 text.
func characters(text []byte) int {
	n := 0
	for _, b := range text {
		if b&0xC0 != 0x80 {
			n++
		}
	}
	return n
}

func (x *LineIndex) before(offset int) int {
	k := offset / stride
	return x.chars[k] + characters(x.src[k*stride:offset])
}

// Position turns a byte offset into line and column.
func (x *LineIndex) Position(offset int) Position {
	offset = max(0, min(offset, len(x.src)))
	i := sort.Search(len(x.starts), func(i int) bool { return x.starts[i] > offset }) - 1
	start := x.starts[i]
	if offset-start < stride {
		return Position{i + 1, characters(x.src[start:offset]) + 1}
	}
	return Position{i + 1, x.before(offset) - x.before(start) + 1}
}

// Error is a fault in a file at a place.
type Error struct {
	Position
	Msg  string
	Hint string // what to do about it, where that is known
}

func (e *Error) Error() string { return fmt.Sprintf("%d:%d: %s", e.Line, e.Column, e.Msg) }

// Attr is the value of the attribute of no namespace with this name.
func (n *Node) Attr(local string) (string, bool) {
	for i := range n.Attrs {
		if a := &n.Attrs[i]; a.Space == "" && a.Local == local {
			return a.Value, true
		}
	}
	return "", false
}

// AttrOr is Attr with a value for when it is missing.
func (n *Node) AttrOr(local, or string) string {
	if v, ok := n.Attr(local); ok {
		return v
	}
	return or
}

// AttrNS is the value of the attribute with this name in a namespace.
func (n *Node) AttrNS(space, local string) (string, bool) {
	for i := range n.Attrs {
		if a := &n.Attrs[i]; a.Space == space && a.Local == local {
			return a.Value, true
		}
	}
	return "", false
}

// Href is the reference of an SVG element: href, or the older xlink:href.
func (n *Node) Href() string {
	if v, ok := n.Attr("href"); ok {
		return strings.TrimSpace(v)
	}
	v, _ := n.AttrNS(XLink, "href")
	return strings.TrimSpace(v)
}

// ID is the id attribute.
func (n *Node) ID() string { return n.AttrOr("id", "") }

// Is reports whether the node is an SVG element of this name.
func (n *Node) Is(local string) bool {
	return n.Kind == Element && n.Local == local && n.Space == SVG
}

// Elements are the children that are elements.
func (n *Node) Elements() []*Node {
	var out []*Node
	for _, c := range n.Children {
		if c.Kind == Element {
			out = append(out, c)
		}
	}
	return out
}

// TextContent is all text below the node.
func (n *Node) TextContent() string {
	if n.Kind == Text {
		return n.Data
	}
	var b strings.Builder
	n.Walk(func(m *Node) bool {
		if m.Kind == Text {
			b.WriteString(m.Data)
		}
		return true
	})
	return b.String()
}

// Walk visits the node and everything below it in document order; where visit returns false it goes no deeper.
func (n *Node) Walk(visit func(*Node) bool) {
	if !visit(n) {
		return
	}
	for _, c := range n.Children {
		c.Walk(visit)
	}
}

// Append adds a child at the end.
func (n *Node) Append(c *Node) {
	c.Parent, c.Index = n, len(n.Children)
	if c.Kind == Element {
		n.elements++
		c.Nth = n.elements
	}
	n.Children = append(n.Children, c)
}

// SetAttr sets an attribute of no namespace.
func (n *Node) SetAttr(name, value string) {
	for i := range n.Attrs {
		if n.Attrs[i].Name == name {
			n.Attrs[i].Value = value
			return
		}
	}
	n.Attrs = append(n.Attrs, Attr{Local: name, Name: name, Value: value})
}
