package cli

import (
	"fmt"
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/hint"
	"archetyp/core/phase"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) phaseCmd() *cobra.Command {
	c := &cobra.Command{
		Use:   "phase",
		Short: "Set and list how far the work on screens and elements is: agreed, held, built",
		Long: long(`Work with phases: how far the work on screens and elements is. They are stored in ` + phase.FileName + `, not in the
drawings. A phase follows its element when it is moved, renamed or redrawn, and is reported as lost when its element can no
longer be found.`),
		Example: example("archetyp phase set booking '#pay' agreed", "archetyp phase list"),
	}
	c.AddCommand(a.phaseSetCmd(), a.phaseListCmd(), a.phaseDropCmd())
	return c
}

// target is what a SOURCE and selectors mean; without selectors, the screens of the source.
func (a *app) target(source string, selectors []string) (*workspace.Workspace, job.Target, error) {
	doc, ws, err := a.source(source)
	if err != nil {
		return nil, job.Target{}, err
	}
	if ws == nil {
		return nil, job.Target{}, hint.New("phases and remarks belong to a workspace", "\"archetyp init\" begins one.")
	}
	t := job.Target{Source: a.inWorkspace(ws, doc), Doc: doc}
	seen := map[*design.Element]bool{}
	for _, s := range selectors {
		list, err := a.chosen(doc, s)
		if err != nil {
			return nil, t, err
		}
		for _, e := range list {
			if !seen[e] {
				seen[e] = true
				t.Elements = append(t.Elements, e)
			}
		}
	}
	if len(selectors) == 0 {
		for _, s := range doc.Screens {
			t.Elements = append(t.Elements, s.Root)
		}
	}
	return ws, t, nil
}

func (a *app) phaseSetCmd() *cobra.Command {
	var o job.PhaseSetting
	c := &cobra.Command{
		Use:   "set SOURCE [SELECTOR…] PHASE",
		Short: "Set the phase of elements: agreed, held, built, or one of the team's own",
		Long: long(`Set the phase of elements, or of the screens of a source where no selector is given. -m gives the reason, which may
name tickets; --tag adds tags, and takes one away with a hyphen before it; --due names the edition it is due for.`),
		Example: example("archetyp phase set booking '#pay' agreed -m \"As the harbour office asked, TT-12\"", "archetyp phase set timetable held --tag checkout --due 3"),
		RunE: func(_ *cobra.Command, args []string) error {
			if len(args) < 2 {
				return hint.New("phase set needs a SOURCE and a phase", "For example: archetyp phase set booking '#pay' agreed")
			}
			a.writes(true)
			o.Phase = args[len(args)-1]
			ws, t, err := a.target(args[0], args[1:len(args)-1])
			if err != nil {
				return err
			}
			list, err := job.SetPhase(a.ctx, ws, t, o)
			if err != nil {
				return err
			}
			if a.json {
				return a.printJSON(map[string]any{"phases": phasesJSON(ws, list)})
			}
			if !a.quiet {
				a.printPhases(ws, list)
			}
			return nil
		},
	}
	c.Flags().StringVarP(&o.Why, "message", "m", "", "why, in `WORDS`")
	c.Flags().StringVar(&o.By, "by", "", "who sets it (default: git's user.name)")
	c.Flags().StringSliceVar(&o.Tags, "tag", nil, "add `TAGS`; -TAG takes one away")
	c.Flags().IntVar(&o.Due, "due", 0, "the `NUMBER` of the edition it is due for; -1 for none")
	return c
}

func (a *app) phaseListCmd() *cobra.Command {
	var f job.PhaseFilter
	check := false
	c := &cobra.Command{
		Use:   "list",
		Short: "List what is agreed, held or built, what changed since, and what was lost",
		Long: long(`List the phases: who set them and why, which elements changed since and how, and which can no longer be found.
With --check, exit with 1 where something that has a phase changed or was lost.`),
		Example: example("archetyp phase list", "archetyp phase list --phase agreed --changed", "archetyp phase list --ticket TT-12"),
		Args:    cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			return a.listPhases(ws, f, check)
		},
	}
	a.phaseFilter(c, &f)
	c.Flags().BoolVar(&check, "check", false, "exit with 1 where something changed or was lost")
	return c
}

func (a *app) phaseFilter(c *cobra.Command, f *job.PhaseFilter) {
	c.Flags().StringSliceVar(&f.Phases, "phase", nil, "only these `PHASES`")
	c.Flags().StringSliceVar(&f.Tags, "tag", nil, "only those with one of these `TAGS`")
	c.Flags().StringSliceVar(&f.Screens, "screen", nil, "only on these `SCREENS`")
	c.Flags().StringVar(&f.Ticket, "ticket", "", "only those that name a `TICKET`")
	c.Flags().IntVar(&f.Due, "due", 0, "only those due for the edition of this `NUMBER`")
	c.Flags().BoolVar(&f.Changed, "changed", false, "only those that changed since")
	c.Flags().BoolVar(&f.Lost, "lost", false, "only those that can no longer be found")
}

