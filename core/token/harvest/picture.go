package harvest

import (
	"slices"

	"archetyp/core/design"
)

// icon reports whether a drawing is one small picture, in which nothing is laid out.
func icon(s *design.Screen) bool {
	return s.Box.W <= mostPicture && s.Box.H <= mostPicture && !slices.ContainsFunc(s.Elements,
		func(e *design.Element) bool { return e.Words != nil })
}

func (c *collector) inPicture(e *design.Element) bool { return c.icon || inPicture(e) }

// inPicture reports whether an element is part of a drawing that is used or exported as a whole.
func inPicture(e *design.Element) bool { return e.Ancestor(picture) != nil }

// mostPicture is how large, in px, what is used by reference may be and still be a picture; larger things are parts of
// the layout.
const mostPicture = 128

// picture reports whether an element is a drawing as a whole: one that is exported, or forms used by reference, without
// words, and small. A single box used so is a box.
func picture(e *design.Element) bool {
	if e.Marks.Asset != "" {
		return true
	}
	b := e.Geometry.Value
	if e.Native != design.Instance || b.W > mostPicture || b.H > mostPicture {
		return false
	}
	forms, words := 0, false
	e.Walk(func(x *design.Element) {
		words = words || x.Words != nil
		if x.Kind != design.Group {
			forms++
			if x.Kind == design.Path {
				forms++
			}
		}
	})
	return !words && forms > 1
}
