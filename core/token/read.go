package token

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"unicode/utf8"

	"archetyp/core/color"
	"archetyp/core/markup"

	"github.com/tailscale/hujson"
)

// Extension is the key of ours under $extensions: {"angle": degrees, "kind": "linear" or "radial"} for a gradient,
// for which the format has no place.
const Extension = "archetyp"

// MaxNesting is how deep groups may lie in one another.
const MaxNesting = 64

// Parse reads one token file. file names it in errors, which are *Error.
func Parse(data []byte, file string) (tokens []*Token, warnings []Error, err error) {
	r := &reader{src: data, file: file}
	if !utf8.Valid(data) {
		return nil, nil, r.fail(0, "", "not valid UTF-8; save the file as UTF-8")
	}
	if depth(data) > MaxNesting {
		return nil, nil, r.fail(0, "", fmt.Sprintf("groups more than %d deep are not read", MaxNesting))
	}
	v, perr := hujson.Parse(data)
	if perr != nil {
		line, col := 1, 1
		msg := perr.Error()
		if n, _ := fmt.Sscanf(msg, "hujson: line %d, column %d:", &line, &col); n == 2 {
			_, msg, _ = strings.Cut(msg, ": ")
			_, msg, _ = strings.Cut(msg, ": ")
		}
		return nil, nil, &Error{file, markup.Position{Line: line, Column: col}, "", "not valid JSON: " + msg}
	}
	if !v.IsStandard() {
		return nil, nil, r.fail(0, "", "comments and trailing commas are no JSON; take them out")
	}
	obj, ok := v.Value.(*hujson.Object)
	if !ok {
		return nil, nil, r.fail(v.StartOffset, "", "a token file is a JSON object")
	}
	if err := r.group(obj, "", ""); err != nil {
		return nil, nil, err
	}
	return r.tokens, r.warnings, nil
}

// depth is the deepest nesting of brackets outside strings.
func depth(data []byte) int {
	d, most, inString := 0, 0, false
	for i := 0; i < len(data); i++ {
		switch c := data[i]; {
		case inString && c == '\\':
			i++
		case c == '"':
			inString = !inString
		case inString:
		case c == '{' || c == '[':
			d++
			most = max(most, d)
		case c == '}' || c == ']':
			d--
		}
	}
	return most
}

type reader struct {
	src      []byte
	file     string
	tokens   []*Token
	warnings []Error
	lines    *markup.LineIndex
	old      bool // told of old string values already
}

func (r *reader) at(offset int) markup.Position {
	if r.lines == nil {
		r.lines = markup.Lines(r.src)
	}
	return r.lines.Position(offset)
}

func (r *reader) fail(offset int, path, msg string) error {
	return &Error{r.file, r.at(offset), path, msg}
}

func join(path, name string) string {
	if path == "" {
		return name
	}
	return path + "." + name
}

// group reads the members of a group; typ is the $type it inherits.
func (r *reader) group(obj *hujson.Object, path string, typ Type) error {
	if t, ok := member(obj, "$type"); ok {
		s, isText := text(t)
		if !isText || !known(Type(s)) {
			return r.fail(t.StartOffset, path, fmt.Sprintf("the type %s is not known", t.Pack()))
		}
		typ = Type(s)
	}
	seen := map[string]bool{}
	for _, m := range obj.Members {
		name, _ := text(m.Name)
		at := m.Name.StartOffset
		if seen[name] {
			return r.fail(at, path, fmt.Sprintf("%q stands twice in this group", name))
		}
		seen[name] = true
		if strings.HasPrefix(name, "$") && name != "$root" {
			switch name {
			case "$type", "$description", "$extensions", "$deprecated", "$schema", "$extends":
				continue
			}
			return r.fail(at, path, fmt.Sprintf("%q is not known to the format", name))
		}
		if name == "" || strings.ContainsAny(name, "{}.") {
			return r.fail(at, path, fmt.Sprintf("%q cannot be a name: names hold no braces and no dots", name))
		}
		child, ok := m.Value.Value.(*hujson.Object)
		if !ok {
			return r.fail(m.Value.StartOffset, join(path, name), "a token or a group is a JSON object")
		}
		if _, isToken := member(child, "$value"); isToken {
			if err := r.token(child, join(path, name), typ, at); err != nil {
				return err
			}
			continue
		}
		if err := r.group(child, join(path, name), typ); err != nil {
			return err
		}
	}
	return nil
}

