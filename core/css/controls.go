package css

import (
	"strconv"
	"strings"

	"archetyp/core/markup"
)

// What pseudo-classes ask of the controls of HTML, without scripts and before anybody has touched them.
// https://html.spec.whatwg.org/multipage/semantics-other.html#pseudo-classes

// isControl reports whether an element can be disabled.
func isControl(n *markup.Node) bool {
	if !n.HTML {
		return false
	}
	switch n.Local {
	case "button", "input", "select", "textarea", "optgroup", "option", "fieldset":
		return true
	}
	return false
}

// isDisabled reports whether a control is disabled, by itself or by what is around it.
func isDisabled(n *markup.Node) bool {
	if has(n, "disabled") {
		return true
	}
	if n.Local == "option" {
		for a := n.Parent; a != nil; a = a.Parent {
			switch a.Local {
			case "optgroup":
				if has(a, "disabled") {
					return true
				}
			case "select":
				return isDisabled(a)
			}
		}
		return false
	}
	if n.Local == "optgroup" {
		return false
	}
	legend := n // the child of the fieldset that the control is in
	for f := n.Parent; f != nil; legend, f = f, f.Parent {
		if f.HTML && f.Local == "fieldset" && has(f, "disabled") && !(legend.Local == "legend" && firstOf(legend)) {
			return true
		}
	}
	return false
}

// firstOf reports whether an element is the first of its type among its siblings.
func firstOf(n *markup.Node) bool {
	for s := sibling(n, -1); s != nil; s = sibling(s, -1) {
		if s.Local == n.Local {
			return false
		}
	}
	return true
}

// inputType is the type of an input in lower case; "" for another element.
func inputType(n *markup.Node) string {
	if !n.HTML || n.Local != "input" {
		return ""
	}
	t := strings.ToLower(strings.TrimSpace(n.AttrOr("type", "text")))
	switch t {
	case "hidden", "text", "search", "tel", "url", "email", "password", "date", "month", "week", "time", "datetime-local", "number", "range", "color",
		"checkbox", "radio", "file", "submit", "image", "reset", "button":
		return t
	}
	return "text"
}

func (m *Matcher) isChecked(n *markup.Node) bool {
	if !n.HTML {
		return false
	}
	switch n.Local {
	case "input":
		t := inputType(n)
		return has(n, "checked") && (t == "checkbox" || t == "radio" && (n.AttrOr("name", "") == "" || m.checkedRadio(n) == n))
	case "option":
		return m.isSelected(n)
	}
	return false
}

// radioGroup are the radio buttons of a form that have a name in common.
type radioGroup struct {
	form *markup.Node // nil for none
	name string
}

// checkedRadio is the radio button of a group that is checked: the last that says so, since the others give way. It is
// nil where none is. The groups of a tree are found in one walk.
func (m *Matcher) checkedRadio(n *markup.Node) *markup.Node {
	root := top(n)
	known, ok := m.radios.Load(root)
	if !ok {
		groups := map[radioGroup]*markup.Node{}
		root.Walk(func(o *markup.Node) bool {
			if inputType(o) == "radio" && has(o, "checked") {
				groups[radioGroup{formOf(o), o.AttrOr("name", "")}] = o
			}
			return true
		})
		known, _ = m.radios.LoadOrStore(root, groups)
	}
	return known.(map[radioGroup]*markup.Node)[radioGroup{formOf(n), n.AttrOr("name", "")}]
}

func top(n *markup.Node) *markup.Node {
	for n.Parent != nil {
		n = n.Parent
	}
	return n
}

func formOf(n *markup.Node) *markup.Node {
	for f := n.Parent; f != nil; f = f.Parent {
		if f.HTML && f.Local == "form" {
			return f
		}
	}
	return nil
}

