package audit

import (
	"math"

	"archetyp/core/css"
	"archetyp/core/design"
)

var halfPixel = Rule{Name: "half-pixel", Group: "values", Level: Note,
	What:  "boxes whose edges lie between two pixels",
	Why:   "its edges are blurred on screens of one pixel a px",
	check: checkHalfPixel,
}

func checkHalfPixel(c *checker) {
	c.interfaces(func(s *design.Screen) {
		var found []*design.Element
		on := 0
		for _, e := range visible(s) {
			if e.Kind != design.Box || e.Oval() || len(e.Fills) == 0 || !e.Matrix.Upright() || e.BorderBox().W < 8 || e.BorderBox().H < 8 {
				continue
			}
			b := e.BorderBox()
			if between(b.X) || between(b.Y) || between(b.Right()) || between(b.Bottom()) {
				found = append(found, e)
			} else {
				on++
			}
		}
		switch {
		case len(found) == 0 || len(found) > on: // a drawing without a grid
		case len(found) == 1:
			b := found[0].BorderBox()
			c.find(found, "Move its edges onto whole pixels.", "its box begins at %s, %s and is %s × %s px", css.Num(b.X, 2), css.Num(b.Y, 2), css.Num(b.W, 2), css.Num(b.H, 2))
		default:
			c.find(found, "Move their edges onto whole pixels.", "%d of %d boxes have edges between two pixels", len(found), len(found)+on)
		}
	})
}

// between reports whether a place lies between two pixels, by more than one sees.
func between(v float64) bool { return math.Abs(v-math.Round(v)) > 0.05 }
