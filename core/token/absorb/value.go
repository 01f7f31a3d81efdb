package absorb

import (
	"errors"
	"fmt"
	"math"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/token"
)

// values reads values as generated files write them.
type values struct {
	set  *token.Set
	refs func(text string) (path string, ok bool) // a whole reference such as var(--color-sea)
	root float64                                  // px of 1rem
}

// parsed is a value that was read, with what the token format has no place for.
type parsed struct {
	Type  token.Type
	Value token.Value
	Own   token.Own
}

func bad(text, what string) error { return fmt.Errorf("%q is no %s", text, what) }

// fields splits at blanks outside of parentheses and quotes.
func fields(s string) []string {
	s = strings.NewReplacer("\n", " ", "\t", " ", " / ", "/").Replace(s)
	var out []string
	for _, f := range css.SplitTop(s, ' ') {
		if f = strings.TrimSpace(f); f != "" {
			out = append(out, f)
		}
	}
	return out
}

// read reads a value of a type. like is what the token says now; lengths keep its units where they can.
func (r *values) read(text string, typ token.Type, like token.Value) (parsed, error) {
	text = strings.TrimSpace(text)
	out := parsed{Type: typ}
	if text == "" {
		return out, errors.New("there is no value")
	}
	if path, ok := r.refs(text); ok {
		if t := r.set.Get(path); t != nil && t.Type != typ {
			return out, fmt.Errorf("{%s} is a %s, where a %s is wanted", path, t.Type, typ)
		}
		out.Value = token.Value{Alias: path}
		return out, nil
	}
	var err error
	switch typ {
	case token.Color, token.Dimension, token.Duration, token.Number, token.FontWeight, token.FontFamily, token.CubicBezier,
		token.StrokeStyle:
		out.Value, err = r.single(text, typ, like)
		if typ == token.Number && err != nil { // kept as it is written, for a unit the format lacks
			if l, lerr := css.ParseLength(text); lerr == nil && l.Unit != "" {
				out.Value, out.Own.Written, err = token.Value{Number: &l.Value}, map[string]string{"": text}, nil
				if l.Unit == "%" {
					v := l.Value / 100
					out.Value.Number = &v
				}
			}
		}
	case token.Shadow:
		out.Value, err = r.shadow(text, like)
	case token.Gradient:
		out.Value, out.Own, err = r.gradient(text, like)
	case token.Border:
		out.Value, err = r.border(text, like)
	case token.Transition:
		out.Value, err = r.transition(text, like)
	case token.Typography:
		out.Value, out.Own, err = r.font(text, like)
	default:
		err = bad(text, string(typ))
	}
	return out, err
}

// part reads a part of a composite value, which may be a reference.
func (r *values) part(text string, typ token.Type, like token.Value) (token.Value, error) {
	if path, ok := r.refs(text); ok {
		return token.Value{Alias: path}, nil
	}
	return r.single(text, typ, r.set.ResolvePart(like))
}

func (r *values) single(text string, typ token.Type, like token.Value) (token.Value, error) {
	switch typ {
	case token.Color:
		c, err := color.Parse(text)
		if err != nil {
			return token.Value{}, bad(text, "colour")
		}
		return token.Value{Color: &c}, nil
	case token.Dimension:
		l, err := css.ParseLength(text)
		if err != nil || l.Unit != "px" && l.Unit != "rem" && !(l.Unit == "" && l.Value == 0) {
			return token.Value{}, fmt.Errorf("%q is no length in px or rem, the units the token format has", text)
		}
		return token.Value{Length: r.length(l, like)}, nil
	case token.Duration:
		return r.duration(text, like)
	case token.Number, token.FontWeight:
		if w, ok := map[string]float64{"normal": 400, "bold": 700}[text]; ok && typ == token.FontWeight {
			return token.Value{Number: &w}, nil
		}
		l, err := css.ParseLength(text)
		if err != nil || l.Unit != "" || typ == token.FontWeight && (l.Value < 1 || l.Value > 1000) {
			return token.Value{}, bad(text, "number")
		}
		return token.Value{Number: &l.Value}, nil
	case token.FontFamily:
		return r.families(text)
	case token.CubicBezier:
		return curve(text)
	case token.StrokeStyle:
		switch text {
		case "solid", "dashed", "dotted", "double", "groove", "ridge", "outset", "inset":
			return token.Value{Words: []string{text}}, nil
		}
		return token.Value{}, bad(text, "stroke style")
	}
	return token.Value{}, bad(text, string(typ))
}

