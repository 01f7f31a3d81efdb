// Package match decides which element is which between two readings. It is the one place for it: the lock, and all
// that remembers elements, asks here. In go two lists of identities, out comes for each new one the old one it is, and
// why.
package match

import (
	"maps"
	"slices"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// Identity is what an element is remembered by.
type Identity struct {
	Screen string `json:"screen"`
	Mark   string `json:"mark,omitempty"` // component, variant, state, asset or text key, as one word
	ID     string `json:"id,omitempty"`
	Path   string `json:"path"` // names from the screen down

	Words string    `json:"-"` // of a text, where they are to count
	Box   geom.Rect `json:"-"` // place on the screen, px
}

// Of is the identity of an element.
func Of(e *design.Element) Identity {
	m := e.Marks
	id := Identity{Screen: e.Screen.Name, ID: e.ID, Path: e.Path}
	switch {
	case m.Asset != "":
		id.Mark = "asset " + m.Asset
	case m.Text != "" && m.Text != "none":
		id.Mark = "text " + m.Text
	case m.Component != "":
		id.Mark = "component " + m.Component + " " + m.Variant + " " + m.State
	}
	return id
}

// Reason says why two are the same element.
type Reason string

// The reasons, best first.
const (
	ByMark Reason = "same mark"
	ByID   Reason = "same id"
	ByPath Reason = "same name path"

	ByLikeness Reason = "alike in words and place"
)

// Pair joins a new element with the old one it is.
type Pair struct {
	Old, New int
	Why      Reason
}

// Match pairs two readings. What is not paired is gone (old) or new. A mark or an id counts only where it stands
// once on each side; marks and ids may move between screens, paths only where a screen was renamed.
func Match(old, new []Identity) []Pair {
	m := &matcher{oldTaken: make([]bool, len(old)), newTaken: make([]bool, len(new))}
	m.by(ByMark, old, new, func(i Identity) key { return key{name: i.Mark} })
	m.by(ByID, old, new, func(i Identity) key { return key{name: i.ID} })
	m.by(ByPath, old, new, func(i Identity) key { return key{i.Screen, i.Path} })
	m.renamedScreens(old, new)
	m.alike(old, new)
	out := make([]Pair, 0, len(m.pairs))
	byNew := map[int]Pair{}
	for _, p := range m.pairs {
		byNew[p.New] = p
	}
	for i := range new {
		if p, ok := byNew[i]; ok {
			out = append(out, p)
		}
	}
	return out
}

// renamedScreens pairs by path what stands on a screen that was renamed: one that only the old side has, and one that
// only the new side has, with half of their elements in common, two at least.
func (m *matcher) renamedScreens(old, new []Identity) {
	paths := func(list []Identity) map[string]map[string]bool {
		out := map[string]map[string]bool{}
		for _, i := range list {
			if out[i.Screen] == nil {
				out[i.Screen] = map[string]bool{}
			}
			out[i.Screen][i.Path] = true
		}
		return out
	}
	before, now := paths(old), paths(new)
	was := map[string]string{} // new name → old name
	for _, to := range slices.Sorted(maps.Keys(now)) {
		best := 1
		for _, from := range slices.Sorted(maps.Keys(before)) {
			if now[from] != nil || before[to] != nil {
				continue
			}
			common := 0
			for p := range before[from] {
				if now[to][p] {
					common++
				}
			}
			if common > best && 2*common >= len(before[from]) {
				best, was[to] = common, from
			}
		}
	}
	if len(was) == 0 {
		return
	}
	m.by(ByPath, old, new, func(i Identity) key {
		if from, renamed := was[i.Screen]; renamed {
			return key{from, i.Path}
		}
		return key{i.Screen, i.Path}
	})
}

type matcher struct {
	oldTaken, newTaken []bool
	pairs              []Pair
}

// key is what two elements are known by as one; without a name they are not.
type key struct{ screen, name string }

func (m *matcher) by(why Reason, old, new []Identity, of func(Identity) key) {
	a, b := unique(old, m.oldTaken, of), unique(new, m.newTaken, of)
	for i := range new { // in order, so that the result does not depend on map order
		k := of(new[i])
		j, inOld := a[k]
		n, inNew := b[k]
		if k.name == "" || m.newTaken[i] || !inOld || !inNew || j < 0 || n < 0 {
			continue
		}
		m.oldTaken[j], m.newTaken[i] = true, true
		m.pairs = append(m.pairs, Pair{j, i, why})
	}
}

// unique maps each key to its index; −1 where it stands more than once.
func unique(list []Identity, taken []bool, of func(Identity) key) map[key]int {
	out := map[key]int{}
	for i := range list {
		k := of(list[i])
		if k.name == "" || taken[i] {
			continue
		}
		if _, dup := out[k]; dup {
			out[k] = -1
		} else {
			out[k] = i
		}
	}
	return out
}
