package design

import (
	"strings"
	"testing"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

func node(t testing.TB, s string) *markup.Node {
	t.Helper()
	d, err := markup.ParseXML([]byte(s))
	if err != nil {
		t.Fatal(err)
	}
	d.Root.Walk(func(n *markup.Node) bool {
		n.Space = markup.SVG
		return true
	})
	return d.Root
}

func TestElementName(t *testing.T) {
	for _, c := range []struct{ in, want string }{
		{`<g id="Pay_x20_button"/>`, "Pay button"},
		{`<g id="a" data-label="Pay now"/>`, "Pay now"},
		{`<g id="a" data-name="Layer name"/>`, "Layer name"},
		{`<g id="a" aria-label="Spoken"/>`, "Spoken"},
		{`<g xmlns:i="urn:i" id="path12" i:label="Mast"/>`, "Mast"},
		{`<g id="g12"><title> A
			title </title></g>`, "A title"},
		{`<g id="x" data-label="One" aria-label="Two"/>`, "One"},
		{`<g id="rect12"/>`, ""},
		{`<g id="Rectangle_1"/>`, ""},
		{`<g id="Group 12"/>`, ""},
		{`<g id="Ellipse"/>`, ""},
		{`<g id="path-3-4"/>`, ""},
		{`<g id="Layer_1"/>`, ""},
		{`<g id="Button copy"/>`, ""},
		{`<g id="Button copy 2"/>`, ""},
		{`<g id="copyright"/>`, "copyright"},
		{`<g id="photocopy"/>`, "photocopy"},
		{`<g id="12"/>`, ""},
		{`<g id="line-height"/>`, "line-height"},
		{`<g id="grouping"/>`, "grouping"},
		{`<g id="Rectangle_1" data-name="Rectangle 1" aria-label="Card"/>`, "Card"},
		{`<g/>`, ""},
	} {
		if got := ElementName(node(t, c.in), ""); got != c.want {
			t.Errorf("%s is called %q, want %q", c.in, got, c.want)
		}
	}
}

func TestUnescapeID(t *testing.T) {
	for in, want := range map[string]string{"a_x20_b": "a b", "_x31_": "1", "a_x2F_b": "a/b", "a_xZZ_b": "a_xZZ_b",
		"plain": "plain", "_x00_": "_x00_", "a_x20AC_": "a€"} {
		if got := UnescapeID(in); got != want {
			t.Errorf("%q is %q, want %q", in, got, want)
		}
	}
}

func TestReadMarks(t *testing.T) {
	sel, err := css.ParseSelector("[id^=icon-]")
	if err != nil {
		t.Fatal(err)
	}
	selected := []SelectedMarks{{Select: sel, Marks: Marks{Asset: "icons/{name}", Component: "icon",
		Formats: []string{"svg"}}}}
	m := ReadMarks(node(t, `<g id="icon-anchor" data-component="badge" data-variant="tone=good" data-state="hover" data-text="none"
		data-code="a.css" data-leads-to="Booking; on=click" data-behaviour="Waits" data-formats="svg  png" data-sets="web" data-screen="S"/>`), selected, css.NewMatcher(nil, nil))
	want := Marks{Screen: "S", Component: "badge", Variant: "tone=good", State: "hover", Asset: "icons/icon-anchor",
		Formats: []string{"svg", "png"},
		Sets:    []string{"web"}, Text: "none", Code: "a.css", LeadsTo: "Booking; on=click", Behaviour: "Waits"}
	if strings.Join(m.Formats, " ") != "svg png" || m.Asset != want.Asset || m.Component != want.Component ||
		m.LeadsTo != want.LeadsTo ||
		m.Screen != want.Screen || m.Text != want.Text || m.Code != want.Code || m.Behaviour != want.Behaviour ||
		m.State != want.State {
		t.Errorf("%+v\nwant %+v", m, want)
	}
	if m := ReadMarks(node(t, `<g id="other"/>`), selected, css.NewMatcher(nil, nil)); m.Asset != "" {
		t.Errorf("a mark for others was given: %+v", m)
	}
}

func boxed(kind Kind, r geom.Rect) *Element {
	e := &Element{Kind: kind, Geometry: Derive(r, ""), Layout: Derive(r, ""), Node: &markup.Node{Local: "x"}}
	if kind == Box {
		e.Fills = []Fact[Paint]{State(Paint{Kind: Solid, Color: color.White, Opacity: 1}, "")}
	}
	return e
}

func group(children ...*Element) *Element {
	g := &Element{Kind: Group, Node: &markup.Node{Local: "g"}, Children: children}
	for _, c := range children {
		c.Parent = g
	}
	return g
}

func TestBackground(t *testing.T) {
	face, inside, outside := geom.Rect{W: 100, H: 50}, geom.Rect{X: 10, Y: 10, W: 20, H: 20}, geom.Rect{X: 90, Y: 10,
		W: 20, H: 20}
	bg := boxed(Box, face)
	ring := boxed(Box, face.Grow(4))
	ring.Fills = nil
	hiddenOut := boxed(Box, outside)
	hiddenOut.Hidden = true
	for _, c := range []struct {
		name string
		g    *Element
		want *Element
	}{
		{"box and text", group(bg, boxed(Text, inside)), bg},
		{"something hangs over", group(bg, boxed(Text, outside)), nil},
		{"what is hidden may hang over", group(bg, boxed(Text, inside), hiddenOut), bg},
		{"text first", group(boxed(Text, inside), bg), nil},
		{"a box alone", group(bg), nil},
		{"a ring before it", group(ring, bg, boxed(Text, inside)), bg},
		{"path first", group(boxed(Path, face), boxed(Text, inside)), nil},
	} {
		if got := c.g.Background(); got != c.want {
			t.Errorf("%s: %v", c.name, got)
		}
	}
	if n := len(group(ring, bg, boxed(Text, inside), hiddenOut).Contents()); n != 1 {
		t.Errorf("%d contents, want the text alone", n)
	}
}

func TestSetPaths(t *testing.T) {
	a, b, c := boxed(Box, geom.Rect{}), boxed(Box, geom.Rect{}), boxed(Text, geom.Rect{})
	named, twin := group(), group()
	named.Name, twin.Name, c.Name = "Row", "Row", "a/b"
	root := group(a, b, named, twin, c)
	s := &Screen{Root: root}
	s.SetPaths()
	var got []string
	for _, e := range root.Children {
		got = append(got, e.Path)
	}
	if want := "box 1|box 2|Row|Row (2)|a∕b"; strings.Join(got, "|") != want {
		t.Errorf("%s, want %s", strings.Join(got, "|"), want)
	}
}

func TestSelector(t *testing.T) {
	root := node(t, `<svg><g id="a b"><rect/><rect/><g><text/></g></g><path/></svg>`)
	var got []string
	root.Walk(func(n *markup.Node) bool {
		if n.Kind == markup.Element {
			s := (&Element{Node: n}).Selector()
			got = append(got, s)
			sel, err := css.ParseSelector(s)
			if err != nil || !sel.Matches(n) {
				t.Errorf("%s does not mean its element (%v)", s, err)
			}
		}
		return true
	})
	if want := `svg|#a\ b|#a\ b > rect:nth-child(1)|#a\ b > rect:nth-child(2)|#a\ b > g:nth-child(3)|#a\ b > g:nth-child(3) > text:nth-child(1)|svg > path:nth-child(2)`; strings.Join(got, "|") != want {
		t.Errorf("%s\nwant %s", strings.Join(got, "|"), want)
	}
}

func gradient(p0, p1 geom.Point, m geom.Matrix) Paint {
	return Paint{Kind: Linear, Opacity: 1, Gradient: &Gradient{P0: p0, P1: p1, Matrix: m, Spread: "pad",
		Stops: []Stop{{0, color.Black}, {1, color.White}}}}
}

func TestLinearGradientAsCSS(t *testing.T) {
	box := geom.Rect{X: 10, Y: 20, W: 200, H: 100}
	inBox := geom.Matrix{A: 200, D: 100, E: 10, F: 20}
	for _, c := range []struct {
		name   string
		p      Paint
		want   string
		change func(*Paint)
	}{
		{"to the right", gradient(geom.Point{}, geom.Point{X: 1}, inBox), "linear-gradient(90deg, #000000 0%, #ffffff 100%)",
			nil},
		{"down", gradient(geom.Point{}, geom.Point{Y: 1}, inBox), "linear-gradient(180deg, #000000 0%, #ffffff 100%)", nil},
		{"up", gradient(geom.Point{Y: 1}, geom.Point{}, inBox), "linear-gradient(0deg, #000000 0%, #ffffff 100%)", nil},
		{"to the left", gradient(geom.Point{X: 1}, geom.Point{}, inBox), "linear-gradient(270deg, #000000 0%, #ffffff 100%)",
			nil},
		{"half of the box", gradient(geom.Point{X: 0.25}, geom.Point{X: 0.75}, inBox),
			"linear-gradient(90deg, #000000 25%, #ffffff 75%)", nil},
		{"beyond the box", gradient(geom.Point{X: -0.5}, geom.Point{X: 1.5}, inBox),
			"linear-gradient(90deg, #000000 -50%, #ffffff 150%)", nil},
		{"corner to corner of a stretched box", gradient(geom.Point{}, geom.Point{X: 1, Y: 1}, inBox),
			"linear-gradient(153.43deg, #000000 0%, #ffffff 100%)", nil},
		{"in user space", gradient(geom.Point{X: 10, Y: 20}, geom.Point{X: 210, Y: 20}, geom.Identity),
			"linear-gradient(90deg, #000000 0%, #ffffff 100%)", nil},
		{"repeated", gradient(geom.Point{X: 0}, geom.Point{X: 0.5}, inBox),
			"repeating-linear-gradient(90deg, #000000 0%, #ffffff 50%)", func(p *Paint) { p.Gradient.Spread = "repeat" }},
		{"reflected", gradient(geom.Point{}, geom.Point{X: 0.5}, inBox),
			"repeating-linear-gradient(90deg, #000000 0%, #ffffff 50%, #000000 100%)", func(p *Paint) { p.Gradient.Spread = "reflect" }},
		{"translucent", gradient(geom.Point{}, geom.Point{X: 1}, inBox),
			"linear-gradient(90deg, rgb(0 0 0 / 0.5) 0%, rgb(255 255 255 / 0.5) 100%)", func(p *Paint) { p.Opacity = 0.5 }},
	} {
		if c.change != nil {
			c.change(&c.p)
		}
		got, ok := c.p.CSS(box, geom.Identity)
		if !ok || got != c.want {
			t.Errorf("%s: %s, want %s", c.name, got, c.want)
		}
	}
}

func TestRadialGradientAsCSS(t *testing.T) {
	box := geom.Rect{W: 200, H: 100}
	radial := func(m geom.Matrix) Paint {
		return Paint{Kind: Radial, Opacity: 1, Gradient: &Gradient{P0: geom.Point{X: 0.5, Y: 0.5},
			P1: geom.Point{X: 0.5, Y: 0.5}, R1: 0.5,
			Matrix: m, Spread: "pad", Stops: []Stop{{0, color.Black}, {1, color.White}}}}
	}
	if got, ok := radial(geom.Scale(200, 100)).CSS(box, geom.Identity); !ok ||
		got != "radial-gradient(closest-side, #000000 0%, #ffffff 100%)" {
		t.Errorf("ellipse: %s", got)
	}
	if got, ok := radial(geom.Scale(100, 100)).CSS(box, geom.Identity); !ok ||
		got != "radial-gradient(circle 50px at 50px 50px, #000000 0%, #ffffff 100%)" {
		t.Errorf("circle: %s", got)
	}
	focal := radial(geom.Scale(100, 100))
	focal.Gradient.P0.X = 0.2
	for name, p := range map[string]Paint{"focal": focal, "turned": radial(geom.Rotate(30).Mul(geom.Scale(200, 100)))} {
		if got, ok := p.CSS(box, geom.Identity); ok {
			t.Errorf("%s: CSS cannot say this, yet there is %s", name, got)
		}
	}
}

func TestShadowAndRadiiAsCSS(t *testing.T) {
	s := Shadow{X: 0, Y: 4, Blur: 12, Color: color.Black.WithAlpha(0.25)}
	if got := s.CSS(); got != "0 4px 12px rgb(0 0 0 / 0.25)" {
		t.Error(got)
	}
	s.Spread, s.Inset = -2, true
	if got := s.CSS(); got != "inset 0 4px 12px -2px rgb(0 0 0 / 0.25)" {
		t.Error(got)
	}
	for want, r := range map[string]Radii{"8px": {X: [4]float64{8, 8, 8, 8}, Y: [4]float64{8, 8, 8, 8}},
		"8px 0 0 8px": {X: [4]float64{8, 0, 0, 8}, Y: [4]float64{8, 0, 0, 8}},
		"20px / 10px": {X: [4]float64{20, 20, 20, 20}, Y: [4]float64{10, 10, 10, 10}},
		"0":           {}} {
		if got := r.CSS(); got != want {
			t.Errorf("%s, want %s", got, want)
		}
	}
	if got := FamilyCSS("Hanken Grotesk, sans-serif"); got != `"Hanken Grotesk", sans-serif` {
		t.Error(got)
	}
}

func TestWholePixels(t *testing.T) {
	for _, c := range []struct{ in, want geom.Rect }{
		{geom.Rect{X: 0.5, Y: 0.5, W: 1, H: 1}, geom.Rect{W: 2, H: 2}},
		{geom.Rect{X: 1, Y: 2, W: 3, H: 4}, geom.Rect{X: 1, Y: 2, W: 3, H: 4}},
		{geom.Rect{X: 0.9999999, Y: 0, W: 1.0000002, H: 1}, geom.Rect{X: 1, W: 1, H: 1}},
		{geom.Rect{X: -0.5, Y: -0.5, W: 1, H: 1}, geom.Rect{X: -1, Y: -1, W: 2, H: 2}},
	} {
		if got := WholePixels(c.in); got != c.want {
			t.Errorf("%v: %v, want %v", c.in, got, c.want)
		}
	}
}

func TestSlug(t *testing.T) {
	for in, want := range map[string]string{"Pay button": "pay-button", "  A/B  ": "a-b", "Ünder": "ünder", "--": "",
		"3D": "3d"} {
		if got := Slug(in); got != want {
			t.Errorf("%q is %q, want %q", in, got, want)
		}
	}
}
