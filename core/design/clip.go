package design

import (
	"strconv"

	"archetyp/core/css"
	"archetyp/core/geom"
)

// clips reports what cuts the element off: each clip as a CSS basic shape on the element's layout box where it is one,
// else where it lies. https://www.w3.org/TR/css-shapes-1/#basic-shape-functions
func (l *factList) clips(e *Element) {
	if e.Paint == nil {
		return
	}
	for _, cut := range e.Cuts() {
		addFact(l, "clip-path", cut, cut.Value.Text)
	}
	if m := e.Paint.Mask; m != nil && m.ID != "" {
		how := "luminance"
		if m.Alpha {
			how = "alpha"
		}
		addFact(l, "mask", State(m.ID, "mask attribute"), "#"+m.ID+", by "+how)
	}
}

// Cut is what a clip leaves of an element.
type Cut struct {
	Text  string // a basic shape on the element's border box, or a description
	Basic bool   // it is a basic shape
	Box   bool   // it is the border box itself, with Radii
	Radii Radii
	Area  geom.Rect // around what it leaves, on the screen
}

// Cuts are what cuts the element off, outermost last.
func (e *Element) Cuts() (list []Fact[Cut]) {
	if e.Paint == nil {
		return nil
	}
	for c := e.Paint.Clip; c != nil; c = c.Clip {
		cut, box := c.on(e)
		cut.Area = box
		from := "clip #" + c.ID
		if c.ID == "" {
			from = "the edge of its viewport"
			if box.Contains(e.Geometry.Value, 0.5) {
				continue // nothing lies outside
			}
		}
		list = append(list, Derive(cut, from))
	}
	return list
}

// on is the clip on an element's border box, and the box around what it leaves on the screen.
func (c *Clip) on(e *Element) (cut Cut, box geom.Rect) {
	whole := &geom.Path{}
	letters := false
	for _, s := range c.Shapes {
		if s.Path != nil {
			whole.Append(s.Path.Transform(e.Matrix.Mul(s.Matrix)))
		}
		letters = letters || len(s.Glyphs) > 0
	}
	box, _ = whole.Bounds()
	area := css.Num(box.W, 2) + " × " + css.Num(box.H, 2) + " px at " + css.Num(box.X, 2) + ", " + css.Num(box.Y, 2)
	switch n := len(c.Shapes); {
	case n == 0:
		return Cut{Text: "all of it"}, box
	case letters:
		return Cut{Text: "letters"}, box
	case n > 1:
		return Cut{Text: strconv.Itoa(n) + " shapes, " + area}, box
	}
	form, ok := whole.Form(0.01)
	own := e.BorderBox()
	middle := box.Centre()
	at := " at " + css.Px(middle.X-own.X) + " " + css.Px(middle.Y-own.Y) + ")"
	switch {
	case !ok || form.Kind == geom.FormLine:
		return Cut{Text: "a path, " + area}, box
	case form.Kind == geom.FormCircle:
		return Cut{Text: "circle(" + css.Px(box.W/2) + at, Basic: true}, box
	case form.Kind == geom.FormOval:
		return Cut{Text: "ellipse(" + css.Px(box.W/2) + " " + css.Px(box.H/2) + at, Basic: true}, box
	}
	cut.Basic = true
	for k, p := range form.Radii {
		cut.Radii.X[k], cut.Radii.Y[k] = p.X, p.Y
	}
	sides := css.Sides(Insets(box, own))
	cut.Box = sides == css.Sides([4]float64{})
	cut.Text = "inset(" + sides
	if !cut.Radii.Zero() {
		cut.Text += " round " + cut.Radii.CSS()
	}
	cut.Text += ")"
	return cut, box
}
