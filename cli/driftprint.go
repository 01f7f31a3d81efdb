package cli

import (
	"fmt"
	"strings"

	"archetyp/core/audit"
	"archetyp/core/drift"
	"archetyp/core/hint"
	"archetyp/job"
)

// printDrift prints the outcome in the form asked for.
func (a *app) printDrift(f *driftFlags, r *job.Drifted, gone []audit.Accepted, before, now *drift.Standing) error {
	switch {
	case a.json || f.as == "json":
		return a.printJSON(map[string]any{"differences": full(r.Differences), "pairs": full(r.Pairs), "unpaired": full(r.Unpaired), "coverage": r.Coverage,
			"accepted": r.Report.Accepted, "gone": full(gone), "counts": now.Differences})
	case f.as == "sarif":
		data, err := audit.SARIFOf(drift.Rules(), r.Findings().Findings, Version)
		if err == nil {
			a.print("%s", data)
		}
		return err
	case f.as == "junit":
		fail := audit.Level(f.failOn)
		if f.failOn == "never" {
			fail = ""
		}
		data, err := audit.JUnit("archetyp.drift", drift.Rules(), r.Findings().Findings, fail)
		if err == nil {
			a.print("%s", data)
		}
		return err
	case f.as == "markdown":
		return a.document([]byte(drift.Markdown(r.Report, r.Coverage)))
	}
	a.printPairs(r)
	a.printDifferences(r)
	for _, x := range gone {
		a.print("%s the baseline accepts %q, which is not found any more\n", a.term.dim("·"), x.Message)
	}
	a.printCoverage(r.Coverage, before)
	a.printDriftSum(f, r, before, now)
	return nil
}

// printPairs says which screens were held against which pages.
func (a *app) printPairs(r *job.Drifted) {
	var rows [][]string
	for _, p := range r.Pairs {
		view := ""
		if len(p.Views) > 0 {
			view = fmt.Sprintf("%g px", p.Views[0].Width)
			if n := len(p.Views) - 1; n > 0 {
				view += fmt.Sprintf(" and %s", plural(n, "other view", "other views"))
			}
		}
		site := p.Site
		if site == "" {
			site = "all pages"
		}
		rows = append(rows, []string{p.Screen, site, view, string(p.Why), fmt.Sprintf("%d of %d", p.Paired, p.Elements)})
	}
	a.print("%s", a.term.table([]string{"screen", "page", "looked at", "paired by", "elements"}, rows, 4))
	if len(r.Unpaired) > 0 {
		a.print("%s\n", a.term.dim("without a page: "+strings.Join(r.Unpaired, ", ")))
	}
	a.print("\n")
}

// printDifferences lists differences by level and kind.
func (a *app) printDifferences(r *job.Drifted) {
	t := a.term
	head, shown, folded := "", 0, 0
	flush := func() {
		if folded > 0 {
			a.print("  %s\n", t.dim(fmt.Sprintf("… %d more; --verbose lists them", folded)))
		}
		shown, folded = 0, 0
	}
	for i := range r.Differences {
		d := &r.Differences[i]
		if key := string(d.Level) + string(d.Kind); key != head {
			flush()
			head = key
			a.print("%s  %s\n", a.levelText(d.Level, string(d.Kind)), t.dim(d.Kind.What()))
		}
		if shown++; shown > mostFindings && !a.verbose {
			folded++
			continue
		}
		far := ""
		if d.Distance > 0 && d.Unit != "" {
			far = "  " + t.dim(fmt.Sprintf("%.4g %s apart", d.Distance, d.Unit))
		}
		a.print("  %s%s\n", a.withSwatches(d.Message), far)
		where := fmt.Sprintf("%s:%d:%d", d.Cause.Place.File, d.Cause.Place.Line, d.Cause.Place.Column)
		if d.Cause.Place.Line == 0 {
			where = d.Cause.Place.File
		}
		at := touches(d)
		if d.Elsewhere {
			at += "  · as designed elsewhere"
		}
		a.print("    %s%s\n", where, t.dim(at))
		if a.verbose {
			for _, s := range d.Spots {
				a.print("      %s\n", t.dim(strings.TrimSpace(fmt.Sprintf("%s  %s  ↔  %s  (%s)", s.Screen, s.Design.Selector, s.Site.Selector, s.Why))))
			}
		}
		if d.Mend != "" {
			a.print("    %s %s\n", t.accent("→"), a.withSwatches(d.Mend))
		}
	}
	flush()
}

