package guide_test

import (
	"bytes"
	"image/png"
	"path"
	"regexp"
	"strings"
	"testing"

	"archetyp/core/asset"
	"archetyp/core/code"
	"archetyp/core/design"
	"archetyp/core/guide"
	"archetyp/core/read/svg"
	"archetyp/core/text"
	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/core/token/harvest"

	"golang.org/x/net/html"
)

const drawing = `<svg xmlns="http://www.w3.org/2000/svg" width="390" height="300" data-screen="Pay &lt;now&gt;">
<rect width="390" height="300" fill="#f5f8fa"/>
<g data-component="button" data-variant="tone=main" data-state="default" data-behaviour="Waits &amp; sees"><rect x="20" y="20" width="100" height="40" rx="8" fill="#0b6e8f"/><text x="70" y="46" text-anchor="middle" fill="#fff">Pay</text></g>
<g data-component="button" data-variant="tone=main" data-state="hover"><rect x="20" y="80" width="100" height="40" rx="8" fill="#085570"/><text x="70" y="106" text-anchor="middle" fill="#fff">Pay</text></g>
<g data-component="button" data-variant="tone=main" data-state="disabled"><rect x="20" y="140" width="100" height="40" rx="8" fill="#ccc"/><text x="70" y="166" text-anchor="middle" fill="#fff">Pay</text></g>
<g data-component="button" data-variant="tone=quiet" data-state="default"><rect x="200" y="20" width="100" height="40" rx="8" fill="#fff"/><text x="250" y="46" text-anchor="middle">See</text></g>
<g data-component="button" data-variant="tone=quiet" data-state="hover"><rect x="200" y="80" width="100" height="40" rx="8" fill="#eee"/><text x="250" y="106" text-anchor="middle">See</text></g>
<circle data-asset="icons/dot" cx="300" cy="250" r="10" fill="#0c6f91"/></svg>`

const tokens = `{"color": {"sea": {"$type": "color", "$value": {"colorSpace": "srgb", "components": [0.043137, 0.431373, 0.560784]}}, "link": {"$value": "{color.sea}"}},
 "space": {"8": {"$type": "dimension", "$value": {"value": 8, "unit": "px"}}}, "radius": {"m": {"$type": "dimension", "$value": {"value": 8, "unit": "px"}}},
 "type": {"body": {"$type": "typography", "$value": {"fontFamily": "Go", "fontSize": {"value": 16, "unit": "px"}, "fontWeight": 400, "letterSpacing": {"value": 0, "unit": "px"}, "lineHeight": 1.5}}}}`

func ready(data, extension string) guide.Picture {
	return guide.Picture{Key: data, Extension: extension, Make: func() ([]byte, error) { return []byte(data), nil }}
}

func noNames(*design.Element, string, string) code.Name { return code.Name{} }

// build makes a guide of the drawing, with what change makes another.
func build(t testing.TB, change func(*guide.Input)) map[string][]byte {
	t.Helper()
	d, err := svg.Read("design/pay.svg", []byte(drawing), svg.Options{})
	if err != nil {
		t.Fatal(err)
	}
	docs := []*design.Document{d}
	set := token.Resolve(token.Parse([]byte(tokens), "t.json"))
	if err := set.Err(); err != nil {
		t.Fatal(err)
	}
	texts, err := text.Collect(docs, nil, text.Options{Locale: "en", Pattern: "{words}"})
	if err != nil {
		t.Fatal(err)
	}
	pics, _ := asset.Collect(docs, asset.BuiltIn())
	found := guide.Asset{Name: pics[0].Name, Width: pics[0].Box.W, Height: pics[0].Box.H, Picture: ready("<svg/>", ".svg")}
	in := &guide.Input{Name: `Tern & "Tide"`, Drawings: []guide.Drawing{{Name: d.Name, Key: "1", Screens: guide.ScreensOf(d),
		Holds: guide.HoldsOf(d, noNames), Doc: func() (*design.Document, error) { return d, nil }}}, Tokens: set,
		Library: token.Plain(set), Emit: emit.Options{Root: 16}, CodeNames: noNames, Find: emit.NewFinder(set, nil),
		Harvest:  harvest.Collect(docs, set, token.Scales{}, nil),
		Property: func(path string) string { return emit.Property(path, "") }, Texts: texts.Catalogue,
		Assets: []guide.Asset{found}, Fonts: map[string]guide.Picture{"a.ttf": ready("x", "")},
		Faces: []guide.Face{{Family: `A"B`, Weight: 400, File: "a.ttf"}}, Body: `A"B`}
	if change != nil {
		change(in)
	}
	return made(t, in)
}

