package workspace

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"sync/atomic"
	"time"

	"archetyp/core/hint"
)

// Repo is the repository that a workspace lies in, for sharing work: fetching, merging and pushing. Nothing of what the
// repository itself brings is run: no hooks, no merge drivers, no commands of its configuration but those that reach the
// remote.
type Repo struct {
	w      *Workspace
	Prefix string // of the workspace in the repository: "" or "design/system/"
	Branch string // "main"
	Remote string // "origin"
	Theirs string // the remote's branch as it was last fetched: "refs/remotes/origin/main"; "" for none yet
	Wait   time.Duration

	blobs *revision // hands out contents, once they are asked for
	dir   string    // of the repository, where it is not the workspace's
	as    []string  // options of git that say who commits there
}

// command is a git in the repository.
func (r *Repo) command(args ...string) *exec.Cmd {
	dir := r.dir
	if dir == "" {
		dir = r.w.Dir
	}
	return exec.Command("git", slices.Concat([]string{"-C", dir}, tame, r.as, args)...)
}

// git runs git in the repository and gives what it prints.
func (r *Repo) git(args ...string) ([]byte, error) { return said(r.command(args...), args[0]) }

// Patience is how long a remote may say nothing before it is given up.
const Patience = 60 * time.Second

// Repo finds the repository, its branch and its remote; a remote of "" is the one that the branch follows, else origin,
// else the only one there is.
func (w *Workspace) Repo(remote string) (*Repo, error) {
	prefix, err := w.git("rev-parse", "--show-prefix")
	if err != nil {
		return nil, needsRepo(err)
	}
	r := &Repo{w: w, Prefix: strings.TrimRight(string(prefix), "\n"), Wait: Patience}
	branch, err := w.git("symbolic-ref", "--quiet", "--short", "HEAD")
	if err != nil {
		return nil, hint.New("git is at no branch here", "Check a branch out: work is shared by branches.")
	}
	r.Branch = strings.TrimSpace(string(branch))
	get := func(key string) string {
		out, err := w.git("config", "--get", key)
		if err != nil {
			return ""
		}
		return strings.TrimSpace(string(out))
	}
	list, err := w.git("remote")
	if err != nil {
		return nil, err
	}
	remotes := strings.Fields(string(list))
	r.Remote = remote
	if r.Remote == "" {
		r.Remote = get("branch." + r.Branch + ".remote")
	}
	switch {
	case r.Remote != "" && slices.Contains(remotes, r.Remote):
	case r.Remote != "":
		return nil, hint.New(fmt.Sprintf("git knows no remote %q here", r.Remote), "It knows "+strings.Join(remotes, ", ")+".")
	case slices.Contains(remotes, "origin"):
		r.Remote = "origin"
	case len(remotes) == 1:
		r.Remote = remotes[0]
	case len(remotes) == 0:
		return nil, hint.New("this repository has no remote to share with", "\"git remote add origin ADDRESS\" adds one.")
	default:
		return nil, hint.New("this repository has several remotes", "Choose one with --remote: "+strings.Join(remotes, ", ")+".")
	}
	if merge := get("branch." + r.Branch + ".merge"); strings.HasPrefix(merge, "refs/heads/") && get("branch."+r.Branch+".remote") == r.Remote {
		r.Theirs = r.tracking(strings.TrimPrefix(merge, "refs/heads/"))
	} else {
		r.Theirs = r.tracking(r.Branch)
	}
	return r, nil
}

func (r *Repo) tracking(branch string) string { return "refs/remotes/" + r.Remote + "/" + branch }

// TheirBranch is the branch of the remote.
func (r *Repo) TheirBranch() string {
	return strings.TrimPrefix(r.Theirs, "refs/remotes/"+r.Remote+"/")
}

func needsRepo(err error) error {
	var missing *hint.MissingError
	if errors.As(err, &missing) {
		return err
	}
	return hint.New("this workspace lies in no repository of git", "Begin one with \"git init\".")
}

// Commit is the commit that a revision is; "" for none.
func (r *Repo) Commit(rev string) string {
	out, err := r.git("rev-parse", "--verify", "--quiet", rev+"^{commit}")
	if err != nil {
		return ""
	}
	return strings.TrimSpace(string(out))
}

