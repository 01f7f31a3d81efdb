package page

import (
	"strconv"
	"strings"

	"archetyp/core/css"
	"archetyp/core/markup"
)

// hints are what attributes of an element declare. https://html.spec.whatwg.org/multipage/rendering.html#presentational-hints
func hints(n *markup.Node) []css.Decl {
	h := &hinter{n: n}
	switch {
	case n.Space == markup.SVG:
		h.svg()
	case n.HTML:
		if v := n.AttrOr("lang", ""); v != "" {
			h.add("-webkit-locale", css.String(v))
		}
		if f := hintsOf[n.Local]; f != nil {
			f(h)
		}
		h.editing()
	}
	return h.out
}

// hinter collects what the attributes of one element declare.
type hinter struct {
	n   *markup.Node
	out []css.Decl
}

func (h *hinter) add(prop, value string) {
	h.out = append(h.out, css.Decl{Prop: prop, Value: value, Offset: h.n.Offset})
}

func (h *hinter) has(attr string) bool { _, ok := h.n.Attr(attr); return ok }

// word is an attribute in lower case; "" for none.
func (h *hinter) word(attr string) string { return strings.ToLower(h.n.AttrOr(attr, "")) }

// length gives the length that an attribute says to properties.
func (h *hinter) length(attr string, props ...string) {
	if l := dimension(h.n.AttrOr(attr, "")); l != "" {
		for _, p := range props {
			h.add(p, l)
		}
	}
}

// colour gives the colour that an attribute says to a property.
func (h *hinter) colour(attr, prop string) {
	if v, ok := h.n.Attr(attr); ok {
		if c := legacyColour(v); c != "" {
			h.add(prop, c)
		}
	}
}

func (h *hinter) background() {
	h.colour("bgcolor", "background-color")
	if v := strings.TrimSpace(h.n.AttrOr("background", "")); v != "" {
		h.add("background-image", "url("+css.String(v)+")")
	}
}

// hintsOf are the elements whose attributes declare something of their own.
var hintsOf = func() map[string]func(*hinter) {
	m := map[string]func(*hinter){"a": link, "area": link, "body": bodyHints, "font": fontHints, "table": tableHints, "caption": captionHints, "hr": hrHints, "br": brHints,
		"pre": preHints, "textarea": textareaHints}
	for names, f := range map[string]func(*hinter){"td th tr thead tbody tfoot col colgroup": cellHints, "p div h1 h2 h3 h4 h5 h6": blockHints,
		"img object embed iframe video input applet marquee": embeddedHints, "ol ul li": listHints} {
		for _, name := range strings.Fields(names) {
			m[name] = f
		}
	}
	return m
}()

