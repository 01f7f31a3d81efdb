package e2e

import (
	"bytes"
	"fmt"
	"image/png"
	"maps"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
)

func TestOutline(t *testing.T) {
	t.Parallel()
	dir := demoFiles(t)
	r := must(t, dir, "outline", "design/booking.svg")
	for _, want := range []string{"Booking  390 × 844 px, 55 elements", "pay  ", "358 × 56", "button tone=main size=wide",
		"“Skerry Point”", "(unnamed)", "asset icons/back"} {
		if !strings.Contains(r.out, want) {
			t.Errorf("no %q in\n%s", want, r.out)
		}
	}
	if r := must(t, dir, "outline", "design/booking.svg", "--depth", "1"); !strings.Contains(r.out, "inside)") ||
		strings.Contains(r.out, "Skerry") {
		t.Errorf("%s", r.out)
	}
	if r := must(t, dir, "outline", "timetable"); !strings.Contains(r.out, "hidden") || !strings.Contains(r.out,
		"→ Booking; on=click") {
		t.Errorf("%s", r.out)
	}
	var o struct {
		Source  string
		Screens []struct {
			Name     string
			Elements []struct {
				Name, Selector, Path string
				Line                 int
			}
		}
	}
	mustJSON(t, dir, &o, "outline", "design/components.svg")
	if o.Source != "design/components.svg" || o.Screens[0].Name != "Components" || len(o.Screens[0].Elements) < 8 ||
		o.Screens[0].Elements[0].Line == 0 {
		t.Errorf("%+v", o)
	}
}

func TestLongOutlinesFold(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	var b strings.Builder
	b.WriteString(`<svg xmlns="http://www.w3.org/2000/svg">`)
	for i := 0; i < 50; i++ {
		fmt.Fprintf(&b, `<g id="row%c%c">%s</g>`, 'a'+i/10, 'a'+i%10, strings.Repeat(`<rect width="1" height="1"/>`, 20))
	}
	b.WriteString(`</svg>`)
	write(t, dir, "long.svg", b.String())
	r := must(t, dir, "outline", "long.svg")
	if n := strings.Count(r.out, "\n"); n > 60 || !strings.Contains(r.out, "1000 elements folded; --depth 2") {
		t.Errorf("%d lines\n%s", n, r.out)
	}
	if r := must(t, dir, "outline", "long.svg", "--depth", "2"); strings.Count(r.out, "\n") < 1000 {
		t.Error("--depth 2 does not unfold")
	}
}

func TestSpec(t *testing.T) {
	t.Parallel()
	dir := demoFiles(t)
	r := must(t, dir, "spec", "design/booking.svg", "#pay")
	for _, want := range []string{"pay  group", `geometry box +16, 748  358 × 56 px +derived`,
		`shadow +0 4px 12px rgb\(11 110 143 / 0.32\) +derived +token shadow.button; filter #f3`,
		`fill +#0b6e8f +stated +token color.action.default; fill attribute`, `border-radius +12px +stated +token radius.l`, `design/booking.svg:68:1`} {
		if !regexp.MustCompile(want).MatchString(r.out) {
			t.Errorf("no %s in\n%s", want, r.out)
		}
	}
	var s struct{ Elements []element }
	mustJSON(t, dir, &s, "spec", "design/booking.svg", "#small-print")
	if len(s.Elements) != 1 || s.Elements[0].fact("line-height") != "20px" || s.Elements[0].fact("font-size") != "14px" ||
		s.Elements[0].Path != "booking/total/small-print" {
		t.Errorf("%+v", s)
	}
	many := must(t, dir, "spec", "design/components.svg", "text")
	if !strings.Contains(many.out, "--verbose shows all facts of each") {
		t.Error("many matches are not folded")
	}
}

func TestSpecOutsideAWorkspace(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	write(t, dir, "a.svg", `<svg xmlns="http://www.w3.org/2000/svg"><rect id="x" width="9" height="9" fill="red"/></svg>`)
	if r := must(t, dir, "spec", "a.svg", "#x"); !strings.Contains(r.out, "#ff0000") {
		t.Errorf("%s", r.out)
	}
	if r := must(t, "/", "code", filepath.Join(dir, "a.svg"), "#x"); !strings.Contains(r.out, "background: #ff0000;") {
		t.Errorf("%s", r.out)
	}
}

