package ask_test

import (
	"bytes"
	"errors"
	"image/png"
	"strings"
	"testing"

	"archetyp/core/ask"
	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/read/svg"
	"archetyp/core/token"
	"archetyp/core/token/emit"
)

const quay = `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="300" data-screen="Quay"><defs><linearGradient id="g" x2="0" y2="1"><stop stop-color="#f00"/><stop offset="1" stop-color="#00f"/></linearGradient></defs>
<rect width="400" height="300" fill="#f5f8fa"/>
<g id="card" data-label="Card"><rect x="20" y="20" width="200" height="100" rx="8" fill="#0b6e8f"/><g id="row"><rect id="a" x="36" y="36" width="40" height="40" fill="#fff"/><rect id="b" x="84" y="36" width="40" height="40" fill="#fff"/><rect id="c" x="132" y="36" width="40" height="40" fill="#fff"/></g></g>
<rect id="sky" x="240" y="20" width="100" height="100" fill="url(#g)"/><text id="words" x="20" y="200" fill="#10243a">See times</text></svg>`

func document(t *testing.T) *design.Document {
	t.Helper()
	d, err := svg.Read("quay.svg", []byte(quay), svg.Options{})
	if err != nil {
		t.Fatal(err)
	}
	return d
}

func one(t *testing.T, d *design.Document, selector string) *design.Element {
	t.Helper()
	found, _, err := ask.Elements(d, selector)
	if err != nil || len(found) != 1 {
		t.Fatalf("%s: %d elements, %v", selector, len(found), err)
	}
	return found[0]
}

func finder() (*token.Set, *emit.Finder) {
	set := token.Resolve(token.Parse([]byte(`{"color": {"sea": {"$type": "color", "$value": "#0b6e8f"}, "ink": {"$type": "color", "$value": "#10243a"}},
 "radius": {"m": {"$type": "dimension", "$value": {"value": 8, "unit": "px"}}}}`), "t.json"))
	return set, emit.NewFinder(set, nil)
}

func TestMeasures(t *testing.T) {
	d := document(t)
	box, ok := ask.BoxOf("layout")
	if _, bad := ask.BoxOf("glyph"); !ok || bad {
		t.Error("the names of boxes")
	}
	unit, err := design.ParseUnit("rem", 16)
	if err != nil {
		t.Fatal(err)
	}
	m := &ask.Measurer{Source: d.Name, Unit: unit, Box: box}
	alone := m.Alone(one(t, d, "#a"))
	if l := alone.Element.Lengths["left"]; alone.Element.Container != "Card" || l.Px != 16 || l.Text != "1rem" ||
		l.Percent != 8 {
		t.Errorf("%+v", alone.Element)
	}
	if len(alone.Spacing) != 1 || !strings.Contains(alone.Spacing[0].Text,
		"3 siblings in a row stand evenly, 0.5rem apart") {
		t.Errorf("%+v", alone.Spacing)
	}
	if n := alone.Neighbours; len(n) != 1 || n[0].Side != "right" || n[0].Gap.Px != 8 {
		t.Errorf("%+v", n)
	}
	several := m.Several([]*design.Element{one(t, d, "#a"), one(t, d, "#c")})
	if several.Gap != "56px" || !strings.Contains(several.Spacing[0].Text, "2 elements stand in a row, 3.5rem apart") {
		t.Errorf("%+v", several)
	}
	if s := m.Several([]*design.Element{one(t, d, "#a"), one(t, d, "#words")}); s.Gap != "" && s.Spacing == nil {
		t.Errorf("%+v", s)
	}
	between := m.Between(one(t, d, "#a"), one(t, d, "#sky"))
	if g := between.Gaps["across"]; g.Px != 164 || between.Gaps["down"].Px != -40 || len(between.Aligned) != 0 ||
		between.Offsets["left"].Px != 204 {
		t.Errorf("%+v", between)
	}
	r, ok := ask.ParseArea("0, 0, 230, 130")
	if !ok {
		t.Fatal("an area is not read")
	}
	if a := m.Area(d.Screens[0], r); len(a.Elements) != 5 || a.Elements[0].Selector != "#c" || a.Elements[0].Inside != 1 {
		t.Errorf("%+v", a.Elements)
	}
	for _, bad := range []string{"", "1,2,3", "0,0,0,5", "0,0,x,5", "NaN,0,1,1", "0,0,1e300,1"} {
		if _, ok := ask.ParseArea(bad); ok {
			t.Errorf("%q is taken for an area", bad)
		}
	}
}

