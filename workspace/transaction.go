package workspace

import (
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"path"
	"path/filepath"
	"runtime"
	"slices"
	"strconv"
	"strings"
)

// A write goes through these steps, and every run that finds one of them half done knows what to do (see recover.go):
//
//	.archetyp/writes/7.new/   the new bytes, and a plan: paths, and the hashes of what stands there and will stand there
//	.archetyp/writes/7/       the plan is whole and on the disk: from here on the change happens
//	                          each file that stands there is kept in the journal as N.old, then replaced by a rename
//	.archetyp/writes/7.done/  all of it happened; the journal goes
const writesDir = stateDir + "/writes"

// planName is the file of the plan in a journal; all others are called N.new and N.old.
const planName = "plan.json"

// planVersion changes when the plan's form does.
const planVersion = 1

// plan is what a write is going to do.
type plan struct {
	Version int       `json:"version"`
	Command string    `json:"command"`
	Files   []planned `json:"files"`
	Folders []string  `json:"folders,omitempty"` // made for it, outermost first
}

// planned is one file of a write. Paths hold no links; N.new and N.old go by the index in the plan.
type planned struct {
	Path   string      `json:"path"`
	Kind   Kind        `json:"kind"`
	Before string      `json:"before"` // hash of what stood there; "-" for nothing
	After  string      `json:"after"`  // of what will; "-" for nothing
	Mode   fs.FileMode `json:"mode,omitempty"`
}

// write is a write under way or found half done.
type write struct {
	ws    *Workspace
	dir   string // of the journal, while it happens
	fresh bool   // this process began it, a moment ago
	plan
}

func (t *write) new(i int) string { return path.Join(t.dir, strconv.Itoa(i)+".new") }
func (t *write) old(i int) string { return path.Join(t.dir, strconv.Itoa(i)+".old") }

// Apply does a change as a whole, or nothing of it. Where this process does not hold the workspace's lock yet, it does
// for as long as this takes.
func (w *Workspace) Apply(c *Change) error {
	if c.Empty() {
		return nil
	}
	if !w.onDisk() {
		return errReadOnly
	}
	release, err := w.Hold(Writing)
	if err != nil {
		return err
	}
	defer release()
	runtime.LockOSThread() // all of it by one thread, in one order
	defer runtime.UnlockOSThread()
	t := &write{ws: w, fresh: true, plan: plan{Version: planVersion, Command: w.options.Command}}
	data, err := t.prepare(c)
	if err != nil {
		return err
	}
	if len(t.Files) == 0 {
		return nil
	}
	if err := t.journal(data); err != nil {
		return err
	}
	if err := t.forward(); err != nil {
		if berr := t.back(); berr != nil {
			return errors.Join(err, berr)
		}
		return err
	}
	t.done()
	for p := range c.files {
		w.forget(p)
	}
	return nil
}

func (w *Workspace) at(step string) {
	if w.step != nil {
		w.step(step)
	}
}

// forget forgets what was read of a file.
func (w *Workspace) forget(path string) {
	w.mu.Lock()
	defer w.mu.Unlock()
	delete(w.read, path)
}

// prepare checks every place, and notes what stands there now.
func (t *write) prepare(c *Change) (data [][]byte, err error) {
	w := t.ws
	w.protected = nil
	taken := map[string]string{}
	for _, p := range c.all() {
		f := c.files[p]
		real, err := w.mayWrite(p, f.kind)
		if err != nil {
			return nil, placed(p, err)
		}
		if other, twice := taken[fold(real)]; twice {
			return nil, &FileError{File: p, Msg: "this is the same file as " + other,
				Hint: "Nothing was changed. Give each a place of its own."}
		}
		taken[fold(real)] = p
		one := planned{Path: real, Kind: f.kind, After: absent}
		if one.Before, err = w.folder.hash(real); err != nil {
			return nil, err
		}
		if f.remove && one.Before == absent {
			continue
		}
		w.mu.Lock()
		was, seen := w.read[p]
		w.mu.Unlock()
		if seen && f.kind.owned() && was != one.Before {
			return nil, changedMeanwhile(p)
		}
		if info, err := w.folder.stat(real); err == nil {
			one.Mode = info.Mode().Perm()
		}
		if !f.remove {
			one.After = Hash(f.data)
		}
		t.Files, data = append(t.Files, one), append(data, f.data)
	}
	t.Folders = w.folder.missing(t.Files)
	return data, nil
}

