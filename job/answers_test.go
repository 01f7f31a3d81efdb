package job

import (
	"errors"
	"strings"
	"testing"

	"archetyp/core/asset"
	"archetyp/core/hint"
	"archetyp/core/token"
	"archetyp/workspace"
)

// colours is a workspace with a few tokens and a drawing that uses one.
func colours(t *testing.T) *workspace.Workspace {
	t.Helper()
	dir := t.TempDir()
	put(t, dir, "archetyp.yaml", "name: Test\nsources: ['*.svg']\n")
	put(t, dir, "tokens/a.tokens.json",
		`{"color": {"sea": {"$type": "color", "$value": "#0b6e8f"}, "link": {"$value": "{color.sea}"}, "spare": {"$type": "color", "$value": "#ffee00"}}}`)
	put(t, dir, "pay.svg", paySVG)
	ws := open(t, dir)
	mustRun(t, ws, Options{})
	return ws
}

func hinted(t *testing.T, err error, msg string) {
	t.Helper()
	var he *hint.Error
	if !errors.As(err, &he) || !strings.Contains(he.Msg, msg) || he.Hint == "" {
		t.Errorf("%v, want %s and what to do", err, msg)
	}
}

func TestSetToken(t *testing.T) {
	ws := colours(t)
	r, err := SetToken(ws, SetRequest{Token: "color.sea", Value: "#0c7090"})
	if err != nil || r.Old != "#0b6e8f" || r.New != "#0c7090" || r.Added || len(r.Written) != 1 ||
		r.Base.Get("color.sea") == nil {
		t.Errorf("%+v %v", r, err)
	}
	if r, err = SetToken(ws, SetRequest{Token: "space.4", Value: "16px", About: "Between things"}); err != nil ||
		!r.Added || r.Old != "" {
		t.Errorf("%+v %v", r, err)
	}
	if r, err = SetToken(ws, SetRequest{Token: "space.4", Value: "16px"}); err != nil || len(r.Written) != 0 {
		t.Errorf("the same once more: %+v %v", r, err)
	}
	if _, err := SetToken(ws, SetRequest{Token: "color.sea", Value: "16px"}); err == nil {
		t.Error("a colour became a dimension")
	}
	if _, err := SetToken(ws, SetRequest{Token: "color.sea", Value: "#fff", Type: token.Dimension}); err == nil {
		t.Error("--type changed a token")
	}
}

func TestRemoveAndRenameTokens(t *testing.T) {
	ws := colours(t)
	_, err := RemoveToken(ws, "color.sea", false)
	hinted(t, err, "color.sea is used: color.link")
	_, err = RemoveToken(ws, "color.see", false)
	hinted(t, err, `there is no token "color.see"`)
	if files, err := RemoveToken(ws, "color.spare", false); err != nil || len(files) != 1 {
		t.Errorf("%v %v", files, err)
	}
	r, err := RenameToken(ws, "color.sea", "color.water", "")
	if err != nil || r.Tokens["color.sea"] != "color.water" || r.Aliases != 1 || len(r.Written) == 0 {
		t.Errorf("%+v %v", r, err)
	}
	lib, err := open(t, ws.Dir).ReadTokens(nil)
	if err != nil || lib.Base.Get("color.link").Value.Alias != "color.water" {
		t.Errorf("%v", err)
	}
	if _, err := RenameToken(ws, "color.nothing", "color.x", ""); err == nil {
		t.Error("a token that is not there was renamed")
	}
}

func TestExportForms(t *testing.T) {
	sets := asset.BuiltIn()
	for name, c := range map[string]struct {
		form   ExportForm
		folder string
		files  string
		err    string
	}{
		"a folder": {form: ExportForm{Out: "a/", At: []string{"1", "2x"}, Formats: []string{"WebP"}}, folder: "a/",
			files: "{name}{x}.{format}"},
		"a file":  {form: ExportForm{Out: "a/quay.svg", Elements: 1}, folder: "a", files: "quay{x}.svg"},
		"a set":   {form: ExportForm{Set: "web", Out: "b/"}, folder: "b/"},
		"no set":  {form: ExportForm{Set: "wep"}, err: "there is no such set"},
		"density": {form: ExportForm{At: []string{"1", "two"}}, err: `"two" is no density`},
		"braces":  {form: ExportForm{Out: "{x}.png", Elements: 1}, err: "no braces"},
		"several": {form: ExportForm{Out: "a.png", Elements: 2}, err: "2 elements cannot go into one file"},
		"format":  {form: ExportForm{Out: "a.bmp", Elements: 1}, err: ".bmp is no format"},
	} {
		set, folder, err := c.form.Target(sets)
		switch {
		case c.err != "":
			if err == nil || !strings.Contains(err.Error(), c.err) {
				t.Errorf("%s: %v, want %s", name, err, c.err)
			}
		case err != nil || folder != c.folder || c.files != "" && set.Files != c.files:
			t.Errorf("%s: %+v %s %v", name, set, folder, err)
		}
	}
}

// TestSnapshotsOfOtherStates reads a workspace with what an editor has not saved yet.
func TestSnapshotsOfOtherStates(t *testing.T) {
	ws := colours(t)
	over, err := ws.Over(map[string][]byte{"pay.svg": []byte(strings.ReplaceAll(paySVG, "Pay now", "Pay later"))})
	if err != nil {
		t.Fatal(err)
	}
	s, err := Read(t.Context(), over)
	if err != nil {
		t.Fatal(err)
	}
	if e := s.Texts.Catalogue.Used(); len(e) != 1 || e[0].Words != "Pay later" {
		t.Errorf("%+v", e)
	}
	if s, err = Read(t.Context(), ws); err != nil || s.Texts.Catalogue.Used()[0].Words != "Pay now" {
		t.Errorf("the disk: %v", err)
	}
	if _, err := Run(t.Context(), over, Options{}); err == nil {
		t.Error("a sync wrote for buffers")
	}
}
