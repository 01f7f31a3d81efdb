package job

import (
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"archetyp/core/design"
)

// BenchmarkCompare compares two editions of 200 drawings, 10 of which differ: in words, with pictures of the 10, and beside
// these what it takes to read all drawings of both.
func BenchmarkCompare(b *testing.B) {
	if _, err := exec.LookPath("git"); err != nil {
		b.Skip(err)
	}
	dir := menus(b, 200)
	git := func(args ...string) {
		c := exec.Command("git", append([]string{"-C", dir, "-c", "user.name=A", "-c", "user.email=a@tern.example"}, args...)...)
		if out, err := c.CombinedOutput(); err != nil {
			b.Fatalf("%v %s", err, out)
		}
	}
	git("init", "-q", "-b", "main")
	git("add", "-A")
	git("commit", "-q", "-m", "one")
	git("tag", "-a", "-m", "one", "edition/1")
	files, err := filepath.Glob(filepath.Join(dir, "design", "*.svg"))
	if err != nil || len(files) < 200 {
		b.Fatal(err, len(files))
	}
	for _, f := range files[:10] {
		change(b, f, func(svg string) string {
			return strings.Replace(strings.Replace(svg, "<text", `<text opacity="0.5"`, 3), `<rect`, `<rect transform="translate(8 0)"`, 2)
		})
	}
	git("commit", "-qam", "two")
	git("tag", "-a", "-m", "two", "edition/2")
	ws := open(b, dir)
	b.Run("reading both", func(b *testing.B) {
		for b.Loop() {
			for _, revision := range []string{"edition/1", "edition/2"} {
				s, err := openState(ws, revision)
				if err != nil {
					b.Fatal(err)
				}
				docs := make([]*design.Document, len(s.sources))
				if err := Parallel(len(docs), func(i int) (err error) {
					docs[i], err = s.document(s.sources[i])
					return err
				}); err != nil {
					b.Fatal(err)
				}
				s.close()
			}
		}
	})
	var c *Comparison
	b.Run("in words", func(b *testing.B) {
		for b.Loop() {
			if c, err = CompareStates(context.Background(), ws, "1", "2", nil); err != nil || len(c.Screens) != 10 {
				b.Fatal(err, len(c.Screens))
			}
		}
	})
	for _, how := range Showings {
		b.Run(how[0], func(b *testing.B) {
			for b.Loop() {
				if _, err := c.Pictures(how[0], 1); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

// change rewrites a file.
func change(b *testing.B, file string, how func(string) string) {
	b.Helper()
	data, err := os.ReadFile(file)
	if err == nil {
		err = os.WriteFile(file, []byte(how(string(data))), 0o644)
	}
	if err != nil {
		b.Fatal(err)
	}
}
