package match

import (
	"archetyp/core/design"
)

// assets pairs what is the same asset.
func (a *across) assets() {
	a.once(func(e *design.Element) string { return e.Marks.Asset }, ByAsset)
}

// pictures pairs what is drawn without words with the pictures of the page: by name, and by their order where as many
// stand in the container on both sides; boxes of fields by their role.
func (a *across) pictures() {
	taken := map[*design.Element]bool{}
	for _, x := range a.pairs {
		taken[x.Page] = true
	}
	names := func(e *design.Element) string {
		if e.Informs() || e.Words != nil || e.Grounds() != nil {
			return ""
		}
		return plainWords(e.Name)
	}
	for _, d := range a.drawn {
		if a.of[d] != nil || names(d) == "" {
			continue
		}
		for _, p := range a.page {
			if p.Kind == design.Image && !taken[p] && p.Name != "" && plainWords(p.Name) == names(d) {
				taken[p] = true
				a.join(d, p, "", ByNameThat)
				break
			}
		}
	}
	byContainer := map[*design.Element][2][]*design.Element{}
	var order []*design.Element
	for _, d := range a.drawn {
		if a.of[d] != nil || !Drawing(d) || d.Parent != nil && (Drawing(d.Parent) && d.Parent != a.rootDrawn || a.of[d.Parent] != nil && a.of[d.Parent].Page.Kind == design.Image) {
			continue
		}
		in := a.container(d)
		g := byContainer[in]
		if g[0] == nil {
			order = append(order, in)
		}
		g[0] = append(g[0], d)
		byContainer[in] = g
	}
	for _, p := range a.page {
		if p.Kind != design.Image || taken[p] {
			continue
		}
		for in := p.Parent; in != nil; in = in.Parent {
			if g, ok := byContainer[in]; ok {
				g[1] = append(g[1], p)
				byContainer[in] = g
				break
			}
			if a.boxes[in] != nil {
				break
			}
		}
	}
	for _, in := range order {
		if g := byContainer[in]; len(g[0]) == len(g[1]) {
			for i := range g[0] {
				a.join(g[0][i], g[1][i], "", ByRole)
			}
		}
	}
	a.fields()
}

// fields pairs the box of a field with the control in the same container.
func (a *across) fields() {
	for _, d := range a.drawn {
		if d.Kind != design.Box || a.of[d] != nil || d.Grounds() != nil || !paintsBox(d) {
			continue
		}
		on := a.inside(d)
		for _, t := range on {
			if x := a.of[t]; x != nil && x.Part == "placeholder" {
				a.join(d, x.Page, "", ByPrompt)
			}
		}
		if a.of[d] != nil {
			continue
		}
		x := a.of[d.Parent]
		const most = 8 // parts of a field
		if x == nil || len(d.Parent.Children) > most || d.Parent == a.rootDrawn {
			continue
		}
		in := x.Page
		var controls []*design.Element
		in.Walk(func(p *design.Element) {
			if p.Node != nil && (p.Node.Local == "input" || p.Node.Local == "textarea" || p.Node.Local == "select") && a.boxes[p] == nil {
				controls = append(controls, p)
			}
		})
		const least = 24 // px: a control, not a stripe
		if b := d.BorderBox(); len(controls) == 1 && b.H >= least && b.W >= least {
			a.join(d, controls[0], "", ByRole)
		}
	}
}

// Drawing reports whether an element is drawn without words or bitmaps: an icon, an ornament.
func Drawing(e *design.Element) bool {
	switch e.Kind {
	case design.Path, design.Image:
		return true
	case design.Group:
		return !e.Informs() && len(e.Children) > 0
	}
	return false
}
