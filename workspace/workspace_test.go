package workspace

import (
	"archetyp/core/hint"
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

func TestParseConfig(t *testing.T) {
	cfg, err := ParseConfig([]byte(`name: Tern & Tide
root: 20px # 1rem
sources: [design/*.svg]
scales: {space: 8px, type: [16px, 1rem, 12px]}
outputs:
  - {as: css, to: dist/a.css, unit: rem, prefix: tt}
text: {source: de, locales: [fi], keys: "{words}"}
marks:
  - {select: "[id^=icon-]", asset: "icons/{name}", formats: [svg], leads-to: Booking}
`), "archetyp.yaml")
	if err != nil {
		t.Fatal(err)
	}
	if cfg.Name != "Tern & Tide" || cfg.RootPx() != 20 || cfg.SpaceStep() != 8 || cfg.Outputs[0].Prefix != "tt" ||
		cfg.Text.Source != "de" {
		t.Errorf("%+v", cfg)
	}
	if got := cfg.TypeScale(); len(got) != 3 || got[0] != 12 || got[2] != 20 {
		t.Errorf("type scale %v", got)
	}
	if m := cfg.SelectedMarks(); len(m) != 1 || m[0].Marks.Asset != "icons/{name}" || m[0].Marks.LeadsTo != "Booking" {
		t.Errorf("%+v", m)
	}
	if empty, err := ParseConfig(nil, "archetyp.yaml"); err != nil || len(empty.Outputs) != 1 ||
		empty.Guide.To != "guide" {
		t.Errorf("%v %+v", err, empty)
	}
}

func TestParseConfigRefuses(t *testing.T) {
	for _, c := range []struct {
		name, in     string
		line, column int
		msg, hint    string
	}{
		{"unknown key", "name: x\nsauces: []\n", 2, 1, `"sauces" is not known`, `"sources"`},
		{"unknown key inside", "text:\n  sorce: en\n", 2, 3, `"sorce" is not known under text`, `"source"`},
		{"unknown key in a list", "outputs:\n  - {as: css, two: x}\n", 2, 15, `"two" is not known under outputs`, `"to"`},
		{"unknown mark", "marks:\n  - {select: a, assett: x}\n", 2, 17, `"assett"`, `"asset"`},
		{"broken YAML", "name: [\n", 1, 7, "", ""},
		{"tabs", "a:\n\tb: 1\n", 0, 0, "", ""},
		{"wrong kind", "sources: {a: b}\n", 1, 11, "", ""},
		{"no length", "root: big\n", 1, 7, "is not a length", ""},
		{"no length in a scale", "scales: {type: [16px, big]}\n", 1, 23, "is not a length", ""},
		{"unknown output", "outputs:\n  - {as: cobol, to: x}\n", 2, 10, `"cobol" is not known`, ""},
		{"unknown unit", "outputs:\n  - {as: css, to: x, unit: furlong}\n", 2, 28, `"furlong" is not known`, ""},
		{"out of the workspace", "outputs:\n  - {as: css, to: ../x}\n", 2, 19, "inside the workspace", ""},
		{"guide out of the workspace", "guide: {to: /tmp}\n", 1, 13, "inside the workspace", ""},
		{"guide everywhere", "guide: {to: .}\n", 1, 13, "inside the workspace", ""},
		{"bad selector", "marks:\n  - {select: 'a[', asset: x}\n", 2, 14, "selector", ""},
	} {
		_, err := ParseConfig([]byte(c.in), "archetyp.yaml")
		var fe *FileError
		if !errors.As(err, &fe) {
			t.Errorf("%s: %v, want an error with a place", c.name, err)
			continue
		}
		if c.line != 0 && (fe.Line != c.line || fe.Column != c.column) || !strings.Contains(fe.Msg, c.msg) ||
			!strings.Contains(fe.Hint, c.hint) || fe.File != "archetyp.yaml" {
			t.Errorf("%s: %v (%s), want %d:%d …%s… (%s)", c.name, fe, fe.Hint, c.line, c.column, c.msg, c.hint)
		}
	}
}

func FuzzParseConfig(f *testing.F) {
	f.Add([]byte("name: x\nsources: [a]\n"))
	f.Add([]byte("marks:\n - {select: 'a', asset: b}\n"))
	f.Add([]byte("a: &a [*a]\n"))
	f.Add([]byte("? [a]\n: b\n---\nc"))
	f.Fuzz(func(t *testing.T, data []byte) {
		cfg, err := ParseConfig(data, "archetyp.yaml")
		if err == nil {
			cfg.SelectedMarks()
			return
		}
		var fe *FileError
		if !errors.As(err, &fe) {
			t.Fatalf("an error without a file: %v", err)
		}
	})
}

func TestNearest(t *testing.T) {
	list := []string{"sources", "sites", "scales"}
	for in, want := range map[string]string{"sauces": "scales", "source": "sources", "site": "sites", "scale": "scales",
		"": "", "colour": "", "si": ""} {
		if got := hint.Nearest(in, list); got != want && !(in == "sauces" && got == "sources") {
			t.Errorf("%q is nearest to %q, want %q", in, got, want)
		}
	}
}

func here(t testing.TB) *Workspace {
	t.Helper()
	dir := t.TempDir()
	put(t, dir, "archetyp.yaml", "name: Test\n")
	ws, ok, err := Find(dir)
	if err != nil || !ok {
		t.Fatal(ok, err)
	}
	return ws
}

func put(t testing.TB, dir, name, data string) {
	t.Helper()
	path := filepath.Join(dir, name)
	if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(path, []byte(data), 0o644); err != nil {
		t.Fatal(err)
	}
}

func got(t testing.TB, ws *Workspace, name string) string {
	t.Helper()
	data, err := os.ReadFile(ws.Path(name))
	if err != nil {
		return "(none)"
	}
	return string(data)
}

func TestFind(t *testing.T) {
	ws := here(t)
	deep := filepath.Join(ws.Dir, "a", "b")
	if err := os.MkdirAll(deep, 0o755); err != nil {
		t.Fatal(err)
	}
	found, ok, err := Find(deep)
	if err != nil || !ok || found.Dir != ws.Dir || found.Config.Name != "Test" {
		t.Errorf("%v %v %v", found, ok, err)
	}
	put(t, deep, "archetyp.yaml", "nam: x\n")
	if _, _, err := Find(deep); err == nil || !strings.HasPrefix(err.Error(), "archetyp.yaml:1:1:") {
		t.Errorf("a broken configuration: %v", err)
	}
	if _, ok, err := Find(t.TempDir()); ok || err != nil {
		t.Errorf("in an empty folder: %v %v", ok, err)
	}
}

func TestGlob(t *testing.T) {
	ws := here(t)
	for _, f := range []string{"design/b.svg", "design/a.svg", "design/c.txt", "x.svg"} {
		put(t, ws.Dir, f, "")
	}
	files, err := ws.Glob([]string{"design/*.svg", "design/a.svg", "*.svg"})
	if err != nil || strings.Join(files, " ") != "design/a.svg design/b.svg x.svg" {
		t.Errorf("%v %v", files, err)
	}
	for _, bad := range []string{"../*.svg", "/etc/*", "[a", "{a"} {
		if _, err := ws.Glob([]string{bad}); err == nil {
			t.Errorf("%s is taken", bad)
		}
	}
}

func TestLock(t *testing.T) {
	ws := here(t)
	empty, err := ws.ReadLock()
	if err != nil || len(empty.Inputs) != 0 {
		t.Fatal(empty, err)
	}
	l := &Lock{Program: "1", Inputs: map[string]string{"b": "2", "a": "1"}, Outputs: map[string]string{"x": "y"},
		Summary: []byte(`{}`)}
	first, err := l.JSON()
	if err != nil {
		t.Fatal(err)
	}
	second, _ := l.JSON()
	if string(first) != string(second) {
		t.Error("the lock is written differently each time")
	}
	put(t, ws.Dir, LockName, string(first))
	if back, err := ws.ReadLock(); err != nil || back.Inputs["a"] != "1" || back.Outputs["x"] != "y" {
		t.Errorf("%+v %v", back, err)
	}
	put(t, ws.Dir, LockName, `{"version": 999}`)
	if other, err := ws.ReadLock(); err != nil || other.Version == 999 {
		t.Errorf("a lock of another form counts: %+v %v", other, err)
	}
	put(t, ws.Dir, LockName, `{`)
	if _, err := ws.ReadLock(); err == nil {
		t.Error("a damaged lock is read")
	}
}
