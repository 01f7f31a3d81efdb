package cli

import (
	"fmt"
	"os"
	"path/filepath"
	"sort"
	"strings"

	"archetyp/core/design"
	"archetyp/core/hint"
	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) tokensCompareCmd() *cobra.Command {
	as := "text"
	c := &cobra.Command{
		Use:   "compare [A [B]]",
		Short: "Tell what differs between two states of the tokens",
		Long: long(`Compare tokens: files, folders, or revisions that git knows. Without B, with the tokens as they are now;
without A, from the last commit. What was renamed (the same value in the same place) is listed as that. --as
markdown is for a pull request.`),
		Example: example("archetyp tokens compare", "archetyp tokens compare main --as markdown",
			"archetyp tokens compare old.tokens.json new.tokens.json"),
		Args: between(0, 2, "A and B at most"),
		RunE: func(_ *cobra.Command, args []string) error {
			if as != "text" && as != "markdown" {
				return hint.New(fmt.Sprintf("--as %q is not known", as), "Choose text or markdown.")
			}
			sides := []string{"HEAD", ""}
			copy(sides, args)
			var libs [2]*token.Library
			for i, s := range sides {
				var err error
				if libs[i], err = a.tokensOf(s); err != nil {
					return err
				}
				if err := libs[i].Err(); err != nil {
					return err
				}
			}
			changes := token.Compare(libs[0], libs[1])
			switch {
			case a.json:
				return a.printJSON(map[string]any{"changes": changesJSON(libs, changes)})
			case as == "markdown":
				a.markdownChanges(libs, changes)
			default:
				a.printChanges(libs, changes)
			}
			return nil
		},
	}
	c.Flags().StringVar(&as, "as", as, "the `FORM`: text or markdown")
	return c
}

// tokensOf reads tokens from a file, a folder or a revision; "" is the workspace as it is.
func (a *app) tokensOf(arg string) (*token.Library, error) {
	if arg == "" {
		ws, err := a.workspaceHere()
		if err != nil {
			return nil, err
		}
		return ws.LoadTokens(ws.Reader(nil), nil)
	}
	p := a.path(arg)
	info, err := os.Stat(p)
	switch {
	case err == nil && info.IsDir():
		return a.folderTokens(p, arg)
	case err == nil:
		data, err := workspace.ReadFile(p, arg)
		if err != nil {
			return nil, err
		}
		if strings.HasSuffix(arg, ".resolver.json") {
			return token.ParseResolver(data, arg, func(name string) ([]byte, error) {
				return workspace.ReadFile(a.path(name),
					name)
			}).Library(), nil
		}
		return token.Plain(token.Alone(token.Parse(data, arg))), nil
	}
	ws, err := a.workspaceHere()
	if err != nil {
		return nil, err
	}
	return ws.TokensAt(arg)
}

// folderTokens reads the workspace in a folder, or the token files in it.
func (a *app) folderTokens(dir, shown string) (*token.Library, error) {
	if _, err := os.Stat(filepath.Join(dir, workspace.ConfigName)); err == nil {
		ws, _, err := a.open(dir)
		if err != nil {
			return nil, err
		}
		return ws.LoadTokens(ws.Reader(nil), nil)
	}
	names, _ := filepath.Glob(filepath.Join(dir, "*.tokens.json"))
	if len(names) == 0 {
		return nil, fmt.Errorf("%s: no workspace and no *.tokens.json in it", shown)
	}
	sort.Strings(names)
	var files []*token.File
	for _, n := range names {
		name := filepath.Join(shown, filepath.Base(n))
		data, err := workspace.ReadFile(n, name)
		if err != nil {
			return nil, err
		}
		files = append(files, token.Parse(data, name))
	}
	return token.Plain(token.Alone(files...)), nil
}

type changeJSON struct {
	Kind       string  `json:"kind"`
	Token      string  `json:"token"`
	From       string  `json:"from,omitempty"`
	Context    string  `json:"context,omitempty"`
	Type       string  `json:"type"`
	Old        string  `json:"old,omitempty"`
	New        string  `json:"new,omitempty"`
	OldAlias   string  `json:"oldAlias,omitempty"`
	NewAlias   string  `json:"newAlias,omitempty"`
	Difference float64 `json:"difference,omitempty"`
}

