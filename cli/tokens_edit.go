package cli

import (
	"fmt"
	"path/filepath"
	"strings"

	"archetyp/core/hint"
	"archetyp/core/token"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) tokensSetCmd() *cobra.Command {
	context, typ, about, branch := "", "", "", ""
	apply, upstream := false, false
	c := &cobra.Command{
		Use:   "set TOKEN VALUE",
		Short: "Give a token a value, or make one",
		Long: long(`Give a token a value: CSS, {another.token}, or JSON as the token format has it. A token that is
not there yet is made. With --context the value holds in that context only. Every other byte of the token file
stays.`),
		Example: example("archetyp tokens set color.action.default '#0a6a8a'",
			"archetyp tokens set color.text.hint '{color.ink.600}' --context scheme.dark"),
		Args: exactly("a TOKEN", "a VALUE"),
		RunE: func(_ *cobra.Command, args []string) error {
			if strings.Contains(args[0], "..") || strings.HasPrefix(args[0], ".") || strings.HasSuffix(args[0], ".") ||
				strings.ContainsAny(args[0], "{}") {
				return hint.New(fmt.Sprintf("%q cannot be a token", args[0]), "Names joined with dots, such as color.sea.600.")
			}
			a.writes(true)
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			q := job.SetRequest{Token: args[0], Value: args[1], Context: context, Type: token.Type(typ), About: about}
			if upstream {
				return a.proposeToken(ws, q, branch)
			}
			r, err := job.SetToken(ws, q)
			if err != nil {
				return err
			}
			switch {
			case a.json && !apply:
				return a.printJSON(r)
			case apply && context != "":
				return hint.New("the token is set; drawings show what holds where no context is chosen", "")
			case apply:
				return a.applyTokens(ws)
			}
			a.printSetToken(ws, r)
			return nil
		},
	}
	c.Flags().BoolVar(&apply, "apply", false, "write the value into the drawings that show the one before")
	c.Flags().BoolVar(&upstream, "upstream", false, "propose the value where the token lives, as a branch")
	c.Flags().StringVar(&branch, "branch", "", "with --upstream: the `NAME` of the branch")
	c.Flags().StringVar(&context, "context", "", "set it in this `CONTEXT` only, such as scheme.dark")
	c.Flags().StringVar(&typ, "type", "", "the `TYPE` of a new token, where the value leaves it open")
	c.Flags().StringVar(&about, "describe", "", "the token's description, in `WORDS`")
	return c
}

// printSetToken prints a token that was given a value.
func (a *app) printSetToken(ws *workspace.Workspace, r *job.SetResult) {
	where := r.File
	if r.Context != "" {
		where += ", " + r.Context
	}
	switch {
	case len(r.Written) == 0:
		a.say("%s has this value already; nothing was written\n", r.Token)
	case r.Added && r.Old == "":
		a.print("%s %s  %s%s  %s\n", a.term.good("+"), r.Token, a.term.swatchOf(r.New), r.New, a.term.dim(where))
	default:
		defer a.sayBehind(ws, r.Base, r.Token)
		a.print("%s %s  %s%s → %s%s  %s\n", a.term.accent("~"), r.Token, a.term.swatchOf(r.Old), r.Old,
			a.term.swatchOf(r.New), r.New, a.term.dim(where))
	}
}

// sayBehind reports which drawings still show what tokens were before.
func (a *app) sayBehind(ws *workspace.Workspace, set *token.Set, paths ...string) {
	still, err := job.StillShown(ws, set, paths)
	if err != nil || len(still) == 0 {
		return
	}
	var list []string
	for _, source := range sortedNames(still) {
		list = append(list, fmt.Sprintf("%s in %s", source, plural(still[source], "place", "places")))
	}
	a.say("still drawn with the value before: %s\n", strings.Join(list, ", "))
}

// full is a list that prints as [] where it is empty.
func full[T any](l []T) []T {
	if l == nil {
		return []T{}
	}
	return l
}

func (a *app) tokensRenameCmd() *cobra.Command {
	in := ""
	c := &cobra.Command{
		Use:   "rename TOKEN NEW",
		Short: "Give a token or group another name, and lead all that points to it there",
		Long: long(`Give a token or a whole group another path. Aliases follow in every token file; with --in so do
the names in code, as each language writes them.`),
		Example: example("archetyp tokens rename color.sea color.water",
			"archetyp tokens rename color.foam color.mist --in src"),
		Args: exactly("a TOKEN", "a NEW path"),
		RunE: func(_ *cobra.Command, args []string) error {
			a.writes(true)
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			return a.renameToken(ws, args[0], args[1], in)
		},
	}
	c.Flags().StringVar(&in, "in", "", "rename its uses in the code of this `DIR`, too")
	return c
}

func (a *app) renameToken(ws *workspace.Workspace, from, to, in string) error {
	dir := ""
	if in != "" {
		var err error
		if dir, err = a.codeFolder("--in", in); err != nil {
			return err
		}
	}
	r, err := job.RenameToken(ws, from, to, dir)
	if err != nil {
		return err
	}
	if a.json {
		return a.printJSON(map[string]any{"renamed": r.Tokens, "files": full(r.TokenFiles), "aliases": r.Aliases,
			"code": codeJSON(r.Code), "written": full(r.Written)})
	}
	a.print("%s %s → %s  %s\n", a.term.accent("~"), from, to,
		a.term.dim(fmt.Sprintf("%s, %s led there", plural(len(r.Tokens), "token", "tokens"),
			plural(r.Aliases, "alias", "aliases"))))
	for _, f := range r.Also {
		a.print("  %s\n", a.term.dim(f))
	}
	a.printCodeUses(r.Code)
	return nil
}

// path is an argument's path from where the command works.
func (a *app) path(p string) string {
	if filepath.IsAbs(p) {
		return p
	}
	abs, err := filepath.Abs(filepath.Join(a.dir, p))
	if err != nil {
		return filepath.Join(a.dir, p)
	}
	return abs
}

func (a *app) tokensRemoveCmd() *cobra.Command {
	force := false
	c := &cobra.Command{
		Use:   "remove TOKEN",
		Short: "Remove a token, unless it is used",
		Long: long("Remove a token from every file it stands in. One that other tokens point to, or whose value " +
			"drawings use, is kept unless --force says so; aliases are never left without their end."),
		Example: example("archetyp tokens remove color.sea.750"),
		Args:    exactly("a TOKEN"),
		RunE: func(_ *cobra.Command, args []string) error {
			a.writes(true)
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			files, err := job.RemoveToken(ws, args[0], force)
			if err != nil {
				return err
			}
			if a.json {
				return a.printJSON(map[string]any{"removed": args[0], "files": full(files)})
			}
			a.print("%s %s  %s\n", a.term.bad("-"), args[0], a.term.dim(strings.Join(files, ", ")))
			return nil
		},
	}
	c.Flags().BoolVar(&force, "force", false, "remove it though drawings use its value")
	return c
}
