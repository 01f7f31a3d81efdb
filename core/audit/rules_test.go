package audit

import (
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"

	"archetyp/core/asset"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/read/page"
	"archetyp/core/read/svg"
	"archetyp/core/token"
	"archetyp/core/token/harvest"
)

// example is a case of testdata: drawings in which a rule finds something, or nothing.
type example struct {
	name   string
	found  bool
	says   string // a part of the message
	linked []string
	scale  []float64
	raw    [][2]string // values of style sheets, and the tokens they are
	docs   []string
}

// examples reads testdata/RULE.txt. A line that begins with + or - begins a case in which something is found or
// nothing; "=> words" behind its name are a part of the message. Lines with @ set linked components, the scale of
// type and values of style sheets; --- stands between drawings. What is no whole drawing is laid on a screen with words and a box.
func examples(t *testing.T, rule string) (out []example) {
	t.Helper()
	data, err := os.ReadFile(filepath.Join("testdata", rule+".txt"))
	if err != nil {
		t.Fatal(err)
	}
	var doc []string
	end := func() {
		if len(out) > 0 && len(doc) > 0 {
			last := &out[len(out)-1]
			last.docs = append(last.docs, strings.Join(doc, "\n"))
		}
		doc = nil
	}
	for _, line := range strings.Split(string(data), "\n") {
		switch {
		case strings.HasPrefix(line, "+ "), strings.HasPrefix(line, "- "):
			end()
			name, says, _ := strings.Cut(line[2:], " => ")
			out = append(out, example{name: name, found: line[0] == '+', says: says})
		case strings.HasPrefix(line, "@linked "):
			out[len(out)-1].linked = strings.Fields(line)[1:]
		case strings.HasPrefix(line, "@scale "):
			for _, f := range strings.Fields(line)[1:] {
				px, err := strconv.ParseFloat(f, 64)
				if err != nil {
					t.Fatal(err)
				}
				out[len(out)-1].scale = append(out[len(out)-1].scale, px)
			}
		case strings.HasPrefix(line, "@raw "):
			f := strings.Fields(line)
			out[len(out)-1].raw = append(out[len(out)-1].raw, [2]string{f[1], f[2]})
		case line == "---":
			end()
		case strings.TrimSpace(line) != "":
			doc = append(doc, line)
		}
	}
	end()
	return out
}

const (
	onScreen  = `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="390" height="400"><rect id="page" width="390" height="400" fill="#ffffff"/>`
	offScreen = `<g id="foot"><text x="10" y="364" font-size="14" fill="#222222">Tern and Tide</text><text x="10" y="380" font-size="14" fill="#222222">Skerry Point</text><text x="10" y="396" font-size="14" fill="#222222">Long Sound</text></g></svg>`
)

func readExample(t *testing.T, x *example) In {
	t.Helper()
	in := In{Together: true, Linked: x.linked, Sets: asset.BuiltIn()}
	for i, text := range x.docs {
		name := fmt.Sprintf("design/%c.svg", 'a'+i)
		if strings.HasPrefix(text, "<!doctype") {
			p, err := page.Read([]byte(text), page.Options{Name: "page.html", Medium: css.Medium{Width: 1280, Height: 800}})
			if err != nil {
				t.Fatalf("%s: %v", x.name, err)
			}
			in.Docs = append(in.Docs, p.Document("page.html", page.DocumentOptions{}))
			continue
		}
		if !strings.HasPrefix(text, "<svg") {
			text = onScreen + text + offScreen
		}
		doc, err := svg.Read(name, []byte(text), svg.Options{Fonts: &font.Set{}, Root: 16})
		if err != nil {
			t.Fatalf("%s: %v", x.name, err)
		}
		in.Docs = append(in.Docs, doc)
	}
	for _, r := range x.raw {
		in.Raw = append(in.Raw, Raw{Value: r[0], Token: r[1], Use: "var(--" + r[1] + ")", Places: []Place{{Source: "site.css", Line: 3}}})
	}
	in.Harvest = harvest.Collect(in.Docs, nil, token.Scales{Space: 4, Type: x.scale}, nil)
	return in
}

