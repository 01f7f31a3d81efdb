package cli

import (
	"fmt"
	"strconv"
	"strings"

	"archetyp/core/color"
	"archetyp/core/token"
	"archetyp/sync"

	"github.com/spf13/cobra"
)

func (a *app) rampCmd() *cobra.Command {
	steps, from, write := "50,100,200,300,400,500,600,700,800,900", "", false
	c := &cobra.Command{
		Use:   "ramp GROUP",
		Short: "Make tints and shades around a colour, evenly",
		Long: long(`Make a ramp of tints and shades around a colour: even steps of OKLCH lightness from white (0) to black (1000), the hue kept,
all inside sRGB. The colour is --from, or the token of the group that is used most. --write makes the tokens; those that are there stay as they are.`),
		Example: example("archetyp tokens ramp color.coral", "archetyp tokens ramp color.coral --steps 100,300,500,700,900 --write"),
		Args:    exactly("a GROUP"),
		RunE: func(_ *cobra.Command, args []string) error {
			list, err := parseSteps(steps)
			if err != nil {
				return err
			}
			a.writes(write)
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			e, err := sync.EditTokens(ws)
			if err != nil {
				return err
			}
			base, err := rampBase(e.Library, args[0], from)
			if err != nil {
				return err
			}
			return a.ramp(e, args[0], base, list, write)
		},
	}
	c.Flags().StringVar(&steps, "steps", steps, "the `NUMBERS` to make, from 0 (white) to 1000 (black)")
	c.Flags().StringVar(&from, "from", "", "the `COLOUR` to start from: CSS or a token")
	c.Flags().BoolVar(&write, "write", false, "make the tokens")
	return c
}

func parseSteps(text string) ([]int, error) {
	var out []int
	for _, s := range strings.Split(text, ",") {
		n, err := strconv.Atoi(strings.TrimSpace(s))
		if err != nil || n < 1 || n > 999 || len(out) > 0 && n <= out[len(out)-1] {
			return nil, hint(fmt.Sprintf("--steps %q is no list of steps", text), "Rising numbers between 0 and 1000, such as 100,300,500,700,900.")
		}
		out = append(out, n)
	}
	return out, nil
}

// rampBase is the colour a ramp starts from: the one given, else the colour of the group in the middle of its lightness.
func rampBase(lib *token.Library, group, from string) (color.Color, error) {
	if from != "" {
		if t := lib.Base.Get(from); t != nil {
			if c := lib.Base.Resolve(t).Value.Color; c != nil {
				return *c, nil
			}
			return color.Color{}, fmt.Errorf("--from %s: this token is no colour", from)
		}
		c, err := color.Parse(from)
		if err != nil {
			return c, hint(fmt.Sprintf("--from %q is no colour and no token", from), "CSS such as #0b6e8f, or a token such as color.sea.600.")
		}
		return c, nil
	}
	best, found := color.Color{}, false
	for _, t := range lib.Base.Tokens {
		c := t.Value.Color
		if c == nil || t.Path != group && !strings.HasPrefix(t.Path, group+".") || c.Alpha != 1 {
			continue
		}
		if !found || c.To(color.OKLCH).C[1] > best.To(color.OKLCH).C[1] {
			best, found = *c, true // the most colourful one shows best what the ramp is of
		}
	}
	if !found {
		return best, hint(fmt.Sprintf("there is no colour in %q to start from", group), "Say --from #0b6e8f, or --from with a token.")
	}
	return best, nil
}

type rampJSON struct {
	Token    string  `json:"token"`
	Step     int     `json:"step"`
	Value    string  `json:"value"`
	Base     bool    `json:"base,omitempty"`
	Exists   string  `json:"exists,omitempty"` // the value the token has already
	Black    float64 `json:"contrastToBlack"`
	White    float64 `json:"contrastToWhite"`
	Lightess float64 `json:"lightness"`
}

func (a *app) ramp(e *sync.TokenEdit, group string, from color.Color, steps []int, write bool) error {
	ramp, base := from.Ramp(steps)
	list := []rampJSON{}
	var add []*token.Token
	for i, c := range ramp {
		path := fmt.Sprintf("%s.%d", group, steps[i])
		r := rampJSON{Token: path, Step: steps[i], Value: c.CSS(), Base: i == base, Black: round2(color.Contrast(color.Black, c)),
			White: round2(color.Contrast(color.White, c)), Lightess: round2(c.To(color.OKLCH).C[0]*100) / 100}
		if t := e.Library.Base.Get(path); t != nil {
			if v := e.Library.Base.Resolve(t).Value.Color; v != nil {
				r.Exists = v.CSS()
			}
		} else {
			add = append(add, &token.Token{Path: path, Type: token.Color, Value: token.Value{Color: &c}})
		}
		list = append(list, r)
	}
	var files []string
	if write {
		for _, t := range add {
			if _, _, err := e.Set(t, ""); err != nil {
				return err
			}
		}
		var err error
		if files, err = e.Apply(nil); err != nil {
			return err
		}
	}
	if a.json {
		return a.printJSON(map[string]any{"ramp": list, "written": full(files)})
	}
	t := a.term
	var rows [][]string
	for _, r := range list {
		note := ""
		switch {
		case r.Exists != "" && r.Exists != r.Value:
			note = t.dim("there already: ") + t.swatchOf(r.Exists) + r.Exists
		case r.Exists != "":
			note = t.dim("there already")
		case write:
			note = t.good("+ " + r.Token)
		}
		if r.Base {
			note = strings.TrimSpace(t.accent("the colour itself") + "  " + note)
		}
		rows = append(rows, []string{"  " + r.Token, t.swatchOf(r.Value) + r.Value, fmt.Sprintf("%.2f", r.Lightess), fmt.Sprintf("%.2f", r.White), fmt.Sprintf("%.2f", r.Black), note})
	}
	a.print("%s", t.table([]string{"  token", "value", "lightness", "to white", "to black", ""}, rows, 2, 3, 4))
	switch {
	case write:
		a.say("%s written\n", plural(len(add), "token", "tokens"))
	case len(add) > 0:
		a.say("%s; --write makes them.\n", plural(len(add), "token is new", "tokens are new"))
	}
	return nil
}
