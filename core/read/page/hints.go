package page

import (
	"strconv"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/markup"
)

// presentation are the attributes of SVG that stand for properties.
// https://www.w3.org/TR/SVG2/styling.html#PresentationAttributes
var presentation = func() map[string]bool {
	m := map[string]bool{}
	for _, n := range strings.Fields(`alignment-baseline baseline-shift clip-path clip-rule color color-interpolation color-interpolation-filters cursor direction display
		dominant-baseline fill fill-opacity fill-rule filter flood-color flood-opacity font-family font-size font-size-adjust font-stretch font-style font-variant font-weight
		image-rendering letter-spacing lighting-color marker-end marker-mid marker-start mask mask-type opacity overflow paint-order pointer-events shape-rendering stop-color
		stop-opacity stroke stroke-dasharray stroke-dashoffset stroke-linecap stroke-linejoin stroke-miterlimit stroke-opacity stroke-width text-anchor text-decoration
		text-overflow text-rendering transform-origin unicode-bidi vector-effect visibility white-space word-spacing writing-mode`) {
		m[n] = true
	}
	return m
}()

// geometry are the attributes of SVG elements that are properties there.
var geometry = map[string]string{"svg": "x y width height", "rect": "x y width height rx ry", "image": "x y width height", "foreignObject": "x y width height",
	"use": "x y width height", "circle": "cx cy r", "ellipse": "cx cy rx ry", "path": "d"}

