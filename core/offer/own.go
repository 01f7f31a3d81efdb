package offer

import (
	"slices"
	"strings"

	"archetyp/core/code"
	"archetyp/core/css"
	"archetyp/core/design"
)

// Own is what the declarations of an element say of each property.
type Own struct {
	Element *design.Element
	Decls   []design.Declaration // as a rule writes them, without sizes
	named   map[string]string    // longhands, with tokens
	raw     map[string]string    // and without
	unit    design.Unit
}

// OwnOf reads an element.
func OwnOf(e *design.Element, o code.Options) *Own {
	own := &Own{Element: e, named: map[string]string{}, raw: map[string]string{}, unit: o.Unit}
	own.Decls = declarations(e, o)
	raw := o
	raw.Tokens, raw.Unit = nil, design.Unit{}
	for _, sizes := range []bool{true, false} { // what a rule says without sizes goes before
		o.Sizes, raw.Sizes = sizes, sizes
		for _, d := range declarations(e, o) {
			spread(own.named, d)
		}
		for _, d := range declarations(e, raw) {
			spread(own.raw, d)
		}
	}
	return own
}

func declarations(e *design.Element, o code.Options) []design.Declaration {
	o.Notes, o.Classes = false, nil
	if o.Tokens == nil {
		o.Tokens = func(*design.Element, string, string) code.Name { return code.Name{} }
	}
	return code.Own([]*design.Element{e}, o)[0].Declarations
}

// Of is what an element has for a property, as it is written and with every token followed, lengths in px.
func (w *Own) Of(property string) (value, raw string, ok bool) {
	value, named := composed(w.named, property)
	raw, plain := composed(w.raw, property)
	switch {
	case !named && !plain:
		return "", "", false
	case !named:
		value = w.unit.Lengths(raw)
	case !plain:
		raw = value
	}
	return value, raw, true
}

// logical are the logical properties and the physical ones they are where text runs from left to right.
// https://www.w3.org/TR/css-logical-1/
var logical = strings.NewReplacer("inline-start", "left", "inline-end", "right", "block-start", "top", "block-end", "bottom")

// physical is a longhand as the maps of Own have it.
func physical(property string) string {
	switch property {
	case "inline-size":
		return "width"
	case "block-size":
		return "height"
	case "border-start-start-radius":
		return "border-top-left-radius"
	case "border-start-end-radius":
		return "border-top-right-radius"
	case "border-end-end-radius":
		return "border-bottom-right-radius"
	case "border-end-start-radius":
		return "border-bottom-left-radius"
	}
	p := logical.Replace(property)
	return strings.TrimPrefix(p, "inset-")
}

// sided are shorthands of four, by a pattern for their longhands.
var sided = map[string]string{"padding": "padding-*", "margin": "margin-*", "inset": "*", "border-width": "border-*-width",
	"border-style": "border-*-style", "border-color": "border-*-color"}

var (
	sides   = []string{"top", "right", "bottom", "left"}
	corners = []string{"border-top-left-radius", "border-top-right-radius", "border-bottom-right-radius", "border-bottom-left-radius"}
	pairs   = map[string][2]string{"gap": {"row-gap", "column-gap"}, "overflow": {"overflow-x", "overflow-y"},
		"place-items": {"align-items", "justify-items"}, "place-content": {"align-content", "justify-content"}}
)

// names are the longhands that a shorthand of several like values sets, in its order; nil for another.
func names(property string) []string {
	if p, ok := sided[property]; ok {
		var out []string
		for _, s := range sides {
			out = append(out, strings.Replace(p, "*", s, 1))
		}
		return out
	}
	if property == "border-radius" {
		return corners
	}
	if p, ok := pairs[property]; ok {
		return p[:]
	}
	for axis, ends := range map[string][2]string{"-inline": {"left", "right"}, "-block": {"top", "bottom"}} {
		head, tail, ok := strings.Cut(property, axis)
		if !ok || tail != "" && tail[0] != '-' || strings.HasPrefix(tail, "-start") || strings.HasPrefix(tail, "-end") ||
			tail == "-size" {
			continue
		}
		if head == "inset" {
			return ends[:]
		}
		return []string{head + "-" + ends[0] + tail, head + "-" + ends[1] + tail}
	}
	return nil
}

