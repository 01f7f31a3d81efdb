package workspace

import (
	"context"
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"
)

// TestWatchReportsChanges makes changes as editors and people make them, one set after another.
func TestWatchReportsChanges(t *testing.T) {
	dir := t.TempDir()
	put := func(name, data string) {
		name = filepath.Join(dir, name)
		if err := errors.Join(os.MkdirAll(filepath.Dir(name), 0o755), os.WriteFile(name, []byte(data), 0o644)); err != nil {
			t.Fatal(err)
		}
	}
	put("design/a.svg", "a")
	put("design/b.svg", "b")
	put(".git/index", "")
	put("node_modules/x/y.css", "")
	w, err := Watch(dir)
	if err != nil {
		t.Fatal(err)
	}
	defer w.Close()
	ctx, stop := context.WithTimeout(t.Context(), time.Minute)
	defer stop()
	move := func(from, to string) {
		if err := os.Rename(filepath.Join(dir, from), filepath.Join(dir, to)); err != nil {
			t.Fatal(err)
		}
	}
	for _, c := range []struct {
		name, want string
		change     func()
	}{
		{"written over", "design/a.svg", func() { put("design/a.svg", "aa") }},
		{"written beside, then renamed", "design/a.svg", func() { put("design/a.tmp", "aaa"); move("design/a.tmp", "design/a.svg") }},
		{"in a hidden file first", "design/b.svg", func() { put("design/.b.swp", "bb"); move("design/.b.swp", "design/b.svg") }},
		{"not ours", "design/a.svg", func() { put(".git/index", "x"); put("node_modules/x/y.css", "x"); put("design/a.svg", "4") }},
		{"a new folder", "tokens", func() { put("tokens/base/t.json", "{}") }},
		{"in the new folder", "tokens/base/t.json", func() { put("tokens/base/t.json", "{ }") }},
		{"renamed", "design/b.svg design/c.svg", func() { move("design/b.svg", "design/c.svg") }},
		{"removed", "design/c.svg", func() { os.Remove(filepath.Join(dir, "design/c.svg")) }},
	} {
		c.change()
		got, err := w.Next(ctx)
		if err != nil {
			t.Fatalf("%s: %v", c.name, err)
		}
		// files made right after their folder may or may not be reported with it
		if told := strings.Join(got, " "); told != c.want && (c.name != "a new folder" || !strings.HasPrefix(told, c.want)) {
			t.Errorf("%s: %q, not %q", c.name, told, c.want)
		}
	}
	if err := os.RemoveAll(dir); err != nil {
		t.Fatal(err)
	}
	for err == nil {
		_, err = w.Next(ctx)
	}
	if !strings.Contains(err.Error(), "gone") {
		t.Error(err)
	}
	if _, err := Watch(filepath.Join(dir, "none")); err == nil || !strings.Contains(err.Error(), "cannot be watched") {
		t.Error(err)
	}
}

// TestWatchEnds ends with the context, without a change.
func TestWatchEnds(t *testing.T) {
	w, err := Watch(t.TempDir())
	if err != nil {
		t.Fatal(err)
	}
	defer w.Close()
	ctx, stop := context.WithCancel(t.Context())
	stop()
	if _, err := w.Next(ctx); !errors.Is(err, context.Canceled) {
		t.Error(err)
	}
}
