package asset

import (
	"fmt"
	"strings"

	"archetyp/core/code"
	"archetyp/core/design"
	"archetyp/core/geom"
)

// cssOf are the declarations that draw an element; ok is false where a style sheet cannot.
func cssOf(e *design.Element) (string, bool) {
	p := e.Paint
	if p == nil || p.Mask != nil || p.Filter != nil && len(e.Shadows) == 0 && !e.Blur.Set ||
		len(e.Fills)+len(e.Strokes) == 0 {
		return "", false
	}
	rounded, ok := clippedRadii(e)
	if !ok {
		return "", false
	}
	line := e.Kind != design.Box && straight(e)
	if e.Kind != design.Box && !line && rounded.Zero() && (!e.Form.Set || e.Form.Value == geom.FormLine) {
		return "", false
	}
	if !e.Matrix.Upright() && !e.Form.Set {
		return "", false
	}
	for _, f := range e.Fills {
		if f.Value.Kind == design.Pattern {
			return "", false
		}
	}
	for _, s := range e.Strokes {
		if s.Value.Paint.Kind != design.Solid || len(s.Value.Dashes) > 0 && s.Value.Cap == "round" {
			return "", false
		}
	}
	if line {
		s := e.Strokes[0].Value
		side := "border-top"
		if b := e.Geometry.Value; b.H > b.W {
			side = "border-left"
		}
		style := "solid"
		if len(s.Dashes) > 0 {
			style = "dashed"
		}
		return fmt.Sprintf("%s: %spx %s %s", side, num(s.Width), style, s.Paint.Color.CSS()), true
	}
	var out []string
	for _, d := range code.CSS(e, code.Options{Sizes: true})[0].Declarations {
		switch d.Prop {
		case "background", "background-color", "background-image", "border", "border-radius", "box-shadow", "opacity",
			"filter", "outline", "mix-blend-mode":
			out = append(out, d.Prop+": "+d.Value)
		}
	}
	if !rounded.Zero() {
		out = append(out, "border-radius: "+rounded.CSS())
	}
	return strings.Join(out, "; "), len(out) > 0
}

// clippedRadii are the corners that clips give a box, in px; ok is false where they make another form of it.
func clippedRadii(e *design.Element) (r design.Radii, ok bool) {
	p := e.Paint
	for c := p.Clip; c != nil; c = c.Clip {
		if len(c.Shapes) != 1 || len(c.Shapes[0].Glyphs) > 0 {
			return r, false
		}
		cut := c.Shapes[0].Path.Transform(c.Shapes[0].Matrix)
		if cut.IsRect() {
			continue
		}
		form, is := cut.Form(0.01)
		if !is || !r.Zero() || p.Path == nil || !p.Path.IsRect() || !e.Matrix.Upright() || e.Matrix.A < 0 || e.Matrix.D < 0 {
			return r, false
		}
		box, _ := p.Path.Bounds()
		box = box.Intersect(form.Box)
		for i, at := range [4]geom.Point{{X: box.X, Y: box.Y}, {X: box.Right(), Y: box.Y}, {X: box.Right(), Y: box.Bottom()},
			{X: box.X, Y: box.Bottom()}} {
			own := [4]geom.Point{{X: form.Box.X, Y: form.Box.Y}, {X: form.Box.Right(), Y: form.Box.Y},
				{X: form.Box.Right(), Y: form.Box.Bottom()}, {X: form.Box.X, Y: form.Box.Bottom()}}[i]
			if at.Sub(own).Len() < 0.01 {
				r.X[i], r.Y[i] = form.Radii[i].X*e.Matrix.A, form.Radii[i].Y*e.Matrix.D
				continue
			}
			inside := at.Add(geom.Point{X: box.X + box.W/2, Y: box.Y + box.H/2}.Sub(at).Mul(0.001))
			if !cut.Contains(inside, false) { // the curve of the cut goes through the box
				return r, false
			}
		}
	}
	return r, true
}

// straight reports whether an element is one level or upright line.
func straight(e *design.Element) bool {
	b := e.Geometry.Value
	return e.Paint.Path != nil && len(e.Strokes) == 1 && (b.W == 0) != (b.H == 0) && len(e.Paint.Path.Verbs) == 2
}

func cssWhy(e *design.Element) string {
	what := "a box"
	clipped, _ := clippedRadii(e)
	switch {
	case e.Oval():
		what = "a round box"
	case straight(e):
		return "CSS can draw it: a line"
	case e.Radii.Set && !e.Radii.Value.Zero(), !clipped.Zero():
		what = "a rounded box"
	}
	for _, f := range e.Fills {
		if f.Value.Kind != design.Solid {
			what += " with a gradient"
			break
		}
	}
	if len(e.Shadows) > 0 {
		what += " with a shadow"
	}
	return "CSS can draw it: " + what
}

// strip is a bitmap that repeats one row or column of its pixels.
type strip struct{ css, why string }

// stripOf finds a bitmap all of whose columns, or rows, are the same.
func stripOf(e *design.Element) (strip, bool) {
	var n *design.PaintNode
	e.Paint.Walk(geom.Identity, func(p *design.PaintNode, _ geom.Matrix) {
		if p.Bitmap != nil {
			n = p
		}
	})
	if n == nil {
		return strip{}, false
	}
	img, err := design.Pixels(n.Bitmap)
	if err != nil {
		return strip{}, false
	}
	return stripOfPixels(img)
}
