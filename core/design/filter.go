package design

import "archetyp/core/geom"

// Without is a paint tree without the paint of some elements and all that is in them. Nothing of the original changes.
func Without(p *PaintNode, hide map[*Element]bool) *PaintNode {
	return p.prune(func(e *Element) bool { return !hide[e] })
}

// Only is a paint tree with nothing but the paint of some elements, where it stands and as its containers show it.
func Only(p *PaintNode, keep map[*Element]bool) *PaintNode {
	leads := map[*Element]bool{} // to an element that is kept
	for e := range keep {
		for a := e; a != nil; a = a.Parent {
			leads[a] = true
		}
	}
	inside := func(e *Element) bool {
		return leads[e] || e.Ancestor(func(a *Element) bool { return keep[a] }) != nil
	}
	return p.prune(inside)
}

// prune copies the tree without the elements that ok refuses.
func (p *PaintNode) prune(ok func(*Element) bool) *PaintNode {
	q := *p
	q.Children = nil
	for _, c := range p.Children {
		if c.Element == nil || c.Element.Paint != c || ok(c.Element) {
			q.Children = append(q.Children, c.prune(ok))
		}
	}
	return &q
}

// Near is a paint tree without the elements that paint nothing in an area of the screen. What lies below a filter,
// which may carry paint far, stays whole.
func Near(p *PaintNode, area geom.Rect) *PaintNode {
	if p.Filter != nil {
		return p
	}
	q := *p
	q.Children = nil
	for _, c := range p.Children {
		if e := c.Element; e != nil && e.Paint == c {
			if box := e.Painted.Value.Grow(2).Intersect(area); box.W <= 0 || box.H <= 0 {
				continue
			}
		}
		q.Children = append(q.Children, Near(c, area))
	}
	return &q
}
