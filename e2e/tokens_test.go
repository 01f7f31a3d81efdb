package e2e

import (
	"fmt"
	"path/filepath"
	"strings"
	"testing"
)

const tokenFile = "tokens/tern-and-tide.tokens.json"

func TestSetChangesOneValue(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	before := read(t, dir, tokenFile)
	r := must(t, dir, "tokens", "set", "color.sea.600", "#0a6a8a")
	if r.out != "~ color.sea.600  #0b6e8f → #0a6a8a  "+tokenFile+"\n" {
		t.Errorf("%s", r.out)
	}
	after := read(t, dir, tokenFile)
	if want := strings.Replace(before,
		`"600": {"$type": "color", "$value": {"colorSpace": "srgb", "components": [0.043137, 0.431373, 0.560784], "hex": "#0b6e8f"}}`,
		`"600": {"$type": "color", "$value": {"colorSpace": "srgb", "components": [0.039216, 0.415686, 0.541176], "hex": "#0a6a8a"}}`, 1); after != want {
		t.Errorf("the file is\n%s", after)
	}
	must(t, dir, "sync")
	if css := read(t, dir, "dist", "tokens.css"); !strings.Contains(css, "--color-sea-600: #0a6a8a;") {
		t.Error("the CSS does not follow")
	}
	if !strings.Contains(read(t, dir, "dist", "ios", "Tokens.swift"),
		"colorActionDefault = Color.scheme(light: Color(.sRGB, red: 0.03922, green: 0.41569, blue: 0.54118") {
		t.Error("Swift does not follow")
	}
	for _, c := range []struct{ args, file, want string }{
		{"tokens set color.sea.650 #095f7c --describe Between", tokenFile,
			`"650": {"$type": "color", "$value": {"colorSpace": "srgb", "components": [0.035294, 0.372549, 0.486275], "hex": "#095f7c"}, "$description": "Between"}`},
		{"tokens set color.text.hint {color.ink.600}", tokenFile, `"hint": {"$type": "color", "$value": "{color.ink.600}"`},
		{"tokens set color.text.hint {color.ink.200} --context scheme.dark", "tokens/dark.tokens.json",
			`"hint": {"$value": "{color.ink.200}"}`},
		{"tokens set color.coral.500 red --context scheme.dark", "tokens/dark.tokens.json",
			`"500": {"$type": "color", "$value": {"colorSpace": "srgb", "components": [1, 0, 0], "hex": "#ff0000"}}`},
		{"tokens set space.8 9px", tokenFile, `"8": {"$type": "dimension", "$value": {"value": 9, "unit": "px"}}`},
		{"tokens set time.quick 120ms", tokenFile, `"quick": {"$type": "duration", "$value": {"value": 120, "unit": "ms"}}`},
	} {
		must(t, dir, strings.Fields(c.args)...)
		if got := read(t, dir, c.file); !strings.Contains(got, c.want) {
			t.Errorf("%s: no %s in\n%s", c.args, c.want, got)
		}
	}
	must(t, dir, "sync")
}

func TestTokenEditsThatMakeNoSense(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	before := tree(t, dir)
	for _, c := range []struct {
		args string
		want string
	}{
		{"tokens set color.sea.600 bluish", `"bluish" is no colour`},
		{"tokens set color.sea.600 {color.see.600}", "there is no token {color.see.600}"},
		{"tokens set color.sea.600 {color.text.action}", "leads back to itself"},
		{"tokens set color.sea.600 {space.8}", "is a dimension"},
		{"tokens set color.sea.600.light red", "inside a token"},
		{"tokens set color red", "there is a token or group of this name already"},
		{"tokens set x red --context scheme.dim", "there are scheme.light, scheme.dark"},
		{"tokens set space.8 50%", "no length in px or rem"},
		{"tokens set .x red", "cannot be a token"},
		{"tokens rename color.sea.600 color.sea.700", "there is a token or group of this name already"},
		{"tokens rename color.see.600 x", `Did you mean "color.sea.600"?`},
		{"tokens rename color.sea color.text.default.sea", "would lie inside a token"},
		{"tokens remove color.ink.900", "is used: color.text.default"},
		{"tokens remove color.coral.500", "in the drawings"},
		{"tokens show color.sea.601", `Did you mean "color.sea.600"?`},
		{"tokens ramp space", "no colour"},
		{"tokens ramp color.sea --steps 9,3", "no list of steps"},
		{"tokens absorb nothing.css", "there is no such file"},
		{"tokens absorb dist/ios/Tokens.swift", "cannot be taken back"},
		{"tokens check --only colour", "is no rule"},
		{"tokens compare nonsense", "no revision"},
		{"tokens merge a b c", "there is no such file"},
		{"tokens emit --as cobol", "Known: css"},
		{"tokens emit --as template", "--template FILE"},
	} {
		r := run(t, dir, strings.Fields(c.args)...)
		if r.status != 2 || !strings.Contains(r.err, c.want) || strings.Count(r.err, "error") != 1 {
			t.Errorf("archetyp %s: status %d, %s\nwant …%s…", c.args, r.status, r.err, c.want)
		}
	}
	if after := tree(t, dir); len(after) != len(before) || after[tokenFile] != before[tokenFile] {
		t.Error("something was written")
	}
}

