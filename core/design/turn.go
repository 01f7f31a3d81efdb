package design

import (
	"math"

	"archetyp/core/css"
)

// turns reports how the element is turned, slanted or flipped out of the upright, in the order CSS applies it, and how
// large it is before.
func (l *factList) turns(e *Element) {
	m := e.Matrix
	if m.Upright() || m.Det() == 0 {
		return
	}
	turn := m.Rotation()
	own, _, skewed := e.Unturned()
	if !skewed {
		addFact(l, "own size", Derive(own, "before it is turned"), css.Px(own.W)+" × "+css.Px(own.H))
		addFact(l, "rotate", Derive(turn, "the element's transform"), css.Num(turn, 3)+"deg")
		return
	}
	sx := math.Hypot(m.A, m.B)
	sy := m.Det() / sx
	slant := math.Atan2(m.A*m.C+m.B*m.D, sx*math.Abs(sy)) / math.Pi * 180
	text := ""
	if math.Abs(turn) > 1e-6 {
		text = "rotate(" + css.Num(turn, 3) + "deg) "
	}
	if math.Abs(slant) > 1e-6 {
		text += "skewX(" + css.Num(slant, 3) + "deg) "
	}
	if sy < 0 {
		text += "scaleY(-1) "
	}
	if e.Paint != nil && e.Paint.Path != nil {
		if local, ok := e.Paint.Path.Bounds(); ok {
			addFact(l, "own size", Derive(local, "before it is slanted"), css.Px(local.W*sx)+" × "+css.Px(local.H*math.Abs(sy)))
		}
	}
	if text != "" {
		addFact(l, "transform", Derive(text, "the element's transform"), text[:len(text)-1])
	}
}
