package svg

import (
	"bytes"
	"encoding/base64"
	"errors"
	"fmt"
	"image"
	"net/url"
	"strings"

	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

// image reads an <image>: a bitmap in a data address or a linked file.
func (b *builder) image(e *design.Element, n *markup.Node, c context) {
	e.Kind = design.Image
	box := b.xywh(n, c)
	href := n.Href()
	bm := design.Bitmap{Href: href}
	if len(bm.Href) > 64 && strings.HasPrefix(href, "data:") {
		bm.Href = href[:32] + "…"
	}
	data, err := b.imageBytes(href)
	if err == nil && isSVG(data) {
		b.drawing(e, c, bm, data, box)
		return
	}
	var img image.Image
	if err == nil {
		img, err = b.pictures.bitmap(b, data)
	}
	if href == "" {
		err = fmt.Errorf("no address given")
	}
	if err != nil {
		b.warn(n, fmt.Sprintf("the picture %s was not read: %v", bm.Href, err))
	} else {
		bm.Width, bm.Height = img.Bounds().Dx(), img.Bounds().Dy()
		box = natural(box, float64(bm.Width), float64(bm.Height))
	}
	e.Bitmap = design.State(bm, "href attribute")
	e.Geometry = design.State(c.ctm.Rect(box), "x, y, width, height")
	if !c.ctm.Upright() {
		e.Geometry = design.Derive(c.ctm.Rect(box), "box of the turned picture")
	}
	e.Layout = e.Geometry
	c = b.effects(e, n, c)
	c = b.boxEffects(e, n, c, box)
	e.Hidden = c.hidden || c.style.invisible() || e.Paint.Opacity == 0
	if img != nil && err == nil && !c.style.invisible() && box.W > 0 && box.H > 0 {
		vb := geom.Rect{W: float64(bm.Width), H: float64(bm.Height)}
		m := fit(vb, box, n.AttrOr("preserveAspectRatio", ""))
		inner := &design.PaintNode{Matrix: geom.Identity, Opacity: 1, Bitmap: img, BitmapBox: m.Rect(vb), File: data,
			Element:   e,
			Pixelated: strings.Contains(c.style.str("image-rendering", ""), "pixelated")}
		if strings.Contains(n.AttrOr("preserveAspectRatio", ""), "slice") {
			inner.Clip = &design.Clip{Shapes: []*design.PaintNode{{Matrix: geom.Identity, Opacity: 1, Path: box.Path()}}}
		}
		e.Paint.Children = append(e.Paint.Children, inner)
	}
	e.Painted = design.Derive(b.paintedBox(e, e.Geometry.Value, c), "the picture and effects")
	b.recogniseFilter(e, c)
}

// natural gives a box the width or height it lacks, by the picture's own size.
func natural(box geom.Rect, w, h float64) geom.Rect {
	switch {
	case box.W == 0 && box.H == 0:
		box.W, box.H = w, h
	case box.W == 0:
		box.W = box.H * w / h
	case box.H == 0:
		box.H = box.W * h / w
	}
	return box
}

// isSVG reports whether bytes are an SVG file rather than a bitmap.
func isSVG(data []byte) bool {
	return bytes.HasPrefix(bytes.TrimSpace(data), []byte("<")) || bytes.HasPrefix(data, []byte("\x1f\x8b"))
}

const mostNested = 4 // drawings inside drawings

var errNested = fmt.Errorf("drawings inside drawings, more than %d deep", mostNested)

// drawing reads a picture that is itself an SVG file: it is painted into its box, and its parts are no elements.
func (b *builder) drawing(e *design.Element, c context, bm design.Bitmap, data []byte, box geom.Rect) {
	n := e.Node
	inner, err := b.inside(bm.Href, data, !strings.HasPrefix(bm.Href, "data:")) // an embedded drawing links to nothing
	var over *markup.Error
	if errors.As(err, &over) && over.Hint != "" { // a limit of the whole drawing
		b.fail(n, "the picture %s: %s", bm.Href, over.Msg)
		b.failed.Hint = over.Hint
	}
	if err != nil {
		b.warn(n, fmt.Sprintf("the picture %s was not read: %v", bm.Href, err))
	} else {
		s := inner.Screens[0]
		bm.Width, bm.Height = int(s.Box.W+0.5), int(s.Box.H+0.5)
		box = natural(box, s.Box.W, s.Box.H)
	}
	e.Bitmap = design.State(bm, "href attribute")
	e.Geometry = design.State(c.ctm.Rect(box), "x, y, width, height")
	e.Layout = e.Geometry
	c = b.boxEffects(e, n, b.effects(e, n, c), box)
	e.Hidden = c.hidden || c.style.invisible() || e.Paint.Opacity == 0
	if inner != nil && !e.Hidden && box.W > 0 && box.H > 0 {
		s := inner.Screens[0]
		m := fit(geom.Rect{W: s.Box.W, H: s.Box.H}, box, n.AttrOr("preserveAspectRatio", ""))
		s.Paint.Walk(geom.Identity, func(p *design.PaintNode, _ geom.Matrix) { p.Element = e })
		e.Paint.Children = append(e.Paint.Children, &design.PaintNode{Matrix: m, Opacity: 1,
			Children: []*design.PaintNode{s.Paint}, Element: e,
			Clip: &design.Clip{Shapes: []*design.PaintNode{{Matrix: geom.Identity, Opacity: 1, Path: geom.Rect{W: s.Box.W,
				H: s.Box.H}.Path()}}}})
	}
	e.Painted = design.Derive(b.paintedBox(e, e.Geometry.Value, c), "the picture and effects")
	b.recogniseFilter(e, c)
}

func (b *builder) imageBytes(href string) ([]byte, error) {
	rest, ok := strings.CutPrefix(href, "data:")
	if !ok {
		return b.load(href)
	}
	head, body, ok := strings.Cut(rest, ",")
	if !ok {
		return nil, fmt.Errorf("a data address without data")
	}
	if strings.HasSuffix(head, ";base64") {
		clean := strings.Map(func(r rune) rune {
			if r <= ' ' {
				return -1
			}
			return r
		}, body)
		if u, err := url.PathUnescape(clean); err == nil {
			clean = u
		}
		data, err := base64.StdEncoding.DecodeString(clean)
		if err != nil {
			data, err = base64.RawStdEncoding.DecodeString(strings.TrimRight(clean, "="))
		}
		return data, err
	}
	s, err := url.PathUnescape(body)
	return []byte(s), err
}
