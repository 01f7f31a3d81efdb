package match

import (
	"slices"
	"strings"

	"archetyp/core/digest"
	"archetyp/core/markup"
)

// Why nodes of two pages are the same.
const (
	BySubtree  Reason = "the same in all that it holds"
	ByContents Reason = "it holds what the other holds"
	ByPosition Reason = "same kind, at the same position"
)

// NodePair joins a node of a page with the one it is in another version of the page.
type NodePair struct {
	Old, New *markup.Node
	Why      Reason
}

// Trees pairs the elements of two versions of a page: ids, whole subtrees that are the same, containers by what they
// hold, and what stands in the same container by its kind, classes and words, in this order. Elements that are left are
// gone (old) or new. Classes help but do not decide, so that renamed ones change nothing; a wrapper around the same
// contents is new, and what it holds is not. Time and memory grow with the number of nodes.
func Trees(old, new *markup.Node) []NodePair {
	m := &trees{old: newForest(old), new: newForest(new)}
	if len(m.old.nodes) == 0 || len(m.new.nodes) == 0 {
		return nil
	}
	m.ids()
	m.same()
	m.roots()
	m.holders()
	m.within()
	m.leftover()
	slices.SortStableFunc(m.pairs, func(a, b NodePair) int { return m.new.index[a.New] - m.new.index[b.New] })
	return m.pairs
}

// forest is one of two pages.
type forest struct {
	nodes []*markup.Node // elements, in document order
	index map[*markup.Node]int
	size  []int    // elements in the subtree, itself included
	up    []int    // the element it stands in; −1 for the first
	sum   []string // of all that the subtree shows
	other []int    // the partner on the other side; −1 for none
}

func newForest(root *markup.Node) *forest {
	f := &forest{index: map[*markup.Node]int{}}
	var visit func(n *markup.Node, up int) string
	visit = func(n *markup.Node, up int) string {
		i := len(f.nodes)
		f.index[n] = i
		f.nodes, f.size, f.up, f.sum, f.other = append(f.nodes, n), append(f.size, 1), append(f.up, up), append(f.sum, ""), append(f.other, -1)
		d := digest.New()
		d.Text(n.Local)
		for _, a := range n.Attrs {
			if !stylistic(a.Name) {
				d.Text(a.Name, a.Value)
			}
		}
		for _, c := range Inside(n) {
			switch c.Kind {
			case markup.Text:
				if t := strings.Join(strings.Fields(c.Data), " "); t != "" {
					d.Text("", t)
				}
			case markup.Element:
				d.Text("<", visit(c, i))
			}
		}
		f.size[i] = len(f.nodes) - i
		f.sum[i] = d.String()
		return f.sum[i]
	}
	if root.Kind == markup.Element {
		visit(root, -1)
		return f
	}
	for _, c := range root.Children {
		if c.Kind == markup.Element {
			visit(c, -1)
		}
	}
	return f
}

// Inside is what stands in an element: in its shadow root where it has one, and then its children.
func Inside(n *markup.Node) []*markup.Node {
	if n.Shadow == nil {
		return n.Children
	}
	return append(slices.Clone(n.Shadow.Children), n.Children...)
}

// stylistic reports whether an attribute says how an element looks or is addressed, rather than what it is.
func stylistic(name string) bool { return name == "class" || name == "style" || name == "id" }

// trees pairs two pages.
type trees struct {
	old, new *forest
	pairs    []NodePair
}

func (m *trees) pair(o, n int, why Reason) bool {
	if m.old.other[o] >= 0 || m.new.other[n] >= 0 || m.old.nodes[o].Local != m.new.nodes[n].Local {
		return false
	}
	m.old.other[o], m.new.other[n] = n, o
	m.pairs = append(m.pairs, NodePair{m.old.nodes[o], m.new.nodes[n], why})
	return true
}

// whole pairs two subtrees that are the same, node by node.
func (m *trees) whole(o, n int) {
	for k := range m.old.size[o] {
		m.pair(o+k, n+k, BySubtree)
	}
}

// same pairs subtrees that are the same and stand as often on both sides, the largest first; single elements only where
// they say something.
func (m *trees) same() {
	type group struct{ old, new []int }
	groups := map[string]*group{}
	var order []string
	for i, s := range m.old.sum {
		if groups[s] == nil {
			groups[s] = &group{}
			order = append(order, s)
		}
		groups[s].old = append(groups[s].old, i)
	}
	for i, s := range m.new.sum {
		if g := groups[s]; g != nil {
			g.new = append(g.new, i)
		}
	}
	slices.SortStableFunc(order, func(a, b string) int { return m.old.size[groups[b].old[0]] - m.old.size[groups[a].old[0]] })
	free := func(f *forest, list []int) (out []int) {
		for _, i := range list {
			if f.other[i] < 0 {
				out = append(out, i)
			}
		}
		return out
	}
	for _, s := range order {
		g := groups[s]
		o, n := free(m.old, g.old), free(m.new, g.new)
		if len(o) != len(n) || len(o) == 0 || m.old.size[o[0]] == 1 && (len(o) > 1 || !telling(m.old.nodes[o[0]])) {
			continue
		}
		for k := range o {
			m.whole(o[k], n[k])
		}
	}
}

