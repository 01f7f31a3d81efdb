package e2e

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"
)

// hostile is a workspace that wants something outside touched or something run. It is one error, whatever is asked of
// it, unless ok says that it does no harm.
type hostile struct {
	name  string
	files map[string]string
	links map[string]string // path → where it leads; OUT is a folder outside
	more  func(dir string) error
	run   []string // sync by default
	ok    bool
}

const plainDrawing = `<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><g id="m" data-asset="m"><rect width="9" height="9" fill="#0b6e8f"/></g></svg>`

// hostiles are what a folder that came from elsewhere may hold.
func hostiles() []hostile {
	tokens := `{"a": {"$type": "color", "$value": "#010203"}}`
	to := func(as, place string) map[string]string {
		return map[string]string{"archetyp.yaml": fmt.Sprintf("outputs: [{as: %s, to: %q}]\n", as, place),
			"tokens/a.tokens.json": tokens}
	}
	plan := func(path, before, after string) map[string]string {
		return map[string]string{".archetyp/writes/1/plan.json": fmt.Sprintf(`{"version":1,"command":"sync","files":[{"path":%q,"kind":4,"before":%q,"after":%q}]}`, path, before, after), ".archetyp/writes/1/0.new": "evil"}
	}
	list := []hostile{
		{name: "outputs through a link", files: map[string]string{"tokens/a.tokens.json": tokens},
			links: map[string]string{"dist": "OUT"}},
		{name: "guide through a link", links: map[string]string{"guide": "OUT"}},
		{name: "assets through a link", links: map[string]string{"dist/assets": "OUT"}},
		{name: "an output that is a link", files: map[string]string{"tokens/a.tokens.json": tokens},
			links: map[string]string{"dist/tokens.css": "OUT/victim"}},
		{name: "a page of the guide that is a link", links: map[string]string{"guide/index.html": "OUT/victim"}},
		{name: "our folder a link", links: map[string]string{".archetyp": "OUT"}},
		{name: "the journals a link", links: map[string]string{".archetyp/writes": "OUT"}},
		{name: "the lock of processes a link", links: map[string]string{".archetyp/lock": "OUT/victim"}},
		{name: "the lock a link", links: map[string]string{"archetyp.lock": "OUT/victim"}},
		{name: "texts through a link", links: map[string]string{"text": "OUT"}},
		{name: "a catalogue that is a link", links: map[string]string{"text/en.json": "OUT/victim"}},
		{name: "tokens through a link", links: map[string]string{"tokens": "OUT"}, run: []string{"tokens", "set", "x.y",
			"#123456"}},
		{name: "a token file that is a link", files: map[string]string{},
			links: map[string]string{"tokens/a.tokens.json": "OUT/tokens.json"}, run: []string{"tokens", "set", "a", "#123456"}},
		{name: "a resolver that leads out",
			files: map[string]string{"archetyp.yaml": "tokens: {resolver: tokens/r.resolver.json}\n",
				"tokens/r.resolver.json": `{"version": "2025.10", "sets": {"a": {"sources": [{"$ref": "../../x.tokens.json"}]}}, "resolutionOrder": [{"$ref": "#/sets/a"}]}`}},
		{name: "the configuration a link", links: map[string]string{"archetyp.yaml": "OUT/config.yaml"}},
		{name: "sources through a link", links: map[string]string{"design": "OUT"}},
		{name: "a source that is a link", links: map[string]string{"design/b.svg": "OUT/secret.svg"}},
		{name: "fonts through a link", files: map[string]string{"archetyp.yaml": "fonts: [fonts/]\n"},
			links: map[string]string{"fonts/a.ttf": "OUT/victim"}},
		{name: "git's configuration", files: to("css", ".git/config")},
		{name: "a hook", files: to("css", "x/.GIT/hooks/post-checkout")},
		{name: "git by its short name", files: to("css", "GIT~1/config")},
		{name: "an output at the configuration", files: to("css", "archetyp.yaml")},
		{name: "an output at the lock", files: to("css", "Archetyp.lock")},
		{name: "an output in our folder", files: to("css", ".archetyp/seen")},
		{name: "an output at a source", files: to("css", "design/a.svg")},
		{name: "an output at a token file", files: to("json", "tokens/b.tokens.json")},
		{name: "an output at the catalogue", files: to("json", "text/en.json")},
		{name: "an output outside", files: to("css", "../evil.css")},
		{name: "an output by an absolute path", files: to("css", "/tmp/evil.css")},
		{name: "two outputs at one place",
			files: map[string]string{"archetyp.yaml": "outputs:\n  - {as: css, to: dist/x}\n  - {as: json, to: dist/./x}\n",
				"tokens/a.tokens.json": tokens}},
		{name: "an output where a file of somebody stands", files: map[string]string{"tokens/a.tokens.json": tokens,
			"dist/tokens.css": "mine { }\n"}},
		{name: "a lock that removes files outside",
			files: map[string]string{"archetyp.lock": `{"version":3,"program":"0.1.0","inputs":{},"outputs":{"../OUT/victim":"0-0"},"summary":{},"tokens":{},"elements":{}}`}},
		{name: "a journal that leads out", files: plan("../evil", "-", "x")},
		{name: "a journal with a hook", files: plan(".git/hooks/post-checkout", "-", "x")},
		{name: "a journal of an earlier version",
			files: map[string]string{".archetyp/journal/plan.json": `{"move":{"../evil":"0"},"remove":["../victim"]}`,
				".archetyp/journal/0": "evil"}},
		{name: "a drawing that reads outside",
			files: map[string]string{"design/a.svg": `<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><style>@import "../../OUT/secret.css";</style><image width="9" height="9" href="../../OUT/secret.svg"/><rect width="9" height="9"/></svg>`}, ok: true},
		{name: "a FIFO among the sources",
			more: func(dir string) error { return syscall.Mkfifo(filepath.Join(dir, "design", "b.svg"), 0o644) }},
		{name: "a FIFO for the folder of sources",
			files: map[string]string{"archetyp.yaml": "sources: [pipe/*.svg, 'pipe/**/*.svg']\n"}, more: func(dir string) error { return syscall.Mkfifo(filepath.Join(dir, "pipe"), 0o644) }},
		{name: "a FIFO for an output", files: map[string]string{"tokens/a.tokens.json": tokens, "dist/x": ""},
			more: func(dir string) error { return syscall.Mkfifo(filepath.Join(dir, "dist", "tokens.css"), 0o644) }},
		{name: "a FIFO for the lock",
			more: func(dir string) error { return syscall.Mkfifo(filepath.Join(dir, "archetyp.lock"), 0o644) }},
		{name: "a device among the sources", links: map[string]string{"design/b.svg": "/dev/zero"}},
		{name: "a device as a token file", links: map[string]string{"tokens/a.tokens.json": "/dev/random"}},
		{name: "a circle of links", links: map[string]string{"design/b.svg": "c.svg", "design/c.svg": "b.svg"}},
		{name: "a configuration that ends a package",
			files: map[string]string{"archetyp.yaml": "outputs: [{as: kotlin, to: dist/T.kt, package: \"a\\nfun main() {}\"}]\n",
				"tokens/a.tokens.json": tokens}},
		{name: "a context that ends its block",
			files: map[string]string{"archetyp.yaml": "contexts: {scheme.dark: \"@media x { } body\"}\n"}},
	}
	return list
}