// TestRules runs the cases of every rule: at least four in which it finds something, and four in which it does not.
func TestRules(t *testing.T) {
	for i := range Rules {
		r := &Rules[i]
		t.Run(r.Name, func(t *testing.T) {
			t.Parallel()
			found, none := 0, 0
			for _, x := range examples(t, r.Name) {
				in := readExample(t, &x)
				in.Settings = map[string]Setting{}
				for j := range Rules {
					in.Settings[Rules[j].Name] = Setting{Level: Off}
				}
				in.Settings[r.Name] = Setting{Level: Warning}
				report := Run(in)
				var says []string
				for _, f := range report.Findings {
					says = append(says, f.Message)
				}
				switch {
				case x.found && len(says) == 0:
					t.Errorf("%s: nothing was found", x.name)
				case !x.found && len(says) > 0:
					t.Errorf("%s: found %q", x.name, says)
				case x.found && !slices.ContainsFunc(says, func(s string) bool { return strings.Contains(s, x.says) }):
					t.Errorf("%s: found %q, not %q", x.name, says, x.says)
				case x.found && len(says) > 1 && !strings.HasSuffix(x.name, "…"):
					t.Errorf("%s: one cause gave %d findings: %q", x.name, len(says), says)
				}
				if x.found {
					found++
				} else {
					none++
				}
			}
			if found < 4 || none < 4 {
				t.Errorf("%d cases in which something is found, and %d in which nothing is", found, none)
			}
		})
	}
}

// TestExceptions leaves alone what a configuration says, and counts it.
func TestExceptions(t *testing.T) {
	x := example{docs: []string{`<g id="hint"><text x="10" y="40" font-size="14" fill="#cccccc">Windy</text></g><text x="10" y="80" font-size="14" fill="#dddddd">Calm</text>`}}
	in := readExample(t, &x)
	sel, err := css.ParseSelector("#hint")
	if err != nil {
		t.Fatal(err)
	}
	in.Settings = map[string]Setting{"contrast": {Except: []Exception{{Select: sel, Reason: "a sample"}}}}
	r := Run(in)
	if r.Accepted != 1 || Count(r.Findings)[Error] != 1 || !strings.Contains(r.Findings[0].Message, "#dddddd") {
		t.Errorf("%+v", r.Findings)
	}
	in.Settings = map[string]Setting{"contrast": {Level: Note, In: func(source string) bool { return source == "design/b.svg" }}}
	if r := Run(in); len(r.Findings) != 0 {
		t.Errorf("%+v", r.Findings)
	}
}

// TestIDsStay holds the id of a finding while other things on the screen change.
func TestIDsStay(t *testing.T) {
	ids := func(more string) (out []string) {
		x := example{docs: []string{more + `<g id="hint"><text id="small" x="10" y="40" font-size="14" fill="#cccccc">Windy</text></g>`}}
		for _, f := range Run(readExample(t, &x)).Findings {
			if f.Rule == "contrast" {
				out = append(out, f.ID)
			}
		}
		return out
	}
	a, b := ids(""), ids("\n\n<rect id=\"other\" width=\"10\" height=\"10\" fill=\"#123456\"/>\n")
	if len(a) != 1 || !slices.Equal(a, b) {
		t.Errorf("%v, then %v", a, b)
	}
}

// TestShares counts what stands in components.
func TestShares(t *testing.T) {
	x := example{docs: []string{`<g id="card" data-component="card"><rect width="80" height="40" fill="#eeeeee"/><text x="4" y="20" font-size="14">Pier</text></g><g id="loose"><rect y="60" width="80" height="40" fill="#eeeeee"/><text x="4" y="80" font-size="14">Quay</text></g>`}}
	r := Run(readExample(t, &x))
	if s := r.Screens[0]; s.Components != 2 || s.Elements != 8 || !slices.Equal(s.Others, []string{"loose", "foot"}) {
		t.Errorf("%+v", s)
	}
}

func placesOf(list []Finding) (out []*design.Element) {
	for _, f := range list {
		for _, p := range f.Places {
			out = append(out, p.At)
		}
	}
	return out
}

// TestPlacesOfValues leads from a value to the elements that use it.
func TestPlacesOfValues(t *testing.T) {
	x := example{docs: []string{`<rect id="a" x="10" y="10" width="80" height="40" fill="#0b6e8f"/><rect id="b" x="10" y="60" width="80" height="40" fill="#0b6e8f"/><rect id="c" x="10" y="110" width="80" height="40" fill="#0c6f91"/>`}}
	r := Run(readExample(t, &x))
	list := placesOf(slices.DeleteFunc(r.Findings, func(f Finding) bool { return f.Rule != "near-duplicate" }))
	if len(list) != 1 || list[0].ID != "c" {
		t.Errorf("%v", list)
	}
}