func link(h *hinter) {
	if c := legacyColour(bodyOf(h.n).AttrOr("link", "")); c != "" && h.has("href") {
		h.add("color", c)
	}
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

func bodyHints(h *hinter) {
	h.colour("text", "color")
	h.background()
	h.length("marginheight", "margin-top", "margin-bottom")
	h.length("topmargin", "margin-top")
	h.length("bottommargin", "margin-bottom")
	h.length("marginwidth", "margin-left", "margin-right")
	h.length("leftmargin", "margin-left")
	h.length("rightmargin", "margin-right")
}

func fontHints(h *hinter) {
	h.colour("color", "color")
	if v, ok := h.n.Attr("face"); ok {
		h.add("font-family", v)
	}
	if s := fontSize(h.n.AttrOr("size", "")); s != "" {
		h.add("font-size", s)
	}
}

func captionHints(h *hinter) {
	if v := h.word("align"); v == "bottom" || v == "top" {
		h.add("caption-side", v)
	}
}

func blockHints(h *hinter) {
	switch v := h.word("align"); {
	case v == "justify" || h.n.Local[0] == 'h' && (v == "left" || v == "right" || v == "center"):
		h.add("text-align", v)
	case v == "left" || v == "right" || v == "center":
		h.add("text-align", "-webkit-"+v)
	case v == "middle":
		h.add("text-align", "-webkit-center")
	}
}

func embeddedHints(h *hinter) {
	n := h.n
	if n.Local == "input" && h.word("type") != "image" {
		return
	}
	h.length("width", "width")
	h.length("height", "height")
	h.length("hspace", "margin-left", "margin-right")
	h.length("vspace", "margin-top", "margin-bottom")
	if w, ht := whole(n.AttrOr("width", "")), whole(n.AttrOr("height", "")); w != "" && ht != "" && (n.Local == "img" || n.Local == "video" || n.Local == "input") {
		h.add("aspect-ratio", "auto "+w+" / "+ht)
	}
	if l := dimension(n.AttrOr("border", "")); l != "" && n.Local != "iframe" {
		h.add("border-width", l)
		h.add("border-style", "solid")
	}
	if v := h.word("frameborder"); n.Local == "iframe" && (v == "0" || v == "no") {
		h.add("border-width", "0")
	}
	v := h.word("align")
	if v == "left" || v == "right" {
		h.add("float", v)
	}
	if to, ok := map[string]string{"left": "top", "right": "top", "top": "top", "middle": "-webkit-baseline-middle", "center": "-webkit-baseline-middle", "absmiddle": "middle",
		"abscenter": "middle", "bottom": "baseline", "baseline": "baseline", "texttop": "text-top", "absbottom": "bottom"}[v]; ok {
		h.add("vertical-align", to)
	}
}

func hrHints(h *hinter) {
	switch h.word("align") {
	case "left":
		h.add("margin-left", "0")
		h.add("margin-right", "auto")
	case "right":
		h.add("margin-left", "auto")
		h.add("margin-right", "0")
	case "center":
		h.add("margin-left", "auto")
		h.add("margin-right", "auto")
	}
	h.length("width", "width")
	if c := legacyColour(h.n.AttrOr("color", "")); c != "" {
		h.add("border-style", "solid")
		h.add("border-color", c)
		h.add("background-color", c)
	}
	if h.has("noshade") && !h.has("color") {
		h.add("border-style", "solid")
		h.add("background-color", "gray")
	}
	if v, err := strconv.Atoi(leadingDigits(h.n.AttrOr("size", ""))); err == nil {
		if v <= 1 {
			h.add("border-bottom-width", "0")
		} else {
			h.add("height", strconv.Itoa(v-2)+"px")
		}
	}
}

func brHints(h *hinter) {
	switch v := h.word("clear"); v {
	case "":
	case "all":
		h.add("clear", "both")
	default:
		h.add("clear", v)
	}
}

func listHints(h *hinter) {
	v := h.n.AttrOr("type", "")
	t := map[string]string{"a": "lower-alpha", "A": "upper-alpha", "i": "lower-roman", "I": "upper-roman", "1": "decimal"}[v]
	switch lower := strings.ToLower(v); lower {
	case "disc", "circle", "square", "none":
		t = lower
	}
	if t != "" {
		h.add("list-style-type", t)
	}
}

func preHints(h *hinter) {
	if h.has("wrap") {
		h.add("white-space", "pre-wrap")
	}
}

func textareaHints(h *hinter) {
	if h.word("wrap") == "off" {
		h.add("white-space", "pre")
		h.add("overflow-wrap", "normal")
	}
}

// editing is what the attributes for editing and dragging declare, which every element may have.
func (h *hinter) editing() {
	if v, ok := h.n.Attr("contenteditable"); ok && !strings.EqualFold(v, "false") {
		h.add("-webkit-user-modify", "read-write")
		h.add("overflow-wrap", "break-word")
		h.add("-webkit-line-break", "after-white-space")
	}
	switch h.word("draggable") {
	case "true":
		h.add("-webkit-user-drag", "element")
		h.add("user-select", "none")
	case "false":
		h.add("-webkit-user-drag", "none")
	}
}
