package design

import "archetyp/core/css"

// Corners are the radii of the element's CSS border box, in px: those of its outline, and where it is round, as much
// more as its stroke reaches beyond it. A group has those of what it lies on.
func (e *Element) Corners() Fact[Radii] {
	face := e.Face()
	f := face.Radii
	out := 0.0
	if len(face.Strokes) > 0 {
		out = face.Strokes[0].Value.Out()
	} else if frame, s := e.Border(); frame != nil {
		out = s.Value.Out()
	}
	if !f.Set || out == 0 || f.Value.Zero() {
		return f
	}
	drawn := f.Value
	for i := range f.Value.X {
		if f.Value.X[i] > 0 && f.Value.Y[i] > 0 {
			f.Value.X[i] += out
			f.Value.Y[i] += out
		}
	}
	if f.Origin == Stated {
		f.Origin = Derived
	}
	f.From += "; drawn " + drawn.CSS() + ", and " + css.Px(out) + " of the stroke lie outside"
	return f
}

// Pill reports whether the ends of the element's box are as round as they can be: then the radius only follows from the
// height. Circles and ovals are none.
func (e *Element) Pill() bool {
	face := e.Face()
	b, r := face.Geometry.Value, face.Radii
	return r.Set && r.Error == 0 && r.Value.Uniform() && !face.Oval() && r.Value.X[0] >= min(b.W, b.H)/2-0.01 &&
		b.W > b.H+1 && b.H > 8
}

// Face is what an element looks like: its background for a group that lies on one, else itself.
func (e *Element) Face() *Element {
	if bg := e.Background(); bg != nil {
		return bg
	}
	return e
}
