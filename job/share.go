package job

import (
	"context"
	"errors"
	"fmt"
	"time"

	"archetyp/core/hint"
	"archetyp/workspace"
)

// ShareOptions say how work is shared.
type ShareOptions struct {
	Remote  string        // "" for the one that the branch follows
	Branch  string        // to push to; "" for the one that the branch follows
	Message string        // commits what differs; "" to refuse where something does
	Wait    time.Duration // how long the remote may say nothing; 0 for the usual
	Anyway  bool          // push though conflicts are left
}

// Shared is what came and went.
type Shared struct {
	Remote, Branch string
	Resumed        bool // a pull that had been stopped was ended
	Committed      bool // what differed was committed
	Came, Went     []workspace.CommitInfo
	Merged         bool // both sides had changed
	Conflicts      []Conflict
	Kept           []string               // files that one side changed and the other removed, in words
	Renumbered     []workspace.Renumbered // editions that two people had cut under one number
	Editions       []int                  // pushed
	Pushed         bool
	Before, After  string // commits, before and after a pull
	Stale          error  // why outputs could not be made anew; nil where they were
}

// Pull brings what others pushed: it fetches, merges by token, by text, by phase and by remark, makes the outputs anew,
// and moves the branch there. Either all of it happens or nothing.
func Pull(ctx context.Context, ws *workspace.Workspace, o ShareOptions) (*Shared, error) {
	r, done, s, err := beginSharing(ctx, ws, &o)
	if err != nil {
		return s, err
	}
	defer done()
	if err := r.Fetch(ctx); err != nil {
		return s, err
	}
	return s, pull(ctx, ws, r, s)
}

// beginSharing holds the workspace, ends a pull that was stopped, and has nothing uncommitted left.
func beginSharing(ctx context.Context, ws *workspace.Workspace, o *ShareOptions) (r *workspace.Repo, done func(), s *Shared, err error) {
	s = &Shared{}
	release, err := ws.Hold(workspace.Writing)
	if err != nil {
		return nil, nil, s, err
	}
	defer func() {
		if err != nil {
			release()
		}
	}()
	if r, err = ws.Repo(o.Remote); err != nil {
		return nil, nil, s, err
	}
	if o.Wait > 0 {
		r.Wait = o.Wait
	}
	s.Remote, s.Branch = r.Remote, r.TheirBranch()
	if s.Resumed, err = r.Resume(); err != nil {
		return nil, nil, s, err
	}
	if list := ws.Unmerged(); len(list) > 0 {
		return nil, nil, s, hint.New("git is in the middle of a merge: "+list[0], "End it with \"git commit\", or give it up with \"git merge --abort\".")
	}
	if o.Message != "" { // what is committed is in step
		if _, err := Run(ctx, ws, Options{}); err != nil {
			return nil, nil, s, err
		}
	}
	files, err := ws.Uncommitted()
	switch {
	case err != nil:
		return nil, nil, s, err
	case len(files) > 0 && o.Message == "":
		return nil, nil, s, hint.New(fmt.Sprintf("%s not committed, %s first", counted(len(files), "file is", "files are"), files[0]),
			"Commit them, or have them committed: -m \"what changed\"")
	case len(files) > 0:
		if err := ws.CommitAll(o.Message); err != nil {
			return nil, nil, s, err
		}
		s.Committed = true
	}
	return r, func() {
		r.Close()
		release()
	}, s, nil
}

func counted(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %s", n, many)
}

// pull merges what was fetched.
func pull(ctx context.Context, ws *workspace.Workspace, r *workspace.Repo, s *Shared) error {
	renumbered, err := r.SettleEditions()
	if err != nil {
		return err
	}
	s.Renumbered = append(s.Renumbered, renumbered...)
	head, theirs := r.Commit("HEAD"), r.Commit(r.Theirs)
	if s.Before == "" {
		s.Before = head
	}
	s.After = head
	if theirs == "" || theirs == head {
		return nil
	}
	if head == "" {
		return hint.New("there is no commit here yet", "Commit the workspace first, or clone the repository.")
	}
	base := r.Base(head, theirs)
	if base == theirs {
		return nil
	}
	came, err := r.Between(head, theirs)
	if err != nil {
		return err
	}
	s.Came = append(came, s.Came...)
	target := theirs
	if base != head {
		m := &mergeRun{ws: ws, r: r, s: s, base: base, ours: head, theirs: theirs}
		if target, err = m.commit(ctx); err != nil {
			return err
		}
		s.Merged = true
	}
	if err := r.Adopt(head, target); err != nil {
		return err
	}
	s.After = target
	return nil
}

// Push shares the work of this clone: it brings outputs in step, merges what others pushed before, and pushes the branch
// with its editions. Nothing is ever overwritten there.
func Push(ctx context.Context, ws *workspace.Workspace, o ShareOptions) (*Shared, error) {
	r, done, s, err := beginSharing(ctx, ws, &o)
	if err != nil {
		return s, err
	}
	defer done()
	if err := inStep(ctx, ws); err != nil {
		return s, err
	}
	for try := 0; ; try++ {
		if err := r.Fetch(ctx); err != nil {
			return s, err
		}
		if err := pull(ctx, ws, r, s); err != nil {
			return s, err
		}
		if len(s.Conflicts) == 0 {
			if s.Conflicts, err = Conflicts(ws); err != nil {
				return s, err
			}
		}
		if len(s.Conflicts) > 0 && !o.Anyway {
			return s, nil
		}
		branch := o.Branch
		if branch == "" {
			branch = r.TheirBranch()
		}
		if s.Editions, err = r.NewEditions(); err != nil {
			return s, err
		}
		head := r.Commit("HEAD")
		there := r.Commit("refs/remotes/" + r.Remote + "/" + branch)
		if there == head && len(s.Editions) == 0 {
			return s, nil
		}
		went := there
		if went == "" {
			went = r.Commit(r.Theirs)
		}
		if went != "" {
			if s.Went, err = r.Between(went, head); err != nil {
				return s, err
			}
		}
		err = r.Push(ctx, head, branch, s.Editions)
		if errors.Is(err, workspace.ErrRace) && try < 20 {
			continue
		}
		if err == nil {
			s.Pushed, s.Branch = true, branch
			if r.Commit(r.Theirs) == "" || o.Branch != "" {
				err = r.Follow(branch)
			}
		}
		return s, err
	}
}
