package grammar

import (
	"math"
	"strings"
)

// basic is the reader of a type that is read here; nil for those that are defined by grammars.
func basic(name string) func(*Part, *node) (Part, bool) {
	measure := func(s Sort) func(*Part, *node) (Part, bool) {
		return func(p *Part, n *node) (Part, bool) { return n.measure(p, s) }
	}
	kind := func(k Kind) func(*Part, *node) (Part, bool) {
		return func(p *Part, _ *node) (Part, bool) { return *p, p.Kind == k }
	}
	switch name {
	case "length":
		return measure(OfLength)
	case "length-percentage":
		return measure(OfLengthPercentage)
	case "percentage":
		return measure(OfPercentage)
	case "number":
		return measure(OfNumber)
	case "angle":
		return measure(OfAngle)
	case "time":
		return measure(OfTime)
	case "flex":
		return measure(OfFlex)
	case "resolution":
		return measure(OfResolution)
	case "integer":
		return integer
	case "zero":
		return zero
	case "string":
		return kind(String)
	case "url":
		return kind(URL)
	case "ident":
		return kind(Word)
	case "any-function":
		return kind(Call)
	case "block":
		return kind(Block)
	case "custom-ident":
		return customIdent
	case "dashed-ident":
		return func(p *Part, _ *node) (Part, bool) { return *p, p.Kind == Word && strings.HasPrefix(p.Text, "--") }
	case "color":
		return colour
	case "any":
		return func(p *Part, _ *node) (Part, bool) { return *p, true }
	}
	return nil
}

// measure reads a number with a unit of a sort, or math that gives one.
func (n *node) measure(p *Part, want Sort) (Part, bool) {
	fits := func(s Sort) bool {
		return s == want || want == OfLengthPercentage && (s == OfLength || s == OfPercentage)
	}
	switch p.Kind {
	case Number:
		if p.Num == 0 && (want == OfLength || want == OfLengthPercentage) {
			return Part{Kind: Dimension, Text: "px"}, n.within(0)
		}
		return *p, want == OfNumber && n.within(p.Num)
	case Percentage:
		return *p, fits(OfPercentage) && n.within(p.Num)
	case Dimension:
		return *p, fits(units[p.Text].Sort) && n.within(p.Num)
	case Call, Calc: // as written, or as an earlier reading left it
		m := p.Math
		if m == nil {
			m = mathOf(p)
		}
		if m == nil {
			return *p, false
		}
		s := m.Sort()
		if !fits(s) {
			return *p, false
		}
		return n.folded(m, s), true
	}
	return *p, false
}

// folded is a math function as a plain value where nothing in it depends on anything.
func (n *node) folded(m *Math, s Sort) Part {
	v, ok := m.Value(func(unit string) (float64, bool) {
		if unit == "%" {
			return 1, s == OfPercentage
		}
		return Fixed(unit)
	})
	if !ok {
		p := Part{Kind: Calc, Math: m, Int: n.low != nil && *n.low == 0}
		return p
	}
	return Plain(n.clamped(v), s)
}

// mostLength stands for infinity, as it does in browsers.
const mostLength = 1 << 25

// Plain is a value of a sort in the unit of that sort.
func Plain(v float64, s Sort) Part {
	switch s {
	case OfNumber:
		return Part{Kind: Number, Num: v}
	case OfPercentage:
		return Part{Kind: Percentage, Num: v}
	}
	if math.IsInf(v, 0) {
		v = math.Copysign(mostLength, v)
	}
	return Part{Kind: Dimension, Num: v, Text: own[s]}
}

func (n *node) within(v float64) bool {
	return !(n.low != nil && v < *n.low || n.up != nil && v > *n.up)
}

// clamped takes the result of math into the range of its place.
func (n *node) clamped(v float64) float64 {
	if v != v {
		v = 0
	}
	if n.low != nil {
		v = max(v, *n.low)
	}
	if n.up != nil {
		v = min(v, *n.up)
	}
	return v
}

func integer(p *Part, n *node) (Part, bool) {
	if p.Kind == Number {
		return *p, p.Int && n.within(p.Num)
	}
	out, ok := n.measure(p, OfNumber)
	if ok && out.Kind == Number {
		out.Num = roundTo(out.Num, 1, "")
	}
	return out, ok
}

// zero is a 0 that stands for an angle, as it may in a few old functions.
func zero(p *Part, _ *node) (Part, bool) {
	return Part{Kind: Dimension, Text: "deg"}, p.Kind == Number && p.Num == 0
}

func customIdent(p *Part, _ *node) (Part, bool) {
	if p.Kind != Word {
		return *p, false
	}
	switch p.Keyword() {
	case "initial", "inherit", "unset", "revert", "revert-layer", "default":
		return *p, false
	}
	return *p, true
}

// InOwnUnit is a dimension in the unit of its sort, where its own depends on nothing.
func InOwnUnit(p Part) Part {
	if u, ok := units[p.Text]; ok && u.Of != 0 && own[u.Sort] != p.Text {
		p.Num, p.Text = p.Num*u.Of, own[u.Sort]
	}
	return p
}
