package code

import (
	"math"
	"slices"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/infer/layout"
	"archetyp/core/infer/role"
)

// Table is rows of the same columns.
type Table struct {
	Columns []Column
	Rows    []TableRow
	Head    bool // the first row says what the columns are
	Box     geom.Rect
}

// Column is a column of a table.
type Column struct {
	Width float64 // px
	Align layout.Align
}

// TableRow is a row of a table.
type TableRow struct {
	Node   *Node // of the row, where it is one thing; nil otherwise
	Cells  []*Node
	Rule   *Node // the line above it; nil for none
	Top    float64
	Height float64 // px
	Shift  float64 // px that its words stand below the middle
}

// table makes rows of the same columns a table: at least three, two columns, at even distances.
func (b *builder) table(n *Node) {
	if n.Cell.Kind != layout.Column || len(n.Over) > 0 || n.Role == role.List || n.Role == role.Navigation {
		return
	}
	t := &Table{Box: n.Cell.Box}
	if n.Cell.Face != nil || !t.collect(n.Nodes) || len(t.Rows) < 3 || !t.columns() || !t.heights() {
		return
	}
	t.Head = t.headed()
	n.Role, n.Table = role.Table, t
}

// collect takes rows, and the lines between them.
func (t *Table) collect(nodes []*Node) bool {
	var rule *Node
	for _, k := range nodes {
		c := k.Cell
		switch {
		case isRule(k):
			if rule != nil {
				return false
			}
			rule = k
		case c.Kind == layout.Row && len(k.Over) == 0:
			t.Rows = append(t.Rows, TableRow{Node: k, Cells: k.Nodes, Rule: rule})
			rule = nil
		case c.Kind == layout.Column && c.Face == nil && len(k.Over) == 0 && rule == nil && len(k.Nodes) <= 2:
			if !t.collect(k.Nodes) {
				return false
			}
		default:
			return false
		}
	}
	return true
}

func isRule(n *Node) bool {
	c := n.Cell
	return c.Leaf() && !c.Words() && n.Picture == nil && c.Box.H <= 2 && c.Box.W >= 24
}

// columns finds where the columns begin and end, and how what stands in them is aligned.
func (t *Table) columns() bool {
	n := len(t.Rows[0].Cells)
	if n < 2 {
		return false
	}
	from, to := make([]float64, n), make([]float64, n)
	aligns := make([]layout.Align, n)
	for i := range n {
		from[i], to[i] = math.Inf(1), math.Inf(-1)
		left, right, middle := true, true, true
		first := t.Rows[0].Cells[i].Cell.Box
		for _, r := range t.Rows {
			if len(r.Cells) != n || r.Cells[i].Cell.Box.H > 48 || r.Cells[i].Role == role.Button {
				return false
			}
			b := r.Cells[i].Cell.Box
			left = left && math.Abs(b.X-first.X) <= 1
			right = right && math.Abs(b.Right()-first.Right()) <= 1
			middle = middle && math.Abs(b.Centre().X-first.Centre().X) <= 1
			from[i], to[i] = min(from[i], b.X), max(to[i], b.Right())
		}
		switch {
		case left:
			aligns[i] = layout.Start
		case right:
			aligns[i] = layout.End
		case middle:
			aligns[i] = layout.Center
		default:
			return false
		}
	}
	edge := t.Box.X
	for i := range n {
		next := t.Box.Right()
		if i+1 < n {
			if next = from[i+1]; next < to[i] {
				return false
			}
			if aligns[i+1] != layout.Start && aligns[i] == layout.Start { // words may grow to the left
				next = (to[i] + from[i+1]) / 2
			}
			if aligns[i] == layout.End {
				next = to[i]
			}
		}
		t.Columns = append(t.Columns, Column{next - edge, aligns[i]})
		edge = next
	}
	return true
}

// inset is how far the words of a column stand from its edges in a row, in px.
func (t *Table) inset(i int) (left, right float64) {
	x := t.Box.X
	for _, c := range t.Columns[:i] {
		x += c.Width
	}
	from, to := math.Inf(1), math.Inf(-1)
	for _, r := range t.Rows {
		b := r.Cells[i].Cell.Box
		from, to = min(from, b.X), max(to, b.Right())
	}
	switch t.Columns[i].Align {
	case layout.End:
		return 0, design.Tidy(max(0, x+t.Columns[i].Width-to))
	case layout.Start:
		return design.Tidy(max(0, from-x)), 0
	}
	mid := from + (to-from)/2 - x
	return design.Tidy(max(0, 2*mid-t.Columns[i].Width)), design.Tidy(max(0, t.Columns[i].Width-2*mid))
}

