package computed

import (
	"math"
	"slices"
	"strings"
	"sync"

	"archetyp/core/color"
	"archetyp/core/css/grammar"
)

// inheritedSlots are the places of inherited properties, in the order of the table; -1 for the others.
var inheritedSlots = sync.OnceValue(func() []int {
	t := table()
	out := make([]int, len(t.all))
	n := 0
	for i := range t.all {
		out[i] = -1
		if t.all[i].inherited {
			out[i] = n
			n++
		}
	}
	return out
})

// rootValues are the initial values of inherited properties.
func rootValues() []*Value {
	t := table()
	var out []*Value
	for i := range t.all {
		if t.all[i].inherited {
			out = append(out, start(ID(i)))
		}
	}
	return out
}

// first are the properties that others depend on, in the order in which they are computed.
var first = sync.OnceValue(func() []ID {
	var out []ID
	for _, name := range []string{"color-scheme", "writing-mode", "direction", "font-family", "font-size", "line-height", "color"} {
		out = append(out, id(name))
	}
	return out
})

func isFirst(i ID) bool { return slices.Contains(first(), i) }

// after notes what others need of a property that was just computed, or inherited.
func (s *Style) after(i ID) {
	switch table().all[i].name {
	case "color-scheme":
		s.dark = s.inDark()
	case "font-family":
		s.inheritSize()
	case "color":
		s.colour = s.value(i).Parts[0]
		if s.colour.Kind != grammar.Colour { // the initial one, of the root
			out, _ := grammar.Color(&s.colour, &grammar.Around{Dark: s.dark})
			s.colour = out
			s.set(i, &Value{Parts: []grammar.Part{out}})
		}
	}
}

// inDark reports whether colours that depend on the scheme are those of the dark one.
func (s *Style) inDark() bool {
	light, dark := slices.Contains(s.page.Schemes, "light"), slices.Contains(s.page.Schemes, "dark")
	if s.word("color-scheme") != "normal" {
		light, dark = false, false
	}
	for _, p := range s.value(id("color-scheme")).Parts {
		light, dark = light || p.Is("light"), dark || p.Is("dark")
	}
	return dark && (s.page.Medium.Dark || !light)
}

// units gives what relative units are, in px.
func (s *Style) units(em float64) func(unit string) (float64, bool) {
	return func(unit string) (float64, bool) {
		if one, ok := grammar.Fixed(unit); ok {
			return one, true
		}
		m := s.page.Medium
		rem := 16.0
		if s.page.root != nil {
			rem = s.page.root.size
		} else if s.parent == nil && s.size > 0 {
			rem = s.size
		}
		switch strings.TrimLeft(unit, "sld") {
		case "vw", "vi":
			return m.Width / 100, true
		case "vh", "vb":
			return m.Height / 100, true
		case "vmin":
			return min(m.Width, m.Height) / 100, true
		case "vmax":
			return max(m.Width, m.Height) / 100, true
		}
		switch unit {
		case "em":
			return em, true
		case "rem":
			return rem, true
		case "ex", "ch":
			return em / 2, true
		case "rex", "rch":
			return rem / 2, true
		case "cap":
			return em * 0.7, true
		case "ic":
			return em, true
		case "lh":
			return s.lineHeight(em), true
		case "rlh":
			if s.page.root != nil {
				return s.page.root.lineHeight(rem), true
			}
			return rem * 1.2, true
		case "cqw", "cqi":
			return m.Width / 100, true
		case "cqh", "cqb":
			return m.Height / 100, true
		case "cqmin":
			return min(m.Width, m.Height) / 100, true
		case "cqmax":
			return max(m.Width, m.Height) / 100, true
		}
		return 0, false
	}
}

// lineHeight is the line height in px; that of the font is taken for 1.15 of its size.
func (s *Style) lineHeight(size float64) float64 {
	p := s.value(id("line-height")).Parts[0]
	switch p.Kind {
	case grammar.Number:
		return p.Num * size
	case grammar.Dimension:
		return p.Num
	}
	return 1.15 * size
}