// made makes all files of a guide.
func made(t testing.TB, in *guide.Input) map[string][]byte {
	t.Helper()
	jobs, err := guide.Files(in)
	if err != nil {
		t.Fatal(err)
	}
	out := map[string][]byte{}
	for _, j := range jobs {
		data, err := j.Make()
		if err != nil {
			t.Fatalf("%s: %v", j.Path, err)
		}
		if _, twice := out[j.Path]; twice {
			t.Errorf("%s is made twice", j.Path)
		}
		out[j.Path] = data
	}
	return out
}

func TestPagesHoldWhatTheyShould(t *testing.T) {
	files := build(t, nil)
	for page, wants := range map[string][]string{
		"index.html":                {"Tern &amp; &#34;Tide&#34;", "screens/pay-now.html", "Pay &lt;now&gt;", "components/button.html", "Components <span class=\"count\">1"},
		"colours.html":              {"color.sea", "var(--color-sea)", "#0b6e8f", "points to color.sea", "oklch(0.50"},
		"spacing.html":              {"space.8", "var(--space-8)"},
		"radii.html":                {"radius.m"},
		"type.html":                 {"type.body"},
		"components.html":           {"2 variants, 3 states", "tone=quiet has no disabled"},
		"components/button.html":    {"tone=main hover", "Waits &amp; sees", `class="missing"`, "../screens/pay-now.html#", "component.js"},
		"components/button.js":      {`guide.give("components/button"`, "background: #0b6e8f", `"language":"Kotlin"`, "\\u003cbutton"},
		"assets.html":               {"icons/dot", "20 × 20 px"},
		"texts.html":                {"Pay", "texts/pay-now.html"},
		"look.html":                 {"almost the same as #0b6e8f"},
		"search-index.js":           {`"n":"color.sea"`, `"n":"button tone=main hover"`, `"k":"text"`},
		"screens.html":              {"390 × 300 px, 17 elements"},
		"screens/pay-now.html":      {"390 × 300 px", "design/pay.svg", "../img/screen-pay-now.png", "color.sea", "icons/dot", `data-at="[`},
		"screens/pay-now.js":        {`"b":[20,20,100,40]`, "border-radius", `"m":"button"`},
		"screens/pay-now.layers.js": {"data-e=\\\"0\\\""},
	} {
		for _, want := range wants {
			if !strings.Contains(string(files[page]), want) {
				t.Errorf("%s does not hold %s", page, want)
			}
		}
	}
}

// TestLinksLeadSomewhere follows every src and href of the pages.
func TestLinksLeadSomewhere(t *testing.T) {
	files := build(t, nil)
	n := 0
	for name, data := range files {
		if !strings.HasSuffix(name, ".html") {
			continue
		}
		root, err := html.Parse(bytes.NewReader(data))
		if err != nil {
			t.Fatal(err)
		}
		ids := map[string]bool{}
		var links []string
		var walk func(*html.Node)
		walk = func(x *html.Node) {
			for _, a := range x.Attr {
				switch a.Key {
				case "id":
					ids[a.Val] = true
				case "href", "src":
					links = append(links, a.Val)
				}
			}
			for c := x.FirstChild; c != nil; c = c.NextSibling {
				walk(c)
			}
		}
		walk(root)
		for _, l := range links {
			n++
			if l, _, ok := strings.Cut(l, "#"); ok && l != "" {
				if _, there := files[path.Join(path.Dir(name), l)]; !there {
					t.Errorf("%s: %s is not there", name, l)
				}
				continue
			}
			if id, ok := strings.CutPrefix(l, "#"); ok {
				if !ids[id] {
					t.Errorf("%s: nothing has the id %s", name, id)
				}
				continue
			}
			if strings.Contains(l, ":") || strings.HasPrefix(l, "/") {
				t.Errorf("%s: %s is not relative", name, l)
			} else if _, ok := files[path.Join(path.Dir(name), l)]; !ok {
				t.Errorf("%s: %s is not there", name, l)
			}
		}
	}
	if n < 10 {
		t.Errorf("only %d links", n)
	}
}

func TestPicturesArePNG(t *testing.T) {
	files := build(t, nil)
	n := 0
	for name, data := range files {
		if !strings.HasPrefix(name, "img/") {
			continue
		}
		n++
		img, err := png.Decode(bytes.NewReader(data))
		if err != nil {
			t.Errorf("%s: %v", name, err)
		} else if name == "img/screen-pay-now.png" && img.Bounds().Dx() != 780 {
			t.Errorf("%s is %d pixels wide", name, img.Bounds().Dx())
		}
	}
	if n != 6 {
		t.Errorf("%d pictures, want a screen and five components", n)
	}
}

func TestStyleQuotesNames(t *testing.T) {
	style := string(build(t, nil)["style.css"])
	if !strings.Contains(style, `font-family:'A"B'`) || strings.Contains(style, "http") {
		t.Error(style[:300])
	}
	if m := regexp.MustCompile(`url\(([^)]+)\)`).FindStringSubmatch(style); m == nil || m[1] != "fonts/a.ttf" {
		t.Errorf("%v", m)
	}
}
