package cli

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/hint"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) markCmd() *cobra.Command {
	var drawing, remove, advised, dry bool
	c := &cobra.Command{
		Use:   "mark SOURCE SELECTOR… KEY=VALUE…",
		Short: "Say what elements are: assets, components, roles, texts",
		Long: long(`State marks for the elements of selectors: asset=icons/{name}, component=, variant=, role=, text= and the
others of docs/marks.md; {name} is the element's name. They go into ` + workspace.ConfigName + `, with --drawing into the
drawing itself, where no other byte changes. --advised takes the marks that "assets advise" asks for; --remove takes
marks away: of the KEYS given, or all.`),
		Example: example("archetyp mark booking '#check' asset=icons/{name}", "archetyp mark booking '#bike' '#breakfast' component=extra role=checkbox --drawing",
			"archetyp mark booking --advised", "archetyp mark booking '#check' asset --remove"),
		RunE: func(_ *cobra.Command, args []string) error {
			if len(args) == 0 {
				return hint.New("archetyp mark needs a SOURCE", "For example: archetyp mark booking '#check' asset=icons/{name}")
			}
			a.writes(!dry)
			doc, ws, err := a.source(args[0])
			if err != nil {
				return err
			}
			if ws == nil {
				return hint.New("marks belong to a workspace", "\"archetyp init\" begins one.")
			}
			var list []job.Marking
			if advised {
				if len(args) > 1 || remove {
					return hint.New("--advised finds the elements and their marks itself", "For example: archetyp mark booking --advised")
				}
				list = job.AdvisedMarks(doc, ws)
			} else if list, err = a.markings(doc, args[1:], remove); err != nil {
				return err
			}
			return a.mark(ws, doc, list, markHow{drawing, remove, dry})
		},
	}
	c.Flags().BoolVar(&drawing, "drawing", false, "write them into the drawing")
	c.Flags().BoolVar(&remove, "remove", false, "take marks away")
	c.Flags().BoolVar(&advised, "advised", false, "mark the pictures that need it")
	c.Flags().BoolVar(&dry, "dry-run", false, "write nothing; list what would be written")
	return c
}

// markHow says where marks go.
type markHow struct{ drawing, remove, dry bool }

var markPair = regexp.MustCompile(`^[a-z][a-z-]*=`)

// markings are the selectors and marks of a command line.
func (a *app) markings(doc *design.Document, args []string, remove bool) ([]job.Marking, error) {
	var selectors []string
	var marks [][2]string
	keys := design.MarkKeys()
	for _, arg := range args {
		switch key, value, _ := strings.Cut(arg, "="); {
		case markPair.MatchString(arg):
			if err := job.CheckMark(key); err != nil {
				return nil, err
			}
			if value == "" && !remove {
				return nil, hint.New(arg+" says nothing", "--remove takes a mark away.")
			}
			marks = append(marks, [2]string{key, value})
		case remove && slices.Contains(keys, arg):
			marks = append(marks, [2]string{arg, ""})
		default:
			selectors = append(selectors, arg)
		}
	}
	if len(selectors) == 0 || len(marks) == 0 && !remove {
		return nil, hint.New("archetyp mark needs selectors and marks", "For example: archetyp mark booking '#check' asset=icons/{name}")
	}
	var out []job.Marking
	for _, s := range selectors {
		found, err := a.chosen(doc, s)
		if err != nil {
			return nil, err
		}
		m := job.Marking{Select: s, Elements: found, Marks: marks}
		if len(found) > 0 && found[0].Parent == nil && s != ":root" {
			m.Select = found[0].Selector()
		}
		out = append(out, m)
	}
	return out, nil
}

// mark writes marks, and reports them.
func (a *app) mark(ws *workspace.Workspace, doc *design.Document, list []job.Marking, how markHow) error {
	source := a.inWorkspace(ws, doc)
	switch {
	case how.dry:
		return a.printMarked(&job.Marked{Source: source, File: workspace.ConfigName, Written: job.Written(list), Also: []string{}}, list, true)
	case how.drawing:
		return a.applying(ws, false, func(x *job.Applying) error { return x.MarkDrawing(source, list, how.remove) })
	case how.remove:
		n, err := job.UnmarkInConfig(ws, list)
		if err != nil {
			return err
		}
		if n == 0 {
			return hint.New("the configuration gives no such marks to these selectors", "Marks in the drawing itself go with --drawing.")
		}
		if a.json {
			return a.printJSON(map[string]any{"removed": n})
		}
		a.say("%s taken out of %s\n", plural(n, "mark", "marks"), workspace.ConfigName)
		return nil
	}
	m, err := job.MarkInConfig(a.ctx, ws, source, list)
	if err != nil {
		return err
	}
	return a.printMarked(m, list, false)
}

func (a *app) printMarked(m *job.Marked, list []job.Marking, dry bool) error {
	if a.json {
		return a.printJSON(m)
	}
	if len(list) == 0 {
		a.say("there is nothing to mark\n")
		return nil
	}
	var rows [][]string
	for i, x := range list {
		if i == most && !a.verbose {
			break
		}
		var parts []string
		for _, k := range x.Marks {
			parts = append(parts, k[0]+" "+k[1])
		}
		rows = append(rows, []string{short(x.Select, 60), strings.Join(parts, ", "), plural(len(x.Elements), "element", "elements"), a.term.dim(x.Why)})
	}
	a.print("%s", a.term.table(nil, rows))
	if n := len(list) - len(rows); n > 0 {
		a.print("%s\n", a.term.dim(fmt.Sprintf("… and %d more; --verbose lists all", n)))
	}
	if len(m.Also) > 0 {
		a.remark("note", []string{"the same selectors mean elements of " + strings.Join(m.Also, ", ") + ", too"})
	}
	if dry {
		a.say("nothing was written\n")
	} else {
		a.say("written into %s\n", m.File)
	}
	return nil
}