// telling reports whether a single element says what it is: by words or by an attribute.
func telling(n *markup.Node) bool {
	if OwnWords(n) != "" {
		return true
	}
	return slices.ContainsFunc(n.Attrs, func(a markup.Attr) bool { return !stylistic(a.Name) })
}

// OwnWords are the words that stand in an element itself, not in elements in it, with single blanks.
func OwnWords(n *markup.Node) string {
	var b []string
	for _, c := range n.Children {
		if c.Kind == markup.Text {
			b = append(b, strings.Fields(c.Data)...)
		}
	}
	return strings.Join(b, " ")
}

// ids pairs elements whose id stands once on each side.
func (m *trees) ids() {
	o, n := m.old.ids(), m.new.ids()
	for i, node := range m.old.nodes {
		if id := node.ID(); id != "" && len(o[id]) == 1 && len(n[id]) == 1 {
			m.pair(i, n[id][0], ByID)
		}
	}
}

// ids are the elements with an id, by it.
func (f *forest) ids() map[string][]int {
	out := map[string][]int{}
	for i, n := range f.nodes {
		if id := n.ID(); id != "" {
			out[id] = append(out[id], i)
		}
	}
	return out
}

// roots pairs html, head and body.
func (m *trees) roots() {
	first := func(f *forest) map[string]int {
		out := map[string]int{"": 0}
		for i, n := range f.nodes {
			if n.Local == "head" || n.Local == "body" {
				if _, ok := out[n.Local]; !ok {
					out[n.Local] = i
				}
			}
		}
		return out
	}
	o, n := first(m.old), first(m.new)
	for _, k := range []string{"", "head", "body"} {
		i, ok := o[k]
		j, also := n[k]
		if ok && also {
			m.pair(i, j, ByPosition)
		}
	}
}

// holders pairs containers by what they hold, from the innermost out: the container that holds the most of what the
// other holds and the least beside it, one with the same classes first.
func (m *trees) holders() {
	for o := len(m.old.nodes) - 1; o >= 0; o-- {
		if m.old.other[o] >= 0 || m.old.size[o] == 1 {
			continue
		}
		common := map[int]int{}
		var order []int
		for k := o + 1; k < o+m.old.size[o]; k++ {
			n := m.old.other[k]
			if n < 0 {
				continue
			}
			const high = 12 // levels that are looked at above a partner, so that deep pages cost no more
			for up, level := m.new.up[n], 0; up >= 0 && level < high; up, level = m.new.up[up], level+1 {
				if m.new.other[up] < 0 && m.new.nodes[up].Local == m.old.nodes[o].Local {
					if common[up] == 0 {
						order = append(order, up)
					}
					common[up]++
				}
			}
			if m.old.size[k] > 1 && m.old.other[k] >= 0 && m.new.size[n] == m.old.size[k] && m.old.sum[k] == m.new.sum[n] { // what it holds is in there, too
				for _, up := range order {
					if up < n && n < up+m.new.size[up] && common[up] > 0 {
						common[up] += m.old.size[k] - 1
					}
				}
				k += m.old.size[k] - 1
			}
		}
		best, score := -1, 0.0
		for _, up := range order {
			s := 2*float64(common[up])/float64(m.old.size[o]+m.new.size[up]-2) + 0.2*classes(m.old.nodes[o], m.new.nodes[up])
			if s > score {
				best, score = up, s
			}
		}
		const enough = 0.3
		if best >= 0 && score >= enough {
			m.pair(o, best, ByContents)
		}
	}
}

// classes says how many classes two elements share, 0–1.
func classes(a, b *markup.Node) float64 {
	x, y := classList(a), classList(b)
	if len(x) == 0 || len(y) == 0 {
		return 0
	}
	n := 0
	for _, c := range x {
		if slices.Contains(y, c) {
			n++
		}
	}
	return float64(n) / float64(max(len(x), len(y)))
}

func classList(n *markup.Node) []string {
	v, _ := n.Attr("class")
	return strings.Fields(v)
}

// within pairs what stands in containers that are paired, from the root down.
func (m *trees) within() {
	for n := range m.new.nodes {
		if o := m.new.other[n]; o >= 0 {
			m.children(m.under(m.old, o), m.under(m.new, n))
		}
	}
}

// under are the elements directly in an element that have no partner.
func (m *trees) under(f *forest, i int) (out []int) {
	for k := i + 1; k < i+f.size[i]; k += f.size[k] {
		if f.other[k] < 0 {
			out = append(out, k)
		}
	}
	return out
}