// settled is a value with its units, math, colours and addresses computed. What depends on currentcolor is left: it
// passes down as it is.
func (s *Style) settled(v *Value, px func(string) (float64, bool)) *Value {
	if !v.depends {
		return v
	}
	return &Value{Parts: s.settle(v.Parts, px)}
}

func (s *Style) settle(parts []grammar.Part, px func(string) (float64, bool)) []grammar.Part {
	out := make([]grammar.Part, len(parts))
	for i := range parts {
		p := parts[i]
		switch {
		case p.Kind == grammar.Dimension && grammar.Relative(p.Text):
			if one, ok := px(p.Text); ok {
				p.Num, p.Text = p.Num*one, "px"
			}
		case p.Kind == grammar.Calc:
			p = calculated(p, px)
		case p.Kind == grammar.URL && s.page.URL != nil:
			p.Text = s.page.URL(nil, p.Text)
		case isColour(&p):
			if usesCurrent(&p) {
				break
			}
			if c, ok := grammar.Color(&p, &grammar.Around{Dark: s.dark, Px: px}); ok {
				p = c
			}
		case len(p.Args) > 0:
			p.Args = s.settle(p.Args, px)
		}
		out[i] = p
	}
	return out
}

// usesCurrent reports whether a colour depends on currentcolor.
func usesCurrent(p *grammar.Part) bool {
	return p.Is("currentcolor") || slices.ContainsFunc(p.Args, func(a grammar.Part) bool { return usesCurrent(&a) })
}

// calculated is math with its units computed: a plain value where no percentage is left.
func calculated(p grammar.Part, px func(string) (float64, bool)) grammar.Part {
	sort := p.Math.Sort()
	if v, ok := p.Math.Value(func(unit string) (float64, bool) {
		if unit == "%" {
			return 1, sort == grammar.OfPercentage
		}
		return px(unit)
	}); ok {
		if math.IsNaN(v) || p.Int && v < 0 {
			v = 0
		}
		return grammar.Plain(v, sort)
	}
	p.Math = p.Math.Simplified(px)
	if a, b, ok := p.Math.Linear(); ok && a == 0 {
		if p.Int && b < 0 {
			b = 0
		}
		return grammar.Part{Kind: grammar.Percentage, Num: b}
	}
	return p
}

// computed is the computed value of a property from the one that was specified.
func (s *Style) computed(i ID, v *Value, w *win, order []applied) *Value {
	name := table().all[i].name
	switch name {
	case "font-size":
		return s.fontSize(v)
	case "font-weight":
		return s.fontWeight(v)
	case "color":
		if v.Parts[0].Is("currentcolor") {
			if s.parent != nil {
				return s.parent.value(i)
			}
			v = start(i)
		}
		around := &grammar.Around{Dark: s.dark, Px: s.units(s.size), Legacy: true}
		if s.parent != nil {
			around.Current, around.Legacy = s.parent.colour.Color, s.parent.colour.Text == grammar.Legacy
		}
		if c, ok := grammar.Color(&v.Parts[0], around); ok {
			return &Value{Parts: []grammar.Part{c}}
		}
		return v
	case "line-height":
		if p := v.Parts[0]; p.Kind == grammar.Percentage {
			return &Value{Parts: []grammar.Part{{Kind: grammar.Dimension, Num: p.Num / 100 * s.size, Text: "px"}}}
		} else if p.Kind == grammar.Calc && p.Math.Sort() != grammar.OfNumber && p.Math.Sort() != grammar.OfLength {
			px := s.units(s.size)
			n, _ := p.Math.Value(func(unit string) (float64, bool) {
				if unit == "%" {
					return s.size / 100, true
				}
				return px(unit)
			})
			return &Value{Parts: []grammar.Part{{Kind: grammar.Dimension, Num: max(0, n), Text: "px"}}}
		}
	}
	if v.depends && w != nil && w.decl != nil && order != nil && s.page.URL != nil {
		v = s.located(v, w, order)
	}
	v = s.settled(v, s.units(s.size))
	if f := computing[name]; f != nil {
		return f(s, v)
	}
	return v
}

