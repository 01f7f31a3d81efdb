package svg

import (
	"math"

	"archetyp/core/color"
	"archetyp/core/design"
)

// A filter is often only a way to write shadows. recogniseFilter follows it symbolically: each result is a pile of
// layers, each layer the picture itself, its silhouette moved and blurred, or a flood. Where all that is left at the
// end is the picture with shadows behind or inside it, those are its shadows; a lone blurred picture is a blur;
// anything else is no shadow and stays a filter.
func (b *builder) recogniseFilter(e *design.Element, c context) {
	f := e.Paint.Filter
	if f == nil {
		return
	}
	scale := c.ctm.MeanScale()
	layers, ok := followFilter(f)
	if !ok {
		return
	}
	var shadows []design.Shadow
	seen := false
	for _, l := range layers {
		switch {
		case l.kind == picture && !seen && l.dx == 0 && l.dy == 0:
			seen = true
			if l.sigma > 0 {
				e.Blur = design.Derive(l.sigma*scale, filterName(f))
			}
		case l.kind == silhouette && l.inner == seen && !l.wide:
			if l.color.Alpha == 0 {
				continue
			}
			shadows = append(shadows, design.Shadow{X: round6(l.dx * scale), Y: round6(l.dy * scale),
				Blur:   round6(2 * l.sigma * scale),
				Spread: round6(l.spread * scale), Color: l.color, Inset: l.inner})
		default:
			e.Blur = design.Fact[float64]{}
			return
		}
	}
	if !seen && len(shadows) > 0 { // nothing but the shadow of what another element paints
		b.cast(e, shadows)
		return
	}
	if !seen || e.Blur.Set && len(shadows) > 0 {
		e.Blur = design.Fact[float64]{}
		return
	}
	for i := len(shadows) - 1; i >= 0; i-- { // CSS lists the topmost first
		e.Shadows = append(e.Shadows, design.Derive(shadows[i], filterName(f)))
	}
}

// cast remembers an element that paints only a shadow: some programs write it as a copy of the shape below it.
func (b *builder) cast(e *design.Element, shadows []design.Shadow) {
	if b.casts == nil {
		b.casts = map[*design.Element][]design.Shadow{}
	}
	b.casts[e], e.Casts = shadows, true
}

// takeShadows gives the shadows of copies to the shapes they lie under: the next element, of the same box.
func (b *builder) takeShadows(parent *design.Element) {
	takeCopies(parent)
	if len(b.casts) == 0 {
		return
	}
	for i, c := range parent.Children[:max(0, len(parent.Children)-1)] {
		shadows, ok := b.casts[c]
		if !ok {
			continue
		}
		next := parent.Children[i+1]
		x, y := c.Geometry.Value, next.Geometry.Value
		if next.Hidden || len(next.Shadows) > 0 || !x.Contains(y, 0.01) || !y.Contains(x, 0.01) {
			continue
		}
		for k := len(shadows) - 1; k >= 0; k-- {
			next.Shadows = append(next.Shadows, design.Derive(shadows[k], filterName(c.Paint.Filter)+" of the copy below it"))
		}
	}
}

// takeCopies takes a blurred copy of a box for the shadow of the opaque one that is painted right over it.
func takeCopies(parent *design.Element) {
	for i, c := range parent.Children[:max(0, len(parent.Children)-1)] {
		next := parent.Children[i+1]
		if s, ok := castBy(c, next); ok {
			c.Casts = true
			next.Shadows = append(next.Shadows, design.Derive(s, "the blurred copy below it"))
		}
	}
}

// farthest is how far a copy may lie from what casts it, in px.
const farthest = 64

