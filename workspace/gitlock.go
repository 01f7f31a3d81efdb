package workspace

import (
	"os"
	"path/filepath"
	"strings"
	"time"
)

// Git takes locks while it changes its index or a branch, and leaves them behind when it is killed. So that the next
// command knows them from locks of somebody who is at work, this note lies there while we have git change something.
const lockNote = "git-locks"

// patient is how long a lock of git is waited for.
const patient = 2 * time.Second

// locking has git do something that takes its locks, and waits for others that hold them.
func (w *Workspace) locking(do func() error) error {
	if _, noted := w.Cached(lockNote); !noted {
		w.Cache(lockNote, []byte("while git changes something\n"))
		defer w.DropCached(lockNote)
	}
	for end := time.Now().Add(patient); ; time.Sleep(50 * time.Millisecond) {
		err := do()
		if err == nil || !strings.Contains(err.Error(), ".lock") || time.Now().After(end) {
			return err
		}
	}
}

// freeLocks takes away locks that a command of ours left behind: those that lie there unchanged for a while.
func (w *Workspace) freeLocks() {
	dir := w.gitDir()
	if _, noted := w.Cached(lockNote); !noted || dir == "" {
		return
	}
	defer w.DropCached(lockNote)
	look := func() map[string]os.FileInfo {
		out := map[string]os.FileInfo{}
		for _, p := range []string{"*.lock", "refs/heads/*.lock", "refs/heads/*/*.lock", "refs/tags/edition/*.lock", "refs/remotes/*/*.lock"} {
			found, _ := filepath.Glob(filepath.Join(dir, filepath.FromSlash(p))) // the patterns are good
			for _, f := range found {
				if info, err := os.Lstat(f); err == nil {
					out[f] = info
				}
			}
		}
		return out
	}
	before := look()
	if len(before) == 0 {
		return
	}
	time.Sleep(patient)
	for f, info := range look() {
		if was := before[f]; was != nil && os.SameFile(info, was) && info.Size() == was.Size() && info.ModTime().Equal(was.ModTime()) {
			_ = os.Remove(f)
		}
	}
}
