package e2e

import (
	"fmt"
	"image/png"
	"maps"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"
)

// TestValuesWhileTyping holds what is offered first at places of code, with the pay button focused.
func TestValuesWhileTyping(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	must(t, dir, "focus", "booking", "#pay")
	c := startEditor(t, dir, obj{})
	c.said("Focused: pay (design/booking.svg)")
	for _, x := range []struct{ file, text, want string }{
		{"a.css", ".pay { border-radius: | }", "var(--radius-l), --radius-m, --radius-xl"}, // the element's, then the nearest
		{"a.css", ".pay { border-top-left-radius: | }", "var(--radius-l), --radius-m, --radius-xl"},
		{"a.css", ".pay { border-start-start-radius: | }", "var(--radius-l), --radius-m, --radius-xl"},
		{"a.css", ".pay { color: | }", "var(--color-text-inverse), --color-white, --color-surface-raised"},
		{"a.css", ".pay { color: var(--| }", "--color-text-default, --color-text-muted, --color-text-inverse"},
		{"a.css", ".pay { color: sea-6| }", "--color-sea-600"},
		{"a.css", ".pay { color: #0b6e9|0 }", "var(--color-text-inverse), --color-text-action, --color-sea-600"},
		{"a.css", ".pay { background-color: | }", "var(--color-action-default), --color-sea-600, --color-text-action"},
		{"a.css", ".pay { background: | }", "var(--color-action-default), media/pay.svg, media/pay.webp"},
		{"a.css", ".pay { box-shadow: | }", "var(--shadow-button), --shadow-card, --shadow-lifted"},
		{"a.css", ".pay { font: | }", "var(--type-body-strong), --type-small, --type-heading"},
		{"a.css", ".pay { font-size: | }", "1rem"},
		{"a.css", ".pay { width:| }", "22.375rem, --space-64, --space-32"},
		{"a.css", ".pay { left: | }", "var(--space-16), 4.1%"}, // in its container
		{"a.css", ".pay { padding: 13|px }", "--space-16, --space-8, --space-20"},
		{"a.css", ".pay { padding: 4px | }", "--space-16, --space-24"},
		{"a.css", ".pay { transition-duration: | }", ""},
		{"a.css", ".pay { | }", "all 7 declarations of pay, display: grid, place-items: center"},
		{"a.css", ".pay { display: grid; color: red; font: x; bo| }", "all 4 declarations of pay, border-radius: var(--radius-l)"},
		{"a.css", "/* .pay { color: | } */", ""},
		{"a.css", ".b|", "(class)"},
		{"a.scss", ".pay { &:hover { color: | } } // x", "var(--color-text-inverse)"},
		{"a.html", "<p style=\"color: |\">x</p>", "var(--color-text-inverse)"},
		{"a.html", "<style>.a { color: | }</style>", "var(--color-text-inverse)"},
		{"a.html", "<button>Lorem ip|sum</button>", "Pay € 72.75"},
		{"a.html", "<input placeholder=\"|\">", "Pay € 72.75"},
		{"a.html", "<img alt=\"|\">", "Pay € 72.75, pay"},
		{"a.html", "<p class=\"but|\">", "button"},
		{"a.html", "<p class=\"type-bo|\">", "type-body, type-body-strong"},
		{"a.html", "<p data-component=\"co|\">", "badge, button"},
		{"a.html", "<img src=\"|\">", "media/pay.svg, media/pay.webp, media/pay@2x.webp"},
		{"a.html", "<img srcset=\"media/pay.webp 1x, |\">", "media/pay.svg"},
		{"a.tsx", "const a = <p style={{color: \"|\"}}/>", "var(--color-text-inverse)"},
		{"a.tsx", "const a = <p style={{|}}/>", "all 7 declarations of pay, display: \"grid\""},
		{"a.vue", "<template><p class=\"x\"/></template>\n<style scoped>.x { color: | }</style>", "var(--color-text-inverse)"},
		{"tokens/tern-and-tide.tokens.json", `{"color":{"$type":"color","a":{"$value":"{sea.6|"}}}`, "{color.sea.600}"},
	} {
		got := strings.Join(c.labels(x.file, x.text, 60), ", ")
		if x.want == "(class)" {
			x.want = ".bad, .badge, .button, .tab"
		}
		if !strings.HasPrefix(got, x.want) || x.want == "" && got != "" {
			t.Errorf("%s: %s\n got %.200s\nwant %s", x.file, x.text, got, x.want)
		}
	}
}