// reach is how git talks to a remote: by the usual protocols only, with what comes checked, asking nobody.
var reach = []string{"--no-pager", "-c", "core.fsmonitor=false", "-c", "core.hooksPath=" + os.DevNull,
	"-c", "protocol.ext.allow=never", "-c", "fetch.fsckObjects=true", "-c", "fetch.fsck.zeroPaddedFilemode=ignore",
	"-c", "http.lowSpeedLimit=1", "-c", "http.lowSpeedTime=60", "-c", "gc.auto=0", "-c", "maintenance.auto=false",
	"-c", "fetch.recurseSubmodules=false", "-c", "push.recurseSubmodules=no", "-c", "submodule.recurse=false"}

// talk runs a git that talks to the remote. It is stopped when it says nothing for as long as Wait.
func (r *Repo) talk(ctx context.Context, args ...string) (out []byte, err error) {
	ctx, cancel := context.WithCancel(ctx)
	defer cancel()
	dir := r.dir
	if dir == "" {
		dir = r.w.Dir
	}
	c := exec.CommandContext(ctx, "git", append(append([]string{"-C", dir}, reach...), args...)...)
	c.Env = append(os.Environ(), "GIT_TERMINAL_PROMPT=0", "LC_ALL=C")
	if os.Getenv("GIT_SSH_COMMAND") == "" && os.Getenv("GIT_SSH") == "" {
		c.Env = append(c.Env, "GIT_SSH_COMMAND=ssh -oBatchMode=yes")
	}
	ownGroup(c)
	c.WaitDelay = time.Second
	heard := &hearing{}
	heard.last.Store(time.Now().UnixNano())
	var stdout bytes.Buffer
	c.Stdout, c.Stderr = &stdout, heard
	if err := c.Start(); err != nil {
		if errors.Is(err, exec.ErrNotFound) {
			return nil, &hint.MissingError{Msg: "git is not installed", Hint: "Install git."}
		}
		return nil, err
	}
	silent := false
	done := make(chan struct{})
	go func() {
		tick := time.NewTicker(min(r.Wait/4, time.Second))
		defer tick.Stop()
		for {
			select {
			case <-done:
				return
			case <-tick.C:
				if time.Since(time.Unix(0, heard.last.Load())) > r.Wait {
					silent = true
					cancel()
					return
				}
			}
		}
	}()
	err = c.Wait()
	close(done)
	switch {
	case silent:
		return nil, hint.New(fmt.Sprintf("%s has said nothing for %s", r.Remote, r.Wait), "Nothing was changed. Is the address right, and the network up?")
	case err != nil:
		return stdout.Bytes(), fmt.Errorf("git %s: %s", args[0], heard.message())
	}
	return stdout.Bytes(), nil
}

// hearing keeps what git says, and when it said something.
type hearing struct {
	bytes.Buffer
	last atomic.Int64
}

func (h *hearing) Write(p []byte) (int, error) {
	h.last.Store(time.Now().UnixNano())
	if h.Len() < 1<<16 {
		h.Buffer.Write(p)
	}
	return len(p), nil
}

// message is what was said of a failure: the lines that begin with fatal, error or remote, or the last one.
func (h *hearing) message() string {
	last := ""
	for _, l := range strings.FieldsFunc(h.String(), func(r rune) bool { return r == '\n' || r == '\r' }) {
		l = strings.TrimSpace(l)
		for _, p := range []string{"fatal: ", "error: "} {
			if rest, ok := strings.CutPrefix(l, p); ok {
				return rest
			}
		}
		if l != "" {
			last = l
		}
	}
	return last
}

// remoteEditions is where the editions of the remote are kept: a clone has its own until they are compared.
func (r *Repo) remoteEditions() string { return "refs/archetyp/" + r.Remote + "/" + editionTags }

// Fetch brings the branches and editions of the remote, and changes nothing else.
func (r *Repo) Fetch(ctx context.Context) error {
	_, err := r.talk(ctx, "fetch", "--progress", "--no-tags", "--no-write-fetch-head", "--prune", "--end-of-options", r.Remote,
		"+refs/heads/*:refs/remotes/"+r.Remote+"/*", "+refs/tags/"+editionTags+"*:"+r.remoteEditions()+"*")
	return err
}

// ErrRace is the error of a push that came after somebody else's.
var ErrRace = errors.New("somebody else has pushed in the meantime")

