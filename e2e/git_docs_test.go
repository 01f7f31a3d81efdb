package e2e

import (
	"encoding/json"
	"io"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
)

// withProgram has "archetyp" be the program under test for a command.
func withProgram(t *testing.T, cmd *exec.Cmd, more ...string) {
	t.Helper()
	bin := t.TempDir()
	if err := os.Symlink(program, filepath.Join(bin, "archetyp")); err != nil {
		t.Fatal(err)
	}
	cmd.Env = append(append(os.Environ(), "PATH="+bin+":"+os.Getenv("PATH")), more...)
}

// script is one of the docs, which show it as it is.
func script(t *testing.T, name string) string {
	t.Helper()
	text := read(t, "../docs/git", name)
	if !strings.Contains(read(t, "../docs/git.md"), "```sh\n"+text+"```") {
		t.Errorf("docs/git.md does not show docs/git/%s as it is", name)
	}
	return text
}

func TestHookBeforeACommit(t *testing.T) {
	t.Parallel()
	dir := repository(t)
	hook := write(t, dir, ".git/hooks/pre-commit", script(t, "pre-commit"))
	if err := os.Chmod(hook, 0o755); err != nil {
		t.Fatal(err)
	}
	try := func() (string, error) {
		mustGit(t, dir, "add", "-A")
		c := exec.Command("git", "-C", dir, "commit", "-m", "x")
		withProgram(t, c)
		out, err := c.CombinedOutput()
		return string(out), err
	}
	edit(t, filepath.Join(dir, "design/booking.svg"), "Passengers", "Travellers")
	if out, err := try(); err == nil || !strings.Contains(out, `Run "archetyp sync"`) {
		t.Errorf("a commit out of step: %v %s", err, out)
	}
	must(t, dir, "sync")
	if out, err := try(); err != nil {
		t.Errorf("a commit in step: %s", out)
	}
}

func TestCommentOnAPullRequest(t *testing.T) {
	t.Parallel()
	need(t, "curl", "python3", "sh")
	dir := repository(t)
	mustGit(t, dir, "checkout", "-q", "-b", "warmer")
	edit(t, filepath.Join(dir, "design/booking.svg"), "Passengers", "Travellers")
	must(t, dir, "sync")
	commitAll(t, dir, "Travellers")
	got := make(chan string, 1)
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		data, _ := io.ReadAll(r.Body)
		got <- r.Header.Get("Authorization") + " " + string(data)
	}))
	defer server.Close()
	c := exec.Command("sh", "-c", script(t, "comment"))
	c.Dir = dir
	withProgram(t, c, "BASE=main", "TOKEN=secret", "COMMENT_URL="+server.URL)
	if out, err := c.CombinedOutput(); err != nil {
		t.Fatalf("%v %s", err, out)
	}
	auth, body, _ := strings.Cut(<-got, " {")
	var comment struct{ Body string }
	if err := json.Unmarshal([]byte("{"+body), &comment); err != nil || auth != "Bearer secret" {
		t.Fatal(err, auth)
	}
	if !strings.Contains(comment.Body, "“Passengers” is “Travellers”") || !strings.Contains(comment.Body, "](booking.png)") {
		t.Error(comment.Body)
	}
	if _, err := os.Stat(filepath.Join(dir, "changes/booking.png")); err != nil {
		t.Error(err)
	}
}

func TestEditionsArePublished(t *testing.T) {
	t.Parallel()
	bare, clones := hub(t, func(dir string) { must(t, filepath.Dir(dir), "demo", dir) }, "Aino")
	hook := write(t, bare, "hooks/post-receive", script(t, "post-receive"))
	to := t.TempDir()
	text := strings.Replace(script(t, "post-receive"), "/srv/guides", to, 1)
	write(t, bare, "hooks/post-receive", text)
	if err := os.Chmod(hook, 0o755); err != nil {
		t.Fatal(err)
	}
	for _, n := range []string{"1", "2"} {
		must(t, clones[0], "tokens", "set", "color.coral.500", "#e0502"+n)
		must(t, clones[0], "sync", "--push", "-m", "coral "+n)
		must(t, clones[0], "edition", "cut", "-m", "Edition "+n, "--anyway")
		must(t, clones[0], "sync", "--push")
	}
	for folder, want := range map[string]string{"edition-1": "#e05021", "edition-2": "#e05022", "latest": "#e05022"} {
		if css := read(t, to, folder, "dist/tokens.css"); !strings.Contains(css, want) {
			t.Errorf("%s has other tokens", folder)
		}
		if !strings.Contains(read(t, to, folder, "guide/index.html"), "Tern") {
			t.Errorf("%s has no guide", folder)
		}
	}
}

