package svg

import (
	"math"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/geom/pathdata"
)

// matrix writes a transform. Of shapes every last bit counts.
func (t *tag) matrix(name string, m geom.Matrix) {
	p := func(v float64) string { return css.Terse(css.Num(v, 6)) }
	e := func(v float64) string { return css.Terse(css.Num(v, finest)) }
	if name == "transform" {
		p, e = bits32, bits32
	}
	angle := ""
	if m.E == 0 && m.F == 0 && !upright(m) {
		angle = turn(m)
	}
	switch {
	case m == geom.Identity:
	case m.A == 1 && m.B == 0 && m.C == 0 && m.D == 1:
		t.set(name, "translate("+join(e(m.E), e(m.F))+")")
	case m.B == 0 && m.C == 0 && m.E == 0 && m.F == 0:
		s := p(m.A)
		if m.D != m.A {
			s = join(s, p(m.D))
		}
		t.set(name, "scale("+s+")")
	case angle != "":
		t.set(name, "rotate("+angle+")")
	default:
		t.set(name, "matrix("+join(p(m.A), p(m.B), p(m.C), p(m.D), e(m.E), e(m.F))+")")
	}
}

// turn is the angle of a transform that only turns, where it has one in few decimals; else "".
func turn(m geom.Matrix) string {
	degrees := m.Rotation()
	for digits := 0; digits <= 6; digits++ {
		s := css.Num(degrees, digits)
		r := geom.Rotate(float64(pathdata.Float32(s)))
		if r.Round32() == m.Round32() {
			return css.Terse(s)
		}
	}
	return ""
}

// bits32 prints a number so that browsers read it to the same bit, which they read a little off.
func bits32(v float64) string {
	for digits := 0; digits <= 10; digits++ {
		unit := math.Pow10(-digits)
		for off := range 9 {
			if digits < 7 && off > 0 {
				break
			}
			for _, side := range []float64{1, -1} {
				if s := css.Num(v+side*float64(off)*unit, digits); pathdata.Float32(s) == float32(v) {
					return css.Terse(s)
				}
			}
		}
	}
	return css.Terse(css.Num(v, 12))
}

// byWholePixels reports whether a transform moves by whole pixels and does nothing else.
func byWholePixels(m geom.Matrix) bool {
	return m == geom.Translate(math.Round(m.E), math.Round(m.F))
}

// layered reports whether a group that is seen through as a whole holds one shape with a transform of its own: browsers
// paint such a group apart, with edges that come out a little different, and other groups of one as if the shape were
// seen through.
func layered(n *design.PaintNode) bool {
	if n.Opacity >= 1 || n.Filter != nil || n.Clip != nil || n.Mask != nil || n.Blend != "" || len(n.Children) != 1 ||
		n.Path != nil || n.Bitmap != nil {
		return false
	}
	k := n.Children[0]
	return k.Path != nil && k.Matrix != geom.Identity && k.Plain() && (k.Fill == nil || k.Stroke == nil)
}
