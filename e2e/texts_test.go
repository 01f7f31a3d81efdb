package e2e

import (
	"archetyp/core/diff"
	"encoding/json"
	"fmt"
	"image"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
)

func (c catalogueJSON) of(key, locale string) (words, state string) {
	for _, t := range c.Texts {
		if t.Key == key {
			return t.Locales[locale].Words, t.Locales[locale].State
		}
	}
	return "(no key)", ""
}

// TestTextsDayByDay goes the way of words from a drawing to a translator and back, with what happens on the way.
func TestTextsDayByDay(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	must(t, dir, "text", "set", "booking.on-board", "An Bord dabei", "--locale", "de")
	must(t, dir, "text", "set", "booking.on-board", "--locale", "de", "--state", "reviewed")
	must(t, dir, "text", "set", "booking.breakfast", "--note", "With coffee", "--tag", "june", "--untag", "extras")
	c := catalogue(t, dir)
	if w, s := c.of("booking.on-board", "de"); w != "An Bord dabei" || s != "reviewed" {
		t.Errorf("%s %s", w, s)
	}
	// out to the translator, with only what is open
	must(t, dir, "text", "export", "--locale", "de", "--only", "initial,outdated", "-o", "open.xlf")
	if n := strings.Count(read(t, dir, "open.xlf"), "<unit "); n != 2 {
		t.Errorf("%d texts are open in German, want 2", n)
	}
	must(t, dir, "text", "export", "--as", "xliff", "--locale", "de", "-o", "all.xlf")
	// meanwhile the designer changes words, and somebody here a translation
	drawn := read(t, dir, "design/booking.svg")
	write(t, dir, "design/booking.svg", strings.Replace(drawn, ">Bicycle<", ">Bicycle or scooter<", 1))
	must(t, dir, "text", "collect")
	must(t, dir, "text", "set", "booking.passengers", "Reisende", "--locale", "de")
	// the translator changes four texts: one open, one reviewed, one changed here, one whose words changed
	back := read(t, dir, "all.xlf")
	for from, to := range map[string]string{">An Bord dabei<": ">Unterwegs<", ">Fahrgäste<": ">Passagiere<",
		">Fahrrad<": ">Rad<", ">Ihre Reise<": ">Eure Reise<"} {
		back = strings.Replace(back, `preserve"`+from, `preserve"`+to, -1)
	}
	write(t, dir, "back.xlf", back)
	var got struct {
		Files []struct {
			Counts map[string]int
			Texts  []struct{ What, Key, Base, Ours, Theirs string }
		}
		Written []string
	}
	mustJSON(t, dir, &got, "text", "import", "back.xlf", "--dry-run")
	if len(got.Written) != 0 {
		t.Error("a dry run wrote")
	}
	mustJSON(t, dir, &got, "text", "import", "back.xlf")
	seen := map[string]string{}
	for _, x := range got.Files[0].Texts {
		seen[x.Key] = strings.Join([]string{x.What, x.Base, x.Ours, x.Theirs}, "|")
	}
	for k, want := range map[string]string{"booking.your-trip": "taken||Ihre Reise|Eure Reise",
		"booking.on-board":   "protected||An Bord dabei|Unterwegs",
		"booking.passengers": "conflict|Fahrgäste|Reisende|Passagiere", "booking.bicycle": "protected||Fahrrad|Rad"} {
		if seen[k] != want && !(k == "booking.bicycle" && strings.HasPrefix(seen[k], "late|")) {
			t.Errorf("%s: %s, want %s", k, seen[k], want)
		}
	}
	must(t, dir, "text", "import", "back.xlf", "--over")
	c = catalogue(t, dir)
	if w, s := c.of("booking.bicycle", "de"); w != "Rad" || s != "outdated" {
		t.Errorf("%s %s", w, s)
	}
	// what nobody asked for stays as it was
	for _, x := range c.Texts {
		if x.Key == "booking.breakfast" && (x.Note != "With coffee" || fmt.Sprint(x.Tags) != "[june]") {
			t.Errorf("%+v", x)
		}
	}
	if r := run(t, dir, "text", "check", "--rule", "outdated"); r.status != 1 || !strings.Contains(r.out,
		"Bicycle or scooter") {
		t.Errorf("%d %s", r.status, r.out)
	}
	must(t, dir, "sync", "--quiet")
	if s := read(t, dir, "dist/text/de.json"); !strings.Contains(s, `"booking.your-trip": "Eure Reise"`) {
		t.Error("the code does not follow")
	}
}

