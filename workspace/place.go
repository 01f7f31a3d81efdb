package workspace

import (
	"errors"
	"fmt"
	"io/fs"
	"path"
	"path/filepath"
	"strings"
	"unicode"

	"archetyp/core/phase"
	"archetyp/core/remark"
	"archetyp/core/text/message"

	"github.com/bmatcuk/doublestar/v4"
)

// TextDir is where the catalogue lies.
const TextDir = "text"

// placeError says why nothing is written at a place.
type placeError struct{ msg, hint string }

func (e *placeError) Error() string { return e.msg }

// mayWrite says why a file of a kind may not be written at a path, and gives the path with its links followed.
func (w *Workspace) mayWrite(name string, kind Kind) (real string, err error) {
	if real, err = w.writable(name); err != nil {
		return "", err
	}
	for _, p := range []string{name, real} {
		if err := w.forbidden(p, kind); err != nil {
			return "", err
		}
	}
	return real, nil
}

// writable is mayWrite for any kind of file: inside the workspace, not in the folders of git and of the program, and
// over nothing but an ordinary file.
func (w *Workspace) writable(name string) (real string, err error) {
	if name == "" || strings.ContainsRune(name, 0) || path.Clean(name) != name ||
		!filepath.IsLocal(filepath.FromSlash(name)) || name == "." {
		return "", &placeError{"this is no place inside the workspace", ""}
	}
	if real, err = w.folder.resolve(name); err != nil {
		if errors.Is(err, errOutside) {
			return "", &placeError{err.Error() + ", and nothing is written through it",
				"Remove the link, or choose another place."}
		}
		return "", &placeError{reason(err), ""}
	}
	for _, p := range []string{name, real} {
		if err := sacred(p); err != nil {
			return "", err
		}
	}
	info, err := w.folder.root.Lstat(filepath.FromSlash(real))
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return real, nil
	case err != nil:
		return "", &placeError{"cannot be written: " + reason(err), ""}
	case info.IsDir():
		return "", &placeError{"a folder stands where a file is to be written", "Move the folder away."}
	case !info.Mode().IsRegular():
		return "", &placeError{"what stands here is no ordinary file", "Remove it, or choose another place."}
	}
	return real, nil
}

// sacred refuses the folders of git and of the program.
func sacred(name string) error {
	for i, part := range strings.Split(name, "/") {
		if IsGitDir(part) {
			return &placeError{"nothing is written into the folder of git", "Choose another place."}
		}
		if i == 0 && fold(part) == stateDir {
			return &placeError{"nothing is written into the program's own folder", "Choose another place."}
		}
	}
	return nil
}

// forbidden says why a kind of file may not be at a path, links aside.
func (w *Workspace) forbidden(name string, kind Kind) error {
	folded := fold(name)
	switch kind {
	case Memory:
		if name == LockName {
			return nil
		}
		return unknownFailure("the lock is written elsewhere")
	case Settings, Pulled:
		return nil
	case Tokens:
		if what := w.what(name); what != "" && what != tokenFile {
			return &placeError{"this is " + what + ", not a token file", ""}
		}
		return nil
	case Drawings:
		if what := w.what(name); what != "a source" {
			return unknownFailure("a drawing is written where none is")
		}
		return nil
	case Captures:
		if !strings.HasPrefix(folded, CaptureDir+"/") {
			return unknownFailure("a capture is written elsewhere")
		}
		return nil
	case Annotations:
		if !IsAnnotation(name) {
			return unknownFailure("phases or remarks are written elsewhere")
		}
		return nil
	case Texts:
		if !strings.HasPrefix(folded, TextDir+"/") || path.Ext(folded) != ".json" {
			return unknownFailure("the catalogue is written elsewhere")
		}
		return nil
	}
	if kind == Named && !w.Exists(name) {
		return nil // a new drawing or token file may be made
	}
	if what := w.what(name); what != "" {
		return &placeError{"this is " + what + ", and nothing else is written there", "Choose another place."}
	}
	return nil
}

// what says what a file of the workspace is that nothing generated may replace; "" for any other.
func (w *Workspace) what(name string) string {
	w.mu.Lock()
	if w.protected == nil {
		w.mu.Unlock()
		list := w.protect()
		w.mu.Lock()
		w.protected = list
	}
	folded := fold(name)
	what := w.protected[folded]
	w.mu.Unlock()
	if what != "" {
		return what
	}
	return w.Config.reserved(folded)
}

