package cli

import (
	"fmt"

	"archetyp/core/design"
	"archetyp/core/hint"
	"archetyp/job"

	"github.com/spf13/cobra"
)

func (a *app) focusCmd() *cobra.Command {
	var none bool
	c := &cobra.Command{
		Use:   "focus [SOURCE SELECTOR…]",
		Short: "Set the element whose values the editor offers first",
		Long: long(`Focus the element you are working on, or several: the editor offers its values first, and between two of them
the distances. It is remembered for this workspace and you, outside of git; a click in the guide that "guide serve
--edit" serves and an action of the editor set it, too. Without arguments, print it.`),
		Example: example("archetyp focus design/booking.svg '#pay'", "archetyp focus booking '#adults' '#children'", "archetyp focus"),
		RunE: func(_ *cobra.Command, args []string) error {
			if len(args) == 1 || none && len(args) > 0 {
				return hint.New("focus needs a SOURCE and a selector", "For example: archetyp focus booking '#pay'")
			}
			if len(args) == 0 {
				return a.printFocus(none)
			}
			doc, ws, err := a.source(args[0])
			if err != nil {
				return err
			}
			if ws == nil {
				return hint.New("the focused element belongs to a workspace", "\"archetyp init\" begins one.")
			}
			var found []*design.Element
			for _, s := range args[1:] {
				list, err := a.query(doc, s)
				if err != nil {
					return err
				}
				found = append(found, list...)
			}
			source, ok := ws.Rel(a.path(doc.Name))
			if !ok {
				source = doc.Name
			}
			f, err := job.FocusOn(ws, source, found)
			if err != nil {
				return err
			}
			return a.sayFocus(f, found)
		},
	}
	c.Flags().BoolVar(&none, "none", false, "forget it")
	return c
}

// printFocus prints the focused element, or forgets it.
func (a *app) printFocus(forget bool) error {
	ws, err := a.workspaceHere()
	if err != nil {
		return err
	}
	if forget {
		return job.Unfocus(ws)
	}
	f, ok := job.Focused(ws)
	if !ok {
		if a.json {
			return a.printJSON(nil)
		}
		a.print("nothing is focused\n")
		return nil
	}
	answers, err := job.ReadAnswers(ws.Dir, nil)
	if err != nil {
		return err
	}
	found, err := answers.Focused(a.ctx, f)
	if err != nil {
		return hint.New(err.Error(), "Focus another element, or \"archetyp focus --none\".")
	}
	return a.sayFocus(f, found)
}

type focusJSON struct {
	Source   string   `json:"source"`
	Selector string   `json:"selector"`
	Elements []string `json:"elements"` // what they are called
}

func (a *app) sayFocus(f job.Focus, found []*design.Element) error {
	out := focusJSON{f.Source, f.Selector, []string{}}
	for _, e := range found {
		out.Elements = append(out.Elements, e.Title())
	}
	if a.json {
		return a.printJSON(out)
	}
	for _, e := range found {
		a.print("%s\n", fmt.Sprintf("%s  %s", a.term.bold(e.Title()), a.term.dim(f.Source+"  "+e.Selector())))
	}
	return nil
}