func changesJSON(libs [2]*token.Library, list []token.Change) []changeJSON {
	out := []changeJSON{}
	for _, c := range list {
		j := changeJSON{Kind: c.Kind, Token: c.Path, From: c.From, Context: c.Context, Difference: design.Tidy(c.Difference)}
		side := func(lib *token.Library, t *token.Token) (value, alias string) {
			if t == nil {
				return "", ""
			}
			j.Type = string(t.Type)
			set := lib.Base
			if x, ok := lib.Context(c.Context); ok {
				set = x.Set
			}
			if value = emit.Literal(set, t); value == "" { // it leads out of what is compared
				value = "{" + set.Resolve(t).Value.Alias + "}"
			}
			return value, t.Value.Alias
		}
		j.Old, j.OldAlias = side(libs[0], c.Old)
		j.New, j.NewAlias = side(libs[1], c.New)
		out = append(out, j)
	}
	return out
}

func (a *app) printChanges(libs [2]*token.Library, list []token.Change) {
	t := a.term
	if len(list) == 0 {
		a.print("%s no difference\n", t.good("✓"))
		return
	}
	a.print("%s", a.changesTable(libs, list))
	a.say("%s\n", counted(list))
}

// changesTable lists changes of tokens, one a line.
func (a *app) changesTable(libs [2]*token.Library, list []token.Change) block {
	t := a.term
	value := func(v, alias string) string {
		s := t.swatchOf(v) + clip(v, 40)
		if alias != "" {
			s += t.dim(" → " + alias)
		}
		return s
	}
	var rows [][]string
	for _, c := range changesJSON(libs, list) {
		name := c.Token
		if c.Context != "" {
			name += t.dim(" in " + c.Context)
		}
		switch c.Kind {
		case "added":
			rows = append(rows, []string{t.good("+"), name, "", value(c.New, c.NewAlias)})
		case "removed":
			rows = append(rows, []string{t.bad("-"), name, value(c.Old, c.OldAlias), ""})
		case "renamed":
			rows = append(rows, []string{t.accent("→"), name, t.dim("was ") + c.From, value(c.New, c.NewAlias)})
		default:
			note := ""
			if c.Difference > 0 {
				note = t.dim(fmt.Sprintf("differ by %.3f", c.Difference))
			}
			rows = append(rows, []string{t.warn("~"), name, value(c.Old, c.OldAlias), value(c.New, c.NewAlias), note})
		}
	}
	return t.table([]string{"", "token", "before", "now", ""}, rows)
}

// counted words how many changes there are of each kind.
func counted(list []token.Change) string {
	n := map[string]int{}
	for _, c := range list {
		n[c.Kind]++
	}
	var parts []string
	for _, k := range []string{"changed", "renamed", "added", "removed"} {
		if n[k] > 0 {
			parts = append(parts, fmt.Sprintf("%d %s", n[k], k))
		}
	}
	return strings.Join(parts, ", ")
}

func (a *app) markdownChanges(libs [2]*token.Library, list []token.Change) {
	if len(list) == 0 {
		a.print("No token differs.\n")
		return
	}
	a.print("**Tokens: %s**\n\n| | token | before | now |\n|---|---|---|---|\n", counted(list))
	cell := func(v, alias string) string {
		if v == "" {
			return ""
		}
		s := "`" + strings.ReplaceAll(v, "|", "\\|") + "`"
		if alias != "" {
			s += " → `" + alias + "`"
		}
		return s
	}
	for _, c := range changesJSON(libs, list) {
		name := "`" + c.Token + "`"
		if c.Context != "" {
			name += " in " + c.Context
		}
		before := cell(c.Old, c.OldAlias)
		if c.Kind == "renamed" {
			before = "was `" + c.From + "`"
		}
		now := cell(c.New, c.NewAlias)
		if c.Difference > 0 {
			now += fmt.Sprintf(" (differ by %.3f)", c.Difference)
		}
		a.print("| %s | %s | %s | %s |\n", c.Kind, name, before, now)
	}
}
