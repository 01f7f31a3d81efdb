package grammar

import (
	"math"
	"strings"
)

// Math is a math function, or a part of one: an operation on others, or a number with its unit.
// https://www.w3.org/TR/css-values-4/#math
type Math struct {
	Op   string // "", or +, *, /, min, max, clamp, round …
	Args []*Math
	Num  float64
	Unit string // "" for a number, "%", or a unit in lower case
	Mode string // of round()
}

// Sort is what a value is by its type: numbers, lengths and so on.
type Sort uint8

// The sorts. A percentage goes with lengths where the grammar lets it.
const (
	NoSort Sort = iota
	OfNumber
	OfLength
	OfPercentage
	OfLengthPercentage
	OfAngle
	OfTime
	OfFrequency
	OfResolution
	OfFlex
)

// units are all units, by sort, with what one is in the sort's own unit (px, deg, s); 0 for those that depend on
// something.
var units = map[string]struct {
	Sort Sort
	Of   float64
}{
	"px": {OfLength, 1}, "pt": {OfLength, 96.0 / 72}, "pc": {OfLength, 16}, "in": {OfLength, 96}, "cm": {OfLength, 96 / 2.54},
	"mm": {OfLength, 96 / 25.4}, "q": {OfLength, 96 / 101.6},
	"em": {OfLength, 0}, "rem": {OfLength, 0}, "ex": {OfLength, 0}, "rex": {OfLength, 0}, "ch": {OfLength, 0}, "rch": {OfLength, 0},
	"cap": {OfLength, 0}, "rcap": {OfLength, 0}, "ic": {OfLength, 0}, "ric": {OfLength, 0}, "lh": {OfLength, 0}, "rlh": {OfLength, 0},
	"vw": {OfLength, 0}, "vh": {OfLength, 0}, "vmin": {OfLength, 0}, "vmax": {OfLength, 0}, "vi": {OfLength, 0}, "vb": {OfLength, 0},
	"svw": {OfLength, 0}, "svh": {OfLength, 0}, "svmin": {OfLength, 0}, "svmax": {OfLength, 0}, "svi": {OfLength, 0}, "svb": {OfLength, 0},
	"lvw": {OfLength, 0}, "lvh": {OfLength, 0}, "lvmin": {OfLength, 0}, "lvmax": {OfLength, 0}, "lvi": {OfLength, 0}, "lvb": {OfLength, 0},
	"dvw": {OfLength, 0}, "dvh": {OfLength, 0}, "dvmin": {OfLength, 0}, "dvmax": {OfLength, 0}, "dvi": {OfLength, 0}, "dvb": {OfLength, 0},
	"cqw": {OfLength, 0}, "cqh": {OfLength, 0}, "cqi": {OfLength, 0}, "cqb": {OfLength, 0}, "cqmin": {OfLength, 0}, "cqmax": {OfLength, 0},
	"deg": {OfAngle, 1}, "grad": {OfAngle, 0.9}, "rad": {OfAngle, 180 / math.Pi}, "turn": {OfAngle, 360},
	"s": {OfTime, 1}, "ms": {OfTime, 0.001}, "hz": {OfFrequency, 1}, "khz": {OfFrequency, 1000},
	"dppx": {OfResolution, 1}, "x": {OfResolution, 1}, "dpi": {OfResolution, 1.0 / 96}, "dpcm": {OfResolution, 2.54 / 96}, "fr": {OfFlex, 1},
}

// own is the unit in which values of a sort are computed.
var own = map[Sort]string{OfLength: "px", OfAngle: "deg", OfTime: "s", OfFrequency: "hz", OfResolution: "dppx", OfFlex: "fr"}

// SortOf is the sort of a unit.
func SortOf(unit string) Sort {
	switch unit {
	case "":
		return OfNumber
	case "%":
		return OfPercentage
	}
	return units[unit].Sort
}

