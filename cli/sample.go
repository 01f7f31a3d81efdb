package cli

import (
	"cmp"
	"fmt"
	"image"
	"strconv"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/paint/raster"

	"github.com/spf13/cobra"
)

func (a *app) sampleCmd() *cobra.Command {
	size, on := 1, ""
	var bare valueFlags
	c := &cobra.Command{
		Use:   "sample SOURCE X,Y...",
		Short: "Tell the colour at points of a screen: as painted, and of the element there",
		Long: long(`Tell the colour at points of a screen, in px from its corner: what all that is painted there comes to, and the colour of
the topmost element by itself, with its path and the nearest token. Two points on one gradient give the whole gradient.`),
		Example: example("archetyp sample design/booking.svg 195,776", "archetyp sample design/booking.svg 20,10 380,100", "archetyp sample design/poster.ora 210,60 --size 5"),
		Args: func(c *cobra.Command, args []string) error {
			return between(2, 1000, "a SOURCE and points")(c, args)
		},
		RunE: func(_ *cobra.Command, args []string) error {
			if size < 1 || size > 1000 {
				return fmt.Errorf("--size %d: a number of px from 1 to 1000 is wanted", size)
			}
			var points []geom.Point
			for _, p := range args[1:] {
				at, err := parsePoint(p)
				if err != nil {
					return err
				}
				points = append(points, at)
			}
			doc, ws, err := a.source(args[0])
			if err != nil {
				return err
			}
			screen, err := a.screen(doc, on)
			if err != nil {
				return err
			}
			s := &sampler{app: a, screen: screen, size: float64(size)}
			if s.names, err = a.tokenNames(ws, doc); err != nil {
				return err
			}
			return a.answer(&bare, func() error { return s.answer(doc, points, &bare) })
		},
	}
	bare.add(c, "painted, own, rgb, oklch, token, element")
	c.Flags().IntVar(&size, "size", 1, "average a square of `N` px around each point")
	c.Flags().StringVar(&on, "screen", "", "the screen's `NAME` (default: the first)")
	return c
}

func parsePoint(arg string) (geom.Point, error) {
	x, y, ok := strings.Cut(arg, ",")
	px, err1 := strconv.ParseFloat(strings.TrimSpace(x), 64)
	py, err2 := strconv.ParseFloat(strings.TrimSpace(y), 64)
	if !ok || err1 != nil || err2 != nil {
		return geom.Point{}, hint(fmt.Sprintf("%q is no point", arg), "X,Y in px is wanted, such as 195,776.")
	}
	return geom.Point{X: px, Y: py}, nil
}

type sampler struct {
	*app
	screen *design.Screen
	names  tokenNames
	size   float64
}

type colourJSON struct {
	Hex   string `json:"hex"`
	RGB   string `json:"rgb"`
	OKLCH string `json:"oklch"`
}

func colourOf(c color.Color) colourJSON {
	return colourJSON{c.Hex(), rgbText(c), c.To(color.OKLCH).CSS()}
}

// rgbText is a colour as the CSS function in whole steps.
func rgbText(c color.Color) string {
	r, g, b, _ := c.RGBA8()
	if c.Alpha < 1 {
		return fmt.Sprintf("rgb(%d %d %d / %s)", r, g, b, css.Num(c.Alpha, 3))
	}
	return fmt.Sprintf("rgb(%d %d %d)", r, g, b)
}

type sampleJSON struct {
	X          float64     `json:"x"`
	Y          float64     `json:"y"`
	Painted    colourJSON  `json:"painted"`
	Own        *colourJSON `json:"own,omitempty"`
	By         string      `json:"by,omitempty"` // fill, stroke or picture
	Element    string      `json:"element,omitempty"`
	Selector   string      `json:"selector,omitempty"`
	Path       string      `json:"path,omitempty"`
	Token      string      `json:"token,omitempty"`
	Difference float64     `json:"difference,omitempty"` // of the nearest token, as ΔEOK; no token where none is near
	Gradient   string      `json:"gradient,omitempty"`
	Note       string      `json:"note,omitempty"` // of a token that has another value now
	hit        *design.Hit
	painted    color.Color
	own        color.Color
}

func (s *sampler) answer(doc *design.Document, points []geom.Point, bare *valueFlags) error {
	var all []sampleJSON
	for _, p := range points {
		one, err := s.at(p)
		if err != nil {
			return fmt.Errorf("%s: %w", doc.Name, err)
		}
		all = append(all, one)
	}
	shareGradients(all)
	if bare.name != "" {
		return s.values(all, bare)
	}
	if s.json {
		return s.printJSON(map[string]any{"source": doc.Name, "screen": s.screen.Name, "size": s.size, "samples": all})
	}
	t := s.term
	for i := range all {
		p := &all[i]
		if i > 0 {
			s.print("\n")
		}
		s.print("%s  %s\n", t.bold(num(p.X)+", "+num(p.Y)), t.dim(p.where()))
		rows := [][]string{{t.dim("painted"), t.swatch(p.painted) + p.Painted.Hex, p.Painted.RGB, p.Painted.OKLCH}}
		if p.Own != nil {
			rows = append(rows, []string{t.dim("own " + p.By), t.swatch(p.own) + p.Own.Hex, p.Own.RGB, p.Own.OKLCH})
		}
		s.print("%s", t.table(nil, rows))
		switch {
		case p.Token != "" && p.Difference == 0:
			s.print("%s %s\n", t.dim("token   "), cmp.Or(p.Note, p.Token))
		case p.Token != "":
			s.print("%s %s %s\n", t.dim("nearest "), p.Token, t.dim("differs by "+css.Num(p.Difference, 4)+" ΔEOK"))
		}
		if p.Gradient != "" {
			s.print("%s %s\n", t.dim("gradient"), p.Gradient)
		}
	}
	return nil
}

