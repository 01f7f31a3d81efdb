package cli

import (
	"fmt"
	"slices"
	"strings"

	"archetyp/core/code"
	"archetyp/core/code/targets"
	"archetyp/core/design"
	"archetyp/core/hint"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

// codeFlags are the flags of code.
type codeFlags struct {
	as, selector, form  string
	out, screen         string
	verify              verifyFlags
	only, except, lines []string
	sizes, raw, drawn   bool
	comments            bool
	also                []string
	from                string
	classes             string
	targets             []string
	unit                unitFlags
	bare                valueFlags
}

func (a *app) codeCmd() *cobra.Command {
	var f codeFlags
	c := &cobra.Command{
		Use:   "code SOURCE [SELECTOR…]",
		Short: "Write code for elements or a screen, without positions, with tokens as var()",
		Long: long(`Write code for the elements that selectors mean, or for a whole screen: what it is and looks like, without
positions, with tokens as var() where one matches. CSS leaves sizes out where content gives them; of a
component, one rule says what its variants share, then each variant and state what differs. HTML and JSX are
pages of real fields, buttons and headings that flow; Swift is for SwiftUI, Kotlin for Compose. A component
that the team has in code is written as its usage line. --only, --except and --lines take groups of properties:
` + strings.Join(code.GroupNames(), ", ") + `.`),
		Example: example("archetyp code booking '#pay'",
			"archetyp code components '[data-component=button]' --only colour,border --selector pay-button",
			"archetyp code booking '#pay' --lines shadow,colour", "archetyp code booking '#pay' --value background --raw",
			"archetyp code booking --as html -o page", "archetyp code booking --as html --verify --picture differs.png",
			"archetyp code booking '#trip-card' --as swift"),
		Args: between(1, manySelectors, "a SOURCE and a SELECTOR"),
		RunE: func(_ *cobra.Command, args []string) error {
			return a.answer(&f.bare, func() error { return a.code(&f, args) })
		},
	}
	l := c.Flags()
	l.StringVar(&f.as, "as", "css", "the `LANGUAGE` to write: "+strings.Join(codeLanguages, ", "))
	l.StringVarP(&f.out, "output", "o", "", "write to `DIR`: a folder that runs, with page, style sheet, pictures and fonts; of css, swift and kotlin a file")
	l.StringVar(&f.screen, "screen", "", "the screen's `NAME`, where no selector is given (default: the first)")
	l.StringSliceVar(&f.only, "only", nil, "write only these `GROUPS` of properties")
	l.StringSliceVar(&f.except, "except", nil, "write all but these `GROUPS` of properties")
	l.StringSliceVar(&f.lines, "lines", nil, "print bare declarations of these `GROUPS`, to paste into a rule")
	l.StringVar(&f.selector, "selector", "", "write the rules for `NAME`, a class or a selector")
	l.StringVar(&f.form, "form", "class",
		"style a class, or every class that contains the name: `FORM` is class or fragment")
	l.BoolVar(&f.sizes, "size", false, "widths and heights too, where content would give them")
	l.BoolVar(&f.comments, "comments", false, "say in a few words what each rule is about")
	l.StringVar(&f.classes, "classes", "", "in html and jsx, use the single-purpose classes of `FILE` where they say the same")
	l.StringSliceVar(&f.targets, "targets", nil,
		"write CSS that `BROWSERS` this old understand, such as safari14,chrome90")
	l.BoolVar(&f.drawn, "drawn", false, "write what is drawn also where the team has a component for it")
	l.BoolVar(&f.raw, "raw", false, "values as the drawing has them, none as var()")
	l.StringSliceVar(&f.also, "also", nil,
		"in html and jsx, the same screen at other widths: `SOURCES`; what differs goes under media queries")
	l.StringVar(&f.from, "from", "", "with --also: the `WIDTH` from which the wider one holds, such as 48rem (default: its own)")
	a.view.add(c)
	f.verify.add(c)
	f.unit.add(c)
	l.Lookup("unit").Usage = "write lengths in `UNIT`: px, rem or pt"
	f.bare.add(c, "a property of the element's own rule")
	return c
}

// codeLanguages are the languages that code is written in.
var codeLanguages = []string{"css", "html", "jsx", "swift", "kotlin"}

// manySelectors is more than anybody asks for at once.
const manySelectors = 1000

// code prints what is wanted of the elements that selectors mean.
func (a *app) code(f *codeFlags, args []string) error {
	if !slices.Contains(codeLanguages, f.as) {
		return hint.New(fmt.Sprintf("--as %q is not known", f.as), "There are "+strings.Join(codeLanguages, ", ")+".")
	}
	if f.as == "css" && len(args) < 2 && !f.verify.on {
		return hint.New("code needs a SOURCE and a SELECTOR", "Of a whole screen, --as html writes a page.")
	}
	doc, ws, err := a.source(args[0])
	if err != nil {
		return err
	}
	o, err := job.CodeOptions(ws, doc, a.inWorkspace(ws, doc), f.as)
	if err != nil {
		return err
	}
	o.Sizes, o.Notes = f.sizes, f.comments
	if o.Classes, err = a.teamClasses(f); err != nil {
		return err
	}
	if o.Unit, err = f.unit.unit(ws); err != nil {
		return err
	}
	if !slices.Contains([]string{"px", "rem", "pt"}, o.Unit.Name) {
		return hint.New(fmt.Sprintf("--unit %q is not for code", o.Unit.Name), "Choose px, rem or pt.")
	}
	if f.raw {
		o.Tokens = nil
	}
	if f.drawn {
		o.Components = nil
	}
	if len(f.lines) > 0 && len(f.only)+len(f.except) > 0 {
		return hint.New("--lines chooses the groups itself", "Leave out --only and --except.")
	}
	if o.Groups, err = code.Choose(slices.Concat(f.only, f.lines), f.except); err != nil {
		return err
	}
	if doc.Styles != nil {
		return a.codeLive(f, doc, args[1:], o)
	}
	if f.as != "css" || f.verify.on { // in a browser, rules want elements
		return a.codePage(f, doc, ws, args[1:], o)
	}
	found, err := a.queryAll(doc, args[1:])
	switch {
	case err != nil:
		return err
	case f.bare.name != "":
		return a.codeValues(f, found, o)
	case len(f.lines) > 0:
		return a.codeLines(f, doc, found, o)
	}
	if usages := a.usages(found, o); len(usages) > 0 {
		return a.printUsages(doc, f.as, usages)
	}
	blocks, err := f.rules(found, o)
	if err != nil {
		return err
	}
	if a.json {
		return a.printJSON(map[string]any{"source": doc.Name, "as": f.as, "rules": append([]code.Block{}, blocks...)})
	}
	if len(blocks) == 0 {
		a.nothingToWrite(found, o)
	}
	return a.printSheet(f, blocks)
}

// codeLive prints what the style sheets of a page say of elements.
func (a *app) codeLive(f *codeFlags, doc *design.Document, args []string, o code.Options) error {
	if f.as != "css" || f.verify.on {
		return hint.New(doc.Name+" is a page already", "Of its elements --as css is written, and nothing is verified.")
	}
	found, err := a.queryAll(doc, args)
	if err != nil {
		return err
	}
	blocks := code.Live(doc.Styles, found, o)
	if a.json {
		return a.printJSON(map[string]any{"source": doc.Name, "as": f.as, "rules": append([]code.Block{}, blocks...)})
	}
	if len(blocks) == 0 {
		a.say("the style sheets say nothing of it\n")
		return nil
	}
	return a.printSheet(f, blocks)
}

// printSheet prints rules, or writes them to -o.
func (a *app) printSheet(f *codeFlags, blocks []code.Block) error {
	sheet, err := targets.For(code.Print(blocks), f.targets)
	if err != nil {
		return err
	}
	if f.out != "" {
		return a.writeText(f.out, sheet)
	}
	return a.document([]byte(sheet))
}

// teamClasses reads the classes of --classes; nil for none.
func (a *app) teamClasses(f *codeFlags) (*code.Classes, error) {
	if f.classes == "" {
		return nil, nil
	}
	if f.as != "html" && f.as != "jsx" {
		return nil, hint.New("--classes is for --as html and --as jsx", "Other languages have no classes to use.")
	}
	data, err := workspace.ReadFile(a.path(f.classes), f.classes)
	if err != nil {
		return nil, err
	}
	classes, faults := code.ParseClasses(string(data))
	var said []string
	for _, e := range faults {
		said = append(said, fmt.Sprintf("%s: %v", f.classes, &e))
	}
	a.remark("warning", said)
	return classes, nil
}

// nothingToWrite explains an empty answer.
func (a *app) nothingToWrite(found []*design.Element, o code.Options) {
	of := ""
	if o.Groups != nil {
		of = " in the groups chosen"
	}
	a.say("There is no CSS for %s%s.\n", plural(len(found), "element", "elements"), of)
}

// queryAll gives the elements that selectors match, each once.
func (a *app) queryAll(doc *design.Document, selectors []string) (found []*design.Element, err error) {
	seen := map[*design.Element]bool{}
	for _, selector := range selectors {
		list, err := a.query(doc, selector)
		if err != nil {
			return nil, err
		}
		for _, e := range list {
			if !seen[e] {
				seen[e] = true
				found = append(found, e)
			}
		}
	}
	return found, nil
}

// rules are the rules wanted, under the selectors wanted.
func (f *codeFlags) rules(found []*design.Element, o code.Options) ([]code.Block, error) {
	form, err := code.ParseForm(f.form)
	if err != nil {
		return nil, err
	}
	blocks := code.Rules(found, o)
	if f.selector != "" {
		name, err := code.ParseName(f.selector)
		if err != nil {
			return nil, err
		}
		if blocks, err = code.Called(blocks, found, name); err != nil {
			return nil, err
		}
	}
	return form.Of(blocks), nil
}

// codeLines prints the declarations of each element's own rule, those of equal elements once.
func (a *app) codeLines(f *codeFlags, doc *design.Document, found []*design.Element, o code.Options) error {
	own := slices.DeleteFunc(code.Own(found, o), func(b code.Block) bool { return len(b.Declarations) == 0 })
	if a.json {
		return a.printJSON(map[string]any{"source": doc.Name, "as": f.as, "rules": append([]code.Block{}, own...)})
	}
	var texts []string
	seen := map[string]bool{}
	for _, b := range own {
		if t := code.Lines(b.Declarations); !seen[t] {
			seen[t] = true
			texts = append(texts, t)
		}
	}
	if len(texts) == 0 {
		a.nothingToWrite(found, o)
	}
	return a.document([]byte(strings.Join(texts, "\n")))
}

// codeValues prints one value of each element's own rule.
func (a *app) codeValues(f *codeFlags, found []*design.Element, o code.Options) error {
	var lines []string
	for i, b := range code.Own(found, o) {
		var list []valueOf
		for _, d := range b.Declarations {
			list = append(list, valueOf{d.Prop, d.Value})
		}
		v, err := f.bare.value(found[i].Selector(), list)
		if err != nil {
			return err
		}
		lines = append(lines, v)
	}
	return a.document([]byte(strings.Join(lines, "\n") + "\n"))
}
