package cli

import (
	"fmt"
	"strings"

	"archetyp/core/asset"
	"archetyp/core/design"

	"github.com/spf13/cobra"
)

func (a *app) assetsAdviseCmd() *cobra.Command {
	var all bool
	c := &cobra.Command{
		Use:   "advise [SOURCE]",
		Short: "Tell which pictures are needed, which are not, and what is wrong with them",
		Long: long(`Tell for every painted thing whether it must be a picture: CSS can draw it, text can be text, a
strip can be one pixel wide; which need a mark and have none; which bitmaps have too few pixels; which
drawings are there twice, or in two colours. Only what asks for something is listed; --all lists the rest too.`),
		Example: example("archetyp assets advise", "archetyp assets advise timetable --all"),
		Args:    between(0, 1, "a SOURCE at most"),
		RunE: func(_ *cobra.Command, args []string) error {
			r, ws, err := a.reading(args)
			if err != nil {
				return err
			}
			sets, err := assetSets(ws)
			if err != nil {
				return err
			}
			density := 1.0
			if ws != nil {
				density = ws.Config.Assets.Density
			}
			docs, err := r.Docs()
			if err != nil {
				return err
			}
			return a.printAdvice(asset.Advise(docs, sets, density), all)
		},
	}
	c.Flags().BoolVar(&all, "all", false, "list every painted thing")
	return c
}

type adviceJSON struct {
	Source   string   `json:"source"`
	Line     int      `json:"line"`
	Screen   string   `json:"screen"`
	Element  string   `json:"element"`
	Selector string   `json:"selector"`
	Asset    string   `json:"asset,omitempty"`
	Verdict  string   `json:"verdict"`
	Why      string   `json:"why"`
	CSS      string   `json:"css,omitempty"`
	Act      string   `json:"act,omitempty"`
	Others   []string `json:"others,omitempty"`
}

func (a *app) printAdvice(list []asset.Advice, all bool) error {
	counts := map[asset.Verdict]int{}
	act := 0
	for _, ad := range list {
		if len(ad.Others) == 0 {
			counts[ad.Verdict]++
		}
		if ad.Act != "" {
			act++
		}
	}
	if a.json {
		out := []adviceJSON{}
		for _, ad := range list {
			out = append(out, adviceJSON{ad.Source, ad.Element.Position.Line, ad.Element.Screen.Name, placeOf(ad.Element),
				ad.Element.Selector(), ad.Asset,
				string(ad.Verdict), ad.Why, ad.CSS, ad.Act, ad.Others})
		}
		return a.printJSON(map[string]any{"advice": out})
	}
	for _, ad := range list {
		if ad.Act == "" && !all {
			continue
		}
		name := placeOf(ad.Element)
		if ad.Asset != "" {
			name = strings.Join(append([]string{ad.Asset}, ad.Others...), ", ")
		}
		mark := a.term.dim("·")
		if ad.Act != "" {
			mark = a.term.warn("~")
		}
		a.print("%s %s  %s\n", mark, a.term.bold(name), a.term.dim(fmt.Sprintf("%s:%d", ad.Source, ad.Element.Position.Line)))
		a.print("    %s\n", ad.Why)
		if ad.CSS != "" {
			a.print("    %s\n", a.term.accent(ad.CSS))
		}
		if ad.Act != "" {
			a.print("    → %s\n", ad.Act)
		}
	}
	if act > 0 || all {
		a.print("\n")
	}
	a.print("%s: %d can be CSS, %d are text, %d strips, %d must be pictures; %s\n",
		plural(counts[asset.AsCSS]+counts[asset.AsText]+counts[asset.AsStrip]+counts[asset.AsPicture], "painted thing",
			"painted things"),
		counts[asset.AsCSS], counts[asset.AsText], counts[asset.AsStrip], counts[asset.AsPicture], askText(act))
	return nil
}

func askText(n int) string {
	switch n {
	case 0:
		return "nothing asks for a change"
	case 1:
		return "one asks for a change"
	}
	return fmt.Sprintf("%d ask for a change", n)
}

// placeOf is where an element stands, or what it is called.
func placeOf(e *design.Element) string {
	if e.Path != "" {
		return e.Path
	}
	return e.Title()
}
