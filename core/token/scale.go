package token

import (
	"math"

	"archetyp/core/color"
)

// Scales are the steps numbers should take, in px; empty for none.
type Scales struct {
	Space float64
	Type  []float64
}

// NearestType is the step of the scale of type nearest to a size in px.
func (s Scales) NearestType(size float64) float64 {
	best := s.Type[0]
	for _, l := range s.Type {
		if math.Abs(l-size) < math.Abs(best-size) {
			best = l
		}
	}
	return best
}

// NearestSpace is the step of the scale of spacing nearest to a distance in px, one step at least.
func (s Scales) NearestSpace(px float64) float64 { return max(1, math.Round(px/s.Space)) * s.Space }

// NearestColor is the path of the colour token nearest to a colour, and their difference in OKLab; "" where there is
// no colour token. Of several alike, the one whose name suits the use best ("surface", "text", "border", "icon") goes
// first.
func (s *Set) NearestColor(c color.Color, use string) (path string, difference float64) {
	best, most := math.Inf(1), -1
	for _, t := range s.Tokens {
		if t.Type != Color {
			continue
		}
		end := s.Resolve(t)
		if end.Value.Color == nil {
			continue
		}
		d := color.Difference(c, *end.Value.Color) + math.Abs(c.Alpha-end.Value.Color.Alpha)
		fit := t.fit(use)
		if d < best-1e-9 || d < best+1e-9 && fit > most {
			path, best, most = t.Path, d, fit
		}
	}
	if path == "" {
		return "", 0
	}
	return path, best
}
