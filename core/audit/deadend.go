package audit

import (
	"archetyp/core/design"
)

var deadEnd = Rule{Name: "dead-end", Group: "screens", Level: Note,
	What:  "screens that lead nowhere, where others lead on",
	Why:   "people who get there cannot go on",
	check: checkDeadEnd,
}

func checkDeadEnd(c *checker) {
	leads := c.connections()
	if len(leads) < 2 || !c.Together {
		return
	}
	c.screens(func(s *design.Screen) {
		if leads[s] == nil && s.Document.Styles == nil && reached(leads, s.Name) {
			c.at([]Place{screenPlace(s)}, "Say where it leads: data-leads-to.", "nothing on %s leads anywhere", s.Name)
		}
	})
}
