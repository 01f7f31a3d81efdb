package code

import (
	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/infer/layout"
	"archetyp/core/infer/role"
	"slices"
)

// controls ties what people operate to its words: fields to labels and hints, choices to what they choose.
func (b *builder) controls(n *Node) {
	switch n.Role {
	case role.Field, role.Area, role.Search, role.Select:
		b.field(n)
	case role.Checkbox, role.Radio, role.Switch:
		b.choice(n)
	case role.Spin:
		b.spin(n)
	case role.Navigation:
		b.navigation(n)
	case role.Tabs:
		tabs(n)
	case role.None, role.Group, role.Item:
		b.chosen(n)
	case role.Button, role.Link, role.Tab:
		if n.words() == nil {
			n.AccessibleName = title(n.Name)
			n.Walk(func(k *Node) {
				if n.AccessibleName == "" && k.Picture != nil {
					n.AccessibleName = title(k.Name)
				}
			})
			if n.AccessibleName == "" {
				n.AccessibleName = title(string(n.Role))
			}
		}
	}
}

// words is the first text of a node; nil for none.
func (n *Node) words() *Node {
	var found *Node
	n.Walk(func(k *Node) {
		if found == nil && k.Cell.Words() {
			found = k
		}
	})
	return found
}

// text is the text of a node of words.
func (n *Node) text() string {
	s := ""
	for i, l := range n.Cell.TextLines() {
		if i > 0 {
			s += " "
		}
		s += l.Words
	}
	return s
}

// phrase is the first text in a node; "" for none.
func (n *Node) phrase() string {
	if w := n.words(); w != nil {
		return w.text()
	}
	return ""
}

// field finds the box of a field, the words in it, its label above or before it, and a hint behind it.
func (b *builder) field(n *Node) {
	is := n.Role
	box := n.box()
	if box == nil {
		n.Role = role.Group
		return
	}
	if box != n {
		n.Role = role.Group
	}
	control := box
	inside := box.words()
	switch {
	case inside == nil && len(box.Nodes) > 0: // only pictures: something one opens
		is = role.Button
	case inside != nil && (len(box.Nodes) > 1 || box.Nodes[0] != inside):
		control = inside
		if box == n {
			n.Role = role.Group
		}
	}
	if is == role.Field && (inside != nil && len(inside.Cell.TextLines()) > 1 || box.Cell.Box.H >= tallField) {
		is = role.Area
	}
	control.Role = is
	if inside != nil {
		control.Value = inside.text()
	}
	behind := false
	n.Walk(func(k *Node) {
		switch {
		case k == box:
			behind = true
		case !k.Cell.Words() || within(box, k):
		case !behind && control.Label == nil:
			control.Label, k.Control, k.Role = k, control, role.Text
		case behind && control.Hint == nil:
			control.Hint, k.Control, k.Role = k, control, role.Text
		}
	})
	if control.Label == nil {
		control.AccessibleName = firstOf(title(n.Name), control.Value, "Field")
	}
}

func firstOf(list ...string) string {
	for _, s := range list {
		if s != "" {
			return s
		}
	}
	return ""
}

// tallField is the height, in px, from which a box one writes in takes several lines.
const tallField = 76

func within(box, k *Node) bool {
	found := false
	box.Walk(func(x *Node) { found = found || x == k })
	return found
}

// box is the node that a control's box is: itself, or the largest shape in it.
func (n *Node) box() *Node {
	var best *Node
	n.Walk(func(k *Node) {
		c := k.Cell
		if k.Picture != nil || c.Words() || c.Face == nil && !(c.Leaf() && c.Element != nil && c.Element.Kind == design.Box) {
			return
		}
		if best == nil || area(c.Box) > area(best.Cell.Box) {
			best = k
		}
	})
	return best
}

func area(r geom.Rect) float64 { return r.W * r.H }

