package e2e

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io/fs"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"sort"
	"strings"
	"testing"

	"archetyp/core/text/exchange"

	"github.com/santhosh-tekuri/jsonschema/v6"
)

// toolkit runs a line of Python with the translate-toolkit library.
func toolkit(t testing.TB, dir, script string, args ...string) string {
	t.Helper()
	need(t, "po2xliff")
	cmd := exec.Command("/usr/bin/python3", append([]string{"-c", script}, args...)...)
	cmd.Dir = dir
	out, err := cmd.CombinedOutput()
	if err != nil {
		t.Fatalf("%v\n%s", err, out)
	}
	return string(out)
}

const storeScript = `
import sys
from translate.storage import factory
for name in sys.argv[1:]:
    store = factory.getobject(name)
    units = [u for u in store.units if not u.isheader()]
    print(name, len(units), sum(1 for u in units if u.target))
    for u in units:
        if u.source is None: raise Exception("no source")
`

func TestTranslateToolkitReadsOurFiles(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	keys := len(catalogue(t, dir).Texts)
	for _, f := range []struct{ as, file string }{{"xliff-1.2", "de.xlf"}, {"tmx", "de.tmx"}, {"po", "de.po"},
		{"strings", "de.strings"}} {
		must(t, dir, "text", "export", "--as", f.as, "--locale", "de", "-o", f.file)
		script := storeScript
		if f.as == "strings" {
			script = strings.Replace(storeScript, "from translate.storage import factory",
				"from translate.storage import properties", 1)
			script = strings.Replace(script, "factory.getobject(name)", "properties.stringsutf8file.parsefile(name)", 1)
		}
		out := strings.Fields(toolkit(t, dir, script, f.file))
		want := keys
		if f.as == "tmx" {
			want -= 2 // what is not translated is not remembered
		}
		if f.as == "strings" {
			want -= 4 // nor are plurals, which lie in another file
		}
		if len(out) != 3 || out[1] != fmt.Sprint(want) {
			t.Errorf("%s: %v, want %d units", f.as, out, want)
		}
		t.Logf("%s: %s units, %s translated", f.as, out[1], out[2])
	}
	// and what it makes of our PO comes back
	command(t, dir, "po2xliff", "-i", "de.po", "-o", "theirs.xlf")
	var got struct {
		Files []struct{ Counts map[string]int }
	}
	mustJSON(t, dir, &got, "text", "import", "theirs.xlf", "--locale", "de", "--dry-run")
	if n := got.Files[0].Counts["broken"] + got.Files[0].Counts["conflict"]; n != 0 {
		t.Errorf("%v", got.Files[0].Counts)
	}
}

type catalogueJSON struct {
	Texts []struct {
		Key, Words, Note string
		Tags             []string
		Locales          map[string]struct{ Words, State string }
	}
}

func catalogue(t testing.TB, dir string) (c catalogueJSON) {
	t.Helper()
	mustJSON(t, dir, &c, "text", "list")
	return c
}

func TestXMLOfOursIsWellFormed(t *testing.T) {
	t.Parallel()
	need(t, "xmllint")
	dir := demo(t)
	for _, l := range []string{"de", "fi", "he", "pl", "en-x-pseudo"} {
		for _, as := range []string{"xliff", "xliff-1.2", "tmx", "android", "stringsdict"} {
			file := l + "." + as + ".xml"
			must(t, dir, "text", "export", "--as", as, "--locale", l, "-o", file)
			command(t, dir, "xmllint", "--noout", "--nonet", file)
		}
	}
}