// mathFunctions are the functions of CSS Values 4 with the least and the most arguments they take; -1 for any number.
var mathFunctions = map[string][2]int{"calc": {1, 1}, "-webkit-calc": {1, 1}, "-moz-calc": {1, 1}, "min": {1, -1}, "max": {1, -1}, "clamp": {3, 3},
	"round": {1, 3}, "mod": {2, 2}, "rem": {2, 2}, "sin": {1, 1}, "cos": {1, 1}, "tan": {1, 1}, "asin": {1, 1}, "acos": {1, 1},
	"atan": {1, 1}, "atan2": {2, 2}, "pow": {2, 2}, "sqrt": {1, 1}, "hypot": {1, -1}, "log": {1, 2}, "exp": {1, 1}, "abs": {1, 1},
	"sign": {1, 1}}

// mathOf reads a math function; nil where it is none.
func mathOf(p *Part) *Math {
	if p.Kind == Block && p.Text == "(" {
		return sum(p.Args)
	}
	if p.Kind != Call {
		return nil
	}
	bounds, known := mathFunctions[p.Text]
	if !known {
		return nil
	}
	args := split(p.Args, ",")
	m := &Math{Op: p.Text}
	if p.Text == "round" && len(args) > 0 && len(args[0]) == 1 && args[0][0].Kind == Word {
		switch m.Mode = args[0][0].Keyword(); m.Mode {
		case "nearest", "up", "down", "to-zero":
			args = args[1:]
		default:
			m.Mode = ""
		}
	}
	if len(args) < bounds[0] || bounds[1] >= 0 && len(args) > bounds[1] {
		return nil
	}
	for i, a := range args {
		if p.Text == "clamp" && len(a) == 1 && a[0].Is("none") && i != 1 {
			m.Args = append(m.Args, nil)
			continue
		}
		k := sum(a)
		if k == nil {
			return nil
		}
		m.Args = append(m.Args, k)
	}
	if strings.HasSuffix(m.Op, "calc") {
		return m.Args[0]
	}
	return m
}

// split cuts parts at a sign.
func split(parts []Part, sign string) (out [][]Part) {
	from := 0
	for i := range parts {
		if parts[i].mark(sign) {
			out = append(out, parts[from:i])
			from = i + 1
		}
	}
	return append(out, parts[from:])
}

// sum reads products joined by + and -. The sign of a number may be its own: `1px -2px` is no sum, but as a sign without
// white space the lexer gives it, and browsers refuse it.
func sum(parts []Part) *Math {
	var terms []*Math
	from, minus := 0, false
	end := func(to int) bool {
		t := product(parts[from:to])
		if t == nil {
			return false
		}
		if minus {
			t = &Math{Op: "*", Args: []*Math{{Num: -1}, t}}
		}
		terms = append(terms, t)
		return true
	}
	for i := range parts {
		if plus := parts[i].mark("+"); plus || parts[i].mark("-") {
			if !end(i) {
				return nil
			}
			from, minus = i+1, !plus
		}
	}
	if !end(len(parts)) {
		return nil
	}
	if len(terms) == 1 {
		return terms[0]
	}
	return &Math{Op: "+", Args: terms}
}

func product(parts []Part) *Math {
	var out *Math
	for i := 0; i < len(parts); i += 2 {
		k := leaf(&parts[i])
		if k == nil {
			return nil
		}
		switch {
		case out == nil:
			out = k
		case parts[i-1].mark("*"):
			out = &Math{Op: "*", Args: []*Math{out, k}}
		case parts[i-1].mark("/"):
			out = &Math{Op: "/", Args: []*Math{out, k}}
		default:
			return nil
		}
		if i+1 < len(parts) && i+2 == len(parts) {
			return nil
		}
	}
	return out
}

func leaf(p *Part) *Math {
	switch p.Kind {
	case Number:
		return &Math{Num: p.Num}
	case Percentage:
		return &Math{Num: p.Num, Unit: "%"}
	case Dimension:
		if units[p.Text].Sort == NoSort {
			return nil
		}
		return &Math{Num: p.Num, Unit: p.Text}
	case Word:
		switch p.Keyword() {
		case "pi":
			return &Math{Num: math.Pi}
		case "e":
			return &Math{Num: math.E}
		case "infinity":
			return &Math{Num: math.Inf(1)}
		case "-infinity":
			return &Math{Num: math.Inf(-1)}
		case "nan":
			return &Math{Num: math.NaN()}
		}
		return nil
	}
	return mathOf(p)
}

