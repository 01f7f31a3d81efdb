package cli

import (
	"fmt"
	"path/filepath"
	"slices"
	"strings"

	"archetyp/core/hint"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

// applyFlags say what is written into drawings.
type applyFlags struct {
	tokens, marks, dry, undo bool
	words, assets            string
}

func (a *app) applyCmd() *cobra.Command {
	f := &applyFlags{}
	c := &cobra.Command{
		Use:   "apply [SOURCE]",
		Short: "Write changed tokens, words, marks and pictures back into the drawings",
		Long: long(`Write values of tokens, the words of a locale, marks of the configuration or new drawings of assets
into the drawings, and change no other byte. Each change is tried on a copy and read back: where anything else
would change, it is not made, and the reason is printed. Without a flag, tokens are written: a drawing that shows
what a token was before gets what it is now, in the notation that stands there. --undo takes the last write back.`),
		Example: example("archetyp apply --dry-run", "archetyp apply booking --tokens", "archetyp apply --words fi", "archetyp apply --undo"),
		Args:    between(0, 1, "a SOURCE at most"),
		RunE: func(_ *cobra.Command, args []string) error {
			a.writes(!f.dry)
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			if f.undo {
				return a.undoApplied(ws, f, args)
			}
			return a.apply(ws, f, args)
		},
	}
	fl := c.Flags()
	fl.BoolVar(&f.tokens, "tokens", false, "write the values of tokens")
	fl.StringVar(&f.words, "words", "", "write the words of a `LOCALE`")
	fl.BoolVar(&f.marks, "marks", false, "write the marks that the configuration gives by selector")
	fl.StringVar(&f.assets, "assets", "", "put the drawings of this `DIR` in the place of the assets of their names")
	fl.BoolVar(&f.dry, "dry-run", false, "write nothing; print the lines that would change")
	fl.BoolVar(&f.undo, "undo", false, "take the last write back")
	return c
}

// undoApplied takes the last write into drawings back.
func (a *app) undoApplied(ws *workspace.Workspace, f *applyFlags, args []string) error {
	if len(args) > 0 || f.tokens || f.marks || f.words+f.assets != "" || f.dry {
		return hint.New("--undo stands alone", "It takes back all that the last apply wrote.")
	}
	names, err := job.UndoApplied(ws)
	if err != nil {
		return err
	}
	if a.json {
		return a.printJSON(map[string]any{"undone": names})
	}
	a.say("%s as before\n", strings.Join(names, ", "))
	return nil
}

// apply writes what is asked for into the drawings.
func (a *app) apply(ws *workspace.Workspace, f *applyFlags, args []string) (err error) {
	source := ""
	if len(args) > 0 {
		if source, err = a.sourceName(ws, args[0]); err != nil {
			return err
		}
	}
	return a.applying(ws, f.dry, func(x *job.Applying) error {
		if f.tokens || !f.marks && f.words+f.assets == "" {
			if err := x.Tokens(a.ctx, source); err != nil {
				return err
			}
		}
		if f.words != "" {
			if err := x.Words(a.ctx, source, f.words); err != nil {
				return err
			}
		}
		if f.marks {
			if err := x.Marks(a.ctx, source); err != nil {
				return err
			}
		}
		if f.assets != "" {
			return x.Assets(a.ctx, source, a.path(f.assets), f.assets)
		}
		return nil
	})
}

// applying makes changes of drawings, writes them and reports them.
func (a *app) applying(ws *workspace.Workspace, dry bool, make func(*job.Applying) error) error {
	x, err := job.BeginApplying(ws)
	if err != nil {
		return err
	}
	if err := make(x); err != nil {
		return err
	}
	x.Finish()
	if !dry {
		if err := x.Write(); err != nil {
			return err
		}
	}
	return a.printApplied(x, dry)
}

// applyWord writes words of the source language into every drawing that shows a key.
func (a *app) applyWord(ws *workspace.Workspace, key, words string) error {
	return a.applying(ws, false, func(x *job.Applying) error { return x.Word(a.ctx, key, words) })
}

// applyTokens writes the values of tokens into the drawings that show what they were.
func (a *app) applyTokens(ws *workspace.Workspace) error {
	return a.applying(ws, false, func(x *job.Applying) error { return x.Tokens(a.ctx, "") })
}

// printApplied prints what was written, and what could not be.
func (a *app) printApplied(x *job.Applying, dry bool) error {
	if a.json {
		return a.printJSON(map[string]any{"drawings": x.Drawings, "refused": x.Refused, "written": !dry})
	}
	t := a.term
	if !a.quiet {
		for _, d := range x.Drawings {
			a.print("%s\n", t.bold(d.Source))
			for i, c := range d.Changes {
				if i == most && !a.verbose {
					a.print("  %s\n", t.dim(fmt.Sprintf("… %d more; --verbose lists them", len(d.Changes)-i)))
					break
				}
				a.print("  %s  %s → %s  %s\n", c.What, t.swatchOf(c.Old)+short(c.Old, 40), t.swatchOf(c.New)+short(c.New, 40), t.dim(plural(c.Elements, "element", "elements")))
			}
			if dry || a.verbose {
				a.printDiff(d.Lines)
			}
		}
	}
	for _, r := range x.Refused {
		a.remark("warning", []string{fmt.Sprintf("%s: %s stays %s and does not become %s: %s", r.Source, r.What, short(r.Old, 40), short(r.New, 40), r.Reason)})
	}
	switch {
	case len(x.Drawings) == 0 && len(x.Refused) == 0:
		a.say("every drawing is up to date; nothing was written\n")
	case dry:
		a.say("nothing was written\n")
	case len(x.Drawings) > 0:
		a.say("%s written; archetyp apply --undo takes it back\n", plural(len(x.Drawings), "drawing", "drawings"))
	}
	return nil
}

// printDiff prints lines that differ, those that are long around the difference.
func (a *app) printDiff(lines []job.DiffLine) {
	t := a.term
	for i, l := range lines {
		if i == most && !a.verbose {
			a.print("  %s\n", t.dim(fmt.Sprintf("… %d more lines; --verbose shows them", len(lines)-i)))
			return
		}
		old, fresh := around(l.Old, l.New)
		a.print("  %4d %s\n       %s\n", l.Line, t.bad("- "+old), t.good("+ "+fresh))
	}
}

// around cuts two texts to what differs, with some letters on both sides.
func around(a, b string) (string, string) {
	x, y := []rune(a), []rune(b)
	from := 0
	for from < min(len(x), len(y)) && x[from] == y[from] {
		from++
	}
	end := 0
	for end < min(len(x), len(y))-from && x[len(x)-1-end] == y[len(y)-1-end] {
		end++
	}
	const beside, longest = 32, 160
	cut := func(r []rune) string {
		begin, last := max(0, from-beside), min(len(r), len(r)-end+beside)
		s := string(r[begin:last])
		if begin > 0 {
			s = "…" + s
		}
		if last < len(r) {
			s += "…"
		}
		return short(strings.ReplaceAll(s, "\n", "⏎"), longest)
	}
	return cut(x), cut(y)
}

// sourceName is the path of a source from its workspace, by path or name.
func (a *app) sourceName(ws *workspace.Workspace, arg string) (string, error) {
	path, err := a.sourcePath(ws, arg, a.path(arg))
	if err != nil {
		return "", err
	}
	abs, err := filepath.Abs(path)
	if err != nil {
		return "", err
	}
	files, err := ws.Sources()
	if err != nil {
		return "", err
	}
	rel, ok := ws.Rel(abs)
	if !ok || !slices.Contains(files, rel) {
		return "", hint.New(arg+" is no source of the workspace", "sources: in the configuration says which are.")
	}
	return rel, nil
}
