package svg

import (
	"strconv"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// glyphUnits are the units of an em that the outlines of glyphs are written in.
const glyphUnits = 1000

// glyphs writes a run of text as uses of outlines that are defined once, which is quick and short where a drawing has
// many words.
func (w *writer) glyphs(to *tag, n *design.PaintNode, m geom.Matrix) {
	g := &tag{name: "g", layer: true}
	w.paint(g, "fill", *n.Fill, m)
	for i := range n.Glyphs {
		one := &n.Glyphs[i]
		if one.Outline == nil || one.Outline.Empty() {
			continue
		}
		at := m.Mul(geom.Matrix{A: one.Size / glyphUnits, D: one.Size / glyphUnits, E: one.Origin.X, F: one.Origin.Y})
		use := g.add(&tag{name: "use"})
		use.set("href", "#"+w.glyph(one.Outline))
		use.matrix("transform", at)
	}
	if len(g.kids) > 0 {
		to.add(g)
	}
}

// glyph defines an outline, and gives its id.
func (w *writer) glyph(outline *geom.Path) string {
	if id, known := w.outlines[outline]; known {
		return id
	}
	id := w.o.Prefix + "g" + strconv.Itoa(len(w.outlines))
	if w.outlines == nil {
		w.outlines = map[*geom.Path]string{}
	}
	w.outlines[outline] = id
	t := &tag{name: "path"}
	t.set("id", id)
	t.set("d", PathData(outline.Transform(geom.Matrix{A: glyphUnits, D: glyphUnits}), 0))
	w.defs = append(w.defs, t)
	return id
}

// mark has what was added to a parent say which element it is of.
func (w *writer) mark(added []*tag, e *design.Element) {
	if w.o.Mark == nil || e == nil {
		return
	}
	name := w.o.Mark(e)
	for _, t := range added {
		if name != "" {
			t.set("data-e", name)
		}
	}
}
