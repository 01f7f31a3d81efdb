package computed

import (
	"slices"
	"strings"

	"archetyp/core/css/grammar"
)

// longhand is a property and the value that a shorthand gives to it.
type longhand struct {
	name  string // a longhand, or a logical one
	value *Value
}

// shorthand takes a value apart; ok is false where it takes no such value.
type shorthand struct {
	names []string // what it sets, in order
	take  func(names []string, parts []grammar.Part) ([]longhand, bool)
}

// shorthands are all of them by name. https://www.w3.org/TR/css-cascade-5/#shorthand
var shorthands = func() map[string]shorthand {
	m := map[string]shorthand{}
	add := func(name, names string, take func([]string, []grammar.Part) ([]longhand, bool)) {
		m[name] = shorthand{strings.Fields(names), take}
	}
	four := func(name, pattern string) {
		var names []string
		for _, side := range []string{"top", "right", "bottom", "left"} {
			names = append(names, strings.Replace(pattern, "*", side, 1))
		}
		m[name] = shorthand{names, sides}
	}
	four("margin", "margin-*")
	four("padding", "padding-*")
	four("inset", "*")
	four("border-width", "border-*-width")
	four("border-style", "border-*-style")
	four("border-color", "border-*-color")
	four("scroll-margin", "scroll-margin-*")
	four("scroll-padding", "scroll-padding-*")
	for _, axis := range []string{"block", "inline"} {
		for _, p := range []string{"margin-*", "padding-*", "inset-*", "scroll-margin-*", "scroll-padding-*", "border-*-width", "border-*-style", "border-*-color"} {
			add(strings.Replace(p, "*", axis, 1), strings.Replace(p, "*", axis+"-start", 1)+" "+strings.Replace(p, "*", axis+"-end", 1), pair)
		}
		for _, end := range []string{"start", "end"} {
			b := "border-" + axis + "-" + end
			add(b, b+"-width "+b+"-style "+b+"-color", anyOrder)
		}
		a, b := "border-"+axis+"-start-", "border-"+axis+"-end-"
		add("border-"+axis, a+"width "+a+"style "+a+"color "+b+"width "+b+"style "+b+"color", allBorders)
	}
	for _, side := range []string{"top", "right", "bottom", "left"} {
		b := "border-" + side
		add(b, b+"-width "+b+"-style "+b+"-color", anyOrder)
	}
	add("border", "border-top-width border-top-style border-top-color border-right-width border-right-style border-right-color border-bottom-width border-bottom-style border-bottom-color border-left-width border-left-style border-left-color border-image-source border-image-slice border-image-width border-image-outset border-image-repeat", allBorders)
	add("border-radius", "border-top-left-radius border-top-right-radius border-bottom-right-radius border-bottom-left-radius", radii)
	add("border-image", "border-image-source border-image-slice border-image-width border-image-outset border-image-repeat", borderImage)
	add("outline", "outline-color outline-style outline-width", anyOrder)
	add("column-rule", "column-rule-width column-rule-style column-rule-color", anyOrder)
	add("text-decoration", "text-decoration-line text-decoration-style text-decoration-color text-decoration-thickness", anyOrder)
	add("text-emphasis", "text-emphasis-style text-emphasis-color", anyOrder)
	add("-webkit-text-stroke", "-webkit-text-stroke-width -webkit-text-stroke-color", anyOrder)
	add("flex-flow", "flex-direction flex-wrap", anyOrder)
	add("columns", "column-width column-count", columns)
	add("list-style", "list-style-position list-style-image list-style-type", listStyle)
	add("flex", "flex-grow flex-shrink flex-basis", flex)
	add("overflow", "overflow-x overflow-y", pair)
	add("overscroll-behavior", "overscroll-behavior-x overscroll-behavior-y", pair)
	add("gap", "row-gap column-gap", pair)
	add("place-content", "align-content justify-content", place)
	add("place-items", "align-items justify-items", place)
	add("place-self", "align-self justify-self", place)
	add("background", "background-image background-position-x background-position-y background-size background-repeat background-attachment background-origin background-clip background-color", background)
	add("background-position", "background-position-x background-position-y", backgroundPosition)
	add("mask", "mask-image mask-position mask-size mask-repeat mask-origin mask-clip mask-composite mask-mode", mask)
	add("font", "font-style font-variant-ligatures font-variant-caps font-variant-alternates font-variant-numeric font-variant-east-asian font-variant-position font-variant-emoji font-weight font-stretch font-size line-height font-family font-size-adjust font-kerning font-optical-sizing font-feature-settings font-variation-settings font-language-override", font)
	add("font-variant", "font-variant-ligatures font-variant-caps font-variant-alternates font-variant-numeric font-variant-east-asian font-variant-position font-variant-emoji", fontVariant)
	add("font-synthesis", "font-synthesis-weight font-synthesis-style font-synthesis-small-caps", fontSynthesis)
	add("transition", "transition-property transition-duration transition-timing-function transition-delay transition-behavior", transition)
	add("animation", "animation-duration animation-timing-function animation-delay animation-iteration-count animation-direction animation-fill-mode animation-play-state animation-name animation-timeline animation-range-start animation-range-end", animation)
	add("white-space", "white-space-collapse text-wrap-mode", whiteSpace)
	add("text-wrap", "text-wrap-mode text-wrap-style", anyOrder)
	add("grid-row", "grid-row-start grid-row-end", gridLines)
	add("grid-column", "grid-column-start grid-column-end", gridLines)
	add("grid-area", "grid-row-start grid-column-start grid-row-end grid-column-end", gridLines)
	add("grid-template", "grid-template-rows grid-template-columns grid-template-areas", gridTemplate)
	add("grid", "grid-template-rows grid-template-columns grid-template-areas grid-auto-rows grid-auto-columns grid-auto-flow", grid)
	add("container", "container-name container-type", container)
	add("marker", "marker-start marker-mid marker-end", same)
	add("all", strings.Join(Longhands(), " "), func([]string, []grammar.Part) ([]longhand, bool) { return nil, false })
	return m
}()

