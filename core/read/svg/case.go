package svg

import (
	"math"

	"archetyp/core/css"
	"archetyp/core/markup"

	"golang.org/x/text/cases"
)

// changeCase does what text-transform asks for, in the language of the text: ß becomes SS, and i in Turkish İ.
// https://www.w3.org/TR/css-text-3/#text-transform
func (t *textLayout) changeCase() {
	wanted := false
	for i := range t.chars {
		if i == 0 || t.chars[i].style != t.chars[i-1].style {
			wanted = wanted || t.chars[i].style.str("text-transform", "none") != "none"
		}
	}
	if !wanted {
		return
	}
	var out []char
	for i := 0; i < len(t.chars); {
		j := i + 1
		for j < len(t.chars) && t.chars[j].style == t.chars[i].style && t.chars[j].node == t.chars[i].node {
			j++
		}
		out = append(out, cased(t.chars[i:j], i == 0 || t.chars[i-1].r == ' ')...)
		i = j
	}
	t.chars = out
}

// cased changes the case of letters of one style. start says whether the first begins a word.
func cased(chars []char, start bool) []char {
	transform := chars[0].style.str("text-transform", "none")
	c, ok := css.Caser(transform, languageOf(chars[0].node))
	switch {
	case !ok:
		return chars
	case transform != "capitalize":
		return mapped(chars, c)
	}
	var out []char
	for i := range chars {
		if start {
			out = append(out, letters(chars[i], c.String(string(chars[i].r)))...)
		} else {
			out = append(out, chars[i])
		}
		start = chars[i].r == ' '
	}
	return out
}

// mapped changes letters as a whole, since some depend on their neighbours; where that makes more of them, one by one,
// so that each stays in its place.
func mapped(chars []char, c cases.Caser) []char {
	before := make([]rune, len(chars))
	for i := range chars {
		before[i] = chars[i].r
	}
	var out []char
	if after := []rune(c.String(string(before))); len(after) == len(before) {
		for i, r := range after {
			ch := chars[i]
			ch.r = r
			out = append(out, ch)
		}
		return out
	}
	for i := range chars {
		out = append(out, letters(chars[i], c.String(string(chars[i].r)))...)
	}
	return out
}

// letters are those that one becomes; all but the first stand where they follow.
func letters(ch char, text string) []char {
	var out []char
	for i, r := range []rune(text) {
		one := ch
		one.r = r
		if i > 0 {
			one.x, one.y, one.dx, one.dy = math.NaN(), math.NaN(), 0, 0
		}
		out = append(out, one)
	}
	return out
}

// languageOf is the language a node states, or one of those around it.
func languageOf(n *markup.Node) string {
	for ; n != nil; n = n.Parent {
		for _, a := range n.Attrs {
			if a.Local == "lang" && (a.Space == markup.XML || a.Space == "") {
				return a.Value
			}
		}
	}
	return ""
}
