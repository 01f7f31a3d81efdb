package code

import (
	"math"

	"archetyp/core/css"
	"archetyp/core/design"
)

// Length is a length of a page at the widths it is drawn at.
type Length struct {
	Selector string    `json:"selector"`
	Property string    `json:"property"`
	Px       []float64 `json:"px"`   // by width, the narrowest first
	Kind     Kept      `json:"kind"` // how it follows the width
}

// Kept is how a length follows the width of a page.
type Kept string

// The ways: the same at all widths, a share of its holder, or neither.
const (
	Fixed      Kept = "fixed"
	Proportion Kept = "in proportion"
	Stepped    Kept = "stepped"
)

// kept judges a length at two widths, in px, by the widths of what holds it.
func kept(a, b, inA, inB float64) Kept {
	switch {
	case math.Abs(a-b) <= 0.5:
		return Fixed
	case inA > 0 && inB > 0 && math.Abs(a/inA-b/inB) <= 0.005:
		return Proportion
	}
	return Stepped
}

// room is the width that a node gives to what it holds, in px.
func room(n *Node) float64 {
	if n == nil {
		return 0
	}
	c := n.Cell
	w := c.Box.W
	if c.Face == nil && c.Room.W > 0 {
		w = c.Room.W
	}
	return w - c.Padding[1] - c.Padding[3]
}

// lengths lists the gaps and widths of an element at two widths. A width in proportion is written as a share, once.
func (p *pager) lengths(t *Tag, n, m *Node, inN, inM *Node) {
	add := func(property string, a, b, inA, inB float64) Kept {
		k := kept(a, b, inA, inB)
		p.page.Lengths = append(p.page.Lengths, Length{t.selector(), property, []float64{design.Tidy(a), design.Tidy(b)}, k})
		return k
	}
	if a, b := n.Cell.Gap, m.Cell.Gap; a > 0 && b > 0 {
		add("gap", a, b, room(n), room(m))
	}
	if n.Cell.Wide && m.Cell.Wide && n.Picture == nil && n.Cell.Element != nil {
		a, b := n.Cell.Box.W, m.Cell.Box.W
		if add("width", a, b, room(inN), room(inM)) == Proportion {
			p.share(t, css.Num(100*a/room(inN), 2)+"%")
		}
	}
}

// share writes an element's width as a share of what holds it.
func (p *pager) share(t *Tag, width string) {
	if len(t.Classes) == 0 {
		return
	}
	if r := p.rules[t.Classes[0]]; r != nil {
		for i, d := range r.block.Declarations {
			if d.Prop == "width" {
				r.block.Declarations[i].Value = width
			}
		}
	}
}