func changedMeanwhile(name string) error {
	return &FileError{File: name, Msg: "was changed while the command was running",
		Hint: "Nothing was written. Run the command again."}
}

// missing lists the folders that must be made, outermost first.
func (f *folder) missing(files []planned) []string {
	var out []string
	known := map[string]bool{".": true}
	for _, p := range files {
		if p.After == absent {
			continue
		}
		var chain []string
		for d := path.Dir(p.Path); !known[d]; d = path.Dir(d) {
			known[d] = true
			if _, err := f.root.Lstat(filepath.FromSlash(d)); !errors.Is(err, fs.ErrNotExist) {
				break
			}
			chain = append(chain, d)
		}
		slices.Reverse(chain)
		out = append(out, chain...)
	}
	return out
}

// journal puts the new bytes and the plan on the disk. Nothing of the workspace is touched.
func (t *write) journal(data [][]byte) error {
	w, root := t.ws, t.ws.folder.root
	if err := root.MkdirAll(writesDir, 0o755); err != nil {
		return &FileError{File: writesDir, Msg: "cannot be made: " + reason(err),
			Hint: "Nothing was changed. Is the folder read-only, or the disk full?"}
	}
	number, err := w.nextWrite()
	if err != nil {
		return err
	}
	final := path.Join(writesDir, strconv.Itoa(number))
	t.dir = final + ".new"
	fail := func(name string, err error) error {
		_ = root.RemoveAll(t.dir)
		return &FileError{File: name, Msg: "cannot be written: " + reason(err),
			Hint: "Nothing was changed. Is the folder read-only, or the disk full?"}
	}
	w.at("journal")
	if err := root.Mkdir(t.dir, 0o755); err != nil {
		return fail(t.dir, err)
	}
	for i, f := range t.Files {
		if f.After == absent {
			continue
		}
		w.at("journal file")
		if err := w.folder.writeNew(t.new(i), data[i], f.Mode, f.Kind.owned()); err != nil {
			return fail(f.Path, err)
		}
	}
	text, err := json.Marshal(t.plan)
	if err == nil {
		w.at("journal plan")
		err = w.folder.writeNew(path.Join(t.dir, planName), text, 0, true)
	}
	if err != nil {
		return fail("the journal", err)
	}
	w.folder.syncDir(t.dir)
	w.at("commit")
	if err := root.Rename(t.dir, final); err != nil {
		return fail("the journal", err)
	}
	t.dir = final
	w.folder.syncDir(writesDir)
	return nil
}

// forward does what the plan says and is not done yet. It can be run again after a stop at any point. An error is from
// the file system, and leaves the rest undone.
func (t *write) forward() error {
	root := t.ws.folder.root
	for _, d := range t.Folders {
		t.ws.at("folder")
		if err := root.Mkdir(filepath.FromSlash(d), 0o755); err != nil && !errors.Is(err, fs.ErrExist) {
			return t.refused(d, "the folder cannot be made", err)
		}
	}
	for i, f := range t.Files {
		now, err := t.ws.folder.hash(f.Path)
		if err != nil {
			return err
		}
		switch {
		case now == f.After:
			continue
		case t.fresh && now != f.Before:
			return changedMeanwhile(f.Path)
		case !t.fresh && (now != f.Before || f.After != absent && !t.has(t.new(i), f.After)):
			continue
		}
		if err := t.replace(i); err != nil {
			return t.refused(f.Path, "cannot be written", err)
		}
	}
	return nil
}