// located is a value with its addresses made absolute, from the sheet that its declaration stands in.
func (s *Style) located(v *Value, w *win, order []applied) *Value {
	if !slices.ContainsFunc(v.Parts, hasURL) {
		return v
	}
	var m *match
	if w.from < len(order) {
		m = &s.matches[order[w.from].match]
	}
	var change func(parts []grammar.Part) []grammar.Part
	change = func(parts []grammar.Part) []grammar.Part {
		out := slices.Clone(parts)
		for i := range out {
			switch {
			case out[i].Kind == grammar.URL && m != nil && m.rule != nil:
				out[i].Text = s.page.URL(m.rule.Rule.Sheet, out[i].Text)
			case out[i].Kind == grammar.URL:
				out[i].Text = s.page.URL(nil, out[i].Text)
			case len(out[i].Args) > 0:
				out[i].Args = change(out[i].Args)
			}
		}
		return out
	}
	return &Value{Parts: change(v.Parts), depends: v.depends}
}

func hasURL(p grammar.Part) bool {
	return p.Kind == grammar.URL || slices.ContainsFunc(p.Args, hasURL)
}

// keywordSizes are the font sizes of xx-small to xxx-large in px, and those of monospace fonts.
// https://www.w3.org/TR/css-fonts-4/#absolute-size-mapping
var keywordSizes = map[string]int{"xx-small": 1, "x-small": 2, "small": 3, "medium": 4, "large": 5, "x-large": 6, "xx-large": 7, "xxx-large": 8}

var sizesOf = [2][9]float64{{0, 9, 10, 13, 16, 18, 24, 32, 48}, {0, 9, 9, 12, 13, 16, 20, 26, 40}}

// monospace reports whether the font is the generic one of typewriters, whose sizes are smaller.
func (s *Style) monospace() bool {
	v := s.value(id("font-family"))
	return len(v.Parts) == 1 && v.Parts[0].Is("monospace")
}

// inheritSize is the font size where none is declared: the parent's, in proportion where only one of both fonts is a
// typewriter's.
func (s *Style) inheritSize() {
	if s.parent == nil {
		s.size, s.keyword = 16, 4
		if s.monospace() {
			s.size = 13
		}
	} else {
		s.size, s.keyword, s.absolute = s.parent.size, s.parent.keyword, s.parent.absolute
	}
	s.fitFamily()
}

// fitFamily changes the size of a text whose font is a typewriter's, unlike the parent's.
func (s *Style) fitFamily() {
	mono, before := s.monospace(), s.parent != nil && s.parent.monospace()
	if s.absolute || mono == before {
		s.putSize()
		return
	}
	if s.keyword > 0 {
		s.size = sizesOf[b2i(mono)][s.keyword]
	} else {
		s.size *= familyRatio(mono)
	}
	s.putSize()
}

// familyRatio is how much larger or smaller letters get where the font becomes, or ends being, a typewriter's.
func familyRatio(mono bool) float64 {
	if mono {
		return 13.0 / 16
	}
	return 16.0 / 13
}

func b2i(b bool) int {
	if b {
		return 1
	}
	return 0
}

func (s *Style) putSize() {
	i := id("font-size")
	if v := s.value(i); len(v.Parts) == 1 && v.Parts[0].Kind == grammar.Dimension && v.Parts[0].Num == s.size {
		return
	}
	s.set(i, &Value{Parts: []grammar.Part{{Kind: grammar.Dimension, Num: s.size, Text: "px"}}})
}

