package layout

import (
	"math"
	"strings"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// Cell is a place in the arrangement of a screen: an element with what stands on it, or a row or column that only
// places show.
type Cell struct {
	Element *design.Element   // nil for a row or column that only places show
	Face    *design.Element   // the shape it lies on; nil for none
	Lines   []*design.Element // texts drawn one by one that are one paragraph
	Parts   []*design.Element // loose shapes that are one picture
	Name    string            // of the element, or of a group that holds nothing else
	Box     geom.Rect         // CSS border box on the screen, before any turn

	Cells []*Cell // one after the other, in reading order
	Over  []*Cell // the cells that lie across others, and so stand free
	Stand         // in the cell that holds it
	Flow          // of Cells

	Fade float64 // 0–1: the opacity of its face alone; 0 for that of the whole

	painted int     // its place among its siblings in the order of painting
	drift   float64 // px that it stands lower than drawn, because lengths before it were rounded
	height  float64 // px it has with lengths rounded
}

// Flow is how the cells of a cell follow each other.
type Flow struct {
	Kind    Kind       // "" for a cell that holds none
	Columns int        // of a grid
	Gap     float64    // between neighbours; of a grid, across
	RowGap  float64    // of a grid
	Nearest float64    // the least gap there is
	Padding [4]float64 // top, right, bottom, left, from the border's inner edge
	Align   Align      // across the direction
	Justify Justify    // along it
	Pads    bool       // it is as wide as its holder, and its cells stand in from its edges
	High    bool       // it is higher than what stands on it, by more than air at the end
	Least   bool       // the face's height is a least height: only words stand on it, in the middle
}

// Justify is where the cells of a row stand along it.
type Justify string

// The places, in the words of CSS.
const (
	Packed Justify = "" // at the start
	Middle Justify = "center"
	Ended  Justify = "end"
	Apart  Justify = "space-between"
)

// Stand is how a cell stands in the one that holds it.
type Stand struct {
	Self   Align     // where it is not as the others
	Before float64   // px more than the gap before it, along the direction
	Across float64   // px from the start, across the direction
	Inset  bool      // as far from the end across as Across says from the start
	Pushed bool      // takes all room left over before it
	Wide   bool      // its width is its own: neither its contents nor its place give it
	Text   Align     // where its words stand, when it is as wide as its holder
	Under  bool      // of a free one: painted under the others
	Room   geom.Rect // what it may fill
	Narrow bool      // its words break where they do because it is narrower than its room
}

// Leaf reports whether nothing stands on the cell.
func (c *Cell) Leaf() bool { return len(c.Cells) == 0 && len(c.Over) == 0 }

// Words reports whether the cell is nothing but words.
func (c *Cell) Words() bool { return c.Lines != nil || c.Element != nil && c.Element.Words != nil }

// Picture reports whether the cell can only be a picture: a bitmap, outlines, an asset.
func (c *Cell) Picture() bool {
	return c.Parts != nil || c.Leaf() && c.Element != nil && c.Element.Words == nil && Picture(c.Element)
}

// Picture reports whether an element can only be shown as a picture: an asset, a bitmap, an outline, or a group of
// outlines without words.
func Picture(e *design.Element) bool {
	switch {
	case e.Marks.Asset != "" && e.Parent != nil:
		return true
	case e.Kind == design.Image:
		return true
	case e.Line():
		return drawnLine(e)
	case e.Kind == design.Path:
		return true
	case e.Kind != design.Group:
		return false
	}
	if b := e.Background(); b != nil && len(e.Contents()) == 1 && min(b.Layout.Value.W, b.Layout.Value.H) >= 28 { // a box with a picture on it
		return false
	}
	outlined := false
	e.Walk(func(x *design.Element) { outlined = outlined || !x.Hidden && x.Kind != design.Group && Picture(x) })
	return outlined && !e.Informs()
}

// drawnLine reports whether a line is more than the border of a box can show: it has dashes, or is a short stroke with
// round ends, as in an icon.
func drawnLine(e *design.Element) bool {
	if len(e.Strokes) == 0 {
		return false
	}
	s, g := e.Strokes[0].Value, e.Geometry.Value
	return len(s.Dashes) > 0 || s.Cap == "round" && s.Width > 1 && max(g.W, g.H) < 24
}

// EvenMiddles reports whether the middles of a row's cells are evenly apart, where the gaps between them are not.
func (c *Cell) EvenMiddles() bool {
	if c.Kind != Row || len(c.Cells) < 3 {
		return false
	}
	step := func(i int) float64 { return c.Cells[i].Box.Centre().X - c.Cells[i-1].Box.Centre().X }
	gap := func(i int) float64 { return c.Cells[i].Box.X - c.Cells[i-1].Box.Right() }
	uneven := false
	for i := 2; i < len(c.Cells); i++ {
		if math.Abs(step(i)-step(1)) > near {
			return false
		}
		uneven = uneven || math.Abs(gap(i)-gap(1)) > near
	}
	return uneven
}

// firm reports whether the sides of a cell are where the drawing has them, and not where its words happen to end.
func (c *Cell) firm() (left, right bool) {
	switch {
	case c.Face != nil || c.Pads || c.Picture():
		return true, true
	case c.Words():
		switch c.align() {
		case Center:
			return false, false
		case End:
			return false, true
		}
		return true, false
	case c.Leaf():
		return true, true
	}
	for _, k := range c.Cells {
		l, r := k.firm()
		left = left || l && k.Box.X <= c.Box.X+near
		right = right || r && k.Box.Right() >= c.Box.Right()-near
	}
	return left, right
}

// align is how the words of a cell are aligned.
func (c *Cell) align() Align {
	if c.Lines != nil {
		if p, ok := paragraph(c.Lines); ok {
			return p.Align
		}
		return Start
	}
	switch c.Element.Words.Align.Value {
	case "center":
		return Center
	case "right":
		return End
	}
	return Start
}

// Center reports whether the words of a cell are set about their middle.
func (c *Cell) Center() bool { return c.align() == Center }

// boxOf is the CSS border box of an element before any turn: where a turned one would stand, its middle the same.
func (a *arranger) boxOf(e *design.Element) geom.Rect {
	switch {
	case e.Words != nil:
		return a.textBox(e)
	case Picture(e):
		return e.Frame()
	case e.Line():
		return e.Painted.Value
	}
	if e.Kind == design.Group {
		return e.BorderBox()
	}
	own, turn := e.UnturnedBorder()
	if turn == 0 {
		return own
	}
	at := e.Geometry.Value.Centre()
	return geom.Rect{X: at.X - own.W/2, Y: at.Y - own.H/2, W: own.W, H: own.H}
}

// textBox is the box that CSS gives a text: its lines, each as high as the line height, with the letters in their
// middle.
func (a *arranger) textBox(e *design.Element) geom.Rect {
	w, box := e.Words, e.Geometry.Value
	if len(w.Lines) == 0 {
		return box
	}
	n := float64(len(w.Lines))
	up, cell := glyphCell(w)
	if cell == 0 {
		up, cell = w.Lines[0].Baseline.Y-box.Y, box.H
		if n > 1 {
			cell -= w.Lines[len(w.Lines)-1].Baseline.Y - w.Lines[0].Baseline.Y
		}
	}
	height := lineBox(w, cell)
	if own := a.lineHeight(e); own > 0 && n == 1 && !w.LineHeight.Set {
		height = own
	}
	air := math.Floor((height - cell) / 2)
	if e.Matrix.Upright() {
		box.Y, box.H = w.Lines[0].Baseline.Y-up-air, n*height
		return box
	}
	box = geom.Rect{W: longest(w), H: n * height} // about the middle it has when it is turned
	middle := geom.Rotate(e.Matrix.Rotation()).Apply(geom.Point{X: box.W / 2, Y: box.H/2 - up - air}).Add(w.Lines[0].Baseline)
	return box.Move(middle.X-box.W/2, middle.Y-box.H/2)
}

// longest is the width of the longest line, in px.
func longest(w *design.TextFacts) float64 {
	most := 0.0
	for _, l := range w.Lines {
		most = max(most, l.Width)
	}
	return most
}

// glyphCell is how far the cells of letters reach above the baseline, and how high they are, in px as browsers round
// them; 0 where the font's measures are not known.
func glyphCell(w *design.TextFacts) (up, height float64) {
	up = math.Round(w.Ascent * w.Size.Value)
	return up, up + math.Round(w.Descent*w.Size.Value)
}

// LetterTop is where the cells of a text's first line begin in a browser, in px of the screen.
func LetterTop(e *design.Element) float64 {
	if up, _ := glyphCell(e.Words); up > 0 && len(e.Words.Lines) > 0 {
		return e.Words.Lines[0].Baseline.Y - up
	}
	return e.Geometry.Value.Y
}

// lineBox is the height of one line in CSS: the line height stated, else the font's own; cell is the height of a line of
// glyph cells.
func lineBox(w *design.TextFacts, cell float64) float64 {
	if w.LineHeight.Set {
		return w.LineHeight.Value
	}
	if gap := math.Round(w.Normal*w.Size.Value - cell); gap >= 1 {
		return cell + gap
	}
	return cell
}

// TextLines are the lines of a cell of words.
func (c *Cell) TextLines() (lines []design.Line) {
	if c.Lines == nil {
		return c.Element.Words.Lines
	}
	for _, e := range c.Lines {
		lines = append(lines, e.Words.Lines...)
	}
	return lines
}

// Breaks reports whether a line of words ends where it does because the next word has no room in a width, in px. That
// word is reckoned to be as wide as its share of letters.
func Breaks(line design.Line, next string, width float64) bool {
	word, _, _ := strings.Cut(next, " ")
	each := line.Width / float64(max(1, len([]rune(line.Words))))
	return line.Width+each*float64(1+len([]rune(word))) > width
}

// wraps reports whether all lines of words break where they do in a width, in px.
func (c *Cell) wraps(width float64) bool {
	lines := c.TextLines()
	for i := 1; i < len(lines); i++ { // words that cannot be seen have no lines
		if l := lines[i-1]; l.Width > width+0.5 || !Breaks(l, lines[i].Words, width) {
			return false
		}
	}
	return true
}