func TestCode(t *testing.T) {
	t.Parallel()
	r := must(t, demoFiles(t), "code", "design/components.svg", "[data-component=button]")
	for _, want := range []string{".button.main {", ".button.quiet:hover {", "background: var(--color-action-hover);",
		"font: var(--type-body-strong);", "border: 2px solid var(--color-action-default);"} {
		if !strings.Contains(r.out, want) {
			t.Errorf("no %q in\n%s", want, r.out)
		}
	}
	if strings.Contains(r.out, "position") || strings.Contains(r.out, "left:") {
		t.Error("positions nobody asked for")
	}
}

// TestCodeByTheLine takes of an element's code what is asked for, in the unit and under the selector asked for.
func TestCodeByTheLine(t *testing.T) {
	t.Parallel()
	dir := demoFiles(t)
	for _, c := range []struct{ args, want string }{
		{"booking #pay --lines shadow,colour",
			"background: var(--color-action-default);\nbox-shadow: var(--shadow-button);\ncolor: var(--color-text-inverse);\n"},
		{"booking #top-bar --value background", "var(--gradient-bar)\n"}, // at 105.48 degrees
		{"booking #pay --value box-shadow --raw", "0 4px 12px rgb(11 110 143 / 0.32)\n"},
		{"booking #pay --value box-shadow --raw --unit rem --root 10", "0 0.4rem 1.2rem rgb(11 110 143 / 0.32)\n"},
		{"booking #pay --only corners --selector pay --raw", ".pay {\n  border-radius: 12px;\n}\n"},
		{"booking #pay --only corners --form fragment",
			"[class*=\"button\"][class*=\"main\"][class*=\"wide\"] {\n  border-radius: var(--radius-l);\n}\n"},
		{"booking #pay #adults --only shadow", ".button.main.wide {\n  box-shadow: var(--shadow-button);\n}\n"},
		{"booking #adults --only shadow", ""},
	} {
		if got := must(t, dir, append([]string{"code"}, strings.Fields(c.args)...)...).out; got != c.want {
			t.Errorf("code %s:\n%s\nwant\n%s", c.args, got, c.want)
		}
	}
	for args, want := range map[string]string{
		"booking #pay --only colours":            "The groups are size, layout, text, colour",
		"booking #pay --only text --except size": "Say the groups to write, or the groups to leave out.",
		"booking #pay --lines text --only size":  "Leave out --only and --except.",
		"booking #pay #adults --selector x":      "2 unlike elements cannot all be called .x",
		"booking #pay --selector a{":             "neither a name nor one CSS selector",
		"booking #pay --unit dp":                 "Choose px, rem or pt.",
		"booking #pay --value fill":              "It has min-height, display",
		"booking #pay --form id":                 "Choose class or fragment.",
	} {
		r := run(t, dir, append([]string{"code"}, strings.Fields(args)...)...)
		if r.status != 2 || !strings.Contains(r.err, want) || r.out != "" {
			t.Errorf("code %s: %d, %s%s", args, r.status, r.out, r.err)
		}
	}
}

func TestRender(t *testing.T) {
	t.Parallel()
	dir := demoFiles(t)
	out := filepath.Join(t.TempDir(), "a.png")
	for _, c := range []struct {
		args []string
		w, h int
	}{
		{[]string{"design/booking.svg"}, 390, 844},
		{[]string{"design/booking.svg", "--at", "2"}, 780, 1688},
		{[]string{"design/booking.svg", "#pay"}, 382, 84},
		{[]string{"components", "#icon-anchor", "--at", "3"}, 36 * 3, 41 * 3},
		{[]string{"timetable", "--background", "white", "--at", "0.5"}, 195, 422},
	} {
		must(t, dir, append(append([]string{"render"}, c.args...), "-o", out)...)
		img := decode(t, []byte(read(t, out)))
		if b := img.Bounds(); b.Dx() != c.w || b.Dy() != c.h {
			t.Errorf("%v: %d × %d, want %d × %d", c.args, b.Dx(), b.Dy(), c.w, c.h)
		}
	}
	if r := must(t, dir, "render", "timetable", "-o", "-"); r.err != "" && strings.Contains(r.err, "pixels") {
		t.Errorf("%s", r.err)
	} else if _, err := png.Decode(bytes.NewReader([]byte(r.out))); err != nil {
		t.Errorf("to stdout: %v", err)
	}
}

