package editor

import (
	"bytes"
	"context"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"strings"

	"archetyp/core/hint"
	"archetyp/core/token/emit"
	"archetyp/job"
	"archetyp/workspace"
)

// renaming is a renaming of tokens whose edits the client has, and that ends when they are saved.
type renaming struct {
	from, to string
	tokens   map[string]string // old paths and new ones
	files    map[string][]byte // what is to lie on disk then, by file
}

func readFile(file string) ([]byte, error) { return os.ReadFile(file) }

// prepareRename says whether a token can be renamed where the caret stands.
func prepareRename(ctx context.Context, c *call, p *documentPosition) (any, error) {
	o := c.open(ctx, p.TextDocument.URI)
	if o == nil {
		return nil, nil
	}
	t := o.target(o.text.offset(p.Position, c.client.encoding))
	if t.token == "" || t.raw {
		return nil, nil
	}
	from, to := t.from, t.to
	if o.code == nil {
		from, to = o.inner(from, to)
	}
	return map[string]any{"range": o.text.span(from, to, c.client.encoding), "placeholder": o.called(t.token)}, nil
}

// inner leaves out the quotes or braces around bytes.
func (o *openFile) inner(from, to int) (int, int) {
	for from < to && strings.IndexByte(`"{`, o.text.string[from]) >= 0 {
		from++
	}
	for from < to && strings.IndexByte(`"}`, o.text.string[to-1]) >= 0 {
		to--
	}
	return from, to
}

// called is a token's name as the document writes it.
func (o *openFile) called(path string) string {
	if o.code == nil {
		return path
	}
	return o.a.WS.Config.Property(path)
}

var tokenPath = regexp.MustCompile(`^[^\s.${}"]+(\.[^\s.${}"]+)*$`)

// rename gives a token another name everywhere, as one edit. What follows from the sources is brought in step when the
// edit is saved.
func rename(ctx context.Context, c *call, p *struct {
	documentPosition
	NewName string `json:"newName"`
}) (any, error) {
	o := c.open(ctx, p.TextDocument.URI)
	if o == nil {
		return nil, nil
	}
	t := o.target(o.text.offset(p.Position, c.client.encoding))
	if t.token == "" || t.raw {
		return nil, hint.New("there is no token here to rename", "Put the caret on its name.")
	}
	to, err := o.newPath(t.token, strings.TrimSpace(p.NewName))
	if err != nil || to == t.token {
		return nil, err
	}
	disk, ok, err := workspace.Find(o.sp.dir)
	if err != nil || !ok {
		return nil, err
	}
	defer disk.Close()
	ws, err := disk.Over(c.allBuffers(o.sp))
	if err != nil {
		return nil, err
	}
	r, change, err := job.PlanRename(ws, t.token, to, o.sp.dir)
	if err != nil {
		return nil, err
	}
	pending := &renaming{from: t.token, to: to, tokens: r.Tokens, files: map[string][]byte{}}
	edits := map[string][]textEdit{}
	for _, rel := range change.Paths() {
		if rel == workspace.LockName { // follows with the sync
			continue
		}
		file := filepath.Join(o.sp.dir, filepath.FromSlash(rel))
		old := c.textOf(file)
		if old == nil {
			return nil, fmt.Errorf("%s cannot be read", rel)
		}
		now := change.Data(rel)
		pending.files[file] = now
		uri := uriOf(file)
		for _, d := range c.docs {
			if d.file == file {
				uri = d.uri
			}
		}
		edits[uri] = differences(old, string(now), c.client.encoding)
	}
	o.sp.mu.Lock()
	o.sp.renaming = pending
	o.sp.mu.Unlock()
	return c.edits(edits), nil
}

