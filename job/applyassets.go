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
	names := sortedKeys(fresh)
	return a.each(ctx, source, func(d *AppliedDrawing) error {
		for _, asset := range names {
			one := AppliedOne{What: asset, Old: "its drawing", New: shown + "/" + asset + ".svg"}
			for k := 0; ; k++ {
				e := markedAs(d.doc, asset, k)
				if e == nil {
					break
				}
				done, err := a.revised(d).Replace(e, fresh[asset], asset)
				if err != nil {
					if err := a.refuse(d.Source, one, err); err != nil {
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
		return nil
	})
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