// Longhands are the properties that `all` sets.
func Longhands() (out []string) {
	for _, line := range strings.Split(longhands, "\n") {
		if name, _, ok := strings.Cut(line, ";"); ok && name != "direction" && name != "unicode-bidi" {
			out = append(out, name)
		}
	}
	return out
}

// one reads the value of a longhand or a logical property.
func one(name string, parts []grammar.Part) *Value {
	if l, ok := logicals[name]; ok {
		name = l.like()
	}
	i, ok := table().byName[name]
	if !ok {
		return nil
	}
	return table().take(i, parts)
}

// initial is the initial value of a longhand or a logical property.
func initial(name string) *Value {
	if l, ok := logicals[name]; ok {
		name = l.like()
	}
	return start(id(name))
}

// sides gives one to four values to four sides.
func sides(names []string, parts []grammar.Part) (out []longhand, ok bool) {
	if len(parts) < 1 || len(parts) > 4 {
		return nil, false
	}
	at := [][4]int{{0, 0, 0, 0}, {0, 1, 0, 1}, {0, 1, 2, 1}, {0, 1, 2, 3}}[len(parts)-1]
	for i, name := range names {
		v := one(name, parts[at[i]:at[i]+1])
		if v == nil {
			return nil, false
		}
		out = append(out, longhand{name, v})
	}
	return out, true
}

// pair gives one or two values to two properties.
func pair(names []string, parts []grammar.Part) ([]longhand, bool) {
	if len(parts) < 1 || len(parts) > 2 {
		return nil, false
	}
	a, b := one(names[0], parts[:1]), one(names[1], parts[len(parts)-1:])
	return []longhand{{names[0], a}, {names[1], b}}, a != nil && b != nil
}

// same gives one value to all properties.
func same(names []string, parts []grammar.Part) (out []longhand, ok bool) {
	for _, name := range names {
		v := one(name, parts)
		if v == nil {
			return nil, false
		}
		out = append(out, longhand{name, v})
	}
	return out, true
}

