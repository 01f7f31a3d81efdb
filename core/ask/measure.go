package ask

import (
	"fmt"
	"strconv"
	"strings"

	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/infer/layout"
)

// Measurer measures elements of one document.
type Measurer struct {
	Source   string
	Unit     design.Unit
	Box      func(*design.Element) geom.Rect // what counts as an element's box
	ToScreen bool                            // insets are to the screen, not to the container
}

// BoxOf picks one of an element's boxes by name: layout, geometry or painted.
func BoxOf(name string) (box func(*design.Element) geom.Rect, ok bool) {
	switch name {
	case "geometry":
		return func(e *design.Element) geom.Rect { return e.Geometry.Value }, true
	case "layout":
		return (*design.Element).BorderBox, true
	case "painted":
		return func(e *design.Element) geom.Rect { return e.Painted.Value }, true
	}
	return nil, false
}

// Length is a length in px, in the unit asked for, and as a share of the container.
type Length struct {
	Px      float64 `json:"px"`
	Text    string  `json:"text"`
	Percent float64 `json:"percent"`
}

// length measures along one axis; down is for vertical ones.
func (m *Measurer) length(px float64, in geom.Rect, down bool) Length {
	px = design.Tidy(px)
	full := in.W
	if down {
		full = in.H
	}
	u := m.Unit
	u.Of = in
	l := Length{Px: px, Text: u.Text(px, down)}
	if full > 0 {
		l.Percent = design.Tidy(px / full * 100)
	}
	return l
}

// around is the box insets count in, and what to call it.
func (m *Measurer) around(e *design.Element) (geom.Rect, string) {
	screen := geom.Rect{W: e.Screen.Box.W, H: e.Screen.Box.H}
	if m.ToScreen {
		return screen, "screen " + e.Screen.Name
	}
	c := e.ContainerElement()
	if c == nil {
		return screen, "screen " + e.Screen.Name
	}
	name := c.Title()
	switch {
	case c.Grounds() == e.Screen.Root:
		name = "screen " + e.Screen.Name
	case c.Name == "" && c.Grounds().Name != "":
		name = c.Grounds().Name
	}
	return m.Box(c), name
}

// Site is an element in its container. Lengths are width, height, and the insets top, right, bottom and left.
type Site struct {
	Name      string            `json:"name"`
	Selector  string            `json:"selector"`
	Box       Rect              `json:"box"`
	Container string            `json:"container"`
	Around    Rect              `json:"containerBox"`
	Lengths   map[string]Length `json:"lengths"`
}

func (m *Measurer) site(e *design.Element) (Site, geom.Rect) {
	in, name := m.around(e)
	b := m.Box(e)
	s := Site{Name: e.Name, Selector: e.Selector(), Box: rect(b), Container: name, Around: rect(in),
		Lengths: map[string]Length{}}
	i := design.Insets(b, in)
	for k, n := range []string{"top", "right", "bottom", "left"} {
		s.Lengths[n] = m.length(i[k], in, k%2 == 0)
	}
	s.Lengths["width"], s.Lengths["height"] = m.length(b.W, in, false), m.length(b.H, in, true)
	return s, in
}

// Neighbour is what stands next to an element on one side.
type Neighbour struct {
	Side     string `json:"side"`
	Name     string `json:"name"`
	Selector string `json:"selector"`
	Gap      Length `json:"gap"`
}

// Alone is an element in its container, with its neighbours, and how evenly it and its siblings stand.
type Alone struct {
	Centred    string      `json:"centred"` // horizontally, vertically, both; "" for neither
	Element    Site        `json:"element"`
	Neighbours []Neighbour `json:"neighbours"`
	Source     string      `json:"source"`
	Spacing    []Spacing   `json:"spacing"`

	X Length `json:"-"` // of the box, from the screen's corner
	Y Length `json:"-"`
}

// Alone measures one element.
func (m *Measurer) Alone(e *design.Element) *Alone {
	s, in := m.site(e)
	b := m.Box(e)
	a := &Alone{Centred: design.InTheMiddle(b, in), Element: s, Source: m.Source, Spacing: m.siblings(e),
		X: m.length(b.X, in, false), Y: m.length(b.Y, in, true)}
	for _, n := range layout.Neighbours(e, m.Box) {
		a.Neighbours = append(a.Neighbours, Neighbour{string(n.Side), n.Element.Title(), n.Element.Selector(),
			m.length(n.Gap, in, n.Side == design.Top || n.Side == design.Bottom)})
	}
	return a
}

// Spacing is how evenly elements stand one way.
type Spacing struct {
	Way  string    `json:"way"` // row, column or grid
	Gaps []float64 `json:"gaps"`
	Even bool      `json:"even"`
	Text string    `json:"text"`
}

// siblings reports how evenly an element and those beside it stand.
func (m *Measurer) siblings(e *design.Element) []Spacing {
	if e.Parent == nil {
		return nil
	}
	l, ok := layout.Of(e.Parent)
	if !ok || l.Kind == layout.Single {
		return nil
	}
	return m.spacings(l, "siblings")
}

