package e2e

import (
	"bytes"
	"compress/zlib"
	"encoding/base64"
	"encoding/binary"
	"fmt"
	"hash/crc32"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"
)

// bombPNG is a PNG of one colour, n pixels wide and high, in a few kilobytes.
func bombPNG(n int) string {
	var out, rows bytes.Buffer
	z := zlib.NewWriter(&rows)
	row := make([]byte, 4*n+1)
	for range n {
		_, _ = z.Write(row)
	}
	z.Close()
	chunk := func(kind string, data []byte) {
		_ = binary.Write(&out, binary.BigEndian, uint32(len(data)))
		body := append([]byte(kind), data...)
		out.Write(body)
		_ = binary.Write(&out, binary.BigEndian, crc32.ChecksumIEEE(body))
	}
	out.WriteString("\x89PNG\r\n\x1a\n")
	head := binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32(nil, uint32(n)), uint32(n))
	chunk("IHDR", append(head, 8, 6, 0, 0, 0))
	chunk("IDAT", rows.Bytes())
	chunk("IEND", nil)
	return "data:image/png;base64," + base64.StdEncoding.EncodeToString(out.Bytes())
}

// smallInputs are files that once took all memory or minutes, by name, and the command that reads each.
func smallInputs() map[string][]string {
	svg := func(inside string) string {
		return `<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100">` + inside + "</svg>"
	}
	count := func(n int, format string) string {
		var b strings.Builder
		for i := range n {
			b.WriteString(strings.ReplaceAll(strings.ReplaceAll(format, "%N", fmt.Sprint(i+1)), "%d", fmt.Sprint(i)))
		}
		return b.String()
	}
	many := strings.Repeat
	bomb := bombPNG(8000)
	return map[string][]string{
		"60 bitmaps of 8,000²": {"outline a.svg", svg(many(`<image width="9" height="9" href="`+bomb+`"/>`, 60))},
		"60 bitmaps, painted": {"render a.svg -o a.png", svg(many(`<image width="9" height="9" href="`+bomb+`"/>`,
			60))},
		"60 MB of text":       {"outline a.svg", svg("<text>" + many("word ", 12_000_000) + "</text>")},
		"10 MB of one word":   {"render a.svg -o a.png", svg("<text>" + many("w", 10_000_000) + "</text>")},
		"a drawing in itself": {"render a.svg -o a.png", svg(many(`<image width="9" height="9" href="a.svg"/>`, 50))},
		"60 kB of :has()": {"outline a.svg", svg("<style>" + count(2500, "g:has(rect circle){fill:red}") +
			"</style>" + many("<g>", 20) + many(`<rect width="1" height="1"/>`, 3000) + "<circle/>" + many("</g>", 20))},
		"20,000 rules of siblings": {"outline a.svg", svg("<style>" + count(20000, "circle~rect~rect{fill:red}") +
			"</style><circle/>" + many(`<rect width="1" height="1"/>`, 2000))},
		"20,000 siblings": {"outline a.svg",
			svg("<style>rect:nth-child(2n of rect)~rect:has(+ rect){fill:red}</style>" + many(`<rect width="1" height="1"/>`,
				20000))},
		"200,000 attributes": {"outline a.svg", svg("<rect " + count(200000, `a%d="1" `) + "/>")},
		"100,000 classes": {"outline a.svg", svg("<style>" + count(20000, ".c%d.d%d{fill:red}") +
			`</style><rect class="` + count(100000, "c%d ") + `"/>`)},
		"30 MB of rules": {"outline a.svg", svg("<style>" + count(1_700_000, ".c%d{fill:red}\n") + "</style>")},
		"50,000 properties": {"outline a.svg", svg("<style>rect{" + count(50000, "--a%d:var(--a%N);") +
			`fill:var(--a0)}</style><rect width="9" height="9"/>`)},
		"112 MB of elements": {"outline a.svg", svg(many(`<rect width="1" height="1"/>`, 4_000_000))},
		"copies of copies": {"outline a.svg", svg(`<g id="x0"><rect width="1" height="1"/></g>` +
			count(12, `<g id="x%N">`+many(`<use href="#x%d"/>`, 10)+"</g>"))},
		"20,000 blurs": {"render a.svg -o a.png",
			svg(`<filter id="f">` + many(`<feGaussianBlur stdDeviation="9"/>`, 20000) +
				`</filter><rect width="90" height="90" filter="url(#f)"/>`)},
		"a configuration of {":      {"status", many("{a: ", 60_000)},
		"a configuration of [":      {"status", many("[", 250_000)},
		"a configuration of dashes": {"status", many("- ", 100_000)},
		"aliases of aliases":        {"status", "sources: &a [x, x]\n" + count(100, "b%d: &b%d [*a, *a]\n")},
		"a chain of aliases": {"tokens check", `{"a": {"$type": "number", ` + count(100_000,
			`"t%d": {"$value": "{a.t%N}"}, `) + `"t100000": {"$value": 1}}}`},
		"18 MB of continued lines": {"text import a.po --locale de --dry-run", "msgid \"x\"\nmsgstr \"\"\n" +
			many("\"abcdefgh\"\n", 1_650_000)},
		"200,000 segments": {"text import a.xlf --locale de --dry-run",
			`<xliff xmlns="urn:oasis:names:tc:xliff:document:2.0" version="2.1" srcLang="en" trgLang="de"><file id="f"><unit id="u">` + count(200_000, `<segment id="s%d"><source>a</source><target>b</target></segment>`) + "</unit></file></xliff>"},
	}
}

