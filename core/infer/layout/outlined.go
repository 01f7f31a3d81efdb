package layout

import (
	"cmp"
	"math"
	"slices"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// Outlined reports whether an element is words whose letters were turned into outlines: a path of several parts, or a
// group of paths, that stand on one line side by side like letters. count is how many parts there are.
func Outlined(e *design.Element) (count int, ok bool) {
	parts := letters(e)
	if len(parts) < 4 {
		return 0, false
	}
	slices.SortFunc(parts, func(a, b geom.Rect) int { return cmp.Compare(a.X, b.X) })
	parts = joined(parts)
	if len(parts) < 4 {
		return 0, false
	}
	tall := 0.0
	for _, p := range parts {
		tall = math.Max(tall, p.H)
	}
	top, bottom := math.Inf(1), math.Inf(-1)
	for _, p := range parts {
		top, bottom = math.Min(top, p.Y), math.Max(bottom, p.Bottom())
	}
	if bottom-top > 1.7*tall { // parts that stand above each other
		return 0, false
	}
	on, shapes := 0, map[[2]int]bool{}
	base := commonBottom(parts, 0.03*tall)
	for i, p := range parts {
		if math.Abs(p.Bottom()-base) <= 0.03*tall {
			on++
		}
		shapes[[2]int{int(math.Round(p.W / tall * 20)), int(math.Round(p.H / tall * 20))}] = true
		if i > 0 && p.X-parts[i-1].Right() > tall { // a gap wider than between words
			return 0, false
		}
		if p.W > 1.6*tall {
			return 0, false
		}
	}
	if on*5 < len(parts)*3 || len(shapes)*3 < len(parts) && len(shapes) < 4 || len(shapes) < 3 {
		return 0, false
	}
	return len(parts), true
}

// letters are the boxes of the parts an element consists of, in one plain fill; nil where it cannot be letters.
func letters(e *design.Element) []geom.Rect {
	if e.Hidden || e.Form.Set && e.Kind == design.Box {
		return nil
	}
	if e.Kind == design.Path && e.Native == design.Outline && e.Paint != nil && e.Paint.Path != nil {
		if len(e.Fills) != 1 || len(e.Strokes) > 0 || len(e.Paint.Path.Verbs) > 20000 {
			return nil
		}
		return subpaths(e.Paint.Path, e.Matrix)
	}
	if e.Kind != design.Group || len(e.Children) < 4 || len(e.Children) > 400 {
		return nil
	}
	var out []geom.Rect
	plain := 0
	for _, c := range e.Children {
		if len(c.Fills) != 1 || len(c.Strokes) > 0 || c.Words != nil || len(c.Children) > 0 ||
			!sameFill(c, e.Children[0]) {
			return nil
		}
		if c.Kind == design.Box {
			plain++
		}
		out = append(out, c.Geometry.Value)
	}
	if plain*2 > len(out) { // bars, not letters
		return nil
	}
	return out
}

// sameFill reports whether two elements are filled with one plain colour.
func sameFill(a, b *design.Element) bool {
	p, q := a.Fills[0].Value, b.Fills[0].Value
	return p.Kind == design.Solid && q.Kind == design.Solid && p.Color.Same(q.Color)
}

// subpaths are the tight boxes of a path's parts on the screen.
func subpaths(p *geom.Path, m geom.Matrix) []geom.Rect {
	var out []geom.Rect
	part := &geom.Path{}
	flush := func() {
		if r, ok := part.Transform(m).Bounds(); ok && r.W > 0 && r.H > 0 {
			out = append(out, r)
		}
	}
	i, w := 0, 0
	for _, v := range p.Verbs {
		if v == geom.Move {
			flush()
			part = &geom.Path{}
		}
		n := v.Size()
		part.Verbs, part.Points = append(part.Verbs, v), append(part.Points, p.Points[i:i+n]...)
		if v == geom.Conic {
			part.Weights = append(part.Weights, p.Weights[w])
			w++
		}
		i += n
	}
	flush()
	return out
}

// joined makes one of boxes that lie over each other: a letter and its dot, its hole.
func joined(parts []geom.Rect) []geom.Rect {
	var out []geom.Rect
	for _, p := range parts {
		if n := len(out); n > 0 {
			last := out[n-1]
			over := math.Min(last.Right(), p.Right()) - math.Max(last.X, p.X)
			if over > 0.5*math.Min(last.W, p.W) {
				out[n-1] = last.Union(p)
				continue
			}
		}
		out = append(out, p)
	}
	return out
}

// commonBottom is the lower edge that most boxes share.
func commonBottom(parts []geom.Rect, tol float64) float64 {
	best, most := 0.0, -1
	for _, p := range parts {
		n := 0
		for _, q := range parts {
			if math.Abs(p.Bottom()-q.Bottom()) <= tol {
				n++
			}
		}
		if n > most {
			best, most = p.Bottom(), n
		}
	}
	return best
}
