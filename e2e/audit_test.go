package e2e

import (
	"bytes"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"math"
	"math/rand"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"archetyp/core/audit"
	"archetyp/core/color"

	"github.com/santhosh-tekuri/jsonschema/v6"
)

type audited struct {
	Findings []struct {
		Rule, Level, Message, Why, Do, ID string
		Places                            []struct {
			Source, Screen, Path, Selector string
			Line, Column                   int
		}
	}
	Counts             map[string]int
	Accepted, Excepted int
	Gone               []struct{ Rule string }
}

// auditOf audits, whatever is found.
func auditOf(t *testing.T, dir string, args ...string) audited {
	t.Helper()
	var out audited
	r := run(t, dir, append([]string{"audit", "--json", "--fail-on", "never"}, args...)...)
	if r.status != 0 {
		t.Fatalf("%d %s", r.status, r.err)
	}
	if err := json.Unmarshal([]byte(r.out), &out); err != nil {
		t.Fatal(err)
	}
	return out
}

// TestAuditOfTheDemo finds the flaws that the demo's README names, and nothing else.
func TestAuditOfTheDemo(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	want := map[string][]string{
		"contrast":       {"#9db0bf on #f5f8fa", "#8195a6 on #ffffff", "#0b6e8f on #cde6ef", "#ffffff on"},
		"near-duplicate": {"#0c6f91 is almost #0b6e8f", "#eaf0f4 is almost #e3f1f6", "13px is almost 12px"},
		"missing-state":  {"button tone=quiet has no states disabled and loading"},
		"filler":         {"“Lorem ipsum dolor”"},
	}
	found := map[string]bool{}
	for _, f := range auditOf(t, dir).Findings {
		known := slices.ContainsFunc(want[f.Rule], func(w string) bool {
			if strings.HasPrefix(f.Message, w) {
				found[w] = true
				return true
			}
			return false
		})
		if !known {
			t.Errorf("%s: %s", f.Rule, f.Message)
		}
		if len(f.Places) == 0 || f.Places[0].Line == 0 || f.Why == "" || f.Do == "" || len(f.ID) != 16 {
			t.Errorf("%+v", f)
		}
	}
	for rule, list := range want {
		for _, w := range list {
			if !found[w] {
				t.Errorf("%s: %s was not found", rule, w)
			}
		}
	}
	says(t, dir, "audit --fail-on never", "error contrast", "warning near-duplicate", "Use #0b6e8f.", "errors, ")
	says(t, dir, "audit --rules", "unnamed", "names", "warning", "contrast", "access", "error")
	says(t, dir, "audit booking --only values --fail-on never", "13px is almost 12px")
	says(t, dir, "audit --questions --fail-on never", "Booking", "- ", "13px is almost 12px. Use 12px.")
	says(t, dir, "audit --as markdown --fail-on never", "## design/booking.svg", "| error | contrast |")
	says(t, dir, "audit --verbose --fail-on never", "in components", "Timetable", "%")
	says(t, dir, "audit site/index.html --fail-on never", "15px is off the scale")
	for args, status := range map[string]int{"audit": 1, "audit --only filler": 0, "audit --only filler --fail-on warning": 1, "audit --only hidden --level note --fail-on note": 1,
		"audit --only nothing": 2, "audit --level grave": 2, "audit --as xml": 2, "audit --accept": 2, "audit --baseline none.json": 2, "audit --fail-on off": 2} {
		if r := run(t, dir, strings.Fields(args)...); r.status != status {
			t.Errorf("%s ended with %d: %s", args, r.status, r.err)
		}
	}
}

