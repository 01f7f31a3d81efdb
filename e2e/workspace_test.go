package e2e

import (
	"encoding/json"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"testing"
)

// madeDemo is the demo as the program writes it, made when it is first wanted.
var madeDemo struct {
	sync.Once
	dir string
}

// demo is a folder with the demo, fresh for each test.
func demo(t testing.TB) string {
	t.Helper()
	madeDemo.Do(func() {
		madeDemo.dir = filepath.Join(filepath.Dir(program), "tern-and-tide")
		must(t, filepath.Dir(program), "demo", madeDemo.dir, "--quiet")
	})
	dir := filepath.Join(t.TempDir(), "tern-and-tide")
	if err := os.CopyFS(dir, os.DirFS(madeDemo.dir)); err != nil {
		t.Fatal(err)
	}
	return dir
}

func TestDemo(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	r := must(t, dir, "demo", "ferry")
	for _, want := range []string{"Tern & Tide", "drawings", "dist/tokens.css", "text/en.json", "guide/index.html",
		"Deserves a look", "#0c6f91 is almost #0b6e8f", "13px", "Try next", "archetyp -C ferry"} {
		if !strings.Contains(r.out, want) {
			t.Errorf("the summary does not say %q:\n%s", want, r.out)
		}
	}
	if strings.Contains(r.out, "\x1b[") {
		t.Error("colour codes, and no terminal")
	}
	first := tree(t, filepath.Join(dir, "ferry"))
	again := must(t, dir, "demo", "ferry")
	if !strings.Contains(again.out, "nothing had changed") {
		t.Errorf("a second time: %s", again.out)
	}
	must(t, dir, "demo", "other")
	for what, second := range map[string]map[string]string{"the same folder": tree(t, filepath.Join(dir, "ferry")),
		"another folder": tree(t, filepath.Join(dir, "other"))} {
		if len(first) != len(second) {
			t.Errorf("%s: %d files, then %d", what, len(first), len(second))
		}
		for name, data := range first {
			if second[name] != data {
				t.Errorf("%s: %s differs", what, name)
			}
		}
	}
}

func TestDemoRefusesAFolderInUse(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	write(t, dir, "mine/notes.txt", "dear diary")
	r := run(t, dir, "demo", "mine")
	if r.status != 2 || !strings.Contains(r.err, "notes.txt") || len(tree(t, dir)) != 1 {
		t.Errorf("status %d, %s, %v", r.status, r.err, tree(t, dir))
	}
	must(t, dir, "demo", "ferry")
	drawing := filepath.Join(dir, "ferry", "design", "booking.svg")
	write(t, filepath.Dir(drawing), "booking.svg", strings.Replace(read(t, drawing), "Pay €", "Buy €", 1))
	if r := run(t, dir, "demo", "ferry"); r.status != 2 || !strings.Contains(read(t, drawing), "Buy €") {
		t.Errorf("a drawing that was edited is written over: status %d", r.status)
	}
	write(t, dir, "file", "x")
	if r := run(t, dir, "demo", "file"); r.status != 2 {
		t.Errorf("into a file: status %d", r.status)
	}
}

func TestSyncWritesNothingTheSecondTime(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	before := stamps(t, dir)
	r := must(t, dir, "sync")
	if !strings.Contains(r.out, "nothing was written") {
		t.Errorf("%s", r.out)
	}
	for name, stamp := range stamps(t, dir) {
		if before[name] != stamp {
			t.Errorf("%s was touched", name)
		}
	}
	if r := run(t, dir, "sync", "--check"); r.status != 0 || !strings.Contains(r.out, "in step") {
		t.Errorf("status %d, %s", r.status, r.out)
	}
}

func stamps(t testing.TB, dir string) map[string]int64 {
	t.Helper()
	out := map[string]int64{}
	for name := range tree(t, dir) {
		info, err := os.Stat(filepath.Join(dir, name))
		if err != nil {
			t.Fatal(err)
		}
		out[name] = info.ModTime().UnixNano()
	}
	return out
}

func edit(t testing.TB, path, old, new string) {
	t.Helper()
	s := read(t, path)
	if !strings.Contains(s, old) {
		t.Fatalf("%s does not hold %q", path, old)
	}
	write(t, filepath.Dir(path), filepath.Base(path), strings.Replace(s, old, new, 1))
}

func TestCheckSaysWhatIsOutOfStep(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	before := tree(t, dir)
	edit(t, filepath.Join(dir, "design", "booking.svg"), `rx="12" fill="#0B6E8F"`, `rx="12" fill="#E4572E"`)
	r := run(t, dir, "sync", "--check")
	if r.status != 1 || !strings.Contains(r.out, "design/booking.svg: elements 1 changed (booking/pay/box 1)") ||
		!strings.Contains(r.out, "guide/") {
		t.Errorf("status %d\n%s%s", r.status, r.out, r.err)
	}
	if s := run(t, dir, "status"); s.status != 0 || s.out != r.out {
		t.Errorf("status says\n%s", s.out)
	}
	var j struct {
		UpToDate         bool
		Written, Changes []string
	}
	if q := run(t, dir, "sync", "--check", "--json"); json.Unmarshal([]byte(q.out), &j) != nil || j.UpToDate ||
		len(j.Written) == 0 || len(j.Changes) != 1 {
		t.Errorf("%s", q.out)
	}
	after := tree(t, dir)
	delete(before, "design/booking.svg")
	for name, data := range before {
		if after[name] != data {
			t.Errorf("--check wrote %s", name)
		}
	}
	must(t, dir, "sync")
	if r := run(t, dir, "sync", "--check"); r.status != 0 {
		t.Errorf("after a sync: status %d\n%s", r.status, r.out)
	}
}

