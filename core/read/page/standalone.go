package page

import (
	"slices"
	"strings"

	"archetyp/core/css"
	"archetyp/core/markup"
)

// mostStandalone is how long an inline drawing written as a file may become: use elements repeat what they refer to.
const mostStandalone = 8 << 20

// standalone writes an inline drawing as an SVG file that looks the same by itself: what style sheets declare for its
// elements becomes attributes, what it inherits stands on its root, and what it refers to elsewhere on the page is in
// its defs. It is nil for a drawing that would become too long.
func (p *Page) standalone(n *markup.Node) []byte {
	w := &drawingWriter{page: p, root: n, used: map[*markup.Node]bool{}}
	w.children(n)
	body := w.b.String()
	w.b.Reset()
	for i := 0; i < len(w.missing); i++ { // what is referred to may refer to more
		w.element(w.missing[i])
	}
	defs := w.b.String()
	if len(body)+len(defs) > mostStandalone {
		return nil
	}
	if defs != "" {
		defs = "<defs>" + defs + "</defs>"
	}
	w.b.Reset()
	w.start(n, w.ofRoot(body+defs))
	return []byte(w.b.String() + ">" + defs + body + "</svg>\n")
}

// drawingWriter writes one inline drawing.
type drawingWriter struct {
	b       strings.Builder
	page    *Page
	root    *markup.Node
	used    map[*markup.Node]bool // elements outside that are referred to
	missing []*markup.Node        // the same, in order
}

// inherited are the properties of drawings that pass from the page into an inline one.
var inherited = []string{"color", "fill", "fill-opacity", "fill-rule", "stroke", "stroke-width", "stroke-opacity", "stroke-linecap",
	"stroke-linejoin", "stroke-dasharray", "clip-rule", "font-family", "font-size", "font-weight", "font-style", "letter-spacing", "text-anchor"}

func (w *drawingWriter) element(n *markup.Node) {
	switch n.Local {
	case "style", "script", "foreignObject":
		return
	}
	if w.b.Len() > mostStandalone {
		return
	}
	w.start(n, w.declared(n))
	if len(n.Children) == 0 {
		w.b.WriteString("/>")
		return
	}
	w.b.WriteByte('>')
	w.children(n)
	w.b.WriteString("</" + n.Local + ">")
}

func (w *drawingWriter) children(n *markup.Node) {
	for _, c := range n.Children {
		switch c.Kind {
		case markup.Text:
			w.b.WriteString(markup.EscapeText(c.Data))
		case markup.Element:
			w.element(c)
		}
	}
}

// start writes the tag that opens an element, all but its end. Declarations replace attributes of their name.
func (w *drawingWriter) start(n *markup.Node, decls []css.Decl) {
	w.b.WriteString("<" + n.Local)
	if n == w.root {
		w.attr("xmlns", markup.SVG)
	}
	declared := func(name string) bool {
		return slices.ContainsFunc(decls, func(d css.Decl) bool { return d.Prop == name })
	}
	for _, a := range n.Attrs {
		switch {
		case a.Local == "href":
			w.refer(a.Value)
			w.attr("href", a.Value)
		case a.Name == "style", a.Name == "class", a.Local == "xmlns", strings.HasPrefix(a.Name, "xmlns:"), strings.HasPrefix(a.Name, "on"), declared(a.Name):
		default:
			w.references(a.Value)
			w.attr(a.Name, a.Value)
		}
	}
	var style []string
	for _, d := range decls {
		w.references(d.Value)
		if css.IsPresentationAttribute(d.Prop) || isSize(d.Prop) {
			w.attr(d.Prop, d.Value)
		} else {
			style = append(style, d.Prop+": "+d.Value)
		}
	}
	if len(style) > 0 {
		w.attr("style", strings.Join(style, "; "))
	}
}

func isSize(prop string) bool { return prop == "width" || prop == "height" }

func (w *drawingWriter) attr(name, value string) {
	w.b.WriteString(" " + name + `="` + markup.EscapeAttr(value) + `"`)
}

// references notes the elements that a value refers to.
func (w *drawingWriter) references(value string) {
	for _, u := range css.URLs(value) {
		w.refer(u)
	}
}

// refer notes an element outside the drawing that it refers to.
func (w *drawingWriter) refer(href string) {
	id, ok := strings.CutPrefix(strings.TrimSpace(href), "#")
	if !ok || id == "" {
		return
	}
	n := w.page.byID(id)
	if n == nil || n.Space != markup.SVG || w.used[n] {
		return
	}
	for a := n; a != nil; a = a.Parent {
		if a == w.root || w.used[a] {
			return
		}
	}
	w.used[n] = true
	w.missing = append(w.missing, n)
}

// declared are the declarations for an element that become attributes: those of rules and style attributes.
func (w *drawingWriter) declared(n *markup.Node) (out []css.Decl) {
	s := w.page.styles[n]
	if s == nil {
		return nil
	}
	for _, prop := range s.Set() {
		if !css.IsPresentationAttribute(prop) && prop != "transform" && prop != "mix-blend-mode" && !(isSize(prop) && n == w.root) {
			continue
		}
		list := s.Why(prop)
		if len(list) == 0 || list[0].Kind == "attribute" { // which stays as it is
			continue
		}
		value, _ := s.Get(prop)
		if c, ok := s.ColorOf(prop); ok {
			value = c
		}
		switch stated := strings.ToLower(list[0].Value); {
		case stated == "inherit":
			continue
		case strings.Contains(stated, "currentcolor"):
			value = "currentColor"
		case isSize(prop):
			if !strings.HasSuffix(value, "px") {
				continue
			}
			value = strings.TrimSuffix(value, "px")
		}
		out = append(out, css.Decl{Prop: prop, Value: value})
	}
	return out
}

// ofRoot are the declarations on the root of a drawing: its own, and what it inherits and what stands in it needs.
func (w *drawingWriter) ofRoot(inside string) []css.Decl {
	out := w.declared(w.root)
	s := w.page.styles[w.root]
	if s == nil {
		return out
	}
	for _, prop := range inherited {
		switch {
		case slices.ContainsFunc(out, func(d css.Decl) bool { return d.Prop == prop }):
			continue
		case prop == "color" && !w.usesColor(inside, out):
			continue
		case strings.HasPrefix(prop, "font") || strings.HasPrefix(prop, "letter") || strings.HasPrefix(prop, "text"):
			if !strings.Contains(inside, "<text") {
				continue
			}
		}
		if _, own := w.root.Attr(prop); !own && !s.Initial(prop) {
			value, _ := s.Get(prop)
			if c, ok := s.ColorOf(prop); ok {
				value = c
			}
			out = append(out, css.Decl{Prop: prop, Value: value})
		}
	}
	return out
}

// usesColor reports whether anything in the drawing is painted in the colour of the words around it.
func (w *drawingWriter) usesColor(inside string, own []css.Decl) bool {
	texts := []string{inside}
	for _, a := range w.root.Attrs {
		texts = append(texts, a.Value)
	}
	for _, d := range own {
		texts = append(texts, d.Value)
	}
	return slices.ContainsFunc(texts, func(s string) bool { return strings.Contains(strings.ToLower(s), "currentcolor") })
}