// Push pushes a commit to a branch of the remote, with the editions of this clone that the remote lacks; all of it or
// nothing, and never by force.
func (r *Repo) Push(ctx context.Context, commit, branch string, editions []int) error {
	args := []string{"push", "--progress", "--porcelain", "--no-verify", "--atomic", "--end-of-options", r.Remote, commit + ":refs/heads/" + branch}
	for _, n := range editions {
		args = append(args, "refs/tags/"+EditionTag(n)+":refs/tags/"+EditionTag(n))
	}
	out, err := r.talk(ctx, args...)
	if err == nil {
		return r.w.locking(func() error {
			_, err := r.git("update-ref", "-m", "sync --push", r.tracking(branch), commit)
			return err
		})
	}
	for l := range strings.SplitSeq(string(out), "\n") {
		if strings.HasPrefix(l, "!") {
			for _, race := range []string{"fetch first", "non-fast-forward", "already exists", "stale info", "failed to update ref", "cannot lock ref", "incorrect old value", "reference already exists"} {
				if strings.Contains(l, race) {
					return ErrRace
				}
			}
		}
	}
	for l := range strings.SplitSeq(string(out), "\n") {
		if rest, ok := strings.CutPrefix(l, "!\t"); ok && !strings.Contains(l, "atomic push failed") {
			_, why, _ := strings.Cut(rest, "\t")
			return hint.New(fmt.Sprintf("%s refused: %s", r.Remote, strings.Trim(why, "[]")), "Nothing was pushed.")
		}
	}
	return err
}

// Follow has the branch of this clone follow the one of the remote.
func (r *Repo) Follow(branch string) error {
	for _, kv := range [][2]string{{"branch." + r.Branch + ".remote", r.Remote}, {"branch." + r.Branch + ".merge", "refs/heads/" + branch}} {
		if _, err := r.git("config", kv[0], kv[1]); err != nil {
			return err
		}
	}
	return nil
}

// Base is the commit that two were made from; "" for none. Ahead reports whether b holds all of a.
func (r *Repo) Base(a, b string) string {
	out, err := r.git("merge-base", a, b)
	if err != nil {
		return ""
	}
	return strings.TrimSpace(string(out))
}

// CommitInfo is a commit as it is listed.
type CommitInfo struct {
	Commit, Who, When, Message string
}

// Between lists the commits that one has and another lacks, the last one first.
func (r *Repo) Between(from, to string) ([]CommitInfo, error) {
	out, err := r.git("log", "--format=%h%x1f%an%x1f%as%x1f%s%x1e", "--no-merges", "--end-of-options", from+".."+to)
	if err != nil {
		return nil, err
	}
	var list []CommitInfo
	for c := range strings.SplitSeq(string(out), tagEnd) {
		if p := strings.SplitN(strings.TrimLeft(c, "\n"), partEnd, 4); len(p) == 4 {
			list = append(list, CommitInfo{p[0], p[1], p[2], p[3]})
		}
	}
	return list, nil
}

// CommitAll commits all that differs in the workspace, and nothing outside of it.
func (w *Workspace) CommitAll(message string) error {
	return w.locking(func() error {
		if _, err := w.git("add", "--all", "--", "."); err != nil {
			return err
		}
		c := w.gitCommand("commit", "--quiet", "--no-verify", "--no-gpg-sign", "--cleanup=verbatim", "--file=-", "--", ".")
		c.Stdin = strings.NewReader(message + "\n")
		var errs bytes.Buffer
		c.Stderr, c.Stdout = &errs, &errs
		if c.Run() != nil {
			return identity(errs.String(), "commit")
		}
		return nil
	})
}

// identity is the error of a git that could not commit.
func identity(said, what string) error {
	if strings.Contains(said, "user.email") || strings.Contains(said, "empty ident") || strings.Contains(said, "tell me who you are") {
		return hint.New("git does not know who you are", "Say it once: git config user.name \"Your Name\", git config user.email you@example.org")
	}
	line := strings.SplitN(strings.TrimSpace(said), "\n", 2)[0]
	return fmt.Errorf("git %s: %s", what, strings.TrimPrefix(line, "fatal: "))
}

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

// inside is a path of the repository as one of the workspace; ok is false for a file outside of it.
func (r *Repo) inside(name string) (string, bool) { return strings.CutPrefix(name, r.Prefix) }

// Inside is a path of the repository as one of the workspace; ok is false for a file outside of it.
func (r *Repo) Inside(name string) (string, bool) { return r.inside(name) }

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

// Renumbered is an edition that got another number, since somebody else had cut one under its own.
type Renumbered struct {
	Was, Is int
	Message string
}

