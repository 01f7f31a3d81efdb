package computed

import (
	"math"
	"slices"
	"strconv"
	"strings"
	"sync"

	"archetyp/core/css/grammar"
	"archetyp/core/markup"
)

// canonicals are made when they are first used: they refer to the table, and it to them.
var canonicals struct {
	once   sync.Once
	byName map[string]func([]grammar.Part) []grammar.Part
}

// canonical is what brings values of a property to the form in which they are kept, where the order of the grammar is
// not enough; nil for most. It gives nil for a value that the property does not take.
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
			"font-family": families, "position": unprefixed, "cursor": unprefixed,
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

// image brings gradients to the form in which they are printed.
func image(p []grammar.Part) []grammar.Part {
	out := slices.Clone(p)
	for i := range out {
		if out[i].Kind != grammar.Call || !strings.HasSuffix(out[i].Text, "gradient") || strings.HasPrefix(out[i].Text, "-webkit-") {
			continue
		}
		list := commas(out[i].Args)
		head := list[0]
		switch {
		case strings.Contains(out[i].Text, "linear") && len(head) == 2 && head[0].Is("to") && head[1].Is("bottom"),
			strings.Contains(out[i].Text, "linear") && len(head) == 1 && head[0].Kind == grammar.Dimension && head[0].Num == 180 && head[0].Text == "deg":
			list = list[1:]
		case strings.Contains(out[i].Text, "radial"):
			if head = radialHead(head); len(head) == 0 && len(list) > 1 && !hasStop(list[0]) {
				list = list[1:]
			} else if !hasStop(list[0]) {
				list[0] = head
			}
		case strings.Contains(out[i].Text, "conic") && !hasStop(head):
			if head = conicHead(head); len(head) == 0 {
				list = list[1:]
			} else {
				list[0] = head
			}
		}
		list[0] = shortWay(list[0])
		out[i].Args = joined(stops(list)).Parts
	}
	return out
}

func hasStop(p []grammar.Part) bool {
	return slices.ContainsFunc(p, func(x grammar.Part) bool { return x.Kind == grammar.Colour || isColour(&x) }) || len(p) == 0
}

// radialHead leaves out what is so by itself: an ellipse to the farthest corner; the place is two lengths.
func radialHead(p []grammar.Part) (out []grammar.Part) {
	if hasStop(p) {
		return p
	}
	sized := slices.ContainsFunc(p, func(x grammar.Part) bool {
		return x.Kind == grammar.Dimension || x.Kind == grammar.Percentage || x.Kind == grammar.Calc
	})
	for i := 0; i < len(p); i++ {
		switch {
		case p[i].Is("at"):
			end := len(p)
			if k := slices.IndexFunc(p[i:], func(x grammar.Part) bool { return x.Is("in") }); k > 0 {
				end = i + k
			}
			if at := pointText(p[i+1 : end]); at != nil {
				out = append(append(out, p[i]), at...)
			}
			i = end - 1
		case p[i].Is("farthest-corner"), p[i].Is("ellipse") && (!sized || true) && !onlyWord(p, "ellipse"):
		case p[i].Is("ellipse"):
		case p[i].Is("circle") && sized && countLengths(p) == 1:
		default:
			out = append(out, p[i])
		}
	}
	return out
}

func onlyWord(p []grammar.Part, w string) bool { return len(p) == 1 && p[0].Is(w) }

func countLengths(p []grammar.Part) (n int) {
	for i := range p {
		if p[i].Is("at") {
			break
		}
		if p[i].Kind == grammar.Dimension || p[i].Kind == grammar.Percentage || p[i].Kind == grammar.Calc {
			n++
		}
	}
	return n
}

