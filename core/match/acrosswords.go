package match

import (
	"cmp"
	"slices"
	"strings"

	"archetyp/core/design"
)

// plainWords are words with single blanks, case aside.
func plainWords(s string) string { return strings.ToLower(strings.Join(strings.Fields(s), " ")) }

func wordsOf(e *design.Element) string {
	if e.Words == nil {
		return ""
	}
	return plainWords(e.Words.Words)
}

// keys pairs texts with the same key that stands once on each side.
func (a *across) keys() {
	a.once(func(e *design.Element) string {
		if e.Words == nil || e.Marks.Text == "none" {
			return ""
		}
		return e.Marks.Text
	}, ByKey)
}

// words pairs texts with the same words. Words that stand as often on both sides are paired in their order; others by the
// longest common sequence of all texts, so that those around them decide.
func (a *across) words() {
	free := func(list []*design.Element, taken func(*design.Element) bool) (out []*design.Element) {
		for _, e := range list {
			if wordsOf(e) != "" && !taken(e) {
				out = append(out, e)
			}
		}
		return out
	}
	drawn := free(a.drawn, func(e *design.Element) bool { return a.of[e] != nil })
	page := free(a.page, func(e *design.Element) bool { return a.texts[e] != nil })
	at := map[string][]int{}
	for i, e := range page {
		at[wordsOf(e)] = append(at[wordsOf(e)], i)
	}
	count := map[string]int{}
	for _, e := range drawn {
		count[wordsOf(e)]++
	}
	seen := map[string]int{}
	for _, e := range drawn {
		w := wordsOf(e)
		if list := at[w]; len(list) == count[w] {
			a.join(e, page[list[seen[w]]], "", ByWords)
			seen[w]++
		}
	}
	// The rest: rising places in the page, by the longest rising subsequence.
	type try struct{ d, p int }
	var tries []try
	for i, e := range drawn {
		if a.of[e] != nil {
			for _, k := range at[wordsOf(e)] {
				if page[k] == a.of[e].Page {
					tries = append(tries, try{i, k})
				}
			}
			continue
		}
		for _, k := range slices.Backward(at[wordsOf(e)]) {
			if len(tries) < 200_000 {
				tries = append(tries, try{i, k})
			}
		}
	}
	places := make([]int, len(tries))
	for i, t := range tries {
		places[i] = t.p
	}
	for _, i := range Rising(places) {
		if d, p := drawn[tries[i].d], page[tries[i].p]; a.of[d] == nil && a.texts[p] == nil {
			a.join(d, p, "", ByWords)
		}
	}
	for _, e := range drawn { // words that went elsewhere
		if a.of[e] != nil {
			continue
		}
		for _, k := range at[wordsOf(e)] {
			if a.texts[page[k]] == nil {
				a.join(e, page[k], "", ByWords)
				break
			}
		}
	}
}

// prompts pairs words with the field that asks for them while it is empty, and with the value it has.
func (a *across) prompts() {
	for _, p := range a.page {
		if p.Node == nil || p.Node.Local != "input" && p.Node.Local != "textarea" {
			continue
		}
		for _, d := range a.drawn {
			if d.Words == nil || a.of[d] != nil {
				continue
			}
			if w := plainWords(p.Node.AttrOr("placeholder", "")); w != "" && w == wordsOf(d) {
				a.join(d, p, "placeholder", ByPrompt)
				break
			}
		}
	}
}

// leftWords pairs texts whose words differ: what is left on both sides of one container, by likeness, then by the place
// between neighbours that are paired.
func (a *across) leftWords(whole bool) {
	type scored struct {
		d, p *design.Element
		how  float64
	}
	groups := map[*design.Element][2][]*design.Element{}
	var order []*design.Element
	for _, d := range a.drawn {
		if d.Words == nil || a.of[d] != nil {
			continue
		}
		in := a.container(d)
		g := groups[in]
		if g[0] == nil {
			order = append(order, in)
		}
		g[0] = append(g[0], d)
		groups[in] = g
	}
	for _, p := range a.page {
		if p.Words == nil || a.texts[p] != nil {
			continue
		}
		for in := p; in != nil; in = in.Parent {
			if g, ok := groups[in]; ok {
				g[1] = append(g[1], p)
				groups[in] = g
				break
			}
			if a.boxes[in] != nil {
				break
			}
		}
	}
	for _, in := range order {
		g := groups[in]
		var list []scored
		if len(g[0])*len(g[1]) > mostWeighed {
			continue
		}
		for _, d := range g[0] {
			for _, p := range g[1] {
				const enough = 0.55
				if s := Words(d.Words.Words, p.Words.Words); s >= enough {
					list = append(list, scored{d, p, s})
				}
			}
		}
		slices.SortStableFunc(list, func(x, y scored) int { return cmp.Compare(y.how, x.how) })
		for _, s := range list {
			if a.of[s.d] == nil && a.texts[s.p] == nil {
				a.join(s.d, s.p, "", ByLikeness)
			}
		}
		left := func(list []*design.Element, taken func(*design.Element) bool) []*design.Element {
			return slices.DeleteFunc(slices.Clone(list), taken)
		}
		d := left(g[0], func(e *design.Element) bool { return a.of[e] != nil })
		p := left(g[1], func(e *design.Element) bool { return a.texts[e] != nil })
		if (in != a.rootPage || !whole) && len(d) == len(p) && len(d) <= 2 { // the only ones of a component
			for i := range d {
				a.join(d[i], p[i], "", ByRole)
			}
		}
	}
}

// container is the partner of the nearest container of an element that has one; the page itself where none has.
func (a *across) container(e *design.Element) *design.Element {
	for up := e.Parent; up != nil; up = up.Parent {
		if x := a.of[up]; x != nil && x.Part == "" {
			return x.Page
		}
		if up == a.rootDrawn {
			break
		}
	}
	return a.rootPage
}
