package cli

import (
	"fmt"
	"strings"

	"archetyp/core/hint"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) editionCmd() *cobra.Command {
	c := &cobra.Command{
		Use:   "edition",
		Short: "Lock numbered states of the workspace, and compare them",
		Long: long(`Work with editions: numbered states of the workspace that people agreed on, kept as annotated tags of git. An
edition, or any revision that git knows, is a source, too: "archetyp spec edition/3:booking '#pay'".`),
		Example: example("archetyp edition cut -m \"As agreed with the harbour office\"", "archetyp edition compare"),
	}
	c.AddCommand(a.editionCutCmd(), a.editionListCmd(), a.editionShowCmd(), a.editionCompareCmd())
	return c
}

func (a *app) editionCutCmd() *cobra.Command {
	var o job.CutOptions
	c := &cobra.Command{
		Use:   "cut -m MESSAGE [SCREEN…]",
		Short: "Lock the workspace as it is committed, under the next number",
		Long: long(`Lock the workspace as an edition: all of it, or the screens named. What is locked is the last commit; it is
refused while files differ from it, while outputs do not follow the sources, or while the checks of tokens and texts or
the audit find errors. Nothing is pushed: "git push --tags" shares editions.`),
		Example: example("archetyp edition cut -m \"As agreed with the harbour office\"", "archetyp edition cut -m \"Booking only\" Booking --draft"),
		RunE: func(_ *cobra.Command, args []string) error {
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			o.Screens = args
			e, err := job.CutEdition(a.ctx, ws, o)
			if err != nil {
				return err
			}
			if a.json {
				return a.printJSON(e)
			}
			a.print("%s  %s\n", a.term.bold(workspace.EditionTag(e.Number)), firstLine(e.Message))
			return nil
		},
	}
	c.Flags().StringVarP(&o.Message, "message", "m", "", "what this state is, in `WORDS`")
	c.Flags().BoolVar(&o.Draft, "draft", false, "not yet agreed")
	c.Flags().BoolVar(&o.Anyway, "anyway", false, "cut it although checks find errors")
	return c
}

func (a *app) editionListCmd() *cobra.Command {
	screen := ""
	c := &cobra.Command{
		Use:   "list",
		Short: "List the editions, the last one first",
		Long: long(`List the editions with their messages. --screen lists the history of one screen: the editions that changed it,
and how.`),
		Example: example("archetyp edition list", "archetyp edition list --screen Booking"),
		Args:    cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			if screen != "" {
				return a.printHistory(ws, screen)
			}
			list, err := ws.Editions()
			if err != nil {
				return err
			}
			if a.json {
				return a.printJSON(map[string]any{"editions": append([]workspace.Edition{}, list...)})
			}
			if len(list) == 0 {
				a.print("no edition has been cut; \"archetyp edition cut\" cuts the first\n")
				return nil
			}
			var rows [][]string
			for i := len(list) - 1; i >= 0; i-- {
				rows = append(rows, a.editionRow(&list[i]))
			}
			a.print("%s", a.term.table([]string{"edition", "cut", "by", "message", ""}, rows))
			return nil
		},
	}
	c.Flags().StringVar(&screen, "screen", "", "the history of the screen `NAME`")
	return c
}

func (a *app) editionRow(e *workspace.Edition) []string {
	var notes []string
	if e.Draft {
		notes = append(notes, "draft")
	}
	if len(e.Screens) > 0 {
		notes = append(notes, strings.Join(e.Screens, ", "))
	}
	day, _, _ := strings.Cut(e.When, "T")
	return []string{a.term.bold(workspace.EditionTag(e.Number)), day, e.Who, firstLine(e.Message), a.term.dim(strings.Join(notes, "; "))}
}

func firstLine(s string) string {
	line, _, _ := strings.Cut(s, "\n")
	return line
}

