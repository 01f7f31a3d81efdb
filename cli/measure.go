package cli

import (
	"fmt"
	"strconv"
	"strings"

	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/infer/layout"

	"github.com/spf13/cobra"
)

func (a *app) measureCmd() *cobra.Command {
	var unit unitFlags
	var area, to, which, on string
	var bare valueFlags
	c := &cobra.Command{
		Use:   "measure SOURCE A [B]",
		Short: "Measure an element in its container, or from one element to another",
		Long: long(`Measure distances. A alone: its place, size and insets in its container, its neighbours, and how evenly it and its
siblings stand. A and B: gaps, offsets of edges and centres, overlap, what is aligned. Several matches of A: the gaps
between them. --area: what lies in a part of the screen. In px, the unit, and per cent of the container.`),
		Example: example("archetyp measure design/booking.svg '#adults' '#children'", "archetyp measure design/booking.svg '#pay' --unit rem --to screen",
			"archetyp measure design/timetable.svg --area 0,0,390,120"),
		Args: between(1, 3, "a SOURCE and one or two selectors"),
		RunE: func(_ *cobra.Command, args []string) error {
			if (area == "") == (len(args) == 1) {
				return hint("measure needs a selector or --area", "For example: archetyp measure "+args[0]+" '#pay'")
			}
			if to != "" && to != "screen" && to != "container" {
				return hint(fmt.Sprintf("--to %q is not known", to), "Choose container or screen.")
			}
			doc, ws, err := a.source(args[0])
			if err != nil {
				return err
			}
			u, err := unit.unit(ws)
			if err != nil {
				return err
			}
			box, err := boxOf(which)
			if err != nil {
				return err
			}
			m := &measurer{app: a, doc: doc, unit: u, box: box, toScreen: to == "screen", bare: &bare}
			if area != "" {
				s, err := a.screen(doc, on)
				if err != nil {
					return err
				}
				return a.answer(&bare, func() error { return m.area(s, area) })
			}
			first, err := a.query(doc, args[1])
			if err != nil {
				return err
			}
			if len(args) == 2 {
				if len(first) > 1 {
					return a.answer(&bare, func() error { return m.spacing(first) })
				}
				return a.answer(&bare, func() error { return m.alone(first[0]) })
			}
			second, err := a.query(doc, args[2])
			if err != nil {
				return err
			}
			for i, found := range [][]*design.Element{first, second} {
				if len(found) > 1 {
					a.say("%s: the first of %s of %s is measured\n", doc.Name, plural(len(found), "match", "matches"), args[i+1])
				}
			}
			return a.answer(&bare, func() error { return m.between(first[0], second[0]) })
		},
	}
	unit.add(c)
	bare.add(c, "width, height, x, y, inset-left, gap-right; of two elements gap-down, left, top")
	c.Flags().StringVar(&area, "area", "", "list what lies in `X,Y,W,H` of a screen, in px")
	c.Flags().StringVar(&on, "screen", "", "the `NAME` of the area's screen (default: the first)")
	c.Flags().StringVar(&to, "to", "container", "measure insets `TO` the container or the screen")
	c.Flags().StringVar(&which, "box", "layout", "the `BOX` to measure: layout (CSS border boxes), geometry (outlines) or painted")
	return c
}

func (m *measurer) bareValue(of string, list []valueOf) error {
	v, err := m.bare.value(of, list)
	if err == nil {
		m.print("%s\n", v)
	}
	return err
}

// boxOf picks one of an element's boxes.
func boxOf(which string) (func(*design.Element) geom.Rect, error) {
	switch which {
	case "geometry":
		return func(e *design.Element) geom.Rect { return e.Geometry.Value }, nil
	case "layout":
		return (*design.Element).BorderBox, nil
	case "painted":
		return func(e *design.Element) geom.Rect { return e.Painted.Value }, nil
	}
	return nil, hint(fmt.Sprintf("--box %q is not known", which), "Choose layout, geometry or painted.")
}

type measurer struct {
	*app
	doc      *design.Document
	unit     design.Unit
	box      func(*design.Element) geom.Rect
	toScreen bool
	bare     *valueFlags
}

// lengthJSON is a length in px, in the unit asked for, and as a share of the container.
type lengthJSON struct {
	Px      float64 `json:"px"`
	Text    string  `json:"text"`
	Percent float64 `json:"percent"`
}

// length tells a length along one axis; down is for vertical ones.
func (m *measurer) length(px float64, in geom.Rect, down bool) lengthJSON {
	px = design.Tidy(px)
	full := in.W
	if down {
		full = in.H
	}
	u := m.unit
	u.Of = in
	l := lengthJSON{Px: px, Text: u.Text(px, down)}
	if full > 0 {
		l.Percent = design.Tidy(px / full * 100)
	}
	return l
}

