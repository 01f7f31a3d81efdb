package revise

import (
	"errors"
	"strings"
	"testing"

	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/markup"
	"archetyp/core/read/svg"
)

func reader(t testing.TB) func(data []byte) (*design.Document, error) {
	t.Helper()
	return func(data []byte) (*design.Document, error) {
		return svg.Read("a.svg", data, svg.Options{Fonts: &font.Set{}, Root: 16})
	}
}

func drawing(t testing.TB, text string) *Drawing {
	t.Helper()
	if !strings.HasPrefix(text, "<svg") && !strings.HasPrefix(text, "<?xml") {
		text = `<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100">` + text + `</svg>`
	}
	read := reader(t)
	doc, err := read([]byte(text))
	if err != nil {
		t.Fatal(err)
	}
	return &Drawing{Name: "a.svg", Data: []byte(text), Doc: doc, Read: read}
}

// elements are the places of elements by id.
func elements(d *Drawing, ids string) map[int]bool {
	out := map[int]bool{}
	for i, e := range d.Doc.All() {
		if strings.Contains(" "+ids+" ", " "+e.ID+" ") && e.ID != "" {
			out[i] = true
		}
	}
	return out
}

// TestSetValue gives elements other values, in the notation that stands there.
func TestSetValue(t *testing.T) {
	for _, c := range []struct{ name, in, ids, kind, old, fresh, out string }{
		{"an attribute", `<rect id="a" width="9" height="9" fill="#0b6e8f"/>`, "a", "color", "#0b6e8f", "#0a6a8a", `fill="#0a6a8a"`},
		{"in capitals", `<rect id="a" width="9" height="9" fill="#0B6E8F"/>`, "a", "color", "#0b6e8f", "#0a6a8a", `fill="#0A6A8A"`},
		{"three digits", `<rect id="a" width="9" height="9" fill='#fff'/>`, "a", "color", "#ffffff", "#ffee00", `fill='#fe0'`},
		{"three digits do not do", `<rect id="a" width="9" height="9" fill="#fff"/>`, "a", "color", "#ffffff", "#ffee01", `fill="#ffee01"`},
		{"a name", `<rect id="a" width="9" height="9" fill="white"/>`, "a", "color", "#ffffff", "#fefefe", `fill="#fefefe"`},
		{"a function with commas", `<rect id="a" width="9" height="9" fill="rgb(11, 110,143)"/>`, "a", "color", "#0b6e8f", "#0a6a8a", `fill="rgb(10, 106, 138)"`},
		{"a function with blanks", `<rect id="a" width="9" height="9" style="fill: rgb(11 110 143); x: 1"/>`, "a", "color", "#0b6e8f", "#0a6a8a", `style="fill: rgb(10 106 138); x: 1"`},
		{"a style attribute", `<rect id="a" width="9" height="9" style="stroke:#0b6e8f;fill:none"/>`, "a", "color", "#0b6e8f", "#0a6a8a", `style="stroke:#0a6a8a;fill:none"`},
		{"a rule", `<style>.x { fill: #0b6e8f } .y { fill: red }</style><rect id="a" class="x" width="9" height="9"/>`, "a", "color", "#0b6e8f", "#0a6a8a", `.x { fill: #0a6a8a }`},
		{"a rule in CDATA", `<style><![CDATA[.x{fill:#0b6e8f}]]></style><rect id="a" class="x" width="9" height="9"/>`, "a", "color", "#0b6e8f", "#0a6a8a", `.x{fill:#0a6a8a}`},
		{"a custom property", `<style>svg { --sea: #0b6e8f }</style><rect id="a" width="9" height="9" style="fill: var(--sea)"/>`, "a", "color", "#0b6e8f", "#0a6a8a", `--sea: #0a6a8a`},
		{"the group around it", `<g fill="#0b6e8f"><rect id="a" width="9" height="9"/><rect id="b" x="20" width="9" height="9"/></g>`, "a b", "color", "#0b6e8f", "#0a6a8a", `<g fill="#0a6a8a">`},
		{"one of two", `<rect id="a" width="9" height="9" fill="#0b6e8f"/><rect id="b" x="20" width="9" height="9" fill="#0b6e8f"/>`, "b", "color", "#0b6e8f", "#0a6a8a", `<rect id="a" width="9" height="9" fill="#0b6e8f"/><rect id="b" x="20" width="9" height="9" fill="#0a6a8a"/>`},
		{"a gradient", `<linearGradient id="g"><stop stop-color="#0b6e8f"/><stop offset="1" stop-color="#fff"/></linearGradient><rect id="a" width="90" height="9" fill="url(#g)"/>`, "a", "color", "#0b6e8f", "#0a6a8a", `<stop stop-color="#0a6a8a"/>`},
		{"a gradient follows where all of it does", `<linearGradient id="g"><stop stop-color="#0b6e8f"/><stop offset="1" stop-color="#fff"/></linearGradient><rect width="90" height="9" fill="url(#g)"/><rect id="a" y="20" width="90" height="9" fill="#0b6e8f"/>`, "a", "color", "#0b6e8f", "#0a6a8a", `<stop stop-color="#0a6a8a"/>`},
		{"a gradient stays where another does", `<linearGradient id="g"><stop stop-color="#0b6e8f"/><stop offset="1" stop-color="#fff"/></linearGradient><rect width="90" height="9" fill="url(#g)"/><rect id="a" y="20" width="90" height="9" fill="#0b6e8f"/><rect id="b" y="40" width="90" height="9" fill="#0b6e8f"/>`, "a", "color", "#0b6e8f", "#0a6a8a", `<stop stop-color="#0b6e8f"/>`},
		{"a shadow follows", `<filter id="f"><feDropShadow dy="2" flood-color="#0b6e8f" flood-opacity="0.3"/></filter><rect id="a" width="90" height="9" fill="#0b6e8f" filter="url(#f)"/>`, "a", "color", "#0b6e8f", "#0a6a8a", `flood-color="#0a6a8a"`},
		{"what is used", `<defs><path id="p" d="M0 0h9v9z" fill="#0b6e8f"/></defs><use id="a" href="#p"/>`, "p", "color", "#0b6e8f", "#0a6a8a", `<path id="p" d="M0 0h9v9z" fill="#0a6a8a"/>`},
		{"opacity elsewhere", `<rect id="a" width="9" height="9" fill="#0b6e8f" fill-opacity="0.5"/>`, "a", "color", "rgb(11 110 143 / 0.5)", "rgb(10 106 138 / 0.5)", `fill="#0a6a8a" fill-opacity="0.5"`},
		{"letters of words", `<text id="a" x="9" y="20" fill="#0b6e8f">Pier <tspan fill="#0b6e8f">two</tspan></text>`, "a", "color", "#0b6e8f", "#0a6a8a", `<text id="a" x="9" y="20" fill="#0a6a8a">Pier <tspan fill="#0a6a8a">two`},
		{"a radius", `<rect id="a" width="90" height="40" rx="12" fill="red"/>`, "a", "border-radius", "12px", "16px", `rx="16"`},
		{"both radii", `<rect id="a" width="90" height="40" rx="12" ry="12" fill="red"/>`, "a", "border-radius", "12px", "16px", `rx="16" ry="16"`},
		{"a radius in a scaled group", `<g transform="scale(2)"><rect id="a" width="60" height="30" rx="6" fill="red"/></g>`, "a", "border-radius", "12px", "16px", `rx="8"`},
		{"a radius in a rule", `<style>rect { rx: 12px }</style><rect id="a" width="90" height="40" fill="red"/>`, "a", "border-radius", "12px", "16px", `rx: 16px`},
		{"a size of type", `<text id="a" x="9" y="20" font-size="14">Pier</text>`, "a", "font-size", "14px", "16px", `font-size="16"`},
		{"a size in a rule", `<style>.t{font-size:14px}</style><text id="a" class="t" x="9" y="20">Pier</text>`, "a", "font-size", "14px", "16px", `font-size:16px`},
		{"a size in a shorthand", `<text id="a" style="font: 600 14px/20px Quay" x="9" y="20">Pier</text>`, "a", "font-size", "14px", "16px", `font: 600 16px/20px Quay`},
		{"a weight", `<text id="a" x="9" y="20" font-weight="bold">Pier</text>`, "a", "font-weight", "700", "600", `font-weight="600"`},
		{"a family", `<text id="a" x="9" y="20" font-family="Quay Sans, sans-serif">Pier</text>`, "a", "font-family", "Quay Sans", "Pier Sans", `font-family="Pier Sans, sans-serif"`},
		{"letter spacing", `<text id="a" x="9" y="20" letter-spacing="-0.4">Pier</text>`, "a", "letter-spacing", "-0.4px", "-0.5px", `letter-spacing="-0.5"`},
	} {
		d := drawing(t, c.in)
		done, err := d.SetValue(Value{Kind: Kind(c.kind), Old: c.old, New: c.fresh, Elements: elements(d, c.ids)})
		if err != nil {
			t.Errorf("%s: %v", c.name, err)
			continue
		}
		out, err := markup.Rewrite(d.Data, done.Edits)
		if err != nil || !strings.Contains(string(out), c.out) {
			t.Errorf("%s: %s %v\nwant %s", c.name, out, err, c.out)
		}
	}
}

