package audit

import (
	"math"
	"slices"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/infer/layout"
)

var nearlyEven = Rule{Name: "nearly-even", Group: "layout", Level: Warning,
	What:  "rows and columns in which one gap differs from the others by a px or two",
	Why:   "nobody means it, and code has one gap for all",
	check: checkNearlyEven,
}

func checkNearlyEven(c *checker) {
	c.interfaces(func(s *design.Screen) {
		if s.Document.Styles != nil {
			return
		}
		for _, e := range append([]*design.Element{s.Root}, visible(s)...) {
			if e.Kind != design.Group || inPicture(e) || e.Marks.Asset != "" {
				continue
			}
			l, ok := layout.Of(e)
			if !ok || l.Kind != layout.Row && l.Kind != layout.Column || len(l.Gaps) < 3 || slices.ContainsFunc(l.Items, isText) {
				continue
			}
			c.even(l)
		}
	})
}

func isText(e *design.Element) bool { return e.Words != nil }

// even reports the one gap that differs a little from all others.
func (c *checker) even(l layout.Layout) {
	if _, even := l.EvenMiddles(); even {
		return
	}
	for i, g := range l.Gaps {
		rest := slices.Delete(slices.Clone(l.Gaps), i, i+1)
		usual, ok := layout.Even(rest)
		if d := math.Abs(g - usual); !ok || d < 0.5 || d > 3 || usual <= 0 {
			continue
		}
		f := c.find([]*design.Element{l.Items[i+1]}, "Make the gap "+css.Px(design.Tidy(usual))+".", "the gap before %s is %s, the %d others are %s",
			l.Items[i+1].Title(), css.Px(design.Tidy(g)), len(rest), css.Px(design.Tidy(usual)))
		f.about = "place"
	}
}
