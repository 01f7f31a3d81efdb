package cli

import (
	"bufio"
	"fmt"
	"os"
	"path"
	"path/filepath"
	"strings"

	"archetyp/core/hint"
	"archetyp/core/token/absorb"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
	xterm "golang.org/x/term"
)

// absorbFlags are what absorb and sync --absorb have in common.
type absorbFlags struct {
	prefer      string
	add, remove string
	dry         bool
	settle      []string
	where       []string
}

func (f *absorbFlags) options(a *app) (job.AbsorbOptions, error) {
	o := job.AbsorbOptions{Prefer: f.prefer, DryRun: f.dry, Settle: map[string]string{}, Base: f.where}
	if f.prefer != "" && f.prefer != "tokens" && f.prefer != "code" {
		return o, hint.New(fmt.Sprintf("--prefer %q is not known", f.prefer), "Choose tokens or code.")
	}
	for _, s := range f.settle {
		token, side, ok := strings.Cut(s, "=")
		if !ok || side != "tokens" && side != "code" {
			return o, hint.New(fmt.Sprintf("--settle %q is not known", s), "A token and a side: color.sea.600=code, or =tokens.")
		}
		o.Settle[token] = side
	}
	for _, p := range []string{f.add, f.remove} {
		if _, err := path.Match(p, ""); err != nil {
			return o, fmt.Errorf("%q is no pattern", p)
		}
	}
	ask := a.asker()
	o.Accept = func(e *absorb.Edit) bool {
		pattern := map[string]string{"added": f.add, "removed": f.remove}[e.Kind]
		if ok, _ := path.Match(pattern, e.Path); ok {
			return true
		}
		if ask == nil || f.dry {
			return false
		}
		if e.Kind == "added" {
			return ask(fmt.Sprintf("%s %s is new. Make it the token %s?", e.Name, e.New, e.Path))
		}
		return ask(fmt.Sprintf("%s is gone. Remove the token %s?", e.Name, e.Path))
	}
	return o, nil
}

// asker asks yes or no on a terminal; nil where there is none.
func (a *app) asker() func(question string) bool {
	in, ok := a.in.(*os.File)
	if !ok || !xterm.IsTerminal(int(in.Fd())) || a.json || a.quiet {
		return nil
	}
	lines := bufio.NewReader(in)
	return func(question string) bool {
		fmt.Fprintf(a.err, "%s [y/N] ", visible(question, false))
		answer, _ := lines.ReadString('\n')
		answer = strings.ToLower(strings.TrimSpace(answer))
		return answer == "y" || answer == "yes"
	}
}

func (a *app) absorbCmd() *cobra.Command {
	f := &absorbFlags{}
	c := &cobra.Command{
		Use:   "absorb FILE",
		Short: "Take edits of a generated CSS, SCSS or JSON file back into the tokens",
		Long: long(`Take the edits somebody made in a generated file back into the token files: a value becomes the
token's value, var() its alias. New names become tokens with --add, tokens whose names are gone go with
--remove; on a terminal it asks. Where the tokens changed as well, all three values are shown and nothing is
taken unless --prefer or --settle says whose counts; the status is then 1.`),
		Example: example("archetyp tokens absorb dist/tokens.css",
			"archetyp tokens absorb dist/tokens.css --prefer code --add='space.*'"),
		Args: exactly("a FILE"),
		RunE: func(_ *cobra.Command, args []string) error {
			a.writes(!f.dry)
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			o, err := f.options(a)
			if err != nil {
				return err
			}
			rel, err := filepath.Rel(ws.Dir, a.path(args[0]))
			if err != nil {
				return err
			}
			res, err := job.Absorb(ws, filepath.ToSlash(rel), o)
			if err != nil {
				return err
			}
			return a.printAbsorbed([]*job.Absorbed{res}, f.dry)
		},
	}
	f.flags(c)
	c.Flags().StringArrayVar(&f.where, "where", nil,
		"treat edits within this `SELECTOR` as if they stood everywhere; may be repeated")
	c.Flags().BoolVar(&f.dry, "dry-run", false, "say what would be taken, and write nothing")
	return c
}

func (f *absorbFlags) flags(c *cobra.Command) {
	c.Flags().StringVar(&f.prefer, "prefer", "", "where both changed, take this `SIDE`: tokens or code")
	c.Flags().StringArrayVar(&f.settle, "settle", nil, "the same for one `TOKEN=SIDE`; may be repeated")
	c.Flags().StringVar(&f.add, "add", "", "make tokens of new names whose path matches `GLOB`")
	c.Flags().StringVar(&f.remove, "remove", "", "remove tokens whose names are gone and whose path matches `GLOB`")
	c.Flags().Lookup("add").NoOptDefVal = "*"
	c.Flags().Lookup("remove").NoOptDefVal = "*"
}

type absorbedJSON struct {
	File    string     `json:"file"`
	Done    []editJSON `json:"done"`
	Dropped []editJSON `json:"dropped"`
	Open    []editJSON `json:"open"`
	Left    []leftJSON `json:"left"`
	Written []string   `json:"written"`
}

type editJSON struct {
	Kind    string `json:"kind"` // changed, added, removed
	Token   string `json:"token"`
	Context string `json:"context,omitempty"`
	Name    string `json:"name"`
	Line    int    `json:"line"`
	Old     string `json:"old,omitempty"`
	New     string `json:"new,omitempty"`
	Tokens  string `json:"tokens,omitempty"` // what the tokens say, in a conflict
}

