package cli

import (
	"strings"

	"archetyp/core/remark"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) inboxCmd() *cobra.Command {
	who, keep, check := "", false, false
	c := &cobra.Command{
		Use:   "inbox",
		Short: "List what concerns you: remarks, changed screens, what was agreed or held",
		Long: long(`List the open remarks that name you, new words in threads where you wrote, the screens that changed since you last
looked, and what was agreed or held since. What is listed counts as seen, for you and on this machine only; --keep
leaves it unseen. With --check, exit with 1 where anything is listed.`),
		Example: example("archetyp inbox", "archetyp inbox --for mika --keep"),
		Args:    cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			in, err := job.ReadInbox(a.ctx, ws, who)
			if err != nil {
				return err
			}
			a.warnUnread(in.Unread)
			if a.json {
				err = a.printJSON(inboxJSON(ws, in))
			} else {
				a.printInbox(ws, in)
			}
			if err == nil && !keep && who == "" {
				err = job.Saw(ws)
			}
			if err == nil && check && !in.Empty() {
				return foundError{}
			}
			return err
		},
	}
	c.Flags().StringVar(&who, "for", "", "what concerns somebody else, by name or handle `PERSON`")
	c.Flags().BoolVar(&keep, "keep", false, "leave it unseen")
	c.Flags().BoolVar(&check, "check", false, "exit with 1 where anything is listed")
	return c
}

func (a *app) printInbox(ws *workspace.Workspace, in *job.Inbox) {
	t := a.term
	if in.Empty() {
		a.print("%s nothing new for %s\n", t.good("✓"), in.Me.Name)
		return
	}
	space := ""
	head := func(s string) {
		a.print("%s%s\n", space, t.bold(s))
		space = "\n"
	}
	if len(in.Remarks) > 0 {
		head("Remarks for " + in.Me.Name)
		for i := range in.Remarks {
			r := &in.Remarks[i]
			a.print("  %s  %s  %s\n", t.bold(r.Short()), t.accent(r.Kind), r.Where())
			show := r.New
			if len(show) == 0 {
				show = []remark.Entry{*r.Last()}
			}
			for _, e := range show {
				does := ""
				if e.Does != "" {
					does = " " + e.Does + " it"
				}
				sign := " "
				if len(r.New) > 0 {
					sign = t.warn("•")
				}
				a.print("    %s %s%s %s\n", sign, e.By, does, t.dim(clip(firstLine(e.Text), 90)))
			}
		}
	}
	if len(in.Phases)+len(in.Dropped) > 0 {
		head("Agreed, held or built since")
		for i := range in.Phases {
			p := &in.Phases[i]
			a.print("  %s  %s  %s\n", a.phaseWord(p.Phase), p.Where(), t.dim(strings.Trim(p.By+", "+firstLine(p.Entry.Why), ", ")))
		}
		for _, k := range in.Dropped {
			a.print("  %s  %s\n", t.dim("dropped"), k)
		}
	}
	if in.Changed != nil {
		head("Changed since you last looked")
		a.printComparisonParts(in.Changed)
	}
	if len(in.Sources) > 0 {
		head("Drawings that changed since you last looked")
		for _, s := range in.Sources {
			a.print("  %s\n", s)
		}
	}
}

func inboxJSON(ws *workspace.Workspace, in *job.Inbox) any {
	type inboxRemark struct {
		remarkJSON
		New []remark.Entry `json:"new"`
	}
	remarks := []inboxRemark{}
	for i := range in.Remarks {
		remarks = append(remarks, inboxRemark{toRemarkJSON(ws, &in.Remarks[i].Remark), append([]remark.Entry{}, in.Remarks[i].New...)})
	}
	var changed any
	if in.Changed != nil {
		changed = comparisonJSON(in.Changed)
	}
	return map[string]any{"for": in.Me, "remarks": remarks, "phases": phasesJSON(ws, in.Phases), "dropped": append([]string{}, in.Dropped...),
		"changed": changed, "sources": append([]string{}, in.Sources...)}
}
