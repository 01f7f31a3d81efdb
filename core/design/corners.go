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

// Face is what an element looks like: its background for a group that lies on one, else itself.
func (e *Element) Face() *Element {
	if bg := e.Background(); bg != nil {
		return bg
	}
	return e
}
