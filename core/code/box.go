package code

import (
	"math"

	"archetyp/core/css"
	"archetyp/core/design"
)

// corners writes how round a box is.
func (w *writer) corners(b *Block, e, face *design.Element) {
	corners := e.Corners()
	if !corners.Set { // a group of one box has none, and is drawn as it
		corners = face.Corners()
	}
	if !corners.Set {
		return
	}
	full := ""
	if face.Pill() {
		full = w.name(b, "radius", "full")
	}
	switch {
	case face.Oval():
		w.put(b, "border-radius", "50%", "")
	case full != "":
		w.put(b, "border-radius", "var("+full+")", "")
	case !corners.Value.Zero():
		w.put(b, "border-radius", corners.Value.CSS(), "radius")
	}
}

// rotate writes how an element is turned, relative to how that is which holds it.
func (w *writer) rotate(b *Block, e *design.Element, within float64) {
	turn := e.Turn()
	if turn -= within; math.Abs(turn) > 0.01 && !e.Matrix.Upright() {
		w.put(b, "rotate", css.Num(turn, 3)+"deg", "")
	}
}

func (w *writer) border(b *Block, e *design.Element, s design.Fact[design.Stroke]) {
	text, ok := e.PaintCSS(s.Value.Paint)
	if !ok || s.Value.Paint.Kind != design.Solid {
		b.comment("border", "the border is painted with "+text)
		return
	}
	if name := w.name(b, "color:border", text); name != "" {
		text = "var(" + name + ")"
	}
	style := "solid"
	if len(s.Value.Dashes) > 0 {
		style = "dashed"
	}
	w.put(b, "border", css.Px(s.Value.Shown)+" "+style+" "+text, "")
}

// ring is a frame around a background as the outline of a focused element.
func (w *writer) ring(b *Block, e *design.Element) {
	ring := e.FocusRing()
	if ring == nil {
		return
	}
	s := ring.Strokes[0].Value
	text, ok := ring.PaintCSS(s.Paint)
	if !ok || s.Paint.Kind != design.Solid {
		return
	}
	if name := w.name(b, "color:border", text); name != "" {
		text = "var(" + name + ")"
	}
	gap := e.Background().Layout.Value.X - ring.Geometry.Value.X - s.Width/2
	w.put(b, "outline", css.Px(s.Width)+" solid "+text, "")
	w.put(b, "outline-offset", css.Px(gap), "")
}

// line is a straight line as the border of a box without height or width.
func (w *writer) line(b *Block, e *design.Element) {
	box := e.Geometry.Value
	side, length, prop := "border-top", box.W, "width"
	if box.H > box.W {
		side, length, prop = "border-left", box.H, "height"
	}
	text, width, style := "", min(box.W, box.H), "solid"
	for _, s := range e.Strokes {
		if t, ok := e.PaintCSS(s.Value.Paint); ok && s.Value.Paint.Kind == design.Solid {
			text, width = t, s.Value.Width
			if len(s.Value.Dashes) > 0 {
				style = "dashed"
			}
		}
	}
	if text == "" {
		b.comment("", outline)
		return
	}
	w.put(b, prop, css.Px(length), "")
	if name := w.name(b, "color:border", text); name != "" {
		text = "var(" + name + ")"
	}
	w.put(b, side, css.Px(width)+" "+style+" "+text, "")
}
