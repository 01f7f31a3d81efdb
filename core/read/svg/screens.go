package svg

import (
	"fmt"
	"path"
	"strings"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// screens cuts the drawing into its marked screens; without a mark the whole is one, named after its title or file.
func (b *builder) screens(whole *design.Screen) {
	var marked []*design.Element
	var find func(e *design.Element)
	find = func(e *design.Element) {
		if e.Marks.Screen != "" {
			marked = append(marked, e) // a screen holds no other
			return
		}
		for _, c := range e.Children {
			find(c)
		}
	}
	find(whole.Root)
	if len(marked) == 0 || marked[0] == whole.Root {
		whole.Name = firstOf(whole.Root.Marks.Screen, whole.Root.Name, onlyGroup(whole.Root),
			strings.TrimSuffix(strings.TrimSuffix(path.Base(b.doc.Name), ".svgz"), ".svg"))
		b.closeScreen(whole)
		return
	}
	names := map[string]int{}
	inside := 0
	for _, e := range marked {
		s := &design.Screen{Name: e.Marks.Screen, Root: e, Document: b.doc}
		if names[s.Name]++; names[s.Name] > 1 {
			b.warn(e.Node, fmt.Sprintf("two screens are called %q", s.Name))
			s.Name = fmt.Sprintf("%s (%d)", s.Name, names[s.Name])
		}
		s.Box = screenBox(e)
		above := geom.Identity
		for p := e.Parent; p != nil; p = p.Parent {
			above = p.Paint.Matrix.Mul(above)
		}
		s.Paint = &design.PaintNode{Matrix: geom.Translate(-s.Box.X, -s.Box.Y).Mul(above), Opacity: 1,
			Children: []*design.PaintNode{e.Paint}}
		e.Parent = nil
		e.Walk(func(x *design.Element) {
			x.Screen = s
			moveElement(x, -s.Box.X, -s.Box.Y)
			inside++
		})
		b.closeScreen(s)
	}
}

// onlyGroup is the name of the one group that holds the whole drawing, as some programs write it.
func onlyGroup(root *design.Element) string {
	if len(root.Children) == 1 && root.Children[0].Kind == design.Group {
		return root.Children[0].Name
	}
	return ""
}

func firstOf(names ...string) string {
	for _, n := range names {
		if n != "" {
			return n
		}
	}
	return "screen"
}

// screenBox is the place of a screen: of a background that everything lies in, else of all there is.
func screenBox(e *design.Element) geom.Rect {
	if e.Shape == "svg" && e.Layout.Set {
		return e.Layout.Value
	}
	if bg := e.Background(); bg != nil {
		return bg.Geometry.Value
	}
	if len(e.Children) > 0 && e.Children[0].Kind == design.Box { // what hangs over its edge is cut off
		first := e.Children[0].Geometry.Value
		if all := e.Geometry.Value; first.W*first.H > 0.5*all.W*all.H {
			return first
		}
	}
	return e.Geometry.Value
}

func moveElement(e *design.Element, dx, dy float64) {
	for _, f := range []*design.Fact[geom.Rect]{&e.Geometry, &e.Painted, &e.Layout} {
		f.Value = f.Value.Move(dx, dy)
	}
	e.Matrix = geom.Translate(dx, dy).Mul(e.Matrix)
	if e.Words != nil {
		for i := range e.Words.Lines {
			e.Words.Lines[i].Baseline = e.Words.Lines[i].Baseline.Add(geom.Point{X: dx, Y: dy})
		}
	}
}

func (b *builder) closeScreen(s *design.Screen) {
	s.SetPaths()
	for _, c := range s.Root.Children {
		c.Walk(func(x *design.Element) { s.Elements = append(s.Elements, x) })
	}
	s.FindAlignment()
	b.doc.Screens = append(b.doc.Screens, s)
}
