package audit

import (
	"cmp"
	"image"
	"slices"

	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/paint/raster"
)

// ground is the least contrast of a text with what lies under its glyphs, and the two colours that give it. ok is false
// where that cannot be known: nothing lies there, or the page was read without a browser.
func ground(e *design.Element) (ratio float64, text, under color.Color, ok bool) {
	if e.Screen.Document.Styles != nil {
		return pageGround(e)
	}
	text, plain := inkOf(e)
	if plain {
		if under, ok = plainGround(e); ok {
			return color.Contrast(text.Over(under), under), text, under, true
		}
	}
	var ink *color.Color
	if plain {
		ink = &text
	}
	return painted(e, ink)
}

// inkOf is the one colour that all of a text is set in; ok is false for several, and for gradients.
func inkOf(e *design.Element) (c color.Color, ok bool) {
	if e.Blend.Set || len(e.Words.Runs) == 0 {
		return c, false
	}
	for i, r := range e.Words.Runs {
		if r.Fill.Kind != design.Solid || i > 0 && r.Fill.Color != c {
			return c, false
		}
		c = r.Fill.Color
	}
	for a := e; a != nil; a = a.Parent {
		if a.Opacity.Set {
			c = c.WithAlpha(a.Opacity.Value)
		}
	}
	return c, c.Alpha > 0
}

// plainGround is the colour under a text where all of it lies on one opaque box of one colour, with nothing between.
func plainGround(e *design.Element) (c color.Color, ok bool) {
	ink := e.Painted.Value
	at := indexOf(e)
	for i := at - 1; i >= 0; i-- {
		o := e.Screen.Elements[i]
		if o.Hidden || o.Kind == design.Group {
			continue
		}
		box := o.Painted.Value
		if !o.Painted.Set {
			box = o.Geometry.Value
		}
		if common := box.Intersect(ink); common.W <= 0 || common.H <= 0 {
			continue
		}
		if o.Kind != design.Box || len(o.Fills) != 1 || o.Blend.Set || faded(o) || !o.Matrix.Upright() || o.Paint == nil || o.Paint.Filter != nil || o.Paint.Mask != nil || o.Paint.Clip != nil {
			return c, false
		}
		f := o.Fills[0].Value
		inner := o.Geometry.Value
		inset := 0.0
		for k := range o.Radii.Value.X {
			inset = max(inset, 0.3*o.Radii.Value.X[k]) // of a corner that is round, what lies outside of it
		}
		if o.Oval() {
			inset = 0.15 * max(inner.W, inner.H)
		}
		if f.Kind != design.Solid || f.Color.Alpha < 1 || !inner.Grow(-min(inset, inner.W/2, inner.H/2)).Contains(ink, 0) {
			return c, false
		}
		return f.Color, true
	}
	return c, false
}

func faded(e *design.Element) bool {
	for a := e; a != nil; a = a.Parent {
		if a.Opacity.Set && a.Opacity.Value < 1 || a.Blend.Set {
			return true
		}
	}
	return false
}

// indexOf is the place of an element among those of its screen, in paint order.
func indexOf(e *design.Element) int {
	for i, o := range e.Screen.Elements {
		if o == e {
			return i
		}
	}
	return 0
}

// sharpness is how many pixels a px is painted with to look under glyphs.
const sharpness = 2

// painted compares pixels: the screen without the text, and the text where its glyphs cover a pixel. The colour of the
// glyphs is ink over what is under them; where it is nil, that of the pixels they cover in full.
func painted(e *design.Element, ink *color.Color) (ratio float64, text, under color.Color, ok bool) {
	box := e.Painted.Value.Intersect(geom.Rect{W: e.Screen.Box.W, H: e.Screen.Box.H})
	if box.W <= 0 || box.H <= 0 {
		return 0, text, under, false
	}
	view := design.WholePixels(box)
	all, own := e.Screen.Picture(), map[*design.Element]bool{e: true}
	var pictures [3]*image.RGBA
	for i, p := range []*design.PaintNode{all, design.Without(all, own), design.Only(all, own)} {
		o := raster.Options{View: view, Density: sharpness}
		if i < 2 {
			o.Background = &color.White
		}
		var err error
		if pictures[i], err = raster.Render(design.Near(p, view), o); err != nil {
			return 0, text, under, false
		}
	}
	share := stain
	if e.Words.Missing { // words in another face reach over what their own would not
		share = 0.5
	}
	return leastContrast(pictures[0], pictures[1], pictures[2], ink, share)
}

