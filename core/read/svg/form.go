package svg

import (
	"math"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// formTolerance is how far, in px on the screen, an outline may stray from the form it is taken for: what writing
// coordinates with one decimal does.
const formTolerance = 0.06

// recogniseForm says what a drawn outline turns out to be: a rounded rectangle, ellipse, circle or line, as drawing
// programs write them once somebody touched a point. The paint stays the path that it is.
func recogniseForm(e *design.Element, path *geom.Path, ctm geom.Matrix) {
	if e.Kind != design.Path || e.Shape == "line" || !ctm.Upright() || ctm.Det() == 0 {
		return
	}
	scale := ctm.MeanScale()
	box, _ := path.Bounds()
	tol := math.Min(formTolerance/scale, 0.02*math.Max(math.Min(box.W, box.H), 0.1*math.Max(box.W, box.H)))
	f, ok := path.Form(tol)
	if !ok {
		return
	}
	e.Form = design.Derive(f.Kind, "the points of the outline")
	if f.Kind == geom.FormLine {
		return
	}
	e.Kind = design.Box
	if f.Kind == geom.FormRect {
		return
	}
	sx, sy := math.Abs(ctm.A), math.Abs(ctm.D)
	var r design.Radii
	for i, c := range f.Radii {
		k := i
		if ctm.A < 0 { // flipped: left is right
			k = [4]int{1, 0, 3, 2}[k]
		}
		if ctm.D < 0 {
			k = [4]int{3, 2, 1, 0}[k]
		}
		r.X[k], r.Y[k] = round3(c.X*sx), round3(c.Y*sy)
	}
	e.Radii = design.Derive(evened(r, 2*tol*scale), "the outline's corners")
}

func round3(v float64) float64 { return math.Round(v*1e3) / 1e3 }

// evened makes radii one that differ by no more than the rounding of their coordinates.
func evened(r design.Radii, tol float64) design.Radii {
	least, most, sum := math.Inf(1), 0.0, 0.0
	for i := range r.X {
		for _, v := range []float64{r.X[i], r.Y[i]} {
			least, most, sum = math.Min(least, v), math.Max(most, v), sum+v
		}
	}
	if most-least <= tol {
		v := round3(sum / 8)
		return sameRadii(v, v)
	}
	return r
}

// alignStroke finds strokes that are cut off along their own outline, which is how drawing programs write one that
// lies inside or outside: by a clip or a mask of the same shape, or painted under an opaque fill.
func alignStroke(e *design.Element, path *geom.Path) {
	if len(e.Strokes) == 0 {
		return
	}
	s, p := &e.Strokes[0].Value, e.Paint
	s.Align, s.Shown = design.Centred, s.Width
	place := design.Centred
	switch {
	case p.Clip != nil && p.Clip.Clip == nil && len(p.Clip.Shapes) == 1 && samePath(p.Clip.Shapes[0], path):
		place = design.Inside
	case p.Mask != nil && p.Mask.Mask == nil:
		place = maskedStroke(p.Mask, path)
	case p.StrokeFirst && p.Fill != nil && p.Fill.Kind == design.Solid && p.Fill.Color.Alpha == 1:
		place = design.Outside
	}
	if place != design.Centred {
		s.Align, s.Shown = place, s.Width/2
	}
}

// maskedStroke is where a mask of the same outline leaves a stroke: white inside it, or white outside it.
func maskedStroke(m *design.Mask, path *geom.Path) design.StrokeAlign {
	if m.Alpha || m.Content == nil {
		return design.Centred
	}
	var shapes []*design.PaintNode
	plain := true
	m.Content.Walk(geom.Identity, func(n *design.PaintNode, at geom.Matrix) {
		if n.Path != nil {
			shapes = append(shapes, &design.PaintNode{Matrix: at, Path: n.Path, Fill: n.Fill})
		}
		plain = plain && n.Opacity == 1 && n.Stroke == nil && n.Filter == nil && n.Bitmap == nil && len(n.Glyphs) == 0
	})
	light := func(n *design.PaintNode, v float64) bool {
		if n.Fill == nil || n.Fill.Kind != design.Solid || n.Fill.Color.Alpha < 1 {
			return false
		}
		c := n.Fill.Color.C
		return c[0] == v && c[1] == v && c[2] == v
	}
	switch {
	case plain && len(shapes) == 1 && light(shapes[0], 1) && samePath(shapes[0], path):
		return design.Inside
	case plain && len(shapes) == 2 && light(shapes[0], 1) && light(shapes[1], 0) && samePath(shapes[1], path):
		if cover, ok := shapes[0].Path.Transform(shapes[0].Matrix).Bounds(); ok {
			if own, _ := path.Bounds(); cover.Contains(own, 0) {
				return design.Outside
			}
		}
	}
	return design.Centred
}

// samePath reports whether a shape, in the space its matrix leads to, is the same outline as a path.
func samePath(n *design.PaintNode, path *geom.Path) bool {
	if n.Path == nil || len(n.Path.Points) != len(path.Points) || len(n.Path.Verbs) != len(path.Verbs) {
		return false
	}
	q := n.Path.Transform(n.Matrix)
	for i, p := range q.Points {
		if p.Sub(path.Points[i]).Len() > 1e-3 {
			return false
		}
	}
	return true
}
