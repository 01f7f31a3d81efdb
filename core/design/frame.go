package design

import (
	"math"

	"archetyp/core/geom"
)

// Frame is what is cut out of the screen for an element, in whole px: the viewport it was drawn in, where it has one
// (an icon keeps the air around it), and else all it paints; in any case nothing that it paints is cut off.
func (e *Element) Frame() geom.Rect {
	if e.Parent == nil || e.Screen != nil && e == e.Screen.Root { // a whole screen
		b := e.Screen.Box
		return geom.Rect{W: wholeLength(b.W), H: wholeLength(b.H)}
	}
	painted := WholePixels(e.Painted.Value)
	port, ok := e.port()
	if !ok {
		return painted
	}
	x, y := math.Round(port.X), math.Round(port.Y)
	if math.Abs(x-port.X) > frameSlack || math.Abs(y-port.Y) > frameSlack { // between pixels: the air may not make it blurred
		return painted.Union(WholePixels(port))
	}
	frame := geom.Rect{X: x, Y: y, W: wholeLength(port.W), H: wholeLength(port.H)}
	if painted.W > 0 && painted.H > 0 && !frame.Contains(painted, frameSlack) {
		frame = frame.Union(painted)
	}
	return frame
}

// frameSlack is by how much of a px a frame may be off a whole one and still be taken for it.
const frameSlack = 0.08

// wholeLength is a length in whole px: the nearest, where it is meant to be that, else the next.
func wholeLength(v float64) float64 {
	if r := math.Round(v); r > 0 && math.Abs(v-r) < frameSlack {
		return r
	}
	return math.Ceil(v)
}

// port is the box that an element's drawing was made in, on the screen: that of a symbol or an inner svg.
func (e *Element) port() (geom.Rect, bool) {
	if e.Node == nil || e.Native != Instance && e.Native != Viewport || e.Paint == nil ||
		!e.Matrix.Upright() {
		return geom.Rect{}, false
	}
	if e.Native == Viewport {
		return e.Layout.Value, e.Layout.Set
	}
	for _, c := range e.Paint.Children { // what a use element paints stands in a group that moves it
		for k := c.Clip; k != nil; k = k.Clip {
			if len(k.Shapes) == 1 && k.Shapes[0].Path.IsRect() {
				if b, ok := k.Shapes[0].Path.Transform(e.Matrix.Mul(c.Matrix).Mul(k.Shapes[0].Matrix)).Bounds(); ok {
					return b, true
				}
			}
		}
	}
	return geom.Rect{}, false
}
