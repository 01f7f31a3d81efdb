package workspace

import (
	"bytes"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"

	"archetyp/core/emit"
)

// MissingError says that something outside of the program is missing.
type MissingError struct{ Msg, Hint string }

func (e *MissingError) Error() string { return e.Msg }

// git runs git in the workspace and gives what it prints.
func (w *Workspace) git(args ...string) ([]byte, error) {
	c := exec.Command("git", append([]string{"-C", w.Dir}, args...)...)
	var out, errs bytes.Buffer
	c.Stdout, c.Stderr = &out, &errs
	err := c.Run()
	if errors.Is(err, exec.ErrNotFound) {
		return nil, &MissingError{"git is not installed", "Install git, or name files and folders."}
	}
	if err != nil {
		return nil, fmt.Errorf("git %s: %s", args[0], strings.TrimSpace(strings.TrimPrefix(strings.SplitN(errs.String(), "\n", 2)[0], "fatal: ")))
	}
	return out.Bytes(), nil
}

// Revision checks that git knows a revision, and gives a reader of workspace files as they were in it.
func (w *Workspace) Revision(rev string) (func(path string) ([]byte, error), error) {
	if strings.HasPrefix(rev, "-") {
		return nil, fmt.Errorf("%q is no revision", rev)
	}
	if _, err := w.git("rev-parse", "--verify", "--quiet", rev+"^{commit}"); err != nil {
		var missing *MissingError
		if errors.As(err, &missing) {
			return nil, err
		}
		return nil, fmt.Errorf("%q is no file, no folder and no revision that git knows", rev)
	}
	return func(path string) ([]byte, error) {
		data, err := w.git("show", rev+":./"+path)
		if err != nil {
			return nil, &FileError{File: rev + ":" + path, Msg: "there is no such file"}
		}
		return data, nil
	}, nil
}

// FilesIn lists the workspace's files in a revision.
func (w *Workspace) FilesIn(rev string) ([]string, error) {
	data, err := w.git("ls-tree", "-r", "-z", "--name-only", rev, "./")
	if err != nil {
		return nil, err
	}
	return strings.Split(strings.TrimSuffix(string(data), "\x00"), "\x00"), nil
}

// The names of the merge drivers in .gitattributes and in git's configuration.
const (
	tokenDriver  = "archetyp-tokens"
	remakeDriver = "archetyp-remake"
)

// AttributesName is git's file that says how files are merged.
const AttributesName = ".gitattributes"

// Attributes are the lines that .gitattributes lacks: token files merge token by token; what sync makes keeps one side
// and is made anew.
func (w *Workspace) Attributes() []string {
	have, _ := w.ReadFile(AttributesName) // absent is empty
	want := []string{"*.tokens.json merge=" + tokenDriver, LockName + " merge=" + remakeDriver}
	for _, o := range w.Config.Outputs {
		at := attributePath(o.To)
		if lang, _ := emit.Of(o.As); lang.Folder {
			at += "/**"
		}
		want = append(want, at+" merge="+remakeDriver)
	}
	for _, dir := range []string{w.Config.Assets.To, w.Config.Guide.To} {
		want = append(want, attributePath(dir)+"/** merge="+remakeDriver)
	}
	lines := map[string]bool{}
	for _, l := range strings.Split(string(have), "\n") {
		lines[strings.TrimSpace(l)] = true
	}
	var out []string
	for _, l := range want {
		if !lines[l] {
			lines[l] = true
			out = append(out, l)
		}
	}
	return out
}

func attributePath(p string) string {
	return strings.ReplaceAll(strings.TrimSuffix(p, "/"), " ", "[[:space:]]")
}

// InGit says whether the workspace lies in a work tree of git.
func (w *Workspace) InGit() bool {
	if w.gitDir() != "" {
		return true
	}
	_, err := w.git("rev-parse", "--git-dir")
	return err == nil
}

// gitDir finds the .git folder above the workspace; "" for none, or where it is somewhere else.
func (w *Workspace) gitDir() string {
	for d := w.Dir; ; d = filepath.Dir(d) {
		if info, err := os.Stat(filepath.Join(d, ".git")); err == nil {
			if info.IsDir() {
				return filepath.Join(d, ".git")
			}
			return ""
		}
		if d == filepath.Dir(d) {
			return ""
		}
	}
}

// MergesByToken says whether git in this clone knows how token files merge. wanted is false where nobody asked for it:
// no git, or no .gitattributes that names the driver.
func (w *Workspace) MergesByToken() (known, wanted bool) {
	data, err := w.ReadFile(AttributesName)
	if err != nil || !bytes.Contains(data, []byte("merge="+tokenDriver)) {
		return false, false
	}
	if dir := w.gitDir(); dir != "" { // the usual place is soon read
		if cfg, err := os.ReadFile(filepath.Join(dir, "config")); err == nil && bytes.Contains(cfg, []byte(`[merge "`+tokenDriver+`"]`)) {
			return true, true
		}
	}
	if _, err := w.git("rev-parse", "--git-dir"); err != nil {
		return false, false
	}
	_, err = w.git("config", "--get", "merge."+tokenDriver+".driver")
	return err == nil, true
}

// RegisterMerge tells git in this clone how token files merge.
func (w *Workspace) RegisterMerge() error {
	for _, kv := range [][2]string{
		{"merge." + tokenDriver + ".name", "design tokens, token by token"},
		{"merge." + tokenDriver + ".driver", "archetyp tokens merge %O %A %B --into %A --name %P"},
		{"merge." + remakeDriver + ".name", "made anew by archetyp sync"},
		{"merge." + remakeDriver + ".driver", "true"},
	} {
		if _, err := w.git("config", kv[0], kv[1]); err != nil {
			return err
		}
	}
	return nil
}
