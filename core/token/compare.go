package token

import (
	"sort"
	"strings"

	"archetyp/core/color"
)

// Change is a difference between two readings of the tokens.
type Change struct {
	Kind       string // added, removed, renamed, changed
	Path       string
	From       string // of one renamed: its former path
	Context    string // "scheme.dark"; "" where nothing is chosen
	Old, New   *Token
	Difference float64 // of colours, in OKLab
}

// Compare reports what differs from one library to another: in the default contexts, and in each context what is
// another there. A token that vanished and one that came with the same value in the same group, or of the same last
// name, is one renamed; what only points to it by the new name has not changed.
func Compare(old, now *Library) []Change {
	renamed := map[string]string{} // new path → old path
	out := compareSets(old.Base, now.Base, "", renamed)
	keys := map[string][2]*Set{}
	var order []string
	for i, lib := range []*Library{old, now} {
		for _, c := range lib.Contexts {
			if c.Default {
				continue
			}
			sides, seen := keys[c.Key()]
			if !seen {
				order = append(order, c.Key())
			}
			sides[i] = c.Set
			keys[c.Key()] = sides
		}
	}
	for _, key := range order {
		sides := keys[key]
		a, b := overridden(sides[0], old.Base), overridden(sides[1], now.Base)
		for _, c := range compareSets(a, b, key, renamed) {
			if c.Kind != "renamed" || renamed[c.Path] != c.From {
				out = append(out, c)
			}
		}
	}
	return out
}

// overridden are the tokens of a context whose own value is another than at first.
func overridden(s, base *Set) *Set {
	if s == nil {
		return NewSet(nil)
	}
	var out []*Token
	for _, t := range s.Tokens {
		if !Same(t, base.Get(t.Path)) {
			out = append(out, t)
		}
	}
	return &Set{Tokens: out, byPath: NewSet(out).byPath, root: s.root}
}

// sameMeaning reports whether two tokens say the same; renamed maps new paths of aliases to old ones.
func sameMeaning(old, now *Token, renamed map[string]string) bool {
	return old.Type == now.Type && old.Own.Equal(now.Own) && old.Value.JSON() == back(now.Value, renamed).JSON()
}

// back is a value with renamed aliases under their former names.
func back(v Value, renamed map[string]string) Value {
	if len(renamed) == 0 {
		return v
	}
	if from, ok := renamed[v.Alias]; ok {
		v.Alias = from
	}
	if v.Parts != nil {
		parts := make(map[string]Value, len(v.Parts))
		for k, p := range v.Parts {
			parts[k] = back(p, renamed)
		}
		v.Parts = parts
	}
	if v.List != nil {
		list := make([]Value, len(v.List))
		for i, p := range v.List {
			list[i] = back(p, renamed)
		}
		v.List = list
	}
	return v
}

func compareSets(old, now *Set, context string, renamed map[string]string) []Change {
	var gone []*Token
	byValue := map[string][]*Token{}
	for _, t := range old.Tokens {
		if now.Get(t.Path) == nil {
			gone = append(gone, t)
			k := string(t.Type) + t.Value.JSON()
			byValue[k] = append(byValue[k], t)
		}
	}
	taken := map[*Token]bool{}
	from := map[*Token]*Token{}
	for _, t := range now.Tokens { // aliases in file order, so that one renamed is known to those behind it
		if old.Get(t.Path) != nil || len(gone) == 0 {
			continue
		}
		if o := formerly(t, byValue[string(t.Type)+back(t.Value, renamed).JSON()], taken); o != nil {
			taken[o], from[t] = true, o
			if context == "" {
				renamed[t.Path] = o.Path
			}
		}
	}
	var out []Change
	for _, t := range now.Tokens {
		o := old.Get(t.Path)
		switch {
		case o == nil && from[t] != nil:
			out = append(out, Change{Kind: "renamed", Path: t.Path, From: from[t].Path, Context: context, Old: from[t], New: t})
		case o == nil:
			out = append(out, Change{Kind: "added", Path: t.Path, Context: context, New: t})
		case !sameMeaning(o, t, renamed):
			c := Change{Kind: "changed", Path: t.Path, Context: context, Old: o, New: t}
			if a, b := old.Resolve(o).Value.Color, now.Resolve(t).Value.Color; a != nil && b != nil {
				c.Difference = color.Difference(*a, *b)
			}
			out = append(out, c)
		}
	}
	for _, t := range gone {
		if !taken[t] {
			out = append(out, Change{Kind: "removed", Path: t.Path, Context: context, Old: t})
		}
	}
	order := map[string]int{"changed": 0, "renamed": 1, "added": 2, "removed": 3}
	sort.SliceStable(out, func(i, j int) bool { return order[out[i].Kind] < order[out[j].Kind] })
	return out
}

// formerly picks the vanished token that a new one was: of the same group or of the same last name.
func formerly(t *Token, candidates []*Token, taken map[*Token]bool) *Token {
	split := func(p string) (group, name string) {
		i := strings.LastIndexByte(p, '.')
		return p[:max(i, 0)], p[i+1:]
	}
	group, name := split(t.Path)
	for _, o := range candidates {
		g, n := split(o.Path)
		if !taken[o] && (g == group || n == name) {
			return o
		}
	}
	return nil
}
