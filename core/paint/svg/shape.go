package svg

import (
	"math"
	"slices"

	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/geom/pathdata"
	"archetyp/core/markup"
)

// shape writes one shape with its paint. m leads from the shape's space to where it is written; it is worked into the
// numbers unless the stroke, or a pattern, would come out otherwise.
func (w *writer) shape(to *tag, n *design.PaintNode, p *geom.Path, native *markup.Node, m geom.Matrix) {
	if n.Fill == nil && n.Stroke == nil || p.Empty() {
		return
	}
	t := &tag{}
	rest := geom.Identity
	if s := n.Stroke; w.kept || s != nil && reshapes(m) ||
		native != nil && roundShapes[native.Local] && !upright(m) { // painted more exactly as what they are
		m, rest = geom.Identity, m
	}
	name, in := w.geometry(t, n, p, native, space{m, rest})
	t.name, m, rest = name, in.m, in.rest
	t.matrix("transform", rest)
	if n.Fill == nil {
		t.set("fill", "none")
	} else {
		w.paint(t, "fill", *n.Fill, m)
	}
	if n.EvenOdd && crosses(p) {
		t.set("fill-rule", "evenodd")
	}
	if s := n.Stroke; s != nil {
		w.stroke(t, s, m)
		if n.StrokeFirst {
			t.set("paint-order", "stroke")
		}
	}
	if n.Crisp {
		t.set("shape-rendering", "crispEdges")
	}
	to.add(t)
}

// crosses reports whether the winding of a path may matter to how it is filled: one simple loop is the same either way.
func crosses(p *geom.Path) bool {
	moves, curves := 0, 0
	for _, v := range p.Verbs {
		switch v {
		case geom.Move:
			moves++
		case geom.Close:
		default:
			curves++
		}
	}
	return moves > 1 || curves > 3
}

// reshapes reports whether a transform does more to a stroke than move, mirror, double or halve it: worked into the
// numbers it would come out otherwise.
func reshapes(m geom.Matrix) bool {
	f, _ := math.Frexp(math.Abs(m.A))
	return !upright(m) || math.Abs(m.A) != math.Abs(m.D) || f != 0.5
}

// upright reports whether a transform neither turns nor skews.
func upright(m geom.Matrix) bool { return m.B == 0 && m.C == 0 }

// similar reports whether a transform keeps angles: it moves, turns and zooms alone.
func similar(m geom.Matrix) bool {
	const eps = 1e-9
	return math.Abs(m.A-m.D) < eps && math.Abs(m.B+m.C) < eps || math.Abs(m.A+m.D) < eps && math.Abs(m.B-m.C) < eps
}

// space is where an outline is written: what of its matrix is in its numbers, and what stands in the transform
// attribute.
type space struct{ m, rest geom.Matrix }

// outside is the same with all in the attribute.
func (s space) outside() space { return space{geom.Identity, s.rest.Mul(s.m)} }

// geometry writes where the shape of a node is and says which element that is. m leads from its space to where it is
// written, rest from there to the parent's. Both come back changed where it is painted more exactly as it stands.
func (w *writer) geometry(t *tag, n *design.PaintNode, p *geom.Path, native *markup.Node, in space) (string, space) {
	m, rest := in.m, in.rest
	if s, ok := basicOf(native, p); ok && upright(m) && !w.o.Rough && w.o.Mark == nil {
		if name, found := w.basic(t, n, p, s, in); found {
			return name, in
		}
		name, _ := w.basic(t, n, p, s, in.outside())
		return name, in.outside()
	}
	list := commandsAs(p, native)
	if slices.ContainsFunc(list, func(c pathdata.Command) bool { _, ok := under(&c, m); return c.Letter == 'A' && !ok }) {
		m, rest = geom.Identity, rest.Mul(m)
	}
	d, missed := w.data(n, list, m, rest)
	if missed > 0 && m != geom.Identity {
		if d2, still := w.data(n, list, geom.Identity, rest.Mul(m)); still < missed {
			d, m, rest, missed = d2, geom.Identity, rest.Mul(m), still
		}
	}
	if missed > 0 && native != nil && native.Local == "path" {
		written, _ := native.Attr("d")
		if same, ok := pathdata.Shorten(written); ok {
			d, m, rest = same, geom.Identity, rest.Mul(m)
		}
	}
	t.set("d", d)
	return "path", space{m, rest}
}

