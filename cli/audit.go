package cli

import (
	"fmt"
	"os"
	"slices"
	"strings"
	"time"

	"archetyp/core/audit"
	"archetyp/core/design"
	"archetyp/core/hint"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

// auditFlags say what is audited, and what becomes of the findings.
type auditFlags struct {
	only                         []string
	level, failOn, as            string
	baseline, reason, until, out string
	accept, questions, listRules bool
	fix, accepted                string
	drawing                      bool
}

func (a *app) auditCmd() *cobra.Command {
	f := &auditFlags{}
	c := &cobra.Command{
		Use:   "audit [SOURCE]",
		Short: "Check whether a design is ready to be built",
		Long: long(`Check drawings, pages and captures for what would be asked while building: values that stand alone, parts
that should be one, states nobody drew, names that say nothing, words nobody can read. Errors and warnings are
listed; --level note lists notes, too. Errors end with status 1; --fail-on says what else does. The rules, with
their usual levels, are listed by --rules; audit: in the configuration sets them.`),
		Example: example("archetyp audit", "archetyp audit booking --level note", "archetyp audit --only contrast,filler --as sarif > audit.sarif",
			"archetyp audit -o audit/"),
		Args: between(0, 1, "a SOURCE at most"),
		RunE: func(_ *cobra.Command, args []string) error {
			switch {
			case f.listRules:
				return a.printAuditRules()
			case f.fix != "":
				return a.fix(f, args)
			}
			return a.audit(f, args)
		},
	}
	fl := c.Flags()
	fl.StringSliceVar(&f.only, "only", nil, "check these `RULES` only, or groups of rules")
	fl.StringVar(&f.level, "level", "warning", "list findings of this `LEVEL` and graver ones: error, warning, note")
	fl.StringVar(&f.failOn, "fail-on", "error", "end with status 1 at findings of this `LEVEL` or graver; never for none")
	fl.StringVar(&f.as, "as", "text", "the `FORM`: text, json, markdown, sarif or junit")
	fl.BoolVar(&f.questions, "questions", false, "print the findings as a short list for the designer")
	fl.StringVar(&f.baseline, "baseline", "", "leave out the findings that this `FILE` accepts")
	fl.BoolVar(&f.accept, "accept", false, "write all findings into the baseline")
	fl.StringVar(&f.reason, "reason", "", "why they are accepted, as `TEXT` in the baseline")
	fl.StringVar(&f.until, "until", "", "the last day on which they are accepted, as a `DATE` such as 2027-01-31")
	fl.StringVarP(&f.out, "output", "o", "", "write a picture of each screen with its findings into this `DIR`")
	fl.BoolVar(&f.listRules, "rules", false, "list the rules")
	fl.StringVar(&f.fix, "fix", "", "propose `WHAT` a SOURCE lacks: names or components")
	fl.StringVar(&f.accepted, "write", "", "write the proposals that match this `PATTERN`, such as '*'")
	fl.BoolVar(&f.drawing, "drawing", false, "write them into the drawing, not into the configuration")
	a.view.add(c)
	return c
}

// fix proposes marks for a drawing, and writes those that are accepted.
func (a *app) fix(f *auditFlags, args []string) error {
	propose := map[string]func(*design.Document, string) ([]job.Marking, error){"names": job.ProposedNames, "components": job.ProposedComponents}[f.fix]
	if propose == nil {
		return hint.New("--fix "+f.fix+" is not known", "names and components are.")
	}
	if len(args) == 0 {
		return hint.New("--fix "+f.fix+" needs a SOURCE", "For example: archetyp audit booking --fix "+f.fix)
	}
	a.writes(f.accepted != "")
	doc, ws, err := a.source(args[0])
	if err != nil {
		return err
	}
	list, err := propose(doc, f.accepted)
	if err != nil {
		return err
	}
	if f.accepted == "" {
		return a.printMarked(&job.Marked{Source: doc.Name, File: workspace.ConfigName, Written: job.Written(list), Also: []string{}}, list, true)
	}
	if ws == nil {
		return hint.New("marks are written into a workspace", "\"archetyp init\" begins one.")
	}
	return a.mark(ws, doc, list, markHow{drawing: f.drawing})
}

func (a *app) audit(f *auditFlags, args []string) error {
	if err := f.check(); err != nil {
		return err
	}
	over := a.busy("auditing")
	r, ws, err := a.reading(args)
	if err != nil {
		over()
		return err
	}
	report, err := job.Audit(r, ws, len(args) == 0)
	over()
	if err != nil {
		return err
	}
	f.choose(report)
	known, gone, err := a.applyBaseline(f, report)
	if err != nil || f.accept {
		return err
	}
	if f.out != "" {
		docs, err := r.Docs()
		if err != nil {
			return err
		}
		if err := a.auditPictures(f.out, report, docs); err != nil {
			return err
		}
	}
	if err := a.printAudit(f, report, known, gone); err != nil {
		return err
	}
	for _, x := range report.Findings {
		if f.failOn != "never" && x.Level.Weighs(audit.Level(f.failOn)) {
			return foundError{}
		}
	}
	return nil
}

// check refuses flags that mean nothing.
func (f *auditFlags) check() error {
	for _, name := range f.only {
		group := false
		for i := range audit.Rules {
			group = group || audit.Rules[i].Group == name
		}
		if !group && audit.RuleNamed(name) == nil {
			return hint.New(fmt.Sprintf("--only %s: there is no such rule or group", name), "\"archetyp audit --rules\" lists them.")
		}
	}
	for flag, v := range map[string]string{"level": f.level, "fail-on": f.failOn} {
		if !slices.Contains(audit.Levels[:3], audit.Level(v)) && !(flag == "fail-on" && v == "never") {
			return hint.New(fmt.Sprintf("--%s %s is no level", flag, v), "error, warning and note are.")
		}
	}
	if !slices.Contains([]string{"text", "json", "markdown", "sarif", "junit"}, f.as) {
		return hint.New("--as "+f.as+" is not known", "text, json, markdown, sarif and junit are.")
	}
	if err := checkUntil(f.until); err != nil {
		return err
	}
	if f.accept && f.baseline == "" {
		return hint.New("--accept needs a baseline to write", "For example: archetyp audit --baseline audit-baseline.json --accept")
	}
	return nil
}

// choose leaves out findings that were not asked for.
func (f *auditFlags) choose(r *audit.Report) {
	level := audit.Level(f.level)
	r.Findings = slices.DeleteFunc(r.Findings, func(x audit.Finding) bool {
		return !x.Level.Weighs(level) || len(f.only) > 0 && !slices.Contains(f.only, x.Rule) && !slices.Contains(f.only, x.Group)
	})
}

// applyBaseline takes out what the baseline accepts, or writes it.
func (a *app) applyBaseline(f *auditFlags, r *audit.Report) (known int, gone []audit.Accepted, err error) {
	if f.baseline == "" {
		return 0, nil, nil
	}
	var b *audit.Baseline
	data, err := os.ReadFile(a.path(f.baseline))
	switch {
	case err == nil:
		if b, err = audit.ReadBaseline(data, f.baseline); err != nil {
			return 0, nil, err
		}
	case !os.IsNotExist(err) || !f.accept:
		return 0, nil, hint.New(f.baseline+": there is no such file, or it cannot be read", "--accept writes it.")
	}
	if f.accept {
		data, err := b.Accept(r, f.reason, f.until)
		if err != nil {
			return 0, nil, err
		}
		if err := a.save(map[string][]byte{f.baseline: data}); err != nil {
			return 0, nil, err
		}
		a.say("%s accepted in %s\n", plural(len(r.Findings), "finding", "findings"), f.baseline)
		return 0, nil, nil
	}
	known, gone = b.Known(r, time.Now().Format(time.DateOnly))
	return known, gone, nil
}

func (a *app) printAudit(f *auditFlags, r *audit.Report, known int, gone []audit.Accepted) error {
	switch {
	case f.as == "sarif":
		data, err := audit.SARIF(r, Version)
		if err == nil {
			a.print("%s", data)
		}
		return err
	case f.as == "junit":
		data, err := audit.JUnit("archetyp.audit", audit.Rules, r.Findings, audit.Level(strings.Replace(f.failOn, "never", "", 1)))
		if err == nil {
			a.print("%s", data)
		}
		return err
	case f.as == "markdown":
		return a.document([]byte(audit.Markdown(r)))
	case a.json || f.as == "json":
		return a.printJSON(map[string]any{"findings": full(r.Findings), "screens": full(r.Screens), "excepted": r.Accepted, "accepted": known,
			"gone": full(gone), "counts": audit.Count(r.Findings)})
	case f.questions:
		return a.document([]byte(audit.Questions(r)))
	}
	a.printAuditFindings(r)
	for _, x := range gone {
		a.print("%s the baseline accepts %s %q, which is found no more\n", a.term.dim("·"), x.Rule, x.Message)
	}
	a.printAuditSum(f, r, known)
	return nil
}

// mostPlaces of a finding are listed before they are folded, and mostFindings of a rule.
const (
	mostPlaces   = 3
	mostFindings = 8
)

// printAuditFindings lists findings by rule.
func (a *app) printAuditFindings(r *audit.Report) {
	t := a.term
	rule, shown, folded := "", 0, 0
	flush := func() {
		if folded > 0 {
			a.print("  %s\n", t.dim(fmt.Sprintf("… %d more; --verbose lists them", folded)))
		}
		shown, folded = 0, 0
	}
	for i, f := range r.Findings {
		if key := f.Rule + string(f.Level); key != rule {
			flush()
			rule = key
			a.print("%s  %s\n", a.levelText(f.Level, f.Rule), t.dim(f.Why))
		}
		if shown++; shown > mostFindings && !a.verbose {
			folded++
			continue
		}
		a.print("  %s\n", a.withSwatches(f.Message))
		places := f.Places
		if len(places) > mostPlaces && !a.verbose {
			places = places[:mostPlaces]
		}
		for _, p := range places {
			where := p.Screen
			if p.Path != "" {
				where += ": " + short(p.Path, 56)
			}
			a.print("    %s  %s\n", where, t.dim(fmt.Sprintf("%s:%d:%d", p.Source, p.Line, p.Column)))
		}
		if n := len(f.Places) - len(places); n > 0 {
			a.print("    %s\n", t.dim(fmt.Sprintf("and %s", plural(n, "other place", "other places"))))
		}
		last := i+1 == len(r.Findings) || r.Findings[i+1].Rule != f.Rule || shown == mostFindings && !a.verbose
		if last || r.Findings[i+1].Do != f.Do { // once, where the next one asks for the same
			a.print("    %s %s\n", t.accent("→"), f.Do)
		}
	}
	flush()
}

// levelText is the name of a rule in the colour of a level.
func (a *app) levelText(l audit.Level, name string) string {
	switch l {
	case audit.Error:
		return a.term.bad("error") + " " + a.term.bold(name)
	case audit.Warning:
		return a.term.warn("warning") + " " + a.term.bold(name)
	}
	return a.term.dim("note") + " " + a.term.bold(name)
}

// withSwatches puts a swatch before each colour in a text.
func (a *app) withSwatches(text string) string {
	words := strings.Split(text, " ")
	for i, w := range words {
		if c := strings.TrimRight(w, ",;."); strings.HasPrefix(c, "#") && (len(c) == 7 || len(c) == 9) {
			words[i] = a.term.swatchOf(c) + w
		}
	}
	return strings.Join(words, " ")
}

func (a *app) printAuditSum(f *auditFlags, r *audit.Report, known int) {
	counts := audit.Count(r.Findings)
	line := countsOf(func(l audit.Level) int { return counts[l] })
	if line == "" {
		line = a.term.good("✓") + " nothing found"
	}
	if r.Accepted > 0 {
		line += fmt.Sprintf("; %d excepted by the configuration", r.Accepted)
	}
	if known > 0 {
		line += fmt.Sprintf("; %d accepted by %s", known, f.baseline)
	}
	a.print("%s\n", line)
	if a.verbose {
		a.printShares(r.Screens)
	}
}

// countsOf says how many findings there are of each level; "" for none.
func countsOf(count func(audit.Level) int) string {
	var parts []string
	for _, l := range []struct {
		level     audit.Level
		one, many string
	}{{audit.Error, "error", "errors"}, {audit.Warning, "warning", "warnings"}, {audit.Note, "note", "notes"}} {
		if n := count(l.level); n > 0 {
			parts = append(parts, plural(n, l.one, l.many))
		}
	}
	return strings.Join(parts, ", ")
}

// printShares says how much of each screen is built from components.
func (a *app) printShares(list []audit.Share) {
	var rows [][]string
	for _, s := range list {
		if s.Elements == 0 {
			continue
		}
		rows = append(rows, []string{s.Screen, fmt.Sprintf("%d of %d", s.Components, s.Elements), fmt.Sprintf("%d %%", 100*s.Components/s.Elements),
			short(strings.Join(s.Others, ", "), 60)})
	}
	if len(rows) > 0 {
		a.print("\n%s", a.term.table([]string{"screen", "in components", "share", "parts in none"}, rows, 1, 2))
	}
}

func (a *app) printAuditRules() error {
	if a.json {
		type rule struct {
			Name  string      `json:"name"`
			Group string      `json:"group"`
			Level audit.Level `json:"level"`
			What  string      `json:"what"`
			Why   string      `json:"why"`
		}
		var out []rule
		for _, r := range audit.Rules {
			out = append(out, rule{r.Name, r.Group, r.Level, r.What, r.Why})
		}
		return a.printJSON(map[string]any{"rules": out})
	}
	var rows [][]string
	for _, r := range audit.Rules {
		rows = append(rows, []string{r.Name, r.Group, string(r.Level), r.What})
	}
	a.print("%s", a.term.table([]string{"rule", "group", "level", "what is found"}, rows))
	return nil
}
