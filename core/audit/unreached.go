package audit

import (
	"archetyp/core/design"
)

var unreached = Rule{Name: "unreached", Group: "screens", Level: Note,
	What:  "screens that lead on, and that nothing leads to",
	Why:   "nobody says how people get there",
	check: checkUnreached,
}

func checkUnreached(c *checker) {
	leads := c.connections()
	if len(leads) < 2 || !c.Together {
		return
	}
	first := true
	c.screens(func(s *design.Screen) {
		if leads[s] == nil || s.Document.Styles != nil {
			return
		}
		if !reached(leads, s.Name) && !first && !c.isPartner(s) { // somewhere it begins
			c.at([]Place{screenPlace(s)}, "Say what leads to it: data-leads-to.", "nothing leads to %s", s.Name)
		}
		first = false
	})
}

// isPartner reports whether a screen is another one in another width: its name begins with the other's.
func (c *checker) isPartner(s *design.Screen) bool {
	for i, r := range s.Name {
		if r == ' ' && c.called[s.Name[:i]] {
			return true
		}
	}
	return false
}
