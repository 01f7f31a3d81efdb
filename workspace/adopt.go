package workspace

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"archetyp/core/hint"
)

// A pull ends with the workspace, git's index and the branch moving from one commit to another. It goes through these
// steps, and Resume ends what was stopped in between:
//
//	.archetyp/pull.json   says from which commit to which
//	the files of the workspace change, as one write (transaction.go)
//	git's index names the new files; files outside the workspace are checked out
//	the branch moves; the note goes
const pullNote = "pull.json"

type moving struct {
	Old, New string
}

// treeChange is a file that differs between two commits.
type treeChange struct {
	path     string // in the repository
	old, new Blob
}

// changesBetween lists the files that differ.
func (r *Repo) changesBetween(old, new string) ([]treeChange, error) {
	out, err := r.git("diff-tree", "-r", "-z", "--no-renames", "--no-ext-diff", "--full-index", old, new)
	if err != nil {
		return nil, err
	}
	parts := strings.Split(string(out), "\x00")
	var list []treeChange
	for i := 0; i+1 < len(parts); i += 2 {
		f := strings.Fields(strings.TrimPrefix(parts[i], ":"))
		if len(f) != 5 {
			return nil, fmt.Errorf("git diff-tree: %q", parts[i])
		}
		blob := func(mode, object string) Blob {
			if mode == "000000" {
				return Blob{}
			}
			return Blob{mode, object}
		}
		list = append(list, treeChange{parts[i+1], blob(f[0], f[2]), blob(f[1], f[3])})
	}
	return list, nil
}

// plain reports whether a blob is an ordinary file, or none.
func (b Blob) plain() bool { return b.Mode == "" || b.Mode == "100644" || b.Mode == "100755" }

// ours reports whether a change is one of the workspace's own files, which Apply writes.
func (r *Repo) ours(c *treeChange) bool {
	_, in := r.Inside(c.path)
	return in && c.old.plain() && c.new.plain() && (c.old.Mode == c.new.Mode || c.new.Mode == "" || c.old.Mode == "" && c.new.Mode == "100644")
}

// Adopt moves the workspace, the index and the branch from one commit to another. The workspace is as the first one has
// it; other files that would change must be, too.
func (r *Repo) Adopt(old, new string) error {
	if old == new {
		return nil
	}
	list, err := r.changesBetween(old, new)
	if err != nil {
		return err
	}
	if err := r.unobstructed(list); err != nil {
		return err
	}
	change, err := r.change(list)
	if err != nil {
		return err
	}
	note, err := json.Marshal(moving{old, new})
	if err != nil {
		return err
	}
	r.w.Cache(pullNote, note)
	r.w.at("pull noted")
	if err := r.w.Apply(change); err != nil {
		r.w.Cache(pullNote, nil)
		return err
	}
	return r.finish(moving{old, new}, list)
}

// change is what a pull writes into the workspace.
func (r *Repo) change(list []treeChange) (*Change, error) {
	change := &Change{}
	for i := range list {
		c := &list[i]
		if !r.ours(c) {
			continue
		}
		name, _ := r.Inside(c.path)
		if c.new.Object == "" {
			change.Remove(Pulled, name)
			continue
		}
		data, err := r.Contents(c.new)
		if err != nil {
			return nil, err
		}
		change.Put(r.w, Pulled, name, data)
	}
	return change, nil
}

// unobstructed refuses to write over what is in no commit.
func (r *Repo) unobstructed(list []treeChange) error {
	objects, err := r.objects(list)
	if err != nil {
		return err
	}
	for i := range list {
		c := &list[i]
		info, err := os.Lstat(r.onDisk(c.path))
		switch {
		case errors.Is(err, fs.ErrNotExist):
			continue
		case err != nil:
			return err
		case !info.Mode().IsRegular():
			if c.old.plain() {
				return hint.New(c.path+" is no file any more, and the pull would change it", "Nothing was changed. Move it away.")
			}
			continue
		}
		if now := objects[c.path]; now != c.old.Object && now != c.new.Object {
			return hint.New(c.path+" differs from what is committed, and the pull would change it", "Nothing was changed. Commit it, or move it away.")
		}
	}
	return nil
}