// isSelected reports whether an option is: it says so, or it is the one that a list shows by itself.
func (m *Matcher) isSelected(n *markup.Node) bool {
	list := n.Parent
	for list != nil && list.Local == "optgroup" {
		list = list.Parent
	}
	if list == nil || list.Local != "select" || has(list, "multiple") {
		return has(n, "selected")
	}
	chosen, known := m.chosen.Load(list)
	if !known {
		chosen, _ = m.chosen.LoadOrStore(list, chosenOption(list))
	}
	return chosen.(*markup.Node) == n
}

// chosenOption is the option of a select that shows: the last that says it is selected, else in a menu the first that
// can be; nil for none.
func chosenOption(list *markup.Node) (chosen *markup.Node) {
	var first *markup.Node
	list.Walk(func(o *markup.Node) bool {
		if o.Kind == markup.Element && o.Local == "option" {
			if has(o, "selected") {
				chosen = o
			}
			if first == nil && !has(o, "disabled") && !(o.Parent.Local == "optgroup" && has(o.Parent, "disabled")) {
				first = o
			}
		}
		return true
	})
	if size, _ := strconv.Atoi(list.AttrOr("size", "0")); chosen == nil && size <= 1 {
		chosen = first
	}
	return chosen
}

func (m *Matcher) isIndeterminate(n *markup.Node) bool {
	if n.HTML && n.Local == "progress" {
		return !has(n, "value")
	}
	if inputType(n) != "radio" {
		return false
	}
	if n.AttrOr("name", "") == "" {
		return !has(n, "checked")
	}
	return m.checkedRadio(n) == nil
}

// isDefault reports whether a control is what a form begins with: checked, selected, or its first button that submits.
func isDefault(n *markup.Node) bool {
	if !n.HTML {
		return false
	}
	switch t := inputType(n); {
	case t == "checkbox" || t == "radio":
		return has(n, "checked")
	case n.Local == "option":
		return has(n, "selected")
	case submits(n):
		form := formOf(n)
		if form == nil {
			return false
		}
		var first *markup.Node
		form.Walk(func(o *markup.Node) bool {
			if first == nil && submits(o) {
				first = o
			}
			return first == nil
		})
		return first == n
	}
	return false
}

func submits(n *markup.Node) bool {
	t := inputType(n)
	return t == "submit" || t == "image" || n.HTML && n.Local == "button" && !strings.EqualFold(n.AttrOr("type", ""), "button") && !strings.EqualFold(n.AttrOr("type", ""), "reset")
}

func canBeRequired(n *markup.Node) bool {
	switch inputType(n) {
	case "":
		return n.HTML && (n.Local == "select" || n.Local == "textarea")
	case "hidden", "range", "color", "submit", "image", "reset", "button":
		return false
	}
	return true
}

// isOptional reports whether a control may be left as it is.
func isOptional(n *markup.Node) bool {
	if !n.HTML {
		return false
	}
	switch n.Local {
	case "input", "select", "textarea":
		return !(canBeRequired(n) && has(n, "required"))
	case "button":
		return true
	}
	return false
}

// isField reports whether an element is a field for text.
func isField(n *markup.Node) bool {
	switch inputType(n) {
	case "text", "search", "tel", "url", "email", "password", "number":
		return true
	}
	return n.HTML && n.Local == "textarea"
}

func fieldValue(n *markup.Node) string {
	if n.Local == "textarea" {
		return n.TextContent()
	}
	return n.AttrOr("value", "")
}

func isEditable(n *markup.Node) bool {
	if !n.HTML {
		return false
	}
	switch t := inputType(n); {
	case t != "":
		return (isField(n) || t == "date" || t == "month" || t == "week" || t == "time" || t == "datetime-local") && !has(n, "readonly") && !isDisabled(n)
	case n.Local == "textarea":
		return !has(n, "readonly") && !isDisabled(n)
	}
	for a := n; a != nil; a = a.Parent {
		if v, ok := a.Attr("contenteditable"); ok {
			return !strings.EqualFold(v, "false")
		}
	}
	return false
}

