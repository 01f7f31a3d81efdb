package code

import (
	"math"
	"slices"
	"strconv"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/infer/layout"
)

// size is how large an element is, where nothing else would make it so: a picture, a shape without contents, or any
// where sizes are asked for.
func (w *writer) size(b *Block, e, face *design.Element) {
	if e.Kind == design.Group && face == e { // as large as what it holds
		if !picture(e) {
			w.flow(b, e)
		}
		return
	}
	r, turn := unturned(face)
	if contents := face != e && len(e.Contents()) > 0; w.Sizes || !contents {
		w.put(b, "box-sizing", "border-box", "")
		w.put(b, "width", css.Px(r.W), "")
		w.put(b, "height", css.Px(r.H), "")
	}
	if face != e {
		w.padding(b, e, face)
		if turn == 0 {
			w.flow(b, e)
		}
	}
	w.rotate(b, face)
	w.corners(b, e, face)
}

// corners writes how round a box is.
func (w *writer) corners(b *Block, e, face *design.Element) {
	corners := e.Corners()
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

// picture reports whether a group is an asset or an icon: outlines, perhaps with boxes and lines, whose places are no
// layout.
func picture(e *design.Element) bool {
	if e.Marks.Asset != "" {
		return true
	}
	outlined := false
	e.Walk(func(x *design.Element) { outlined = outlined || x.Kind == design.Path && !x.Line() })
	return outlined && !e.Informs()
}

// unturned is the border box of an element before it is turned, and by how many degrees it is.
func unturned(e *design.Element) (geom.Rect, float64) {
	own, _, skewed := e.Unturned()
	if skewed || e.Matrix.Upright() {
		return e.Layout.Value, 0
	}
	if len(e.Strokes) > 0 {
		own = own.Grow(e.Strokes[0].Value.Out())
	}
	return own, e.Matrix.Rotation()
}

// rotate writes how an element is turned relative to the one asked for.
func (w *writer) rotate(b *Block, e *design.Element) {
	turn := e.Matrix.Rotation()
	if e.Words == nil {
		_, turn = unturned(e)
	}
	if turn -= w.turn; math.Abs(turn) > 0.01 && !e.Matrix.Upright() {
		w.put(b, "rotate", css.Num(turn, 3)+"deg", "")
	}
}

// flow is how the contents of a group follow each other, where their places say so. Two that stand at the ends of a row
// are apart because the row is wide, not by a gap somebody chose.
func (w *writer) flow(b *Block, e *design.Element) {
	l, ok := layout.Of(e)
	if !ok || l.Kind == layout.Single {
		return
	}
	gap, even := layout.Even(l.Gaps)
	switch l.Kind {
	case layout.Grid:
		across, okX := layout.Even(l.ColumnGaps)
		down, okY := layout.Even(l.RowGaps)
		w.put(b, "display", "grid", "")
		w.put(b, "grid-template-columns", "repeat("+strconv.Itoa(l.Columns)+", auto)", "")
		if okX && okY && across == down {
			w.put(b, "gap", css.Px(across), "space")
		} else if okX && okY {
			w.put(b, "gap", css.Px(down)+" "+css.Px(across), "")
		}
		return
	case layout.Column:
		w.put(b, "display", "flex", "")
		w.put(b, "flex-direction", "column", "")
	case layout.Row:
		w.put(b, "display", "flex", "")
		if len(l.Gaps) == 1 && gap > 2*(l.Padding[1]+l.Padding[3]) && gap > 32 {
			w.put(b, "justify-content", "space-between", "")
			even = false
		}
	}
	if l.Align != layout.Stretch {
		w.put(b, "align-items", string(l.Align), "")
	}
	switch {
	case even:
		w.put(b, "gap", css.Px(gap), "space")
	case evenMiddles(&l):
		b.comment("flex", "the middles of the items are evenly apart: give each the same width, flex: 1")
	case len(l.Gaps) > 1 && l.Grow == nil:
		b.comment("gap", "the gaps are uneven: "+layout.GapText(l.Gaps))
	case l.Grow != nil:
		b.comment("flex", l.Grow.Title()+" takes the room left over: flex-grow: 1")
		w.put(b, "gap", css.Px(slices.Min(l.Gaps)), "space")
	}
}

func evenMiddles(l *layout.Layout) bool {
	_, even := l.EvenMiddles()
	return even
}

// padding writes the insets of a group's contents from its background, 0 where they hang over; a single element in the
// middle is centred instead. A side that text is not aligned to depends on its words, so the inset of the other side
// counts for both.
func (w *writer) padding(b *Block, e, face *design.Element) {
	out := face.Layout.Value
	own, turn := unturned(face)
	var held []*design.Element
	for _, c := range e.Contents() {
		if !c.Geometry.Value.Contains(out, 4) && c != e.FocusRing() { // a layer over the background holds nothing in
			held = append(held, c)
		}
	}
	if len(held) == 0 {
		return
	}
	in := held[0].Geometry.Value
	for _, c := range held[1:] {
		in = in.Union(c.Geometry.Value)
	}
	out = out.Grow(-e.BorderWidth()) // CSS counts padding from the border's inner edge
	top, right, bottom, left := max(0, in.Y-out.Y), max(0, out.Right()-in.Right()), max(0, out.Bottom()-in.Bottom()),
		max(0, in.X-out.X)
	if len(held) == 1 && math.Abs(left-right) < 0.5 && math.Abs(top-bottom) < centredWithin(held[0]) {
		if !w.Sizes { // how high it is round its words is the only thing that says so
			w.put(b, "box-sizing", "border-box", "")
			w.put(b, "min-height", css.Px(own.H), "")
		}
		w.put(b, "display", "grid", "")
		w.put(b, "place-items", "center", "")
		return
	}
	if turn != 0 {
		return // bounding boxes of turned elements give no insets
	}
	firmLeft, firmRight := stands(held, in.X, "left", geom.Rect.Left), stands(held, in.Right(), "right", geom.Rect.Right)
	switch {
	case firmLeft && !firmRight:
		right = min(left, right)
	case firmRight && !firmLeft:
		left = min(left, right)
	case !firmLeft && !firmRight:
		left, right = 0, 0
	}
	if top+right+bottom+left > 0 {
		w.put(b, "padding", css.Sides([4]float64{top, right, bottom, left}), "")
	}
}

// centredWithin is by how much the insets above and below a thing in the middle may differ, in px: the cells of words
// stand a little higher or lower, depending on the font.
func centredWithin(e *design.Element) float64 {
	if e.Words != nil && len(e.Words.Lines) == 1 {
		return max(1.5, e.Words.Size.Value/4)
	}
	return 1.5
}

// stands reports whether something ends at an edge because it stands there: no words, or words set to that side.
func stands(list []*design.Element, edge float64, side string, of func(geom.Rect) float64) bool {
	for _, e := range list {
		if math.Abs(of(e.Geometry.Value)-edge) < 0.5 && firm(e, side) {
			return true
		}
	}
	return false
}

// firm reports whether the side of an element is where the drawing has it, and not where its words end.
func firm(e *design.Element, side string) bool {
	if e.Words != nil {
		return e.Words.Align.Value == side
	}
	if e.Kind != design.Group || e.Background() != nil {
		return true
	}
	for _, c := range e.Contents() {
		if firm(c, side) {
			return true
		}
	}
	return false
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
