package cli

import (
	"errors"
	"fmt"
	"path"
	"slices"
	"strings"

	"archetyp/core/text/exchange"
	"archetyp/core/token/emit"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

// writtenTexts counts the languages of which a file was written.
func writtenTexts(written []string, to string, t workspace.TextConfig) int {
	n := 0
	for _, l := range append([]string{t.Source}, t.Locales...) {
		if slices.Contains(written, path.Clean(job.TextPath(to, l, t.Source))) {
			n++
		}
	}
	return n
}

func (a *app) syncCmd() *cobra.Command {
	var check, overwrite, takeBack, strict bool
	f, sf := &absorbFlags{}, &shareFlags{}
	c := &cobra.Command{
		Use:   "sync",
		Short: "Do the whole job: read the drawings, write outputs, texts, assets and the guide",
		Long: long(`Read every drawing of the workspace and bring outputs, texts, assets and the style guide in step
with them. Tokens are only ever added on request (see "tokens harvest"). With --check nothing is written: what
is out of step is listed. A drawing that cannot be read keeps what was made of it, the others go on, and the
status is 2; with --strict it stops everything.

--pull brings what others pushed to the team's repository, and --push shares what was done here: token files, texts, phases
and remarks are merged by what stands in them, outputs are made anew instead of merged, and nothing is ever overwritten
there. Of what two people changed at the same time, both versions stay until one is chosen (status 1).`),
		Example: example("archetyp sync", "archetyp sync --check", "archetyp sync --pull", "archetyp sync --push -m \"Card shadows as agreed\""),
		Args:    cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			a.writes(!check)
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			if takeBack && !check {
				if err := a.absorbAll(ws, f); err != nil {
					return err
				}
			}
			if sf.pull || sf.push {
				return a.share(ws, sf)
			}
			a.mergeDriver(ws, !check)
			rep, err := job.Run(a.ctx, ws, job.Options{DryRun: check, Overwrite: overwrite, Strict: strict,
				Progress: a.progress()})
			if err != nil {
				return err
			}
			if check {
				found := a.printCheck(ws, rep, true)
				if err := unread(rep.Unread); err != nil {
					return err
				}
				return found
			}
			if err := a.printSync(ws, rep); err != nil {
				return err
			}
			return unread(rep.Unread)
		},
	}
	c.Flags().BoolVar(&check, "check", false, "write nothing; exit 1 where something is out of step")
	c.Flags().BoolVar(&overwrite, "overwrite", false, "write over generated files that were edited by hand")
	c.Flags().BoolVar(&strict, "strict", false, "stop at a drawing that cannot be read")
	c.Flags().BoolVar(&takeBack, "absorb", false, "first take edits of generated files back into the tokens")
	f.flags(c)
	c.Flags().BoolVar(&sf.pull, "pull", false, "bring what others pushed")
	c.Flags().BoolVar(&sf.push, "push", false, "share what was done here")
	c.Flags().StringVarP(&sf.Message, "message", "m", "", "with --pull or --push: first commit what differs, with these `WORDS`")
	c.Flags().StringVar(&sf.Remote, "remote", "", "the `REMOTE` to share with (default: the one the branch follows)")
	c.Flags().StringVar(&sf.Branch, "to", "", "with --push: the `BRANCH` to push to (default: the one the branch follows)")
	c.Flags().BoolVar(&sf.Anyway, "anyway", false, "with --push: push though something is left to settle")
	c.Flags().StringVar(&sf.patience, "patience", "", "with --pull or --push: give a remote up that says nothing for a `TIME` (default: 60s)")
	for _, other := range []string{"push", "check", "overwrite", "absorb"} {
		c.MarkFlagsMutuallyExclusive("pull", other)
	}
	for _, other := range []string{"check", "overwrite", "absorb"} {
		c.MarkFlagsMutuallyExclusive("push", other)
	}
	return c
}

// unread is the error of drawings that could not be read, once all else is done; nil for none.
func unread(list []error) error { return errors.Join(list...) }

func errorTexts(list []error) (out []string) {
	for _, err := range list {
		out = append(out, err.Error())
	}
	return out
}

// warnUnread reports what an answer leaves out.
func (a *app) warnUnread(list []error) {
	a.remark("left out", errorTexts(list))
}

func (a *app) statusCmd() *cobra.Command {
	phases := false
	c := &cobra.Command{
		Use:   "status",
		Short: "List what is out of step, and why, without writing",
		Long: long(`List what is out of step in the workspace, and why, without writing anything. With --phases, list what is agreed,
what changed since then, and what is held and by whom.`),
		Example: example("archetyp status", "archetyp status --phases"),
		Args:    cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			if phases {
				return a.listPhases(ws, job.PhaseFilter{}, false)
			}
			a.mergeDriver(ws, false)
			rep, err := job.Run(a.ctx, ws, job.Options{DryRun: true, Progress: a.progress()})
			if err != nil {
				return err
			}
			if err := a.printCheck(ws, rep, false); err != nil {
				return err
			}
			return unread(rep.Unread)
		},
	}
	c.Flags().BoolVar(&phases, "phases", false, "list what is agreed or held, and what changed since then")
	return c
}

