package emit

import (
	"math"
	"strconv"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/token"
)

// cssWriter writes values as CSS. Other languages use it for what they pass on to CSS.
type cssWriter struct {
	set      *token.Set
	unit     string
	root     float64
	includes func(path string) bool   // tokens that can be referred to; others are written out
	ref      func(path string) string // how; nil where every alias is followed
	quote    func(string) string      // how names are quoted; nil as in CSS
	full     bool                     // colours outside sRGB as they are, not as their fallback
	wide     bool                     // a colour was met that full writes otherwise
	warnings []Warning
	warned   map[string]bool
	colors   map[*color.Color]string // of sRGB, written already: many names stand for one colour
}

// declaration is a value of a token: its own, or with a suffix to its name one that goes with it. wide is the value
// where more than sRGB can be shown; "" for the same.
type declaration struct{ suffix, text, wide string }

func (p *cssWriter) warn(path, msg string) {
	if p.warned == nil {
		p.warned = map[string]bool{}
	}
	if !p.warned[path+msg] {
		p.warned[path+msg] = true
		p.warnings = append(p.warnings, Warning{path, msg})
	}
}

// declarations are the values of one token: one for most, two for typography, none for what CSS cannot say.
func (p *cssWriter) declarations(t *token.Token) []declaration {
	one := func() []declaration { return p.plain(t, func(font string) string { return font }) }
	if p.full || p.ref == nil {
		return one()
	}
	p.wide = false
	out := one()
	if !p.wide {
		return out
	}
	p.full = true
	for i, d := range one() {
		if d.text != out[i].text {
			out[i].wide = d.text
		}
	}
	p.full = false
	return out
}

// plain are the values of one token; font writes the value of the CSS property.
func (p *cssWriter) plain(t *token.Token, font func(text string) string) []declaration {
	if t.Type != token.Typography {
		text, ok := p.token(t)
		if !ok {
			return nil
		}
		return []declaration{{text: text}}
	}
	if a := t.Value.Alias; a != "" && p.refers(a) {
		ref := p.ref(a)
		return []declaration{{text: ref}, {suffix: "-letter-spacing", text: strings.TrimSuffix(ref, ")") +
			"-letter-spacing" + closing(ref)}}
	}
	text, spacing := p.font(p.set.Resolve(t))
	return []declaration{{text: font(text)}, {suffix: "-letter-spacing", text: spacing}}
}

// closing is the parenthesis a reference ends with, in the languages whose references do.
func closing(ref string) string {
	if strings.HasSuffix(ref, ")") {
		return ")"
	}
	return ""
}

// refers reports whether an alias is written as a reference.
func (p *cssWriter) refers(path string) bool { return p.ref != nil && p.includes(path) }

// font is the font shorthand of a typography token and its letter spacing.
func (p *cssWriter) font(t *token.Token) (font, spacing string) {
	f := t.Value.Parts
	family := p.value(f["fontFamily"])
	line := p.value(f["lineHeight"])
	if w, ok := p.written(t, "lineHeight"); ok {
		line = w
	}
	spacing = p.value(f["letterSpacing"])
	if w, ok := p.written(t, "letterSpacing"); ok {
		spacing = w
	}
	return p.value(f["fontWeight"]) + " " + p.value(f["fontSize"]) + "/" + line + " " + family, spacing
}

// written is how a value or part was written in a unit that the format has no place for, as long as it still says the
// same as the value does.
func (p *cssWriter) written(t *token.Token, part string) (string, bool) {
	text, ok := t.Own.Written[part]
	if !ok {
		return "", false
	}
	if part == "" {
		return text, true
	}
	return text, token.WrittenAgrees(p.set, t, part, p.root)
}

