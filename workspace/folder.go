package workspace

import (
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"strings"

	"archetyp/core/markup"
)

// MaxFile is the largest file that is read, in bytes.
const MaxFile = 128 << 20

// folder reads and writes below a folder and nowhere else: every path goes through os.Root, so that no link leads out,
// however it changes meanwhile. Paths are relative, with forward slashes.
type folder struct {
	dir  string
	root *os.Root
}

func openFolder(dir string) (*folder, error) {
	root, err := os.OpenRoot(dir)
	if err != nil {
		return nil, &FileError{File: dir, Msg: reason(err)}
	}
	return &folder{dir, root}, nil
}

func (f *folder) close() { f.root.Close() }

// errOutside is what a link that leaves the folder is refused with.
var errOutside = errors.New("a link here leaves the workspace")

// maxLinks is how many links one path may go through.
const maxLinks = 40

// resolve follows the links in a path, and gives the path without any. What does not exist yet is its own end. os.Root
// follows links too, but refuses absolute ones, and a rename replaces the link instead of the file behind it.
func (f *folder) resolve(name string) (string, error) {
	done, links := ".", 0
	rest := strings.Split(path.Clean(name), "/")
	for len(rest) > 0 {
		part := rest[0]
		rest = rest[1:]
		if part == ".." {
			if done == "." {
				return "", errOutside
			}
			done = path.Dir(done)
			continue
		}
		next := path.Join(done, part)
		info, err := f.root.Lstat(next)
		if errors.Is(err, fs.ErrNotExist) {
			return path.Join(append([]string{next}, rest...)...), nil
		}
		if err != nil {
			return "", err
		}
		if info.Mode()&fs.ModeSymlink == 0 {
			done = next
			continue
		}
		if links++; links > maxLinks {
			return "", errors.New("too many links")
		}
		to, err := f.root.Readlink(next)
		if err != nil {
			return "", err
		}
		if filepath.IsAbs(to) {
			if to, err = filepath.Rel(f.dir, to); err != nil || !filepath.IsLocal(to) {
				return "", errOutside
			}
			done = "."
		}
		rest = append(strings.Split(path.Clean(filepath.ToSlash(to)), "/"), rest...)
	}
	return done, nil
}

// through does something with a path, and once more with its links resolved where os.Root refuses them.
func (f *folder) through(name string, do func(name string) error) error {
	name = filepath.FromSlash(path.Clean(name))
	err := do(name)
	if err == nil || errors.Is(err, fs.ErrNotExist) || errors.Is(err, fs.ErrPermission) {
		return err
	}
	real, rerr := f.resolve(filepath.ToSlash(name))
	if rerr != nil {
		return rerr
	}
	if real = filepath.FromSlash(real); real != name {
		return do(real)
	}
	return err
}

func (f *folder) stat(name string) (info fs.FileInfo, err error) {
	err = f.through(name, func(name string) error {
		info, err = f.root.Stat(name)
		return err
	})
	return info, err
}

// readFile reads a file whole; shown is the name for messages.
func (f *folder) readFile(name, shown string) ([]byte, error) {
	info, err := f.stat(name)
	if err := readable(info, err, shown); err != nil {
		return nil, err
	}
	var file *os.File
	err = f.through(name, func(name string) (err error) {
		file, err = f.root.OpenFile(name, os.O_RDONLY|nonblock, 0)
		return err
	})
	return readOpened(file, err, shown)
}

// ReadFile reads any file whole, one that a person named; shown is the name for messages.
func ReadFile(path, shown string) ([]byte, error) {
	info, err := os.Stat(path)
	if err := readable(info, err, shown); err != nil {
		return nil, err
	}
	file, err := os.OpenFile(path, os.O_RDONLY|nonblock, 0)
	return readOpened(file, err, shown)
}

