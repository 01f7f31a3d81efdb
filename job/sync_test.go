package job

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/workspace"
)

const paySVG = `<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100"><rect width="200" height="100" fill="#f5f8fa"/>
<g id="Pay" data-component="button"><rect x="20" y="20" width="160" height="60" rx="8" fill="#0b6e8f"/><text x="100" y="55" text-anchor="middle" font-size="16" fill="#fff">Pay now</text></g>
<circle id="dot" data-asset="icons/dot" cx="190" cy="10" r="5" fill="#e4572e"/></svg>`

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

func open(t testing.TB, dir string) *workspace.Workspace {
	t.Helper()
	ws, ok, err := workspace.Find(dir)
	if err != nil || !ok {
		t.Fatal(ok, err)
	}
	return ws
}

// begin makes a workspace of one drawing.
func begin(t testing.TB) *workspace.Workspace {
	t.Helper()
	dir := t.TempDir()
	put(t, dir, "archetyp.yaml", "name: Test\nsources: ['*.svg']\n")
	put(t, dir, "pay.svg", paySVG)
	return open(t, dir)
}

func mustRun(t testing.TB, ws *workspace.Workspace, o Options) *Report {
	t.Helper()
	r, err := Run(t.Context(), ws, o)
	if err != nil {
		t.Fatal(err)
	}
	return r
}

func content(t testing.TB, ws *workspace.Workspace, name string) string {
	t.Helper()
	data, err := os.ReadFile(ws.Path(name))
	if err != nil {
		return "(none)"
	}
	return string(data)
}

func TestRun(t *testing.T) {
	ws := begin(t)
	r := mustRun(t, ws, Options{})
	s := r.Summary
	if r.UpToDate || s.Sources != 1 || s.Screens != 1 || s.Elements != 5 || s.Texts != 1 || s.Assets != 1 ||
		s.AssetFiles != 6 || s.GuidePages != 8 || s.Proposals == 0 {
		t.Errorf("%+v", s)
	}
	for _, f := range []string{"text/en.json", "text/keys.json", "dist/assets/web/icons/dot.svg",
		"dist/assets/web/icons/dot@3x.png", "guide/index.html", "guide/screens/pay.html", "archetyp.lock"} {
		if content(t, ws, f) == "(none)" {
			t.Errorf("no %s", f)
		}
	}
	if content(t, ws, "dist/tokens.css") != "(none)" {
		t.Error("CSS without tokens")
	}
	again := mustRun(t, ws, Options{})
	if !again.UpToDate || len(again.Written) != 0 || again.Summary.Elements != 5 {
		t.Errorf("%+v", again)
	}
}

// TestWhatMakesItRunAgain changes one input or output at a time.
func TestWhatMakesItRunAgain(t *testing.T) {
	for name, change := range map[string]func(ws *workspace.Workspace){
		"a drawing": func(ws *workspace.Workspace) {
			put(t, ws.Dir, "pay.svg", strings.Replace(paySVG, "Pay now", "Pay", 1))
		},
		"a new drawing": func(ws *workspace.Workspace) { put(t, ws.Dir, "more.svg", paySVG) },
		"the configuration": func(ws *workspace.Workspace) {
			put(t, ws.Dir, "archetyp.yaml",
				"name: Other\nsources: ['*.svg']\n")
		},
		"a token file": func(ws *workspace.Workspace) {
			put(t, ws.Dir, "tokens/a.tokens.json", `{"n": {"$type": "number", "$value": 1}}`)
		},
		"an output removed":     func(ws *workspace.Workspace) { os.Remove(ws.Path("guide/style.css")) },
		"a word in a catalogue": func(ws *workspace.Workspace) { put(t, ws.Dir, "text/en.json", "{}\n") },
	} {
		ws := begin(t)
		mustRun(t, ws, Options{})
		change(ws)
		ws = open(t, ws.Dir)
		check := mustRun(t, ws, Options{DryRun: true})
		if check.UpToDate || len(check.Written)+len(check.Changes) == 0 {
			t.Errorf("%s: counts as in step", name)
		}
		if r := mustRun(t, ws, Options{}); len(r.Written) == 0 {
			t.Errorf("%s: nothing is written", name)
		}
		if r := mustRun(t, ws, Options{}); !r.UpToDate {
			t.Errorf("%s: not in step after a run: %v", name, r.Written)
		}
	}
}