func conicHead(p []grammar.Part) (out []grammar.Part) {
	for i := 0; i < len(p); i++ {
		switch {
		case p[i].Is("from") && i+1 < len(p) && p[i+1].Num == 0 && p[i+1].Kind == grammar.Dimension:
			i++
		case p[i].Is("at"):
			end := len(p)
			if k := slices.IndexFunc(p[i:], func(x grammar.Part) bool { return x.Is("in") }); k > 0 {
				end = i + k
			}
			if at := pointText(p[i+1 : end]); at != nil {
				out = append(append(out, p[i]), at...)
			}
			i = end - 1
		default:
			out = append(out, p[i])
		}
	}
	return out
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
			case "-webkit-sticky", "-webkit-grab", "-webkit-grabbing", "-webkit-zoom-in", "-webkit-zoom-out":
				out[i].Text = strings.TrimPrefix(w, "-webkit-")
			case "hand":
				out[i].Text = "pointer"
			}
		}
	}
	return out
}

// computing is what becomes of values beside their units and colours.
var computing = map[string]func(*Style, *Value) *Value{
	"border-top-width": lineWidth, "border-right-width": lineWidth, "border-bottom-width": lineWidth, "border-left-width": lineWidth,
	"outline-width": lineWidth, "column-rule-width": lineWidth, "-webkit-text-stroke-width": strokeWidth,
	"opacity": share, "fill-opacity": share, "stroke-opacity": share, "stop-opacity": share, "flood-opacity": share, "shape-image-threshold": share,
	"font-stretch": stretch, "word-spacing": spacing, "text-align": matchParent, "zoom": zoom, "scale": factors,
	"font-feature-settings": features, "baseline-shift": shift, "outline-offset": whole, "stroke-width": inPx, "stroke-dashoffset": inPx, "stroke-dasharray": inPx,
}

// inPx gives numbers of SVG their unit.
func inPx(_ *Style, v *Value) *Value {
	out := slices.Clone(v.Parts)
	for i := range out {
		if out[i].Kind == grammar.Number {
			out[i] = grammar.Part{Kind: grammar.Dimension, Num: out[i].Num, Text: "px"}
		}
	}
	return &Value{Parts: out}
}

// whole is a length in whole px, towards zero.
func whole(_ *Style, v *Value) *Value {
	if p := v.Parts[0]; p.Kind == grammar.Dimension && p.Num != math.Trunc(p.Num) {
		if p.Num > 0 && p.Num < 1 {
			return px(1)
		}
		return px(math.Trunc(p.Num))
	}
	return v
}

// lineWidth is a width in whole px, and at least one: https://www.w3.org/TR/css-values-4/#snap-a-length-as-a-border-width
func lineWidth(_ *Style, v *Value) *Value {
	w, ok := map[string]float64{"thin": 1, "medium": 3, "thick": 5}[v.Parts[0].Keyword()]
	if !ok {
		w = v.Parts[0].Num
	}
	switch {
	case w > 0 && w < 1:
		w = 1
	default:
		w = math.Floor(w)
	}
	return px(w)
}

func strokeWidth(_ *Style, v *Value) *Value {
	if w, ok := map[string]float64{"thin": 1, "medium": 3, "thick": 5}[v.Parts[0].Keyword()]; ok {
		return px(w)
	}
	return v
}

func share(_ *Style, v *Value) *Value {
	n := v.Parts[0].Num
	if v.Parts[0].Kind == grammar.Percentage {
		n /= 100
	}
	return &Value{Parts: []grammar.Part{{Kind: grammar.Number, Num: max(0, min(1, n))}}}
}

func stretch(_ *Style, v *Value) *Value {
	if n, ok := map[string]float64{"normal": 100, "ultra-condensed": 50, "extra-condensed": 62.5, "condensed": 75, "semi-condensed": 87.5, "semi-expanded": 112.5,
		"expanded": 125, "extra-expanded": 150, "ultra-expanded": 200}[v.Parts[0].Keyword()]; ok {
		return &Value{Parts: []grammar.Part{{Kind: grammar.Percentage, Num: n}}}
	}
	return v
}

