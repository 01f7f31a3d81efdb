package e2e

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// One drawing that cannot be read stops nothing: the others go on, what was made of it stays, and the status is 2.
func TestAnUnreadableDrawingStopsNothing(t *testing.T) {
	t.Parallel()
	dir := workspaceDemo(t)
	must(t, dir, "sync")
	before := tree(t, dir)
	whole := read(t, dir, "design/timetable.svg")
	write(t, dir, "design/timetable.svg", whole[:len(whole)/2])
	change(t, dir, "design/booking.svg", "On board", "On the boat")

	r := run(t, dir, "sync", "--strict")
	if r.status != 2 || read(t, dir, "text/en.json") != before["text/en.json"] {
		t.Errorf("--strict: status %d\n%s%s", r.status, r.out, r.err)
	}
	if r := run(t, dir, "status"); r.status != 2 || !strings.Contains(r.err, "design/timetable.svg:") ||
		!strings.Contains(r.out, "design/booking.svg") {
		t.Errorf("status: %d\n%s%s", r.status, r.out, r.err)
	}
	r = run(t, dir, "sync")
	if r.status != 2 || strings.Count(r.err, "error ") != 1 || !strings.Contains(r.err, "design/timetable.svg:") ||
		!strings.Contains(r.out, "Written") {
		t.Fatalf("status %d\n%s\n%s", r.status, r.out, r.err)
	}
	after := tree(t, dir)
	for p, data := range before {
		switch {
		case after[p] == "":
			t.Errorf("%s is gone", p)
		case strings.Contains(p, "timetable") && !strings.Contains(p, "-wide") && p != "design/timetable.svg" && after[p] != data:
			t.Errorf("%s was made anew", p)
		}
	}
	if !strings.Contains(after["text/en.json"], "On the boat") || !strings.Contains(after["guide/screens/booking.js"],
		"On the boat") {
		t.Error("the other drawings did not go on")
	}
	for _, words := range []string{"Windy on Saturday", "Island timetable"} {
		if !strings.Contains(after["text/en.json"], words) || !strings.Contains(after["dist/text/en.json"], words) {
			t.Errorf("%q left the texts", words)
		}
	}
	if !strings.Contains(after["dist/assets.json"], "pictures/ferry") || strings.Contains(after["text/keys.json"],
		`"unused":true,"places":[{"source":"design/timetable.svg"`) {
		t.Error("what was made of the unreadable drawing is forgotten")
	}
	if r := must(t, dir, "tokens", "where", "gradient.sky"); !strings.Contains(r.err, "left out") ||
		!strings.Contains(r.err, "design/timetable.svg:") {
		t.Errorf("an answer does not say what it leaves out: %s%s", r.out, r.err)
	}
	if r := run(t, dir, "sync", "--check"); r.status != 2 {
		t.Errorf("--check: status %d\n%s%s", r.status, r.out, r.err)
	}
	if r := run(t, dir, "assets", "export"); r.status != 2 || !strings.Contains(r.err, "design/timetable.svg:") {
		t.Errorf("assets export: status %d\n%s%s", r.status, r.out, r.err)
	}

	write(t, dir, "design/timetable.svg", whole)
	must(t, dir, "sync")
	other := workspaceDemo(t)
	must(t, other, "sync")
	change(t, other, "design/booking.svg", "On board", "On the boat")
	must(t, other, "sync")
	for p, data := range tree(t, other) {
		if got := tree(t, dir)[p]; got != data {
			t.Errorf("%s is not as if nothing had happened", p)
		}
	}
	if r := must(t, dir, "sync", "--check"); !strings.Contains(r.out, "in step") {
		t.Errorf("%s", r.out)
	}
}

// Nothing but an unreadable drawing is still a workspace.
func TestOnlyAnUnreadableDrawing(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	write(t, dir, "archetyp.yaml", "sources: ['*.svg']\n")
	write(t, dir, "a.svg", "<svg")
	if r := run(t, dir, "sync"); r.status != 2 || !strings.Contains(r.err, "a.svg:1:5") {
		t.Errorf("status %d\n%s%s", r.status, r.out, r.err)
	}
}

