package token

import (
	"math"
	"strings"

	"archetyp/core/css"
)

// NormalLine is what is written for the line height where nothing is known but that it is the font's own, of one em:
// about what fonts have. CSS writes "normal" for it.
const NormalLine = 1.2

// WrittenAgrees reports whether the CSS text kept for a part of a typography token still means what the part's value
// says; root is the px of 1rem. Where somebody changed the value since, the value counts.
func WrittenAgrees(s *Set, t *Token, part string, root float64) bool {
	size := s.ResolvePart(t.Value.Parts["fontSize"])
	if size.Length == nil {
		return false
	}
	if part == "lineHeight" && t.Own.Written[part] == "normal" {
		v := s.ResolvePart(t.Value.Parts[part])
		return v.Number != nil && *v.Number == NormalLine
	}
	em := size.Length.Px(root)
	l, err := css.ParseLength(strings.TrimSpace(t.Own.Written[part]))
	if err != nil || em == 0 {
		return false
	}
	px := l.Px(css.Units{Em: em, Rem: root})
	v := s.ResolvePart(t.Value.Parts[part])
	switch {
	case part == "lineHeight" && v.Number != nil:
		return math.Abs(*v.Number*em-px) < 0.01
	case part == "letterSpacing" && v.Length != nil:
		return math.Abs(v.Length.Px(root)-px) < 0.001
	}
	return false
}

// Px is a dimension in px, or a duration in ms; root is the px of 1rem.
func (l Length) Px(root float64) float64 {
	switch l.Unit {
	case "rem":
		return l.Value * root
	case "s":
		return l.Value * 1000
	}
	return l.Value
}
