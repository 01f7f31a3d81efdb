package e2e

import (
	"bufio"
	"encoding/json"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"
)

// largeWorkspace is a workspace of 200 drawings and 10,000 tokens, synced, with a style sheet of 300 kB.
func largeWorkspace(t testing.TB) (dir, sheet string) {
	t.Helper()
	dir = demo(t)
	drawing := read(t, dir, "design/booking.svg")
	for i := range 194 {
		write(t, dir, fmt.Sprintf("design/more-%03d.svg", i), strings.Replace(drawing, "Your trip", fmt.Sprintf("Your trip %d", i), 1))
	}
	var b strings.Builder
	b.WriteString(`{"color": {"$type": "color"`)
	for i := range 6000 {
		fmt.Fprintf(&b, ",\n\"c%d\": {\"$value\": {\"colorSpace\": \"srgb\", \"components\": [%.6f, %.6f, %.6f]}}", i,
			float64(i%17)/17, float64(i/17%19)/19, float64(i/323)/19)
	}
	b.WriteString("},\n\"space\": {\"$type\": \"dimension\"")
	for i := range 2000 {
		fmt.Fprintf(&b, ",\n\"s%d\": {\"$value\": {\"value\": %d.5, \"unit\": \"px\"}}", i, i)
	}
	b.WriteString("},\n\"color-alias\": {\"$type\": \"color\"")
	for i := range 2000 {
		fmt.Fprintf(&b, ",\n\"a%d\": {\"$value\": \"{color.c%d}\"}", i, 3*i)
	}
	b.WriteString("}}\n")
	write(t, dir, "tokens/many.tokens.json", b.String())
	res := read(t, dir, "tokens/tern-and-tide.resolver.json")
	write(t, dir, "tokens/tern-and-tide.resolver.json", strings.Replace(res, `{"$ref": "tern-and-tide.tokens.json"}`, `{"$ref": "tern-and-tide.tokens.json"}, {"$ref": "many.tokens.json"}`, 1))
	cfg := read(t, dir, "archetyp.yaml")
	write(t, dir, "archetyp.yaml", cfg[:strings.Index(cfg, "\nsites:")]+cfg[strings.Index(cfg, "\nfonts:"):])
	must(t, dir, "sync")
	must(t, dir, "focus", "booking", "#pay")
	var css strings.Builder
	for i := 0; css.Len() < 300<<10; i++ {
		fmt.Fprintf(&css, ".rule-%d {\n  color: var(--color-c%d);\n  padding: %dpx 13px;\n  background: #%06x;\n  margin: var(--space-s%d) 0;\n  border: 1px solid #0b6e8f;\n}\n", i, i%6000, i%40, (i*7919)%0xffffff, i%2000)
	}
	return dir, css.String()
}

// quickTyping is the time from one keystroke to the next of somebody who types fast.
const quickTyping = 60 * time.Millisecond

// percentile is a share of times, in ms.
func percentile(times []time.Duration, share float64) float64 {
	slices.Sort(times)
	return float64(times[int(float64(len(times)-1)*share)].Microseconds()) / 1000
}

// rawEditor is a client that reads messages and does not look into them, so that only the server's time is measured.
type rawEditor struct {
	b       *testing.B
	cmd     *exec.Cmd
	in      io.WriteCloser
	out     *bufio.Reader
	id      int
	version int
}

func startRaw(b *testing.B, dir string) *rawEditor {
	b.Helper()
	e := &rawEditor{b: b, cmd: exec.Command(program, "editor"), version: 1}
	e.cmd.Dir = dir
	var err error
	if e.in, err = e.cmd.StdinPipe(); err != nil {
		b.Fatal(err)
	}
	out, err := e.cmd.StdoutPipe()
	if err != nil {
		b.Fatal(err)
	}
	e.out = bufio.NewReaderSize(out, 1<<20)
	if err := e.cmd.Start(); err != nil {
		b.Fatal(err)
	}
	e.ask("initialize", obj{"rootUri": "file://" + dir, "capabilities": obj{"textDocument": obj{"completion": obj{"completionItem": obj{"resolveSupport": obj{"properties": []string{"documentation"}}}}}}})
	return e
}

func (e *rawEditor) end() {
	e.in.Close()
	_ = e.cmd.Wait()
}

func (e *rawEditor) send(message obj) {
	message["jsonrpc"] = "2.0"
	data, err := json.Marshal(message)
	if err == nil {
		_, err = io.WriteString(e.in, framed(string(data)))
	}
	if err != nil {
		e.b.Fatal(err)
	}
}

func (e *rawEditor) tell(method string, params obj) { e.send(obj{"method": method, "params": params}) }

// ask sends a request and gives the bytes of its answer.
func (e *rawEditor) ask(method string, params obj) []byte {
	e.id++
	e.send(obj{"id": e.id, "method": method, "params": params})
	return e.wait(fmt.Sprintf(`"id":%d,`, e.id))
}

