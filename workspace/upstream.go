package workspace

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"path"
	"path/filepath"
	"regexp"
	"slices"
	"strings"

	"archetyp/core/hint"

	"github.com/bmatcuk/doublestar/v4"
)

// UpstreamDir is where files lie that belong to somebody else: token files, and drawings of shared components. They are
// taken over as they are, and changed nowhere but there.
const UpstreamDir = "upstream"

// Upstream is where files come from: those of a repository that match, one file, or an address.
type Upstream struct {
	Name  string `yaml:"name"`  // of their folder; that of the repository or file by default
	Repo  string `yaml:"repo"`  // a path from the workspace, or an address that git knows
	Ref   string `yaml:"ref"`   // a tag, branch or commit; the default branch by default
	Files string `yaml:"files"` // a pattern
	File  string `yaml:"file"`  // instead of a repository, a path
	URL   string `yaml:"url"`   // or an address
}

// Folder is the name of its folder below UpstreamDir.
func (u *Upstream) Folder() string {
	if u.Name != "" {
		return u.Name
	}
	from := strings.TrimRight(u.Repo+u.File+u.URL, "/")
	if i := strings.IndexAny(from, "?#"); i >= 0 {
		from = from[:i]
	}
	base := path.Base(filepath.ToSlash(from))
	for _, ext := range []string{".git", ".json", ".tokens"} {
		base = strings.TrimSuffix(base, ext)
	}
	return strings.Trim(notInNames.ReplaceAllString(base, "-"), "-.")
}

var notInNames = regexp.MustCompile(`[^\pL\pN._-]+`)

// Place is where its files lie in the workspace.
func (u *Upstream) Place() string { return UpstreamDir + "/" + u.Folder() }

// Where says where it is, for people.
func (u *Upstream) Where() string {
	switch {
	case u.Repo != "" && u.Ref != "":
		return u.Repo + " at " + u.Ref
	case u.Repo != "":
		return u.Repo
	}
	return u.File + u.URL
}

// check says what is wrong with it.
func (u *Upstream) check(pattern string) error {
	n := 0
	for _, s := range []string{u.Repo, u.File, u.URL} {
		if s != "" {
			n++
		}
		if strings.HasPrefix(s, "-") || strings.ContainsAny(s, "\x00\n") {
			return fmt.Errorf("%q is no place", s)
		}
	}
	switch {
	case n != 1:
		return fmt.Errorf("it needs a repo, a file or a url, and one of them only")
	case u.Repo != "" && u.Files == "":
		return fmt.Errorf("a repo needs files: a pattern such as %s", pattern)
	case u.Repo == "" && (u.Files != "" || u.Ref != ""):
		return fmt.Errorf("ref and files belong to a repo")
	case u.Files != "" && !doublestar.ValidatePattern(u.Files):
		return fmt.Errorf("%q is no pattern", u.Files)
	case strings.HasPrefix(u.Ref, "-") || strings.ContainsAny(u.Ref, " ~^:?*[\\\x00\n\t") || strings.Contains(u.Ref, ".."):
		return fmt.Errorf("%q is no tag, branch or commit", u.Ref)
	case u.URL != "" && !strings.HasPrefix(u.URL, "https://") && !strings.HasPrefix(u.URL, "http://"):
		return fmt.Errorf("%q is no address", u.URL)
	case u.Folder() == "" || u.Folder() != notInNames.ReplaceAllString(u.Folder(), "-") || strings.HasPrefix(u.Folder(), ".") || IsGitDir(u.Folder()):
		return fmt.Errorf("give it a name of letters and digits")
	}
	return nil
}

// checkUpstream refuses upstreams that mean nothing, and two with one name.
func (c *Config) checkUpstream(fail func(at, format string, args ...any) error) error {
	taken := map[string]bool{}
	for where, list := range map[string][]Upstream{"tokens.upstream": c.Tokens.Upstream, "components.upstream": c.Shared} {
		pattern := "tokens/*.json"
		if where != "tokens.upstream" {
			pattern = "design/*.svg"
		}
		for i := range list {
			at := fmt.Sprintf("$.%s[%d]", where, i)
			if err := list[i].check(pattern); err != nil {
				return fail(at, "%s: %v", where, err)
			}
			if f := fold(list[i].Folder()); taken[f] {
				return fail(at, "%s: two are called %s; give one a name", where, list[i].Folder())
			} else {
				taken[f] = true
			}
		}
	}
	return nil
}

