package computed

import (
	"slices"
	"strings"

	"archetyp/core/css/grammar"
)

// Gradients in the form in which browsers print them.

// image brings gradients to the form in which they are printed.
func image(p []grammar.Part) []grammar.Part {
	out := slices.Clone(p)
	for i := range out {
		if out[i].Kind != grammar.Call || !strings.HasSuffix(out[i].Text, "gradient") || strings.HasPrefix(out[i].Text, "-webkit-") {
			continue
		}
		list := commas(out[i].Args)
		if head := list[0]; !hasColour(head) {
			switch {
			case strings.Contains(out[i].Text, "linear"):
				head = linearHead(head)
			case strings.Contains(out[i].Text, "radial"):
				head = radialHead(head)
			case strings.Contains(out[i].Text, "conic"):
				head = conicHead(head)
			}
			if list[0] = shortWay(head); len(list[0]) == 0 {
				list = list[1:]
			}
		}
		out[i].Args = joined(stops(list)).Parts
	}
	return out
}

func hasColour(p []grammar.Part) bool {
	return slices.ContainsFunc(p, func(x grammar.Part) bool { return x.Kind == grammar.Colour || isColour(&x) })
}

// linearHead leaves out the direction that a gradient has anyway: down.
func linearHead(p []grammar.Part) []grammar.Part {
	switch {
	case len(p) == 2 && p[0].Is("to") && p[1].Is("bottom"), len(p) == 1 && p[0].Kind == grammar.Dimension && p[0].Num == 180 && p[0].Text == "deg":
		return nil
	}
	return p
}

// radialHead leaves out what a gradient is anyway: an ellipse to the farthest corner, a circle where one length is given.
func radialHead(p []grammar.Part) (out []grammar.Part) {
	lengths := 0
	for i := 0; i < len(p) && !p[i].Is("at"); i++ {
		if isLength(p[i]) {
			lengths++
		}
	}
	for i := 0; i < len(p); i++ {
		switch {
		case p[i].Is("at"):
			at, end := centre(p, i)
			out, i = append(out, at...), end-1
		case p[i].Is("farthest-corner"), p[i].Is("ellipse"), p[i].Is("circle") && lengths == 1:
		default:
			out = append(out, p[i])
		}
	}
	return out
}

func isLength(p grammar.Part) bool {
	return p.Kind == grammar.Dimension || p.Kind == grammar.Percentage || p.Kind == grammar.Calc
}

// conicHead leaves out that a gradient begins at the top.
func conicHead(p []grammar.Part) (out []grammar.Part) {
	for i := 0; i < len(p); i++ {
		switch {
		case p[i].Is("from") && i+1 < len(p) && p[i+1].Num == 0 && p[i+1].Kind == grammar.Dimension:
			i++
		case p[i].Is("at"):
			at, end := centre(p, i)
			out, i = append(out, at...), end-1
		default:
			out = append(out, p[i])
		}
	}
	return out
}

// centre reads the centre of a gradient, `at left 10px`, that begins at i: `at` and two lengths, and where it ends.
func centre(p []grammar.Part, i int) (at []grammar.Part, end int) {
	end = len(p)
	if k := slices.IndexFunc(p[i:], func(x grammar.Part) bool { return x.Is("in") }); k > 0 {
		end = i + k
	}
	if place := pointText(p[i+1 : end]); place != nil {
		at = append([]grammar.Part{p[i]}, place...)
	}
	return at, end
}

// stops gives every stop of a gradient its own colour: `red 0 10px` is two stops.
// https://www.w3.org/TR/css-images-4/#color-stop-syntax
func stops(list [][]grammar.Part) (out [][]grammar.Part) {
	for _, l := range list {
		c := slices.IndexFunc(l, func(x grammar.Part) bool { return x.Kind == grammar.Colour || isColour(&x) })
		if c < 0 || len(l) != 3 {
			out = append(out, l)
			continue
		}
		places := slices.Delete(slices.Clone(l), c, c+1)
		out = append(out, []grammar.Part{l[c], places[0]}, []grammar.Part{l[c], places[1]})
	}
	return out
}

// shortWay leaves out that hues go the shorter way, which they do by themselves.
// https://www.w3.org/TR/css-color-4/#hue-interpolation
func shortWay(head []grammar.Part) []grammar.Part {
	for i := range head {
		if head[i].Is("shorter") && i+1 < len(head) && head[i+1].Is("hue") {
			return slices.Delete(slices.Clone(head), i, i+2)
		}
	}
	return head
}
