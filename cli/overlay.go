package cli

import (
	"fmt"
	"image"
	"math"

	"archetyp/core/design"
	"archetyp/core/diff"
	"archetyp/core/hint"
	"archetyp/job"

	"github.com/spf13/cobra"
)

// overlayFlags are the options of overlay.
type overlayFlags struct {
	show, to, move, align, screen string
	density, within               float64
	tolerance                     int
	best                          bool
}

func (a *app) overlayCmd() *cobra.Command {
	f := &overlayFlags{}
	c := &cobra.Command{
		Use:   "overlay SOURCE OTHER",
		Short: "Lay a screen and a page, a screenshot or another picture over each other",
		Long: long(`Compare how a screen looks with how something else does: a page, which a browser shows at the width of the screen, a
picture that somebody sends, another source, or an earlier edition. Each element has its likeness, the least like first, and
where it stands instead. They are aligned by their corners, by an element (--align), by --move, or by what fits --best.
--show paints the difference with the outlines of what is least alike. With --within, exit with 1 below that likeness.`),
		Example: example("archetyp overlay booking site/booking.html", "archetyp overlay booking screenshot.png --best --show overlay -o seen.png",
			"archetyp overlay booking edition/1:booking --within 99"),
		Args: exactly("a SOURCE", "what to lay over it"),
		RunE: func(_ *cobra.Command, args []string) error { return a.overlay(f, args) },
	}
	a.view.add(c)
	l := c.Flags()
	l.StringVar(&f.show, "show", "", "paint it, in this `WAY`: difference, overlay, split or blink")
	l.StringVarP(&f.to, "output", "o", "", "the `FILE` (PNG) of --show")
	l.StringVar(&f.screen, "screen", "", "the `SCREEN`, where a source has several")
	l.StringVar(&f.align, "align", "", "align by the element of a `SELECTOR`")
	l.StringVar(&f.move, "move", "", "move the second picture by `X,Y` px")
	l.BoolVar(&f.best, "best", false, "align by what fits best, up to 48 px away")
	l.Float64Var(&f.density, "at", 0, "compare at this `DENSITY` (default: that of a picture, else 1)")
	l.IntVar(&f.tolerance, "tolerance", 32, "by how many `LEVELS` of 255 alike pixels may differ")
	l.Float64Var(&f.within, "within", 0, "the least likeness in `PERCENT`; below it the exit status is 1")
	c.MarkFlagsMutuallyExclusive("align", "move", "best")
	return c
}

func (f *overlayFlags) check() error {
	switch {
	case (f.show == "") != (f.to == ""):
		return hint.New("--show and -o belong together", "For example: --show overlay -o seen.png")
	case f.density != 0 && (f.density < 0.1 || f.density > 8):
		return hint.New("--at is a density from 0.1 to 8", "For example: --at 2")
	case f.tolerance < 0 || f.tolerance > 255 || f.within < 0 || f.within > 100:
		return hint.New("--within is 0 to 100 per cent, --tolerance 0 to 255 levels", "For example: --within 95 --tolerance 32")
	case f.show == "":
		return nil
	}
	if err := pngName(f.to); err != nil {
		return err
	}
	return job.CheckShowing(f.show)
}

func (a *app) overlay(f *overlayFlags, args []string) error {
	if err := f.check(); err != nil {
		return err
	}
	first, doc, err := a.overlaySide(args[0], f.screen)
	if err != nil {
		return err
	}
	if first.Screen != nil { // a page is looked at as wide as the screen is
		a.view.viewport = fmt.Sprintf("%dx%d", int(math.Round(first.Screen.Box.W)), int(math.Max(1, math.Round(first.Screen.Box.H))))
	}
	second, _, err := a.overlaySide(args[1], "")
	if err != nil {
		return err
	}
	o := job.OverlayOptions{Density: f.density, Tolerance: f.tolerance, Best: f.best, Show: f.show}
	if f.move != "" {
		p, err := parsePoint(f.move)
		if err != nil {
			return err
		}
		o.X, o.Y = p[0], p[1]
	}
	if f.align != "" {
		if doc == nil {
			return hint.New("a picture has no elements to align by", "--best aligns by what fits best.")
		}
		found, err := a.query(doc, f.align)
		if err != nil {
			return err
		}
		o.Align = found[0]
	}
	got, err := job.OverlayPictures(first, second, o)
	if err != nil {
		return err
	}
	if err := a.printOverlay(first, second, got, f); err != nil {
		return err
	}
	if f.to != "" {
		if err := a.save(map[string][]byte{f.to: got.Shown}); err != nil {
			return err
		}
		a.say("%s\n", f.to)
	}
	if 100*got.Likeness < f.within {
		return foundError{}
	}
	return nil
}

