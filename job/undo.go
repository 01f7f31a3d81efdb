package job

import (
	"encoding/json"
	"fmt"

	"archetyp/core/hint"
	"archetyp/core/markup"
	"archetyp/workspace"
)

// appliedName is the file of the cache that remembers what was written into drawings, the last at the end.
const appliedName = "applied"

// mostApplied is how many writes can be undone.
const mostApplied = 20

// appliedRecord is one write into drawings.
type appliedRecord struct {
	Files []appliedFile `json:"files"`
}

// appliedFile is a drawing before and after a write, and the edits that take it back, the last first.
type appliedFile struct {
	Source string       `json:"source"`
	Was    string       `json:"was"` // hash
	Now    string       `json:"now"` // hash
	Layers [][]undoEdit `json:"layers"`
}

// undoEdit puts back what stood in a place.
type undoEdit struct {
	From int    `json:"from"`
	To   int    `json:"to"`
	With string `json:"with"`
}

func records(ws *workspace.Workspace) (out []appliedRecord) {
	data, ok := ws.Cached(appliedName)
	if !ok || json.Unmarshal(data, &out) != nil {
		return nil
	}
	return out
}

// remember keeps a write before it happens: where it never does, its hashes say so.
func remember(ws *workspace.Workspace, r appliedRecord) error {
	list := append(records(ws), r)
	if n := len(list) - mostApplied; n > 0 {
		list = list[n:]
	}
	return keep(ws, list)
}

func keep(ws *workspace.Workspace, list []appliedRecord) error {
	data, err := json.Marshal(list)
	if err == nil {
		ws.Cache(appliedName, data)
	}
	return err
}

// UndoApplied takes the last write into drawings back, byte for byte, and lists the drawings. A drawing that somebody
// changed since stops it.
func UndoApplied(ws *workspace.Workspace) ([]string, error) {
	list := records(ws)
	for len(list) > 0 {
		last := list[len(list)-1]
		list = list[:len(list)-1]
		change := &workspace.Change{}
		var names []string
		for _, f := range last.Files {
			data, err := ws.ReadFile(f.Source)
			if err != nil {
				return nil, err
			}
			switch workspace.Hash(data) {
			case f.Now:
			case f.Was: // it was stopped before it wrote
				continue
			default:
				return nil, hint.New(f.Source+" was changed since; nothing was undone", "Take the change back by hand, or with git.")
			}
			for i := len(f.Layers) - 1; i >= 0; i-- {
				edits := make([]markup.Edit, len(f.Layers[i]))
				for j, e := range f.Layers[i] {
					edits[j] = markup.Edit{From: e.From, To: e.To, With: e.With}
				}
				if data, err = markup.Rewrite(data, edits); err != nil {
					return nil, fmt.Errorf("%s: what was kept to undo it is damaged: %w", f.Source, err)
				}
			}
			if workspace.Hash(data) != f.Was {
				return nil, fmt.Errorf("%s: what was kept to undo it is damaged", f.Source)
			}
			change.Put(ws, workspace.Drawings, f.Source, data)
			names = append(names, f.Source)
		}
		if len(names) == 0 {
			continue
		}
		if err := ws.Apply(change); err != nil {
			return nil, err
		}
		return names, keep(ws, list)
	}
	return nil, hint.New("nothing was written into drawings that could be undone", "\"archetyp apply\" keeps what it wrote in .archetyp/.")
}
