package job

import (
	"context"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"archetyp/core/design"
	"archetyp/core/hint"
	"archetyp/workspace"
)

// Assets puts the drawings of a folder in the place of the elements that are marked as assets of their names: all of them,
// in every drawing, each in its box. dir is a path of the machine, shown as it was given.
func (a *Applying) Assets(ctx context.Context, source, dir, shown string) error {
	fresh, err := drawingsIn(dir, shown)
	if err != nil {
		return err
	}
	files, err := a.ws.Sources()
	if err != nil {
		return err
	}
	for _, name := range files {
		if source != "" && name != source || ctx.Err() != nil {
			continue
		}
		d, err := a.drawing(name)
		if err != nil {
			return err
		}
		if d.doc.Styles != nil {
			continue
		}
		for _, asset := range sortedKeys(fresh) {
			for k := 0; ; k++ {
				e := markedAs(d.doc, asset, k)
				if e == nil {
					break
				}
				one := AppliedOne{What: asset, Old: "its drawing", New: shown + "/" + asset + ".svg"}
				done, err := a.revised(d).Replace(e, fresh[asset], asset)
				if err != nil {
					if err := a.refuse(name, one, err); err != nil {
						return err
					}
					continue
				}
				one.Elements = done.Elements
				if err := a.take(d, done.Edits, one); err != nil {
					return err
				}
			}
		}
	}
	return ctx.Err()
}

// markedAs is the k-th element that is marked as an asset, drawings that are used counted once; nil for none.
func markedAs(doc *design.Document, asset string, k int) *design.Element {
	seen := map[int]bool{}
	for _, e := range doc.All() {
		if e.Marks.Asset != asset || seen[e.Node.Offset] {
			continue
		}
		seen[e.Node.Offset] = true
		if k == 0 {
			return e
		}
		k--
	}
	return nil
}

// drawingsIn are the SVG files of a folder, by their paths below it without the ending.
func drawingsIn(dir, shown string) (map[string][]byte, error) {
	out := map[string][]byte{}
	err := filepath.WalkDir(dir, func(p string, e fs.DirEntry, err error) error {
		if err != nil || e.IsDir() || !strings.EqualFold(filepath.Ext(p), ".svg") {
			return err
		}
		rel, err := filepath.Rel(dir, p)
		if err != nil {
			return err
		}
		data, err := workspace.ReadFile(p, filepath.ToSlash(filepath.Join(shown, rel)))
		out[strings.TrimSuffix(filepath.ToSlash(rel), filepath.Ext(rel))] = data
		return err
	})
	switch {
	case os.IsNotExist(err):
		return nil, hint.New(shown+": there is no such folder", "It holds a drawing for each asset, such as icons/anchor.svg.")
	case err == nil && len(out) == 0:
		return nil, hint.New(shown+" holds no SVG file", "It holds a drawing for each asset, such as icons/anchor.svg.")
	}
	return out, err
}
