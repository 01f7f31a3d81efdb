package drift

import (
	"fmt"
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
	elements := make([]*design.Element, len(list))
	for i, a := range list {
		elements[i] = a.element
	}
	blocks := code.Own(elements, code.Options{Unit: px, Groups: claimed})
	texts := make([]string, len(list))
	styles := map[string]*computed.Style{} // by declarations: many elements have the same
	var order []string
	for i := range list {
		texts[i] = list[i].declares(blocks[i].Declarations)
		if _, ok := styles[texts[i]]; !ok {
			styles[texts[i]] = nil
			order = append(order, texts[i])
		}
	}
	compute(order, styles)
	out := make([][]claim, len(list))
	known := map[string][]claim{}
	for i := range list {
		a := &list[i]
		lines := a.element.Words != nil && len(a.element.Words.Lines) > 1
		key := fmt.Sprint(a.ground, lines, "\x00", texts[i])
		all, ok := known[key]
		if s := styles[texts[i]]; !ok && s != nil {
			all = a.claims(s, blocks[i].Declarations)
			known[key] = all
		}
		out[i] = all
	}
	return out
}

// declares is what an element is asked for as declarations: that there is nothing, and then what there is.
func (a *asked) declares(own []design.Declaration) string {
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
	for _, d := range own {
		if a.wants(d.Prop) {
			text += d.Prop + ":" + d.Value + ";"
		}
	}
	return text
}

// compute gives the style of an element with each of some declarations.
func compute(list []string, into map[string]*computed.Style) {
	var b strings.Builder
	b.WriteString("<body>")
	for _, text := range list {
		b.WriteString(`<div style="` + html.EscapeString(text) + `"></div>`)
	}
	doc, err := markup.ParseHTML([]byte(b.String()), "", limit.New(limit.Limits{}))
	if err != nil {
		return
	}
	page := computed.NewPage(doc.Root, nil, css.Medium{Width: 1280, Height: 800, Page: true}, nil, nil, limit.New(limit.Limits{}))
	i := 0
	var visit func(n *markup.Node, up *computed.Style)
	visit = func(n *markup.Node, up *computed.Style) {
		s := page.Style(n, up)
		if n.Local == "div" && i < len(list) {
			into[list[i]] = s
			i++
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

func (a *asked) claims(s *computed.Style, declared []design.Declaration) (out []claim) {
	own := map[string]string{}
	for _, d := range declared {
		if a.wants(d.Prop) {
			own[d.Prop] = d.Value
		}
	}
	for _, p := range s.Set() {
		if a.ground && !strings.HasPrefix(p, "background") || strings.HasPrefix(p, "border-image") {
			continue
		}
		if strings.HasPrefix(p, "background-") && p != "background-color" && p != "background-image" {
			continue
		}
		if p == "line-height" && (a.element.Words == nil || len(a.element.Words.Lines) < 2) { // one line says nothing of its height
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
