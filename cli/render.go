package cli

import (
	"fmt"
	"image"
	"math"
	"path/filepath"
	"strings"

	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/paint/picture"
	"archetyp/core/paint/raster"

	"github.com/spf13/cobra"
)

func (a *app) renderCmd() *cobra.Command {
	var out, background, on string
	var hide, only []string
	at := 1.0
	c := &cobra.Command{
		Use:   "render SOURCE [SELECTOR] -o FILE",
		Short: "Paint a screen or an element as a PNG picture",
		Long:  long("Paint a screen, or what lies in an element's painted box with the element alone, as a PNG picture in any density. -o - writes to stdout."),
		Example: example("archetyp render design/timetable.svg -o timetable.png --at 2", "archetyp render design/components.svg '#icon-anchor' -o anchor.png --at 3",
			"archetyp render design/booking.svg -o empty.png --hide text"),
		Args: between(1, 2, "a SOURCE and perhaps a SELECTOR"),
		RunE: func(_ *cobra.Command, args []string) error {
			if out == "" {
				return hint("render needs -o FILE, the picture to write", "For example: archetyp render "+args[0]+" -o picture.png")
			}
			if err := pngName(out); err != nil {
				return err
			}
			if !(at > 0) || at > 64 {
				return fmt.Errorf("--at %g: a density between 0 and 64 is wanted", at)
			}
			o := raster.Options{Density: at}
			if background != "" {
				col, err := color.Parse(background)
				if err != nil {
					return fmt.Errorf("--background: %w", err)
				}
				o.Background = &col
			}
			doc, _, err := a.source(args[0])
			if err != nil {
				return err
			}
			paint, view, what, err := a.pick(doc, args[1:], on, len(hide)+len(only) > 0)
			if err != nil {
				return err
			}
			if paint, err = a.sift(doc, paint, hide, only); err != nil {
				return err
			}
			o.View = view
			over := a.busy(fmt.Sprintf("painting %s × %s pixels", num(math.Ceil(view.W*at)), num(math.Ceil(view.H*at))))
			img, err := raster.Render(paint, o)
			over()
			if err != nil {
				return fmt.Errorf("%s: %w", args[0], err)
			}
			return a.writePicture(img, out, what, at)
		},
	}
	c.Flags().StringVarP(&out, "output", "o", "", "the `FILE` to write, or - for stdout")
	c.Flags().Float64Var(&at, "at", 1, "the `DENSITY`: output pixels for each design pixel")
	c.Flags().StringVar(&on, "screen", "", "the screen's `NAME` (default: the first)")
	c.Flags().StringArrayVar(&hide, "hide", nil, "leave out what a `SELECTOR` means; may be given again")
	c.Flags().StringArrayVar(&only, "only", nil, "paint nothing but what a `SELECTOR` means, where it stands; may be given again")
	c.Flags().StringVar(&background, "background", "", "a CSS `COLOUR` to paint on (default: transparent)")
	return c
}

// pick finds what to paint: the one element a selector means, else the first screen.
func (a *app) pick(doc *design.Document, args []string, on string, apart bool) (*design.PaintNode, geom.Rect, string, error) {
	picture := func(s *design.Screen) *design.PaintNode {
		if apart { // the layers, not the picture of all that a source may bring along
			return s.Paint
		}
		return s.Picture()
	}
	if len(args) == 0 {
		s, err := a.screen(doc, on)
		if err != nil {
			return nil, geom.Rect{}, "", err
		}
		if on == "" && len(doc.Screens) > 1 {
			a.say("%s: the first of %s is painted; --screen %q paints the next\n", doc.Name,
				plural(len(doc.Screens), "screen", "screens"), doc.Screens[1].Name)
		}
		return picture(s), geom.Rect{W: s.Box.W, H: s.Box.H}, s.Name, nil
	}
	sel, err := selector(args[0])
	if err != nil {
		return nil, geom.Rect{}, "", err
	}
	for _, s := range doc.Screens {
		if sel.Matches(s.Root.Node) {
			return picture(s), geom.Rect{W: s.Box.W, H: s.Box.H}, s.Name, nil
		}
	}
	found, err := a.query(doc, args[0])
	if err != nil {
		return nil, geom.Rect{}, "", err
	}
	if len(found) > 1 {
		a.say("%s: the first of %s is painted\n", doc.Name, plural(len(found), "match", "matches"))
	}
	e := found[0]
	return design.Alone(e), design.WholePixels(e.Painted.Value), e.Name, nil
}

// sift leaves out of a picture what is hidden, and what is not among the only ones asked for.
func (a *app) sift(doc *design.Document, paint *design.PaintNode, hide, only []string) (*design.PaintNode, error) {
	meant := func(selectors []string) (map[*design.Element]bool, error) {
		out := map[*design.Element]bool{}
		for _, s := range selectors {
			found, err := a.query(doc, s)
			if err != nil {
				return nil, err
			}
			for _, e := range found {
				out[e] = true
			}
		}
		return out, nil
	}
	if len(only) > 0 {
		keep, err := meant(only)
		if err != nil {
			return nil, err
		}
		paint = design.Only(paint, keep)
	}
	if len(hide) > 0 {
		gone, err := meant(hide)
		if err != nil {
			return nil, err
		}
		paint = design.Without(paint, gone)
	}
	return paint, nil
}

// pngName reports whether a picture may be written there, before it is painted.
func pngName(out string) error {
	if ext := strings.ToLower(filepath.Ext(out)); out != "-" && ext != ".png" {
		return hint(fmt.Sprintf("-o %s: only PNG pictures are written", out), "Let the name end in .png.")
	}
	return nil
}

func (a *app) writePicture(img *image.RGBA, out, what string, at float64) error {
	data := picture.PNG(img)
	if out == "-" {
		_, err := a.out.Write(data)
		return err
	}
	if err := a.save(map[string][]byte{out: data}); err != nil {
		return err
	}
	b := img.Bounds()
	if a.json {
		return a.printJSON(map[string]any{"file": out, "width": b.Dx(), "height": b.Dy(), "density": at, "bytes": len(data)})
	}
	if what == "" {
		what = "element"
	}
	a.say("%s  %s, %d × %d pixels, %s\n", out, what, b.Dx(), b.Dy(), size(len(data)))
	return nil
}

// size is a number of bytes in words.
func size(n int) string {
	if n < 1000 {
		return fmt.Sprintf("%d bytes", n)
	}
	return fmt.Sprintf("%.1f kB", math.Round(float64(n)/100)/10)
}