// TestAuditIsConfigured sets levels, sources, exceptions and lengths, and refuses what means nothing.
func TestAuditIsConfigured(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	config := read(t, dir, "archetyp.yaml")
	write(t, dir, "archetyp.yaml", config+`audit:
  filler: off
  near-duplicate: {level: note, in: [design/booking.svg]}
  contrast: {except: [{select: "#small-print", reason: "the law gives its size"}]}
  hidden: error
  smallest-text: 15px
`)
	got := auditOf(t, dir, "--level", "note")
	rules := map[string]int{}
	for _, f := range got.Findings {
		rules[f.Rule+" "+f.Level]++
		if f.Rule == "near-duplicate" && f.Places[0].Source != "design/booking.svg" || strings.Contains(f.Message, "Lorem") {
			t.Errorf("%+v", f)
		}
		for _, p := range f.Places {
			if f.Rule == "contrast" && p.Selector == "#small-print" {
				t.Errorf("%+v", f)
			}
		}
	}
	if rules["hidden error"] != 1 || rules["near-duplicate note"] == 0 || rules["small-text warning"] == 0 || got.Excepted != 1 {
		t.Errorf("%v, %d excepted", rules, got.Excepted)
	}
	for setting, want := range map[string]string{
		"contrats: off": "did you mean contrast?", "contrast: grave": "no level", "smallest-text: large": "no length",
		"contrast: {except: [{select: \"#a\"}]}": "no reason", "contrast: {except: [{select: \"##\", reason: x}]}": "selector", "contrast: {unless: x}": "is not known",
	} {
		write(t, dir, "archetyp.yaml", config+"audit:\n  "+setting+"\n")
		if r := run(t, dir, "audit"); r.status != 2 || !strings.Contains(r.err, want) || !strings.Contains(r.err, "archetyp.yaml:") {
			t.Errorf("%s: %d %s", setting, r.status, r.err)
		}
	}
}

// TestAuditBaseline accepts what is there, and finds what is new.
func TestAuditBaseline(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	must(t, dir, "audit", "--baseline", "known.json", "--accept", "--reason", "until autumn")
	if !strings.Contains(read(t, dir, "known.json"), `"reason": "until autumn"`) {
		t.Error(read(t, dir, "known.json"))
	}
	validJSON(t, "audit-baseline", read(t, dir, "known.json"))
	if r := must(t, dir, "audit", "--baseline", "known.json"); !strings.Contains(r.out, "nothing found") || !strings.Contains(r.out, "accepted by known.json") {
		t.Error(r.out)
	}
	change(t, dir, "design/booking.svg", "Your trip", "Your text here")
	change(t, dir, "design/components.svg", "Lorem ipsum dolor", "Free to change")
	got := auditOf(t, dir, "--baseline", "known.json")
	if len(got.Findings) != 1 || got.Findings[0].Rule != "filler" || len(got.Gone) != 1 || got.Gone[0].Rule != "filler" || got.Accepted == 0 {
		t.Errorf("%+v", got)
	}
	write(t, dir, "known.json", `{"baseline": 2}`)
	if r := run(t, dir, "audit", "--baseline", "known.json"); r.status != 2 || !strings.Contains(r.err, "version 2") {
		t.Errorf("%d %s", r.status, r.err)
	}
}

// TestAuditAsSARIF holds the form against its schema, and its places against the files.
func TestAuditAsSARIF(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	for _, source := range []string{"", "site/index.html"} {
		args := append([]string{"audit", "--as", "sarif", "--fail-on", "never", "--level", "note"}, strings.Fields(source)...)
		text := must(t, dir, args...).out
		s, err := jsonschema.NewCompiler().Compile("testdata/sarif-2.1.0.schema.json")
		if err != nil {
			t.Fatal(err)
		}
		v, err := jsonschema.UnmarshalJSON(strings.NewReader(text))
		if err != nil {
			t.Fatal(err)
		}
		if err := s.Validate(v); err != nil {
			t.Error(err)
		}
		var log struct {
			Runs []struct {
				Results []struct {
					RuleID    string
					Locations []struct {
						PhysicalLocation struct {
							ArtifactLocation struct{ URI string }
							Region           struct{ StartLine, StartColumn int }
						}
					}
				}
			}
		}
		if err := json.Unmarshal([]byte(text), &log); err != nil {
			t.Fatal(err)
		}
		if len(log.Runs[0].Results) == 0 {
			t.Error("no results")
		}
		for _, r := range log.Runs[0].Results {
			at := r.Locations[0].PhysicalLocation
			if strings.Contains(at.ArtifactLocation.URI, "poster") { // which is no text
				continue
			}
			lines := strings.Split(read(t, dir, at.ArtifactLocation.URI), "\n")
			if strings.HasSuffix(at.ArtifactLocation.URI, ".css") { // a declaration
				if at.Region.StartLine > len(lines) || !strings.Contains(lines[at.Region.StartLine-1], ":") {
					t.Errorf("%s: no declaration stands at %+v", r.RuleID, at)
				}
				continue
			}
			if at.Region.StartLine > len(lines) || !strings.HasPrefix(string([]rune(lines[at.Region.StartLine-1])[at.Region.StartColumn-1:]), "<") {
				t.Errorf("%s: no element begins at %+v", r.RuleID, at)
			}
		}
	}
}

