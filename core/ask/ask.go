// Package ask answers what people ask of a design: all that is known of an element, how far things stand apart, the
// colour at a point, the picture of a part. Documents and elements go in, values come out; commands, editor and guide
// print them.
package ask

import (
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
)

// Rect is a rectangle on a screen, in px.
type Rect struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
	W float64 `json:"width"`
	H float64 `json:"height"`
}

func rect(r geom.Rect) Rect { return Rect{r.X, r.Y, r.W, r.H} }

// Box is the geometry of an element: its outlines without strokes and effects.
func Box(e *design.Element) Rect { return rect(e.Geometry.Value) }

// String is the rectangle in words.
func (r Rect) String() string { return design.RectText(geom.Rect{X: r.X, Y: r.Y, W: r.W, H: r.H}) }

// Num is a number with so many decimals at most.
func Num(v float64, decimals int) string { return css.Num(v, decimals) }
