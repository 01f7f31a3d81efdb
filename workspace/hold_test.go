package workspace

import (
	"errors"
	"os"
	"strings"
	"testing"
	"time"
)

// second opens the same workspace as another process would: with a lock of its own.
func second(t testing.TB, ws *Workspace, how How, wait time.Duration) (*Workspace, error) {
	t.Helper()
	w, _, err := Open(ws.Dir, how, Options{Wait: wait, Command: "archetyp second"})
	if err == nil {
		t.Cleanup(w.Close)
	}
	return w, err
}

func TestOneWriter(t *testing.T) {
	ws := here(t)
	first, _, err := Open(ws.Dir, Writing, Options{Command: "archetyp first"})
	if err != nil {
		t.Fatal(err)
	}
	for _, how := range []How{Reading, Writing} {
		var busy *BusyError
		if _, err := second(t, ws, how, 30*time.Millisecond); !errors.As(err, &busy) || busy.Waited < 30*time.Millisecond ||
			busy.Waited > 5*time.Second {
			t.Errorf("beside a writer: %v", err)
		}
	}
	if _, err := second(t, ws, Writing, -1); err == nil {
		t.Error("two writers at once")
	}
	go func() {
		time.Sleep(50 * time.Millisecond)
		first.Close()
	}()
	if _, err := second(t, ws, Writing, 10*time.Second); err != nil {
		t.Errorf("after the first: %v", err)
	}
}

func TestManyReaders(t *testing.T) {
	ws := here(t)
	// there is a lock to take part in
	if err := ws.Apply(change(ws, Texts, map[string]string{"text/de.json": "{}"})); err != nil {
		t.Fatal(err)
	}
	one, err1 := second(t, ws, Reading, time.Second)
	two, err2 := second(t, ws, Reading, time.Second)
	if err1 != nil || err2 != nil {
		t.Fatal(err1, err2)
	}
	if _, err := second(t, ws, Writing, 20*time.Millisecond); err == nil || !strings.Contains(err.Error(), "reading it") {
		t.Errorf("a writer beside readers: %v", err)
	}
	if err := one.Apply(change(one, Code, map[string]string{"a": "b"})); err == nil {
		t.Error("a reader wrote")
	}
	one.Close()
	two.Close()
	if _, err := second(t, ws, Writing, time.Second); err != nil {
		t.Error(err)
	}
}

func TestWhoHoldsItIsTold(t *testing.T) {
	ws := here(t)
	if err := ws.stateFolder(); err != nil {
		t.Fatal(err)
	}
	put(t, ws.Dir, holderFile, "4711\t2026-06-14T10:20:30Z\tarchetyp sync\n")
	if got := ws.holder(); !strings.Contains(got, `"archetyp sync" (process 4711, since `) {
		t.Error(got)
	}
	put(t, ws.Dir, holderFile, "nonsense")
	if got := ws.holder(); got != "" {
		t.Error(got)
	}
	if e := (&BusyError{Holder: `"archetyp sync" (process 1)`,
		Waited: 2 * time.Second}); e.Error() != `the workspace is busy: held by "archetyp sync" (process 1); gave up after 2s` || !strings.Contains(e.Hint(), "--wait") {
		t.Error(e)
	}
}

func TestTheProgramsFolderMustBeOne(t *testing.T) {
	for name, make := range map[string]func(ws *Workspace) error{
		"a link": func(ws *Workspace) error { return os.Symlink(t.TempDir(), ws.Path(stateDir)) },
		"a file": func(ws *Workspace) error { return os.WriteFile(ws.Path(stateDir), nil, 0o644) },
		"the lock a link": func(ws *Workspace) error {
			return errors.Join(os.Mkdir(ws.Path(stateDir), 0o755), os.Symlink("/tmp/x", ws.Path(lockFile)))
		},
		"the holder a link": func(ws *Workspace) error {
			return errors.Join(os.Mkdir(ws.Path(stateDir), 0o755), os.Symlink("../archetyp.yaml", ws.Path(holderFile)))
		},
		"the journals a link": func(ws *Workspace) error {
			return errors.Join(os.Mkdir(ws.Path(stateDir), 0o755), os.Symlink("..", ws.Path(writesDir)))
		},
	} {
		ws := here(t)
		if err := make(ws); err != nil {
			t.Skip(err)
		}
		for _, how := range []How{Reading, Writing} {
			var fe *FileError
			if w, _, err := Open(ws.Dir, how, Options{}); !errors.As(err, &fe) || !strings.Contains(fe.Hint, "Remove it") {
				t.Errorf("%s: %v", name, err)
				if err == nil {
					w.Close()
				}
			}
		}
	}
}

func TestReadersNeedNoFolder(t *testing.T) {
	ws := here(t)
	w, err := second(t, ws, Reading, time.Second)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := os.Stat(w.Path(stateDir)); err == nil {
		t.Error("a reader made a folder")
	}
}
