package job

import (
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"archetyp/core/token"
	"archetyp/core/token/absorb"
	"archetyp/workspace"
)

// harbour is a workspace with a resolver, and one drawing that uses its colour.
func harbour(t *testing.T) *workspace.Workspace {
	t.Helper()
	dir := t.TempDir()
	for name, text := range map[string]string{
		"archetyp.yaml": "name: Harbour\nsources: [a.svg]\ntokens: {resolver: tokens/h.resolver.json}\noutputs:\n  - {as: " +
			"css, to: dist/tokens.css}\n  - {as: json, to: dist/tokens.json}\n  - {as: swift, to: dist/T.swift}\n",
		"a.svg": `<svg xmlns="http://www.w3.org/2000/svg" width="90" height="90"><rect id="Quay" width="90" height="50" fill="#006699"/><rect id="Mole" y="60" width="90" height="20" fill="#006699"/></svg>`,
		"tokens/h.resolver.json": `{"version": "2025.10", "modifiers": {"scheme": {"contexts": {"light": [], "dark": [{"$ref": "dark.tokens.json"}], "bare": []}, "default": "light"}},
			"resolutionOrder": [{"type": "set", "name": "base", "sources": [{"$ref": "base.tokens.json"}, {"$ref": "more.tokens.json"}]}, {"$ref": "#/modifiers/scheme"}]}`,
		"tokens/base.tokens.json": `{
  "color": {
    "$type": "color",
    "sea": {"$value": {"colorSpace": "srgb", "components": [0, 0.4, 0.6]}},
    "link": {"$value": "{color.sea}"}
  }
}
`,
		"tokens/more.tokens.json": `{
  "space": {"m": {"$type": "dimension", "$value": {"value": 16, "unit": "px"}}}
}
`,
		"tokens/dark.tokens.json": `{
  "color": {
    "sea": {"$type": "color", "$value": {"colorSpace": "srgb", "components": [0.4, 0.8, 1]}}
  }
}
`,
	} {
		path := filepath.Join(dir, name)
		if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
			t.Fatal(err)
		}
		if err := os.WriteFile(path, []byte(text), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	ws, _, err := workspace.Find(dir)
	if err != nil {
		t.Fatal(err)
	}
	return ws
}

func parsed(t *testing.T, path string, typ token.Type, json string) *token.Token {
	t.Helper()
	v, err := token.ParseValue(json, typ)
	if err != nil {
		t.Fatal(err)
	}
	return &token.Token{Path: path, Type: typ, Value: v}
}

// TestTokensGoWhereTheyBelong holds which file an edit is written to.
func TestTokensGoWhereTheyBelong(t *testing.T) {
	grey := `{"colorSpace": "srgb", "components": [0.5, 0.5, 0.5]}`
	for _, c := range []struct {
		name, path, context string
		typ                 token.Type
		json                string
		file, holds         string
	}{
		{"one that is there", "color.sea", "", token.Color, grey, "base",
			`"sea": {"$value": {"colorSpace": "srgb", "components": [0.5, 0.5, 0.5]}}`},
		{"one that is there in the dark", "color.sea", "scheme.dark", token.Color, grey, "dark",
			`"components": [0.5, 0.5, 0.5]`},
		{"a new form in the dark", "color.link", "scheme.dark", token.Color, `"{color.sea}"`, "dark",
			`"link": {"$type": "color", "$value": "{color.sea}"}`},
		{"a new one beside its group", "space.l", "", token.Dimension, `{"value": 24, "unit": "px"}`, "more",
			`"l": {"$type": "dimension", "$value": {"value": 24, "unit": "px"}}`},
		{"a new one of no group", "line", "", token.Number, `1.5`, "base", `"line": {"$type": "number", "$value": 1.5}`},
		{"by the name of the default", "color.sea", "scheme.light", token.Color, grey, "base",
			`"components": [0.5, 0.5, 0.5]`},
	} {
		ws := harbour(t)
		e, err := EditTokens(ws)
		if err != nil {
			t.Fatal(err)
		}
		file, _, err := e.Set(parsed(t, c.path, c.typ, c.json), c.context)
		if err != nil || file != "tokens/"+c.file+".tokens.json" {
			t.Errorf("%s: written to %s, %v", c.name, file, err)
			continue
		}
		written, err := e.Apply(nil)
		if err != nil || len(written) != 1 || written[0] != file || !strings.Contains(content(t, ws, file), c.holds) {
			t.Errorf("%s: %v %v\n%s", c.name, written, err, content(t, ws, file))
		}
	}
}

func TestEditsThatCannotBe(t *testing.T) {
	for _, c := range []struct {
		name string
		do   func(e *TokenEdit) error
		want string
	}{
		{"an unknown context", func(e *TokenEdit) error {
			_, _, err := e.Set(parsed(t, "color.sea", token.Color, `"{color.link}"`), "scheme.dim")
			return err
		}, "there are scheme.light, scheme.dark, scheme.bare"},
		{"a context without a file", func(e *TokenEdit) error {
			_, _, err := e.Set(parsed(t, "color.sea", token.Color, `"{color.link}"`), "scheme.bare")
			return err
		}, "has no file of its own"},
		{"a circle", func(e *TokenEdit) error {
			if _, _, err := e.Set(parsed(t, "color.sea", token.Color, `"{color.link}"`), ""); err != nil {
				return err
			}
			_, err := e.Apply(nil)
			return err
		}, "leads back to itself"},
		{"an alias without an end", func(e *TokenEdit) error {
			if _, err := e.Remove("color.sea", ""); err != nil {
				return err
			}
			_, err := e.Apply(nil)
			return err
		}, "there is no token {color.sea}"},
	} {
		ws := harbour(t)
		before := content(t, ws, "tokens/base.tokens.json")
		e, err := EditTokens(ws)
		if err != nil {
			t.Fatal(err)
		}
		if err := c.do(e); err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%s: %v, want …%s…", c.name, err, c.want)
		}
		if content(t, ws, "tokens/base.tokens.json") != before {
			t.Errorf("%s: something was written", c.name)
		}
	}
}

