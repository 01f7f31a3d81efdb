package e2e

import (
	"context"
	"fmt"
	"io/fs"
	"path/filepath"
	"regexp"
	"slices"
	"sort"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
)

// foreign lists files of installed packages by a pattern of their names, in name order.
func foreign(t testing.TB, node, pattern string) []string {
	t.Helper()
	var out []string
	err := filepath.WalkDir(filepath.Join(node, "node_modules"), func(p string, d fs.DirEntry, err error) error {
		if err == nil && !d.IsDir() {
			if ok, _ := filepath.Match(pattern, d.Name()); ok {
				out = append(out, p)
			}
		}
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
	sort.Strings(out)
	return out
}

var property = regexp.MustCompile(`(?m)(--[A-Za-z0-9_-]+)\s*:`)

// TestPropertiesOfDesignSystemsComputeToTheirTokens takes the custom properties of installed packages into tokens,
// writes CSS from those, and holds every property against the package's own in Chromium, in light and in dark.
func TestPropertiesOfDesignSystemsComputeToTheirTokens(t *testing.T) {
	t.Parallel()
	node := needNode(t)
	ctx := chromium(t)
	type sheet struct {
		path, text string
		n          int
	}
	best := map[string]sheet{} // the one with the most properties of each package
	for _, p := range foreign(t, node, "*.css") {
		data := read(t, p)
		n := len(property.FindAllString(data, -1))
		rel, _ := filepath.Rel(filepath.Join(node, "node_modules"), p)
		parts := strings.Split(filepath.ToSlash(rel), "/")
		pack := parts[0]
		if strings.HasPrefix(pack, "@") {
			pack += "/" + parts[1]
		}
		if slices.ContainsFunc(frameworks, func(f string) bool { return strings.HasPrefix(f, pack+"/") }) {
			continue // of those every property is held against the browser in TestPropertiesOfFrameworksComputeTheSame
		}
		if n >= 100 && n > best[pack].n && !strings.Contains(p, ".min.") && len(data) < 2<<20 {
			best[pack] = sheet{p, data, n}
		}
	}
	var packs []string
	for p := range best {
		packs = append(packs, p)
	}
	sort.Strings(packs)
	if len(packs) < 3 {
		t.Fatalf("only %d packages with custom properties in %s", len(packs), node)
	}
	large, inTheDark := 0, 0
	for _, p := range packs {
		t.Run(p, func(t *testing.T) {
			taken, darks := roundTrip(t, ctx, best[p].text)
			if taken >= 100 {
				large++
			}
			inTheDark += darks
		})
	}
	if large < 3 || inTheDark < 100 {
		t.Errorf("%d packages gave a hundred tokens or more, and %d values are for the dark", large, inTheDark)
	}

}

var easing = regexp.MustCompile(`: (ease|linear)[a-z-]*$`)

var block = regexp.MustCompile(`([^{}]+)\{([^{}]*)\}`)

// sides are the selectors under which a sheet says most, and most for the dark.
func sides(sheet string) (base, dark string) {
	most, mostDark := 0, 0
	for _, m := range block.FindAllStringSubmatch(regexp.MustCompile(`(?s)/\*.*?\*/`).ReplaceAllString(sheet, ""), -1) {
		selector := strings.Join(strings.Fields(m[1]), " ")
		if i := strings.LastIndexByte(selector, ';'); i >= 0 {
			selector = strings.TrimSpace(selector[i+1:])
		}
		n := strings.Count(m[2], "--")
		switch isDark := strings.Contains(selector, "dark") && !strings.Contains(selector, ":root"); {
		case isDark && n > mostDark:
			dark, mostDark = selector, n
		case !isDark && n > most:
			base, most = selector, n
		}
	}
	return base, dark
}

func roundTrip(t *testing.T, ctx context.Context, sheet string) (taken, darks int) {
	dir := t.TempDir()
	base, dark := sides(sheet)
	if base == "" {
		base, dark = dark, ""
	}
	config := "name: Foreign\nsources: [a.svg]\ntokens: {resolver: t.resolver.json}\n"
	if dark != "" {
		config += fmt.Sprintf("contexts: {scheme.dark: [%q, '.in-the-dark']}\n", dark)
	}
	write(t, dir, "archetyp.yaml", config)
	write(t, dir, "t.resolver.json",
		`{"version": "2025.10", "modifiers": {"scheme": {"contexts": {"light": [], "dark": [{"$ref": "dark.tokens.json"}]}, "default": "light"}}, "resolutionOrder": [{"type": "set", "name": "b", "sources": [{"$ref": "base.tokens.json"}]}, {"$ref": "#/modifiers/scheme"}]}`)
	write(t, dir, "base.tokens.json", "{}\n")
	write(t, dir, "dark.tokens.json", "{}\n")
	sheet = regexp.MustCompile(`(?s)/\*.*?\*/`).ReplaceAllString(sheet, "")
	args := []string{"tokens", "absorb", "foreign.css", "--add", "--json", "--quiet"}
	if !strings.Contains(base, ":root") && !strings.Contains(base, "html") {
		args = append(args, "--where", base)
	}
	write(t, dir, "foreign.css", sheet)
	var res struct {
		Files []struct {
			Done, Open []struct{ Name, Context string }
			Left       []struct{ Name, Why string }
		}
	}
	r := run(t, dir, args...)
	unmarshal(t, r.out, &res)
	if r.status == 2 || len(res.Files) != 1 {
		t.Fatalf("status %d: %s", r.status, r.err)
	}
	must(t, dir, "tokens", "emit", "--as", "css", "-o", "ours.css", "--quiet")
	for from, to := range map[string]string{base: ":root", dark: ".in-the-dark"} { // reached alike in both
		if from != "" && !strings.Contains(from, ":root") {
			sheet = regexp.MustCompile(strings.ReplaceAll(regexp.QuoteMeta(from), " ", `\s+`)+`\s*\{`).ReplaceAllString(sheet,
				to+" {")
		}
	}
	page := write(t, dir, "page.html",
		"<!doctype html><style>"+sheet+"</style><body style=\"color: rgb(1, 2, 3); border-color: rgb(4, 5, 6)\">")
	ours := write(t, dir, "ours.html", "<!doctype html><style>"+read(t, dir,
		"ours.css")+"</style><body style=\"color: rgb(1, 2, 3); border-color: rgb(4, 5, 6)\">")
	names := map[string]bool{}
	inDark := map[string]bool{}
	for _, e := range res.Files[0].Done {
		names[e.Name] = true
		if e.Context != "" {
			inDark[e.Name] = true
		}
	}
	left := map[string]bool{}
	for _, l := range res.Files[0].Left {
		left[l.Name] = true
	}
	list := []string{}
	for n := range names {
		if !left[n] && strings.HasPrefix(n, "--") {
			list = append(list, n)
		}
	}
	sort.Strings(list)
	wrong, checked := 0, 0
	for _, scheme := range []string{"in-the-light", "in-the-dark"} {
		values := [2]map[string]string{}
		for i, file := range []string{page, ours} {
			if err := chromedp.Do(ctx, chromedp.Func(func(c context.Context, target *chromedp.Target) error {
				_, err := cdp.Call(c, target, emulation.SetEmulatedMedia,
					emulation.SetEmulatedMediaParams{Features: []*emulation.MediaFeature{{Name: "prefers-color-scheme",
						Value: "light"}}})
				return err
			})); err != nil {
				t.Fatal(err)
			}
			open(t, ctx, file, 1000, 600, 1)
			got, err := chromedp.Run(ctx, chromedp.Evaluate[map[string]string](computedScript(t, list, scheme)))
			if err != nil {
				t.Fatal(err)
			}
			values[i] = got
		}
		for _, n := range list {
			if scheme == "in-the-dark" && !inDark[n] && values[0][n] != values[1][n] {
				continue // depends on a rule of the package that holds nowhere here
			}
			checked++
			if inDark[n] && scheme == "in-the-dark" {
				darks++
			}
			if easing.MatchString(values[0][n]) { // a word for a curve, which is told by its numbers
				continue
			}
			if values[0][n] != values[1][n] {
				if wrong++; wrong <= 10 {
					t.Errorf("%s %s: %q in the package, %q from its token", scheme, n, values[0][n], values[1][n])
				}
			}
		}
	}
	t.Logf("%s | %s: %d properties, %d taken, %d left; %d values held, %d of them in the dark; %d wrong", base, dark,
		len(names)+len(left), len(list), len(left), checked, darks, wrong)
	return len(list), darks
}

// computedScript reads what properties compute to, through a property that takes their value.
func computedScript(t testing.TB, names []string, class string) string {
	return fmt.Sprintf(`(() => {
		document.documentElement.className = %q;
		const out = {};
		const props = ['color', 'font', 'boxShadow', 'backgroundImage', 'border', 'transition', 'width', 'marginLeft', 'transitionTimingFunction', 'transitionDuration', 'borderTopStyle', 'lineHeight', 'zIndex', 'fontFamily'];
		const plain = document.createElement('div');
		document.body.append(plain);
		const base = {};
		for (const p of props) base[p] = getComputedStyle(plain)[p];
		for (const n of %s) {
			const el = document.createElement('div');
			document.body.append(el);
			out[n] = 'nothing takes ' + getComputedStyle(el).getPropertyValue(n).replace(/\s+/g, ' ').replace(/['"]/g, '').replace(/\b0px\b/g, '0').trim();
			for (const p of props) {
				el.style[p] = 'var(' + n + ')';
				const v = getComputedStyle(el)[p];
				el.style[p] = '';
				if (v !== base[p]) { out[n] = p + ': ' + v; break; }
			}
			el.remove();
		}
		return out;
	})()`, class, jsonText(t, names))
}

// TestForeignTokenFilesAreReadOrRefusedPrecisely runs every token and resolver file of installed packages through the
// check: no crash, and every fault has a place.
func TestForeignTokenFilesAreReadOrRefusedPrecisely(t *testing.T) {
	t.Parallel()
	node := needNode(t)
	n, whole := 0, 0
	for _, p := range append(foreign(t, node, "*token*.json"), foreign(t, node, "*.resolver.json")...) {
		data := read(t, p)
		if !strings.Contains(data, `"$value"`) && !strings.Contains(data, `"resolutionOrder"`) {
			continue
		}
		dir := t.TempDir()
		if strings.HasSuffix(p, ".resolver.json") {
			write(t, dir, "archetyp.yaml", "name: Foreign\nsources: [a.svg]\ntokens: {resolver: r.resolver.json}\n")
			write(t, dir, "r.resolver.json", data)
		} else {
			write(t, dir, "archetyp.yaml", "name: Foreign\nsources: [a.svg]\n")
			write(t, dir, "tokens/f.tokens.json", data)
		}
		r := run(t, dir, "tokens", "check", "--only", "valid", "--json", "--quiet")
		var res struct {
			Findings []struct {
				Message, File string
				Line, Column  int
			}
		}
		if r.status > 1 {
			t.Errorf("%s: status %d %s", p, r.status, r.err)
			continue
		}
		unmarshal(t, r.out, &res)
		n++
		if len(res.Findings) == 0 {
			whole++
		}
		for _, f := range res.Findings {
			if f.Line < 1 || f.Column < 1 || f.Message == "" {
				t.Errorf("%s: a fault without a place: %+v", p, f)
			}
		}
	}
	t.Logf("%d files, %d of them without a fault", n, whole)
	if n == 0 {
		t.Error("there is no token file")
	}
}