// TestDistancesBetweenFocusedElements holds them against measure.
func TestDistancesBetweenFocusedElements(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	must(t, dir, "focus", "booking", "#adults", "#children")
	c := startEditor(t, dir, obj{})
	var m struct {
		Gaps map[string]struct{ Px, Percent float64 }
	}
	mustJSON(t, dir, &m, "measure", "booking", "#adults", "#children")
	gap := fmt.Sprintf("var(--space-%g)", m.Gaps["down"].Px)
	for property, want := range map[string]string{"gap": gap, "row-gap": gap, "margin-top": gap, "margin-block": gap, "top": "4.5rem"} {
		if got := c.labels("a.css", ".x { "+property+": | }", 1); strings.Join(got, "") != want {
			t.Errorf("%s: got %q, want %s", property, got, want)
		}
	}
}

// TestFocusing sets, prints and forgets the focused element.
func TestFocusing(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	for _, x := range []struct {
		args   string
		status int
		out    string
	}{
		{"focus", 0, "nothing is focused"},
		{"focus booking #pay", 0, "pay  design/booking.svg  #pay"},
		{"focus design/booking.svg #adults #children", 0, "children  design/booking.svg  #children"},
		{"focus", 0, "adults  design/booking.svg  #adults"},
		{"focus booking #nobody", 2, "nothing matches the selector #nobody"},
		{"focus booking", 2, "focus needs a SOURCE and a selector"},
		{"focus nowhere #pay", 2, "nowhere"},
		{"focus --none", 0, ""},
		{"focus", 0, "nothing is focused"},
	} {
		if r := run(t, dir, strings.Fields(x.args)...); r.status != x.status || !strings.Contains(r.out+r.err, x.out) {
			t.Errorf("%s: status %d\n%s%s", x.args, r.status, r.out, r.err)
		}
	}
	if r := run(t, dir, "editor", "extra"); r.status != 2 {
		t.Errorf("editor with an argument: status %d", r.status)
	}
}

// accept puts what an item writes into a text.
func accept(text string, it item) string {
	lines := strings.SplitAfter(text, "\n")
	at := func(p place) int {
		n := 0
		for _, l := range lines[:p.Line] {
			n += len(l)
		}
		return n + p.Character // of ASCII
	}
	r := it.TextEdit.Range
	return text[:at(r.Start)] + it.TextEdit.NewText + text[at(r.End):]
}

// choose accepts the first item whose label fits, and gives the text it leaves.
func (c *editorClient) choose(name, text, label string) string {
	c.t.Helper()
	fits := regexp.MustCompile(label)
	list := c.items(name, text)
	for _, it := range list {
		if !fits.MatchString(it.Label) {
			continue
		}
		if it.Command != nil {
			c.ask("workspace/executeCommand", obj{"command": it.Command.Command, "arguments": it.Command.Arguments}, nil)
		}
		return accept(strings.Replace(text, "|", "", 1), it)
	}
	c.t.Fatalf("%s: nothing offered is %s: %+v", text, label, list)
	return ""
}

