package revise

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

// Replace finds the edit that puts another drawing in the place of an element, as large as fits into its box. The element
// keeps its id and its marks; ids of the new drawing get the element's name before them, so that none is there twice.
func (d *Drawing) Replace(e *design.Element, fresh []byte, name string) (*Done, error) {
	if err := d.text(); err != nil {
		return nil, err
	}
	above := e.Matrix
	inv, ok := e.Paint.Matrix.Inverse()
	if ok {
		above = above.Mul(inv)
	}
	back, invertible := above.Inverse()
	box := e.Frame()
	switch {
	case !ok || !invertible || !above.Upright():
		return nil, unwritable("%s is turned; its new drawing would be, too", e.Title())
	case box.W <= 0 || box.H <= 0:
		return nil, unwritable("%s has no box", e.Title())
	}
	inner, err := inside(fresh, name)
	if err != nil {
		return nil, err
	}
	box = back.Rect(box)
	if own, ok := viewportIn(e.Node); ok { // it was replaced before, and keeps its box
		box = own
	}
	var b strings.Builder
	b.WriteString("<g")
	for _, a := range e.Node.Attrs {
		if a.Name == "id" || strings.HasPrefix(a.Name, "data-") || strings.HasPrefix(a.Name, "aria-") || a.Name == "role" {
			b.WriteString(" " + a.Name + `="` + markup.EscapeAttr(a.Value) + `"`)
		}
	}
	n := func(v float64) string { return css.Num(v, 3) }
	fmt.Fprintf(&b, `><svg x="%s" y="%s" width="%s" height="%s"%s</svg></g>`, n(box.X), n(box.Y), n(box.W), n(box.H), inner)
	if string(d.Data[e.Node.Offset:e.Node.End]) == b.String() {
		return &Done{}, nil
	}
	edit := markup.Edit{From: e.Node.Offset, To: e.Node.End, With: b.String()}
	return d.replaced(e, edit)
}

// viewportIn is the box of the one drawing that a group holds, as Replace writes it; ok is false for any other node.
func viewportIn(n *markup.Node) (box geom.Rect, ok bool) {
	kids := n.Elements()
	if !n.Is("g") || len(kids) != 1 || !kids[0].Is("svg") {
		return box, false
	}
	if _, moved := n.Attr("transform"); moved {
		return box, false
	}
	for i, to := range []*float64{&box.X, &box.Y, &box.W, &box.H} {
		v, err := strconv.ParseFloat(kids[0].AttrOr([]string{"x", "y", "width", "height"}[i], ""), 64)
		if err != nil {
			return box, false
		}
		*to = v
	}
	return box, box.W > 0 && box.H > 0
}

// replaced reads a drawing in which an element was replaced, and holds all others against what they were.
func (d *Drawing) replaced(e *design.Element, edit markup.Edit) (*Done, error) {
	data, err := markup.Rewrite(d.Data, []markup.Edit{edit})
	if err != nil {
		return nil, unwritable("%v", err)
	}
	doc, err := d.Read(data)
	if err != nil {
		return nil, unwritable("it could not be read any more: %v", err)
	}
	before := others(d.Doc, e.Node.Offset, e)
	after := others(doc, e.Node.Offset, nil)
	if len(before) != len(after) {
		return nil, unwritable("%d other elements would be there instead of %d", len(after), len(before))
	}
	for i := range before {
		if fmt.Sprint(valuesOnly(before[i].Facts())) != fmt.Sprint(valuesOnly(after[i].Facts())) {
			return nil, unwritable("%s would be drawn otherwise", before[i].Title())
		}
	}
	return &Done{[]markup.Edit{edit}, 1}, nil
}

// valuesOnly are facts without the places they come from, which move.
func valuesOnly(list []design.FactLine) []design.FactLine {
	list = slices.Clone(list)
	for i := range list {
		list[i].From = ""
	}
	return list
}

// others are the elements of a document but those that a node at an offset draws, and those around them.
func others(d *design.Document, offset int, e *design.Element) (out []*design.Element) {
	holds := map[*design.Element]bool{}
	for _, x := range d.All() {
		if x == e || x.Node.Offset == offset {
			for a := x.Parent; a != nil; a = a.Parent {
				holds[a] = true
			}
		}
	}
	for _, x := range d.All() {
		if !holds[x] && x.Ancestor(func(a *design.Element) bool { return a.Node.Offset == offset }) == nil {
			out = append(out, x)
		}
	}
	return out
}