// tagRefs are the objects of refs by what follows a prefix in their names.
func (r *Repo) tagRefs(prefix string) (map[string]string, error) {
	out, err := r.git("for-each-ref", "--format=%(objectname) %(refname)", prefix)
	if err != nil {
		return nil, err
	}
	refs := map[string]string{}
	for l := range strings.SplitSeq(strings.TrimSpace(string(out)), "\n") {
		if object, ref, ok := strings.Cut(l, " "); ok {
			refs[strings.TrimPrefix(ref, prefix)] = object
		}
	}
	return refs, nil
}

// SettleEditions takes over the editions of the remote. One of this clone whose number the remote has for another gets the
// next free number, with its message, who cut it and when.
func (r *Repo) SettleEditions() ([]Renumbered, error) {
	theirs, err := r.tagRefs(r.remoteEditions())
	if err != nil {
		return nil, err
	}
	ours, err := r.tagRefs("refs/tags/" + editionTags)
	if err != nil {
		return nil, err
	}
	last := 0
	for _, refs := range []map[string]string{theirs, ours} {
		for name := range refs {
			if n := number(name); n > last {
				last = n
			}
		}
	}
	var out []Renumbered
	var refs bytes.Buffer // all of them change together
	names := sorted(theirs)
	slices.SortFunc(names, func(a, b string) int { return number(a) - number(b) })
	for _, name := range names {
		if number(name) == 0 || ours[name] == theirs[name] {
			continue
		}
		if own := ours[name]; own != "" {
			last++
			object, message, err := r.retag(own, last)
			if err != nil {
				return nil, err
			}
			fmt.Fprintf(&refs, "create refs/tags/%s %s\n", EditionTag(last), object)
			out = append(out, Renumbered{number(name), last, message})
		}
		verb, was := "update", " "+ours[name]
		if ours[name] == "" {
			verb, was = "create", ""
		}
		fmt.Fprintf(&refs, "%s refs/tags/%s%s %s%s\n", verb, editionTags, name, theirs[name], was)
	}
	if refs.Len() > 0 {
		err = r.w.locking(func() error {
			_, err := r.feed(nil, refs.Bytes(), "update-ref", "--stdin")
			return err
		})
	}
	return out, err
}

// number is the number of an edition by its tag's last part; 0 for none.
func number(name string) int {
	if m := editionName.FindStringSubmatch(name); m != nil && m[1] == name {
		n, _ := strconv.Atoi(name)
		return n
	}
	return 0
}

// retag makes a tag object under another name, with everything else in it.
func (r *Repo) retag(object string, n int) (made, message string, err error) {
	data, err := r.git("cat-file", "tag", object)
	if err != nil {
		return "", "", err
	}
	head, body, _ := strings.Cut(string(data), "\n\n")
	lines := strings.Split(head, "\n")
	for i, l := range lines {
		if strings.HasPrefix(l, "tag ") {
			lines[i] = "tag " + EditionTag(n)
		}
	}
	out, err := r.feed(nil, []byte(strings.Join(lines, "\n")+"\n\n"+body), "mktag")
	if err != nil {
		return "", "", err
	}
	var e Edition
	e.readMessage(body)
	return strings.TrimSpace(string(out)), e.Message, nil
}

// NewEditions are the numbers of the editions that the remote lacks.
func (r *Repo) NewEditions() ([]int, error) {
	theirs, err := r.tagRefs(r.remoteEditions())
	if err != nil {
		return nil, err
	}
	ours, err := r.tagRefs("refs/tags/" + editionTags)
	if err != nil {
		return nil, err
	}
	var out []int
	for name, object := range ours {
		if n := number(name); n > 0 && theirs[name] != object {
			out = append(out, n)
		}
	}
	slices.Sort(out)
	return out, nil
}

// CommitFile commits one file, and nothing else, under somebody's name.
func (w *Workspace) CommitFile(file, message, by string) error {
	by = strings.Join(strings.Fields(strings.Map(func(r rune) rune {
		if strings.ContainsRune("<>\n\r\x00", r) {
			return ' '
		}
		return r
	}, by)), " ")
	return w.locking(func() error {
		if _, err := w.git("add", "--", ":(literal)"+file); err != nil {
			return err
		}
		c := w.gitCommand("commit", "--quiet", "--no-verify", "--no-gpg-sign", "--cleanup=verbatim", "--author="+by+" <>", "--file=-", "--", ":(literal)"+file)
		c.Stdin = strings.NewReader(message + "\n")
		var errs bytes.Buffer
		c.Stderr, c.Stdout = &errs, &errs
		if c.Run() != nil {
			return identity(errs.String(), "commit")
		}
		return nil
	})
}
