package svg

import (
	"fmt"
	"strings"

	"archetyp/core/design"
)

// filter writes a filter chain as a definition.
func (w *writer) filter(f *design.Filter) string {
	r := f.Region
	s := fmt.Sprintf(`<filter id="%%s" filterUnits="userSpaceOnUse" x="%s" y="%s" width="%s" height="%s">`, num(r.X), num(r.Y), num(r.W), num(r.H))
	for i := range f.Primitives {
		s += w.primitive(&f.Primitives[i])
	}
	return w.define(s + "</filter>")
}

func (w *writer) primitive(p *design.Primitive) string {
	a := &attrs{}
	if p.Region != nil {
		a.set("x", num(p.Region.X))
		a.set("y", num(p.Region.Y))
		a.set("width", num(p.Region.W))
		a.set("height", num(p.Region.H))
	}
	if !p.Linear {
		a.set("color-interpolation-filters", "sRGB")
	}
	if p.In != "" {
		a.set("in", p.In)
	}
	if p.In2 != "" {
		a.set("in2", p.In2)
	}
	inner := ""
	flood := func() {
		a.set("flood-color", opaque(p.Color))
		if p.Color.Alpha < 1 {
			a.set("flood-opacity", num(p.Color.Alpha))
		}
	}
	switch p.Kind {
	case "feGaussianBlur":
		a.set("stdDeviation", numbers(p.SX, p.SY))
	case "feDropShadow":
		a.set("dx", num(p.DX))
		a.set("dy", num(p.DY))
		a.set("stdDeviation", numbers(p.SX, p.SY))
		flood()
	case "feOffset":
		a.set("dx", num(p.DX))
		a.set("dy", num(p.DY))
	case "feFlood":
		flood()
	case "feMorphology":
		a.set("operator", p.Mode)
		a.set("radius", numbers(p.SX, p.SY))
	case "feBlend":
		a.set("mode", p.Mode)
	case "feComposite":
		a.set("operator", p.Mode)
		if p.Mode == "arithmetic" {
			for i, k := range p.K {
				a.set(fmt.Sprintf("k%d", i+1), numbers(k))
			}
		}
	case "feColorMatrix":
		a.set("values", numbers(p.Matrix[:]...))
	case "feMerge":
		for _, in := range p.Inputs {
			m := &attrs{}
			if in != "" {
				m.set("in", in)
			}
			inner += "<feMergeNode" + m.b.String() + "/>"
		}
	case "feComponentTransfer":
		for i, t := range p.Transfer {
			inner += transferElement("RGBA"[i:i+1], t)
		}
	default: // not painted either: it passes its input through
		a.b.Reset()
		if p.In != "" {
			a.set("in", p.In)
		}
		p = &design.Primitive{Kind: "feOffset", Result: p.Result}
	}
	if p.Result != "" {
		a.set("result", p.Result)
	}
	if inner == "" {
		return "<" + p.Kind + a.b.String() + "/>"
	}
	return "<" + p.Kind + a.b.String() + ">" + inner + "</" + p.Kind + ">"
}

func transferElement(channel string, t design.TransferFunc) string {
	a := &attrs{}
	a.set("type", t.Type)
	switch t.Type {
	case "identity":
		return ""
	case "linear":
		a.set("slope", numbers(t.Slope))
		a.set("intercept", numbers(t.Intercept))
	case "gamma":
		a.set("amplitude", numbers(t.Amplitude))
		a.set("exponent", numbers(t.Exp))
		a.set("offset", numbers(t.Of))
	default:
		a.set("tableValues", strings.TrimSpace(numbers(t.Table...)))
	}
	return "<feFunc" + channel + a.b.String() + "/>"
}