// TestHostileRemotes shares with remotes that hang, lie, or bring along what is not to be run.
func TestHostileRemotes(t *testing.T) {
	t.Parallel()
	bare, clones := hub(t, small(t), "Aino", "Mika")
	aino, mika := clones[0], clones[1]

	// hooks in the repository, and in the pushed files, are never run
	ran := filepath.Join(t.TempDir(), "ran")
	for _, hook := range []string{"pre-commit", "post-merge", "post-checkout", "pre-push", "post-rewrite", "reference-transaction", "commit-msg", "post-index-change"} {
		for _, dir := range []string{filepath.Join(aino, ".git/hooks"), filepath.Join(aino, "hooks")} {
			p := write(t, dir, hook, "#!/bin/sh\ntouch "+ran+"\n")
			if err := os.Chmod(p, 0o755); err != nil {
				t.Fatal(err)
			}
		}
	}
	mustGit(t, aino, "config", "core.hooksPath", "hooks")
	write(t, mika, ".gitattributes", "* merge=evil filter=evil diff=evil\n")
	write(t, mika, ".gitmodules", "[submodule \"x\"]\n\tpath = x\n\turl = ext::sh -c touch% "+ran+"\n")
	must(t, mika, "tokens", "set", "color.c1", "#010203")
	must(t, mika, "sync", "--push", "-m", "<script>alert(1)</script> $(touch "+ran+")")
	must(t, aino, "tokens", "set", "color.c2", "#040506")
	must(t, aino, "remark", "add", "a", "#row-1", "hello")
	out := must(t, aino, "sync", "--push", "-m", "--force `touch "+ran+"`").out
	if _, err := os.Stat(ran); err == nil {
		t.Fatal("something that the repository brought along was run")
	}
	if !strings.Contains(out, "<script>") {
		t.Errorf("the log:\n%s", out)
	}

	// branches and tags with odd letters
	for _, name := range []string{"ä ö", "-x", "a;b", "a'b", "ünï/cödé"} {
		if _, err := git(t, mika, "check-ref-format", "--branch", name); err != nil {
			continue
		}
		mustGit(t, mika, "push", "-q", "origin", "HEAD:refs/heads/"+name)
	}
	mustGit(t, mika, "push", "-q", "origin", "HEAD:refs/tags/edition/x", "HEAD:refs/tags/edition/007", "HEAD:refs/tags/edition/1")
	must(t, mika, "sync", "--pull")
	must(t, mika, "edition", "list")
	must(t, mika, "sync", "--push")

	// a remote that hangs
	silent, err := exec.LookPath("sleep")
	if err != nil {
		t.Skip(err)
	}
	script := write(t, t.TempDir(), "hang", "#!/bin/sh\nexec "+silent+" 600\n")
	if err := os.Chmod(script, 0o755); err != nil {
		t.Fatal(err)
	}
	mustGit(t, mika, "config", "remote.origin.uploadpack", script)
	if r := run(t, mika, "sync", "--pull", "--patience", "2s"); r.status != 2 || !strings.Contains(r.err, "sent nothing for 2s") {
		t.Errorf("a remote that hangs: %d %s", r.status, r.err)
	}
	// one that is nothing of the kind
	write(t, filepath.Dir(script), "lie", "#!/bin/sh\necho HTTP/1.1 200 OK\nhead -c 100000 /dev/zero\n")
	if err := os.Chmod(filepath.Join(filepath.Dir(script), "lie"), 0o755); err != nil {
		t.Fatal(err)
	}
	mustGit(t, mika, "config", "remote.origin.uploadpack", filepath.Join(filepath.Dir(script), "lie"))
	if r := run(t, mika, "sync", "--pull", "--patience", "5s"); r.status != 2 || strings.Contains(r.err, "fault of") {
		t.Errorf("a remote that lies: %d %s", r.status, r.err)
	}
	mustGit(t, mika, "config", "--unset", "remote.origin.uploadpack")

	// a damaged one
	objects, _ := filepath.Glob(filepath.Join(bare, "objects", "??", "*"))
	for _, o := range objects {
		_ = os.Chmod(o, 0o644)
		_ = os.WriteFile(o, []byte("not an object"), 0o644)
	}
	must(t, mika, "tokens", "set", "color.c3", "#070809")
	if r := run(t, mika, "sync", "--push", "-m", "x"); r.status == 0 || strings.Contains(r.err, "fault of the program") {
		t.Errorf("a damaged remote: %d %s", r.status, r.err)
	}
	if _, err := git(t, mika, "fsck", "--connectivity-only"); err != nil {
		t.Errorf("the clone is damaged: %v", err)
	}
	must(t, mika, "sync", "--check")
}

