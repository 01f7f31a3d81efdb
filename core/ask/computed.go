package ask

import (
	"bytes"
	"encoding/json"

	"archetyp/core/design"
	"archetyp/core/markup"
)

// ComputedStyle is what a page computes for an element, as browsers print it.
type ComputedStyle struct {
	Selector string
	Node     *markup.Node
	Names    []string // the properties, in order
	Values   map[string]string
	Differs  map[string]bool // those that are neither initial nor as in the element around it
}

// MarshalJSON writes the selector and the values, in the order of the properties.
func (c ComputedStyle) MarshalJSON() ([]byte, error) {
	var b bytes.Buffer
	write := func(v any) {
		enc := json.NewEncoder(&b)
		enc.SetEscapeHTML(false)
		if enc.Encode(v) == nil {
			b.Truncate(b.Len() - 1) // the line end
		}
	}
	b.WriteString(`{"selector":`)
	write(c.Selector)
	b.WriteString(`,"computed":{`)
	for i, n := range c.Names {
		if i > 0 {
			b.WriteByte(',')
		}
		write(n)
		b.WriteByte(':')
		write(c.Values[n])
	}
	b.WriteString("}}")
	return b.Bytes(), nil
}

// Computed is what a page computes for the elements of a selector, those that are not shown among them. only are the
// properties wanted; all where it is empty.
func Computed(doc *design.Document, text string, only []string) ([]ComputedStyle, error) {
	sel, err := selector(text)
	if err != nil {
		return nil, err
	}
	var out []ComputedStyle
	for _, n := range doc.Styles.Nodes(sel) {
		e := &design.Element{Node: n, Screen: doc.Screens[0]}
		c := ComputedStyle{Selector: e.Selector(), Node: n, Names: only, Values: map[string]string{}, Differs: map[string]bool{}}
		if len(only) == 0 {
			c.Names = doc.Styles.Properties(n)
		}
		for _, name := range c.Names {
			c.Values[name], _ = doc.Styles.Computed(n, name)
			c.Differs[name] = doc.Styles.Differs(n, name)
		}
		out = append(out, c)
	}
	return out, nil
}

// Unknown are the properties of a list that no page knows.
func Unknown(doc *design.Document, only []string) (out []string) {
	for _, name := range only {
		if _, ok := doc.Styles.Computed(doc.Markup.Root, name); !ok && (len(name) < 2 || name[:2] != "--") {
			out = append(out, name)
		}
	}
	return out
}
