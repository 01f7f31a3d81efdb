package audit

import (
	"archetyp/core/design"
	"archetyp/core/infer/layout"
)

var outlinedWords = Rule{Name: "outlined-words", Group: "words", Level: Warning,
	What:  "words whose letters were turned into outlines",
	Why:   "nobody can read them out, translate them or set them in code",
	check: checkOutlinedWords,
}

func checkOutlinedWords(c *checker) {
	c.worded(func(s *design.Screen) {
		var found []*design.Element
		inside := map[*design.Element]bool{}
		for _, e := range visible(s) {
			if e.Parent != nil && inside[e.Parent] {
				inside[e] = true
				continue
			}
			if e.Marks.Asset != "" || e.Kind != design.Group && e.Kind != design.Path {
				continue
			}
			if _, ok := layout.Outlined(e); ok {
				found = append(found, e)
				inside[e] = true
			}
		}
		for _, e := range found {
			n, _ := layout.Outlined(e)
			c.find([]*design.Element{e}, "Set it as text; a logo is marked as an asset.", "%s looks like %d letters that were turned into outlines", e.Title(), n)
		}
	})
}
