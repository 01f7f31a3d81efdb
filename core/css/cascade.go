package css

import (
	"cmp"
	"slices"
	"sort"
	"strings"

	"archetyp/core/limit"
	"archetyp/core/markup"
)

// SourceKind says what kind of statement a value comes from.
type SourceKind uint8

// Where a declared value stands: nowhere (it is initial), in a presentation attribute, a rule, a style attribute.
const (
	FromNowhere SourceKind = iota
	FromAttribute
	FromRule
	FromInline
)

// Source is the statement that gave a value. Rule is set for FromRule.
type Source struct {
	Kind SourceKind
	Rule *Rule
	Node *markup.Node // the element it was declared on: an ancestor where the value is inherited
}

// Style is the cascaded style of one element.
type Style struct {
	Parent *Style
	own    []entry
	index  map[string]int // into own, where there are many
}

type entry struct {
	prop, value string
	src         Source
}

// Cascade answers what a set of style sheets says of elements.
type Cascade struct {
	hints func(*markup.Node) []Decl
	match *Matcher
	rules []indexed
	own   ruleIndex             // rules for elements
	parts map[string]*ruleIndex // for pseudo-elements, by name
	above lineages
}

// ruleIndex finds the rules that may mean an element, by what their last compound wants.
type ruleIndex struct {
	byID, byTag, byWord map[string][]int // by id, tag, class
	rest                []int
}

func newIndex() ruleIndex {
	return ruleIndex{byID: map[string][]int{}, byTag: map[string][]int{}, byWord: map[string][]int{}}
}

type indexed struct {
	rule  *Rule
	cx    *Complex
	layer int // its rank: of two layers the higher wins
	above []trait
}

// Match is a rule that means an element.
type Match struct {
	Rule   *Rule
	Spec   Specificity
	Layer  int // its rank: of two layers the higher wins, unless what they say is important
	Near   int // elements between it and the root of its @scope
	Order  int
	Scoped bool
}

// NewCascade prepares style sheets for the document of a root, in their order. hints are the presentation attributes of
// an element as declarations; they give way to every rule.
func NewCascade(root *markup.Node, sheets []*Sheet, hints func(*markup.Node) []Decl, budget *limit.Budget) *Cascade {
	return NewCascadeIn(root, sheets, hints, nil, budget)
}

// NewCascadeIn is NewCascade with some states in force, by pseudo-class name; see NewMatcher.
func NewCascadeIn(root *markup.Node, sheets []*Sheet, hints func(*markup.Node) []Decl, states map[string]bool,
	budget *limit.Budget) *Cascade {
	c := &Cascade{hints: hints, match: NewMatcher(states, budget), own: newIndex(), parts: map[string]*ruleIndex{}}
	var names *nameSet
	ranks := rankLayers(sheets)
	for n, s := range sheets {
		for r := range s.Rules {
			rule := &s.Rules[r]
			for k := range rule.Selector.Complex {
				cx := &rule.Selector.Complex[k]
				if names == nil {
					names = namesIn(root)
				}
				if !names.allow(cx) {
					continue
				}
				c.add(indexed{rule, cx, ranks[n][rule.layer], wanted(cx)})
			}
		}
	}
	return c
}

// add puts a rule where the elements that it can mean are looked up: by id, class or tag of its last compound.
func (c *Cascade) add(r indexed) {
	i := len(c.rules)
	c.rules = append(c.rules, r)
	last := &r.cx.Parts[0]
	for len(last.ID)+len(last.Class) == 0 && (last.Tag == "" || last.Tag == "*") { // :is(.a) means what .a does
		inner := last.only()
		if inner == nil {
			break
		}
		last = inner
	}
	to := &c.own
	if part := r.cx.Parts[0].Part; part != "" {
		if to = c.parts[part]; to == nil {
			l := newIndex()
			to, c.parts[part] = &l, &l
		}
	}
	switch {
	case len(last.ID) > 0:
		to.byID[last.ID[0]] = append(to.byID[last.ID[0]], i)
	case len(last.Class) > 0:
		to.byWord[last.Class[0]] = append(to.byWord[last.Class[0]], i)
	case last.Tag != "" && last.Tag != "*":
		tag := strings.ToLower(last.Tag) // HTML knows no case
		to.byTag[tag] = append(to.byTag[tag], i)
	default:
		to.rest = append(to.rest, i)
	}
}