// length keeps the unit that the token has now where the file's is only the output's: 1.5rem for 24px.
func (r *values) length(l css.Length, like token.Value) *token.Length {
	unit := l.Unit
	if unit == "" {
		unit = "px"
	}
	if like.Length == nil || like.Length.Unit == unit {
		return &token.Length{Value: l.Value, Unit: unit}
	}
	switch {
	case l.Value == 0:
		return &token.Length{Value: 0, Unit: like.Length.Unit}
	case unit == "rem" && like.Length.Unit == "px":
		return &token.Length{Value: tidy(l.Value * r.root), Unit: "px"}
	case unit == "px" && like.Length.Unit == "rem":
		return &token.Length{Value: tidy(l.Value / r.root), Unit: "rem"}
	}
	return &token.Length{Value: l.Value, Unit: unit}
}

// tidy takes back what six decimals of another unit have rounded.
func tidy(v float64) float64 { return math.Round(v*1e4) / 1e4 }

func (r *values) duration(text string, like token.Value) (token.Value, error) {
	for _, unit := range []string{"ms", "s"} {
		if num, ok := strings.CutSuffix(text, unit); ok {
			l, err := css.ParseLength(num)
			if err != nil || l.Unit != "" {
				break
			}
			if like.Length != nil && like.Length.Unit != unit && l.Value == 0 {
				unit = like.Length.Unit
			}
			return token.Value{Length: &token.Length{Value: l.Value, Unit: unit}}, nil
		}
	}
	return token.Value{}, bad(text, "duration in ms or s")
}

func (r *values) families(text string) (token.Value, error) {
	var out token.Value
	aliased := false
	for _, f := range css.SplitTop(text, ',') {
		f = strings.TrimSpace(f)
		if path, ok := r.refs(f); ok {
			aliased = true
			out.List = append(out.List, token.Value{Alias: path})
			continue
		}
		name := css.Unquote(f)
		if name == "" || strings.ContainsAny(name, "(){};/") || name == f && !plainName(f) {
			return token.Value{}, bad(text, "list of font families")
		}
		out.Words = append(out.Words, name)
		out.List = append(out.List, token.Value{Words: []string{name}})
	}
	if aliased {
		if len(out.List) == 1 {
			return out.List[0], nil
		}
		return token.Value{List: out.List}, nil
	}
	return token.Value{Words: out.Words}, nil
}

// plainName reports whether a family may stand without quotes: names beginning with letters, apart by blanks.
func plainName(s string) bool {
	for _, w := range strings.Fields(s) {
		if c := w[0]; !(c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c == '-' || c == '_' || c >= 0x80) {
			return false
		}
	}
	return true
}

var keywords = map[string][4]float64{"linear": {0, 0, 1, 1}, "ease": {0.25, 0.1, 0.25, 1}, "ease-in": {0.42, 0, 1, 1},
	"ease-out": {0, 0, 0.58, 1}, "ease-in-out": {0.42, 0, 0.58, 1}}

func curve(text string) (token.Value, error) {
	if b, ok := keywords[text]; ok {
		return token.Value{Bezier: &b}, nil
	}
	inner, ok := strings.CutPrefix(text, "cubic-bezier(")
	parts := css.SplitTop(strings.TrimSuffix(inner, ")"), ',')
	if !ok || !strings.HasSuffix(text, ")") || len(parts) != 4 {
		return token.Value{}, bad(text, "curve")
	}
	var b [4]float64
	for i, p := range parts {
		l, err := css.ParseLength(strings.TrimSpace(p))
		if err != nil || l.Unit != "" || i%2 == 0 && (l.Value < 0 || l.Value > 1) {
			return token.Value{}, bad(text, "curve")
		}
		b[i] = l.Value
	}
	return token.Value{Bezier: &b}, nil
}

// likeList is the item of a list that a new item is held against.
func likeList(like token.Value, i int) token.Value {
	if i < len(like.List) {
		return like.List[i]
	}
	return token.Value{}
}

func (r *values) shadow(text string, like token.Value) (token.Value, error) {
	var out token.Value
	for i, layer := range css.SplitTop(text, ',') {
		layer = strings.TrimSpace(layer)
		if path, ok := r.refs(layer); ok {
			out.List = append(out.List, token.Value{Alias: path})
			continue
		}
		one, err := r.layer(layer, likeList(like, i))
		if err != nil {
			return token.Value{}, err
		}
		out.List = append(out.List, one)
	}
	return out, nil
}

