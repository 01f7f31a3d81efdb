package workspace

import (
	"errors"
	"os"
	"path/filepath"
	"slices"
	"sort"
)

// Save writes files that a person named, all of them or none. Those inside a workspace go through its one way of
// writing, and never over what belongs to it; elsewhere each is written beside its place first.
func Save(files map[string][]byte, o Options) error {
	inside := map[string]map[string][]byte{} // by workspace
	outside := map[string][]byte{}
	spaces := map[string]*Workspace{}
	defer func() {
		for _, w := range spaces {
			w.Close()
		}
	}()
	for _, name := range sorted(files) {
		abs, err := filepath.Abs(name)
		if err != nil {
			return err
		}
		w, err := spaceOf(filepath.Dir(abs), spaces, o)
		if err != nil {
			return err
		}
		rel, ok := "", false
		if w != nil {
			rel, ok = w.Rel(abs)
		}
		if !ok {
			if real, err := filepath.EvalSymlinks(abs); err == nil {
				abs = real // the file behind a link, not the link
			}
			outside[abs] = files[name]
			continue
		}
		if inside[w.Dir] == nil {
			inside[w.Dir] = map[string][]byte{}
		}
		inside[w.Dir][rel] = files[name]
	}
	for _, dir := range sorted(inside) {
		w, c := spaces[dir], &Change{}
		for _, rel := range sorted(inside[dir]) {
			c.Put(w, Named, rel, inside[dir][rel])
		}
		if err := w.saveInto(c); err != nil {
			return err
		}
	}
	return replaceAll(outside)
}

// spaceOf opens the workspace around a folder, each once; nil for none.
func spaceOf(dir string, open map[string]*Workspace, o Options) (*Workspace, error) {
	w, shown, err := locate(nearestFolder(dir))
	if w == nil || err != nil {
		return nil, err
	}
	if known := open[w.Dir]; known != nil {
		w.Close()
		return known, nil
	}
	w.options = o
	if err := w.readConfig(shown); err != nil {
		w.Close()
		return nil, err
	}
	open[w.Dir] = w
	return w, nil
}

// saveInto applies a change of files that sync does not make.
func (w *Workspace) saveInto(c *Change) error {
	release, err := w.Hold(Writing)
	if err != nil {
		return err
	}
	defer release()
	lock, err := w.ReadLockHead()
	if err != nil {
		return err
	}
	for _, p := range c.Paths() {
		if lock.Outputs[p] != "" {
			return &FileError{File: p, Msg: "this is made by archetyp sync, and nothing else is written there",
				Hint: "Choose another place."}
		}
	}
	return w.Apply(c)
}

// nearestFolder is the folder, or the nearest above it that exists.
func nearestFolder(dir string) string {
	for {
		if info, err := os.Stat(dir); err == nil && info.IsDir() {
			return dir
		}
		up := filepath.Dir(dir)
		if up == dir {
			return dir
		}
		dir = up
	}
}

// replaceAll writes files outside of any workspace: all beside their places first, then each into it.
func replaceAll(files map[string][]byte) (err error) {
	temps := map[string]string{}
	defer func() {
		for _, tmp := range temps {
			os.Remove(tmp)
		}
	}()
	for _, name := range sorted(files) {
		if temps[name], err = writeBeside(name, files[name]); err != nil {
			return err
		}
	}
	for _, name := range sorted(files) {
		if err := os.Rename(temps[name], name); err != nil {
			return &FileError{File: name, Msg: "cannot be written: " + reason(err)}
		}
		delete(temps, name)
	}
	return nil
}

// Replace writes one file, which is not the workspace's, as a whole or not at all.
func Replace(name string, data []byte) error { return replaceAll(map[string][]byte{name: data}) }

// writeBeside writes a file next to its place, with the mode of the one that stands there.
func writeBeside(name string, data []byte) (string, error) {
	mode := os.FileMode(0)
	switch info, err := os.Stat(name); {
	case err == nil && info.IsDir():
		return "", &FileError{File: name, Msg: "a folder stands where a file is to be written"}
	case err == nil && !info.Mode().IsRegular():
		return "", &FileError{File: name, Msg: "this is no ordinary file"}
	case err == nil:
		mode = info.Mode().Perm()
	}
	dir := filepath.Dir(name)
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return "", &FileError{File: dir, Msg: "the folder cannot be made: " + reason(err)}
	}
	f, err := os.CreateTemp(dir, ".archetyp-*")
	if err != nil {
		return "", &FileError{File: name, Msg: "cannot be written: " + reason(err), Hint: "Is the folder read-only?"}
	}
	_, err = f.Write(data)
	if mode == 0 {
		mode = 0o644
	}
	if err = errors.Join(err, f.Chmod(mode), f.Close()); err != nil {
		os.Remove(f.Name())
		return "", &FileError{File: name, Msg: "cannot be written: " + reason(err)}
	}
	return f.Name(), nil
}

func sorted[V any](m map[string]V) []string {
	out := make([]string, 0, len(m))
	for k := range m {
		out = append(out, k)
	}
	sort.Strings(out)
	return slices.Clip(out)
}