func TestRenameLeadsEverythingThere(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	write(t, dir, "src/button.css",
		".button { background: var(--color-sea-600); color: var(--color-sea-6000); border-color: var( --color-sea-700 ) }\n")
	write(t, dir, "src/Button.swift", "let c = Tokens.colorSea600\nlet d = Tokens.colorSea6000\n")
	write(t, dir, "src/names.ts", "export const n: TokenPath = \"color.sea.600\";\n")
	write(t, dir, "node_modules/x.css", "var(--color-sea-600)")
	w := must(t, dir, "tokens", "where", "color.sea.600", "--in", ".")
	for _, want := range []string{"Elements with this value", "color.action.default", "src/button.css:1:27",
		"src/Button.swift:1:16", "src/names.ts:1:30"} {
		if !strings.Contains(w.out, want) {
			t.Errorf("where does not say %s:\n%s", want, w.out)
		}
	}
	r := must(t, dir, "tokens", "rename", "color.sea", "color.water.blue", "--in", "src")
	if !strings.Contains(r.out, "7 tokens, 4 aliases led there") {
		t.Errorf("%s", r.out)
	}
	if got := read(t, dir,
		"src/button.css"); got != ".button { background: var(--color-water-blue-600); color: var(--color-sea-6000); "+
		"border-color: var( --color-water-blue-700 ) }\n" {
		t.Error(got)
	}
	if got := read(t, dir, "src/Button.swift"); !strings.HasPrefix(got, "let c = Tokens.colorWaterBlue600\n") {
		t.Error(got)
	}
	if got := read(t, dir, "src/names.ts"); !strings.Contains(got, `"color.water.blue.600"`) {
		t.Error(got)
	}
	if read(t, dir, "node_modules/x.css") != "var(--color-sea-600)" {
		t.Error("an installed package was changed")
	}
	must(t, dir, "sync")
	c := run(t, dir, "tokens", "check", "--only", "valid")
	if c.status != 0 {
		t.Errorf("%s%s", c.out, c.err)
	}
	must(t, dir, "tokens", "rename", "color.foam", "color.mist")
	if got := read(t, dir, tokenFile); !strings.Contains(got, `"mist": {"$type"`) || !strings.Contains(got,
		`"{color.mist}"`) || strings.Contains(got, "foam") {
		t.Error("foam is still there")
	}
}

// TestEditsOfTheCSSComeBack walks the whole way: edit the generated file, take it back, sync, and nothing is left to
// do.
func TestEditsOfTheCSSComeBack(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	css := filepath.Join(dir, "dist", "tokens.css")
	edit(t, css, "--color-sea-700: #085570", "--color-sea-700: #095873")
	edit(t, css, "--color-action-hover: var(--color-sea-700)", "--color-action-hover: var(--color-sea-750)")
	edit(t, css, "  --space-16: 1rem;", "  --space-12: 0.75rem;\n  --space-16: 1rem;")
	edit(t, css, "  --radius-xl: 1rem;\n", "")
	if r := run(t, dir, "sync"); r.status != 2 || !strings.Contains(r.err, `"archetyp tokens absorb dist/tokens.css"`) {
		t.Errorf("status %d %s", r.status, r.err)
	}
	before := read(t, dir, tokenFile)
	dry := must(t, dir, "tokens", "absorb", "dist/tokens.css", "--dry-run")
	if read(t, dir, tokenFile) != before {
		t.Error("--dry-run wrote")
	}
	for _, want := range []string{"~ color.sea.700  #085570 → #095873",
		"~ color.action.hover  var(--color-sea-700) → var(--color-sea-750)", "could be the token space.12", "gone --radius-xl"} {
		if !strings.Contains(dry.out, want) {
			t.Errorf("nobody says %s:\n%s", want, dry.out)
		}
	}
	must(t, dir, "tokens", "absorb", "dist/tokens.css", "--add", "--remove=radius.*")
	got := read(t, dir, tokenFile)
	if !strings.Contains(got, `"hover": {"$type": "color", "$value": "{color.sea.750}"`) || !strings.Contains(got,
		`"12": {"$type": "dimension", "$value": {"value": 12, "unit": "px"}}`) || strings.Contains(got, `"xl"`) {
		t.Errorf("%s", got)
	}
	must(t, dir, "sync")
	if out := must(t, dir, "sync", "--check").out; !strings.Contains(out, "in step") {
		t.Error(out)
	}
	if !strings.Contains(read(t, css), "--space-12: 0.75rem;") || !strings.Contains(read(t, dir, "dist", "tokens.scss"),
		"$color-sea-700: #095873;") {
		t.Error("the outputs do not follow")
	}
}

