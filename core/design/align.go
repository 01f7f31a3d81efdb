package design

import (
	"math"

	"archetyp/core/geom"
)

// FindAlignment works out how texts are aligned whose file says nothing of it: many programs place every line by its x
// alone. Lines that share their middles or their ends are set by them; a single line that stands in the middle of what
// it lies on, across, and down or above and below others that do, is set in the middle.
func (s *Screen) FindAlignment() {
	for _, e := range s.Elements {
		w := e.Words
		if w == nil || e.Hidden || w.Words == "" || w.Align.Origin != Derived || !e.Matrix.Upright() {
			continue
		}
		if len(w.Lines) > 1 {
			w.alignLines()
		} else if e.standsInTheMiddle() {
			w.Align = Derive("center", "as much room left of it as right")
		}
	}
}

// slack is how far apart edges of lines may be that are one, in px: widths are those of a stand-in where the font is
// missing.
func (w *TextFacts) slack(width float64) float64 {
	if w.Missing {
		return math.Max(1, 0.08*width)
	}
	return 1
}

func (w *TextFacts) alignLines() {
	var lefts, middles, rights span
	widest := 0.0
	for _, l := range w.Lines {
		lefts.add(l.Baseline.X)
		middles.add(l.Baseline.X + l.Width/2)
		rights.add(l.Baseline.X + l.Width)
		widest = math.Max(widest, l.Width)
	}
	switch slack := w.slack(widest); {
	case lefts.size() <= 1:
	case middles.size() <= slack:
		w.Align = Derive("center", "its lines share their middle")
	case rights.size() <= slack:
		w.Align = Derive("right", "its lines share their end")
	}
}

type span struct {
	from, to float64
	set      bool
}

func (s *span) add(v float64) {
	if !s.set {
		s.from, s.to, s.set = v, v, true
	}
	s.from, s.to = math.Min(s.from, v), math.Max(s.to, v)
}

func (s *span) size() float64 { return s.to - s.from }

func (e *Element) standsInTheMiddle() bool {
	holder, out := e.ContainerElement(), geom.Rect{W: e.Screen.Box.W, H: e.Screen.Box.H}
	if holder != nil {
		out = holder.BorderBox()
	}
	box := e.Geometry.Value
	i := Insets(box, out)
	least := 2.0
	if out.W >= e.Screen.Box.W-1 { // a ground as wide as the screen: words that nearly fill it stand at its left
		least = 0.1 * out.W
	}
	slack := e.Words.slack(box.W)
	if i[1] < least || i[3] < least || math.Abs(i[1]-i[3]) > slack {
		return false
	}
	if i[0] > 0 && i[2] > 0 && math.Abs(i[0]-i[2]) <= math.Max(3, 0.12*out.H) {
		return true
	}
	for _, c := range e.Parent.Children { // others of another width stand about the same middle
		b := c.BorderBox()
		if c != e && c != holder && !c.Hidden && math.Abs(b.Centre().X-box.Centre().X) <= slack && math.Abs(b.W-box.W) > 4 &&
			b.W < out.W-1 {
			return true
		}
	}
	return false
}
