package audit

import (
	"strings"

	"archetyp/core/design"
)

var noPartner = Rule{Name: "no-partner", Group: "screens", Level: Note,
	What:  "screens that are drawn in one width, where others are drawn in two",
	Why:   "somebody will invent the other",
	check: checkNoPartner,
}

func checkNoPartner(c *checker) {
	if !c.Together {
		return
	}
	partners := map[*design.Screen]bool{}
	c.screens(func(s *design.Screen) {
		c.screens(func(o *design.Screen) {
			if o != s && s.Name != "" && strings.HasPrefix(o.Name, s.Name+" ") && o.Box.W != s.Box.W {
				partners[s], partners[o] = true, true
			}
		})
	})
	if len(partners) == 0 {
		return
	}
	var found []Place
	var names []string
	c.interfaces(func(s *design.Screen) {
		if s.Document.Format == "svg" && !partners[s] && !c.showsStates(s) {
			found, names = append(found, screenPlace(s)), append(names, s.Name)
		}
	})
	c.at(found, "Draw the other width, or say how it grows: data-behaviour.", "%s drawn in one width only", isOrAre(names))
}

// isOrAre is a list of names with the verb that it needs.
func isOrAre(names []string) string {
	if len(names) == 1 {
		return names[0] + " is"
	}
	return list(names) + " are"
}

// showsStates reports whether a screen is a sheet of components: several are drawn there in more than one state.
func (c *checker) showsStates(s *design.Screen) bool {
	states := map[string]map[string]bool{}
	several := 0
	for _, e := range s.Elements {
		k := e.Marks.Component
		if k == "" || e.Marks.State == "" {
			continue
		}
		if states[k] == nil {
			states[k] = map[string]bool{}
		}
		if states[k][e.Marks.State] = true; len(states[k]) == 2 {
			several++
		}
	}
	return several >= fewOnSheet
}
