package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
)

// everyKind is a workspace with a token of every kind, in two schemes, two widths and two densities.
func everyKind(t testing.TB) string {
	t.Helper()
	dir := t.TempDir()
	for name, data := range tree(t, "testdata/outputs") {
		write(t, dir, name, data)
	}
	return dir
}

// evilNames is a workspace all of whose names, descriptions and values try to get out of where they are put.
func evilNames(t testing.TB) string {
	t.Helper()
	dir := t.TempDir()
	evil := "*/ evil(); /* \u2028evil()\r\nevil() #{evil()} ${evil()} \\(evil()) \"; evil(); \" ' -- <evil/> ]]> " +
		"\u202e evil"
	quoted, err := json.Marshal(evil)
	if err != nil {
		t.Fatal(err)
	}
	name, err := json.Marshal("evil */ \" ' $ \\ -- <evil> //")
	if err != nil {
		t.Fatal(err)
	}
	write(t, dir, "archetyp.yaml", "name: "+string(quoted)+"\nsources: []\ntokens: {resolver: tokens/all.resolver.json}\n")
	tokens := fmt.Sprintf(`{"color": {"$type": "color", %s: {"$value": "#010203", "$description": %s, "$deprecated": %s}, "plain": {"$value": "#040506", "$description": %s, "$deprecated": %s}},
		"font": {"$type": "fontFamily", "one": {"$value": %s}, "two": {"$value": [%s, "serif"], "$description": "ends in *"}, "three": {"$value": "a", "$description": "/"}}}`, name, quoted, quoted, quoted, quoted, quoted, quoted)
	write(t, dir, "tokens/a.tokens.json", tokens)
	write(t, dir, "tokens/dark.tokens.json", `{"color": {"$type": "color", "plain": {"$value": "#070809"}}}`)
	write(t, dir, "tokens/all.resolver.json", fmt.Sprintf(`{"version": "2025.10", "sets": {"a": {"sources": [{"$ref": "a.tokens.json"}]}},
		"modifiers": {"scheme": {"default": "light", "contexts": {"light": [], "dark": [{"$ref": "dark.tokens.json"}], %s: [{"$ref": "dark.tokens.json"}]}}},
		"resolutionOrder": [{"$ref": "#/sets/a"}, {"$ref": "#/modifiers/scheme"}]}`, name))
	return dir
}

// TestEvilNamesStayText has compilers and a browser read what was made of them: nothing of it is code.
func TestEvilNamesStayText(t *testing.T) {
	t.Parallel()
	dir := evilNames(t)
	for as, file := range map[string]string{"css": "tokens.css", "scss": "tokens.scss", "json": "tokens.json",
		"android": "res", "css-classes": "classes.css"} {
		must(t, dir, "tokens", "emit", "--as", as, "-o", file, "--quiet")
	}
	if err := json.Unmarshal([]byte(read(t, dir, "tokens.json")), new(any)); err != nil {
		t.Error(err)
	}
	for _, file := range []string{"res/values/tokens.xml", "res/values-night/tokens.xml"} {
		command(t, dir, need(t, "xmllint"), "--noout", file)
	}
	node := needNode(t)
	write(t, dir, "all.scss",
		"@use \"tokens\" as *;\n@function evil() { @error \"evil ran\"; }\n:root { @each $name, $value in $tokens { x: "+
			"$value; } }\n")
	if css := command(t, dir, "node", filepath.Join(node, "node_modules", "sass", "sass.js"), "--no-source-map",
		"all.scss"); strings.Contains(css, "evil ran") {
		t.Errorf("Sass ran it: %s", css)
	}
	page := write(t, dir, "page.html",
		"<!doctype html><link rel=stylesheet href=tokens.css><link rel=stylesheet href=classes.css><body>")
	ctx := chromium(t)
	open(t, ctx, page, 400, 400, 1)
	rules, err := chromedp.Run(ctx,
		chromedp.Evaluate[string](`[...document.styleSheets].flatMap(s => [...s.cssRules]).map(r => r.selectorText || r.conditionText).join(' | ')`))
	if err != nil || strings.Contains(rules, "evil()") || !strings.Contains(rules, ":root") {
		t.Errorf("%q %v", rules, err)
	}
}

