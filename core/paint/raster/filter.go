package raster

import (
	"image"
	"math"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// filter runs a filter over a painted layer; the result covers want. m leads from the element's space to the device;
// lengths are scaled by it, a turn is left out of account. https://www.w3.org/TR/filter-effects-1/
func (p *painter) filter(src *layer, f *design.Filter, m geom.Matrix, want image.Rectangle) *layer {
	work := src.r.Union(want)
	region := m.Rect(f.Region)
	if f.Region.W < 1e5 {
		work = work.Intersect(toPixels(region))
	}
	if work.Empty() {
		return newLayer(want)
	}
	run := &filterRun{p: p, m: m, work: work, whole: f.Region, results: map[string]result{}}
	graphic := result{crop(src, work), false, f.Region}
	run.results["SourceGraphic"] = graphic
	run.results["SourceAlpha"] = result{alphaOf(graphic.l), false, f.Region}
	run.last = graphic
	for i := range f.Primitives {
		pr := &f.Primitives[i]
		if !p.spend(work, stepsOf(pr)) {
			break
		}
		out := run.step(pr)
		out.region = f.Region
		if pr.Region != nil {
			out.region = *pr.Region
			if &out.l.pix[0] == &run.last.l.pix[0] || pr.Unsupported {
				out.l = clone(out.l)
			}
			part := m.Rect(*pr.Region)
			if pr.Kind == "feTile" {
				part = wholeAround(part)
			}
			keep(out.l, part)
		}
		run.last = out
		if pr.Result != "" {
			run.results[pr.Result] = out
		}
	}
	return run.last.in(false)
}

// result is a picture between two steps, in sRGB or linear RGB.
type result struct {
	l      *layer
	linear bool
	region geom.Rect // of the step that made it, in the node's space
}

// in gives the picture in the colour space asked for.
func (r result) in(linear bool) *layer {
	if r.linear == linear {
		return r.l
	}
	table := toSRGB
	if linear {
		table = toLinear
	}
	out := newLayer(r.l.r)
	out.eachPixels(func(from, to int) {
		for i := from; i < to; i += 4 {
			a := r.l.pix[i+3]
			out.pix[i+3] = a
			if a == 0 {
				continue
			}
			for k := 0; k < 3; k++ {
				v := min(255, (int(r.l.pix[i+k])*255+int(a)/2)/int(a))
				out.pix[i+k] = mul255(table[v], a)
			}
		}
	})
	return out
}

var toLinear, toSRGB = func() (lin, gam [256]uint8) {
	for i := range lin {
		v := float64(i) / 255
		l, g := v/12.92, v*12.92
		if v > 0.04045 {
			l = math.Pow((v+0.055)/1.055, 2.4)
		}
		if v > 0.0031308 {
			g = 1.055*math.Pow(v, 1/2.4) - 0.055
		}
		lin[i], gam[i] = uint8(math.Round(l*255)), uint8(math.Round(g*255))
	}
	return
}()

type filterRun struct {
	p       *painter
	m       geom.Matrix
	work    image.Rectangle
	whole   geom.Rect // the filter's region
	results map[string]result
	last    result
}

// from is the result a step takes by its name; that of the step before for none.
func (r *filterRun) from(name string) result {
	if named, ok := r.results[name]; ok && name != "" {
		return named
	}
	if name == "BackgroundImage" || name == "BackgroundAlpha" || name == "FillPaint" || name == "StrokePaint" {
		return result{l: newLayer(r.work), region: r.whole}
	}
	return r.last
}

func (r *filterRun) input(name string, linear bool) *layer { return r.from(name).in(linear) }

func (r *filterRun) step(p *design.Primitive) result {
	sx, sy := math.Hypot(r.m.A, r.m.B), math.Hypot(r.m.C, r.m.D)
	in := r.input(p.In, p.Linear)
	d := r.m.ApplyVec(geom.Point{X: p.DX, Y: p.DY})
	switch p.Kind {
	case "feGaussianBlur":
		return result{l: blur(in, p.SX*sx, p.SY*sy), linear: p.Linear}
	case "feOffset":
		return result{l: offset(in, d.X, d.Y), linear: p.Linear}
	case "feFlood":
		l := newLayer(r.work)
		l.fill(premul(p.Color))
		return result{l: l, linear: false}
	case "feDropShadow":
		sh := offset(blur(alphaOf(in), p.SX*sx, p.SY*sy), d.X, d.Y)
		c := premul(p.Color)
		if p.Linear {
			one := newLayer(image.Rect(0, 0, 1, 1))
			one.fill(c)
			c = [4]uint8(result{l: one}.in(true).pix[:4])
		}
		sh.eachPixels(func(from, to int) {
			for i := from; i < to; i += 4 {
				a := sh.pix[i+3]
				for k := 0; k < 4; k++ {
					sh.pix[i+k] = mul255(c[k], a)
				}
			}
		})
		compose(sh, in, "", 1)
		return result{l: sh, linear: p.Linear}
	case "feMerge":
		out := newLayer(r.work)
		for _, name := range p.Inputs {
			compose(out, r.input(name, p.Linear), "", 1)
		}
		return result{l: out, linear: p.Linear}
	case "feBlend":
		out := clone(r.input(p.In2, p.Linear))
		compose(out, in, p.Mode, 1)
		return result{l: out, linear: p.Linear}
	case "feComposite":
		return result{l: composite(in, r.input(p.In2, p.Linear), p), linear: p.Linear}
	case "feColorMatrix":
		return result{l: colorMatrix(in, &p.Matrix), linear: p.Linear}
	case "feComponentTransfer":
		return result{l: transfer(in, &p.Transfer), linear: p.Linear}
	case "feMorphology":
		return result{l: morphology(in, int(math.Round(p.SX*sx)), int(math.Round(p.SY*sy)), p.Mode == "dilate"),
			linear: p.Linear}
	}
	return r.more(p, in, sx, sy)
}

// more runs the steps that do not only change what is there.
func (r *filterRun) more(p *design.Primitive, in *layer, sx, sy float64) result {
	out := result{l: in, linear: p.Linear}
	switch {
	case p.Noise != nil:
		region := r.whole
		if p.Region != nil {
			region = *p.Region
		}
		out.l = newLayer(r.work)
		turbulence(out.l, p.Noise, r.m, region)
	case p.Light != nil:
		out.l = lighting(in, p.Light, r.m, p.Linear)
	case p.Kernel != nil:
		out.l = convolveMatrix(in, p.Kernel)
	case p.Kind == "feDisplacementMap":
		out.l = displace(in, r.input(p.In2, p.Linear), p.Channels, p.DX*sx, p.DX*sy)
	case p.Kind == "feTile":
		b := r.m.Rect(r.from(p.In).region)
		out.l = tiled(in, wholeWithin(b))
	case p.Kind == "feImage":
		out.l, out.linear = newLayer(r.work), false
		if p.Image != nil && r.p.depth < 200 {
			sub := &painter{depth: r.p.depth + 1, unit: r.p.unit, cover: &coverage{}, effort: r.p.effort}
			sub.node(out.l, p.Image, r.m, 1)
		}
	}
	return out
}

func clone(l *layer) *layer {
	return &layer{r: l.r, pix: append([]uint8(nil), l.pix...)}
}

// crop copies a layer onto another area.
func crop(l *layer, r image.Rectangle) *layer {
	out := newLayer(r)
	both := l.r.Intersect(r)
	for y := both.Min.Y; y < both.Max.Y; y++ {
		copy(out.pix[out.at(both.Min.X, y):], l.pix[l.at(both.Min.X, y):l.at(both.Min.X, y)+4*both.Dx()])
	}
	return out
}

// keep clears what lies outside a rectangle.
func keep(l *layer, r geom.Rect) {
	in := image.Rect(int(math.Round(r.X)), int(math.Round(r.Y)), int(math.Round(r.Right())), int(math.Round(r.Bottom())))
	eachRow(l.r, func(y int) {
		for x := l.r.Min.X; x < l.r.Max.X; x++ {
			if !image.Pt(x, y).In(in) {
				i := l.at(x, y)
				clear(l.pix[i : i+4])
			}
		}
	})
}

func alphaOf(l *layer) *layer {
	out := newLayer(l.r)
	out.eachPixels(func(from, to int) {
		for i := from + 3; i < to; i += 4 {
			out.pix[i] = l.pix[i]
		}
	})
	return out
}

// offset moves a picture, by parts of a pixel too.
func offset(l *layer, dx, dy float64) *layer {
	out := newLayer(l.r)
	w, h := l.r.Dx(), l.r.Dy()
	ix, iy := int(math.Floor(dx)), int(math.Floor(dy))
	fx, fy := float32(dx-float64(ix)), float32(dy-float64(iy))
	whole := fx < 1e-3 && fy < 1e-3
	get := func(x, y, k int) float32 {
		if x < 0 || y < 0 || x >= w || y >= h {
			return 0
		}
		return float32(l.pix[(y*w+x)*4+k])
	}
	eachRow(image.Rect(0, 0, w, h), func(y int) {
		for x := 0; x < w; x++ {
			sx, sy := x-ix, y-iy
			o := (y*w + x) * 4
			if whole {
				if sx >= 0 && sy >= 0 && sx < w && sy < h {
					copy(out.pix[o:o+4], l.pix[(sy*w+sx)*4:])
				}
				continue
			}
			for k := 0; k < 4; k++ {
				v := (get(sx, sy, k)*(1-fx)+get(sx-1, sy, k)*fx)*(1-fy) + (get(sx, sy-1, k)*(1-fx)+get(sx-1, sy-1, k)*fx)*fy
				out.pix[o+k] = uint8(v + 0.5)
			}
		}
	})
	return out
}

func composite(a, b *layer, p *design.Primitive) *layer {
	out := newLayer(a.r)
	k := [4]float32{float32(p.K[0]), float32(p.K[1]), float32(p.K[2]), float32(p.K[3])}
	out.eachPixels(func(from, to int) {
		for i := from; i < to; i += 4 {
			if a.pix[i+3]|b.pix[i+3] == 0 && p.Mode != "arithmetic" {
				continue
			}
			aa, ba := float32(a.pix[i+3])/255, float32(b.pix[i+3])/255
			var fa, fb float32
			switch p.Mode {
			case "in":
				fa, fb = ba, 0
			case "out":
				fa, fb = 1-ba, 0
			case "atop":
				fa, fb = ba, 1-aa
			case "xor":
				fa, fb = 1-ba, 1-aa
			case "lighter":
				fa, fb = 1, 1
			case "arithmetic":
				for c := 0; c < 4; c++ {
					x, y := float32(a.pix[i+c])/255, float32(b.pix[i+c])/255
					out.pix[i+c] = clamp8((k[0]*x*y + k[1]*x + k[2]*y + k[3]) * 255)
				}
				for c := 0; c < 3; c++ { // stay premultiplied
					out.pix[i+c] = min(out.pix[i+c], out.pix[i+3])
				}
				continue
			default:
				fa, fb = 1, 1-aa
			}
			for c := 0; c < 4; c++ {
				out.pix[i+c] = clamp8(float32(a.pix[i+c])*fa + float32(b.pix[i+c])*fb)
			}
		}
	})
	return out
}

func colorMatrix(l *layer, m *[20]float64) *layer {
	out := newLayer(l.r)
	var f [20]float32
	for i, v := range m {
		f[i] = float32(v)
	}
	out.eachPixels(func(from, to int) {
		for i := from; i < to; i += 4 {
			if l.pix[i+3] == 0 && f[19] <= 0 {
				continue // clear it stays
			}
			a := float32(l.pix[i+3]) / 255
			var c [4]float32
			c[3] = a
			if a > 0 {
				for k := 0; k < 3; k++ {
					c[k] = float32(l.pix[i+k]) / 255 / a
				}
			}
			var o [4]float32
			for k := range o {
				o[k] = min(1, max(0, f[5*k]*c[0]+f[5*k+1]*c[1]+f[5*k+2]*c[2]+f[5*k+3]*c[3]+f[5*k+4]))
			}
			for k := 0; k < 3; k++ {
				out.pix[i+k] = clamp8(o[k] * o[3] * 255)
			}
			out.pix[i+3] = clamp8(o[3] * 255)
		}
	})
	return out
}

func transfer(l *layer, fs *[4]design.TransferFunc) *layer {
	var tables [4][256]uint8
	for k := range fs {
		for v := range tables[k] {
			tables[k][v] = clamp8(float32(transferAt(&fs[k], float64(v)/255)) * 255)
		}
	}
	out := newLayer(l.r)
	out.eachPixels(func(from, to int) {
		for i := from; i < to; i += 4 {
			a := l.pix[i+3]
			na := tables[3][a]
			out.pix[i+3] = na
			for k := 0; k < 3; k++ {
				v := 0
				if a > 0 {
					v = min(255, (int(l.pix[i+k])*255+int(a)/2)/int(a))
				}
				out.pix[i+k] = mul255(tables[k][v], na)
			}
		}
	})
	return out
}

func transferAt(f *design.TransferFunc, c float64) float64 {
	n := len(f.Table)
	switch f.Type {
	case "linear":
		return f.Slope*c + f.Intercept
	case "gamma":
		return f.Amplitude*math.Pow(c, f.Exp) + f.Of
	case "table":
		if n == 0 {
			return c
		}
		k := math.Min(c*float64(n-1), float64(n-1))
		i := int(k)
		if i >= n-1 {
			return f.Table[n-1]
		}
		return f.Table[i] + (k-float64(i))*(f.Table[i+1]-f.Table[i])
	case "discrete":
		if n == 0 {
			return c
		}
		return f.Table[min(n-1, int(c*float64(n)))]
	}
	return c
}
