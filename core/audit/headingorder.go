package audit

import (
	"strconv"
	"strings"

	"archetyp/core/design"
)

var headingOrder = Rule{Name: "heading-order", Group: "access", Level: Warning,
	What:  "headings that leave a rank out: h4 after h2",
	Why:   "who listens to the page believes that something is missing",
	check: checkHeadingOrder,
}

func checkHeadingOrder(c *checker) {
	c.screens(func(s *design.Screen) {
		last, name := 0, ""
		for _, e := range s.Elements {
			rank := rankOf(e)
			if rank == 0 || e.Hidden {
				continue
			}
			if last > 0 && rank > last+1 {
				c.find([]*design.Element{e}, "Make it h"+strconv.Itoa(last+1)+", or give the level between a heading.", "%s is h%d and comes after the h%d %s", e.Title(), rank, last, name)
			}
			last, name = rank, e.Title()
		}
	})
}

// rankOf is the rank of a heading that markup or a mark states; 0 for none.
func rankOf(e *design.Element) int {
	name := strings.ToLower(e.Marks.Role)
	if name == "" && e.Node != nil && e.Node.HTML {
		name = e.Node.Local
		if strings.EqualFold(e.Node.AttrOr("role", ""), "heading") {
			if n, err := strconv.Atoi(e.Node.AttrOr("aria-level", "2")); err == nil {
				return n
			}
		}
	}
	if len(name) == 2 && name[0] == 'h' && name[1] >= '1' && name[1] <= '6' {
		return int(name[1] - '0')
	}
	return 0
}