// Sort is the sort of what the function gives; NoSort where its parts do not go together.
func (m *Math) Sort() Sort {
	switch m.Op {
	case "":
		return SortOf(m.Unit)
	case "+", "min", "max", "clamp", "hypot", "round", "mod", "rem":
		return common(m.Args)
	case "*":
		a, b := m.Args[0].Sort(), m.Args[1].Sort()
		switch {
		case a == OfNumber:
			return b
		case b == OfNumber:
			return a
		}
		return NoSort
	case "/":
		a, b := m.Args[0].Sort(), m.Args[1].Sort()
		switch {
		case b == OfNumber:
			return a
		case a == b && a != NoSort:
			return OfNumber
		}
		return NoSort
	case "atan2":
		if common(m.Args) == NoSort {
			return NoSort
		}
		return OfAngle
	case "asin", "acos", "atan":
		if m.Args[0].Sort() != OfNumber {
			return NoSort
		}
		return OfAngle
	case "pow", "sqrt", "log", "exp":
		if common(m.Args) != OfNumber {
			return NoSort
		}
	case "abs":
		return m.Args[0].Sort()
	case "sin", "cos", "tan":
		if s := m.Args[0].Sort(); s != OfNumber && s != OfAngle {
			return NoSort
		}
	case "sign":
		if m.Args[0].Sort() == NoSort {
			return NoSort
		}
	}
	return OfNumber
}

// common is the sort that all of some parts go together as; those that are left out do not count.
func common(args []*Math) Sort {
	out, first := NoSort, true
	for _, a := range args {
		switch {
		case a == nil:
			continue
		case first:
			out, first = a.Sort(), false
		default:
			out = together(out, a.Sort())
		}
		if out == NoSort {
			break
		}
	}
	return out
}

func together(a, b Sort) Sort {
	lengthy := func(s Sort) bool { return s == OfLength || s == OfPercentage || s == OfLengthPercentage }
	switch {
	case a == b:
		return a
	case lengthy(a) && lengthy(b):
		return OfLengthPercentage
	}
	return NoSort
}

// Value computes a function whose units are all known: px gives what one of a unit is in the unit of its sort. ok is
// false where percentages are left, or what there is does not go together.
func (m *Math) Value(px func(unit string) (float64, bool)) (v float64, ok bool) {
	if m == nil {
		return 0, false
	}
	if m.Op == "" {
		if m.Unit == "" {
			return m.Num, true
		}
		one, ok := px(m.Unit)
		return m.Num * one, ok
	}
	args := make([]float64, len(m.Args))
	for i, a := range m.Args {
		if a == nil { // no bound
			args[i] = math.Inf(i - 1)
			continue
		}
		if args[i], ok = a.Value(px); !ok {
			return 0, false
		}
	}
	return m.apply(args), true
}

func (m *Math) apply(v []float64) float64 {
	radians := func(i int) float64 {
		if m.Args[i].Sort() == OfAngle {
			return v[i] * math.Pi / 180
		}
		return v[i]
	}
	switch m.Op {
	case "+":
		s := 0.0
		for _, x := range v {
			s += x
		}
		return s
	case "*":
		return v[0] * v[1]
	case "/":
		return v[0] / v[1]
	case "min", "max":
		out := v[0]
		for _, x := range v {
			if m.Op == "min" {
				out = math.Min(out, x)
			} else {
				out = math.Max(out, x)
			}
		}
		return out
	case "clamp":
		return math.Max(v[0], math.Min(v[1], v[2]))
	case "round":
		step := 1.0
		if len(v) > 1 {
			step = v[1]
		}
		return roundTo(v[0], step, m.Mode)
	case "mod":
		return v[0] - v[1]*math.Floor(v[0]/v[1])
	case "rem":
		return math.Mod(v[0], v[1])
	case "sin":
		return math.Sin(radians(0))
	case "cos":
		return math.Cos(radians(0))
	case "tan":
		return math.Tan(radians(0))
	case "asin":
		return math.Asin(v[0]) * 180 / math.Pi
	case "acos":
		return math.Acos(v[0]) * 180 / math.Pi
	case "atan":
		return math.Atan(v[0]) * 180 / math.Pi
	case "atan2":
		return math.Atan2(v[0], v[1]) * 180 / math.Pi
	case "pow":
		return math.Pow(v[0], v[1])
	case "sqrt":
		return math.Sqrt(v[0])
	case "hypot":
		s := 0.0
		for _, x := range v {
			s += x * x
		}
		return math.Sqrt(s)
	case "log":
		if len(v) > 1 {
			return math.Log(v[0]) / math.Log(v[1])
		}
		return math.Log(v[0])
	case "exp":
		return math.Exp(v[0])
	case "abs":
		return math.Abs(v[0])
	case "sign":
		switch {
		case v[0] > 0:
			return 1
		case v[0] < 0:
			return -1
		}
		return v[0]
	}
	return math.NaN()
}