// children pairs elements of one container: by all they show, by words, by classes and structure, and last by their kind
// where as many are left on both sides or their words are alike.
func (m *trees) children(old, new []int) {
	if len(old) == 0 || len(new) == 0 {
		return
	}
	class := func(f *forest, i int) string { v, _ := f.nodes[i].Attr("class"); return v }
	words := func(f *forest, i int) string { return OwnWords(f.nodes[i]) }
	for _, key := range []func(f *forest, i int) string{
		func(f *forest, i int) string { return f.sum[i] + "\x00" + class(f, i) },
		func(f *forest, i int) string { return f.sum[i] },
		func(f *forest, i int) string {
			if w := words(f, i); w != "" {
				return f.nodes[i].Local + "\x00" + w
			}
			return ""
		},
	} {
		old, new = m.by(old, new, key)
	}
	old, new = m.likely(old, new)
	if len(old) == len(new) {
		m.by(old, new, func(f *forest, i int) string { return f.nodes[i].Local })
		return
	}
	old, new = m.by(old, new, func(f *forest, i int) string {
		if c := class(f, i); c != "" {
			return f.nodes[i].Local + "\x00" + c
		}
		return ""
	})
	if len(old) == 1 || len(new) == 1 || len(old) == len(new) {
		m.by(old, new, func(f *forest, i int) string {
			if f.size[i] > 1 && (len(old) != len(new)) { // one that holds others and came or went is none of those that stayed
				return ""
			}
			return f.nodes[i].Local
		})
	}
}

// mostWeighed is how many pairs of one container are weighed against each other.
const mostWeighed = 2500

// likely pairs elements whose words are alike, the most alike first.
func (m *trees) likely(old, new []int) (restOld, restNew []int) {
	type scored struct {
		o, n int
		how  float64
	}
	if len(old)*len(new) > mostWeighed {
		return old, new
	}
	var list []scored
	for i, o := range old {
		for j, n := range new {
			if m.old.nodes[o].Local != m.new.nodes[n].Local {
				continue
			}
			a, b := m.text(m.old, o), m.text(m.new, n)
			if a == "" || b == "" {
				continue
			}
			const enough = 0.5
			if s := Words(a, b); s >= enough {
				near := 0.0
				if i == j {
					near = 0.05
				}
				list = append(list, scored{o, n, s + 0.1*classes(m.old.nodes[o], m.new.nodes[n]) + near})
			}
		}
	}
	slices.SortStableFunc(list, func(a, b scored) int {
		switch {
		case a.how > b.how:
			return -1
		case a.how < b.how:
			return 1
		}
		return 0
	})
	for _, s := range list {
		m.pair(s.o, s.n, ByLikeness)
	}
	left := func(f *forest, list []int) []int {
		return slices.DeleteFunc(slices.Clone(list), func(i int) bool { return f.other[i] >= 0 })
	}
	return left(m.old, old), left(m.new, new)
}

// text is what an element and all in it say, up to a length that is enough to compare.
func (m *trees) text(f *forest, i int) string {
	const most = 200
	var b strings.Builder
	for k := i; k < i+f.size[i] && b.Len() < most; k++ {
		if w := OwnWords(f.nodes[k]); w != "" {
			b.WriteString(w + " ")
		}
	}
	return b.String()
}

// by pairs elements of one key in their order, and returns those that are left. "" is no key.
func (m *trees) by(old, new []int, key func(f *forest, i int) string) (restOld, restNew []int) {
	waiting := map[string][]int{}
	for _, o := range old {
		if k := key(m.old, o); k != "" {
			waiting[k] = append(waiting[k], o)
		}
	}
	for _, n := range new {
		k := key(m.new, n)
		list := waiting[k]
		if k == "" || len(list) == 0 || !m.pair(list[0], n, ByPosition) {
			restNew = append(restNew, n)
			continue
		}
		if m.old.sum[list[0]] == m.new.sum[n] {
			for d := 1; d < m.old.size[list[0]] && m.old.size[list[0]] == m.new.size[n]; d++ {
				m.pair(list[0]+d, n+d, BySubtree)
			}
		}
		waiting[k] = list[1:]
	}
	for _, o := range old {
		if m.old.other[o] < 0 {
			restOld = append(restOld, o)
		}
	}
	return restOld, restNew
}

// leftover pairs what stands in a wrapper that only one side has with what stands in the container around it on the
// other, and whole subtrees that went elsewhere.
func (m *trees) leftover() {
	for n := range m.new.nodes {
		if m.new.other[n] >= 0 || m.new.size[n] == 1 {
			continue
		}
		if up := m.paired(m.new, n); up >= 0 {
			m.children(m.under(m.old, m.new.other[up]), m.under(m.new, n))
		}
	}
	for o := range m.old.nodes {
		if m.old.other[o] >= 0 || m.old.size[o] == 1 {
			continue
		}
		if up := m.paired(m.old, o); up >= 0 {
			m.children(m.under(m.old, o), m.under(m.new, m.old.other[up]))
		}
	}
	free := func(f *forest) (out []int) {
		for i := range f.nodes {
			if f.other[i] < 0 && telling(f.nodes[i]) {
				out = append(out, i)
			}
		}
		return out
	}
	m.by(free(m.old), free(m.new), func(f *forest, i int) string {
		if f.other[i] >= 0 {
			return ""
		}
		return f.sum[i]
	})
	m.within()
}

// paired is the nearest element around one that has a partner; −1 for none.
func (m *trees) paired(f *forest, i int) int {
	for up := f.up[i]; up >= 0; up = f.up[up] {
		if f.other[up] >= 0 {
			return up
		}
	}
	return -1
}
