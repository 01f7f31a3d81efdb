package token

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"archetyp/core/color"
)

// reader reads the value of one token.
type reader struct {
	file *File
	path string
}

func (r *reader) fail(v jsonValue, format string, args ...any) *Error {
	return r.file.error(v.start, r.path, fmt.Sprintf(format, args...))
}

func (r *reader) failAt(offset int, format string, args ...any) *Error {
	return r.file.error(offset, r.path, fmt.Sprintf(format, args...))
}

// wrong is the error for a value that is not what its type wants.
func (r *reader) wrong(v jsonValue, typ Type, want string) *Error {
	got := v.String()
	if r := []rune(got); len(r) > 60 {
		got = string(r[:60]) + "…"
	}
	return r.fail(v, "%s is no %s: %s is wanted", got, typ, want)
}

// value reads a value of a type; "" where only an alias can stand.
func (r *reader) value(v jsonValue, typ Type) (Value, *Error) {
	if a, ok, err := r.alias(v); ok || err != nil {
		return a, err
	}
	switch typ {
	case Color:
		return r.color(v)
	case Dimension:
		return r.length(v, typ, "px", "rem")
	case Duration:
		return r.length(v, typ, "ms", "s")
	case Number:
		if f, ok := number(v); ok {
			return Value{Number: &f}, nil
		}
		return Value{}, r.wrong(v, typ, "a number")
	case FontWeight:
		if f, ok := weight(v); ok {
			return Value{Number: &f}, nil
		}
		return Value{}, r.wrong(v, typ, "a number from 1 to 1000 or a name such as bold")
	case FontFamily:
		return r.family(v)
	case CubicBezier:
		return r.bezier(v)
	case Shadow, Gradient:
		return r.list(v, typ)
	case StrokeStyle:
		if s, ok := text(v); ok {
			if !strokeStyles[s] {
				return Value{}, r.wrong(v, typ,
					"one of solid, dashed, dotted, double, groove, ridge, outset, inset, or an object with dashArray and lineCap")
			}
			return Value{Words: []string{s}}, nil
		}
		return r.composite(v, typ)
	case Typography, Border, Transition:
		return r.composite(v, typ)
	}
	return Value{}, r.fail(v, "the token has no $type, and no group around it gives one")
}

var strokeStyles = map[string]bool{"solid": true, "dashed": true, "dotted": true, "double": true, "groove": true,
	"ridge": true, "outset": true, "inset": true}

// ParseValue reads the JSON of a value of a type, as the format has it.
func ParseValue(json string, typ Type) (Value, error) {
	v, err := readJSON([]byte(json), "value")
	if err == nil {
		var out Value
		if out, err = (&reader{file: &File{Name: "value", src: []byte(json)}}).value(v, typ); err == nil {
			return out, nil
		}
	}
	return Value{}, fmt.Errorf("%s", err.Msg)
}

// alias reads "{group.token}"; ok is false for anything else.
func (r *reader) alias(v jsonValue) (Value, bool, *Error) {
	if l := v.raw; v.kind != '"' || len(l) < 4 || l[1] != '{' || l[len(l)-2] != '}' {
		return Value{}, false, nil
	}
	s, _ := text(v)
	if len(s) < 2 || s[0] != '{' || s[len(s)-1] != '}' { // what an escape stood for
		return Value{}, false, nil
	}
	name := strings.TrimSpace(s[1 : len(s)-1])
	if name == "" || strings.ContainsAny(name, "{}") {
		return Value{}, false, r.fail(v, "%s names no token; an alias is written {group.token}", s)
	}
	return Value{Alias: name}, true, nil
}

var weights = map[string]float64{"thin": 100, "hairline": 100, "extra-light": 200, "ultra-light": 200, "light": 300,
	"normal":  400,
	"regular": 400, "book": 400, "medium": 500, "semi-bold": 600, "demi-bold": 600, "bold": 700, "extra-bold": 800,
	"ultra-bold": 800, "black": 900, "heavy": 900, "extra-black": 950, "ultra-black": 950}

