package drift

import (
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/markup"
)

// causeOf is what makes a value another on the site.
type causeOf struct {
	Cause
	old  *design.StyleDeclaration // what the design declares; nil for none
	same bool                     // nothing: both sides declare the same, and what it follows from is another cause
}

type causeKey struct {
	node     *markup.Node
	property string
}

// cause finds what makes the value of a property of a pair of elements another: the declaration that wins on the site, a
// custom property that it uses, or a declaration that the site lacks.
func (c *comparing) cause(o, n *markup.Node, property string) causeOf {
	key := causeKey{n, property}
	if known, ok := c.causes[key]; ok {
		return known
	}
	c.causes[key] = causeOf{same: true} // for values that follow from each other
	out := c.findCause(o, n, property)
	c.causes[key] = out
	return out
}

func (c *comparing) findCause(o, n *markup.Node, property string) causeOf {
	was, is := c.view.Design.Styles.Why(o, property), c.view.Site.Styles.Why(n, property)
	old, new := winner(was), winner(is)
	if old != nil && new != nil && alike(old, new) {
		if v := otherVariable(old.Vars, new.Vars); v != nil {
			return causeOf{Cause: declares(v, v.Prop), old: variable(old.Vars, v.Prop)}
		}
		return c.consequence(o, n, property, old, new)
	}
	if new == nil || old != nil && slices.ContainsFunc(was, func(d design.StyleDeclaration) bool { return d.Lost != "" && sameRule(&d, new) && alike(&d, new) }) &&
		!slices.ContainsFunc(is, func(d design.StyleDeclaration) bool { return d.Lost != "" && sameRule(&d, old) }) {
		return c.lacking(n, property, old, is)
	}
	return causeOf{Cause: declares(new, ""), old: old}
}

// winner is the declaration of the page that wins; nil for none.
func winner(list []design.StyleDeclaration) *design.StyleDeclaration {
	for i := range list {
		if list[i].Lost == "" {
			if list[i].Kind == "browser" {
				return nil
			}
			return &list[i]
		}
	}
	return nil
}

// alike reports whether two declarations say the same, their custom properties aside.
func alike(a, b *design.StyleDeclaration) bool {
	return a.Prop == b.Prop && strings.Join(strings.Fields(a.Value), " ") == strings.Join(strings.Fields(b.Value), " ")
}

func sameRule(a, b *design.StyleDeclaration) bool {
	return a.Selector == b.Selector && slices.Equal(a.Within, b.Within) && a.Prop == b.Prop
}

// otherVariable is the declaration of a custom property that is another one on the site, the innermost first; nil for none.
func otherVariable(was, is []design.StyleDeclaration) *design.StyleDeclaration {
	for i := range is {
		old := variable(was, is[i].Prop)
		if old == nil {
			return &is[i]
		}
		if !alike(old, &is[i]) {
			return &is[i]
		}
		if v := otherVariable(old.Vars, is[i].Vars); v != nil {
			return v
		}
	}
	return nil
}

// variable finds the declaration of a custom property among those that a value uses, and those that these use.
func variable(list []design.StyleDeclaration, name string) *design.StyleDeclaration {
	for i := range list {
		if list[i].Prop == name {
			return &list[i]
		}
		if v := variable(list[i].Vars, name); v != nil {
			return v
		}
	}
	return nil
}

func declares(d *design.StyleDeclaration, variable string) Cause {
	return Cause{Selector: d.Selector, Within: d.Within, Property: d.Prop, Value: d.Value, Place: d.Place, Variable: variable}
}

// lacking is the cause of a value that the design declares and the site does not: the rule of the same selector, where
// the site has it.
func (c *comparing) lacking(n *markup.Node, property string, old *design.StyleDeclaration, is []design.StyleDeclaration) causeOf {
	out := causeOf{old: old}
	out.Lacking, out.Property = true, property
	out.Place = c.markupPlace(element(n))
	if old == nil {
		return out
	}
	out.Property, out.Selector, out.Within = old.Prop, old.Selector, old.Within
	for _, d := range is { // written there, and refused
		if d.Lost != "" && d.Prop == old.Prop && d.Selector == old.Selector && d.Value != old.Value {
			return causeOf{Cause: declares(&d, ""), old: old}
		}
	}
	on := n
	for range 64 {
		if on == nil || on.Kind != markup.Element {
			break
		}
		for _, r := range c.view.Site.Styles.Rules(on) {
			if r.Selector == old.Selector && slices.Equal(r.Within, old.Within) {
				out.Place = r.Place
				return out
			}
		}
		if on = parent(on); old.Kind != "rule" {
			break
		}
	}
	return out
}

// element is the element that a node is or belongs to.
func element(n *markup.Node) *markup.Node {
	if strings.HasPrefix(n.Local, "::") {
		return n.Parent
	}
	return n
}

// consequence is the cause of a value that both sides declare alike: another value that it follows from.
func (c *comparing) consequence(o, n *markup.Node, property string, old, new *design.StyleDeclaration) causeOf {
	differs := func(a, b *markup.Node, property string) bool {
		return a != nil && b != nil && c.design(a).get(property) != c.site(b).get(property)
	}
	root := func(n *markup.Node) *markup.Node {
		for parent(n) != nil && parent(n).Kind == markup.Element {
			n = parent(n)
		}
		return n
	}
	value := strings.ToLower(new.Value)
	for _, v := range new.Vars {
		value += " " + strings.ToLower(v.Value)
	}
	upO, upN := parent(o), parent(n)
	switch {
	case strings.Contains(value, "rem") && property != "font-size" && differs(root(o), root(n), "font-size"):
		return c.cause(root(o), root(n), "font-size")
	case strings.Contains(value, "rem") && root(n) != n && differs(root(o), root(n), "font-size"):
		return c.cause(root(o), root(n), "font-size")
	case property != "font-size" && differs(o, n, "font-size") && followsSize(property, value):
		return c.cause(o, n, "font-size")
	case property != "color" && differs(o, n, "color") && strings.Contains(kindsOfColour, string(kindOf(property))):
		return c.cause(o, n, "color")
	case upN != nil && upN.Kind == markup.Element && upO != nil && differs(upO, upN, property):
		return c.cause(upO, upN, property)
	case property == "font-size" && upN != nil && differs(upO, upN, "font-size"):
		return c.cause(upO, upN, "font-size")
	}
	return causeOf{Cause: declares(new, ""), old: old, same: property == "display" || property == "position" || strings.HasSuffix(property, "-style")}
}

// kindsOfColour are the kinds of properties that may follow the colour of text.
const kindsOfColour = "colour border shadow type"

// followsSize reports whether a value follows the size of the type.
func followsSize(property, value string) bool {
	return property == "line-height" || strings.Contains(value, "em") || strings.Contains(value, "ch") || strings.Contains(value, "ex") || strings.Contains(value, "lh") ||
		strings.Contains(value, "%")
}