// hints are what attributes of an element declare. https://html.spec.whatwg.org/multipage/rendering.html#presentational-hints
func hints(n *markup.Node) (out []css.Decl) {
	add := func(prop, value string) { out = append(out, css.Decl{Prop: prop, Value: value, Offset: n.Offset}) }
	if n.Space == markup.SVG {
		for i := range n.Attrs {
			a := &n.Attrs[i]
			if a.Space == "" && presentation[a.Local] {
				v := a.Value
				if a.Local == "font-size" || strings.HasSuffix(a.Local, "-spacing") || a.Local == "stroke-width" || a.Local == "stroke-dashoffset" {
					v = withUnit(v)
				}
				add(a.Local, v)
			} else if a.Local == "transform" && n.Local != "pattern" && n.Local != "linearGradient" && n.Local != "radialGradient" {
				add("transform", svgTransform(a.Value))
			}
		}
		for _, g := range strings.Fields(geometry[n.Local]) {
			if v, ok := n.Attr(g); ok {
				if g == "d" {
					v = "path(" + css.String(v) + ")"
				} else {
					v = withUnit(v)
				}
				add(g, v)
			}
		}
		return out
	}
	if !n.HTML {
		return nil
	}
	length := func(attr string, props ...string) {
		if v, ok := n.Attr(attr); ok {
			if l := dimension(v); l != "" {
				for _, p := range props {
					add(p, l)
				}
			}
		}
	}
	colour := func(attr, prop string) {
		if v, ok := n.Attr(attr); ok {
			if c := legacyColour(v); c != "" {
				add(prop, c)
			}
		}
	}
	has := func(attr string) bool { _, ok := n.Attr(attr); return ok }
	if v, ok := n.Attr("lang"); ok && v != "" {
		add("-webkit-locale", css.String(v))
	}
	switch n.Local {
	case "a", "area":
		if has("href") {
			if c := legacyColour(bodyOf(n).AttrOr("link", "")); c != "" {
				add("color", c)
			}
		}
	case "body":
		colour("bgcolor", "background-color")
		colour("text", "color")
		background(n, add)
		length("marginheight", "margin-top", "margin-bottom")
		length("topmargin", "margin-top")
		length("bottommargin", "margin-bottom")
		length("marginwidth", "margin-left", "margin-right")
		length("leftmargin", "margin-left")
		length("rightmargin", "margin-right")
	case "font":
		colour("color", "color")
		if v, ok := n.Attr("face"); ok {
			add("font-family", v)
		}
		if v, ok := n.Attr("size"); ok {
			if s := fontSize(v); s != "" {
				add("font-size", s)
			}
		}
	case "table":
		colour("bgcolor", "background-color")
		background(n, add)
		length("width", "width")
		length("height", "height")
		length("cellspacing", "border-spacing")
		colour("bordercolor", "border-color")
		tableBorder(n, add)
		switch strings.ToLower(n.AttrOr("align", "")) {
		case "left", "right":
			add("float", strings.ToLower(n.AttrOr("align", "")))
		case "center":
			add("margin-inline", "auto")
		}
	case "td", "th", "tr", "thead", "tbody", "tfoot", "col", "colgroup":
		if n.Local == "thead" || n.Local == "tbody" || n.Local == "tfoot" || n.Local == "colgroup" {
			group(n, add)
		}
		colour("bgcolor", "background-color")
		background(n, add)
		length("width", "width")
		length("height", "height")
		if v, ok := n.Attr("valign"); ok {
			add("vertical-align", strings.ToLower(v))
		}
		switch v := strings.ToLower(n.AttrOr("align", "")); v {
		case "left", "right", "center":
			add("text-align", "-webkit-"+v)
		case "middle":
			add("text-align", "-webkit-center")
		case "justify":
			add("text-align", v)
		}
		if has("nowrap") && (n.Local == "td" || n.Local == "th") {
			add("white-space", "nowrap")
		}
		cell(n, add)
	case "caption":
		if v := strings.ToLower(n.AttrOr("align", "")); v == "bottom" || v == "top" {
			add("caption-side", v)
		}
	case "p", "div", "h1", "h2", "h3", "h4", "h5", "h6":
		switch v := strings.ToLower(n.AttrOr("align", "")); {
		case v == "justify" || n.Local[0] == 'h' && (v == "left" || v == "right" || v == "center"):
			add("text-align", v)
		case v == "left" || v == "right" || v == "center":
			add("text-align", "-webkit-"+v)
		case v == "middle":
			add("text-align", "-webkit-center")
		}
	case "img", "object", "embed", "iframe", "video", "input", "applet", "marquee", "canvas", "source":
		if n.Local == "input" && !strings.EqualFold(n.AttrOr("type", ""), "image") || n.Local == "canvas" || n.Local == "source" {
			break
		}
		length("width", "width")
		length("height", "height")
		length("hspace", "margin-left", "margin-right")
		length("vspace", "margin-top", "margin-bottom")
		if w, h := whole(n.AttrOr("width", "")), whole(n.AttrOr("height", "")); w != "" && h != "" && (n.Local == "img" || n.Local == "video" || n.Local == "input") {
			add("aspect-ratio", "auto "+w+" / "+h)
		}
		if v, ok := n.Attr("border"); ok && n.Local != "iframe" {
			if l := dimension(v); l != "" {
				add("border-width", l)
				add("border-style", "solid")
			}
		}
		if v, ok := n.Attr("frameborder"); ok && n.Local == "iframe" && (v == "0" || strings.EqualFold(v, "no")) {
			add("border-width", "0")
		}
		switch strings.ToLower(n.AttrOr("align", "")) {
		case "left", "right":
			add("float", strings.ToLower(n.AttrOr("align", "")))
			add("vertical-align", "top")
		case "top":
			add("vertical-align", "top")
		case "middle", "center":
			add("vertical-align", "-webkit-baseline-middle")
		case "absmiddle", "abscenter":
			add("vertical-align", "middle")
		case "bottom", "baseline":
			add("vertical-align", "baseline")
		case "texttop":
			add("vertical-align", "text-top")
		case "absbottom":
			add("vertical-align", "bottom")
		}
	case "hr":
		hr(n, add, has, length)
	case "br":
		if v := strings.ToLower(n.AttrOr("clear", "")); v == "all" || v == "both" {
			add("clear", "both")
		} else if v != "" {
			add("clear", v)
		}
	case "ol", "ul", "li":
		if v, ok := n.Attr("type"); ok {
			t := map[string]string{"a": "lower-alpha", "A": "upper-alpha", "i": "lower-roman", "I": "upper-roman", "1": "decimal"}[v]
			if t == "" {
				switch strings.ToLower(v) {
				case "disc", "circle", "square", "none":
					t = strings.ToLower(v)
				}
			}
			if t != "" {
				add("list-style-type", t)
			}
		}
	case "pre":
		if has("wrap") {
			add("white-space", "pre-wrap")
		}
	case "textarea":
		if v := strings.ToLower(n.AttrOr("wrap", "")); v == "off" {
			add("white-space", "pre")
			add("overflow-wrap", "normal")
		}
	}
	if v, ok := n.Attr("contenteditable"); ok && !strings.EqualFold(v, "false") {
		add("-webkit-user-modify", "read-write")
		add("overflow-wrap", "break-word")
		add("-webkit-line-break", "after-white-space")
	}
	if v := n.AttrOr("draggable", ""); strings.EqualFold(v, "true") {
		add("-webkit-user-drag", "element")
		add("user-select", "none")
	} else if strings.EqualFold(v, "false") {
		add("-webkit-user-drag", "none")
	}
	return out
}

// bodyOf is the body around an element; the element itself where there is none.
func bodyOf(n *markup.Node) *markup.Node {
	for a := n; a != nil; a = a.Parent {
		if a.HTML && a.Local == "body" {
			return a
		}
	}
	return n
}

