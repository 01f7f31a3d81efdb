package absorb

import (
	"fmt"
	"math"
	"strings"

	"archetyp/core/css"
	"archetyp/core/token"
)

// gradient reads a linear, radial or conic gradient.
func (r *values) gradient(text string, like token.Value) (token.Value, token.Own, error) {
	var own token.Own
	name, inner, ok := strings.Cut(text, "(")
	kind, isGradient := strings.CutSuffix(name, "-gradient")
	if !ok || !isGradient || !strings.HasSuffix(inner, ")") || kind != "linear" && kind != "radial" && kind != "conic" {
		return token.Value{}, own, bad(text, "gradient that the token format has a place for")
	}
	if kind != "linear" {
		own.Kind = kind
	}
	args := css.SplitTop(strings.TrimSuffix(inner, ")"), ',')
	for i := range args {
		args[i] = strings.TrimSpace(args[i])
	}
	if len(args) > 0 && r.head(args[0], kind, &own) {
		args = args[1:]
	}
	var out token.Value
	var at []float64 // NaN for not said
	for i, a := range args {
		color, positions, err := r.stop(a, likeList(like, i))
		if err != nil {
			return token.Value{}, own, err
		}
		for _, p := range positions {
			at = append(at, p)
			out.List = append(out.List, token.Value{Parts: map[string]token.Value{"color": color}})
		}
	}
	if len(out.List) == 0 {
		return token.Value{}, own, bad(text, "gradient with stops")
	}
	spread(at)
	for i := range out.List {
		v := math.Round(min(1, max(0, at[i]))*1e6) / 1e6
		if at[i] < -1e-9 || at[i] > 1+1e-9 {
			return token.Value{}, own, fmt.Errorf("%q has stops outside of 0%% to 100%%, which the token format has no place for", text)
		}
		out.List[i].Parts["position"] = token.Value{Number: &v}
	}
	return out, own, nil
}

// head reads what stands before the stops; ok is false where there is nothing.
func (r *values) head(text, kind string, own *token.Own) bool {
	if _, _, err := r.stop(text, token.Value{}); err == nil {
		return false
	}
	switch kind {
	case "linear":
		if deg, ok := angle(text); ok {
			own.Angle = &deg
			return true
		}
		return false
	case "conic":
		if rest, ok := strings.CutPrefix(text, "from "); ok {
			first, more, _ := strings.Cut(rest, " ")
			if deg, ok := angle(first); ok {
				own.Angle, own.Shape = &deg, strings.TrimSpace(more)
				return true
			}
		}
	}
	own.Shape = text
	return true
}

// angle reads an angle or a direction as degrees.
func angle(text string) (float64, bool) {
	if deg, ok := map[string]float64{"to top": 0, "to right": 90, "to bottom": 180, "to left": 270}[text]; ok {
		return deg, true
	}
	for unit, full := range map[string]float64{"deg": 1, "grad": 0.9, "turn": 360} {
		num, ok := strings.CutSuffix(text, unit)
		if l, err := css.ParseLength(num); ok && err == nil && l.Unit == "" {
			return l.Value * full, true
		}
	}
	if num, ok := strings.CutSuffix(text, "rad"); ok {
		if l, err := css.ParseLength(num); err == nil && l.Unit == "" {
			return l.Value * 180 / math.Pi, true
		}
	}
	return 0, false
}

// stop reads a colour and where it lies: NaN where nothing is said, two places for one that is held.
func (r *values) stop(text string, like token.Value) (token.Value, []float64, error) {
	parts := fields(text)
	if len(parts) == 0 || len(parts) > 3 {
		return token.Value{}, nil, bad(text, "colour stop")
	}
	color, err := r.part(parts[0], token.Color, like.Parts["color"])
	if err != nil {
		return token.Value{}, nil, bad(text, "colour stop")
	}
	positions := []float64{math.NaN()}
	for i, p := range parts[1:] {
		l, err := css.ParseLength(p)
		if err != nil || l.Unit != "%" && !(l.Unit == "" && l.Value == 0) {
			return token.Value{}, nil, fmt.Errorf("%q: the position of a stop is given in %%", text)
		}
		if i == 0 {
			positions = positions[:0]
		}
		positions = append(positions, l.Value/100)
	}
	return color, positions, nil
}

// spread gives stops without a place theirs, as CSS does: the ends at 0 and 1, the others evenly between neighbours.
func spread(at []float64) {
	n := len(at)
	if math.IsNaN(at[0]) {
		at[0] = 0
	}
	if math.IsNaN(at[n-1]) {
		at[n-1] = 1
	}
	for i := 1; i < n; i++ {
		if !math.IsNaN(at[i]) {
			continue
		}
		k := i
		for math.IsNaN(at[k]) {
			k++
		}
		for j := i; j < k; j++ {
			at[j] = at[i-1] + (at[k]-at[i-1])*float64(j-i+1)/float64(k-i+1)
		}
	}
}
