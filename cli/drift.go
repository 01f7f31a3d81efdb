package cli

import (
	"fmt"

	"archetyp/core/drift"
	"archetyp/job"

	"github.com/spf13/cobra"
)

func (a *app) driftCmd() *cobra.Command {
	o := &job.DriftOptions{}
	c := &cobra.Command{
		Use:   "drift [SITE]",
		Short: "Compare a site with what the design says",
		RunE: func(_ *cobra.Command, args []string) error {
			v, err := a.view.view()
			if err != nil {
				return err
			}
			o.Base = drift.View{Width: v.Width, Height: v.Height, Dark: v.Dark}
			ws, _, err := a.open(a.dir)
			if err != nil {
				return err
			}
			o.Site = args[0]
			r, err := job.Drift(&job.SiteReader{Context: a.ctx, WS: ws, Dir: a.dir, Browser: v.Browser}, *o)
			if err != nil {
				return err
			}
			if a.json {
				return a.printJSON(r)
			}
			for _, d := range r.Differences {
				a.print("%s %s %s  %s:%d:%d  ×%d\n   %s\n", d.Level, d.Kind, d.Message, d.Cause.Place.File, d.Cause.Place.Line, d.Cause.Place.Column, len(d.Spots), d.Mend)
			}
			a.print("%s\n", fmt.Sprint(len(r.Differences)))
			return nil
		},
	}
	c.Flags().StringVar(&o.Design, "design", "", "")
	a.view.add(c)
	return c
}
