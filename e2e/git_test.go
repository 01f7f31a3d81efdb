package e2e

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
)

func git(t testing.TB, dir string, args ...string) (string, error) {
	t.Helper()
	cmd := exec.Command(need(t, "git"), args...)
	cmd.Dir = dir
	cmd.Env = append(os.Environ(), "GIT_CONFIG_GLOBAL=/dev/null", "GIT_CONFIG_SYSTEM=/dev/null",
		"PATH="+filepath.Dir(program)+string(os.PathListSeparator)+os.Getenv("PATH"),
		"GIT_AUTHOR_NAME=Ada", "GIT_AUTHOR_EMAIL=ada@example.org", "GIT_COMMITTER_NAME=Ada", "GIT_COMMITTER_EMAIL=ada@example.org")
	out, err := cmd.CombinedOutput()
	return string(out), err
}

func mustGit(t testing.TB, dir string, args ...string) string {
	t.Helper()
	out, err := git(t, dir, args...)
	if err != nil {
		t.Fatalf("git %s: %v\n%s", strings.Join(args, " "), err, out)
	}
	return out
}

// versioned is a workspace in git, its first state committed.
func versioned(t testing.TB) string {
	t.Helper()
	dir := t.TempDir()
	mustGit(t, dir, "init", "-q", "-b", "main")
	write(t, dir, "a.svg",
		`<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100"><rect width="50" height="50" rx="8" fill="#0b6e8f"/><rect x="60" width="50" height="50" fill="#e4572e"/><rect x="60" y="60" width="50" height="20" fill="#10243a"/></svg>`)
	r := must(t, dir, "init", "--harvest")
	if !strings.Contains(r.err, ".gitattributes") {
		t.Errorf("init does not tell of .gitattributes: %s", r.err)
	}
	must(t, dir, "sync")
	mustGit(t, dir, "add", "-A")
	mustGit(t, dir, "commit", "-qm", "First")
	return dir
}

func commit(t testing.TB, dir, branch string, edits ...string) {
	t.Helper()
	mustGit(t, dir, "checkout", "-q", "-B", branch, "main")
	for _, e := range edits {
		must(t, dir, append([]string{"tokens"}, strings.Fields(e)...)...)
	}
	must(t, dir, "sync")
	mustGit(t, dir, "add", "-A")
	mustGit(t, dir, "commit", "-qm", branch)
}
