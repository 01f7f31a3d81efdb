package cli

import (
	"fmt"
	"path/filepath"
	"strings"

	"archetyp/core/diff"
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
the audit find errors. Nothing is pushed: "archetyp sync --push" shares editions.`),
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

// compareFlags are the options of a comparison.
type compareFlags struct {
	as, show, to  string
	density       float64
	check, unseen bool
	screens       []string
	kinds, phases []string
	only          []string
}

func (a *app) editionCompareCmd() *cobra.Command {
	f := &compareFlags{}
	c := &cobra.Command{
		Use:   "compare [A [B]]",
		Short: "List and show what differs between two states: elements, tokens, texts, assets",
		Long: long(`Compare two states of the workspace: editions by their number, branches, or any revision that git knows. Without
B, with the folder as it is; without A, from the last edition, or with --unseen from what you saw last. Elements came,
went, moved, look different, have other words or other names; a group that moved is one change. --screen, --kind, --only
and --phase pick changes, --verbose lists every one, and --check exits with 1 if anything differs.

--show paints every changed screen and asset into the folder -o: difference (framed and numbered as listed), overlay,
split (side by side) or blink (an animated PNG). With --as markdown the list refers to the pictures.`),
		Example: example("archetyp edition compare", "archetyp edition compare 1 2 --as markdown --show difference -o changes", "archetyp edition compare main --check"),
		Args:    between(0, 2, "A and B at most"),
		RunE:    func(_ *cobra.Command, args []string) error { return a.compareEditions(f, args) },
	}
	l := c.Flags()
	l.StringVar(&f.as, "as", "text", "the `FORM`: text or markdown")
	l.BoolVar(&f.check, "check", false, "exit with 1 where anything differs")
	l.BoolVar(&f.unseen, "unseen", false, "from what you saw last; what is listed counts as seen")
	l.StringSliceVar(&f.screens, "screen", nil, "compare only these `SCREENS`")
	l.StringSliceVar(&f.kinds, "kind", nil, "list only these `KINDS`: removed, added, reworded, restyled, moved, renamed, regrouped")
	l.StringSliceVar(&f.only, "only", nil, "list only these `PARTS`: elements, tokens, texts, assets")
	l.StringSliceVar(&f.phases, "phase", nil, "list only elements that have one of these `PHASES`")
	l.StringVar(&f.show, "show", "", "paint what changed, in this `WAY`: difference, overlay, split or blink")
	l.StringVarP(&f.to, "output", "o", "", "the `FOLDER` for the pictures; with --as markdown, for changes.md, too")
	l.Float64Var(&f.density, "at", 1, "pictures at this `DENSITY`")
	return c
}

func (a *app) compareEditions(f *compareFlags, args []string) error {
	switch {
	case f.as != "text" && f.as != "markdown":
		return hint.New(fmt.Sprintf("--as %q is not known", f.as), "Choose text or markdown.")
	case (f.show == "") != (f.to == ""):
		return hint.New("--show and -o belong together", "For example: --show difference -o changes")
	case f.density < 0.1 || f.density > 8:
		return hint.New("--at is a density from 0.1 to 8", "For example: --at 2")
	case f.unseen && len(args) > 0:
		return hint.New("--unseen compares with what you saw last, and takes no states", "Leave them out.")
	}
	if f.show != "" {
		if err := job.CheckShowing(f.show); err != nil {
			return err
		}
	}
	ws, err := a.workspaceHere()
	if err != nil {
		return err
	}
	sides := []string{"", ""}
	copy(sides, args)
	if len(args) == 0 {
		from := job.LastEdition
		if f.unseen {
			from = job.UnseenSince
		}
		if sides[0], err = from(ws); err != nil {
			return err
		}
	}
	cmp, err := job.CompareStates(a.ctx, ws, sides[0], sides[1], f.screens)
	if err != nil {
		return err
	}
	a.warnUnread(cmp.Unread)
	filter := job.ChangeFilter{Only: f.only}
	for _, k := range f.kinds {
		filter.Kinds = append(filter.Kinds, diff.Kind(k))
	}
	if len(f.phases) > 0 {
		if filter.Phases, err = job.PhasedElements(a.ctx, ws, f.phases); err != nil {
			return err
		}
	}
	if err := cmp.Filter(filter); err != nil {
		return err
	}
	if f.unseen { // before files are written: the workspace is closed then
		if err := job.Saw(ws); err != nil {
			return err
		}
	}
	pictures, err := a.comparisonPictures(f, cmp)
	if err != nil {
		return err
	}
	switch {
	case a.json:
		out := comparisonJSON(cmp)
		out["pictures"] = pictures
		err = a.printJSON(out)
	case f.as == "markdown" && f.to != "":
		var text strings.Builder
		b := *a
		b.out = &text
		names := map[string]string{}
		for _, p := range pictures {
			names[p.Name] = p.File
		}
		b.markdownComparison(cmp, names)
		if err = a.save(map[string][]byte{filepath.Join(f.to, "changes.md"): []byte(text.String())}); err == nil {
			a.say("%s\n", filepath.Join(f.to, "changes.md"))
		}
	case f.as == "markdown":
		a.markdownComparison(cmp, nil)
	default:
		a.numbered = f.show == "difference"
		a.printComparison(cmp)
		if len(pictures) > 0 {
			a.say("%s in %s\n", plural(len(pictures), "picture", "pictures"), f.to)
		}
	}
	if err == nil && f.check && !cmp.Empty() {
		return foundError{}
	}
	return err
}

// comparisonPictures paints what changed, and writes it.
func (a *app) comparisonPictures(f *compareFlags, cmp *job.Comparison) ([]job.Shown, error) {
	if f.show == "" {
		return []job.Shown{}, nil
	}
	list, err := cmp.Pictures(f.show, f.density)
	if err != nil {
		return nil, err
	}
	files := map[string][]byte{}
	for _, s := range list {
		files[filepath.Join(f.to, s.File)] = s.Data
	}
	return list, a.save(files)
}
