package pdf

import (
	"fmt"
	"math"
	"strings"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// mostTurns is how often a repeated gradient is written out at most.
const mostTurns = 64

// turns is between which whole multiples of its line a gradient must be written out to cover a box of its own space:
// 0 and 1 for one that is padded.
func turns(g *design.Gradient, box geom.Rect) (from, to float64) {
	if g.Spread != "repeat" && g.Spread != "reflect" {
		return 0, 1
	}
	from, to = 0, 1
	for _, p := range box.Path().Points {
		var t float64
		if g.R1 > 0 {
			t = p.Sub(g.P1).Len()/g.R1 + 1
		} else {
			d := g.P1.Sub(g.P0)
			q := p.Sub(g.P0)
			t = (q.X*d.X + q.Y*d.Y) / (d.X*d.X + d.Y*d.Y)
		}
		from, to = math.Min(from, math.Floor(t)), math.Max(to, math.Ceil(t))
	}
	if g.R1 > 0 {
		from = 0
	}
	return math.Max(from, -mostTurns), math.Min(to, mostTurns)
}

func translucent(g *design.Gradient) bool {
	for _, s := range g.Stops {
		if s.Color.Alpha < 1 {
			return true
		}
	}
	return false
}

// shading is a gradient's colours, or its alphas as greys, between two multiples of its line.
func (w *writer) shading(g *design.Gradient, from, to float64, alphas bool) int {
	space := "/DeviceRGB"
	if alphas {
		space = "/DeviceGray"
	}
	at := func(t float64) geom.Point { return g.P0.Lerp(g.P1, t) }
	coords, kind := numbers(at(from).X, at(from).Y, at(to).X, at(to).Y), 2
	if g.R1 > 0 {
		focus := g.P0
		if d := focus.Sub(g.P1); d.Len() > 0.9999*g.R1 { // a focal point outside goes to the edge
			focus = g.P1.Add(d.Mul(0.9999 * g.R1 / d.Len()))
		}
		a, b := focus.Lerp(g.P1, from), focus.Lerp(g.P1, to)
		coords, kind = numbers(a.X, a.Y, g.R0+(g.R1-g.R0)*from, b.X, b.Y, g.R0+(g.R1-g.R0)*to), 3
	}
	return w.object(fmt.Sprintf("<</ShadingType %d/ColorSpace%s/Coords[%s]/Domain[%s]/Extend[true true]/Function %d 0 R>>",
		kind, space, coords, numbers(from, to), w.ramp(g, from, to, alphas)))
}

// ramp is the function from a place on the line to a colour: straight lines between the stops.
func (w *writer) ramp(g *design.Gradient, from, to float64, alphas bool) int {
	value := func(s design.Stop) string {
		if alphas {
			return num(s.Color.Alpha)
		}
		return rgb(s.Color)
	}
	var functions, bounds, encode []string
	last := from
	piece := func(a, b design.Stop, end float64) {
		if end <= last+1e-9 {
			return
		}
		functions = append(functions,
			fmt.Sprintf("%d 0 R", w.object(fmt.Sprintf("<</FunctionType 2/Domain[0 1]/C0[%s]/C1[%s]/N 1>>", value(a),
				value(b)))))
		bounds = append(bounds, num(end))
		encode = append(encode, "0 1")
		last = end
	}
	for turn := from; turn < to; turn++ {
		stops := g.Stops
		if g.Spread == "reflect" && int(math.Abs(turn))%2 == 1 {
			stops = make([]design.Stop, len(g.Stops))
			for i, s := range g.Stops {
				s.Offset = 1 - s.Offset
				stops[len(stops)-1-i] = s
			}
		}
		prev := stops[0]
		piece(prev, prev, turn+prev.Offset)
		for _, s := range stops[1:] {
			piece(prev, s, turn+s.Offset)
			prev = s
		}
		piece(prev, prev, turn+1)
	}
	if len(functions) == 1 {
		var n int
		fmt.Sscan(functions[0], &n)
		return n
	}
	return w.object(fmt.Sprintf("<</FunctionType 3/Domain[%s]/Functions[%s]/Bounds[%s]/Encode[%s]>>", numbers(from, to),
		strings.Join(functions, " "),
		strings.Join(bounds[:len(bounds)-1], " "), strings.Join(encode, " ")))
}