// protect lists the files that nothing generated may replace, besides those the configuration alone tells.
func (w *Workspace) protect() map[string]string {
	out := map[string]string{}
	if files, err := w.TokenFiles(); err == nil {
		for _, f := range files {
			out[fold(f)] = tokenFile
		}
	}
	if files, err := w.FontFiles(); err == nil {
		for _, f := range files {
			out[fold(f)] = "a font"
		}
	}
	return out
}

// What files are called that commands ask about.
const (
	tokenFile    = "a token file"
	catalogue    = "part of the catalogue"
	resolverFile = "the resolver"
)

// reserved says what a place belongs to by the configuration alone; "" for nothing.
func (c *Config) reserved(name string) string {
	name = fold(name)
	switch {
	case name == ConfigName:
		return "the configuration"
	case name == LockName:
		return "the lock"
	case name == AttributesName:
		return "git's own file"
	case c.Tokens.Resolver != "" && name == fold(path.Clean(c.Tokens.Resolver)):
		return resolverFile
	case IsCatalogue(name):
		return catalogue
	case name == phase.FileName:
		return "the file of the phases"
	case IsAnnotation(name):
		return "a remark"
	case strings.HasPrefix(name, UpstreamDir+"/") && len(c.Tokens.Upstream)+len(c.Shared) > 0:
		return "taken from upstream"
	case matchesAny(c.Sources, name):
		return "a source"
	case c.Tokens.Resolver == "" && matchesAny(c.Tokens.Files, name):
		return tokenFile
	}
	for _, o := range c.Outputs {
		if o.Template != "" && fold(path.Clean(o.Template)) == name {
			return "a template"
		}
	}
	for _, f := range c.Fonts {
		if dir := fold(path.Clean(f)); path.Dir(name) == dir && (path.Ext(name) == ".ttf" || path.Ext(name) == ".otf") {
			return "a font"
		}
	}
	if matchesAny(c.Fonts, name) {
		return "a font"
	}
	return ""
}

// IsCatalogue reports whether a path is that of a file of the catalogue: text/<locale>.json or text/keys.json.
func IsCatalogue(name string) bool {
	stem, ok := strings.CutSuffix(path.Base(name), ".json")
	return ok && path.Dir(name) == TextDir && (stem == "keys" || message.CheckLocale(stem))
}

// IsAnnotation reports whether a path is that of the phases or of a remark: phases.yaml or remarks/<name>.md.
func IsAnnotation(name string) bool {
	return name == phase.FileName || path.Dir(name) == remark.Dir && path.Ext(name) == ".md"
}

func matchesAny(patterns []string, name string) bool {
	for _, p := range patterns {
		if ok, _ := doublestar.Match(fold(path.Clean(filepath.ToSlash(p))), name); ok {
			return true
		}
	}
	return false
}

// Protected says what stands at a path that nothing may be written over: a source, a token file …; "" for nothing.
func (w *Workspace) Protected(name string) string {
	if _, err := w.mayWrite(name, Generated); err != nil {
		return err.Error()
	}
	return ""
}

// fold makes paths alike that some file systems take for one.
func fold(name string) string { return strings.ToLower(name) }

// IsGitDir reports whether a name is, on any file system, that of git's own folder: other case, letters that are not
// shown, trailing dots and spaces, its short name, or a stream of it.
func IsGitDir(name string) bool {
	name = strings.Map(func(r rune) rune {
		if unicode.Is(unicode.Cf, r) {
			return -1
		}
		return unicode.ToLower(r)
	}, name)
	name, _, _ = strings.Cut(name, ":")
	name = strings.TrimRight(name, ". ")
	if name == ".git" {
		return true
	}
	short, ok := strings.CutPrefix(name, "git~")
	return ok && strings.Trim(short, "0123456789") == ""
}

// placed turns what is wrong with a place into an error with the file's name.
func placed(name string, err error) error {
	var pe *placeError
	if errors.As(err, &pe) {
		return &FileError{File: name, Msg: pe.msg, Hint: strings.TrimSpace("Nothing was changed. " + pe.hint)}
	}
	return fmt.Errorf("%s: %w", name, err)
}