func TestBothSidesChanged(t *testing.T) {
	t.Parallel()
	for _, c := range []struct{ args, value string }{{"--prefer=tokens", "#111111"}, {"--prefer=code", "#222222"},
		{"--settle=color.sea.700=code", "#222222"}} {
		dir := demo(t)
		edit(t, filepath.Join(dir, "dist", "tokens.css"), "--color-sea-700: #085570", "--color-sea-700: #222222")
		must(t, dir, "tokens", "set", "color.sea.700", "#111111")
		r := run(t, dir, "tokens", "absorb", "dist/tokens.css")
		for _, want := range []string{"conflict color.sea.700", "#085570", "#111111", "#222222", "--prefer"} {
			if !strings.Contains(r.out+r.err, want) {
				t.Errorf("the conflict does not tell %s:\n%s%s", want, r.out, r.err)
			}
		}
		if r.status != 1 || !strings.Contains(must(t, dir, "tokens", "show", "color.sea.700").out, "#111111") {
			t.Errorf("status %d", r.status)
		}
		if r := run(t, dir, "sync", "--absorb"); r.status != 1 {
			t.Errorf("sync --absorb goes on over a conflict: %d", r.status)
		}
		must(t, dir, "sync", "--absorb", c.args)
		if css := read(t, dir, "dist", "tokens.css"); !strings.Contains(css, "--color-sea-700: "+c.value+";") {
			t.Errorf("%s: the CSS does not say %s", c.args, c.value)
		}
		must(t, dir, "sync", "--check")
	}
}

func TestTwoBranchesMergeWithoutConflict(t *testing.T) {
	t.Parallel()
	dir := versioned(t)
	commit(t, dir, "one", "set color.blue.500 #0a6a8a", "set space.2 2px")
	commit(t, dir, "two", "set color.red.350 #d94f28", "set space.4 4px")
	mustGit(t, dir, "checkout", "-q", "main")
	mustGit(t, dir, "merge", "-q", "--no-edit", "one")
	if out, err := git(t, dir, "merge", "-q", "--no-edit", "two"); err != nil {
		t.Fatalf("a conflict: %s", out)
	}
	if r := run(t, dir, "sync", "--check"); r.status != 1 {
		t.Error("nobody says that the outputs are to be made anew")
	}
	must(t, dir, "sync")
	css := read(t, dir, "dist", "tokens.css")
	for _, want := range []string{"--color-blue-500: #0a6a8a", "--color-red-350: #d94f28", "--space-2: 2px",
		"--space-4: 4px"} {
		if !strings.Contains(css, want) {
			t.Errorf("%s is lost:\n%s", want, css)
		}
	}
}

