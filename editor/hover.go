package editor

import (
	"context"
	"encoding/base64"
	"fmt"
	"strings"

	"archetyp/core/ask"
	"archetyp/core/design"
	"archetyp/core/escape"
	"archetyp/core/styletext"
	"archetyp/job"
)

// hoverAt describes what stands at a position: a token, a value that is one, a component.
func hoverAt(ctx context.Context, c *call, p *documentPosition) (any, error) {
	o := c.open(ctx, p.TextDocument.URI)
	if o == nil {
		return nil, nil
	}
	h := &hovering{c, o, o.text.offset(p.Position, c.client.encoding)}
	from, to, text := h.find(ctx)
	if text == "" {
		return nil, nil
	}
	r := o.text.span(from, to, c.client.encoding)
	return hover{*markdown(text), &r}, nil
}

type hovering struct {
	c      *call
	o      *openFile
	offset int
}

// find is the hover text, and the bytes it is about.
func (h *hovering) find(ctx context.Context) (from, to int, text string) {
	t := h.o.target(h.offset)
	switch {
	case t.token != "":
		text = h.o.a.Desk.Card(t.token) + h.uses(t.token)
		if line := h.contrast(); line != "" {
			text += "\n" + line + "\n"
		}
	case t.class != "":
		text = h.component(ctx, t.class)
	}
	return t.from, t.to, text
}

// target is what stands at a place: a token by its path, or a class or component by its name.
type target struct {
	from, to     int
	token, class string
	raw          bool // the token's value stands there, not its name
}

// target finds what stands at a byte.
func (o *openFile) target(offset int) (t target) {
	if o.code == nil {
		if !o.isTokenFile() {
			return t
		}
		span, alias := spanAt(o.text.string, offset)
		switch {
		case alias != nil:
			return target{from: alias.From, to: alias.To, token: alias.Path}
		case span != nil && span.Token && offset <= span.NameTo:
			return target{from: span.NameFrom, to: span.NameTo, token: span.Path}
		case span != nil && span.Token:
			return target{from: span.From, to: span.To, token: span.Path}
		}
		return t
	}
	p := o.code().At(offset)
	t = target{from: p.From, to: p.To}
	word := o.text.string[p.From:p.To]
	switch p.Kind {
	case styletext.Value:
		if e := o.a.Desk.Named(word); e != nil {
			t.token = e.Path
			return t
		}
		for _, f := range o.a.Lint(nil).Check(o.code()) { // as a diagnostic names it
			if f.Token != "" && offset >= f.From && offset <= f.To {
				return target{from: f.From, to: f.To, token: f.Token, raw: true}
			}
			if f.From > offset {
				break
			}
		}
	case styletext.Property:
		if e := o.a.Desk.Named(word); e != nil {
			t.token = e.Path
		}
	case styletext.Class:
		t.class = word
	case styletext.Selector:
		t.class = strings.TrimLeft(word, ".#")
		if t.class == word { // a type selector
			t.class = ""
		}
	case styletext.Attribute:
		if p.Name == "data-component" {
			t.class = word
		}
	}
	return t
}

// uses says which elements of the drawings have a token.
func (h *hovering) uses(path string) string {
	list, of := h.o.a.Sited(path, 5)
	if of == 0 {
		return ""
	}
	var names []string
	for _, p := range list {
		names = append(names, p.Path+" ("+p.Source+")")
	}
	more := ""
	if of > len(list) {
		more = fmt.Sprintf(", and %d more", of-len(list))
	}
	noun := "elements"
	if of == 1 {
		noun = "element"
	}
	return fmt.Sprintf("\nUsed by %d %s: %s%s\n", of, noun, strings.Join(names, ", "), more)
}

// contrast is that of the text and the background of the rule at the place, where one of them stands there.
func (h *hovering) contrast() string {
	if h.o.code == nil {
		return ""
	}
	c := h.o.code()
	p := c.At(h.offset)
	if p.Decl == nil || p.Rule < 0 || p.Name != "color" && !strings.HasPrefix(p.Name, "background") {
		return ""
	}
	text, ground := "", ""
	for _, d := range c.DeclsIn(p.Rule) {
		switch d.Property {
		case "color":
			text = d.Value
		case "background", "background-color":
			ground = d.Value
		}
	}
	return h.o.a.Desk.Contrasts(text, ground)
}

// component says what a class means in the drawings.
func (h *hovering) component(ctx context.Context, name string) string {
	found := h.o.a.Called(name)
	if len(found) == 0 {
		return ""
	}
	e := h.o.a.Find(ctx, found[0])
	if e == nil {
		return ""
	}
	box := e.BorderBox()
	var b strings.Builder
	fmt.Fprintf(&b, "**%s**  %s, line %d\n\n%s × %s px", escape.In("md", escape.Inline, e.Title()), found[0].Source, e.Position.Line, ask.Num(box.W, 2), ask.Num(box.H, 2))
	if n := len(found) - 1; n > 0 {
		fmt.Fprintf(&b, ", and %d more", n)
	}
	b.WriteString("\n")
	annotations := h.o.a.AnnotationsOf(found)
	for _, line := range annotations {
		b.WriteString("\n- " + escape.In("md", escape.Inline, line))
	}
	if len(annotations) > 0 {
		b.WriteString("\n")
	}
	if line := usage(h.o.a, e); line != "" {
		b.WriteString("\n```html\n" + line + "\n```\n")
	}
	if h.c.client.pictures {
		b.WriteString("\n" + pictureOf(e) + "\n")
	}
	return b.String()
}

// usage is the line that uses a component the team has in code; "" for none.
func usage(a *job.Answers, e *design.Element) string {
	o, err := a.Code(e, "html")
	if err != nil {
		return ""
	}
	u, ok := o.Usage(e)
	if !ok {
		return ""
	}
	return u.Line
}

// pictureOf is a picture of an element, as Markdown.
func pictureOf(e *design.Element) string {
	data, _, _, err := ask.OfElement(e).PNG(1, nil)
	if err != nil || len(data) > 256<<10 {
		return ""
	}
	return "![" + escape.In("md", escape.Inline, e.Title()) + "](data:image/png;base64," + base64.StdEncoding.EncodeToString(data) + ")"
}