// spacings are the gaps of a layout, in words; nil for two, which are always even.
func (m *Measurer) spacings(l layout.Layout, what string) []Spacing {
	if l.Kind == layout.Grid {
		return []Spacing{m.spacing(fmt.Sprintf("%d columns of a grid", l.Columns), "row", l.ColumnGaps),
			m.spacing(fmt.Sprintf("%d rows of a grid", len(l.RowGaps)+1), "column", l.RowGaps)}
	}
	if len(l.Gaps) == 1 {
		return nil
	}
	if step, even := l.EvenMiddles(); even {
		return []Spacing{{Way: string(l.Kind), Gaps: l.Gaps, Even: true,
			Text: fmt.Sprintf("%d %s in a %s stand evenly by their middles, %s apart", len(l.Items), what, l.Kind,
				m.Unit.Text(step, l.Kind == layout.Column))}}
	}
	return []Spacing{m.spacing(fmt.Sprintf("%d %s in a %s", len(l.Items), what, l.Kind), string(l.Kind), l.Gaps)}
}

func (m *Measurer) spacing(subject, way string, gaps []float64) Spacing {
	s := Spacing{Way: way, Gaps: gaps}
	down := way == "column"
	g, even := layout.Even(gaps)
	if s.Even = even; even {
		s.Text = fmt.Sprintf("%s stand evenly, %s apart", subject, m.Unit.Text(g, down))
		return s
	}
	var parts []string
	for _, g := range gaps {
		parts = append(parts, m.Unit.Text(g, down))
	}
	s.Text = fmt.Sprintf("%s stand unevenly: %s", subject, strings.Join(parts, ", "))
	return s
}

// Item is one of several elements.
type Item struct {
	Name     string `json:"name"`
	Selector string `json:"selector"`
	Box      Rect   `json:"box"`
}

// Several are elements and the gaps between them.
type Several struct {
	Elements []Item    `json:"elements"`
	Source   string    `json:"source"`
	Spacing  []Spacing `json:"spacing"`

	Gap string `json:"-"` // of a row or column, in px; "" for another or no layout
}

// Several measures the gaps between elements.
func (m *Measurer) Several(found []*design.Element) *Several {
	s := &Several{Elements: []Item{}, Source: m.Source}
	for _, e := range found {
		s.Elements = append(s.Elements, Item{e.Name, e.Selector(), rect(m.Box(e))})
	}
	l, ok := layout.Among(found)
	if !ok {
		return s
	}
	if l.Kind != layout.Grid {
		s.Gap = layout.GapText(l.Gaps)
	}
	if s.Spacing = m.spacings(l, "elements"); s.Spacing == nil {
		s.Spacing = []Spacing{{Way: string(l.Kind), Gaps: l.Gaps, Even: true,
			Text: fmt.Sprintf("2 elements stand in a %s, %s apart", l.Kind, m.Unit.Text(l.Gaps[0], l.Kind == layout.Column))}}
	}
	return s
}

// Between is how two elements of one screen stand to each other. Gaps are across and down; negative ones overlap.
// Offsets are by edge, from the first to the second.
type Between struct {
	Aligned []string          `json:"aligned"` // edges
	From    Site              `json:"from"`
	Gaps    map[string]Length `json:"gaps"`
	Offsets map[string]Length `json:"offsets"`
	Overlap Rect              `json:"overlap"`
	Source  string            `json:"source"`
	To      Site              `json:"to"`
}

// Between measures from one element to another on the same screen.
func (m *Measurer) Between(a, b *design.Element) *Between {
	d := design.Between(m.Box(a), m.Box(b))
	from, in := m.site(a)
	to, _ := m.site(b)
	out := &Between{Aligned: []string{}, From: from, To: to, Overlap: rect(d.Overlap), Source: m.Source,
		Gaps:    map[string]Length{"across": m.length(d.GapX, in, false), "down": m.length(d.GapY, in, true)},
		Offsets: map[string]Length{}}
	for e, v := range d.Offsets {
		out.Offsets[string(e)] = m.length(v, in, e == design.Top || e == design.Bottom || e == design.CentreY)
	}
	for _, e := range d.Aligned {
		out.Aligned = append(out.Aligned, string(e))
	}
	return out
}

// Covering is an element that lies in an area.
type Covering struct {
	Name     string      `json:"name"`
	Kind     design.Kind `json:"kind"`
	Selector string      `json:"selector"`
	Path     string      `json:"path"`
	Box      Rect        `json:"box"`
	OfArea   float64     `json:"ofArea"` // share of the area it covers, 0–1
	Inside   float64     `json:"inside"` // share of it that lies in the area, 0–1

	Title string `json:"-"`
}

// Area is what lies in a part of a screen, topmost first.
type Area struct {
	Area     Rect       `json:"area"`
	Elements []Covering `json:"elements"`
	Screen   string     `json:"screen"`
	Source   string     `json:"source"`
}

// Area lists what lies in a part of a screen.
func (m *Measurer) Area(s *design.Screen, r geom.Rect) *Area {
	a := &Area{Area: rect(r), Elements: []Covering{}, Screen: s.Name, Source: m.Source}
	for _, c := range s.Within(r) {
		e := c.Element
		a.Elements = append(a.Elements, Covering{e.Name, e.Kind, e.Selector(), e.Path, rect(m.Box(e)), design.Tidy(c.OfArea),
			design.Tidy(c.Inside), e.Title()})
	}
	return a
}

// ParseArea reads X,Y,W,H in px; W and H are more than 0.
func ParseArea(text string) (r geom.Rect, ok bool) {
	parts := strings.Split(text, ",")
	if len(parts) != 4 {
		return r, false
	}
	var v [4]float64
	for i, p := range parts {
		f, err := strconv.ParseFloat(strings.TrimSpace(p), 64)
		if err != nil || f != f || f > 1e9 || f < -1e9 {
			return r, false
		}
		v[i] = f
	}
	return geom.Rect{X: v[0], Y: v[1], W: v[2], H: v[3]}, v[2] > 0 && v[3] > 0
}
