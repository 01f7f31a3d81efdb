package cli

import (
	"fmt"
	"strings"

	"archetyp/core/ask"
	"archetyp/core/design"
	"archetyp/core/hint"

	"github.com/spf13/cobra"
)

func (a *app) measureCmd() *cobra.Command {
	var unit unitFlags
	var area, to, which, on string
	var bare valueFlags
	c := &cobra.Command{
		Use:   "measure SOURCE A [B]",
		Short: "Measure an element in its container, or from one element to another",
		Long: long(`Measure distances. A alone: its place, size and insets in its container, its neighbours, and how
evenly it and its siblings stand. A and B: gaps, offsets of edges and centres, overlap, what is aligned.
Several matches of A: the gaps between them. --area: what lies in a part of the screen. In px, the unit, and
per cent of the container.`),
		Example: example("archetyp measure design/booking.svg '#adults' '#children'",
			"archetyp measure design/booking.svg '#pay' --unit rem --to screen",
			"archetyp measure design/timetable.svg --area 0,0,390,120"),
		Args: between(1, 3, "a SOURCE and one or two selectors"),
		RunE: func(_ *cobra.Command, args []string) error {
			if (area == "") == (len(args) == 1) {
				return hint.New("measure needs a selector or --area", "For example: archetyp measure "+args[0]+" '#pay'")
			}
			if to != "" && to != "screen" && to != "container" {
				return hint.New(fmt.Sprintf("--to %q is not known", to), "Choose container or screen.")
			}
			doc, ws, err := a.source(args[0])
			if err != nil {
				return err
			}
			if err := needsBoxes(doc); err != nil {
				return err
			}
			u, err := unit.unit(ws)
			if err != nil {
				return err
			}
			box, ok := ask.BoxOf(which)
			if !ok {
				return hint.New(fmt.Sprintf("--box %q is not known", which), "Choose layout, geometry or painted.")
			}
			m := &measurer{a, &ask.Measurer{Source: doc.Name, Unit: u, Box: box, ToScreen: to == "screen"}, &bare}
			if area != "" {
				s, err := a.screen(doc, on)
				if err != nil {
					return err
				}
				return a.answer(&bare, func() error { return m.area(s, area) })
			}
			return m.answer(doc, args[1:])
		},
	}
	unit.add(c)
	bare.add(c, "width, height, x, y, inset-left, gap-right; of two elements gap-down, left, top")
	a.view.add(c)
	c.Flags().StringVar(&area, "area", "", "list what lies in `X,Y,W,H` of a screen, in px")
	c.Flags().StringVar(&on, "screen", "", "the `NAME` of the area's screen (default: the first)")
	c.Flags().StringVar(&to, "to", "container", "measure insets `TO` the container or the screen")
	c.Flags().StringVar(&which, "box", "layout",
		"the `BOX` to measure: layout (CSS border boxes), geometry (outlines) or painted")
	return c
}

// answer measures what one or two selectors mean.
func (m *measurer) answer(doc *design.Document, selectors []string) error {
	first, err := m.query(doc, selectors[0])
	if err != nil {
		return err
	}
	if len(selectors) == 1 {
		if len(first) > 1 {
			return m.app.answer(m.bare, func() error { return m.several(first) })
		}
		return m.app.answer(m.bare, func() error { return m.alone(first[0]) })
	}
	second, err := m.query(doc, selectors[1])
	if err != nil {
		return err
	}
	for i, found := range [][]*design.Element{first, second} {
		if len(found) > 1 {
			m.say("%s: the first of %s of %s is measured\n", doc.Name, plural(len(found), "match", "matches"), selectors[i])
		}
	}
	return m.app.answer(m.bare, func() error { return m.between(first[0], second[0]) })
}

func (m *measurer) bareValue(of string, list []valueOf) error {
	v, err := m.bare.value(of, list)
	if err == nil {
		m.print("%s\n", v)
	}
	return err
}

type measurer struct {
	*app
	*ask.Measurer
	bare *valueFlags
}

func (m *measurer) row(name string, l ask.Length) []string {
	unit := ""
	if m.Unit.Name != "px" && m.Unit.Name != "%" {
		unit = l.Text
	}
	return []string{m.term.dim(name), num(l.Px) + " px", unit, m.term.dim(num(l.Percent) + " %")}
}

func (m *measurer) alone(e *design.Element) error {
	one := m.Alone(e)
	s := &one.Element
	if m.bare.name != "" {
		list := []valueOf{{"width", s.Lengths["width"].Text}, {"height", s.Lengths["height"].Text},
			{"x", one.X.Text}, {"y", one.Y.Text}}
		for _, side := range []string{"top", "right", "bottom", "left"} {
			list = append(list, valueOf{"inset-" + side, s.Lengths[side].Text})
		}
		for _, n := range one.Neighbours {
			list = append(list, valueOf{"gap-" + n.Side, n.Gap.Text})
		}
		return m.bareValue(e.Selector(), list)
	}
	if m.json {
		return m.printJSON(one)
	}
	m.print("%s  %s  %s\n", m.term.bold(e.Title()), m.term.accent(string(e.Kind)),
		m.term.dim("in "+s.Container+", "+num(s.Around.W)+" × "+num(s.Around.H)+" px"))
	rows := [][]string{m.row("width", s.Lengths["width"]), m.row("height", s.Lengths["height"])}
	rows = append(rows, m.row("x", one.X)[:3], m.row("y", one.Y)[:3])
	for _, n := range []string{"top", "right", "bottom", "left"} {
		rows = append(rows, m.row("inset "+n, s.Lengths[n]))
	}
	for _, n := range one.Neighbours {
		rows = append(rows, append(m.row("gap "+n.Side, n.Gap), "to "+n.Name))
	}
	m.print("%s", m.term.table(nil, rows, 1, 2, 3))
	if one.Centred != "" {
		m.print("centred %s\n", one.Centred)
	}
	m.spacings(one.Spacing)
	return nil
}

