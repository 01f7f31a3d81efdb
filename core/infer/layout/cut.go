package layout

import (
	"cmp"
	"math"
	"slices"
)

// axis is a direction in which cells follow each other, and where they begin and end along it: letters do not fill
// the height of their lines.
type axis struct {
	from, to func(*Cell) float64
}

var (
	acrossward = axis{func(c *Cell) float64 { return c.Box.X }, func(c *Cell) float64 { return c.Box.Right() }}
	downward   = axis{func(c *Cell) float64 { return c.ink().Y }, func(c *Cell) float64 { return c.ink().Bottom() }}
)

// cut finds the rows and columns of everything a cell holds, however deep: it parts cells where a straight line runs
// between them, and sets free what lies across others.
func (c *Cell) cut() {
	for i, k := range c.Cells {
		k.painted = i
		k.cut()
	}
	for _, k := range c.Over {
		k.cut()
	}
	if len(c.Cells) == 0 {
		return
	}
	inner, over := cutAll(c.Cells)
	c.Over = append(c.Over, over...)
	if inner.Element == nil && len(inner.Cells) > 0 {
		c.Cells, c.Kind = inner.Cells, inner.Kind
		c.Over = append(c.Over, inner.Over...)
		c.Columns = inner.Columns
	} else {
		c.Cells, c.Kind = []*Cell{inner}, Single
	}
}

// cutAll arranges cells as one: a row, a column, a grid, or the one there is. over are those that stand free.
func cutAll(cells []*Cell) (whole *Cell, over []*Cell) {
	for len(cells) > 1 {
		if parts, kind := parted(cells); kind != "" {
			whole = &Cell{Stand: Stand{}, Flow: Flow{Kind: kind}}
			for _, part := range parts {
				k, free := cutAll(part)
				over = append(over, free...)
				whole.Cells = append(whole.Cells, k)
			}
			whole.fit()
			whole.grid()
			return whole, over
		}
		i := across(cells)
		over = append(over, cells[i])
		cells = slices.Delete(slices.Clone(cells), i, i+1)
	}
	return cells[0], over
}

// parted cuts cells into the rows or columns that straight lines between them make; where both are possible, into those
// that stand clearly further apart, and into rows where neither do.
func parted(cells []*Cell) ([][]*Cell, Kind) {
	if rows := ruled(cells); rows != nil {
		return rows, Column
	}
	rows, rowGaps := split(cells, downward)
	columns, columnGaps := split(cells, acrossward)
	switch {
	case len(rows) > 1 && len(columns) > 1:
		if slices.Min(columnGaps) > 1.5*slices.Max(rowGaps) && !matrix(rows, len(columns)) {
			return columns, Row
		}
		return rows, Column
	case len(rows) > 1:
		return rows, Column
	case len(columns) > 1:
		return columns, Row
	}
	return nil, ""
}

// matrix reports whether bands are rows of words in the same columns, at least three, each set as that above it; the
// first may be a header.
func matrix(rows [][]*Cell, columns int) bool {
	if len(rows) < 3 || columns < 2 {
		return false
	}
	set := func(c *Cell) [2]float64 {
		return [2]float64{c.Element.Words.Size.Value, float64(c.Element.Words.Weight.Value)}
	}
	for i, r := range rows {
		if len(r) != columns {
			return false
		}
		slices.SortStableFunc(r, func(a, b *Cell) int { return cmp.Compare(a.Box.X, b.Box.X) })
		for k, c := range r {
			if !c.Words() || c.Lines != nil || i > 1 && set(c) != set(rows[1][k]) {
				return false
			}
		}
	}
	return true
}

// ruled is cells in what stands above, between and below the lines that run through all of them; nil where none does.
func ruled(cells []*Cell) [][]*Cell {
	whole := union(cells)
	isRule := func(c *Cell) bool { return c.Leaf() && !c.Words() && c.Box.H <= 2 && c.Box.W > 0.8*whole.W }
	bands, _ := split(cells, downward)
	if len(bands) < 2 || !slices.ContainsFunc(bands, func(b []*Cell) bool { return len(b) == 1 && isRule(b[0]) }) {
		return nil
	}
	var out [][]*Cell
	after := true // a rule, or the beginning
	for _, b := range bands {
		if rule := len(b) == 1 && isRule(b[0]); rule || after {
			out = append(out, b)
			after = rule
		} else {
			out[len(out)-1] = append(out[len(out)-1], b...)
		}
	}
	return out
}

