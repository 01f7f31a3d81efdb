package computed

import (
	"archetyp/core/css/grammar"
)

// Shorthands whose values are lists separated by commas.

var comma = grammar.Part{Kind: grammar.Mark, Text: ","}

// joined makes a list of the values of each layer.
func joined(lists [][]grammar.Part) *Value {
	var parts []grammar.Part
	for i, l := range lists {
		if i > 0 {
			parts = append(parts, comma)
		}
		parts = append(parts, l...)
	}
	return &Value{Parts: parts, depends: depends(parts)}
}

// layered collects the values of layers by property.
type layered struct {
	names []string
	lists [][][]grammar.Part // by property and layer
}

func newLayered(names []string) *layered {
	return &layered{names, make([][][]grammar.Part, len(names))}
}

// begin begins a layer, in which all have their initial values.
func (l *layered) begin() {
	for i, name := range l.names {
		l.lists[i] = append(l.lists[i], initial(name).Parts)
	}
}

func (l *layered) set(i int, parts []grammar.Part) { l.lists[i][len(l.lists[i])-1] = parts }

// take gives the most parts that it takes to a property that has none in this layer yet, and says how many these are.
func (l *layered) take(seen map[int]bool, what int, parts []grammar.Part) int {
	if seen[what] {
		return 0
	}
	for n := len(parts); n > 0; n-- {
		if v := single(l.names[what], parts[:n]); v != nil {
			l.set(what, v)
			seen[what] = true
			return n
		}
	}
	return 0
}

func (l *layered) values() []longhand {
	out := make([]longhand, len(l.names))
	for i, name := range l.names {
		out[i] = longhand{name, joined(l.lists[i])}
	}
	return out
}

// single reads the value of a property for one layer.
func single(name string, parts []grammar.Part) []grammar.Part {
	if v := one(name, parts); v != nil {
		for i := range v.Parts {
			if isComma(v.Parts[i]) {
				return nil
			}
		}
		return v.Parts
	}
	return nil
}

// background reads `url(a.png) left / 8px no-repeat, #fff`.
func background(names []string, parts []grammar.Part) ([]longhand, bool) {
	const image, x, y, size, repeat, attachment, origin, clip, colour = 0, 1, 2, 3, 4, 5, 6, 7, 8
	all := newLayered(names[:8])
	back := initial("background-color")
	layers := commas(parts)
	for n, layer := range layers {
		if len(layer) == 0 {
			return nil, false
		}
		all.begin()
		seen := map[int]bool{}
		boxes := 0
		for i := 0; i < len(layer); {
			taken := 0
			try := func(what, longest int) bool {
				taken = all.take(seen, what, layer[i:min(i+longest, len(layer))])
				return taken > 0
			}
			switch {
			case try(image, 1):
			case try(repeat, 2):
			case try(attachment, 1):
			case boxes < 2 && single(names[origin], layer[i:i+1]) != nil:
				if boxes == 0 {
					all.set(origin, single(names[origin], layer[i:i+1]))
				}
				all.set(clip, single(names[clip], layer[i:i+1]))
				boxes++
				taken = 1
			case !seen[clip] && layer[i].Is("text"):
				all.set(clip, word("text"))
				seen[clip], taken = true, 1
			case n == len(layers)-1 && !seen[colour] && one("background-color", layer[i:i+1]) != nil:
				back = one("background-color", layer[i:i+1])
				seen[colour], taken = true, 1
			default:
				if seen[x] {
					return nil, false
				}
				for k := min(4, len(layer)-i); k > 0 && taken == 0; k-- {
					if a, b, ok := position(layer[i : i+k]); ok {
						all.set(x, a)
						all.set(y, b)
						taken = k
					}
				}
				if taken == 0 {
					return nil, false
				}
				seen[x] = true
				if i+taken < len(layer) && isSlash(layer[i+taken]) {
					i += taken + 1
					if taken = 0; !try(size, 2) {
						return nil, false
					}
				}
			}
			i += taken
		}
	}
	return append(all.values(), longhand{names[colour], back}), true
}

// mask reads `url(a.svg) center / contain no-repeat`.
func mask(names []string, parts []grammar.Part) ([]longhand, bool) {
	const image, place, size, repeat, origin, clip, composite, mode = 0, 1, 2, 3, 4, 5, 6, 7
	all := newLayered(names)
	for _, layer := range commas(parts) {
		if len(layer) == 0 {
			return nil, false
		}
		all.begin()
		seen := map[int]bool{}
		for i := 0; i < len(layer); {
			taken := 0
			try := func(what, longest int) bool {
				taken = all.take(seen, what, layer[i:min(i+longest, len(layer))])
				return taken > 0
			}
			switch {
			case try(image, 1), try(repeat, 2), try(composite, 1), try(mode, 1):
			case try(origin, 1):
				if !seen[clip] {
					all.set(clip, single(names[clip], layer[i:i+1]))
				}
			case try(clip, 1):
			case try(place, 4):
				if i+taken < len(layer) && isSlash(layer[i+taken]) {
					i += taken + 1
					if taken = 0; !try(size, 2) {
						return nil, false
					}
				}
			default:
				return nil, false
			}
			i += taken
		}
	}
	return all.values(), true
}

// singly reads a list of which each layer has its parts in any order.
func singly(all *layered, order []int, parts []grammar.Part) bool {
	for _, layer := range commas(parts) {
		if len(layer) == 0 {
			return false
		}
		all.begin()
		seen := map[int]bool{}
	next:
		for i := range layer {
			for _, what := range order {
				if seen[what] {
					continue
				}
				if v := single(all.names[what], layer[i:i+1]); v != nil {
					all.set(what, v)
					seen[what] = true
					continue next
				}
			}
			return false
		}
	}
	return true
}

// transition reads `opacity 0.2s ease-in 1s`.
func transition(names []string, parts []grammar.Part) ([]longhand, bool) {
	all := newLayered(names)
	ok := singly(all, []int{1, 3, 2, 4, 0}, parts)
	if ok && len(all.lists[0]) > 1 { // none stands alone
		for _, l := range all.lists[0] {
			if l[0].Is("none") {
				return nil, false
			}
		}
	}
	return all.values(), ok
}

// animation reads `spin 1s linear infinite`.
func animation(names []string, parts []grammar.Part) ([]longhand, bool) {
	all := newLayered(names[:8])
	if !singly(all, []int{0, 2, 1, 3, 4, 5, 6, 7}, parts) {
		return nil, false
	}
	out := all.values()
	for _, name := range names[8:] {
		out = append(out, longhand{name, initial(name)})
	}
	return out, true
}
