package cli

import (
	"fmt"

	"archetyp/core/design"
	"archetyp/core/diff"
	"archetyp/core/escape"
	"archetyp/job"
	"archetyp/workspace"
)

// sideName is what a side of a comparison is called.
func sideName(revision string) string {
	if revision == "" {
		return "the folder as it is"
	}
	return workspace.EditionRevision(revision)
}

// mostChanges is how many changes of one screen are printed before the rest is folded.
const mostChanges = 12

func (a *app) printComparison(c *job.Comparison) {
	t := a.term
	if c.Empty() {
		a.print("%s nothing differs from %s to %s\n", t.good("✓"), sideName(c.From), sideName(c.To))
		return
	}
	a.print("%s\n", t.dim("from "+sideName(c.From)+" to "+sideName(c.To)))
	for _, s := range c.Screens {
		a.print("%s  %s\n", t.bold(s.Screen), t.dim(s.Source+", "+plural(len(s.Changes), "change", "changes")))
		a.printChangeLines(s.Changes)
	}
	if len(c.Tokens) > 0 {
		a.print("%s  %s\n", t.bold("Tokens"), t.dim(plural(len(c.Tokens), "change", "changes")))
		a.printChanges(c.Libs, c.Tokens)
	}
	if len(c.Texts) > 0 {
		a.print("%s  %s\n", t.bold("Texts"), t.dim(plural(len(c.Texts), "change", "changes")))
		var rows [][]string
		for _, x := range c.Texts {
			sign := t.warn("~")
			switch {
			case x.Was == "":
				sign = t.good("+")
			case x.Is == "":
				sign = t.bad("-")
			}
			rows = append(rows, []string{"  " + sign, x.Key, t.dim(x.Locale), clip(x.Was, 40), clip(x.Is, 40)})
		}
		a.print("%s", t.table(nil, rows))
	}
}

// printChangeLines prints the changes of a screen, folded where there are many.
func (a *app) printChangeLines(list []diff.Change) {
	t := a.term
	signs := map[diff.Kind]string{diff.Added: t.good("+"), diff.Removed: t.bad("-"), diff.Moved: t.accent("→")}
	for i := range list {
		if i == mostChanges && !a.verbose && len(list) > mostChanges+1 {
			a.print("  %s\n", t.dim(fmt.Sprintf("… %d more; --verbose shows them", len(list)-i)))
			return
		}
		sign := signs[list[i].Kind]
		if sign == "" {
			sign = t.warn("~")
		}
		a.print("  %s %s\n", sign, list[i].String())
	}
}

type changeLineJSON struct {
	Kind     diff.Kind         `json:"kind"`
	Element  string            `json:"element"`
	Selector string            `json:"selector"`
	Elements int               `json:"elements"`
	X        float64           `json:"x,omitempty"` // moved: px
	Y        float64           `json:"y,omitempty"`
	Was      string            `json:"was,omitempty"`
	Is       string            `json:"is,omitempty"`
	Facts    []diff.FactChange `json:"facts,omitempty"`
	Words    string            `json:"words"` // the change in words
}

func changeLinesJSON(list []diff.Change) []changeLineJSON {
	out := []changeLineJSON{}
	for i := range list {
		c := &list[i]
		e := c.Element()
		out = append(out, changeLineJSON{c.Kind, e.Title(), e.Selector(), c.Elements, design.Tidy(c.By.X), design.Tidy(c.By.Y), c.Was, c.Is, c.Facts, c.String()})
	}
	return out
}

type screenChangesJSON struct {
	Source  string           `json:"source"`
	Screen  string           `json:"screen"`
	Changes []changeLineJSON `json:"changes"`
}

func comparisonJSON(c *job.Comparison) any {
	screens := []screenChangesJSON{}
	for _, s := range c.Screens {
		screens = append(screens, screenChangesJSON{s.Source, s.Screen, changeLinesJSON(s.Changes)})
	}
	return map[string]any{"from": c.From, "to": c.To, "screens": screens, "tokens": changesJSON(c.Libs, c.Tokens),
		"texts": append([]job.TextChange{}, c.Texts...)}
}

// markdownComparison prints a comparison for a pull request.
func (a *app) markdownComparison(c *job.Comparison) {
	a.print("## What changed from %s to %s\n", sideName(c.From), sideName(c.To))
	if c.Empty() {
		a.print("\nNothing.\n")
		return
	}
	for _, s := range c.Screens {
		a.print("\n### %s\n\n", escape.In("md", escape.Inline, s.Screen))
		for i := range s.Changes {
			a.print("- %s\n", escape.In("md", escape.Inline, s.Changes[i].String()))
		}
	}
	if len(c.Tokens) > 0 {
		a.print("\n### Tokens\n\n")
		a.markdownChanges(c.Libs, c.Tokens)
	}
	if len(c.Texts) > 0 {
		a.print("\n### Texts\n\n")
		for _, x := range c.Texts {
			if x.Locale != "" {
				x.Key += ", " + x.Locale
			}
			switch {
			case x.Was == "":
				a.print("- `%s` is new: %s\n", x.Key, escape.In("md", escape.Inline, x.Is))
			case x.Is == "":
				a.print("- `%s` is gone: %s\n", x.Key, escape.In("md", escape.Inline, x.Was))
			default:
				a.print("- `%s`: %s → %s\n", x.Key, escape.In("md", escape.Inline, x.Was), escape.In("md", escape.Inline, x.Is))
			}
		}
	}
}
