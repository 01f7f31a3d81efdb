package code

import (
	"math"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/escape"
)

// HTML prints a page as a document, or an element of it as a fragment.
func HTML(p *Page) string {
	var s strings.Builder
	if !p.Tree.Whole {
		htmlTag(&s, p.Body, "")
		return s.String()
	}
	s.WriteString(htmlHead(p))
	htmlTag(&s, p.Body, "")
	s.WriteString("</html>\n")
	return s.String()
}

// HTMLDocument prints a page as a document; an element of it stands in one of the width it is drawn at, with air
// around it for what it paints beyond its box.
func HTMLDocument(p *Page) string {
	if p.Tree.Whole {
		return HTML(p)
	}
	air := p.Air()
	style := "display: grid; width: " + css.Px(p.Tree.Root.Cell.Box.W) + "; margin: " + css.Sides(air)
	return htmlHead(p) + "<body style=\"margin: 0; display: flow-root\">\n<main style=\"" + style + "\">\n" + HTML(p) +
		"</main>\n</body>\n</html>\n"
}

// Air is how far an element paints beyond its box on each side, in whole px: top, right, bottom, left.
func (p *Page) Air() (air [4]float64) {
	if p.Tree.Whole {
		return air
	}
	e := p.Tree.Root.Element()
	for i, v := range design.Insets(p.Tree.Root.Cell.Box, e.Painted.Value.Union(p.Tree.Root.Cell.Box)) {
		air[i] = math.Ceil(max(0, v) - 1e-6)
	}
	return air
}

// htmlHead is a document as far as its body.
func htmlHead(p *Page) string {
	return "<!DOCTYPE html>\n<html lang=\"" + htmlText(firstOf(p.Lang, "en")) +
		"\">\n<head>\n<meta charset=\"utf-8\">\n" +
		"<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">\n<title>" + htmlText(p.Tree.Title) + "</title>\n" +
		"<link rel=\"stylesheet\" href=\"style.css\">\n</head>\n"
}

func htmlText(s string) string { return escape.In("html", escape.Text, s) }

// empty are the elements of HTML that hold nothing. https://html.spec.whatwg.org/multipage/syntax.html#void-elements
var empty = map[string]bool{"img": true, "input": true, "hr": true, "br": true}

// htmlTag writes an element on lines of its own.
func htmlTag(s *strings.Builder, t *Tag, indent string) {
	if t.Raw != "" {
		s.WriteString(indent + t.Raw + "\n")
		return
	}
	s.WriteString(indent + "<" + t.Name)
	if len(t.Classes) > 0 {
		s.WriteString(` class="` + strings.Join(t.Classes, " ") + `"`)
	}
	for _, a := range t.Attrs {
		s.WriteString(" " + a.Name)
		if a.Value != "" || a.Name == "alt" || a.Name == "value" {
			s.WriteString(`="` + escape.In("html", escape.Attribute, a.Value) + `"`)
		}
	}
	s.WriteString(">")
	switch {
	case empty[t.Name]:
	case t.Code != "":
		s.WriteString(t.Code + "</" + t.Name + ">")
	case len(t.Kids) > 0:
		s.WriteString("\n")
		for _, k := range t.Kids {
			htmlTag(s, k, indent+"  ")
		}
		s.WriteString(indent + "</" + t.Name + ">")
	default:
		t.phrases(s, "class", htmlText, "<br>")
		s.WriteString("</" + t.Name + ">")
	}
	s.WriteString("\n")
}

// phrases writes the words of an element: runs with a class as spans, and line breaks.
func (t *Tag) phrases(s *strings.Builder, class string, text func(string) string, br string) {
	for i, w := range t.Words {
		if i < len(t.runs) && t.runs[i] != "" {
			s.WriteString("<span " + class + `="` + t.runs[i] + `">` + text(w.Words) + "</span>")
		} else {
			s.WriteString(text(w.Words))
		}
		if w.Break {
			s.WriteString(br)
		}
	}
}
