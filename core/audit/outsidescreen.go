package audit

import "archetyp/core/design"

var outsideScreen = Rule{Name: "outside-screen", Group: "screens", Level: Warning,
	What:  "things that lie wholly outside their screen",
	Why:   "nobody sees it, and everybody exports it",
	check: checkOutsideScreen,
}

func checkOutsideScreen(c *checker) {
	c.screens(func(s *design.Screen) {
		var found []*design.Element
		for _, e := range s.Elements {
			if e.Hidden || !e.Geometry.Set || e.Screen.Document.Styles != nil || e.Parent != nil && e.Parent != s.Root && outside(e.Parent, s) {
				continue
			}
			if outside(e, s) && (e.Kind != design.Group || len(e.Children) > 0) {
				found = append(found, e)
			}
		}
		switch len(found) {
		case 0:
		case 1:
			c.find(found, "Move it in, or take it out.", "%s lies outside the screen", found[0].Title())
		default:
			c.find(found, "Move them in, or take them out.", "%d elements lie outside the screen", len(found))
		}
	})
}

// outside reports whether nothing of an element is on the screen.
func outside(e *design.Element, s *design.Screen) bool {
	b := e.Geometry.Value // what it paints is cut off by the screen
	for _, stroke := range e.Strokes {
		b = b.Grow(stroke.Value.Out())
	}
	return b.W+b.H > 0 && (b.Right() <= 0 || b.Bottom() <= 0 || b.X >= s.Box.W || b.Y >= s.Box.H)
}
