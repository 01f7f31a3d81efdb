// Package layout recovers what a drawing only implies by place: rows, columns and grids with their gaps, padding and
// alignment, lines of text that are one paragraph, and words turned into outlines. It takes elements of a document
// and gives facts that are derived; where places do not bear a statement out, it makes none.
//
// All lengths are px of the screen.
package layout

import (
	"cmp"
	"math"
	"slices"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// Kind is the way the items of a container are laid out.
type Kind string

// The ways, in the words of CSS.
const (
	Row    Kind = "row"
	Column Kind = "column"
	Grid   Kind = "grid"
	Single Kind = "single" // one item in a container
)

// Align is where items stand across the direction they follow each other in.
type Align string

// The alignments, in the words of CSS.
const (
	Start    Align = "start"
	Center   Align = "center"
	End      Align = "end"
	Baseline Align = "baseline"
	Stretch  Align = "stretch" // both edges, the container's inner ones
)

// Layout is how the items of one container stand.
type Layout struct {
	Kind       Kind
	Items      []*design.Element // in reading order
	Gaps       []float64         // between neighbours: of a row or column
	RowGaps    []float64         // of a grid
	ColumnGaps []float64         // of a grid
	Columns    int               // of a grid
	Align      Align             // of a row or column
	Contained  bool              // Padding counts: there is a background
	Padding    [4]float64        // top, right, bottom, left; from the border's inner edge, as CSS counts
}

// Tolerances in px. What is drawn by hand on a grid of whole pixels is exact; half a pixel is what alignment by
// halves leaves over. Cells of text are rounded to whole pixels, so text may be off by one.
const (
	near     = 0.5
	nearText = 1
)

// Even is the one gap of a list of gaps; ok is false where they differ, or where there is none.
func Even(gaps []float64) (gap float64, ok bool) {
	if len(gaps) == 0 {
		return 0, false
	}
	for _, g := range gaps {
		if math.Abs(g-gaps[0]) > 0.01 {
			return 0, false
		}
	}
	return gaps[0], true
}

// Middles are the distances between the middles of a row's or column's items, in px.
func (l *Layout) Middles() []float64 {
	at := acrossX
	if l.Kind == Column {
		at = acrossY
	}
	var out []float64
	for i := 1; i < len(l.Items); i++ {
		out = append(out, tidy(at(l.Items[i]).mid()-at(l.Items[i-1]).mid()))
	}
	return out
}

// EvenMiddles is how far the middles of a row's or column's items are apart, where the gaps between them are uneven and
// that is not.
func (l *Layout) EvenMiddles() (step float64, ok bool) {
	if _, even := Even(l.Gaps); even || len(l.Gaps) < 2 || l.Kind != Row && l.Kind != Column {
		return 0, false
	}
	m := l.Middles()
	for _, v := range m[1:] {
		if math.Abs(v-m[0]) > near {
			return 0, false
		}
	}
	return m[0], true
}

// Of says how the visible contents of a group stand. ok is false where no rule fits.
func Of(e *design.Element) (Layout, bool) {
	if e.Kind != design.Group {
		return Layout{}, false
	}
	items := contents(e)
	if len(items) == 0 || len(items) > 4096 {
		return Layout{}, false
	}
	for _, try := range []func([]*design.Element) (Layout, bool){single, row, column, grid} {
		l, ok := try(items)
		if !ok {
			continue
		}
		if bg := e.Background(); bg != nil {
			l.Contained = true
			l.Padding = padding(bg.Layout.Value.Grow(-e.BorderWidth()), l.Items)
		}
		if l.Kind == Single && !l.Contained {
			return Layout{}, false
		}
		return l, true
	}
	return Layout{}, false
}

// contents are the items of a group: what lies on its background, without layers that cover it all.
func contents(e *design.Element) []*design.Element {
	bg := e.Background()
	var out []*design.Element
	for _, c := range e.Contents() {
		b := c.BorderBox()
		if bg != nil && b.Contains(bg.Layout.Value, 4) || b.W <= 0 && b.H <= 0 {
			continue
		}
		out = append(out, c)
	}
	return out
}

func padding(out geom.Rect, items []*design.Element) [4]float64 {
	in := items[0].BorderBox()
	for _, c := range items[1:] {
		b := c.BorderBox()
		x, y := math.Min(in.X, b.X), math.Min(in.Y, b.Y)
		in = geom.Rect{X: x, Y: y, W: math.Max(in.Right(), b.Right()) - x, H: math.Max(in.Bottom(), b.Bottom()) - y}
	}
	return [4]float64{in.Y - out.Y, out.Right() - in.Right(), out.Bottom() - in.Bottom(), in.X - out.X}
}

func single(items []*design.Element) (Layout, bool) {
	return Layout{Kind: Single, Items: items}, len(items) == 1
}

// span is the extent of a box along one axis.
type span struct{ from, to float64 }

func (s span) mid() float64 { return (s.from + s.to) / 2 }

func acrossX(e *design.Element) span { b := e.BorderBox(); return span{b.X, b.Right()} }
func acrossY(e *design.Element) span { b := e.BorderBox(); return span{b.Y, b.Bottom()} }

func row(items []*design.Element) (Layout, bool) {
	l, ok := line(items, acrossX, acrossY, Center)
	l.Kind = Row
	if ok && l.Align != Stretch && l.Align != Start && baseline(l.Items) {
		l.Align = Baseline
	}
	if !ok && len(l.Gaps) > 0 && baseline(l.Items) {
		l.Align, ok = Baseline, true
	}
	return l, ok
}

func column(items []*design.Element) (Layout, bool) {
	l, ok := line(items, acrossY, acrossX, Start)
	l.Kind = Column
	return l, ok
}

// line tries items one after the other along an axis, aligned across it. Cells of text are as large as their words
// make them: where both edges agree it is by chance, and words says how they are aligned.
func line(items []*design.Element, along, across func(*design.Element) span, words Align) (Layout, bool) {
	l := Layout{Items: slices.Clone(items)}
	slices.SortStableFunc(l.Items, func(a, b *design.Element) int {
		return cmp.Compare(along(a).from, along(b).from)
	})
	if len(items) < 2 {
		return l, false
	}
	for i := 1; i < len(l.Items); i++ {
		gap := along(l.Items[i]).from - along(l.Items[i-1]).to
		if gap < -near {
			return Layout{}, false
		}
		l.Gaps = append(l.Gaps, tidy(gap))
	}
	first := across(l.Items[0])
	start, center, end, tol := true, true, true, near
	for _, e := range l.Items {
		if e.Kind == design.Text {
			tol = nearText
		}
	}
	for _, e := range l.Items[1:] {
		s := across(e)
		start = start && math.Abs(s.from-first.from) <= near
		end = end && math.Abs(s.to-first.to) <= near
		center = center && math.Abs(s.mid()-first.mid()) <= tol
	}
	switch {
	case start && end && tol == nearText:
		l.Align = words
	case start && end:
		l.Align = Stretch
	case start:
		l.Align = Start
	case center:
		l.Align = Center
	case end:
		l.Align = End
	}
	return l, l.Align != ""
}

func tidy(v float64) float64 { return design.Tidy(v) }

// baseline reports whether all items are single lines of text on one baseline.
func baseline(items []*design.Element) bool {
	at := math.NaN()
	for _, e := range items {
		if e.Words == nil || len(e.Words.Lines) != 1 {
			return false
		}
		y := e.Words.Lines[0].Baseline.Y
		if !math.IsNaN(at) && math.Abs(y-at) > 0.01 {
			return false
		}
		at = y
	}
	return true
}

// grid tries items in rows of the same columns; the last row may be shorter.
func grid(items []*design.Element) (Layout, bool) {
	if len(items) < 4 {
		return Layout{}, false
	}
	l := Layout{Kind: Grid, Items: slices.Clone(items)}
	slices.SortStableFunc(l.Items, func(a, b *design.Element) int { return cmp.Compare(a.BorderBox().Y, b.BorderBox().Y) })
	var rows [][]*design.Element
	for _, e := range l.Items {
		if n := len(rows); n > 0 && math.Abs(rows[n-1][0].BorderBox().Y-e.BorderBox().Y) <= near {
			rows[n-1] = append(rows[n-1], e)
		} else {
			rows = append(rows, []*design.Element{e})
		}
	}
	l.Columns = len(rows[0])
	if len(rows) < 2 || l.Columns < 2 {
		return Layout{}, false
	}
	l.Items = l.Items[:0]
	bottom := math.Inf(-1)
	right := make([]float64, l.Columns) // of each column's widest cell
	left := make([]float64, l.Columns)
	for k, r := range rows {
		slices.SortStableFunc(r, func(a, b *design.Element) int { return cmp.Compare(a.BorderBox().X, b.BorderBox().X) })
		if len(r) != l.Columns && (k < len(rows)-1 || len(r) > l.Columns) {
			return Layout{}, false
		}
		top := r[0].BorderBox().Y
		if k > 0 {
			if top < bottom-near {
				return Layout{}, false
			}
			l.RowGaps = append(l.RowGaps, tidy(top-bottom))
		}
		for i, e := range r {
			b := e.BorderBox()
			if k == 0 {
				left[i], right[i] = b.X, b.Right()
			}
			if math.Abs(b.X-left[i]) > near {
				return Layout{}, false
			}
			right[i], bottom = math.Max(right[i], b.Right()), math.Max(bottom, b.Bottom())
		}
		l.Items = append(l.Items, r...)
	}
	for i := 1; i < l.Columns; i++ {
		if left[i] < right[i-1]-near {
			return Layout{}, false
		}
		l.ColumnGaps = append(l.ColumnGaps, tidy(left[i]-right[i-1]))
	}
	return l, true
}