// touches says at how many elements and screens a difference shows.
func touches(d *drift.Difference) string {
	elements, screens := map[string]bool{}, map[string]bool{}
	for _, s := range d.Spots {
		elements[s.Screen+"\x00"+s.Site.Selector+"\x00"+s.Design.Selector] = true
		screens[s.Screen] = true
	}
	out := ""
	if len(elements) > 1 {
		out = fmt.Sprintf("  · %d elements", len(elements))
	}
	if len(screens) > 1 {
		out += fmt.Sprintf(" on %d screens", len(screens))
	}
	return out
}

// printCoverage says how much of what the site declares is tokens.
func (a *app) printCoverage(c *drift.Coverage, before *drift.Standing) {
	if c == nil || len(c.Kinds) == 0 {
		return
	}
	var rows [][]string
	for i := range c.Kinds {
		k := &c.Kinds[i]
		share := fmt.Sprintf("%.0f %%", 100*k.Share())
		if before != nil {
			if was, ok := before.Covered[k.Kind]; ok && was != int(100*k.Share()+0.5) {
				share += fmt.Sprintf(" (%+d)", int(100*k.Share()+0.5)-was)
			}
		}
		rows = append(rows, []string{k.Kind, share, fmt.Sprint(k.Tokens), fmt.Sprint(k.Raw), fmt.Sprint(k.Near), fmt.Sprint(k.Others)})
	}
	a.print("\n%s", a.term.table([]string{"values of the site", "by variable", "variables", "a token's, written out", "almost a token's", "others"}, rows, 1, 2, 3, 4, 5))
	const few = 4
	list := append(append([]drift.RawValue(nil), c.Near...), c.Raw...)
	for i, v := range list {
		if i >= few && !a.verbose {
			a.print("  %s\n", a.term.dim(fmt.Sprintf("… %d more values that a token has; --verbose lists them", len(list)-i)))
			break
		}
		is := "is"
		if v.Distance > 0 {
			is = "is almost"
		}
		a.print("  %s %s %s  %s\n", a.withSwatches(v.Value), is, v.Use, a.term.dim(fmt.Sprintf("%s:%d:%d", v.Place.File, v.Place.Line, v.Place.Column)))
	}
	if n := len(c.Unused); n > 0 {
		line := plural(n, "token is", "tokens are") + " not used by the site"
		if a.verbose {
			line += ": " + strings.Join(c.Unused, ", ")
		}
		a.print("  %s\n", a.term.dim(line))
	}
}

func (a *app) printDriftSum(f *driftFlags, r *job.Drifted, before, now *drift.Standing) {
	line := countsOf(func(l audit.Level) int { return now.Differences[string(l)] })
	if line == "" {
		line = a.term.good("✓") + " the site is as the design says"
		if len(f.only) > 0 {
			line += " in " + strings.Join(f.only, ", ")
		}
	}
	if r.Report.Accepted > 0 {
		line += fmt.Sprintf("; %d accepted by %s", r.Report.Accepted, f.baseline)
	}
	if before != nil {
		was, is := 0, 0
		for _, n := range before.Differences {
			was += n
		}
		for _, n := range now.Differences {
			is += n
		}
		switch {
		case is < was:
			line += fmt.Sprintf("; %d fewer than recorded", was-is)
		case is > was:
			line += fmt.Sprintf("; %d more than recorded", is-was)
		default:
			line += "; as many as recorded"
		}
	}
	a.print("\n%s\n", line)
}

// printWhyPaired explains pairs of elements.
func (a *app) printWhyPaired(r *job.Drifted, element string) error {
	found := drift.Pairings(r.Report, element)
	if len(found) == 0 {
		return hint.New("--why "+element+": no pair has such an element", "A selector in the drawing or the page, a name, or words are wanted; what has no partner is listed as missing or extra.")
	}
	if a.json {
		return a.printJSON(map[string]any{"pairs": found})
	}
	var rows [][]string
	for _, m := range found {
		rows = append(rows, []string{m.Screen, m.Design.Element, fmt.Sprintf("%s:%d", m.Design.Source, m.Design.Line), m.Site.Element, fmt.Sprintf("%s:%d", m.Site.Source, m.Site.Line), string(m.Why)})
	}
	a.print("%s", a.term.table([]string{"screen", "in the design", "", "on the site", "", "because"}, rows))
	return nil
}
