package code

import (
	"cmp"
	"math"
	"slices"
	"strconv"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/infer/role"
)

// attrs gives an element its attributes.
func (p *pager) attrs(t *Tag, n *Node) {
	switch t.Name {
	case "img":
		t.add("src", n.Picture.File())
		t.add("alt", n.AccessibleName)
		t.add("width", css.Num(math.Round(n.Picture.Box.W), 0))
		t.add("height", css.Num(math.Round(n.Picture.Box.H), 0))
		return
	case "label":
		if c := n.Control; c.Label == n {
			t.add("for", p.id(c))
		}
		return
	case "button":
		t.add("type", "button")
		if n.tabbed {
			t.add("role", "tab")
			t.add("aria-selected", strconv.FormatBool(n.marked("selected", "active", "current", "on")))
		}
	case "a":
		t.add("href", "#"+leadsTo(n))
	case "input":
		t.add("type", cmp.Or(inputs[n.Role], "text"))
		if n.Role == role.Switch {
			t.add("role", "switch")
		}
		if n.On {
			t.add("checked", "")
		}
	case "nav":
		t.add("aria-label", cmp.Or(title(n.Name), "Main"))
	case "div":
		if r := map[role.Role]string{role.Note: "note"}[n.Role]; r != "" {
			t.add("role", r)
		} else if n.tabbed {
			t.add("role", "tablist")
		}
	}
	if slices.Contains(phrasing, t.Name) {
		p.fieldAttrs(t, n)
	}
	if slices.Contains(phrasing, t.Name) || t.Name == "button" {
		if n.marked("disabled") {
			t.add("disabled", "")
		}
	}
	if n.Control != nil && n.Control.Hint == n {
		t.add("id", p.id(n))
	}
	if n.AccessibleName != "" && n.Label == nil {
		t.add("aria-label", n.AccessibleName)
	}
}

// inputs are the types of input elements; that of all others is text.
var inputs = map[role.Role]string{role.Checkbox: "checkbox", role.Switch: "checkbox", role.Radio: "radio", role.Search: "search"}

// fieldAttrs gives a control its value, and ties it to its label and hint.
func (p *pager) fieldAttrs(t *Tag, n *Node) {
	if n.Label != nil || n.Hint != nil {
		t.add("id", p.id(n))
	}
	if n.Value != "" && t.Name == "input" {
		name := "value"
		if n.Placeholder() {
			name = "placeholder"
		}
		t.add(name, n.Value)
	}
	if n.Hint != nil {
		t.add("aria-describedby", p.id(n.Hint))
	}
	if n.marked("error", "invalid") {
		t.add("aria-invalid", "true")
	}
}

// leadsTo is the screen that a link leads to, as a part of an address; "" for none.
func leadsTo(n *Node) string {
	if n.Element() == nil {
		return ""
	}
	screen, _, _ := strings.Cut(n.Element().Marks.LeadsTo, ";")
	return design.Slug(screen)
}

func (t *Tag) add(name, value string) { t.Attrs = append(t.Attrs, Attr{name, value}) }

// id is a node's id, each its own.
func (p *pager) id(n *Node) string {
	if n.id == "" {
		name := firstOf(n.Name, n.phrase(), "field")
		if n.Label != nil {
			name = n.Label.phrase()
		}
		n.id = p.ids.next(slug(name))
	}
	return n.id
}
