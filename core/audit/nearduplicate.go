package audit

import (
	"math"
	"slices"

	"archetyp/core/css"
	"archetyp/core/token/harvest"
)

var nearDuplicate = Rule{Name: "near-duplicate", Group: "values", Level: Warning,
	What:  "colours, radii and shadows that are almost the same as one that is used more",
	Why:   "nobody can see which of the two is meant",
	check: checkNearDuplicate,
}

// manyColours in all are those of a picture, which shades; an interface has fewer.
const manyColours = 48

func checkNearDuplicate(c *checker) {
	if c.Harvest == nil {
		return
	}
	colours := 0
	for _, f := range c.Harvest.Found {
		if f.Kind == "color" {
			colours++
		}
	}
	for _, f := range c.Harvest.Found {
		switch {
		case f.Near == "" || f.Token != "" || f.Kind == "space" || f.Kind == "type":
			continue
		case f.Kind == "color" && colours > manyColours:
			continue
		case f.Kind == "radius" && !plainRadii(f):
			continue
		}
		places := slices.DeleteFunc(c.sites(f), func(p Place) bool { return !isWorded(p.At.Screen) })
		if x := c.at(places, "Use "+f.Near+".", "%s is almost %s", f.Text, f.Near); x.Rule != "" {
			x.about = f.Kind
		}
	}
}

// plainRadii reports whether a radius and the one it is almost are such as people set: one on half pixels, the other
// apart by more than an inaccuracy.
func plainRadii(f *harvest.Found) bool {
	usual, err := css.ParseLength(f.Near)
	own, other := css.ParseLength(f.Text)
	if err != nil || other != nil {
		return err != nil && other != nil // several corners each
	}
	return math.Abs(2*usual.Value-math.Round(2*usual.Value)) < 0.02 && math.Abs(own.Value-usual.Value) > 0.1
}