func weight(v jsonValue) (float64, bool) {
	if s, ok := text(v); ok {
		f, ok := weights[s]
		return f, ok
	}
	f, ok := number(v)
	return f, ok && f >= 1 && f <= 1000
}

func (r *reader) family(v jsonValue) (Value, *Error) {
	if s, ok := text(v); ok {
		return Value{Words: []string{s}}, nil
	}
	want := "a name or a list of names"
	if v.kind != '[' || len(v.kids) == 0 {
		return Value{}, r.wrong(v, FontFamily, want)
	}
	out, aliased := Value{}, false
	for i := range v.kids {
		e := v.kids[i].value
		one, isAlias, err := r.alias(e)
		if err != nil {
			return Value{}, err
		}
		if !isAlias {
			s, ok := text(e)
			if !ok {
				return Value{}, r.wrong(v, FontFamily, want)
			}
			one = Value{Words: []string{s}}
			out.Words = append(out.Words, s)
		}
		aliased = aliased || isAlias
		out.List = append(out.List, one)
	}
	if aliased {
		return Value{List: out.List}, nil
	}
	return Value{Words: out.Words}, nil
}

func (r *reader) bezier(v jsonValue) (Value, *Error) {
	want := "a list of four numbers, the first and third from 0 to 1,"
	if v.kind != '[' || len(v.kids) != 4 {
		return Value{}, r.wrong(v, CubicBezier, want)
	}
	var b [4]float64
	for i := range v.kids {
		f, ok := number(v.kids[i].value)
		if !ok || i%2 == 0 && (f < 0 || f > 1) {
			return Value{}, r.wrong(v, CubicBezier, want)
		}
		b[i] = f
	}
	return Value{Bezier: &b}, nil
}

// oldForm notes a value in a form that drafts of the format had, and what it is written as now. Each file is warned
// of once.
func (r *reader) oldForm(v jsonValue, what string, now Value) {
	r.mend(v, what+" as a text is an older form of the format", now.JSON())
}

// mend notes what is read though it is not quite right, and what is to stand there.
func (r *reader) mend(v jsonValue, what, json string) {
	f := r.file
	if len(f.old) == 0 {
		f.warnings = append(f.warnings,
			*r.fail(v, "%s; it is read. \"archetyp tokens check --fix\" brings the file up to date", what))
	}
	f.old = append(f.old, edit{v.start, v.end(), json})
}

// channels says for each colour space of the format what its components may be.
// https://www.designtokens.org/tr/2025.10/color/#supported-color-spaces
var channels = map[color.Space][3][2]float64{
	color.SRGB: {{0, 1}, {0, 1}, {0, 1}}, color.SRGBLinear: {{0, 1}, {0, 1}, {0, 1}}, color.DisplayP3: {{0, 1}, {0, 1},
		{0, 1}},
	color.A98RGB: {{0, 1}, {0, 1}, {0, 1}}, color.ProPhoto: {{0, 1}, {0, 1}, {0, 1}}, color.Rec2020: {{0, 1}, {0, 1},
		{0, 1}},
	color.XYZD65: {{0, 1}, {0, 1}, {0, 1}}, color.XYZD50: {{0, 1}, {0, 1}, {0, 1}},
	color.HSL: {hues, {0, 100}, {0, 100}}, color.HWB: {hues, {0, 100}, {0, 100}},
	color.Lab: {{0, 100}, any3, any3}, color.LCH: {{0, 100}, {0, math.Inf(1)}, hues},
	color.OKLab: {{0, 1}, any3, any3}, color.OKLCH: {{0, 1}, {0, math.Inf(1)}, hues},
}

var (
	hues = [2]float64{0, 360} // 360 itself left out
	any3 = [2]float64{math.Inf(-1), math.Inf(1)}
)