// TestBadInput holds that each fault gets one clear error with its place and status 2, and that nothing is written.
func TestBadInput(t *testing.T) {
	t.Parallel()
	svg := func(s string) string {
		return `<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9">` + s + `</svg>`
	}
	bomb := `<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaaaaaaaaaaaa">`
	for i := 0; i < 9; i++ {
		bomb += fmt.Sprintf(`<!ENTITY %c "%s">`, 'b'+i, strings.Repeat(fmt.Sprintf("&%c;", 'a'+i), 10))
	}
	files := map[string]string{
		"good.svg":                 svg(`<rect id="x" width="1" height="1"/>`),
		"cut.svg":                  "<svg xmlns=\"http://www.w3.org/2000/svg\">\n  <g>\n    <rect wid",
		"html.svg":                 "<html><body/></html>",
		"words.svg":                "hello",
		"bomb.svg":                 bomb + "]>" + svg("<text>&j;</text>"),
		"utf.svg":                  svg("\xff\xfe\xfd"),
		"ws/archetyp.yaml":         "name: x\nsauces: [a.svg]\n",
		"ws/a.svg":                 svg(""),
		"key/archetyp.yaml":        "text:\n  keys: \"{nonsense}\"\n",
		"key/a.svg":                svg(`<text y="9">words</text>`),
		"tok/archetyp.yaml":        "name: x\n",
		"tok/a.svg":                svg(""),
		"tok/tokens/a.tokens.json": "{\n  \"a\": {\"$type\": \"color\", \"$value\": \"{none}\"}\n}",
		"two/archetyp.yaml":        "sources: ['*.svg']\n",
		"two/a.svg":                "<svg",
		"two/b.svg":                "<b/>",
		"font/archetyp.yaml":       "fonts: [f/]\n",
		"font/a.svg":               svg(""),
		"font/f/x.ttf":             "no font",
		"none/archetyp.yaml":       "sources: [x/*.svg]\n",
		"empty/readme.txt":         "nothing here",
	}
	dir := t.TempDir()
	for name, data := range files {
		write(t, dir, name, data)
	}
	bigDir := t.TempDir()
	big, err := os.Create(filepath.Join(bigDir, "big.svg"))
	if err != nil {
		t.Fatal(err)
	}
	if err := big.Truncate(200 << 20); err != nil {
		t.Fatal(err)
	}
	big.Close()
	for _, c := range []struct {
		args string
		want string
	}{
		{"outline none.svg", "none.svg: there is no such file"},
		{"outline empty", "empty: this is a folder"},
		{"outline cut.svg", "cut.svg:3:11: "},
		{"outline html.svg", "html.svg:1:1: the root element is <html>"},
		{"outline words.svg", "words.svg:1:1: text outside"},
		{"outline bomb.svg", "bomb.svg:1:"},
		{"outline utf.svg", "utf.svg:1:62: not valid UTF-8"},
		{"-C " + bigDir + " outline big.svg", "big.svg: 200 MB; files over 128 MB are not read"},
		{"spec good.svg #y", "good.svg: nothing matches the selector #y"},
		{"spec good.svg g[", "selector:1:3: "},
		{"code good.svg", "needs a SOURCE and a SELECTOR"},
		{"code good.svg #x --as cobol", `--as "cobol" is not known`},
		{"render good.svg", "needs -o"},
		{"render good.svg -o x.bmp", "only PNG"},
		{"render good.svg -o x.png --at 0", "--at 0"},
		{"render good.svg -o x.png --at -1", "--at -1"},
		{"render good.svg -o x.png --at nan", "--at"},
		{"render good.svg -o x.png --background bluish", "--background"},
		{"render good.svg #none -o x.png", "nothing matches"},
		{"render cut.svg -o x.png", "cut.svg:3:11"},
		{"outline good.svg --nonsense", "unknown flag"},
		{"nonsense", "is no command of archetyp"},
		{"outline good.svg --color pink", `--color "pink"`},
		{"-C nowhere outline good.svg", "there is no such folder"},
		{"sync", "there is no workspace here"},
		{"-C ws sync", `archetyp.yaml:2:1: the key "sauces" is not known`},
		{"-C ws outline a.svg", `:2:1: the key "sauces" is not known`},
		{"-C key sync", "{nonsense}"},
		{"-C tok sync", "tokens/a.tokens.json:2:37: a: there is no token {none}"},
		{"-C two sync", "a.svg:1:5: "},
		{"-C font sync", "f/x.ttf: not a usable font"},
		{"-C none sync", "no source matches"},
		{"init empty", "no SVG drawings"},
		{"init nowhere", "there is no such folder"},
		{"text export --as rtf", `--as "rtf"`},
		{"tokens harvest good.svg --write", "no workspace"},
		{"tokens emit --as cobol", `--as "cobol"`},
	} {
		before := tree(t, dir)
		r := run(t, dir, strings.Fields(c.args)...)
		if r.status != 2 || !strings.Contains(r.err, c.want) || !strings.HasPrefix(r.err, "error ") {
			t.Errorf("%s: status %d, want 2 and %q:\n%s%s", c.args, r.status, c.want, r.out, r.err)
		}
		if r.out != "" {
			t.Errorf("%s: an error, and yet on stdout: %s", c.args, r.out)
		}
		if strings.Contains(r.err, "goroutine") || strings.Count(r.err, "\n") > 4 {
			t.Errorf("%s: not one clear error:\n%s", c.args, r.err)
		}
		if after := tree(t, dir); len(after) != len(before) {
			t.Errorf("%s: something was written", c.args)
		}
	}
	if r := run(t, dir, "-C", "two", "sync"); !strings.Contains(r.err, "b.svg:1:1") {
		t.Errorf("the second drawing's fault is not told: %s", r.err)
	}
}

