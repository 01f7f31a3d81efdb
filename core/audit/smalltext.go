package audit

import (
	"archetyp/core/css"
	"archetyp/core/design"
	"cmp"
	"slices"
	"strings"
)

var smallText = Rule{Name: "small-text", Group: "access", Level: Warning,
	What:  "words smaller than 11 px, or what audit: smallest-text says",
	Why:   "many people cannot read it",
	check: checkSmallText,
}

func checkSmallText(c *checker) {
	c.worded(func(s *design.Screen) {
		var found []*design.Element
		var sizes []float64
		texts(s, func(e *design.Element, _ string) {
			size := e.Words.Size.Value
			if size <= 0 || e.Parent != nil && e.Parent.Words != nil {
				return
			}
			sizes = append(sizes, size)
			if size < c.Smallest-0.01 {
				found = append(found, e)
			}
		})
		slices.Sort(sizes)
		if len(found) == 0 || sizes[len(sizes)/2] < 0.7*c.Smallest { // a drawing that is shown larger than it is drawn
			return
		}
		slices.SortStableFunc(found, func(a, b *design.Element) int { return cmp.Compare(a.Words.Size.Value, b.Words.Size.Value) })
		do := "Set it in " + css.Num(c.Smallest, 1) + " px or more."
		if len(found) == 1 {
			c.find(found, do, "the text is set in %s px", css.Num(found[0].Words.Size.Value, 2))
			return
		}
		c.find(found, strings.Replace(do, "it", "them", 1), "%d texts are smaller than %s px, the smallest is set in %s px", len(found), css.Num(c.Smallest, 1), css.Num(found[0].Words.Size.Value, 2))
	})
}
