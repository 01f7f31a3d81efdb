package workspace

import (
	"archetyp/core/css"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
)

func tokenWorkspace(t *testing.T, config string, files map[string]string) (*Workspace, error) {
	t.Helper()
	dir := t.TempDir()
	files[ConfigName] = config
	for name, text := range files {
		path := filepath.Join(dir, name)
		if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
			t.Fatal(err)
		}
		if err := os.WriteFile(path, []byte(text), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	ws, _, err := Find(dir)
	return ws, err
}

const resolver = `{"version": "2025.10", "modifiers": {"scheme": {"contexts": {"light": [], "dark": [{"$ref": "dark.tokens.json"}]}, "default": "light"}}, "resolutionOrder": [{"type": "set", "name": "b", "sources": [{"$ref": "base.tokens.json"}]}, {"$ref": "#/modifiers/scheme"}]}`

func TestTokensOfAWorkspace(t *testing.T) {
	number := func(v string) string { return `{"a": {"$type": "number", "$value": ` + v + `}}` }
	for _, c := range []struct {
		name, config string
		files        map[string]string
		want         string
	}{
		{"files by pattern", "tokens: {files: ['*.tokens.json']}\n", map[string]string{"x.tokens.json": number("1"),
			"other.json": "{"}, "1 tokens"},
		{"none", "tokens: {files: ['*.tokens.json']}\n", map[string]string{}, "0 tokens"},
		{"a token in two", "tokens: {files: ['*.tokens.json']}\n", map[string]string{"x.tokens.json": number("1"),
			"y.tokens.json": number("2")}, "y.tokens.json:1:2: a: this token stands in x.tokens.json:1 too"},
		{"a resolver", "tokens: {resolver: r.resolver.json}\n", map[string]string{"r.resolver.json": resolver,
			"base.tokens.json": number("1"), "dark.tokens.json": number("2"), "stray.tokens.json": "{"}, "1 tokens, scheme.light scheme.dark"},
		{"a resolver that is not there", "tokens: {resolver: r.resolver.json}\n", map[string]string{},
			"r.resolver.json: there is no such file"},
		{"a file that is not there", "tokens: {resolver: r.resolver.json}\n", map[string]string{"r.resolver.json": resolver,
			"base.tokens.json": "{}"}, "r.resolver.json:1:93: dark.tokens.json: there is no such file"},
		{"a context that is not there", "tokens: {resolver: r.resolver.json}\ncontexts: {scheme.drak: '.dark'}\n",
			map[string]string{"r.resolver.json": resolver, "base.tokens.json": "{}",
				"dark.tokens.json": "{}"}, `archetyp.yaml: contexts: there is no context "scheme.drak"`},
		{"contexts without a resolver", "contexts: {scheme.dark: '.dark'}\n", map[string]string{},
			`archetyp.yaml: contexts: there is no context "scheme.dark"`},
		{"contexts without a dot", "contexts: {dark: '.dark'}\n", map[string]string{}, `contexts: "dark" is no context`},
		{"an unknown output", "outputs:\n  - {as: cobol, to: x}\n", map[string]string{},
			`the output "cobol" is not known; there are css, css-classes, scss`},
		{"an unknown form", "outputs:\n  - {as: json, to: x, form: round}\n", map[string]string{},
			`the form "round" is not known for json; there are nested and flat`},
		{"a form where there is none", "outputs:\n  - {as: css, to: x, form: flat}\n", map[string]string{}, `it has none`},
		{"a template without its file", "outputs:\n  - {as: template, to: x}\n", map[string]string{}, "names its template"},
	} {
		ws, err := tokenWorkspace(t, "name: W\nsources: [a.svg]\n"+c.config, c.files)
		got := ""
		if err == nil {
			lib, lerr := ws.ReadTokens(nil)
			if err = lerr; err == nil {
				got = strconv.Itoa(len(lib.Base.Tokens)) + " tokens"
				var keys []string
				for _, x := range lib.Contexts {
					keys = append(keys, x.Key())
				}
				if len(keys) > 0 {
					got += ", " + strings.Join(keys, " ")
				}
			}
		}
		if err != nil {
			got = err.Error()
		}
		if !strings.Contains(got, c.want) {
			t.Errorf("%s: %s\nwant %s", c.name, got, c.want)
		}
	}
}

func TestConditionsAreOneOrMany(t *testing.T) {
	cfg, err := ParseConfig([]byte("name: W\ncontexts:\n  scheme.dark: '.dark'\n  width.wide: ['@media (min-width: "+
		"48rem)', '.wide']\n"), "archetyp.yaml")
	if err != nil {
		t.Fatal(err)
	}
	if len(cfg.Contexts["scheme.dark"]) != 1 || len(cfg.Contexts["width.wide"]) != 2 {
		t.Errorf("%v", cfg.Contexts)
	}
	if _, err := ParseConfig([]byte("name: W\ncontexts:\n  scheme.dark: {a: b}\n"), "archetyp.yaml"); err == nil {
		t.Error("a mapping is taken for conditions")
	}
}

// TestContextsAtAWidth holds that a viewport reaches the contexts whose media query asks for its size, and no others.
func TestContextsAtAWidth(t *testing.T) {
	ws, err := tokenWorkspace(t, "name: W\nsources: [a.svg]\ntokens: {resolver: r.resolver.json}\ncontexts:\n  scheme.dark: ['@media (min-width: 48rem)', '.dark']\n",
		map[string]string{"r.resolver.json": resolver, "base.tokens.json": `{"a": {"$type": "number", "$value": 1}}`,
			"dark.tokens.json": `{"a": {"$type": "number", "$value": 2}}`})
	if err != nil {
		t.Fatal(err)
	}
	lib, err := ws.ReadTokens(nil)
	if err != nil {
		t.Fatal(err)
	}
	for width, want := range map[float64]string{390: "", 767: "", 768: "dark", 1280: "dark"} {
		if got := ws.ContextsAt(lib, css.Medium{Width: width, Height: 800})["scheme"]; got != want {
			t.Errorf("%v px wide: %q, not %q", width, got, want)
		}
	}
}

// TestTheLockGivesBackTheTokens holds that a lock written and read again makes the same library.
func TestTheLockGivesBackTheTokens(t *testing.T) {
	ws, err := tokenWorkspace(t, "name: W\nsources: [a.svg]\ntokens: {resolver: r.resolver.json}\n",
		map[string]string{"r.resolver.json": resolver,
			"base.tokens.json": `{"a": {"$type": "number", "$value": 1}, "b": {"$value": "{a}"}, "g": {"$type": "gradient", "$value": [{"color": {"colorSpace": "srgb", "components": [0, 0, 0]}, "position": 0}], "$extensions": {"archetyp": {"angle": 90}}}}`,
			"dark.tokens.json": `{"a": {"$type": "number", "$value": 2}}`})
	if err != nil {
		t.Fatal(err)
	}
	lib, err := ws.ReadTokens(nil)
	if err != nil {
		t.Fatal(err)
	}
	l := &Lock{Summary: []byte("{}"), Outputs: map[string]string{"x": "y"}}
	l.SetTokens(lib, map[string][]string{"a": {"s#1"}}, nil, nil)
	data, err := l.JSON()
	if err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(ws.Path(LockName), data, 0o644); err != nil {
		t.Fatal(err)
	}
	head, err := ws.ReadLockHead()
	if err != nil || head.Outputs["x"] != "y" || head.Tokens != nil {
		t.Errorf("the head: %+v %v", head, err)
	}
	whole, err := ws.ReadLock()
	if err != nil || whole.Tokens["a"].Uses[0] != "s#1" {
		t.Fatalf("%+v %v", whole, err)
	}
	back := whole.Library()
	dark, ok := back.Context("scheme.dark")
	if !ok || dark.Set.Resolve(dark.Set.Get("b")).Value.JSON() != "2" ||
		back.Base.Resolve(back.Base.Get("b")).Value.JSON() != "1" || *back.Base.Get("g").Own.Angle != 90 {
		t.Errorf("%+v", back)
	}
}