// TestXLIFFInAnIndependentParser reads XLIFF 2.1 with the xliff package of npm, in both ways to write plurals.
func TestXLIFFInAnIndependentParser(t *testing.T) {
	t.Parallel()
	node := needNode(t)
	dir := demo(t)
	for _, plurals := range []string{"protected", "units"} {
		must(t, dir, "text", "export", "--as", "xliff", "--locale", "pl", "--plurals", plurals, "-o", "pl.xlf")
		write(t, dir, "read.js", `const {xliff2js} = require("`+node+`/node_modules/xliff"); const fs = require("fs");
xliff2js(fs.readFileSync("pl.xlf", "utf8"), (err, js) => { if (err) throw err;
  const units = js.resources[Object.keys(js.resources)[0]]; const words = u => typeof u == "string" ? u : Array.isArray(u) ? u.map(words).join("") : u && u.Span ? words(u.Span.contents) : "";
  console.log(JSON.stringify(Object.fromEntries(Object.entries(units).map(([k, u]) => [k, [words(u.source), words(u.target)]])))); });`)
		var units map[string][2]string
		if err := json.Unmarshal([]byte(command(t, dir, "node", "read.js")), &units); err != nil {
			t.Fatal(err)
		}
		if u := units["booking.bicycle"]; u != [2]string{"Bicycle", "Rower"} {
			t.Errorf("%v", u)
		}
		want := len(catalogue(t, dir).Texts)
		if plurals == "units" {
			want += 2 * 3 // one, few, many and other for two messages
			if u := units["field.adults.plural.few"]; u[1] != " dorośli" {
				t.Errorf("%q", u)
			}
		}
		if len(units) != want {
			t.Errorf("%s: %d units, want %d", plurals, len(units), want)
		}
		var got struct {
			Files []struct{ Counts map[string]int }
		}
		mustJSON(t, dir, &got, "text", "import", "pl.xlf")
		// the demo's lost <b>
		if c := got.Files[0].Counts; c["same"]+c["empty"] != len(catalogue(t, dir).Texts)-c["broken"] || c["broken"] != 1 {
			t.Errorf("%s: %v", plurals, c)
		}
	}
}

func TestStringsInOtherParsers(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	out := toolkit(t, dir, `
from translate.storage import properties
store = properties.stringsutf8file.parsefile("dist/ios/de.lproj/Localizable.strings")
for u in store.units: print(u.name, "=", u.target or u.source)
`)
	if !strings.Contains(out, "booking.pay = %1$@ bezahlen") || !strings.Contains(out, "booking.bicycle = Fahrrad") ||
		strings.Count(out, " = ") < 30 {
		t.Error(out)
	}
	need(t, "python3")
	out = command(t, dir, "python3", "-c",
		`import plistlib; d = plistlib.load(open("dist/ios/pl.lproj/Localizable.stringsdict", "rb")); print(sorted(d["field.adults"]["count"].items()))`)
	if !strings.Contains(out, "('few', '%1$ld dorośli')") || !strings.Contains(out, "NSStringPluralRuleType") {
		t.Error(out)
	}
}

func TestGettextTakesOurPO(t *testing.T) {
	t.Parallel()
	need(t, "msgfmt")
	need(t, "msgmerge")
	dir := demo(t)
	must(t, dir, "text", "export", "--as", "pot", "-o", "texts.pot")
	for _, l := range []string{"de", "fi", "he", "pl"} {
		must(t, dir, "text", "export", "--as", "po", "--locale", l, "-o", l+".po")
		out := command(t, dir, "msgfmt", "-c", "--statistics", "-o", l+".mo", l+".po")
		if strings.Contains(out, "warning") {
			t.Errorf("%s: %s", l, out)
		}
		t.Logf("%s: %s", l, strings.TrimSpace(out))
		command(t, dir, "msgmerge", "-q", "-o", l+".merged.po", l+".po", "texts.pot")
		before := catalogue(t, dir)
		var got struct {
			Files []struct{ Counts map[string]int }
		}
		mustJSON(t, dir, &got, "text", "import", l+".merged.po")
		if c := got.Files[0].Counts; c["taken"]+c["late"]+c["conflict"]+c["unknown"] != 0 {
			t.Errorf("%s, merged: %v", l, c)
		}
		if after := catalogue(t, dir); fmt.Sprint(after) != fmt.Sprint(before) {
			t.Errorf("%s: the catalogue changed", l)
		}
	}
}

