package svg

import (
	"testing"

	"archetyp/core/css"
	"archetyp/core/geom"
)

func TestParseTransform(t *testing.T) {
	u := css.Units{Em: 16, Rem: 16}
	for _, c := range []struct {
		in   string
		want geom.Point // of 10, 20
	}{
		{"", geom.Point{X: 10, Y: 20}},
		{"none", geom.Point{X: 10, Y: 20}},
		{"translate(5)", geom.Point{X: 15, Y: 20}},
		{"translate(5,6)", geom.Point{X: 15, Y: 26}},
		{"translate(5px, 1em)", geom.Point{X: 15, Y: 36}},
		{"translateX(3px) translateY(4px)", geom.Point{X: 13, Y: 24}},
		{"scale(2)", geom.Point{X: 20, Y: 40}},
		{"scale(2 3)", geom.Point{X: 20, Y: 60}},
		{"rotate(90)", geom.Point{X: -20, Y: 10}},
		{"rotate(90deg)", geom.Point{X: -20, Y: 10}},
		{"rotate(0.25turn)", geom.Point{X: -20, Y: 10}},
		{"rotate(90 10 20)", geom.Point{X: 10, Y: 20}},
		{"rotate(180, 0, 0)", geom.Point{X: -10, Y: -20}},
		{"matrix(1 0 0 1 7 8)", geom.Point{X: 17, Y: 28}},
		{"skewX(45)", geom.Point{X: 30, Y: 20}},
		{"skewY(45)", geom.Point{X: 10, Y: 30}},
		{"translate(1 1),scale(2)", geom.Point{X: 21, Y: 41}},
		{"scale(2)translate(1 1)", geom.Point{X: 22, Y: 42}},
		{" translate( 1 , 1 ) ", geom.Point{X: 11, Y: 21}},
	} {
		m, err := ParseTransform(c.in, u)
		if err != nil {
			t.Errorf("%q: %v", c.in, err)
			continue
		}
		got := m.Apply(geom.Point{X: 10, Y: 20})
		if got.Sub(c.want).Len() > 1e-9 {
			t.Errorf("%q takes 10,20 to %v, want %v", c.in, got, c.want)
		}
	}
	for _, in := range []string{"translate", "translate()", "matrix(1 2 3)", "spin(3)", "rotate(a)", "scale(1"} {
		if _, err := ParseTransform(in, u); err == nil {
			t.Errorf("%q is read without a word", in)
		}
	}
}

func TestFit(t *testing.T) {
	vb := geom.Rect{W: 100, H: 50}
	port := geom.Rect{X: 10, Y: 10, W: 200, H: 200}
	for aspect, want := range map[string]geom.Rect{
		"":               {X: 10, Y: 60, W: 200, H: 100},
		"xMidYMid meet":  {X: 10, Y: 60, W: 200, H: 100},
		"xMinYMin":       {X: 10, Y: 10, W: 200, H: 100},
		"xMaxYMax":       {X: 10, Y: 110, W: 200, H: 100},
		"none":           {X: 10, Y: 10, W: 200, H: 200},
		"xMidYMid slice": {X: -90, Y: 10, W: 400, H: 200},
		"xMinYMin slice": {X: 10, Y: 10, W: 400, H: 200},
		"defer xMaxYMid": {X: 10, Y: 60, W: 200, H: 100},
		"xMaxYMid slice": {X: -190, Y: 10, W: 400, H: 200},
	} {
		if got := fit(vb, port, aspect).Rect(vb); got != want {
			t.Errorf("%q puts the view box at %v, want %v", aspect, got, want)
		}
	}
}

func FuzzParseTransform(f *testing.F) {
	for _, s := range []string{"matrix(1 0 0 1 7 8)", "rotate(90deg)translate(5px, 1em)", "scale(",
		"rotate(1e308)skewX(89.99999)"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		m, err := ParseTransform(s, css.Units{Em: 16, Rem: 16})
		if err == nil {
			countedTransform(s, m)
		}
	})
}