// readable refuses what is no ordinary file, before it is opened.
func readable(info fs.FileInfo, err error, shown string) error {
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return &FileError{File: shown, Msg: "there is no such file", gone: true}
	case err != nil:
		return &FileError{File: shown, Msg: reason(err)}
	case info.IsDir():
		return &FileError{File: shown, Msg: "this is a folder, not a file"}
	case !info.Mode().IsRegular():
		return &FileError{File: shown, Msg: "this is no ordinary file"}
	case info.Size() > MaxFile:
		return &FileError{File: shown, Msg: fmt.Sprintf("%d MB; files over %d MB are not read", info.Size()>>20, MaxFile>>20),
			Hint: "Take what is not needed out of the drawing, or split it."}
	}
	return nil
}

func readOpened(file *os.File, err error, shown string) ([]byte, error) {
	if err != nil {
		return nil, &FileError{File: shown, Msg: reason(err), gone: errors.Is(err, fs.ErrNotExist)}
	}
	defer file.Close()
	info, err := file.Stat() // it may be another by now
	if err := readable(info, err, shown); err != nil {
		return nil, err
	}
	data := make([]byte, 0, info.Size()+512)
	for {
		n, err := file.Read(data[len(data):cap(data)])
		data = data[:len(data)+n]
		if err == io.EOF {
			return data, nil
		}
		if err != nil {
			return nil, &FileError{File: shown, Msg: reason(err)}
		}
		if len(data) > MaxFile {
			return nil, &FileError{File: shown, Msg: fmt.Sprintf("files over %d MB are not read", MaxFile>>20)}
		}
		if len(data) == cap(data) {
			data = append(data, 0)[:len(data)]
		}
	}
}

// hash is the content hash of an ordinary file; absent where there is none.
func (f *folder) hash(name string) (string, error) {
	data, err := f.readFile(name, name)
	if Missing(err) {
		return absent, nil
	}
	if err != nil {
		return "", err
	}
	return Hash(data), nil
}

// absent stands for the hash of a file that is not there.
const absent = "-"

// writeNew makes a file that must not exist, with its bytes on the disk where sync is set. mode 0 is what the umask
// leaves of 0644.
func (f *folder) writeNew(name string, data []byte, mode fs.FileMode, sync bool) error {
	file, err := f.root.OpenFile(name, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o644)
	if err != nil {
		return err
	}
	if mode != 0 {
		err = file.Chmod(mode)
	}
	if err == nil {
		_, err = file.Write(data)
	}
	if err == nil && sync {
		err = file.Sync()
	}
	return errors.Join(err, file.Close())
}

// syncDir puts the names in a folder on the disk. Where a system cannot, it does nothing.
func (f *folder) syncDir(name string) {
	if d, err := f.root.Open(name); err == nil {
		_ = d.Sync()
		d.Close()
	}
}

func (f *folder) entries(name string) ([]fs.DirEntry, error) {
	d, err := f.root.Open(name)
	if err != nil {
		return nil, err
	}
	defer d.Close()
	return d.ReadDir(-1)
}

// FileError is a fault in a file, at a place where one is known (Line > 0), and what to do about it.
type FileError struct {
	File string
	markup.Position
	Msg  string
	Hint string
	gone bool // there is no such file
}

func (e *FileError) Error() string {
	if e.Line > 0 {
		return fmt.Sprintf("%s:%d:%d: %s", e.File, e.Line, e.Column, e.Msg)
	}
	return e.File + ": " + e.Msg
}

// Missing reports whether an error is that there is no such file.
func Missing(err error) bool {
	var fe *FileError
	return errors.Is(err, fs.ErrNotExist) || errors.As(err, &fe) && fe.gone
}

// reason is an operating system's error without the path, which the message names already.
func reason(err error) string {
	var pe *fs.PathError
	var le *os.LinkError
	if errors.As(err, &pe) {
		err = pe.Err
	} else if errors.As(err, &le) {
		err = le.Err
	}
	switch {
	case errors.Is(err, fs.ErrPermission):
		return "permission denied"
	case strings.Contains(err.Error(), "path escapes from parent"):
		return errOutside.Error()
	}
	return err.Error()
}