// TestPullsThatAreRefused changes nothing where something is in the way.
func TestPullsThatAreRefused(t *testing.T) {
	t.Parallel()
	_, clones := hub(t, small(t), "Aino", "Mika")
	aino, mika := clones[0], clones[1]
	write(t, mika, "notes.txt", "theirs\n")
	must(t, mika, "sync", "--push", "-m", "notes")
	write(t, aino, "phases.yaml", "a: {phase: held, at: {source: design/a.svg, screen: Sailings}}\n")
	if r := run(t, aino, "sync", "--pull"); r.status != 2 || !strings.Contains(r.err, "1 file is not committed, phases.yaml") {
		t.Errorf("not committed: %d %s", r.status, r.err)
	}
	write(t, aino, ".git/info/exclude", "notes.txt\n")
	write(t, aino, "notes.txt", "mine, and ignored\n")
	if r := run(t, aino, "sync", "--pull", "-m", "held"); r.status != 2 || !strings.Contains(r.err, "notes.txt differs") {
		t.Errorf("an ignored file in the way: %d %s", r.status, r.err)
	}
	if read(t, aino, "notes.txt") != "mine, and ignored\n" {
		t.Error("it was written over")
	}
	if err := os.Remove(filepath.Join(aino, "notes.txt")); err != nil {
		t.Fatal(err)
	}
	must(t, aino, "sync", "--pull")
	mustGit(t, aino, "checkout", "-q", "--detach")
	if r := run(t, aino, "sync", "--pull"); r.status != 2 || !strings.Contains(r.err, "no branch") {
		t.Errorf("no branch: %d %s", r.status, r.err)
	}
	mustGit(t, aino, "checkout", "-q", "main")
	mustGit(t, aino, "remote", "remove", "origin")
	if r := run(t, aino, "sync", "--pull"); r.status != 2 || !strings.Contains(r.err, "no remote") {
		t.Errorf("no remote: %d %s", r.status, r.err)
	}
}

// TestConflictsInOtherFiles keeps both versions of what only lines can merge.
func TestConflictsInOtherFiles(t *testing.T) {
	t.Parallel()
	_, clones := hub(t, small(t), "Aino", "Mika")
	aino, mika := clones[0], clones[1]
	for dir, words := range map[string]string{aino: "Sailing one", mika: "Sailing uno"} {
		edit(t, filepath.Join(dir, "design/a.svg"), "Sailing A", words)
	}
	must(t, mika, "sync", "--push", "-m", "uno")
	r := run(t, aino, "sync", "--push", "-m", "one")
	if r.status != 1 || !strings.Contains(r.out, "design/a.svg.theirs") {
		t.Fatalf("%d %s%s", r.status, r.out, r.err)
	}
	if !strings.Contains(read(t, aino, "design/a.svg"), "Sailing one") || !strings.Contains(read(t, aino, "design/a.svg.theirs"), "Sailing uno") {
		t.Error("one version is lost")
	}
	must(t, aino, "sync", "--check")
	if r := run(t, aino, "sync", "--push"); r.status != 1 {
		t.Errorf("pushed with a conflict: %d", r.status)
	}
	if err := os.Remove(filepath.Join(aino, "design/a.svg.theirs")); err != nil {
		t.Fatal(err)
	}
	must(t, aino, "sync", "--push", "-m", "ours it is")
	must(t, mika, "sync", "--pull")
	sameFiles(t, aino, mika)
}