func (m *measurer) row(name string, l lengthJSON) []string {
	unit := ""
	if m.unit.Name != "px" && m.unit.Name != "%" {
		unit = l.Text
	}
	return []string{m.term.dim(name), num(l.Px) + " px", unit, m.term.dim(num(l.Percent) + " %")}
}

// around is the box insets count in, and what to call it.
func (m *measurer) around(e *design.Element) (geom.Rect, string) {
	screen := geom.Rect{W: e.Screen.Box.W, H: e.Screen.Box.H}
	if m.toScreen {
		return screen, "screen " + e.Screen.Name
	}
	if c := e.ContainerElement(); c != nil {
		name := c.Title()
		switch {
		case c.Grounds() == e.Screen.Root:
			name = "screen " + e.Screen.Name
		case c.Name == "" && c.Grounds().Name != "":
			name = c.Grounds().Name
		}
		return m.box(c), name
	}
	return screen, "screen " + e.Screen.Name
}

type siteJSON struct {
	Name      string                `json:"name"`
	Selector  string                `json:"selector"`
	Box       rectJSON              `json:"box"`
	Container string                `json:"container"`
	Around    rectJSON              `json:"containerBox"`
	Lengths   map[string]lengthJSON `json:"lengths"`
}

// site is an element in its container.
func (m *measurer) site(e *design.Element) (siteJSON, geom.Rect) {
	in, name := m.around(e)
	b := m.box(e)
	s := siteJSON{Name: e.Name, Selector: e.Selector(), Box: toJSON(b), Container: name, Around: toJSON(in), Lengths: map[string]lengthJSON{}}
	i := design.Insets(b, in)
	for k, n := range []string{"top", "right", "bottom", "left"} {
		s.Lengths[n] = m.length(i[k], in, k%2 == 0)
	}
	s.Lengths["width"], s.Lengths["height"] = m.length(b.W, in, false), m.length(b.H, in, true)
	return s, in
}

type neighbourJSON struct {
	Side     string     `json:"side"`
	Name     string     `json:"name"`
	Selector string     `json:"selector"`
	Gap      lengthJSON `json:"gap"`
}

func (m *measurer) alone(e *design.Element) error {
	s, in := m.site(e)
	var near []neighbourJSON
	for _, n := range layout.Neighbours(e, m.box) {
		near = append(near, neighbourJSON{string(n.Side), n.Element.Title(), n.Element.Selector(), m.length(n.Gap, in, n.Side == design.Top || n.Side == design.Bottom)})
	}
	lines := m.siblings(e)
	if m.bare.name != "" {
		b := m.box(e)
		list := []valueOf{{"width", s.Lengths["width"].Text}, {"height", s.Lengths["height"].Text}, {"x", m.length(b.X, in, false).Text}, {"y", m.length(b.Y, in, true).Text}}
		for _, side := range []string{"top", "right", "bottom", "left"} {
			list = append(list, valueOf{"inset-" + side, s.Lengths[side].Text})
		}
		for _, n := range near {
			list = append(list, valueOf{"gap-" + n.Side, n.Gap.Text})
		}
		return m.bareValue(e.Selector(), list)
	}
	if m.json {
		return m.printJSON(map[string]any{"source": m.doc.Name, "element": s, "centred": design.InTheMiddle(m.box(e), in), "neighbours": near, "spacing": lines})
	}
	m.print("%s  %s  %s\n", m.term.bold(e.Title()), m.term.accent(string(e.Kind)), m.term.dim("in "+s.Container+", "+num(in.W)+" × "+num(in.H)+" px"))
	b := m.box(e)
	rows := [][]string{m.row("width", s.Lengths["width"]), m.row("height", s.Lengths["height"])}
	rows = append(rows, m.row("x", m.length(b.X, in, false))[:3], m.row("y", m.length(b.Y, in, true))[:3])
	for _, n := range []string{"top", "right", "bottom", "left"} {
		rows = append(rows, m.row("inset "+n, s.Lengths[n]))
	}
	for _, n := range near {
		rows = append(rows, append(m.row("gap "+n.Side, n.Gap), "to "+n.Name))
	}
	m.print("%s", m.term.table(nil, rows, 1, 2, 3))
	if centred := design.InTheMiddle(b, in); centred != "" {
		m.print("centred %s\n", centred)
	}
	for _, l := range lines {
		m.print("%s\n", l.Text)
	}
	return nil
}

