package asset

import (
	"image"
	"math"

	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/paint/raster"
)

// Look is how a picture is cut out and what is done to it.
type Look struct {
	NoEffects  bool         // without shadows, blurs and other filters
	BorderBox  bool         // the box that CSS makes of the element, without the shadow that CSS casts from it
	Trim       bool         // cut to the pixels that are painted
	Pad        float64      // air added on each side, design px
	Square     bool         // made as high as wide, with the drawing in the middle
	Background *color.Color // painted under it
	Density    float64      // of the design: its px for each px of a picture at 1x; 0 means 1
}

// Cut is a piece of drawing that becomes a picture.
type Cut struct {
	Paint   *design.PaintNode
	Box     geom.Rect // design px
	Density float64   // of the design
	Bitmap  *Bitmap   // where the drawing is nothing but one
	Ground  *color.Color
}

// Bitmap is a picture that a design brings along.
type Bitmap struct {
	Image   image.Image
	File    []byte
	Density float64 // its pixels for each px of a picture at 1x
}

// Out cuts an asset out of its screen.
func (a *Asset) Out(look Look) Cut {
	e := a.Element
	if e.Parent == nil {
		return cutOut(e.Screen.Picture(), a.Box, look)
	}
	paint, box := design.Alone(e), a.Box
	if look.BorderBox && len(e.AllShadows()) > 0 {
		return cutOut(withoutShadow(paint, e), design.WholePixels(e.BorderBox()), look)
	}
	if look.NoEffects {
		paint = withoutEffects(paint)
		if b, ok := paint.Extent(paint.Matrix); ok {
			box = box.Intersect(design.WholePixels(b))
		}
	} else {
		box = whole(paint, box)
	}
	return cutOut(paint, box, look)
}

// Join cuts several elements of a screen out as one picture: each where it stands, in the order they are painted.
func Join(elements []*design.Element, look Look) Cut {
	keep := map[*design.Element]bool{}
	var box geom.Rect
	for _, e := range elements {
		keep[e] = true
		box = box.Union(e.Frame())
	}
	paint := design.Only(elements[0].Screen.Paint, keep)
	if look.NoEffects {
		paint = withoutEffects(paint)
	}
	return cutOut(paint, box, look)
}

func cutOut(paint *design.PaintNode, box geom.Rect, look Look) Cut {
	c := Cut{Paint: design.Simplify(paint, box), Box: box, Density: look.Density, Ground: look.Background}
	if c.Density == 0 {
		c.Density = 1
	}
	if look.Trim {
		if b, ok := painted(c.Paint, box); ok {
			c.Box = b
		}
	}
	if look.Square && c.Box.W != c.Box.H {
		side := math.Max(c.Box.W, c.Box.H)
		c.Box = geom.Rect{X: c.Box.X - (side-c.Box.W)/2, Y: c.Box.Y - (side-c.Box.H)/2, W: side, H: side}
	}
	c.Box = c.Box.Grow(look.Pad)
	c.Bitmap = c.bitmap()
	return c
}

// withoutEffects is a paint tree without filters.
func withoutEffects(p *design.PaintNode) *design.PaintNode {
	q := *p
	q.Filter, q.Children = nil, nil
	for _, c := range p.Children {
		q.Children = append(q.Children, withoutEffects(c))
	}
	return &q
}

// withoutShadow is the paint tree of an element without the shadow that it casts as a whole; what lies on it keeps its
// own.
func withoutShadow(p *design.PaintNode, of *design.Element) *design.PaintNode {
	casts := func(e *design.Element) bool {
		return e != nil && len(e.Shadows) > 0 && (e == of || e == of.Face() || e.Casts)
	}
	var strip func(p *design.PaintNode) *design.PaintNode
	strip = func(p *design.PaintNode) *design.PaintNode {
		q := *p
		q.Children = nil
		if casts(p.Element) {
			q.Filter = nil
		}
		for _, c := range p.Children {
			if c.Element == nil || !c.Element.Casts || c.Element == of {
				q.Children = append(q.Children, strip(c))
			}
		}
		return &q
	}
	return strip(p)
}

