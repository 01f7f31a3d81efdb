package svg

import (
	"cmp"
	"math"
	"slices"
	"strconv"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/geom/pathdata"
	"archetyp/core/markup"
)

var roundShapes = map[string]bool{"rect": true, "circle": true, "ellipse": true}

// basic writes a basic shape as what it is, with the fewest decimals that paint the same; found is false where none do,
// which never is so where m does nothing.
func (w *writer) basic(t *tag, n *design.PaintNode, p *geom.Path, s basicShape, in space) (name string, found bool) {
	m, rest := in.m, in.rest
	if w.judged += len(p.Points); w.judged > mostJudged {
		name = s.write(t, m, w.digits+1)
		return name, name != ""
	}
	same := &tag{}
	if m == geom.Identity {
		s.write(same, m, asStated)
		if n.Stroke != nil {
			t.attrs = append(t.attrs, same.attrs...)
			return s.kind, true
		}
		p = same.outline(s.kind)
	}
	for digits := w.digits; digits <= finest; digits++ {
		k := &tag{}
		if name = s.write(k, m, digits); name == "" {
			return "", false
		}
		if w.asBefore(p, k.outline(name), n.Stroke != nil, m, w.above.Mul(rest)) {
			t.attrs = append(t.attrs, k.attrs...)
			return name, true
		}
	}
	t.attrs = append(t.attrs, same.attrs...)
	return s.kind, m == geom.Identity
}

// asBefore reports whether a basic shape comes out the same in other numbers: its edges, and where those are not all,
// its points. to leads from where it is written, and m to there from its own space.
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
			s.P[i] = on.apply(pathdata.Round32(s.P[i]))
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
	return geom.RoundedRect(geom.Rect{X: float64(get("x")), Y: float64(get("y")), W: float64(get("width")),
		H: float64(get("height"))}, float64(rx), float64(ry))
}

// asStated, for decimals, is as many as there are.
const asStated = finest + 1

// same64 is the shortest number that is just this one.
func same64(v float64) string { return css.Terse(strconv.FormatFloat(v, 'f', -1, 64)) }

// basicShape is a rect, a circle or an ellipse by its numbers; x, y, w and h are those of its box, rx and ry of its
// corners.
type basicShape struct {
	kind               string
	x, y, w, h, rx, ry float64
}

// basicOf is the basic shape that a path is: by the numbers its markup states, where that is all, else by those of the
// path.
func basicOf(native *markup.Node, p *geom.Path) (s basicShape, ok bool) {
	if native == nil || !roundShapes[native.Local] || len(p.Points) < 4 {
		return s, false
	}
	if s = statedShape(native); s.is(p) {
		return s, true
	}
	box := geom.Rect{X: p.Points[0].X, Y: p.Points[0].Y}
	for _, q := range p.Points {
		box = box.Union(geom.Rect{X: q.X, Y: q.Y})
	}
	s = basicShape{kind: native.Local, x: box.X, y: box.Y, w: box.W, h: box.H}
	if s.kind == "rect" && !p.IsRect() {
		s.rx, s.ry = p.Points[0].X-box.X, p.Points[len(p.Points)-2].Y-box.Y
	}
	return s, s.is(p)
}

// statedShape is the shape that markup states in plain numbers.
func statedShape(n *markup.Node) basicShape {
	get := func(name string) float64 {
		text, _ := n.Attr(name)
		if l, err := css.ParseLength(text); err == nil && (l.Unit == "" || l.Unit == "px") {
			return l.Value
		}
		return 0
	}
	s := basicShape{kind: n.Local, rx: get("rx"), ry: get("ry")}
	switch s.kind {
	case "rect":
		s.x, s.y, s.w, s.h = get("x"), get("y"), get("width"), get("height")
		if _, has := n.Attr("rx"); !has {
			s.rx = s.ry
		}
		if _, has := n.Attr("ry"); !has {
			s.ry = s.rx
		}
		return s
	case "circle":
		s.rx, s.ry = get("r"), get("r")
	}
	return basicShape{kind: s.kind, x: get("cx") - s.rx, y: get("cy") - s.ry, w: 2 * s.rx, h: 2 * s.ry}
}

// is reports whether a path is the shape.
func (s basicShape) is(p *geom.Path) bool {
	own := geom.Oval(s.x, s.y, s.x+s.w, s.y+s.h, s.x+s.w/2, s.y+s.h/2)
	if s.kind == "rect" {
		own = geom.RoundedRect(geom.Rect{X: s.x, Y: s.y, W: s.w, H: s.h}, s.rx, s.ry)
	}
	return (s.kind != "circle" || math.Abs(s.w-s.h) < 1e-9) && slices.EqualFunc(own.Points, p.Points,
		func(a, b geom.Point) bool { return a.Sub(b).Len() < 1e-9*(1+b.Len()) })
}

// write writes the shape where m leads, which only moves, zooms and mirrors it; the name is "" where it would be
// another.
func (s basicShape) write(t *tag, m geom.Matrix, digits int) (name string) {
	put := func(name string, v float64) {
		text := css.Terse(css.Num(v, min(digits, finest)))
		if digits == asStated {
			text = same64(math.Round(v*1e12) / 1e12)
		}
		if text != "0" {
			t.set(name, text)
		}
	}
	kx, ky := math.Abs(m.A), math.Abs(m.D)
	centre := m.Apply(geom.Point{X: s.x + s.w/2, Y: s.y + s.h/2})
	switch {
	case s.kind == "rect":
		put("x", min(s.x*m.A, (s.x+s.w)*m.A)+m.E)
		put("y", min(s.y*m.D, (s.y+s.h)*m.D)+m.F)
		put("width", s.w*kx)
		put("height", s.h*ky)
		if s.rx > 0 && s.ry > 0 {
			put("rx", s.rx*kx)
			if css.Num(s.ry*ky, digits) != css.Num(s.rx*kx, digits) {
				put("ry", s.ry*ky)
			}
		}
		return "rect"
	case s.kind == "circle" && kx != ky:
		return ""
	}
	put("cx", centre.X)
	put("cy", centre.Y)
	if s.kind == "circle" {
		put("r", s.w/2*kx)
		return "circle"
	}
	put("rx", s.w/2*kx)
	put("ry", s.h/2*ky)
	return "ellipse"
}
