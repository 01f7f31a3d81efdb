package cli

import (
	"fmt"

	"archetyp/core/design"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

// unitFlags say in which unit lengths are printed.
type unitFlags struct {
	command *cobra.Command
	name    string
	root    float64
}

func (f *unitFlags) add(c *cobra.Command) {
	f.command = c
	c.Flags().StringVar(&f.name, "unit", "px", "print lengths in `UNIT`: px, rem, em, pt, dp or %")
	c.Flags().Float64Var(&f.root, "root", 0, "the `PX` of 1rem (default: the workspace's, else 16)")
}

// unit is the one asked for; the workspace knows what 1rem is.
func (f *unitFlags) unit(ws *workspace.Workspace) (design.Unit, error) {
	root := f.root
	if !f.command.Flags().Changed("root") {
		root = 16
		if ws != nil {
			root = ws.Config.RootPx()
		}
	}
	if !(root > 0) || root > 1000 {
		return design.Unit{}, fmt.Errorf("--root %g: a size in px between 0 and 1000 is wanted", root)
	}
	u, err := design.ParseUnit(f.name, root)
	if err != nil {
		return u, fmt.Errorf("--unit: %w", err)
	}
	return u, nil
}
