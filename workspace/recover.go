package workspace

import (
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"path"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
)

// Recovery is what became of a write that was stopped.
type Recovery struct {
	Command  string   // that was stopped
	Finished bool     // it was finished; otherwise taken back
	Files    int      // that it was to write
	Kept     []string // edited by a person since; left as they are
	Beside   []string // files with what was not written, each beside the one it was for
}

// String says it in words.
func (r Recovery) String() string {
	what := "an earlier write"
	if r.Command != "" {
		what = fmt.Sprintf("an earlier %q", r.Command)
	}
	s := what + " was stopped; it has been finished"
	if !r.Finished {
		s = what + " was stopped; it has been taken back"
	}
	if len(r.Kept) > 0 {
		s += ". Edited since, and kept: " + strings.Join(r.Kept, ", ")
	}
	if len(r.Beside) > 0 {
		s += ". What it would have written there: " + strings.Join(r.Beside, ", ")
	}
	return s
}

// refusedDir is where journals go that this program cannot have written.
const refusedDir = stateDir + "/refused"

// stopped lists the journals of writes that did not come to their end.
func (w *Workspace) stopped() ([]string, error) {
	info, err := w.folder.root.Lstat(writesDir)
	old, oerr := w.folder.root.Lstat(stateDir + "/journal") // of an earlier version, or from elsewhere
	if errors.Is(err, fs.ErrNotExist) && errors.Is(oerr, fs.ErrNotExist) {
		return nil, nil
	}
	var out []string
	if oerr == nil && old != nil {
		out = append(out, "journal")
	}
	if err != nil {
		return out, nil
	}
	if !info.IsDir() {
		return nil, &FileError{File: writesDir, Msg: "this must be a folder, not a link or file",
			Hint: "Remove it, and run the command again."}
	}
	list, err := w.folder.entries(writesDir)
	if err != nil {
		return nil, &FileError{File: writesDir, Msg: reason(err)}
	}
	for _, e := range list {
		out = append(out, "writes/"+e.Name())
	}
	slices.SortFunc(out, func(a, b string) int { return journalNumber(a) - journalNumber(b) })
	return out, nil
}

func journalNumber(name string) int {
	stem, _, _ := strings.Cut(path.Base(name), ".")
	n, _ := strconv.Atoi(stem)
	return n
}

// recover finishes or takes back every stopped write, the oldest first.
func (w *Workspace) recover() error {
	list, err := w.stopped()
	if err != nil {
		return err
	}
	for _, name := range list {
		dir := stateDir + "/" + name
		ext := path.Ext(name)
		if _, err := strconv.Atoi(strings.TrimSuffix(path.Base(name), ext)); err == nil &&
			(ext == ".new" || ext == ".done") && strings.HasPrefix(name, "writes/") {
			if err := w.folder.root.RemoveAll(dir); err != nil { // nothing was touched, or all is done
				return &FileError{File: dir, Msg: "cannot be removed: " + reason(err)}
			}
			continue
		}
		t := &write{ws: w, dir: dir}
		if err := t.read(); err != nil {
			return t.setAside(err)
		}
		r, err := t.settle()
		if err != nil {
			return err
		}
		w.Recovered = append(w.Recovered, r)
	}
	if len(list) > 0 {
		_ = w.folder.root.Remove(writesDir)
	}
	return nil
}

// read reads a plan, and refuses one that this program cannot have written: it may have come with the folder.
func (t *write) read() error {
	w := t.ws
	if !strings.HasPrefix(t.dir, writesDir+"/") || journalNumber(t.dir) == 0 {
		return errors.New("it has no place here")
	}
	entries, err := w.folder.entries(t.dir)
	if err != nil {
		return errors.New(reason(err))
	}
	for _, e := range entries {
		if !e.Type().IsRegular() {
			return fmt.Errorf("%s is no ordinary file", e.Name())
		}
		if info, err := e.Info(); err != nil || info.Mode().Perm()&0o111 != 0 && !strings.HasSuffix(e.Name(), ".old") &&
			!strings.HasSuffix(e.Name(), ".new") {
			return fmt.Errorf("%s can be executed", e.Name())
		}
	}
	data, err := w.folder.readFile(t.dir+"/"+planName, planName)
	if err != nil {
		return err
	}
	dec := json.NewDecoder(strings.NewReader(string(data)))
	dec.DisallowUnknownFields()
	if err := dec.Decode(&t.plan); err != nil || dec.More() {
		return errors.New("the plan is damaged")
	}
	if t.Version != planVersion || len(t.Files) == 0 {
		return errors.New("the plan is of another version")
	}
	return t.check()
}

