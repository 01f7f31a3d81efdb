package design

import (
	"fmt"
	"math"
	"strings"

	"archetyp/core/css"
	"archetyp/core/geom"
)

// CSS is the paint as a CSS <image> or <color> that paints the same on the given box in screen pixels; toScreen
// leads from element space there. Where CSS has no such thing, ok is false and the text says why.
func (p Paint) CSS(box geom.Rect, toScreen geom.Matrix) (text string, ok bool) {
	switch p.Kind {
	case Solid:
		return p.Color.CSS(), true
	case Linear:
		return p.Gradient.linearCSS(box, toScreen, p.Opacity)
	case Radial:
		return p.Gradient.radialCSS(box, toScreen, p.Opacity)
	}
	return "a pattern, for which CSS needs a picture", false
}

// Line gives a linear gradient on a box in CSS terms: angle in degrees (0 up, 90 right) and the stops as shares of
// CSS's gradient line. https://www.w3.org/TR/css-images-4/#linear-gradients
func (g *Gradient) Line(box geom.Rect, toScreen geom.Matrix) (angle float64, stops []Stop) {
	m := toScreen.Mul(g.Matrix)
	a, b := m.Apply(g.P0), m.Apply(g.P1)
	d := g.P1.Sub(g.P0)
	iso := m.ApplyVec(geom.Point{X: -d.Y, Y: d.X}) // along which the colour stays the same
	n := geom.Point{X: iso.Y, Y: -iso.X}
	if l := n.Len(); l > 0 {
		n = n.Mul(1 / l)
	}
	length := b.Sub(a).X*n.X + b.Sub(a).Y*n.Y
	if length < 0 {
		n, length = n.Mul(-1), -length
	}
	angle = math.Atan2(n.X, -n.Y) * 180 / math.Pi
	if angle < -1e-9 {
		angle += 360
	}
	angle = math.Abs(math.Round(angle*1e4) / 1e4)
	line := math.Abs(box.W*n.X) + math.Abs(box.H*n.Y)
	c := box.Centre()
	for _, s := range g.period() {
		p := a.Add(n.Mul(length * s.Offset))
		off := s.Offset
		if line > 0 {
			off = ((p.X-c.X)*n.X+(p.Y-c.Y)*n.Y)/line + 0.5
		}
		stops = append(stops, Stop{off, s.Color})
	}
	return angle, stops
}

func (g *Gradient) linearCSS(box geom.Rect, toScreen geom.Matrix, opacity float64) (string, bool) {
	angle, stops := g.Line(box, toScreen)
	return fmt.Sprintf("%slinear-gradient(%sdeg, %s)", g.repeating(), css.Num(angle, 2), stopsCSS(stops, opacity)), true
}

func (g *Gradient) repeating() string {
	if g.Spread == "repeat" || g.Spread == "reflect" {
		return "repeating-"
	}
	return ""
}

// period are the stops of what is painted over and over: for a reflected gradient there and back, which is twice as
// long. CSS repeats from the first stop to the last, so there is one at either end.
func (g *Gradient) period() []Stop {
	if g.repeating() == "" || len(g.Stops) == 0 {
		return g.Stops
	}
	out := append([]Stop(nil), g.Stops...)
	if first := out[0]; first.Offset > 0 {
		out = append([]Stop{{0, first.Color}}, out...)
	}
	if last := out[len(out)-1]; last.Offset < 1 {
		out = append(out, Stop{1, last.Color})
	}
	if g.Spread == "reflect" {
		for i := len(out) - 2; i >= 0; i-- {
			out = append(out, Stop{2 - out[i].Offset, out[i].Color})
		}
	}
	return out
}

func (g *Gradient) radialCSS(box geom.Rect, toScreen geom.Matrix, opacity float64) (string, bool) {
	shape, ok := g.Ending(box, toScreen)
	if !ok {
		return shape, false
	}
	return fmt.Sprintf("%sradial-gradient(%s, %s)", g.repeating(), shape, stopsCSS(g.period(), opacity)), true
}

