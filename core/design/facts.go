package design

import (
	"strconv"
	"strings"

	"archetyp/core/css"
	"archetyp/core/geom"
)

// FactLine is one fact in words: its name (a CSS property where there is one), its value as CSS, and how it is known.
type FactLine struct {
	Section string  `json:"section"` // identity, box, paint, effects, text, code
	Name    string  `json:"name"`
	Value   string  `json:"value"`
	Origin  Origin  `json:"origin"`
	Error   float64 `json:"error,omitempty"`
	From    string  `json:"from,omitempty"`
	Note    string  `json:"note,omitempty"`
}

// Known says how a fact is known, an estimate with its error: in steps of a channel (1/255) of a colour, else in px.
func (f FactLine) Known() string {
	if f.Origin != Estimated {
		return string(f.Origin)
	}
	unit := " px"
	if f.Name == "fill" {
		unit = "/255"
	}
	return string(f.Origin) + " ± " + css.Num(f.Error, 2) + unit
}

type factList struct {
	lines   []FactLine
	section string
}

func addFact[T any](l *factList, name string, f Fact[T], value string) {
	if f.Set {
		l.lines = append(l.lines, FactLine{Section: l.section, Name: name, Value: value, Origin: f.Origin, Error: f.Error,
			From: f.From})
	}
}

// Facts lists all that is known of an element, in reading order.
func (e *Element) Facts() []FactLine {
	l := &factList{section: "box"}
	if e.Styled != nil {
		if e.Geometry.Set {
			l.boxes(e)
		}
		if e.Words != nil {
			l.section = "text"
			addFact(l, "words", State(true, "the file"), strconv.Quote(e.Words.Words))
		}
		return append(l.lines, e.Styled()...)
	}
	l.boxes(e)
	l.section = "paint"
	if e.Casts {
		addFact(l, "fill", Derive("none", "it only casts the shadow of what lies over it"), "none")
		return l.lines
	}
	l.paints(e)
	l.section = "effects"
	addFact(l, "opacity", e.Opacity, css.Num(e.Opacity.Value, 4))
	addFact(l, "mix-blend-mode", e.Blend, e.Blend.Value)
	for _, s := range e.AllShadows() {
		addFact(l, "shadow", s, s.Value.CSS())
	}
	addFact(l, "blur", e.Blur, css.Px(e.Blur.Value))
	if f := e.Paint.Filter; f != nil && len(e.Shadows) == 0 && !e.Blur.Set {
		if f.CSS != "" {
			addFact(l, "filter", State(true, "filter property"), f.CSS)
		} else {
			addFact(l, "filter", State(true, "filter #"+f.ID),
				strconv.Itoa(len(f.Primitives))+" steps that are neither shadow nor blur")
		}
	}
	l.clips(e)
	if e.Words != nil {
		l.section = "text"
		e.Words.facts(l)
	}
	l.section = "code"
	for _, d := range e.Stated {
		addFact(l, d.Prop, State(true, "CSS in the drawing"), d.Value)
	}
	return l.lines
}

// boxes are an element's boxes and form, and how it stands in its container.
func (l *factList) boxes(e *Element) {
	addFact(l, "geometry box", e.Geometry, RectText(e.Geometry.Value))
	if e.Layout.Value != e.Geometry.Value {
		addFact(l, "layout box", e.Layout, RectText(e.Layout.Value))
	}
	if e.Painted.Value != e.Geometry.Value {
		addFact(l, "painted box", e.Painted, RectText(e.Painted.Value))
	}
	box, in := e.BorderBox(), e.Container()
	if e.Geometry.Set && e.Parent != nil {
		i := Insets(box, in)
		addFact(l, "insets", Derive(i, "from the container's edges"),
			strings.Join([]string{css.Px(i[0]), css.Px(i[1]), css.Px(i[2]), css.Px(i[3])}, " "))
	}
	if way := InTheMiddle(box, in); way != "" && e.Parent != nil {
		addFact(l, "centred", Derive(way, "as much room on both sides"), way)
	}
	l.turns(e)
	addFact(l, "form", e.Form, string(e.Form.Value))
	corners := e.Corners()
	addFact(l, "border-radius", corners, corners.Value.CSS())
}

