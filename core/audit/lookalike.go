package audit

import (
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/infer/alike"
)

var lookAlike = Rule{Name: "look-alike", Group: "components", Level: Warning,
	What:  "things that are drawn alike several times and are no component",
	Why:   "each is built and changed by itself",
	check: checkLookAlike,
}

func checkLookAlike(c *checker) {
	for _, x := range c.lookAlikes() {
		if x.component != "" {
			c.find(x.elements, "Mark it: data-component=\""+x.component+"\".", "%s drawn like the component %s and not marked as one", isAre(len(x.elements)), x.component)
			continue
		}
		name := design.Slug(x.set.Name)
		if name == "" {
			name = "…"
		}
		c.find(x.elements, "Make it a component: data-component=\""+name+"\" on each; \"archetyp audit --fix components\" proposes names.", "%s are drawn alike and are no component", titles(x.elements))
	}
}

// likeness is a set of alike things that are no component, or not all of it.
type likeness struct {
	set       alike.Set
	elements  []*design.Element // those that are not marked
	component string            // of the others; "" where none is marked
}

// LookAlikes are the sets of alike things in a document that are no component.
func LookAlikes(d *design.Document) (out []alike.Set) {
	in := &In{Docs: []*design.Document{d}}
	c := &checker{In: in, shared: newShared(in)}
	for _, x := range c.lookAlikes() {
		if x.component == "" {
			out = append(out, x.set)
		}
	}
	return out
}

func (c *checker) lookAlikes() (out []likeness) {
	for _, s := range c.alike() {
		if s.Inside != "" || !c.worthOne(s) {
			continue
		}
		var found []*design.Element
		marked, names := "", map[string]bool{}
		for _, x := range s.Instances {
			if x.Element.Marks.Component == "" && c.isPartner(x.Element.Screen) { // the same part in another width
				continue
			}
			found = append(found, x.Element)
			if m := x.Element.Marks.Component; m != "" {
				marked, names[m] = m, true
			}
		}
		switch rest := unmarkedOf(found); {
		case len(rest) == 0:
		case len(names) == 1:
			out = append(out, likeness{s, rest, marked})
		case marked == "" && len(found) > 1 && (len(found) >= 3 || parts(found[0]) >= 4):
			out = append(out, likeness{s, found, ""})
		}
	}
	return out
}

// titles names several things: by their names where they have some, else by their first words.
func titles(elements []*design.Element) string {
	var out []string
	for _, e := range elements {
		title := e.Title()
		if e.Name == "" {
			e.Walk(func(x *design.Element) {
				if x.Words != nil && !x.Hidden && strings.HasPrefix(title, "unnamed") {
					title = "the one with " + clip(x.Title())
				}
			})
		}
		out = append(out, title)
	}
	if len(slices.Compact(slices.Sorted(slices.Values(out)))) == 1 && len(out) > 1 {
		return count(len(out), "thing") + " called " + out[0]
	}
	return list(out)
}

func isAre(n int) string {
	if n == 1 {
		return "1 group is"
	}
	return count(n, "group") + " are"
}

// worthOne reports whether what is alike is a thing people speak of: it holds words, stands on a screen of an
// interface, and is no part of a picture.
func (c *checker) worthOne(s alike.Set) bool {
	e := s.Instances[0].Element
	return c.isInterface(e.Screen) && !inPicture(e) && e.Marks.Asset == "" && e.Informs() && e != e.Screen.Root && e.Component() == "" ||
		e.Marks.Component != ""
}

func unmarkedOf(list []*design.Element) (out []*design.Element) {
	for _, e := range list {
		if e.Marks.Component == "" {
			out = append(out, e)
		}
	}
	return out
}

// parts is how many elements are in one.
func parts(e *design.Element) (n int) {
	e.Walk(func(*design.Element) { n++ })
	return n - 1
}