// Ending is the ending shape of a radial gradient on a box, with its size and centre, as CSS: in shares of the box
// where the gradient states them so or ends at the box's edges all around, else in px. Where CSS has no such shape, ok
// is false and the text says why. https://www.w3.org/TR/css-images-4/#radial-gradients
func (g *Gradient) Ending(box geom.Rect, toScreen geom.Matrix) (text string, ok bool) {
	m := toScreen.Mul(g.Matrix)
	if g.P0.Sub(g.P1).Len() > 1e-6*g.R1 || g.R0 > 0 {
		return "a gradient with a focal point off its centre, which CSS cannot say", false
	}
	rx, ry := math.Hypot(m.A, m.B)*g.R1, math.Hypot(m.C, m.D)*g.R1
	const eps = 1e-6
	turned := math.Abs(m.A*m.C+m.B*m.D) > eps*math.Abs(m.Det())
	round := math.Abs(rx-ry) < eps*math.Max(rx, ry)
	quarter := math.Abs(m.A)+math.Abs(m.D) < eps*(math.Abs(m.B)+math.Abs(m.C)) // turned by a right angle
	if quarter {
		rx, ry = ry, rx
	}
	upright := math.Abs(m.B)+math.Abs(m.C) < eps*(math.Abs(m.A)+math.Abs(m.D))
	if turned || !round && !upright && !quarter {
		return "a gradient on a turned ellipse, which CSS cannot say", false
	}
	c := m.Apply(g.P1).Sub(geom.Point{X: box.X, Y: box.Y})
	if box.W > 0 && box.H > 0 {
		share := func(v, of float64) string { return css.Num(v/of*100, 2) + "%" }
		size := share(rx, box.W) + " " + share(ry, box.H)
		at := share(c.X, box.W) + " " + share(c.Y, box.H)
		switch {
		case size == "50% 50%" && at == size:
			return "closest-side", true
		case g.Shares && at == "50% 50%":
			return size, true
		case g.Shares:
			return size + " at " + at, true
		}
	}
	size := css.Px(rx) + " " + css.Px(ry)
	if round {
		size = "circle " + css.Px(rx)
	}
	return size + " at " + css.Px(c.X) + " " + css.Px(c.Y), true
}

func stopsCSS(stops []Stop, opacity float64) string {
	var parts []string
	for _, s := range stops {
		parts = append(parts, s.Color.WithAlpha(opacity).CSS()+" "+css.Num(s.Offset*100, 2)+"%")
	}
	return strings.Join(parts, ", ")
}

// CSS is the shadow as a box-shadow layer.
func (s Shadow) CSS() string {
	parts := []string{css.Px(s.X), css.Px(s.Y), css.Px(s.Blur)}
	if s.Spread != 0 {
		parts = append(parts, css.Px(s.Spread))
	}
	text := strings.Join(parts, " ") + " " + s.Color.CSS()
	if s.Inset {
		return "inset " + text
	}
	return text
}

// CSS is a border-radius.
func (r Radii) CSS() string {
	if r.Uniform() {
		return css.Px(r.X[0])
	}
	part := func(v [4]float64) string {
		all := []string{css.Px(v[0]), css.Px(v[1]), css.Px(v[2]), css.Px(v[3])}
		if v[0] == v[1] && v[1] == v[2] && v[2] == v[3] {
			all = all[:1]
		}
		return strings.Join(all, " ")
	}
	if r.X == r.Y {
		return part(r.X)
	}
	return part(r.X) + " / " + part(r.Y)
}

// FamilyCSS quotes the families of a list where they need it.
func FamilyCSS(list string) string {
	var out []string
	for _, f := range strings.Split(list, ",") {
		f = strings.TrimSpace(f)
		if strings.ContainsAny(f, " 0123456789") {
			f = css.String(f)
		}
		out = append(out, f)
	}
	return strings.Join(out, ", ")
}

// ShadowCSS is all shadows of the element as one value of box-shadow; "" for none.
func (e *Element) ShadowCSS() string {
	var out []string
	for _, s := range e.Shadows {
		out = append(out, s.Value.CSS())
	}
	return strings.Join(out, ", ")
}