func TestWarningsLetWorkGoOn(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	write(t, dir, "a.svg", `<svg xmlns="http://www.w3.org/2000/svg" width="90" height="90"><g id="a"><use href="#a"/></g>
<text y="20" font-family="No Such Font At All">a</text><image href="none.png" width="5" height="5"/></svg>`)
	r := run(t, dir, "render", "a.svg", "-o", "a.png")
	if r.status != 0 || !strings.Contains(r.err, "a.svg:1:74: <use> of #a holds itself") || !strings.Contains(r.err,
		`a.svg:2:1: the font family "No Such Font At All" is missing`) || !strings.Contains(r.err, "none.png was not read") {
		t.Errorf("status %d\n%s", r.status, r.err)
	}
	if q := run(t, dir, "render", "a.svg", "-o", "a.png", "--quiet"); q.err != "" {
		t.Errorf("--quiet says %s", q.err)
	}
}

func TestReadOnlyFolder(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	if err := openFor(dir); err != nil {
		t.Fatal(err)
	}
	if err := os.Chmod(filepath.Join(dir, "guide"), 0o555); err != nil {
		t.Fatal(err)
	}
	defer os.Chmod(filepath.Join(dir, "guide"), 0o755)
	edit(t, filepath.Join(dir, "design", "booking.svg"), "Breakfast</tspan>", "Supper</tspan>")
	before := tree(t, dir)
	r := asNobody(t, dir, "sync")
	if r.status != 2 || !strings.Contains(r.err, "Nothing was changed") {
		t.Errorf("status %d, %s", r.status, r.err)
	}
	if after := tree(t, dir); !maps.Equal(after, before) {
		t.Errorf("%d files before, %d after", len(before), len(after))
	}
}

// TestHelp holds that every command's help has a sentence, an example and the exit statuses.
func TestHelp(t *testing.T) {
	t.Parallel()
	var walk func(path []string)
	n := 0
	walk = func(path []string) {
		r := must(t, t.TempDir(), append(path, "--help")...)
		n++
		if !strings.Contains(r.out, "Exit status") {
			t.Errorf("%v: no exit statuses", path)
		}
		if len(path) > 0 && !strings.Contains(r.out, "Examples:\n  archetyp "+path[0]) {
			t.Errorf("%v: no example of its own:\n%s", path, r.out)
		}
		_, list, ok := strings.Cut(r.out, "Available Commands:\n")
		if !ok {
			return
		}
		for _, line := range strings.Split(list, "\n") {
			if line == "" {
				break
			}
			if name := strings.Fields(line)[0]; name != "completion" {
				walk(append(path[:len(path):len(path)], name))
			}
		}
	}
	walk(nil)
	if n < 18 {
		t.Errorf("only %d commands", n)
	}
}

func TestColourOnlyWhenAsked(t *testing.T) {
	t.Parallel()
	dir := demoFiles(t)
	if r := must(t, dir, "spec", "booking", "#pay", "--color", "always"); !strings.Contains(r.out, "\x1b[") {
		t.Error("--color always has none")
	}
	if r := must(t, dir, "spec", "booking", "#pay"); strings.Contains(r.out, "\x1b[") {
		t.Error("colour without a terminal")
	}
}

