package computed

import (
	"fmt"
	"slices"
	"strings"

	"archetyp/core/css"
	"archetyp/core/css/grammar"
)

// Declared is a declaration that sets a property of an element, and what became of it.
type Declared struct {
	css.Decl
	Kind  string     // "rule", "style attribute", "attribute" or "browser"
	Match *css.Match // of a rule; nil for attributes
	Up    int        // how many elements above the one asked about it is declared
	Lost  string     // why it does not win; "" for the one that does
	Vars  []Declared // the custom properties that its value uses, with those that these use
}

// mostVars is how many custom properties are followed for one declaration.
const mostVars = 64

// Why are the declarations of a property, the one that wins first; for an inherited value those of the ancestor that it
// comes from. There is none where the value is the initial one.
func (s *Style) Why(name string) []Declared {
	up := 0
	for st := s; st != nil; st = st.parent {
		if list := st.why(name); len(list) > 0 {
			return raised(list, up)
		}
		if !Inherited(name) {
			return nil
		}
		if st.part != "slot" {
			up++
		}
	}
	return nil
}

// raised are declarations as seen from so many elements below.
func raised(list []Declared, up int) []Declared {
	for i := range list {
		list[i].Up += up
		raised(list[i].Vars, up)
	}
	return list
}

// why is Why for what is declared on the element itself.
func (s *Style) why(name string) (out []Declared) {
	if a, ok := aliases[name]; ok {
		name = a
	}
	order := order(s.matches)
	var win *match
	for k := len(order) - 1; k >= 0; k-- {
		m := &s.matches[order[k].match]
		for i := len(order[k].decls) - 1; i >= 0; i-- {
			d := &order[k].decls[i]
			if !s.sets(d, name) || len(out) > 0 && out[len(out)-1].Offset == d.from.Offset && out[len(out)-1].Match == m.rule {
				continue
			}
			x := Declared{Decl: *d.from, Kind: kindOf(m), Match: m.rule}
			if win == nil {
				win = m
				x.Vars = s.varsOf(d.from.Value, map[string]bool{name: true})
			} else {
				x.Lost = s.lost(m, d.from.Important, win, out[0].Important)
			}
			out = append(out, x)
		}
	}
	return append(out, s.refused(name)...)
}

// sets reports whether a declaration sets a property.
func (s *Style) sets(d *decl, name string) bool {
	switch {
	case d.custom != "":
		return d.custom == name
	case d.logical != "":
		return d.logical == name || logicals[d.logical].physical(s.word("writing-mode"), s.word("direction")) == name
	}
	return table().all[d.id].name == name
}

func kindOf(m *match) string {
	switch m.origin {
	case fromBrowser:
		return "browser"
	case fromHints:
		return "attribute"
	case fromStyle:
		return "style attribute"
	}
	return "rule"
}

// lost says why one declaration gives way to another.
func (s *Style) lost(m *match, important bool, win *match, winImportant bool) string {
	switch {
	case important != winImportant:
		return "the other is !important"
	case m.origin != win.origin && m.origin == fromBrowser:
		return "the page goes before the browser"
	case m.origin != win.origin && m.origin == fromHints:
		return "rules go before attributes"
	case m.origin != win.origin:
		return "the style attribute goes before rules"
	case m.layer != win.layer:
		return "its layer gives way"
	case m.rule == nil || win.rule == nil:
		return "it stands earlier"
	case m.rule.Spec != win.rule.Spec:
		return fmt.Sprintf("%s is less specific than %s", specText(m.rule.Spec), specText(win.rule.Spec))
	case m.rule.Near != win.rule.Near && m.rule.Scoped && win.rule.Scoped:
		return "its scope is farther away"
	}
	return "it stands earlier"
}

func specText(s css.Specificity) string { return fmt.Sprintf("(%d,%d,%d)", s[0], s[1], s[2]) }

// refused are declarations whose value the property does not take.
func (s *Style) refused(name string) (out []Declared) {
	for i := len(s.matches) - 1; i >= 0; i-- {
		m := &s.matches[i]
		if m.rule == nil || m.origin == fromBrowser {
			continue
		}
		for k := range m.rule.Rule.Decls {
			d := &m.rule.Rule.Decls[k]
			if (d.Prop == name || slices.Contains(shorthands[d.Prop].names, name)) && len(s.page.expand(d)) == 0 {
				out = append(out, Declared{Decl: *d, Kind: "rule", Match: m.rule, Lost: "the property takes no such value"})
			}
		}
	}
	return out
}

// varsOf are the custom properties that a value uses, where they are declared.
func (s *Style) varsOf(value string, seen map[string]bool) (out []Declared) {
	for _, name := range varNames(value) {
		if seen[name] || len(seen) > mostVars {
			continue
		}
		seen[name] = true
		up := 0
		for st := s; st != nil; st = st.parent {
			if list := st.why(name); len(list) > 0 {
				d := list[0]
				d.Vars = st.varsOf(d.Value, seen)
				out = append(out, raised([]Declared{d}, up)...)
				break
			}
			if st.part != "slot" {
				up++
			}
		}
	}
	return out
}

// varNames are the custom properties that a text refers to, in their order.
func varNames(text string) (out []string) {
	for {
		i := strings.Index(text, "var(")
		if i < 0 {
			return out
		}
		text = text[i+4:]
		name := strings.TrimSpace(text)
		if end := strings.IndexAny(name, ",) \t\n"); end >= 0 {
			name = name[:end]
		}
		if strings.HasPrefix(name, "--") {
			out = append(out, name)
		}
	}
}

// Set are the longhands that the page declares for the element itself, in the order of the table.
func (s *Style) Set() (out []string) {
	seen := make([]bool, len(table().all))
	for _, o := range order(s.matches) {
		if s.matches[o.match].origin == fromBrowser {
			continue
		}
		for i := range o.decls {
			d := &o.decls[i]
			switch {
			case d.logical != "":
				seen[id(logicals[d.logical].physical(s.word("writing-mode"), s.word("direction")))] = true
			case d.custom == "":
				seen[d.id] = true
			}
		}
	}
	for i := range seen {
		if seen[i] {
			out = append(out, table().all[i].name)
		}
	}
	return out
}

// Customs are the custom properties that are declared for the element itself, in alphabetical order.
func (s *Style) Customs() (out []string) {
	if s.vars == nil || s.parent != nil && s.vars == s.parent.vars {
		return nil
	}
	for name := range s.vars.own {
		out = append(out, name)
	}
	slices.Sort(out)
	return out
}

// ColorOf is the computed value of a property that is a colour, as CSS; ok is false where it is none.
func (s *Style) ColorOf(name string) (text string, ok bool) {
	i, known := table().byName[name]
	if !known {
		return "", false
	}
	parts := s.painted(s.value(i).Parts)
	if len(parts) != 1 || parts[0].Kind != grammar.Colour {
		return "", false
	}
	return parts[0].Color.CSS(), true
}
