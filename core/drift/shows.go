package drift

import (
	"strings"

	"archetyp/core/design"
	"archetyp/core/markup"
)

// asking asks for computed values of one element.
type asking struct {
	styles design.Styles
	node   *markup.Node
}

func (c asking) get(property string) string {
	v, _ := c.styles.Computed(c.node, property)
	return v
}

// takes reports whether the value of a property takes effect on an element: where it does not, another value is no
// difference.
func (c asking) takes(property string) bool {
	switch {
	case strings.HasPrefix(property, "--"):
		return false
	case strings.HasPrefix(property, "border-") && (strings.HasSuffix(property, "-color") || strings.HasSuffix(property, "-style")) && strings.Count(property, "-") == 2:
		side := property[:strings.LastIndexByte(property, '-')]
		return c.get(side+"-width") != "0px" && !c.oneOf(side+"-style", "none", "hidden")
	case strings.HasPrefix(property, "border-image"):
		return c.get("border-image-source") != "none"
	case strings.HasPrefix(property, "outline-"):
		return !c.oneOf("outline-style", "none") && c.get("outline-width") != "0px"
	case strings.HasPrefix(property, "column-rule"):
		return !c.oneOf("column-rule-style", "none", "hidden")
	case strings.HasPrefix(property, "text-decoration-") && property != "text-decoration-line", property == "text-underline-offset":
		return c.get("text-decoration-line") != "none"
	case strings.HasPrefix(property, "background-") && property != "background-color" && property != "background-image":
		return c.get("background-image") != "none" || property == "background-clip" && c.get("background-clip") == "text"
	case strings.HasPrefix(property, "mask-") && property != "mask-image":
		return c.get("mask-image") != "none"
	case strings.HasPrefix(property, "transition-"):
		return !zeros(c.get("transition-duration")) || !zeros(c.get("transition-delay"))
	case strings.HasPrefix(property, "animation-"):
		return c.get("animation-name") != "none"
	case strings.HasPrefix(property, "list-style"), property == "marker":
		return c.get("display") == "list-item" || c.node.Local == "ul" || c.node.Local == "ol" || c.node.Local == "menu"
	case strings.HasPrefix(property, "flex-") && property != "flex-direction" && property != "flex-wrap", property == "order":
		return c.above("flex", "grid")
	case property == "align-self", property == "justify-self":
		return c.above("flex", "grid") || c.placed()
	case property == "flex-direction", property == "flex-wrap":
		return c.displays("flex")
	case strings.HasPrefix(property, "grid-template"), strings.HasPrefix(property, "grid-auto"):
		return c.displays("grid")
	case strings.HasPrefix(property, "grid-"):
		return c.above("grid")
	case property == "align-items", property == "justify-content", property == "align-content", property == "justify-items":
		return c.displays("flex", "grid") || property == "align-content"
	case property == "row-gap":
		return c.displays("flex", "grid")
	case property == "column-gap":
		return c.displays("flex", "grid") || c.get("column-count") != "auto" || c.get("column-width") != "auto"
	case property == "z-index":
		return c.placed() || c.above("flex", "grid")
	case property == "top", property == "right", property == "bottom", property == "left":
		return c.placed()
	case property == "width", property == "height", strings.HasPrefix(property, "min-"), strings.HasPrefix(property, "max-"):
		return c.get("display") != "inline" || replaced(c.node)
	case property == "table-layout", property == "border-collapse", property == "border-spacing", property == "caption-side", property == "empty-cells":
		return strings.Contains(c.get("display"), "table")
	case property == "fill", property == "fill-opacity", property == "fill-rule", strings.HasPrefix(property, "stroke"), strings.HasPrefix(property, "marker-"),
		property == "stop-color", property == "stop-opacity", property == "text-anchor", property == "paint-order":
		return !c.node.HTML
	case property == "content":
		return strings.HasPrefix(c.node.Local, "::")
	case property == "object-fit", property == "object-position":
		return replaced(c.node)
	case property == "will-change", property == "contain", property == "isolation", strings.HasPrefix(property, "-webkit-font-smoothing"), property == "text-rendering":
		return false
	}
	return true
}

func (c asking) oneOf(property string, words ...string) bool {
	v := c.get(property)
	for _, w := range words {
		if v == w {
			return true
		}
	}
	return false
}

func (c asking) displays(words ...string) bool {
	d := c.get("display")
	for _, w := range words {
		if d == w || d == "inline-"+w {
			return true
		}
	}
	return false
}

// above asks how the element around displays.
func (c asking) above(words ...string) bool {
	up := c.node.Parent
	for up != nil && up.Kind == markup.Element {
		p := asking{c.styles, up}
		if p.get("display") != "contents" {
			return p.displays(words...)
		}
		up = up.Parent
	}
	return false
}

func (c asking) placed() bool { return c.get("position") != "static" }

// zeros reports whether a list of times is all zero.
func zeros(list string) bool {
	for _, t := range strings.Split(list, ",") {
		if t = strings.TrimSpace(t); t != "0s" && t != "0ms" && t != "" {
			return false
		}
	}
	return true
}

// replaced reports whether an element shows something of its own size.
func replaced(n *markup.Node) bool {
	switch n.Local {
	case "img", "svg", "video", "canvas", "iframe", "object", "embed", "input", "select", "textarea", "button", "picture", "audio", "meter", "progress":
		return true
	}
	return false
}

// hides reports whether nothing of an element is shown.
func (c asking) hides() bool {
	return c.get("display") == "none" || c.get("content-visibility") == "hidden"
}

// silent reports whether an element is never shown, whatever its style says.
func silent(n *markup.Node) bool {
	switch n.Local {
	case "script", "style", "template", "link", "meta", "head", "base", "noframes", "source", "track", "param", "noscript":
		return n.HTML
	}
	return false
}

// shown reports whether an element itself shows anything: words, a picture, a control, or what its style paints. A box
// that only holds others shows nothing, unless it takes room.
func (c asking) shown(room bool) bool {
	n := c.node
	if replaced(n) || n.Local == "hr" {
		return true
	}
	for _, k := range n.Children {
		if k.Kind == markup.Text && strings.TrimSpace(k.Data) != "" {
			return true
		}
	}
	props := []string{"background-color", "background-image", "box-shadow", "outline-style"}
	if room {
		props = append(props, "padding-top", "padding-right", "padding-bottom", "padding-left", "margin-top", "margin-right", "margin-bottom", "margin-left",
			"width", "height", "min-height", "max-width", "opacity", "transform", "position", "float", "overflow-x", "filter")
	}
	for _, p := range props {
		if c.styles.Differs(n, p) && c.takes(p) {
			return true
		}
	}
	for _, side := range []string{"border-top", "border-right", "border-bottom", "border-left"} {
		if c.get(side+"-width") != "0px" {
			return true
		}
	}
	return false
}