// only is the last compound of the one selector in :is() or :where(), nil for none.
func (c *Compound) only() *Compound {
	for i := range c.Pseudo {
		if p := &c.Pseudo[i]; (p.name == "is" || p.name == "where") && len(p.sel.Complex) == 1 {
			return &p.sel.Complex[0].Parts[0]
		}
	}
	return nil
}

// rankLayers ranks the layers of sheets, by sheet and place in its list. Layers of one name are one; those named later
// win, what stands in a layer itself wins over layers within it, and what stands in none wins over all.
func rankLayers(sheets []*Sheet) [][]int {
	type branch struct {
		rank int
		kids []*branch
		by   map[string]*branch
	}
	root := &branch{}
	at := make([][]*branch, len(sheets))
	for n, s := range sheets {
		at[n] = []*branch{root}
		for _, l := range s.layers[min(1, len(s.layers)):] {
			in := at[n][l.within]
			b := in.by[l.name]
			if b == nil {
				b = &branch{}
				in.kids = append(in.kids, b)
				if l.name != "" {
					if in.by == nil {
						in.by = map[string]*branch{}
					}
					in.by[l.name] = b
				}
			}
			at[n] = append(at[n], b)
		}
	}
	next := 0
	var rank func(b *branch)
	rank = func(b *branch) {
		for _, k := range b.kids {
			rank(k)
		}
		b.rank = next
		next++
	}
	rank(root)
	out := make([][]int, len(sheets))
	for n := range at {
		for _, b := range at[n] {
			out[n] = append(out[n], b.rank)
		}
	}
	return out
}

// declared is a declaration with all that decides what it gives way to.
type declared struct {
	Decl
	layer int
	spec  Specificity
	order int
	src   Source
}

// Layers of what is no rule: hints give way to all, style attributes to nothing.
const (
	ofHints = -1
	ofStyle = 1 << 30
)

// less reports whether a gives way to b. https://www.w3.org/TR/css-cascade-5/#cascade-sort
func (a *declared) less(b *declared) bool {
	if a.Important != b.Important {
		return b.Important
	}
	if a.layer != b.layer {
		if a.Important && a.layer != ofStyle && b.layer != ofStyle {
			return a.layer > b.layer // what is important is so the other way round
		}
		return a.layer < b.layer
	}
	if a.spec != b.spec {
		return a.spec.Less(b.spec)
	}
	return a.order < b.order
}

// Err is the limit that was reached while matching, as a *limit.Error.
func (c *Cascade) Err() error { return c.match.Err() }

// Style cascades for one element below a parent's style (nil for the root).
func (c *Cascade) Style(n *markup.Node, parent *Style) *Style {
	var all []declared
	for _, d := range c.hints(n) {
		all = append(all, declared{d, ofHints, Specificity{}, 0, Source{FromAttribute, nil, n}})
	}
	for _, m := range c.matched(n, "") {
		c.match.declared(len(m.Rule.Decls))
		for _, d := range m.Rule.Decls {
			all = append(all, declared{d, m.Layer, m.Spec, m.Order, Source{FromRule, m.Rule, n}})
		}
	}
	if st, ok := n.Attr("style"); ok {
		for _, d := range ParseDecls(st) {
			all = append(all, declared{d, ofStyle, Specificity{}, 0, Source{FromInline, nil, n}})
		}
	}
	sort.SliceStable(all, func(i, j int) bool { return all[i].less(&all[j]) })
	s := &Style{Parent: parent}
	for i := range all {
		for _, d := range expand(all[i].Decl) {
			s.set(d.Prop, d.Value, all[i].src)
		}
	}
	return s
}

