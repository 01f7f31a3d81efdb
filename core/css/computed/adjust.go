package computed

import (
	"strings"

	"archetyp/core/css/grammar"
	"archetyp/core/markup"
)

// adjust changes what other properties of the element force.
func (s *Style) adjust() {
	s.adjustDisplay()
	s.adjustOverflow()
	s.adjustLines()
	s.adjustControl()
	if c := id("content"); s.part == "" && s.value(c).Parts[0].Is("none") { // only pseudo-elements have none
		s.set(c, initial("content"))
	}
	if s.part == "" && s.node.Space == markup.SVG {
		for _, name := range notInSVG {
			s.set(id(name), initial(name))
		}
	}
	if ta := id("text-align"); s.value(ta).Parts[0].Is("-internal-center") {
		s.set(ta, &Value{Parts: word("center")})
	}
}

// notInSVG are properties of decorated text that browsers do not draw in SVG, and reset.
var notInSVG = []string{"text-decoration-skip-ink", "text-decoration-style", "text-decoration-thickness", "text-emphasis-style", "text-underline-offset", "text-underline-position"}

// adjustDisplay makes blocks of boxes that float, are positioned, or are items of a flex or grid container.
// https://www.w3.org/TR/css-display-3/#transformations
func (s *Style) adjustDisplay() {
	position, float := s.word("position"), s.word("float")
	out := position == "absolute" || position == "fixed"
	if out && float != "none" {
		s.set(id("float"), start(id("float")))
		float = "none"
	}
	switch d := s.word("display"); {
	case d == "contents" && s.parent == nil:
		s.set(id("display"), &Value{Parts: word("block")})
		return
	case d == "none" || d == "contents":
		return
	}
	if out || float != "none" || s.isItem() || s.parent == nil && s.part == "" {
		if b := blockLevel(s.value(id("display"))); b != nil {
			s.set(id("display"), b)
		}
	}
}

// isItem reports whether the element stands in a flex or grid container.
func (s *Style) isItem() bool {
	box := s.parent
	for box != nil && box.word("display") == "contents" {
		box = box.parent
	}
	if box == nil {
		return false
	}
	switch box.word("display") {
	case "flex", "inline-flex", "grid", "inline-grid", "-webkit-box", "-webkit-inline-box":
		return true
	}
	return false
}

// adjustOverflow has an element that scrolls along one axis scroll along both.
// https://www.w3.org/TR/css-overflow-3/#overflow-properties
func (s *Style) adjustOverflow() {
	axes := [2]string{"overflow-x", "overflow-y"}
	var words [2]string
	for i, name := range axes {
		if words[i] = s.word(name); words[i] == "overlay" {
			words[i] = "auto"
			s.set(id(name), &Value{Parts: word("auto")})
		}
	}
	for i, name := range axes {
		if other := words[1-i]; words[i] == "visible" && other != "visible" && other != "clip" {
			s.set(id(name), &Value{Parts: word("auto")})
		}
	}
}

// adjustLines gives borders without a style no width, and lines whose width is a word theirs in px.
func (s *Style) adjustLines() {
	for _, side := range []string{"top", "right", "bottom", "left"} {
		w := id("border-" + side + "-width")
		first := s.value(w).Parts[0]
		switch st := s.word("border-" + side + "-style"); {
		case st == "none" || st == "hidden":
			if first.Num != 0 || first.Kind == grammar.Word {
				s.set(w, px(0))
			}
		case first.Kind == grammar.Word:
			s.set(w, px(3))
		}
	}
	for _, name := range []string{"outline-width", "column-rule-width"} {
		if s.value(id(name)).Parts[0].Kind == grammar.Word {
			s.set(id(name), px(3))
		}
	}
}

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
