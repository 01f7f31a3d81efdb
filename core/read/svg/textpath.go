package svg

import (
	"math"
	"sort"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

// track is a path that letters stand on, as points at growing distances.
type track struct {
	points []geom.Point
	at     []float64 // distance of each point from the start
	start  float64   // where the text begins
}

// textTrack reads the path a textPath points to; nil where there is none.
func (t *textLayout) textTrack(n *markup.Node, st *style) *track {
	target := t.b.ids[strings.TrimPrefix(n.Href(), "#")]
	if target == nil || !strings.HasPrefix(n.Href(), "#") || noElement[target.Local] {
		t.b.warn(n, "<textPath> points to "+quoteRef(n.Href())+", which is no shape in the file; its words are left out, "+
			"as a browser does")
		return nil
	}
	scratch := &design.Element{Shape: target.Local}
	c := t.c
	c.style = t.b.nodeStyle(target)
	path := t.b.outline(scratch, target, c).Transform(t.b.transform(target, c.style, c))
	tr := &track{}
	total := 0.0
	for _, line := range path.Flatten(geom.Identity, 0.05) {
		for i, p := range line.Points {
			if len(tr.points) > 0 && i > 0 {
				total += p.Sub(tr.points[len(tr.points)-1]).Len()
			}
			tr.points, tr.at = append(tr.points, p), append(tr.at, total)
		}
	}
	if len(tr.points) < 2 || total == 0 {
		return nil
	}
	if l, err := css.ParseLength(n.AttrOr("startOffset", "")); err == nil {
		tr.start = l.Px(css.Units{Em: st.fontSize, Rem: 16, Percent: total})
	}
	return tr
}

// place is the point at a distance and the direction there in degrees; ok is false beyond the ends.
func (tr *track) place(d float64) (p geom.Point, angle float64, ok bool) {
	if d < 0 || d > tr.at[len(tr.at)-1] {
		return p, 0, false
	}
	i := max(1, min(sort.SearchFloat64s(tr.at, d), len(tr.at)-1))
	a, b := tr.points[i-1], tr.points[i]
	k := (d - tr.at[i-1]) / math.Max(1e-9, tr.at[i]-tr.at[i-1])
	return a.Lerp(b, k), degrees(b.Sub(a)), true
}

// begin is where the run's baseline begins.
func (r *textRun) begin() geom.Point {
	if r.track == nil {
		return r.at
	}
	p, _, _ := r.track.place(math.Max(0, r.track.start+r.at.X))
	return p
}

// paintBent paints the glyphs of a run on a track, each turned as the path is there; p has the paint of all.
func (b *builder) paintBent(e *design.Element, p *design.PaintNode, r *textRun) {
	letters := font.Letters(r.words, r.glyphs)
	for _, g := range r.bend() {
		o, ink := b.shaper.Outline(g.glyph, r.style.weight)
		if o.Empty() {
			continue
		}
		one := *p
		one.Matrix = g.m
		one.Glyphs = []design.Glyph{{Outline: o, Ink: ink, Size: r.style.fontSize, Origin: g.glyph.Origin,
			Letters: letters[g.index], Advance: g.glyph.Advance}}
		e.Paint.Children = append(e.Paint.Children, &one)
	}
}

// bend gives every glyph of a run on a track its place: its middle on the path, turned with it. Those beyond the ends
// are not painted.
func (r *textRun) bend() []bent {
	var out []bent
	for i, g := range r.glyphs {
		half := g.Advance / 2
		p, angle, ok := r.track.place(r.track.start + r.at.X + g.Origin.X + half)
		if !ok {
			continue
		}
		m := geom.Translate(p.X, p.Y).Mul(geom.Rotate(angle)).Mul(geom.Translate(-half-g.Origin.X, r.at.Y+r.baseline))
		cell := r.straightCell()
		out = append(out, bent{g, i, m, m.Rect(geom.Rect{X: g.Origin.X, Y: cell.Y - r.at.Y - r.baseline, W: g.Advance,
			H: cell.H})})
	}
	return out
}

// bent is the place of one glyph on a track, and its cell.
type bent struct {
	glyph font.Glyph
	index int // in its run
	m     geom.Matrix
	cell  geom.Rect
}