// TestSmallInputsStaySmall holds that nothing takes memory or time out of proportion: an error or the right answer. The
// time is bounded loosely, against what never ends.
func TestSmallInputsStaySmall(t *testing.T) {
	t.Parallel()
	for name, c := range smallInputs() {
		dir := t.TempDir()
		args := strings.Fields(c[0])
		switch args[0] {
		case "status":
			write(t, dir, "archetyp.yaml", c[1])
		case "tokens":
			write(t, dir, "archetyp.yaml", "name: x\n")
			write(t, dir, "tokens/a.tokens.json", c[1])
		case "text":
			write(t, dir, "archetyp.yaml", "name: x\ntext: {locales: [de]}\n")
			write(t, dir, "text/en.json", `{"u": "aa"}`)
			write(t, dir, args[2], c[1])
		default:
			write(t, dir, "a.svg", c[1])
		}
		r, took, peak := measured(t, dir, args...)
		if r.failed() || took > 20*time.Second || peak > 500_000 {
			t.Errorf("%s: status %d, %s, %d MB\n%.300s", name, r.status, took.Round(time.Millisecond), peak/1000, r.err)
		}
		t.Logf("%-28s %6d ms %4d MB  status %d", name, took.Milliseconds(), peak/1000, r.status)
	}
}

// measured runs the program and says how long it took, and its most memory in kB: read from the system while it runs,
// since what a process reports at its end counts that of its parent too.
func measured(t testing.TB, dir string, args ...string) (r result, took time.Duration, peak int) {
	t.Helper()
	cmd := exec.Command(program, args...)
	cmd.Dir = dir
	var errs bytes.Buffer
	cmd.Stderr = &errs
	begun := time.Now()
	if err := cmd.Start(); err != nil {
		t.Fatal(err)
	}
	ended := make(chan struct{})
	go func() {
		_ = cmd.Wait()
		close(ended)
	}()
	for {
		if data, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", cmd.Process.Pid)); err == nil {
			if _, rest, ok := strings.Cut(string(data), "VmHWM:"); ok && strings.Contains(string(data), "Name:\tarchetyp") {
				var kB int
				_, _ = fmt.Sscan(rest, &kB)
				peak = max(peak, kB)
			}
		}
		select {
		case <-ended:
			return result{"", errs.String(), cmd.ProcessState.ExitCode()}, time.Since(begun), peak
		case <-time.After(3 * time.Millisecond):
		}
	}
}

