package cli

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"archetyp/core/diff"
	"archetyp/core/hint"
	"archetyp/job"
	"archetyp/workspace"
)

// shareFlags are the options of sync that concern others.
type shareFlags struct {
	pull, push bool
	job.ShareOptions
	patience string
}

// share pulls or pushes.
func (a *app) share(ws *workspace.Workspace, f *shareFlags) error {
	if f.patience != "" {
		d, err := time.ParseDuration(f.patience)
		if err != nil || d < time.Second {
			return hint.New(fmt.Sprintf("--patience %q is no time", f.patience), "Write for example 30s or 2m.")
		}
		f.Wait = d
	}
	do := job.Pull
	if f.push {
		do = job.Push
	}
	s, err := do(a.ctx, ws, f.ShareOptions)
	if err != nil {
		return err
	}
	rep, err := job.Run(a.ctx, ws, job.Options{Progress: a.progress()})
	if err != nil && s.Stale == nil {
		return err
	}
	var cmp *job.Comparison
	if s.Before != s.After && s.Before != "" {
		if cmp, err = job.CompareStates(a.ctx, ws, s.Before, s.After, nil); err != nil {
			return err
		}
	}
	if a.json {
		if err := a.printJSON(sharedJSON(s, rep, cmp)); err != nil {
			return err
		}
	} else if !a.quiet {
		a.printShared(s, rep, cmp)
	}
	if s.Stale != nil {
		return s.Stale
	}
	if len(s.Conflicts) > 0 {
		return foundError{}
	}
	return nil
}

func (a *app) printShared(s *job.Shared, rep *job.Report, cmp *job.Comparison) {
	t := a.term
	if s.Resumed {
		a.print("%s a pull that had been stopped was ended\n", t.good("✓"))
	}
	for _, x := range s.Renumbered {
		a.print("%s is %s now: somebody else had cut an edition %d (%s)\n", t.warn(workspace.EditionTag(x.Was)), t.bold(workspace.EditionTag(x.Is)), x.Was, firstLine(x.Message))
	}
	if len(s.Came) > 0 {
		a.print("%s from %s, %s\n", t.bold("Came"), s.Remote, plural(len(s.Came), "commit", "commits"))
		a.printCommits(s.Came)
	}
	if cmp != nil {
		a.printWhatCame(cmp)
	}
	for _, k := range s.Kept {
		a.print("  %s %s\n", t.warn("~"), k)
	}
	if rep != nil && len(rep.Written)+len(rep.Removed) > 0 {
		a.print("%s were made anew and are not committed\n", plural(len(rep.Written)+len(rep.Removed), "output", "outputs"))
	}
	if len(s.Conflicts) > 0 {
		a.print("%s\n", t.bold("To be settled: both versions are there"))
		for _, c := range s.Conflicts {
			a.print("  %s %s: %s\n", t.bad("≠"), c.File, c.What)
			if c.Theirs != "" {
				a.print("      here %s, there %s\n", clip(c.Ours, 50), clip(c.Theirs, 50))
			} else if c.Ours != "" {
				a.print("      %s\n", c.Ours)
			}
			a.print("      %s\n", t.dim(c.Settle))
		}
	}
	switch {
	case s.Pushed:
		a.print("%s to %s/%s", t.bold("Went"), s.Remote, s.Branch)
		if len(s.Went) > 0 {
			a.print(", %s", plural(len(s.Went), "commit", "commits"))
		}
		for _, n := range s.Editions {
			a.print(", %s", workspace.EditionTag(n))
		}
		a.print("\n")
		a.printCommits(s.Went)
	case len(s.Conflicts) == 0 && len(s.Came) == 0 && len(s.Renumbered) == 0:
		a.print("%s nothing came and nothing had to go: %s/%s is the same\n", t.good("✓"), s.Remote, s.Branch)
	}
}

