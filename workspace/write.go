package workspace

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"sort"
	"strconv"

	"github.com/cespare/xxhash/v2"
)

// stateDir holds the cache and the journal of an unfinished write; it is never committed.
const stateDir = ".archetyp"

// Hash is the content hash used in the lock: whether a file is as it was. It guards against accidents, not against people
// who want two files to be taken for one.
func Hash(data []byte) string {
	return fmt.Sprintf("%016x-%x", xxhash.Sum64(data), len(data))
}

// WriteFile writes one file as a whole or not at all: beside it first, then moved into place.
func WriteFile(path string, data []byte) error {
	dir := filepath.Dir(path)
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return &FileError{File: dir, Msg: "the folder cannot be made: " + reason(err)}
	}
	tmp, err := os.CreateTemp(dir, ".archetyp-*")
	if err != nil {
		return &FileError{File: path, Msg: "cannot be written: " + reason(err), Hint: "Is the folder read-only?"}
	}
	defer os.Remove(tmp.Name()) // gone already where all went well
	_, err = tmp.Write(data)
	err = errors.Join(err, tmp.Chmod(0o644), tmp.Close())
	if err == nil {
		err = os.Rename(tmp.Name(), path)
	}
	if err != nil {
		return &FileError{File: path, Msg: "cannot be written: " + reason(err)}
	}
	return nil
}

// Change is a set of files to write and remove together, by path from the workspace with forward slashes.
type Change struct {
	Write  map[string][]byte
	Remove []string
}

// Empty says that there is nothing to do.
func (c *Change) Empty() bool { return len(c.Write) == 0 && len(c.Remove) == 0 }

// Put adds a file unless it is there already with these very bytes.
func (c *Change) Put(ws *Workspace, path string, data []byte) {
	if old, err := os.ReadFile(ws.Path(path)); err == nil && bytes.Equal(old, data) {
		return
	}
	if c.Write == nil {
		c.Write = map[string][]byte{}
	}
	c.Write[path] = data
}

// Paths lists what would be written, in order.
func (c *Change) Paths() []string {
	var out []string
	for p := range c.Write {
		out = append(out, p)
	}
	sort.Strings(out)
	return out
}

// Path is a workspace path on disk.
func (w *Workspace) Path(rel string) string { return filepath.Join(w.Dir, filepath.FromSlash(rel)) }

// journal is the plan of a write under way: the new bytes lie in the journal folder under the names given here.
type journal struct {
	Move   map[string]string `json:"move"` // workspace path → file in the journal folder
	Remove []string          `json:"remove"`
}

// Cached is a file of the cache; ok is false where there is none.
func (w *Workspace) Cached(name string) (data []byte, ok bool) {
	data, err := os.ReadFile(filepath.Join(w.Dir, stateDir, name))
	return data, err == nil
}

// Cache keeps a file in the cache. It is a help only: where it cannot be written, the work is done again next time.
func (w *Workspace) Cache(name string, data []byte) {
	if w.stateFolder("") == nil {
		_ = WriteFile(filepath.Join(w.Dir, stateDir, name), data)
	}
}

// stateFolder makes a folder for the program's own files, which git is told to pass over.
func (w *Workspace) stateFolder(name string) error {
	if err := os.MkdirAll(filepath.Join(w.Dir, stateDir, name), 0o755); err != nil {
		return err
	}
	ignore := filepath.Join(w.Dir, stateDir, ".gitignore")
	if _, err := os.Stat(ignore); errors.Is(err, fs.ErrNotExist) {
		return os.WriteFile(ignore, []byte("*\n"), 0o644)
	}
	return nil
}

func (w *Workspace) journalDir() string { return filepath.Join(w.Dir, stateDir, "journal") }

