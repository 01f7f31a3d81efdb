package cli

import (
	"fmt"
	"path/filepath"
	"strings"

	"archetyp/core/token/harvest"
	"archetyp/job"
	"archetyp/workspace"
)

// codeHarvest collects from a style sheet, or from those of a page; ok is false for a drawing.
func (a *app) codeHarvest(arg string) (c *job.CodeHarvest, ok bool, err error) {
	if strings.EqualFold(filepath.Ext(arg), ".css") && !job.IsAddress(arg) {
		data, err := workspace.ReadFile(a.path(arg), arg)
		if err != nil {
			return nil, true, err
		}
		ws, _, err := a.open(filepath.Dir(a.path(arg)))
		if err != nil {
			return nil, true, err
		}
		c, err := job.HarvestSheet(ws, arg, data)
		return c, true, err
	}
	doc, ws, err := a.source(arg)
	if err != nil || doc.Styles == nil {
		return nil, err != nil, err
	}
	c, err = job.HarvestSheets(ws, doc)
	return c, true, err
}

type codePlaceJSON struct {
	File     string `json:"file"`
	Line     int    `json:"line"`
	Selector string `json:"selector"`
	Property string `json:"property"`
}

type codeInJSON struct {
	Context string        `json:"context"`
	Value   string        `json:"value"`
	Place   codePlaceJSON `json:"place"`
}

type codePropertyJSON struct {
	Name  string       `json:"name"`
	Whole bool         `json:"wholePage"`
	Uses  int          `json:"uses"`
	In    []codeInJSON `json:"in"`
}

type codeValueJSON struct {
	Kind       string          `json:"kind"`
	Value      string          `json:"value"`
	Uses       int             `json:"uses"`
	Properties []string        `json:"properties,omitempty"`
	Token      string          `json:"token,omitempty"`
	Near       string          `json:"near,omitempty"` // a token whose value is hard to tell from this one
	Places     []codePlaceJSON `json:"places"`
}

func placeJSON(p harvest.CodePlace) codePlaceJSON {
	return codePlaceJSON{p.File, p.Line, p.Selector, p.Property}
}

func (a *app) codeHarvestJSON(c *job.CodeHarvest) any {
	properties, values := []codePropertyJSON{}, []codeValueJSON{}
	for _, p := range c.Properties {
		x := codePropertyJSON{Name: p.Name, Whole: p.Whole, Uses: p.Uses}
		for _, in := range p.In {
			x.In = append(x.In, codeInJSON{in.Context, in.Value, placeJSON(in.Place)})
		}
		properties = append(properties, x)
	}
	for _, v := range c.Values {
		x := codeValueJSON{Kind: v.Kind, Value: v.Text, Uses: v.Uses, Properties: v.Is, Token: c.Tokens[v], Near: c.Near[v]}
		for _, p := range v.Places {
			x.Places = append(x.Places, placeJSON(p))
		}
		values = append(values, x)
	}
	return map[string]any{"contexts": full(c.Contexts), "properties": properties, "values": values, "unusedTokens": full(c.Unused)}
}

// codeTitles are what kinds of values of code are called, in their order.
var codeTitles = map[string]string{"color": "Colours", "size": "Type sizes", "family": "Families", "weight": "Weights", "line": "Line heights", "space": "Spacing",
	"radius": "Radii", "shadow": "Shadows", "time": "Times", "easing": "Easings", "layer": "Layers (z-index)", "width": "Breakpoints"}

// mostListed are as many rows of one kind as are shown.
const mostListed = 24

func (a *app) printCodeHarvest(c *job.CodeHarvest) error {
	if a.json {
		return a.printJSON(a.codeHarvestJSON(c))
	}
	a.printProperties(c)
	kind, n, folded := "", 0, 0
	var rows [][]string
	flush := func() {
		if len(rows) > 0 {
			a.print("\n%s\n%s", a.term.bold(codeTitles[kind]), a.term.table([]string{"  value", "uses", "is", "where"}, rows, 1))
		}
		if folded > 0 {
			a.print("  %s\n", a.term.dim(fmt.Sprintf("and %d more; --verbose shows them", folded)))
		}
		rows, n, folded = nil, 0, 0
	}
	for _, v := range c.Values {
		if v.Kind != kind {
			flush()
			kind = v.Kind
		}
		if n++; n > mostListed && !a.verbose {
			folded++
			continue
		}
		is := c.Tokens[v]
		if near := c.Near[v]; near != "" {
			is = "near " + near
		}
		if len(v.Is) > 0 {
			is = strings.TrimSpace(is + " " + strings.Join(v.Is[:min(2, len(v.Is))], ", "))
		}
		p := v.Places[0]
		rows = append(rows, []string{"  " + a.term.swatchOf(v.Text) + short(v.Text, 56), fmt.Sprint(v.Uses), a.term.accent(is),
			a.term.dim(fmt.Sprintf("%s:%d %s", filepath.Base(p.File), p.Line, short(p.Selector, 40)))})
	}
	flush()
	if len(c.Tokens)+len(c.Unused) > 0 {
		a.print("\n%s are tokens of the workspace, %d are none, %d of them near one; %s in no sheet\n", plural(c.Shared, "value", "values"), c.Alone, len(c.Near), plural(len(c.Unused), "token is", "tokens are"))
		for i, name := range c.Unused {
			if i == 12 && !a.verbose {
				a.print("  %s\n", a.term.dim(fmt.Sprintf("… %d more; --verbose shows them", len(c.Unused)-i)))
				break
			}
			a.print("  %s\n", name)
		}
	}
	a.remark("warning", c.Skipped)
	return nil
}

// printProperties lists custom properties of the whole page with their value in each context, then those of some
// elements.
func (a *app) printProperties(c *job.CodeHarvest) {
	for _, whole := range []bool{true, false} {
		title := "Custom properties"
		if !whole {
			title = "Custom properties of some elements"
		}
		var rows [][]string
		n, folded := 0, 0
		for _, p := range c.Properties {
			if p.Whole != whole {
				continue
			}
			if n++; n > 2*mostListed && !a.verbose {
				folded++
				continue
			}
			name, uses := p.Name, fmt.Sprint(p.Uses)
			for _, in := range p.In {
				rows = append(rows, []string{"  " + name, uses, a.term.swatchOf(in.Value) + short(in.Value, 48), a.term.dim(short(in.Context, 56))})
				name, uses = "", ""
			}
		}
		if len(rows) > 0 {
			a.print("\n%s\n%s", a.term.bold(title), a.term.table([]string{"  name", "uses", "value", "in"}, rows, 1))
		}
		if folded > 0 {
			a.print("  %s\n", a.term.dim(fmt.Sprintf("and %d more; --verbose shows them", folded)))
		}
	}
}

// short is a text cut off after so many letters.
func short(s string, n int) string {
	s = strings.Join(strings.Fields(s), " ")
	if r := []rune(s); len(r) > n {
		return string(r[:n-1]) + "…"
	}
	return s
}