// matched are the rules that mean an element, or one of its pseudo-elements, in no order.
func (c *Cascade) matched(n *markup.Node, part string) (out []Match) {
	from := &c.own
	if part != "" {
		if from = c.parts[part]; from == nil {
			return nil
		}
	}
	var above *lineage
	try := func(list []int) {
		for _, i := range list {
			r := &c.rules[i]
			if len(r.above) > 0 {
				if above == nil {
					above = c.above.of(n.Parent)
				}
				if !above.all(r.above) {
					continue
				}
			}
			if near, ok := c.match.matches(r.cx, n, part, r.rule.scope); ok {
				out = append(out, Match{r.rule, r.cx.Spec, r.layer, near, i, r.rule.scope != nil})
			}
		}
	}
	if len(c.rules) == 0 {
		return nil
	}
	try(from.rest)
	try(from.byTag[strings.ToLower(n.Local)])
	if id := n.ID(); id != "" {
		try(from.byID[id])
	}
	if cl, ok := n.Attr("class"); ok && len(from.byWord) > 0 {
		words := strings.Fields(cl)
		var seen map[string]bool
		if len(words) > fewProperties {
			seen = map[string]bool{}
		}
		for i, w := range words {
			if seen == nil && slices.Contains(words[:i], w) || seen[w] {
				continue
			}
			if seen != nil {
				seen[w] = true
			}
			try(from.byWord[w])
		}
	}
	return out
}

// Matched are the rules that mean an element, or one of its pseudo-elements ("before"), in the order in which what they
// declare wins: the last does, where nothing is important.
func (c *Cascade) Matched(n *markup.Node, part string) []Match {
	out := c.matched(n, part)
	slices.SortFunc(out, func(a, b Match) int {
		switch {
		case a.Rule.Sheet.Origin != b.Rule.Sheet.Origin:
			return cmp.Compare(b.Rule.Sheet.Origin, a.Rule.Sheet.Origin)
		case a.Layer != b.Layer:
			return cmp.Compare(a.Layer, b.Layer)
		case a.Spec != b.Spec:
			return pickOrder(a.Spec.Less(b.Spec))
		case a.Near != b.Near && a.Scoped && b.Scoped:
			return cmp.Compare(b.Near, a.Near)
		}
		return cmp.Compare(a.Order, b.Order)
	})
	return out
}

func pickOrder(less bool) int {
	if less {
		return -1
	}
	return 1
}

// Parts are the pseudo-elements that rules name.
func (c *Cascade) Parts() (out []string) {
	for name := range c.parts {
		out = append(out, name)
	}
	slices.Sort(out)
	return out
}

func (s *Style) set(prop, value string, src Source) {
	if e := s.find(prop); e != nil {
		e.value, e.src = value, src
		return
	}
	s.own = append(s.own, entry{prop, value, src})
	switch {
	case s.index != nil:
		s.index[prop] = len(s.own) - 1
	case len(s.own) > fewProperties:
		s.index = map[string]int{}
		for i := range s.own {
			s.index[s.own[i].prop] = i
		}
	}
}

// fewProperties are looked through one by one.
const fewProperties = 32

func (s *Style) find(prop string) *entry {
	if s.index != nil {
		if i, ok := s.index[prop]; ok {
			return &s.own[i]
		}
		return nil
	}
	for i := range s.own {
		if s.own[i].prop == prop {
			return &s.own[i]
		}
	}
	return nil
}

// inherited are the properties that pass down, of those a drawing or page uses.
var inherited = func() map[string]bool {
	m := map[string]bool{}
	for _, p := range strings.Fields(`fill fill-opacity fill-rule stroke stroke-width stroke-opacity stroke-linecap
		stroke-linejoin stroke-miterlimit stroke-dasharray stroke-dashoffset color font-family font-size font-weight
		font-style font-stretch font-variant font-feature-settings font-kerning letter-spacing word-spacing line-height
		text-anchor text-align text-transform text-rendering text-indent white-space direction writing-mode visibility
		clip-rule marker-start marker-mid marker-end paint-order color-interpolation color-interpolation-filters
		shape-rendering image-rendering pointer-events cursor dominant-baseline`) {
		m[p] = true
	}
	return m
}()

// Inherits reports whether a property passes from parent to child by itself.
func Inherits(prop string) bool { return inherited[prop] || strings.HasPrefix(prop, "--") }

