package svg

import (
	"errors"
	"fmt"
	"math"
	"strings"

	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/geom/pathdata"
	"archetyp/core/markup"
)

func (b *builder) filterElement(n *markup.Node, c context, box geom.Rect) *design.Filter {
	f := &design.Filter{ID: n.ID(), Region: b.region(n, c, box, n.AttrOr("filterUnits", "objectBoundingBox"))}
	boxUnits := n.AttrOr("primitiveUnits", "") == "objectBoundingBox"
	sx, sy := 1.0, 1.0
	if boxUnits {
		sx, sy = box.W, box.H
	}
	regions := subregions{whole: f.Region, of: map[string]geom.Rect{}, last: f.Region}
	for _, k := range n.Elements() {
		if k.Space != markup.SVG || !strings.HasPrefix(k.Local, "fe") {
			continue
		}
		st := b.nodeStyle(k)
		p := design.Primitive{Kind: k.Local, In: k.AttrOr("in", ""), In2: k.AttrOr("in2", ""), Result: k.AttrOr("result", ""),
			Linear: st.str("color-interpolation-filters", "linearrgb") != "srgb"}
		b.primitive(k, &p, st, sx, sy)
		region := primitiveRegion(k, regions.byInputs(&p), box, boxUnits)
		if region != f.Region {
			p.Region = &region
		}
		regions.note(&p, region)
		if k.Local == "feImage" {
			b.filterImage(k, &p, c, f.Region)
		}
		f.Primitives = append(f.Primitives, p)
	}
	return f
}

// primitive reads the attributes of one filter primitive.
func (b *builder) primitive(k *markup.Node, p *design.Primitive, st *style, sx, sy float64) {
	one := func(name string, or float64) float64 { return numberAttr(k, name, or) }
	two := func(name string) (float64, float64) { return twoNumbers(k, name) }
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
		p.Color = floodColor(st)
	case "feOffset":
		p.DX, p.DY = one("dx", 0)*sx, one("dy", 0)*sy
	case "feFlood":
		p.Color = floodColor(st)
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
		transfer(k, p)
	case "feTurbulence":
		p.Noise = noise(k)
	case "feDisplacementMap":
		p.DX = one("scale", 0) * math.Sqrt((sx*sx+sy*sy)/2)
		for i, name := range []string{"xChannelSelector", "yChannelSelector"} {
			p.Channels[i] = max(0, strings.Index("RGBA", k.AttrOr(name, "A")))
		}
	case "feConvolveMatrix":
		b.kernel(k, p, one, two)
	case "feDiffuseLighting", "feSpecularLighting":
		b.light(k, p, st, one, sx, sy)
	case "feTile", "feImage":
	default:
		p.Unsupported = true
		b.warn(k, "<"+k.Local+"> is not known as a filter step; its input passes through")
	}
}

// numberAttr is the first number of an attribute, or another.
func numberAttr(k *markup.Node, name string, or float64) float64 {
	v, err := pathdata.Numbers(k.AttrOr(name, ""))
	if err != nil || len(v) == 0 {
		return or
	}
	return v[0]
}

// twoNumbers are the numbers of an attribute that may say one for both.
func twoNumbers(k *markup.Node, name string) (float64, float64) {
	v, err := pathdata.Numbers(k.AttrOr(name, "0"))
	if err != nil || len(v) == 0 {
		return 0, 0
	}
	if len(v) == 1 {
		return v[0], v[0]
	}
	return v[0], v[1]
}

func floodColor(st *style) color.Color {
	out := color.Black
	if v, _, ok := st.Get("flood-color"); ok {
		if col, err := st.color(v); err == nil {
			out = col
		}
	}
	out.Alpha *= st.share("flood-opacity", 1)
	return out
}

// transfer reads the functions of the channels.
func transfer(k *markup.Node, p *design.Primitive) {
	for i := range p.Transfer {
		p.Transfer[i] = design.TransferFunc{Type: "identity"}
	}
	for _, f := range k.Elements() {
		i := strings.Index("RGBA", strings.TrimPrefix(f.Local, "feFunc"))
		if i < 0 || len(f.Local) != 7 {
			continue
		}
		t := design.TransferFunc{Type: f.AttrOr("type", "identity"), Slope: numberAttr(f, "slope", 1),
			Intercept: numberAttr(f, "intercept", 0), Amplitude: numberAttr(f, "amplitude", 1),
			Exp: numberAttr(f, "exponent", 1), Of: numberAttr(f, "offset", 0)}
		t.Table, _ = pathdata.Numbers(f.AttrOr("tableValues", ""))
		p.Transfer[i] = t
	}
}

func noise(k *markup.Node) *design.Noise {
	n := &design.Noise{Octaves: int(numberAttr(k, "numOctaves", 1)), Seed: numberAttr(k, "seed", 0),
		Stitch: k.AttrOr("stitchTiles", "") == "stitch", Fractal: k.AttrOr("type", "turbulence") == "fractalNoise"}
	n.FX, n.FY = twoNumbers(k, "baseFrequency")
	n.FX, n.FY, n.Octaves = math.Max(0, n.FX), math.Max(0, n.FY), min(max(n.Octaves, 0), 16)
	return n
}

const mostKernel = 64 // rows and columns

