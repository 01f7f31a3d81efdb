package token

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"archetyp/core/color"
	"archetyp/core/hint"
)

// Ramp is tints and shades around a colour, in a group of tokens named by their steps, from 0 (white) to 1000 (black).
type Ramp struct {
	From  string // the colour it starts from, in words: its token and its value
	Base  int    // the step of that colour
	Steps []RampStep
}

// RampStep is a colour of a ramp. Contrasts are those of WCAG 2.2, the lightness that of OKLCH, 0–1.
type RampStep struct {
	Token     string  `json:"token"`
	Step      int     `json:"step"`
	Value     string  `json:"value"`
	Base      bool    `json:"base,omitempty"`
	Kept      bool    `json:"kept,omitempty"` // the token is there already
	Black     float64 `json:"contrastToBlack"`
	White     float64 `json:"contrastToWhite"`
	Lightness float64 `json:"lightness"`

	color color.Color
}

// New are the tokens that are not there yet.
func (r *Ramp) New() (out []*Token) {
	for i := range r.Steps {
		if s := &r.Steps[i]; !s.Kept {
			out = append(out, &Token{Path: s.Token, Type: Color, Value: Value{Color: &s.color}})
		}
	}
	return out
}

// RampOf makes the steps of a group around a colour: from, as CSS or a token, else the most colourful token of the
// group. Tokens that are there keep their colours, and what is new lies between them.
func RampOf(set *Set, group, from string, steps []int) (*Ramp, error) {
	fixed, have := map[int]color.Color{}, map[int]bool{}
	for _, t := range set.Tokens {
		if n, ok := stepOf(t.Path, group); ok {
			if c := set.Resolve(t).Value.Color; c != nil && c.Alpha == 1 {
				fixed[n], have[n] = *c, true
			}
		}
	}
	c, path, err := rampBase(set, group, from)
	if err != nil {
		return nil, err
	}
	r := &Ramp{From: strings.TrimSpace(path + " " + c.CSS())}
	if n, ok := stepOf(path, group); ok {
		r.Base = n
	} else {
		if r.Base = c.Nearest(steps); have[r.Base] {
			return nil, hint.New(fmt.Sprintf("%s.%d is there already, as %s", group, r.Base, fixed[r.Base].CSS()),
				"A ramp around "+c.CSS()+" would put that colour there. Leave --from out to keep it, or name another group.")
		}
		fixed[r.Base] = c
	}
	steps = append(slices.Clone(steps), r.Base)
	for n := range have { // steps that are there show where they lie
		steps = append(steps, n)
	}
	slices.Sort(steps)
	steps = slices.Compact(steps)
	round := func(v, k float64) float64 { return math.Round(v*k) / k }
	for i, c := range color.Ramp(fixed, steps) {
		n := steps[i]
		r.Steps = append(r.Steps, RampStep{Token: fmt.Sprintf("%s.%d", group, n), Step: n, Value: c.CSS(), Base: n == r.Base,
			Kept: have[n], Black: round(color.Contrast(color.Black, c), 100), White: round(color.Contrast(color.White, c), 100),
			Lightness: round(c.To(color.OKLCH).C[0], 1e4), color: c})
	}
	return r, nil
}

// stepOf is the step that a token of a group is named by.
func stepOf(path, group string) (int, bool) {
	name, ok := strings.CutPrefix(path, group+".")
	n, err := strconv.Atoi(name)
	return n, ok && err == nil && n > 0 && n < 1000
}

// rampBase is the colour a ramp starts from, and its token, if it has one.
func rampBase(set *Set, group, from string) (base color.Color, path string, err error) {
	if from != "" {
		if t := set.Get(from); t != nil {
			if c := set.Resolve(t).Value.Color; c != nil {
				return *c, from, nil
			}
			return base, "", fmt.Errorf("--from %s: this token is no colour", from)
		}
		c, err := color.Parse(from)
		if err != nil {
			return c, "", hint.New(fmt.Sprintf("--from %q is no colour and no token", from),
				"CSS such as #0b6e8f, or a token such as color.sea.600.")
		}
		return c, "", nil
	}
	for _, t := range set.Tokens {
		c := t.Value.Color
		if c == nil || t.Path != group && !strings.HasPrefix(t.Path, group+".") || c.Alpha != 1 {
			continue
		}
		if path == "" || c.To(color.OKLCH).C[1] > base.To(color.OKLCH).C[1] {
			base, path = *c, t.Path // the most colourful one shows best what the ramp is of
		}
	}
	if path == "" {
		return base, "", hint.New(fmt.Sprintf("there is no colour in %q to start from", group),
			"Say --from #0b6e8f, or --from with a token.")
	}
	return base, path, nil
}
