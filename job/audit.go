package job

import (
	"cmp"
	"fmt"
	"strconv"

	"archetyp/core/asset"
	"archetyp/core/audit"
	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/paint/picture"
	"archetyp/workspace"
)

// Audit audits what was read: all of a workspace, or one source. ws is nil for a source outside of any.
func Audit(s *Snapshot, ws *workspace.Workspace, together bool) (*audit.Report, error) {
	docs, err := s.Docs()
	if err != nil {
		return nil, err
	}
	in := audit.In{Docs: docs, Harvest: s.Harvest, Together: together, Sets: asset.BuiltIn()}
	if in.Raw, err = rawValues(ws, docs); err != nil {
		return nil, err
	}
	if ws != nil {
		in.Settings = ws.Config.AuditSettings()
		in.Smallest, in.Target = ws.Config.AuditLengths()
		in.Linked = sortedKeys(ws.Config.Components)
	}
	return audit.Run(in), nil
}

// rawValues are the values in style sheets of pages that tokens have.
func rawValues(ws *workspace.Workspace, docs []*design.Document) (out []audit.Raw, err error) {
	for _, d := range docs {
		if d.Styles == nil || ws == nil || len(d.Screens) == 0 {
			continue
		}
		h, err := HarvestSheets(ws, d)
		if err != nil {
			return nil, err
		}
		for _, v := range h.Values {
			token := h.Tokens[v]
			if token == "" {
				continue
			}
			r := audit.Raw{Value: v.Text, Token: token, Use: "var(" + ws.Config.Property(token) + ")"}
			for _, p := range v.Places {
				r.Places = append(r.Places, audit.Place{Source: p.File, Screen: d.Screens[0].Name, Element: p.Property, Selector: p.Selector, Path: p.Selector + " " + p.Property, Line: p.Line, Column: 1})
			}
			out = append(out, r)
		}
	}
	return out, nil
}

// AuditPictures are pictures of the screens of a report with their findings framed, numbered and listed, as PNG by name.
func AuditPictures(r *audit.Report, docs []*design.Document, progress func(stage string, done, of int)) (map[string][]byte, error) {
	pictures := audit.Pictures(r, docs)
	names := map[string]int{}
	files := make([]string, len(pictures))
	for i, p := range pictures {
		name := cmp.Or(design.Slug(p.Screen.Name), "screen")
		if names[name]++; names[name] > 1 {
			name += "-" + strconv.Itoa(names[name])
		}
		files[i] = name + ".png"
	}
	data := make([][]byte, len(pictures))
	err := Progress(progress, "painting", len(pictures), func(i int) error {
		img, err := pictures[i].Paint(1, &font.Set{})
		if err != nil {
			return fmt.Errorf("%s: %w", pictures[i].Screen.Name, err)
		}
		data[i] = picture.PNG(img)
		return nil
	})
	if err != nil {
		return nil, err
	}
	out := map[string][]byte{}
	for i := range files {
		out[files[i]] = data[i]
	}
	return out, nil
}