func (r *reader) color(v jsonValue) (Value, *Error) {
	if s, ok := text(v); ok {
		c, err := color.Parse(s)
		if err != nil {
			return Value{}, r.wrong(v, Color, "an object with colorSpace and components")
		}
		out := Value{Color: &c}
		r.oldForm(v, "a colour", out)
		return out, nil
	}
	if v.kind != '{' {
		return Value{}, r.wrong(v, Color, "an object with colorSpace and three components")
	}
	c, fallback := color.Color{Alpha: 1}, ""
	var components jsonValue
	for i := range v.kids {
		m := &v.kids[i]
		switch m.name {
		case "colorSpace":
			s, _ := text(m.value)
			c.Space = color.Space(s)
		case "components":
			components = m.value
		case "alpha":
			f, ok := number(m.value)
			if !ok || f < 0 || f > 1 {
				return Value{}, r.wrong(m.value, Color, "an alpha from 0 to 1")
			}
			c.Alpha = f
		case "hex":
			s, _ := text(m.value)
			if len(s) == 4 && sixDigits("#000"+s[1:]) {
				s = "#" + strings.Repeat(s[1:2], 2) + strings.Repeat(s[2:3], 2) + strings.Repeat(s[3:4], 2)
				r.mend(m.value, "a hex has six digits", quote(s))
			}
			if !sixDigits(s) {
				return Value{}, r.wrong(m.value, Color, "a hex of six digits such as #0b6e8f")
			}
			fallback = strings.ToLower(s)
		default:
			return Value{}, r.failAt(m.at, "%q is no part of a color", m.name)
		}
	}
	ranges, ok := channels[c.Space]
	if !ok {
		return Value{}, r.wrong(v, Color, "a colorSpace of the format (srgb, display-p3, oklch …)")
	}
	if components.kind != '[' || len(components.kids) != 3 {
		return Value{}, r.wrong(v, Color, "an object with three components")
	}
	for i := range components.kids {
		e := components.kids[i].value
		if s, ok := text(e); ok && s == "none" {
			c.None |= 1 << i
			continue
		}
		f, ok := number(e)
		if !ok {
			return Value{}, r.wrong(e, Color, `a number or "none" as a component`)
		}
		lo, hi := ranges[i][0], ranges[i][1]
		if f < lo || f > hi || ranges[i] == hues && f == 360 {
			return Value{}, r.fail(e, "%s is outside what this component of %s may be: %s", e.raw, c.Space,
				rangeWords(ranges[i]))
		}
		c.C[i] = f
	}
	return Value{Color: &c, Hex: fallback}, nil
}

func rangeWords(r [2]float64) string {
	switch {
	case r == hues:
		return "0 up to, but not, 360"
	case math.IsInf(r[1], 1):
		return num(r[0]) + " and more"
	}
	return num(r[0]) + " to " + num(r[1])
}

func sixDigits(s string) bool {
	if len(s) != 7 || s[0] != '#' {
		return false
	}
	for _, c := range s[1:] {
		if !(c >= '0' && c <= '9' || c >= 'a' && c <= 'f' || c >= 'A' && c <= 'F') {
			return false
		}
	}
	return true
}

func (r *reader) length(v jsonValue, typ Type, units ...string) (Value, *Error) {
	want := "an object with value and unit (" + strings.Join(units, " or ") + ")"
	if s, ok := text(v); ok {
		for _, u := range units {
			num, has := strings.CutSuffix(s, u)
			f, err := strconv.ParseFloat(num, 64)
			if has && err == nil && !math.IsInf(f, 0) && !math.IsNaN(f) {
				out := Value{Length: &Length{f, u}}
				r.oldForm(v, "a "+string(typ), out)
				return out, nil
			}
		}
		return Value{}, r.wrong(v, typ, want)
	}
	if v.kind != '{' {
		return Value{}, r.wrong(v, typ, want)
	}
	l, seen := Length{}, false
	for i := range v.kids {
		m := &v.kids[i]
		switch m.name {
		case "value":
			l.Value, seen = number(m.value)
		case "unit":
			l.Unit, _ = text(m.value)
		default:
			return Value{}, r.failAt(m.at, "%q is no part of a %s", m.name, typ)
		}
	}
	for _, u := range units {
		if seen && l.Unit == u {
			return Value{Length: &l}, nil
		}
	}
	return Value{}, r.wrong(v, typ, want)
}