// TestMistakesGetSuggestions misspells commands, flags and names, and expects the nearest one in the error.
func TestMistakesGetSuggestions(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	for _, c := range []struct{ args, msg, hint string }{
		{"tokns", `"tokns" is no command of archetyp`, `"tokens"`},
		{"tokens lst", `"lst" is no command of archetyp tokens`, `"list"`},
		{"text frobnicate", `"frobnicate" is no command of archetyp text`, "collect"},
		{"outline booking extra", `outline needs a SOURCE; "extra" is one argument too many`, "For example"},
		{"outline booking --detph 2", "unknown flag: --detph", "--depth"},
		{"spec booking #adults --root 0", "--root 0", ""},
		{"tokens list nothing", `there is no token "nothing"`, ""},
		{"tokens list color.see", `there is no token "color.see"`, "color.sea"},
		{"tokens where color.sea.600 --in nowhere", "--in nowhere: there is no such folder", ""},
		{"tokens check --in nowhere", "--in nowhere: there is no such folder", ""},
		{"tokens rename color.sea color.water --in nowhere", "--in nowhere: there is no such folder", ""},
		{"text rename booking.bicycle bike --in nowhere", "--in nowhere: there is no such folder", ""},
	} {
		r := run(t, dir, strings.Fields(c.args)...)
		if r.status != 2 || !strings.Contains(r.err, c.msg) || !strings.Contains(r.err, c.hint) {
			t.Errorf("%s: status %d\n%s", c.args, r.status, r.err)
		}
	}
}

// TestNearestIsNear names the nearest token only where people would call it near, with the unit of the difference.
func TestNearestIsNear(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	write(t, dir, "archetyp.yaml", "sources: [a.svg]\n")
	write(t, dir, "tokens/a.tokens.json", `{"sea": {"$type": "color", "$value": "#0b6e8f"}}`)
	write(t, dir, "a.svg",
		`<svg xmlns="http://www.w3.org/2000/svg" width="30" height="10"><rect width="10" height="10" fill="#0b6e8f"/><rect x="10" width="10" height="10" fill="#0d7295"/><rect x="20" width="10" height="10" fill="#ff8800"/></svg>`)
	r := must(t, dir, "sample", "a.svg", "5,5", "15,5", "25,5")
	if strings.Count(r.out, "sea") != 2 || !strings.Contains(r.out, "ΔEOK") {
		t.Errorf("%s", r.out)
	}
}

// TestOddValuesFindTheirTokens has spec and code name the token of a gradient at an odd angle and of a shadow of two
// layers.
func TestOddValuesFindTheirTokens(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	write(t, dir, "archetyp.yaml", "sources: [a.svg]\n")
	write(t, dir, "a.svg", `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="200"><linearGradient id="g" x1="0.11" y1="0.13" x2="0.87" y2="0.91"><stop stop-color="#0b4a63"/><stop offset="0.37" stop-color="#0b6e8f"/><stop offset="1" stop-color="#3d9bb3"/></linearGradient>
		<rect id="bar" width="137" height="61" fill="url(#g)"/><rect id="bar2" x="150" width="137" height="61" fill="url(#g)"/>
		<filter id="s" x="-1" y="-1" width="3" height="3"><feGaussianBlur in="SourceAlpha" stdDeviation="1"/><feOffset dy="1" result="b1"/><feFlood flood-opacity="0.3"/><feComposite in2="b1" operator="in" result="s1"/><feGaussianBlur in="SourceAlpha" stdDeviation="6"/><feOffset dy="6" result="b2"/><feFlood flood-opacity="0.1"/><feComposite in2="b2" operator="in" result="s2"/><feMerge><feMergeNode in="s2"/><feMergeNode in="s1"/><feMergeNode in="SourceGraphic"/></feMerge></filter>
		<rect id="two" x="120" y="80" width="90" height="60" fill="#ffffff" filter="url(#s)"/><rect id="twice" x="210" y="150" width="40" height="40" fill="#ffffff" filter="url(#s)"/></svg>`)
	must(t, dir, "tokens", "harvest", "--write")
	for selector, group := range map[string]string{"#bar": "gradient.", "#two": "shadow."} {
		spec, code := must(t, dir, "spec", "a.svg", selector).out, must(t, dir, "code", "a.svg", selector).out
		if !strings.Contains(spec, group) || !strings.Contains(code, "var(--"+strings.TrimSuffix(group, ".")+"-") {
			t.Errorf("%s:\n%s\n%s", selector, spec, code)
		}
	}
}
