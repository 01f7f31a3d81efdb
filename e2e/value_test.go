package e2e

import (
	"encoding/base64"
	"os/exec"
	"strings"
	"testing"
)

// A bare fact for a script or the clipboard.
func TestBareValues(t *testing.T) {
	t.Parallel()
	dir := workspaceDemo(t)
	for command, want := range map[string]string{
		"spec booking #pay --value width":                                              "358px",
		"spec booking #pay --value border-radius --unit rem":                           "0.75rem",
		"spec booking #pay --value fill":                                               "#0b6e8f",
		"spec components [data-component=badge]>rect --value height":                   "32px\n32px\n32px\n32px",
		"measure booking #adults #children --value gap-down":                           "8px",
		"measure booking #pay --value inset-left --unit rem":                           "1rem",
		"measure booking #adults,#children --value gap":                                "8px",
		"sample booking 30,776 --value token":                                          "color.action.default",
		"sample booking 30,776 60,20 --value own":                                      "#0b6e8f\n#0b4f69",
		"spec components [data-component=badge]>text --value font-size --color always": "14px\n14px\n14px\n14px",
	} {
		if r := must(t, dir, strings.Fields(command)...); strings.TrimSuffix(r.out, "\n") != want &&
			!(strings.Contains(command, "60,20") && strings.HasPrefix(r.out, "#0b6e8f\n#")) {
			t.Errorf("%s: %q, want %q", command, r.out, want)
		}
	}
	for _, c := range [][2]string{
		{"spec booking #pay --value colour", "#pay has no value called \"colour\""}, {"spec booking --value width",
			"--value needs a SELECTOR"},
		{"spec booking #pay --copy", "there is no terminal here"}, {"sample booking 30,776 --value x",
			"It has painted, rgb, oklch, token"},
	} {
		if r := run(t, dir, strings.Fields(c[0])...); r.status != 2 || !strings.Contains(r.err, c[1]) {
			t.Errorf("%s: status %d, %s", c[0], r.status, r.err)
		}
	}
	need(t, "script")
	cmd := exec.Command("script", "-qec", program+" spec booking '#pay' --value width --copy", "/dev/null")
	cmd.Dir = dir
	if r := finish(t, cmd); !strings.Contains(r.out,
		"\x1b]52;c;"+base64.StdEncoding.EncodeToString([]byte("358px"))+"\x07") {
		t.Errorf("%q", r.out)
	}
}

// An output of texts spells keys as its platform does.
func TestTextsInThePlatformsSpelling(t *testing.T) {
	t.Parallel()
	dir := workspaceDemo(t)
	cfg := read(t, dir, "archetyp.yaml")
	write(t, dir, "archetyp.yaml", strings.Replace(cfg, "  outputs:\n    - {as: json, to: \"dist/text/{locale}.json\"}\n",
		"  outputs:\n    - {as: json, to: \"dist/text/{locale}.json\"}\n    - {as: json, to: "+
			"\"dist/snake/{locale}.json\", keys: snake}\n    - {as: json, to: \"dist/camel/{locale}.json\", keys: camel}\n   "+
			" - {as: strings, to: \"dist/kebab/{locale}.strings\", keys: kebab}\n", 1))
	must(t, dir, "sync")
	for file, key := range map[string]string{"dist/text/en.json": `"booking.on-board"`,
		"dist/snake/en.json": `"booking_on_board"`, "dist/snake/de.json": `"booking_on_board"`,
		"dist/camel/en.json": `"bookingOnBoard"`, "dist/kebab/fi.strings": `"booking-on-board"`} {
		if !strings.Contains(read(t, dir, file), key) {
			t.Errorf("%s has no %s\n%s", file, key, read(t, dir, file)[:300])
		}
	}
	write(t, dir, "archetyp.yaml", cfg)
	change(t, dir, "archetyp.yaml", `{as: json, to: "dist/text/{locale}.json"}`,
		`{as: json, to: "dist/text/{locale}.json", keys: shout}`)
	if r := run(t, dir, "sync"); r.status != 2 || !strings.Contains(r.err, "there are kebab, snake, camel, dots") {
		t.Errorf("status %d %s", r.status, r.err)
	}
}

// What repeats one column or row of pixels is exported as that one, with the CSS that repeats it.
func TestStrips(t *testing.T) {
	t.Parallel()
	dir := workspaceDemo(t)
	r := must(t, dir, "assets", "export", "timetable", "#header > rect", "--strip", "--at", "1,2", "-o", "sky.png")
	for _, want := range []string{"1 × 248", "2 × 496",
		`background: url("sky.png") repeat-x; background-size: 1px 248px`} {
		if !strings.Contains(r.out, want) {
			t.Errorf("no %q in\n%s", want, r.out)
		}
	}
	write(t, dir, "side.svg",
		`<svg xmlns="http://www.w3.org/2000/svg" width="90" height="40"><linearGradient id="g"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient><rect id="x" width="90" height="40" fill="url(#g)"/></svg>`)
	var j struct {
		Files []struct {
			Width, Height int
			CSS           string
		}
	}
	mustJSON(t, dir, &j, "assets", "export", "side.svg", "#x", "--strip", "-o", "side.webp")
	if len(j.Files) != 1 || j.Files[0].Width != 90 || j.Files[0].Height != 1 ||
		j.Files[0].CSS != `background: url("side.webp") repeat-y; background-size: 90px 1px` {
		t.Errorf("%+v", j)
	}
	if r := run(t, dir, "assets", "export", "booking", "#pay", "--strip", "-o", "pay.png"); r.status != 2 ||
		!strings.Contains(r.err, "pay is no strip") {
		t.Errorf("status %d %s", r.status, r.err)
	}
}

// A warning is told once for each cause, at the end, and not where silence is asked for.
func TestWarningsAreOneACause(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	write(t, dir, "archetyp.yaml", "sources: ['*.svg']\n")
	for _, n := range []string{"a", "b", "c"} {
		write(t, dir, n+".svg",
			`<svg xmlns="http://www.w3.org/2000/svg" width="90" height="40"><text y="20" font-family="Quay">one</text><text y="30" font-family="Quay" font-weight="700">two</text><text y="40" font-family="Pier">three</text></svg>`)
	}
	r := must(t, dir, "sync")
	if n := strings.Count(r.out+r.err, `"Quay" is missing`); n != 1 || !strings.Contains(r.out,
		"a.svg:1:64 and in 2 more: the font family \"Quay\" is missing") {
		t.Errorf("told %d times\n%s%s", n, r.out, r.err)
	}
	if i, k := strings.Index(r.out, "Written"), strings.Index(r.out, "Warnings"); i < 0 || k < i {
		t.Error(r.out)
	}
	r = must(t, dir, "spec", "a.svg", "text")
	if strings.Count(r.err, `"Quay" is missing`) != 1 || strings.Count(r.err, "warning") != 2 {
		t.Error(r.err)
	}
	if r := must(t, dir, "spec", "a.svg", "text", "--quiet"); r.err != "" {
		t.Error(r.err)
	}
}
