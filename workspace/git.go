package workspace

import (
	"bytes"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"time"

	"archetyp/core/hint"
	"archetyp/core/markup"
	"archetyp/core/token/emit"
)

// tame keeps git from running what a repository that came from elsewhere has configured.
var tame = []string{"--no-pager", "-c", "core.fsmonitor=false", "-c", "core.hooksPath=" + os.DevNull, "-c",
	"protocol.allow=never", "-c", "gc.auto=0", "-c", "maintenance.auto=false",
	"-c", "core.sshCommand=false", "-c", "diff.external=", "-c", "core.alternateRefsCommand=", "--no-optional-locks"}

func (w *Workspace) gitCommand(args ...string) *exec.Cmd {
	return exec.Command("git", append(append([]string{"-C", w.Dir}, tame...), args...)...)
}

// git runs git in the workspace and gives what it prints.
func (w *Workspace) git(args ...string) ([]byte, error) {
	return output(w.gitCommand(args...), args[0])
}

// output runs git, and gives what it prints. doing is what it does, for messages.
func output(c *exec.Cmd, doing string) ([]byte, error) {
	var out, errs bytes.Buffer
	c.Stdout, c.Stderr = &out, &errs
	err := c.Run()
	if errors.Is(err, exec.ErrNotFound) {
		return nil, &hint.MissingError{Msg: "git is not installed", Hint: "Install git, or name files and folders."}
	}
	if err != nil {
		return nil, fmt.Errorf("git %s: %s", doing,
			strings.TrimSpace(strings.TrimPrefix(strings.SplitN(errs.String(), "\n", 2)[0], "fatal: ")))
	}
	return out.Bytes(), nil
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

// InGit reports whether the workspace lies in a work tree of git.
func (w *Workspace) InGit() bool {
	if w.gitDir() != "" {
		return true
	}
	_, err := w.git("rev-parse", "--git-dir")
	return err == nil
}

// BesideGit is InGit where that is seen without asking git.
func (w *Workspace) BesideGit() bool { return w.gitDir() != "" }

// gitDir finds the .git folder above the workspace; "" for none, or where it is somewhere else.
func (w *Workspace) gitDir() string {
	for d := w.Dir; ; d = filepath.Dir(d) {
		if info, err := os.Stat(filepath.Join(d, ".git")); err == nil {
			if info.IsDir() {
				return filepath.Join(d, ".git")
			}
			return linkedGitDir(d)
		}
		if d == filepath.Dir(d) {
			return ""
		}
	}
}

// linkedGitDir is the folder a .git file names: that of a work tree beside others, or of a submodule.
func linkedGitDir(dir string) string {
	data, err := ReadFile(filepath.Join(dir, ".git"), ".git")
	rest, ok := strings.CutPrefix(strings.TrimSpace(string(data)), "gitdir: ")
	if err != nil || !ok {
		return ""
	}
	if !filepath.IsAbs(rest) {
		rest = filepath.Join(dir, rest)
	}
	return rest
}

// indexFile keeps what git's index was like when nothing in it was unmerged.
const indexFile = "index"

// Unmerged lists the token, text and lock files of the workspace that git knows as unmerged. Where the index has not
// changed since it was clean, git is not asked.
func (w *Workspace) Unmerged() []string {
	if w.guest {
		return nil
	}
	dir := w.gitDir()
	if dir == "" {
		return nil
	}
	info, err := os.Stat(filepath.Join(dir, "index"))
	if err != nil {
		return nil
	}
	now := fmt.Sprintf("%d %d\n", info.Size(), info.ModTime().UnixNano())
	if seen, ok := w.Cached(indexFile); ok && string(seen) == now {
		return nil
	}
	list, err := w.git("ls-files", "-u", "-z", "--", ".")
	if err != nil {
		return nil // it is git's to complain
	}
	seen := map[string]bool{}
	for _, entry := range strings.Split(string(list), "\x00") {
		if _, path, ok := strings.Cut(entry, "\t"); ok {
			seen[filepath.ToSlash(path)] = true
		}
	}
	if len(seen) == 0 {
		if time.Since(info.ModTime()) > settled {
			w.Cache(indexFile, []byte(now))
		}
		return nil
	}
	var out []string
	for _, p := range sorted(seen) {
		if what := w.what(p); p == LockName || what == tokenFile || what == catalogue || what == resolverFile {
			out = append(out, p)
		}
	}
	return out
}

// conflictMark begins the side of a conflict that git could not merge.
const conflictMark = "<<<<<<< "

// Conflict is the error for a file that holds conflict marks of git; nil for any other.
func Conflict(name string, data []byte) error {
	at := -1
	if bytes.HasPrefix(data, []byte(conflictMark)) {
		at = 0
	} else if i := bytes.Index(data, []byte("\n"+conflictMark)); i >= 0 {
		at = i + 1
	}
	if at < 0 {
		return nil
	}
	return &FileError{File: name, Position: markup.Lines(data).Position(at),
		Msg: "git could not merge this file: it holds conflict marks",
		Hint: "Keep one side of each, then \"git add " + name +
			"\". \"archetyp init --git\" has token files merged token by token."}
}

// MergesByToken reports whether git in this clone knows how token files merge. wanted is false where nobody asked for
// it: no git, or no .gitattributes that names the driver.
func (w *Workspace) MergesByToken() (known, wanted bool) {
	data, err := w.ReadFile(AttributesName)
	if err != nil || !bytes.Contains(data, []byte("merge="+tokenDriver)) {
		return false, false
	}
	if dir := w.gitDir(); dir != "" { // the usual place is soon read
		if cfg, err := ReadFile(filepath.Join(dir, "config"), "config"); err == nil &&
			bytes.Contains(cfg, []byte(`[merge "`+tokenDriver+`"]`)) && bytes.Contains(cfg, []byte(lineMerge)) {
			return true, true
		}
	}
	if _, err := w.git("rev-parse", "--git-dir"); err != nil {
		return false, false
	}
	driver, err := w.git("config", "--get", "merge."+tokenDriver+".driver")
	return err == nil && bytes.Contains(driver, []byte(lineMerge)), true
}

// lineMerge is how git merges a token file where archetyp is nowhere to be found: line by line, with conflict marks.
const lineMerge = "git merge-file -L ours -L base -L theirs %A %O %B"

// tokenMerge is the driver for token files: this program where it lies now, else one on the PATH, else git's own merge.
func tokenMerge() string {
	find := "p=archetyp"
	if exe, err := os.Executable(); err == nil && !strings.Contains(filepath.ToSlash(exe), "/go-build") {
		exe = strings.ReplaceAll(strings.ReplaceAll(exe, "'", `'\''`), "%", "%%")
		find = "p='" + filepath.ToSlash(exe) + "'; [ -x \"$p\" ] || p=archetyp"
	}
	return find + `; command -v "$p" >/dev/null 2>&1 || exec ` + lineMerge +
		`; exec "$p" tokens merge %O %A %B --into %A --name %P`
}

// RegisterMerge tells git in this clone how token files merge.
func (w *Workspace) RegisterMerge() error {
	for _, kv := range [][2]string{
		{"merge." + tokenDriver + ".name", "design tokens, token by token"},
		{"merge." + tokenDriver + ".driver", tokenMerge()},
		{"merge." + remakeDriver + ".name", "made anew by archetyp sync"},
		{"merge." + remakeDriver + ".driver", "true"},
	} {
		if _, err := w.git("config", kv[0], kv[1]); err != nil {
			return err
		}
	}
	return nil
}