// TestRefusals leaves a drawing alone where more would change than was asked for.
func TestRefusals(t *testing.T) {
	for _, c := range []struct{ name, in, ids, kind, old, fresh, why string }{
		{"a rule that others share", `<style>.x { fill: #0b6e8f }</style><rect id="a" class="x" width="9" height="9"/><rect id="b" class="x" x="20" width="9" height="9"/>`, "a", "color", "#0b6e8f", "#0a6a8a", "would change, too"},
		{"a group that others inherit from", `<g fill="#0b6e8f"><rect id="a" width="9" height="9"/><rect id="b" x="20" width="9" height="9"/></g>`, "a", "color", "#0b6e8f", "#0a6a8a", "would change, too"},
		{"a radius of a path", `<path id="a" d="M12 0H78A12 12 0 0 1 90 12V28A12 12 0 0 1 78 40H12A12 12 0 0 1 0 28V12A12 12 0 0 1 12 0Z" fill="red"/>`, "a", "border-radius", "12px", "16px", "written nowhere"},
		{"no such value", `<rect id="a" width="9" height="9" fill="#ff0000"/>`, "a", "color", "#0b6e8f", "#0a6a8a", "written nowhere"},
		{"nobody", `<rect id="a" width="9" height="9" fill="#ff0000"/>`, "z", "color", "#ff0000", "#0a6a8a", "no element"},
		{"another encoding", `<?xml version="1.0" encoding="iso-8859-1"?><svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><rect id="a" width="9" height="9" fill="#ff0000"/></svg>`, "a", "color", "#ff0000", "#0a6a8a", "UTF-8"},
	} {
		d := drawing(t, c.in)
		_, err := d.SetValue(Value{Kind: Kind(c.kind), Old: c.old, New: c.fresh, Elements: elements(d, c.ids)})
		var no *Unwritable
		if !errors.As(err, &no) || !strings.Contains(no.Reason, c.why) {
			t.Errorf("%s: %v, not %q", c.name, err, c.why)
		}
	}
}