// place gives one or two values, of several words each, to two properties.
func place(names []string, parts []grammar.Part) ([]longhand, bool) {
	if both, ok := same(names, parts); ok {
		return both, true
	}
	if names[0] == "align-content" && len(parts) > 0 && (parts[0].Is("baseline") || len(parts) == 2 && parts[1].Is("baseline")) {
		if a := one(names[0], parts); a != nil { // justify-content knows no baseline
			b := one(names[1], []grammar.Part{{Kind: grammar.Word, Text: "start"}})
			return []longhand{{names[0], a}, {names[1], b}}, true
		}
	}
	for i := 1; i < len(parts); i++ {
		if a, b := one(names[0], parts[:i]), one(names[1], parts[i:]); a != nil && b != nil {
			return []longhand{{names[0], a}, {names[1], b}}, true
		}
	}
	return nil, false
}

// anyOrder gives the parts to the first property that takes them; those that get none get their initial value.
func anyOrder(names []string, parts []grammar.Part) ([]longhand, bool) {
	values := make([]*Value, len(names))
	for len(parts) > 0 {
		found := false
		for i, name := range names {
			if values[i] != nil {
				continue
			}
			for n := len(parts); n > 0 && !found; n-- {
				if v := one(name, parts[:n]); v != nil {
					values[i], parts, found = v, parts[n:], true
				}
			}
			if found {
				break
			}
		}
		if !found {
			return nil, false
		}
	}
	out := make([]longhand, len(names))
	for i, name := range names {
		if values[i] == nil {
			values[i] = initial(name)
		}
		out[i] = longhand{name, values[i]}
	}
	return out, true
}

// allBorders reads `border`, which also resets the border image, and the pairs of logical sides.
func allBorders(names []string, parts []grammar.Part) ([]longhand, bool) {
	first, ok := anyOrder(names[:3], parts)
	if !ok {
		return nil, false
	}
	var out []longhand
	for i, name := range names {
		if strings.HasPrefix(name, "border-image") {
			out = append(out, longhand{name, initial(name)})
			continue
		}
		out = append(out, longhand{name, first[i%3].value})
	}
	return out, true
}

// radii reads `8px 4px / 2px`.
func radii(names []string, parts []grammar.Part) (out []longhand, ok bool) {
	across, down := parts, parts
	if i := slices.IndexFunc(parts, isSlash); i >= 0 {
		across, down = parts[:i], parts[i+1:]
	}
	if len(across) < 1 || len(across) > 4 || len(down) < 1 || len(down) > 4 {
		return nil, false
	}
	at := [][4]int{{0, 0, 0, 0}, {0, 1, 0, 1}, {0, 1, 2, 1}, {0, 1, 2, 3}}
	for i, name := range names {
		v := one(name, []grammar.Part{across[at[len(across)-1][i]], down[at[len(down)-1][i]]})
		if v == nil {
			return nil, false
		}
		out = append(out, longhand{name, v})
	}
	return out, true
}

func isSlash(p grammar.Part) bool { return p.Kind == grammar.Mark && p.Text == "/" }

func isComma(p grammar.Part) bool { return p.Kind == grammar.Mark && p.Text == "," }

// commas cuts parts at commas.
func commas(parts []grammar.Part) [][]grammar.Part { return cut(parts, isComma) }

// slashes cuts parts at slashes.
func slashes(parts []grammar.Part) [][]grammar.Part { return cut(parts, isSlash) }

func cut(parts []grammar.Part, at func(grammar.Part) bool) (out [][]grammar.Part) {
	from := 0
	for i := range parts {
		if at(parts[i]) {
			out = append(out, parts[from:i])
			from = i + 1
		}
	}
	return append(out, parts[from:])
}

// word is a keyword as a value.
func word(text string) []grammar.Part { return []grammar.Part{{Kind: grammar.Word, Text: text}} }

func borderImage(names []string, parts []grammar.Part) ([]longhand, bool) {
	out := make([]longhand, len(names))
	for i, n := range names {
		out[i] = longhand{n, initial(n)}
	}
	seen := [3]bool{}
	for len(parts) > 0 {
		n := 0
		take := func(i int, max int) bool {
			for k := min(len(parts), max); k > 0; k-- {
				if v := one(names[i], parts[:k]); v != nil {
					out[i].value, n = v, k
					return true
				}
			}
			return false
		}
		switch {
		case !seen[0] && take(0, 1):
			seen[0] = true
		case !seen[1] && take(1, 5):
			seen[1] = true
			parts = parts[n:]
			n = 0
			for i := 2; i <= 3 && len(parts) > 0 && isSlash(parts[0]); i++ {
				parts = parts[1:]
				if n = 0; take(i, 4) {
					parts = parts[n:]
				}
				n = 0
			}
		case !seen[2] && take(4, 2):
			seen[2] = true
		default:
			return nil, false
		}
		parts = parts[n:]
	}
	return out, true
}