func (a *app) printCommits(list []workspace.CommitInfo) {
	var rows [][]string
	for i, c := range list {
		if i == 8 && !a.verbose && len(list) > 9 {
			rows = append(rows, []string{a.term.dim(fmt.Sprintf("  … %d more", len(list)-i))})
			break
		}
		rows = append(rows, []string{"  " + a.term.dim(c.Commit), c.Who, clip(c.Message, 70)})
	}
	a.print("%s", a.term.table(nil, rows))
}

// printWhatCame says in a few lines what a pull changed.
func (a *app) printWhatCame(c *job.Comparison) {
	count := func(n int, one, many string) string {
		if n == 0 {
			return ""
		}
		return plural(n, one, many)
	}
	parts := []string{count(len(c.Screens), "screen", "screens"), count(len(c.Tokens), "token", "tokens"), count(len(c.Texts), "text", "texts"),
		count(c.Phases, "phase", "phases"), count(c.Remarks, "remark", "remarks")}
	parts = slices.DeleteFunc(parts, func(s string) bool { return s == "" })
	if len(parts) == 0 {
		return
	}
	a.print("  %s %s\n", strings.Join(parts, ", "), a.term.dim("changed here; \"archetyp edition compare "+short12(c.From)+"\" lists all"))
	var lines []diff.Change
	for _, s := range c.Screens {
		lines = append(lines, s.Changes...)
	}
	a.printChangeLines(lines[:min(len(lines), 6)])
	if len(c.Tokens) > 0 {
		a.print("%s", a.changesTable(c.Libs, c.Tokens[:min(len(c.Tokens), 6)]))
	}
}

func short12(s string) string { return s[:min(len(s), 12)] }

type sharedOut struct {
	Remote     string           `json:"remote"`
	Branch     string           `json:"branch"`
	Resumed    bool             `json:"resumed"`
	Committed  bool             `json:"committed"`
	Merged     bool             `json:"merged"`
	Pushed     bool             `json:"pushed"`
	Before     string           `json:"before"`
	After      string           `json:"after"`
	Came       []commitJSON     `json:"came"`
	Went       []commitJSON     `json:"went"`
	Conflicts  []job.Conflict   `json:"conflicts"`
	Kept       []string         `json:"kept"`
	Renumbered []renumberedJSON `json:"renumbered"`
	Editions   []int            `json:"editions"`
	Outputs    []string         `json:"outputs"` // made anew and not committed
	Changes    any              `json:"changes"`
}

type commitJSON struct {
	Commit  string `json:"commit"`
	Who     string `json:"who"`
	When    string `json:"when"`
	Message string `json:"message"`
}

type renumberedJSON struct {
	Was     int    `json:"was"`
	Is      int    `json:"is"`
	Message string `json:"message"`
}

func sharedJSON(s *job.Shared, rep *job.Report, cmp *job.Comparison) sharedOut {
	commits := func(list []workspace.CommitInfo) []commitJSON {
		out := []commitJSON{}
		for _, c := range list {
			out = append(out, commitJSON{c.Commit, c.Who, c.When, c.Message})
		}
		return out
	}
	out := sharedOut{Remote: s.Remote, Branch: s.Branch, Resumed: s.Resumed, Committed: s.Committed, Merged: s.Merged, Pushed: s.Pushed,
		Before: s.Before, After: s.After, Came: commits(s.Came), Went: commits(s.Went), Conflicts: append([]job.Conflict{}, s.Conflicts...),
		Kept: append([]string{}, s.Kept...), Renumbered: []renumberedJSON{}, Editions: append([]int{}, s.Editions...), Outputs: []string{}}
	for _, x := range s.Renumbered {
		out.Renumbered = append(out.Renumbered, renumberedJSON{x.Was, x.Is, x.Message})
	}
	if rep != nil {
		out.Outputs = append(out.Outputs, slices.Concat(rep.Written, rep.Removed)...)
	}
	if cmp != nil {
		out.Changes = comparisonJSON(cmp)
	}
	return out
}
