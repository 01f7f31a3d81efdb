package job

import (
	"fmt"
	"path"
	"strings"

	"archetyp/core/asset"
	"archetyp/core/design"
	"archetyp/core/hint"
)

// NewPicture makes a picture of elements. One that is a box is cut to that box and has no shadow, since a rule has that. to
// is the picture's path: its extension says the format, and "@2x" before that the density.
func (a *Answers) NewPicture(found []*design.Element, to string) (*Exported, error) {
	name := strings.TrimSuffix(path.Base(to), path.Ext(to))
	f := ExportForm{Elements: 1}
	if i := strings.LastIndexByte(name, '@'); i > 0 && strings.HasSuffix(name, "x") {
		f.At, name = []string{name[i+1:]}, name[:i]
	}
	f.Out = path.Join(path.Dir(to), name+path.Ext(to))
	sets, err := a.WS.Config.AssetSets()
	if err != nil {
		return nil, err
	}
	set, folder, err := f.Target(sets)
	if err != nil {
		return nil, err
	}
	doc := found[0].Screen.Document
	cuts, err := JoinedCut(found, name)
	if len(found) == 1 {
		cuts, err = CutsOf(doc, found, name)
	}
	if err != nil {
		return nil, err
	}
	files, _, err := (&Export{Set: set, Folder: folder, Of: doc.Name, Look: asset.Look{BorderBox: true}}).Files(cuts)
	if err != nil {
		return nil, err
	}
	if len(files) != 1 {
		return nil, hint.New(fmt.Sprintf("%s would be %d files", to, len(files)), "Name one file.")
	}
	return &files[0], nil
}

// Pictures are the assets that the last sync wrote for the web, by path.
func (a *Answers) Pictures() (out []string) {
	for _, file := range sortedKeys(a.Lock.Outputs) {
		switch path.Ext(file) {
		case ".svg", ".png", ".webp", ".jpg":
			if !strings.HasPrefix(file, a.WS.Config.Guide.To+"/") && !strings.Contains(file, "/res/") && !strings.Contains(file, ".xcassets/") {
				out = append(out, file)
			}
		}
	}
	return out
}
