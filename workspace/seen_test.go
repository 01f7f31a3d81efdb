package workspace

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"
)

func seenIn(t *testing.T) (*Workspace, func(name, content string, age time.Duration)) {
	t.Helper()
	w := bare(t, t.TempDir())
	return w, func(name, content string, age time.Duration) {
		t.Helper()
		p := filepath.Join(w.Dir, name)
		if err := os.WriteFile(p, []byte(content), 0o644); err != nil {
			t.Fatal(err)
		}
		at := time.Now().Add(-age)
		if err := os.Chtimes(p, at, at); err != nil {
			t.Fatal(err)
		}
	}
}

func TestSeenKnowsFilesAgain(t *testing.T) {
	w, put := seenIn(t)
	put("a.svg", "one", time.Hour)
	s := w.Seen()
	h, err := s.Hash("a.svg")
	if err != nil || h != Hash([]byte("one")) {
		t.Fatal(h, err)
	}
	s.Save()
	again := w.Seen()
	if again.files["a.svg"].hash != h {
		t.Error("it is not remembered")
	}
	if h, err := again.Hash("a.svg"); err != nil || h != Hash([]byte("one")) || again.changed {
		t.Error(h, err)
	}
	put("a.svg", "two", time.Minute) // as long as before, at another time
	if h, err := again.Hash("a.svg"); err != nil || h != Hash([]byte("two")) {
		t.Error("an edit went unseen")
	}
	if !again.Intact(map[string]string{"a.svg": Hash([]byte("two"))}) || again.Intact(map[string]string{"a.svg": h}) ||
		again.Intact(map[string]string{"none.svg": h}) {
		t.Error("what is intact is mistaken")
	}
}

// TestSeenTrustsNoFreshFile: a file written again within the same moment has the same time.
func TestSeenTrustsNoFreshFile(t *testing.T) {
	w, put := seenIn(t)
	put("a.svg", "one", 0)
	s := w.Seen()
	if _, err := s.Hash("a.svg"); err != nil {
		t.Fatal(err)
	}
	if _, kept := s.files["a.svg"]; kept {
		t.Error("a file written a moment ago is trusted")
	}
	if _, err := s.Hash("none.svg"); !os.IsNotExist(err) {
		t.Error(err)
	}
}

func TestSeenSurvivesDamage(t *testing.T) {
	w, put := seenIn(t)
	put("a.svg", "one", time.Hour)
	for _, damage := range []string{"nonsense", "1\t2\t3", "x\ty\tz\ta.svg\n", strings.Repeat("a", 3<<20)} {
		w.Cache(seenFile, []byte(damage))
		if h, err := w.Seen().Hash("a.svg"); err != nil || h != Hash([]byte("one")) {
			t.Errorf("%.10s: %s %v", damage, h, err)
		}
	}
}

func TestAssetSetsOfAConfiguration(t *testing.T) {
	cfg, err := ParseConfig([]byte("name: x\nassets:\n  density: 2\n  sets:\n    - web\n    - {name: android, formats: "+
		"[webp], to: res}\n    - {name: print, at: [4, 1], formats: [pdf, jpeg], files: \"{name}-{density}.{format}\", "+
		"background: white, quality: 70, current-color: true}\n"), "archetyp.yaml")
	if err != nil {
		t.Fatal(err)
	}
	sets, err := cfg.AssetSets()
	if err != nil || len(sets) != 5 {
		t.Fatal(len(sets), err)
	}
	web, android, print := sets[0], sets[1], sets[2]
	if web.Kind != "web" || web.Only || len(web.At) != 3 {
		t.Errorf("%+v", web)
	}
	if android.Kind != "android" || android.To != "res" || len(android.Formats) != 1 || len(android.At) != 5 ||
		!strings.Contains(android.Files, "{dpi}") {
		t.Errorf("%+v", android)
	}
	if print.Kind != "" || print.At[0] != 1 || print.Quality != 70 || print.Background == nil || !print.Current ||
		print.To != "print" {
		t.Errorf("%+v", print)
	}
	for _, s := range sets[3:] { // the others can be named by an element
		if !s.Only {
			t.Errorf("%s is for all", s.Name)
		}
	}
	plain, err := ParseConfig([]byte("name: x\n"), "archetyp.yaml")
	if err != nil {
		t.Fatal(err)
	}
	if sets, err := plain.AssetSets(); err != nil || sets[0].Name != "web" || sets[0].Only || !sets[1].Only {
		t.Errorf("%+v %v", sets, err)
	}
}