func background(n *markup.Node, add func(string, string)) {
	if v, ok := n.Attr("background"); ok && strings.TrimSpace(v) != "" {
		add("background-image", "url("+css.String(strings.TrimSpace(v))+")")
	}
}

// frames are the sides of a table that frame= draws: top, right, bottom, left.
var frames = map[string][4]bool{"void": {}, "above": {0: true}, "below": {2: true}, "hsides": {0: true, 2: true}, "vsides": {1: true, 3: true},
	"lhs": {3: true}, "rhs": {1: true}, "box": {true, true, true, true}, "border": {true, true, true, true}}

// rulesOf is which lines are between the cells of a table; "" where the attribute says nothing.
func rulesOf(t *markup.Node) string {
	switch r := strings.ToLower(t.AttrOr("rules", "")); r {
	case "none", "groups", "rows", "cols", "all":
		return r
	}
	return ""
}

// tableBorder is what border, bordercolor, frame and rules of a table declare of it.
func tableBorder(n *markup.Node, add func(string, string)) {
	border, bordered := n.Attr("border")
	w := 1
	if k, err := strconv.Atoi(leadingDigits(border)); err == nil {
		w = k
	}
	if bordered {
		add("border-width", strconv.Itoa(w)+"px")
	}
	coloured := legacyColour(n.AttrOr("bordercolor", "")) != ""
	switch frame, framed := frames[strings.ToLower(n.AttrOr("frame", ""))]; {
	case framed:
		var sides []string
		for _, drawn := range frame {
			sides = append(sides, map[bool]string{true: "solid", false: "hidden"}[drawn])
		}
		if !bordered {
			add("border-width", "thin")
		}
		add("border-style", strings.Join(sides, " "))
	case coloured:
		add("border-style", "solid")
	case bordered && w > 0:
		add("border-style", "outset")
	case !bordered && rulesOf(n) != "":
		add("border-style", "hidden")
	}
	if rulesOf(n) != "" {
		add("border-collapse", "collapse")
	}
}

// group is what rules="groups" of a table declares of its groups of rows and columns.
func group(n *markup.Node, add func(string, string)) {
	if n.Parent == nil || n.Parent.Local != "table" || rulesOf(n.Parent) != "groups" {
		return
	}
	sides := []string{"top", "bottom"}
	if n.Local == "colgroup" {
		sides = []string{"left", "right"}
	}
	for _, side := range sides {
		add("border-"+side+"-width", "1px")
		add("border-"+side+"-style", "solid")
	}
}

// cell is what attributes of a table declare of its cells.
func cell(n *markup.Node, add func(string, string)) {
	if n.Local != "td" && n.Local != "th" {
		return
	}
	t := n.Parent
	for t != nil && t.Local != "table" {
		t = t.Parent
	}
	if t == nil {
		return
	}
	if v, ok := t.Attr("cellpadding"); ok {
		if l := dimension(v); l != "" {
			add("padding", l)
		}
	}
	lines := func(sides ...string) {
		for _, side := range sides {
			add("border-"+side+"-width", "1px")
			add("border-"+side+"-style", "solid")
		}
		add("border-color", "inherit")
	}
	switch rulesOf(t) {
	case "all":
		lines("top", "right", "bottom", "left")
	case "cols":
		lines("left", "right")
	case "rows":
		lines("top", "bottom")
	case "":
		if v, ok := t.Attr("border"); ok && leadingDigits(v) != "0" {
			add("border-width", "1px")
			add("border-style", "inset")
			add("border-color", "inherit")
			if legacyColour(t.AttrOr("bordercolor", "")) != "" {
				add("border-style", "solid")
			}
		}
	}
}

func hr(n *markup.Node, add func(string, string), has func(string) bool, length func(string, ...string)) {
	switch strings.ToLower(n.AttrOr("align", "")) {
	case "left":
		add("margin-left", "0")
		add("margin-right", "auto")
	case "right":
		add("margin-left", "auto")
		add("margin-right", "0")
	case "center":
		add("margin-left", "auto")
		add("margin-right", "auto")
	}
	length("width", "width")
	if c := legacyColour(n.AttrOr("color", "")); c != "" {
		add("border-style", "solid")
		add("border-color", c)
		add("background-color", c)
	}
	if has("noshade") && !has("color") {
		add("border-style", "solid")
		add("background-color", "gray")
	}
	if v, err := strconv.Atoi(leadingDigits(n.AttrOr("size", ""))); err == nil {
		if v <= 1 {
			add("border-bottom-width", "0")
		} else {
			add("height", strconv.Itoa(v-2)+"px")
		}
	}
}

