package audit

import (
	"encoding/json"
	"strings"
	"testing"
)

// TestSARIFOfNothing is a whole log, too.
func TestSARIFOfNothing(t *testing.T) {
	data, err := SARIF(&Report{}, "1")
	if err != nil || !strings.Contains(string(data), `"results": []`) || !json.Valid(data) {
		t.Errorf("%s %v", data, err)
	}
}

// TestSARIFPlaces has relative addresses, escaped, and those of pages whole.
func TestSARIFPlaces(t *testing.T) {
	r := &Report{Findings: []Finding{{Rule: "contrast", Level: Error, Message: "m", Do: "d", Places: []Place{
		{Source: "design/a b#1.svg", Line: 3, Column: 2, Selector: "#a"}, {Source: "https://ferry.example/x", Line: 1}}}}}
	data, err := SARIF(r, "1")
	if err != nil {
		t.Fatal(err)
	}
	for _, want := range []string{`"uri": "design/a%20b%231.svg"`, `"startLine": 3`, `"startColumn": 2`, `"uri": "https://ferry.example/x"`, `"id": 1`, `"text": "m. d"`} {
		if !strings.Contains(string(data), want) {
			t.Errorf("%s is missing", want)
		}
	}
}

// TestMarkdown has no signs of its own in what findings say.
func TestMarkdown(t *testing.T) {
	r := &Report{Findings: []Finding{{Rule: "filler", Level: Warning, Message: "“a|b*<c>” only fills", Do: "d", Places: []Place{{Source: "a.svg", Screen: "A", Line: 1, Element: "x"}, {Source: "a.svg"}}}}}
	if got := Markdown(r); !strings.Contains(got, `| warning | filler | A: x and 1 more, line 1 | “a\|b\*&lt;c>” only fills | d |`) || !strings.Contains(got, "0 errors, 1 warning, 0 notes") {
		t.Error(got)
	}
	if got := Questions(r); got != "A\n- x: “a|b*<c>” only fills. d\n" {
		t.Errorf("%q", got)
	}
}

// FuzzReadBaseline takes any file.
func FuzzReadBaseline(f *testing.F) {
	f.Add([]byte(`{"baseline": 1, "accepted": [{"id": "a", "rule": "filler"}]}`))
	f.Add([]byte(`{"baseline": 1, "accepted": null}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		b, err := ReadBaseline(data, "x")
		if err != nil {
			return
		}
		r := &Report{Findings: []Finding{{ID: "a", Rule: "filler", Places: []Place{{}}}}}
		b.Known(r, "2026-01-01")
		if _, err := b.Accept(r, "", ""); err != nil {
			t.Fatal(err)
		}
	})
}
