// Package drawable writes a paint tree as an Android vector drawable, where the drawing allows: shapes in flat colours
// and plain gradients, cut by plain clips. A design.PaintNode and the part of the plane wanted go in; XML comes out,
// or the reason why this drawing cannot be one.
// https://developer.android.com/develop/ui/views/graphics/vector-drawable-resources
package drawable

import (
	"errors"
	"fmt"
	"math"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/markup"
	"archetyp/core/paint/svg"
)

// Write makes a vector drawable of the part of the plane in view; scale is dp for each px of the design. The error
// says what in the drawing the format has no means for.
func Write(root *design.PaintNode, view geom.Rect, scale float64) ([]byte, error) {
	w := &writer{}
	m := geom.Translate(-view.X, -view.Y)
	if err := w.node(design.Simplify(root, view), m, 1, "    "); err != nil {
		return nil, err
	}
	if w.b.Len() == 0 {
		return nil, errors.New("it paints nothing")
	}
	aapt := ""
	if w.gradients {
		aapt = "\n    xmlns:aapt=\"http://schemas.android.com/aapt\""
	}
	return []byte(fmt.Sprintf(`<vector xmlns:android="http://schemas.android.com/apk/res/android"%s
    android:width="%sdp"
    android:height="%sdp"
    android:viewportWidth="%s"
    android:viewportHeight="%s">
%s</vector>
`, aapt, num(view.W*scale), num(view.H*scale), num(view.W), num(view.H), w.b.String())), nil
}

type writer struct {
	b         strings.Builder
	gradients bool
}

func num(v float64) string { return css.Num(v, 4) }

// node writes a node; m leads from its parent to the viewport. Transforms are worked into the paths, so that each
// stands alone; opacity is worked into the colours, where nothing overlaps.
func (w *writer) node(n *design.PaintNode, m geom.Matrix, opacity float64, indent string) error {
	m = m.Mul(n.Matrix)
	switch {
	case n.Filter != nil:
		return errors.New("it has a filter")
	case n.Mask != nil:
		return errors.New("it has a mask")
	case n.Blend != "" && n.Blend != "normal":
		return fmt.Errorf("it blends by %s", n.Blend)
	case n.Bitmap != nil:
		return errors.New("it holds a bitmap")
	}
	opacity *= n.Opacity
	if opacity < 1 && overlaps(n, m) {
		return errors.New("parts that overlap are see-through as a whole")
	}
	inner := indent
	if n.Clip != nil {
		fmt.Fprintf(&w.b, "%s<group>\n", indent)
		inner += "    "
		for c := n.Clip; c != nil; c = c.Clip {
			d, err := clipData(c, m)
			if err != nil {
				return err
			}
			fmt.Fprintf(&w.b, "%s<clip-path android:pathData=\"%s\"/>\n", inner, d)
		}
	}
	if err := w.shape(n, m, opacity, inner); err != nil {
		return err
	}
	for _, c := range n.Children {
		if err := w.node(c, m, opacity, inner); err != nil {
			return err
		}
	}
	if n.Clip != nil {
		fmt.Fprintf(&w.b, "%s</group>\n", indent)
	}
	return nil
}

// overlaps reports whether parts of a node may lie on each other.
func overlaps(n *design.PaintNode, m geom.Matrix) bool {
	if n.Fill != nil && n.Stroke != nil {
		return true
	}
	var boxes []geom.Rect
	for _, c := range n.Children {
		box, ok := c.Extent(m.Mul(c.Matrix))
		if !ok {
			return true
		}
		for _, b := range boxes {
			if both := b.Intersect(box); both.W > 0 && both.H > 0 {
				return true
			}
		}
		boxes = append(boxes, box)
	}
	return false
}

func clipData(c *design.Clip, m geom.Matrix) (string, error) {
	all := &geom.Path{}
	for _, s := range c.Shapes {
		p := s.Path
		if len(s.Glyphs) > 0 {
			p = s.Outlines()
		}
		if s.EvenOdd && strings.Count(pathData(p), "Z") > 1 {
			return "", errors.New("it is clipped by the even-odd rule")
		}
		all.Append(p.Transform(m.Mul(s.Matrix)))
	}
	if len(c.Shapes) > 1 {
		return "", errors.New("it is clipped by several shapes")
	}
	return pathData(all), nil
}

func pathData(p *geom.Path) string { return svg.PathData(p, 4) }

// shape writes what a node itself paints, as one or two paths.
func (w *writer) shape(n *design.PaintNode, m geom.Matrix, opacity float64, indent string) error {
	p := n.Path
	if len(n.Glyphs) > 0 {
		p = n.Outlines()
	}
	if p.Empty() || n.Fill == nil && n.Stroke == nil {
		return nil
	}
	at := place{m, opacity, indent}
	stroke, plain := n.Stroke, true
	if stroke != nil {
		plain = uniform(m) && len(stroke.Dashes) == 0 && stroke.Paint.Kind == design.Solid
	}
	// a path is filled before it is stroked, and has no dashes
	if stroke != nil && (!plain || n.StrokeFirst && n.Fill != nil) {
		line := func() error { return w.line(p, stroke, plain, at) }
		fill := func() error { return w.path(p, look{n.EvenOdd, n.Fill, nil}, at) }
		first, second := fill, line
		if n.StrokeFirst {
			first, second = line, fill
		}
		if n.Fill == nil {
			return line()
		}
		if err := first(); err != nil {
			return err
		}
		return second()
	}
	return w.path(p, look{n.EvenOdd, n.Fill, stroke}, at)
}