// check holds a plan to what this program writes.
func (t *write) check() error {
	known := map[string]bool{}
	for i, f := range t.Files {
		real, err := t.ws.writable(f.Path)
		any := f.Kind == Settings || f.Kind == Pulled // which may be any file
		switch {
		case err != nil:
			return fmt.Errorf("%s: %w", f.Path, err)
		case real != f.Path || known[fold(f.Path)] || f.Kind < Generated || f.Kind > Pulled || f.Mode&^0o777 != 0 ||
			!any && fold(f.Path) == ConfigName || (f.Kind == Memory) != (f.Path == LockName) && !any:
			return fmt.Errorf("%s: not as archetyp plans it", f.Path)
		}
		known[fold(f.Path)] = true
		now, err := t.ws.folder.stat(f.Path)
		was := fs.FileMode(0o666)
		if err == nil {
			was |= now.Mode().Perm()
		}
		if info, err := t.ws.folder.root.Lstat(t.new(i)); err == nil && info.Mode().Perm()&0o111&^was != 0 {
			return fmt.Errorf("%s would become executable", f.Path)
		}
		if f.After != absent && !t.has(t.new(i), f.After) {
			if _, err := t.ws.folder.root.Lstat(t.new(i)); err == nil && f.Kind.owned() {
				return fmt.Errorf("%s: the bytes in the journal are others than planned", f.Path)
			}
		}
	}
	for _, d := range t.Folders {
		if path.Clean(d) != d || !filepath.IsLocal(filepath.FromSlash(d)) || sacred(d) != nil {
			return fmt.Errorf("%s: not as archetyp plans it", d)
		}
	}
	return nil
}

// setAside moves a journal out of the way, untouched, for a person to look at.
func (t *write) setAside(why error) error {
	root := t.ws.folder.root
	fe := &FileError{File: t.dir, Msg: "archetyp did not write this journal: " + why.Error()}
	err := root.MkdirAll(refusedDir, 0o755)
	for n := 1; err == nil && n < 1000; n++ {
		to := fmt.Sprintf("%s/%d", refusedDir, n)
		if _, lerr := root.Lstat(to); errors.Is(lerr, fs.ErrNotExist) {
			if err = root.Rename(t.dir, to); err == nil {
				fe.Hint = "It was moved to " + to + ", and nothing was done with it. Look at it, then run the command again."
				return fe
			}
		}
	}
	fe.Hint = "Nothing was done with it. Remove it, and run the command again."
	return fe
}

// settle finishes a write that was stopped, or takes it back as a whole.
//
// A file that is neither as before nor as after was edited by a person, and stays. If its new bytes still lie in the
// journal, the edit was made on what stood there before, so the whole write is taken back; if they do not, the edit was
// made on what was written, and the write is finished.
func (t *write) settle() (Recovery, error) {
	r := Recovery{Command: t.Command, Finished: true, Files: len(t.Files)}
	onOld, onNew, lost := false, false, false
	var unwritten []int
	for i, f := range t.Files {
		now, err := t.ws.folder.hash(f.Path)
		if err != nil {
			return r, err
		}
		waits := f.After == absent && now != absent || t.has(t.new(i), f.After)
		switch {
		case now == f.After:
		case now == f.Before:
			lost = lost || !waits && f.Kind.owned() && f.After != absent
		case !f.Kind.owned():
			r.Kept = append(r.Kept, f.Path)
		default:
			r.Kept = append(r.Kept, f.Path)
			if waits {
				onOld = true
				unwritten = append(unwritten, i)
			} else {
				onNew = true
			}
		}
	}
	for _, i := range unwritten {
		if f := t.Files[i]; f.After != absent {
			beside, err := t.beside(i)
			if err != nil {
				return r, err
			}
			r.Beside = append(r.Beside, beside)
		}
	}
	if (onOld || lost) && !onNew {
		r.Finished = false
		return r, t.back()
	}
	if err := t.forward(); err != nil {
		r.Finished = false
		if berr := t.back(); berr != nil {
			return r, errors.Join(err, berr)
		}
		return r, nil
	}
	t.done()
	return r, nil
}

// beside puts what was not written beside the file it was for, under a name that nothing reads.
func (t *write) beside(i int) (string, error) {
	f := t.Files[i]
	data, err := t.ws.folder.readFile(t.new(i), f.Path)
	if err != nil {
		return "", err
	}
	for n := 1; ; n++ {
		name := f.Path + ".unwritten"
		if n > 1 {
			name += "-" + strconv.Itoa(n)
		}
		if h, err := t.ws.folder.hash(name); err == nil && h == f.After {
			return name, nil // of a try before
		}
		err := t.ws.folder.writeNew(filepath.FromSlash(name), data, 0, true)
		if err == nil {
			return name, nil
		}
		if !errors.Is(err, fs.ErrExist) || n > 99 {
			return "", &FileError{File: name, Msg: "cannot be written: " + reason(err)}
		}
	}
}
