package workspace

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"unicode/utf8"

	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/guard"
	"archetyp/core/limit"
	"archetyp/core/markup"
	"archetyp/core/read"

	"github.com/bmatcuk/doublestar/v4"
)

// Drawing says how a design file is read.
type Drawing struct {
	Shown   string // its name in the document and in messages
	Fonts   *font.Set
	Marks   []design.SelectedMarks
	Root    float64 // 1rem in px
	Load    Load    // what it links to; nil for nothing
	Facts   bool    // only facts are wanted: words are measured, and not painted
	Limits  limit.Limits
	Context context.Context // ends the reading; nil for none
	View    read.View       // of a page
}

// Load reads what a drawing links to.
type Load func(href string) ([]byte, error)

// ParseDrawing reads the bytes of a design file.
func ParseDrawing(data []byte, d Drawing) (*design.Document, error) {
	if d.Context == nil {
		d.Context = context.Background()
	}
	return parse(data, d.Shown, read.Options{Fonts: d.Fonts, Marks: d.Marks, Root: d.Root, Load: d.Load, Facts: d.Facts,
		Budget: limit.On(d.Context, d.Limits), View: usualView(d.View)})
}

// usualView is a view with the viewport that is meant where none is said.
func usualView(v read.View) read.View {
	if v.Medium.Width == 0 {
		v.Medium.Width, v.Medium.Height = 1280, 800
	}
	return v
}

func parse(data []byte, shown string, o read.Options) (doc *design.Document, err error) {
	defer guard.Catch(&err, "reading "+shown)
	o.Marks = design.ForFile(o.Marks, filepath.ToSlash(shown))
	doc, err = read.Document(filepath.ToSlash(shown), data, o)
	return doc, InFile(err, shown)
}

// InFile says in which file a fault is.
func InFile(err error, shown string) error {
	var me *markup.Error
	if errors.As(err, &me) {
		return &FileError{File: shown, Position: me.Position, Msg: me.Msg, Hint: me.Hint}
	}
	return err
}

// Links reads what a source of the workspace links to: by relative paths that stay in the workspace, never the network.
// linked, where given, is called for every file. A source outside has nothing beside it.
func (w *Workspace) Links(source string, linked func(path string, data []byte)) Load {
	return func(href string) ([]byte, error) {
		rel, err := linkedPath(href)
		if err != nil {
			return nil, err
		}
		rel = path.Join(path.Dir(source), rel)
		if !filepath.IsLocal(filepath.FromSlash(rel)) {
			return nil, errors.New("it lies outside the workspace")
		}
		data, err := w.ReadFile(rel)
		if err != nil {
			return nil, plainReason(err)
		}
		if linked != nil {
			linked(rel, data)
		}
		return data, nil
	}
}

// LinksBeside reads what a bare drawing links to: files in its own folder and below.
func LinksBeside(dir string) Load {
	return func(href string) ([]byte, error) {
		rel, err := linkedPath(href)
		if err != nil {
			return nil, err
		}
		if !filepath.IsLocal(filepath.FromSlash(path.Clean(rel))) {
			return nil, errors.New("it lies outside the drawing's folder")
		}
		f, err := openFolder(dir)
		if err != nil {
			return nil, plainReason(err)
		}
		defer f.close()
		data, err := f.readFile(rel, href)
		if err != nil {
			return nil, plainReason(err)
		}
		return data, nil
	}
}

// linkedPath is the path that a link means; only relative ones are followed.
func linkedPath(href string) (string, error) {
	href, _, _ = strings.Cut(href, "#")
	href, _, _ = strings.Cut(href, "?")
	if strings.Contains(href, ":") || filepath.IsAbs(href) || strings.HasPrefix(href, "/") || strings.ContainsAny(href,
		"\\\x00") {
		return "", errors.New("only files beside the drawing are read, by a relative path")
	}
	return href, nil
}

func plainReason(err error) error {
	var fe *FileError
	if errors.As(err, &fe) {
		return errors.New(fe.Msg)
	}
	return err
}

// Glob lists the files that match patterns below the workspace, in name order, each once, with forward slashes. A
// folder that cannot be read is an error.
func (w *Workspace) Glob(patterns []string) ([]string, error) {
	var out []string
	for _, p := range patterns {
		if !filepath.IsLocal(filepath.FromSlash(p)) {
			return nil, &FileError{File: ConfigName, Msg: fmt.Sprintf("the pattern %q leads out of the workspace", p)}
		}
		found, err := w.files.Glob(path.Clean(filepath.ToSlash(p)), p)
		if err != nil {
			return nil, err
		}
		out = append(out, found...)
	}
	slices.Sort(out)
	return slices.Compact(out), nil
}