func TestLinkedFilesAreInputs(t *testing.T) {
	ws := begin(t)
	put(t, ws.Dir, "pay.svg", strings.Replace(paySVG, "<rect", `<style>@import "look.css";</style><rect`, 1))
	put(t, ws.Dir, "look.css", "circle{fill:red}")
	mustRun(t, ws, Options{})
	if !mustRun(t, ws, Options{}).UpToDate {
		t.Error("not in step")
	}
	put(t, ws.Dir, "look.css", "circle{fill:blue}")
	if r := mustRun(t, ws, Options{}); r.UpToDate || !strings.Contains(content(t, ws, "dist/assets/web/icons/dot.svg"),
		`fill="#00f"`) {
		t.Errorf("a linked file changed: %+v", r.Written)
	}
}

func TestChangesAreTold(t *testing.T) {
	for name, c := range map[string]struct{ old, new, want string }{
		"a colour":   {`fill="#0b6e8f"`, `fill="#0b6e90"`, "elements 1 changed (Pay/box 1)"},
		"an element": {`</svg>`, `<rect id="new" width="1" height="1"/></svg>`, "elements 1 new"},
		"a renamed id": {`id="dot" data-asset="icons/dot"`, `id="spot" data-asset="icons/dot"`,
			"edited, with the same facts"},
		"gone": {`<circle id="dot" data-asset="icons/dot" cx="190" cy="10" r="5" fill="#e4572e"/>`, ``,
			"elements 1 gone"},
		"white space": {"\n", "\n\n", "edited, with the same facts"},
	} {
		ws := begin(t)
		mustRun(t, ws, Options{})
		put(t, ws.Dir, "pay.svg", strings.Replace(paySVG, c.old, c.new, 1))
		r := mustRun(t, ws, Options{DryRun: true})
		if len(r.Changes) != 1 || r.Changes[0] != "pay.svg: "+c.want {
			t.Errorf("%s: %q, want %q", name, r.Changes, c.want)
		}
	}
}

func TestFaultsOfSeveralDrawingsAreAllTold(t *testing.T) {
	ws := begin(t)
	put(t, ws.Dir, "a.svg", "<svg")
	put(t, ws.Dir, "b.svg", "<html/>")
	r, err := Run(t.Context(), ws, Options{})
	if err != nil || len(r.Unread) != 2 {
		t.Fatal(r, err)
	}
	_, err = Run(t.Context(), ws, Options{Strict: true})
	if err == nil || !strings.Contains(err.Error(), "a.svg:1:") || !strings.Contains(err.Error(), "b.svg:1:1") {
		t.Errorf("%v", err)
	}
	for i, want := range []string{"a.svg:1:", "b.svg:1:1"} {
		if !strings.Contains(r.Unread[i].Error(), want) {
			t.Error(r.Unread[i])
		}
	}
}