func TestTrueConflictsLeaveAFileThatReads(t *testing.T) {
	t.Parallel()
	dir := versioned(t)
	commit(t, dir, "one", "set color.blue.500 #0a6a8a")
	commit(t, dir, "two", "set color.blue.500 #095f7c", "set space.4 4px")
	mustGit(t, dir, "checkout", "-q", "one")
	out, err := git(t, dir, "merge", "--no-edit", "two")
	if err == nil || !strings.Contains(out, "color.blue.500") || !strings.Contains(out, "CONFLICT") {
		t.Errorf("%v %s", err, out)
	}
	r := run(t, dir, "tokens", "check")
	if r.status != 1 || !strings.Contains(r.out, "conflict") || !strings.Contains(r.out, "color.blue.500") {
		t.Errorf("status %d %s%s", r.status, r.out, r.err)
	}
	if list := must(t, dir, "tokens", "list").out; !strings.Contains(list, "#0a6a8a") || !strings.Contains(list, "4px") {
		t.Errorf("%s", list)
	}
	must(t, dir, "tokens", "set", "color.blue.500", "#095f7c")
	if r := run(t, dir, "tokens", "check", "--only", "conflict"); r.status != 0 {
		t.Errorf("still a conflict: %s", r.out)
	}
	must(t, dir, "sync")
	mustGit(t, dir, "add", "-A")
	mustGit(t, dir, "commit", "-qm", "Merged")
}

func TestANewCloneLearnsHowToMerge(t *testing.T) {
	t.Parallel()
	dir := versioned(t)
	clone := filepath.Join(t.TempDir(), "clone")
	mustGit(t, dir, "clone", "-q", dir, clone)
	if r := must(t, clone, "status"); !strings.Contains(r.err, "is not set up to merge token files") {
		t.Errorf("status says nothing: %s", r.err)
	}
	if r := must(t, clone, "sync"); !strings.Contains(r.err, "merges token files token by token") {
		t.Errorf("sync says nothing: %s", r.err)
	}
	if r := must(t, clone, "status"); r.err != "" {
		t.Errorf("status still complains: %s", r.err)
	}
	if out := mustGit(t, clone, "config", "--get", "merge.archetyp-tokens.driver"); !strings.Contains(out,
		"tokens merge %O %A %B") {
		t.Error(out)
	}
}

func TestCompareWithACommit(t *testing.T) {
	t.Parallel()
	dir := versioned(t)
	if r := must(t, dir, "tokens", "compare"); !strings.Contains(r.out, "no difference") {
		t.Error(r.out)
	}
	must(t, dir, "tokens", "set", "color.blue.500", "#0a6a8a")
	must(t, dir, "tokens", "set", "space.4", "4px")
	must(t, dir, "tokens", "rename", "color.red.350", "color.red.400")
	r := must(t, dir, "tokens", "compare", "HEAD")
	for _, want := range []string{"~  color.blue.500  #0b6e8f", "#0a6a8a", "differ by 0.0", "→  color.red.400",
		"was color.red.350", "+  space.4", "1 changed, 1 renamed, 1 added"} {
		if !strings.Contains(r.out+r.err, want) {
			t.Errorf("no %q in\n%s%s", want, r.out, r.err)
		}
	}
	if md := must(t, dir, "tokens", "compare", "--as", "markdown").out; !strings.Contains(md,
		"| changed | `color.blue.500` | `#0b6e8f` | `#0a6a8a` (differ by 0.0") ||
		!strings.Contains(md, "was `color.red.350`") {
		t.Error(md)
	}
	write(t, dir, "old/x.tokens.json", `{"a": {"$type": "number", "$value": 1}}`)
	write(t, dir, "new.tokens.json", `{"a": {"$type": "number", "$value": 2}}`)
	if r := must(t, dir, "tokens", "compare", "old", "new.tokens.json"); !strings.Contains(r.out, "~  a") {
		t.Error(r.out)
	}
	empty := t.TempDir()
	if r := run(t, empty, "tokens", "compare"); r.status != 2 {
		t.Errorf("status %d", r.status)
	}
}

