package computed

import (
	"slices"
	"strings"
	"sync"

	"archetyp/core/css"
	"archetyp/core/css/grammar"
)

// canonicals are made when they are first used: they refer to the table, and it to them.
var canonicals struct {
	once   sync.Once
	byName map[string]func([]grammar.Part) []grammar.Part
}

// canonical brings values of a property to the form in which they are kept, where the order of the grammar is not enough;
// nil for most. It gives nil for a value that the property does not take.
func canonical(name string) func([]grammar.Part) []grammar.Part {
	canonicals.once.Do(func() {
		canonicals.byName = map[string]func([]grammar.Part) []grammar.Part{
			"background-repeat": eachLayer(repeat), "mask-repeat": eachLayer(repeat),
			"background-size": eachLayer(size), "mask-size": eachLayer(size),
			"border-top-left-radius": oneIfSame, "border-top-right-radius": oneIfSame, "border-bottom-right-radius": oneIfSame, "border-bottom-left-radius": oneIfSame,
			"border-spacing": twice,
			"display":        display, "align-content": baseline, "align-items": baseline, "align-self": baseline, "justify-items": baseline, "justify-self": baseline,
			"box-shadow": eachLayer(shadow), "text-shadow": eachLayer(textShadow),
			"aspect-ratio": ratio, "scroll-snap-align": oneIfSame, "border-image-repeat": oneIfSame,
			"mask-position": eachLayer(pointText), "object-position": pointText, "offset-anchor": keywordOr(pointText), "offset-position": keywordOr(pointText),
			"perspective-origin": pointText, "transform-origin": origin, "grid-auto-flow": gridFlow,
			"background-position-x": eachLayer(edge), "background-position-y": eachLayer(edge),
			"counter-increment": counters(1), "counter-reset": counters(0), "counter-set": counters(0),
			"background-image": eachLayer(image), "mask-image": eachLayer(image), "list-style-image": image, "border-image-source": image,
			"filter": filters, "backdrop-filter": filters, "clip-path": shape, "stroke-dasharray": dashes, "grid-template-areas": areas,
			"font-feature-settings": byTag, "font-variation-settings": byTag,
			"transition-timing-function": eachLayer(easing), "animation-timing-function": eachLayer(easing),
			"font-family": families, "cursor": unprefixed, "rotate": rotation, "animation-name": eachLayer(animationName),
		}
	})
	return canonicals.byName[name]
}

func eachLayer(f func([]grammar.Part) []grammar.Part) func([]grammar.Part) []grammar.Part {
	return func(parts []grammar.Part) (out []grammar.Part) {
		for i, l := range commas(parts) {
			if i > 0 {
				out = append(out, comma)
			}
			l = f(l)
			if l == nil {
				return nil
			}
			out = append(out, l...)
		}
		return out
	}
}

func samePart(a, b *grammar.Part) bool {
	return Text([]grammar.Part{*a}) == Text([]grammar.Part{*b})
}

func oneIfSame(p []grammar.Part) []grammar.Part {
	if len(p) == 2 && samePart(&p[0], &p[1]) {
		return p[:1]
	}
	return p
}

func twice(p []grammar.Part) []grammar.Part {
	if len(p) == 1 {
		return []grammar.Part{p[0], p[0]}
	}
	return p
}

func repeat(p []grammar.Part) []grammar.Part {
	if len(p) == 2 {
		switch {
		case p[0].Is("repeat") && p[1].Is("no-repeat"):
			return word("repeat-x")
		case p[0].Is("no-repeat") && p[1].Is("repeat"):
			return word("repeat-y")
		}
	}
	return oneIfSame(p)
}

func size(p []grammar.Part) []grammar.Part {
	if len(p) == 2 && p[0].Is("auto") && p[1].Is("auto") {
		return p[:1]
	}
	if len(p) == 1 && p[0].Kind != grammar.Word {
		return append(slices.Clone(p), word("auto")...)
	}
	return p
}

func baseline(p []grammar.Part) []grammar.Part {
	if len(p) == 2 && p[0].Is("first") {
		return p[1:]
	}
	return p
}

// shadow fills in what a shadow leaves out: colour, then four lengths.
func shadow(p []grammar.Part) []grammar.Part { return filledShadow(p, 4) }

func textShadow(p []grammar.Part) []grammar.Part { return filledShadow(p, 3) }

func filledShadow(p []grammar.Part, lengths int) []grammar.Part {
	if len(p) == 1 && p[0].Is("none") {
		return p
	}
	var out, tail []grammar.Part
	n := 0
	for i := range p {
		switch {
		case p[i].Is("inset"):
			tail = append(tail, p[i])
		case p[i].Kind == grammar.Dimension || p[i].Kind == grammar.Calc:
			if n == 0 && len(out) == 0 {
				out = append(out, grammar.Part{Kind: grammar.Word, Text: "currentcolor", Late: true})
			}
			out = append(out, p[i])
			n++
		default:
			out = append(out, p[i])
		}
	}
	for ; n < lengths; n++ {
		out = append(out, grammar.Part{Kind: grammar.Dimension, Text: "px"})
	}
	return append(out, tail...)
}