// TestWildNumbers puts numbers that no drawing can use everywhere, and asks every command.
func TestWildNumbers(t *testing.T) {
	t.Parallel()
	wild := strings.Fields("1e308 -1e308 1e39 1e20 1e15 1e10 999999999 -999999999 NaN Infinity -Infinity 1e-320 1e-45 " +
		"0 -0 -1 1e-9 2147483648 4294967296 9223372036854775808 1e . --1 0x10 1e400 16777217 -16777217 1e9 -1e9 0.0000001 " +
		"1e8 123456789.123")
	templates := strings.Split(strings.TrimSpace(read(t, "testdata", "numbers.txt")), "\n")
	commands := []string{"outline a.svg", "outline a.svg --alike", "outline a.svg --json", "spec a.svg", "spec a.svg *",
		"measure a.svg rect", "sample a.svg 1,1", "code a.svg *", "render a.svg -o o.png --at 2",
		"render a.svg -o o.png", "tokens harvest a.svg", "text collect a.svg", "assets export a.svg :root -o o.svg", "assets export a.svg :root -o o.pdf", "assets export a.svg * --format vector -o ov",
		"assets export a.svg * -o op --at 1.5", "assets advise a.svg"}
	seed := rand.New(rand.NewPCG(5, 13))
	dir := t.TempDir()
	for range sample(250, 5000) {
		text := templates[seed.IntN(len(templates))]
		for strings.Contains(text, "{}") {
			v := "3"
			if seed.IntN(10) < 7 {
				v = wild[seed.IntN(len(wild))]
			}
			text = strings.Replace(text, "{}", v, 1)
		}
		write(t, dir, "a.svg", `<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100">`+text+"</svg>")
		args := strings.Fields(commands[seed.IntN(len(commands))])
		r, hung := attempt(t, dir, args...)
		if hung || r.failed() || r.status == 2 && !strings.Contains(r.err, "a.svg") && !strings.Contains(r.err, "selector") {
			t.Errorf("%v on %s: status %d\n%s", args, text, r.status, r.err)
		}
	}
	for _, c := range []struct{ yaml, want string }{
		{"root: 1e-320px", "root"}, {"root: 0px", "root"}, {"root: 1e308px", "root"}, {"root: NaNpx",
			"root"}, {"scales: {space: 1e300px}", "scales.space"},
		{"scales: {type: [1e-320px]}", "scales.type"}, {"assets: {density: 1e308}", "density"}, {"assets: {density: .nan}",
			"density"}, {"limits: {pixels: 1e308}", "limits"}, {"limits: {pixels: -1}", "limits"}, {"limits: {elements: " +
			"99999999999999999999}", "limits"},
	} {
		write(t, dir, "archetyp.yaml", c.yaml+"\n")
		if r, hung := attempt(t, dir, "status"); hung || r.status != 2 || !strings.Contains(r.err, "archetyp.yaml") ||
			!strings.Contains(r.err, c.want) {
			t.Errorf("%s: status %d\n%s", c.yaml, r.status, r.err)
		}
	}
}

// TestWildTokens puts the same numbers into token files.
func TestWildTokens(t *testing.T) {
	t.Parallel()
	for _, v := range strings.Fields("1e308 -1e308 1e300 1e39 1e-320 0 -1 9223372036854775808 1e400 123456789.123") {
		for _, value := range []string{`{"$type": "dimension", "$value": {"value": %s, "unit": "px"}}`,
			`{"$type": "duration", "$value": {"value": %s, "unit": "ms"}}`, `{"$type": "number", "$value": %s}`,
			`{"$type": "fontWeight", "$value": %s}`, `{"$type": "cubicBezier", "$value": [%s, 0, 1, 1]}`, `{"$type": "color", "$value": {"colorSpace": "oklch", "components": [%s, 0.1, %s]}}`,
			`{"$type": "shadow", "$value": {"color": "#000000", "offsetX": {"value": %s, "unit": "px"}, "offsetY": {"value": 1, "unit": "rem"}, "blur": {"value": %s, "unit": "px"}, "spread": {"value": 0, "unit": "px"}}}`} {
			dir := t.TempDir()
			write(t, dir, "archetyp.yaml",
				"outputs: [{as: css, to: o.css}, {as: swift, to: o.swift}, {as: kotlin, to: o.kt}, {as: android, to: res}, {as: "+
					"ts, to: o.ts}, {as: scss, to: o.scss}]\n")
			write(t, dir, "design/a.svg", plainDrawing)
			write(t, dir, "tokens/a.tokens.json", `{"x": `+strings.ReplaceAll(value, "%s", v)+"}")
			for _, args := range [][]string{{"tokens", "list"}, {"tokens", "check"}, {"sync"}} {
				if r, hung := attempt(t, dir, args...); hung || r.failed() || r.status == 2 && !strings.Contains(r.err, ".json") {
					t.Errorf("%s in %s, %v: status %d\n%s", v, value, args, r.status, r.err)
				}
			}
		}
	}
}