func TestCheckBringsOlderFilesUpToDate(t *testing.T) {
	t.Parallel()
	dir := versioned(t)
	write(t, dir, "tokens/old.tokens.json",
		"{\n  \"old\": {\n    \"a\": {\"$type\": \"color\",   \"$value\": \"#FF0000\"},\n    \"b\": {\"$type\": "+
			"\"dimension\", \"$value\": \"1.5rem\"},\n    \"c\": {\"$type\": \"shadow\", \"$value\": {\"color\": "+
			"\"#00000080\", \"offsetX\": \"0px\", \"offsetY\": \"2px\", \"blur\": \"4px\", \"spread\": \"0px\"}}\n  }\n}\n")
	r := must(t, dir, "tokens", "list")
	if strings.Count(r.err, "warning") != 1 || !strings.Contains(r.err, "tokens check --fix") {
		t.Errorf("%s", r.err)
	}
	if r := must(t, dir, "tokens", "check", "--fix"); !strings.Contains(r.out,
		"tokens/old.tokens.json brought up to date") {
		t.Errorf("%s", r.out)
	}
	want := "{\n  \"old\": {\n    \"a\": {\"$type\": \"color\",   \"$value\": {\"colorSpace\": \"srgb\", " +
		"\"components\": [1, 0, 0], \"hex\": \"#ff0000\"}},\n    \"b\": {\"$type\": \"dimension\", \"$value\": " +
		"{\"value\": 1.5, \"unit\": \"rem\"}},\n    \"c\": {\"$type\": \"shadow\", \"$value\": {\"color\": " +
		"{\"colorSpace\": \"srgb\", \"components\": [0, 0, 0], \"alpha\": 0.5019607843137255, \"hex\": \"#000000\"}, " +
		"\"offsetX\": {\"value\": 0, \"unit\": \"px\"}, \"offsetY\": {\"value\": 2, \"unit\": \"px\"}, \"blur\": " +
		"{\"value\": 4, \"unit\": \"px\"}, \"spread\": {\"value\": 0, \"unit\": \"px\"}}}\n  }\n}\n"
	if got := read(t, dir, "tokens/old.tokens.json"); got != want {
		t.Errorf("%s", got)
	}
	if r := must(t, dir, "tokens", "list"); r.err != "" && strings.Contains(r.err, "warning") {
		t.Errorf("%s", r.err)
	}
}

func TestRamp(t *testing.T) {
	t.Parallel()
	dir := versioned(t)
	r := must(t, dir, "tokens", "ramp", "color.blue", "--steps", "100,300,500,700,900")
	if !strings.Contains(r.out, "#0b6e8f") || !strings.Contains(r.out, "the colour it is made around") ||
		strings.Contains(read(t, dir, "tokens/design.tokens.json"), `"900"`) {
		t.Errorf("%s", r.out)
	}
	must(t, dir, "tokens", "ramp", "color.blue", "--steps", "100,300,500,700,900", "--write")
	list := must(t, dir, "tokens", "list", "color.blue").out
	for _, want := range []string{"100", "300", "500", "700", "900", "#0b6e8f"} {
		if !strings.Contains(list, want) {
			t.Errorf("no %s in\n%s", want, list)
		}
	}
}

// A ramp keeps what is there where it is, says what it was made around, and puts what is new between.
func TestARampKeepsTheStepsThereAre(t *testing.T) {
	t.Parallel()
	dir := workspaceDemo(t)
	var ramp struct {
		Base string
		Ramp []struct {
			Step       int
			Value      string
			Base, Kept bool
			Lightness  float64
		}
	}
	for group, base := range map[string]string{"color.coral": "color.coral.500 #e4572e",
		"color.sea": "color.sea.600 #0b6e8f"} {
		mustJSON(t, dir, &ramp, "tokens", "ramp", group)
		if ramp.Base != base {
			t.Errorf("%s is made around %s, want %s", group, ramp.Base, base)
		}
		before := read(t, dir, "tokens/tern-and-tide.tokens.json")
		last := 1.0
		for _, r := range ramp.Ramp {
			if r.Kept != strings.Contains(before, r.Value) {
				t.Errorf("%s.%d: %s, kept %t", group, r.Step, r.Value, r.Kept)
			}
			if r.Base && !strings.HasSuffix(base, r.Value) || r.Lightness >= last {
				t.Errorf("%s.%d: %s, base %t, lightness %g after %g", group, r.Step, r.Value, r.Base, r.Lightness, last)
			}
			last = r.Lightness
		}
		ramp.Ramp = nil
	}
	says(t, dir, "tokens ramp color.coral", "around color.coral.500 #e4572e, at step 500", "color.coral.500 #e4572e")
	if r := run(t, dir, "tokens", "ramp", "color.sea", "--from", "#e4572e", "--steps", "600,950"); r.status != 2 ||
		!strings.Contains(r.err, "color.sea.600 is there already") {
		t.Errorf("status %d %s", r.status, r.err)
	}
}