// wait reads messages until one has all parts in its first or last bytes.
func (e *rawEditor) wait(parts ...string) []byte {
	for {
		head, err := e.out.ReadString('\n')
		if err != nil {
			e.b.Fatal(err)
		}
		n, _ := strconv.Atoi(strings.TrimSpace(strings.TrimPrefix(head, "Content-Length:")))
		if _, err = e.out.ReadString('\n'); err != nil {
			e.b.Fatal(err)
		}
		data := make([]byte, n)
		if _, err := io.ReadFull(e.out, data); err != nil {
			e.b.Fatal(err)
		}
		ends := string(data[:min(n, 200)]) + string(data[max(0, n-200):])
		if !slices.ContainsFunc(parts, func(p string) bool { return !strings.Contains(ends, p) }) {
			return data
		}
	}
}

func (e *rawEditor) open(uri, text string) {
	e.tell("textDocument/didOpen", obj{"textDocument": obj{"uri": uri, "languageId": "css", "version": 1, "text": text}})
}

// BenchmarkEditor measures how long an editor waits: from start to the first answer, and for completion, hover and the
// diagnostics after a keystroke at the 99th percentile; and the memory it takes.
func BenchmarkEditor(b *testing.B) {
	dir, sheet := largeWorkspace(b)
	half := len(sheet)/2 + strings.Index(sheet[len(sheet)/2:], "\n.rule-") + 1
	first, last := sheet[:half], sheet[half:]
	line := strings.Count(first, "\n")
	uri := "file://" + dir + "/a.css"
	for b.Loop() {
		var starts []time.Duration
		for range 7 {
			began := time.Now()
			e := startRaw(b, dir)
			e.open(uri, ".x { border-radius:  }")
			e.ask("textDocument/completion", obj{"textDocument": obj{"uri": uri}, "position": obj{"line": 0, "character": 20}})
			starts = append(starts, time.Since(began))
			e.end()
		}
		e := startRaw(b, dir)
		e.open(uri, first+".x { }\n"+last)
		e.wait("publishDiagnostics")
		was := 0
		typeIn := func(text string) (at obj) { // between the braces
			e.version++
			column := strings.IndexByte(text, '|')
			text = strings.Replace(text, "|", "", 1)
			e.tell("textDocument/didChange", obj{"textDocument": obj{"uri": uri, "version": e.version},
				"contentChanges": []obj{{"range": obj{"start": obj{"line": line, "character": 5}, "end": obj{"line": line, "character": 5 + was}}, "text": text}}})
			was = len(text)
			return obj{"textDocument": obj{"uri": uri}, "position": obj{"line": line, "character": 5 + column}}
		}
		found := func() { e.wait("publishDiagnostics", fmt.Sprintf(`"version":%d,`, e.version)) }
		var complete, hover, look []time.Duration
		typed := []string{"color: |", "color: var(--c|", "padding: |", "background: #0b6e8|", "|", "border-radius: |", "margin: 1|", "color: c5|"}
		for i := range 400 {
			time.Sleep(quickTyping)
			p := typeIn(typed[i%len(typed)])
			began := time.Now()
			data := e.ask("textDocument/completion", p)
			complete = append(complete, time.Since(began))
			if n := strings.Count(string(data), `"sortText"`); n > 200 {
				b.Fatalf("%d items", n)
			}
		}
		time.Sleep(quickTyping)
		at := typeIn("color: var(--color-c1|7); padding: 16px")
		found()
		for range 400 {
			began := time.Now()
			e.ask("textDocument/hover", at)
			hover = append(hover, time.Since(began))
		}
		for i := range 400 {
			time.Sleep(quickTyping)
			began := time.Now()
			typeIn(fmt.Sprintf("padding: %dpx|", i))
			found()
			look = append(look, time.Since(began))
		}
		b.ReportMetric(percentile(starts, 0.5), "ms-start")
		b.ReportMetric(percentile(complete, 0.5), "ms-completion")
		b.ReportMetric(percentile(complete, 0.99), "ms-completion-p99")
		b.ReportMetric(percentile(hover, 0.99), "ms-hover-p99")
		b.ReportMetric(percentile(look, 0.5), "ms-diagnostics")
		b.ReportMetric(percentile(look, 0.99), "ms-diagnostics-p99")
		b.ReportMetric(residentMB(b, e.cmd.Process.Pid), "MB")
		e.end()
	}
}

// residentMB is the memory of a process.
func residentMB(b *testing.B, pid int) float64 {
	if runtime.GOOS != "linux" {
		return 0
	}
	data, err := os.ReadFile(filepath.Join("/proc", strconv.Itoa(pid), "status"))
	if err != nil {
		b.Fatal(err)
	}
	_, rest, _ := strings.Cut(string(data), "VmRSS:")
	kb, _ := strconv.Atoi(strings.Fields(rest)[0])
	return float64(kb) / 1024
}
