package cli

import (
	"fmt"
	"path"
	"strings"

	"archetyp/core/design"
	"archetyp/core/emit"
	"archetyp/core/token"
	"archetyp/sync"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) tokensCmd() *cobra.Command {
	c := &cobra.Command{
		Use:     "tokens",
		Short:   "Harvest, list and write design tokens",
		Long:    long("Harvest tokens from drawings, list those there are, and write them as CSS variables."),
		Example: example("archetyp tokens harvest"),
		Args:    cobra.NoArgs,
		RunE:    func(c *cobra.Command, _ []string) error { return c.Help() },
	}
	c.AddCommand(a.harvestCmd(), a.tokensListCmd(), a.tokensEmitCmd())
	return c
}

// reading reads the one source named, or all of the workspace.
func (a *app) reading(args []string) (*sync.Reading, *workspace.Workspace, error) {
	if len(args) == 0 {
		ws, err := a.workspaceHere()
		if err != nil {
			return nil, nil, err
		}
		r, err := sync.Read(ws)
		return r, ws, err
	}
	doc, ws, err := a.source(args[0])
	if err != nil {
		return nil, nil, err
	}
	r := &sync.Reading{Docs: []*design.Document{doc}}
	scales, have := token.Scales{Space: 4}, (*token.Set)(nil)
	if ws != nil {
		if r.Tokens, err = ws.ReadTokens(nil); err != nil {
			return nil, nil, err
		}
		have = r.Tokens.Base
		scales = token.Scales{Space: ws.Config.SpaceStep(), Type: ws.Config.TypeScale()}
	}
	r.Harvest = token.Collect(r.Docs, have, scales)
	return r, ws, nil
}

func (a *app) harvestCmd() *cobra.Command {
	write := ""
	c := &cobra.Command{
		Use:   "harvest [SOURCE]",
		Short: "List the values of drawings with their uses, and the tokens they are or could be",
		Long: long(`List the values found in drawings (colours, type styles, spacing, radii, shadows, gradients) with their uses, the token
each one is or the name proposed for it, near-duplicates and numbers off the scale. --write accepts the proposals, or
with a pattern (--write='color.*') those it matches, into the token file.`),
		Example: example("archetyp tokens harvest", "archetyp tokens harvest --write='color.*'"),
		Args:    between(0, 1, "a SOURCE at most"),
		RunE: func(_ *cobra.Command, args []string) error {
			r, ws, err := a.reading(args)
			if err != nil {
				return err
			}
			if write == "" {
				return a.printHarvest(r.Harvest)
			}
			if ws == nil {
				return hint("--write: there is no workspace here to write tokens into", "\"archetyp init\" begins one.")
			}
			if _, err := path.Match(write, ""); err != nil {
				return fmt.Errorf("--write %q is no pattern", write)
			}
			added, err := sync.Accept(ws, r, func(p string) bool {
				ok, _ := path.Match(write, p)
				return ok
			})
			if err != nil {
				return err
			}
			if a.json {
				return a.printJSON(map[string]any{"written": added})
			}
			for _, p := range added {
				a.print("%s %s\n", a.term.good("+"), p)
			}
			if len(added) == 0 {
				a.say("no proposal to write%s\n", map[bool]string{true: "", false: " matches " + write}[write == "*"])
			} else {
				a.say("%s written. Next: %s\n", plural(len(added), "token", "tokens"), a.term.accent("archetyp sync"))
			}
			return nil
		},
	}
	c.Flags().StringVar(&write, "write", "", "accept the proposals (whose path matches `GLOB`) into the token file")
	c.Flags().Lookup("write").NoOptDefVal = "*"
	return c
}

type foundJSON struct {
	Kind     string      `json:"kind"`
	Value    string      `json:"value"`
	Token    string      `json:"token,omitempty"`
	Proposed string      `json:"proposed,omitempty"`
	Near     string      `json:"near,omitempty"`
	NearBy   float64     `json:"difference,omitempty"`
	Off      string      `json:"nearestStep,omitempty"`
	Uses     []token.Use `json:"uses"`
}

