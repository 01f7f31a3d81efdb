package cli

import (
	"fmt"
	"strings"

	"archetyp/core/ask"
	"archetyp/core/design"
	"archetyp/core/hint"

	"github.com/spf13/cobra"
)

func (a *app) specCmd() *cobra.Command {
	var unit unitFlags
	var bare valueFlags
	var style styleFlags
	c := &cobra.Command{
		Use:   "spec SOURCE [SELECTOR]",
		Short: "Tell all facts of elements, or what each screen uses, and how each is known",
		Long: long(`Tell all facts of the elements a selector means: size, place, layout, paint, text, effects. Each
fact says how it is known: stated in the file, derived from it, or estimated with its error. Of several
elements, what they share and what differs. Without a selector, what each screen uses: colours, type styles,
fonts, shadows, radii, assets, components.`),
		Example: example("archetyp spec design/booking.svg '#pay'",
			"archetyp spec design/components.svg '[data-component=button] text' --unit rem",
			"archetyp spec design/timetable.svg", "archetyp spec booking '#pay' --value border-radius"),
		Args: between(1, 2, "a SOURCE and perhaps a SELECTOR"),
		RunE: func(_ *cobra.Command, args []string) error {
			doc, ws, err := a.source(args[0])
			if err != nil {
				return err
			}
			if style.asked() {
				return a.styles(doc, &style, args)
			}
			u, err := unit.unit(ws)
			if err != nil {
				return err
			}
			names, err := a.tokenNames(ws, doc)
			if err != nil {
				return err
			}
			if len(args) == 1 {
				if bare.name != "" {
					return hint.New("--value needs a SELECTOR", "For example: archetyp spec "+args[0]+" '#pay' --value width")
				}
				return a.answer(&bare, func() error { return a.printSummaries(doc, names) })
			}
			found, err := a.query(doc, args[1])
			if err != nil {
				return err
			}
			t := &specPrinter{a, &ask.Speller{Tokens: names.Finder, Unit: u}, doc, names}
			return a.answer(&bare, func() error { return t.answer(found, &bare) })
		},
	}
	unit.add(c)
	bare.add(c, "width, height, x, y, or a fact's name")
	style.add(c)
	a.view.add(c)
	return c
}

// answer prints elements: their bare values, as JSON, or in full.
func (t *specPrinter) answer(found []*design.Element, bare *valueFlags) error {
	switch {
	case bare.name != "":
		return t.values(found, bare)
	case t.json:
		return t.asJSON(found)
	case len(found) > 1:
		t.several(found)
		if !t.verbose {
			return nil
		}
		t.print("\n")
	}
	for i, e := range found {
		if i > 0 {
			t.print("\n")
		}
		t.one(e)
	}
	return nil
}

// values prints one value of each element.
func (t *specPrinter) values(found []*design.Element, bare *valueFlags) error {
	var lines []string
	for _, e := range found {
		list := []valueOf{}
		for _, v := range t.Values(e) {
			list = append(list, valueOf{v.Name, v.Text})
		}
		v, err := bare.value(e.Selector(), list)
		if err != nil {
			return err
		}
		lines = append(lines, v)
	}
	t.print("%s\n", block(strings.Join(lines, "\n")))
	return nil
}

// specPrinter prints the facts of elements of one document.
type specPrinter struct {
	*app
	*ask.Speller
	doc   *design.Document
	names tokenNames
}

func (t *specPrinter) asJSON(found []*design.Element) error {
	elements := []*ask.Spec{}
	for _, e := range found {
		elements = append(elements, t.Spec(e))
	}
	out := map[string]any{"source": t.doc.Name, "elements": elements}
	if c, ok := t.Compare(found); ok {
		out["shared"], out["differing"] = c.Shared, c.Differing
	}
	return t.printJSON(out)
}

