package workspace

import (
	"bytes"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path"
	"path/filepath"
	"strings"

	"archetyp/core/hint"
)

// Blob is one file of a tree.
type Blob struct {
	Mode, Object string // of git: "100644" and the name of its contents; "" for none
}

// Merged is the outcome of a merge by git: a tree in which the files that git could not merge still have to be settled.
type Merged struct {
	Tree     string
	Unmerged map[string][3]Blob // by path in the repository: base, ours, theirs
}

// MergeTrees merges two commits by git alone, in no work tree: lines of files, and what was renamed.
func (r *Repo) MergeTrees(ours, theirs string) (*Merged, error) {
	c := r.command("-C", r.top(), "-c", "merge."+tokenDriver+".driver=true", "-c", "merge."+remakeDriver+".driver=true", "-c", "merge.default=text",
		"merge-tree", "--write-tree", "-z", "--no-messages", ours, theirs)
	var out, errs bytes.Buffer
	c.Stdout, c.Stderr = &out, &errs
	err := c.Run()
	var exit *exec.ExitError
	if err != nil && (!errors.As(err, &exit) || exit.ExitCode() != 1) {
		msg := strings.SplitN(strings.TrimSpace(errs.String()), "\n", 2)[0]
		if strings.HasPrefix(msg, "usage:") || strings.Contains(msg, "unknown option") {
			return nil, &hint.MissingError{Msg: "this git is too old to merge without a work tree", Hint: "Install git 2.38 or newer."}
		}
		if strings.Contains(msg, "unrelated histories") {
			return nil, hint.New("the remote's branch has nothing in common with this one", "Is it the right remote?")
		}
		return nil, fmt.Errorf("git merge-tree: %s", strings.TrimPrefix(msg, "fatal: "))
	}
	parts := strings.Split(out.String(), "\x00")
	m := &Merged{Tree: parts[0], Unmerged: map[string][3]Blob{}}
	for _, p := range parts[1:] {
		about, name, ok := strings.Cut(p, "\t")
		f := strings.Fields(about)
		if !ok || len(f) != 3 || len(f[2]) != 1 || f[2][0] < '1' || f[2][0] > '3' {
			continue
		}
		b := m.Unmerged[name]
		b[f[2][0]-'1'] = Blob{f[0], f[1]}
		m.Unmerged[name] = b
	}
	return m, nil
}

// Files lists the files of a commit or tree by path in the repository.
func (r *Repo) Files(tree string) (map[string]Blob, error) {
	out, err := r.git("ls-tree", "-r", "-z", "--full-tree", tree)
	if err != nil {
		return nil, err
	}
	files := map[string]Blob{}
	for entry := range strings.SplitSeq(string(out), "\x00") {
		about, name, ok := strings.Cut(entry, "\t")
		if f := strings.Fields(about); ok && len(f) == 3 {
			files[name] = Blob{f[0], f[2]}
		}
	}
	return files, nil
}

// Contents reads a blob.
func (r *Repo) Contents(b Blob) ([]byte, error) {
	if b.Object == "" {
		return nil, nil
	}
	if r.blobs == nil {
		blobs := &revision{}
		if err := blobs.start(r.command("cat-file", "--batch")); err != nil {
			return nil, err
		}
		r.blobs = blobs
	}
	return r.blobs.blob(b.Object)
}

// Close ends what reads from the repository.
func (r *Repo) Close() {
	if r.blobs != nil {
		r.blobs.Close()
		r.blobs = nil
	}
}

// Edit is a change to a tree: files by path in the repository with their new bytes; nil takes one away.
type Edit map[string][]byte

// Edited writes a tree with some files changed, without a work tree or the index of the repository.
func (r *Repo) Edited(tree string, e Edit) (string, error) {
	if len(e) == 0 {
		return tree, nil
	}
	dir, err := r.w.scratch()
	if err != nil {
		return "", err
	}
	defer os.RemoveAll(dir)
	paths := sorted(e)
	var names, info bytes.Buffer
	var kept []string
	for i, p := range paths {
		if e[p] == nil {
			fmt.Fprintf(&info, "0 %040d\t%s\x00", 0, p)
			continue
		}
		name := filepath.Join(dir, fmt.Sprint(i))
		if err := os.WriteFile(name, e[p], 0o600); err != nil {
			return "", err
		}
		fmt.Fprintln(&names, name)
		kept = append(kept, p)
	}
	objects, err := r.feed(nil, names.Bytes(), "hash-object", "-w", "--no-filters", "--stdin-paths")
	if err != nil {
		return "", err
	}
	list := strings.Fields(string(objects))
	if len(list) != len(kept) {
		return "", errors.New("git did not store all files")
	}
	modes, err := r.Files(tree)
	if err != nil {
		return "", err
	}
	for i, p := range kept {
		mode := modes[p].Mode
		if mode != "100755" {
			mode = "100644"
		}
		fmt.Fprintf(&info, "%s %s\t%s\x00", mode, list[i], p)
	}
	env := []string{"GIT_INDEX_FILE=" + filepath.Join(dir, "index")}
	for _, step := range []struct {
		in   []byte
		args []string
	}{{nil, []string{"read-tree", tree}}, {info.Bytes(), []string{"update-index", "-z", "--index-info"}}} {
		if _, err := r.feed(env, step.in, step.args...); err != nil {
			return "", err
		}
	}
	out, err := r.feed(env, nil, "write-tree")
	return strings.TrimSpace(string(out)), err
}

// scratch is a folder for files that live as long as one step.
func (w *Workspace) scratch() (string, error) {
	if err := w.stateFolder(); err != nil {
		return "", err
	}
	return os.MkdirTemp(filepath.Join(w.Dir, stateDir), "scratch-")
}

// feed runs git with something on its standard input.
func (r *Repo) feed(env []string, in []byte, args ...string) ([]byte, error) {
	c := r.command(args...)
	if len(env) > 0 {
		c.Env = append(os.Environ(), env...)
	}
	c.Stdin = bytes.NewReader(in)
	var out, errs bytes.Buffer
	c.Stdout, c.Stderr = &out, &errs
	if err := c.Run(); err != nil {
		return nil, identity(errs.String(), args[0])
	}
	return out.Bytes(), nil
}

// CommitTree makes a commit of a tree; no branch has it yet.
func (r *Repo) CommitTree(tree, message string, parents ...string) (string, error) {
	args := []string{"commit-tree", "--no-gpg-sign", "-F", "-"}
	for _, p := range parents {
		args = append(args, "-p", p)
	}
	out, err := r.feed(nil, []byte(message+"\n"), append(args, tree)...)
	return strings.TrimSpace(string(out)), err
}

// Inside is a path of the repository as one of the workspace; ok is false for a file outside of it.
func (r *Repo) Inside(name string) (string, bool) { return strings.CutPrefix(name, r.Prefix) }

// top is the folder of the work tree.
func (r *Repo) top() string {
	dir := r.w.Dir
	for range strings.Count(r.Prefix, "/") {
		dir = filepath.Dir(dir)
	}
	return dir
}

// onDisk is where a file of the repository lies.
func (r *Repo) onDisk(name string) string {
	return filepath.Join(r.top(), filepath.FromSlash(path.Clean("/"+name)))
}
