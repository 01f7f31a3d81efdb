package job

import (
	"fmt"

	"archetyp/core/token"
	"archetyp/core/token/absorb"
	"archetyp/core/token/emit"
	"archetyp/workspace"
)

// SetRequest gives a token a value.
type SetRequest struct {
	Token   string
	Value   string     // {another.token}, CSS, or the JSON of the format
	Context string     // where it holds; "" for everywhere
	Type    token.Type // "" for that of the token, else of the value
	About   string     // a description
}

// SetResult is what became of it. Values are as outputs write them.
type SetResult struct {
	Token   string     `json:"token"`
	Context string     `json:"context"`
	Old     string     `json:"old"`
	New     string     `json:"new"`
	Added   bool       `json:"added"`
	File    string     `json:"file"`
	Written []string   `json:"written"`
	Base    *token.Set `json:"-"` // the tokens as they are now, where no context is chosen
}

// SetToken writes a value into the token files.
func SetToken(ws *workspace.Workspace, q SetRequest) (*SetResult, error) {
	e, r, err := setToken(ws, q)
	if err != nil {
		return nil, err
	}
	files, err := e.Apply(nil)
	if err != nil {
		return nil, err
	}
	r.Written = append(r.Written, files...)
	lib, err := ws.ReadTokens(nil)
	if err != nil {
		return nil, err
	}
	set := contextOf(lib, q.Context)
	r.Base, r.New = lib.Base, emit.Literal(set, set.Get(q.Token))
	return r, nil
}

// setToken edits the token files, and writes nothing.
func setToken(ws *workspace.Workspace, q SetRequest) (*TokenEdit, *SetResult, error) {
	e, err := EditTokens(ws)
	if err != nil {
		return nil, nil, err
	}
	set := contextOf(e.Library, q.Context)
	r := &SetResult{Token: q.Token, Context: q.Context, Written: []string{}}
	old, like := set.Get(q.Token), token.Value{}
	if old != nil {
		if q.Type != "" && q.Type != old.Type {
			return nil, nil, fmt.Errorf("%s is a %s; --type cannot make it another", q.Token, old.Type)
		}
		q.Type, r.Old, like = old.Type, emit.Literal(set, old), set.Resolve(old).Value
	}
	typ, v, own, err := absorb.Text(set, q.Token, q.Value, q.Type, like)
	if err != nil {
		return nil, nil, err
	}
	if q.Type != "" && typ != q.Type {
		return nil, nil, fmt.Errorf("%s is a %s, where a %s is wanted", q.Value, typ, q.Type)
	}
	if old != nil && typ == token.Gradient && own.Angle == nil && own.Kind == "" {
		own = old.Own
	}
	r.File, r.Added, err = e.Set(&token.Token{Path: q.Token, Type: typ, Value: v, Own: own, Description: q.About},
		q.Context)
	if err != nil {
		return nil, nil, err
	}
	return e, r, nil
}

// contextOf is the set of a context, or that where none is chosen.
func contextOf(lib *token.Library, context string) *token.Set {
	if c, ok := lib.Context(context); ok {
		return c.Set
	}
	return lib.Base
}