// dimension reads `90%`, `12`, `12px`. https://html.spec.whatwg.org/multipage/common-microsyntaxes.html#rules-for-parsing-dimension-values
func dimension(v string) string {
	v = strings.TrimSpace(v)
	n := css.NumberPrefix(v)
	if n == 0 || v[0] == '-' {
		return ""
	}
	num := strings.TrimPrefix(v[:n], "+")
	if strings.ContainsAny(num, "eE") {
		num, _, _ = strings.Cut(strings.ToLower(num), "e")
	}
	if strings.HasPrefix(v[n:], "%") {
		return num + "%"
	}
	return num + "px"
}

func whole(v string) string {
	v = strings.TrimSpace(v)
	if d := leadingDigits(v); d != "" && !strings.HasPrefix(v[len(d):], "%") {
		return d
	}
	return ""
}

func leadingDigits(v string) string {
	v = strings.TrimSpace(v)
	i := 0
	for i < len(v) && v[i] >= '0' && v[i] <= '9' {
		i++
	}
	return v[:i]
}

func fontSize(v string) string {
	v = strings.TrimSpace(v)
	n, err := strconv.Atoi(leadingDigits(strings.TrimLeft(v, "+-")))
	if err != nil {
		return ""
	}
	switch {
	case strings.HasPrefix(v, "+"):
		n = 3 + n
	case strings.HasPrefix(v, "-"):
		n = 3 - n
	}
	return []string{"x-small", "small", "medium", "large", "x-large", "xx-large", "xxx-large"}[max(1, min(7, n))-1]
}

// legacyColour reads a colour as old attributes do: names, and hexadecimal digits with or without #.
// https://html.spec.whatwg.org/multipage/common-microsyntaxes.html#rules-for-parsing-a-legacy-colour-value
func legacyColour(v string) string {
	v = strings.TrimSpace(v)
	if v == "" || strings.EqualFold(v, "transparent") {
		return ""
	}
	if namedColour(strings.ToLower(v)) {
		return strings.ToLower(v)
	}
	if len(v) == 4 && v[0] == '#' && isHex(v[1:]) {
		return v
	}
	v = strings.TrimPrefix(v, "#")
	if len(v) > 128 {
		v = v[:128]
	}
	b := []byte(v)
	for i := range b {
		if !isHex(string(b[i])) {
			b[i] = '0'
		}
	}
	for len(b) == 0 || len(b)%3 != 0 {
		b = append(b, '0')
	}
	n := len(b) / 3
	parts := [3]string{string(b[:n]), string(b[n : 2*n]), string(b[2*n:])}
	if n > 8 {
		for i := range parts {
			parts[i] = parts[i][n-8:]
		}
		n = 8
	}
	for n > 2 && parts[0][0] == '0' && parts[1][0] == '0' && parts[2][0] == '0' {
		for i := range parts {
			parts[i] = parts[i][1:]
		}
		n--
	}
	out := "#"
	for i := range parts {
		p := parts[i][:min(2, n)]
		if len(p) == 1 {
			p = "0" + p
		}
		out += p
	}
	return out
}

func namedColour(name string) bool {
	_, ok := color.Named(name)
	return ok
}

func isHex(s string) bool {
	for i := 0; i < len(s); i++ {
		c := s[i] | 0x20
		if !(s[i] >= '0' && s[i] <= '9' || c >= 'a' && c <= 'f') {
			return false
		}
	}
	return s != ""
}

// withUnit gives a number of SVG the unit px, which it has there.
func withUnit(v string) string {
	v = strings.TrimSpace(v)
	if n := css.NumberPrefix(v); n > 0 && n == len(v) {
		return v + "px"
	}
	return v
}

// svgTransform is a transform attribute as CSS writes it.
func svgTransform(v string) string {
	list, err := css.ParseFunctions(v)
	if err != nil {
		return v
	}
	var out []string
	for _, f := range list {
		args := strings.FieldsFunc(f.Args, func(r rune) bool { return r == ',' || r == ' ' || r == '\t' || r == '\n' || r == '\r' })
		switch f.Name {
		case "translate":
			for i := range args {
				args[i] = withUnit(args[i])
			}
		case "rotate", "skewx", "skewy":
			if len(args) == 3 {
				out = append(out, "translate("+withUnit(args[1])+","+withUnit(args[2])+") rotate("+args[0]+"deg) translate("+negated(args[1])+","+negated(args[2])+")")
				continue
			}
			for i := range args {
				if css.NumberPrefix(args[i]) == len(args[i]) {
					args[i] += "deg"
				}
			}
		}
		out = append(out, f.Name+"("+strings.Join(args, ",")+")")
	}
	return strings.Join(out, " ")
}

func negated(v string) string {
	if rest, ok := strings.CutPrefix(v, "-"); ok {
		return withUnit(rest)
	}
	return "-" + withUnit(strings.TrimPrefix(v, "+"))
}
