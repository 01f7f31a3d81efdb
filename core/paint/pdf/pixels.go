package pdf

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"

	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/paint/picture"
	"archetyp/core/paint/raster"
)

// pixelDensity is how many pixels stand for a px where pixels must do.
const pixelDensity = 4

// pixels paints a node that PDF has no means for (a filter) as a picture. m leads from its parent to the first
// operator's space.
func (c *content) pixels(n *design.PaintNode, m geom.Matrix) {
	scale := m.MeanScale()
	if scale <= 0 {
		return
	}
	box := raster.Extent(n)
	if box.W <= 0 || box.H <= 0 {
		return
	}
	img, err := raster.Render(n, raster.Options{View: box, Density: pixelDensity * scale})
	if err != nil {
		c.w.failed = err
		return
	}
	k := 1 / (pixelDensity * scale)
	c.op("", "q")
	if mode, ok := blendModes[n.Blend]; ok {
		c.state("/BM/" + mode)
	}
	c.image(c.w.image(img), geom.Rect{X: box.X, Y: box.Y, W: float64(img.Rect.Dx()) * k, H: float64(img.Rect.Dy()) * k})
	c.op("", "Q")
}

// onlyShadows reports whether all a node's filter does is to lay shadows under it.
func onlyShadows(n *design.PaintNode) bool {
	e := n.Element
	if e == nil || e.Paint == nil || e.Paint.Filter != n.Filter || len(e.Shadows) == 0 || e.Blur.Set || n.Opacity < 1 ||
		n.Blend != "" {
		return false
	}
	for _, s := range e.Shadows {
		if s.Value.Inset {
			return false
		}
	}
	return true
}

// shadowsOf is a node that paints the shadows alone: what its filter makes, less what went into it.
func shadowsOf(n *design.PaintNode) *design.PaintNode {
	f := *n.Filter
	f.Primitives = append(append([]design.Primitive(nil), f.Primitives...),
		design.Primitive{Kind: "feComposite", Mode: "arithmetic", In2: "SourceGraphic", K: [4]float64{1: 1, 2: -1}})
	q := *n
	q.Filter = &f
	return &q
}

// image paints an image object into a box. The box is a trifle smaller, since painters count a pixel in whose edge it
// touches.
func (c *content) image(object int, box geom.Rect) {
	box = box.Grow(-1e-3)
	c.op("", "q")
	c.op(numbers(box.W, 0, 0, -box.H, box.X, box.Bottom()), "cm")
	c.op("/"+c.use("XObject", "X", object), "Do")
	c.op("", "Q")
}

// bitmap paints a picture of the source; a JPEG is taken over as it is.
func (c *content) bitmap(n *design.PaintNode, opacity float64) {
	object, ok := c.w.images[n.Bitmap]
	if !ok {
		object = c.w.source(n)
		c.w.images[n.Bitmap] = object
	}
	c.op("", "q")
	c.alpha(opacity)
	c.image(object, n.BitmapBox)
	c.op("", "Q")
}

func (w *writer) source(n *design.PaintNode) int {
	if conf, err := jpeg.DecodeConfig(bytes.NewReader(n.File)); err == nil {
		if model := n.Bitmap.ColorModel(); model != color.CMYKModel {
			space := "DeviceRGB"
			if model == color.GrayModel {
				space = "DeviceGray"
			}
			return w.object(fmt.Sprintf("<</Type/XObject/Subtype/Image/Width %d/Height %d/ColorSpace/%s/BitsPerComponent "+
				"8/Filter/DCTDecode/Length %d>>\nstream\n%s\nendstream",
				conf.Width, conf.Height, space, len(n.File), n.File))
		}
	}
	img, err := design.Pixels(n.Bitmap)
	if err != nil {
		img = image.NewRGBA(image.Rect(0, 0, 1, 1)) // reading has warned of it
	}
	return w.image(picture.RGBA(img))
}

// image is a picture as an object, with its alpha beside it where it has any.
func (w *writer) image(img *image.RGBA) int {
	p := picture.Straight(img)
	p.Bleed(2) // painters smooth colours and alpha apart
	rgb, alpha := make([]byte, 0, 3*p.Width*p.Height), make([]byte, 0, p.Width*p.Height)
	for i := 0; i < len(p.Pix); i += 4 {
		rgb = append(rgb, p.Pix[i:i+3]...)
		alpha = append(alpha, p.Pix[i+3])
	}
	size := fmt.Sprintf("/Type/XObject/Subtype/Image/Width %d/Height %d/BitsPerComponent 8", p.Width, p.Height)
	mask := ""
	if !p.Opaque() {
		mask = fmt.Sprintf("/SMask %d 0 R", w.stream(size+"/ColorSpace/DeviceGray", alpha))
	}
	return w.stream(size+"/ColorSpace/DeviceRGB"+mask, rgb)
}