func TestKeysByHand(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	write(t, dir, "src/app.ts", `t("booking.passengers"); t('booking.passengers-x'); R.string.booking_passengers`)
	must(t, dir, "text", "rename", "booking.passengers", "people.title", "--in", "src")
	if s := read(t, dir, "src/app.ts"); s != `t("people.title"); t('booking.passengers-x'); R.string.people_title` {
		t.Error(s)
	}
	must(t, dir, "text", "split", "components.badge.cancelled", "Timetable")
	must(t, dir, "text", "collect")
	must(t, dir, "sync", "--quiet")
	c := catalogue(t, dir)
	for _, k := range []string{"people.title", "timetable.badge.cancelled", "components.badge.cancelled"} {
		if w, _ := c.of(k, "de"); w == "(no key)" || w == "" {
			t.Errorf("%s: %s", k, w)
		}
	}
	must(t, dir, "text", "join", "components.badge.cancelled", "timetable.badge.cancelled")
	must(t, dir, "text", "collect")
	if w, _ := catalogue(t, dir).of("timetable.badge.cancelled", "de"); w != "(no key)" {
		t.Error("joined keys part again")
	}
	if !strings.Contains(must(t, dir, "text", "show", "timetable.badge.cancelled").out, "components.badge.cancelled") {
		t.Error("the old key is not found any more")
	}
}

