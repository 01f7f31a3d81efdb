package audit

import (
	"strings"

	"archetyp/core/design"
	"archetyp/core/markup"
)

var unlabelled = Rule{Name: "unlabelled", Group: "access", Level: Error,
	What:  "pictures, fields, buttons and links of pages that nothing names",
	Why:   "a screen reader has nothing to say",
	check: checkUnlabelled,
}

func checkUnlabelled(c *checker) {
	c.screens(func(s *design.Screen) {
		if s.Document.Styles == nil || s.Document.Markup == nil {
			return
		}
		labels := labelsOf(s)
		byWhat := map[string][]*design.Element{}
		var order []string
		for _, e := range s.Elements {
			if e.Hidden || isDisabled(e) || e.Node == nil || !e.Node.HTML {
				continue
			}
			what := nameless(e.Node, labels)
			if what == "" {
				continue
			}
			if byWhat[what] == nil {
				order = append(order, what)
			}
			byWhat[what] = append(byWhat[what], e)
		}
		for _, what := range order {
			list := byWhat[what]
			do := map[string]string{"picture": "Say what it shows: alt; alt=\"\" where it only decorates.",
				"field": "Give it a label, or aria-label."}[what]
			if do == "" {
				do = "Give it words, or aria-label."
			}
			c.find(list, do, "%s without a name", count(len(list), what))
		}
	})
}

// labelsOf are the ids that labels of a page are for.
func labelsOf(s *design.Screen) map[string]bool {
	out := map[string]bool{}
	root := s.Root.Node
	for root.Parent != nil {
		root = root.Parent
	}
	root.Walk(func(n *markup.Node) bool {
		if id, ok := n.Attr("for"); ok && n.Local == "label" && strings.TrimSpace(n.TextContent()) != "" {
			out[id] = true
		}
		return true
	})
	return out
}

// nameless says what a node is that should have a name and has none; "" for all others.
// https://www.w3.org/TR/html-aam-1.0/#accessible-name-and-description-computation
func nameless(n *markup.Node, labels map[string]bool) string {
	for _, a := range []string{"aria-label", "aria-labelledby", "title"} {
		if strings.TrimSpace(n.AttrOr(a, "")) != "" {
			return ""
		}
	}
	if r := n.AttrOr("role", ""); r == "presentation" || r == "none" {
		return ""
	}
	switch n.Local {
	case "img":
		if _, ok := n.Attr("alt"); !ok {
			return "picture"
		}
	case "input", "select", "textarea":
		switch kind := strings.ToLower(n.AttrOr("type", "text")); {
		case n.Local == "input" && (kind == "hidden" || kind == "submit" || kind == "reset" || kind == "image" && n.AttrOr("alt", "") != ""):
			return ""
		case n.Local == "input" && kind == "button":
			if n.AttrOr("value", "") == "" {
				return "button"
			}
			return ""
		}
		if labels[n.ID()] && n.ID() != "" {
			return ""
		}
		for a := n.Parent; a != nil; a = a.Parent {
			if a.Local == "label" {
				return ""
			}
		}
		if strings.TrimSpace(n.AttrOr("placeholder", "")) != "" { // which browsers take for a name
			return ""
		}
		return "field"
	case "button":
		if !speaks(n) {
			return "button"
		}
	case "a":
		if _, ok := n.Attr("href"); ok && !speaks(n) {
			return "link"
		}
	}
	return ""
}

// speaks reports whether anything in a node has words or a name.
func speaks(n *markup.Node) bool {
	found := false
	n.Walk(func(k *markup.Node) bool {
		switch {
		case k.Kind == markup.Text:
			found = found || strings.TrimSpace(k.Data) != ""
		case k.Local == "style" || k.Local == "script":
			return false
		case strings.TrimSpace(k.AttrOr("aria-label", "")) != "", k != n && strings.TrimSpace(k.AttrOr("title", "")) != "", k.Local == "img" && strings.TrimSpace(k.AttrOr("alt", "")) != "":
			found = true
		}
		return !found
	})
	return found || n.Shadow != nil
}