func uniform(m geom.Matrix) bool {
	return math.Abs(m.A*m.C+m.B*m.D) < 1e-9 && math.Abs(math.Hypot(m.A, m.B)-math.Hypot(m.C, m.D)) < 1e-6
}

// line writes a stroke alone: as one where the format can, else as its outline.
func (w *writer) line(p *geom.Path, s *design.PaintStroke, plain bool, at place) error {
	if plain {
		return w.path(p, look{stroke: s}, at)
	}
	style := s.Style(1)
	scale := at.matrix.MeanScale()
	if s.Fixed {
		p, at.matrix, scale = p.Transform(at.matrix), geom.Identity, 1
	}
	return w.path(geom.Stroke(p, style, math.Max(scale, 1e-6)*4), look{fill: &s.Paint}, at)
}

// place is where and how a path is written: its matrix, the opacity of all around it, and the indent.
type place struct {
	matrix  geom.Matrix
	opacity float64
	indent  string
}

// look is what a path is painted with.
type look struct {
	evenOdd bool
	fill    *design.Paint
	stroke  *design.PaintStroke
}

// path writes one <path>.
func (w *writer) path(p *geom.Path, l look, at place) error {
	m, opacity, indent, fill := at.matrix, at.opacity, at.indent, l.fill
	in := indent + "    "
	gradient := ""
	fmt.Fprintf(&w.b, "%s<path\n%sandroid:pathData=\"%s\"", indent, in, markup.EscapeAttr(pathData(p.Transform(m))))
	set := func(name, value string) { fmt.Fprintf(&w.b, "\n%sandroid:%s=\"%s\"", in, name, value) }
	if l.evenOdd {
		set("fillType", "evenOdd")
	}
	if fill != nil {
		switch fill.Kind {
		case design.Solid:
			set("fillColor", argb(fill.Color, opacity))
		case design.Pattern:
			return errors.New("it is filled with a pattern")
		default:
			g, err := w.gradient(fill.Gradient, m, fill.Opacity*opacity, in)
			if err != nil {
				return err
			}
			gradient = g
		}
	}
	if s := l.stroke; s != nil {
		set("strokeColor", argb(s.Paint.Color, opacity))
		width := s.Width
		if !s.Fixed {
			width *= m.MeanScale()
		}
		set("strokeWidth", num(width))
		if s.Cap == "round" || s.Cap == "square" {
			set("strokeLineCap", s.Cap)
		}
		if s.Join == "round" || s.Join == "bevel" {
			set("strokeLineJoin", s.Join)
		} else if s.Miter != 4 && s.Miter > 0 {
			set("strokeMiterLimit", num(s.Miter))
		}
	}
	if gradient == "" {
		w.b.WriteString("/>\n")
		return nil
	}
	fmt.Fprintf(&w.b, ">\n%s%s</path>\n", gradient, indent)
	return nil
}

// argb is a colour as Android writes it: alpha first.
func argb(c color.Color, opacity float64) string {
	r, g, b, _ := c.RGBA8()
	a := int(math.Round(math.Min(1, math.Max(0, c.Alpha*opacity)) * 255))
	if a == 255 {
		return fmt.Sprintf("#%02X%02X%02X", r, g, b)
	}
	return fmt.Sprintf("#%02X%02X%02X%02X", a, r, g, b)
}

// gradient writes a gradient in the space of the viewport.
func (w *writer) gradient(g *design.Gradient, m geom.Matrix, opacity float64, indent string) (string, error) {
	m = m.Mul(g.Matrix)
	w.gradients = true
	var b strings.Builder
	fmt.Fprintf(&b, "%s<aapt:attr name=\"android:fillColor\">\n%s    <gradient", indent, indent)
	set := func(name, value string) {
		fmt.Fprintf(&b, "\n%s        android:%s=\"%s\"", indent, name, value)
	}
	if g.R1 > 0 {
		switch {
		case g.P0.Sub(g.P1).Len() > 1e-6*g.R1 || g.R0 > 1e-6*g.R1:
			return "", errors.New("a radial gradient has a focal point beside its centre")
		case !uniform(m):
			return "", errors.New("a radial gradient is stretched")
		}
		c := m.Apply(g.P1)
		set("type", "radial")
		set("centerX", num(c.X))
		set("centerY", num(c.Y))
		set("gradientRadius", num(g.R1*m.MeanScale()))
	} else {
		from, to, ok := g.Straight(m)
		if !ok {
			return "", errors.New("a gradient has no extent")
		}
		set("type", "linear")
		set("startX", num(from.X))
		set("startY", num(from.Y))
		set("endX", num(to.X))
		set("endY", num(to.Y))
	}
	if mode := map[string]string{"repeat": "repeat", "reflect": "mirror"}[g.Spread]; mode != "" {
		set("tileMode", mode)
	}
	b.WriteString(">\n")
	for _, s := range g.Stops {
		fmt.Fprintf(&b, "%s        <item\n%s            android:offset=\"%s\"\n%s            android:color=\"%s\"/>\n",
			indent, indent, num(s.Offset), indent, argb(s.Color, opacity))
	}
	fmt.Fprintf(&b, "%s    </gradient>\n%s</aapt:attr>\n", indent, indent)
	return b.String(), nil
}