// isValid judges a control, or a form or fieldset by what is in it; judged is false where nothing is to be judged.
func (m *Matcher) isValid(n *markup.Node) (ok, judged bool) {
	if !n.HTML {
		return false, false
	}
	if n.Local == "form" || n.Local == "fieldset" {
		ok = true
		n.Walk(func(c *markup.Node) bool {
			if c != n && c.Kind == markup.Element {
				if good, judged := m.controlValid(c); judged && !good {
					ok = false
				}
			}
			return ok
		})
		return ok, true
	}
	return m.controlValid(n)
}

func (m *Matcher) controlValid(n *markup.Node) (ok, judged bool) {
	t := inputType(n)
	if t == "" && (!n.HTML || n.Local != "select" && n.Local != "textarea" && n.Local != "button" && n.Local != "object" && n.Local != "output") {
		return false, false
	}
	switch t {
	case "hidden", "reset", "button":
		return false, false
	}
	if n.Local == "object" || n.Local == "output" || isDisabled(n) || has(n, "readonly") && t != "checkbox" && t != "radio" {
		return false, false
	}
	if n.Local == "button" {
		return true, submits(n)
	}
	if has(n, "required") && canBeRequired(n) {
		empty := fieldValue(n) == ""
		switch {
		case t == "checkbox":
			empty = !has(n, "checked")
		case t == "radio":
			empty = m.isIndeterminate(n)
		case n.Local == "select":
			empty = true
			n.Walk(func(o *markup.Node) bool {
				if o.Kind == markup.Element && o.Local == "option" && m.isSelected(o) && o.AttrOr("value", o.TextContent()) != "" {
					empty = false
				}
				return true
			})
		case t == "file":
			empty = true
		}
		if empty {
			return false, true
		}
	}
	v := n.AttrOr("value", "")
	switch {
	case v == "":
	case t == "email" && !has(n, "multiple"):
		at := strings.LastIndexByte(v, '@')
		if at < 1 || at == len(v)-1 || strings.ContainsAny(v, " ,") {
			return false, true
		}
	case t == "url" && !strings.Contains(v, ":"):
		return false, true
	}
	if in, ranged := isInRange(n); ranged && !in {
		return false, true
	}
	return true, true
}

// isInRange judges a number by its bounds; judged is false for what has none.
func isInRange(n *markup.Node) (ok, judged bool) {
	t := inputType(n)
	if t != "number" && t != "range" || isDisabled(n) || has(n, "readonly") {
		return false, false
	}
	low, err1 := strconv.ParseFloat(n.AttrOr("min", ""), 64)
	up, err2 := strconv.ParseFloat(n.AttrOr("max", ""), 64)
	if t == "range" {
		return true, true
	}
	if err1 != nil && err2 != nil {
		return false, false
	}
	v, err := strconv.ParseFloat(n.AttrOr("value", ""), 64)
	if err != nil {
		return true, true
	}
	return !(err1 == nil && v < low || err2 == nil && v > up), true
}

// direction is the direction of an element as markup gives it.
func direction(n *markup.Node) string {
	for a := n; a != nil; a = a.Parent {
		switch d := strings.ToLower(a.AttrOr("dir", "")); {
		case !a.HTML:
		case d == "ltr" || d == "rtl":
			return d
		case d == "auto" || a.Local == "bdi" && d == "":
			return ofText(a.TextContent())
		}
	}
	return "ltr"
}

// ofText is the direction of the first letter that has one.
func ofText(s string) string {
	for _, r := range s {
		switch {
		case r >= 0x590 && r <= 0x8FF || r >= 0xFB1D && r <= 0xFDFF || r >= 0xFE70 && r <= 0xFEFF || r >= 0x10800 && r <= 0x10FFF || r >= 0x1E800 && r <= 0x1EFFF:
			return "rtl"
		case r >= 'A' && r <= 'Z' || r >= 'a' && r <= 'z' || r >= 0xC0:
			return "ltr"
		}
	}
	return "ltr"
}

// reservedNames have a hyphen and are no custom elements.
var reservedNames = map[string]bool{"annotation-xml": true, "color-profile": true, "font-face": true, "font-face-src": true, "font-face-uri": true,
	"font-face-format": true, "font-face-name": true, "missing-glyph": true}