func TestPicturesAreMadeWhenAccepted(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	must(t, dir, "focus", "booking", "#trip-card")
	c := startEditor(t, dir, obj{})
	text := c.choose("site/css/a.css", ".card { background-image: url(media/qu|ay.webp) }", `^media/quay\.webp$`)
	if want := ".card { background-image: url(media/quay.webp) }"; text != want {
		t.Errorf("got %s, want %s", text, want)
	}
	c.said("Made site/css/media/quay.webp, ")
	if data := read(t, dir, "site/css/media/quay.webp"); !strings.HasPrefix(data, "RIFF") {
		t.Errorf("no WebP: %.20q", data)
	}
	text = c.choose("site/a.html", `<img src="media/card@2|x.png">`, `^media/card@2x\.png$`)
	if got := pixelsOf(t, filepath.Join(dir, "site/media/card@2x.png")); got != [2]int{2 * 358, 2 * 164} { // the card without its shadow
		t.Errorf("%s: the picture at 2x has %v pixels", text, got)
	}
	var actions []struct {
		Title   string
		Command struct {
			Command   string
			Arguments []any
		}
	}
	at := c.show("site/b.html", `<img src="media/|later.svg">`)
	c.ask("textDocument/codeAction", obj{"textDocument": at["textDocument"], "range": obj{"start": at["position"], "end": at["position"]}, "context": obj{}}, &actions)
	if len(actions) != 1 || actions[0].Title != "Make media/later.svg of trip-card" {
		t.Fatalf("actions: %+v", actions)
	}
	c.ask("workspace/executeCommand", obj{"command": actions[0].Command.Command, "arguments": actions[0].Command.Arguments}, nil)
	if data := read(t, dir, "site/media/later.svg"); !strings.Contains(data, "<svg") {
		t.Errorf("no SVG: %.60s", data)
	}
	c.ask("textDocument/codeAction", obj{"textDocument": at["textDocument"], "range": obj{"start": at["position"], "end": at["position"]}, "context": obj{}}, &actions)
	if len(actions) != 1 || actions[0].Title != "Make media/later.svg again of trip-card" {
		t.Errorf("actions where the picture is there: %+v", actions)
	}
	for file, again := range map[string]bool{"../x.png": false, "design/booking.svg": true, "archetyp.yaml": true, "site/media/later.svg": false, "dist/assets/brand/tern.svg": true, "x.txt": false} {
		before := tree(t, dir)
		if err := c.try("workspace/executeCommand", obj{"command": "archetyp.makePicture", "arguments": []any{obj{"uri": c.uri("a.css"), "source": "design/booking.svg", "selector": "#pay", "files": []string{file}, "again": again}}}, nil); err == nil {
			t.Errorf("%s was made", file)
		}
		if after := tree(t, dir); !maps.Equal(before, after) {
			t.Errorf("refusing %s changed files", file)
		}
	}
}

func TestWhatAValueIs(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	c := startEditor(t, dir, obj{"general": obj{"markdown": obj{"parser": "marked"}}})
	for _, x := range []struct{ file, text, want string }{
		{"a.css", ".x { color: var(--color-text|-inverse) }", "**color.text.inverse**"},
		{"a.css", ".x { color: var(--color-text|-inverse) }", "`#ffffff` ← color.white"},
		{"a.css", ".x { color: var(--color-text|-inverse) }", "scheme.dark: "},
		{"a.css", ".x { color: var(--color-text|-inverse) }", "data:image/svg+xml;base64,"},
		{"a.css", ".x { color: var(--color-text|-inverse) }", "Used by 17 elements"},
		{"a.css", ".x { color: var(--color-text|-inverse); background: var(--color-action-default) }", "Contrast of text to background 5.77:1, AA"},
		{"a.css", ".x { color: #10|243a }", "**color.text.default**"},
		{"a.css", ".x { padding: 1|6px }", "**space.16**"},
		{"a.css", ".bad|ge { }", "<ferry-badge tone="},
		{"a.css", ".bad|ge { }", "data:image/png;base64,"},
		{"a.html", "<p data-component=\"bad|ge\">", "<ferry-badge tone="},
		{"tokens/dark.tokens.json", `{"color":{"text":{"de|fault":{"$type":"color","$value":"{color.ink.900}"}}}}`, "**color.text.default**"},
		{"tokens/dark.tokens.json", `{"color":{"text":{"default":{"$type":"color","$value":"{color.ink|.900}"}}}}`, "**color.ink.900**"},
		{"a.css", ".x { color: inh|erit }", ""},
	} {
		if got := c.hovered(x.file, x.text); !strings.Contains(got, x.want) || x.want == "" && got != "" {
			t.Errorf("%s: %s\n got %.600s\nwant %s", x.file, x.text, got, x.want)
		}
	}
}