// TestTextAnswers holds what commands say when they are used wrongly, or on bad files; the catalogue stays as it is.
func TestTextAnswers(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	write(t, dir, "bomb.xlf",
		`<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "aaaaaaaaaaaaaaaaaaaaaaaa"><!ENTITY b "`+strings.Repeat("&a;",
			1000)+`"><!ENTITY c "`+strings.Repeat("&b;", 1000)+`">]><xliff version="2.1"><file><unit id="u"><segment><source>&c;</source></segment></unit></file></xliff>`)
	write(t, dir, "cut.po", "msgid \"a\"\nmsgstr \"b\n")
	write(t, dir, "twice.json", "{\"booking.bicycle\": \"a\",\n \"booking.bicycle\": \"b\"}")
	write(t, dir, "latin.csv", "key,target\nbooking.bicycle,\xe4\n")
	write(t, dir, "icu.json", "{\n  \"booking.pay\": \"{price\"}")
	write(t, dir, "words.json", `{"booking.bicycle": "x"}`)
	write(t, dir, "x.bin", "\x01\x02")
	write(t, dir, "text/sv.json", "{}")
	before := tree(t, filepath.Join(dir, "text"))
	for _, c := range []struct{ command, want string }{
		{"text import bomb.xlf", "bomb.xlf:1:"}, {"text import cut.po --locale de",
			"cut.po:2:8: a text in quotation marks"}, {"text import twice.json --locale de", "twice.json:2:2: the key stands twice"},
		{"text import latin.csv --locale de", "latin.csv:2:17: not valid UTF-8"}, {"text import icu.json --locale de",
			"icu.json:2:"}, {"text import x.bin --locale de", "not recognised"},
		{"text import nowhere.xlf", "nowhere.xlf: there is no such file"}, {"text import words.json",
			"does not say which language"}, {"text import text/de.json --locale no_such/locale", "is no locale"},
		{"text import text/de.json --as rtf", `"rtf" is not known`},
		{"text set booking.nothing x --locale de",
			`there is no key "booking.nothing"`}, {"text set booking.pay {price --locale de", "not a valid message"}, {"text set booking.bicycle Bike", "which \"Bike\" cannot say"},
		{"text set booking.bicycle --state perfect --locale de", "cannot be set"}, {"text set booking.bicycle",
			"nothing to set"}, {"text set booking.bicycle --state final", "source language has no state"},
		{"text rename booking.pay x", "by a mark"}, {"text rename booking.bicycle booking.breakfast",
			"there is a key booking.breakfast already"}, {"text join booking.bicycle booking.breakfast", "says"},
		{"text split booking.bicycle", "one place only"}, {"text check --rule nonsense",
			`no rule "nonsense"`}, {"text list --screen Nowhere", "no text stands on a screen"}, {"text list --state odd", "not known"},
		{"text export --as html", "go into a folder"}, {"text export --as po --locale de,fi",
			"do not go to stdout"}, {"text export --plurals odd", "not known"},
		{"text fill", "no memory is given"}, {"text fill --memory text/de.json",
			"no translation memory"}, {"text fill --memory memory/ferry.tmx --at-least 30", "is no score"},
		{"text place Booking", "-o is missing"}, {"text place --locale de -o x.svg",
			"one file holds one drawing"}, {"text place Nowhere -o x", "no text stands"}, {"text show nothing.here", "there is no key"},
	} {
		r := run(t, dir, strings.Fields(c.command)...)
		if r.status != 2 || !strings.Contains(r.err, c.want) || strings.Contains(r.err, "goroutine") {
			t.Errorf("%s: status %d, %q, want %q", c.command, r.status, r.err, c.want)
		}
	}
	after := tree(t, filepath.Join(dir, "text"))
	for name, data := range before {
		if after[name] != data {
			t.Errorf("%s changed", name)
		}
	}
	write(t, dir, "text/de.json", "{\n \"a\": 1}")
	if r := run(t, dir, "text", "list"); r.status != 2 || !strings.Contains(r.err,
		"text/de.json:2:7: a text was expected") {
		t.Errorf("%d %s", r.status, r.err)
	}
}

// TestPlacedTextsLookLikeChromiums puts words of four languages into the demo's drawings, and holds our picture of what
// comes out against Chromium's, place by place.
func TestPlacedTextsLookLikeChromiums(t *testing.T) {
	t.Parallel()
	ctx := chromium(t)
	dir := demo(t)
	must(t, dir, "text", "place", "--locale", "de,he,pl,ar-x-pseudo", "-o", "design/placed", "--quiet")
	for _, name := range []string{"booking.de", "booking.he", "timetable.he", "timetable.pl", "booking.ar-x-pseudo"} {
		source, locale, _ := strings.Cut(name, ".")
		svg := read(t, dir, "design/placed/"+name+".svg")
		// which the drawings themselves do not name
		for _, font := range []string{"NotoSansHebrew-Regular.ttf", "NotoSansHebrew-Bold.ttf"} {
			weight := map[bool]string{true: "700", false: "400"}[strings.Contains(font, "Bold")]
			svg = strings.Replace(svg, "</svg>",
				`<style>@font-face{font-family:"Noto Sans Hebrew";font-weight:`+weight+`;src:url(../fonts/`+font+`)}</style></svg>`, 1)
		}
		file := write(t, dir, "design/"+name+".svg", svg)
		open(t, ctx, file, 390, 844, 2)
		theirs := onWhite(shoot(t, ctx))
		must(t, dir, "render", "design/"+name+".svg", "--at", "2", "--background", "white", "-o", "own.png", "--quiet")
		ours := onWhite(decode(t, []byte(read(t, dir, "own.png"))))
		plain := diff.Plain(theirs)
		sum, n, worst, worstName := 0.0, 0, 1.0, ""
		for _, e := range elements(t, dir, "design/"+name+".svg") {
			if e.Kind != "text" || e.Hidden {
				continue
			}
			share, ok := diff.Likeness(ours, theirs, at(e.Boxes.Painted, 2), plain, 32)
			if !ok {
				continue
			}
			sum, n = sum+share, n+1
			if share < worst {
				worst, worstName = share, e.fact("words")
			}
		}
		t.Logf("%s in %s: %d texts, %.1f %% alike; worst %.1f %% (%q)", source, locale, n, 100*sum/float64(n), 100*worst,
			worstName)
		if n < 10 || sum/float64(n) < 0.97 || worst < 0.8 {
			t.Errorf("%s: too little alike", name)
			savePair(t, dir, name, ours, theirs)
		}
	}
}

