package svg

import (
	"fmt"
	"strconv"
	"strings"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// filter writes a filter chain as a definition.
func (w *writer) filter(f *design.Filter) string {
	t := &tag{name: "filter"}
	r := f.Region
	t.set("x", w.num(r.X))
	t.set("y", w.num(r.Y))
	t.set("width", w.num(r.W))
	t.set("height", w.num(r.H))
	t.set("filterUnits", "userSpaceOnUse")
	alike := len(f.Primitives) > 0
	for _, p := range f.Primitives {
		alike = alike && !p.Linear
	}
	if alike { // said once
		t.set("color-interpolation-filters", "sRGB")
	}
	for i := range f.Primitives {
		k := w.primitive(&f.Primitives[i])
		if !alike && !f.Primitives[i].Linear {
			k.set("color-interpolation-filters", "sRGB")
		}
		t.add(k)
	}
	return w.define(t)
}

func (w *writer) primitive(p *design.Primitive) *tag {
	t := &tag{name: p.Kind}
	if p.Region != nil {
		t.set("x", w.num(p.Region.X))
		t.set("y", w.num(p.Region.Y))
		t.set("width", w.num(p.Region.W))
		t.set("height", w.num(p.Region.H))
	}
	if p.In != "" {
		t.set("in", p.In)
	}
	if p.In2 != "" {
		t.set("in2", p.In2)
	}
	if !w.step(t, p) { // passes its input through
		*t = tag{name: "feOffset"}
		if p.In != "" {
			t.set("in", p.In)
		}
	}
	if p.Result != "" {
		t.set("result", p.Result)
	}
	return t
}

// step writes what a kind of filter step has of its own; false for a kind that is not known.
func (w *writer) step(t *tag, p *design.Primitive) bool {
	switch p.Kind {
	case "feGaussianBlur":
		t.set("stdDeviation", pair(p.SX, p.SY))
	case "feDropShadow":
		t.set("dx", w.num(p.DX))
		t.set("dy", w.num(p.DY))
		t.set("stdDeviation", pair(p.SX, p.SY))
		w.flood(t, p)
	case "feOffset":
		t.set("dx", w.num(p.DX))
		t.set("dy", w.num(p.DY))
	case "feFlood":
		w.flood(t, p)
	case "feMorphology":
		t.set("operator", p.Mode)
		t.set("radius", pair(p.SX, p.SY))
	case "feBlend":
		t.set("mode", p.Mode)
	case "feComposite":
		t.set("operator", p.Mode)
		if p.Mode == "arithmetic" {
			for i, k := range p.K {
				t.set(fmt.Sprintf("k%d", i+1), numbers(k))
			}
		}
	case "feColorMatrix":
		t.set("values", numbers(p.Matrix[:]...))
	case "feMerge":
		for _, in := range p.Inputs {
			k := t.add(&tag{name: "feMergeNode"})
			if in != "" {
				k.set("in", in)
			}
		}
	case "feComponentTransfer":
		for i, f := range p.Transfer {
			if f.Type != "identity" {
				t.add(transferElement("RGBA"[i:i+1], f))
			}
		}
	case "feTurbulence":
		turbulence(t, p.Noise)
	case "feDisplacementMap":
		t.set("scale", numbers(p.DX))
		t.set("xChannelSelector", "RGBA"[p.Channels[0]:p.Channels[0]+1])
		t.set("yChannelSelector", "RGBA"[p.Channels[1]:p.Channels[1]+1])
	case "feTile":
	case "feImage":
		if p.Image != nil {
			g := &tag{name: "g"}
			w.node(g, p.Image, geom.Identity)
			t.set("href", "#"+w.define(g))
		}
	case "feDiffuseLighting", "feSpecularLighting":
		w.light(t, p.Light)
	case "feConvolveMatrix":
		if p.Kernel == nil {
			return false
		}
		kernel(t, p.Kernel)
	default:
		return false
	}
	return true
}

func (w *writer) flood(t *tag, p *design.Primitive) {
	t.set("flood-color", w.opaque(p.Color))
	if p.Color.Alpha < 1 {
		t.set("flood-opacity", ratio(p.Color.Alpha))
	}
}

func turbulence(t *tag, n *design.Noise) {
	t.set("baseFrequency", pair(n.FX, n.FY))
	t.set("numOctaves", numbers(float64(n.Octaves)))
	t.set("seed", numbers(n.Seed))
	if n.Stitch {
		t.set("stitchTiles", "stitch")
	}
	if n.Fractal {
		t.set("type", "fractalNoise")
	}
}

func kernel(t *tag, k *design.Kernel) {
	t.set("order", pair(float64(k.W), float64(k.H)))
	t.set("kernelMatrix", numbers(k.Values...))
	t.set("divisor", numbers(k.Divisor))
	t.set("bias", numbers(k.Bias))
	t.set("targetX", numbers(float64(k.X)))
	t.set("targetY", numbers(float64(k.Y)))
	t.set("edgeMode", k.Edge)
	t.set("preserveAlpha", strconv.FormatBool(k.KeepAlpha))
}

// light writes a light and its source.
func (w *writer) light(t *tag, l *design.Light) {
	t.set("surfaceScale", numbers(l.Surface))
	t.set("lighting-color", w.opaque(l.Color))
	if l.Specular {
		t.set("specularConstant", numbers(l.Constant))
		t.set("specularExponent", numbers(l.Exponent))
	} else {
		t.set("diffuseConstant", numbers(l.Constant))
	}
	place := func(s *tag) {
		s.set("x", numbers(l.At[0]))
		s.set("y", numbers(l.At[1]))
		s.set("z", numbers(l.At[2]))
	}
	switch l.Source {
	case "distant":
		s := t.add(&tag{name: "feDistantLight"})
		s.set("azimuth", numbers(l.Azimuth))
		s.set("elevation", numbers(l.Elevation))
	case "point":
		place(t.add(&tag{name: "fePointLight"}))
	case "spot":
		s := t.add(&tag{name: "feSpotLight"})
		place(s)
		s.set("pointsAtX", numbers(l.To[0]))
		s.set("pointsAtY", numbers(l.To[1]))
		s.set("pointsAtZ", numbers(l.To[2]))
		s.set("specularExponent", numbers(l.Focus))
		if l.Cone != 0 {
			s.set("limitingConeAngle", numbers(l.Cone))
		}
	}
}

// pair is two numbers, or one for both.
func pair(x, y float64) string {
	if x == y {
		return numbers(x)
	}
	return numbers(x, y)
}

func transferElement(channel string, f design.TransferFunc) *tag {
	t := &tag{name: "feFunc" + channel}
	t.set("type", f.Type)
	switch f.Type {
	case "linear":
		t.set("slope", numbers(f.Slope))
		t.set("intercept", numbers(f.Intercept))
	case "gamma":
		t.set("amplitude", numbers(f.Amplitude))
		t.set("exponent", numbers(f.Exp))
		t.set("offset", numbers(f.Of))
	default:
		t.set("tableValues", strings.TrimSpace(numbers(f.Table...)))
	}
	return t
}