// What is remembered of a drawing and of the elements in it follows them: to another folder, to another name of the
// screen, to another name of a token.
func TestMemoryFollowsElements(t *testing.T) {
	const screen = `<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100" data-screen="Fares"><rect width="200" height="100" fill="#f5f8fa"/><g data-label="A"><rect width="20" height="20" fill="#0b6e8f"/></g><g data-label="B"><rect x="30" width="20" height="20" fill="#0b6e8f"/></g></svg>`
	const tokens = `{"color": {"$type": "color", "sea": {"$value": {"colorSpace": "srgb", "components": [0.043137, 0.431373, 0.560784], "hex": "#0b6e8f"}}, "action": {"main": {"$value": "{color.sea}"}}}}`
	for name, c := range map[string]struct{ file, old, now string }{
		"as it was":             {"fares.svg", "", ""},
		"the screen is renamed": {"fares.svg", "Fares", "Prices"},
		"the file is moved":     {"more/fares.svg", "", ""},
		"moved and edited":      {"more/fares.svg", `width="200" height="100" fill`, `width="200" height="99" fill`},
		"the file is renamed":   {"prices.svg", "", ""},
	} {
		t.Run(name, func(t *testing.T) {
			ws := begin(t)
			put(t, ws.Dir, "archetyp.yaml", "sources: ['*.svg', 'more/*.svg']\n")
			put(t, ws.Dir, "tokens/x.tokens.json", tokens)
			put(t, ws.Dir, "fares.svg", screen)
			if err := os.Remove(filepath.Join(ws.Dir, "pay.svg")); err != nil {
				t.Fatal(err)
			}
			ws = open(t, ws.Dir)
			mustRun(t, ws, Options{})
			put(t, ws.Dir, "tokens/x.tokens.json", strings.NewReplacer("0.043137", "0.5", "#0b6e8f", "#806e8f").Replace(tokens))
			if err := os.Remove(filepath.Join(ws.Dir, "fares.svg")); err != nil {
				t.Fatal(err)
			}
			put(t, ws.Dir, c.file, strings.Replace(screen, c.old, c.now, 1))
			r := mustRun(t, open(t, ws.Dir), Options{})
			if len(r.Summary.Apart) != 1 || r.Summary.Apart[0].Token != "color.action.main" || r.Summary.Apart[0].Places != 2 ||
				r.Summary.Apart[0].Source != c.file {
				t.Errorf("%+v", r.Summary.Apart)
			}
		})
	}
}

func TestAccept(t *testing.T) {
	ws := begin(t)
	reading, err := Read(t.Context(), ws)
	if err != nil {
		t.Fatal(err)
	}
	added, err := Accept(ws, reading, func(p string) bool { return strings.HasPrefix(p, "color.") }, nil)
	if err != nil || len(added) < 4 {
		t.Fatal(added, err)
	}
	if _, err := os.Stat(ws.Path("archetyp.lock")); err == nil {
		t.Error("reading wrote a lock")
	}
	lib, err := ws.ReadTokens(nil)
	if err != nil || lib.Base.Get("color.blue.500") == nil {
		t.Fatal(lib, err)
	}
	reading, err = Read(t.Context(), ws)
	if err != nil {
		t.Fatal(err)
	}
	more, err := Accept(ws, reading, func(string) bool { return true }, nil)
	if err != nil || strings.Contains(fmt.Sprint(more), "color.") || len(more) == 0 {
		t.Errorf("%v %v", more, err)
	}
	mustRun(t, ws, Options{})
	if css := content(t, ws, "dist/tokens.css"); !strings.Contains(css, "--color-blue-500: #0b6e8f;") ||
		!strings.Contains(css, "--radius-8: 8px;") {
		t.Error(css)
	}
}

func TestOnly(t *testing.T) {
	ws := begin(t)
	if r := mustRun(t, ws, Options{Only: "assets"}); len(r.Written) != 7 ||
		content(t, ws, "guide/index.html") != "(none)" {
		t.Errorf("%v", r.Written)
	}
	if r := mustRun(t, ws, Options{Only: "guide"}); content(t, ws, "guide/index.html") == "(none)" ||
		content(t, ws, "text/en.json") != "(none)" {
		t.Errorf("%v", r.Written)
	}
	if r := mustRun(t, ws, Options{}); r.UpToDate || content(t, ws, "text/en.json") == "(none)" {
		t.Errorf("%v", r.Written)
	}
	if r, err := Collect(t.Context(), ws, Options{}); err != nil || len(r.Written) != 0 {
		t.Errorf("%v %v", r, err)
	}
	if !mustRun(t, ws, Options{}).UpToDate {
		t.Error("a part that changed nothing puts the whole out of step")
	}
}

func TestProgress(t *testing.T) {
	ws := begin(t)
	seen := map[string]int{}
	mustRun(t, ws, Options{Progress: func(stage string, done, of int) {
		if done > of {
			t.Errorf("%s: %d of %d", stage, done, of)
		}
		seen[stage] = of
	}})
	if seen["reading"] != 1 || seen["exporting"] != 1 || seen["painting"] < 3 {
		t.Errorf("%v", seen)
	}
}

