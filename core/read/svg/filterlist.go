package svg

import (
	"math"
	"strconv"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

// filter reads the filter property: a reference, or CSS filter functions.
func (b *builder) filter(n *markup.Node, value string, c context, box geom.Rect) *design.Filter {
	list, err := css.ParseFunctions(value)
	if err != nil {
		b.warn(n, "filter: "+err.Error())
		return nil
	}
	f := &design.Filter{Region: geom.Rect{X: -1e6, Y: -1e6, W: 2e6, H: 2e6}, CSS: value}
	for _, fn := range list {
		if fn.Name == "url" {
			id, _, _ := css.URLFragment("url(" + fn.Args + ")")
			e := b.ids[id]
			if e == nil || !e.Is("filter") {
				b.warn(n, "filter points to #"+markup.Clip(id)+", which is no filter in the file; left out")
				return nil
			}
			next := b.filterElement(e, c, box)
			if len(list) == 1 {
				return next
			}
			f.CSS, f.ID = "", strings.TrimPrefix(f.ID+" "+next.ID, " ")
			chain(f, next)
			continue
		}
		p, ok := b.filterFunction(fn, c.style)
		if !ok {
			b.warn(n, "the filter "+fn.Name+"() is not painted")
			continue
		}
		f.Primitives = append(f.Primitives, p)
	}
	if len(f.Primitives) == 0 {
		return nil
	}
	if f.CSS == "" {
		bound(f, box)
	}
	return f
}

// bound gives a list in which filter elements stand the area it can paint in: functions have none of their own, and
// fill all of it.
func bound(f *design.Filter, box geom.Rect) {
	area := box
	for _, p := range f.Primitives {
		if p.Region != nil {
			area = area.Union(*p.Region)
			continue
		}
		area = area.Union(area.Move(p.DX, p.DY).GrowXY(3*p.SX, 3*p.SY))
	}
	f.Region = area
	for i := range f.Primitives {
		if p := &f.Primitives[i]; p.Region == nil {
			p.Region = &area
		}
	}
}

// chain appends the steps of a filter element to those before it in a list: its source is what they made.
// https://www.w3.org/TR/filter-effects-1/#FilterProperty
func chain(f, next *design.Filter) {
	source := "SourceGraphic"
	if k := len(f.Primitives); k > 0 {
		source = "filter " + strconv.Itoa(k)
		f.Primitives[k-1].Result = source
	}
	own := source + ": " // names of results are each filter's own
	alpha := own + "alpha"
	f.Primitives = append(f.Primitives, design.Primitive{Kind: "feColorMatrix", In: source, Result: alpha,
		Matrix: [20]float64{18: 1}})
	name := func(s string) string {
		switch s {
		case "SourceGraphic":
			return source
		case "SourceAlpha":
			return alpha
		case "":
			return ""
		}
		return own + s
	}
	for i, p := range next.Primitives {
		p.In, p.In2, p.Result = name(p.In), name(p.In2), name(p.Result)
		if i == 0 && p.In == "" {
			p.In = source
		}
		for k, in := range p.Inputs {
			p.Inputs[k] = name(in)
		}
		if p.Region == nil {
			region := next.Region
			p.Region = &region
		}
		f.Primitives = append(f.Primitives, p)
	}
}

func (b *builder) filterFunction(fn css.Function, st *style) (design.Primitive, bool) {
	p := design.Primitive{}
	switch fn.Name {
	case "blur":
		p.Kind = "feGaussianBlur"
		if l, err := css.ParseLength(fn.Args); err == nil {
			p.SX = l.Px(st.units(0))
		}
		p.SY = p.SX
		return p, true
	case "drop-shadow":
		p.Kind, p.Color = "feDropShadow", color.Black
		if v, err := st.color("currentcolor"); err == nil {
			p.Color = v
		}
		var lens []float64
		for _, w := range css.SplitTop(fn.Args, ' ') {
			if l, err := css.ParseLength(w); err == nil {
				lens = append(lens, l.Px(st.units(0)))
			} else if col, err := st.color(w); err == nil {
				p.Color = col
			}
		}
		if len(lens) < 2 {
			return p, false
		}
		p.DX, p.DY = lens[0], lens[1]
		if len(lens) > 2 {
			p.SX, p.SY = lens[2], lens[2] // unlike box-shadow's, this is the standard deviation itself
		}
		return p, true
	case "opacity":
		p.Kind = "feColorMatrix"
		l, err := css.ParseLength(fn.Args)
		if err != nil {
			return p, false
		}
		p.Matrix = [20]float64{0: 1, 6: 1, 12: 1, 18: math.Min(1, l.Px(css.Units{Percent: 1}))}
		return p, true
	case "grayscale", "saturate":
		l, err := css.ParseLength(fn.Args)
		v := 1.0
		if err == nil {
			v = l.Px(css.Units{Percent: 1})
		}
		if fn.Name == "grayscale" {
			v = 1 - math.Min(1, v)
		}
		p.Kind, p.Matrix = "feColorMatrix", saturate(v)
		return p, true
	}
	return b.colourFunction(fn)
}

// colourFunction reads the filter functions that only change colours.
// https://www.w3.org/TR/filter-effects-1/#FilterFunction
func (b *builder) colourFunction(fn css.Function) (design.Primitive, bool) {
	p := design.Primitive{Kind: "feColorMatrix"}
	if fn.Name == "hue-rotate" {
		turn := 0.0
		if fn.Args != "" {
			a, ok := angle(fn.Args)
			if !ok {
				return p, false
			}
			turn = a
		}
		p.Matrix = hueRotate(turn)
		return p, true
	}
	v := 1.0
	if fn.Args != "" {
		l, err := css.ParseLength(fn.Args)
		if err != nil || l.Value < 0 {
			return p, false
		}
		v = l.Px(css.Units{Percent: 1})
	}
	switch fn.Name {
	case "brightness":
		p.Matrix = [20]float64{0: v, 6: v, 12: v, 18: 1}
	case "contrast":
		p.Matrix = [20]float64{0: v, 4: (1 - v) / 2, 6: v, 9: (1 - v) / 2, 12: v, 14: (1 - v) / 2, 18: 1}
	case "invert":
		v = math.Min(1, v)
		p.Matrix = [20]float64{0: 1 - 2*v, 4: v, 6: 1 - 2*v, 9: v, 12: 1 - 2*v, 14: v, 18: 1}
	case "sepia":
		k := 1 - math.Min(1, v)
		p.Matrix = [20]float64{0.393 + 0.607*k, 0.769 - 0.769*k, 0.189 - 0.189*k, 0, 0,
			0.349 - 0.349*k, 0.686 + 0.314*k, 0.168 - 0.168*k, 0, 0,
			0.272 - 0.272*k, 0.534 - 0.534*k, 0.131 + 0.869*k, 0, 0,
			0, 0, 0, 1, 0}
	default:
		return p, false
	}
	return p, true
}

func saturate(s float64) [20]float64 {
	return [20]float64{
		0.213 + 0.787*s, 0.715 - 0.715*s, 0.072 - 0.072*s, 0, 0,
		0.213 - 0.213*s, 0.715 + 0.285*s, 0.072 - 0.072*s, 0, 0,
		0.213 - 0.213*s, 0.715 - 0.715*s, 0.072 + 0.928*s, 0, 0,
		0, 0, 0, 1, 0}
}

// angle reads a CSS angle, in degrees. A number without a unit counts as such.
func angle(s string) (float64, bool) {
	s = strings.TrimSpace(s)
	n := css.NumberPrefix(s)
	v, err := strconv.ParseFloat(s[:n], 64)
	if err != nil {
		return 0, false
	}
	k, ok := angles[strings.ToLower(s[n:])]
	if s[n:] == "" {
		k, ok = 1, true
	}
	return v * k, ok
}

func hueRotate(degrees float64) [20]float64 {
	s, c := math.Sincos(degrees * math.Pi / 180)
	return [20]float64{
		0.213 + c*0.787 - s*0.213, 0.715 - c*0.715 - s*0.715, 0.072 - c*0.072 + s*0.928, 0, 0,
		0.213 - c*0.213 + s*0.143, 0.715 + c*0.285 + s*0.140, 0.072 - c*0.072 - s*0.283, 0, 0,
		0.213 - c*0.213 - s*0.787, 0.715 - c*0.715 + s*0.715, 0.072 + c*0.928 + s*0.072, 0, 0,
		0, 0, 0, 1, 0}
}
