package svg

import (
	"fmt"
	"math"
	"strings"

	"archetyp/core/css"
	"archetyp/core/geom"
	"archetyp/core/geom/pathdata"
	"archetyp/core/markup"
)

// ParseTransform reads a transform list, in SVG's form (plain numbers) or CSS's (with units).
// https://www.w3.org/TR/css-transforms-1/
func ParseTransform(s string, u css.Units) (geom.Matrix, error) {
	return parseTransform(s, u, pathdata.Numbers)
}

// countedTransform is a transform list as browsers read it from an attribute; where it is no plain one, as it is meant.
func countedTransform(s string, meant geom.Matrix) geom.Matrix {
	m, err := parseTransform(s, css.Units{}, func(s string) ([]float64, error) { return pathdata.CountedNumbers(s), nil })
	if err != nil || math.Abs(m.A-meant.A)+math.Abs(m.B-meant.B)+math.Abs(m.C-meant.C)+math.Abs(m.D-meant.D) > 1e-5 {
		return meant
	}
	return m
}

// parseTransform reads a transform list; numbers reads those without units.
func parseTransform(s string, u css.Units, numbers func(string) ([]float64, error)) (geom.Matrix, error) {
	m := geom.Identity
	if t := strings.TrimSpace(s); t == "" || t == "none" {
		return m, nil
	}
	list, err := css.ParseFunctions(s)
	if err != nil {
		return m, err
	}
	for _, f := range list {
		v, err := transformArgs(f.Args, u, numbers)
		if err != nil {
			return m, fmt.Errorf("%s(): %w", f.Name, err)
		}
		arg := func(i int, or float64) float64 {
			if i < len(v) {
				return v[i]
			}
			return or
		}
		if len(v) == 0 {
			return m, fmt.Errorf("%s() has no argument", f.Name)
		}
		switch f.Name {
		case "matrix":
			if len(v) != 6 {
				return m, fmt.Errorf("matrix() has %d numbers, not 6", len(v))
			}
			m = m.Mul(geom.Matrix{A: v[0], B: v[1], C: v[2], D: v[3], E: v[4], F: v[5]})
		case "translate":
			m = m.Mul(geom.Translate(v[0], arg(1, 0)))
		case "translatex":
			m = m.Mul(geom.Translate(v[0], 0))
		case "translatey":
			m = m.Mul(geom.Translate(0, v[0]))
		case "scale":
			m = m.Mul(geom.Scale(v[0], arg(1, v[0])))
		case "scalex":
			m = m.Mul(geom.Scale(v[0], 1))
		case "scaley":
			m = m.Mul(geom.Scale(1, v[0]))
		case "rotate":
			cx, cy := arg(1, 0), arg(2, 0)
			m = m.Mul(geom.Translate(cx, cy)).Mul(geom.Rotate(v[0])).Mul(geom.Translate(-cx, -cy))
		case "skewx":
			m = m.Mul(geom.Matrix{A: 1, C: math.Tan(v[0] * math.Pi / 180), D: 1})
		case "skewy":
			m = m.Mul(geom.Matrix{A: 1, B: math.Tan(v[0] * math.Pi / 180), D: 1})
		default:
			return m, fmt.Errorf("the transform %s() is not known", f.Name)
		}
	}
	return m, nil
}

func transformArgs(s string, u css.Units, numbers func(string) ([]float64, error)) ([]float64, error) {
	if !strings.ContainsAny(s, "%abcdfghijklmnopqrstuvwxyz") { // plain numbers, as SVG writes them
		return numbers(s)
	}
	var out []float64
	for _, w := range strings.FieldsFunc(s, func(r rune) bool { return r == ',' || r == ' ' || r == '\t' || r == '\n' }) {
		n := css.NumberPrefix(w)
		if scale, ok := angles[w[n:]]; ok && n > 0 {
			l, err := css.ParseLength(w[:n])
			if err != nil {
				return nil, err
			}
			out = append(out, l.Value*scale)
			continue
		}
		l, err := css.ParseLength(w)
		if err != nil {
			return nil, err
		}
		out = append(out, l.Px(u))
	}
	return out, nil
}

// angles are the CSS angle units in degrees.
var angles = map[string]float64{"deg": 1, "grad": 0.9, "rad": 180 / math.Pi, "turn": 360}

// viewBox reads the attribute; ok is false where there is none that counts.
func viewBox(n *markup.Node) (geom.Rect, bool) {
	s, has := n.Attr("viewBox")
	if !has {
		return geom.Rect{}, false
	}
	v, err := pathdata.Numbers(s)
	if err != nil || len(v) != 4 || v[2] <= 0 || v[3] <= 0 {
		return geom.Rect{}, false
	}
	return geom.Rect{X: v[0], Y: v[1], W: v[2], H: v[3]}, true
}

// fit is the transform from a view box into a viewport as preserveAspectRatio says.
// https://www.w3.org/TR/SVG2/coords.html#ComputingAViewportsTransform
func fit(vb, port geom.Rect, aspect string) geom.Matrix {
	f := func(v float64) float64 { return float64(float32(v)) }
	vb = geom.Rect{X: f(vb.X), Y: f(vb.Y), W: f(vb.W), H: f(vb.H)} // as browsers count it: a last bit may move an edge
	sx, sy := port.W/vb.W, port.H/vb.H
	words := strings.Fields(aspect)
	align, meet := "xMidYMid", true
	for _, w := range words {
		switch w {
		case "meet", "defer":
		case "slice":
			meet = false
		default:
			align = w
		}
	}
	if align != "none" {
		if meet {
			sx = math.Min(sx, sy)
		} else {
			sx = math.Max(sx, sy)
		}
		sy = sx
	}
	tx, ty := port.X-vb.X*sx, port.Y-vb.Y*sy
	if strings.Contains(align, "xMid") {
		tx += (port.W - vb.W*sx) / 2
	} else if strings.Contains(align, "xMax") {
		tx += port.W - vb.W*sx
	}
	if strings.Contains(align, "YMid") {
		ty += (port.H - vb.H*sy) / 2
	} else if strings.Contains(align, "YMax") {
		ty += port.H - vb.H*sy
	}
	return geom.Matrix{A: sx, D: sy, E: tx, F: ty}
}
