package ask

import (
	"bytes"
	"encoding/json"
	"strings"

	"archetyp/core/design"
)

// ComputedStyle is what a page computes for an element, as browsers print it.
type ComputedStyle struct {
	Selector string
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
	var out []ComputedStyle
	err := eachNode(doc, text, func(e *design.Element) {
		c := ComputedStyle{Selector: e.Selector(), Names: only, Values: map[string]string{}, Differs: map[string]bool{}}
		if len(only) == 0 {
			c.Names = doc.Styles.Properties(e.Node)
		}
		for _, name := range c.Names {
			c.Values[name], _ = doc.Styles.Computed(e.Node, name)
			c.Differs[name] = doc.Styles.Differs(e.Node, name)
		}
		out = append(out, c)
	})
	return out, err
}

// eachNode gives the elements of a page that a selector means, those that are not shown among them.
func eachNode(doc *design.Document, text string, take func(*design.Element)) error {
	sel, err := selector(text)
	if err != nil {
		return err
	}
	for _, n := range doc.Styles.Nodes(sel) {
		take(&design.Element{Node: n, Screen: doc.Screens[0]})
	}
	return nil
}

// ElementRules are the rules that mean an element of a page, the one that wins first.
type ElementRules struct {
	Selector string             `json:"selector"`
	Rules    []design.StyleRule `json:"rules"`
}

// Rules are the rules of the elements of a selector.
func Rules(doc *design.Document, text string) (out []ElementRules, err error) {
	err = eachNode(doc, text, func(e *design.Element) {
		out = append(out, ElementRules{e.Selector(), append([]design.StyleRule{}, doc.Styles.Rules(e.Node)...)})
	})
	return out, err
}

// Reasons are why an element has the value that it has of a property: the declaration that wins, then those that lose.
type Reasons struct {
	Selector     string                    `json:"selector"`
	Value        string                    `json:"value"`
	Declarations []design.StyleDeclaration `json:"declarations"`
}

// Why are the reasons for a property of the elements of a selector.
func Why(doc *design.Document, text, property string) (out []Reasons, err error) {
	err = eachNode(doc, text, func(e *design.Element) {
		value, _ := doc.Styles.Computed(e.Node, property)
		out = append(out, Reasons{e.Selector(), value, append([]design.StyleDeclaration{}, doc.Styles.Why(e.Node, property)...)})
	})
	return out, err
}

// Unknown are the names of a list that are no properties.
func Unknown(doc *design.Document, names []string) (out []string) {
	for _, name := range names {
		if _, ok := doc.Styles.Computed(doc.Markup.Root, name); !ok && !strings.HasPrefix(name, "--") {
			out = append(out, name)
		}
	}
	return out
}
