package job

import (
	"context"
	"fmt"
	"path"
	"slices"

	"archetyp/core/asset"
	"archetyp/core/audit"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/hint"
	"archetyp/core/infer/naming"
	"archetyp/core/markup"
	"archetyp/core/revise"
	"archetyp/workspace"

	"github.com/bmatcuk/doublestar/v4"
)

// Marking are marks for elements of one drawing, by the key of the configuration.
type Marking struct {
	Select   string            // for the configuration
	Elements []*design.Element // for the drawing
	Marks    [][2]string       // key and value
	Why      string            // for a proposal
}

// Marked says what was written.
type Marked struct {
	Source   string      `json:"source"`
	File     string      `json:"file"` // the configuration, or the drawing
	Written  []MarkedOne `json:"written"`
	Also     []string    `json:"also"` // other drawings in which the selectors mean something, too
	Elements int         `json:"elements"`
}

// MarkedOne is a selector and the marks of its elements.
type MarkedOne struct {
	Select   string            `json:"select"`
	Marks    map[string]string `json:"marks"`
	Elements int               `json:"elements"`
}

// CheckMark says what is wrong with the key of a mark; nil for one there is.
func CheckMark(key string) error {
	if keys := design.MarkKeys(); !slices.Contains(keys, key) {
		h := "There are " + fmt.Sprint(keys) + "."
		if near := hint.Nearest(key, keys); near != "" {
			h = "Did you mean " + near + "?"
		}
		return hint.New("there is no mark "+key, h)
	}
	return nil
}

// MarkInConfig writes marks into the configuration.
func MarkInConfig(ctx context.Context, ws *workspace.Workspace, source string, list []Marking) (*Marked, error) {
	edits := make([]workspace.MarkEdit, len(list))
	for i, m := range list {
		edits[i] = workspace.MarkEdit{Select: m.Select, Marks: m.Marks}
	}
	old, err := ws.ReadFile(workspace.ConfigName)
	if err != nil {
		return nil, err
	}
	data, err := workspace.AddMarks(old, edits)
	if err != nil {
		return nil, err
	}
	out := written(source, workspace.ConfigName, list)
	if out.Also, err = others(ctx, ws, source, list); err != nil {
		return nil, err
	}
	change := &workspace.Change{}
	change.Put(ws, workspace.Settings, workspace.ConfigName, data)
	return out, ws.Apply(change)
}

// UnmarkInConfig takes marks out of the configuration.
func UnmarkInConfig(ws *workspace.Workspace, list []Marking) (removed int, err error) {
	edits := make([]workspace.MarkEdit, len(list))
	for i, m := range list {
		edits[i] = workspace.MarkEdit{Select: m.Select, Marks: m.Marks}
	}
	old, err := ws.ReadFile(workspace.ConfigName)
	if err != nil {
		return 0, err
	}
	data, removed, err := workspace.RemoveMarks(old, edits)
	if err != nil || removed == 0 {
		return removed, err
	}
	change := &workspace.Change{}
	change.Put(ws, workspace.Settings, workspace.ConfigName, data)
	return removed, ws.Apply(change)
}

func written(source, file string, list []Marking) *Marked {
	out := &Marked{Source: source, File: file, Written: Written(list), Also: []string{}}
	for _, m := range out.Written {
		out.Elements += m.Elements
	}
	return out
}

// Written says what marks are written.
func Written(list []Marking) []MarkedOne {
	out := []MarkedOne{}
	for _, m := range list {
		one := MarkedOne{Select: m.Select, Marks: map[string]string{}, Elements: len(m.Elements)}
		for _, k := range m.Marks {
			one.Marks[k[0]] = k[1]
		}
		out = append(out, one)
	}
	return out
}

// elementsOf are the elements of a document that a selector means.
func elementsOf(d *design.Document, selector string) ([]*design.Element, error) {
	sel, err := css.ParseSelector(selector)
	if err != nil {
		return nil, err
	}
	return d.Query(sel), nil
}