type leftJSON struct {
	Name string `json:"name"`
	Line int    `json:"line"`
	Text string `json:"text"`
	Why  string `json:"why"`
}

func editsJSON(list []*absorb.Edit) []editJSON {
	out := []editJSON{}
	for _, e := range list {
		out = append(out, editJSON{e.Kind, e.Path, e.Context, e.Name, e.Line, e.Old, e.New, e.Tokens})
	}
	return out
}

// printAbsorbed reports what became of edits; open conflicts end with status 1.
func (a *app) printAbsorbed(list []*job.Absorbed, dry bool) error {
	conflicts := 0
	out := []absorbedJSON{}
	for _, r := range list {
		j := absorbedJSON{r.File, editsJSON(r.Done), editsJSON(r.Dropped), editsJSON(r.Open), []leftJSON{}, full(r.Files)}
		for _, l := range r.Left {
			j.Left = append(j.Left, leftJSON{l.Name, l.Line, l.Text, l.Why})
		}
		out = append(out, j)
		for _, e := range r.Open {
			if e.Conflict() {
				conflicts++
			}
		}
		if !a.json {
			a.printAbsorbedFile(r, dry)
		}
	}
	if a.json {
		if err := a.printJSON(map[string]any{"files": out, "conflicts": conflicts}); err != nil {
			return err
		}
	}
	if conflicts > 0 {
		return foundError{}
	}
	return nil
}

func (a *app) printAbsorbedFile(r *job.Absorbed, dry bool) {
	t := a.term
	in := func(e *absorb.Edit) string {
		if e.Context == "" {
			return e.Path
		}
		return e.Path + " " + t.dim("in "+e.Context)
	}
	value := func(s string) string { return t.swatchOf(s) + clip(s, 60) }
	for _, e := range r.Done {
		switch e.Kind {
		case "added":
			a.print("%s %s  %s\n", t.good("+"), in(e), value(e.New))
		case "removed":
			a.print("%s %s  %s\n", t.bad("-"), in(e), value(e.Old))
		default:
			a.print("%s %s  %s → %s\n", t.accent("~"), in(e), value(e.Old), value(e.New))
		}
	}
	for _, e := range r.Dropped {
		a.print("%s %s  %s, not %s\n", t.dim("="), in(e), value(e.Tokens), value(e.New))
	}
	for _, e := range r.Open {
		at := t.dim(fmt.Sprintf("%s:%d:%d", r.File, e.Line, e.Column))
		switch {
		case e.Conflict():
			was, now := e.Old, e.New
			if was == "" {
				was = "not known"
			}
			if e.Kind == "removed" {
				now = "removed"
			}
			a.print("%s %s  %s\n", t.bad("conflict"), in(e), at)
			a.print("%s", t.table(nil, [][]string{{"    " + t.dim("was"), value(was)}, {"    " + t.dim("tokens say"),
				value(e.Tokens)}, {"    " + t.dim("code says"), value(now)}}))
		case e.Kind == "added":
			a.print("%s %s %s could be the token %s  %s\n", t.warn("new"), e.Name, value(e.New), in(e), at)
		default:
			a.print("%s %s: the token %s is still there\n", t.warn("gone"), e.Name, in(e))
		}
	}
	for _, l := range r.Left {
		a.print("%s %s: %s  %s\n", t.bad("left"), l.Name, l.Why, t.dim(fmt.Sprintf("%s:%d:%d", r.File, l.Line, l.Column)))
	}
	a.sayNext(r, dry)
}

// sayNext says what is left to do.
func (a *app) sayNext(r *job.Absorbed, dry bool) {
	open := map[string]bool{}
	for _, e := range r.Open {
		if e.Conflict() {
			open["conflict"] = true
		} else {
			open[e.Kind] = true
		}
	}
	if open["conflict"] {
		a.say("Both sides changed: --prefer tokens or --prefer code settles all, --settle TOKEN=code one.\n")
	}
	if open["added"] {
		a.say("--add makes tokens of the new names.\n")
	}
	if open["removed"] {
		a.say("--remove removes the tokens that are gone.\n")
	}
	switch {
	case dry:
	case len(r.Done)+len(r.Dropped)+len(r.Open)+len(r.Left) == 0:
		a.say("%s says what the tokens say; nothing to take\n", r.File)
	case len(r.Files) > 0 && !r.Complete():
		a.say("%s written; %s still says more than the tokens do, and \"archetyp sync\" will not write over it before "+
			"that is settled\n", strings.Join(r.Files, ", "), r.File)
	case len(r.Files) > 0:
		a.say("%s written. Next: %s\n", strings.Join(r.Files, ", "), a.term.accent("archetyp sync"))
	}
}

// absorbAll takes the edits of all generated files that can be read back.
func (a *app) absorbAll(ws *workspace.Workspace, f *absorbFlags) error {
	files, err := job.EditedOutputs(ws)
	if err != nil {
		return err
	}
	o, err := f.options(a)
	if err != nil {
		return err
	}
	var list []*job.Absorbed
	open := false
	for _, p := range files {
		if !job.CanAbsorb(ws, p) {
			continue
		}
		r, err := job.Absorb(ws, p, o)
		if err != nil {
			return err
		}
		list = append(list, r)
		open = open || !r.Complete()
	}
	if len(list) == 0 {
		return nil
	}
	if a.json && !open {
		return nil // the result of the sync is what is printed
	}
	if err := a.printAbsorbed(list, false); err != nil {
		return err
	}
	if open {
		return foundError{}
	}
	return nil
}