func (a *app) listPhases(ws *workspace.Workspace, f job.PhaseFilter, check bool) error {
	list, unread, err := job.Phases(a.ctx, ws, f, true)
	if err != nil {
		return err
	}
	a.warnUnread(unread)
	if a.json {
		err = a.printJSON(map[string]any{"phases": phasesJSON(ws, list)})
	} else if len(list) == 0 {
		a.print("nothing has such a phase; \"archetyp phase set\" sets one\n")
	} else {
		a.printPhases(ws, list)
	}
	if err == nil && check && slices.ContainsFunc(list, func(p job.Phased) bool { return p.Changed || p.Element == nil || len(p.Or) > 0 }) {
		return foundError{}
	}
	return err
}

func (a *app) phaseDropCmd() *cobra.Command {
	return &cobra.Command{
		Use:     "drop KEY… | SOURCE SELECTOR…",
		Short:   "Take phases away, by element, or by key where the element is gone",
		Long:    long(`Take phases away: of elements, or by their keys, as "archetyp phase list" has them.`),
		Example: example("archetyp phase drop booking '#pay'", "archetyp phase drop booking-pay"),
		RunE: func(_ *cobra.Command, args []string) error {
			if len(args) == 0 {
				return hint.New("phase drop needs a key, or a SOURCE and selectors", "\"archetyp phase list --json\" has the keys.")
			}
			a.writes(true)
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			if err = job.DropPhases(ws, args); err == nil || len(args) == 1 {
				return err
			}
			_, t, err := a.target(args[0], args[1:])
			if err != nil {
				return err
			}
			list, err := job.SetPhase(a.ctx, ws, t, job.PhaseSetting{})
			if err == nil {
				a.say("%s dropped\n", plural(len(list), "phase", "phases"))
			}
			return err
		},
	}
}

// phaseWord is a phase as it is printed.
func (a *app) phaseWord(name string) string {
	switch name {
	case phase.Agreed, phase.Built:
		return a.term.good(name)
	case phase.Held:
		return a.term.warn(name)
	}
	return a.term.accent(name)
}

// printPhases prints entries by phase, those first that need a look.
func (a *app) printPhases(ws *workspace.Workspace, list []job.Phased) {
	t := a.term
	slices.SortStableFunc(list, func(x, y job.Phased) int { return phaseWeight(&x) - phaseWeight(&y) })
	for i := range list {
		p := &list[i]
		notes := []string{p.By, p.On}
		if p.Due > 0 {
			notes = append(notes, fmt.Sprintf("due for edition %d", p.Due))
		}
		for _, tag := range p.Tags {
			notes = append(notes, "#"+tag)
		}
		notes = slices.DeleteFunc(notes, func(s string) bool { return s == "" })
		a.print("%s  %s  %s\n", a.phaseWord(p.Phase), t.bold(p.Where()), t.dim(strings.Join(notes, ", ")))
		if p.Entry.Why != "" {
			a.print("    %s\n", firstLine(p.Entry.Why))
		}
		for _, o := range p.Or {
			a.print("    %s %s by %s, %s: choose with \"archetyp phase set\"\n", t.bad("or"), a.phaseWord(o.Phase), o.By, o.On)
		}
		for _, ticket := range p.Tickets {
			a.print("    %s\n", t.dim(strings.TrimSpace(ticket+"  "+ws.Config.TicketURL(ticket))))
		}
		switch {
		case p.Element == nil:
			a.print("    %s %s; \"archetyp phase drop %s\" drops it\n", t.bad("lost"), p.Why, p.Key)
		case p.Changed && len(p.Changes) == 0:
			a.print("    %s since then\n", t.warn("changed"))
		case p.Changed:
			a.print("    %s since then\n", t.warn("changed"))
			a.printChangeLines(p.Changes)
		}
	}
}

// phaseWeight is how soon an entry is to be looked at.
func phaseWeight(p *job.Phased) int {
	switch {
	case len(p.Or) > 0:
		return 0
	case p.Element == nil:
		return 1
	case p.Changed:
		return 2
	case p.Phase == phase.Held:
		return 3
	}
	return 4
}

type phasedJSON struct {
	Key string `json:"key"`
	*phase.Entry
	Source   string           `json:"source"`
	Screen   string           `json:"screen"`
	Element  string           `json:"element,omitempty"`
	Selector string           `json:"selector,omitempty"`
	Lost     bool             `json:"lost"`
	Found    string           `json:"found"`
	Changed  bool             `json:"changed"`
	Changes  []changeLineJSON `json:"changes"`
	Tickets  []ticketJSON     `json:"tickets"`
}

type ticketJSON struct {
	Ticket string `json:"ticket"`
	URL    string `json:"url,omitempty"`
}

func ticketsJSON(ws *workspace.Workspace, list []string) []ticketJSON {
	out := []ticketJSON{}
	for _, t := range list {
		out = append(out, ticketJSON{t, ws.Config.TicketURL(t)})
	}
	return out
}

func phasesJSON(ws *workspace.Workspace, list []job.Phased) []phasedJSON {
	out := []phasedJSON{}
	for i := range list {
		p := &list[i]
		x := phasedJSON{Key: p.Key, Entry: p.Entry, Source: p.Source, Screen: p.At.Screen, Lost: p.Element == nil, Found: string(p.Why),
			Changed: p.Changed, Changes: changeLinesJSON(p.Changes), Tickets: ticketsJSON(ws, p.Tickets)}
		if x.Source == "" {
			x.Source = p.At.Source
		}
		if e := p.Element; e != nil {
			x.Screen = e.Screen.Name
			if e != e.Screen.Root {
				x.Element, x.Selector = e.Title(), e.Selector()
			}
		}
		out = append(out, x)
	}
	return out
}