// spread notes a declaration and the longhands it sets.
func spread(m map[string]string, d design.Declaration) {
	m[d.Prop] = d.Value
	parts := css.SplitTop(d.Value, ' ')
	if list := names(d.Prop); list != nil && !strings.Contains(d.Value, "/") {
		for i, name := range list {
			m[name] = partOf(parts, i, len(list))
		}
		return
	}
	switch d.Prop {
	case "border", "border-top", "border-right", "border-bottom", "border-left", "outline":
		spreadBorder(m, d.Prop, parts)
	case "background":
		name := "background-color"
		if strings.Contains(d.Value, "gradient") || strings.Contains(d.Value, "url(") {
			name = "background-image"
		}
		m[name] = d.Value
	case "font":
		spreadFont(m, parts)
	}
}

// partOf is the value of one of two or four sides.
func partOf(parts []string, i, of int) string {
	n := len(parts)
	switch {
	case i < n:
		return parts[i]
	case n == 1 || of == 2:
		return parts[0]
	case i == 3: // the left is as the right
		return parts[1]
	}
	return parts[i-2]
}

func spreadBorder(m map[string]string, prop string, parts []string) {
	where := []string{prop}
	if prop == "border" {
		where = nil
		for _, s := range sides {
			where = append(where, "border-"+s)
		}
	}
	for _, p := range parts {
		name := "color"
		switch {
		case css.NumberPrefix(p) > 0:
			name = "width"
		case slices.Contains([]string{"solid", "dashed", "dotted", "double", "none"}, p):
			name = "style"
		}
		for _, w := range where {
			m[w+"-"+name] = p
		}
	}
}

// spreadFont notes the longhands of a font that is spelled out.
func spreadFont(m map[string]string, parts []string) {
	for i, p := range parts {
		size, line, has := strings.Cut(p, "/")
		if l, err := css.ParseLength(size); err == nil && l.Unit != "" {
			m["font-size"], m["font-family"] = size, strings.Join(parts[i+1:], " ")
			if has {
				m["line-height"] = line
			}
			return
		}
		if css.NumberPrefix(p) > 0 {
			m["font-weight"] = p
		}
	}
}

// composed is what longhands say of a property.
func composed(m map[string]string, property string) (string, bool) {
	if v, ok := m[property]; ok {
		return v, true
	}
	if v, ok := m[physical(property)]; ok {
		return v, true
	}
	list := names(property)
	if list == nil {
		return "", false
	}
	var parts []string
	for _, n := range list {
		v, ok := m[n]
		if !ok {
			return "", false
		}
		parts = append(parts, v)
	}
	if len(parts) == 4 && parts[3] == parts[1] {
		parts = parts[:3]
	}
	if len(parts) == 3 && parts[2] == parts[0] {
		parts = parts[:2]
	}
	if len(parts) == 2 && parts[1] == parts[0] {
		parts = parts[:1]
	}
	return strings.Join(parts, " "), true
}

// longhands are the properties that one sets, as the maps of Own have them.
func longhands(property string) []string {
	if list := names(property); list != nil {
		return list
	}
	return []string{physical(property)}
}

// Covers reports whether two properties set the same in part: a rule that has one needs no second.
func Covers(have, property string) bool {
	others := longhands(property)
	if slices.ContainsFunc(longhands(have), func(l string) bool { return slices.Contains(others, l) }) {
		return true
	}
	within := func(short, long string) bool {
		switch short {
		case "border", "background", "font", "outline", "flex", "grid":
			return strings.HasPrefix(long, short+"-") && !strings.HasSuffix(long, "radius") && long != "background-clip" ||
				short == "font" && long == "line-height"
		}
		return false
	}
	return within(have, property) || within(property, have)
}

// Missing are the declarations of an element that a rule does not have. How large a thing is comes from what is in it, and
// is left out.
func (w *Own) Missing(have []string) (out []design.Declaration) {
	for _, d := range w.Decls {
		if code.GroupOf(d.Prop) != "size" && !slices.ContainsFunc(have, func(h string) bool { return Covers(h, d.Prop) }) {
			out = append(out, d)
		}
	}
	return out
}
