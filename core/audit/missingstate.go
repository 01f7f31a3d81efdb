package audit

import (
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/infer/role"
)

var missingState = Rule{Name: "missing-state", Group: "components", Level: Warning,
	What:  "states that a component needs, or has in another variant, and that nobody drew",
	Why:   "somebody will invent it while building",
	check: checkMissingState,
}

// needed are the states without which a component cannot be built, by what it is for.
var needed = map[role.Role][]string{
	role.Button: {"disabled", "focus-visible"},
	role.Field:  {"focus", "invalid"}, role.Area: {"focus", "invalid"}, role.Search: {"focus"}, role.Select: {"focus"},
	role.Checkbox: {"checked", "disabled"}, role.Radio: {"checked", "disabled"}, role.Switch: {"checked", "disabled"},
	role.Tab: {"selected"},
}

// sameState are states that stand for one another.
var sameState = map[string]string{"focus": "focus-visible", "focus-visible": "focus-visible", "focus-within": "focus-visible", "focused": "focus-visible",
	"error": "invalid", "invalid": "invalid", "user-invalid": "invalid", "current": "selected", "selected": "selected", "active-tab": "selected",
	"on": "checked", "checked": "checked", "pressed": "active", "": "default", "default": "default", "normal": "default", "rest": "default",
	"disabled": "disabled", "inactive": "disabled"}

func stateOf(s string) string {
	s = strings.TrimPrefix(strings.ToLower(s), ":")
	if same, ok := sameState[s]; ok {
		return same
	}
	return s
}

// drawnStates are the instances of one variant of a component, by state.
type drawnStates struct {
	component, variant string
	first              *design.Element
	states             []string // in the order they are drawn
	role               role.Role
}

// component is a component as it is drawn.
type component struct {
	variants []*drawnStates
	states   []string // of any variant
}

func checkMissingState(c *checker) {
	for _, k := range c.components() {
		if len(k.states) < 2 { // nobody has drawn states of it: it is an instance on a screen
			continue
		}
		for _, v := range k.variants {
			if len(v.states) == 1 && v.states[0] == "default" && len(k.variants) > 1 {
				continue // a variant that is only shown
			}
			var missing []string
			for _, s := range k.states {
				if !slices.Contains(v.states, s) {
					missing = append(missing, s)
				}
			}
			for _, s := range needed[v.role] {
				if s = stateOf(s); !slices.Contains(k.states, s) {
					missing = append(missing, s)
				}
			}
			if len(missing) == 0 {
				continue
			}
			name := v.component
			if v.variant != "" {
				name += " " + v.variant
			}
			c.find([]*design.Element{v.first}, "Draw it, or say that there is none: except: under audit: in the configuration.",
				"%s has no %s", name, nameStates(missing))
		}
	}
}

// nameStates names states: "state disabled", "states disabled and loading".
func nameStates(names []string) string {
	if len(names) == 1 {
		return "state " + names[0]
	}
	return "states " + list(names)
}

// components are the components that are marked with states, in order. Where none is marked default, one without a
// state is it.
func (c *checker) components() (out []*component) {
	byName, byVariant := map[string]*component{}, map[[2]string]*drawnStates{}
	for _, d := range c.Docs {
		if d.Styles != nil { // states of pages are rules
			continue
		}
		marked := map[string]bool{} // components that have states in this document
		for _, e := range d.All() {
			if e.Marks.State != "" && e.Marks.Component != "" {
				marked[e.Marks.Component] = true
			}
		}
		for _, e := range d.All() {
			name := e.Marks.Component
			if name == "" || e.Hidden || !marked[name] {
				continue
			}
			k := byName[name]
			if k == nil {
				k = &component{}
				byName[name] = k
				out = append(out, k)
			}
			key := [2]string{name, e.Marks.Variant}
			v := byVariant[key]
			if v == nil {
				v = &drawnStates{component: name, variant: e.Marks.Variant, first: e, role: c.role(e).Role}
				byVariant[key] = v
				k.variants = append(k.variants, v)
			}
			if s := stateOf(e.Marks.State); !slices.Contains(v.states, s) {
				v.states = append(v.states, s)
			}
			if s := stateOf(e.Marks.State); !slices.Contains(k.states, s) {
				k.states = append(k.states, s)
			}
		}
	}
	return out
}