func TestAndroidTakesTheTexts(t *testing.T) {
	t.Parallel()
	aapt := need(t, "aapt2")
	framework := "/usr/share/android-framework-res/framework-res.apk"
	if _, err := os.Stat(framework); err != nil {
		need(t, "android-framework-res")
	}
	dir := demo(t)
	must(t, dir, "text", "export", "--as", "android", "--locale", "en-x-pseudo,ar-x-pseudo", "-o", "dist/android/res")
	write(t, dir, "AndroidManifest.xml",
		`<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="ferry.texts"><uses-sdk android:minSdkVersion="21" android:targetSdkVersion="28"/></manifest>`)
	command(t, dir, aapt, "compile", "--dir", "dist/android/res", "-o", "res.zip")
	command(t, dir, aapt, "link", "-I", framework, "--manifest", "AndroidManifest.xml", "-o", "out.apk", "res.zip")
	out := command(t, dir, aapt, "dump", "resources", "out.apk")
	for _, want := range []string{"string/booking_pay", "plurals/field_adults", "(de) \"%1$s bezahlen\"", "(he)",
		"(en-rXA)", "few=\"%1$d dorośli\""} {
		if !strings.Contains(out, want) {
			t.Errorf("%s is not in the resources", want)
		}
	}
}

func TestJSONTextsFollowTheirSchema(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	c := jsonschema.NewCompiler()
	flat, err := c.Compile("../docs/schema/texts.schema.json")
	if err != nil {
		t.Fatal(err)
	}
	check := func(data string) error {
		v, err := jsonschema.UnmarshalJSON(strings.NewReader(data))
		if err != nil {
			return err
		}
		return flat.Validate(v)
	}
	for _, f := range []string{"dist/text/en.json", "dist/text/he.json", "text/de.json"} {
		if err := check(read(t, dir, f)); err != nil {
			t.Errorf("%s: %v", f, err)
		}
	}
	if err := check(must(t, dir, "text", "export", "--as", "json-nested", "--locale", "fi").out); err != nil {
		t.Error(err)
	}
	if check(`{"a": 1}`) == nil {
		t.Error("a number is taken for a text")
	}
}

// TestForeignPO reads and writes translations of programs that Debian packages ship, and holds that no message changes.
func TestForeignPO(t *testing.T) {
	t.Parallel()
	need(t, "msgunfmt")
	need(t, "msgfmt")
	var found []string
	for _, root := range []string{"/usr/share/locale", "/usr/share/vim"} {
		filepath.WalkDir(root, func(p string, d fs.DirEntry, err error) error {
			if err == nil && strings.HasSuffix(p, ".mo") {
				found = append(found, p)
			}
			return nil
		})
	}
	sort.Strings(found)
	rand.New(rand.NewPCG(4, 2)).Shuffle(len(found), func(i, j int) { found[i], found[j] = found[j], found[i] })
	dir := t.TempDir()
	files, plurals, messages := 0, 0, 0
	for _, mo := range found {
		if files >= 120 && plurals >= 40 || files >= 400 {
			break
		}
		info, err := os.Stat(mo)
		if err != nil || info.Size() > 400<<10 {
			continue
		}
		po, err := exec.Command("msgunfmt", mo).Output()
		if err != nil || bytes.Count(po, []byte("msgid ")) < 3 {
			continue
		}
		has := bytes.Contains(po, []byte("msgid_plural"))
		if files >= 120 && !has {
			continue
		}
		f, err := exchange.ParsePO(po)
		if err != nil {
			t.Errorf("%s: %v", mo, err)
			continue
		}
		write(t, dir, "theirs.po", string(po))
		write(t, dir, "ours.po", string(f.Bytes()))
		if exec.Command("msgconv", "-t", "UTF-8", "-o", filepath.Join(dir, "theirs.po"),
			filepath.Join(dir, "theirs.po")).Run() != nil {
			continue
		}
		a, errA := exec.Command("msgfmt", "--no-hash", "-o", "-", filepath.Join(dir, "theirs.po")).Output()
		b, errB := exec.Command("msgfmt", "--no-hash", "-o", "-", filepath.Join(dir, "ours.po")).Output()
		if errA != nil { // not all that was compiled once can be again
			continue
		}
		if errB != nil || !bytes.Equal(a, b) {
			t.Errorf("%s: a message changed (%v)", mo, errB)
		}
		files++
		messages += len(f.Entries)
		if has {
			plurals++
		}
	}
	t.Logf("%d files, %d with plurals, %d messages", files, plurals, messages)
	if files < 100 || plurals < 20 {
		lacking(t, "too few translations on this machine")
	}
}