func (a *app) printHarvest(h *token.Harvest) error {
	if a.json {
		out := []foundJSON{}
		for _, f := range h.Found {
			out = append(out, foundJSON{f.Kind, f.Text, f.Token, f.Proposed, f.Near, f.NearBy, f.Off, f.Uses})
		}
		aliases := map[string]string{}
		for _, t := range h.Aliases {
			aliases[t.Path] = t.Value.Alias
		}
		return a.printJSON(map[string]any{"values": out, "aliases": aliases, "proposals": h.Proposals()})
	}
	titles := map[string]string{"color": "Colours", "type": "Type styles", "space": "Spacing", "radius": "Radii", "shadow": "Shadows", "gradient": "Gradients"}
	t := a.term
	kind, folded := "", 0
	var rows [][]string
	flush := func() {
		if len(rows) > 0 {
			a.print("\n%s\n%s", t.bold(titles[kind]), t.table([]string{"  value", "uses", "token", "where"}, rows, 1))
		}
		if folded > 0 {
			a.print("  %s\n", t.dim(fmt.Sprintf("and %s that stand once; --verbose shows them", plural(folded, "distance", "distances"))))
		}
		rows, folded = nil, 0
	}
	for _, f := range h.Found {
		if f.Kind != kind {
			flush()
			kind = f.Kind
		}
		if f.Kind == "space" && len(f.Uses) == 1 && f.Token == "" && !a.verbose {
			folded++
			continue
		}
		name := f.Token
		switch {
		case f.Near != "":
			name = t.warn("~ almost " + f.Near)
		case f.Off != "":
			name = t.warn("~ off the scale, nearest is " + f.Off)
		case f.Proposed != "":
			name = t.good("+ " + f.Proposed)
		case name == "":
			name = t.dim("used once")
		}
		value := f.Text
		if r := []rune(value); len(r) > 56 {
			value = string(r[:55]) + "…"
		}
		rows = append(rows, []string{"  " + t.swatchOf(f.Text) + value, fmt.Sprint(len(f.Uses)), name, t.dim(firstUse(f.Uses))})
	}
	flush()
	if len(h.Aliases) > 0 {
		a.print("\n%s\n", t.bold("Names by use"))
		for _, al := range h.Aliases {
			a.print("  %s %s\n", t.good("+ "+al.Path), t.dim("→ "+al.Value.Alias))
		}
	}
	if n := h.Proposals(); n > 0 {
		a.say("\n%s could be tokens; --write accepts them.\n", plural(n, "value", "values"))
	}
	return nil
}

func firstUse(uses []token.Use) string {
	u := uses[0]
	return u.Screen + ": " + u.Element + " (" + u.Property + ")"
}

func (a *app) tokensListCmd() *cobra.Command {
	return &cobra.Command{
		Use:     "list",
		Short:   "List the tokens with their values",
		Long:    long("List the tokens of the workspace with their types and values, aliases with what they come to."),
		Example: example("archetyp tokens list"),
		Args:    cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			lib, err := ws.ReadTokens(nil)
			if err != nil {
				return err
			}
			set := lib.Base
			for _, w := range lib.Warnings() {
				a.say("%s %s\n", newTerm(a.err, a.color).warn("warning"), w.Error())
			}
			return a.printTokens(set)
		},
	}
}