// needNode is the folder of what comes as npm packages: compilers, validators and style sheets.
func needNode(t testing.TB) string {
	t.Helper()
	dir := os.Getenv("ARCHETYP_NODE")
	if dir == "" {
		lacking(t, "ARCHETYP_NODE names no folder with npm packages")
	}
	need(t, "node")
	return dir
}

func command(t testing.TB, dir string, name string, args ...string) string {
	t.Helper()
	cmd := exec.Command(name, args...)
	cmd.Dir = dir
	out, err := cmd.CombinedOutput()
	if err != nil {
		t.Fatalf("%s %s: %v\n%s", name, strings.Join(args, " "), err, out)
	}
	return string(out)
}

// TestAndroidTakesTheResources compiles and links them against the framework, which refuses unknown attributes and
// references that lead nowhere.
func TestAndroidTakesTheResources(t *testing.T) {
	t.Parallel()
	aapt := need(t, "aapt2")
	framework := "/usr/share/android-framework-res/framework-res.apk"
	if _, err := os.Stat(framework); err != nil {
		need(t, "android-framework-res")
	}
	for name, dir := range map[string]string{"every kind": everyKind(t), "demo": demo(t)} {
		r := must(t, dir, "tokens", "emit", "--as", "android", "-o", "res")
		work := t.TempDir()
		write(t, work, "AndroidManifest.xml",
			`<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="ferry.tokens"><uses-sdk android:minSdkVersion="28" android:targetSdkVersion="29"/></manifest>`)
		command(t, work, aapt, "compile", "--dir", filepath.Join(dir, "res"), "-o", "all.zip")
		command(t, work, aapt, "link", "-I", framework, "--manifest", "AndroidManifest.xml", "-o", "all.apk", "all.zip")
		dump := command(t, work, aapt, "dump", "resources", "all.apk")
		if name == "demo" {
			continue
		}
		for _, want := range []string{"#ff0b6e8f", "(night) #ff57b8d9", "16.000000sp", "24.000000dp", "(w768dp) 18",
			"(w768dp-night) 18", "(w768dp-night) (style)"} {
			if !strings.Contains(dump, want) {
				t.Errorf("%s: no %s in\n%s", name, want, dump)
			}
		}
		for _, want := range []string{"shadow.card: left out", "glow.dusk: left out", "density.compact: left out",
			"color.flag: outside sRGB: its hex is written"} {
			if !strings.Contains(r.err, want) {
				t.Errorf("%s: nobody is told that %s: %s", name, want, r.err)
			}
		}
	}
}

// TestSassGivesTheSameValues compiles the SCSS output and holds each variable against the property of the CSS output.
func TestSassGivesTheSameValues(t *testing.T) {
	t.Parallel()
	node := needNode(t)
	ctx := chromium(t)
	for _, dir := range []string{everyKind(t), demo(t)} {
		must(t, dir, "tokens", "emit", "--as", "scss", "-o", "tokens.scss", "--quiet")
		must(t, dir, "tokens", "emit", "--as", "css", "-o", "tokens.css", "--quiet")
		write(t, dir, "all.scss",
			"@use \"tokens\" as *;\n:root { @each $name, $value in $tokens { --sass-#{$name}: #{$value}; } }\n")
		css := command(t, dir, "node", filepath.Join(node, "node_modules", "sass", "sass.js"), "--no-source-map", "all.scss")
		page := write(t, dir, "page.html", "<!doctype html><style>"+read(t, dir,
			"tokens.css")+"</style><style>"+css+"</style><body>")
		open(t, ctx, page, 400, 400, 1)
		names := regexp.MustCompile(`--sass-([a-z0-9-]+):`).FindAllStringSubmatch(css, -1)
		if len(names) < 30 {
			t.Fatalf("only %d variables", len(names))
		}
		for _, n := range names {
			same, err := chromedp.Run(ctx, chromedp.Evaluate[string](sameStyle("--"+n[1], "var(--sass-"+n[1]+")")))
			if err != nil || same != "" {
				t.Errorf("%s: %s %v", n[1], same, err)
			}
		}
	}
}

