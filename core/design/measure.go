package design

import (
	"math"

	"archetyp/core/geom"
)

// Edge names a line of a box that two elements can share.
type Edge string

// The edges, and the lines through the middle.
const (
	Left    Edge = "left"
	Right   Edge = "right"
	Top     Edge = "top"
	Bottom  Edge = "bottom"
	CentreX Edge = "centre across"
	CentreY Edge = "centre down"
)

// Edges are all of them, in the order they are listed.
var Edges = []Edge{Left, CentreX, Right, Top, CentreY, Bottom}

// Of is where a box has the edge, in px.
func (e Edge) Of(r geom.Rect) float64 {
	switch e {
	case Left:
		return r.X
	case Right:
		return r.Right()
	case Top:
		return r.Y
	case Bottom:
		return r.Bottom()
	case CentreX:
		return r.X + r.W/2
	}
	return r.Y + r.H/2
}

// Distance is how one box stands to another, in px.
type Distance struct {
	GapX, GapY float64          // clear space between them; where their extents overlap, what they share, negative
	Offsets    map[Edge]float64 // of the second from the first, for each edge
	Overlap    geom.Rect        // what both cover; no size where they do not meet
	Aligned    []Edge           // edges they share
}

// alignedWithin is how far edges may be apart that are still one, in px.
const alignedWithin = 0.05

// Tidy takes away what binary fractions and their sums leave over of a length or share.
func Tidy(v float64) float64 { return math.Round(v*1e4)/1e4 + 0 }

// Between measures from box a to box b.
func Between(a, b geom.Rect) Distance {
	d := Distance{Offsets: map[Edge]float64{}, Overlap: a.Intersect(b)}
	d.GapX = math.Max(a.X, b.X) - math.Min(a.Right(), b.Right())
	d.GapY = math.Max(a.Y, b.Y) - math.Min(a.Bottom(), b.Bottom())
	for _, e := range Edges {
		d.Offsets[e] = e.Of(b) - e.Of(a)
		if math.Abs(d.Offsets[e]) <= alignedWithin {
			d.Aligned = append(d.Aligned, e)
		}
	}
	return d
}

// Insets are the distances of a box from the edges of one around it: top, right, bottom, left; negative where it hangs
// over.
func Insets(in, out geom.Rect) [4]float64 {
	return [4]float64{in.Y - out.Y, out.Right() - in.Right(), out.Bottom() - in.Bottom(), in.X - out.X}
}

// InTheMiddle says in words which way a box stands in the middle of one around it, with room on both sides; "" for
// neither.
func InTheMiddle(in, out geom.Rect) string {
	i := Insets(in, out)
	even := func(a, b float64) bool { return a > alignedWithin && math.Abs(a-b) <= alignedWithin }
	switch across, down := even(i[1], i[3]), even(i[0], i[2]); {
	case across && down:
		return "both ways"
	case across:
		return "across"
	case down:
		return "down"
	}
	return ""
}

// ContainerElement is the element whose box Container gives: the background an element lies on; nil for the screen.
func (e *Element) ContainerElement() *Element {
	for p := e.Parent; p != nil; p = p.Parent {
		if bg := p.Background(); bg != nil && bg != e {
			return bg
		}
	}
	return nil
}

// Covering is an element that lies in an area, and how much of each covers the other, 0–1.
type Covering struct {
	Element *Element
	OfArea  float64 // share of the area that the element's box covers
	Inside  float64 // share of the element's box that lies in the area
}

// Within lists the visible elements with paint of their own that reach into an area of the screen, topmost first.
func (s *Screen) Within(area geom.Rect) []Covering {
	var out []Covering
	for i := len(s.Elements) - 1; i >= 0; i-- {
		e := s.Elements[i]
		if e.Hidden || e.Kind == Group || !e.Geometry.Set {
			continue
		}
		box := e.Geometry.Value
		if len(e.Strokes) > 0 || box.W <= 0 || box.H <= 0 { // a line has no area but for its stroke
			box = e.Painted.Value
		}
		common := box.Intersect(area)
		if common.W <= 0 || common.H <= 0 {
			continue
		}
		c := Covering{Element: e, OfArea: common.W * common.H / (area.W * area.H)}
		if a := box.W * box.H; a > 0 {
			c.Inside = common.W * common.H / a
		}
		out = append(out, c)
	}
	return out
}