// inside is what stands in an SVG file, behind the attributes that its root keeps, from its viewBox on.
func inside(fresh []byte, name string) (string, error) {
	doc, err := markup.ParseXML(fresh)
	if err != nil {
		return "", unwritable("the new drawing of %s is no SVG: %v", name, err)
	}
	root := doc.Root
	if !root.Is("svg") {
		return "", unwritable("the new drawing of %s is no SVG", name)
	}
	if markup.Recoded(fresh) {
		return "", unwritable("the new drawing of %s is not written in UTF-8", name)
	}
	styled := false
	ids := map[string]bool{}
	root.Walk(func(n *markup.Node) bool {
		styled = styled || n.Is("style")
		if id := n.ID(); n.Kind == markup.Element && id != "" {
			ids[id] = true
		}
		return true
	})
	if styled {
		return "", unwritable("the new drawing of %s has a style sheet, which would reach over the whole drawing", name)
	}
	size := root.AttrOr("viewBox", "")
	if size == "" {
		w, err := css.ParseLength(root.AttrOr("width", ""))
		h, other := css.ParseLength(root.AttrOr("height", ""))
		if err != nil || other != nil || w.Value <= 0 || h.Value <= 0 {
			return "", unwritable("the new drawing of %s says neither a viewBox nor its width and height", name)
		}
		size = "0 0 " + strconv.FormatFloat(w.Value, 'f', -1, 64) + " " + strconv.FormatFloat(h.Value, 'f', -1, 64)
	}
	text, err := renamed(fresh, doc, ids, design.Slug(name)+"-")
	if err != nil {
		return "", err
	}
	again, err := markup.ParseXML(text)
	if err != nil {
		return "", unwritable("the new drawing of %s cannot be taken apart: %v", name, err)
	}
	root = again.Root
	tag, ok := markup.TagAt(text, root.Offset)
	if !ok {
		return "", unwritable("the new drawing of %s cannot be taken apart", name)
	}
	head := ` viewBox="` + markup.EscapeAttr(size) + `"`
	for _, a := range root.Attrs {
		switch a.Name {
		case "x", "y", "width", "height", "viewBox", "xmlns", "version", "id", "class", "baseProfile":
		default:
			if !strings.HasPrefix(a.Name, "xmlns:") || a.Name == "xmlns:xlink" {
				head += " " + a.Name + `="` + markup.EscapeAttr(a.Value) + `"`
			}
		}
	}
	if strings.HasSuffix(string(text[tag.End:min(tag.End+2, len(text))]), "/>") {
		return "", unwritable("the new drawing of %s is empty", name)
	}
	end := strings.LastIndex(string(text[:root.End]), "</")
	if end < tag.End {
		return "", unwritable("the new drawing of %s cannot be taken apart", name)
	}
	return head + ">" + strings.TrimSpace(string(text[tag.End+1:end])), nil
}

// renamed gives the ids of a file, and what refers to them, a beginning of their own.
func renamed(src []byte, doc *markup.Document, ids map[string]bool, prefix string) ([]byte, error) {
	var edits []markup.Edit
	doc.Root.Walk(func(n *markup.Node) bool {
		tag, ok := markup.TagAt(src, n.Offset)
		if n.Kind != markup.Element || !ok {
			return true
		}
		for _, a := range tag.Attrs {
			value := string(src[a.Value.From:a.Value.To])
			if a.Name == "id" {
				edits = append(edits, markup.Edit{From: a.Value.From, To: a.Value.From, With: prefix})
				continue
			}
			for i := 0; i < len(value); i++ {
				if value[i] != '#' {
					continue
				}
				end := i + 1
				for end < len(value) && !strings.ContainsRune(`)"' ;,`, rune(value[end])) {
					end++
				}
				if ids[value[i+1:end]] {
					at := a.Value.From + i + 1
					edits = append(edits, markup.Edit{From: at, To: at, With: prefix})
				}
			}
		}
		return true
	})
	return markup.Rewrite(src, edits)
}
