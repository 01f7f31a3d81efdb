package cli

import (
	"cmp"
	"fmt"
	"math"
	"path/filepath"
	"strings"

	"archetyp/core/ask"
	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/hint"

	"github.com/spf13/cobra"
)

func (a *app) renderCmd() *cobra.Command {
	var out, background, on string
	var hide, only []string
	at := 1.0
	c := &cobra.Command{
		Use:   "render SOURCE [SELECTOR] -o FILE",
		Short: "Paint a screen or an element as a PNG picture",
		Long: long("Paint a screen, or what lies in an element's painted box with the element alone, as a PNG picture in " +
			"any density. -o - writes to stdout."),
		Example: example("archetyp render design/timetable.svg -o timetable.png --at 2",
			"archetyp render design/components.svg '#icon-anchor' -o anchor.png --at 3",
			"archetyp render design/booking.svg -o empty.png --hide text"),
		Args: between(1, 2, "a SOURCE and perhaps a SELECTOR"),
		RunE: func(_ *cobra.Command, args []string) error {
			if out == "" {
				return hint.New("render needs -o FILE, the picture to write",
					"For example: archetyp render "+args[0]+" -o picture.png")
			}
			if err := pngName(out); err != nil {
				return err
			}
			if !(at > 0) || at > 64 {
				return fmt.Errorf("--at %g: a density between 0 and 64 is wanted", at)
			}
			ground, err := backgroundOf(background)
			if err != nil {
				return err
			}
			doc, _, err := a.source(args[0])
			if err != nil {
				return err
			}
			if err := needsBoxes(doc); err != nil {
				return err
			}
			p, err := a.pick(doc, args[1:], on, len(hide)+len(only) > 0)
			if err != nil {
				return err
			}
			if p.Paint, err = a.sift(doc, p.Paint, hide, only); err != nil {
				return err
			}
			over := a.busy(fmt.Sprintf("painting %s × %s pixels", num(math.Ceil(p.View.W*at)), num(math.Ceil(p.View.H*at))))
			data, w, h, err := p.PNG(at, ground)
			over()
			if err != nil {
				return fmt.Errorf("%s: %w", args[0], err)
			}
			return a.writePicture(pictureJSON{out, w, h, at, len(data)}, data, p.Name)
		},
	}
	a.view.add(c)
	c.Flags().StringVarP(&out, "output", "o", "", "the `FILE` to write, or - for stdout")
	c.Flags().Float64Var(&at, "at", 1, "the `DENSITY`: output pixels for each design pixel")
	c.Flags().StringVar(&on, "screen", "", "the screen's `NAME` (default: the first)")
	c.Flags().StringArrayVar(&hide, "hide", nil, "leave out what a `SELECTOR` means; may be given again")
	c.Flags().StringArrayVar(&only, "only", nil,
		"paint nothing but what a `SELECTOR` means, where it stands; may be given again")
	c.Flags().StringVar(&background, "background", "", "a CSS `COLOUR` to paint on (default: transparent)")
	return c
}

// backgroundOf reads a --background; nil for none.
func backgroundOf(text string) (*color.Color, error) {
	if text == "" {
		return nil, nil
	}
	c, err := color.Parse(text)
	if err != nil {
		return nil, fmt.Errorf("--background: %w", err)
	}
	return &c, nil
}

// pick finds what to paint: the one element a selector means, else the first screen.
func (a *app) pick(doc *design.Document, args []string, on string, apart bool) (ask.Subject, error) {
	if len(args) == 0 {
		s, err := a.screen(doc, on)
		if err != nil {
			return ask.Subject{}, err
		}
		if on == "" && len(doc.Screens) > 1 {
			a.say("%s: the first of %s is painted; --screen %q paints the next\n", doc.Name,
				plural(len(doc.Screens), "screen", "screens"), doc.Screens[1].Name)
		}
		return ask.OfScreen(s, apart), nil
	}
	whole, err := ask.Whole(doc, args[0])
	if err != nil {
		return ask.Subject{}, selectorError(err)
	}
	if len(whole) > 0 {
		return ask.OfScreen(whole[0], apart), nil
	}
	found, err := a.query(doc, args[0])
	if err != nil {
		return ask.Subject{}, err
	}
	if len(found) > 1 {
		a.say("%s: the first of %s is painted\n", doc.Name, plural(len(found), "match", "matches"))
	}
	return ask.OfElement(found[0]), nil
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
		return hint.New(fmt.Sprintf("-o %s: only PNG pictures are written", out), "Let the name end in .png.")
	}
	return nil
}

type pictureJSON struct {
	File    string  `json:"file"`
	Width   int     `json:"width"`
	Height  int     `json:"height"`
	Density float64 `json:"density"`
	Bytes   int     `json:"bytes"`
}

func (a *app) writePicture(p pictureJSON, data []byte, what string) error {
	if p.File == "-" {
		_, err := a.out.Write(data)
		return err
	}
	if err := a.save(map[string][]byte{p.File: data}); err != nil {
		return err
	}
	if a.json {
		return a.printJSON(p)
	}
	a.say("%s  %s, %d × %d pixels, %s\n", p.File, cmp.Or(what, "element"), p.Width, p.Height, size(p.Bytes))
	return nil
}

// size is a number of bytes in words.
func size(n int) string {
	if n < 1000 {
		return fmt.Sprintf("%d bytes", n)
	}
	return fmt.Sprintf("%.1f kB", math.Round(float64(n)/100)/10)
}
