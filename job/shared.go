package job

import (
	"archetyp/core/design"
	"archetyp/core/diff"
	"archetyp/core/guide"
	"archetyp/core/hint"
	"archetyp/workspace"
)

// LibraryUse is a library of shared components, and what of it our drawings use.
type LibraryUse struct {
	Name  string
	Where string
	Uses  []diff.Shared
}

// shared are the components of libraries as the guide lists them.
func (s *Snapshot) shared() ([]guide.Shared, error) {
	if len(s.ws.Config.Shared) == 0 {
		return nil, nil
	}
	list, err := sharedIn(s.ws, s.pins())
	if err != nil {
		return nil, err
	}
	var out []guide.Shared
	for _, l := range list {
		at := map[string]int{}
		for i := range l.Uses {
			u := &l.Uses[i]
			name := u.Theirs.Marks.Component
			k, known := at[name]
			if !known {
				k = len(out)
				at[name] = k
				out = append(out, guide.Shared{Name: name, Library: l.Name, Where: l.Where})
			}
			out[k].Uses++
			if d := u.Difference(); d != "" {
				out[k].Differ = append(out[k].Differ, title(u.Ours)+" on "+u.Ours.Screen.Name+": "+d)
			}
		}
	}
	return out, nil
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
	list, err := sharedIn(ws, p)
	return list, p.Unread, err
}

// sharedIn is SharedComponents with the drawings at hand.
func sharedIn(ws *workspace.Workspace, p *pins) ([]LibraryUse, error) {
	if err := p.read(p.sources); err != nil {
		return nil, err
	}
	var ours []*design.Document
	for _, n := range p.sources {
		if d := p.docs[n]; d != nil {
			ours = append(ours, d)
		}
	}
	r, err := plainReader(ws)
	if err != nil {
		return nil, err
	}
	var out []LibraryUse
	for i := range ws.Config.Shared {
		u := &ws.Config.Shared[i]
		files, err := ws.UpstreamFiles(u)
		if err != nil {
			return nil, err
		}
		library := make([]*design.Document, len(files))
		if err := Parallel(len(files), func(i int) (err error) {
			library[i], _, err = r.parse(files[i], false)
			return err
		}); err != nil {
			return nil, err
		}
		out = append(out, LibraryUse{u.Folder(), u.Where(), diff.Library(library, ours)})
	}
	return out, nil
}