// printHistory prints the editions that changed a screen.
func (a *app) printHistory(ws *workspace.Workspace, screen string) error {
	list, err := job.ScreenHistory(a.ctx, ws, screen)
	if err != nil {
		return err
	}
	if a.json {
		out := []map[string]any{}
		for _, h := range list {
			out = append(out, map[string]any{"edition": h.Edition, "changes": changeLinesJSON(h.Changes)})
		}
		return a.printJSON(map[string]any{"screen": screen, "editions": out})
	}
	if len(list) == 0 {
		a.print("no edition changed %s\n", screen)
		return nil
	}
	for _, h := range list {
		row := a.editionRow(&h.Edition)
		a.print("%s  %s  %s  %s\n", row[0], row[1], row[2], row[3])
		a.printChangeLines(h.Changes)
	}
	return nil
}

func (a *app) editionShowCmd() *cobra.Command {
	return &cobra.Command{
		Use:     "show N",
		Short:   "Show an edition: its message, who cut it and when, what it holds",
		Long:    long(`Show an edition: its message, who cut it and when, and how much it holds.`),
		Example: example("archetyp edition show 2"),
		Args:    exactly("a number"),
		RunE: func(_ *cobra.Command, args []string) error {
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			e, err := job.EditionNamed(ws, args[0])
			if err != nil {
				return err
			}
			n, err := job.CountAt(ws, workspace.EditionTag(e.Number))
			if err != nil {
				return err
			}
			if a.json {
				return a.printJSON(map[string]any{"edition": e, "holds": n})
			}
			a.print("%s  %s\n\n%s\n\n", a.term.bold(workspace.EditionTag(e.Number)), a.term.dim("by "+e.Who+", "+e.When+", commit "+e.Commit[:min(len(e.Commit), 12)]), e.Message)
			if len(e.Screens) > 0 {
				a.print("Screens: %s\n", strings.Join(e.Screens, ", "))
			}
			a.print("%s\n", a.term.dim(fmt.Sprintf("%d screens, %d elements, %d tokens, %d texts, %d assets", n.Screens, n.Elements, n.Tokens, n.Texts, n.Assets)))
			return nil
		},
	}
}

func (a *app) editionCompareCmd() *cobra.Command {
	as, check := "text", false
	var screens []string
	c := &cobra.Command{
		Use:   "compare [A [B]]",
		Short: "List what differs between two states: elements, tokens, texts",
		Long: long(`Compare two states of the workspace: editions by their number, branches, or any revision that git knows. Without
B, with the folder as it is; without A, from the last edition. Elements came, went, moved, look different, have other
words or other names; a group that moved is one change. --screen compares only some screens, --verbose lists every
change, and --check exits with 1 if anything differs.`),
		Example: example("archetyp edition compare", "archetyp edition compare 1 2 --as markdown", "archetyp edition compare main --check"),
		Args:    between(0, 2, "A and B at most"),
		RunE: func(_ *cobra.Command, args []string) error {
			if as != "text" && as != "markdown" {
				return hint.New(fmt.Sprintf("--as %q is not known", as), "Choose text or markdown.")
			}
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			sides := []string{"", ""}
			copy(sides, args)
			if len(args) == 0 {
				if sides[0], err = job.LastEdition(ws); err != nil {
					return err
				}
			}
			cmp, err := job.CompareStates(a.ctx, ws, sides[0], sides[1], screens)
			if err != nil {
				return err
			}
			a.warnUnread(cmp.Unread)
			switch {
			case a.json:
				err = a.printJSON(comparisonJSON(cmp))
			case as == "markdown":
				a.markdownComparison(cmp)
			default:
				a.printComparison(cmp)
			}
			if err == nil && check && !cmp.Empty() {
				return foundError{}
			}
			return err
		},
	}
	c.Flags().StringVar(&as, "as", as, "the `FORM`: text or markdown")
	c.Flags().BoolVar(&check, "check", false, "exit with 1 where anything differs")
	c.Flags().StringSliceVar(&screens, "screen", nil, "compare only these `SCREENS`")
	return c
}
