package e2e

import (
	"path/filepath"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
)

// repository is the demo in a repository of git, with one commit.
func repository(t *testing.T) string {
	t.Helper()
	need(t, "git")
	dir := demo(t)
	mustGit(t, dir, "init", "-q", "-b", "main")
	mustGit(t, dir, "config", "user.name", "Aino")
	mustGit(t, dir, "config", "user.email", "aino@tern.example")
	commitAll(t, dir, "The ferry as drawn")
	return dir
}

// commitAll commits all there is.
func commitAll(t testing.TB, dir, message string) {
	t.Helper()
	mustGit(t, dir, "add", "-A")
	mustGit(t, dir, "commit", "-q", "-m", message)
}

// TestEditions cuts two editions, and compares them with each other and with the folder.
func TestEditions(t *testing.T) {
	t.Parallel()
	dir := repository(t)
	must(t, dir, "edition", "cut", "-m", "As agreed with the harbour office\n\nAll screens.", "--anyway")
	svg := read(t, dir, "design/booking.svg")
	write(t, dir, "design/booking.svg", strings.NewReplacer("Your trip", "Your crossing", `id="trip-card"`, `id="trip-card" transform="translate(0 8)"`).Replace(svg))
	must(t, dir, "tokens", "set", "color.coral.500", "#e05028")
	must(t, dir, "sync")
	now := must(t, dir, "edition", "compare").out
	for _, want := range []string{"from edition/1 to the folder as it is", "“Your trip” is “Your crossing”", "trip-card moved 8 px down with the 9 in it", "color.coral.500", "booking.your-trip"} {
		if !strings.Contains(now, want) {
			t.Errorf("the comparison lacks %q:\n%s", want, now)
		}
	}
	if r := run(t, dir, "edition", "compare", "--check"); r.status != 1 {
		t.Errorf("--check: status %d", r.status)
	}
	commitAll(t, dir, "Trip card lower")
	must(t, dir, "edition", "cut", "-m", "Trip card lower", "--anyway", "--draft", "Booking", "Timetable")
	if got := must(t, dir, "edition", "compare", "1", "edition/2").out; got[strings.Index(got, "\n"):] != now[strings.Index(now, "\n"):] {
		t.Errorf("from 1 to 2:\n%s\nbefore it was cut:\n%s", got, now)
	}
	if r := run(t, dir, "edition", "compare", "--check"); r.status != 0 || !strings.Contains(r.out, "nothing differs") {
		t.Errorf("from the last edition: status %d\n%s", r.status, r.out)
	}
	if got := must(t, dir, "edition", "compare", "1", "2", "--screen", "Timetable").out; strings.Contains(got, "trip-card") {
		t.Errorf("another screen:\n%s", got)
	}
	if got := must(t, dir, "edition", "compare", "1", "2", "--as", "markdown").out; !strings.Contains(got, "### Booking\n\n- “Your trip”") {
		t.Errorf("Markdown:\n%s", got)
	}
	if got := must(t, dir, "edition", "list").out; !strings.Contains(got, "edition/2") || !strings.Contains(got, "draft; Booking, Timetable") || strings.Index(got, "edition/2") > strings.Index(got, "edition/1") {
		t.Errorf("list:\n%s", got)
	}
	if got := must(t, dir, "edition", "list", "--screen", "Booking").out; !strings.Contains(got, "Trip card lower") || !strings.Contains(got, "moved 8 px down") {
		t.Errorf("history:\n%s", got)
	}
	if got := must(t, dir, "edition", "show", "1").out; !strings.Contains(got, "All screens.") || !strings.Contains(got, "6 screens") {
		t.Errorf("show:\n%s", got)
	}
	for command, want := range map[string]string{
		"spec edition/1:booking #title --value words": "Your trip", "spec booking #title --value words": "Your crossing",
		"measure main~1:design/booking.svg #trip-card --value y": "128px", "measure edition/2:booking.svg #trip-card --value y": "136px",
	} {
		if got := must(t, dir, strings.Fields(command)...).out; !strings.Contains(got, want) {
			t.Errorf("%s: %s, want %s", command, got, want)
		}
	}
	must(t, dir, "render", "edition/1:booking", "#pay", "-o", filepath.Join(t.TempDir(), "pay.png"))
	if r := run(t, dir, "spec", "edition/1:nothing"); r.status != 2 || !strings.Contains(r.err, "has no source nothing") {
		t.Errorf("an unknown source: %d %s", r.status, r.err)
	}
	if got := mustGit(t, dir, "status", "--porcelain"); got != "" {
		t.Errorf("reading left files:\n%s", got)
	}
	for schema, command := range map[string]string{"edition-list": "edition list", "edition-show": "edition show 2", "edition-compare": "edition compare 1 2"} {
		holds(t, schema, must(t, dir, append(strings.Fields(command), "--json")...).out)
	}
	holds(t, "edition-list", must(t, dir, "edition", "list", "--screen", "Booking", "--json").out)
	holds(t, "edition-cut", must(t, dir, "edition", "cut", "-m", "again", "--anyway", "--json").out)
}

