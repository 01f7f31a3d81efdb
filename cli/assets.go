package cli

import (
	"fmt"
	"strings"

	"archetyp/core/asset"
	"archetyp/core/design"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func one(d *design.Document) []*design.Document { return []*design.Document{d} }

func (a *app) assetsCmd() *cobra.Command {
	c := &cobra.Command{
		Use:   "assets",
		Short: "List, export and question the pictures of a design",
		Long: long("List the elements marked as assets, export them in every format and density, and report which " +
			"pictures are needed at all."),
		Example: example("archetyp assets list"),
		Args:    cobra.NoArgs,
		RunE:    func(c *cobra.Command, _ []string) error { return c.Help() },
	}
	c.AddCommand(a.assetsListCmd(), a.assetsExportCmd(), a.assetsAdviseCmd())
	return c
}

// assetSets are the sets of a workspace, or without one those built in.
func assetSets(ws *workspace.Workspace) ([]asset.Set, error) {
	if ws == nil {
		return (&workspace.Config{}).AssetSets()
	}
	return ws.Config.AssetSets()
}

// assetsIn are the assets of one drawing.
func (a *app) assetsIn(doc *design.Document, ws *workspace.Workspace) ([]job.AssetState, error) {
	sets, err := assetSets(ws)
	if err != nil {
		return nil, err
	}
	var list []job.AssetState
	found, faults := asset.Collect(one(doc), sets)
	for _, as := range found {
		list = append(list, job.StateOf(as, sets, 1))
	}
	a.remark("warning", faults)
	return list, nil
}

func (a *app) assetsListCmd() *cobra.Command {
	c := &cobra.Command{
		Use:   "list [SOURCE]",
		Short: "List the elements marked as assets, and the state of their files",
		Long: long(`List the elements marked as assets: name, size in px, the formats of each set, the state of
their files (new, changed, same, gone), the bytes of all of them, and where they are drawn. Of a page or a
site: the pictures, icons and fonts it uses, with their real size and density.`),
		Example: example("archetyp assets list", "archetyp assets list components", "archetyp assets list site/index.html"),
		Args:    between(0, 1, "a SOURCE at most"),
		RunE: func(_ *cobra.Command, args []string) error {
			if len(args) == 0 {
				ws, err := a.workspaceHere()
				if err != nil {
					return err
				}
				list, faults, err := job.Assets(a.ctx, ws)
				if err != nil {
					return err
				}
				a.remark("warning", faults)
				return a.printAssets(list)
			}
			doc, ws, err := a.source(args[0])
			if err != nil {
				return err
			}
			if doc.Styles != nil {
				return a.pagePictures(doc)
			}
			list, err := a.assetsIn(doc, ws)
			if err != nil {
				return err
			}
			return a.printAssets(list)
		},
	}
	a.view.add(c)
	return c
}

func (a *app) printAssets(list []job.AssetState) error {
	if a.json {
		out := []assetJSON{}
		for _, s := range list {
			out = append(out, assetJSON{s.Name, s.Width, s.Height, full(s.Formats), full(s.Sets), s.State, s.Bytes,
				len(s.Files), s.Bitmap, s.Source, s.Line, s.Element, full(s.Notes)})
		}
		return a.printJSON(map[string]any{"assets": out})
	}
	if len(list) == 0 {
		a.say("nothing is marked; data-asset=\"icons/anchor\" in a drawing, or marks: in %s, says what may be exported\n",
			workspace.ConfigName)
		return nil
	}
	var rows [][]string
	counts := map[string]int{}
	bytes := 0
	for _, s := range list {
		counts[s.State]++
		bytes += s.Bytes
		if len(list) > most && !a.verbose && (s.State == "same" || len(rows) == most) {
			continue
		}
		rows = append(rows, []string{s.Name, fmt.Sprintf("%s × %s px", num(s.Width), num(s.Height)),
			strings.Join(s.Formats, " "), strings.Join(s.Sets, " "), a.stateText(s.State),
			bytesText(s.Bytes), a.term.dim(fmt.Sprintf("%s:%d", s.Source, s.Line))})
	}
	if len(rows) > 0 {
		a.print("%s", a.term.table([]string{"asset", "size", "formats", "sets", "state", "bytes", "drawn in"}, rows, 1, 5))
	}
	if more := len(list) - len(rows); more > 0 {
		a.print("%s\n", a.term.dim(fmt.Sprintf("… and %d more; --verbose lists all", more)))
	}
	var parts []string
	for _, st := range []string{"new", "changed", "same", "gone"} {
		if counts[st] > 0 {
			parts = append(parts, fmt.Sprintf("%d %s", counts[st], st))
		}
	}
	line := plural(len(list), "asset", "assets")
	if len(parts) > 0 {
		line += ": " + strings.Join(parts, ", ")
	}
	if bytes > 0 {
		line += "; " + size(bytes)
	}
	a.print("%s\n", line)
	return nil
}

type assetJSON struct {
	Name    string   `json:"name"`
	Width   float64  `json:"width"`
	Height  float64  `json:"height"`
	Formats []string `json:"formats"`
	Sets    []string `json:"sets"`
	State   string   `json:"state,omitempty"`
	Bytes   int      `json:"bytes"`
	Files   int      `json:"files"`
	Bitmap  float64  `json:"bitmapDensity,omitempty"`
	Source  string   `json:"source"`
	Line    int      `json:"line"`
	Element string   `json:"element"`
	Notes   []string `json:"notes"`
}

func (a *app) stateText(s string) string {
	switch s {
	case "new":
		return a.term.good(s)
	case "changed":
		return a.term.warn(s)
	case "gone":
		return a.term.bad(s)
	}
	return a.term.dim(s)
}

func bytesText(n int) string {
	if n == 0 {
		return ""
	}
	return size(n)
}
