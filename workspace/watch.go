package workspace

import (
	"context"
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"syscall"
	"time"

	"archetyp/core/hint"

	"github.com/fsnotify/fsnotify"
)

// Editors save in several steps, and people save several files at once: Next returns when nothing has changed for rest,
// at the latest most after the first change.
const (
	rest = 40 * time.Millisecond
	most = 500 * time.Millisecond
)

// Watcher reports which files below a folder change. It skips folders that begin with a dot, in which git and this
// program keep their own, and node_modules.
type Watcher struct {
	Rest time.Duration // how long nothing changes before changes are reported; a short one may see a file half written, and again

	dir   string
	files *fsnotify.Watcher
}

// Watch starts watching a folder. Changes before the first call of Next are kept.
func Watch(dir string) (*Watcher, error) {
	files, err := fsnotify.NewWatcher()
	if err != nil {
		return nil, unwatched(dir, err)
	}
	w := &Watcher{rest, dir, files}
	if err := w.add(dir); err != nil {
		files.Close()
		return nil, unwatched(dir, err)
	}
	return w, nil
}

// unwatched is the error of a folder that cannot be watched.
func unwatched(dir string, err error) error {
	if errors.Is(err, syscall.ENOSPC) || errors.Is(err, syscall.EMFILE) {
		return hint.New(dir+": the system watches no more folders", "Raise fs.inotify.max_user_watches and max_user_instances, or end other watchers.")
	}
	return &FileError{File: dir, Msg: "cannot be watched: " + reason(err)}
}

// Close ends the watching.
func (w *Watcher) Close() { w.files.Close() }

// add watches a folder and all below it. What goes away meanwhile is no error.
func (w *Watcher) add(dir string) error {
	return filepath.WalkDir(dir, func(p string, d fs.DirEntry, err error) error {
		switch {
		case err != nil && p == w.dir:
			return err
		case errors.Is(err, fs.ErrNotExist):
			return nil
		case err != nil: // what may not be read is no source
			return fs.SkipDir
		case !d.IsDir():
			return nil
		case p != w.dir && ours(d.Name()):
			return fs.SkipDir
		}
		if err = w.files.Add(p); errors.Is(err, fs.ErrNotExist) {
			return nil
		}
		return err
	})
}

// ours reports whether a name is that of a program's own file or folder, which is no source.
func ours(name string) bool { return strings.HasPrefix(name, ".") || name == "node_modules" }

// Next waits for changes and returns the paths that changed below the folder, sorted; none if the system dropped events.
// It returns the context's error when that ends.
func (w *Watcher) Next(ctx context.Context) ([]string, error) {
	changed := map[string]bool{} // whether it is new
	var quiet, end <-chan time.Time
	stir := func() {
		quiet = time.After(w.Rest)
		if end == nil {
			end = time.After(most)
		}
	}
	for {
		select {
		case <-ctx.Done():
			return nil, ctx.Err()
		case e := <-w.files.Events:
			if e.Op == fsnotify.Chmod {
				continue
			}
			rel, err := filepath.Rel(w.dir, e.Name)
			if err != nil || ours(filepath.Base(rel)) && rel != "." {
				continue
			}
			if rel == "." {
				if _, err := os.Stat(w.dir); err != nil {
					return nil, &FileError{File: w.dir, Msg: "the folder is gone"}
				}
				continue
			}
			if info, err := os.Lstat(e.Name); err == nil && info.IsDir() {
				if err := w.add(e.Name); err != nil {
					return nil, unwatched(e.Name, err)
				}
			}
			if rel = filepath.ToSlash(rel); !changed[rel] {
				changed[rel] = e.Has(fsnotify.Create)
			}
			stir()
		case err := <-w.files.Errors:
			if !errors.Is(err, fsnotify.ErrEventOverflow) {
				return nil, unwatched(w.dir, err)
			}
			changed = map[string]bool{}
			stir()
		case <-quiet:
			return w.left(changed), nil
		case <-end:
			return w.left(changed), nil
		}
	}
}

// left are the changed paths, without what came and went: editors write beside a file before they replace it.
func (w *Watcher) left(changed map[string]bool) []string {
	for p, isNew := range changed {
		if _, err := os.Lstat(filepath.Join(w.dir, filepath.FromSlash(p))); isNew && errors.Is(err, fs.ErrNotExist) {
			delete(changed, p)
		}
	}
	return sorted(changed)
}
