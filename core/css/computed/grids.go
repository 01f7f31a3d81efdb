package computed

import (
	"slices"

	"archetyp/core/css/grammar"
)

// gridLines reads two or four lines with slashes between them.
// https://www.w3.org/TR/css-grid-2/#placement-shorthands
func gridLines(names []string, parts []grammar.Part) (out []longhand, ok bool) {
	var given []*Value
	for _, l := range slashes(parts) {
		v := one(names[0], l)
		if v == nil || len(given) == len(names) {
			return nil, false
		}
		given = append(given, v)
	}
	like := func(v *Value) *Value { // a name stands for both its lines
		if len(v.Parts) == 1 && v.Parts[0].Kind == grammar.Word && !v.Parts[0].Is("auto") {
			return v
		}
		return initial(names[0])
	}
	for len(given) < len(names) {
		switch len(given) {
		case 1:
			given = append(given, like(given[0]))
		case 2:
			given = append(given, like(given[0]))
		case 3:
			given = append(given, like(given[1]))
		}
	}
	for i, n := range names {
		out = append(out, longhand{n, given[i]})
	}
	return out, true
}

// gridTemplate reads `none`, `rows / columns`, and areas drawn with strings.
func gridTemplate(names []string, parts []grammar.Part) ([]longhand, bool) {
	if len(parts) == 1 && parts[0].Is("none") {
		return []longhand{{names[0], initial(names[0])}, {names[1], initial(names[1])}, {names[2], initial(names[2])}}, true
	}
	halves := slashes(parts)
	if !slices.ContainsFunc(parts, func(p grammar.Part) bool { return p.Kind == grammar.String }) {
		if len(halves) != 2 {
			return nil, false
		}
		rows, columns := one(names[0], halves[0]), one(names[1], halves[1])
		return []longhand{{names[0], rows}, {names[1], columns}, {names[2], initial(names[2])}}, rows != nil && columns != nil
	}
	var rows, areas []grammar.Part
	sized := true
	for _, p := range halves[0] {
		switch {
		case p.Kind == grammar.String:
			if !sized {
				rows = append(rows, word("auto")...)
			}
			areas = append(areas, p)
			sized = false
		case p.Kind == grammar.Block:
			if !sized {
				rows = append(rows, word("auto")...)
				sized = true
			}
			rows = append(rows, p)
		default:
			rows = append(rows, p)
			sized = true
		}
	}
	if !sized {
		rows = append(rows, word("auto")...)
	}
	columns := initial(names[1])
	if len(halves) == 2 {
		columns = one(names[1], halves[1])
	}
	r, a := one(names[0], rows), one(names[2], areas)
	return []longhand{{names[0], r}, {names[1], columns}, {names[2], a}}, r != nil && a != nil && columns != nil && len(halves) <= 2
}

// grid reads what grid-template does, and `rows / auto-flow dense columns`.
func grid(names []string, parts []grammar.Part) ([]longhand, bool) {
	out := func(values map[int]*Value) []longhand {
		var l []longhand
		for i, n := range names {
			v := values[i]
			if v == nil {
				v = initial(n)
			}
			l = append(l, longhand{n, v})
		}
		return l
	}
	if t, ok := gridTemplate(names[:3], parts); ok {
		return out(map[int]*Value{0: t[0].value, 1: t[1].value, 2: t[2].value}), true
	}
	halves := slashes(parts)
	if len(halves) != 2 {
		return nil, false
	}
	for i, fixed := range []int{1, 0} { // which half flows
		var flow, sizes []grammar.Part
		flows := false
		for _, p := range halves[i] {
			switch {
			case p.Is("auto-flow"):
				flows = true
			case p.Is("dense"):
				flow = word("dense")
			default:
				sizes = append(sizes, p)
			}
		}
		if !flows {
			continue
		}
		values := map[int]*Value{fixed: one(names[fixed], halves[1-i])}
		if len(sizes) > 0 {
			values[3+i] = one(names[3+i], sizes)
		}
		way := word([]string{"row", "column"}[i])
		values[5] = one(names[5], append(way, flow...))
		for _, v := range values {
			if v == nil {
				return nil, false
			}
		}
		return out(values), true
	}
	return nil, false
}
