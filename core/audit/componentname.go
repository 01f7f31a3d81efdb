package audit

import (
	"strings"

	"archetyp/core/design"
	"archetyp/core/hint"
)

var componentName = Rule{Name: "component-name", Group: "names", Level: Warning,
	What:  "components whose name differs a little from that of another, or from code's",
	Why:   "one thing with two names becomes two things",
	check: checkComponentName,
}

func checkComponentName(c *checker) {
	uses := map[string][]*design.Element{}
	var order []string
	for _, d := range c.Docs {
		for _, e := range d.All() {
			name := e.Marks.Component
			if name == "" {
				continue
			}
			if uses[name] == nil {
				order = append(order, name)
			}
			uses[name] = append(uses[name], e)
		}
	}
	linked := map[string]bool{}
	for _, n := range c.Linked {
		linked[n] = true
	}
	done := map[string]bool{}
	for _, name := range order {
		if linked[name] || done[name] {
			continue
		}
		for _, other := range append(append([]string(nil), c.Linked...), order...) {
			if other == name || done[other] || !sameThing(name, other) {
				continue
			}
			odd, usual := name, other
			if !linked[other] && len(uses[name]) > len(uses[other]) {
				odd, usual = other, name
			}
			done[odd] = true
			whose := "elsewhere"
			if linked[usual] {
				whose = "in code"
			}
			c.find(uses[odd], "Call it "+usual+".", "the component %s is called %s %s", odd, usual, whose)
			break
		}
	}
}

// sameThing reports whether two names differ only in how they are written, in a plural s, or in one letter of many.
func sameThing(a, b string) bool {
	x, y := strings.ReplaceAll(design.Slug(a), "-", ""), strings.ReplaceAll(design.Slug(b), "-", "")
	if x == y || x+"s" == y || y+"s" == x {
		return true
	}
	return min(len(x), len(y)) >= 6 && hint.Distance([]rune(x), []rune(y)) == 1
}
