package drift

import (
	"fmt"
	"strings"

	"archetyp/core/design"
	"archetyp/core/match"
)

// missing finds what the drawing has and the page lacks: the outermost elements.
func (d *drawn) missing(e *design.Element) {
	if e.Hidden || e.Casts || e.Grounds() != nil && d.of[e.Grounds()] != nil {
		return
	}
	x := d.of[e]
	if x != nil && (e.Words != nil || match.Drawing(e) || e.Kind == design.Image) {
		return
	}
	if x == nil {
		if d.frames(e) || d.edge(e) != nil {
			return
		}
		holds := false
		e.Walk(func(k *design.Element) { holds = holds || d.of[k] != nil })
		if !holds {
			d.lacks(e)
			return
		}
	}
	for _, k := range e.Children {
		d.missing(k)
	}
}

// frames reports whether an element is a border or focus ring of its group, which code has as properties.
func (d *drawn) frames(e *design.Element) bool {
	g := e.Parent
	if g == nil || g.Background() == nil {
		return false
	}
	if f, _ := g.Border(); f == e {
		return true
	}
	return g.FocusRing() == e
}

func (d *drawn) lacks(e *design.Element) {
	if b := e.Painted.Value; b.W > 0 || b.H > 0 {
		d.lacking = append(d.lacking, e)
	}
}

// part is what to call a part of the drawing that the page lacks.
func part(e *design.Element) string {
	switch {
	case e.Words != nil:
		return quoted(e.Words.Words)
	case e.Name != "":
		return e.Name
	}
	return "a " + string(e.Kind)
}

// plural is the name of a kind of element for several.
func plural(kind string) string {
	if kind == "box" {
		return "boxes"
	}
	return kind + "s"
}

// reportMissing notes what is missing: what one container lacks is one difference, and so is what several of one kind lack.
func (d *drawn) reportMissing() {
	byParent := map[*design.Element][]*design.Element{}
	var order []*design.Element
	for _, e := range d.lacking {
		if byParent[e.Parent] == nil {
			order = append(order, e.Parent)
		}
		byParent[e.Parent] = append(byParent[e.Parent], e)
	}
	for _, in := range order {
		list := byParent[in]
		var parts []string
		count := map[string]int{}
		for _, e := range list {
			p := part(e)
			if count[p]++; count[p] == 1 {
				parts = append(parts, p)
			}
		}
		for i, p := range parts {
			if kind, ok := strings.CutPrefix(p, "a "); ok && count[p] > 1 {
				parts[i] = fmt.Sprintf("%d %s", count[p], plural(kind))
			}
		}
		const most = 4
		what := strings.Join(parts[:min(len(parts), most)], ", ")
		if n := len(parts) - most; n > 0 {
			what += fmt.Sprintf(" and %d others", n)
		}
		if of := containerName(in); of != "" {
			what += " in " + of
		}
		at, selector := d.place(d.page.Screens[0].Root.Node), Ref{}
		for up := in; up != nil; up = up.Parent {
			if p := d.of[up]; p != nil {
				selector, at = d.ref(d.node(p)), d.place(d.node(p))
				break
			}
		}
		for _, e := range list {
			s := seen{kind: Missing, spot: d.spot(nil, "", "", ""), message: "the site lacks " + what}
			s.spot.Design, s.spot.Site = drawnRef(e), selector
			s.cause.Lacking, s.cause.Place = true, at
			d.out = append(d.out, s)
		}
	}
}

// containerName is what to call what an element stands in: its component, else its name; "" for a screen.
func containerName(e *design.Element) string {
	for ; e != nil && e.Parent != nil; e = e.Parent {
		if e.Marks.Component != "" {
			return e.Marks.Component
		}
		if e.Name != "" {
			return e.Name
		}
	}
	return ""
}
