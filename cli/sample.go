package cli

import (
	"cmp"
	"errors"
	"fmt"
	"strings"

	"archetyp/core/ask"
	"archetyp/core/hint"

	"github.com/spf13/cobra"
)

func (a *app) sampleCmd() *cobra.Command {
	size, on := 1, ""
	var bare valueFlags
	c := &cobra.Command{
		Use:   "sample SOURCE X,Y...",
		Short: "Tell the colour at points of a screen: as painted, and of the element there",
		Long: long(`Tell the colour at points of a screen, in px from its corner: what all that is painted there
comes to, and the colour of the topmost element by itself, with its path and the nearest token. Two points on
one gradient give the whole gradient.`),
		Example: example("archetyp sample design/booking.svg 195,776", "archetyp sample design/booking.svg 20,10 380,100",
			"archetyp sample design/poster.ora 210,60 --size 5"),
		Args: func(c *cobra.Command, args []string) error {
			return between(2, 1000, "a SOURCE and points")(c, args)
		},
		RunE: func(_ *cobra.Command, args []string) error {
			if size < 1 || size > 1000 {
				return fmt.Errorf("--size %d: a number of px from 1 to 1000 is wanted", size)
			}
			doc, ws, err := a.source(args[0])
			if err != nil {
				return err
			}
			if err := needsBoxes(doc); err != nil {
				return err
			}
			screen, err := a.screen(doc, on)
			if err != nil {
				return err
			}
			names, err := a.tokenNames(ws, doc)
			if err != nil {
				return err
			}
			s := &ask.Sampler{Screen: screen, Tokens: names.Finder, Set: names.Tokens(), Size: float64(size)}
			all, err := s.At(args[1:])
			if err != nil {
				return pointError(doc.Name, err)
			}
			return a.answer(&bare, func() error {
				if bare.name != "" {
					return a.printSampled(all, &bare)
				}
				return a.printSamples(s, doc.Name, all)
			})
		},
	}
	bare.add(c, "painted, own, rgb, oklch, token, element")
	a.view.add(c)
	c.Flags().IntVar(&size, "size", 1, "average a square of `N` px around each point")
	c.Flags().StringVar(&on, "screen", "", "the screen's `NAME` (default: the first)")
	return c
}

// pointError says what is wrong with a point.
func pointError(source string, err error) error {
	var off *ask.OffScreen
	var bad *ask.PointError
	switch {
	case errors.As(err, &bad):
		return hint.New(err.Error(), "X,Y in px is wanted, such as 195,776.")
	case errors.As(err, &off):
		return hint.New(source+": "+err.Error(), fmt.Sprintf("%s is %s × %s px.", off.Screen.Name, num(off.Screen.Box.W),
			num(off.Screen.Box.H)))
	}
	return fmt.Errorf("%s: %w", source, err)
}

func (a *app) printSamples(s *ask.Sampler, source string, all []ask.Sample) error {
	if a.json {
		return a.printJSON(map[string]any{"source": source, "screen": s.Screen.Name, "size": s.Size, "samples": all})
	}
	t := a.term
	for i := range all {
		p := &all[i]
		if i > 0 {
			a.print("\n")
		}
		where := "nothing is painted there"
		if p.Hit() {
			where = p.Path + "  ·  " + p.Selector
		}
		a.print("%s  %s\n", t.bold(num(p.X)+", "+num(p.Y)), t.dim(where))
		rows := [][]string{a.colourRow("painted", &p.Painted)}
		if p.Own != nil {
			rows = append(rows, a.colourRow("own "+p.By, p.Own))
		}
		a.print("%s", t.table(nil, rows))
		switch {
		case p.Token != "" && p.Difference == 0:
			a.print("%s %s\n", t.dim("token   "), cmp.Or(p.Note, p.Token))
		case p.Token != "":
			a.print("%s %s %s\n", t.dim("nearest "), p.Token, t.dim("differs by "+ask.Num(p.Difference, 4)+" ΔEOK"))
		}
		if p.Gradient != "" {
			a.print("%s %s\n", t.dim("gradient"), p.Gradient)
		}
	}
	return nil
}

func (a *app) colourRow(name string, c *ask.Colour) []string {
	return []string{a.term.dim(name), a.term.swatch(c.Color) + c.Hex, c.RGB, c.OKLCH}
}

// printSampled prints one value of each point.
func (a *app) printSampled(all []ask.Sample, bare *valueFlags) error {
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
	a.print("%s\n", block(strings.Join(lines, "\n")))
	return nil
}
