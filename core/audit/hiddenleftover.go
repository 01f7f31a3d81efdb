package audit

import "archetyp/core/design"

var hiddenLeftover = Rule{Name: "hidden", Group: "screens", Level: Note,
	What:  "hidden things that hold words",
	Why:   "somebody translates it, exports it or builds it",
	check: checkHidden,
}

func checkHidden(c *checker) {
	c.screens(func(s *design.Screen) {
		if s.Document.Styles != nil { // a page hides what it shows later
			return
		}
		var found []*design.Element
		for _, e := range s.Elements {
			if allHidden(e) && (e.Parent == nil || e.Parent == s.Root || !allHidden(e.Parent)) && holdsWords(e) {
				found = append(found, e)
			}
		}
		switch len(found) {
		case 0:
		case 1:
			c.find(found, "Take it out, or say when it shows: data-behaviour.", "%s is hidden", found[0].Title())
		default:
			c.find(found, "Take them out, or say when they show: data-behaviour.", "%d elements with words are hidden", len(found))
		}
	})
}

// allHidden reports whether nothing of an element shows.
func allHidden(e *design.Element) bool {
	if e.Hidden || len(e.Children) == 0 {
		return e.Hidden
	}
	for _, k := range e.Children {
		if !allHidden(k) {
			return false
		}
	}
	return true
}

func holdsWords(e *design.Element) (holds bool) {
	e.Walk(func(x *design.Element) { holds = holds || x.Words != nil && x.Words.Words != "" })
	return holds && e.Marks.Behaviour == ""
}
