package e2e

import (
	"image/color"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"archetyp/core/diff"

	"github.com/evanw/esbuild/pkg/api"
)

// TestAppLanguagesOfPages holds the code for apps against grammars of Swift and Kotlin: its syntax, no more.
func TestAppLanguagesOfPages(t *testing.T) {
	t.Parallel()
	node := needNode(t)
	dir, sources := pageSources(t)
	out := t.TempDir()
	var files []string
	for _, s := range sources {
		for as, end := range map[string]string{"swift": ".swift", "kotlin": ".kt"} {
			file := filepath.Join(out, s+end)
			must(t, dir, "code", s, "--as", as, "-o", file, "--quiet")
			files = append(files, file)
		}
	}
	if faults := syntaxFaults(t, node, files); faults != "" {
		t.Errorf("no Swift or Kotlin: %s", faults)
	}
}

// TestComponentsCompile has the TypeScript compiler read components as strictly as it can.
func TestComponentsCompile(t *testing.T) {
	t.Parallel()
	node := needNode(t)
	dir, sources := pageSources(t)
	out := t.TempDir()
	if err := os.Symlink(filepath.Join(node, "node_modules"), filepath.Join(out, "node_modules")); err != nil {
		t.Fatal(err)
	}
	args := []string{filepath.Join(node, "node_modules/typescript/bin/tsc"), "--noEmit", "--strict", "--jsx", "react-jsx",
		"--target", "es2020", "--module", "es2020", "--moduleResolution", "bundler", "--skipLibCheck",
		"--noUncheckedSideEffectImports", "false"}
	for _, s := range sources {
		text := must(t, dir, "code", s, "--as", "jsx", "--drawn", "--quiet").out
		args = append(args, write(t, out, s+".tsx", text))
	}
	command(t, out, "node", args...)
}

// TestComponentsLookLikePages renders components and pages of the same screens and compares the pictures.
func TestComponentsLookLikePages(t *testing.T) {
	t.Parallel()
	b := openBrowser(t)
	dir, sources := pageSources(t)
	for _, s := range sources {
		page, part := filepath.Join(t.TempDir(), "page"), filepath.Join(t.TempDir(), "part")
		must(t, dir, "code", s, "--as", "html", "--drawn", "-o", page, "--quiet")
		must(t, dir, "code", s, "--as", "jsx", "--drawn", "-o", part, "--quiet")
		found, err := filepath.Glob(filepath.Join(part, "*.jsx"))
		if err != nil || len(found) != 1 {
			t.Fatal(err, found)
		}
		name := strings.TrimSuffix(filepath.Base(found[0]), ".jsx")
		text := strings.Replace(read(t, part, name+".jsx"), `import "./style.css";`, "", 1)
		built := api.Transform(text, api.TransformOptions{Loader: api.LoaderJSX, JSX: api.JSXTransform, JSXFactory: "h",
			JSXFragment: "null", Format: api.FormatIIFE, GlobalName: "part"})
		if len(built.Errors) > 0 {
			t.Fatal(s, built.Errors)
		}
		write(t, part, "index.html", `<!doctype html><meta charset=utf-8><link rel=stylesheet href=style.css><body><script>
const names = {className: 'class', htmlFor: 'for', defaultChecked: 'checked', defaultValue: 'value'};
function h(type, props, ...kids) {
  const e = type ? document.createElement(type) : document.createDocumentFragment();
  for (const [k, v] of Object.entries(props || {})) if (type == 'textarea' && k == 'defaultValue') e.textContent = v; else e.setAttribute(names[k] || k, v === true ? '' : v);
  e.append(...kids.flat()); return e;
}
`+string(built.Code)+`
document.body.append(part.`+name+`());</script>`)
		var shots [2]string
		for i, p := range []string{page, part} {
			shots[i] = "file://" + filepath.Join(p, "index.html")
		}
		if err := b.Show(shots[0], 1280, 900, 1); err != nil {
			t.Fatal(err)
		}
		first, err := b.Picture()
		if err != nil {
			t.Fatal(err)
		}
		if err := b.Show(shots[1], 1280, 900, 1); err != nil {
			t.Fatal(err)
		}
		second, err := b.Picture()
		if err != nil {
			t.Fatal(err)
		}
		if like, ok := diff.Likeness(first, second, first.Rect, color.RGBA{}, 0); !ok || like < 1 {
			t.Errorf("%s: %.2f %%", s, 100*like)
		}
	}
}