type spacingJSON struct {
	Way  string    `json:"way"` // row, column or grid
	Gaps []float64 `json:"gaps"`
	Even bool      `json:"even"`
	Text string    `json:"text"`
}

// siblings reports how evenly an element and those beside it stand.
func (m *measurer) siblings(e *design.Element) []spacingJSON {
	if e.Parent == nil {
		return nil
	}
	l, ok := layout.Of(e.Parent)
	if !ok || l.Kind == layout.Single {
		return nil
	}
	return m.told(l, "siblings")
}

func (m *measurer) told(l layout.Layout, what string) []spacingJSON {
	say := func(subject, way string, gaps []float64) spacingJSON {
		s := spacingJSON{Way: way, Gaps: gaps}
		down := way == "column"
		g, even := layout.Even(gaps)
		if s.Even = even; even {
			s.Text = fmt.Sprintf("%s stand evenly, %s apart", subject, m.unit.Text(g, down))
			return s
		}
		var parts []string
		for _, g := range gaps {
			parts = append(parts, m.unit.Text(g, down))
		}
		s.Text = fmt.Sprintf("%s stand unevenly: %s", subject, strings.Join(parts, ", "))
		return s
	}
	if l.Kind == layout.Grid {
		return []spacingJSON{say(fmt.Sprintf("%d columns of a grid", l.Columns), "row", l.ColumnGaps),
			say(fmt.Sprintf("%d rows of a grid", len(l.RowGaps)+1), "column", l.RowGaps)}
	}
	if len(l.Gaps) == 1 {
		return nil // two are always even
	}
	if step, even := l.EvenMiddles(); even {
		return []spacingJSON{{Way: string(l.Kind), Gaps: l.Gaps, Even: true,
			Text: fmt.Sprintf("%d %s in a %s stand evenly by their middles, %s apart", len(l.Items), what, l.Kind, m.unit.Text(step, l.Kind == layout.Column))}}
	}
	return []spacingJSON{say(fmt.Sprintf("%d %s in a %s", len(l.Items), what, l.Kind), string(l.Kind), l.Gaps)}
}

// spacing tells the gaps between several elements.
func (m *measurer) spacing(found []*design.Element) error {
	l, ok := layout.Among(found)
	type itemJSON struct {
		Name     string   `json:"name"`
		Selector string   `json:"selector"`
		Box      rectJSON `json:"box"`
	}
	items := []itemJSON{}
	for _, e := range found {
		items = append(items, itemJSON{e.Name, e.Selector(), toJSON(m.box(e))})
	}
	if m.bare.name != "" {
		var list []valueOf
		if ok && l.Kind != layout.Grid {
			list = append(list, valueOf{"gap", layout.GapText(l.Gaps)})
		}
		return m.bareValue(fmt.Sprintf("%d elements", len(found)), list)
	}
	var lines []spacingJSON
	if ok {
		if lines = m.told(l, "elements"); lines == nil {
			lines = []spacingJSON{{Way: string(l.Kind), Gaps: l.Gaps, Even: true,
				Text: fmt.Sprintf("2 elements stand in a %s, %s apart", l.Kind, m.unit.Text(l.Gaps[0], l.Kind == layout.Column))}}
		}
	}
	if m.json {
		return m.printJSON(map[string]any{"source": m.doc.Name, "elements": items, "spacing": lines})
	}
	var rows [][]string
	for i, e := range found {
		if i == 24 && !m.verbose && len(found) > 25 {
			rows = append(rows, []string{m.term.dim(fmt.Sprintf("… %d more; --verbose shows them", len(found)-i)), ""})
			break
		}
		b := m.box(e)
		rows = append(rows, []string{e.Title(), num(b.X) + ", " + num(b.Y), num(b.W) + " × " + num(b.H) + " px"})
	}
	m.print("%s", m.term.table([]string{"element", "at", "size"}, rows, 1, 2))
	for _, l := range lines {
		m.print("%s\n", l.Text)
	}
	if !ok {
		m.print("they stand in no row, column or grid\n")
	}
	return nil
}

