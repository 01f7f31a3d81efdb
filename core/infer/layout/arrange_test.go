package layout_test

import (
	"fmt"
	"strings"
	"testing"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/infer/layout"
	"archetyp/core/read/svg"
)

// arranged is the arrangement of the whole of a drawing of 400 × 300 px, settled.
func arranged(t testing.TB, content string) *layout.Cell {
	t.Helper()
	d, err := svg.Read("t.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="400" height="300">`+content+`</svg>`), svg.Options{})
	if err != nil {
		t.Fatal(err)
	}
	c := layout.Arrange(d.Screens[0].Root, nil)
	c.Settle()
	return c
}

// shape is a cell in short: its name or kind, and in brackets what it holds; what stands free follows a plus.
func shape(c *layout.Cell) string {
	name := c.Name
	if name == "" && c.Element != nil && c.Element.Parent != nil {
		name = string(c.Element.Kind)
	}
	if c.Parts != nil {
		name = fmt.Sprintf("%d parts", len(c.Parts))
	}
	if c.Leaf() {
		return name
	}
	var list []string
	for _, k := range c.Cells {
		list = append(list, shape(k))
	}
	s := name + string(c.Kind) + "(" + strings.Join(list, " ") + ")"
	if name != "" {
		s = name + ":" + string(c.Kind) + "(" + strings.Join(list, " ") + ")"
	}
	for _, k := range c.Over {
		if k.Under {
			s += "-" + shape(k)
			continue
		}
		s += "+" + shape(k)
	}
	return s
}

// box is a rectangle with a name.
func box(name string, x, y, w, h int) string {
	return fmt.Sprintf(`<rect data-label="%s" x="%d" y="%d" width="%d" height="%d" fill="#abc"/>`, name, x, y, w, h)
}

// TestArrange holds what stands on what and follows what, whether the drawing has groups for it or not.
func TestArrange(t *testing.T) {
	for _, c := range []struct{ name, content, want string }{
		{"a column", box("a", 0, 0, 100, 20) + box("b", 0, 40, 100, 20), "column(a b)"},
		{"a row", box("a", 0, 0, 100, 20) + box("b", 120, 0, 100, 20), "row(a b)"},
		{"in reading order", box("b", 120, 0, 100, 20) + box("a", 0, 0, 100, 20), "row(a b)"},
		{"rows of a column", box("a", 0, 0, 50, 20) + box("b", 80, 0, 90, 20) + box("c", 0, 60, 170, 20), "column(row(a b) c)"},
		{"a grid", box("a", 0, 0, 80, 20) + box("b", 100, 0, 80, 20) + box("c", 0, 40, 80, 20) + box("d", 100, 40, 80, 20), "grid(a b c d)"},
		{"a grid whose last row is short", box("a", 0, 0, 80, 20) + box("b", 100, 0, 80, 20) + box("c", 0, 40, 80, 20), "grid(a b c)"},
		{"a grid below something", box("top", 0, 0, 180, 20) + box("a", 0, 40, 80, 20) + box("b", 100, 40, 80, 20) + box("c", 0, 80, 80, 20) + box("d", 100, 80, 80, 20),
			"column(top grid(a b c d))"},
		{"what stands on a box", box("card", 10, 10, 200, 100) + box("a", 20, 20, 50, 20) + box("b", 20, 60, 50, 20), "single(card:column(a b))"},
		{"grounds before all they carry", box("one", 10, 10, 100, 100) + box("two", 130, 10, 100, 100) + box("a", 20, 20, 50, 20) + box("b", 140, 20, 50, 20),
			"grid(one:single(a) two:single(b))"},
		{"a box in a box in a box", box("a", 0, 0, 200, 200) + box("b", 10, 10, 150, 150) + box("c", 20, 20, 50, 50), "single(a:single(b:single(c)))"},
		{"groups that only wrap", `<g><g>` + box("a", 0, 0, 50, 20) + `</g><g>` + box("b", 0, 40, 50, 20) + `</g></g>`, "column(a b)"},
		{"a group that lies across others is none", `<g data-label="grounds">` + box("one", 0, 0, 100, 50) + box("two", 0, 100, 100, 50) + `</g><g data-label="things">` + box("a", 10, 10, 20, 20) + box("b", 10, 110, 20, 20) + `</g>`,
			"column(one:single(a) two:single(b))"},
		{"a group that means something stays", `<g data-label="bar" data-component="bar">` + box("a", 0, 0, 50, 20) + `</g>` + box("b", 0, 40, 50, 20), "column(bar b)"},
		{"loose shapes are one picture", `<path d="M0 0L20 0L10 20z"/><path d="M5 5L25 5L15 25z"/>` + box("a", 0, 60, 50, 20), "column(2 parts a)"},
		{"a drawing is a picture", `<g data-label="icon"><circle cx="10" cy="10" r="10"/><path d="M5 5C9 9 9 14 15 15"/></g>` + box("a", 0, 60, 50, 20), "column(icon a)"},
		{"a badge over a corner stands free", box("card", 0, 20, 200, 100) + box("badge", 180, 10, 40, 20), "single(card)+badge"},
		{"painted last, above what it lies across", box("low", 0, 80, 200, 40) + box("last", 100, 60, 30, 30) + box("top", 0, 0, 200, 20), "column(top low)+last"},
		{"painted first, below it", box("first", 100, 60, 30, 30) + box("low", 0, 80, 200, 40) + box("top", 0, 0, 200, 20), "column(top low)-first"},
		{"hidden and outside", box("a", 0, 0, 50, 20) + box("off", 500, 0, 50, 20) + `<rect data-label="no" width="9" height="9" display="none"/>`, "single(a)"},
		{"a line parts rows", box("a", 0, 0, 40, 20) + box("b", 200, 0, 40, 20) + box("line", 0, 30, 240, 1) + box("c", 0, 40, 40, 20) + box("d", 200, 40, 40, 20),
			"column(row(a b) line row(c d))"},
		{"columns that stand clearly apart", box("a", 0, 0, 40, 20) + box("b", 0, 24, 40, 20) + box("c", 200, 0, 40, 20) + box("d", 200, 24, 60, 20),
			"row(column(a b) column(c d))"},
		{"the ground of all", box("page", 0, 0, 400, 300) + box("a", 20, 20, 50, 20), "single(a)"},
	} {
		if got := shape(arranged(t, c.content)); got != c.want {
			t.Errorf("%s: %s, want %s", c.name, got, c.want)
		}
	}
}

// find is the cell of a name.
func find(c *layout.Cell, name string) *layout.Cell {
	if c.Name == name {
		return c
	}
	for _, k := range append(append([]*layout.Cell(nil), c.Cells...), c.Over...) {
		if f := find(k, name); f != nil {
			return f
		}
	}
	return nil
}

// stands is how a cell and its contents stand, in the words of CSS.
func stands(c *layout.Cell) string {
	var s []string
	say := func(ok bool, text string) {
		if ok {
			s = append(s, text)
		}
	}
	say(c.Gap != 0, "gap "+css.Px(c.Gap))
	say(c.RowGap != 0, "row-gap "+css.Px(c.RowGap))
	say(c.Padding != [4]float64{}, "padding "+css.Sides(c.Padding))
	say(c.Kind == layout.Row && c.Align != layout.Stretch, "align "+string(c.Align))
	say(c.Justify != "", "justify "+string(c.Justify))
	say(c.Least, "in the middle")
	say(c.Self != "", "self "+string(c.Self))
	say(c.Before != 0, "before "+css.Px(c.Before))
	say(c.Across != 0, "across "+css.Px(c.Across))
	say(c.Inset, "inset")
	say(c.Pushed, "pushed")
	say(c.Wide, "wide")
	say(c.Text != "", "text "+string(c.Text))
	say(c.Narrow, "narrow")
	return strings.Join(s, ", ")
}

// TestSettle holds gaps, insets and alignments.
func TestSettle(t *testing.T) {
	card := func(inside string) string { return box("card", 0, 0, 200, 100) + inside }
	for _, c := range []struct{ name, content, of, want string }{
		{"insets of a column", card(box("a", 16, 8, 168, 30) + box("b", 16, 50, 168, 42)), "card", "gap 12px, padding 8px 16px, self start, wide"},
		{"insets of a row", card(box("a", 16, 8, 80, 84) + box("b", 104, 8, 80, 84)), "card", "gap 8px, padding 8px 16px, self start, wide"},
		{"words have no firm end", card(`<text x="16" y="40" font-size="14">One</text><text x="16" y="70" font-size="14">Another</text>`), "card", "gap 14px, padding 27px 16px, self start, wide"},
		{"things in the middle of a row", card(box("a", 16, 8, 40, 84) + box("b", 64, 40, 40, 20)), "card", "gap 8px, padding 8px 16px, align center, self start, wide"},
		{"two at the ends", card(box("a", 16, 40, 20, 20) + box("b", 164, 40, 20, 20)), "card", "padding 40px 16px, justify space-between, self start, wide"},
		{"the last is pushed", card(box("a", 16, 40, 20, 20) + box("b", 44, 40, 20, 20) + box("c", 164, 40, 20, 20)), "c", "pushed, wide"},
		{"one in the middle", card(box("a", 90, 40, 20, 20)), "card", "in the middle, self start, wide"},
		{"words in the middle", card(`<text data-label="a" x="100" y="55" font-size="16" text-anchor="middle">Pay</text>`), "a", "before -1px, text center"},
		{"narrower than its holder", card(box("a", 16, 8, 168, 20) + box("b", 16, 50, 60, 20)), "b", "self start, wide"},
		{"at the end", card(box("a", 16, 8, 168, 20) + box("b", 124, 50, 60, 20)), "b", "self end, wide"},
		{"inset on both sides", card(box("a", 0, 8, 200, 20) + box("b", 20, 50, 160, 20)), "b", "self center, wide"},
		{"gaps that differ", card(box("a", 16, 8, 168, 10) + box("b", 16, 22, 168, 10) + box("c", 16, 40, 168, 10)), "c", "before 8px"},
		{"the usual gap, and one that is larger", card(box("a", 16, 8, 168, 10) + box("b", 16, 22, 168, 10) + box("c", 16, 36, 168, 10) + box("d", 16, 60, 168, 10)), "d", "before 10px"},
		{"room below is no inset", box("bar", 0, 0, 100, 300) + box("a", 16, 16, 68, 20) + box("b", 16, 52, 68, 20), "bar", "gap 16px, padding 16px 16px 0, self start, wide"},
		{"it hangs over the edge", box("card", 0, 20, 200, 60) + box("a", 0, 19, 200, 1), "a", "before -1px"},
		{"columns of a grid", card(box("a", 10, 10, 80, 20) + box("b", 100, 10, 80, 20) + box("c", 10, 46, 80, 20) + box("d", 100, 46, 80, 20)), "card",
			"gap 10px, row-gap 16px, padding 10px 20px 34px 10px, self start, wide"},
	} {
		cell := find(arranged(t, c.content), c.of)
		if cell == nil {
			t.Errorf("%s: there is no %s", c.name, c.of)
			continue
		}
		if got := stands(cell); got != c.want {
			t.Errorf("%s: %s, want %s", c.name, got, c.want)
		}
	}
}

// TestLineHeightsOfTokens holds that words take the room that their line height will give them.
func TestLineHeightsOfTokens(t *testing.T) {
	d, err := svg.Read("t.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100"><text data-label="a" y="30" font-size="16">One</text><text data-label="b" y="70" font-size="16">Two</text></svg>`), svg.Options{})
	if err != nil {
		t.Fatal(err)
	}
	own := layout.Arrange(d.Screens[0].Root, nil)
	own.Settle()
	high := layout.Arrange(d.Screens[0].Root, func(*design.Element) float64 { return 24 })
	high.Settle()
	if a, b := find(own, "a").Box, find(high, "a").Box; b.H != 24 || b.Y >= a.Y || high.Gap >= own.Gap {
		t.Errorf("%v and a gap of %v become %v and %v", a, own.Gap, b, high.Gap)
	}
	if high.Gap != 16 {
		t.Errorf("lines of 24 px, 40 px apart, have %v px between them", high.Gap)
	}
}