func TestRenamedSourceAndRemovedAsset(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	edit(t, filepath.Join(dir, "design", "components.svg"), ` data-asset="icons/wave"`, "")
	if err := os.Rename(filepath.Join(dir, "design", "booking.svg"), filepath.Join(dir, "design", "pay.svg")); err != nil {
		t.Fatal(err)
	}
	r := must(t, dir, "sync")
	files := tree(t, dir)
	if _, there := files["dist/assets/icons/wave@2x.png"]; there || !strings.Contains(r.out,
		"design/booking.svg is design/pay.svg now") {
		t.Errorf("%s", r.out)
	}
	if _, there := files["dist/assets/icons/anchor.svg"]; !there {
		t.Error("the other assets are gone too")
	}
}

func TestHandEditsAreNotWrittenOver(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	css := filepath.Join(dir, "dist", "tokens.css")
	edit(t, css, "#0b6e8f", "#ff0000")
	edit(t, filepath.Join(dir, "design", "booking.svg"), "Breakfast</tspan>", "Supper</tspan>")
	r := run(t, dir, "sync")
	if r.status != 2 || !strings.Contains(r.err, "dist/tokens.css: edited by hand") || !strings.Contains(read(t, css),
		"#ff0000") {
		t.Errorf("status %d, %s", r.status, r.err)
	}
	if !strings.Contains(read(t, dir, "text", "en.json"), "Breakfast") {
		t.Error("something else was written")
	}
	must(t, dir, "sync", "--overwrite")
	if strings.Contains(read(t, css), "#ff0000") || !strings.Contains(read(t, dir, "text", "en.json"), "Supper") {
		t.Error("--overwrite did not")
	}
}

// TestStrangersDrawings takes two commands from drawings nobody prepared to a guide and CSS variables.
func TestStrangersDrawings(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	write(t, dir, "screens/home.svg",
		`<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100"><rect width="200" height="100" fill="#f5f8fa"/><g><rect x="20" y="20" width="160" height="60" rx="8" fill="#0b6e8f"/><text x="100" y="55" text-anchor="middle" font-size="16" fill="#fff">Sail away</text></g></svg>`)
	write(t, dir, "screens/more/two words.svg",
		`<svg xmlns="http://www.w3.org/2000/svg" width="50" height="50"><circle cx="25" cy="25" r="20" fill="#0b6e8f"/></svg>`)
	r := must(t, dir, "init", "--harvest")
	if !strings.Contains(r.err, "2 drawings found") || !strings.Contains(r.err, "tokens accepted") {
		t.Errorf("%s", r.err)
	}
	r = must(t, dir, "sync")
	css := read(t, dir, "dist", "tokens.css")
	for _, want := range []string{"--color-blue-500: #0b6e8f;", "--radius-8: 8px;"} {
		if !strings.Contains(css, want) {
			t.Errorf("no %s in\n%s", want, css)
		}
	}
	if strings.Contains(r.out, "could be tokens") {
		t.Errorf("there are proposals left: %s", r.out)
	}
	for _, f := range []string{"guide/index.html", "guide/screens/home.html", "guide/screens/two-words.html",
		"text/en.json", "archetyp.lock"} {
		if _, ok := tree(t, dir)[f]; !ok {
			t.Errorf("no %s", f)
		}
	}
	if r := run(t, dir, "init"); r.status != 2 || !strings.Contains(r.err, "is there already") {
		t.Errorf("init again: %d %s", r.status, r.err)
	}
}

func TestTokensAreOnlyAddedWhenTold(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	write(t, dir, "a.svg",
		`<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100"><rect width="50" height="50" rx="8" fill="#0b6e8f"/><rect x="60" width="50" height="50" fill="#e4572e"/></svg>`)
	must(t, dir, "init")
	r := must(t, dir, "sync")
	if !strings.Contains(r.out, "3 values could be tokens") {
		t.Errorf("%s", r.out)
	}
	if _, made := tree(t, dir)["tokens/design.tokens.json"]; made {
		t.Error("tokens were added")
	}
	h := must(t, dir, "tokens", "harvest")
	if !strings.Contains(h.out, "+ color.blue.500") || !strings.Contains(h.out, "+ radius.8") {
		t.Errorf("%s", h.out)
	}
	w := must(t, dir, "tokens", "harvest", "--write=radius.*")
	if w.out != "+ radius.8  8px  tokens/design.tokens.json\n" {
		t.Errorf("%s", w.out)
	}
	if w := must(t, dir, "tokens", "harvest", "--write"); !strings.Contains(w.out, "+ color.blue.500") ||
		strings.Contains(w.out, "radius") {
		t.Errorf("%s", w.out)
	}
	list := must(t, dir, "tokens", "list")
	if !regexp.MustCompile(`(?m)^radius\n  8 +8px$`).MatchString(list.out) {
		t.Errorf("%s", list.out)
	}
	if e := must(t, dir, "tokens", "emit", "--unit", "rem", "--prefix", "x"); !strings.Contains(e.out,
		"--x-radius-8: 0.5rem;") {
		t.Errorf("%s", e.out)
	}
}

