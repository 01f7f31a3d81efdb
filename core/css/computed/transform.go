package computed

import (
	"math"
	"strings"

	"archetyp/core/css/grammar"
)

// matrix is a transformation in space, column by column as CSS writes it.
type matrix [16]float64

var unit = matrix{1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1}

// times is a after b.
func (a matrix) times(b matrix) (out matrix) {
	for c := 0; c < 4; c++ {
		for r := 0; r < 4; r++ {
			for k := 0; k < 4; k++ {
				out[c*4+r] += a[k*4+r] * b[c*4+k]
			}
		}
	}
	return out
}

// transformText prints transforms as the one matrix they come to, as browsers do. With percentages, which need a box,
// they are printed as they are.
func transformText(parts []grammar.Part) string {
	if len(parts) == 1 && parts[0].Is("none") {
		return "none"
	}
	all := unit
	for i := range parts {
		m, ok := matrixOf(&parts[i])
		if !ok {
			return Text(parts)
		}
		all = all.times(m)
	}
	pick := []int{0, 1, 4, 5, 12, 13}
	name := "matrix("
	if all.inSpace() {
		pick, name = []int{0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15}, "matrix3d("
	}
	var text []string
	for _, i := range pick {
		v := all[i]
		if math.Abs(v) < 1e-15 {
			v = 0
		}
		text = append(text, num(v))
	}
	return name + strings.Join(text, ", ") + ")"
}

// matrixOf is the matrix of one transform function; ok is false where it holds a percentage.
func matrixOf(p *grammar.Part) (m matrix, ok bool) {
	var v []float64
	for i := range p.Args {
		a := &p.Args[i]
		switch {
		case isComma(*a):
		case a.Kind == grammar.Percentage && strings.HasPrefix(p.Text, "scale"):
			v = append(v, a.Num/100)
		case a.Kind == grammar.Percentage && a.Num != 0 || a.Kind == grammar.Calc:
			return m, false
		default:
			v = append(v, a.Num)
		}
	}
	at := func(i int, or float64) float64 {
		if i < len(v) {
			return v[i]
		}
		return or
	}
	m = unit
	sin, cos := math.Sincos(at(len(v)-1, 0) * math.Pi / 180)
	tan := func(deg float64) float64 { return math.Tan(deg * math.Pi / 180) }
	switch p.Text {
	case "matrix":
		m[0], m[1], m[4], m[5], m[12], m[13] = at(0, 1), at(1, 0), at(2, 0), at(3, 1), at(4, 0), at(5, 0)
	case "matrix3d":
		for i := range m {
			m[i] = at(i, 0)
		}
	case "translate":
		m[12], m[13] = at(0, 0), at(1, 0)
	case "translatex":
		m[12] = at(0, 0)
	case "translatey":
		m[13] = at(0, 0)
	case "translatez":
		m[14] = at(0, 0)
	case "translate3d":
		m[12], m[13], m[14] = at(0, 0), at(1, 0), at(2, 0)
	case "scale":
		m[0], m[5] = at(0, 1), at(1, at(0, 1))
	case "scalex":
		m[0] = at(0, 1)
	case "scaley":
		m[5] = at(0, 1)
	case "scalez":
		m[10] = at(0, 1)
	case "scale3d":
		m[0], m[5], m[10] = at(0, 1), at(1, 1), at(2, 1)
	case "rotate", "rotatez":
		m[0], m[1], m[4], m[5] = cos, sin, -sin, cos
	case "rotatex":
		m[5], m[6], m[9], m[10] = cos, sin, -sin, cos
	case "rotatey":
		m[0], m[2], m[8], m[10] = cos, -sin, sin, cos
	case "rotate3d":
		m = about(at(0, 0), at(1, 0), at(2, 0), sin, cos)
	case "skew":
		m[4], m[1] = tan(at(0, 0)), tan(at(1, 0))
	case "skewx":
		m[4] = tan(at(0, 0))
	case "skewy":
		m[1] = tan(at(0, 0))
	case "perspective":
		if d := at(0, 0); len(v) > 0 && p.Args[0].Kind != grammar.Word {
			m[11] = -1 / max(1, d)
		}
	}
	return m, true
}

// inSpace reports whether a matrix moves anything out of the plane.
func (a matrix) inSpace() bool {
	for _, i := range []int{2, 3, 6, 7, 8, 9, 11, 14} {
		if math.Abs(a[i]) > 1e-15 {
			return true
		}
	}
	return a[10] != 1 || a[15] != 1
}

// about is a turn about an axis.
func about(x, y, z, sin, cos float64) matrix {
	l := math.Sqrt(x*x + y*y + z*z)
	if l == 0 {
		return unit
	}
	x, y, z = x/l, y/l, z/l
	t := 1 - cos
	return matrix{t*x*x + cos, t*x*y + sin*z, t*x*z - sin*y, 0, t*x*y - sin*z, t*y*y + cos, t*y*z + sin*x, 0,
		t*x*z + sin*y, t*y*z - sin*x, t*z*z + cos, 0, 0, 0, 0, 1}
}
