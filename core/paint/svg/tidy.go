package svg

import (
	"slices"
)

// inherited are the properties a group hands down to what it holds.
var inherited = []string{"fill", "fill-opacity", "fill-rule", "stroke", "stroke-opacity", "stroke-width",
	"stroke-linecap", "stroke-linejoin",
	"stroke-miterlimit", "stroke-dasharray", "stroke-dashoffset", "shape-rendering", "paint-order", "clip-rule"}

// tidy makes a tree shorter without changing what it paints: what all children say their parent says once, and groups
// that say nothing are left out.
func tidy(t *tag) {
	var kids []*tag
	for _, k := range t.kids {
		tidy(k)
		if k.name == "g" && len(k.attrs) == 0 {
			kids = append(kids, k.kids...)
			continue
		}
		kids = append(kids, k)
	}
	t.kids = gathered(kids)
	if t.name == "g" && len(t.kids) == 1 && !t.layer { // a group of one can hand all it says to it
		merge(t, t.kids[0])
	}
	switch t.name {
	case "g", "mask", "pattern", "clipPath":
		hoist(t)
	}
}

// merge lets the only child of a group take over what the group says, where they do not both say it.
func merge(g, k *tag) {
	for _, a := range g.attrs {
		if _, both := k.get(a.name); both || a.name == "transform" && hasReference(k) || a.name == "filter" ||
			a.name == "style" || a.name == "opacity" && k.name == "g" {
			return
		}
	}
	if _, has := k.get("transform"); has && hasReference(g) { // the group's clip and mask are outside it
		return
	}
	g.name, g.kids = k.name, k.kids
	g.attrs = append(slices.Clone(k.attrs), g.attrs...)
}

// hasReference reports whether an element's own lengths elsewhere (a clip, a gradient) count in its space, which a
// transform taken over would change; those of the group already do.
func hasReference(k *tag) bool {
	for _, a := range k.attrs {
		switch a.name {
		case "clip-path", "mask", "filter":
			return true
		}
	}
	return false
}

// hoist moves what all children say up to their parent.
func hoist(t *tag) {
	if len(t.kids) < 2 {
		return
	}
	for _, name := range inherited {
		value, ok := t.kids[0].get(name)
		if !ok {
			continue
		}
		all := true
		for _, k := range t.kids[1:] {
			v, has := k.get(name)
			all = all && has && v == value
		}
		if _, own := t.get(name); !all || own {
			continue
		}
		t.set(name, value)
		for _, k := range t.kids {
			k.attrs = slices.DeleteFunc(k.attrs, func(a attr) bool { return a.name == name })
		}
	}
}

// gathered puts runs of neighbours that share a lot into groups of their own, where that is shorter.
func gathered(kids []*tag) []*tag {
	if len(kids) < 3 {
		return kids
	}
	var out []*tag
	for i := 0; i < len(kids); {
		common := inheritedOf(kids[i])
		j := i + 1
		best, bestEnd := 0, i+1
		for ; j < len(kids) && len(common) > 0; j++ {
			next := shared(common, kids[j])
			if len(next) == 0 {
				break
			}
			common = next
			if saved := (j-i)*size(common) - len("<g></g>"); saved > best {
				best, bestEnd = saved, j+1
			}
		}
		if best > 0 && bestEnd-i < len(kids) {
			out = append(out, &tag{name: "g", kids: kids[i:bestEnd:bestEnd]})
			hoist(out[len(out)-1])
			i = bestEnd
			continue
		}
		out = append(out, kids[i])
		i++
	}
	return out
}

func inheritedOf(t *tag) []attr {
	var out []attr
	for _, a := range t.attrs {
		if slices.Contains(inherited, a.name) {
			out = append(out, a)
		}
	}
	return out
}

func shared(common []attr, t *tag) []attr {
	var out []attr
	for _, a := range common {
		if v, ok := t.get(a.name); ok && v == a.value {
			out = append(out, a)
		}
	}
	return out
}

func size(list []attr) int {
	n := 0
	for _, a := range list {
		n += len(a.name) + len(a.value) + len(` =""`)
	}
	return n
}
