package audit

import (
	"strings"

	"archetyp/core/design"
)

// connections are the names of the screens that each screen leads to.
func (c *checker) connections() map[*design.Screen][]string {
	out := map[*design.Screen][]string{}
	c.screens(func(s *design.Screen) {
		for _, e := range s.Elements {
			if to, _, _ := strings.Cut(e.Marks.LeadsTo, ";"); strings.TrimSpace(to) != "" {
				out[s] = append(out[s], strings.TrimSpace(to))
			}
		}
	})
	return out
}

func reached(leads map[*design.Screen][]string, name string) bool {
	for s, list := range leads {
		for _, to := range list {
			if strings.EqualFold(to, name) && s.Name != name {
				return true
			}
		}
	}
	return false
}