func TestRenameAndRemoveEverywhere(t *testing.T) {
	ws := harbour(t)
	e, err := EditTokens(ws)
	if err != nil {
		t.Fatal(err)
	}
	files, aliases, err := e.Rename("color.sea", "color.water")
	if err != nil || len(files) != 2 || aliases != 1 {
		t.Errorf("%v %d %v", files, aliases, err)
	}
	if _, err := e.Apply(nil); err != nil {
		t.Fatal(err)
	}
	lib, err := ws.ReadTokens(nil)
	if err != nil || lib.Base.Get("color.water") == nil || lib.Base.Get("color.link").Value.Alias != "color.water" {
		t.Fatal(err)
	}
	dark, _ := lib.Context("scheme.dark")
	if dark.Set.Get("color.sea") != nil || token.Same(dark.Set.Get("color.water"), lib.Base.Get("color.water")) {
		t.Error("the dark form was left behind")
	}
	if e, err = EditTokens(ws); err != nil {
		t.Fatal(err)
	}
	if files, err := e.Remove("color.water", "scheme.dark"); err != nil || len(files) != 1 ||
		files[0] != "tokens/dark.tokens.json" {
		t.Errorf("%v %v", files, err)
	}
	if _, err := e.Apply(nil); err != nil {
		t.Fatal(err)
	}
	if now := content(t, ws, "tokens/dark.tokens.json"); now != "{\n}\n" {
		t.Errorf("the file of the context holds %q", now)
	}
}