// TestAuditPictures frames what was found on each screen.
func TestAuditPictures(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	must(t, dir, "audit", "--fail-on", "never", "-o", "audit")
	for _, name := range []string{"booking", "components", "timetable"} {
		img := decode(t, []byte(read(t, dir, "audit/"+name+".png")))
		frames := 0
		for y := range img.Bounds().Dy() {
			for x := range img.Bounds().Dx() {
				if r, g, b, _ := img.At(x, y).RGBA(); r>>8 == 0xff && g>>8 == 0x4d && b>>8 == 0x5e {
					frames++
				}
			}
		}
		if frames < 100 {
			t.Errorf("%s: %d pixels of frames", name, frames)
		}
	}
}

// TestContrastIsWhatChromiumPaints holds the contrast over gradients and pictures against Chromium's pixels, in 50 cases
// by a fixed seed: the page with its words, without them, and the words alone on white and on black.
func TestContrastIsWhatChromiumPaints(t *testing.T) {
	t.Parallel()
	ctx := chromium(t)
	dir := t.TempDir()
	r := rand.New(rand.NewSource(18))
	picture := image.NewRGBA(image.Rect(0, 0, 60, 24))
	for i := range picture.Pix {
		picture.Pix[i] = uint8(r.Intn(256))
		if i%4 == 3 {
			picture.Pix[i] = 255
		}
	}
	var packed bytes.Buffer
	if err := png.Encode(&packed, picture); err != nil {
		t.Fatal(err)
	}
	data := "data:image/png;base64," + base64.StdEncoding.EncodeToString(packed.Bytes())
	font, err := os.ReadFile(filepath.Join(demoFiles(t), "fonts/HankenGrotesk-Bold.ttf"))
	if err != nil {
		t.Fatal(err)
	}
	face := `<style>@font-face{font-family:"Hanken Grotesk";font-weight:700;src:url(data:font/ttf;base64,` + base64.StdEncoding.EncodeToString(font) + `)}</style>`
	write(t, dir, "w/fonts/HankenGrotesk-Bold.ttf", string(font))
	wants, limits := make([]float64, 50), make([]float64, 50)
	for i := range wants {
		ground, text, size := contrastCase(r, i, data)
		paint := func(inside string) *image.RGBA {
			write(t, dir, "x.svg", `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="120">`+face+inside+`</svg>`)
			open(t, ctx, filepath.Join(dir, "x.svg"), 300, 120, 2)
			return onWhite(shoot(t, ctx))
		}
		front, back := paint(ground+text), paint(ground)
		wants[i] = fifth(front, back, paint(`<rect width="300" height="120" fill="#ffffff"/>`+blackened(text)))
		write(t, dir, fmt.Sprintf("w/%02d.svg", i), `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="120">`+ground+text+`</svg>`)
		if limits[i] = 4.5; size >= 19 { // at this weight
			limits[i] = 3
		}
	}
	write(t, dir, "w/archetyp.yaml", "name: W\nsources: ['*.svg']\nfonts: [fonts/]\n")
	got := make([]float64, len(wants))
	for _, f := range auditOf(t, filepath.Join(dir, "w"), "--only", "contrast").Findings {
		var i int
		if _, err := fmt.Sscanf(f.Places[0].Source, "%d.svg", &i); err != nil {
			t.Fatal(err)
		}
		if _, rest, ok := strings.Cut(f.Message, " has "); ok {
			fmt.Sscanf(rest, "%f", &got[i])
		}
	}
	judged := 0
	for i, want := range wants {
		switch {
		case got[i] == 0 && want > limits[i]-0.06:
		case got[i] == 0 || math.Abs(got[i]-want) > 0.03*want+0.02:
			t.Errorf("case %d: %.2f, and Chromium paints %.2f", i, got[i], want)
		default:
			judged++
		}
	}
	if judged < 25 {
		t.Errorf("only %d cases are below the limit", judged)
	}
}

