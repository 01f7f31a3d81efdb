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
	if ws != nil {
		in.Settings = ws.Config.AuditSettings()
		in.Smallest, in.Target = ws.Config.AuditLengths()
		in.Linked = sortedKeys(ws.Config.Components)
	}
	return audit.Run(in), nil
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