// TestMissingMarks writes marks that are not in the tag.
func TestMissingMarks(t *testing.T) {
	d := drawing(t, `<g id="a" data-component="button"><rect width="9" height="9"/></g>`)
	e := d.Doc.All()[0]
	e.Marks.Variant, e.Marks.Formats, e.Marks.Label = "tone=main", []string{"svg", "png"}, `Say "pay" & go`
	out, err := markup.Rewrite(d.Data, MissingMarks(d.Data, e))
	if want := `<g id="a" data-component="button" data-label="Say &quot;pay&quot; &amp; go" data-variant="tone=main" data-formats="svg png">`; err != nil || !strings.Contains(string(out), want) {
		t.Errorf("%s %v\nwant %s", out, err, want)
	}
}

// TestReplace puts other drawings in the place of elements, in their boxes.
func TestReplace(t *testing.T) {
	for _, c := range []struct{ name, in, fresh, out, why string }{
		{"a path", `<path id="a" data-asset="icons/a" d="M10 20h20v10z" fill="red" class="x"/><rect x="50" width="9" height="9"/>`, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 16 16"><path d="M0 0h16v16z"/></svg>`,
			`<g id="a" data-asset="icons/a"><svg x="10" y="20" width="20" height="10" viewBox="0 0 16 16"><path d="M0 0h16v16z"/></svg></g><rect x="50" width="9" height="9"/>`, ""},
		{"with ids of its own", `<g id="a"><rect width="20" height="10" fill="red"/></g>`, `<svg xmlns="http://www.w3.org/2000/svg" width="8" height="4" fill="none"><linearGradient id="g"/><path id="p" d="M0 0h8v4z" fill="url(#g)" style="stroke:url('#g')"/><use href="#p"/><a href="#other"/></svg>`,
			`viewBox="0 0 8 4" fill="none"><linearGradient id="icons-a-g"/><path id="icons-a-p" d="M0 0h8v4z" fill="url(#icons-a-g)" style="stroke:url('#icons-a-g')"/><use href="#icons-a-p"/><a href="#other"/></svg></g>`, ""},
		{"in a moved and scaled group", `<g transform="translate(10 20) scale(2)"><path id="a" transform="translate(1 1)" d="M0 0h8v4z" fill="red"/></g>`, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 4"><path d="M0 0h8v4z"/></svg>`, `<g id="a"><svg x="1" y="1" width="8" height="4"`, ""},
		{"a turned one", `<path id="a" transform="rotate(30)" d="M20 20h8v4z" fill="red"/>`, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 4"><path d="M0 0h8v4z"/></svg>`, `<g id="a"><svg `, ""},
		{"in a turned group", `<g transform="rotate(30)"><path id="a" d="M20 20h8v4z" fill="red"/></g>`, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 4"><path d="M0 0h8v4z"/></svg>`, "", "is turned"},
		{"a style sheet", `<path id="a" d="M0 0h8v4z"/>`, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 4"><style>path{fill:red}</style><path d="M0 0h8v4z"/></svg>`, "", "style sheet"},
		{"no size", `<path id="a" d="M0 0h8v4z"/>`, `<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0h8v4z"/></svg>`, "", "viewBox"},
		{"no drawing", `<path id="a" d="M0 0h8v4z"/>`, `{"svg": 1}`, "", "no SVG"},
		{"a page", `<path id="a" d="M0 0h8v4z"/>`, `<html/>`, "", "no SVG"},
		{"nothing", `<path id="a" d="M0 0h8v4z"/>`, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 4"/>`, "", "empty"},
	} {
		d := drawing(t, c.in)
		var e *design.Element
		for _, x := range d.Doc.All() {
			if x.ID == "a" {
				e = x
			}
		}
		done, err := d.Replace(e, []byte(c.fresh), "icons/a")
		if c.why != "" {
			if err == nil || !strings.Contains(err.Error(), c.why) {
				t.Errorf("%s: %v, not %q", c.name, err, c.why)
			}
			continue
		}
		if err != nil {
			t.Errorf("%s: %v", c.name, err)
			continue
		}
		out, err := markup.Rewrite(d.Data, done.Edits)
		if err != nil || !strings.Contains(string(out), c.out) {
			t.Errorf("%s: %s %v\nwant %s", c.name, out, err, c.out)
		}
		again := drawing(t, string(out))
		for _, x := range again.Doc.All() {
			if x.ID == "a" {
				e = x
			}
		}
		if done, err := again.Replace(e, []byte(c.fresh), "icons/a"); err != nil || len(done.Edits) > 0 && c.name != "a turned one" {
			t.Errorf("%s: once more it changes again: %v %v", c.name, done, err)
		}
	}
}

// FuzzSites finds the values of any file without leaving it.
func FuzzSites(f *testing.F) {
	f.Add([]byte(`<svg xmlns="http://www.w3.org/2000/svg"><style>a{b:c;d:rgb(1,2,3)}</style><rect fill='#fff' style="a:b;;c"/></svg>`))
	f.Add([]byte(`<svg xmlns="http://www.w3.org/2000/svg"><style><![CDATA[a{b:c]]></style><g a=b/></svg>`))
	f.Fuzz(func(t *testing.T, data []byte) {
		doc, err := markup.ParseXML(data)
		if err != nil {
			return
		}
		for _, s := range sitesOf(data, doc) {
			if s.at.From < 0 || s.at.To > len(data) || string(data[s.at.From:s.at.To]) != s.text {
				t.Fatalf("%q is not at %+v", s.text, s.at)
			}
			for _, e := range s.replace(Value{Kind: Colour, Old: "#ffffff", New: "#0b6e8f"}) {
				if e.From < s.at.From || e.To > s.at.To {
					t.Fatalf("%+v lies outside %+v", e, s.at)
				}
			}
		}
	})
}