// TestRemovedHereChangedThere keeps what one side changed and the other removed, and reports it.
func TestRemovedHereChangedThere(t *testing.T) {
	t.Parallel()
	_, clones := hub(t, small(t), "Aino", "Mika")
	aino, mika := clones[0], clones[1]
	write(t, aino, "tokens/b.tokens.json", `{"more": {"$type": "color", "$value": "#010203"}}`)
	must(t, aino, "phase", "set", "a", "#row-1", "held")
	must(t, aino, "sync", "--push", "-m", "more")
	must(t, mika, "sync", "--pull")
	must(t, mika, "tokens", "set", "more", "#040506")
	must(t, mika, "phase", "set", "a", "#row-1", "agreed")
	must(t, mika, "sync", "--push", "-m", "changed")
	for _, f := range []string{"tokens/b.tokens.json", "phases.yaml"} {
		if err := os.Remove(filepath.Join(aino, f)); err != nil {
			t.Fatal(err)
		}
	}
	out := must(t, aino, "sync", "--push", "-m", "removed").out
	for _, want := range []string{"tokens/b.tokens.json: removed here, changed there", "phases.yaml: removed here, changed there"} {
		if !strings.Contains(out, want) {
			t.Errorf("%q is not in\n%s", want, out)
		}
	}
	must(t, mika, "sync", "--pull")
	sameFiles(t, aino, mika)
	if !strings.Contains(read(t, aino, "tokens/b.tokens.json"), "#040506") || !strings.Contains(read(t, aino, "phases.yaml"), "agreed") {
		t.Error("an edit is lost")
	}
}

// TestAWorkspaceInAFolderOfARepository shares a workspace that lies deep in a repository, with other files around it.
func TestAWorkspaceInAFolderOfARepository(t *testing.T) {
	t.Parallel()
	const inner = "packages/de sign"
	_, clones := hub(t, func(dir string) {
		small(t)(filepath.Join(dir, inner))
		write(t, dir, "top.txt", "hi\n")
		write(t, dir, "gone.txt", "gone\n")
		if err := os.Symlink("top.txt", filepath.Join(dir, "link")); err != nil {
			t.Fatal(err)
		}
	}, "Aino", "Mika")
	aino, mika := clones[0], clones[1]
	write(t, mika, "top.txt", "hello\n")
	mustGit(t, mika, "rm", "-q", "gone.txt", "link")
	if err := os.Symlink("new/tool", filepath.Join(mika, "link")); err != nil {
		t.Fatal(err)
	}
	if err := os.Chmod(write(t, mika, "new/tool", "#!/bin/sh\n"), 0o755); err != nil {
		t.Fatal(err)
	}
	commitAll(t, mika, "around it")
	must(t, filepath.Join(mika, inner), "tokens", "set", "color.c1", "#00ff00")
	must(t, filepath.Join(mika, inner), "sync", "--push", "-m", "in it")
	must(t, filepath.Join(aino, inner), "phase", "set", "a", "#row-1", "agreed")
	must(t, filepath.Join(aino, inner), "sync", "--push", "-m", "agreed")
	must(t, filepath.Join(mika, inner), "sync", "--pull")
	sameFiles(t, aino, mika)
	for _, dir := range clones {
		must(t, filepath.Join(dir, inner), "sync", "--check")
		if got := mustGit(t, dir, "status", "--porcelain"); got != "" {
			t.Errorf("%s", got)
		}
		info, err := os.Stat(filepath.Join(dir, "new/tool"))
		if to, lerr := os.Readlink(filepath.Join(dir, "link")); err != nil || info.Mode()&0o111 == 0 || lerr != nil || to != "new/tool" {
			t.Errorf("%v %v %q", err, lerr, to)
		}
	}
	write(t, mika, "top.txt", "ours\n")
	commitAll(t, mika, "ours")
	write(t, aino, "top.txt", "theirs\n")
	commitAll(t, aino, "theirs")
	must(t, filepath.Join(mika, inner), "sync", "--push")
	if r := run(t, filepath.Join(aino, inner), "sync", "--push"); r.status != 1 || !strings.Contains(r.out, "top.txt.theirs") {
		t.Errorf("a conflict around the workspace: %d %s%s", r.status, r.out, r.err)
	}
	if read(t, aino, "top.txt") != "theirs\n" || read(t, aino, "top.txt.theirs") != "ours\n" {
		t.Error("one version is lost")
	}
}
