package job

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"archetyp/core/hint"
	"archetyp/core/token"
	"archetyp/workspace"
)

// Known is a token of a library, in whatever context it is. The error for one that is not there names the nearest.
func Known(lib *token.Library, path string) (*token.Token, error) {
	if t := lib.Base.Get(path); t != nil {
		return t, nil
	}
	for _, c := range lib.Contexts {
		if t := c.Set.Get(path); t != nil {
			return t, nil
		}
	}
	var paths []string // of tokens and groups
	seen := map[string]bool{}
	for _, t := range lib.Base.Tokens {
		paths = append(paths, t.Path)
		for i, c := range t.Path {
			if group := t.Path[:i]; c == '.' && !seen[group] {
				seen[group] = true
				paths = append(paths, group)
			}
		}
	}
	what := "\"archetyp tokens list\" lists them."
	if n := hint.Nearest(path, paths); n != "" {
		what = fmt.Sprintf("Did you mean %q?", n)
	}
	return nil, hint.New(fmt.Sprintf("there is no token %q", path), what)
}

// RemoveToken removes a token from every file it stands in. One that other tokens lead to is kept, and one whose value
// drawings have unless force says so. It lists the files that changed.
func RemoveToken(ws *workspace.Workspace, path string, force bool) ([]string, error) {
	e, err := EditTokens(ws)
	if err != nil {
		return nil, err
	}
	if _, err := Known(e.Library, path); err != nil {
		return nil, err
	}
	lock, err := ws.ReadLock()
	if err != nil {
		return nil, err
	}
	if err := unused(e.Library, path, lock, force); err != nil {
		return nil, err
	}
	files, err := e.Remove(path, "")
	if err != nil {
		return nil, err
	}
	_, err = e.Apply(nil)
	return files, err
}

// unused refuses to lose a token that is used.
func unused(lib *token.Library, path string, lock *workspace.Lock, force bool) error {
	var users []string
	for _, t := range lib.Base.Users()[path] {
		users = append(users, t.Path)
	}
	for _, c := range lib.Contexts {
		for _, t := range c.Set.Users()[path] {
			users = append(users, t.Path)
		}
	}
	slices.Sort(users)
	users = slices.Compact(users)
	if n := len(users); n > 0 {
		those, list := "those tokens", strings.Join(users, ", ")
		if n == 1 {
			those = "that token"
		}
		if n > 4 {
			list = fmt.Sprintf("%s and %d more", strings.Join(users[:4], ", "), n-4)
		}
		return hint.New(fmt.Sprintf("%s is used: %s", path, list),
			"Point "+those+" elsewhere first, with \"archetyp tokens set\".")
	}
	if n := len(lock.TokensNow()[path].Uses); n > 0 && !force {
		have := fmt.Sprintf("%d elements in the drawings have", n)
		if n == 1 {
			have = "1 element in the drawings has"
		}
		return hint.New(fmt.Sprintf("%s is used: %s its value", path, have),
			"\"archetyp tokens where "+path+"\" lists them; --force removes it all the same.")
	}
	return nil
}

// Renamed is what the renaming of a token or a group changed.
type Renamed struct {
	Tokens     map[string]string // old paths and new ones
	TokenFiles []string
	Aliases    int      // that led there
	Also       []string // other files that name the tokens: configuration and drawings
	Code       []CodeUse
	Written    []string
}

// RenameToken gives a token, or all below a group, another path, everywhere: in the token files, the lock, the
// configuration, drawings, and in the code below a folder where one is given.
func RenameToken(ws *workspace.Workspace, from, to, code string) (*Renamed, error) {
	r, change, err := PlanRename(ws, from, to, code)
	if err != nil {
		return nil, err
	}
	return r, ws.Apply(change)
}

// PlanRename is RenameToken without the writing.
func PlanRename(ws *workspace.Workspace, from, to, code string) (*Renamed, *workspace.Change, error) {
	e, err := EditTokens(ws)
	if err != nil {
		return nil, nil, err
	}
	r, change := &Renamed{Tokens: Renamings(e.Library.Base, from, to)}, &workspace.Change{}
	if len(r.Tokens) == 0 {
		if _, err := Known(e.Library, from); err != nil {
			return nil, nil, err
		}
	}
	if r.TokenFiles, r.Aliases, err = e.Rename(from, to); err != nil {
		return nil, nil, err
	}
	if code != "" {
		if r.Code, err = RenameInCode(ws, change, code, r.Tokens, e.Library.Base); err != nil {
			return nil, nil, err
		}
	}
	if r.Also, err = RenameEverywhere(ws, change, from, to, r.Tokens); err != nil {
		return nil, nil, err
	}
	written, err := e.Into(change)
	r.Written = append(written, r.Also...)
	return r, change, err
}

// FollowRename brings what follows from the sources in step with a renaming that was written into them already, as by an
// editor.
func FollowRename(ctx context.Context, ws *workspace.Workspace, renamed map[string]string) (*Report, error) {
	lock, err := ws.ReadLock()
	if err != nil {
		return nil, err
	}
	if len(lock.Tokens) > 0 {
		lock.Rename(renamed)
		data, err := lock.JSON()
		if err != nil {
			return nil, err
		}
		c := &workspace.Change{}
		c.Put(ws, workspace.Memory, workspace.LockName, data)
		if err := ws.Apply(c); err != nil {
			return nil, err
		}
	}
	return Run(ctx, ws, Options{})
}