// Placeholder reports whether the words in a field are set so faintly that they only stand for some.
func (n *Node) Placeholder() bool {
	w := n.words()
	if w == nil {
		return false
	}
	e := w.Cell.Element
	if len(e.Fills) != 1 || e.Fills[0].Value.Kind != design.Solid {
		return false
	}
	ground := color.White
	if c := e.ContainerElement(); c != nil && len(c.Fills) > 0 && c.Fills[0].Value.Kind == design.Solid {
		ground = c.Fills[0].Value.Color
	}
	return color.Contrast(e.Fills[0].Value.Color, ground) < 4.5
}

// faint reports whether a node is a control whose words stand for some that are still to come. Their colour is not that
// of what is written into it.
func (n *Node) faint() bool {
	return n.Value != "" && (n.Role == role.Field || n.Role == role.Search) && n.Placeholder()
}

// choice is a box one checks with the words beside it.
func (b *builder) choice(n *Node) {
	is := n.Role
	box := n.small()
	if box == nil {
		n.Role = role.Group
		return
	}
	label := n.words()
	if box != n {
		n.Role = role.Group
		n.Control = box
	}
	box.Role = is
	box.On = box.Picture == nil && len(box.Nodes)+len(box.Over) > 0 || n.marked("checked", "selected", "on")
	if label == nil {
		box.AccessibleName = firstOf(title(n.Name), "Choice")
	}
	// what is drawn in the box cannot stand in it: it is a picture behind it
	if e := box.Cell.Element; box.Picture == nil && e != nil && !box.Cell.Leaf() {
		var of []*design.Element
		box.Walk(func(k *Node) {
			if k != box && k.Cell.Element != nil && k.Cell.Leaf() {
				of = append(of, b.parts(k.Cell)...)
			}
		})
		if len(of) > 0 {
			b.forget(box)
			box.Ground = b.picture(box, of)
		}
		box.Nodes, box.Over = nil, nil
		box.Cell.Cells, box.Cell.Over = nil, nil
	}
}

// chosen ties a choice to the only words beside it.
func (b *builder) chosen(n *Node) {
	if len(n.Nodes) != 2 || len(n.Over) > 0 {
		return
	}
	words, box := n.Nodes[0], n.Nodes[1]
	if !words.Cell.Words() {
		words, box = box, words
	}
	switch box.Role {
	case role.Checkbox, role.Radio, role.Switch:
		if words.Cell.Words() && box.Control == nil {
			n.Control, box.AccessibleName = box, ""
		}
	}
}

// forget takes back the pictures of what stands in a node.
func (b *builder) forget(n *Node) {
	n.Walk(func(k *Node) {
		if k.Picture == nil {
			return
		}
		delete(b.pictures, k.Picture.Of[0])
		for i, p := range b.tree.Pictures {
			if p == k.Picture {
				b.tree.Pictures = append(b.tree.Pictures[:i:i], b.tree.Pictures[i+1:]...)
				break
			}
		}
	})
}

// small is the smallest shape of a node that one can check.
func (n *Node) small() *Node {
	var best *Node
	n.Walk(func(k *Node) {
		c := k.Cell
		shape := k.Picture != nil || c.Face != nil || c.Leaf() && c.Element != nil && c.Element.Kind == design.Box
		if !shape || c.Words() || c.Box.W > 64 || c.Box.H > 40 || c.Box.H < 8 || best != nil && within(best, k) {
			return
		}
		if best == nil {
			best = k
		}
	})
	return best
}

// marked reports whether the state, variant or name of a node contains one of some words.
func (n *Node) marked(words ...string) bool {
	e := n.Cell.Element
	if e == nil {
		return false
	}
	for _, w := range words {
		for _, s := range []string{e.Marks.State, e.Marks.Variant, e.Name} {
			if hasWord(design.Slug(s), w) {
				return true
			}
		}
	}
	return false
}

// hasWord reports whether a slug has a word.
func hasWord(slug, word string) bool {
	for len(slug) > 0 {
		first := slug
		for i, r := range slug {
			if r == '-' {
				first = slug[:i]
				break
			}
		}
		if first == word {
			return true
		}
		slug = slug[min(len(slug), len(first)+1):]
	}
	return false
}

// plainWords makes words that are large in a control no headings.
func plainWords(n *Node) {
	n.Walk(func(k *Node) {
		if k.Role == role.Heading {
			k.Role = role.Text
		}
	})
}