// several reports what elements share, and what differs.
func (t *specPrinter) several(found []*design.Element) {
	c, _ := t.Compare(found)
	shared, differ := c.Shared, c.Differing
	t.print("%s  %s\n", t.term.bold(plural(len(found), "element", "elements")), t.term.dim("of "+t.doc.Name))
	var rows [][]string
	for i, e := range found {
		if i == 12 && !t.verbose && len(found) > 13 {
			rows = append(rows, []string{"", t.term.dim(fmt.Sprintf("… %d more", len(found)-i))})
			break
		}
		rows = append(rows, []string{t.term.dim(fmt.Sprint(i + 1)), e.Title(), t.term.accent(string(e.Kind)),
			t.term.dim(e.Selector())})
	}
	t.print("%s", t.term.table(nil, rows, 0))
	if len(shared) > 0 {
		t.print("\n%s\n", t.term.bold("All share"))
		t.rows(nil, shared)
	}
	if len(differ) == 0 {
		return
	}
	t.print("\n%s\n", t.term.bold("They differ in"))
	rows = nil
	for _, d := range differ {
		head, name := d.Section, d.Name
		for i, v := range d.Values {
			if i == 6 && !t.verbose && len(d.Values) > 7 {
				rows = append(rows, []string{"", "", t.term.dim(fmt.Sprintf("… %d more values", len(d.Values)-i)), ""})
				break
			}
			rows = append(rows, []string{t.term.dim(head), name, t.term.swatchOf(v.Value) + v.Value,
				t.term.dim(places(v.Elements))})
			head, name = "", ""
		}
	}
	t.print("%s", t.term.table(nil, rows))
	if !t.verbose {
		t.print("%s\n", t.term.dim("--verbose shows all facts of each"))
	}
}

// places are the numbers of elements in a list, runs of them joined.
func places(at []int) string {
	var parts []string
	for i := 0; i < len(at); {
		j := i
		for j+1 < len(at) && at[j+1] == at[j]+1 {
			j++
		}
		switch {
		case j > i+1:
			parts = append(parts, fmt.Sprintf("%d–%d", at[i]+1, at[j]+1))
		case j > i:
			parts = append(parts, fmt.Sprint(at[i]+1), fmt.Sprint(at[j]+1))
		default:
			parts = append(parts, fmt.Sprint(at[i]+1))
		}
		i = j + 1
	}
	if len(parts) > 12 {
		parts = append(parts[:11], "…")
	}
	return strings.Join(parts, ", ")
}

// one prints one element.
func (t *specPrinter) one(e *design.Element) {
	name := e.Name
	if name == "" {
		name = "(unnamed " + string(e.Kind) + ")"
	}
	t.print("%s  %s\n", t.term.bold(name), t.term.accent(string(e.Kind)))
	var id []string
	if m := markNote(e); m != "" {
		id = append(id, m)
	}
	if e.Hidden {
		id = append(id, "hidden")
	}
	id = append(id, e.Selector(), fmt.Sprintf("%s:%d:%d", t.doc.Name, e.Position.Line, e.Position.Column))
	t.print("%s\n", t.term.dim(strings.Join(id, "  ·  ")))
	spec := t.Spec(e)
	tokens := make([]string, len(spec.Facts))
	for i, f := range spec.Found {
		tokens[i] = t.names.say(f)
	}
	t.rows(tokens, spec.Facts)
}

// rows prints facts as a table; tokens are the names of those that one stands for.
func (t *specPrinter) rows(tokens []string, facts []design.FactLine) {
	section := ""
	var rows [][]string
	for i, f := range facts {
		head := ""
		if f.Section != section {
			head, section = f.Section, f.Section
		}
		value := f.Value
		if f.Note != "" {
			value += " (" + f.Note + ")"
		}
		origin, from := f.Known(), f.From
		if tokens != nil && tokens[i] != "" {
			from = strings.TrimSpace("token " + tokens[i] + "; " + from)
		}
		name, lines := f.Name, []string{value}
		if f.Name == "words" {
			lines = strings.SplitAfter(strings.Trim(value, `"`), `\n`)
		}
		for _, line := range lines { // one row for each line of a text
			if f.Name == "words" {
				line = "“" + strings.TrimSuffix(line, `\n`) + "”"
			}
			rows = append(rows, []string{t.term.dim(head), name, t.term.swatchOf(f.Value) + line, t.term.dim(origin),
				t.term.dim(from)})
			head, name, origin, from = "", "", "", ""
		}
	}
	if len(rows) > 0 {
		t.print("%s", t.term.table(nil, rows))
	}
}
