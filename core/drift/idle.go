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

// sameText reports whether two values say the same as far as can be told without an element.
func (c *comparing) sameText(a, b string) bool {
	_, _, same := c.in.Tolerances.apart("", a, b)
	if same {
		return true
	}
	x, y := parted(a), parted(b)
	return x.shape == y.shape && !slices.Equal(x.units, y.units) // in other units: that shows only where it is used
}

// written is a rule in a sheet.
type written struct {
	selector string
	decls    map[string]string
	places   map[string]design.StylePlace
}

// rulesIn are the rules of sheets by their selectors with the at-rules around them; of several of one selector each has
// its number.
func rulesIn(sheets []design.StyleSheet) map[string]written {
	out := map[string]written{}
	for _, s := range sheets {
		code := styletext.Read(s.Text, styletext.CSS)
		lines := markup.Lines([]byte(s.Text))
		for i := range code.Decls {
			d := &code.Decls[i]
			if d.Rule < 0 || d.Colon < 0 {
				continue
			}
			name := ""
			for r := d.Rule; r >= 0; r = code.Rules[r].Parent {
				name = strings.Join(strings.Fields(code.Rules[r].Selector), " ") + "\x00" + name
			}
			w, ok := out[name]
			if !ok {
				w = written{selector: code.Rules[d.Rule].Selector, decls: map[string]string{}, places: map[string]design.StylePlace{}}
				out[name] = w
			}
			at := lines.Position(d.From)
			key := d.Property
			for w.decls[key] != "" {
				key += "\x00"
			}
			w.decls[key] = d.Value
			w.places[key] = design.StylePlace{File: s.Name, Line: at.Line + s.Line - 1, Column: at.Column}
		}
	}
	return out
}

// idleRules compares rules of the same selector on both sides that mean no element on either.
func (c *comparing) idleRules() {
	old, new := rulesIn(c.view.Design.Styles.Sheets()), rulesIn(c.view.Site.Styles.Sheets())
	for name, is := range new {
		was, ok := old[name]
		if !ok || len(was.decls) != len(is.decls) {
			continue
		}
		for p, v := range is.decls {
			if b, ok := was.decls[p]; !ok || strings.HasPrefix(p, "--") || strings.Join(strings.Fields(b), " ") == strings.Join(strings.Fields(v), " ") || c.sameText(b, v) ||
				!c.idle(is.selector) {
				continue
			}
			prop := strings.TrimRight(p, "\x00")
			d := &design.StyleDeclaration{Declaration: design.Declaration{Prop: prop, Value: was.decls[p]}, Kind: "rule", Selector: is.selector, Place: was.places[p]}
			s := seen{idle: true, kind: kindOf(prop), old: d, spot: Spot{Screen: c.pair.Screen, View: c.view.View, Prop: prop, Was: was.decls[p], Is: v}}
			s.cause = Cause{Selector: is.selector, Property: prop, Value: v, Place: is.places[p]}
			s.spot.Design, s.spot.Site = Ref{Source: was.places[p].File, Line: was.places[p].Line}, Ref{Source: is.places[p].File, Line: is.places[p].Line}
			c.out = append(c.out, s)
		}
	}
	slices.SortStableFunc(c.out, func(a, b seen) int {
		if !a.idle || !b.idle {
			return 0
		}
		return strings.Compare(a.key(), b.key())
	})
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
