package cli

import (
	"path"

	"archetyp/job"

	"github.com/spf13/cobra"
)

// only makes one kind of artefact and says what was written.
func (a *app) only(kind string) error {
	a.writes(true)
	ws, err := a.workspaceHere()
	if err != nil {
		return err
	}
	rep, err := job.Run(a.ctx, ws, job.Options{Only: kind, Progress: a.progress()})
	if err != nil {
		return err
	}
	if err := a.printOnly(rep); err != nil {
		return err
	}
	return unread(rep.Unread)
}

func (a *app) printOnly(rep *job.Report) error {
	if a.json {
		return a.printJSON(reportJSON(rep))
	}
	if a.quiet {
		return nil
	}
	if len(rep.Written)+len(rep.Removed) == 0 {
		a.print("%s nothing had changed; nothing was written\n", a.term.good("✓"))
		return nil
	}
	a.printFiles(a.term.good("written"), rep.Written)
	a.printFiles(a.term.warn("removed"), rep.Removed)
	return nil
}

func (a *app) guideCmd() *cobra.Command {
	c := &cobra.Command{
		Use:     "guide",
		Short:   "Build the style guide, and serve it",
		Long:    long("Build the style guide from the drawings, tokens, texts and assets, and serve it on this machine."),
		Example: example("archetyp guide build", "archetyp guide serve --watch"),
		Args:    cobra.NoArgs,
		RunE:    func(c *cobra.Command, _ []string) error { return c.Help() },
	}
	c.AddCommand(&cobra.Command{
		Use:   "build",
		Short: "Build the style guide: pages of tokens, components, screens, assets and texts",
		Long: long("Build the style guide: pages of tokens by kind, assets, texts and flows, and a page for each component and " +
			"each screen. It works from disk, without a network."),
		Example: example("archetyp guide build"),
		Args:    cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			if err := a.only("guide"); err != nil {
				return err
			}
			if ws, err := a.workspaceHere(); err == nil {
				a.say("Open %s in a browser.\n", path.Join(ws.Config.Guide.To, "index.html"))
			}
			return nil
		},
	})
	c.AddCommand(a.guideServeCmd())
	return c
}
