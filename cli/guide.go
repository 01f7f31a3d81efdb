package cli

import (
	"path"

	"archetyp/core/hint"
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
	revision, since, to := "", "", ""
	build := &cobra.Command{
		Use:   "build",
		Short: "Build the style guide: pages of tokens, components, screens, assets and texts",
		Long: long("Build the style guide: pages of tokens by kind, assets, texts and flows, and a page for each component and " +
			"each screen. It works from disk, without a network. With -o it goes into a folder of its own: of an edition or any " +
			"revision with --revision, and with --since with a page of what changed from another one."),
		Example: example("archetyp guide build", "archetyp guide build --revision 3 --since 2 -o guide-3"),
		Args:    cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			if to == "" && (revision != "" || since != "") {
				return hint.New("a guide of an edition goes into a folder of its own", "Name it with -o, for example -o guide-3")
			}
			if to != "" {
				return a.guideOf(revision, since, to)
			}
			if err := a.only("guide"); err != nil {
				return err
			}
			if ws, err := a.workspaceHere(); err == nil {
				a.say("Open %s in a browser.\n", path.Join(ws.Config.Guide.To, "index.html"))
			}
			return nil
		},
	}
	build.Flags().StringVar(&revision, "revision", "", "the guide of an `EDITION`, or of any revision that git knows")
	build.Flags().StringVar(&since, "since", "", "with a page of what changed from this `EDITION` or revision")
	build.Flags().StringVarP(&to, "output", "o", "", "the `FOLDER` to write it to")
	c.AddCommand(build, a.guideServeCmd())
	return c
}

// guideOf writes the guide of a revision into a folder.
func (a *app) guideOf(revision, since, to string) error {
	ws, err := a.workspaceHere()
	if err != nil {
		return err
	}
	files, err := job.GuideOf(a.ctx, ws, revision, since)
	if err != nil {
		return err
	}
	out := map[string][]byte{}
	for p, data := range files {
		out[path.Join(to, p)] = data
	}
	if err := a.save(out); err != nil {
		return err
	}
	if a.json {
		return a.printJSON(map[string]any{"folder": to, "files": len(files)})
	}
	a.print("%s  %s\n", path.Join(to, "index.html"), a.term.dim(plural(len(files), "file", "files")))
	return nil
}
