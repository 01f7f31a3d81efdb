package job

import (
	"context"
	"encoding/json"

	"archetyp/workspace"
)

// Focus is the focused element: the one whose values an editor offers first. It belongs to the person, and is never
// committed.
type Focus struct {
	Source   string `json:"source"`
	Selector string `json:"selector"`
}

// focusFile keeps it.
const focusFile = "focus.json"

// SetFocus makes an element of a source the focused one.
func SetFocus(ctx context.Context, ws *workspace.Workspace, f Focus) error {
	doc, err := sourceOf(ctx, ws, f.Source)
	if err != nil {
		return err
	}
	if _, err := selected(doc, f.Selector); err != nil {
		return err
	}
	data, err := json.Marshal(f)
	if err == nil {
		ws.Cache(focusFile, data)
	}
	return err
}

// Focused is the focused element; ok is false for none.
func Focused(ws *workspace.Workspace) (f Focus, ok bool) {
	data, ok := ws.Cached(focusFile)
	return f, ok && json.Unmarshal(data, &f) == nil
}