// sameStyle is a script that sets a property from a custom property and from another value, whichever property takes
// it, and says how they differ.
func sameStyle(name, value string) string {
	return fmt.Sprintf(`((root) => {
		for (const prop of ['color', 'font', 'boxShadow', 'backgroundImage', 'border', 'transition', 'width', 'marginLeft', 'fontFamily', 'transitionTimingFunction', 'transitionDuration', 'borderTopStyle', 'lineHeight', 'flexGrow']) {
			const a = document.createElement('div'), b = document.createElement('div');
			root.append(a, b);
			const plain = getComputedStyle(a)[prop];
			a.style[prop] = 'var(' + %q + ')'; b.style[prop] = %q;
			const x = getComputedStyle(a)[prop], y = getComputedStyle(b)[prop];
			a.remove(); b.remove();
			if (x !== plain || y !== plain) return x === y ? '' : prop + ': ' + x + ', not ' + y;
		}
		const read = (v) => v.replace(/\s+/g, ' ').replace(/"/g, "'").trim();
		const x = read(getComputedStyle(root).getPropertyValue(%[1]q)), y = read(%[2]q.startsWith('var(') ? getComputedStyle(root).getPropertyValue(%[2]q.slice(4, -1)) : %[2]q);
		return x === y ? '' : 'neither is taken by a property: ' + x + ', ' + y;
	})(window.here || document.body)`, name, value)
}

// TestTypeScriptSwiftAndKotlinParse holds the outputs against a type checker and two grammars.
func TestTypeScriptSwiftAndKotlinParse(t *testing.T) {
	t.Parallel()
	node := needNode(t)
	dirs := []string{everyKind(t), demo(t), evilNames(t)}
	for _, dir := range dirs {
		for as, file := range map[string]string{"ts": "tokens.ts", "swift": "Tokens.swift", "kotlin": "Tokens.kt"} {
			must(t, dir, "tokens", "emit", "--as", as, "-o", file, "--quiet")
		}
		write(t, dir, "use.ts",
			"import { tokens, contexts, type TokenPath, type Context } from './tokens';\nconst p: TokenPath = 'type.body'; const c: Context = 'scheme.dark';\n"+
				"const size: string = tokens.type.body.fontSize; const line: number = tokens.type.body.lineHeight;\nexport const "+
				"all = [p, c, size, line, contexts[c]];\n")
	}
	command(t, dirs[0], "node", filepath.Join(node, "node_modules", "typescript", "bin", "tsc"), "--strict", "--noEmit",
		"--target", "es2020", "--moduleResolution", "bundler", "--module", "es2020",
		"use.ts", filepath.Join(dirs[1], "use.ts"), filepath.Join(dirs[2], "tokens.ts"))
	var files []string
	for _, d := range dirs {
		files = append(files, filepath.Join(d, "Tokens.swift"), filepath.Join(d, "Tokens.kt"))
	}
	if out := syntaxFaults(t, node, files); out != "" {
		t.Errorf("no Swift or Kotlin: %s", out)
	}
}

// syntaxFaults holds files of Swift and Kotlin against grammars of the languages and lists what is none.
func syntaxFaults(t testing.TB, node string, files []string) string {
	t.Helper()
	dir := t.TempDir()
	script := write(t, dir, "parse.cjs", `const [modules, ...files] = process.argv.slice(2), Parser = require(modules + '/web-tree-sitter'), fs = require('fs');
(async () => {
	await Parser.init();
	for (const [lang, end] of [['swift', '.swift'], ['kotlin', '.kt']]) {
		const p = new Parser();
		p.setLanguage(await Parser.Language.load(modules + '/tree-sitter-wasms/out/tree-sitter-' + lang + '.wasm'));
		for (const file of files.filter(f => f.endsWith(end))) {
			const walk = (n) => { if (n.type === 'ERROR' || n.isMissing()) console.log(file, n.startPosition.row + 1, n.text.slice(0, 80)); n.children.forEach(walk); };
			walk(p.parse(fs.readFileSync(file, 'utf8')).rootNode);
		}
	}
})();`)
	// The grammars are large: compiled once and quickly, not twice and well.
	return command(t, dir, "node", append([]string{"--liftoff-only", script, filepath.Join(node, "node_modules")}, files...)...)
}

