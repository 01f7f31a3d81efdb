package job

import (
	"fmt"
	"slices"
	"sort"
	"strings"

	"archetyp/core/hint"
	"archetyp/core/token"
	"archetyp/workspace"
)

// TokenEdit collects edits of token files. Nothing is written before Apply, and that only if the tokens are still
// valid.
type TokenEdit struct {
	Library *token.Library // as it is on disk
	ws      *workspace.Workspace
	editors map[string]*token.Editor
	adds    map[string][]*token.Token // by file: they go in together
}

// EditTokens begins to edit a workspace's tokens.
func EditTokens(ws *workspace.Workspace) (*TokenEdit, error) {
	lib, err := ws.ReadTokens(nil)
	if err != nil {
		return nil, err
	}
	return &TokenEdit{Library: lib, ws: ws, editors: map[string]*token.Editor{}, adds: map[string][]*token.Token{}}, nil
}

func (e *TokenEdit) editor(file string) (*token.Editor, error) {
	if ed := e.editors[file]; ed != nil {
		return ed, nil
	}
	if file == e.ws.Resolver() {
		return nil, &workspace.FileError{File: file, Msg: "the token is written in the resolver itself, which is not edited",
			Hint: "Move it to a token file that the resolver names."}
	}
	data, err := e.ws.ReadFile(file)
	if err != nil && !workspace.Missing(err) {
		return nil, err
	}
	ed, err := token.Edit(data, file)
	if err != nil {
		return nil, err
	}
	e.editors[file] = ed
	return ed, nil
}

// context finds a context by key; "" is where nothing is chosen.
func (e *TokenEdit) context(key string) (token.Context, error) {
	if key == "" {
		return token.Context{Default: true, Set: e.Library.Base}, nil
	}
	c, ok := e.Library.Context(key)
	if ok {
		return c, nil
	}
	var known []string
	for _, c := range e.Library.Contexts {
		known = append(known, c.Key())
	}
	if len(known) == 0 {
		return c, fmt.Errorf("there is no context %q: the workspace has no resolver", key)
	}
	return c, fmt.Errorf("there is no context %q; there are %s", key, strings.Join(known, ", "))
}

// place is the file a token is written to in a context, and whether it stands there already.
func (e *TokenEdit) place(path, context string) (file string, there bool, err error) {
	c, err := e.context(context)
	if err != nil {
		return "", false, err
	}
	t, base := c.Set.Get(path), e.Library.Base.Get(path)
	if c.Default {
		if t != nil && t.File != "" {
			return t.File, true, nil
		}
		file, err = e.near(path)
		return file, false, err
	}
	if file = e.Library.ContextFile(c); file == "" {
		return "", false, &workspace.FileError{File: e.ws.Resolver(),
			Msg: fmt.Sprintf("the context %s has no file of its own",
				c.Key()), Hint: "Give it one as a source, {\"$ref\": \"…tokens.json\"}."}
	}
	if t != nil && (base == nil || t.File != base.File || t.Position() != base.Position()) {
		return t.File, true, nil
	}
	return file, false, nil
}

// near is the file for a new token: that of the tokens it shares the deepest group with, else the first.
func (e *TokenEdit) near(path string) (string, error) {
	best, file := 0, ""
	names := strings.Split(path, ".")
	for _, t := range e.Library.Base.Tokens {
		n := 0
		for i, name := range strings.Split(t.Path, ".") {
			if i == len(names) || names[i] != name {
				break
			}
			n++
		}
		if n > best && t.File != "" && t.File != e.ws.Resolver() && e.ws.UpstreamOf(t.File) == nil {
			best, file = n, t.File
		}
	}
	if file != "" {
		return file, nil
	}
	return e.ws.TokenFile(e.Library)
}

// Set gives a token a value in a context. One that does not stand there yet is added, with its type.
func (e *TokenEdit) Set(t *token.Token, context string) (file string, added bool, err error) {
	file, there, err := e.place(t.Path, context)
	if err != nil {
		return "", false, err
	}
	ed, err := e.editor(file)
	if err != nil {
		return "", false, err
	}
	if !there || !ed.Has(t.Path) {
		if inherited := e.Library.Base.Get(t.Path); context == "" && inherited != nil && inherited.File == file {
			return "", false, &workspace.FileError{File: file, Position: inherited.Position(), Msg: t.Path +
				" comes from a group that is extended", Hint: "Edit it there, or write it into this group by hand."}
		}
		for i, a := range e.adds[file] {
			if a.Path == t.Path {
				e.adds[file][i] = t
				return file, true, nil
			}
		}
		e.adds[file] = append(e.adds[file], t)
		return file, true, nil
	}
	if err := ed.Set(t.Path, t.Value); err != nil {
		return "", false, err
	}
	if err := ed.SetOwn(t.Path, t.Own); err != nil {
		return "", false, err
	}
	if t.Description != "" {
		err = ed.Describe(t.Path, t.Description)
	}
	return file, false, err
}