func TestATemplateOfTheTeamsOwn(t *testing.T) {
	t.Parallel()
	dir := everyKind(t)
	r := must(t, dir, "tokens", "emit", "--as", "template", "--template", "template.txt")
	for _, want := range []string{"colorSea = #0b6e8fff\n", "colorVeil = #ffffff33\n", "[scheme.dark] color_sea",
		"[density.compact] size_m"} {
		if !strings.Contains(r.out, want) {
			t.Errorf("no %q in\n%s", want, r.out)
		}
	}
	write(t, dir, "bad.txt", "{{.Nothing}}")
	if r := run(t, dir, "tokens", "emit", "--as", "template", "--template", "bad.txt"); r.status != 2 ||
		!strings.Contains(r.err, "the template: ") {
		t.Errorf("status %d %s", r.status, r.err)
	}
}

// TestAValueThatChangedChangesItsToken holds that a colour changed in most of its places is offered as the change of
// its token, also after a sync in between, and that the change is written when told.
func TestAValueThatChangedChangesItsToken(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	for _, d := range []string{"booking", "components", "timetable"} {
		file := filepath.Join(dir, "design", d+".svg")
		write(t, dir, "design/"+d+".svg", strings.ReplaceAll(strings.ReplaceAll(read(t, file), "#0b6e8f", "#7a3b8f"),
			"#0B6E8F", "#7a3b8f"))
	}
	for range 2 {
		h := must(t, dir, "tokens", "harvest").out
		if !strings.Contains(h, "~ color.sea.600 has changed to this") {
			t.Fatalf("%s", h)
		}
		must(t, dir, "sync")
	}
	r := must(t, dir, "tokens", "harvest", "--write=color.sea.600")
	if r.out != "~ color.sea.600  #0b6e8f → #7a3b8f  "+tokenFile+"\n" {
		t.Errorf("%s", r.out)
	}
	must(t, dir, "sync")
	if !strings.Contains(read(t, dir, "dist", "tokens.css"), "--color-sea-600: #7a3b8f;") {
		t.Error("the CSS does not follow")
	}
	if h := must(t, dir, "tokens", "harvest").out; strings.Contains(h, "color.sea.600 has changed") {
		t.Errorf("it is offered again:\n%s", h)
	}
	if r := run(t, dir, "tokens", "harvest", "--ask"); r.status != 2 || !strings.Contains(r.err, "no terminal") {
		t.Errorf("status %d %s", r.status, r.err)
	}
}

// TestOneStyleInTwoWidths holds that two screens of one name and different width give one token with two contexts.
func TestOneStyleInTwoWidths(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	screen := func(w, size int) string {
		return fmt.Sprintf(`<svg xmlns="http://www.w3.org/2000/svg" width="%d" height="200" data-screen="Harbour"><g id="Head"><text id="Title" x="16" y="60" font-family="Hanken Grotesk" font-size="%d" font-weight="700">Harbour</text></g><text id="Note" x="16" y="120" font-family="Hanken Grotesk" font-size="16">Boats leave on time</text></svg>`, w, size)
	}
	write(t, dir, "small.svg", screen(390, 25))
	write(t, dir, "wide.svg", screen(1280, 40))
	write(t, dir, "archetyp.yaml",
		"name: Harbour\nsources: ['*.svg']\ntokens: {resolver: tokens/h.resolver.json}\ncontexts: {width.wide: '@media "+
			"(min-width: 48rem)'}\n")
	write(t, dir, "tokens/h.resolver.json",
		`{"version": "2025.10", "modifiers": {"width": {"contexts": {"small": [], "wide": [{"$ref": "wide.tokens.json"}]}, "default": "small"}}, "resolutionOrder": [{"type": "set", "name": "base", "sources": [{"$ref": "base.tokens.json"}]}, {"$ref": "#/modifiers/width"}]}`)
	write(t, dir, "tokens/base.tokens.json", "{}\n")
	write(t, dir, "tokens/wide.tokens.json", "{}\n")
	if h := must(t, dir, "tokens", "harvest").out; !strings.Contains(h, "+ type.heading on wide screens") {
		t.Fatalf("%s", h)
	}
	r := must(t, dir, "tokens", "harvest", "--write")
	if !strings.Contains(r.out, "+ type.heading  700 40px Hanken Grotesk  tokens/wide.tokens.json, width.wide") {
		t.Errorf("%s", r.out)
	}
	must(t, dir, "sync")
	css := read(t, dir, "dist", "tokens.css")
	if !strings.Contains(css, "--type-heading: 700 25px/") || !strings.Contains(css,
		"@media (min-width: 48rem) {\n  :root {\n    --type-heading: 700 40px/") {
		t.Errorf("%s", css)
	}
}
