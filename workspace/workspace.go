// Package workspace is a folder on disk: its configuration and lock, reading that stays inside it, and writes that
// happen as a whole or not at all, one process at a time. docs/safety.md says what is promised.
package workspace

import (
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"sync"
)

// Workspace is an opened workspace. It may be used side by side.
type Workspace struct {
	Dir       string // absolute
	Config    Config
	Raw       []byte     // the configuration's bytes
	Recovered []Recovery // writes of earlier runs that were stopped, and what became of them

	folder  *folder
	files   Files // where its bytes come from; the folder, except in a workspace made by At or Over
	borrows bool  // a guest that reads the caches
	guest   bool  // of another workspace, which owns the folder and the lock
	options Options
	hold    *hold // the lock this process holds; nil for none

	mu        sync.Mutex
	read      map[string]string // path → hash of what was read of it
	protected map[string]string // folded path → what it is; see place.go
	step      func(name string) // called between the steps of a write; for tests
}

// Bare is a workspace in a folder that may have no configuration yet.
func Bare(dir string) (*Workspace, error) {
	abs, err := filepath.Abs(dir)
	if err != nil {
		return nil, err
	}
	f, err := openFolder(abs)
	if err != nil {
		return nil, err
	}
	return &Workspace{Dir: abs, Config: Default(""), folder: f, files: f, read: map[string]string{}}, nil
}

// Find opens the workspace that holds dir: the nearest folder upwards with a configuration. ok is false for none. It
// takes no part in the lock; see Open.
func Find(dir string) (ws *Workspace, ok bool, err error) {
	ws, shown, err := locate(dir)
	if ws == nil || err != nil {
		return nil, false, err
	}
	return ws, true, ws.readConfig(shown)
}

// Open finds a workspace as Find does, and holds its lock until Close. What an earlier run left unfinished is finished
// or taken back first.
func Open(dir string, how How, o Options) (ws *Workspace, ok bool, err error) {
	ws, shown, err := locate(dir)
	if ws == nil || err != nil {
		return nil, false, err
	}
	ws.options = o
	if _, err = ws.Hold(how); err == nil {
		err = ws.readConfig(shown)
	}
	if err != nil {
		ws.Close()
		return nil, false, err
	}
	return ws, true, nil
}

// locate finds the folder of a workspace, and what its configuration is called from dir.
func locate(dir string) (*Workspace, string, error) {
	dir, err := filepath.Abs(dir)
	if err != nil {
		return nil, "", err
	}
	for d := dir; ; d = filepath.Dir(d) {
		if _, err := os.Lstat(filepath.Join(d, ConfigName)); err == nil {
			ws, err := Bare(d)
			if err != nil {
				return nil, "", err
			}
			shown, rerr := filepath.Rel(dir, filepath.Join(d, ConfigName))
			if rerr != nil {
				shown = ConfigName
			}
			return ws, shown, nil
		} else if !errors.Is(err, fs.ErrNotExist) {
			return nil, "", &FileError{File: filepath.Join(d, ConfigName), Msg: reason(err)}
		}
		if d == filepath.Dir(d) {
			return nil, "", nil
		}
	}
}

func (w *Workspace) readConfig(shown string) error {
	raw, err := w.folder.readFile(ConfigName, shown)
	if err != nil {
		return err
	}
	return w.setConfig(raw, shown)
}

// setConfig reads a configuration; shown is its name for messages.
func (w *Workspace) setConfig(raw []byte, shown string) (err error) {
	w.Raw = raw
	if w.Config, err = ParseConfig(raw, shown); err != nil {
		return err
	}
	if w.Config.Name == "" {
		w.Config.Name = filepath.Base(w.Dir)
	}
	return nil
}

// Close gives back the lock and the folder.
func (w *Workspace) Close() {
	if c, ok := w.files.(io.Closer); ok {
		c.Close()
	}
	if w.guest {
		return
	}
	w.letGo()
	w.folder.close()
}

// Path is a workspace path on disk.
func (w *Workspace) Path(rel string) string { return filepath.Join(w.Dir, filepath.FromSlash(rel)) }

// Rel is the path from the workspace of a file on disk, with forward slashes; ok is false for one outside.
func (w *Workspace) Rel(file string) (rel string, ok bool) {
	r, err := filepath.Rel(w.Dir, file)
	if err != nil || !filepath.IsLocal(r) {
		return "", false
	}
	return filepath.ToSlash(r), true
}

// ReadFile reads a file of the workspace, or a source outside of it that the configuration names.
func (w *Workspace) ReadFile(path string) ([]byte, error) {
	if !filepath.IsLocal(filepath.FromSlash(path)) {
		if !w.sourceOutside(path) {
			return nil, &FileError{File: path, Msg: "lies outside the workspace", Hint: "Only sources may, where sources: in " +
				ConfigName + " names them."}
		}
		return ReadFile(w.Path(path), path)
	}
	data, err := w.files.Read(path)
	if err != nil {
		return nil, err
	}
	h := Hash(data)
	w.mu.Lock()
	defer w.mu.Unlock()
	w.read[path] = h
	return data, nil
}

// Exists reports whether something stands at a path of the workspace.
func (w *Workspace) Exists(path string) bool {
	if w.onDisk() {
		_, err := w.folder.stat(path)
		return err == nil
	}
	_, err := w.files.Stamp(path)
	return err == nil
}

// unknownFailure is a fault of the program rather than of its input.
func unknownFailure(what string) error { return fmt.Errorf("%s: this is a fault of archetyp", what) }