func member(obj *hujson.Object, name string) (hujson.Value, bool) {
	for _, m := range obj.Members {
		if s, ok := text(m.Name); ok && s == name {
			return m.Value, true
		}
	}
	return hujson.Value{}, false
}

func text(v hujson.Value) (string, bool) {
	l, ok := v.Value.(hujson.Literal)
	if !ok || l.Kind() != '"' {
		return "", false
	}
	return l.String(), true
}

func number(v hujson.Value) (float64, bool) {
	l, ok := v.Value.(hujson.Literal)
	if !ok || l.Kind() != '0' {
		return 0, false
	}
	f := l.Float()
	return f, !math.IsInf(f, 0) && !math.IsNaN(f)
}

func known(t Type) bool {
	switch t {
	case Color, Dimension, FontFamily, FontWeight, Duration, CubicBezier, Number, StrokeStyle, Border, Transition, Shadow, Gradient, Typography:
		return true
	}
	return false
}

func (r *reader) token(obj *hujson.Object, path string, typ Type, at int) error {
	t := &Token{Path: path, Type: typ, File: r.file, Position: r.at(at)}
	for _, m := range obj.Members {
		name, _ := text(m.Name)
		switch name {
		case "$type":
			s, _ := text(m.Value)
			if !known(Type(s)) {
				return r.fail(m.Value.StartOffset, path, fmt.Sprintf("the type %s is not known", m.Value.Pack()))
			}
			t.Type = Type(s)
		case "$description":
			t.Description, _ = text(m.Value)
		case "$deprecated":
			l, ok := m.Value.Value.(hujson.Literal)
			t.Deprecated = ok && l.Kind() != 'f'
		case "$extensions":
			r.extensions(t, m.Value)
		case "$value":
		default:
			return r.fail(m.Name.StartOffset, path, fmt.Sprintf("%q cannot stand in a token", name))
		}
	}
	v, _ := member(obj, "$value")
	if s, isText := text(v); t.Type == "" && !(isText && strings.HasPrefix(s, "{")) {
		return r.fail(v.StartOffset, path, "the token has no $type, and no group around it gives one")
	}
	val, err := r.value(v, t.Type, path)
	if err != nil {
		return err
	}
	t.Value = val
	r.tokens = append(r.tokens, t)
	return nil
}

func (r *reader) extensions(t *Token, v hujson.Value) {
	var ext map[string]json.RawMessage
	var ours struct {
		Angle *float64 `json:"angle"`
		Kind  string   `json:"kind"`
	}
	if json.Unmarshal(v.Pack(), &ext) == nil && json.Unmarshal(ext[Extension], &ours) == nil {
		t.Angle, t.Radial = ours.Angle, ours.Kind == "radial"
	}
}

// value reads a value of a type; "" where only an alias can stand.
func (r *reader) value(v hujson.Value, typ Type, path string) (Value, error) {
	if a, ok, err := r.alias(v, path); ok || err != nil {
		return a, err
	}
	wrong := func(want string) (Value, error) {
		got := string(v.Pack())
		if len(got) > 60 {
			got = got[:60] + "…"
		}
		return Value{}, r.fail(v.StartOffset, path, fmt.Sprintf("%s is no %s: %s is wanted", strings.TrimSpace(got), typ, want))
	}
	if obj, ok := v.Value.(*hujson.Object); ok {
		if _, ref := member(obj, "$ref"); ref {
			return Value{}, r.fail(v.StartOffset, path, "$ref is not read; write an alias such as {color.sea}")
		}
	}
	switch typ {
	case Color:
		return r.color(v, path, wrong)
	case Dimension:
		return r.length(v, wrong, "px", "rem")
	case Duration:
		return r.length(v, wrong, "ms", "s")
	case Number:
		if f, ok := number(v); ok {
			return Value{Number: &f}, nil
		}
		return wrong("a number")
	case FontWeight:
		if f, ok := weight(v); ok {
			return Value{Number: &f}, nil
		}
		return wrong("a number from 1 to 1000 or a name such as bold")
	case FontFamily:
		if s, ok := text(v); ok {
			return Value{Words: []string{s}}, nil
		}
		var list []string
		if arr, ok := v.Value.(*hujson.Array); ok && len(arr.Elements) > 0 && json.Unmarshal(v.Pack(), &list) == nil {
			return Value{Words: list}, nil
		}
		return wrong("a name or a list of names")
	case CubicBezier:
		var b [4]float64
		if arr, ok := v.Value.(*hujson.Array); ok && len(arr.Elements) == 4 && json.Unmarshal(v.Pack(), &b) == nil && b[0] >= 0 && b[0] <= 1 && b[2] >= 0 && b[2] <= 1 {
			return Value{Bezier: &b}, nil
		}
		return wrong("four numbers, the first and third from 0 to 1,")
	case Shadow:
		return r.list(v, path, Shadow, wrong)
	case Gradient:
		return r.list(v, path, Gradient, wrong)
	case StrokeStyle:
		if s, ok := text(v); ok {
			return Value{Words: []string{s}}, nil
		}
		return r.composite(v, path, StrokeStyle, wrong)
	case Typography, Border, Transition:
		return r.composite(v, path, typ, wrong)
	}
	return wrong("a $type")
}

