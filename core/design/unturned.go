package design

import (
	"math"

	"archetyp/core/geom"
)

// Unturned is an element's box as CSS would have it before any turn, with the transform from element space to it: for
// an upright element the box and the transform on the screen; for a turned one its own box, unturned. skewed says that
// no such box exists, and the box is the one around it on the screen.
func (e *Element) Unturned() (box geom.Rect, toBox geom.Matrix, skewed bool) {
	m := e.Matrix
	if m.Upright() || m.Det() == 0 {
		return e.Geometry.Value, m, false
	}
	if math.Abs(m.A*m.C+m.B*m.D) > 1e-6*math.Abs(m.Det()) || e.Paint == nil || e.Paint.Path == nil {
		return e.Geometry.Value, m, true
	}
	local, ok := e.Paint.Path.Bounds()
	if !ok {
		return e.Geometry.Value, m, true
	}
	sx := math.Hypot(m.A, m.B)
	sy := m.Det() / sx // negative where the element is flipped
	box = geom.Rect{W: local.W * sx, H: local.H * math.Abs(sy)}
	toBox = geom.Scale(sx, sy).Mul(geom.Translate(-local.X, -local.Y))
	if sy < 0 {
		toBox = geom.Translate(0, box.H).Mul(toBox)
	}
	return box, toBox, false
}

// UnturnedBorder is the CSS border box of an element before it is turned, and by how many degrees it is; for an upright
// or skewed one its layout box on the screen, and 0.
func (e *Element) UnturnedBorder() (box geom.Rect, turn float64) {
	own, _, skewed := e.Unturned()
	if skewed || e.Matrix.Upright() {
		return e.Layout.Value, 0
	}
	if len(e.Strokes) > 0 {
		own = own.Grow(e.Strokes[0].Value.Out())
	}
	return own, e.Matrix.Rotation()
}

// Turn is by how many degrees the element's box is turned on the screen.
func (e *Element) Turn() float64 {
	if e.Words != nil {
		return e.Matrix.Rotation()
	}
	_, turn := e.UnturnedBorder()
	return turn
}

// PaintCSS is a paint of the element as CSS that paints the same on its box, before any turn; ok is false where CSS has
// no such thing, and the text says why.
func (e *Element) PaintCSS(p Paint) (text string, ok bool) {
	box, m, skewed := e.Unturned()
	if skewed && p.Kind != Solid && e.Words == nil {
		return "a " + string(p.Kind) + " gradient on a skewed shape, which CSS cannot say", false
	}
	return p.CSS(box, m)
}