// Kinds of parts that are no types.
const (
	flagPart Type = "boolean"
	dashPart Type = "dashes"
	capPart  Type = "cap"
)

// parts are the members of composite values and their types.
var parts = map[Type]map[string]Type{
	Typography: {"fontFamily": FontFamily, "fontSize": Dimension, "fontWeight": FontWeight, "letterSpacing": Dimension,
		"lineHeight": Number},
	Border:     {"color": Color, "width": Dimension, "style": StrokeStyle},
	Transition: {"duration": Duration, "delay": Duration, "timingFunction": CubicBezier},
	Shadow: {"color": Color, "offsetX": Dimension, "offsetY": Dimension, "blur": Dimension, "spread": Dimension,
		"inset": flagPart},
	Gradient:    {"color": Color, "position": Number},
	StrokeStyle: {"dashArray": dashPart, "lineCap": capPart},
}

// partType is the type of a part of a composite value; "" for none.
func partType(typ Type, name string) Type {
	switch t := parts[typ][name]; t {
	case flagPart, dashPart, capPart:
		return ""
	default:
		return t
	}
}

func (r *reader) composite(v jsonValue, typ Type) (Value, *Error) {
	if v.kind != '{' {
		return Value{}, r.wrong(v, typ, "an object")
	}
	out := Value{Parts: make(map[string]Value, len(v.kids))}
	for i := range v.kids {
		m := &v.kids[i]
		name := m.name
		pt, ok := parts[typ][name]
		if !ok {
			return Value{}, r.failAt(m.at, "%q is no part of a %s", name, typ)
		}
		if _, twice := out.Parts[name]; twice {
			return Value{}, r.failAt(m.at, "%q stands twice", name)
		}
		part, err := r.part(m.value, name, pt)
		if err != nil {
			return Value{}, err
		}
		out.Parts[name] = part
	}
	for _, name := range partOrder {
		if _, wanted := parts[typ][name]; !wanted || name == "inset" {
			continue
		}
		if _, has := out.Parts[name]; !has {
			return Value{}, r.wrong(v, typ, "an object with "+name)
		}
	}
	return out, nil
}

func (r *reader) part(v jsonValue, name string, pt Type) (Value, *Error) {
	switch pt {
	case flagPart:
		if v.kind != 't' && v.kind != 'f' {
			return Value{}, r.fail(v, "%s is true or false", name)
		}
		b := v.kind == 't'
		return Value{Boolean: &b}, nil
	case capPart:
		s, _ := text(v)
		if s != "round" && s != "butt" && s != "square" {
			return Value{}, r.fail(v, "lineCap is round, butt or square")
		}
		return Value{Words: []string{s}}, nil
	case dashPart:
		if v.kind != '[' || len(v.kids) == 0 {
			return Value{}, r.fail(v, "dashArray is a list of dimensions")
		}
		var out Value
		for i := range v.kids {
			d, err := r.value(v.kids[i].value, Dimension)
			if err != nil {
				return Value{}, err
			}
			out.List = append(out.List, d)
		}
		return out, nil
	}
	return r.value(v, pt)
}

func (r *reader) list(v jsonValue, typ Type) (Value, *Error) {
	if v.kind != '[' {
		if typ == Gradient {
			return Value{}, r.wrong(v, typ, "a list of stops")
		}
		one, err := r.composite(v, typ)
		return Value{List: []Value{one}}, err
	}
	if len(v.kids) == 0 {
		return Value{}, r.wrong(v, typ, "a list with something in it")
	}
	out := Value{List: make([]Value, 0, len(v.kids))}
	for i := range v.kids {
		e := v.kids[i].value
		one, ok, err := r.alias(e)
		if err == nil && !ok {
			one, err = r.composite(e, typ)
		}
		if err != nil {
			return Value{}, err
		}
		if p := one.Parts["position"]; p.Number != nil { // read as if it were inside
			clamped := min(1, max(0, *p.Number))
			one.Parts["position"] = Value{Number: &clamped}
		}
		out.List = append(out.List, one)
	}
	return out, nil
}
