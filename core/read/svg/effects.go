package svg

import (
	"math"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

// effects sets what needs no box: opacity, blending, and clips in user space.
func (b *builder) effects(e *design.Element, n *markup.Node, c context) context {
	st, p := c.style, e.Paint
	if _, ok := st.Raw("opacity"); ok {
		p.Opacity = st.share("opacity", 1)
		e.Opacity = fact(st, n, "opacity", p.Opacity)
	}
	if _, ok := st.Raw("mix-blend-mode"); ok {
		if mode := st.str("mix-blend-mode", "normal"); mode != "normal" {
			p.Blend = mode
			e.Blend = fact(st, n, "mix-blend-mode", mode)
		}
	}
	p.Isolate = st.str("isolation", "auto") == "isolate"
	if clip := b.clipNode(n, st); clip != nil && clip.AttrOr("clipPathUnits", "userSpaceOnUse") != "objectBoundingBox" {
		c = b.setClip(p, clip, c, geom.Rect{})
	}
	return c
}

// boxEffects sets what is measured by the element's box in user space: clips in box units, masks, filters.
func (b *builder) boxEffects(e *design.Element, n *markup.Node, c context, box geom.Rect) context {
	st, p := c.style, e.Paint
	if clip := b.clipNode(n, st); clip != nil && clip.AttrOr("clipPathUnits", "") == "objectBoundingBox" {
		c = b.setClip(p, clip, c, box)
	}
	if v, ok := st.Raw("mask"); ok && v != "none" {
		v = st.str2("mask")
		if id, _, ok := css.URLFragment(v); ok && b.ids[id] != nil && b.ids[id].Is("mask") {
			p.Mask = b.mask(b.ids[id], c, box)
		} else if ok {
			b.warn(n, "mask points to #"+markup.Clip(id)+", which is no mask in the file; left out")
		}
	}
	if _, ok := st.Raw("filter"); ok {
		if v := st.str2("filter"); v != "" && v != "none" {
			p.Filter = b.filter(n, v, c, box)
		}
	}
	return c
}

// str2 is a property as written, not in lower case: references to ids tell case apart.
func (s *style) str2(prop string) string {
	v, _, _ := s.Get(prop)
	return strings.TrimSpace(v)
}

func (b *builder) clipNode(n *markup.Node, st *style) *markup.Node {
	if _, ok := st.Raw("clip-path"); !ok {
		return nil
	}
	v := st.str2("clip-path")
	id, _, ok := css.URLFragment(v)
	if !ok {
		if v != "" && v != "none" {
			b.warn(n, "clip-path "+markup.Clip(v)+" is not painted; only url(#…) is")
		}
		return nil
	}
	if t := b.ids[id]; t != nil && t.Is("clipPath") {
		return t
	}
	b.warn(n, "clip-path points to #"+markup.Clip(id)+", which is no clipPath in the file; left out")
	return nil
}

func (b *builder) setClip(p *design.PaintNode, n *markup.Node, c context, box geom.Rect) context {
	if !b.enter(n) {
		b.warn(n, "the clipPath holds itself; left out")
		b.leave()
		return c
	}
	defer b.leave()
	m := b.transform(n, b.nodeStyle(n), c)
	if n.AttrOr("clipPathUnits", "") == "objectBoundingBox" {
		m = geom.Matrix{A: box.W, D: box.H, E: box.X, F: box.Y}.Mul(m)
	}
	group := b.loose(n, c, m)
	cl := &design.Clip{Clip: p.Clip, ID: n.ID()}
	var bounds geom.Rect
	group.Walk(geom.Identity, func(s *design.PaintNode, m geom.Matrix) {
		if s.Path == nil && len(s.Glyphs) == 0 {
			return
		}
		rule := s.EvenOdd
		shape := &design.PaintNode{Matrix: m, Opacity: 1, Path: s.Path, Glyphs: s.Glyphs, EvenOdd: rule, Native: s.Native}
		cl.Shapes = append(cl.Shapes, shape)
		if s.Path != nil {
			if r, ok := s.Path.Transform(c.ctm.Mul(m)).Bounds(); ok {
				bounds = bounds.Union(r)
			}
		} else {
			bounds = c.clip
		}
	})
	b.clipRules(n, cl)
	if st := b.nodeStyle(n); st.has("clip-path") { // a clip on the clip
		if outer := b.clipNode(n, st); outer != nil {
			holder := &design.PaintNode{}
			b.setClip(holder, outer, c, box)
			cl = &design.Clip{Shapes: cl.Shapes, Clip: joinClips(cl.Clip, holder.Clip), ID: cl.ID}
		}
	}
	p.Clip = cl
	c.clip = c.clip.Intersect(bounds)
	return c
}

func joinClips(a, b *design.Clip) *design.Clip {
	if a == nil {
		return b
	}
	return &design.Clip{Shapes: a.Shapes, Clip: joinClips(a.Clip, b), ID: a.ID}
}

// clipRules sets clip-rule, which for clips stands in for fill-rule.
func (b *builder) clipRules(n *markup.Node, cl *design.Clip) {
	i := 0
	for _, k := range n.Elements() {
		if noElement[k.Local] || i >= len(cl.Shapes) {
			continue
		}
		cl.Shapes[i].EvenOdd = b.nodeStyle(k).str("clip-rule", "nonzero") == "evenodd"
		i++
	}
}

func (s *style) has(prop string) bool {
	_, ok := s.Raw(prop)
	return ok
}

// mask reads a mask for a box in user space. https://www.w3.org/TR/css-masking-1/#MaskElement
func (b *builder) mask(n *markup.Node, c context, box geom.Rect) *design.Mask {
	if !b.enter(n) {
		b.warn(n, "the mask holds itself; left out")
		b.leave()
		return nil
	}
	defer b.leave()
	m := &design.Mask{ID: n.ID(), Alpha: b.nodeStyle(n).str("mask-type", "luminance") == "alpha"}
	m.Region = b.region(n, c, box, n.AttrOr("maskUnits", "objectBoundingBox"))
	inner := geom.Identity
	if n.AttrOr("maskContentUnits", "") == "objectBoundingBox" {
		inner = geom.Matrix{A: box.W, D: box.H, E: box.X, F: box.Y}
	}
	m.Content = b.loose(n, c, inner)
	return m
}

// region is the area of a mask or filter: by default 10 % more than the box on each side.
func (b *builder) region(n *markup.Node, c context, box geom.Rect, units string) geom.Rect {
	read := func(name string, or, percent float64) float64 {
		l, err := css.ParseLength(n.AttrOr(name, ""))
		if err != nil {
			return or
		}
		return l.Px(css.Units{Percent: percent, Em: 16, Rem: 16})
	}
	if units == "userSpaceOnUse" {
		return geom.Rect{X: read("x", -0.1*c.port.X, c.port.X), Y: read("y", -0.1*c.port.Y, c.port.Y),
			W: read("width", 1.2*c.port.X, c.port.X), H: read("height", 1.2*c.port.Y, c.port.Y)}
	}
	x, y, w, h := read("x", -0.1, 1), read("y", -0.1, 1), read("width", 1.2, 1), read("height", 1.2, 1)
	return geom.Rect{X: box.X + x*box.W, Y: box.Y + y*box.H, W: w * box.W, H: h * box.H}
}

// paintedBox is what an element paints once its filter and clips are applied, in screen pixels.
func (b *builder) paintedBox(e *design.Element, painted geom.Rect, c context) geom.Rect {
	if f := e.Paint.Filter; f != nil {
		if inv, ok := c.ctm.Inverse(); ok {
			painted = c.ctm.Rect(filterExtent(f, inv.Rect(painted)))
		}
	}
	return painted.Intersect(c.clip)
}

// filterExtent follows a box through a filter, in user space.
func filterExtent(f *design.Filter, source geom.Rect) geom.Rect {
	results := map[string]geom.Rect{"SourceGraphic": source, "SourceAlpha": source}
	last := source
	for _, p := range f.Primitives {
		in := func(name string) geom.Rect {
			if name == "" {
				return last
			}
			if r, ok := results[name]; ok {
				return r
			}
			return source
		}
		r := in(p.In)
		switch p.Kind {
		case "feGaussianBlur":
			r = r.GrowXY(3*p.SX, 3*p.SY)
		case "feOffset":
			r = r.Move(p.DX, p.DY)
		case "feDropShadow":
			r = r.Union(r.Move(p.DX, p.DY).GrowXY(3*p.SX, 3*p.SY))
		case "feDisplacementMap":
			r = r.Grow(math.Abs(p.DX) / 2)
		case "feMorphology":
			if p.Mode == "dilate" {
				r = r.GrowXY(p.SX, p.SY)
			}
		case "feFlood", "feImage", "feTile", "feTurbulence", "feDiffuseLighting", "feSpecularLighting", "feConvolveMatrix":
			r = f.Region
			if p.Kind == "feFlood" && p.Color.Alpha == 0 {
				r = geom.Rect{}
			}
		case "feMerge":
			r = geom.Rect{}
			for _, name := range p.Inputs {
				r = r.Union(in(name))
			}
		case "feBlend":
			r = r.Union(in(p.In2))
		case "feComposite":
			switch p.Mode {
			case "in":
				r = r.Intersect(in(p.In2))
			case "out":
			default:
				r = r.Union(in(p.In2))
			}
		}
		if p.Region != nil {
			r = r.Intersect(*p.Region)
		}
		last = r
		if p.Result != "" {
			results[p.Result] = r
		}
	}
	return last.Intersect(f.Region)
}