// add puts the new tokens into their files.
func (e *TokenEdit) add() error {
	for file, list := range e.adds {
		delete(e.adds, file)
		ed, err := e.editor(file)
		if err != nil {
			return err
		}
		if err := ed.Add(list); err != nil {
			return err
		}
	}
	return nil
}

// holders are the files in which a token or group stands.
func (e *TokenEdit) holders(path string) ([]string, error) {
	if err := e.add(); err != nil {
		return nil, err
	}
	files, err := e.ws.TokenFiles()
	if err != nil {
		return nil, err
	}
	var out []string
	for _, f := range files {
		ed, err := e.editor(f)
		if err != nil {
			return nil, err
		}
		if ed.Has(path) {
			out = append(out, f)
		}
	}
	return out, nil
}

// Remove takes a token out of every file, or out of a context's only.
func (e *TokenEdit) Remove(path, context string) ([]string, error) {
	var files []string
	if err := e.add(); err != nil {
		return nil, err
	}
	if context != "" {
		file, there, err := e.place(path, context)
		if err != nil || !there {
			return nil, err
		}
		files = []string{file}
	} else {
		var err error
		if files, err = e.holders(path); err != nil {
			return nil, err
		}
	}
	for _, f := range files {
		ed, err := e.editor(f)
		if err != nil {
			return nil, err
		}
		if err := ed.Remove(path); err != nil {
			return nil, err
		}
	}
	return files, nil
}

// Rename gives a token or group another path in every file, and leads every alias there. It says in which files, and
// how many aliases.
func (e *TokenEdit) Rename(from, to string) (files []string, aliases int, err error) {
	if files, err = e.holders(from); err != nil {
		return nil, 0, err
	}
	typ := token.Type("")
	if t := e.Library.Base.Get(from); t != nil {
		typ = t.Type
	}
	all, err := e.ws.TokenFiles()
	if err != nil {
		return nil, 0, err
	}
	for _, f := range all {
		ed, err := e.editor(f)
		if err != nil {
			return nil, 0, err
		}
		if slices.Contains(files, f) {
			if err := ed.Rename(from, to, typ); err != nil {
				return nil, 0, err
			}
		}
		n, err := ed.Redirect(from, to)
		if err != nil {
			return nil, 0, err
		}
		aliases += n
	}
	return files, aliases, nil
}

// Apply writes the edited files, and other changes with them, as one change; what would no longer be valid is not
// written. It lists the token files that changed.
func (e *TokenEdit) Apply(with *workspace.Change) ([]string, error) {
	change := &workspace.Change{}
	if with != nil {
		change = with
	}
	changed, err := e.Into(change)
	if err != nil {
		return nil, err
	}
	return changed, e.ws.Apply(change)
}

// Into puts the edited files into a change, unless they would no longer be valid. It lists those that differ.
func (e *TokenEdit) Into(change *workspace.Change) ([]string, error) {
	if err := e.add(); err != nil {
		return nil, err
	}
	inHand := map[string][]byte{}
	var changed []string
	for file, ed := range e.editors {
		data, err := ed.Bytes()
		if err != nil {
			return nil, err
		}
		inHand[file] = data
		if change.Put(e.ws, workspace.Tokens, file, data) {
			changed = append(changed, file)
			if u := e.ws.UpstreamOf(file); u != nil {
				return nil, hint.New("the token belongs to "+u.Where(), "\"archetyp tokens set TOKEN VALUE --upstream\" proposes the value there, as a branch.")
			}
		}
	}
	sort.Strings(changed)
	_, err := e.ws.ReadTokens(inHand)
	return changed, err
}

// FixTokens writes values in older forms as the format has them now, and lists the files it changed. Files with faults
// stay as they are.
func FixTokens(ws *workspace.Workspace) ([]string, error) {
	lib, err := ws.LoadTokens(ws.Reader(nil), nil)
	if err != nil {
		return nil, err
	}
	files, err := ws.TokenFiles()
	if err != nil {
		return nil, err
	}
	change := &workspace.Change{}
	inHand := map[string][]byte{}
	for _, f := range files {
		if data, ok := lib.Modern(f); ok {
			change.Put(ws, workspace.Tokens, f, data)
			inHand[f] = data
		}
	}
	if now, err := ws.LoadTokens(ws.Reader(inHand), nil); err != nil || len(now.Faults()) > len(lib.Faults()) {
		return nil, fmt.Errorf("the files would have more faults than before; nothing was written")
	}
	return change.Paths(), ws.Apply(change)
}
