package computed

import "archetyp/core/css/grammar"

// Positions of backgrounds, masks and origins.

// pointText is a position as two lengths or percentages.
func pointText(p []grammar.Part) []grammar.Part {
	x, y, ok := position(p)
	if !ok {
		return nil
	}
	return append(edge(x), edge(y)...)
}

func keywordOr(f func([]grammar.Part) []grammar.Part) func([]grammar.Part) []grammar.Part {
	return func(p []grammar.Part) []grammar.Part {
		if len(p) == 1 && (p[0].Is("auto") || p[0].Is("normal")) {
			return p
		}
		return f(p)
	}
}

// edge is a place along one axis as a length or percentage from its beginning.
func edge(p []grammar.Part) []grammar.Part {
	percent := func(v float64) []grammar.Part { return []grammar.Part{{Kind: grammar.Percentage, Num: v}} }
	switch p[0].Keyword() {
	case "center":
		return percent(50)
	case "left", "top", "x-start", "y-start":
		if len(p) == 1 {
			return percent(0)
		}
		return p[1:]
	case "right", "bottom", "x-end", "y-end":
		if len(p) == 1 {
			return percent(100)
		}
		if p[1].Kind == grammar.Percentage {
			return percent(100 - p[1].Num)
		}
		off := p[1].Math
		if p[1].Kind == grammar.Dimension {
			if p[1].Num == 0 {
				return percent(100)
			}
			off = &grammar.Math{Num: p[1].Num, Unit: p[1].Text}
		}
		return []grammar.Part{{Kind: grammar.Calc, Math: (&grammar.Math{Op: "+", Args: []*grammar.Math{{Num: 100, Unit: "%"},
			{Op: "*", Args: []*grammar.Math{{Num: -1}, off}}}}).Simplified(grammar.Fixed)}}
	}
	return p
}

// origin is a transform's origin: across, down and deep.
func origin(p []grammar.Part) []grammar.Part {
	deep := []grammar.Part{}
	if n := len(p); n == 3 {
		p, deep = p[:2], p[2:]
		if deep[0].Num == 0 && deep[0].Kind == grammar.Dimension {
			deep = nil
		}
	}
	out := pointText(p)
	if out == nil {
		return nil
	}
	return append(out, deep...)
}

// bgPosition is the grammar of a position of a background.
var bgPosition = grammar.Must("<bg-position>")

// position reads a position as one across and one down.
func position(parts []grammar.Part) (x, y []grammar.Part, ok bool) {
	out, ok := bgPosition.Match(parts)
	if !ok {
		return nil, nil, false
	}
	vertical := func(p grammar.Part) bool { return p.Is("top") || p.Is("bottom") }
	horizontal := func(p grammar.Part) bool { return p.Is("left") || p.Is("right") }
	centre := word("center")
	switch {
	case len(out) == 1 && vertical(out[0]):
		x, y = centre, out
	case len(out) == 1:
		x, y = out, centre
	case len(out) == 2 && (vertical(out[0]) || horizontal(out[1])):
		x, y = out[1:], out[:1]
	case len(out) == 2:
		x, y = out[:1], out[1:]
	default: // edges with offsets
		var groups [][]grammar.Part
		for _, p := range out {
			if p.Kind == grammar.Word {
				groups = append(groups, nil)
			}
			if len(groups) == 0 {
				return nil, nil, false
			}
			groups[len(groups)-1] = append(groups[len(groups)-1], p)
		}
		if len(groups) != 2 {
			return nil, nil, false
		}
		x, y = groups[0], groups[1]
		if vertical(x[0]) || horizontal(y[0]) {
			x, y = y, x
		}
	}
	a, b := one("background-position-x", x), one("background-position-y", y)
	if a == nil || b == nil {
		return nil, nil, false
	}
	return a.Parts, b.Parts, true
}

func backgroundPosition(names []string, parts []grammar.Part) ([]longhand, bool) {
	all := newLayered(names)
	for _, layer := range commas(parts) {
		x, y, ok := position(layer)
		if !ok {
			return nil, false
		}
		all.begin()
		all.set(0, x)
		all.set(1, y)
	}
	return all.values(), true
}
