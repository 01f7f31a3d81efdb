// Package alike finds elements that are the same thing drawn several times, whether or not anybody marked them as one
// component: groups of the same structure and nearly the same facts. It takes elements of a document and gives sets
// of instances, each with what it does not share with the others.
package alike

import (
	"cmp"
	"hash/maphash"
	"slices"
	"strings"
	"unicode"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/infer/layout"
)

// Set is one thing and the places it is drawn at.
type Set struct {
	Name      string // the component mark, else the name instances have, or share a part of; "" for none
	Instances []Instance
	Classes   []string // those that all instances have on pages
	Inside    string   // what each instance is a part of, where that is a set too; "" for none
}

// Instance is one of a set, with the facts it does not share with most.
type Instance struct {
	Element *design.Element
	Differs []Difference
}

// Difference is a fact of an instance, or of an element inside it, and what the others have there.
type Difference struct {
	Where  string // path below the instance; "" for itself
	Fact   string
	Value  string // "none" where there is nothing
	Others string
}

// Limits. Elements are compared with the first of each set; a share of their facts has to be the same.
const (
	enough    = 0.7 // share of facts
	least     = 3   // facts, below which nothing is claimed
	mostParts = 200 // elements inside one instance
	mostKinds = 64  // sets of one structure that an element is compared with
)

// Find groups the visible groups among the elements. Sets come in the order of their first instances.
func Find(elements []*design.Element) []Set {
	shapes := map[*design.Element]structure{}
	seed := maphash.MakeSeed()
	var sets []*cluster
	byShape := map[uint64][]*cluster{}
	of := map[*design.Element]*cluster{}
	for _, e := range elements {
		if e.Kind != design.Group || e.Hidden || e.Parent != nil && e.Parent.Native == design.Instance &&
			len(e.Parent.Children) == 1 {
			continue // what a use refers to is that use
		}
		s := measure(e, shapes, seed)
		if s.parts < 2 && e.Native != design.Instance || s.parts < 1 || s.parts > mostParts {
			continue
		}
		t := traits(e)
		if len(t) < least {
			continue
		}
		c := nearest(byShape[s.sum], e, t)
		if c == nil {
			if len(byShape[s.sum]) >= mostKinds {
				continue
			}
			c = &cluster{first: t}
			byShape[s.sum] = append(byShape[s.sum], c)
			sets = append(sets, c)
		}
		c.members, c.traits = append(c.members, e), append(c.traits, t)
		of[e] = c
	}
	var out []Set
	for _, c := range sets {
		if len(c.members) < 2 {
			continue
		}
		outer := c.inside(of)
		if outer != nil && !c.apart() {
			continue
		}
		s := c.set()
		s.Classes = shared(c.members)
		if outer != nil {
			s.Inside = cmp.Or(name(outer.members), "instance above")
		}
		out = append(out, s)
	}
	return out
}

// apart reports whether instances are things of their own, not only parts of larger ones: marked, used by reference, or
// words on a ground of their own.
func (c *cluster) apart() bool {
	e := c.members[0]
	words := false
	e.Walk(func(x *design.Element) { words = words || x.Words != nil })
	return e.Marks.Component != "" || e.Native == design.Instance || words && e.Background() != nil
}

// structure is the sum over the kinds of all that is in an element, and how many parts that is.
type structure struct {
	sum   uint64
	parts int
}

func measure(e *design.Element, known map[*design.Element]structure, seed maphash.Seed) structure {
	if s, ok := known[e]; ok {
		return s
	}
	var h maphash.Hash
	h.SetSeed(seed)
	h.WriteString(string(e.Kind))
	if e.Native == design.Instance {
		h.WriteString(e.Node.Href())
	}
	s := structure{}
	for _, c := range e.Children {
		if c.Hidden {
			continue
		}
		k := measure(c, known, seed)
		s.parts += k.parts + 1
		for i := range 8 {
			h.WriteByte(byte(k.sum >> (8 * i)))
		}
	}
	h.WriteString(")")
	s.sum = h.Sum64()
	known[e] = s
	return s
}

// trait is a fact that instances are compared by.
type trait struct{ where, fact, value string }

// traits lists what an instance looks like: each visible element in it with its paint, type and height; the width of
// pictures. Words and other widths differ between instances by nature.
func traits(e *design.Element) []trait {
	var out []trait
	var walk func(x *design.Element, where string)
	walk = func(x *design.Element, where string) {
		add := func(fact, value string) { out = append(out, trait{where, fact, value}) }
		looks(x, add)
		n := 0
		for _, c := range x.Children {
			if c.Hidden {
				continue
			}
			n++
			walk(c, strings.TrimPrefix(where+"/"+string(c.Kind)+" "+css.Num(float64(n), 0), "/"))
		}
	}
	walk(e, "")
	return out
}

