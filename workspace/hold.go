package workspace

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path"
	"strconv"
	"strings"
	"time"

	"github.com/gofrs/flock"
)

// How a command takes part in the lock of a workspace.
type How int

// Many may read at a time; whoever writes is alone, from the first byte read to the last one written.
const (
	Reading How = iota
	Writing
)

// Options say how a workspace is opened.
type Options struct {
	Wait    time.Duration       // how long to wait for other processes; 0 for the default, below it not at all
	Command string              // what is being done, for those who wait and for the journal
	Waiting func(holder string) // called once when the wait gets long; may be nil
}

// DefaultWait is how long a command waits for others.
const DefaultWait = 30 * time.Second

const (
	stateDir   = ".archetyp"            // the program's own files; never committed
	lockFile   = stateDir + "/lock"     // held by the operating system for as long as a process lives
	holderFile = stateDir + "/holder"   // who holds it, since when
	retryAfter = 4 * time.Millisecond   // between two tries
	longWait   = 700 * time.Millisecond // before Waiting is called
)

// hold is a lock that this process has.
type hold struct {
	how   How
	flock *flock.Flock // nil where the folder has never been written to
}

// BusyError reports whether another process holds the workspace.
type BusyError struct {
	Holder string // "" where it is not known
	Waited time.Duration
}

func (e *BusyError) Error() string {
	who := "other archetyp commands are reading it"
	if e.Holder != "" {
		who = "held by " + e.Holder
	}
	if e.Waited < retryAfter {
		return "the workspace is busy: " + who
	}
	return fmt.Sprintf("the workspace is busy: %s; gave up after %s", who, e.Waited.Round(10*time.Millisecond))
}

// Hint says what to do.
func (e *BusyError) Hint() string {
	return "Nothing was changed. Run it again when that is done; --wait 5m waits longer."
}

// Hold takes part in the lock until the release, and finishes or takes back what an earlier run left unfinished. Where
// this process holds the lock already, it keeps it as it is.
func (w *Workspace) Hold(how How) (release func(), err error) {
	if w.guest {
		if how == Writing {
			return nil, errReadOnly
		}
		return func() {}, nil
	}
	if w.hold != nil {
		if how == Writing && w.hold.how == Reading {
			return nil, unknownFailure("a command that only reads tries to write")
		}
		return func() {}, nil
	}
	if err := w.checkState(); err != nil {
		return nil, err
	}
	for range 3 {
		if err := w.acquire(how); err != nil {
			return nil, err
		}
		stopped, err := w.stopped()
		if err == nil && len(stopped) == 0 {
			return w.letGo, nil
		}
		if err == nil && how == Reading { // only one who is alone may put it right
			w.letGo()
			if err = w.acquire(Writing); err == nil {
				err = w.recover()
			}
			w.letGo()
			if err != nil {
				return nil, err
			}
			continue
		}
		if err == nil {
			err = w.recover()
		}
		if err != nil {
			w.letGo()
			return nil, err
		}
		return w.letGo, nil
	}
	return nil, &BusyError{Waited: w.wait()}
}

func (w *Workspace) wait() time.Duration {
	switch {
	case w.options.Wait == 0:
		return DefaultWait
	case w.options.Wait < 0:
		return 0
	}
	return w.options.Wait
}

// checkState refuses a folder of our own that is none: a link could lead anywhere.
func (w *Workspace) checkState() error {
	info, err := w.folder.root.Lstat(stateDir)
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return nil
	case err != nil:
		return &FileError{File: stateDir, Msg: reason(err)}
	case !info.IsDir():
		return &FileError{File: stateDir, Msg: "this must be a folder of its own, not a link or file",
			Hint: "Remove it: it holds only caches and unfinished writes of archetyp."}
	}
	for _, name := range []string{lockFile, holderFile} {
		if info, err := w.folder.root.Lstat(name); err == nil && !info.Mode().IsRegular() {
			return &FileError{File: name, Msg: "this is no ordinary file", Hint: "Remove it, and run the command again."}
		}
	}
	return nil
}

// acquire waits for the lock. One who reads needs none where nobody has ever written.
func (w *Workspace) acquire(how How) error {
	flags := os.O_RDWR | noFollow | nonblock
	if how == Writing {
		if err := w.stateFolder(); err != nil {
			return &FileError{File: stateDir, Msg: "cannot be made: " + reason(err),
				Hint: "Nothing was changed. Is the folder read-only?"}
		}
		flags |= os.O_CREATE
	} else {
		flags = os.O_RDONLY | noFollow | nonblock
	}
	since := time.Now()
	ctx, cancel := context.WithTimeout(context.Background(), w.wait())
	defer cancel()
	reported := w.options.Waiting == nil
	for {
		l := flock.New(w.Path(lockFile), flock.SetFlag(flags), flock.SetPermissions(0o644))
		ok, err := tryLock(l, how)
		if errors.Is(err, fs.ErrNotExist) && how == Reading {
			w.hold = &hold{how: how}
			return nil
		}
		if err != nil {
			l.Close()
			return &FileError{File: lockFile, Msg: "cannot be locked: " + reason(err)}
		}
		if ok && w.isLockFile(l) {
			w.hold = &hold{how, l}
			if how == Writing {
				w.noteHolder()
			}
			return nil
		}
		l.Close()
		if !reported && time.Since(since) > longWait {
			reported = true
			w.options.Waiting(w.holder())
		}
		select {
		case <-ctx.Done():
			return &BusyError{w.holder(), time.Since(since)}
		case <-time.After(retryAfter):
		}
	}
}