// text collect --screen writes the texts of some screens, and leaves the others as they are.
func TestCollectSomeScreens(t *testing.T) {
	t.Parallel()
	dir := workspaceDemo(t)
	must(t, dir, "sync")
	before := read(t, dir, "text/keys.json")
	change(t, dir, "design/booking.svg", "On board", "On the boat")
	change(t, dir, "design/timetable.svg", "Windy on Saturday.", "Calm on Sunday.")
	change(t, dir, "design/timetable.svg", `<text class="title" x="24"`, `<text class="title" x="30"`)
	r := must(t, dir, "text", "collect", "--screen", "booking")
	en, keys := read(t, dir, "text/en.json"), read(t, dir, "text/keys.json")
	if !strings.Contains(en, "On the boat") || strings.Contains(en, "Calm") || strings.Contains(r.out, "gone") {
		t.Errorf("%s\n%s", r.out, en)
	}
	if a, b := strings.Split(before, "\n"), strings.Split(keys, "\n"); len(a) != len(b) {
		t.Errorf("%d lines of keys, then %d", len(a), len(b))
	} else {
		for i := range a {
			if a[i] != b[i] && !strings.Contains(a[i], "on-board") {
				t.Errorf("%s\nis now\n%s", a[i], b[i])
			}
		}
	}
	if r := run(t, dir, "text", "collect", "--screen", "Bookings"); r.status != 2 || !strings.Contains(r.err,
		`no drawing has a screen "Bookings"`) || !strings.Contains(r.err, "Timetable") {
		t.Errorf("status %d %s", r.status, r.err)
	}
	must(t, dir, "text", "collect")
	if en := read(t, dir, "text/en.json"); !strings.Contains(en, "Calm on Sunday") {
		t.Error(en)
	}
}

// What is no selector, or matches nothing, is tried as a name; the tree shows how to address each element.
func TestNamesAddressElements(t *testing.T) {
	t.Parallel()
	dir := workspaceDemo(t)
	says(t, dir, "outline components", "Buttons", "#buttons > text:nth-child(1)", "Main button, default",
		"#buttons > g:nth-child(8)")
	if r := must(t, dir, "spec", "components", "Badge, good"); !strings.Contains(r.out, "Badge, good  group") ||
		!strings.Contains(r.err, `"Badge, good" is taken as a name: #badges > g:nth-child(2)`) {
		t.Error(r.out, r.err)
	}
	if r := must(t, dir, "measure", "components", "quiet button, HOVER"); !strings.Contains(r.out, "Quiet button, hover") {
		t.Error(r.out, r.err)
	}
	if r := run(t, dir, "spec", "timetable", "Sailing"); r.status != 2 || !strings.Contains(r.err,
		`elements are called "Sailing"`) || !strings.Contains(r.err, "'#sailing-2'") {
		t.Error(r.out, r.err)
	}
	if r := run(t, dir, "spec", "components", "Badge, god"); r.status != 2 || !strings.Contains(r.err,
		"Did you mean Badge, good?") {
		t.Error(r.out, r.err)
	}
	if r := run(t, dir, "spec", "components", "#[["); r.status != 2 || !strings.Contains(r.err, "selector:1:") {
		t.Error(r.out, r.err)
	}
}

// Look-alikes are found inside of others, where they are used by reference, and over several files.
func TestAlikeLooksEverywhere(t *testing.T) {
	t.Parallel()
	dir := workspaceDemo(t)
	says(t, dir, "outline --alike", "badge 10 alike", "design/components.svg #badges > g:nth-child(2)",
		"design/timetable.svg #sailing-1 > g:nth-child(6)")
	says(t, dir, "outline timetable --alike", "badge 3 alike, 1 the same, in each sailing-row")
	for _, f := range []string{"piers", "sailings", "lockers"} {
		data, err := os.ReadFile(filepath.Join("testdata", "screens", f+".svg"))
		if err != nil {
			t.Fatal(err)
		}
		write(t, dir, f+".svg", string(data))
	}
	says(t, dir, "outline piers.svg --alike", "pier 3 alike, 2 the same", "pier-row 3 alike, no difference, in each pier",
		"chip 3 alike, 2 the same, in each pier")
	says(t, dir, "outline sailings.svg --alike", "state 4 alike, 3 the same")
	says(t, dir, "outline lockers.svg --alike", "book 3 alike, no difference")
}

// What stands evenly by its middles stands evenly, and what has as much room on both sides is in the middle.
func TestEvenByMiddlesAndCentred(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	write(t, dir, "bar.svg", `<svg xmlns="http://www.w3.org/2000/svg" width="390" height="200"><rect width="390" height="200" fill="#fff"/>
		<g id="bar"><rect x="0" width="390" height="60" fill="#eee"/><rect x="40" y="20" width="20" height="20"/><rect x="175" y="20" width="40" height="20"/><rect x="325" y="20" width="30" height="20"/></g>
		<g id="card"><rect x="45" y="80" width="300" height="80" fill="#eee"/><rect id="in" x="95" y="100" width="200" height="30"/></g></svg>`)
	says(t, dir, "measure bar.svg #bar>rect:nth-child(2)",
		"3 siblings in a row stand evenly by their middles, 145px apart")
	says(t, dir, "spec bar.svg #bar", "flex-direction row", "middles 145px apart")
	if r := must(t, dir, "code", "bar.svg", "#bar"); strings.Contains(r.out, "uneven") || !strings.Contains(r.out,
		"evenly apart") {
		t.Error(r.out)
	}
	says(t, dir, "measure bar.svg #card", "centred across")
	says(t, dir, "spec bar.svg #card", "centred across derived as much room on both sides")
	if r := must(t, dir, "measure", "bar.svg", "#in"); !strings.Contains(r.out, "centred across\n") {
		t.Error(r.out)
	}
}
