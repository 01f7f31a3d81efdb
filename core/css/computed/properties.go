// Package computed gives the computed values of elements of a page: which declaration wins, what it means there, and how
// browsers print it. In go a tree, style sheets and a medium, out come styles that answer for every property.
// https://www.w3.org/TR/css-cascade-5/#value-stages
package computed

import (
	"slices"
	"strings"
	"sync"

	"archetyp/core/css/grammar"
)

// ID is a longhand property, as its place in the table.
type ID uint16

// none is no property.
const none ID = 0xffff

// property is a longhand.
type property struct {
	name      string
	inherited bool
	initial   string
	grammar   *grammar.Grammar
}

// set is the table of properties, compiled once.
type set struct {
	all    []property
	byName map[string]ID
}

// built is the table; its parts refer to each other.
var built struct {
	table, values sync.Once
	set           *set
	start         []*Value // initial values
}

func table() *set {
	built.table.Do(func() {
		t := &set{byName: map[string]ID{}}
		for _, line := range strings.Split(longhands, "\n") {
			if line == "" {
				continue
			}
			f := strings.SplitN(line, ";", 4)
			for i := range f {
				f[i] = strings.TrimSpace(f[i])
			}
			t.byName[f[0]] = ID(len(t.all))
			t.all = append(t.all, property{f[0], f[1] == "i", f[2], grammar.Must(f[3])})
		}
		built.set = t
	})
	return built.set
}

// start is the initial value of a property.
func start(i ID) *Value {
	built.values.Do(func() {
		t := table()
		for i := range t.all {
			built.start = append(built.start, t.read(ID(i), t.all[i].initial))
		}
	})
	return built.start[i]
}

// id is the property of a name that is in the table.
func id(name string) ID {
	i, ok := table().byName[name]
	if !ok {
		panic("no property " + name)
	}
	return i
}

// Properties are the names of all longhands, in the order of the table.
func Properties() []string {
	t := table()
	out := make([]string, len(t.all))
	for i := range t.all {
		out[i] = t.all[i].name
	}
	return out
}

// Known reports whether a name is that of a property, a shorthand or a logical one among them.
func Known(name string) bool {
	if a, ok := aliases[name]; ok {
		name = a
	}
	_, long := table().byName[name]
	_, short := shorthands[name]
	_, logical := logicals[name]
	return long || short || logical || strings.HasPrefix(name, "--")
}

// Inherited reports whether a property passes from parent to child by itself.
func Inherited(name string) bool {
	i, ok := table().byName[name]
	return ok && table().all[i].inherited || strings.HasPrefix(name, "--")
}

// Value is a value as parsed: its parts in the order of the property's grammar.
type Value struct {
	Parts   []grammar.Part
	depends bool // on the element, the window or the scheme
}

// read parses a value of a property; nil where the property does not take it.
func (t *set) read(i ID, text string) *Value {
	parts, err := grammar.Parts(text)
	if err != nil || len(parts) == 0 {
		return nil
	}
	return t.take(i, parts)
}

// take is read for parts.
func (t *set) take(i ID, parts []grammar.Part) *Value {
	out, ok := t.all[i].grammar.Match(parts)
	if !ok {
		return nil
	}
	if f := canonical(t.all[i].name); f != nil {
		if out = f(out); out == nil {
			return nil
		}
	}
	out = inOwnUnits(out)
	return &Value{Parts: out, depends: depends(out)}
}

// inOwnUnits are parts with lengths in px, times in seconds and angles in degrees, where that depends on nothing.
func inOwnUnits(parts []grammar.Part) []grammar.Part {
	for i := range parts {
		switch p := &parts[i]; {
		case p.Kind == grammar.Dimension:
			*p = grammar.InOwnUnit(*p)
		case p.Kind == grammar.Calc && !p.Math.Depends():
			*p = calculated(*p, grammar.Fixed)
		case len(p.Args) > 0:
			p.Args = inOwnUnits(slices.Clone(p.Args))
		}
	}
	return parts
}

// depends reports whether parts hold what is not the same everywhere.
func depends(parts []grammar.Part) bool {
	for i := range parts {
		switch p := &parts[i]; p.Kind {
		case grammar.Dimension:
			if grammar.Relative(p.Text) {
				return true
			}
		case grammar.Calc:
			if p.Math.Depends() {
				return true
			}
		case grammar.Call:
			if isColour(p) || depends(p.Args) {
				return true
			}
		case grammar.Block:
			if depends(p.Args) {
				return true
			}
		case grammar.URL:
			return true // on the address of its sheet
		case grammar.Word:
			if isColour(p) {
				return true
			}
		}
	}
	return false
}

// isColour reports whether a part is a colour that depends on something.
func isColour(p *grammar.Part) bool { return p.Late }
