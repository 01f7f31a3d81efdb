package token

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"archetyp/core/color"
)

// colors are named by hue and lightness step: color.blue.600, which sorts from light to dark. Steps are as coarse as
// tells the shades of a hue apart: 50, else 10, else 1.
func (n *namer) colors(found []*Found) {
	shades := map[string][]float64{} // lightness steps of a hue, not yet rounded
	for _, f := range found {
		c := *f.Value.Color
		shades[c.Name()] = append(shades[c.Name()], lightness(c))
	}
	for hue, list := range shades {
		slices.Sort(list)
		shades[hue] = slices.Compact(list)
	}
	for _, f := range inOrder(found) {
		if f.Token != "" {
			continue
		}
		c := *f.Value.Color
		hue := c.Name()
		plain := hue == "white" || hue == "black"
		if f.Proposed = n.free(colorName(c, 0, plain)); plain {
			if f.Proposed == "" {
				f.Proposed = n.claim(colorName(c, 0, true))
			}
			continue
		}
		f.Proposed = ""
		for _, unit := range []float64{50, 10, 1} {
			if step := roundStep(lightness(c), unit); f.Proposed == "" && alone(shades[hue], lightness(c), unit) {
				f.Proposed = n.free(colorName(c, step, false))
			}
		}
		if f.Proposed == "" { // the same lightness as another: the next step that is free
			step := roundStep(lightness(c), 1)
			for f.Proposed == "" {
				f.Proposed = n.free(colorName(c, step, false))
				step++
			}
		}
	}
}

func colorName(c color.Color, step int, plain bool) string {
	name := "color." + c.Name()
	if !plain {
		name = fmt.Sprintf("%s.%d", name, step)
	} else if c.Alpha == 1 {
		name += ".base" // a group, as the other hues are: white may come translucent too
	}
	if c.Alpha == 1 {
		return name
	}
	alpha := fmt.Sprintf("alpha-%d", int(math.Round(c.Alpha*100)))
	if plain {
		return name + "." + alpha
	}
	return name + "-" + alpha
}

// free claims a name, or gives "" where it is taken.
func (n *namer) free(name string) string {
	if key := strings.ToLower(name); !n.taken[key] {
		n.taken[key] = true
		return name
	}
	return ""
}

// alone says whether a unit tells a shade from the others of its hue.
func alone(shades []float64, v, unit float64) bool {
	n := 0
	for _, s := range shades {
		if roundStep(s, unit) == roundStep(v, unit) {
			n++
		}
	}
	return n == 1
}

// lightness counts from 0 (white) to 1000 (black) by OKLab lightness.
func lightness(c color.Color) float64 { return (1 - c.To(color.OKLCH).C[0]) * 1000 }

func roundStep(v, unit float64) int {
	step := int(math.Round(v/unit) * unit)
	return max(int(unit), min(1000-int(unit), step))
}

// hueOrder sorts white, greys and black first, then around the circle.
func hueOrder(c color.Color) int {
	switch c.Name() {
	case "white":
		return -3
	case "grey":
		return -2
	case "black":
		return -1
	}
	return int(c.To(color.OKLCH).C[2])
}
