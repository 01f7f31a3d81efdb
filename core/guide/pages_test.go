package guide_test

import (
	"fmt"
	"strings"
	"testing"

	"archetyp/core/design"
	"archetyp/core/guide"
	"archetyp/core/read/svg"
	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/core/token/harvest"
)

// drawings reads screens: name and content, two after the other.
func drawings(t testing.TB, list ...string) (out []guide.Drawing) {
	t.Helper()
	for i := 0; i < len(list); i += 2 {
		text := `<svg xmlns="http://www.w3.org/2000/svg" width="390" height="300" data-screen="` + list[i] + `">` + list[i+1] + `</svg>`
		d, err := svg.Read(fmt.Sprintf("%d.svg", i/2), []byte(text), svg.Options{})
		if err != nil {
			t.Fatal(err)
		}
		out = append(out, guide.Drawing{Name: d.Name, Key: text, Screens: guide.ScreensOf(d), Holds: guide.HoldsOf(d, noNames),
			Doc: func() (*design.Document, error) { return d, nil }})
	}
	return out
}

// plainInput is a guide of drawings without tokens.
func plainInput(list []guide.Drawing) *guide.Input {
	set := token.NewSet(nil)
	return &guide.Input{Name: "W", Drawings: list, Tokens: set, Library: token.Plain(set), CodeNames: noNames,
		Find: emit.NewFinder(nil, nil), Harvest: &harvest.Harvest{}, Property: func(path string) string { return emit.Property(path, "") }}
}

// TestScreensAreArranged leaves screens out, orders, groups and describes them.
func TestScreensAreArranged(t *testing.T) {
	in := plainInput(drawings(t, "Sketch 1", "", "Login", `<desc>Who comes in</desc><rect width="9" height="9"/>`, "Pay", "", "Map/Inner", ""))
	in.Screens = guide.Arrangement{LeaveOut: []string{"Sketch *", "*[in]"}, Order: []string{"Pay", "M*/*r"}, Groups: map[string][]string{"Money": {"P*y"}, "Order": {"Pay"}}, // the first group, by name
		About: map[string]string{"Pay": "Where money goes"}}
	files := made(t, in)
	page := string(files["screens.html"])
	at := -1
	for _, want := range []string{"Money", "Pay", "Where money goes", "Other screens", "Map/Inner", "Login", "Who comes in"} {
		i := strings.Index(page[at+1:], want)
		if i < 0 {
			t.Fatalf("%s is not there, or not in its place", want)
		}
		at += 1 + i
	}
	for name := range files {
		if strings.Contains(name, "sketch") {
			t.Errorf("%s is published", name)
		}
	}
	if strings.Contains(page, "Sketch") {
		t.Error("a screen that is left out is listed")
	}
}

// TestFlows draws ways there and back, round in a circle, and to nowhere.
func TestFlows(t *testing.T) {
	button := func(to string) string {
		return `<g data-label="Go" data-leads-to="` + to + `"><rect x="20" y="20" width="80" height="40"/></g>`
	}
	files := made(t, plainInput(drawings(t, "A", button("B; on=tap; transition=slide"), "B", button("a"), "C", button("Nowhere"), "D", "")))
	page, data := string(files["flows.html"]), string(files["flows.js"])
	for _, want := range []string{"tap slide", "Nowhere (no such screen)", `class="broken"`, `href="screens/a.html#Go`} {
		if !strings.Contains(page, want) {
			t.Errorf("no %s", want)
		}
	}
	if strings.Count(page, `class="node"`) != 3 || strings.Contains(page, `href="screens/d.html" style`) {
		t.Error("the map has other screens than those that are connected")
	}
	if !strings.Contains(data, `"to":-1`) || !strings.Contains(data, `"with":"slide"`) || !strings.Contains(data, `"b":[20,20,80,40]`) {
		t.Error(data)
	}
}

// keysOf are the keys of the files of a guide.
func keysOf(t testing.TB, in *guide.Input) map[string]string {
	t.Helper()
	files, err := guide.Files(in)
	if err != nil {
		t.Fatal(err)
	}
	out := map[string]string{}
	for _, f := range files {
		if f.Key == "" {
			t.Errorf("%s has no key: it is made every time", f.Path)
		}
		out[f.Path] = f.Key
	}
	return out
}

// TestOneChangeIsOneDrawingsPages has the same input give the same keys, and a changed drawing change its own files
// alone.
func TestOneChangeIsOneDrawingsPages(t *testing.T) {
	was := keysOf(t, plainInput(drawings(t, "A", `<rect width="9" height="9"/>`, "B", `<rect width="7" height="9"/>`)))
	for path, key := range keysOf(t, plainInput(drawings(t, "A", `<rect width="9" height="9"/>`, "B", `<rect width="7" height="9"/>`))) {
		if was[path] != key {
			t.Errorf("%s has another key the second time", path)
		}
	}
	for path, key := range keysOf(t, plainInput(drawings(t, "A", `<rect width="9" height="9"/>`, "B", `<rect width="8" height="9"/>`))) {
		if own := strings.Contains(path, "/b.") || strings.Contains(path, "screen-b"); (was[path] != key) != own {
			t.Errorf("%s: changed is %v", path, was[path] != key)
		}
	}
}

// TestUnlikeInstances lists looks that no variant or state distinguishes, and gaps in the matrix.
func TestUnlikeInstances(t *testing.T) {
	one := func(attributes, radius string) string {
		return `<g data-component="tag" ` + attributes + `><rect width="60" height="20" rx="` + radius + `" fill="#e4572e"/></g>`
	}
	in := plainInput(drawings(t, "A", one(`data-variant="tone=a"`, "4")+one(`data-variant="tone=a"`, "4")+one(`data-variant="tone=a"`, "9")+
		one(`data-variant="tone=a" data-state="hover"`, "4")+one(`data-variant="tone=b"`, "4")+one(`data-variant="tone=b" data-state="active"`, "4")))
	page := string(made(t, in)["components/tag.html"])
	for _, want := range []string{"tone=a default has 2 looks", "look 2", "tone=a has no active", "tone=b has no hover", `class="missing"`, "6 times"} {
		if !strings.Contains(page, want) {
			t.Errorf("no %s", want)
		}
	}
}
