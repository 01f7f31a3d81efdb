package audit

import "archetyp/core/design"

var unnamed = Rule{Name: "unnamed", Group: "names", Level: Warning,
	What:  "groups that hold words or other groups and have no name that says anything",
	Why:   "nobody can ask for it, mark it or find it again",
	check: checkUnnamed,
}

// fewUnnamed groups of a screen are a finding each; more have one cause, and are one finding.
const fewUnnamed = 3

func checkUnnamed(c *checker) {
	c.worded(func(s *design.Screen) {
		if s.Document.Styles != nil { // classes and elements name the parts of a page
			return
		}
		var found []*design.Element
		all := 0
		for _, e := range visible(s) {
			if !isPart(e) {
				continue
			}
			all++
			if e.Name == "" && e.Marks.Component == "" {
				found = append(found, e)
			}
		}
		if !c.isInterface(s) && 2*len(found) > all { // a picture or a diagram whose parts nobody names
			return
		}
		if len(found) > fewUnnamed {
			c.find(found, "Name them in the drawing, or let \"archetyp audit --fix names\" propose names.",
				"%d of %d groups have no name", len(found), all)
			return
		}
		for _, e := range found {
			c.find([]*design.Element{e}, "Name it in the drawing, or let \"archetyp audit --fix names\" propose a name.", "the group has no name: %s", holds(e))
		}
	})
}

// isPart reports whether a group is a part of a screen that people speak of: it holds words or groups, is no wrapper of
// one thing, and is not drawn elsewhere.
func isPart(e *design.Element) bool {
	if e.Kind != design.Group || len(e.Children) < 2 || e.Native == design.Instance || e.Parent == nil {
		return false
	}
	if e.Parent.Native == design.Instance {
		return false
	}
	for _, k := range e.Children {
		if !k.Hidden && (k.Words != nil || k.Kind == design.Group && k.Informs()) {
			return true
		}
	}
	return false
}

// holds says what is in a group, in a few words.
func holds(e *design.Element) string {
	var words []string
	parts := 0
	e.Walk(func(x *design.Element) {
		if x != e && !x.Hidden {
			parts++
			if x.Words != nil && len(words) < 2 {
				words = append(words, x.Title())
			}
		}
	})
	if len(words) > 0 {
		return "it holds " + list(words)
	}
	return "it holds " + count(parts, "element")
}