// others are the other drawings in which selectors mean something, since marks of the configuration hold for all.
func others(ctx context.Context, ws *workspace.Workspace, source string, list []Marking) ([]string, error) {
	s, err := Read(ctx, ws)
	if err != nil {
		return nil, err
	}
	docs, err := s.Docs()
	if err != nil {
		return nil, err
	}
	out := []string{}
	for _, d := range docs {
		if d.Name == source {
			continue
		}
		for _, m := range list {
			if found, err := elementsOf(d, m.Select); err == nil && len(found) > 0 {
				out = append(out, d.Name)
				break
			}
		}
	}
	return out, nil
}

// MarkDrawing writes marks into the tags of elements of a drawing; values may have {name}. With remove it takes them out.
func (a *Applying) MarkDrawing(source string, list []Marking, remove bool) error {
	d, err := a.drawing(source)
	if err != nil {
		return err
	}
	if err := a.revised(d).Writable(); err != nil {
		return hint.New(source+": "+err.Error(), "Without --drawing, marks go into "+workspace.ConfigName+".")
	}
	var edits []markup.Edit
	names := map[string]bool{}
	seen := map[*markup.Node]bool{}
	n := 0
	for _, m := range list {
		for _, e := range m.Elements {
			if e.Node == nil || seen[e.Node] && len(list) == 1 {
				continue
			}
			seen[e.Node] = true
			more := revise.Mark(d.now, e, m.Marks, remove)
			if len(more) > 0 {
				n++
			}
			edits = append(edits, more...)
			for _, k := range m.Marks {
				names[k[0]] = true
			}
		}
	}
	return a.take(d, edits, AppliedOne{What: "marks", New: fmt.Sprint(sortedKeys(names)), Elements: n})
}

// AdvisedMarks are the marks that advice on pictures asks for in a drawing.
func AdvisedMarks(doc *design.Document, ws *workspace.Workspace) []Marking {
	density := 1.0
	sets := asset.BuiltIn()
	if ws != nil {
		density = ws.Config.Assets.Density
	}
	var out []Marking
	for _, ad := range asset.Advise([]*design.Document{doc}, sets, density) {
		if ad.Mark != "" {
			out = append(out, Marking{Select: ad.Element.Selector(), Elements: []*design.Element{ad.Element}, Marks: [][2]string{{"asset", ad.Mark}}, Why: ad.Why})
		}
	}
	return out
}

// ProposedComponents are marks that make one component of alike things in a drawing, with variants named after what
// differs; accept is a pattern that the names of components must match, "" for all.
func ProposedComponents(doc *design.Document, accept string) (out []Marking, err error) {
	taken := map[string]bool{}
	for _, e := range doc.All() {
		taken[e.Marks.Component] = true
	}
	for _, s := range audit.LookAlikes(doc) {
		c := naming.ComponentOf(s, taken)
		taken[c.Name] = true
		if accept != "" {
			ok, err := path.Match(accept, c.Name)
			if err != nil {
				return nil, hint.New(fmt.Sprintf("%q is no pattern", accept), "For example: '*-row'")
			}
			if !ok {
				continue
			}
		}
		for i, e := range c.Elements {
			m := Marking{Select: e.Selector(), Elements: []*design.Element{e}, Marks: [][2]string{{"component", c.Name}}, Why: c.Why}
			if v := c.Variants[i]; v != "" {
				m.Marks = append(m.Marks, [2]string{"variant", v})
			}
			out = append(out, m)
		}
	}
	return out, nil
}

// ProposedNames are names for the elements of a drawing that have none; accept is a pattern that names must match, "" for
// all.
func ProposedNames(doc *design.Document, accept string) (out []Marking, err error) {
	for _, p := range naming.Propose(doc) {
		if accept != "" {
			ok, err := path.Match(accept, p.Name)
			if deep, other := doublestar.Match(accept, p.Element.Path); err == nil && other == nil {
				ok = ok || deep
			}
			if err != nil {
				return nil, hint.New(fmt.Sprintf("%q is no pattern", accept), "For example: '* row' or 'booking/**'")
			}
			if !ok {
				continue
			}
		}
		out = append(out, Marking{Select: p.Element.Selector(), Elements: []*design.Element{p.Element}, Marks: [][2]string{{"label", p.Name}}, Why: p.Why})
	}
	return out, nil
}
