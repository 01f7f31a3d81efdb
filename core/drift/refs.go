package drift

import (
	"strings"

	"archetyp/core/design"
	"archetyp/core/markup"
	"archetyp/core/match"
)

func (c *comparing) spot(o, n *markup.Node, property, was, is string) Spot {
	s := Spot{Screen: c.pair.Screen, View: c.view.View, Prop: property, Was: was, Is: is}
	if o != nil {
		s.Design = c.ref(0, o)
	}
	if n != nil {
		s.Site, s.Why = c.ref(1, n), c.why[n]
	}
	return s
}

// ref is an element of a side (0 the design, 1 the site).
func (c *comparing) ref(side int, n *markup.Node) Ref {
	d := c.view.Design
	if side == 1 {
		d = c.view.Site
	}
	if c.names[side] == nil {
		c.names[side] = map[*markup.Node]*design.Element{}
		for _, e := range d.All() {
			if e.Node != nil && e.Node.Kind == markup.Element {
				c.names[side][e.Node] = e
			}
		}
	}
	return refOf(d, n, c.names[side][n])
}

// refOf is a node of a document, and the element it is where it is one.
func refOf(d *design.Document, n *markup.Node, e *design.Element) Ref {
	part := ""
	if strings.HasPrefix(n.Local, "::") {
		part, n = n.Local, n.Parent
	}
	if e == nil {
		e = &design.Element{Node: n, Screen: &design.Screen{Document: &design.Document{Markup: d.Markup}}}
	}
	pos := d.Markup.Position(n.Offset)
	name := e.Name
	if name == "" {
		name = short(match.OwnWords(n))
	}
	if name == "" {
		name = n.Local
	}
	return Ref{Source: d.Name, Selector: e.Selector() + part, Element: name, Line: pos.Line, Column: pos.Column}
}

// parent is the element around a node, also out of a shadow root.
func parent(n *markup.Node) *markup.Node {
	p := n.Parent
	if p != nil && p.Kind == markup.Fragment {
		p = p.Host
	}
	return p
}

func (c *comparing) markupPlace(n *markup.Node) design.StylePlace {
	pos := c.view.Site.Markup.Position(n.Offset)
	return design.StylePlace{File: c.view.Site.Name, Line: pos.Line, Column: pos.Column}
}

func (d *drawn) place(n *markup.Node) design.StylePlace {
	pos := d.page.Markup.Position(n.Offset)
	return design.StylePlace{File: d.page.Name, Line: pos.Line, Column: pos.Column}
}

func (d *drawn) spot(x *match.Across, property, was, is string) Spot {
	s := Spot{Screen: d.screen, View: d.view, Prop: property, Was: was, Is: is}
	if x != nil {
		s.Why = x.Why
		s.Design = drawnRef(x.Drawn)
		n := d.node(x)
		s.Site = d.ref(n)
	}
	return s
}

func drawnRef(e *design.Element) Ref {
	r := Ref{Selector: e.Selector(), Element: e.Title(), Component: e.Component(), Line: e.Position.Line, Column: e.Position.Column}
	if e.Screen != nil && e.Screen.Document != nil {
		r.Source = e.Screen.Document.Name
	}
	return r
}

func (d *drawn) ref(n *markup.Node) Ref {
	if d.onPage == nil {
		d.onPage = map[*markup.Node]*design.Element{}
		for _, e := range d.page.All() {
			if e.Node != nil && e.Node.Kind == markup.Element {
				d.onPage[e.Node] = e
			}
		}
	}
	return refOf(d.page, n, d.onPage[n])
}
