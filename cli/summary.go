package cli

import (
	"fmt"
	"path"

	"archetyp/core/design"
)

type summaryJSON struct {
	Screen string  `json:"screen"`
	Width  float64 `json:"width"`
	Height float64 `json:"height"`
	design.Summary
	Tokens map[string]string `json:"tokens,omitempty"` // value → token
}

// printSummaries reports what each screen of a document uses.
func (a *app) printSummaries(doc *design.Document, names tokenNames) error {
	var all []summaryJSON
	for _, s := range doc.Screens {
		sum := summaryJSON{Screen: s.Name, Width: s.Box.W, Height: s.Box.H, Summary: s.Summary()}
		sum.Tokens = names.ofSummary(&sum.Summary)
		all = append(all, sum)
	}
	if a.json {
		return a.printJSON(map[string]any{"source": doc.Name, "screens": all})
	}
	for i := range all {
		if i > 0 {
			a.print("\n")
		}
		a.printUsed(&all[i])
	}
	return nil
}

// ofSummary finds the tokens of the values a screen uses.
func (n tokenNames) ofSummary(s *design.Summary) map[string]string {
	out := map[string]string{}
	find := func(list []design.Used, kinds ...string) {
		for _, u := range list {
			for _, k := range kinds {
				if p := n.Find(nil, k, u.Value).Path; p != "" && out[u.Value] == "" {
					out[u.Value] = p
				}
			}
		}
	}
	find(s.Colors, "color")
	find(s.Gradients, "gradient")
	find(s.Radii, "radius")
	find(s.Shadows, "shadow")
	return out
}

const usedLines = 12 // a longer list is folded

func (a *app) printUsed(s *summaryJSON) {
	t := a.term
	a.print("%s  %s\n", t.bold(s.Screen), t.dim(fmt.Sprintf("%s × %s px", num(s.Width), num(s.Height))))
	var rows [][]string
	list := func(head string, used []design.Used) {
		for i, u := range used {
			if i == usedLines && !a.verbose && len(used) > usedLines+1 {
				rows = append(rows, []string{"", "", t.dim(fmt.Sprintf("… %d more; --verbose shows them", len(used)-i)), "", ""})
				break
			}
			rows = append(rows, []string{t.dim(head), fmt.Sprintf("%d×", u.Count), t.swatchOf(u.Value) + u.Value,
				s.Tokens[u.Value], t.dim(u.As)})
			head = ""
		}
	}
	list("colours", s.Colors)
	list("gradients", s.Gradients)
	list("type styles", s.Types)
	head := "fonts"
	var ship []string
	for _, f := range s.Fonts {
		for _, w := range f.Faces {
			state := "found"
			if !w.Found {
				state = t.warn("missing")
			}
			slant := ""
			if w.Italic {
				slant = " italic"
			}
			note := path.Base(w.File)
			switch {
			case !w.Found:
				note = "no file; the fallback measures it"
			case w.File == "":
				note = "whatever font stands in"
			default:
				ship = append(ship, w.FontFace)
			}
			rows = append(rows, []string{t.dim(head), fmt.Sprintf("%d×", w.Count), fmt.Sprintf("%s %d%s", f.Family, w.Weight,
				slant), state, t.dim(note)})
			head = ""
		}
	}
	list("radii", s.Radii)
	list("shadows", s.Shadows)
	list("assets", s.Assets)
	list("components", s.Components)
	if len(rows) == 0 {
		a.print("%s\n", t.dim("nothing that shows"))
		return
	}
	a.print("%s", t.table(nil, rows, 1))
	if len(ship) > 0 {
		a.print("\n%s\n", t.dim("to ship with the font files"))
		for _, rule := range ship {
			a.print("%s\n", rule)
		}
	}
}
