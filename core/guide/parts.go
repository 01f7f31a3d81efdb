package guide

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"archetyp/core/code"
	"archetyp/core/design"
	"archetyp/core/digest"
	"archetyp/core/geom"
)

// Part is a look of a component in a document: the instances of one variant and state that have the same CSS.
type Part struct {
	Name, Variant, State string
	CodeFile, Behaviour  string    `json:",omitempty"`
	Motion               []string  `json:",omitempty"` // transitions and animations, as the drawing states them
	Code                 string    // CSS
	View                 geom.Rect // what its picture shows, px on its screen
	Paint                string    // hash of what the first instance paints
	Index                int       // of that among all elements of the document
	On                   []PartOn  // the instances
}

// PartOn is an instance on a screen.
type PartOn struct {
	Screen   int // of the document
	Selector string
	Path     string
}

// PartsOf lists the components of a document: each variant and state once for every look it has there. Looks are the
// same where their CSS is; words and places do not count.
func PartsOf(d *design.Document, names code.Tokens) []Part {
	var out []Part
	known := map[string]int{}
	index := 0
	for k, s := range d.Screens {
		for _, e := range s.Elements {
			at := index
			index++
			if e.Marks.Component == "" || e.Hidden {
				continue
			}
			p := Part{Name: e.Marks.Component, Variant: e.Marks.Variant, State: cmp.Or(e.Marks.State, "default"),
				CodeFile: e.Marks.Code, Behaviour: e.Marks.Behaviour, Index: at,
				Code: code.Print(code.CSS(e, code.Options{Tokens: names}))}
			on := PartOn{k, e.Selector(), e.Path}
			key := strings.Join([]string{p.Name, p.Variant, p.State, p.Code}, "\x00")
			if i, same := known[key]; same {
				out[i].On = append(out[i].On, on)
				out[i].Behaviour = cmp.Or(out[i].Behaviour, p.Behaviour)
				continue
			}
			known[key] = len(out)
			p.On = []PartOn{on}
			p.View = design.WholePixels(e.Painted.Value.Grow(1))
			p.Paint = strconv.FormatUint(design.Alone(e).Digest(), 16)
			p.Motion = motionOf(e)
			out = append(out, p)
		}
	}
	return out
}

// motionOf lists the motion that a drawing states for an element and what it holds.
func motionOf(e *design.Element) (out []string) {
	for _, d := range e.Stated {
		if d.Prop == "transition" || d.Prop == "animation" {
			out = append(out, d.Prop+": "+d.Value)
		}
	}
	for _, c := range e.Children {
		for _, text := range motionOf(c) {
			if !slices.Contains(out, text) {
				out = append(out, text)
			}
		}
	}
	return out
}

// componentModel is a component of the guide.
type componentModel struct {
	Name, Page          string
	CodeFile, Behaviour string
	Use                 *Use `json:",omitempty"`
	Parts               []*partModel
	Variants            []variantModel
	States              []string
	Missing             []string // in words
	Unlike              []string // variants and states that look different in several places, in words
	On                  []useModel
}

// variantModel is a row of the matrix.
type variantModel struct {
	Name  string
	Cells []cellModel
}

// cellModel is a variant in a state: one part, or several that do not look alike; none is a gap.
type cellModel struct {
	State string
	Parts []*partModel
}

// partModel is a look of a component.
type partModel struct {
	Part
	Label, ID, Picture string
	Look               int // which of those of its variant and state, from 1; 0 where there is only one
	Uses               []useModel
	drawing            *Drawing
}

// Width and Height are those of the picture in px.
func (p *partModel) Width() float64  { return p.View.W }
func (p *partModel) Height() float64 { return p.View.H }

// components gathers the parts of all documents.
func (m *model) components() {
	by, seen := map[string]*componentModel{}, map[string]*partModel{}
	taken := map[string]bool{}
	for i := range m.in.Drawings {
		d := &m.in.Drawings[i]
		for _, p := range d.Holds.Parts {
			if !m.published(d, &p) || m.in.shared(p.Name) {
				continue
			}
			c := by[p.Name]
			if c == nil {
				c = &componentModel{Name: p.Name, Page: "components/" + pageName(p.Name, taken) + ".html"}
				by[p.Name] = c
				m.parts = append(m.parts, c)
			}
			c.Behaviour, c.CodeFile = cmp.Or(c.Behaviour, p.Behaviour), cmp.Or(c.CodeFile, p.CodeFile)
			key := strings.Join([]string{p.Name, p.Variant, p.State, p.Code}, "\x00")
			one := seen[key]
			if one == nil {
				one = &partModel{Part: p, drawing: d}
				seen[key] = one
				c.Parts = append(c.Parts, one)
			}
			for _, on := range p.On {
				one.Uses = m.addUse(one.Uses, d, on)
				c.On = m.addUse(c.On, d, on)
			}
		}
	}
	slices.SortStableFunc(m.parts, func(a, b *componentModel) int { return cmp.Compare(len(b.Parts), len(a.Parts)) })
	for _, c := range m.parts {
		c.matrix()
		if u, ok := m.in.Use[c.Name]; ok {
			c.Use = &u
			c.CodeFile = cmp.Or(c.CodeFile, u.File)
		}
	}
}

