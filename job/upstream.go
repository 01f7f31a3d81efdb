package job

import (
	"context"
	"fmt"
	"path"
	"slices"
	"strings"

	"archetyp/core/hint"
	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/site"
	"archetyp/workspace"
)

// UpstreamState is an upstream, what was taken from it, and what is there now.
type UpstreamState struct {
	workspace.Upstream
	What    string // tokens or components
	Taken   workspace.Taken
	Have    bool            // something was taken
	Now     workspace.Taken // once it was asked
	Asked   bool
	Changes []token.Change // of tokens, from what was taken to what is there
	Libs    [2]*token.Library
	Files   []string // that differ, came or went
}

// Newer reports whether what is there now is not what was taken.
func (u *UpstreamState) Newer() bool {
	return u.Asked && (!u.Have || u.Now.Commit != u.Taken.Commit || len(u.Files) > 0)
}

// Upstreams lists the upstreams of a workspace, those of tokens first.
func Upstreams(ws *workspace.Workspace) (out []UpstreamState, err error) {
	for _, of := range []struct {
		what string
		list []workspace.Upstream
	}{{"tokens", ws.Config.Tokens.Upstream}, {"components", ws.Config.Shared}} {
		for _, u := range of.list {
			s := UpstreamState{Upstream: u, What: of.what}
			if s.Taken, s.Have, err = ws.Taken(&u); err != nil {
				return nil, err
			}
			out = append(out, s)
		}
	}
	return out, nil
}

// AskUpstreams looks what is upstream now, of those with some names or of all; with write it takes that over.
func AskUpstreams(ctx context.Context, ws *workspace.Workspace, names []string, write bool) ([]UpstreamState, error) {
	list, err := Upstreams(ws)
	if err != nil {
		return nil, err
	}
	if len(list) == 0 {
		return nil, hint.New("nothing lies upstream of this workspace", "tokens: upstream: in "+workspace.ConfigName+" says where tokens come from.")
	}
	for _, n := range names {
		if !slices.ContainsFunc(list, func(u UpstreamState) bool { return u.Folder() == n }) {
			return nil, hint.New(fmt.Sprintf("there is no upstream %q", n), "\"archetyp tokens upstream\" lists them.")
		}
	}
	change := &workspace.Change{}
	var out []UpstreamState
	buffers := map[string][]byte{}
	for _, u := range list {
		if len(names) > 0 && !slices.Contains(names, u.Folder()) {
			continue
		}
		files, err := askUpstream(ctx, ws, &u)
		if err != nil {
			return nil, err
		}
		one, err := ws.Take(&u.Upstream, u.Now, files)
		if err != nil {
			return nil, err
		}
		for _, p := range one.Paths() {
			buffers[p] = one.Data(p)
		}
		if u.Newer() || !u.Have {
			one.Into(change)
		}
		out = append(out, u)
	}
	if err := tokenChanges(ws, out, buffers); err != nil {
		return nil, err
	}
	if write {
		return out, ws.Apply(change)
	}
	return out, nil
}

// askUpstream reads what is upstream now.
func askUpstream(ctx context.Context, ws *workspace.Workspace, u *UpstreamState) (files map[string][]byte, err error) {
	if u.URL == "" {
		u.Now, files, err = ws.FetchUpstream(ctx, &u.Upstream)
	} else {
		u.Now, files, err = download(ctx, &u.Upstream)
	}
	if err != nil {
		return nil, err
	}
	u.Asked = true
	for _, p := range sortedKeys(u.Now.Files) {
		if u.Taken.Files[p] != u.Now.Files[p] {
			u.Files = append(u.Files, p)
		}
	}
	for _, p := range sortedKeys(u.Taken.Files) {
		if u.Now.Files[p] == "" {
			u.Files = append(u.Files, p)
		}
	}
	return files, nil
}

// download reads a file from its address.
func download(ctx context.Context, u *workspace.Upstream) (t workspace.Taken, files map[string][]byte, err error) {
	client, err := site.New(u.URL, site.Options{})
	if err != nil {
		return t, nil, err
	}
	a, err := client.Get(ctx, u.URL, nil)
	if err != nil {
		return t, nil, err
	}
	if a.Status != 200 {
		return t, nil, hint.New(fmt.Sprintf("%s answers with status %d", u.URL, a.Status), "Is the address right?")
	}
	name, _, _ := strings.Cut(path.Base(u.URL), "?")
	if !strings.HasSuffix(name, ".json") {
		name = u.Folder() + ".tokens.json"
	}
	t = workspace.Taken{From: u.URL, Files: map[string]string{}}
	files = map[string][]byte{name: a.Data}
	t.Seal(files)
	return t, files, nil
}

// tokenChanges compares the tokens as they are with how they would be.
func tokenChanges(ws *workspace.Workspace, list []UpstreamState, buffers map[string][]byte) error {
	if !slices.ContainsFunc(list, func(u UpstreamState) bool { return u.What == "tokens" }) {
		return nil
	}
	over, err := ws.Over(buffers)
	if err != nil {
		return err
	}
	after, err := over.ReadTokens(nil)
	if err != nil {
		return fmt.Errorf("what is upstream now cannot be used: %w", err)
	}
	before, err := ws.ReadTokens(nil)
	if err != nil { // nothing was taken yet, or it was edited here
		before = token.Plain(token.Resolve())
	}
	changes := token.Compare(before, after)
	for i := range list {
		u := &list[i]
		u.Libs = [2]*token.Library{before, after}
		for _, c := range changes {
			t := after.Base.Get(c.Path)
			if t == nil {
				t = before.Base.Get(c.Path)
			}
			if t != nil && strings.HasPrefix(t.File, u.Place()+"/") {
				u.Changes = append(u.Changes, c)
			}
		}
	}
	return nil
}

// ProposeToken makes a branch upstream in which a token of theirs has another value. It gives the branch, and what would
// be.
func ProposeToken(ctx context.Context, ws *workspace.Workspace, q SetRequest, branch string) (*SetResult, string, error) {
	e, r, err := setToken(ws, q)
	if err != nil {
		return nil, "", err
	}
	u := ws.UpstreamOf(r.File)
	if u == nil {
		return nil, "", hint.New(q.Token+" is the workspace's own", "Leave --upstream out.")
	}
	if err := e.add(); err != nil {
		return nil, "", err
	}
	data, err := e.editors[r.File].Bytes()
	if err != nil {
		return nil, "", err
	}
	lib, err := ws.ReadTokens(map[string][]byte{r.File: data})
	if err != nil {
		return nil, "", err
	}
	set := contextOf(lib, q.Context)
	r.Base, r.New = lib.Base, emit.Literal(set, set.Get(q.Token))
	if branch == "" {
		branch = "archetyp/" + strings.Trim(strings.Map(func(c rune) rune {
			if c == '.' || c == '/' || c == ' ' {
				return '-'
			}
			return c
		}, q.Token), "-")
	}
	there := strings.TrimPrefix(r.File, u.Place()+"/")
	message := fmt.Sprintf("%s: %s", q.Token, q.Value)
	if r.Old != "" {
		message = fmt.Sprintf("%s: %s instead of %s", q.Token, q.Value, r.Old)
	}
	if q.About != "" {
		message += "\n\n" + q.About
	}
	err = ws.Propose(ctx, u, branch, message, workspace.Edit{there: data})
	return r, branch, err
}