func looks(x *design.Element, add func(fact, value string)) {
	if x.Kind == design.Group {
		if l, ok := layout.Of(x); ok {
			if gap, even := layout.Even(l.Gaps); even && (l.Kind == layout.Column || l.Kind == layout.Row && !wordy(l.Items)) {
				add("gap", css.Px(gap))
			}
		}
		if len(x.Shadows) == 0 && !x.Opacity.Set {
			return
		}
	}
	box := x.Geometry.Value
	switch x.Kind {
	case design.Path, design.Image:
		add("width", css.Px(round(box.W)))
		add("height", css.Px(round(box.H)))
	case design.Box:
		add("height", css.Px(round(box.H)))
		add("border-radius", x.Corners().Value.CSS())
	case design.Text:
		w := x.Words
		add("font-family", cmp.Or(w.Family.Value, "none"))
		add("font-size", css.Px(w.Size.Value))
		add("font-weight", css.Num(float64(w.Weight.Value), 0))
		add("letter-spacing", css.Px(w.Spacing.Value))
		add("text-transform", cmp.Or(w.Case.Value, "none"))
	}
	add("fill", paints(x, x.Fills))
	for _, s := range x.Strokes {
		text, _ := x.PaintCSS(s.Value.Paint)
		add("stroke", css.Px(s.Value.Width)+" "+text)
	}
	if len(x.Strokes) == 0 && x.Kind != design.Group {
		add("stroke", "none")
	}
	var shadows []string
	for _, s := range x.Shadows {
		shadows = append(shadows, s.Value.CSS())
	}
	if x.Kind != design.Text {
		add("shadow", cmp.Or(strings.Join(shadows, ", "), "none"))
	}
	if x.Opacity.Set && x.Opacity.Value != 1 {
		add("opacity", css.Num(x.Opacity.Value, 4))
	}
}

// wordy reports whether the gaps of a row depend on how long words are.
func wordy(items []*design.Element) bool {
	return slices.ContainsFunc(items, func(e *design.Element) bool { return e.Kind == design.Text })
}

func paints(x *design.Element, fills []design.Fact[design.Paint]) string {
	var out []string
	for _, f := range fills {
		text, _ := x.PaintCSS(f.Value)
		out = append(out, text)
	}
	return cmp.Or(strings.Join(out, ", "), "none")
}

func round(v float64) float64 { return float64(int(v*100+0.5)) / 100 }

// cluster is a set in the making.
type cluster struct {
	first   []trait
	members []*design.Element
	traits  [][]trait
}

// nearest is the set whose first instance an element is most like; nil where none is like enough.
func nearest(sets []*cluster, e *design.Element, t []trait) *cluster {
	var best *cluster
	most := enough
	for _, c := range sets {
		if !kin(c.members[0], e) {
			continue
		}
		if s := likeness(c.first, t); s >= most && (best == nil || s > most) {
			best, most = c, s
		}
	}
	return best
}

// likeness is the share of facts that are the same.
func likeness(a, b []trait) float64 {
	has := make(map[trait]int, len(a))
	for _, t := range a {
		has[t]++
	}
	same := 0
	for _, t := range b {
		if has[t] > 0 {
			has[t]--
			same++
		}
	}
	return float64(same) / float64(max(len(a), len(b)))
}

// inside is the larger set of which every instance is the same part of an instance; nil for none.
func (c *cluster) inside(of map[*design.Element]*cluster) *cluster {
	var outer *cluster
	seen := map[*design.Element]bool{}
	for _, e := range c.members {
		p := e.Parent
		for p != nil && (of[p] == nil || len(of[p].members) < 2) {
			p = p.Parent
		}
		if p == nil || outer != nil && of[p] != outer || seen[p] {
			return nil
		}
		outer, seen[p] = of[p], true
	}
	return outer
}

// set works out what most instances have, and where each differs.
func (c *cluster) set() Set {
	type key struct{ where, fact string }
	counts := map[key]map[string]int{}
	first := map[key][]string{} // values in the order they came
	values := make([]map[key]string, len(c.members))
	var keys []key
	for i, ts := range c.traits {
		values[i] = map[key]string{}
		for _, t := range ts {
			k := key{t.where, t.fact}
			if counts[k] == nil {
				counts[k] = map[string]int{}
				keys = append(keys, k)
			}
			if counts[k][t.value]++; counts[k][t.value] == 1 {
				first[k] = append(first[k], t.value)
			}
			values[i][k] = t.value
		}
	}
	common := map[key]string{}
	for _, k := range keys {
		have := 0
		for _, v := range first[k] {
			if have += counts[k][v]; common[k] == "" || counts[k][v] > counts[k][common[k]] {
				common[k] = v
			}
		}
		if missing := len(c.members) - have; missing > counts[k][common[k]] {
			common[k] = "none"
		}
	}
	s := Set{Name: name(c.members)}
	for i, e := range c.members {
		in := Instance{Element: e}
		for _, k := range keys {
			if v := cmp.Or(values[i][k], "none"); v != common[k] {
				in.Differs = append(in.Differs, Difference{k.where, k.fact, v, common[k]})
			}
		}
		s.Instances = append(s.Instances, in)
	}
	return s
}

// name is what most instances are called, numbers at the end left out; else the words that all their names have.
func name(members []*design.Element) string {
	counts := map[string]int{}
	var names []string
	named := 0
	for _, e := range members {
		n := cmp.Or(e.Marks.Component, strings.TrimRight(e.Name, "0123456789 -_.()"), e.Name)
		if n == "" {
			continue
		}
		named++
		if counts[n]++; counts[n] == 1 {
			names = append(names, n)
		}
	}
	if named == 0 {
		return ""
	}
	most := slices.MaxFunc(names, func(a, b string) int { return cmp.Compare(counts[a], counts[b]) })
	if counts[most] > 1 && 2*counts[most] >= named {
		return most
	}
	if named < len(members) {
		return ""
	}
	return sharedWords(names)
}

// sharedWords are the words that all of several names have, in the order of the first.
func sharedWords(names []string) string {
	words := func(s string) []string {
		return strings.FieldsFunc(s, func(r rune) bool { return !unicode.IsLetter(r) })
	}
	var out []string
	for _, w := range words(names[0]) {
		all := true
		for _, n := range names[1:] {
			all = all && slices.ContainsFunc(words(n), func(o string) bool { return strings.EqualFold(o, w) })
		}
		if all {
			out = append(out, w)
		}
	}
	return strings.Join(out, " ")
}