// holds holds JSON against a schema of the docs.
func holds(t *testing.T, schema, text string) {
	t.Helper()
	file, err := filepath.Abs(filepath.Join("../docs/schema", schema+".schema.json"))
	if err != nil {
		t.Fatal(err)
	}
	s, err := jsonschema.NewCompiler().Compile(file)
	if err != nil {
		t.Fatal(err)
	}
	v, err := jsonschema.UnmarshalJSON(strings.NewReader(text))
	if err == nil {
		err = s.Validate(v)
	}
	if err != nil {
		t.Errorf("%s: %v\n%.400s", schema, err, text)
	}
}

func TestEditionsThatAreRefused(t *testing.T) {
	t.Parallel()
	dir := repository(t)
	refused := func(why string, args ...string) {
		t.Helper()
		if r := run(t, dir, args...); r.status != 2 || !strings.Contains(r.err, why) {
			t.Errorf("%q: status %d\n%s%s", args, r.status, r.out, r.err)
		}
	}
	refused("no edition has been cut", "edition", "compare")
	refused("needs a message", "edition", "cut")
	refused("needs a message", "edition", "cut", "-m", "  ")
	refused("tokens check", "edition", "cut", "-m", "x")
	refused(`there is no screen "Quay"`, "edition", "cut", "-m", "x", "--anyway", "Quay")
	write(t, dir, "notes.txt", "x")
	refused("notes.txt", "edition", "cut", "-m", "x", "--anyway")
	write(t, dir, "design/booking.svg", strings.Replace(read(t, dir, "design/booking.svg"), "Your trip", "Your crossing", 1))
	commitAll(t, dir, "not synced")
	refused("out of step", "edition", "cut", "-m", "x", "--anyway")
	refused("no revision that git knows", "edition", "compare", "7")
	refused("is no revision", "edition", "compare", "--", "-x")
	refused("there is no edition 7", "edition", "show", "7")
	for _, tag := range []string{"edition/01", "edition/x", "edition/2"} { // none of them is an edition: no number, or no message
		mustGit(t, dir, "tag", tag)
	}
	mustGit(t, dir, "tag", "-a", "-m", "%(if)\x1b[31m <b>\nScreens: A, B", "edition/3")
	list := must(t, dir, "edition", "list").out
	if strings.Contains(list, "edition/2") || strings.Contains(list, "edition/01") || !strings.Contains(list, "edition/3") || strings.Contains(list, "\x1b[31m") {
		t.Errorf("list: %q", list)
	}
	outside := t.TempDir()
	if r := run(t, demo(t), "edition", "list"); r.status != 2 || !strings.Contains(r.err, "lies in no repository") {
		t.Errorf("outside of a repository: %d %s", r.status, r.err)
	}
	if r := run(t, outside, "edition", "list"); r.status != 2 {
		t.Errorf("outside of a workspace: %d %s", r.status, r.err)
	}
}

// TestScreensLeftOutAreInNoEdition leaves explorations out of editions and comparisons.
func TestScreensLeftOutAreInNoEdition(t *testing.T) {
	t.Parallel()
	dir := repository(t)
	edit(t, filepath.Join(dir, "archetyp.yaml"), "root:", "screens: {leave-out: [\"Time*\"]}\nroot:")
	must(t, dir, "sync")
	commitAll(t, dir, "Without the timetables")
	if r := run(t, dir, "edition", "cut", "-m", "x", "--anyway", "Timetable"); r.status != 2 || !strings.Contains(r.err, "left out") {
		t.Errorf("a screen that is left out: %d %s", r.status, r.err)
	}
	must(t, dir, "edition", "cut", "-m", "Without the timetables", "--anyway")
	if got := must(t, dir, "edition", "show", "1").out; !strings.Contains(got, "Screens: ") || strings.Contains(got, "Timetable") {
		t.Errorf("%s", got)
	}
	edit(t, filepath.Join(dir, "design/timetable.svg"), "Account", "Konto")
	edit(t, filepath.Join(dir, "design/booking.svg"), "Passengers", "Travellers")
	if got := must(t, dir, "edition", "compare", "--only", "elements").out; strings.Contains(got, "Konto") || !strings.Contains(got, "Travellers") {
		t.Errorf("%s", got)
	}
}
