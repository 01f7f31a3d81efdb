package e2e

import (
	"bytes"
	"fmt"
	"image/png"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// TestPhasesFollowTheirElements sets phases, changes the drawing, and looks what became of them.
func TestPhasesFollowTheirElements(t *testing.T) {
	t.Parallel()
	dir := repository(t)
	must(t, dir, "phase", "set", "booking", "#pay", "agreed", "-m", "As the harbour office asked, TT-12", "--tag", "checkout", "--due", "3")
	must(t, dir, "phase", "set", "timetable", "held")
	must(t, dir, "phase", "set", "booking", "#adults", "#children", "built")
	edit(t, filepath.Join(dir, "archetyp.yaml"), "root:", "tickets: {pattern: \"TT-[0-9]+\", url: \"http://127.0.0.1/{ticket}\"}\nphases: [in review]\nroot:")
	commitAll(t, dir, "Phases")
	must(t, dir, "phase", "set", "boarding-pass", "in review")

	edit(t, filepath.Join(dir, "design/booking.svg"), `id="pay"`, `id="pay-now"`)
	edit(t, filepath.Join(dir, "design/booking.svg"), "Adults", "Grown-ups")
	svg := read(t, dir, "design/booking.svg")
	from := strings.Index(svg, `<g id="children"`)
	write(t, dir, "design/booking.svg", svg[:from]+"<g"+strings.Replace(svg[from+2:], `id="children"`, `display="none"`, 1))
	out := must(t, dir, "status", "--phases").out
	for _, want := range []string{"agreed  Booking: pay-now", "“Adults” is “Grown-ups”", "held  Timetable", "in review  Boarding pass", "TT-12  http://127.0.0.1/TT-12", "due for edition 3", "#checkout"} {
		if !strings.Contains(out, want) {
			t.Errorf("%q is not in\n%s", want, out)
		}
	}
	for args, want := range map[string]string{"--phase agreed": "pay-now", "--ticket TT-12": "pay-now", "--tag checkout": "pay-now", "--changed": "Booking: adults", "--due 3": "pay-now"} {
		got := must(t, dir, append([]string{"phase", "list"}, strings.Fields(args)...)...).out
		if !strings.Contains(got, want) || strings.Contains(got, "Timetable") {
			t.Errorf("%s:\n%s", args, got)
		}
	}
	if got := must(t, dir, "outline", "booking", "--phase", "built").out; !strings.Contains(got, "adults") || strings.Contains(got, "pay") {
		t.Errorf("outline --phase:\n%s", got)
	}
	if r := run(t, dir, "phase", "list", "--check"); r.status != 1 {
		t.Errorf("--check: %d", r.status)
	}
	must(t, dir, "sync")
	if p := read(t, dir, "phases.yaml"); !strings.Contains(p, `id: pay-now`) {
		t.Errorf("sync does not follow:\n%s", p)
	}
	write(t, dir, "phases.yaml", read(t, dir, "phases.yaml")+"by-hand:\n  phase: held\n  at: {source: design/timetable.svg, screen: Timetable, select: \"#notice\"}\n")
	if got := must(t, dir, "phase", "list", "--screen", "Timetable").out; !strings.Contains(got, "held  Timetable: Notice") {
		t.Errorf("written by hand:\n%s", got)
	}
	must(t, dir, "phase", "drop", "by-hand")
	must(t, dir, "phase", "drop", "booking", "#pay-now")
	must(t, dir, "phase", "drop", "timetable")
	if got := must(t, dir, "phase", "list").out; strings.Contains(got, "pay-now") || strings.Contains(got, "Timetable") {
		t.Errorf("dropped, and there:\n%s", got)
	}
	for args, want := range map[string]string{"phase set booking #pay-now agreeed": `Did you mean "agreed"?`, "phase set booking": "needs a SOURCE and a phase",
		"phase drop nothing-like-it": "no phase has the key", "phase set booking #none agreed": "nothing matches"} {
		if r := run(t, dir, strings.Fields(args)...); r.status != 2 || !strings.Contains(r.err, want) {
			t.Errorf("%s: %d %s", args, r.status, r.err)
		}
	}
}

// TestRemarks writes, answers, closes and finds remarks.
func TestRemarks(t *testing.T) {
	t.Parallel()
	dir := repository(t)
	edit(t, filepath.Join(dir, "archetyp.yaml"), "root:", "people: {mik: \"Mika Laine <mika@tern.example>\"}\nroot:")
	add := func(args ...string) string {
		var r struct{ Short, File string }
		mustJSON(t, dir, &r, append([]string{"remark", "add"}, args...)...)
		if _, err := os.Stat(filepath.Join(dir, r.File)); err != nil {
			t.Error(err)
		}
		return r.Short
	}
	gap := add("booking", "#pay", "@mik the gap is 12 px in code, TT-7", "--kind", "question", "--point", "12,8")
	whole := add("timetable", "Where do weekend sailings go?", "--tag", "later")
	must(t, dir, "remark", "reply", gap, "8 px; mended\n\n## Not a heading {#beef}", "--by", "Mika Laine")
	must(t, dir, "remark", "close", gap, "-m", "Thank you")
	if r := run(t, dir, "remark", "close", gap); r.status != 2 || !strings.Contains(r.err, "closed already") {
		t.Errorf("closed twice: %s", r.err)
	}
	list := func(args ...string) string { return must(t, dir, append([]string{"remark", "list"}, args...)...).out }
	if got := list(); strings.Contains(got, gap) || !strings.Contains(got, whole) {
		t.Errorf("the open ones:\n%s", got)
	}
	for _, args := range [][]string{{"--for", "mika laine"}, {"--for", "mik"}, {"--by", "mik"}, {"--kind", "question"}, {"--screen", "Booking"}, {"--source", "booking"}} {
		if got := list(append(args, "--state", "all")...); !strings.Contains(got, gap) || strings.Contains(got, whole) {
			t.Errorf("%v:\n%s", args, got)
		}
	}
	if got := list("--tag", "later"); !strings.Contains(got, whole) {
		t.Errorf("by tag:\n%s", got)
	}
	must(t, dir, "remark", "reopen", gap)
	show := must(t, dir, "remark", "show", gap).out
	for _, want := range []string{"Mika Laine", "8 px; mended", "## Not a heading {#beef}", "closes it", "reopens it", "open"} {
		if !strings.Contains(show, want) {
			t.Errorf("%q is not in\n%s", want, show)
		}
	}
	var spot struct{ Spot [2]float64 }
	mustJSON(t, dir, &spot, "remark", "show", gap)
	if spot.Spot != [2]float64{28, 756} { // the pay button begins at 16, 748
		t.Errorf("pinned at %v", spot.Spot)
	}
	for args, want := range map[string]string{"remark show beef": "no remark", "remark add booking #pay x --kind qestion": `Did you mean "question"?`,
		"remark add booking #pay x --point 12": "is no point", "remark add booking #adults x --leads-to Nowhere": "does not lead to", "remark reply " + gap + " ": "needs"} {
		if r := run(t, dir, strings.Split(args, " ")...); r.status != 2 || !strings.Contains(r.err, want) {
			t.Errorf("%s: %d %s", args, r.status, r.err)
		}
	}
	write(t, dir, "remarks/bad.md", "---\nat: {source: x, screen: y}\n---\nhello")
	if r := run(t, dir, "remark", "list"); r.status != 2 || !strings.Contains(r.err, "remarks/bad.md:4:1: an entry begins with a heading") {
		t.Errorf("a broken remark: %d %s", r.status, r.err)
	}
}

// TestInbox lists what concerns one, once.
func TestInbox(t *testing.T) {
	t.Parallel()
	dir := repository(t)
	if got := must(t, dir, "inbox").out; !strings.Contains(got, "nothing new") {
		t.Errorf("at first:\n%s", got)
	}
	must(t, dir, "remark", "add", "booking", "#pay", "@aino look", "--by", "Mika Laine")
	must(t, dir, "phase", "set", "booking", "#pay", "held", "-m", "Waits", "--by", "Mika Laine")
	edit(t, filepath.Join(dir, "design/booking.svg"), "Passengers", "Travellers")
	want := []string{"Remarks for Aino", "Mika Laine", "look", "held  Booking: pay", "“Passengers” is “Travellers”"}
	for _, args := range [][]string{{"inbox", "--keep"}, {"inbox"}} {
		got := must(t, dir, args...).out
		for _, w := range want {
			if !strings.Contains(got, w) {
				t.Errorf("%v lacks %q:\n%s", args, w, got)
			}
		}
	}
	commitAll(t, dir, "All of it")
	must(t, dir, "edition", "compare", "--unseen")
	if got := must(t, dir, "edition", "compare", "--unseen").out; !strings.Contains(got, "nothing differs") {
		t.Errorf("seen, and listed again:\n%s", got)
	}
	edit(t, filepath.Join(dir, "design/booking.svg"), "Travellers", "People")
	must(t, dir, "remark", "add", "booking", "#pay", "@aino and this", "--by", "Mika Laine")
	must(t, dir, "phase", "set", "booking", "#pay", "agreed")
	holds(t, "inbox", must(t, dir, "inbox", "--json").out)
	got := must(t, dir, "inbox").out // a remark for me stays until it is closed
	if !strings.Contains(got, "Remarks for Aino") || strings.Contains(got, "held") || strings.Contains(got, "Travellers") {
		t.Errorf("afterwards:\n%s", got)
	}
}

// TestPicturesOfDifferences looks at the pictures of each form.
func TestPicturesOfDifferences(t *testing.T) {
	t.Parallel()
	dir := repository(t)
	must(t, dir, "edition", "cut", "-m", "First", "--anyway")
	edit(t, filepath.Join(dir, "design/booking.svg"), "Passengers", "Travellers")
	edit(t, filepath.Join(dir, "design/booking.svg"), `id="trip-card"`, `id="trip-card" transform="translate(0 8)"`)
	for how, width := range map[string]int{"difference": 390, "overlay": 390, "split": 2*390 + 16, "blink": 390} {
		must(t, dir, "edition", "compare", "--show", how, "-o", "out/"+how)
		data := []byte(read(t, dir, "out", how, "booking.png"))
		img, err := png.Decode(bytes.NewReader(data))
		if err != nil || img.Bounds().Dx() != width {
			t.Fatalf("%s: %v, %v", how, err, img.Bounds())
		}
		if animated := bytes.Contains(data, []byte("acTL")) && bytes.Contains(data, []byte("fdAT")); animated != (how == "blink") {
			t.Errorf("%s: animated %t", how, animated)
		}
	}
	holds(t, "edition-compare", must(t, dir, "edition", "compare", "--show", "split", "-o", "out/json", "--json").out)
	must(t, dir, "edition", "compare", "--as", "markdown", "--show", "difference", "-o", "out/md")
	if md := read(t, dir, "out/md/changes.md"); !strings.Contains(md, "1. “Passengers” is “Travellers”") || !strings.Contains(md, "![Booking: what changed](booking.png)") {
		t.Errorf("Markdown:\n%s", md)
	}
	for args, want := range map[string]string{"--kind moved": "trip-card moved", "--only texts": "Texts", "--only elements --kind reworded": "Travellers"} {
		got := must(t, dir, append([]string{"edition", "compare"}, strings.Fields(args)...)...).out
		if !strings.Contains(got, want) && args != "--only texts" || strings.Contains(got, "trip-card") != strings.Contains(args, "moved") {
			t.Errorf("%s:\n%s", args, got)
		}
	}
	for args, want := range map[string]string{"--show nothing -o x": "Choose difference, overlay", "--show blink": "belong together", "--kind x": "is not known", "--only x": "is not known", "--unseen 1": "takes no states"} {
		if r := run(t, dir, append([]string{"edition", "compare"}, strings.Fields(args)...)...); r.status != 2 || !strings.Contains(r.err, want) {
			t.Errorf("%s: %d %s", args, r.status, r.err)
		}
	}
}

// TestTheGuideOfAnEdition builds the guide of an edition, and one with a page of what changed since, in folders of their own.
func TestTheGuideOfAnEdition(t *testing.T) {
	t.Parallel()
	dir := repository(t)
	must(t, dir, "edition", "cut", "-m", "As agreed", "--anyway")
	edit(t, filepath.Join(dir, "design/booking.svg"), "Passengers", "Travellers")
	must(t, dir, "tokens", "set", "color.coral.500", "#e05028")
	must(t, dir, "guide", "build", "--revision", "1", "-o", "out/one")
	must(t, dir, "guide", "build", "--since", "1", "-o", "out/now")
	if page := read(t, dir, "out/one/index.html"); !strings.Contains(page, "edition 1: As agreed") {
		t.Error("the guide does not say of which edition it is")
	}
	if page := read(t, dir, "out/one/colours.html"); strings.Contains(page, "#e05028") || !strings.Contains(page, "#e4572e") {
		t.Error("the guide of an edition has the tokens of today")
	}
	page := read(t, dir, "out/now/changes.html")
	for _, want := range []string{"From edition 1: As agreed", "“Passengers” is “Travellers”", "img/before-booking.png", "img/now-booking.png", "#e4572e", "#e05028"} {
		if !strings.Contains(page, want) {
			t.Errorf("the page of changes lacks %q", want)
		}
	}
	if got := must(t, dir, "tokens", "list", "color.coral", "--revision", "1").out; !strings.Contains(got, "#e4572e") {
		t.Errorf("tokens list --revision:\n%s", got)
	}
	if r := run(t, dir, "guide", "build", "--revision", "1"); r.status != 2 || !strings.Contains(r.err, "folder of its own") {
		t.Errorf("without -o: %d %s", r.status, r.err)
	}
	g := &guideTab{t, chromium(t), "file://" + filepath.Join(dir, "out/now") + "/"}
	g.visit("changes.html")
	for _, how := range []string{"overlay", "split", "blink", "difference"} {
		asked[bool](g, `[...document.querySelectorAll('.showing button')].find(b => b.dataset.show === '`+how+`').click(), true`)
		g.want(`document.querySelector('.compare').dataset.show === '` + how + `' && document.querySelector('.compare').offsetHeight > 300`)
	}
}

// TestPhasesAndRemarksOutsideGit works without a repository.
func TestPhasesAndRemarksOutsideGit(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	must(t, dir, "phase", "set", "booking", "#pay", "agreed", "--by", "Aino")
	must(t, dir, "remark", "add", "booking", "#pay", "@mika look", "--by", "Aino")
	must(t, dir, "inbox", "--for", "mika")
	must(t, dir, "inbox")
	edit(t, filepath.Join(dir, "design/booking.svg"), "Passengers", "Travellers")
	if got := must(t, dir, "inbox").out; !strings.Contains(got, "design/booking.svg") {
		t.Errorf("a changed drawing is not listed:\n%s", got)
	}
	if r := run(t, dir, "sync", "--pull"); r.status != 2 || !strings.Contains(r.err, "no repository") {
		t.Errorf("--pull outside git: %d %s", r.status, r.err)
	}
}

// TestHostilePhases reads files that nobody should have written.
func TestHostilePhases(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	for name, content := range map[string]string{
		"aliases": "a: &a [x, x, x, x]\nb: &b [*a, *a, *a, *a]\nc: [" + strings.Repeat("*b, ", 200) + "]\n",
		"deep":    strings.Repeat("{a: ", 5000), "binary": "\x00\xff\x00", "a list": "- x\n", "cut": "booking-pay:\n  phase: agreed\n  at: {source: de",
		"conflict marks": "<<<<<<< ours\na: {phase: held}\n=======\n", "unknown key": "a: {phase: held, colour: red, at: {source: a, screen: b}}\n",
	} {
		write(t, dir, "phases.yaml", content)
		for _, args := range [][]string{{"phase", "list"}, {"sync"}} {
			r := run(t, dir, args...)
			if r.status != 2 || !strings.Contains(r.err, "phases.yaml") || strings.Contains(r.err, "fault of the program") {
				t.Errorf("%s, %v: %d %s", name, args, r.status, r.err)
			}
		}
	}
	if err := os.Remove(filepath.Join(dir, "phases.yaml")); err != nil {
		t.Fatal(err)
	}
	for i, words := range []string{"<script>alert(1)</script>", "\x1b]0;title\x07 hello", "---\n---\n", strings.Repeat("long ", 5000)} {
		must(t, dir, "remark", "add", "--", "booking", "#pay", words)
		r := must(t, dir, "remark", "list")
		if strings.ContainsAny(r.out, "\x1b\x07") {
			t.Errorf("%d: control characters reach the terminal: %q", i, r.out)
		}
	}
	if fmt.Sprint(len(tree(t, filepath.Join(dir, "remarks")))) != "5" {
		t.Error("not five remarks")
	}
}
