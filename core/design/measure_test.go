package design

import (
	"math"
	"reflect"
	"strings"
	"testing"

	"archetyp/core/color"
	"archetyp/core/geom"
)

func TestBetween(t *testing.T) {
	a := geom.Rect{X: 10, Y: 10, W: 40, H: 20}
	for _, c := range []struct {
		name    string
		b       geom.Rect
		x, y    float64
		overlap geom.Rect
		aligned []Edge
	}{
		{"to the right", geom.Rect{X: 58, Y: 10, W: 10, H: 20}, 8, -20, geom.Rect{}, []Edge{Top, CentreY, Bottom}},
		{"to the left, touching", geom.Rect{X: 0, Y: 12, W: 10, H: 5}, 0, -5, geom.Rect{X: 10, Y: 12, H: 5}, nil},
		{"below", geom.Rect{X: 10, Y: 36, W: 40, H: 4}, -40, 6, geom.Rect{}, []Edge{Left, CentreX, Right}},
		{"inside, centred", geom.Rect{X: 20, Y: 15, W: 20, H: 10}, -20, -10, geom.Rect{X: 20, Y: 15, W: 20, H: 10},
			[]Edge{CentreX, CentreY}},
		{"across a corner", geom.Rect{X: 60, Y: 50, W: 5, H: 5}, 10, 20, geom.Rect{}, nil},
	} {
		d := Between(a, c.b)
		if d.GapX != c.x || d.GapY != c.y || d.Overlap != c.overlap || !reflect.DeepEqual(d.Aligned, c.aligned) {
			t.Errorf("%s: %+v", c.name, d)
		}
	}
	if in := Insets(geom.Rect{X: 12, Y: 11, W: 30, H: 25}, a); in != [4]float64{1, 8, -6, 2} {
		t.Errorf("insets %v", in)
	}
}

func TestUnits(t *testing.T) {
	of := geom.Rect{W: 200, H: 400}
	for name, want := range map[string]string{"px": "24px", "rem": "1.2rem", "em": "1.5em", "pt": "18pt", "dp": "24dp",
		"%": "12%"} {
		u, err := ParseUnit(name, 20)
		if err != nil {
			t.Fatal(err)
		}
		u.Em, u.Of = 16, of
		if got := u.Text(24, false); got != want {
			t.Errorf("24px in %s: %s, want %s", name, got, want)
		}
	}
	if u, _ := ParseUnit("%", 16); u.Text(24, true) != "24px" {
		t.Error("without a box there is no per cent")
	}
	if _, err := ParseUnit("cm", 16); err == nil || !strings.Contains(err.Error(), "rem") {
		t.Error(err)
	}
	u := Unit{Name: "rem", Root: 16}
	got := u.Facts([]FactLine{{Section: "box", Name: "geometry box", Value: "16, 24  8 × 4 px"},
		{Name: "shadow", Value: "0 -4px 12.5px #000000"}, {Name: "words", Value: `"16px of sea"`}})
	if got[0].Value != "1rem, 1.5rem  0.5rem × 0.25rem" || got[1].Value != "0 -0.25rem 0.7812rem #000000" ||
		got[2].Value != `"16px of sea"` {
		t.Errorf("%+v", got)
	}
}

func TestCompareFacts(t *testing.T) {
	line := func(name, value string) FactLine { return FactLine{Section: "paint", Name: name, Value: value} }
	shared, differ := CompareFacts([][]FactLine{
		{line("fill", "#000"), line("shadow", "a"), line("shadow", "b"), line("opacity", "0.5")},
		{line("fill", "#000"), line("shadow", "a"), line("shadow", "b")},
		{line("fill", "#000"), line("shadow", "a"), line("opacity", "0.5")}})
	if len(shared) != 1 || shared[0].Name != "fill" {
		t.Errorf("shared %+v", shared)
	}
	want := []Differing{{"paint", "shadow", []Variants{{"a, b", []int{0, 1}}, {"a", []int{2}}}},
		{"paint", "opacity", []Variants{{"0.5", []int{0, 2}}, {"none", []int{1}}}}}
	if !reflect.DeepEqual(differ, want) {
		t.Errorf("differ %+v", differ)
	}
	placeless := Placeless([]FactLine{{Name: "geometry box", Value: "1, 2  3 × 4 px"}, {Name: "layout box"},
		{Name: "baseline 2"}, {Name: "fill"}})
	if len(placeless) != 2 || placeless[0].Name != "size" || placeless[0].Value != "3px × 4px" {
		t.Errorf("%+v", placeless)
	}
}

func TestGradientAt(t *testing.T) {
	g := &Gradient{P1: geom.Point{X: 10}, Matrix: geom.Scale(2, 2), Stops: []Stop{{0, color.Black}, {0.5, color.White},
		{0.5, color.RGB8(255, 0, 0)}, {1, color.RGB8(0, 0, 255)}}}
	for x, want := range map[float64]string{-5: "#000000", 5: "#808080", 15: "#800080", 40: "#0000ff"} {
		if c, ok := g.At(geom.Point{X: x}); !ok || c.Hex() != want {
			t.Errorf("at %g: %s, want %s", x, c.Hex(), want)
		}
	}
	g.Spread = "reflect"
	if c, _ := g.At(geom.Point{X: 35}); c.Hex() != "#808080" {
		t.Errorf("reflected: %s", c.Hex())
	}
	r := &Gradient{P0: geom.Point{X: 5, Y: 5}, P1: geom.Point{X: 5, Y: 5}, R1: 5, Matrix: geom.Identity,
		Stops: []Stop{{0, color.White}, {1, color.Black}}}
	if c, _ := r.At(geom.Point{X: 7.5, Y: 5}); c.Hex() != "#808080" {
		t.Errorf("radial: %s", c.Hex())
	}
}

func TestBoxOfATurnedElement(t *testing.T) {
	rect := geom.Rect{X: 10, Y: 20, W: 40, H: 10}
	for _, c := range []struct {
		name   string
		m      geom.Matrix
		w, h   float64
		skewed bool
	}{
		{"turned", geom.Translate(5, 5).Mul(geom.Rotate(30)).Mul(geom.Scale(2, 3)), 80, 30, false},
		{"turned and flipped", geom.Rotate(30).Mul(geom.Scale(1, -1)), 40, 10, false},
		{"skewed", geom.Matrix{A: 1, C: 0.5, D: 1}, 0, 0, true},
	} {
		e := &Element{Matrix: c.m, Paint: &PaintNode{Path: rect.Path()}}
		box, to, skewed := e.Unturned()
		if skewed != c.skewed {
			t.Errorf("%s: skewed %t", c.name, skewed)
		}
		if skewed {
			continue
		}
		got, _ := rect.Path().Transform(to).Bounds()
		if math.Abs(box.W-c.w) > 1e-9 || math.Abs(box.H-c.h) > 1e-9 || !box.Contains(got, 1e-9) || !got.Contains(box, 1e-9) {
			t.Errorf("%s: box %v, the shape fills %v", c.name, box, got)
		}
	}
}