// TestContextsInChromium holds every custom property, in every combination of contexts, however they are nested,
// against what the program says the tokens are when those contexts are the resolver's defaults.
func TestContextsInChromium(t *testing.T) {
	t.Parallel()
	ctx := chromium(t)
	dir := everyKind(t)
	must(t, dir, "tokens", "emit", "--as", "css", "--unit", "rem", "-o", "tokens.css", "--quiet")
	page := write(t, dir, "page.html", "<!doctype html><style>"+read(t, dir, "tokens.css")+`</style><body>
		<div data-scheme=light id=light><div data-scheme=dark id=light-dark><div data-density=compact id=light-dark-compact></div></div></div>
		<div data-scheme=dark id=dark><div data-scheme=light id=dark-light><b data-density=compact id=dark-light-compact></b></div><div data-scheme=dark data-density=compact id=dark+compact></div></div>
		<div data-density=compact id=compact><div data-scheme=dark id=compact-dark></div><div data-density=cosy id=compact-cosy></div><div data-scheme=dark><div data-density=cosy id=compact-dark-cosy></div></div></div>`)
	const resolver = "tokens/all.resolver.json"
	plain := read(t, dir, resolver)
	n := 0
	for _, c := range []struct {
		id                     string
		osDark, wide           bool
		scheme, width, density string
	}{
		{"", false, false, "light", "small", "cosy"}, {"", true, false, "dark", "small", "cosy"}, {"", false, true, "light",
			"wide", "cosy"}, {"", true, true, "dark", "wide", "cosy"},
		{"dark", false, false, "dark", "small", "cosy"}, {"light", true, false, "light", "small", "cosy"}, {"light", true,
			true, "light", "wide", "cosy"}, {"dark", false, true, "dark", "wide", "cosy"},
		{"light-dark", true, true, "dark", "wide", "cosy"}, {"dark-light", false, false, "light", "small",
			"cosy"}, {"dark-light", true, true, "light", "wide", "cosy"},
		{"compact", false, false, "light", "small", "compact"}, {"compact", true, false, "dark", "small",
			"compact"}, {"compact", true, true, "dark", "wide", "compact"},
		{"light-dark-compact", false, false, "dark", "small", "compact"}, {"light-dark-compact", false, true, "dark", "wide",
			"compact"}, {"dark-light-compact", true, true, "light", "wide", "compact"},
		{"dark+compact", false, true, "dark", "wide", "compact"}, {"compact-dark", false, false, "dark", "small",
			"compact"}, {"compact-dark", false, true, "dark", "wide", "compact"},
		{"compact-cosy", false, false, "light", "small", "cosy"}, {"compact-cosy", false, true, "light", "wide",
			"cosy"}, {"compact-dark-cosy", false, true, "dark", "wide", "cosy"},
	} {
		res := strings.NewReplacer(`"default": "light"`, `"default": "`+c.scheme+`"`, `"default": "small"`,
			`"default": "`+c.width+`"`, `"default": "cosy"`, `"default": "`+c.density+`"`).Replace(plain)
		write(t, dir, resolver, res)
		var list struct {
			Tokens []struct{ Path, Type, Value string }
		}
		mustJSON(t, dir, &list, "tokens", "list")
		scheme, width := "light", int64(400)
		if c.osDark {
			scheme = "dark"
		}
		if c.wide {
			width = 1000
		}
		media := chromedp.Func(func(ctx context.Context, target *chromedp.Target) error {
			_, err := cdp.Call(ctx, target, emulation.SetEmulatedMedia,
				emulation.SetEmulatedMediaParams{Features: []*emulation.MediaFeature{{Name: "prefers-color-scheme",
					Value: scheme}}})
			return err
		})
		if err := chromedp.Do(ctx, media); err != nil {
			t.Fatal(err)
		}
		open(t, ctx, page, width, 400, 1)
		for _, tok := range list.Tokens {
			if tok.Value == "" { // a pattern of dashes, which CSS has no place for
				continue
			}
			n++
			script := "window.here = document.getElementById(" + fmt.Sprintf("%q", c.id) + ") || document.body; " +
				sameStyle("--"+strings.ReplaceAll(tok.Path, ".", "-"), tok.Value)
			differs, err := chromedp.Run(ctx, chromedp.Evaluate[string](script))
			if err != nil || differs != "" {
				t.Errorf("in %q, system dark %t, wide %t: %s is %s %v", c.id, c.osDark, c.wide, tok.Path, differs, err)
			}
		}
	}
	if n < 600 {
		t.Errorf("only %d values were held", n)
	}
}

