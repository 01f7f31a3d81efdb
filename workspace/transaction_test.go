package workspace

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
)

// change puts together a change of files.
func change(ws *Workspace, kind Kind, files map[string]string, removed ...string) *Change {
	c := &Change{}
	for _, name := range sorted(files) {
		c.Put(ws, kind, name, []byte(files[name]))
	}
	for _, name := range removed {
		c.Remove(kind, name)
	}
	return c
}

// left lists what the program keeps for itself in a workspace, the lock aside.
func left(t testing.TB, ws *Workspace) (out []string) {
	t.Helper()
	err := filepath.WalkDir(ws.Path(stateDir), func(p string, d os.DirEntry, err error) error {
		if rel, _ := filepath.Rel(ws.Dir, p); err == nil &&
			!slices.Contains([]string{stateDir, lockFile, stateDir + "/.gitignore", writesDir}, filepath.ToSlash(rel)) {
			out = append(out, filepath.ToSlash(rel))
		}
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
	return out
}

func TestApply(t *testing.T) {
	ws := here(t)
	put(t, ws.Dir, "old.txt", "old")
	put(t, ws.Dir, "same.txt", "same")
	put(t, ws.Dir, "gone/x.txt", "x")
	c := change(ws, Code, map[string]string{"old.txt": "new", "same.txt": "same", "a/b/c.txt": "deep"}, "gone/x.txt",
		"never.txt")
	if strings.Join(c.Paths(), " ") != "a/b/c.txt old.txt" {
		t.Errorf("what would be written: %v", c.Paths())
	}
	if err := ws.Apply(c); err != nil {
		t.Fatal(err)
	}
	for name, want := range map[string]string{"old.txt": "new", "same.txt": "same", "a/b/c.txt": "deep",
		"gone/x.txt": "(none)", ".archetyp/.gitignore": "*\n"} {
		if got := got(t, ws, name); got != want {
			t.Errorf("%s holds %q, want %q", name, got, want)
		}
	}
	if _, err := os.Stat(filepath.Join(ws.Dir, "gone")); err == nil {
		t.Error("an empty folder is left")
	}
	if more := left(t, ws); len(more) > 0 {
		t.Errorf("left: %v", more)
	}
	if !(&Change{}).Empty() || c.Empty() {
		t.Error("empty")
	}
}

func TestModesAndLinksStay(t *testing.T) {
	ws := here(t)
	put(t, ws.Dir, "src/run.sh", "old")
	put(t, ws.Dir, "real/a.txt", "old")
	if err := errors.Join(os.Chmod(ws.Path("src/run.sh"), 0o750), os.Symlink("../real/a.txt", ws.Path("src/a.txt")),
		os.Symlink(ws.Path("real"), ws.Path("absolute"))); err != nil {
		t.Skip(err)
	}
	if err := ws.Apply(change(ws, Code, map[string]string{"src/run.sh": "new", "src/a.txt": "new",
		"absolute/b.txt": "b"})); err != nil {
		t.Fatal(err)
	}
	info, err := os.Stat(ws.Path("src/run.sh"))
	if err != nil || info.Mode().Perm() != 0o750 {
		t.Errorf("the mode is %v, %v", info.Mode(), err)
	}
	if to, err := os.Readlink(ws.Path("src/a.txt")); err != nil || to != "../real/a.txt" ||
		got(t, ws, "real/a.txt") != "new" || got(t, ws, "real/b.txt") != "b" {
		t.Errorf("the link leads to %q (%v), behind it stands %q", to, err, got(t, ws, "real/a.txt"))
	}
}

func TestWhatIsRefusedChangesNothing(t *testing.T) {
	outside := t.TempDir()
	put(t, outside, "victim", "untouched")
	for _, c := range []struct {
		name, path, want string
		kind             Kind
		make             func(ws *Workspace) error
	}{
		{"a folder", "z.txt", "a folder stands", Generated, func(ws *Workspace) error {
			return os.Mkdir(ws.Path("z.txt"),
				0o755)
		}},
		{"outside", "../z.txt", "inside the workspace", Code, nil},
		{"absolute", "/tmp/z.txt", "inside the workspace", Code, nil},
		{"a link to a folder outside", "out/z.txt", "leaves the workspace", Generated,
			func(ws *Workspace) error { return os.Symlink(outside, ws.Path("out")) }},
		{"a link to a file outside", "z.txt", "leaves the workspace", Texts,
			func(ws *Workspace) error { return os.Symlink(filepath.Join(outside, "victim"), ws.Path("z.txt")) }},
		{"a link out by steps", "z.txt", "leaves the workspace", Code, func(ws *Workspace) error {
			return errors.Join(os.Symlink("up/victim", ws.Path("z.txt")), os.Symlink("..", ws.Path("up")))
		}},
		{"a circle of links", "z.txt", "links", Code,
			func(ws *Workspace) error { return os.Symlink("z.txt", ws.Path("z.txt")) }},
		{"git", ".git/config", "git", Generated, nil},
		{"git in other letters", "sub/.GIT/hooks/post-checkout", "git", Code, nil},
		{"git by its short name", "GIT~1/config", "git", Generated, nil},
		{"git with letters not shown", ".g\u200cit/config", "git", Settings, nil},
		{"git behind a link", "g/config", "git", Code, func(ws *Workspace) error {
			return errors.Join(os.Mkdir(ws.Path(".git"), 0o755), os.Symlink(".git", ws.Path("g")))
		}},
		{"our own folder", ".archetyp/lock", "own folder", Code, nil},
		{"the configuration", "archetyp.yaml", "configuration", Generated, nil},
		{"the lock", "Archetyp.lock", "the lock", Generated, nil},
		{"a source", "design/new.svg", "a source", Generated, nil},
		{"tokens", "tokens/a.tokens.json", "a token file", Generated, nil},
		{"texts", "text/de.json", "catalogue", Generated, nil},
		{"not tokens", "archetyp.yaml", "not a token file", Tokens, nil},
	} {
		ws := here(t)
		put(t, ws.Dir, "a.txt", "a")
		if c.make != nil {
			if err := c.make(ws); err != nil {
				t.Logf("%s: %v", c.name, err)
				continue
			}
		}
		files := &Change{}
		files.add("a.txt", changed{kind: Generated, data: []byte("new")})
		files.add(c.path, changed{kind: c.kind, data: []byte("z")})
		err := ws.Apply(files)
		var fe *FileError
		if !errors.As(err, &fe) || !strings.Contains(fe.Msg, c.want) || fe.File != c.path {
			t.Errorf("%s: %v, want %s: … %s …", c.name, err, c.path, c.want)
		}
		if got(t, ws, "a.txt") != "a" {
			t.Errorf("%s: something else was written", c.name)
		}
	}
	if data, _ := os.ReadFile(filepath.Join(outside, "victim")); string(data) != "untouched" {
		t.Error("something outside was written")
	}
}

func TestTwoPathsOfOneFile(t *testing.T) {
	ws := here(t)
	put(t, ws.Dir, "a.txt", "a")
	if err := os.Symlink("a.txt", ws.Path("b.txt")); err != nil {
		t.Skip(err)
	}
	if err := ws.Apply(change(ws, Code, map[string]string{"a.txt": "1", "b.txt": "2"})); err == nil ||
		!strings.Contains(err.Error(), "the same file as a.txt") {
		t.Error(err)
	}
}

// TestEditedWhileRunning holds that what a person saves between our reading and our writing is not written over.
func TestEditedWhileRunning(t *testing.T) {
	ws := here(t)
	put(t, ws.Dir, "text/de.json", "{}")
	if _, err := ws.ReadFile("text/de.json"); err != nil {
		t.Fatal(err)
	}
	put(t, ws.Dir, "text/de.json", "theirs")
	c := &Change{}
	c.add("text/de.json", changed{kind: Texts, data: []byte("ours")})
	if err := ws.Apply(c); err == nil || !strings.Contains(err.Error(), "changed while the command was running") ||
		got(t, ws, "text/de.json") != "theirs" {
		t.Errorf("%v; it holds %q", err, got(t, ws, "text/de.json"))
	}
}

// TestEditedBeforeItIsReplaced holds the same for an edit that comes after the journal: the whole change is taken back.
func TestEditedBeforeItIsReplaced(t *testing.T) {
	for _, at := range []string{"commit", "folder", "keep"} {
		ws, c := standing(t)
		ws.step = func(step string) {
			if step == at {
				put(t, ws.Dir, "tokens/b.tokens.json", "by hand")
			}
		}
		err := ws.Apply(c)
		ws.step = nil
		if err == nil || !strings.Contains(err.Error(), "tokens/b.tokens.json: was changed while the command was running") {
			t.Errorf("edited at %s: %v", at, err)
		}
		if before, _ := whole(t, ws, "tokens/b.tokens.json"); !before || got(t, ws, "tokens/b.tokens.json") != "by hand" {
			t.Errorf("edited at %s: half of it happened, or the edit is gone", at)
		}
		if more := left(t, ws); len(more) > 0 {
			t.Errorf("edited at %s: left: %v", at, more)
		}
	}
}

// stopAt applies a change and stops at a step as a process that is killed there, the lock given back by the system. It
// says which step that was; "" where the change came to its end before.
func stopAt(t testing.TB, ws *Workspace, c *Change, n int) (step string) {
	t.Helper()
	type stop struct{}
	count := 0
	ws.step = func(name string) {
		if count++; count == n {
			step = name
			panic(stop{})
		}
	}
	defer func() {
		ws.step = nil
		if r := recover(); r != nil && r != (stop{}) {
			panic(r)
		}
	}()
	if err := ws.Apply(c); err != nil {
		t.Fatal(err)
	}
	return step
}

// standing is a workspace with three files, and a change of all three, with one more that is new.
func standing(t testing.TB) (*Workspace, *Change) {
	ws := here(t)
	put(t, ws.Dir, "tokens/a.tokens.json", "old a")
	put(t, ws.Dir, "tokens/b.tokens.json", "old b")
	put(t, ws.Dir, "src/gone.css", "old c")
	c := change(ws, Tokens, map[string]string{"tokens/a.tokens.json": "new a", "tokens/b.tokens.json": "new b",
		"deep/er/new.tokens.json": "new d"})
	c.Remove(Code, "src/gone.css")
	return ws, c
}

var (
	beforeIt = map[string]string{"tokens/a.tokens.json": "old a", "tokens/b.tokens.json": "old b", "src/gone.css": "old c",
		"deep/er/new.tokens.json": "(none)"}
	afterIt = map[string]string{"tokens/a.tokens.json": "new a", "tokens/b.tokens.json": "new b",
		"src/gone.css": "(none)", "deep/er/new.tokens.json": "new d"}
)

// whole reports whether all files but some are as before, or all as after.
func whole(t testing.TB, ws *Workspace, but ...string) (before, after bool) {
	before, after = true, true
	for name := range beforeIt {
		if !slices.Contains(but, name) {
			before = before && got(t, ws, name) == beforeIt[name]
			after = after && got(t, ws, name) == afterIt[name]
		}
	}
	return before, after
}

// again opens a workspace as the next command does.
func again(t testing.TB, ws *Workspace, how How) *Workspace {
	t.Helper()
	next, ok, err := Open(ws.Dir, how, Options{})
	if err != nil || !ok {
		t.Fatal(ok, err)
	}
	return next
}

func TestStoppedAtEveryStep(t *testing.T) {
	for n := 1; ; n++ {
		step := ""
		for _, next := range []string{"a reader", "a writer", "an edit of another file", "an edit of the same file"} {
			ws, c := standing(t)
			if step = stopAt(t, ws, c, n); step == "" {
				break
			}
			name := fmt.Sprintf("stopped before step %d (%s), then %s", n, step, next)
			how := Reading
			if next != "a reader" {
				how = Writing
			}
			ws = again(t, ws, how)
			switch next {
			case "an edit of another file":
				if err := ws.Apply(change(ws, Texts, map[string]string{"text/de.json": "{}"})); err != nil {
					t.Errorf("%s: %v", name, err)
				}
			case "an edit of the same file":
				old := got(t, ws, "tokens/a.tokens.json")
				if err := ws.Apply(change(ws, Tokens, map[string]string{"tokens/a.tokens.json": old + ", edited"})); err != nil ||
					got(t, ws, "tokens/a.tokens.json") != old+", edited" {
					t.Errorf("%s: %v", name, err)
				}
				if before, after := whole(t, ws, "tokens/a.tokens.json"); !before && !after || before != (old == "old a") {
					t.Errorf("%s: half of it happened", name)
				}
				ws.Close()
				continue
			}
			ws.Close()
			if before, after := whole(t, ws); before == after {
				t.Errorf("%s: half of it happened", name)
			}
			if more := left(t, ws); len(more) > 0 {
				t.Errorf("%s: left: %v", name, more)
			}
		}
		if step == "" {
			if n < 15 {
				t.Errorf("only %d steps", n)
			}
			return
		}
	}
}

// TestAPersonsEditAfterAStopStays edits, after a stop at each step, each file of the write; the next command keeps the
// edit, and the rest of the change happened or did not.
func TestAPersonsEditAfterAStopStays(t *testing.T) {
	for n := 1; ; n++ {
		for _, name := range sorted(beforeIt) {
			ws, c := standing(t)
			step := stopAt(t, ws, c, n)
			if step == "" {
				return
			}
			put(t, ws.Dir, name, "by hand")
			next := again(t, ws, Writing)
			said := ""
			if len(next.Recovered) > 0 {
				said = next.Recovered[0].String()
			}
			next.Close()
			about := fmt.Sprintf("stopped before step %d (%s), %s edited: %q", n, step, name, said)
			if now := got(t, ws, name); now != "by hand" {
				t.Errorf("%s: it holds %q", about, now)
			}
			if before, after := whole(t, ws, name); before == after {
				t.Errorf("%s: half of it happened", about)
			}
			_, after := whole(t, ws, name)
			beside := got(t, ws, name+".unwritten")
			if told := strings.Contains(said, name+".unwritten"); told != (beside != "(none)") {
				t.Errorf("%s: what was not written is not told", about)
			}
			if said != "" && !after && beside == "(none)" && afterIt[name] != "(none)" && strings.Contains(said, "kept") {
				t.Errorf("%s: what was not written is not beside it", about)
			}
		}
	}
}

// TestARefusedRenameIsTakenBack has the file system refuse in the middle of a write.
func TestARefusedRenameIsTakenBack(t *testing.T) {
	for n := 1; n < 30; n++ {
		ws, c := standing(t)
		count, folder := 0, ""
		ws.step = func(step string) {
			if count++; count == n && (step == "replace" || step == "remove" || step == "keep" || step == "folder") {
				folder = ws.Path("tokens") + ".away" // another program moves the folder away
				_ = os.Rename(ws.Path("tokens"), folder)
				put(t, ws.Dir, "tokens", "a file where the folder was")
			}
		}
		err := ws.Apply(c)
		ws.step = nil
		if folder == "" {
			continue
		}
		if err == nil {
			continue // all of the folder was written already
		}
		_ = os.Remove(ws.Path("tokens"))
		if rerr := os.Rename(folder, ws.Path("tokens")); rerr != nil {
			t.Fatal(rerr)
		}
		again(t, ws, Writing).Close()
		if before, after := whole(t, ws); before == after {
			t.Errorf("refused at step %d: %v: half of it happened", n, err)
		}
	}
}

// TestAJournalFromElsewhere holds that a plan which came with the folder moves nothing.
func TestAJournalFromElsewhere(t *testing.T) {
	outside := t.TempDir()
	put(t, outside, "victim", "untouched")
	hash := func(s string) string { return Hash([]byte(s)) }
	file := func(path, before, after string) string {
		return fmt.Sprintf(`{"version":1,"command":"x","files":[{"path":%q,"kind":4,"before":%q,"after":%q}]}`, path, before,
			after)
	}
	for name, journal := range map[string]map[string]string{
		"out of the workspace": {"1/plan.json": file("../evil", "-", hash("e")), "1/0.new": "e"},
		"absolute":             {"1/plan.json": file("/tmp/evil", "-", hash("e")), "1/0.new": "e"},
		"a hook of git":        {"1/plan.json": file(".git/hooks/post-checkout", "-", hash("e")), "1/0.new": "e"},
		"git's configuration":  {"1/plan.json": file("sub/.Git/config", "-", hash("e")), "1/0.new": "e"},
		"the configuration":    {"1/plan.json": file("archetyp.yaml", hash("name: Test\n"), hash("e")), "1/0.new": "e"},
		"through a link":       {"1/plan.json": file("out/victim", hash("untouched"), hash("e")), "1/0.new": "e"},
		"a removal outside":    {"1/plan.json": file("../victim", hash("untouched"), "-")},
		"other bytes":          {"1/plan.json": file("a.txt", hash("a"), hash("e")), "1/0.new": "others"},
		"not clean":            {"1/plan.json": file("x/../a.txt", hash("a"), hash("e")), "1/0.new": "e"},
		"a key more":           {"1/plan.json": `{"version":1,"run":"rm","files":[]}`},
		"torn":                 {"1/plan.json": `{"version":`},
		"no plan":              {"1/0.new": "e"},
		"of another version": {"1/plan.json": strings.Replace(file("a.txt", hash("a"), hash("e")), `"version":1`,
			`"version":7`, 1), "1/0.new": "e"},
		"no number":        {"x/plan.json": file("a.txt", hash("a"), hash("e")), "x/0.new": "e"},
		"a folder outside": {"1/plan.json": `{"version":1,"command":"","files":[{"path":"b.txt","kind":4,"before":"-","after":"` + hash("e") + `"}],"folders":["../evil"]}`, "1/0.new": "e"},
		"of another program (1)": {"../journal/plan.json": `{"move":{"a.txt":"0"},"remove":["../victim"]}`,
			"../journal/0": "e"},
		"executable": {"1/plan.json": file("a.txt", hash("a"), hash("e")), "1/0.new": "e"},
		"many": {"1/plan.json": file("../evil", "-", hash("e")), "2/plan.json": file("a.txt", hash("a"),
			hash("e")), "2/0.new": "e"},
		"something among journals": {"evil": "x"},
	} {
		ws := here(t)
		put(t, ws.Dir, "a.txt", "a")
		if err := os.Symlink(outside, ws.Path("out")); err != nil {
			t.Skip(err)
		}
		for f, data := range journal {
			put(t, ws.Path(writesDir), f, data)
			if name == "executable" {
				_ = os.Chmod(filepath.Join(ws.Path(writesDir), f), 0o755)
			}
		}
		_, _, err := Open(ws.Dir, Reading, Options{})
		var fe *FileError
		if !errors.As(err, &fe) || !strings.Contains(fe.Msg, "did not write this journal") || !strings.Contains(fe.Hint,
			refusedDir) {
			t.Errorf("%s: %v", name, err)
			continue
		}
		if got(t, ws, "a.txt") != "a" || got(t, ws, "archetyp.yaml") != "name: Test\n" || got(t, ws, "../evil") != "(none)" ||
			got(t, ws, ".git/hooks/post-checkout") != "(none)" {
			t.Errorf("%s: something was done", name)
		}
		if name == "many" {
			continue
		}
		next, _, err := Open(ws.Dir, Reading, Options{})
		if err != nil {
			t.Errorf("%s: the next command: %v", name, err)
			continue
		}
		next.Close()
	}
	if data, _ := os.ReadFile(filepath.Join(outside, "victim")); string(data) != "untouched" {
		t.Error("something outside was changed")
	}
}

// FuzzPlan holds that a journal, whatever stands in it, moves nothing outside and nothing of git.
func FuzzPlan(f *testing.F) {
	f.Add([]byte(`{"version":1,"command":"sync","files":[{"path":"a.txt","kind":4,"before":"-","after":"x"}]}`),
		[]byte("new"))
	f.Add([]byte(`{"version":1,"command":"","files":[{"path":"../a","kind":0,"before":"-","after":"-"}],"folders":["../b"]}`), []byte(""))
	f.Add([]byte(`{"version":1,"files":[{"path":".git/config","kind":6,"before":"-","after":"x","mode":511}]}`),
		[]byte("x"))
	f.Add([]byte(`{`), []byte("x"))
	f.Fuzz(func(t *testing.T, plan, data []byte) {
		top := t.TempDir()
		dir := filepath.Join(top, "ws")
		put(t, top, "victim", "untouched")
		put(t, dir, "archetyp.yaml", "name: Test\n")
		put(t, dir, ".git/config", "untouched")
		put(t, dir, writesDir+"/1/plan.json", string(plan))
		put(t, dir, writesDir+"/1/0.new", string(data))
		if ws, _, err := Open(dir, Writing, Options{}); err == nil {
			ws.Close()
		}
		for _, name := range []string{"victim", "ws/.git/config"} {
			if data, err := os.ReadFile(filepath.Join(top, name)); err != nil || string(data) != "untouched" {
				t.Errorf("%s was changed", name)
			}
		}
		if list, _ := os.ReadDir(top); len(list) != 2 {
			t.Errorf("something was made outside: %v", list)
		}
		if list, _ := os.ReadDir(filepath.Join(dir, ".git")); len(list) != 1 {
			t.Errorf("something was put into the folder of git: %v", list)
		}
	})
}