// contrastCase is a ground (a gradient, a picture, half a box over one) and a text on it.
func contrastCase(r *rand.Rand, i int, picture string) (ground, text string, size int) {
	hex := func() string { return fmt.Sprintf("#%02x%02x%02x", r.Intn(256), r.Intn(256), r.Intn(256)) }
	ground = fmt.Sprintf(`<defs><linearGradient id="g" x2="%.2f" y2="%.2f"><stop offset="0" stop-color="%s"/><stop offset="%.2f" stop-color="%s"/><stop offset="1" stop-color="%s"/></linearGradient></defs><rect width="300" height="120" fill="url(#g)"/>`,
		r.Float64(), r.Float64(), hex(), r.Float64(), hex(), hex())
	switch i % 4 {
	case 1:
		ground = `<image width="300" height="120" preserveAspectRatio="none" href="` + picture + `"/>`
	case 2:
		ground += fmt.Sprintf(`<rect x="20" y="20" width="260" height="80" rx="8" fill="%s" fill-opacity="%.2f"/>`, hex(), r.Float64())
	case 3:
		ground = fmt.Sprintf(`<defs><radialGradient id="g"><stop stop-color="%s"/><stop offset="1" stop-color="%s"/></radialGradient></defs><rect width="300" height="120" fill="url(#g)"/>`, hex(), hex())
	}
	size = 20 + r.Intn(30)
	text = fmt.Sprintf(`<text id="t" x="20" y="%d" font-family="Hanken Grotesk" font-weight="700" font-size="%d" fill="%s" fill-opacity="%.2f">Tides</text>`,
		40+r.Intn(30), size, hex(), 1-0.5*float64(i%2)*r.Float64())
	return ground, text, size
}

// blackened is a text in black.
func blackened(text string) string {
	before, rest, _ := strings.Cut(text, ` fill="`)
	_, after, _ := strings.Cut(rest, `>`)
	return before + ` fill="#000000">` + after
}

// fifth is the contrast that all but a twentieth of the pixels have that words cover by half or more.
func fifth(front, back, mask *image.RGBA) float64 {
	var all []float64
	for i := 0; i < len(mask.Pix); i += 4 {
		if mask.Pix[i] > 8 { // words cover it not in full
			continue
		}
		a, b := color.RGB8(front.Pix[i], front.Pix[i+1], front.Pix[i+2]), color.RGB8(back.Pix[i], back.Pix[i+1], back.Pix[i+2])
		all = append(all, color.Contrast(a, b))
	}
	slices.Sort(all)
	return all[len(all)/20]
}

// TestAuditOfNothing ends well on drawings without anything to say.
func TestAuditOfNothing(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	write(t, dir, "a.svg", `<svg xmlns="http://www.w3.org/2000/svg" width="0" height="0"/>`)
	write(t, dir, "b.svg", `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><text x="1" y="5" font-size="0"> </text><g/></svg>`)
	write(t, dir, "c.html", `<p>`)
	for _, source := range []string{"a.svg", "b.svg", "c.html"} {
		if r := run(t, dir, "audit", source, "--level", "note"); r.status != 0 || !strings.Contains(r.out, "nothing found") {
			t.Errorf("%s: %d %s%s", source, r.status, r.out, r.err)
		}
	}
	if n := len(audit.Rules); n < 30 {
		t.Errorf("%d rules", n)
	}
}
