package cli

import (
	"fmt"
	"strings"

	"archetyp/core/ask"
	"archetyp/core/design"
	"archetyp/core/hint"

	"github.com/spf13/cobra"
)

// styleFlags ask for the style sheets of a page instead of facts.
type styleFlags struct {
	computed, rules bool
	only            []string
	why             string
}

func (f *styleFlags) add(c *cobra.Command) {
	c.Flags().BoolVar(&f.computed, "computed", false, "of a page: print computed values as browsers do")
	c.Flags().StringSliceVar(&f.only, "only", nil, "with --computed: only these `PROPERTIES`")
	c.Flags().BoolVar(&f.rules, "rules", false, "of a page: list the rules of the element in the order they win")
	c.Flags().StringVar(&f.why, "why", "", "of a page: print the rule that sets `PROPERTY`, those that lost, and why")
	c.MarkFlagsMutuallyExclusive("computed", "rules", "why")
}

func (f *styleFlags) asked() bool { return f.computed || f.rules || f.why != "" }

// styles answers what the style sheets of a page say.
func (a *app) styles(doc *design.Document, f *styleFlags, args []string) error {
	if doc.Styles == nil {
		return hint.New(doc.Name+" is a drawing: --computed, --rules and --why are for pages", "Without them, each fact says where it comes from.")
	}
	selector := "*"
	if len(args) > 1 {
		selector = args[1]
	} else if !f.computed {
		return hint.New("--rules and --why need a SELECTOR", "For example: archetyp spec "+args[0]+" h1 --why color")
	}
	for _, q := range []struct {
		flag  string
		names []string
	}{{"--only", f.only}, {"--why", strings.Fields(f.why)}} {
		if none := ask.Unknown(doc, q.names); len(none) > 0 {
			return hint.New(q.flag+" "+none[0]+": there is no such property", nearestProperty(none[0], doc.Styles.Properties(doc.Markup.Root)))
		}
	}
	var err error
	switch {
	case f.computed:
		var list []ask.ComputedStyle
		if list, err = ask.Computed(doc, selector, f.only); len(list) > 0 {
			return a.printComputed(doc, list, f.only)
		}
	case f.rules:
		var list []ask.ElementRules
		if list, err = ask.Rules(doc, selector); len(list) > 0 {
			return a.printRules(doc, list)
		}
	default:
		var list []ask.Reasons
		if list, err = ask.Why(doc, selector, f.why); len(list) > 0 {
			return a.printWhy(doc, list, f.why)
		}
	}
	if err != nil {
		return selectorError(err)
	}
	return hint.New(fmt.Sprintf("%s: nothing matches the selector %s", doc.Name, selector), a.suggest(doc, selector))
}

func (a *app) printComputed(doc *design.Document, list []ask.ComputedStyle, only []string) error {
	if a.json {
		return a.printJSON(map[string]any{"source": doc.Name, "elements": list})
	}
	for i, s := range list {
		if i > 0 {
			a.print("\n")
		}
		a.print("%s\n", a.term.accent(s.Selector))
		var rows [][]string
		for _, name := range s.Names {
			if len(only) > 0 || s.Differs[name] || a.verbose {
				rows = append(rows, []string{"", name, a.term.swatchOf(s.Values[name]) + s.Values[name]})
			}
		}
		a.print("%s", a.term.table(nil, rows))
	}
	if len(only) == 0 && !a.verbose {
		a.print("%s\n", a.term.dim("--verbose shows those that are initial or inherited, too"))
	}
	return nil
}

func (a *app) printRules(doc *design.Document, list []ask.ElementRules) error {
	if a.json {
		return a.printJSON(map[string]any{"source": doc.Name, "elements": list})
	}
	for i, s := range list {
		if i > 0 {
			a.print("\n")
		}
		a.print("%s\n", a.term.accent(s.Selector))
		for _, r := range s.Rules {
			a.print("\n  %s  %s\n", a.term.bold(r.Selector), a.term.dim(placeText(r.Place)))
			if len(r.Within) > 0 {
				a.print("  %s\n", a.term.dim("in "+strings.Join(r.Within, " ")))
			}
			for _, d := range r.Declarations {
				a.print("    %s: %s\n", d.Prop, a.term.swatchOf(d.Value)+d.Value)
			}
		}
	}
	return nil
}

func placeText(p design.StylePlace) string {
	if p.Line == 0 {
		return p.File
	}
	return fmt.Sprintf("%s:%d:%d", p.File, p.Line, p.Column)
}

func (a *app) printWhy(doc *design.Document, out []ask.Reasons, property string) error {
	if a.json {
		return a.printJSON(map[string]any{"source": doc.Name, "property": property, "elements": out})
	}
	for i, r := range out {
		if i == mostNamed && len(out) > mostNamed+1 && !a.verbose {
			a.print("%s\n", a.term.dim(fmt.Sprintf("… %d more; --verbose shows them", len(out)-i)))
			break
		}
		if i > 0 {
			a.print("\n")
		}
		a.print("%s  %s: %s\n", a.term.accent(r.Selector), property, a.term.swatchOf(r.Value)+a.term.bold(r.Value))
		if len(r.Declarations) == 0 {
			a.print("  %s\n", a.term.dim("nothing declares it: the initial value"))
		}
		var rows [][]string
		for k, d := range r.Declarations {
			what := a.term.good("wins")
			if k > 0 {
				what = a.term.dim("loses")
			}
			note := d.Lost
			if k == 0 && d.Element != r.Selector {
				note = "inherited from " + d.Element
			}
			rows = append(rows, a.whyRow("  "+what, d, note))
			for _, v := range flatVars(d.Vars) {
				rows = append(rows, a.whyRow("", v, "on "+v.Element))
			}
		}
		a.print("%s", a.term.table(nil, rows))
	}
	return nil
}

func (a *app) whyRow(what string, d design.StyleDeclaration, note string) []string {
	value := d.Value
	if d.Important {
		value += " !important"
	}
	where := d.Selector
	if d.Kind != "rule" && d.Kind != "browser" {
		where = d.Kind
	}
	if len(d.Within) > 0 {
		where += " in " + strings.Join(d.Within, " ")
	}
	if !a.verbose { // the reason at the end of the row is what was asked for
		value, where = short(value, 48), short(where, 34)
	}
	return []string{what, d.Prop + ": " + a.term.swatchOf(value) + value, where, a.term.dim(placeText(d.Place)), a.term.dim(note)}
}

// flatVars are custom properties with those they use behind them.
func flatVars(list []design.StyleDeclaration) (out []design.StyleDeclaration) {
	for _, v := range list {
		out = append(append(out, v), flatVars(v.Vars)...)
	}
	return out
}

func nearestProperty(name string, all []string) string {
	if near := hint.Nearest(name, all); near != "" {
		return "Did you mean " + near + "?"
	}
	return ""
}
