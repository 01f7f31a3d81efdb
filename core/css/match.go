package css

import (
	"strings"
	"sync"
	"sync/atomic"

	"archetyp/core/limit"
	"archetyp/core/markup"
)

// Matches reports whether the selector means the element, with none of the states (hover, focus …) in force. To ask
// about many elements of a document, use one Matcher.
func (s *Selector) Matches(n *markup.Node) bool { return NewMatcher(nil, nil).Matches(s, n) }

// MatchesIn is Matches with some states in force, by pseudo-class name.
func (s *Selector) MatchesIn(n *markup.Node, states map[string]bool) bool {
	return NewMatcher(states, nil).Matches(s, n)
}

// Matcher matches selectors against the elements of one document, and remembers what takes long to find out. It is safe
// to use side by side.
type Matcher struct {
	states map[string]bool
	budget *limit.Budget
	steps  atomic.Int64
	over   atomic.Bool
	places sync.Map // placing → map[*markup.Node]int
	firsts sync.Map // following → int, the place among the children
	radios sync.Map // root of a tree → map[radioGroup]*markup.Node, those that are checked
	chosen sync.Map // select → *markup.Node, the option it shows
	words  sync.Map // long lists of classes, by their text → map[string]bool
}

// NewMatcher is a matcher with some states in force, by pseudo-class name, that takes its steps from a budget.
func NewMatcher(states map[string]bool, budget *limit.Budget) *Matcher {
	return &Matcher{states: states, budget: budget}
}

// Matches reports whether a selector means an element. When the budget is spent, nothing matches; see Err.
func (m *Matcher) Matches(s *Selector, n *markup.Node) bool {
	if m.over.Load() {
		return false
	}
	r := matching{Matcher: m}
	defer r.end()
	return r.selector(s, n)
}

// MatchesPart reports whether a selector means a pseudo-element ("before") of an element.
func (m *Matcher) MatchesPart(s *Selector, n *markup.Node, part string) bool {
	for i := range s.Complex {
		if _, ok := m.matches(&s.Complex[i], n, part, nil); ok {
			return true
		}
	}
	return false
}

// matches is Matches for one selector of a list, of an element or one of its pseudo-elements.
func (m *Matcher) matches(c *Complex, n *markup.Node, part string, in *scope) (distance int, ok bool) {
	if m.over.Load() {
		return 0, false
	}
	r := matching{Matcher: m, part: part}
	defer r.end()
	if in != nil {
		return in.matches(c, n, &r)
	}
	return 0, c.matches(n, &r)
}

// matches finds the nearest root of a scope in which a selector means an element, and how many elements away it is.
func (s *scope) matches(c *Complex, n *markup.Node, m *matching) (distance int, ok bool) {
	for root := n; root != nil; root, distance = root.Parent, distance+1 {
		if s.root == nil && root.Parent != nil {
			continue
		}
		m.scope = nil
		part := m.part
		m.part = ""
		if s.within != nil {
			_, ok = s.within.holds(root, m)
		} else {
			ok = true
		}
		if ok && s.root != nil {
			ok = m.selector(s.root, root)
		}
		if m.scope = root; ok && s.limit != nil {
			for x := n; x != root && ok; x = x.Parent {
				ok = !m.selector(s.limit, x)
			}
		}
		m.part = part
		if ok && c.matches(n, m) {
			return distance, true
		}
	}
	return 0, false
}

// holds reports whether an element lies in a scope, and in which root's.
func (s *scope) holds(n *markup.Node, m *matching) (root *markup.Node, ok bool) {
	for root = n; root != nil; root = root.Parent {
		if s.root == nil && root.Parent == nil || s.root != nil && m.selector(s.root, root) {
			return root, true
		}
	}
	return nil, false
}

// declared takes from the budget what declarations cost that a rule gives to an element.
func (m *Matcher) declared(n int) {
	r := matching{Matcher: m}
	r.spend(min(4*n, manySteps))
	r.end()
}

// Err is the limit that was reached, as a *limit.Error.
func (m *Matcher) Err() error {
	if m.over.Load() {
		if err := m.budget.Time(); err != nil {
			return err
		}
		return &limit.Error{Kind: limit.Steps, Limit: m.budget.Limit(limit.Steps)}
	}
	return nil
}

// matching is one question to a matcher: it counts its steps by itself, since many ask at once.
type matching struct {
	*Matcher
	steps int
	part  string       // the pseudo-element asked for; "" for the element itself
	scope *markup.Node // what :scope means; nil for the root
	host  *markup.Node // the host of the shadow tree that the sheet stands in
}

func (m *matching) selector(s *Selector, n *markup.Node) bool {
	for i := range s.Complex {
		if s.Complex[i].matches(n, m) {
			return true
		}
	}
	return false
}

// manySteps are taken from the budget at a time.
const manySteps = 1024

// step counts one test of an element; false says that there have been too many.
func (m *matching) step() bool { return m.spend(1) }

// spend counts what costs as much as so many tests, manySteps at most.
func (m *matching) spend(n int) bool {
	if m.steps += n; m.steps >= manySteps {
		m.steps -= manySteps
		if m.over.Load() || m.budget.Spend(limit.Steps, manySteps) != nil || m.budget.Time() != nil {
			m.over.Store(true)
		}
		return !m.over.Load()
	}
	return true
}

// end hands the steps that are left to the matcher.
func (m *matching) end() {
	if m.steps > 0 && m.Matcher.steps.Add(int64(m.steps))%manySteps < int64(m.steps) {
		if m.budget.Spend(limit.Steps, manySteps) != nil {
			m.over.Store(true)
		}
	}
}