// mergeDriver tells git in this clone how token files merge, or says that it does not know.
func (a *app) mergeDriver(ws *workspace.Workspace, register bool) {
	known, wanted := ws.MergesByToken()
	if !wanted && ws.BesideGit() {
		a.say("git merges token files line by line here; \"archetyp init --git\" has it done token by token\n")
	}
	if known || !wanted {
		return
	}
	if register && ws.RegisterMerge() == nil {
		a.say("git in this clone merges token files token by token from now on\n")
		return
	}
	a.say("%s git in this clone is not set up to merge token files; \"archetyp sync\" sets it up\n",
		newTerm(a.err, a.color).warn("warning"))
}

type syncJSON struct {
	UpToDate bool        `json:"upToDate"`
	Summary  job.Summary `json:"summary"`
	Written  []string    `json:"written"`
	Removed  []string    `json:"removed"`
	Changes  []string    `json:"changes"`
	Unmerged []string    `json:"unmerged"`
	Unread   []string    `json:"unread"` // drawings that could not be read, and why
}

func reportJSON(r *job.Report) syncJSON {
	full := func(l []string) []string {
		if l == nil {
			return []string{}
		}
		return l
	}
	return syncJSON{len(r.Written)+len(r.Removed) == 0, r.Summary, full(r.Written), full(r.Removed), full(r.Changes),
		full(r.Unmerged), full(errorTexts(r.Unread))}
}

// printCheck lists what is out of step; fail ends with status 1 where something is.
func (a *app) printCheck(ws *workspace.Workspace, r *job.Report, fail bool) error {
	a.printUnmerged(r)
	out := len(r.Written)+len(r.Removed)+len(r.Changes)+len(r.Unmerged) > 0
	behind := ws.Config.DrawingsBehind == "error" && slices.ContainsFunc(r.Summary.Apart,
		func(x job.Apart) bool { return !x.Ahead })
	if a.json {
		if err := a.printJSON(reportJSON(r)); err != nil {
			return err
		}
	} else if !out {
		a.print("%s everything is in step\n", a.term.good("✓"))
	} else if len(r.Written)+len(r.Removed)+len(r.Changes) > 0 {
		for _, c := range r.Changes {
			a.print("%s %s\n", a.term.warn("changed"), c)
		}
		a.printFiles(a.term.warn("out of step"), r.Written)
		a.printFiles(a.term.warn("no longer made"), r.Removed)
		if r.Refused != nil {
			a.say("\"archetyp sync\" will not write over %s. %s\n", r.Refused.File, r.Refused.Hint)
		} else {
			a.say("\"archetyp sync\" brings it in step.\n")
		}
	}
	if !a.json {
		a.printApart(r.Summary.Apart)
	}
	if (out || behind) && fail {
		return foundError{}
	}
	return nil
}

// printUnmerged says which files git has not merged, and what to do.
func (a *app) printUnmerged(r *job.Report) {
	for _, p := range r.Unmerged {
		what := "settle it, then \"git add " + p + "\""
		switch {
		case p == workspace.LockName:
			what = "\"archetyp sync\" makes it anew, then \"git add " + p + "\""
		case strings.HasSuffix(p, ".tokens.json"):
			what = "\"archetyp tokens check\" lists its conflicts; settle them, then \"git add " + p + "\""
		}
		a.say("%s %s: git has not merged this file; %s\n", newTerm(a.err, a.color).warn("unmerged"), p, what)
	}
}

func (a *app) printSync(ws *workspace.Workspace, r *job.Report) error {
	a.printUnmerged(r)
	if a.json {
		return a.printJSON(reportJSON(r))
	}
	if a.quiet {
		return nil
	}
	for _, c := range r.Changes {
		a.print("%s %s\n", a.term.accent("changed"), c)
	}
	if len(r.Written)+len(r.Removed) == 0 {
		a.print("%s nothing had changed; nothing was written\n", a.term.good("✓"))
		a.printApart(r.Summary.Apart)
		a.printProposals(r)
		return nil
	}
	a.printSummary(ws, r)
	return nil
}

