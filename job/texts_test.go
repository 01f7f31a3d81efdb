package job

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"archetyp/core/font"
	"archetyp/core/text"
	"archetyp/core/text/fit"
	"archetyp/demo"
	"archetyp/workspace"
)

const sailing = `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="200" data-screen="Sailing"><rect width="300" height="200" fill="#fff"/>
<g id="Card" data-component="card"><rect x="20" y="20" width="160" height="60" rx="8" fill="#eef"/><text id="a" x="36" y="55" font-size="16">Sail now</text></g>
<text id="b" x="20" y="120" font-size="14" data-message="{n} of {all} seats">3 of 12 seats</text><text id="c" x="20" y="150" display="none">Hidden</text><image width="9" height="9" x="280" aria-label="A ferry" href="x.png"/></svg>`

// sailingTexts is a workspace of one drawing with texts, in two more languages.
func sailingTexts(t testing.TB, more string) *workspace.Workspace {
	t.Helper()
	dir := t.TempDir()
	put(t, dir, "archetyp.yaml", "name: Harbour\nsources: ['*.svg']\ntext:\n  source: en\n  locales: [de, pl]\n"+more)
	put(t, dir, "sailing.svg", sailing)
	put(t, dir, "x.png", "")
	put(t, dir, "text/de.json", `{"sailing.card.sail-now": "Jetzt segeln", "later": "Später"}`)
	return open(t, dir)
}

func collected(t testing.TB, ws *workspace.Workspace, o Options) *Collected {
	t.Helper()
	got, err := Collect(t.Context(), ws, o)
	if err != nil {
		t.Fatal(err)
	}
	return got
}

func TestCollect(t *testing.T) {
	ws := sailingTexts(t, "")
	if got := collected(t, ws, Options{DryRun: true}); len(got.Written) != 2 ||
		content(t, ws, "text/en.json") != "(none)" {
		t.Errorf("a dry run: %v", got.Written)
	}
	got := collected(t, ws, Options{})
	if got.Keys != 3 || got.Counts[text.New] != 3 || got.Counts[text.Skipped] != 1 {
		t.Errorf("%d keys, %v", got.Keys, got.Counts)
	}
	if en := content(t, ws, "text/en.json"); !strings.Contains(en, `"sailing.3-of-12-seats": "{n} of {all} seats"`) ||
		!strings.Contains(en, `"sailing.a-ferry": "A ferry"`) {
		t.Error(en)
	}
	if content(t, ws, "text/de.json") != `{"sailing.card.sail-now": "Jetzt segeln", "later": "Später"}` {
		t.Error("a translation was touched")
	}
	if again := collected(t, ws, Options{}); !again.Unchanged || again.Keys != 3 || len(again.Written) != 0 {
		t.Errorf("%+v", again)
	}
	if hidden := collected(t, ws, Options{Hidden: true}); hidden.Keys != 4 {
		t.Errorf("with hidden ones %d keys", hidden.Keys)
	}
	put(t, ws.Dir, "sailing.svg", strings.Replace(sailing, "Sail now", "Sail today", 1))
	if changed := collected(t, ws, Options{Tags: []string{"june"}}); changed.Unchanged ||
		changed.Counts[text.Changed] != 1 {
		t.Errorf("%+v", changed.Counts)
	}
	c, _, err := ReadTexts(ws)
	if err != nil {
		t.Fatal(err)
	}
	if _, state := c.Of(c.Get("sailing.card.sail-now"), "de"); state != text.Outdated {
		t.Errorf("the translation is %s", state)
	}
	if e := c.Get("later"); e == nil || !e.Unused || e.In["de"].Words != "Später" {
		t.Errorf("a translation of nothing: %+v", e)
	}
	if tags := c.Get("sailing.card.sail-now").Tags; len(tags) != 1 {
		t.Errorf("%v", tags)
	}
}

// Reading for texts alone finds what reading all of a drawing does.
func TestTextsAloneAreTheSame(t *testing.T) {
	files, err := demo.Files()
	if err != nil {
		t.Fatal(err)
	}
	var got [2]string
	for i := range got {
		dir := t.TempDir()
		for name, data := range files {
			put(t, dir, name, string(data))
		}
		ws := open(t, dir)
		if i == 0 {
			collected(t, ws, Options{})
		} else {
			mustRun(t, ws, Options{})
		}
		got[i] = content(t, ws, "text/en.json") + content(t, ws, "text/keys.json")
	}
	if got[0] != got[1] || len(got[0]) < 5000 {
		t.Errorf("%s\nand\n%s", got[0], got[1])
	}
}