// columns reads `auto 2`, `12em`: a width and a count in any order, where auto stands for what is not given.
func columns(names []string, parts []grammar.Part) ([]longhand, bool) {
	var given []grammar.Part
	for _, p := range parts {
		if !p.Is("auto") {
			given = append(given, p)
		}
	}
	if len(parts) > 2 || len(parts) == 0 {
		return nil, false
	}
	return anyOrder(names, given)
}

// listStyle reads list-style, where `none` is for whatever else is not given.
func listStyle(names []string, parts []grammar.Part) ([]longhand, bool) {
	var rest []grammar.Part
	nones := 0
	for _, p := range parts {
		if p.Is("none") {
			nones++
			continue
		}
		rest = append(rest, p)
	}
	if nones > 2 || len(parts) == 0 {
		return nil, false
	}
	out, ok := anyOrder(names, rest)
	if !ok {
		return nil, false
	}
	if nones > 0 {
		typed := slices.ContainsFunc(rest, func(p grammar.Part) bool {
			return one(names[2], []grammar.Part{p}) != nil && !p.Is("inside") && !p.Is("outside")
		})
		if !typed {
			out[2].value = one(names[2], word("none"))
		}
	}
	return out, true
}

// flex reads `1`, `1 0 auto`, `none`. https://www.w3.org/TR/css-flexbox-1/#flex-property
func flex(names []string, parts []grammar.Part) ([]longhand, bool) {
	if len(parts) == 1 && parts[0].Is("none") {
		return []longhand{{names[0], number(0)}, {names[1], number(0)}, {names[2], one(names[2], word("auto"))}}, true
	}
	grow, shrink, basis := number(1), number(1), (*Value)(nil)
	numbers := 0
	for i := 0; i < len(parts); i++ {
		switch v := one(names[0], parts[i:i+1]); {
		case v != nil && numbers == 0:
			grow, numbers = v, 1
			if i+1 < len(parts) {
				if s := one(names[1], parts[i+1:i+2]); s != nil {
					shrink, numbers = s, 2
					i++
				}
			}
		case basis == nil && one(names[2], parts[i:i+1]) != nil:
			basis = one(names[2], parts[i:i+1])
		default:
			return nil, false
		}
	}
	if basis == nil {
		basis = one(names[2], []grammar.Part{{Kind: grammar.Percentage}})
	}
	return []longhand{{names[0], grow}, {names[1], shrink}, {names[2], basis}}, len(parts) > 0
}

func number(v float64) *Value {
	return &Value{Parts: []grammar.Part{{Kind: grammar.Number, Num: v, Int: true}}}
}

// whiteSpace reads the old keywords and the new ones.
func whiteSpace(names []string, parts []grammar.Part) ([]longhand, bool) {
	if len(parts) == 1 {
		if pair, ok := map[string][2]string{"normal": {"collapse", "wrap"}, "pre": {"preserve", "nowrap"}, "pre-wrap": {"preserve", "wrap"},
			"pre-line": {"preserve-breaks", "wrap"}, "-webkit-nowrap": {"collapse", "nowrap"}}[parts[0].Keyword()]; ok {
			return []longhand{{names[0], one(names[0], word(pair[0]))}, {names[1], one(names[1], word(pair[1]))}}, true
		}
	}
	return anyOrder(names, parts)
}

func container(names []string, parts []grammar.Part) ([]longhand, bool) {
	before, after := parts, word("normal")
	if i := slices.IndexFunc(parts, isSlash); i >= 0 {
		before, after = parts[:i], parts[i+1:]
	}
	a, b := one(names[0], before), one(names[1], after)
	return []longhand{{names[0], a}, {names[1], b}}, a != nil && b != nil
}