// roundTo rounds to multiples of a step. https://www.w3.org/TR/css-values-4/#round-func
func roundTo(v, step float64, mode string) float64 {
	q := v / step
	switch mode {
	case "up":
		q = math.Ceil(q)
	case "down":
		q = math.Floor(q)
	case "to-zero":
		q = math.Trunc(q)
	default:
		q = math.Floor(q + 0.5)
	}
	return q * step
}

// Relative reports whether a unit depends on the element or the window.
func Relative(unit string) bool { return unit != "" && unit != "%" && units[unit].Of == 0 }

// Fixed is what one of a unit is in the unit of its sort; ok is false for what depends on something.
func Fixed(unit string) (one float64, ok bool) {
	one = units[unit].Of
	return one, one != 0
}

// Depends reports whether the function holds a relative unit.
func (m *Math) Depends() bool {
	if m == nil {
		return false
	}
	for _, a := range m.Args {
		if a.Depends() {
			return true
		}
	}
	return m.Op == "" && Relative(m.Unit)
}

// Simplified is the function with all units computed but percentages.
func (m *Math) Simplified(px func(unit string) (float64, bool)) *Math {
	if m == nil {
		return nil
	}
	if m.Op == "" {
		if one, ok := px(m.Unit); ok && m.Unit != "" && m.Unit != "%" {
			return &Math{Num: m.Num * one, Unit: own[SortOf(m.Unit)]}
		}
		return m
	}
	out := &Math{Op: m.Op, Mode: m.Mode}
	for _, a := range m.Args {
		out.Args = append(out.Args, a.Simplified(px))
	}
	sort := out.Sort()
	if sort != OfLengthPercentage && sort != OfPercentage {
		if v, ok := out.Value(func(unit string) (float64, bool) {
			if unit == "%" {
				return 0, false
			}
			return Fixed(unit)
		}); ok {
			return &Math{Num: v, Unit: own[sort]}
		}
	}
	if l, p, ok := out.Linear(); ok {
		switch {
		case l == 0:
			return &Math{Num: p, Unit: "%"}
		case p == 0:
			return &Math{Num: l, Unit: "px"}
		}
		return &Math{Op: "+", Args: []*Math{{Num: p, Unit: "%"}, {Num: l, Unit: "px"}}}
	}
	return out
}

// Linear takes a sum of px and per cent apart; ok is false where the function is something else.
func (m *Math) Linear() (px, percent float64, ok bool) {
	switch {
	case m == nil:
		return 0, 0, false
	case m.Op == "" && m.Unit == "px":
		return m.Num, 0, true
	case m.Op == "" && m.Unit == "%":
		return 0, m.Num, true
	case m.Op == "+":
		for _, a := range m.Args {
			l, p, ok := a.Linear()
			if !ok {
				return 0, 0, false
			}
			px, percent = px+l, percent+p
		}
		return px, percent, true
	case m.Op == "*" || m.Op == "/":
		a, b := m.Args[0], m.Args[1]
		if m.Op == "*" && a.Op == "" && a.Unit == "" {
			a, b = b, a
		}
		if b == nil || b.Op != "" || b.Unit != "" {
			return 0, 0, false
		}
		l, p, ok := a.Linear()
		if m.Op == "/" {
			return l / b.Num, p / b.Num, ok
		}
		return l * b.Num, p * b.Num, ok
	}
	return 0, 0, false
}
