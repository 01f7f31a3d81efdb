package naming

import (
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/infer/alike"
	"archetyp/core/read/svg"
)

func propose(t testing.TB, text string) []Proposal {
	t.Helper()
	doc, err := svg.Read("a.svg", []byte(text), svg.Options{Fonts: &font.Set{}, Root: 16})
	if err != nil {
		t.Fatal(err)
	}
	return Propose(doc)
}

func names(list []Proposal) string {
	var out []string
	for _, p := range list {
		out = append(out, p.Name)
	}
	return strings.Join(out, ", ")
}

// TestPropose names elements from what they are, hold and stand beside.
func TestPropose(t *testing.T) {
	for _, c := range []struct{ name, in, want string }{
		{"a button by its words", `<g><rect x="10" y="10" width="120" height="40" rx="8" fill="#0b6e8f"/><text x="70" y="35" text-anchor="middle" font-size="14">Book now</text></g>`, "book now button"},
		{"a field by its label", `<g><text x="10" y="20" font-size="12">Travellers</text><rect x="10" y="26" width="200" height="40" fill="#fff" stroke="#222"/><text x="20" y="50" font-size="14">2 adults</text></g>`, "travellers field"},
		{"a card by its largest words", `<g><rect x="10" y="10" width="160" height="120" fill="#eee"/><text x="20" y="40" font-size="14">to Long Sound</text><text x="20" y="70" font-size="20">Skerry Point</text></g>`, "skerry point card"},
		{"a component", `<g data-component="badge"><rect x="10" y="10" width="80" height="24" rx="12" fill="#eee"/><text x="20" y="27" font-size="12">On time</text></g>`, "on time badge"},
		{"an asset", `<g data-asset="icons/anchor"><path d="M10 10h9v9z"/><path d="M20 10h9v9z"/></g>`, "anchor icon"},
		{"an icon beside words", `<g id="tab"><g><path d="M10 10c4 8 12 2 16 10z"/><path d="M12 12l9 9-3 4z"/></g><text x="10" y="50" font-size="12">Times</text></g>`, "times icon"},
		{"by its colour where there are no words", `<g><path d="M10 10c4 8 12 2 16 10z" fill="#e01b24"/><path d="M12 12l9 9-3 4z" fill="#e01b24"/></g>`, "red icon"},
		{"alike things by their other words", `<g id="l"><g><rect x="10" y="10" width="300" height="40" fill="#eee"/><text x="20" y="35" font-size="14">Pier one</text><text x="120" y="35" font-size="14">Monday</text></g><g><rect x="10" y="60" width="300" height="40" fill="#eee"/><text x="20" y="85" font-size="14">Pier one</text><text x="120" y="85" font-size="14">Friday</text></g></g>`, "pier one monday row, pier one friday row"},
		{"the same words twice", `<g id="l"><g><rect x="10" y="10" width="300" height="40" fill="#eee"/><text x="20" y="35" font-size="14">Pier</text><text x="120" y="35" font-size="14">1</text></g><g><rect x="10" y="60" width="300" height="40" fill="#eee"/><text x="20" y="85" font-size="14">Pier</text><text x="120" y="85" font-size="14">2</text></g></g>`, "pier row, second pier row"},
		{"beside a name that is taken", `<g id="l"><g data-label="pier row"><rect x="10" y="10" width="300" height="40" fill="#eee"/></g><g><rect x="10" y="60" width="300" height="40" fill="#eee"/><text x="20" y="85" font-size="14">Pier</text><text x="120" y="85" font-size="14">2</text></g></g>`, "second pier row"},
		{"what has a name", `<g id="pay"><rect width="9" height="9"/><text x="9" y="20">Pay</text></g>`, ""},
		{"what nobody sees", `<g display="none"><rect width="9" height="9"/><text x="9" y="20">Pay</text></g>`, ""},
	} {
		if got := names(propose(t, `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="300">`+c.in+`</svg>`)); got != c.want {
			t.Errorf("%s: %q, not %q", c.name, got, c.want)
		}
	}
}