// TestHostileWorkspaces holds that nothing outside is touched or read, and nothing run.
func TestHostileWorkspaces(t *testing.T) {
	t.Parallel()
	for _, h := range hostiles() {
		top := t.TempDir()
		out, dir := filepath.Join(top, "OUT"), filepath.Join(top, "ws")
		for name, data := range map[string]string{"victim": "untouched",
			"secret.svg": `<svg xmlns="http://www.w3.org/2000/svg"><text>SECRET</text></svg>`, "secret.css": "rect{fill:#5ec4e7}",
			"tokens.json": `{"a": {"$type": "color", "$value": "#5ec4e7"}}`, "config.yaml": "name: SECRET\n"} {
			write(t, out, name, data)
		}
		files := map[string]string{"archetyp.yaml": "name: Hostile\n", "design/a.svg": plainDrawing}
		for name, data := range h.files {
			files[name] = data
		}
		for name := range h.links { // what is a link is no file
			delete(files, name)
			if name == "design" {
				delete(files, "design/a.svg")
			}
		}
		for name, data := range files {
			write(t, dir, name, strings.ReplaceAll(data, "OUT", out))
		}
		for name, to := range h.links {
			if err := os.MkdirAll(filepath.Dir(filepath.Join(dir, name)), 0o755); err != nil {
				t.Fatal(err)
			}
			if err := os.Symlink(strings.ReplaceAll(to, "OUT", out), filepath.Join(dir, name)); err != nil {
				t.Fatal(err)
			}
		}
		if h.more != nil {
			if err := h.more(dir); err != nil {
				t.Fatal(h.name, err)
			}
		}
		before := tree(t, out)
		args := h.run
		if args == nil {
			args = []string{"sync"}
		}
		r, hung := attempt(t, dir, args...)
		switch {
		case hung || r.failed():
			t.Errorf("%s: status %d\n%s", h.name, r.status, r.err)
		case h.ok && r.status != 0:
			t.Errorf("%s: status %d\n%s", h.name, r.status, r.err)
		case !h.ok && (r.status != 2 || strings.Count(r.err, "error ") != 1):
			t.Errorf("%s: status %d, wanted one error\n%s%s", h.name, r.status, r.err, r.out)
		}
		for _, args := range [][]string{{"status"}, {"text", "collect"}, {"guide", "build"}, {"assets", "export"},
			{"tokens", "harvest", "--write"}} {
			if r, hung := attempt(t, dir, args...); hung || r.failed() {
				t.Errorf("%s, %v: status %d\n%s", h.name, args, r.status, r.err)
			}
		}
		if d := differences(before, tree(t, out)); len(d) > 0 {
			t.Errorf("%s: %v changed outside", h.name, d)
		}
		if list, _ := os.ReadDir(top); len(list) != 2 {
			t.Errorf("%s: something was made outside: %v", h.name, list)
		}
		if data, err := os.ReadFile(filepath.Join(dir, ".git", "config")); err == nil {
			t.Errorf("%s: .git/config was written: %s", h.name, data)
		}
		if s := strings.ToLower(r.out + r.err); strings.Contains(s, "5ec4e7") || strings.Contains(r.out+r.err, "SECRET") {
			t.Errorf("%s: something outside was read:\n%s%s", h.name, r.out, r.err)
		}
	}
}

