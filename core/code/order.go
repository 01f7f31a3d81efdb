package code

import (
	"slices"

	"archetyp/core/design"
)

// order is the order that declarations are written in: where a thing stands, how large it is, how its contents stand,
// what it looks like, how its words are set, and what is done to the whole.
var order = func() map[string]int {
	at := map[string]int{}
	for i, p := range []string{"position", "top", "right", "left", "z-index", "isolation", "box-sizing", "width", "max-width",
		"height", "min-height", "margin", "margin-top", "margin-left", "margin-inline", "padding", "display",
		"grid-template-columns", "flex-direction", "align-items", "align-content", "place-items", "justify-content",
		"justify-items", "gap", "flex", "align-self", "translate", "rotate", "overflow", "border-radius", "clip-path",
		"background", "background-clip", "border", "border-top", "border-left", "outline", "outline-offset", "box-shadow",
		"font", "font-family", "font-size", "font-weight", "font-style", "line-height", "letter-spacing", "text-align",
		"text-transform", "text-decoration", "color", "text-shadow", "opacity", "filter", "mix-blend-mode"} {
		at[p] = i + 1
	}
	return at
}()

// inOrder sorts declarations; what has no place of its own comes last.
func inOrder(ds []design.Declaration) {
	place := func(d design.Declaration) int {
		if i := order[d.Prop]; i > 0 {
			return i
		}
		return len(order) + 1
	}
	slices.SortStableFunc(ds, func(a, b design.Declaration) int { return place(a) - place(b) })
}