func spacing(_ *Style, v *Value) *Value {
	if v.Parts[0].Is("normal") {
		return px(0)
	}
	return v
}

func matchParent(s *Style, v *Value) *Value {
	switch v.Parts[0].Keyword() {
	case "match-parent":
		if s.parent != nil {
			return s.parent.value(id("text-align"))
		}
		return &Value{Parts: word("start")}
	case "-webkit-match-parent":
		if s.parent == nil {
			return &Value{Parts: word("start")}
		}
		above, rtl := s.parent.word("text-align"), s.parent.word("direction") == "rtl"
		switch {
		case above == "start" && !rtl, above == "end" && rtl:
			above = "left"
		case above == "start", above == "end":
			above = "right"
		}
		return &Value{Parts: word(above)}
	case "-internal-center": // of th: in the middle where nothing above says otherwise
		if s.parent != nil && s.parent.word("text-align") != "start" {
			return s.parent.value(id("text-align"))
		}
		return &Value{Parts: word("-internal-center")}
	}
	return v
}

func zoom(_ *Style, v *Value) *Value {
	p := v.Parts[0]
	n := p.Num
	if p.Kind == grammar.Percentage {
		n /= 100
	}
	if p.Kind == grammar.Word || n == 0 {
		n = 1
	}
	return &Value{Parts: []grammar.Part{{Kind: grammar.Number, Num: n}}}
}

func factors(_ *Style, v *Value) *Value {
	out := slices.Clone(v.Parts)
	for i := range out {
		if out[i].Kind == grammar.Percentage {
			out[i] = grammar.Part{Kind: grammar.Number, Num: out[i].Num / 100}
		}
	}
	if len(out) == 3 && out[2].Num == 1 {
		out = out[:2]
	}
	return &Value{Parts: oneIfSame(out)}
}

func features(_ *Style, v *Value) *Value {
	var out []grammar.Part
	for _, p := range v.Parts {
		if p.Is("on") || p.Kind == grammar.Number && p.Num == 1 {
			continue
		}
		if p.Is("off") {
			p = grammar.Part{Kind: grammar.Number, Int: true}
		}
		out = append(out, p)
	}
	return &Value{Parts: out}
}

func shift(_ *Style, v *Value) *Value {
	if v.Parts[0].Is("baseline") {
		return px(0)
	}
	return v
}

// adjust changes what other properties of the element force.
func (s *Style) adjust() {
	position, float := s.word("position"), s.word("float")
	out := position == "absolute" || position == "fixed"
	if out && float != "none" {
		s.set(id("float"), start(id("float")))
		float = "none"
	}
	d := s.word("display")
	if d == "contents" && s.parent == nil {
		s.set(id("display"), &Value{Parts: word("block")})
	}
	if d != "none" && d != "contents" {
		box := s.parent
		for box != nil && box.word("display") == "contents" {
			box = box.parent
		}
		item := false
		if box != nil {
			switch box.word("display") {
			case "flex", "inline-flex", "grid", "inline-grid", "-webkit-box", "-webkit-inline-box":
				item = true
			}
		}
		if out || float != "none" || item || s.parent == nil && s.part == "" {
			if b := blockLevel(s.value(id("display"))); b != nil {
				s.set(id("display"), b)
			}
		}
	}
	x, y := s.word("overflow-x"), s.word("overflow-y")
	scrolls := func(w string) bool { return w != "visible" && w != "clip" }
	if x == "overlay" {
		x = "auto"
		s.set(id("overflow-x"), &Value{Parts: word(x)})
	}
	if y == "overlay" {
		y = "auto"
		s.set(id("overflow-y"), &Value{Parts: word(y)})
	}
	force := func(name, was string) {
		s.set(id(name), &Value{Parts: word(map[string]string{"visible": "auto", "clip": "hidden"}[was])})
	}
	switch {
	case scrolls(x) && !scrolls(y):
		force("overflow-y", y)
	case scrolls(y) && !scrolls(x):
		force("overflow-x", x)
	}
	for _, side := range []string{"top", "right", "bottom", "left"} {
		w := id("border-" + side + "-width")
		if st := s.word("border-" + side + "-style"); st == "none" || st == "hidden" {
			if s.value(w).Parts[0].Num != 0 || s.value(w).Parts[0].Kind == grammar.Word {
				s.set(w, px(0))
			}
		} else if s.value(w).Parts[0].Kind == grammar.Word {
			s.set(w, px(3))
		}
	}
	for _, name := range []string{"outline-width", "column-rule-width"} {
		if s.value(id(name)).Parts[0].Kind == grammar.Word {
			s.set(id(name), px(3))
		}
	}
	s.adjustControl()
	if c := id("content"); s.part == "" && s.value(c).Parts[0].Is("none") { // only pseudo-elements have none
		s.set(c, initial("content"))
	}
	if s.part == "" && s.node.Space == markup.SVG {
		for _, name := range notDrawn {
			if i, ok := table().byName[name]; ok {
				s.set(i, initial(name))
			}
		}
	}
	if ta := id("text-align"); s.value(ta).Parts[0].Is("-internal-center") {
		s.set(ta, &Value{Parts: word("center")})
	}
}