func TestFindingsInCode(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	tokens := filepath.Join("tokens", "tern-and-tide.tokens.json")
	write(t, dir, tokens, strings.Replace(read(t, dir, tokens), `"750": {"$type"`, `"750": {"$deprecated": "use 700", "$type"`, 1))
	write(t, dir, "archetyp.yaml", read(t, dir, "archetyp.yaml")+"\neditor: {almost-token: error}\n")
	c := startEditor(t, dir, obj{})
	c.findings("a.css", ".x { color: red }")
	for _, x := range []struct{ text, want string }{
		{".x { color: #10243a }", "3 raw-value 0:12-19 #10243a is --color-text-default"},
		{".x { background: #10243a }", "3 raw-value 0:17-24 #10243a is --color-ink-900"},
		{".x { padding: 16px 1rem }", "3 raw-value 0:14-18 16px is --space-16; 3 raw-value 0:19-23 1rem is --space-16"},
		{".x { padding: 13px }", "3 off-scale 0:14-18 13px is off the scale; the nearest is 12px"},
		{".x { padding: 1.1rem }", "3 off-scale 0:14-20 1.1rem is off the scale; the nearest is 1rem"},
		{".x { font-size: 15px }", "3 off-scale 0:16-20 15px is off the scale; the nearest is 14px"},
		{".x { border-radius: 12px }", "3 raw-value 0:20-24 12px is --radius-l"},
		{".x { box-shadow: 0 4px 12px rgb(11 110 143 / 0.32) }", "3 raw-value 0:17-50 0 4px 12px rgb(11 110 143 / 0.32) is --shadow-button"},
		{".x { color: #10243b }", "1 almost-token 0:12-19 #10243b is almost --color-ink-900, which is #10243a"},
		{".x { color: var(--color-sea-610) }", "2 unknown-property 0:16-31 no token is called --color-sea-610; did you mean --color-sea-600?"},
		{".x { color: var(--color-sea-750) }", "2 deprecated-token 0:16-31 --color-sea-750 is deprecated: use 700"},
		{".x { --own: 1px; margin: var(--own) }", ""},
		{".x { width: 16px; height: 13px; min-width: 16px; transform: translate(13px) }", ""},
		{".x { background: url(#10243a.svg) }", ""},
		{"/* .x { color: #10243a } */", ""},
		{".x { color: var(--size-title) }", ""}, // another sheet declares it
	} {
		c.show("a.css", x.text)
		settled := func(f []finding) bool { return !strings.Contains(x.want, "unknown") || len(f) > 0 }
		var got []string
		for _, f := range c.published("a.css", settled) {
			got = append(got, fmt.Sprintf("%d %s %d:%d-%d %s", f.Severity, f.Code, f.Range.Start.Line, f.Range.Start.Character, f.Range.End.Character, f.Message))
		}
		if s := strings.Join(got, "; "); s != x.want {
			t.Errorf("%s\n got %s\nwant %s", x.text, s, x.want)
		}
	}
	if f := c.findings("dist/tokens.css", read(t, dir, "dist/tokens.css")); len(f) > 0 {
		t.Errorf("a generated file: %+v", f)
	}
	if f := c.findings("dist/tokens.css", "/* x */"); len(f) != 1 || f[0].Code != "generated-file" {
		t.Errorf("an edited generated file: %+v", f)
	}
	if f := c.findings("tokens/dark.tokens.json", `{"color":{"a":{"$type":"color","$value":"{color.b}"}}}`); len(f) != 1 || !strings.Contains(f[0].Message, "color.b") {
		t.Errorf("a token file with a fault: %+v", f)
	}
}

