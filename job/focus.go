package job

import (
	"context"
	"encoding/json"
	"strings"

	"archetyp/core/design"
	"archetyp/workspace"
)

// Focus is the focused element, or several by a list of selectors: those whose values an editor offers first. It belongs
// to the person, and is never committed.
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
	return keepFocus(ws, f)
}

// FocusOn makes elements of a source the focused ones.
func FocusOn(ws *workspace.Workspace, source string, found []*design.Element) (Focus, error) {
	var selectors []string
	for _, e := range found {
		selectors = append(selectors, e.Selector())
	}
	f := Focus{Source: source, Selector: strings.Join(selectors, ", ")}
	return f, keepFocus(ws, f)
}

func keepFocus(ws *workspace.Workspace, f Focus) error {
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

// Unfocus forgets the focused element.
func Unfocus(ws *workspace.Workspace) error {
	ws.Cache(focusFile, nil)
	return nil
}
