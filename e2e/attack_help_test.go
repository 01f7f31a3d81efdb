package e2e

import (
	"context"
	"flag"
	"maps"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"
)

// long has the tests that attack the program take as long as it takes to be sure; without it they are a sample.
var long = flag.Bool("long", false, "attack with all there is rather than a sample")

// sample is the number of tries: the first, or the second with -long.
func sample(few, all int) int {
	if *long {
		return all
	}
	return few
}

// attempt runs the program for a bounded time; hung says that it had to be ended.
func attempt(t testing.TB, dir string, args ...string) (r result, hung bool) {
	t.Helper()
	return attemptAs(t, dir, program, args...)
}

func attemptAs(t testing.TB, dir, name string, args ...string) (r result, hung bool) {
	t.Helper()
	ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
	defer cancel()
	cmd := exec.CommandContext(ctx, name, args...)
	cmd.Dir = dir
	return finish(t, cmd), ctx.Err() != nil
}

// failed reports whether the program itself failed, rather than its input.
func (r result) failed() bool {
	return strings.Contains(r.err, "panic") || strings.Contains(r.err, "fault of the program") || strings.Contains(r.err,
		"goroutine ") || r.status < 0 || r.status > 3
}

// islands is a small workspace with something to write for every command.
func islands(t testing.TB) string {
	dir := t.TempDir()
	for name, data := range map[string]string{
		"archetyp.yaml": "name: Islands\noutputs:\n  - {as: css, to: dist/tokens.css}\n  - {as: json, to: " +
			"dist/tokens.json}\ntext: {source: en, locales: [de, fi, pl]}\nfonts: []\n",
		"design/map.svg": `<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100"><g id="card" data-component="card">` +
			`<rect width="200" height="100" rx="12" fill="#0b6e8f"/><text id="go" x="16" y="40" font-size="16">Sail now</text><text id="stay" x="16" y="70" font-size="16">Stay here</text></g>` +
			`<g id="mark" data-asset="icons/mark"><path d="M0 0h9v9z" fill="#d97757"/></g></svg>`,
		"tokens/a.tokens.json": `{"color": {"$type": "color", "one": {"$value": "#010101"}, "two": {"$value": "#020202"}, "three": {"$value": "#030303"}, "four": {"$value": "#040404"}, "sea": {"$value": "#0b6e8f"}}}` + "\n",
		"tokens/b.tokens.json": `{"use": {"$type": "color", "text": {"$value": "{color.one}"}, "ground": {"$value": "{color.two}"}, "edge": {"$value": "{color.sea}"}}}` + "\n",
		"src/app.css": "a { color: var(--color-one); background: var(--color-two); border-color: " +
			"var(--color-sea) }\n",
		"src/app.ts": "t('map.card.sail-now'); t('map.card.stay-here')\n",
	} {
		write(t, dir, name, data)
	}
	must(t, dir, "sync")
	for _, l := range []string{"de", "fi", "pl"} {
		must(t, dir, "text", "set", "map.card.sail-now", "go "+l, "--locale", l)
	}
	must(t, dir, "text", "export", "--as", "xliff", "--locale", "de", "-o", "back.de.xlf")
	write(t, dir, "back.de.xlf", strings.ReplaceAll(read(t, dir, "back.de.xlf"), "go de", "Segelt"))
	must(t, dir, "sync")
	return dir
}

// copied is a copy of a folder, caches and all.
func copied(t testing.TB, from string) string {
	t.Helper()
	to := t.TempDir()
	if err := os.CopyFS(to, os.DirFS(from)); err != nil {
		t.Fatal(err)
	}
	return to
}

// owned are the files of a workspace that people would lose something with.
func owned(t testing.TB, dir string) map[string]string {
	t.Helper()
	out := tree(t, dir)
	maps.DeleteFunc(out, func(name, _ string) bool {
		return !slices.Contains([]string{"tokens", "text", "src", "design", "archetyp.yaml"}, strings.Split(name, "/")[0]) ||
			strings.Contains(name, ".unwritten")
	})
	return out
}

// differences lists the files in which two trees differ.
func differences(a, b map[string]string) (out []string) {
	for name := range a {
		if b[name] != a[name] {
			out = append(out, name)
		}
	}
	for name := range b {
		if _, ok := a[name]; !ok {
			out = append(out, name)
		}
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// strayed lists what is left in a workspace that nobody asked for.
func strayed(t testing.TB, dir string) (out []string) {
	for name := range tree(t, dir) {
		if strings.HasPrefix(filepath.Base(name), ".archetyp-") {
			out = append(out, name)
		}
	}
	if list, err := os.ReadDir(filepath.Join(dir, ".archetyp", "writes")); err == nil && len(list) > 0 {
		out = append(out, ".archetyp/writes/"+list[0].Name())
	}
	return out
}

// edit is a command that writes, and how to see that it did.
type writing struct {
	name string
	args []string
}

// writings are one command of each kind that writes.
var writings = []writing{
	{"tokens set", []string{"tokens", "set", "color.one", "#a1a1a1"}},
	{"tokens rename", []string{"tokens", "rename", "color", "paint", "--in", "src"}},
	{"tokens remove", []string{"tokens", "remove", "color.four", "--force"}},
	{"tokens ramp", []string{"tokens", "ramp", "color.coral", "--from", "#d97757", "--write"}},
	{"tokens harvest", []string{"tokens", "harvest", "--write"}},
	{"text set", []string{"text", "set", "map.card.stay-here", "Bleibt", "--locale", "de"}},
	{"text rename", []string{"text", "rename", "map.card.sail-now", "map.leave", "--in", "src"}},
	{"text import", []string{"text", "import", "back.de.xlf", "--over"}},
	{"text collect", []string{"text", "collect", "--tag", "seen"}},
	{"sync", []string{"sync"}},
	{"mark", []string{"mark", "map", "#go", "role=button", "--drawing"}},
	{"text set --apply", []string{"text", "set", "map.card.sail-now", "Leave now", "--apply"}},
	{"guide build", []string{"guide", "build"}},
	{"assets export", []string{"assets", "export"}},
	{"render", []string{"render", "map", "-o", "out/map.png"}},
}

// unsettle makes something for every command to write.
func unsettle(t testing.TB, dir string) {
	edit(t, filepath.Join(dir, "design", "map.svg"), "M0 0h9v9z", "M0 0h9v8z")
	edit(t, filepath.Join(dir, "design", "map.svg"), "Stay here", "Stay there")
}
