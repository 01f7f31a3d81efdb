package cli

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"archetyp/core/color"
	"archetyp/core/token"
	"archetyp/job"

	"github.com/spf13/cobra"
)

func (a *app) rampCmd() *cobra.Command {
	steps, from, write := "50,100,200,300,400,500,600,700,800,900", "", false
	c := &cobra.Command{
		Use:   "ramp GROUP",
		Short: "Make tints and shades around a colour, evenly",
		Long: long(`Make a ramp of tints and shades around a colour: even steps of OKLCH lightness from white (0) to black (1000),
the hue kept, all inside sRGB. The colour is --from, or the most colourful token of the group, at the step its
name says, else at the one of its lightness. Tokens that are there keep their colours, and what is new lies
between them. --write makes the tokens.`),
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
			r, err := newRamp(e.Library, args[0], from, list)
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
			return nil, hint(fmt.Sprintf("--steps %q is no list of steps", text),
				"Rising numbers between 0 and 1000, such as 100,300,500,700,900.")
		}
		out = append(out, n)
	}
	return out, nil
}

// ramp is what a ramp is made of: the colour it starts from, and those that stand at its steps already.
type ramp struct {
	group string
	steps []int
	base  int    // the step of the colour it starts from
	from  string // that colour, in words
	fixed map[int]color.Color
	have  map[int]bool // steps that have a token
}

func newRamp(lib *token.Library, group, from string, steps []int) (*ramp, error) {
	r := &ramp{group: group, steps: steps, fixed: map[int]color.Color{}, have: map[int]bool{}}
	for _, t := range lib.Base.Tokens {
		if n, ok := stepOf(t.Path, group); ok {
			if c := lib.Base.Resolve(t).Value.Color; c != nil && c.Alpha == 1 {
				r.fixed[n], r.have[n] = *c, true
			}
		}
	}
	c, path, err := rampBase(lib, group, from)
	if err != nil {
		return nil, err
	}
	r.from = strings.TrimSpace(path + " " + c.CSS())
	if n, ok := stepOf(path, group); ok {
		r.base = n
	} else {
		if r.base = c.Nearest(steps); r.have[r.base] {
			return nil, hint(fmt.Sprintf("%s.%d is there already, as %s", group, r.base, r.fixed[r.base].CSS()),
				"A ramp around "+c.CSS()+" would put that colour there. Leave --from out to keep it, or name another group.")
		}
		r.fixed[r.base] = c
	}
	if !slices.Contains(r.steps, r.base) {
		r.steps = append(r.steps, r.base)
	}
	for n := range r.have { // steps that are there show where they lie
		if !slices.Contains(r.steps, n) {
			r.steps = append(r.steps, n)
		}
	}
	slices.Sort(r.steps)
	return r, nil
}

// stepOf is the step that a token of a group is named by.
func stepOf(path, group string) (int, bool) {
	name, ok := strings.CutPrefix(path, group+".")
	n, err := strconv.Atoi(name)
	return n, ok && err == nil && n > 0 && n < 1000
}

// rampBase is the colour a ramp starts from, and its token, if it has one: the one given, else the most colourful of
// the group.
func rampBase(lib *token.Library, group, from string) (base color.Color, path string, err error) {
	if from != "" {
		if t := lib.Base.Get(from); t != nil {
			if c := lib.Base.Resolve(t).Value.Color; c != nil {
				return *c, from, nil
			}
			return base, "", fmt.Errorf("--from %s: this token is no colour", from)
		}
		c, err := color.Parse(from)
		if err != nil {
			return c, "", hint(fmt.Sprintf("--from %q is no colour and no token", from),
				"CSS such as #0b6e8f, or a token such as color.sea.600.")
		}
		return c, "", nil
	}
	for _, t := range lib.Base.Tokens {
		c := t.Value.Color
		if c == nil || t.Path != group && !strings.HasPrefix(t.Path, group+".") || c.Alpha != 1 {
			continue
		}
		if path == "" || c.To(color.OKLCH).C[1] > base.To(color.OKLCH).C[1] {
			base, path = *c, t.Path // the most colourful one shows best what the ramp is of
		}
	}
	if path == "" {
		return base, "", hint(fmt.Sprintf("there is no colour in %q to start from", group),
			"Say --from #0b6e8f, or --from with a token.")
	}
	return base, path, nil
}

type rampJSON struct {
	Token    string  `json:"token"`
	Step     int     `json:"step"`
	Value    string  `json:"value"`
	Base     bool    `json:"base,omitempty"`
	Kept     bool    `json:"kept,omitempty"` // the token is there already
	Black    float64 `json:"contrastToBlack"`
	White    float64 `json:"contrastToWhite"`
	Lightess float64 `json:"lightness"`
}

func (a *app) ramp(e *job.TokenEdit, of *ramp, write bool) error {
	list := []rampJSON{}
	var add []*token.Token
	for i, c := range color.Ramp(of.fixed, of.steps) {
		step := of.steps[i]
		path := fmt.Sprintf("%s.%d", of.group, step)
		r := rampJSON{Token: path, Step: step, Value: c.CSS(), Base: step == of.base, Kept: of.have[step],
			Black: round2(color.Contrast(color.Black, c)),
			White: round2(color.Contrast(color.White, c)), Lightess: round2(c.To(color.OKLCH).C[0]*100) / 100}
		if !r.Kept {
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
		return a.printJSON(map[string]any{"base": of.from, "ramp": list, "written": full(files)})
	}
	t := a.term
	var rows [][]string
	for _, r := range list {
		note := ""
		switch {
		case r.Base:
			note = t.accent("the colour it is made around")
		case r.Kept:
			note = t.dim("there already")
		case write:
			note = t.good("+ " + r.Token)
		}
		rows = append(rows, []string{"  " + r.Token, t.swatchOf(r.Value) + r.Value, fmt.Sprintf("%.2f", r.Lightess),
			fmt.Sprintf("%.2f", r.White), fmt.Sprintf("%.2f", r.Black), note})
	}
	a.print("around %s, at step %d\n", of.from, of.base)
	a.print("%s", t.table([]string{"  token", "value", "lightness", "to white", "to black", ""}, rows, 2, 3, 4))
	switch {
	case write:
		a.say("%s written\n", plural(len(add), "token", "tokens"))
	case len(add) > 0:
		a.say("%s; --write makes them.\n", plural(len(add), "token is new", "tokens are new"))
	}
	return nil
}
