package svg

import (
	"bytes"
	"encoding/base64"
	"fmt"
	"image/png"
	"math"
	"strconv"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

// Write makes a self-contained SVG of a paint tree: the part of the plane in view, at its own size. Shapes keep their
// native form, styles are resolved, text becomes outlines, and only the definitions in use are there.
func Write(root *design.PaintNode, view geom.Rect) []byte {
	w := &writer{ids: map[string]string{}}
	content := w.node(root)
	defs := ""
	if len(w.defs) > 0 {
		defs = "<defs>" + strings.Join(w.defs, "") + "</defs>"
	}
	return []byte(fmt.Sprintf(`<svg xmlns="%s" width="%s" height="%s" viewBox="%s %s %s %s">%s%s</svg>`+"\n",
		markup.SVG, num(view.W), num(view.H), num(view.X), num(view.Y), num(view.W), num(view.H), defs, content))
}

type writer struct {
	defs []string
	ids  map[string]string // definition → id
}

func num(v float64) string { return css.Num(v, 4) }

// define adds a definition once and returns its id; %s in it stands for the id.
func (w *writer) define(def string) string {
	if id, ok := w.ids[def]; ok {
		return id
	}
	n := len(w.ids)
	id := string(rune('a' + n%26))
	if n >= 26 {
		id += strconv.Itoa(n / 26)
	}
	w.ids[def] = id
	w.defs = append(w.defs, strings.Replace(def, "%s", id, 1))
	return id
}

// attrs builds attribute text.
type attrs struct{ b strings.Builder }

func (a *attrs) set(name, value string) {
	a.b.WriteString(" " + name + `="` + markup.EscapeAttr(value) + `"`)
}

func (a *attrs) matrix(name string, m geom.Matrix) {
	switch {
	case m == geom.Identity:
	case m.A == 1 && m.B == 0 && m.C == 0 && m.D == 1:
		a.set(name, "translate("+num(m.E)+" "+num(m.F)+")")
	default:
		p := func(v float64) string { return css.Num(v, 7) }
		a.set(name, "matrix("+p(m.A)+" "+p(m.B)+" "+p(m.C)+" "+p(m.D)+" "+num(m.E)+" "+num(m.F)+")")
	}
}

func (w *writer) node(n *design.PaintNode) string {
	if n.Opacity <= 0 {
		return ""
	}
	inner := w.content(n)
	if inner == "" {
		return ""
	}
	a := &attrs{}
	a.matrix("transform", n.Matrix)
	if n.Opacity < 1 {
		a.set("opacity", num(n.Opacity))
	}
	if n.Filter != nil {
		a.set("filter", "url(#"+w.filter(n.Filter)+")")
	}
	if n.Clip != nil {
		a.set("clip-path", "url(#"+w.clip(n.Clip)+")")
	}
	if n.Mask != nil {
		a.set("mask", "url(#"+w.mask(n.Mask)+")")
	}
	if style := blendStyle(n); style != "" {
		a.set("style", style)
	}
	if a.b.Len() == 0 {
		return inner
	}
	return "<g" + a.b.String() + ">" + inner + "</g>"
}

func blendStyle(n *design.PaintNode) string {
	s := ""
	if n.Blend != "" {
		s = "mix-blend-mode:" + n.Blend
	}
	if n.Isolate {
		s = strings.TrimPrefix(s+";isolation:isolate", ";")
	}
	return s
}

func (w *writer) content(n *design.PaintNode) string {
	s := ""
	switch {
	case len(n.Glyphs) > 0:
		s = w.shape(n, pathData(outlines(n)), nil)
	case n.Path != nil:
		s = w.shape(n, "", n.Native)
	}
	if n.Bitmap != nil {
		var buf bytes.Buffer
		if png.Encode(&buf, n.Bitmap) == nil {
			b := n.BitmapBox
			s += fmt.Sprintf(`<image x="%s" y="%s" width="%s" height="%s" preserveAspectRatio="none" href="data:image/png;base64,%s"/>`,
				num(b.X), num(b.Y), num(b.W), num(b.H), base64.StdEncoding.EncodeToString(buf.Bytes()))
		}
	}
	for _, c := range n.Children {
		s += w.node(c)
	}
	return s
}

func outlines(n *design.PaintNode) *geom.Path {
	out := &geom.Path{}
	for _, g := range n.Glyphs {
		out.Append(g.Outline.Transform(geom.Matrix{A: g.Size, D: g.Size, E: g.Origin.X, F: g.Origin.Y}))
	}
	return out
}

// shape writes one shape with its paint; d is given for outlines that have no native form.
func (w *writer) shape(n *design.PaintNode, d string, native *markup.Node) string {
	if n.Fill == nil && n.Stroke == nil {
		return ""
	}
	a := &attrs{}
	name := geometry(a, d, native, n.Path)
	if n.Fill == nil {
		a.set("fill", "none")
	} else {
		w.paint(a, "fill", *n.Fill)
	}
	if n.EvenOdd {
		a.set("fill-rule", "evenodd")
	}
	if s := n.Stroke; s != nil {
		w.stroke(a, s)
		if n.StrokeFirst {
			a.set("paint-order", "stroke")
		}
	}
	if n.Crisp {
		a.set("shape-rendering", "crispEdges")
	}
	return "<" + name + a.b.String() + "/>"
}

// geometry writes where a shape is, and says which element it is.
func geometry(a *attrs, d string, native *markup.Node, p *geom.Path) string {
	if native == nil || usesUnits(native) {
		if d == "" {
			d = pathData(p)
		}
		a.set("d", d)
		return "path"
	}
	for _, k := range []string{"x", "y", "width", "height", "rx", "ry", "cx", "cy", "r", "x1", "y1", "x2", "y2", "points", "d"} {
		if v, ok := native.Attr(k); ok && v != "" {
			a.set(k, v)
		}
	}
	return native.Local
}

// usesUnits says whether a shape's attributes depend on something outside it: percentages, ems, CSS properties.
func usesUnits(n *markup.Node) bool {
	_, style := n.Attr("style")
	_, class := n.Attr("class")
	for _, at := range n.Attrs {
		if geometryProps[at.Local] == "" && !strings.HasPrefix(at.Local, "x") && !strings.HasPrefix(at.Local, "y") || at.Local == "d" {
			continue
		}
		if l, err := css.ParseLength(at.Value); err == nil && l.Unit != "" && l.Unit != "px" {
			return true
		}
	}
	if style || class { // a rule may set geometry: be exact
		for p := range geometryProps {
			if v, ok := n.Attr("style"); ok && strings.Contains(v, p+":") {
				return true
			}
		}
	}
	return false
}

func (w *writer) stroke(a *attrs, s *design.PaintStroke) {
	w.paint(a, "stroke", s.Paint)
	if s.Width != 1 {
		a.set("stroke-width", num(s.Width))
	}
	if s.Cap != "" && s.Cap != "butt" {
		a.set("stroke-linecap", s.Cap)
	}
	if s.Join != "" && s.Join != "miter" {
		a.set("stroke-linejoin", s.Join)
	}
	if s.Miter != 4 && s.Miter != 0 {
		a.set("stroke-miterlimit", num(s.Miter))
	}
	if len(s.Dashes) > 0 {
		a.set("stroke-dasharray", numbers(s.Dashes...))
		if s.Offset != 0 {
			a.set("stroke-dashoffset", num(s.Offset))
		}
	}
	if s.Fixed {
		a.set("vector-effect", "non-scaling-stroke")
	}
}

func numbers(v ...float64) string {
	var out []string
	for _, n := range v {
		out = append(out, css.Num(n, 7))
	}
	return strings.Join(out, " ")
}

func opaque(c color.Color) string {
	c.Alpha = 1
	return c.CSS()
}

func (w *writer) paint(a *attrs, prop string, p design.Paint) {
	opacity := p.Opacity
	switch p.Kind {
	case design.Solid:
		if s := opaque(p.Color); prop == "stroke" || s != "#000000" {
			a.set(prop, s)
		}
		opacity = p.Color.Alpha
	case design.Pattern:
		a.set(prop, "url(#"+w.tile(p.Tile)+")")
	default:
		a.set(prop, "url(#"+w.gradient(p.Gradient)+")")
	}
	if opacity < 1 {
		a.set(prop+"-opacity", num(opacity))
	}
}

func (w *writer) gradient(g *design.Gradient) string {
	a := &attrs{}
	name := "linearGradient"
	if g.R1 > 0 {
		name = "radialGradient"
		a.set("cx", num(g.P1.X))
		a.set("cy", num(g.P1.Y))
		a.set("r", num(g.R1))
		if g.P0 != g.P1 {
			a.set("fx", num(g.P0.X))
			a.set("fy", num(g.P0.Y))
		}
		if g.R0 > 0 {
			a.set("fr", num(g.R0))
		}
	} else {
		a.set("x1", num(g.P0.X))
		a.set("y1", num(g.P0.Y))
		a.set("x2", num(g.P1.X))
		a.set("y2", num(g.P1.Y))
	}
	a.matrix("gradientTransform", g.Matrix)
	if g.Spread != "pad" && g.Spread != "" {
		a.set("spreadMethod", g.Spread)
	}
	s := "<" + name + ` id="%s" gradientUnits="userSpaceOnUse"` + a.b.String() + ">"
	for _, st := range g.Stops {
		s += fmt.Sprintf(`<stop offset="%s" stop-color="%s"`, num(st.Offset), opaque(st.Color))
		if st.Color.Alpha < 1 {
			s += ` stop-opacity="` + num(st.Color.Alpha) + `"`
		}
		s += "/>"
	}
	return w.define(s + "</" + name + ">")
}

func (w *writer) tile(t *design.Tile) string {
	a := &attrs{}
	a.set("x", num(t.Box.X))
	a.set("y", num(t.Box.Y))
	a.set("width", num(t.Box.W))
	a.set("height", num(t.Box.H))
	a.matrix("patternTransform", t.Matrix)
	return w.define(`<pattern id="%s" patternUnits="userSpaceOnUse"` + a.b.String() + ">" + w.node(t.Content) + "</pattern>")
}

func (w *writer) clip(c *design.Clip) string {
	s := `<clipPath id="%s"`
	if c.Clip != nil {
		s += ` clip-path="url(#` + w.clip(c.Clip) + `)"`
	}
	s += ">"
	for _, sh := range c.Shapes {
		a := &attrs{}
		d := ""
		if len(sh.Glyphs) > 0 {
			d = pathData(outlines(sh))
		}
		name := geometry(a, d, sh.Native, sh.Path)
		a.matrix("transform", sh.Matrix)
		if sh.EvenOdd {
			a.set("clip-rule", "evenodd")
		}
		s += "<" + name + a.b.String() + "/>"
	}
	return w.define(s + "</clipPath>")
}

func (w *writer) mask(m *design.Mask) string {
	r := m.Region
	s := fmt.Sprintf(`<mask id="%%s" maskUnits="userSpaceOnUse" x="%s" y="%s" width="%s" height="%s"`, num(r.X), num(r.Y), num(r.W), num(r.H))
	if m.Alpha {
		s += ` style="mask-type:alpha"`
	}
	return w.define(s + ">" + w.node(m.Content) + "</mask>")
}

// pathData writes a path; quarter ellipses along the axes as arcs, other conics as cubic curves that stray by less
// than a thousandth of their size.
func pathData(p *geom.Path) string {
	var b strings.Builder
	p.Each(func(s geom.Segment, first bool) {
		pt := func(i int) string { return num(s.P[i].X) + " " + num(s.P[i].Y) }
		if first {
			b.WriteString("M" + pt(0))
		}
		switch s.Verb {
		case geom.Line:
			b.WriteString("L" + pt(1))
		case geom.Quad:
			b.WriteString("Q" + pt(1) + " " + pt(2))
		case geom.Cubic:
			b.WriteString("C" + pt(1) + " " + pt(2) + " " + pt(3))
		case geom.Close:
			b.WriteString("Z")
		case geom.Conic:
			upright := s.P[0].X == s.P[1].X && s.P[1].Y == s.P[2].Y || s.P[0].Y == s.P[1].Y && s.P[1].X == s.P[2].X
			if math.Abs(s.Weight-math.Sqrt2/2) < 1e-9 && upright {
				u, v := s.P[1].Sub(s.P[0]), s.P[2].Sub(s.P[1])
				sweep := "0"
				if u.X*v.Y-u.Y*v.X > 0 {
					sweep = "1"
				}
				b.WriteString("A" + num(math.Abs(s.P[2].X-s.P[0].X)) + " " + num(math.Abs(s.P[2].Y-s.P[0].Y)) + " 0 0 " + sweep + " " + pt(2))
				return
			}
			k := 4 * s.Weight / (3 * (1 + s.Weight))
			c1, c2 := s.P[0].Lerp(s.P[1], k), s.P[2].Lerp(s.P[1], k)
			b.WriteString("C" + num(c1.X) + " " + num(c1.Y) + " " + num(c2.X) + " " + num(c2.Y) + " " + pt(2))
		}
	})
	return b.String()
}
