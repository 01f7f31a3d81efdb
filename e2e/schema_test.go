package e2e

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
)

// validJSON holds JSON against a schema of docs/schema.
func validJSON(t *testing.T, schema, text string) {
	t.Helper()
	s, err := jsonschema.NewCompiler().Compile(filepath.Join("..", "docs", "schema", schema+".schema.json"))
	if err != nil {
		t.Fatal(err)
	}
	v, err := jsonschema.UnmarshalJSON(strings.NewReader(text))
	if err != nil {
		t.Fatalf("%s: %v", schema, err)
	}
	if err := s.Validate(v); err != nil {
		t.Error(err)
	}
}

// TestJSONFollowsItsSchema holds what each command prints with --json on the demo against its schema in docs/schema.
func TestJSONFollowsItsSchema(t *testing.T) {
	dir := t.TempDir()
	must(t, dir, "demo", "w", "--quiet")
	w := filepath.Join(dir, "w")
	write(t, dir, "drawings/quay.svg",
		`<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><rect width="9" height="9" fill="#0b6e8f"/></svg>`)
	c := jsonschema.NewCompiler()
	schemas, err := filepath.Abs("../docs/schema")
	if err != nil {
		t.Fatal(err)
	}
	// these are for files, or want a browser, and are held against those elsewhere
	used := map[string]bool{"common": true, "texts": true, "assets-manifest": true, "code-verify": true, "capture": true, "capture-file": true, "audit-baseline": true, "watch": true,
		"edition-cut": true, "edition-list": true, "edition-show": true, "edition-compare": true, "inbox": true, "sync-share": true, "tokens-upstream": true, "outline-shared": true, "overlay": true}
	for _, l := range []struct{ schema, dir, command string }{
		{"outline", w, "outline booking"}, {"outline", w, "outline poster"}, {"outline", w,
			"outline booking --find trip"}, {"outline", w, "outline booking --unnamed"},
		{"alike", w, "outline components --alike"}, {"alike", w, "outline poster --alike"},
		{"spec", w, "spec booking *"}, {"spec", w, "spec booking #adults"}, {"spec", w, "spec poster layer"}, {"spec", w,
			"spec components"}, {"spec", w, "spec poster"},
		{"spec-computed", w, "spec site/index.html h1 --computed"}, {"spec-rules", w, "spec site/booking.html * --rules"}, {"spec-why", w, "spec site/booking.html * --why color"},
		{"tokens-harvest-code", w, "tokens harvest site/index.html"}, {"tokens-harvest-code", w, "tokens harvest site/css/site.css"}, {"assets-page", w, "assets list site/index.html"},
		{"audit", w, "audit --fail-on never --level note"}, {"audit", w, "audit site/index.html --level note"}, {"audit-rules", w, "audit --rules"}, {"drift", w, "drift site --fail-on never"}, {"drift", w, "drift site --design site"}, {"drift-why", w, "drift site --why #pay"}, {"apply", w, "apply --dry-run"}, {"apply", w, "apply --words fi --dry-run"},
		{"mark", w, "mark booking #check asset=icons/{name} --dry-run"}, {"mark", w, "audit timetable --fix names"},
		{"outline", w, "outline site/index.html"}, {"spec", w, "spec site/index.html .sailing"}, {"text-collect", w, "text collect site/booking.html"}, {"code", w, "code site/booking.html .button"},
		{"measure", w, "measure booking #adults"}, {"measure", w, "measure booking #adults #children"}, {"measure", w,
			"measure components [data-component=button]"},
		{"measure", w, "measure booking --area 0,0,390,200"}, {"measure", w,
			"measure poster layer[name=Card] --unit rem --to screen"},
		{"sample", w, "sample booking 60,90 330,20"}, {"sample", w, "sample poster 210,450 --size 5"},
		{"render", w, "render booking -o x.png"}, {"code", w, "code components [data-component]"},
		{"code", w, "code booking --as html --comments"}, {"code", w, "code components --as jsx"},
		{"code", w, "code booking --as swift"}, {"code", w, "code booking --as html --also components"}, {"code", w, "code components [data-component=badge]"},
		{"tokens-harvest", w, "tokens harvest"}, {"tokens-harvest", w, "tokens harvest --write=none"}, {"tokens-list", w,
			"tokens list"}, {"tokens-list", w, "tokens list color.text"},
		{"tokens-show", w, "tokens show color.text.hint"}, {"tokens-show", w, "tokens show type.title-l"}, {"tokens-where", w,
			"tokens where color.sea.600 --in ."},
		{"tokens-ramp", w, "tokens ramp color.coral"}, {"tokens-check", w,
			"tokens check --only scale,duplicate,unused"}, {"tokens-absorb", w, "tokens absorb dist/tokens.css --dry-run"},
		{"tokens-merge", w, "tokens merge tokens/dark.tokens.json tokens/dark.tokens.json tokens/dark.tokens.json"}, {"tokens-compare", w, "tokens compare tokens/dark.tokens.json tokens/wide.tokens.json"},
		{"tokens-edit", w, "tokens set color.coral.500 #e4572f"}, {"tokens-edit", w,
			"tokens rename color.coral.500 color.coral.400"}, {"tokens-edit", w, "tokens remove color.sun.100 --force"},
		{"tokens-output", w, "tokens emit --as json"},
		{"text-collect", w, "text collect"}, {"text-list", w, "text list"}, {"text-list", w,
			"text list --locale de --state initial"}, {"text-show", w, "text show booking.pay"},
		{"text-check", w, "text check"}, {"text-review", w, "text review"}, {"text-export", w,
			"text export --locale de -o de.xlf"}, {"text-export", w, "text export --as html --locale de -o pages"},
		{"text-import", w, "text import de.xlf --dry-run"}, {"text-fill", w,
			"text fill --memory memory/ferry.tmx --dry-run"}, {"text-place", w, "text place Booking --locale fi -o fi.svg"},
		{"text-edit", w, "text set booking.bicycle Rad --locale de"}, {"text-edit", w,
			"text rename booking.bicycle booking.bike"}, {"text-edit", w, "text split components.badge.cancelled Timetable"},
		{"text-edit", w, "text join components.badge.cancelled timetable.badge.cancelled"},
		{"assets-list", w, "assets list"}, {"assets-list", w, "assets list components"}, {"assets-advise", w,
			"assets advise"}, {"sync", w, "assets export"},
		{"assets-export", w, "assets export components #tern -o tern.webp --at 1,2"}, {"sync", w, "status"}, {"sync", w,
			"sync"}, {"init", filepath.Join(dir, "drawings"), "init"}, {"phase-list", w, "phase set booking #pay agreed --tag a"}, {"phase-list", w, "phase list"}, {"phase-list", w, "status --phases"},
		{"remark", w, "remark add booking #pay look --point 1,2"}, {"remark-list", w, "remark list"}, {"focus", w, "focus"}, {"focus", w, "focus booking #adults #children"},
	} {
		used[l.schema] = true
		s, err := c.Compile(filepath.Join(schemas, l.schema+".schema.json"))
		if err != nil {
			t.Fatal(err)
		}
		r := run(t, l.dir, append(strings.Fields(l.command), "--json", "--quiet")...)
		if r.status > 1 { // 1 is what checks say when they found something
			t.Fatalf("archetyp %s: %s", l.command, r.err)
		}
		v, err := jsonschema.UnmarshalJSON(strings.NewReader(r.out))
		if err != nil {
			t.Errorf("%s: %v", l.command, err)
			continue
		}
		if err := s.Validate(v); err != nil {
			t.Errorf("archetyp %s: %v", l.command, err)
		}
	}
	files, err := os.ReadDir(schemas)
	if err != nil {
		t.Fatal(err)
	}
	for _, f := range files {
		if name := strings.TrimSuffix(f.Name(), ".schema.json"); !used[name] {
			t.Errorf("%s is held against nothing", f.Name())
		}
	}
}
