package code

import (
	"strconv"
	"strings"

	"archetyp/core/infer/layout"
	"archetyp/core/infer/role"
)

// note describes a node in a few words.
func (n *Node) note() string {
	what := ""
	switch n.Role {
	case role.None, role.Group, role.Text, role.Picture:
		switch {
		case n.Picture != nil:
			what = "picture"
		case n.Cell.Words():
			what = "words"
		case n.Cell.Kind == layout.Row:
			what = "row of " + strconv.Itoa(len(n.Nodes))
		case n.Cell.Kind == layout.Grid:
			what = "grid of " + strconv.Itoa(n.Cell.Columns) + " columns"
		case n.Cell.Kind == layout.Column:
			what = "column of " + strconv.Itoa(len(n.Nodes))
		default:
			what = "box"
		}
	case role.Heading:
		what = "heading"
	case role.Field, role.Area, role.Search:
		what = "field"
	default:
		what = string(n.Role)
	}
	if name := title(n.Name); name != "" {
		what = name + ": " + what
	}
	if n.Cell.Words() || n.Alone {
		if words := n.phrase(); words != "" {
			what += " “" + short(words) + "”"
		}
	}
	return what
}

// short is a text, cut off where it is long.
func short(s string) string {
	const most = 40
	r := []rune(s)
	if len(r) <= most {
		return s
	}
	return strings.TrimSpace(string(r[:most-1])) + "…"
}