// objects are the names that git gives to the contents of ordinary files as they lie on disk, by path in the repository.
func (r *Repo) objects(list []treeChange) (map[string]string, error) {
	var names []string
	for i := range list {
		p := list[i].path
		if info, err := os.Lstat(r.onDisk(p)); err == nil && info.Mode().IsRegular() && !strings.ContainsAny(p, "\n\"") {
			names = append(names, p)
		}
	}
	out := map[string]string{}
	if len(names) == 0 {
		return out, nil
	}
	said, err := r.feedTop([]byte(strings.Join(names, "\n")+"\n"), "hash-object", "--stdin-paths")
	if err != nil {
		return nil, err
	}
	for i, object := range strings.Fields(string(said)) {
		if i < len(names) {
			out[names[i]] = object
		}
	}
	return out, nil
}

// finish does what follows once the files of the workspace are written.
func (r *Repo) finish(m moving, list []treeChange) error {
	r.w.at("pull written")
	var info, checkout bytes.Buffer
	for i := range list {
		c := &list[i]
		if c.new.Object == "" {
			fmt.Fprintf(&info, "0 %040d\t%s\x00", 0, c.path)
		} else {
			fmt.Fprintf(&info, "%s %s\t%s\x00", c.new.Mode, c.new.Object, c.path)
			if !r.ours(c) && c.new.Mode != "160000" {
				checkout.WriteString(c.path + "\x00")
			}
		}
	}
	if err := r.w.locking(func() error {
		_, err := r.feedTop(info.Bytes(), "update-index", "-z", "--index-info")
		return err
	}); err != nil {
		return err
	}
	r.w.at("pull indexed")
	for i := range list {
		if c := &list[i]; !r.ours(c) && c.new.Object == "" {
			name := r.onDisk(c.path)
			if err := os.Remove(name); err != nil && !errors.Is(err, fs.ErrNotExist) {
				return err
			}
			for d := filepath.Dir(name); d != r.top() && os.Remove(d) == nil; d = filepath.Dir(d) {
				continue
			}
		}
	}
	if checkout.Len() > 0 {
		if _, err := r.feedTop(checkout.Bytes(), "checkout-index", "-f", "-z", "--stdin"); err != nil {
			return err
		}
	}
	_ = r.w.locking(func() error { // a help for the next one only
		_, err := r.git("update-index", "-q", "--refresh")
		return err
	})
	if err := r.w.locking(func() error {
		_, err := r.git("update-ref", "-m", "archetyp sync --pull", "HEAD", m.New, m.Old)
		return err
	}); err != nil {
		return err
	}
	r.w.at("pull done")
	r.w.Cache(pullNote, nil)
	return nil
}

// feedTop is feed at the top of the work tree.
func (r *Repo) feedTop(in []byte, args ...string) ([]byte, error) {
	return r.feed(nil, in, append([]string{"-C", r.top()}, args...)...)
}

// Resume ends a pull that was stopped half-way, or forgets it where nothing of it had happened yet. It says whether there
// was one.
func (r *Repo) Resume() (bool, error) {
	r.w.clearScratch()
	r.w.freeLocks()
	data, ok := r.w.Cached(pullNote)
	if !ok || len(data) == 0 {
		return false, nil
	}
	var m moving
	if err := json.Unmarshal(data, &m); err != nil {
		r.w.Cache(pullNote, nil)
		return false, nil
	}
	head := r.Commit("HEAD")
	if head != m.Old && head != m.New { // somebody has gone on by hand
		r.w.Cache(pullNote, nil)
		return true, nil
	}
	list, err := r.changesBetween(m.Old, m.New)
	if err != nil {
		r.w.Cache(pullNote, nil)
		return true, err
	}
	objects, err := r.objects(list)
	if err != nil {
		return true, err
	}
	begun, pending := false, false
	for i := range list {
		c := &list[i]
		if !r.ours(c) {
			continue
		}
		pending = true
		begun = begun || objects[c.path] == c.new.Object // of a file that goes, none
	}
	if pending && !begun && head == m.Old { // the write was taken back, or never began
		r.w.Cache(pullNote, nil)
		return true, nil
	}
	if head == m.New {
		m.Old = m.New
	}
	return true, r.finish(m, list)
}

// clearScratch takes away what stopped commands left behind.
func (w *Workspace) clearScratch() {
	found, err := filepath.Glob(filepath.Join(w.Dir, stateDir, "scratch-*"))
	if err != nil {
		return
	}
	for _, f := range found {
		_ = os.RemoveAll(f)
	}
}