// fontSize computes font-size.
func (s *Style) fontSize(v *Value) *Value {
	above, absolute := 16.0, false
	if s.parent != nil {
		above, absolute = s.parent.size, s.parent.absolute
	}
	switch p := v.Parts[0]; p.Kind {
	case grammar.Word:
		switch word := p.Keyword(); word {
		case "larger":
			s.size, s.keyword, s.absolute = above*1.2, 0, absolute
		case "smaller":
			s.size, s.keyword, s.absolute = above/1.2, 0, absolute
		case "math":
			return s.value(id("font-size"))
		default:
			s.keyword, s.absolute = keywordSizes[word], false
			s.size = sizesOf[b2i(s.monospace())][s.keyword]
			return px(s.size)
		}
	case grammar.Percentage:
		s.size, s.keyword, s.absolute = p.Num/100*above, 0, absolute
	default:
		units := s.units(above)
		relative := false
		one := func(unit string) (float64, bool) {
			if unit == "%" {
				relative = true
				return above / 100, true
			}
			o, ok := units(unit)
			switch unit {
			case "em", "ex", "ch", "cap", "ic", "lh":
				relative = true
			}
			return o, ok
		}
		n, ok := 0.0, false
		if p.Kind == grammar.Calc {
			n, ok = p.Math.Value(one)
		} else {
			n, ok = one(p.Text)
			n *= p.Num
		}
		if !ok {
			return nil
		}
		s.size, s.keyword, s.absolute = max(0, n), 0, absolute || !relative
	}
	s.fitSize()
	return px(s.size)
}

// fitSize is fitFamily where a size is declared that depends on the parent's.
func (s *Style) fitSize() {
	mono, before := s.monospace(), s.parent != nil && s.parent.monospace()
	if s.absolute || s.keyword > 0 || mono == before {
		return
	}
	s.size *= familyRatio(mono)
}

func px(v float64) *Value {
	return &Value{Parts: []grammar.Part{{Kind: grammar.Dimension, Num: v, Text: "px"}}}
}

func (s *Style) fontWeight(v *Value) *Value {
	above := 400.0
	if s.parent != nil {
		above = s.parent.value(id("font-weight")).Parts[0].Num
		if above == 0 {
			above = 400
		}
	}
	w := v.Parts[0].Num
	switch v.Parts[0].Keyword() {
	case "normal":
		w = 400
	case "bold":
		w = 700
	case "bolder":
		w = bolder(above)
	case "lighter":
		w = lighter(above)
	}
	if v.Parts[0].Kind == grammar.Calc {
		w, _ = v.Parts[0].Math.Value(s.units(s.size))
	}
	return number(w)
}

func bolder(w float64) float64 {
	switch {
	case w < 350:
		return 400
	case w < 550:
		return 700
	case w < 900:
		return 900
	}
	return w
}

func lighter(w float64) float64 {
	switch {
	case w < 100:
		return w
	case w < 550:
		return 100
	case w < 750:
		return 400
	}
	return 700
}

// painted are parts with what depends on currentcolor computed.
func (s *Style) painted(parts []grammar.Part) []grammar.Part {
	var out []grammar.Part
	for i := range parts {
		p := parts[i]
		switch {
		case p.Kind == grammar.Word && !p.Is("currentcolor") || p.Kind != grammar.Word && len(p.Args) == 0:
			continue
		case isColour(&p):
			c, ok := grammar.Color(&p, &grammar.Around{Current: s.colour.Color, Legacy: s.colour.Text == grammar.Legacy, Dark: s.dark, Px: s.units(s.size)})
			if !ok {
				continue
			}
			p = c
		case len(p.Args) > 0:
			p.Args = s.painted(p.Args)
		}
		if out == nil {
			out = slices.Clone(parts)
		}
		out[i] = p
	}
	if out == nil {
		return parts
	}
	return out
}

// Size is the font size in px.
func (s *Style) Size() float64 { return s.size }

// Color is the colour of text.
func (s *Style) Color() color.Color { return s.colour.Color }