// aFile is the name of a file in an error: that of the damaged one, or of one it leads to.
var aFile = regexp.MustCompile(`(?i)\.(svg|ora|json|yaml|lock|xlf|po|tmx|s?css|ttf)\b`)

// TestMutatedFiles damages the demo's files in every way, one at a time, and asks for what reads each.
func TestMutatedFiles(t *testing.T) {
	t.Parallel()
	base := demo(t)
	must(t, base, "text", "export", "--as", "xliff", "--locale", "de", "-o", "t/a.xlf")
	must(t, base, "text", "export", "--as", "xliff-1.2", "--locale", "de", "-o", "t/a1.xlf")
	must(t, base, "text", "export", "--as", "po", "--locale", "de", "-o", "t/a.po")
	readers := map[string][]string{}
	for name := range tree(t, base) {
		switch ext := filepath.Ext(name); {
		case strings.HasPrefix(name, "design/"):
			readers[name] = []string{"outline " + name, "spec " + name, "render " + name + " -o o.png", "tokens harvest " + name,
				"status"}
		case strings.HasPrefix(name, "tokens/"), name == "archetyp.yaml", name == "archetyp.lock",
			strings.HasPrefix(name, "text/"):
			readers[name] = []string{"status", "tokens check", "text check", "sync --overwrite"}
		case strings.HasPrefix(name, "t/"):
			readers[name] = []string{"text import " + name + " --locale de --dry-run"}
		case strings.HasPrefix(name, "memory/"):
			readers[name] = []string{"text fill --dry-run --memory " + name}
		case ext == ".ttf":
			readers[name] = []string{"spec booking"}
		case name == "dist/tokens.css" || name == "dist/tokens.scss" || name == "dist/tokens.json":
			readers[name] = []string{"tokens absorb " + name + " --dry-run"}
		}
	}
	names := make([]string, 0, len(readers))
	for name := range readers {
		names = append(names, name)
	}
	slices.Sort(names)
	seed := rand.New(rand.NewPCG(6, 13))
	for range sample(200, 10_000) {
		name := names[seed.IntN(len(names))]
		path := filepath.Join(base, name)
		whole := read(t, path)
		broken := mutated(seed, whole)
		if err := os.WriteFile(path, []byte(broken), 0o644); err != nil {
			t.Fatal(err)
		}
		list := readers[name]
		args := strings.Fields(list[seed.IntN(len(list))])
		r, hung := attempt(t, base, args...)
		if hung || r.failed() || r.status == 2 && !aFile.MatchString(r.err) {
			kept := filepath.Join(os.TempDir(), "archetyp-mutated-"+filepath.Base(name))
			_ = os.WriteFile(kept, []byte(broken), 0o644)
			t.Errorf("%s damaged (%s), %v: status %d\n%s", name, kept, args, r.status, r.err)
		}
		if err := os.WriteFile(path, []byte(whole), 0o644); err != nil {
			t.Fatal(err)
		}
	}
}

// mutated damages bytes: cut off, a stretch taken out, twice or elsewhere, signs changed.
func mutated(seed *rand.Rand, s string) string {
	b := []byte(s)
	for range 1 + seed.IntN(3) {
		if len(b) < 4 {
			return string(b)
		}
		i := seed.IntN(len(b) - 1)
		j := min(len(b), i+1+seed.IntN(min(len(b)-i, 200)))
		switch seed.IntN(6) {
		case 0:
			b = b[:i]
		case 1:
			b = slices.Concat(b[:i], b[j:])
		case 2:
			b = slices.Concat(b[:j], b[i:])
		case 3:
			b[i] ^= 1 << seed.IntN(8)
		case 4:
			b[i] = "\"'<>{}[]()&;#%=,:.-0\x00\xff\n"[seed.IntN(23)]
		default:
			k := seed.IntN(len(b))
			b = slices.Concat(b[:k], b[i:j], b[k:])
		}
	}
	return string(b)
}
