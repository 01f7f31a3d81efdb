package cli

import (
	"fmt"
	"strings"

	"archetyp/core/design"
	"archetyp/core/infer/alike"
)

type alikeJSON struct {
	Name      string         `json:"name,omitempty"`
	Classes   []string       `json:"classes,omitempty"` // those that all instances have on pages
	Inside    string         `json:"inside,omitempty"`  // what each instance is a part of
	Instances []instanceJSON `json:"instances"`
}

type instanceJSON struct {
	Name     string           `json:"name"`
	Source   string           `json:"source"`
	Selector string           `json:"selector"`
	Path     string           `json:"path"`
	Screen   string           `json:"screen"`
	Line     int              `json:"line"`
	Words    []string         `json:"words,omitempty"`
	Differs  []differenceJSON `json:"differs"`
}

type differenceJSON struct {
	Where  string `json:"where,omitempty"`
	Fact   string `json:"fact"`
	Value  string `json:"value"`
	Others string `json:"others"`
}

// alike lists the sets of elements that are one thing drawn several times, in the sources given, or in all.
func (a *app) alike(sources []string) error {
	if len(sources) == 0 {
		ws, err := a.workspaceHere()
		if err != nil {
			return err
		}
		files, err := ws.Sources()
		if err != nil {
			return err
		}
		sources = files
	}
	var elements []*design.Element
	for _, s := range sources {
		doc, _, err := a.source(s)
		if err != nil {
			return err
		}
		elements = append(elements, doc.All()...)
	}
	sets := alike.Find(elements)
	if a.json {
		out := []alikeJSON{}
		for _, s := range sets {
			j := alikeJSON{Name: s.Name, Classes: s.Classes, Inside: s.Inside}
			for _, i := range s.Instances {
				e := i.Element
				in := instanceJSON{Name: e.Name, Source: e.Screen.File(), Selector: e.Selector(), Path: e.Path,
					Screen: e.Screen.Name, Line: e.Position.Line, Words: wordsIn(e), Differs: []differenceJSON{}}
				for _, d := range i.Differs {
					in.Differs = append(in.Differs, differenceJSON{d.Where, d.Fact, d.Value, d.Others})
				}
				j.Instances = append(j.Instances, in)
			}
			out = append(out, j)
		}
		return a.printJSON(map[string]any{"sources": sources, "sets": out})
	}
	if len(sets) == 0 {
		a.print("no two groups are alike\n")
		return nil
	}
	for i, s := range sets {
		if i > 0 {
			a.print("\n")
		}
		a.printSet(&s, len(sources) > 1)
	}
	return nil
}

func (a *app) printSet(s *alike.Set, across bool) {
	t := a.term
	name, same := s.Name, 0
	if name == "" {
		name = "(unnamed)"
	}
	for _, i := range s.Instances {
		if len(i.Differs) == 0 {
			same++
		}
	}
	note := fmt.Sprintf("%d alike", len(s.Instances))
	switch same {
	case len(s.Instances):
		note += ", no difference"
	case 0:
		note += ", each differs"
	default:
		note += fmt.Sprintf(", %d the same", same)
	}
	if s.Inside != "" {
		note += ", in each " + s.Inside
	}
	if len(s.Classes) > 0 {
		note += ", class " + strings.Join(s.Classes, " ")
	}
	a.print("%s  %s\n", t.bold(name), t.dim(note))
	var rows [][]string
	for i, in := range s.Instances {
		if i == mostFound && !a.verbose {
			rows = append(rows, []string{t.dim(fmt.Sprintf("… %d more; --verbose shows them", len(s.Instances)-i))})
			break
		}
		e := in.Element
		title := e.Name
		if w := wordsIn(e); len(w) > 0 {
			title = strings.TrimSpace(title + " " + quoteShort(strings.Join(w, " "), 28))
		}
		if title == "" {
			title = e.Path
		}
		where := t.dim(e.Selector())
		if across {
			where = t.dim(e.Screen.File() + "  " + e.Selector())
		}
		if len(in.Differs) == 0 {
			rows = append(rows, []string{"  " + title, where, t.dim("same")})
			continue
		}
		for k, d := range in.Differs {
			if k == 6 && !a.verbose && len(in.Differs) > 7 {
				rows = append(rows, []string{"", "", t.dim(fmt.Sprintf("… %d more", len(in.Differs)-k))})
				break
			}
			what := d.Fact
			if d.Where != "" {
				what = d.Where + ": " + what
			}
			rows = append(rows, []string{"  " + title, where, what, t.swatchOf(d.Value) + d.Value, t.dim("others " + d.Others)})
			title, where = "", ""
		}
	}
	a.print("%s", t.table(nil, rows))
}

// wordsIn are the words of the visible texts in an element.
func wordsIn(e *design.Element) []string {
	var out []string
	e.Walk(func(x *design.Element) {
		if x.Words != nil && !x.Hidden && x.Words.Words != "" {
			out = append(out, x.Words.Words)
		}
	})
	return out
}