// spin makes the shapes round a number the buttons that change it.
func (b *builder) spin(n *Node) {
	n.Role = role.Group
	plainWords(n)
	names := []string{"Less", "More"}
	i := 0
	n.Walk(func(k *Node) {
		switch {
		case k == n || k.Role == role.Button:
		case k.Cell.Face != nil && k.words() == nil && k.Cell.Box.W <= 64:
			k.Role = role.Button
			k.AccessibleName = names[min(i, 1)]
			k.Walk(func(x *Node) {
				if x.Picture != nil && x.Name != "" {
					k.AccessibleName = title(x.Name)
				}
			})
			i++
		}
	})
}

// tabs marks a list of tabs, and these: only together do they mean something.
func tabs(n *Node) {
	isTab := func(k *Node) bool { return k.Role == role.Tab }
	if len(n.Nodes) == 0 || len(n.Over) > 0 || !slices.ContainsFunc(n.Nodes, isTab) ||
		slices.ContainsFunc(n.Nodes, func(k *Node) bool { return !isTab(k) }) {
		return
	}
	n.tabbed = true
	for _, k := range n.Nodes {
		k.tabbed = true
	}
}

// navigation makes what stands side by side in a navigation its links.
func (b *builder) navigation(n *Node) {
	for {
		var list []*Node
		for _, k := range n.Nodes {
			if k.Role != role.Separator {
				list = append(list, k)
			}
		}
		if len(list) != 1 {
			for _, k := range list {
				if k.words() != nil && (k.Role == role.None || k.Role == role.Group || k.Role == role.Text) {
					k.Role = role.Link
				}
			}
			return
		}
		n = list[0]
	}
}

// regions parts a screen into what stands above and below its main part, and that.
func (b *builder) regions() {
	root := b.tree.Root
	c := root.Cell
	if c.Kind != layout.Column || len(c.Over) > 0 {
		b.mainOf(root)
		return
	}
	from, to := 0, len(root.Nodes)
	for from < to && root.Nodes[from].Role == role.Header {
		from++
	}
	for to > from && (root.Nodes[to-1].Role == role.Footer || root.Nodes[to-1].Role == role.Navigation) {
		to--
	}
	if from == to {
		return
	}
	middle := &layout.Cell{Cells: c.Cells[from:to:to], Flow: layout.Flow{Kind: layout.Column, Pads: true}}
	for _, k := range middle.Cells {
		middle.Box = middle.Box.Union(k.Box)
	}
	middle.Box.X, middle.Box.W = c.Box.X, c.Box.W
	main := &Node{Cell: middle, Role: role.Main, Name: "main", Nodes: root.Nodes[from:to:to]}
	c.Cells = append(append(c.Cells[:from:from], middle), c.Cells[to:]...)
	root.Nodes = append(append(root.Nodes[:from:from], main), root.Nodes[to:]...)
}

// mainOf makes the largest part of a screen that is no landmark its main one; where there are no landmarks, all of it.
func (b *builder) mainOf(root *Node) {
	var best *Node
	landmarks := false
	for _, n := range root.Nodes {
		switch n.Role {
		case role.Header, role.Footer, role.Navigation:
			landmarks = true
		case role.Button, role.Heading, role.Picture:
		default:
			if !n.Cell.Words() && (best == nil || area(n.Cell.Box) > area(best.Cell.Box)) {
				best = n
			}
		}
	}
	if landmarks && best != nil && len(root.Over) == 0 {
		best.Role = role.Main
		return
	}
	if len(root.Nodes)+len(root.Over) == 0 {
		return
	}
	c := *root.Cell
	c.Element, c.Face, c.Name = nil, nil, ""
	main := &Node{Cell: &c, Role: role.Main, Name: "main", Nodes: root.Nodes, Over: root.Over}
	root.Cell.Cells, root.Cell.Over, root.Cell.Kind = []*layout.Cell{&c}, nil, layout.Column
	root.Nodes, root.Over = []*Node{main}, nil
}