func (p *cssWriter) token(t *token.Token) (string, bool) {
	v := t.Value
	if v.Alias != "" {
		if p.refers(v.Alias) {
			return p.ref(v.Alias), true
		}
		t = p.set.Resolve(t)
		v = t.Value
	}
	if w, ok := p.written(t, ""); ok {
		return w, true
	}
	switch t.Type {
	case token.Shadow:
		return p.shadows(v), true
	case token.Gradient:
		return p.gradient(t), true
	case token.Border:
		style := p.set.ResolvePart(v.Parts["style"])
		if style.Parts != nil {
			p.warn(t.Path, "left out: CSS has no dash pattern for borders")
			return "", false
		}
		return p.value(v.Parts["width"]) + " " + p.value(v.Parts["style"]) + " " + p.value(v.Parts["color"]), true
	case token.Transition:
		return p.value(v.Parts["duration"]) + " " + p.value(v.Parts["timingFunction"]) + " " + p.value(v.Parts["delay"]), true
	case token.StrokeStyle:
		if v.Parts != nil {
			p.warn(t.Path, "left out: CSS has no dash pattern for borders")
			return "", false
		}
	}
	return p.value(v), true
}

func (p *cssWriter) shadows(v token.Value) string {
	var out []string
	for _, l := range v.List {
		if l.Alias != "" {
			if p.refers(l.Alias) {
				out = append(out, p.ref(l.Alias))
			} else {
				out = append(out, p.shadows(p.set.ResolvePart(l)))
			}
			continue
		}
		f := l.Parts
		s := p.value(f["offsetX"]) + " " + p.value(f["offsetY"]) + " " + p.value(f["blur"])
		if sp := p.value(f["spread"]); sp != "0" {
			s += " " + sp
		}
		s += " " + p.value(f["color"])
		if b := f["inset"].Boolean; b != nil && *b {
			s = "inset " + s
		}
		out = append(out, s)
	}
	return strings.Join(out, ", ")
}

func (p *cssWriter) gradient(t *token.Token) string {
	var stops []string
	for _, st := range p.stops(t.Value) {
		stops = append(stops, p.value(st.Parts["color"])+" "+css.Num(Position(p.set, st)*100, 4)+"%")
	}
	head := ""
	switch {
	case t.Own.Kind == "radial":
		head = t.Own.Shape
	case t.Own.Kind == "conic":
		if t.Own.Angle != nil {
			head = "from " + css.Num(*t.Own.Angle, 4) + "deg"
		}
		if t.Own.Shape != "" {
			head = strings.TrimSpace(head + " " + t.Own.Shape)
		}
	case t.Own.Angle != nil:
		head = css.Num(*t.Own.Angle, 4) + "deg"
	}
	if head != "" {
		head += ", "
	}
	kind := "linear"
	if t.Own.Kind != "" {
		kind = t.Own.Kind
	}
	return kind + "-gradient(" + head + strings.Join(stops, ", ") + ")"
}

// stops are a gradient's, those of gradients it refers to in their places.
func (p *cssWriter) stops(v token.Value) []token.Value {
	var out []token.Value
	for _, st := range v.List {
		if st.Alias != "" {
			out = append(out, p.stops(p.set.ResolvePart(st))...)
			continue
		}
		out = append(out, st)
	}
	return out
}

// Position is where a gradient stop lies, 0 to 1.
func Position(set *token.Set, stop token.Value) float64 {
	if pos := set.ResolvePart(stop.Parts["position"]); pos.Number != nil {
		return min(1, max(0, *pos.Number))
	}
	return 0
}

// value writes a single value, or an alias as a reference.
func (p *cssWriter) value(v token.Value) string {
	if v.Alias != "" {
		if p.refers(v.Alias) {
			return p.ref(v.Alias)
		}
		v = p.set.ResolvePart(v)
	}
	switch {
	case v.Color != nil:
		return p.color(v)
	case v.Length != nil:
		return p.length(*v.Length)
	case v.Number != nil:
		return css.Num(*v.Number, 6)
	case v.Bezier != nil:
		b := v.Bezier
		return "cubic-bezier(" + css.Num(b[0], 6) + ", " + css.Num(b[1], 6) + ", " + css.Num(b[2], 6) + ", " + css.Num(b[3],
			6) + ")"
	case v.Words != nil:
		var out []string
		for _, w := range v.Words {
			out = append(out, p.family(w))
		}
		return strings.Join(out, ", ")
	case v.List != nil: // of families
		var out []string
		for _, f := range v.List {
			out = append(out, p.value(f))
		}
		return strings.Join(out, ", ")
	}
	return ""
}

