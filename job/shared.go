package job

import (
	"archetyp/core/design"
	"archetyp/core/diff"
	"archetyp/core/hint"
	"archetyp/workspace"
)

// LibraryUse is a library of shared components, and what of it our drawings use.
type LibraryUse struct {
	Name  string
	Where string
	Uses  []diff.Shared
}

// SharedComponents finds the components of libraries in the drawings of a workspace.
func SharedComponents(ws *workspace.Workspace) ([]LibraryUse, []error, error) {
	if len(ws.Config.Shared) == 0 {
		return nil, nil, hint.New("no library of components is configured", "components: upstream: in "+workspace.ConfigName+" says where one is.")
	}
	p, err := newPins(ws)
	if err != nil {
		return nil, nil, err
	}
	if err := p.read(p.sources); err != nil {
		return nil, nil, err
	}
	var ours []*design.Document
	for _, n := range p.sources {
		if d := p.docs[n]; d != nil {
			ours = append(ours, d)
		}
	}
	r, err := plainReader(ws)
	if err != nil {
		return nil, nil, err
	}
	var out []LibraryUse
	for i := range ws.Config.Shared {
		u := &ws.Config.Shared[i]
		files, err := ws.UpstreamFiles(u)
		if err != nil {
			return nil, nil, err
		}
		library := make([]*design.Document, len(files))
		if err := Parallel(len(files), func(i int) (err error) {
			library[i], _, err = r.parse(files[i], false)
			return err
		}); err != nil {
			return nil, nil, err
		}
		out = append(out, LibraryUse{u.Folder(), u.Where(), diff.Library(library, ours)})
	}
	return out, p.Unread, nil
}
