package harvest

import (
	"strings"

	"archetyp/core/token"
)

// Place is an element of a document: its source, and its place among all elements there.
type Place struct {
	Source string
	Index  int
}

// Shift finds values that changed in the drawings: where most of the places that had a token's value have another one
// now, that is offered as the token's new value, not as a new token. former are the places each token had, by path, at
// the last sync; what tokens say has not changed since for those in former.
func (h *Harvest) Shift(former map[string][]Place, have *token.Set) {
	at := map[string][][]*Found{} // by source and element
	for _, f := range h.Found {
		for i := range f.Uses {
			u := &f.Uses[i]
			if u.Held != "" || u.Index < 0 {
				continue
			}
			list := at[u.Source]
			for len(list) <= u.Index {
				list = append(list, nil)
			}
			list[u.Index] = append(list[u.Index], f)
			at[u.Source] = list
		}
	}
	now := func(p Place) []*Found {
		if list := at[p.Source]; p.Index < len(list) {
			return list[p.Index]
		}
		return nil
	}
	still := map[string]int{} // how many places a token has kept
	for path, places := range former {
		t := have.Get(path)
		if t == nil {
			continue
		}
		count := map[*Found]int{}
		for _, p := range places {
			for _, f := range now(p) {
				switch {
				case f.Token == path:
					still[path]++
				case f.Token == "" && f.Type == t.Type && sameKind(f, t):
					count[f]++
				}
			}
		}
		for _, f := range h.Found { // in their order, so that the outcome never depends on a map's
			n := count[f]
			if 2*n > len(places) && n > f.moved {
				f.Changes, f.moved, f.of = path, n, len(places)
				f.Proposed, f.Near, f.Off = "", "", ""
			}
		}
	}
}

// sameKind keeps a radius from becoming a space.
func sameKind(f *Found, t *token.Token) bool {
	group, _, _ := strings.Cut(t.Path, ".")
	return t.Type != token.Dimension || f.Kind == group || group != "space" && group != "radius"
}

// Moved says how many of how many places of the token have the value now, where it is offered as a change.
func (f *Found) Moved() (n, of int) { return f.moved, f.of }

// pair finds type styles that are one style in two widths: two screens of one name, the same element in both, another
// style in the wider one.
func (h *Harvest) pair(values []*Values) {
	widths := map[string]map[float64]bool{}
	type screen struct{ source, name string }
	width := map[screen]float64{}
	for _, v := range values {
		for _, s := range v.screens {
			name := strings.ToLower(s.Name)
			if widths[name] == nil {
				widths[name] = map[float64]bool{}
			}
			widths[name][s.Width] = true
			width[screen{v.source, s.Name}] = s.Width
		}
	}
	type spot struct{ screen, element string }
	small := map[spot]*Found{}
	smallest := map[spot]float64{}
	each := func(do func(f *Found, at spot, w float64)) {
		for _, f := range h.Found {
			if f.Kind != "type" {
				continue
			}
			for _, u := range f.Uses {
				name := strings.ToLower(u.Screen)
				if len(widths[name]) > 1 {
					_, rest, _ := strings.Cut(u.Element, "/")
					do(f, spot{name, strings.ToLower(rest)}, width[screen{u.Source, u.Screen}])
				}
			}
		}
	}
	each(func(f *Found, at spot, w float64) {
		if old, ok := smallest[at]; !ok || w < old {
			small[at], smallest[at] = f, w
		}
	})
	votes := map[*Found]map[*Found]int{}
	each(func(f *Found, at spot, w float64) {
		if s := small[at]; s != f && w > smallest[at] && f.Token == "" {
			if votes[f] == nil {
				votes[f] = map[*Found]int{}
			}
			votes[f][s]++
		}
	})
	for _, f := range h.Found {
		for _, s := range h.Found {
			if n := votes[f][s]; n > 0 && (f.WideOf == nil || n > votes[f][f.WideOf]) {
				f.WideOf = s
			}
		}
		if f.WideOf != nil {
			f.Near, f.Off = "", ""
		}
	}
}

// Wide is the token that a type style belongs to as its form on wide screens; "" for none.
func (f *Found) Wide() string {
	switch {
	case f.WideOf == nil:
		return ""
	case f.WideOf.Token != "":
		return f.WideOf.Token
	}
	return f.WideOf.Proposed
}

// At is a found value as a token at a path. Families that have a token of their own are named by it.
func (f *Found) At(path string, have *token.Set) *token.Token {
	t := &token.Token{Path: path, Type: f.Type, Value: f.Value, Own: f.own()}
	if f.face == nil {
		return t
	}
	family := ""
	for _, o := range have.Tokens {
		if o.Type == token.FontFamily && len(o.Value.Words) > 0 && o.Value.Words[0] == firstFamily(f.face.family) {
			family = o.Path
			break
		}
	}
	t.Value = f.face.value(family, "")
	return t
}