// stain is the share of a text that may be hard to read without the whole being so.
const stain = 0.05

// leastContrast is the contrast that all pixels have that glyphs cover, but for a share (0–1) of them: a stain of a few
// pixels makes nothing hard to read. ok is false where something else is painted over most of the text.
func leastContrast(front, back, mask *image.RGBA, ink *color.Color, share float64) (ratio float64, text, under color.Color, ok bool) {
	most := uint8(0)
	for i := 3; i < len(mask.Pix); i += 4 {
		most = max(most, mask.Pix[i])
	}
	if most < 24 {
		return 0, text, under, false
	}
	least := most - most/16
	if ink != nil {
		least = most / 2
	}
	type pixel struct {
		ratio       float64
		text, under color.Color
	}
	var seen []pixel
	covered := 0
	known := map[[2]uint32]float64{}
	for i := 0; i < len(mask.Pix); i += 4 {
		if mask.Pix[i+3] < least {
			continue
		}
		covered++
		a, b := color.RGB8(front.Pix[i], front.Pix[i+1], front.Pix[i+2]), color.RGB8(back.Pix[i], back.Pix[i+1], back.Pix[i+2])
		if ink != nil {
			shown := a
			if a = ink.Over(b); mask.Pix[i+3] > 250 && color.Difference(a, shown) > 0.15 {
				continue // something is painted over it
			}
		}
		key := [2]uint32{packed(a), packed(b)}
		r, judged := known[key]
		if !judged {
			r = color.Contrast(a, b)
			known[key] = r
		}
		seen = append(seen, pixel{r, a, b})
	}
	if len(seen) == 0 || 2*len(seen) < covered {
		return 0, text, under, false
	}
	slices.SortFunc(seen, func(x, y pixel) int { return cmp.Compare(x.ratio, y.ratio) })
	p := seen[int(share*float64(len(seen)))]
	return p.ratio, p.text, p.under, true
}

// packed is a colour as one number of 24 bits.
func packed(c color.Color) uint32 {
	r, g, b, _ := c.RGBA8()
	return uint32(r)<<16 | uint32(g)<<8 | uint32(b)
}

// pageGround is the colour under a text of a page: the nearest background around it that is opaque, where no picture
// lies between.
func pageGround(e *design.Element) (ratio float64, text, under color.Color, ok bool) {
	if len(e.Words.Runs) == 0 || e.Words.Runs[0].Fill.Kind != design.Solid {
		return 0, text, under, false
	}
	text = e.Words.Runs[0].Fill.Color
	styles := e.Screen.Document.Styles
	under = color.White
	for a := e; a != nil; a = a.Parent {
		if a.Shape == "#text" {
			continue
		}
		if v, _ := styles.Computed(a.Node, "background-image"); v != "none" && v != "" {
			return 0, text, under, false
		}
		if v, _ := styles.Computed(a.Node, "opacity"); v != "1" && v != "" {
			return 0, text, under, false
		}
		v, _ := styles.Computed(a.Node, "background-color")
		c, err := color.Parse(v)
		if err != nil || c.Alpha == 0 {
			if p, _ := styles.Computed(a.Node, "position"); p == "absolute" || p == "fixed" { // it may lie on anything
				return 0, text, under, false
			}
			continue
		}
		if c.Alpha < 1 {
			return 0, text, under, false
		}
		under = c
		break
	}
	return color.Contrast(text.Over(under), under), text, under, true
}
