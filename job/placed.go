package job

import (
	"context"
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/offer"
	"archetyp/core/token/emit"
)

// Placed is an element as the last sync remembers it.
type Placed struct {
	Source    string
	Index     int // among the elements of the source
	ID        string
	Path      string // names from the screen down
	Component string
	Variant   []string // values
	State     string
}

// placed lists the elements of the last sync.
func (a *Answers) placed() (out []Placed) {
	for _, source := range sortedKeys(a.Lock.Elements) {
		for i, e := range a.Lock.Elements[source].List() {
			p := Placed{Source: source, Index: i, ID: e.ID, Path: e.Path}
			if mark, ok := strings.CutPrefix(e.Mark, "component "); ok {
				parts := strings.Split(mark, " ")
				p.Component = parts[0]
				for _, v := range parts[1:] {
					if _, value, ok := strings.Cut(v, "="); ok {
						p.Variant = append(p.Variant, value)
					} else if v != "" {
						p.State = v
					}
				}
			}
			out = append(out, p)
		}
	}
	return out
}

// Elements are the elements of all drawings, as the last sync saw them.
func (a *Answers) Elements() []Placed { return a.elements() }

// Find is the element of a drawing that a Placed was, as the drawing is now; nil where it is gone.
func (a *Answers) Find(ctx context.Context, p Placed) *design.Element {
	doc, err := a.Document(ctx, p.Source)
	if err != nil {
		return nil
	}
	all := doc.All()
	if p.Index < len(all) && all[p.Index].Path == p.Path && all[p.Index].ID == p.ID {
		return all[p.Index]
	}
	for _, e := range all {
		if p.ID != "" && e.ID == p.ID || p.ID == "" && e.Path == p.Path {
			return e
		}
	}
	return nil
}

// Sited are the elements that the drawings use a token for: at most so many, of how many.
func (a *Answers) Sited(path string, most int) (list []Placed, of int) {
	uses := a.Lock.TokensNow()[path].Uses
	bySource := map[string][]Placed{}
	for _, u := range uses {
		if len(list) == most {
			break
		}
		source, i, ok := splitUse(u)
		if !ok {
			continue
		}
		if bySource[source] == nil {
			for _, p := range a.Elements() {
				if p.Source == source {
					bySource[source] = append(bySource[source], p)
				}
			}
		}
		if i < len(bySource[source]) {
			list = append(list, bySource[source][i])
		}
	}
	return list, len(uses)
}

// Called are the elements that a class or an id of code may mean: with that id, of that component, or last in their path
// by that name. The components come first, those without a state before all.
func (a *Answers) Called(name string) []Placed {
	byName := a.byName()
	found := byName[name]
	if slug := design.Slug(name); slug != name {
		found = append(slices.Clip(found), byName[slug]...)
	}
	var out, later []Placed
	for i, p := range found {
		switch {
		case slices.ContainsFunc(found[:i], func(q Placed) bool { return q.Source == p.Source && q.Index == p.Index }):
		case p.Component == name:
			out = append(out, p)
		default:
			later = append(later, p)
		}
	}
	slices.SortStableFunc(out, func(a, b Placed) int { return len(a.State) - len(b.State) })
	return append(out, later...)
}

// named lists elements by their component, their id, and the last name of their path as a class has it.
func named(list []Placed) map[string][]Placed {
	out := map[string][]Placed{}
	for _, p := range list {
		names := []string{p.Component, p.ID, design.Slug(p.Path[strings.LastIndexByte(p.Path, '/')+1:])}
		for i, n := range names {
			if n != "" && !slices.Contains(names[:i], n) {
				out[n] = append(out[n], p)
			}
		}
	}
	return out
}

// Classes are the classes of the workspace's components and the utility classes of its outputs, with what each is.
func (a *Answers) Classes() map[string]string {
	out := map[string]string{}
	for _, p := range a.Elements() {
		if p.Component == "" {
			continue
		}
		out[design.Slug(p.Component)] = "component"
		for _, v := range p.Variant {
			if s := design.Slug(v); s != "" && out[s] == "" {
				out[s] = "variant of " + p.Component
			}
		}
	}
	for _, o := range a.WS.Config.Outputs {
		if o.As != "css-classes" {
			continue
		}
		for _, e := range a.Desk.Entries() {
			if e.Kind == offer.Type || e.Kind == offer.Shadow || e.Kind == offer.Gradient {
				out[strings.TrimPrefix(emit.Property(e.Path, o.Prefix), "--")] = a.Desk.Text(e)
			}
		}
	}
	return out
}

// Components are the components of the drawings and those the team has in code, by name.
func (a *Answers) Components() map[string]bool {
	out := map[string]bool{}
	for name := range a.WS.Config.Components {
		out[name] = true
	}
	for _, p := range a.Elements() {
		if p.Component != "" {
			out[p.Component] = true
		}
	}
	return out
}
