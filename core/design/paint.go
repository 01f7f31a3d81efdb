package design

import (
	"image"

	"archetyp/core/color"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

// PaintNode is a node of the paint tree: a group, a shape, or a bitmap. What a node does happens in this order:
// paint its content, filter, clip, mask, opacity, blend. https://www.w3.org/TR/SVG2/render.html
type PaintNode struct {
	Matrix   geom.Matrix // node space → the parent's space
	Opacity  float64     // of the whole node, 0–1
	Clip     *Clip
	Mask     *Mask
	Filter   *Filter
	Blend    string // CSS blend mode; "" for normal
	Isolate  bool
	Children []*PaintNode // of a group

	Path        *geom.Path // of a shape
	EvenOdd     bool
	Fill        *Paint
	Stroke      *PaintStroke
	StrokeFirst bool    // paint-order: stroke
	Crisp       bool    // no anti-aliasing
	Glyphs      []Glyph // of a run of text, painted like a path; its lines and boxes are in Path

	Bitmap    image.Image // of a bitmap
	BitmapBox geom.Rect   // where it goes in node space
	File      []byte      // the bitmap as it came (PNG, JPEG, GIF or WebP); nil where there is none
	Pixelated bool

	Element *Element     // whose paint this is; nil inside clips, masks and patterns
	Native  *markup.Node // the shape's own markup, where Path is exactly that shape
}

// Glyph is one placed glyph: its outline at 1 px per em (shared: do not change it), its origin in node space and the
// font size it is painted at.
type Glyph struct {
	Outline *geom.Path
	Ink     geom.Rect // tight box of the outline, at 1 px per em
	Origin  geom.Point
	Size    float64
	Letters string  // those it stands for; of several glyphs that make a letter, the first has it
	Advance float64 // to the next glyph, in node space
}

// Box is what the glyph's ink covers, in node space.
func (g *Glyph) Box() geom.Rect {
	return geom.Rect{X: g.Origin.X + g.Ink.X*g.Size, Y: g.Origin.Y + g.Ink.Y*g.Size, W: g.Ink.W * g.Size,
		H: g.Ink.H * g.Size}
}

// Outlines is the outline of a run of glyphs as one path, in node space.
func (p *PaintNode) Outlines() *geom.Path {
	out := &geom.Path{}
	for _, g := range p.Glyphs {
		out.Append(g.Outline.Transform(geom.Matrix{A: g.Size, D: g.Size, E: g.Origin.X, F: g.Origin.Y}))
	}
	return out
}

// PaintStroke is a stroke in node space.
type PaintStroke struct {
	Paint     Paint
	Width     float64
	Dashes    []float64
	Offset    float64
	Cap, Join string
	Miter     float64
	Fixed     bool // vector-effect: non-scaling-stroke
}

// Style is the line that the stroke draws, with lengths so many times as long.
func (s *PaintStroke) Style(times float64) geom.StrokeStyle {
	style := geom.StrokeStyle{Width: s.Width * times, Cap: s.Cap, Join: s.Join, Miter: s.Miter, Offset: s.Offset * times}
	for _, d := range s.Dashes {
		style.Dashes = append(style.Dashes, d*times)
	}
	return style
}

// Clip keeps what lies inside the union of shapes. The shapes' matrices lead to the space of the clipped node.
type Clip struct {
	Shapes []*PaintNode
	Clip   *Clip  // of the clip itself
	ID     string // of the clipPath element; empty for the edge of a viewport
}

// Mask multiplies by the luminance (or alpha) of its content, inside Region of the masked node's space.
type Mask struct {
	Content *PaintNode
	Alpha   bool
	Region  geom.Rect
	Mask    *Mask
	ID      string // of the mask element
}

// Tile is a pattern: content repeated every Box, under Matrix to element space.
type Tile struct {
	Box     geom.Rect
	Matrix  geom.Matrix
	Content *PaintNode
}

// Filter is a chain of filter primitives; lengths are in the node's space.
// https://www.w3.org/TR/filter-effects-1/
type Filter struct {
	ID         string // of the filter element; empty for CSS filter functions
	CSS        string // the functions as CSS writes them; empty where it is, or has, a filter element
	Region     geom.Rect
	Primitives []Primitive
}

// Primitive is one step of a filter. Which fields count depends on Kind, the SVG element name.
type Primitive struct {
	Kind        string
	In, In2     string // result names, SourceGraphic, SourceAlpha, or "" for the step before
	Result      string
	Linear      bool // computes in linear RGB
	Region      *geom.Rect
	DX, DY      float64 // offset, drop shadow
	SX, SY      float64 // standard deviation, radius
	Color       color.Color
	Mode        string     // blend mode, composite or morphology operator
	K           [4]float64 // arithmetic
	Matrix      [20]float64
	Transfer    [4]TransferFunc // r, g, b, a
	Inputs      []string        // of feMerge
	Noise       *Noise          // of feTurbulence
	Light       *Light          // of feDiffuseLighting and feSpecularLighting
	Kernel      *Kernel         // of feConvolveMatrix
	Channels    [2]int          // of feDisplacementMap: which of r, g, b, a moves along x, and y; DX is how far
	Image       *PaintNode      // of feImage, in the space of the filter's lengths
	Unsupported bool            // passes its input through, with a warning
}

// Noise is that of feTurbulence; frequencies are per unit of the node's space.
type Noise struct {
	FX, FY  float64
	Octaves int
	Seed    float64
	Stitch  bool // the edges of the region fit together
	Fractal bool // fractalNoise rather than turbulence
}

// Light is a light and the surface it falls on; lengths are in the node's space, angles in degrees.
type Light struct {
	Specular           bool
	Surface            float64 // height of an opaque pixel
	Constant, Exponent float64
	Color              color.Color
	Source             string // distant, point or spot
	Azimuth, Elevation float64
	At, To             [3]float64
	Focus              float64 // exponent of a spot's own fall-off
	Cone               float64 // half the opening of a spot; 0 for none
}

// Kernel is that of feConvolveMatrix, as written: it is turned by half a turn when it is laid on.
type Kernel struct {
	W, H      int
	Values    []float64
	Divisor   float64
	Bias      float64
	X, Y      int // the value that comes to lie on the pixel in question
	Edge      string
	KeepAlpha bool
}

// TransferFunc is one function of feComponentTransfer.
type TransferFunc struct {
	Type                                 string // identity, table, discrete, linear, gamma
	Table                                []float64
	Slope, Intercept, Amplitude, Exp, Of float64
}

// Walk visits the node and everything painted below it, parents first, with the transform from node space to the
// space above the root.
func (p *PaintNode) Walk(m geom.Matrix, visit func(*PaintNode, geom.Matrix)) {
	m = m.Mul(p.Matrix)
	visit(p, m)
	for _, c := range p.Children {
		c.Walk(m, visit)
	}
}