func TestSamples(t *testing.T) {
	d := document(t)
	set, tokens := finder()
	s := &ask.Sampler{Screen: d.Screens[0], Tokens: tokens, Set: set, Size: 1}
	all, err := s.At([]string{"30,30", "290,30", "290,110", "5,5"})
	if err != nil {
		t.Fatal(err)
	}
	if p := all[0]; p.Painted.Hex != "#0b6e8f" || p.Token != "color.sea" || p.By != "fill" || p.Difference != 0 ||
		!p.Hit() {
		t.Errorf("%+v", p)
	}
	if all[1].Gradient != "linear-gradient(180deg, #ff0000 0%, #0000ff 100%)" || all[1].Gradient != all[2].Gradient {
		t.Errorf("%q %q", all[1].Gradient, all[2].Gradient)
	}
	if all[3].Token != "" {
		t.Errorf("a token is near where none is: %+v", all[3])
	}
	s.Size = 20
	if all, err = s.At([]string{"20,60"}); err != nil || all[0].Painted.Hex == "#0b6e8f" ||
		all[0].Painted.Hex == "#f5f8fa" {
		t.Errorf("the mean of an edge: %+v %v", all, err)
	}
	_, err = s.At([]string{"400,10"})
	if off := new(ask.OffScreen); !errors.As(err, &off) {
		t.Error(err)
	}
	_, err = s.At([]string{"here"})
	if bad := new(ask.PointError); !errors.As(err, &bad) {
		t.Error(err)
	}
}

func TestSpecs(t *testing.T) {
	d := document(t)
	_, tokens := finder()
	unit, _ := design.ParseUnit("px", 16)
	s := &ask.Speller{Tokens: tokens, Unit: unit}
	spec := s.Spec(one(t, d, "#card"))
	if spec.Tokens["fill"] != "color.sea" || spec.Tokens["border-radius"] != "radius.m" || len(spec.Behind) != 0 ||
		len(spec.Found) != len(spec.Facts) || spec.Boxes.Layout != (ask.Rect{X: 20, Y: 20, W: 200, H: 100}) {
		t.Errorf("%+v", spec)
	}
	if words := s.Spec(one(t, d, "#words")); words.Words != "See times" || words.Tokens["fill"] != "color.ink" {
		t.Errorf("%+v", words)
	}
	if v := s.Values(one(t, d, "#card")); v[0] != (ask.Value{Name: "width", Text: "200px"}) {
		t.Errorf("%v", v)
	}
	squares, _, err := ask.Elements(d, "#row > rect")
	if err != nil || len(squares) != 3 {
		t.Fatal(squares, err)
	}
	if c, ok := s.Compare(squares); !ok || len(c.Shared) != 2 || len(c.Differing) != 1 {
		t.Errorf("%+v", c)
	}
	if _, ok := s.Compare(squares[:1]); ok {
		t.Error("one element is compared with itself")
	}
}

func TestElements(t *testing.T) {
	d := document(t)
	if found, named, err := ask.Elements(d, "card"); err != nil || !named || len(found) != 1 || found[0].ID != "card" {
		t.Errorf("%v %t %v", found, named, err)
	}
	if found, _, err := ask.Elements(d, "#nowhere"); err != nil || len(found) != 0 {
		t.Errorf("%v %v", found, err)
	}
	_, _, err := ask.Elements(d, "rect >")
	var se *ask.SelectorError
	if !errors.As(err, &se) || se.Offset != 6 {
		t.Errorf("%v", err)
	}
	if whole, err := ask.Whole(d, ":root"); err != nil || len(whole) != 1 {
		t.Errorf("%v %v", whole, err)
	}
	if names := strings.Join(ask.Names(d, "#x"), " "); !strings.Contains(names, "#card") || strings.Contains(names,
		"Card ") {
		t.Errorf("%s", names)
	}
}

func TestPictures(t *testing.T) {
	d := document(t)
	for name, c := range map[string]struct {
		of   ask.Subject
		w, h int
	}{"the screen": {ask.OfScreen(d.Screens[0], false), 800, 600}, "its layers": {ask.OfScreen(d.Screens[0], true), 800,
		600},
		"an element": {ask.OfElement(one(t, d, "#card")), 400, 200}} {
		data, w, h, err := c.of.PNG(2, &color.White)
		if err != nil || w != c.w || h != c.h {
			t.Errorf("%s: %d × %d, %v", name, w, h, err)
			continue
		}
		img, err := png.Decode(bytes.NewReader(data))
		if err != nil || img.Bounds().Dx() != c.w {
			t.Errorf("%s: %v", name, err)
		}
	}
}
