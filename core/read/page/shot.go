package page

import (
	"bytes"
	"image/png"
	"math"
	"strconv"

	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

// Shot is what a browser saw of a page. The page itself is the text that the browser gave, in which each element has
// its number.
type Shot struct {
	Boxes
	Picture []byte // a PNG; nil for none
}

// Boxes are where things stand in a page, in px of the page.
type Boxes struct {
	Width    float64     `json:"width"`
	Height   float64     `json:"height"`
	Elements [][]float64 `json:"boxes"` // by number: x, y, width, height; of turned elements also the matrix a b c d, and their own width and height
	Texts    []TextBoxes `json:"texts,omitempty"`
	Parts    []PartBox   `json:"parts,omitempty"`
	Frames   []Frame     `json:"frames,omitempty"`
	Cut      bool        `json:"cut,omitempty"` // the picture ends before the page does
}

// TextBoxes are the boxes of a run of words between elements.
type TextBoxes struct {
	Of    int          `json:"of"`    // the number of the element around it
	Run   int          `json:"run"`   // which of the runs of that element that are more than white space
	Lines [][4]float64 `json:"lines"` // x, y, width, height of each line
}

// PartBox is the box of a pseudo-element.
type PartBox struct {
	Of   int        `json:"of"`   // the number of its element
	Name string     `json:"name"` // before or after
	Box  [4]float64 `json:"box"`  // x, y, width, height
}

// Frame is the page that a frame shows.
type Frame struct {
	Of     int        `json:"of"` // the number of the frame
	HTML   string     `json:"html"`
	URL    string     `json:"url"`
	Window [2]float64 `json:"window"` // width and height
	Boxes
}

// rect is a box of four numbers.
func rect(v [4]float64) geom.Rect { return geom.Rect{X: v[0], Y: v[1], W: v[2], H: v[3]} }

// partBox is the box of a pseudo-element; ok is false where it has none.
func (p *Page) partBox(n *markup.Node, name string) (box geom.Rect, ok bool) {
	number, known := p.numbers[n]
	if !known {
		return box, false
	}
	i, ok := p.partBoxes[placed{number, name, 0}]
	if !ok {
		return box, false
	}
	return rect(p.shot.Parts[i].Box), true
}

// textBox is the box around all lines of a run of words; ok is false where it has none.
func (p *Page) textBox(n *markup.Node, run int) (box geom.Rect, ok bool) {
	number, known := p.numbers[n]
	if !known {
		return box, false
	}
	i, ok := p.textBoxes[placed{number, "", run}]
	if !ok {
		return box, false
	}
	for i, l := range p.shot.Texts[i].Lines {
		if i == 0 {
			box = rect(l)
		} else {
			box = box.Union(rect(l))
		}
	}
	return box, box.W > 0
}

// placed is what has a box beside the elements: a pseudo-element or a run of words, by the number of its element.
type placed struct {
	of   int
	name string
	run  int
}

// takeShot notes what a browser saw, and reads the pages in frames.
func (p *Page) takeShot(o *Options) {
	p.shot, p.numbers = o.Shot, takeMarks(p.Markup.Root)
	p.partBoxes, p.textBoxes, p.frames = map[placed]int{}, map[placed]int{}, map[*markup.Node]*Page{}
	for i, b := range p.shot.Parts {
		p.partBoxes[placed{b.Of, b.Name, 0}] = i
	}
	for i, b := range p.shot.Texts {
		p.textBoxes[placed{b.Of, "", b.Run}] = i
	}
	if len(p.shot.Frames) == 0 {
		return
	}
	nodes := map[int]*markup.Node{}
	for n, i := range p.numbers {
		nodes[i] = n
	}
	for i := range p.shot.Frames {
		f := &p.shot.Frames[i]
		n := nodes[f.Of]
		if n == nil {
			continue
		}
		inner := *o
		inner.Name, inner.URL, inner.ContentType = o.Name+" in "+p.selector(n), f.URL, "text/html; charset=utf-8"
		inner.Medium.Width, inner.Medium.Height = f.Window[0], f.Window[1]
		inner.Shot = &Shot{Boxes: f.Boxes}
		sub, err := Read([]byte(f.HTML), inner)
		if err != nil {
			p.Warnings = append(p.Warnings, Warning{p.Markup.Position(n.Offset), "the frame cannot be read: " + err.Error()})
			continue
		}
		p.frames[n] = sub
	}
}

// Of is the page that a node belongs to: this one, or one in a frame of it; nil for neither.
func (p *Page) Of(n *markup.Node) *Page {
	for n.Parent != nil || n.Host != nil {
		if n.Parent == nil {
			n = n.Host
		} else {
			n = n.Parent
		}
	}
	return p.withRoot(n)
}

func (p *Page) withRoot(root *markup.Node) *Page {
	if p.Markup.Root == root {
		return p
	}
	for _, f := range p.frames {
		if found := f.withRoot(root); found != nil {
			return found
		}
	}
	return nil
}

// mostPixels is how large a picture may be.
const mostPixels = 400 << 20

// picture is the picture as one to paint; nil for none, and for one that cannot be read.
func (s *Shot) picture() *design.PaintNode {
	size, err := png.DecodeConfig(bytes.NewReader(s.Picture))
	if err != nil || size.Width*size.Height > mostPixels {
		return nil
	}
	img, err := png.Decode(bytes.NewReader(s.Picture))
	if err != nil {
		return nil
	}
	return &design.PaintNode{Matrix: geom.Identity, Opacity: 1, Bitmap: img, BitmapBox: geom.Rect{W: float64(size.Width), H: float64(size.Height)}}
}

// boxMark is the attribute that holds an element's number.
const boxMark = "archetyp-box"

// takeMarks notes the number of every element and takes the attribute away, so that nobody sees it.
func takeMarks(root *markup.Node) map[*markup.Node]int {
	out := map[*markup.Node]int{}
	var walk func(n *markup.Node)
	walk = func(n *markup.Node) {
		for i := range n.Attrs {
			if n.Attrs[i].Name == boxMark {
				if k, err := strconv.Atoi(n.Attrs[i].Value); err == nil {
					out[n] = k
				}
				n.Attrs = append(n.Attrs[:i:i], n.Attrs[i+1:]...)
				break
			}
		}
		if n.Shadow != nil {
			walk(n.Shadow)
		}
		for _, c := range n.Children {
			walk(c)
		}
	}
	walk(root)
	return out
}

// place gives an element its boxes.
func (b *documenter) place(e *design.Element, n *markup.Node) {
	shot := b.page.shot
	if shot == nil {
		return
	}
	i, ok := b.page.numbers[n]
	if !ok || i >= len(shot.Elements) || len(shot.Elements[i]) < 4 {
		return
	}
	v := shot.Elements[i]
	for _, x := range v {
		if math.IsNaN(x) || math.IsInf(x, 0) {
			return
		}
	}
	box := geom.Rect{X: v[0], Y: v[1], W: v[2], H: v[3]}
	b.at(e, box)
	if len(v) == 10 { // turned: its own box lies around the same middle
		mid := geom.Point{X: box.X + box.W/2, Y: box.Y + box.H/2}
		own := geom.Rect{X: mid.X - v[8]/2, Y: mid.Y - v[9]/2, W: v[8], H: v[9]}
		e.Layout = design.Derive(own, "the browser, before it is turned")
		m := geom.Matrix{A: v[4], B: v[5], C: v[6], D: v[7]}
		m.E, m.F = mid.X-(m.A*mid.X+m.C*mid.Y), mid.Y-(m.B*mid.X+m.D*mid.Y)
		e.Matrix = m
	}
}

// at gives an element the box that a browser saw, and what the picture shows there.
func (b *documenter) at(e *design.Element, box geom.Rect) {
	e.Geometry = design.Derive(box, "the browser")
	e.Painted, e.Layout = e.Geometry, e.Geometry
	e.Paint = &design.PaintNode{Matrix: geom.Identity, Opacity: 1, Element: e}
	if b.picture != nil {
		e.Paint.Children = []*design.PaintNode{b.picture}
	}
}

// around gives a stretch of words its box, or the one of what it stands in where that is not known.
func (b *documenter) around(e, parent *design.Element, run int) {
	if box, ok := b.page.textBox(parent.Node, run); ok {
		b.at(e, box)
		return
	}
	if parent.Geometry.Set {
		e.Geometry, e.Painted, e.Layout, e.Paint = parent.Geometry, parent.Painted, parent.Layout, parent.Paint
	}
}
