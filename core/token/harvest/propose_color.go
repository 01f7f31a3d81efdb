package harvest

import (
	"fmt"
	"math"
	"strings"

	"archetyp/core/color"
)

// colors are named by hue and lightness step: color.blue.600, which sorts from light to dark. Steps are as coarse as
// tells the shades of a hue apart: 50, else 10, else 1.
func (n *namer) colors(found []*Found) {
	type shade struct {
		hue   string
		exact float64
	}
	type step struct {
		hue  string
		unit float64
		at   int
	}
	seen, shades := map[shade]bool{}, map[step]int{} // how many shades of a hue come to a step
	for _, f := range found {
		c := *f.Value.Color
		if k := (shade{c.Name(), lightness(c)}); !seen[k] {
			seen[k] = true
			for _, unit := range stepUnits {
				shades[step{k.hue, unit, roundStep(k.exact, unit)}]++
			}
		}
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
		for _, unit := range stepUnits {
			if at := roundStep(lightness(c), unit); f.Proposed == "" && shades[step{hue, unit, at}] == 1 {
				f.Proposed = n.free(colorName(c, at, false))
			}
		}
		// the same lightness as another: the next step that is free
		for at := roundStep(lightness(c), 1); f.Proposed == ""; at++ {
			f.Proposed = n.free(colorName(c, at, false))
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

// stepUnits are how far steps of lightness may be apart, the coarsest first.
var stepUnits = []float64{50, 10, 1}

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
