package job

import (
	"bytes"
	"fmt"
	"image"
	_ "image/gif" // pictures that somebody sends
	_ "image/jpeg"
	"math"
	"path/filepath"
	"slices"
	"strings"

	"archetyp/core/ask"
	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/diff"
	"archetyp/core/hint"
	"archetyp/core/paint/picture"
	"archetyp/core/paint/raster"
	"archetyp/workspace"

	_ "golang.org/x/image/webp"
)

// IsPicture reports whether a file is a picture by its name.
func IsPicture(name string) bool {
	return slices.Contains([]string{".png", ".jpg", ".jpeg", ".gif", ".webp"}, strings.ToLower(filepath.Ext(name)))
}

// mostPixels is how large a picture may be that is laid over another.
const mostPixels = 50_000_000

// ReadPicture reads a picture from a file; shown is its name for messages.
func ReadPicture(file, shown string) (*image.RGBA, error) {
	data, err := workspace.ReadFile(file, shown)
	if err != nil {
		return nil, err
	}
	config, _, err := image.DecodeConfig(bytes.NewReader(data))
	switch {
	case err != nil:
		return nil, hint.New(shown+": no picture that can be read: "+err.Error(), "PNG, JPEG, WebP and GIF are read.")
	case config.Width*config.Height > mostPixels:
		return nil, hint.New(fmt.Sprintf("%s: %d × %d pixels; more than %d million are not compared", shown, config.Width, config.Height, mostPixels/1_000_000), "Scale it down.")
	}
	img, _, err := image.Decode(bytes.NewReader(data))
	if err != nil {
		return nil, hint.New(shown+": the picture is damaged: "+err.Error(), "")
	}
	return picture.RGBA(img), nil
}

// OverlaySide is one of two pictures that are laid over each other: a screen of a source, or a picture.
type OverlaySide struct {
	Name    string
	Screen  *design.Screen // nil for a picture
	Picture *image.RGBA    // nil for a screen
}

// width is how wide a side is, in px; of a picture, in pixels.
func (s *OverlaySide) width() float64 {
	if s.Screen != nil {
		return s.Screen.Box.W
	}
	return float64(s.Picture.Rect.Dx())
}

func (s *OverlaySide) paint(density float64) (*image.RGBA, error) {
	if s.Picture != nil {
		return s.Picture, nil
	}
	subject := ask.OfScreen(s.Screen, false)
	return raster.Render(subject.Paint, raster.Options{View: subject.View, Density: density, Background: &color.White})
}

// OverlayOptions say how two pictures are laid over each other.
type OverlayOptions struct {
	Density   float64         // output pixels a px; 0 for that of a picture among the two, else 1
	Tolerance int             // 0–255 on each channel
	X, Y      float64         // px that the second is moved
	Best      bool            // by what fits best
	Align     *design.Element // by where this element of the first is in the second
	Show      string          // a way to show the difference; "" for none
}

// Overlaid is what came of it.
type Overlaid struct {
	*diff.Overlay
	Density  float64
	Elements map[string]*design.Element // by the name of their spot
	Shown    []byte                     // a PNG
	Second   *image.RGBA                // the picture that was laid over
}

// reach is how far the best place of a picture, or of an element to align by, is looked for, in px.
const reach = 48

// OverlayPictures lays the second picture over the first one.
func OverlayPictures(a, b *OverlaySide, o OverlayOptions) (*Overlaid, error) {
	out := &Overlaid{Density: o.Density, Elements: map[string]*design.Element{}}
	if out.Density == 0 {
		out.Density = densityOf(a, b)
	}
	var pair [2]*image.RGBA
	err := together(func() (err error) {
		pair[0], err = a.paint(out.Density)
		return err
	}, func() (err error) {
		pair[1], err = b.paint(out.Density)
		return err
	})
	if err != nil {
		return nil, err
	}
	if a.Picture != nil && b.Picture != nil && a.Picture.Rect.Dx() != b.Picture.Rect.Dx() && !o.Best {
		return nil, hint.New(fmt.Sprintf("%s is %d pixels wide, %s %d", a.Name, a.Picture.Rect.Dx(), b.Name, b.Picture.Rect.Dx()), "Scale one of them, or lay them over each other with --best.")
	}
	out.Second = pair[1]
	spots := out.spots(a)
	by := image.Pt(int(math.Round(o.X*out.Density)), int(math.Round(o.Y*out.Density)))
	far := int(math.Round(reach * out.Density))
	switch {
	case o.Best:
		by = diff.Best(pair[0], pair[1], far, o.Tolerance)
	case o.Align != nil:
		i := slices.IndexFunc(spots, func(s diff.Spot) bool { return out.Elements[s.Name] == o.Align })
		if i < 0 {
			return nil, hint.New(o.Align.Title()+" paints nothing to align by", "Choose another element.")
		}
		by = diff.BestOf(pair[0], pair[1], spots[i].Box, far, o.Tolerance)
	}
	out.Overlay = diff.Compare(pair[0], pair[1], by, spots, o.Tolerance)
	if o.Show != "" {
		out.Shown = showOverlay(o.Show, pair, out.Overlay, o.Tolerance)
	}
	return out, nil
}

// densityOf is the density that a picture among two sides has: a whole number of pixels for each px of the screen.
func densityOf(a, b *OverlaySide) float64 {
	for _, pair := range [][2]*OverlaySide{{a, b}, {b, a}} {
		if pair[0].Screen != nil && pair[1].Picture != nil {
			if k := math.Round(pair[1].width() / pair[0].width()); k >= 1 && math.Abs(pair[1].width()/pair[0].width()-k) < 0.02*k {
				return k
			}
		}
	}
	return 1
}

// spots are the elements of a screen that paint something themselves.
func (out *Overlaid) spots(a *OverlaySide) (spots []diff.Spot) {
	if a.Screen == nil {
		return nil
	}
	for _, e := range a.Screen.Elements {
		if e.Hidden || e.Kind == design.Group {
			continue
		}
		b := e.Painted.Value
		box := image.Rect(int(math.Floor(b.X*out.Density)), int(math.Floor(b.Y*out.Density)), int(math.Ceil(b.Right()*out.Density)), int(math.Ceil(b.Bottom()*out.Density)))
		name := e.Selector()
		if box.Empty() || out.Elements[name] != nil {
			continue
		}
		out.Elements[name] = e
		spots = append(spots, diff.Spot{Name: name, Box: box})
	}
	return spots
}

// showOverlay shows a difference, with the outlines of what is least alike.
func showOverlay(how string, pair [2]*image.RGBA, o *diff.Overlay, tolerance int) []byte {
	const most = 12
	a, b := pair[0], diff.Shifted(pair[1], o.By, pair[0].Rect)
	switch how {
	case "overlay":
		return picture.PNG(diff.Outlined(diff.Overlaid(a, b), o, most))
	case "split":
		return picture.PNG(diff.Beside(diff.Outlined(diff.Copy(a), o, most), diff.Outlined(b, o, most)))
	case "blink":
		return picture.Animation([]*image.RGBA{a, b}, blinking)
	}
	return picture.PNG(diff.Outlined(diff.Picture(a, b, tolerance), o, most))
}
