package cli

import (
	"fmt"
	"slices"
	"strings"

	"archetyp/core/guard"
	"archetyp/core/hint"
	"archetyp/core/token"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
	"golang.org/x/sync/errgroup"
)

func (a *app) tokensCheckCmd() *cobra.Command {
	fix, in := false, ""
	var only []string
	var rules strings.Builder
	for _, r := range token.Rules {
		fmt.Fprintf(&rules, "\n  %-12s %s", r[0], r[1])
	}
	c := &cobra.Command{
		Use:   "check",
		Short: "Check the tokens: valid, readable, named and used as they should be",
		Long: long(`Check the token files in every context. Broken files, conflicts left by a merge, names against the pattern and contrast end with
status 1; the rest is worth knowing. --fix brings older forms of values up to date. The rules:
` + rules.String()),
		Example: example("archetyp tokens check", "archetyp tokens check --only contrast,unused --in src",
			"archetyp tokens check --fix"),
		Args: cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			for _, o := range only {
				known := false
				for _, r := range token.Rules {
					known = known || r[0] == o
				}
				if !known {
					return hint.New(fmt.Sprintf("--only %q is no rule", o), "\"archetyp tokens check --help\" lists them.")
				}
			}
			a.writes(fix)
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			var fixed []string
			if fix {
				if fixed, err = job.FixTokens(ws); err != nil {
					return err
				}
			}
			list, err := a.checkTokens(ws, in, len(only) == 0 || slices.Contains(only, "unused"))
			if err != nil {
				return err
			}
			return a.printFindings(list, only, fixed)
		},
	}
	c.Flags().BoolVar(&fix, "fix", false, "write values in older forms as the format has them now")
	c.Flags().StringVar(&in, "in", "", "count uses in the code of this `DIR`, too")
	c.Flags().StringSliceVar(&only, "only", nil, "check these `RULES` only")
	return c
}

func (a *app) checkTokens(ws *workspace.Workspace, in string, uses bool) ([]token.Finding, error) {
	var lib *token.Library
	var lock *workspace.Lock
	var g errgroup.Group
	g.Go(func() (err error) {
		defer guard.Catch(&err, "")
		lib, err = ws.LoadTokens(ws.Reader(nil), nil)
		return err
	})
	g.Go(func() (err error) {
		defer guard.Catch(&err, "")
		if uses {
			lock, err = ws.ReadLock()
		} else {
			lock = &workspace.Lock{}
		}
		return err
	})
	if err := g.Wait(); err != nil {
		return nil, err
	}
	o := token.CheckOptions{Scales: token.Scales{Space: ws.Config.SpaceStep(), Type: ws.Config.TypeScale()},
		Names: ws.Config.Tokens.Names, Root: ws.Config.RootPx()}
	for path, t := range lock.TokensNow() {
		if o.Used == nil {
			o.Used = map[string]bool{}
		}
		if len(t.Uses) > 0 {
			o.Used[path] = true
		}
	}
	if in != "" {
		dir, err := a.codeFolder("--in", in)
		if err != nil {
			return nil, err
		}
		uses, err := job.CodeUses(ws, dir, job.CodeNames(ws, lib.Base))
		if err != nil {
			return nil, err
		}
		if o.Used == nil {
			o.Used = map[string]bool{}
		}
		for _, u := range uses {
			o.Used[u.Token] = true
		}
	}
	return token.Check(lib, o)
}

type findingJSON struct {
	Rule    string `json:"rule"`
	Level   string `json:"level"` // error, note
	Token   string `json:"token,omitempty"`
	Context string `json:"context,omitempty"`
	Message string `json:"message"`
	File    string `json:"file"`
	Line    int    `json:"line"`
	Column  int    `json:"column"`
}

func (a *app) printFindings(list []token.Finding, only, fixed []string) error {
	out := []findingJSON{}
	grave := 0
	for _, f := range list {
		if len(only) > 0 && !slices.Contains(only, f.Rule) {
			continue
		}
		level := "note"
		if f.Grave {
			level = "error"
			grave++
		}
		out = append(out, findingJSON{f.Rule, level, f.Path, f.Context, f.Msg, f.File, f.Line, f.Column})
	}
	if a.json {
		if err := a.printJSON(map[string]any{"findings": out, "errors": grave, "fixed": full(fixed)}); err != nil {
			return err
		}
	} else {
		a.printFindingList(out, grave, fixed)
	}
	if grave > 0 {
		return foundError{}
	}
	return nil
}

func (a *app) printFindingList(out []findingJSON, grave int, fixed []string) {
	t := a.term
	for _, f := range fixed {
		a.print("%s %s brought up to date\n", t.good("✓"), f)
	}
	rule, shown, folded := "", 0, 0
	flush := func() {
		if folded > 0 {
			a.print("  %s\n", t.dim(fmt.Sprintf("… %d more; --verbose shows them", folded)))
		}
		shown, folded = 0, 0
	}
	for _, f := range out {
		if f.Rule != rule {
			flush()
			rule = f.Rule
			mark := t.warn(rule)
			if f.Level == "error" {
				mark = t.bad(rule)
			}
			a.print("%s\n", mark)
		}
		if shown++; shown > 12 && !a.verbose {
			folded++
			continue
		}
		what := f.Token
		if f.Context != "" {
			what += " in " + f.Context
		}
		if what != "" {
			what += ": "
		}
		a.print("  %s%s %s\n", what, f.Message, t.dim(fmt.Sprintf("%s:%d:%d", f.File, f.Line, f.Column)))
	}
	flush()
	switch {
	case len(out) == 0:
		a.print("%s nothing to mend\n", t.good("✓"))
	case grave == 0:
		a.print("%s %s worth knowing, none that must be mended\n", t.good("✓"), plural(len(out), "thing", "things"))
	default:
		also := ""
		if n := len(out) - grave; n > 0 {
			also = ", " + plural(n, "thing", "things") + " worth knowing"
		}
		a.print("%s to mend%s\n", plural(grave, "thing", "things"), also)
	}
}
