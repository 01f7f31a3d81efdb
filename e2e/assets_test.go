package e2e

import (
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/santhosh-tekuri/jsonschema/v6"
)

// TestAssetsOfTheDemo holds the demo's files against the tools of their platforms.
func TestAssetsOfTheDemo(t *testing.T) {
	t.Parallel()
	w := demo(t)
	schema, err := filepath.Abs("../docs/schema/assets-manifest.schema.json")
	if err != nil {
		t.Fatal(err)
	}
	s, err := jsonschema.NewCompiler().Compile(schema)
	if err != nil {
		t.Fatal(err)
	}
	v, err := jsonschema.UnmarshalJSON(strings.NewReader(read(t, filepath.Join(w, "dist/assets.json"))))
	if err == nil {
		err = s.Validate(v)
	}
	if err != nil {
		t.Error(err)
	}
	var m struct {
		Assets []struct {
			Files []struct {
				Path  string
				Bytes int
			}
		}
	}
	if err := json.Unmarshal([]byte(read(t, filepath.Join(w, "dist/assets.json"))), &m); err != nil {
		t.Fatal(err)
	}
	for _, a := range m.Assets {
		for _, f := range a.Files {
			if got := len(read(t, filepath.Join(w, "dist", f.Path))); got != f.Bytes {
				t.Errorf("%s: %d bytes, not %d", f.Path, got, f.Bytes)
			}
		}
	}
	var c map[string]json.RawMessage
	if err := json.Unmarshal([]byte(read(t,
		filepath.Join(w, "dist/ios/Assets.xcassets/icons/anchor.imageset/Contents.json"))), &c); err != nil || len(c) != 3 ||
		c["images"] == nil || c["info"] == nil || c["properties"] == nil {
		t.Errorf("%v %s", err, c)
	}
}

func TestAndroidTakesTheAssets(t *testing.T) { link(t, filepath.Join(demo(t), "dist/android/res")) }

func TestIconFileOpensElsewhere(t *testing.T) {
	t.Parallel()
	out, err := exec.Command(tool(t, "icotool"), "-l", filepath.Join(demo(t), "dist/site/favicon.ico")).CombinedOutput()
	for _, size := range []string{"16", "32", "48"} {
		if err != nil || !strings.Contains(string(out), "--width="+size+" --height="+size+" --bit-depth=32") {
			t.Errorf("%v: %s", err, out)
		}
	}
}

// TestWordsOfAPDF reads the words of a page back.
func TestWordsOfAPDF(t *testing.T) {
	t.Parallel()
	tool(t, "pdftotext")
	w := demo(t)
	must(t, w, "assets", "export", "booking", ":root", "-o", "booking.pdf", "--quiet")
	out, err := exec.Command("pdftotext", "-raw", filepath.Join(w, "booking.pdf"), "-").Output()
	for _, want := range []string{"Your trip", "Skerry Point", "Free to change until one hour before you", "Pay € 72.75"} {
		if err != nil || !strings.Contains(string(out), want) {
			t.Errorf("%v: no %q in %s", err, want, out)
		}
	}
}

