package css

import (
	"hash/maphash"
	"strings"
	"sync"

	"archetyp/core/markup"
)

// lineage is the names of an element and of all around it, as a Bloom filter: a name that is not in it is nowhere
// there. It rules out most selectors such as .card .title before anything is walked.
type lineage [16]uint64

// trait is a tag, id or class as a bit of a lineage.
type trait uint16

var seed = maphash.MakeSeed()

func traitOf(kind byte, name string) trait {
	var h maphash.Hash
	h.SetSeed(seed)
	_ = h.WriteByte(kind)
	_, _ = h.WriteString(name)
	return trait(h.Sum64() % (64 * uint64(len(lineage{}))))
}

func (l *lineage) add(t trait) { l[t>>6] |= 1 << (t & 63) }

// all reports whether all traits may be there.
func (l *lineage) all(traits []trait) bool {
	for _, t := range traits {
		if l[t>>6]&(1<<(t&63)) == 0 {
			return false
		}
	}
	return true
}

// wanted are the traits that a selector wants of the elements around the one it means.
func wanted(cx *Complex) (out []trait) {
	for i := range cx.Parts[1:] {
		if comb := cx.Parts[i].Comb; comb != ' ' && comb != '>' {
			continue // the compound to the left is a sibling
		}
		c := &cx.Parts[i+1]
		if c.Tag != "" && c.Tag != "*" {
			out = append(out, traitOf('t', strings.ToLower(c.Tag)))
		}
		for _, id := range c.ID {
			out = append(out, traitOf('#', id))
		}
		for _, k := range c.Class {
			out = append(out, traitOf('.', k))
		}
	}
	return out
}

// lineages remembers them by element.
type lineages struct{ known sync.Map } // *markup.Node → *lineage

// of is the lineage of an element, its own names included; that of no element is empty.
func (a *lineages) of(n *markup.Node) *lineage {
	if n == nil {
		return &lineage{}
	}
	if known, ok := a.known.Load(n); ok {
		return known.(*lineage)
	}
	out := *a.of(n.Parent)
	out.add(traitOf('t', strings.ToLower(n.Local)))
	if id := n.ID(); id != "" {
		out.add(traitOf('#', id))
	}
	if list, ok := n.Attr("class"); ok {
		for w := range strings.FieldsSeq(list) {
			out.add(traitOf('.', w))
		}
	}
	a.known.Store(n, &out)
	return &out
}
