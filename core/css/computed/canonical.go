package computed

import (
	"slices"
	"strings"

	"archetyp/core/css/grammar"
)

// Forms to which browsers bring values before they print them.

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

// filters are functions with numbers, for which percentages may be written.
// https://www.w3.org/TR/filter-effects-1/#FilterFunction
func filters(p []grammar.Part) []grammar.Part {
	out := slices.Clone(p)
	for i := range out {
		if a := out[i].Args; out[i].Kind == grammar.Call && len(a) == 1 && a[0].Kind == grammar.Percentage {
			out[i].Args = []grammar.Part{{Kind: grammar.Number, Num: a[0].Num / 100}}
		}
	}
	return out
}

// shape gives the zeros of a polygon their unit.
func shape(p []grammar.Part) []grammar.Part {
	out := slices.Clone(p)
	for i := range out {
		if out[i].Kind != grammar.Call || out[i].Text != "polygon" {
			continue
		}
		out[i].Args = slices.Clone(out[i].Args)
		for k := range out[i].Args {
			if a := &out[i].Args[k]; a.Kind == grammar.Number && a.Num == 0 {
				*a = grammar.Part{Kind: grammar.Dimension, Text: "px"}
			}
		}
	}
	return out
}

// byTag sorts the features or axes of a font by their tags; of one that is named twice the last counts.
// https://www.w3.org/TR/css-fonts-4/#font-feature-settings-prop
func byTag(p []grammar.Part) []grammar.Part {
	var list [][]grammar.Part
	for _, l := range commas(p) {
		if len(l) == 0 || l[0].Kind != grammar.String {
			return p
		}
		list = slices.DeleteFunc(list, func(x []grammar.Part) bool { return x[0].Text == l[0].Text })
		list = append(list, l)
	}
	slices.SortStableFunc(list, func(a, b []grammar.Part) int { return strings.Compare(a[0].Text, b[0].Text) })
	return joined(list).Parts
}

// dashes has a comma between all lengths, wherever commas were written.
func dashes(p []grammar.Part) []grammar.Part {
	var list [][]grammar.Part
	for i := range p {
		if !isComma(p[i]) {
			list = append(list, p[i:i+1])
		}
	}
	return joined(list).Parts
}

// easing brings the words for steps to steps(), and gives every point of linear() its place.
// https://www.w3.org/TR/css-easing-2/#serialization
func easing(p []grammar.Part) []grammar.Part {
	one := grammar.Part{Kind: grammar.Number, Num: 1, Int: true}
	switch {
	case len(p) == 1 && p[0].Is("step-end"):
		return []grammar.Part{{Kind: grammar.Call, Text: "steps", Args: []grammar.Part{one}}}
	case len(p) == 1 && p[0].Is("step-start"):
		return []grammar.Part{{Kind: grammar.Call, Text: "steps", Args: append([]grammar.Part{one, comma}, word("start")...)}}
	case len(p) != 1 || p[0].Kind != grammar.Call:
		return p
	}
	switch args := commas(p[0].Args); p[0].Text {
	case "steps":
		if len(args) == 2 && (args[1][0].Is("end") || args[1][0].Is("jump-end")) {
			args = args[:1]
		}
		return []grammar.Part{{Kind: grammar.Call, Text: "steps", Args: joined(args).Parts}}
	case "linear":
		return []grammar.Part{{Kind: grammar.Call, Text: "linear", Args: joined(linearPoints(args)).Parts}}
	}
	return p
}

// linearPoints gives the points of linear() one place each: `0, 0.25 25% 75%, 1` has four.
func linearPoints(args [][]grammar.Part) [][]grammar.Part {
	type point struct {
		value float64
		at    float64
		known bool
	}
	var list []point
	for _, a := range args {
		p, places := point{}, 0
		for i := range a {
			if a[i].Kind == grammar.Number {
				p.value = a[i].Num
			}
		}
		for i := range a {
			if a[i].Kind == grammar.Percentage {
				list = append(list, point{p.value, a[i].Num, true})
				places++
			}
		}
		if places == 0 {
			list = append(list, p)
		}
	}
	if n := len(list); n > 1 {
		if !list[0].known {
			list[0].known = true
		}
		if !list[n-1].known {
			list[n-1].at, list[n-1].known = 100, true
		}
	}
	largest := 0.0
	for i := range list {
		if list[i].known {
			largest = max(largest, list[i].at)
			list[i].at = largest
		}
	}
	for i := 1; i < len(list); i++ {
		if list[i].known {
			continue
		}
		end := i
		for !list[end].known {
			end++
		}
		from := list[i-1].at
		step := (list[end].at - from) / float64(end-i+1)
		for k := i; k < end; k++ {
			list[k].at, list[k].known = from+step*float64(k-i+1), true
		}
	}
	out := make([][]grammar.Part, len(list))
	for i, p := range list {
		out[i] = []grammar.Part{{Kind: grammar.Number, Num: p.value}, {Kind: grammar.Percentage, Num: p.at}}
	}
	return out
}

// areas are the rows of a grid with one space between the names.
func areas(p []grammar.Part) []grammar.Part {
	out := slices.Clone(p)
	for i := range out {
		if out[i].Kind == grammar.String {
			out[i].Text = strings.Join(strings.Fields(out[i].Text), " ")
		}
	}
	return out
}
