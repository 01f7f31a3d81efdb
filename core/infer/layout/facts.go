package layout

import (
	"fmt"
	"strconv"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
)

// Finder tells the facts of elements, and remembers what it found out about the groups they are in.
type Finder struct {
	paragraphs map[*design.Element]map[*design.Element]place
	instances  map[*design.Document]map[string][]*design.Element // by component
}

// place is where a text stands in a paragraph.
type place struct {
	p    Paragraph
	line int
}

// Facts are all that is known of an element: what it says itself and what its place among others says, in reading
// order.
func (f *Finder) Facts(e *design.Element) []design.FactLine {
	own := e.Facts()
	at := 0
	for at < len(own) && own[at].Section == "box" {
		at++
	}
	placed := append(placeFacts(e), f.flexFacts(e)...)
	text := f.textFacts(e)
	out := make([]design.FactLine, 0, len(own)+len(placed)+len(text))
	out = append(append(append(out, own[:at]...), placed...), own[at:]...)
	if len(text) == 0 {
		return out
	}
	end := len(out) // behind the text section, or before the code
	for end > 0 && out[end-1].Section == "code" {
		end--
	}
	return append(append(append([]design.FactLine(nil), out[:end]...), text...), out[end:]...)
}

func derived(section, name, value, from string) design.FactLine {
	return design.FactLine{Section: section, Name: name, Value: value, Origin: design.Derived, From: from}
}

// placeFacts say how the contents of a group stand.
func placeFacts(e *design.Element) []design.FactLine {
	l, ok := Of(e)
	if !ok {
		return nil
	}
	var out []design.FactLine
	add := func(name, value, from string) { out = append(out, derived("layout", name, value, from)) }
	switch l.Kind {
	case Grid:
		add("display", "grid", fmt.Sprintf("%d items stand in rows of %d", len(l.Items), l.Columns))
		add("grid-template-columns", "repeat("+strconv.Itoa(l.Columns)+", auto)", "lefts of the items")
		add("row-gap", GapText(l.RowGaps), gapFrom(l.RowGaps))
		add("column-gap", GapText(l.ColumnGaps), gapFrom(l.ColumnGaps))
	case Row, Column:
		add("display", "flex", fmt.Sprintf("%d items stand in a %s", len(l.Items), l.Kind))
		add("flex-direction", string(l.Kind), "places of the items")
		if step, even := l.EvenMiddles(); even {
			add("middles", css.Px(step)+" apart", "even, where the gaps between items of unlike sizes are not")
		} else {
			add("gap", GapText(l.Gaps), gapFrom(l.Gaps))
		}
		add("align-items", string(l.Align), alignFrom(l))
	}
	if l.Contained {
		add("padding", css.Sides(l.Padding), "from the background, inside its border, to its contents")
	}
	return out
}

func alignFrom(l Layout) string {
	if l.Align == Stretch {
		return "all are as " + map[Kind]string{Row: "tall", Column: "wide"}[l.Kind]
	}
	return "edges of the items"
}

// GapText is one gap where all are even, else each of them.
func GapText(gaps []float64) string {
	if g, ok := Even(gaps); ok {
		return css.Px(g)
	}
	var out []string
	for _, g := range gaps {
		out = append(out, css.Px(g))
	}
	return strings.Join(out, ", ")
}

func gapFrom(gaps []float64) string {
	switch _, ok := Even(gaps); {
	case !ok:
		return "uneven: each as it is"
	case len(gaps) == 1:
		return "between the two"
	}
	return fmt.Sprintf("%d even gaps", len(gaps))
}

// textFacts say which lines are one paragraph, and where outlines were words.
func (f *Finder) textFacts(e *design.Element) []design.FactLine {
	var out []design.FactLine
	if n, ok := Outlined(e); ok {
		out = append(out, derived("text", "outlines", fmt.Sprintf("words turned into outlines, %d parts", n),
			"parts stand on one line like letters"))
	}
	for _, p := range Paragraphs(e) {
		out = append(out, derived("text", "paragraph", strconv.Quote(p.Words()), fmt.Sprintf("%d lines, line-height %s, %s",
			len(p.Lines), css.Px(p.LineHeight), p.Align)))
	}
	if e.Words == nil || e.Parent == nil {
		return out
	}
	if at, ok := f.lines(e.Parent)[e]; ok {
		out = append(out, derived("text", "paragraph", fmt.Sprintf("line %d of %d", at.line, len(at.p.Lines)),
			"even lines that read on"))
		if !e.Words.LineHeight.Set {
			out = append(out, derived("text", "line-height", css.Px(at.p.LineHeight), "distance of the paragraph's baselines"))
		}
	}
	return out
}

// lines are the children of an element that are lines of a paragraph.
func (f *Finder) lines(e *design.Element) map[*design.Element]place {
	known, ok := f.paragraphs[e]
	if ok {
		return known
	}
	known = map[*design.Element]place{}
	for _, p := range Paragraphs(e) {
		for i, line := range p.Lines {
			known[line] = place{p, i + 1}
		}
	}
	if f.paragraphs == nil {
		f.paragraphs = map[*design.Element]map[*design.Element]place{}
	}
	f.paragraphs[e] = known
	return known
}
