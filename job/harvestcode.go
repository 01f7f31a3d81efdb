package job

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/core/token/harvest"
	"archetyp/workspace"
)

// CodeHarvest is what style sheets declare, beside the tokens of the workspace.
type CodeHarvest struct {
	*harvest.Code
	Tokens map[*harvest.CodeValue]string // path of the token that has a value
	Near   map[*harvest.CodeValue]string // path of a token whose value is hard to tell from one that is none
	Unused []string                      // tokens whose value no sheet has
	Shared int                           // values that are tokens
	Alone  int                           // values of a kind that tokens have which are none
}

// HarvestSheets collects from the style sheets of a page.
func HarvestSheets(ws *workspace.Workspace, doc *design.Document) (*CodeHarvest, error) {
	var sheets []harvest.Sheet
	for _, s := range doc.Styles.Sheets() {
		sheets = append(sheets, harvest.Sheet{Name: s.Name, Text: s.Text, Line: s.Line})
	}
	return beside(ws, harvest.ReadCode(sheets))
}

// HarvestSheet collects from one style sheet.
func HarvestSheet(ws *workspace.Workspace, name string, data []byte) (*CodeHarvest, error) {
	return beside(ws, harvest.ReadCode([]harvest.Sheet{{Name: name, Text: css.Decode(data, ""), Line: 1}}))
}

// beside finds the tokens that have the values.
func beside(ws *workspace.Workspace, c *harvest.Code) (*CodeHarvest, error) {
	out := &CodeHarvest{Code: c, Tokens: map[*harvest.CodeValue]string{}, Near: map[*harvest.CodeValue]string{}}
	if ws == nil {
		return out, nil
	}
	lib, err := ws.ReadTokens(nil)
	if err != nil {
		return nil, err
	}
	byValue, kinds := map[string]string{}, map[string]bool{}
	for _, t := range lib.Base.Tokens {
		if kind, value := drawnAs(lib.Base, t, ws.Config.RootPx()); kind != "" {
			kinds[kind] = true
			if key := kind + "\x00" + value; byValue[key] == "" || t.Value.Alias == "" {
				byValue[key] = t.Path
			}
		}
	}
	used := map[string]bool{}
	note := func(kind, text string) string {
		p := byValue[kind+"\x00"+inPixels(text, ws.Config.RootPx())]
		if p != "" {
			used[p] = true
		}
		return p
	}
	for _, v := range c.Values {
		if p := note(v.Kind, v.Text); p != "" {
			out.Tokens[v] = p
			out.Shared++
		} else if kinds[v.Kind] {
			out.Alone++
			if near := nearest(byValue, v.Kind, inPixels(v.Text, ws.Config.RootPx())); near != "" {
				out.Near[v] = near
			}
		}
	}
	for _, p := range c.Properties { // what a custom property has, too
		for _, in := range p.In {
			for kind := range kinds {
				text := in.Value
				if col, err := color.Parse(text); err == nil {
					text = col.CSS()
				}
				note(kind, text)
			}
		}
	}
	for _, path := range byValue {
		if !used[path] {
			out.Unused = append(out.Unused, path)
		}
	}
	slices.SortFunc(out.Unused, cmp.Compare[string])
	return out, nil
}

// nearest is the token whose value is almost another; "" for none.
func nearest(byValue map[string]string, kind, text string) (path string) {
	best := math.Inf(1)
	for key, p := range byValue {
		of, value, _ := strings.Cut(key, "\x00")
		if of != kind {
			continue
		}
		if far, ok := harvest.Almost(kind, text, value); ok && (far < best || far == best && p < path) {
			best, path = far, p
		}
	}
	return path
}

// drawnAs is the kind and the text that a token's value has among values of code; "" for a token that is none of them.
func drawnAs(set *token.Set, t *token.Token, root float64) (kind, text string) {
	text = emit.Drawn(set, t)
	switch t.Type {
	case token.Color:
		return "color", text
	case token.Dimension:
		if use := token.LengthUse(t.Path); use == "space" || use == "radius" {
			return use, inPixels(text, root)
		}
	case token.Shadow:
		return "shadow", text
	}
	return "", ""
}

// inPixels is a length in px.
func inPixels(text string, root float64) string {
	l, err := css.ParseLength(text)
	if err != nil || l.Unit == "" || l.Unit == "%" || l.Unit == "em" {
		return text
	}
	return css.Px(l.Px(css.Units{Rem: root, Em: root}))
}
