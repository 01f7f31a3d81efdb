package drift

import (
	"html"
	"strings"

	"archetyp/core/code"
	"archetyp/core/css"
	"archetyp/core/css/computed"
	"archetyp/core/design"
	"archetyp/core/limit"
	"archetyp/core/markup"
)

// claim is what a drawing says of a property.
type claim struct {
	property string // a longhand
	value    string // as computed
	written  string // the declaration that would make it, as CSS has it together
	silent   bool   // the drawing only shows nothing of it, such as no border
}

// groups of properties that a drawing says something of without a layout.
var claimed, _ = code.Choose([]string{"text", "colour", "corners", "border", "shadow", "effects"}, nil)

// Declarations that say that there is nothing, for what a drawing does not show.
const (
	noText = "letter-spacing:normal;word-spacing:normal;font-style:normal;text-transform:none;text-decoration-line:none;text-shadow:none;"
	noBox  = "background-color:transparent;background-image:none;border-style:none;border-width:0;border-radius:0;box-shadow:none;"
)

// asked is an element of a drawing whose claims are wanted.
type asked struct {
	element *design.Element
	text    bool // what it says as words
	box     bool // what it says as a box
	bare    bool // words that stand on nothing of their own
	ground  bool // only its fill counts
}

// claims are what elements of a drawing say, each as computed values. The declarations are those that code for the
// element would have; a browser's rules turn them into values, as they do those of the site.
func claims(list []asked) [][]claim {
	own := make([]map[string]string, len(list)) // longhand or shorthand → as written
	var b strings.Builder
	b.WriteString("<body>")
	for i, a := range list {
		text := ""
		if a.text {
			text += noText + "opacity:1;"
		}
		if a.box {
			text += noBox + "opacity:1;"
		}
		if a.bare {
			text += noBox
		}
		own[i] = map[string]string{}
		for _, block := range code.Own([]*design.Element{a.element}, code.Options{Unit: px, Groups: claimed}) {
			for _, d := range block.Declarations {
				if !a.wants(d.Prop) {
					continue
				}
				own[i][d.Prop] = d.Value
				text += d.Prop + ":" + d.Value + ";"
			}
		}
		b.WriteString(`<div style="` + html.EscapeString(text) + `"></div>`)
	}
	out := make([][]claim, len(list))
	doc, err := markup.ParseHTML([]byte(b.String()), "", limit.New(limit.Limits{}))
	if err != nil {
		return out
	}
	page := computed.NewPage(doc.Root, nil, css.Medium{Width: 1280, Height: 800, Page: true}, nil, nil, limit.New(limit.Limits{}))
	i := -1
	var visit func(n *markup.Node, up *computed.Style)
	visit = func(n *markup.Node, up *computed.Style) {
		s := page.Style(n, up)
		if n.Local == "div" && i+1 < len(list) {
			i++
			out[i] = list[i].claims(s, own[i])
		}
		for _, k := range n.Children {
			if k.Kind == markup.Element {
				visit(k, s)
			}
		}
	}
	for _, k := range doc.Root.Children {
		if k.Kind == markup.Element {
			visit(k, nil)
		}
	}
	return out
}

var px, _ = design.ParseUnit("px", 16)

// wants reports whether a declaration is about what is asked of an element: code for a group also has the type of its
// words.
func (a *asked) wants(property string) bool {
	kind := kindOf(property)
	if a.ground {
		return strings.HasPrefix(property, "background")
	}
	switch {
	case property == "box-sizing", kind == Size, kind == Layout, kind == Motion, strings.HasPrefix(property, "text-align"):
		return false
	case kind == Type, property == "color":
		return a.text
	case property == "line-height":
		return a.text
	case property == "text-shadow":
		return a.text
	}
	return a.box || property == "opacity" || a.text && !a.box && (kind == Shadow)
}

func (a *asked) claims(s *computed.Style, own map[string]string) (out []claim) {
	for _, p := range s.Set() {
		if a.ground && !strings.HasPrefix(p, "background") || strings.HasPrefix(p, "border-image") {
			continue
		}
		if strings.HasPrefix(p, "background-") && p != "background-color" && p != "background-image" {
			continue
		}
		if p == "line-height" && (a.element.Words == nil || len(a.element.Words.Lines) < 2) { // one line says nothing of it
			continue
		}
		v, ok := s.Get(p)
		if !ok {
			continue
		}
		c := claim{property: p, value: v}
		if c.written = writtenAs(p, own); c.written == "" {
			c.silent = true
			c.written = p + ": " + v + ";"
		}
		out = append(out, c)
	}
	return out
}

// writtenAs is the declaration among those of an element that sets a longhand; "" for none.
func writtenAs(longhand string, own map[string]string) string {
	for _, name := range []string{longhand, shorthandOf(longhand)} {
		if v, ok := own[name]; ok {
			return name + ": " + v + ";"
		}
	}
	for _, name := range []string{"font", "border", "background", "outline", "text-decoration"} {
		if v, ok := own[name]; ok && (strings.HasPrefix(longhand, name) || name == "font" && longhand == "line-height") {
			return name + ": " + v + ";"
		}
	}
	return ""
}

// shorthandOf is the property that CSS writes a longhand's value with, for those with four sides.
func shorthandOf(p string) string {
	switch {
	case strings.HasPrefix(p, "border-") && strings.HasSuffix(p, "-radius"):
		return "border-radius"
	case strings.HasPrefix(p, "border-") && strings.Count(p, "-") == 2:
		return "border" + p[strings.LastIndexByte(p, '-'):]
	case strings.HasPrefix(p, "padding-"):
		return "padding"
	case strings.HasPrefix(p, "margin-"):
		return "margin"
	case strings.HasPrefix(p, "background-"):
		return "background"
	case p == "row-gap", p == "column-gap":
		return "gap"
	}
	return p
}