// TestComponentOf names sets of alike things, and what differs in them.
func TestComponentOf(t *testing.T) {
	for _, c := range []struct{ name, in, want string }{
		{"by their own name", `<g id="l"><g data-label="Day 1"><rect x="10" y="10" width="300" height="40" fill="#eee"/><text x="20" y="35" font-size="14">Pier</text></g><g data-label="Day 2"><rect x="10" y="60" width="300" height="40" fill="#eee"/><text x="20" y="85" font-size="14">Quay</text></g></g>`, "day"},
		{"by where they stand", `<g id="sailings"><g><rect x="10" y="10" width="300" height="40" fill="#eee"/><text x="20" y="35" font-size="14">Pier</text><text x="90" y="35" font-size="14">Quay</text></g><g><rect x="10" y="60" width="300" height="40" fill="#eee"/><text x="20" y="85" font-size="14">Tide</text><text x="90" y="85" font-size="14">Tern</text></g></g>`, "sailings-row"},
		{"with a tone", `<g id="states"><g><rect x="10" y="10" width="90" height="24" rx="12" fill="#dff2e6"/><text x="20" y="27" font-size="14">On time</text></g><g><rect x="110" y="10" width="90" height="24" rx="12" fill="#dff2e6"/><text x="120" y="27" font-size="14">Sailing</text></g><g><rect x="210" y="10" width="90" height="24" rx="12" fill="#e01b24"/><text x="220" y="27" font-size="14">Late</text></g></g>`, "states-label , , tone=red"},
	} {
		doc, err := svg.Read("a.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="400" height="300">`+c.in+`</svg>`), svg.Options{Fonts: &font.Set{}, Root: 16})
		if err != nil {
			t.Fatal(err)
		}
		sets := alike.Find(doc.All())
		if len(sets) != 1 {
			t.Errorf("%s: %d sets", c.name, len(sets))
			continue
		}
		x := ComponentOf(sets[0], map[string]bool{})
		got := x.Name
		if v := strings.Join(x.Variants, ", "); strings.Trim(v, ", ") != "" {
			got += " " + v
		}
		if got != c.want {
			t.Errorf("%s: %q, not %q", c.name, got, c.want)
		}
		if again := ComponentOf(sets[0], map[string]bool{x.Name: true}); again.Name != x.Name+"-second" {
			t.Errorf("%s: %s beside %s", c.name, again.Name, x.Name)
		}
	}
}

// TestNamesOfForeignDrawings holds what is promised of all names, on drawings that nobody here drew: unlike among
// siblings, four words at most, the same on every run and with something else on the screen.
func TestNamesOfForeignDrawings(t *testing.T) {
	files, err := filepath.Glob("/usr/share/openclipart/svg/computer/*.svg")
	if err != nil {
		t.Fatal(err)
	}
	if len(files) == 0 {
		t.Skip("openclipart-svg is not installed")
	}
	named := 0
	for _, f := range files[:min(len(files), 60)] {
		data, err := os.ReadFile(f)
		if err != nil {
			t.Fatal(err)
		}
		doc, err := svg.Read("a.svg", data, svg.Options{Fonts: &font.Set{}, Root: 16})
		if err != nil {
			continue
		}
		list := Propose(doc)
		siblings := map[*design.Element][]string{}
		for _, e := range doc.All() {
			if e.Name != "" {
				siblings[e.Parent] = append(siblings[e.Parent], words(e.Name))
			}
		}
		for _, p := range list {
			named++
			if n := len(strings.Fields(p.Name)); n == 0 || n > most {
				t.Errorf("%s: %q has %d words", f, p.Name, n)
			}
			if slices.Contains(siblings[p.Element.Parent], p.Name) {
				t.Errorf("%s: %q twice", f, p.Name)
			}
			siblings[p.Element.Parent] = append(siblings[p.Element.Parent], p.Name)
		}
		i := strings.LastIndex(string(data), "</svg>")
		if i < 0 {
			continue
		}
		more := string(data[:i]) + `<rect id="tide" x="1" y="1" width="2" height="2" fill="#123456"/>` + string(data[i:])
		again, err := svg.Read("a.svg", []byte(more), svg.Options{Fonts: &font.Set{}, Root: 16})
		if err != nil {
			continue
		}
		if was, now := names(list), names(Propose(again)); was != now {
			t.Errorf("%s: %s\nwith one more box: %s", f, was, now)
		}
	}
	if named == 0 {
		t.Error("nothing was named")
	}
}
