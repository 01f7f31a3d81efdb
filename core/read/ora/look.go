package ora

import (
	"image"
	"image/color"
	"image/draw"
	"math"

	palette "archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/geom"
)

// look fills a layer's element from its pixels.
func (l *layer) look(img image.Image) {
	px := toNRGBA(img)
	e := l.e
	e.Bitmap = design.State(design.Bitmap{Href: l.src, Width: px.Rect.Dx(), Height: px.Rect.Dy()}, "src attribute")
	at := geom.Point{X: float64(l.at.X), Y: float64(l.at.Y)}
	place := func(r geom.Rect) geom.Rect { return r.Move(at.X, at.Y) }
	tight := tightBox(px)
	if tight.Empty() {
		e.Geometry = design.Derive(geom.Rect{X: at.X, Y: at.Y}, "nothing but transparent pixels")
		e.Layout, e.Painted, e.Hidden = e.Geometry, e.Geometry, true
		return
	}
	ink := rectOf(tight)
	e.Paint.Children = []*design.PaintNode{{Matrix: geom.Identity, Opacity: 1, Bitmap: px.SubImage(tight),
		BitmapBox: place(ink), Element: e}}
	e.Geometry = design.Derive(place(ink), "pixels that are not transparent")
	e.Painted, e.Layout = e.Geometry, e.Geometry
	s, ok := see(px, tight)
	if !ok {
		return
	}
	e.Kind = design.Box
	const origin = design.Estimated
	e.Geometry = design.Fact[geom.Rect]{Value: place(s.box), Origin: origin, Error: s.boxError,
		From: "edges in the pixels", Set: true}
	e.Layout = e.Geometry
	fill := s.fill
	if g := fill.Gradient; g != nil {
		g.Matrix = geom.Translate(at.X, at.Y)
	}
	e.Fills = []design.Fact[design.Paint]{{Value: fill, Origin: origin, Error: s.fillError, From: "colours of the pixels",
		Set: true}}
	if !s.radii.Zero() {
		e.Radii = design.Fact[design.Radii]{Value: s.radii, Origin: origin, Error: s.radiusError,
			From: "what the corners lack", Set: true}
		e.Form = design.Fact[geom.FormKind]{Value: s.form, Origin: origin, Error: s.radiusError, From: "edges in the pixels",
			Set: true}
	}
	if s.shadow != nil {
		e.Shadows = []design.Fact[design.Shadow]{{Value: *s.shadow, Origin: origin, Error: s.shadowError,
			From: "soft pixels around the shape", Set: true}}
	}
}

// seen is what a layer's pixels turn out to show: a box filled alike, in the layer's pixels.
type seen struct {
	box         geom.Rect
	boxError    float64 // px
	form        geom.FormKind
	radii       design.Radii
	radiusError float64 // px
	fill        design.Paint
	fillError   float64 // 255ths
	shadow      *design.Shadow
	shadowError float64 // px
}

// mostSeen is how many pixels a layer may have to be looked at closely.
const mostSeen = 24 << 20

// see recognises a box in pixels: rectangle, rounded rectangle, circle; of one colour or a linear gradient; with or
// without a soft shadow around. ok is false for any other picture.
func see(px *image.NRGBA, tight image.Rectangle) (seen, bool) {
	if tight.Dx()*tight.Dy() > mostSeen || tight.Dx() < 4 || tight.Dy() < 4 {
		return seen{}, false
	}
	solid, most := solidBox(px, tight)
	if solid.Dx() < 4 || solid.Dy() < 4 {
		return seen{}, false
	}
	soft := solid.Inset(-2).Intersect(tight) != tight // more around it than an edge between pixels
	fill, fillError, ok := fillOf(px, solid, most)
	if !ok {
		return seen{}, false
	}
	c := &cover{px: px, fill: fill, most: float64(most) / 255, r: solid.Inset(-2).Intersect(px.Rect)}
	if soft {
		c.shade, ok = shadeColor(px, tight, solid.Inset(-2))
		if !ok {
			return seen{}, false
		}
		c.soft = true
	}
	s := seen{fill: fill, fillError: fillError, boxError: 0.5}
	if !c.fit(&s, solid) {
		return seen{}, false
	}
	if soft && !c.shadowOf(&s, tight) {
		return seen{}, false
	}
	if g := s.fill.Gradient; g != nil {
		spanGradient(g, s.box)
	}
	return s, true
}

func toNRGBA(img image.Image) *image.NRGBA {
	if px, ok := img.(*image.NRGBA); ok && px.Rect.Min == (image.Point{}) {
		return px
	}
	b := img.Bounds()
	out := image.NewNRGBA(image.Rect(0, 0, b.Dx(), b.Dy()))
	if wide, ok := img.(*image.NRGBA64); ok { // going through premultiplied bytes would cost colour
		for y := range b.Dy() {
			for x := range b.Dx() {
				v := wide.NRGBA64At(b.Min.X+x, b.Min.Y+y)
				out.SetNRGBA(x, y, color.NRGBA{R: down(v.R), G: down(v.G), B: down(v.B), A: down(v.A)})
			}
		}
		return out
	}
	draw.Draw(out, out.Rect, img, b.Min, draw.Src)
	return out
}

func down(v uint16) uint8 { return uint8((uint32(v) + 128) / 257) }

func rectOf(r image.Rectangle) geom.Rect {
	return geom.Rect{X: float64(r.Min.X), Y: float64(r.Min.Y), W: float64(r.Dx()), H: float64(r.Dy())}
}

// tightBox is the box of the pixels that are not wholly transparent.
func tightBox(px *image.NRGBA) image.Rectangle {
	return boxWhere(px, px.Rect, func(a uint8) bool { return a > 0 })
}

func boxWhere(px *image.NRGBA, in image.Rectangle, ok func(a uint8) bool) image.Rectangle {
	out := image.Rectangle{Min: in.Max, Max: in.Min}
	for y := in.Min.Y; y < in.Max.Y; y++ {
		row := px.Pix[px.PixOffset(in.Min.X, y):px.PixOffset(in.Max.X, y)]
		for x := in.Min.X; x < in.Max.X; x++ {
			if !ok(row[(x-in.Min.X)*4+3]) {
				continue
			}
			out.Min.X, out.Max.X = min(out.Min.X, x), max(out.Max.X, x+1)
			out.Min.Y, out.Max.Y = min(out.Min.Y, y), y+1
		}
	}
	if out.Min.X >= out.Max.X {
		return image.Rectangle{}
	}
	return out
}

// solidBox is the box of the pixels that have the most alpha there is, and that alpha.
func solidBox(px *image.NRGBA, in image.Rectangle) (image.Rectangle, uint8) {
	most := uint8(0)
	for y := in.Min.Y; y < in.Max.Y; y++ {
		row := px.Pix[px.PixOffset(in.Min.X, y):px.PixOffset(in.Max.X, y)]
		for i := 3; i < len(row); i += 4 {
			most = max(most, row[i])
		}
	}
	return boxWhere(px, in, func(a uint8) bool { return int(a)+1 >= int(most) && a > 0 }), most
}

// solidPaint is a fill of one colour given in 255ths.
func solidPaint(c [4]float64) design.Paint {
	return design.Paint{Kind: design.Solid, Opacity: 1, Color: paletteColor(c)}
}

func paletteColor(c [4]float64) palette.Color {
	out := palette.Color{Space: palette.SRGB, Alpha: math.Round(c[3]) / 255}
	for i := range 3 {
		out.C[i] = math.Min(255, math.Max(0, math.Round(c[i]))) / 255
	}
	return out
}
