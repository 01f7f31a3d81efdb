package cli

import (
	"fmt"
	"path"
	"strings"

	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/job"

	"github.com/spf13/cobra"
)

func (a *app) tokensListCmd() *cobra.Command {
	revision := ""
	c := &cobra.Command{
		Use:   "list [PATTERN…]",
		Short: "List the tokens as a tree, with their values in every context",
		Long: long(`List the tokens of the workspace, or the groups and tokens that match a pattern, as a tree: the
value, what it points to, and where it is another, the values of other contexts.`),
		Example: example("archetyp tokens list", "archetyp tokens list color.text 'type.title-*'", "archetyp tokens list --revision 2"),
		RunE: func(_ *cobra.Command, args []string) error {
			for _, p := range args {
				if _, err := path.Match(p, ""); err != nil {
					return fmt.Errorf("%q is no pattern", p)
				}
			}
			lib, err := a.libraryAt(revision)
			if err != nil {
				return err
			}
			return a.printTokens(lib, emit.Options{Only: args})
		},
	}
	c.Flags().StringVar(&revision, "revision", "", "the tokens of an `EDITION`, or of any revision that git knows")
	return c
}

type tokenJSON struct {
	Path        string            `json:"path"`
	Type        token.Type        `json:"type"`
	Alias       string            `json:"alias,omitempty"`
	Value       string            `json:"value"`
	Contexts    map[string]string `json:"contexts,omitempty"`
	Description string            `json:"description,omitempty"`
	Deprecated  string            `json:"deprecated,omitempty"`
	File        string            `json:"file"`
	Line        int               `json:"line"`
}

// listed is a token with its values by context, where they are others.
func listed(lib *token.Library, t *token.Token) tokenJSON {
	out := tokenJSON{Path: t.Path, Type: t.Type, Alias: t.Value.Alias, Value: emit.Literal(lib.Base, t),
		Description: t.Description,
		Deprecated:  t.Deprecated, File: t.File, Line: t.Position().Line}
	for _, c := range lib.Contexts {
		o := c.Set.Get(t.Path)
		if c.Default || o == nil {
			continue
		}
		if v := emit.Literal(c.Set, o); v != out.Value {
			if out.Contexts == nil {
				out.Contexts = map[string]string{}
			}
			out.Contexts[c.Key()] = v
		}
	}
	return out
}

// mostInGroup is how many tokens of a group are listed before the rest is folded.
const mostInGroup = 40

func (a *app) printTokens(lib *token.Library, o emit.Options) error {
	out := []tokenJSON{}
	for _, t := range lib.Base.Tokens {
		if o.Includes(t.Path) {
			out = append(out, listed(lib, t))
		}
	}
	if a.json {
		return a.printJSON(map[string]any{"tokens": out})
	}
	if len(out) == 0 && len(o.Only) > 0 {
		_, err := job.Known(lib, o.Only[0]) // with the nearest there is
		return err
	}
	if len(out) == 0 {
		a.say("no tokens; \"archetyp tokens harvest --write\" makes some from the drawings\n")
		return nil
	}
	t := a.term
	var rows [][]string
	var at []string
	count := map[string]int{}
	for _, tok := range out {
		names := strings.Split(tok.Path, ".")
		group := strings.Join(names[:len(names)-1], ".")
		if len(at) > 0 && at[0] != names[0] {
			a.print("%s", t.table(nil, rows))
			rows = nil
		}
		same := 0
		for same < len(at) && same < len(names)-1 && at[same] == names[same] {
			same++
		}
		for i := same; i < len(names)-1; i++ {
			rows = append(rows, []string{strings.Repeat("  ", i) + t.bold(names[i])})
		}
		at = names[:len(names)-1]
		in := strings.Repeat("  ", len(at))
		if count[group]++; count[group] > mostInGroup && !a.verbose {
			if count[group] == mostInGroup+1 {
				rows = append(rows, []string{in + t.dim("… more; --verbose shows them")})
			}
			continue
		}
		rows = append(rows, append([]string{in + names[len(names)-1], t.swatchOf(tok.Value) + clip(tok.Value, 44)},
			t.aside(lib, tok)...))
	}
	a.print("%s", t.table(nil, rows))
	if len(out) > 1 {
		a.say("%s\n", plural(len(out), "token", "tokens"))
	}
	return nil
}

// aside is what a token points to, what it is in other contexts, and that it is on its way out.
func (t *term) aside(lib *token.Library, tok tokenJSON) []string {
	alias := ""
	if tok.Alias != "" {
		alias = t.dim("→ " + tok.Alias)
	}
	var parts []string
	for _, c := range lib.Contexts {
		if v, ok := tok.Contexts[c.Key()]; ok {
			parts = append(parts, t.accent(c.Name)+" "+t.swatchOf(v)+clip(v, 30))
		}
	}
	if tok.Deprecated != "" {
		parts = append(parts, t.warn("deprecated"))
	}
	return []string{alias, strings.Join(parts, "  ")}
}

// clip shortens a text to some letters.
func clip(s string, most int) string {
	if r := []rune(s); len(r) > most {
		return string(r[:most-1]) + "…"
	}
	return s
}