func TestReplacingValues(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	c := startEditor(t, dir, obj{"workspace": obj{"workspaceEdit": obj{"documentChanges": true}}})
	at := c.show("a.css", ".x { color: #10|243a; padding: 16px; margin: 13px }")
	var actions []struct {
		Title, Kind string
		Edit        struct {
			DocumentChanges []struct {
				TextDocument struct{ Version int }
				Edits        []struct{ NewText string }
			}
		}
	}
	c.ask("textDocument/codeAction", obj{"textDocument": at["textDocument"], "range": obj{"start": at["position"], "end": at["position"]}, "context": obj{}}, &actions)
	var got []string
	for _, a := range actions {
		news := ""
		for _, e := range a.Edit.DocumentChanges[0].Edits {
			news += " " + e.NewText
		}
		got = append(got, a.Kind+": "+a.Title+" →"+news)
	}
	offered(t, got, "quickfix: Write var(--color-text-default) → var(--color-text-default)",
		"quickfix: Mend all 2 of raw-value in this file → var(--color-text-default) var(--space-16)",
		"source.fixAll: Write tokens for all 2 values of this file that are one → var(--color-text-default) var(--space-16)")
}

// offered holds a list against the one that is wanted.
func offered(t *testing.T, got []string, want ...string) {
	t.Helper()
	if strings.Join(got, "\n") != strings.Join(want, "\n") {
		t.Errorf("got\n%s\nwant\n%s", strings.Join(got, "\n"), strings.Join(want, "\n"))
	}
}

// cited are places as file:line.
func (c *editorClient) cited(list []struct {
	URI   string
	Range span
}) (out []string) {
	for _, l := range list {
		out = append(out, fmt.Sprintf("%s:%d", strings.TrimPrefix(l.URI, "file://"+c.dir+"/"), l.Range.Start.Line+1))
	}
	return out
}

func TestGoingToWhatIsMeant(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	c := startEditor(t, dir, obj{"textDocument": obj{"documentSymbol": obj{"hierarchicalDocumentSymbolSupport": true}}})
	lineOf := func(file, part string) string {
		text := read(t, dir, file)
		i := strings.Index(text, part)
		if i < 0 {
			t.Fatalf("%s has no %s", file, part)
		}
		return fmt.Sprintf("%s:%d", file, 1+strings.Count(text[:i], "\n"))
	}
	type places = []struct {
		URI   string
		Range span
	}
	for _, x := range []struct {
		file, text string
		want       []string
	}{
		{"a.css", ".x { color: var(--color-sea|-750) }", []string{lineOf("tokens/tern-and-tide.tokens.json", `"750"`)}},
		{"a.css", "#pa|y { }", []string{lineOf("design/booking.svg", `id="pay"`)}},
		{"a.html", "<p class=\"trip-ca|rd\">", []string{lineOf("design/booking.svg", `id="trip-card"`)}},
		{"a.tsx", "t('booking.p|ay')", []string{lineOf("text/en.json", `"booking.pay"`), lineOf("text/de.json", `"booking.pay"`), lineOf("text/fi.json", `"booking.pay"`), lineOf("text/he.json", `"booking.pay"`), lineOf("text/pl.json", `"booking.pay"`)}},
	} {
		var at places
		c.ask("textDocument/definition", c.show(x.file, x.text), &at)
		offered(t, c.cited(at), x.want...)
	}
	write(t, dir, "site/css/more.css", ".y { background: var(--color-sea-600) }\n")
	var at places
	p := c.show("a.css", ".x { color: var(--color-sea|-600) }")
	p["context"] = obj{"includeDeclaration": true}
	c.ask("textDocument/references", p, &at)
	got := strings.Join(c.cited(at), "\n")
	for _, want := range []string{"site/css/more.css:1", lineOf("tokens/tern-and-tide.tokens.json", "{color.sea.600}")} {
		if !strings.Contains(got, want) {
			t.Errorf("references lack %s:\n%s", want, got)
		}
	}
	var symbols []struct {
		Name     string
		Children []struct{ Children []struct{ Name string } }
	}
	c.ask("textDocument/documentSymbol", c.show("design/booking.svg", read(t, dir, "design/booking.svg")), &symbols)
	if len(symbols) != 1 || symbols[0].Name != "Booking" || len(symbols[0].Children[0].Children) < 5 {
		t.Errorf("symbols: %+v", symbols)
	}
	var plain []struct{ Name, ContainerName string }
	old := startEditor(t, dir, obj{})
	old.ask("textDocument/documentSymbol", old.show("design/booking.svg", read(t, dir, "design/booking.svg")), &plain)
	if len(plain) < 50 || plain[1].ContainerName != "Booking" {
		t.Errorf("symbols one behind another: %d, %+v", len(plain), plain[:min(3, len(plain))])
	}
}

