package audit

import (
	"math"
	"slices"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
)

var nearlyAligned = Rule{Name: "nearly-aligned", Group: "layout", Level: Warning,
	What:  "things that stand a px or two beside the edge that their neighbours share",
	Why:   "nobody means it, and code that lines them up differs from the drawing",
	check: checkNearlyAligned,
}

// beside is how far from a shared edge something may stand and still be meant to stand on it, in px.
const beside = 2.5

func checkNearlyAligned(c *checker) {
	c.interfaces(func(s *design.Screen) {
		if s.Document.Styles != nil { // browsers place by rule
			return
		}
		for _, e := range append([]*design.Element{s.Root}, visible(s)...) {
			if e.Kind != design.Group || inPicture(e) || e.Marks.Asset != "" || len(e.Contents()) < 4 {
				continue
			}
			c.aligned(e.Contents())
		}
	})
}

// edges are those that things of one kind line up by.
var edges = []struct {
	name string
	of   func(geom.Rect) float64
	down bool // things below each other share it
}{
	{"left", func(r geom.Rect) float64 { return r.X }, true},
	{"right", func(r geom.Rect) float64 { return r.Right() }, true},
	{"top", func(r geom.Rect) float64 { return r.Y }, false},
	{"bottom", func(r geom.Rect) float64 { return r.Bottom() }, false},
}

// aligned reports the one of several things of one kind and size that misses the edge that three or more others share,
// while no other edge or middle of it is on a line with theirs.
func (c *checker) aligned(items []*design.Element) {
	for _, edge := range edges {
		byKind := map[design.Kind][]*design.Element{}
		for _, e := range items {
			if e.Geometry.Set && !e.Line() {
				byKind[e.Kind] = append(byKind[e.Kind], e)
			}
		}
		for _, kind := range []design.Kind{design.Group, design.Box, design.Text} {
			list := byKind[kind]
			if kind == design.Text && !edge.down {
				list = ofCommonSize(list)
			}
			if len(list) < 4 {
				continue
			}
			at := common(list, edge.of)
			var on, off []*design.Element
			for _, e := range list {
				switch d := math.Abs(edge.of(e.BorderBox()) - at); {
				case d <= 0.5:
					on = append(on, e)
				case d <= beside && !c.alignedOtherwise(e, list):
					off = append(off, e)
				}
			}
			if len(on) < 3 || len(off) == 0 || len(off) > len(on)/3 || edge.down && !stacked(on) || !edge.down && stacked(on) {
				continue
			}
			for _, e := range off {
				f := c.find([]*design.Element{e}, "Move it onto "+css.Px(design.Tidy(at))+".", "the %s edge of %s is at %s, that of %s beside it at %s",
					edge.name, e.Title(), css.Px(design.Tidy(edge.of(e.BorderBox()))), countOthers(len(on)), css.Px(design.Tidy(at)))
				f.about = "place"
			}
		}
	}
}

// ofCommonSize are the texts of the size that most of them are set in: texts of several sizes in a row share a baseline
// or a middle, and neither top nor bottom.
func ofCommonSize(texts []*design.Element) (out []*design.Element) {
	bySize := map[float64][]*design.Element{}
	for _, e := range texts {
		size := e.Words.Size.Value
		if bySize[size] = append(bySize[size], e); len(bySize[size]) > len(out) {
			out = bySize[size]
		}
	}
	return out
}

func countOthers(n int) string { return css.Num(float64(n), 0) + " others" }

// common is the place of an edge that most things share.
func common(list []*design.Element, of func(geom.Rect) float64) (at float64) {
	most := 0
	for _, e := range list {
		v, n := of(e.BorderBox()), 0
		for _, o := range list {
			if math.Abs(of(o.BorderBox())-v) <= 0.5 {
				n++
			}
		}
		if n > most {
			at, most = v, n
		}
	}
	return at
}

// alignedOtherwise reports whether another edge or the middle of an element is on a line with two or more others.
func (c *checker) alignedOtherwise(e *design.Element, list []*design.Element) bool {
	own := e.BorderBox()
	for _, of := range []func(geom.Rect) float64{
		func(r geom.Rect) float64 { return r.X }, func(r geom.Rect) float64 { return r.Right() }, func(r geom.Rect) float64 { return r.X + r.W/2 },
	} {
		n := 0
		for _, o := range list {
			if o != e && math.Abs(of(o.BorderBox())-of(own)) <= 0.5 {
				n++
			}
		}
		if n >= 2 {
			return true
		}
	}
	return false
}

// stacked reports whether things stand below each other.
func stacked(list []*design.Element) bool {
	boxes := make([]geom.Rect, len(list))
	for i, e := range list {
		boxes[i] = e.BorderBox()
	}
	slices.SortFunc(boxes, func(a, b geom.Rect) int { return int(math.Copysign(1, a.Y-b.Y)) })
	for i := range boxes[1:] {
		if boxes[i+1].Y < boxes[i].Bottom()-1 {
			return false
		}
	}
	return true
}