// at is a box in the pixels of a picture.
func at(b box, density float64) image.Rectangle {
	return image.Rect(int(b.X*density), int(b.Y*density), int((b.X+b.Width)*density)+1, int((b.Y+b.Height)*density)+1)
}

// TestPlacedTextsMeasureAsJudged holds the widths review speaks of against what Chromium lays out in the placed
// drawing.
func TestPlacedTextsMeasureAsJudged(t *testing.T) {
	t.Parallel()
	ctx := chromium(t)
	dir := demo(t)
	must(t, dir, "text", "place", "Booking", "--locale", "fi", "-o", "design/fi.svg", "--quiet")
	open(t, ctx, filepath.Join(dir, "design/fi.svg"), 390, 844, 1)
	widths, err := chromedp.Run(ctx,
		chromedp.Evaluate[map[string]float64](`Object.fromEntries([...document.querySelectorAll('text')].map(e => [e.textContent, Math.max(...[...e.querySelectorAll('tspan')].map(s => s.getComputedTextLength()))]))`))
	if err != nil {
		t.Fatal(err)
	}
	var got struct {
		Texts []struct {
			Words string
			Needs float64
			Lines int
			Place struct{ Screen string }
		}
	}
	r := run(t, dir, "text", "review", "--locale", "fi", "--screen", "Booking", "--json")
	if err := json.Unmarshal([]byte(r.out), &got); err != nil {
		t.Fatal(err, r.err)
	}
	n := 0
	for _, j := range got.Texts {
		if w, ok := widths[j.Words]; ok && j.Lines == 1 {
			n++
			if w-j.Needs > 0.1 || j.Needs-w > 0.1 {
				t.Errorf("%s needs %.2f px, Chromium has %.2f", j.Words, j.Needs, w)
			}
		}
	}
	if n < 10 {
		t.Errorf("%d texts compared: %v", n, widths)
	}
}

// TestPagesForTranslators holds that the pages list the keys of each screen, and that all they link to is there.
func TestPagesForTranslators(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	must(t, dir, "text", "export", "--as", "html", "--locale", "de,he", "-o", "pages", "--quiet")
	for screen, want := range map[string][]string{"booking": {"booking.pay", "Fahrrad", "lang=\"he\"",
		"Room: 143 px wide, 1 line"}, "timetable": {"timetable.title", "Inselfahrplan"}} {
		html := read(t, dir, "pages", screen+".html")
		for _, w := range want {
			if !strings.Contains(html, w) {
				t.Errorf("%s does not say %q", screen, w)
			}
		}
		for _, part := range strings.Split(html, `src="`)[1:] {
			src, _, _ := strings.Cut(part, `"`)
			if _, err := os.Stat(filepath.Join(dir, "pages", src)); err != nil {
				t.Error(err)
			}
		}
	}
	if strings.Contains(read(t, dir, "pages", "booking.html"), "timetable.title") {
		t.Error("a key of another screen")
	}
	if r := run(t, dir, "text", "review", "-o", "review", "--quiet"); r.status != 1 ||
		!strings.Contains(read(t, dir, "review", "timetable.html"), "overflows by") {
		t.Errorf("%d %s", r.status, r.err)
	}
}
