package layout_test

import (
	"os"
	"strings"
	"testing"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/infer/layout"
	"archetyp/core/read/svg"
)

// recovered are the facts that meaning is recovered as: the test holds all of them, so that nothing else is claimed.
var recovered = map[string]bool{"form": true, "border-radius": true, "shadow": true, "blur": true, "filter": true,
	"display":        true,
	"flex-direction": true, "grid-template-columns": true, "gap": true, "row-gap": true, "column-gap": true, "align-items": true, "padding": true,
	"flex-grow": true, "text-overflow": true, "white-space": true, "paragraph": true, "line-height": true, "outlines": true, "stroke-align": true, "rotate": true, "own size": true, "fill": true}

// TestRecovered holds what is recovered from small drawings against what they were drawn as.
func TestRecovered(t *testing.T) {
	data, err := os.ReadFile("testdata/recovered.txt")
	if err != nil {
		t.Fatal(err)
	}
	cases := strings.Split(strings.TrimSpace(string(data)), "\n\n")
	misses := 0
	for _, c := range cases {
		lines := strings.Split(c, "\n")
		title := strings.TrimPrefix(lines[0], "# ")
		if strings.HasPrefix(title, "near miss") {
			misses++
		}
		want := strings.Join(lines[2:], "\n")
		if got := facts(t, title, lines[1]); got != want {
			t.Errorf("%s\n--- got\n%s\n--- wanted\n%s", title, got, want)
		}
	}
	t.Logf("%d drawings, %d of them near misses", len(cases), misses)
	if len(cases) < 60 || misses < 20 {
		t.Errorf("%d drawings and %d near misses are too few", len(cases), misses)
	}
}

func facts(t *testing.T, title, body string) string {
	t.Helper()
	doc, err := svg.Read("case.svg",
		[]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="300" height="200">`+body+`</svg>`), svg.Options{})
	if err != nil {
		t.Fatalf("%s: %v", title, err)
	}
	sel, _ := css.ParseSelector("#it")
	found := doc.Query(sel)
	if len(found) != 1 {
		t.Fatalf("%s: %d elements", title, len(found))
	}
	var f layout.Finder
	var out []string
	for _, l := range f.Facts(found[0]) {
		initial := l.From == "initial value" || l.Value == "center" && l.Name == "stroke-align" || l.Name == "fill" &&
			strings.HasPrefix(l.Value, "#")
		if recovered[l.Name] && (l.Origin != design.Stated || l.Name == "filter" || l.Note != "") && !initial {
			out = append(out, l.Name+": "+l.Value)
		}
	}
	return strings.Join(out, "\n")
}
