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

// Shot is what a browser saw of a page: its boxes, in px of the page, and perhaps its picture. The page itself is the
// text that the browser gave, in which each element has its number.
type Shot struct {
	Width, Height float64
	Parts         map[Part]geom.Rect // of pseudo-elements
	Boxes         [][]float64        // by number: x, y, width, height; of turned elements also the matrix a b c d, and their own width and height
	Picture       []byte             // a PNG; nil for none
	Cut           bool               // the picture ends before the page does
}

// Part is a pseudo-element: the number of its element, and its name ("before").
type Part struct {
	Of   int
	Name string
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
	if !ok || i >= len(shot.Boxes) || len(shot.Boxes[i]) < 4 {
		return
	}
	v := shot.Boxes[i]
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

// around gives a stretch of words the box of what it stands in.
func (b *documenter) around(e, parent *design.Element) {
	if parent.Geometry.Set {
		e.Geometry, e.Painted, e.Layout, e.Paint = parent.Geometry, parent.Painted, parent.Layout, parent.Paint
	}
}
