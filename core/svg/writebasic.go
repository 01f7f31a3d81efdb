package svg

import (
	"cmp"
	"math"
	"slices"
	"strconv"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

var roundShapes = map[string]bool{"rect": true, "circle": true, "ellipse": true}

// basic writes a basic shape as what it is, with the fewest decimals that paint the same; found is false where none do.
func (w *writer) basic(t *tag, n *design.PaintNode, p *geom.Path, native *markup.Node, m, rest geom.Matrix) (name string, found bool) {
	same := &tag{}
	if m == geom.Identity && w.native(same, native, m, asStated) != "" {
		if n.Stroke != nil {
			t.attrs = append(t.attrs, same.attrs...)
			return native.Local, true
		}
		p = same.outline(native.Local)
	}
	for digits := w.digits; digits <= finest; digits++ {
		k := &tag{}
		if name = w.native(k, native, m, digits); name == "" {
			return "", false
		}
		if w.asBefore(p, k.outline(name), n.Stroke != nil, m, w.above.Mul(rest)) {
			t.attrs = append(t.attrs, k.attrs...)
			return name, true
		}
	}
	if len(same.attrs) > 0 {
		t.attrs = append(t.attrs, same.attrs...)
		return native.Local, true
	}
	return "", false
}

// asBefore says that a basic shape comes out the same in other numbers: its edges, and where those are not all, its
// points. to leads from where it is written, and m to there from its own space.
func (w *writer) asBefore(exact, written *geom.Path, stroked bool, m, to geom.Matrix) bool {
	if stroked || !upright(to) {
		return slices.EqualFunc(exact.Transform(m).Points, written.Points, func(p, q geom.Point) bool {
			return p == q || m != geom.Identity && p.Sub(q).Len() <= 5e-7+q.Len()/(1<<24)
		})
	}
	for k := 1.0; k <= densities; k++ {
		a, b := edgesOf(exact, deviceAt(k, w.scale, to.Mul(m))), edgesOf(written, deviceAt(k, w.scale, to))
		if !slices.Equal(a.edges, b.edges) || !slices.Equal(a.cells, b.cells) || a.box.whole() != b.box.whole() {
			return false
		}
	}
	return true
}

// outlineOn is a closed outline as a device sees it.
type outlineOn struct {
	edges []geom.Edge
	cells [][2]int32
	box   box
}

func edgesOf(p *geom.Path, on device) (o outlineOn) {
	p.Each(func(s geom.Segment, _ bool) {
		s.Weight = float64(float32(s.Weight))
		for i := range max(2, s.Verb.Size()+1) {
			s.P[i] = on.apply(rounded32(s.P[i]))
			x, y := geom.Cell(s.P[i])
			o.cells = append(o.cells, [2]int32{x, y})
		}
		o.box.addSegment(&s)
		o.edges = s.Edges(o.edges)
	})
	slices.SortFunc(o.edges, func(a, b geom.Edge) int {
		return cmp.Or(cmp.Compare(a.Y0, b.Y0), cmp.Compare(a.X0, b.X0), cmp.Compare(a.Y1, b.Y1), cmp.Compare(a.X1, b.X1))
	})
	slices.SortFunc(o.cells, func(a, b [2]int32) int { return cmp.Or(cmp.Compare(a[0], b[0]), cmp.Compare(a[1], b[1])) })
	return o
}

// outline is the outline of a basic shape that is written.
func (t *tag) outline(name string) *geom.Path {
	get := func(name string) float32 {
		v, _ := t.get(name)
		f, _ := strconv.ParseFloat(v, 32)
		return float32(f)
	}
	oval := func(cx, cy, rx, ry float32) *geom.Path {
		x0, y0 := cx-rx, cy-ry
		x1, y1 := x0+2*rx, y0+2*ry
		return geom.Oval(float64(x0), float64(y0), float64(x1), float64(y1), float64((x0+x1)/2), float64((y0+y1)/2))
	}
	switch name {
	case "circle":
		return oval(get("cx"), get("cy"), get("r"), get("r"))
	case "ellipse":
		return oval(get("cx"), get("cy"), get("rx"), get("ry"))
	}
	rx, ry := get("rx"), get("ry")
	if _, has := t.get("ry"); !has {
		ry = rx
	}
	return geom.RoundedRect(geom.Rect{X: float64(get("x")), Y: float64(get("y")), W: float64(get("width")), H: float64(get("height"))}, float64(rx), float64(ry))
}

// asStated, for decimals, is as many as there are.
const asStated = finest + 1

// same64 is the shortest number that is just this one.
func same64(v float64) string { return short(strconv.FormatFloat(v, 'f', -1, 64)) }

// native writes a basic shape as what it is, where m only moves, zooms and mirrors it; "" for those that are shorter as paths.
func (w *writer) native(t *tag, native *markup.Node, m geom.Matrix, digits int) string {
	var bad bool
	get := func(name string) float64 {
		s, ok := native.Attr(name)
		if !ok || strings.TrimSpace(s) == "" {
			return 0
		}
		l, err := css.ParseLength(s)
		bad = bad || err != nil
		return l.Value
	}
	put := func(name string, v float64) {
		s := short(css.Num(v, min(digits, finest)))
		if digits == asStated {
			s = same64(v)
		}
		if s != "0" {
			t.set(name, s)
		}
	}
	even := math.Abs(m.A) == math.Abs(m.D)
	kx, ky := math.Abs(m.A), math.Abs(m.D)
	switch native.Local {
	case "rect":
		x, y, width, height, rx, ry := get("x"), get("y"), get("width"), get("height"), get("rx"), get("ry")
		if _, has := native.Attr("rx"); !has {
			rx = ry
		}
		if _, has := native.Attr("ry"); !has {
			ry = rx
		}
		if bad {
			return ""
		}
		put("x", min(x*m.A, (x+width)*m.A)+m.E)
		put("y", min(y*m.D, (y+height)*m.D)+m.F)
		put("width", width*kx)
		put("height", height*ky)
		if rx > 0 && ry > 0 {
			put("rx", rx*kx)
			if css.Num(ry*ky, digits) != css.Num(rx*kx, digits) {
				put("ry", ry*ky)
			}
		}
		return "rect"
	case "circle":
		cx, cy, r := get("cx"), get("cy"), get("r")
		if bad || !even {
			return ""
		}
		put("cx", cx*m.A+m.E)
		put("cy", cy*m.D+m.F)
		put("r", r*kx)
		return "circle"
	case "ellipse":
		_, rx := native.Attr("rx")
		_, ry := native.Attr("ry")
		if !rx || !ry {
			return ""
		}
		cx, cy, a, b := get("cx"), get("cy"), get("rx"), get("ry")
		if bad {
			return ""
		}
		put("cx", cx*m.A+m.E)
		put("cy", cy*m.D+m.F)
		put("rx", a*kx)
		put("ry", b*ky)
		return "ellipse"
	}
	return ""
}

// usesUnits says whether a shape's attributes depend on something outside it: percentages, ems, CSS properties.
func usesUnits(n *markup.Node) bool {
	style, has := n.Attr("style")
	for _, at := range n.Attrs {
		if geometryProps[at.Local] == "" && !strings.HasPrefix(at.Local, "x") && !strings.HasPrefix(at.Local, "y") || at.Local == "d" {
			continue
		}
		if l, err := css.ParseLength(at.Value); err == nil && l.Unit != "" && l.Unit != "px" {
			return true
		}
	}
	if _, class := n.Attr("class"); class { // a rule may set geometry: be exact
		return true
	}
	if has {
		decls := css.ParseDecls(style)
		for _, d := range decls {
			if geometryProps[d.Prop] != "" {
				return true
			}
		}
	}
	return false
}
