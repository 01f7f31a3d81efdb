package job

import (
	"bytes"
	"image"
	"math"

	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/diff"
	"archetyp/core/font"
	"archetyp/core/geom"
	"archetyp/core/paint/picture"
	"archetyp/core/paint/raster"
	"archetyp/workspace"

	xdraw "golang.org/x/image/draw"
)

// pictureLikeness says how like a picture of a page is to what an element of a drawing shows: both on the element's frame,
// two pixels a px.
func pictureLikeness(e *design.Element, p *design.PagePicture) (share float64, ok bool) {
	const density, most = 2, 2048 // px a side
	frame := e.Frame()
	if frame.W <= 0 || frame.H <= 0 || frame.W > most || frame.H > most {
		return 0, false
	}
	was, err := raster.Render(design.Alone(e), raster.Options{View: frame, Density: density, Background: &color.White})
	if err != nil {
		return 0, false
	}
	is, ok := pagePicture(p, frame, density)
	if !ok {
		return 0, false
	}
	share, ok = diff.Likeness(was, is, was.Rect, diff.Plain(was), 32)
	return share, ok
}

// pagePicture is a picture of a page, as large as a frame.
func pagePicture(p *design.PagePicture, frame geom.Rect, density float64) (*image.RGBA, bool) {
	out := image.NewRGBA(image.Rect(0, 0, int(math.Ceil(frame.W*density)), int(math.Ceil(frame.H*density))))
	xdraw.Draw(out, out.Rect, image.White, image.Point{}, xdraw.Src)
	if p.Format != "svg" {
		img, _, err := image.Decode(bytes.NewReader(p.Data))
		if err != nil {
			return nil, false
		}
		xdraw.CatmullRom.Scale(out, out.Rect, img, img.Bounds(), xdraw.Over, nil)
		return out, true
	}
	doc, err := workspace.ParseDrawing(p.Data, workspace.Drawing{Shown: p.Name, Fonts: &font.Set{}})
	if err != nil || len(doc.Screens) == 0 {
		return nil, false
	}
	s := doc.Screens[0]
	if s.Box.W <= 0 || s.Box.H <= 0 {
		return nil, false
	}
	k := math.Min(frame.W/s.Box.W, frame.H/s.Box.H) * density
	img, err := raster.Render(s.Root.Paint, raster.Options{View: s.Box, Density: k, Background: &color.White})
	if err != nil {
		return nil, false
	}
	at := image.Pt((out.Rect.Dx()-img.Bounds().Dx())/2, (out.Rect.Dy()-img.Bounds().Dy())/2)
	xdraw.Draw(out, img.Bounds().Add(at), picture.RGBA(img), image.Point{}, xdraw.Src)
	return out, true
}