// alias reads "{group.token}"; ok is false for anything else.
func (r *reader) alias(v hujson.Value, path string) (Value, bool, error) {
	s, ok := text(v)
	if !ok || !strings.HasPrefix(s, "{") || !strings.HasSuffix(s, "}") {
		return Value{}, false, nil
	}
	name := strings.TrimSpace(s[1 : len(s)-1])
	if name == "" || strings.ContainsAny(name, "{}") {
		return Value{}, false, r.fail(v.StartOffset, path, s+" names no token; an alias is written {group.token}")
	}
	return Value{Alias: name}, true, nil
}

var weights = map[string]float64{"thin": 100, "hairline": 100, "extra-light": 200, "ultra-light": 200, "light": 300, "normal": 400,
	"regular": 400, "book": 400, "medium": 500, "semi-bold": 600, "demi-bold": 600, "bold": 700, "extra-bold": 800,
	"ultra-bold": 800, "black": 900, "heavy": 900, "extra-black": 950, "ultra-black": 950}

func weight(v hujson.Value) (float64, bool) {
	if s, ok := text(v); ok {
		f, ok := weights[s]
		return f, ok
	}
	f, ok := number(v)
	return f, ok && f >= 1 && f <= 1000
}

func (r *reader) oldForm(v hujson.Value, path, what string) {
	if !r.old {
		r.old = true
		r.warnings = append(r.warnings, Error{r.file, r.at(v.StartOffset), path, what + " as a string is an older form of the format; it is read, and written as an object"})
	}
}

func (r *reader) color(v hujson.Value, path string, wrong func(string) (Value, error)) (Value, error) {
	if s, ok := text(v); ok {
		c, err := color.Parse(s)
		if err != nil {
			return wrong("an object with colorSpace and components")
		}
		r.oldForm(v, path, "a colour")
		return Value{Color: &c}, nil
	}
	var raw struct {
		Space      string            `json:"colorSpace"`
		Components []json.RawMessage `json:"components"`
		Alpha      *json.RawMessage  `json:"alpha"`
		Hex        string            `json:"hex"`
	}
	if _, ok := v.Value.(*hujson.Object); !ok || json.Unmarshal(v.Pack(), &raw) != nil || len(raw.Components) != 3 {
		return wrong("an object with colorSpace and three components")
	}
	c := color.Color{Space: color.Space(raw.Space), Alpha: 1}
	switch c.Space {
	case color.SRGB, color.SRGBLinear, color.DisplayP3, color.A98RGB, color.ProPhoto, color.Rec2020, color.XYZD65, color.XYZD50,
		color.Lab, color.LCH, color.OKLab, color.OKLCH, color.HSL, color.HWB:
	default:
		return wrong("a colorSpace of the format (srgb, display-p3, oklch …)")
	}
	part := func(m json.RawMessage, i int) (float64, bool) {
		if string(m) == `"none"` {
			c.None |= 1 << i
			return 0, true
		}
		var f float64
		return f, json.Unmarshal(m, &f) == nil
	}
	ok := true
	for i, m := range raw.Components {
		var good bool
		c.C[i], good = part(m, i)
		ok = ok && good
	}
	if raw.Alpha != nil {
		var good bool
		c.Alpha, good = part(*raw.Alpha, 3)
		ok = ok && good && c.Alpha >= 0 && c.Alpha <= 1
	}
	if !ok {
		return wrong(`numbers or "none" as components and an alpha from 0 to 1`)
	}
	return Value{Color: &c}, nil
}