// Get is the specified value of a property with var() resolved, and the statement it comes from. ok is false where
// nothing was declared and the initial value holds.
func (s *Style) Get(prop string) (value string, src Source, ok bool) {
	for st := s; st != nil; st = st.Parent {
		e := st.find(prop)
		if e == nil {
			if !Inherits(prop) {
				return "", Source{}, false
			}
			continue
		}
		v := e.value
		if strings.Contains(v, "var(") {
			var good bool
			if v, good = st.substitute(v, 0); !good { // invalid at computed-value time: as if unset
				v = "unset"
			}
		}
		switch strings.ToLower(v) {
		case "initial":
			return "", Source{}, false
		case "inherit":
			if st.Parent == nil {
				return "", Source{}, false
			}
			return st.Parent.Get(prop)
		case "unset", "revert", "revert-layer":
			if !Inherits(prop) || st.Parent == nil {
				return "", Source{}, false
			}
			return st.Parent.Get(prop)
		}
		return v, e.src, true
	}
	return "", Source{}, false
}

// Raw is the value declared on this very element, var() and all.
func (s *Style) Raw(prop string) (string, bool) {
	if e := s.find(prop); e != nil {
		return e.value, true
	}
	return "", false
}

// Own lists the properties declared on this very element.
func (s *Style) Own() []string {
	out := make([]string, len(s.own))
	for i := range s.own {
		out[i] = s.own[i].prop
	}
	return out
}

const maxVarLength = 1 << 20

// substitute replaces var(--name, fallback). https://www.w3.org/TR/css-variables-1/
func (s *Style) substitute(v string, depth int) (string, bool) {
	if depth > 32 || len(v) > maxVarLength { // cyclic, or a value that doubles itself
		return "", false
	}
	var b strings.Builder
	for {
		i := strings.Index(v, "var(")
		if i < 0 {
			b.WriteString(v)
			return b.String(), b.Len() <= maxVarLength
		}
		b.WriteString(v[:i])
		end := closing(v, i+3)
		if end < 0 {
			return "", false
		}
		name, fallback, has := strings.Cut(v[i+4:end], ",")
		val, ok := s.custom(strings.TrimSpace(name), depth+1)
		if !ok && has {
			val, ok = s.substitute(strings.TrimSpace(fallback), depth+1)
		}
		if !ok || b.Len()+len(val) > maxVarLength {
			return "", false
		}
		b.WriteString(val)
		v = v[end+1:]
	}
}

func (s *Style) custom(name string, depth int) (string, bool) {
	for st := s; st != nil; st = st.Parent {
		if e := st.find(name); e != nil {
			return st.substitute(e.value, depth)
		}
	}
	return "", false
}

// expand turns the shorthands that matter to a drawing into their longhands.
func expand(d Decl) []Decl {
	with := func(prop, value string) Decl {
		return Decl{Prop: prop, Value: value, Important: d.Important, Offset: d.Offset}
	}
	switch d.Prop {
	case "marker":
		return []Decl{with("marker-start", d.Value), with("marker-mid", d.Value), with("marker-end", d.Value)}
	case "font":
		return expandFont(d, with)
	}
	return []Decl{d}
}

// expandFont reads `italic 600 16px/24px "Hanken Grotesk", sans-serif`.
func expandFont(d Decl, with func(string, string) Decl) []Decl {
	out := []Decl{with("font-style", "normal"), with("font-weight", "normal"), with("line-height", "normal")}
	words := SplitTop(d.Value, ' ')
	for i, w := range words {
		size, line, hasLine := strings.Cut(w, "/")
		if l, err := ParseLength(size); err == nil && l.Unit != "" {
			out = append(out, with("font-size", size), with("font-family", strings.Join(words[i+1:], " ")))
			if hasLine {
				out[2] = with("line-height", line)
			}
			return out
		}
		switch lw := strings.ToLower(w); {
		case lw == "italic" || lw == "oblique":
			out[0] = with("font-style", lw)
		case lw == "bold" || lw == "bolder" || lw == "lighter" || lw[0] >= '1' && lw[0] <= '9':
			out[1] = with("font-weight", lw)
		}
	}
	return []Decl{d}
}
