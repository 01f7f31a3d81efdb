package cli

import (
	"fmt"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"

	"github.com/spf13/cobra"
)

func (a *app) specCmd() *cobra.Command {
	c := &cobra.Command{
		Use:   "spec SOURCE SELECTOR",
		Short: "Tell all facts of elements: size, place, paint, text, effects, and how each is known",
		Long: long(`Tell all facts of the elements a selector means: size, place, paint, text, effects. Each fact says how it is known:
stated in the file, derived from it, or estimated with its error.`),
		Example: example("archetyp spec design/booking.svg '#Pay_x20_button'", "archetyp spec design/components.svg '[data-component=button] text' --json"),
		Args:    exactly("a SOURCE", "a SELECTOR"),
		RunE: func(_ *cobra.Command, args []string) error {
			doc, found, names, err := a.find(args[0], args[1])
			if err != nil {
				return err
			}
			if a.json {
				out := []specJSON{}
				for _, e := range found {
					out = append(out, specOf(doc, e, names))
				}
				return a.printJSON(map[string]any{"source": doc.Name, "elements": out})
			}
			const most = 8
			for i, e := range found {
				if i == most && !a.verbose {
					a.print("\n%s\n", a.term.dim(fmt.Sprintf("… %s more match; --verbose or --json shows them", plural(len(found)-most, "element", "elements"))))
					break
				}
				if i > 0 {
					a.print("\n")
				}
				a.printSpec(doc, e, names)
			}
			return nil
		},
	}
	return c
}

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
}

func toJSON(r geom.Rect) rectJSON { return rectJSON{r.X, r.Y, r.W, r.H} }

func specOf(doc *design.Document, e *design.Element, names tokenNames) specJSON {
	s := specJSON{Name: e.Name, Kind: e.Kind, Shape: e.Shape, Selector: e.Selector(), Screen: e.Screen.Name, Path: e.Path,
		Line: e.Position.Line, Column: e.Position.Column, Hidden: e.Hidden, Marks: e.Marks,
		Boxes:     boxesJSON{toJSON(e.Geometry.Value), toJSON(e.Painted.Value), toJSON(e.Layout.Value)},
		Container: toJSON(e.Container()), Facts: e.Facts()}
	if e.Words != nil {
		s.Words = e.Words.Words
	}
	for _, f := range s.Facts {
		if t := names.of(e, f); t != "" {
			if s.Tokens == nil {
				s.Tokens = map[string]string{}
			}
			s.Tokens[f.Name] = t
		}
	}
	return s
}

func (a *app) printSpec(doc *design.Document, e *design.Element, names tokenNames) {
	t := a.term
	name := e.Name
	if name == "" {
		name = "(unnamed " + string(e.Kind) + ")"
	}
	a.print("%s  %s\n", t.bold(name), t.accent(string(e.Kind)))
	var id []string
	if m := markNote(e); m != "" {
		id = append(id, m)
	}
	if e.Hidden {
		id = append(id, "hidden")
	}
	id = append(id, e.Selector(), fmt.Sprintf("%s:%d:%d", doc.Name, e.Position.Line, e.Position.Column))
	a.print("%s\n", t.dim(strings.Join(id, "  ·  ")))
	section := ""
	var rows [][]string
	flush := func() {
		if len(rows) > 0 {
			a.print("%s", t.table(nil, rows))
		}
		rows = nil
	}
	for _, f := range e.Facts() {
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
			origin += " ± " + css.Num(f.Error, 2)
		}
		from := f.From
		if tok := names.of(e, f); tok != "" {
			from = strings.TrimSpace("token " + tok + "; " + from)
		}
		name, lines := f.Name, []string{value}
		if f.Name == "words" {
			lines = strings.SplitAfter(strings.Trim(value, `"`), `\n`)
		}
		for _, line := range lines { // one row for each line of a text
			if f.Name == "words" {
				line = "“" + strings.TrimSuffix(line, `\n`) + "”"
			}
			rows = append(rows, []string{t.dim(head), name, t.swatchOf(f.Value) + line, t.dim(origin), t.dim(from)})
			head, name, origin, from = "", "", "", ""
		}
	}
	flush()
}