func TestTexts(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	r := must(t, dir, "text", "collect", "--list")
	if !strings.Contains(r.out, "booking.pay") || !regexp.MustCompile(`\d+ +by key`).MatchString(r.out) {
		t.Errorf("%s", r.out)
	}
	edit(t, filepath.Join(dir, "design", "booking.svg"), ">Bicycle<", ">Bikes<")
	if r := must(t, dir, "text", "collect"); !strings.Contains(r.out,
		"26 a number, 15 marked as not to be translated, 1 filler copy, 1 hidden") {
		t.Errorf("%s", r.out)
	}
	x := must(t, dir, "text", "export", "--as", "xliff", "--locale", "fi")
	if !strings.Contains(x.out, `trgLang="fi"`) || !strings.Contains(x.out, `Pay <ph id="1"`) {
		t.Errorf("%s", x.out)
	}
	out := filepath.Join(dir, "texts.xlf")
	must(t, dir, "text", "export", "-o", "texts.xlf")
	if lint := need(t, "xmllint"); lint != "" {
		if msg, err := exec.Command(lint, "--noout", out).CombinedOutput(); err != nil {
			t.Errorf("xmllint: %s", msg)
		}
	}
	var words map[string]string
	if err := json.Unmarshal([]byte(must(t, dir, "text", "export", "--as", "json").out), &words); err != nil ||
		words["timetable.title"] != "Island timetable" {
		t.Errorf("%v %v", err, words)
	}
	if r := run(t, t.TempDir(), "text", "export"); r.status != 2 || !strings.Contains(r.err, "no workspace") {
		t.Errorf("%d %s", r.status, r.err)
	}
}

func TestAssets(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	if err := os.RemoveAll(filepath.Join(dir, "dist", "assets", "icons")); err != nil {
		t.Fatal(err)
	}
	r := must(t, dir, "assets", "export")
	if !strings.Contains(r.out, "dist/assets/icons/ (") {
		t.Errorf("%s", r.out)
	}
	lint := need(t, "xmllint")
	for name := range tree(t, filepath.Join(dir, "dist", "assets")) {
		if strings.HasSuffix(name, ".svg") {
			if msg, err := exec.Command(lint, "--noout", filepath.Join(dir, "dist", "assets",
				name)).CombinedOutput(); err != nil {
				t.Errorf("xmllint: %s", msg)
			}
		}
	}
	if again := must(t, dir, "assets", "export"); !strings.Contains(again.out, "nothing was written") {
		t.Errorf("%s", again.out)
	}
	var list struct{ Assets []struct{ Name string } }
	mustJSON(t, dir, &list, "assets", "list")
	if len(list.Assets) != 13 || list.Assets[0].Name != "brand/tern" {
		t.Errorf("%+v", list)
	}
	if g := must(t, dir, "guide", "build"); !strings.Contains(g.out, "nothing was written") {
		t.Errorf("%s", g.out)
	}
}

func TestPartOfTheJobLeavesTheRest(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	edit(t, filepath.Join(dir, "design", "booking.svg"), "Breakfast</tspan>", "Supper</tspan>")
	must(t, dir, "text", "collect")
	if !strings.Contains(read(t, dir, "text", "en.json"), "Supper") ||
		strings.Contains(guideText(t, dir), "Supper") {
		t.Error("text collect wrote the wrong things")
	}
	if r := run(t, dir, "sync", "--check"); r.status != 1 || !strings.Contains(r.out, "guide/") {
		t.Errorf("the rest counts as in step: %s", r.out)
	}
	must(t, dir, "sync")
	if !strings.Contains(guideText(t, dir), "Supper") {
		t.Error("sync left the guide")
	}
}

// TestGitIsOfferedLater has a workspace become a repository after it was made, and git told how its files merge then.
func TestGitIsOfferedLater(t *testing.T) {
	t.Parallel()
	need(t, "git")
	dir := demo(t)
	command(t, dir, "git", "init", "-q")
	if r := must(t, dir, "status"); !strings.Contains(r.err, "archetyp init --git") {
		t.Errorf("it is not offered: %s", r.err)
	}
	must(t, dir, "init", "--git")
	if text := read(t, dir, ".gitattributes"); !strings.Contains(text, "*.tokens.json merge=archetyp-tokens") {
		t.Errorf("%s", text)
	}
	if r := must(t, dir, "status"); strings.Contains(r.err, "init --git") {
		t.Errorf("it is offered again: %s", r.err)
	}
	if r := must(t, dir, "init", "--git"); !strings.Contains(r.out, "has it already") {
		t.Errorf("%s", r.out)
	}
}