// Sources lists the sources; those outside the workspace begin with "../".
func (w *Workspace) Sources() ([]string, error) {
	var inside, out []string
	for _, p := range w.Config.Sources {
		if clean := path.Clean(filepath.ToSlash(p)); !strings.HasPrefix(clean, "../") {
			inside = append(inside, p)
			continue
		}
		if !w.onDisk() {
			continue // nothing but the disk has them
		}
		found, err := w.globOutside(p)
		if err != nil {
			return nil, err
		}
		out = append(out, found...)
	}
	found, err := w.Glob(inside)
	if err != nil {
		return nil, err
	}
	out = append(out, found...)
	slices.Sort(out)
	return slices.Compact(out), nil
}

// globOutside lists the files that match a pattern that begins with "../".
func (w *Workspace) globOutside(pattern string) ([]string, error) {
	base, rest := doublestar.SplitPattern(path.Clean(filepath.ToSlash(pattern)))
	f, err := openFolder(w.Path(base))
	if err != nil {
		return nil, err
	}
	defer f.close()
	found, err := matching(f.root.FS(), rest, pattern)
	for i := range found {
		found[i] = path.Join(base, found[i])
	}
	return found, err
}

// sourceOutside reports whether the configuration names a path outside as a source.
func (w *Workspace) sourceOutside(name string) bool {
	for _, p := range w.Config.Sources {
		if clean := path.Clean(filepath.ToSlash(p)); strings.HasPrefix(clean, "../") {
			if ok, _ := doublestar.Match(clean, name); ok {
				return true
			}
		}
	}
	return false
}

// glob is doublestar.Glob, where a folder that cannot be read is an error. The files of one folder, as most patterns
// are, are listed without a look at each.
func glob(fsys fs.FS, pattern string) (out []string, err error) {
	dir, last := path.Split(pattern)
	if strings.ContainsAny(dir, `*?[{\`) || strings.Contains(last, "**") {
		return doublestar.Glob(fsys, pattern, doublestar.WithFailOnIOErrors())
	}
	info, err := fs.Stat(fsys, path.Clean(dir))
	if errors.Is(err, fs.ErrNotExist) || err == nil && !info.IsDir() { // opening a FIFO would wait for its other end
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	f, err := fsys.Open(path.Clean(dir))
	if err != nil {
		return nil, err
	}
	defer f.Close()
	folder, ok := f.(interface{ Readdirnames(n int) ([]string, error) })
	if !ok {
		return nil, unknownFailure("a folder that lists no names")
	}
	names, err := folder.Readdirnames(-1)
	for _, name := range names {
		if ok, _ := doublestar.Match(last, name); ok {
			out = append(out, dir+name)
		}
	}
	slices.Sort(out)
	return out, err
}

// matching lists what matches a pattern, our own and git's folders left out.
func matching(fsys fs.FS, pattern, shown string) ([]string, error) {
	if !doublestar.ValidatePattern(pattern) {
		return nil, &FileError{File: ConfigName, Msg: fmt.Sprintf("the pattern %q is not valid", shown)}
	}
	found, err := glob(fsys, pattern)
	if err != nil {
		fe := &FileError{File: shown, Msg: "cannot be read: " + reason(err)}
		var pe *fs.PathError
		if errors.As(err, &pe) && pe.Path != "" {
			fe.File = filepath.ToSlash(pe.Path)
		}
		return nil, fe
	}
	found = slices.DeleteFunc(found, func(p string) bool { return sacred(p) != nil })
	for _, p := range found {
		if !utf8.ValidString(p) {
			return nil, &FileError{File: p, Msg: "the name of this file is not UTF-8",
				Hint: "Rename it: the lock, the guide and other systems could not name it."}
		}
	}
	return found, nil
}

// FontFiles lists the workspace's font files.
func (w *Workspace) FontFiles() ([]string, error) {
	var patterns []string
	for _, dir := range w.Config.Fonts {
		dir = strings.TrimSuffix(dir, "/")
		if strings.ContainsAny(dir, "*?[") {
			patterns = append(patterns, dir)
			continue
		}
		patterns = append(patterns, dir+"/*.ttf", dir+"/*.otf")
	}
	return w.Glob(patterns)
}

// FontError is the error for a file among the fonts that is none.
func FontError(file string, err error) error {
	return &FileError{File: file, Msg: err.Error(), Hint: "Take it out of the folders listed under fonts:."}
}

// AddFonts adds the workspace's font files to a set. A file that is no font is an error.
func (w *Workspace) AddFonts(set *font.Set) error {
	files, err := w.FontFiles()
	if err != nil {
		return err
	}
	for _, f := range files {
		data, err := w.ReadFile(f)
		if err != nil {
			return err
		}
		if _, err := set.Add(data, f); err != nil {
			return FontError(f, err)
		}
	}
	return nil
}