func TestLensesOfComponents(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	c := startEditor(t, dir, obj{})
	var lenses []obj
	c.ask("textDocument/codeLens", c.show("src/ui/badge.css", ".badge { color: red }\n.nothing { }\n"), &lenses)
	var got []string
	for _, l := range lenses {
		var r struct{ Command struct{ Title string } }
		c.ask("codeLens/resolve", l, &r)
		got = append(got, r.Command.Title)
	}
	if len(got) != 2 || !strings.HasPrefix(got[0], "design: ") || !strings.HasPrefix(got[1], "use: <ferry-badge tone=") {
		t.Errorf("lenses: %q", got)
	}
}

// TestPhasesAndRemarksAtTheirCode shows phases and remarks of a component above its rule.
func TestPhasesAndRemarksAtTheirCode(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	must(t, dir, "phase", "set", "components", "[data-component=badge][data-variant*=good]", "held", "-m", "Waits for the colour", "--by", "Aino")
	must(t, dir, "remark", "add", "components", "[data-component=badge][data-variant*=bad]", "louder?", "--by", "Mika")
	must(t, dir, "sync")
	c := startEditor(t, dir, obj{})
	uri := c.show("src/ui/badge.css", ".badge { color: red }\n")
	var lenses []struct{ Command struct{ Title string } }
	c.ask("textDocument/codeLens", uri, &lenses)
	got := fmt.Sprint(lenses)
	for _, want := range []string{"held by Aino: Waits for the colour", "note by Mika: louder?"} {
		if !strings.Contains(got, want) {
			t.Errorf("%q is not in %s", want, got)
		}
	}
}

// TestRenamingATokenEverywhere renames in the editor, saves all files, and holds that everything is in step.
func TestRenamingATokenEverywhere(t *testing.T) {
	t.Parallel()
	for _, x := range []struct{ caret, name, now string }{
		{".x { color: var(--color-sea|-600) }", "--color-sea-620", "color.sea.620"},
		{".x { color: var(--color-action|-default) }", "color.act.rest", "color.act.rest"},
	} {
		dir := demo(t)
		write(t, dir, "archetyp.yaml", strings.Replace(read(t, dir, "archetyp.yaml"), "only: [color, font, type, space, radius]", "only: [color.sea.600, color.action.default]", 1))
		svg := read(t, dir, "design/booking.svg")
		write(t, dir, "design/booking.svg", strings.Replace(svg, "#0b6e8f", "var(--color-sea-600, #0b6e8f)", 1))
		write(t, dir, "site/css/x.css", strings.Replace(x.caret, "|", "", 1))
		write(t, dir, "site/css/more.css", ".y { }\n")
		must(t, dir, "sync")
		c := startEditor(t, dir, obj{})
		c.show("site/css/more.css", "/* not saved */ .y { color: var(--color-sea-600); background: var(--color-action-default) }\n")
		p := c.show("site/css/x.css", x.caret)
		p["newName"] = x.name
		var edit struct {
			Changes map[string][]struct {
				Range   span
				NewText string
			}
		}
		c.ask("textDocument/rename", p, &edit)
		var files []string
		for uri, edits := range edit.Changes {
			name := strings.TrimPrefix(uri, "file://"+dir+"/")
			files = append(files, name)
			text := "/* not saved */ .y { color: var(--color-sea-600); background: var(--color-action-default) }\n"
			if name != "site/css/more.css" {
				text = read(t, dir, name)
			}
			for i := len(edits) - 1; i >= 0; i-- {
				text = edited(text, edits[i].Range, edits[i].NewText)
			}
			write(t, dir, name, text)
			c.tell("textDocument/didSave", obj{"textDocument": obj{"uri": uri}})
		}
		c.said("everything is in step")
		if r := run(t, dir, "sync", "--check"); r.status != 0 {
			t.Errorf("%v: after the renaming:\n%s%s", files, r.out, r.err)
		}
		var shown struct{ Token string }
		mustJSON(t, dir, &shown, "tokens", "show", x.now)
		for file, text := range tree(t, dir) {
			old := regexp.MustCompile(`color-sea-600\b|color\.sea\.600\b`)
			if x.now == "color.act.rest" {
				old = regexp.MustCompile(`color-action-default\b|color\.action\.default\b`)
			}
			if at := old.FindString(text); at != "" && !strings.HasPrefix(file, ".archetyp") && !strings.HasPrefix(file, "guide/") && file != "README.md" {
				t.Errorf("%s still has %s", file, at)
			}
		}
	}
}