// kernel reads the numbers of a feConvolveMatrix. One that makes no sense leaves the picture as it is.
func (b *builder) kernel(k *markup.Node, p *design.Primitive, one func(string, float64) float64,
	two func(string) (float64, float64)) {
	w, h := 3.0, 3.0
	if _, ok := k.Attr("order"); ok {
		w, h = two("order")
	}
	values, err := pathdata.Numbers(k.AttrOr("kernelMatrix", ""))
	if err != nil || w < 1 || h < 1 || w > mostKernel || h > mostKernel || len(values) != int(w)*int(h) {
		p.Unsupported = true
		b.warn(k, "<feConvolveMatrix>: kernelMatrix must have order × order numbers; its input passes through")
		return
	}
	n := &design.Kernel{W: int(w), H: int(h), Values: values, Bias: one("bias", 0),
		Edge: k.AttrOr("edgeMode", "duplicate"), KeepAlpha: k.AttrOr("preserveAlpha", "") == "true"}
	for _, v := range values {
		n.Divisor += v
	}
	if n.Divisor = one("divisor", n.Divisor); n.Divisor == 0 {
		n.Divisor = 1
	}
	n.X, n.Y = int(one("targetX", math.Floor(w/2))), int(one("targetY", math.Floor(h/2)))
	if n.X < 0 || n.Y < 0 || n.X >= n.W || n.Y >= n.H {
		p.Unsupported = true
		b.warn(k, "<feConvolveMatrix>: the target lies outside the kernel; its input passes through")
		return
	}
	p.Kernel = n
}

// light reads a light and the surface it falls on. https://www.w3.org/TR/filter-effects-1/#LightSourceDefinitions
func (b *builder) light(k *markup.Node, p *design.Primitive, st *style, one func(string, float64) float64, sx,
	sy float64) {
	l := &design.Light{Specular: k.Local == "feSpecularLighting", Surface: one("surfaceScale", 1),
		Exponent: math.Max(1, math.Min(128, one("specularExponent", 1))), Color: color.White}
	l.Constant = math.Max(0, one("diffuseConstant", 1))
	if l.Specular {
		l.Constant = math.Max(0, one("specularConstant", 1))
	}
	if v, _, ok := st.Get("lighting-color"); ok {
		if col, err := st.color(v); err == nil {
			l.Color = col
		}
	}
	for _, s := range k.Elements() {
		num := func(name string, or float64) float64 {
			if v, err := pathdata.Numbers(s.AttrOr(name, "")); err == nil && len(v) > 0 {
				return v[0]
			}
			return or
		}
		z := math.Sqrt((sx*sx + sy*sy) / 2)
		l.At, l.To = [3]float64{num("x", 0) * sx, num("y", 0) * sy, num("z", 0) * z}, [3]float64{num("pointsAtX", 0) * sx,
			num("pointsAtY", 0) * sy, num("pointsAtZ", 0) * z}
		switch s.Local {
		case "feDistantLight":
			l.Source, l.Azimuth, l.Elevation = "distant", num("azimuth", 0), num("elevation", 0)
		case "fePointLight":
			l.Source = "point"
		case "feSpotLight":
			l.Source, l.Focus, l.Cone = "spot", math.Max(1,
				math.Min(128, num("specularExponent", 1))), math.Abs(num("limitingConeAngle", 0))
		default:
			continue
		}
		break
	}
	p.Light = l
}

// filterImage reads what a feImage shows: an element of the drawing where it stands, or a picture in the region.
func (b *builder) filterImage(k *markup.Node, p *design.Primitive, c context, whole geom.Rect) {
	href := k.Href()
	region := whole
	if p.Region != nil {
		region = *p.Region
	}
	holder := &design.PaintNode{Matrix: geom.Identity, Opacity: 1}
	inner := context{style: c.style, ctm: c.ctm, port: c.port, parent: &design.Element{Kind: design.Group,
		Screen: c.screen}, paint: holder, screen: c.screen,
		clip: geom.Rect{X: -1e9, Y: -1e9, W: 2e9, H: 2e9}}
	if strings.HasPrefix(href, "#") {
		target := b.ids[href[1:]]
		if target == nil || !b.enter(target) {
			b.warn(k, "feImage points to "+quoteRef(href)+", which cannot be shown; nothing is painted")
			return
		}
		b.element(target, inner)
		b.leave()
	} else {
		data, err := b.imageBytes(href)
		if err != nil || isSVG(data) {
			if err == nil {
				err = errors.New("a drawing inside a filter")
			}
			b.warn(k, fmt.Sprintf("the picture %s was not read: %v", markup.Clip(href), err))
			return
		}
		img, err := b.pictures.bitmap(b, data)
		if err != nil {
			b.warn(k, fmt.Sprintf("the picture %s was not read: %v", markup.Clip(href), err))
			return
		}
		vb := geom.Rect{W: float64(img.Bounds().Dx()), H: float64(img.Bounds().Dy())}
		m := fit(vb, region, k.AttrOr("preserveAspectRatio", ""))
		holder.Children = append(holder.Children, &design.PaintNode{Matrix: geom.Identity, Opacity: 1, Bitmap: img,
			BitmapBox: m.Rect(vb), File: data})
	}
	holder.Walk(geom.Identity, func(n *design.PaintNode, _ geom.Matrix) { n.Element = nil })
	p.Image = holder
}

var identityMatrix = [20]float64{0: 1, 6: 1, 12: 1, 18: 1}

func (b *builder) colorMatrix(k *markup.Node) [20]float64 {
	v, err := pathdata.Numbers(k.AttrOr("values", ""))
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
			return hueRotate(v[0])
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
