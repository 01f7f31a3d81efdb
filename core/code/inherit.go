package code

import (
	"slices"

	"archetyp/core/css"
	"archetyp/core/design"
)

// inherited is a property of text that is inherited, and its value.
type inherited struct{ prop, value string }

// initial are the inherited properties of text with their initial values.
// https://www.w3.org/TR/css-cascade-5/#inheriting
var initial = []inherited{{"font-family", ""}, {"font-size", "16px"}, {"font-weight", "400"}, {"font-style", "normal"},
	{"line-height", "normal"}, {"letter-spacing", "normal"}, {"text-transform", "none"}, {"color", "#000000"}}

// fontProps are those that the font shorthand sets.
var fontProps = []string{"font-family", "font-size", "font-weight", "font-style", "line-height"}

// look is how a text is set: every inherited property, without tokens. line is its line height in px, where it is
// several lines drawn one by one; else 0.
func (s *styles) look(e *design.Element, line float64) []inherited {
	var b Block
	s.words(s.plain, &b, e, line)
	out := slices.Clone(initial)
	for i := range out {
		for _, d := range b.Declarations {
			if d.Prop == out[i].prop {
				out[i].value = d.Value
			}
		}
		if out[i].prop == "line-height" && out[i].value == "normal" {
			out[i].value = ratio(s.w.lineRatio(e))
			if out[i].value == "normal" { // it has what it inherits
				out[i].value = ratio(s.ratio)
			}
		}
	}
	return out
}

// ratio is a line height in font sizes as a value to compare; 0 is the font's own.
func ratio(v float64) string {
	if v == 0 {
		return "normal"
	}
	return "×" + css.Num(v, 3)
}

// lineRatio is the line height that a text's type token holds, in font sizes; 0 for none.
func (o Options) lineRatio(e *design.Element) float64 {
	return o.lineHeight(e) / max(1, e.Words.Size.Value)
}

// words writes how the words of a text are set.
func (s *styles) words(w *writer, b *Block, e *design.Element, line float64) {
	w.of = e
	w.text(b, e)
	if line > 0 {
		w.put(b, "line-height", css.Px(line), "")
	}
	b.Declarations = slices.DeleteFunc(b.Declarations, func(d design.Declaration) bool { return d.Prop == "text-align" })
}

// commonest is the text that stands for how most letters of an element are set; nil for fewer than two texts.
func (o Options) commonest(of *design.Element) *design.Element {
	letters, first := map[string]int{}, map[string]*design.Element{}
	best, texts := "", 0
	of.Walk(func(e *design.Element) {
		w := e.Words
		if w == nil || e.Hidden || w.Words == "" {
			return
		}
		key := typeKey(w)
		for _, f := range e.Fills {
			if f.Value.Kind == design.Solid {
				key += f.Value.Color.CSS()
			}
		}
		if first[key] == nil {
			first[key] = e
		}
		texts++
		letters[key] += len(w.Words)
		if letters[key] > letters[best] || letters[key] == letters[best] && key < best {
			best = key
		}
	})
	if texts < 2 {
		return nil
	}
	return first[best]
}

// typical is how most words of a tree are set, to be inherited from its root.
func (s *styles) typical(t *Tree) []design.Declaration {
	if t.Typical == nil {
		return nil
	}
	var b Block
	s.words(s.w, &b, t.Typical, 0)
	return slices.DeleteFunc(b.Declarations, func(d design.Declaration) bool {
		return d.Prop == "line-height" || d.Prop != "font" && !slices.ContainsFunc(initial, func(p inherited) bool {
			return p.prop == d.Prop && p.value != d.Value
		})
	})
}

// inherits is how text in a tree is set by default.
func (s *styles) inherits(t *Tree) []inherited {
	if t.Typical == nil {
		return initial
	}
	out := s.look(t.Typical, 0)
	for i := range out {
		if out[i].prop == "line-height" { // that of one paragraph is no other's
			out[i].value = ratio(s.ratio)
		}
	}
	return out
}

// text writes the properties in which a text differs from what it inherits.
func (s *styles) text(b *Block, n *Node, has []inherited) {
	var named Block
	e, line := n.Cell.Element, n.lineHeight()
	s.words(s.w, &named, e, line)
	b.Comments = append(b.Comments, named.Comments...)
	if s.part {
		if n.Cell.Center() && len(n.Cell.TextLines()) > 1 {
			s.w.put(&named, "text-align", "center", "")
		}
		b.Declarations = append(b.Declarations, named.Declarations...)
		return
	}
	differs := map[string]bool{}
	font := false
	for i, p := range s.look(e, line) {
		if p.value != has[i].value {
			differs[p.prop] = true
			font = font || slices.Contains(fontProps, p.prop)
		}
	}
	said := map[string]bool{}
	for _, d := range named.Declarations {
		said[d.Prop] = true
		switch {
		case d.Prop == "font" && !font:
		case slices.ContainsFunc(initial, func(p inherited) bool { return p.prop == d.Prop }) && !differs[d.Prop]:
		default:
			b.Declarations = append(b.Declarations, d)
		}
	}
	for _, p := range initial { // back to what is not said
		if differs[p.prop] && !said[p.prop] && !(said["font"] && slices.Contains(fontProps, p.prop)) && p.value != "" {
			b.Declarations = append(b.Declarations, design.Declaration{Prop: p.prop, Value: p.value})
		}
	}
}

// lineHeight is the distance of the lines that a node's words were drawn in one by one, in px; 0 for others.
func (n *Node) lineHeight() float64 {
	if lines := n.Cell.Lines; lines != nil {
		return n.Cell.Box.H / float64(len(lines))
	}
	return 0
}
