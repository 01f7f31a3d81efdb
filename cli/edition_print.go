package cli

import (
	"fmt"
	"net/url"
	"strings"

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
	a.printComparisonParts(c)
}

// printComparisonParts prints what differs, the screens with the most changes first.
func (a *app) printComparisonParts(c *job.Comparison) {
	t := a.term
	for _, s := range c.Screens {
		a.print("%s  %s\n", t.bold(s.Screen), t.dim(s.Source+", "+plural(len(s.Changes), "change", "changes")))
		a.printChangeLines(s.Changes)
	}
	if len(c.Assets) > 0 {
		a.print("%s  %s\n", t.bold("Assets"), t.dim(plural(len(c.Assets), "change", "changes")))
		for _, x := range c.Assets {
			a.print("  %s %s %s\n", a.changeSign(x.Kind), x.Name, x.Kind)
		}
	}
	if len(c.Tokens) > 0 {
		a.print("%s  %s\n", t.bold("Tokens"), t.dim(plural(len(c.Tokens), "change", "changes")))
		a.print("%s", a.changesTable(c.Libs, c.Tokens))
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
	if n := c.Phases + c.Remarks; n > 0 {
		a.print("%s  %s\n", t.bold("Phases and remarks"), t.dim(annotationCount(c)))
	}
}

// annotationCount says how many phases and remarks differ.
func annotationCount(c *job.Comparison) string {
	var parts []string
	if c.Phases > 0 {
		parts = append(parts, plural(c.Phases, "phase", "phases"))
	}
	if c.Remarks > 0 {
		parts = append(parts, plural(c.Remarks, "remark", "remarks"))
	}
	return strings.Join(parts, " and ") + " set, new or answered"
}

// changeSign is the sign of a kind of change.
func (a *app) changeSign(k diff.Kind) string {
	switch k {
	case diff.Added:
		return a.term.good("+")
	case diff.Removed:
		return a.term.bad("-")
	case diff.Moved:
		return a.term.accent("→")
	}
	return a.term.warn("~")
}

// printChangeLines prints the changes of a screen, folded where there are many.
func (a *app) printChangeLines(list []diff.Change) {
	t := a.term
	for i := range list {
		if i == mostChanges && !a.verbose && len(list) > mostChanges+1 {
			a.print("  %s\n", t.dim(fmt.Sprintf("… %d more; --verbose shows them", len(list)-i)))
			return
		}
		number := ""
		if a.numbered {
			number = t.dim(fmt.Sprintf("%3d ", i+1))
		}
		a.print("  %s%s %s\n", number, a.changeSign(list[i].Kind), list[i].String())
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

func comparisonJSON(c *job.Comparison) map[string]any {
	screens := []screenChangesJSON{}
	for _, s := range c.Screens {
		screens = append(screens, screenChangesJSON{s.Source, s.Screen, changeLinesJSON(s.Changes)})
	}
	assets := []map[string]any{}
	for _, x := range c.Assets {
		assets = append(assets, map[string]any{"asset": x.Name, "source": x.Source, "kind": x.Kind})
	}
	return map[string]any{"from": c.From, "to": c.To, "screens": screens, "tokens": changesJSON(c.Libs, c.Tokens),
		"texts": append([]job.TextChange{}, c.Texts...), "assets": assets, "phases": c.Phases, "remarks": c.Remarks}
}

// markdownComparison prints a comparison for a pull request.
func (a *app) markdownComparison(c *job.Comparison, pictures map[string]string) {
	a.print("## What changed from %s to %s\n", sideName(c.From), sideName(c.To))
	if c.Empty() {
		a.print("\nNothing.\n")
		return
	}
	picture := func(name string) {
		if p := pictures[name]; p != "" {
			a.print("\n![%s: what changed](%s)\n", escape.In("md", escape.Inline, name), (&url.URL{Path: p}).String())
		}
	}
	item := "-"
	if len(pictures) > 0 {
		item = "1." // as the frames are numbered
	}
	for _, s := range c.Screens {
		a.print("\n### %s\n\n", escape.In("md", escape.Inline, s.Screen))
		for i := range s.Changes {
			a.print("%s %s\n", item, escape.In("md", escape.Inline, s.Changes[i].String()))
		}
		picture(s.Screen)
	}
	if len(c.Assets) > 0 {
		a.print("\n### Assets\n\n")
		for _, x := range c.Assets {
			a.print("- %s %s\n", escape.In("md", escape.Inline, x.Name), x.Kind)
		}
		for _, x := range c.Assets {
			picture(x.Name)
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
	if c.Phases+c.Remarks > 0 {
		a.print("\n%s.\n", annotationCount(c))
	}
}