// split is cells in the bands that straight lines across an axis part them into, and the gaps between these.
func split(cells []*Cell, a axis) (bands [][]*Cell, gaps []float64) {
	list := slices.Clone(cells)
	slices.SortStableFunc(list, func(x, y *Cell) int { return cmp.Compare(a.from(x), a.from(y)) })
	end := math.Inf(-1)
	for _, c := range list {
		if len(bands) == 0 || a.from(c) < end-near {
			if len(bands) == 0 {
				bands = append(bands, nil)
			}
		} else {
			bands = append(bands, nil)
			gaps = append(gaps, max(0, a.from(c)-end))
		}
		bands[len(bands)-1] = append(bands[len(bands)-1], c)
		end = max(end, a.to(c))
	}
	return bands, gaps
}

// across is the cell to set free of those that no line parts: the smallest that lies across another, shapes and pictures
// before words. One that others are painted over lies under them.
func across(cells []*Cell) int {
	best, least := -1, math.Inf(1)
	for i, c := range cells {
		hit, over := false, 0
		for k, o := range cells {
			if k != i && overlap(c, o) {
				hit = true
				if o.painted < c.painted {
					over++
				}
			}
		}
		if !hit {
			continue
		}
		size := c.Box.W * c.Box.H
		if c.Words() || !c.Leaf() {
			size += 1e7
		}
		if size < least {
			best, least = i, size
			c.Under = over == 0
		}
	}
	if best < 0 { // only nearly: the last one
		best = len(cells) - 1
	}
	return best
}

// grid makes one grid of rows below each other that have the same columns; the last may be shorter.
func (c *Cell) grid() {
	if c.Kind != Column {
		return
	}
	var out []*Cell
	for at := 0; at < len(c.Cells); {
		n := c.sameColumns(at)
		if n < 2 {
			out = append(out, c.Cells[at])
			at++
			continue
		}
		g := &Cell{Flow: Flow{Kind: Grid, Columns: len(c.Cells[at].Cells)}}
		for _, r := range c.Cells[at : at+n] {
			g.Cells = append(g.Cells, r.abreast()...)
		}
		g.fit()
		out = append(out, g)
		at += n
	}
	if len(out) == 1 && out[0].Element == nil && out[0].Kind == Grid {
		c.Cells, c.Kind, c.Columns = out[0].Cells, Grid, out[0].Columns
		return
	}
	c.Cells = out
}

// sameColumns is how many rows from one on have the columns of that one.
func (c *Cell) sameColumns(at int) int {
	first := c.Cells[at]
	if first.Element != nil || first.Kind != Row || len(first.Cells) < 2 || len(first.Over) > 0 || !alikeCells(first.Cells) {
		return 1
	}
	n := 1
	for _, r := range c.Cells[at+1:] {
		cells := r.abreast()
		if cells == nil || len(cells) > len(first.Cells) {
			break
		}
		for k, x := range cells {
			if math.Abs(x.Box.X-first.Cells[k].Box.X) > near || math.Abs(x.Box.W-first.Cells[k].Box.W) > near || x.Words() {
				return n
			}
		}
		n++
		if len(cells) < len(first.Cells) { // the last
			break
		}
	}
	return n
}

// abreast is what stands beside each other in a row that only places show, or the one thing there is.
func (c *Cell) abreast() []*Cell {
	switch {
	case c.Element != nil:
		return []*Cell{c}
	case c.Kind == Row && len(c.Over) == 0:
		return c.Cells
	}
	return nil
}

// alikeCells reports whether cells are boxes or pictures of one width.
func alikeCells(cells []*Cell) bool {
	for _, c := range cells {
		if c.Face == nil && (!c.Leaf() || c.Words()) || math.Abs(c.Box.W-cells[0].Box.W) > near {
			return false
		}
	}
	return true
}
