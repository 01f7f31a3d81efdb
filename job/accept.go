package job

import (
	"strings"

	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/core/token/harvest"
	"archetyp/workspace"
)

// Accepted is a token that was written.
type Accepted struct {
	Kind    string `json:"kind"` // added, changed
	Token   string `json:"token"`
	Context string `json:"context,omitempty"`
	Old     string `json:"old,omitempty"`
	New     string `json:"new"`
	File    string `json:"file"`
}

// Accept writes the accepted proposals of a snapshot into the token files, and lists what it wrote.
func Accept(ws *workspace.Workspace, s *Snapshot, accept func(path string) bool, with *workspace.Change) ([]Accepted,
	error) {
	edit, err := EditTokens(ws)
	if err != nil {
		return nil, err
	}
	out := []Accepted{}
	have := s.Tokens.Base
	fresh := s.Harvest.Tokens(accept, have)
	if len(fresh) > 0 {
		file, err := ws.TokenFile(s.Tokens)
		if err != nil {
			return nil, err
		}
		ed, err := edit.editor(file)
		if err != nil {
			return nil, err
		}
		if err := ed.Add(fresh); err != nil {
			return nil, err
		}
		all := token.NewSet(append(append([]*token.Token(nil), have.Tokens...), fresh...))
		for _, t := range fresh {
			out = append(out, Accepted{Kind: "added", Token: t.Path, New: emit.Literal(all, t), File: file})
		}
	}
	set := func(f *harvest.Found, path, context, kind, old string) error {
		t := f.At(path, have)
		file, added, err := edit.Set(t, context)
		if added {
			kind = "added"
		}
		out = append(out, Accepted{kind, path, context, old, f.Text, file})
		return err
	}
	for _, f := range s.Harvest.Found {
		var err error
		switch {
		case f.Changes != "" && accept(f.Changes):
			err = set(f, f.Changes, "", "changed", emit.Literal(have, have.Get(f.Changes)))
		case f.Wide() != "" && accept(f.Wide()):
			context := WideContext(s.Tokens)
			if context == "" {
				continue
			}
			err = set(f, f.Wide(), context, "added", "")
		}
		if err != nil {
			return nil, err
		}
	}
	_, err = edit.Apply(with)
	return out, err
}

// WideContext is the context for wide screens: the last of a modifier named after widths; "" for none.
func WideContext(lib *token.Library) string {
	for _, m := range lib.Modifiers() {
		switch strings.ToLower(m.Name) {
		case "width", "viewport", "screen", "size", "breakpoint":
			if n := len(m.Contexts); n > 1 {
				return m.Name + "." + m.Contexts[n-1]
			}
		}
	}
	return ""
}
