package computed

import (
	"cmp"
	"slices"

	"archetyp/core/css"
	"archetyp/core/css/grammar"
	"archetyp/core/markup"
)

// Style is what is computed of one element, or of a pseudo-element.
type Style struct {
	page    *Page
	node    *markup.Node
	parent  *Style
	part    string
	passed  []*Value // of inherited properties, by slot; shared with the parent until one differs
	shares  bool
	own     []entry // of the others that are not initial, by property
	vars    *vars
	matches []match

	size     float64 // font size in px
	keyword  int     // of font-size, 1 for xx-small; 0 where a length was given
	absolute bool    // the font size depends on no other
	dark     bool
	colour   grammar.Part
}

type entry struct {
	id    ID
	value *Value
}

// compute makes the style of an element from all that matches.
func (p *Page) compute(n *markup.Node, parent *Style, list []match, part string) *Style {
	s := &Style{page: p, node: n, parent: parent, part: part, matches: list}
	if parent != nil {
		s.passed, s.shares = parent.passed, true
	} else {
		s.passed = rootValues()
		s.shares = true
	}
	order := order(list)
	touched, logicalOnes, customs := p.winners(order)
	s.vars = s.customs(customs, order)
	s.settleFirst()
	for _, l := range logicalOnes {
		physical := id(logicals[l.decl.logical].physical(s.word("writing-mode"), s.word("direction")))
		w := &p.wins[physical]
		if w.round != p.round {
			touched = append(touched, physical)
			*w = l
		} else if l.seq > w.seq {
			*w = l
		}
	}
	for _, i := range first() {
		if p.wins[i].round == p.round {
			s.set(i, s.resolve(i, &p.wins[i], order))
		}
		s.after(i)
	}
	for _, i := range touched {
		if !isFirst(i) {
			s.set(i, s.resolve(i, &p.wins[i], order))
		}
	}
	s.adjust()
	slices.SortFunc(s.own, func(a, b entry) int { return cmp.Compare(a.id, b.id) })
	return s
}

// winners finds the declaration that wins, by property. Logical properties come apart: what they stand for depends on
// the direction of writing.
func (p *Page) winners(order []applied) (touched []ID, logicalOnes []win, customs map[string]win) {
	p.round++
	seq := 0
	for k := range order {
		for i := range order[k].decls {
			d := &order[k].decls[i]
			seq++
			w := win{p.round, d, seq, k}
			switch {
			case d.custom != "":
				if customs == nil {
					customs = map[string]win{}
				}
				customs[d.custom] = w
			case d.logical != "":
				logicalOnes = append(logicalOnes, w)
			default:
				if p.wins[d.id].round != p.round {
					touched = append(touched, d.id)
				}
				p.wins[d.id] = w
			}
		}
	}
	return touched, logicalOnes, customs
}

// settleFirst computes what logical properties need: the direction of writing.
func (s *Style) settleFirst() {
	for _, name := range []string{"writing-mode", "direction"} {
		i := id(name)
		if w := &s.page.wins[i]; w.round == s.page.round {
			s.set(i, s.resolve(i, w, nil))
		}
	}
}

// resolve is the computed value that a declaration gives to a property; nil for the initial one.
func (s *Style) resolve(i ID, w *win, order []applied) *Value {
	d := w.decl
	value, keyword := d.value, d.wide
	if d.text != "" {
		value, keyword = s.substituted(i, d)
	}
	prop := &table().all[i]
	for keyword == wideRevert || keyword == wideRevertLayer {
		next := s.lower(i, w, order, keyword)
		if next == nil {
			keyword = wideUnset
			break
		}
		w = next
		value, keyword = w.decl.value, w.decl.wide
		if w.decl.text != "" {
			value, keyword = s.substituted(i, w.decl)
		}
	}
	if keyword == wideUnset {
		keyword = wideInitial
		if prop.inherited {
			keyword = wideInherit
		}
	}
	switch keyword {
	case wideInitial:
		return s.computed(i, start(i), w, order)
	case wideInherit:
		if s.parent == nil {
			return s.computed(i, start(i), w, order)
		}
		return s.parent.passedOn(i, s)
	}
	if value == nil {
		return nil
	}
	return s.computed(i, value, w, order)
}

// passedOn is a value as a child inherits it.
func (s *Style) passedOn(i ID, to *Style) *Value {
	if i == id("font-size") {
		to.keyword, to.absolute = s.keyword, s.absolute
	}
	return s.value(i)
}

// lower is the declaration that would win without those of an origin, or of a layer.
func (s *Style) lower(i ID, w *win, order []applied, keyword wide) *win {
	if w.from >= len(order) {
		return nil
	}
	m := &s.matches[order[w.from].match]
	for k := w.from; k >= 0; k-- {
		o := &s.matches[order[k].match]
		switch {
		case keyword == wideRevertLayer && o.origin == m.origin && o.layer == m.layer:
			continue
		case keyword == wideRevert && (o.origin != fromBrowser || m.origin == fromBrowser):
			continue
		}
		for n := len(order[k].decls) - 1; n >= 0; n-- {
			d := &order[k].decls[n]
			if d.id == i || d.logical != "" && id(logicals[d.logical].physical(s.word("writing-mode"), s.word("direction"))) == i {
				return &win{w.round, d, 0, k}
			}
		}
	}
	return nil
}

// set gives a property a computed value; nil leaves it as it would be without a declaration.
func (s *Style) set(i ID, v *Value) {
	if v == nil {
		return
	}
	if slot := inheritedSlots()[i]; slot >= 0 {
		if s.passed[slot] == v {
			return
		}
		if s.shares {
			s.passed, s.shares = slices.Clone(s.passed), false
		}
		s.passed[slot] = v
		return
	}
	for k := range s.own {
		if s.own[k].id == i {
			s.own[k].value = v
			return
		}
	}
	s.own = append(s.own, entry{i, v})
}

// value is the computed value of a property.
func (s *Style) value(i ID) *Value {
	if slot := inheritedSlots()[i]; slot >= 0 {
		return s.passed[slot]
	}
	for k := range s.own {
		if s.own[k].id == i {
			return s.own[k].value
		}
	}
	return start(i)
}

// word is the keyword that a property has; "" for none.
func (s *Style) word(name string) string { return s.wordOf(id(name)) }

func (s *Style) wordOf(i ID) string {
	if v := s.value(i); len(v.Parts) == 1 {
		return v.Parts[0].Keyword()
	}
	return ""
}

// Declared are the rules that mean the element, in the order in which they win, the style attribute last.
func (s *Style) Declared() (out []css.Match) {
	for i := range s.matches {
		if m := s.matches[i].rule; m != nil {
			out = append(out, *m)
		}
	}
	return out
}
