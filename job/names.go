package job

import (
	"fmt"

	"archetyp/core/code"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/core/token/harvest"
	"archetyp/workspace"
)

// Names finds tokens and what they are called in CSS; without a workspace, or without tokens, none.
type Names struct {
	*emit.Finder
	ws  *workspace.Workspace
	set *token.Set
}

// Named reads the tokens of a workspace, and which of them the elements of a drawing hold. ws may be nil; shown is the
// drawing's path from the workspace.
func Named(ws *workspace.Workspace, doc *design.Document, shown string) (Names, error) {
	if ws == nil {
		return Names{Finder: emit.NewFinder(nil, nil)}, nil
	}
	lib, err := ws.ReadTokens(nil)
	if err != nil {
		return Names{}, err
	}
	n := Names{ws: ws, set: lib.Base}
	lock, err := ws.ReadLock()
	if err != nil {
		return n, err
	}
	h := newHolder(lock, lib.Base)
	n.Finder = emit.NewFinder(lib.Base, h.of(shown, doc, then(lock, shown, false, doc)))
	n.reach(lib)
	return n, nil
}

// reach has the screens of drawings answered from the contexts that their widths reach: what is drawn 1280 px wide is
// drawn with the tokens of a page that wide.
func (n Names) reach(lib *token.Library) {
	sets := map[string]*token.Set{}
	n.On(func(s *design.Screen) *token.Set {
		in := n.ws.ContextsAt(lib, css.Medium{Width: s.Box.W, Height: s.Box.H})
		if len(in) == 0 {
			return nil
		}
		key := fmt.Sprint(in)
		if sets[key] == nil {
			sets[key] = lib.Set(in)
		}
		return sets[key]
	})
}

// Tokens are the tokens; nil for none.
func (n Names) Tokens() *token.Set { return n.set }

// Code names tokens as CSS does.
func (n Names) Code(e *design.Element, kind, value string) code.Name {
	found := n.Find(e, kind, value)
	if found.Path == "" {
		return code.Name{}
	}
	name := code.Name{Property: n.ws.Config.Property(found.Path), Path: found.Path, Behind: found.Behind}
	if kind == "type" {
		name.LineHeight = n.LineHeight(e, found.Path)
	}
	return name
}

// use names the token of a use of a harvested value, and how the facts print the value.
func (n Names) use(f *harvest.Found, u *harvest.Use) (name emit.Found, shown string) {
	text, family, size, weight, spacing := f.Drawn()
	if f.Kind == "type" {
		text = emit.TypeKey(family, size, weight, spacing)
	}
	return n.Find(u.At, kindOf(f, u), text), text
}

// Held is the token that a use holds while the drawing shows another value.
func (n Names) Held(f *harvest.Found, u *harvest.Use) string {
	if name, _ := n.use(f, u); name.Behind {
		return name.Path
	}
	return ""
}
