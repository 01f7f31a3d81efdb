package guide

import (
	"fmt"
	"net/url"
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// Lead is an element that leads to another screen.
type Lead struct {
	Screen              int // of the document
	Element, Path       string
	Box                 geom.Rect // px on its screen
	To                  string    // the screen's name
	Trigger, Transition string
}

// LeadsOf lists the elements of a document that lead to other screens.
func LeadsOf(d *design.Document) (out []Lead) {
	for k, s := range d.Screens {
		for _, e := range s.Elements {
			if e.Marks.LeadsTo == "" || e.Hidden {
				continue
			}
			l := Lead{Screen: k, Element: e.Title(), Path: e.Path, Box: e.BorderBox(), Trigger: "click"}
			for i, part := range strings.Split(e.Marks.LeadsTo, ";") {
				name, value, given := strings.Cut(part, "=")
				name, value = strings.TrimSpace(name), strings.TrimSpace(value)
				switch {
				case i == 0:
					l.To = strings.TrimSpace(part)
				case given && name == "on":
					l.Trigger = value
				case given && (name == "transition" || name == "with"):
					l.Transition = value
				}
			}
			if l.To != "" {
				out = append(out, l)
			}
		}
	}
	return out
}

// leadModel is a way from a screen to another, as the pages show it.
type leadModel struct {
	Element, To         string
	Page                string // of the screen it leads to; "" where there is none
	At                  string // address of the element on its page
	Trigger, Transition string
	box                 geom.Rect
	to                  int // among the screens; -1 for none
}

// leadsFrom are the ways from a screen.
func (m *model) leadsFrom(s *screenModel) (out []leadModel) {
	for _, l := range s.drawing.Holds.Leads {
		if l.Screen != s.index {
			continue
		}
		one := leadModel{Element: l.Element, To: l.To, At: s.Page + "#" + escapeFragment(l.Path), Trigger: l.Trigger,
			Transition: l.Transition, box: l.Box, to: m.namedLike(l.To, s)}
		if one.to >= 0 {
			one.Page = m.screens[one.to].Page
		}
		out = append(out, one)
	}
	return out
}

// namedLike is the screen of a name; of several the one whose width is nearest to that of the screen that leads there.
func (m *model) namedLike(name string, from *screenModel) int {
	best := -1
	far := func(i int) float64 { return max(m.screens[i].Width-from.Width, from.Width-m.screens[i].Width) }
	for i, s := range m.screens {
		if strings.EqualFold(s.Name, name) && (best < 0 || far(i) < far(best)) {
			best = i
		}
	}
	return best
}

// escapeFragment writes a path of names as the fragment of an address.
func escapeFragment(path string) string { return url.PathEscape(path) }

// flowPage is the map of the screens. Lengths in px of the map.
type flowPage struct {
	Width, Height float64
	Nodes         []flowNode
	Edges         []flowEdge
}

type flowNode struct {
	*screenModel
	X, Y, W, H float64
	Leads      []leadModel
}

type flowEdge struct {
	Path, Label  string
	LabelX, TopY float64
	Broken       bool // it leads to a screen that does not exist
	from, to     int
}

// Lengths of the map, in px.
const (
	flowWidth  = 180 // of a screen
	flowHeight = 320 // … at most
	flowGapX   = 140
	flowGapY   = 56
)

// flows adds the map of screens, where any lead to others.
func (b *builder) flows() {
	page := flowPage{}
	var leads [][]leadModel
	connected := map[int]bool{}
	for i, s := range b.screens {
		list := b.leadsFrom(s)
		leads = append(leads, list)
		for _, l := range list {
			connected[i] = true
			if l.to >= 0 {
				connected[l.to] = true
			}
		}
	}
	if len(connected) == 0 {
		return
	}
	at := b.columns(leads, connected, &page)
	for i, list := range leads {
		from, ok := at[i]
		if !ok {
			continue
		}
		page.Nodes[from].Leads = list
		for _, l := range list {
			e := edge(&page, from, at, l, b.screens[i])
			if slices.ContainsFunc(page.Edges, func(o flowEdge) bool { return o.from == from && o.to == e.to && o.Label == e.Label }) {
				e.Label = "" // said beside the first of them
			}
			page.Edges = append(page.Edges, e)
		}
	}
	b.page(shown("Flows", "flows.html", "flows", page, "flow.js"))
	b.data("flows", sum(page), func() (any, error) { return flowData(&page, at), nil })
}

// columns puts the connected screens into columns: those that nothing leads to first, then what each leads to.
func (b *builder) columns(leads [][]leadModel, connected map[int]bool, page *flowPage) map[int]int {
	rank, led := map[int]int{}, map[int]bool{}
	for _, list := range leads {
		for _, l := range list {
			led[l.to] = true
		}
	}
	var queue []int
	for pass := range 2 { // screens that only lead round in a circle begin with the first
		for i := range leads {
			if _, known := rank[i]; connected[i] && !known && (pass == 1 || !led[i]) {
				rank[i] = 0
				queue = append(queue, i)
			}
			for len(queue) > 0 {
				at := queue[0]
				queue = queue[1:]
				for _, l := range leads[at] {
					if _, known := rank[l.to]; l.to >= 0 && !known {
						rank[l.to] = rank[at] + 1
						queue = append(queue, l.to)
					}
				}
			}
		}
	}
	at, bottom := map[int]int{}, map[int]float64{}
	for i, s := range b.screens {
		r, ok := rank[i]
		if !ok {
			continue
		}
		w, h := float64(flowWidth), flowWidth*s.Height/max(s.Width, 1)
		if h > flowHeight {
			w, h = flowHeight*s.Width/max(s.Height, 1), flowHeight
		}
		at[i] = len(page.Nodes)
		n := flowNode{screenModel: s, X: 24 + float64(r)*(flowWidth+flowGapX), Y: 24 + bottom[r], W: w, H: h}
		page.Nodes = append(page.Nodes, n)
		bottom[r] += h + flowGapY
		page.Width, page.Height = max(page.Width, n.X+n.W+160), max(page.Height, n.Y+n.H+56)
	}
	return at
}

// edge is the line from an element on a screen to the screen it leads to.
func edge(page *flowPage, from int, at map[int]int, l leadModel, s *screenModel) flowEdge {
	n := page.Nodes[from]
	scale := n.W / max(s.Width, 1)
	x, y := n.X+min(n.W, l.box.Right()*scale), n.Y+min(n.H-4, max(4, (l.box.Y+l.box.H/2)*scale))
	e := flowEdge{Label: strings.TrimSpace(l.Trigger + " " + l.Transition), from: from}
	to, ok := at[l.to]
	if !ok || l.to < 0 {
		e.Broken, e.Label, e.to = true, l.To+" (no such screen)", -1
		e.Path = fmt.Sprintf("M%.1f %.1fH%.1f", x, y, n.X+n.W+24)
		e.LabelX, e.TopY = n.X+n.W+30, y
		return e
	}
	t := page.Nodes[to]
	e.to = to
	tx, ty := t.X, t.Y+min(t.H/2, 40+8*float64(slices.IndexFunc(page.Nodes[from].Leads, func(o leadModel) bool { return o == l })+1))
	if t.X <= n.X { // back: round below
		tx, ty = t.X+t.W/2, t.Y+t.H
		low := max(n.Y+n.H, t.Y+t.H) + 40
		e.Path = fmt.Sprintf("M%.1f %.1fC%.1f %.1f %.1f %.1f %.1f %.1f", x, y, x+60, low, tx, low, tx, ty)
		e.LabelX, e.TopY = (x+tx)/2, low-8
		return e
	}
	mid := (n.X + n.W + tx) / 2
	e.Path = fmt.Sprintf("M%.1f %.1fC%.1f %.1f %.1f %.1f %.1f %.1f", x, y, mid, y, mid, ty, tx, ty)
	e.LabelX, e.TopY = mid, (y+ty)/2-6
	return e
}

// playData is a screen to play: its picture, and where it leads.
type playData struct {
	Name    string     `json:"name"`
	Picture string     `json:"picture"`
	Width   float64    `json:"w"`
	Height  float64    `json:"h"`
	Leads   []playLead `json:"leads"`
}

type playLead struct {
	Name       string     `json:"n"`
	Box        [4]float64 `json:"b"`
	To         int        `json:"to"` // -1: a screen that does not exist
	Trigger    string     `json:"on"`
	Transition string     `json:"with,omitempty"`
}

func flowData(p *flowPage, at map[int]int) []playData {
	out := []playData{}
	for _, n := range p.Nodes {
		d := playData{Name: n.Name, Picture: n.Picture, Width: n.Width, Height: n.Height, Leads: []playLead{}}
		for _, l := range n.Leads {
			to, ok := at[l.to]
			if !ok {
				to = -1
			}
			d.Leads = append(d.Leads, playLead{l.Element, [4]float64{l.box.X, l.box.Y, l.box.W, l.box.H}, to, l.Trigger, l.Transition})
		}
		out = append(out, d)
	}
	return out
}
