package workspace

import (
	"archetyp/core/hint"
	"errors"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
)

// clone is a workspace in git with two commits.
func clone(t *testing.T) *Workspace {
	t.Helper()
	if _, err := exec.LookPath("git"); err != nil {
		if os.Getenv("ARCHETYP_NO_SKIP") != "" {
			t.Fatal("git is missing, and skipping is forbidden here")
		}
		t.Skip("git is missing")
	}
	dir := t.TempDir()
	git := func(args ...string) {
		cmd := exec.Command("git", args...)
		cmd.Dir = dir
		cmd.Env = append(os.Environ(), "GIT_CONFIG_GLOBAL=/dev/null", "GIT_CONFIG_SYSTEM=/dev/null", "GIT_AUTHOR_NAME=Ada",
			"GIT_AUTHOR_EMAIL=a@example.org", "GIT_COMMITTER_NAME=Ada", "GIT_COMMITTER_EMAIL=a@example.org")
		if out, err := cmd.CombinedOutput(); err != nil {
			t.Fatalf("git %v: %v\n%s", args, err, out)
		}
	}
	put := func(name, text string) {
		path := filepath.Join(dir, name)
		if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
			t.Fatal(err)
		}
		if err := os.WriteFile(path, []byte(text), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	git("init", "-q", "-b", "main")
	put("w/archetyp.yaml",
		"name: W\nsources: [a.svg]\noutputs:\n  - {as: css, to: dist/my tokens.css}\n  - {as: android, to: dist/res}\n")
	put("w/tokens/a.tokens.json", `{"a": {"$type": "number", "$value": 1}}`)
	put("w/tokens/b.tokens.json", `{"b": {"$value": "{a}"}}`)
	git("add", "-A")
	git("commit", "-qm", "one")
	put("w/tokens/a.tokens.json", `{"a": {"$type": "number", "$value": 2}}`)
	git("add", "-A")
	git("commit", "-qm", "two")
	put("w/tokens/a.tokens.json", `{"a": {"$type": "number", "$value": 3}}`)
	ws, _, err := Find(filepath.Join(dir, "w"))
	if err != nil {
		t.Fatal(err)
	}
	return ws
}

func TestTokensAtARevision(t *testing.T) {
	ws := clone(t)
	for rev, want := range map[string]string{"HEAD~1": "1", "HEAD": "2", "main": "2"} {
		lib, err := ws.TokensAt(rev)
		if err != nil {
			t.Fatal(err)
		}
		if got := lib.Base.Resolve(lib.Base.Get("b")).Value.JSON(); got != want {
			t.Errorf("%s: %s, want %s", rev, got, want)
		}
	}
	for _, rev := range []string{"nothing", "-x", "HEAD~9", "HEAD:w/archetyp.yaml"} {
		if _, err := ws.TokensAt(rev); err == nil {
			t.Errorf("%s is taken for a revision", rev)
		}
	}
	at, err := ws.At("HEAD")
	if err != nil {
		t.Fatal(err)
	}
	defer at.Close()
	if _, err := at.ReadFile("tokens/gone.tokens.json"); !Missing(err) || !strings.Contains(err.Error(),
		"HEAD:tokens/gone.tokens.json") {
		t.Errorf("%v", err)
	}
}

func TestMergeDriver(t *testing.T) {
	ws := clone(t)
	if known, wanted := ws.MergesByToken(); known || wanted {
		t.Error("somebody wants it already")
	}
	want := []string{"*.tokens.json merge=archetyp-tokens", "archetyp.lock merge=archetyp-remake",
		"dist/my[[:space:]]tokens.css merge=archetyp-remake",
		"dist/res/** merge=archetyp-remake", "dist/assets/** merge=archetyp-remake", "guide/** merge=archetyp-remake"}
	if got := ws.Attributes(); strings.Join(got, "\n") != strings.Join(want, "\n") {
		t.Errorf("%s", strings.Join(got, "\n"))
	}
	if err := os.WriteFile(ws.Path(AttributesName), []byte(strings.Join(want[:3], "\n")+"\n"), 0o644); err != nil {
		t.Fatal(err)
	}
	if got := ws.Attributes(); len(got) != 3 {
		t.Errorf("lines are written twice: %v", got)
	}
	if known, wanted := ws.MergesByToken(); known || !wanted {
		t.Error("it is wanted, and not known yet")
	}
	if err := ws.RegisterMerge(); err != nil {
		t.Fatal(err)
	}
	if known, _ := ws.MergesByToken(); !known {
		t.Error("git was not told")
	}
}

func TestGitThatIsMissing(t *testing.T) {
	ws := clone(t)
	t.Setenv("PATH", "")
	_, err := ws.TokensAt("HEAD")
	if !errors.As(err, new(*hint.MissingError)) {
		t.Errorf("%v", err)
	}
}

func gitIn(t *testing.T, dir string, args ...string) (string, error) {
	t.Helper()
	cmd := exec.Command("git", args...)
	cmd.Dir = dir
	cmd.Env = append(os.Environ(), "GIT_CONFIG_GLOBAL=/dev/null", "GIT_CONFIG_SYSTEM=/dev/null", "GIT_AUTHOR_NAME=Ada",
		"GIT_AUTHOR_EMAIL=a@example.org", "GIT_COMMITTER_NAME=Ada", "GIT_COMMITTER_EMAIL=a@example.org")
	out, err := cmd.CombinedOutput()
	return string(out), err
}

// TestUnmergedFilesAreKnown merges two edits of one line by git's own merge.
func TestUnmergedFilesAreKnown(t *testing.T) {
	ws := clone(t)
	lock := &Lock{Program: "1", Outputs: map[string]string{"dist/x": "ours"}, Summary: []byte("{}")}
	commit := func(number, output string) {
		put(t, ws.Dir, "tokens/a.tokens.json", `{"a": {"$type": "number", "$value": `+number+"}}")
		lock.Outputs["dist/x"] = output
		data, err := lock.JSON()
		if err != nil {
			t.Fatal(err)
		}
		put(t, ws.Dir, LockName, string(data))
		for _, args := range [][]string{{"add", "-A"}, {"commit", "-qm", number}} {
			if out, err := gitIn(t, ws.Dir, args...); err != nil {
				t.Fatal(out)
			}
		}
	}
	commit("4", "base")
	if list := ws.Unmerged(); len(list) > 0 {
		t.Errorf("unmerged before anything was: %v", list)
	}
	if out, err := gitIn(t, ws.Dir, "checkout", "-qb", "theirs"); err != nil {
		t.Fatal(out)
	}
	commit("5", "theirs")
	if out, err := gitIn(t, ws.Dir, "checkout", "-q", "main"); err != nil {
		t.Fatal(out)
	}
	commit("6", "ours")
	if _, err := gitIn(t, ws.Dir, "merge", "-q", "theirs"); err == nil {
		t.Fatal("git merged what cannot be")
	}
	if got := strings.Join(ws.Unmerged(), " "); got != "archetyp.lock tokens/a.tokens.json" {
		t.Errorf("unmerged: %s", got)
	}
	data, err := ws.ReadFile("tokens/a.tokens.json")
	var fe *FileError
	if err != nil || !errors.As(Conflict("tokens/a.tokens.json", data), &fe) || fe.Line != 1 || !strings.Contains(fe.Hint,
		"git add") {
		t.Errorf("conflict marks are not seen: %v %v", err, fe)
	}
	back, err := ws.ReadLock()
	if err != nil || back.Outputs["dist/x"] != "ours" || back.Program != "" {
		t.Errorf("a lock with conflict marks: %+v %v", back, err)
	}
}

// TestTheDriverWorksAnywhere merges by the registered driver with nothing on the PATH but git, and where the program
// has gone.
func TestTheDriverWorksAnywhere(t *testing.T) {
	ws := clone(t)
	if err := ws.RegisterMerge(); err != nil {
		t.Fatal(err)
	}
	put(t, ws.Dir, AttributesName, strings.Join(ws.Attributes(), "\n")+"\n")
	if known, wanted := ws.MergesByToken(); !known || !wanted {
		t.Errorf("%v %v", known, wanted)
	}
	driver, err := gitIn(t, ws.Dir, "config", "--get", "merge."+tokenDriver+".driver")
	if err != nil || !strings.Contains(driver, lineMerge) {
		t.Fatal(driver, err)
	}
	gone := strings.Replace(driver, "p='", "p='/nowhere", 1)
	if gone == driver { // run by go run or go test: the program is looked for on the PATH
		gone = strings.Replace(driver, "p=archetyp", "p=/nowhere/archetyp", 1)
	}
	for name, text := range map[string]string{"base": "{\"a\": 1,\n\n\n\n\"b\": 1}\n",
		"ours": "{\"a\": 2,\n\n\n\n\"b\": 1}\n", "theirs": "{\"a\": 1,\n\n\n\n\"b\": 2}\n"} {
		put(t, ws.Dir, name, text)
	}
	line := strings.NewReplacer("%O", "base", "%A", "ours", "%B", "theirs", "%P", "x").Replace(strings.TrimSpace(gone))
	cmd := exec.Command("sh", "-c", line)
	cmd.Dir = ws.Dir
	if out, err := cmd.CombinedOutput(); err != nil {
		t.Errorf("%v: %s", err, out)
	}
	if got := got(t, ws, "ours"); got != "{\"a\": 2,\n\n\n\n\"b\": 2}\n" {
		t.Errorf("one side was lost: %s", got)
	}
}
