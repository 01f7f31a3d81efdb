package workspace

import (
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

func TestReadFile(t *testing.T) {
	ws := here(t)
	put(t, ws.Dir, "a.txt", "a")
	big, err := os.Create(ws.Path("big"))
	if err != nil {
		t.Fatal(err)
	}
	if err := big.Truncate(MaxFile + 1); err != nil {
		t.Fatal(err)
	}
	big.Close()
	for name, want := range map[string]string{"none": "no such file", "big": "are not read", "design": "folder"} {
		if name == "design" {
			_ = os.Mkdir(ws.Path(name), 0o755)
		}
		if _, err := ReadFile(ws.Path(name), name); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%s: %v", name, err)
		}
		if _, err := ws.ReadFile(name); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%s of the workspace: %v", name, err)
		}
	}
	if data, err := ws.ReadFile("a.txt"); err != nil || string(data) != "a" {
		t.Errorf("%q %v", data, err)
	}
}

func TestReadingStaysInside(t *testing.T) {
	outside := t.TempDir()
	put(t, outside, "secret", "secret")
	ws := here(t)
	put(t, ws.Dir, "design/a.svg", "a")
	links := map[string]string{"direct": filepath.Join(outside, "secret"), "design/by": "../direct", "folder": outside,
		"inside":   "design/a.svg",
		"absolute": ws.Path("design/a.svg"), "circle": "circle", "over": "design/../../../../../../../etc/passwd"}
	for name, to := range links {
		if err := os.Symlink(to, ws.Path(name)); err != nil {
			t.Skip(err)
		}
	}
	for _, name := range []string{"direct", "design/by", "folder/secret", "circle", "../x", "/etc/passwd", "over"} {
		if data, err := ws.ReadFile(name); err == nil {
			t.Errorf("%s is read: %q", name, data)
		}
	}
	for _, name := range []string{"inside", "absolute", "design/a.svg"} {
		if data, err := ws.ReadFile(name); err != nil || string(data) != "a" {
			t.Errorf("%s: %q %v", name, data, err)
		}
	}
}

func TestLinksOfADrawing(t *testing.T) {
	dir := t.TempDir()
	put(t, dir, "w/archetyp.yaml", "sources: [design/*.svg, ../other/*.svg]\n")
	put(t, dir, "w/design/a.css", "x")
	put(t, dir, "w/shared.css", "y")
	put(t, dir, "other/a.svg", "z")
	put(t, dir, "other/a.css", "z")
	ws, _, err := Find(filepath.Join(dir, "w"))
	if err != nil {
		t.Fatal(err)
	}
	seen := ""
	load := ws.Links("design/a.svg", func(p string, _ []byte) { seen = p })
	if data, err := load("a.css?v=1#x"); err != nil || string(data) != "x" || seen != "design/a.css" {
		t.Errorf("%q %v %q", data, err, seen)
	}
	if data, err := load("../shared.css"); err != nil || string(data) != "y" {
		t.Errorf("%q %v", data, err)
	}
	bare := LinksBeside(filepath.Join(dir, "w", "design"))
	if data, err := bare("a.css"); err != nil || string(data) != "x" {
		t.Errorf("beside a bare drawing: %q %v", data, err)
	}
	for name, load := range map[string]Load{"workspace": load, "bare": bare, "outside": ws.Links("../other/a.svg", nil)} {
		for _, href := range []string{"http://127.0.0.1/x", "//host/x", "/etc/passwd", "file:///etc/passwd", "none.css",
			"C:\\x", "../../other/a.css", "../../../../etc/passwd"} {
			if _, err := load(href); err == nil {
				t.Errorf("%s: %s is read", name, href)
			}
		}
	}
	if _, err := ws.Links("../other/a.svg", nil)("a.css"); err == nil {
		t.Error("something beside a source outside is read")
	}
	if _, err := bare("../shared.css"); err == nil {
		t.Error("something above a bare drawing is read")
	}
	if list, err := ws.Sources(); err != nil || strings.Join(list, " ") != "../other/a.svg" {
		t.Errorf("sources: %v %v", list, err)
	}
	if data, err := ws.ReadFile("../other/a.svg"); err != nil || string(data) != "z" {
		t.Errorf("a source outside: %q %v", data, err)
	}
	if _, err := ws.ReadFile("../other/a.css"); err == nil {
		t.Error("a file beside a source outside is read")
	}
}

func TestGlobReachesDeep(t *testing.T) {
	ws := here(t)
	for _, f := range []string{"design/a.svg", "design/x/y/b.svg", "design/.git/c.svg", ".archetyp/d.svg"} {
		put(t, ws.Dir, f, "")
	}
	files, err := ws.Glob([]string{"**/*.svg", "design/{a,z}.svg"})
	if err != nil || strings.Join(files, " ") != "design/a.svg design/x/y/b.svg" {
		t.Errorf("%v %v", files, err)
	}
}

func TestSaveOutsideAndInside(t *testing.T) {
	ws := here(t)
	put(t, ws.Dir, "design/a.svg", "a")
	out := t.TempDir()
	files := map[string][]byte{filepath.Join(out, "deep", "x.png"): []byte("x"), ws.Path("pictures/y.png"): []byte("y")}
	if err := Save(files, Options{}); err != nil {
		t.Fatal(err)
	}
	if data, _ := os.ReadFile(filepath.Join(out, "deep", "x.png")); string(data) != "x" ||
		got(t, ws, "pictures/y.png") != "y" {
		t.Error("not all is written")
	}
	put(t, out, "real.png", "old")
	if err := os.Symlink("real.png", filepath.Join(out, "link.png")); err != nil {
		t.Skip(err)
	}
	if err := Save(map[string][]byte{filepath.Join(out, "link.png"): []byte("new")}, Options{}); err != nil {
		t.Fatal(err)
	}
	if to, err := os.Readlink(filepath.Join(out, "link.png")); err != nil || to != "real.png" {
		t.Errorf("the link was replaced: %v", err)
	}
	err := Save(map[string][]byte{ws.Path("b.txt"): []byte("b"), ws.Path("design/a.svg"): []byte("b")}, Options{})
	var fe *FileError
	if !errors.As(err, &fe) || !strings.Contains(fe.Msg, "a source") || got(t, ws, "b.txt") != "(none)" ||
		got(t, ws, "design/a.svg") != "a" {
		t.Errorf("over a source: %v", err)
	}
	if err := Save(map[string][]byte{filepath.Join(out, "a"): []byte("a"), filepath.Join(out, "deep"): []byte("b")},
		Options{}); err == nil {
		t.Error("a file over a folder")
	}
	if list, _ := os.ReadDir(out); len(list) != 3 {
		t.Errorf("something is left: %v", list)
	}
}
