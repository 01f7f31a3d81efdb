package e2e

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// Screens as different drawing programs write them, with what a person would say of each: a line is a command on the
// drawing, then what it must say, in this order; what begins with ! it must not say.
func TestScreensOfOtherPrograms(t *testing.T) {
	t.Parallel()
	files, err := filepath.Glob("testdata/screens/*.truth")
	if err != nil || len(files) < 10 {
		t.Fatal(files, err)
	}
	for _, f := range files {
		name := strings.TrimSuffix(filepath.Base(f), ".truth")
		t.Run(name, func(t *testing.T) {
			dir := t.TempDir()
			write(t, dir, "archetyp.yaml", "sources: ['*.svg']\nfonts: [fonts]\n")
			write(t, dir, name+".svg", read(t, "testdata/screens", name+".svg"))
			if err := os.CopyFS(filepath.Join(dir, "fonts"), os.DirFS(filepath.Join(demoFiles(t), "fonts"))); err != nil {
				t.Fatal(err)
			}
			for _, line := range strings.Split(strings.TrimSpace(read(t, f)), "\n") {
				truth(t, dir, name, line)
			}
		})
	}
}

// truth holds one line of what is true against what the program says.
func truth(t *testing.T, dir, name, line string) {
	t.Helper()
	command, pieces, ok := strings.Cut(line, " => ")
	if !ok {
		t.Fatalf("no => in %q", line)
	}
	args := quoted(command)
	if args[0] != "tokens" && args[0] != "text" && args[0] != "sync" { // the others want their source
		args = append([]string{args[0], name}, args[1:]...)
	}
	r := must(t, dir, args...)
	said := strings.Join(strings.Fields(r.out), " ")
	rest := said
	for _, p := range strings.Split(pieces, " | ") {
		p = strings.TrimSpace(p)
		if absent, no := strings.CutPrefix(p, "!"); no {
			if strings.Contains(said, absent) {
				t.Errorf("%s: it says %q\n%s", command, absent, r.out)
			}
			continue
		}
		_, after, found := strings.Cut(rest, p)
		if !found {
			t.Errorf("%s: no %q, or not in its place\n%s%s", command, p, r.out, r.err)
			return
		}
		rest = after
	}
}

// quoted splits words at spaces outside of double quotes.
func quoted(s string) (out []string) {
	for i, part := range strings.Split(s, `"`) {
		if i%2 == 1 {
			out = append(out, part)
			continue
		}
		out = append(out, strings.Fields(part)...)
	}
	return out
}