// printSummary says what was read, what was written, and what deserves a look.
func (a *app) printSummary(ws *workspace.Workspace, r *job.Report) {
	s, t := &r.Summary, a.term
	written := map[string]int{}
	cfg := &ws.Config
	for _, f := range r.Written {
		switch {
		case strings.HasPrefix(f, path.Clean(cfg.Assets.To)+"/"):
			written[cfg.Assets.To]++
		case strings.HasPrefix(f, path.Clean(cfg.Guide.To)+"/"):
			written[cfg.Guide.To]++
		case strings.HasPrefix(f, "text/"):
			written["text"]++
		}
	}
	head := func(s string) { a.print("\n%s\n", t.bold(s)) }
	head("Read")
	rows := [][]string{{"  drawings", fmt.Sprint(s.Sources),
		t.dim(fmt.Sprintf("%s, %s", plural(s.Screens, "screen", "screens"), plural(s.Elements, "element", "elements")))}}
	if s.Fonts > 0 {
		rows = append(rows, []string{"  font files", fmt.Sprint(s.Fonts), ""})
	}
	rows = append(rows, []string{"  tokens", fmt.Sprint(s.Tokens), ""})
	a.print("%s", t.table(nil, rows, 1))
	head("Written")
	rows = nil
	for _, o := range cfg.Outputs {
		lang, _ := emit.Of(o.As)
		for _, f := range r.Written {
			if f == path.Clean(o.To) || lang.Folder && strings.HasPrefix(f, path.Clean(o.To)+"/") {
				rows = append(rows, []string{"  " + o.To, t.dim(lang.About)})
				break
			}
		}
	}
	if written["text"] > 0 {
		rows = append(rows, []string{"  text/" + cfg.Text.Source + ".json",
			t.dim(fmt.Sprintf("%s, %s folded", plural(s.Texts, "key", "keys"), plural(s.Folded, "repeat", "repeats")))})
	}
	for _, o := range cfg.Text.Outputs {
		form, _ := exchange.Of(o.As)
		if n := writtenTexts(r.Written, o.To, cfg.Text); n > 0 {
			rows = append(rows, []string{"  " + o.To,
				t.dim(fmt.Sprintf("%s, %s", form.About, plural(n, "language", "languages")))})
		}
	}
	if written[cfg.Assets.To] > 0 {
		rows = append(rows, []string{"  " + cfg.Assets.To + "/", t.dim(assetFiles(written[cfg.Assets.To], s.Assets))})
	}
	if written[cfg.Guide.To] > 0 {
		rows = append(rows, []string{"  " + cfg.Guide.To + "/index.html",
			t.dim("the style guide, " + plural(s.GuidePages, "page", "pages"))})
	}
	for _, f := range r.Removed {
		rows = append(rows, []string{"  " + f, t.dim("removed: no longer made")})
	}
	if len(rows) == 0 {
		rows = [][]string{{"  " + workspace.LockName, t.dim("nothing else had changed")}}
	}
	a.print("%s", t.table(nil, rows))
	a.printLook(r)
	a.printProposals(r)
}

// assetFiles counts files of assets; the list of them is there even where there are none.
func assetFiles(files, assets int) string {
	if assets == 0 {
		return "no assets"
	}
	return plural(files, "file", "files") + " of " + plural(assets, "asset", "assets")
}

// printLook lists what deserves a look, and where drawings and tokens are apart; a long list folds.
func (a *app) printLook(r *job.Report) {
	a.list("Deserves a look", a.term.warn("~"), r.Summary.Look)
	a.printApart(r.Summary.Apart)
}

func (a *app) list(head, mark string, lines []string) {
	t := a.term
	if len(lines) == 0 {
		return
	}
	a.print("\n%s\n", t.bold(head))
	most := 6
	if a.verbose {
		most = len(lines)
	}
	for i, l := range lines {
		if i == most {
			a.print("  %s\n", t.dim(fmt.Sprintf("… %d more; --verbose shows them", len(lines)-most)))
			return
		}
		a.print("  %s %s\n", mark, l)
	}
}

// printApart reports where a drawing shows another value than its token has.
func (a *app) printApart(list []job.Apart) {
	t := a.term
	var lines []string
	for _, x := range list {
		line := fmt.Sprintf("%s is behind %s: %s shown in %s, the token is %s (%s)", x.Source, x.Token,
			t.swatchOf(x.Shown)+x.Shown, plural(x.Places, "place", "places"), t.swatchOf(x.Value)+x.Value, x.First)
		if x.Ahead {
			line = fmt.Sprintf("%s is ahead of %s: %s in %d of %s, the token is %s", x.Source, x.Token,
				t.swatchOf(x.Shown)+x.Shown, x.Places, plural(x.Of, "place", "places"), t.swatchOf(x.Value)+x.Value)
		}
		lines = append(lines, line)
	}
	a.list("Drawings and tokens", t.warn("≠"), lines)
}

func (a *app) printProposals(r *job.Report) {
	ahead := 0
	for _, x := range r.Summary.Apart {
		if x.Ahead {
			ahead++
		}
	}
	switch n := r.Summary.Proposals; {
	case ahead > 0 && n > 0:
		a.print("\n%s could be tokens, and tokens can follow the drawings: %s\n", plural(n, "value", "values"),
			a.term.accent("archetyp tokens harvest"))
	case ahead > 0:
		a.print("\ntokens can follow the drawings: %s\n", a.term.accent("archetyp tokens harvest"))
	case n > 0:
		a.print("\n%s could be tokens: %s\n", plural(n, "value", "values"), a.term.accent("archetyp tokens harvest"))
	}
	if len(r.Summary.Warnings) > 0 {
		a.list("Warnings", a.term.bad("!"), r.Summary.Warnings)
	}
}
