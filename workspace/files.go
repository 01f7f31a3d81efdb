package workspace

import (
	"errors"
	"maps"
	"path"
	"path/filepath"
	"slices"

	"github.com/bmatcuk/doublestar/v4"
)

// Files is where the bytes of a workspace come from: the disk, a revision in git, or an editor's unsaved buffers over
// either. Paths are relative to the workspace, with forward slashes. All methods may be called side by side.
type Files interface {
	// Read gives a file whole. Its errors are *FileError; Missing reports whether there is none.
	Read(path string) ([]byte, error)
	// Glob lists the files that match a doublestar pattern, in name order. shown is the pattern as it was written.
	Glob(pattern, shown string) ([]string, error)
	// Stamp is the Hash of a file's bytes.
	Stamp(path string) (string, error)
}

var errReadOnly = errors.New("only the files on disk can be written")

// Over is the workspace with the contents of some files replaced, as by what an editor has open and not saved. It is
// read only, and good for as long as w is.
func (w *Workspace) Over(buffers map[string][]byte) (*Workspace, error) {
	return w.reading(&overlay{w.files, maps.Clone(buffers)}, ConfigName)
}

// At is the workspace as it was in a git revision; Close ends it. It is read only, and good for as long as w is. A
// revision without a configuration is read with the one of today.
func (w *Workspace) At(rev string) (*Workspace, error) {
	files, err := w.revision(rev)
	if err != nil {
		return nil, err
	}
	at, err := w.reading(files, rev+":"+ConfigName)
	if err != nil {
		files.Close()
	}
	return at, err
}

// reading is the same workspace with other bytes in it.
func (w *Workspace) reading(files Files, shown string) (*Workspace, error) {
	to := &Workspace{Dir: w.Dir, Config: w.Config, Raw: w.Raw, folder: w.folder, files: files, options: w.options,
		read: map[string]string{}, guest: true}
	raw, err := files.Read(ConfigName)
	if Missing(err) {
		return to, nil
	}
	if err != nil {
		return nil, err
	}
	return to, to.setConfig(raw, shown)
}

// onDisk reports whether the workspace is the one on disk, which can be written.
func (w *Workspace) onDisk() bool { return w.files == Files(w.folder) }

// Read, Glob and Stamp make a folder on disk the Files of a workspace.
func (f *folder) Read(name string) ([]byte, error) { return f.readFile(name, name) }

func (f *folder) Glob(pattern, shown string) ([]string, error) {
	return matching(f.root.FS(), pattern, shown)
}

func (f *folder) Stamp(name string) (string, error) {
	data, err := f.readFile(name, name)
	return Hash(data), err
}

// overlay has some files in memory, over others.
type overlay struct {
	under   Files
	buffers map[string][]byte
}

func (o *overlay) Read(name string) ([]byte, error) {
	if data, ok := o.buffers[path.Clean(name)]; ok {
		return data, nil
	}
	return o.under.Read(name)
}

func (o *overlay) Stamp(name string) (string, error) {
	if data, ok := o.buffers[path.Clean(name)]; ok {
		return Hash(data), nil
	}
	return o.under.Stamp(name)
}

func (o *overlay) Glob(pattern, shown string) ([]string, error) {
	out, err := o.under.Glob(pattern, shown)
	if err != nil {
		return nil, err
	}
	out = append(out, among(slices.Collect(maps.Keys(o.buffers)), pattern)...)
	slices.Sort(out)
	return slices.Compact(out), nil
}

// among are the names that match a pattern, our own and git's folders left out.
func among(names []string, pattern string) []string {
	var out []string
	for _, name := range names {
		if ok, _ := doublestar.Match(pattern, name); ok && sacred(name) == nil && filepath.IsLocal(filepath.FromSlash(name)) {
			out = append(out, name)
		}
	}
	return out
}
