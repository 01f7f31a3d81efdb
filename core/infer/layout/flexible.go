package layout

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
)

// Flex is how a part of a component gives way when the component is wider or narrower.
type Flex string

// The ways. A part that only keeps its place and size has none.
const (
	Grows Flex = "grows" // it keeps its distance from both sides
	Wraps Flex = "wraps" // its words break into more lines where there is less room
	Cuts  Flex = "cuts"  // its words end in dots where there is less room
)

// Flexible is how an element gives way, as another instance of its component of another width shows, and which one
// that is. One picture alone says nothing of it.
func (f *Finder) Flexible(e *design.Element) (way Flex, other *design.Element) {
	root := e.Ancestor(func(x *design.Element) bool { return x.Marks.Component != "" })
	if root == nil || root == e || e == root.Background() {
		return "", nil
	}
	path := pathTo(root, e)
	for _, r := range f.instancesOf(root) {
		if r == root || math.Abs(hull(r).W-hull(root).W) <= 1 {
			continue
		}
		o := follow(r, path)
		if o == nil || o.Kind != e.Kind {
			continue
		}
		if way := gives(e, o, hull(root).W > hull(r).W); way != "" {
			return way, r
		}
		left := math.Abs(hull(e).X-hull(root).X-hull(o).X+hull(r).X) < near
		right := math.Abs(hull(root).Right()-hull(e).Right()-hull(r).Right()+hull(o).Right()) < near
		if left && right && e.Words == nil {
			return Grows, r
		}
	}
	return "", nil
}

// gives is how the words of a text give way between a wide and a narrow instance.
func gives(e, o *design.Element, wider bool) Flex {
	if e.Words == nil || o.Words == nil {
		return ""
	}
	wide, narrow := e.Words, o.Words
	if !wider {
		wide, narrow = o.Words, e.Words
	}
	if start, cut := strings.CutSuffix(strings.TrimSpace(narrow.Words), "…"); cut && start != "" &&
		len(start) < len(wide.Words) && strings.HasPrefix(wide.Words, strings.TrimSpace(start)) {
		return Cuts
	}
	if len(narrow.Lines) > len(wide.Lines) && slices.Equal(strings.Fields(wide.Words), strings.Fields(narrow.Words)) {
		return Wraps
	}
	return ""
}

// hull is the box that an element has in a layout: its ground's, for a group that has one.
func hull(e *design.Element) geom.Rect {
	if bg := e.Background(); bg != nil {
		return bg.Layout.Value
	}
	if e.Layout.Set {
		return e.Layout.Value
	}
	return e.Geometry.Value
}

// instancesOf are the elements of a document marked as the same component, in the order of the drawing.
func (f *Finder) instancesOf(root *design.Element) []*design.Element {
	doc := root.Screen.Document
	if f.instances == nil {
		f.instances = map[*design.Document]map[string][]*design.Element{}
	}
	if f.instances[doc] == nil {
		f.instances[doc] = map[string][]*design.Element{}
		for _, s := range doc.Screens {
			for _, e := range s.Elements {
				if c := e.Marks.Component; c != "" && !e.Hidden {
					f.instances[doc][c] = append(f.instances[doc][c], e)
				}
			}
		}
	}
	return f.instances[doc][root.Marks.Component]
}

// pathTo is the way from an element down to one in it, as places among siblings.
func pathTo(from, to *design.Element) (path []int) {
	for e := to; e != from; e = e.Parent {
		path = append(path, slices.Index(e.Parent.Children, e))
	}
	slices.Reverse(path)
	return path
}

// follow is the element at the end of a way; nil where siblings are not as many as they were, or are of other kinds.
func follow(from *design.Element, path []int) *design.Element {
	for _, i := range path {
		if i >= len(from.Children) {
			return nil
		}
		from = from.Children[i]
	}
	return from
}

// flexFacts say how an element gives way.
func (f *Finder) flexFacts(e *design.Element) []design.FactLine {
	way, other := f.Flexible(e)
	if way == "" {
		return nil
	}
	from := fmt.Sprintf("%s, %s wide", other.Title(), css.Px(hull(other).W))
	switch way {
	case Grows:
		return []design.FactLine{derived("layout", "flex-grow", "1", "as far from both sides in "+from)}
	case Cuts:
		return []design.FactLine{derived("layout", "text-overflow", "ellipsis", "cut off in the narrower of this and "+from)}
	}
	return []design.FactLine{derived("layout", "white-space", "normal", "more lines in the narrower of this and "+from)}
}