// newPath is the path that a new name means: a path, or a custom property whose group is that of the old one.
func (o *openFile) newPath(old, name string) (string, error) {
	if !strings.HasPrefix(name, "--") {
		if !tokenPath.MatchString(name) {
			return "", hint.New(fmt.Sprintf("%q is no name of a token", name), "Names are joined with dots, as in "+old+".")
		}
		if name != old && o.a.Desk.Library.Base.Get(name) != nil {
			return "", fmt.Errorf("there is a token %s already", name)
		}
		return name, nil
	}
	if o.a.Desk.Named(name) != nil && name != o.called(old) {
		return "", fmt.Errorf("there is a token %s already", name)
	}
	// The names of the old path that the new property begins with stay as they are.
	prefix := strings.TrimSuffix(o.called(old), strings.TrimPrefix(emit.Property(old, ""), "--"))
	rest := strings.TrimPrefix(name, prefix)
	if prefix == "" || rest == name && prefix != "--" {
		rest = strings.TrimPrefix(name, "--")
	}
	var path []string
	names := strings.Split(old, ".")
	for _, n := range names[:len(names)-1] {
		property := strings.TrimPrefix(emit.Property(n, ""), "--")
		more, ok := strings.CutPrefix(rest, property+"-")
		if !ok {
			break
		}
		path, rest = append(path, n), more
	}
	if rest == "" {
		return "", hint.New(name+" leaves no name for the token", "")
	}
	if len(path) == 0 && strings.Contains(rest, "-") { // another group
		group, more, _ := strings.Cut(rest, "-")
		path, rest = []string{group}, more
	}
	return strings.Join(append(path, rest), "."), nil
}

// allBuffers are all open texts of a workspace, code among them.
func (c *call) allBuffers(sp *space) map[string][]byte {
	out := map[string][]byte{}
	for _, d := range c.docs {
		if rel, ok := sp.rel(d.file); ok && d.file != "" {
			out[rel] = []byte(d.text.string)
		}
	}
	return out
}

// differences are the edits that make one text another: line by line where it has as many lines, else of all between
// what is the same at both ends.
func differences(old *text, now string, e encoding) (out []textEdit) {
	was, is := strings.SplitAfter(old.string, "\n"), strings.SplitAfter(now, "\n")
	if len(was) != len(is) {
		return []textEdit{between(old, 0, old.string, now, e)}
	}
	at := 0
	for i := range was {
		if was[i] != is[i] {
			out = append(out, between(old, at, was[i], is[i], e))
		}
		at += len(was[i])
	}
	return out
}

// between is the edit that makes a part of a text another: what differs of it, in whole characters.
func between(t *text, at int, was, is string, e encoding) textEdit {
	head := 0
	for head < len(was) && head < len(is) && was[head] == is[head] {
		head++
	}
	for head > 0 && head < len(was) && was[head]&0xC0 == 0x80 {
		head--
	}
	tail := 0
	for tail < len(was)-head && tail < len(is)-head && was[len(was)-1-tail] == is[len(is)-1-tail] {
		tail++
	}
	for tail > 0 && was[len(was)-tail]&0xC0 == 0x80 {
		tail--
	}
	return textEdit{t.span(at+head, at+len(was)-tail, e), is[head : len(is)-tail]}
}

// finishRename brings in step what follows from a renaming, once all its edits are saved.
func (sp *space) finishRename() {
	sp.mu.Lock()
	r := sp.renaming
	sp.mu.Unlock()
	if r == nil {
		return
	}
	for file, want := range r.files {
		if data, err := os.ReadFile(file); err != nil || !bytes.Equal(data, want) {
			return // not yet
		}
	}
	sp.mu.Lock()
	mine := sp.renaming == r
	if mine {
		sp.renaming = nil
	}
	sp.mu.Unlock()
	if !mine {
		return
	}
	ws, ok, err := workspace.Open(sp.dir, workspace.Writing, workspace.Options{Command: "editor"})
	if err == nil && ok {
		defer ws.Close()
		_, err = job.FollowRename(sp.s.ctx, ws, r.tokens)
	}
	if err != nil {
		sp.s.message(messageWarning, fmt.Sprintf("%s was renamed, but sync stopped: %v", r.from, err))
		return
	}
	sp.s.message(messageInfo, fmt.Sprintf("%s is %s; everything is in step", r.from, r.to))
	sp.stale()
}