// heights finds how high the rows are: from line to line, else from words to words. All but a first row, which may
// be a header, must be of one height.
func (t *Table) heights() bool {
	for i := range t.Rows {
		r := &t.Rows[i]
		var words geom.Rect
		for _, c := range r.Cells {
			words = words.Union(c.Cell.Box)
		}
		r.Top = words.Y
		if r.Node.Cell.Face != nil {
			r.Top = r.Node.Cell.Box.Y
		}
		if r.Rule != nil {
			r.Top = r.Rule.Cell.Box.Y
		}
	}
	for i := range t.Rows {
		r := &t.Rows[i]
		r.Height = t.Box.Bottom() - r.Top
		if i+1 < len(t.Rows) {
			r.Height = t.Rows[i+1].Top - r.Top
		} else if i > 0 && r.Node.Cell.Face == nil && r.Rule == nil {
			r.Height = max(r.Height, 0)
		} else if i > 1 {
			r.Height = t.Rows[i-1].Height
		}
		line := 0.0
		if r.Rule != nil {
			line = r.Rule.Cell.Box.H
		}
		r.Shift = r.Cells[0].Cell.Box.Centre().Y - (r.Top+line+r.Top+r.Height)/2
	}
	body := t.Rows[1:]
	for i, r := range body {
		last := i == len(body)-1
		if math.Abs(r.Height-body[0].Height) > 1 && !last || math.Abs(r.Shift-body[0].Shift) > 1 && !last {
			return false
		}
	}
	return true
}

// headed reports whether the words of the first row are set differently from those of the other rows.
func (t *Table) headed() bool {
	set := func(n *Node) string {
		if !n.Cell.Words() {
			return ""
		}
		e := n.Cell.Element
		look := css.Px(e.Words.Size.Value) + css.Num(float64(e.Words.Weight.Value), 0)
		for _, f := range e.Fills {
			if f.Value.Kind == design.Solid {
				look += f.Value.Color.CSS()
			}
		}
		return look
	}
	head := set(t.Rows[0].Cells[0])
	return head != "" && !slices.ContainsFunc(t.Rows[1:], func(r TableRow) bool { return set(r.Cells[0]) == head })
}

// tableTag is the HTML of a table.
func (p *pager) tableTag(t *Tag, n *Node, base string) {
	table := n.Table
	group := &Tag{Name: "tbody"}
	if table.Head {
		head := &Tag{Name: "thead", Kids: []*Tag{p.tableRow(n, 0, "th", base)}}
		t.Kids = append(t.Kids, head)
	}
	for i := range table.Rows {
		if i > 0 || !table.Head {
			group.Kids = append(group.Kids, p.tableRow(n, i, "td", base))
		}
	}
	t.Kids = append(t.Kids, group)
}

// tableRow is the HTML of a row. The first row gives the columns their widths, in shares of the whole.
func (p *pager) tableRow(n *Node, at int, tag, base string) *Tag {
	table := n.Table
	row := table.Rows[at]
	w := p.s.w
	tr := &Tag{Name: "tr", node: row.Node}
	var look Block
	if row.Node.Cell.Face != nil {
		p.s.paint(&look, row.Node)
	}
	w.put(&look, "height", css.Px(design.Tidy(row.Height)), "")
	tr.Classes = p.class(row.Node, base+"-row", "tr", look)
	for i, k := range row.Cells {
		cell := &Tag{Name: tag}
		if tag == "th" {
			cell.Attrs = []Attr{{"scope", "col"}}
		}
		var b Block
		if at == 0 && i < len(row.Cells)-1 { // the last has what is left
			w.put(&b, "width", css.Num(100*table.Columns[i].Width/table.Box.W, 3)+"%", "")
		}
		left, right := table.inset(i)
		shift := [2]float64{}
		if s := design.Tidy(row.Shift); s >= 0.5 {
			shift[0] = 2 * s
		} else if s <= -0.5 {
			shift[1] = -2 * s
		}
		if pad := [4]float64{shift[0], right, shift[1], left}; pad != [4]float64{} {
			w.put(&b, "padding", css.Sides(pad), "")
		}
		if a := table.Columns[i].Align; a != layout.Start {
			w.put(&b, "text-align", string(a), "")
		}
		if r := row.Rule; r != nil {
			p.s.ruleAbove(&b, r)
		}
		if k.Cell.Words() {
			p.s.text(&b, k, p.s.base)
			cell.node = k
			p.spans(cell, k, base)
		} else {
			cell.Kids = []*Tag{p.tag(k, row.Node, base)}
		}
		name := base + "-cell"
		if tag == "th" {
			name = base + "-head"
		}
		cell.Classes = p.class(k, name, tag, b)
		tr.Kids = append(tr.Kids, cell)
	}
	return tr
}

// ruleAbove writes a line as the border above a cell.
func (s *styles) ruleAbove(b *Block, rule *Node) {
	e := rule.Cell.Element
	var l Block
	if e.Line() {
		s.line(&l, e)
	} else {
		s.w.of = e
		s.w.paint(&l, e)
	}
	for _, d := range l.Declarations {
		switch d.Prop {
		case "background":
			s.w.put(b, "border-top", css.Px(rule.Cell.Box.H)+" solid "+d.Value, "")
		case "border-top":
			s.w.put(b, "border-top", d.Value, "")
		}
	}
}