func TestNames(t *testing.T) {
	set := token.Resolve(token.Parse([]byte(`{"color": {"$type": "color", "sea": {"$value": {"colorSpace": "srgb", "components": [0, 0, 1]}}, "fog": {"$value": {"colorSpace": "srgb", "components": [1, 1, 1]}},
		"text": {"link": {"$value": "{color.sea}"}}, "action": {"default": {"$value": "{color.sea}"}}},
		"radius": {"m": {"$type": "dimension", "$value": {"value": 8, "unit": "px"}}}, "space": {"8": {"$type": "dimension", "$value": {"value": 8, "unit": "px"}}},
		"type": {"body": {"$type": "typography", "$value": {"fontFamily": ["Go", "serif"], "fontSize": {"value": 16, "unit": "px"}, "fontWeight": 400, "letterSpacing": {"value": 0, "unit": "px"}, "lineHeight": 1.5}}}}`), "t.json"))
	if err := set.Err(); err != nil {
		t.Fatal(err)
	}
	names := Names{emit.NewFinder(set, nil),
		&workspace.Workspace{Config: workspace.Config{Outputs: []workspace.Output{{As: "css", Prefix: "x"}}}}, set}
	p := func(kind, value string) string { return names.Code(nil, kind, value).Property }
	for _, c := range []struct{ kind, value, want string }{
		{"color:text", "#0000ff", "--x-color-text-link"},
		{"color:surface", "#0000ff", "--x-color-action-default"},
		{"color:border", "#0000ff", "--x-color-action-default"},
		{"color:surface", "#ffffff", "--x-color-fog"},
		{"color:text", "#123456", ""},
		{"radius", "8px", "--x-radius-m"},
		{"space", "8px", "--x-space-8"},
		{"radius", "9px", ""},
		{"type", "Go|16px|400|0", "--x-type-body"},
		{"type", "Go|16px|600|0", ""},
		{"nonsense", "8px", ""},
	} {
		if got := p(c.kind, c.value); got != c.want {
			t.Errorf("%s %s: %q, want %q", c.kind, c.value, got, c.want)
		}
	}
}

func BenchmarkNothingChanged(b *testing.B) {
	ws := begin(b)
	if _, err := Run(b.Context(), ws, Options{}); err != nil {
		b.Fatal(err)
	}
	b.ReportAllocs()
	for b.Loop() {
		if r, err := Run(b.Context(), ws, Options{}); err != nil || !r.UpToDate {
			b.Fatal(err)
		}
	}
}

func BenchmarkEverythingChanged(b *testing.B) {
	ws := begin(b)
	for b.Loop() {
		os.Remove(ws.Path(workspace.LockName))
		if _, err := Run(b.Context(), ws, Options{DryRun: true}); err != nil {
			b.Fatal(err)
		}
	}
}

// TestTokensAloneAreAWorkspace has outputs and a guide made without any drawing.
func TestTokensAloneAreAWorkspace(t *testing.T) {
	dir := t.TempDir()
	put(t, dir, "archetyp.yaml", "name: Alone\nsources: []\n")
	put(t, dir, "tokens/a.tokens.json", `{"sea": {"$type": "color", "$value": "#0b6e8f"}}`)
	ws := open(t, dir)
	mustRun(t, ws, Options{})
	if css, page := content(t, ws, "dist/tokens.css"), content(t, ws, "guide/index.html"); !strings.Contains(css,
		"--sea: #0b6e8f") || !strings.Contains(page, "made from the tokens") || strings.Contains(page, "Screens") {
		t.Errorf("%s\n%s", css, page)
	}
	if rep := mustRun(t, open(t, dir), Options{}); !rep.UpToDate {
		t.Errorf("%v was written again", rep.Written)
	}
	bare := t.TempDir()
	put(t, bare, "archetyp.yaml", "sources: []\n")
	if _, err := Run(t.Context(), open(t, bare), Options{}); err == nil || !strings.Contains(err.Error(),
		"no source matches, and no token file") {
		t.Error(err)
	}
}
