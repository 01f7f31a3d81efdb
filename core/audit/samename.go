package audit

import (
	"archetyp/core/design"
	"archetyp/core/markup"
)

var sameName = Rule{Name: "same-name", Group: "names", Level: Warning,
	What:  "ids that stand twice in a file, and screens of one name",
	Why:   "whoever asks for it gets another one",
	check: checkSameName,
}

func checkSameName(c *checker) {
	screens := map[string][]Place{}
	var order []string
	c.screens(func(s *design.Screen) {
		if s.Document.Styles == nil && s.Name != "" {
			if screens[s.Name] == nil {
				order = append(order, s.Name)
			}
			screens[s.Name] = append(screens[s.Name], screenPlace(s))
		}
	})
	for _, name := range order {
		if list := screens[name]; len(list) > 1 {
			c.at(list, "Give each a name of its own, or say which belongs to which width.", "%d screens are called “%s”", len(list), name)
		}
	}
	for _, d := range c.Docs {
		c.repeatedIDs(d)
	}
}

// repeatedIDs finds ids that stand more than once in a document.
func (c *checker) repeatedIDs(d *design.Document) {
	if d.Markup == nil {
		return
	}
	byID := map[string][]*design.Element{}
	seen := map[*markup.Node]bool{}
	var order []string
	for _, e := range d.All() {
		if e.ID == "" || seen[e.Node] || !d.Markup.Repeated(e.ID) {
			continue
		}
		seen[e.Node] = true
		if byID[e.ID] == nil {
			order = append(order, e.ID)
		}
		byID[e.ID] = append(byID[e.ID], e)
	}
	var found []*design.Element
	var names []string
	for _, id := range order {
		if len(byID[id]) > 1 {
			found, names = append(found, byID[id]...), append(names, id)
		}
	}
	switch len(names) {
	case 0:
	case 1:
		c.find(found, "Give each an id of its own: an id may stand once in a file.", "the id %s stands %d times", names[0], len(found))
	default:
		c.find(found, "Give each an id of its own: an id may stand once in a file.", "the ids %s stand more than once", list(names))
	}
}
