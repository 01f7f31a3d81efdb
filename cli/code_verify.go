package cli

import (
	"bytes"
	"fmt"
	"image/png"

	"archetyp/core/code"
	"archetyp/core/design"
	"archetyp/core/hint"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

// verifyFlags are the flags that compare code with the drawing in a browser.
type verifyFlags struct {
	on        bool
	within    float64
	tolerance int
	picture   string
}

func (f *verifyFlags) add(c *cobra.Command) {
	l := c.Flags()
	l.BoolVar(&f.on, "verify", false, "draw the code in a browser and print how like the drawing it is")
	l.Float64Var(&f.within, "within", 95, "with --verify: the least likeness in `PERCENT`; below it the exit status is 1")
	l.IntVar(&f.tolerance, "tolerance", 32, "with --verify: by how many `LEVELS` of 255 alike pixels may differ")
	l.StringVar(&f.picture, "picture", "", "with --verify: write a `FILE` that shows in red what differs")
}

// verify prints how like the drawing a page looks in a browser.
func (a *app) verify(f *verifyFlags, page *code.Page, doc *design.Document, ws *workspace.Workspace) error {
	if f.within < 0 || f.within > 100 || f.tolerance < 0 || f.tolerance > 255 {
		return hint.New("--within is 0 to 100 per cent, --tolerance 0 to 255 levels", "For example: --within 95 --tolerance 32")
	}
	if f.picture != "" {
		if err := pngName(f.picture); err != nil {
			return err
		}
	}
	ctx, stop := a.untilInterrupted()
	defer stop()
	v, err := job.Verify(ctx, page, doc, ws, f.tolerance)
	if err != nil {
		return err
	}
	if f.picture != "" {
		var b bytes.Buffer
		if err := png.Encode(&b, v.Difference); err != nil {
			return err
		}
		if err := a.save(map[string][]byte{f.picture: b.Bytes()}); err != nil {
			return err
		}
	}
	if a.json {
		if err := a.printJSON(v); err != nil {
			return err
		}
	} else {
		a.printVerified(v)
	}
	for _, one := range append(v.Wider, v) {
		if one.Likeness*100 < f.within {
			return foundError{}
		}
	}
	return nil
}

func (a *app) printVerified(v *job.Verified) {
	t := a.term
	a.print("%s  %.1f %%, mean of %s, pixels alike within %d of 255\n", t.dim("likeness"), v.Likeness*100,
		plural(v.Elements, "element", "elements"), v.Tolerance)
	if v.Worst != nil {
		a.print("%s     %.1f %%  %s\n", t.dim("worst"), v.Worst.Likeness*100, v.Worst.Element)
	}
	if v.Shifted != nil {
		a.print("%s   %s px across, %s px down  %s\n", t.dim("shifted"), fmt.Sprint(v.Shifted.X), fmt.Sprint(v.Shifted.Y),
			v.Shifted.Element)
	}
	for _, w := range v.Wider {
		worst := ""
		if w.Worst != nil {
			worst = fmt.Sprintf(", worst %.1f %%  %s", w.Worst.Likeness*100, w.Worst.Element)
		}
		a.print("%s  %.1f %% of %s%s\n", t.dim(fmt.Sprintf("%5d px", w.Width)), w.Likeness*100,
			plural(w.Elements, "element", "elements"), worst)
	}
	a.print("%s      %s\n", t.dim("free"), plural(len(v.Free), "element", "elements"))
	for _, x := range v.Free {
		a.print("          %s: %s\n", x.Selector, x.Why)
	}
}
