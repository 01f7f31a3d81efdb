package guide

import (
	"html/template"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/token"
	"archetyp/core/token/emit"
)

// switchModel is a choice of contexts that the reader has for a page.
type switchModel struct {
	Modifier, Attr, Default string
	Contexts                []string
}

// contextModel is a choice of one context, all others at their defaults. Attr and Name set it on an element of a page;
// without Attr it is what holds where nothing is chosen.
type contextModel struct {
	Attr, Name, Label string
	set               *token.Set
	changed           map[string]bool // paths of the tokens that have another value than by default
}

// In is the attribute that sets the context on an element of a page.
func (c contextModel) In() template.HTMLAttr {
	if c.Attr == "" {
		return ""
	}
	return template.HTMLAttr(c.Attr + `="` + template.HTMLEscapeString(c.Name) + `"`)
}

// contexts lists the choices there are.
func (m *model) contexts() {
	m.inContexts = []contextModel{{Label: "value", set: m.in.Tokens}}
	if m.in.Library == nil || m.in.Tokens == nil {
		return
	}
	taken := map[string]bool{}
	for _, mod := range m.in.Library.Modifiers() {
		s := switchModel{Modifier: mod.Name, Attr: "data-in-" + unique(design.Slug(mod.Name), "context", taken),
			Default: mod.Default, Contexts: mod.Contexts}
		var changing []contextModel
		base := contextModel{Attr: s.Attr, Name: mod.Default, Label: mod.Default, set: m.in.Tokens, changed: map[string]bool{}}
		for _, c := range m.in.Library.Contexts {
			if c.Modifier != mod.Name || c.Default {
				continue
			}
			one := contextModel{Attr: s.Attr, Name: c.Name, Label: c.Name, changed: map[string]bool{},
				set: c.Set}
			for _, t := range m.in.Library.Changed(c).Tokens {
				one.changed[t.Path], base.changed[t.Path] = true, true
			}
			if len(one.changed) > 0 {
				changing = append(changing, one)
			}
		}
		if len(changing) == 0 {
			continue
		}
		m.switches = append(m.switches, s)
		if mod.Default != "" {
			m.inContexts = append(m.inContexts, base)
		}
		m.inContexts = append(m.inContexts, changing...)
	}
}

// of are the contexts that a token has several values in: the default alone, where it has one.
func (m *model) of(t *token.Token) (out []contextModel) {
	for _, c := range m.inContexts[1:] {
		if c.changed[t.Path] {
			out = append(out, c)
		}
	}
	if len(out) == 0 {
		return m.inContexts[:1]
	}
	return out
}

// properties are the tokens as custom properties, with each context reached by an attribute: on the whole page, or on
// the part that shows it.
func (m *model) properties() string {
	if m.in.Library == nil || m.in.Tokens == nil || len(m.in.Tokens.Tokens) == 0 {
		return ""
	}
	o := m.in.Emit
	o.Unit, o.Only, o.Contexts = "px", nil, map[string][]string{}
	for _, s := range m.switches {
		for _, c := range s.Contexts {
			key := token.Context{Modifier: s.Modifier, Name: c}.Key()
			o.Contexts[key] = []string{"[" + s.Attr + "=" + css.String(c) + "]"}
		}
	}
	text, _, err := emit.CSS(m.in.Library, o)
	if err != nil { // two tokens of one name: the outputs report it
		return ""
	}
	return text
}