// Apply does a change as a whole: all new bytes are put into the journal folder first; once the plan lies there too,
// the change will be finished, if need be by the next run (see Repair).
func (w *Workspace) Apply(c *Change) error {
	if c.Empty() {
		return nil
	}
	dir := w.journalDir()
	fail := func(what string, err error) error {
		os.RemoveAll(dir)
		return &FileError{File: what, Msg: "cannot be written: " + reason(err), Hint: "Nothing was changed. Is the folder read-only, or the disk full?"}
	}
	if err := w.writable(c); err != nil {
		return err
	}
	if err := w.stateFolder("journal"); err != nil {
		return fail(dir, err)
	}
	j := journal{Move: map[string]string{}, Remove: c.Remove}
	for i, p := range c.Paths() { // one after the other: a folder takes no two new files at once
		name := strconv.Itoa(i)
		if err := os.WriteFile(filepath.Join(dir, name), c.Write[p], 0o644); err != nil {
			return fail(p, err)
		}
		j.Move[p] = name
	}
	plan, err := json.Marshal(j)
	if err != nil {
		return fail("journal", err)
	}
	if err := WriteFile(filepath.Join(dir, "plan.json"), plan); err != nil {
		return fail("journal", err)
	}
	return w.finish(&j)
}

// writable tries every folder before anything is changed.
func (w *Workspace) writable(c *Change) error {
	tried := map[string]bool{}
	for _, p := range c.Paths() {
		path := w.Path(p)
		if info, err := os.Stat(path); err == nil && info.IsDir() {
			return &FileError{File: p, Msg: "a folder stands where a file is to be written", Hint: "Nothing was changed. Move the folder away."}
		}
		dir := filepath.Dir(path)
		if tried[dir] {
			continue
		}
		tried[dir] = true
		err := os.MkdirAll(dir, 0o755)
		if err == nil {
			var f *os.File
			if f, err = os.CreateTemp(dir, ".archetyp-*"); err == nil {
				f.Close()
				os.Remove(f.Name())
			}
		}
		if err != nil {
			return &FileError{File: p, Msg: "cannot be written: " + reason(err), Hint: "Nothing was changed. Make the folder writable and run it again."}
		}
	}
	return nil
}

// finish moves what the plan says into place. It can be run again after a stop at any point.
func (w *Workspace) finish(j *journal) error {
	dir := w.journalDir()
	var paths []string
	for p := range j.Move {
		paths = append(paths, p)
	}
	sort.Strings(paths)
	made := map[string]bool{}
	for _, p := range paths {
		to := w.Path(p)
		if folder := filepath.Dir(to); !made[folder] {
			made[folder] = true
			if err := os.MkdirAll(folder, 0o755); err != nil {
				return &FileError{File: p, Msg: "cannot be written: " + reason(err), Hint: "The next run will finish the write."}
			}
		}
		err := os.Rename(filepath.Join(dir, j.Move[p]), to)
		if err != nil && !errors.Is(err, fs.ErrNotExist) { // not there: moved before the stop
			return &FileError{File: p, Msg: "cannot be written: " + reason(err), Hint: "The next run will finish the write."}
		}
	}
	for _, p := range j.Remove {
		if err := os.Remove(w.Path(p)); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return &FileError{File: p, Msg: "cannot be removed: " + reason(err)}
		}
		os.Remove(filepath.Dir(w.Path(p))) // only goes where it is empty now
	}
	return os.RemoveAll(dir)
}

// Repair finishes or takes back a write that was stopped. It says whether there was one.
func (w *Workspace) Repair() (bool, error) {
	dir := w.journalDir()
	if _, err := os.Stat(dir); err != nil {
		return false, nil
	}
	data, err := os.ReadFile(filepath.Join(dir, "plan.json"))
	if err != nil { // stopped before the plan: nothing was touched
		return true, os.RemoveAll(dir)
	}
	var j journal
	if err := json.Unmarshal(data, &j); err != nil {
		return true, os.RemoveAll(dir)
	}
	for p := range j.Move {
		if !filepath.IsLocal(filepath.FromSlash(p)) {
			return true, &FileError{File: stateDir + "/journal/plan.json", Msg: "the journal leads out of the workspace", Hint: "Remove the folder " + stateDir + "/journal."}
		}
	}
	return true, w.finish(&j)
}
