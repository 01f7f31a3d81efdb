package computed

import "archetyp/core/css/grammar"

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
