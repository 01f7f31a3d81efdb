package cli

import (
	"fmt"
	"path"
	"strings"

	"archetyp/core/asset"
	"archetyp/core/design"
	"archetyp/sync"

	"github.com/spf13/cobra"
)

func one(d *design.Document) []*design.Document { return []*design.Document{d} }

func (a *app) assetsCmd() *cobra.Command {
	c := &cobra.Command{
		Use:     "assets",
		Short:   "List and export the marked pictures",
		Long:    long("List the elements marked as assets, and export them in every density."),
		Example: example("archetyp assets list"),
		Args:    cobra.NoArgs,
		RunE:    func(c *cobra.Command, _ []string) error { return c.Help() },
	}
	c.AddCommand(a.assetsListCmd(), a.assetsExportCmd())
	return c
}

func (a *app) assetsListCmd() *cobra.Command {
	return &cobra.Command{
		Use:     "list [SOURCE]",
		Short:   "List the elements marked as assets",
		Long:    long("List the elements marked as assets: name, size in px, formats, where they are drawn."),
		Example: example("archetyp assets list"),
		Args:    between(0, 1, "a SOURCE at most"),
		RunE: func(_ *cobra.Command, args []string) error {
			r, _, err := a.reading(args)
			if err != nil {
				return err
			}
			list, faults := asset.Collect(r.Docs)
			for _, f := range faults {
				a.say("%s %s\n", newTerm(a.err, a.color).warn("warning"), f)
			}
			type assetJSON struct {
				Name    string   `json:"name"`
				Width   float64  `json:"width"`
				Height  float64  `json:"height"`
				Formats []string `json:"formats"`
				Source  string   `json:"source"`
				Line    int      `json:"line"`
			}
			out := []assetJSON{}
			var rows [][]string
			for _, as := range list {
				out = append(out, assetJSON{as.Name, as.Box.W, as.Box.H, as.Formats, as.Source, as.Element.Position.Line})
				rows = append(rows, []string{as.Name, fmt.Sprintf("%s × %s px", num(as.Box.W), num(as.Box.H)), strings.Join(as.Formats, ", "),
					a.term.dim(fmt.Sprintf("%s:%d", as.Source, as.Element.Position.Line))})
			}
			if a.json {
				return a.printJSON(map[string]any{"assets": out})
			}
			if len(rows) == 0 {
				a.say("nothing is marked; data-asset=\"icons/anchor\" in a drawing, or marks: in %s, says what may be exported\n", "archetyp.yaml")
				return nil
			}
			a.print("%s", a.term.table(nil, rows, 1))
			return nil
		},
	}
}

func (a *app) assetsExportCmd() *cobra.Command {
	return &cobra.Command{
		Use:   "export",
		Short: "Export the marked elements as SVG, and as PNG at 1x, 2x and 3x",
		Long: long(`Export the elements marked as assets, and only those: as SVG, and as PNG in three densities (name.png, name@2x.png,
name@3x.png), cut to what they paint, transparent around it. Files that would not change are not touched.`),
		Example: example("archetyp assets export"),
		Args:    cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			return a.only("assets")
		},
	}
}

// only makes one kind of artefact and says what was written.
func (a *app) only(kind string) error {
	ws, err := a.workspaceHere()
	if err != nil {
		return err
	}
	rep, err := sync.Run(ws, sync.Options{Only: kind, Progress: a.progress()})
	if err != nil {
		return err
	}
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
		Short:   "Build the style guide",
		Long:    long("Build the style guide from the drawings, tokens, texts and assets."),
		Example: example("archetyp guide build"),
		Args:    cobra.NoArgs,
		RunE:    func(c *cobra.Command, _ []string) error { return c.Help() },
	}
	c.AddCommand(&cobra.Command{
		Use:     "build",
		Short:   "Build the style guide: an index and a page a screen",
		Long:    long("Build the style guide: one page of colours, type, spacing, shadows, components, assets and texts, and a page a screen. It works from disk, without a network."),
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
	return c
}
