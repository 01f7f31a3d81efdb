package fit

import (
	"fmt"
	"image"
	"image/draw"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/geom"
	"archetyp/core/markup"
	"archetyp/core/paint/raster"
	"archetyp/core/read/svg"
)

// Frame is a place to point at in a picture.
type Frame struct {
	Box   geom.Rect // px of the screen
	Label string    // a number, or nothing
	Bad   bool      // in the colour of a fault
}

// Paint paints a screen at a density, on white.
func Paint(s *design.Screen, density float64) (*image.RGBA, error) {
	img, err := raster.Render(s.Picture(), raster.Options{View: geom.Rect{W: s.Box.W, H: s.Box.H}, Density: density})
	if err != nil {
		return nil, err
	}
	out := image.NewRGBA(img.Bounds())
	draw.Draw(out, out.Bounds(), image.White, image.Point{}, draw.Src)
	draw.Draw(out, out.Bounds(), img, image.Point{}, draw.Over)
	return out, nil
}

// Point dims a picture of a screen but for the frames, and numbers them.
func Point(img *image.RGBA, screen geom.Rect, frames []Frame, fonts *font.Set) (*image.RGBA, error) {
	var b strings.Builder
	n := func(v float64) string { return css.Num(v, 2) }
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" width="%s" height="%s"><path fill-rule="evenodd" fill="#0b1620" fill-opacity="0.55" d="M0 0H%sV%sH0Z`, n(screen.W), n(screen.H), n(screen.W), n(screen.H))
	for _, f := range frames {
		r := f.Box.Grow(4)
		fmt.Fprintf(&b, "M%s %sH%sV%sH%sZ", n(r.X), n(r.Y), n(r.Right()), n(r.Bottom()), n(r.X))
	}
	b.WriteString(`"/>`)
	for _, f := range frames {
		r := f.Box.Grow(4)
		color := "#ffb000"
		if f.Bad {
			color = "#ff4d5e"
		}
		fmt.Fprintf(&b, `<rect x="%s" y="%s" width="%s" height="%s" rx="4" fill="none" stroke="%s" stroke-width="2"/>`,
			n(r.X), n(r.Y), n(r.W), n(r.H), color)
		if f.Label != "" {
			w := 8 + 7*float64(len(f.Label))
			x := min(max(0, r.X-w/2), screen.W-w)
			y := max(0, r.Y-9)
			fmt.Fprintf(&b, `<rect x="%s" y="%s" width="%s" height="18" rx="9" fill="%s"/><text x="%s" y="%s" font-family="sans-serif" font-weight="700" font-size="12" text-anchor="middle" fill="#0b1620">%s</text>`,
				n(x), n(y), n(w), color, n(x+w/2), n(y+13.5), markup.EscapeText(f.Label))
		}
	}
	b.WriteString("</svg>")
	return over(img, b.String(), screen, fonts)
}

// over paints SVG over a copy of a picture.
func over(img *image.RGBA, drawing string, screen geom.Rect, fonts *font.Set) (*image.RGBA, error) {
	doc, err := svg.Read("overlay", []byte(drawing), svg.Options{Fonts: fonts})
	if err != nil {
		return nil, err
	}
	top, err := raster.Render(doc.Screens[0].Paint, raster.Options{View: screen,
		Density: float64(img.Bounds().Dx()) / screen.W})
	if err != nil {
		return nil, err
	}
	out := image.NewRGBA(img.Bounds())
	draw.Draw(out, out.Bounds(), img, image.Point{}, draw.Src)
	draw.Draw(out, out.Bounds(), top, image.Point{}, draw.Over)
	return out, nil
}

// Sheet lays pictures side by side, each under a caption.
func Sheet(pictures []*image.RGBA, captions []string, density float64, fonts *font.Set) (*image.RGBA, error) {
	const gap, head = 24.0, 40.0
	w, h := gap, 0.0
	for _, p := range pictures {
		w += float64(p.Bounds().Dx())/density + gap
		h = max(h, float64(p.Bounds().Dy())/density)
	}
	var b strings.Builder
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" width="%s" height="%s"><rect width="100%%" height="100%%" fill="#dfe5ea"/>`, css.Num(w, 2), css.Num(h+head+gap, 2))
	x := gap
	for i, p := range pictures {
		fmt.Fprintf(&b, `<text x="%s" y="26" font-family="sans-serif" font-weight="700" font-size="15" fill="#22303c">%s</text>`, css.Num(x, 2), markup.EscapeText(captions[i]))
		x += float64(p.Bounds().Dx())/density + gap
	}
	b.WriteString("</svg>")
	area := geom.Rect{W: w, H: h + head + gap}
	doc, err := svg.Read("sheet", []byte(b.String()), svg.Options{Fonts: fonts})
	if err != nil {
		return nil, err
	}
	out, err := raster.Render(doc.Screens[0].Paint, raster.Options{View: area, Density: density})
	if err != nil {
		return nil, err
	}
	at := gap
	for _, p := range pictures {
		to := image.Pt(int(at*density), int(head*density))
		draw.Draw(out, p.Bounds().Add(to), p, image.Point{}, draw.Over)
		at += float64(p.Bounds().Dx())/density + gap
	}
	return out, nil
}
