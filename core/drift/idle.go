package drift

import (
	"slices"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/markup"
	"archetyp/core/styletext"
)

// What differs in the style sheets and shows nowhere on the pages: custom properties that nothing uses, and rules that
// mean no element. It is worth a note: another page may use it.

// idleVariables compares the custom properties that the whole page declares.
func (c *comparing) idleVariables(o, n *markup.Node) {
	was := map[string]bool{}
	for _, d := range c.view.Design.Styles.Declared(o) {
		was[d.Prop] = true
	}
	for _, d := range c.view.Site.Styles.Declared(n) {
		if !strings.HasPrefix(d.Prop, "--") || !was[d.Prop] {
			continue
		}
		old, new := winner(c.view.Design.Styles.Why(o, d.Prop)), winner(c.view.Site.Styles.Why(n, d.Prop))
		if old == nil || new == nil || alike(old, new) || c.sameText(old.Value, new.Value) {
			continue
		}
		c.out = append(c.out, seen{idle: true, kind: Other, cause: declares(new, new.Prop), old: old, spot: c.spot(o, n, d.Prop, old.Value, new.Value)})
	}
}

// sameText reports whether two values say the same as far as that shows without an element.
func (c *comparing) sameText(a, b string) bool {
	_, _, same := c.in.Tolerances.apart("", a, b)
	if same {
		return true
	}
	x, y := parted(a), parted(b)
	return x.shape == y.shape && !slices.Equal(x.units, y.units) // in other units: that shows only where it is used
}

// written is a rule in a sheet: its declarations by property; a property that stands there again has a blank behind it.
type written struct {
	selector string
	decls    map[string]declaration
	order    []string
}

type declaration struct {
	value string
	place design.StylePlace
}

// rulesIn are the rules of sheets by their selectors with the at-rules around them, and these in order.
func rulesIn(sheets []design.StyleSheet) (rules map[string]*written, order []string) {
	rules = map[string]*written{}
	eachDeclaration(sheets, func(code *styletext.Code, d *styletext.Decl, place design.StylePlace) {
		name := ""
		for r := d.Rule; r >= 0; r = code.Rules[r].Parent {
			name = oneLine(code.Rules[r].Selector) + "\x00" + name
		}
		w := rules[name]
		if w == nil {
			w = &written{selector: code.Rules[d.Rule].Selector, decls: map[string]declaration{}}
			rules[name] = w
			order = append(order, name)
		}
		key := d.Property
		for w.decls[key].value != "" {
			key += " "
		}
		w.decls[key] = declaration{d.Value, place}
		w.order = append(w.order, key)
	})
	return rules, order
}

// idleRules compares rules of the same selector on both sides that mean no element on either. A rule that has other
// properties than before may say the same in another way, which shows only where it is used.
func (c *comparing) idleRules() {
	old, _ := rulesIn(c.view.Design.Styles.Sheets())
	new, order := rulesIn(c.view.Site.Styles.Sheets())
	for _, name := range order {
		is, was := new[name], old[name]
		if was == nil || len(was.decls) != len(is.decls) {
			continue
		}
		for _, p := range is.order {
			a, ok := was.decls[p]
			b := is.decls[p]
			if !ok || strings.HasPrefix(p, "--") || oneLine(a.value) == oneLine(b.value) || c.sameText(a.value, b.value) || !c.idle(is.selector) {
				continue
			}
			prop := strings.TrimRight(p, " ")
			s := seen{idle: true, kind: kindOf(prop), cause: Cause{Selector: is.selector, Property: prop, Value: b.value, Place: b.place},
				old:  &design.StyleDeclaration{Declaration: design.Declaration{Prop: prop, Value: a.value}, Kind: "rule", Selector: is.selector, Place: a.place},
				spot: Spot{Screen: c.pair.Screen, View: c.view.View, Prop: prop, Was: a.value, Is: b.value}}
			s.spot.Design, s.spot.Site = Ref{Source: a.place.File, Line: a.place.Line}, Ref{Source: b.place.File, Line: b.place.Line}
			c.out = append(c.out, s)
		}
	}
}

// idle reports whether a selector means nothing on the page, states aside. An at-rule such as @font-face means no element.
func (c *comparing) idle(selector string) bool {
	if strings.HasPrefix(selector, "@") {
		return true
	}
	for _, st := range States {
		if stated(selector, st) {
			return false
		}
	}
	sel, err := css.ParseSelector(selector)
	if err != nil || strings.Contains(selector, "::") {
		return false
	}
	return len(c.view.Site.Styles.Nodes(sel)) == 0 && len(c.view.Design.Styles.Nodes(sel)) == 0
}
