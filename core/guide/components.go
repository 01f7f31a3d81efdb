package guide

import (
	"cmp"
	"fmt"
	"sort"
	"strconv"
	"strings"

	"archetyp/core/code"
	"archetyp/core/design"
	"archetyp/core/digest"
	"archetyp/core/geom"
)

type instanceModel struct {
	Label, Picture, Code string
	Width, Height        float64
}

type componentModel struct {
	Name, ID, Where, CodeFile, Behaviour string
	Missing                              string
	Instances                            []instanceModel
}

// Part is one instance of a component in a document: a variant in a state.
type Part struct {
	Name, Label, CodeFile, Behaviour string
	Code                             string    // CSS
	View                             geom.Rect // what its picture shows, px on its screen
	Paint                            string    // hash of what it paints
	Index                            int       // of the element among all of its document
}

// PartsOf lists the components of a document, each variant and state once.
func PartsOf(d *design.Document, names code.Tokens) []Part {
	var out []Part
	type one struct{ name, label string }
	seen := map[one]bool{}
	for i, e := range d.All() {
		if e.Marks.Component == "" || e.Hidden {
			continue
		}
		p := Part{Name: e.Marks.Component, Label: strings.TrimSpace(e.Marks.Variant + " " + cmp.Or(e.Marks.State, "default")),
			CodeFile: e.Marks.Code, Behaviour: e.Marks.Behaviour, Index: i}
		if seen[one{p.Name, p.Label}] {
			continue
		}
		seen[one{p.Name, p.Label}] = true
		p.Code, p.View = code.Print(code.CSS(e, code.Options{Tokens: names})), design.WholePixels(e.Painted.Value.Grow(1))
		p.Paint = strconv.FormatUint(design.Alone(e).Digest(), 16)
		out = append(out, p)
	}
	return out
}

func (m *model) components() {
	by := map[string]int{}
	type one struct{ name, label string }
	seen := map[one]bool{}
	for i := range m.in.Drawings {
		d := &m.in.Drawings[i]
		for _, p := range d.Parts {
			at, ok := by[p.Name]
			if !ok {
				at = len(m.Components)
				by[p.Name] = at
				m.Components = append(m.Components, componentModel{Name: p.Name, ID: design.Slug(p.Name), CodeFile: p.CodeFile})
			}
			if seen[one{p.Name, p.Label}] {
				continue
			}
			seen[one{p.Name, p.Label}] = true
			c := &m.Components[at]
			c.Behaviour = cmp.Or(c.Behaviour, p.Behaviour)
			pic := fmt.Sprintf("img/component-%s-%d.png", c.ID, len(c.Instances)+1)
			m.picture(pic, digest.Of(p.Paint, fmt.Sprint(p.View)), d, p.View,
				func(doc *design.Document) *design.PaintNode { return design.Alone(doc.All()[p.Index]) })
			c.Instances = append(c.Instances, instanceModel{Label: p.Label, Picture: pic, Code: p.Code, Width: p.View.W,
				Height: p.View.H})
		}
	}
	for i := range m.Components {
		m.Components[i].missing()
	}
	sort.SliceStable(m.Components,
		func(i, j int) bool { return len(m.Components[i].Instances) > len(m.Components[j].Instances) })
}

// missing names states that some variants have and others lack.
func (c *componentModel) missing() {
	states, variants := map[string]bool{}, map[string]map[string]bool{}
	var order []string
	for _, in := range c.Instances {
		k := strings.LastIndexByte(in.Label, ' ')
		variant, state := "", in.Label
		if k >= 0 {
			variant, state = in.Label[:k], in.Label[k+1:]
		}
		if variants[variant] == nil {
			variants[variant] = map[string]bool{}
			order = append(order, variant)
		}
		states[state], variants[variant][state] = true, true
	}
	if len(order) < 2 || len(states) < 3 {
		return
	}
	var all, out []string
	for s := range states {
		all = append(all, s)
	}
	sort.Strings(all)
	for _, v := range order {
		var lack []string
		for _, s := range all {
			if !variants[v][s] {
				lack = append(lack, s)
			}
		}
		if len(lack) > 0 && len(all)-len(lack) > 1 { // one that is drawn once shows no states at all
			out = append(out, v+" has no "+strings.Join(lack, ", "))
		}
	}
	c.Missing = strings.Join(out, "; ")
}
