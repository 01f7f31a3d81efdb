package svg

import (
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

// subregions are the areas that the steps of a filter fill, by the names of their results.
// https://www.w3.org/TR/filter-effects-1/#FilterPrimitiveSubRegion
type subregions struct {
	whole, last geom.Rect
	of          map[string]geom.Rect
}

// byInputs is the area of a step that does not say its own: that of all it takes, and the whole filter's for one that
// takes the picture, nothing, or tiles.
func (s *subregions) byInputs(p *design.Primitive) geom.Rect {
	names := []string{p.In}
	switch p.Kind {
	case "feFlood", "feTurbulence", "feImage", "feTile":
		return s.whole
	case "feComposite", "feBlend", "feDisplacementMap":
		names = append(names, p.In2)
	case "feMerge":
		names = p.Inputs
	}
	var out geom.Rect
	for i, n := range names {
		r, known := s.of[n]
		switch {
		case n == "":
			r = s.last
		case !known:
			r = s.whole
		}
		if i == 0 {
			out = r
		} else {
			out = out.Union(r)
		}
	}
	if len(names) == 0 {
		return s.whole
	}
	return out
}

func (s *subregions) note(p *design.Primitive, r geom.Rect) {
	s.last = r
	if p.Result != "" {
		s.of[p.Result] = r
	}
}

// primitiveRegion is the area of a step; what it does not say of it is as in or.
func primitiveRegion(k *markup.Node, or, box geom.Rect, boxUnits bool) geom.Rect {
	r := or
	read := func(name string, to *float64, base, size float64) {
		l, err := css.ParseLength(k.AttrOr(name, ""))
		if err != nil {
			return
		}
		if boxUnits {
			*to = base + l.Px(css.Units{Percent: 1})*size
			return
		}
		*to = l.Px(css.Units{Percent: size})
	}
	read("x", &r.X, box.X, box.W)
	read("y", &r.Y, box.Y, box.H)
	read("width", &r.W, 0, box.W)
	read("height", &r.H, 0, box.H)
	return r
}