// adjustControl changes what browsers force on the controls of forms.
func (s *Style) adjustControl() {
	if s.part != "" || !s.node.HTML {
		return
	}
	switch s.node.Local {
	case "input", "button", "select", "textarea", "meter", "progress":
		if s.word("display") == "inline" {
			s.set(id("display"), &Value{Parts: word("inline-block")})
		}
	}
	if s.word("appearance") == "none" {
		return
	}
	kind, _ := s.node.Attr("type")
	switch kind = strings.ToLower(kind); {
	case s.node.Local == "select" && !isList(s):
		s.set(id("line-height"), &Value{Parts: word("normal")})
	case s.node.Local == "input" && (kind == "checkbox" || kind == "radio"):
		for _, side := range []string{"top", "right", "bottom", "left"} {
			for _, what := range []string{"-style", "-color"} {
				s.set(id("border-"+side+what), initial("border-"+side+what))
			}
			s.set(id("border-"+side+"-width"), px(0))
			s.set(id("padding-"+side), px(0))
		}
		round := px(0)
		if kind == "radio" {
			round = &Value{Parts: []grammar.Part{grammar.Plain(50, grammar.OfPercentage)}}
		}
		for _, corner := range []string{"top-left", "top-right", "bottom-right", "bottom-left"} {
			s.set(id("border-"+corner+"-radius"), round)
		}
	}
}

// isList reports whether a select shows its options in the page, and not in a menu.
func isList(s *Style) bool {
	_, multiple := s.node.Attr("multiple")
	size, _ := s.node.Attr("size")
	n, err := strconv.Atoi(strings.TrimSpace(size))
	return multiple || err == nil && n > 1
}

// notDrawn are the properties of decorated text that browsers do not draw in SVG, and take back.
var notDrawn = []string{"text-decoration-skip-ink", "text-decoration-style", "text-decoration-thickness", "text-emphasis-style", "text-underline-offset", "text-underline-position"}

// blockLevel is the display of a box that stands as a block; nil where it does so already.
func blockLevel(v *Value) *Value {
	to, ok := map[string]string{"inline": "block", "inline-block": "block", "inline-table": "table", "inline-flex": "flex", "inline-grid": "grid",
		"table-row-group": "block", "table-header-group": "block", "table-footer-group": "block", "table-row": "block", "table-cell": "block",
		"table-column-group": "block", "table-column": "block", "table-caption": "block", "-webkit-inline-box": "-webkit-box", "ruby": "block ruby",
		"ruby-text": "block", "ruby-base": "block"}[v.Parts[0].Keyword()]
	if !ok {
		return nil
	}
	var parts []grammar.Part
	for _, w := range strings.Fields(to) {
		parts = append(parts, word(w)...)
	}
	return &Value{Parts: parts}
}