// values prints one value of each point.
func (s *sampler) values(all []sampleJSON, bare *valueFlags) error {
	var lines []string
	for i := range all {
		p := &all[i]
		list := []valueOf{{"painted", p.Painted.Hex}, {"rgb", p.Painted.RGB}, {"oklch", p.Painted.OKLCH}}
		for _, n := range []valueOf{{"token", p.Token}, {"element", p.Selector}, {"gradient", p.Gradient}} {
			if n.value != "" {
				list = append(list, n)
			}
		}
		if p.Own != nil {
			list = append(list, valueOf{"own", p.Own.Hex})
		}
		v, err := bare.value(num(p.X)+", "+num(p.Y), list)
		if err != nil {
			return err
		}
		lines = append(lines, v)
	}
	s.print("%s\n", block(strings.Join(lines, "\n")))
	return nil
}

func (p *sampleJSON) where() string {
	if p.hit == nil {
		return "nothing is painted there"
	}
	return p.Path + "  ·  " + p.Selector
}

// nearColour is the largest difference at which people would call two colours near, as ΔEOK: 0.02 is just seen.
// https://www.w3.org/TR/css-color-4/#color-difference-OK
const nearColour = 0.05

// at samples one point, or the square around it.
func (s *sampler) at(p geom.Point) (sampleJSON, error) {
	out := sampleJSON{X: p.X, Y: p.Y}
	box := geom.Rect{W: s.screen.Box.W, H: s.screen.Box.H}
	if p.X < 0 || p.Y < 0 || p.X >= box.W || p.Y >= box.H {
		return out, hint(fmt.Sprintf("%s, %s lies off the screen", num(p.X), num(p.Y)), fmt.Sprintf("%s is %s × %s px.", s.screen.Name, num(box.W), num(box.H)))
	}
	view := geom.Rect{X: p.X - 0.5, Y: p.Y - 0.5, W: 1, H: 1}
	if s.size == 1 { // the pixel the point lies in
		view.X, view.Y = float64(int(p.X)), float64(int(p.Y))
	} else {
		view = geom.Rect{X: float64(int(p.X - s.size/2 + 0.5)), Y: float64(int(p.Y - s.size/2 + 0.5)), W: s.size, H: s.size}.Intersect(box)
	}
	img, err := raster.Render(design.Near(s.screen.Picture(), view), raster.Options{Density: 1, View: view})
	if err != nil {
		return out, err
	}
	out.painted = raster.Mean(img, image.Rectangle{Max: img.Rect.Size()})
	out.Painted = colourOf(out.painted)
	nearest, use := out.painted, "surface"
	at := geom.Point{X: view.X + view.W/2, Y: view.Y + view.H/2}
	if s.size == 1 {
		at = p
	}
	if hits := s.screen.Hits(at); len(hits) > 0 {
		h := hits[0]
		out.hit = &h
		out.Element, out.Selector, out.Path = h.Element.Name, h.Element.Selector(), h.Element.Path
		if own, by, ok := h.Color(); ok {
			c := colourOf(own)
			out.own, out.Own, out.By = own, &c, by
			if by != "pixel" {
				nearest = own
			}
			switch {
			case h.Stroke:
				use = "border"
			case h.Element.Words != nil:
				use = "text"
			case h.Element.Kind == design.Path:
				use = "icon"
			}
			if found := s.names.Find(h.Element, "color:"+use, own.CSS()); found.Path != "" && by != "pixel" {
				out.Token = found.Path
				if found.Behind {
					out.Note = s.names.say(found)
				}
				return out, nil
			}
		}
	}
	if set := s.names.Tokens(); set != nil {
		out.Token, out.Difference = set.NearestColor(nearest, use)
		if out.Difference = design.Tidy(out.Difference); out.Difference > nearColour {
			out.Token, out.Difference = "", 0
		}
	}
	return out, nil
}

// shareGradients tells the gradient of points that lie on the same one, two at least.
func shareGradients(all []sampleJSON) {
	for i := range all {
		a := all[i].hit.Gradient()
		for k := range all {
			if b := all[k].hit.Gradient(); i != k && a != nil && b != nil && all[i].hit.Element == all[k].hit.Element && a.Gradient == b.Gradient {
				all[i].Gradient, _ = all[i].hit.Element.PaintCSS(*a)
			}
		}
	}
}
