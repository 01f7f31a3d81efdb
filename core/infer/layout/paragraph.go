package layout

import (
	"math"
	"strings"
	"unicode"
	"unicode/utf8"

	"archetyp/core/design"
)

// Paragraph is several lines of text that were drawn one by one and belong together.
type Paragraph struct {
	Lines      []*design.Element // from the top
	LineHeight float64           // px, from baseline to baseline
	Align      Align             // start, center or end
}

// Words are the words of the whole, joined by spaces.
func (p Paragraph) Words() string {
	var out []string
	for _, e := range p.Lines {
		out = append(out, e.Words.Words)
	}
	return strings.Join(out, " ")
}

// Line distances of a paragraph, in font sizes. Lists of entries stand wider apart.
const (
	tightest = 0.95
	widest   = 1.8
)

// Paragraphs finds the paragraphs among the children of an element: texts of one line each, set alike, one under the
// other at even distances, that read on from line to line.
func Paragraphs(e *design.Element) []Paragraph {
	var out []Paragraph
	var run []*design.Element
	flush := func() {
		if p, ok := paragraph(run); ok {
			out = append(out, p)
		}
		run = nil
	}
	for _, c := range e.Children {
		if c.Hidden || c.Words == nil || len(c.Words.Lines) != 1 || c.Words.Size.Value <= 0 {
			flush()
			continue
		}
		if len(run) > 0 && !follows(run, c) {
			flush()
		}
		run = append(run, c)
	}
	flush()
	return out
}

func baselineY(e *design.Element) float64 { return e.Words.Lines[0].Baseline.Y }

// follows reports whether a text can be the next line of those before it.
func follows(run []*design.Element, c *design.Element) bool {
	last := run[len(run)-1]
	step := baselineY(c) - baselineY(last)
	size := c.Words.Size.Value
	if !alike(last, c) || step < tightest*size || step > widest*size {
		return false
	}
	if len(run) > 1 && math.Abs(step-(baselineY(last)-baselineY(run[len(run)-2]))) > 0.05 {
		return false
	}
	_, ok := edge(append(run[:len(run):len(run)], c))
	return ok
}

// alike reports whether two texts are set alike.
func alike(a, b *design.Element) bool {
	x, y := a.Words, b.Words
	if x.Family.Value != y.Family.Value || math.Abs(x.Size.Value-y.Size.Value) > 0.01 ||
		x.Weight.Value != y.Weight.Value ||
		x.Italic.Value != y.Italic.Value || math.Abs(x.Spacing.Value-y.Spacing.Value) > 0.001 ||
		len(a.Fills) != len(b.Fills) {
		return false
	}
	for i := range a.Fills {
		p, q := a.Fills[i].Value, b.Fills[i].Value
		if p.Kind != q.Kind || p.Kind == design.Solid && !p.Color.Same(q.Color) {
			return false
		}
	}
	return a.Marks.Text == "" && b.Marks.Text == "" // marked texts were told apart by a person
}

// edge is the edge that lines share.
func edge(run []*design.Element) (Align, bool) {
	start, center, end := true, true, true
	f := run[0].Geometry.Value
	for _, e := range run[1:] {
		g := e.Geometry.Value
		start = start && math.Abs(g.X-f.X) <= near
		end = end && math.Abs(g.Right()-f.Right()) <= near
		center = center && math.Abs(g.Centre().X-f.Centre().X) <= near
	}
	switch {
	case start:
		return Start, true
	case center:
		return Center, true
	case end:
		return End, true
	}
	return "", false
}

// paragraph judges by the words whether lines read on: a sentence that runs over a line's end, in lines that are full.
func paragraph(run []*design.Element) (Paragraph, bool) {
	if len(run) < 2 {
		return Paragraph{}, false
	}
	widest := 0.0
	for _, e := range run {
		widest = math.Max(widest, e.Geometry.Value.W)
	}
	reads, full := 0, 0
	for i, e := range run[:len(run)-1] {
		if e.Geometry.Value.W >= 0.7*widest {
			full++
		}
		if readsOn(e.Words.Words, run[i+1].Words.Words) {
			reads++
		}
	}
	if reads == 0 || full < (len(run)-1+1)/2 {
		return Paragraph{}, false
	}
	align, _ := edge(run)
	return Paragraph{Lines: run, LineHeight: tidy(baselineY(run[1]) - baselineY(run[0])), Align: align}, true
}

// readsOn reports whether a sentence runs from one line into the next: the next begins small, or this one ends openly.
func readsOn(a, b string) bool {
	a, b = strings.TrimSpace(a), strings.TrimSpace(b)
	if a == "" || b == "" {
		return false
	}
	if r, _ := utf8.DecodeRuneInString(b); unicode.IsLower(r) {
		return !strings.HasSuffix(a, ".") && !strings.HasSuffix(a, "!") && !strings.HasSuffix(a, "?")
	}
	return strings.HasSuffix(a, ",") || strings.HasSuffix(a, "-") && !strings.HasSuffix(a, " -")
}
