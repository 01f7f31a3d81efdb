package text

import (
	"math"
	"strconv"
	"strings"
	"unicode/utf8"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// Room is the space a text has. Lengths in px of the screen.
type Room struct {
	X      float64 `json:"x"` // left edge
	Width  float64 `json:"width"`
	Lines  int     `json:"lines"`
	Height float64 `json:"height"`
	Taken  float64 `json:"taken"` // width of the words now, all lines together
	Align  string  `json:"align"` // of the text: left, center, right
	By     string  `json:"by"`    // what ends it: container, sibling, screen, or own where it is turned
}

// String says the room in words.
func (r *Room) String() string {
	return strconv.FormatFloat(r.Width, 'f', -1, 64) + " px wide, " + lines(r.Lines)
}

// lines says a number of lines.
func lines(n int) string {
	if n == 1 {
		return "1 line"
	}
	return strconv.Itoa(n) + " lines"
}

// Clear space kept to what stands beside a text, in px, where less is not left free already.
const gutter = 8

// surroundings answers what stands around a text on one screen: leaves of the picture, by rows.
type surroundings struct {
	screen *design.Screen
	margin float64 // smallest inset of a text from the screen's left edge
	rows   map[int][]*design.Element
	pads   map[*design.Element]pads
}

type pads struct{ left, right, top, bottom float64 }

const rowHeight = 64.0

func newSurroundings(s *design.Screen) *surroundings {
	y := &surroundings{screen: s, margin: math.Inf(1), rows: map[int][]*design.Element{}, pads: map[*design.Element]pads{}}
	for _, e := range s.Elements {
		if e.Hidden || e.Kind == design.Group || !e.Geometry.Set {
			continue
		}
		g := e.Geometry.Value
		if e.Words != nil && e.Words.Words != "" && g.X > 0 {
			y.margin = math.Min(y.margin, g.X)
		}
		if g.H > 20*rowHeight {
			continue // what is that high is ground, not neighbour
		}
		for r := int(math.Floor(g.Y / rowHeight)); r <= int(math.Floor(g.Bottom()/rowHeight)); r++ {
			y.rows[r] = append(y.rows[r], e)
		}
	}
	if math.IsInf(y.margin, 1) {
		y.margin = 0
	}
	return y
}

// pad is how far what a container holds stays from its edges.
func (y *surroundings) pad(bg *design.Element) pads {
	if p, ok := y.pads[bg]; ok {
		return p
	}
	p := pads{math.Inf(1), math.Inf(1), math.Inf(1), math.Inf(1)}
	in := bg.Geometry.Value
	for _, c := range bg.Grounds().Contents() {
		c.Walk(func(e *design.Element) {
			if e.Hidden || e.Kind == design.Group || !e.Geometry.Set || len(e.Fills) == 0 && len(e.Strokes) > 0 &&
				e.Kind == design.Box {
				return // a frame is an edge itself
			}
			i := design.Insets(e.Geometry.Value, in)
			for k, to := range []*float64{&p.top, &p.right, &p.bottom, &p.left} {
				if i[k] > 0.5 { // what touches the edge is decoration
					*to = math.Min(*to, i[k])
				}
			}
		})
	}
	y.pads[bg] = p
	return p
}

// room works out the space of a text: its container and what that keeps free at the edges, up to the next sibling,
// else to the screen's edge.
func (y *surroundings) room(b body) *Room {
	e, w, box := b.first, b.words, b.box
	r := &Room{Align: w.Align.Value, Lines: max(1, len(w.Lines)), X: box.X, Width: box.W, Height: box.H, By: "own"}
	for _, l := range w.Lines {
		r.Taken += l.Width
	}
	if r.Align == "" {
		r.Align = "left"
	}
	if !e.Matrix.Upright() {
		return r.tidy()
	}
	bg := e.ContainerElement()
	in := geom.Rect{W: y.screen.Box.W, H: y.screen.Box.H}
	left, right := y.margin, in.Right()-y.margin
	bottom := in.Bottom() - y.margin
	r.By = "screen"
	if bg != nil && bg.Geometry.Value.W < in.W-1 { // a ground as wide as the screen is no container
		in = bg.Geometry.Value
		p := y.pad(bg)
		side := math.Max(0, math.Min(p.left, p.right))
		if r.Align == "center" { // words may come as near to the sides as they are to top and bottom
			side = math.Max(0, math.Min(side, math.Min(box.Y-in.Y, in.Bottom()-box.Bottom())))
		}
		left, right, bottom = in.X+side, in.Right()-side, in.Bottom()-math.Max(0, math.Min(p.top, p.bottom))
		r.By = "container"
	} else if bg != nil {
		bottom = math.Min(bottom, bg.Geometry.Value.Bottom())
	}
	l2, r2, byLeft, byRight := y.beside(b, left, right)
	switch r.Align {
	case "right":
		r.X, r.Width = l2, box.Right()-l2
		r.hedge(byLeft)
	case "center":
		c := box.Centre().X
		half := math.Min(c-l2, r2-c)
		r.X, r.Width = c-half, 2*half
		r.hedge(byLeft && c-l2 <= r2-c || byRight && r2-c <= c-l2)
	default:
		r.X, r.Width = box.X, r2-box.X
		r.hedge(byRight)
	}
	if r.Width < box.W { // what was drawn fits, unless it really leaves what it stands in
		grown := math.Min(box.W, math.Max(r.Width, in.W))
		switch r.Align {
		case "right":
			r.X = box.Right() - grown
		case "center":
			r.X = box.Centre().X - grown/2
		}
		r.Width = grown
	}
	if r.Lines > 1 {
		r.narrow(w)
		r.Height = math.Max(box.H, y.below(b, bottom)-box.Y)
		if step := w.LineHeight.Value; step > 0 {
			r.Lines = max(r.Lines, 1+int((r.Height-box.H)/step+1e-6)+r.Lines-1)
		}
	}
	return r.tidy()
}

// narrow gives a paragraph its own width, where its lines tell: no less than the widest, and not so much that the first
// word of a line would have fit on the one before. The middle is taken.
func (r *Room) narrow(w *design.TextFacts) {
	widest, most := 0.0, math.Inf(1)
	for i, l := range w.Lines {
		widest = math.Max(widest, l.Width)
		if i == 0 || lineBreak(w, i) == "\n" {
			continue
		}
		word, _, _ := strings.Cut(l.Words, " ")
		letters := float64(utf8.RuneCountInString(l.Words))
		most = math.Min(most, w.Lines[i-1].Width+l.Width*(float64(utf8.RuneCountInString(word))+1)/math.Max(1, letters))
	}
	own := (widest + math.Max(widest, most)) / 2
	if math.IsInf(most, 1) || own >= r.Width {
		return
	}
	switch r.Align {
	case "right":
		r.X += r.Width - own
	case "center":
		r.X += (r.Width - own) / 2
	}
	r.Width = own
}

func (r *Room) hedge(sibling bool) {
	if sibling {
		r.By = "sibling"
	}
}

func (r *Room) tidy() *Room {
	r.X, r.Width, r.Height, r.Taken = cents(r.X), cents(r.Width), cents(r.Height), cents(r.Taken)
	return r
}

// beside narrows the space of a text to what stands left and right of it.
func (y *surroundings) beside(b body, left, right float64) (l, r float64, byLeft, byRight bool) {
	box := b.box
	l, r = left, right
	for row := int(math.Floor(box.Y / rowHeight)); row <= int(math.Floor(box.Bottom()/rowHeight)); row++ {
		for _, c := range y.rows[row] {
			g := c.Geometry.Value
			if b.has(c) || math.Min(g.Bottom(), box.Bottom())-math.Max(g.Y, box.Y) < 2 {
				continue
			}
			switch {
			case g.X >= box.Right()-0.5:
				if edge := g.X - math.Min(gutter, math.Max(0, g.X-box.Right())); edge < r {
					r, byRight = edge, true
				}
			case g.Right() <= box.X+0.5:
				if edge := g.Right() + math.Min(gutter, math.Max(0, box.X-g.Right())); edge > l {
					l, byLeft = edge, true
				}
			}
		}
	}
	return l, r, byLeft, byRight
}

// below is where the next thing under a text begins, at most bottom.
func (y *surroundings) below(b body, bottom float64) float64 {
	box := b.box
	for row := int(math.Floor(box.Bottom() / rowHeight)); float64(row)*rowHeight < bottom; row++ {
		found := bottom
		for _, c := range y.rows[row] {
			g := c.Geometry.Value
			if !b.has(c) && g.Y >= box.Bottom()-0.5 && math.Min(g.Right(), box.Right()) > math.Max(g.X, box.X) {
				found = math.Min(found, g.Y-math.Min(gutter, g.Y-box.Bottom()))
			}
		}
		if found < bottom {
			return found
		}
	}
	return bottom
}