// snapshot is when each file below a folder was written.
func snapshot(t testing.TB, dir string) map[string]time.Time {
	t.Helper()
	out := map[string]time.Time{}
	err := filepath.WalkDir(dir, func(p string, d os.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		info, err := d.Info()
		out[p] = info.ModTime()
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
	return out
}

const quay = `<svg xmlns="http://www.w3.org/2000/svg" width="24" height="24"><path fill="%s" d="M4 4h16v9z"/></svg>`

// TestOnlyWhatChanged changes, adds and removes icons, and sees what is written.
func TestOnlyWhatChanged(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	for i := range 30 {
		write(t, dir, fmt.Sprintf("icons/i%02d.svg", i), fmt.Sprintf(quay, fmt.Sprintf("#0b6e%02x", i)))
	}
	write(t, dir, "archetyp.yaml",
		"name: Quay\nsources: [icons/*.svg]\nassets: {to: out, sets: [android, web]}\nmarks:\n  - {select: \":root\", "+
			"asset: \"{file}\"}\n")
	must(t, dir, "assets", "export", "--quiet")
	before := snapshot(t, dir+"/out")
	touched := func() []string {
		t.Helper()
		now := snapshot(t, dir+"/out")
		var list []string
		for p, at := range now {
			if old, was := before[p]; !was || !old.Equal(at) {
				list = append(list, strings.TrimPrefix(p, dir+"/out/"))
			}
		}
		for p := range before {
			if _, still := now[p]; !still {
				list = append(list, "-"+strings.TrimPrefix(p, dir+"/out/"))
			}
		}
		before = now
		return list
	}
	if r := run(t, dir, "assets", "export"); !strings.Contains(r.out, "nothing had changed") || len(touched()) > 0 {
		t.Error(r.out)
	}
	write(t, dir, "icons/i07.svg", fmt.Sprintf(quay, "red"))
	must(t, dir, "assets", "export", "--quiet")
	for _, p := range touched() {
		if !strings.Contains(p, "i07") && p != "assets.json" {
			t.Errorf("one icon changed, and %s was written", p)
		}
	}
	write(t, dir, "icons/i99.svg", fmt.Sprintf(quay, "blue"))
	os.Remove(filepath.Join(dir, "icons/i03.svg"))
	write(t, dir, "out/web/i04.png", "edited by hand")
	os.Remove(filepath.Join(dir, "icons/i04.svg"))
	r := run(t, dir, "assets", "list", "--json")
	for _, want := range []string{`"state": "new"`, `"state": "gone"`, `"state": "same"`} {
		if !strings.Contains(r.out, want) {
			t.Errorf("no %s in the list", want)
		}
	}
	must(t, dir, "assets", "export", "--quiet")
	list := strings.Join(touched(), " ")
	if !strings.Contains(list, "web/i99.svg") || !strings.Contains(list, "-web/i03.svg") || !strings.Contains(list,
		"-web/i04.svg") || read(t, filepath.Join(dir, "out/web/i04.png")) != "edited by hand" {
		t.Error(list)
	}
	os.Remove(filepath.Join(dir, "out/web/i10.svg"))
	must(t, dir, "assets", "export", "--quiet")
	if list := touched(); len(list) != 1 || list[0] != "web/i10.svg" {
		t.Errorf("a lost file: %v", list)
	}
	must(t, dir, "sync", "--quiet")
	if r := run(t, dir, "sync", "--check"); r.status != 0 {
		t.Error(r.out, r.err)
	}
}

func TestExportOnce(t *testing.T) {
	t.Parallel()
	w := demo(t)
	for command, want := range map[string]string{
		"assets export components #tern -o images/tern.webp --at 1,2 --pad 8":       "images/tern.webp images/tern@2x.webp",
		"assets export booking #from #to --join -o route.png --background white":    "route.png",
		"assets export components #tern -o t/ --format svg,pdf":                     "t/brand/tern.svg t/brand/tern.pdf",
		"assets export components --set android -o res --dry-run":                   "",
		"assets export components #tern -o hero.jpg --background #fff --quality 60": "hero.jpg",
		"assets export components #tern -o small.png --trim --square":               "small.png",
	} {
		r := run(t, w, strings.Fields(command)...)
		if r.status != 0 {
			t.Errorf("%s: %s", command, r.err)
		}
		for _, f := range strings.Fields(want) {
			if _, err := os.Stat(filepath.Join(w, f)); err != nil {
				t.Errorf("%s: no %s", command, f)
			}
		}
	}
	if _, err := os.Stat(filepath.Join(w, "res")); err == nil {
		t.Error("a dry run wrote")
	}
	if img := decode(t, []byte(read(t, filepath.Join(w, "small.png")))).Bounds(); img.Dx() != img.Dy() {
		t.Error(img)
	}
}

// TestHostilePictures exports what nobody should draw: each has one clear end, within bounds.
func TestHostilePictures(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	deep := strings.Repeat("<g opacity='.9'>", 3000) + "<rect width='9' height='9'/>" + strings.Repeat("</g>", 3000)
	bomb := "iVBORw0KGgoAAAANSUhEUgAA//8AAP//CAYAAAA="
	for name, content := range map[string]string{
		"huge.svg":    `<svg xmlns="http://www.w3.org/2000/svg" width="900000" height="900000"><rect width="9" height="9"/></svg>`,
		"deep.svg":    `<svg xmlns="http://www.w3.org/2000/svg" width="20" height="20">` + deep + `</svg>`,
		"cyclic.svg":  `<svg xmlns="http://www.w3.org/2000/svg" width="20" height="20"><pattern id="p" width="2" height="2"><rect width="9" height="9" fill="url(#p)"/></pattern><mask id="m"><rect width="9" height="9" mask="url(#m)"/></mask><filter id="f"><feImage href="#r"/></filter><rect id="r" width="9" height="9" fill="url(#p)" mask="url(#m)" filter="url(#f)"/></svg>`,
		"blur.svg":    `<svg xmlns="http://www.w3.org/2000/svg" width="20" height="20"><filter id="f"><feGaussianBlur stdDeviation="1e30"/><feMorphology radius="1e9"/><feTurbulence numOctaves="1e9" baseFrequency="1e20"/></filter><rect width="9" height="9" filter="url(#f)"/></svg>`,
		"bomb.svg":    `<svg xmlns="http://www.w3.org/2000/svg" width="20" height="20"><image width="9" height="9" href="data:image/png;base64,` + bomb + `"/><rect width="3" height="3"/></svg>`,
		"cut.svg":     `<svg xmlns="http://www.w3.org/2000/svg" width="20" height="20"><rect width="9`,
		"numbers.svg": `<svg xmlns="http://www.w3.org/2000/svg" width="20" height="20"><path d="M0 0L1e300 NaN" stroke="red"/><path d="M1 1h9v9z" stroke="red" stroke-width="1e30" stroke-dasharray="1e-30"/></svg>`,
		"nothing.svg": ``,
	} {
		file := write(t, dir, name, content)
		for _, format := range []string{"png", "svg", "pdf", "vector", "webp"} {
			start := time.Now()
			r := run(t, dir, "assets", "export", file, ":root", "--format", format, "-o", filepath.Join(dir, "out"), "--quiet")
			if r.status != 0 && (r.status != 2 || strings.Count(r.err, "error ") != 1) || strings.Contains(r.err, "panic") ||
				strings.Contains(r.err, "goroutine") {
				t.Errorf("%s as %s: status %d: %.300s", name, format, r.status, r.err)
			}
			if took := time.Since(start); took > 20*time.Second {
				t.Errorf("%s as %s took %v", name, format, took)
			}
		}
	}
}

// TestAssetErrors holds what is said about wrong usage and wrong configuration.
func TestAssetErrors(t *testing.T) {
	t.Parallel()
	w := demo(t)
	for command, want := range map[string]string{
		"assets export components #tern -o tern.bmp":                    ".bmp is no format that is written",
		"assets export components #tern -o tern.ico":                    "an icon file is made by the set favicon",
		"assets export components .icon -o one.png":                     "cannot go into one file",
		"assets export components #tern --at 0 -o a.png":                "no density 0",
		"assets export components #tern --at x -o a.png":                `"x" is no density`,
		"assets export components #tern --format bmp -o a/":             `unknown format "bmp"`,
		"assets export components #tern --set nowhere -o a/":            "there is no such set",
		"assets export components #tern --pad -3 -o a.png":              "0 to 4096 px",
		"assets export --trim":                                          "need a SOURCE",
		"assets export design/booking.svg :root -o design/booking.svg":  "that is the drawing itself",
		"assets export components #tern --background nocolour -o a.png": "--background",
	} {
		r := run(t, w, strings.Fields(command)...)
		if r.status != 2 || !strings.Contains(r.err, want) {
			t.Errorf("%s: status %d, %s", command, r.status, r.err)
		}
	}
	for line, want := range map[string]string{
		"assets: {sets: [andriod]}":                                 `did you mean "android"?`,
		"assets: {sets: [web, web]}":                                "is there twice",
		"assets: {sets: [{name: android, at: [5]}]}":                "no folder for the density 5",
		"assets: {sets: [{name: p, formats: [png], to: ../out}]}":   "no place inside",
		"assets: {sets: [{name: p, formats: [png], nmae: x}]}":      `Did you mean "name"?`,
		"assets: {density: -1}":                                     "no density",
		"assets: {sets: [{name: web, background: nocolour}]}":       "the background of the set web",
		"assets: {sets: [{name: p, formats: [png], files: \"x\"}]}": "all assets the same name",
	} {
		dir := t.TempDir()
		write(t, dir, "a.svg", fmt.Sprintf(quay, "red"))
		write(t, dir, "archetyp.yaml", "name: x\nsources: [a.svg]\n"+line+"\n")
		r := run(t, dir, "assets", "list")
		if r.status != 2 || !strings.Contains(r.err, want) || !strings.Contains(r.err, "archetyp.yaml:3:") {
			t.Errorf("%s: status %d, %s", line, r.status, r.err)
		}
	}
}
