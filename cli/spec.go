package cli

import (
	"fmt"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/infer/layout"

	"github.com/spf13/cobra"
)

func (a *app) specCmd() *cobra.Command {
	var unit unitFlags
	var bare valueFlags
	c := &cobra.Command{
		Use:   "spec SOURCE [SELECTOR]",
		Short: "Tell all facts of elements, or what each screen uses, and how each is known",
		Long: long(`Tell all facts of the elements a selector means: size, place, layout, paint, text, effects. Each fact says how it is
known: stated in the file, derived from it, or estimated with its error. Of several elements, what they share and what
differs. Without a selector, what each screen uses: colours, type styles, fonts, shadows, radii, assets, components.`),
		Example: example("archetyp spec design/booking.svg '#pay'", "archetyp spec design/components.svg '[data-component=button] text' --unit rem",
			"archetyp spec design/timetable.svg", "archetyp spec booking '#pay' --value border-radius"),
		Args: between(1, 2, "a SOURCE and perhaps a SELECTOR"),
		RunE: func(_ *cobra.Command, args []string) error {
			doc, ws, err := a.source(args[0])
			if err != nil {
				return err
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
					return hint("--value needs a SELECTOR", "For example: archetyp spec "+args[0]+" '#pay' --value width")
				}
				return a.answer(&bare, func() error { return a.printSummaries(doc, names) })
			}
			found, err := a.query(doc, args[1])
			if err != nil {
				return err
			}
			t := &teller{app: a, doc: doc, names: names, unit: u}
			return a.answer(&bare, func() error { return t.tell(found, &bare) })
		},
	}
	unit.add(c)
	bare.add(c, "width, height, x, y, or a fact's name")
	return c
}

// tell tells elements: their bare values, as JSON, or in full.
func (t *teller) tell(found []*design.Element, bare *valueFlags) error {
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
func (t *teller) values(found []*design.Element, bare *valueFlags) error {
	var lines []string
	for _, e := range found {
		b, u := e.BorderBox(), t.unit.For(e)
		list := []valueOf{{"width", u.Text(b.W, false)}, {"height", u.Text(b.H, true)}, {"x", u.Text(b.X, false)}, {"y", u.Text(b.Y, true)}}
		for _, f := range u.Facts(t.facts(e)) {
			list = append(list, valueOf{f.Name, f.Value})
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

// teller tells the facts of elements of one document.
type teller struct {
	*app
	doc    *design.Document
	names  tokenNames
	unit   design.Unit
	finder layout.Finder
}

func (t *teller) facts(e *design.Element) []design.FactLine { return t.finder.Facts(e) }

type boxesJSON struct {
	Geometry rectJSON `json:"geometry"`
	Painted  rectJSON `json:"painted"`
	Layout   rectJSON `json:"layout"`
}

type specJSON struct {
	Name      string            `json:"name"`
	Kind      design.Kind       `json:"kind"`
	Shape     string            `json:"shape"`
	Selector  string            `json:"selector"`
	Screen    string            `json:"screen"`
	Path      string            `json:"path"`
	Line      int               `json:"line"`
	Column    int               `json:"column"`
	Hidden    bool              `json:"hidden,omitempty"`
	Marks     design.Marks      `json:"marks"`
	Boxes     boxesJSON         `json:"boxes"`
	Container rectJSON          `json:"container"`
	Words     string            `json:"words,omitempty"`
	Facts     []design.FactLine `json:"facts"`
	Tokens    map[string]string `json:"tokens,omitempty"`
	Behind    []string          `json:"behind,omitempty"` // facts that the drawing shows otherwise than their token says
}

func toJSON(r geom.Rect) rectJSON { return rectJSON{r.X, r.Y, r.W, r.H} }

func (t *teller) spec(e *design.Element) specJSON {
	facts := t.facts(e)
	s := specJSON{Name: e.Name, Kind: e.Kind, Shape: e.Shape, Selector: e.Selector(), Screen: e.Screen.Name, Path: e.Path,
		Line: e.Position.Line, Column: e.Position.Column, Hidden: e.Hidden, Marks: e.Marks,
		Boxes:     boxesJSON{toJSON(e.Geometry.Value), toJSON(e.Painted.Value), toJSON(e.Layout.Value)},
		Container: toJSON(e.Container()), Facts: t.unit.For(e).Facts(facts)}
	if e.Words != nil {
		s.Words = e.Words.Words
	}
	for _, f := range facts {
		if found := t.names.of(e, f); found.Path != "" {
			if s.Tokens == nil {
				s.Tokens = map[string]string{}
			}
			s.Tokens[f.Name] = found.Path
			if found.Behind {
				s.Behind = append(s.Behind, f.Name)
			}
		}
	}
	return s
}

func (t *teller) asJSON(found []*design.Element) error {
	elements := []specJSON{}
	for _, e := range found {
		elements = append(elements, t.spec(e))
	}
	out := map[string]any{"source": t.doc.Name, "elements": elements}
	if len(found) > 1 && len(found) <= mostCompared {
		lists := make([][]design.FactLine, len(found))
		for i, e := range found {
			lists[i] = t.unit.For(e).Facts(design.Placeless(t.facts(e)))
		}
		shared, differ := design.CompareFacts(lists)
		out["shared"], out["differing"] = shared, differ
	}
	return t.printJSON(out)
}

// mostCompared is how many elements are held against each other; more have little in common but their number.
const mostCompared = 5000

// several reports what elements share, and what differs.
func (t *teller) several(found []*design.Element) {
	lists := make([][]design.FactLine, 0, len(found))
	for _, e := range found[:min(len(found), mostCompared)] {
		lists = append(lists, t.unit.For(e).Facts(design.Placeless(t.facts(e))))
	}
	shared, differ := design.CompareFacts(lists)
	t.print("%s  %s\n", t.term.bold(plural(len(found), "element", "elements")), t.term.dim("of "+t.doc.Name))
	var rows [][]string
	for i, e := range found {
		if i == 12 && !t.verbose && len(found) > 13 {
			rows = append(rows, []string{"", t.term.dim(fmt.Sprintf("… %d more", len(found)-i))})
			break
		}
		rows = append(rows, []string{t.term.dim(fmt.Sprint(i + 1)), e.Title(), t.term.accent(string(e.Kind)), t.term.dim(e.Selector())})
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
			rows = append(rows, []string{t.term.dim(head), name, t.term.swatchOf(v.Value) + v.Value, t.term.dim(places(v.Elements))})
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

// one tells one element.
func (t *teller) one(e *design.Element) {
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
	facts := t.facts(e)
	tokens := make([]string, len(facts))
	for i, f := range facts {
		tokens[i] = t.names.say(t.names.of(e, f))
	}
	t.rows(tokens, t.unit.For(e).Facts(facts))
}

// errorUnit is what the error of an estimate counts in.
func errorUnit(fact string) string {
	if fact == "fill" {
		return "/255"
	}
	return " px"
}

// rows prints facts as a table; tokens are the names of those that one stands for.
func (t *teller) rows(tokens []string, facts []design.FactLine) {
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
		origin := string(f.Origin)
		if f.Origin == design.Estimated {
			origin += " ± " + css.Num(f.Error, 2) + errorUnit(f.Name)
		}
		from := f.From
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
			rows = append(rows, []string{t.term.dim(head), name, t.term.swatchOf(f.Value) + line, t.term.dim(origin), t.term.dim(from)})
			head, name, origin, from = "", "", "", ""
		}
	}
	if len(rows) > 0 {
		t.print("%s", t.term.table(nil, rows))
	}
}
