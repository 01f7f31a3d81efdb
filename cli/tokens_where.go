package cli

import (
	"fmt"

	"archetyp/core/token"
	"archetyp/job"

	"github.com/spf13/cobra"
)

func (a *app) whereCmd() *cobra.Command {
	in := ""
	c := &cobra.Command{
		Use:   "where TOKEN",
		Short: "Find where a token is used: elements of drawings, other tokens, lines of code",
		Long: long(`Find the elements of the drawings that have a token's value, the tokens that point to it, and
with --in the lines of code that name it, as each language writes it.`),
		Example: example("archetyp tokens where color.sea.600", "archetyp tokens where type.body --in src"),
		Args:    exactly("a TOKEN"),
		RunE: func(_ *cobra.Command, args []string) error {
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			r, err := job.Read(a.ctx, ws)
			if err != nil {
				return err
			}
			a.warnUnread(r.Unread)
			t, err := job.Known(r.Tokens, args[0])
			if err != nil {
				return err
			}
			var code []job.CodeUse
			if in != "" {
				names := map[string]string{}
				for n, p := range job.CodeNames(ws, r.Tokens.Base) {
					if p == t.Path {
						names[n] = p
					}
				}
				dir, err := a.codeFolder("--in", in)
				if err != nil {
					return err
				}
				if code, err = job.CodeUses(ws, dir, names); err != nil {
					return err
				}
			}
			return a.printWhere(r, t, code, in != "")
		},
	}
	c.Flags().StringVar(&in, "in", "", "look for it in the code of this `DIR`, too")
	return c
}

type codeUseJSON struct {
	File   string `json:"file"`
	Line   int    `json:"line"`
	Column int    `json:"column"`
	Name   string `json:"name"`
	Text   string `json:"text"`
}

func codeJSON(uses []job.CodeUse) []codeUseJSON {
	out := []codeUseJSON{}
	for _, u := range uses {
		out = append(out, codeUseJSON{u.File, u.Line, u.Column, u.Name, u.Text})
	}
	return out
}

func (a *app) printWhere(r *job.Snapshot, t *token.Token, code []job.CodeUse, looked bool) error {
	uses, end := r.Harvest.Uses(r.Tokens.Base, t), r.Tokens.Base.Resolve(t).Path
	users := []string{}
	for _, u := range r.Tokens.Base.Users()[t.Path] {
		users = append(users, u.Path)
	}
	if a.json {
		return a.printJSON(map[string]any{"token": t.Path, "value": end, "elements": uses, "tokens": users,
			"code": codeJSON(code)})
	}
	tm := a.term
	if len(uses) > 0 {
		head := "Elements with this value"
		if end != t.Path {
			head = "Elements with the value of " + end
		}
		a.print("%s\n", tm.bold(head))
		var rows [][]string
		for i, u := range uses {
			if i == 20 && !a.verbose {
				rows = append(rows, []string{tm.dim(fmt.Sprintf("  … %d more; --verbose shows them", len(uses)-20))})
				break
			}
			rows = append(rows, []string{"  " + u.Screen, u.Selector, tm.dim(u.Property),
				tm.dim(fmt.Sprintf("%s:%d", u.Source, u.Line))})
		}
		a.print("%s", tm.table(nil, rows))
	}
	if len(users) > 0 {
		a.print("%s\n", tm.bold("Tokens that point to it"))
		for _, u := range users {
			a.print("  %s\n", u)
		}
	}
	if len(code) > 0 {
		a.print("%s\n", tm.bold("Code"))
		a.printCodeUses(code)
	}
	if len(uses)+len(users)+len(code) == 0 {
		where := "no element has its value, and no token points to it"
		if looked {
			where += "; no code names it"
		}
		a.print("%s\n", where)
	}
	return nil
}

// printCodeUses lists lines of code as file:line:column, which editors open.
func (a *app) printCodeUses(uses []job.CodeUse) {
	for i, u := range uses {
		if i == 40 && !a.verbose {
			a.print("  %s\n", a.term.dim(fmt.Sprintf("… %d more; --verbose shows them", len(uses)-40)))
			return
		}
		a.print("  %s  %s\n", a.term.accent(fmt.Sprintf("%s:%d:%d", u.File, u.Line, u.Column)), clip(u.Text, 90))
	}
}
