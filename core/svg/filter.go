package svg

import (
	"math"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

// filter reads the filter property: a reference, or CSS filter functions.
func (b *builder) filter(n *markup.Node, value string, c context, box geom.Rect) *design.Filter {
	if id, rest, ok := css.URLFragment(value); ok && rest == "" {
		f := b.ids[id]
		if f == nil || !f.Is("filter") {
			b.warn(n, "filter points to #"+clip(id)+", which is no filter in the file; left out")
			return nil
		}
		return b.filterElement(f, c, box)
	}
	list, err := css.ParseFunctions(value)
	if err != nil {
		b.warn(n, "filter: "+err.Error())
		return nil
	}
	f := &design.Filter{Region: geom.Rect{X: -1e6, Y: -1e6, W: 2e6, H: 2e6}}
	for _, fn := range list {
		p, ok := b.filterFunction(fn, c.style)
		if !ok {
			b.warn(n, "the filter "+fn.Name+"() is not painted")
			continue
		}
		f.Primitives = append(f.Primitives, p)
	}
	if len(f.Primitives) == 0 {
		return nil
	}
	return f
}

func (b *builder) filterFunction(fn css.Function, st *style) (design.Primitive, bool) {
	p := design.Primitive{}
	switch fn.Name {
	case "blur":
		p.Kind = "feGaussianBlur"
		if l, err := css.ParseLength(fn.Args); err == nil {
			p.SX = l.Px(st.units(0))
		}
		p.SY = p.SX
		return p, true
	case "drop-shadow":
		p.Kind, p.Color = "feDropShadow", color.Black
		if v, err := st.color("currentcolor"); err == nil {
			p.Color = v
		}
		var lens []float64
		for _, w := range css.SplitTop(fn.Args, ' ') {
			if l, err := css.ParseLength(w); err == nil {
				lens = append(lens, l.Px(st.units(0)))
			} else if col, err := st.color(w); err == nil {
				p.Color = col
			}
		}
		if len(lens) < 2 {
			return p, false
		}
		p.DX, p.DY = lens[0], lens[1]
		if len(lens) > 2 {
			p.SX = lens[2] / 2
			p.SY = p.SX
		}
		return p, true
	case "opacity":
		p.Kind = "feColorMatrix"
		l, err := css.ParseLength(fn.Args)
		if err != nil {
			return p, false
		}
		p.Matrix = [20]float64{0: 1, 6: 1, 12: 1, 18: math.Min(1, l.Px(css.Units{Percent: 1}))}
		return p, true
	case "grayscale", "saturate":
		l, err := css.ParseLength(fn.Args)
		v := 1.0
		if err == nil {
			v = l.Px(css.Units{Percent: 1})
		}
		if fn.Name == "grayscale" {
			v = 1 - math.Min(1, v)
		}
		p.Kind, p.Matrix = "feColorMatrix", saturate(v)
		return p, true
	}
	return p, false
}

func (b *builder) filterElement(n *markup.Node, c context, box geom.Rect) *design.Filter {
	f := &design.Filter{ID: n.ID(), Region: b.region(n, c, box, n.AttrOr("filterUnits", "objectBoundingBox"))}
	boxUnits := n.AttrOr("primitiveUnits", "") == "objectBoundingBox"
	sx, sy := 1.0, 1.0
	if boxUnits {
		sx, sy = box.W, box.H
	}
	for _, k := range n.Elements() {
		if k.Space != markup.SVG || !strings.HasPrefix(k.Local, "fe") {
			continue
		}
		st := b.nodeStyle(k)
		p := design.Primitive{Kind: k.Local, In: k.AttrOr("in", ""), In2: k.AttrOr("in2", ""), Result: k.AttrOr("result", ""),
			Linear: st.str("color-interpolation-filters", "linearrgb") != "srgb"}
		p.Region = b.primitiveRegion(k, f.Region, box, boxUnits)
		b.primitive(k, &p, st, sx, sy)
		f.Primitives = append(f.Primitives, p)
	}
	return f
}

func (b *builder) primitiveRegion(k *markup.Node, whole, box geom.Rect, boxUnits bool) *geom.Rect {
	r, any := whole, false
	read := func(name string, to *float64, base, size float64) {
		l, err := css.ParseLength(k.AttrOr(name, ""))
		if err != nil {
			return
		}
		any = true
		if boxUnits {
			*to = base + l.Px(css.Units{Percent: 1})*size
			return
		}
		*to = l.Px(css.Units{Percent: size})
	}
	read("x", &r.X, box.X, box.W)
	read("y", &r.Y, box.Y, box.H)
	read("width", &r.W, 0, box.W)
	read("height", &r.H, 0, box.H)
	if !any {
		return nil
	}
	r = r.Intersect(whole)
	return &r
}

// primitive reads the attributes of one filter primitive.
func (b *builder) primitive(k *markup.Node, p *design.Primitive, st *style, sx, sy float64) {
	one := func(name string, or float64) float64 {
		v, err := parseNumbers(k.AttrOr(name, ""))
		if err != nil || len(v) == 0 {
			return or
		}
		return v[0]
	}
	two := func(name string) (float64, float64) {
		v, err := parseNumbers(k.AttrOr(name, "0"))
		if err != nil || len(v) == 0 {
			return 0, 0
		}
		if len(v) == 1 {
			return v[0], v[0]
		}
		return v[0], v[1]
	}
	flood := func() {
		p.Color = color.Black
		if v, _, ok := st.Get("flood-color"); ok {
			if col, err := st.color(v); err == nil {
				p.Color = col
			}
		}
		p.Color.Alpha *= st.share("flood-opacity", 1)
	}
	switch k.Local {
	case "feGaussianBlur":
		p.SX, p.SY = two("stdDeviation")
		p.SX, p.SY = math.Max(0, p.SX*sx), math.Max(0, p.SY*sy)
	case "feDropShadow":
		p.SX, p.SY = 2, 2
		if _, ok := k.Attr("stdDeviation"); ok {
			p.SX, p.SY = two("stdDeviation")
		}
		p.SX, p.SY = p.SX*sx, p.SY*sy
		p.DX, p.DY = one("dx", 2)*sx, one("dy", 2)*sy
		flood()
	case "feOffset":
		p.DX, p.DY = one("dx", 0)*sx, one("dy", 0)*sy
	case "feFlood":
		flood()
	case "feMorphology":
		p.SX, p.SY = two("radius")
		p.SX, p.SY = p.SX*sx, p.SY*sy
		p.Mode = k.AttrOr("operator", "erode")
	case "feBlend":
		p.Mode = k.AttrOr("mode", "normal")
	case "feComposite":
		p.Mode = k.AttrOr("operator", "over")
		p.K = [4]float64{one("k1", 0), one("k2", 0), one("k3", 0), one("k4", 0)}
	case "feMerge":
		for _, m := range k.Elements() {
			if m.Is("feMergeNode") {
				p.Inputs = append(p.Inputs, m.AttrOr("in", ""))
			}
		}
	case "feColorMatrix":
		p.Matrix = b.colorMatrix(k)
	case "feComponentTransfer":
		for i := range p.Transfer {
			p.Transfer[i] = design.TransferFunc{Type: "identity"}
		}
		for _, f := range k.Elements() {
			i := strings.Index("RGBA", strings.TrimPrefix(f.Local, "feFunc"))
			if i < 0 || len(f.Local) != 7 {
				continue
			}
			num := func(name string, or float64) float64 {
				if v, err := parseNumbers(f.AttrOr(name, "")); err == nil && len(v) > 0 {
					return v[0]
				}
				return or
			}
			t := design.TransferFunc{Type: f.AttrOr("type", "identity"), Slope: num("slope", 1), Intercept: num("intercept", 0),
				Amplitude: num("amplitude", 1), Exp: num("exponent", 1), Of: num("offset", 0)}
			t.Table, _ = parseNumbers(f.AttrOr("tableValues", ""))
			p.Transfer[i] = t
		}
	default:
		p.Unsupported = true
		b.warn(k, "<"+k.Local+"> is not painted yet; its input passes through")
	}
}

func saturate(s float64) [20]float64 {
	return [20]float64{
		0.213 + 0.787*s, 0.715 - 0.715*s, 0.072 - 0.072*s, 0, 0,
		0.213 - 0.213*s, 0.715 + 0.285*s, 0.072 - 0.072*s, 0, 0,
		0.213 - 0.213*s, 0.715 - 0.715*s, 0.072 + 0.928*s, 0, 0,
		0, 0, 0, 1, 0}
}

var identityMatrix = [20]float64{0: 1, 6: 1, 12: 1, 18: 1}

func (b *builder) colorMatrix(k *markup.Node) [20]float64 {
	v, err := parseNumbers(k.AttrOr("values", ""))
	if err != nil {
		b.warn(k, "values: "+err.Error())
		return identityMatrix
	}
	switch k.AttrOr("type", "matrix") {
	case "saturate":
		if len(v) == 1 {
			return saturate(v[0])
		}
	case "hueRotate":
		if len(v) == 1 {
			s, c := math.Sincos(v[0] * math.Pi / 180)
			return [20]float64{
				0.213 + c*0.787 - s*0.213, 0.715 - c*0.715 - s*0.715, 0.072 - c*0.072 + s*0.928, 0, 0,
				0.213 - c*0.213 + s*0.143, 0.715 + c*0.285 + s*0.140, 0.072 - c*0.072 - s*0.283, 0, 0,
				0.213 - c*0.213 - s*0.787, 0.715 - c*0.715 + s*0.715, 0.072 + c*0.928 + s*0.072, 0, 0,
				0, 0, 0, 1, 0}
		}
	case "luminanceToAlpha":
		return [20]float64{15: 0.2125, 16: 0.7154, 17: 0.0721}
	default:
		if len(v) == 20 {
			return [20]float64(v)
		}
	}
	return identityMatrix
}
