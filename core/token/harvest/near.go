package harvest

import (
	"math"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/token"
)

// NearColor is the difference in OKLab below which two colours look the same.
const NearColor = 0.01

// NearAlpha is the difference of opacity, 0–1, that writing it in 8 bits, or with two digits, makes.
const NearAlpha = 0.006

// Almost reports whether two values of a kind, as CSS text, are hard to tell apart though they are not the same, and how
// far from one another they are: colours in OKLab, spaces and radii in px.
func Almost(kind, a, b string) (far float64, ok bool) {
	switch kind {
	case "color":
		x, errX := color.Parse(a)
		y, errY := color.Parse(b)
		if errX != nil || errY != nil {
			return 0, false
		}
		far = color.Difference(x, y)
		return far, far < NearColor && math.Abs(x.Alpha-y.Alpha) < NearAlpha
	case "space", "radius":
		x, errX := css.ParseLength(a)
		y, errY := css.ParseLength(b)
		if errX != nil || errY != nil || x.Unit != "px" || y.Unit != "px" {
			return 0, false
		}
		far = math.Abs(x.Value - y.Value)
		return far, far > 0 && far <= 1 && far <= 0.15*max(x.Value, y.Value)
	}
	return 0, false
}

// compare points out near-duplicates and numbers off their scale.
func (h *Harvest) compare(scales token.Scales) {
	for _, f := range h.Found {
		switch f.Kind {
		case "color":
			h.nearest(f, func(o *Found) (float64, bool) {
				d := color.Difference(*f.Value.Color, *o.Value.Color)
				return d, d < NearColor && math.Abs(f.Value.Color.Alpha-o.Value.Color.Alpha) < NearAlpha
			})
		case "type":
			if len(scales.Type) > 0 {
				if step := scales.NearestType(f.face.size); math.Abs(step-f.face.size) > 1e-6 {
					f.Off = css.Px(step)
				}
				continue
			}
			h.nearest(f, func(o *Found) (float64, bool) {
				d := math.Abs(f.face.size - o.face.size)
				return d, d > 0 && d <= 1 && f.face.weight == o.face.weight && f.face.first() == o.face.first()
			})
		case "space":
			if scales.Space > 0 {
				if step := scales.NearestSpace(f.size); math.Abs(step-f.size) > 1e-6 {
					f.Off = css.Px(step)
				}
			}
		case "radius":
			h.nearest(f, func(o *Found) (float64, bool) {
				d := math.Abs(f.size - o.size)
				return d, d > 0 && d <= 1 && d <= 0.15*max(f.size, o.size)
			})
		}
	}
}

// nearest flags a value that is almost another one that is used more.
func (h *Harvest) nearest(f *Found, alike func(*Found) (float64, bool)) {
	best := math.Inf(1)
	for _, o := range h.Found {
		if o == f || o.Kind != f.Kind || !o.before(f) {
			continue
		}
		if d, ok := alike(o); ok && d < best {
			best, f.Near, f.NearBy = d, o.Text, d
		}
	}
}

// before says which of two values that are almost the same is the one meant: a whole number before a broken one, then
// the one used more.
func (f *Found) before(o *Found) bool {
	if whole := f.size == math.Trunc(f.size); f.Kind == "radius" && whole != (o.size == math.Trunc(o.size)) {
		return whole
	}
	if len(f.Uses) != len(o.Uses) {
		return len(f.Uses) > len(o.Uses)
	}
	return f.Text < o.Text
}