func (r *values) layer(text string, like token.Value) (token.Value, error) {
	out := token.Value{Parts: map[string]token.Value{}}
	var lengths []token.Value
	names := []string{"offsetX", "offsetY", "blur", "spread"}
	for _, f := range fields(text) {
		if f == "inset" {
			yes := true
			out.Parts["inset"] = token.Value{Boolean: &yes}
			continue
		}
		var v token.Value
		var err error
		if len(lengths) < 4 {
			v, err = r.part(f, token.Dimension, like.Parts[names[len(lengths)]])
		}
		if len(lengths) < 4 && err == nil && (v.Alias == "" || r.isType(v.Alias, token.Dimension)) {
			lengths = append(lengths, v)
			continue
		}
		if v, err = r.part(f, token.Color, token.Value{}); err != nil {
			return token.Value{}, bad(text, "shadow")
		}
		out.Parts["color"] = v
	}
	if _, colored := out.Parts["color"]; !colored || len(lengths) < 2 {
		return token.Value{}, bad(text, "shadow with a colour")
	}
	for i, name := range names {
		out.Parts[name] = token.Value{Length: r.length(css.Length{}, r.set.ResolvePart(like.Parts[name]))}
		if i < len(lengths) {
			out.Parts[name] = lengths[i]
		}
	}
	return out, nil
}

func (r *values) isType(path string, typ token.Type) bool {
	t := r.set.Get(path)
	return t != nil && t.Type == typ
}

func (r *values) border(text string, like token.Value) (token.Value, error) {
	out := token.Value{Parts: map[string]token.Value{}}
	for _, f := range fields(text) {
		found := false
		for _, try := range []struct {
			name string
			typ  token.Type
		}{{"width", token.Dimension}, {"style", token.StrokeStyle}, {"color", token.Color}} {
			v, err := r.part(f, try.typ, like.Parts[try.name])
			if _, has := out.Parts[try.name]; err == nil && !has && (v.Alias == "" || r.isType(v.Alias, try.typ)) {
				out.Parts[try.name], found = v, true
				break
			}
		}
		if !found {
			return token.Value{}, bad(text, "border")
		}
	}
	if len(out.Parts) != 3 {
		return token.Value{}, bad(text, "border with width, style and colour")
	}
	return out, nil
}

func (r *values) transition(text string, like token.Value) (token.Value, error) {
	out := token.Value{Parts: map[string]token.Value{}}
	times := []string{"duration", "delay"}
	for _, f := range fields(text) {
		if len(times) > 0 {
			v, err := r.part(f, token.Duration, like.Parts[times[0]])
			if err == nil && (v.Alias == "" || r.isType(v.Alias, token.Duration)) {
				out.Parts[times[0]] = v
				times = times[1:]
				continue
			}
		}
		v, err := r.part(f, token.CubicBezier, token.Value{})
		if _, has := out.Parts["timingFunction"]; err != nil || has {
			return token.Value{}, bad(text, "transition")
		}
		out.Parts["timingFunction"] = v
	}
	if len(times) == 1 {
		out.Parts["delay"] = token.Value{Length: &token.Length{Value: 0, Unit: "ms"}}
	}
	if _, has := out.Parts["timingFunction"]; !has && len(times) < 2 {
		ease := keywords["ease"]
		out.Parts["timingFunction"] = token.Value{Bezier: &ease}
	}
	if len(out.Parts) != 3 {
		return token.Value{}, bad(text, "transition")
	}
	return out, nil
}

// font reads a font shorthand: weight, size and line height, family.
func (r *values) font(text string, like token.Value) (token.Value, token.Own, error) {
	var own token.Own
	fail := func() (token.Value, token.Own, error) { return token.Value{}, own, bad(text, "font shorthand") }
	list := fields(text)
	normal, zero := 400.0, token.Value{Length: &token.Length{Value: 0, Unit: "px"}}
	out := token.Value{Parts: map[string]token.Value{"fontWeight": {Number: &normal}, "letterSpacing": zero}}
	for i, f := range list {
		halves := css.SplitTop(f, '/')
		size, err := r.part(halves[0], token.Dimension, like.Parts["fontSize"])
		if err == nil && (size.Alias == "" || r.isType(size.Alias, token.Dimension)) && !(i == 0 && len(list) > 1 &&
			isWeight(halves[0])) {
			out.Parts["fontSize"] = size
			if len(halves) != 2 || i == len(list)-1 {
				return fail()
			}
			if err := r.line(out, &own, halves[1]); err != nil {
				return token.Value{}, own, err
			}
			rest := strings.Join(list[i+1:], " ")
			if out.Parts["fontFamily"], err = r.part(rest, token.FontFamily, token.Value{}); err != nil {
				return token.Value{}, own, err
			}
			return out, own, nil
		}
		if f == "normal" {
			continue
		}
		w, err := r.part(f, token.FontWeight, token.Value{})
		if err != nil {
			return fail()
		}
		out.Parts["fontWeight"] = w
	}
	return fail()
}

