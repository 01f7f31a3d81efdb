package computed

import (
	"strconv"
	"strings"

	"archetyp/core/css/grammar"
)

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