// upstreamNote is the file that says where the files beside it come from.
const upstreamNote = "upstream.json"

// Taken says where the files of an upstream were taken from.
type Taken struct {
	From   string            `json:"from"`
	Ref    string            `json:"ref,omitempty"`
	Commit string            `json:"commit,omitempty"` // of a repository
	Files  map[string]string `json:"files"`            // hashes, by path in the folder
}

// Taken reads where the files of an upstream come from; ok is false where none were taken yet.
func (w *Workspace) Taken(u *Upstream) (t Taken, ok bool, err error) {
	name := u.Place() + "/" + upstreamNote
	data, err := w.ReadFile(name)
	if err != nil {
		if Missing(err) {
			return t, false, nil
		}
		return t, false, err
	}
	if err := json.Unmarshal(data, &t); err != nil {
		return t, false, &FileError{File: name, Msg: "not what was written there: " + err.Error(), Hint: "\"archetyp tokens upstream --update\" writes it anew."}
	}
	return t, true, nil
}

// UpstreamFiles are the files of an upstream, as paths of the workspace. It fails where they were never taken, or were
// edited here.
func (w *Workspace) UpstreamFiles(u *Upstream) ([]string, error) {
	t, ok, err := w.Taken(u)
	if err != nil {
		return nil, err
	}
	if !ok {
		return nil, &FileError{File: ConfigName, Msg: "nothing was taken from " + u.Where() + " yet", Hint: "\"archetyp tokens upstream --update\" takes it."}
	}
	var out []string
	for _, f := range sorted(t.Files) {
		p := path.Join(u.Place(), f)
		if !strings.HasPrefix(p, u.Place()+"/") {
			return nil, &FileError{File: u.Place() + "/" + upstreamNote, Msg: fmt.Sprintf("%q lies outside of the folder", f)}
		}
		data, err := w.ReadFile(p)
		if err != nil {
			return nil, err
		}
		if Hash(data) != t.Files[f] {
			return nil, &FileError{File: p, Msg: "was edited here, and belongs to " + u.Where(),
				Hint: "\"archetyp tokens upstream --update\" takes it as it is there; \"archetyp tokens set … --upstream\" proposes a value there."}
		}
		out = append(out, p)
	}
	return out, nil
}

// UpstreamOf is the upstream that a file of the workspace belongs to; nil for none.
func (w *Workspace) UpstreamOf(file string) *Upstream {
	for _, list := range [][]Upstream{w.Config.Tokens.Upstream, w.Config.Shared} {
		for i := range list {
			if strings.HasPrefix(file, list[i].Place()+"/") {
				return &list[i]
			}
		}
	}
	return nil
}

// FetchUpstream reads the files of an upstream that is a repository or a file, as they are there now.
func (w *Workspace) FetchUpstream(ctx context.Context, u *Upstream) (t Taken, files map[string][]byte, err error) {
	files = map[string][]byte{}
	t = Taken{From: u.Repo + u.File + u.URL, Ref: u.Ref, Files: map[string]string{}}
	if u.File != "" {
		data, err := ReadFile(w.beside(u.File), u.File)
		if err != nil {
			return t, nil, err
		}
		files[path.Base(filepath.ToSlash(u.File))] = data
	} else {
		r, err := w.upstreamRepo(ctx, u)
		if err != nil {
			return t, nil, err
		}
		defer r.Close()
		t.Commit = r.Commit(upstreamRef)
		all, err := r.Files(upstreamRef)
		if err != nil {
			return t, nil, err
		}
		for p, b := range all {
			if ok, _ := doublestar.Match(u.Files, p); !ok || !b.plain() || path.Clean("/"+p) != "/"+p || slices.ContainsFunc(strings.Split(p, "/"), IsGitDir) {
				continue
			}
			if files[p], err = r.Contents(b); err != nil {
				return t, nil, err
			}
		}
		if len(files) == 0 {
			return t, nil, hint.New(u.Where()+" has no file that matches "+u.Files, "See files: under upstream: in "+ConfigName+".")
		}
	}
	t.Seal(files)
	return t, files, nil
}

