package cli

import (
	"slices"

	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) tokensUpstreamCmd() *cobra.Command {
	var update, check, dry bool
	c := &cobra.Command{
		Use:   "upstream [NAME…]",
		Short: "List tokens and components that live elsewhere, and take over what is new there",
		Long: long(`List what the workspace takes from elsewhere: the repositories, files and addresses under upstream:, and the commits
that are locked. Their files lie in ` + workspace.UpstreamDir + `/, as they are there. --update lists what is new and takes it over, with
--dry-run only lists it; --check exits with 1 where something is new.`),
		Example: example("archetyp tokens upstream", "archetyp tokens upstream --update", "archetyp tokens upstream brand --check"),
		RunE: func(_ *cobra.Command, args []string) error {
			a.writes(update && !dry)
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			if !update && !check {
				list, err := job.Upstreams(ws)
				if err != nil {
					return err
				}
				return a.printUpstreams(list, false)
			}
			list, err := job.AskUpstreams(a.ctx, ws, args, update && !dry)
			if err != nil {
				return err
			}
			if err := a.printUpstreams(list, update && !dry); err != nil {
				return err
			}
			if check && slices.ContainsFunc(list, func(u job.UpstreamState) bool { return u.Newer() }) {
				return foundError{}
			}
			return nil
		},
	}
	c.Flags().BoolVar(&update, "update", false, "take over what is new there")
	c.Flags().BoolVar(&check, "check", false, "look what is new, and exit with 1 where something is")
	c.Flags().BoolVar(&dry, "dry-run", false, "with --update: list what is new, and write nothing")
	return c
}

type upstreamJSON struct {
	Name    string       `json:"name"`
	Of      string       `json:"of"` // tokens or components
	From    string       `json:"from"`
	Ref     string       `json:"ref,omitempty"`
	Taken   bool         `json:"taken"`
	Commit  string       `json:"commit,omitempty"` // that is locked
	Now     string       `json:"now,omitempty"`    // that is there
	Newer   bool         `json:"newer"`
	Files   []string     `json:"files"` // that differ
	Changes []changeJSON `json:"changes"`
}

func (a *app) printUpstreams(list []job.UpstreamState, written bool) error {
	t := a.term
	if a.json {
		out := []upstreamJSON{}
		for _, u := range list {
			x := upstreamJSON{Name: u.Folder(), Of: u.What, From: u.Repo + u.File + u.URL, Ref: u.Ref, Taken: u.Have, Commit: u.Taken.Commit, Now: u.Now.Commit,
				Newer: u.Newer(), Files: append([]string{}, u.Files...), Changes: []changeJSON{}}
			if u.Libs[0] != nil {
				x.Changes = changesJSON(u.Libs, u.Changes)
			}
			out = append(out, x)
		}
		return a.printJSON(map[string]any{"upstream": out, "written": written})
	}
	if len(list) == 0 {
		a.print("nothing lies upstream; tokens: upstream: in %s says where tokens come from\n", workspace.ConfigName)
		return nil
	}
	for _, u := range list {
		state := t.dim("not taken yet")
		switch {
		case u.Have && u.Taken.Commit != "":
			state = t.dim("locked to " + short12(u.Taken.Commit))
		case u.Have:
			state = t.dim("locked by its contents")
		}
		a.print("%s  %s  %s  %s\n", t.bold(u.Folder()), t.accent(u.What), u.Where(), state)
		switch {
		case !u.Asked:
		case !u.Newer():
			a.print("  %s nothing new\n", t.good("✓"))
		default:
			if u.Now.Commit != "" {
				a.print("  now %s, %s\n", short12(u.Now.Commit), plural(len(u.Files), "file differs", "files differ"))
			}
			if len(u.Changes) > 0 {
				shown := u.Changes
				if !a.verbose && len(shown) > mostChanges+1 {
					shown = shown[:mostChanges]
				}
				a.print("%s", a.changesTable(u.Libs, shown))
				if n := len(u.Changes) - len(shown); n > 0 {
					a.print("  %s\n", t.dim(plural(n, "more change; --verbose shows it", "more changes; --verbose shows them")))
				}
			}
			if written {
				a.say("taken over into %s; \"archetyp sync\" brings all else in step\n", u.Place())
			}
		}
	}
	return nil
}

// proposeToken proposes a value upstream.
func (a *app) proposeToken(ws *workspace.Workspace, q job.SetRequest, branch string) error {
	r, branch, err := job.ProposeToken(a.ctx, ws, q, branch)
	if err != nil {
		return err
	}
	u := ws.UpstreamOf(r.File)
	if a.json {
		return a.printJSON(map[string]any{"token": r.Token, "old": r.Old, "branch": branch, "repo": u.Repo})
	}
	a.print("%s is proposed as the branch %s in %s; nothing changed here\n", q.Token, a.term.bold(branch), u.Repo)
	return nil
}