func (m *measurer) between(a, b *design.Element) error {
	if a.Screen != b.Screen {
		return hint(fmt.Sprintf("%s and %s are on different screens: %s, %s", a.Selector(), b.Selector(), a.Screen.Name, b.Screen.Name), "Distances are measured on one screen.")
	}
	d := design.Between(m.box(a), m.box(b))
	in, name := m.around(a)
	gaps := map[string]lengthJSON{"across": m.length(d.GapX, in, false), "down": m.length(d.GapY, in, true)}
	offsets := map[string]lengthJSON{}
	for e, v := range d.Offsets {
		offsets[string(e)] = m.length(v, in, e == design.Top || e == design.Bottom || e == design.CentreY)
	}
	if m.bare.name != "" {
		list := []valueOf{{"gap-across", gaps["across"].Text}, {"gap-down", gaps["down"].Text}}
		for _, e := range design.Edges {
			list = append(list, valueOf{strings.ReplaceAll(string(e), " ", "-"), offsets[string(e)].Text})
		}
		return m.bareValue(a.Selector()+" to "+b.Selector(), list)
	}
	aligned := []string{}
	for _, e := range d.Aligned {
		aligned = append(aligned, string(e))
	}
	if m.json {
		sa, _ := m.site(a)
		sb, _ := m.site(b)
		return m.printJSON(map[string]any{"source": m.doc.Name, "from": sa, "to": sb, "gaps": gaps, "offsets": offsets,
			"overlap": toJSON(d.Overlap), "aligned": aligned})
	}
	m.print("%s %s %s  %s\n", m.term.bold(a.Title()), m.term.dim("→"), m.term.bold(b.Title()), m.term.dim("per cent of "+name))
	var rows [][]string
	gap := func(name string, v float64, l lengthJSON) {
		if v < 0 {
			l.Px, l.Percent = -l.Px, -l.Percent
			l.Text = strings.TrimPrefix(l.Text, "-")
			name = "overlap " + name
		} else {
			name = "gap " + name
		}
		rows = append(rows, m.row(name, l))
	}
	gap("across", d.GapX, gaps["across"])
	gap("down", d.GapY, gaps["down"])
	for _, e := range design.Edges {
		rows = append(rows, m.row(string(e)+" to "+string(e), offsets[string(e)]))
	}
	m.print("%s", m.term.table(nil, rows, 1, 2, 3))
	if d.Overlap.W > 0 && d.Overlap.H > 0 {
		m.print("both cover %s\n", design.RectText(d.Overlap))
	}
	if len(aligned) > 0 {
		m.print("aligned: %s\n", strings.Join(aligned, ", "))
	} else {
		m.print("no edge is aligned\n")
	}
	return nil
}

type coveringJSON struct {
	Name     string      `json:"name"`
	Kind     design.Kind `json:"kind"`
	Selector string      `json:"selector"`
	Path     string      `json:"path"`
	Box      rectJSON    `json:"box"`
	OfArea   float64     `json:"ofArea"`
	Inside   float64     `json:"inside"`
}

// area reports what lies in a part of a screen.
func (m *measurer) area(s *design.Screen, arg string) error {
	r, err := parseArea(arg)
	if err != nil {
		return err
	}
	out := []coveringJSON{}
	var rows [][]string
	for _, c := range s.Within(r) {
		e := c.Element
		b := m.box(e)
		out = append(out, coveringJSON{e.Name, e.Kind, e.Selector(), e.Path, toJSON(b), design.Tidy(c.OfArea), design.Tidy(c.Inside)})
		rows = append(rows, []string{e.Title(), m.term.accent(string(e.Kind)), num(b.X) + ", " + num(b.Y), num(b.W) + " × " + num(b.H) + " px",
			num(c.OfArea*100) + " %", num(c.Inside*100) + " %", m.term.dim(e.Selector())})
	}
	if m.json {
		return m.printJSON(map[string]any{"source": m.doc.Name, "screen": s.Name, "area": toJSON(r), "elements": out})
	}
	if len(rows) == 0 {
		m.print("nothing lies there\n")
		return nil
	}
	m.print("%s", m.term.table([]string{"topmost first", "", "at", "size", "of the area", "inside it", ""}, rows, 2, 3, 4, 5))
	return nil
}

func parseArea(arg string) (geom.Rect, error) {
	bad := hint(fmt.Sprintf("--area %q: X,Y,W,H in px is wanted, such as 0,0,390,120", arg), "W and H are more than 0.")
	parts := strings.Split(arg, ",")
	if len(parts) != 4 {
		return geom.Rect{}, bad
	}
	var v [4]float64
	for i, p := range parts {
		f, err := strconv.ParseFloat(strings.TrimSpace(p), 64)
		if err != nil || f != f || f > 1e9 || f < -1e9 {
			return geom.Rect{}, bad
		}
		v[i] = f
	}
	if v[2] <= 0 || v[3] <= 0 {
		return geom.Rect{}, bad
	}
	return geom.Rect{X: v[0], Y: v[1], W: v[2], H: v[3]}, nil
}
