package page

import (
	"strconv"
	"strings"

	"archetyp/core/markup"
)

// What attributes of tables declare.

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

func tableHints(h *hinter) {
	h.background()
	h.length("width", "width")
	h.length("height", "height")
	h.length("cellspacing", "border-spacing")
	h.colour("bordercolor", "border-color")
	tableBorder(h)
	switch v := h.word("align"); v {
	case "left", "right":
		h.add("float", v)
	case "center":
		h.add("margin-inline", "auto")
	}
}

// cellHints are those of cells, rows, columns and their groups.
func cellHints(h *hinter) {
	switch h.n.Local {
	case "thead", "tbody", "tfoot", "colgroup":
		group(h)
	}
	h.background()
	h.length("width", "width")
	h.length("height", "height")
	if v := h.word("valign"); v != "" {
		h.add("vertical-align", v)
	}
	switch v := h.word("align"); v {
	case "left", "right", "center":
		h.add("text-align", "-webkit-"+v)
	case "middle":
		h.add("text-align", "-webkit-center")
	case "justify":
		h.add("text-align", v)
	}
	if h.n.Local == "td" || h.n.Local == "th" {
		if h.has("nowrap") {
			h.add("white-space", "nowrap")
		}
		cell(h)
	}
}

// tableBorder is what border, bordercolor, frame and rules of a table declare of it.
func tableBorder(h *hinter) {
	n := h.n
	border, bordered := n.Attr("border")
	w := 1
	if k, err := strconv.Atoi(leadingDigits(border)); err == nil {
		w = k
	}
	if bordered {
		h.add("border-width", strconv.Itoa(w)+"px")
	}
	coloured := legacyColour(n.AttrOr("bordercolor", "")) != ""
	switch frame, framed := frames[strings.ToLower(n.AttrOr("frame", ""))]; {
	case framed:
		var sides []string
		for _, drawn := range frame {
			sides = append(sides, map[bool]string{true: "solid", false: "hidden"}[drawn])
		}
		if !bordered {
			h.add("border-width", "thin")
		}
		h.add("border-style", strings.Join(sides, " "))
	case coloured:
		h.add("border-style", "solid")
	case bordered && w > 0:
		h.add("border-style", "outset")
	case !bordered && rulesOf(n) != "":
		h.add("border-style", "hidden")
	}
	if rulesOf(n) != "" {
		h.add("border-collapse", "collapse")
	}
}

// group is what rules="groups" of a table declares of its groups of rows and columns.
func group(h *hinter) {
	n := h.n
	if n.Parent == nil || n.Parent.Local != "table" || rulesOf(n.Parent) != "groups" {
		return
	}
	sides := []string{"top", "bottom"}
	if n.Local == "colgroup" {
		sides = []string{"left", "right"}
	}
	for _, side := range sides {
		h.add("border-"+side+"-width", "1px")
		h.add("border-"+side+"-style", "solid")
	}
}

// cell is what attributes of a table declare of its cells.
func cell(h *hinter) {
	n := h.n
	t := n.Parent
	for t != nil && t.Local != "table" {
		t = t.Parent
	}
	if t == nil {
		return
	}
	if v, ok := t.Attr("cellpadding"); ok {
		if l := dimension(v); l != "" {
			h.add("padding", l)
		}
	}
	lines := func(sides ...string) {
		for _, side := range sides {
			h.add("border-"+side+"-width", "1px")
			h.add("border-"+side+"-style", "solid")
		}
		h.add("border-color", "inherit")
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
			h.add("border-width", "1px")
			h.add("border-style", "inset")
			h.add("border-color", "inherit")
			if legacyColour(t.AttrOr("bordercolor", "")) != "" {
				h.add("border-style", "solid")
			}
		}
	}
}