// overlaySide reads one of the two: a picture, or a screen of a source. Pages are looked at in a browser.
func (a *app) overlaySide(arg, screen string) (*job.OverlaySide, *design.Document, error) {
	if job.IsPicture(arg) && !job.IsAddress(arg) {
		img, err := job.ReadPicture(a.path(arg), arg)
		return &job.OverlaySide{Name: arg, Picture: img}, nil, err
	}
	a.view.browser = true
	doc, _, err := a.source(arg)
	if err != nil {
		return nil, nil, err
	}
	s, err := oneScreen(doc, screen)
	if err != nil {
		return nil, nil, err
	}
	return &job.OverlaySide{Name: arg, Screen: s}, doc, nil
}

// oneScreen is a screen of a document by its name, or the only one.
func oneScreen(doc *design.Document, name string) (*design.Screen, error) {
	var names []string
	for _, s := range doc.Screens {
		if s.Name == name || name == "" && len(doc.Screens) == 1 {
			return s, nil
		}
		names = append(names, s.Name)
	}
	if name == "" {
		return nil, hint.New(fmt.Sprintf("%s has %d screens", doc.Name, len(names)), fmt.Sprintf("Choose one with --screen: %q.", names))
	}
	return nil, hint.New(fmt.Sprintf("%s has no screen %q", doc.Name, name), fmt.Sprintf("It has %q.", names))
}

type overlayJSON struct {
	Likeness float64           `json:"likeness"` // 0–1
	Density  float64           `json:"density"`
	By       [2]float64        `json:"by"` // px that the second was moved
	Elements []overlaidElement `json:"elements"`
}

type overlaidElement struct {
	Element  string  `json:"element"`
	Selector string  `json:"selector"`
	Likeness float64 `json:"likeness"`
	X        float64 `json:"x"` // px that it stands away in the second
	Y        float64 `json:"y"`
}

func (a *app) printOverlay(first, second *job.OverlaySide, got *job.Overlaid, f *overlayFlags) error {
	px := func(v int) float64 { return design.Tidy(float64(v) / got.Density) }
	if a.json {
		out := overlayJSON{got.Likeness, got.Density, [2]float64{px(got.By.X), px(got.By.Y)}, []overlaidElement{}}
		for _, l := range got.Spots {
			e := got.Elements[l.Name]
			out.Elements = append(out.Elements, overlaidElement{e.Title(), l.Name, l.Likeness, px(-l.Offset.X), px(-l.Offset.Y)})
		}
		return a.printJSON(out)
	}
	if a.quiet {
		return nil
	}
	t := a.term
	word := t.good
	if 100*got.Likeness < max(f.within, 90) {
		word = t.warn
	}
	moved := ""
	if got.By != (image.Point{}) {
		moved = ", moved " + diff.WayTo(px(got.By.X), px(got.By.Y))
	}
	a.print("%s alike: %s and %s%s\n", word(fmt.Sprintf("%.1f %%", 100*got.Likeness)), first.Name, second.Name, moved)
	var rows [][]string
	for i, l := range got.Spots {
		if l.Likeness > 0.98 || i == mostChanges && !a.verbose {
			if n := len(got.Spots) - i; n > 0 && l.Likeness <= 0.98 {
				rows = append(rows, []string{"  " + t.dim(fmt.Sprintf("… %d more; --verbose shows them", n))})
			}
			break
		}
		where := ""
		if l.Offset != (image.Point{}) {
			where = diff.WayTo(px(-l.Offset.X), px(-l.Offset.Y)) + fmt.Sprintf(", there %.0f %%", 100*l.There)
		}
		rows = append(rows, []string{"  " + got.Elements[l.Name].Title(), fmt.Sprintf("%.0f %%", 100*l.Likeness), where, t.dim(l.Name)})
	}
	a.print("%s", t.table(nil, rows, 1))
	return nil
}
