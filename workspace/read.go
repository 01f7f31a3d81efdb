// Package workspace is a folder on disk: its configuration, its lock, and writes that either happen as a whole or
// not at all.
package workspace

import (
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/markup"
	"archetyp/core/ora"
	"archetyp/core/svg"
)

// MaxFile is the largest file that is read, in bytes.
const MaxFile = 128 << 20

// FileError is a fault in a file, at a place where one is known (Line > 0), and what to do about it.
type FileError struct {
	File string
	markup.Position
	Msg  string
	Hint string
}

func (e *FileError) Error() string {
	if e.Line > 0 {
		return fmt.Sprintf("%s:%d:%d: %s", e.File, e.Line, e.Column, e.Msg)
	}
	return e.File + ": " + e.Msg
}

// ReadFile reads a file whole; shown is the name for messages.
func ReadFile(path, shown string) ([]byte, error) {
	fail := func(msg, hint string) error { return &FileError{File: shown, Msg: msg, Hint: hint} }
	info, err := os.Stat(path)
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return nil, fail("there is no such file", "")
	case err != nil:
		return nil, fail(reason(err), "")
	case info.IsDir():
		return nil, fail("this is a folder, not a file", "")
	case !info.Mode().IsRegular():
		return nil, fail("this is no ordinary file", "")
	case info.Size() > MaxFile:
		return nil, fail(fmt.Sprintf("%d MB; files over %d MB are not read", info.Size()>>20, MaxFile>>20), "Take what is not needed out of the drawing, or split it.")
	}
	f, err := os.Open(path)
	if err != nil {
		return nil, fail(reason(err), "")
	}
	defer f.Close()
	data, err := io.ReadAll(io.LimitReader(f, MaxFile+1))
	if err != nil {
		return nil, fail(reason(err), "")
	}
	return data, nil
}

// reason is an operating system's error without the path, which the message names already.
func reason(err error) string {
	var pe *fs.PathError
	if errors.As(err, &pe) {
		err = pe.Err
	}
	if errors.Is(err, fs.ErrPermission) {
		return "permission denied"
	}
	return err.Error()
}

// ReadDrawing reads a design file. shown names it in the document and in messages.
func ReadDrawing(path, shown string, fonts *font.Set, marks []design.SelectedMarks, root float64) (*design.Document, error) {
	data, err := ReadFile(path, shown)
	if err != nil {
		return nil, err
	}
	return ParseDrawing(data, path, shown, fonts, marks, root, nil)
}

// ParseFacts is ParseDrawing where only facts are wanted: words are measured, and not painted.
func ParseFacts(data []byte, path, shown string, fonts *font.Set, marks []design.SelectedMarks, root float64) (*design.Document, error) {
	return parse(data, shown, svg.Options{Fonts: fonts, Marks: marks, Root: root, Load: Loader(filepath.Dir(path), nil), Facts: true})
}

// ParseDrawing is ReadDrawing for bytes in hand. linked, where given, is told of every file the drawing links to.
func ParseDrawing(data []byte, path, shown string, fonts *font.Set, marks []design.SelectedMarks, root float64, linked func(path string, data []byte)) (*design.Document, error) {
	return parse(data, shown, svg.Options{Fonts: fonts, Marks: marks, Root: root, Load: Loader(filepath.Dir(path), linked)})
}

func parse(data []byte, shown string, o svg.Options) (doc *design.Document, err error) {
	o.Marks = design.ForFile(o.Marks, filepath.ToSlash(shown))
	if ora.Is(data) {
		doc, err = ora.Read(filepath.ToSlash(shown), data, ora.Options{Marks: o.Marks})
	} else {
		doc, err = svg.Read(filepath.ToSlash(shown), data, o)
	}
	var me *markup.Error
	if errors.As(err, &me) {
		return nil, &FileError{File: shown, Position: me.Position, Msg: me.Msg}
	}
	return doc, err
}

// Loader reads what a file in dir links to: relative paths only, never the network.
func Loader(dir string, linked func(path string, data []byte)) func(href string) ([]byte, error) {
	return func(href string) ([]byte, error) {
		href, _, _ = strings.Cut(href, "#")
		href, _, _ = strings.Cut(href, "?")
		if strings.Contains(href, ":") || filepath.IsAbs(href) || strings.HasPrefix(href, "/") {
			return nil, errors.New("only files beside the drawing are read, by a relative path")
		}
		path := filepath.Join(dir, filepath.FromSlash(href))
		data, err := ReadFile(path, href)
		var fe *FileError
		if errors.As(err, &fe) {
			return nil, errors.New(fe.Msg)
		}
		if err == nil && linked != nil {
			linked(path, data)
		}
		return data, err
	}
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
		data, err := ReadFile(w.Path(f), f)
		if err != nil {
			return err
		}
		if _, err := set.Add(data, f); err != nil {
			return FontError(f, err)
		}
	}
	return nil
}