func TestTextsAreFresh(t *testing.T) {
	ws := sailingTexts(t, "")
	c, err := Texts(t.Context(), ws) // nothing was collected yet
	if err != nil || len(c.Used()) != 3 || content(t, ws, "text/en.json") != "(none)" {
		t.Fatalf("%v %v", err, c)
	}
	collected(t, ws, Options{})
	put(t, ws.Dir, "text/pl.json", `{"sailing.card.sail-now": "Płyń"}`)
	if c, err = Texts(t.Context(), ws); err != nil {
		t.Fatal(err)
	}
	if w, _ := c.Of(c.Get("sailing.card.sail-now"), "pl"); w != "Płyń" {
		t.Errorf("%q", w)
	}
	put(t, ws.Dir, "sailing.svg", strings.Replace(sailing, "Sail now", "Sail today", 1))
	if c, err = Texts(t.Context(), ws); err != nil || c.Get("sailing.card.sail-now").Words != "Sail today" {
		t.Errorf("%v %+v", err, c.Get("sailing.card.sail-now"))
	}
	os.Remove(ws.Path("text/keys.json")) // what is lost is read again, though the drawings are known
	put(t, ws.Dir, "sailing.svg", sailing)
	if c, err = Texts(t.Context(), ws); err != nil || len(c.Get("sailing.card.sail-now").Places) != 1 {
		t.Errorf("%v %+v", err, c)
	}
	if strings.Contains(content(t, ws, "text/en.json"), "today") {
		t.Error("an answer wrote")
	}
}

func TestTextFilesRefused(t *testing.T) {
	ws := sailingTexts(t, "")
	collected(t, ws, Options{})
	before := content(t, ws, "text/keys.json")
	for file, data := range map[string]string{"text/de.json": "{\n \"a\": }", "text/keys.json": "[]",
		"text/en.json": "{\"a\": \"b\", \"a\": \"c\"}"} {
		kept := content(t, ws, file)
		put(t, ws.Dir, file, data)
		for name, do := range map[string]func() error{
			"collect": func() error { _, err := Collect(t.Context(), ws, Options{}); return err },
			"sync":    func() error { _, err := Run(t.Context(), ws, Options{}); return err },
			"read":    func() error { _, _, err := ReadTexts(ws); return err },
		} {
			if err := do(); err == nil || !strings.HasPrefix(err.Error(), file+":") {
				t.Errorf("%s, %s: %v", name, file, err)
			}
		}
		put(t, ws.Dir, file, kept)
	}
	if content(t, ws, "text/keys.json") != before {
		t.Error("something was written")
	}
}

func TestTextOutputs(t *testing.T) {
	ws := sailingTexts(t, `  outputs:
    - {as: json, to: "dist/{locale}.json"}
    - {as: json-nested, to: dist/source.json}
    - {as: android, to: "dist/res/{values}/strings.xml"}
    - {as: strings, to: "dist/{locale}.lproj/a.strings"}
`)
	mustRun(t, ws, Options{})
	for file, want := range map[string]string{"dist/en.json": `"{n} of {all} seats"`,
		"dist/de.json": `"sailing.card.sail-now": "Jetzt segeln"`, "dist/pl.json": "{}", "dist/source.json": `"a-ferry": "A ferry"`,
		"dist/res/values/strings.xml": `%1$s of %2$s seats`, "dist/res/values-de/strings.xml": "Jetzt segeln", "dist/en.lproj/a.strings": `"sailing.a-ferry" = "A ferry";`} {
		if got := content(t, ws, file); !strings.Contains(got, want) {
			t.Errorf("%s: %s", file, got)
		}
	}
	if r := mustRun(t, ws, Options{}); !r.UpToDate {
		t.Errorf("again: %v", r.Written)
	}
	put(t, ws.Dir, "text/de.json", `{"sailing.card.sail-now": "Nun segeln"}`)
	if r := mustRun(t, ws, Options{}); !strings.Contains(content(t, ws, "dist/de.json"), "Nun") {
		t.Errorf("a translation by hand goes nowhere: %v", r.Written)
	}
	put(t, ws.Dir, "dist/de.json", "{}")
	if _, err := Run(t.Context(), ws, Options{}); err == nil || !strings.Contains(err.Error(),
		"dist/de.json: edited by hand") {
		t.Errorf("%v", err)
	}
	mustRun(t, ws, Options{Overwrite: true})
	clash := sailingTexts(t,
		"  outputs:\n    - {as: json, to: \"dist/{locale}.json\"}\n    - {as: json-nested, to: \"dist/{locale}.json\"}\n")
	if _, err := Run(t.Context(), clash, Options{}); err == nil || !strings.Contains(err.Error(), "written twice") {
		t.Errorf("%v", err)
	}
}