func (a *app) printTokens(set *token.Set) error {
	type tokenJSON struct {
		Path  string     `json:"path"`
		Type  token.Type `json:"type"`
		Alias string     `json:"alias,omitempty"`
		Value string     `json:"value"`
		File  string     `json:"file"`
		Line  int        `json:"line"`
	}
	out := []tokenJSON{}
	var rows [][]string
	t := a.term
	for _, tok := range set.Tokens {
		end := set.Resolve(tok)
		value := emit.Literal(set, end)
		out = append(out, tokenJSON{tok.Path, tok.Type, tok.Value.Alias, value, tok.File, tok.Position.Line})
		shown := t.swatchOf(value) + value
		if tok.Value.Alias != "" {
			shown += " " + t.dim("→ "+tok.Value.Alias)
		}
		rows = append(rows, []string{tok.Path, t.accent(string(tok.Type)), shown})
	}
	if a.json {
		return a.printJSON(map[string]any{"tokens": out})
	}
	if len(rows) == 0 {
		a.say("no tokens yet; \"archetyp tokens harvest --write\" makes some from the drawings\n")
		return nil
	}
	a.print("%s", t.table(nil, rows))
	return nil
}

func (a *app) tokensEmitCmd() *cobra.Command {
	as, out, unit, prefix := "css", "", "px", ""
	c := &cobra.Command{
		Use:     "emit",
		Short:   "Write the tokens as code to stdout or a file",
		Long:    long("Write the tokens of the workspace as code, to stdout or to a file; sync writes those of the configuration."),
		Example: example("archetyp tokens emit --as css --unit rem"),
		Args:    cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			lang, ok := emit.Of(as)
			if !ok {
				return hint(fmt.Sprintf("--as %q is not known", as), "Known: "+strings.Join(emit.Names(), ", ")+".")
			}
			if unit != "px" && unit != "rem" {
				return hint(fmt.Sprintf("--unit %q is not known", unit), "Choose px or rem.")
			}
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			lib, err := ws.ReadTokens(nil)
			if err != nil {
				return err
			}
			files, warnings, err := lang.Write(lib, emit.Options{Unit: unit, Prefix: prefix, Root: ws.Config.RootPx(), Name: ws.Config.Name})
			if err != nil {
				return err
			}
			for _, w := range warnings {
				a.say("%s %s\n", newTerm(a.err, a.color).warn("warning"), w)
			}
			return a.writeText(out, files[0].Text)
		},
	}
	c.Flags().StringVar(&as, "as", "css", "the `LANGUAGE` to write: "+strings.Join(emit.Names(), ", "))
	c.Flags().StringVarP(&out, "output", "o", "", "the `FILE` to write (default: stdout)")
	c.Flags().StringVar(&unit, "unit", "px", "the `UNIT` of dimensions: px or rem")
	c.Flags().StringVar(&prefix, "prefix", "", "a `WORD` before every name")
	return c
}

// tokenNames answers which token a value is.
type tokenNames struct {
	paths    map[string]string
	property func(kind, value string) string
}

// tokenNames reads the tokens of a workspace; none has none.
func (a *app) tokenNames(ws *workspace.Workspace) (tokenNames, error) {
	n := tokenNames{paths: map[string]string{}, property: func(string, string) string { return "" }}
	if ws == nil {
		return n, nil
	}
	lib, err := ws.ReadTokens(nil)
	if err != nil {
		return n, err
	}
	set := lib.Base
	prefix := ""
	for _, o := range ws.Config.Outputs {
		if o.As == "css" {
			prefix = o.Prefix
		}
	}
	n.property = sync.Properties(set, prefix)
	for _, t := range set.Tokens {
		n.paths[emit.Property(t.Path, prefix)] = t.Path
	}
	return n, nil
}

// of is the token that the value of an element's fact is.
func (n tokenNames) of(e *design.Element, f design.FactLine) string {
	kind := map[string]string{"fill": "color:surface", "stroke": "color:border", "border-radius": "radius", "shadow": "shadow", "font-family": "fontFamily",
		"gap": "space", "row-gap": "space", "column-gap": "space", "padding": "space"}[f.Name]
	if kind == "" {
		return ""
	}
	switch {
	case strings.Contains(f.Value, "gradient("):
		kind = "gradient"
	case f.Name == "fill" && e.Words != nil:
		kind = "color:text"
	case f.Name == "fill" && e.Kind == design.Path:
		kind = "color:icon"
	}
	return n.paths[n.property(kind, f.Value)]
}
