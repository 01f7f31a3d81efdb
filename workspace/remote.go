package workspace

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"strings"
	"sync/atomic"
	"time"

	"archetyp/core/hint"
)

// Patience is how long a remote may say nothing before it is given up.
const Patience = 60 * time.Second

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
		return nil, hint.New(fmt.Sprintf("%s sent nothing for %s", r.Remote, r.Wait), "Nothing was changed. Is the address right, and the network up?")
	case err != nil:
		return stdout.Bytes(), fmt.Errorf("git %s: %s", args[0], heard.message())
	}
	return stdout.Bytes(), nil
}

// hearing collects the standard error of git, and the time of its last output.
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

// message is the line of the output that explains a failure: the first "fatal:" or "error:" line, else the last one.
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
