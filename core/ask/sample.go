package ask

import (
	"fmt"
	"image"
	"strconv"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/paint/raster"
	"archetyp/core/token"
	"archetyp/core/token/emit"
)

// Sampler tells colours of a screen.
type Sampler struct {
	Screen *design.Screen
	Tokens *emit.Finder
	Set    *token.Set // for the nearest token; may be nil
	Size   float64    // px of the square around each point; 1 for the pixel alone
}

// Colour is a colour in three notations.
type Colour struct {
	Hex   string `json:"hex"`
	RGB   string `json:"rgb"`
	OKLCH string `json:"oklch"`

	Color color.Color `json:"-"`
}

func colourOf(c color.Color) Colour { return Colour{c.Hex(), rgbText(c), c.To(color.OKLCH).CSS(), c} }

// rgbText is a colour as the CSS function in whole steps.
func rgbText(c color.Color) string {
	r, g, b, _ := c.RGBA8()
	if c.Alpha < 1 {
		return fmt.Sprintf("rgb(%d %d %d / %s)", r, g, b, css.Num(c.Alpha, 3))
	}
	return fmt.Sprintf("rgb(%d %d %d)", r, g, b)
}

// Sample is the colour at a point, in px from the screen's corner: what all that is painted there comes to, and the
// colour of the topmost element by itself.
type Sample struct {
	X          float64 `json:"x"`
	Y          float64 `json:"y"`
	Painted    Colour  `json:"painted"`
	Own        *Colour `json:"own,omitempty"`
	By         string  `json:"by,omitempty"` // fill, stroke or picture
	Element    string  `json:"element,omitempty"`
	Selector   string  `json:"selector,omitempty"`
	Path       string  `json:"path,omitempty"`
	Token      string  `json:"token,omitempty"`
	Difference float64 `json:"difference,omitempty"` // of the nearest token, as ΔEOK; no token where none is near
	Gradient   string  `json:"gradient,omitempty"`
	Note       string  `json:"note,omitempty"` // of a token that has another value now
	hit        *design.Hit
}

// Hit reports whether an element is painted there.
func (s *Sample) Hit() bool { return s.hit != nil }

// OffScreen is the error for a point that lies off the screen.
type OffScreen struct {
	At     geom.Point
	Screen *design.Screen
}

func (e *OffScreen) Error() string {
	return css.Num(e.At.X, 2) + ", " + css.Num(e.At.Y, 2) + " lies off the screen"
}

// At samples points, given as X,Y in px. Two on one gradient give the whole gradient.
func (s *Sampler) At(points []string) ([]Sample, error) {
	places := make([]geom.Point, len(points))
	for i, text := range points {
		p, ok := parsePoint(text)
		if !ok {
			return nil, &PointError{text}
		}
		places[i] = p
	}
	var all []Sample
	for _, p := range places {
		one, err := s.at(p)
		if err != nil {
			return nil, err
		}
		all = append(all, one)
	}
	shareGradients(all)
	return all, nil
}

// nearColour is the largest difference at which people would call two colours near, as ΔEOK: 0.02 is just seen.
// https://www.w3.org/TR/css-color-4/#color-difference-OK
const nearColour = 0.05

// at samples one point, or the square around it.
func (s *Sampler) at(p geom.Point) (Sample, error) {
	out := Sample{X: p.X, Y: p.Y}
	box := geom.Rect{W: s.Screen.Box.W, H: s.Screen.Box.H}
	if p.X < 0 || p.Y < 0 || p.X >= box.W || p.Y >= box.H {
		return out, &OffScreen{p, s.Screen}
	}
	view, at := s.around(p, box)
	img, err := raster.Render(design.Near(s.Screen.Picture(), view), raster.Options{Density: 1, View: view})
	if err != nil {
		return out, err
	}
	out.Painted = colourOf(raster.Mean(img, image.Rectangle{Max: img.Rect.Size()}))
	nearest, use := out.Painted.Color, "surface"
	if hits := s.Screen.Hits(at); len(hits) > 0 {
		h := &hits[0]
		out.hit, out.Element, out.Selector, out.Path = h, h.Element.Name, h.Element.Selector(), h.Element.Path
		if own, by, ok := h.Color(); ok {
			c := colourOf(own)
			out.Own, out.By, use = &c, by, useOf(h)
			if by != "pixel" {
				nearest = own
				if found := s.Tokens.Find(h.Element, "color:"+use, own.CSS()); found.Path != "" {
					out.Token, out.Note = found.Path, Note(s.Set, found)
					return out, nil
				}
			}
		}
	}
	if s.Set != nil {
		out.Token, out.Difference = s.Set.NearestColor(nearest, use)
		if out.Difference = design.Tidy(out.Difference); out.Difference > nearColour {
			out.Token, out.Difference = "", 0
		}
	}
	return out, nil
}

// around is the square to average around a point, and the point whose element counts.
func (s *Sampler) around(p geom.Point, box geom.Rect) (view geom.Rect, at geom.Point) {
	if s.Size == 1 { // the pixel the point lies in
		return geom.Rect{X: float64(int(p.X)), Y: float64(int(p.Y)), W: 1, H: 1}, p
	}
	view = geom.Rect{X: float64(int(p.X - s.Size/2 + 0.5)), Y: float64(int(p.Y - s.Size/2 + 0.5)), W: s.Size, H: s.Size}
	view = view.Intersect(box)
	return view, geom.Point{X: view.X + view.W/2, Y: view.Y + view.H/2}
}

// useOf is what the colour of a hit is used for, as names of colours tell it.
func useOf(h *design.Hit) string {
	switch {
	case h.Stroke:
		return "border"
	case h.Element.Words != nil:
		return "text"
	case h.Element.Kind == design.Path:
		return "icon"
	}
	return "surface"
}

// Note is a token and its value where the drawing shows another; "" where it does not.
func Note(set *token.Set, f emit.Found) string {
	if !f.Behind {
		return ""
	}
	return f.Path + ", which is " + emit.Literal(set, set.Get(f.Path)) + " now"
}

// shareGradients gives the gradient of points that lie on the same one, two at least.
func shareGradients(all []Sample) {
	for i := range all {
		a := all[i].hit.Gradient()
		for k := range all {
			if b := all[k].hit.Gradient(); i != k && a != nil && b != nil && all[i].hit.Element == all[k].hit.Element &&
				a.Gradient == b.Gradient {
				all[i].Gradient, _ = all[i].hit.Element.PaintCSS(*a)
			}
		}
	}
}

// PointError is the error for what is no point.
type PointError struct{ Text string }

func (e *PointError) Error() string { return fmt.Sprintf("%q is no point", e.Text) }

// parsePoint reads X,Y in px.
func parsePoint(text string) (p geom.Point, ok bool) {
	x, y, ok := strings.Cut(text, ",")
	px, err1 := strconv.ParseFloat(strings.TrimSpace(x), 64)
	py, err2 := strconv.ParseFloat(strings.TrimSpace(y), 64)
	return geom.Point{X: px, Y: py}, ok && err1 == nil && err2 == nil
}