// TestOneEditElsewhereKeepsEveryByte holds over all tokens of the demo that setting one changes the bytes of its value
// only.
func TestOneEditElsewhereKeepsEveryByte(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	var list struct {
		Tokens []struct{ Path, Type, Alias, Value, File string }
	}
	mustJSON(t, dir, &list, "tokens", "list")
	values := map[string]string{"color": "#123456", "dimension": "3px", "typography": `700 17px/1.1 "Some Face"`,
		"fontFamily": "Other", "shadow": "0 1px 2px #abcdef", "gradient": "linear-gradient(30deg, #111111 0%, #222222 100%)"}
	for _, tok := range list.Tokens {
		before := read(t, dir, tok.File)
		must(t, dir, "tokens", "set", tok.Path, values[tok.Type], "--quiet")
		after := read(t, dir, tok.File)
		a, b := strings.Split(before, "\n"), strings.Split(after, "\n")
		changed := 0
		for i := range a {
			if len(a) == len(b) && a[i] != b[i] {
				changed++
				if parts := strings.SplitN(a[i], `"$value": `, 2); !strings.HasPrefix(b[i], parts[0]+`"$value": `) {
					t.Errorf("%s: before the value something changed:\n%s\n%s", tok.Path, a[i], b[i])
				}
			}
		}
		if len(a) != len(b) || changed != 1 {
			t.Errorf("%s: %d lines changed, of %d to %d", tok.Path, changed, len(a), len(b))
		}
		var v any
		if json.Unmarshal([]byte(after), &v) != nil {
			t.Fatalf("%s: no JSON any more", tok.Path)
		}
		write(t, dir, tok.File, before)
	}
}

// TestAnIndependentReadingTakesOurFiles has the token files we write checked by the types of a format library that is
// not ours: those of the demo, and every kind of token as taken back from CSS into an empty file.
func TestAnIndependentReadingTakesOurFiles(t *testing.T) {
	t.Parallel()
	node := needNode(t)
	from := everyKind(t)
	must(t, from, "tokens", "remove", "shadow.both") // a list with an alias in it, which that library does not know yet
	must(t, from, "tokens", "emit", "--as", "css", "-o", "all.css", "--quiet")
	dir := t.TempDir()
	write(t, dir, "archetyp.yaml", "name: Empty\nsources: [a.svg]\n")
	write(t, dir, "all.css", read(t, from, "all.css"))
	run(t, dir, "tokens", "absorb", "all.css", "--add", "--quiet")
	var list struct{ Tokens []struct{ Type string } }
	mustJSON(t, dir, &list, "tokens", "list")
	kinds := map[string]bool{}
	for _, tok := range list.Tokens {
		kinds[tok.Type] = true
	}
	if len(kinds) != 13 {
		t.Errorf("only %d of 13 types came through: %v", len(kinds), kinds)
	}
	for i, file := range []string{read(t, dir, "tokens/design.tokens.json"), read(t, demo(t), tokenFile),
		read(t, from, "tokens/base.tokens.json")} {
		ts := write(t, node, fmt.Sprintf("check%d.ts", i),
			"import type { JSONTokenTree } from 'design-tokens-format-module';\nexport const tokens: JSONTokenTree = "+file+";\n")
		defer os.Remove(ts)
		command(t, node, "node", filepath.Join(node, "node_modules", "typescript", "bin", "tsc"), "--strict", "--noEmit",
			"--skipLibCheck", "--target", "es2020", "--moduleResolution", "bundler", "--module", "es2020", filepath.Base(ts))
	}
}