// edited is a text with a range of UTF-16 positions replaced.
func edited(text string, r span, with string) string {
	offset := func(p place) int {
		lines := strings.SplitAfter(text, "\n")
		n := 0
		for _, l := range lines[:p.Line] {
			n += len(l)
		}
		units := 0
		for i, ch := range lines[p.Line] {
			if units >= p.Character {
				return n + i
			}
			if units++; ch > 0xFFFF {
				units++
			}
		}
		return n + len(lines[p.Line])
	}
	return text[:offset(r.Start)] + with + text[offset(r.End):]
}

// TestAnswersFollowTheFiles changes tokens, drawings and configuration: unsaved, saved, and broken.
func TestAnswersFollowTheFiles(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	must(t, dir, "focus", "booking", "#pay")
	c := startEditor(t, dir, obj{})
	radius := func() string { return strings.Join(c.labels("a.css", ".x { border-radius: | }", 3), ", ") }
	before := radius()
	name := "tokens/tern-and-tide.tokens.json"
	tokens := read(t, dir, name)
	c.show(name, strings.Replace(tokens, `"radius": {`, `"radius": {"knot": {"$type": "dimension", "$value": {"value": 12, "unit": "px"}},`, 1))
	c.until(func() bool { return strings.Contains(radius(), "--radius-knot") })
	c.show(name, `{"radius": {`)
	c.said("Until that is mended")
	if got := radius(); !strings.Contains(got, "--radius-knot") {
		t.Errorf("with a broken token file: %s", got)
	}
	c.tell("textDocument/didClose", obj{"textDocument": obj{"uri": c.uri(name)}})
	c.until(func() bool { return radius() == before })
	drawing := read(t, dir, "design/booking.svg")
	i := strings.Index(drawing, `id="pay"`)
	write(t, dir, "design/booking.svg", drawing[:i]+strings.Replace(drawing[i:], `rx="12"`, `rx="16"`, 1))
	c.until(func() bool { return strings.HasPrefix(radius(), "var(--radius-xl)") })
	must(t, dir, "focus", "booking", "#trip-card")
	c.said("Focused: trip-card")
	if err := os.RemoveAll(dir); err != nil {
		t.Fatal(err)
	}
	radius() // an answer, whichever
}

// until waits until something that is asked again and again holds.
func (c *editorClient) until(holds func() bool) {
	c.t.Helper()
	for range 100 {
		if holds() {
			return
		}
		time.Sleep(30 * time.Millisecond)
	}
	c.t.Fatalf("it never holds; messages: %q", c.messages)
}

// pixelsOf is the size of a picture.
func pixelsOf(t *testing.T, file string) [2]int {
	t.Helper()
	f, err := os.Open(file)
	if err != nil {
		t.Fatal(err)
	}
	defer f.Close()
	cfg, err := png.DecodeConfig(f)
	if err != nil {
		t.Fatal(err)
	}
	return [2]int{cfg.Width, cfg.Height}
}