// color writes a colour exactly; one that not every browser reads only where full says so, and else its fallback.
func (p *cssWriter) color(v token.Value) string {
	switch v.Color.Space {
	case color.SRGB, color.HSL, color.HWB:
		s, known := p.colors[v.Color]
		if !known {
			if p.colors == nil {
				p.colors = map[*color.Color]string{}
			}
			s = srgb(*v.Color)
			p.colors[v.Color] = s
		}
		return s
	}
	if p.full {
		return v.Color.CSS()
	}
	p.wide = true
	return Fallback(v)
}

// srgb writes a colour of sRGB; one that is not of 8 bits in per cent, which every browser reads.
func srgb(c color.Color) string {
	if c.Space != color.SRGB || c.None != 0 || c.Is8Bit() {
		return c.CSS()
	}
	out := "rgb("
	for i, v := range c.C {
		if i > 0 {
			out += " "
		}
		out += css.Num(v*100, 5) + "%"
	}
	if c.Alpha != 1 {
		out += " / " + css.Num(c.Alpha, 4)
	}
	return out + ")"
}

// Fallback is the sRGB colour for screens that cannot show a colour: the one its file states, else the nearest by
// clipping, as CSS.
func Fallback(v token.Value) string {
	c := *v.Color
	if v.Hex != "" {
		if stated, err := color.Parse(v.Hex); err == nil {
			stated.Alpha = c.Alpha
			return stated.CSS()
		}
	}
	r, g, b, _ := c.RGBA8()
	out := color.RGB8(r, g, b)
	out.Alpha = c.Alpha
	return out.CSS()
}

// family writes a font family, or a keyword such as solid.
func (p *cssWriter) family(s string) string {
	plain := s != ""
	for i, r := range s {
		if !(r == '-' || r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || i > 0 && r >= '0' && r <= '9') {
			plain = false
		}
	}
	if plain {
		return s
	}
	if p.quote != nil {
		return p.quote(s)
	}
	return css.String(s)
}

func (p *cssWriter) length(l token.Length) string {
	switch {
	case l.Value == 0 && (l.Unit == "ms" || l.Unit == "s"):
		return "0" + l.Unit
	case l.Value == 0:
		return "0"
	case l.Unit == "px" && p.unit == "rem":
		return trim(l.Value/p.root) + "rem"
	case l.Unit == "rem" && p.unit == "px":
		return trim(l.Value*p.root) + "px"
	}
	return trim(l.Value) + l.Unit
}

// trim writes a number with as many decimals as it has, up to six; a smaller one whole.
func trim(v float64) string {
	if s := css.Num(v, 6); s != "0" && math.Abs(v) < 1e15 {
		return s
	}
	return strconv.FormatFloat(v, 'f', -1, 64)
}

// Literal is the CSS of a token with every alias followed: what a browser would compute from the variables. For
// typography it is the font shorthand.
func Literal(s *token.Set, t *token.Token) string {
	p := &cssWriter{set: s, root: s.RootPx(), full: true}
	if t.Type == token.Typography {
		font, _ := p.font(s.Resolve(t))
		return font
	}
	text, _ := p.token(t)
	return text
}

// Preview is Literal with lengths in px, for where 1rem may be of another size than the workspace's.
func Preview(s *token.Set, t *token.Token) string {
	p := &cssWriter{set: s, unit: "px", root: s.RootPx(), full: true}
	if t.Type == token.Typography {
		font, _ := p.font(s.Resolve(t))
		return font
	}
	text, _ := p.token(t)
	return text
}
