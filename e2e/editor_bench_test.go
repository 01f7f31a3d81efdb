package e2e

import (
	"encoding/json"
	"fmt"
	"os"
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

// percentile is a share of times, in ms.
func percentile(times []time.Duration, share float64) float64 {
	slices.Sort(times)
	return float64(times[int(float64(len(times)-1)*share)].Microseconds()) / 1000
}

// BenchmarkEditor measures how long an editor waits: from start to the first answer, and for completion, hover and the
// diagnostics after a keystroke at the 99th percentile; and the memory it takes.
func BenchmarkEditor(b *testing.B) {
	dir, sheet := largeWorkspace(b)
	first, last := sheet[:len(sheet)/2], sheet[len(sheet)/2:]
	cut := strings.Index(last, "\n.rule-") + 1
	first, last = first+last[:cut], last[cut:]
	for b.Loop() {
		var starts []time.Duration
		for range 5 {
			began := time.Now()
			c := startEditor(b, dir, obj{})
			c.items("a.css", ".x { border-radius: | }")
			starts = append(starts, time.Since(began))
			c.conn.Close()
		}
		c := startEditor(b, dir, obj{"textDocument": obj{"completion": obj{"completionItem": obj{"resolveSupport": obj{"properties": []string{"documentation"}}}}}})
		c.show("a.css", first+".x { |}\n"+last)
		c.published("a.css", func([]finding) bool { return true })
		line, was := strings.Count(first, "\n"), 0
		typeIn := func(text string) (at obj) { // between the braces, as an editor sends it
			c.mu.Lock()
			c.open["a.css"]++
			version := c.open["a.css"]
			c.mu.Unlock()
			column := max(strings.IndexByte(text, '|'), 0)
			text = strings.Replace(text, "|", "", 1)
			c.tell("textDocument/didChange", obj{"textDocument": obj{"uri": c.uri("a.css"), "version": version},
				"contentChanges": []obj{{"range": obj{"start": obj{"line": line, "character": 5}, "end": obj{"line": line, "character": 5 + was}}, "text": text}}})
			was = len(text)
			return obj{"textDocument": obj{"uri": c.uri("a.css")}, "position": obj{"line": line, "character": 5 + column}}
		}
		var complete, hover, look []time.Duration
		typed := []string{"color: |", "color: var(--c|", "padding: |", "background: #0b6e8|", "|", "border-radius: |", "margin: 1|", "color: c5|"}
		for i := range 400 {
			p := typeIn(typed[i%len(typed)])
			began := time.Now()
			var list struct{ Items []json.RawMessage }
			c.ask("textDocument/completion", p, &list)
			complete = append(complete, time.Since(began))
			if len(list.Items) > 200 {
				b.Fatalf("%d items", len(list.Items))
			}
			c.published("a.css", func([]finding) bool { return true })
		}
		at := typeIn("color: var(--color-c1|7); padding: 16px")
		c.published("a.css", func([]finding) bool { return true })
		for range 400 {
			began := time.Now()
			c.ask("textDocument/hover", at, nil)
			hover = append(hover, time.Since(began))
		}
		for i := range 400 {
			began := time.Now()
			typeIn(fmt.Sprintf("padding: %dpx|", i))
			c.published("a.css", func([]finding) bool { return true })
			look = append(look, time.Since(began))
		}
		b.ReportMetric(percentile(starts, 0.5), "ms-start")
		b.ReportMetric(percentile(complete, 0.99), "ms-completion-p99")
		b.ReportMetric(percentile(hover, 0.99), "ms-hover-p99")
		b.ReportMetric(percentile(look, 0.99), "ms-diagnostics-p99")
		b.ReportMetric(percentile(look, 0.5), "ms-diagnostics")
		b.ReportMetric(residentMB(b, c.cmd.Process.Pid), "MB")
		c.conn.Close()
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
