package svg

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"archetyp/core/css"
	"archetyp/core/geom"
	"archetyp/core/markup"

	lexer "github.com/tdewolff/parse/v2/css"
)

// The numbers a drawing can use: no screen is larger, and what is smaller is nothing.
const (
	largest  = 1e9
	smallest = 0x1p-126 // of a normal 32-bit number
)

// numeric are the attributes that hold numbers, besides the presentation attributes.
var numeric = func() map[string]bool {
	m := map[string]bool{}
	for _, n := range strings.Fields(`x y z width height r rx ry cx cy fx fy fr x1 y1 x2 y2 d points transform gradientTransform
		patternTransform viewBox dx dy rotate textLength startOffset offset pathLength markerWidth markerHeight refX refY
		stdDeviation radius scale values kernelMatrix order divisor bias targetX targetY kernelUnitLength surfaceScale
		specularExponent diffuseConstant specularConstant azimuth elevation pointsAtX pointsAtY pointsAtZ limitingConeAngle
		baseFrequency numOctaves seed k1 k2 k3 k4 amplitude exponent intercept slope tableValues filterRes orient`) {
		m[n] = true
	}
	for _, n := range strings.Fields(`stroke-width stroke-miterlimit stroke-dasharray stroke-dashoffset stroke-opacity fill-opacity
		opacity font-size font-weight letter-spacing word-spacing line-height baseline-shift flood-opacity stop-opacity`) {
		m[n] = true
	}
	return m
}()

// checkNumbers refuses numbers that no drawing can use, at their place: browsers clamp each in a way of its own, and
// whatever is counted with them means nothing.
func (b *builder) checkNumbers(n *markup.Node) {
	for i := range n.Attrs {
		a := &n.Attrs[i]
		switch {
		case a.Space != "" || !suspicious(a.Value):
		case numeric[a.Local]:
			if bad := wildNumber(a.Value); bad != "" {
				b.fail(n, "the number %s in %s is none that a drawing can use", bad, a.Local)
			}
		case a.Local == "style":
			b.checkStyle(n, a.Value, 0)
		}
	}
}

// checkStyle is checkNumbers for declarations or a sheet; offset is what stands before it in the node.
func (b *builder) checkStyle(n *markup.Node, text string, offset int) {
	if b.failed != nil || !suspicious(text) {
		return
	}
	for _, t := range css.Tokenize(text) {
		switch t.Type {
		case lexer.NumberToken, lexer.PercentageToken, lexer.DimensionToken:
			if v, err := strconv.ParseFloat(t.Data[:css.NumberPrefix(t.Data)], 64); err != nil || wild(v) {
				b.failed = &markup.Error{Position: b.doc.Markup.Position(n.Offset + offset),
					Msg: fmt.Sprintf("the number %s in CSS is none that a drawing can use", markup.Clip(t.Data))}
				return
			}
		}
	}
}

// suspicious says, at little cost, whether a text may hold a number beyond all others: one with an exponent or many
// digits, or a word for none.
func suspicious(s string) bool {
	digits := 0
	for i := 0; i < len(s); i++ {
		c := s[i]
		switch {
		case c >= '0' && c <= '9':
			if digits++; digits > 9 {
				return true
			}
			continue
		case (c == 'e' || c == 'E') && digits > 0 && i+1 < len(s) && (s[i+1] == '-' || s[i+1] == '+' || s[i+1] >= '0' &&
			s[i+1] <= '9'):
			return true
		case c == '.' && digits > 0:
			continue
		case c == 'n' || c == 'N' || c == 'I' || c == 'i':
			rest := strings.ToLower(s[i:min(i+3, len(s))])
			if rest == "nan" || rest == "inf" {
				return true
			}
		}
		digits = 0
	}
	return false
}

// wildNumber is the first number of a list, path or transform that no drawing can use; "" for none.
func wildNumber(s string) string {
	for i := 0; i < len(s); {
		if n := css.NumberPrefix(s[i:]); n > 0 {
			v, err := strconv.ParseFloat(s[i:i+n], 64)
			if err != nil || wild(v) {
				return markup.Clip(s[i : i+n])
			}
			i += n
			continue
		}
		if w := strings.ToLower(s[i:min(i+3, len(s))]); w == "nan" || w == "inf" {
			return markup.Clip(strings.Fields(s[i:])[0])
		}
		i++
	}
	return ""
}

func wild(v float64) bool {
	return math.IsNaN(v) || math.Abs(v) > largest || v != 0 && math.Abs(v) < smallest
}

// reach is how far coordinates may lead when transforms multiply them, in px.
const reach = 1e12

// checkReach refuses what lies beyond all reach once it is transformed.
func (b *builder) checkReach(n *markup.Node, m geom.Matrix, r geom.Rect) {
	for _, v := range [...]float64{m.A, m.B, m.C, m.D, m.E, m.F, r.X, r.Y, r.W, r.H} {
		if math.IsNaN(v) || math.Abs(v) > reach {
			b.fail(n, "coordinates lead further than a drawing can reach (%g px)", v)
			return
		}
	}
}