// TestWhatCannotBeRead holds that a folder or file that cannot be read is an error, and never counts as empty. Root
// reads everything, so a child without its rights is asked.
func TestWhatCannotBeRead(t *testing.T) {
	t.Parallel()
	for _, name := range []string{"design", "design/map.svg", "tokens", "tokens/a.tokens.json", "text/en.json", "text",
		"archetyp.lock"} {
		dir := islands(t)
		before := owned(t, dir)
		if err := openFor(dir); err != nil {
			t.Fatal(err)
		}
		later := time.Now().Add(time.Second) // so that it has to be read again
		if err := errors.Join(os.Chtimes(filepath.Join(dir, name), later, later), os.Chmod(filepath.Join(dir, name),
			0)); err != nil {
			t.Fatal(err)
		}
		r := asNobody(t, dir, "sync")
		_ = os.Chmod(filepath.Join(dir, name), 0o755)
		if r.status != 2 || !strings.Contains(r.err, filepath.Base(name)) && !strings.Contains(r.err,
			strings.Split(name, "/")[0]) || !strings.Contains(r.err, "permission denied") {
			t.Errorf("%s: status %d\n%s%s", name, r.status, r.out, r.err)
		}
		if d := differences(before, owned(t, dir)); len(d) > 0 {
			t.Errorf("%s: %v changed", name, d)
		}
	}
}
