package workspace

import (
	"errors"
	"fmt"
	"os/exec"
	"slices"
	"strings"
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
func (r *Repo) git(args ...string) ([]byte, error) { return output(r.command(args...), args[0]) }

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