func isWeight(s string) bool {
	l, err := css.ParseLength(s)
	return err == nil && l.Unit == "" && l.Value >= 1
}

// line reads a line height; one with a unit becomes a number, and where that is not exact is kept as written, too.
func (r *values) line(out token.Value, own *token.Own, text string) error {
	v, err := r.part(text, token.Number, token.Value{})
	if err == nil {
		out.Parts["lineHeight"] = v
		return nil
	}
	l, lerr := css.ParseLength(text)
	size := r.set.ResolvePart(out.Parts["fontSize"])
	if lerr != nil || size.Length == nil || size.Length.Value == 0 {
		return bad(text, "line height")
	}
	em := size.Length.Px(r.root)
	ratio := l.Px(css.Units{Em: em, Rem: r.root, Percent: em}) / em
	rounded := math.Round(ratio*1e4) / 1e4
	out.Parts["lineHeight"] = token.Value{Number: &rounded}
	if math.Abs(rounded-ratio) > 1e-9 || out.Parts["fontSize"].Alias != "" && l.Unit != "em" && l.Unit != "%" {
		written(own, "lineHeight", text)
	}
	return nil
}

func written(own *token.Own, part, text string) {
	if own.Written == nil {
		own.Written = map[string]string{}
	}
	own.Written[part] = text
}

// spacing reads a letter spacing into a typography value.
func (r *values) spacing(out token.Value, own *token.Own, text string, like token.Value) error {
	delete(own.Written, "letterSpacing")
	if text == "normal" {
		text = "0"
	}
	v, err := r.part(text, token.Dimension, like)
	if err == nil {
		out.Parts["letterSpacing"] = v
		return nil
	}
	l, lerr := css.ParseLength(text)
	size := r.set.ResolvePart(out.Parts["fontSize"])
	if lerr != nil || size.Length == nil {
		return bad(text, "letter spacing")
	}
	em := size.Length.Px(r.root)
	px := l.Px(css.Units{Em: em, Rem: r.root, Percent: em})
	rounded := math.Round(px*1e4) / 1e4
	out.Parts["letterSpacing"] = token.Value{Length: &token.Length{Value: rounded, Unit: "px"}}
	if math.Abs(rounded-px) > 1e-9 || out.Parts["fontSize"].Alias != "" {
		written(own, "letterSpacing", text)
	}
	return nil
}

// Text reads a value as people type it: {another.token}, CSS, or the JSON of the format. typ may be "", which takes
// what the value looks like under the name of its path; like is the value the token has now.
func Text(set *token.Set, path, text string, typ token.Type, like token.Value) (token.Type, token.Value, token.Own,
	error) {
	text = strings.TrimSpace(text)
	if inner, ok := strings.CutPrefix(text, "{"); ok && !strings.HasPrefix(strings.TrimSpace(inner), `"`) {
		to := strings.TrimSpace(strings.TrimSuffix(inner, "}"))
		t := set.Get(to)
		if t == nil {
			return typ, token.Value{}, token.Own{}, fmt.Errorf("there is no token {%s}", to)
		}
		return t.Type, token.Value{Alias: to}, token.Own{}, nil
	}
	if strings.HasPrefix(text, `{`) || strings.HasPrefix(text, "[") && typ != "" {
		v, err := token.ParseValue(text, typ)
		return typ, v, token.Own{}, err
	}
	r := &values{set: set, root: set.RootPx(), refs: func(text string) (string, bool) {
		inner, ok := strings.CutPrefix(text, "{")
		inner, closed := strings.CutSuffix(inner, "}")
		return inner, ok && closed && set.Get(inner) != nil
	}}
	if typ == "" {
		got, ok := r.infer(strings.ReplaceAll(path, ".", "-"), text)
		if !ok {
			return typ, token.Value{}, token.Own{}, fmt.Errorf("the type of the value %q is not clear", text)
		}
		return got.Type, got.Value, got.Own, nil
	}
	got, err := r.read(text, typ, like)
	if err == nil && typ == token.Typography && like.Parts != nil && got.Value.Parts != nil {
		got.Value.Parts["letterSpacing"] = like.Parts["letterSpacing"]
	}
	return typ, got.Value, got.Own, err
}
