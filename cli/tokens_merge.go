package cli

import (
	"archetyp/core/token"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) tokensMergeCmd() *cobra.Command {
	into, name := "", ""
	c := &cobra.Command{
		Use:   "merge BASE OURS THEIRS",
		Short: "Merge two edits of a token file, token by token; git can call it",
		Long: long(`Merge two edits of one token file by what they were made from: token by token and property by
property, in the layout of OURS. Where both changed the same, ours stays, theirs is kept beside it under our
key in $extensions, each conflict is listed, and the status is 1.`),
		Example: example("archetyp tokens merge base.tokens.json ours.tokens.json theirs.tokens.json --into " +
			"merged.tokens.json"),
		Args: exactly("BASE", "OURS", "THEIRS"),
		RunE: func(_ *cobra.Command, args []string) error {
			var sides [3][]byte
			for i, p := range args {
				var err error
				if sides[i], err = workspace.ReadFile(a.path(p), p); err != nil {
					return err
				}
			}
			if name == "" {
				name = args[1]
			}
			data, conflicts, err := token.ThreeWay(sides[0], sides[1], sides[2], name)
			if err != nil {
				return err
			}
			if into == "" && !a.json {
				if err := a.document(data); err != nil {
					return err
				}
			} else if into != "" {
				if err := workspace.Replace(a.path(into), data); err != nil { // git's own file, whose lock is git's
					return err
				}
			}
			return a.printConflicts(name, conflicts)
		},
	}
	c.Flags().StringVar(&into, "into", "", "the `FILE` to write (default: stdout)")
	c.Flags().StringVar(&name, "name", "", "the `PATH` the file has, for messages")
	return c
}

type conflictJSON struct {
	Token    string `json:"token"`
	Property string `json:"property,omitempty"`
	Base     string `json:"base,omitempty"`
	Ours     string `json:"ours,omitempty"`
	Theirs   string `json:"theirs,omitempty"`
}

func (a *app) printConflicts(name string, list []token.Conflict) error {
	if a.json {
		out := []conflictJSON{}
		for _, c := range list {
			out = append(out, conflictJSON{c.Path, c.Property, c.Base, c.Ours, c.Theirs})
		}
		if err := a.printJSON(map[string]any{"file": name, "conflicts": out}); err != nil {
			return err
		}
	} else {
		for _, c := range list {
			a.say("%s %s: %s\n", newTerm(a.err, a.color).bad("conflict"), name, c)
		}
		if len(list) > 0 {
			a.say("Ours stays for now. \"archetyp tokens set TOKEN VALUE\" settles one; \"archetyp tokens check\" lists what " +
				"is left.\n")
		}
	}
	if len(list) > 0 {
		return foundError{}
	}
	return nil
}