func (r *reader) length(v hujson.Value, wrong func(string) (Value, error), units ...string) (Value, error) {
	want := "an object with value and unit (" + strings.Join(units, " or ") + ")"
	var l Length
	if s, ok := text(v); ok {
		for _, u := range units {
			var f float64
			if num, has := strings.CutSuffix(s, u); has && json.Unmarshal([]byte(num), &f) == nil {
				r.oldForm(v, "", "a length")
				return Value{Length: &Length{f, u}}, nil
			}
		}
		return wrong(want)
	}
	var raw struct {
		Value *float64 `json:"value"`
		Unit  string   `json:"unit"`
	}
	if _, ok := v.Value.(*hujson.Object); !ok || json.Unmarshal(v.Pack(), &raw) != nil || raw.Value == nil {
		return wrong(want)
	}
	l = Length{*raw.Value, raw.Unit}
	for _, u := range units {
		if l.Unit == u {
			return Value{Length: &l}, nil
		}
	}
	return wrong(want)
}

// parts are the members of composite values and their types.
var parts = map[Type]map[string]Type{
	Typography:  {"fontFamily": FontFamily, "fontSize": Dimension, "fontWeight": FontWeight, "letterSpacing": Dimension, "lineHeight": Number},
	Border:      {"color": Color, "width": Dimension, "style": StrokeStyle},
	Transition:  {"duration": Duration, "delay": Duration, "timingFunction": CubicBezier},
	Shadow:      {"color": Color, "offsetX": Dimension, "offsetY": Dimension, "blur": Dimension, "spread": Dimension, "inset": "boolean"},
	Gradient:    {"color": Color, "position": Number},
	StrokeStyle: {"dashArray": "dashes", "lineCap": "cap"},
}

func (r *reader) composite(v hujson.Value, path string, typ Type, wrong func(string) (Value, error)) (Value, error) {
	obj, ok := v.Value.(*hujson.Object)
	if !ok {
		return wrong("an object")
	}
	out := Value{Parts: map[string]Value{}}
	for _, m := range obj.Members {
		name, _ := text(m.Name)
		pt, ok := parts[typ][name]
		if !ok {
			return Value{}, r.fail(m.Name.StartOffset, path, fmt.Sprintf("%q is no part of a %s", name, typ))
		}
		var part Value
		var err error
		switch pt {
		case "boolean":
			l, isLiteral := m.Value.Value.(hujson.Literal)
			if !isLiteral || l.Kind() != 't' && l.Kind() != 'f' {
				return Value{}, r.fail(m.Value.StartOffset, path, name+" is true or false")
			}
			b := l.Kind() == 't'
			part = Value{Boolean: &b}
		case "cap":
			s, _ := text(m.Value)
			part = Value{Words: []string{s}}
		case "dashes":
			arr, isList := m.Value.Value.(*hujson.Array)
			if !isList {
				return wrong("a dashArray that is a list")
			}
			for _, e := range arr.Elements {
				d, err := r.value(e, Dimension, path)
				if err != nil {
					return Value{}, err
				}
				part.List = append(part.List, d)
			}
		default:
			part, err = r.value(m.Value, pt, path)
		}
		if err != nil {
			return Value{}, err
		}
		out.Parts[name] = part
	}
	for name := range parts[typ] {
		if _, has := out.Parts[name]; !has && name != "inset" {
			if typ == Transition && name == "delay" {
				continue
			}
			return wrong("an object with " + name)
		}
	}
	return out, nil
}

func (r *reader) list(v hujson.Value, path string, typ Type, wrong func(string) (Value, error)) (Value, error) {
	arr, ok := v.Value.(*hujson.Array)
	if !ok {
		if typ == Gradient {
			return wrong("a list of stops")
		}
		one, err := r.composite(v, path, typ, wrong)
		return Value{List: []Value{one}}, err
	}
	var out Value
	for _, e := range arr.Elements {
		if a, ok, err := r.alias(e, path); err != nil {
			return Value{}, err
		} else if ok {
			out.List = append(out.List, a)
			continue
		}
		one, err := r.composite(e, path, typ, wrong)
		if err != nil {
			return Value{}, err
		}
		out.List = append(out.List, one)
	}
	if len(out.List) == 0 {
		return wrong("a list with something in it")
	}
	return out, nil
}