// data writes commands, with the fewest decimals that paint the same; missed counts those that none did for.
func (w *writer) data(n *design.PaintNode, list []pathdata.Command, m, rest geom.Matrix) (d string, missed int) {
	if w.judged += len(list); w.judged > mostJudged || w.o.Rough || w.o.Mark != nil {
		digits := w.digits + 1
		if w.o.Rough {
			digits = w.digits
		}
		p := &pathWriter{least: digits, most: digits, m: m, spare: n.Stroke == nil}
		return p.write(list), 0
	}
	to := w.above.Mul(rest)
	judge := newJudge(list, to.Mul(m), to, w.scale, w.view)
	judge.stroked = n.Stroke != nil
	judge.exact = judge.stroked || judge.cutOff()
	spare := n.Stroke == nil
	for least := w.digits; ; least++ {
		p := &pathWriter{least: min(least, finest), most: finest, m: m, spare: spare, judge: judge}
		d = p.write(list)
		if spare && !judge.asCrowded(&p.forms) {
			spare = false
			least--
			continue
		}
		if judge.exact && judge.noise > 0 && p.missed == 0 && !w.sameStroke(n.Stroke, list, d, m, to) {
			return d, 1
		}
		if judge.exact || judge.sameForm(&p.forms) {
			return d, p.missed
		}
		judge.exact = least == finest // the last resort
	}
}

// sameStroke reports whether the stroke of path data fills the same edges as that of commands whose space m leads from.
func (w *writer) sameStroke(s *design.PaintStroke, list []pathdata.Command, d string, m, to geom.Matrix) bool {
	if s == nil || s.Fixed {
		return true
	}
	var written []pathdata.Command
	if pathdata.Visit(d, func(c *pathdata.Command) { written = append(written, *c) }) != nil {
		return false
	}
	original, mine := countedPath(list), countedPath(written)
	for k := 1.0; k <= densities; k++ {
		before, after := deviceAt(k, w.scale, to.Mul(m)), deviceAt(k, w.scale, to)
		a := geom.Stroke(original, s.Style(1), max(before.m.MeanScale(), 1e-6))
		b := geom.Stroke(mine, s.Style(m.MeanScale()), max(after.m.MeanScale(), 1e-6))
		if !slices.Equal(edgesOf(a, before).edges, edgesOf(b, after).edges) {
			return false
		}
	}
	return true
}

// countedPath is the outline that browsers take commands for.
func countedPath(list []pathdata.Command) *geom.Path {
	p := &geom.Path{}
	var at geom.Point
	for i := range list {
		c := &list[i]
		e := c.End().Counted
		if c.Letter == 'A' {
			conics(c, at, e, func(s *geom.Segment) {
				if s.Verb == geom.Line {
					p.LineTo(e.X, e.Y)
					return
				}
				p.ConicTo(s.P[1], s.P[2], s.Weight)
			})
		} else {
			c.AddPoints(p, c.Points[0].Counted, c.Points[1].Counted, e)
		}
		at = e
	}
	return p
}

// commandsAs are the commands of a path, as its markup has them where that says it.
func commandsAs(p *geom.Path, native *markup.Node) []pathdata.Command {
	if native != nil && native.Local == "path" {
		d, _ := native.Attr("d")
		var list []pathdata.Command
		same := &geom.Path{}
		if pathdata.Visit(d, func(c *pathdata.Command) { list = append(list, *c); c.Add(same) }) == nil &&
			slices.Equal(p.Points, same.Points) && slices.Equal(p.Verbs, same.Verbs) {
			return list
		}
	}
	return commandsOf(p)
}
