package e2e

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// brand is a repository with tokens and drawings that others use, tagged v1 and v2.
func brand(t *testing.T) string {
	t.Helper()
	need(t, "git")
	dir := t.TempDir()
	mustGit(t, dir, "init", "-q", "-b", "main")
	person(t, dir, "Brand")
	write(t, dir, "tokens/brand.tokens.json", `{"brand": {"$type": "color", "deep": {"$value": "#0b4a63"}, "sand": {"$value": "#f4ead5"}}}`)
	write(t, dir, "design/parts.svg", `<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100"><g id="badge" data-component="badge" data-variant="tone=good"><rect width="60" height="20" rx="10" fill="#dff2e3"/><text x="10" y="15" font-size="12">On time</text></g><g id="star"  data-component="star"><path d="M100 0l5 10h-10z" fill="#fa0"/></g></svg>`)
	commitAll(t, dir, "one")
	mustGit(t, dir, "tag", "v1")
	edit(t, filepath.Join(dir, "tokens/brand.tokens.json"), `"#f4ead5"`, `"#f0e4c8"`)
	edit(t, filepath.Join(dir, "tokens/brand.tokens.json"), `"deep"`, `"tide": {"$value": "#123456"}, "deep"`)
	commitAll(t, dir, "two")
	mustGit(t, dir, "tag", "v2")
	return dir
}

func TestTokensThatLiveElsewhere(t *testing.T) {
	t.Parallel()
	from := brand(t)
	dir := t.TempDir()
	mustGit(t, dir, "init", "-q")
	person(t, dir, "Aino")
	config := func(ref string) string {
		return fmt.Sprintf("name: Skiff\nsources: [design/*.svg]\ntokens:\n  files: [tokens/*.tokens.json]\n  upstream: [{name: brand, repo: %s, ref: %s, files: tokens/*.json}]\n"+
			"components:\n  upstream: [{name: library, repo: %s, ref: v1, files: design/*.svg}]\noutputs: [{as: css, to: dist/tokens.css}]\n", from, ref, from)
	}
	write(t, dir, "archetyp.yaml", config("v1"))
	write(t, dir, "tokens/own.tokens.json", `{"own": {"$type": "color", "$value": "{brand.deep}"}}`)
	write(t, dir, "design/a.svg", `<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100" data-screen="A"><g data-component="badge" data-variant="tone=good"><rect x="9" width="60" height="20" rx="10" fill="#dff2e3"/><text x="19" y="15" font-size="12">Late</text></g>`+
		`<g data-component="badge" data-variant="tone=good"><rect x="9" y="40" width="60" height="20" rx="10" fill="#ff0000"/><text x="19" y="55" font-size="12">Off</text></g><g><path d="M100 50l5 10h-10z" fill="#fa0"/></g></svg>`)
	if r := run(t, dir, "sync"); r.status != 2 || !strings.Contains(r.err, "tokens upstream --update") {
		t.Errorf("nothing was taken, and: %d %s", r.status, r.err)
	}
	must(t, dir, "tokens", "upstream", "--update")
	must(t, dir, "sync")
	if css := read(t, dir, "dist/tokens.css"); !strings.Contains(css, "--brand-deep: #0b4a63") || !strings.Contains(css, "--own: var(--brand-deep)") {
		t.Errorf("the tokens of both:\n%s", css)
	}
	if r := run(t, dir, "tokens", "upstream", "--check"); r.status != 0 {
		t.Errorf("nothing is new: %d %s", r.status, r.out)
	}
	out := must(t, dir, "outline", "--shared").out
	for _, want := range []string{"library", "3 uses", "badge tone=good  2 ×", "1 of them differ", "#ff0000, not #dff2e3", "star"} {
		if !strings.Contains(strings.ToLower(out), strings.ToLower(want)) {
			t.Errorf("%q is not in\n%s", want, out)
		}
	}
	if page := read(t, dir, "guide/components.html"); !strings.Contains(page, "From libraries") || !strings.Contains(page, "#ff0000, not #dff2e3") {
		t.Errorf("the guide does not list what is shared:\n%s", page)
	}
	if _, err := os.Stat(filepath.Join(dir, "guide/components/badge.html")); err == nil {
		t.Error("a component of a library is documented again")
	}
	holds(t, "outline-shared", must(t, dir, "outline", "--shared", "--json").out)
	write(t, dir, "archetyp.yaml", config("v2"))
	r := run(t, dir, "tokens", "upstream", "--check")
	if r.status != 1 || !strings.Contains(r.out, "brand.tide") || !strings.Contains(r.out, "#f0e4c8") || strings.Contains(r.out, "brand.deep") {
		t.Errorf("what is new: %d\n%s", r.status, r.out)
	}
	if strings.Contains(read(t, dir, "upstream/brand/tokens/brand.tokens.json"), "tide") {
		t.Error("--check took something over")
	}
	holds(t, "tokens-upstream", must(t, dir, "tokens", "upstream", "--update", "--json").out)
	must(t, dir, "sync")
	must(t, dir, "sync", "--check")

	if r := run(t, dir, "tokens", "set", "brand.deep", "#000000"); r.status != 2 || !strings.Contains(r.err, "--upstream") {
		t.Errorf("a token of theirs was set here: %d %s", r.status, r.err)
	}
	must(t, dir, "tokens", "set", "brand.deep", "#0b4a64", "--upstream")
	if got := mustGit(t, from, "show", "archetyp/brand-deep:tokens/brand.tokens.json"); !strings.Contains(got, "#0b4a64") || !strings.Contains(got, "tide") {
		t.Errorf("the branch there has\n%s", got)
	}
	if got := mustGit(t, from, "status", "--porcelain"); got != "" {
		t.Errorf("their work tree changed: %s", got)
	}
	must(t, dir, "tokens", "set", "own", "#ffffff")
	must(t, dir, "tokens", "set", "brand.mine", "#010203")
	if !strings.Contains(read(t, dir, "tokens/own.tokens.json"), "mine") {
		t.Error("a new token beside theirs is not the team's own")
	}
	edit(t, filepath.Join(dir, "upstream/brand/tokens/brand.tokens.json"), "#123456", "#654321")
	if r := run(t, dir, "sync"); r.status != 2 || !strings.Contains(r.err, "was edited here") {
		t.Errorf("an edit of their file: %d %s", r.status, r.err)
	}
}

