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
		addFact(l, "clip-path", cut, cut.Value)
	}
	if m := e.Paint.Mask; m != nil && m.ID != "" {
		how := "luminance"
		if m.Alpha {
			how = "alpha"
		}
		addFact(l, "mask", State(m.ID, "mask attribute"), "#"+m.ID+", by "+how)
	}
}

// Cuts are what cuts the element off, outermost last: CSS basic shapes on its border box, or words where no basic shape
// says it.
func (e *Element) Cuts() (list []Fact[string]) {
	if e.Paint == nil {
		return nil
	}
	for c := e.Paint.Clip; c != nil; c = c.Clip {
		text, box := c.on(e)
		from := "clip #" + c.ID
		if c.ID == "" {
			from = "the edge of its viewport"
			if box.Contains(e.Geometry.Value, 0.5) {
				continue // nothing lies outside
			}
		}
		list = append(list, Derive(text, from))
	}
	return list
}

// on is the clip on an element's layout box, and the box around what it leaves on the screen.
func (c *Clip) on(e *Element) (text string, box geom.Rect) {
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
		return "all of it", box
	case letters:
		return "letters", box
	case n > 1:
		return strconv.Itoa(n) + " shapes, " + area, box
	}
	form, ok := whole.Form(0.01)
	own := e.BorderBox()
	switch {
	case !ok || form.Kind == geom.FormLine:
		return "a path, " + area, box
	case form.Kind == geom.FormCircle:
		c := box.Centre()
		return "circle(" + css.Px(box.W/2) + " at " + css.Px(c.X-own.X) + " " + css.Px(c.Y-own.Y) + ")", box
	case form.Kind == geom.FormOval:
		c := box.Centre()
		return "ellipse(" + css.Px(box.W/2) + " " + css.Px(box.H/2) + " at " + css.Px(c.X-own.X) + " " + css.Px(c.Y-own.Y) +
			")", box
	}
	i := Insets(box, own)
	text = "inset(" + css.Sides(i)
	var r Radii
	for k, p := range form.Radii {
		r.X[k], r.Y[k] = p.X, p.Y
	}
	if !r.Zero() {
		text += " round " + r.CSS()
	}
	return text + ")", box
}
