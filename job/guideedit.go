package job

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/hint"
	"archetyp/core/token"
	"archetyp/core/token/absorb"
	"archetyp/core/token/emit"
	"archetyp/workspace"
)

// GuideEdits are the changes that pages of the served guide may ask for, by name. Each reads the JSON of a request.
var GuideEdits = map[string]func(ctx context.Context, ws *workspace.Workspace, request []byte) (any, error){
	"token": editToken, "marks": editMarks, "focus": editFocus,
}

// editToken gives a token a value, as "tokens set" does; without Write it only says what the value would be.
func editToken(_ context.Context, ws *workspace.Workspace, request []byte) (any, error) {
	var q struct {
		Token, Value, Context string
		Write                 bool
	}
	if err := strictly(request, &q); err != nil {
		return nil, err
	}
	lib, err := ws.ReadTokens(nil)
	if err != nil {
		return nil, err
	}
	if lib.Base.Get(q.Token) == nil {
		return nil, fmt.Errorf("there is no token %s", q.Token)
	}
	if _, ok := lib.Context(q.Context); !ok && q.Context != "" {
		return nil, fmt.Errorf("there is no context %s", q.Context)
	}
	if q.Write {
		return SetToken(ws, SetRequest{Token: q.Token, Value: q.Value, Context: q.Context})
	}
	set := contextOf(lib, q.Context)
	old := set.Get(q.Token)
	was, now, err := wouldBe(set, old, q.Value)
	return &SetResult{Token: q.Token, Context: q.Context, Old: was, New: now, Written: []string{}}, err
}

// editMarks gives marks to elements, as "mark" does; without Write it only lists what would be written.
func editMarks(ctx context.Context, ws *workspace.Workspace, request []byte) (any, error) {
	var q struct {
		Source    string
		Selectors []string
		Marks     map[string]string
		Write     bool
	}
	if err := strictly(request, &q); err != nil {
		return nil, err
	}
	if len(q.Selectors) == 0 || len(q.Marks) == 0 {
		return nil, hint.New("there is nothing to mark", "Choose elements, and give them a mark.")
	}
	doc, err := sourceOf(ctx, ws, q.Source)
	if err != nil {
		return nil, err
	}
	var marks [][2]string
	for _, key := range sortedKeys(q.Marks) {
		if err := CheckMark(key); err != nil {
			return nil, err
		}
		if strings.TrimSpace(q.Marks[key]) == "" {
			return nil, fmt.Errorf("%s says nothing", key)
		}
		marks = append(marks, [2]string{key, strings.TrimSpace(q.Marks[key])})
	}
	var list []Marking
	for _, s := range q.Selectors {
		found, err := selected(doc, s)
		if err != nil {
			return nil, err
		}
		list = append(list, Marking{Select: s, Elements: found, Marks: marks})
	}
	if !q.Write {
		return written(q.Source, workspace.ConfigName, list), nil
	}
	return MarkInConfig(ctx, ws, q.Source, list)
}

// editFocus makes an element the focused one.
func editFocus(ctx context.Context, ws *workspace.Workspace, request []byte) (any, error) {
	var f Focus
	if err := strictly(request, &f); err != nil {
		return nil, err
	}
	return f, SetFocus(ctx, ws, f)
}

// strictly reads the JSON of a request; what it does not know is an error.
func strictly(data []byte, into any) error {
	d := json.NewDecoder(bytes.NewReader(data))
	d.DisallowUnknownFields()
	if err := d.Decode(into); err != nil {
		return fmt.Errorf("the request cannot be read: %w", err)
	}
	return nil
}

// wouldBe is a token's value before and after a change that is not written.
func wouldBe(set *token.Set, old *token.Token, value string) (was, now string, err error) {
	if old == nil {
		return "", "", nil
	}
	was = emit.Literal(set, old)
	typ, v, _, err := absorb.Text(set, old.Path, value, old.Type, set.Resolve(old).Value)
	if err != nil {
		return was, "", err
	}
	changed := *old
	changed.Type, changed.Value = typ, v
	if target := set.Get(v.Alias); target != nil {
		return was, emit.Literal(set, set.Resolve(target)), nil
	}
	return was, emit.Literal(set, &changed), nil
}

// sourceOf reads a source of the workspace.
func sourceOf(ctx context.Context, ws *workspace.Workspace, name string) (*design.Document, error) {
	s, err := Read(ctx, ws)
	if err != nil {
		return nil, err
	}
	i := slices.IndexFunc(s.drawings, func(d *drawing) bool { return d.name == name })
	if i < 0 {
		return nil, fmt.Errorf("there is no source %s", name)
	}
	return s.drawings[i].doc()
}

// selected are the elements of a selector, of which there has to be one at least.
func selected(doc *design.Document, selector string) ([]*design.Element, error) {
	sel, err := css.ParseSelector(selector)
	if err != nil {
		return nil, fmt.Errorf("%s is no selector: %w", selector, err)
	}
	found := doc.Query(sel)
	if len(found) == 0 {
		return nil, fmt.Errorf("%s has no element %s", doc.Name, selector)
	}
	return found, nil
}