// printing is how values are printed that are not printed as they are kept.
var printing = map[string]func(*Style, *Value) string{
	"line-height": func(s *Style, v *Value) string {
		if p := v.Parts[0]; p.Kind == grammar.Number {
			return num(p.Num*s.size) + "px"
		}
		return Text(v.Parts)
	},
	"caret-color": func(s *Style, v *Value) string {
		if v.Parts[0].Is("auto") {
			return Text([]grammar.Part{s.colour})
		}
		return Text(s.painted(v.Parts))
	},
	"font-family": func(_ *Style, v *Value) string {
		var b strings.Builder
		for i, p := range v.Parts {
			switch {
			case isComma(p):
				b.WriteString(", ")
				continue
			case p.Kind == grammar.String && plainName(p.Text):
				b.WriteString(p.Text)
			case i >= 0:
				writePart(&b, &p)
			}
		}
		return b.String()
	},
	"letter-spacing": func(_ *Style, v *Value) string {
		if p := v.Parts[0]; p.Kind == grammar.Dimension && p.Num == 0 {
			return "normal"
		}
		return Text(v.Parts)
	},
	"transform":         func(s *Style, v *Value) string { return transformText(s.painted(v.Parts)) },
	"font-stretch":      func(_ *Style, v *Value) string { return Text(stretch(nil, v).Parts) },
	"border-spacing":    func(_ *Style, v *Value) string { return Text(oneIfSame(v.Parts)) },
	"word-spacing":      func(_ *Style, v *Value) string { return Text(spacing(nil, v).Parts) },
	"font-weight":       func(s *Style, v *Value) string { return Text(s.fontWeight(v).Parts) },
	"outline-color":     func(s *Style, v *Value) string { return Text(s.painted(v.Parts)) },
	"vertical-align":    func(_ *Style, v *Value) string { return Text(v.Parts) },
	"-webkit-box-align": func(_ *Style, v *Value) string { return Text(v.Parts) },
}

// plainName reports whether the name of a family can stand without quotes: it is one identifier, and no generic family.
func plainName(s string) bool {
	if s == "" || s[0] >= '0' && s[0] <= '9' {
		return false
	}
	for i := 0; i < len(s); i++ {
		c := s[i]
		if !(c == '-' || c == '_' || c >= '0' && c <= '9' || c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= 0x80) {
			return false
		}
	}
	switch strings.ToLower(s) {
	case "serif", "sans-serif", "monospace", "cursive", "fantasy", "system-ui", "math", "inherit", "initial", "unset", "default":
		return false
	}
	return true
}

// quirky reads lengths without a unit and colours without #, as pages without a doctype may write them; nil for none.
// https://quirks.spec.whatwg.org/
func quirky(name, text string) *Value {
	parts, err := grammar.Parts(text)
	if err != nil || len(parts) != 1 {
		return nil
	}
	switch {
	case parts[0].Kind == grammar.Number && quirkLengths[name]:
		return table().take(id(name), []grammar.Part{{Kind: grammar.Dimension, Num: parts[0].Num, Text: "px"}})
	case strings.HasSuffix(name, "color") && (len(text) == 3 || len(text) == 6):
		return table().read(id(name), "#"+text)
	}
	return nil
}

var quirkLengths = map[string]bool{"border-top-width": true, "border-right-width": true, "border-bottom-width": true, "border-left-width": true, "bottom": true, "top": true,
	"left": true, "right": true, "font-size": true, "height": true, "width": true, "letter-spacing": true, "margin-top": true, "margin-right": true, "margin-bottom": true,
	"margin-left": true, "max-height": true, "max-width": true, "min-height": true, "min-width": true, "padding-top": true, "padding-right": true, "padding-bottom": true,
	"padding-left": true, "text-indent": true, "vertical-align": true, "word-spacing": true}