func tryLock(l *flock.Flock, how How) (bool, error) {
	if how == Reading {
		return l.TryRLock()
	}
	return l.TryLock()
}

// isLockFile reports whether what was locked is still what others will lock: somebody may have removed the folder.
func (w *Workspace) isLockFile(l *flock.Flock) bool {
	mine, err1 := l.Stat()
	there, err2 := w.folder.root.Lstat(lockFile)
	return err1 == nil && err2 == nil && os.SameFile(mine, there)
}

// noteHolder says who holds the lock. It is a help only.
func (w *Workspace) noteHolder() {
	command := w.options.Command
	if command == "" {
		command = "archetyp"
	}
	text := strconv.Itoa(os.Getpid()) + "\t" + time.Now().Format(time.RFC3339) + "\t" + command + "\n"
	if f, err := w.folder.root.OpenFile(holderFile, os.O_WRONLY|os.O_CREATE|os.O_TRUNC|noFollow|nonblock,
		0o644); err == nil {
		_, _ = f.WriteString(text)
		f.Close()
	}
}

// holder says who holds the lock, in words; "" where that is not known.
func (w *Workspace) holder() string {
	data, err := w.folder.readFile(holderFile, holderFile)
	f := strings.SplitN(strings.TrimSpace(string(data)), "\t", 3)
	if err != nil || len(f) != 3 {
		return ""
	}
	since, err := time.Parse(time.RFC3339, f[1])
	if pid, perr := strconv.Atoi(f[0]); err != nil || perr != nil || pid == os.Getpid() {
		return ""
	}
	return fmt.Sprintf("%q (process %s, since %s)", f[2], f[0], since.Local().Format("15:04:05"))
}

// LetGo gives the lock back early, where a person is asked. A write then takes it again, and is refused where what it
// was made from has changed.
func (w *Workspace) LetGo() { w.letGo() }

func (w *Workspace) letGo() {
	if w.hold == nil {
		return
	}
	if w.hold.how == Writing {
		_ = w.folder.root.Remove(holderFile)
	}
	if w.hold.flock != nil {
		_ = w.hold.flock.Close()
	}
	w.hold = nil
}

// stateFolder makes the folder for the program's own files, which git ignores.
func (w *Workspace) stateFolder() error {
	if err := w.folder.root.Mkdir(stateDir, 0o755); err != nil && !errors.Is(err, fs.ErrExist) {
		return err
	}
	ignore := stateDir + "/.gitignore"
	if _, err := w.folder.root.Lstat(ignore); errors.Is(err, fs.ErrNotExist) {
		return w.folder.root.WriteFile(ignore, []byte("*\n"), 0o644)
	}
	return nil
}

// Borrow lets a revision read the caches of the workspace on disk: those hold by the contents that they were made from.
func (w *Workspace) Borrow() { w.borrows = true }

// DropCached takes a file out of the cache.
func (w *Workspace) DropCached(name string) {
	if !w.guest {
		_ = w.folder.root.Remove(path.Join(stateDir, name)) // it is a help only
	}
}

// Cached is a file of the cache; ok is false where there is none.
func (w *Workspace) Cached(name string) (data []byte, ok bool) {
	if w.guest && !w.borrows { // it is about what lies on disk
		return nil, false
	}
	data, err := w.folder.readFile(path.Join(stateDir, name), name)
	return data, err == nil
}

// Cache keeps a file in the cache. It is a help only: where it cannot be written, the work is done again next time.
func (w *Workspace) Cache(name string, data []byte) { w.cache(name, data, 0) }

// CacheSecret is Cache for what nobody else on the machine may read.
func (w *Workspace) CacheSecret(name string, data []byte) { w.cache(name, data, 0o600) }

func (w *Workspace) cache(name string, data []byte, mode fs.FileMode) {
	if w.guest || w.checkState() != nil || w.stateFolder() != nil {
		return
	}
	to := path.Join(stateDir, name)
	if dir := path.Dir(name); dir != "." {
		_ = w.folder.root.Mkdir(path.Join(stateDir, dir), 0o755)
	}
	tmp := to + "." + strconv.Itoa(os.Getpid()) + ".new"
	_ = w.folder.root.Remove(tmp)
	err := w.folder.writeNew(tmp, data, mode, false)
	if err == nil {
		err = w.folder.root.Rename(tmp, to)
	}
	if err != nil {
		_ = w.folder.root.Remove(tmp)
	}
}

// Uncache removes the files of a folder of the cache that are not to be kept.
func (w *Workspace) Uncache(dir string, keep func(name string) bool) {
	if w.guest {
		return
	}
	entries, _ := w.folder.entries(path.Join(stateDir, dir)) // no folder, nothing to remove
	for _, e := range entries {
		if name := path.Join(dir, e.Name()); !keep(name) {
			_ = w.folder.root.Remove(path.Join(stateDir, name))
		}
	}
}