// paints are the fills, the strokes and the picture of an element.
func (l *factList) paints(e *Element) {
	face := e.Face()
	for _, f := range face.Fills {
		face.paintFact(l, "fill", Fact[Paint]{f.Value, f.Origin, f.Error, f.From, true})
	}
	strokes := face.Strokes
	if frame, s := e.Border(); frame != nil {
		strokes = []Fact[Stroke]{s}
	}
	for _, s := range strokes {
		face.paintFact(l, "stroke", Fact[Paint]{s.Value.Paint, s.Origin, s.Error, s.From, true})
		l.stroke(s)
	}
	addFact(l, "picture", e.Bitmap,
		e.Bitmap.Value.Href+", "+strconv.Itoa(e.Bitmap.Value.Width)+" × "+strconv.Itoa(e.Bitmap.Value.Height)+" pixels")
}

// stroke is how the line of a stroke is drawn.
func (l *factList) stroke(s Fact[Stroke]) {
	addFact(l, "stroke-width", s, css.Px(s.Value.Width))
	if len(s.Value.Dashes) > 0 {
		var d []string
		for _, v := range s.Value.Dashes {
			d = append(d, css.Num(v, 3))
		}
		addFact(l, "stroke-dasharray", s, strings.Join(d, " "))
		if s.Value.Offset != 0 {
			addFact(l, "stroke-dashoffset", s, css.Px(s.Value.Offset))
		}
	}
	if s.Value.Cap != "butt" {
		addFact(l, "stroke-linecap", s, s.Value.Cap)
	}
	if s.Value.Join != "miter" {
		addFact(l, "stroke-linejoin", s, s.Value.Join)
	} else if s.Value.Miter != 4 {
		addFact(l, "stroke-miterlimit", s, css.Num(s.Value.Miter, 4))
	}
	addFact(l, "stroke-align", strokeAlign(s), string(s.Value.Align))
}

// strokeAlign says where a stroke lies and why.
func strokeAlign(s Fact[Stroke]) Fact[StrokeAlign] {
	v := s.Value
	switch {
	case v.Frame:
		return Derive(v.Align, "where the frame's edge runs by the background's")
	case v.Align == Centred:
		return Derive(v.Align, "nothing cuts it off")
	}
	return Derive(v.Align, "cut off along the outline: "+css.Px(v.Shown)+" of it show")
}

func (e *Element) paintFact(l *factList, name string, f Fact[Paint]) {
	text, ok := e.PaintCSS(f.Value)
	if !ok {
		l.lines = append(l.lines, FactLine{Section: l.section, Name: name, Value: string(f.Value.Kind), Origin: f.Origin,
			From: f.From, Note: text})
		return
	}
	if f.Value.Kind != Solid && f.Origin != Estimated {
		f.Origin = Derived
		f.From = "gradient #" + f.Value.Gradient.ID + " on the element's box"
	}
	addFact(l, name, f, text)
}

func (w *TextFacts) facts(l *factList) {
	addFact(l, "words", State(true, "the file"), strconv.Quote(w.Words))
	addFact(l, "font-family", w.Family, FamilyCSS(w.Family.Value))
	addFact(l, "font-size", w.Size, css.Px(w.Size.Value))
	addFact(l, "font-weight", w.Weight, strconv.Itoa(w.Weight.Value))
	if w.Italic.Value {
		addFact(l, "font-style", w.Italic, "italic")
	}
	addFact(l, "line-height", w.LineHeight, css.Px(w.LineHeight.Value))
	addFact(l, "letter-spacing", w.Spacing, css.Px(w.Spacing.Value))
	addFact(l, "text-align", w.Align, w.Align.Value)
	addFact(l, "text-transform", w.Case, w.Case.Value)
	addFact(l, "text-decoration", w.Decoration, w.Decoration.Value)
	if looks := w.Looks(); len(looks) > 1 {
		for i, r := range looks {
			addFact(l, "run "+strconv.Itoa(i+1), State(true, "how it is set"), r.describe())
		}
	}
	for i, line := range w.Lines {
		name := "baseline"
		if len(w.Lines) > 1 {
			name = "baseline " + strconv.Itoa(i+1)
		}
		addFact(l, name, Derive(line, "measured with "+w.Used), css.Num(line.Baseline.X, 2)+", "+css.Num(line.Baseline.Y,
			2)+", "+css.Px(line.Width)+" wide")
	}
}

// RectText is a rectangle in words: place and size.
func RectText(r geom.Rect) string {
	return css.Num(r.X, 2) + ", " + css.Num(r.Y, 2) + "  " + css.Num(r.W, 2) + " × " + css.Num(r.H, 2) + " px"
}