// castBy is the shadow that a copy is of a box; ok is false for anything else.
func castBy(c, box *design.Element) (s design.Shadow, ok bool) {
	if c.Kind != design.Box || box.Kind != design.Box || c.Hidden || box.Hidden || !c.Blur.Set || c.Casts ||
		len(c.Fills) != 1 || len(c.Strokes) > 0 || len(box.Shadows) > 0 || c.Fills[0].Value.Kind != design.Solid ||
		!opaque(box) || !c.Matrix.Upright() || !box.Matrix.Upright() || c.Oval() != box.Oval() {
		return s, false
	}
	x, y := c.Geometry.Value, box.Geometry.Value
	spread := (x.W - y.W) / 2
	at, of := x.Centre(), y.Centre()
	s = design.Shadow{X: round6(at.X - of.X), Y: round6(at.Y - of.Y), Blur: round6(2 * c.Blur.Value), Spread: round6(spread),
		Color: c.Fills[0].Value.Color}
	if c.Opacity.Set {
		s.Color = s.Color.WithAlpha(c.Opacity.Value)
	}
	return s, math.Abs((x.H-y.H)/2-spread) < 0.01 && math.Abs(s.X) <= farthest && math.Abs(s.Y) <= farthest
}

// opaque reports whether nothing is seen through a shape.
func opaque(e *design.Element) bool {
	if len(e.Fills) == 0 || e.Opacity.Set && e.Opacity.Value < 1 || e.Blend.Set {
		return false
	}
	f := e.Fills[len(e.Fills)-1].Value
	return f.Kind == design.Solid && f.Color.Alpha >= 1 || f.Gradient != nil && f.Opacity >= 1
}

func round6(v float64) float64 { return math.Round(v*1e6) / 1e6 }

type layerKind uint8

const (
	picture    layerKind = iota // SourceGraphic
	silhouette                  // its alpha, in one colour
	flood                       // a colour everywhere
)

type layer struct {
	kind                  layerKind
	dx, dy, sigma, spread float64
	color                 color.Color
	inner                 bool // what is left of the whole when the moved silhouette is taken out
	wide                  bool // an inner one of a flood that reaches beyond the shape, so far
}

// followFilter gives the final pile, lowest first; ok is false where a step is beyond shadows.
func followFilter(f *design.Filter) (last []layer, ok bool) {
	graphic := []layer{{kind: picture}}
	alpha := []layer{{kind: silhouette, color: color.Black}}
	results := map[string][]layer{"SourceGraphic": graphic, "SourceAlpha": alpha}
	last = graphic
	for _, p := range f.Primitives {
		if p.Region != nil || p.Unsupported {
			return nil, false
		}
		in := func(name string) []layer {
			if name == "" {
				return last
			}
			if l, ok := results[name]; ok {
				return l
			}
			return last
		}
		if last, ok = followStep(p, in); !ok {
			return nil, false
		}
		if p.Result != "" {
			results[p.Result] = last
		}
	}
	return last, true
}

func followStep(p design.Primitive, in func(string) []layer) ([]layer, bool) {
	each := func(change func(*layer) bool) ([]layer, bool) {
		out := append([]layer(nil), in(p.In)...)
		for i := range out {
			if !change(&out[i]) {
				return nil, false
			}
		}
		return out, true
	}
	switch p.Kind {
	case "feFlood":
		return []layer{{kind: flood, color: p.Color}}, true
	case "feOffset":
		return each(func(l *layer) bool {
			l.dx, l.dy = l.dx+p.DX, l.dy+p.DY
			return !l.inner || l.wide
		})
	case "feGaussianBlur":
		if p.SX != p.SY {
			return nil, false
		}
		return each(func(l *layer) bool {
			l.sigma = math.Hypot(l.sigma, p.SX)
			return l.kind != flood && (!l.inner || l.wide)
		})
	case "feMorphology":
		r := p.SX
		if p.Mode == "erode" {
			r = -r
		}
		return each(func(l *layer) bool {
			l.spread += r
			return l.kind == silhouette && p.SX == p.SY && l.sigma == 0 && !l.inner
		})
	case "feDropShadow":
		if p.SX != p.SY || len(in(p.In)) != 1 || in(p.In)[0] != (layer{kind: picture}) {
			return nil, false
		}
		return []layer{{kind: silhouette, dx: p.DX, dy: p.DY, sigma: p.SX, color: p.Color}, {kind: picture}}, true
	case "feColorMatrix":
		return each(func(l *layer) bool { return recolour(l, p.Matrix) })
	case "feComponentTransfer":
		t := p.Transfer
		if t[0].Type != "identity" || t[1].Type != "identity" || t[2].Type != "identity" || t[3].Type != "linear" ||
			t[3].Intercept != 0 {
			return nil, false
		}
		return each(func(l *layer) bool {
			l.color.Alpha = math.Min(1, l.color.Alpha*t[3].Slope)
			return l.kind == silhouette
		})
	case "feMerge":
		var out []layer
		for _, name := range p.Inputs {
			out = append(out, in(name)...)
		}
		return visible(out), true
	case "feBlend":
		return visible(append(append([]layer(nil), in(p.In2)...), in(p.In)...)), p.Mode == "normal"
	case "feComposite":
		return composite(p, in(p.In), in(p.In2))
	}
	return nil, false
}

