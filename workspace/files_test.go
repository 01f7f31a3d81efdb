package workspace

import (
	"slices"
	"sync"
	"testing"
)

// TestFilesElsewhere reads a workspace from a revision, and with unsaved buffers over the disk and over a revision.
func TestFilesElsewhere(t *testing.T) {
	ws := clone(t)
	const a, b, fresh = "tokens/a.tokens.json", "tokens/b.tokens.json", "tokens/sub/c.tokens.json"
	at := func(rev string) *Workspace {
		w, err := ws.At(rev)
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(w.Close)
		return w
	}
	over := func(w *Workspace, buffers map[string][]byte) *Workspace {
		w, err := w.Over(buffers)
		if err != nil {
			t.Fatal(err)
		}
		return w
	}
	buffers := map[string][]byte{fresh: []byte("{}"), a: []byte("typed"), ".archetyp/x.tokens.json": nil}
	for _, x := range []struct {
		name  string
		ws    *Workspace
		a     string
		files []string
	}{
		{"disk", ws, `{"a": {"$type": "number", "$value": 3}}`, []string{a, b}},
		{"revision", at("HEAD"), `{"a": {"$type": "number", "$value": 2}}`, []string{a, b}},
		{"older", at("HEAD~1"), `{"a": {"$type": "number", "$value": 1}}`, []string{a, b}},
		{"buffers", over(ws, buffers), "typed", []string{a, b, fresh}},
		{"buffers over a revision", over(at("HEAD"), buffers), "typed", []string{a, b, fresh}},
	} {
		data, err := x.ws.ReadFile(a)
		if err != nil || string(data) != x.a {
			t.Errorf("%s: %q, %v", x.name, data, err)
		}
		if h, err := x.ws.Seen().Hash(a); err != nil || h != Hash([]byte(x.a)) {
			t.Errorf("%s: the stamp is %s, %v", x.name, h, err)
		}
		found, err := x.ws.Glob([]string{"tokens/**/*.tokens.json"})
		if err != nil || !slices.Equal(found, x.files) {
			t.Errorf("%s: %v, %v", x.name, found, err)
		}
		if !x.ws.Exists(b) || x.ws.Exists("gone") {
			t.Errorf("%s: what exists is wrong", x.name)
		}
		if _, err := x.ws.ReadFile("gone"); !Missing(err) {
			t.Errorf("%s: %v", x.name, err)
		}
		if _, err := x.ws.ReadFile("../w/" + a); err == nil {
			t.Errorf("%s: a path leads outside", x.name)
		}
	}
	w := at("HEAD")
	var c Change
	c.Put(w, Tokens, a, []byte("{}"))
	if err := w.Apply(&c); err == nil {
		t.Error("a revision was written to")
	}
}

// TestARevisionIsSharedBetweenReaders asks one git from many goroutines, and for objects that are none.
func TestARevisionIsSharedBetweenReaders(t *testing.T) {
	ws := clone(t)
	w, err := ws.At("HEAD")
	if err != nil {
		t.Fatal(err)
	}
	var wg sync.WaitGroup
	for range 8 {
		wg.Go(func() {
			for range 20 {
				for name, size := range map[string]int{"tokens/a.tokens.json": 39, "tokens/b.tokens.json": 24} {
					if data, err := w.ReadFile(name); err != nil || len(data) != size {
						t.Errorf("%s: %q, %v", name, data, err)
					}
				}
			}
		})
	}
	wg.Wait()
	rev := w.files.(*revision)
	if _, err := rev.blob("0000000000000000000000000000000000000000"); err == nil {
		t.Error("an object that is not there was read")
	}
	if _, err := w.ReadFile("tokens/a.tokens.json"); err != nil {
		t.Errorf("after a missing object: %v", err)
	}
	w.Close()
	if _, err := w.ReadFile("tokens/a.tokens.json"); err == nil {
		t.Error("a closed revision answers")
	}
}