func TestTokensFromAFileAndAnAddress(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	tokens := `{"far": {"$type": "color", "$value": "#0b4a63"}}`
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.URL.Path != "/far.tokens.json" {
			w.WriteHeader(http.StatusNotFound)
			return
		}
		fmt.Fprint(w, tokens)
	}))
	defer server.Close()
	write(t, dir, "near.tokens.json", `{"near": {"$type": "color", "$value": "#ffffff"}}`)
	ws := filepath.Join(dir, "ws")
	write(t, ws, "archetyp.yaml", "tokens: {files: [tokens/*.tokens.json], upstream: [{file: ../near.tokens.json}, {url: \""+server.URL+"/far.tokens.json\"}]}\noutputs: [{as: css, to: dist/tokens.css}]\n")
	must(t, ws, "tokens", "upstream", "--update")
	must(t, ws, "sync")
	if css := read(t, ws, "dist/tokens.css"); !strings.Contains(css, "--near: #fff") || !strings.Contains(css, "--far: #0b4a63") {
		t.Errorf("%s", css)
	}
	tokens = "not JSON"
	if r := run(t, ws, "tokens", "upstream", "--update"); r.status != 2 || !strings.Contains(r.err, "cannot be used") {
		t.Errorf("nonsense from the address: %d %s", r.status, r.err)
	}
	must(t, ws, "sync", "--check")
	for config, want := range map[string]string{
		"{repo: ../x}": "needs files", "{}": "needs a repo, a file or a url", "{repo: -x, files: a}": "is no place", "{url: ftp://x}": "is no address", "{repo: x, ref: \"--upload-pack=x\", files: a}": "is no tag",
		"{name: ../x, file: a}": "give it a name", "{colour: x}": "is not known",
	} {
		write(t, ws, "archetyp.yaml", "tokens: {upstream: ["+config+"]}\n")
		if r := run(t, ws, "status"); r.status != 2 || !strings.Contains(r.err, want) {
			t.Errorf("%s: %d %s", config, r.status, r.err)
		}
	}
	_ = os.Remove(filepath.Join(ws, "archetyp.yaml"))
}
