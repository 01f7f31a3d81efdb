package drift

import (
	"fmt"
	"strings"

	"archetyp/core/audit"
)

// Markdown writes a report for a pull request: a table of the differences by kind, the gravest first, and the coverage.
func Markdown(r *Report, c *Coverage) string {
	var b strings.Builder
	counts := map[audit.Level]int{}
	for _, d := range r.Differences {
		counts[d.Level]++
	}
	b.WriteString("# Design and site\n\n")
	if len(r.Differences) == 0 {
		b.WriteString("The site is as the design says.\n")
	} else {
		fmt.Fprintf(&b, "%d errors, %d warnings, %d notes\n", counts[audit.Error], counts[audit.Warning], counts[audit.Note])
	}
	for _, kind := range Kinds {
		first := true
		for i := range r.Differences {
			d := &r.Differences[i]
			if d.Kind != kind {
				continue
			}
			if first {
				first = false
				what := kind.What()
				fmt.Fprintf(&b, "\n## %s%s\n\n| level | what | where | instead |\n|---|---|---|---|\n", strings.ToUpper(what[:1]), what[1:])
			}
			b.WriteString(row(d))
		}
	}
	if c != nil && len(c.Kinds) > 0 {
		b.WriteString("\n## Values of the site\n\n| kind | by variable | a token's, written out | almost a token's | others |\n|---|---:|---:|---:|---:|\n")
		for i := range c.Kinds {
			k := &c.Kinds[i]
			fmt.Fprintf(&b, "| %s | %.0f %% | %d | %d | %d |\n", k.Kind, 100*k.Share(), k.Raw, k.Near, k.Others)
		}
	}
	return b.String()
}

// row is a difference in a row of a table.
func row(d *Difference) string {
	where := d.Cause.Place.File
	if d.Cause.Place.Line > 0 {
		where += fmt.Sprintf(", line %d", d.Cause.Place.Line)
	}
	if n := len(d.Spots); n > 1 {
		where += fmt.Sprintf(" (%d places)", n)
	}
	mend := ""
	if d.Mend != "" {
		mend = "`" + strings.ReplaceAll(strings.ReplaceAll(d.Mend, "`", "'"), "|", "\\|") + "`"
	}
	return fmt.Sprintf("| %s | %s | %s | %s |\n", d.Level, cell(d.Message), cell(where), mend)
}

// cell is a text in a cell of a table.
func cell(s string) string {
	return strings.NewReplacer("|", "\\|", "\n", " ", "<", "&lt;", "*", "\\*", "`", "\\`").Replace(s)
}
