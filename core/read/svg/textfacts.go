package svg

import (
	"math"
	"strings"

	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

// facts states what a text element says and how it is set, and its boxes.
func (t *textLayout) facts(n *markup.Node) {
	c, e := t.c, t.e
	w := &design.TextFacts{Lines: t.wholeLines()}
	e.Words = w
	scale := c.ctm.MeanScale()
	var box geom.Rect
	for i, r := range t.runs {
		cell := r.cell()
		if i == 0 {
			box = cell
		} else {
			box = unionAll(box, cell)
		}
		run := design.Run{Words: r.words, Size: r.style.fontSize * scale, Line: r.line, Node: r.node}
		set := t.fontStyle(r.style)
		run.Family, run.Weight, run.Italic = strings.Join(set.Families, ", "), set.Weight, set.Italic
		inner := c
		inner.style = r.style
		if p, ok := t.b.paint(r.node, inner, "fill", cell); ok {
			run.Fill = p
		}
		w.Runs = append(w.Runs, run)
	}
	t.box = box
	geometry := c.ctm.Rect(box)
	if len(t.runs) == 0 {
		geometry = geom.Rect{X: c.ctm.E, Y: c.ctm.F}
	}
	e.Geometry = design.Derive(geometry, "glyph cells: advance by ascent and descent")
	e.Layout = e.Geometry
	var words []string
	for i := range w.Lines {
		w.Lines[i].Words = strings.TrimSpace(w.Lines[i].Words)
		words = append(words, w.Lines[i].Words)
	}
	w.Words = strings.Join(words, "\n")
	st, node := c.style, n
	if len(t.runs) > 0 {
		st, node = t.runs[0].style, t.runs[0].node
		f := t.runs[0].face
		w.Used, w.Normal, w.Missing = f.Family, f.Ascent+f.Descent+f.LineGap, t.runs[0].missing
		w.Ascent, w.Descent = f.Ascent, f.Descent
	}
	t.setting(w, st, node, scale)
	if p, ok := t.b.paint(node, contextWith(c, st), "fill", box); ok {
		e.Fills = append(e.Fills, fact(st, node, "fill", p))
	}
	if s, ok := t.b.stroke(node, contextWith(c, st), box); ok {
		e.Strokes = append(e.Strokes, fact(st, node, "stroke", design.Stroke{Paint: s.Paint, Width: s.Width * scale,
			Cap: s.Cap, Join: s.Join, Miter: st.num("stroke-miterlimit", 4), Align: design.Centred, Shown: s.Width * scale}))
	}
}

func contextWith(c context, st *style) context {
	c.style = st
	return c
}

// cell is the run's advance width by the font's ascent and descent, rounded to whole pixels as browsers do.
func (r *textRun) cell() geom.Rect {
	if r.track != nil {
		var out geom.Rect
		for _, g := range r.bend() {
			out = out.Union(g.cell)
		}
		return out
	}
	if r.squeezed != nil {
		return r.squeezed.Rect(r.straightCell())
	}
	return r.straightCell()
}

func (r *textRun) straightCell() geom.Rect {
	em := r.style.fontSize
	up, down := math.Round(r.face.Ascent*em), math.Round(r.face.Descent*em)
	if r.style.str("text-rendering", "auto") == "geometricprecision" && down < r.face.Descent*em && up >= 1 {
		up, down = up-1, down+1 // text set by its outlines: room for what rounding cut off below
	}
	return geom.Rect{X: r.at.X, Y: r.at.Y + r.baseline - up, W: r.width, H: up + down}
}

// setting are the facts of one style: font, size, weight, spacing, alignment, case, decoration.
func (t *textLayout) setting(w *design.TextFacts, st *style, n *markup.Node, scale float64) {
	set := t.fontStyle(st)
	v, _, given := st.Get("font-family")
	asked := strings.Join(font.Families(v), ", ")
	if family := strings.Join(set.Families, ", "); given {
		from, _ := st.from(n, "font-family")
		w.Family = design.State(family, from)
		if family != asked {
			w.Family = design.Derive(family, from+", by the PostScript name "+asked)
		}
	}
	w.Size = fact(st, n, "font-size", st.fontSize*scale)
	if scale != 1 {
		w.Size = design.Derive(st.fontSize*scale, "font-size under the element's transform")
	}
	w.Weight = fact(st, n, "font-weight", set.Weight)
	if set.Weight != st.weight {
		w.Weight = design.Derive(set.Weight, "the PostScript name "+asked)
	}
	if set.Italic {
		w.Italic = fact(st, n, "font-style", true)
	}
	if sp := st.px("letter-spacing", 0, st.fontSize); sp != 0 {
		w.Spacing = fact(st, n, "letter-spacing", sp*scale)
	}
	align := map[string]string{"start": "left", "middle": "center", "end": "right"}[st.str("text-anchor", "start")]
	if align == "" {
		align = "left"
	}
	if st.rtl() && align != "center" {
		align = map[string]string{"left": "right", "right": "left"}[align]
	}
	w.Align = fact(st, n, "text-anchor", align)
	if v := st.str("text-transform", "none"); v != "none" {
		w.Case = fact(st, n, "text-transform", v)
	}
	if v := st.decorations(); v != "" {
		w.Decoration = design.State(v, "text-decoration")
	}
	t.lineHeight(w, st, n, scale)
}

// lineHeight is stated, or derived where lines stand at even distances.
func (t *textLayout) lineHeight(w *design.TextFacts, st *style, n *markup.Node, scale float64) {
	if len(w.Lines) > 1 {
		d := w.Lines[1].Baseline.Y - w.Lines[0].Baseline.Y
		for i := 2; i < len(w.Lines); i++ {
			if math.Abs(w.Lines[i].Baseline.Y-w.Lines[i-1].Baseline.Y-d) > 0.05 {
				return
			}
		}
		if d > 0 {
			w.LineHeight = design.Derive(round6(d), "distance of the baselines")
		}
		return
	}
	if px, ok := st.lineHeight(); ok {
		w.LineHeight = fact(st, n, "line-height", px*scale)
	}
}

// lineHeight is the line height where one is stated, in user units.
func (s *style) lineHeight() (px float64, ok bool) {
	v, _, ok := s.Get("line-height")
	if !ok || v == "normal" {
		return 0, false
	}
	px = s.px("line-height", 0, s.fontSize)
	if strings.Trim(v, "0123456789. ") == "" { // so many font sizes
		px *= s.fontSize
	}
	return px, px > 0
}