// TestAbsorbKeepsTrackOfWhatWasTaken holds that an edit taken back is not complained of, and a new one is.
func TestAbsorbKeepsTrackOfWhatWasTaken(t *testing.T) {
	ws := harbour(t)
	mustRun(t, ws, Options{})
	css := content(t, ws, "dist/tokens.css")
	rewrite := func(file, old, now string) {
		text := content(t, ws, file)
		if !strings.Contains(text, old) {
			t.Fatalf("no %s in %s", old, text)
		}
		if err := os.WriteFile(ws.Path(file), []byte(strings.Replace(text, old, now, 1)), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	rewrite("dist/tokens.css", "--space-m: 16px;", "--space-m: 20px; /* roomier */")
	rewrite("dist/tokens.json", `"sea": "#006699"`, `"sea": "#0077aa"`)
	edited, err := EditedOutputs(ws)
	if err != nil || strings.Join(edited, " ") != "dist/tokens.css dist/tokens.json" {
		t.Fatal(edited, err)
	}
	if _, err := Run(t.Context(), ws, Options{}); err == nil || !strings.Contains(err.Error(), "edited by hand") {
		t.Fatalf("%v", err)
	}
	for _, f := range edited {
		a, err := Absorb(ws, f, AbsorbOptions{})
		if err != nil || !a.Complete() || len(a.Done) != 1 || len(a.Files) != 1 {
			t.Fatalf("%s: %+v %v", f, a, err)
		}
	}
	if again, _ := EditedOutputs(ws); len(again) != 0 {
		t.Errorf("still edited: %v", again)
	}
	mustRun(t, ws, Options{})
	want := strings.NewReplacer("--space-m: 16px;", "--space-m: 20px;", "--color-sea: #006699;",
		"--color-sea: #0077aa;").Replace(css)
	if now := content(t, ws, "dist/tokens.css"); now != want {
		t.Errorf("%s", now)
	}
	rewrite("dist/tokens.css", "--space-m: 20px;", "--space-m: 21px;")
	if _, err := Run(t.Context(), ws, Options{}); err == nil {
		t.Error("the next edit is written over")
	}
}

func TestAbsorbWaitsForAWord(t *testing.T) {
	ws := harbour(t)
	mustRun(t, ws, Options{})
	text := content(t, ws, "dist/tokens.css")
	text = strings.Replace(text, "  --space-m: 16px;\n", "  --space-l: 32px;\n", 1)
	if err := os.WriteFile(ws.Path("dist/tokens.css"), []byte(text), 0o644); err != nil {
		t.Fatal(err)
	}
	a, err := Absorb(ws, "dist/tokens.css", AbsorbOptions{})
	if err != nil || len(a.Open) != 2 || a.Complete() || len(a.Files) != 0 {
		t.Fatalf("%+v %v", a, err)
	}
	a, err = Absorb(ws, "dist/tokens.css", AbsorbOptions{Accept: func(e *absorb.Edit) bool { return e.Kind == "added" }})
	if err != nil || len(a.Open) != 1 || len(a.Done) != 1 || !strings.Contains(content(t, ws, "tokens/more.tokens.json"),
		`"l":`) {
		t.Fatalf("%+v %v", a, err)
	}
	a, err = Absorb(ws, "dist/tokens.css", AbsorbOptions{Accept: func(*absorb.Edit) bool { return true }})
	if err != nil || !a.Complete() || strings.Contains(content(t, ws, "tokens/more.tokens.json"), `"m":`) {
		t.Fatalf("%+v %v", a, err)
	}
	for file, want := range map[string]string{"dist/T.swift": "cannot be taken back",
		"a.svg": "no output of the workspace", "dist/gone.css": "no such file"} {
		if _, err := Absorb(ws, file, AbsorbOptions{}); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%s: %v", file, err)
		}
	}
}

func TestNamesInCode(t *testing.T) {
	names := map[string]string{"--color-sea": "color.sea", "$color-sea": "color.sea", "color.sea": "color.sea",
		"colorSea": "color.sea", "color_sea": "color.sea"}
	for _, c := range []struct{ text, want string }{
		{"a { color: var(--color-sea) }", "1:16 --color-sea"},
		{"a { color: var(--color-sea, red); b: var(--color-sea) }", "1:16 --color-sea 1:42 --color-sea"},
		{"--color-sea-600: 1; ---color-sea; x--color-sea", ""},
		{"$color-sea: 1;\n.a { b: $color-sea }", "1:1 $color-sea 2:9 $color-sea"},
		{"Tokens.colorSea, colorSeaDeep, myColorSea", "1:8 colorSea"},
		{"R.color.color_sea @color/color_sea", "1:9 color_sea 1:26 color_sea"},
		{`t("color.sea") t('color.sea.600') color.sea`, "1:4 color.sea"},
		{"`color.sea`", "1:2 color.sea"},
		{"", ""},
	} {
		var got []string
		for _, u := range usesIn([]byte(c.text), "f", names) {
			got = append(got, strings.TrimSpace(strings.Join([]string{strconv.Itoa(u.Line) + ":" + strconv.Itoa(u.Column),
				u.Name}, " ")))
			if u.Token != "color.sea" || u.File != "f" || u.Text == "" {
				t.Errorf("%s: %+v", c.text, u)
			}
		}
		if strings.Join(got, " ") != c.want {
			t.Errorf("%q: %s, want %s", c.text, strings.Join(got, " "), c.want)
		}
	}
}

// TestRenameReachesAllThatNamesTokens renames a group that the lock, the configuration and a drawing name.
func TestRenameReachesAllThatNamesTokens(t *testing.T) {
	dir := t.TempDir()
	put(t, dir, "archetyp.yaml",
		"sources: [a.svg]\noutputs:\n  - {as: css, to: dist/a.css, only: [color.sea, \"color.sea.light\", space]}\n")
	put(t, dir, "a.svg",
		`<svg xmlns="http://www.w3.org/2000/svg" width="30" height="30"><rect width="9" height="9" style="fill: var(--color-sea-deep)"/><rect x="12" width="9" height="9" fill="#0b6e8f"/></svg>`)
	put(t, dir, "tokens/a.tokens.json",
		`{"color": {"$type": "color", "sea": {"deep": {"$value": "#0b6e8f"}, "light": {"$value": "#8fcbe0"}}}, "space": {"$type": "dimension", "a": {"$value": {"value": 4, "unit": "px"}}}}`)
	mustRun(t, open(t, dir), Options{})
	ws := open(t, dir)
	e, err := EditTokens(ws)
	if err != nil {
		t.Fatal(err)
	}
	renamed := Renamings(e.Library.Base, "color.sea", "color.water")
	if _, _, err := e.Rename("color.sea", "color.water"); err != nil {
		t.Fatal(err)
	}
	c := &workspace.Change{}
	files, err := RenameEverywhere(ws, c, "color.sea", "color.water", renamed)
	if err != nil || strings.Join(files, " ") != "archetyp.yaml a.svg" {
		t.Fatal(files, err)
	}
	if _, err := e.Apply(c); err != nil {
		t.Fatal(err)
	}
	ws = open(t, dir)
	if got := strings.Join(ws.Config.Outputs[0].Only, " "); got != "color.water color.water.light space" {
		t.Errorf("only: %s", got)
	}
	if got := content(t, ws, "a.svg"); !strings.Contains(got, "var(--color-water-deep)") {
		t.Errorf("the drawing: %s", got)
	}
	lock, err := ws.ReadLock()
	if err != nil || len(lock.TokensNow()["color.water.deep"].Uses) == 0 {
		t.Errorf("the lock has forgotten who uses it: %+v %v", lock.TokensNow(), err)
	}
	// a colour that changes now is a change of the token under its new name
	put(t, dir, "a.svg", strings.ReplaceAll(content(t, ws, "a.svg"), "#0b6e8f", "#0c7090"))
	put(t, dir, "a.svg", strings.ReplaceAll(content(t, ws, "a.svg"), "var(--color-water-deep)", "#0c7090"))
	r, err := Read(t.Context(), open(t, dir))
	if err != nil {
		t.Fatal(err)
	}
	found := false
	for _, f := range r.Harvest.Found {
		found = found || f.Changes == "color.water.deep"
	}
	if !found {
		t.Errorf("the change is not seen: %+v", r.Harvest.Found)
	}
	mustRun(t, open(t, dir), Options{Overwrite: true})
	if lock, err := open(t, dir).ReadLock(); err != nil || len(lock.Renamed) > 0 {
		t.Errorf("the next sync keeps what was renamed: %v %v", lock.Renamed, err)
	}
}

func TestRenameVars(t *testing.T) {
	names := map[string]string{"--a": "--b", "--a-b": "--c"}
	for in, want := range map[string]string{"var(--a)": "var(--b)", "x var( --a-b , red) y": "x var( --c , red) y",
		"var(--a-b-c) --a": "var(--a-b-c) --a", "var(": "var(", "var(--a": "var(--b"} {
		if got := string(renameVars([]byte(in), names)); got != want {
			t.Errorf("%s: %s, want %s", in, got, want)
		}
	}
}