// display brings the words of `display` to the short ones. https://www.w3.org/TR/css-display-3/#the-display-properties
func display(p []grammar.Part) []grammar.Part {
	var words []string
	for i := range p {
		words = append(words, p[i].Keyword())
	}
	joined := strings.Join(words, " ")
	if short, ok := map[string]string{"block flow": "block", "block flow-root": "flow-root", "inline flow": "inline", "inline flow-root": "inline-block",
		"block table": "table", "inline table": "inline-table", "block flex": "flex", "inline flex": "inline-flex", "block grid": "grid", "inline grid": "inline-grid",
		"block flow list-item": "list-item", "block list-item": "list-item", "flow list-item": "list-item", "inline ruby": "ruby", "block": "block", "inline": "inline",
		"flow": "block", "-webkit-flex": "flex", "-webkit-inline-flex": "inline-flex", "inline flow list-item": "inline list-item", "block flow-root list-item": "flow-root list-item"}[joined]; ok {
		p = nil
		for _, w := range strings.Fields(short) {
			p = append(p, word(w)...)
		}
	}
	return p
}

func ratio(p []grammar.Part) []grammar.Part {
	if n := len(p); p[n-1].Kind == grammar.Number && (n == 1 || !isSlash(p[n-2])) {
		p = append(slices.Clone(p), grammar.Part{Kind: grammar.Mark, Text: "/"}, grammar.Part{Kind: grammar.Number, Num: 1})
	}
	return p
}

func gridFlow(p []grammar.Part) []grammar.Part {
	if len(p) == 2 && p[0].Is("row") {
		return p[1:]
	}
	return p
}

// counters gives counters the number they have where none is written.
func counters(by float64) func([]grammar.Part) []grammar.Part {
	return func(p []grammar.Part) (out []grammar.Part) {
		if len(p) == 1 && p[0].Is("none") {
			return p
		}
		for i := range p {
			out = append(out, p[i])
			if p[i].Kind == grammar.Word && (i+1 == len(p) || p[i+1].Kind == grammar.Word) {
				out = append(out, grammar.Part{Kind: grammar.Number, Num: by, Int: true})
			}
		}
		return out
	}
}

// families makes one name of the words of each family.
func families(p []grammar.Part) (out []grammar.Part) {
	for i, l := range commas(p) {
		if i > 0 {
			out = append(out, comma)
		}
		if len(l) == 1 {
			out = append(out, l[0])
			continue
		}
		var words []string
		for k := range l {
			words = append(words, l[k].Text)
		}
		out = append(out, grammar.Part{Kind: grammar.String, Text: strings.Join(words, " ")})
	}
	return out
}

func unprefixed(p []grammar.Part) []grammar.Part {
	out := slices.Clone(p)
	for i := range out {
		if out[i].Kind == grammar.Word {
			switch w := out[i].Keyword(); w {
			case "-webkit-grab", "-webkit-grabbing", "-webkit-zoom-in", "-webkit-zoom-out":
				out[i].Text = strings.TrimPrefix(w, "-webkit-")
			case "hand":
				out[i].Text = "pointer"
			}
		}
	}
	return out
}

// filters are functions with numbers, for which percentages may be written.
// https://www.w3.org/TR/filter-effects-1/#FilterFunction
func filters(p []grammar.Part) []grammar.Part {
	out := slices.Clone(p)
	for i := range out {
		if a := out[i].Args; out[i].Kind == grammar.Call && len(a) == 1 && a[0].Kind == grammar.Percentage {
			out[i].Args = []grammar.Part{{Kind: grammar.Number, Num: a[0].Num / 100}}
		}
		if out[i].Kind == grammar.Call && out[i].Text == "drop-shadow" {
			out[i].Args = textShadow(out[i].Args)
		}
	}
	return out
}

// rotation names the axis of a turn in space, where it has a name: "1 0 0 30deg" is "x 30deg".
func rotation(p []grammar.Part) []grammar.Part {
	if len(p) != 4 {
		return p
	}
	axis := [3]float64{}
	for i := range axis {
		if p[i].Kind != grammar.Number {
			return p
		}
		axis[i] = p[i].Num
	}
	switch axis {
	case [3]float64{1, 0, 0}:
		return []grammar.Part{{Kind: grammar.Word, Text: "x"}, p[3]}
	case [3]float64{0, 1, 0}:
		return []grammar.Part{{Kind: grammar.Word, Text: "y"}, p[3]}
	case [3]float64{0, 0, 1}:
		return p[3:]
	}
	return p
}

// animationName writes a name without quotation marks, where it is a word without them.
func animationName(p []grammar.Part) []grammar.Part {
	if len(p) == 1 && p[0].Kind == grammar.String && css.Ident(p[0].Text) == p[0].Text && !strings.EqualFold(p[0].Text, "none") {
		return []grammar.Part{{Kind: grammar.Word, Text: p[0].Text}}
	}
	return p
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
