package svg

import (
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
)

func (w *writer) stroke(t *tag, s *design.PaintStroke, m geom.Matrix) {
	k := m.MeanScale()
	if s.Fixed {
		k = 1
	}
	w.paint(t, "stroke", s.Paint, m)
	num := func(v float64) string {
		if k == 1 {
			return same64(v) // to the last bit, as it is painted
		}
		return css.Terse(css.Num(v, finest))
	}
	if v := num(s.Width * k); v != "1" {
		t.set("stroke-width", v)
	}
	if s.Cap != "" && s.Cap != "butt" {
		t.set("stroke-linecap", s.Cap)
	}
	if s.Join != "" && s.Join != "miter" {
		t.set("stroke-linejoin", s.Join)
	}
	if s.Miter != 4 && s.Miter != 0 && (s.Join == "" || s.Join == "miter") {
		t.set("stroke-miterlimit", w.num(s.Miter))
	}
	if len(s.Dashes) > 0 {
		var dashes []string
		for _, d := range s.Dashes {
			dashes = append(dashes, num(d*k))
		}
		t.set("stroke-dasharray", strings.Join(dashes, " "))
		if s.Offset != 0 {
			t.set("stroke-dashoffset", num(s.Offset*k))
		}
	}
	if s.Fixed {
		t.set("vector-effect", "non-scaling-stroke")
	}
}

func numbers(v ...float64) string {
	var out []string
	for _, n := range v {
		out = append(out, css.Terse(css.Num(n, 7)))
	}
	return strings.Join(out, " ")
}

// opaque is a colour without its alpha, in its shortest form.
func (w *writer) opaque(c color.Color) string {
	c.Alpha = 1
	if w.o.Current != nil {
		cur := *w.o.Current
		cur.Alpha = 1
		if cur.CSS() == c.CSS() {
			return "currentColor"
		}
	}
	return c.Shortest()
}

// paint writes a fill or stroke; m leads from the shape's space to where it is written.
func (w *writer) paint(t *tag, prop string, p design.Paint, m geom.Matrix) {
	opacity := p.Opacity
	switch p.Kind {
	case design.Solid:
		if s := w.opaque(p.Color); prop == "stroke" || s != "#000" {
			t.set(prop, s)
		}
		opacity = p.Color.Alpha
	case design.Pattern:
		t.set(prop, "url(#"+w.tile(p.Tile, m)+")")
	default:
		t.set(prop, "url(#"+w.gradient(p.Gradient, m)+")")
	}
	if opacity < 1 {
		t.set(prop+"-opacity", ratio(opacity))
	}
}

func (w *writer) gradient(g *design.Gradient, m geom.Matrix) string {
	m = m.Mul(g.Matrix)
	t := &tag{name: "linearGradient"}
	put := func(name string, v float64) { t.set(name, css.Terse(css.Num(v, w.digits+1))) }
	if g.R1 > 0 {
		t.name = "radialGradient"
		c, f, r, r0 := g.P1, g.P0, g.R1, g.R0
		if similar(m) {
			c, f, r, r0 = m.Apply(c), m.Apply(f), r*m.MeanScale(), r0*m.MeanScale()
			m = geom.Identity
		}
		put("cx", c.X)
		put("cy", c.Y)
		put("r", r)
		if f.X != c.X {
			put("fx", f.X)
		}
		if f.Y != c.Y {
			put("fy", f.Y)
		}
		if r0 > 0 {
			put("fr", r0)
		}
	} else {
		from, to, ok := g.Straight(m)
		if ok {
			m = geom.Identity
		} else {
			from, to = g.P0, g.P1
		}
		put("x1", from.X)
		if from.Y != 0 {
			put("y1", from.Y)
		}
		put("x2", to.X)
		if to.Y != 0 {
			put("y2", to.Y)
		}
	}
	t.set("gradientUnits", "userSpaceOnUse")
	t.matrix("gradientTransform", m)
	if g.Spread != "pad" && g.Spread != "" {
		t.set("spreadMethod", g.Spread)
	}
	if id := w.ramp(g.Stops); id != "" {
		t.set("href", "#"+id)
	} else {
		w.stops(t, g.Stops)
	}
	return w.define(t)
}

func (w *writer) stops(t *tag, stops []design.Stop) {
	for _, st := range stops {
		s := t.add(&tag{name: "stop"})
		if st.Offset != 0 {
			s.set("offset", ratio(st.Offset))
		}
		if c := w.opaque(st.Color); c != "#000" {
			s.set("stop-color", c)
		}
		if st.Color.Alpha < 1 {
			s.set("stop-opacity", ratio(st.Color.Alpha))
		}
	}
}

// ramp gives the id of a gradient that has these stops already: another one can take them from it.
func (w *writer) ramp(stops []design.Stop) string {
	t := &tag{}
	w.stops(t, stops)
	var own strings.Builder
	for _, k := range t.kids {
		k.print(&own)
	}
	for _, d := range w.defs {
		if !strings.HasSuffix(d.name, "Gradient") || len(d.kids) == 0 {
			continue
		}
		var b strings.Builder
		for _, k := range d.kids {
			k.print(&b)
		}
		if id, ok := d.get("id"); ok && b.String() == own.String() {
			if spread, has := d.get("spreadMethod"); has && spread != "" {
				continue
			}
			return id
		}
	}
	return ""
}

func (w *writer) tile(p *design.Tile, m geom.Matrix) string {
	t := &tag{name: "pattern"}
	if p.Box.X != 0 {
		t.set("x", w.num(p.Box.X))
	}
	if p.Box.Y != 0 {
		t.set("y", w.num(p.Box.Y))
	}
	t.set("width", w.num(p.Box.W))
	t.set("height", w.num(p.Box.H))
	t.set("patternUnits", "userSpaceOnUse")
	t.matrix("patternTransform", m.Mul(p.Matrix))
	w.node(t, p.Content, geom.Translate(-p.Box.X, -p.Box.Y)) // browsers count it from the tile's own corner
	return w.define(t)
}

func (w *writer) clip(c *design.Clip) string {
	t := &tag{name: "clipPath"}
	if c.Clip != nil {
		t.set("clip-path", "url(#"+w.clip(c.Clip)+")")
	}
	for _, sh := range c.Shapes {
		p, native := sh.Path, sh.Native
		if len(sh.Glyphs) > 0 {
			p, native = sh.Outlines(), nil
		}
		if p.Empty() {
			continue
		}
		k := t.add(&tag{})
		name, in := w.geometry(k, &design.PaintNode{Fill: &design.Paint{}}, p, native, space{sh.Matrix, geom.Identity})
		k.name = name
		k.matrix("transform", in.rest)
		if sh.EvenOdd {
			k.set("clip-rule", "evenodd")
		}
	}
	return w.define(t)
}

func (w *writer) mask(m *design.Mask) string {
	t := &tag{name: "mask"}
	r := m.Region
	t.set("x", w.num(r.X))
	t.set("y", w.num(r.Y))
	t.set("width", w.num(r.W))
	t.set("height", w.num(r.H))
	t.set("maskUnits", "userSpaceOnUse")
	if m.Alpha {
		t.set("style", "mask-type:alpha")
	}
	if m.Mask != nil {
		t.set("mask", "url(#"+w.mask(m.Mask)+")")
	}
	w.node(t, m.Content, geom.Identity)
	return w.define(t)
}
