package e2e

import (
	"path/filepath"
	"strings"
	"testing"
)

// widthsOf is a folder with a screen drawn for a phone and for a wide window, and the demo's fonts and tokens.
func widthsOf(t testing.TB) string {
	t.Helper()
	dir, _ := pageSources(t)
	for _, f := range []string{"fares.svg", "fares-wide.svg"} {
		write(t, dir, filepath.Join("design", f), read(t, "testdata/widths", f))
	}
	return dir
}

// TestTwoWidthsOneMarkup holds that two drawings of one screen become one page, with what differs under a media query.
func TestTwoWidthsOneMarkup(t *testing.T) {
	dir := widthsOf(t)
	r := must(t, dir, "code", "fares-wide", "--as", "html", "--also", "fares", "--from", "48rem")
	for _, want := range []string{"@media (min-width: 48rem) {\n  body {\n    max-width: 1280px;", "display: grid;", "<h1 class=\"title\">Fares</h1>",
		"max-width: 390px;"} {
		if !strings.Contains(r.out, want) {
			t.Errorf("no %q in\n%s", want, r.out)
		}
	}
	if n := strings.Count(r.out, ">Weekend<"); n != 1 {
		t.Errorf("words are there %d times", n)
	}
	if strings.Contains(r.err, "drawing") || !strings.Contains(r.err, "gaps and widths") {
		t.Errorf("something has no counterpart: %s", r.err)
	}
	write(t, dir, "design/more.svg", strings.Replace(read(t, "testdata/widths/fares-wide.svg"), "</svg>",
		`<text id="extra" x="1000" y="440" font-size="16">Only here</text></svg>`, 1))
	if r := must(t, dir, "code", "fares", "--as", "html", "--also", "more"); !strings.Contains(r.err, "#extra is only in the drawing 1280px wide") {
		t.Errorf("an element without a counterpart is not reported: %s", r.err)
	}
	for args, want := range map[string]string{
		"fares --as html --also fares":                         "two of the screens are 390 px wide",
		"fares --as html --from 48rem":                         "--from is for --also",
		"fares --as html --also fares-wide --from 1px){a{b:c}": "is no width",
		"fares #buy --as html --also fares-wide":               "--also is for whole screens",
	} {
		if r := run(t, dir, append([]string{"code"}, strings.Fields(args)...)...); r.status != 2 || !strings.Contains(r.err, want) {
			t.Errorf("code %s: %d %s", args, r.status, r.err)
		}
	}
}

// TestTwoWidthsLookLikeTheirDrawings holds a page against both drawings, each in its window.
func TestTwoWidthsLookLikeTheirDrawings(t *testing.T) {
	need(t, "chromium", "chromium-browser", "google-chrome")
	var v struct {
		verified
		Wider []verified
	}
	mustJSON(t, widthsOf(t), &v, "code", "fares", "--as", "html", "--also", "fares-wide", "--verify", "--within", "0")
	if len(v.Wider) != 1 || v.Likeness < 0.95 || v.Wider[0].Likeness < 0.95 || v.Wider[0].Width != 1280 {
		t.Errorf("%.1f %%, wider %+v", 100*v.Likeness, v.Wider)
	}
}

// TestTheDemoAtTwoWidths holds the demo's timetable against its phone and its wide drawing, in one markup. The type token of its
// title has another size where there is room, so that one declaration does for both.
func TestTheDemoAtTwoWidths(t *testing.T) {
	dir := demoFiles(t)
	sheet := must(t, dir, "code", "timetable", "--as", "html", "--also", "timetable-wide").out
	if n := strings.Count(sheet, "font: var(--type-title-m)"); n != 1 {
		t.Errorf("the title's type stands there %d times", n)
	}
	need(t, "chromium", "chromium-browser", "google-chrome")
	var v struct {
		verified
		Wider []verified
	}
	mustJSON(t, dir, &v, "code", "timetable", "--as", "html", "--also", "timetable-wide", "--verify", "--within", "0")
	if len(v.Wider) != 1 || v.Likeness < 0.97 || v.Wider[0].Likeness < 0.97 {
		t.Errorf("%.1f %%, wider %+v", 100*v.Likeness, v.Wider)
	}
}

// TestCodeIntoFiles checks what -o writes, and the error of --verify without a browser.
func TestCodeIntoFiles(t *testing.T) {
	dir, _ := pageSources(t)
	must(t, dir, "code", "booking", "#pay", "-o", "out/pay.css")
	must(t, dir, "code", "booking", "--as", "swift", "-o", "out/Booking.swift")
	must(t, dir, "code", "booking", "--as", "html", "-o", "out/page")
	if got := read(t, dir, "out/pay.css"); !strings.HasPrefix(got, ".button.main.wide {") {
		t.Error(got)
	}
	if got := read(t, dir, "out/Booking.swift"); !strings.Contains(got, "struct Booking: View {") {
		t.Error(got)
	}
	sheet := read(t, dir, "out/page/style.css")
	for _, want := range []string{"@font-face", "--color-text-default:", "prefers-color-scheme: dark", ".trip-card {"} {
		if !strings.Contains(sheet, want) {
			t.Errorf("no %s in the style sheet", want)
		}
	}
	for _, f := range []string{"out/page/index.html", "out/page/assets/route.svg", "out/page/assets/icons/back.svg", "out/page/fonts/Fraunces-SemiBold.ttf"} {
		if read(t, dir, f) == "" {
			t.Errorf("%s is empty", f)
		}
	}
	t.Setenv("ARCHETYP_BROWSER", "no-such-browser")
	if r := run(t, dir, "code", "booking", "#pay", "--verify"); r.status != 3 || !strings.Contains(r.err, "apt install chromium") {
		t.Errorf("without a browser: %d %s", r.status, r.err)
	}
}
