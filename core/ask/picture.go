package ask

import (
	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/paint/picture"
	"archetyp/core/paint/raster"
)

// Subject is what a picture is painted of: a paint tree, and the part of its screen that is shown, in px.
type Subject struct {
	Name  string
	Paint *design.PaintNode
	View  geom.Rect
}

// OfScreen is a whole screen. apart paints its layers, and not the picture of all that a source may bring along.
func OfScreen(s *design.Screen, apart bool) Subject {
	paint := s.Paint
	if !apart {
		paint = s.Picture()
	}
	return Subject{s.Name, paint, geom.Rect{W: s.Box.W, H: s.Box.H}}
}

// OfElement is an element alone, as large as what it paints.
func OfElement(e *design.Element) Subject {
	return Subject{e.Name, design.Alone(e), design.WholePixels(e.Painted.Value)}
}

// PNG paints a subject with so many output pixels for each px, on a background or on none. It gives the picture's size
// in pixels, too.
func (s Subject) PNG(density float64, background *color.Color) (data []byte, width, height int, err error) {
	img, err := raster.Render(s.Paint, raster.Options{View: s.View, Density: density, Background: background})
	if err != nil {
		return nil, 0, 0, err
	}
	return picture.PNG(img), img.Rect.Dx(), img.Rect.Dy(), nil
}