// whole is a box grown by what filters paint beyond it: a shadow that ran over the edge of its screen is no reason to
// cut it off in a picture of its own.
func whole(paint *design.PaintNode, box geom.Rect) geom.Rect {
	if !filtered(paint) {
		return box
	}
	most := raster.Extent(paint)
	if box.Contains(most, 1) {
		return box
	}
	if b, ok := painted(paint, most); ok {
		return box.Union(b)
	}
	return box
}

func filtered(p *design.PaintNode) bool {
	if p.Filter != nil {
		return true
	}
	for _, c := range p.Children {
		if filtered(c) {
			return true
		}
	}
	return false
}

// painted is the box of the pixels that anything is painted in, within a box; ok is false where nothing is.
func painted(paint *design.PaintNode, box geom.Rect) (geom.Rect, bool) {
	img, err := raster.Render(paint, raster.Options{View: box, Density: 1})
	if err != nil {
		return box, false
	}
	r := image.Rectangle{}
	for y := 0; y < img.Rect.Dy(); y++ {
		row := img.Pix[y*img.Stride:]
		for x := 0; x < img.Rect.Dx(); x++ {
			if row[4*x+3] != 0 {
				r = r.Union(image.Rect(x, y, x+1, y+1))
			}
		}
	}
	return geom.Rect{X: box.X + float64(r.Min.X), Y: box.Y + float64(r.Min.Y), W: float64(r.Dx()),
		H: float64(r.Dy())}, !r.Empty()
}

// bitmap reports whether the drawing is one bitmap and nothing else, upright and whole.
func (c *Cut) bitmap() *Bitmap {
	n, m := c.Paint, c.Paint.Matrix
	for n.Bitmap == nil && len(n.Children) == 1 && n.Path == nil && n.Opacity >= 1 && n.Clip == nil && n.Mask == nil &&
		n.Filter == nil {
		n = n.Children[0]
		m = m.Mul(n.Matrix)
	}
	if n.Bitmap == nil || len(n.Children) > 0 || n.Opacity < 1 || n.Clip != nil || n.Mask != nil || n.Filter != nil ||
		c.Ground != nil ||
		m.B != 0 || m.C != 0 || m.A <= 0 || m.D <= 0 {
		return nil
	}
	box := m.Rect(n.BitmapBox)
	if math.Abs(box.X-c.Box.X) > 1 || math.Abs(box.Y-c.Box.Y) > 1 || math.Abs(box.Right()-c.Box.Right()) > 1 ||
		math.Abs(box.Bottom()-c.Box.Bottom()) > 1 {
		return nil
	}
	b := n.Bitmap.Bounds()
	return &Bitmap{Image: n.Bitmap, File: n.File, Density: math.Min(float64(b.Dx())/box.W,
		float64(b.Dy())/box.H) * c.Density}
}

// Size is the size of the picture at 1x, px.
func (c *Cut) Size() (w, h float64) { return c.Box.W / c.Density, c.Box.H / c.Density }

// Pixels is the size of the picture in a density.
func (c *Cut) Pixels(density float64) (w, h int) {
	k := density / c.Density
	return max(1, int(math.Ceil(c.Box.W*k-1e-6))), max(1, int(math.Ceil(c.Box.H*k-1e-6)))
}

// Render paints the picture in a density.
func (c *Cut) Render(density float64, ground *color.Color) (*image.RGBA, error) {
	if ground == nil {
		ground = c.Ground
	}
	return raster.Render(c.Paint, raster.Options{View: c.Box, Density: density / c.Density, Background: ground})
}

// oneColour is the only colour a drawing is painted with; nil where there are several, or a gradient or bitmap.
func oneColour(p *design.PaintNode) *color.Color {
	var found *color.Color
	one := true
	see := func(paint *design.Paint) {
		if paint == nil {
			return
		}
		if paint.Kind != design.Solid {
			one = false
			return
		}
		c := paint.Color
		c.Alpha = 1
		if found != nil && found.CSS() != c.CSS() {
			one = false
		}
		found = &c
	}
	p.Walk(geom.Identity, func(n *design.PaintNode, _ geom.Matrix) {
		see(n.Fill)
		if n.Stroke != nil {
			see(&n.Stroke.Paint)
		}
		one = one && n.Bitmap == nil && n.Filter == nil
	})
	if !one {
		return nil
	}
	return found
}
