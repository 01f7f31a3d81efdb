package audit

import (
	"math"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/infer/role"
)

var targetSize = Rule{Name: "target-size", Group: "access", Level: Warning,
	What:  "things people touch that are less than 24 px wide or high, with another one near: WCAG 2.2",
	Why:   "fingers hit the one beside it",
	check: checkTargetSize,
}

// touched are the roles of what people touch.
var touched = map[role.Role]bool{role.Button: true, role.Link: true, role.Field: true, role.Search: true, role.Select: true, role.Checkbox: true,
	role.Radio: true, role.Switch: true, role.Tab: true}

func checkTargetSize(c *checker) {
	c.interfaces(func(s *design.Screen) {
		if s.Document.Boxless {
			return
		}
		var targets []*design.Element
		for _, e := range visible(s) {
			if touched[c.role(e).Role] && e.Geometry.Set && !isDisabled(e) && e.BorderBox().W > 0 && (e.Parent == nil || !touched[c.role(e.Parent).Role]) {
				targets = append(targets, e)
			}
		}
		for _, e := range targets {
			b := touchBox(e)
			if min(b.W, b.H) >= c.Target || inlineLink(e) || roomy(e, targets, c.Target) {
				continue
			}
			c.find([]*design.Element{e}, "Make it "+css.Num(c.Target, 0)+" px wide and high, or leave so much room around it.",
				"%s is %s × %s px to touch", e.Title(), css.Num(math.Round(b.W*100)/100, 2), css.Num(math.Round(b.H*100)/100, 2))
		}
	})
}

// inlineLink reports whether a link stands in a line of words, where any size is allowed.
func inlineLink(e *design.Element) bool {
	if e.Words == nil && e.Node != nil && e.Node.HTML && e.Parent != nil && e.Parent.Words != nil {
		return true
	}
	return e.Parent != nil && e.Parent.Words != nil
}

// roomy reports whether circles as wide as a target around the middles of two small ones never touch: the exception of
// https://www.w3.org/TR/WCAG22/#target-size-minimum
func roomy(e *design.Element, targets []*design.Element, least float64) bool {
	b := touchBox(e)
	x, y := b.X+b.W/2, b.Y+b.H/2
	for _, o := range targets {
		if o == e {
			continue
		}
		q := touchBox(o)
		if min(q.W, q.H) >= least { // a large one is kept away from as it is
			dx := max(q.X-x, 0, x-q.Right())
			dy := max(q.Y-y, 0, y-q.Bottom())
			if math.Hypot(dx, dy) < least/2 {
				return false
			}
			continue
		}
		if math.Hypot(q.X+q.W/2-x, q.Y+q.H/2-y) < least {
			return false
		}
	}
	return true
}
