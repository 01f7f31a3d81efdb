package audit

import (
	"math"
	"slices"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/token/harvest"
)

var nearDuplicate = Rule{Name: "near-duplicate", Group: "values", Level: Warning,
	What:  "colours, radii and shadows that are almost the same as one that is used more",
	Why:   "nobody can see which of the two is meant",
	check: checkNearDuplicate,
}

// manyColours in all are those of a picture, which shades; an interface has fewer.
const manyColours = 32

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
	type pair struct {
		found  *harvest.Found
		places []Place
	}
	byKind := map[string][]pair{}
	var order []string
	for _, f := range c.Harvest.Found {
		switch {
		case f.Near == "" || f.Token != "" || f.Kind == "space" || f.Kind == "type":
			continue
		case f.Kind == "color" && (colours > manyColours || rounded(f)):
			continue
		case f.Kind == "radius" && (!plainRadii(f) || c.strokesApart(f)):
			continue
		}
		places := slices.DeleteFunc(c.sites(f), func(p Place) bool {
			return !isWorded(p.At.Screen) || f.Kind == "radius" && !c.isInterface(p.At.Screen)
		})
		if len(places) == 0 {
			continue
		}
		if byKind[f.Kind] == nil {
			order = append(order, f.Kind)
		}
		byKind[f.Kind] = append(byKind[f.Kind], pair{f, places})
	}
	for _, kind := range order {
		pairs := byKind[kind]
		if len(pairs) > fewPairs {
			var all []Place
			var said []string
			for _, p := range pairs {
				all, said = append(all, p.places...), append(said, p.found.Text+" ("+p.found.Near+")")
			}
			c.at(all, "Use the ones in brackets, which stand more often.", "%d values are almost others: %s", len(pairs), list(said)).about = kind
			continue
		}
		for _, p := range pairs {
			c.at(p.places, "Use "+p.found.Near+".", "%s is almost %s", p.found.Text, p.found.Near).about = kind
		}
	}
}

// fewPairs of values that are almost the same are a finding each; more come from shading by hand.
const fewPairs = 4

// rounded reports whether a colour differs from the one it is almost by less than a pixel can show.
func rounded(f *harvest.Found) bool {
	a, err := color.Parse(f.Text)
	b, other := color.Parse(f.Near)
	if err != nil || other != nil {
		return false
	}
	alpha := a.Alpha - b.Alpha
	b.Alpha = a.Alpha
	return a.Same(b) && math.Abs(alpha) < 0.01
}

// plainRadii reports whether a radius and the one it is almost are such as people set: one on half pixels, the other
// apart by more than an inaccuracy.
func plainRadii(f *harvest.Found) bool {
	usual, err := css.ParseLength(f.Near)
	own, other := css.ParseLength(f.Text)
	if err != nil || other != nil {
		return err != nil && other != nil // several corners each
	}
	return math.Abs(2*usual.Value-math.Round(2*usual.Value)) < 0.005 && math.Abs(own.Value-usual.Value) > 0.1
}

// strokesApart reports whether a radius and the one it is almost are drawn with the same one: the outer edge of a
// centred stroke is rounder by half its width.
func (c *checker) strokesApart(f *harvest.Found) bool {
	usual := slices.IndexFunc(c.Harvest.Found, func(o *harvest.Found) bool { return o.Kind == f.Kind && o.Text == f.Near })
	if usual < 0 {
		return false
	}
	for _, own := range c.drawnRadii(f) {
		if !slices.ContainsFunc(c.drawnRadii(c.Harvest.Found[usual]), func(r float64) bool { return math.Abs(r-own) < 0.05 }) {
			return false
		}
	}
	return true
}

// drawnRadii are those of the outlines that have a radius, without their strokes, in px.
func (c *checker) drawnRadii(f *harvest.Found) (out []float64) {
	length, err := css.ParseLength(f.Text)
	if err != nil {
		return []float64{math.NaN()}
	}
	for i := range f.Uses {
		r := length.Value
		if e := c.element(f.Uses[i].Site); e != nil && len(e.Strokes) > 0 && e.Strokes[0].Value.Align == design.Centred {
			r -= e.Strokes[0].Value.Out()
		}
		if !slices.Contains(out, r) {
			out = append(out, r)
		}
	}
	return out
}
