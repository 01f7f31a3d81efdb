package cli

import (
	"fmt"
	"path/filepath"
	"strings"

	"archetyp/core/hint"
	"archetyp/core/token"
	"archetyp/core/token/absorb"
	"archetyp/core/token/emit"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) tokensSetCmd() *cobra.Command {
	context, typ, about := "", "", ""
	c := &cobra.Command{
		Use:   "set TOKEN VALUE",
		Short: "Give a token a value, or make one",
		Long: long(`Give a token a value: CSS, {another.token}, or JSON as the token format has it. A token that is not there yet
is made. With --context the value holds in that context only. Every other byte of the token file stays.`),
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
			e, err := job.EditTokens(ws)
			if err != nil {
				return err
			}
			return a.setToken(ws, e, args[0], args[1], context, token.Type(typ), about)
		},
	}
	c.Flags().StringVar(&context, "context", "", "set it in this `CONTEXT` only, such as scheme.dark")
	c.Flags().StringVar(&typ, "type", "", "the `TYPE` of a new token, where the value leaves it open")
	c.Flags().StringVar(&about, "describe", "", "the token's description, in `WORDS`")
	return c
}

func (a *app) setToken(ws *workspace.Workspace, e *job.TokenEdit, path, text, context string, typ token.Type,
	about string) error {
	set := e.Library.Base
	if c, ok := e.Library.Context(context); ok {
		set = c.Set
	}
	old, was := set.Get(path), ""
	like := token.Value{}
	if old != nil {
		if typ != "" && typ != old.Type {
			return fmt.Errorf("%s is a %s; --type cannot make it another", path, old.Type)
		}
		typ, was, like = old.Type, emit.Literal(set, old), set.Resolve(old).Value
	}
	got, v, own, err := absorb.Text(set, path, text, typ, like, ws.Config.RootPx())
	if err != nil {
		return err
	}
	if typ != "" && got != typ {
		return fmt.Errorf("%s is a %s, where a %s is wanted", text, got, typ)
	}
	if old != nil && got == token.Gradient && own.Angle == nil && own.Kind == "" {
		own = old.Own
	}
	file, added, err := e.Set(&token.Token{Path: path, Type: got, Value: v, Own: own, Description: about}, context)
	if err != nil {
		return err
	}
	files, err := e.Apply(nil)
	if err != nil {
		return err
	}
	lib, err := ws.ReadTokens(nil)
	if err != nil {
		return err
	}
	set = lib.Base
	if c, ok := lib.Context(context); ok {
		set = c.Set
	}
	now := emit.Literal(set, set.Get(path))
	if a.json {
		return a.printJSON(map[string]any{"token": path, "context": context, "old": was, "new": now, "added": added,
			"file": file, "written": full(files)})
	}
	where := file
	if context != "" {
		where += ", " + context
	}
	switch {
	case len(files) == 0:
		a.say("%s has this value already; nothing was written\n", path)
	case added && was == "":
		a.print("%s %s  %s%s  %s\n", a.term.good("+"), path, a.term.swatchOf(now), now, a.term.dim(where))
	default:
		defer a.sayBehind(ws, lib.Base, path)
		a.print("%s %s  %s%s → %s%s  %s\n", a.term.accent("~"), path, a.term.swatchOf(was), was, a.term.swatchOf(now), now,
			a.term.dim(where))
	}
	return nil
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
func full(l []string) []string {
	if l == nil {
		return []string{}
	}
	return l
}

func (a *app) tokensRenameCmd() *cobra.Command {
	in := ""
	c := &cobra.Command{
		Use:   "rename TOKEN NEW",
		Short: "Give a token or group another name, and lead all that points to it there",
		Long: long(`Give a token or a whole group another path. Aliases follow in every token file; with --in so do the names in
code, as each language writes them.`),
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