func (c *Complex) matches(n *markup.Node, m *matching) bool {
	return c.Parts[0].Part == m.part && matchFrom(c.Parts, n, m)
}

func matchFrom(parts []Compound, n *markup.Node, m *matching) bool {
	if !parts[0].matches(n, m) {
		return false
	}
	if len(parts) == 1 {
		return true
	}
	rest := parts[1:]
	switch parts[0].Comb {
	case '>':
		return n.Parent != nil && matchFrom(rest, n.Parent, m)
	case '+':
		s := sibling(n, -1)
		return s != nil && matchFrom(rest, s, m)
	case '~':
		return m.follows(n, rest)
	default:
		for a := n.Parent; a != nil; a = a.Parent {
			if matchFrom(rest, a, m) {
				return true
			}
		}
	}
	return false
}

// follows reports whether an element before n matches. Of many siblings the first that does is found once.
func (m *matching) follows(n *markup.Node, rest []Compound) bool {
	if n.Parent == nil {
		return false
	}
	all := n.Parent.Children
	if len(all) <= fewSiblings {
		for _, s := range all[:n.Index] {
			if s.Kind == markup.Element && matchFrom(rest, s, m) {
				return true
			}
		}
		return false
	}
	m.spend(lookup)
	key := following{n.Parent, &rest[0]}
	first, known := m.firsts.Load(key)
	if !known {
		first = len(all)
		for i, s := range all {
			if s.Kind == markup.Element && matchFrom(rest, s, m) {
				first = i
				break
			}
		}
		if !m.over.Load() {
			m.firsts.Store(key, first)
		}
	}
	return first.(int) < n.Index
}

// lookup is what it costs to remember something, in tests of an element.
const lookup = 8

// following is a question of siblings: which child of a node is the first that matches from a compound on.
type following struct {
	parent *markup.Node
	from   *Compound
}

// sibling is the next element in a direction.
func sibling(n *markup.Node, step int) *markup.Node {
	if n.Parent == nil {
		return nil
	}
	all := n.Parent.Children
	for i := n.Index + step; i >= 0 && i < len(all); i += step {
		if all[i].Kind == markup.Element {
			return all[i]
		}
	}
	return nil
}

func (c *Compound) matches(n *markup.Node, m *matching) bool {
	if c.Never && c.Part != m.part || n.Kind != markup.Element || !m.step() {
		return false
	}
	if c.Tag != "" && c.Tag != "*" && c.Tag != n.Local && !(n.Lax && strings.EqualFold(c.Tag, n.Local)) {
		return false
	}
	if c.Spaced && n.Space != c.Space {
		return false
	}
	for _, id := range c.ID {
		if n.ID() != id {
			return false
		}
	}
	if len(c.Class) > 0 {
		classes, _ := n.Attr("class")
		for _, k := range c.Class {
			if !m.hasClass(classes, k) {
				return false
			}
		}
	}
	for i := range c.Attrs {
		if !c.Attrs[i].matches(n) {
			return false
		}
	}
	for i := range c.Pseudo {
		if !c.Pseudo[i].matches(n, m) {
			return false
		}
	}
	return true
}

// longList is how many bytes of classes are looked through word by word; longer ones are kept in a set.
const longList = 256

func (m *matching) hasClass(list, word string) bool {
	if len(list) < longList {
		return hasWord(list, word)
	}
	words, ok := m.words.Load(list)
	if !ok {
		set := map[string]bool{}
		for _, w := range strings.Fields(list) {
			set[w] = true
		}
		words, _ = m.words.LoadOrStore(list, set)
	}
	return words.(map[string]bool)[word]
}

func hasWord(list, word string) bool {
	for list != "" {
		list = strings.TrimLeft(list, " \t\r\n\f")
		end := strings.IndexAny(list, " \t\r\n\f")
		if end < 0 {
			return list == word
		}
		if list[:end] == word {
			return true
		}
		list = list[end:]
	}
	return false
}

// caseless are the attributes of HTML whose values know no case in selectors.
// https://html.spec.whatwg.org/multipage/semantics-other.html#case-sensitivity-of-selectors
var caseless = func() map[string]bool {
	m := map[string]bool{}
	for _, n := range strings.Fields(`accept accept-charset align alink axis bgcolor charset checked clear codetype color compact declare defer dir
		direction disabled enctype face frame hreflang http-equiv lang language link media method multiple nohref noresize noshade nowrap readonly
		rel rev rules scope scrolling selected shape target text type valign valuetype vlink`) {
		m[n] = true
	}
	return m
}()

func (a *attrTest) matches(n *markup.Node) bool {
	v, ok := "", false
	for i := range n.Attrs {
		at := &n.Attrs[i]
		switch {
		case a.any || a.spaced:
			ok = at.Local == a.name && (a.any || at.Space == a.space)
		default:
			ok = (at.Name == a.name || n.HTML && strings.EqualFold(at.Name, a.name)) && (at.Space == "" || !n.Lax)
		}
		if ok {
			v = at.Value
			break
		}
	}
	if !ok {
		return false
	}
	w := a.value
	if a.nocase || n.HTML && caseless[strings.ToLower(a.name)] {
		v, w = strings.ToLower(v), strings.ToLower(w)
	}
	switch a.op {
	case '=':
		return v == w
	case '~':
		return w != "" && hasWord(v, w)
	case '|':
		return v == w || strings.HasPrefix(v, w+"-")
	case '^':
		return w != "" && strings.HasPrefix(v, w)
	case '$':
		return w != "" && strings.HasSuffix(v, w)
	case '*':
		return w != "" && strings.Contains(v, w)
	}
	return true
}
