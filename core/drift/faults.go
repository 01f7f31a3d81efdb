package drift

import (
	"fmt"
	"slices"
	"strings"

	"archetyp/core/css/computed"
	"archetyp/core/design"
	"archetyp/core/markup"
)

// use counts how values that come from a custom property agree with the drawing, and the declarations that use it where
// they do not.
type use struct {
	right int
	wrong map[string]bool
}

// variables are the custom properties that the value of a property comes from, outermost first: those that are all of
// it, and those that a shorthand takes it from.
func (d *drawn) variables(n *markup.Node, property string) (out []design.StyleDeclaration) {
	w := winner(d.page.Styles.Why(n, property))
	if w == nil || len(w.Vars) == 0 {
		return nil
	}
	is := Canonical(asking{d.page.Styles, n}.get(property))
	var visit func(list, above []design.StyleDeclaration) bool
	visit = func(list, above []design.StyleDeclaration) bool {
		for i := range list {
			chain := append(slices.Clone(above), list[i])
			if len(chain) > 32 {
				return false
			}
			if visit(list[i].Vars, chain) || len(list[i].Vars) == 0 && (onlyVar(w.Value) != "" || Canonical(list[i].Value) == is) {
				if out == nil {
					out = chain
				}
				return true
			}
		}
		return false
	}
	visit(w.Vars, nil)
	return out
}

func placeKey(p design.StylePlace) string { return fmt.Sprintf("%s:%d:%d", p.File, p.Line, p.Column) }

// counted notes whether a value of the page agrees with the drawing. What does is only looked at where a custom property
// may be at fault.
func (d *drawn) counted(n *markup.Node, property string, right bool) {
	d.tried = append(d.tried, tried{n, property, right})
}

// tried is a value of the page that was compared.
type tried struct {
	node     *markup.Node
	property string
	right    bool
}

func (d *drawn) count(n *markup.Node, property string, right bool) {
	for _, v := range d.variables(n, property) {
		k := placeKey(v.Place)
		if d.uses[k] == nil {
			d.uses[k] = &use{wrong: map[string]bool{}}
		}
		if right {
			d.uses[k].right++
		} else if w := winner(d.page.Styles.Why(n, property)); w != nil {
			d.uses[k].wrong[placeKey(w.Place)+w.Prop] = true
		}
	}
}

// shared finds custom properties that are at fault: no value that comes from one agrees with the drawing, and several
// declarations use it, or it has a value that no token has.
func (d *drawn) shared() {
	if !slices.ContainsFunc(d.out, func(s seen) bool { return len(s.vars) > 0 }) {
		return
	}
	for _, t := range d.tried {
		d.count(t.node, t.property, t.right)
	}
	for i := range d.out {
		s := &d.out[i]
		for _, v := range slices.Backward(s.vars) {
			u := d.uses[placeKey(v.Place)]
			known := d.in.tokenOf(s.spot.Prop, v.Value) != "" // then another variable was meant
			if u != nil && u.right == 0 && (len(u.wrong) > 1 || !known) && onlyVar(v.Value) == "" {
				s.cause = declares(&v, v.Prop)
				break
			}
		}
	}
}

// cause is the declaration behind a value of the page: the custom property where that is at fault.
func (d *drawn) cause(n *markup.Node, property, was string) Cause {
	w := winner(d.page.Styles.Why(n, property))
	if w == nil {
		return d.nothing(n, property)
	}
	if d.in.Tokens == nil {
		return declares(w, "")
	}
	for _, v := range slices.Backward(d.variables(n, property)) {
		if onlyVar(v.Value) != "" {
			continue
		}
		named := d.in.Tokens.Value(d.in.Tokens.Named(v.Prop))
		switch {
		case named != "" && !d.in.sameLiteral(named, v.Value): // it is not what the token of its name is
			return declares(&v, v.Prop)
		case named == "" && d.in.tokenOf(property, v.Value) == "" && d.in.tokenOf(property, was) != "": // it is no token, and should be one
			return declares(&v, v.Prop)
		}
	}
	return declares(w, "")
}

// nothing is the cause of a value that no rule of the page gives: the rule of the element that would; of what is
// inherited, the page as a whole.
func (d *drawn) nothing(n *markup.Node, property string) Cause {
	on := n
	if computed.Inherited(property) {
		for on.Local != "body" && parent(on) != nil && parent(on).Kind == markup.Element {
			on = parent(on)
		}
	}
	c := Cause{Lacking: true, Property: property, Place: d.place(element(on))}
	for _, r := range d.page.Styles.Rules(on) {
		if r.Place.Line > 0 && r.Selector != "style attribute" && !strings.HasPrefix(r.Selector, "*") {
			c.Selector, c.Within, c.Place = r.Selector, r.Within, r.Place
			break
		}
	}
	if on != n && c.Selector == "" {
		c.Selector = on.Local
	}
	return c
}
