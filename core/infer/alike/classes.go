package alike

import (
	"slices"
	"strings"

	"archetyp/core/design"
)

// classes are those of an element of a page; nil for one of a drawing, where programs name classes as they like.
func classes(e *design.Element) []string {
	if e.Node == nil || !e.Node.HTML {
		return nil
	}
	return strings.Fields(e.Node.AttrOr("class", ""))
}

// kin reports whether two elements may be instances of one thing: on a page they share a class, or neither has any and
// they are the same element of HTML.
func kin(a, b *design.Element) bool {
	if a.Node == nil || b.Node == nil || !a.Node.HTML || !b.Node.HTML {
		return true
	}
	x, y := classes(a), classes(b)
	if len(x) == 0 && len(y) == 0 {
		return a.Node.Local == b.Node.Local
	}
	return slices.ContainsFunc(x, func(c string) bool { return slices.Contains(y, c) })
}

// shared are the classes that all of some elements have, in the order of the first.
func shared(list []*design.Element) (out []string) {
	for _, c := range classes(list[0]) {
		if !slices.Contains(out, c) && !slices.ContainsFunc(list, func(e *design.Element) bool { return !slices.Contains(classes(e), c) }) {
			out = append(out, c)
		}
	}
	return out
}