// Seal notes the hashes of files.
func (t *Taken) Seal(files map[string][]byte) {
	for p, data := range files {
		t.Files[p] = Hash(data)
	}
}

// Take is the change that takes over files of an upstream, and away those that it no longer has.
func (w *Workspace) Take(u *Upstream, t Taken, files map[string][]byte) (*Change, error) {
	change := &Change{}
	old, _, err := w.Taken(u)
	if err != nil {
		return nil, err
	}
	for p := range old.Files {
		if _, still := files[p]; !still && w.Exists(path.Join(u.Place(), p)) {
			change.Remove(Pulled, path.Join(u.Place(), p))
		}
	}
	for p, data := range files {
		change.Put(w, Pulled, path.Join(u.Place(), p), data)
	}
	data, err := json.MarshalIndent(t, "", "  ")
	if err == nil {
		change.Put(w, Pulled, u.Place()+"/"+upstreamNote, append(data, '\n'))
	}
	return change, err
}

// beside is a path that the configuration gives, on disk.
func (w *Workspace) beside(name string) string {
	if filepath.IsAbs(name) {
		return name
	}
	return filepath.Join(w.Dir, filepath.FromSlash(name))
}

// upstreamRef is where the wanted commit of an upstream is kept in our copy of its repository.
const upstreamRef = "refs/archetyp/upstream"

// upstreamRepo is a bare copy of an upstream's repository among the caches, with the wanted commit in it.
func (w *Workspace) upstreamRepo(ctx context.Context, u *Upstream) (*Repo, error) {
	if err := w.stateFolder(); err != nil {
		return nil, err
	}
	dir := filepath.Join(w.Dir, stateDir, "upstream", u.Folder()+".git")
	if _, err := os.Stat(filepath.Join(dir, "HEAD")); err != nil {
		if err := os.MkdirAll(dir, 0o755); err != nil {
			return nil, err
		}
		if _, err := w.git("init", "--quiet", "--bare", "--template=", dir); err != nil {
			return nil, err
		}
	}
	from := u.Repo
	if !strings.Contains(from, "://") && !scpLike.MatchString(from) {
		from = w.beside(from)
	}
	r := &Repo{w: w, dir: dir, Remote: from, Wait: Patience}
	ref := u.Ref
	if ref == "" {
		ref = "HEAD"
	}
	if _, err := r.talk(ctx, "fetch", "--progress", "--no-tags", "--no-write-fetch-head", "--end-of-options", from, "+"+ref+":"+upstreamRef); err != nil {
		return nil, hint.New(fmt.Sprintf("%s: %v", u.Where(), err), "Is the place right, and is there such a ref?")
	}
	return r, nil
}

var scpLike = regexp.MustCompile(`^[\w.-]+@[\w.-]+:`)

// Propose makes a branch in an upstream's repository that has files with other contents, by path there.
func (w *Workspace) Propose(ctx context.Context, u *Upstream, branch, message string, e Edit) error {
	if u.Repo == "" {
		return hint.New(u.Where()+" is no repository, and takes no branches", "Change it there.")
	}
	r, err := w.upstreamRepo(ctx, u)
	if err != nil {
		return err
	}
	defer r.Close()
	tree, err := r.Edited(upstreamRef+"^{tree}", e)
	if err != nil {
		return err
	}
	me := w.Me() // as this repository has them
	r.as = []string{"-c", "user.name=" + me.Name, "-c", "user.email=" + me.Mail}
	commit, err := r.CommitTree(tree, message, r.Commit(upstreamRef))
	if err != nil {
		return err
	}
	_, err = r.talk(ctx, "push", "--progress", "--no-verify", "--end-of-options", r.Remote, commit+":refs/heads/"+branch)
	if err != nil && strings.Contains(err.Error(), "failed to push") {
		return hint.New(fmt.Sprintf("%s has another branch %s already", u.Repo, branch), "Choose another name with --branch.")
	}
	return err
}