func (m *measurer) spacings(list []ask.Spacing) {
	for _, l := range list {
		m.print("%s\n", l.Text)
	}
}

// several prints the gaps between several elements.
func (m *measurer) several(found []*design.Element) error {
	s := m.Several(found)
	if m.bare.name != "" {
		var list []valueOf
		if s.Gap != "" {
			list = append(list, valueOf{"gap", s.Gap})
		}
		return m.bareValue(fmt.Sprintf("%d elements", len(found)), list)
	}
	if m.json {
		return m.printJSON(s)
	}
	var rows [][]string
	for i, e := range found {
		if i == 24 && !m.verbose && len(found) > 25 {
			rows = append(rows, []string{m.term.dim(fmt.Sprintf("… %d more; --verbose shows them", len(found)-i)), ""})
			break
		}
		b := s.Elements[i].Box
		rows = append(rows, []string{e.Title(), num(b.X) + ", " + num(b.Y), num(b.W) + " × " + num(b.H) + " px"})
	}
	m.print("%s", m.term.table([]string{"element", "at", "size"}, rows, 1, 2))
	m.spacings(s.Spacing)
	if s.Spacing == nil {
		m.print("they stand in no row, column or grid\n")
	}
	return nil
}

func (m *measurer) between(a, b *design.Element) error {
	if a.Screen != b.Screen {
		return hint.New(fmt.Sprintf("%s and %s are on different screens: %s, %s", a.Selector(), b.Selector(), a.Screen.Name,
			b.Screen.Name), "Distances are measured on one screen.")
	}
	d := m.Between(a, b)
	if m.bare.name != "" {
		list := []valueOf{{"gap-across", d.Gaps["across"].Text}, {"gap-down", d.Gaps["down"].Text}}
		for _, e := range design.Edges {
			list = append(list, valueOf{strings.ReplaceAll(string(e), " ", "-"), d.Offsets[string(e)].Text})
		}
		return m.bareValue(a.Selector()+" to "+b.Selector(), list)
	}
	if m.json {
		return m.printJSON(d)
	}
	m.print("%s %s %s  %s\n", m.term.bold(a.Title()), m.term.dim("→"), m.term.bold(b.Title()),
		m.term.dim("per cent of "+d.From.Container))
	rows := [][]string{m.gap("across", d.Gaps["across"]), m.gap("down", d.Gaps["down"])}
	for _, e := range design.Edges {
		rows = append(rows, m.row(string(e)+" to "+string(e), d.Offsets[string(e)]))
	}
	m.print("%s", m.term.table(nil, rows, 1, 2, 3))
	if o := d.Overlap; o.W > 0 && o.H > 0 {
		m.print("both cover %s\n", o)
	}
	if len(d.Aligned) > 0 {
		m.print("aligned: %s\n", strings.Join(d.Aligned, ", "))
	} else {
		m.print("no edge is aligned\n")
	}
	return nil
}

// gap is the row of a gap, or of how far two elements overlap.
func (m *measurer) gap(way string, l ask.Length) []string {
	if l.Px >= 0 {
		return m.row("gap "+way, l)
	}
	l.Px, l.Percent, l.Text = -l.Px, -l.Percent, strings.TrimPrefix(l.Text, "-")
	return m.row("overlap "+way, l)
}

// area prints what lies in a part of a screen.
func (m *measurer) area(s *design.Screen, arg string) error {
	r, ok := ask.ParseArea(arg)
	if !ok {
		return hint.New(fmt.Sprintf("--area %q: X,Y,W,H in px is wanted, such as 0,0,390,120", arg),
			"W and H are more than 0.")
	}
	a := m.Area(s, r)
	if m.json {
		return m.printJSON(a)
	}
	if len(a.Elements) == 0 {
		m.print("nothing lies there\n")
		return nil
	}
	var rows [][]string
	for _, c := range a.Elements {
		rows = append(rows, []string{c.Title, m.term.accent(string(c.Kind)), num(c.Box.X) + ", " + num(c.Box.Y),
			num(c.Box.W) + " × " + num(c.Box.H) + " px",
			num(c.OfArea*100) + " %", num(c.Inside*100) + " %", m.term.dim(c.Selector)})
	}
	m.print("%s", m.term.table([]string{"topmost first", "", "at", "size", "of the area", "inside it", ""}, rows, 2, 3, 4,
		5))
	return nil
}
