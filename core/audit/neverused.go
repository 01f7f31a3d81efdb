package audit

import (
	"archetyp/core/design"
)

var neverUsed = Rule{Name: "never-used", Group: "components", Level: Note,
	What:  "components that are drawn with their states and stand on no screen",
	Why:   "nobody needs to build what no screen shows",
	check: checkNeverUsed,
}

// A sheet of components shows three of them or more with states; what stands on one is no use.
const fewOnSheet = 3

func checkNeverUsed(c *checker) {
	if !c.Together || len(c.Docs) < 2 {
		return
	}
	sheet := map[*design.Screen]bool{}
	c.screens(func(s *design.Screen) {
		sheet[s] = c.showsStates(s)
	})
	used, first := map[string]bool{}, map[string]*design.Element{}
	var order []string
	screens := 0
	c.screens(func(s *design.Screen) {
		if !sheet[s] {
			screens++
		}
		for _, e := range s.Elements {
			k := e.Marks.Component
			switch {
			case k == "":
			case !sheet[s]:
				used[k] = true
			case first[k] == nil:
				first[k] = e
				order = append(order, k)
			}
		}
	})
	if screens == 0 {
		return
	}
	for _, k := range order {
		if !used[k] {
			c.find([]*design.Element{first[k]}, "Use it, or take it out.", "the component %s stands on no screen", k)
		}
	}
}