// visible drops clear floods, which some chains begin with.
func visible(in []layer) []layer {
	var out []layer
	for _, l := range in {
		if l.kind != flood || l.color.Alpha > 0 {
			out = append(out, l)
		}
	}
	return out
}

// recolour follows a colour matrix that paints a silhouette in one colour.
func recolour(l *layer, m [20]float64) bool {
	if m == identityMatrix {
		return true
	}
	for row := 0; row < 3; row++ { // colours must not depend on the picture
		if m[row*5] != 0 || m[row*5+1] != 0 || m[row*5+2] != 0 || m[row*5+3] != 0 {
			return false
		}
	}
	if m[15] != 0 || m[16] != 0 || m[17] != 0 || m[19] != 0 || l.kind == flood {
		return false
	}
	a := m[18]
	if l.kind == picture {
		l.kind, l.color.Alpha = silhouette, 1
	}
	hard := a > 16 // makes any trace of alpha solid: the silhouette itself
	if hard {
		a = 1
		if l.sigma != 0 {
			return false
		}
	}
	alpha := math.Min(1, l.color.Alpha*a)
	l.color = color.Color{Space: color.SRGB, C: [3]float64{byteShare(m[4]), byteShare(m[9]), byteShare(m[14])},
		Alpha: alpha}
	return true
}

// byteShare is a component as the 8-bit value it was before a drawing program wrote it with a few decimals.
func byteShare(v float64) float64 {
	if r := math.Round(v * 255); math.Abs(v*255-r) < 0.01 {
		return r / 255
	}
	return v
}

func composite(p design.Primitive, a, b []layer) ([]layer, bool) {
	switch p.Mode {
	case "over":
		return visible(append(append([]layer(nil), b...), a...)), true
	}
	if len(a) != 1 || len(b) != 1 {
		return nil, false
	}
	x, y := a[0], b[0]
	plain := func(l layer) bool {
		return l.kind == silhouette && l.dx == 0 && l.dy == 0 && l.sigma == 0 && l.spread == 0 || l == layer{kind: picture}
	}
	switch p.Mode {
	case "in":
		if x.kind == flood && (y.kind == silhouette || plain(y)) { // the colour in the shape
			if y.kind == picture {
				y.kind, y.color.Alpha = silhouette, 1
			}
			x.color.Alpha *= y.color.Alpha
			y.color = x.color
			return []layer{y}, true
		}
		if x.kind == silhouette && x.inner && plain(y) { // an inner shadow kept inside
			x.wide = false
			return []layer{x}, true
		}
	case "out":
		if x.kind == silhouette && plain(y) { // not under the shape: the same for a shadow behind it
			return a, true
		}
		if (x.kind == flood || plain(x)) && y.kind == silhouette && !y.inner { // all but the moved shape
			y.inner, y.spread = true, -y.spread
			if x.kind == flood {
				y.color, y.wide = x.color, true
			}
			return []layer{y}, true
		}
	case "arithmetic":
		if p.K == [4]float64{0, -1, 1, 0} && x.kind == silhouette && plain(y) {
			x.inner, x.spread = true, -x.spread
			return []layer{x}, true
		}
	}
	return nil, false
}

func filterName(f *design.Filter) string {
	if f.ID == "" {
		return "filter functions"
	}
	return "filter #" + f.ID
}
