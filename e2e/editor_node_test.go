package e2e

import (
	"archetyp/core/css"
	"archetyp/core/styletext"
	"encoding/json"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"testing"
)

// TestWithAClientOfTheProtocolsPackages holds colours, encodings of positions, watched files, edits and cancelling
// against a client that is written on packages of others.
func TestWithAClientOfTheProtocolsPackages(t *testing.T) {
	t.Parallel()
	node := needNode(t)
	dir := demo(t)
	count := "2000"
	if *long {
		count = "10000"
	}
	var r struct {
		Colours struct {
			Sheet   []struct{ Red, Green, Blue, Alpha float64 }
			Tokens  int
			Written [][]string
			Token   string
			Status  int
			Log     string
		}
		Encodings map[string]struct {
			Chosen string
			Right  bool
		}
		Watched struct {
			Hover   bool
			Methods []string
		}
		Edits struct{ Edits, Drifted, Length int }

		Cancelled struct{ End, Unknown, Bad int }
	}
	out := command(t, dir, "env", "ARCHETYP_NODE="+node, "node", testdata(t, "client.cjs"), program, dir, count)
	if err := json.Unmarshal([]byte(out), &r); err != nil {
		t.Fatalf("%v\n%s", err, out)
	}
	c := r.Colours
	if len(c.Sheet) != 4 || c.Sheet[2].Alpha != 0.5 || c.Tokens < 20 || c.Status != 0 || c.Log != "" {
		t.Errorf("colours: %+v", c)
	}
	if !slices.Equal(c.Written[0], []string{"var(--color-text-action)", "#0b6e8f", "rgb(11 110 143)", "oklch(0.50343 0.09555 228.2395)"}) ||
		!slices.Equal(c.Written[1], []string{"#ff800080", "rgb(255 128 0 / 0.5)", "oklch(0.73189 0.1858 52.98467 / 0.5)"}) {
		t.Errorf("written: %q", c.Written)
	}
	if c.Token != `{"colorSpace": "srgb", "components": [1, 0, 0], "hex": "#ff0000"}` {
		t.Errorf("in a token file: %s", c.Token)
	}
	for offered, chosen := range map[string]string{"utf-8,utf-16": "utf-8", "utf-16": "utf-16", "utf-32,utf-8": "utf-32", "undefined": "utf-16"} {
		if e := r.Encodings[offered]; e.Chosen != chosen || !e.Right {
			t.Errorf("of %s: %+v", offered, e)
		}
	}
	if !r.Watched.Hover || !slices.Equal(r.Watched.Methods, []string{"workspace/didChangeWatchedFiles"}) {
		t.Errorf("watched: %+v", r.Watched)
	}
	if r.Edits.Drifted != 0 || r.Edits.Length < 100 {
		t.Errorf("edits: %+v", r.Edits)
	}
	if r.Cancelled.End != -32800 && r.Cancelled.End != 0 || r.Cancelled.Unknown != -32601 || r.Cancelled.Bad != -32602 {
		t.Errorf("cancelled, unknown, wrong: %+v", r.Cancelled)
	}
}

// TestDeclarationsOfPublishedSheets holds that reading code as it is typed finds every declaration that reading a whole
// sheet finds.
func TestDeclarationsOfPublishedSheets(t *testing.T) {
	t.Parallel()
	node := needNode(t)
	sheets := 0
	err := filepath.WalkDir(filepath.Join(node, "node_modules"), func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || filepath.Ext(p) != ".css" || sheets > 400 {
			return err
		}
		data, err := os.ReadFile(p)
		if err != nil || len(data) > 1<<19 {
			return err
		}
		sheets++
		got := map[string]int{}
		code := styletext.Read(string(data), styletext.CSS)
		for i := range code.Decls {
			got[code.Decls[i].Property]++
		}
		whole, _ := css.ParseScoped(string(data))
		for _, d := range whole {
			if got[d.Prop]--; got[d.Prop] < 0 {
				t.Errorf("%s: a declaration of %s is missing", p, d.Prop)
			}
		}
		return nil
	})
	if err != nil || sheets < 50 {
		t.Errorf("%d sheets, %v", sheets, err)
	}
}
