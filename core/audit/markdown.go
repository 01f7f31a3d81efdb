package audit

import (
	"fmt"
	"strings"
)

// Markdown writes a report for a pull request: a table of findings for each source, the gravest first.
func Markdown(r *Report) string {
	var b strings.Builder
	counts := Count(r.Findings)
	fmt.Fprintf(&b, "# Audit\n\n%s, %s, %s\n", count(counts[Error], "error"), count(counts[Warning], "warning"), count(counts[Note], "note"))
	bySource, order := map[string][]Finding{}, []string{}
	for _, f := range r.Findings {
		s := f.Places[0].Source
		if bySource[s] == nil {
			order = append(order, s)
		}
		bySource[s] = append(bySource[s], f)
	}
	for _, s := range order {
		fmt.Fprintf(&b, "\n## %s\n\n| level | rule | where | what | what to do |\n|---|---|---|---|---|\n", s)
		for _, f := range bySource[s] {
			p := f.Places[0]
			where := p.Screen
			if p.Element != "" && p.Element != p.Screen {
				where += ": " + p.Element
			}
			if n := len(f.Places) - 1; n > 0 {
				where += fmt.Sprintf(" and %d more", n)
			}
			fmt.Fprintf(&b, "| %s | %s | %s, line %d | %s | %s |\n", f.Level, f.Rule, cell(where), p.Line, cell(f.Message), cell(f.Do))
		}
	}
	return b.String()
}

// cell is a text in a cell of a table.
func cell(s string) string {
	return strings.NewReplacer("|", "\\|", "\n", " ", "<", "&lt;", "*", "\\*", "`", "\\`").Replace(s)
}

// Count counts findings by level.
func Count(list []Finding) map[Level]int {
	out := map[Level]int{}
	for _, f := range list {
		out[f.Level]++
	}
	return out
}

// Questions writes the open findings as a short list for the designer: by screen, in sentences, without levels.
func Questions(r *Report) string {
	var b strings.Builder
	byScreen, order := map[string][]string{}, []string{}
	for _, f := range r.Findings {
		p := f.Places[0]
		key := p.Screen
		if byScreen[key] == nil {
			order = append(order, key)
		}
		line := capital(f.Message) + ". " + f.Do
		if p.Element != "" && p.Element != p.Screen && !strings.Contains(f.Message, p.Element) {
			line = p.Element + ": " + line
		}
		byScreen[key] = append(byScreen[key], line)
	}
	for i, s := range order {
		if i > 0 {
			b.WriteString("\n")
		}
		fmt.Fprintf(&b, "%s\n", s)
		for _, line := range byScreen[s] {
			fmt.Fprintf(&b, "- %s\n", line)
		}
	}
	return b.String()
}

func capital(s string) string {
	for i, r := range s {
		return strings.ToUpper(string(r)) + s[i+len(string(r)):]
	}
	return s
}