// published reports whether any instance of a part is on a screen of the guide.
func (m *model) published(d *Drawing, p *Part) bool {
	return slices.ContainsFunc(p.On, func(on PartOn) bool { return m.screenOf(d, on.Screen) != nil })
}

// screenOf is a screen of the guide by its place in its drawing; nil for one that is left out.
func (m *model) screenOf(d *Drawing, index int) *screenModel {
	if index >= len(d.Screens) {
		return nil
	}
	return m.at[screenAt{d.Name, d.Screens[index].Name}]
}

// addUse counts an instance on its screen.
func (m *model) addUse(list []useModel, d *Drawing, on PartOn) []useModel {
	s := m.screenOf(d, on.Screen)
	if s == nil {
		return list
	}
	for i := range list {
		if page, _, _ := strings.Cut(list[i].Page, "#"); page == s.Page {
			list[i].Count++
			return list
		}
	}
	return append(list, useModel{s.Name, s.Page + "#" + escapeFragment(on.Path), 1})
}

// matrix lays the parts out by variant and state, and finds what is missing and what is unlike.
func (c *componentModel) matrix() {
	for _, p := range c.Parts {
		if !slices.Contains(c.States, p.State) {
			c.States = append(c.States, p.State)
		}
		v := slices.IndexFunc(c.Variants, func(v variantModel) bool { return v.Name == p.Variant })
		if v < 0 {
			c.Variants = append(c.Variants, variantModel{Name: p.Variant})
		}
	}
	slices.SortStableFunc(c.States, func(a, b string) int { return cmp.Compare(stateRank(a), stateRank(b)) })
	taken := map[string]bool{}
	for i := range c.Variants {
		v := &c.Variants[i]
		var lack []string
		for _, state := range c.States {
			cell := cellModel{State: state}
			for _, p := range c.Parts {
				if p.Variant == v.Name && p.State == state {
					cell.Parts = append(cell.Parts, p)
				}
			}
			for k, p := range cell.Parts {
				p.Label = strings.TrimSpace(p.Variant + " " + p.State)
				if p.ID = c.partID(p.Variant, p.State); len(cell.Parts) > 1 {
					p.Look = k + 1
					if k > 0 {
						p.ID += "-" + strconv.Itoa(k+1)
					}
				}
				p.ID = unique(p.ID, "part", taken)
				p.Picture = fmt.Sprintf("img/component-%s-%s.png", strings.TrimSuffix(strings.TrimPrefix(c.Page, "components/"), ".html"), p.ID)
			}
			if len(cell.Parts) == 0 {
				lack = append(lack, state)
			}
			if len(cell.Parts) > 1 {
				c.Unlike = append(c.Unlike, fmt.Sprintf("%s has %d looks that no variant or state distinguishes",
					cell.Parts[0].Label, len(cell.Parts)))
			}
			v.Cells = append(v.Cells, cell)
		}
		if len(lack) > 0 && len(c.States)-len(lack) > 1 { // one that is drawn once shows no states at all
			c.Missing = append(c.Missing, strings.TrimSpace(v.Name+" has no "+strings.Join(lack, ", ")))
		}
	}
}

// states are the usual states, in the order that people go through them.
var states = []string{"default", "hover", "focus", "focus-visible", "active", "checked", "selected", "disabled", "loading",
	"empty", "error", "invalid"}

func stateRank(state string) int {
	if i := slices.Index(states, state); i >= 0 {
		return i
	}
	return len(states)
}

// partID names a variant in a state in addresses.
func (c *componentModel) partID(variant, state string) string {
	if id := design.Slug(strings.TrimSpace(variant + " " + cmp.Or(state, "default"))); id != "" {
		return id
	}
	return "part"
}

// Face is the part shown for the whole component: the narrowest in its default state, which stays legible as a thumbnail.
func (c *componentModel) Face() *partModel {
	best := c.Parts[0]
	for _, p := range c.Parts {
		if rank, of := stateRank(p.State), stateRank(best.State); rank < of || rank == of && p.View.W < best.View.W {
			best = p
		}
	}
	return best
}

// motion lists the motion of the component, each once.
func (c *componentModel) motion() (out []string) {
	for _, p := range c.Parts {
		for _, text := range p.Motion {
			if !slices.Contains(out, text) {
				out = append(out, text)
			}
		}
	}
	return out
}

// component finds a component by name; nil for none.
func (m *model) component(name string) *componentModel {
	if name == "" {
		return nil
	}
	for _, c := range m.parts {
		if c.Name == name {
			return c
		}
	}
	return nil
}

// key is a sum of what a part's data is made of.
func (p *partModel) key() string {
	return digest.Of(p.Paint, p.Code, p.drawing.Key, fmt.Sprint(p.View))
}