func TestPlaceAndPages(t *testing.T) {
	ws := sailingTexts(t, "")
	collected(t, ws, Options{})
	put(t, ws.Dir, "text/de.json",
		`{"sailing.card.sail-now": "Jetzt sofort lossegeln, bitte", "sailing.3-of-12-seats": "{n} von {all} Plätzen", "sailing.a-ferry": "Eine Fähre"}`)
	c, _, err := ReadTexts(ws)
	if err != nil {
		t.Fatal(err)
	}
	m := Measurer(ws, font.NewSet(nil))
	placed, skipped, err := Place(ws, c, Drawings(c, ""), []string{"en", "de"}, m)
	if err != nil || len(placed) != 2 || len(skipped) != 0 {
		t.Fatal(err, len(placed), skipped)
	}
	if string(placed[0].SVG) != sailing {
		t.Error("in the source language the drawing is not what it was")
	}
	for _, want := range []string{"Jetzt sofort lossegeln, bitte</text>", "3 von 12 Plätzen</text>",
		`aria-label="Eine Fähre"`} {
		if !strings.Contains(string(placed[1].SVG), want) {
			t.Errorf("%s is not in %s", want, placed[1].SVG)
		}
	}
	judged := fit.Review(c, []string{"de"}, m)
	if judged[0].Fit != fit.Overflows || judged[0].Key != "sailing.card.sail-now" {
		t.Errorf("%+v", judged[0])
	}
	files, _, err := Pages(ws, c, PageOptions{Entries: c.Used(), Locales: []string{"de"}, Judged: judged, Keys: true}, m)
	if err != nil {
		t.Fatal(err)
	}
	page := string(files["sailing.html"])
	for _, want := range []string{"overflows by", "Room: 128 px wide, 1 line", "aria-label, not drawn",
		"img/sailing.de.png", "img/sailing-2.png"} {
		if !strings.Contains(page, want) {
			t.Errorf("%q is not on the page:\n%s", want, page)
		}
	}
	for _, name := range []string{"index.html", "style.css", "img/sailing.en.png", "img/sailing.de.png",
		"img/sailing-2.png", "img/sailing-3.png"} {
		if len(files[name]) == 0 {
			t.Errorf("%s was not made", name)
		}
	}
	if files["img/sailing-1.png"] != nil {
		t.Error("a picture of where words stand that are not drawn")
	}
}

func TestWritingTextsIsAllOrNothing(t *testing.T) {
	if os.Getuid() == 0 {
		// a folder where a file should be stops root, too
		ws := sailingTexts(t, "")
		collected(t, ws, Options{})
		c, _, err := ReadTexts(ws)
		if err != nil {
			t.Fatal(err)
		}
		if err := c.Set(c.Get("sailing.card.sail-now"), "pl", "Płyń", text.Final); err != nil {
			t.Fatal(err)
		}
		if err := os.MkdirAll(filepath.Join(ws.Dir, "text", "pl.json"), 0o755); err != nil {
			t.Fatal(err)
		}
		before := content(t, ws, "text/keys.json")
		if _, err := WriteTexts(ws, c); err == nil {
			t.Error("written over a folder")
		}
		if content(t, ws, "text/keys.json") != before {
			t.Error("half of it was written")
		}
	}
}

func TestRenameKeyInCode(t *testing.T) {
	ws := sailingTexts(t, "")
	put(t, ws.Dir, "src/a.ts", "t('sailing.card.sail-now')\nt(\"sailing.card.sail-now.more\")\n")
	put(t, ws.Dir, "src/B.kt", "getString(R.string.sailing_card_sail_now)\n")
	c := &workspace.Change{}
	uses, err := RenameKeyInCode(ws, c, ws.Path("src"), "sailing.card.sail-now", "sail.now")
	if err != nil || len(uses) != 2 {
		t.Fatal(err, uses)
	}
	if err := ws.Apply(c); err != nil {
		t.Fatal(err)
	}
	if got := content(t, ws, "src/a.ts"); got != "t('sail.now')\nt(\"sailing.card.sail-now.more\")\n" {
		t.Error(got)
	}
	if got := content(t, ws, "src/B.kt"); got != "getString(R.string.sail_now)\n" {
		t.Error(got)
	}
}

// TestTextOutputsBelowTheCatalogue has files for code lie in the folder of the catalogue: they are outputs all the
// same.
func TestTextOutputsBelowTheCatalogue(t *testing.T) {
	ws := sailingTexts(t,
		"  outputs: [{as: json, to: \"text/code/{locale}.json\"}, {as: strings, to: \"text/{locale}.strings\"}]\n")
	mustRun(t, ws, Options{})
	if rep := mustRun(t, ws, Options{}); !rep.UpToDate {
		t.Errorf("nothing changed, and %v was written", rep.Written)
	}
	put(t, ws.Dir, "text/code/en.json", "{\"edited\": \"by hand\"}\n")
	if _, err := Run(t.Context(), ws, Options{}); err == nil || !strings.Contains(err.Error(), "edited by hand") ||
		!strings.Contains(content(t, ws, "text/code/en.json"), "by hand") {
		t.Errorf("%v; it holds %s", err, content(t, ws, "text/code/en.json"))
	}
}

// TestDrawingsBelowTokens has a drawing lie among the token files.
func TestDrawingsBelowTokens(t *testing.T) {
	dir := t.TempDir()
	put(t, dir, "archetyp.yaml", "sources: [tokens/*.svg]\n")
	put(t, dir, "tokens/a.svg", `<svg xmlns="http://www.w3.org/2000/svg"><text>Sail now</text></svg>`)
	ws := open(t, dir)
	collected(t, ws, Options{})
	put(t, dir, "tokens/a.svg", `<svg xmlns="http://www.w3.org/2000/svg"><text>Sail later</text></svg>`)
	if c := collected(t, open(t, dir), Options{}); c.Unchanged || !strings.Contains(content(t, ws, "text/en.json"),
		"later") {
		t.Errorf("the change goes unseen: %+v", c)
	}
}
