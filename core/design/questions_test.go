package design_test

import (
	"fmt"
	"strings"
	"testing"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/read/svg"
)

func draw(t testing.TB, body string) *design.Document {
	t.Helper()
	doc, err := svg.Read("pier.svg",
		[]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100">`+body+`</svg>`), svg.Options{})
	if err != nil {
		t.Fatal(err)
	}
	return doc
}

func one(t testing.TB, doc *design.Document, selector string) *design.Element {
	t.Helper()
	sel, err := css.ParseSelector(selector)
	if err != nil {
		t.Fatal(err)
	}
	found := doc.Query(sel)
	if len(found) != 1 {
		t.Fatalf("%s means %d elements", selector, len(found))
	}
	return found[0]
}

func TestHits(t *testing.T) {
	doc := draw(t, `<rect id="sea" width="200" height="100" fill="#0b6e8f"/>
		<circle id="ring" cx="50" cy="50" r="30" fill="none" stroke="#fff" stroke-width="10"/>
		<g clip-path="url(#c)"><rect id="cut" x="100" width="80" height="100" fill="#e4572e"/></g><clipPath id="c"><circle cx="140" cy="50" r="30"/></clipPath>
		<path id="hole" fill-rule="evenodd" fill="#10243a" d="M0 80H40V100H0ZM10 85H30V95H10Z"/>
		<rect id="gone" width="200" height="100" display="none"/>
		<g opacity="0"><rect id="clear" width="200" height="100"/></g>
		<rect id="both" x="185" y="5" width="10" height="10" fill="#ffc857" stroke="#000" stroke-width="4" paint-order="stroke"/>`)
	for at, want := range map[geom.Point]string{
		{X: 5, Y: 5}: "sea", {X: 50, Y: 50}: "sea", {X: 80, Y: 50}: "ring/stroke sea", {X: 140, Y: 50}: "cut sea", {X: 105,
			Y: 10}: "sea",
		{X: 5, Y: 90}: "hole sea", {X: 20, Y: 90}: "sea", {X: 190, Y: 10}: "both sea", {X: 186,
			Y: 10}: "both both/stroke sea", {X: 184, Y: 10}: "both/stroke sea",
	} {
		var got []string
		for _, h := range doc.Screens[0].Hits(at) {
			name := h.Element.ID
			if h.Stroke {
				name += "/stroke"
			}
			got = append(got, name)
		}
		if strings.Join(got, " ") != want {
			t.Errorf("at %v: %v, want %s", at, got, want)
		}
	}
	h := doc.Screens[0].Hits(geom.Point{X: 80, Y: 50})[0]
	if c, by, ok := h.Color(); !ok || by != "stroke" || c.Hex() != "#ffffff" {
		t.Errorf("%s %s %t", c, by, ok)
	}
}

func TestWithin(t *testing.T) {
	doc := draw(t, `<rect id="sea" width="200" height="100"/><g><rect id="a" x="10" y="10" width="20" height="20"/><line id="l" x1="0" y1="15" x2="200" y2="15" stroke="#000" stroke-width="2"/></g><rect id="far" x="150" y="50" width="9" height="9"/>`)
	var got []string
	for _, c := range doc.Screens[0].Within(geom.Rect{X: 20, Y: 10, W: 40, H: 20}) {
		got = append(got, fmt.Sprintf("%s %.3g %.3g", c.Element.ID, c.OfArea, c.Inside))
	}
	if want := "l 0.1 0.2|a 0.25 0.5|sea 1 0.04"; strings.Join(got, "|") != want {
		t.Errorf("%v, want %s", got, want)
	}
}

func TestPruning(t *testing.T) {
	doc := draw(t, `<g id="g" opacity=".5"><rect id="a" width="9" height="9"/><rect id="b" x="100" width="9" height="9"/></g><g filter="url(#f)"><rect id="c" x="150" width="9" height="9"/></g><filter id="f"><feOffset dx="-150"/></filter>`)
	s := doc.Screens[0]
	painted := func(p *design.PaintNode) string {
		var ids []string
		p.Walk(geom.Identity, func(n *design.PaintNode, _ geom.Matrix) {
			if n.Element != nil && n.Path != nil {
				ids = append(ids, n.Element.ID)
			}
		})
		return strings.Join(ids, " ")
	}
	a, g := one(t, doc, "#a"), one(t, doc, "#g")
	for name, c := range map[string]struct {
		p    *design.PaintNode
		want string
	}{
		"all":             {s.Paint, "a b c"},
		"without one":     {design.Without(s.Paint, map[*design.Element]bool{a: true}), "b c"},
		"without a group": {design.Without(s.Paint, map[*design.Element]bool{g: true}), "c"},
		"only one":        {design.Only(s.Paint, map[*design.Element]bool{a: true}), "a"},
		"only a group":    {design.Only(s.Paint, map[*design.Element]bool{g: true}), "a b"},
		"near":            {design.Near(s.Paint, geom.Rect{W: 5, H: 5}), "a c"},
	} {
		if got := painted(c.p); got != c.want {
			t.Errorf("%s: %s, want %s", name, got, c.want)
		}
	}
	if o := design.Only(s.Paint, map[*design.Element]bool{a: true}).Children[0].Children[0].Opacity; o != 0.5 {
		t.Errorf("the group around it has opacity %g", o)
	}
}

func TestSummary(t *testing.T) {
	doc := draw(t, `<style>@font-face{font-family:Sail;src:url(sail.ttf)}</style>
		<rect width="9" height="9" rx="2" fill="#0b6e8f" stroke="#0b6e8f"/><rect width="9" height="9" rx="2" fill="#0b6e8f"/><circle r="3" fill="#fff"/>
		<g data-component="badge" data-variant="tone=good"><rect width="4" height="4" fill="url(#g)"/></g><g data-component="badge" data-state="hover" data-asset="icons/x"/>
		<linearGradient id="g"><stop stop-color="#000"/><stop offset="1" stop-color="#fff"/></linearGradient>
		<text font-family="Sail, serif" font-size="16" font-weight="600" letter-spacing="1">Book <tspan font-weight="400">now</tspan></text>
		<text font-family="Sail, serif" font-size="16" font-weight="600" letter-spacing="1" font-style="italic">Pay</text>
		<rect width="9" height="9" fill="#123456" visibility="hidden"/>`)
	s := doc.Screens[0].Summary()
	list := func(used []design.Used) string {
		var out []string
		for _, u := range used {
			out = append(out, fmt.Sprintf("%d×%s(%s)", u.Count, u.Value, u.As))
		}
		return strings.Join(out, " ")
	}
	for _, c := range []struct{ name, got, want string }{
		{"colours", list(s.Colors), "3×#0b6e8f(fill, stroke) 2×#000000(text) 1×#ffffff(fill)"},
		{"gradients", list(s.Gradients), "1×linear-gradient(90deg, #000000 0%, #ffffff 100%)(fill)"},
		{"types", list(s.Types), "1×Sail 16px 600, spacing 1px() 1×Sail 16px 600 italic, spacing 1px()"},
		{"radii", list(s.Radii), "1×2.5px() 1×2px()"}, {"assets", list(s.Assets), "1×icons/x()"},
		{"components", list(s.Components), "2×badge(tone=good, :hover)"},
	} {
		if c.got != c.want {
			t.Errorf("%s: %s, want %s", c.name, c.got, c.want)
		}
	}
	if len(s.Fonts) != 1 || s.Fonts[0].Family != "Sail" || s.Fonts[0].Count != 3 || len(s.Fonts[0].Faces) != 3 ||
		s.Fonts[0].Faces[0].Found {
		t.Errorf("fonts %+v", s.Fonts)
	}
}

func TestStrokesAndTheirBoxes(t *testing.T) {
	doc := draw(t, `<rect id="in" x="10" y="10" width="40" height="20" fill="#fff" stroke="#000" stroke-width="4" clip-path="url(#c)"/><clipPath id="c"><rect x="10" y="10" width="40" height="20"/></clipPath>
		<rect id="out" x="10" y="10" width="40" height="20" fill="#fff" stroke="#000" stroke-width="4" paint-order="stroke"/>
		<rect id="mid" x="10" y="10" width="40" height="20" fill="#fff8" stroke="#000" stroke-width="4" paint-order="stroke"/>
		<rect id="thin" x="10" y="10" width="40" height="20" stroke="#000" stroke-width="4" vector-effect="non-scaling-stroke" transform="scale(2)"/>`)
	for id, want := range map[string]string{"in": "inset 2 {10 10 40 20}", "out": "outset 2 {8 8 44 24}",
		"mid": "center 4 {8 8 44 24}", "thin": "center 4 {18 18 84 44}"} {
		e := one(t, doc, "#"+id)
		s := e.Strokes[0].Value
		if got := fmt.Sprintf("%s %g %v", s.Align, s.Shown, e.Layout.Value); got != want {
			t.Errorf("%s: %s, want %s", id, got, want)
		}
	}
}

func TestSelectorsMeanOneElement(t *testing.T) {
	doc := draw(t, `<g id="twice"><rect width="9" height="9"/></g><g id="twice"><rect width="8" height="8"/></g><g id="once"><rect id="twice" width="7" height="7"/></g>`)
	for _, e := range doc.All() {
		if got := one(t, doc, e.Selector()); got != e {
			t.Errorf("%s means %v", e.Selector(), got.Geometry.Value)
		}
	}
}
