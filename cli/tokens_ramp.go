package cli

import (
	"fmt"
	"strconv"
	"strings"

	"archetyp/core/hint"
	"archetyp/core/token"
	"archetyp/job"

	"github.com/spf13/cobra"
)

func (a *app) rampCmd() *cobra.Command {
	steps, from, write := "50,100,200,300,400,500,600,700,800,900", "", false
	c := &cobra.Command{
		Use:   "ramp GROUP",
		Short: "Make tints and shades around a colour, evenly",
		Long: long(`Make a ramp of tints and shades around a colour: even steps of OKLCH lightness from white (0) to
black (1000), the hue kept, all inside sRGB. The colour is --from, or the most colourful token of the group,
at the step its name says, else at the one of its lightness. Tokens that are there keep their colours, and
what is new lies between them. --write makes the tokens.`),
		Example: example("archetyp tokens ramp color.coral",
			"archetyp tokens ramp color.coral --steps 100,300,500,700,900 --write"),
		Args: exactly("a GROUP"),
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
			e, err := job.EditTokens(ws)
			if err != nil {
				return err
			}
			r, err := token.RampOf(e.Library.Base, args[0], from, list)
			if err != nil {
				return err
			}
			return a.ramp(e, r, write)
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
			return nil, hint.New(fmt.Sprintf("--steps %q is no list of steps", text),
				"Rising numbers between 0 and 1000, such as 100,300,500,700,900.")
		}
		out = append(out, n)
	}
	return out, nil
}

func (a *app) ramp(e *job.TokenEdit, r *token.Ramp, write bool) error {
	add := r.New()
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
		return a.printJSON(map[string]any{"base": r.From, "ramp": r.Steps, "written": full(files)})
	}
	t := a.term
	var rows [][]string
	for _, s := range r.Steps {
		note := ""
		switch {
		case s.Base:
			note = t.accent("the colour it is made around")
		case s.Kept:
			note = t.dim("there already")
		case write:
			note = t.good("+ " + s.Token)
		}
		rows = append(rows, []string{"  " + s.Token, t.swatchOf(s.Value) + s.Value, fmt.Sprintf("%.2f", s.Lightness),
			fmt.Sprintf("%.2f", s.White), fmt.Sprintf("%.2f", s.Black), note})
	}
	a.print("around %s, at step %d\n", r.From, r.Base)
	a.print("%s", t.table([]string{"  token", "value", "lightness", "to white", "to black", ""}, rows, 2, 3, 4))
	switch {
	case write:
		a.say("%s written\n", plural(len(add), "token", "tokens"))
	case len(add) > 0:
		a.say("%s; --write makes them.\n", plural(len(add), "token is new", "tokens are new"))
	}
	return nil
}