// replace puts one file in its place, and keeps what stood there in the journal.
func (t *write) replace(i int) error {
	f, root := t.Files[i], t.ws.folder.root
	name := filepath.FromSlash(f.Path)
	if f.After == absent {
		t.ws.at("remove")
		return root.Rename(name, t.old(i))
	}
	if f.Before != absent {
		t.ws.at("keep")
		_ = root.Remove(t.old(i)) // of a try before
		if err := root.Link(name, t.old(i)); err != nil {
			data, rerr := t.ws.folder.readFile(f.Path, f.Path) // a file system without hard links
			if rerr != nil {
				return rerr
			}
			if err := t.ws.folder.writeNew(t.old(i), data, f.Mode, f.Kind.owned()); err != nil {
				return err
			}
		}
	}
	t.ws.at("replace")
	return root.Rename(t.new(i), name)
}

func (t *write) refused(name, what string, err error) error {
	fe := &FileError{File: name, Msg: what + ": " + reason(err),
		Hint: "Nothing was changed. Make the folder writable and run it again."}
	if strings.Contains(err.Error(), "cross-device") {
		fe.Msg, fe.Hint = what+": it lies on another file system than "+stateDir, "Nothing was changed. Files are moved "+
			"into place from there, so both must be on one."
	}
	return fe
}

func (t *write) has(name, hash string) bool {
	h, err := t.ws.folder.hash(name)
	return err == nil && h == hash
}

// back takes back what was done of the plan: every file that is as the write left it becomes what it was.
func (t *write) back() error {
	root := t.ws.folder.root
	var failed error
	for i := len(t.Files) - 1; i >= 0; i-- {
		f := t.Files[i]
		now, err := t.ws.folder.hash(f.Path)
		if err == nil && now == f.After && now != f.Before {
			t.ws.at("back")
			name := filepath.FromSlash(f.Path)
			if f.Before == absent {
				err = root.Rename(name, t.new(i))
			} else if t.has(t.old(i), f.Before) {
				err = root.Rename(t.old(i), name)
			} else {
				err = fmt.Errorf("what stood there is lost")
			}
		}
		if err != nil {
			failed = errors.Join(failed, &FileError{File: f.Path, Msg: "cannot be taken back: " + reason(err),
				Hint: "The next command tries again."})
		}
	}
	if failed != nil {
		return failed
	}
	for i := len(t.Folders) - 1; i >= 0; i-- {
		_ = root.Remove(filepath.FromSlash(t.Folders[i])) // goes only where it is empty
	}
	t.end()
	return nil
}

// done puts what people own on the disk, removes folders that are empty now, and the journal.
func (t *write) done() {
	w := t.ws
	synced := map[string]bool{}
	for _, f := range t.Files {
		dir := path.Dir(f.Path)
		if f.Kind.owned() && !synced[dir] {
			synced[dir] = true
			w.at("sync folder")
			w.folder.syncDir(filepath.FromSlash(dir))
		}
		if f.After == absent && dir != "." {
			_ = w.folder.root.Remove(filepath.FromSlash(dir)) // goes only where it is empty
		}
	}
	t.end()
}

// end removes the journal of a write that happened, or that was taken back.
func (t *write) end() {
	w := t.ws
	w.at("end")
	gone := t.dir + ".done"
	if w.folder.root.Rename(t.dir, gone) == nil {
		w.at("remove journal")
		_ = w.folder.root.RemoveAll(gone)
	}
	_ = w.folder.root.Remove(writesDir) // goes only where it is empty
}

// nextWrite is a number that no journal has.
func (w *Workspace) nextWrite() (int, error) {
	list, err := w.folder.entries(writesDir)
	if err != nil {
		return 0, &FileError{File: writesDir, Msg: reason(err)}
	}
	next := 1
	for _, e := range list {
		stem, _, _ := strings.Cut(e.Name(), ".")
		if n, err := strconv.Atoi(stem); err == nil && n >= next && n < 1<<30 {
			next = n + 1
		}
	}
	return next, nil
}
